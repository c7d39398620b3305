//! What matters in a picture stays in its frame, whatever shape the frame takes.

use vatman_document::{Content, Crop, Focus, Item, Job, PictureFit, Place};
use vatman_units::Ratio;

use crate::studio::Studio;

/// Frames whose proportions differ by less than this factor show the same part of a picture.
const SAME_SHAPE: f64 = 1.08;

/// The crop of an item at a new place: about the same point as before where somebody chose one, else about what draws the eye where another
/// part of the picture is shown than before; moved no further than it takes for the spots that something points at to be seen. It covers its frame.
pub(crate) fn crop_at(studio: &Studio, job: &Job, item: &Item, place: &Place, spots: &[Focus]) -> Option<Crop> {
    let own = item.place.crop;
    let plain = job.plain(item)?;
    let Content::Picture { picture: Some(picture), focus, fit: PictureFit::Fill, .. } = plain.content else {
        return own;
    };
    let aspect = |place: &Place| {
        let size = place.at.rect.size();
        size.w.to_css_px().max(1e-6) / size.h.to_css_px().max(1e-6)
    };
    let (was, now) = (aspect(&item.place), aspect(place));
    let Some((w, h)) = studio.picture_size(picture, &plain.look) else { return own };
    let shape = f64::from(w) / f64::from(h.max(1));
    let crop = match own {
        Some(crop) => covering(crop, shape, now),
        // One that was set is heeded wherever the picture is shown.
        None if *focus != Focus::CENTRE || (was / now).max(now / was) < SAME_SHAPE => {
            covering(Crop::about(*focus), shape, now)
        }
        None => covering(Crop::about(in_view(studio.pictures.focus(picture)?, shape, now)), shape, now),
    };
    let seen = covering(with_in_view(crop, spots, shape, now), shape, now);
    if own.is_none() && seen == covering(Crop::about(*focus), shape, now) { None } else { Some(seen) }
}

/// What draws the eye lies within this share of what is seen, about its middle.
const WELL_INSIDE: f64 = 0.7;

/// The point about which a picture is shown so that a point of it lies well inside its frame: the middle, moved no further than that takes. A
/// picture was composed about its middle by whoever took it.
fn in_view(point: Focus, picture: f64, frame: f64) -> Focus {
    let (across, down) = ((frame / picture).min(1.0), (picture / frame).min(1.0));
    let about = |at: Ratio, seen: f64| {
        let reach = seen * WELL_INSIDE / 2.0;
        Ratio::new(0.5_f64.clamp(at.get() - reach, at.get() + reach))
    };
    Focus { x: about(point.x, across), y: about(point.y, down) }
}

/// A crop moved no further than it takes for points of the picture to lie in what is seen, a little off its edges; for as many of them as there is
/// room for where they are too far apart.
fn with_in_view(crop: Crop, points: &[Focus], picture: f64, frame: f64) -> Crop {
    let (across, down) = seen_shares(crop, picture, frame);
    let about = |at: Ratio, of: &dyn Fn(&Focus) -> f64, seen: f64| {
        let reach = seen * SEEN / 2.0;
        let mut all: Vec<f64> = points.iter().map(of).collect();
        all.sort_by(f64::total_cmp);
        let from = |first: usize| all[first..].iter().take_while(|point| **point <= all[first] + 2.0 * reach).count();
        let most = (0..all.len()).rev().max_by_key(|first| from(*first)).map(|first| &all[first..first + from(first)]);
        let (Some(low), Some(high)) = (most.and_then(<[f64]>::first), most.and_then(<[f64]>::last)) else { return at };
        Ratio::new(at.get().max(high - reach).min(low + reach))
    };
    let x = about(crop.centre.x, &|at| at.x.get(), across);
    let y = about(crop.centre.y, &|at| at.y.get(), down);
    Crop { centre: Focus { x, y }, ..crop }
}

/// What something points at lies within this share of what is seen, about its middle.
pub(super) const SEEN: f64 = 0.94;

/// The shares of a picture, across and down, that a crop shows.
fn seen_shares(crop: Crop, picture: f64, frame: f64) -> (f64, f64) {
    let zoom = crop.zoom.get().max(1.0);
    ((frame / picture).min(1.0) / zoom, (picture / frame).min(1.0) / zoom)
}

/// A crop held so that the picture covers its frame: as near its point as that allows, and no farther than covering. One that turns the picture
/// stays as it is. `picture` and `frame` are proportions, width by height.
pub(crate) fn covering(crop: Crop, picture: f64, frame: f64) -> Crop {
    if crop.turn != vatman_units::Angle::ZERO {
        return crop;
    }
    let zoom = crop.zoom.get().max(1.0);
    let (across, down) = seen_shares(crop, picture, frame);
    let held = |at: Ratio, seen: f64| Ratio::new(at.get().clamp(seen / 2.0, 1.0 - seen / 2.0));
    let centre = Focus { x: held(crop.centre.x, across), y: held(crop.centre.y, down) };
    Crop { centre, zoom: Ratio::new(zoom), ..crop }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;
    use vatman_scene::{Shown, picture_place};

    #[test]
    fn a_picture_is_moved_no_further_than_its_point_needs() {
        let at = |x: f64, y: f64| Focus { x: Ratio::new(x), y: Ratio::new(y) };
        // Half the width is seen: what lies within 0.35 of it about the middle is in view as it is.
        assert_eq!(in_view(at(0.6, 0.2), 2.0, 1.0), at(0.5, 0.5));
        assert_eq!(in_view(at(0.8, 0.5), 2.0, 1.0), at(0.625, 0.5));
        assert_eq!(in_view(at(0.1, 0.9), 1.0, 2.0), at(0.45, 0.725));
    }

    #[test]
    fn points_are_brought_into_view_as_many_as_there_is_room_for() {
        let at = |x: f64| Focus { x: Ratio::new(x), y: Ratio::HALF };
        let seen = |points: &[Focus]| with_in_view(Crop::about(Focus::CENTRE), points, 2.0, 1.0).centre.x.get();
        // Half the width is seen, less a little at both edges.
        let reach = SEEN / 4.0;
        assert!((seen(&[]) - 0.5).abs() < 1e-9 && (seen(&[at(0.4), at(0.6)]) - 0.5).abs() < 1e-9);
        assert!((seen(&[at(0.1)]) - (0.1 + reach)).abs() < 1e-6);
        assert!((seen(&[at(0.9), at(0.6)]) - (0.9 - reach)).abs() < 1e-6);
        // All three are too far apart: the two that go together are seen.
        assert!((seen(&[at(0.9), at(0.1), at(0.2)]) - (0.1 + reach)).abs() < 1e-6);
    }

    proptest! {
        #[test]
        fn the_frame_is_covered_and_the_point_in_view(
            (x, y, zoom) in (0.0f64..1.0, 0.0f64..1.0, 0.5f64..3.0),
            (picture, frame) in (0.2f64..5.0, 0.2f64..5.0),
        ) {
            let point = Focus { x: Ratio::new(x), y: Ratio::new(y) };
            let crop = covering(Crop { zoom: Ratio::new(zoom), ..Crop::about(point) }, picture, frame);
            let frame = kurbo::Size::new(1_000.0 * frame, 1_000.0);
            let shown = Shown { focus: Focus::CENTRE, crop: Some(crop), fit: PictureFit::Fill };
            let dest = picture_place(frame, kurbo::Size::new(800.0 * picture, 800.0), shown).dest;
            prop_assert!(dest.x0 < 0.1 && dest.y0 < 0.1 && dest.x1 > frame.width - 0.1 && dest.y1 > frame.height - 0.1, "{dest:?}");
            let at = (dest.x0 + dest.width() * x, dest.y0 + dest.height() * y);
            prop_assert!(at.0 > -0.5 && at.0 < frame.width + 0.5 && at.1 > -0.5 && at.1 < frame.height + 0.5, "{at:?}");
            // What can be held in the middle is in the middle.
            let reach = covering(crop, picture, frame.width / frame.height);
            prop_assert_eq!(reach, crop, "held once, held");
        }
    }
}
