//! The ways in which what is read can be arranged, as its design has it and otherwise, the best first.

use vatman_document::{Item, ItemId, Job, Kin, KinId, LookPatch, Paint, Piece, Place, Stop};
use vatman_units::{Angle, Ratio, Rect};

use crate::adapt::designed::{Designed, designed, placement};
use crate::adapt::flow::{Set, Target};
use crate::adapt::focus::crop_at;
use crate::adapt::leaves::{How, Leaf};
use crate::adapt::matter::{Matter, Source};
use crate::adapt::pointing::point;
use crate::adapt::ways::{Tried, tried};
use crate::compose::design::Design;
use crate::compose::lay_out::filled;
use crate::compose::place::meet;
use crate::studio::Studio;

/// One item of a planned side.
#[derive(Debug, Clone)]
pub(crate) struct Entry {
    pub what: What,
    pub place: Place,
    /// There is room for it; otherwise it waits in the tray.
    pub stands: bool,
    /// A look of its own in this shape.
    pub look: Option<LookPatch>,
}

/// What an entry is.
#[derive(Debug, Clone)]
pub(crate) enum What {
    /// An item of the source.
    Kept(ItemId),
    /// An item of the source without the groups it was in.
    Loose(ItemId),
    /// An item of the source that stands here already, once more.
    Again(ItemId),
    /// What the design has in this shape alone, with its kin where the job has none.
    Fresh(KinId, Option<Box<Kin>>),
}

impl What {
    /// The item of the source that goes along.
    pub fn kept(&self) -> Option<&ItemId> {
        match self {
            Self::Kept(id) | Self::Loose(id) => Some(id),
            Self::Again(_) | Self::Fresh(..) => None,
        }
    }
}

/// The ways in which what is read can be arranged, the best first.
pub(crate) fn offers<'d>(
    studio: &Studio,
    job: &Job,
    (piece, leaf): (&Piece, &Leaf),
    designs: &dyn Fn(&str) -> Option<&'d Design>,
) -> Vec<Offer> {
    if leaf.how != How::Arranged {
        return Vec::new();
    }
    let (side, entry) = (&leaf.side, &leaf.entry);
    let source = Source::read(studio, job, &leaf.piece, side);
    let target = Target::of(entry, &source);
    let scale = entry.format.size.measure().to_css_px() / leaf.piece.format.size.measure().to_css_px().max(1e-6);
    let mut found: Vec<Offer> = Vec::new();
    let known = piece.follows.designs();
    let at = leaf.design.map(|at| at.min(known.len().saturating_sub(1)));
    let design = at.and_then(|at| known.get(at)).and_then(|id| designs(id));
    if let Some(Designed { entries, ground, score }) =
        design.and_then(|design| designed(studio, job, (leaf, &source, &target), design))
    {
        found.push(Offer { way: DESIGNED.to_owned(), score, fits: true, ground, entries, scale });
    }
    let ground = if entry.clear { None } else { side.ground.clone() };
    for Tried { name, score, fits, places } in tried(studio, &source, &target) {
        let visible = side.items.iter().filter(|item| !item.hidden);
        let visible = visible.filter(|item| job.plain(item).is_some());
        let entries = visible.zip(&places).map(|(item, set)| entry_of(job, item, set.as_ref())).collect();
        found.push(Offer { way: name.to_owned(), score, fits, ground: ground.clone(), entries, scale });
    }
    for offer in &mut found {
        for entry in &mut offer.entries {
            if let What::Kept(id) = &entry.what
                && let Some(item) = job.item(id)
            {
                entry.place.crop = crop_at(studio, job, item, &entry.place, &source.spots_of(id));
            }
        }
        offer.score -= point(studio, job, (&source, &target), &mut offer.entries);
    }
    found.sort_by(|a, b| b.score.total_cmp(&a.score));
    each_once(found, Rect::of(entry.format.size))
}

/// One way in which what is read can be arranged.
pub(crate) struct Offer {
    pub way: String,
    pub score: f64,
    pub fits: bool,
    pub ground: Option<Paint>,
    pub entries: Vec<Entry>,
    pub scale: f64,
}

/// What is composed well has about this score, however it came to be.
const COMPOSED: f64 = 1.0;

/// What falls further behind the best than this is not worth offering.
const BEHIND: f64 = 0.7;

/// Arrangements that come to the same are offered once, under the name of the design where it is one of them; those that fall far behind the
/// first not at all.
fn each_once(found: Vec<Offer>, sheet: Rect) -> Vec<Offer> {
    let mut out: Vec<Offer> = Vec::new();
    for offer in found {
        match out.iter_mut().find(|other| same_places(&other.entries, &offer.entries, sheet)) {
            Some(other) if offer.way == DESIGNED => other.way = offer.way,
            Some(_) => {}
            None => out.push(offer),
        }
    }
    let best = out.first().map_or(0.0, |offer| offer.score.min(COMPOSED));
    out.retain(|offer| offer.score >= best - BEHIND);
    out
}

/// Whether what stands is seen in the same places; what goes beyond the sheet is not.
fn same_places(a: &[Entry], b: &[Entry], sheet: Rect) -> bool {
    let standing = |entries: &[Entry]| -> Vec<(ItemId, Rect)> {
        let entries = entries.iter().filter(|entry| entry.stands);
        let kept = entries.filter_map(|entry| match &entry.what {
            What::Kept(id) | What::Loose(id) | What::Again(id) => Some((id.clone(), meet(entry.place.at.rect, sheet))),
            What::Fresh(..) => None,
        });
        let mut kept: Vec<_> = kept.collect();
        kept.sort_by(|a, b| a.0.cmp(&b.0));
        kept
    };
    let (a, b) = (standing(a), standing(b));
    let near = |a: Rect, b: Rect| {
        let slight = vatman_units::Length::css_px(2.0).max(a.size().measure().scaled(0.02));
        [a.x - b.x, a.y - b.y, a.right() - b.right(), a.bottom() - b.bottom()].iter().all(|by| by.abs() <= slight)
    };
    a.len() == b.len() && a.iter().zip(&b).all(|(a, b)| a.0 == b.0 && near(a.1, b.1))
}

/// What the arrangement of a design is called.
pub const DESIGNED: &str = "As designed";

fn entry_of(job: &Job, item: &Item, set: Option<&Set>) -> Entry {
    let place = set.map_or(item.place, |set| set_place(item, set));
    let (turn, reach) = set.map_or((0.0, 1.0), |set| (set.shade, set.reach));
    let look = job.plain(item).filter(|_| turn != 0.0 || reach != 1.0).and_then(|plain| match &plain.look.fill {
        Some(Paint::Linear { angle, stops }) => {
            let angle = Angle::degrees((angle.to_degrees() + turn).rem_euclid(360.0));
            Some(filled(Some(Paint::Linear { angle, stops: reaching(stops, reach) })))
        }
        _ => None,
    });
    Entry { what: What::Kept(item.id.clone()), place, stands: set.is_some(), look }
}

/// The stops of a shade that reaches further from where it is strongest.
fn reaching(stops: &[Stop], by: f64) -> Vec<Stop> {
    let from_end = stops.first().zip(stops.last()).is_some_and(|(first, last)| first.opacity < last.opacity);
    let at = |at: f64| if from_end { 1.0 - ((1.0 - at) * by).min(1.0) } else { (at * by).min(1.0) };
    stops.iter().map(|stop| Stop { at: Ratio::new(at(stop.at.get())), ..stop.clone() }).collect()
}

/// Where an item comes to stand.
pub(crate) fn place_of(one: &Matter<'_>, set: &Set) -> Place {
    set_place(one.item, set)
}

fn set_place(item: &Item, set: &Set) -> Place {
    Place {
        at: placement(set.rect, item.place.at),
        scale: Ratio::new((item.place.scale.get() * set.scale).clamp(1e-3, 1e3)),
        crop: item.place.crop,
        by_hand: false,
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use vatman_document::Tint;

    #[test]
    fn a_shade_reaches_further_from_where_it_is_strongest() {
        let stop = |(at, opacity): (f64, f64)| Stop {
            at: Ratio::new(at),
            tint: Tint::Own("#23211e".parse().unwrap()),
            opacity: Ratio::new(opacity),
        };
        let places = |stops: &[(f64, f64)], by: f64| -> Vec<f64> {
            let stops: Vec<Stop> = stops.iter().copied().map(stop).collect();
            reaching(&stops, by).iter().map(|stop| stop.at.get()).collect()
        };
        let near = |found: Vec<f64>, wanted: [f64; 3]| {
            assert!(found.iter().zip(wanted).all(|(a, b)| (a - b).abs() < 1e-6), "{found:?}");
        };
        // Strong at its start; what would lie beyond its end lies on it.
        near(places(&[(0.0, 0.8), (0.2, 0.5), (0.6, 0.0)], 2.0), [0.0, 0.4, 1.0]);
        // The same from the other end.
        near(places(&[(0.4, 0.0), (0.8, 0.5), (1.0, 0.8)], 2.0), [0.0, 0.6, 1.0]);
    }
}
