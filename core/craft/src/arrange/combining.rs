//! Shapes and letters combined into one outline, and taken apart again.

use vatman_document::{
    Combine, CombinedPart, Command, Content, IdSource, Item, ItemId, Job, Kin, KinId, Look, Outline, Part, Place,
};
use vatman_output::svg_path_data;
use vatman_type::{GlyphOutlines as _, TextBox, Typesetter};
use vatman_units::{Length, Placement, Ratio, Rect};

use crate::refusal::Refusal;

/// Combines items of one side into a shape with the look of the lowest. Shapes and frames keep their outlines inside it, words
/// become the outlines of their letters. The shape takes the place of the topmost.
///
/// # Errors
/// [`Refusal`] for fewer than two items that have an outline, or items of several sides.
pub fn combine(
    job: &Job,
    items: &[ItemId],
    how: Combine,
    typesetter: &Typesetter,
    ids: &mut dyn IdSource,
) -> Result<(Command, ItemId), Refusal> {
    let sides = job.pieces.iter().flat_map(|piece| &piece.sides);
    let side = sides
        .into_iter()
        .find(|side| side.items.iter().any(|item| items.contains(&item.id)))
        .ok_or(Refusal::NothingColoured)?;
    let found: Vec<&Item> = side.items.iter().filter(|item| items.contains(&item.id)).collect();
    let outlined: Vec<(&Item, Outline, Rect)> = found
        .iter()
        .filter_map(|item| outline_of(job, item, typesetter).map(|(outline, rect)| (*item, outline, rect)))
        .collect();
    if outlined.len() < 2 || outlined.len() < items.len() {
        return Err(Refusal::NotCombinable);
    }
    let whole =
        outlined.iter().map(|(item, _, rect)| turned_box(*rect, item.place.at)).reduce(union).unwrap_or(outlined[0].2);
    let (w, h) = (whole.w.raw().max(1) as f64, whole.h.raw().max(1) as f64);
    let share = |length: Length, of: f64| Ratio::new(length.raw() as f64 / of);
    let parts = outlined.iter().map(|(item, outline, rect)| CombinedPart {
        outline: outline.clone(),
        at: [share(rect.x - whole.x, w), share(rect.y - whole.y, h), share(rect.w, w), share(rect.h, h)],
        turn: item.place.at.turn,
        flip: item.place.at.flip,
    });
    let lowest = outlined[0].0;
    let look = job.plain(lowest).map_or_else(Look::default, |plain| Look {
        type_look: None,
        backing: None,
        ..plain.look.clone()
    });
    let content = Content::Shape { outline: Outline::Combined { how, parts: parts.collect() } };
    let top = side.items.iter().rposition(|item| items.contains(&item.id)).unwrap_or(0);
    let item = Item {
        groups: lowest.groups.clone(),
        ..Item::new(
            ItemId::fresh(ids),
            KinId::fresh(ids),
            Place { at: Placement::at(whole), scale: lowest.place.scale, crop: None },
        )
    };
    let id = item.id.clone();
    let insert = Command::InsertItem {
        side: side.id.clone(),
        index: top + 1,
        item,
        kin: Some(Kin { part: Part::Ornament, content, look }),
    };
    let removals = found.iter().map(|item| Command::RemoveItem { item: item.id.clone() });
    Ok((Command::All { commands: std::iter::once(insert).chain(removals).collect() }, id))
}

/// Combines the outlines a combined shape is made of in another way.
///
/// # Errors
/// [`Refusal`] where the item is not there or not combined.
pub fn combine_otherwise(job: &Job, item: &ItemId, how: Combine) -> Result<Command, Refusal> {
    crate::edit::target::content(job, item, |content| match content {
        Content::Shape { outline: Outline::Combined { parts, .. } } => {
            Ok(Content::Shape { outline: Outline::Combined { how, parts } })
        }
        _ => Err(Refusal::NotCombined),
    })
}

/// Takes a combined shape apart into the shapes it was made of, each with its look.
///
/// # Errors
/// [`Refusal`] where the item is not there or not combined.
pub fn take_apart(job: &Job, id: &ItemId, ids: &mut dyn IdSource) -> Result<(Command, Vec<ItemId>), Refusal> {
    let mut all = job
        .pieces
        .iter()
        .flat_map(|piece| &piece.sides)
        .flat_map(|side| side.items.iter().enumerate().map(move |(index, item)| (side, index, item)));
    let (side, index, item) = all.find(|(_, _, item)| item.id == *id).ok_or_else(|| Refusal::no_item(id))?;
    let plain = job.plain(item).ok_or_else(|| Refusal::Missing("part", item.kin.to_string()))?;
    let Content::Shape { outline: Outline::Combined { parts, .. } } = plain.content else {
        return Err(Refusal::NotCombined);
    };
    let whole = item.place.at.rect;
    let (mut commands, mut made) = (Vec::new(), Vec::new());
    for (n, part) in parts.iter().enumerate() {
        let [x, y, w, h] = part.at.map(Ratio::get);
        let rect =
            Rect::new(whole.x + whole.w.scaled(x), whole.y + whole.h.scaled(y), whole.w.scaled(w), whole.h.scaled(h));
        let place =
            Place { at: Placement { rect, turn: part.turn, flip: part.flip }, scale: item.place.scale, crop: None };
        let copy = Item { groups: item.groups.clone(), ..Item::new(ItemId::fresh(ids), KinId::fresh(ids), place) };
        made.push(copy.id.clone());
        let kin = Kin {
            part: plain.part,
            content: Content::Shape { outline: part.outline.clone() },
            look: plain.look.clone(),
        };
        commands.push(Command::InsertItem { side: side.id.clone(), index: index + 1 + n, item: copy, kin: Some(kin) });
    }
    commands.push(Command::RemoveItem { item: id.clone() });
    Ok((Command::All { commands }, made))
}

fn outline_of(job: &Job, item: &Item, typesetter: &Typesetter) -> Option<(Outline, Rect)> {
    let plain = job.plain(item)?;
    let rect = item.place.at.rect;
    match plain.content {
        Content::Shape { outline } | Content::Picture { frame: outline, .. } => Some((outline.clone(), rect)),
        Content::Words { text, .. } if !text.is_blank() => {
            let look = plain.look.type_look.clone().unwrap_or_default();
            let within =
                TextBox { width: rect.w.to_css_px(), height: rect.h.to_css_px(), scale: item.place.scale.get() };
            let set = typesetter.set_cached(text, &look, within, false);
            let mut path = kurbo::BezPath::new();
            for run in &set.runs {
                for glyph in &run.glyphs {
                    let place = kurbo::Affine::translate((set.left, 0.0)) * glyph.transform(run.size);
                    path.extend(typesetter.library().glyph(run.face, glyph.id).iter().map(|element| place * element));
                }
            }
            let ink = kurbo::Shape::bounding_box(&path);
            let px = Length::css_px;
            let tight = Rect::new(rect.x + px(ink.x0), rect.y + px(ink.y0), px(ink.width()), px(ink.height()));
            let fine = kurbo::Affine::scale(10.0) * kurbo::Affine::translate((-ink.x0, -ink.y0));
            let side = |length: f64| (length * 10.0).round().max(1.0) as u32;
            Some((
                Outline::Path {
                    data: svg_path_data(&(fine * path)),
                    width: side(ink.width()),
                    height: side(ink.height()),
                },
                tight,
            ))
        }
        Content::Words { .. } | Content::Drawing { .. } => None,
    }
}

/// Gives the frame of a picture the outline of another item: of a shape, another frame, or the letters of words.
///
/// # Errors
/// [`Refusal`] where the first is no frame, or the other has no outline.
pub fn frame_from(job: &Job, frame: &ItemId, from: &ItemId, typesetter: &Typesetter) -> Result<Command, Refusal> {
    let find = |id: &ItemId| job.item(id).ok_or_else(|| Refusal::no_item(id));
    let (own, other) = (find(frame)?, find(from)?);
    let plain = job.plain(own).ok_or_else(|| Refusal::Missing("part", own.kin.to_string()))?;
    let Content::Picture { picture, focus, fit, .. } = plain.content else {
        return Err(Refusal::OnlyFramesTakeOutlines);
    };
    let (outline, rect) = outline_of(job, other, typesetter)
        .filter(|(outline, _)| *outline != Outline::Line)
        .ok_or(Refusal::PointedOutline)?;
    let content = Content::Picture { picture: picture.clone(), focus: *focus, frame: outline, fit: *fit };
    let target = plain.content_target();
    // Letters keep their proportions: the frame becomes as high as they are at its width.
    let at = own.place.at;
    let high = at.rect.w.scaled(rect.h.raw() as f64 / rect.w.raw().max(1) as f64);
    let rect = Rect::new(at.rect.x, at.rect.y + (at.rect.h - high).half(), at.rect.w, high);
    let place = Command::SetPlace { item: frame.clone(), place: Place { at: Placement { rect, ..at }, ..own.place } };
    Ok(Command::All { commands: vec![Command::SetContent { target, content }, place] })
}

/// The upright box of a rectangle turned as a placement is.
fn turned_box(rect: Rect, at: Placement) -> Rect {
    let own = rect.to_css_px();
    let turned = kurbo::Affine::rotate_about(at.turn.to_radians(), own.center()).transform_rect_bbox(own);
    let px = Length::css_px;
    Rect::new(px(turned.x0), px(turned.y0), px(turned.width()), px(turned.height()))
}

fn union(a: Rect, b: Rect) -> Rect {
    let (x, y) = (a.x.min(b.x), a.y.min(b.y));
    Rect::new(x, y, a.right().max(b.right()) - x, a.bottom().max(b.bottom()) - y)
}
