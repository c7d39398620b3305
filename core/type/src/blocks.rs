//! Placing the lines of a lock-up: their scales, where their ink goes, and the rules around them.
//!
//! Everything is a share of the block's width, so that a block of half the width is the same block at half the size.

use kurbo::{BezPath, Rect, RoundedRect, Shape as _, Vec2};

use crate::lockup::{Arrangement, Form, Rules, Stand};

/// Ink of a line at its own size, before it is scaled, from the top left of its own box.
pub(crate) struct Measured {
    pub ink: Rect,
    pub small: bool,
}

/// Where a line goes: its scale, and the place of its ink's left and top.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(crate) struct Stacked {
    pub scale: f64,
    pub left: f64,
    pub top: f64,
    /// Whether it stands on a panel.
    pub on_panel: bool,
}

/// Thickness of a rule as a share of the width.
const RULE: f64 = 0.008;
/// A line of one or two letters would tower over the rest: no line is higher than this share of the width.
const TALLEST: f64 = 0.55;

/// Lines that have been placed, what is drawn besides them, and how high they are together.
#[derive(Default)]
pub(crate) struct Block {
    pub places: Vec<Stacked>,
    pub rules: Vec<Rect>,
    /// Below the letters.
    pub panels: Vec<BezPath>,
    pub height: f64,
}

/// Places lines in a block of `width`.
pub(crate) fn stacked(lines: &[Measured], arrangement: &Arrangement, width: f64) -> Block {
    let thick = width * RULE;
    let gap = arrangement.gap * width;
    // Room that rules take at the left, on both sides, and above and below.
    let (left, sides, ends) = match arrangement.rules {
        Rules::Frame | Rules::Corners => (0.0, width * 0.07, width * 0.07),
        Rules::DoubleFrame => (0.0, width * 0.085, width * 0.085),
        Rules::Bar => (width * 0.055, 0.0, 0.0),
        Rules::Panel => (0.0, width * 0.075, width * 0.065),
        Rules::Around => (0.0, 0.0, thick + gap * 1.3),
        _ => (0.0, 0.0, 0.0),
    };
    let inner = width - left - 2.0 * sides;
    let mut block = match arrangement.form {
        Form::Stack | Form::Loud | Form::Arch => stack(lines, arrangement, inner, gap),
        Form::Steady(stand) => steady(lines, arrangement, stand, inner, gap),
        Form::Initial => initial(lines, arrangement, inner, gap),
        Form::Columns => columns(lines, arrangement, inner, gap),
    };
    for place in &mut block.places {
        (place.left, place.top) = (place.left + left + sides, place.top + ends);
    }
    let moved = Vec2::new(left + sides, ends);
    let mut rules: Vec<Rect> = block.rules.iter().map(|rule| *rule + moved).collect();
    let mut height = block.height + 2.0 * ends;
    let frame = |by: f64| {
        let (w, h) = (width - by, height - by);
        [
            Rect::new(by, by, w, by + thick),
            Rect::new(by, h - thick, w, h),
            Rect::new(by, by, by + thick, h),
            Rect::new(w - thick, by, w, h),
        ]
    };
    match arrangement.rules {
        Rules::Around => {
            rules.extend([Rect::new(0.0, 0.0, width, thick), Rect::new(0.0, height - thick, width, height)]);
        }
        Rules::Frame => rules.extend(frame(0.0)),
        Rules::DoubleFrame => rules.extend(frame(0.0).into_iter().chain(frame(thick * 2.5))),
        Rules::Corners => {
            let long = width * 0.11;
            for (x, out) in [(0.0, 1.0), (width, -1.0)] {
                for (y, down) in [(0.0, 1.0), (height, -1.0)] {
                    rules.push(Rect::from_points((x, y), (x + out * long, y + down * thick)));
                    rules.push(Rect::from_points((x, y), (x + out * thick, y + down * long.min(height / 3.0))));
                }
            }
        }
        Rules::Bar => rules.push(Rect::new(0.0, 0.0, thick * 1.6, height)),
        Rules::Under => {
            height += gap * 1.6 + thick * 1.6;
            rules.push(Rect::new(width * 0.72, height - thick * 1.6, width, height));
        }
        Rules::Panel => {
            let whole = RoundedRect::new(0.0, 0.0, width, height, width * 0.03);
            block.panels.push(whole.to_path(width * 1e-4));
            block.places.iter_mut().for_each(|place| place.on_panel = true);
        }
        Rules::None | Rules::Between | Rules::Beside | Rules::Dots | Rules::Ribbon => {}
    }
    Block { rules, height, ..block }
}

/// Full lines as wide as the block, one below the other by their ink; small ones in the middle between them.
fn stack(lines: &[Measured], arrangement: &Arrangement, width: f64, gap: f64) -> Block {
    let thick = width * RULE;
    let full =
        |line: &Measured| (width / line.ink.width().max(1e-6)).min(width * TALLEST / line.ink.height().max(1e-6));
    let heights = lines.iter().filter(|line| !line.small).map(|line| full(line) * line.ink.height());
    let least = heights.fold(f64::INFINITY, f64::min);
    // On a ribbon a full line leaves room at its ends, and stands clear of the lines above and below.
    let (ends, clear) = if arrangement.rules == Rules::Ribbon { (width * 0.13, width * 0.05) } else { (0.0, 0.0) };
    let small_height = if least.is_finite() { (least * 0.45).min(width * 0.1) } else { width * 0.1 };
    let mut out = Block::default();
    let mut y = 0.0;
    for (i, line) in lines.iter().enumerate() {
        let on_panel = ends > 0.0 && !line.small;
        let scale = if line.small {
            (small_height / line.ink.height().max(1e-6)).min(width / line.ink.width().max(1e-6))
        } else {
            full(line) * (1.0 - 2.0 * ends / width)
        };
        let (w, h) = (line.ink.width() * scale, line.ink.height() * scale);
        if i > 0 {
            y += gap;
            if arrangement.rules == Rules::Between && !line.small && !lines[i - 1].small {
                out.rules.push(Rect::new(0.0, y, width, y + thick));
                y += thick + gap;
            }
        }
        let left = (width - w) / 2.0;
        if line.small && arrangement.rules == Rules::Beside && left > width * 0.06 {
            let (middle, thick) = (y + h / 2.0, thick.min(h));
            for (from, to) in [(0.0, left - width * 0.03), (left + w + width * 0.03, width)] {
                out.rules.push(Rect::new(from, middle - thick / 2.0, to, middle + thick / 2.0));
            }
        }
        if on_panel {
            out.panels.push(ribbon(width, y, h + 2.0 * clear));
            y += clear;
        }
        out.places.push(Stacked { scale, left, top: y, on_panel });
        y += if on_panel { h + clear } else { h };
    }
    out.height = y;
    out
}

/// A ribbon over the whole width, notched at both ends.
fn ribbon(width: f64, top: f64, high: f64) -> BezPath {
    let notch = (high * 0.35).min(width * 0.06);
    let mut path = BezPath::new();
    path.move_to((0.0, top));
    for point in [(width, top), (width - notch, top + high / 2.0), (width, top + high), (0.0, top + high)] {
        path.line_to(point);
    }
    path.line_to((notch, top + high / 2.0));
    path.close_path();
    path
}

/// All lines in one size on even baselines.
fn steady(lines: &[Measured], arrangement: &Arrangement, stand: Stand, width: f64, gap: f64) -> Block {
    let mut out = Block::default();
    let widest = lines.iter().map(|line| line.ink.width()).fold(1e-6, f64::max);
    let top = lines.iter().map(|line| line.ink.y0).fold(f64::INFINITY, f64::min);
    let bottom = lines.iter().map(|line| line.ink.y1).fold(f64::NEG_INFINITY, f64::max);
    if lines.is_empty() {
        return out;
    }
    // Steps need room beside the widest line.
    let room = if stand == Stand::Stairs && lines.len() > 1 { width * 0.82 } else { width };
    let scale = (room / widest).min(width * TALLEST / (bottom - top).max(1e-6));
    let dots = if arrangement.rules == Rules::Dots { width * 0.012 } else { 0.0 };
    let pitch = (bottom - top) * scale + if dots > 0.0 { gap * 2.0 + dots } else { gap };
    for (i, line) in lines.iter().enumerate() {
        let free = width - line.ink.width() * scale;
        let share = match stand {
            Stand::Left => 0.0,
            Stand::Middle => 0.5,
            Stand::Right => 1.0,
            Stand::Stairs => i as f64 / (lines.len() - 1).max(1) as f64,
        };
        let y = i as f64 * pitch;
        if i > 0 && dots > 0.0 {
            for step in [-1.0, 0.0, 1.0] {
                let (x, y) = (width / 2.0 + step * dots * 3.0 - dots / 2.0, y - gap - dots);
                out.rules.push(Rect::new(x, y, x + dots, y + dots));
            }
        }
        out.places.push(Stacked { scale, left: free * share, top: y + (line.ink.y0 - top) * scale, on_panel: false });
    }
    out.height = out
        .places
        .iter()
        .zip(lines)
        .map(|(place, line)| place.top + line.ink.height() * place.scale)
        .fold(0.0, f64::max);
    out
}

/// The first line at the left, as high as the stack of all others beside it.
fn initial(lines: &[Measured], arrangement: &Arrangement, width: f64, gap: f64) -> Block {
    let [first, rest @ ..] = lines else { return stack(lines, arrangement, width, gap) };
    if rest.is_empty() {
        return stack(lines, arrangement, width, gap);
    }
    let between = gap * 0.9;
    let aspect = first.ink.width() / first.ink.height().max(1e-6);
    // The wider the stack, the higher it is, and the wider the letter beside it: halving finds where both fill the width.
    let (mut low, mut high) = (width * 0.2, width - between);
    for _ in 0..40 {
        let middle = (low + high) / 2.0;
        let tall = stack(rest, arrangement, middle, gap).height;
        if middle + between + tall * aspect > width { high = middle } else { low = middle }
    }
    let mut out = stack(rest, arrangement, low, gap);
    let scale = (out.height / first.ink.height().max(1e-6)).min((width - low - between) / first.ink.width().max(1e-6));
    let (w, h) = (first.ink.width() * scale, first.ink.height() * scale);
    for place in &mut out.places {
        place.left += w + between;
    }
    out.rules = out.rules.iter().map(|rule| *rule + Vec2::new(w + between, 0.0)).collect();
    out.places.insert(0, Stacked { scale, left: 0.0, top: (out.height - h) / 2.0, on_panel: false });
    out
}

/// The first half of the lines at the left, the others at the right of an upright rule.
fn columns(lines: &[Measured], arrangement: &Arrangement, width: f64, gap: f64) -> Block {
    let half = lines.len().div_ceil(2);
    if half == lines.len() {
        return stack(lines, arrangement, width, gap);
    }
    let between = width * 0.06;
    let own = (width - between) / 2.0;
    let (mut out, other) = (stack(&lines[..half], arrangement, own, gap), stack(&lines[half..], arrangement, own, gap));
    let height = out.height.max(other.height);
    let down = (height - out.height) / 2.0;
    out.places.iter_mut().for_each(|place| place.top += down);
    let across = own + between;
    out.places.extend(other.places.iter().map(|place| Stacked {
        left: place.left + across,
        top: place.top + (height - other.height) / 2.0,
        ..*place
    }));
    let thick = width * RULE;
    out.rules.push(Rect::new((width - thick) / 2.0, 0.0, (width + thick) / 2.0, height));
    out.height = height;
    out
}

/// The box of what a path paints.
pub(crate) fn ink(path: &kurbo::BezPath) -> Rect {
    path.bounding_box()
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn lines_lie_in_the_block_and_never_over_each_other(
            sizes in prop::collection::vec((1.0f64..400.0, 1.0f64..60.0, any::<bool>()), 1..6),
            number in 1..=Arrangement::COUNT,
        ) {
            let width = 500.0;
            let measured: Vec<_> = sizes.iter().map(|(w, h, small)| Measured { ink: Rect::new(0.0, 0.0, *w, *h), small: *small }).collect();
            let Block { places, rules, panels, height } = stacked(&measured, Arrangement::numbered(number).unwrap(), width);
            prop_assert_eq!(places.len(), measured.len());
            let whole = Rect::new(0.0, 0.0, width, height).inflate(1e-6, 1e-6);
            let boxes: Vec<Rect> = places
                .iter()
                .zip(&measured)
                .map(|(place, line)| Rect::from_origin_size((place.left, place.top), line.ink.size() * place.scale))
                .collect();
            for (at, own) in boxes.iter().enumerate() {
                prop_assert!(whole.union(*own) == whole, "{own:?} of {whole:?}");
                let meets = |other: &Rect| own.intersect(other.inflate(-1e-6, -1e-6)).area() > 1e-6;
                prop_assert!(!boxes[..at].iter().any(meets), "line {at} of {number} lies over another: {boxes:?}");
                prop_assert!(!rules.iter().any(|rule| own.inflate(-1e-6, -1e-6).intersect(*rule).area() > 1e-6), "a rule through line {at} of {number}");
            }
            prop_assert!(rules.iter().all(|rule| whole.union(*rule) == whole));
            // Panels stay in the block, hold what stands on them, and keep clear of all else.
            for panel in panels.iter().map(kurbo::Shape::bounding_box) {
                prop_assert!(whole.union(panel) == whole);
                for (place, own) in places.iter().zip(&boxes) {
                    let inside = panel.union(*own) == panel;
                    prop_assert!(inside || panel.intersect(own.inflate(-1e-6, -1e-6)).area() < 1e-6);
                    prop_assert!(!inside || place.on_panel);
                }
            }
            prop_assert!(panels.len() <= 1 || panels.len() == places.iter().filter(|place| place.on_panel).count());
        }

        /// A block of another width is the same block at another size.
        #[test]
        fn a_block_scales_with_its_width(sizes in prop::collection::vec((9.0f64..400.0, 9.0f64..60.0, any::<bool>()), 1..6), number in 1..=Arrangement::COUNT, factor in 0.3f64..3.0) {
            let measured: Vec<_> = sizes.iter().map(|(w, h, small)| Measured { ink: Rect::new(0.0, 0.0, *w, *h), small: *small }).collect();
            let arrangement = Arrangement::numbered(number).unwrap();
            let Block { places: a, height: high, .. } = stacked(&measured, arrangement, 300.0);
            let Block { places: b, height: higher, .. } = stacked(&measured, arrangement, 300.0 * factor);
            prop_assert!((higher - high * factor).abs() < 1e-6 * higher.max(1.0));
            for (a, b) in a.iter().zip(&b) {
                prop_assert!((b.scale - a.scale * factor).abs() < 1e-6 * b.scale.max(1.0) && (b.left - a.left * factor).abs() < 1e-4 && (b.top - a.top * factor).abs() < 1e-4);
            }
        }
    }
}
