//! Every command, forward and back.

use proptest::prelude::*;
use vatman_units::{Angle, Length, Placement, Ratio, Rect};

use super::*;
use crate::{Anchor, Backing, BoxEdge, Color, Direction, Effect, Focus, Format, JobDelta, JobId, Motif, Outline, Part, PictureFit, Reach, RichText, RunStyle, StackAlign, TypeLook, read_job, write_job};

struct Everything;
impl Known for Everything {
    fn has_family(&self, name: &str) -> bool {
        name != "Unheard Of"
    }
    fn has_picture(&self, id: &AssetId) -> bool {
        id.as_str() != "lost"
    }
}

fn id<T: TryFrom<String>>(text: impl Into<String>) -> T {
    T::try_from(text.into()).ok().unwrap()
}

fn words(text: &str) -> Kin {
    Kin {
        part: Part::Headline,
        content: Content::Words { text: RichText::plain(text), prompt: "Headline".into() },
        look: Look { type_look: Some(TypeLook::default()), ..Look::default() },
    }
}

fn picture() -> Kin {
    let content = Content::Picture { picture: Some(id("pot")), focus: Focus::CENTRE, frame: Outline::Ellipse, fit: PictureFit::Fill };
    Kin { part: Part::MainPicture, content, look: Look::default() }
}

fn item(name: &str, kin: &str, x: f64) -> Item {
    let px = Length::css_px;
    let place = Place::new(Placement::at(Rect::new(px(x), px(20.0), px(200.0), px(80.0))));
    Item::new(id(name), id(kin), place)
}

fn piece(name: &str, items: Vec<Item>) -> Piece {
    let side = Side { id: id(format!("{name}-front")), name: "Front".into(), ground: Some(Paint::flat(Color::WHITE)), items, stacks: Vec::new() };
    Piece { id: id(name), name: name.into(), place: None, format: Format::screen(1080, 1080), sides: vec![side], guides: Guides::default(), tray: Vec::new() }
}

/// Two pieces; the headline and picture are in both, the panel in one.
fn job() -> Job {
    let mut job = Job::new(id::<JobId>("job"), "Saturday wheel class");
    job.swatches.insert(id("clay"), Swatch { name: "Wet clay".into(), color: Color::opaque(0x8c, 0x5a, 0x3c) });
    job.kins = [(id("head"), words("Hands in clay by ten.")), (id("pic"), picture()), (id("panel"), Kin { content: Content::Shape { outline: Outline::Arch }, ..words("") })].into();
    job.pieces = vec![
        piece("post", vec![item("p1", "pic", 0.0), item("p2", "panel", 10.0), item("p3", "head", 20.0)]),
        piece("story", vec![item("s1", "pic", 0.0), item("s2", "head", 30.0)]),
    ];
    job
}

fn any_target() -> impl Strategy<Value = Target> {
    prop_oneof![Just(Target::Shared(id("head"))), Just(Target::Only(id("p3"))), Just(Target::Only(id("s2"))), Just(Target::Shared(id("gone")))]
}

fn any_item() -> impl Strategy<Value = ItemId> {
    prop::sample::select(vec!["p1", "p2", "p3", "s1", "s2", "n1", "gone"]).prop_map(id)
}

fn any_place() -> impl Strategy<Value = Place> {
    (-900i64..900, 0i64..900, -720.0f64..720.0, 1u32..400, any::<bool>()).prop_map(|(x, w, turn, scale, flip)| {
        let px = |v: i64| Length::css_px(v as f64);
        let at = Placement { rect: Rect::new(px(x), px(-x), px(w), px(w / 2)), turn: Angle::degrees(turn), flip };
        Place { at, scale: Ratio::percent(f64::from(scale)), crop: flip.then_some(crate::Crop { zoom: Ratio::new(1.5), turn: Angle::degrees(turn), ..crate::Crop::about(Focus::CENTRE) }) }
    })
}

fn any_look() -> impl Strategy<Value = Look> {
    (0u32..120, prop::bool::ANY, prop::sample::select(vec!["Lora", "Unheard Of"])).prop_map(|(opacity, clay, family)| Look {
        opacity: Ratio::percent(f64::from(opacity)),
        fill: Some(Paint::flat(if clay { Tint::Swatch(id("clay")) } else { Color::BLACK.into() })),
        type_look: Some(TypeLook { family: family.into(), ..TypeLook::default() }),
        effects: vec![Effect::Shadow { dx: Length::css_px(2.0), dy: Length::ZERO, blur: Length::css_px(f64::from(opacity)), tint: Color::BLACK.into(), opacity: Ratio::HALF }],
        backing: clay.then(|| Backing {
            reach: Reach::Lines,
            outline: Outline::RECT,
            fill: Some(Paint::Pattern { motif: Motif::Dots, ink: Tint::Swatch(id("clay")), ground: None, size: Length::css_px(9.0), angle: Angle::ZERO }),
            stroke: None,
            pad_x: Ratio::HALF,
            pad_y: Ratio::ZERO,
        }),
        ..Look::default()
    })
}

fn any_command() -> impl Strategy<Value = Command> {
    let leaf = prop_oneof![
        "[a-z ]{0,12}".prop_map(|title| Command::SetTitle { title }),
        (any_target(), "[a-zé\\n ]{0,30}").prop_map(|(target, text)| Command::SetWords { target, text }),
        (any_target(), "[a-z ]{0,9}").prop_map(|(target, text)| Command::SetContent { target, content: words(&text).content }),
        (any_target(), any_look()).prop_map(|(target, look)| Command::SetLook { target, look }),
        (any_target(), 0usize..12, 0usize..40, any_look()).prop_map(|(target, from, to, look)| {
            let set = RunStyle { size: Some(look.opacity), tint: look.fill.and_then(|fill| fill.tints().next().cloned()), ..RunStyle::default() };
            Command::StyleWords { target, from, to, change: StyleChange { set, ..StyleChange::default() } }
        }),
        (any_item(), prop::sample::subsequence(vec!["g1", "g2", "g3"], 0..3)).prop_map(|(item, groups)| Command::SetGroups { item, groups: groups.into_iter().map(id).collect() }),
        (any_item(), prop::option::of("[a-z ]{0,6}")).prop_map(|(item, name)| Command::NameItem { item, name }),
        (any_item(), any_item(), -9i64..9, 0usize..10).prop_map(|(item, other, gap, count)| {
            let gap = Tie::Gap { edge: BoxEdge::Left, of: Anchor::Item(other.clone()), gap: Length::mm(gap as f64) };
            Command::SetTies { item, ties: vec![gap; count] }
        }),
        (prop::sample::select(vec!["post-front", "back"]), prop::sample::subsequence(vec!["g1", "g2", "g1"], 0..3)).prop_map(|(side, groups)| {
            let stack = |group: &str| Stack { group: id(group), direction: Direction::Down, gap: Length::mm(2.0), align: StackAlign::First };
            Command::SetStacks { side: id(side), stacks: groups.into_iter().map(stack).collect() }
        }),
        (0u8..60, -1i64..300_000).prop_map(|(columns, gutter)| Command::SetGuides { piece: id("post"), guides: Guides { columns, column_gutter: Length::from_raw(gutter), ..Guides::default() } }),
        (0usize..3, any_look()).prop_map(|(n, look)| {
            let removed = |i: usize| Removed { item: item(&format!("t{i}"), "panel", 1.0), kin: Kin { look: look.clone(), ..picture() }, side: id("post-front"), index: i };
            Command::SetTray { piece: id("post"), tray: (0..n).map(removed).collect() }
        }),
        (any_item(), any_look()).prop_map(|(item, look)| Command::SetRelease { item, release: Release { look: Some(look), content: None } }),
        (any_item(), any_place()).prop_map(|(item, place)| Command::SetPlace { item, place }),
        (any_item(), any::<bool>(), any::<bool>()).prop_map(|(item, locked, hidden)| Command::SetFlags { item, locked, hidden }),
        (0usize..6, prop::sample::select(vec!["head", "new"])).prop_map(|(index, kin)| Command::InsertItem {
            side: id("story-front"),
            index,
            item: item("n1", kin, 5.0),
            kin: (kin == "new").then(|| words("new")),
        }),
        any_item().prop_map(|item| Command::RemoveItem { item }),
        (any_item(), 0usize..9).prop_map(|(item, index)| Command::MoveItem { item, index }),
        prop::option::of(Just(Paint::flat(Tint::Swatch(id("clay"))))).prop_map(|ground| Command::SetGround { side: id("post-front"), ground }),
        (prop::sample::select(vec!["clay", "sky"]), prop::option::of(any::<u8>()))
            .prop_map(|(name, red)| Command::SetSwatch { id: id(name), swatch: red.map(|r| Swatch { name: "Sky".into(), color: Color::opaque(r, 9, 9) }) }),
        (0usize..4).prop_map(|index| Command::InsertPiece { index, piece: piece("pin", vec![item("n1", "fresh", 0.0), item("n2", "head", 0.0)]), kins: [(id("fresh"), picture())].into() }),
        prop::sample::select(vec!["post", "story", "pin"]).prop_map(|name| Command::RemovePiece { piece: id(name) }),
        (0usize..3, prop::sample::select(vec!["post", "story", "gone"]))
            .prop_map(|(index, name)| Command::InsertSide { piece: id(name), index, side: Side { id: id("back"), name: "Back".into(), ground: None, items: vec![item("b1", "fresh", 0.0), item("b2", "head", 0.0)], stacks: Vec::new() }, kins: [(id("fresh"), picture())].into() }),
        prop::sample::select(vec!["post-front", "back", "story-front"]).prop_map(|name| Command::RemoveSide { side: id(name) }),
        (prop::sample::select(vec!["post-front", "back"]), 0usize..3).prop_map(|(name, index)| Command::MoveSide { side: id(name), index }),
        "[a-z ]{0,6}".prop_map(|name| Command::RenameSide { side: id("back"), name }),
        "[a-z]{0,8}".prop_map(|name| Command::RenamePiece { piece: id("post"), name }),
    ];
    leaf.clone().boxed().prop_union(prop::collection::vec(leaf, 0..4).prop_map(|commands| Command::All { commands }).boxed())
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(400))]

    /// Whatever is done can be taken back, all of it, in reverse; what is refused changes nothing.
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
            prop_assert_eq!(&read_job(&write_job(&job)).unwrap(), &job);
        }
        while let Some((before, inverse)) = past.pop() {
            inverse.apply(&mut job, &Everything).unwrap();
            prop_assert_eq!(&job, &before);
        }
    }

    /// A viewer that applies the difference to its copy has the new state.
    #[test]
    fn a_delta_carries_every_change(commands in prop::collection::vec(any_command(), 1..6)) {
        let old = job();
        let mut new = old.clone();
        for command in &commands {
            let _ = command.apply(&mut new, &Everything);
        }
        prop_assert_eq!(merged(old.clone(), &JobDelta::between(&old, &new)), new);
    }

    #[test]
    fn commands_survive_storage(command in any_command()) {
        let text = serde_json::to_string(&command).unwrap();
        prop_assert_eq!(serde_json::from_str::<Command>(&text).unwrap(), command);
    }
}

fn merged(mut job: Job, delta: &JobDelta) -> Job {
    job.title = delta.title.clone().unwrap_or(job.title);
    for (id, kin) in &delta.kins {
        match kin {
            Some(kin) => job.kins.insert(id.clone(), kin.clone()),
            None => job.kins.remove(id),
        };
    }
    for (id, swatch) in &delta.swatches {
        match swatch {
            Some(swatch) => job.swatches.insert(id.clone(), swatch.clone()),
            None => job.swatches.remove(id),
        };
    }
    if let Some(pieces) = &delta.pieces {
        job.pieces.clone_from(pieces);
    }
    for side in job.pieces.iter_mut().flat_map(|piece| &mut piece.sides) {
        let all: Vec<Item> = delta.items.iter().chain(&side.items).cloned().collect();
        let order: Vec<_> = delta.order.get(&side.id).cloned().unwrap_or_else(|| side.items.iter().map(|item| item.id.clone()).collect());
        side.items = order.iter().filter_map(|id| all.iter().find(|item| item.id == *id).cloned()).collect();
    }
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
    let look = |family: &str, size: f64| Look { type_look: Some(TypeLook { family: family.into(), size: Length::pt(size), ..TypeLook::default() }), ..Look::default() };
    Command::SetLook { target: Target::Shared(id("head")), look: look("Lora", 20.0) }.apply(&mut job, &Everything).unwrap();
    assert!(job.uses_family("Lora") && !job.uses_family("Jost"));
    Command::SetLook { target: Target::Shared(id("head")), look: look("Lora", 30.0) }.apply(&mut job, &Nothing).unwrap();
    assert!(Command::SetLook { target: Target::Shared(id("head")), look: look("Jost", 30.0) }.apply(&mut job, &Nothing).is_err());
}

#[test]
fn what_is_not_at_hand_is_refused_by_name() {
    let mut job = job();
    let look = Look { type_look: Some(TypeLook { family: "Unheard Of".into(), ..TypeLook::default() }), ..Look::default() };
    let refused = Command::SetLook { target: Target::Shared(id("head")), look }.apply(&mut job, &Everything);
    assert_eq!(refused, Err(CommandError::UnknownFamily("Unheard Of".into())));
    let content = Content::Picture { picture: Some(id("lost")), focus: Focus::CENTRE, frame: Outline::RECT, fit: PictureFit::Fill };
    let refused = Command::SetContent { target: Target::Shared(id("pic")), content: content.clone() }.apply(&mut job, &Everything);
    assert_eq!(refused, Err(CommandError::UnknownPicture("lost".into())));
    let refused = Command::SetContent { target: Target::Shared(id("head")), content: Content::Shape { outline: Outline::RECT } }.apply(&mut job, &Everything);
    assert!(matches!(refused, Err(CommandError::Value(_))));
    let swatch = Command::SetLook { target: Target::Shared(id("head")), look: Look { fill: Some(Paint::flat(Tint::Swatch(id("none")))), ..Look::default() } };
    assert!(matches!(swatch.apply(&mut job, &Everything), Err(CommandError::Missing("colour", _))));
}

#[test]
fn a_used_swatch_and_the_last_piece_stay() {
    let mut job = job();
    Command::SetGround { side: id("post-front"), ground: Some(Paint::flat(Tint::Swatch(id("clay")))) }.apply(&mut job, &Everything).unwrap();
    let refused = Command::SetSwatch { id: id("clay"), swatch: None }.apply(&mut job, &Everything);
    assert_eq!(refused, Err(CommandError::SwatchInUse("Wet clay".into())));
    Command::RemovePiece { piece: id("post") }.apply(&mut job, &Everything).unwrap();
    assert!(!job.kins.contains_key(&id::<KinId>("panel")) && job.kins.contains_key(&id::<KinId>("head")));
    assert!(matches!(Command::RemovePiece { piece: id("story") }.apply(&mut job, &Everything), Err(CommandError::LastOne(_))));
}

#[test]
fn typing_on_is_one_step_to_undo() {
    let word = |text: &str| Command::SetWords { target: Target::Shared(id("head")), text: text.into() };
    assert!(word("ab").replaces(&word("a")));
    assert!(!word("ab").replaces(&Command::SetTitle { title: "a".into() }));
    assert!(!word("ab").replaces(&Command::SetWords { target: Target::Only(id("p3")), text: "a".into() }));
}

#[test]
fn a_swatch_of_something_kept_aside_stays() {
    let mut job = job();
    let look = Look { fill: Some(Paint::flat(Tint::Swatch(id("clay")))), ..Look::default() };
    let removed = Removed { item: item("t", "gone", 0.0), kin: Kin { look, ..picture() }, side: id("post-front"), index: 0 };
    Command::SetTray { piece: id("post"), tray: vec![removed] }.apply(&mut job, &Everything).unwrap();
    assert!(matches!(Command::SetSwatch { id: id("clay"), swatch: None }.apply(&mut job, &Everything), Err(CommandError::SwatchInUse(_))));
}
