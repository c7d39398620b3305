//! How a group looks as a whole, apart from how its members do.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_units::Ratio;

use crate::{AssetId, Blend, Effect, Fault, GroupId, Tint, Treatment};

/// What is done to a group as a whole, after its members are drawn: treated first, then lit, then faded and mixed with what lies below.
/// Places in a treatment are fractions of the box of its members, lengths fractions of the longer side of the sheet.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct GroupLook {
    /// The group.
    pub group: GroupId,
    /// Of all of it together; 1 is opaque.
    pub opacity: Ratio,
    /// Mixing of all of it together with what lies below.
    pub blend: Blend,
    /// What light does to all of it together, in order.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    #[ts(as = "Option<Vec<Effect>>", optional)]
    pub effects: Vec<Effect>,
    /// How all of it together is treated, in order.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    #[ts(as = "Option<Vec<Treatment>>", optional)]
    pub treatments: Vec<Treatment>,
}

impl GroupLook {
    /// Most groups with a look of their own on a side.
    pub const MOST: usize = 500;

    /// A group that looks as its members do.
    #[must_use]
    pub fn plain(group: GroupId) -> Self {
        Self { group, opacity: Ratio::ONE, blend: Blend::Normal, effects: Vec::new(), treatments: Vec::new() }
    }

    /// Whether it changes nothing.
    #[must_use]
    pub fn is_plain(&self) -> bool {
        self.opacity == Ratio::ONE
            && self.blend == Blend::Normal
            && self.effects.is_empty()
            && self.treatments.is_empty()
    }

    /// Why it cannot be kept, if so.
    #[must_use]
    pub fn fault(&self) -> Option<Fault> {
        if !self.opacity.is_fraction() {
            return Some(Fault::Opacity);
        }
        if self.effects.len() > Effect::MOST {
            return Some(Fault::EffectCount);
        }
        if self.treatments.len() > Treatment::MOST {
            return Some(Fault::TreatmentCount);
        }
        let treatments = self.treatments.iter().find_map(Treatment::fault);
        treatments.or_else(|| self.effects.iter().find_map(Effect::fault))
    }

    /// All its colours.
    pub fn tints(&self) -> impl Iterator<Item = &Tint> {
        self.effects.iter().filter_map(Effect::tint).chain(self.treatments.iter().flat_map(Treatment::tints))
    }

    /// All its colours, to be changed.
    pub fn tints_mut(&mut self) -> impl Iterator<Item = &mut Tint> {
        let treated = self.treatments.iter_mut().flat_map(Treatment::tints_mut);
        self.effects.iter_mut().filter_map(Effect::tint_mut).chain(treated)
    }

    /// The pictures its treatments lay over.
    pub fn pictures(&self) -> impl Iterator<Item = &AssetId> {
        self.treatments.iter().flat_map(Treatment::pictures)
    }
}
