//! The darkroom: what can be done to a picture, by what people wish for; starting values, recipes, and what is read off a picture.
//!
//! `kinds.rs` is the shelf of steps with their ranges and starting values, `steps.rs` changes the list of an item, `tones.rs` reads
//! tones, `recipes.rs` has the chains that ship and their file, `packed.rs` puts treatments into addresses. What a step does to
//! pixels is the photo crate's.

pub(crate) mod kinds;
pub(crate) mod packed;
pub(crate) mod recipes;
pub(crate) mod steps;
pub(crate) mod tones;

pub use kinds::{FieldCard, KindCard, Shown, kinds};
pub use packed::{packed, unpacked};
pub use recipes::{Recipe, RecipeError, shipped_recipes};
pub use steps::{
    add_step, auto_step, drop_step, move_step, neutral_step, print_of, set_step, set_steps, source_of, starting,
    treat_alike,
};
pub use tones::{Tones, auto_levels, balance_for, tones_of};
