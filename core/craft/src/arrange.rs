//! Changes to one item that follow a rule: showing another picture, moving a picture in its frame, setting the size of type.

use vatman_document::{AssetId, Command, CommandError, Content, Crop, Focus, Item, ItemId, Job, PictureFit, Place, RichText, Target, TextFit};
use vatman_scene::{Shown, picture_box};
use vatman_type::{TextBox, Typesetter};
use vatman_units::{Length, Placement, Ratio, Rect};

fn found<'a>(job: &'a Job, id: &ItemId) -> Result<&'a Item, CommandError> {
    job.item(id).ok_or_else(|| CommandError::Missing("item", id.to_string()))
}

fn plain_content<'a>(job: &'a Job, item: &'a Item) -> Result<&'a Content, CommandError> {
    Ok(job.plain(item).ok_or_else(|| CommandError::Missing("part", item.kin.to_string()))?.content)
}

/// Shows another picture in a frame, wherever that picture is shared. Every such frame is filled anew, because a crop made for
/// one picture means nothing for another.
///
/// # Errors
/// [`CommandError`] where the item is not there or is no frame.
pub fn show_picture(job: &Job, item: &ItemId, picture: &AssetId) -> Result<Command, CommandError> {
    let item = found(job, item)?;
    let Content::Picture { frame, fit, .. } = plain_content(job, item)? else {
        return Err(CommandError::Value("Only a frame can show a picture. Select one, or let the picture arrive as a new item.".into()));
    };
    let content = Content::Picture { picture: Some(picture.clone()), focus: Focus::CENTRE, frame: frame.clone(), fit: *fit };
    let alone = item.release.content.is_some();
    let target = if alone { Target::Only(item.id.clone()) } else { Target::Shared(item.kin.clone()) };
    let shows = |other: &&Item| other.id == item.id || (!alone && other.kin == item.kin && other.release.content.is_none());
    let refit = job.items().filter(shows).filter(|other| other.place.crop.is_some());
    let commands = refit.map(|other| Command::SetPlace { item: other.id.clone(), place: Place { crop: None, ..other.place } });
    Ok(Command::All { commands: std::iter::once(Command::SetContent { target, content }).chain(commands).collect() })
}

/// Moves a picture inside its frame by a distance along the frame's own axes, and scales it about the middle of the frame by a
/// factor. An upright picture that fills its frame never leaves a part of it uncovered.
///
/// # Errors
/// [`CommandError`] where the item is not there or shows no picture of `pixels`.
pub fn crop_by(job: &Job, item: &ItemId, pixels: (u32, u32), by: (Length, Length), factor: f64) -> Result<Command, CommandError> {
    let item = found(job, item)?;
    let Content::Picture { focus, fit, .. } = plain_content(job, item)? else {
        return Err(CommandError::Value("This item shows no picture.".into()));
    };
    if !factor.is_finite() || factor <= 0.0 {
        return Err(CommandError::Value("A picture is scaled by a factor above 0.".into()));
    }
    let frame = kurbo::Size::new(item.place.at.rect.w.to_css_px().max(1e-3), item.place.at.rect.h.to_css_px().max(1e-3));
    let size = kurbo::Size::new(f64::from(pixels.0.max(1)), f64::from(pixels.1.max(1)));
    let shown = Shown { focus: *focus, crop: item.place.crop, fit: *fit };
    let now = picture_box(frame, size, shown);
    let base = picture_box(frame, size, Shown { crop: Some(Crop::about(Focus::CENTRE)), ..shown }).width();
    let held = item.place.crop.unwrap_or(Crop::about(Focus::CENTRE));
    let bound = *fit == PictureFit::Fill && held.turn.normalised().to_degrees() == 0.0;
    let zoom = (now.width() / base * factor).clamp(if bound { 1.0 } else { 0.05 }, 100.0);
    let grown = base * zoom / now.width();
    // The picture moves along its own axes, which may be turned and mirrored in the frame.
    let mirror = if held.flip { kurbo::Affine::scale_non_uniform(-1.0, 1.0) } else { kurbo::Affine::IDENTITY };
    let by = (kurbo::Affine::rotate(held.turn.to_radians()) * mirror).inverse() * kurbo::Point::new(by.0.to_css_px(), by.1.to_css_px());
    // The point of the picture at the middle of the frame, before and after.
    let centre = |frame: f64, start: f64, was: f64, moved: f64| {
        let at = (frame / 2.0 - start) / was - moved / (was * grown);
        let edge = (frame / 2.0 / (was * grown)).min(0.5);
        Ratio::new(if bound { at.clamp(edge, 1.0 - edge) } else { at.clamp(-10.0, 11.0) })
    };
    let centre = Focus { x: centre(frame.width, now.x0, now.width(), by.x), y: centre(frame.height, now.y0, now.height(), by.y) };
    let place = Place { crop: Some(Crop { centre, zoom: Ratio::new(zoom), ..held }), ..item.place };
    Ok(Command::SetPlace { item: item.id.clone(), place })
}

/// Sets the size of the type of an item in this piece. A box that would be too small for it grows, keeping its top edge and,
/// where no word fits the width, its middle.
///
/// # Errors
/// [`CommandError`] where the item is not there or holds no words, or the size is nothing.
pub fn set_type_size(job: &Job, item: &ItemId, size: Length, typesetter: &Typesetter) -> Result<Command, CommandError> {
    let item = found(job, item)?;
    let plain = job.plain(item).ok_or_else(|| CommandError::Missing("part", item.kin.to_string()))?;
    let Content::Words { text, prompt } = plain.content else {
        return Err(CommandError::Value("This item holds no words.".into()));
    };
    if !size.is_positive() || size > Length::inches(100.0) {
        return Err(CommandError::Value("Type is more than 0 and at most 100 in high.".into()));
    }
    let look = plain.look.type_look.clone().unwrap_or_default();
    let scale = Ratio::new(size.to_css_px() / look.size.to_css_px());
    let mut rect = item.place.at.rect;
    if !matches!(look.fit, TextFit::Grow | TextFit::AsTyped) && look.curve.is_none() && look.lock_up.is_none() {
        let prompt = RichText::plain(prompt);
        let shown = if text.is_blank() { &prompt } else { text };
        let free = vatman_document::TypeLook { fit: TextFit::Grow, ..look };
        let set = |width: Length| typesetter.set_cached(shown, &free, TextBox { width: width.to_css_px(), height: 0.0, scale: scale.get() }, false);
        let widest = set(rect.w).lines.iter().map(|line| line.width).fold(0.0, f64::max);
        // A hair more than needed, so that rounding never breaks a line.
        let wanted = Length::css_px(widest + 0.5);
        if wanted > rect.w {
            rect = Rect { x: rect.x - (wanted - rect.w).half(), w: wanted, ..rect };
        }
        rect.h = rect.h.max(Length::css_px(set(rect.w).height + 0.1));
    }
    let place = Place { at: Placement { rect, ..item.place.at }, scale, ..item.place };
    Ok(Command::SetPlace { item: item.id.clone(), place })
}
