//! Cloth and things: where artwork is printed on them, and how it shows there.

pub(crate) mod shelf;
pub(crate) mod worn;

pub use shelf::{Good, GoodArea, goods};
pub use worn::{ClothCard, cloth_card, worn_picture};
