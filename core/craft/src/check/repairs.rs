//! Putting right what was found: each repair is one change, offered only where it makes things better.

use std::collections::BTreeMap;

use kurbo::Rect;
use serde::Serialize;
use ts_rs::TS;
use vatman_document::{
    Blend, Command, Content, IdSource, Item, Job, Known, Look, Piece, Place, Side, Standing, Stroke,
};
use vatman_output::painted_box;
use vatman_scene::Audience;
use vatman_units::{Length, Placement, Ratio};

use crate::check::contrast::{Ground, Readings, Repair};
use crate::check::findings::{Finding, FindingKind, side_findings};
use crate::check::order::seen_in_order;
use crate::check::printed::thick_enough;
use crate::check::seen::letters;
use crate::check::spelling::usual_language;
use crate::check::wording::{Reader, slips};
use crate::compose::PlaceEntry;
use crate::compose::block::set_text;
use crate::compose::least_type::LeastType;
use crate::compose::panels::sheet_at;
use crate::compose::place::meet;
use crate::edit::target::look_change;
use crate::studio::Studio;

/// A finding with how much it weighs, whether it is to stay, and what would put it right.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, TS)]
#[serde(rename_all = "camelCase")]
pub struct Checked {
    /// What is the matter.
    pub finding: Finding,
    /// How bad it is, 1 to 100.
    pub weight: u8,
    /// Names the finding and its cause: another cause, another name.
    pub key: String,
    /// Why it may stay, where somebody said so.
    pub set_aside: Option<String>,
    /// What would put it right, in a few words.
    pub repair: Option<String>,
}

impl FindingKind {
    /// How bad it is, 1 to 100: what is lost or cut, what cannot be read, what looks careless.
    #[must_use]
    pub const fn weight(self) -> u8 {
        match self {
            Self::MissingPicture => 95,
            Self::BeyondTrim => 90,
            Self::Spill => 88,
            Self::WordsOnWords => 85,
            Self::MissingLetters => 80,
            Self::Covered => 75,
            Self::WrongDate => 74,
            Self::Contrast => 70,
            Self::TooSmall => 65,
            Self::PastDate | Self::EmptyFrame => 60,
            Self::MissingFamily => 58,
            Self::StopsAtTrim => 55,
            Self::OutsideSafe | Self::FewPixels => 50,
            Self::DoubledWord => 45,
            Self::NoWords => 40,
            Self::LeftOver => 78,
            Self::FileTooLarge => 72,
            Self::Misspelt => 62,
            Self::QuietHeadline => 35,
            Self::Restricted => 30,
            Self::UnevenGaps => 25,
            Self::DoubledSpace => 20,
            Self::NearlyInLine => 15,
            Self::CodeUnread => 86,
            Self::InHole => 76,
            Self::EmptySide => 64,
            Self::OnFold => 48,
            Self::TooMuchInk => 46,
            Self::ThinLine => 44,
            Self::Duller => 28,
            Self::WhiteLost => 73,
            Self::SpotMixed => 42,
            Self::SmallInInks => 22,
            Self::SoftPicture => 18,
        }
    }

    /// What puts it right, in a few words; nothing for what only a person can.
    #[must_use]
    pub const fn remedy(self) -> Option<&'static str> {
        Some(match self {
            Self::BeyondTrim | Self::OutsideSafe => "Move it inside",
            Self::Covered => "Move it clear",
            Self::OnFold => "Move it onto one panel",
            Self::WordsOnWords => "Move them apart",
            Self::Spill => "Make it fit",
            Self::TooSmall => "Make it larger",
            Self::Contrast => "Make it readable",
            Self::StopsAtTrim => "Let it bleed",
            Self::EmptyFrame | Self::NoWords => "Take it off here",
            Self::DoubledWord => "Say it once",
            Self::DoubledSpace => "Leave one space",
            Self::WrongDate => "Correct the weekday",
            Self::Misspelt => "Write it so",
            Self::QuietHeadline => "Let the headline lead",
            Self::UnevenGaps => "Make the gaps even",
            Self::NearlyInLine => "Bring it in line",
            Self::ThinLine => "Make it thicker",
            Self::EmptySide => "Take the side away",
            Self::WhiteLost | Self::SpotMixed => "Let it cover",
            Self::MissingPicture
            | Self::MissingLetters
            | Self::MissingFamily
            | Self::Restricted
            | Self::PastDate
            | Self::LeftOver
            | Self::FileTooLarge
            | Self::FewPixels
            | Self::CodeUnread
            | Self::InHole
            | Self::TooMuchInk
            | Self::Duller
            | Self::SoftPicture
            | Self::SmallInInks => return None,
        })
    }
}

/// What names a finding and its cause.
fn key_of(finding: &Finding) -> String {
    let about = finding.item.as_ref().map_or_else(|| finding.side.to_string(), ToString::to_string);
    format!("{about}/{:?}/{}", finding.kind, finding.says)
}

/// Findings that only a person can put right, with what was said about them.
#[must_use]
pub fn weighed(job: &Job, found: Vec<Finding>) -> Vec<Checked> {
    let checked = found.into_iter().map(|finding| {
        let key = key_of(&finding);
        let set_aside = job.set_aside.get(&key).cloned();
        Checked { weight: finding.kind.weight(), key, set_aside, repair: None, finding }
    });
    checked.collect()
}

/// Everything that should be looked at about a job, the worst first.
#[must_use]
pub fn check_job(
    studio: &Studio,
    job: &Job,
    entries: &dyn Fn(&Piece) -> PlaceEntry,
    reader: Reader<'_>,
    (known, ids): (&dyn Known, &mut dyn IdSource),
) -> Vec<Checked> {
    let mut all = Vec::new();
    let mut read: Vec<&vatman_document::KinId> = Vec::new();
    for piece in &job.pieces {
        let entry = entries(piece);
        let seen = Seen { studio, entry: &entry, reader };
        let mut found = seen.found(job, piece);
        // What several sizes say is read once.
        for side in &piece.sides {
            for item in side.items.iter().filter(|item| !item.hidden) {
                if item.release.content.is_none() {
                    if read.contains(&&item.kin) {
                        continue;
                    }
                    read.push(&item.kin);
                }
                found.extend(slips_of(job, piece, side, item, reader));
            }
        }
        let before = weight_of(job, &found);
        for finding in found {
            let key = key_of(&finding);
            let set_aside = job.set_aside.get(&key).cloned();
            let offered = set_aside.is_none() && finding.kind.remedy().is_some();
            let helps = offered && mend(seen, job, &finding, before, (known, ids)).is_some();
            let repair = finding.kind.remedy().filter(|_| helps).map(str::to_owned);
            all.push(Checked { weight: finding.kind.weight(), key, set_aside, repair, finding });
        }
    }
    all.sort_by_key(|one| (one.set_aside.is_some(), std::cmp::Reverse(one.weight)));
    all
}

fn weight_of(job: &Job, found: &[Finding]) -> u32 {
    let open = found.iter().filter(|finding| !job.set_aside.contains_key(&key_of(finding)));
    open.map(|finding| u32::from(finding.kind.weight())).sum()
}

fn slips_of(job: &Job, piece: &Piece, side: &Side, item: &Item, reader: Reader<'_>) -> Vec<Finding> {
    let Some(text) = job.plain(item).and_then(|plain| plain.content.words().map(|words| words.text())) else {
        return Vec::new();
    };
    let finding = |slip: crate::check::wording::Slip| Finding {
        kind: slip.kind,
        piece: piece.id.clone(),
        side: side.id.clone(),
        item: Some(item.id.clone()),
        says: slip.says,
        word: slip.word,
    };
    slips(&text, reader, usual_language(job)).into_iter().map(finding).collect()
}

/// The change that puts a finding right; nothing where none would leave the piece better than it is.
#[must_use]
pub fn repair(
    studio: &Studio,
    job: &Job,
    finding: &Finding,
    entry: &PlaceEntry,
    reader: Reader<'_>,
    (known, ids): (&dyn Known, &mut dyn IdSource),
) -> Option<Command> {
    let piece = job.piece(&finding.piece)?;
    let seen = Seen { studio, entry, reader };
    let mut found = seen.found(job, piece);
    let side = piece.sides.iter().find(|side| side.id == finding.side)?;
    if let Some(item) = finding.item.as_ref().and_then(|item| job.item(item)) {
        found.extend(slips_of(job, piece, side, item, reader));
    }
    mend(seen, job, finding, weight_of(job, &found), (known, ids))
}

/// Where a piece is looked at, and with what its words are read.
#[derive(Clone, Copy)]
struct Seen<'e> {
    studio: &'e Studio,
    entry: &'e PlaceEntry,
    reader: Reader<'e>,
}

impl Seen<'_> {
    /// All that is found about a piece but its words as such.
    fn found(&self, job: &Job, piece: &Piece) -> Vec<Finding> {
        let mut found = Vec::new();
        for side in &piece.sides {
            let readings = Readings::of(self.studio, job, piece, side);
            found.extend(side_findings(self.studio, job, (piece, side), Some((self.entry, &readings))));
            let seen = seen_in_order(self.studio, job, (piece, side), &readings).into_iter();
            found.extend(seen.map(|seen| Finding {
                kind: seen.kind,
                piece: piece.id.clone(),
                side: side.id.clone(),
                item: Some(seen.item),
                says: seen.says,
                word: None,
            }));
        }
        found
    }
}

/// A repair that was tried: what was found is gone, and what else there is weighs less than before.
fn mend(
    seen: Seen<'_>,
    job: &Job,
    finding: &Finding,
    before: u32,
    (known, ids): (&dyn Known, &mut dyn IdSource),
) -> Option<Command> {
    let repairs = match &finding.item {
        Some(item) => attempts(seen, &job.find(item).ok()?, finding, ids),
        None if finding.kind == FindingKind::EmptySide => vec![Command::RemoveSide { side: finding.side.clone() }],
        None => Vec::new(),
    };
    repairs.into_iter().find(|command| {
        let mut trial = job.clone();
        if command.apply(&mut trial, known).is_err() {
            return false;
        }
        let Some(piece) = trial.piece(&finding.piece) else { return false };
        let mut now = seen.found(&trial, piece);
        if let (Some(side), Some(item)) = (
            piece.sides.iter().find(|side| side.id == finding.side),
            finding.item.as_ref().and_then(|item| trial.item(item)),
        ) {
            now.extend(slips_of(&trial, piece, side, item, seen.reader));
        }
        // Of several words of a text each is put right by itself.
        let same = |other: &Finding| finding.kind != FindingKind::Misspelt || other.says == finding.says;
        let gone = !now.iter().any(|other| other.item == finding.item && other.kind == finding.kind && same(other));
        gone && weight_of(&trial, &now) < before
    })
}

/// What may put a finding right, the gentlest first.
fn attempts(seen: Seen<'_>, found: &Standing<'_>, finding: &Finding, ids: &mut dyn IdSource) -> Vec<Command> {
    let Seen { studio, entry, reader } = seen;
    let kind = finding.kind;
    let &Standing { job, piece, side, item, .. } = found;
    let put = |place: Place| Command::SetPlace { item: item.id.clone(), place };
    let hand = Hand { studio, found, entry };
    match kind {
        FindingKind::Contrast => {
            let ground = Ground { job, piece, side, item };
            let Ok(reading) = ground.measure(studio) else { return Vec::new() };
            let order = [Repair::Shade, Repair::Recolour, Repair::Panel];
            let offered = order.into_iter().filter(|repair| reading.repairs.contains(repair));
            offered.filter_map(|repair| ground.repair(studio, repair, ids).ok()).collect()
        }
        FindingKind::BeyondTrim | FindingKind::OutsideSafe | FindingKind::Covered | FindingKind::OnFold => {
            hand.inside().into_iter().map(put).collect()
        }
        FindingKind::WordsOnWords => hand.apart().into_iter().map(put).collect(),
        FindingKind::TooSmall => hand.larger().into_iter().map(put).collect(),
        FindingKind::Spill => hand.fitting().into_iter().map(put).collect(),
        FindingKind::StopsAtTrim => vec![put(hand.bleeding())],
        FindingKind::ThinLine => {
            let Some(plain) = job.plain(item) else { return Vec::new() };
            let Some(stroke) = plain.look.stroke.clone() else { return Vec::new() };
            let width = thick_enough(stroke.width, item.place.scale.get());
            let look = Look { stroke: Some(Stroke { width, ..stroke }), ..plain.look.as_ref().clone() };
            look_change(job, &plain, &look, &mut Vec::new())
        }
        FindingKind::WhiteLost | FindingKind::SpotMixed => {
            let Some(plain) = job.plain(item) else { return Vec::new() };
            // White that covers may be seen through; an ink of its own may not.
            let opacity = if kind == FindingKind::WhiteLost { plain.look.opacity } else { Ratio::ONE };
            let look = Look { blend: Blend::Normal, opacity, ..plain.look.as_ref().clone() };
            look_change(job, &plain, &look, &mut Vec::new())
        }
        FindingKind::EmptyFrame | FindingKind::NoWords => {
            crate::arrange::remove(job, std::slice::from_ref(&item.id)).into_iter().collect()
        }
        FindingKind::QuietHeadline | FindingKind::UnevenGaps | FindingKind::NearlyInLine => {
            let readings = Readings::of(studio, job, piece, side);
            let mut all = seen_in_order(studio, job, (piece, side), &readings).into_iter();
            all.find(|seen| seen.kind == kind && seen.item == item.id).map_or_else(Vec::new, |seen| seen.right)
        }
        FindingKind::DoubledWord | FindingKind::DoubledSpace | FindingKind::WrongDate | FindingKind::Misspelt => {
            let Some(plain) = job.plain(item) else { return Vec::new() };
            let Content::Words { text, .. } = plain.content else { return Vec::new() };
            let all = slips(&text.text(), reader, usual_language(job));
            let slip = all.into_iter().find(|slip| slip.kind == kind && slip.says == finding.says);
            let right = slip.and_then(|slip| slip.right);
            right.into_iter().map(|text| Command::SetWords { target: plain.content_target(), text }).collect()
        }
        FindingKind::MissingPicture
        | FindingKind::MissingLetters
        | FindingKind::MissingFamily
        | FindingKind::Restricted
        | FindingKind::PastDate
        | FindingKind::LeftOver
        | FindingKind::FileTooLarge
        | FindingKind::FewPixels
        | FindingKind::CodeUnread
        | FindingKind::InHole
        | FindingKind::TooMuchInk
        | FindingKind::Duller
        | FindingKind::SoftPicture
        | FindingKind::EmptySide
        | FindingKind::SmallInInks => Vec::new(),
    }
}

/// Moves of one item.
struct Hand<'h, 'j> {
    studio: &'h Studio,
    found: &'h Standing<'j>,
    entry: &'h PlaceEntry,
}

impl Hand<'_, '_> {
    fn place(&self, rect: Rect, scale: f64) -> Place {
        let own = self.found.item.place;
        let px = Length::css_px;
        let rect = vatman_units::Rect::new(px(rect.x0), px(rect.y0), px(rect.width()), px(rect.height()));
        Place { at: Placement { rect, ..own.at }, scale: Ratio::new((own.scale.get() * scale).clamp(1e-3, 1e3)), ..own }
    }

    /// Where words may stand.
    fn content(&self) -> Rect {
        let format = &self.entry.format;
        let Standing { job, piece, side, item, .. } = self.found;
        let whole = sheet_at(piece, &side.id, self.studio.drawn(job, item));
        // A hair more than the safe area, so that rounding never lies outside it.
        let safe = whole.outset(-(format.safe + Length::css_px(0.5)));
        self.entry.clear_of_covers(meet(whole, safe)).to_css_px()
    }

    /// The boxes of the letters of all words of the side.
    fn words(&self) -> BTreeMap<vatman_document::ItemId, Rect> {
        let Standing { job, piece, side, .. } = self.found;
        let scene = self.studio.scene(job, piece, side, Audience::Stage, None);
        let library = self.studio.typesetter.library();
        let said = |id: &vatman_document::ItemId| {
            let item = side.items.iter().find(|item| item.id == *id && !item.hidden);
            item.and_then(|item| job.plain(item))
                .is_some_and(|plain| plain.content.words().is_some_and(|text| !text.is_blank()))
        };
        let drawn = scene.items.iter().filter(|drawn| said(&drawn.id));
        drawn.filter_map(|drawn| Some((drawn.id.clone(), painted_box(&letters(drawn), library.as_ref())?))).collect()
    }

    /// Moved as little as brings it inside, or made smaller where it is larger than what it has to lie in.
    fn inside(&self) -> Vec<Place> {
        let all = self.words();
        let rect = self.found.item.place.at.rect.to_css_px();
        let own = all.get(&self.found.item.id).copied().unwrap_or(rect);
        let content = self.content();
        let by = |own: Rect| {
            let along = |from: f64, to: f64, low: f64, high: f64| {
                if from < low {
                    low - from
                } else if to > high {
                    (high - to).max(low - from)
                } else {
                    0.0
                }
            };
            kurbo::Vec2::new(
                along(own.x0, own.x1, content.x0, content.x1),
                along(own.y0, own.y1, content.y0, content.y1),
            )
        };
        let mut out = vec![self.place(rect + by(own), 1.0)];
        let fitting = (content.width() / own.width()).min(content.height() / own.height());
        if fitting < 1.0 {
            let scale = fitting * 0.99;
            let about = own.center();
            let smaller = |r: Rect| {
                Rect::from_points(
                    about + (r.origin() - about) * scale,
                    about + (kurbo::Point::new(r.x1, r.y1) - about) * scale,
                )
            };
            out.push(self.place(smaller(rect) + by(smaller(own)), scale));
        }
        out.push(self.place(self.held(rect + by(own), content), 1.0));
        out
    }

    /// A box held in another, narrower where it has to be.
    fn held(&self, rect: Rect, content: Rect) -> Rect {
        let width = rect.width().min(content.width());
        let x0 = rect.x0.min(content.x1 - width).max(content.x0);
        let height = rect.height().min(content.height());
        let y0 = rect.y0.min(content.y1 - height).max(content.y0);
        Rect::new(x0, y0, x0 + width, y0 + height)
    }

    /// Moved up, down or aside, as little as clears the words it lies on, where there is room.
    fn apart(&self) -> Vec<Place> {
        let all = self.words();
        let Some(own) = all.get(&self.found.item.id).copied() else { return Vec::new() };
        let content = self.content();
        let rect = self.found.item.place.at.rect.to_css_px();
        let others: Vec<Rect> =
            all.iter().filter(|(id, _)| **id != self.found.item.id).map(|(_, rect)| *rect).collect();
        let gap = own.height().min(24.0) * 0.3 + 2.0;
        let mut moves = Vec::new();
        for other in others.iter().filter(|other| other.intersect(own).area() > 0.0) {
            moves.push(kurbo::Vec2::new(0.0, other.y1 + gap - own.y0));
            moves.push(kurbo::Vec2::new(0.0, other.y0 - gap - own.y1));
            moves.push(kurbo::Vec2::new(other.x1 + gap - own.x0, 0.0));
            moves.push(kurbo::Vec2::new(other.x0 - gap - own.x1, 0.0));
        }
        moves.sort_by(|a, b| a.hypot().total_cmp(&b.hypot()));
        let free = |by: &kurbo::Vec2| {
            let now = own + *by;
            content.union(now) == content && !others.iter().any(|other| other.intersect(now).area() > 0.0)
        };
        moves.into_iter().filter(free).take(3).map(|by| self.place(rect + by, 1.0)).collect()
    }

    /// Set in the least size that is read, growing away from the nearest edge and kept inside.
    fn larger(&self) -> Vec<Place> {
        let Standing { job, piece, side, item, .. } = self.found;
        let scene = self.studio.scene(job, piece, side, Audience::Stage, None);
        let Some(drawn) = scene.items.iter().find(|drawn| drawn.id == item.id) else { return Vec::new() };
        let Ok(plain) = self.found.plain() else { return Vec::new() };
        let Some(look) = plain.look.type_look.as_ref() else { return Vec::new() };
        let least = LeastType::at(self.entry).of(look, &self.studio.typesetter).to_css_px() * 1.005;
        let factor = least / drawn.type_size.max(1e-6);
        let rect = item.place.at.rect.to_css_px();
        let content = self.content();
        // The box may be wider, as wide as what may hold words.
        let widths = [rect.width(), (rect.width() * factor).min(content.width()), content.width()];
        widths
            .into_iter()
            .filter_map(|width| self.boxed(rect, width, drawn.type_size * factor, factor, content))
            .collect()
    }

    fn boxed(&self, rect: Rect, width: f64, size: f64, factor: f64, content: Rect) -> Option<Place> {
        let plain = self.found.plain().ok()?;
        let (text, look) = (plain.content.words()?, plain.look.type_look.as_ref()?);
        let px = Length::css_px;
        let (inside, height) = set_text(text, look, px(size), px(width), &self.studio.typesetter);
        let height = height.to_css_px().max(rect.height() * f64::from(u8::from(factor <= 1.0)));
        if !inside || height > content.height() {
            return None;
        }
        let middle = rect.center();
        let grown = Rect::from_center_size(middle, (width, height));
        Some(self.place(self.held(grown, content), factor))
    }

    /// A higher box where there is room, else smaller type.
    fn fitting(&self) -> Vec<Place> {
        let Standing { job, piece, side, item, .. } = self.found;
        let scene = self.studio.scene(job, piece, side, Audience::Stage, None);
        let Some(drawn) = scene.items.iter().find(|drawn| drawn.id == item.id) else { return Vec::new() };
        let rect = item.place.at.rect.to_css_px();
        let content = self.content();
        let mut out: Vec<Place> = [rect.width(), content.width()]
            .into_iter()
            .filter_map(|width| self.boxed(rect, width, drawn.type_size, 1.0, content))
            .collect();
        out.extend([0.9, 0.8, 0.7, 0.6, 0.5, 0.4].map(|scale| self.place(rect, scale)));
        out
    }

    /// Its edges at the trim go out to the bleed.
    fn bleeding(&self) -> Place {
        let format = &self.entry.format;
        let sheet = vatman_units::Rect::of(format.size).to_css_px();
        let out = format.bleed.to_css_px();
        let r = self.found.item.place.at.rect.to_css_px();
        let near = |a: f64, b: f64| (a - b).abs() <= 1.5;
        let rect = Rect::new(
            if near(r.x0, sheet.x0) { sheet.x0 - out } else { r.x0 },
            if near(r.y0, sheet.y0) { sheet.y0 - out } else { r.y0 },
            if near(r.x1, sheet.x1) { sheet.x1 + out } else { r.x1 },
            if near(r.y1, sheet.y1) { sheet.y1 + out } else { r.y1 },
        );
        self.place(rect, 1.0)
    }
}
