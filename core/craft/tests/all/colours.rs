//! Colours of the designs that ship, and replacing one everywhere.

use crate::common::{WORLD, words};
use vatman_craft::{dominant, replace_colour, side_colours};
use vatman_document::{Color, Oklab, Tint, write_job};

#[test]
fn a_picture_gives_the_colours_a_person_would_name() {
    let found = |name: &str| {
        dominant(&WORLD.studio.pictures, &WORLD.samples[name], 5).into_iter().map(Oklab::from).collect::<Vec<_>>()
    };
    let blue = |c: &Oklab| c.chroma() > 0.06 && (220.0..300.0).contains(&c.hue());
    let green = |c: &Oklab| c.chroma() > 0.015 && (130.0..190.0).contains(&c.hue());
    let orange = |c: &Oklab| c.chroma() > 0.08 && (40.0..90.0).contains(&c.hue());
    assert!(found("cobalt-jar").iter().any(blue), "{:?}", found("cobalt-jar"));
    assert!(found("celadon-mug").iter().any(green), "{:?}", found("celadon-mug"));
    assert!(found("kiln-glow").iter().any(orange), "{:?}", found("kiln-glow"));
    assert!(found("dark-mug").iter().all(|c| c.l < 0.75), "{:?}", found("dark-mug"));
}

#[test]
fn colours_at_hand_are_those_used_and_suggestions_can_be_read() {
    for design in &WORLD.designs {
        let job = WORLD.job(&[&design.id], &[("square-post", 1)], &words());
        let side = &job.pieces[0].sides[0];
        let at_hand = side_colours(&job, side, &WORLD.studio.pictures, Some(Color::opaque(140, 90, 60)));
        assert!(
            at_hand.used.len() >= 2 && at_hand.used.windows(2).all(|pair| pair[0].uses >= pair[1].uses),
            "{}",
            design.id
        );
        assert!(at_hand.used.iter().all(|used| job.color(&used.tint) == used.color));
        let ground = job.color(side.ground.as_ref().unwrap().tints().next().unwrap());
        for color in &at_hand.suggested {
            assert!(color.contrast(ground) >= 3.0, "{}: {color} on {ground}", design.id);
        }
        assert_eq!(at_hand.steps.len(), 4);
    }
}

#[test]
fn a_colour_is_replaced_everywhere_and_comes_back_in_one_step() {
    let accent: Tint = serde_json::from_str("\"@accent\"").unwrap();
    let own: Tint = Color::opaque(1, 2, 3).into();
    for design in &WORLD.designs {
        let before = WORLD.job(&[&design.id], &[("square-post", 1), ("link-picture", 1), ("card", 1)], &words());
        let mut job = before.clone();
        let inverse = replace_colour(&job, &accent, &own).apply(&mut job, &*WORLD).unwrap();
        let text = write_job(&job);
        assert!(!text.contains("@accent"), "{} still has it", design.id);
        assert_eq!(text.matches("#010203").count(), write_job(&before).matches("@accent").count());
        inverse.apply(&mut job, &*WORLD).unwrap();
        assert_eq!(job, before);
    }
}
