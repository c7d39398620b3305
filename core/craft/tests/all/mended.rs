//! Pictures mended and made into something else: spots, set upright, faded out, on a ground of their own, with a rim, in outlines; and
//! words that are treated as they are drawn.

use kurbo::Shape as _;
use vatman_craft::{
    Addition, BrushSetting, EffectChange, Gift, GroupLight, PutOn, Refusal, Subject, TraceWish, UprightChange,
    add_step, change_effect, cut_out_by, cut_to, drop_spot, give, lay_over, level_picture, light_group, paint_spot,
    print_of, put_on, set_steps, set_upright, show_picture, starting, trace_picture, treat_alike,
};
use vatman_document::{
    AssetId, Blend, Color, Command, Content, Develop, Effect, Focus, ItemId, Job, Paint, PictureSource, Treatment,
};
use vatman_photo::{Straight, encode_png};
use vatman_units::{Angle, Length, Ratio};

use crate::common::{WORLD, difference, run, sheet_with};
use crate::treated_together::{Fresh, elsewhere, file, grouped, picture_of, pixels, poster, text_of_pdf, with};

fn spot(x: f64, y: f64) -> Focus {
    Focus { x: Ratio::new(x), y: Ratio::new(y) }
}

/// A picture made of what `pixel` says, kept by the world.
fn made(width: u32, height: u32, pixel: impl Fn(f64, f64) -> [u8; 4]) -> AssetId {
    let (w, h) = (f64::from(width), f64::from(height));
    let at = |n: u32| pixel((f64::from(n % width) + 0.5) / w, (f64::from(n / width) + 0.5) / h);
    let picture = Straight::new(width, height, (0..width * height).flat_map(at).collect()).unwrap();
    WORLD.keep(encode_png(&picture, 96).unwrap())
}

fn framed(picture: &AssetId) -> Addition {
    let info = WORLD.studio.pictures.info(picture).unwrap();
    Addition::Picture(Some((picture.clone(), (info.width, info.height))))
}

/// A sheet with one picture.
fn showing(picture: &AssetId) -> (Job, ItemId) {
    let (job, items) = sheet_with(vec![framed(picture)]);
    (job, items[0].clone())
}

fn steps(job: &Job, item: &ItemId) -> Vec<Treatment> {
    job.find(item).unwrap().plain().unwrap().look.treatments.clone()
}

/// A brown disc on white, with a white hole.
fn disc() -> AssetId {
    made(400, 400, |x, y| {
        let far = (x - 0.4).hypot(y - 0.55);
        if (0.06..0.24).contains(&far) { [140, 80, 50, 255] } else { [255, 255, 255, 255] }
    })
}

/// The same, cut out.
fn disc_cut_out() -> (Job, ItemId) {
    let (job, item) = showing(&disc());
    let mask = made(400, 400, |x, y| {
        let seen = (0.06..0.24).contains(&(x - 0.4).hypot(y - 0.55));
        [[0u8, 0, 0, 255], [255; 4]][usize::from(seen)]
    });
    let job = with(&job, cut_out_by(&job, &item, &mask).unwrap());
    (job, item)
}

#[test]
fn other_programs_draw_what_is_mended_as_we_draw_pixels() {
    let job = poster();
    let picture = picture_of(&job);
    let own = std::slice::from_ref(&picture);
    let plain = pixels(&job);
    let upright = |turn: f64, corners| {
        let change = UprightChange { turn: Some(Angle::degrees(turn)), corners };
        with(&job, set_upright(&job, &picture, change).unwrap())
    };
    let leaning = [spot(0.1, 0.05), spot(0.85, 0.15), spot(0.95, 0.9), spot(0.02, 0.98)];
    let faded = with(&job, add_step(&job, Subject::Items(own), "clear").unwrap());
    let shown = job.find(&picture).unwrap().plain().unwrap().content.picture().unwrap().clone();
    let over = with(&job, lay_over(&job, Subject::Items(own), &shown).unwrap());
    let mut turned = steps(&over, &picture);
    if let Develop::Overlay { blend, scale, turn, .. } = &mut turned[0].develop {
        (*blend, *scale, *turn) = (Blend::Multiply, Ratio::new(0.7), Angle::degrees(30.0));
    }
    let over = with(&over, set_steps(&over, Subject::Items(own), &turned).unwrap());
    let cases = [
        ("turned", upright(4.0, None)),
        ("squared", upright(0.0, Some(Some(leaning)))),
        ("both", upright(-9.0, Some(Some(leaning)))),
        ("faded", faded),
        ("with another over it", over),
    ];
    for (name, job) in &cases {
        assert!(difference(&pixels(job), &plain) > 0.5, "{name} is seen");
        let (svg, pdf) = elsewhere(job);
        assert!(svg < 2.0, "{name}: the SVG is {svg:.2} off");
        assert!(pdf < 3.0, "{name}: the PDF is {pdf:.2} off");
    }
    // Back, and nothing is left of it.
    let back = UprightChange { turn: Some(Angle::ZERO), corners: Some(None) };
    let back = with(&cases[2].1, set_upright(&cases[2].1, &picture, back).unwrap());
    assert_eq!(back.find(&picture).unwrap().plain().unwrap().look.upright, None);
    assert_eq!(difference(&pixels(&back), &plain), 0.0);
    let bent = UprightChange { turn: None, corners: Some(Some([spot(0.5, 0.5); 4])) };
    let bent = set_upright(&job, &picture, bent).unwrap();
    assert!(bent.apply(&mut job.clone(), &*WORLD).is_err(), "corners without sense");
}

#[test]
fn a_leaning_picture_is_levelled_once() {
    let (sin, cos) = 5.0f64.to_radians().sin_cos();
    let shelf = made(600, 400, |x, y| {
        let (x, y) = ((x - 0.5) * 600.0, (y - 0.5) * 400.0);
        let along = y * cos - x * sin;
        if (10.0..34.0).contains(&along) { [60, 50, 40, 255] } else { [210, 205, 200, 255] }
    });
    let (job, item) = showing(&shelf);
    let level = with(&job, level_picture(&job, &item, &WORLD.studio).unwrap());
    let turn = level.find(&item).unwrap().plain().unwrap().look.upright.unwrap().turn.to_degrees();
    assert!((turn + 5.0).abs() < 0.3, "{turn}");
    assert_eq!(level_picture(&level, &item, &WORLD.studio), Err(Refusal::Level));
    // Another picture stands by itself.
    let other = with(&level, show_picture(&level, &item, &disc()).unwrap());
    assert_eq!(other.find(&item).unwrap().plain().unwrap().look.upright, None);
}

#[test]
fn spots_are_filled_taken_back_and_stay_with_their_picture() {
    let wall = made(600, 600, |x, y| {
        let grain = (((x * 600.0) as u32 * 7 + (y * 600.0) as u32 * 13) % 9) as u8;
        let stain = (x - 0.6).hypot(y - 0.4) < 0.03;
        if stain { [40, 20, 20, 255] } else { [170 + grain, 160 + grain, 150 + grain, 255] }
    });
    let (job, item) = showing(&wall);
    let own = std::slice::from_ref(&item);
    let job = with(&job, add_step(&job, Subject::Items(own), "spots").unwrap());
    let brush = BrushSetting { radius: Ratio::new(0.045), ..BrushSetting::starting() };
    let paint = |job: &Job, x: f64, y: f64| paint_spot(job, &item, 0, (brush, &[spot(x, y)]), &WORLD.studio);
    let darkest = |job: &Job| {
        let print = print_of(job, Subject::Items(own), &steps(job, &item), 600, &WORLD.studio).unwrap();
        print.pixels.data().chunks_exact(4).map(|pixel| pixel[0]).min().unwrap()
    };
    assert_eq!(darkest(&job), 40);
    let mended = with(&job, paint(&job, 0.6, 0.4).unwrap());
    assert!(darkest(&mended) > 150, "{}", darkest(&mended));
    let twice = with(&mended, paint(&mended, 0.2, 0.8).unwrap());
    let count = |job: &Job| match &steps(job, &item)[0].develop {
        Develop::Spots { spots } => spots.len(),
        other => panic!("{other:?}"),
    };
    assert_eq!([&job, &mended, &twice].map(count), [0, 1, 2]);
    let once = with(&twice, drop_spot(&twice, &item, 0).unwrap());
    assert_eq!(steps(&once, &item), steps(&mended, &item));
    assert!(drop_spot(&once, &item, 3).is_err() && paint_spot(&once, &item, 3, (brush, &[]), &WORLD.studio).is_err());
    assert_eq!(paint_spot(&once, &item, 0, (brush, &[]), &WORLD.studio), Err(Refusal::NoSurroundings));
    let other = with(&once, show_picture(&once, &item, &disc()).unwrap());
    assert!(steps(&other, &item).is_empty());
    // It goes neither to other pictures nor into recipes.
    let recipe = vatman_craft::Recipe::of("Mended", &steps(&once, &item), |_| Color::BLACK);
    assert!(recipe.steps.is_empty());
    let (two, items) = sheet_with(vec![framed(&wall), framed(&wall)]);
    let two = with(&two, set_steps(&two, Subject::Items(&items[..1]), &steps(&once, &item)).unwrap());
    let alike = with(&two, treat_alike(&two, &items[0], false).unwrap());
    assert!(steps(&alike, &items[1]).is_empty());
}

#[test]
fn a_cut_out_on_a_ground_keeps_the_margin_of_shops() {
    let (job, item) = disc_cut_out();
    let before = job.items().count();
    let rect = job.item(&item).unwrap().place.at.rect.to_css_px();
    for on in [
        PutOn::White,
        PutOn::Colour { tint: Color::opaque(200, 210, 190).into() },
        PutOn::Gradient { tint: Color::opaque(60, 80, 90).into() },
        PutOn::Picture { picture: disc() },
    ] {
        let (command, ground) = put_on(&job, &item, &on, &WORLD.studio, &mut Fresh(0)).unwrap();
        let job = with(&job, command);
        assert_eq!(job.items().count(), before + 1);
        let side = &job.pieces[0].sides[0];
        let at = |id: &ItemId| side.items.iter().position(|item| item.id == *id).unwrap();
        assert_eq!(at(&ground) + 1, at(&item), "right below it");
        assert_eq!(job.item(&ground).unwrap().groups, job.item(&item).unwrap().groups);
        assert_eq!(job.item(&ground).unwrap().place.at.rect, job.item(&item).unwrap().place.at.rect);
        // Its colour at the foot, and lighter and quieter towards the top.
        if let PutOn::Gradient { tint } = &on {
            let kin = &job.item(&ground).unwrap().kin;
            let Some(vatman_document::Paint::Linear { stops, .. }) = &job.kins[kin].look.fill else { panic!("{kin}") };
            let [own, top] = [0, 1].map(|n| vatman_document::Oklab::from(job.color(&stops[n].tint)));
            assert_eq!(stops[0].tint, *tint);
            assert!((top.l - (own.l + 0.55 * (1.0 - own.l))).abs() < 0.01, "{top:?} over {own:?}");
            assert!((top.a - 0.6 * own.a).abs() < 0.005 && (top.b - 0.6 * own.b).abs() < 0.005, "{top:?} over {own:?}");
        }
        // What is brown is seen in the middle, and 85 % of the frame wide.
        if on == PutOn::White {
            let seen = pixels(&job);
            let brown = |x: u32, y: u32| seen.get_pixel(x, y).0[0] < 200;
            let columns: Vec<u32> = (0..seen.width()).filter(|x| (0..seen.height()).any(|y| brown(*x, y))).collect();
            let (left, right) = (f64::from(columns[0]), f64::from(columns[columns.len() - 1] + 1));
            assert!(((right - left) / rect.width() - 0.85).abs() < 0.01, "{left} to {right} of {rect:?}");
            assert!((f64::midpoint(left, right) - rect.center().x).abs() < 2.0);
        }
    }
    let (whole, picture) = showing(&disc());
    assert_eq!(put_on(&whole, &picture, &PutOn::White, &WORLD.studio, &mut Fresh(0)), Err(Refusal::NotCutOut));
}

#[test]
fn a_rim_follows_what_is_seen_and_leaves_as_a_cutting_line() {
    let (job, item) = disc_cut_out();
    let own = std::slice::from_ref(&item);
    let job = with(&job, give(&job, own, Gift::Rim, &WORLD.studio).unwrap());
    let change = |cut: bool| EffectChange {
        depth: Some(Length::css_px(20.0)),
        tint: Some(Color::opaque(250, 220, 0).into()),
        cut: Some(cut),
        ..EffectChange::default()
    };
    let plain = with(&job, change_effect(&job, own, 0, &change(false)).unwrap());
    let cut = with(&job, change_effect(&job, own, 0, &change(true)).unwrap());
    let yellow = pixels(&cut).pixels().filter(|pixel| pixel.0[0] > 230 && pixel.0[2] < 40).count() as f64;
    let rect = job.item(&item).unwrap().place.at.rect.to_css_px();
    let (inner, outer) = (0.24 * rect.width(), 0.24 * rect.width() + 20.0);
    let hole = 0.06 * rect.width();
    let wanted = std::f64::consts::PI * (outer * outer - inner * inner + hole * hole - (hole - 20.0).max(0.0).powi(2));
    assert!((yellow / wanted - 1.0).abs() < 0.03, "{yellow} for {wanted}");
    let (svg, pdf) = elsewhere(&plain);
    assert!(svg < 1.0 && pdf < 1.5, "{svg} {pdf}");
    // The line is told apart from what is printed.
    let said = |job: &Job| String::from_utf8(file(job, vatman_craft::FileKind::Svg)).unwrap();
    assert!(!said(&plain).contains("cutting-line") && said(&cut).contains("id=\"cutting-line\""));
    let folder = tempfile::tempdir().unwrap();
    let separations = |job: &Job| {
        let path = folder.path().join("a.pdf").display().to_string();
        std::fs::write(&path, file(job, vatman_craft::FileKind::Pdf)).unwrap();
        run("qpdf", &["--check", &path]);
        let plain = format!("{path}.plain");
        run("qpdf", &["--qdf", "--object-streams=disable", &path, &plain]);
        String::from_utf8_lossy(&std::fs::read(plain).unwrap()).matches("/Separation").count()
    };
    assert_eq!((separations(&plain), separations(&cut)), (0, 1));
    // Pixels are printed, not cut.
    assert_eq!(difference(&pixels(&plain), &pixels(&cut)), 0.0);
    // Around words, and around a shape.
    let (two, items) = sheet_with(vec![Addition::Shape(vatman_document::Outline::Ellipse)]);
    let two = with(&two, give(&two, &items, Gift::Rim, &WORLD.studio).unwrap());
    assert!(matches!(two.find(&items[0]).unwrap().plain().unwrap().look.effects[0], Effect::Rim { .. }));
    assert!(elsewhere(&two).0 < 1.0);
}

#[test]
fn a_frame_is_cut_to_proportions_and_the_picture_stays_where_it_is() {
    let job = poster();
    let item = picture_of(&job);
    let was = job.item(&item).unwrap().place.at.rect.to_css_px();
    let before = pixels(&job);
    for (across, down) in [(1, 1), (2, 3), (16, 9)] {
        let cut = with(&job, cut_to(&job, &item, (across, down), &WORLD.studio).unwrap());
        let now = cut.item(&item).unwrap().place.at.rect.to_css_px();
        assert!((now.width() / now.height() - f64::from(across) / f64::from(down)).abs() < 1e-3);
        assert!(was.inflate(0.1, 0.1).contains_rect(now) && (now.center() - was.center()).hypot() < 0.1);
        let middle = pixels(&cut);
        let at = (now.center().x as u32, now.center().y as u32);
        let off = (0..3).map(|c| middle.get_pixel(at.0, at.1).0[c].abs_diff(before.get_pixel(at.0, at.1).0[c])).max();
        assert!(off < Some(12), "{across}:{down}: {off:?}");
    }
    let own = with(&job, cut_to(&job, &item, (0, 0), &WORLD.studio).unwrap());
    let now = own.item(&item).unwrap().place.at.rect.to_css_px();
    let info =
        WORLD.studio.pictures.info(job.find(&item).unwrap().plain().unwrap().content.picture().unwrap()).unwrap();
    assert!((now.width() / now.height() - f64::from(info.width) / f64::from(info.height)).abs() < 1e-3);
}

#[test]
fn a_logo_on_white_becomes_a_drawing_in_its_place() {
    let (job, item) = showing(&disc());
    let before = pixels(&job);
    let wish = TraceWish { colours: 2, smooth: Ratio::new(0.1) };
    let (command, drawing) = trace_picture(&job, &item, wish, &WORLD.studio, &mut Fresh(0)).unwrap();
    let traced = with(&job, command);
    assert!(traced.item(&item).is_none() && traced.pieces[0].tray.len() == 1, "the picture is kept aside");
    let plain = traced.find(&drawing).unwrap().plain().unwrap();
    let Content::Drawing { drawing } = plain.content else { panic!("no drawing") };
    assert_eq!(drawing.parts.len(), 1, "without its white ground");
    let ground =
        Command::SetGround { side: traced.pieces[0].sides[0].id.clone(), ground: Some(Paint::flat(Color::WHITE)) };
    let off = difference(&pixels(&with(&traced, ground)), &before);
    assert!(off < 1.2, "it looks as the picture did: {off:.2} off");
    let words = poster();
    let text = words.items().find(|item| words.plain(item).unwrap().content.words().is_some()).unwrap().id.clone();
    assert!(trace_picture(&words, &text, wish, &WORLD.studio, &mut Fresh(0)).is_err());
}

#[test]
fn words_are_treated_as_they_are_drawn_and_still_read() {
    let job = poster();
    let said = text_of_pdf(&job);
    let words = job.items().find(|item| job.plain(item).unwrap().content.words().is_some()).unwrap().id.clone();
    let own = std::slice::from_ref(&words);
    let plain = pixels(&job);
    for kinds in [vec!["blur"], vec!["clear"], vec!["texture", "mono"]] {
        let list: Vec<Treatment> = kinds.iter().map(|kind| starting(kind).unwrap()).collect();
        let job = with(&job, set_steps(&job, Subject::Items(own), &list).unwrap());
        assert!(difference(&pixels(&job), &plain) > 0.02, "{kinds:?} is seen");
        let (svg, pdf) = elsewhere(&job);
        assert!(svg < 2.0 && pdf < 3.5, "{kinds:?}: {svg:.2} {pdf:.2}");
        let sorted = |text: &str| {
            let mut all: Vec<String> = text.split_whitespace().map(str::to_owned).collect();
            all.sort_unstable();
            all
        };
        assert_eq!(sorted(&text_of_pdf(&job)), sorted(&said));
        let print = print_of(&job, Subject::Items(own), &list, 400, &WORLD.studio).unwrap();
        assert!(print.pixels.width() > 0 && print.field.0 > 0.0);
    }
}

#[test]
fn a_group_throws_one_shadow() {
    let (job, group, _) = grouped();
    let light = |job: &Job, light: GroupLight| with(job, light_group(job, &group, &light).unwrap());
    let given = light(&job, GroupLight::Give);
    assert!(difference(&pixels(&given), &pixels(&job)) > 0.01);
    let far = EffectChange { dx: Some(Length::css_px(9.0)), ..EffectChange::default() };
    let moved = light(&given, GroupLight::Change { index: 0, change: far });
    let effects = |job: &Job| job.pieces[0].sides[0].group_look(&group).map_or(Vec::new(), |look| look.effects.clone());
    assert!(matches!(effects(&moved)[0], Effect::Shadow { dx, .. } if dx == Length::css_px(9.0)));
    assert!(effects(&light(&moved, GroupLight::Drop { index: 0 })).is_empty());
    assert!(light_group(&job, &group, &GroupLight::Drop { index: 0 }).is_err());
}

#[test]
fn the_contour_of_what_is_seen_is_in_fractions_of_the_picture() {
    let (job, item) = disc_cut_out();
    let plain = job.find(&item).unwrap().plain().unwrap();
    let picture = plain.content.picture().unwrap().clone();
    let source = std::sync::Arc::new(PictureSource::of(picture.clone(), &plain.look, |_| Color::BLACK));
    let contour = WORLD.studio.pictures.contour(&source).unwrap();
    let area = contour.area().abs();
    let wanted = std::f64::consts::PI * (0.24 * 0.24 - 0.06 * 0.06);
    assert!((area - wanted).abs() < wanted * 0.02, "{area} for {wanted}");
    assert!(WORLD.studio.pictures.contour(&std::sync::Arc::new(PictureSource::plain(picture))).is_none());
}
