//! Adapted pieces as an independent reader finds them in the PDF files that leave: where each word stands, and how large.

use crate::common::{WORLD, adapted, run};
use vatman_craft::{FileKind, HandOver, write_file};
use vatman_units::{Length, Unit};

const PLACES: [&str; 6] = ["card", "flyer-a5", "bookmark", "poster-a3", "square-post", "video-thumbnail"];
const DESIGNS: [&str; 8] =
    ["doorway", "half-and-half", "night-frame", "pinned-print", "plain-words", "price-board", "said-well", "kiln-mark"];

/// A word as poppler reads it: its box in points from the upper left of the finished sheet.
struct Word {
    rect: kurbo::Rect,
    says: String,
    line: usize,
}

fn words(pdf: &std::path::Path) -> (kurbo::Size, Vec<Word>) {
    let html = run("pdftotext", &["-bbox-layout", &pdf.to_string_lossy(), "-"]);
    let number = |line: &str, name: &str| -> f64 {
        let at = line.find(&format!("{name}=\"")).unwrap() + name.len() + 2;
        line[at..].split('"').next().unwrap().parse().unwrap()
    };
    let (mut page, mut found, mut line) = (kurbo::Size::ZERO, Vec::new(), 0);
    for text in html.lines().map(str::trim) {
        if text.starts_with("<page") {
            page = kurbo::Size::new(number(text, "width"), number(text, "height"));
        } else if text.starts_with("<line") {
            line += 1;
        } else if text.starts_with("<word") {
            let rect = kurbo::Rect::new(
                number(text, "xMin"),
                number(text, "yMin"),
                number(text, "xMax"),
                number(text, "yMax"),
            );
            let says = text.split('>').nth(1).unwrap().split('<').next().unwrap().to_owned();
            found.push(Word { rect, says, line });
        }
    }
    (page, found)
}

#[test]
fn words_of_adapted_pieces_stand_in_the_safe_area_apart_and_large_enough() {
    let folder = tempfile::tempdir().unwrap();
    let (mut read, mut wrong) = (0, Vec::new());
    for design in DESIGNS {
        let design = WORLD.design(design);
        let job = WORLD.job(&[&design.id], &[("landscape-post", 1)], &design.sample);
        for place in PLACES {
            let out = adapted(&job, place);
            let piece = out.pieces.last().unwrap();
            let file = write_file(&WORLD.studio, &out, piece, &[], HandOver::of(FileKind::Pdf)).unwrap().remove(0);
            let path = folder.path().join("out.pdf");
            std::fs::write(&path, &file.bytes).unwrap();
            let (page, words) = words(&path);
            let to_pt = |length: Length| length.to_pt();
            let format = &piece.format;
            assert!((page.width - to_pt(format.size.w)).abs() < 0.6, "{place}");
            assert!(!words.is_empty(), "{} for {place} says nothing", design.id);
            read += words.len();
            let safe = kurbo::Rect::from_origin_size((0.0, 0.0), page).inset(-to_pt(format.safe));
            let least = if format.unit == Unit::Px { to_pt(format.size.w.min(format.size.h)) * 0.018 } else { 5.9 };
            for (at, word) in words.iter().enumerate() {
                // A reader's box is as high as the face: letters fill its middle.
                let high = word.rect.height();
                let ink = word.rect.inset(kurbo::Insets::uniform_xy(0.0, -high * 0.28));
                let room = safe.inflate(high * 0.1, high * 0.1);
                if room.union(ink).area() > room.area() + 0.5 {
                    wrong.push(format!("{} for {place}: {} lies outside the safe area", design.id, word.says));
                }
                // The box of a face is at least as high as its size.
                if high < least {
                    wrong.push(format!("{} for {place}: {} is {high:.1} pt high", design.id, word.says));
                }
                for other in words[at + 1..].iter().filter(|other| other.line != word.line) {
                    let high = other.rect.height();
                    let theirs = other.rect.inset(kurbo::Insets::uniform_xy(0.0, -high * 0.28));
                    let shared = ink.intersect(theirs);
                    if shared.width() > 0.5 && shared.height() > 0.5 {
                        wrong.push(format!("{} for {place}: {} lies on {}", design.id, word.says, other.says));
                    }
                }
            }
        }
    }
    assert!(read > 600, "{read}");
    assert!(wrong.is_empty(), "of {read}:\n{}", wrong.join("\n"));
}
