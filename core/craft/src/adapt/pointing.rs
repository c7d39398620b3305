//! What points at something: call-outs, tied lines, and lines drawn from a picture towards words. They stand in no tree; they take their places
//! once everything else has its own.

use kurbo::{Line, Point, Rect, Vec2};
use vatman_document::{Content, Focus, Item, Job, Outline, Part, Place, Tie};
use vatman_units::Placement;

use crate::adapt::designed::exact;
use crate::adapt::flow::{Set, Target};
use crate::adapt::focus::SEEN;
use crate::adapt::matter::{Axis, Kind, Matter, Source};
use crate::adapt::offers::{Entry, place_of};
use crate::adapt::riders::held_in;
use crate::adapt::ways::cost_of;
use crate::arrange::settle::{between, leaving};
use crate::studio::Studio;

/// One thing that points at another, by the places of its items among what is read.
#[derive(Debug, Clone, PartialEq)]
pub(crate) enum Pointer {
    /// Something on a spot of a picture, and the label a tied line joins it to.
    Spot { dot: usize, host: usize, at: Focus, label: Option<usize> },
    /// A line tied between two things.
    Between { line: usize, from: usize, to: usize },
    /// A line that begins on a picture or a shape and ends before words.
    Lead(Lead),
}

/// A line that leads from something to words, as it stood.
#[derive(Debug, Clone, PartialEq)]
pub(crate) struct Lead {
    line: usize,
    host: usize,
    axis: Axis,
    /// To the right or down.
    forward: bool,
    /// How deep in its host it begins, in CSS pixels.
    inset: f64,
    /// Where across its host it stands, as a fraction.
    across: f64,
    /// How far before the words it ends, in CSS pixels.
    gap: f64,
}

impl Pointer {
    /// What takes its place with it.
    pub(crate) fn items(&self) -> Vec<usize> {
        match self {
            Self::Spot { dot, label, .. } => std::iter::once(*dot).chain(*label).collect(),
            Self::Between { line, .. } => vec![*line],
            Self::Lead(lead) => vec![lead.line],
        }
    }
}

/// What points at what on a side. `near` is how far things may be from an edge that they are on, in CSS pixels.
pub(super) fn pointers(matter: &[Matter<'_>], measure: f64, near: f64) -> Vec<Pointer> {
    let by_id = |id: &vatman_document::ItemId| matter.iter().position(|one| one.item.id == *id);
    let between = |line: usize| {
        matter[line].item.ties.iter().find_map(|tie| match tie {
            Tie::Between { from, to } => Some((by_id(from)?, by_id(to)?)),
            _ => None,
        })
    };
    let lines: Vec<(usize, usize, usize)> =
        (0..matter.len()).filter_map(|line| between(line).map(|(from, to)| (line, from, to))).collect();
    let mut found = Vec::new();
    let mut labels: Vec<usize> = Vec::new();
    for (dot, one) in matter.iter().enumerate() {
        let spot = one.item.ties.iter().find_map(|tie| match tie {
            Tie::Spot { of, at } => by_id(of).filter(|host| *host != dot).map(|host| (host, *at)),
            _ => None,
        });
        let Some((host, at)) = spot else { continue };
        let joins = |&(_, from, to): &(usize, usize, usize)| match dot {
            dot if dot == from => Some(to),
            dot if dot == to => Some(from),
            _ => None,
        };
        // What is said loudest, or stands with others, has its place among them.
        let free = |at: &usize| {
            let one = &matter[*at];
            let tied = one.item.ties.iter().any(|tie| matches!(tie, Tie::Spot { .. }));
            one.is_words() && !tied && one.plain.part != Part::Headline && one.item.groups.is_empty()
        };
        let label = lines.iter().filter_map(joins).find(|at| free(at) && !labels.contains(at));
        labels.extend(label);
        found.push(Pointer::Spot { dot, host, at, label });
    }
    found.extend(lines.into_iter().map(|(line, from, to)| Pointer::Between { line, from, to }));
    found.extend((0..matter.len()).filter_map(|line| lead(matter, line, measure, near)).map(Pointer::Lead));
    found
}

/// A line drawn by hand from something towards words. One with words along it is a rule.
fn lead(matter: &[Matter<'_>], line: usize, measure: f64, near: f64) -> Option<Lead> {
    let one = &matter[line];
    if one.kind != Kind::Line || !one.item.ties.is_empty() || !one.item.groups.is_empty() {
        return None;
    }
    let own = one.seen;
    let axis = if own.width() >= own.height() { Axis::Across } else { Axis::Down };
    let cross = axis.other();
    let middle = f64::midpoint(cross.start(own), cross.end(own));
    let words = || matter.iter().filter(|one| one.is_words()).map(|one| one.ink);
    let along = |ink: Rect| {
        let shared = axis.end(ink).min(axis.end(own)) - axis.start(ink).max(axis.start(own));
        let away = (cross.start(ink) - middle).max(middle - cross.end(ink));
        shared > axis.extent(own) * 0.1 && away < measure * 0.08
    };
    if words().any(along) {
        return None;
    }
    [true, false].into_iter().find_map(|forward| {
        let (begins, ends) = if forward { (axis.start(own), axis.end(own)) } else { (axis.end(own), axis.start(own)) };
        let point = |along: f64| match axis {
            Axis::Across => Point::new(along, middle),
            Axis::Down => Point::new(middle, along),
        };
        let carries = |at: &usize| {
            let other = &matter[*at];
            let reach = other.seen.inflate(near, near);
            *at != line
                && !other.is_words()
                && other.kind != Kind::Line
                && reach.contains(point(begins))
                && !reach.contains(point(ends))
        };
        let hosts = || (0..matter.len()).rev().filter(carries);
        let host = hosts().find(|at| matter[*at].is_picture()).or_else(|| hosts().next())?;
        let ahead = |ink: Rect| if forward { axis.start(ink) - ends } else { ends - axis.end(ink) };
        let beside = measure * 0.06;
        let met = words()
            .filter(|ink| cross.start(*ink) - beside <= middle && middle <= cross.end(*ink) + beside)
            .map(ahead)
            .filter(|gap| (-near..measure * 0.15).contains(gap));
        let gap = met.fold(f64::INFINITY, f64::min);
        let on = matter[host].seen;
        let inset = if forward { axis.end(on) - begins } else { begins - axis.start(on) };
        let across = (middle - cross.start(on)) / cross.extent(on).max(1.0);
        gap.is_finite().then_some(Lead { line, host, axis, forward, inset, across, gap: gap.max(0.0) })
    })
}

/// How far beyond the edges of what they point at labels reach: left, top, right, bottom, in CSS pixels; the room they keep there. A label
/// beyond which other things begin keeps none.
pub(super) fn room_around(matter: &[Matter<'_>], pointers: &[Pointer], host: usize) -> [f64; 4] {
    let own = matter[host].seen;
    let taken: Vec<usize> = pointers.iter().flat_map(Pointer::items).collect();
    let mut whole = own;
    for pointer in pointers {
        let Pointer::Spot { host: of, label: Some(label), .. } = pointer else { continue };
        if *of != host {
            continue;
        }
        let wider = whole.union(matter[*label].ink);
        let meets = |at: usize| {
            let other = matter[at].seen;
            at != host
                && !taken.contains(&at)
                && wider.intersect(other).area() > other.area() * 0.02
                && other.intersect(own).area() < other.area() * 0.5
                && other.intersect(wider).area() < wider.area() * 0.98
        };
        if !(0..matter.len()).any(meets) {
            whole = wider;
        }
    }
    [own.x0 - whole.x0, own.y0 - whole.y0, whole.x1 - own.x1, whole.y1 - own.y1]
}

/// The spots of a picture that something points at.
pub(super) fn spots_on(pointers: &[Pointer], host: usize) -> Vec<Focus> {
    let spots = pointers.iter().filter_map(|pointer| match pointer {
        Pointer::Spot { host: of, at, .. } if *of == host => Some(*at),
        _ => None,
    });
    spots.collect()
}

/// The proportions, width by height, between which a frame shows all spots of its picture that something points at.
pub(super) fn shapes_showing(studio: &Studio, matter: &[Matter<'_>], pointers: &[Pointer], host: usize) -> (f64, f64) {
    let any = (0.0, f64::INFINITY);
    let (one, spots) = (&matter[host], spots_on(pointers, host));
    let size = one.plain.content.picture().and_then(|picture| studio.picture_size(picture, &one.plain.look));
    let (Some((w, h)), false) = (size, spots.is_empty()) else { return any };
    let zoom = one.item.place.crop.map_or(1.0, |crop| crop.zoom.get().max(1.0));
    let span = |of: &dyn Fn(&Focus) -> f64| {
        let low = spots.iter().map(of).fold(f64::INFINITY, f64::min);
        spots.iter().map(of).fold(f64::NEG_INFINITY, f64::max) - low
    };
    let share = |span: f64| (span * zoom / SEEN).min(1.0);
    let picture = f64::from(w) / f64::from(h.max(1));
    (picture * share(span(&|at| at.x.get())), picture / share(span(&|at| at.y.get())).max(1e-6))
}

/// Columns and rows of places at which room for a label is looked for.
const STEPS: usize = 24;
/// Sizes tried for a label, the largest first.
const SMALLER: [f64; 3] = [1.0, 0.8, 0.64];

/// Gives what points its places among entries that have theirs: a dot its spot, a label the nearest room to where it stood from its spot that
/// no words take, a line what it joins. What stands already stays; what has no place is left out. Returns what that costs.
pub(super) fn point(
    studio: &Studio,
    job: &Job,
    (source, target): (&Source<'_>, &Target),
    entries: &mut [Entry],
) -> f64 {
    if source.pointers.is_empty() {
        return 0.0;
    }
    let mut hand = Hand { studio, job, source, target, entries };
    let mut against = 0.0;
    let mut segments: Vec<Line> = Vec::new();
    let stands = |hand: &Hand<'_, '_>, pointer: &Pointer| pointer.items().iter().all(|at| hand.place(*at).is_some());
    let mut open: Vec<&Pointer> = source.pointers.iter().filter(|pointer| !stands(&hand, pointer)).collect();
    // As they follow each other down the side.
    open.sort_by(|a, b| hand.height_of(a).total_cmp(&hand.height_of(b)));
    for pointer in &open {
        let stands = match pointer {
            Pointer::Spot { dot, host, at, label } => hand.call_out((*dot, *host, *at), *label, &mut segments),
            Pointer::Between { .. } => continue,
            Pointer::Lead(lead) => hand.lead(lead),
        };
        if !stands {
            let words = pointer.items().into_iter().filter(|at| source.matter[*at].is_words());
            against += cost_of(Part::Ornament) + words.map(|at| cost_of(source.matter[at].plain.part)).sum::<f64>();
        }
    }
    for pointer in open {
        let Pointer::Between { line, from, to } = pointer else { continue };
        hand.between(*line, *from, *to);
    }
    against
}

/// Entries while what points is placed among them.
struct Hand<'h, 's> {
    studio: &'h Studio,
    job: &'h Job,
    source: &'h Source<'s>,
    target: &'h Target,
    entries: &'h mut [Entry],
}

impl Hand<'_, '_> {
    fn height_of(&self, pointer: &Pointer) -> f64 {
        pointer.items().first().map_or(0.0, |at| self.source.matter[*at].seen.y0)
    }

    fn entry(&self, at: usize) -> Option<&Entry> {
        let id = &self.source.matter[at].item.id;
        self.entries.iter().find(|entry| entry.what.kept() == Some(id))
    }

    fn place(&self, at: usize) -> Option<Place> {
        self.entry(at).filter(|entry| entry.stands).map(|entry| entry.place)
    }

    fn put(&mut self, at: usize, place: Option<Place>) {
        let id = &self.source.matter[at].item.id;
        if let Some(entry) = self.entries.iter_mut().find(|entry| entry.what.kept() == Some(id)) {
            entry.stands = place.is_some();
            entry.place = place.unwrap_or(entry.place);
        }
    }

    fn item(&self, at: usize, place: Place) -> Item {
        Item { place, ..self.source.matter[at].item.clone() }
    }

    /// The box of what is seen of something in a place: of words their lines, with what is behind them.
    fn seen(&self, at: usize, place: Place) -> Rect {
        let one = &self.source.matter[at];
        let rect = self.studio.letters(self.job, &self.item(at, place));
        let pad = one.pad * (place.scale.get() / one.item.place.scale.get().max(1e-9));
        let turn = kurbo::Affine::rotate_about(place.at.turn.to_radians(), place.at.rect.to_css_px().center());
        turn.transform_rect_bbox(rect.inflate(pad.x, pad.y))
    }

    /// What stands of words, pictures or other things.
    fn standing(&self, is: impl Fn(&Matter<'_>) -> bool) -> Vec<(usize, Rect)> {
        let all = (0..self.source.matter.len()).filter(|at| is(&self.source.matter[*at]));
        all.filter_map(|at| Some((at, self.seen(at, self.place(at)?)))).collect()
    }

    /// A dot on its spot and the label beside it, or neither.
    fn call_out(
        &mut self,
        (dot, host, at): (usize, usize, Focus),
        label: Option<usize>,
        segments: &mut Vec<Line>,
    ) -> bool {
        let Some(frame) = self.place(host) else { return false };
        let shown = self.item(host, frame);
        let Some(spot) = self.studio.spot_on_sheet(self.job, &shown, at) else { return false };
        // What is cut off cannot be pointed at.
        if !frame.at.rect.to_css_px().intersect(self.target.sheet).contains(spot) {
            return false;
        }
        let one = &self.source.matter[dot];
        let unit = self.target.scale.max(self.target.least_scale(one));
        let dot_place = place_of(one, &Set::new(Rect::from_center_size(spot, one.rect.size() * unit), unit));
        if let Some(label) = label {
            let away = self.source.matter[label].ink.center() - one.seen.center();
            let Some((place, line)) = self.label_near((label, host), spot, away, segments) else { return false };
            self.put(label, Some(place));
            segments.push(line);
        }
        self.put(dot, Some(dot_place));
        true
    }

    /// The nearest place to where a label stood from its spot that is free, and the line to it.
    fn label_near(
        &self,
        (label, host): (usize, usize),
        spot: Point,
        away: Vec2,
        segments: &[Line],
    ) -> Option<(Place, Line)> {
        let (one, target) = (&self.source.matter[label], self.target);
        let measure = (target.sheet.width() * target.sheet.height()).sqrt();
        let taken: Vec<Rect> = self.standing(|one| one.is_words()).into_iter().map(|(_, rect)| rect).collect();
        let aside = |at: usize| {
            at != label && !self.source.matter[at].is_words() && {
                let other = self.source.matter[at].seen;
                other.intersect(one.ink).area() < one.ink.area() * 0.5
            }
        };
        // What it did not lie on it had better keep off.
        let things = self.standing(|_| true).into_iter().filter(|(at, _)| aside(*at));
        let things: Vec<(f64, Rect)> = things.map(|(at, rect)| (if at == host { 0.35 } else { 0.5 }, rect)).collect();
        let least = target.least_scale(one);
        let shares = SMALLER.map(|share| (target.scale * share).max(least));
        shares.into_iter().find_map(|unit| {
            let width = (one.rect.width() * unit).min(target.content.width() * 0.6);
            let at_origin =
                place_of(one, &Set::new(Rect::from_origin_size((0.0, 0.0), (width, one.rect.height() * unit)), unit));
            let ink = self.seen(label, at_origin);
            let free = target.content;
            if ink.width() > free.width() || ink.height() > free.height() {
                return None;
            }
            let wanted = held_in(Rect::from_center_size(spot + away * target.scale, ink.size()), free);
            let step = |low: f64, room: f64, at: usize| low + room * at as f64 / STEPS as f64;
            let rooms = (free.width() - ink.width(), free.height() - ink.height());
            let grid =
                (0..=STEPS * (STEPS + 2)).map(|at| (at % (STEPS + 1), at / (STEPS + 1))).map(|(across, down)| {
                    let corner = (step(free.x0, rooms.0, across), step(free.y0, rooms.1, down));
                    Rect::from_origin_size(corner, ink.size())
                });
            let gap = one.size * unit * 0.35;
            let tried = std::iter::once(wanted).chain(grid).filter_map(|rect| {
                let kept = rect.inflate(gap, gap);
                let line = Line::new(spot, leaving(rect, spot));
                let clear = taken.iter().all(|other| other.intersect(kept).area() <= 0.0 && !crosses(line, *other));
                let clear = clear && !kept.contains(spot) && !segments.iter().any(|other| crosses(*other, kept));
                clear.then(|| {
                    let over: f64 =
                        things.iter().map(|(cost, other)| cost * other.intersect(rect).area() / rect.area()).sum();
                    let met = segments
                        .iter()
                        .filter(|other| other.crossing_point(line).is_some_and(|at| on(**other, at) && on(line, at)));
                    let cost = rect.center().distance(wanted.center()) / measure + over + met.count() as f64 * 0.4;
                    (cost, rect, line)
                })
            });
            let (_, rect, line) = tried.min_by(|a, b| a.0.total_cmp(&b.0))?;
            let by = rect.origin() - ink.origin();
            let place = Place {
                at: Placement { rect: exact(at_origin.at.rect.to_css_px() + by), ..at_origin.at },
                ..at_origin
            };
            Some((place, line))
        })
    }

    /// A tied line reaches from what it comes from to what it goes to, where both stand.
    fn between(&mut self, line: usize, from: usize, to: usize) {
        let (Some(a), Some(b)) = (self.place(from), self.place(to)) else { return };
        let one = &self.source.matter[line];
        let thick = place_of(one, &Set::new(one.rect.scale_from_origin(self.target.scale), self.target.scale));
        self.put(line, Some(between(self.seen(from, a), self.seen(to, b), thick)));
    }

    /// A line again leads from its host to the words next to it: as it did, or another way where they stand elsewhere.
    fn lead(&mut self, lead: &Lead) -> bool {
        let one = &self.source.matter[lead.line];
        let Some(host) = self.place(lead.host).map(|place| place.at.rect.to_css_px()) else { return false };
        let words: Vec<Rect> = self.standing(|one| one.is_words()).into_iter().map(|(_, rect)| rect).collect();
        let unit = self.target.scale;
        let measure = (self.target.sheet.width() * self.target.sheet.height()).sqrt();
        let (long, thick) = (lead.axis.extent(one.seen) * unit, lead.axis.other().extent(one.seen) * unit);
        let ways = [
            (lead.axis, lead.forward),
            (Axis::Down, true),
            (Axis::Across, true),
            (Axis::Across, false),
            (Axis::Down, false),
        ];
        // What is a line by its kind has a direction of its own.
        let fixed = matches!(one.plain.content, Content::Shape { outline: Outline::Line });
        let found = ways.into_iter().filter(|(axis, _)| !fixed || *axis == lead.axis).find_map(|(axis, forward)| {
            let cross = axis.other();
            let away = |ink: &Rect| {
                if forward { axis.start(*ink) - axis.end(host) } else { axis.start(host) - axis.end(*ink) }
            };
            let shared = |ink: &Rect| {
                let (from, to) = (cross.start(host).max(cross.start(*ink)), cross.end(host).min(cross.end(*ink)));
                (to - from > thick).then_some((from + thick / 2.0, to - thick / 2.0))
            };
            let ahead = words.iter().filter(|ink| away(ink) > measure * 0.008 && shared(ink).is_some());
            let next = ahead.min_by(|a, b| away(a).total_cmp(&away(b)))?;
            let (from, to) = shared(next)?;
            let gap = (lead.gap * unit).min(away(next) * 0.4);
            let inset = (lead.inset * unit).clamp(-away(next) * 0.3, axis.extent(host) * 0.5);
            let length = (away(next) - gap + inset).min(long * 2.0);
            let wanted = if axis == lead.axis { lead.across } else { 0.5 };
            let middle = (cross.start(host) + cross.extent(host) * wanted).clamp(from, to);
            let begins = if forward { axis.end(host) - inset } else { axis.start(host) + inset };
            let (start, end) = if forward { (begins, begins + length) } else { (begins - length, begins) };
            let rect = axis.stretch(cross.stretch(Rect::ZERO, middle - thick / 2.0, middle + thick / 2.0), start, end);
            let free = words.iter().all(|ink| ink.intersect(rect).area() <= 0.0);
            (free && length > thick * 3.0 && away(next) < measure * 0.35).then_some(rect)
        });
        let place = found.map(|rect| place_of(one, &Set::new(rect, unit)));
        self.put(lead.line, place);
        place.is_some()
    }
}

/// Whether a point of the infinite line through both ends lies between them.
fn on(line: Line, at: Point) -> bool {
    Rect::from_points(line.p0, line.p1).inflate(1e-6, 1e-6).contains(at)
}

/// Whether a line passes through a box.
fn crosses(line: Line, rect: Rect) -> bool {
    let corners = [(rect.x0, rect.y0), (rect.x1, rect.y0), (rect.x1, rect.y1), (rect.x0, rect.y1)].map(Point::from);
    let sides = (0..4).map(|at| Line::new(corners[at], corners[(at + 1) % 4]));
    rect.contains(line.p0)
        || rect.contains(line.p1)
        || sides.into_iter().any(|side| side.crossing_point(line).is_some_and(|at| on(side, at) && on(line, at)))
}
