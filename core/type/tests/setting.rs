//! Text set in the families that ship.

#![allow(clippy::unwrap_used, reason = "a failed step is a failed test")]

use std::path::PathBuf;
use std::sync::{Arc, OnceLock};

use proptest::prelude::*;
use vatman_document::{Align, Curve, Hyphens, ListMark, RichText, Run, RunStyle, Script, TextFit, TypeLook, VAlign};
use vatman_type::{Embedding, FontLibrary, FontSource, GlyphOutlines, OwnFace, Setting, TextBox, Typesetter};
use vatman_units::{Angle, Length, Ratio};

struct Shipped;
impl Shipped {
    fn read(name: &str) -> Option<Vec<u8>> {
        std::fs::read(PathBuf::from(env!("CARGO_MANIFEST_DIR")).join("../../assets/fonts").join(name)).ok()
    }
}
impl FontSource for Shipped {
    fn catalogue(&self) -> Option<Vec<u8>> {
        Self::read("catalogue.json")
    }
    fn face(&self, file: &str) -> Option<Vec<u8>> {
        Self::read(file)
    }
}

fn setter() -> &'static Typesetter {
    static SETTER: OnceLock<Typesetter> = OnceLock::new();
    SETTER.get_or_init(|| Typesetter::new(Arc::new(FontLibrary::load(&Shipped).unwrap())))
}

fn look(family: &str, px: f64) -> TypeLook {
    TypeLook { family: family.into(), size: Length::css_px(px), ..TypeLook::default() }
}

fn set(text: &str, look: &TypeLook, width: f64, height: f64) -> Setting {
    setter().set(&RichText::plain(text), look, TextBox { width, height, scale: 1.0 }, true)
}

/// A word in a script.
fn sample(script: &str) -> &'static str {
    match script {
        "Latn" => "Clay",
        "Arab" => "\u{62e}\u{632}\u{641}",
        "Hebr" => "\u{5d7}\u{5d9}\u{5de}\u{5e8}",
        "Deva" => "\u{92e}\u{93f}\u{91f}\u{94d}\u{91f}\u{940}",
        "Beng" => "\u{9ae}\u{9be}\u{99f}\u{9bf}",
        "Taml" => "\u{bae}\u{ba3}\u{bcd}",
        "Thai" => "\u{e14}\u{e34}\u{e19}",
        "Geor" => "\u{10d7}\u{10d8}\u{10ee}\u{10d0}",
        "Armn" => "\u{56f}\u{561}\u{57e}",
        "Ethi" => "\u{1238}\u{12ad}\u{120b}",
        "Hang" => "\u{d759}",
        "Hani" => "\u{9676}\u{5668}",
        "Hira" => "\u{3064}\u{3061}",
        "Kana" => "\u{30ab}\u{30c3}\u{30d7}",
        "Grek" => "\u{3c0}\u{3b7}\u{3bb}\u{3cc}\u{3c2}",
        "Cyrl" => "\u{433}\u{43b}\u{438}\u{43d}\u{430}",
        other => panic!("no sample of {other}"),
    }
}

#[test]
fn letters_the_family_lacks_come_from_one_that_has_them() {
    let library = setter().library();
    for family in library.families() {
        for script in &family.scripts {
            let out = set(&format!("Clay {}", sample(script)), &look("Abril Fatface", 40.0), 2_000.0, 100.0);
            assert!(out.runs.iter().flat_map(|run| &run.glyphs).all(|glyph| glyph.id != 0), "{script} has no letters");
        }
    }
    let runic = set("\u{16a0}", &look("Lora", 40.0), 2_000.0, 100.0);
    assert!(
        runic.runs.iter().flat_map(|run| &run.glyphs).any(|glyph| glyph.id == 0),
        "nobody here has runes, and that can be seen"
    );
}

#[test]
fn right_to_left_words_run_from_the_right() {
    let text = "\u{5d7}\u{5d9}\u{5de}\u{5e8} \u{5d8}\u{5d5}\u{5d1}";
    let out = set(text, &look("Lora", 40.0), 600.0, 100.0);
    assert_eq!(out.lines.len(), 1);
    assert!(
        (out.lines[0].x + out.lines[0].width - 600.0).abs() < 1.0,
        "the line starts at the right edge: {:?}",
        out.lines[0]
    );
    let first = out.carets.iter().find(|caret| caret.at == 0).unwrap();
    let last = out.carets.iter().find(|caret| caret.at == 8).unwrap();
    assert!(first.x > last.x, "the caret goes to the left as one types");
    // Arabic letters join: the same letters beside each other are other glyphs than apart.
    let glyphs = |text: &str| {
        set(text, &look("Noto Sans Arabic", 40.0), 600.0, 100.0)
            .runs
            .iter()
            .flat_map(|run| run.glyphs.iter().map(|glyph| glyph.id))
            .collect::<Vec<_>>()
    };
    let (joined, alone) = (glyphs("\u{628}\u{628}\u{628}"), glyphs("\u{628}"));
    assert!(joined.len() == alone.len() * 3 && joined != alone.repeat(3), "{joined:?} against {alone:?}");
}

#[test]
fn a_long_word_is_divided_and_its_hyphen_shows_only_there() {
    let narrow = |hyphens, align| TypeLook { hyphens, align, ..look("Lora", 30.0) };
    let text = "An extraordinarily uncomplicated representation of earthenware";
    let whole = set(text, &narrow(None, Align::Start), 190.0, 0.0);
    let divided = set(text, &narrow(Some(Hyphens::English), Align::Start), 190.0, 0.0);
    let raggedness = |out: &Setting| {
        let widths: Vec<f64> = out.lines[..out.lines.len() - 1].iter().map(|line| line.width).collect();
        widths.iter().cloned().fold(f64::MIN, f64::max) - widths.iter().cloned().fold(f64::MAX, f64::min)
    };
    assert!(raggedness(&divided) < raggedness(&whole), "lines are of more even length");
    let letters = |out: &Setting| out.runs.iter().map(|run| run.text.as_str()).collect::<String>();
    let hyphens = letters(&divided).matches('\u{ad}').count();
    assert!((1..divided.lines.len()).contains(&hyphens), "{hyphens} hyphens in {} lines", divided.lines.len());
    assert!(!letters(&whole).contains('\u{ad}'));
    // Every hyphen ends its line and stays in the box, however the lines stand.
    for align in [Align::Start, Align::Centre, Align::End, Align::Justified] {
        let out = set(text, &narrow(Some(Hyphens::English), align), 190.0, 0.0);
        for glyph in out
            .runs
            .iter()
            .flat_map(|run| run.glyphs.iter().filter(|glyph| run.text[glyph.text.clone()].contains('\u{ad}')))
        {
            assert!(glyph.x + glyph.advance <= 190.5, "{align:?}: a hyphen ends at {}", glyph.x + glyph.advance);
            let beyond = out
                .runs
                .iter()
                .flat_map(|run| &run.glyphs)
                .filter(|other| (other.y - glyph.y).abs() < 1.0 && other.x > glyph.x);
            assert_eq!(beyond.count(), 0, "nothing follows a hyphen on its line");
        }
    }
    // The caret still has a place before every letter that was typed, and no more.
    assert_eq!(divided.carets.len(), text.chars().count() + 1);
    // Letter spacing takes no room where nothing is seen.
    let spaced = TypeLook { tracking: Ratio::new(0.2), hyphens: Some(Hyphens::English), ..look("Lora", 30.0) };
    let plain = TypeLook { hyphens: None, ..spaced.clone() };
    let width = |look: &TypeLook| set("extraordinarily", look, 4_000.0, 0.0).lines[0].width;
    assert!((width(&spaced) - width(&plain)).abs() < 1.5, "{} against {}", width(&spaced), width(&plain));
}

#[test]
fn fonts_somebody_brings_are_read_in_every_format_and_set() {
    let file =
        |name: &str| std::fs::read(PathBuf::from(env!("CARGO_MANIFEST_DIR")).join("tests/files").join(name)).unwrap();
    let ttf = Shipped::read("jost/Jost_700Bold.ttf").unwrap();
    let jost = OwnFace::read(&ttf).unwrap();
    assert_eq!((jost.family.as_str(), jost.weight, jost.italic, jost.embedding), ("Jost", 700, false, Embedding::Free));
    let (woff2, woff) = (OwnFace::read(&file("hebrew.woff2")).unwrap(), OwnFace::read(&file("hebrew.woff")).unwrap());
    assert!(woff2.family.starts_with("Noto Sans Hebrew") && woff.family.starts_with("Noto Sans Hebrew"));
    assert_eq!(woff2.letters, woff.letters);
    // Damage anywhere is an error or harmless, never a crash.
    for step in 1..40 {
        let mut torn = ttf.clone();
        torn.truncate(ttf.len() * step / 40);
        assert!(OwnFace::read(&torn).is_err() || step > 30, "cut at {step} fortieths");
        let mut packed = file("hebrew.woff2");
        let at = packed.len() * step / 40;
        packed[at] ^= 0x55;
        let _ = OwnFace::read(&packed);
    }
    let mut restricted = ttf.clone();
    let os2 = restricted.windows(4).position(|tag| tag == b"OS/2").unwrap();
    let table = u32::from_be_bytes(restricted[os2 + 8..os2 + 12].try_into().unwrap()) as usize;
    restricted[table + 9] = 0x02;
    assert_eq!(OwnFace::read(&restricted).unwrap().embedding, Embedding::Restricted);

    // Set beside those that ship, whose identities stay.
    let shipped = FontLibrary::load(&Shipped).unwrap();
    let typesetter = Typesetter::new(Arc::new(shipped.with_own(Vec::new())));
    let box_of = TextBox { width: 900.0, height: 100.0, scale: 1.0 };
    let words = RichText::plain("Clay");
    let before = typesetter.set(&words, &look("Lora", 40.0), box_of, false);
    assert_eq!(typesetter.missing(&words, &look("Mine", 40.0)), ["Mine"]);
    let stand_in = typesetter.set(&words, &look("Mine", 40.0), box_of, false);
    typesetter
        .set_library(Arc::new(shipped.with_own(vec![("own/a.ttf".into(), OwnFace { family: "Mine".into(), ..jost })])));
    assert_eq!(typesetter.set(&words, &look("Lora", 40.0), box_of, false), before);
    let own = typesetter.set(&words, &look("Mine", 40.0), box_of, false);
    assert!(typesetter.missing(&words, &look("Mine", 40.0)).is_empty());
    assert_ne!(own.runs[0].face, stand_in.runs[0].face);
    assert_eq!(typesetter.library().file("own/a.ttf"), Some(ttf.as_slice()));
}

#[test]
fn every_family_sets_its_own_name_and_carries_a_licence() {
    let library = setter().library();
    assert!(library.families().len() >= 24);
    for family in library.families() {
        // Families of one script have no Latin letters of their own.
        let text = family.scripts.first().map_or(family.family.as_str(), |script| sample(script));
        let out = set(text, &look(&family.family, 40.0), 2_000.0, 100.0);
        assert_eq!(out.lines.len(), 1, "{}", family.family);
        assert!(
            out.runs.iter().flat_map(|run| &run.glyphs).all(|glyph| glyph.id != 0),
            "{} lacks letters of its own name",
            family.family
        );
        assert!(!library.glyph(out.runs[0].face, out.runs[0].glyphs[0].id).is_empty());
        let own: Vec<_> = family.faces.iter().map(|face| library.file(&face.file).unwrap().as_ptr()).collect();
        assert!(
            own.contains(&library.face_data(out.runs[0].face).as_ptr()),
            "{} is set in a face of another family",
            family.family
        );
        let folder = family.faces[0].file.split('/').next().unwrap();
        assert!(
            Shipped::read(&format!("{folder}/LICENSE")).is_some_and(|text| text.len() > 1_000),
            "{} has no licence file",
            family.family
        );
        assert!(["OFL-1.1", "Apache-2.0"].contains(&family.licence.as_str()));
    }
}

#[test]
fn text_wraps_at_the_width_and_typed_line_ends_stay() {
    let out = set("Hands in clay\nby ten.", &look("Lora", 32.0), 10_000.0, 0.0);
    assert_eq!(out.lines.len(), 2);
    let narrow = set("Hands in clay by ten.", &look("Lora", 32.0), 120.0, 0.0);
    assert!(narrow.lines.len() > 2);
    assert!(narrow.lines.iter().all(|line| line.width <= 120.0));
    assert!(!narrow.spills, "grown text never spills");
}

#[test]
fn alignment_moves_lines_in_the_box() {
    let x = |align| set("Clay", &TypeLook { align, ..look("Lora", 32.0) }, 500.0, 0.0).lines[0];
    let width = x(Align::Start).width;
    assert!(x(Align::Start).x.abs() < 0.01);
    assert!((x(Align::Centre).x - (500.0 - width) / 2.0).abs() < 0.05);
    assert!((x(Align::End).x - (500.0 - width)).abs() < 0.05);
    let fit = TextFit::Shrink { floor: Ratio::HALF };
    let y = |valign| set("Clay", &TypeLook { valign, fit, ..look("Lora", 32.0) }, 500.0, 200.0);
    let height = y(VAlign::Top).height;
    assert!((y(VAlign::Bottom).lines[0].bottom - 200.0).abs() < 0.05);
    assert!((y(VAlign::Middle).lines[0].top - (200.0 - height) / 2.0).abs() < 0.05);
}

#[test]
fn ranges_change_face_size_and_colour() {
    let runs = vec![
        Run { text: "Made ".into(), style: RunStyle::default() },
        Run {
            text: "slow".into(),
            style: RunStyle {
                weight: Some(700),
                size: Some(Ratio::new(2.0)),
                underline: Some(true),
                ..RunStyle::default()
            },
        },
    ];
    let out =
        setter().set(&runs.into(), &look("Lora", 20.0), TextBox { width: 900.0, height: 90.0, scale: 1.5 }, false);
    assert_eq!(out.runs.len(), 2);
    assert!((out.runs[0].size - 30.0).abs() < 1e-3 && (out.runs[1].size - 60.0).abs() < 1e-3);
    assert_ne!(out.runs[0].face, out.runs[1].face);
    assert!(
        out.runs[0].bars.is_empty()
            && out.runs[1].bars.iter().all(|(below, thick)| *below > 0.0 && *thick > 0.0)
            && out.runs[1].bars.len() == 1
    );
}

#[test]
fn right_to_left_text_does_not_break_the_layout() {
    let out = set("קדרות ביד", &look("Lora", 32.0), 400.0, 0.0);
    assert_eq!(out.carets.len(), "קדרות ביד".chars().count() + 1);
}

fn any_text() -> impl Strategy<Value = String> {
    "[A-Za-z,.'éß&fi \\n]{0,80}"
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(48))]

    /// What is said to fit lies within its box, and a shrunk text that spills has reached its floor.
    #[test]
    fn fitted_text_is_inside_or_reported(text in any_text(), width in 40.0f64..900.0, height in 20.0f64..500.0, fill: bool, size in 8.0f64..160.0) {
        let floor = Ratio::new(0.4);
        let fit = if fill { TextFit::Fill { floor } } else { TextFit::Shrink { floor } };
        let out = set(&text, &TypeLook { fit, ..look("Bitter", size) }, width, height);
        if out.spills {
            prop_assert!((out.size - size * 0.4).abs() < size * 1e-3);
        } else {
            prop_assert!(out.height <= height + 0.1);
            prop_assert!(out.lines.iter().all(|line| line.width <= width + 0.6));
        }
        prop_assert!(fill || out.size <= size * 1.0001);
    }

    /// Scaling box and type together scales every glyph: a layout looks the same at every size.
    #[test]
    fn layout_is_the_same_at_every_scale(text in any_text(), width in 80.0f64..600.0, k in 0.1f64..9.0) {
        let look = look("Jost", 28.0);
        let one = set(&text, &look, width, 300.0);
        let many = setter().set(&RichText::plain(&text), &look, TextBox { width: width * k, height: 300.0 * k, scale: k }, false);
        prop_assert_eq!(one.lines.len(), many.lines.len());
        for (a, b) in one.runs.iter().flat_map(|r| &r.glyphs).zip(many.runs.iter().flat_map(|r| &r.glyphs)) {
            prop_assert!((a.x * k - b.x).abs() < 0.02 * k && (a.y * k - b.y).abs() < 0.02 * k);
        }
    }

    /// Every letter is reachable by the caret, in order, and the letters of the runs are the typed ones.
    #[test]
    fn carets_and_letters_are_complete(text in any_text(), caps: bool) {
        let out = set(&text, &TypeLook { caps, ..look("Karla", 24.0) }, 300.0, 0.0);
        prop_assert_eq!(out.carets.len(), text.chars().count() + 1);
        prop_assert!(out.carets.is_sorted_by_key(|caret| caret.at));
        let squeeze = |s: &str| s.chars().filter(|c| !c.is_whitespace()).collect::<String>();
        let shown: String = out.runs.iter().map(|run| run.text.as_str()).collect();
        let typed = if caps { text.to_uppercase() } else { text.clone() };
        prop_assert_eq!(squeeze(&shown), squeeze(&typed));
        for run in &out.runs {
            let mut end = 0;
            for glyph in &run.glyphs {
                prop_assert!(glyph.text.start >= end.min(glyph.text.start) && run.text.get(glyph.text.clone()).is_some());
                end = glyph.text.end;
            }
        }
    }
}

#[test]
fn even_lines_are_of_like_length_and_no_more_than_before() {
    let text = "A first morning at the wheel, for beginners and their friends.";
    for align in [Align::Start, Align::Centre, Align::End] {
        let full = set(text, &TypeLook { align, ..look("Lora", 32.0) }, 430.0, 0.0);
        let even = set(text, &TypeLook { align, even: true, ..look("Lora", 32.0) }, 430.0, 0.0);
        let spread = |out: &Setting| {
            let widths = || out.lines.iter().map(|line| line.width);
            widths().fold(0.0, f64::max) - widths().fold(f64::MAX, f64::min)
        };
        assert_eq!(full.lines.len(), even.lines.len());
        assert!(spread(&even) < spread(&full), "{} and {}", spread(&even), spread(&full));
        // The lines stand in the whole box, not in the narrower one they were broken for.
        let edges = even.lines.iter().map(|line| match align {
            Align::Start => line.x,
            Align::Centre => line.x + line.width / 2.0 - 215.0,
            _ => line.x + line.width - 430.0,
        });
        assert!(edges.clone().all(|off| off.abs() < 0.6), "{align:?}: {:?}", edges.collect::<Vec<_>>());
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(40))]

    #[test]
    fn even_lines_stay_inside_and_carets_stay_on_them(text in any_text(), width in 60.0f64..700.0) {
        let out = set(&text, &TypeLook { even: true, align: Align::Centre, ..look("Jost", 26.0) }, width, 0.0);
        let plain = set(&text, &TypeLook { align: Align::Centre, ..look("Jost", 26.0) }, width, 0.0);
        prop_assert_eq!(out.lines.len(), plain.lines.len());
        let widest = plain.lines.iter().map(|line| line.width).fold(0.0, f64::max);
        prop_assert!(out.lines.iter().all(|line| line.width <= widest.max(width) + 0.6));
        if widest <= width {
            prop_assert!(out.carets.iter().all(|caret| caret.x >= -1.0 && caret.x <= width + 30.0), "{:?}", out.carets);
        }
    }
}

#[test]
fn lists_mark_each_paragraph_and_hang_their_lines() {
    let text = "throw\nglaze the mugs and the bowls that were fired on Friday\n\nfire";
    let plain = set(text, &look("Lora", 24.0), 300.0, 0.0);
    let list = set(text, &TypeLook { list: ListMark::Number, ..look("Lora", 24.0) }, 300.0, 0.0);
    let marks: Vec<_> =
        list.runs.iter().map(|run| run.text.as_str()).filter(|text| text.ends_with('.') && text.len() == 2).collect();
    assert_eq!(marks, ["1.", "2.", "3."], "the empty paragraph has no number");
    let left = list.lines.iter().map(|line| line.x).fold(f64::MAX, f64::min);
    assert!(left > 20.0 && plain.lines[0].x == 0.0);
    assert!(list.lines.iter().all(|line| line.x + line.width <= 300.5));
}

#[test]
fn paragraphs_stand_apart_by_their_gap() {
    let gap =
        |gap| set("one\ntwo\nthree", &TypeLook { paragraph_gap: Ratio::new(gap), ..look("Lora", 20.0) }, 300.0, 0.0);
    let (tight, loose) = (gap(0.0), gap(0.5));
    assert!((loose.height - tight.height - 20.0).abs() < 0.01);
    assert!((loose.lines[2].baseline - tight.lines[2].baseline - 20.0).abs() < 0.01);
    let glyph_y = |setting: &Setting| setting.runs.last().unwrap().glyphs[0].y;
    assert!((glyph_y(&loose) - glyph_y(&tight) - 20.0).abs() < 0.01, "letters move with their lines");
}

#[test]
fn ranges_are_raised_spaced_struck_and_capitalised() {
    let style = |style: RunStyle| {
        let text = RichText::from(vec![
            Run { text: "m".into(), style: RunStyle::default() },
            Run { text: "two".into(), style },
        ]);
        setter().set(&text, &look("Lora", 40.0), TextBox { width: 900.0, height: 0.0, scale: 1.0 }, false)
    };
    let raised = style(RunStyle { script: Some(Script::Superscript), ..RunStyle::default() });
    assert!(raised.runs[1].size < 30.0 && raised.runs[1].glyphs[0].y < raised.runs[0].glyphs[0].y - 10.0);
    let (plain, spaced) = (
        style(RunStyle { strike: Some(true), ..RunStyle::default() }),
        style(RunStyle { tracking: Some(Ratio::HALF), ..RunStyle::default() }),
    );
    assert!(spaced.lines[0].width > plain.lines[0].width + 35.0);
    assert!(
        plain.runs[0].bars.is_empty() && plain.runs[1].bars.len() == 1 && plain.runs[1].bars[0].0 < -5.0,
        "the line goes through the letters"
    );
    assert_eq!(style(RunStyle { caps: Some(true), ..RunStyle::default() }).runs[1].text, "TWO");
}

#[test]
fn words_on_a_circle_shrink_until_they_go_round() {
    let long = "made slow, used daily, made slow, used daily, made slow, used daily";
    let around = |fit| {
        set(
            long,
            &TypeLook { fit, curve: Some(Curve::Circle { at: Angle::ZERO, inward: false }), ..look("Lora", 60.0) },
            200.0,
            200.0,
        )
    };
    assert!(around(TextFit::Grow).spills);
    let fitted = around(TextFit::Shrink { floor: Ratio::percent(5.0) });
    assert!(!fitted.spills && fitted.size < 30.0 && fitted.size > 10.0, "{}", fitted.size);
}

#[test]
fn carets_stand_on_the_curve() {
    let look = TypeLook { curve: Some(Curve::Arc { bend: Angle::degrees(180.0) }), ..look("Lora", 30.0) };
    let out =
        setter().set(&RichText::plain("made slow"), &look, TextBox { width: 400.0, height: 0.0, scale: 1.0 }, true);
    let (first, last) = (out.carets.first().unwrap(), out.carets.last().unwrap());
    assert!((first.turn + 90.0).abs() < 2.0 && (last.turn - 90.0).abs() < 2.0, "{} and {}", first.turn, last.turn);
    assert!(out.carets.windows(2).all(|pair| pair[0].turn < pair[1].turn));
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(24))]

    /// A lock-up is as wide as its box, says every word once and never lets lines overlap.
    #[test]
    fn a_lock_up_fills_its_width(text in "[a-zA-Z]{2,9}( (and|of|by|[a-z]{3,9})){1,5}", number in 1u8..=16, width in 80.0f64..900.0) {
        let out = set(&text, &TypeLook { lock_up: Some(number), ..look("Lora", 30.0) }, width, 10.0);
        let said: String = out.runs.iter().map(|run| run.text.to_lowercase()).collect();
        prop_assert_eq!(said.replace(' ', ""), text.to_lowercase().replace(' ', ""));
        prop_assert!(out.lines.iter().all(|line| line.x >= -0.01 && line.x + line.width <= width + 0.01));
        prop_assert!(out.lines.iter().any(|line| line.width > width * 0.5));
        prop_assert!(out.lines.windows(2).all(|pair| pair[0].bottom <= pair[1].top + 0.01) && !out.spills);
        prop_assert!(out.carets.len() > text.len());
        // The same words always give the same block.
        prop_assert_eq!(out, set(&text, &TypeLook { lock_up: Some(number), ..look("Lora", 30.0) }, width, 10.0));
    }
}

#[test]
fn a_lock_up_that_must_fit_lies_inside_its_box() {
    for number in 1..=16 {
        let kind = TypeLook {
            lock_up: Some(number),
            fit: TextFit::Shrink { floor: Ratio::percent(10.0) },
            align: Align::Centre,
            valign: VAlign::Middle,
            ..look("Fraunces", 30.0)
        };
        let out = set("hands in clay by ten", &kind, 300.0, 120.0);
        assert!(
            out.lines.iter().all(|line| line.top >= -0.5
                && line.bottom <= 120.5
                && line.x >= -0.01
                && line.x + line.width <= 300.01),
            "arrangement {number}"
        );
    }
}

#[test]
fn arrangements_differ_and_keep_typed_lines() {
    let with = |number| {
        set("made slow\nused daily", &TypeLook { lock_up: Some(number), ..look("Fraunces", 30.0) }, 400.0, 10.0)
    };
    let all: Vec<_> = (1..=16).map(with).collect();
    assert!(all.iter().all(|out| out.lines.len() == 2));
    let different = all
        .iter()
        .enumerate()
        .filter(|(i, out)| all[..*i].iter().all(|other| other.runs != out.runs || other.rules != out.rules))
        .count();
    assert!(different >= 10, "{different} differ");
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(64))]

    #[test]
    fn what_is_measured_is_what_is_set(
        words in prop::collection::vec("[a-z]{1,9}", 1..14),
        breaks in prop::collection::btree_set(0usize..14, 0..3),
        px in 5.0f64..120.0,
        width in 1.0f64..30.0,
        tracking in prop::sample::select(vec![0.0, 0.12]),
        list in prop::sample::select(vec![ListMark::None, ListMark::Number]),
        hyphens in prop::sample::select(vec![None, Some(Hyphens::English)]),
        even in any::<bool>(),
    ) {
        let mut text = String::new();
        for (at, word) in words.iter().enumerate() {
            text.push_str(match (at, breaks.contains(&at)) { (0, _) => "", (_, true) => "\n", _ => " " });
            text.push_str(word);
        }
        let look = TypeLook {
            tracking: Ratio::new(tracking),
            paragraph_gap: Ratio::new(0.5),
            fit: TextFit::Shrink { floor: Ratio::ONE },
            list,
            hyphens,
            even,
            ..look("Lora", px)
        };
        let set = set(&text, &look, width * px, 1e9);
        let measured = setter().measured(&RichText::plain(&text), &look, width);
        prop_assert!((set.height / px - measured.height).abs() < 1e-3, "{} {}", set.height / px, measured.height);
        prop_assert_eq!(measured.inside, !set.spills);
        let widest = set.lines.iter().map(|line| line.width).fold(0.0, f64::max) / px;
        prop_assert!(widest <= measured.width + 1e-3);
        prop_assert!(!measured.inside || measured.width <= width + 1e-2);
        // Another size breaks alike.
        let larger = TypeLook { size: look.size.scaled(3.0), ..look };
        prop_assert_eq!(setter().measured(&RichText::plain(&text), &larger, width), measured);
    }
}
