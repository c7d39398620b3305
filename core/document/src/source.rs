//! A picture as it is shown: the untouched original and everything that is done to it.

use serde::{Deserialize, Serialize};

use crate::{AssetId, Color, CutOut, Develop, Look, Tint, Treatment, Upright};

/// A picture as it is shown: of the untouched original what is seen, treated, and then set upright. Colours are resolved.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize)]
pub struct PictureSource {
    /// The original.
    pub asset: AssetId,
    /// In order; without those that do nothing.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub treatments: Vec<Treatment>,
    /// What of it is shown, where that is not all.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub cut_out: Option<CutOut>,
    /// How it is set upright, where it is.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub upright: Option<Upright>,
}

impl PictureSource {
    /// The original as it is.
    #[must_use]
    pub fn plain(asset: AssetId) -> Self {
        Self { asset, treatments: Vec::new(), cut_out: None, upright: None }
    }

    /// The original as a look shows it, each colour as `color` says.
    #[must_use]
    pub fn of(asset: AssetId, look: &Look, color: impl Fn(&Tint) -> Color) -> Self {
        let cut_out = look.cut_out.as_ref().filter(|cut| !cut.is_idle()).map(CutOut::seen);
        let upright = look.upright.filter(|upright| !upright.is_idle());
        Self { asset, treatments: Self::resolved(&look.treatments, color), cut_out, upright }
    }

    /// Steps without those that do nothing, each colour as `color` says.
    #[must_use]
    pub fn resolved(treatments: &[Treatment], color: impl Fn(&Tint) -> Color) -> Vec<Treatment> {
        let resolved = |treatment: &Treatment| {
            let mut own = treatment.clone();
            for tint in own.tints_mut() {
                *tint = Tint::Own(color(tint));
            }
            own
        };
        let at_work = treatments.iter().filter(|treatment| !treatment.is_idle());
        at_work.map(resolved).collect()
    }

    /// Whether nothing is done to it.
    #[must_use]
    pub fn is_plain(&self) -> bool {
        self.treatments.is_empty() && self.cut_out.is_none() && self.upright.is_none()
    }

    /// Whether parts of it may be clear that are not in the original.
    #[must_use]
    pub fn may_be_clear(&self) -> bool {
        // Corners set by hand may lie beyond the original.
        let beyond = self.upright.is_some_and(|upright| upright.corners.is_some());
        self.cut_out.is_some() || beyond || self.treatments.iter().any(|step| step.develop == Develop::Clear {})
    }

    /// Its size in pixels, that of the original being known.
    #[must_use]
    pub fn size(&self, original: (u32, u32)) -> (u32, u32) {
        self.upright.map_or(original, |upright| upright.size(original))
    }
}
