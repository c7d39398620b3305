//! Setting text: shaping, breaking, fitting and aligning, once, into positioned glyphs.

use std::ops::Range;
use std::sync::atomic::{AtomicUsize, Ordering};
use std::sync::{Arc, Mutex, PoisonError, RwLock};

use kurbo::{BezPath, Rect};
use parley::style::{FontFamily, FontFamilyName, FontStyle, FontWeight, LineHeight, StyleProperty};
use parley::{Affinity, Alignment, AlignmentOptions, Cursor, FontContext, GenericFamily, Layout, LayoutContext};
use quick_cache::sync::Cache;
use vatman_document::{Align, Curve, Forms, ListMark, RichText, RunStyle, Script, TextFit, TypeLook, VAlign};

use crate::blocks::{Measured, ink, stacked};
use crate::curve::{Bent, Straight};
use crate::fit::largest;
use crate::glyphs::{Caret, Glyph, GlyphRun, Line};
use crate::hyphens::SOFT;
use crate::lockup::{Arrangement, plan};
use crate::measure::{SHAPED, Shaped, ShapedKey};
use crate::shown::Shown;
use crate::{FontLibrary, GlyphOutlines as _};

/// Index into the styles of one text; parley calls it a brush.
pub(crate) type Style = usize;

/// The box text is set in.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct TextBox {
    /// Width, in CSS pixels.
    pub width: f64,
    /// Height, in CSS pixels; grown text ignores it.
    pub height: f64,
    /// Scale of the look's lengths.
    pub scale: f64,
}

/// Text laid out.
#[derive(Debug, Clone, PartialEq)]
pub struct Setting {
    /// Glyphs in visual order, line by line.
    pub runs: Vec<GlyphRun>,
    /// What each line says, in the order it is read: marks of lists included, a soft hyphen where a word is divided.
    pub says: Vec<String>,
    /// Lines from top to bottom.
    pub lines: Vec<Line>,
    /// Size of type of the whole after fitting.
    pub size: f64,
    /// Height of the lines together.
    pub height: f64,
    /// Left edge of the block in its box; 0 but for text broken as typed.
    pub left: f64,
    /// Width of the block: that of the box but for text broken as typed.
    pub width: f64,
    /// Whether it is larger than its box.
    pub spills: bool,
    /// Places of the caret, where asked for.
    pub carets: Vec<Caret>,
    /// Rules that belong to the arrangement.
    pub rules: Vec<Rect>,
    /// Panels of a lock-up, below the letters that stand on them, in the colour of the words.
    pub panels: Vec<BezPath>,
}

struct Scratch {
    fonts: FontContext,
    layouts: LayoutContext<Style>,
}

/// Sets text in the families of a library. Cheap to share; each call borrows scratch memory from a pool.
pub struct Typesetter {
    library: RwLock<Arc<FontLibrary>>,
    pool: Mutex<Vec<Scratch>>,
    kept: Cache<Key, Arc<Setting>>,
    /// Texts shaped for measuring.
    pub(crate) shapes: Cache<ShapedKey, Arc<Mutex<Shaped>>>,
    misses: AtomicUsize,
}

/// Recent settings that are kept.
const KEPT: usize = 4_000;

/// What a setting depends on; lengths by their bits.
type Key = (RichText, TypeLook, [u64; 3], bool);

impl Typesetter {
    /// A typesetter for a library.
    #[must_use]
    pub fn new(library: Arc<FontLibrary>) -> Self {
        Self {
            library: RwLock::new(library),
            pool: Mutex::new(Vec::new()),
            kept: Cache::new(KEPT),
            shapes: Cache::new(SHAPED),
            misses: AtomicUsize::new(0),
        }
    }

    /// The families it sets in.
    #[must_use]
    pub fn library(&self) -> Arc<FontLibrary> {
        Arc::clone(&self.library.read().unwrap_or_else(PoisonError::into_inner))
    }

    /// Sets in other families from now on; those it had before keep their identities in the new library.
    pub fn set_library(&self, library: Arc<FontLibrary>) {
        *self.library.write().unwrap_or_else(PoisonError::into_inner) = library;
        // Contexts and settings made with the families there were.
        self.pool.lock().unwrap_or_else(PoisonError::into_inner).clear();
        self.kept.clear();
        self.shapes.clear();
    }

    /// The families a text asks for that are not at hand; [`FontLibrary::STAND_IN`] stands in for them.
    #[must_use]
    pub fn missing(&self, text: &RichText, look: &TypeLook) -> Vec<String> {
        let library = self.library();
        let ranges = text.runs().iter().filter_map(|run| run.style.family.as_ref());
        let mut missing: Vec<String> =
            std::iter::once(&look.family).chain(ranges).filter(|name| !library.has(name)).cloned().collect();
        missing.sort();
        missing.dedup();
        missing
    }

    /// How often text had to be laid out because no recent setting was the same.
    #[must_use]
    pub fn misses(&self) -> usize {
        self.misses.load(Ordering::Relaxed)
    }

    /// As [`Self::set`], from recent settings where the same was asked before.
    #[must_use]
    pub fn set_cached(&self, text: &RichText, look: &TypeLook, within: TextBox, with_carets: bool) -> Arc<Setting> {
        let key =
            (text.clone(), look.clone(), [within.width, within.height, within.scale].map(f64::to_bits), with_carets);
        if let Some(found) = self.kept.get(&key) {
            return found;
        }
        let library = self.library();
        self.misses.fetch_add(1, Ordering::Relaxed);
        let setting = Arc::new(self.set(text, look, within, with_carets));
        // What was set in families that have changed meanwhile is not kept.
        if Arc::ptr_eq(&library, &self.library()) {
            self.kept.insert(key, Arc::clone(&setting));
        }
        setting
    }

    /// Sets text in a box. An unknown family is set in the first of the catalogue.
    ///
    /// The text is shaped once at the look's size; other sizes are the same layout scaled, so fitting only breaks lines again.
    #[must_use]
    pub fn set(&self, text: &RichText, look: &TypeLook, within: TextBox, with_carets: bool) -> Setting {
        let shown = Shown::new(text, look);
        let base = look.size.to_css_px();
        let layout = self.shape(&shown, look, base);
        if let Some(arrangement) =
            look.lock_up.and_then(Arrangement::numbered).filter(|_| !text.is_blank() && within.width > 0.0)
        {
            return self.set_locked(text, look, arrangement, within, with_carets);
        }
        match look.curve {
            Some(curve) => self.set_curved(layout, &shown, (look, curve), within, with_carets),
            None => self.set_straight(layout, &shown, look, within, with_carets),
        }
    }

    fn set_straight(
        &self,
        mut layout: Layout<Style>,
        shown: &Shown,
        look: &TypeLook,
        within: TextBox,
        with_carets: bool,
    ) -> Setting {
        let base = look.size.to_css_px();
        let set_size = base * within.scale;
        let marks = self.marks(shown, look, base);
        let indent = marks.iter().map(|(_, width)| *width).fold(0.0, f64::max);
        let gaps = shown.paragraphs.len().saturating_sub(1) as f64 * look.paragraph_gap.get() * base;
        let width = within.width.max(0.0);
        let hang = self.hang(&mut layout, shown);
        let room = |factor: f64| (width / factor - indent - hang).max(0.0);

        let mut holds = |size: f64| {
            let factor = size / base;
            layout.break_all_lines(Some(room(factor) as f32));
            // A hair of tolerance: single precision sums differ in the last digits.
            (f64::from(layout.height()) + gaps) * factor <= within.height + 0.01
                && widest(&layout) <= room(factor) + 0.01 / factor
        };
        let (size, fits) = match look.fit {
            TextFit::Grow | TextFit::AsTyped => (set_size, true),
            TextFit::Widen { floor } => {
                layout.break_all_lines(None);
                let taken = (widest(&layout) + indent + hang) * set_size / base;
                // A hair less than fits, so that rounding never breaks the line.
                let share = if taken > width { (width / taken * (1.0 - 1e-6)).max(floor.get()) } else { 1.0 };
                (set_size * share, true)
            }
            TextFit::Shrink { floor } => largest(set_size * floor.get(), set_size, &mut holds),
            TextFit::Fill { floor } => largest(
                set_size * floor.get(),
                (within.height / look.leading.get()).max(set_size * floor.get()),
                &mut holds,
            ),
        };
        let factor = size / base;
        let hugs = look.fit.hugs();
        let across = if hugs {
            layout.break_all_lines(None);
            if look.fit != TextFit::AsTyped && widest(&layout) > room(factor) + 1e-3 {
                let even = even_width(&mut layout, room(factor));
                layout.break_all_lines(Some(even as f32));
            }
            widest(&layout)
        } else if look.even && look.align != Align::Justified {
            even_width(&mut layout, room(factor))
        } else {
            room(factor)
        };
        if !hugs {
            layout.break_all_lines(Some(across as f32));
        }
        // Evened lines are set in a narrower box, which stands in the full one as the lines stand in it.
        let share = match look.align {
            Align::Start | Align::Justified => 0.0,
            Align::Centre => 0.5,
            Align::End => 1.0,
        };
        let taken = (across + indent + hang) * factor;
        let block = if hugs { taken } else { width };
        let right = (block - taken) * share + indent * factor;
        let alignment = match look.align {
            Align::Start => Alignment::Start,
            Align::Centre => Alignment::Center,
            Align::End => Alignment::End,
            Align::Justified => Alignment::Justify,
        };
        layout.align(alignment, AlignmentOptions { align_when_overflowing: true, ..AlignmentOptions::default() });
        let height = (f64::from(layout.height()) + gaps) * factor;
        let grows = look.fit.grows();
        let down = match look.valign {
            _ if grows => 0.0,
            VAlign::Top => 0.0,
            VAlign::Middle => (within.height - height) / 2.0,
            VAlign::Bottom => within.height - height,
        };
        let map = Map { factor, right, down, gap: look.paragraph_gap.get() * size };
        let wide = widest(&layout) * factor;
        let lines = lines(&layout, shown, map);
        let mut says = says(&layout, shown);
        let mut runs = placed_marks(marks, &layout, shown, &lines, factor, indent);
        for mark in runs.iter().rev() {
            says[mark.line].insert_str(0, &format!("{} ", mark.text));
        }
        runs.extend(self.runs(&layout, shown, look, map));
        runs.sort_by_key(|run| run.line);
        Setting {
            runs,
            says,
            lines,
            size,
            height,
            left: if hugs { (width - block) * share } else { 0.0 },
            width: block,
            spills: !fits || (!grows && wide > width - indent * factor + 0.5),
            carets: if with_carets { carets(&layout, shown, map) } else { Vec::new() },
            rules: Vec::new(),
            panels: Vec::new(),
        }
    }

    /// One line, bent. Sizes that must fit are the largest at which the curve holds the line.
    fn set_curved(
        &self,
        mut layout: Layout<Style>,
        shown: &Shown,
        (look, curve): (&TypeLook, Curve),
        within: TextBox,
        with_carets: bool,
    ) -> Setting {
        let base = look.size.to_css_px();
        let set_size = base * within.scale;
        layout.break_all_lines(None);
        layout.align(Alignment::Start, AlignmentOptions::default());
        let runs = layout.lines().next().into_iter().flat_map(|line| {
            line.runs().map(|run| (run.font_metrics().ascent, run.font_metrics().descent)).collect::<Vec<_>>()
        });
        let (ascent, descent) =
            runs.fold((0.0, 0.0), |(up, down), run| (f64::max(up, f64::from(run.0)), f64::max(down, f64::from(run.1))));
        let length = widest(&layout);
        let bend = |size: f64| {
            let factor = size / base;
            Bent::new(
                curve,
                Straight { length: length * factor, ascent: ascent * factor, descent: descent * factor },
                within.width,
                within.height,
            )
        };
        let holds = |size: f64| {
            let bent = bend(size);
            !bent.spills && bent.height <= within.height + 0.01
        };
        let (size, _) = match look.fit {
            TextFit::Grow | TextFit::AsTyped | TextFit::Widen { .. } => (set_size, true),
            TextFit::Shrink { floor } => largest(set_size * floor.get(), set_size, holds),
            TextFit::Fill { floor } => {
                largest(set_size * floor.get(), within.height.max(set_size * floor.get()), holds)
            }
        };
        let bent = bend(size);
        let map = Map { factor: size / base, right: 0.0, down: 0.0, gap: 0.0 };
        let baseline = layout.lines().next().map_or(0.0, |line| map.y(line.metrics().baseline));
        let mut runs = self.runs(&layout, shown, look, map);
        bent.place(&mut runs, 0.0, baseline);
        let carets = if with_carets {
            carets(&layout, shown, map).into_iter().map(|caret| bent.caret(caret, 0.0)).collect()
        } else {
            Vec::new()
        };
        Setting {
            runs,
            says: says(&layout, shown),
            lines: Vec::new(),
            size,
            height: bent.height,
            left: 0.0,
            width: within.width,
            spills: bent.spills,
            carets,
            rules: Vec::new(),
            panels: Vec::new(),
        }
    }

    /// A phrase as one block: each line by itself, scaled to the width and stacked by its ink.
    fn set_locked(
        &self,
        text: &RichText,
        look: &TypeLook,
        arrangement: &Arrangement,
        within: TextBox,
        with_carets: bool,
    ) -> Setting {
        let typed = text.text();
        let library = self.library();
        let planned = plan(text, look, arrangement, |family| library.has(family));
        let mut drawn = Vec::new();
        for line in &planned {
            let part = text.part(line.range.clone());
            let own = self.set(&part, &line.look, TextBox { width: 1.0, height: 1.0, scale: 1.0 }, with_carets);
            let mut path = BezPath::new();
            for run in &own.runs {
                for glyph in &run.glyphs {
                    let place = glyph.transform(run.size);
                    path.extend(library.glyph(run.face, glyph.id).iter().map(|element| place * element));
                }
            }
            drawn.push((own, Measured { ink: ink(&path), small: line.small }));
        }
        let (measured, settings): (Vec<_>, Vec<_>) =
            drawn.into_iter().map(|(setting, measured)| (measured, setting)).unzip();
        let mut block = stacked(&measured, arrangement, within.width);
        let mut shift = (0.0, 0.0);
        if matches!(look.fit, TextFit::Shrink { .. } | TextFit::Fill { .. }) && within.height > 0.0 {
            if block.height > within.height {
                // A block is as high as it is wide by a fixed share, but for rounding.
                let width = within.width * within.height / block.height;
                block = stacked(&measured, arrangement, width);
                shift.0 = (within.width - width)
                    * match look.align {
                        Align::Start | Align::Justified => 0.0,
                        Align::Centre => 0.5,
                        Align::End => 1.0,
                    };
            }
            shift.1 = (within.height - block.height)
                * match look.valign {
                    VAlign::Top => 0.0,
                    VAlign::Middle => 0.5,
                    VAlign::Bottom => 1.0,
                };
        }
        for place in &mut block.places {
            (place.left, place.top) = (place.left + shift.0, place.top + shift.1);
        }
        let by = kurbo::Vec2::from(shift);
        let rules = block.rules.into_iter().map(|rule| rule + by).collect();
        let panels = block.panels.into_iter().map(|panel| kurbo::Affine::translate(by) * panel).collect();
        let mut out = Setting {
            runs: Vec::new(),
            says: Vec::new(),
            lines: Vec::new(),
            size: 0.0,
            height: block.height,
            left: 0.0,
            width: within.width,
            spills: false,
            carets: Vec::new(),
            rules,
            panels,
        };
        for (((setting, place), measured), line) in settings.into_iter().zip(block.places).zip(&measured).zip(&planned)
        {
            let (dx, dy) = (place.left - measured.ink.x0 * place.scale, place.top - measured.ink.y0 * place.scale);
            let at = |x: f64, y: f64| (x * place.scale + dx, y * place.scale + dy);
            out.size = out.size.max(setting.size * place.scale);
            out.lines.push(Line {
                x: place.left,
                width: measured.ink.width() * place.scale,
                top: place.top,
                baseline: at(0.0, setting.lines.first().map_or(0.0, |line| line.baseline)).1,
                bottom: place.top + measured.ink.height() * place.scale,
            });
            for mut run in setting.runs {
                run.line += out.says.len();
                run.on_panel = place.on_panel;
                run.size *= place.scale;
                run.bars.iter_mut().for_each(|bar| *bar = (bar.0 * place.scale, bar.1 * place.scale));
                for glyph in &mut run.glyphs {
                    (glyph.x, glyph.y) = at(glyph.x, glyph.y);
                    glyph.advance *= place.scale;
                }
                out.runs.push(run);
            }
            out.says.extend(setting.says);
            let before = typed[..line.range.start].encode_utf16().count();
            out.carets.extend(setting.carets.into_iter().map(|caret| {
                let (x, top) = at(caret.x, caret.top);
                Caret { at: caret.at + before, x, top, bottom: at(0.0, caret.bottom).1, turn: caret.turn }
            }));
        }
        out
    }

    /// The marks of a list with the room each takes, in order of the paragraphs; none where it is not a list.
    pub(crate) fn marks(&self, shown: &Shown, look: &TypeLook, base: f64) -> Vec<(Vec<GlyphRun>, f64)> {
        let mut number = 0;
        let mark = |paragraph: &Range<usize>| {
            let blank = shown.text[paragraph.clone()].trim().is_empty();
            number += usize::from(!blank);
            let text = match look.list {
                _ if blank => String::new(),
                ListMark::Number => format!("{number}."),
                _ => "\u{2022}".to_owned(),
            };
            let plain = TypeLook { list: ListMark::None, ..look.clone() };
            let shown = Shown::new(&RichText::plain(&text), &plain);
            let mut layout = self.shape(&shown, &plain, base);
            layout.break_all_lines(None);
            let width = widest(&layout) + base * 0.5;
            (self.runs(&layout, &shown, &plain, Map { factor: 1.0, right: 0.0, down: 0.0, gap: 0.0 }), width)
        };
        if look.list == ListMark::None { Vec::new() } else { shown.paragraphs.iter().map(mark).collect() }
    }

    /// Room kept free beside the lines for hyphens, at the base size; 0 where no word can be divided.
    pub(crate) fn hang(&self, layout: &mut Layout<Style>, shown: &Shown) -> f64 {
        if shown.soft().next().is_none() {
            return 0.0;
        }
        layout.break_all_lines(None);
        let library = self.library();
        let run = |run: parley::Run<'_, Style>| {
            library
                .face_of(run.font().data.id())
                .and_then(|face| library.hyphen(face))
                .map_or(0.0, |(_, advance)| advance * f64::from(run.font_size()))
        };
        layout.lines().flat_map(|line| line.runs().map(run).collect::<Vec<_>>()).fold(0.0, f64::max)
    }

    pub(crate) fn shape(&self, shown: &Shown, look: &TypeLook, base: f64) -> Layout<Style> {
        let library = self.library();
        let mut scratch = self
            .pool
            .lock()
            .unwrap_or_else(PoisonError::into_inner)
            .pop()
            .unwrap_or_else(|| Scratch { fonts: library.context(), layouts: LayoutContext::new() });
        let mut builder = scratch.layouts.ranged_builder(&mut scratch.fonts, &shown.text, 1.0, false);
        builder.push_default(StyleProperty::FontFamily(stack(&library, &look.family)));
        builder.push_default(StyleProperty::FontSize(base as f32));
        builder.push_default(StyleProperty::FontWeight(FontWeight::new(f32::from(look.weight))));
        builder.push_default(StyleProperty::FontStyle(slant(look.italic)));
        builder.push_default(StyleProperty::LineHeight(LineHeight::FontSizeRelative(look.leading.get() as f32)));
        builder.push_default(StyleProperty::LetterSpacing((look.tracking.get() * base) as f32));
        let features = features(look.forms);
        if !features.is_empty() {
            builder.push_default(StyleProperty::FontFeatures(features.as_str().into()));
        }
        for (index, (range, style)) in shown.runs.iter().enumerate() {
            builder.push(StyleProperty::Brush(index), range.clone());
            if let Some(family) = &style.family {
                builder.push(StyleProperty::FontFamily(stack(&library, family)), range.clone());
            }
            if let Some(weight) = style.weight {
                builder.push(StyleProperty::FontWeight(FontWeight::new(f32::from(weight))), range.clone());
            }
            if let Some(italic) = style.italic {
                builder.push(StyleProperty::FontStyle(slant(italic)), range.clone());
            }
            let size = style.size.map_or(1.0, vatman_units::Ratio::get)
                * if style.script.is_some() { SCRIPT_SIZE } else { 1.0 };
            if (size - 1.0).abs() > 1e-9 || style.tracking.is_some() {
                let tracking = style.tracking.unwrap_or(look.tracking).get();
                builder.push(StyleProperty::FontSize((base * size) as f32), range.clone());
                builder.push(StyleProperty::LetterSpacing((tracking * base * size) as f32), range.clone());
            }
        }
        if look.tracking.get() != 0.0 || shown.runs.iter().any(|(_, style)| style.tracking.is_some()) {
            // What is not seen takes no room either.
            shown.soft().for_each(|range| builder.push(StyleProperty::LetterSpacing(0.0), range));
        }
        let layout = builder.build(&shown.text);
        self.pool.lock().unwrap_or_else(PoisonError::into_inner).push(scratch);
        layout
    }

    fn runs(&self, layout: &Layout<Style>, shown: &Shown, look: &TypeLook, map: Map) -> Vec<GlyphRun> {
        let mut out: Vec<GlyphRun> = Vec::new();
        let library = self.library();
        for (index, line) in layout.lines().enumerate() {
            let first = line.items().find_map(|item| {
                if let parley::PositionedLayoutItem::GlyphRun(run) = item { Some(run.offset()) } else { None }
            });
            let mut x = map.x(first.unwrap_or(0.0));
            let y = map.y(line.metrics().baseline) + map.gap * shown.paragraph_at(line.text_range().start) as f64;
            for run in line.runs() {
                let Some(face) = library.face_of(run.font().data.id()) else { continue };
                let size = f64::from(run.font_size()) * map.factor;
                let metrics = run.font_metrics();
                let mut open: Option<(usize, GlyphRun)> = None;
                let mut rise = 0.0;
                for cluster in run.visual_clusters() {
                    let style = layout.styles()[usize::from(cluster.style_index())].brush;
                    if open.as_ref().is_none_or(|(current, _)| *current != style) {
                        out.extend(open.take().map(|(_, run)| run));
                        let own = shown.runs.get(style).map(|(_, style)| style);
                        rise = lift(own) * look.size.to_css_px() * map.factor;
                        let bar =
                            |offset: f32, thick: f32| (-f64::from(offset) * map.factor, f64::from(thick) * map.factor);
                        let under = own
                            .and_then(|style| style.underline)
                            .unwrap_or(look.underline)
                            .then(|| bar(metrics.underline_offset, metrics.underline_size));
                        let through = own
                            .and_then(|style| style.strike)
                            .unwrap_or(look.strike)
                            .then(|| bar(metrics.strikethrough_offset, metrics.strikethrough_size));
                        open = Some((
                            style,
                            GlyphRun {
                                on_panel: false,
                                face,
                                size,
                                tint: own.and_then(|style| style.tint.clone()),
                                line: index,
                                spaced: !run.is_rtl()
                                    && own.and_then(|style| style.tracking).unwrap_or(look.tracking).get() > SPACED,
                                text: String::new(),
                                glyphs: Vec::new(),
                                bars: under.into_iter().chain(through).collect(),
                            },
                        ));
                    }
                    let Some((_, current)) = &mut open else { continue };
                    let letters = shown.text.get(cluster.text_range()).unwrap_or_default().trim_end_matches('\n');
                    let divided = letters.starts_with(SOFT);
                    let ends_line = cluster.text_range().end == line.text_range().end;
                    if divided && !ends_line {
                        continue;
                    }
                    let from = current.text.len();
                    current.text.push_str(letters);
                    let range = from..current.text.len();
                    if cluster.is_ligature_continuation() {
                        if let Some(last) = current.glyphs.last_mut() {
                            last.text.end = range.end;
                        }
                        continue;
                    }
                    if letters.is_empty() {
                        continue;
                    }
                    if divided {
                        // The word goes on in the next line; the hyphen hangs in the room kept for it.
                        if let Some((id, advance)) = library.hyphen(face) {
                            current.glyphs.push(Glyph {
                                id,
                                x,
                                y: y - rise,
                                advance: advance * size,
                                turn: 0.0,
                                text: range,
                            });
                        }
                        continue;
                    }
                    // Of a letter in pieces the widest stands for it; dots and marks say nothing by themselves.
                    let advances = || cluster.glyphs().map(|glyph| glyph.advance);
                    let widest = advances().fold(f32::MIN, f32::max);
                    let speaks = advances().position(|advance| advance >= widest);
                    for (piece, glyph) in cluster.glyphs().enumerate() {
                        let advance = f64::from(glyph.advance) * map.factor;
                        let (dx, dy) = (f64::from(glyph.x) * map.factor, f64::from(glyph.y) * map.factor);
                        let text = match Some(piece).cmp(&speaks) {
                            std::cmp::Ordering::Less => range.start..range.start,
                            std::cmp::Ordering::Equal => range.clone(),
                            std::cmp::Ordering::Greater => range.end..range.end,
                        };
                        current.glyphs.push(Glyph {
                            id: glyph.id,
                            x: x + dx,
                            y: y + dy - rise,
                            advance,
                            turn: 0.0,
                            text,
                        });
                        x += advance;
                    }
                }
                out.extend(open.map(|(_, run)| run));
            }
        }
        out.retain(|run| !run.glyphs.is_empty());
        out
    }
}

/// Spacing beyond which gaps between letters could be taken for spaces, in sizes.
const SPACED: f64 = 0.05;

/// Size of raised and lowered letters relative to their line.
const SCRIPT_SIZE: f64 = 0.62;

/// How far a range is raised, in sizes of the whole.
fn lift(style: Option<&RunStyle>) -> f64 {
    match style.and_then(|style| style.script) {
        Some(Script::Superscript) => 0.34,
        Some(Script::Subscript) => -0.14,
        None => 0.0,
    }
}

/// The forms asked for, as a list of OpenType features.
fn features(forms: Forms) -> String {
    let wanted = [
        (forms.small_caps, "\"smcp\" 1"),
        (forms.tabular, "\"tnum\" 1"),
        (forms.old_figures, "\"onum\" 1"),
        (forms.no_ligatures, "\"liga\" 0, \"clig\" 0"),
    ];
    wanted.into_iter().filter_map(|(on, feature)| on.then_some(feature)).collect::<Vec<_>>().join(", ")
}

pub(crate) fn widest(layout: &Layout<Style>) -> f64 {
    layout.lines().map(|line| f64::from(line.metrics().advance - line.metrics().hanging_advance)).fold(0.0, f64::max)
}

/// What each line says, as typed; of soft hyphens only the one a line ends with, which is seen.
fn says(layout: &Layout<Style>, shown: &Shown) -> Vec<String> {
    let line = |line: parley::Line<'_, Style>| {
        let text = shown.text.get(line.text_range()).unwrap_or_default().trim();
        let whole: String = text.chars().filter(|letter| *letter != SOFT).collect();
        if text.ends_with(SOFT) { whole + "\u{ad}" } else { whole }
    };
    layout.lines().map(line).collect()
}

/// Puts the marks of a list before the first line of each paragraph.
fn placed_marks(
    marks: Vec<(Vec<GlyphRun>, f64)>,
    layout: &Layout<Style>,
    shown: &Shown,
    lines: &[Line],
    factor: f64,
    indent: f64,
) -> Vec<GlyphRun> {
    let mut out = Vec::new();
    for (paragraph, (runs, _)) in marks.into_iter().enumerate() {
        let first = layout
            .lines()
            .zip(lines)
            .enumerate()
            .find(|(_, (line, _))| shown.paragraph_at(line.text_range().start) == paragraph);
        let Some((index, (_, line))) = first else { continue };
        let shift = runs.first().and_then(|run| run.glyphs.first()).map_or(0.0, |glyph| glyph.y);
        for mut run in runs {
            run.line = index;
            run.size *= factor;
            for bar in &mut run.bars {
                *bar = (bar.0 * factor, bar.1 * factor);
            }
            for glyph in &mut run.glyphs {
                glyph.x = glyph.x * factor + line.x - indent * factor;
                glyph.y = (glyph.y - shift) * factor + line.baseline;
                glyph.advance *= factor;
            }
            out.push(run);
        }
    }
    out
}

/// The least width at which the text needs no more lines than at `width`: lines of like length, and no word left alone
/// at the end of a paragraph that could have company.
fn even_width(layout: &mut Layout<Style>, width: f64) -> f64 {
    let mut breaks = |width: f64| {
        layout.break_all_lines(Some(width as f32));
        let widest =
            layout.lines().map(|line| line.metrics().advance - line.metrics().hanging_advance).fold(0.0, f32::max);
        (layout.len(), f64::from(widest))
    };
    let (lines, widest) = breaks(width);
    if !(2..=40).contains(&lines) || widest > width {
        return width;
    }
    let (mut low, mut high) = (widest / lines as f64, widest);
    while high - low > width * 1e-3 {
        let middle = f64::midpoint(low, high);
        let (needed, reach) = breaks(middle);
        if needed <= lines && reach <= middle { high = middle } else { low = middle }
    }
    // A hair more, so that rounding never breaks a line that just fitted.
    (high + width * 1e-3).min(width)
}

#[derive(Clone, Copy)]
struct Map {
    factor: f64,
    right: f64,
    down: f64,
    /// Extra before each further paragraph.
    gap: f64,
}

impl Map {
    fn x(self, value: f32) -> f64 {
        f64::from(value) * self.factor + self.right
    }

    fn y(self, value: f32) -> f64 {
        f64::from(value) * self.factor + self.down
    }
}

/// A family that is at hand, and what stands in for what it lacks or for all of it.
fn stack<'a>(library: &FontLibrary, family: &'a str) -> FontFamily<'a> {
    let named = library.has(family).then(|| FontFamilyName::named(family));
    FontFamily::List(
        named.into_iter().chain([FontFamilyName::Generic(GenericFamily::SansSerif)]).collect::<Vec<_>>().into(),
    )
}

fn slant(italic: bool) -> FontStyle {
    if italic { FontStyle::Italic } else { FontStyle::Normal }
}

fn lines(layout: &Layout<Style>, shown: &Shown, map: Map) -> Vec<Line> {
    let line = |line: parley::Line<'_, Style>| {
        let m = line.metrics();
        let down = map.gap * shown.paragraph_at(line.text_range().start) as f64;
        Line {
            x: map.x(m.offset),
            width: f64::from(m.advance - m.hanging_advance) * map.factor,
            top: map.y(m.block_min_coord) + down,
            baseline: map.y(m.baseline) + down,
            bottom: map.y(m.block_max_coord) + down,
        }
    };
    layout.lines().map(line).collect()
}

fn carets(layout: &Layout<Style>, shown: &Shown, map: Map) -> Vec<Caret> {
    let caret = |&(byte, at): &(usize, usize)| {
        let place = Cursor::from_byte_index(layout, byte, Affinity::Downstream).geometry(layout, 0.0);
        let down = map.gap * shown.paragraph_at(byte) as f64;
        Caret {
            at,
            x: map.x(place.x0 as f32),
            top: map.y(place.y0 as f32) + down,
            bottom: map.y(place.y1 as f32) + down,
            turn: 0.0,
        }
    };
    shown.stops.iter().map(caret).collect()
}
