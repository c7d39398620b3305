//! Drawings: vector graphics whose parts can be recoloured one by one.

use kurbo::BezPath;
use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_units::Ratio;

use crate::{AssetId, Blend, Cap, Color, Fault, Join, Paint, Stop, Tint};

/// A vector graphic in units of its own, stretched to the box of its item.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct Drawing {
    /// What people call it.
    pub name: String,
    /// Width of its box, in its own units.
    pub width: u32,
    /// Height of its box.
    pub height: u32,
    /// Back to front.
    pub parts: Vec<DrawnPart>,
}

/// A piece of a drawing. Coordinates are those of the drawing; paths are SVG path data.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(tag = "kind", rename_all = "camelCase", deny_unknown_fields)]
pub enum DrawnPart {
    /// An outline.
    Path {
        /// SVG path data.
        data: String,
        /// Whether it is filled by the even-odd rule instead of the non-zero one.
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        #[ts(as = "Option<bool>", optional)]
        even_odd: bool,
        /// Fill.
        fill: Option<DrawnPaint>,
        /// Line above the fill.
        stroke: Option<DrawnStroke>,
    },
    /// What cannot be said in outlines, as pixels.
    Picture {
        /// The picture.
        picture: AssetId,
        /// Left, top, width and height of its box.
        at: [Ratio; 4],
    },
    /// Several together.
    Group(DrawnGroup),
}

/// Several parts together.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct DrawnGroup {
    /// Of the whole.
    pub opacity: Ratio,
    /// Mixing with what lies below in the drawing.
    pub blend: Blend,
    /// Outline it is seen through.
    pub clip: Option<String>,
    /// What it is seen through, where that is more than an outline.
    pub mask: Option<DrawnMask>,
    /// Thrown behind by all of it together.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    #[ts(as = "Option<Vec<DrawnShadow>>", optional)]
    pub shadows: Vec<DrawnShadow>,
    /// Standard deviation by which all of it together is blurred, in units of the drawing.
    #[serde(default, skip_serializing_if = "is_none")]
    #[ts(as = "Option<Ratio>", optional)]
    pub blur: Ratio,
    /// Back to front.
    pub parts: Vec<DrawnPart>,
}

impl DrawnGroup {
    /// Most shadows of one group.
    pub const MOST_SHADOWS: usize = 8;

    /// A group that only holds parts together.
    #[must_use]
    pub fn of(parts: Vec<DrawnPart>) -> Self {
        let (shadows, blur) = (Vec::new(), Ratio::ZERO);
        Self { opacity: Ratio::ONE, blend: Blend::Normal, clip: None, mask: None, shadows, blur, parts }
    }

    fn is_plain(&self) -> bool {
        let Self { opacity, blend, clip, mask, shadows, blur, parts: _ } = self;
        let (whole, clear) = (*opacity == Ratio::ONE && *blend == Blend::Normal, *blur == Ratio::ZERO);
        whole && clear && clip.is_none() && mask.is_none() && shadows.is_empty()
    }
}

#[expect(clippy::trivially_copy_pass_by_ref, reason = "as the serialiser asks")]
fn is_none(value: &Ratio) -> bool {
    *value == Ratio::ZERO
}

/// A shadow a group of parts throws. Lengths are in units of the drawing.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct DrawnShadow {
    /// To the right.
    pub dx: Ratio,
    /// Down.
    pub dy: Ratio,
    /// Standard deviation of the blur.
    pub sigma: Ratio,
    /// Colour.
    pub tint: Tint,
    /// 0 to 1.
    pub opacity: Ratio,
}

/// Parts through which others are seen.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct DrawnMask {
    /// By how light they are, instead of by how opaque.
    pub luminance: bool,
    /// Back to front.
    pub parts: Vec<DrawnPart>,
}

/// A line of a drawing, centred on its outline.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct DrawnStroke {
    /// Paint.
    pub paint: DrawnPaint,
    /// Width, in units of the drawing.
    pub width: Ratio,
    /// Corners.
    pub join: Join,
    /// Ends.
    pub cap: Cap,
    /// Dashes and gaps in turn, in units of the drawing.
    pub dash: Vec<Ratio>,
}

impl DrawnShadow {
    /// Farthest it reaches in any direction: as far as the longest side of a drawing.
    const FAR: f64 = 100_000.0;

    fn fault(&self) -> Option<Fault> {
        let far = |length: Ratio| length.get().abs() > Self::FAR;
        if far(self.dx) || far(self.dy) || far(self.sigma) || self.sigma.get() < 0.0 {
            return Some(Fault::ShadowReach);
        }
        (!self.opacity.is_fraction()).then_some(Fault::EffectStrength)
    }
}

/// What a gradient of a drawing does beyond its ends.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum Spread {
    /// The end colours go on.
    #[default]
    Hold,
    /// It begins again.
    Repeat,
    /// It runs back and forth.
    Mirror,
}

impl Spread {
    fn is_hold(&self) -> bool {
        *self == Self::Hold
    }
}

/// What a part is painted with.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(tag = "kind", rename_all = "camelCase", deny_unknown_fields)]
pub enum DrawnPaint {
    /// A fill as any item has, over the box of the part.
    Fitted {
        /// The fill.
        paint: Paint,
    },
    /// Colours along a line of the drawing.
    Linear {
        /// Where the first stop lies: x and y.
        from: [Ratio; 2],
        /// Where the last stop lies.
        to: [Ratio; 2],
        /// Two or more, rising.
        stops: Vec<Stop>,
        /// Beyond its ends.
        #[serde(default, skip_serializing_if = "Spread::is_hold")]
        #[ts(as = "Option<Spread>", optional)]
        spread: Spread,
    },
    /// Colours around a point of the drawing.
    Radial {
        /// Where the first stop lies.
        centre: [Ratio; 2],
        /// How far out the last one lies.
        radius: Ratio,
        /// From the circle of radius and centre to the drawing: a, b, c, d, e, f of an SVG matrix.
        matrix: [Ratio; 6],
        /// Two or more, rising.
        stops: Vec<Stop>,
        /// Beyond the circle.
        #[serde(default, skip_serializing_if = "Spread::is_hold")]
        #[ts(as = "Option<Spread>", optional)]
        spread: Spread,
    },
}

impl DrawnPaint {
    /// One opaque colour.
    #[must_use]
    pub fn flat(tint: impl Into<Tint>) -> Self {
        Self::Fitted { paint: Paint::flat(tint) }
    }

    fn tints_mut(&mut self) -> Box<dyn Iterator<Item = &mut Tint> + '_> {
        match self {
            Self::Fitted { paint } => Box::new(paint.tints_mut()),
            Self::Linear { stops, .. } | Self::Radial { stops, .. } => {
                Box::new(stops.iter_mut().map(|stop| &mut stop.tint))
            }
        }
    }

    fn tints(&self) -> Box<dyn Iterator<Item = &Tint> + '_> {
        match self {
            Self::Fitted { paint } => Box::new(paint.tints()),
            Self::Linear { stops, .. } | Self::Radial { stops, .. } => Box::new(stops.iter().map(|stop| &stop.tint)),
        }
    }
}

impl Drawing {
    /// Deepest nesting of groups and masks, so that what is kept can be read back.
    pub const DEEPEST: usize = 24;
    /// Most letters of path data in one drawing.
    pub const LONGEST: usize = 2_000_000;

    /// Every paint of it, in the order it is drawn.
    pub fn paints(&self) -> Vec<&DrawnPaint> {
        let mut out = Vec::new();
        each(&self.parts, &mut |part| {
            if let DrawnPart::Path { fill, stroke, .. } = part {
                out.extend(fill.iter().chain(stroke.iter().map(|stroke| &stroke.paint)));
            }
        });
        out
    }

    fn shadows(&self) -> Vec<&DrawnShadow> {
        let mut out = Vec::new();
        every(&self.parts, &mut |part| {
            if let DrawnPart::Group(group) = part {
                out.extend(&group.shadows);
            }
        });
        out
    }

    /// Every colour of it, in the order it is drawn, with repeats.
    #[must_use]
    pub fn tints(&self) -> Vec<&Tint> {
        self.paints()
            .into_iter()
            .flat_map(DrawnPaint::tints)
            .chain(self.shadows().into_iter().map(|shadow| &shadow.tint))
            .collect()
    }

    /// Its different colours in the order they are first drawn: what can be recoloured one by one.
    #[must_use]
    pub fn colours(&self) -> Vec<Tint> {
        let mut out: Vec<Tint> = Vec::new();
        for tint in self.tints() {
            if !out.contains(tint) {
                out.push(tint.clone());
            }
        }
        out
    }

    /// Changes every colour.
    pub fn recolour(&mut self, mut change: impl FnMut(&mut Tint)) {
        each_mut(&mut self.parts, &mut |part| match part {
            DrawnPart::Path { fill, stroke, .. } => {
                for paint in fill.iter_mut().chain(stroke.iter_mut().map(|stroke| &mut stroke.paint)) {
                    paint.tints_mut().for_each(&mut change);
                }
            }
            DrawnPart::Group(group) => group.shadows.iter_mut().for_each(|shadow| change(&mut shadow.tint)),
            DrawnPart::Picture { .. } => {}
        });
    }

    /// Paints every part that has one colour with something else.
    pub fn repaint(&mut self, from: &Tint, to: &Paint) {
        let is = |paint: &DrawnPaint| matches!(paint, DrawnPaint::Fitted { paint: Paint::Flat { tint, .. } } if tint == from);
        each_mut(&mut self.parts, &mut |part| {
            if let DrawnPart::Path { fill, stroke, .. } = part {
                for paint in
                    fill.iter_mut().chain(stroke.iter_mut().map(|stroke| &mut stroke.paint)).filter(|paint| is(paint))
                {
                    *paint = DrawnPaint::Fitted { paint: to.clone() };
                }
            }
        });
    }

    /// Why it cannot be kept, if so.
    #[must_use]
    pub fn fault(&self) -> Option<Fault> {
        if self.width == 0 || self.height == 0 || self.width > 100_000 || self.height > 100_000 {
            return Some(Fault::DrawingBox);
        }
        if self.depth() > Self::DEEPEST {
            return Some(Fault::DrawingDepth);
        }
        let (mut letters, mut count, mut wrong) = (0, 0, None);
        every(&self.parts, &mut |part| {
            count += 1;
            let data = match part {
                DrawnPart::Path { data, fill, stroke, .. } => {
                    let bad = fill
                        .iter()
                        .chain(stroke.iter().map(|stroke| &stroke.paint))
                        .find_map(|paint| if let DrawnPaint::Fitted { paint } = paint { paint.fault() } else { None });
                    wrong = wrong.take().or(bad);
                    Some(data)
                }
                DrawnPart::Group(group) => {
                    wrong = wrong.take().or(group.shadows.iter().find_map(DrawnShadow::fault));
                    if group.shadows.len() > DrawnGroup::MOST_SHADOWS {
                        wrong = Some(Fault::EffectCount);
                    }
                    if !(0.0..=100_000.0).contains(&group.blur.get()) {
                        wrong = Some(Fault::Frost);
                    }
                    group.clip.as_ref()
                }
                DrawnPart::Picture { .. } => None,
            };
            if let Some(data) = data {
                letters += data.len();
                if BezPath::from_svg(data).is_err() {
                    wrong = Some(Fault::DrawingData);
                }
            }
        });
        if letters > Self::LONGEST || count > 20_000 {
            return Some(Fault::DrawingSize);
        }
        wrong
    }

    /// The pictures in it, in the order they are drawn.
    #[must_use]
    pub fn pictures(&self) -> Vec<&AssetId> {
        let mut out = Vec::new();
        every(&self.parts, &mut |part| {
            if let DrawnPart::Picture { picture, .. } = part {
                out.push(picture);
            }
        });
        out
    }

    /// How deep groups and masks lie in each other; 0 without any.
    #[must_use]
    pub fn depth(&self) -> usize {
        depth(&self.parts)
    }

    /// The same drawing without groups that only hold others together.
    #[must_use]
    pub fn flattened(mut self) -> Self {
        self.parts = flattened(self.parts);
        self
    }

    /// One solid colour, as a drawing without colours of its own has.
    #[must_use]
    pub fn black() -> Tint {
        Color::BLACK.into()
    }
}

fn depth(parts: &[DrawnPart]) -> usize {
    let of = |part: &DrawnPart| match part {
        DrawnPart::Path { .. } | DrawnPart::Picture { .. } => 0,
        DrawnPart::Group(DrawnGroup { parts, mask, .. }) => {
            1 + depth(parts).max(mask.as_ref().map_or(0, |mask| 1 + depth(&mask.parts)))
        }
    };
    parts.iter().map(of).max().unwrap_or(0)
}

fn flattened(parts: Vec<DrawnPart>) -> Vec<DrawnPart> {
    let mut out = Vec::with_capacity(parts.len());
    for part in parts {
        match part {
            DrawnPart::Group(group) if group.is_plain() => out.extend(flattened(group.parts)),
            DrawnPart::Group(group) => {
                let mask = group.mask.map(|mask| DrawnMask { parts: flattened(mask.parts), ..mask });
                out.push(DrawnPart::Group(DrawnGroup { mask, parts: flattened(group.parts), ..group }));
            }
            other => out.push(other),
        }
    }
    out
}

/// Every part, those of masks too.
fn every<'a>(parts: &'a [DrawnPart], visit: &mut dyn FnMut(&'a DrawnPart)) {
    for part in parts {
        visit(part);
        if let DrawnPart::Group(DrawnGroup { parts, mask, .. }) = part {
            every(parts, visit);
            mask.iter().for_each(|mask| every(&mask.parts, visit));
        }
    }
}

fn each<'a>(parts: &'a [DrawnPart], visit: &mut dyn FnMut(&'a DrawnPart)) {
    for part in parts {
        visit(part);
        if let DrawnPart::Group(DrawnGroup { parts, mask, .. }) = part {
            each(parts, visit);
            if let Some(mask) = mask {
                each(&mask.parts, &mut |part| {
                    // Colours of a mask are strengths, not colours of the drawing.
                    if matches!(part, DrawnPart::Group(_)) {
                        visit(part);
                    }
                });
            }
        }
    }
}

fn each_mut(parts: &mut [DrawnPart], visit: &mut dyn FnMut(&mut DrawnPart)) {
    for part in parts {
        visit(part);
        if let DrawnPart::Group(DrawnGroup { parts, .. }) = part {
            each_mut(parts, visit);
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn square(tint: Color) -> DrawnPart {
        DrawnPart::Path {
            data: "M0 0H9V9H0Z".into(),
            even_odd: false,
            fill: Some(DrawnPaint::flat(tint)),
            stroke: None,
        }
    }

    fn drawing() -> Drawing {
        let mask = DrawnMask { luminance: true, parts: vec![square(Color::WHITE)] };
        let group = DrawnPart::Group(DrawnGroup {
            opacity: Ratio::HALF,
            mask: Some(mask),
            ..DrawnGroup::of(vec![square(Color::BLACK), square(Color::opaque(1, 2, 3))])
        });
        Drawing { name: "Jar".into(), width: 9, height: 9, parts: vec![square(Color::BLACK), group] }
    }

    #[test]
    fn colours_are_listed_once_and_masks_have_none() {
        assert_eq!(drawing().colours(), [Tint::Own(Color::BLACK), Tint::Own(Color::opaque(1, 2, 3))]);
    }

    #[test]
    fn one_colour_is_repainted_wherever_it_is() {
        let mut drawing = drawing();
        drawing.repaint(&Color::BLACK.into(), &Paint::flat(Color::opaque(9, 9, 9)));
        assert_eq!(drawing.colours(), [Tint::Own(Color::opaque(9, 9, 9)), Tint::Own(Color::opaque(1, 2, 3))]);
        drawing.recolour(|tint| *tint = Color::WHITE.into());
        assert_eq!(drawing.colours(), [Tint::Own(Color::WHITE)]);
        assert_eq!(drawing.fault(), None);
        drawing.parts.push(DrawnPart::Path { data: "M0 0Q".into(), even_odd: false, fill: None, stroke: None });
        assert!(drawing.fault().is_some());
    }
}
