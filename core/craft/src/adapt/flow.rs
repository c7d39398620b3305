//! Laying a tree out in another shape: runs may turn, pictures give way, words are broken anew at the largest common scale that fits.

use kurbo::{Rect, Vec2};
use vatman_document::{Content, Outline};
use vatman_type::Typesetter;

use crate::adapt::matter::{Axis, COLUMNS, GATHERED, Kind, Matter, Node, Source, items_of};
use crate::adapt::pointing::Pointer;
use crate::adapt::riders::anchored;
use crate::adapt::shades::{Edge, shade_from, side_shade};
use crate::compose::block::importance;
use crate::compose::least_type::LeastType;
use crate::compose::place::{PlaceEntry, meet};

/// Where a tree is to be laid out, in CSS pixels.
pub(crate) struct Target {
    /// The finished sheet.
    pub sheet: Rect,
    /// Where words may stand.
    pub content: Rect,
    /// How far what touches the edges goes on.
    pub bleed: f64,
    /// Least size of type in a usual family.
    pub least: f64,
    /// How much larger it is than the source, by the sides of the squares of equal area.
    pub scale: f64,
}

impl Target {
    pub(crate) fn of(entry: &PlaceEntry, source: &Source<'_>) -> Self {
        let format = &entry.format;
        let whole = vatman_units::Rect::of(format.size);
        let sheet = whole.to_css_px();
        let measure = format.size.measure().to_css_px();
        let scale = measure / source.measure();
        let short = sheet.width().min(sheet.height());
        let margin = (source.margin * scale).min(short * 0.1).max(format.safe.to_css_px());
        let safe = whole.outset(-vatman_units::Length::css_px(margin));
        let content = entry.clear_of_covers(meet(whole, safe)).to_css_px();
        let least = LeastType::at(entry).usual().to_css_px();
        Self { sheet, content, bleed: format.bleed.to_css_px(), least, scale }
    }

    /// How much smaller or larger than in the source an item is at least, for its words to be read; 0 without words.
    pub(crate) fn least_scale(&self, one: &Matter<'_>) -> f64 {
        if one.size > 0.0 { self.least * one.low / one.size } else { 0.0 }
    }
}

/// One way of laying a tree out.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(crate) struct Way {
    /// Which runs go the other way, by their place among the runs of the tree from the top.
    pub turned: u8,
    /// The things of the first run stand in the opposite order.
    pub reversed: bool,
    /// How much of what they had pictures take.
    pub share: f64,
    /// Words take all the width there is.
    pub wide: bool,
    /// Pictures are left out where that leaves words.
    pub without_pictures: bool,
    /// The picture beside a panel with words covers the sheet, and the panel lies on it.
    pub over: bool,
    /// Shades that come from the side come from the foot, with the words that stood at that side.
    pub from_foot: bool,
    /// What follows a headline stands beside it.
    pub columns: bool,
    /// What stood above and below a picture stands together beside it.
    pub gathered: bool,
}

impl Way {
    pub(crate) const AS_IT_IS: Self = Self {
        turned: 0,
        reversed: false,
        share: 1.0,
        wide: false,
        without_pictures: false,
        over: false,
        from_foot: false,
        columns: false,
        gathered: false,
    };
}

/// Where an item comes to stand.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(crate) struct Set {
    /// Its place.
    pub rect: Rect,
    /// How much its lengths grow.
    pub scale: f64,
    /// By how many degrees its shade is turned.
    pub shade: f64,
    /// How much further its shade reaches, as words on it do.
    pub reach: f64,
}

impl Set {
    pub(crate) const fn new(rect: Rect, scale: f64) -> Self {
        Self { rect, scale, shade: 0.0, reach: 1.0 }
    }
}

/// A tree laid out.
#[derive(Debug, Clone)]
pub(crate) struct Composition {
    /// One for each item of the source, nothing for what there is no room for.
    pub places: Vec<Option<Set>>,
    /// All words stand in sizes that can be read, within their fields.
    pub fits: bool,
    /// Size of words relative to that of the source, at the scale of the sheets.
    pub type_scale: f64,
}

/// Sizes of type within which words are set, relative to those of the source at the scale of the sheets.
pub(super) const LARGEST: f64 = 1.3;
const SMALLEST: f64 = 0.12;
/// The most that labels take on one side of a thing, as a share of it with them.
const MOST_ROOM: f64 = 0.3;

/// Lays a source out in one way. What there is no room for at sizes that can be read is left out, the least important first.
pub(crate) fn lay_out(source: &Source<'_>, target: &Target, way: &Way, typesetter: &Typesetter) -> Composition {
    let mut gone = vec![false; source.matter.len()];
    if way.without_pictures {
        for (at, one) in source.matter.iter().enumerate() {
            gone[at] = one.is_picture();
        }
        if let Some(tree) = &source.tree {
            emptied(tree, &mut gone);
        }
    }
    loop {
        let attempt = |scale: f64| {
            let mut flow = Flow {
                source,
                target,
                way,
                gone: &gone,
                words: scale,
                typesetter,
                places: vec![None; source.matter.len()],
                fits: true,
            };
            flow.whole();
            flow
        };
        let smallest = attempt(SMALLEST);
        let mut best = (smallest.places, smallest.fits, SMALLEST);
        if best.1 {
            let (mut low, mut high) = (SMALLEST, LARGEST);
            let largest = attempt(LARGEST);
            if largest.fits {
                best = (largest.places, true, LARGEST);
            } else {
                for _ in 0..8 {
                    let middle = f64::midpoint(low, high);
                    let tried = attempt(middle);
                    if tried.fits {
                        (low, best) = (middle, (tried.places, true, middle));
                    } else {
                        high = middle;
                    }
                }
            }
        } else if let Some(least) = least_important(source, &gone) {
            gone[least] = true;
            continue;
        }
        let (places, fits, type_scale) = best;
        return Composition { places, fits, type_scale };
    }
}

/// What is left out next: of the words that still stand the least important, never the last.
fn least_important(source: &Source<'_>, gone: &[bool]) -> Option<usize> {
    let pointing: Vec<usize> = source.pointers.iter().flat_map(Pointer::items).collect();
    let standing = |at: &usize| !gone[*at] && source.matter[*at].is_words() && !pointing.contains(at);
    let all: Vec<usize> = (0..source.matter.len()).filter(standing).collect();
    let least = all.iter().copied().max_by_key(|at| (importance(source.matter[*at].plain.part), *at))?;
    (all.len() > 1).then_some(least)
}

/// A panel on which nothing is left goes with what it was for.
fn emptied(node: &Node, gone: &mut [bool]) {
    match node {
        Node::Field { items, inside: Some(inside), .. } => {
            emptied(inside, gone);
            if items_of(inside).iter().all(|at| gone[*at]) {
                items.iter().for_each(|at| gone[*at] = true);
            }
        }
        Node::Run { children, .. } => children.iter().for_each(|child| emptied(child, gone)),
        Node::Block(_) | Node::Field { inside: None, .. } | Node::Unit { .. } => {}
    }
}

pub(super) struct Flow<'f, 's> {
    pub source: &'f Source<'s>,
    pub target: &'f Target,
    way: &'f Way,
    pub gone: &'f [bool],
    /// Size of words relative to that of the source, at the scale of the sheets.
    pub words: f64,
    pub typesetter: &'f Typesetter,
    pub places: Vec<Option<Set>>,
    fits: bool,
}

impl Flow<'_, '_> {
    fn whole(&mut self) {
        let columns = self.source.columns.as_ref().filter(|_| self.way.columns);
        let gathered = self.source.gathered.as_ref().filter(|_| self.way.gathered);
        if let Some(tree) = columns.or(gathered).or(self.source.tree.as_ref()) {
            if let (true, Some((back, front))) = (self.way.over, over(tree)) {
                self.over(back, front);
            } else {
                self.place(tree, self.target.sheet, self.source.sheet);
            }
        }
        self.riders();
    }

    /// The picture covers the sheet, and the panel with the words lies on it where the words stood.
    fn over(&mut self, back: &Node, front: &Node) {
        let sheet = self.target.sheet;
        self.put_field(back, sheet);
        let content = self.target.content;
        // A wide sheet has the panel at its side, a tall one at its foot.
        let (frame, region) = (self.source.sheet, content);
        let wide = region.width() > region.height() * 1.15;
        let node = self.rect(front);
        let across = if wide { region.width() * 0.5 } else { region.width() };
        let down = self.need(front, Axis::Down, across);
        let before = node.center().x < frame.center().x;
        let x0 = if before || !wide { region.x0 } else { region.x1 - across };
        let high = if wide { region.height().min(down.max(region.height() * 0.6)) } else { down };
        if !down.is_finite() || down > region.height() + 0.5 {
            self.fits = false;
        }
        let y0 = if wide { region.center().y - high / 2.0 } else { region.y1 - high };
        let rect = Rect::new(x0, y0, x0 + across, y0 + high);
        self.put_panel(front, rect);
    }

    fn put_field(&mut self, node: &Node, rect: Rect) {
        let rect = self.to_bleed(rect);
        if let Node::Field { items, .. } = node {
            for at in items {
                self.set(*at, rect, self.target.scale);
            }
        }
    }

    /// A panel in a box, with what stands on it.
    fn put_panel(&mut self, node: &Node, rect: Rect) {
        let Node::Field { items, inside, pad: own, rect: was } = node else {
            return self.place(node, rect, self.rect(node));
        };
        for at in items {
            self.set(*at, rect, self.target.scale);
        }
        if let Some(inside) = inside {
            let pad = self.padding(*own, rect);
            let inner = Rect::new(rect.x0 + pad[0], rect.y0 + pad[1], rect.x1 - pad[2], rect.y1 - pad[3]);
            self.place(inside, inner, inset(*was, *own));
        }
    }

    /// What is left of a box when the labels around a thing have their room.
    fn within_room(&self, host: usize, rect: Rect) -> Rect {
        let labels = self.source.pointers.iter().filter_map(|pointer| match pointer {
            Pointer::Spot { host: of, label: Some(label), .. } if *of == host => Some(*label),
            _ => None,
        });
        let scales = labels.map(|label| self.target.least_scale(&self.source.matter[label]));
        let scale = scales.fold(self.target.scale, f64::max);
        let [left, top, right, bottom] = self.source.rooms[host].map(|room| room * scale);
        let within = |most: f64| {
            let (wide, high) = (rect.width() * most, rect.height() * most);
            inset(rect, [left.min(wide), top.min(high), right.min(wide), bottom.min(high)])
        };
        let (least, most) = self.source.shapes[host];
        let aspect = |rect: Rect| rect.width() / rect.height().max(1e-6);
        let shows = |rect: &Rect| (least..=most).contains(&aspect(*rect));
        let [usual, less] = [MOST_ROOM, MOST_ROOM / 2.0].map(within);
        let found = [usual, less].into_iter().find(shows).unwrap_or(less);
        // A frame that reaches the edges of the sheet goes on doing so.
        if shows(&found) || self.source.bleeds(self.source.matter[host].rect).contains(&true) {
            return found;
        }
        let size = if aspect(found) < least {
            kurbo::Size::new(found.width(), found.width() / least)
        } else {
            kurbo::Size::new(found.height() * most, found.height())
        };
        Rect::from_center_size(found.center(), size)
    }

    /// The direction a run goes in, and whether its things stand in the opposite order.
    fn direction(&self, node: &Node, axis: Axis) -> (Axis, bool) {
        let Node::Run { number, .. } = node else { return (axis, false) };
        // Ways name the first few runs, each by a bit.
        let turned = matches!(*number, COLUMNS | GATHERED)
            || u32::try_from(*number)
                .ok()
                .and_then(|at| 1_u8.checked_shl(at))
                .is_some_and(|bit| self.way.turned & bit != 0);
        (if turned { axis.other() } else { axis }, matches!(*number, 0 | GATHERED) && self.way.reversed)
    }

    pub(super) fn set(&mut self, at: usize, rect: Rect, scale: f64) {
        if !self.gone[at] {
            self.places[at] = Some(Set::new(rect, scale));
        }
    }

    fn stands(&self, node: &Node) -> bool {
        items_of(node).iter().any(|at| !self.gone[*at])
    }

    fn rect(&self, node: &Node) -> Rect {
        match node {
            Node::Block(rows) => {
                let seen = rows.iter().map(|at| self.source.matter[*at].seen);
                seen.reduce(|a, b| a.union(b)).unwrap_or_default()
            }
            Node::Field { rect, .. } | Node::Unit { rect, .. } | Node::Run { rect, .. } => *rect,
        }
    }

    fn ink(&self, node: &Node) -> Rect {
        let ink = items_of(node).into_iter().map(|at| self.source.matter[at].ink);
        ink.reduce(|a, b| a.union(b)).unwrap_or_default()
    }

    pub(super) fn to_bleed(&self, rect: Rect) -> Rect {
        let (sheet, out) = (self.target.sheet, self.target.bleed);
        let near = 0.75;
        Rect::new(
            if rect.x0 <= sheet.x0 + near { sheet.x0 - out } else { rect.x0 },
            if rect.y0 <= sheet.y0 + near { sheet.y0 - out } else { rect.y0 },
            if rect.x1 >= sheet.x1 - near { sheet.x1 + out } else { rect.x1 },
            if rect.y1 >= sheet.y1 - near { sheet.y1 + out } else { rect.y1 },
        )
    }

    /// Whether something reached an edge of the sheet.
    fn bled(&self, node: &Node) -> bool {
        match node {
            Node::Field { rect, .. } => self.source.bleeds(*rect).contains(&true),
            Node::Run { children, .. } => children.iter().any(|child| self.bled(child)),
            Node::Block(_) | Node::Unit { .. } => false,
        }
    }

    /// Whether it takes whatever room there is: a picture, or an empty panel.
    fn gives_way(&self, node: &Node) -> bool {
        match node {
            Node::Field { items, inside, .. } => inside.is_none() || self.source.matter[items[0]].is_picture(),
            Node::Run { children, .. } => children.iter().all(|child| self.gives_way(child)),
            Node::Block(_) | Node::Unit { .. } => false,
        }
    }

    fn padding(&self, pad: [f64; 4], rect: Rect) -> [f64; 4] {
        let most = rect.width().min(rect.height()) * 0.16;
        pad.map(|pad| (pad * self.target.scale * self.words.clamp(0.5, 1.0)).min(most).max(self.target.least * 0.3))
    }

    /// The stretch a part of the tree needs in a direction where it has `cross` in the other; infinite where it cannot fit at all.
    fn need(&self, node: &Node, axis: Axis, cross: f64) -> f64 {
        if !self.stands(node) {
            return 0.0;
        }
        match node {
            Node::Block(_) if self.as_rule(node).is_some() => self.thickness(node),
            Node::Block(rows) if axis == Axis::Down => {
                let (inside, height) = self.rows(rows, cross);
                if inside { height } else { f64::INFINITY }
            }
            Node::Block(rows) => {
                let (mut low, mut high) = (self.target.least, self.target.sheet.width());
                let fits = |wide: f64| {
                    let (inside, height) = self.rows(rows, wide);
                    inside && height <= cross
                };
                if !fits(high) {
                    return f64::INFINITY;
                }
                for _ in 0..7 {
                    let middle = f64::midpoint(low, high);
                    if fits(middle) { high = middle } else { low = middle }
                }
                high
            }
            Node::Unit { items, rect } => {
                let unit = self.unit_scale(items, *rect, axis, cross);
                unit.map_or(f64::INFINITY, |unit| axis.extent(*rect) * unit)
            }
            Node::Field { inside: None, .. } => 0.0,
            Node::Field { inside: Some(inside), pad, rect, .. } => {
                let scaled = Rect::from_origin_size((0.0, 0.0), rect.size() * self.target.scale);
                let pad = self.padding(*pad, scaled);
                let (along, beside) = match axis {
                    Axis::Across => (pad[0] + pad[2], pad[1] + pad[3]),
                    Axis::Down => (pad[1] + pad[3], pad[0] + pad[2]),
                };
                self.need(inside, axis, (cross - beside).max(1.0)) + along
            }
            Node::Run { axis: own, children, rect, .. } => {
                let (own, _) = self.direction(node, *own);
                if own == axis {
                    let all: f64 = self.standing(children).into_iter().map(|child| self.need(child, axis, cross)).sum();
                    return all + self.gaps(node, children, axis, *rect).iter().sum::<f64>();
                }
                let whole: f64 = children.iter().map(|child| self.weight(child)).sum();
                let each = |child: &Node| self.need(child, axis, cross * 0.96 * self.weight(child) / whole.max(1e-9));
                children.iter().map(each).fold(0.0, f64::max)
            }
        }
    }

    /// A line that stands between things by itself.
    fn as_rule(&self, node: &Node) -> Option<usize> {
        let Node::Block(rows) = node else { return None };
        let [one] = rows[..] else { return None };
        (self.source.matter[one].kind == Kind::Line).then_some(one)
    }

    fn thickness(&self, node: &Node) -> f64 {
        let seen = self.rect(node);
        seen.width().min(seen.height()) * self.target.scale
    }

    /// The things of a run that stand. A line between two things goes with either.
    fn standing<'n>(&self, children: &'n [Node]) -> Vec<&'n Node> {
        let stands = |at: usize| self.stands(&children[at]);
        let beside = |at: usize| (at == 0 || stands(at - 1)) && (at + 1 == children.len() || stands(at + 1));
        let all =
            (0..children.len()).filter(|at| stands(*at) && (self.as_rule(&children[*at]).is_none() || beside(*at)));
        all.map(|at| &children[at]).collect()
    }

    /// A line between the things of a run goes across it, as far as it did, whichever way the run goes.
    fn place_rule(&mut self, at: usize, (was, axis): (Axis, Axis), own: Rect, run: Rect) {
        let one = &self.source.matter[at];
        // What is a line by its kind has a direction of its own.
        if was != axis && matches!(one.plain.content, Content::Shape { outline: Outline::Line }) {
            return;
        }
        let (was, axis) = (was.other(), axis.other());
        let whole = was.extent(run).max(1.0);
        let share = |v: f64| (v - was.start(run)) / whole;
        let place = |share: f64| axis.start(own) + axis.extent(own) * share.clamp(0.0, 1.0);
        let rect = axis.stretch(own, place(share(was.start(one.seen))), place(share(was.end(one.seen))));
        self.set(at, rect, self.target.scale);
    }

    /// How much room something asks for beside others.
    fn weight(&self, node: &Node) -> f64 {
        if self.stands(node) && self.as_rule(node).is_none() { self.rect(node).area().sqrt().max(1.0) } else { 0.0 }
    }

    /// The scale of a unit with `cross` beside it: that of the sheets, smaller where there is less room; nothing where its words could
    /// not be read.
    fn unit_scale(&self, items: &[usize], rect: Rect, axis: Axis, cross: f64) -> Option<f64> {
        let beside = axis.other().extent(rect).max(1.0);
        let least = self.least_scale(items);
        let wanted = (self.target.scale * self.words.clamp(0.55, 1.1)).max(least);
        let unit = wanted.min(cross / beside);
        (unit >= least * 0.999).then_some(unit)
    }

    /// The gaps between the things of a run that stand, one fewer than there are of them.
    fn gaps(&self, node: &Node, children: &[Node], axis: Axis, _rect: Rect) -> Vec<f64> {
        let Node::Run { axis: own, .. } = node else { return Vec::new() };
        let standing = self.standing(children);
        let whole = axis.extent(self.target.sheet);
        let usual = self.source.margin.max(self.source.measure() * 0.03);
        standing
            .windows(2)
            .map(|pair| {
                let (a, b) = (self.rect(pair[0]), self.rect(pair[1]));
                let mut gap = own.start(b) - own.end(a);
                if gap < 0.0 {
                    // Boxes of words are as wide as the room they had; what is seen of them may be well apart.
                    let seen = own.start(self.ink(pair[1])) - own.end(self.ink(pair[0]));
                    gap = gap.max(seen.min(usual));
                }
                let both_bleed = self.bled(pair[0]) && self.bled(pair[1]);
                // A run that turns has the gaps of the sheet, not those between its lines.
                let gap = if *own == axis || both_bleed || gap > usual { gap } else { gap.max(usual * 0.8) };
                (gap * self.target.scale * self.words.clamp(0.6, 1.0)).clamp(-whole * 0.05, whole * 0.07)
            })
            .collect()
    }

    /// Places a part of the tree in a region. `frame` is where that region was in the source.
    fn place(&mut self, node: &Node, region: Rect, frame: Rect) {
        if !self.stands(node) {
            return;
        }
        match node {
            Node::Block(rows) => {
                let region = self.for_words(region);
                let own = self.rect(node);
                let width = self.width_of(own, region, frame);
                let x0 = anchored(Axis::Across, own, frame, region, width, self.target.scale);
                let block = self.block(rows, Rect::new(x0, 0.0, x0 + width, region.height()));
                self.fits &= block.inside && block.height <= region.height() + 0.5;
                let y0 = anchored(Axis::Down, own, frame, region, block.height, self.target.scale);
                for (at, rect, grown) in block.rows {
                    self.set(at, rect + Vec2::new(0.0, y0), grown);
                }
            }
            Node::Unit { items, rect } => {
                let region = self.for_words(region);
                let unit = self.unit_scale(items, *rect, Axis::Down, region.width());
                let fitting = region.height() / rect.height().max(1.0);
                self.fits &= unit.is_some_and(|unit| unit <= fitting * 1.001 || self.may_shrink(items, fitting));
                let unit = unit.unwrap_or(fitting).min(fitting).min(region.width() / rect.width().max(1.0));
                let size = rect.size() * unit;
                let x0 = anchored(Axis::Across, *rect, frame, region, size.width, self.target.scale);
                let y0 = anchored(Axis::Down, *rect, frame, region, size.height, self.target.scale);
                self.put_unit(items, *rect, Rect::from_origin_size((x0, y0), size), unit);
            }
            Node::Field { .. } => self.place_field(node, region, frame),
            Node::Run { axis, children, rect, .. } => {
                let (own, reversed) = self.direction(node, *axis);
                let region = match node {
                    // Columns take all the room there is.
                    Node::Run { number: COLUMNS, .. } => self.for_words(region),
                    _ if self.bled(node) => region,
                    Node::Run { number: GATHERED, .. } => self.for_words(region),
                    _ => self.boxed(node, region, frame),
                };
                self.place_run(node, children, (*axis, own, reversed), region, *rect);
            }
        }
    }

    /// Whether a unit is still read when it is no larger than this.
    fn may_shrink(&self, items: &[usize], unit: f64) -> bool {
        unit >= self.least_scale(items) * 0.999
    }

    /// The scale at which the words of a unit can all be read; 0 without words.
    fn least_scale(&self, items: &[usize]) -> f64 {
        let standing = items.iter().filter(|at| !self.gone[**at]);
        standing.map(|at| self.target.least_scale(&self.source.matter[*at])).fold(0.0, f64::max)
    }

    fn put_unit(&mut self, items: &[usize], from: Rect, to: Rect, unit: f64) {
        for at in items {
            let own = self.source.matter[*at].rect;
            let moved = (own.origin() - from.origin()) * unit;
            let rect = Rect::from_origin_size(to.origin() + moved, own.size() * unit);
            self.set(*at, rect, unit);
        }
    }

    /// The width words take of a region.
    fn width_of(&self, own: Rect, region: Rect, frame: Rect) -> f64 {
        let share = own.width() / frame.width().max(1.0);
        if self.way.wide || share > 0.62 { region.width() } else { region.width() * share.clamp(0.34, 1.0) }
    }

    /// The part of a region in which words may stand.
    fn for_words(&self, region: Rect) -> Rect {
        let held = region.intersect(self.target.content);
        if held.width() > 1.0 && held.height() > 1.0 { held } else { region }
    }

    /// The box something takes in a region: as much of it as it took before, and at least what it needs.
    fn boxed(&self, node: &Node, region: Rect, frame: Rect) -> Rect {
        let region = self.for_words(region);
        let own = self.rect(node);
        let share = |axis: Axis| axis.extent(own) / axis.extent(frame).max(1.0);
        let wide = if self.way.wide || share(Axis::Across) > 0.7 || self.gives_way(node) && share(Axis::Across) > 0.6 {
            region.width()
        } else {
            region.width() * share(Axis::Across).clamp(0.3, 1.0)
        };
        let needed = self.need(node, Axis::Down, wide);
        let had = if self.has_picture(node) { region.height() * share(Axis::Down).min(1.0) } else { 0.0 };
        let high = if share(Axis::Down) > 0.8 { region.height() } else { needed.max(had).min(region.height()) };
        let x0 = anchored(Axis::Across, own, frame, region, wide, self.target.scale);
        let y0 = anchored(Axis::Down, own, frame, region, high, self.target.scale);
        Rect::new(x0, y0, x0 + wide, y0 + high)
    }

    fn has_picture(&self, node: &Node) -> bool {
        items_of(node).iter().any(|at| !self.gone[*at] && self.source.matter[*at].is_picture())
    }

    fn place_field(&mut self, node: &Node, region: Rect, frame: Rect) {
        let Node::Field { items, inside, pad, rect: was } = node else { return };
        let near = self.source.measure() * 0.006;
        let reached = [
            was.x0 <= frame.x0 + near,
            was.y0 <= frame.y0 + near,
            was.x1 >= frame.x1 - near,
            was.y1 >= frame.y1 - near,
        ];
        let rect = if reached == [true; 4] {
            region
        } else if reached.contains(&true) {
            self.along_edges(node, region, frame, reached)
        } else {
            self.boxed(node, region, frame)
        };
        let rect = if self.bled(node) { self.to_bleed(rect) } else { rect };
        let (rect, was) = (self.within_room(items[0], rect), inset(*was, self.source.rooms[items[0]]));
        for at in items {
            self.set(*at, rect, self.target.scale);
        }
        let Some(inside) = inside else { return };
        // What stood in a picture keeps its distance to the edges it was near, and what lies on a panel the padding of the panel.
        let free = self.gives_way(node);
        let inner = if free {
            rect
        } else {
            let pad = self.padding(*pad, rect);
            inset(rect, pad)
        };
        let before = if free { was } else { inset(was, *pad) };
        if self.way.from_foot
            && let Some(shade) = items.iter().find_map(|at| side_shade(&self.source.matter[*at]))
        {
            for at in items {
                if let (Some(shade), Some(set)) = (side_shade(&self.source.matter[*at]), &mut self.places[*at]) {
                    set.shade = shade.to_foot;
                }
            }
            let own = self.rect(inside);
            let side = if shade.left { own.x0 - before.x0 } else { before.x1 - own.x1 };
            let foot = Rect::new(own.x0, own.y0 - own.height() * 2.0, own.x1, own.y1 + side.max(0.0));
            self.place(inside, inner, foot);
        } else {
            self.place(inside, inner, before);
        }
        self.reach(items, inside, was, rect);
    }

    /// A shade reaches as far as the words on it do.
    fn reach(&mut self, items: &[usize], inside: &Node, was: Rect, now: Rect) {
        let words = |at: &usize| !self.gone[*at] && self.source.matter[*at].is_words();
        let all: Vec<usize> = items_of(inside).into_iter().filter(words).collect();
        let before = all.iter().map(|at| self.source.matter[*at].ink).reduce(|a, b| a.union(b));
        let after = all.iter().filter_map(|at| self.places[*at]).map(|set| set.rect).reduce(|a, b| a.union(b));
        let (Some(before), Some(after)) = (before, after) else { return };
        for at in items {
            let Some(shade) = shade_from(&self.source.matter[*at]) else { continue };
            let Some(set) = &mut self.places[*at] else { continue };
            let far = |edge: Edge, words: Rect, field: Rect| match edge {
                Edge::Left => (words.x1 - field.x0) / field.width().max(1.0),
                Edge::Right => (field.x1 - words.x0) / field.width().max(1.0),
                Edge::Top => (words.y1 - field.y0) / field.height().max(1.0),
                Edge::Foot => (field.y1 - words.y0) / field.height().max(1.0),
            };
            let edge = if set.shade == 0.0 { shade } else { Edge::Foot };
            let (was, now) = (far(shade, before, was), far(edge, after, now));
            if now > was * 1.02 && was > 0.05 {
                set.reach = (now / was).min(4.0);
            }
        }
    }

    /// A field that reached some edges of what it stands on reaches them again, and is as deep as what stands on it needs.
    fn along_edges(&mut self, node: &Node, region: Rect, frame: Rect, reached: [bool; 4]) -> Rect {
        let own = self.rect(node);
        let mut rect = region;
        for axis in [Axis::Across, Axis::Down] {
            let (first, last) = if axis == Axis::Across { (reached[0], reached[2]) } else { (reached[1], reached[3]) };
            if first && last {
                continue;
            }
            let share = axis.extent(own) / axis.extent(frame).max(1.0);
            let mut extent = axis.extent(region) * share;
            let cross = axis.other().extent(self.for_words(rect));
            let needed = self.need(node, axis, cross);
            let edge = if self.bled(node) {
                (axis.end(self.target.sheet) - axis.end(self.target.content)).max(0.0)
            } else {
                0.0
            };
            if needed.is_finite() {
                extent = extent.max(needed + edge);
            }
            let extent = extent.min(axis.extent(region));
            let (from, to) = (axis.start(region), axis.end(region));
            rect = match (first, last) {
                (true, _) => axis.stretch(rect, from, from + extent),
                (_, true) => axis.stretch(rect, to - extent, to),
                _ => {
                    let start = anchored(axis, own, frame, region, extent, self.target.scale);
                    axis.stretch(rect, start, start + extent)
                }
            };
        }
        rect
    }

    fn place_run(
        &mut self,
        node: &Node,
        children: &[Node],
        (was, axis, reversed): (Axis, Axis, bool),
        region: Rect,
        rect: Rect,
    ) {
        let standing = self.standing(children);
        let mut gaps = self.gaps(node, children, axis, rect);
        let (content, sheet) = (self.target.content, self.target.sheet);
        let mut order: Vec<usize> = (0..standing.len()).collect();
        if reversed {
            order.reverse();
            gaps.reverse();
        }
        // What does not reach the edge keeps clear of it.
        let last = order.len().saturating_sub(1);
        let clear = |place: usize, child: &Node| {
            if self.bled(child) && self.gives_way(child) {
                return (0.0, 0.0);
            }
            let lead = if place == 0 { (axis.start(content) - axis.start(region)).max(0.0) } else { 0.0 };
            let tail = if place == last { (axis.end(region) - axis.end(content)).max(0.0) } else { 0.0 };
            (lead, tail)
        };
        let mut fits = true;
        let total = axis.extent(region) - gaps.iter().sum::<f64>();
        let cross_of = |child: &Node| {
            let held = if self.bled(child) && self.gives_way(child) { region } else { self.for_words(region) };
            axis.other().extent(held)
        };
        let mut extents = vec![0.0; order.len()];
        let (mut fixed, mut flexible) = (0.0, 0.0);
        let share_before: f64 = standing.iter().map(|child| was.extent(self.rect(child))).sum();
        for (place, at) in order.iter().enumerate() {
            let child = standing[*at];
            if self.gives_way(child) {
                flexible += was.extent(self.rect(child));
                continue;
            }
            let (lead, tail) = clear(place, child);
            let needed = self.need(child, axis, cross_of(child));
            if !needed.is_finite() {
                fits = false;
            }
            extents[place] = if needed.is_finite() { needed + lead + tail } else { total / order.len() as f64 };
            fixed += extents[place];
        }
        let rest = total - fixed;
        if flexible > 0.0 {
            let wanted = (flexible / share_before.max(1.0) * self.way.share).clamp(0.2, 0.74) * total;
            if rest < wanted * 0.985 {
                fits = false;
            }
            // Beyond what they had, pictures share the room with panels; a panel without anything on it grows for nothing.
            let grow = (rest - wanted).max(0.0);
            let empty = !standing.iter().any(|child| self.gives_way(child) && self.has_picture(child));
            let share = if empty { 1.0 } else { 0.5 };
            let taker = |place: &usize| {
                let child = standing[order[*place]];
                !self.gives_way(child)
                    && (matches!(child, Node::Field { .. }) || empty && self.as_rule(child).is_none())
            };
            let panels: Vec<usize> = (0..order.len()).filter(taker).collect();
            let to_panels = if panels.is_empty() { 0.0 } else { grow * share };
            for place in &panels {
                extents[*place] += to_panels / panels.len() as f64;
            }
            let rest = (rest - to_panels).max(total * 0.05);
            for (place, at) in order.iter().enumerate() {
                let child = standing[*at];
                if self.gives_way(child) {
                    extents[place] = rest * was.extent(self.rect(child)) / flexible;
                }
            }
        } else if rest < -0.5 {
            fits = false;
        } else {
            self.spread((&standing, &order), &mut extents, &mut gaps, rest.max(0.0), (axis, was));
        }
        self.fits &= fits;
        let mut at_start = axis.start(region);
        for (place, at) in order.iter().enumerate() {
            let child = standing[*at];
            let own = axis.stretch(region, at_start, at_start + extents[place]);
            // What stood beside it in the source keeps how it stands in the other direction.
            let was_rect = self.rect(child);
            let frame = if axis == was { was.stretch(rect, was.start(was_rect), was.end(was_rect)) } else { was_rect };
            let frame = if axis == was { frame } else { widened(frame, rect, was) };
            let own = if place == 0 || place == last { own } else { own.intersect(sheet) };
            if let Some(rule) = self.as_rule(child) {
                self.place_rule(rule, (was, axis), own.intersect(content), rect);
            } else {
                self.place(child, own, frame);
            }
            at_start += extents[place] + gaps.get(place).copied().unwrap_or(0.0);
        }
    }

    /// What is left over goes to panels, else into the widest gap, else around everything.
    fn spread(
        &self,
        (standing, order): (&[&Node], &[usize]),
        extents: &mut [f64],
        gaps: &mut [f64],
        rest: f64,
        (axis, was): (Axis, Axis),
    ) {
        let panels: Vec<usize> =
            (0..order.len()).filter(|place| matches!(standing[order[*place]], Node::Field { .. })).collect();
        if !panels.is_empty() {
            for place in &panels {
                extents[*place] += rest / panels.len() as f64;
            }
            return;
        }
        let widest = gaps.iter().copied().fold(0.0, f64::max);
        let usual = gaps.iter().copied().fold(f64::INFINITY, f64::min);
        if axis == was && gaps.len() > 1 && widest > usual.max(1.0) * 1.8 || gaps.len() == 1 {
            for gap in gaps.iter_mut().filter(|gap| **gap == widest).take(1) {
                *gap += rest;
            }
        } else if axis == Axis::Across {
            // Columns share what is left by what they hold.
            let whole: f64 = standing.iter().map(|node| self.weight(node)).sum();
            for (place, at) in order.iter().enumerate() {
                extents[place] += rest * self.weight(standing[*at]) / whole.max(1e-9);
            }
        } else {
            for gap in gaps.iter_mut() {
                *gap += rest * 0.5 / order.len() as f64;
            }
        }
    }
}

/// A picture and, beside it, a panel with words: what can also lie one on the other.
pub(crate) fn over(tree: &Node) -> Option<(&Node, &Node)> {
    let Node::Run { children, .. } = tree else { return None };
    let [a, b] = &children[..] else { return None };
    let picture = |node: &Node| matches!(node, Node::Field { inside: None, .. });
    let panel = |node: &Node| matches!(node, Node::Field { inside: Some(_), .. });
    match (a, b) {
        (a, b) if picture(a) && panel(b) => Some((a, b)),
        (a, b) if panel(a) && picture(b) => Some((b, a)),
        _ => None,
    }
}

fn inset(rect: Rect, pad: [f64; 4]) -> Rect {
    let inner = Rect::new(rect.x0 + pad[0], rect.y0 + pad[1], rect.x1 - pad[2], rect.y1 - pad[3]);
    if inner.width() > 1.0 && inner.height() > 1.0 { inner } else { rect }
}

/// A frame with the whole of a run in the direction it ran.
fn widened(frame: Rect, run: Rect, axis: Axis) -> Rect {
    axis.other().stretch(
        frame,
        axis.other().start(run).min(axis.other().start(frame)),
        axis.other().end(run).max(axis.other().end(frame)),
    )
}
