//! How artwork shows on cloth: what is lost in its colour, edges that are neither ink nor cloth, and whether it is sharp enough.

use base64::Engine as _;
use base64::engine::general_purpose::STANDARD as BASE64;
use serde::Serialize;
use ts_rs::TS;
use vatman_document::{Color, Job, Piece, Side};
use vatman_output::PixelOptions;
use vatman_photo::{Straight, encode_png};
use vatman_scene::Audience;

use crate::check::shown_pixels;
use crate::goods::shelf::{Good, GoodArea};
use crate::hand_over::HandOverError;
use crate::studio::Studio;

/// What is nearer to the cloth than this, as a contrast, is not seen from a step away.
const SEEN: f64 = 1.6;
/// More of the artwork than this that is neither ink nor cloth is told.
const SOFT: f64 = 0.03;
/// A line thinner than this, in millimetres, breaks up in the weave.
const THINNEST: f64 = 0.35;
/// Fewer pixels an inch look soft on cloth.
const SHARP: f64 = 150.0;

/// How artwork shows on a thing of a colour.
#[derive(Debug, Clone, PartialEq, Serialize, TS)]
pub struct ClothCard {
    /// Width and height at which it is printed, in millimetres.
    pub size: [f64; 2],
    /// Share of the artwork that is seen on this colour, 0 to 1.
    pub seen: f64,
    /// Share of it that is neither ink nor cloth, 0 to 1.
    pub soft: f64,
    /// The thinnest line at that size, in millimetres; nothing where there is none.
    pub thinnest: Option<f64>,
    /// The fewest pixels an inch of its pictures at that size; nothing without any.
    pub ppi: Option<f64>,
    /// What should be looked at, in plain words.
    pub says: Vec<String>,
    /// What is fine, in one line.
    pub fine: String,
}

/// The artwork without any ground, so many pixels wide.
fn artwork(studio: &Studio, job: &Job, piece: &Piece, side: &Side, width: u32) -> Result<Straight, HandOverError> {
    let scene = studio.scene(job, piece, side, Audience::Output, None);
    let height = ((f64::from(width) * scene.size.height / scene.size.width).round() as u32).clamp(1, 6_000);
    let clear = side.ground.is_none();
    Ok(studio.pixels(&scene, PixelOptions { width, height, bleed: false, clear })?.straight())
}

/// The size at which a piece is printed in an area: as large as fits.
fn printed_size(piece: &Piece, area: &GoodArea) -> [f64; 2] {
    let (w, h) = (piece.format.size.w.to_mm(), piece.format.size.h.to_mm());
    let by = (area.size[0] / w).min(area.size[1] / h);
    [w * by, h * by]
}

/// How artwork shows on a thing of a colour, in one of its areas.
///
/// # Errors
/// [`HandOverError`] where it cannot be drawn.
pub fn cloth_card(
    studio: &Studio,
    job: &Job,
    (piece, side): (&Piece, &Side),
    area: &GoodArea,
    cloth: Color,
) -> Result<ClothCard, HandOverError> {
    let pixels = artwork(studio, job, piece, side, 500)?;
    let (mut ink, mut shown, mut soft) = (0.0_f64, 0.0_f64, 0usize);
    let mut any = 0usize;
    let (wide, high) = (pixels.width() as usize, pixels.height() as usize);
    for (at, pixel) in pixels.data().chunks_exact(4).enumerate() {
        let alpha = f64::from(pixel[3]) / 255.0;
        if alpha < 0.04 {
            continue;
        }
        any += 1;
        soft += usize::from((0.1..0.9).contains(&alpha) && !on_an_edge(pixels.data(), (wide, high), at));
        let over = |own: u8, under: u8| (f64::from(own) * alpha + f64::from(under) * (1.0 - alpha)).round() as u8;
        let mixed = Color::opaque(over(pixel[0], cloth.r), over(pixel[1], cloth.g), over(pixel[2], cloth.b));
        ink += alpha;
        if mixed.contrast(cloth) >= SEEN {
            shown += alpha;
        }
    }
    let soft_share = soft as f64 / any.max(1) as f64;
    let seen = if ink > 0.0 { shown / ink } else { 0.0 };
    let size = printed_size(piece, area);
    let scale = size[0] / piece.format.size.w.to_mm();
    let thinnest = thinnest_line(studio, job, piece, side).map(|mm| mm * scale);
    let ppi = fewest_pixels(studio, job, side).map(|ppi| ppi / scale);
    let mut says = Vec::new();
    if any == 0 {
        says.push("There is nothing to print yet.".to_owned());
    } else if seen < 0.98 {
        says.push(format!(
            "{:.0} % of it is lost on this colour. Give it a light outline, other colours, or choose another cloth.",
            (1.0 - seen) * 100.0
        ));
    }
    if side.ground.is_some() && any > 0 {
        says.push("It has a ground, which is printed as a rectangle. Take the ground away under Look for artwork that stands on the cloth.".to_owned());
    }
    if soft_share > SOFT {
        says.push(format!("{:.0} % of it is half clear; cloth printers put a white or speckled rim around that. Make shadows and fades solid, or leave them out.", soft_share * 100.0));
    }
    if let Some(thin) = thinnest.filter(|thin| *thin < THINNEST) {
        says.push(format!(
            "Its thinnest line is {thin:.2} mm at this size; {THINNEST} mm is the least that holds in a weave."
        ));
    }
    if let Some(ppi) = ppi.filter(|ppi| *ppi < SHARP) {
        says.push(format!("A picture has {ppi:.0} pixels an inch at this size; {SHARP:.0} print sharp on cloth."));
    }
    let side_mm = |mm: f64| format!("{mm:.0}");
    let fine =
        format!("{} \u{d7} {} mm, {:.0} % seen on this colour", side_mm(size[0]), side_mm(size[1]), seen * 100.0);
    Ok(ClothCard { size, seen, soft: soft_share, thinnest, ppi, says, fine })
}

/// Whether a pixel that is half clear lies on the edge of something solid: within two pixels of ink and of none. That is how every edge is
/// drawn, and prints sharp.
fn on_an_edge(data: &[u8], (wide, high): (usize, usize), at: usize) -> bool {
    let (x, y) = (at % wide, at / wide);
    let (mut ink, mut none) = (false, false);
    for row in y.saturating_sub(2)..(y + 3).min(high) {
        for column in x.saturating_sub(2)..(x + 3).min(wide) {
            let alpha = data[(row * wide + column) * 4 + 3];
            ink |= alpha > 230;
            none |= alpha < 26;
        }
    }
    ink && none
}

/// The thinnest line of a side, in millimetres at its own size.
fn thinnest_line(studio: &Studio, job: &Job, piece: &Piece, side: &Side) -> Option<f64> {
    let scene = studio.scene(job, piece, side, Audience::Output, None);
    let points = scene.items.iter().filter_map(|drawn| crate::check::thinnest_line(&drawn.node));
    points.min_by(f64::total_cmp).map(|points| points * 25.4 / 72.0)
}

/// The fewest pixels an inch of the pictures of a side, at its own size.
fn fewest_pixels(studio: &Studio, job: &Job, side: &Side) -> Option<f64> {
    let shown = side.items.iter().filter(|item| !item.hidden);
    shown.filter_map(|item| shown_pixels(studio, job, item)).map(|(ppi, _)| ppi).min_by(f64::total_cmp)
}

/// A thing with artwork on it, so many pixels wide: PNG.
///
/// # Errors
/// [`HandOverError`] where it cannot be drawn.
pub fn worn_picture(
    studio: &Studio,
    job: &Job,
    (piece, side): (&Piece, &Side),
    (good, area): (&Good, &GoodArea),
    (cloth, width): (Color, u32),
) -> Result<Vec<u8>, HandOverError> {
    let art = artwork(studio, job, piece, side, (width * 2 / 3).clamp(64, 1_600))?;
    let art = BASE64.encode(encode_png(&art, 96)?);
    let [wide, high] = good.view;
    let printed = printed_size(piece, area);
    let unit = area.at[2] / area.size[0];
    let (w, h) = (printed[0] * unit, printed[1] * unit);
    let (room_w, room_h) = (area.at[2], area.at[2] * area.size[1] / area.size[0]);
    let (x, y) = (area.at[0] + (room_w - w) / 2.0, area.at[1] + (room_h - h) * if high > wide { 0.15 } else { 0.5 });
    let line = if cloth.luminance() > 0.35 { "#00000030" } else { "#ffffff38" };
    let svg = format!(
        r##"<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="0 0 {wide} {high}">
<rect width="{wide}" height="{high}" fill="#e4e1da"/><path d="{outline}" fill="{cloth}" stroke="{line}" stroke-width="1.5"/>
<path d="{seams}" fill="none" stroke="{line}" stroke-width="1.2"/>
<image x="{x}" y="{y}" width="{w}" height="{h}" preserveAspectRatio="none" xlink:href="data:image/png;base64,{art}"/></svg>"##,
        outline = good.outline,
        seams = good.seams,
    );
    let unmade = || HandOverError::Write(std::io::Error::other("the thing cannot be drawn"));
    let tree = usvg::Tree::from_str(&svg, &usvg::Options::default()).map_err(|_| unmade())?;
    let scale = width as f32 / wide as f32;
    let height = (high as f32 * scale).round() as u32;
    let mut pixmap = resvg::tiny_skia::Pixmap::new(width.max(1), height.max(1)).ok_or_else(unmade)?;
    resvg::render(&tree, resvg::tiny_skia::Transform::from_scale(scale, scale), &mut pixmap.as_mut());
    let pixels = Straight::new(pixmap.width(), pixmap.height(), pixmap.take_demultiplied()).ok_or_else(unmade)?;
    Ok(encode_png(&pixels, 96)?)
}
