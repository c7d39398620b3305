//! The panels of a folded piece: which is read first, which way up each stands, and which part of a message goes where.

use vatman_document::{
    Color, Finish, Folds, Format, Item, Paint, Part, Piece, Place, Side, SideId, SwatchId, Tint, VAlign,
};
use vatman_type::Typesetter;
use vatman_units::{Angle, Length, Placement, Rect, Size};

use crate::check::contrast::READS;
use crate::compose::block::{BlockLimits, Row, place_most};
use crate::compose::lay_out::Said;
use crate::compose::least_type::{LeastType, lowness};
use crate::compose::place::{PlaceEntry, meet};

/// What a panel is for.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Role {
    /// Seen first.
    Front,
    /// Says the same as the front, to who sits across the table.
    Again,
    /// Seen once it is opened.
    Inside,
    /// Seen when it is turned over.
    Back,
    /// Folded in; seen while it is opened.
    Flap,
}

/// A part of a side between folds and edges.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(crate) struct Panel {
    /// The place of its side among the sides of the piece.
    pub side: usize,
    /// Where it is on that side.
    pub rect: Rect,
    /// It stands on its head while the sheet lies flat.
    pub turned: bool,
    /// What it is for.
    pub role: Role,
}

/// The panels of a piece in the order in which they are read; none where it is not folded.
///
/// A sheet folded from top to bottom opens like a book: the right panel of its outside is the front, the one beside it the back, and any further
/// ones are folded in. One folded from left to right opens upwards: its front is at the foot of the outside, its back above, on its head. With
/// nothing on the other side of the paper it stands like a tent and says above, on its head, what it says below.
pub(crate) fn panels(folds: Folds, size: Size, sides: usize) -> Vec<Panel> {
    if folds.is_none() || sides == 0 {
        return Vec::new();
    }
    let level = folds.is_level();
    let outer = folds.panels(size, false);
    let last = outer.len() - 1;
    let role = |at: usize| match last - at {
        0 => Role::Front,
        1 if level && sides == 1 => Role::Again,
        1 => Role::Back,
        _ => Role::Flap,
    };
    let outside = outer.iter().enumerate().map(|(at, rect)| Panel {
        side: 0,
        rect: *rect,
        turned: level && role(at) != Role::Front,
        role: role(at),
    });
    let inner = if sides > 1 { folds.panels(size, true) } else { Vec::new() };
    let inside = inner.iter().map(|rect| Panel { side: 1, rect: *rect, turned: false, role: Role::Inside });
    let mut all: Vec<Panel> = outside.chain(inside).collect();
    all.sort_by_key(|panel| match panel.role {
        Role::Front => 0,
        Role::Again => 1,
        Role::Inside => 2,
        Role::Back => 3,
        Role::Flap => 4,
    });
    all
}

/// The panels of a piece as it is.
pub(crate) fn panels_of(piece: &Piece) -> Vec<Panel> {
    panels(piece.format.finish.folds, piece.format.size, piece.sides.len())
}

/// The parts of a side on which something can stand by itself, in the order in which they are read: its panels, or all of it where it is not
/// folded.
#[must_use]
pub fn sheets(piece: &Piece, side: &SideId) -> Vec<Rect> {
    let at = piece.sides.iter().position(|own| own.id == *side).unwrap_or(0);
    let panels: Vec<Rect> =
        panels_of(piece).into_iter().filter(|panel| panel.side == at).map(|panel| panel.rect).collect();
    // Further sides are folded where the first is, or the second.
    let folds = piece.format.finish.folds;
    match panels.is_empty() {
        true if !folds.is_none() => folds.panels(piece.format.size, piece.is_back(side)),
        true => vec![Rect::of(piece.format.size)],
        false => panels,
    }
}

/// The part of a side on which the middle of a box stands, or the nearest.
#[must_use]
pub fn sheet_at(piece: &Piece, side: &SideId, rect: Rect) -> Rect {
    let middle = (rect.x + rect.w.half(), rect.y + rect.h.half());
    let beyond = |at: Length, from: Length, to: Length| (from - at).max(at - to).max(Length::ZERO);
    let far = |sheet: &Rect| beyond(middle.0, sheet.x, sheet.right()).max(beyond(middle.1, sheet.y, sheet.bottom()));
    sheets(piece, side).into_iter().min_by_key(far).unwrap_or_else(|| Rect::of(piece.format.size))
}

/// The size in which a format is seen first: its front where it is folded.
pub(crate) fn seen_first(format: &Format, sides: usize) -> Size {
    panels(format.finish.folds, format.size, sides).first().map_or(format.size, |front| front.rect.size())
}

impl Panel {
    /// The place that is arranged for where only this panel is.
    pub fn entry(&self, whole: &PlaceEntry) -> PlaceEntry {
        let share = self.rect.w.raw() as f64 / whole.format.size.w.raw().max(1) as f64;
        let format = self.format(&whole.format);
        PlaceEntry {
            format,
            size: format.label(),
            seen: whole.seen.map(|seen| seen.scaled(share)),
            covers: Vec::new(),
            sides: Vec::new(),
            ..whole.clone()
        }
    }

    /// The format of this panel alone.
    pub fn format(&self, whole: &Format) -> Format {
        Format { size: self.rect.size(), finish: Finish::default(), ..*whole }
    }

    /// A box on this panel alone, where it is on the side.
    fn rect_on_side(&self, rect: Rect) -> Rect {
        let panel = self.rect;
        if self.turned {
            Rect { x: panel.right() - rect.right(), y: panel.bottom() - rect.bottom(), ..rect }
        } else {
            Rect { x: panel.x + rect.x, y: panel.y + rect.y, ..rect }
        }
    }

    fn with_turn(&self, place: Place, rect: Rect) -> Place {
        let about = |turn: Angle| Angle::degrees((turn.to_degrees() + 180.0).rem_euclid(360.0));
        let turn = if self.turned { about(place.at.turn) } else { place.at.turn };
        Place { at: Placement { rect, turn, ..place.at }, ..place }
    }

    /// Where something arranged for this panel alone stands on the side of a format. What bled ends at a fold; what hung over one comes back
    /// to its panel.
    pub fn on_side(&self, place: Place, whole: &Format) -> Place {
        let rect = self.rect_on_side(place.at.rect);
        let rect = if is_upright(place.at.turn) { self.held(rect, whole) } else { rect };
        self.with_turn(place, rect)
    }

    /// A box whose edges go beyond no fold.
    fn held(&self, rect: Rect, whole: &Format) -> Rect {
        let panel = self.rect;
        let slight = whole.bleed.scaled(1.01);
        let along = |from: Length, to: Length, start: Length, end: Length, sheet: Length| {
            let (before, after) = (start - from, to - end);
            let (mut from, mut to) = (from, to);
            // What only bleeds, or is larger than the panel, is cut off; what hung over is moved.
            let cut = |over: Length| over <= slight || to - from >= end - start;
            let (cut_before, cut_after) = (cut(before), cut(after));
            if start.is_positive() && before.is_positive() {
                if cut_before {
                    from = start;
                } else {
                    (from, to) = (start, to + before);
                }
            }
            if end < sheet && after.is_positive() {
                if cut_after {
                    to = end;
                } else {
                    (from, to) = (from - after, end);
                }
            }
            (from, to)
        };
        let (x0, x1) = along(rect.x, rect.right(), panel.x, panel.right(), whole.size.w);
        let (y0, y1) = along(rect.y, rect.bottom(), panel.y, panel.bottom(), whole.size.h);
        Rect::new(x0, y0, x1 - x0, y1 - y0)
    }

    /// What stands on this panel of a side, as if only the panel were there.
    pub fn alone(&self, place: Place) -> Place {
        let (panel, rect) = (self.rect, place.at.rect);
        // Turned twice it is as it was.
        let alone = Rect { x: rect.x - panel.x, y: rect.y - panel.y, ..rect };
        self.with_turn(place, if self.turned { self.rect_on_side(rect) } else { alone })
    }

    /// What stands on it of the side it is on.
    pub fn items<'s>(&self, piece: &'s Piece, side: &'s Side) -> impl Iterator<Item = &'s Item> {
        let own = self.rect;
        side.items.iter().filter(move |item| sheet_at(piece, &side.id, item.place.at.rect) == own)
    }
}

fn is_upright(turn: Angle) -> bool {
    let half = turn.to_degrees().rem_euclid(180.0);
    half.min(180.0 - half) < 0.01
}

/// Which of the words of a message stand on which panel: for each panel in its order the places of its words in `parts`. The front says what
/// it is about, the inside the facts, the back who made it. `room` is how many parts of a message the place has room for: with little
/// room one panel of the inside is written on, as in a card.
pub(crate) fn shares(panels: &[Panel], parts: &[Part], room: u8) -> Vec<Vec<usize>> {
    let with = |role: Role| -> Vec<usize> {
        panels.iter().enumerate().filter(|(_, panel)| panel.role == role).map(|(at, _)| at).collect()
    };
    let mut out = vec![Vec::new(); panels.len()];
    let (inside, back) = (with(Role::Inside), with(Role::Back));
    let all: Vec<usize> = (0..parts.len()).collect();
    let goes = |part: Part| match part {
        Part::Headline | Part::Support => Role::Front,
        Part::Contact | Part::SmallPrint | Part::Mark if !back.is_empty() => Role::Back,
        _ => Role::Inside,
    };
    let (mut front, mut within, mut behind) = (Vec::new(), Vec::new(), Vec::new());
    for at in all {
        match goes(parts[at]) {
            _ if inside.is_empty() => front.push(at),
            Role::Front => front.push(at),
            Role::Back => behind.push(at),
            _ => within.push(at),
        }
    }
    if !inside.is_empty() {
        // An inside is there to say something: what carries the headline further, or else what would stand on the back.
        if within.is_empty() && front.len() > 1 {
            within = front.split_off(1);
        } else if within.is_empty() {
            within = std::mem::take(&mut behind);
        }
        if front.is_empty() && !within.is_empty() {
            front.push(within.remove(0));
        }
    }
    // A few facts stand together, more of them on several panels as evenly as they go, in the order in which they are read.
    let most = if room <= CARD { 1 } else { inside.len() };
    let count = within.len().div_ceil(TOGETHER).clamp(1, most.max(1));
    let start = inside.len().saturating_sub(count).div_ceil(2);
    for (n, at) in within.iter().enumerate() {
        out[inside[start + n * count / within.len()]].push(*at);
    }
    if let Some(first) = out.first_mut() {
        first.extend(front);
    }
    if let Some(at) = back.first() {
        out[*at].extend(behind);
    }
    out
}

/// Places with room for this many parts of a message are cards: one panel of their inside is written on.
const CARD: u8 = 4;
/// As many facts stand together on one panel before a second is used.
const TOGETHER: usize = 4;

/// The largest headline on a panel that only has words, as a share of the side of the square of equal area.
const LARGEST: f64 = 0.19;
/// The same on a back, which is not to be louder than the front.
const LARGEST_BEHIND: f64 = 0.11;
/// Space between its rows, in the geometric mean of their sizes.
const GAP: f64 = 0.9;

/// Sets words one below the other on a panel: in the middle of an inside, at the foot of a back. For each its box on the panel, the size of its
/// type, and whether there is room for it.
pub(crate) fn column(
    said: &[(Part, Said)],
    (panel, entry): (&Panel, &PlaceEntry),
    typesetter: &Typesetter,
) -> Vec<(Rect, Length, bool)> {
    let format = &entry.format;
    let size = format.size;
    let inner = Rect::of(size).outset(-format.safe.max(size.w.min(size.h).scaled(MARGIN)));
    let field = entry.clear_of_covers(meet(Rect::of(size), inner));
    let behind = panel.role == Role::Back;
    let limits = BlockLimits {
        largest: size.measure().scaled(if behind { LARGEST_BEHIND } else { LARGEST }),
        least: LeastType::at(entry).usual(),
        gap: GAP,
        stand: if behind { VAlign::Bottom } else { VAlign::Middle },
    };
    let row =
        |(part, said): &(Part, Said)| Row { part: *part, low: lowness(&said.look, typesetter), said: said.clone() };
    let rows: Vec<Row> = said.iter().map(row).collect();
    let (placed, left_out) = place_most(&rows, field, &limits, typesetter);
    let mut placed = placed.into_iter();
    let each = (0..rows.len()).map(|at| {
        let waits = (Rect { h: limits.least.scaled(1.5).min(field.h), ..field }, limits.least, false);
        if left_out.contains(&at) { waits } else { placed.next().map_or(waits, |row| (row.rect, row.size, true)) }
    });
    each.collect()
}

/// Words on a panel without a design keep this far from its edges at least, as a share of its shorter side.
const MARGIN: f64 = 0.1;

/// The paint words have on a ground of their own: what they have where that reads, else the first of ink, accent and ground that does, else
/// whichever reads best.
pub(crate) fn readable_on(ground: Option<&Paint>, own: &Paint, color: &dyn Fn(&Tint) -> Color) -> Option<Paint> {
    let below: Vec<Color> = match ground {
        Some(ground) => ground.tints().map(color).collect(),
        None => vec![Color::WHITE],
    };
    let reads = |tint: &Tint| below.iter().map(|below| color(tint).contrast(*below)).fold(f64::INFINITY, f64::min);
    let opaque = |paint: &Paint| !matches!(paint, Paint::Flat { opacity, .. } if opacity.get() < 0.7);
    if own.tints().all(|tint| reads(tint) >= READS) && opaque(own) {
        return None;
    }
    let role = |name: &str| SwatchId::new(name).ok().map(Tint::Swatch);
    let roles: Vec<Tint> = ["ink", "accent", "ground"].into_iter().filter_map(role).collect();
    let first = roles.iter().find(|tint| reads(tint) >= READS);
    let best = || roles.iter().max_by(|a, b| reads(a).total_cmp(&reads(b)));
    first.or_else(best).map(|tint| Paint::flat(tint.clone()))
}

#[cfg(test)]
mod tests {
    use super::*;

    const A4: Size = Size { w: Length::from_raw(297 * 36_000), h: Length::from_raw(210 * 36_000) };

    fn folded(level: bool, at: &[f64], sides: usize) -> Vec<Panel> {
        let at: Vec<Length> = at.iter().map(|at| Length::mm(*at)).collect();
        panels(Folds::new(level, &at), A4, sides)
    }

    #[test]
    fn a_sheet_opens_like_a_book_or_upwards() {
        let roles = |panels: &[Panel]| panels.iter().map(|one| (one.side, one.role, one.turned)).collect::<Vec<_>>();
        let card = folded(false, &[148.5], 2);
        let inside = (1, Role::Inside, false);
        assert_eq!(roles(&card), [(0, Role::Front, false), inside, inside, (0, Role::Back, false)]);
        assert_eq!((card[0].rect.x, card[3].rect.x), (Length::mm(148.5), Length::ZERO));
        assert!(card[1].rect.x < card[2].rect.x);
        let leaflet = folded(false, &[97.0, 197.0], 2);
        assert_eq!(leaflet.len(), 6);
        assert_eq!(leaflet.iter().map(|one| one.role).collect::<Vec<_>>()[4..], [Role::Back, Role::Flap]);
        assert_eq!(leaflet[0].rect.w, leaflet[1].rect.w, "behind the front is the first of the inside");
        let tent = folded(true, &[105.0], 1);
        assert_eq!(roles(&tent), [(0, Role::Front, false), (0, Role::Again, true)]);
        assert_eq!(tent[0].rect.y, Length::mm(105.0));
        let upwards = folded(true, &[105.0], 2);
        assert_eq!(roles(&upwards)[0], (0, Role::Front, false));
        assert_eq!(roles(&upwards)[3], (0, Role::Back, true));
        assert!(folded(false, &[], 2).is_empty() && folded(false, &[97.0], 0).is_empty());
    }

    #[test]
    fn what_stands_on_a_panel_goes_there_and_back() {
        let format = Format { bleed: Length::mm(3.0), safe: Length::mm(5.0), size: A4, ..Format::screen(9, 9) };
        let rect = Rect::new(Length::mm(10.0), Length::mm(20.0), Length::mm(30.0), Length::mm(15.0));
        for all in [folded(false, &[97.0, 197.0], 2), folded(true, &[105.0], 1), folded(true, &[105.0], 2)] {
            for panel in &all {
                let place = Place::new(Placement::at(rect));
                let there = panel.on_side(place, &format);
                assert_eq!(panel.alone(there).at, place.at);
                assert!(panel.rect.contains(there.at.rect));
            }
        }
    }

    #[test]
    fn nothing_goes_over_a_fold() {
        let format = Format { bleed: Length::mm(3.0), safe: Length::mm(5.0), size: A4, ..Format::screen(9, 9) };
        let mm = |x: f64, y: f64, w: f64, h: f64| {
            Place::new(Placement::at(Rect::new(Length::mm(x), Length::mm(y), Length::mm(w), Length::mm(h))))
        };
        let [front, .., back] = folded(false, &[148.5], 2)[..] else { panic!("a card has four panels") };
        // All of the panel with its bleed: out at the trim, cut off at the fold.
        let all = front.on_side(mm(-3.0, -3.0, 154.5, 216.0), &format).at.rect;
        assert_eq!((all.x, all.right()), (Length::mm(148.5), Length::mm(300.0)));
        assert_eq!((all.y, all.bottom()), (Length::mm(-3.0), Length::mm(213.0)));
        // An ornament that hangs over the fold comes back whole; over the trim it may hang.
        let hung = front.on_side(mm(-20.0, 10.0, 40.0, 40.0), &format).at.rect;
        assert_eq!((hung.x, hung.w), (Length::mm(148.5), Length::mm(40.0)));
        let out = front.on_side(mm(130.0, 10.0, 40.0, 40.0), &format).at.rect;
        assert_eq!((out.right(), out.w), (Length::mm(318.5), Length::mm(40.0)));
        let before = back.on_side(mm(140.0, 10.0, 40.0, 40.0), &format).at.rect;
        assert_eq!(before.right(), Length::mm(148.5));
    }

    #[test]
    fn a_message_is_parted_among_panels() {
        use Part::{Action, Contact, Detail, Headline, Price, Support, When, Where};
        let on = |panels: &[Panel], parts: &[Part], room: u8| -> Vec<Vec<Part>> {
            let shares = shares(panels, parts, room);
            assert_eq!(shares.iter().map(Vec::len).sum::<usize>(), parts.len(), "every part stands once");
            shares.into_iter().map(|share| share.into_iter().map(|at| parts[at]).collect()).collect()
        };
        let none = Vec::new;
        let card = folded(false, &[148.5], 2);
        let all = [Headline, Support, When, Where, Action, Contact];
        let right = vec![When, Where, Action];
        assert_eq!(on(&card, &all, 3), [vec![Headline, Support], none(), right, vec![Contact]]);
        // An inside says something as long as there is something to say.
        assert_eq!(on(&card, &[Headline, Support], 3), [vec![Headline], none(), vec![Support], none()]);
        assert_eq!(on(&card, &[Headline, Contact], 3), [vec![Headline], none(), vec![Contact], none()]);
        assert_eq!(on(&card, &[Headline], 3), [vec![Headline], none(), none(), none()]);
        assert_eq!(on(&card, &[When, Where], 3), [vec![When], none(), vec![Where], none()]);
        let leaflet = folded(false, &[97.0, 197.0], 2);
        let few = on(&leaflet, &all, 9);
        assert_eq!(few[2], [When, Where, Action], "a few facts stand together in the middle");
        let many = on(&leaflet, &[Headline, When, Where, Detail, Price, Action], 9);
        assert_eq!((&many[1], &many[2], &many[3]), (&none(), &vec![When, Where, Detail], &vec![Price, Action]));
        let tent = folded(true, &[105.0], 1);
        assert_eq!(on(&tent, &all, 4), [all.to_vec(), none()]);
    }

    #[test]
    fn words_have_a_colour_that_reads_on_the_ground_they_come_to() {
        let tint = |name: &str| Tint::Swatch(SwatchId::new(name).unwrap());
        let color = |of: &Tint| match of {
            Tint::Swatch(id) if id.as_str() == "ink" => Color::opaque(30, 30, 30),
            Tint::Swatch(id) if id.as_str() == "accent" => Color::opaque(230, 190, 120),
            Tint::Own(color) => *color,
            Tint::Swatch(_) => Color::opaque(250, 246, 240),
        };
        let (light, dark) = (Paint::flat(tint("ground")), Paint::flat(tint("ink")));
        let read = |ground: &Paint, own: &Paint| readable_on(Some(ground), own, &color);
        assert_eq!(read(&light, &dark), None);
        assert_eq!(read(&light, &light), Some(dark.clone()));
        assert_eq!(read(&dark, &dark), Some(Paint::flat(tint("accent"))));
        assert_eq!(readable_on(None, &dark, &color), None);
        let faint = Paint::Flat { tint: tint("ink"), opacity: vatman_units::Ratio::new(0.4) };
        assert_eq!(read(&light, &faint), Some(dark));
    }
}
