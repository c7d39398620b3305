//! Where a message can go: the catalogue, sizes of one's own, and the names of files.

use crate::common::WORLD;
use proptest::prelude::*;
use vatman_craft::{PlaceCatalogue, file_name, slug};
use vatman_units::{Length, Unit};

#[test]
fn every_place_can_be_made_found_by_its_name_and_read() {
    let mut ids = std::collections::BTreeSet::new();
    for place in WORLD.places.all() {
        place.format.check().unwrap();
        assert!(ids.insert(&place.id), "{} stands twice", place.id);
        assert!(place.size.contains(" × ") && place.size.ends_with(place.format.unit.name()), "{}", place.size);
        let found = WORLD.places.search(&place.name);
        assert!(
            found.places.iter().take(3).any(|other| other.id == place.id),
            "{} is not found by its name",
            place.name
        );
        let by_size = WORLD.places.search(&place.size);
        assert!(
            by_size.places.iter().any(|other| other.id == place.id) && by_size.own.is_some(),
            "{} is not found by its size",
            place.size
        );
    }
    let exact = [
        ("square-post", 1080, 1080),
        ("portrait-post", 1080, 1350),
        ("story", 1080, 1920),
        ("board-picture", 1000, 1500),
        ("link-picture", 1200, 630),
        ("video-thumbnail", 1280, 720),
        ("cloth-print", 4500, 5400),
        ("medium-rectangle", 300, 250),
    ];
    for (id, w, h) in exact {
        let format = WORLD.place(id).format;
        assert_eq!(format.pixels_at(format.ppi), (w, h), "{id}");
    }
    let mm = |id: &str| (WORLD.place(id).format.size.w.to_mm(), WORLD.place(id).format.size.h.to_mm());
    assert_eq!((mm("flyer-a5"), mm("poster-a3")), ((148.0, 210.0), (297.0, 420.0)));
    assert_eq!(WORLD.place("card").format.size.w, Length::inches(3.5));
}

#[test]
fn sizes_are_read_in_every_unit() {
    for (typed, unit, w_in, h_in) in [
        ("2 x 8.5 in", Unit::In, 2.0, 8.5),
        ("90 x 50 mm", Unit::Mm, 90.0 / 25.4, 50.0 / 25.4),
        ("9x5cm", Unit::Cm, 9.0 / 2.54, 5.0 / 2.54),
        ("216 x 144 pt", Unit::Pt, 3.0, 2.0),
        ("1080×1350", Unit::Px, 11.25, 14.0625),
        ("3.5in x 2in", Unit::In, 3.5, 2.0),
    ] {
        let own = PlaceCatalogue::own_size(typed).unwrap();
        assert_eq!(own.format.unit, unit, "{typed}");
        assert!(
            (own.format.size.w.to_inches() - w_in).abs() < 1e-5 && (own.format.size.h.to_inches() - h_in).abs() < 1e-5,
            "{typed}: {:?}",
            own.format.size
        );
    }
}

#[test]
fn senseless_sizes_are_told_and_never_made() {
    for typed in [
        "",
        "0 x 5 in",
        "5 x 0",
        "-3 x 4 in",
        "3 in",
        "x",
        "3 x 4 x 5",
        "1e9 x 2",
        "40000 x 10 px",
        "3 x birds",
        "0.01 x 0.01 in",
        "999 x 999 in",
        "3 mm x",
        "∞ x 3",
    ] {
        let refused = PlaceCatalogue::own_size(typed);
        assert!(refused.is_err(), "{typed:?} was made as {:?}", refused.map(|own| own.size));
    }
}

proptest! {
    /// Any size that is made is exactly the one typed, and its label means the same again.
    #[test]
    fn a_size_that_is_made_is_the_one_typed(w in 8u32..9_000, h in 8u32..9_000, unit in prop::sample::select(vec!["px", "mm", "in", "pt", "cm"])) {
        let typed = format!("{w} x {h} {unit}");
        if let Ok(own) = PlaceCatalogue::own_size(&typed) {
            let back = PlaceCatalogue::own_size(&own.size).unwrap();
            prop_assert_eq!(own.format.size, back.format.size);
            let (unit, ppi) = (own.format.unit, own.format.ppi);
            prop_assert!((own.format.size.w.to_unit(unit, ppi) - f64::from(w)).abs() < 1e-3);
            prop_assert!(own.format.bleed < own.format.size.w.min(own.format.size.h).half());
        }
    }

    #[test]
    fn file_names_are_safe_everywhere(job in "\\PC{0,40}", piece in "\\PC{0,20}") {
        let name = file_name(&job, &piece, "148 × 210 mm", "pdf");
        prop_assert!(name.ends_with("148x210mm.pdf"));
        prop_assert!(name.chars().all(|c| c.is_ascii_alphanumeric() || "-_.".contains(c)), "{}", name);
        prop_assert!(!name.starts_with(['.', '-']) && name.len() < 160);
        prop_assert!(slug(&job).len() <= 60);
    }
}
