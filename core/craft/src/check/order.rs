//! What a trained eye sees in how things stand: a headline that is not the loudest, gaps that are nearly even, edges that are nearly in
//! line. What is clearly different is meant so; what is nearly the same looks like a slip.

use kurbo::Rect;
use vatman_document::{Align, Command, Content, Format, ItemId, Job, Part, Piece, Side};
use vatman_output::ink_area;
use vatman_scene::{Audience, Node, Scene, SceneItem};
use vatman_type::GlyphOutlines;
use vatman_units::{Angle, Length, Ratio, Unit};

use crate::arrange::{Axis, Boxes, distribute};
use crate::check::contrast::Readings;
use crate::check::findings::FindingKind;
use crate::check::seen::letters;
use crate::studio::Studio;

/// Something seen, the item it is about, and what may put it right, the gentlest first.
pub(crate) struct Seen {
    pub kind: FindingKind,
    pub item: ItemId,
    pub says: String,
    pub right: Vec<Command>,
}

/// Edges nearer than this are in line, in CSS pixels: rounding.
const IN_LINE: f64 = 0.6;
/// Edges that differ by less than this share of the shorter side look as if they should be in line.
const NEARLY: f64 = 0.008;
/// Things further apart than this share of the sheet are not compared.
const APART: f64 = 0.3;
/// Things whose width and height differ by less than this share make a series.
const ALIKE: f64 = 0.06;
/// Gaps of a series that differ by less than this share of the widest look as if they should be even.
const UNEVEN: f64 = 0.4;
/// By how much another text may be louder than the headline before it is said.
const LOUDER: f64 = 1.15;

/// What stands on a side, as it is compared.
struct Thing<'j> {
    id: ItemId,
    name: String,
    part: Part,
    /// Nothing for what is no text.
    align: Option<Align>,
    /// The box of its lines, or its own.
    at: Rect,
    /// Whether it may be moved by itself.
    free: bool,
    drawn: &'j SceneItem,
}

/// What is seen on a side, in the order of its items.
pub(crate) fn seen_in_order(
    studio: &Studio,
    job: &Job,
    (piece, side): (&Piece, &Side),
    readings: &Readings,
) -> Vec<Seen> {
    let scene = studio.scene(job, piece, side, Audience::Output, None);
    let things = things(studio, job, side, &scene);
    let mut all = Vec::new();
    all.extend(quiet_headline(studio, side, &things, readings));
    uneven(job, &things, &piece.format, &mut all);
    nearly_in_line(job, &things, &piece.format, &mut all);
    all
}

fn things<'j>(studio: &Studio, job: &Job, side: &Side, scene: &'j Scene) -> Vec<Thing<'j>> {
    let seen = side.items.iter().filter(|item| !item.hidden && item.place.at.turn == Angle::ZERO);
    seen.filter_map(|item| {
        let plain = job.plain(item)?;
        let drawn = scene.items.iter().find(|drawn| drawn.id == item.id)?;
        let (at, align) = match plain.content {
            Content::Words { text, .. } => {
                let look = plain.look.type_look.as_ref()?;
                // Letters on a curve or in an arrangement have no edge of their own.
                let straight = !text.is_blank() && look.curve.is_none() && look.lock_up.is_none();
                (straight.then(|| studio.letters(job, item))?, Some(look.align))
            }
            Content::Picture { .. } | Content::Shape { .. } | Content::Code { .. } => {
                (item.place.at.rect.to_css_px(), None)
            }
            // What a drawing shows seldom reaches its box.
            Content::Drawing { .. } => return None,
        };
        let free = !item.locked && item.ties.is_empty() && item.groups.is_empty();
        Some(Thing { id: item.id.clone(), name: plain.name(), part: plain.part, align, at, free, drawn })
    })
    .collect()
}

/// How loud a text is: the ink of a letter on average, which grows with size and weight, the length of its longest line with little
/// weight, and less where it does not stand out.
fn loudness(thing: &Thing<'_>, outlines: &dyn GlyphOutlines) -> f64 {
    let node = letters(thing.drawn);
    let mut longest = 0usize;
    let mut count = 0usize;
    count_letters(&node, &mut |glyphs| {
        longest = longest.max(glyphs);
        count += glyphs;
    });
    if count == 0 { 0.0 } else { ink_area(&node, outlines) / count as f64 * (longest as f64).cbrt() }
}

fn count_letters(node: &Node, say: &mut dyn FnMut(usize)) {
    match node {
        Node::Group(group) => group.children.iter().for_each(|child| count_letters(child, say)),
        Node::Glyphs(glyphs) => say(glyphs.run.glyphs.iter().filter(|glyph| glyph.advance > 0.0).count()),
        Node::Path(_) | Node::Image(_) => {}
    }
}

/// A headline that another text is louder than. A price may be: of a sale it is the message.
fn quiet_headline(studio: &Studio, side: &Side, things: &[Thing<'_>], readings: &Readings) -> Option<Seen> {
    let library = studio.typesetter.library();
    let loud = |thing: &Thing<'_>| {
        let reads = readings.get(&thing.id).map_or(1.0, |reading| (reading.ratio / reading.wanted).min(1.0));
        loudness(thing, library.as_ref()) * reads
    };
    let texts = || things.iter().filter(|thing| thing.align.is_some());
    let (headline, own) = texts()
        .filter(|thing| thing.part == Part::Headline)
        .map(|thing| (thing, loud(thing)))
        .max_by(|a, b| a.1.total_cmp(&b.1))?;
    let others = texts().filter(|thing| !matches!(thing.part, Part::Headline | Part::Price | Part::Mark));
    let (other, louder) = others
        .map(|thing| (thing, loud(thing)))
        .max_by(|a, b| a.1.total_cmp(&b.1))
        .filter(|(_, l)| *l > own * LOUDER)?;
    let percent = ((louder / own.max(1e-6) - 1.0) * 100.0).round().min(999.0);
    let says = format!(
        "\u{201c}{}\u{201d} is {percent:.0} % louder than \u{201c}{}\u{201d}, by size, weight and contrast; the headline should be seen first.",
        other.name, headline.name
    );
    let quieter = side.items.iter().find(|item| item.id == other.id).map(|item| {
        let mut place = item.place;
        // Ink goes by the square of the size.
        place.scale = Ratio::new(place.scale.get() * (own / louder * 0.9).sqrt());
        Command::SetPlace { item: item.id.clone(), place }
    });
    let right = quieter.into_iter().collect();
    Some(Seen { kind: FindingKind::QuietHeadline, item: headline.id.clone(), says, right })
}

/// From where to where a thing reaches along an axis.
fn span(at: Rect, axis: Axis) -> (f64, f64) {
    if axis == Axis::Across { (at.x0, at.x1) } else { (at.y0, at.y1) }
}

const fn other(axis: Axis) -> Axis {
    match axis {
        Axis::Across => Axis::Down,
        Axis::Down => Axis::Across,
    }
}

/// Whether two things are of one size and kind and stand in one row or column.
fn in_series(a: &Thing<'_>, b: &Thing<'_>, axis: Axis) -> bool {
    let near = |a: f64, b: f64| (a - b).abs() <= a.max(b) * ALIKE;
    let (own, next) = (span(a.at, other(axis)), span(b.at, other(axis)));
    let middles = ((own.0 + own.1) - (next.0 + next.1)).abs() / 2.0;
    a.align.is_none()
        && b.align.is_none()
        && near(a.at.width(), b.at.width())
        && near(a.at.height(), b.at.height())
        && middles <= (own.1 - own.0) * ALIKE
        && span(b.at, axis).0 >= span(a.at, axis).1 - IN_LINE
}

/// Rows and columns of three and more like things whose gaps are nearly even.
fn uneven(job: &Job, things: &[Thing<'_>], format: &Format, all: &mut Vec<Seen>) {
    for axis in [Axis::Across, Axis::Down] {
        let mut order: Vec<&Thing<'_>> = things.iter().filter(|thing| thing.align.is_none()).collect();
        order.sort_by(|a, b| span(a.at, axis).0.total_cmp(&span(b.at, axis).0));
        let mut taken: Vec<&ItemId> = Vec::new();
        for (first, start) in order.iter().enumerate() {
            if taken.contains(&&start.id) {
                continue;
            }
            let mut series = vec![*start];
            for next in &order[first + 1..] {
                if series.last().is_some_and(|last| in_series(last, next, axis)) {
                    series.push(next);
                }
            }
            taken.extend(series.iter().map(|thing| &thing.id));
            all.extend(uneven_series(job, &series, axis, format));
        }
    }
}

fn uneven_series(job: &Job, series: &[&Thing<'_>], axis: Axis, format: &Format) -> Option<Seen> {
    let gaps: Vec<f64> = series.windows(2).map(|pair| span(pair[1].at, axis).0 - span(pair[0].at, axis).1).collect();
    let (least, widest) =
        gaps.iter().fold((f64::INFINITY, f64::NEG_INFINITY), |(low, high), gap| (low.min(*gap), high.max(*gap)));
    // Two gaps at least; a rounding is even, and what is far from even is meant so.
    if gaps.len() < 2 || widest - least <= IN_LINE * 2.0 || widest - least > widest * UNEVEN {
        return None;
    }
    let odd = gaps.iter().position(|gap| *gap >= widest)? + 1;
    let named = series.get(odd)?;
    let says = format!(
        "The gaps beside \u{201c}{}\u{201d} are nearly even but not quite: {} to {}.",
        named.name,
        length(format, least),
        length(format, widest)
    );
    let px = Length::css_px;
    let boxes: Boxes = series
        .iter()
        .map(|thing| {
            let at = thing.at;
            (thing.id.clone(), vatman_units::Rect::new(px(at.x0), px(at.y0), px(at.width()), px(at.height())))
        })
        .collect();
    let items: Vec<ItemId> = series.iter().map(|thing| thing.id.clone()).collect();
    let free = series.iter().all(|thing| thing.free);
    let right = if free { distribute(job, &boxes, &items, axis, None).ok() } else { None };
    let item = named.id.clone();
    Some(Seen { kind: FindingKind::UnevenGaps, item, says, right: right.into_iter().collect() })
}

/// The edges of a thing across the sheet that are seen as such: its own, or the one its lines begin or end at; with what each is called.
fn edges(thing: &Thing<'_>) -> Vec<(usize, f64)> {
    let all = [(0, thing.at.x0), (1, thing.at.center().x), (2, thing.at.x1)];
    match thing.align {
        None | Some(Align::Justified) => all.to_vec(),
        Some(Align::Start) => all[..1].to_vec(),
        Some(Align::Centre) => all[1..2].to_vec(),
        Some(Align::End) => all[2..].to_vec(),
    }
}

const EDGES: [&str; 3] = ["left edge", "middle", "right edge"];

/// How two things stand to each other across the sheet.
enum Stand {
    InLine,
    Nearly { edge: usize, by: f64 },
    Apart,
}

fn stand(a: &Thing<'_>, b: &Thing<'_>, nearly: f64) -> Stand {
    let (own, next) = (edges(a), edges(b));
    let same =
        own.iter().filter_map(|(edge, x)| next.iter().find(|(other, _)| other == edge).map(|(_, y)| (*edge, y - x)));
    let Some((edge, by)) = same.min_by(|a, b| a.1.abs().total_cmp(&b.1.abs())) else { return Stand::Apart };
    if by.abs() <= IN_LINE {
        Stand::InLine
    } else if by.abs() <= nearly {
        Stand::Nearly { edge, by }
    } else {
        Stand::Apart
    }
}

/// Things above each other whose edges are nearly in line. What is in line with something else has its reason.
fn nearly_in_line(job: &Job, things: &[Thing<'_>], format: &Format, all: &mut Vec<Seen>) {
    let sheet = vatman_units::Rect::of(format.size).to_css_px();
    let nearly = (sheet.width().min(sheet.height()) * NEARLY).max(IN_LINE * 2.0);
    let inside = |thing: &&Thing<'_>| sheet.union(thing.at) == sheet && thing.at.width() < sheet.width() * 0.98;
    let seen: Vec<&Thing<'_>> = things.iter().filter(inside).collect();
    let compared = |a: &Thing<'_>, b: &Thing<'_>| {
        let gap = (a.at.y0 - b.at.y1).max(b.at.y0 - a.at.y1);
        let nested = a.at.union(b.at) == a.at || a.at.union(b.at) == b.at;
        !nested && (-IN_LINE..=sheet.height() * APART).contains(&gap)
    };
    let in_line = |thing: &Thing<'_>| {
        seen.iter().filter(|next| next.id != thing.id && matches!(stand(thing, next, nearly), Stand::InLine)).count()
    };
    for (at, a) in seen.iter().enumerate() {
        for b in &seen[at + 1..] {
            let Stand::Nearly { edge, by } = stand(a, b, nearly) else { continue };
            if !compared(a, b) {
                continue;
            }
            // The one with fewer in line with it is the odd one; of equals the one in front.
            let (odd, model, by) = if in_line(a) < in_line(b) { (a, b, by) } else { (b, a, -by) };
            if in_line(odd) > 0 || all.iter().any(|other| other.item == odd.id) {
                continue;
            }
            let says = format!(
                "The {} of \u{201c}{}\u{201d} is {} off that of \u{201c}{}\u{201d}: nearly in line.",
                EDGES[edge],
                odd.name,
                length(format, by.abs()),
                model.name
            );
            let moved = job.item(&odd.id).filter(|_| odd.free).map(|item| {
                let mut place = item.place;
                place.at.rect.x += Length::css_px(by);
                Command::SetPlace { item: item.id.clone(), place }
            });
            all.push(Seen {
                kind: FindingKind::NearlyInLine,
                item: odd.id.clone(),
                says,
                right: moved.into_iter().collect(),
            });
        }
    }
}

/// A distance in CSS pixels, in the unit people think of in a format.
fn length(format: &Format, px: f64) -> String {
    let value = Length::css_px(px).to_unit(format.unit, format.ppi);
    let digits = if format.unit == Unit::In { 2 } else { 1 };
    format!("{value:.digits$} {}", format.unit.name())
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::compose::PlaceCatalogue;

    #[test]
    fn distances_are_told_in_the_unit_of_the_sheet() {
        for (size, says) in [("1080x1080", "24.0 px"), ("148 x 210 mm", "6.3 mm"), ("2 x 6 in", "0.25 in")] {
            assert_eq!(length(&PlaceCatalogue::own_size(size).unwrap().format, 24.0), says);
        }
    }
}
