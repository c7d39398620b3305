//! From a side of a job to what is drawn.

#![allow(clippy::unwrap_used, reason = "a failed step is a failed test")]

use std::path::PathBuf;
use std::sync::{Arc, LazyLock};

use kurbo::{Affine, Point, Shape as _};
use vatman_document::{
    Align, AssetId, Backing, Blend, Color, Content, Curve, Develop, Effect, Focus, Format, GroupLook, Item, ItemId,
    Job, JobId, Kin, KinId, Look, LookPatch, Outline, Paint, Part, PictureFit, Piece, PieceId, Place, Reach, RichText,
    Run, RunStyle, Side, SideId, Stop, Stroke, StrokePlace, Swatch, SwatchId, TextFit, Tint, Treatment, TypeLook,
};
use vatman_scene::{Audience, Before, Brush, Group, Means, Node, Scene, compose, recompose};
use vatman_type::{FontLibrary, FontSource, Typesetter};
use vatman_units::{Angle, Length, Placement, Ratio, Rect};

struct Shipped;
impl FontSource for Shipped {
    fn catalogue(&self) -> Option<Vec<u8>> {
        self.face("catalogue.json")
    }
    fn face(&self, file: &str) -> Option<Vec<u8>> {
        std::fs::read(PathBuf::from(env!("CARGO_MANIFEST_DIR")).join("../../assets/fonts").join(file)).ok()
    }
}

static SETTER: LazyLock<Typesetter> = LazyLock::new(|| Typesetter::new(Arc::new(FontLibrary::load(&Shipped).unwrap())));

fn id<T: TryFrom<String>>(text: &str) -> T {
    T::try_from(text.to_owned()).ok().unwrap()
}

fn at(x: f64, y: f64, w: f64, h: f64) -> Placement {
    let px = Length::css_px;
    Placement::at(Rect::new(px(x), px(y), px(w), px(h)))
}

/// A job of one square post with items that share nothing.
fn job(items: Vec<(Content, Look, Placement)>) -> Job {
    let mut job = Job::new(id::<JobId>("j"), "t");
    job.swatches.insert(id("accent"), Swatch { name: "Accent".into(), color: Color::opaque(165, 57, 42), ink: None });
    let mut side = Side {
        id: id::<SideId>("s"),
        name: "Front".into(),
        ground: Some(Paint::flat(Tint::Swatch(id::<SwatchId>("accent")))),
        items: Vec::new(),
        stacks: Vec::new(),
        group_looks: Vec::new(),
    };
    for (i, (content, look, placement)) in items.into_iter().enumerate() {
        let kin = id::<KinId>(&format!("k{i}"));
        job.kins.insert(kin.clone(), Kin::new(Part::Detail, content, look).into());
        side.items.push(Item::new(id::<ItemId>(&format!("i{i}")), kin, Place::new(placement)));
    }
    job.pieces.push(Piece::new(id::<PieceId>("p"), "Square post", Format::screen(1_000, 1_000), vec![side]).into());
    job
}

fn scene_for(job: &Job, audience: Audience, carets: Option<&ItemId>) -> Scene {
    let picture_size = |id: &AssetId| (id.as_str() == "pot").then_some((400, 200));
    compose(
        job,
        &job.pieces[0],
        &job.pieces[0].sides[0],
        &Means {
            typesetter: &SETTER,
            picture_size: &picture_size,
            contours: &vatman_scene::whole_pictures,
            audience,
            carets,
        },
    )
}

fn scene(job: &Job) -> Scene {
    scene_for(job, Audience::Output, None)
}

fn group(scene: &Scene, index: usize) -> &Group {
    match scene.items[index].node.as_ref() {
        Node::Group(group) => group,
        other => panic!("an item is a group, not {other:?}"),
    }
}

fn words(text: &str) -> Content {
    Content::Words { text: RichText::plain(text), prompt: "Headline".into() }
}

fn set(fit: TextFit) -> Look {
    Look { type_look: Some(TypeLook { fit, size: Length::css_px(40.0), ..TypeLook::default() }), ..Look::default() }
}

fn shape() -> Content {
    Content::Shape { outline: Outline::RECT }
}

fn picture(name: Option<&str>) -> Content {
    Content::Picture { picture: name.map(id), focus: Focus::CENTRE, frame: Outline::Ellipse, fit: PictureFit::Fill }
}

#[test]
fn swatches_and_releases_are_resolved() {
    let tinted = Look { fill: Some(Paint::flat(Tint::Swatch(id("accent")))), ..Look::default() };
    let mut job =
        job(vec![(shape(), tinted, at(0.0, 0.0, 10.0, 10.0)), (shape(), Look::default(), at(0.0, 0.0, 10.0, 10.0))]);
    Arc::make_mut(&mut job.pieces[0]).sides[0].items[1].release.look =
        Some(LookPatch::all(&Look { fill: Some(Paint::flat(Color::WHITE)), ..Look::default() }));
    let scene = scene(&job);
    let fill = |index: usize| match &group(&scene, index).children[0] {
        Node::Path(path) => path.fill.clone(),
        other => panic!("{other:?}"),
    };
    let is = |brush: Option<Brush>, r: u8| matches!(brush, Some(Brush::Flat(color)) if color.r == r);
    assert!(is(fill(0), 165) && is(fill(1), 255) && is(scene.ground.clone(), 165));
}

#[test]
fn hidden_items_are_left_out_and_order_is_kept() {
    let mut job = job(vec![
        (shape(), Look::default(), at(0.0, 0.0, 10.0, 10.0)),
        (shape(), Look::default(), at(1.0, 0.0, 10.0, 10.0)),
        (shape(), Look::default(), at(2.0, 0.0, 10.0, 10.0)),
    ]);
    Arc::make_mut(&mut job.pieces[0]).sides[0].items[1].hidden = true;
    let names: Vec<_> = scene(&job).items.iter().map(|item| item.id.to_string()).collect();
    assert_eq!(names, ["i0", "i2"]);
}

#[test]
fn prompts_and_empty_frames_are_for_the_stage_only() {
    let job = job(vec![
        (words("  "), set(TextFit::Grow), at(0.0, 0.0, 400.0, 50.0)),
        (picture(None), Look::default(), at(0.0, 0.0, 100.0, 100.0)),
        (picture(Some("gone")), Look::default(), at(0.0, 0.0, 100.0, 100.0)),
    ]);
    let (stage, output) = (scene_for(&job, Audience::Stage, None), scene(&job));
    for index in 0..3 {
        assert!(!group(&stage, index).children.is_empty(), "item {index} is empty on the stage");
        assert!(
            group(&output, index)
                .children
                .iter()
                .all(|node| matches!(node, Node::Glyphs(glyphs) if glyphs.run.text.trim().is_empty())),
            "item {index} leaves"
        );
    }
    assert!(group(&stage, 0).opacity < 0.5, "a prompt is faded");
    let said = group(&stage, 0)
        .children
        .iter()
        .any(|node| matches!(node, Node::Glyphs(glyphs) if glyphs.run.text == "Headline"));
    assert!(said);
}

#[test]
fn text_that_grows_is_as_high_as_its_lines_and_other_text_as_its_box() {
    let job = job(vec![
        (words("one two three four"), set(TextFit::Grow), at(10.0, 20.0, 120.0, 5.0)),
        (words("one"), set(TextFit::Shrink { floor: Ratio::HALF }), at(10.0, 20.0, 300.0, 90.0)),
    ]);
    let scene = scene(&job);
    assert!(scene.items[0].frame.h > 48.0 * 3.0 && !scene.items[0].spills);
    assert_eq!((scene.items[1].frame.h, scene.items[1].type_size), (90.0, 40.0));
}

#[test]
fn text_that_cannot_shrink_enough_spills_and_says_so() {
    let job = job(vec![(
        words("far too many words for so small a box"),
        set(TextFit::Shrink { floor: Ratio::HALF }),
        at(0.0, 0.0, 60.0, 20.0),
    )]);
    let scene = scene(&job);
    assert!(scene.items[0].spills && (scene.items[0].type_size - 20.0).abs() < 0.1);
}

#[test]
fn an_item_stands_where_its_place_says_turned_about_its_middle() {
    let turned = Placement { turn: Angle::degrees(90.0), ..at(100.0, 200.0, 60.0, 20.0) };
    let mirrored = Placement { flip: true, ..at(100.0, 200.0, 60.0, 20.0) };
    let job = job(vec![(shape(), Look::default(), turned), (shape(), Look::default(), mirrored)]);
    let scene = scene(&job);
    let map = group(&scene, 0).transform;
    let close = |a: Point, b: (f64, f64)| (a - Point::new(b.0, b.1)).hypot() < 1e-6;
    assert!(
        close(map * Point::new(30.0, 10.0), (130.0, 210.0)) && close(map * Point::ZERO, (140.0, 180.0)),
        "{:?}",
        map * Point::ZERO
    );
    assert!(close(group(&scene, 1).transform * Point::ZERO, (160.0, 200.0)));
    assert_eq!(scene.items[0].frame.turn, 90.0);
    let upright = scene.items[0].frame.upright();
    assert!((upright.w.to_css_px() - 20.0).abs() < 1e-3 && (upright.x.to_css_px() - 120.0).abs() < 1e-3);
    assert_ne!(map, Affine::IDENTITY);
}

#[test]
fn a_picture_covers_its_frame_and_wears_its_line_above() {
    let look = Look { stroke: Some(Stroke::solid(Paint::flat(Color::BLACK), Length::css_px(3.0))), ..Look::default() };
    let job = job(vec![(picture(Some("pot")), look, at(0.0, 0.0, 100.0, 100.0))]);
    let scene = scene(&job);
    let [Node::Image(image), Node::Path(line)] = group(&scene, 0).children.as_slice() else {
        panic!("a picture and its line")
    };
    assert_eq!((image.dest.width(), image.dest.height(), image.dest.x0), (200.0, 100.0, -50.0));
    assert_eq!(line.stroke.as_ref().map(|line| line.width), Some(3.0));
    assert!(image.frame.bounding_box().width() <= 100.01);
}

#[test]
fn lengths_of_a_look_follow_the_scale_of_the_place() {
    let look =
        Look { stroke: Some(Stroke::solid(Paint::flat(Color::BLACK), Length::css_px(2.0))), ..set(TextFit::Grow) };
    let mut job = job(vec![(words("Clay"), look, at(0.0, 0.0, 900.0, 90.0))]);
    let size = |job: &Job| {
        let scene = scene(job);
        let Some(Node::Glyphs(glyphs)) = group(&scene, 0).children.first().cloned() else { panic!("letters") };
        (scene.items[0].type_size, glyphs.stroke.map(|line| line.width))
    };
    assert_eq!(size(&job), (40.0, Some(2.0)));
    Arc::make_mut(&mut job.pieces[0]).sides[0].items[0].place.scale = Ratio::new(1.5);
    assert_eq!(size(&job), (60.0, Some(3.0)));
}

#[test]
fn ranges_keep_their_colour_and_underline() {
    let own = RunStyle { tint: Some(Tint::Own(Color::opaque(1, 2, 3))), underline: Some(true), ..RunStyle::default() };
    let text: RichText =
        vec![Run { text: "Made ".into(), style: RunStyle::default() }, Run { text: "slow".into(), style: own }].into();
    let job =
        job(vec![(Content::Words { text, prompt: String::new() }, set(TextFit::Grow), at(0.0, 0.0, 900.0, 90.0))]);
    let scene = scene(&job);
    let children = &group(&scene, 0).children;
    let bars = children.iter().filter(|node| matches!(node, Node::Path(_))).count();
    let coloured = children.iter().any(|node| matches!(node, Node::Glyphs(glyphs) if glyphs.run.text == "slow" && matches!(glyphs.fill, Some(Brush::Flat(color)) if color.b == 3)));
    assert!(bars == 1 && coloured, "{children:?}");
}

#[test]
fn a_gradient_reaches_from_corner_to_corner_of_its_box() {
    let stop = |at, tint: Color| Stop { at, tint: tint.into(), opacity: Ratio::ONE };
    let linear = |degrees: f64| Paint::Linear {
        angle: Angle::degrees(degrees),
        stops: vec![stop(Ratio::ZERO, Color::BLACK), stop(Ratio::ONE, Color::WHITE)],
    };
    for (degrees, from, to) in
        [(0.0, (50.0, 20.0), (50.0, 0.0)), (90.0, (0.0, 10.0), (100.0, 10.0)), (180.0, (50.0, 0.0), (50.0, 20.0))]
    {
        let job =
            job(vec![(shape(), Look { fill: Some(linear(degrees)), ..Look::default() }, at(0.0, 0.0, 100.0, 20.0))]);
        let scene = scene(&job);
        let Node::Path(path) = &group(&scene, 0).children[0] else { panic!("a shape") };
        let Some(Brush::Linear { from: a, to: b, .. }) = &path.fill else { panic!("a gradient") };
        assert!(
            (*a - Point::new(from.0, from.1)).hypot() < 1e-6 && (*b - Point::new(to.0, to.1)).hypot() < 1e-6,
            "{degrees}: {a:?} to {b:?}"
        );
    }
}

#[test]
fn places_of_the_caret_come_for_the_item_asked_for_only() {
    let job = job(vec![
        (words("Clay"), set(TextFit::Grow), at(0.0, 0.0, 900.0, 90.0)),
        (words("Kiln"), set(TextFit::Grow), at(0.0, 0.0, 900.0, 90.0)),
    ]);
    let asked = id::<ItemId>("i1");
    let scene = scene_for(&job, Audience::Stage, Some(&asked));
    assert_eq!((scene.items[0].carets.len(), scene.items[1].carets.len()), (0, 5));
}

fn type_of(job: &mut Job) -> &mut TypeLook {
    Arc::make_mut(job.kins.get_mut(&id::<KinId>("k0")).unwrap()).look.type_look.as_mut().unwrap()
}

#[test]
fn words_broken_as_typed_take_the_width_they_need_from_the_edge_they_stand_at() {
    let mut job = job(vec![(words("Hands in clay\nby ten"), set(TextFit::AsTyped), at(300.0, 100.0, 50.0, 40.0))]);
    let frame = |job: &Job| scene(job).items[0].frame;
    let start = frame(&job);
    assert!(start.w > 100.0 && (start.x - 300.0).abs() < 0.01, "{start:?}");
    type_of(&mut job).align = Align::Centre;
    let centred = frame(&job);
    assert!((centred.x + centred.w / 2.0 - 325.0).abs() < 0.01 && (centred.w - start.w).abs() < 0.01);
    type_of(&mut job).align = Align::End;
    let end = frame(&job);
    assert!((end.x + end.w - 350.0).abs() < 0.01);
}

#[test]
fn a_backing_follows_the_words() {
    let fill = Some(Paint::flat(Color::BLACK));
    let backing = |reach| {
        Some(Backing {
            reach,
            outline: Outline::RECT,
            fill: fill.clone(),
            stroke: None,
            pad_x: Ratio::HALF,
            pad_y: Ratio::ZERO,
        })
    };
    let paths = |text: &str, reach| {
        let look = Look { backing: backing(reach), ..set(TextFit::Grow) };
        let scene = scene(&job(vec![(words(text), look, at(0.0, 0.0, 500.0, 40.0))]));
        group(&scene, 0)
            .children
            .iter()
            .filter_map(|node| if let Node::Path(path) = node { Some(path.path.bounding_box()) } else { None })
            .collect::<Vec<_>>()
    };
    let one = paths("Book", Reach::Words);
    let longer = paths("Book now", Reach::Words);
    assert!(longer[0].width() > one[0].width() + 40.0, "a button grows with its words");
    assert_eq!((one[0].x0, paths("Book", Reach::Box)[0].width()), (-20.0, 540.0));
    assert_eq!(paths("Hands in clay by ten\nor so", Reach::Lines).len(), 2);
    assert!(paths("", Reach::Words).is_empty());
}

#[test]
fn a_relief_is_light_on_one_rim_and_shade_on_the_other() {
    let thrown = |pressed| {
        let relief = Effect::Relief {
            light: Angle::ZERO,
            depth: Length::css_px(4.0),
            blur: Length::css_px(2.0),
            strength: Ratio::ONE,
            pressed,
        };
        let scene =
            scene(&job(vec![(shape(), Look { effects: vec![relief], ..Look::default() }, at(0.0, 0.0, 10.0, 10.0))]));
        group(&scene, 0)
            .shadows
            .iter()
            .map(|shadow| (shadow.inner, shadow.dy.round() as i32, shadow.color.r))
            .collect::<Vec<_>>()
    };
    // Light from above: what falls down from the upper rim is light, what rises from the lower one dark.
    assert_eq!(thrown(false), [(true, -4, 0), (true, 4, 255)]);
    assert_eq!(thrown(true), [(true, 4, 0), (true, -4, 255)]);
}

#[test]
fn effects_are_scaled_with_their_item() {
    let effect = Effect::Shadow {
        dx: Length::css_px(3.0),
        dy: Length::ZERO,
        blur: Length::css_px(8.0),
        tint: Color::BLACK.into(),
        opacity: Ratio::HALF,
    };
    let mut job = job(vec![(shape(), Look { effects: vec![effect], ..Look::default() }, at(0.0, 0.0, 10.0, 10.0))]);
    Arc::make_mut(&mut job.pieces[0]).sides[0].items[0].place.scale = Ratio::new(2.0);
    let scene = scene(&job);
    let shadow = group(&scene, 0).shadows[0];
    assert!((shadow.dx - 6.0).abs() < 1e-6 && (shadow.sigma - 8.0).abs() < 1e-6 && (shadow.color.a - 0.5).abs() < 1e-6);
}

#[test]
fn what_is_blurred_behind_is_what_lies_below() {
    let look = Look { frost: Some(Length::css_px(20.0)), ..Look::default() };
    let plain = || (shape(), Look::default(), at(0.0, 0.0, 10.0, 10.0));
    let scene = scene(&job(vec![plain(), (shape(), look, at(5.0, 5.0, 40.0, 30.0)), plain()]));
    let behind = scene.items[1].behind.as_ref().unwrap();
    assert_eq!(
        (behind.items.iter().map(|id| id.as_str()).collect::<Vec<_>>(), behind.outline.bounding_box(), behind.ground),
        (vec!["i0"], kurbo::Rect::new(5.0, 5.0, 45.0, 35.0), true)
    );
    let sigma = behind.filter.even_blur().unwrap();
    assert!((sigma - 10.0).abs() < 0.01, "{sigma}");
    assert!(scene.items[0].behind.is_none() && scene.items[2].behind.is_none());
}

#[test]
fn a_line_inside_never_reaches_out_and_one_outside_never_in() {
    for (place, inside) in [(StrokePlace::Inside, true), (StrokePlace::Outside, false)] {
        let stroke = Stroke { place, ..Stroke::solid(Paint::flat(Color::BLACK), Length::css_px(4.0)) };
        let scene = scene(&job(vec![(
            shape(),
            Look { fill: None, stroke: Some(stroke), ..Look::default() },
            at(0.0, 0.0, 100.0, 100.0),
        )]));
        let children = &group(&scene, 0).children;
        let Some(Node::Group(edge)) = children.last() else { panic!("{children:?}") };
        let clip = edge.clip.as_ref().unwrap();
        assert_eq!(
            (clip.winding(Point::new(50.0, 50.0)) != 0, clip.winding(Point::new(-1.0, 50.0)) != 0),
            (inside, !inside)
        );
        assert!(matches!(&edge.children[0], Node::Path(path) if path.stroke.as_ref().unwrap().width == 8.0));
    }
}

#[test]
fn words_on_a_circle_stand_on_it_upright_at_their_middle() {
    let mut job = job(vec![(words("made slow"), set(TextFit::Grow), at(0.0, 0.0, 300.0, 300.0))]);
    type_of(&mut job).curve = Some(Curve::Circle { at: Angle::ZERO, inward: false });
    let scene = scene(&job);
    let Some(Node::Glyphs(glyphs)) = group(&scene, 0).children.first() else { panic!() };
    let run = &glyphs.run.glyphs;
    assert!(run.first().unwrap().turn < -0.1 && run.last().unwrap().turn > 0.1);
    let middle = &run[run.len() / 2];
    assert!(middle.turn.abs() < 0.2 && middle.y < 60.0 && scene.items[0].frame.h == 300.0);
}

#[test]
fn a_tiled_picture_fills_its_frame_with_copies() {
    let content = Content::Picture {
        picture: Some(id("pot")),
        focus: Focus::CENTRE,
        frame: Outline::RECT,
        fit: PictureFit::Tile,
    };
    let scene = scene(&job(vec![(content, Look { fill: None, ..Look::default() }, at(0.0, 0.0, 200.0, 200.0))]));
    match &group(&scene, 0).children[0] {
        Node::Path(path) => assert!(
            matches!(&path.fill, Some(Brush::Image { dest, .. }) if (dest.width() - 50.0).abs() < 1e-9 && (dest.height() - 25.0).abs() < 1e-9)
        ),
        other => panic!("{other:?}"),
    }
}

/// Whatever changed, taking over from before gives the very scene that composing anew gives.
#[test]
fn what_is_taken_over_from_before_is_what_would_be_composed() {
    let frosted = Look {
        frost: Some(Length::css_px(12.0)),
        fill: Some(Paint::flat(Tint::Swatch(id("accent")))),
        ..Look::default()
    };
    let old = job(vec![
        (words("Hands in clay"), set(TextFit::Grow), at(10.0, 10.0, 300.0, 50.0)),
        (shape(), frosted, at(0.0, 0.0, 200.0, 90.0)),
        (picture(Some("pot")), Look::default(), at(50.0, 200.0, 300.0, 300.0)),
        (shape(), Look::default(), at(400.0, 0.0, 10.0, 10.0)),
    ]);
    let composed = |job: &Job, carets: Option<&ItemId>, before: Option<Before<'_>>| {
        let picture_size = |id: &AssetId| (id.as_str() == "pot").then_some((400, 200));
        recompose(
            job,
            &job.pieces[0],
            &job.pieces[0].sides[0],
            &Means {
                typesetter: &SETTER,
                picture_size: &picture_size,
                contours: &vatman_scene::whole_pictures,
                audience: Audience::Stage,
                carets,
            },
            before,
        )
    };
    let typed = id::<ItemId>("i0");
    let scenes = [composed(&old, None, None), composed(&old, Some(&typed), None)];
    type Change = (&'static str, fn(&mut Job));
    let changes: [Change; 8] = [
        ("nothing", |_| {}),
        ("a place", |job| Arc::make_mut(&mut job.pieces[0]).sides[0].items[1].place.at.rect.x = Length::css_px(33.0)),
        ("words", |job| {
            Arc::make_mut(job.kins.get_mut(&id::<KinId>("k0")).unwrap()).content = words("Hands in clay by ten")
        }),
        ("a shared colour", |job| job.swatches.get_mut(&id::<SwatchId>("accent")).unwrap().color = Color::BLACK),
        ("the order", |job| Arc::make_mut(&mut job.pieces[0]).sides[0].items.swap(0, 1)),
        ("one removed", |job| drop(Arc::make_mut(&mut job.pieces[0]).sides[0].items.remove(0))),
        ("one hidden", |job| Arc::make_mut(&mut job.pieces[0]).sides[0].items[2].hidden = true),
        ("the ground", |job| Arc::make_mut(&mut job.pieces[0]).sides[0].ground = None),
    ];
    for (what, change) in changes {
        let mut new = old.clone();
        change(&mut new);
        for scene in &scenes {
            for carets in [None, Some(&typed)] {
                let before = Before { job: &old, side: &old.pieces[0].sides[0], scene };
                assert_eq!(composed(&new, carets, Some(before)), composed(&new, carets, None), "{what} changed");
            }
        }
        // What did not change is the very node there was.
        let before = Before { job: &old, side: &old.pieces[0].sides[0], scene: &scenes[0] };
        let now = composed(&new, None, Some(before));
        let same = now
            .items
            .iter()
            .filter(|item| scenes[0].items.iter().any(|old| Arc::ptr_eq(&old.node, &item.node)))
            .count();
        assert!(same >= 2 || what == "a shared colour", "only {same} taken over when {what} changed");
    }
}

/// Four shapes, the second and third of which are one group.
fn with_group(look: GroupLook) -> Job {
    let mut job = job((0..4).map(|n| (shape(), Look::default(), at(f64::from(n) * 50.0, 0.0, 40.0, 30.0))).collect());
    let side = &mut Arc::make_mut(&mut job.pieces[0]).sides[0];
    for item in &mut side.items[1..3] {
        item.groups = vec![look.group.clone()];
    }
    side.group_looks = vec![look];
    job
}

#[test]
fn a_group_with_a_look_of_its_own_is_drawn_by_itself_and_no_other() {
    let plain = GroupLook::plain(id("g"));
    assert!(scene(&with_group(plain.clone())).bunches.is_empty(), "it looks as its members do");
    let faded = scene(&with_group(GroupLook { opacity: Ratio::HALF, ..plain.clone() }));
    let [bunch] = &faded.bunches[..] else { panic!("{:?}", faded.bunches) };
    assert_eq!((bunch.first, bunch.count, bunch.opacity, &bunch.filter), (1, 2, 0.5, &None));
    // Idle steps do nothing.
    let idle = Treatment { on: false, ..Treatment::new(Develop::Blur { radius: Ratio::new(0.01) }) };
    let off = scene(&with_group(GroupLook { opacity: Ratio::HALF, treatments: vec![idle], ..plain.clone() }));
    assert_eq!(off.bunches[0].filter, None);
    let wash = Treatment::new(Develop::Wash { tint: Tint::Swatch(id("accent")), blend: Blend::Multiply });
    let treated = with_group(GroupLook { treatments: vec![wash], ..plain });
    let filter = scene(&treated).bunches[0].filter.clone().unwrap();
    assert_eq!(filter.field, kurbo::Rect::new(50.0, 0.0, 140.0, 30.0), "the box of its members");
    assert!(matches!(&filter.treatments[0].develop, Develop::Wash { tint: Tint::Own(_), .. }), "colours are resolved");
    // Another look of a member is another stamp.
    let mut moved = treated.clone();
    Arc::make_mut(&mut moved.pieces[0]).sides[0].items[2].place.at.rect.x = Length::css_px(101.0);
    assert_ne!(scene(&treated).bunches[0].stamp, scene(&moved).bunches[0].stamp);
    assert_eq!(scene(&treated).bunches[0].stamp, scene(&treated).bunches[0].stamp);
}

#[test]
fn what_a_shape_treats_lies_behind_it_in_the_group_it_is_in() {
    let grey = Treatment::new(Develop::Mono { red: Ratio::ONE, green: Ratio::ZERO, blue: Ratio::ZERO });
    let lens = Look { treatments: vec![grey], ..Look::default() };
    let mut job = job(vec![
        (shape(), Look::default(), at(0.0, 0.0, 40.0, 30.0)),
        (shape(), Look::default(), at(10.0, 0.0, 40.0, 30.0)),
        (shape(), lens, at(20.0, 0.0, 40.0, 30.0)),
    ]);
    let behind = |job: &Job| scene(job).items[2].behind.clone().unwrap();
    let all = behind(&job);
    assert_eq!((all.first, all.ground, all.items.len()), (0, true, 2));
    assert!(all.filter.even_blur().is_none() && all.stamp != 0);
    let mut other = job.clone();
    Arc::make_mut(&mut other.pieces[0]).sides[0].ground = Some(Paint::flat(Color::BLACK));
    assert_ne!(behind(&other).stamp, all.stamp, "the ground lies behind, too");
    let side = &mut Arc::make_mut(&mut job.pieces[0]).sides[0];
    for item in &mut side.items[1..3] {
        item.groups = vec![id("g")];
    }
    assert_eq!(behind(&job).items.len(), 2, "a group that is not drawn by itself changes nothing");
    let side = &mut Arc::make_mut(&mut job.pieces[0]).sides[0];
    side.group_looks = vec![GroupLook { opacity: Ratio::HALF, ..GroupLook::plain(id("g")) }];
    let own = behind(&job);
    assert_eq!((own.first, own.ground, own.items.len()), (1, false, 1));
}
