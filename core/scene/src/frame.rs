//! How a picture sits in its frame.

use kurbo::{Point, Rect, Size};
use vatman_document::{Crop, Focus};

/// The rectangle of a whole picture of `picture` size so that it fills a frame of `frame` size at the origin.
///
/// Without a crop the picture just covers the frame and moves so that its focus comes as near the
/// middle as covering allows. With one, the given point lies in the middle at the given zoom.
#[must_use]
pub fn picture_box(frame: Size, picture: Size, focus: Focus, crop: Option<Crop>) -> Rect {
    let cover = (frame.width / picture.width).max(frame.height / picture.height);
    let (zoom, centre) = crop.map_or((1.0, focus), |crop| (crop.zoom.get(), crop.centre));
    let size = picture * cover * zoom;
    let middle = |frame: f64, length: f64, at: f64| {
        let start = frame / 2.0 - length * at;
        if crop.is_none() { start.clamp(frame - length.max(frame), 0.0) } else { start }
    };
    let origin = Point::new(middle(frame.width, size.width, centre.x.get()), middle(frame.height, size.height, centre.y.get()));
    Rect::from_origin_size(origin, size)
}

#[cfg(test)]
mod tests {
    use super::*;
    use vatman_units::Ratio;

    fn focus(x: f64, y: f64) -> Focus {
        Focus { x: Ratio::new(x), y: Ratio::new(y) }
    }

    #[test]
    fn a_frame_is_covered_whatever_the_shapes_and_the_focus() {
        for (w, h) in [(100.0, 100.0), (300.0, 20.0), (20.0, 300.0)] {
            for (pw, ph) in [(4000.0, 3000.0), (10.0, 90.0), (50.0, 50.0)] {
                for at in [0.0, 0.2, 0.5, 0.93, 1.0] {
                    let r = picture_box(Size::new(w, h), Size::new(pw, ph), focus(at, 1.0 - at), None);
                    assert!(r.x0 <= 1e-9 && r.y0 <= 1e-9 && r.x1 >= w - 1e-9 && r.y1 >= h - 1e-9, "{r:?} does not cover {w} x {h}");
                    assert!((r.width() / r.height() - pw / ph).abs() < 1e-9, "the picture is distorted");
                }
            }
        }
    }

    #[test]
    fn a_crop_puts_its_point_in_the_middle() {
        let crop = Crop { centre: focus(0.25, 0.5), zoom: Ratio::new(2.0) };
        let r = picture_box(Size::new(100.0, 100.0), Size::new(200.0, 100.0), Focus::CENTRE, Some(crop));
        assert_eq!((r.width(), r.height()), (400.0, 200.0));
        assert_eq!((r.x0 + 0.25 * r.width(), r.y0 + 0.5 * r.height()), (50.0, 50.0));
    }
}
