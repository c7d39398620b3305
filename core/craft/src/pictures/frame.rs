//! One picture in its frame: showing another, moving it where it stands.

use vatman_document::{AssetId, Command, Content, Crop, Focus, Item, ItemId, Job, PictureFit, Place};
use vatman_photo::Pictures;
use vatman_scene::{Shown, picture_box};
use vatman_units::{Angle, Length, Placement, Ratio};

use crate::arrange::combining::crop_kept;
use crate::edit::target::content;
use crate::edit::target::looks;
use crate::pictures::draw::fitted;
use crate::refusal::Refusal;
use crate::studio::Studio;

/// Shows another picture in a frame, wherever that picture is shared. Every such frame is filled anew, because a crop made for
/// one picture means nothing for another.
///
/// # Errors
/// [`Refusal`] where the item is not there or is no frame.
pub fn show_picture(job: &Job, item: &ItemId, picture: &AssetId) -> Result<Command, Refusal> {
    let found = job.find(item)?;
    let item = found.item;
    let plain = found.plain()?;
    let Content::Picture { frame, fit, .. } = plain.content else {
        return Err(Refusal::NoFrame);
    };
    let content =
        Content::Picture { picture: Some(picture.clone()), focus: Focus::CENTRE, frame: frame.clone(), fit: *fit };
    let alone = item.release.content.is_some();
    let target = plain.content_target();
    let shows =
        |other: &&Item| other.id == item.id || (!alone && other.kin == item.kin && other.release.content.is_none());
    let refit = job.items().filter(shows).filter(|other| other.place.crop.is_some());
    let commands =
        refit.map(|other| Command::SetPlace { item: other.id.clone(), place: Place { crop: None, ..other.place } });
    // What was cut out of another picture, how it leant and what was mended in it says nothing about this one.
    let shown = job.items().filter(shows).map(|other| other.id.clone()).collect::<Vec<_>>();
    let whole = looks(job, &shown, |_, look| {
        look.cut_out = None;
        look.upright = None;
        look.treatments.retain(|step| !step.is_of_one_picture());
        Ok(())
    })?;
    let commands = std::iter::once(Command::SetContent { target, content }).chain(commands).chain([whole]);
    Ok(Command::All { commands: commands.collect() })
}

/// The same change with every picture it brings shown about what draws the eye in it, where nothing else is said.
#[must_use]
pub fn focused(pictures: &Pictures, command: Command) -> Command {
    let found = |content: &mut Content| {
        if let Content::Picture { picture: Some(id), focus, .. } = content
            && *focus == Focus::CENTRE
        {
            *focus = pictures.focus(id).map_or(Focus::CENTRE, composed);
        }
    };
    match command {
        Command::All { commands } => {
            Command::All { commands: commands.into_iter().map(|one| focused(pictures, one)).collect() }
        }
        Command::SetContent { target, mut content } => {
            found(&mut content);
            Command::SetContent { target, content }
        }
        Command::InsertItem { side, index, item, kin: Some(mut kin) } => {
            found(&mut kin.content);
            Command::InsertItem { side, index, item, kin: Some(kin) }
        }
        command => command,
    }
}

/// What was found, held back towards the middle: a picture was composed about its middle by whoever took it, and what lies near that needs no
/// other.
fn composed(found: Focus) -> Focus {
    const NEAR: f64 = 0.15;
    let held = |at: Ratio| {
        let off = at.get() - 0.5;
        Ratio::new(0.5 + off.signum() * (off.abs() - NEAR).max(0.0))
    };
    Focus { x: held(found.x), y: held(found.y) }
}

/// Says what matters in a picture, wherever it is shown; here it is shown about that at once.
///
/// # Errors
/// [`Refusal`] where the item is not there or shows no picture.
pub fn set_focus(job: &Job, item: &ItemId, focus: Focus) -> Result<Command, Refusal> {
    let change = content(job, item, |content| match content {
        Content::Picture { picture: Some(picture), frame, fit, .. } => {
            Ok(Content::Picture { picture: Some(picture), focus, frame, fit })
        }
        _ => Err(Refusal::NoPicture),
    })?;
    Ok(change.then(refit(job, item)?))
}

/// Moves a picture inside its frame by a distance along the frame's own axes, and scales it about the middle of the frame by a
/// factor. An upright picture that fills its frame never leaves a part of it uncovered.
///
/// # Errors
/// [`Refusal`] where the item is not there or shows no picture of `pixels`.
pub fn crop_by(
    job: &Job,
    item: &ItemId,
    pixels: (u32, u32),
    by: (Length, Length),
    factor: f64,
) -> Result<Command, Refusal> {
    let found = job.find(item)?;
    let item = found.item;
    let Content::Picture { focus, fit, .. } = found.plain()?.content else {
        return Err(Refusal::NoPicture);
    };
    if !factor.is_finite() || factor <= 0.0 {
        return Err(Refusal::CropFactor);
    }
    let frame =
        kurbo::Size::new(item.place.at.rect.w.to_css_px().max(1e-3), item.place.at.rect.h.to_css_px().max(1e-3));
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
    let by = (kurbo::Affine::rotate(held.turn.to_radians()) * mirror).inverse()
        * kurbo::Point::new(by.0.to_css_px(), by.1.to_css_px());
    // The point of the picture at the middle of the frame, before and after.
    let centre = |frame: f64, start: f64, was: f64, moved: f64| {
        let at = (frame / 2.0 - start) / was - moved / (was * grown);
        let edge = (frame / 2.0 / (was * grown)).min(0.5);
        Ratio::new(if bound { at.clamp(edge, 1.0 - edge) } else { at.clamp(-10.0, 11.0) })
    };
    let centre = Focus {
        x: centre(frame.width, now.x0, now.width(), by.x),
        y: centre(frame.height, now.y0, now.height(), by.y),
    };
    let place = Place { crop: Some(Crop { centre, zoom: Ratio::new(zoom), ..held }), ..item.place };
    Ok(Command::SetPlace { item: item.id.clone(), place })
}

/// Cuts a frame to proportions, width to height: the largest such box inside it, about its middle. What was seen there stays where it
/// is. Proportions with a 0 are those of the picture.
///
/// # Errors
/// [`Refusal`] where the item is not there or shows no picture.
pub fn cut_to(job: &Job, item: &ItemId, (across, down): (u32, u32), studio: &Studio) -> Result<Command, Refusal> {
    let found = job.find(item)?;
    let plain = found.plain()?;
    let Content::Picture { picture: Some(picture), focus, fit, .. } = plain.content else {
        return Err(Refusal::NoPicture);
    };
    let (w, h) = studio.picture_size(picture, &plain.look).ok_or(Refusal::NoPicture)?;
    let (across, down) = if across == 0 || down == 0 { (w, h) } else { (across, down) };
    let place = found.item.place;
    let rect = fitted(place.at.rect, f64::from(across) / f64::from(down.max(1)));
    let pixels = kurbo::Size::new(f64::from(w.max(1)), f64::from(h.max(1)));
    let shown = Shown { focus: *focus, crop: place.crop, fit: *fit };
    let kept = (*fit == PictureFit::Fill).then(|| crop_kept(place.at.rect, rect, pixels, shown)).flatten();
    let crop = kept.or(place.crop);
    Ok(Command::SetPlace { item: item.clone(), place: Place { at: Placement { rect, ..place.at }, crop, ..place } })
}

/// How a picture takes up its frame, wherever that is shared.
///
/// # Errors
/// [`Refusal`] where the item is not there or is no frame.
pub fn set_fit(job: &Job, item: &ItemId, fit: PictureFit) -> Result<Command, Refusal> {
    content(job, item, |content| match content {
        Content::Picture { picture, focus, frame, .. } => Ok(Content::Picture { picture, focus, frame, fit }),
        _ => Err(Refusal::NoPicture),
    })
}

/// Lets a picture cover its frame about its focus again.
///
/// # Errors
/// [`Refusal`] where the item is not there.
pub fn refit(job: &Job, item: &ItemId) -> Result<Command, Refusal> {
    let item = job.find(item)?.item;
    Ok(Command::SetPlace { item: item.id.clone(), place: Place { crop: None, ..item.place } })
}

/// Turns or mirrors a picture inside its frame; what is absent stays.
///
/// # Errors
/// [`Refusal`] where the item is not there or is no frame.
pub fn turn_picture(job: &Job, item: &ItemId, turn: Option<Angle>, flip: Option<bool>) -> Result<Command, Refusal> {
    let found = job.find(item)?;
    let Content::Picture { focus, .. } = found.plain()?.content else { return Err(Refusal::NoPicture) };
    let item = found.item;
    let held = item.place.crop.unwrap_or(Crop::about(*focus));
    let crop = Crop { turn: turn.unwrap_or(held.turn), flip: flip.unwrap_or(held.flip), ..held };
    Ok(Command::SetPlace { item: item.id.clone(), place: Place { crop: Some(crop), ..item.place } })
}
