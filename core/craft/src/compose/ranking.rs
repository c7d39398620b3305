//! Which designs come first: those made for the places chosen, and those found by what was typed.

use vatman_document::Part;

use crate::compose::design::{Design, LayoutPart};
use crate::compose::place::{PlaceEntry, typed_words};

/// Designs that every word typed begins a word of (their name, what they are good for, what they are found by, or what they are made
/// for), the ones that suit the places best first.
#[must_use]
pub fn ranked<'a>(designs: &'a [Design], places: &[PlaceEntry], typed: &str) -> Vec<&'a Design> {
    let mut found: Vec<(f64, &Design)> = designs
        .iter()
        .filter(|design| is_found(design, typed))
        .map(|design| (places.iter().map(|place| suits(design, place)).sum(), design))
        .collect();
    // Equal ones stay in the order of the shelf.
    found.sort_by(|a, b| b.0.total_cmp(&a.0));
    found.into_iter().map(|(_, design)| design).collect()
}

fn is_found(design: &Design, typed: &str) -> bool {
    let own =
        format!("{} {} {} {}", design.name, design.about, design.keywords, design.made_for.join(" ")).to_lowercase();
    let own: Vec<&str> = own.split(|c: char| !c.is_alphanumeric()).collect();
    typed_words(&typed.to_lowercase()).all(|(_, stem)| own.iter().any(|own| own.starts_with(stem)))
}

/// How well a design suits a place: whether it is made for its kind, shows what is asked there, and has an arrangement near its shape.
fn suits(design: &Design, place: &PlaceEntry) -> f64 {
    let aspect = place.format.size.aspect();
    let layout = design.layout_for(aspect);
    let shown: Vec<Part> = layout
        .parts
        .iter()
        .flat_map(|part| if let LayoutPart::Words { rows, .. } = part { rows.as_slice() } else { &[] })
        .copied()
        .collect();
    let asked = place.asks.iter().filter(|ask| shown.contains(&ask.part)).count() as f64;
    let made_for = if design.made_for.contains(&place.group) { 2.0 } else { 0.0 };
    made_for + asked / place.asks.len().max(1) as f64 - 0.5 * (layout.aspect / aspect).ln().abs()
}
