//! How far apart two colours look: CIEDE2000.

/// The difference of two colours of encoded sRGB by CIEDE2000 with all weights 1 (Sharma, Wu, Dalal 2005, "The CIEDE2000 color-difference
/// formula"): 1 is about what can just be seen, 10 what nobody overlooks.
#[must_use]
pub fn delta_e2000(a: [u8; 3], b: [u8; 3]) -> f64 {
    of_lab(lab(a), lab(b))
}

/// CIELAB relative to the white of sRGB (IEC 61966-2-1, D65).
fn lab(rgb: [u8; 3]) -> [f64; 3] {
    let [r, g, b] = rgb.map(|value| {
        let value = f64::from(value) / 255.0;
        if value <= 0.040_45 { value / 12.92 } else { ((value + 0.055) / 1.055).powf(2.4) }
    });
    let xyz = [
        (0.412_456_4 * r + 0.357_576_1 * g + 0.180_437_5 * b) / 0.950_47,
        0.212_672_9 * r + 0.715_152_2 * g + 0.072_175 * b,
        (0.019_333_9 * r + 0.119_192 * g + 0.950_304_1 * b) / 1.088_83,
    ];
    let [x, y, z] = xyz.map(|t| if t > 0.008_856 { t.cbrt() } else { 7.787 * t + 16.0 / 116.0 });
    [116.0 * y - 16.0, 500.0 * (x - y), 200.0 * (y - z)]
}

fn of_lab([l1, a1, b1]: [f64; 3], [l2, a2, b2]: [f64; 3]) -> f64 {
    let seventh = 25.0_f64.powi(7);
    let mean = (a1.hypot(b1) + a2.hypot(b2)) / 2.0;
    let g = 0.5 * (1.0 - (mean.powi(7) / (mean.powi(7) + seventh)).sqrt());
    let (a1, a2) = ((1.0 + g) * a1, (1.0 + g) * a2);
    let (c1, c2) = (a1.hypot(b1), a2.hypot(b2));
    let hue = |a: f64, b: f64| if a == 0.0 && b == 0.0 { 0.0 } else { b.atan2(a).to_degrees().rem_euclid(360.0) };
    let (h1, h2) = (hue(a1, b1), hue(a2, b2));
    let apart = |from: f64, to: f64| {
        let by = to - from;
        if by > 180.0 {
            by - 360.0
        } else if by < -180.0 {
            by + 360.0
        } else {
            by
        }
    };
    let (dl, dc) = (l2 - l1, c2 - c1);
    let dh = if c1 * c2 == 0.0 { 0.0 } else { apart(h1, h2) };
    let dh = 2.0 * (c1 * c2).sqrt() * (dh / 2.0).to_radians().sin();
    let (l, c) = ((l1 + l2) / 2.0, (c1 + c2) / 2.0);
    let h = if c1 * c2 == 0.0 {
        h1 + h2
    } else if (h1 - h2).abs() <= 180.0 {
        (h1 + h2) / 2.0
    } else if h1 + h2 < 360.0 {
        (h1 + h2 + 360.0) / 2.0
    } else {
        (h1 + h2 - 360.0) / 2.0
    };
    let cos = |degrees: f64| degrees.to_radians().cos();
    let t = 1.0 - 0.17 * cos(h - 30.0) + 0.24 * cos(2.0 * h) + 0.32 * cos(3.0 * h + 6.0) - 0.20 * cos(4.0 * h - 63.0);
    let turn = 30.0 * (-((h - 275.0) / 25.0).powi(2)).exp();
    let rc = 2.0 * (c.powi(7) / (c.powi(7) + seventh)).sqrt();
    let sl = 1.0 + 0.015 * (l - 50.0).powi(2) / (20.0 + (l - 50.0).powi(2)).sqrt();
    let (sc, sh) = (1.0 + 0.045 * c, 1.0 + 0.015 * c * t);
    let rt = -(2.0 * turn).to_radians().sin() * rc;
    ((dl / sl).powi(2) + (dc / sc).powi(2) + (dh / sh).powi(2) + rt * (dc / sc) * (dh / sh)).max(0.0).sqrt()
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Pairs of the supplementary test data of Sharma, Wu, Dalal 2005.
    #[test]
    fn published_pairs_have_their_published_difference() {
        for (a, b, want) in [
            ([50.0, 2.6772, -79.7751], [50.0, 0.0, -82.7485], 2.0425),
            ([50.0, -1.3802, -84.2814], [50.0, 0.0, -82.7485], 1.0000),
            ([50.0, 2.5, 0.0], [50.0, 0.0, -2.5], 4.3065),
            ([50.0, 2.5, 0.0], [73.0, 25.0, -18.0], 27.1492),
            ([50.0, 2.49, -0.001], [50.0, -2.49, 0.0011], 7.2195),
            ([60.2574, -34.0099, 36.2677], [60.4626, -34.1751, 39.4387], 1.2644),
            ([22.7233, 20.0904, -46.6940], [23.0331, 14.9730, -42.5619], 2.0373),
            ([2.0776, 0.0795, -1.1350], [0.9033, -0.0636, -0.5514], 0.9082),
        ] {
            assert!((of_lab(a, b) - want).abs() < 1e-4, "{a:?} {b:?}: {}", of_lab(a, b));
            assert!((of_lab(b, a) - want).abs() < 1e-4);
        }
    }

    #[test]
    fn black_and_white_are_a_hundred_apart() {
        assert!((delta_e2000([0; 3], [255; 3]) - 100.0).abs() < 0.1);
        assert_eq!(delta_e2000([12, 200, 99], [12, 200, 99]), 0.0);
    }
}
