//! Every step of the darkroom, whole and on every kind of mask, hung side by side.

use vatman_craft::{kinds, starting};
use vatman_document::{
    Area, BrushStroke, Color, Content, Develop, Focus, Format, Item, ItemId, Job, JobId, Joining, Kin, KinId, Look,
    Mask, MaskArea, Outline, Part, PictureFit, Piece, PieceId, Place, Side, SideId, Treatment,
};
use vatman_units::{Angle, Length, Placement, Ratio, Rect};

/// The shipped picture that is treated.
const SHOWN: &str = "6557696871a37d4b76a21155edda57bc18a9a8d7";
/// How many hang on a wall, across and down.
const HUNG: (usize, usize) = (4, 3);

fn focus(x: f64, y: f64) -> Focus {
    Focus { x: Ratio::new(x), y: Ratio::new(y) }
}

/// One of each kind that needs no other picture.
fn areas() -> Vec<Area> {
    let r = Ratio::new;
    let stroke = |y: f64, erases: bool| BrushStroke {
        points: vec![focus(0.1, y), focus(0.5, y + 0.1), focus(0.9, y - 0.05)],
        radius: r(0.1),
        hardness: r(0.4),
        strength: r(0.8),
        erases,
    };
    vec![
        Area::Linear { from: focus(0.2, 0.1), to: focus(0.7, 0.8) },
        Area::Radial {
            centre: focus(0.6, 0.4),
            across: r(0.3),
            down: r(0.2),
            turn: Angle::degrees(20.0),
            softness: r(0.5),
        },
        Area::Light { from: r(0.5), to: r(0.9), softness: r(0.1) },
        Area::Colour { tint: Color::opaque(0xa0, 0x60, 0x40).into(), reach: r(0.2), softness: r(0.1) },
        Area::Brush { strokes: vec![stroke(0.3, false), stroke(0.6, false), stroke(0.45, true)] },
    ]
}

fn mask(n: usize) -> Mask {
    let mut areas = areas();
    let count = areas.len();
    let first = areas.swap_remove(n % count);
    let also = n
        .is_multiple_of(3)
        .then(|| MaskArea { area: Area::Linear { from: focus(0.9, 0.5), to: focus(0.1, 0.5) }, joins: Joining::Take });
    Mask {
        areas: std::iter::once(MaskArea { area: first, joins: Joining::Add }).chain(also).collect(),
        inverted: n % 2 == 1,
        density: Ratio::new(0.9),
        feather: Ratio::new(if n % 4 == 2 { 0.02 } else { 0.0 }),
    }
}

/// Every step as it starts, by itself; then every one of them on a part.
fn steps() -> Vec<Treatment> {
    let shown = SHOWN.to_owned().try_into().ok();
    let whole = kinds().into_iter().filter_map(|card| starting(card.kind)).map(|mut step| {
        match &mut step.develop {
            Develop::Overlay { picture, scale, .. } => (*picture, *scale) = (shown.clone().unwrap(), Ratio::new(0.6)),
            // Dots of two pixels are what becomes of them in a picture as small as these.
            Develop::Halftone { size, .. } => *size = Ratio::new(0.03),
            _ => {}
        }
        step
    });
    let whole: Vec<Treatment> = whole.collect();
    let parts = whole.iter().enumerate().map(|(n, step)| Treatment { mask: Some(mask(n)), ..step.clone() });
    whole.iter().cloned().chain(parts).collect()
}

/// A job in which every step is seen, and how many walls it hangs on.
pub fn treated() -> (Job, usize) {
    let mut job = Job::new(JobId::new("treated").unwrap(), "Every step of the darkroom");
    let format = Format::screen(1_200, 900);
    let px = |v: usize| Length::css_px(v as f64);
    let steps = steps();
    let walls = steps.chunks(HUNG.0 * HUNG.1);
    let count = walls.len();
    for (at, wall) in walls.enumerate() {
        let mut items = Vec::new();
        for (n, step) in wall.iter().enumerate() {
            let name = format!("{at}-{n}");
            let content = Content::Picture {
                picture: SHOWN.to_owned().try_into().ok(),
                focus: Focus::CENTRE,
                frame: Outline::RECT,
                fit: PictureFit::Fill,
            };
            let look = Look { fill: None, treatments: vec![step.clone()], ..Look::default() };
            job.kins.insert(KinId::new(&*name).unwrap(), Kin::new(Part::Picture, content, look).into());
            let (column, row) = (n % HUNG.0, n / HUNG.0);
            let place = Placement::at(Rect::new(px(10 + column * 298), px(10 + row * 298), px(286), px(284)));
            items.push(Item::new(ItemId::new(&*name).unwrap(), KinId::new(&*name).unwrap(), Place::new(place)));
        }
        let ground = Some(vatman_document::Paint::flat(Color::WHITE));
        let side = Side { items, ..Side::blank(SideId::new(format!("wall-{at}")).unwrap(), "Front", ground) };
        let piece = Piece::new(PieceId::new(format!("wall-{at}")).unwrap(), format!("Wall {at}"), format, vec![side]);
        job.pieces.push(piece.into());
    }
    job.check().unwrap();
    (job, count)
}
