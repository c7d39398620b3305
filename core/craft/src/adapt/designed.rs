//! A side laid out as the design it came from would: with what the job says now, and what was added by hand kept in its place.

use kurbo::Rect;
use vatman_document::{Job, Kin, KinId, Paint, Part, Place};
use vatman_units::{Placement, Ratio};

use crate::adapt::flow::Target;
use crate::adapt::leaves::Leaf;
use crate::adapt::matter::{Matter, Source, px};
use crate::adapt::offers::{Entry, What};
use crate::adapt::pointing::Pointer;
use crate::adapt::riders::{anchored, held_in};
use crate::compose::design::{Design, LayoutPart};
use crate::compose::lay_out::{Placed, Said, Slotted, filled, fresh_shape, place_layout, words_slot};
use crate::compose::place::PlaceEntry;
use crate::studio::Studio;

/// A side in the arrangement of its design for another place.
pub(crate) struct Designed {
    /// Back to front.
    pub entries: Vec<Entry>,
    pub ground: Option<Paint>,
    pub score: f64,
}

/// Lays a side out in the arrangement its design has for a place.
pub(crate) fn designed(
    studio: &Studio,
    job: &Job,
    (leaf, source, target): (&Leaf, &Source<'_>, &Target),
    design: &Design,
) -> Option<Designed> {
    let Leaf { side, entry, .. } = leaf;
    let slotted = |slot: &str| source.matter.iter().find(|one| slot_of(job, one) == Some(slot));
    if !source.matter.iter().any(|one| slot_of(job, one).is_some_and(|slot| slot.starts_with("words-"))) {
        return None;
    }
    let says = |part: Part| -> Option<Said> {
        let one = slotted(&words_slot(part))?;
        let vatman_document::Content::Words { text, prompt } = one.plain.content else { return None };
        let kind = design.types.get(&part)?;
        let text = if text.is_blank() { vatman_document::RichText::plain(prompt) } else { text.clone() };
        Some(Said {
            text,
            look: one.plain.look.type_look.clone().unwrap_or_default(),
            ratio: kind.ratio,
            pad: one.plain.look.backing.as_ref().map(|backing| backing.pad_x.get()),
        })
    };
    let (was, now) = (design.layout_for(leaf.designed_for.aspect()), design.layout_for(entry.format.size.aspect()));
    let slots = |parts: &[LayoutPart]| -> Vec<String> {
        parts.iter().filter_map(LayoutPart::slot).map(str::to_owned).collect()
    };
    let (before, after) = (slots(&was.parts), slots(&now.parts));
    let mut entries = Vec::new();
    let mut score = 1.22;
    for placed in place_layout(design, entry, &says, &studio.typesetter) {
        let own = slotted(&placed.slot);
        match own {
            Some(one) => {
                if !placed.stands {
                    score -= super::ways::cost_of(one.plain.part);
                }
                entries.push(kept(one, &placed, (&was.parts, target)));
            }
            // What the arrangement of the source has and the side has not was taken away by somebody.
            None if before.contains(&placed.slot) => {}
            None => entries.extend(added(job, design, &placed, entry)),
        }
    }
    // What somebody added keeps its distance to the edges it was near; what points at something takes its place later.
    let pointing: Vec<usize> = source.pointers.iter().flat_map(Pointer::items).collect();
    for (number, one) in source.matter.iter().enumerate() {
        let slot = slot_of(job, one);
        if slot.is_some_and(|slot| before.iter().chain(&after).any(|known| known == slot) || slot.starts_with("words-"))
        {
            continue;
        }
        score -= 0.06;
        let entry = Entry {
            what: What::Kept(one.item.id.clone()),
            place: beside(one, source, target),
            stands: !pointing.contains(&number),
            look: None,
        };
        let at = entries.iter().position(|entry| follows(entry, one, source)).unwrap_or(entries.len());
        entries.insert(at, entry);
    }
    // What was moved by hand is not for a design to put back.
    let moved = source.matter.iter().filter(|one| one.item.place.by_hand).count();
    score -= if moved > 0 { 0.5 } else { 0.0 };
    let changed = side.ground != was.ground && !(side.ground.is_none() && entry.clear);
    let ground = if changed { side.ground.clone() } else { now.ground.clone() };
    Some(Designed { entries, ground: if entry.clear { None } else { ground }, score })
}

fn slot_of<'j>(job: &'j Job, one: &Matter<'_>) -> Option<&'j str> {
    job.kins.get(&one.item.kin)?.slot.as_deref()
}

/// Whether an entry of the design stands over something of the source.
fn follows(entry: &Entry, one: &Matter<'_>, source: &Source<'_>) -> bool {
    let What::Kept(id) = &entry.what else { return false };
    let place = |id: &vatman_document::ItemId| source.matter.iter().position(|other| other.item.id == *id);
    place(id) > place(&one.item.id)
}

fn kept(one: &Matter<'_>, placed: &Placed<'_>, (was, target): (&[LayoutPart], &Target)) -> Entry {
    let look = &one.plain.look;
    let scale = match &placed.what {
        Slotted::Words(_, size) => {
            let own = look.type_look.as_ref().map_or(1.0, |look| look.size.to_css_px());
            size.to_css_px() / own.max(1e-6)
        }
        Slotted::Drawn(_) => one.item.place.scale.get() * target.scale,
    };
    let place =
        Place { scale: Ratio::new(scale.clamp(1e-3, 1e3)), crop: one.item.place.crop, by_hand: false, ..placed.place };
    // A shade that comes from another side in this shape is another shade; one that somebody changed stays.
    let own = match &placed.what {
        Slotted::Drawn(LayoutPart::Shape { slot, fill, .. }) => {
            let before = was.iter().find_map(|part| match part {
                LayoutPart::Shape { slot: other, fill, .. } if other == slot => Some(fill),
                _ => None,
            });
            (before.is_some_and(|before| before != fill && *before == look.fill)).then(|| filled(fill.clone()))
        }
        _ => None,
    };
    Entry { what: What::Kept(one.item.id.clone()), place, stands: placed.stands, look: own }
}

/// What this arrangement has and that of the source has not.
fn added(job: &Job, design: &Design, placed: &Placed<'_>, entry: &PlaceEntry) -> Option<Entry> {
    let id = KinId::new(format!("{}-{}", design.id, placed.slot)).ok()?;
    let made: Kin = fresh_shape(placed, entry)?;
    let (kin, look) = match job.kins.get(&id) {
        Some(shared) => {
            let differs = shared.look.fill != made.look.fill;
            (None, differs.then(|| filled(made.look.fill.clone())))
        }
        None => (Some(made), None),
    };
    Some(Entry { what: What::Fresh(id, kin.map(Box::new)), place: placed.place, stands: true, look })
}

/// Where something stands that no arrangement knows: at its distance from the edges it was near.
pub(crate) fn beside(one: &Matter<'_>, source: &Source<'_>, target: &Target) -> Place {
    let unit = target.scale.max(target.least_scale(one));
    let size = one.rect.size() * unit;
    let within = if one.is_words() { target.content } else { target.sheet };
    let x0 =
        anchored(crate::adapt::matter::Axis::Across, one.rect, source.sheet, target.sheet, size.width, target.scale);
    let y0 =
        anchored(crate::adapt::matter::Axis::Down, one.rect, source.sheet, target.sheet, size.height, target.scale);
    let rect = Rect::from_origin_size((x0, y0), size);
    let rect = if one.is_words() { held_in(rect, within) } else { rect };
    super::offers::place_of(one, &crate::adapt::flow::Set::new(rect, unit))
}

/// A box as exact lengths.
pub(crate) fn exact(rect: Rect) -> vatman_units::Rect {
    vatman_units::Rect::new(px(rect.x0), px(rect.y0), px(rect.width()), px(rect.height()))
}

/// A placement of a box with the turn and mirroring of another.
pub(crate) fn placement(rect: Rect, as_in: Placement) -> Placement {
    Placement { rect: exact(rect), ..as_in }
}
