//! How a side looks when it is printed: a proof on screen, and what changes by figure.

use serde::Serialize;
use ts_rs::TS;
use vatman_document::{Blend, Color, Item, Job, Paint, Piece, Side};
use vatman_output::PixelOptions;
use vatman_photo::{Inks, Premultiplied, Straight, delta_e2000};
use vatman_scene::{Audience, Node};

use crate::check::printed::DULL;
use crate::check::seen::shown_pixels;
use crate::hand_over::HandOverError;
use crate::studio::Studio;

/// A colour and what paper makes of it.
#[derive(Debug, Clone, PartialEq, Serialize, TS)]
pub struct ProofColour {
    /// What it is called, where it is shared.
    pub name: Option<String>,
    /// As it is seen.
    pub seen: Color,
    /// As it is printed.
    pub printed: Color,
    /// How far apart they look, by CIEDE2000.
    pub off: f64,
    /// Whether that is much duller than it is seen.
    pub dull: bool,
    /// Cyan, magenta, yellow and black, in per cent.
    pub inks: [u8; 4],
}

/// How sharp a picture prints.
#[derive(Debug, Clone, PartialEq, Serialize, TS)]
pub struct ProofPicture {
    /// What it is called.
    pub name: String,
    /// Pixels an inch where it is shown.
    pub ppi: u32,
    /// The width up to which it has 300 of them, and up to which it has 200, in millimetres.
    pub holds: [u32; 2],
}

/// What printing changes of a side.
#[derive(Debug, Clone, PartialEq, Serialize, TS)]
pub struct ProofCard {
    /// Its flat colours, those that change most first.
    pub colours: Vec<ProofColour>,
    /// Its pictures, the softest first.
    pub pictures: Vec<ProofPicture>,
    /// What is seen through, in plain words; nothing where everything covers.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub through: Option<String>,
    /// Share of the side that prints much duller than it is seen, 0 to 1.
    pub dull: f64,
    /// The most ink anywhere on it, in per cent.
    pub most_ink: u32,
    /// What the paper takes, in per cent.
    pub limit: u32,
    /// What is proofed, in plain words.
    pub says: String,
}

/// A side as it is seen, so many pixels wide.
fn seen(studio: &Studio, job: &Job, piece: &Piece, side: &Side, width: u32) -> Result<Premultiplied, HandOverError> {
    let scene = studio.scene(job, piece, side, Audience::Output, None);
    let height = ((f64::from(width) * scene.size.height / scene.size.width).round() as u32).clamp(1, 8_000);
    Ok(studio.pixels(&scene, PixelOptions { width, height, bleed: false, clear: false })?)
}

/// A side as it looks printed on coated paper. As it is seen, where the profile cannot be used.
///
/// # Errors
/// [`HandOverError`] where it cannot be drawn.
pub fn soft_proof(
    studio: &Studio,
    job: &Job,
    piece: &Piece,
    side: &Side,
    width: u32,
) -> Result<Straight, HandOverError> {
    let pixels = seen(studio, job, piece, side, width)?;
    let Some(inks) = Inks::coated() else { return Ok(pixels.straight()) };
    let (w, h) = (pixels.width(), pixels.height());
    let mut data = pixels.flattened([255, 255, 255]);
    let mut last = ([255, 255, 255], [255, 255, 255]);
    let mut out = Vec::with_capacity(w as usize * h as usize * 4);
    for pixel in data.chunks_exact_mut(3) {
        let rgb = [pixel[0], pixel[1], pixel[2]];
        if rgb != last.0 {
            last = (rgb, inks.proof(rgb));
        }
        out.extend([last.1[0], last.1[1], last.1[2], 255]);
    }
    Ok(Straight::new(w, h, out).unwrap_or_else(|| pixels.straight()))
}

/// What printing changes of a side, by figure.
///
/// # Errors
/// [`HandOverError`] where it cannot be drawn.
pub fn proof_card(studio: &Studio, job: &Job, piece: &Piece, side: &Side) -> Result<ProofCard, HandOverError> {
    let pixels = seen(studio, job, piece, side, 160)?;
    let Some(inks) = Inks::coated() else {
        let says = "The profile of inks cannot be used.".into();
        return Ok(ProofCard {
            colours: Vec::new(),
            pictures: Vec::new(),
            through: None,
            dull: 0.0,
            most_ink: 0,
            limit: 0,
            says,
        });
    };
    let flat = pixels.flattened([255, 255, 255]);
    let (mut dull, mut most) = (0usize, 0.0_f32);
    for pixel in flat.chunks_exact(3) {
        let rgb = [pixel[0], pixel[1], pixel[2]];
        let mixture = inks.separate(rgb);
        most = most.max(mixture.iter().sum());
        dull += usize::from(delta_e2000(rgb, inks.printed(mixture)) > DULL);
    }
    let mut colours: Vec<ProofColour> = Vec::new();
    let tints = side.ground.iter().flat_map(Paint::tints).cloned();
    let own = side
        .items
        .iter()
        .filter(|item| !item.hidden)
        .filter_map(|item| job.plain(item))
        .flat_map(|plain| plain.look.tints().chain(plain.content.tints()).cloned().collect::<Vec<_>>());
    for color in tints.chain(own).map(|tint| job.color(&tint)) {
        if color.a == 0 || colours.iter().any(|known| known.seen == color) {
            continue;
        }
        let rgb = [color.r, color.g, color.b];
        let mixture = inks.separate(rgb);
        let [r, g, b] = inks.printed(mixture);
        let name = job.swatches.values().find(|swatch| swatch.color == color).map(|swatch| swatch.name.clone());
        let off = (delta_e2000(rgb, [r, g, b]) * 10.0).round() / 10.0;
        let inks = mixture.map(|share| (share * 100.0).round() as u8);
        colours.push(ProofColour { name, seen: color, printed: Color::opaque(r, g, b), off, dull: off > DULL, inks });
    }
    colours.sort_by(|a, b| b.off.total_cmp(&a.off));
    let sharp = |item: &Item| {
        let (ppi, across) = shown_pixels(studio, job, item)?;
        let holds = [300.0, 200.0].map(|ppi| (across / ppi * 25.4).round() as u32);
        Some(ProofPicture { name: job.plain(item)?.name(), ppi: ppi.round() as u32, holds })
    };
    let mut pictures: Vec<ProofPicture> = side.items.iter().filter(|item| !item.hidden).filter_map(sharp).collect();
    pictures.sort_by_key(|picture| picture.ppi);
    Ok(ProofCard {
        colours,
        pictures,
        through: seen_through(studio, job, piece, side),
        dull: dull as f64 / (flat.len() / 3).max(1) as f64,
        most_ink: (most * 100.0).round() as u32,
        limit: (Inks::MOST * 100.0).round() as u32,
        says: "Coated paper, offset or a good digital press. A printer at home differs.".into(),
    })
}

/// What of a side is seen through: print shops that take only what covers want to know.
fn seen_through(studio: &Studio, job: &Job, piece: &Piece, side: &Side) -> Option<String> {
    let scene = studio.scene(job, piece, side, Audience::Output, None);
    let named: Vec<String> = scene
        .items
        .iter()
        .filter_map(|drawn| {
            let plain = job.plain(side.items.iter().find(|item| item.id == drawn.id)?)?;
            let faint = plain.look.tints().any(|tint| (1..255).contains(&job.color(tint).a));
            (faint || shows_below(&drawn.node)).then(|| format!("\u{201c}{}\u{201d}", plain.name()))
        })
        .collect();
    let names = match &named[..] {
        [] => return None,
        [one] => format!("{one} is"),
        [one, two] => format!("{one} and {two} are"),
        [one, two, rest @ ..] => format!("{one}, {two} and {} more are", rest.len()),
    };
    Some(format!("{names} seen through. The PDF keeps that; a print shop that cannot print it says so."))
}

/// Whether what lies below is seen through a node, or mixed with it.
fn shows_below(node: &Node) -> bool {
    let Node::Group(group) = node else { return false };
    group.opacity < 1.0
        || group.blend != Blend::Normal
        || group.mask.is_some()
        || !group.shadows.is_empty()
        || group.children.iter().any(shows_below)
}
