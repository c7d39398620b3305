//! What of a piece is arranged by itself, and onto what: each side of a flat piece, each panel of a folded one.
//!
//! Between pieces folded alike every panel is arranged for its counterpart. A flat piece that becomes a folded one parts its words among the
//! panels as a new one would. A folded one that becomes flat, or is folded otherwise, is read as one sheet: its front, and below that what its
//! other panels say.

use std::collections::BTreeSet;

use vatman_document::{
    Content, Finish, Format, Item, ItemId, Job, KinId, LookPatch, Paint, Part, Piece, Place, RichText, Side,
};
use vatman_units::{Placement, Ratio, Rect, Size};

use crate::adapt::offers::{Entry, What};
use crate::compose::lay_out::{Said, filled};
use crate::compose::panels::{Panel, Role, column, panels, panels_of, readable_on, shares};
use crate::compose::place::PlaceEntry;
use crate::studio::Studio;

/// One arrangement to be made.
pub(crate) struct Leaf {
    /// What is read, as if it were all of a piece; its sides are not looked at.
    pub piece: Piece,
    /// What stands on it.
    pub side: Side,
    /// The size its design was arranged for.
    pub designed_for: Size,
    /// Which of the designs of the piece it was made from.
    pub design: Option<usize>,
    /// What it is arranged for.
    pub entry: PlaceEntry,
    /// The place of the side it comes to stand on among those of the new piece, and the panel of it.
    pub onto: (usize, Option<Panel>),
    /// How.
    pub how: How,
    /// What does not stay in the groups it was in, as they are parted.
    pub loose: BTreeSet<ItemId>,
}

/// How what is read is arranged.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum How {
    /// In the best of many ways.
    Arranged,
    /// Its words one below the other.
    Column,
    /// As the first is, once more.
    Again,
}

/// What is arranged to make a piece for a place.
pub(crate) fn leaves(job: &Job, piece: &Piece, entry: &PlaceEntry) -> Vec<Leaf> {
    let from = panels_of(piece);
    let to = panels(entry.format.finish.folds, entry.format.size, entry.sides.len().max(1));
    let like = |a: &Panel, b: &Panel| (a.side, a.turned, a.role) == (b.side, b.turned, b.role);
    if from.is_empty() && to.is_empty() {
        return piece.sides.iter().enumerate().map(|(at, side)| whole(piece, side, at, entry)).collect();
    }
    if from.len() == to.len() && from.iter().zip(&to).all(|(a, b)| like(a, b)) {
        return alike(piece, (&from, &to), entry);
    }
    let Some(front) = from.first() else { return parted(job, (piece, &piece.sides), &to, entry) };
    let Some((read, side, loose)) = one_sheet(job, piece, &from) else { return Vec::new() };
    let mut all = if to.is_empty() {
        vec![whole(&read, &side, 0, entry)]
    } else {
        parted(job, (&read, std::slice::from_ref(&side)), &to, entry)
    };
    for leaf in &mut all {
        leaf.designed_for = front.rect.size();
        leaf.loose.extend(loose.iter().cloned());
    }
    all
}

fn whole(piece: &Piece, side: &Side, at: usize, entry: &PlaceEntry) -> Leaf {
    Leaf {
        piece: sheet_of(piece, piece.format),
        side: side.clone(),
        designed_for: piece.format.size,
        design: Some(at),
        entry: entry.clone(),
        onto: (at, None),
        how: How::Arranged,
        loose: BTreeSet::new(),
    }
}

/// A piece as it is read, without what stands on it.
fn sheet_of(piece: &Piece, format: Format) -> Piece {
    Piece { format, ..Piece::new(piece.id.clone(), piece.name.clone(), format, Vec::new()) }
}

/// What stands on a panel, as if only that were there.
fn standing_on(piece: &Piece, panel: &Panel) -> Vec<Item> {
    let Some(side) = piece.sides.get(panel.side) else { return Vec::new() };
    panel.items(piece, side).map(|item| Item { place: panel.alone(item.place), ..item.clone() }).collect()
}

fn alike(piece: &Piece, (from, to): (&[Panel], &[Panel]), entry: &PlaceEntry) -> Vec<Leaf> {
    let read: Vec<Vec<Item>> = from.iter().map(|panel| standing_on(piece, panel)).collect();
    // A group that stands on several panels is parted.
    let spread = |at: usize, item: &Item| {
        let elsewhere = read.iter().enumerate().filter(|(other, _)| *other != at).flat_map(|(_, items)| items);
        elsewhere.flat_map(|other| &other.groups).any(|group| item.groups.contains(group))
    };
    let of_panel = |(at, items): (usize, &Vec<Item>)| -> Vec<ItemId> {
        items.iter().filter(|item| spread(at, item)).map(|item| item.id.clone()).collect()
    };
    let loose: BTreeSet<ItemId> = read.iter().enumerate().flat_map(of_panel).collect();
    let each = from.iter().zip(to).zip(&read).filter(|(_, items)| !items.is_empty());
    let leaf = |((was, now), items): ((&Panel, &Panel), &Vec<Item>)| Leaf {
        piece: sheet_of(piece, was.format(&piece.format)),
        side: Side { items: items.clone(), ..piece.sides[was.side].clone() },
        designed_for: was.rect.size(),
        design: matches!(was.role, Role::Front | Role::Again).then_some(0),
        entry: now.entry(entry),
        onto: (now.side, Some(*now)),
        how: How::Arranged,
        loose: loose.clone(),
    };
    each.map(leaf).collect()
}

/// A folded piece read as one sheet, and what was on its other panels.
fn one_sheet(job: &Job, piece: &Piece, panels: &[Panel]) -> Option<(Piece, Side, BTreeSet<ItemId>)> {
    let (front, side) = (panels.first()?.rect.size(), piece.sides.first()?);
    let gap = piece.format.safe;
    let (mut items, mut loose): (Vec<Item>, BTreeSet<ItemId>) = (Vec::new(), BTreeSet::new());
    let mut below = front.h;
    for panel in panels {
        let mut own = standing_on(piece, panel);
        if panel.role != Role::Front {
            let known: BTreeSet<&KinId> = items.iter().map(|item| &item.kin).collect();
            own.retain(|item| !known.contains(&item.kin) && !is_ground(job, item, panel.rect));
            let Some(top) = own.iter().map(|item| item.place.at.rect.y).min() else { continue };
            let down = below + gap - top;
            for item in &mut own {
                item.place.at.rect = item.place.at.rect.moved(vatman_units::Length::ZERO, down);
                below = below.max(item.place.at.rect.bottom());
                loose.insert(item.id.clone());
            }
        }
        items.extend(own);
    }
    let foot = if below > front.h { gap } else { vatman_units::Length::ZERO };
    let size = Size::new(front.w, below + foot);
    let format = Format { size, finish: Finish::default(), ..piece.format };
    Some((sheet_of(piece, format), Side { items, ..side.clone() }, loose))
}

/// A shape over more of a panel than this is a ground by another name.
const GROUND: f64 = 0.6;

fn is_ground(job: &Job, item: &Item, panel: Rect) -> bool {
    let area = |rect: Rect| rect.w.to_css_px() * rect.h.to_css_px();
    let shape = job.plain(item).is_none_or(|plain| matches!(plain.content, Content::Shape { .. }));
    shape && area(item.place.at.rect) > area(panel) * GROUND
}

/// A flat piece for a folded place: its words parted among the panels, and what else it shows on the front; its other sides on panels of
/// their own.
fn parted(job: &Job, (piece, sides): (&Piece, &[Side]), to: &[Panel], entry: &PlaceEntry) -> Vec<Leaf> {
    let Some((first, others)) = sides.split_first() else { return Vec::new() };
    let on = |panel: &Panel, side: &Side, at: usize| {
        let entry = panel.entry(entry);
        Leaf { onto: (panel.side, Some(*panel)), ..whole(piece, side, at, &entry) }
    };
    let mut free: Vec<Panel> = to.to_vec();
    let others: Vec<(usize, &Side)> = others.iter().enumerate().filter(|(_, side)| !side.items.is_empty()).collect();
    // A single further side is a back; several are the pages in their order.
    let several = others.len() > 1;
    let wanted = |panel: &Panel| panel.role == Role::Back || (several && panel.role == Role::Inside);
    let mut pages = Vec::new();
    for (at, side) in others {
        let Some(panel) = free.iter().position(wanted).map(|at| free.remove(at)) else { break };
        pages.push(on(&panel, side, at + 1));
    }
    let said = words_of(job, first);
    let parts: Vec<Part> = said.iter().map(|(part, _)| *part).collect();
    let shares = shares(&free, &parts, entry.copy);
    let away: BTreeSet<ItemId> = shares.iter().skip(1).flatten().map(|at| said[*at].1.id.clone()).collect();
    let mut out = Vec::new();
    for (panel, share) in free.iter().zip(&shares) {
        let (how, items): (How, Vec<Item>) = match panel.role {
            Role::Front => {
                (How::Arranged, first.items.iter().filter(|item| !away.contains(&item.id)).cloned().collect())
            }
            Role::Again => (How::Again, Vec::new()),
            Role::Inside | Role::Back | Role::Flap if share.is_empty() => continue,
            Role::Inside | Role::Back | Role::Flap => {
                (How::Column, share.iter().map(|at| said[*at].1.clone()).collect())
            }
        };
        let side = Side { items, ..first.clone() };
        let design = (how == How::Arranged).then_some(0);
        out.push(Leaf { how, design, loose: away.clone(), ..on(panel, &side, 0) });
    }
    out.extend(pages);
    out
}

/// The words of a side from top to bottom.
fn words_of<'s>(job: &Job, side: &'s Side) -> Vec<(Part, &'s Item)> {
    let visible = side.items.iter().filter(|item| !item.hidden);
    let words = visible.filter_map(|item| {
        let plain = job.plain(item)?;
        plain.content.words().map(|_| (plain.part, item))
    });
    let mut words: Vec<_> = words.collect();
    words.sort_by_key(|(_, item)| (item.place.at.rect.y, item.place.at.rect.x));
    words
}

/// The words of a leaf set one below the other on its panel, on a ground.
pub(crate) fn in_a_column(
    studio: &Studio,
    job: &Job,
    (leaf, panel): (&Leaf, &Panel),
    loudest: f64,
    ground: Option<&Paint>,
) -> Vec<Entry> {
    let read = leaf.side.items.iter().filter_map(|item| {
        let plain = job.plain(item)?;
        let Content::Words { text, prompt } = plain.content else { return None };
        let look = plain.look.type_look.clone()?;
        let own = look.size.to_css_px();
        let text = if text.is_blank() { RichText::plain(prompt) } else { text.clone() };
        let ratio = own * item.place.scale.get() / loudest.max(1e-6);
        let pad = plain.look.backing.as_ref().map(|backing| backing.pad_x.get());
        let paint = plain.look.fill.clone().filter(|_| pad.is_none());
        Some((item, own, paint, (plain.part, Said { text, look, ratio, pad })))
    });
    let read: Vec<_> = read.collect();
    let rows: Vec<(Part, Said)> = read.iter().map(|one| one.3.clone()).collect();
    let placed = column(&rows, (panel, &leaf.entry), &studio.typesetter);
    let entry = |((item, own, paint, _), (rect, size, stands)): (&(&Item, f64, Option<Paint>, _), (Rect, _, bool))| {
        let size: vatman_units::Length = size;
        let scale = Ratio::new((size.to_css_px() / own.max(1e-6)).clamp(1e-3, 1e3));
        let paint = paint.as_ref().and_then(|paint| readable_on(ground, paint, &|tint| job.color(tint)));
        let look = paint.map(|paint| {
            let kept = item.release.look.clone().unwrap_or_default();
            LookPatch { paint: filled(Some(paint)).paint, ..kept }
        });
        let place = Place { scale, ..Place::new(Placement::at(rect)) };
        Entry { what: What::Kept(item.id.clone()), place, stands, look }
    };
    read.iter().zip(placed).map(entry).collect()
}

/// The size of the loudest words of a piece, in CSS pixels.
pub(crate) fn loudest(job: &Job, piece: &Piece) -> f64 {
    let items = piece.sides.iter().flat_map(|side| &side.items).filter(|item| !item.hidden);
    let size = |item: &Item| {
        let plain = job.plain(item)?;
        plain.content.words()?;
        Some(plain.look.type_look.as_ref()?.size.to_css_px() * item.place.scale.get())
    };
    items.filter_map(size).fold(0.0, f64::max)
}
