//! The least size of type that is read where a sheet is seen.

use vatman_document::{Format, TypeLook};
use vatman_type::Typesetter;
use vatman_units::{Length, Unit};

use crate::compose::place::PlaceEntry;

/// The least size of type of a place. What is read are the small letters: a family in which they are lower than usual has to be
/// larger. One in which they are higher gains nothing by it, as print shops and places go by the size.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(crate) struct LeastType(Length);

/// Height of small letters as a share of the em in usual families for text.
const USUAL: f64 = 0.48;
/// How much larger a family with low small letters is asked to be at most.
const MOST: f64 = 1.5;

impl LeastType {
    /// 6 points in print, and on a screen 2.6 % of the width: more than 10 pixels where the sheet is seen 400 pixels wide, as on a
    /// phone. What is wider than that for its height is seen larger; what is met at about its own size, as ads are, has letters of
    /// 1.8 mm.
    pub(crate) fn at(place: &PlaceEntry) -> Self {
        let Format { size, unit, .. } = &place.format;
        if *unit != Unit::Px {
            return Self(Length::pt(6.0));
        }
        let own_size = place.seen.is_some_and(|seen| (seen - size.w).abs() < size.w.scaled(0.2));
        let at_least = if own_size { Length::mm(1.8) } else { size.measure().scaled(0.021) };
        Self(size.w.min(size.h.scaled(1.25)).scaled(0.026).max(at_least))
    }

    /// In families whose small letters are not lower than usual.
    pub(crate) const fn usual(self) -> Length {
        self.0
    }

    /// In the family of a look.
    pub(crate) fn of(self, look: &TypeLook, typesetter: &Typesetter) -> Length {
        self.0.scaled(lowness(look, typesetter))
    }
}

/// How much larger than usual the type of a look has to be for its small letters to be as high as usual, 1 to [`MOST`]. Capitals are
/// never low.
pub(crate) fn lowness(look: &TypeLook, typesetter: &Typesetter) -> f64 {
    if look.caps { 1.0 } else { (USUAL / typesetter.library().x_height(&look.family)).clamp(1.0, MOST) }
}
