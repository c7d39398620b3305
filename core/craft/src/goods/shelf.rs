//! The things artwork is printed on, with the areas that can be printed and the colours they come in.

use std::sync::LazyLock;

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_document::Color;

/// A part of a thing that can be printed.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct GoodArea {
    /// What it is called.
    pub name: String,
    /// Width and height that can be printed, in millimetres.
    pub size: [f64; 2],
    /// Left, top and width of it on the picture of the thing, in units of that.
    pub at: [f64; 3],
    /// What is not to be crossed in it, from its left, as shares of its width: the seam or the handle.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub clear: Vec<[f64; 2]>,
}

/// A thing artwork is printed on.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct Good {
    /// Identity.
    pub id: String,
    /// What it is called.
    pub name: String,
    /// Width and height of its picture.
    pub view: [f64; 2],
    /// Its outline, as path data.
    #[serde(rename = "outline")]
    pub outline: String,
    /// Seams and folds, as path data.
    pub seams: String,
    /// Where it can be printed.
    pub areas: Vec<GoodArea>,
    /// The colours it comes in.
    pub colours: Vec<Color>,
}

static GOODS: LazyLock<Vec<Good>> =
    LazyLock::new(|| serde_json::from_str(include_str!("../../../../assets/goods.json")).unwrap_or_default());

/// The things there are.
#[must_use]
pub fn goods() -> &'static [Good] {
    &GOODS
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_thing_can_be_drawn_and_its_areas_lie_on_it() {
        assert!(goods().len() >= 6);
        for good in goods() {
            let outline = kurbo::BezPath::from_svg(&good.outline).unwrap();
            let box_ = kurbo::Shape::bounding_box(&outline);
            assert!(
                box_.x0 >= 0.0 && box_.y0 >= 0.0 && box_.x1 <= good.view[0] && box_.y1 <= good.view[1],
                "{}",
                good.id
            );
            assert!(kurbo::BezPath::from_svg(&good.seams).is_ok() && good.colours.len() >= 2, "{}", good.id);
            for area in &good.areas {
                let high = area.at[2] * area.size[1] / area.size[0];
                let at = kurbo::Rect::new(area.at[0], area.at[1], area.at[0] + area.at[2], area.at[1] + high);
                assert!(box_.union(at) == box_, "{} {}", good.id, area.name);
            }
        }
    }
}
