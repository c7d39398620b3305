//! What one item has different from the look it shares: only the properties it keeps for itself.

use serde::{Deserialize, Deserializer, Serialize};
use ts_rs::TS;
use vatman_units::{Length, Ratio};

use crate::{
    Align, Backing, Blend, Curve, CutOut, Effect, Forms, Hyphens, ListMark, Look, Paint, Stroke, TextFit, Treatment,
    TypeLook, Upright, VAlign,
};

/// A property that is there is its own, also where it is nothing.
fn own<'de, T: Deserialize<'de>, D: Deserializer<'de>>(from: D) -> Result<Option<T>, D::Error> {
    T::deserialize(from).map(Some)
}

/// Writes a sparse copy of a struct: each property may be its own.
macro_rules! patch {
    ($(#[$about:meta])* $name:ident of $whole:ident { $($(#[$doc:meta])* $field:ident: $kind:ty,)* }) => {
        #[derive(Debug, Clone, PartialEq, Eq, Hash, Default, Serialize, Deserialize, TS)]
        $(#[$about])*
        #[serde(default, rename_all = "camelCase")]
        pub struct $name {
            $(
                $(#[$doc])*
                #[serde(deserialize_with = "own", skip_serializing_if = "Option::is_none")]
                #[ts(optional)]
                pub $field: Option<$kind>,
            )*
        }

        impl $name {
            /// What `own` has different from `base`.
            #[must_use]
            pub fn between(base: &$whole, own: &$whole) -> Self {
                Self { $($field: (base.$field != own.$field).then(|| own.$field.clone()),)* }
            }

            /// Every property of a whole.
            #[must_use]
            pub fn all(of: &$whole) -> Self {
                Self { $($field: Some(of.$field.clone()),)* }
            }

            /// The whole with what is its own.
            pub fn lay_over(&self, whole: &mut $whole) {
                $(if let Some(value) = &self.$field { whole.$field = value.clone(); })*
            }

            /// Those of these properties that are (or are not) its own in another.
            #[must_use]
            pub fn shared_with(&self, other: &Self, own: bool) -> Self {
                Self { $($field: self.$field.clone().filter(|_| other.$field.is_some() == own),)* }
            }

            /// This with the properties of another in the place of its own.
            #[must_use]
            pub fn then(&self, later: &Self) -> Self {
                Self { $($field: later.$field.clone().or_else(|| self.$field.clone()),)* }
            }
        }
    };
}

patch! {
    /// What of how type is set is its own.
    #[serde(deny_unknown_fields)]
    TypePatch of TypeLook {
        /// Family.
        family: String,
        /// Weight.
        weight: u16,
        /// Italic.
        italic: bool,
        /// Size at a place scale of one.
        size: Length,
        /// Distance of baselines.
        leading: Ratio,
        /// Distance between letters.
        tracking: Ratio,
        /// Lines in the box.
        align: Align,
        /// Block in the box.
        valign: VAlign,
        /// Shown in capitals.
        caps: bool,
        /// Underlined.
        underline: bool,
        /// Text and box.
        fit: TextFit,
        /// Lines of like length.
        even: bool,
        /// Struck through.
        strike: bool,
        /// Distance between paragraphs.
        paragraph_gap: Ratio,
        /// Mark before each paragraph.
        list: ListMark,
        /// Forms of letters and figures.
        forms: Forms,
        /// The line the words run along.
        curve: Option<Curve>,
        /// The number of the arrangement.
        lock_up: Option<u8>,
        /// The language of divided words.
        hyphens: Option<Hyphens>,
    }
}

patch! {
    /// What of paint, light and mixing is its own.
    PaintPatch of Look {
        /// Fill of shapes and letters.
        fill: Option<Paint>,
        /// Line along the outline.
        stroke: Option<Stroke>,
        /// Opacity.
        opacity: Ratio,
        /// Mixing with what lies below.
        blend: Blend,
        /// What light does to it.
        effects: Vec<Effect>,
        /// A shape behind its words.
        backing: Option<Backing>,
        /// Blur of what lies behind it.
        frost: Option<Length>,
        /// How its picture is treated.
        treatments: Vec<Treatment>,
        /// What of its picture is seen.
        cut_out: Option<CutOut>,
        /// How its picture is set upright.
        upright: Option<Upright>,
    }
}

/// What an item has different from the look it shares.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Default, Serialize, Deserialize, TS)]
pub struct LookPatch {
    /// Paint, light and mixing.
    #[serde(flatten)]
    pub paint: PaintPatch,
    /// How its words are set.
    #[serde(rename = "type", default, skip_serializing_if = "TypePatch::is_nothing")]
    #[ts(as = "Option<TypePatch>", optional)]
    pub kind: TypePatch,
}

/// A property of a look as people name it, each of which can be shared or kept.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum Property {
    /// Fill of shapes and letters.
    Colour,
    /// Line along the outline.
    Line,
    /// Family, weight and slant.
    Face,
    /// Size of type.
    Size,
    /// How lines stand and are spaced, and all else about type.
    Setting,
    /// Light, backing, opacity and mixing.
    Light,
    /// How its picture is treated, and what of it is seen.
    Treatment,
}

impl Property {
    /// All of them.
    pub const ALL: [Self; 7] =
        [Self::Colour, Self::Line, Self::Face, Self::Size, Self::Setting, Self::Light, Self::Treatment];
}

impl TypePatch {
    fn is_nothing(&self) -> bool {
        *self == Self::default()
    }
}

impl LookPatch {
    /// What `own` has different from `base`.
    #[must_use]
    pub fn between(base: &Look, own: &Look) -> Self {
        let plain = TypeLook::default();
        let kind = |look: &Look| look.type_look.clone().unwrap_or_else(|| plain.clone());
        let kind =
            if own.type_look.is_none() { TypePatch::default() } else { TypePatch::between(&kind(base), &kind(own)) };
        Self { paint: PaintPatch::between(base, own), kind }
    }

    /// The whole of a look.
    #[must_use]
    pub fn all(of: &Look) -> Self {
        Self { paint: PaintPatch::all(of), kind: of.type_look.as_ref().map_or_else(TypePatch::default, TypePatch::all) }
    }

    /// A look with what is its own.
    #[must_use]
    pub fn over(&self, base: &Look) -> Look {
        let mut look = base.clone();
        self.paint.lay_over(&mut look);
        if !self.kind.is_nothing() {
            self.kind.lay_over(look.type_look.get_or_insert_with(TypeLook::default));
        }
        look
    }

    /// What is its own, on a look of nothing.
    #[must_use]
    pub fn alone(&self) -> Look {
        self.over(&Look { fill: None, ..Look::default() })
    }

    /// Whether everything is shared.
    #[must_use]
    pub fn is_empty(&self) -> bool {
        *self == Self::default()
    }

    /// Those of these properties that are (or are not) its own in another.
    #[must_use]
    pub fn shared_with(&self, other: &Self, own: bool) -> Self {
        Self { paint: self.paint.shared_with(&other.paint, own), kind: self.kind.shared_with(&other.kind, own) }
    }

    /// This with the properties of another in the place of its own.
    #[must_use]
    pub fn then(&self, later: &Self) -> Self {
        Self { paint: self.paint.then(&later.paint), kind: self.kind.then(&later.kind) }
    }

    /// Of these properties those people call by one name.
    #[must_use]
    pub fn only(&self, property: Property) -> Self {
        let (paint, kind) = (self.paint.clone(), self.kind.clone());
        let (no_paint, no_kind) = (PaintPatch::default(), TypePatch::default());
        match property {
            Property::Colour => Self { paint: PaintPatch { fill: paint.fill, ..no_paint }, kind: no_kind },
            Property::Line => Self { paint: PaintPatch { stroke: paint.stroke, ..no_paint }, kind: no_kind },
            Property::Light => Self {
                paint: PaintPatch { fill: None, stroke: None, treatments: None, cut_out: None, upright: None, ..paint },
                kind: no_kind,
            },
            Property::Treatment => {
                let PaintPatch { treatments, cut_out, upright, .. } = paint;
                Self { paint: PaintPatch { treatments, cut_out, upright, ..no_paint }, kind: no_kind }
            }
            Property::Face => {
                let TypePatch { family, weight, italic, .. } = kind;
                Self { paint: no_paint, kind: TypePatch { family, weight, italic, ..no_kind } }
            }
            Property::Size => Self { paint: no_paint, kind: TypePatch { size: kind.size, ..no_kind } },
            Property::Setting => Self {
                paint: no_paint,
                kind: TypePatch { family: None, weight: None, italic: None, size: None, ..kind },
            },
        }
    }

    /// What is its own, by the names people have for it.
    #[must_use]
    pub fn properties(&self) -> Vec<Property> {
        Property::ALL.into_iter().filter(|property| !self.only(*property).is_empty()).collect()
    }

    /// This without the properties people call by one name.
    #[must_use]
    pub fn without(&self, property: Property) -> Self {
        let gone = self.only(property);
        self.shared_with(&gone, false)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::Color;

    fn looks() -> (Look, Look) {
        let base = Look { type_look: Some(TypeLook::default()), ..Look::default() };
        let kind = TypeLook { size: Length::pt(9.0), weight: 700, ..TypeLook::default() };
        let own = Look { fill: Some(Paint::flat(Color::WHITE)), type_look: Some(kind), ..base.clone() };
        (base, own)
    }

    #[test]
    fn a_patch_makes_one_look_the_other_and_holds_no_more() {
        let (base, own) = looks();
        let patch = LookPatch::between(&base, &own);
        assert_eq!(patch.over(&base), own);
        assert_eq!(patch.properties(), [Property::Colour, Property::Face, Property::Size]);
        assert!(LookPatch::between(&base, &base).is_empty());
        assert_eq!(LookPatch::all(&own).over(&base), own);
        // What the others change goes on being shared.
        let changed = Look { opacity: Ratio::HALF, ..base.clone() };
        assert_eq!(patch.over(&changed).opacity, Ratio::HALF);
        assert_eq!(patch.over(&changed).fill, own.fill);
        let shape = Look { type_look: None, ..base };
        assert_eq!(LookPatch::all(&shape).over(&shape), shape);
    }

    #[test]
    fn properties_are_given_up_one_by_one() {
        let (base, own) = looks();
        let patch = LookPatch::all(&own);
        assert_eq!(patch.properties(), Property::ALL);
        let without = patch.without(Property::Size);
        assert!(!without.properties().contains(&Property::Size));
        assert_eq!(without.over(&base).type_look.unwrap().size, base.type_look.as_ref().unwrap().size);
        let parts = Property::ALL.into_iter().fold(LookPatch::default(), |sum, one| sum.then(&patch.only(one)));
        assert_eq!(parts, patch, "each property belongs to one name");
        assert!(Property::ALL.into_iter().fold(patch, |left, one| left.without(one)).is_empty());
    }

    #[test]
    fn nothing_as_its_own_is_kept_apart_from_nothing_of_its_own() {
        let (base, _) = looks();
        let none = Look { fill: None, ..base.clone() };
        let patch = LookPatch::between(&base, &none);
        let text = serde_json::to_string(&patch).unwrap();
        assert_eq!(text, r#"{"fill":null}"#);
        assert_eq!(serde_json::from_str::<LookPatch>(&text).unwrap(), patch);
        // A whole look, as it was kept before, is a patch of everything.
        let whole = serde_json::to_string(&none).unwrap();
        assert_eq!(serde_json::from_str::<LookPatch>(&whole).unwrap().over(&base), none);
    }
}
