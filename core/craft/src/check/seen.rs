//! What should be looked at because of where a piece is seen: letters over letters, covered, too small, or too faint.

use kurbo::{Point, Rect};
use vatman_document::{Content, Item, ItemId, Job, PictureFit, Side};
use vatman_output::painted_box;
use vatman_scene::{Group, Node, Scene, SceneItem};
use vatman_units::{Length, Unit};

use crate::check::contrast::{Readings, Verdict};
use crate::check::findings::{FindingKind, ItemFinding};
use crate::compose::PlaceEntry;
use crate::compose::least_type::LeastType;
use crate::studio::Studio;

/// Less than this is not an overlap, in CSS pixels.
const SLIGHT: f64 = 1.0;
/// Nor is less than this share of the smaller of two texts.
const SHARE: f64 = 0.02;

/// What is to be said about the words of a side, with the items it is about.
pub(crate) fn as_seen(
    studio: &Studio,
    job: &Job,
    side: &Side,
    scene: &Scene,
    (entry, readings): (&PlaceEntry, &Readings),
) -> Vec<(ItemId, ItemFinding)> {
    let library = studio.typesetter.library();
    let mut found = Vec::new();
    let mut say = |id: &ItemId, kind, says| found.push((id.clone(), ItemFinding { kind, says }));
    for item in side.items.iter().filter(|item| !item.hidden) {
        if let Some((kind, says)) = few_pixels(studio, job, item, entry) {
            say(&item.id, kind, says);
        }
    }
    let least_type = LeastType::at(entry);
    let words: Vec<(&SceneItem, Rect, String, f64)> = scene
        .items
        .iter()
        .filter_map(|drawn| {
            let item = side.items.iter().find(|item| item.id == drawn.id && !item.hidden)?;
            let plain = job.plain(item)?;
            plain.content.words().filter(|text| !text.is_blank())?;
            let letters = painted_box(&letters(drawn), library.as_ref())?;
            let look = plain.look.type_look.as_ref()?;
            let least = least_type.of(look, &studio.typesetter).to_css_px();
            Some((drawn, letters, format!("\u{201c}{}\u{201d}", plain.name()), least))
        })
        .collect();
    for (at, (drawn, own, name, least)) in words.iter().enumerate() {
        for (other, letters, over, _) in &words[at + 1..] {
            if lie_on_each_other(*own, *letters) {
                say(&other.id, FindingKind::WordsOnWords, format!("{over} lies over {name}. Move one of them."));
            }
        }
        if let Some(by) = covered(entry, *own) {
            say(&drawn.id, FindingKind::Covered, format!("{name} lies where the place shows {by}. Move it."));
        }
        if drawn.type_size < *least * 0.99 {
            let (now, wanted) = (size_of(drawn.type_size, entry), size_of(*least, entry));
            let family = if *least > least_type.usual().to_css_px() { " in its family" } else { "" };
            let says =
                format!("{name} is {now} high; {wanted}{family} is the least people can read where this is seen.");
            say(&drawn.id, FindingKind::TooSmall, says);
        }
        let reading = readings.get(&drawn.id);
        if let Some(reading) =
            reading.filter(|reading| reading.ratio < reading.wanted && reading.verdict != Verdict::Good)
        {
            let says = format!(
                "{name} has a contrast of {:.1} : 1 to what lies behind it; {} : 1 is the least at this size.",
                reading.ratio, reading.wanted
            );
            say(&drawn.id, FindingKind::Contrast, says);
        }
    }
    found
}

/// Whether the letters of one text lie on those of another: more than they touch, and more than a corner.
fn lie_on_each_other(a: Rect, b: Rect) -> bool {
    let shared = a.intersect(b);
    shared.width() > SLIGHT && shared.height() > SLIGHT && shared.area() > a.area().min(b.area()) * SHARE
}

/// Pictures in print hold from 200 pixels an inch and are as sharp as they can be from 300; on a screen each pixel of the sheet wants one of its own, less a quarter.
const PRINT_PPI: f64 = 200.0;
const SHARP_PPI: f64 = 300.0;
const SCREEN_SHARE: f64 = 0.75;

/// How many pixels an inch a picture has where it is shown, and how many of them lie across its frame; nothing for what repeats.
pub(crate) fn shown_pixels(studio: &Studio, job: &Job, item: &Item) -> Option<(f64, f64)> {
    let plain = job.plain(item)?;
    let Content::Picture { picture: Some(picture), fit, .. } = plain.content else { return None };
    let (w, h) = studio.picture_size(picture, &plain.look)?;
    let frame = item.place.at.rect.to_css_px();
    let (across, down) = (frame.width() / f64::from(w), frame.height() / f64::from(h));
    let zoom = item.place.crop.map_or(1.0, |crop| crop.zoom.get());
    // CSS pixels of the sheet a pixel of the picture takes.
    let each = zoom
        * match fit {
            PictureFit::Fill => across.max(down),
            PictureFit::Fit => across.min(down),
            PictureFit::Tile => return None,
        };
    Some((96.0 / each.max(1e-9), frame.width() / each.max(1e-9)))
}

/// What is to be said about a picture shown larger than its pixels allow: how many an inch there are, and how large it holds.
fn few_pixels(studio: &Studio, job: &Job, item: &Item, entry: &PlaceEntry) -> Option<(FindingKind, String)> {
    let (ppi, across) = shown_pixels(studio, job, item)?;
    let name = job.plain(item)?.name();
    let wanted = f64::from(entry.format.ppi.get());
    if entry.format.unit == Unit::Px {
        return (ppi < wanted * SCREEN_SHARE).then(|| {
            let percent = (wanted / ppi * 100.0).round();
            let says = format!("\u{201c}{name}\u{201d} is shown at {percent} % of its own size and looks soft. Use a larger picture, or show it smaller.");
            (FindingKind::FewPixels, says)
        });
    }
    let (least, sharp) = (PRINT_PPI.min(wanted), SHARP_PPI.min(wanted));
    let holds = |ppi: f64| Length::inches(across / ppi).to_mm();
    if ppi < least * 0.98 {
        let says = format!(
            "\u{201c}{name}\u{201d} has {ppi:.0} pixels an inch here; {least:.0} is the least that prints well. It holds up to {:.0} mm wide.",
            holds(least)
        );
        return Some((FindingKind::FewPixels, says));
    }
    (ppi < sharp * 0.98).then(|| {
        let says = format!(
            "\u{201c}{name}\u{201d} has {ppi:.0} pixels an inch here, which prints well; from {sharp:.0} on it is as sharp as print can be, up to {:.0} mm wide.",
            holds(sharp)
        );
        (FindingKind::SoftPicture, says)
    })
}

/// The letters of an item alone, without what stands behind them.
pub(crate) fn letters(drawn: &SceneItem) -> Node {
    match drawn.node.as_ref() {
        Node::Group(group) => {
            let children = group.children.iter().filter(|child| matches!(child, Node::Glyphs(_))).cloned().collect();
            Node::Group(Group { children, shadows: Vec::new(), ..group.clone() })
        }
        node => node.clone(),
    }
}

/// What the place lays over a box, if anything.
fn covered(entry: &PlaceEntry, own: Rect) -> Option<String> {
    let sheet = vatman_units::Rect::of(entry.format.size);
    let cover = entry.covers.iter().find(|cover| {
        let at = sheet.part(cover.at[0], cover.at[1], cover.at[2], cover.at[3]).to_css_px();
        let shared = at.intersect(own);
        shared.width() > SLIGHT && shared.height() > SLIGHT
    });
    if let Some(cover) = cover {
        return Some(cover.by.clone());
    }
    let circle = sheet.to_css_px();
    let radius = circle.width().min(circle.height()) / 2.0;
    let corners = [(own.x0, own.y0), (own.x1, own.y0), (own.x0, own.y1), (own.x1, own.y1)];
    let beyond = corners.iter().any(|corner| Point::from(*corner).distance(circle.center()) > radius + SLIGHT);
    (entry.round && beyond).then(|| "nothing, as only a circle is seen".to_owned())
}

/// A size of type in the unit people think of there.
fn size_of(px: f64, entry: &PlaceEntry) -> String {
    if entry.format.unit == Unit::Px { format!("{px:.0} px") } else { format!("{:.1} pt", Length::css_px(px).to_pt()) }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn letters_that_touch_or_meet_at_a_corner_do_not_lie_on_each_other() {
        let own = Rect::new(0.0, 0.0, 100.0, 10.0);
        let on = |x: f64, y: f64| {
            let other = Rect::new(x, y, x + 200.0, y + 20.0);
            assert_eq!(lie_on_each_other(own, other), lie_on_each_other(other, own));
            lie_on_each_other(own, other)
        };
        assert!(on(0.0, 5.0) && on(50.0, -5.0) && on(20.0, 8.5));
        // Along a whole edge by less than is seen, either way.
        assert!(!on(0.0, 9.2) && !on(99.2, 0.0));
        // A corner of 4 by 3, of which 2 in a hundred would be 20.
        assert!(!on(96.0, 7.0) && on(90.0, 7.0));
        assert!(!on(0.0, 30.0) && !on(300.0, 0.0));
    }
}
