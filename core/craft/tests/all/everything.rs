//! Every fill, line, effect, step, mask and content through every kind of file: each value of one beside each value of the others at least
//! once. Nothing is refused, and every file can be read again.

use crate::common::{WORLD, sheet_with};
use vatman_craft::{Addition, Day, FileKind, HandOver, import_svg, kinds, write_file};
use vatman_document::{
    Area, Blend, Code, CodeWords, Color, Command, Content, Curve, Develop, Effect, Focus, Format, Joining, Look, Mask,
    MaskArea, Motif, Outline, Paint, Part, RichText, Stop, Stroke, Tint, Treatment, TypeLook,
};
use vatman_units::{Angle, Length, Ratio};

/// How many values each parameter has.
fn sizes() -> [usize; 8] {
    [
        contents().len(),
        fills().len(),
        strokes().len(),
        effects().len(),
        steps().len(),
        masks().len(),
        Blend::ALL.len(),
        files().len(),
    ]
}

fn tint(r: u8, g: u8, b: u8) -> Tint {
    Tint::Own(Color::opaque(r, g, b))
}

fn stops() -> Vec<Stop> {
    let stop =
        |at: i64, tint, opacity: i64| Stop { at: Ratio::thousandths(at), tint, opacity: Ratio::thousandths(opacity) };
    vec![stop(0, tint(140, 90, 60), 1_000), stop(400, tint(244, 239, 230), 600), stop(1_000, tint(43, 74, 139), 1_000)]
}

fn contents() -> Vec<Content> {
    let text = |text: &str| Content::Words { text: RichText::plain(text), prompt: String::new() };
    let picture = WORLD.samples["celadon-mug"].clone();
    let drawing = import_svg(
        b"<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 90 60'><defs><clipPath id='c'><circle cx='40' cy='30' r='25'/></clipPath>\
        <mask id='m'><rect width='60' height='60' fill='#ccc'/></mask><filter id='s'><feDropShadow dx='3' dy='3' stdDeviation='2'/></filter></defs>\
        <g clip-path='url(#c)' opacity='0.8'><rect width='90' height='60' fill='#8c5a3c'/></g><g mask='url(#m)'><path d='M0 0h80v30z'/></g>\
        <g filter='url(#s)' style='mix-blend-mode:multiply'><circle cx='60' cy='30' r='12' fill='#2b4a8b' stroke='#000' stroke-dasharray='3 1'/></g></svg>",
        "pot",
        &WORLD.studio.typesetter.library(),
    );
    let part = |at: [i64; 4]| vatman_document::CombinedPart {
        outline: Outline::Ellipse,
        at: at.map(Ratio::thousandths),
        turn: Angle::ZERO,
        flip: false,
    };
    let parts = vec![part([0, 0, 700, 700]), part([300, 300, 700, 700])];
    vec![
        text("Made slow."),
        text("\u{645}\u{631}\u{62d}\u{628}\u{627} Hands"),
        Content::Shape { outline: Outline::Ellipse },
        Content::Shape { outline: Outline::Combined { how: vatman_document::Combine::Exclude, parts } },
        Content::Shape { outline: Outline::Line },
        Content::Picture {
            picture: Some(picture),
            focus: Focus::CENTRE,
            frame: Outline::Arch,
            fit: Default::default(),
        },
        Content::Drawing { drawing: drawing.unwrap().drawing },
        Content::Code {
            code: Code { says: CodeWords::Address { address: "mossback.example".into() }, ground: None, mark: None },
        },
    ]
}

fn fills() -> Vec<Option<Paint>> {
    let motif = |motif| Paint::Pattern {
        motif,
        ink: tint(43, 74, 139),
        ground: (motif != Motif::Checks).then(|| tint(244, 239, 230)),
        size: Length::mm(1.0),
        angle: Angle::degrees(20.0),
    };
    let picture = WORLD.samples["linen"].clone();
    vec![
        None,
        Some(Paint::flat(Color::opaque(157, 184, 164))),
        Some(Paint::Flat { tint: tint(10, 10, 10), opacity: Ratio::thousandths(300) }),
        Some(Paint::Linear { angle: Angle::degrees(30.0), stops: stops() }),
        Some(Paint::Radial { stops: stops() }),
        Some(Paint::Conic { angle: Angle::degrees(70.0), stops: stops() }),
        Some(motif(Motif::Dots)),
        Some(motif(Motif::Checks)),
        Some(Paint::Picture { picture, focus: Focus::CENTRE, zoom: Ratio::ONE }),
    ]
}

fn strokes() -> Vec<Option<Stroke>> {
    let line = |paint| Some(Stroke::solid(paint, Length::mm(0.4)));
    vec![
        None,
        line(Paint::flat(Color::BLACK)),
        line(Paint::Conic { angle: Angle::ZERO, stops: stops() }),
        line(fills()[6].clone().unwrap()),
        line(Paint::Linear { angle: Angle::ZERO, stops: stops() }),
    ]
}

fn effects() -> Vec<Vec<Effect>> {
    let (mm, share) = (Length::mm, Ratio::thousandths);
    let dark = tint(35, 32, 29);
    let all = vec![
        Effect::Shadow { dx: mm(0.4), dy: mm(0.4), blur: mm(0.5), tint: dark.clone(), opacity: share(600) },
        Effect::InnerShadow { dx: mm(0.3), dy: mm(0.3), blur: mm(0.3), tint: dark.clone(), opacity: share(600) },
        Effect::Relief {
            light: Angle::degrees(40.0),
            depth: mm(0.3),
            blur: mm(0.2),
            strength: share(500),
            pressed: false,
        },
        Effect::Cast {
            turn: Angle::degrees(30.0),
            length: share(400),
            blur: mm(0.4),
            tint: dark.clone(),
            opacity: share(500),
            ground: share(1_000),
        },
        Effect::Contact { blur: mm(0.5), tint: dark.clone(), opacity: share(500), ground: share(1_000) },
        Effect::Reflection {
            gap: mm(0.1),
            reach: share(400),
            blur: mm(0.2),
            opacity: share(400),
            ground: share(1_000),
        },
        Effect::Rim { width: mm(0.6), tint: tint(255, 255, 255), opacity: share(1_000), cut: true },
    ];
    let mut each: Vec<Vec<Effect>> = all.iter().map(|one| vec![one.clone()]).collect();
    each.extend([Vec::new(), all]);
    each
}

fn steps() -> Vec<Option<Develop>> {
    let chosen = |start: Develop| match start {
        Develop::Overlay { blend, centre, scale, turn, .. } => {
            Develop::Overlay { picture: WORLD.samples["kiln-glow"].clone(), blend, centre, scale, turn }
        }
        other => other,
    };
    std::iter::once(None).chain(kinds().into_iter().map(|kind| Some(chosen(kind.start)))).collect()
}

fn masks() -> Vec<Option<Area>> {
    let focus = |x: i64, y: i64| Focus { x: Ratio::thousandths(x), y: Ratio::thousandths(y) };
    vec![
        None,
        Some(Area::Linear { from: focus(0, 0), to: focus(1_000, 500) }),
        Some(Area::Radial {
            centre: focus(400, 500),
            across: Ratio::thousandths(300),
            down: Ratio::thousandths(200),
            turn: Angle::ZERO,
            softness: Ratio::thousandths(300),
        }),
        Some(Area::Light { from: Ratio::thousandths(300), to: Ratio::ONE, softness: Ratio::thousandths(100) }),
        Some(Area::Colour {
            tint: tint(157, 184, 164),
            reach: Ratio::thousandths(200),
            softness: Ratio::thousandths(100),
        }),
    ]
}

fn files() -> Vec<HandOver> {
    let lasting = Some(Day { year: 2026, month: 12, day: 2 });
    let pdf = HandOver::of(FileKind::Pdf);
    let pictures = [FileKind::Png, FileKind::Jpeg, FileKind::Webp, FileKind::Gif, FileKind::Tiff, FileKind::Svg];
    let mut all: Vec<HandOver> = pictures.map(HandOver::of).into();
    all.extend([
        HandOver { clear: true, ..HandOver::of(FileKind::Png) },
        pdf,
        HandOver { process: true, bleed: true, ..pdf },
        HandOver { lasting, ..pdf },
        HandOver { process: true, lasting, ..pdf },
    ]);
    all
}

/// Choices in which any two values of two parameters meet; each the best of a few, by a number that is always the same.
fn pairs() -> Vec<[usize; 8]> {
    let sizes = sizes();
    let mut open = std::collections::BTreeSet::new();
    for a in 0..8 {
        for b in a + 1..8 {
            open.extend((0..sizes[a]).flat_map(|x| (0..sizes[b]).map(move |y| (a, x, b, y))));
        }
    }
    let mut state = 0x2545_f491_4f6c_dd1d_u64;
    let mut next = move || {
        state ^= state << 13;
        state ^= state >> 7;
        state ^= state << 17;
        state
    };
    let mut out = Vec::new();
    while let Some(&(a, x, b, y)) = open.iter().next() {
        let covered = |choice: &[usize; 8]| {
            (0..8)
                .flat_map(|a| (a + 1..8).map(move |b| (a, b)))
                .filter(|(a, b)| open.contains(&(*a, choice[*a], *b, choice[*b])))
                .count()
        };
        let mut candidate = || {
            let mut choice: [usize; 8] = std::array::from_fn(|at| next() as usize % sizes[at]);
            (choice[a], choice[b]) = (x, y);
            choice
        };
        let tries: Vec<[usize; 8]> = (0..24).map(|_| candidate()).collect();
        let best = *tries.iter().max_by_key(|choice| covered(choice)).unwrap();
        for a in 0..8 {
            for b in a + 1..8 {
                open.remove(&(a, best[a], b, best[b]));
            }
        }
        out.push(best);
    }
    out
}

fn looked(choice: [usize; 8]) -> (Content, Look, HandOver) {
    let [content, fill, stroke, effect, step, mask, blend, file] = choice;
    let content = contents().swap_remove(content);
    let mask = masks().swap_remove(mask).map(|area| Mask {
        areas: vec![MaskArea { area, joins: Joining::default() }],
        inverted: blend % 2 == 0,
        density: Ratio::ONE,
        feather: Ratio::thousandths(20),
    });
    let step = steps().swap_remove(step).map(|develop| Treatment { mask, ..Treatment::new(develop) });
    let type_look = matches!(content, Content::Words { .. }).then(|| TypeLook {
        curve: (effect % 3 == 1).then_some(Curve::Circle { at: Angle::ZERO, inward: false }),
        lock_up: (effect % 3 == 2).then_some(1),
        ..TypeLook::default()
    });
    let look = Look {
        fill: fills().swap_remove(fill),
        stroke: strokes().swap_remove(stroke),
        opacity: Ratio::thousandths(if fill % 2 == 0 { 1_000 } else { 700 }),
        blend: Blend::ALL[blend],
        effects: effects().swap_remove(effect),
        frost: (stroke == 4).then(|| Length::mm(0.5)),
        treatments: step.into_iter().collect(),
        type_look,
        ..Look::default()
    };
    (content, look, files().swap_remove(file))
}

#[test]
fn everything_leaves_in_every_kind_of_file() {
    let (mut job, ids) = sheet_with(vec![Addition::Words(Part::Headline)]);
    std::sync::Arc::make_mut(&mut job.pieces[0]).format = Format::screen(72, 56);
    let found = job.find(&ids[0]).unwrap();
    let place = vatman_document::Place {
        at: vatman_units::Placement::at(vatman_units::Rect::new(
            Length::css_px(10.0),
            Length::css_px(8.0),
            Length::css_px(44.0),
            Length::css_px(34.0),
        )),
        ..found.item.place
    };
    let kin = found.item.kin.clone();
    Command::SetPlace { item: ids[0].clone(), place }.apply(&mut job, &*WORLD).unwrap();
    let all = pairs();
    assert!(all.len() > 400, "{}", all.len());
    let mut wrong = Vec::new();
    for choice in &all {
        let (content, look, how) = looked(*choice);
        let mut own = job.clone();
        let kin = kin.clone();
        // What holds what changes with it.
        let Some(held) = own.kins.get(&kin).cloned() else { panic!("the kin is there") };
        let renewed = vatman_document::Kin { content, look, ..held.as_ref().clone() };
        own.kins.insert(kin, renewed.into());
        let piece = &own.pieces[0];
        let label = || format!("{choice:?} {:?} {}", how.kind, how.lasting.is_some());
        match write_file(&WORLD.studio, &own, piece, &[], how) {
            Err(error) => wrong.push(format!("{}: {error}", label())),
            Ok(files) => {
                let bytes = &files[0].bytes;
                let read = match how.kind {
                    FileKind::Pdf => lopdf::Document::load_mem(bytes).is_ok_and(|pdf| pdf.get_pages().len() == 1),
                    FileKind::Svg => usvg::Tree::from_data(bytes, &usvg::Options::default()).is_ok(),
                    _ => image::load_from_memory(bytes).is_ok(),
                };
                if !read {
                    wrong.push(format!("{}: cannot be read", label()));
                }
            }
        }
    }
    assert!(wrong.is_empty(), "{} of {}: {:#?}", wrong.len(), all.len(), &wrong[..wrong.len().min(12)]);
}
