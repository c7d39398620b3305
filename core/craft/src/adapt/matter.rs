//! Reading a side: what each item is for an arrangement, and the tree in which they stand to each other.
//!
//! Nothing here knows a design. What lies on something is found by boxes and order, what stands beside or below something by cutting
//! the side along its gaps (recursive cuts along the projections, as in document analysis: Nagy and Seth, "Hierarchical representation
//! of optically scanned documents", 1984). What cannot be cut apart is one unit, or rides on what it overlaps.

use kurbo::{Point, Rect, Vec2};
use vatman_document::{Align, Content, Focus, Item, Outline, Paint, Part, Piece, Plain, Side, Tie};
use vatman_units::{Angle, Length};

use crate::adapt::pointing::{Pointer, pointers, room_around, shapes_showing, spots_on};
use crate::compose::least_type::lowness;
use crate::studio::Studio;

/// What an item is for an arrangement.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(crate) enum Kind {
    /// Words that may be broken and set anew.
    Words,
    /// A frame or a panel that may take any shape.
    Field,
    /// What keeps its proportion: graphics, round and drawn shapes, turned and arranged words.
    Solid,
    /// A straight line.
    Line,
}

/// One item as it is seen on its side, in CSS pixels.
pub(crate) struct Matter<'a> {
    pub item: &'a Item,
    pub plain: Plain<'a>,
    pub kind: Kind,
    /// Its place.
    pub rect: Rect,
    /// The upright box around what is drawn of it, a panel behind words included; of words as wide as the room they have.
    pub seen: Rect,
    /// The upright box around what is drawn of it, of words the lines alone.
    pub ink: Rect,
    /// Size of its type as set, or 0.
    pub size: f64,
    /// How much larger than usual its type has to be to be read.
    pub low: f64,
    /// What is seen at the padding of words.
    pub pad: Vec2,
}

impl Matter<'_> {
    pub(crate) fn is_words(&self) -> bool {
        self.plain.content.words().is_some()
    }

    pub(crate) fn is_picture(&self) -> bool {
        matches!(self.plain.content, Content::Picture { .. })
    }

    pub(crate) fn align(&self) -> Align {
        self.plain.look.type_look.as_ref().map_or(Align::Start, |look| look.align)
    }
}

/// How the things of a side stand to each other.
#[derive(Debug, Clone, PartialEq)]
pub(crate) enum Node {
    /// Words above each other, with the small things between them.
    Block(Vec<usize>),
    /// A frame or a panel, what covers all of it, and what stands on it.
    Field {
        /// Back to front.
        items: Vec<usize>,
        inside: Option<Box<Node>>,
        /// From its edges to what stands on it: left, top, right, bottom, in CSS pixels of the source.
        pad: [f64; 4],
        /// With the room its labels take around it.
        rect: Rect,
    },
    /// What keeps its arrangement and is scaled as one.
    Unit { items: Vec<usize>, rect: Rect },
    /// One after another.
    Run {
        axis: Axis,
        children: Vec<Node>,
        rect: Rect,
        /// The runs of a tree are counted from the outside in, in the order they are read; [`COLUMNS`] and [`GATHERED`] go across in any
        /// case.
        number: usize,
    },
}

/// The number of a run made of one block of words whose parts stand beside each other.
pub(crate) const COLUMNS: usize = usize::MAX;

/// The number of a run made of words that stood above and below a picture, and the picture.
pub(crate) const GATHERED: usize = usize::MAX - 1;

/// The number of the words in such a run, which stay below each other.
const TOGETHER: usize = usize::MAX - 2;

/// A tree in which the words above and below a picture stand together beside it; nothing where there is no such picture.
fn gathered(node: &Node, matter: &[Matter<'_>]) -> Option<Node> {
    match node {
        Node::Field { items, inside: Some(inside), pad, rect } => {
            let inside = Some(Box::new(gathered(inside, matter)?));
            Some(Node::Field { items: items.clone(), inside, pad: *pad, rect: *rect })
        }
        Node::Run { axis: Axis::Down, children, rect, .. } => {
            let all = |node: &Node, is: &dyn Fn(&Matter<'_>) -> bool| items_of(node).iter().all(|at| is(&matter[*at]));
            let shows = |node: &Node| all(node, &|one| !one.is_words() && one.kind != Kind::Line);
            let says = |node: &Node| all(node, &|one| one.is_words() || one.kind == Kind::Line);
            let at = children.iter().position(shows).filter(|at| (1..children.len() - 1).contains(at))?;
            let pictured = items_of(&children[at]).iter().any(|at| matter[*at].is_picture());
            let words: Vec<Node> = children.iter().filter(|child| says(child)).cloned().collect();
            if !pictured || words.len() + 1 != children.len() {
                return None;
            }
            let whole = words.iter().flat_map(items_of).map(|at| matter[at].seen).reduce(|a, b| a.union(b))?;
            let words = Node::Run { axis: Axis::Down, children: words, rect: whole, number: TOGETHER };
            let children = vec![words, children[at].clone()];
            Some(Node::Run { axis: Axis::Down, children, rect: *rect, number: GATHERED })
        }
        _ => None,
    }
}

/// Numbers the runs of a tree, from `next` on.
fn number_runs(node: &mut Node, next: &mut usize) {
    match node {
        Node::Run { children, number, .. } => {
            *number = *next;
            *next += 1;
            children.iter_mut().for_each(|child| number_runs(child, next));
        }
        Node::Field { inside: Some(inside), .. } => number_runs(inside, next),
        Node::Block(_) | Node::Field { .. } | Node::Unit { .. } => {}
    }
}

/// A tree with every block that has a headline and enough after it parted in two; nothing where there is none.
fn in_columns(node: &Node, matter: &[Matter<'_>]) -> Option<Node> {
    match node {
        Node::Block(rows) => {
            let headline = rows.iter().position(|at| matter[*at].plain.part == Part::Headline)?;
            let words = rows.iter().filter(|at| matter[**at].is_words()).count();
            let high = |rows: &[usize]| rows.iter().map(|at| matter[*at].seen.height()).sum::<f64>();
            // Where the two come nearest to being equally high.
            let apart = |at: usize| (high(&rows[..at]) - high(&rows[at..])).abs();
            let part = (headline + 1..rows.len()).min_by(|a, b| apart(*a).total_cmp(&apart(*b)))?;
            if words < 3 {
                return None;
            }
            let rect = rows.iter().map(|at| matter[*at].seen).reduce(|a, b| a.union(b))?;
            let children = [&rows[..part], &rows[part..]].map(|rows| Node::Block(rows.to_vec())).into();
            Some(Node::Run { axis: Axis::Down, children, rect, number: COLUMNS })
        }
        Node::Field { items, inside: Some(inside), pad, rect } => {
            let inside = in_columns(inside, matter)?;
            Some(Node::Field { items: items.clone(), inside: Some(Box::new(inside)), pad: *pad, rect: *rect })
        }
        Node::Run { axis, children, rect, number } => {
            let parted: Vec<Option<Node>> = children.iter().map(|child| in_columns(child, matter)).collect();
            parted.iter().any(Option::is_some).then(|| {
                let children = parted.into_iter().zip(children).map(|(new, old)| new.unwrap_or_else(|| old.clone()));
                Node::Run { axis: *axis, children: children.collect(), rect: *rect, number: *number }
            })
        }
        Node::Field { inside: None, .. } | Node::Unit { .. } => None,
    }
}

/// How many runs a tree has.
pub(crate) fn count_runs(node: &Node) -> usize {
    match node {
        Node::Run { children, .. } => 1 + children.iter().map(count_runs).sum::<usize>(),
        Node::Field { inside: Some(inside), .. } => count_runs(inside),
        Node::Block(_) | Node::Field { .. } | Node::Unit { .. } => 0,
    }
}

/// A direction in which things follow each other.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Axis {
    Across,
    Down,
}

impl Axis {
    pub(crate) const fn other(self) -> Self {
        match self {
            Self::Across => Self::Down,
            Self::Down => Self::Across,
        }
    }

    pub(crate) fn start(self, rect: Rect) -> f64 {
        if self == Self::Across { rect.x0 } else { rect.y0 }
    }

    pub(crate) fn end(self, rect: Rect) -> f64 {
        if self == Self::Across { rect.x1 } else { rect.y1 }
    }

    pub(crate) fn extent(self, rect: Rect) -> f64 {
        self.end(rect) - self.start(rect)
    }

    /// A rectangle with another stretch in this direction.
    pub(crate) fn stretch(self, rect: Rect, from: f64, to: f64) -> Rect {
        if self == Self::Across { Rect::new(from, rect.y0, to, rect.y1) } else { Rect::new(rect.x0, from, rect.x1, to) }
    }
}

/// What keeps its place beside or on something else.
#[derive(Debug, Clone, PartialEq)]
pub(crate) enum Rider {
    /// On a thing of the tree, at fractions of its box.
    On { item: usize, host: usize, at: Point },
    /// At the edges of the sheet it is near: -1 left or top, 1 right or bottom, 0 in the middle.
    Pinned { item: usize, edge: (i8, i8) },
    /// Over all of the sheet, with nothing standing on it.
    Everywhere { item: usize },
}

/// A side as it is read.
pub(crate) struct Source<'a> {
    pub matter: Vec<Matter<'a>>,
    /// Nothing where nothing stands on the side.
    pub tree: Option<Node>,
    /// The same with what a headline says and what follows it in two columns, where a block of words can be parted so.
    pub columns: Option<Node>,
    /// The same with the words above and below a picture together beside it.
    pub gathered: Option<Node>,
    pub riders: Vec<Rider>,
    /// What stands nowhere by itself, and takes its place when all else has one.
    pub pointers: Vec<Pointer>,
    /// For each item the room its labels take beyond its edges: left, top, right, bottom, in CSS pixels.
    pub rooms: Vec<[f64; 4]>,
    /// For each item the proportions, width by height, between which its frame shows all of a picture that something points at.
    pub shapes: Vec<(f64, f64)>,
    /// The finished sheet.
    pub sheet: Rect,
    /// From the edges of the sheet to the nearest words.
    pub margin: f64,
}

/// Less than this beyond or before an edge is on it, as a share of the measure of the sheet.
const NEAR: f64 = 0.006;
/// The share of an item that has to lie on something for it to stand on it.
const ON: f64 = 0.92;
/// Words that lie less than this share of theirs on something reach into it, and stand beside it.
const REACH: f64 = 0.6;
/// The share of the shorter of two stretches by which they may overlap and still be cut apart.
const OVERLAP: f64 = 0.12;

impl<'a> Source<'a> {
    /// Reads a side.
    pub(crate) fn read(studio: &Studio, job: &'a vatman_document::Job, piece: &Piece, side: &'a Side) -> Self {
        let sheet = vatman_units::Rect::of(piece.format.size).to_css_px();
        let measure = piece.format.size.measure().to_css_px();
        let matter: Vec<Matter<'a>> = side
            .items
            .iter()
            .filter(|item| !item.hidden)
            .filter_map(|item| Some(matter_of((studio, job), item, job.plain(item)?, measure)))
            .collect();
        let inside = |r: Rect| [r.x0 - sheet.x0, r.y0 - sheet.y0, sheet.x1 - r.x1, sheet.y1 - r.y1];
        let words = matter.iter().filter(|one| one.is_words());
        let margin = words.flat_map(|one| inside(one.seen)).fold(f64::INFINITY, f64::min);
        let margin = if margin.is_finite() { margin.clamp(0.0, measure * 0.12) } else { measure * 0.06 };
        let pointers = pointers(&matter, measure, measure * NEAR);
        let rooms: Vec<[f64; 4]> = (0..matter.len()).map(|at| room_around(&matter, &pointers, at)).collect();
        let mut reader =
            Reader { matter: &matter, pointers: &pointers, rooms: &rooms, sheet, measure, riders: Vec::new() };
        let mut tree = reader.read();
        let mut runs = 0;
        tree.iter_mut().for_each(|tree| number_runs(tree, &mut runs));
        let riders = reader.riders;
        let columns = tree.as_ref().and_then(|tree| in_columns(tree, &matter));
        let gathered = tree.as_ref().and_then(|tree| gathered(tree, &matter));
        let shapes = (0..matter.len()).map(|at| shapes_showing(studio, &matter, &pointers, at)).collect();
        Self { matter, tree, columns, gathered, riders, pointers, rooms, shapes, sheet, margin }
    }

    /// The side of the square of equal area.
    pub(crate) fn measure(&self) -> f64 {
        (self.sheet.width() * self.sheet.height()).sqrt()
    }

    /// The spots of the picture of an item that something points at.
    pub(crate) fn spots_of(&self, item: &vatman_document::ItemId) -> Vec<Focus> {
        let host = self.matter.iter().position(|one| one.item.id == *item);
        host.map(|host| spots_on(&self.pointers, host)).unwrap_or_default()
    }

    /// Whether a box reaches one of the edges of the sheet: left, top, right, bottom.
    pub(crate) fn bleeds(&self, rect: Rect) -> [bool; 4] {
        touches(rect, self.sheet, self.measure() * NEAR)
    }
}

/// The edges of `outer` that `rect` reaches: left, top, right, bottom.
fn touches(rect: Rect, outer: Rect, near: f64) -> [bool; 4] {
    [rect.x0 <= outer.x0 + near, rect.y0 <= outer.y0 + near, rect.x1 >= outer.x1 - near, rect.y1 >= outer.y1 - near]
}

fn matter_of<'a>(
    (studio, job): (&Studio, &vatman_document::Job),
    item: &'a Item,
    plain: Plain<'a>,
    measure: f64,
) -> Matter<'a> {
    let rect = item.place.at.rect.to_css_px();
    let drawn = studio.drawn(job, item).to_css_px();
    let upright =
        |r: Rect| kurbo::Affine::rotate_about(item.place.at.turn.to_radians(), r.center()).transform_rect_bbox(r);
    let look = plain.look.type_look.as_ref();
    let size = look
        .filter(|_| plain.content.words().is_some())
        .map_or(0.0, |look| (look.size.to_css_px()) * item.place.scale.get());
    let pad = plain
        .look
        .backing
        .as_ref()
        .map_or(Vec2::ZERO, |backing| Vec2::new(backing.pad_x.get() * size, backing.pad_y.get() * size));
    let kind = kind_of(&plain, rect, measure);
    // Words stand in their place, which is as wide as the room they have; what is seen of buttons hugs their lines.
    let base =
        if kind == Kind::Words { Rect::new(rect.x0, drawn.y0, rect.x1, drawn.y1.max(drawn.y0 + 1.0)) } else { drawn };
    let seen = upright(base.inflate(pad.x, pad.y));
    let ink = if kind == Kind::Words { seen.intersect(studio.letters(job, item).inflate(pad.x, pad.y)) } else { seen };
    let low = look.map_or(1.0, |look| lowness(look, &studio.typesetter));
    Matter { item, plain, kind, rect, seen, ink, size, low, pad }
}

fn kind_of(plain: &Plain<'_>, rect: Rect, measure: f64) -> Kind {
    let turned = plain.item.place.at.turn != Angle::ZERO;
    let free = |outline: &Outline| match outline {
        Outline::Rect { .. } | Outline::Corners { .. } => true,
        // An upright doorway can be a little wider or narrower.
        Outline::Arch => false,
        _ => false,
    };
    match plain.content {
        Content::Words { .. } => {
            let look = plain.look.type_look.as_ref();
            let arranged = look.is_some_and(|look| look.curve.is_some() || look.lock_up.is_some());
            if turned || arranged { Kind::Solid } else { Kind::Words }
        }
        Content::Shape { outline: Outline::Line } if !turned => Kind::Line,
        Content::Shape { outline } if !turned && free(outline) => {
            let (short, long) = (rect.width().min(rect.height()), rect.width().max(rect.height()));
            // A bar between words is a rule, however bold.
            if short < long * 0.02 || short < (long * 0.2).min(measure * 0.02) { Kind::Line } else { Kind::Field }
        }
        Content::Picture { frame, .. } if !turned && free(frame) => Kind::Field,
        _ => Kind::Solid,
    }
}

struct Reader<'m, 'a> {
    matter: &'m [Matter<'a>],
    pointers: &'m [Pointer],
    rooms: &'m [[f64; 4]],
    sheet: Rect,
    measure: f64,
    riders: Vec<Rider>,
}

/// Things that stand together: what is cut, by its box.
struct Thing {
    node: Node,
    rect: Rect,
}

impl Reader<'_, '_> {
    fn read(&mut self) -> Option<Node> {
        let mut tops: Vec<Vec<usize>> = Vec::new();
        let mut taken = vec![false; self.matter.len()];
        self.pointers.iter().flat_map(Pointer::items).for_each(|at| taken[at] = true);
        self.over(&mut taken);
        // Groups of what stands together stay as they are, unless they are most of the side.
        for at in 0..self.matter.len() {
            let Some(group) = self.matter[at].item.groups.first().filter(|_| !taken[at]) else { continue };
            let members: Vec<usize> =
                (0..self.matter.len()).filter(|other| self.matter[*other].item.groups.first() == Some(group)).collect();
            let rect = self.around(&members);
            let most = rect.area() > self.sheet.area() * 0.45;
            if !most && members.len() > 1 {
                members.iter().for_each(|one| taken[*one] = true);
                tops.push(members);
            }
        }
        let loose = (0..self.matter.len()).filter(|at| !taken[*at]).map(|at| vec![at]);
        let mut all: Vec<Vec<usize>> = tops.into_iter().chain(loose).collect();
        all.sort_by_key(|members| members[0]);
        self.pin(&mut all);
        let parents = self.parents(&all);
        let children = |of: Option<usize>| -> Vec<usize> { (0..all.len()).filter(|one| parents[*one] == of).collect() };
        self.node(&all, &children, None, self.sheet)
    }

    /// What lies over a picture goes where that goes.
    fn over(&mut self, taken: &mut [bool]) {
        for (at, one) in self.matter.iter().enumerate() {
            let over = one.item.ties.iter().find_map(|tie| match tie {
                Tie::Over { of } => {
                    self.matter.iter().position(|host| host.item.id == *of && host.item.id != one.item.id)
                }
                _ => None,
            });
            if let Some(host) = over.filter(|_| !taken[at]) {
                taken[at] = true;
                self.ride(at, host);
            }
        }
    }

    fn ride(&mut self, item: usize, host: usize) {
        let on = self.matter[host].seen;
        let at = self.matter[item].seen.center() - on.origin();
        let share = |v: f64, whole: f64| if whole > 0.0 { v / whole } else { 0.5 };
        let at = Point::new(share(at.x, on.width()), share(at.y, on.height()));
        self.riders.push(Rider::On { item, host, at });
    }

    /// Small ornaments near a corner or an edge of the sheet stay there, and so does what reaches beyond the sheet; what lies over everything goes
    /// on doing so.
    fn pin(&mut self, all: &mut Vec<Vec<usize>>) {
        let (sheet, measure) = (self.sheet, self.measure);
        let mut pinned = Vec::new();
        for members in all.iter() {
            let [at] = members[..] else { continue };
            let one = &self.matter[at];
            let rect = one.seen;
            let under = self.matter[..at].iter().any(|other| other.is_words() || other.is_picture());
            let bare = !self.matter[at + 1..].iter().any(|other| other.is_words());
            if one.kind == Kind::Field && under && bare && touches(rect, sheet, measure * NEAR) == [true; 4] {
                pinned.push(at);
                self.riders.push(Rider::Everywhere { item: at });
                continue;
            }
            if one.is_words() || one.is_picture() || one.kind == Kind::Field && rect.area() > sheet.area() * 0.03 {
                continue;
            }
            let out = rect.x0 < -measure * 0.01
                || rect.y0 < -measure * 0.01
                || rect.x1 > sheet.x1 + measure * 0.01
                || rect.y1 > sheet.y1 + measure * 0.01;
            let small = rect.area() < sheet.area() * 0.06 && one.plain.part == Part::Ornament;
            let carries = (at + 1..self.matter.len())
                .any(|other| self.matter[other].is_words() && share_inside(self.matter[other].seen, rect) > 0.5);
            let edge = |from: f64, to: f64, low: f64, high: f64| {
                let reach = measure * 0.14;
                let (before, after) = (from - low, high - to);
                if before.min(after) > reach {
                    0
                } else if before <= after {
                    -1
                } else {
                    1
                }
            };
            let corner = (edge(rect.x0, rect.x1, sheet.x0, sheet.x1), edge(rect.y0, rect.y1, sheet.y0, sheet.y1));
            let in_corner = corner.0 != 0 && corner.1 != 0 && rect.width() < sheet.width() * 0.4;
            if !carries && (out && rect.area() < sheet.area() * 0.5 || small && in_corner) {
                pinned.push(at);
                self.riders.push(Rider::Pinned { item: at, edge: corner });
            }
        }
        all.retain(|members| !(members.len() == 1 && pinned.contains(&members[0])));
    }

    fn around(&self, members: &[usize]) -> Rect {
        members.iter().map(|at| self.matter[*at].seen).reduce(|a, b| a.union(b)).unwrap_or_default()
    }

    /// For each thing the one it stands on: the topmost below it that it lies on almost wholly.
    fn parents(&self, all: &[Vec<usize>]) -> Vec<Option<usize>> {
        let carries = |at: usize| {
            let [one] = all[at][..] else { return false };
            match self.matter[one].kind {
                Kind::Field => true,
                Kind::Solid => !self.matter[one].is_words(),
                _ => false,
            }
        };
        let rects: Vec<Rect> = all.iter().map(|members| self.around(members)).collect();
        // Beyond the sheet is nowhere: what goes out to the bleed lies on what ends at the trim.
        let held = |rect: Rect| rect.intersect(self.sheet);
        (0..all.len())
            .map(|at| {
                (0..at).rev().find(|below| {
                    carries(*below)
                        && held(rects[*below]).area() >= held(rects[at]).area() * 0.999
                        && share_inside(held(rects[at]), rects[*below]) > ON
                })
            })
            .collect()
    }

    /// What stands on one thing (or on the sheet), arranged within its box.
    fn node(
        &mut self,
        all: &[Vec<usize>],
        children: &dyn Fn(Option<usize>) -> Vec<usize>,
        of: Option<usize>,
        within: Rect,
    ) -> Option<Node> {
        let mut things: Vec<Thing> = children(of).into_iter().filter_map(|at| self.thing(all, children, at)).collect();
        self.veiled(&mut things, within);
        self.cut(things, within)
    }

    /// A shade over all of a region, on which words stand, belongs to the picture below it: the two become one field.
    fn veiled(&self, things: &mut Vec<Thing>, within: Rect) {
        let near = self.measure * NEAR;
        let held = within.intersect(self.sheet);
        let veil = things.iter().position(|thing| match &thing.node {
            Node::Field { items, inside: Some(_), .. } => {
                touches(thing.rect, held, near) == [true; 4] && items.iter().all(|at| is_shade(&self.matter[*at]))
            }
            _ => false,
        });
        let Some(veil) = veil.filter(|veil| *veil > 0) else { return };
        let below = (0..veil).rfind(|at| match &things[*at].node {
            Node::Field { items, inside: None, .. } => self.matter[items[0]].is_picture(),
            _ => false,
        });
        let Some(below) = below else { return };
        let Thing { node: Node::Field { items: over, inside, pad, rect }, .. } = things.remove(veil) else { return };
        let Node::Field { items: under, .. } = &things[below].node else { return };
        let items = under.iter().chain(&over).copied().collect();
        things[below] = Thing { node: Node::Field { items, inside, pad, rect }, rect };
    }

    fn thing(
        &mut self,
        all: &[Vec<usize>],
        children: &dyn Fn(Option<usize>) -> Vec<usize>,
        at: usize,
    ) -> Option<Thing> {
        let own = self.around(&all[at]);
        // With the room that labels around it take.
        let rect = match all[at][..] {
            [one] => outset(own, self.rooms[one]),
            _ => own,
        };
        let ink = all[at].iter().map(|one| self.matter[*one].ink).reduce(|a, b| a.union(b)).unwrap_or(rect);
        let [one] = all[at][..] else {
            let items = self.with_all_inside(all, children, at);
            return Some(Thing { rect, node: Node::Unit { items, rect } });
        };
        let node = match self.matter[one].kind {
            Kind::Words | Kind::Line => {
                return Some(Thing { rect: ink, node: Node::Block(vec![one]) });
            }
            Kind::Solid => Node::Unit { items: self.with_all_inside(all, children, at), rect },
            Kind::Field => {
                let inside = self.node(all, children, Some(at), own);
                field(one, (own, rect), inside, self)
            }
        };
        Some(Thing { node, rect })
    }

    fn with_all_inside(
        &self,
        all: &[Vec<usize>],
        children: &dyn Fn(Option<usize>) -> Vec<usize>,
        at: usize,
    ) -> Vec<usize> {
        let mut items = all[at].clone();
        for child in children(Some(at)) {
            items.extend(self.with_all_inside(all, children, child));
        }
        items.sort_unstable();
        items
    }

    /// Cuts things apart along their gaps until each stands alone; what cannot be cut is one unit, less what is small enough to ride.
    fn cut(&mut self, mut things: Vec<Thing>, within: Rect) -> Option<Node> {
        if things.len() < 2 {
            return things.pop().map(|thing| thing.node);
        }
        let cuts = [Axis::Down, Axis::Across].map(|axis| (axis, parted(&mut things, axis)));
        let [(_, (down, down_gap)), (_, (across, across_gap))] = &cuts;
        let axis = match (down.len() > 1, across.len() > 1) {
            (true, true) if across_gap > down_gap => Some(Axis::Across),
            (true, _) => Some(Axis::Down),
            (false, true) => Some(Axis::Across),
            (false, false) => None,
        };
        let Some(axis) = axis else { return self.together(things, within) };
        things.sort_by(|a, b| axis.start(a.rect).total_cmp(&axis.start(b.rect)));
        let sizes = if axis == Axis::Down { down } else { across };
        let mut rest = things.into_iter();
        let mut children = Vec::new();
        for size in sizes {
            let part: Vec<Thing> = rest.by_ref().take(*size).collect();
            children.extend(self.cut(part, within));
        }
        Some(self.run(axis, children))
    }

    /// Things one after another; words and small things below each other are one block.
    fn run(&self, axis: Axis, children: Vec<Node>) -> Node {
        let flat = children.into_iter().flat_map(|node| match node {
            Node::Run { axis: own, children, .. } if own == axis => children,
            node => vec![node],
        });
        let mut joined: Vec<Node> = Vec::new();
        for node in flat {
            match (joined.last_mut(), node) {
                (Some(Node::Block(rows)), Node::Block(more)) if axis == Axis::Down && self.follow(rows, &more) => {
                    rows.extend(more);
                }
                (_, node) => joined.push(node),
            }
        }
        let rect = joined.iter().map(|node| self.rect(node)).reduce(|a, b| a.union(b)).unwrap_or_default();
        if joined.len() == 1 { joined.swap_remove(0) } else { Node::Run { axis, children: joined, rect, number: 0 } }
    }

    /// Whether rows belong together: no gap between them is larger than three lines.
    fn follow(&self, rows: &[usize], more: &[usize]) -> bool {
        let (above, below) = (self.around(rows), self.around(more));
        let lead = |rows: &[usize]| rows.iter().map(|at| self.matter[*at].size).fold(0.0, f64::max);
        let size = lead(rows).max(lead(more)).max(self.measure * 0.02);
        let shared = above.x1.min(below.x1) - above.x0.max(below.x0);
        below.y0 - above.y1 < size * 2.2 && shared > above.width().min(below.width()) * 0.3
    }

    pub(crate) fn rect(&self, node: &Node) -> Rect {
        match node {
            Node::Block(rows) => self.around(rows),
            Node::Field { rect, .. } | Node::Unit { rect, .. } | Node::Run { rect, .. } => *rect,
        }
    }

    /// Things that overlap: the smallest rides on what it overlaps most, until the rest can be cut; else all are one unit.
    fn together(&mut self, mut things: Vec<Thing>, within: Rect) -> Option<Node> {
        let whole: f64 = things.iter().map(|thing| thing.rect.area()).sum();
        let smallest = (0..things.len()).min_by(|a, b| things[*a].rect.area().total_cmp(&things[*b].rect.area()));
        if let Some(at) = smallest
            && things[at].rect.area() < whole * 0.2
            && !speaks_loud(&things[at].node, self.matter)
        {
            // Words that only reach into something stand beside it.
            if matches!(things[at].node, Node::Block(_))
                && let Some(rect) =
                    (0..things.len()).filter(|other| *other != at).find_map(|other| trimmed(&things, at, other))
            {
                things[at].rect = rect;
                return self.cut(things, within);
            }
            let small = things.swap_remove(at);
            let over = |thing: &Thing| thing.rect.intersect(small.rect).area();
            let host = things.iter().max_by(|a, b| over(a).total_cmp(&over(b))).map(|thing| back_of(&thing.node));
            if let Some(Some(host)) = host {
                for item in items_of(&small.node) {
                    self.ride(item, host);
                }
                return self.cut(things, within);
            }
            things.push(small);
        }
        let rect = things.iter().map(|thing| thing.rect).reduce(|a, b| a.union(b))?;
        let mut items: Vec<usize> = things.iter().flat_map(|thing| items_of(&thing.node)).collect();
        items.sort_unstable();
        Some(Node::Unit { items, rect })
    }
}

/// What of a thing does not reach into another, where it only reaches into it.
fn trimmed(things: &[Thing], at: usize, other: usize) -> Option<Rect> {
    let (own, other) = (things[at].rect, things[other].rect);
    let shared = own.intersect(other);
    if shared.width() <= 0.0 || shared.height() <= 0.0 || shared.area() > own.area() * REACH {
        return None;
    }
    let axis = if shared.height() / own.height() <= shared.width() / own.width() { Axis::Down } else { Axis::Across };
    let before = axis.start(own) < axis.start(shared);
    let after = axis.end(own) > axis.end(shared);
    match (before, after) {
        (true, false) => Some(axis.stretch(own, axis.start(own), axis.start(shared))),
        (false, true) => Some(axis.stretch(own, axis.end(shared), axis.end(own))),
        _ => None,
    }
}

/// A frame or panel with what stands on it; one that is covered wholly by another becomes one with it.
fn field(one: usize, (held, rect): (Rect, Rect), inside: Option<Node>, reader: &Reader<'_, '_>) -> Node {
    let Some(inside) = inside else { return Node::Field { items: vec![one], inside: None, pad: [0.0; 4], rect } };
    let near = reader.measure * NEAR;
    if let Node::Field { items, inside: within, pad, rect: own } = &inside
        && touches(*own, held.intersect(reader.sheet), near) == [true; 4]
    {
        let items = std::iter::once(one).chain(items.iter().copied()).collect();
        return Node::Field { items, inside: within.clone(), pad: *pad, rect };
    }
    let own = reader.rect(&inside);
    let pad = [own.x0 - held.x0, own.y0 - held.y0, held.x1 - own.x1, held.y1 - own.y1].map(|pad| pad.max(0.0));
    Node::Field { items: vec![one], inside: Some(Box::new(inside)), pad, rect }
}

/// Every item of a part of the tree.
pub(crate) fn items_of(node: &Node) -> Vec<usize> {
    match node {
        Node::Block(rows) => rows.clone(),
        Node::Unit { items, .. } => items.clone(),
        Node::Field { items, inside, .. } => {
            items.iter().copied().chain(inside.iter().flat_map(|inside| items_of(inside))).collect()
        }
        Node::Run { children, .. } => children.iter().flat_map(items_of).collect(),
    }
}

/// What something can ride on: the lowest item of a part of the tree.
fn back_of(node: &Node) -> Option<usize> {
    items_of(node).into_iter().min()
}

/// Whether a headline or a price is in it: those never ride.
fn speaks_loud(node: &Node, matter: &[Matter<'_>]) -> bool {
    items_of(node).iter().any(|at| matches!(matter[*at].plain.part, Part::Headline | Part::Support | Part::MainPicture))
}

/// A box with room around it: left, top, right, bottom.
pub(crate) fn outset(rect: Rect, by: [f64; 4]) -> Rect {
    Rect::new(rect.x0 - by[0], rect.y0 - by[1], rect.x1 + by[2], rect.y1 + by[3])
}

/// How much of a box lies in another.
fn share_inside(rect: Rect, outer: Rect) -> f64 {
    if rect.area() > 0.0 {
        rect.intersect(outer).area() / rect.area()
    } else {
        f64::from(u8::from(outer.contains(rect.center())))
    }
}

/// How many things there are between each two cuts in a direction, and the widest gap. Sorts them.
fn parted(things: &mut [Thing], axis: Axis) -> (Vec<usize>, f64) {
    things.sort_by(|a, b| axis.start(a.rect).total_cmp(&axis.start(b.rect)));
    let (mut sizes, mut widest) = (vec![1], 0.0f64);
    let mut end = things.first().map_or(0.0, |thing| axis.end(thing.rect));
    let mut shortest = things.first().map_or(0.0, |thing| axis.extent(thing.rect));
    for thing in things.iter().skip(1) {
        let own = axis.extent(thing.rect);
        let gap = axis.start(thing.rect) - end;
        if gap >= -OVERLAP * shortest.min(own) - 0.5 {
            sizes.push(1);
            widest = widest.max(gap);
            shortest = own;
        } else {
            *sizes.last_mut().unwrap_or(&mut 0) += 1;
            shortest = shortest.min(own);
        }
        end = end.max(axis.end(thing.rect));
    }
    (sizes, widest)
}

/// Whether a panel is a shade: it lets through what lies below it.
pub(crate) fn is_shade(one: &Matter<'_>) -> bool {
    if !matches!(one.plain.content, Content::Shape { .. }) {
        return false;
    }
    match &one.plain.look.fill {
        Some(Paint::Flat { opacity, .. }) => opacity.get() < 0.95,
        Some(_) => true,
        None => false,
    }
}

/// A length of the core from CSS pixels.
pub(crate) fn px(value: f64) -> Length {
    Length::css_px(value)
}
