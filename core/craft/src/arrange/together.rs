//! Several items scaled or turned as if they were one.

use kurbo::{Affine, Point, Vec2};
use vatman_document::{Command, Item, ItemId, Job, Place};
use vatman_units::{Angle, Length, Placement, Ratio, Rect};

use crate::refusal::Refusal;

fn found<'a>(job: &'a Job, items: &[ItemId]) -> Result<Vec<&'a Item>, Refusal> {
    items.iter().map(|id| Ok(job.find(id)?.item)).collect()
}

fn centre(rect: Rect) -> Point {
    rect.to_css_px().center()
}

fn around(middle: Point, w: Length, h: Length) -> Rect {
    let origin = middle - Vec2::new(w.to_css_px() / 2.0, h.to_css_px() / 2.0);
    Rect::new(Length::css_px(origin.x), Length::css_px(origin.y), w, h)
}

/// Scales items about a point of the sheet that stays where it is; type, lines and radii scale with them.
///
/// # Errors
/// [`Refusal`] where one is not there, or the factor is not between a thousandth and a thousand.
pub fn scale_together(
    job: &Job,
    items: &[ItemId],
    about: vatman_units::Point,
    factor: f64,
) -> Result<Command, Refusal> {
    if !(1e-3..=1e3).contains(&factor) {
        return Err(Refusal::ScaleFactor);
    }
    let fixed = Point::new(about.x.to_css_px(), about.y.to_css_px());
    let place = |item: &Item| {
        let rect = item.place.at.rect;
        let middle = fixed + (centre(rect) - fixed) * factor;
        let at = Placement { rect: around(middle, rect.w.scaled(factor), rect.h.scaled(factor)), ..item.place.at };
        Place { at, scale: Ratio::new(item.place.scale.get() * factor), ..item.place }
    };
    let commands =
        found(job, items)?.into_iter().map(|item| Command::SetPlace { item: item.id.clone(), place: place(item) });
    Ok(Command::All { commands: commands.collect() })
}

/// Turns items clockwise about a point of the sheet.
///
/// # Errors
/// [`Refusal`] where one is not there.
pub fn turn_together(job: &Job, items: &[ItemId], about: vatman_units::Point, by: Angle) -> Result<Command, Refusal> {
    let turned = Affine::rotate_about(by.to_radians(), (about.x.to_css_px(), about.y.to_css_px()));
    let place = |item: &Item| {
        let rect = item.place.at.rect;
        let turn = Angle::degrees(item.place.at.turn.to_degrees() + by.to_degrees()).normalised();
        Place {
            at: Placement { rect: around(turned * centre(rect), rect.w, rect.h), turn, ..item.place.at },
            ..item.place
        }
    };
    let commands =
        found(job, items)?.into_iter().map(|item| Command::SetPlace { item: item.id.clone(), place: place(item) });
    Ok(Command::All { commands: commands.collect() })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::testing::{Everything, job_with};
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn distances_scale_and_angles_stay(factor in 0.05f64..8.0, x in -500.0f64..500.0, y in -500.0f64..500.0) {
            let mut job = job_with(3);
            let items: Vec<ItemId> = job.items().map(|item| item.id.clone()).collect();
            let about = vatman_units::Point { x: Length::css_px(x), y: Length::css_px(y) };
            let middles = |job: &Job| job.items().map(|item| centre(item.place.at.rect)).collect::<Vec<_>>();
            let before = middles(&job);
            scale_together(&job, &items, about, factor).unwrap().apply(&mut job, &Everything).unwrap();
            let after = middles(&job);
            for (a, b) in before.iter().zip(&after) {
                let fixed = Point::new(x, y);
                prop_assert!((*b - fixed - (*a - fixed) * factor).hypot() < 0.01);
            }
            prop_assert!(job.items().all(|item| (item.place.scale.get() - factor).abs() < 1e-6));
        }

        #[test]
        fn a_whole_turn_in_parts_comes_back(parts in 2u32..9) {
            let mut job = job_with(3);
            let before = job.clone();
            let items: Vec<ItemId> = job.items().map(|item| item.id.clone()).collect();
            let about = vatman_units::Point { x: Length::css_px(200.0), y: Length::css_px(90.0) };
            for _ in 0..parts {
                turn_together(&job, &items, about, Angle::degrees(360.0 / f64::from(parts))).unwrap().apply(&mut job, &Everything).unwrap();
            }
            for (a, b) in before.items().zip(job.items()) {
                prop_assert!(centre(a.place.at.rect).distance(centre(b.place.at.rect)) < 0.01);
                prop_assert!(b.place.at.turn.to_degrees().abs() < 0.001);
            }
        }
    }
}
