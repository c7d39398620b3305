//! Work on whole planes of values: Gaussian blur, and the guided filter that keeps edges.

use rayon::prelude::*;

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
    ///
    /// Wide ones are worked out on a plane made smaller by whole numbers: what means of squares and straight lines between them add is
    /// taken off the deviation.
    pub(crate) fn blurred(self, sigma: f64) -> Self {
        if sigma < 0.05 {
            return self;
        }
        // The smaller plane keeps a deviation of at least four of its pixels.
        let by = (sigma / 4.0).floor().clamp(1.0, 64.0) as usize;
        let by = by.min(self.width.min(self.height) / 4).max(1);
        if by < 2 {
            return self.convolved(sigma);
        }
        let square = (by * by) as f64;
        let left = (sigma * sigma - (square - 1.0) / 12.0 - square / 6.0).max(0.0).sqrt() / by as f64;
        // What lies beyond the edges is made smaller too, as far as it is seen.
        let room = (left * 4.0).ceil() as usize + 1;
        self.shrunk_with(by, room).convolved(left).grown_from(by, room, self.width, self.height)
    }

    fn convolved(self, sigma: f64) -> Self {
        let kernel = kernel(sigma);
        let Self { width, height, data } = self;
        let mut across = vec![[0.0; N]; data.len()];
        across.par_chunks_exact_mut(width).zip(data.par_chunks_exact(width)).for_each(|(to, from)| {
            let reach = kernel.len() - 1;
            let mut padded = Vec::with_capacity(width + 2 * reach);
            padded.extend(std::iter::repeat_n(from[0], reach));
            padded.extend_from_slice(from);
            padded.extend(std::iter::repeat_n(from[width - 1], reach));
            for (x, to) in to.iter_mut().enumerate() {
                let mut sum = padded[x + reach].map(|value| value * kernel[0]);
                for (d, weight) in kernel.iter().enumerate().skip(1) {
                    let (a, b) = (padded[x + reach - d], padded[x + reach + d]);
                    for c in 0..N {
                        sum[c] += (a[c] + b[c]) * weight;
                    }
                }
                *to = sum;
            }
        });
        let mut out = data;
        let row = |y: isize| {
            let y = y.clamp(0, height as isize - 1) as usize;
            &across[y * width..(y + 1) * width]
        };
        out.par_chunks_exact_mut(width).enumerate().for_each(|(y, to)| {
            let y = y as isize;
            for (to, from) in to.iter_mut().zip(row(y)) {
                *to = from.map(|value| value * kernel[0]);
            }
            for (d, weight) in kernel.iter().enumerate().skip(1) {
                let (above, below) = (row(y - d as isize), row(y + d as isize));
                for ((to, a), b) in to.iter_mut().zip(above).zip(below) {
                    for c in 0..N {
                        to[c] += (a[c] + b[c]) * weight;
                    }
                }
            }
        });
        Self { width, height, data: out }
    }

    /// Means of squares of `by` pixels with `room` squares of what lies beyond the edges on each side.
    fn shrunk_with(&self, by: usize, room: usize) -> Self {
        let (width, height) = (self.width.div_ceil(by) + 2 * room, self.height.div_ceil(by) + 2 * room);
        let held = |at: usize, count: usize| at.saturating_sub(room * by).min(count - 1);
        let mut data = vec![[0.0; N]; width * height];
        data.par_chunks_exact_mut(width).enumerate().for_each(|(y, row)| {
            for down in y * by..(y + 1) * by {
                let from = &self.data[held(down, self.height) * self.width..][..self.width];
                for (x, out) in row.iter_mut().enumerate() {
                    for across in x * by..(x + 1) * by {
                        let value = from[held(across, self.width)];
                        for c in 0..N {
                            out[c] += value[c];
                        }
                    }
                }
            }
            let share = 1.0 / (by * by) as f32;
            row.iter_mut().for_each(|out| *out = out.map(|value| value * share));
        });
        Self { width, height, data }
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
        data.par_chunks_exact_mut(width)
            .enumerate()
            .for_each(|(y, row)| row.copy_from_slice(&self.grown_row(by, room, y, width, height)));
        Self { width, height, data }
    }

    fn grown_row(&self, by: usize, room: usize, y: usize, width: usize, height: usize) -> Vec<[f32; N]> {
        debug_assert!(y < height);
        let place = |at: usize, count: usize| {
            let low = (at as f32 + 0.5) / by as f32 - 0.5 + room as f32;
            let low = low.clamp(0.0, (count - 1) as f32);
            let below = (low as usize).min(count.saturating_sub(2));
            (below, (below + 1).min(count - 1), low - below as f32)
        };
        let (top, bottom, share) = place(y, self.height);
        let (above, below) =
            (&self.data[top * self.width..][..self.width], &self.data[bottom * self.width..][..self.width]);
        if by == 1 && room == 0 {
            return above.to_vec();
        }
        let between: Vec<[f32; N]> = (0..self.width)
            .map(|x| std::array::from_fn(|c| above[x][c] + (below[x][c] - above[x][c]) * share))
            .collect();
        (0..width)
            .map(|x| {
                let (left, right, share) = place(x, self.width);
                let (a, b) = (between[left], between[right]);
                std::array::from_fn(|c| a[c] + (b[c] - a[c]) * share)
            })
            .collect()
    }
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
        for ((out, [value]), [slope, rest]) in out.iter_mut().zip(own).zip(led.row(y)) {
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
    height: usize,
}

impl Guided {
    pub(crate) fn of(guide: &Plane<1>, input: &Plane<1>, sigma: f64, edge: f32) -> Self {
        let (width, height) = (guide.width, guide.height);
        let by = ((sigma / 2.5).floor().clamp(1.0, 32.0) as usize).min(width.min(height) / 4).max(1);
        let led = guide.shrunk(by);
        let small = if std::ptr::eq(guide, input) { led.clone() } else { input.shrunk(by) };
        let sigma = (sigma / by as f64).max(0.5);
        let moments = led.data.par_iter().zip(&small.data).map(|([g], [p])| [*g, *p, g * g, g * p]).collect();
        let means = Plane::<4>::new(led.width, led.height, moments).convolved(sigma);
        let lines = means.data.par_iter().map(|[g, p, gg, gp]| {
            let slope = (gp - g * p) / ((gg - g * g).max(0.0) + edge * edge);
            [slope, p - slope * g]
        });
        let lines = Plane::<2>::new(led.width, led.height, lines.collect()).convolved(sigma);
        Self { lines, by, width, height }
    }

    /// The lines of a row: slope and rest.
    pub(crate) fn row(&self, y: usize) -> Vec<[f32; 2]> {
        self.lines.grown_row(self.by, 0, y, self.width, self.height)
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
