//! What should be looked at because a piece is printed: lines and inks that do not hold, what no press mixes, colours that print
//! duller, folds and holes, codes that cannot be scanned, sides nobody filled.

use kurbo::Affine;
use vatman_document::{Blend, Color, Content, Ink, Item, ItemId, Job, Paint, Piece, Side};
use vatman_output::{PixelOptions, painted_box};
use vatman_photo::{Inks, delta_e2000};
use vatman_scene::{Audience, Line, Node, Scene, SceneItem};
use vatman_units::{Length, Ratio, Unit};

use crate::check::findings::{FindingKind, ItemFinding};
use crate::check::seen::letters;
use crate::look::scan::scanned;
use crate::studio::Studio;

/// The thinnest line that prints, in points.
pub const THINNEST: f64 = 0.25;
/// Colours that print so far from themselves, by CIEDE2000, are told.
pub const DULL: f64 = 9.0;
/// Letters below this size, in points, are not set in several inks.
const SMALL: f64 = 7.0;
/// Less of an ink does not show where it misses.
const SHOWS: f32 = 0.15;
/// Nor do inks that are no more than this together, of 4; and only what is as dark as this, by its lightest channel, could be black as well.
const HEAVY: f32 = 2.0;
const DARK: u8 = 0x60;
/// Codes are looked at as they are printed: pixels an inch.
const SCANNED_AT: f64 = 300.0;

/// What is found, about an item or about the side as a whole.
pub(crate) type PrintFinding = (Option<ItemId>, ItemFinding);

/// What is to be said about a side as it is printed, and about codes wherever it is shown.
pub(crate) fn as_printed(
    studio: &Studio,
    job: &Job,
    (piece, side): (&Piece, &Side),
    scene: &Scene,
) -> Vec<PrintFinding> {
    let mut found = Vec::new();
    codes(studio, job, (piece, side), &mut found);
    if piece.format.unit == Unit::Px {
        return found;
    }
    if piece.sides.len() > 1 && side.items.iter().all(|item| item.hidden) {
        let others = piece.sides.iter().any(|other| other.items.iter().any(|item| !item.hidden));
        if others {
            let says = format!(
                "\u{201c}{}\u{201d} is empty and would be printed blank. Fill it, or take the side away.",
                side.name
            );
            found.push((None, ItemFinding { kind: FindingKind::EmptySide, says }));
        }
    }
    for drawn in &scene.items {
        let Some(item) = side.items.iter().find(|item| item.id == drawn.id && !item.hidden) else { continue };
        let name = job.plain(item).map_or_else(String::new, |plain| format!("\u{201c}{}\u{201d}", plain.name()));
        let mut say = |kind, says| found.push((Some(item.id.clone()), ItemFinding { kind, says }));
        if let Some(thin) = thinnest_line(&drawn.node).filter(|thin| *thin < THINNEST * 0.98) {
            let says = format!(
                "A line of {name} is {thin:.2} pt thin; {THINNEST} pt is the least that prints. Make it thicker."
            );
            say(FindingKind::ThinLine, says);
        }
        if let Some(says) = in_the_way(studio, job, (piece, side), (item, drawn), &name) {
            say(says.0, says.1);
        }
        if let Some((kind, says)) = mixed(job, item, &name) {
            say(kind, says);
        }
        if let Some(says) = small_in_inks(job, item, drawn, &name) {
            say(FindingKind::SmallInInks, says);
        }
    }
    colours(job, (piece, side), &mut found);
    found
}

/// The thinnest line of a node that is seen, in points, at a scale.
fn thinnest(node: &Node, scale: f64) -> Option<f64> {
    let line = |line: &Option<Line>| line.as_ref().map(|line| line.width * scale * 0.75).filter(|width| *width > 0.0);
    match node {
        Node::Group(group) if group.opacity <= 0.0 => None,
        Node::Group(group) => {
            let scale = scale * scale_of(group.transform);
            group.children.iter().filter_map(|child| thinnest(child, scale)).min_by(f64::total_cmp)
        }
        Node::Path(path) => line(&path.stroke),
        Node::Glyphs(glyphs) => line(&glyphs.stroke),
        Node::Image(_) => None,
    }
}

fn scale_of(transform: Affine) -> f64 {
    transform.determinant().abs().sqrt()
}

/// The thinnest line of what is drawn, in points; nothing where there is none.
#[must_use]
pub(crate) fn thinnest_line(node: &Node) -> Option<f64> {
    thinnest(node, 1.0)
}

/// Words and codes where the sheet is folded or has a hole.
fn in_the_way(
    studio: &Studio,
    job: &Job,
    (piece, side): (&Piece, &Side),
    (item, drawn): (&Item, &SceneItem),
    name: &str,
) -> Option<(FindingKind, String)> {
    let finish = piece.format.finish;
    if finish.is_none() {
        return None;
    }
    let plain = job.plain(item)?;
    let library = studio.typesetter.library();
    let own = match plain.content {
        Content::Words { .. } => painted_box(&letters(drawn), library.as_ref())?,
        Content::Code { .. } => painted_box(&drawn.node, library.as_ref())?,
        Content::Picture { .. } | Content::Shape { .. } | Content::Drawing { .. } => return None,
    };
    let back = piece.is_back(&side.id);
    if let Some(hole) = finish.hole {
        let mut covers = hole.covers();
        if back {
            covers.x = piece.format.size.w - covers.right();
        }
        let shared = covers.to_css_px().intersect(own);
        if shared.width() > 0.5 && shared.height() > 0.5 {
            return Some((FindingKind::InHole, format!("{name} lies where the hole is punched. Move it clear.")));
        }
    }
    let panels = finish.folds.panels(piece.format.size, back);
    let level = finish.folds.is_level();
    let crossed = panels.iter().skip(1).any(|panel| {
        let at = panel.to_css_px();
        if level { own.y0 < at.y0 - 0.5 && own.y1 > at.y0 + 0.5 } else { own.x0 < at.x0 - 0.5 && own.x1 > at.x0 + 0.5 }
    });
    crossed.then(|| {
        (FindingKind::OnFold, format!("{name} runs across a fold, where the ink cracks. Keep it on one panel."))
    })
}

/// White from here on, by its darkest channel, is the paper.
const WHITE: u8 = 0xf4;

/// What mixes with what lies below in a way no press does: white that only darkens, and spot inks that are seen through.
fn mixed(job: &Job, item: &Item, name: &str) -> Option<(FindingKind, String)> {
    let plain = job.plain(item)?;
    let paint = matches!(plain.content, Content::Words { .. } | Content::Shape { .. } | Content::Code { .. });
    let colours: Vec<Color> =
        plain.look.fill.iter().filter(|_| paint).flat_map(Paint::tints).map(|tint| job.color(tint)).collect();
    let white = |color: &Color| color.r.min(color.g).min(color.b) >= WHITE;
    let darkens = matches!(plain.look.blend, Blend::Multiply | Blend::Darken | Blend::ColorBurn);
    if darkens && !colours.is_empty() && colours.iter().all(white) {
        let says = format!("{name} is white and only darkens what lies below, so nothing of it is printed.");
        return Some((FindingKind::WhiteLost, says));
    }
    let spot = |color: &Color| {
        job.swatches.values().find(|swatch| swatch.color == *color && matches!(swatch.ink, Some(Ink::Spot { .. })))
    };
    let seen_through = plain.look.blend != Blend::Normal || plain.look.opacity < Ratio::ONE;
    let swatch = colours.iter().find_map(spot).filter(|_| seen_through)?;
    let says = format!(
        "{name} is printed in an ink of its own, {}, and is seen through; presses differ in what that gives. Let it cover, or use a lighter tint.",
        swatch.name
    );
    Some((FindingKind::SpotMixed, says))
}

/// Small letters in several inks.
fn small_in_inks(job: &Job, item: &Item, drawn: &SceneItem, name: &str) -> Option<String> {
    let points = drawn.type_size * 0.75;
    if points <= 0.0 || points >= SMALL {
        return None;
    }
    let plain = job.plain(item)?;
    let Some(Paint::Flat { tint, .. }) = &plain.look.fill else { return None };
    let color = job.color(tint);
    let (most, least) = (color.r.max(color.g).max(color.b), color.r.min(color.g).min(color.b));
    // What is as good as black is printed with black alone.
    if most > DARK || (most <= 0x30 && most - least <= 0x0a) || has_ink(job, color) {
        return None;
    }
    let inks = Inks::coated()?.separate([color.r, color.g, color.b]);
    let count = inks.iter().filter(|share| **share > SHOWS).count();
    (count >= 3 && inks.iter().sum::<f32>() > HEAVY).then(|| {
        format!("{name} is {points:.1} pt in {count} inks; where they miss each other by a hair it blurs. Use black, or a larger size.")
    })
}

fn has_ink(job: &Job, color: Color) -> bool {
    job.swatches.values().any(|swatch| swatch.color == color && swatch.ink.is_some())
}

/// Colours that print much duller than they are seen, each once, and inks that are more than the paper takes.
fn colours(job: &Job, (piece, side): (&Piece, &Side), found: &mut Vec<PrintFinding>) {
    let Some(inks) = Inks::coated() else { return };
    let mut told: Vec<Color> = Vec::new();
    // What a side before has told is not told again.
    let before = piece.sides.iter().take_while(|other| other.id != side.id);
    told.extend(before.flat_map(|side| used(job, side)).map(|(_, color)| color));
    for (item, color) in used(job, side) {
        if color.a == 0 || told.contains(&color) {
            continue;
        }
        told.push(color);
        let swatch = job.swatches.values().find(|swatch| swatch.color == color);
        let name = swatch.map_or_else(|| color.to_string(), |swatch| format!("{} ({color})", swatch.name));
        if let Some(Ink::Process { c, m, y, k }) = swatch.and_then(|swatch| swatch.ink.as_ref()) {
            let sum = u32::from(*c) + u32::from(*m) + u32::from(*y) + u32::from(*k);
            if f64::from(sum) > f64::from(Inks::MOST) * 100.0 {
                let most = (Inks::MOST * 100.0).round();
                let says = format!(
                    "{name} is printed with {sum} % of ink; the paper takes {most} % before it smears. Take less of some."
                );
                found.push((item, ItemFinding { kind: FindingKind::TooMuchInk, says }));
            }
            continue;
        }
        if swatch.is_some_and(|swatch| swatch.ink.is_some()) {
            continue;
        }
        let rgb = [color.r, color.g, color.b];
        let proof = inks.proof(rgb);
        let off = delta_e2000(rgb, proof);
        if off > DULL {
            let printed = Color::opaque(proof[0], proof[1], proof[2]);
            let says = format!(
                "{name} prints as about {printed}, much duller than it is seen: \u{394}E {off:.0}. Choose a colour nearer to that, or an ink of its own."
            );
            found.push((item, ItemFinding { kind: FindingKind::Duller, says }));
        }
    }
}

/// The colours of a side with the first item that has each; those of the ground with none.
fn used(job: &Job, side: &Side) -> Vec<(Option<ItemId>, Color)> {
    let ground = side.ground.iter().flat_map(Paint::tints).map(|tint| (None, job.color(tint)));
    let items = side.items.iter().filter(|item| !item.hidden).flat_map(|item| {
        let plain = job.plain(item);
        let own: Vec<Color> = plain
            .iter()
            .flat_map(|plain| {
                plain.look.tints().chain(plain.content.tints()).map(|tint| job.color(tint)).collect::<Vec<_>>()
            })
            .collect();
        own.into_iter().map(move |color| (Some(item.id.clone()), color))
    });
    ground.chain(items).collect()
}

/// Codes that cannot be scanned as they are printed.
fn codes(studio: &Studio, job: &Job, (piece, side): (&Piece, &Side), found: &mut Vec<PrintFinding>) {
    let is_code = |item: &&Item| {
        !item.hidden
            && job
                .plain(item)
                .is_some_and(|plain| matches!(plain.content, Content::Code { code } if !code.says.is_blank()))
    };
    let codes: Vec<&Item> = side.items.iter().filter(is_code).collect();
    if codes.is_empty() {
        return;
    }
    let scene = studio.scene(job, piece, side, Audience::Output, None);
    let screen = piece.format.unit == Unit::Px;
    let ppi = if screen { f64::from(piece.format.ppi.get()) } else { SCANNED_AT };
    let pixels = |length: f64| ((length * ppi / 96.0).round() as u32).clamp(1, 6_000);
    let options =
        PixelOptions { width: pixels(scene.size.width), height: pixels(scene.size.height), bleed: false, clear: false };
    let Ok(drawn) = studio.pixels(&scene, options) else { return };
    let drawn = drawn.straight();
    let read = scanned(&drawn);
    for item in codes {
        let Some(Content::Code { code }) = job.plain(item).map(|plain| plain.content) else { continue };
        let wanted = code.says.written();
        if read.iter().any(|content| content == wanted.as_bytes()) {
            continue;
        }
        let side = item.place.at.rect.w.min(item.place.at.rect.h);
        let size =
            if screen { format!("{:.0} px", side.to_px(piece.format.ppi)) } else { format!("{:.0} mm", side.to_mm()) };
        let says = format!(
            "The code \u{201c}{}\u{201d} cannot be scanned at {size}. Make it larger, dark on light, free of what lies on it, or say less.",
            code.says.said().chars().take(40).collect::<String>()
        );
        found.push((Some(item.id.clone()), ItemFinding { kind: FindingKind::CodeUnread, says }));
    }
}

/// A line of a shape or of letters made as thick as prints.
pub(crate) fn thick_enough(width: Length, scale: f64) -> Length {
    width.max(Length::pt(THINNEST / scale.max(1e-6)))
}
