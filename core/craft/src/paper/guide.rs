//! How sheets are printed at home, in plain words, with a ruler, and a sheet that shows how a printer turns and shifts the backs.

use kurbo::{Affine, BezPath, Rect, Shape as _, Size};
use vatman_document::{Align, RichText, TextFit, TypeLook};
use vatman_output::{Lettering, PdfError, PdfOptions, PrintPage, write_pdf};
use vatman_type::{FontLibrary, Setting, TextBox};
use vatman_units::Length;

use crate::paper::lay::PrintPlan;
use crate::paper::plan::{instructions, size_label};
use crate::paper::setup::SheetSetup;
use crate::studio::Studio;

const MM: f64 = 96.0 / 25.4;

/// Words on sheets are set in the family that always is at hand.
fn look(points: f64, weight: u16) -> TypeLook {
    TypeLook {
        family: FontLibrary::STAND_IN.to_owned(),
        size: Length::pt(points),
        weight,
        align: Align::Start,
        fit: TextFit::Grow,
        ..TypeLook::default()
    }
}

/// A line of letters of a size in points that stands about its middle at the origin.
pub(crate) fn line(studio: &Studio, text: &str, points: f64) -> Setting {
    let within = TextBox { width: 4_000.0, height: 100.0, scale: 1.0 };
    let mut setting = studio.typesetter.set(&RichText::plain(text), &look(points, 400), within, false);
    let baseline = setting.lines.first().map_or(0.0, |line| line.baseline) - setting.size * 0.35;
    setting.runs.iter_mut().flat_map(|run| &mut run.glyphs).for_each(|glyph| glyph.y -= baseline);
    setting
}

/// Writes paragraphs below each other; where the next would begin.
fn paragraphs(studio: &Studio, page: &mut PrintPage, texts: &[(String, f64, u16)], at: (f64, f64), wide: f64) -> f64 {
    let mut down = at.1;
    for (text, points, weight) in texts {
        let within = TextBox { width: wide, height: 4_000.0, scale: 1.0 };
        let setting = studio.typesetter.set(&RichText::plain(text), &look(*points, *weight), within, false);
        page.letters.push(Lettering { runs: setting.runs, at: Affine::translate((at.0, down)) });
        down += setting.height + points * 0.6;
    }
    down
}

/// A ruler of so many centimetres from a point, to the right or down.
fn ruler(studio: &Studio, page: &mut PrintPage, (x, y): (f64, f64), centimetres: u32, upright: bool) {
    let map = Affine::translate((x, y))
        * if upright { Affine::new([0.0, 1.0, 1.0, 0.0, 0.0, 0.0]) } else { Affine::IDENTITY };
    let mut path = BezPath::new();
    path.move_to((0.0, 0.0));
    path.line_to((f64::from(centimetres) * 10.0 * MM, 0.0));
    for mm in 0..=centimetres * 10 {
        let long = if mm % 10 == 0 {
            5.0
        } else if mm % 5 == 0 {
            3.5
        } else {
            2.0
        };
        path.move_to((f64::from(mm) * MM, 0.0));
        path.line_to((f64::from(mm) * MM, long * MM));
    }
    page.marks.extend(map * path);
    for centimetre in 0..=centimetres {
        let at = map * kurbo::Point::new(f64::from(centimetre) * 10.0 * MM, 8.0 * MM);
        let runs = line(studio, &centimetre.to_string(), 7.0).runs;
        page.letters.push(Lettering { runs, at: Affine::translate((at.x - 3.0, at.y)) });
    }
}

fn square(page: &mut PrintPage, (x, y): (f64, f64), side: f64) {
    page.marks.extend(Rect::new(x, y, x + side, y + side).to_path(0.01));
}

/// The pages of a guide for a plan: how it is printed, with a ruler and a square to see that nothing was scaled, and, where there are backs,
/// a front and a back that show how the printer turns and by how much it is off.
#[must_use]
pub fn guide_pages(studio: &Studio, title: &str, plan: &PrintPlan, setup: &SheetSetup) -> Vec<PrintPage> {
    let size = Size::new(plan.paper.size.w.to_css_px(), plan.paper.size.h.to_css_px());
    let edge = 18.0 * MM;
    let mut page = PrintPage::blank(size, 300.0);
    let mut texts = vec![
        (format!("How to print \u{201c}{title}\u{201d}"), 16.0, 700),
        (format!("{} on {}", count(plan.sheets.len(), "sheet"), size_label(plan.paper.size)), 11.0, 400),
    ];
    texts.extend(
        instructions(plan, setup).into_iter().enumerate().map(|(at, says)| (format!("{}.  {says}", at + 1), 11.0, 400)),
    );
    let wide = (size.width - 2.0 * edge).max(100.0);
    let down = paragraphs(studio, &mut page, &texts, (edge, edge), wide);
    let long = ((wide / MM / 10.0).floor() as u32).clamp(3, 15);
    let top = down + 10.0 * MM;
    if top + 60.0 * MM < size.height {
        ruler(studio, &mut page, (edge, top), long, false);
        square(&mut page, (edge, top + 18.0 * MM), 20.0 * MM);
        let check = (
            "Lay a ruler on it. Where the centimetres are not centimetres, or the square is not 20 mm wide and high, the printer scaled: set it to 100 %."
                .to_owned(),
            9.0,
            400,
        );
        paragraphs(studio, &mut page, &[check], (edge + 26.0 * MM, top + 18.0 * MM), (wide - 26.0 * MM).max(80.0));
    }
    let mut pages = vec![page];
    if plan.has_backs() {
        pages.push(test_face(studio, size, true));
        pages.push(test_face(studio, size, false));
    }
    pages
}

/// One face of the test sheet: an arrow, and about its middle on the front a cross, on the back a scale of millimetres both ways.
fn test_face(studio: &Studio, size: Size, front: bool) -> PrintPage {
    let mut page = PrintPage::blank(size, 300.0);
    let (x, y) = (size.width / 2.0, size.height / 2.0);
    let says = if front {
        "Front. This arrow points to the edge that goes in first. Print this page and the next on both sides of one sheet, and hold it against the light."
    } else {
        "Back. If this arrow points the same way as that of the front, the paper was turned about the side it points along; if it points the other way, about the side it points across. Where the cross of the front meets the scale is how far backs are off: enter both numbers."
    };
    let mut arrow = BezPath::new();
    let (tip, foot) = (16.0 * MM, 40.0 * MM);
    arrow.move_to((x, foot));
    arrow.line_to((x, tip));
    arrow.move_to((x - 4.0 * MM, tip + 6.0 * MM));
    arrow.line_to((x, tip));
    arrow.line_to((x + 4.0 * MM, tip + 6.0 * MM));
    page.marks.extend(arrow);
    let half = 20.0 * MM;
    let mut cross = BezPath::new();
    for (from, to) in [((x - half, y), (x + half, y)), ((x, y - half), (x, y + half))] {
        cross.move_to(from);
        cross.line_to(to);
    }
    if !front {
        for mm in -15_i32..=15 {
            let at = f64::from(mm) * MM;
            let long = if mm % 5 == 0 { 3.0 } else { 1.5 } * MM;
            for (from, to) in [((x + at, y - long), (x + at, y + long)), ((x - long, y + at), (x + long, y + at))] {
                cross.move_to(from);
                cross.line_to(to);
            }
            if mm % 5 == 0 && mm != 0 {
                for place in [(x + at - 4.0, y + 5.0 * MM), (x + 5.0 * MM, y + at)] {
                    let runs = line(studio, &mm.to_string(), 6.0).runs;
                    page.letters.push(Lettering { runs, at: Affine::translate(place) });
                }
            }
        }
    }
    page.marks.extend(cross);
    let wide = (size.width - 40.0 * MM).max(120.0);
    paragraphs(studio, &mut page, &[(says.to_owned(), 10.0, 400)], ((size.width - wide) / 2.0, y + 34.0 * MM), wide);
    page
}

/// The guide as a PDF.
///
/// # Errors
/// [`PdfError`] where it cannot be written.
pub fn write_guide(studio: &Studio, title: &str, plan: &PrintPlan, setup: &SheetSetup) -> Result<Vec<u8>, PdfError> {
    let pages = guide_pages(studio, title, plan, setup).into_iter().map(Ok::<_, PdfError>);
    write_pdf(
        pages,
        PdfOptions { title, language: "en", ..PdfOptions::default() },
        &studio.typesetter.library(),
        &studio.pictures,
    )
}

/// A number of things, in words.
pub(crate) fn count(number: usize, what: &str) -> String {
    if number == 1 { format!("1 {what}") } else { format!("{number} {what}s") }
}
