//! The size of the type of one item.

use vatman_document::{Align, Command, Content, ItemId, Job, Place, RichText, TextFit};
use vatman_type::{TextBox, Typesetter};
use vatman_units::{Length, Placement, Ratio, Rect};

use crate::refusal::Refusal;

/// Sets the size of the type of an item in this piece. A box that would be too small for it grows, keeping its top edge and,
/// where no word fits the width, its middle.
///
/// # Errors
/// [`Refusal`] where the item is not there or holds no words, or the size is nothing.
pub fn set_type_size(job: &Job, item: &ItemId, size: Length, typesetter: &Typesetter) -> Result<Command, Refusal> {
    let found = job.find(item)?;
    let (item, plain) = (found.item, found.plain()?);
    let Content::Words { text, prompt } = plain.content else {
        return Err(Refusal::NoWords);
    };
    if !size.is_positive() || size > Length::inches(100.0) {
        return Err(Refusal::TypeSize);
    }
    let look = plain.look.type_look.clone().unwrap_or_default();
    let scale = Ratio::new(size.to_css_px() / look.size.to_css_px());
    let mut rect = item.place.at.rect;
    if look.fit != TextFit::Grow && look.fit != TextFit::AsTyped && look.curve.is_none() && look.lock_up.is_none() {
        let prompt = RichText::plain(prompt);
        let shown = if text.is_blank() { &prompt } else { text };
        let free = vatman_document::TypeLook { fit: TextFit::Grow, ..look.clone() };
        let set = |width: Length| {
            typesetter.set_cached(
                shown,
                &free,
                TextBox { width: width.to_css_px(), height: 0.0, scale: scale.get() },
                false,
            )
        };
        let hugs = look.fit.hugs();
        // Words that widen do so to the size somebody asks for: their lines are as typed.
        let widest = set(if hugs { Length::inches(900.0) } else { rect.w })
            .lines
            .iter()
            .map(|line| line.width)
            .fold(0.0, f64::max);
        // A hair more than needed, so that rounding never breaks a line.
        let wanted = Length::css_px(widest + 0.5);
        if wanted > rect.w {
            let share = match look.align {
                Align::Start | Align::Justified if hugs => 0.0,
                Align::End if hugs => 1.0,
                _ => 0.5,
            };
            rect = Rect { x: rect.x - (wanted - rect.w).scaled(share), w: wanted, ..rect };
        }
        if !hugs {
            rect.h = rect.h.max(Length::css_px(set(rect.w).height + 0.1));
        }
    }
    let place = Place { at: Placement { rect, ..item.place.at }, scale, ..item.place };
    Ok(Command::SetPlace { item: item.id.clone(), place })
}
