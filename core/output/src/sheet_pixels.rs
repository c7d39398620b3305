//! A printed page to pixels.

use std::collections::HashMap;
use std::collections::hash_map::Entry;
use std::sync::Arc;

use kurbo::{Affine, Shape as _};
use tiny_skia::{FillRule, FilterQuality, Mask, Paint, Pixmap, PixmapPaint, PixmapRef, Stroke, StrokeDash, Transform};
use vatman_photo::{Pictures, Premultiplied};
use vatman_scene::Scene;
use vatman_type::GlyphOutlines;

use crate::marks;
use crate::page::PrintPage;
use crate::paths::{raster_path, scale_of};
use crate::pixels::{PixelError, PixelOptions, render_pixels};

/// Draws a page on white paper, so many pixels wide. Each scene is drawn once at the size it is shown and laid where it belongs, so that a
/// page of many copies costs little more than one.
///
/// # Errors
/// [`PixelError`] for a size that cannot be made or a picture that is missing.
pub fn render_page(
    page: &PrintPage,
    width: u32,
    outlines: &dyn GlyphOutlines,
    pictures: &Pictures,
) -> Result<Premultiplied, PixelError> {
    let scale = f64::from(width) / page.size.width;
    let height = (page.size.height * scale).round().max(1.0) as u32;
    let wrong = || PixelError::Size(width, height);
    if width.max(height) > 20_000 || u64::from(width) * u64::from(height) > 150_000_000 {
        return Err(wrong());
    }
    let mut sheet = Pixmap::new(width, height).ok_or_else(wrong)?;
    sheet.fill(tiny_skia::Color::WHITE);
    let to_pixels = Affine::scale(scale);
    let mut drawn: HashMap<(*const Scene, u64), Premultiplied> = HashMap::new();
    for placed in &page.placed {
        let scene = &placed.scene;
        let by = scale * scale_of(placed.at);
        let key = (Arc::as_ptr(scene), by.to_bits());
        let pixels = match drawn.entry(key) {
            Entry::Occupied(known) => known.into_mut(),
            Entry::Vacant(room) => {
                let pixels = |length: f64| ((length * by).round() as u32).max(1);
                let (width, height) = (pixels(scene.size.width), pixels(scene.size.height));
                let options = PixelOptions { width, height, bleed: true, clear: false };
                room.insert(render_pixels(scene, options, outlines, pictures)?)
            }
        };
        let Some(source) = PixmapRef::from_bytes(pixels.data(), pixels.width(), pixels.height()) else { continue };
        // Its pixels cover exactly the sheet and its bleed.
        let (wide, high) = (scene.size.width + 2.0 * scene.bleed, scene.size.height + 2.0 * scene.bleed);
        let fit = Affine::scale_non_uniform(wide / f64::from(pixels.width()), high / f64::from(pixels.height()));
        let place = to_pixels * placed.at * Affine::translate((-scene.bleed, -scene.bleed)) * fit;
        let mask = placed.seen.and_then(|seen| {
            let mut mask = Mask::new(width, height)?;
            let path = raster_path(&seen.to_path(0.01), to_pixels * placed.at)?;
            mask.fill_path(&path, FillRule::Winding, true, Transform::identity());
            Some(mask)
        });
        let paint = PixmapPaint { quality: FilterQuality::Bilinear, ..PixmapPaint::default() };
        sheet.draw_pixmap(0, 0, source, &paint, transform(place), mask.as_ref());
    }
    let mut ink = Paint::default();
    ink.set_color_rgba8(0, 0, 0, 255);
    for (lines, dashed) in [(&page.marks, false), (&page.folds, true)] {
        // At least a hair of a pixel, so that marks are seen on small pictures of sheets.
        let thick = (marks::THICK * scale).max(0.6) as f32;
        let dash = dashed.then(|| marks::DASH.map(|part| (part * scale) as f32).to_vec());
        let stroke =
            Stroke { width: thick, dash: dash.and_then(|dash| StrokeDash::new(dash, 0.0)), ..Stroke::default() };
        if let Some(path) = raster_path(lines, to_pixels) {
            sheet.stroke_path(&path, &ink, &stroke, Transform::identity(), None);
        }
    }
    for lettering in &page.letters {
        for run in &lettering.runs {
            for glyph in &run.glyphs {
                let place = to_pixels * lettering.at * glyph.transform(run.size);
                if let Some(path) = raster_path(&outlines.glyph(run.face, glyph.id), place) {
                    sheet.fill_path(&path, &ink, FillRule::Winding, Transform::identity(), None);
                }
            }
        }
    }
    Premultiplied::new(width, height, sheet.take()).ok_or_else(wrong)
}

fn transform(affine: Affine) -> Transform {
    let [a, b, c, d, e, f] = affine.as_coeffs().map(|part| part as f32);
    Transform::from_row(a, b, c, d, e, f)
}
