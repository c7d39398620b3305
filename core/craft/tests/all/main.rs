//! The craft on the world that ships: designs, places, typefaces and pictures.

#![allow(clippy::unwrap_used, reason = "a failed step is a failed test")]

mod adapting;
mod arranging;
mod by_hand;
mod checking;
mod colours;
mod combining;
mod common;
mod contrast;
mod darkroom;
mod designs;
mod drawings;
mod everything;
mod files;
mod folding;
mod listed;
mod mended;
mod ornaments;
mod places;
mod pointing;
mod printing;
mod read_back;
mod reading;
mod room;
mod seeing;
mod settling;
mod shapes;
mod treated_together;
