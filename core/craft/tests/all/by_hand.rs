//! Sheets made by hand from single things: where each goes in another shape.

use crate::common::{Counter, WORLD, sheet_with};
use vatman_craft::{Addition, PlaceCatalogue, Plan, adapt_piece, plans};
use vatman_document::{
    Align, AssetId, Command, Content, ItemId, Job, Look, Outline, Part, Piece, Place, Target, TypeLook,
};
use vatman_units::{Length, Placement, Ratio, Rect};

fn px(value: f64) -> Length {
    Length::css_px(value)
}

/// A thing on a sheet: what it is, its box in CSS pixels, and what it says.
struct Thing {
    what: Addition,
    at: [f64; 4],
    says: &'static str,
    size: f64,
    align: Align,
}

fn picture(name: &str, at: [f64; 4]) -> Thing {
    let id = WORLD.samples[name].clone();
    let info = WORLD.studio.pictures.info(&id).unwrap();
    let what = Addition::Picture(Some((id, (info.width, info.height))));
    Thing { what, at, says: "", size: 0.0, align: Align::Start }
}

fn words(part: Part, says: &'static str, size: f64, at: [f64; 4]) -> Thing {
    Thing { what: Addition::Words(part), at, says, size, align: Align::Start }
}

fn star(at: [f64; 4]) -> Thing {
    let what = Addition::Shape(Outline::Star { points: 5, depth: Ratio::HALF });
    Thing { what, at, says: "", size: 0.0, align: Align::Start }
}

fn panel(at: [f64; 4]) -> Thing {
    Thing { what: Addition::Panel, at, says: "", size: 0.0, align: Align::Start }
}

/// A sheet of a size with things on it, back to front.
fn sheet(size: &str, things: &[Thing]) -> (Job, Vec<ItemId>) {
    let (mut job, made) = sheet_with(things.iter().map(|thing| thing.what.clone()).collect());
    let piece = job.pieces[0].id.clone();
    let format = PlaceCatalogue::own_size(size).unwrap().format;
    let change = Command::SetFormat { piece, format, place: Some(size.into()), first: None };
    change.apply(&mut job, &*WORLD).unwrap();
    for (id, thing) in made.iter().zip(things) {
        let item = job.item(id).unwrap().clone();
        let [x, y, w, h] = thing.at;
        let mut place = Place { scale: Ratio::ONE, ..item.place };
        place.at = Placement::at(Rect::new(px(x), px(y), px(w), px(h)));
        Command::SetPlace { item: id.clone(), place }.apply(&mut job, &*WORLD).unwrap();
        if !thing.says.is_empty() {
            let target = Target::Shared(item.kin.clone());
            let look = job.kins[&item.kin].look.clone();
            let kind = TypeLook { size: px(thing.size), align: thing.align, ..look.type_look.clone().unwrap() };
            let look = Look { type_look: Some(kind), ..look };
            Command::SetWords { target: target.clone(), text: thing.says.into() }.apply(&mut job, &*WORLD).unwrap();
            Command::SetLook { target, look }.apply(&mut job, &*WORLD).unwrap();
        }
    }
    (job, made)
}

struct Made {
    job: Job,
    way: String,
}

impl Made {
    fn piece(&self) -> &Piece {
        self.job.pieces.last().unwrap()
    }

    /// The box of a thing in the new piece, in CSS pixels; nothing where there was no room.
    fn rect(&self, id: &ItemId) -> Option<kurbo::Rect> {
        let kin = &self.job.item(id)?.kin;
        let item = self.piece().sides[0].items.iter().find(|item| item.kin == *kin)?;
        Some(item.place.at.rect.to_css_px())
    }
}

fn ways(job: &Job, size: &str) -> Vec<Plan> {
    plans(&WORLD.studio, job, &job.pieces[0], &WORLD.place(size), &|_| None)
}

fn adapted(job: &Job, size: &str) -> Made {
    let found = ways(job, size);
    let (command, _) = adapt_piece(job, &job.pieces[0].id, &found[0], &WORLD.place(size), &mut Counter(9_000)).unwrap();
    let mut out = job.clone();
    command.apply(&mut out, &*WORLD).unwrap();
    Made { job: out, way: found[0].way.clone() }
}

const HEAD: &str = "Hands in clay";
const LINE: &str = "Every Saturday at ten";

fn split(picture_at: [f64; 4], words_at: f64) -> (Job, Vec<ItemId>) {
    let [x, _, _, _] = picture_at;
    let left = if x > 0.0 { 50.0 } else { words_at };
    sheet(
        "1200x800",
        &[
            picture("bowls", picture_at),
            words(Part::Headline, HEAD, 64.0, [left, 250.0, 500.0, 160.0]),
            words(Part::Support, LINE, 30.0, [left, 430.0, 500.0, 60.0]),
        ],
    )
}

#[test]
fn the_side_a_picture_stands_on_is_kept_where_the_shape_allows_it() {
    for (at, words_at, size, way) in [
        ([0.0, 0.0, 600.0, 800.0], 650.0, "1600x700", "Picture left"),
        ([600.0, 0.0, 600.0, 800.0], 50.0, "1600x700", "Picture right"),
        ([0.0, 0.0, 600.0, 800.0], 650.0, "800x1400", "Picture above"),
    ] {
        let (job, made) = split(at, words_at);
        let out = adapted(&job, size);
        assert_eq!(out.way, way, "{size}");
        // It still reaches the edges it reached.
        let rect = out.rect(&made[0]).unwrap();
        assert!(rect.x0 < 0.1 || way == "Picture right", "{rect:?}");
        assert!(rect.y0 < 0.1, "{rect:?}");
    }
    for (at, way) in [(0.0, "Picture above"), (400.0, "Picture below")] {
        let text = 480.0 - at;
        let things = vec![
            picture("bowls", [0.0, at, 800.0, 400.0]),
            words(Part::Headline, HEAD, 64.0, [60.0, text, 680.0, 160.0]),
            words(Part::Support, LINE, 30.0, [60.0, text + 180.0, 680.0, 60.0]),
        ];
        let (job, _) = sheet("800x800", &things);
        assert_eq!(adapted(&job, "800x1200").way, way);
    }
}

#[test]
fn what_is_offered_is_worth_a_look() {
    for size in ["800x800", "800x1400", "1600x500", "320x50", "1080x1920"] {
        let (job, _) = split([0.0, 0.0, 600.0, 800.0], 650.0);
        let offered = ways(&job, size);
        assert!(
            !offered.is_empty() && offered.iter().all(|plan| plan.score >= offered[0].score.min(1.0) - 0.7),
            "{size}"
        );
        assert!(offered.windows(2).all(|pair| pair[0].score >= pair[1].score), "the best first");
    }
}

#[test]
fn in_the_same_shape_everything_stands_as_it_stood() {
    let (job, made) = split([0.0, 0.0, 600.0, 800.0], 650.0);
    let out = adapted(&job, "1800x1200");
    for id in &made {
        let was = job.item(id).unwrap().place.at.rect.to_css_px();
        let now = out.rect(id).unwrap();
        for (was, now) in [(was.x0, now.x0), (was.y0, now.y0), (was.x1, now.x1), (was.y1, now.y1)] {
            assert!((was * 1.5 - now).abs() < 0.05, "{was} became {now}");
        }
    }
}

#[test]
fn ornaments_keep_their_distance_to_the_corner_they_are_in() {
    let corners = [[20.0, 20.0], [690.0, 20.0], [20.0, 690.0], [690.0, 690.0]];
    for (size, [w, h]) in [("1600x800", [1_600.0, 800.0]), ("800x1600", [800.0, 1_600.0]), ("700x500", [700.0, 500.0])]
    {
        for [x, y] in corners {
            let things = vec![
                panel([0.0, 0.0, 800.0, 800.0]),
                words(Part::Headline, HEAD, 70.0, [160.0, 300.0, 480.0, 160.0]),
                star([x, y, 90.0, 90.0]),
            ];
            let (job, made) = sheet("800x800", &things);
            let out = adapted(&job, size);
            let star = out.rect(&made[2]).unwrap();
            let unit = star.width() / 90.0;
            assert!((star.height() - star.width()).abs() < 0.1);
            let gap = 20.0 * unit;
            let across = if x < 400.0 { star.x0 } else { w - star.x1 };
            let down = if y < 400.0 { star.y0 } else { h - star.y1 };
            assert!((across - gap).abs() < 0.6 && (down - gap).abs() < 0.6, "{size}: {star:?} from {x} {y}");
            // The ground goes to the edges.
            let ground = out.rect(&made[0]).unwrap();
            assert!(ground.x0 < 0.1 && ground.y0 < 0.1 && ground.x1 > w - 0.1 && ground.y1 > h - 0.1, "{ground:?}");
        }
    }
}

#[test]
fn words_on_a_picture_keep_it_below_them_even_in_a_strip() {
    let things = vec![
        picture("shelf", [0.0, 0.0, 800.0, 800.0]),
        words(Part::Headline, HEAD, 80.0, [80.0, 300.0, 640.0, 180.0]),
    ];
    let (job, made) = sheet("800x800", &things);
    for size in ["320x50", "728x90", "120x600"] {
        let out = adapted(&job, size);
        let (picture, words) = (out.rect(&made[0]), out.rect(&made[1]).unwrap());
        let picture = picture.unwrap_or_else(|| panic!("{size}: without its picture"));
        assert!(picture.union(words).area() < picture.area() + 1.0, "{size}: {words:?} on {picture:?}");
    }
    // A picture that stands beside them may go.
    let (job, made) = split([0.0, 0.0, 600.0, 800.0], 650.0);
    let offered = ways(&job, "320x50");
    let kin = &job.item(&made[0]).unwrap().kin;
    let without = |plan: &&Plan| plan.way == "Type only";
    assert!(
        offered.iter().any(|plan| without(&plan)),
        "{kin}: {:?}",
        offered.iter().map(|p| &p.way).collect::<Vec<_>>()
    );
}

#[test]
fn a_badge_on_the_edge_of_a_picture_goes_with_it() {
    let things = vec![
        picture("bowls", [100.0, 60.0, 600.0, 380.0]),
        words(Part::Headline, HEAD, 60.0, [100.0, 600.0, 600.0, 100.0]),
        star([620.0, 360.0, 160.0, 160.0]),
    ];
    let (job, made) = sheet("800x800", &things);
    for size in ["800x1200", "1400x800"] {
        let out = adapted(&job, size);
        let (host, badge) = (out.rect(&made[0]).unwrap(), out.rect(&made[2]).unwrap());
        let at = |rect: kurbo::Rect, host: kurbo::Rect| {
            ((rect.center().x - host.x0) / host.width(), (rect.center().y - host.y0) / host.height())
        };
        let was = at(kurbo::Rect::new(620.0, 360.0, 780.0, 520.0), kurbo::Rect::new(100.0, 60.0, 700.0, 440.0));
        let now = at(badge, host);
        // It keeps its place on it, unless it would lie on the headline there, which it did not.
        let there = kurbo::Rect::from_center_size((host.x1, host.y1), badge.size());
        let head = out.rect(&made[1]).unwrap();
        let kept = (was.0 - now.0).abs() < 0.02 && (was.1 - now.1).abs() < 0.02;
        assert!(kept || there.intersect(head).area() > 0.0, "{size}: {now:?} was {was:?}");
        assert!(badge.intersect(head).area() < 1.0 && badge.intersect(host).area() > 0.0, "{size}: {badge:?} {head:?}");
        // It grows as its host does, within what the sheet does.
        let grown = (host.area() / (600.0 * 380.0)).sqrt();
        let sheet = out.piece().format.size;
        let most = (sheet.w.to_css_px() * sheet.h.to_css_px() / (800.0 * 800.0)).sqrt() * 1.3;
        let unit = badge.width() / 160.0;
        assert!(unit <= most && (unit - grown).abs() < 0.35, "{size}: {unit}, its picture {grown}");
    }
}

#[test]
fn small_things_between_rows_keep_to_the_side_they_were_on() {
    for (x, align, place) in [(100.0, Align::Start, 0.0), (370.0, Align::Centre, 0.5), (640.0, Align::End, 1.0)] {
        let mut rows = vec![
            words(Part::Headline, HEAD, 64.0, [100.0, 200.0, 600.0, 90.0]),
            Thing { what: Addition::Shape(Outline::Ellipse), at: [x, 320.0, 60.0, 12.0], says: "", size: 0.0, align },
            words(Part::Support, LINE, 40.0, [100.0, 360.0, 600.0, 60.0]),
        ];
        for row in &mut rows {
            row.align = align;
        }
        let (job, made) = sheet("800x800", &rows);
        for size in ["800x1200", "1200x700"] {
            let out = adapted(&job, size);
            let (rule, head) = (out.rect(&made[1]).unwrap(), out.rect(&made[0]).unwrap());
            let whole = out.rect(&made[2]).unwrap().union(head);
            let own = (rule.x0 - whole.x0) / (whole.width() - rule.width());
            assert!((own - place).abs() < 0.04, "{size} {align:?}: {own}, {rule:?} in {whole:?}");
            assert!(head.y1 <= rule.y0 + 1.0, "between the rows");
        }
    }
}

fn shown(job: &Job, id: &ItemId, piece: &Piece) -> (AssetId, kurbo::Rect) {
    let kin = &job.item(id).unwrap().kin;
    let item = piece.sides[0].items.iter().find(|item| item.kin == *kin).unwrap();
    let plain = job.plain(item).unwrap();
    let Content::Picture { picture: Some(picture), focus, fit, .. } = plain.content else { panic!("no picture") };
    let info = WORLD.studio.pictures.info(picture).unwrap();
    let size = item.place.at.rect.size();
    let frame = kurbo::Size::new(size.w.to_css_px(), size.h.to_css_px());
    let shown = vatman_scene::Shown { focus: *focus, crop: item.place.crop, fit: *fit };
    let dest = vatman_scene::picture_box(frame, kurbo::Size::new(f64::from(info.width), f64::from(info.height)), shown);
    assert!(dest.x0 < 0.1 && dest.y0 < 0.1 && dest.x1 > frame.width - 0.1 && dest.y1 > frame.height - 0.1);
    // The part of the picture that is seen, as fractions of it.
    let seen = kurbo::Rect::new(
        -dest.x0 / dest.width(),
        -dest.y0 / dest.height(),
        (frame.width - dest.x0) / dest.width(),
        (frame.height - dest.y0) / dest.height(),
    );
    (picture.clone(), seen)
}

#[test]
fn what_draws_the_eye_in_a_picture_stays_in_its_frame() {
    let mut found = 0;
    for name in WORLD.samples.keys() {
        let things = vec![
            picture(name, [0.0, 0.0, 800.0, 500.0]),
            words(Part::Headline, HEAD, 80.0, [60.0, 560.0, 680.0, 180.0]),
        ];
        let (job, made) = sheet("800x800", &things);
        for size in ["1600x500", "500x1400", "1080x1920"] {
            let out = adapted(&job, size);
            let Some(focus) = out.rect(&made[0]).and_then(|_| WORLD.studio.pictures.focus(&WORLD.samples[name])) else {
                continue;
            };
            found += 1;
            let (_, seen) = shown(&out.job, &made[0], out.piece());
            let at = kurbo::Point::new(focus.x.get(), focus.y.get());
            assert!(seen.inflate(0.002, 0.002).contains(at), "{name} in {size}: {at:?} in {seen:?}");
        }
    }
    assert!(found > 10, "{found}");
    // What somebody chose by hand goes before.
    let things = vec![
        picture("bowls", [0.0, 0.0, 800.0, 500.0]),
        words(Part::Headline, HEAD, 80.0, [60.0, 560.0, 680.0, 180.0]),
    ];
    let (mut job, made) = sheet("800x800", &things);
    let item = job.item(&made[0]).unwrap().clone();
    let centre = vatman_document::Focus { x: Ratio::new(0.2), y: Ratio::new(0.7) };
    let crop = vatman_document::Crop { zoom: Ratio::new(1.6), ..vatman_document::Crop::about(centre) };
    let place = Place { crop: Some(crop), ..item.place };
    Command::SetPlace { item: item.id.clone(), place }.apply(&mut job, &*WORLD).unwrap();
    for size in ["1600x500", "500x1400"] {
        let out = adapted(&job, size);
        let (_, seen) = shown(&out.job, &made[0], out.piece());
        assert!(seen.contains(kurbo::Point::new(0.2, 0.7)), "{size}: {seen:?}");
    }
}

/// A column of words, a thin upright line, and a list beside it, as on a price list.
fn price_list(line: [f64; 4]) -> (Job, Vec<ItemId>) {
    sheet(
        "1600x900",
        &[
            words(Part::Headline, "At the stall", 110.0, [120.0, 250.0, 620.0, 140.0]),
            words(Part::Support, "Thrown and glazed here", 46.0, [120.0, 420.0, 620.0, 60.0]),
            panel(line),
            words(Part::Detail, "Mug 24\nBowl 28\nPlanter 32\nPlate 30", 60.0, [900.0, 250.0, 560.0, 400.0]),
        ],
    )
}

#[test]
fn a_line_between_two_columns_stays_a_line_between_them() {
    let (job, made) = price_list([800.0, 150.0, 6.0, 600.0]);
    for (size, [w, h]) in [
        ("1600x600", [1_600.0, 600.0]),
        ("1200x1200", [1_200.0; 2]),
        ("900x1600", [900.0, 1_600.0]),
        ("2400x500", [2_400.0, 500.0]),
    ] {
        let out = adapted(&job, size);
        let [head, rule, list] = [&made[0], &made[2], &made[3]].map(|id| out.rect(id).unwrap());
        let scale = (w * h / (1_600.0 * 900.0_f64)).sqrt();
        let (thin, long) = (rule.width().min(rule.height()), rule.width().max(rule.height()));
        assert!((thin - 6.0 * scale).abs() < 0.1 && long > thin * 12.0, "{size}: {rule:?}");
        // It lies between them, across the way they follow each other.
        if rule.height() > rule.width() {
            assert!(head.x0 < rule.x0 && rule.x1 <= list.x0 + 1.0, "{size}: {head:?} {rule:?} {list:?}");
        } else {
            assert!(head.y1 <= rule.y0 + 1.0 && rule.y1 <= list.y0 + 1.0, "{size}: {head:?} {rule:?} {list:?}");
        }
    }
    // Where there is no room for the list, there is nothing to part.
    let out = adapted(&job, "320x50");
    assert!(out.rect(&made[3]).is_some() || out.rect(&made[2]).is_none(), "{:?}", out.rect(&made[2]));
}

#[test]
fn in_a_strip_what_follows_a_headline_stands_beside_it() {
    let (job, made) = sheet(
        "1000x1000",
        &[
            words(Part::Headline, HEAD, 130.0, [80.0, 120.0, 840.0, 300.0]),
            words(Part::Support, LINE, 60.0, [80.0, 480.0, 840.0, 80.0]),
            words(Part::Where, "Mossback Kiln, Harrowmere", 50.0, [80.0, 600.0, 840.0, 70.0]),
            words(Part::Contact, "mossback.example", 50.0, [80.0, 700.0, 840.0, 70.0]),
        ],
    );
    let strip = adapted(&job, "2400x400");
    let [head, place] = [&made[0], &made[2]].map(|id| strip.rect(id).unwrap());
    assert!(place.x0 >= head.x1 - 1.0, "{place:?} beside {head:?}");
    // The two columns take most of the strip.
    assert!(head.width() + place.width() > 1_300.0, "{head:?} {place:?}");
    // Nothing of the kind where there is height enough.
    let square = adapted(&job, "1200x1300");
    let [head, place] = [&made[0], &made[2]].map(|id| square.rect(id).unwrap());
    assert!(place.y0 >= head.y1 - 1.0 && (place.x0 - head.x0).abs() < 2.0);
}

#[test]
fn a_band_without_anything_on_it_leaves_what_is_spare_to_the_words() {
    let (job, made) = sheet(
        "1200x700",
        &[
            panel([0.0, 0.0, 120.0, 700.0]),
            words(Part::Headline, "Ines Vardal", 90.0, [200.0, 120.0, 620.0, 110.0]),
            words(Part::Contact, "hello@mossback.example", 40.0, [200.0, 420.0, 900.0, 60.0]),
            star([930.0, 90.0, 180.0, 180.0]),
        ],
    );
    for (size, wide) in [("2400x600", 2_400.0), ("1600x600", 1_600.0), ("1200x1200", 1_200.0)] {
        let out = adapted(&job, size);
        let band = out.rect(&made[0]).unwrap();
        let reached = band.width().min(band.height());
        assert!(reached < wide * 0.27, "{size}: {band:?}");
        // A mark beside words in the source lies on none.
        let (star, head) = (out.rect(&made[3]).unwrap(), out.rect(&made[1]).unwrap());
        let side = &out.piece().sides[0];
        let kin = &out.job.item(&made[1]).unwrap().kin;
        let item = side.items.iter().find(|item| item.kin == *kin).unwrap();
        let scene = WORLD.studio.scene(&out.job, out.piece(), side, vatman_scene::Audience::Output, None);
        let drawn = scene.items.iter().find(|drawn| drawn.id == item.id).unwrap();
        let letters = vatman_output::painted_box(&drawn.node, WORLD.studio.typesetter.library().as_ref()).unwrap();
        assert!(letters.intersect(star).area() < 1.0, "{size}: {star:?} over {letters:?} in {head:?}");
    }
}

#[test]
fn a_panel_that_held_only_a_picture_goes_with_it() {
    let (job, made) = sheet(
        "1200x700",
        &[
            panel([700.0, 0.0, 500.0, 700.0]),
            picture("bowls", [760.0, 60.0, 380.0, 580.0]),
            words(Part::Headline, HEAD, 80.0, [60.0, 150.0, 560.0, 200.0]),
            words(Part::Support, LINE, 40.0, [60.0, 400.0, 560.0, 60.0]),
        ],
    );
    let offered = ways(&job, "728x90");
    let mut without = 0;
    for plan in &offered {
        let made_of = |id: &ItemId| {
            let (command, _) =
                adapt_piece(&job, &job.pieces[0].id, plan, &WORLD.place("728x90"), &mut Counter(9_000)).unwrap();
            let mut out = job.clone();
            command.apply(&mut out, &*WORLD).unwrap();
            Made { job: out, way: plan.way.clone() }.rect(id).is_some()
        };
        without += usize::from(!made_of(&made[1]));
        assert_eq!(made_of(&made[0]), made_of(&made[1]), "{}", plan.way);
    }
    assert!(without > 0, "{:?}", offered.iter().map(|plan| &plan.way).collect::<Vec<_>>());
}

#[test]
fn pictures_beside_each_other_keep_their_shares() {
    let (job, made) = sheet(
        "900x700",
        &[
            picture("bowls", [0.0, 0.0, 300.0, 450.0]),
            picture("shelf", [300.0, 0.0, 600.0, 450.0]),
            words(Part::Headline, HEAD, 70.0, [60.0, 510.0, 780.0, 120.0]),
        ],
    );
    for size in ["1000x1000", "1100x1500"] {
        let out = adapted(&job, size);
        let [one, two] = [&made[0], &made[1]].map(|id| out.rect(id).unwrap());
        let (narrow, wide) = (one.width() * one.height(), two.width() * two.height());
        assert!((wide / narrow - 2.0).abs() < 0.1, "{size}: {one:?} {two:?}");
    }
}
