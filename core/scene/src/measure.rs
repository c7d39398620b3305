//! Where an item stands, measured without drawing the rest of its side.

use kurbo::{Affine, Point, Rect, Size};
use vatman_document::{Content, Focus, Item, Job};
use vatman_type::TextBox;

use crate::compose::{Means, compose_item, place_on_sheet};
use crate::frame::{Shown, picture_place};
use crate::node::Frame;

/// The box of an item as drawn; nothing for one whose kin is missing.
#[must_use]
pub fn item_frame(job: &Job, item: &Item, means: &Means<'_>) -> Option<Frame> {
    // Where it stands does not depend on the sheet around it.
    compose_item(job, item, Size::new(1.0, 1.0), means).map(|drawn| drawn.frame)
}

/// The box around the letters of an item, before it is turned, in CSS pixels of the sheet; its whole box where it has none.
#[must_use]
pub fn letter_box(job: &Job, item: &Item, means: &Means<'_>) -> Option<Rect> {
    let frame = item_frame(job, item, means)?;
    let whole = Rect::from_origin_size((frame.x, frame.y), (frame.w, frame.h));
    let plain = job.plain(item)?;
    let Content::Words { text, .. } = plain.content else { return Some(whole) };
    let kind = plain.look.type_look.clone().unwrap_or_default();
    let rect = item.place.at.rect.to_css_px();
    let setting = means.typesetter.set_cached(
        text,
        &kind,
        TextBox { width: rect.width(), height: rect.height(), scale: item.place.scale.get() },
        false,
    );
    let lines = setting
        .lines
        .iter()
        .filter(|line| line.width > 0.0)
        .map(|line| Rect::new(line.x, line.top, line.x + line.width, line.bottom));
    Some(lines.reduce(|a, b| a.union(b)).map_or(whole, |lines| lines + whole.origin().to_vec2()))
}

/// The baselines of the first and the last line of upright words, in CSS pixels from the top of the sheet, and from where to where
/// they reach; none for anything else.
#[must_use]
pub fn baselines(job: &Job, item: &Item, means: &Means<'_>) -> Vec<(f64, f64, f64)> {
    let (Some(frame), Some(plain)) = (item_frame(job, item, means), job.plain(item)) else { return Vec::new() };
    let Content::Words { text, .. } = plain.content else { return Vec::new() };
    if frame.turn != 0.0 {
        return Vec::new();
    }
    let kind = plain.look.type_look.clone().unwrap_or_default();
    let rect = item.place.at.rect.to_css_px();
    let setting = means.typesetter.set_cached(
        text,
        &kind,
        TextBox { width: rect.width(), height: rect.height(), scale: item.place.scale.get() },
        false,
    );
    let ends = setting.lines.first().into_iter().chain(setting.lines.last().filter(|_| setting.lines.len() > 1));
    ends.map(|line| (frame.y + line.baseline, frame.x, frame.x + frame.w)).collect()
}

/// How a picture lies on the sheet: from its fractions (0 to 1 across and down) to CSS pixels of the sheet.
fn fractions_on_sheet(job: &Job, item: &Item, means: &Means<'_>) -> Option<Affine> {
    let plain = job.plain(item)?;
    let Content::Picture { picture, focus, fit, .. } = plain.content else { return None };
    let original = (means.picture_size)(picture.as_ref()?)?;
    let pixels = plain.look.upright.map_or(original, |upright| upright.size(original));
    let rect = item.place.at.rect.to_css_px();
    let place = picture_place(
        rect.size(),
        Size::new(f64::from(pixels.0), f64::from(pixels.1)),
        Shown { focus: *focus, crop: item.place.crop, fit: *fit },
    );
    let unit = Affine::translate(place.dest.origin().to_vec2())
        * Affine::scale_non_uniform(place.dest.width(), place.dest.height());
    Some(place_on_sheet(item.place, rect) * place.outward * unit)
}

/// Where a spot of a picture lies on the sheet, in CSS pixels; nothing for what shows no picture.
#[must_use]
pub fn spot_on_sheet(job: &Job, item: &Item, at: Focus, means: &Means<'_>) -> Option<Point> {
    Some(fractions_on_sheet(job, item, means)? * Point::new(at.x.get(), at.y.get()))
}

/// The spot of a picture that lies at a point of the sheet, held to the picture.
#[must_use]
pub fn spot_at(job: &Job, item: &Item, point: Point, means: &Means<'_>) -> Option<Focus> {
    let spot = fractions_on_sheet(job, item, means)?.inverse() * point;
    let held = |value: f64| vatman_units::Ratio::new(value.clamp(0.0, 1.0));
    spot.is_finite().then(|| Focus { x: held(spot.x), y: held(spot.y) })
}
