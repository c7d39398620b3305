//! The darkroom: what can be done to a picture, to what lies behind a shape and to a group, by what people wish for; starting values,
//! masks by hand, recipes, and what is read off a picture.
//!
//! `kinds.rs` is the shelf of steps with their ranges and starting values, `subject.rs` says what is treated, `steps.rs` changes its
//! list, `areas.rs` its masks, `cutting.rs` what of a picture is seen, `front.rs` puts that in
//! front of words, `ground.rs` on a ground of its own, `spots.rs` fills spots, `upright.rs` sets it upright, `prints.rs` shows it,
//! `over.rs` is what treats all below it, `tones.rs` reads tones, `recipes.rs` has the chains that ship and their file, `code.rs` says one in a code that can be scanned,
//! `packed.rs` puts treatments into addresses. What a step does to pixels is the photo crate's.

pub(crate) mod areas;
pub(crate) mod code;
pub(crate) mod cutting;
pub(crate) mod front;
pub(crate) mod ground;
pub(crate) mod kinds;
pub(crate) mod over;
pub(crate) mod packed;
pub(crate) mod prints;
pub(crate) mod recipes;
pub(crate) mod spots;
pub(crate) mod steps;
pub(crate) mod subject;
pub(crate) mod tones;
pub(crate) mod upright;

pub use areas::{AreaKind, BrushSetting, add_area, add_subject, paint_mask};
pub use code::{CodeError, RecipeCode};
pub use cutting::{CutChange, CutStroke, change_cut, cut_out_by, cut_stroke, show_whole};
pub use front::subject_in_front;
pub use ground::{PutOn, put_on};
pub use kinds::{FieldCard, KindCard, Shown, kinds, texture_name};
pub use over::over_everything;
pub use packed::{packed, unpacked};
pub use prints::{Print, PrintedFrom, print_of, source_of};
pub use recipes::{Recipe, RecipeError, shipped_recipes};
pub use spots::{drop_spot, paint_spot};
pub use steps::{
    add_step, auto_step, drop_step, lay_over, move_step, neutral_step, set_step, set_steps, starting, treat_alike,
};
pub use subject::Subject;
pub use tones::{Tones, auto_levels, balance_for, tones_of};
pub use upright::{UprightChange, level_picture, set_upright};
