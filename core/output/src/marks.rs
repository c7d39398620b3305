//! What a print shop trims and reads by: crop marks at the corners, and a slug that names the sheet.

use kurbo::{BezPath, Shape as _, Size};

const MM: f64 = 96.0 / 25.4;

/// Length of a crop mark.
const LENGTH: f64 = 5.0 * MM;
/// Least distance from the trim, so that a mark never ends up on the piece.
const LEAST_OFFSET: f64 = 2.0 * MM;
/// Thickness of a crop mark: a quarter of a point.
pub(crate) const THICK: f64 = 0.25 / 0.75;

/// Dashes and gaps of a fold mark.
pub(crate) const DASH: [f64; 2] = [1.2 * MM, 0.8 * MM];

/// Distance of the slug from the marks it stands between.
pub(crate) const SLUG_INSET: f64 = 2.0 * MM;

/// Room around the trim for marks, in CSS pixels: what lies beyond the trim on every side of a page with marks.
pub(crate) fn room(bleed: f64) -> f64 {
    offset(bleed) + LENGTH + MM
}

/// Middle of the strip below the piece where the slug stands, from the trim.
pub(crate) fn slug_middle(bleed: f64) -> f64 {
    offset(bleed) + LENGTH / 2.0
}

fn offset(bleed: f64) -> f64 {
    bleed.max(LEAST_OFFSET)
}

/// The eight crop marks of a piece whose trim begins at the origin: each in line with an edge, outside the bleed.
pub(crate) fn crop_marks(trim: Size, bleed: f64) -> BezPath {
    let (near, far) = (offset(bleed), offset(bleed) + LENGTH);
    let mut path = BezPath::new();
    let mut line = |from: (f64, f64), to: (f64, f64)| path.extend(kurbo::Line::new(from, to).path_elements(0.1));
    for x in [0.0, trim.width] {
        line((x, -far), (x, -near));
        line((x, trim.height + near), (x, trim.height + far));
    }
    for y in [0.0, trim.height] {
        line((-far, y), (-near, y));
        line((trim.width + near, y), (trim.width + far, y));
    }
    path
}
