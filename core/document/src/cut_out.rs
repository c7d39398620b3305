//! Which part of a picture is shown: what was found to be its subject, and what a hand hides or brings back. No pixel of the picture is
//! changed.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_units::Ratio;

use crate::{AssetId, BrushStroke, Fault};

/// What of a picture is shown. Places are fractions of the picture, lengths of its longer side.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Default, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase", deny_unknown_fields)]
pub struct CutOut {
    /// How much of each pixel was found to be subject, as a grey picture of any size; without one all is shown but what a hand hides.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub mask: Option<AssetId>,
    /// Strokes over what belongs to the subject, for finding it.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    #[ts(as = "Option<Vec<BrushStroke>>", optional)]
    pub keep: Vec<BrushStroke>,
    /// Strokes over what does not, for finding it.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    #[ts(as = "Option<Vec<BrushStroke>>", optional)]
    pub remove: Vec<BrushStroke>,
    /// Strokes that hide, or bring back where they erase, in order.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    #[ts(as = "Option<Vec<BrushStroke>>", optional)]
    pub painted: Vec<BrushStroke>,
    /// Standard deviation by which the edge is softened, up to 0.02.
    #[serde(default)]
    pub softness: Ratio,
    /// How far the edge is moved outward, -0.01 to 0.01.
    #[serde(default)]
    pub shift: Ratio,
}

impl CutOut {
    /// Most points of all strokes.
    pub const MOST_POINTS: usize = 12_000;

    /// Whether it hides nothing.
    #[must_use]
    pub fn is_idle(&self) -> bool {
        self.mask.is_none() && self.painted.is_empty()
    }

    /// What of it is seen: without the strokes that were only for finding the subject.
    #[must_use]
    pub fn seen(&self) -> Self {
        Self { keep: Vec::new(), remove: Vec::new(), ..self.clone() }
    }

    /// Why it cannot be kept, if so.
    #[must_use]
    pub fn fault(&self) -> Option<Fault> {
        let strokes = || self.keep.iter().chain(&self.remove).chain(&self.painted);
        let points: usize = strokes().map(|stroke| stroke.points.len()).sum();
        let sound = points <= Self::MOST_POINTS
            && strokes().all(BrushStroke::is_sound)
            && (0.0..=0.02).contains(&self.softness.get())
            && (-0.01..=0.01).contains(&self.shift.get());
        (!sound).then_some(Fault::CutOut)
    }
}
