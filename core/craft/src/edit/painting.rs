//! Fill, line, opacity, mixing and outline.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_document::{Blend, Cap, Command, Content, ItemId, Job, Join, Outline, Paint, Plain, Stroke, StrokePlace};
use vatman_units::{Length, Ratio};

use crate::edit::target::{content, looks};
use crate::refusal::Refusal;

/// A length seen in a piece, as it is kept at a place scale of one.
pub(crate) fn kept(plain: &Plain<'_>, seen: Length) -> Length {
    seen.scaled(1.0 / plain.item.place.scale.get())
}

/// Paints items; nothing takes the fill away.
///
/// # Errors
/// [`Refusal`] where one is not there.
pub fn set_fill(job: &Job, items: &[ItemId], fill: Option<&Paint>) -> Result<Command, Refusal> {
    looks(job, items, |_, look| {
        look.fill = fill.cloned();
        Ok(())
    })
}

/// Sets the opacity of items as a whole.
///
/// # Errors
/// [`Refusal`] where one is not there.
pub fn set_opacity(job: &Job, items: &[ItemId], opacity: Ratio) -> Result<Command, Refusal> {
    looks(job, items, |_, look| {
        look.opacity = opacity;
        Ok(())
    })
}

/// Sets how items mix with what lies below.
///
/// # Errors
/// [`Refusal`] where one is not there.
pub fn set_blend(job: &Job, items: &[ItemId], blend: Blend) -> Result<Command, Refusal> {
    looks(job, items, |_, look| {
        look.blend = blend;
        Ok(())
    })
}

/// Blurs what lies behind items by a length seen in the piece; nothing lets it be seen as it is.
///
/// # Errors
/// [`Refusal`] where one is not there.
pub fn set_frost(job: &Job, items: &[ItemId], blur: Option<Length>) -> Result<Command, Refusal> {
    looks(job, items, |plain, look| {
        look.frost = blur.map(|blur| kept(plain, blur));
        Ok(())
    })
}

/// What changes about a line; what is absent stays.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize, TS)]
#[serde(default, deny_unknown_fields)]
#[ts(optional_fields)]
pub struct LineChange {
    /// Paint.
    pub paint: Option<Paint>,
    /// Width as seen in the piece.
    pub width: Option<Length>,
    /// Side of the outline.
    pub place: Option<StrokePlace>,
    /// Corners.
    pub join: Option<Join>,
    /// Ends.
    pub cap: Option<Cap>,
    /// Dashes and gaps in turn, in widths of the line.
    pub dash: Option<Vec<Ratio>>,
}

impl LineChange {
    fn of(&self, plain: &Plain<'_>, line: &Stroke) -> Stroke {
        Stroke {
            paint: self.paint.clone().unwrap_or_else(|| line.paint.clone()),
            width: self.width.map_or(line.width, |seen| kept(plain, seen)),
            place: self.place.unwrap_or(line.place),
            join: self.join.unwrap_or(line.join),
            cap: self.cap.unwrap_or(line.cap),
            dash: self.dash.clone().unwrap_or_else(|| line.dash.clone()),
        }
    }
}

/// Changes the lines of those items that have one; nothing takes them away.
///
/// # Errors
/// [`Refusal`] where one is not there.
pub fn change_line(job: &Job, items: &[ItemId], change: Option<&LineChange>) -> Result<Command, Refusal> {
    looks(job, items, |plain, look| {
        look.stroke = look.stroke.as_ref().and_then(|line| Some(change?.of(plain, line)));
        Ok(())
    })
}

/// Gives a shape, or the frame of a picture, another outline. Its lengths are those at a place scale of one.
///
/// # Errors
/// [`Refusal`] where the item is not there or has no outline of its own.
pub fn set_outline(job: &Job, item: &ItemId, outline: &Outline) -> Result<Command, Refusal> {
    content(job, item, |content| match content {
        Content::Shape { .. } => Ok(Content::Shape { outline: outline.clone() }),
        Content::Picture { picture, focus, fit, .. } => {
            Ok(Content::Picture { picture, focus, fit, frame: outline.clone() })
        }
        Content::Words { .. } | Content::Drawing { .. } | Content::Code { .. } => Err(Refusal::NoOutline),
    })
}
