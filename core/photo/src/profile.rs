//! Colour profiles of picture files: what they hold is brought to sRGB once, when it is unpacked.
//!
//! Profiles are read and applied as ICC.1:2022 says (by moxcms), with the perceptual intent. A file without a profile, or with one
//! that cannot be used, is taken for sRGB, as browsers do.

use image::DynamicImage;
use moxcms::{ColorProfile, DataColorSpace, Layout, RenderingIntent, TransformOptions};

/// A profile that is not sRGB.
pub(crate) struct Profile {
    profile: ColorProfile,
}

/// Reads the profile of a file; nothing where there is none, it cannot be used, or it is sRGB by its name.
pub(crate) fn read(bytes: Option<Vec<u8>>) -> Option<Profile> {
    let bytes = bytes?;
    let profile = ColorProfile::new_from_slice(&bytes).ok()?;
    let usable = matches!(profile.color_space, DataColorSpace::Rgb | DataColorSpace::Gray);
    (usable && !is_srgb(&profile)).then_some(Profile { profile })
}

/// Whether pixels mean the same with a profile as without: tried on colours from all over.
fn is_srgb(profile: &ColorProfile) -> bool {
    if profile.color_space != DataColorSpace::Rgb {
        return false;
    }
    let Ok(transform) = profile.create_transform_8bit(Layout::Rgb, &ColorProfile::new_srgb(), Layout::Rgb, options())
    else {
        return true;
    };
    const STEPS: [u8; 8] = [0, 32, 64, 110, 160, 200, 235, 255];
    let colours: Vec<u8> = (0..512_usize).flat_map(|n| [STEPS[n / 64], STEPS[n / 8 % 8], STEPS[n % 8]]).collect();
    let mut shown = vec![0; colours.len()];
    transform.transform(&colours, &mut shown).is_err() || colours.iter().zip(&shown).all(|(a, b)| a.abs_diff(*b) <= 1)
}

fn options() -> TransformOptions {
    TransformOptions { rendering_intent: RenderingIntent::Perceptual, ..TransformOptions::default() }
}

impl Profile {
    /// RGBA pixels of a picture in sRGB. As they are, where the profile cannot be applied to them.
    pub(crate) fn to_srgb(&self, picture: DynamicImage) -> image::RgbaImage {
        let srgb = ColorProfile::new_srgb();
        let gray = self.profile.color_space == DataColorSpace::Gray;
        let (source, width, height, layout) = if gray {
            let pixels = picture.to_luma_alpha8();
            let (width, height) = pixels.dimensions();
            (pixels.into_raw(), width, height, Layout::GrayAlpha)
        } else {
            let pixels = picture.to_rgba8();
            let (width, height) = pixels.dimensions();
            (pixels.into_raw(), width, height, Layout::Rgba)
        };
        let mut shown = vec![0; width as usize * height as usize * 4];
        let transform = self.profile.create_transform_8bit(layout, &srgb, Layout::Rgba, options());
        match transform.map(|transform| transform.transform(&source, &mut shown)) {
            Ok(Ok(())) => image::RgbaImage::from_raw(width, height, shown).unwrap_or_else(|| picture.into_rgba8()),
            _ => picture.into_rgba8(),
        }
    }
}

/// The profile that written files carry.
pub(crate) fn srgb() -> Option<Vec<u8>> {
    static PROFILE: std::sync::LazyLock<Option<Vec<u8>>> =
        std::sync::LazyLock::new(|| ColorProfile::new_srgb().encode().ok());
    PROFILE.clone()
}
