//! What should be looked at before a piece leaves: nothing is left out or cut in silence.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_document::{Content, Format, ItemId, Job, Piece, PieceId, Plain, Side, SideId};
use vatman_output::painted_box;
use vatman_scene::{Audience, SceneItem};
use vatman_type::{Embedding, FontLibrary};
use vatman_units::Rect;

use crate::check::contrast::Readings;
use crate::check::printed::as_printed;
use crate::check::seen::as_seen;
use crate::compose::PlaceEntry;
use crate::studio::Studio;

/// What is the matter.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum FindingKind {
    /// Words larger than their box.
    Spill,
    /// Letters beyond the trim, which are cut off.
    BeyondTrim,
    /// Letters nearer to the edge than the safe area.
    OutsideSafe,
    /// What touches the trim and does not go on into the bleed.
    StopsAtTrim,
    /// A frame without a picture.
    EmptyFrame,
    /// A text without words.
    NoWords,
    /// A family that is not at hand.
    MissingFamily,
    /// Letters no family at hand has.
    MissingLetters,
    /// A picture that is not at hand.
    MissingPicture,
    /// A font whose maker does not allow it in documents.
    Restricted,
    /// Letters over the letters of something else.
    WordsOnWords,
    /// Letters where the place lays something over the sheet.
    Covered,
    /// Type smaller than can be read where the place is seen.
    TooSmall,
    /// Letters that do not stand out from what lies behind them.
    Contrast,
    /// A word said twice.
    DoubledWord,
    /// Two spaces between two words.
    DoubledSpace,
    /// A day that is not the weekday that is said, or that there is not.
    WrongDate,
    /// A day that has passed.
    PastDate,
    /// A picture shown larger than its pixels allow.
    FewPixels,
    /// A word no word list has.
    Misspelt,
    /// Words that stand for others that were to come.
    LeftOver,
    /// A headline that something else is louder than.
    QuietHeadline,
    /// Gaps of a series that are nearly even.
    UnevenGaps,
    /// An edge that is nearly in line with another.
    NearlyInLine,
    /// A file larger than its place takes.
    FileTooLarge,
    /// A line too thin to print.
    ThinLine,
    /// Words or a code across a fold.
    OnFold,
    /// Words or a code where a hole is punched.
    InHole,
    /// Small letters in several inks.
    SmallInInks,
    /// A colour printed with more ink than the paper takes.
    TooMuchInk,
    /// A colour that prints much duller than it is seen.
    Duller,
    /// A code that cannot be scanned.
    CodeUnread,
    /// A side with nothing on it, among others.
    EmptySide,
    /// A picture that prints, but not as sharply as it could.
    SoftPicture,
    /// White that only darkens what lies below, and so prints nothing.
    WhiteLost,
    /// A spot ink that is seen through, or mixed with what lies below.
    SpotMixed,
}

impl FindingKind {
    /// Whether it is shown on the sheet at once, and not only before the piece leaves. What is still to be filled is seen anyway.
    #[must_use]
    pub const fn is_shown_at_once(self) -> bool {
        matches!(
            self,
            Self::Spill | Self::BeyondTrim | Self::MissingFamily | Self::MissingLetters | Self::MissingPicture
        )
    }
}

/// What is the matter with an item.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, TS)]
pub struct ItemFinding {
    /// What is the matter.
    pub kind: FindingKind,
    /// A plain sentence: what it is, and what will happen.
    pub says: String,
}

/// One finding.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, TS)]
pub struct Finding {
    /// What is the matter.
    pub kind: FindingKind,
    /// In which piece.
    pub piece: PieceId,
    /// On which side.
    pub side: SideId,
    /// With which item; nothing where it is about the side as a whole.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub item: Option<ItemId>,
    /// A plain sentence: what it is, and what will happen.
    pub says: String,
    /// The word it is about, where it is about one that could be right after all.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub word: Option<String>,
}

/// Everything about a piece that should be looked at, side by side and from the back to the front. What depends on where it is seen
/// is looked at where `entry` says where that is.
#[must_use]
pub fn findings(studio: &Studio, job: &Job, piece: &Piece, entry: Option<&PlaceEntry>) -> Vec<Finding> {
    let on = |side: &Side| {
        let readings = entry.map(|entry| (entry, Readings::of(studio, job, piece, side)));
        let seen = readings.as_ref().map(|(entry, readings)| (*entry, readings));
        side_findings(studio, job, (piece, side), seen)
    };
    piece.sides.iter().flat_map(on).collect()
}

/// As [`findings`], of one side.
pub(crate) fn side_findings(
    studio: &Studio,
    job: &Job,
    (piece, side): (&Piece, &Side),
    seen: Option<(&PlaceEntry, &Readings)>,
) -> Vec<Finding> {
    let scene = studio.scene(job, piece, side, Audience::Stage, None);
    let printed = seen.map_or_else(Vec::new, |_| as_printed(studio, job, (piece, side), &scene));
    let seen = seen.map_or_else(Vec::new, |seen| as_seen(studio, job, side, &scene, seen));
    let mut found = Vec::new();
    for item in side.items.iter().filter(|item| !item.hidden) {
        let (Some(plain), Some(drawn)) = (job.plain(item), scene.items.iter().find(|drawn| drawn.id == item.id)) else {
            continue;
        };
        let mut about = item_findings(studio, piece.format, &plain, drawn);
        let here = seen.iter().filter(|(id, _)| *id == item.id).map(|(_, finding)| finding.clone());
        about.extend(here);
        found.extend(about.into_iter().map(|ItemFinding { kind, says }| Finding {
            kind,
            piece: piece.id.clone(),
            side: side.id.clone(),
            item: Some(item.id.clone()),
            says,
            word: None,
        }));
    }
    found.extend(printed.into_iter().map(|(item, ItemFinding { kind, says })| Finding {
        kind,
        piece: piece.id.clone(),
        side: side.id.clone(),
        item,
        says,
        word: None,
    }));
    found
}

/// What should be looked at about an item as it is drawn in a piece of a format.
#[must_use]
pub fn item_findings(studio: &Studio, format: Format, plain: &Plain<'_>, drawn: &SceneItem) -> Vec<ItemFinding> {
    let library = studio.typesetter.library();
    let has_picture = plain.content.pictures().all(|id| studio.pictures.info(id).is_some());
    let mut found = of_item(plain, drawn, has_picture, &library);
    let painted = painted_box(&drawn.node, library.as_ref());
    found.extend(painted.and_then(|painted| at_edges(format, plain, painted, drawn.type_size)));
    found.into_iter().map(|(kind, says)| ItemFinding { kind, says }).collect()
}

/// Less than this beyond an edge is nothing, in CSS pixels: the overshoot of a round letter, or of rounding.
const SLIGHT: f64 = 0.6;

/// How far letters hang over the ends of their line, as a share of their size.
const OVERHANG: f64 = 0.06;

/// How what an item paints stands to the edges of the sheet.
fn at_edges(format: Format, plain: &Plain<'_>, painted: kurbo::Rect, type_size: f64) -> Option<(FindingKind, String)> {
    let name = format!("\u{201c}{}\u{201d}", plain.name());
    let sheet = Rect::of(format.size).to_css_px();
    let within = |area: kurbo::Rect| {
        let room = area.inflate(SLIGHT, SLIGHT);
        room.union(painted) == room
    };
    // A code is read as words are.
    if matches!(plain.content, Content::Words { .. } | Content::Code { .. }) {
        if !within(sheet) {
            return Some((
                FindingKind::BeyondTrim,
                format!(
                    "{name} reaches beyond the edge of the sheet, where it is cut off. Make it smaller or move it."
                ),
            ));
        }
        let safe = format.safe.to_css_px();
        // A letter may hang over the edge of its line by a little.
        let hanging = (type_size * OVERHANG).max(SLIGHT);
        let room = sheet.inset(-safe).inflate(hanging, hanging);
        return (room.union(painted) != room).then(|| {
            (
                FindingKind::OutsideSafe,
                format!("{name} comes nearer to the edge than the safe area, where it may be cut or covered."),
            )
        });
    }
    let bleed = format.bleed.to_css_px();
    let stops = |own: f64, edge: f64, out: f64| (own - edge).abs() <= SLIGHT && out.abs() > SLIGHT;
    let open = stops(painted.x0, sheet.x0, bleed)
        || stops(painted.y0, sheet.y0, bleed)
        || stops(painted.x1, sheet.x1, bleed)
        || stops(painted.y1, sheet.y1, bleed);
    open.then(|| {
        (
            FindingKind::StopsAtTrim,
            format!("{name} ends at the trim; a white edge may show after cutting. Let it go on into the bleed."),
        )
    })
}

fn of_item(
    plain: &Plain<'_>,
    drawn: &SceneItem,
    has_picture: bool,
    library: &FontLibrary,
) -> Vec<(FindingKind, String)> {
    let name = format!("\u{201c}{}\u{201d}", plain.name());
    let mut found = Vec::new();
    match plain.content {
        Content::Words { text, prompt } if text.is_blank() => {
            found.push((FindingKind::NoWords, format!("\u{201c}{prompt}\u{201d} has no words yet and will not leave.")))
        }
        Content::Words { text, .. } => {
            if drawn.spills {
                found.push((FindingKind::Spill, format!("{name} does not fit its box and reaches beyond it.")));
            }
            for family in &drawn.missing {
                found.push((
                    FindingKind::MissingFamily,
                    format!("{name} asks for {family}, which is not at hand; {} stands in.", FontLibrary::STAND_IN),
                ));
            }
            if drawn.blanks > 0 {
                let letters =
                    if drawn.blanks == 1 { "a letter".to_owned() } else { format!("{} letters", drawn.blanks) };
                found.push((FindingKind::MissingLetters, format!("{name} has {letters} that no family at hand has.")));
            }
            let whole = plain.look.type_look.iter().map(|kind| kind.family.as_str());
            let ranges = text.runs().iter().filter_map(|run| run.style.family.as_deref());
            let mut restricted: Vec<&str> = whole
                .chain(ranges)
                .filter(|name| {
                    library
                        .families()
                        .iter()
                        .any(|family| family.family == *name && family.own == Some(Embedding::Restricted))
                })
                .collect();
            restricted.sort_unstable();
            restricted.dedup();
            found.extend(restricted.into_iter().map(|family| {
                (
                    FindingKind::Restricted,
                    format!("The maker of {family} does not allow it to be embedded; ask before {name} leaves as PDF."),
                )
            }));
        }
        Content::Picture { picture: None, .. } => {
            found.push((FindingKind::EmptyFrame, format!("The frame {name} is empty and will not leave.")))
        }
        Content::Picture { .. } if !has_picture => found
            .push((FindingKind::MissingPicture, format!("The picture of {name} is not at hand and will not leave."))),
        Content::Code { code } if code.says.is_blank() => {
            found.push((FindingKind::NoWords, format!("{name} says nothing yet and will not leave.")));
        }
        Content::Code { .. } if !has_picture => {
            found.push((FindingKind::MissingPicture, format!("The mark in {name} is not at hand and will not leave.")));
        }
        Content::Picture { .. } | Content::Shape { .. } | Content::Drawing { .. } | Content::Code { .. } => {}
    }
    found
}
