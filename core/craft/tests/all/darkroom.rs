//! Pictures as they are treated: the same in every output, shared by all sizes, changed step by step.

use crate::common::{WORLD, difference, run, words};
use vatman_craft::{
    FileKind, HandOver, Recipe, Subject, add_step, auto_step, drop_step, keep_property, kinds, move_step, neutral_step,
    set_step, set_steps, shipped_recipes, starting, treat_alike, write_file,
};
use vatman_document::{
    Area, Color, Command, Develop, Focus, ItemId, Job, Mask, MaskArea, Property, Tint, ToneStop, Treatment,
};
use vatman_units::Ratio;

fn r(value: f64) -> Ratio {
    Ratio::new(value)
}

/// A job of two sizes with one picture, and the picture in each.
fn treated_job() -> (Job, [ItemId; 2]) {
    let job = WORLD.job(&["half-and-half"], &[("square-post", 1), ("flyer-a5", 1)], &words());
    let picture = |at: usize| {
        let items = &job.pieces[at].sides[0].items;
        let shows = |id: &ItemId| job.find(id).unwrap().plain().unwrap().content.picture().is_some();
        items.iter().map(|item| item.id.clone()).find(shows).unwrap()
    };
    let both = [picture(0), picture(1)];
    (job, both)
}

#[allow(clippy::needless_pass_by_value, reason = "commands are made where they are applied")]
fn with(job: &Job, command: Command) -> Job {
    let mut out = job.clone();
    command.apply(&mut out, &*WORLD).unwrap();
    out.check().unwrap();
    out
}

fn steps(job: &Job, item: &ItemId) -> Vec<Treatment> {
    job.find(item).unwrap().plain().unwrap().look.treatments.clone()
}

fn spot(inverted: bool) -> Mask {
    let area = Area::Radial {
        centre: Focus { x: r(0.6), y: r(0.4) },
        across: r(0.3),
        down: r(0.2),
        turn: vatman_units::Angle::degrees(20.0),
        softness: r(0.5),
    };
    let areas = vec![MaskArea { area, joins: vatman_document::Joining::Add }];
    Mask { areas, inverted, density: r(0.9), feather: r(0.01) }
}

fn pixels(job: &Job, piece: usize) -> image::RgbaImage {
    let files = write_file(&WORLD.studio, job, &job.pieces[piece], &[], HandOver::of(FileKind::Png)).unwrap();
    image::load_from_memory(&files[0].bytes).unwrap().to_rgba8()
}

#[test]
fn other_programs_draw_treated_pictures_as_we_draw_pixels() {
    let folder = tempfile::tempdir().unwrap();
    let (job, [picture, _]) = treated_job();
    let plain = pixels(&job, 0);
    // Every kind of step, a few in a job, half of them on a part.
    let mut all: Vec<Treatment> = kinds().iter().map(|card| starting(card.kind).unwrap()).collect();
    let shown = job.find(&picture).unwrap().plain().unwrap().content.picture().unwrap().clone();
    for step in &mut all {
        if let Develop::Overlay { picture, scale, .. } = &mut step.develop {
            (*picture, *scale) = (shown.clone(), r(0.6));
        }
    }
    // The grain of a surface is not put before few tones, which would tell apart what hardly differs.
    all.sort_by_key(|step| matches!(step.develop, Develop::Texture { .. }));
    for (n, some) in all.chunks(4).enumerate() {
        let mut some = some.to_vec();
        for (at, step) in some.iter_mut().enumerate() {
            step.mask = (at % 2 == 1).then(|| spot(at == 3));
        }
        let job = with(&job, set_steps(&job, Subject::Items(std::slice::from_ref(&picture)), &some).unwrap());
        let ours = pixels(&job, 0);
        assert!(difference(&ours, &plain) > 0.3, "group {n} is seen");
        let saved = |kind: FileKind, name: &str| {
            let files = write_file(&WORLD.studio, &job, &job.pieces[0], &[], HandOver::of(kind)).unwrap();
            let path = folder.path().join(name);
            std::fs::write(&path, &files[0].bytes).unwrap();
            path.to_str().unwrap().to_owned()
        };
        let svg = saved(FileKind::Svg, "one.svg");
        let drawn = format!("{svg}.png");
        run("rsvg-convert", &["-o", &drawn, &svg]);
        let off = difference(&image::open(&drawn).unwrap().to_rgba8(), &ours);
        assert!(off < 3.0, "group {n}: librsvg draws the SVG {off:.2} off");
        let pdf = saved(FileKind::Pdf, "one.pdf");
        run("pdftoppm", &["-png", "-r", "96", "-singlefile", &pdf, &pdf]);
        let off = difference(&image::open(format!("{pdf}.png")).unwrap().to_rgba8(), &ours);
        // Dots and squares have hard edges, which readers resample each in their way.
        let dots = some.iter().any(|step| matches!(step.develop, Develop::Halftone { .. } | Develop::Pixelate { .. }));
        assert!(off < if dots { 4.5 } else { 3.0 }, "group {n}: poppler draws the PDF {off:.2} off");
    }
}

#[test]
fn steps_are_shared_by_all_sizes_until_one_keeps_its_own() {
    let (job, [here, there]) = treated_job();
    let items = std::slice::from_ref(&here);
    let now = with(&job, add_step(&job, Subject::Items(items), "exposure").unwrap());
    assert_eq!(steps(&now, &there).len(), 1);
    let before = pixels(&job, 1);
    assert!(difference(&pixels(&now, 1), &before) > 1.0, "it is seen in the other size");
    // Kept only here, it goes its own way.
    let apart = with(&now, keep_property(&now, &here, Property::Treatment, true).unwrap());
    let apart = with(&apart, add_step(&apart, Subject::Items(items), "mono").unwrap());
    assert_eq!((steps(&apart, &here).len(), steps(&apart, &there).len()), (2, 1));
}

#[test]
fn steps_are_added_changed_moved_and_taken_out_and_each_can_be_undone() {
    let (job, [picture, _]) = treated_job();
    let items = std::slice::from_ref(&picture);
    let mut now = job.clone();
    for kind in ["exposure", "mono", "grain", "mono"] {
        now = with(&now, add_step(&now, Subject::Items(items), kind).unwrap());
    }
    let kind = |job: &Job| -> Vec<String> {
        let name = |step: &Treatment| serde_json::to_value(&step.develop).unwrap()["kind"].as_str().unwrap().to_owned();
        steps(job, &picture).iter().map(name).collect()
    };
    assert_eq!(kind(&now), ["exposure", "mono", "grain", "mono"]);
    let moved = with(&now, move_step(&now, Subject::Items(items), 3, 0).unwrap());
    assert_eq!(kind(&moved), ["mono", "exposure", "mono", "grain"]);
    let fewer = with(&moved, drop_step(&moved, Subject::Items(items), 1).unwrap());
    assert_eq!(kind(&fewer), ["mono", "mono", "grain"]);
    let half = Treatment { amount: Ratio::HALF, ..steps(&fewer, &picture)[1].clone() };
    let changed = with(&fewer, set_step(&fewer, Subject::Items(items), 1, &half).unwrap());
    assert_eq!(steps(&changed, &picture)[1], half);
    assert_eq!(steps(&changed, &picture)[0], steps(&fewer, &picture)[0], "the other of its kind stays");
    let mut back = changed.clone();
    let mut trial = fewer.clone();
    let undo = set_step(&fewer, Subject::Items(items), 1, &half).unwrap().apply(&mut trial, &*WORLD).unwrap();
    undo.apply(&mut back, &*WORLD).unwrap();
    assert_eq!(steps(&back, &picture), steps(&fewer, &picture));
    // What cannot be is refused.
    let wild = Treatment::new(Develop::Exposure { ev: r(9.0) });
    assert!(set_step(&now, Subject::Items(items), 0, &wild).unwrap().apply(&mut now.clone(), &*WORLD).is_err());
    assert!(
        drop_step(&now, Subject::Items(items), 4).is_err() && add_step(&now, Subject::Items(items), "no such").is_err()
    );
    let words = job.items().find(|item| job.plain(item).unwrap().content.words().is_some()).unwrap().id.clone();
    assert!(add_step(&job, Subject::Items(&[words]), "spots").is_err(), "words are no picture");
    assert!(add_step(&job, Subject::Items(items), "overlay").is_err(), "which picture is not said");
    let many = set_steps(&now, Subject::Items(items), &vec![half; Treatment::MOST + 1]).unwrap();
    assert!(many.apply(&mut now.clone(), &*WORLD).is_err(), "at most so many");
}

#[test]
fn several_pictures_change_in_the_same_step_and_others_follow_when_asked() {
    let job = WORLD.job(&["three-windows"], &[("square-post", 1)], &words());
    let shows = |id: &ItemId| job.find(id).unwrap().plain().unwrap().content.picture().is_some();
    let all: Vec<ItemId> = job.pieces[0].sides[0].items.iter().map(|item| item.id.clone()).filter(shows).collect();
    assert_eq!(all.len(), 3);
    // The second has a step before it: the same step is the one of its kind, wherever it stands.
    let now = with(&job, add_step(&job, Subject::Items(&all[1..2]), "grain").unwrap());
    let now = with(&now, add_step(&now, Subject::Items(&all[..2]), "mono").unwrap());
    let half = Treatment { amount: Ratio::HALF, ..starting("mono").unwrap() };
    let now = with(&now, set_step(&now, Subject::Items(&all[..2]), 0, &half).unwrap());
    assert_eq!((steps(&now, &all[0])[0].amount, steps(&now, &all[1])[1].amount), (Ratio::HALF, Ratio::HALF));
    assert_eq!(steps(&now, &all[1])[0], starting("grain").unwrap());
    let alike = with(&now, treat_alike(&now, &all[1], false).unwrap());
    assert!(all.iter().all(|id| steps(&alike, id) == steps(&now, &all[1])));
    let (alone, [one, _]) = treated_job();
    assert!(treat_alike(&alone, &one, false).is_err(), "there is no other picture on this side");
}

#[test]
fn colours_of_steps_follow_the_palette_and_stay_what_they_were_in_a_recipe() {
    let (job, [picture, _]) = treated_job();
    let swatch = job.swatches.keys().next().unwrap().clone();
    let tone = |at: f64, tint| ToneStop { at: r(at), tint };
    let duotone = Treatment::new(Develop::ToneMap {
        stops: vec![tone(0.0, Tint::Swatch(swatch.clone())), tone(1.0, Tint::Own(Color::WHITE))],
    });
    let now = with(
        &job,
        set_steps(&job, Subject::Items(std::slice::from_ref(&picture)), std::slice::from_ref(&duotone)).unwrap(),
    );
    let before = pixels(&now, 0);
    let recoloured = |color: Color| {
        let own = now.swatches[&swatch].clone();
        with(&now, Command::SetSwatch { id: swatch.clone(), swatch: Some(vatman_document::Swatch { color, ..own }) })
    };
    assert!(difference(&pixels(&recoloured(Color::opaque(200, 0, 90)), 0), &before) > 2.0);
    let recipe = Recipe::of("Mine", &[duotone], |tint| now.color(tint));
    let Develop::ToneMap { stops } = &recipe.steps[0].develop else { panic!() };
    assert_eq!(stops[0].tint, Tint::Own(now.swatches[&swatch].color), "it means the same in another job");
    assert_eq!(Recipe::read(&recipe.written()).unwrap(), recipe);
    // What was painted by hand is of this picture; a part that any picture has goes along.
    let stroke = vatman_document::BrushStroke {
        points: vec![Focus::CENTRE],
        radius: r(0.1),
        hardness: r(0.5),
        strength: r(1.0),
        erases: false,
    };
    let painted = MaskArea { area: Area::Brush { strokes: vec![stroke] }, joins: vatman_document::Joining::Add };
    let only = |areas: Vec<MaskArea>| {
        let step = Treatment { mask: Some(Mask { areas, ..spot(false) }), ..starting("mono").unwrap() };
        Recipe::of("Mine", &[step], |tint| now.color(tint)).steps[0].mask.clone()
    };
    assert_eq!(only(vec![painted.clone()]), None);
    assert_eq!(only([spot(false).areas, vec![painted]].concat()), Some(spot(false)));
}

#[test]
fn tones_are_stretched_and_grey_is_made_grey_in_the_place_of_what_was_found_before() {
    let (job, [picture, _]) = treated_job();
    let kind = |job: &Job| -> Vec<bool> {
        steps(job, &picture).iter().map(|step| matches!(step.develop, Develop::Levels { .. })).collect()
    };
    let now = with(&job, auto_step(&job, Subject::Items(std::slice::from_ref(&picture)), &WORLD.studio).unwrap());
    assert_eq!(kind(&now), [true]);
    let again = with(&now, auto_step(&now, Subject::Items(std::slice::from_ref(&picture)), &WORLD.studio).unwrap());
    assert_eq!(steps(&again, &picture), steps(&now, &picture), "found once more it is the same");
    let at = Focus { x: r(0.3), y: r(0.3) };
    let grey =
        with(&now, neutral_step(&now, Subject::Items(std::slice::from_ref(&picture)), at, &WORLD.studio).unwrap());
    let all = steps(&grey, &picture);
    assert!(matches!(all[0].develop, Develop::WhiteBalance { .. }) && all.len() == 2, "light is put right first");
    let elsewhere = with(
        &grey,
        neutral_step(
            &grey,
            Subject::Items(std::slice::from_ref(&picture)),
            Focus { x: r(0.8), y: r(0.7) },
            &WORLD.studio,
        )
        .unwrap(),
    );
    assert_eq!(steps(&elsewhere, &picture).len(), 2);
}

#[test]
fn every_recipe_that_ships_is_seen_on_a_picture_and_leaves_it_a_picture() {
    let names = ["bowls", "planters", "mist-hills"];
    let ids: Vec<_> = names.iter().filter_map(|name| WORLD.samples.get(*name)).collect();
    let print = |id: &vatman_document::AssetId, treatments: &[Treatment]| {
        let source = vatman_document::PictureSource {
            treatments: treatments.to_vec(),
            ..vatman_document::PictureSource::plain(id.clone())
        };
        WORLD.studio.pictures.print(&std::sync::Arc::new(source), (240, 240)).unwrap()
    };
    for recipe in shipped_recipes() {
        // Some are for greens, some for blues: one of the pictures has what it is for.
        let far = |id: &&vatman_document::AssetId| {
            let (before, after) = (print(id, &[]), print(id, &recipe.steps));
            let far = before.data().iter().zip(after.data()).map(|(a, b)| f64::from(a.abs_diff(*b))).sum::<f64>();
            far / before.data().len() as f64
        };
        assert!(ids.iter().map(far).fold(0.0, f64::max) > 1.0, "{} is hardly seen", recipe.name);
        let after = print(ids[0], &recipe.steps);
        // Tasteful: neither end of the tones swallows the picture.
        let of = |value: u8| after.data().chunks_exact(4).filter(|p| p[..3].iter().all(|v| *v == value)).count();
        let most = after.data().len() / 4;
        let printed = recipe.name == "Printed in dots";
        assert!(printed || of(0) * 4 < most && of(255) * 4 < most, "{} cuts off too much", recipe.name);
    }
}

#[test]
fn a_picture_that_is_not_there_is_laid_over_nothing() {
    let (job, [picture, _]) = treated_job();
    let gone = vatman_photo::content_id(b"nothing");
    let over = Treatment::new(Develop::Overlay {
        picture: gone,
        blend: vatman_document::Blend::Multiply,
        centre: Focus::CENTRE,
        scale: Ratio::ONE,
        turn: vatman_units::Angle::ZERO,
    });
    let refused = set_steps(&job, Subject::Items(std::slice::from_ref(&picture)), &[over])
        .unwrap()
        .apply(&mut job.clone(), &*WORLD);
    assert!(refused.is_err(), "a step cannot need a picture that is not on the shelf");
    let sample = WORLD.samples["bowls"].clone();
    let laid = Treatment::new(Develop::Overlay {
        picture: sample.clone(),
        blend: vatman_document::Blend::Multiply,
        centre: Focus::CENTRE,
        scale: r(0.8),
        turn: vatman_units::Angle::degrees(12.0),
    });
    let now = with(&job, set_steps(&job, Subject::Items(std::slice::from_ref(&picture)), &[laid]).unwrap());
    assert!(difference(&pixels(&now, 0), &pixels(&job, 0)) > 0.5);
    assert!(now.pictures().contains(&sample), "it is kept with the job");
}
