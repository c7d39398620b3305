//! Whether words can be read on what really lies behind them, and how to mend it.
//!
//! What lies below the item is drawn as it leaves; behind every letter's neighbourhood the WCAG 2.2 contrast ratio to the colour of
//! the letters is taken. The figure is the one that the worst twentieth of that area stays under.

use std::sync::Arc;

use kurbo::{Affine, Point, Rect};
use serde::{Deserialize, Serialize};
use thiserror::Error;
use ts_rs::TS;
use vatman_document::{
    AssetId, Color, Command, Content, IdSource, Item, ItemId, Job, Kin, KinId, Look, Oklab, Outline, Paint, Part,
    Piece, Place, Plain, Side,
};
use vatman_output::{PixelError, PixelOptions};
use vatman_photo::{Premultiplied, content_id};
use vatman_scene::{Audience, Brush, Node, Rgba, Scene, SceneItem};
use vatman_units::{Length, Placement, Ratio};

use crate::edit::target::look_change;
use crate::studio::Studio;

/// The plain verdict.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum Verdict {
    /// Reads well.
    Good,
    /// Reads only because it is large, or just misses.
    Weak,
    /// Cannot be relied on.
    Poor,
}

/// A way to mend it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum Repair {
    /// The nearest colour of the same hue that reads.
    Recolour,
    /// A panel behind the words.
    Panel,
    /// A shade over the picture below, as faint as will do.
    Shade,
}

/// How words read on their ground.
#[derive(Debug, Clone, PartialEq, Serialize, TS)]
pub struct Reading {
    /// Contrast ratio, 1 to 21, that the worst twentieth of the area stays under.
    pub ratio: f64,
    /// The least ratio for type of this size: 4.5, or 3 for large type.
    pub wanted: f64,
    /// The verdict.
    pub verdict: Verdict,
    /// What would mend it; empty where nothing is wrong.
    pub repairs: Vec<Repair>,
}

/// Why contrast cannot be measured or mended.
#[derive(Debug, Error)]
pub enum ContrastError {
    /// Not words, or no letters.
    #[error("There are no letters to be read in this item.")]
    NoWords,
    /// Nothing below can be drawn.
    #[error(transparent)]
    Pixels(#[from] PixelError),
    /// A repair that does not apply here.
    #[error("That would not help here. Nothing was changed.")]
    NoHelp,
}

/// Where to measure: the item, what it stands on, and what it is drawn as.
pub struct Ground<'a> {
    /// The job.
    pub job: &'a Job,
    /// The piece.
    pub piece: &'a Piece,
    /// The side.
    pub side: &'a Side,
    /// The item with words.
    pub item: &'a Item,
}

/// The least ratio at which words read (WCAG 2.2, success criterion 1.4.3), and at which large ones do.
pub(crate) const READS: f64 = 4.5;
const READS_LARGE: f64 = 3.0;
/// The ratio a shade aims at, so that rounding never takes it below.
const SHADED: f64 = 4.6;
/// How strong a shade may be, from the faintest on: exactly as it is kept, so that what is measured is what is seen.
const SHADES: [Ratio; 18] = {
    let mut steps = [Ratio::ZERO; 18];
    let mut at = 0;
    while at < steps.len() {
        steps[at] = Ratio::thousandths(50 * (at as i64 + 1));
        at += 1;
    }
    steps
};

/// Pixels at most along the longer side of the sheet while measuring.
const DETAIL: f64 = 720.0;
/// Points that are looked at, about: enough for a twentieth to be told within a fraction of a percent.
const POINTS: f64 = 6_000.0;
/// The share of the area that may be worse than the figure given.
const WORST: f64 = 0.05;

/// What was seen behind the letters.
#[derive(Debug)]
struct Seen {
    /// Colours behind the letters, opaque.
    behind: Vec<Color>,
    /// Their luminance, from dark to light.
    light: Vec<f64>,
    /// Colours of the letters.
    letters: Vec<Rgba>,
    large: bool,
}

impl Ground<'_> {
    /// Measures the words on what lies below them.
    ///
    /// # Errors
    /// [`ContrastError`] where there are no letters or the ground cannot be drawn.
    pub fn measure(&self, studio: &Studio) -> Result<Reading, ContrastError> {
        let seen = self.look(studio)?;
        let ratio = worst(&seen.behind, &seen.letters);
        let wanted = seen.wanted();
        let verdict = match ratio {
            r if r >= READS => Verdict::Good,
            r if r >= READS_LARGE => Verdict::Weak,
            _ => Verdict::Poor,
        };
        let mut repairs = Vec::new();
        if ratio < READS {
            if recoloured(&seen).is_some() {
                repairs.push(Repair::Recolour);
            }
            if self.picture_below(studio).is_some() && shade_for(&seen).is_some() {
                repairs.push(Repair::Shade);
            }
            if panel_for(&seen).is_some() {
                repairs.push(Repair::Panel);
            }
        }
        Ok(Reading { ratio, wanted, verdict, repairs })
    }

    /// The command that mends it.
    ///
    /// # Errors
    /// [`ContrastError`] where the repair does not apply.
    pub fn repair(&self, studio: &Studio, repair: Repair, ids: &mut dyn IdSource) -> Result<Command, ContrastError> {
        let seen = self.look(studio)?;
        let plain = self.plain()?;
        let index = self.side.items.iter().position(|item| item.id == self.item.id).unwrap_or(0);
        match repair {
            Repair::Recolour => {
                let color = recoloured(&seen).ok_or(ContrastError::NoHelp)?;
                let look = Look { fill: Some(Paint::flat(color)), ..plain.look.as_ref().clone() };
                Ok(Command::All { commands: look_change(self.job, &plain, &look, &mut Vec::new()) })
            }
            Repair::Panel => {
                let frame = self.frame(studio).ok_or(ContrastError::NoWords)?;
                let pad = Length::css_px(self.type_size(studio) * 0.45);
                let (color, opacity) = panel_for(&seen).ok_or(ContrastError::NoHelp)?;
                let rect = self.item.place.at.rect;
                let rect = vatman_units::Rect { h: Length::css_px(frame.h), ..rect }.outset(pad);
                let look = Look {
                    fill: Some(Paint::Flat { tint: color.into(), opacity: Ratio::new(opacity) }),
                    ..Look::default()
                };
                let outline = Outline::Rect { radius: pad.scaled(0.5) };
                Ok(self.insert(index, outline, look, Place::new(Placement { rect, ..self.item.place.at }), ids))
            }
            Repair::Shade => {
                let below = self.picture_below(studio).ok_or(ContrastError::NoHelp)?;
                if let Some((shade, look)) = self.stronger(studio, &seen) {
                    let plain = self.job.plain(shade).ok_or(ContrastError::NoHelp)?;
                    return Ok(Command::All { commands: look_change(self.job, &plain, &look, &mut Vec::new()) });
                }
                let (color, opacity) = shade_for(&seen).ok_or(ContrastError::NoHelp)?;
                let Some(Content::Picture { frame, .. }) = self.job.plain(below).map(|plain| plain.content) else {
                    return Err(ContrastError::NoHelp);
                };
                let look = Look { fill: Some(Paint::Flat { tint: color.into(), opacity }), ..Look::default() };
                let above = self.above_ground(studio);
                Ok(self.insert(above, frame.clone(), look, Place { crop: None, ..below.place }, ids))
            }
        }
    }

    /// The shade the words stand on, strong enough for them to be read; nothing where they stand on none that is flat, or on one no
    /// strength of which would do.
    fn stronger(&self, studio: &Studio, seen: &Seen) -> Option<(&Item, Look)> {
        let scene = self.scene(studio);
        let boxed = |id: &ItemId| scene.items.iter().find(|drawn| drawn.id == *id).map(|drawn| drawn.frame.upright());
        let own = boxed(&self.item.id)?;
        let below = self.side.items.iter().take_while(|item| item.id != self.item.id).filter(|item| !item.hidden);
        let shades = below.filter_map(|item| {
            let plain = self.job.plain(item).filter(|plain| matches!(plain.content, Content::Shape { .. }))?;
            let Some(Paint::Flat { tint, opacity: now }) = &plain.look.fill else { return None };
            let carries = boxed(&item.id).is_some_and(|r| r.contains(own)) && (0.02..0.98).contains(&now.get());
            let tone = self.job.color(tint);
            // As much more of the same as reads: one layer over another of one colour is a stronger one.
            let more = carries.then(|| least_shade(seen, tone)).flatten()?;
            let sum = Ratio::new(1.0 - (1.0 - now.get()) * (1.0 - more.get()));
            let fill = Some(Paint::Flat { tint: tint.clone(), opacity: sum });
            Some((item, Look { fill, ..plain.look.as_ref().clone() }))
        });
        shades.last()
    }

    fn insert(&self, index: usize, outline: Outline, look: Look, place: Place, ids: &mut dyn IdSource) -> Command {
        let item = Item::new(ItemId::fresh(ids), KinId::fresh(ids), place);
        Command::InsertItem {
            side: self.side.id.clone(),
            index,
            item,
            kin: Some(Kin::new(Part::Panel, Content::Shape { outline }, look)),
        }
    }

    fn plain(&self) -> Result<Plain<'_>, ContrastError> {
        self.job.plain(self.item).filter(|plain| plain.content.words().is_some()).ok_or(ContrastError::NoWords)
    }

    fn scene(&self, studio: &Studio) -> Scene {
        studio.scene(self.job, self.piece, self.side, Audience::Output, None)
    }

    fn frame(&self, studio: &Studio) -> Option<vatman_scene::Frame> {
        self.scene(studio).items.iter().find(|drawn| drawn.id == self.item.id).map(|drawn| drawn.frame)
    }

    fn type_size(&self, studio: &Studio) -> f64 {
        self.scene(studio).items.iter().find(|drawn| drawn.id == self.item.id).map_or(16.0, |drawn| drawn.type_size)
    }

    /// The nearest picture below that the words stand on.
    fn picture_below(&self, studio: &Studio) -> Option<&Item> {
        let scene = self.scene(studio);
        let boxed = |id: &ItemId| scene.items.iter().find(|drawn| drawn.id == *id).map(|drawn| drawn.frame.upright());
        let own = boxed(&self.item.id)?;
        let below = self.side.items.iter().take_while(|item| item.id != self.item.id);
        let meets = |item: &&Item| {
            let other = boxed(&item.id);
            let shows = self.job.plain(item).is_some_and(|plain| plain.content.picture().is_some());
            shows
                && other
                    .is_some_and(|r| r.x < own.right() && own.x < r.right() && r.y < own.bottom() && own.y < r.bottom())
        };
        below.filter(meets).last()
    }

    /// The position above everything but words that the words stand on: a shade there lies on all of their ground and on no letters
    /// that stand below it by chance.
    fn above_ground(&self, studio: &Studio) -> usize {
        let scene = self.scene(studio);
        let boxed = |id: &ItemId| scene.items.iter().find(|drawn| drawn.id == *id).map(|drawn| drawn.frame.upright());
        let Some(own) = boxed(&self.item.id) else { return 0 };
        let below = self.side.items.iter().take_while(|item| item.id != self.item.id).enumerate();
        let carries = |item: &Item| {
            let silent = self.job.plain(item).is_some_and(|plain| plain.content.words().is_none());
            silent
                && boxed(&item.id)
                    .is_some_and(|r| r.x < own.right() && own.x < r.right() && r.y < own.bottom() && own.y < r.bottom())
        };
        below.filter(|(_, item)| carries(item)).last().map_or(0, |(index, _)| index + 1)
    }

    fn look(&self, studio: &Studio) -> Result<Seen, ContrastError> {
        self.plain()?;
        let mut scene = self.scene(studio);
        let at = scene.items.iter().position(|drawn| drawn.id == self.item.id).ok_or(ContrastError::NoWords)?;
        let words = scene.items[at].clone();
        let shared = self.alone(&scene, at);
        if shared {
            let said = self.said();
            letterless(&mut scene, &said);
        } else {
            scene.items.truncate(at);
            scene.items.push(without_letters(&words));
        }
        let scale = DETAIL / scene.size.width.max(scene.size.height);
        let pixel = |length: f64| (length * scale).round().max(1.0) as u32;
        let options = PixelOptions {
            width: pixel(scene.size.width),
            height: pixel(scene.size.height),
            bleed: false,
            clear: false,
        };
        // While words are typed and moved, what they stand on stays.
        let key = if shared { self.letterless_key(studio) } else { self.stands_on(studio) };
        let below = studio
            .grounds
            .get_or_insert_with(&key, || Ok::<_, ContrastError>(Arc::new(studio.pixels(&scene, options)?)))?;
        let (areas, letters) = letters_of(&words).ok_or(ContrastError::NoWords)?;
        let behind = sample(&below, &scene, &areas);
        if behind.is_empty() {
            return Err(ContrastError::NoWords);
        }
        let weight = self.plain()?.look.type_look.as_ref().map_or(400, |kind| kind.weight);
        Ok(Seen::new(behind, letters, is_large(words.type_size * 0.75, weight)))
    }

    /// The words of the side.
    fn said(&self) -> Vec<&ItemId> {
        let said = |item: &&Item| self.job.plain(item).is_some_and(|plain| plain.content.words().is_some());
        self.side.items.iter().filter(said).map(|item| &item.id).collect()
    }

    /// Whether nothing lies over the words and no other letters below them: then what they stand on is the side without letters, which is
    /// drawn once for all its words.
    fn alone(&self, scene: &Scene, at: usize) -> bool {
        let near = self.piece.format.size.w.max(self.piece.format.size.h).scaled(NEAR);
        let own = scene.items[at].frame.upright();
        let said = self.said();
        let apart = |other: &SceneItem| {
            let r = other.frame.upright();
            r.x >= own.right() + near
                || own.x >= r.right() + near
                || r.y >= own.bottom() + near
                || own.y >= r.bottom() + near
        };
        scene.items[..at].iter().all(|other| !said.contains(&&other.id) || apart(other))
            && scene.items[at + 1..].iter().all(apart)
    }
}

/// What reaches this much further than its box, as a share of the longer side, may be seen under words.
const NEAR: f64 = 0.01;

/// A scene in which words have no letters.
fn letterless(scene: &mut Scene, said: &[&ItemId]) {
    for drawn in scene.items.iter_mut().filter(|drawn| said.contains(&&drawn.id)) {
        *drawn = without_letters(drawn);
    }
}

/// How words of a side stand out whose contrast a first look leaves in doubt; measured once for all that asks.
pub(crate) struct Readings(Vec<(ItemId, Reading)>);

impl Readings {
    pub(crate) fn of(studio: &Studio, job: &Job, piece: &Piece, side: &Side) -> Self {
        let doubted = doubtful(studio, job, piece, side);
        let items = side.items.iter().filter(|item| doubted.contains(&item.id));
        let read = |item: &Item| Some((item.id.clone(), Ground { job, piece, side, item }.measure(studio).ok()?));
        Self(items.filter_map(read).collect())
    }

    /// Of an item; nothing where it is sure to be read.
    pub(crate) fn get(&self, id: &ItemId) -> Option<&Reading> {
        self.0.iter().find(|(own, _)| own == id).map(|(_, reading)| reading)
    }
}

/// Pixels along the longer side of the sheet for a first look.
const ROUGH: f64 = 260.0;

/// The words of a side that a first look at low resolution leaves in doubt. Much quicker than measuring each.
pub(crate) fn doubtful(studio: &Studio, job: &Job, piece: &Piece, side: &Side) -> Vec<ItemId> {
    let mut scene = studio.scene(job, piece, side, Audience::Output, None);
    let words: Vec<SceneItem> = scene
        .items
        .iter()
        .filter(|drawn| {
            side.items
                .iter()
                .any(|item| item.id == drawn.id && job.plain(item).is_some_and(|p| p.content.words().is_some()))
        })
        .cloned()
        .collect();
    letterless(&mut scene, &words.iter().map(|one| &one.id).collect::<Vec<_>>());
    let scale = ROUGH / scene.size.width.max(scene.size.height);
    let pixel = |length: f64| (length * scale).round().max(1.0) as u32;
    let options =
        PixelOptions { width: pixel(scene.size.width), height: pixel(scene.size.height), bleed: false, clear: false };
    let Ok(below) = studio.pixels(&scene, options) else { return Vec::new() };
    let unsure = |drawn: &&SceneItem| {
        letters_of(drawn).is_some_and(|(areas, letters)| {
            let behind = sample(&below, &scene, &areas);
            !behind.is_empty() && worst(&behind, &letters) < READS * 1.12
        })
    };
    words.iter().filter(unsure).map(|drawn| drawn.id.clone()).collect()
}

impl Ground<'_> {
    /// Names all that is drawn of a side but letters.
    fn letterless_key(&self, studio: &Studio) -> AssetId {
        let drawn = |item: &Item| {
            let plain = self.job.plain(item)?;
            let bare = plain.content.words().is_some() && plain.look.backing.is_none() && plain.look.frost.is_none();
            (!bare).then(|| (item.clone(), self.job.kins.get(&item.kin).cloned()))
        };
        let all = (
            "without letters",
            self.piece.format,
            (&self.side.ground, &self.side.group_looks),
            self.side.items.iter().filter_map(drawn).collect::<Vec<_>>(),
            &self.job.swatches,
            Arc::as_ptr(&studio.typesetter.library()) as usize,
        );
        content_id(&serde_json::to_vec(&all).unwrap_or_default())
    }

    /// Names all that is drawn below the letters: the same name, the same pixels.
    fn stands_on(&self, studio: &Studio) -> AssetId {
        let below = self.side.items.iter().take_while(|item| item.id != self.item.id);
        let own = self.job.plain(self.item).filter(|plain| plain.look.backing.is_some() || plain.look.frost.is_some());
        let kins: Vec<_> = below.clone().map(|item| self.job.kins.get(&item.kin)).collect();
        let all = (
            self.piece.format,
            (&self.side.ground, &self.side.group_looks),
            below.collect::<Vec<_>>(),
            kins,
            &self.job.swatches,
            own.map(|plain| (plain.item, plain.content, plain.look)),
            Arc::as_ptr(&studio.typesetter.library()) as usize,
        );
        content_id(&serde_json::to_vec(&all).unwrap_or_default())
    }
}

/// Large type as WCAG 2.2 defines it: 18 pt, or 14 pt and bold.
fn is_large(pt: f64, weight: u16) -> bool {
    pt >= 18.0 || (weight >= 700 && pt >= 14.0)
}

impl Seen {
    fn new(behind: Vec<Color>, letters: Vec<Rgba>, large: bool) -> Self {
        let mut light: Vec<f64> = behind.iter().map(|ground| ground.luminance()).collect();
        light.sort_by(f64::total_cmp);
        Self { behind, light, letters, large }
    }

    fn wanted(&self) -> f64 {
        if self.large { READS_LARGE } else { READS }
    }
}

/// What an item with words puts behind its own letters: a backing, and what it blurs.
fn without_letters(words: &SceneItem) -> SceneItem {
    let mut bare = words.clone();
    if let Node::Group(group) = words.node.as_ref() {
        let behind = group.children.iter().take_while(|child| !matches!(child, Node::Glyphs(_))).cloned().collect();
        bare.node =
            Arc::new(Node::Group(vatman_scene::Group { children: behind, shadows: Vec::new(), ..group.clone() }));
    }
    bare
}

/// Boxes with the maps from them to the sheet.
type Areas = Vec<(Rect, Affine)>;

/// The boxes of the runs of letters with the maps from them to the sheet, and the colours of the letters.
fn letters_of(words: &SceneItem) -> Option<(Areas, Vec<Rgba>)> {
    let Node::Group(group) = words.node.as_ref() else { return None };
    let (mut areas, mut colors) = (Vec::new(), Vec::new());
    for node in &group.children {
        let Node::Glyphs(glyphs) = node else { continue };
        let (Some(first), Some(last)) = (glyphs.run.glyphs.first(), glyphs.run.glyphs.last()) else { continue };
        if glyphs.run.text.trim().is_empty() {
            continue;
        }
        // From the height of capitals to a little below the line.
        areas.push((
            Rect::new(
                first.x,
                first.y - 0.75 * glyphs.run.size,
                last.x + last.advance,
                first.y + 0.2 * glyphs.run.size,
            ),
            group.transform,
        ));
        let faded = |color: Rgba| Rgba { a: color.a * group.opacity, ..color };
        match &glyphs.fill {
            Some(Brush::Flat(color)) => colors.push(faded(*color)),
            Some(Brush::Linear { stops, .. } | Brush::Radial { stops, .. } | Brush::Conic { stops, .. }) => {
                colors.extend(stops.iter().map(|stop| faded(stop.color)))
            }
            Some(Brush::Tile(tile)) => colors.extend(tile.ground.into_iter().chain([tile.ink]).map(faded)),
            // Letters filled with a picture have no colour that could be reckoned with.
            Some(Brush::Image { .. }) | None => {}
        }
    }
    (!areas.is_empty() && !colors.is_empty()).then_some((areas, colors))
}

/// Colours below a grid of points over the areas, laid over white where the sheet is clear.
fn sample(pixels: &Premultiplied, scene: &Scene, areas: &[(Rect, Affine)]) -> Vec<Color> {
    let (kx, ky) = (f64::from(pixels.width()) / scene.size.width, f64::from(pixels.height()) / scene.size.height);
    let mut out = Vec::new();
    let all: f64 = areas.iter().map(|(area, _)| area.area() * kx * ky).sum();
    let sparse = (POINTS / all.max(1.0)).sqrt().min(1.0);
    for (area, to_sheet) in areas {
        let steps = |length: f64, k: f64| ((length * k * sparse).ceil() as usize).clamp(2, 400);
        let (across, down) = (steps(area.width(), kx), steps(area.height(), ky));
        for row in 0..down {
            for column in 0..across {
                let at = Point::new(
                    area.x0 + area.width() * (column as f64 + 0.5) / across as f64,
                    area.y0 + area.height() * (row as f64 + 0.5) / down as f64,
                );
                let on_sheet = *to_sheet * at;
                let (x, y) = ((on_sheet.x * kx).floor(), (on_sheet.y * ky).floor());
                if x < 0.0 || y < 0.0 || x >= f64::from(pixels.width()) || y >= f64::from(pixels.height()) {
                    continue;
                }
                let start = (y as usize * pixels.width() as usize + x as usize) * 4;
                if let Some([r, g, b, a]) = pixels.data().get(start..start + 4) {
                    let clear = 255 - a;
                    out.push(Color::opaque(r.saturating_add(clear), g.saturating_add(clear), b.saturating_add(clear)));
                }
            }
        }
    }
    out
}

fn over(letters: Rgba, ground: Color) -> Color {
    let mix = |a: u8, b: u8| (f64::from(a) * letters.a + f64::from(b) * (1.0 - letters.a)).round() as u8;
    Color::opaque(mix(letters.r, ground.r), mix(letters.g, ground.g), mix(letters.b, ground.b))
}

/// The same over many grounds: what becomes of each value of a channel is worked out once.
fn over_all(letters: Rgba, grounds: &[Color]) -> Vec<Color> {
    let grey: Vec<Color> = (0..=u8::MAX).map(|v| over(letters, Color::opaque(v, v, v))).collect();
    let mixed = |ground: &Color| {
        let at = |v: u8| grey[usize::from(v)];
        Color::opaque(at(ground.r).r, at(ground.g).g, at(ground.b).b)
    };
    grounds.iter().map(mixed).collect()
}

/// The ratio that the worst twentieth of the area stays under, for the worst colour of the letters.
fn worst(behind: &[Color], letters: &[Rgba]) -> f64 {
    let quantile = |letters: &Rgba| {
        let plain = Color::opaque(letters.r, letters.g, letters.b);
        let mut ratios: Vec<f64> = if letters.a >= 1.0 {
            behind.iter().map(|ground| ground.contrast(plain)).collect()
        } else {
            behind.iter().zip(over_all(*letters, behind)).map(|(ground, seen)| ground.contrast(seen)).collect()
        };
        let at = (ratios.len() as f64 * WORST) as usize;
        if ratios.is_empty() { 1.0 } else { *ratios.select_nth_unstable_by(at, f64::total_cmp).1 }
    };
    letters.iter().map(quantile).fold(21.0, f64::min)
}

/// The colour nearest to that of the letters, of the same hue, that reads at 4.5.
fn recoloured(seen: &Seen) -> Option<Color> {
    let first = seen.letters.first()?;
    let own = Oklab::from(Color::opaque(first.r, first.g, first.b));
    let lighter_or_darker = (1..=100).flat_map(|step| {
        let by = f64::from(step) / 100.0;
        [own.l - by, own.l + by]
    });
    lighter_or_darker
        .filter(|l| (0.0..=1.0).contains(l))
        .map(|l| Oklab { l, ..own }.to_color())
        .find(|color| reads_on(&seen.light, *color))
}

/// Whether no more than the worst twentieth of the grounds, given by their luminance from dark to light, is below 4.5 for letters of a colour.
fn reads_on(light: &[f64], letters: Color) -> bool {
    let own = letters.luminance() + 0.05;
    let (dark, bright) = (own / READS - 0.05, own * READS - 0.05);
    let too_near = light.partition_point(|ground| *ground < bright) - light.partition_point(|ground| *ground <= dark);
    too_near <= (light.len() as f64 * WORST) as usize
}

/// A panel on which the letters read at 4.5, with its opacity: a quiet dark or light that lets a little through, else black or white.
fn panel_for(seen: &Seen) -> Option<(Color, f64)> {
    let (dark, light) = (Color::opaque(0x1c, 0x1a, 0x18), Color::opaque(0xfb, 0xf8, 0xf2));
    [(dark, 0.92), (light, 0.92), (Color::BLACK, 1.0), (Color::WHITE, 1.0)]
        .into_iter()
        .find(|(color, opacity)| shaded(seen, *color, *opacity) >= READS)
}

/// The ratio with a shade of a colour and opacity between letters and ground.
fn shaded(seen: &Seen, shade: Color, opacity: f64) -> f64 {
    let behind = over_all(Rgba::new(shade, opacity), &seen.behind);
    worst(&behind, &seen.letters)
}

/// The faintest shade of black or white through which the letters read at 4.5, and its opacity.
fn shade_for(seen: &Seen) -> Option<(Color, Ratio)> {
    let shade = [Color::BLACK, Color::WHITE]
        .into_iter()
        .max_by(|a, b| worst(&[*a], &seen.letters).total_cmp(&worst(&[*b], &seen.letters)))?;
    least_shade(seen, shade).map(|opacity| (shade, opacity))
}

/// The least opacity at which a shade of a colour makes the letters read.
fn least_shade(seen: &Seen, shade: Color) -> Option<Ratio> {
    SHADES.into_iter().find(|opacity| shaded(seen, shade, opacity.get()) >= SHADED)
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn opaque(color: Color) -> [Rgba; 1] {
        [Rgba::new(color, 1.0)]
    }

    fn color() -> impl Strategy<Value = Color> {
        any::<[u8; 3]>().prop_map(|[r, g, b]| Color::opaque(r, g, b))
    }

    fn seen() -> impl Strategy<Value = Seen> {
        let letters = prop::collection::vec((color(), 0.4..=1.0f64), 1..3);
        (prop::collection::vec(color(), 1..60), letters, any::<bool>()).prop_map(|(behind, letters, large)| {
            let letters = letters.into_iter().map(|(color, a)| Rgba::new(color, a)).collect();
            Seen::new(behind, letters, large)
        })
    }

    #[test]
    fn type_is_large_from_eighteen_points_or_fourteen_and_bold() {
        let large = [(18.0, 400), (24.0, 300), (14.0, 700), (17.9, 900)];
        let small = [(17.9, 400), (13.9, 700), (14.0, 699), (12.0, 900)];
        assert!(large.into_iter().all(|(pt, weight)| is_large(pt, weight)));
        assert!(!small.into_iter().any(|(pt, weight)| is_large(pt, weight)));
    }

    #[test]
    fn a_shade_or_a_panel_is_offered_where_it_helps() {
        let grey = Color::opaque(0xb8, 0xb4, 0xae);
        let white = Seen::new(vec![grey; 40], opaque(Color::WHITE).to_vec(), false);
        let (shade, opacity) = shade_for(&white).unwrap();
        let opacity = opacity.get();
        assert_eq!(shade, Color::BLACK);
        // White on the shaded grey: the ratio can be worked out by hand.
        let dimmed = |v: u8| (f64::from(v) * (1.0 - opacity)).round() as u8;
        let ground = Color::opaque(dimmed(grey.r), dimmed(grey.g), dimmed(grey.b));
        assert!((shaded(&white, shade, opacity) - ground.contrast(Color::WHITE)).abs() < 1e-9);
        assert!(ground.contrast(Color::WHITE) >= SHADED && opacity < 0.6, "{opacity}");
        assert!(panel_for(&white).is_some());
    }

    #[test]
    fn large_areas_are_looked_at_in_about_as_many_points_as_one() {
        let (wide, high) = (1_200u32, 900u32);
        let pixels = Premultiplied::new(wide, high, vec![255; (wide * high * 4) as usize]).unwrap();
        let size = kurbo::Size::new(f64::from(wide), f64::from(high));
        let scene = Scene { size, bleed: 0.0, ground: None, items: Vec::new(), bunches: Vec::new() };
        let whole = Rect::from_origin_size((0.0, 0.0), size);
        let halves = [Rect { x1: size.width / 2.0, ..whole }, Rect { x0: size.width / 2.0, ..whole }];
        for areas in [vec![whole], halves.to_vec()] {
            let areas: Vec<_> = areas.into_iter().map(|area| (area, Affine::IDENTITY)).collect();
            let count = sample(&pixels, &scene, &areas).len() as f64;
            assert!((POINTS * 0.98..POINTS * 1.1).contains(&count), "{count}");
        }
    }

    proptest! {
        /// Only what lies under the areas is seen, all over them, and nothing beyond the sheet.
        #[test]
        fn samples_are_taken_all_over_the_areas_and_nowhere_else(x in -30.0f64..50.0, y in -30.0f64..50.0, w in 4.0f64..60.0, h in 4.0f64..60.0, scale in 0.5f64..2.0) {
            // Each pixel says where it is.
            let (wide, high) = (60u32, 40u32);
            let data = (0..high).flat_map(|y| (0..wide).flat_map(move |x| [x as u8, y as u8, 0, 255])).collect();
            let pixels = Premultiplied::new(wide, high, data).unwrap();
            let size = kurbo::Size::new(f64::from(wide) * scale, f64::from(high) * scale);
            let scene = Scene { size, bleed: 0.0, ground: None, items: Vec::new(), bunches: Vec::new() };
            let area = Rect::new(x, y, x + w, y + h).scale_from_origin(scale);
            let found = sample(&pixels, &scene, &[(area, Affine::IDENTITY)]);
            let seen = Rect::new(x, y, x + w, y + h).intersect(Rect::new(0.0, 0.0, f64::from(wide), f64::from(high)));
            let inside = |c: &Color| seen.contains(Point::new(f64::from(c.r) + 0.5, f64::from(c.g) + 0.5)) || seen.inflate(1.0, 1.0).contains(Point::new(f64::from(c.r) + 0.5, f64::from(c.g) + 0.5));
            prop_assert!(found.iter().all(inside));
            // As many as of the same area on a sheet that holds it, by the share that is on this one.
            let around = Scene { size: kurbo::Size::new(size.width * 9.0, size.height * 9.0), ..scene };
            let pixels = Premultiplied::new(wide * 9, high * 9, vec![255; (wide * high * 324) as usize]).unwrap();
            let all = sample(&pixels, &around, &[(area, Affine::translate((120.0, 120.0)))]).len() as f64;
            let share = seen.area() / (w * h);
            prop_assert!((found.len() as f64 - all * share).abs() <= 3.0 * (w + h), "{} of {all} for {share}", found.len());
            if seen.width() >= 2.0 && seen.height() >= 2.0 {
                let edge = |of: fn(&Color) -> u8| (found.iter().map(of).min().unwrap(), found.iter().map(of).max().unwrap());
                let (left, right) = edge(|c| c.r);
                let (top, bottom) = edge(|c| c.g);
                prop_assert!(f64::from(left) <= seen.x0 + 1.5 && f64::from(right) >= seen.x1 - 2.5, "{left} to {right} of {seen:?}");
                prop_assert!(f64::from(top) <= seen.y0 + 1.5 && f64::from(bottom) >= seen.y1 - 2.5, "{top} to {bottom} of {seen:?}");
            }
        }

        /// At least nineteen twentieths of the ground reads as well as said for each colour of the letters, and somewhere no better.
        #[test]
        fn the_figure_is_what_the_worst_twentieth_stays_under(seen in seen()) {
            let ratio = worst(&seen.behind, &seen.letters);
            let worse = |letters: &Rgba| {
                seen.behind.iter().filter(|ground| ground.contrast(over(*letters, **ground)) < ratio).count()
            };
            let allowed = (seen.behind.len() as f64 * WORST) as usize;
            prop_assert!(seen.letters.iter().all(|letters| worse(letters) <= allowed));
            let reached = |letters: &Rgba| {
                seen.behind.iter().filter(|ground| ground.contrast(over(*letters, **ground)) <= ratio).count() > allowed
            };
            prop_assert!(seen.letters.iter().any(reached));
        }

        #[test]
        fn letters_that_let_through_lie_between_their_colour_and_the_ground(letters in color(), ground in color(), a in 0.0..=1.0f64) {
            let seen = over(Rgba::new(letters, a), ground);
            for (own, below, mixed) in [(letters.r, ground.r, seen.r), (letters.g, ground.g, seen.g), (letters.b, ground.b, seen.b)] {
                let exact = f64::from(own) * a + f64::from(below) * (1.0 - a);
                prop_assert!((f64::from(mixed) - exact).abs() <= 0.5);
            }
        }

        /// Letters read where the figure says so.
        #[test]
        fn a_colour_reads_as_the_figure_says(seen in seen(), letters in color()) {
            let ratio = worst(&seen.behind, &opaque(letters));
            prop_assume!((ratio - READS).abs() > 1e-9);
            prop_assert_eq!(reads_on(&seen.light, letters), ratio >= READS);
        }

        /// The shade that is offered reads, none fainter does, and none is offered only where not even the strongest helps.
        #[test]
        fn a_shade_is_as_faint_as_will_do(seen in seen()) {
            match shade_for(&seen) {
                Some((shade, opacity)) => {
                    let step = SHADES.iter().position(|own| *own == opacity).unwrap();
                    prop_assert!(shaded(&seen, shade, opacity.get()) >= SHADED);
                    prop_assert!(SHADES[..step].iter().all(|fainter| shaded(&seen, shade, fainter.get()) < SHADED));
                }
                None => {
                    let strongest = SHADES[SHADES.len() - 1].get();
                    let better = worst(&[Color::BLACK], &seen.letters).max(worst(&[Color::WHITE], &seen.letters));
                    let helps = |color| shaded(&seen, color, strongest) >= SHADED && worst(&[color], &seen.letters) >= better;
                    prop_assert!(!helps(Color::BLACK) || !helps(Color::WHITE));
                }
            }
        }

        /// What is recoloured reads, keeps its hue, and no colour of it that is nearer does.
        #[test]
        fn a_new_colour_is_the_nearest_of_its_hue_that_reads(seen in seen()) {
            let first = seen.letters[0];
            let own = Oklab::from(Color::opaque(first.r, first.g, first.b));
            let reads = |l: f64| (0.0..=1.0).contains(&l) && worst(&seen.behind, &opaque(Oklab { l, ..own }.to_color())) >= READS;
            let nearest = (1..=100).find(|step| reads(own.l - f64::from(*step) / 100.0) || reads(own.l + f64::from(*step) / 100.0));
            prop_assert_eq!(recoloured(&seen).is_some(), nearest.is_some());
            if let (Some(color), Some(step)) = (recoloured(&seen), nearest) {
                prop_assert!(worst(&seen.behind, &opaque(color)) >= READS);
                let by = f64::from(step) / 100.0;
                let stands = [own.l - by, own.l + by].map(|l| Oklab { l, ..own }.to_color());
                prop_assert!(stands.contains(&color));
            }
        }

        #[test]
        fn a_panel_that_is_offered_reads_and_lets_through_where_it_may(seen in seen()) {
            let found = panel_for(&seen);
            prop_assert!(found.is_none_or(|(color, opacity)| shaded(&seen, color, opacity) >= READS && opacity > 0.9));
            let plain = [Color::BLACK, Color::WHITE].iter().any(|color| shaded(&seen, *color, 1.0) >= READS);
            prop_assert!(found.is_some() || !plain);
        }
    }
}
