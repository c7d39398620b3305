//! Shadows as pixels, from the alpha of what throws them.

use vatman_photo::blur;
use vatman_scene::Shadow;

/// The alpha of a layer.
pub(crate) struct Cover {
    pub alpha: Vec<u8>,
    pub width: usize,
}

impl Cover {
    /// The alpha of premultiplied pixels.
    pub fn of(rgba: &[u8], width: u32) -> Self {
        Self { alpha: rgba.chunks_exact(4).map(|pixel| pixel[3]).collect(), width: width as usize }
    }

    /// Lays a shadow over premultiplied pixels of the same size; `scale` is device pixels in a unit of the shadow's lengths.
    ///
    /// An outer one is thrown by the cover; an inner one by everything around it, and falls on the cover only.
    pub fn shade(&self, shadow: &Shadow, scale: f64, onto: &mut [u8]) {
        let mut soft = self.alpha.clone();
        blur::<1>(&mut soft, self.width, shadow.sigma * scale);
        let thrown = shifted(&soft, self.width, shadow.dx * scale, shadow.dy * scale);
        let strength = (shadow.color.a.clamp(0.0, 1.0) * 65_536.0) as u32;
        let color = [shadow.color.r, shadow.color.g, shadow.color.b].map(u32::from);
        for ((pixel, shade), own) in onto.chunks_exact_mut(4).zip(thrown).zip(&self.alpha) {
            let share = if shadow.inner { (255 - u32::from(shade)) * u32::from(*own) / 255 } else { u32::from(shade) };
            let alpha = (share * strength + 32_768) >> 16;
            if alpha == 0 {
                continue;
            }
            let through = 255 - alpha;
            for (value, ink) in pixel.iter_mut().zip(color) {
                *value = ((ink * alpha + u32::from(*value) * through + 127) / 255) as u8;
            }
            pixel[3] = (alpha + (u32::from(pixel[3]) * through + 127) / 255).min(255) as u8;
        }
    }
}

/// A plane moved by a distance that need not be whole; what comes in from outside is 0.
fn shifted(plane: &[u8], width: usize, dx: f64, dy: f64) -> Vec<u8> {
    let height = (plane.len() / width.max(1)) as i64;
    let (left, top) = ((-dx).floor(), (-dy).floor());
    // Weights of the right and lower neighbours, in 256ths.
    let (wx, wy) = (((-dx - left) * 256.0) as u32, ((-dy - top) * 256.0) as u32);
    let (left, top) = (left as i64, top as i64);
    let row = |y: i64| if (0..height).contains(&y) { &plane[y as usize * width..][..width] } else { &[] };
    let mut out = Vec::with_capacity(plane.len());
    for y in 0..height {
        let (upper, lower) = (row(y + top), row(y + top + 1));
        let at =
            |row: &[u8], x: i64| usize::try_from(x).ok().and_then(|x| row.get(x)).map_or(0, |value| u32::from(*value));
        for x in left..left + width as i64 {
            let mix = |row: &[u8]| at(row, x) * (256 - wx) + at(row, x + 1) * wx;
            out.push(((mix(upper) * (256 - wy) + mix(lower) * wy + 32_768) >> 16) as u8);
        }
    }
    out
}

#[cfg(test)]
mod tests {
    use super::*;
    use vatman_scene::Rgba;

    fn square() -> Cover {
        let mut alpha = vec![0; 40 * 40];
        for y in 10..30 {
            alpha[y * 40 + 10..y * 40 + 30].fill(255);
        }
        Cover { alpha, width: 40 }
    }

    fn shadow(inner: bool, dx: f64, dy: f64, sigma: f64) -> Shadow {
        Shadow { inner, dx, dy, sigma, color: Rgba { r: 200, g: 0, b: 0, a: 1.0 } }
    }

    #[test]
    fn an_outer_shadow_is_the_shape_moved() {
        let mut out = vec![0; 40 * 40 * 4];
        square().shade(&shadow(false, 5.0, -3.0, 0.0), 1.0, &mut out);
        let alpha = |x: usize, y: usize| out[(y * 40 + x) * 4 + 3];
        assert_eq!((alpha(15, 7), alpha(34, 26), alpha(14, 15), alpha(35, 15), alpha(20, 27)), (255, 255, 0, 0, 0));
        assert_eq!(out[(10 * 40 + 20) * 4], 200);
    }

    #[test]
    fn half_a_pixel_is_half_a_shadow() {
        let mut out = vec![0; 40 * 40 * 4];
        square().shade(&shadow(false, 0.5, 0.0, 0.0), 1.0, &mut out);
        let alpha = |x: usize| out[(20 * 40 + x) * 4 + 3];
        assert!((i32::from(alpha(10)) - 128).abs() <= 1 && (i32::from(alpha(30)) - 127).abs() <= 1 && alpha(11) == 255);
    }

    #[test]
    fn an_inner_shadow_stays_inside() {
        let mut out = vec![0; 40 * 40 * 4];
        square().shade(&shadow(true, 4.0, 4.0, 1.5), 1.0, &mut out);
        let alpha = |x: usize, y: usize| out[(y * 40 + x) * 4 + 3];
        assert!(
            alpha(9, 20) == 0 && alpha(20, 30) == 0 && alpha(10, 20) > 200 && alpha(20, 11) > 200,
            "the rim to the upper left is dark"
        );
        assert!(alpha(25, 25) < 5 && alpha(29, 29) < 5, "the rim away from it is not");
    }
}
