//! Sheets as pages: of a PDF, as pixels, and as numbers.

use std::collections::HashMap;
use std::sync::Arc;

use kurbo::{Affine, BezPath, Circle, PathEl, Shape as _};
use serde_json::{Value, json};
use vatman_document::{Job, Piece, PieceId, Record, SideId};
use vatman_imposition::{Across, Marks, Stroke, crop_marks, cut_lines, marked_area, marks_at, registration};
use vatman_output::{Lettering, PdfColours, PdfError, PdfOptions, PlacedScene, PrintPage, render_page, write_pdf};
use vatman_photo::Premultiplied;
use vatman_scene::{Audience, Scene};
use vatman_units::{Length, Point, Rect};

use crate::hand_over::HandOverError;
use crate::hand_over::files::own_inks;
use crate::hand_over::language::language;
use crate::paper::guide::line;
use crate::paper::lay::{PlacedSide, PlannedSheet, PrintPlan};
use crate::paper::setup::SheetSetup;
use crate::studio::Studio;

/// Width of a registration mark.
const REGISTRATION: Length = Length::from_raw(36_000 * 6);

/// What is printed, and how it looks filled from a row of a list.
pub(crate) struct Scenes<'a> {
    studio: &'a Studio,
    job: &'a Job,
    records: &'a [Record],
    /// Those of the pages that are made just now; sides without a record are kept.
    kept: HashMap<SideId, Arc<Scene>>,
}

impl<'a> Scenes<'a> {
    pub fn new(studio: &'a Studio, job: &'a Job, records: &'a [Record]) -> Self {
        Self { studio, job, records, kept: HashMap::new() }
    }

    fn of(&mut self, placed: &PlacedSide) -> Option<Arc<Scene>> {
        if let Some(record) = placed.record.and_then(|at| self.records.get(at)) {
            let job = self.job.filled(record);
            let (piece, side) = job.side(&placed.side)?;
            return Some(Arc::new(self.studio.scene(&job, piece, side, Audience::Output, None)));
        }
        if let Some(scene) = self.kept.get(&placed.side) {
            return Some(Arc::clone(scene));
        }
        let (piece, side) = self.job.side(&placed.side)?;
        let scene = Arc::new(self.studio.scene(self.job, piece, side, Audience::Output, None));
        self.kept.insert(placed.side.clone(), Arc::clone(&scene));
        Some(scene)
    }

    fn ppi(&self, placed: &PlacedSide) -> f64 {
        self.job.side(&placed.side).map_or(300.0, |(piece, _)| f64::from(piece.format.ppi.get()))
    }
}

/// One face of a sheet as a page.
pub(crate) fn face(
    plan: &PrintPlan,
    setup: &SheetSetup,
    sheet: &PlannedSheet,
    sides: &[PlacedSide],
    scenes: &mut Scenes<'_>,
) -> PrintPage {
    let size = plan.paper.size;
    let paper = kurbo::Size::new(size.w.to_css_px(), size.h.to_css_px());
    let ppi = sides.iter().map(|side| scenes.ppi(side)).fold(72.0, f64::max);
    let mut page = PrintPage::blank(paper, ppi);
    for side in sides {
        let Some(scene) = scenes.of(side) else { continue };
        page.placed.push(PlacedScene { scene, at: side.at, seen: Some(side.seen.to_css_px()) });
    }
    let trims: Vec<Rect> = sides.iter().map(|side| side.trim).collect();
    if let [only] = sides {
        page.trim = only.trim.to_css_px();
        let bleed = plan.bleed.to_css_px();
        page.bleed = page.trim.inflate(bleed, bleed).intersect(paper.to_rect());
    }
    let strokes = match setup.marks {
        Marks::None => Vec::new(),
        Marks::Crop => crop_marks(marked_area(&plan.paper), &trims, plan.bleed),
        Marks::Lines => cut_lines(&trims),
    };
    page.marks = lines(&strokes);
    if setup.marks != Marks::None {
        page.folds = lines(&marks_at(marked_area(&plan.paper), &trims, plan.bleed, &folds(plan, sides, scenes.job)));
        page.folds.extend(lines(&paper_folds(plan)));
    }
    if setup.registration {
        for at in registration(marked_area(&plan.paper), &trims, plan.bleed, REGISTRATION) {
            page.marks.extend(target(at));
        }
    }
    if !sheet.label.is_empty() {
        let runs = line(scenes.studio, &sheet.label, 6.0).runs;
        // Below the pieces where the printer reaches; where they leave no room there, in the margin at the foot.
        let (foot, lowest) = (plan.paper.printable().bottom(), trims.iter().map(|trim| trim.bottom()).max());
        let room = lowest.is_none_or(|lowest| foot - lowest >= Length::mm(4.0));
        let margin = plan.paper.margins.bottom.to_css_px().min(24.0) * 0.3;
        let down = if room { foot.to_css_px() - 4.0 } else { paper.height - margin };
        page.letters.push(Lettering { runs, at: Affine::translate((plan.paper.margins.left.to_css_px() + 8.0, down)) });
    }
    page
}

/// Where the pieces on a face are folded.
fn folds(plan: &PrintPlan, sides: &[PlacedSide], job: &Job) -> Vec<Across> {
    if !plan.folds.is_empty() {
        return Vec::new();
    }
    let of = |(at, placed): (usize, &PlacedSide)| {
        let (piece, side) = job.side(&placed.side)?;
        let format = piece.format;
        let panels = format.finish.folds.panels(format.size, piece.is_back(&side.id));
        let level = format.finish.folds.is_level();
        let across = panels.into_iter().skip(1).map(move |panel| {
            let corner = placed.at * panel.to_css_px().origin();
            let upright = level == (placed.quarters % 2 == 1);
            (at, upright, Length::css_px(if upright { corner.x } else { corner.y }))
        });
        Some(across.collect::<Vec<_>>())
    };
    sides.iter().enumerate().filter_map(of).flatten().collect()
}

/// Marks at the edges of the paper where it is itself folded.
fn paper_folds(plan: &PrintPlan) -> Vec<Stroke> {
    const LONG: Length = Length::from_raw(36_000 * 4);
    let size = plan.paper.size;
    let mark = |(upright, at): &(bool, Length)| {
        let point = |along: Length| if *upright { Point { x: *at, y: along } } else { Point { x: along, y: *at } };
        let end = if *upright { size.h } else { size.w };
        [(point(Length::ZERO), point(LONG)), (point(end - LONG), point(end))]
    };
    plan.folds.iter().flat_map(mark).collect()
}

fn lines(strokes: &[Stroke]) -> BezPath {
    let at = |point: &Point| kurbo::Point::new(point.x.to_css_px(), point.y.to_css_px());
    strokes.iter().flat_map(|(from, to)| [PathEl::MoveTo(at(from)), PathEl::LineTo(at(to))]).collect()
}

/// A cross in a ring.
fn target(at: Point) -> BezPath {
    let (x, y) = (at.x.to_css_px(), at.y.to_css_px());
    let half = REGISTRATION.to_css_px() / 2.0;
    let mut path: BezPath = Circle::new((x, y), half * 0.6).to_path(0.01);
    for (from, to) in [((x - half, y), (x + half, y)), ((x, y - half), (x, y + half))] {
        path.move_to(from);
        path.line_to(to);
    }
    path
}

/// The language of a piece, as its files say it; empty without one.
fn spoken(job: &Job, piece: Option<&PieceId>, studio: &Studio) -> String {
    let Some(piece) = piece.and_then(|piece| job.piece(piece)) else { return String::new() };
    let scene = |side| studio.scene(job, piece, side, Audience::Output, None);
    let scenes: Vec<Scene> = piece.sides.iter().map(scene).collect();
    language(job, piece, &scenes.iter().collect::<Vec<_>>())
}

/// The faces of all sheets in the order they are printed: each front, and the back after it.
pub(crate) fn faces(plan: &PrintPlan) -> impl Iterator<Item = (&PlannedSheet, &[PlacedSide])> {
    let blank = plan.has_backs();
    plan.sheets.iter().flat_map(move |sheet| {
        // Among sheets with backs one without has an empty page, so that a printer that turns them stays in step.
        let back = sheet.back.as_deref().or(if blank { Some(&[][..]) } else { None });
        std::iter::once((sheet, sheet.front.as_slice())).chain(back.map(|back| (sheet, back)))
    })
}

/// Writes the sheets of a plan as a PDF, a face a page; `step` hears of each face before it is made and may give it up.
///
/// # Errors
/// [`HandOverError`] where something cannot be drawn, and what `step` answers.
pub fn write_sheets<E: From<PdfError>>(
    studio: &Studio,
    (job, records): (&Job, &[Record]),
    plan: &PrintPlan,
    setup: &SheetSetup,
    mut step: impl FnMut(usize) -> Result<(), E>,
) -> Result<Vec<u8>, E> {
    let mut scenes = Scenes::new(studio, job, records);
    let inks = own_inks(job);
    let colours = if setup.process { PdfColours::Process } else { PdfColours::Screen };
    let language =
        spoken(job, plan.sheets.iter().flat_map(|sheet| &sheet.front).next().map(|side| &side.piece), studio);
    let options = PdfOptions { title: &job.title, language: &language, colours, inks: &inks, ..PdfOptions::default() };
    let pages = faces(plan).enumerate().map(|(at, (sheet, sides))| {
        step(at)?;
        Ok(face(plan, setup, sheet, sides, &mut scenes))
    });
    write_pdf(pages, options, &studio.typesetter.library(), &studio.pictures)
}

/// Writes a piece once for each record, all its sides one after another, as one PDF; `step` hears of each record before it is made and may
/// give it up.
///
/// # Errors
/// [`PdfError`] where something cannot be drawn, and what `step` answers.
pub fn write_listed<E: From<PdfError>>(
    studio: &Studio,
    job: &Job,
    piece: &Piece,
    records: &[Record],
    bleed: bool,
    mut step: impl FnMut() -> Result<(), E>,
) -> Result<Vec<u8>, E> {
    let ppi = f64::from(piece.format.ppi.get());
    let sides = piece.sides.len();
    let mut filled = job.clone();
    let pages = (0..records.len() * sides).filter_map(|at| {
        let (record, side) = (at / sides, at % sides);
        if side == 0 {
            if let Err(given_up) = step() {
                return Some(Err(given_up));
            }
            filled = job.filled(&records[record]);
        }
        let own = filled.piece(&piece.id)?;
        let scene = Arc::new(studio.scene(&filled, own, own.sides.get(side)?, Audience::Output, None));
        Some(Ok(PrintPage::single(scene, bleed, ppi)))
    });
    let language = spoken(job, Some(&piece.id), studio);
    write_pdf(
        pages,
        PdfOptions { title: &job.title, language: &language, ..PdfOptions::default() },
        &studio.typesetter.library(),
        &studio.pictures,
    )
}

/// One face of a plan as pixels, so many wide, by its place among all faces.
///
/// # Errors
/// [`HandOverError`] where something cannot be drawn; nothing where there is no such face.
pub fn sheet_picture(
    studio: &Studio,
    (job, records): (&Job, &[Record]),
    plan: &PrintPlan,
    setup: &SheetSetup,
    (at, width): (usize, u32),
) -> Result<Option<Premultiplied>, HandOverError> {
    let Some((sheet, sides)) = faces(plan).nth(at) else { return Ok(None) };
    let mut scenes = Scenes::new(studio, job, records);
    let page = face(plan, setup, sheet, sides, &mut scenes);
    Ok(Some(render_page(&page, width, studio.typesetter.library().as_ref(), &studio.pictures)?))
}

/// Where everything lies, in inches and millimetres from the upper left of the paper.
#[must_use]
pub fn sheet_positions(job: &Job, plan: &PrintPlan) -> Value {
    let length = |length: Length| json!({ "in": round(length.to_inches()), "mm": round(length.to_mm()) });
    let side = |side: &PlacedSide| {
        let name = job.side(&side.side).map(|(piece, side)| (piece.name.clone(), side.name.clone()));
        let (piece, name) = name.unwrap_or_default();
        json!({
            "piece": piece,
            "side": name,
            "row": side.record.map(|record| record + 1),
            "x": length(side.trim.x),
            "y": length(side.trim.y),
            "width": length(side.trim.w),
            "height": length(side.trim.h),
            "turned": i32::from(side.quarters) * 90,
        })
    };
    let sheet = |sheet: &PlannedSheet| {
        json!({
            "front": sheet.front.iter().map(side).collect::<Vec<_>>(),
            "back": sheet.back.as_ref().map(|back| back.iter().map(side).collect::<Vec<_>>()),
        })
    };
    let margins = plan.margins();
    json!({
        "paper": { "width": length(plan.paper.size.w), "height": length(plan.paper.size.h) },
        "margins": {
            "top": length(margins.top), "right": length(margins.right),
            "bottom": length(margins.bottom), "left": length(margins.left),
        },
        "bleed": length(plan.bleed),
        "scale": plan.scale,
        "perSheet": plan.up,
        "waste": (plan.waste() * 1_000.0).round() / 1_000.0,
        "sheets": plan.sheets.iter().map(sheet).collect::<Vec<_>>(),
    })
}

/// To a ten-thousandth, so that numbers are those a ruler has.
fn round(value: f64) -> f64 {
    (value * 10_000.0).round() / 10_000.0
}
