//! What colours become on paper: separation into four process inks, and how those look when they are printed.
//!
//! Paper and inks are those of a profile (ICC.1:2001-04, `A2B0`) of coated offset paper that ships. It tells what a mixture of inks looks
//! like; which mixture looks like a colour is found here, with the black ink taking over as much of the grey part as it can
//! (grey component replacement), and with no more ink in all than the paper takes. Colours are matched relative to the paper, black to the
//! blackest that can be printed (black point compensation).
//!
//! Finding the mixtures takes most of a second, so both grids ship worked out (`assets/profiles/offset-coated.grids`); a test works them
//! out again and says when they are stale. `VATMAN_WRITE_GRIDS=1 cargo test -p vatman-photo grids` writes them.

use std::sync::LazyLock;

use crate::develop::transfer::encoded_of;

#[cfg(test)]
mod solved;

/// The profile, as it ships.
const PROFILE: &[u8] = include_bytes!("../../../assets/profiles/offset-coated.icc");
/// Both grids, as they ship: little-endian 32-bit floats, the printed mixtures before the separations.
const GRIDS: &[u8] = include_bytes!("../../../assets/profiles/offset-coated.grids");
/// Steps of each ink in the grid of printed mixtures, and of each channel in that of separations.
const PRINTED: usize = 9;
const SEPARATED: usize = 17;

/// Shares of cyan, magenta, yellow and black, 0 to 1.
pub type Mixture = [f32; 4];

/// Four process inks on a paper.
pub struct Inks {
    /// Linear light of every mixture of the grid, black point compensated.
    printed: Vec<[f32; 3]>,
    /// The mixture for every colour of the grid of encoded sRGB.
    separated: Vec<Mixture>,
}

static COATED: LazyLock<Option<Inks>> = LazyLock::new(|| Inks::unpacked(GRIDS));

impl Inks {
    /// Most ink in all, of 4, that the paper takes.
    pub const MOST: f32 = 3.0;

    /// Coated paper printed in offset, as the profile that ships says. Nothing where its grids cannot be used, which a test rules out.
    #[must_use]
    pub fn coated() -> Option<&'static Self> {
        COATED.as_ref()
    }

    /// The profile itself.
    #[must_use]
    pub const fn profile() -> &'static [u8] {
        PROFILE
    }

    /// Grids as they ship.
    fn unpacked(bytes: &[u8]) -> Option<Self> {
        let values: Vec<f32> =
            bytes.chunks_exact(4).map(|four| f32::from_le_bytes([four[0], four[1], four[2], four[3]])).collect();
        let (printed, separated) = values.split_at_checked(PRINTED.pow(4) * 3)?;
        let whole = separated.len() == SEPARATED.pow(3) * 4 && values.iter().all(|value| (0.0..=1.0).contains(value));
        whole.then(|| Self {
            printed: printed.chunks_exact(3).map(|rgb| [rgb[0], rgb[1], rgb[2]]).collect(),
            separated: separated.chunks_exact(4).map(|ink| [ink[0], ink[1], ink[2], ink[3]]).collect(),
        })
    }

    /// Linear light of a mixture.
    fn light(&self, mixture: Mixture) -> [f32; 3] {
        let places = mixture.map(|share| {
            let at = share.clamp(0.0, 1.0) * (PRINTED - 1) as f32;
            let low = (at as usize).min(PRINTED - 2);
            (low, at - low as f32)
        });
        let mut sum = [0.0_f32; 3];
        for corner in 0..16_usize {
            let (mut index, mut weight) = (0, 1.0_f32);
            for (bit, (low, part)) in places.iter().enumerate() {
                let up = corner >> bit & 1;
                index = index * PRINTED + low + up;
                weight *= if up == 1 { *part } else { 1.0 - part };
            }
            if weight > 0.0 {
                let rgb = self.printed[index];
                (0..3).for_each(|i| sum[i] += rgb[i] * weight);
            }
        }
        sum
    }

    /// How a mixture looks when it is printed, in encoded sRGB relative to the paper.
    #[must_use]
    pub fn printed(&self, mixture: Mixture) -> [u8; 3] {
        self.light(mixture).map(|value| (encoded_of(f64::from(value)) * 255.0).round().clamp(0.0, 255.0) as u8)
    }

    /// The mixture that looks most like a colour of encoded sRGB.
    #[must_use]
    pub fn separate(&self, rgb: [u8; 3]) -> Mixture {
        let places = rgb.map(|value| {
            let at = f32::from(value) / 255.0 * (SEPARATED - 1) as f32;
            let low = (at as usize).min(SEPARATED - 2);
            (low, at - low as f32)
        });
        let mut sum = [0.0_f32; 4];
        for corner in 0..8_usize {
            let (mut index, mut weight) = (0, 1.0_f32);
            for (bit, (low, part)) in places.iter().enumerate() {
                let up = corner >> bit & 1;
                index = index * SEPARATED + low + up;
                weight *= if up == 1 { *part } else { 1.0 - part };
            }
            let mixture = self.separated[index];
            (0..4).for_each(|i| sum[i] += mixture[i] * weight);
        }
        // Rounding may put a share a hair beyond.
        sum.map(|share| share.clamp(0.0, 1.0))
    }

    /// How a colour of encoded sRGB looks when it is printed.
    #[must_use]
    pub fn proof(&self, rgb: [u8; 3]) -> [u8; 3] {
        self.printed(self.separate(rgb))
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::difference::delta_e2000;
    use proptest::prelude::*;

    fn inks() -> &'static Inks {
        Inks::coated().unwrap()
    }

    #[test]
    fn paper_is_white_and_each_ink_has_its_colour() {
        assert_eq!(inks().proof([255, 255, 255]), [255, 255, 255]);
        assert!(inks().separate([255, 255, 255]).iter().all(|share| *share < 0.01));
        let [cyan, magenta, yellow, black] =
            [[1.0, 0.0, 0.0, 0.0], [0.0, 1.0, 0.0, 0.0], [0.0, 0.0, 1.0, 0.0], [0.0, 0.0, 0.0, 1.0]]
                .map(|m| inks().printed(m));
        assert!(cyan[2] > 150 && cyan[0] < 80, "{cyan:?}");
        assert!(magenta[0] > 180 && magenta[1] < 80, "{magenta:?}");
        assert!(yellow[0] > 220 && yellow[2] < 90, "{yellow:?}");
        assert!(black.iter().all(|value| *value < 60), "{black:?}");
        assert!(inks().proof([0, 0, 0]).iter().all(|value| *value < 14));
        assert!(inks().separate([0, 0, 0])[3] > 0.8);
    }

    #[test]
    fn colours_of_paper_come_back_and_those_of_light_alone_do_not() {
        // Muted colours can be printed: clay, celadon, cobalt in its shade, skin, slate.
        for rgb in [
            [0x8c, 0x5a, 0x3c],
            [0x9d, 0xb8, 0xa4],
            [0xd8, 0xc3, 0xb0],
            [0x60, 0x6a, 0x70],
            [0xf4, 0xef, 0xe6],
            [90, 90, 90],
        ] {
            let off = delta_e2000(rgb, inks().proof(rgb));
            assert!(off < 2.5, "{rgb:?}: {off}");
        }
        for rgb in [[0, 0, 255], [0, 255, 0], [255, 0, 255]] {
            let off = delta_e2000(rgb, inks().proof(rgb));
            assert!(off > 10.0, "{rgb:?}: {off}");
        }
    }

    proptest! {
        #[test]
        fn no_colour_takes_more_ink_than_the_paper(r: u8, g: u8, b: u8) {
            let mixture = inks().separate([r, g, b]);
            prop_assert!(mixture.iter().sum::<f32>() <= Inks::MOST + 0.01);
            prop_assert!(mixture.iter().all(|share| (0.0..=1.0).contains(share)));
        }

        /// A greyer colour is never printed further from itself than the whole gamut is wide, and greys stay grey.
        #[test]
        fn greys_stay_grey(v: u8) {
            let [r, g, b] = inks().proof([v, v, v]);
            prop_assert!(r.abs_diff(g) <= 9 && g.abs_diff(b) <= 9, "{v}: {r} {g} {b}");
            prop_assert!(delta_e2000([v, v, v], [r, g, b]) < 4.0);
        }
    }
}
