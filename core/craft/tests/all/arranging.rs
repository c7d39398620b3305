//! Rules for changing one item: another picture, its crop, the size of type; and reading order.

use crate::common::{Counter, WORLD, words};
use proptest::prelude::*;
use vatman_craft::{Addition, Refusal, add, copy_in_order, crop_by, set_type_size, show_picture};
use vatman_document::{Command, Content, Item, ItemId, Job, Outline, Part, PictureFit, Place, Release, Target};
use vatman_scene::{Audience, Shown, picture_box};
use vatman_units::{Length, Placement, Rect};

fn job() -> Job {
    WORLD.job(&["doorway"], &[("flyer-a5", 1), ("square-post", 1)], &words())
}

fn of_part(job: &Job, piece: usize, part: Part) -> Item {
    job.pieces[piece].sides[0].items.iter().find(|item| job.plain(item).unwrap().part == part).unwrap().clone()
}

fn apply(job: &mut Job, command: &Command) -> Command {
    command.apply(job, &*WORLD).unwrap()
}

fn pixels_of(job: &Job, item: &Item) -> (u32, u32) {
    let info = WORLD.studio.pictures.info(job.plain(item).unwrap().content.picture().unwrap()).unwrap();
    (info.width, info.height)
}

/// Where the picture of an item lies in its frame.
fn boxed(job: &Job, item: &ItemId) -> (kurbo::Rect, kurbo::Size) {
    let item = job.item(item).unwrap();
    let Content::Picture { focus, .. } = job.plain(item).unwrap().content else { panic!("no frame") };
    let rect = item.place.at.rect.to_css_px();
    let (w, h) = pixels_of(job, item);
    (
        picture_box(
            rect.size(),
            kurbo::Size::new(f64::from(w), f64::from(h)),
            Shown { focus: *focus, crop: item.place.crop, fit: PictureFit::Fill },
        ),
        rect.size(),
    )
}

#[test]
fn another_picture_is_shown_in_every_piece_and_fills_every_frame() {
    let mut job = job();
    let first = of_part(&job, 0, Part::MainPicture);
    let pixels = pixels_of(&job, &first);
    let crop = crop_by(&job, &first.id, pixels, (Length::ZERO, Length::ZERO), 2.0).unwrap();
    apply(&mut job, &crop);
    let bowls = WORLD.samples["bowls"].clone();
    let before = job.clone();
    let command = show_picture(&job, &first.id, &bowls).unwrap();
    let inverse = apply(&mut job, &command);
    for piece in 0..2 {
        let item = of_part(&job, piece, Part::MainPicture);
        assert_eq!(job.plain(&item).unwrap().content.picture(), Some(&bowls));
        assert_eq!(item.place.crop, None);
    }
    apply(&mut job, &inverse);
    assert_eq!(job, before, "picture and crops come back in one step");
}

#[test]
fn a_released_frame_changes_alone() {
    let mut job = job();
    let here = of_part(&job, 0, Part::MainPicture);
    let content = job.plain(&here).unwrap().content.clone();
    apply(
        &mut job,
        &Command::SetRelease { item: here.id.clone(), release: Release { content: Some(content), look: None } },
    );
    let command = show_picture(&job, &here.id, &WORLD.samples["shelf"]).unwrap();
    apply(&mut job, &command);
    let shown =
        |job: &Job, piece| job.plain(&of_part(job, piece, Part::MainPicture)).unwrap().content.picture().cloned();
    assert_eq!(shown(&job, 0), Some(WORLD.samples["shelf"].clone()));
    assert_ne!(shown(&job, 1), shown(&job, 0));
}

#[test]
fn only_frames_show_pictures_and_only_pictures_are_cropped() {
    let job = job();
    let headline = of_part(&job, 0, Part::Headline).id;
    assert!(matches!(show_picture(&job, &headline, &WORLD.samples["shelf"]), Err(Refusal::NoFrame)));
    assert!(matches!(crop_by(&job, &headline, (10, 10), (Length::ZERO, Length::ZERO), 1.0), Err(Refusal::NoPicture)));
    assert!(matches!(
        show_picture(&job, &ItemId::new("gone").unwrap(), &WORLD.samples["shelf"]),
        Err(Refusal::Missing(..))
    ));
    let picture = of_part(&job, 0, Part::MainPicture).id;
    for factor in [0.0, -1.0, f64::NAN, f64::INFINITY] {
        assert!(crop_by(&job, &picture, (10, 10), (Length::ZERO, Length::ZERO), factor).is_err());
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(60))]

    /// However a picture is pulled and scaled, its frame stays covered and the picture keeps its proportion.
    #[test]
    fn a_frame_is_covered_after_any_crop(steps in prop::collection::vec((-900f64..900.0, -900f64..900.0, 0.3f64..3.0), 1..6)) {
        let mut job = job();
        let item = of_part(&job, 0, Part::MainPicture);
        let pixels = pixels_of(&job, &item);
        for (dx, dy, factor) in steps {
            let command = crop_by(&job, &item.id, pixels, (Length::css_px(dx), Length::css_px(dy)), factor).unwrap();
            apply(&mut job, &command);
            let (r, frame) = boxed(&job, &item.id);
            prop_assert!(r.x0 <= 0.01 && r.y0 <= 0.01 && r.x1 >= frame.width - 0.01 && r.y1 >= frame.height - 0.01, "{:?} in {:?}", r, frame);
            prop_assert!((r.width() / r.height() - f64::from(pixels.0) / f64::from(pixels.1)).abs() < 1e-3);
        }
    }

    /// A pull that stays inside moves the picture by exactly that.
    #[test]
    fn a_picture_follows_the_hand(dx in -40f64..40.0, dy in -40f64..40.0) {
        let mut job = job();
        let item = of_part(&job, 0, Part::MainPicture);
        let pixels = pixels_of(&job, &item);
        let command = crop_by(&job, &item.id, pixels, (Length::ZERO, Length::ZERO), 2.0).unwrap();
        apply(&mut job, &command);
        let before = boxed(&job, &item.id).0;
        let command = crop_by(&job, &item.id, pixels, (Length::css_px(dx), Length::css_px(dy)), 1.0).unwrap();
        apply(&mut job, &command);
        let after = boxed(&job, &item.id).0;
        prop_assert!((after.x0 - before.x0 - dx).abs() < 0.01 && (after.y0 - before.y0 - dy).abs() < 0.01, "{:?} to {:?}", before, after);
    }

    /// Type gets the size asked for, and its box holds it.
    #[test]
    fn type_gets_the_size_asked_for(pt in 4f64..120.0) {
        let mut job = job();
        let item = of_part(&job, 0, Part::Headline);
        let command = set_type_size(&job, &item.id, Length::pt(pt), &WORLD.studio.typesetter).unwrap();
        apply(&mut job, &command);
        let piece = &job.pieces[0];
        let scene = WORLD.studio.scene(&job, piece, &piece.sides[0], Audience::Stage, None);
        let drawn = scene.items.iter().find(|drawn| drawn.id == item.id).unwrap();
        prop_assert!((drawn.type_size - Length::pt(pt).to_css_px()).abs() < 0.02, "{} for {} pt", drawn.type_size, pt);
        prop_assert!(!drawn.spills);
        let other = of_part(&job, 1, Part::Headline);
        prop_assert_eq!(other.place, of_part(&self::job(), 1, Part::Headline).place, "the other piece keeps its own size");
    }
}

#[test]
fn copy_is_listed_as_it_is_read() {
    let mut job = WORLD.job(&["doorway"], &[("square-post", 1)], &vatman_craft::Words::new());
    let side = job.pieces[0].sides[0].id.clone();
    let items: Vec<_> = job.pieces[0].sides[0].items.iter().map(|item| item.id.clone()).collect();
    apply(&mut job, &Command::All { commands: items.into_iter().map(|item| Command::RemoveItem { item }).collect() });
    let mut ids = Counter(900);
    let mut put = |job: &mut Job, text: &str, x: f64, y: f64, h: f64| {
        let (piece, found) = job.side(&side).unwrap();
        let (command, id) = add(
            job,
            piece,
            found,
            Addition::Words(vatman_document::Part::Detail),
            &vatman_craft::Inks::PLAIN,
            &mut ids,
        );
        apply(job, &command);
        let kin = job.item(&id).unwrap().kin.clone();
        apply(job, &Command::SetWords { target: Target::Shared(kin), text: text.into() });
        let px = Length::css_px;
        apply(
            job,
            &Command::SetPlace {
                item: id.clone(),
                place: Place::new(Placement::at(Rect::new(px(x), px(y), px(200.0), px(h)))),
            },
        );
        id
    };
    put(&mut job, "foot", 50.0, 900.0, 40.0);
    put(&mut job, "right", 600.0, 405.0, 60.0);
    put(&mut job, "head", 50.0, 40.0, 90.0);
    put(&mut job, "left", 50.0, 400.0, 60.0);
    let hidden = put(&mut job, "hidden", 50.0, 600.0, 60.0);
    apply(&mut job, &Command::SetFlags { item: hidden, locked: false, hidden: true });
    let (piece, found) = job.side(&side).unwrap();
    let (shape, _) = add(&job, piece, found, Addition::Shape(Outline::Ellipse), &vatman_craft::Inks::PLAIN, &mut ids);
    apply(&mut job, &shape);
    let lines: Vec<_> = copy_in_order(&job, &job.pieces[0].sides[0]).into_iter().map(|line| line.text).collect();
    assert_eq!(lines, ["head", "left", "right", "foot"]);
}

#[test]
fn a_shade_drawn_for_one_shape_is_not_bent_to_another() {
    let job = WORLD.job(&["whole-picture"], &[("square-post", 1), ("link-picture", 1)], &words());
    let panel = |piece: usize| {
        let item = of_part(&job, piece, Part::Panel);
        job.plain(&item).unwrap().look.fill.clone()
    };
    assert_ne!(panel(0), panel(1), "the shade comes from below in a square and from the left in a wide one");
    assert_eq!(of_part(&job, 0, Part::Headline).kin, of_part(&job, 1, Part::Headline).kin);
}

#[test]
fn roles_of_every_palette_can_be_read() {
    for design in &WORLD.designs {
        let color = |role: &str| {
            *design
                .palette
                .iter()
                .find(|(id, _)| id.as_str() == role)
                .unwrap_or_else(|| panic!("{} has no {role}", design.id))
                .1
        };
        let (ground, ink, accent) = (color("ground"), color("ink"), color("accent"));
        assert!(ground.contrast(ink) >= 4.5, "{}: ink on ground is {:.1}", design.id, ground.contrast(ink));
        assert!(ground.contrast(accent) >= 2.4, "{}: accent on ground is {:.1}", design.id, ground.contrast(accent));
    }
}
