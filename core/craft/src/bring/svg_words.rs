//! Words of an SVG file that stay words: what they say, how they are set, and where they stand among the rest of the drawing.

use kurbo::Affine;
use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_document::{
    Align, Color, Command, Content, Drawing, GroupId, IdSource, Item, ItemId, Job, Kin, KinId, Look, Paint, Part,
    Piece, Place, RichText, Run, RunStyle, Side, TextFit, Tint, TypeLook,
};
use vatman_type::{FontLibrary, TextBox, Typesetter};
use vatman_units::{Angle, Length, Placement, Ratio, Rect, Size};

use crate::arrange::add::{free_place, third_of};
use crate::studio::Studio;

/// One layer of a file, from the back to the front.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(tag = "kind", rename_all = "camelCase", deny_unknown_fields)]
#[allow(clippy::large_enum_variant, reason = "a few at a time")]
pub enum Layer {
    /// Shapes, in the box of the whole file.
    Drawing {
        /// The shapes.
        drawing: Drawing,
    },
    /// Words.
    Words {
        /// The words.
        words: FileWords,
    },
}

/// Words of a file, measured in the units of its drawing.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct FileWords {
    /// What they say, with what single ranges have of their own.
    pub text: RichText,
    /// How they are set; its size is a placeholder.
    pub look: TypeLook,
    /// Their colour.
    pub tint: Tint,
    /// Size of type.
    pub size: Ratio,
    /// Where the line begins, has its middle or ends, by its alignment: across.
    pub x: Ratio,
    /// Its baseline.
    pub y: Ratio,
    /// Clockwise turn about that point.
    pub turn: Angle,
}

/// The families at hand, found as a file names them.
fn at_hand(library: &FontLibrary, font: &usvg::Font) -> Option<String> {
    let named = font
        .families()
        .iter()
        .find_map(|family| if let usvg::FontFamily::Named(name) = family { Some(name) } else { None })?;
    library
        .families()
        .iter()
        .find(|family| family.family.eq_ignore_ascii_case(named))
        .map(|family| family.family.clone())
}

/// The family that words ask for where it is not at hand, and none of those that would do instead.
pub(crate) fn missing_families(text: &usvg::Text, library: &FontLibrary) -> Vec<String> {
    let missing = |span: &usvg::TextSpan| {
        let named = span.font().families().iter().filter_map(|family| match family {
            usvg::FontFamily::Named(name) => Some(name.as_str()),
            _ => None,
        });
        let named: Vec<&str> = named.collect();
        let has = |name: &&str| library.families().iter().any(|family| family.family.eq_ignore_ascii_case(name));
        named.first().filter(|_| !named.iter().any(has)).map(|name| (*name).to_owned())
    };
    text.chunks().iter().flat_map(|chunk| chunk.spans()).filter_map(missing).collect()
}

/// The words of a text element line by line; nothing where something about it cannot be said as words here.
pub(crate) fn words_of(text: &usvg::Text, to_drawing: Affine, library: &FontLibrary) -> Option<Vec<FileWords>> {
    let place = to_drawing
        * Affine::new(
            [
                text.abs_transform().sx,
                text.abs_transform().ky,
                text.abs_transform().kx,
                text.abs_transform().sy,
                text.abs_transform().tx,
                text.abs_transform().ty,
            ]
            .map(f64::from),
        );
    let [a, b, c, d, ..] = place.as_coeffs();
    let scale = a.hypot(b);
    let upright = (a - d).abs() < 1e-4 * scale && (b + c).abs() < 1e-4 * scale;
    let plain = text.writing_mode() == usvg::WritingMode::LeftToRight
        && [text.dx(), text.dy(), text.rotate()].iter().all(|moves| moves.iter().all(|by| *by == 0.0));
    if !upright || !plain || text.chunks().is_empty() {
        return None;
    }
    text.chunks().iter().map(|chunk| chunk_words(chunk, place, scale, library)).collect()
}

fn chunk_words(chunk: &usvg::TextChunk, place: Affine, scale: f64, library: &FontLibrary) -> Option<FileWords> {
    let (x, y) = (chunk.x()?, chunk.y()?);
    if !matches!(chunk.text_flow(), usvg::TextFlow::Linear) {
        return None;
    }
    let first = chunk.spans().first()?;
    let size = f64::from(first.font_size().get());
    let mut runs = Vec::new();
    for span in chunk.spans() {
        let said = chunk.text().get(span.start()..span.end())?.to_owned();
        let color = color_of(span)?;
        let family = at_hand(library, span.font())?;
        let own = f64::from(span.font_size().get());
        runs.push(Run {
            text: said,
            style: RunStyle {
                family: Some(family),
                weight: Some(span.font().weight().clamp(1, 1_000)),
                italic: Some(span.font().style() != usvg::FontStyle::Normal),
                size: ((own / size - 1.0).abs() > 1e-4).then(|| Ratio::new(own / size)),
                tint: Some(Tint::Own(color)),
                tracking: (span.letter_spacing() != 0.0).then(|| Ratio::new(f64::from(span.letter_spacing()) / own)),
                underline: span.decoration().underline().is_some().then_some(true),
                strike: span.decoration().line_through().is_some().then_some(true),
                ..RunStyle::default()
            },
        });
    }
    let lead = runs.first()?.style.clone();
    // What the first range has is the look of the whole; the others keep what differs.
    for run in &mut runs {
        let same = |own: &mut Option<String>, whole: &Option<String>| {
            if own == whole {
                *own = None;
            }
        };
        same(&mut run.style.family, &lead.family);
        run.style.weight = run.style.weight.filter(|own| Some(*own) != lead.weight);
        run.style.italic = run.style.italic.filter(|own| Some(*own) != lead.italic);
        run.style.tint = run.style.tint.take().filter(|own| Some(own) != lead.tint.as_ref());
    }
    let (family, weight, italic) = (lead.family?, lead.weight?, lead.italic?);
    let tint = lead.tint?;
    let small_caps = chunk.spans().iter().all(usvg::TextSpan::small_caps);
    let align = match chunk.anchor() {
        usvg::TextAnchor::Start => Align::Start,
        usvg::TextAnchor::Middle => Align::Centre,
        usvg::TextAnchor::End => Align::End,
    };
    let forms = vatman_document::Forms { small_caps, ..vatman_document::Forms::default() };
    let look = TypeLook { family, weight, italic, align, fit: TextFit::AsTyped, forms, ..TypeLook::default() };
    let at = place * kurbo::Point::new(f64::from(x), f64::from(y));
    let [a, b, ..] = place.as_coeffs();
    Some(FileWords {
        text: runs.into(),
        look,
        tint,
        size: Ratio::new(size * scale),
        x: Ratio::new(at.x),
        y: Ratio::new(at.y),
        turn: Angle::degrees(b.atan2(a).to_degrees()),
    })
}

/// The colour of a span that is nothing but its colour.
fn color_of(span: &usvg::TextSpan) -> Option<Color> {
    let fill = span.fill()?;
    let usvg::Paint::Color(color) = fill.paint() else { return None };
    let simple = span.is_visible()
        && span.stroke().is_none()
        && span.text_length().is_none()
        && span.word_spacing() == 0.0
        && fill.opacity().get() >= 1.0
        && span.baseline_shift().is_empty()
        && span.decoration().overline().is_none();
    simple.then(|| Color::opaque(color.red, color.green, color.blue))
}

/// The command that puts the layers of a file on a side as one group, in free space; words stand where the file has them.
#[must_use]
pub fn add_layers(
    job: &Job,
    piece: &Piece,
    side: &Side,
    (layers, (width, height)): (&[Layer], (u32, u32)),
    studio: &Studio,
    ids: &mut dyn IdSource,
) -> (Command, Vec<ItemId>) {
    let size = third_of(piece.format.size, f64::from(width) / f64::from(height.max(1)));
    let rect = free_place(job, (piece, side), size, &|item| studio.drawn(job, item));
    let unit = rect.w.to_css_px() / f64::from(width.max(1));
    let group = GroupId::fresh(ids);
    let (mut commands, mut made) = (Vec::new(), Vec::new());
    for layer in layers {
        let (part, content, look, placement) = match layer {
            Layer::Drawing { drawing } => (
                Part::Ornament,
                Content::Drawing { drawing: drawing.clone() },
                Look { fill: None, ..Look::default() },
                Placement::at(rect),
            ),
            Layer::Words { words } => {
                let kind = TypeLook { size: Length::css_px(words.size.get() * unit), ..words.look.clone() };
                let at = placed(words, &kind, rect, unit, &studio.typesetter);
                let content = Content::Words { text: words.text.clone(), prompt: "Words".into() };
                (
                    Part::Detail,
                    content,
                    Look { fill: Some(Paint::flat(words.tint.clone())), type_look: Some(kind), ..Look::default() },
                    at,
                )
            }
        };
        let item = Item {
            groups: vec![group.clone()],
            ..Item::new(ItemId::fresh(ids), KinId::fresh(ids), Place::new(placement))
        };
        made.push(item.id.clone());
        commands.push(Command::InsertItem {
            side: side.id.clone(),
            index: usize::MAX,
            item,
            kin: Some(Kin::new(part, content, look)),
        });
    }
    (Command::All { commands }, made)
}

/// The box of words whose line has its anchor and baseline where the file has them.
fn placed(words: &FileWords, kind: &TypeLook, rect: Rect, unit: f64, typesetter: &Typesetter) -> Placement {
    let setting = typesetter.set(&words.text, kind, TextBox { width: 1.0, height: 1.0, scale: 1.0 }, false);
    let (wide, high) = (setting.width.max(1.0), setting.height.max(1.0));
    let below = setting.lines.first().map_or(0.0, |line| line.baseline);
    let share = match kind.align {
        Align::Start | Align::Justified => 0.0,
        Align::Centre => 0.5,
        Align::End => 1.0,
    };
    let sheet = rect.to_css_px();
    let anchor = kurbo::Point::new(sheet.x0 + words.x.get() * unit, sheet.y0 + words.y.get() * unit);
    // Boxes turn about their middle; the file turns about the anchor.
    let middle = anchor + kurbo::Vec2::new(wide * (0.5 - share), high / 2.0 - below);
    let turned = Affine::rotate_about(words.turn.to_radians(), anchor) * middle;
    let px = Length::css_px;
    let size = Size::new(px(wide), px(high));
    Placement {
        rect: Rect::new(px(turned.x - wide / 2.0), px(turned.y - high / 2.0), size.w, size.h),
        turn: words.turn,
        flip: false,
    }
}
