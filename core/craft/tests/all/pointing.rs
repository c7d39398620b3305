//! What points at something, in other shapes: call-outs stay on their spots, and lines still lead to words.

use kurbo::{Point, Rect, Vec2};
use vatman_craft::{Inks, PlaceEntry, call_out, change_format, settle};
use vatman_document::{Command, Content, Focus, Format, Item, ItemId, Job, Outline, Part, Place, Target, Tie};
use vatman_units::{Length, Placement, Ratio};

use crate::common::{Counter, WORLD, arranged_in_each_way, by_somebody};
use crate::shapes::{Thing, panel, picture, sheet, words};

/// A spot of a picture, what its label says, and where the label stands.
type Called = (Focus, &'static str, [f64; 2]);

/// The items of a call-out: its label, its dot, its line.
type CallOut = [ItemId; 3];

fn spot(x: f64, y: f64) -> Focus {
    Focus { x: Ratio::new(x), y: Ratio::new(y) }
}

fn settled(old: &Job, mut job: Job) -> Job {
    for command in settle(old, &job, &WORLD.studio) {
        command.apply(&mut job, &*WORLD).unwrap();
    }
    job
}

/// A side with a picture and labels that point into it.
fn called(things: Vec<Thing>, calls: &[Called]) -> (Job, Vec<CallOut>) {
    let (mut job, _) = sheet(things);
    let pictured = |item: &&Item| job.plain(item).unwrap().content.picture().is_some();
    let host = job.items().find(pictured).unwrap().id.clone();
    let mut ids = Counter(500);
    let mut made = Vec::new();
    for (at, says, [x, y]) in calls {
        let before = job.clone();
        let point = vatman_units::Point::default();
        let (command, new) = call_out(&job, &host, *at, point, &Inks::PLAIN, &mut ids).unwrap();
        command.apply(&mut job, &*WORLD).unwrap();
        let new: CallOut = new.try_into().unwrap();
        let label = job.item(&new[0]).unwrap();
        let (kin, place) = (label.kin.clone(), label.place);
        let rect = vatman_units::Rect { x: Length::css_px(*x), y: Length::css_px(*y), ..place.at.rect };
        let place = Place { at: Placement { rect, ..place.at }, ..place };
        for command in [
            Command::SetWords { target: Target::Shared(kin), text: (*says).into() },
            Command::SetPlace { item: new[0].clone(), place },
        ] {
            command.apply(&mut job, &*WORLD).unwrap();
        }
        job = settled(&before, job);
        made.push(new);
    }
    (by_somebody(job), made)
}

/// A mug with its parts named on both sides, between a headline and what to do.
fn named_parts() -> (Job, Vec<CallOut>) {
    let things = vec![
        picture([250.0, 170.0, 300.0, 440.0]),
        words(Part::Headline, [100.0, 40.0, 600.0, 90.0], "Made to be held"),
        words(Part::Action, [250.0, 690.0, 300.0, 50.0], "Order by Friday"),
    ];
    let calls = [
        (spot(0.35, 0.2), "Thin lip", [60.0, 200.0]),
        (spot(0.7, 0.5), "Four fingers", [620.0, 380.0]),
        (spot(0.4, 0.9), "Bare foot", [60.0, 560.0]),
    ];
    called(things, &calls)
}

/// A picture over all of the sheet, with labels on it.
fn labels_on_a_picture() -> (Job, Vec<CallOut>) {
    let things =
        vec![picture([0.0, 0.0, 800.0, 800.0]), words(Part::Headline, [60.0, 40.0, 500.0, 80.0], "The kiln room")];
    called(things, &[(spot(0.3, 0.5), "Wheel one", [60.0, 480.0]), (spot(0.65, 0.6), "Drying", [560.0, 620.0])])
}

/// The last piece of a job that was made from another.
struct Seen<'j> {
    job: &'j Job,
    from: &'j Job,
}

impl Seen<'_> {
    /// What has become of an item of the first piece.
    fn item(&self, of: &ItemId) -> Option<&Item> {
        let kin = &self.from.item(of).unwrap().kin;
        self.job.pieces.last().unwrap().sides[0].items.iter().find(|item| item.kin == *kin)
    }

    fn rect(&self, item: &Item) -> Rect {
        WORLD.studio.drawn(self.job, item).to_css_px()
    }

    fn words(&self) -> Vec<(&Item, Rect)> {
        let items = self.job.pieces.last().unwrap().sides[0].items.iter();
        let said = items.filter(|item| self.job.plain(item).unwrap().content.words().is_some());
        said.map(|item| (item, self.rect(item))).collect()
    }
}

/// A job with a piece for a size, arranged in each way: its name, as it is planned, and once ties have had their say.
fn arranged(job: &Job, size: (u32, u32)) -> Vec<(String, Job, Job)> {
    let found = arranged_in_each_way(job, size).into_iter();
    found.map(|(way, out)| (way, out.clone(), settled(job, out))).collect()
}

const SIZES: [(u32, u32); 6] = [(800, 1200), (1200, 800), (700, 1500), (1600, 700), (1000, 1000), (1500, 500)];

/// The ends of a line that is turned as it points.
fn ends(item: &Item) -> (Point, Point) {
    let rect = item.place.at.rect.to_css_px();
    let half = Vec2::from_angle(item.place.at.turn.to_radians()) * (rect.width() / 2.0);
    (rect.center() - half, rect.center() + half)
}

#[test]
fn call_outs_stay_on_their_spots_whatever_the_shape() {
    for (name, (job, calls)) in [("named parts", named_parts()), ("labels on a picture", labels_on_a_picture())] {
        for size in SIZES {
            for (at, (way, planned, kept)) in arranged(&job, size).iter().enumerate() {
                let says = format!("{name} on {size:?}, {way}");
                let (before, seen) = (Seen { job: planned, from: &job }, Seen { job: kept, from: &job });
                let sheet = Rect::new(0.0, 0.0, f64::from(size.0), f64::from(size.1));
                let stand = calls.iter().filter(|call| seen.item(&call[0]).is_some()).count();
                // A narrow frame over all of a sheet cannot show both spots of a wide picture.
                let wanted = if name == "named parts" || size.0 * 2 > size.1 { calls.len() } else { 1 };
                assert!(at > 0 || stand >= wanted, "{says}: {stand} stand in the best way");
                for call in &calls {
                    let found = call.each_ref().map(|id| seen.item(id));
                    let [Some(label), Some(dot), Some(line)] = found else {
                        assert!(found.iter().all(Option::is_none), "{says}: a call-out stands whole or not at all");
                        continue;
                    };
                    // What is planned holds once ties have their say.
                    for (id, now) in call.iter().zip([label, dot, line]) {
                        let was = before.rect(before.item(id).unwrap()).center();
                        assert!(was.distance(seen.rect(now).center()) < 1.0, "{says}: {was:?}");
                    }
                    let Some(Tie::Spot { of, at }) = dot.ties.first() else { panic!("{says}: the dot is tied") };
                    let host = kept.item(of).unwrap();
                    let rect = dot.place.at.rect;
                    let middle = vatman_units::Point { x: rect.x + rect.w.half(), y: rect.y + rect.h.half() };
                    let found = WORLD.studio.spot_at(kept, host, middle).unwrap();
                    let off = (found.x.get() - at.x.get()).abs().max((found.y.get() - at.y.get()).abs());
                    assert!(off < 0.01, "{says}: {off} off its spot");
                    assert!(seen.rect(host).intersect(sheet).contains(seen.rect(dot).center()), "{says}: it is seen");
                    let own = seen.rect(label);
                    assert!(sheet.union(own).area() <= sheet.area() + 1.0, "{says}: on the sheet");
                    let (start, end) = ends(line);
                    for (other, rect) in seen.words().into_iter().filter(|(other, _)| other.id != label.id) {
                        assert!(own.intersect(rect).area() < 1.0, "{says}: words on words, {:?}", other.id);
                        let through = (0..=20).map(|step| start.lerp(end, f64::from(step) / 20.0));
                        let inner = rect.inflate(-2.0, -2.0);
                        assert!(!through.into_iter().any(|on| inner.contains(on)), "{says}: a line through words");
                    }
                    let reaches = |at: Point, rect: Rect| rect.inflate(3.0, 3.0).contains(at);
                    assert!(reaches(start, seen.rect(dot)) && reaches(end, own), "{says}: the line joins both");
                }
            }
        }
    }
}

#[test]
fn labels_stay_beside_what_they_name() {
    let (job, calls) = named_parts();
    let far = |label: Rect, dot: Rect| label.center().distance(dot.center());
    let was = |id: &ItemId| WORLD.studio.drawn(&job, job.item(id).unwrap()).to_css_px();
    for size in SIZES {
        let found = arranged(&job, size);
        let (way, _, kept) = &found[0];
        let seen = Seen { job: kept, from: &job };
        let now = |id: &ItemId| seen.rect(seen.item(id).unwrap());
        let scale = (f64::from(size.0) * f64::from(size.1)).sqrt() / 800.0;
        for [label, dot, _] in &calls {
            let (before, after) = (far(was(label), was(dot)) * scale, far(now(label), now(dot)));
            assert!(after < before * 1.8, "on {size:?}, {way}: {before} and {after}");
        }
        // On a sheet that is wide enough each keeps its side.
        if size.0 >= size.1 {
            let side = |call: &CallOut| now(&call[0]).center().x - now(&call[1]).center().x;
            assert!(side(&calls[0]) < 0.0 && side(&calls[1]) > 0.0 && side(&calls[2]) < 0.0, "on {size:?}, {way}");
        }
    }
}

#[test]
fn in_the_same_shape_call_outs_stay_as_they_were_put() {
    let (mut job, calls) = named_parts();
    // All of them lie on the sheet, one on the picture and one as near to other words as somebody wanted it.
    for (call, x, y) in [(&calls[1], 540.0, 380.0), (&calls[2], 160.0, 692.0)] {
        let place = job.item(&call[0]).unwrap().place;
        let rect = vatman_units::Rect { x: Length::css_px(x), y: Length::css_px(y), ..place.at.rect };
        let place = Place { at: Placement { rect, ..place.at }, ..place };
        Command::SetPlace { item: call[0].clone(), place }.apply(&mut job, &*WORLD).unwrap();
    }
    let (way, _, kept) = &arranged(&job, (1600, 1600))[0];
    let seen = Seen { job: kept, from: &job };
    for id in calls.iter().map(|call| &call[0]) {
        let (was, now) = (job.item(id).unwrap().place.at.rect, seen.item(id).unwrap().place.at.rect);
        let off = now.to_css_px().origin() - was.to_css_px().scale_from_origin(2.0).origin();
        assert!(off.hypot() < 1.0, "{way}: {off:?}");
    }
}

#[test]
fn call_outs_come_back_when_a_shape_does() {
    let (mut job, calls) = named_parts();
    let piece = job.pieces[0].id.clone();
    let places = |job: &Job| calls.iter().flatten().map(|id| job.item(id).unwrap().place).collect::<Vec<_>>();
    let was = places(&job);
    for format in [Format::screen(1600, 700), Format::screen(800, 800)] {
        let entry = PlaceEntry::of_size("Own", format);
        let command = change_format(&WORLD.studio, &job, &piece, &entry, &|_| None, &mut Counter(9_000)).unwrap();
        let before = job.clone();
        command.apply(&mut job, &*WORLD).unwrap();
        job = settled(&before, job);
    }
    assert_eq!(places(&job), was);
}

/// A picture beside words, with a line from the one to the others.
fn with_a_lead() -> Job {
    let (job, _) = sheet(vec![
        picture([60.0, 200.0, 300.0, 400.0]),
        panel([340.0, 330.0, 130.0, 5.0]),
        words(Part::Headline, [490.0, 280.0, 270.0, 80.0], "The mug"),
        words(Part::Support, [490.0, 380.0, 270.0, 60.0], "Holds 35 cl, keeps its heat"),
        words(Part::Price, [490.0, 470.0, 270.0, 40.0], "24"),
    ]);
    by_somebody(job)
}

#[test]
fn a_line_from_a_picture_to_words_leads_to_them_again() {
    let job = with_a_lead();
    let items = &job.pieces[0].sides[0].items;
    let (host, line) = (items[0].id.clone(), items[1].id.clone());
    let mut stood = 0;
    for size in SIZES {
        for (at, (way, _, kept)) in arranged(&job, size).iter().enumerate() {
            let says = format!("on {size:?}, {way}");
            let seen = Seen { job: kept, from: &job };
            let Some(line) = seen.item(&line) else {
                assert!(at > 0, "{says}: it stands in the best way");
                continue;
            };
            stood += 1;
            let (line, host) = (seen.rect(line), seen.rect(seen.item(&host).unwrap()));
            assert!(line.inflate(1.0, 1.0).intersect(host).area() > 0.0, "{says}: it begins on the picture");
            let said: Vec<Rect> = seen.words().into_iter().map(|(_, rect)| rect).collect();
            assert!(said.iter().all(|rect| rect.intersect(line).area() <= 0.0), "{says}: through no words");
            let measure = (f64::from(size.0) * f64::from(size.1)).sqrt();
            let lies = line.width() > line.height();
            let reach = if lies { (measure * 0.12, 2.0) } else { (2.0, measure * 0.12) };
            let reach = line.inflate(reach.0, reach.1);
            assert!(said.iter().any(|rect| rect.intersect(reach).area() > 0.0), "{says}: it leads to words");
            assert!(line.width().max(line.height()) > 3.0 * line.width().min(line.height()), "{says}");
        }
    }
    assert!(stood >= 12, "{stood}");
}

#[test]
fn a_line_with_words_above_and_below_is_a_rule() {
    let (job, _) = sheet(vec![
        picture([60.0, 200.0, 300.0, 400.0]),
        panel([340.0, 375.0, 400.0, 4.0]),
        words(Part::Headline, [400.0, 290.0, 340.0, 80.0], "The mug"),
        words(Part::Support, [400.0, 390.0, 340.0, 60.0], "Holds 35 cl"),
    ]);
    let job = by_somebody(job);
    let line = job.pieces[0].sides[0].items[1].id.clone();
    for (way, _, kept) in arranged(&job, (1000, 1000)) {
        let seen = Seen { job: &kept, from: &job };
        let Some(line) = seen.item(&line).map(|line| seen.rect(line)) else { continue };
        let said = seen.words();
        let (above, below) = (said[0].1.center().y, said[1].1.center().y);
        let between = above < line.center().y && line.center().y < below;
        assert!(line.width() > line.height() && between, "{way}: {line:?}");
    }
}

#[test]
fn a_line_of_its_own_kind_keeps_its_direction() {
    let mut job = with_a_lead();
    let line = job.pieces[0].sides[0].items[1].clone();
    let content = Content::Shape { outline: Outline::Line };
    std::sync::Arc::make_mut(job.kins.get_mut(&line.kin).unwrap()).content = content;
    let mut stood = 0;
    for size in SIZES {
        for (way, _, kept) in arranged(&job, size) {
            let seen = Seen { job: &kept, from: &job };
            let Some(line) = seen.item(&line.id) else { continue };
            stood += 1;
            let rect = line.place.at.rect;
            assert!(rect.w > rect.h, "on {size:?}, {way}");
        }
    }
    assert!(stood > 4, "{stood}");
}
