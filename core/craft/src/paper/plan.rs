//! What a plan comes to, for those who print and cut it: numbers, steps, and sentences.

use serde::Serialize;
use ts_rs::TS;
use vatman_document::{Job, Piece};
use vatman_imposition::{
    BackStands, Cuts, Margins, Marks, Paper, PaperTurn, Room, crop_marks, cutting_steps, fill, marked_area, one_more,
};
use vatman_scene::Audience;
use vatman_units::{Length, Rect, Size};

use crate::paper::guide::count;
use crate::paper::lay::{PlacedSide, PrintPlan};
use crate::paper::pages::faces;
use crate::paper::setup::{SheetKind, SheetSetup};
use crate::refusal::Refusal;
use crate::studio::Studio;

/// Where a piece lies on a face.
#[derive(Debug, Clone, Serialize, TS)]
pub struct PositionCard {
    /// Its trim.
    pub trim: Rect,
    /// What it is: the piece, its side, and the row it is filled from.
    pub says: String,
}

/// A step of cutting.
#[derive(Debug, Clone, Serialize, TS)]
pub struct PlanStep {
    /// What to do, in plain words.
    pub says: String,
    /// Where it is done on the sheet, where all of it lies on one.
    pub cuts: Cuts,
}

/// A way to hold one more.
#[derive(Debug, Clone, Serialize, TS)]
pub struct Tight {
    /// At how much of its size, in thousandths.
    pub scale: u32,
    /// What that means, in plain words.
    pub says: String,
}

/// A size worked out from how many shall fit.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, TS)]
pub struct FittedSize {
    /// The size.
    pub size: Size,
    /// As it is typed.
    pub typed: String,
    /// In plain words.
    pub says: String,
}

/// What a plan comes to.
#[derive(Debug, Clone, Serialize, TS)]
pub struct PlanCard {
    /// The paper as it lies.
    pub paper: Size,
    /// What of it can be printed on.
    pub printable: Rect,
    /// How many sheets.
    pub sheets: usize,
    /// How many faces, blank ones among sheets with backs counted.
    pub faces: usize,
    /// How many pieces a whole sheet holds.
    pub up: usize,
    /// How many pieces there are in all.
    pub pieces: usize,
    /// Whether there are backs.
    pub backs: bool,
    /// Share of the paper that is cut away, 0 to 1.
    pub waste: f64,
    /// What the paper costs in hundredths, where a price is known.
    #[ts(optional, type = "number")]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub cost: Option<u64>,
    /// In one line: what there is on how many sheets of what.
    pub says: String,
    /// What is worth knowing about it: what bleed and gaps cost, at what size it is printed, and the like.
    pub notes: Vec<String>,
    /// How it is printed.
    pub instructions: Vec<String>,
    /// How the first sheet is cut, in order.
    pub steps: Vec<PlanStep>,
    /// Sizes at which one more stands across or down.
    pub tight: Vec<Tight>,
    /// What lies on the first face.
    pub positions: Vec<PositionCard>,
}

pub(crate) fn size_label(size: Size) -> String {
    let lies = if size.w > size.h { ", lying" } else { ", upright" };
    let turned = if size.w > size.h { size.turned() } else { size };
    match vatman_imposition::PAPERS.iter().find(|kind| kind.size == turned) {
        Some(kind) => format!("{}{lies}", kind.name),
        None => format!("{} \u{d7} {} mm", number(size.w.to_mm()), number(size.h.to_mm())),
    }
}

/// To a tenth, without one that is 0.
fn number(value: f64) -> String {
    let text = format!("{value:.1}");
    text.strip_suffix(".0").map_or(text.clone(), str::to_owned)
}

/// A length in the unit a piece is thought of in.
fn length(piece: Option<&Piece>, length: Length) -> String {
    match piece.map(|piece| piece.format.unit) {
        Some(vatman_units::Unit::In) => {
            let text = format!("{:.3}", length.to_inches());
            format!("{} in", text.trim_end_matches('0').trim_end_matches('.'))
        }
        _ => format!("{} mm", number(length.to_mm())),
    }
}

/// The size at which so many of a piece fit across and down on the paper of a setup, and how it is typed; the paper lies whichever way
/// changes the shape of the piece least, unless the setup says how.
///
/// # Errors
/// [`Refusal`] for paper that makes no sense, or where nothing would be left of the piece.
pub fn fitted_size(piece: &Piece, setup: &SheetSetup, across: u32, down: u32) -> Result<FittedSize, Refusal> {
    let format = piece.format;
    let bleed = if setup.bleed { format.bleed } else { Length::ZERO };
    let least = Length::mm(8.0);
    let sizes = setup.papers()?.into_iter().filter_map(|paper| {
        let room = Room::new(paper.printable(), setup.gap, bleed, setup.turning);
        vatman_imposition::size_for(&room, across, down).filter(|size| size.w.min(size.h) >= least)
    });
    let far = |size: &Size| (size.aspect() / format.size.aspect()).ln().abs();
    let size = sizes.min_by(|a, b| far(a).total_cmp(&far(b))).ok_or(Refusal::NoSizeLeft)?;
    let typed = vatman_document::Format { size, ..format }.label().replace('\u{d7}', "x");
    let says = format!("{} fit {across} across and {down} down.", typed.replace('x', "\u{d7}"));
    Ok(FittedSize { size, typed, says })
}

/// How a plan is printed, step by step.
#[must_use]
pub(crate) fn instructions(plan: &PrintPlan, setup: &SheetSetup) -> Vec<String> {
    let mut says = vec![
        format!("Paper: {}.", size_label(plan.paper.size)),
        "Scale: 100 %, also called actual size. Do not let the printer fit the page.".to_owned(),
    ];
    let lies = plan.paper.size.w > plan.paper.size.h;
    match (&setup.backs, plan.has_backs()) {
        (Some(backs), true) => {
            let edge = if backs.turn == PaperTurn::LongEdge { "long" } else { "short" };
            if backs.by_hand {
                let axis = match (backs.turn, lies) {
                    (PaperTurn::LongEdge, false) | (PaperTurn::ShortEdge, true) => {
                        "like a page of a book, left over right"
                    }
                    _ => "like a page of a pad, foot over head",
                };
                says.push(format!(
                    "Print the odd pages, turn the stack about its {edge} edge, {axis}, put it in again and print the even pages. Try one sheet first."
                ));
            } else {
                says.push(format!("Print on both sides, turned on the {edge} edge."));
            }
        }
        _ => says.push("Print on one side.".to_owned()),
    }
    if setup.mirrored {
        says.push("It is mirrored already: switch off mirroring in the printer. Print it with the coated side of the transfer down or up as its packet says.".to_owned());
    }
    if !plan.paper.size.w.is_positive() {
        return says;
    }
    match setup.kind {
        SheetKind::Labels { .. } => says.push("Put in one sheet of labels at a time, with the labels on the side that is printed.".to_owned()),
        SheetKind::Booklet { .. } => says.push("Lay the sheets into each other in the order they come out, fold them in the middle and staple them through the fold.".to_owned()),
        SheetKind::Poster { .. } => says.push("Trim the right and the lower edge of each sheet to what is printed, lay the sheets over each other by the overlap, row by row, and glue them.".to_owned()),
        SheetKind::Quarters => says.push("Fold the sheet from head to foot with the print outside, then from left to right, so that the front lies on top.".to_owned()),
        SheetKind::Fill => {}
    }
    if plan.sheets.len() > 1 {
        says.push(format!(
            "{} come out; the first one is worth a look before the rest is printed.",
            count(plan.sheets.len(), "sheet")
        ));
    }
    says
}

fn steps(plan: &PrintPlan, piece: Option<&Piece>) -> Vec<PlanStep> {
    let Some(sheet) = plan.sheets.first() else { return Vec::new() };
    let trims: Vec<Rect> = sheet.front.iter().map(|side| side.trim).collect();
    let says = |cuts: &Cuts| {
        // The unit is said once.
        let last = cuts.at.len().saturating_sub(1);
        let at: Vec<String> = cuts
            .at
            .iter()
            .enumerate()
            .map(|(n, at)| {
                let whole = length(piece, *at);
                if n == last { whole } else { whole.split(' ').next().unwrap_or_default().to_owned() }
            })
            .collect();
        let at = match at.as_slice() {
            [rest @ .., last] if !rest.is_empty() => format!("{} and {last}", rest.join(", ")),
            all => all.join(""),
        };
        let from = if cuts.upright { "the left edge" } else { "the top edge" };
        let what = match cuts.parts.len() {
            1 => "Cut".to_owned(),
            parts => format!(
                "Lay the {parts} parts of {} \u{d7} {} on each other and cut",
                length(piece, cuts.size.w),
                length(piece, cuts.size.h)
            ),
        };
        format!("{what} at {at} from {from}.")
    };
    cutting_steps(plan.paper.size, &trims).into_iter().map(|cuts| PlanStep { says: says(&cuts), cuts }).collect()
}

/// The smallest type of a piece, in points at its own size.
fn smallest(studio: &Studio, job: &Job, piece: &Piece) -> Option<f64> {
    let scenes = piece.sides.iter().map(|side| studio.scene(job, piece, side, Audience::Output, None));
    let sizes = scenes.flat_map(|scene| scene.items.iter().map(|item| item.type_size).collect::<Vec<_>>());
    sizes.filter(|size| *size > 0.0).map(|size| size * 0.75).min_by(f64::total_cmp)
}

/// What is to be said where the back of a piece would stand on its head for those who turn it.
fn on_its_head(piece: &Piece, stands: BackStands) -> Option<String> {
    let opens_up = piece.format.finish.folds.is_level() && !piece.format.finish.folds.is_none();
    if piece.sides.len() < 2 {
        return None;
    }
    match (stands, opens_up) {
        (BackStands::HeadToHead, true) => Some(format!(
            "\u{201c}{}\u{201d} opens upwards along its fold: printed like this, its inside stands on its head. Let backs stand head to foot.",
            piece.name
        )),
        (BackStands::HeadToFoot, false) => Some(format!(
            "The back of \u{201c}{}\u{201d} stands on its head when it is turned like a page; it is upright when turned over its top.",
            piece.name
        )),
        _ => None,
    }
}

/// What is to be said of what lies where the printer does not reach.
fn beyond_reach(plan: &PrintPlan, setup: &SheetSetup) -> Vec<String> {
    let mut says = Vec::new();
    let trims: Vec<Rect> = plan.sheets.iter().flat_map(|sheet| &sheet.front).map(|side| side.trim).collect();
    let area = plan.paper.printable();
    let short = |trim: &Rect| {
        (area.x - trim.x).max(area.y - trim.y).max(trim.right() - area.right()).max(trim.bottom() - area.bottom())
    };
    let most = trims.iter().map(short).max().unwrap_or(Length::ZERO);
    // A hair is what rounding leaves.
    if most > Length::mm(0.1) {
        says.push(format!(
            "The outer {} mm of the paper stay white where the printer does not reach; nothing that matters should stand there.",
            number(most.to_mm())
        ));
    }
    if setup.marks == Marks::Crop
        && let Some(sheet) = plan.sheets.first()
    {
        let trims: Vec<Rect> = sheet.front.iter().map(|side| side.trim).collect();
        let whole = Paper { margins: Margins::default(), ..plan.paper };
        let count = |paper: &Paper| crop_marks(marked_area(paper), &trims, plan.bleed).len();
        let (all, printed) = (count(&whole), count(&plan.paper));
        if printed < all {
            says.push(format!(
                "{} of {all} crop marks would stand where the printer does not reach and are left out. Fewer pieces on a sheet leave room for them; or cut along the pieces.",
                all - printed
            ));
        }
    }
    says
}

/// What a plan comes to.
#[must_use]
pub fn plan_card(studio: &Studio, job: &Job, plan: &PrintPlan, setup: &SheetSetup) -> PlanCard {
    let pieces: Vec<&Piece> = {
        let mut ids: Vec<_> = plan.sheets.iter().flat_map(|sheet| &sheet.front).map(|side| &side.piece).collect();
        ids.dedup();
        ids.sort();
        ids.dedup();
        ids.into_iter().filter_map(|id| job.piece(id)).collect()
    };
    let first = plan.sheets.first().and_then(|sheet| sheet.front.first()).and_then(|side| job.piece(&side.piece));
    let whole = matches!(setup.kind, SheetKind::Fill | SheetKind::Labels { .. });
    let mut notes = Vec::new();
    let mut tight = Vec::new();
    if let (Some(piece), true) = (first, setup.kind == SheetKind::Fill) {
        let size = Size::new(piece.format.size.w.scaled(plan.scale), piece.format.size.h.scaled(plan.scale));
        let room = Room::new(plan.paper.printable(), setup.gap, plan.bleed, setup.turning);
        let bare = fill(&Room::new(plan.paper.printable(), Length::ZERO, Length::ZERO, setup.turning), size).len();
        if pieces.len() == 1 && bare > plan.up {
            let why = match (plan.bleed.is_positive(), setup.gap.is_positive()) {
                (true, true) => "bleed and gaps",
                (true, false) => "bleed",
                _ => "gaps",
            };
            notes.push(format!("Without {why} a sheet would hold {bare} instead of {}.", plan.up));
        }
        if pieces.len() == 1 {
            let least = smallest(studio, job, piece);
            for across in [true, false] {
                let Some(by) = one_more(&room, size, across) else { continue };
                let scale = (by * f64::from(setup.scale)).floor() as u32;
                let now = Size::new(size.w.scaled(by), size.h.scaled(by));
                let type_now = least.map_or_else(String::new, |least| {
                    format!(", its smallest type {} pt", number(least * f64::from(scale) / 1_000.0))
                });
                let way = if across { "across" } else { "down" };
                let says = format!(
                    "One more {way} at {} %: {} \u{d7} {}{type_now}.",
                    number(f64::from(scale) / 10.0),
                    length(Some(piece), now.w),
                    length(Some(piece), now.h)
                );
                tight.push(Tight { scale, says });
            }
        }
    }
    if (plan.scale - 1.0).abs() > 1e-6
        && let Some(piece) = first
    {
        let type_now = smallest(studio, job, piece)
            .map_or_else(String::new, |least| format!(" Its smallest type is {} pt.", number(least * plan.scale)));
        notes.push(format!("Printed at {} % of its size.{type_now}", number(plan.scale * 100.0)));
    }
    if let Some(backs) = setup.backs {
        notes.extend(pieces.iter().filter_map(|piece| on_its_head(piece, backs.stands)));
        let alone = pieces.iter().filter(|piece| piece.sides.len() % 2 == 1);
        notes.extend(
            alone.map(|piece| {
                format!("\u{201c}{}\u{201d} has no back; that of its last sheet stays blank.", piece.name)
            }),
        );
    } else if pieces.iter().any(|piece| piece.sides.len() > 1) && setup.kind == SheetKind::Fill {
        notes.push(
            "Every side is printed for itself. Choose how the paper is turned to have backs behind their fronts."
                .to_owned(),
        );
    }
    if setup.bleed && plan.bleed == Length::ZERO && setup.kind == SheetKind::Fill {
        notes.push("There is no bleed to carry.".to_owned());
    }
    notes.extend(beyond_reach(plan, setup));
    let sheets = plan.sheets.len();
    let total = plan.pieces();
    let what = match (setup.kind, pieces.as_slice()) {
        (SheetKind::Poster { .. }, [piece]) => format!("\u{201c}{}\u{201d} in {}", piece.name, count(total, "part")),
        (SheetKind::Booklet { .. }, [piece]) => count(piece.sides.len(), "page"),
        (SheetKind::Quarters, _) => "1 card".to_owned(),
        _ => count(total, "piece"),
    };
    let cost = (setup.price > 0).then(|| u64::from(setup.price) * sheets as u64);
    let positions = |side: &PlacedSide| {
        let named = job.side(&side.side).map(|(piece, of)| {
            let side_name = if piece.sides.len() > 1 { format!(", {}", of.name) } else { String::new() };
            let row = side.record.map_or_else(String::new, |row| format!(", row {}", row + 1));
            format!("{}{side_name}{row}", piece.name)
        });
        PositionCard { trim: side.trim, says: named.unwrap_or_default() }
    };
    PlanCard {
        paper: plan.paper.size,
        printable: plan.paper.printable(),
        sheets,
        faces: faces(plan).count(),
        up: plan.up,
        pieces: total,
        backs: plan.has_backs(),
        waste: plan.waste(),
        cost,
        says: format!("{what} on {} of {}", count(sheets, "sheet"), size_label(plan.paper.size)),
        notes,
        instructions: instructions(plan, setup),
        steps: if whole { steps(plan, first) } else { Vec::new() },
        tight,
        positions: plan.sheets.first().map(|sheet| sheet.front.iter().map(positions).collect()).unwrap_or_default(),
    }
}
