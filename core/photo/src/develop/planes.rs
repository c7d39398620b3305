//! Work on whole planes of values: Gaussian blur, and the guided filter that keeps edges.

use pulp::NullaryFnOnce;
use rayon::prelude::*;

use crate::Straight;
use crate::wide::side_by_side;

/// Values that are written side by side.
const BLOCK: usize = 8;

/// A plane of pixels of `N` values.
#[derive(Debug, Clone)]
pub(crate) struct Plane<const N: usize> {
    pub width: usize,
    pub height: usize,
    pub data: Vec<[f32; N]>,
}

impl<const N: usize> Plane<N> {
    pub(crate) fn new(width: usize, height: usize, data: Vec<[f32; N]>) -> Self {
        Self { width, height, data }
    }

    /// Blurred by a Gaussian of a standard deviation in pixels; beyond the edges lies what lies on them.
    pub(crate) fn blurred(self, sigma: f64) -> Self {
        if sigma < 0.05 {
            return self;
        }
        let Some(small) = Smaller::for_blur(sigma, self.width, self.height) else { return self.convolved(sigma) };
        let (width, height) = (self.width, self.height);
        let cells = Self::cells(width, height, small.by, small.room, |y, sums: &mut [[f32; N]]| {
            let row = self.data[y * width..(y + 1) * width].as_flattened();
            sums.as_flattened_mut().iter_mut().zip(row).for_each(|(sum, value)| *sum += value);
        });
        cells.convolved(small.sigma).grown_from(small.by, small.room, width, height)
    }

    pub(super) fn convolved(self, sigma: f64) -> Self {
        /// Values that are worked on at a time, so that they stay near.
        const NEAR: usize = 1_024;
        let kernel = kernel(sigma);
        let reach = kernel.len() - 1;
        let Self { width, height, data } = self;
        let mut across = vec![[0.0; N]; data.len()];
        let rows = across.par_chunks_exact_mut(width).zip(data.par_chunks_exact(width));
        rows.for_each_init(Vec::new, |padded: &mut Vec<[f32; N]>, (to, from)| {
            padded.clear();
            padded.extend(std::iter::repeat_n(from[0], reach));
            padded.extend_from_slice(from);
            padded.extend(std::iter::repeat_n(from[width - 1], reach));
            let padded = padded.as_flattened();
            for (n, to) in to.as_flattened_mut().chunks_mut(NEAR).enumerate() {
                let count = to.len();
                let at = |pixel: usize| &padded[n * NEAR + pixel * N..][..count];
                weighted(to, &kernel, at(reach), |d| (at(reach - d), at(reach + d)));
            }
        });
        let row = |y: isize| {
            let y = y.clamp(0, height as isize - 1) as usize;
            across[y * width..(y + 1) * width].as_flattened()
        };
        let mut out = data;
        out.par_chunks_exact_mut(width).enumerate().for_each(|(y, to)| {
            for (n, to) in to.as_flattened_mut().chunks_mut(NEAR).enumerate() {
                let count = to.len();
                let at = |by: isize| &row(y as isize + by)[n * NEAR..][..count];
                weighted(to, &kernel, at(0), |d| (at(-(d as isize)), at(d as isize)));
            }
        });
        Self { width, height, data: out }
    }

    /// Means of squares of `by` pixels with `room` squares of what lies beyond the edges on each side: there lies what lies on them.
    /// `add` adds a row of pixels to sums, which hold `by` rows.
    pub(crate) fn cells<Sum: Copy + Default + Into<f32>>(
        width: usize,
        height: usize,
        by: usize,
        room: usize,
        add: impl Fn(usize, &mut [[Sum; N]]) + Sync,
    ) -> Self {
        let (across, down) = (width.div_ceil(by) + 2 * room, height.div_ceil(by) + 2 * room);
        let held = |at: usize, count: usize| at.saturating_sub(room * by).min(count - 1);
        let mut data = vec![[0.0; N]; across * down];
        data.par_chunks_exact_mut(across).enumerate().for_each_init(
            || vec![[Sum::default(); N]; width],
            |sums, (y, out)| {
                sums.fill([Sum::default(); N]);
                let rows = held(y * by, height)..=held((y + 1) * by - 1, height);
                side_by_side(|| rows.clone().for_each(|row| add(row, sums)));
                // Rows beyond an edge are the one on it.
                let more = by - rows.clone().count();
                if more > 0 {
                    let edge = if *rows.start() == 0 { *rows.start() } else { *rows.end() };
                    (0..more).for_each(|_| add(edge, sums));
                }
                let share = 1.0 / (by * by) as f32;
                for (x, out) in out.iter_mut().enumerate() {
                    let columns = held(x * by, width)..=held((x + 1) * by - 1, width);
                    let more = (by - columns.clone().count()) as f32;
                    let edge = sums[if *columns.start() == 0 { *columns.start() } else { *columns.end() }];
                    let mut sum = edge.map(|value| value.into() * more);
                    for value in &sums[columns] {
                        (0..N).for_each(|c| sum[c] += value[c].into());
                    }
                    *out = sum.map(|value| value * share);
                }
            },
        );
        Self { width: across, height: down, data }
    }

    /// Means of squares of `by` pixels; the last ones may be narrower.
    pub(crate) fn shrunk(&self, by: usize) -> Self {
        let (width, height) = (self.width.div_ceil(by), self.height.div_ceil(by));
        let mut data = vec![[0.0; N]; width * height];
        data.par_chunks_exact_mut(width).enumerate().for_each(|(y, row)| {
            let rows = y * by..((y + 1) * by).min(self.height);
            for (x, out) in row.iter_mut().enumerate() {
                let columns = x * by..((x + 1) * by).min(self.width);
                let mut sum = [0.0f32; N];
                for y in rows.clone() {
                    for value in &self.data[y * self.width + columns.start..y * self.width + columns.end] {
                        for c in 0..N {
                            sum[c] += value[c];
                        }
                    }
                }
                let count = (rows.len() * columns.len()) as f32;
                *out = sum.map(|value| value / count);
            }
        });
        Self { width, height, data }
    }

    /// Straight lines between the middles of squares of `by` pixels.
    pub(crate) fn grown(&self, by: usize, width: usize, height: usize) -> Self {
        self.grown_from(by, 0, width, height)
    }

    /// As [`Self::grown`], of what lies within `room` squares.
    fn grown_from(&self, by: usize, room: usize, width: usize, height: usize) -> Self {
        let mut data = vec![[0.0; N]; width * height];
        data.par_chunks_exact_mut(width).enumerate().for_each_init(
            || [(); N].map(|()| vec![0.0; width]),
            |channels, (y, row)| {
                self.grow_row(by, room, y, channels.each_mut().map(Vec::as_mut_slice));
                for (x, out) in row.iter_mut().enumerate() {
                    *out = std::array::from_fn(|c| channels[c][x]);
                }
            },
        );
        Self { width, height, data }
    }

    /// One row of [`Self::grown_from`], its channels apart.
    pub(super) fn grow_row(&self, by: usize, room: usize, y: usize, channels: [&mut [f32]; N]) {
        let low = ((y as f32 + 0.5) / by as f32 - 0.5 + room as f32).clamp(0.0, (self.height - 1) as f32);
        let top = (low as usize).min(self.height.saturating_sub(2));
        let (foot, share) = ((top + 1).min(self.height - 1), low - top as f32);
        let row = |y: usize| &self.data[y * self.width..][..self.width];
        let mut between = row(top).to_vec();
        side_by_side(|| {
            let both = between.as_flattened_mut().iter_mut().zip(row(foot).as_flattened());
            both.for_each(|(above, below)| *above += (below - *above) * share);
        });
        let place = |x: usize| ((by / 2 + x) as f32 + 0.5) / by as f32 - 0.5;
        let shares: Vec<_> = (0..by.div_ceil(BLOCK)).map(|n| std::array::from_fn(|x| place(n * BLOCK + x))).collect();
        for (c, out) in channels.into_iter().enumerate() {
            side_by_side(Lines { middles: &between, c, by, room, shares: &shares, out });
        }
    }
}

/// Straight lines from the middle of a square to that of the next, of one of their values.
struct Lines<'a, const N: usize> {
    middles: &'a [[f32; N]],
    c: usize,
    by: usize,
    room: usize,
    /// How far on from one middle to the next each of the `by` pixels is that lie there, in whole blocks.
    shares: &'a [[f32; BLOCK]],
    out: &'a mut [f32],
}

impl<const N: usize> NullaryFnOnce for Lines<'_, N> {
    type Output = ();

    #[inline(always)]
    fn call(self) {
        let Self { middles, c, by, room, shares, out } = self;
        let mut pairs = middles.windows(2).map(|pair| (pair[0][c], pair[1][c] - pair[0][c]));
        let line = |out: &mut [f32], (start, span): (f32, f32), from: usize| {
            let own = shares.as_flattened()[from..by].iter().zip(out);
            own.for_each(|(share, out)| *out = start + span * share);
        };
        let mut at;
        if room == 0 {
            at = out.len().min(by / 2);
            out[..at].fill(middles[0][c]);
        } else {
            // Pixels before the middle of the first square of the plane itself take part in the one before it.
            at = out.len().min(by / 2);
            pairs.by_ref().nth(room - 1).into_iter().for_each(|pair| line(&mut out[..at], pair, by - by / 2));
        }
        // What a block says beyond its line the next one writes over.
        let wide = shares.len() * BLOCK;
        while let Some(own) = out.get_mut(at..at + wide) {
            let Some((start, span)) = pairs.next() else { break };
            for (out, shares) in own.as_chunks_mut::<BLOCK>().0.iter_mut().zip(shares) {
                // All are read before one is written: together, as nothing says that they lie apart.
                *out = shares.map(|share| start + span * share);
            }
            at += by;
        }
        for pair in pairs {
            line(&mut out[at..], pair, 0);
            at = (at + by).min(out.len());
        }
        out[at..].fill(middles[middles.len() - 1][c]);
    }
}

impl Plane<3> {
    /// As [`Self::cells`], of the opaque colours of a picture; its values are encoded, from 0 to 1.
    pub(super) fn of_bytes(picture: &Straight, by: usize, room: usize) -> Self {
        let (width, height) = (picture.width() as usize, picture.height() as usize);
        // Squares are at most 64 pixels high: their sums of bytes are whole numbers of 16 bits.
        let with_alpha = Plane::<4>::cells(width, height, by, room, |y, sums: &mut [[u16; 4]]| {
            let row = &picture.data()[y * width * 4..][..width * 4];
            sums.as_flattened_mut().iter_mut().zip(row).for_each(|(sum, byte)| *sum += u16::from(*byte));
        });
        let data = with_alpha.data.iter().map(|[r, g, b, _]| [*r, *g, *b].map(|value| value * (1.0 / 255.0)));
        Self::new(with_alpha.width, with_alpha.height, data.collect())
    }
}

/// How a Gaussian is worked out on a plane made smaller by whole numbers: what means of squares and straight lines between them add is
/// taken off its deviation.
#[derive(Debug, Clone, Copy)]
pub(super) struct Smaller {
    pub by: usize,
    /// Squares beyond the edges, as far as they are seen.
    pub room: usize,
    /// The deviation there, in its pixels.
    pub sigma: f64,
}

impl Smaller {
    /// Nothing where the deviation is too small for that.
    pub(super) fn for_blur(sigma: f64, width: usize, height: usize) -> Option<Self> {
        // The smaller plane keeps a deviation of at least 2.8 of its pixels.
        let by = (sigma / 2.8).floor().clamp(1.0, 64.0) as usize;
        let by = by.min(width.min(height) / 4).max(1);
        if by < 2 {
            return None;
        }
        let square = (by * by) as f64;
        let sigma = (sigma * sigma - (square - 1.0) / 12.0 - square / 6.0).max(0.0).sqrt() / by as f64;
        Some(Self { by, room: (sigma * 4.0).ceil() as usize + 1, sigma })
    }
}

/// Sums of what lies to both sides, weighted by a kernel.
#[inline(always)]
fn weighted<'a>(to: &mut [f32], kernel: &[f32], middle: &'a [f32], beside: impl Fn(usize) -> (&'a [f32], &'a [f32])) {
    side_by_side(|| {
        to.iter_mut().zip(middle).for_each(|(to, value)| *to = value * kernel[0]);
        for (d, weight) in kernel.iter().enumerate().skip(1) {
            let (before, after) = beside(d);
            for ((to, a), b) in to.iter_mut().zip(before).zip(after) {
                *to += (a + b) * weight;
            }
        }
    });
}

impl Plane<1> {
    pub(crate) fn of(width: usize, height: usize, values: Vec<f32>) -> Self {
        Self::new(width, height, values.into_iter().map(|value| [value]).collect())
    }

    /// Smoothed but for its edges: [`guided`] by itself.
    pub(crate) fn without_texture(&self, sigma: f64, edge: f32) -> Self {
        guided(self, self, sigma, edge)
    }
}

/// Smoothed but for what are edges of `guide`: the guided filter (K. He, J. Sun, X. Tang, "Guided image filtering", 2013) with
/// Gaussian means. `sigma` in pixels; differences of the guide well above `edge` stay.
pub(crate) fn guided(guide: &Plane<1>, input: &Plane<1>, sigma: f64, edge: f32) -> Plane<1> {
    let (width, height) = (guide.width, guide.height);
    let led = Guided::of(guide, input, sigma, edge);
    let mut data = vec![[0.0]; guide.data.len()];
    data.par_chunks_exact_mut(width).zip(guide.data.par_chunks_exact(width)).enumerate().for_each(|(y, (out, own))| {
        let [slopes, rests] = led.row(y);
        for (((out, [value]), slope), rest) in out.iter_mut().zip(own).zip(&slopes).zip(&rests) {
            *out = [slope * value + rest];
        }
    });
    Plane::new(width, height, data)
}

/// What the guided filter makes of a plane: for each of its pixels a line by which the guide becomes the result. Kept on a smaller
/// plane where that loses nothing (K. He, J. Sun, "Fast guided filter", 2015).
pub(crate) struct Guided {
    lines: Plane<2>,
    by: usize,
    width: usize,
}

impl Guided {
    pub(crate) fn of(guide: &Plane<1>, input: &Plane<1>, sigma: f64, edge: f32) -> Self {
        let by = Self::by(sigma, guide.width, guide.height);
        let led = guide.shrunk(by);
        let small = if std::ptr::eq(guide, input) { led.clone() } else { input.shrunk(by) };
        Self::of_small(&led, &small, by, guide.width, sigma, edge)
    }

    /// By how much planes may be made smaller for it.
    pub(crate) fn by(sigma: f64, width: usize, height: usize) -> usize {
        ((sigma / 2.5).floor().clamp(1.0, 32.0) as usize).min(width.min(height) / 4).max(1)
    }

    /// Of planes that were made smaller already, from `width` pixels across; `sigma` in pixels before that.
    pub(crate) fn of_small(guide: &Plane<1>, input: &Plane<1>, by: usize, width: usize, sigma: f64, edge: f32) -> Self {
        let sigma = (sigma / by as f64).max(0.5);
        let moments = guide.data.par_iter().zip(&input.data).map(|([g], [p])| [*g, *p, g * g, g * p]).collect();
        let means = Plane::<4>::new(guide.width, guide.height, moments).convolved(sigma);
        let lines = means.data.par_iter().map(|[g, p, gg, gp]| {
            let slope = (gp - g * p) / ((gg - g * g).max(0.0) + edge * edge);
            [slope, p - slope * g]
        });
        let lines = Plane::<2>::new(guide.width, guide.height, lines.collect()).convolved(sigma);
        Self { lines, by, width }
    }

    /// The lines of a row: slopes and rests.
    pub(crate) fn row(&self, y: usize) -> [Vec<f32>; 2] {
        let mut out = [(); 2].map(|()| vec![0.0; self.width]);
        self.lines.grow_row(self.by, 0, y, out.each_mut().map(Vec::as_mut_slice));
        out
    }
}

/// One side of a Gaussian to four deviations from its middle; both sides together weigh 1.
fn kernel(sigma: f64) -> Vec<f32> {
    let reach = (sigma * 4.0).ceil().max(1.0) as usize;
    let weights: Vec<f64> = (0..=reach).map(|x| (-((x * x) as f64) / (2.0 * sigma * sigma)).exp()).collect();
    let sum: f64 = weights[0] + 2.0 * weights[1..].iter().sum::<f64>();
    weights.iter().map(|weight| (weight / sum) as f32).collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    fn spot(width: usize, height: usize) -> Plane<1> {
        let lit = |at: usize| {
            let (x, y) = (at % width, at / width);
            f32::from(u8::from((x / 9 + y / 13).is_multiple_of(3)))
        };
        Plane::of(width, height, (0..width * height).map(lit).collect())
    }

    /// The Gaussian in double precision, by its definition.
    fn exact(plane: &Plane<1>, sigma: f64) -> Vec<f64> {
        let reach = (sigma * 5.0).ceil() as i64;
        let weights: Vec<f64> = (-reach..=reach).map(|d| (-((d * d) as f64) / (2.0 * sigma * sigma)).exp()).collect();
        let sum: f64 = weights.iter().sum();
        let (w, h) = (plane.width as i64, plane.height as i64);
        let mut across = vec![0.0; plane.data.len()];
        for y in 0..h {
            for x in 0..w {
                across[(y * w + x) as usize] = (-reach..=reach)
                    .map(|d| {
                        f64::from(plane.data[(y * w + (x + d).clamp(0, w - 1)) as usize][0])
                            * weights[(d + reach) as usize]
                    })
                    .sum::<f64>()
                    / sum;
            }
        }
        (0..w * h)
            .map(|at| {
                let (x, y) = (at % w, at / w);
                (-reach..=reach)
                    .map(|d| across[((y + d).clamp(0, h - 1) * w + x) as usize] * weights[(d + reach) as usize])
                    .sum::<f64>()
                    / sum
            })
            .collect()
    }

    #[test]
    fn squares_are_means_and_what_lies_beyond_the_edges_lies_on_them() {
        let (width, height) = (23usize, 17usize);
        let byte = |at: usize, c: usize| ((at * 37 + c * 91 + at * at % 13) % 256) as u8;
        let data = (0..width * height).flat_map(|at| [byte(at, 0), byte(at, 1), byte(at, 2), 255]).collect();
        let picture = Straight::new(width as u32, height as u32, data).unwrap();
        for (by, room) in [(1, 0), (3, 0), (3, 2), (4, 1), (5, 3)] {
            let cells = Plane::of_bytes(&picture, by, room);
            assert_eq!((cells.width, cells.height), (width.div_ceil(by) + 2 * room, height.div_ceil(by) + 2 * room));
            let held = |at: usize, count: usize| at.saturating_sub(room * by).min(count - 1);
            for (at, cell) in cells.data.iter().enumerate() {
                let (left, top) = (at % cells.width * by, at / cells.width * by);
                for (c, got) in cell.iter().enumerate() {
                    let within = (0..by * by).map(|n| (held(left + n % by, width), held(top + n / by, height)));
                    let sum: f64 = within.map(|(x, y)| f64::from(byte(y * width + x, c))).sum();
                    let wanted = sum / 255.0 / (by * by) as f64;
                    assert!((f64::from(*got) - wanted).abs() < 1e-5, "{by} {room}: {got} for {wanted} at {at}");
                }
            }
        }
    }

    #[test]
    fn between_the_middles_of_squares_are_straight_lines() {
        let small = Plane::<2>::new(7, 6, (0..42).map(|at| [(at * 17 % 11) as f32, (at * 5 % 7) as f32]).collect());
        for (by, room, width, height) in [(1, 0, 7, 6), (2, 0, 13, 11), (3, 0, 21, 16), (4, 1, 18, 15), (5, 2, 13, 8)] {
            let grown = small.grown_from(by, room, width, height);
            for (at, got) in grown.data.iter().enumerate() {
                let place = |at: usize, count: usize| {
                    let low = (at as f32 + 0.5) / by as f32 - 0.5 + room as f32;
                    let low = low.clamp(0.0, (count - 1) as f32);
                    (low as usize, (low as usize + 1).min(count - 1), low.fract())
                };
                let ((left, right, u), (top, foot, v)) = (place(at % width, 7), place(at / width, 6));
                for (c, got) in got.iter().enumerate() {
                    let row = |y: usize| {
                        let (a, b) = (small.data[y * 7 + left][c], small.data[y * 7 + right][c]);
                        a + (b - a) * u
                    };
                    let wanted = row(top) + (row(foot) - row(top)) * v;
                    assert!((got - wanted).abs() < 1e-4, "{by} {room}: {got} for {wanted} at {at}");
                }
            }
        }
    }

    #[test]
    fn it_is_the_gaussian() {
        let plane = spot(150, 120);
        for sigma in [0.6, 1.7, 3.0, 5.2, 8.0, 13.0, 20.0] {
            let got = plane.clone().blurred(sigma);
            let wanted = exact(&plane, sigma);
            let far: Vec<f64> =
                got.data.iter().zip(&wanted).map(|(a, b)| (f64::from(a[0]) - b).abs() * 255.0).collect();
            let mean = far.iter().sum::<f64>() / far.len() as f64;
            let worst = far.iter().copied().fold(0.0, f64::max);
            assert!(mean < 0.3 && worst < 1.5, "{sigma}: mean {mean}, worst {worst}");
        }
    }

    #[test]
    fn what_is_even_stays_and_edges_survive_without_texture() {
        let even = Plane::of(50, 40, vec![0.3; 2_000]);
        for sigma in [1.0, 6.0, 30.0] {
            assert!(even.clone().blurred(sigma).data.iter().all(|[value]| (value - 0.3).abs() < 1e-4));
            assert!(even.without_texture(sigma, 0.1).data.iter().all(|[value]| (value - 0.3).abs() < 1e-4));
        }
        // A step with a fine ripple on it.
        let value = |at: usize| if at % 80 < 40 { 0.2 } else { 0.8 } + if at.is_multiple_of(2) { 0.02 } else { -0.02 };
        let smooth = Plane::of(80, 60, (0..4_800).map(value).collect()).without_texture(4.0, 0.1);
        let row = &smooth.data[30 * 80..31 * 80];
        assert!((row[10][0] - row[11][0]).abs() < 0.01, "the ripple is gone");
        assert!(row[44][0] - row[35][0] > 0.5, "the step is there");
    }
}
