//! Groups treated as a whole, what lies behind shapes, what lies over everything, and subjects cut out: the same in every output.

use crate::common::{WORLD, difference, run, words};
use vatman_craft::{
    BrushSetting, CutChange, CutStroke, EffectChange, FileKind, Gift, GroupChange, HandOver, PrintedFrom, Subject,
    add_area, add_step, change_cut, change_effect, change_group_look, clip, crop_by, cut_out_by, cut_stroke, give,
    group, over_everything, paint_mask, paste, print_of, set_steps, settle, show_picture, show_whole, starting,
    subject_in_front, ungroup, write_file,
};
use vatman_document::{
    Area, Blend, Command, Content, Effect, Focus, GroupId, IdSource, ItemId, Job, Property, Treatment,
};
use vatman_photo::{CutHints, cut_out};
use vatman_units::{Length, Ratio, Rect};

pub struct Fresh(pub u32);
impl IdSource for Fresh {
    fn fresh(&mut self) -> String {
        self.0 += 1;
        format!("fresh{}", self.0)
    }
}

#[allow(clippy::needless_pass_by_value, reason = "commands are made where they are applied")]
pub fn with(job: &Job, command: Command) -> Job {
    let mut out = job.clone();
    command.apply(&mut out, &*WORLD).unwrap();
    for settled in settle(job, &out.clone(), &WORLD.studio) {
        settled.apply(&mut out, &*WORLD).unwrap();
    }
    out.check().unwrap();
    out
}

pub fn poster() -> Job {
    WORLD.job(&["half-and-half"], &[("square-post", 1)], &words())
}

pub fn picture_of(job: &Job) -> ItemId {
    let items = &job.pieces[0].sides[0].items;
    let shows = |id: &ItemId| job.find(id).unwrap().plain().unwrap().content.picture().is_some();
    items.iter().map(|item| item.id.clone()).find(shows).unwrap()
}

/// The poster with its words as one group.
pub fn grouped() -> (Job, GroupId, Vec<ItemId>) {
    let job = poster();
    let says =
        |id: &ItemId| job.find(id).unwrap().plain().unwrap().content.words().is_some_and(|text| !text.is_blank());
    let items: Vec<ItemId> =
        job.pieces[0].sides[0].items.iter().map(|item| item.id.clone()).filter(says).take(3).collect();
    let job = with(&job, group(&job, &items, &mut Fresh(0)).unwrap());
    let id = job.item(&items[0]).unwrap().groups[0].clone();
    (job, id, items)
}

pub fn file(job: &Job, kind: FileKind) -> Vec<u8> {
    write_file(&WORLD.studio, job, &job.pieces[0], &[], HandOver::of(kind)).unwrap().swap_remove(0).bytes
}

pub fn pixels(job: &Job) -> image::RgbaImage {
    image::load_from_memory(&file(job, FileKind::Png)).unwrap().to_rgba8()
}

/// What other programs make of the SVG and the PDF of a job, next to its pixels: mean differences of 255.
pub fn elsewhere(job: &Job) -> (f64, f64) {
    let folder = tempfile::tempdir().unwrap();
    let ours = pixels(job);
    let path = |name: &str| folder.path().join(name).display().to_string();
    std::fs::write(path("a.svg"), file(job, FileKind::Svg)).unwrap();
    std::fs::write(path("a.pdf"), file(job, FileKind::Pdf)).unwrap();
    let (w, h) = (ours.width().to_string(), ours.height().to_string());
    run("rsvg-convert", &["-w", &w, "-h", &h, "--unlimited", "-o", &path("svg.png"), &path("a.svg")]);
    run("pdftocairo", &["-png", "-singlefile", "-scale-to-x", &w, "-scale-to-y", &h, &path("a.pdf"), &path("pdf")]);
    let read = |name: &str| image::open(path(name)).unwrap().to_rgba8();
    (difference(&ours, &read("svg.png")), difference(&ours, &read("pdf.png")))
}

pub fn text_of_pdf(job: &Job) -> String {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("a.pdf").display().to_string();
    std::fs::write(&path, file(job, FileKind::Pdf)).unwrap();
    let out = std::process::Command::new("pdftotext").args(["-raw", &path, "-"]).output().unwrap();
    String::from_utf8(out.stdout).unwrap()
}

#[test]
fn other_programs_draw_groups_and_what_lies_behind_as_we_draw_pixels() {
    let (job, id, _) = grouped();
    let plain = pixels(&job);
    let said = text_of_pdf(&job);
    let changed = |change: GroupChange| with(&job, change_group_look(&job, &id, change).unwrap());
    let stepped = |kinds: &[&str]| {
        let steps: Vec<Treatment> = kinds.iter().map(|kind| starting(kind).unwrap()).collect();
        with(&job, set_steps(&job, Subject::Group(&id), &steps).unwrap())
    };
    let lens = |kinds: &[&str]| {
        let side = job.pieces[0].sides[0].id.clone();
        let (command, item) = over_everything(&job, &side, &mut Fresh(50)).unwrap();
        let job = with(&job, command);
        let steps: Vec<Treatment> = kinds.iter().map(|kind| starting(kind).unwrap()).collect();
        with(&job, set_steps(&job, Subject::Items(&[item]), &steps).unwrap())
    };
    let cases = [
        ("faded", changed(GroupChange { opacity: Some(Ratio::new(0.55)), ..GroupChange::default() })),
        ("mixed", changed(GroupChange { blend: Some(Blend::Multiply), ..GroupChange::default() })),
        ("blurred", stepped(&["blur"])),
        ("in squares", stepped(&["pixelate"])),
        ("drawn out, in grain", stepped(&["motion", "grain"])),
        ("all grey under a vignette", lens(&["mono", "vignette"])),
        ("all blurred", lens(&["blur"])),
    ];
    for (name, job) in &cases {
        assert!(difference(&pixels(job), &plain) > 0.1, "{name} is seen");
        let (svg, pdf) = elsewhere(job);
        assert!(svg < 2.0, "{name}: the SVG is {svg:.2} off");
        // Poppler sets type a little heavier.
        assert!(pdf < 3.5, "{name}: the PDF is {pdf:.2} off");
        // Whatever is done to them, words are there to be read.
        let mut wanted: Vec<&str> = said.split_whitespace().collect();
        let now = text_of_pdf(job);
        let mut found: Vec<&str> = now.split_whitespace().collect();
        wanted.sort_unstable();
        found.sort_unstable();
        assert_eq!(found, wanted, "{name}");
    }
}

#[test]
fn the_look_of_a_group_goes_where_the_group_goes_and_ends_with_it() {
    let (job, id, items) = grouped();
    let side = job.pieces[0].sides[0].id.clone();
    let job = with(&job, add_step(&job, Subject::Group(&id), "mono").unwrap());
    assert_eq!(Subject::Group(&id).steps(&job).unwrap().len(), 1);
    // Copied, it has a look of its own.
    let copied = with(&job, paste(&job, &side, &clip(&job, &items).unwrap(), &mut Fresh(100)).unwrap().0);
    assert_eq!(copied.pieces[0].sides[0].group_looks.len(), 2);
    // A step taken out again leaves nothing behind.
    let none = with(&job, set_steps(&job, Subject::Group(&id), &[]).unwrap());
    assert!(none.pieces[0].sides[0].group_looks.is_empty());
    let apart = with(&job, ungroup(&job, &items).unwrap());
    assert!(apart.pieces[0].sides[0].group_looks.is_empty());
    assert!(add_step(&apart, Subject::Group(&id), "mono").is_err(), "it is not there any more");
}

#[test]
fn masks_are_drawn_by_hand_on_whatever_is_treated() {
    let (job, id, _) = grouped();
    let subject = Subject::Group(&id);
    let job = with(&job, add_step(&job, subject, "mono").unwrap());
    let spot = |x: f64, y: f64| Focus { x: Ratio::new(x), y: Ratio::new(y) };
    let area = |job: &Job, kind| {
        with(job, add_area(job, subject, 0, (kind, &[spot(0.5, 0.5), spot(0.8, 0.6)]), &WORLD.studio).unwrap())
    };
    use vatman_craft::AreaKind::{Colour, Light, Linear, Radial};
    let all = [Linear, Radial, Light].into_iter().fold(job.clone(), |job, kind| area(&job, kind));
    let mask = |job: &Job| subject.steps(job).unwrap()[0].mask.clone().unwrap();
    assert_eq!(mask(&all).areas.len(), 3);
    let still = [spot(0.5, 0.5), spot(0.501, 0.5)];
    let none = add_area(&all, subject, 0, (Radial, &still), &WORLD.studio).unwrap();
    assert_eq!(none.count(), 0, "a press is no ellipse");
    assert!(add_area(&all, subject, 1, (Radial, &still), &WORLD.studio).is_err(), "there is no second step");
    // The colour is that of what is there before the step.
    let picture = picture_of(&job);
    let on_picture = Subject::Items(std::slice::from_ref(&picture));
    let job = with(&job, set_steps(&job, on_picture, &[starting("mono").unwrap()]).unwrap());
    let at = spot(0.4, 0.6);
    let seen = print_of(&job, on_picture, &[], 640, &WORLD.studio).unwrap().colour_at(at).unwrap();
    let job = with(&job, add_area(&job, on_picture, 0, (Colour, &[at]), &WORLD.studio).unwrap());
    let found = on_picture.steps(&job).unwrap()[0].mask.clone().unwrap();
    let Area::Colour { tint: vatman_document::Tint::Own(color), .. } = &found.areas[0].area else {
        panic!("{found:?}")
    };
    assert_eq!([color.r, color.g, color.b], seen);
    // Strokes go into the painted area that is last.
    let brush = BrushSetting { erases: true, ..BrushSetting::starting() };
    let painted = (0..2).fold(job, |job, _| with(&job, paint_mask(&job, on_picture, 0, &[at], brush).unwrap()));
    let areas = on_picture.steps(&painted).unwrap()[0].mask.clone().unwrap().areas;
    let Area::Brush { strokes } = &areas[1].area else { panic!("{areas:?}") };
    assert!(areas.len() == 2 && strokes.len() == 2 && strokes.iter().all(|stroke| stroke.erases));
}

#[test]
fn a_print_of_a_part_of_a_sheet_is_what_the_sheet_shows_there() {
    let (job, id, _) = grouped();
    let steps = [starting("pixelate").unwrap()];
    let print = print_of(&job, Subject::Group(&id), &steps, 400, &WORLD.studio).unwrap();
    let PrintedFrom::Sheet { area, field, .. } = &print.from else { panic!("no part of a sheet") };
    assert!(print.pixels.width().abs_diff(400) <= 1 && area.contains(field.center()), "{area:?} {field:?}");
    assert!(print.pixels.data().chunks_exact(4).any(|pixel| pixel[3] > 90), "the words are on it");
    assert!((print.longer - 1_080.0).abs() < 1.0 && (print.field.0 - field.width()).abs() < 1e-6);
    // With nothing done it is as it is drawn, and clear beside the letters.
    let plain = print_of(&job, Subject::Group(&id), &[], 400, &WORLD.studio).unwrap();
    assert!(plain.pixels.data() != print.pixels.data());
    assert!(plain.pixels.data().chunks_exact(4).any(|pixel| pixel[3] == 0));
}

#[test]
fn a_colour_is_read_where_it_is_pointed_at_also_of_the_second_of_two_parts() {
    let job = poster();
    let plain = pixels(&job);
    let side = job.pieces[0].sides[0].id.clone();
    let lens = |job: &Job, first: u32, [left, top, width, height]: [f64; 4]| {
        let (command, item) = over_everything(job, &side, &mut Fresh(first)).unwrap();
        let dim = [starting("fade").unwrap()];
        let job = with(job, command);
        let mut job = with(&job, set_steps(&job, Subject::Items(std::slice::from_ref(&item)), &dim).unwrap());
        let mut place = job.item(&item).unwrap().place;
        let px = Length::css_px;
        place.at.rect = Rect { x: px(left), y: px(top), w: px(width), h: px(height) };
        Command::SetPlace { item: item.clone(), place }.apply(&mut job, &*WORLD).unwrap();
        (job, item)
    };
    // What lies in one corner is treated; what is read lies in another, and does not begin at the corner of the sheet.
    let (job, _) = lens(&job, 50, [20.0, 20.0, 160.0, 120.0]);
    let (job, item) = lens(&job, 90, [340.0, 260.0, 660.0, 760.0]);
    let print = print_of(&job, Subject::Items(std::slice::from_ref(&item)), &[], 660, &WORLD.studio).unwrap();
    let PrintedFrom::Sheet { area, .. } = &print.from else { panic!("no part of a sheet") };
    assert!(area.x0 > 300.0 && area.y0 > 220.0, "{area:?}");
    let mut colours = std::collections::HashSet::new();
    for (x, y) in
        [(0.1, 0.1), (0.5, 0.1), (0.9, 0.2), (0.2, 0.5), (0.5, 0.5), (0.8, 0.5), (0.1, 0.9), (0.5, 0.8), (0.9, 0.9)]
    {
        let (px, py) = ((340.0 + 660.0 * x) as u32, (260.0 + 760.0 * y) as u32);
        // Places are shares of the sheet.
        let at = |along: u32| Ratio::new((f64::from(along) + 0.5) / 1_080.0);
        let seen = print.colour_at(Focus { x: at(px), y: at(py) }).unwrap();
        let mut sum = [0u32; 3];
        for (dx, dy) in (0..25).map(|n| (n % 5, n / 5)) {
            (0..3).for_each(|c| sum[c] += u32::from(plain.get_pixel(px + dx - 2, py + dy - 2).0[c]));
        }
        let mean = sum.map(|sum| (sum / 25) as u8);
        assert!((0..3).all(|c| seen[c].abs_diff(mean[c]) < 24), "at {x}, {y}: {seen:?}, the sheet has {mean:?}");
        colours.insert(seen);
    }
    assert!(colours.len() > 2, "{colours:?}");
}

/// The poster with a picture whose subject stands out, its item, and the mask that was found for it.
fn cut() -> (Job, ItemId, vatman_document::AssetId) {
    let job = poster();
    let picture = picture_of(&job);
    let sample = WORLD.samples["bowls"].clone();
    let job = with(&job, show_picture(&job, &picture, &sample).unwrap());
    let found = cut_out(&WORLD.studio.pictures.pixels(&sample).unwrap(), CutHints::default(), &|_| true).unwrap();
    let mask = WORLD.keep(vatman_photo::encode_png(&found.picture(), 96).unwrap());
    (job, picture, mask)
}

#[test]
fn other_programs_draw_a_subject_that_is_cut_out_as_we_draw_pixels() {
    let (job, picture, mask) = cut();
    let out = with(&job, cut_out_by(&job, &picture, &mask).unwrap());
    assert!(difference(&pixels(&out), &pixels(&job)) > 1.0, "what lay around it is gone");
    let soft = CutChange { softness: Some(Ratio::new(0.004)), shift: Some(Ratio::new(-0.003)) };
    let edged = with(&out, change_cut(&out, &picture, soft).unwrap());
    assert!(difference(&pixels(&edged), &pixels(&out)) > 0.01);
    for job in [&out, &edged] {
        let (svg, pdf) = elsewhere(job);
        assert!(svg < 2.0 && pdf < 3.5, "{svg:.2} {pdf:.2}");
    }
    assert!(out.pictures().contains(&mask), "the mask is kept with the job");
    let whole = with(&edged, show_whole(&edged, &picture).unwrap());
    assert_eq!(difference(&pixels(&whole), &pixels(&job)), 0.0);
    assert!(change_cut(&whole, &picture, soft).is_err());
    // Another picture is seen whole.
    let other = with(&out, show_picture(&out, &picture, &WORLD.samples["planters"]).unwrap());
    assert!(other.find(&picture).unwrap().plain().unwrap().look.cut_out.is_none());
}

#[test]
fn strokes_say_what_belongs_to_a_subject_and_what_is_hidden() {
    let (job, picture, _) = cut();
    let way = [Focus { x: Ratio::HALF, y: Ratio::HALF }];
    let brush = BrushSetting { strength: Ratio::HALF, ..BrushSetting::starting() };
    let job = [CutStroke::Keep, CutStroke::Remove, CutStroke::Hide, CutStroke::Show]
        .into_iter()
        .fold(job, |job, kind| with(&job, cut_stroke(&job, &picture, kind, brush, &way).unwrap()));
    let cut = job.find(&picture).unwrap().plain().unwrap().look.cut_out.clone().unwrap();
    assert_eq!((cut.keep.len(), cut.remove.len(), cut.painted.len()), (2, 1, 2));
    assert!(!cut.keep[0].erases && cut.keep[1].erases && !cut.remove[0].erases, "the newer word holds");
    assert!(cut.keep[0].strength == Ratio::ONE && cut.painted[0].strength == Ratio::HALF && cut.painted[1].erases);
    // What is only said for finding the subject is not what is seen.
    assert_eq!(cut.seen().keep.len() + cut.seen().remove.len(), 0);
    let words = job.pieces[0].sides[0].items.iter().find(|item| item.id != picture).unwrap().id.clone();
    assert!(cut_stroke(&job, &words, CutStroke::Hide, brush, &way).is_err());
}

#[test]
fn a_subject_in_front_shares_its_picture_and_follows_how_it_is_cropped() {
    let (job, picture, mask) = cut();
    let (command, front) = subject_in_front(&job, &picture, &mask, &mut Fresh(0)).unwrap();
    let job = with(&job, command);
    let item = |job: &Job, id: &ItemId| job.item(id).unwrap().clone();
    assert_eq!(item(&job, &front).kin, item(&job, &picture).kin, "picture and treatment are shared");
    assert_eq!(job.pieces[0].sides[0].items.last().unwrap().id, front);
    let plain = |job: &Job, id: &ItemId| job.find(id).unwrap().plain().unwrap().look.into_owned();
    assert!(plain(&job, &front).cut_out.is_some() && plain(&job, &picture).cut_out.is_none());
    assert_eq!(job.find(&front).unwrap().plain().unwrap().own_look().properties(), [Property::Treatment]);
    // A treatment of the picture is one of its subject.
    let treated = with(&job, add_step(&job, Subject::Items(std::slice::from_ref(&picture)), "mono").unwrap());
    assert_eq!(plain(&treated, &front).treatments, plain(&treated, &picture).treatments);
    // Cropped and moved, the two stay one picture.
    let cropped = with(&job, crop_by(&job, &picture, (1_600, 1_200), (Length::ZERO, Length::ZERO), 1.6).unwrap());
    assert_ne!(item(&cropped, &picture).place.crop, None);
    assert_eq!(item(&cropped, &front).place.crop, item(&cropped, &picture).place.crop);
    let mut place = item(&cropped, &picture).place;
    place.at.rect.x += Length::css_px(40.0);
    let moved = with(&cropped, Command::SetPlace { item: picture.clone(), place });
    assert_eq!(item(&moved, &front).place.at, place.at);
    let words = job.pieces[0].sides[0].items.iter().find(|item| item.kin != job.item(&picture).unwrap().kin).unwrap();
    assert!(matches!(job.plain(words).unwrap().content, Content::Words { .. } | Content::Shape { .. }));
    assert!(subject_in_front(&job, &words.id, &mask, &mut Fresh(9)).is_err());
}

#[test]
fn a_subject_stands_on_its_ground_in_every_output() {
    let (job, picture, mask) = cut();
    let job = with(&job, cut_out_by(&job, &picture, &mask).unwrap());
    // In front of everything, so that nothing hides what lies below it.
    let job = with(&job, Command::MoveItem { item: picture.clone(), index: usize::MAX });
    let mut place = job.item(&picture).unwrap().place;
    let px = Length::css_px;
    (place.at.rect, place.crop) = (Rect::new(px(240.0), px(120.0), px(600.0), px(450.0)), None);
    let job = with(&job, Command::SetPlace { item: picture.clone(), place });
    let items = [picture.clone()];
    let plain = pixels(&job);
    let foot = |job: &Job| match job.find(&picture).unwrap().plain().unwrap().look.effects.last().unwrap() {
        Effect::Cast { ground, .. } | Effect::Contact { ground, .. } | Effect::Reflection { ground, .. } => {
            ground.get()
        }
        other => panic!("{other:?}"),
    };
    let mut all = job.clone();
    for gift in [Gift::Contact, Gift::Cast, Gift::Reflection] {
        let standing = with(&job, give(&job, &items, gift, &WORLD.studio).unwrap());
        assert!((0.2..=1.0).contains(&foot(&standing)), "{gift:?}: {}", foot(&standing));
        let off = difference(&pixels(&standing), &plain);
        assert!(off > 0.05, "{gift:?} is seen: {off}");
        let (svg, pdf) = elsewhere(&standing);
        assert!(svg < 2.0 && pdf < 3.5, "{gift:?}: {svg:.2} {pdf:.2}");
        all = with(&all, give(&all, &items, gift, &WORLD.studio).unwrap());
    }
    assert_eq!(all.find(&picture).unwrap().plain().unwrap().look.effects.len(), 3);
    // Longer is farther; the ground can be put elsewhere.
    let longer = EffectChange { length: Some(Ratio::new(1.4)), ..EffectChange::default() };
    let cast = with(&job, give(&job, &items, Gift::Cast, &WORLD.studio).unwrap());
    let far = with(&cast, change_effect(&cast, &items, 0, &longer).unwrap());
    assert!(difference(&pixels(&far), &plain) > difference(&pixels(&cast), &plain));
    let lower = EffectChange { ground: Some(Ratio::new(1.1)), ..EffectChange::default() };
    let moved = with(&cast, change_effect(&cast, &items, 0, &lower).unwrap());
    assert!((foot(&moved) - 1.1).abs() < 1e-6 && difference(&pixels(&moved), &pixels(&cast)) > 0.05);
    // Words can stand, too, and are read once.
    let words = job.pieces[0].sides[0].items.iter().find(|item| job.plain(item).unwrap().content.words().is_some());
    let standing = with(&job, give(&job, &[words.unwrap().id.clone()], Gift::Reflection, &WORLD.studio).unwrap());
    let count = |text: String| text.split_whitespace().count();
    assert_eq!(count(text_of_pdf(&standing)), count(text_of_pdf(&job)));
}
