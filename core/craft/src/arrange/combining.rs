//! Shapes and letters combined into one outline, and taken apart again.

use vatman_document::{
    Color, Combine, CombinedPart, Command, Content, Crop, Focus, IdSource, Item, ItemId, Job, Kin, KinId, Look,
    Outline, Paint, Part, PictureFit, Place,
};
use vatman_output::svg_path_data;
use vatman_scene::{Shown, picture_box};
use vatman_type::{GlyphOutlines as _, TextBox, Typesetter};
use vatman_units::{Angle, Length, Placement, Ratio, Rect};

use crate::refusal::Refusal;
use crate::studio::Studio;

/// Combines items of one side. Shapes keep their outlines, words become the outlines of their letters, and what comes of it has the
/// look of the lowest and takes the place of the topmost. Where one of them shows a picture, it is the frame of the picture that is
/// cut or extended: the picture stays where it lies.
///
/// # Errors
/// [`Refusal`] for fewer than two items that have an outline, items of several sides, or more than one picture.
pub fn combine(
    job: &Job,
    items: &[ItemId],
    how: Combine,
    studio: &Studio,
    ids: &mut dyn IdSource,
) -> Result<(Command, ItemId), Refusal> {
    let sides = job.pieces.iter().flat_map(|piece| &piece.sides);
    let side = sides
        .into_iter()
        .find(|side| side.items.iter().any(|item| items.contains(&item.id)))
        .ok_or(Refusal::NothingColoured)?;
    let found: Vec<&Item> = side.items.iter().filter(|item| items.contains(&item.id)).collect();
    let mut outlined: Vec<(&Item, Outline, Rect)> = found
        .iter()
        .filter_map(|item| outline_of(job, item, &studio.typesetter).map(|(outline, rect)| (*item, outline, rect)))
        .collect();
    if outlined.len() < 2 || outlined.len() < items.len() {
        return Err(Refusal::NotCombinable);
    }
    let shows = |item: &Item| job.plain(item).is_some_and(|plain| plain.content.picture().is_some());
    let mut pictures = outlined.iter().enumerate().filter(|(_, (item, ..))| shows(item)).map(|(at, _)| at);
    if let Some(at) = pictures.next() {
        if pictures.next().is_some() {
            return Err(Refusal::SeveralPictures);
        }
        // The picture is what is cut, wherever it lies among the others.
        let picture = outlined.remove(at);
        outlined.insert(0, picture);
        return combine_frame(job, &outlined, how, studio);
    }
    let (outline, whole) = combined_outline(&outlined, how, around(&outlined));
    let lowest = outlined[0].0;
    let look = job.plain(lowest).map_or_else(Look::default, |plain| Look {
        type_look: None,
        backing: None,
        ..plain.look.as_ref().clone()
    });
    let top = side.items.iter().rposition(|item| items.contains(&item.id)).unwrap_or(0);
    let item = Item {
        groups: lowest.groups.clone(),
        ..Item::new(
            ItemId::fresh(ids),
            KinId::fresh(ids),
            Place { at: Placement::at(whole), scale: lowest.place.scale, crop: None, by_hand: false },
        )
    };
    let id = item.id.clone();
    let insert = Command::InsertItem {
        side: side.id.clone(),
        index: top + 1,
        item,
        kin: Some(Kin::new(Part::Ornament, Content::Shape { outline }, look)),
    };
    let removals = found.iter().map(|item| Command::RemoveItem { item: item.id.clone() });
    Ok((Command::All { commands: std::iter::once(insert).chain(removals).collect() }, id))
}

/// The upright box around outlines in their boxes.
fn around(outlined: &[(&Item, Outline, Rect)]) -> Rect {
    let boxes = outlined.iter().map(|(item, _, rect)| turned_box(*rect, item.place.at));
    boxes.reduce(union).unwrap_or_default()
}

/// Outlines in their boxes as one combined outline in a box.
fn combined_outline(outlined: &[(&Item, Outline, Rect)], how: Combine, whole: Rect) -> (Outline, Rect) {
    let (w, h) = (whole.w.raw().max(1) as f64, whole.h.raw().max(1) as f64);
    let share = |length: Length, of: f64| Ratio::new(length.raw() as f64 / of);
    let parts = outlined.iter().map(|(item, outline, rect)| CombinedPart {
        outline: outline.clone(),
        at: [share(rect.x - whole.x, w), share(rect.y - whole.y, h), share(rect.w, w), share(rect.h, h)],
        turn: item.place.at.turn,
        flip: item.place.at.flip,
    });
    (Outline::Combined { how, parts: parts.collect() }, whole)
}

/// Cuts or extends the frame of the first item, which shows a picture, by the outlines of the others. The picture stays where it
/// lies as far as it covers the new frame.
fn combine_frame(
    job: &Job,
    outlined: &[(&Item, Outline, Rect)],
    how: Combine,
    studio: &Studio,
) -> Result<(Command, ItemId), Refusal> {
    let own = outlined[0].0;
    let plain = job.plain(own).ok_or_else(|| Refusal::Missing("part", own.kin.to_string()))?;
    let Content::Picture { picture, focus, fit, .. } = plain.content else { return Err(Refusal::NoPicture) };
    // What is only taken away never makes the frame larger.
    let reach = if matches!(how, Combine::Subtract | Combine::Intersect) { &outlined[..1] } else { outlined };
    let (frame, whole) = combined_outline(outlined, how, around(reach));
    let content = Content::Picture { picture: picture.clone(), focus: *focus, frame, fit: *fit };
    let crop = picture
        .as_ref()
        .and_then(|id| studio.picture_size(id, &plain.look))
        .filter(|_| *fit == PictureFit::Fill && own.place.at.turn == Angle::ZERO && !own.place.at.flip)
        .map(|(w, h)| {
            let pixels = kurbo::Size::new(f64::from(w.max(1)), f64::from(h.max(1)));
            let shown = Shown { focus: *focus, crop: own.place.crop, fit: *fit };
            crop_kept(own.place.at.rect, whole, pixels, shown)
        });
    let mut commands = vec![
        Command::SetContent { target: plain.content_target(), content },
        Command::SetPlace {
            item: own.id.clone(),
            place: Place {
                at: Placement::at(whole),
                scale: own.place.scale,
                crop: crop.flatten(),
                by_hand: own.place.by_hand,
            },
        },
    ];
    commands.extend(outlined[1..].iter().map(|(item, ..)| Command::RemoveItem { item: item.id.clone() }));
    Ok((Command::All { commands }, own.id.clone()))
}

/// The crop with which a picture lies on the sheet as it did when its frame gets another box; where it does not cover that, it covers
/// it anew.
pub(crate) fn crop_kept(was: Rect, now: Rect, pixels: kurbo::Size, shown: Shown) -> Option<Crop> {
    let (was, now) = (was.to_css_px(), now.to_css_px());
    let lies = picture_box(was.size(), pixels, shown) + was.origin().to_vec2();
    let turned = shown.crop.is_some_and(|crop| crop.turn != Angle::ZERO || crop.flip);
    if turned || !lies.inflate(0.5, 0.5).contains_rect(now) {
        return None;
    }
    let base = (now.width() / pixels.width).max(now.height() / pixels.height) * pixels.width;
    let centre = Focus {
        x: Ratio::new((now.center().x - lies.x0) / lies.width()),
        y: Ratio::new((now.center().y - lies.y0) / lies.height()),
    };
    Some(Crop { zoom: Ratio::new(lies.width() / base), ..Crop::about(centre) })
}

/// Combines the outlines a combined shape or frame is made of in another way.
///
/// # Errors
/// [`Refusal`] where the item is not there or not combined.
pub fn combine_otherwise(job: &Job, item: &ItemId, how: Combine) -> Result<Command, Refusal> {
    crate::edit::target::content(job, item, |content| match content {
        Content::Shape { outline: Outline::Combined { parts, .. } } => {
            Ok(Content::Shape { outline: Outline::Combined { how, parts } })
        }
        Content::Picture { picture, focus, frame: Outline::Combined { parts, .. }, fit } => {
            Ok(Content::Picture { picture, focus, frame: Outline::Combined { how, parts }, fit })
        }
        _ => Err(Refusal::NotCombined),
    })
}

/// Takes a combined shape apart into the shapes it was made of, each with its look. Of a frame that was combined the picture keeps the
/// first, and the others become shapes.
///
/// # Errors
/// [`Refusal`] where the item is not there or not combined.
pub fn take_apart(job: &Job, id: &ItemId, ids: &mut dyn IdSource) -> Result<(Command, Vec<ItemId>), Refusal> {
    let found = job.find(id)?;
    let (side, item, plain) = (found.side, found.item, found.plain()?);
    let index = side.items.iter().position(|other| other.id == *id).unwrap_or(0);
    let (parts, is_picture) = match plain.content {
        Content::Shape { outline: Outline::Combined { parts, .. } } => (parts, false),
        Content::Picture { frame: Outline::Combined { parts, .. }, .. } => (parts, true),
        _ => return Err(Refusal::NotCombined),
    };
    let whole = item.place.at.rect;
    let placed = |part: &CombinedPart| {
        let [x, y, w, h] = part.at.map(Ratio::get);
        let rect =
            Rect::new(whole.x + whole.w.scaled(x), whole.y + whole.h.scaled(y), whole.w.scaled(w), whole.h.scaled(h));
        Place {
            at: Placement { rect, turn: part.turn, flip: part.flip },
            scale: item.place.scale,
            crop: None,
            by_hand: false,
        }
    };
    let (mut commands, mut made) = (Vec::new(), Vec::new());
    let mut rest = parts.as_slice();
    if let (Content::Picture { picture, focus, fit, .. }, [first, others @ ..]) = (plain.content, rest) {
        let content =
            Content::Picture { picture: picture.clone(), focus: *focus, frame: first.outline.clone(), fit: *fit };
        commands.push(Command::SetContent { target: plain.content_target(), content });
        commands.push(Command::SetPlace { item: id.clone(), place: placed(first) });
        made.push(id.clone());
        rest = others;
    }
    for (n, part) in rest.iter().enumerate() {
        let copy =
            Item { groups: item.groups.clone(), ..Item::new(ItemId::fresh(ids), KinId::fresh(ids), placed(part)) };
        made.push(copy.id.clone());
        let fill = plain.look.fill.clone().or_else(|| is_picture.then(|| Paint::flat(Color::opaque(0x9a, 0x95, 0x8c))));
        let role = if is_picture { Part::Ornament } else { plain.part };
        let kin = Kin::new(
            role,
            Content::Shape { outline: part.outline.clone() },
            Look { fill, ..plain.look.as_ref().clone() },
        );
        commands.push(Command::InsertItem { side: side.id.clone(), index: index + 1 + n, item: copy, kin: Some(kin) });
    }
    if !is_picture {
        commands.push(Command::RemoveItem { item: id.clone() });
    }
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
        Content::Words { .. } | Content::Drawing { .. } | Content::Code { .. } => None,
    }
}

/// Gives the frame of a picture the outline and the place of another item: of a shape, another frame, or the letters of words. That
/// item goes to the tray, so that the picture is seen; a frame that shows a picture of its own stays.
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
    let at = Placement { rect, turn: other.place.at.turn, flip: other.place.at.flip };
    let place = Command::SetPlace { item: frame.clone(), place: Place { at, crop: None, ..own.place } };
    let mut commands = vec![Command::SetContent { target, content }, place];
    if job.plain(other).is_none_or(|plain| plain.content.picture().is_none()) {
        commands.push(crate::arrange::tray::remove(job, std::slice::from_ref(from))?);
    }
    Ok(Command::All { commands })
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
