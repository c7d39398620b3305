//! Vector graphics in a job: arriving, changing places, taking on colours.

use vatman_document::{Color, Command, Content, Drawing, Item, ItemId, Job, Oklab, Paint, Place, Target, Tint};
use vatman_units::{Length, Placement, Rect};

use crate::refusal::Refusal;

fn drawing_of<'a>(job: &'a Job, id: &ItemId) -> Result<(&'a Item, &'a Drawing, Target), Refusal> {
    let found = job.find(id)?;
    let plain = found.plain()?;
    let Content::Drawing { drawing } = plain.content else {
        return Err(Refusal::NoDrawing);
    };
    Ok((found.item, drawing, plain.content_target()))
}

/// Gives a drawing without colours of its own (all black) one that reads where it arrives.
#[must_use]
pub fn inked(mut drawing: Drawing, ink: &Tint) -> Drawing {
    if drawing.colours() == [Drawing::black()] {
        drawing.recolour(|tint| *tint = ink.clone());
    }
    drawing
}

/// Puts another drawing in the place of one: about the same middle, as large as the old one's box holds, in its first colour where the
/// new one has no colours of its own.
///
/// # Errors
/// [`Refusal`] where the item is not there or no drawing.
pub fn swap_drawing(job: &Job, id: &ItemId, drawing: Drawing) -> Result<Command, Refusal> {
    let (item, old, target) = drawing_of(job, id)?;
    let drawing = match old.colours().as_slice() {
        [one] => inked(drawing, one),
        _ => drawing,
    };
    let mut commands = Vec::new();
    let shares = |other: &&Item| {
        other.id == item.id
            || (matches!(target, Target::Shared(_)) && other.kin == item.kin && other.release.content.is_none())
    };
    for other in job.items().filter(shares) {
        let rect = fitted(other.place.at.rect, aspect(&drawing));
        commands.push(Command::SetPlace {
            item: other.id.clone(),
            place: Place { at: Placement { rect, ..other.place.at }, ..other.place },
        });
    }
    commands.push(Command::SetContent { target, content: Content::Drawing { drawing } });
    Ok(Command::All { commands })
}

/// Width by height.
fn aspect(drawing: &Drawing) -> f64 {
    f64::from(drawing.width) / f64::from(drawing.height.max(1))
}

/// The largest box of an aspect with the same middle that another box holds.
pub(crate) fn fitted(old: Rect, aspect: f64) -> Rect {
    let (w, h) = (old.w.to_css_px(), old.h.to_css_px());
    let (fit_w, fit_h) = if w > h * aspect { (h * aspect, h) } else { (w, w / aspect) };
    let (fit_w, fit_h) = (Length::css_px(fit_w), Length::css_px(fit_h));
    Rect::new(old.x + (old.w - fit_w).half(), old.y + (old.h - fit_h).half(), fit_w, fit_h)
}

/// Paints every part of a drawing that has one colour with something else: a colour, a shared one, a gradient.
///
/// # Errors
/// [`Refusal`] where the item is not there or no drawing.
pub fn repaint(job: &Job, id: &ItemId, from: &Tint, to: &Paint) -> Result<Command, Refusal> {
    let (_, drawing, target) = drawing_of(job, id)?;
    let mut drawing = drawing.clone();
    match to {
        // A colour goes wherever the old one was, gradients included.
        Paint::Flat { tint, opacity } if opacity.get() >= 1.0 => drawing.recolour(|old| {
            if old == from {
                *old = tint.clone();
            }
        }),
        _ => drawing.repaint(from, to),
    }
    Ok(Command::SetContent { target, content: Content::Drawing { drawing } })
}

/// Maps every colour of a drawing to the nearest shared colour of the job, so that it follows the palette from then on. Different
/// colours stay different as far as there are shared ones: the largest differences are settled first.
///
/// # Errors
/// [`Refusal`] where the item is no drawing or the job has no shared colours.
pub fn map_to_palette(job: &Job, id: &ItemId) -> Result<Command, Refusal> {
    let (_, drawing, target) = drawing_of(job, id)?;
    if job.swatches.is_empty() {
        return Err(Refusal::NoPalette);
    }
    let mut drawing = drawing.clone();
    let palette: Vec<(Tint, Color)> =
        job.swatches.iter().map(|(id, swatch)| (Tint::Swatch(id.clone()), swatch.color)).collect();
    let mut taken: Vec<(Tint, Tint)> = Vec::new();
    for tint in drawing.colours() {
        let color = job.color(&tint);
        let cost = |(swatch, other): &&(Tint, Color)| {
            let used = taken.iter().filter(|(_, to)| to == swatch).count() as f64;
            Oklab::from(color).distance(Oklab::from(*other)) + used * 0.12
        };
        if let Some((to, _)) = palette.iter().min_by(|a, b| cost(a).total_cmp(&cost(b))) {
            taken.push((tint, to.clone()));
        }
    }
    drawing.recolour(|tint| {
        if let Some((_, to)) = taken.iter().find(|(from, _)| from == tint) {
            *tint = to.clone();
        }
    });
    Ok(Command::SetContent { target, content: Content::Drawing { drawing } })
}

#[cfg(test)]
mod tests {
    use std::sync::Arc;

    use super::*;
    use crate::testing::{Everything, job_with};
    use vatman_document::{DrawnPaint, DrawnPart, Swatch, SwatchId};

    fn drawing(colours: &[Color], w: u32, h: u32) -> Drawing {
        let part = |color: &Color| DrawnPart::Path {
            data: "M0 0H9V9H0Z".into(),
            even_odd: false,
            fill: Some(DrawnPaint::flat(*color)),
            stroke: None,
        };
        Drawing { name: "Jar".into(), width: w, height: h, parts: colours.iter().map(part).collect() }
    }

    fn job(drawing: Drawing) -> (Job, ItemId) {
        let mut job = job_with(1);
        let item = job.pieces[0].sides[0].items[0].clone();
        Arc::make_mut(job.kins.get_mut(&item.kin).unwrap()).content = Content::Drawing { drawing };
        (job, item.id)
    }

    fn shown(job: &Job) -> &Drawing {
        match &job.plain(job.items().next().unwrap()).unwrap().content {
            Content::Drawing { drawing } => drawing,
            other => panic!("{other:?}"),
        }
    }

    #[test]
    fn a_swapped_drawing_keeps_middle_and_colour() {
        let clay = Color::opaque(0x8c, 0x5a, 0x3c);
        let (mut job, id) = job(drawing(&[clay], 9, 9));
        swap_drawing(&job, &id, drawing(&[Color::BLACK], 200, 100)).unwrap().apply(&mut job, &Everything).unwrap();
        let rect = job.item(&id).unwrap().place.at.rect.to_css_px();
        assert_eq!((rect.x0, rect.y0, rect.width(), rect.height()), (0.0, 25.0, 100.0, 50.0));
        assert_eq!(shown(&job).colours(), [Tint::Own(clay)]);
    }

    #[test]
    fn a_drawing_takes_on_the_palette() {
        let colours = [Color::opaque(150, 90, 60), Color::opaque(240, 240, 230), Color::opaque(30, 30, 30)];
        let (mut job, id) = job(drawing(&colours, 9, 9));
        assert!(map_to_palette(&job, &id).is_err());
        for (name, color) in [
            ("clay", Color::opaque(0x8c, 0x5a, 0x3c)),
            ("slip", Color::opaque(0xf4, 0xef, 0xe6)),
            ("black", Color::opaque(0x23, 0x20, 0x1d)),
        ] {
            job.swatches.insert(SwatchId::new(name).unwrap(), Swatch { name: name.into(), color, ink: None });
        }
        map_to_palette(&job, &id).unwrap().apply(&mut job, &Everything).unwrap();
        let named: Vec<String> = shown(&job).colours().into_iter().map(String::from).collect();
        assert_eq!(named, ["@clay", "@slip", "@black"]);
        repaint(&job, &id, &Tint::Swatch(SwatchId::new("clay").unwrap()), &Paint::flat(Color::WHITE))
            .unwrap()
            .apply(&mut job, &Everything)
            .unwrap();
        assert_eq!(String::from(shown(&job).colours()[0].clone()), "#ffffff");
    }
}
