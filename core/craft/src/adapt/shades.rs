//! Shades over pictures: from where they come, so that they can follow the words they are for.

use vatman_document::Paint;

use crate::adapt::matter::Matter;

/// Where a shade is strongest.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Edge {
    Left,
    Top,
    Right,
    Foot,
}

/// The edge from which the shade comes that an item is, if it is one.
pub(crate) fn shade_from(one: &Matter<'_>) -> Option<Edge> {
    let Paint::Linear { angle, stops } = one.plain.look.fill.as_ref()? else { return None };
    let (first, last) = (stops.first()?.opacity.get(), stops.last()?.opacity.get());
    if (first - last).abs() < 0.2 {
        return None;
    }
    // Colours run upward at 0 degrees and to the right at 90: what begins strong is then strong at the foot, or the left.
    let quarter = ((angle.to_degrees().rem_euclid(360.0) / 90.0).round() as usize) % 4;
    let begins = [Edge::Foot, Edge::Left, Edge::Top, Edge::Right][quarter];
    let ends = [Edge::Top, Edge::Right, Edge::Foot, Edge::Left][quarter];
    Some(if first > last { begins } else { ends })
}

/// A shade that is strongest at the left or the right.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(crate) struct SideShade {
    /// It is strongest at the left.
    pub left: bool,
    /// By how many degrees it is turned to be strongest at the foot.
    pub to_foot: f64,
}

/// The shade an item is, if it comes from the left or the right.
pub(crate) fn side_shade(one: &Matter<'_>) -> Option<SideShade> {
    let edge = shade_from(one).filter(|edge| matches!(edge, Edge::Left | Edge::Right))?;
    let Paint::Linear { angle, stops } = one.plain.look.fill.as_ref()? else { return None };
    let first_strong = stops.first()?.opacity > stops.last()?.opacity;
    let wanted = if first_strong { 0.0 } else { 180.0 };
    Some(SideShade { left: edge == Edge::Left, to_foot: wanted - angle.to_degrees() })
}
