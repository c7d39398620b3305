//! Every command, forward and back.

use proptest::prelude::*;
use vatman_units::{Angle, Length, Placement, Ratio, Rect};

use super::*;
use crate::{
    Anchor, Backing, Blend, BoxEdge, CURRENT_VERSION, Color, Develop, Direction, Drawing, DrawnGroup, DrawnMask,
    DrawnPaint, DrawnPart, Effect, Focus, Format, JobDelta, JobId, Motif, Outline, Part, PictureFit, Reach, RichText,
    RunStyle, StackAlign, StoredError, StoredPart, Tint, Treatment, TypeLook, changed_parts, join_parts, join_text,
    read_job, write_job,
};

struct Everything;
impl Known for Everything {
    fn has_family(&self, name: &str) -> bool {
        name != "Unheard Of"
    }
    fn has_picture(&self, id: &AssetId) -> bool {
        id.as_str() != "lost"
    }
}

/// Kins by name, as a job holds them.
fn kins<const N: usize>(all: [(&str, Kin); N]) -> BTreeMap<KinId, Arc<Kin>> {
    all.map(|(name, kin)| (id(name), Arc::new(kin))).into()
}

fn id<T: TryFrom<String>>(text: impl Into<String>) -> T {
    T::try_from(text.into()).ok().unwrap()
}

fn words(text: &str) -> Kin {
    let content = Content::Words { text: RichText::plain(text), prompt: "Headline".into() };
    Kin::new(Part::Headline, content, Look { type_look: Some(TypeLook::default()), ..Look::default() })
}

fn picture() -> Kin {
    let content = Content::Picture {
        picture: Some(id("pot")),
        focus: Focus::CENTRE,
        frame: Outline::Ellipse,
        fit: PictureFit::Fill,
    };
    Kin::new(Part::MainPicture, content, Look::default())
}

fn item(name: &str, kin: &str, x: f64) -> Item {
    let px = Length::css_px;
    let place = Place::new(Placement::at(Rect::new(px(x), px(20.0), px(200.0), px(80.0))));
    Item::new(id(name), id(kin), place)
}

fn first_shape(x: f64) -> FirstShape {
    let places = std::iter::once((id("p1"), item("p1", "pic", x).place)).collect();
    FirstShape { format: Format::screen(1080, 1080), place: None, places }
}

fn piece(name: &str, items: Vec<Item>) -> Piece {
    let side = Side { items, ..Side::blank(id(format!("{name}-front")), "Front", Some(Paint::flat(Color::WHITE))) };
    Piece::new(id(name), name, Format::screen(1080, 1080), vec![side])
}

/// Two pieces; the headline and picture are in both, the panel in one.
fn job() -> Job {
    let mut job = Job::new(id::<JobId>("job"), "Saturday wheel class");
    job.swatches
        .insert(id("clay"), Swatch { name: "Wet clay".into(), color: Color::opaque(0x8c, 0x5a, 0x3c), ink: None });
    job.kins = kins([
        ("head", words("Hands in clay by ten.")),
        ("pic", picture()),
        ("panel", Kin { content: Content::Shape { outline: Outline::Arch }, ..words("") }),
    ])
    .into();
    job.pieces = vec![
        Arc::new(piece("post", vec![item("p1", "pic", 0.0), item("p2", "panel", 10.0), item("p3", "head", 20.0)])),
        Arc::new(piece("story", vec![item("s1", "pic", 0.0), item("s2", "head", 30.0)])),
    ];
    job
}

fn any_target() -> impl Strategy<Value = Target> {
    prop_oneof![
        Just(Target::Shared(id("head"))),
        Just(Target::Only(id("p3"))),
        Just(Target::Only(id("s2"))),
        Just(Target::Shared(id("gone")))
    ]
}

fn any_item() -> impl Strategy<Value = ItemId> {
    prop::sample::select(vec!["p1", "p2", "p3", "s1", "s2", "n1", "gone"]).prop_map(id)
}

fn any_place() -> impl Strategy<Value = Place> {
    (prop_oneof![9 => -900i64..900, 1 => Just(i64::MIN)], 0i64..900, -720.0f64..720.0, 1u32..400, any::<bool>())
        .prop_map(|(x, w, turn, scale, flip)| {
            let px = |v: i64| if v == i64::MIN { Length::from_raw(v) } else { Length::css_px(v as f64) };
            let at = Placement {
                rect: Rect::new(px(x), px(x.saturating_neg()), px(w), px(w / 2)),
                turn: Angle::degrees(turn),
                flip,
            };
            Place {
                at,
                scale: Ratio::percent(f64::from(scale)),
                crop: flip.then_some(crate::Crop {
                    zoom: Ratio::new(1.5),
                    turn: Angle::degrees(turn),
                    ..crate::Crop::about(Focus::CENTRE)
                }),
                by_hand: flip,
            }
        })
}

/// Sound or not: a drawing may be too deep, words may be where a picture was.
fn any_content() -> impl Strategy<Value = Content> {
    let drawn =
        (20usize..28, any::<bool>()).prop_map(|(depth, masked)| Content::Drawing { drawing: nested(depth, masked) });
    prop_oneof![
        "[a-z\\u{1}\\u{fffe}]{0,9}".prop_map(|text| words(&text).content),
        Just(picture().content),
        (-1i64..9).prop_map(|r| Content::Shape { outline: Outline::Rect { radius: Length::from_raw(r) } }),
        drawn,
    ]
}

/// A drawing of groups in groups, every other one with a mask.
fn nested(depth: usize, masked: bool) -> Drawing {
    let path = DrawnPart::Path {
        data: "M0 0H9V9Z".into(),
        even_odd: false,
        fill: Some(DrawnPaint::flat(Color::BLACK)),
        stroke: None,
    };
    let group = |inner: DrawnPart, _| {
        let mask = masked.then(|| DrawnMask { luminance: true, parts: vec![path.clone()] });
        DrawnPart::Group(DrawnGroup { opacity: Ratio::HALF, mask, ..DrawnGroup::of(vec![inner]) })
    };
    Drawing { name: "Jar".into(), width: 9, height: 9, parts: vec![(0..depth).fold(path.clone(), group)] }
}

fn any_removed() -> impl Strategy<Value = Removed> {
    (any_look(), any_content(), prop::option::of(any_content()), any_place(), 0usize..9).prop_map(
        |(look, content, own, place, index)| {
            let release = Release { content: own, look: None };
            let item = Item { place, release, ..item("t", "panel", 1.0) };
            Removed { item, kin: Kin::new(Part::Panel, content, look), side: id("post-front"), index }
        },
    )
}

fn any_look() -> impl Strategy<Value = Look> {
    (0u32..120, prop::bool::ANY, prop::sample::select(vec!["Lora", "Unheard Of"])).prop_map(
        |(opacity, clay, family)| Look {
            opacity: Ratio::percent(f64::from(opacity)),
            fill: Some(Paint::flat(if clay { Tint::Swatch(id("clay")) } else { Color::BLACK.into() })),
            type_look: Some(TypeLook { family: family.into(), ..TypeLook::default() }),
            effects: vec![Effect::Shadow {
                dx: Length::css_px(2.0),
                dy: Length::ZERO,
                blur: Length::css_px(f64::from(opacity)),
                tint: Color::BLACK.into(),
                opacity: Ratio::HALF,
            }],
            backing: clay.then(|| Backing {
                reach: Reach::Lines,
                outline: Outline::RECT,
                fill: Some(Paint::Pattern {
                    motif: Motif::Dots,
                    ink: Tint::Swatch(id("clay")),
                    ground: None,
                    size: Length::css_px(9.0),
                    angle: Angle::ZERO,
                }),
                stroke: None,
                pad_x: Ratio::HALF,
                pad_y: Ratio::ZERO,
            }),
            ..Look::default()
        },
    )
}

fn any_command() -> impl Strategy<Value = Command> {
    let leaf = prop_oneof![
        "[a-z ]{0,12}".prop_map(|title| Command::SetTitle { title }),
        (any_target(), "[a-zé\\n ]{0,30}").prop_map(|(target, text)| Command::SetWords { target, text }),
        (any_target(), "[a-z ]{0,9}")
            .prop_map(|(target, text)| Command::SetContent { target, content: words(&text).content }),
        (any_target(), any_look()).prop_map(|(target, look)| Command::SetLook { target, look }),
        (any_target(), 0usize..12, 0usize..40, any_look()).prop_map(|(target, from, to, look)| {
            let set = RunStyle {
                size: Some(look.opacity),
                tint: look.fill.and_then(|fill| fill.tints().next().cloned()),
                ..RunStyle::default()
            };
            Command::StyleWords { target, from, to, change: StyleChange { set, ..StyleChange::default() } }
        }),
        (any_item(), prop::sample::subsequence(vec!["g1", "g2", "g3"], 0..3))
            .prop_map(|(item, groups)| Command::SetGroups { item, groups: groups.into_iter().map(id).collect() }),
        (any_item(), prop::option::of("[a-z ]{0,6}")).prop_map(|(item, name)| Command::NameItem { item, name }),
        (any_item(), any_item(), -9i64..9, 0usize..10).prop_map(|(item, other, gap, count)| {
            let gap = Tie::Gap { edge: BoxEdge::Left, of: Anchor::Item(other.clone()), gap: Length::mm(gap as f64) };
            Command::SetTies { item, ties: vec![gap; count] }
        }),
        (prop::sample::select(vec!["post-front", "back"]), prop::sample::subsequence(vec!["g1", "g2", "g1"], 0..3))
            .prop_map(|(side, groups)| {
                let stack = |group: &str| Stack {
                    group: id(group),
                    direction: Direction::Down,
                    gap: Length::mm(2.0),
                    align: StackAlign::First,
                };
                Command::SetStacks { side: id(side), stacks: groups.into_iter().map(stack).collect() }
            }),
        (
            prop::sample::select(vec!["post-front", "back"]),
            prop::sample::subsequence(vec!["g1", "g2", "g1"], 0..3),
            -5i64..105,
            prop::option::of(prop::sample::select(vec!["clay", "gone"])),
        )
            .prop_map(|(side, groups, opacity, swatch)| {
                let wash = |swatch: &str| {
                    Treatment::new(Develop::Wash { tint: Tint::Swatch(id(swatch)), blend: Blend::Multiply })
                };
                let look = |group: &str| GroupLook {
                    opacity: Ratio::percent(opacity as f64),
                    treatments: swatch.map(wash).into_iter().collect(),
                    ..GroupLook::plain(id(group))
                };
                Command::SetGroupLooks { side: id(side), looks: groups.into_iter().map(look).collect() }
            }),
        (0u8..60, -1i64..300_000).prop_map(|(columns, gutter)| Command::SetGuides {
            piece: id("post"),
            guides: Guides { columns, column_gutter: Length::from_raw(gutter), ..Guides::default() }
        }),
        (0u32..30_000).prop_map(|w| Command::SetFormat {
            piece: id("post"),
            format: Format::screen(w, 1080),
            place: Some("story".into()),
            first: w.is_multiple_of(3).then(|| Box::new(first_shape(f64::from(w))))
        }),
        (0u32..2).prop_map(|n| Command::SetAsked { kin: id("head"), asked: n == 1 }),
        (0u32..3, prop::option::of(0usize..600)).prop_map(|(n, long)| Command::SetAside {
            finding: format!("f{n}"),
            reason: long.map(|long| "x".repeat(long))
        }),
        (0u32..3).prop_map(|n| Command::Follow {
            piece: id("post"),
            follows: if n == 0 { Follows::Hand } else { Follows::Design { designs: vec![format!("d{n}")] } }
        }),
        (0usize..3, any_removed())
            .prop_map(|(n, removed)| Command::SetTray { piece: id("post"), tray: vec![removed; n] }),
        (0usize..5, any_removed()).prop_map(|(index, removed)| Command::PutAside {
            piece: id("post"),
            index,
            removed: Box::new(removed)
        }),
        (0usize..4).prop_map(|index| Command::TakeAside { piece: id("post"), index }),
        (any_item(), prop::option::of(any_look()), prop::option::of(any_content())).prop_map(
            |(item, look, content)| Command::SetRelease {
                item,
                release: Release { look: look.map(|look| LookPatch::all(&look)), content }
            }
        ),
        (any_item(), any_place()).prop_map(|(item, place)| Command::SetPlace { item, place }),
        (any_item(), any::<bool>(), any::<bool>()).prop_map(|(item, locked, hidden)| Command::SetFlags {
            item,
            locked,
            hidden
        }),
        (0usize..6, prop::sample::select(vec!["head", "new"])).prop_map(|(index, kin)| Command::InsertItem {
            side: id("story-front"),
            index,
            item: item("n1", kin, 5.0),
            kin: (kin == "new").then(|| words("new")),
        }),
        any_item().prop_map(|item| Command::RemoveItem { item }),
        (any_item(), 0usize..9).prop_map(|(item, index)| Command::MoveItem { item, index }),
        prop::option::of(Just(Paint::flat(Tint::Swatch(id("clay")))))
            .prop_map(|ground| Command::SetGround { side: id("post-front"), ground }),
        (prop::sample::select(vec!["clay", "sky"]), prop::option::of(any::<u8>())).prop_map(|(name, red)| {
            Command::SetSwatch {
                id: id(name),
                swatch: red.map(|r| Swatch { name: "Sky".into(), color: Color::opaque(r, 9, 9), ink: None }),
            }
        }),
        (0usize..4).prop_map(|index| Command::InsertPiece {
            index,
            piece: piece("pin", vec![item("n1", "fresh", 0.0), item("n2", "head", 0.0)]),
            // A second kin that nothing uses makes it unsound.
            kins: [(id("fresh"), picture()), (id("spare"), words("spare"))].into_iter().take(1 + index / 3).collect()
        }),
        prop::sample::select(vec!["post", "story", "pin"]).prop_map(|name| Command::RemovePiece { piece: id(name) }),
        (0usize..3, prop::sample::select(vec!["post", "story", "gone"])).prop_map(|(index, name)| {
            Command::InsertSide {
                piece: id(name),
                index,
                side: Side {
                    items: vec![item("b1", "fresh", 0.0), item("b2", "head", 0.0)],
                    ..Side::blank(id("back"), "Back", None)
                },
                kins: [(id("fresh"), picture())].into(),
            }
        }),
        prop::sample::select(vec!["post-front", "back", "story-front"])
            .prop_map(|name| Command::RemoveSide { side: id(name) }),
        (prop::sample::select(vec!["post-front", "back"]), 0usize..3)
            .prop_map(|(name, index)| Command::MoveSide { side: id(name), index }),
        (prop::sample::select(vec!["post", "story", "gone"]), 0usize..3)
            .prop_map(|(name, index)| Command::MovePiece { piece: id(name), index }),
        "[a-z ]{0,6}".prop_map(|name| Command::RenameSide { side: id("back"), name }),
        "[a-z]{0,8}".prop_map(|name| Command::RenamePiece { piece: id("post"), name }),
    ];
    leaf.clone()
        .boxed()
        .prop_union(prop::collection::vec(leaf, 0..4).prop_map(|commands| Command::All { commands }).boxed())
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(400))]

    /// Whatever is done leads to a sound job that can be read back, and can be taken back, all of it, in reverse; what is refused
    /// changes nothing. What takes it back can itself be taken back: that is how a step is done again.
    #[test]
    fn undo_restores_every_state(commands in prop::collection::vec(any_command(), 1..12)) {
        let mut job = job();
        let mut past = Vec::new();
        for command in &commands {
            let before = job.clone();
            match command.apply(&mut job, &Everything) {
                Ok(inverse) => past.push((before, inverse)),
                Err(_) => prop_assert_eq!(&before, &job),
            }
            prop_assert_eq!(job.check(), Ok(()));
            prop_assert_eq!(&read_job(&write_job(&job)).unwrap(), &job);
        }
        while let Some((before, inverse)) = past.pop() {
            let after = job.clone();
            let again = inverse.apply(&mut job, &Everything).unwrap();
            prop_assert_eq!(&job, &before);
            let mut redone = job.clone();
            again.apply(&mut redone, &Everything).unwrap();
            prop_assert_eq!(&redone, &after);
        }
    }

    /// What was set is there afterwards, as it was set: in one place as well as where it is shared, where something else is the
    /// place's own as well as where nothing is.
    #[test]
    fn what_is_set_is_there(
        before in prop::collection::vec(any_command(), 0..6),
        target in any_target(),
        look in any_look(),
        content in any_content(),
        back in any::<bool>(),
    ) {
        let mut job = job();
        for command in &before {
            let _ = command.apply(&mut job, &Everything);
        }
        let seen = |job: &Job| match &target {
            Target::Shared(id) => job.kins.get(id).map(|kin| (kin.content.clone(), kin.look.clone())),
            Target::Only(id) => {
                let plain = job.find(id).ok().and_then(|found| found.plain().ok());
                plain.map(|plain| (plain.content.clone(), plain.look.as_ref().clone()))
            }
        };
        let shared = match &target {
            Target::Only(id) => job.item(id).and_then(|item| job.kins.get(&item.kin)).map(|kin| kin.look.clone()),
            Target::Shared(_) => None,
        };
        let was = seen(&job);
        if (Command::SetLook { target: target.clone(), look: look.clone() }).apply(&mut job, &Everything).is_ok() {
            prop_assert_eq!(seen(&job).map(|(_, look)| look), Some(look));
            prop_assert_eq!(seen(&job).map(|(content, _)| content), was.as_ref().map(|(content, _)| content.clone()));
        }
        if let (true, Some(look)) = (back, shared) {
            // As the others have it, it is a place's own only where it was before.
            let fresh = matches!(&target, Target::Only(id) if job.item(id).is_some_and(|item| item.release.look.is_none()));
            if (Command::SetLook { target: target.clone(), look: look.clone() }).apply(&mut job, &Everything).is_ok() {
                prop_assert_eq!(seen(&job).map(|(_, look)| look), Some(look));
                if let (true, Target::Only(id)) = (fresh, &target) {
                    prop_assert!(job.item(id).unwrap().release.look.is_none());
                }
            }
        }
        let look = seen(&job).map(|(_, look)| look);
        if (Command::SetContent { target: target.clone(), content: content.clone() }).apply(&mut job, &Everything).is_ok() {
            prop_assert_eq!(seen(&job).map(|(content, _)| content), Some(content));
            prop_assert_eq!(seen(&job).map(|(_, look)| look), look);
        }
    }

    /// A gesture of many changes is taken back by one.
    #[test]
    fn a_gesture_is_taken_back_as_one(commands in prop::collection::vec(any_command(), 1..12)) {
        let mut job = job();
        let before = job.clone();
        let mut back = Command::All { commands: Vec::new() };
        for command in &commands {
            if let Ok(inverse) = command.apply(&mut job, &Everything) {
                back = back.taking_back_also(inverse);
            }
        }
        back.apply(&mut job, &Everything).unwrap();
        prop_assert_eq!(job, before);
    }

    /// A viewer that applies the difference to its copy has the new state.
    #[test]
    fn a_delta_carries_every_change(commands in prop::collection::vec(any_command(), 1..9)) {
        let old = job();
        let mut new = old.clone();
        for command in &commands {
            let _ = command.apply(&mut new, &Everything);
        }
        prop_assert_eq!(merged(old.clone(), &JobDelta::between(&old, &new)), new);
    }

    /// Whoever keeps the parts that changed has the whole job.
    #[test]
    fn changed_parts_are_all_that_has_to_be_kept(commands in prop::collection::vec(any_command(), 1..9)) {
        let mut kept = Kept::default();
        let mut job = job();
        kept.take(changed_parts(None, &job).unwrap());
        for command in &commands {
            let before = job.clone();
            if command.apply(&mut job, &Everything).is_ok() {
                kept.take(changed_parts(Some(&before), &job).unwrap());
            }
            let read = join_parts(CURRENT_VERSION, &kept.heading, &kept.pieces, &kept.kins).unwrap();
            prop_assert_eq!(&read, &job);
        }
        let whole = join_text(CURRENT_VERSION, &kept.heading, &kept.pieces, &kept.kins).unwrap();
        prop_assert_eq!(read_job(&whole).unwrap(), job);
    }

    #[test]
    fn commands_survive_storage(command in any_command()) {
        let text = serde_json::to_string(&command).unwrap();
        if let Ok(read) = serde_json::from_str::<Command>(&text) {
            prop_assert_eq!(read, command);
        } else {
            // What is nested too deep to be read is refused before it is ever written.
            prop_assert!(command.apply(&mut job(), &Everything).is_err());
        }
    }
}

/// A store of parts.
#[derive(Default)]
struct Kept {
    heading: String,
    pieces: BTreeMap<String, String>,
    kins: BTreeMap<String, String>,
}

impl Kept {
    fn take(&mut self, parts: Vec<StoredPart>) {
        let put = |map: &mut BTreeMap<String, String>, id: String, text: Option<String>| match text {
            Some(text) => map.insert(id, text),
            None => map.remove(&id),
        };
        for part in parts {
            match part {
                StoredPart::Heading(text) => self.heading = text,
                StoredPart::Piece(id, text) => drop(put(&mut self.pieces, id.to_string(), text)),
                StoredPart::Kin(id, text) => drop(put(&mut self.kins, id.to_string(), text)),
            }
        }
    }
}

#[test]
fn an_edit_stores_only_what_it_changes() {
    let mut job = job();
    let before = job.clone();
    Command::SetFlags { item: id("s1"), locked: true, hidden: false }.apply(&mut job, &Everything).unwrap();
    let names = |parts: Vec<StoredPart>| {
        let name = |part: StoredPart| match part {
            StoredPart::Heading(_) => "heading".to_owned(),
            StoredPart::Piece(id, text) => format!("piece {id} {}", text.is_some()),
            StoredPart::Kin(id, text) => format!("kin {id} {}", text.is_some()),
        };
        parts.into_iter().map(name).collect::<Vec<_>>()
    };
    assert_eq!(names(changed_parts(Some(&before), &job).unwrap()), ["piece story true"]);
    let delta = JobDelta::between(&before, &job);
    assert_eq!((delta.items.len(), delta.frames.len(), delta.touched), (1, 0, vec![id("story")]));
    let before = job.clone();
    Command::RemovePiece { piece: id("post") }.apply(&mut job, &Everything).unwrap();
    assert_eq!(names(changed_parts(Some(&before), &job).unwrap()), ["heading", "piece post false", "kin panel false"]);
}

#[test]
fn a_swatch_travels_in_a_delta() {
    let old = job();
    let mut new = old.clone();
    let blue = Swatch { name: "Cobalt".into(), color: Color::opaque(0x2b, 0x4a, 0x8b), ink: None };
    Command::SetSwatch { id: id("clay"), swatch: Some(blue.clone()) }.apply(&mut new, &Everything).unwrap();
    let delta = JobDelta::between(&old, &new);
    assert_eq!(delta.swatches, [(id("clay"), Some(blue))].into());
    assert_eq!(
        delta.touched,
        [id::<PieceId>("post"), id("story")],
        "what is painted with it looks different everywhere"
    );
}

#[test]
fn groups_come_to_lie_together_and_go_apart_again() {
    let mut job = job();
    let names = |job: &Job| job.pieces[0].sides[0].items.iter().map(|item| item.id.to_string()).collect::<Vec<_>>();
    let set = |name: &str, groups: &[&str]| Command::SetGroups {
        item: id(name),
        groups: groups.iter().map(|g| id(*g)).collect(),
    };
    let both = Command::All { commands: vec![set("p1", &["g"]), set("p3", &["g"])] };
    let back = both.apply(&mut job, &Everything).unwrap();
    assert_eq!(names(&job), ["p2", "p1", "p3"], "up to where the topmost lies");
    // What is moved between the members of a group goes below it.
    Command::MoveItem { item: id("p2"), index: 1 }.apply(&mut job, &Everything).unwrap();
    assert_eq!(names(&job), ["p2", "p1", "p3"]);
    back.apply(&mut job, &Everything).unwrap();
    assert_eq!(names(&job), ["p1", "p2", "p3"]);
    // What lies above all of a group stays there.
    Arc::make_mut(&mut job.pieces[0]).sides[0].items.push(item("top", "pic", 40.0));
    both.apply(&mut job, &Everything).unwrap();
    assert_eq!(names(&job), ["p2", "p1", "p3", "top"]);
    let crossed = Command::All { commands: vec![set("p1", &["a", "b"]), set("p2", &["b"])] };
    assert_eq!(crossed.apply(&mut job, &Everything), Err(Fault::GroupApart.into()));
}

/// Of every value that is set again and again in one gesture, only the one that was there first is kept to take it back.
#[test]
fn what_takes_a_long_gesture_back_stays_short() {
    let stack = |gap: usize| Stack {
        group: id("g"),
        direction: Direction::Down,
        gap: Length::mm(gap as f64),
        align: StackAlign::First,
    };
    let tie = |n: usize| Tie::Centre {
        direction: if n.is_multiple_of(2) { Direction::Across } else { Direction::Down },
        of: Anchor::Sheet,
    };
    let said = |n: usize| format!("say {n}");
    let kinds: [&dyn Fn(usize) -> Command; 20] = [
        &|n| Command::SetTitle { title: said(n) },
        &|n| Command::SetWords { target: Target::Shared(id("head")), text: said(n) },
        &|n| Command::SetLook {
            target: Target::Shared(id("head")),
            look: Look { opacity: Ratio::percent(n as f64), ..words("").look },
        },
        &|n| Command::SetWords { target: Target::Only(id("p3")), text: said(n) },
        &|n| Command::SetPlace { item: id("p1"), place: item("p1", "pic", n as f64).place },
        &|n| Command::SetFlags { item: id("p1"), locked: n.is_multiple_of(2), hidden: false },
        &|n| Command::SetGroups { item: id("p1"), groups: vec![id(format!("g{n}"))] },
        &|n| Command::NameItem { item: id("p1"), name: Some(said(n)) },
        &|n| Command::SetTies { item: id("p1"), ties: vec![tie(n)] },
        &|n| Command::SetStacks { side: id("post-front"), stacks: vec![stack(n)] },
        &|n| Command::SetGroupLooks {
            side: id("post-front"),
            looks: vec![GroupLook { opacity: Ratio::percent(n as f64), ..GroupLook::plain(id("g1")) }],
        },
        &|n| Command::SetGuides { piece: id("post"), guides: Guides { columns: n as u8, ..Guides::default() } },
        &|n| Command::SetFormat {
            piece: id("post"),
            format: Format::screen(100 + n as u32, 1080),
            place: Some(said(n)),
            first: Some(Box::new(first_shape(n as f64))),
        },
        &|n| Command::SetAsked { kin: id("head"), asked: n % 2 == 1 },
        &|n| Command::SetAside { finding: "f".into(), reason: Some(said(n)) },
        &|n| Command::Follow { piece: id("post"), follows: Follows::Design { designs: vec![said(n)] } },
        &|n| Command::SetGround { side: id("post-front"), ground: Some(Paint::flat(Color::opaque(n as u8, 0, 0))) },
        &|n| Command::RenameSide { side: id("post-front"), name: said(n) },
        &|n| Command::RenamePiece { piece: id("post"), name: said(n) },
        &|n| Command::SetSwatch {
            id: id("clay"),
            swatch: Some(Swatch { name: said(n), color: Color::opaque(n as u8, 0, 0), ink: None }),
        },
    ];
    for (kind, make) in kinds.iter().enumerate() {
        let mut job = job();
        let before = job.clone();
        let mut back = Command::All { commands: Vec::new() };
        for n in 1..40 {
            back = back.taking_back_also(make(n).apply(&mut job, &Everything).unwrap());
        }
        // Groups depend on what lies between: what they were is kept each time.
        assert!(back.count() == 1 || matches!(make(1), Command::SetGroups { .. }), "{kind}: {}", back.count());
        back.apply(&mut job, &Everything).unwrap();
        assert_eq!(job, before, "{kind}");
    }
}

#[test]
fn a_tray_travels_as_what_changed_in_it() {
    let tray = |names: &str| names.chars().map(|name| removed(picture(), &name.to_string())).collect::<Vec<_>>();
    let with = |names: &str| {
        let mut job = job();
        Arc::make_mut(&mut job.pieces[0]).tray = tray(names);
        job
    };
    for (old, new, at, taken, put) in [
        ("abc", "abcd", 3, 0, "d"),
        ("abcd", "abc", 3, 1, ""),
        ("abcde", "abxe", 2, 2, "x"),
        ("abc", "bc", 0, 1, ""),
        ("aa", "a", 1, 1, ""),
    ] {
        let delta = JobDelta::between(&with(old), &with(new));
        let change = &delta.trays[&id::<PieceId>("post")];
        assert_eq!((change.at, change.taken, &change.put), (at, taken, &tray(put)), "{old} to {new}");
        assert_eq!(merged(with(old), &delta), with(new));
    }
}

#[test]
fn only_pieces_that_may_look_different_are_touched() {
    let touched = |command: Command| {
        let old = job();
        let mut new = old.clone();
        command.apply(&mut new, &Everything).unwrap();
        JobDelta::between(&old, &new).touched.iter().map(ToString::to_string).collect::<Vec<_>>()
    };
    let look = Look { opacity: Ratio::HALF, ..Look::default() };
    assert_eq!(touched(Command::SetTitle { title: "Clay".into() }), Vec::<String>::new());
    assert_eq!(touched(Command::SetLook { target: Target::Shared(id("panel")), look: look.clone() }), ["post"]);
    assert_eq!(touched(Command::SetLook { target: Target::Shared(id("pic")), look }), ["post", "story"]);
    assert_eq!(touched(Command::SetPlace { item: id("s1"), place: item("s1", "pic", 5.0).place }), ["story"]);
    let swatch = Some(Swatch { name: "Clay".into(), color: Color::BLACK, ink: None });
    assert_eq!(touched(Command::SetSwatch { id: id("clay"), swatch }), ["post", "story"]);
}

#[test]
fn bold_and_then_italic_in_one_gesture_are_both_done_again() {
    let mut job = job();
    let style = |set: RunStyle| Command::StyleWords {
        target: Target::Shared(id("head")),
        from: 0,
        to: 5,
        change: StyleChange { set, ..StyleChange::default() },
    };
    let bold = style(RunStyle { weight: Some(700), ..RunStyle::default() });
    let italic = style(RunStyle { italic: Some(true), ..RunStyle::default() });
    let first = bold.apply(&mut job, &Everything).unwrap();
    let back = first.taking_back_also(italic.apply(&mut job, &Everything).unwrap());
    let styled = job.clone();
    let again = back.apply(&mut job, &Everything).unwrap();
    again.apply(&mut job, &Everything).unwrap();
    assert_eq!(job, styled);
}

#[test]
fn drawings_are_flattened_or_refused_before_they_are_too_deep_to_read() {
    let group = |opacity: Ratio, parts| DrawnPart::Group(DrawnGroup { opacity, ..DrawnGroup::of(parts) });
    let deep = |opacity: Ratio| {
        let mut drawing = nested(0, false);
        for _ in 0..Drawing::DEEPEST + 1 {
            drawing.parts = vec![group(opacity, drawing.parts)];
        }
        drawing
    };
    assert_eq!(deep(Ratio::HALF).fault(), Some(Fault::DrawingDepth));
    assert_eq!(deep(Ratio::ONE).flattened(), nested(0, false));
    assert_eq!(deep(Ratio::HALF).flattened().fault(), Some(Fault::DrawingDepth));
    // The deepest that is taken can be read back wherever it stands: in an item, in a tray, in the history.
    let mut job = job();
    let kin = Kin::new(Part::Ornament, Content::Drawing { drawing: nested(12, true) }, Look::default());
    let insert =
        Command::InsertItem { side: id("post-front"), index: 9, item: item("d", "drawn", 0.0), kin: Some(kin.clone()) };
    insert.apply(&mut job, &Everything).unwrap();
    let deepest = Kin { content: Content::Drawing { drawing: nested(Drawing::DEEPEST, false) }, ..kin };
    Command::SetContent { target: Target::Shared(id("drawn")), content: deepest.content.clone() }
        .apply(&mut job, &Everything)
        .unwrap();
    let removed = Removed { item: item("d2", "drawn", 0.0), kin: deepest, side: id("post-front"), index: 0 };
    let aside = Command::PutAside { piece: id("post"), index: 0, removed: Box::new(removed) };
    aside.apply(&mut job, &Everything).unwrap();
    assert_eq!(read_job(&write_job(&job)).unwrap(), job);
    let inverse = Command::All { commands: vec![Command::RemoveItem { item: id("d") }, aside] };
    let inverse = inverse.apply(&mut job.clone(), &Everything).unwrap();
    // Deeper than that is refused, whole.
    let deep = |levels: usize| {
        let leaf = Command::RenamePiece { piece: id("post"), name: "Other".into() };
        (0..levels).fold(leaf, |inner, _| Command::All { commands: vec![inner] })
    };
    let mut tried = job.clone();
    assert!(deep(Command::DEEPEST).apply(&mut tried, &Everything).is_ok());
    let before = tried.clone();
    assert!(deep(Command::DEEPEST + 1).apply(&mut tried, &Everything).is_err() && tried == before);
    let wrapped = (0..Command::DEEPEST).fold(inverse, |inner, _| Command::All { commands: vec![inner] });
    assert_eq!(serde_json::from_str::<Command>(&serde_json::to_string(&wrapped).unwrap()).unwrap(), wrapped);
}

#[test]
fn what_earlier_programs_let_slip_is_put_right() {
    let sound = job();
    let mut slipped = sound.clone();
    slipped.kins.insert(id("spare"), Arc::new(words("spare")));
    let side = |job: &mut Job, change: fn(&mut Side)| change(&mut Arc::make_mut(&mut job.pieces[0]).sides[0]);
    side(&mut slipped, |side| side.items[0].release.content = Some(words("not a picture").content));
    assert_eq!(read_job(&write_job(&slipped)).unwrap(), sound);
    side(&mut slipped, |side| {
        side.items[0].groups = vec![id("g")];
        side.items[2].groups = vec![id("g")];
    });
    let read = read_job(&write_job(&slipped)).unwrap();
    assert_eq!(read.items().map(|item| item.id.as_str()).collect::<Vec<_>>(), ["p2", "p1", "p3", "s1", "s2"]);
    side(&mut slipped, |side| side.items[0].kin = id("nowhere"));
    assert!(matches!(read_job(&write_job(&slipped)), Err(StoredError::Damaged(_))));
}

#[test]
fn each_rule_is_told_by_its_own_fault() {
    // What a change breaks is found alike by looking at everything and by looking at what changed.
    let broken = |change: &dyn Fn(&mut Job)| {
        // States share what they have in common, as they do when commands are applied.
        let before = job();
        let mut changed = before.clone();
        change(&mut changed);
        let fault = changed.check().unwrap_err();
        assert_eq!(changed.check_since(&before, &Everything), Err(fault.clone()));
        fault
    };
    let sound = |change: &dyn Fn(&mut Job)| {
        let before = job();
        let mut changed = before.clone();
        change(&mut changed);
        assert_eq!((changed.check(), changed.check_since(&before, &Everything)), (Ok(()), Ok(())));
    };
    fn first(job: &mut Job) -> &mut Piece {
        Arc::make_mut(&mut job.pieces[0])
    }
    assert_eq!(broken(&|job| job.title = " ".into()), Fault::Name("A job"));
    assert!(matches!(broken(&|job| drop(job.pieces.remove(0))), Fault::Unused(_)), "what only it used stays behind");
    assert_eq!(broken(&|job| first(job).name = "a\nb".into()), Fault::Name("A piece"));
    assert_eq!(broken(&|job| first(job).sides[0].name = "x".repeat(201)), Fault::Name("A side"));
    assert_eq!(broken(&|job| first(job).sides[0].items[0].name = Some(String::new())), Fault::Name("An item"));
    let clay = || id::<SwatchId>("clay");
    assert_eq!(broken(&|job| job.swatches.get_mut(&clay()).unwrap().name = "\t".into()), Fault::Name("A colour"));
    sound(&|job| job.swatches.get_mut(&clay()).unwrap().name = "x".repeat(200));
    assert_eq!(broken(&|job| first(job).sides.clear()), Fault::SideCount);
    let sides = |job: &mut Job, count: usize| {
        let blank = |number| Side::blank(id(format!("b{number}")), "Back", None);
        first(job).sides.extend((1..count).map(blank));
    };
    sound(&|job| sides(job, Piece::MOST_SIDES));
    assert_eq!(broken(&|job| sides(job, Piece::MOST_SIDES + 1)), Fault::SideCount);
    let pieces = |job: &mut Job, count: usize| {
        let more = |number| {
            let mut piece = piece(&format!("more-{number}"), Vec::new());
            piece.sides[0].id = id(format!("more-side-{number}"));
            Arc::new(piece)
        };
        job.pieces.extend((2..count).map(more));
    };
    sound(&|job| pieces(job, Job::MOST_PIECES));
    assert_eq!(broken(&|job| pieces(job, Job::MOST_PIECES + 1)), Fault::PieceCount);
    let items = |job: &mut Job, count: usize| {
        first(job).sides[0].items.extend((3..count).map(|number| item(&format!("more-{number}"), "head", 0.0)));
    };
    sound(&|job| items(job, Side::MOST_ITEMS));
    assert_eq!(broken(&|job| items(job, Side::MOST_ITEMS + 1)), Fault::ItemCount);
    let groups = |job: &mut Job, count: usize| {
        first(job).sides[0].items[0].groups = (0..count).map(|number| id(format!("g{number}"))).collect();
    };
    sound(&|job| groups(job, Item::DEEPEST_GROUP));
    assert_eq!(broken(&|job| groups(job, Item::DEEPEST_GROUP + 1)), Fault::GroupDepth);
    let apart = |job: &mut Job| {
        for at in [0, 2] {
            first(job).sides[0].items[at].groups = vec![id("g")];
        }
    };
    assert_eq!(broken(&apart), Fault::GroupApart);
    let tie = |of: &str| Tie::Centre { direction: Direction::Across, of: Anchor::Item(id(of)) };
    let ties = |job: &mut Job, of: &str, count: usize| first(job).sides[0].items[0].ties = vec![tie(of); count];
    sound(&|job| ties(job, "p2", Tie::MOST));
    assert_eq!(broken(&|job| ties(job, "p2", Tie::MOST + 1)), Fault::TieCount);
    assert_eq!(broken(&|job| ties(job, "p1", 1)), Fault::TiedToItself);
    let kin = |job: &mut Job, name: &str, change: &dyn Fn(&mut Kin)| {
        change(Arc::make_mut(job.kins.get_mut(&id::<KinId>(name)).unwrap()));
    };
    let below = Outline::Rect { radius: Length::from_raw(-1) };
    let shape = |outline: &Outline| Content::Shape { outline: outline.clone() };
    assert_eq!(broken(&|job| kin(job, "panel", &|kin| kin.content = shape(&below))), Fault::NegativeRadius);
    assert_eq!(broken(&|job| kin(job, "panel", &|kin| kin.look.opacity = Ratio::percent(101.0))), Fault::Opacity);
    let released = |job: &mut Job, content: Option<Content>, look: Option<Look>| {
        first(job).sides[0].items[1].release = Release { content, look: look.map(|look| LookPatch::all(&look)) };
    };
    assert_eq!(broken(&|job| released(job, Some(shape(&below)), None)), Fault::NegativeRadius);
    let faint = Look { opacity: Ratio::percent(101.0), ..Look::default() };
    assert_eq!(broken(&|job| released(job, None, Some(faint.clone()))), Fault::Opacity);
    let turned = |job: &mut Job| {
        released(job, Some(shape(&Outline::Arch)), None);
    };
    sound(&turned);
    // What is shared becomes words, and what is released of it stays a shape.
    let mut old = job();
    turned(&mut old);
    let mut new = old.clone();
    kin(&mut new, "panel", &|kin| kin.content = words("x").content);
    assert_eq!(new.check_since(&old, &Everything), Err(Fault::KindChanged));
    assert_eq!(new.check(), Err(Fault::KindChanged));
    let outside = Length::from_raw(i64::MIN);
    assert_eq!(broken(&|job| first(job).sides[0].items[0].place.at.rect.x = outside), Fault::FarAway);
    assert_eq!(broken(&|job| first(job).format.bleed = Length::mm(-1.0)), Fault::Format(crate::FormatError::Edges));
    assert_eq!(broken(&|job| first(job).guides.columns = 99), Fault::Columns);
    assert_eq!(broken(&|job| first(job).sides[0].items[1].id = id("p1")), Fault::Twice("item", "p1".into()));
    assert_eq!(broken(&|job| first(job).sides[0].items[0].id = id("s1")), Fault::Twice("item", "s1".into()));
    assert_eq!(broken(&|job| first(job).sides[0].id = id("story-front")), Fault::Twice("side", "story-front".into()));
    assert_eq!(broken(&|job| first(job).id = id("story")), Fault::Twice("piece", "story".into()));
    assert_eq!(broken(&|job| first(job).sides[0].items[1].kin = id("head")), Fault::Unused("panel".into()));
    assert_eq!(broken(&|job| drop(job.kins.remove(&id::<KinId>("pic")))), Fault::Missing("part", "pic".into()));
    assert_eq!(broken(&|job| first(job).sides[0].items[0].groups = vec![id("g"); 2]), Fault::GroupDepth);
    assert_eq!(
        broken(&|job| first(job).tray = vec![removed(picture(), "p9"); Piece::MOST_ASIDE + 1]),
        Fault::TrayCount
    );
    let worded = || Removed {
        item: Item { release: Release { content: Some(words("x").content), look: None }, ..item("t", "t", 0.0) },
        ..removed(picture(), "t")
    };
    assert_eq!(broken(&|job| first(job).tray = vec![worded()]), Fault::KindChanged);
    let stack = Stack { group: id("g"), direction: Direction::Down, gap: Length::ZERO, align: StackAlign::First };
    assert_eq!(broken(&|job| first(job).sides[0].stacks = vec![stack.clone(); 2]), Fault::StackCount);
    let ground = Paint::flat(Tint::Swatch(id("none")));
    assert_eq!(
        broken(&|job| first(job).sides[0].ground = Some(ground.clone())),
        Fault::Missing("colour", "none".into())
    );
}

fn removed(kin: Kin, name: &str) -> Removed {
    Removed { item: item(name, "aside", 0.0), kin, side: id("post-front"), index: 0 }
}

fn merged(mut job: Job, delta: &JobDelta) -> Job {
    job.title = delta.title.clone().unwrap_or(job.title);
    for (id, kin) in &delta.kins {
        match kin {
            Some(kin) => job.kins.insert(id.clone(), Arc::new(kin.clone())),
            None => job.kins.remove(id),
        };
    }
    if let Some(aside) = &delta.set_aside {
        job.set_aside = aside.clone();
    }
    for (id, swatch) in &delta.swatches {
        match swatch {
            Some(swatch) => job.swatches.insert(id.clone(), swatch.clone()),
            None => job.swatches.remove(id),
        };
    }
    let mut pieces: BTreeMap<PieceId, Piece> =
        job.pieces.iter().map(|piece| (piece.id.clone(), piece.as_ref().clone())).collect();
    let order = delta.pieces.clone().unwrap_or_else(|| job.pieces.iter().map(|piece| piece.id.clone()).collect());
    for frame in &delta.frames {
        let was = pieces.remove(&frame.id);
        let items = |id: &SideId| {
            let sides = was.iter().flat_map(|piece| &piece.sides);
            sides.into_iter().find(|side| side.id == *id).map(|side| side.items.clone()).unwrap_or_default()
        };
        let side = |side: &crate::SideFrame| Side {
            id: side.id.clone(),
            name: side.name.clone(),
            ground: side.ground.clone(),
            items: items(&side.id),
            stacks: side.stacks.clone(),
            group_looks: side.group_looks.clone(),
        };
        let piece = Piece {
            id: frame.id.clone(),
            name: frame.name.clone(),
            place: frame.place.clone(),
            format: frame.format,
            sides: frame.sides.iter().map(side).collect(),
            guides: frame.guides.clone(),
            tray: was.as_ref().map(|piece| piece.tray.clone()).unwrap_or_default(),
            follows: frame.follows.clone(),
            first: frame.first.clone(),
        };
        pieces.insert(piece.id.clone(), piece);
    }
    for piece in pieces.values_mut() {
        if let Some(change) = delta.trays.get(&piece.id) {
            piece.tray.splice(change.at..change.at + change.taken, change.put.iter().cloned());
        }
        for side in &mut piece.sides {
            let all: Vec<Item> = delta.items.iter().chain(&side.items).cloned().collect();
            let ids = || side.items.iter().map(|item| item.id.clone()).collect();
            let order: Vec<_> = delta.order.get(&side.id).cloned().unwrap_or_else(ids);
            side.items = order.iter().filter_map(|id| all.iter().find(|item| item.id == *id).cloned()).collect();
        }
    }
    job.pieces = order.iter().filter_map(|id| pieces.remove(id)).map(Arc::new).collect();
    job
}

#[test]
fn shared_words_change_everywhere_but_where_released() {
    let mut job = job();
    let set = |target, text: &str| Command::SetWords { target, text: text.into() };
    set(Target::Only(id("s2")), "Only here").apply(&mut job, &Everything).unwrap();
    set(Target::Shared(id("head")), "Everywhere").apply(&mut job, &Everything).unwrap();
    let text = |name: &str| job.plain(job.item(&id(name)).unwrap()).unwrap().content.words().unwrap().text();
    assert_eq!((text("p3").as_str(), text("s2").as_str()), ("Everywhere", "Only here"));
}

#[test]
fn a_family_the_job_has_already_stays_usable_when_it_is_not_at_hand() {
    struct Nothing;
    impl Known for Nothing {
        fn has_family(&self, _: &str) -> bool {
            false
        }
        fn has_picture(&self, _: &AssetId) -> bool {
            true
        }
    }
    let mut job = job();
    let look = |family: &str, size: f64| Look {
        type_look: Some(TypeLook { family: family.into(), size: Length::pt(size), ..TypeLook::default() }),
        ..Look::default()
    };
    Command::SetLook { target: Target::Shared(id("head")), look: look("Lora", 20.0) }
        .apply(&mut job, &Everything)
        .unwrap();
    assert!(job.uses_family("Lora") && !job.uses_family("Jost"));
    Command::SetLook { target: Target::Shared(id("head")), look: look("Lora", 30.0) }
        .apply(&mut job, &Nothing)
        .unwrap();
    assert!(
        Command::SetLook { target: Target::Shared(id("head")), look: look("Jost", 30.0) }
            .apply(&mut job, &Nothing)
            .is_err()
    );
}

#[test]
fn what_is_not_at_hand_is_refused_by_name() {
    let mut job = job();
    let look =
        Look { type_look: Some(TypeLook { family: "Unheard Of".into(), ..TypeLook::default() }), ..Look::default() };
    let refused = Command::SetLook { target: Target::Shared(id("head")), look }.apply(&mut job, &Everything);
    assert_eq!(refused, Err(Fault::UnknownFamily("Unheard Of".into()).into()));
    let content = Content::Picture {
        picture: Some(id("lost")),
        focus: Focus::CENTRE,
        frame: Outline::RECT,
        fit: PictureFit::Fill,
    };
    let refused = Command::SetContent { target: Target::Shared(id("pic")), content: content.clone() }
        .apply(&mut job, &Everything);
    assert_eq!(refused, Err(Fault::UnknownPicture("lost".into()).into()));
    let refused =
        Command::SetContent { target: Target::Shared(id("head")), content: Content::Shape { outline: Outline::RECT } }
            .apply(&mut job, &Everything);
    assert_eq!(refused, Err(Fault::KindChanged.into()));
    let swatch = Command::SetLook {
        target: Target::Shared(id("head")),
        look: Look { fill: Some(Paint::flat(Tint::Swatch(id("none")))), ..Look::default() },
    };
    assert!(matches!(swatch.apply(&mut job, &Everything), Err(CommandError::Unsound(Fault::Missing("colour", _)))));
}

#[test]
fn names_are_kept_on_one_line_without_space_around_them() {
    let (mut job, typed, kept) = (job(), " Deep\nblue\u{7} ", "Deep blue");
    let swatch = Some(Swatch::new(typed, Color::BLACK));
    let (item, piece): (ItemId, PieceId) = (id("p3"), job.pieces[0].id.clone());
    for command in [
        Command::SetTitle { title: typed.into() },
        Command::NameItem { item: item.clone(), name: Some(typed.into()) },
        Command::RenamePiece { piece, name: typed.into() },
        Command::SetSwatch { id: id("deep"), swatch },
    ] {
        command.apply(&mut job, &Everything).unwrap();
    }
    let swatch = &job.swatches[&id::<SwatchId>("deep")];
    let item = job.item(&item).unwrap().name.as_deref();
    assert_eq!((&*job.title, item, &*job.pieces[0].name, &*swatch.name), (kept, Some(kept), kept, kept));
}

#[test]
fn a_used_swatch_and_the_last_piece_stay() {
    let mut job = job();
    Command::SetGround { side: id("post-front"), ground: Some(Paint::flat(Tint::Swatch(id("clay")))) }
        .apply(&mut job, &Everything)
        .unwrap();
    let refused = Command::SetSwatch { id: id("clay"), swatch: None }.apply(&mut job, &Everything);
    assert_eq!(refused, Err(CommandError::SwatchInUse("Wet clay".into())));
    Command::RemovePiece { piece: id("post") }.apply(&mut job, &Everything).unwrap();
    assert!(!job.kins.contains_key(&id::<KinId>("panel")) && job.kins.contains_key(&id::<KinId>("head")));
    assert!(matches!(
        Command::RemovePiece { piece: id("story") }.apply(&mut job, &Everything),
        Err(CommandError::LastPiece)
    ));
}

#[test]
fn a_swatch_of_something_kept_aside_stays() {
    let mut job = job();
    let look = Look { fill: Some(Paint::flat(Tint::Swatch(id("clay")))), ..Look::default() };
    let removed = Removed { kin: Kin { look, ..picture() }, ..removed(picture(), "t") };
    Command::PutAside { piece: id("post"), index: 9, removed: Box::new(removed) }.apply(&mut job, &Everything).unwrap();
    assert!(matches!(
        Command::SetSwatch { id: id("clay"), swatch: None }.apply(&mut job, &Everything),
        Err(CommandError::SwatchInUse(_))
    ));
}

#[test]
fn each_property_of_a_patch_has_one_name() {
    let look = Look { type_look: Some(TypeLook::default()), ..Look::default() };
    let patch = crate::LookPatch::all(&look);
    for property in crate::Property::ALL {
        let only = patch.only(property);
        assert_eq!(only.properties(), [property]);
        assert!(only.without(property).is_empty(), "{property:?} holds what another name has");
    }
}

#[test]
fn a_change_that_breaks_a_side_is_seen_beside_what_stood_before() {
    let old = job();
    let mut now = old.clone();
    let side = &mut Arc::make_mut(&mut now.pieces[0]).sides[0];
    for at in [0, 2] {
        side.items[at].groups = vec![id("g")];
    }
    assert!(now.check_since(&old, &Everything).is_err());
    assert!(old.check_since(&old, &Everything).is_ok());
}

#[test]
fn a_list_of_commands_has_an_end() {
    let mut job = job();
    let rename = Command::RenamePiece { piece: id("post"), name: "Post".into() };
    let all = |count: usize| Command::All { commands: vec![rename.clone(); count] };
    assert!(all(Command::MOST).apply(&mut job, &Everything).is_ok());
    for more in [1, 2] {
        assert!(all(Command::MOST + more).apply(&mut job, &Everything).is_err());
    }
}

#[test]
fn why_something_may_stay_is_said_in_words() {
    let with = |reason: &str| {
        let mut now = job();
        now.set_aside.insert("finding".into(), reason.into());
        now.check()
    };
    assert_eq!(with("It is meant so."), Ok(()));
    for reason in ["", "  ", "two\u{7}bells", &"long".repeat(126)] {
        assert_eq!(with(reason), Err(Fault::SetAside), "{reason:?}");
    }
}
