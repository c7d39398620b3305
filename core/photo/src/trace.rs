//! Pictures of few colours as outlines.

use kurbo::{BezPath, Point};
use rayon::prelude::*;
use vatman_document::Oklab;
use visioncortex::{BinaryImage, CompoundPathElement, PathSimplifyMode};

use crate::blank::{clear_ground, even_ground};
use crate::develop::Plane;
use crate::{Straight, resize};

/// Pixels along the longer side in which outlines are looked for.
const LOOKED: f64 = 1_400.0;
/// How much larger a small picture is made at most.
const GROWN: f64 = 3.0;
/// How far a colour goes on under those above it, in pixels, so that no gap is seen between them.
const UNDER: usize = 2;

/// A picture as outlines.
#[derive(Debug, Clone)]
pub struct Traced {
    /// Width of the field the outlines lie in.
    pub width: u32,
    /// Its height.
    pub height: u32,
    /// Back to front: the colour that takes most room first.
    pub layers: Vec<TracedLayer>,
}

/// All of one colour.
#[derive(Debug, Clone)]
pub struct TracedLayer {
    /// Encoded sRGB.
    pub color: [u8; 3],
    /// Where it is, by the even-odd rule.
    pub outline: BezPath,
    /// Separate shapes.
    pub shapes: usize,
}

/// A picture as outlines in at most so many colours. `smooth`, 0 to 1, says how much of small corners and specks is given up. What is
/// clear stays so; of an opaque picture on an even ground the ground is left out.
///
/// Colours are the centres of k-means in OKLab over the pixels that lie in flat areas; a pixel at an edge goes to the nearest colour
/// of the flat areas around it, so that no third one appears between two. Each colour is smoothed and outlined by itself.
#[must_use]
pub fn trace(picture: &Straight, colours: usize, smooth: f64) -> Traced {
    let longer = f64::from(picture.width().max(picture.height()));
    let by = (LOOKED / longer).min(GROWN);
    let sized = |side: u32| ((f64::from(side) * by).round() as u32).max(1);
    let work = resize(picture, sized(picture.width()), sized(picture.height()));
    let (width, height) = (work.width() as usize, work.height() as usize);
    let ground = if even_ground(picture) {
        clear_ground(&work).map(|cover| cover.sized(work.width(), work.height()))
    } else {
        None
    };
    let seen: Vec<bool> = match &ground {
        Some(cover) => cover.data().chunks_exact(4).map(|pixel| pixel[0] > 127).collect(),
        None => work.data().chunks_exact(4).map(|pixel| pixel[3] > 127).collect(),
    };
    let labels = labels_of(&work, &seen, colours.max(1));
    let mut sizes = vec![0usize; labels.colours.len()];
    labels.of.iter().flatten().for_each(|label| sizes[usize::from(*label)] += 1);
    let mut order: Vec<usize> = (0..sizes.len()).filter(|label| sizes[*label] > 0).collect();
    order.sort_by_key(|label| std::cmp::Reverse(sizes[*label]));
    let rank = |label: u8| order.iter().position(|own| *own == usize::from(label)).unwrap_or(0);
    let ranks: Vec<Option<usize>> = labels.of.iter().map(|label| label.map(rank)).collect();
    let layer = |(at, label): (usize, &usize)| {
        let mask = reaching_under(&ranks, width, height, at);
        let outline = outline_of(Plane::of(width, height, mask), smooth);
        let shapes = outline.elements().iter().filter(|element| matches!(element, kurbo::PathEl::MoveTo(_))).count();
        TracedLayer { color: labels.colours[*label], outline, shapes }
    };
    let layers: Vec<TracedLayer> = order.par_iter().enumerate().map(layer).collect();
    let layers = layers.into_iter().filter(|layer| layer.shapes > 0).collect();
    Traced { width: work.width(), height: work.height(), layers }
}

/// 1 where a colour is, and a little further under those above it.
fn reaching_under(ranks: &[Option<usize>], width: usize, height: usize, own: usize) -> Vec<f32> {
    let is_own = |x: usize, y: usize| ranks[y * width + x] == Some(own);
    let value = |at: usize| {
        let (x, y) = (at % width, at / width);
        match ranks[at] {
            Some(rank) if rank == own => 1.0,
            Some(rank) if rank > own => {
                let rows = y.saturating_sub(UNDER)..=(y + UNDER).min(height - 1);
                let columns = || x.saturating_sub(UNDER)..=(x + UNDER).min(width - 1);
                f32::from(u8::from(rows.into_iter().any(|y| columns().any(|x| is_own(x, y)))))
            }
            _ => 0.0,
        }
    };
    (0..ranks.len()).into_par_iter().map(value).collect()
}

/// The outline of where a plane is above a half, in its pixels, by the even-odd rule.
pub(crate) fn outline_of(plane: Plane<1>, smooth: f64) -> BezPath {
    let smooth = smooth.clamp(0.0, 1.0);
    let (width, height) = (plane.width, plane.height);
    let soft = plane.blurred(0.35 + 2.4 * smooth);
    let mut image = BinaryImage::new_w_h(width, height);
    for (at, [value]) in soft.data.iter().enumerate() {
        image.set_pixel(at % width, at / width, *value > 0.5);
    }
    let least = 5 + (80.0 * smooth * smooth) as usize;
    let corner = (40.0 + 60.0 * smooth).to_radians();
    let mut out = BezPath::new();
    for cluster in image.to_clusters(false).iter().filter(|cluster| cluster.size() >= least) {
        let path =
            cluster.to_compound_path(PathSimplifyMode::Spline, corner, 3.5 + 3.0 * smooth, 10, 45f64.to_radians());
        for element in path.iter() {
            let CompoundPathElement::Spline(spline) = element else { continue };
            let point = |at: usize| Point::new(spline.points[at].x, spline.points[at].y);
            out.move_to(point(0));
            for at in (1..spline.points.len().saturating_sub(2)).step_by(3) {
                out.curve_to(point(at), point(at + 1), point(at + 2));
            }
            out.close_path();
        }
    }
    out
}

/// Which colour each pixel has.
struct Labels {
    colours: Vec<[u8; 3]>,
    of: Vec<Option<u8>>,
}

fn labels_of(work: &Straight, seen: &[bool], most: usize) -> Labels {
    let (width, height) = (work.width() as usize, work.height() as usize);
    let lab = |at: usize| {
        let pixel = &work.data()[at * 4..];
        Oklab::from(vatman_document::Color::opaque(pixel[0], pixel[1], pixel[2]))
    };
    let labs: Vec<Oklab> = (0..seen.len()).into_par_iter().map(lab).collect();
    // Flat: what lies a few pixels from it on all sides is of about its colour; an edge made larger is that wide.
    let flat = |at: usize| {
        let (x, y) = (at % width, at / width);
        let near = |dx: isize, dy: isize| {
            let (x, y) = (x.checked_add_signed(dx)?, y.checked_add_signed(dy)?);
            (x < width && y < height).then_some(y * width + x)
        };
        seen[at]
            && [(-3, 0), (3, 0), (0, -3), (0, 3)]
                .into_iter()
                .filter_map(|(dx, dy)| near(dx, dy))
                .all(|other| seen[other] && labs[at].distance(labs[other]) < 0.035)
    };
    let flats: Vec<bool> = (0..seen.len()).into_par_iter().map(flat).collect();
    let mut chosen: Vec<Oklab> = flats.iter().zip(&labs).filter(|(flat, _)| **flat).map(|(_, lab)| *lab).collect();
    if chosen.len() * 20 < seen.iter().filter(|seen| **seen).count() {
        // There is nearly nothing flat: all count.
        chosen = seen.iter().zip(&labs).filter(|(seen, _)| **seen).map(|(_, lab)| *lab).collect();
    }
    let centres = centres(&chosen, most.min(64));
    if centres.is_empty() {
        return Labels { colours: Vec::new(), of: vec![None; seen.len()] };
    }
    let nearest = |lab: Oklab, among: &dyn Fn(usize) -> bool| {
        let all = centres.iter().enumerate().filter(|(label, _)| among(*label));
        all.min_by(|a, b| apart(*a.1, lab).total_cmp(&apart(*b.1, lab))).map(|(label, _)| label as u8)
    };
    let first: Vec<Option<u8>> =
        (0..seen.len()).into_par_iter().map(|at| flats[at].then(|| nearest(labs[at], &|_| true)).flatten()).collect();
    let label = |at: usize| {
        if !seen[at] {
            return None;
        }
        first[at].or_else(|| {
            let (x, y) = (at % width, at / width);
            let mut around = 0u64;
            for y in y.saturating_sub(3)..(y + 4).min(height) {
                for other in first[y * width..][x.saturating_sub(3)..(x + 4).min(width)].iter().flatten() {
                    around |= 1 << other;
                }
            }
            nearest(labs[at], &|label| around & (1 << label) != 0).or_else(|| nearest(labs[at], &|_| true))
        })
    };
    let of = (0..seen.len()).into_par_iter().map(label).collect();
    let rgb = |lab: &Oklab| {
        let color = lab.to_color();
        [color.r, color.g, color.b]
    };
    Labels { colours: centres.iter().map(rgb).collect(), of }
}

/// How unlike two colours are. Light and shade spread one colour over many lightnesses: hue and colourfulness count more.
fn apart(a: Oklab, b: Oklab) -> f64 {
    ((a.l - b.l) * 0.7).hypot((a.a - b.a).hypot(a.b - b.b) * 2.0)
}

/// Centres of k-means in OKLab over a histogram, started from the commonest colour and those that are far from all chosen so far and
/// common (after T. F. Gonzalez, 1985): the same picture gives the same.
fn centres(points: &[Oklab], most: usize) -> Vec<Oklab> {
    /// Cells of the histogram along each axis of 1.
    const CELLS: f64 = 40.0;
    let mut cells: std::collections::BTreeMap<[i32; 3], (Oklab, f64)> = std::collections::BTreeMap::new();
    for lab in points {
        let key = [lab.l, lab.a, lab.b].map(|value| (value * CELLS).round() as i32);
        let (sum, count) = cells.entry(key).or_insert((Oklab { l: 0.0, a: 0.0, b: 0.0 }, 0.0));
        *sum = Oklab { l: sum.l + lab.l, a: sum.a + lab.a, b: sum.b + lab.b };
        *count += 1.0;
    }
    let cells: Vec<(Oklab, f64)> =
        cells.into_values().map(|(sum, n)| (Oklab { l: sum.l / n, a: sum.a / n, b: sum.b / n }, n)).collect();
    let nearest = |centres: &[Oklab], lab: Oklab| {
        let all = centres.iter().map(|own| apart(*own, lab)).enumerate();
        all.min_by(|a, b| a.1.total_cmp(&b.1)).unwrap_or((0, f64::MAX))
    };
    let Some(start) = cells.iter().max_by(|a, b| a.1.total_cmp(&b.1)) else { return Vec::new() };
    let mut found = vec![start.0];
    while found.len() < most {
        let gain = |(lab, count): &(Oklab, f64)| nearest(&found, *lab).1.powi(2) * count.powf(0.7);
        match cells.iter().max_by(|a, b| gain(a).total_cmp(&gain(b))) {
            Some(cell) if nearest(&found, cell.0).1 > 0.05 && cell.1 > points.len() as f64 * 2e-4 => found.push(cell.0),
            _ => break,
        }
    }
    for _ in 0..12 {
        let mut sums = vec![(Oklab { l: 0.0, a: 0.0, b: 0.0 }, 0.0); found.len()];
        for (lab, count) in &cells {
            let (sum, all) = &mut sums[nearest(&found, *lab).0];
            *sum = Oklab { l: sum.l + lab.l * count, a: sum.a + lab.a * count, b: sum.b + lab.b * count };
            *all += count;
        }
        for (own, (sum, all)) in found.iter_mut().zip(sums) {
            if all > 0.0 {
                *own = Oklab { l: sum.l / all, a: sum.a / all, b: sum.b / all };
            }
        }
    }
    found
}

#[cfg(test)]
mod tests {
    use super::*;
    use kurbo::Shape as _;

    /// A red disc with a hole, a blue square half over it, on white or clear.
    fn logo(clear: bool, side: u32) -> Straight {
        let mut data = Vec::new();
        let unit = f64::from(side) / 100.0;
        for y in 0..side {
            for x in 0..side {
                let mut sum = [0.0f64; 4];
                for sample in 0..16 {
                    let at = |n: u32, own: u32| (f64::from(own) + (f64::from(n) + 0.5) / 4.0) / unit;
                    let (px, py) = (at(sample % 4, x), at(sample / 4, y));
                    let far = (px - 40.0).hypot(py - 40.0);
                    let own = if (55.0..85.0).contains(&px) && (50.0..80.0).contains(&py) {
                        [30.0, 60.0, 180.0, 255.0]
                    } else if (10.0..28.0).contains(&far) {
                        [210.0, 40.0, 30.0, 255.0]
                    } else if clear {
                        [0.0; 4]
                    } else {
                        [255.0; 4]
                    };
                    for c in 0..3 {
                        sum[c] += own[c] * own[3] / 255.0;
                    }
                    sum[3] += own[3];
                }
                let alpha = sum[3] / 16.0;
                data.extend((0..3).map(|c| if alpha > 0.0 { (sum[c] / 16.0 * 255.0 / alpha) as u8 } else { 0 }));
                data.push(alpha as u8);
            }
        }
        Straight::new(side, side, data).unwrap()
    }

    #[test]
    fn a_logo_becomes_its_shapes_in_its_colours() {
        for (clear, side) in [(false, 300), (true, 300), (false, 900), (true, 90)] {
            let traced = trace(&logo(clear, side), 4, 0.2);
            assert_eq!(traced.layers.len(), 2, "{clear} {side}");
            let unit = f64::from(traced.width) / 100.0;
            let (red, blue) = (&traced.layers[0], &traced.layers[1]);
            for (layer, wanted) in [(red, [210u8, 40, 30]), (blue, [30, 60, 180])] {
                assert!(
                    layer.color.iter().zip(wanted).all(|(a, b)| a.abs_diff(b) < 6),
                    "{:?} for {wanted:?}",
                    layer.color
                );
            }
            let area = blue.outline.area().abs() / unit / unit;
            assert!((area - 900.0).abs() < 18.0, "{clear} {side}: the square is {area}");
            let inside =
                |layer: &TracedLayer, x: f64, y: f64| layer.outline.winding(Point::new(x * unit, y * unit)) % 2 != 0;
            for (x, y, is_red, is_blue) in [
                (40.0, 40.0, false, false),
                (20.0, 40.0, true, false),
                (75.0, 70.0, false, true),
                (90.0, 20.0, false, false),
            ] {
                assert_eq!((inside(red, x, y), inside(blue, x, y)), (is_red, is_blue), "{clear} {side} at {x}, {y}");
            }
            // No point of the disc's outer edge is further than half a hundredth from the circle, but where the square lies over it.
            let far =
                red.outline.segments().flat_map(|s| [0.0, 0.25, 0.5, 0.75].map(|t| kurbo::ParamCurve::eval(&s, t)));
            for at in far.filter(|at| at.x / unit < 50.0 || at.y / unit < 45.0) {
                let r = (at.x / unit - 40.0).hypot(at.y / unit - 40.0);
                assert!((r - 28.0).abs() < 0.6 || (r - 10.0).abs() < 0.6, "{clear} {side}: {r} at {at:?}");
            }
        }
    }

    #[test]
    fn fewer_colours_are_never_exceeded_and_nothing_gives_nothing() {
        assert_eq!(trace(&logo(true, 200), 1, 0.5).layers.len(), 1);
        assert!(trace(&Straight::new(50, 50, vec![0; 10_000]).unwrap(), 4, 0.5).layers.is_empty());
        let noise = (0..64 * 64).flat_map(|at: u32| [(at * 97) as u8, (at * 61) as u8, (at * 13) as u8, 255]).collect();
        assert!(trace(&Straight::new(64, 64, noise).unwrap(), 6, 0.0).layers.len() <= 6);
    }
}
