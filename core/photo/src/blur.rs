//! Gaussian blur of interleaved bytes: exactly for small deviations, by three running means for larger ones.
//!
//! Three means of widths chosen so that their variances add up to that of the Gaussian (W. M. Wells, "Efficient synthesis
//! of Gaussian filters by cascaded uniform filters", 1986) stay within a few levels of it, as the browser does too. Beyond the edges all is zero.

/// Blurs rows of `width` pixels of `N` bytes with a standard deviation of `sigma` pixels; premultiplied colours stay so.
///
/// Deviations that are not above 0.05 leave everything as it is. Bytes beyond whole rows are left alone.
pub fn blur<const N: usize>(data: &mut [u8], width: usize, sigma: f64) {
    if width == 0 || N == 0 || sigma.is_nan() || sigma <= 0.05 {
        return;
    }
    let height = data.len() / (width * N);
    let data = &mut data[..width * N * height];
    let mut other = vec![0; data.len()];
    if sigma < 4.0 {
        let kernel = kernel(sigma);
        rows::<N>(data, &mut other, width, |from, to| convolve::<N>(from, to, &kernel));
        transpose::<N>(&other, data, width, height);
        rows::<N>(data, &mut other, height, |from, to| convolve::<N>(from, to, &kernel));
        transpose::<N>(&other, data, height, width);
    } else {
        let radii = radii(sigma);
        let mut line = Means::<N>::new(radii, width.max(height));
        rows::<N>(data, &mut other, width, |from, to| line.run(from, to));
        transpose::<N>(&other, data, width, height);
        rows::<N>(data, &mut other, height, |from, to| line.run(from, to));
        transpose::<N>(&other, data, height, width);
    }
}

fn rows<const N: usize>(from: &[u8], to: &mut [u8], width: usize, mut line: impl FnMut(&[u8], &mut [u8])) {
    from.chunks_exact(width * N).zip(to.chunks_exact_mut(width * N)).for_each(|(from, to)| line(from, to));
}

/// Three means over a line with room at both ends, so that what one mean carries out the next can carry back.
struct Means<const N: usize> {
    radii: [usize; 3],
    room: usize,
    here: Vec<u8>,
    there: Vec<u8>,
}

impl<const N: usize> Means<N> {
    fn new(radii: [usize; 3], longest: usize) -> Self {
        let room: usize = radii.iter().sum();
        let empty = vec![0; (longest + 2 * room) * N];
        Self { radii, room, here: empty.clone(), there: empty }
    }

    fn run(&mut self, from: &[u8], to: &mut [u8]) {
        let (start, end) = (self.room * N, self.room * N + from.len());
        let all = end + start;
        self.here[..start].fill(0);
        self.here[start..end].copy_from_slice(from);
        self.here[end..all].fill(0);
        for radius in self.radii {
            mean::<N>(&self.here[..all], &mut self.there[..all], radius);
            std::mem::swap(&mut self.here, &mut self.there);
        }
        to.copy_from_slice(&self.here[start..end]);
    }
}

/// Weights of a Gaussian to three deviations, in 65,536ths that add up to the whole.
fn kernel(sigma: f64) -> Vec<u32> {
    let reach = (sigma * 3.0).ceil() as i32;
    let weights: Vec<f64> = (-reach..=reach).map(|x| (-f64::from(x * x) / (2.0 * sigma * sigma)).exp()).collect();
    let sum: f64 = weights.iter().sum();
    let mut whole: Vec<u32> = weights.iter().map(|weight| (weight / sum * 65_536.0).round() as u32).collect();
    let rest: u32 = whole.iter().sum();
    let middle = whole.len() / 2;
    whole[middle] = (whole[middle] + 65_536).saturating_sub(rest);
    whole
}

fn convolve<const N: usize>(from: &[u8], to: &mut [u8], kernel: &[u32]) {
    let (count, reach) = (from.len() / N, kernel.len() / 2);
    for x in 0..count {
        for c in 0..N {
            let first = reach.saturating_sub(x);
            let sum: u32 = kernel[first..]
                .iter()
                .enumerate()
                .map_while(|(k, weight)| {
                    from.get((x + first + k - reach) * N + c).map(|value| u32::from(*value) * weight)
                })
                .sum();
            to[x * N + c] = ((sum + 32_768) >> 16) as u8;
        }
    }
}

/// Half widths of three means whose variances together come nearest to the Gaussian's.
fn radii(sigma: f64) -> [usize; 3] {
    let ideal = (12.0 * sigma * sigma / 3.0 + 1.0).sqrt();
    let mut low = ideal.floor() as i64;
    low -= i64::from(low % 2 == 0);
    let l = low as f64;
    let smaller =
        ((12.0 * sigma * sigma - 3.0 * l * l - 12.0 * l - 9.0) / (-4.0 * l - 4.0)).round().clamp(0.0, 3.0) as usize;
    std::array::from_fn(|i| ((if i < smaller { low } else { low + 2 } - 1) / 2) as usize)
}

fn mean<const N: usize>(from: &[u8], to: &mut [u8], radius: usize) {
    let count = from.len() / N;
    let size = (2 * radius + 1) as u64;
    // Dividing by multiplying: exact for sums of bytes over up to 16 million pixels.
    let share = (1u64 << 40) / size + 1;
    let mut sums = [0u64; N];
    for x in 0..radius.min(count) {
        for c in 0..N {
            sums[c] += u64::from(from[x * N + c]);
        }
    }
    for x in 0..count {
        for c in 0..N {
            if x + radius < count {
                sums[c] += u64::from(from[(x + radius) * N + c]);
            }
            if x > radius {
                sums[c] -= u64::from(from[(x - radius - 1) * N + c]);
            }
            to[x * N + c] = (((sums[c] + size / 2) * share) >> 40) as u8;
        }
    }
}

/// Swaps rows and columns, in blocks that stay in the cache.
fn transpose<const N: usize>(from: &[u8], to: &mut [u8], width: usize, height: usize) {
    const BLOCK: usize = 32;
    for top in (0..height).step_by(BLOCK) {
        for left in (0..width).step_by(BLOCK) {
            for y in top..(top + BLOCK).min(height) {
                for x in left..(left + BLOCK).min(width) {
                    let (a, b) = ((y * width + x) * N, (x * height + y) * N);
                    to[b..b + N].copy_from_slice(&from[a..a + N]);
                }
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    /// The Gaussian itself, in floating point.
    fn exact(data: &[u8], width: usize, sigma: f64) -> Vec<f64> {
        let height = data.len() / width;
        let reach = (sigma * 4.0).ceil() as i64;
        let weight = |d: i64| (-((d * d) as f64) / (2.0 * sigma * sigma)).exp();
        let sum: f64 = (-reach..=reach).map(weight).sum();
        let at = |x: i64, y: i64| {
            if x < 0 || y < 0 || x >= width as i64 || y >= height as i64 {
                0.0
            } else {
                f64::from(data[y as usize * width + x as usize])
            }
        };
        let across: Vec<f64> = (0..height as i64)
            .flat_map(|y| (0..width as i64).map(move |x| (x, y)))
            .map(|(x, y)| (-reach..=reach).map(|d| at(x + d, y) * weight(d) / sum).sum())
            .collect();
        let read =
            |x: i64, y: i64| if y < 0 || y >= height as i64 { 0.0 } else { across[y as usize * width + x as usize] };
        (0..height as i64)
            .flat_map(|y| (0..width as i64).map(move |x| (x, y)))
            .map(|(x, y)| (-reach..=reach).map(|d| read(x, y + d) * weight(d) / sum).sum())
            .collect()
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(40))]

        #[test]
        fn it_is_the_gaussian(sigma in 0.3f64..14.0, seed in any::<u64>(), width in 30usize..70) {
            // A few hard-edged blocks, as shadows of shapes are.
            let height = 50;
            let mut data = vec![0u8; width * height];
            for block in 0..4 {
                let part = (seed >> (block * 16)) as usize;
                for y in part % 37..(part % 37 + 13).min(height) {
                    for x in (part / 37) % 23..((part / 37) % 23 + 17).min(width) {
                        data[y * width + x] = 255;
                    }
                }
            }
            let wanted = exact(&data, width, sigma);
            let mut got = data.clone();
            blur::<1>(&mut got, width, sigma);
            let far = got.iter().zip(&wanted).map(|(got, wanted)| (f64::from(*got) - wanted).abs());
            let (worst, mean) = far.clone().fold((0.0f64, 0.0), |(worst, sum), d| (worst.max(d), sum + d / wanted.len() as f64));
            prop_assert!(worst < 11.0 && mean < 3.6, "worst {worst}, mean {mean}");
        }

        #[test]
        fn channels_do_not_mix(sigma in 0.1f64..9.0) {
            let mut data = vec![0u8; 4 * 40 * 20];
            for pixel in data.chunks_exact_mut(4).skip(300).take(90) {
                pixel[2] = 200;
            }
            let mut alone: Vec<u8> = data.chunks_exact(4).map(|pixel| pixel[2]).collect();
            blur::<4>(&mut data, 40, sigma);
            blur::<1>(&mut alone, 40, sigma);
            prop_assert!(data.chunks_exact(4).zip(&alone).all(|(pixel, value)| pixel[2] == *value && pixel[0] == 0 && pixel[3] == 0));
        }
    }

    #[test]
    fn even_areas_stay_even_away_from_the_edge() {
        for sigma in [0.7, 1.9, 2.5, 6.0] {
            let mut data = vec![173u8; 90 * 90];
            blur::<1>(&mut data, 90, sigma);
            assert!((i32::from(data[45 * 90 + 45]) - 173).abs() <= 1, "at {sigma}: {}", data[45 * 90 + 45]);
        }
    }
}
