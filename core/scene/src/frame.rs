//! How a picture sits in its frame.

use kurbo::{Affine, Point, Rect, Size};
use vatman_document::{Crop, Focus, PictureFit};

/// How a picture is to be seen in its frame.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Shown {
    /// The point that stays in view.
    pub focus: Focus,
    /// Framing by hand, if any.
    pub crop: Option<Crop>,
    /// How the frame is taken up.
    pub fit: PictureFit,
}

/// Where a picture lies relative to its frame.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct PicturePlace {
    /// The whole picture, in coordinates turned and mirrored with it.
    pub dest: Rect,
    /// From those coordinates to the frame's.
    pub outward: Affine,
    /// From the frame's to those.
    pub inward: Affine,
}

/// Places a picture of `picture` size in a frame of `frame` size at the origin.
///
/// Filling, it just covers the frame and moves so that its focus comes as near the middle as covering allows; fitting, it lies
/// whole inside; tiling, one copy takes its share of the width. With a crop the given point lies in the middle at the given
/// zoom, turned and mirrored about the middle of the frame.
#[must_use]
pub fn picture_place(frame: Size, picture: Size, shown: Shown) -> PicturePlace {
    let dest = picture_box(frame, picture, shown);
    let middle = frame.to_vec2() / 2.0;
    let outward = shown.crop.map_or(Affine::IDENTITY, |crop| {
        let mirror = if crop.flip { Affine::scale_non_uniform(-1.0, 1.0) } else { Affine::IDENTITY };
        let turned = Affine::rotate(crop.turn.to_radians()) * mirror;
        if turned == Affine::IDENTITY {
            turned
        } else {
            Affine::translate(middle) * turned * Affine::translate(-middle)
        }
    });
    PicturePlace { dest, outward, inward: outward.inverse() }
}

/// The rectangle of a whole picture in a frame at the origin, before it is turned or mirrored.
#[must_use]
pub fn picture_box(frame: Size, picture: Size, shown: Shown) -> Rect {
    let (across, down) = (frame.width / picture.width, frame.height / picture.height);
    let base = match shown.fit {
        PictureFit::Fill => across.max(down),
        PictureFit::Fit => across.min(down),
        PictureFit::Tile => across / 4.0,
    };
    let Some(crop) = shown.crop else {
        return match shown.fit {
            PictureFit::Fill => cover(frame, picture, shown.focus, 1.0),
            PictureFit::Fit | PictureFit::Tile => centred(frame, picture * base, Focus::CENTRE),
        };
    };
    centred(frame, picture * base * crop.zoom.get(), crop.centre)
}

/// A size placed so that a point of it lies in the middle of a frame.
fn centred(frame: Size, size: Size, at: Focus) -> Rect {
    Rect::from_origin_size(
        Point::new(frame.width / 2.0 - size.width * at.x.get(), frame.height / 2.0 - size.height * at.y.get()),
        size,
    )
}

/// A picture that covers a frame at `zoom` of at least one, its focus as near the middle as covering allows.
pub(crate) fn cover(frame: Size, picture: Size, focus: Focus, zoom: f64) -> Rect {
    let size = picture * (frame.width / picture.width).max(frame.height / picture.height) * zoom.max(1.0);
    let held = |frame: f64, length: f64, at: f64| (frame / 2.0 - length * at).clamp(frame - length.max(frame), 0.0);
    Rect::from_origin_size(
        (held(frame.width, size.width, focus.x.get()), held(frame.height, size.height, focus.y.get())),
        size,
    )
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
                    let r = picture_box(
                        Size::new(w, h),
                        Size::new(pw, ph),
                        Shown { focus: focus(at, 1.0 - at), crop: None, fit: PictureFit::Fill },
                    );
                    assert!(
                        r.x0 <= 1e-9 && r.y0 <= 1e-9 && r.x1 >= w - 1e-9 && r.y1 >= h - 1e-9,
                        "{r:?} does not cover {w} x {h}"
                    );
                    assert!((r.width() / r.height() - pw / ph).abs() < 1e-9, "the picture is distorted");
                }
            }
        }
    }

    #[test]
    fn a_crop_puts_its_point_in_the_middle() {
        let crop = Crop { zoom: Ratio::new(2.0), ..Crop::about(focus(0.25, 0.5)) };
        let r = picture_box(
            Size::new(100.0, 100.0),
            Size::new(200.0, 100.0),
            Shown { focus: Focus::CENTRE, crop: Some(crop), fit: PictureFit::Fill },
        );
        assert_eq!((r.width(), r.height()), (400.0, 200.0));
        assert_eq!((r.x0 + 0.25 * r.width(), r.y0 + 0.5 * r.height()), (50.0, 50.0));
    }

    #[test]
    fn fitted_a_picture_lies_whole_inside_and_touches_two_sides() {
        for (pw, ph) in [(4000.0, 3000.0), (10.0, 90.0)] {
            let r = picture_box(
                Size::new(300.0, 200.0),
                Size::new(pw, ph),
                Shown { focus: focus(0.9, 0.1), crop: None, fit: PictureFit::Fit },
            );
            assert!(r.x0 >= -1e-9 && r.y0 >= -1e-9 && r.x1 <= 300.0 + 1e-9 && r.y1 <= 200.0 + 1e-9);
            assert!((r.width() - 300.0).abs() < 1e-9 || (r.height() - 200.0).abs() < 1e-9);
            assert!((r.center().x - 150.0).abs() < 1e-9 && (r.center().y - 100.0).abs() < 1e-9);
        }
    }

    #[test]
    fn a_mirrored_picture_shows_its_right_half_on_the_left() {
        let crop = Crop { flip: true, ..Crop::about(Focus::CENTRE) };
        let place = picture_place(
            Size::new(100.0, 100.0),
            Size::new(100.0, 100.0),
            Shown { focus: Focus::CENTRE, crop: Some(crop), fit: PictureFit::Fill },
        );
        assert!((place.outward * Point::new(90.0, 10.0)).distance(Point::new(10.0, 10.0)) < 1e-9);
        assert!((place.inward * place.outward * Point::new(3.0, 4.0)).distance(Point::new(3.0, 4.0)) < 1e-9);
    }
}
