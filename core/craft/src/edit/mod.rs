//! Editing: what the small acts of the card, the stage and the panels mean for one item or for several alike.
//!
//! Every act names items; whether it changes what all pieces share or what an item has released is decided here (`target.rs`).
//! Changes are sparse: several items keep what an act does not name. Lengths are given as they are seen in the piece and kept at a
//! place scale of one. Starting values of what an item is given live in `effects.rs` and `typing.rs`.

pub(crate) mod coding;
pub(crate) mod colours;
mod costs;
pub(crate) mod effects;
pub(crate) mod finishing;
pub(crate) mod guides;
pub(crate) mod painting;
pub(crate) mod placing;
pub(crate) mod target;
pub(crate) mod typing;
pub(crate) mod wording;

pub use coding::{CodeChange, change_code};
pub use colours::{InkKind, add_colour, give_ink, recolour, rename_colour, set_ground, set_ink, spread_ground};
pub use costs::too_costly;
pub use effects::{BackingChange, EffectChange, Gift, change_backing, change_effect, drop_effect, gifts, give};
pub use finishing::{FinishChange, change_finish};
pub use guides::{GuideChange, add_guide, change_guides, move_guide, spread_guides};
pub use painting::{LineChange, change_line, set_blend, set_fill, set_frost, set_opacity, set_outline};
pub use placing::{
    BoxNumbers, Grip, Handles, handles, keeps_proportion, mirror, move_by, resize, room_for_words, set_box, set_flags,
    turn_to,
};
pub use target::{keep_content, keep_property, release};
pub(crate) use typing::WIDEN;
pub use typing::{CurveKind, FitKind, LetterStyle, TypeChange, change_type, style_letters, toggle_letters};
pub use wording::{drop_tie, say, set_tie_length};
