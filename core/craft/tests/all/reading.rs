//! What a PDF says to who cannot see it: words as they were typed, in order, with their structure.

use std::sync::Arc;

use crate::common::{WORLD, run, words};
use vatman_craft::{FileKind, HandOver, write_file};
use vatman_document::{
    Color, Content, Curve, Effect, Hyphens, Item, ItemId, Job, Kin, KinId, ListMark, Look, Paint, Part, Piece, Place,
    RichText, Stroke, StrokePlace, TypeLook,
};
use vatman_units::{Angle, Length, Placement, Ratio, Rect};

/// A job of one sheet with words below each other, each looking its own way.
fn sheet(all: &[(&str, Part, Look)]) -> Job {
    let mut job = WORLD.job(&["doorway"], &[("210 x 297 mm", 1)], &words());
    let mut piece = Piece::clone(&job.pieces[0]);
    let px = Length::css_px;
    piece.sides[0].items.clear();
    job.kins.clear();
    for (row, (text, part, look)) in all.iter().enumerate() {
        let content = Content::Words { text: RichText::plain(text), prompt: "Words".into() };
        let kin = KinId::new(format!("kin-{row}")).unwrap();
        job.kins.insert(kin.clone(), Arc::new(Kin::new(*part, content, look.clone())));
        let rect = Rect::new(px(60.0), px(40.0 + 100.0 * row as f64), px(600.0), px(80.0));
        let item = Item::new(ItemId::new(format!("item-{row}")).unwrap(), kin, Place::new(Placement::at(rect)));
        piece.sides[0].items.push(item);
    }
    job.pieces[0] = Arc::new(piece);
    job
}

fn look(change: impl FnOnce(&mut Look, &mut TypeLook)) -> Look {
    let mut kind = TypeLook { size: Length::pt(18.0), ..TypeLook::default() };
    let mut look = Look { fill: Some(Paint::flat(Color::BLACK)), ..Look::default() };
    change(&mut look, &mut kind);
    Look { type_look: Some(kind), ..look }
}

fn line(place: StrokePlace) -> Option<Stroke> {
    Some(Stroke { place, ..Stroke::solid(Paint::flat(Color::BLACK), Length::pt(1.0)) })
}

/// Writes a job and returns where it lies.
fn written(folder: &tempfile::TempDir, job: &Job, how: HandOver) -> String {
    let file = write_file(&WORLD.studio, job, &job.pieces[0], &[], how).unwrap().remove(0);
    let path = folder.path().join(file.name);
    std::fs::write(&path, file.bytes).unwrap();
    path.to_string_lossy().into_owned()
}

#[test]
fn words_read_as_they_were_typed_however_they_look() {
    let shadow = Effect::Shadow {
        dx: Length::pt(2.0),
        dy: Length::pt(2.0),
        blur: Length::pt(3.0),
        tint: Color::BLACK.into(),
        opacity: Ratio::new(0.5),
    };
    let all = [
        ("Every Saturday", look(|_, kind| (kind.caps, kind.tracking) = (true, Ratio::new(0.4)))),
        (
            "\u{641}\u{62e}\u{627}\u{631} \u{64a}\u{62f}\u{648}\u{64a} \u{643}\u{644} \u{633}\u{628}\u{62a}",
            look(|_, _| ()),
        ),
        ("\u{5d7}\u{5e8}\u{5e1} \u{5d1}\u{5e2}\u{5d1}\u{5d5}\u{5d3}\u{5ea} \u{5d9}\u{5d3}", look(|_, _| ())),
        ("Bring an apron\nLeave your rings", look(|_, kind| kind.list = ListMark::Bullet)),
        ("Only the edge", look(|look, _| (look.fill, look.stroke) = (None, line(StrokePlace::Centre)))),
        ("Edge outside", look(|look, _| (look.fill, look.stroke) = (None, line(StrokePlace::Outside)))),
        ("Edge inside", look(|look, _| (look.fill, look.stroke) = (None, line(StrokePlace::Inside)))),
        ("Edge below", look(|look, _| look.stroke = line(StrokePlace::Outside))),
        ("Half seen through", look(|look, kind| (look.opacity, kind.tracking) = (Ratio::new(0.5), Ratio::new(0.5)))),
        ("With a shadow", look(|look, kind| (look.effects, kind.tracking) = (vec![shadow], Ratio::new(0.5)))),
    ];
    let job = sheet(&all.clone().map(|(text, look)| (text, Part::Detail, look)));
    let folder = tempfile::tempdir().unwrap();
    let pdf = written(&folder, &job, HandOver::of(FileKind::Pdf));
    run("qpdf", &["--check", &pdf]);
    let text = run("pdftotext", &[&pdf, "-"]);
    let objects = run("qpdf", &["--json=2", &pdf]);
    for (typed, look) in &all {
        let caps = look.type_look.as_ref().is_some_and(|kind| kind.caps);
        for wanted in typed.lines() {
            let wanted = if caps { wanted.to_uppercase() } else { wanted.to_owned() };
            let lines: Vec<&str> = text.lines().map(|line| line.trim_matches(['\u{202b}', '\u{202c}', ' '])).collect();
            let marked = format!("\u{2022} {wanted}");
            assert!(
                lines.iter().any(|line| *line == wanted || *line == marked),
                "{wanted:?} is not a line of {text:?}"
            );
            let said = |object: &str| object.contains("\"/ActualText\"") && object.contains(&wanted);
            assert!(objects.split("\"obj:").any(said), "{wanted:?} is not said");
        }
    }
    assert!(text.contains("\u{2022} Bring an apron\n\u{2022} Leave your rings"), "{text}");
}

#[test]
fn words_on_a_curve_and_divided_words_read_whole() {
    let curve = Curve::Arc { bend: Angle::degrees(120.0) };
    let job = sheet(&[
        ("Around the kiln", Part::Detail, look(|_, kind| kind.curve = Some(curve))),
        (
            "Understandable characteristics notwithstanding, extraordinarily uncharacteristic misunderstandings",
            Part::Detail,
            look(|_, kind| (kind.hyphens, kind.size) = (Some(Hyphens::English), Length::pt(40.0))),
        ),
    ]);
    let folder = tempfile::tempdir().unwrap();
    let pdf = written(&folder, &job, HandOver::of(FileKind::Pdf));
    let tree = run("pdfinfo", &["-struct-text", &pdf]);
    assert!(tree.contains("Around the kiln"), "{tree}");
    for reader in [run("pdftotext", &[&pdf, "-"]), run("mutool", &["draw", "-q", "-F", "txt", &pdf])] {
        assert!(reader.contains("Around the kiln"), "{reader}");
    }
    // Words that a hyphen divides are whole again: it is a soft one.
    let joined: String = tree.lines().map(|line| line.trim_start().trim_matches('"')).collect();
    assert!(joined.contains("Understandable characteristics notwithstanding, extraordinarily"), "{joined}");
}

#[test]
fn a_document_has_a_title_a_language_and_a_structure_from_top_to_bottom() {
    let german =
        "Die Scheibe dreht sich jeden Samstagvormittag, und wir zeigen dir gerne, wie aus Ton eine Schale wird.";
    let job = sheet(&[
        (german, Part::Detail, look(|_, _| ())),
        ("Ton in der Hand", Part::Headline, look(|_, _| ())),
        ("", Part::Action, look(|_, _| ())),
    ]);
    let folder = tempfile::tempdir().unwrap();
    let pdf = written(&folder, &job, HandOver::of(FileKind::Pdf));
    let info = run("pdfinfo", &[&pdf]);
    assert!(info.contains("Saturday wheel class") && info.contains("Tagged:          yes"), "{info}");
    let plain = run("qpdf", &["--qdf", "--object-streams=disable", &pdf, "-"]);
    assert!(plain.contains("/Lang (de)"));
    let tree = run("pdfinfo", &["-struct-text", &pdf]);
    let kinds: Vec<&str> = tree.lines().map(str::trim).filter(|line| !line.starts_with('"')).collect();
    let of = |name: &str| kinds.iter().filter(|kind| kind.split_whitespace().next() == Some(name)).count();
    assert_eq!((of("H1"), of("P")), (1, 1), "{tree}");
    assert!(tree.find("Samstagvormittag").unwrap() < tree.find("Ton in der Hand").unwrap(), "{tree}");

    let pictured = WORLD.job(&["whole-picture"], &[("square-post", 1)], &words());
    let pdf = written(&folder, &pictured, HandOver::of(FileKind::Pdf));
    let tree = run("pdfinfo", &["-struct", &pdf]);
    assert!(tree.contains("Figure") && tree.contains("H1"), "{tree}");
    assert!(run("qpdf", &["--qdf", "--object-streams=disable", &pdf, "-"]).contains("/Lang (en)"));
}
