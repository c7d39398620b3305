//! Keeping what is to last: after a change, tied items and stacks take their places again.

use std::cell::RefCell;
use std::collections::{BTreeMap, HashMap, HashSet};
use std::sync::Arc;

use kurbo::{Point, Vec2};
use vatman_document::{
    Anchor, BoxEdge, Command, Direction, GroupId, Item, ItemId, Job, Piece, Place, Side, Stack, StackAlign, Tie,
};
use vatman_scene::{Audience, Frame, Means, item_frame, letter_box, spot_on_sheet};
use vatman_units::{Angle, Length, Placement, Rect};

use crate::arrange::align::Boxes;
use crate::refusal::Refusal;
use crate::studio::Studio;

/// Rounds after which what still moves is left where it is: ties in a circle never come to rest.
const MOST_ROUNDS: usize = 12;
/// A difference too small to be a move: a hundredth of a CSS pixel.
const STILL: f64 = 0.01;

/// The moves that make ties and stacks of the changed sides hold again after a job became `new` from `old`.
///
/// What was moved by hand keeps its new place where it is tied by a distance: the distance follows. Everything else goes back.
#[must_use]
pub fn settle(old: &Job, new: &Job, studio: &Studio) -> Vec<Command> {
    studio.with_means(Audience::Stage, None, |means| settled_sides(old, new, means))
}

fn settled_sides(old: &Job, new: &Job, means: &Means<'_>) -> Vec<Command> {
    let shared = old.kins.diff(&new.kins).next().is_some();
    let mut commands = Vec::new();
    for (at, piece) in new.pieces.iter().enumerate() {
        if !shared && old.pieces.get(at).is_some_and(|before| Arc::ptr_eq(before, piece)) {
            continue;
        }
        for side in &piece.sides {
            let holds = !side.stacks.is_empty() || side.items.iter().any(|item| !item.ties.is_empty());
            if holds && differs(old, new, piece, side) {
                commands.extend(Settling::new(old, new, piece, side, means).commands());
            }
        }
    }
    commands
}

fn differs(old: &Job, new: &Job, piece: &Piece, side: &Side) -> bool {
    old.side(&side.id).is_none_or(|(was, before)| before != side || was.format != piece.format)
        || side.items.iter().any(|item| old.kins.get(&item.kin) != new.kins.get(&item.kin))
}

struct Settling<'a> {
    old: &'a Job,
    before: Option<&'a Side>,
    /// Items as they were before what was done, where they were there.
    were: HashMap<&'a ItemId, &'a Item>,
    /// Items that were themselves given another place by what was done.
    by_hand: HashSet<&'a ItemId>,
    job: &'a Job,
    piece: &'a Piece,
    side: &'a Side,
    means: &'a Means<'a>,
    /// Items in their places so far.
    items: BTreeMap<ItemId, Item>,
    frames: RefCell<BTreeMap<ItemId, Option<Frame>>>,
}

fn along(rect: kurbo::Rect, direction: Direction) -> (f64, f64) {
    match direction {
        Direction::Across => (rect.x0, rect.x1),
        Direction::Down => (rect.y0, rect.y1),
    }
}

fn edge(rect: kurbo::Rect, edge: BoxEdge) -> f64 {
    let (first, last) = along(rect, edge.direction());
    if edge.is_first() { first } else { last }
}

fn upright(frame: &Frame) -> kurbo::Rect {
    frame.upright().to_css_px()
}

fn towards(direction: Direction, by: f64) -> Vec2 {
    match direction {
        Direction::Across => Vec2::new(by, 0.0),
        Direction::Down => Vec2::new(0.0, by),
    }
}

fn across(direction: Direction) -> Direction {
    match direction {
        Direction::Across => Direction::Down,
        Direction::Down => Direction::Across,
    }
}

impl<'a> Settling<'a> {
    fn new(old: &'a Job, job: &'a Job, piece: &'a Piece, side: &'a Side, means: &'a Means<'a>) -> Self {
        let before = old.side(&side.id).map(|(_, side)| side);
        let were: HashMap<_, _> = before.iter().flat_map(|side| &side.items).map(|item| (&item.id, item)).collect();
        let moved = |item: &&Item| were.get(&item.id).is_some_and(|was| was.place.at != item.place.at);
        let by_hand = side.items.iter().filter(moved).map(|item| &item.id).collect();
        let items = side.items.iter().map(|item| (item.id.clone(), item.clone())).collect();
        Self { old, before, were, by_hand, job, piece, side, means, items, frames: RefCell::default() }
    }

    fn commands(mut self) -> Vec<Command> {
        self.follow_hand();
        for _ in 0..MOST_ROUNDS {
            let mut moved = false;
            for stack in &self.side.stacks {
                moved |= self.stack(stack);
            }
            for item in &self.side.items {
                moved |= self.ties(&item.id);
            }
            if !moved {
                break;
            }
        }
        let mut commands = Vec::new();
        for was in &self.side.items {
            let Some(now) = self.items.get(&was.id) else { continue };
            if now.place != was.place && now.place.fault().is_none() {
                commands.push(Command::SetPlace { item: was.id.clone(), place: now.place });
            }
            if now.ties != was.ties {
                commands.push(Command::SetTies { item: was.id.clone(), ties: now.ties.clone() });
            }
        }
        commands
    }

    /// Distances that were changed by hand are kept from now on.
    fn follow_hand(&mut self) {
        for item in &self.side.items {
            if !self.by_hand.contains(&item.id) || self.were.get(&item.id).is_none_or(|was| was.ties != item.ties) {
                continue;
            }
            let measured = |tie: &Tie| match tie {
                Tie::Gap { edge, of, .. } if of.item().is_none_or(|other| !self.by_hand.contains(other)) => {
                    let gap = self.distance(&item.id, *edge, of)?;
                    Some(Tie::Gap { edge: *edge, of: of.clone(), gap: Length::css_px(gap) })
                }
                _ => None,
            };
            let ties = item.ties.iter().map(|tie| measured(tie).unwrap_or_else(|| tie.clone())).collect();
            if let Some(kept) = self.items.get_mut(&item.id) {
                kept.ties = ties;
            }
        }
    }

    fn frame(&self, id: &ItemId) -> Option<Frame> {
        if let Some(known) = self.frames.borrow().get(id) {
            return *known;
        }
        let frame =
            self.items.get(id).filter(|item| !item.hidden).and_then(|item| item_frame(self.job, item, self.means));
        self.frames.borrow_mut().insert(id.clone(), frame);
        frame
    }

    fn rect(&self, id: &ItemId) -> Option<kurbo::Rect> {
        self.frame(id).as_ref().map(upright)
    }

    fn anchor(&self, of: &Anchor) -> Option<kurbo::Rect> {
        match of {
            Anchor::Sheet => Some(Rect::of(self.piece.format.size).to_css_px()),
            Anchor::Item(id) => self.rect(id),
        }
    }

    /// How far an edge is from what it is tied to, positive inside the sheet or away from the other item.
    fn distance(&self, id: &ItemId, own: BoxEdge, of: &Anchor) -> Option<f64> {
        Some(apart(self.rect(id)?, own, self.anchor(of)?, of))
    }

    fn put(&mut self, id: &ItemId, place: Place) -> bool {
        let Some(item) = self.items.get_mut(id) else { return false };
        let far = |a: Length, b: Length| (a - b).abs().to_css_px() > STILL;
        let (was, now) = (item.place.at, place.at);
        let moved = far(was.rect.x, now.rect.x)
            || far(was.rect.y, now.rect.y)
            || far(was.rect.w, now.rect.w)
            || far(was.rect.h, now.rect.h)
            || (was.turn.to_degrees() - now.turn.to_degrees()).abs() > 1e-3
            || was.flip != now.flip
            || item.place.scale != place.scale
            || item.place.crop != place.crop;
        if moved {
            item.place = place;
            self.frames.borrow_mut().remove(id);
        }
        moved
    }

    fn shift(&mut self, id: &ItemId, by: Vec2) -> bool {
        if by.hypot() <= STILL {
            return false;
        }
        let Some(place) = self.items.get(id).map(|item| item.place) else { return false };
        let rect = place.at.rect.moved(Length::css_px(by.x), Length::css_px(by.y));
        self.put(id, Place { at: Placement { rect, ..place.at }, ..place })
    }

    fn ties(&mut self, id: &ItemId) -> bool {
        let ties = self.items.get(id).map(|item| item.ties.clone()).unwrap_or_default();
        let mut moved = false;
        for tie in &ties {
            moved |= self.tie(id, tie, &ties).unwrap_or(false);
        }
        moved
    }

    /// Sees to one tie; nothing where what it names is not there.
    fn tie(&mut self, id: &ItemId, tie: &Tie, all: &[Tie]) -> Option<bool> {
        match tie {
            Tie::Centre { direction, of } => {
                let middle = |rect| (along(rect, *direction).0 + along(rect, *direction).1) / 2.0;
                let by = middle(self.anchor(of)?) - middle(self.rect(id)?);
                Some(self.shift(id, towards(*direction, by)))
            }
            Tie::Gap { edge: own, of, gap } => {
                let by = gap.to_css_px() - self.distance(id, *own, of)?;
                let by = if own.is_first() { by } else { -by };
                // Tied on both sides it becomes as long as the room between them.
                let both = all.iter().any(|tie| matches!(tie, Tie::Gap { edge, .. } if *edge == opposite(*own)));
                Some(if both { self.stretch(id, *own, by)? } else { self.shift(id, towards(own.direction(), by)) })
            }
            Tie::Opposite { of, across, down, mirrored } => {
                let (other, frame) = (self.items.get(of)?.place, self.frame(of)?);
                let sheet = Rect::of(self.piece.format.size).to_css_px();
                let centre = Point::new(frame.x + frame.w / 2.0, frame.y + frame.h / 2.0);
                let target = Point::new(
                    if *across { sheet.x1 - centre.x } else { centre.x },
                    if *down { sheet.y1 - centre.y } else { centre.y },
                );
                let turn = other.at.turn.to_degrees();
                let (turn, flip) = match (*mirrored, *across, *down) {
                    (false, ..) => (turn, other.at.flip),
                    (true, true, false) => (-turn, !other.at.flip),
                    (true, false, true) => (180.0 - turn, !other.at.flip),
                    (true, ..) => (turn + 180.0, other.at.flip),
                };
                let own = self.items.get(id)?.place;
                let at = Placement { rect: other.at.rect, turn: Angle::degrees(turn).normalised(), flip };
                let sized = self.put(
                    id,
                    Place {
                        at: Placement { rect: Rect::new(own.at.rect.x, own.at.rect.y, at.rect.w, at.rect.h), ..at },
                        scale: other.scale,
                        ..own
                    },
                );
                let frame = self.frame(id)?;
                Some(self.shift(id, target - Point::new(frame.x + frame.w / 2.0, frame.y + frame.h / 2.0)) || sized)
            }
            Tie::AsLong { direction, of, extra } => {
                let other = letter_box(self.job, self.items.get(of)?, self.means)?;
                let (first, last) = along(other, *direction);
                let length = (last - first + extra.to_css_px()).max(0.1);
                let held = all.iter().any(|tie| match tie {
                    Tie::Centre { direction: held, .. } => held == direction,
                    Tie::Gap { edge, .. } => edge.direction() == *direction,
                    Tie::Opposite { .. } | Tie::Spot { .. } | Tie::Between { .. } | Tie::Over { .. } => true,
                    Tie::AsLong { .. } => false,
                });
                let place = self.items.get(id)?.place;
                let mut rect = place.at.rect;
                let start = Length::css_px(first - extra.to_css_px() / 2.0);
                match direction {
                    Direction::Across => {
                        rect.w = Length::css_px(length);
                        rect.x = if held { rect.x } else { start };
                    }
                    Direction::Down => {
                        rect.h = Length::css_px(length);
                        rect.y = if held { rect.y } else { start };
                    }
                }
                Some(self.put(id, Place { at: Placement { rect, ..place.at }, ..place }))
            }
            Tie::Spot { of, at } => {
                let spot = spot_on_sheet(self.job, self.items.get(of)?, *at, self.means)?;
                let by = spot - self.rect(id)?.center();
                Some(self.shift(id, by))
            }
            Tie::Over { of } => {
                let (other, own) = (self.items.get(of)?.place, self.items.get(id)?.place);
                Some(self.put(id, Place { by_hand: own.by_hand, ..other }))
            }
            Tie::Between { from, to } => {
                let place = between(self.rect(from)?, self.rect(to)?, self.items.get(id)?.place);
                Some(self.put(id, place))
            }
        }
    }

    /// Moves one edge alone.
    fn stretch(&mut self, id: &ItemId, own: BoxEdge, by: f64) -> Option<bool> {
        let place = self.items.get(id)?.place;
        let (mut rect, by) = (place.at.rect, Length::css_px(by));
        match own {
            BoxEdge::Left => (rect.x, rect.w) = (rect.x + by, rect.w - by),
            BoxEdge::Right => rect.w += by,
            BoxEdge::Top => (rect.y, rect.h) = (rect.y + by, rect.h - by),
            BoxEdge::Bottom => rect.h += by,
        }
        if !rect.w.is_positive() || !rect.h.is_positive() {
            return None;
        }
        Some(self.put(id, Place { at: Placement { rect, ..place.at }, ..place }))
    }

    /// The rows of a stack with their members, in the order they follow each other.
    fn rows(&self, stack: &Stack) -> Vec<(Vec<ItemId>, kurbo::Rect)> {
        let mut rows: Vec<(Option<GroupId>, Vec<ItemId>, kurbo::Rect)> = Vec::new();
        for item in &self.side.items {
            let Some(level) = item.groups.iter().position(|group| *group == stack.group) else { continue };
            let Some(rect) = self.rect(&item.id) else { continue };
            let inner = item.groups.get(level + 1).cloned();
            match rows.iter_mut().find(|row| inner.is_some() && row.0 == inner) {
                Some(row) => {
                    row.1.push(item.id.clone());
                    row.2 = row.2.union(rect);
                }
                None => rows.push((inner, vec![item.id.clone()], rect)),
            }
        }
        rows.sort_by(|a, b| along(a.2, stack.direction).0.total_cmp(&along(b.2, stack.direction).0));
        rows.into_iter().map(|(_, members, rect)| (members, rect)).collect()
    }

    fn stack(&mut self, stack: &Stack) -> bool {
        let rows = self.rows(stack);
        if rows.is_empty() {
            return false;
        }
        let rests =
            |members: &[ItemId]| members.iter().all(|id| self.were.contains_key(id) && !self.by_hand.contains(id));
        // A stack moved as a whole stays where it was put; otherwise it begins where it began.
        let resting = rows.iter().find(|row| rests(&row.0));
        let began = resting.and_then(|_| self.began(stack)).unwrap_or_else(|| along(rows[0].1, stack.direction).0);
        let beside = across(stack.direction);
        let (first, last) = along(resting.unwrap_or(&rows[0]).1, beside);
        let mut at = began;
        let mut moved = false;
        for (members, rect) in &rows {
            let (start, end) = along(*rect, stack.direction);
            let (own_first, own_last) = along(*rect, beside);
            let aside = match stack.align {
                StackAlign::First => first - own_first,
                StackAlign::Middle => (first + last - own_first - own_last) / 2.0,
                StackAlign::Last => last - own_last,
            };
            let by = towards(stack.direction, at - start) + towards(beside, aside);
            for id in members {
                moved |= self.shift(id, by);
            }
            at += end - start + stack.gap.to_css_px();
        }
        moved
    }

    /// Where the members of a stack began before what was done.
    fn began(&self, stack: &Stack) -> Option<f64> {
        let before = self.before?;
        before.stacks.iter().find(|was| was.group == stack.group)?;
        let members = before.items.iter().filter(|item| item.groups.contains(&stack.group) && !item.hidden);
        let starts = members
            .filter_map(|item| item_frame(self.old, item, self.means))
            .map(|frame| along(upright(&frame), stack.direction).0);
        starts.reduce(f64::min)
    }
}

/// How far an edge of a box is from what it is tied to, positive inside the sheet or away from the other item.
fn apart(rect: kurbo::Rect, own: BoxEdge, other: kurbo::Rect, of: &Anchor) -> f64 {
    let facing = match of {
        Anchor::Sheet => own,
        Anchor::Item(_) => opposite(own),
    };
    let apart = edge(rect, own) - edge(other, facing);
    if own.is_first() { apart } else { -apart }
}

/// Ties an item. Ties that hold the same in another way give way to the new one, and a distance begins as it is now.
///
/// # Errors
/// [`Refusal`] where the item or what it is tied to is not on the side.
pub fn tie(job: &Job, piece: &Piece, boxes: &Boxes, item: &ItemId, tie: &Tie) -> Result<Command, Refusal> {
    let found = job.item(item).ok_or_else(|| Refusal::Missing("item", item.to_string()))?;
    let rect = |id: &ItemId| boxes.get(id).map(|rect| rect.to_css_px()).ok_or_else(|| Refusal::no_item(id));
    tie.others().into_iter().try_for_each(|other| rect(other).map(|_| ()))?;
    let new = match tie {
        Tie::Gap { edge, of, .. } => {
            let other = of.item().map_or_else(|| Ok(Rect::of(piece.format.size).to_css_px()), rect)?;
            Tie::Gap { edge: *edge, of: of.clone(), gap: Length::css_px(apart(rect(item)?, *edge, other, of)) }
        }
        other => other.clone(),
    };
    let ties = found.ties.iter().filter(|old| !rivals(old, &new)).cloned().chain([new.clone()]).collect();
    Ok(Command::SetTies { item: item.clone(), ties })
}

/// Whether two ties of one item would hold the same thing: its length in a direction, one of its edges, or its place in a direction.
fn rivals(a: &Tie, b: &Tie) -> bool {
    let place = |tie: &Tie| match tie {
        Tie::Centre { direction, .. } => Some(*direction),
        Tie::Gap { edge, .. } => Some(edge.direction()),
        _ => None,
    };
    match (a, b) {
        (Tie::AsLong { direction: a, .. }, Tie::AsLong { direction: b, .. }) => a == b,
        (Tie::AsLong { .. }, _) | (_, Tie::AsLong { .. }) => false,
        (Tie::Gap { edge: a, .. }, Tie::Gap { edge: b, .. }) => a == b,
        // What holds it altogether leaves nothing to others.
        _ => place(a).is_none() || place(b).is_none() || place(a) == place(b),
    }
}

const fn opposite(edge: BoxEdge) -> BoxEdge {
    match edge {
        BoxEdge::Left => BoxEdge::Right,
        BoxEdge::Right => BoxEdge::Left,
        BoxEdge::Top => BoxEdge::Bottom,
        BoxEdge::Bottom => BoxEdge::Top,
    }
}

/// The place of a line, as high as it is, that reaches from the edge of one box to the edge of another.
pub(crate) fn between(from: kurbo::Rect, to: kurbo::Rect, place: Place) -> Place {
    let (start, end) = (leaving(from, to.center()), leaving(to, from.center()));
    let span = end - start;
    let (length, height) = (span.hypot().max(0.1), place.at.rect.h);
    let middle = start.midpoint(end);
    let rect = Rect::new(
        Length::css_px(middle.x - length / 2.0),
        Length::css_px(middle.y) - height.half(),
        Length::css_px(length),
        height,
    );
    let turn = Angle::degrees(span.atan2().to_degrees()).normalised();
    Place { at: Placement { rect, turn, flip: false }, ..place }
}

/// Where a line from the middle of a box towards a point leaves it; the point itself where that lies inside.
pub(crate) fn leaving(rect: kurbo::Rect, towards: Point) -> Point {
    let middle = rect.center();
    let d = towards - middle;
    let share = |reach: f64, d: f64| if d.abs() < 1e-9 { f64::INFINITY } else { reach / d.abs() };
    let t = share(rect.width() / 2.0, d.x).min(share(rect.height() / 2.0, d.y));
    middle + d * t.min(1.0)
}
