//! The ways in which a side is tried, and what makes one better than another.

use kurbo::Rect;
use vatman_document::{Content, Part};

use crate::adapt::flow::{Composition, Set, Target, Way, lay_out, over};
use crate::adapt::matter::{Kind, Node, Source, count_runs, is_shade, items_of};
use crate::adapt::pointing::Pointer;
use crate::adapt::rows::ink_of;
use crate::adapt::shades::side_shade;
use crate::studio::Studio;

/// A side laid out for a place in one way.
#[derive(Debug, Clone)]
pub(crate) struct Tried {
    /// What it is like, in a few words.
    pub name: &'static str,
    /// Larger is better; 1 has nothing against it.
    pub score: f64,
    /// Every word can be read and stands in its field.
    pub fits: bool,
    /// For each visible item of the side, where it comes to stand.
    pub places: Vec<Option<Set>>,
}

/// Shapes whose aspects differ by less than this factor are alike.
const ALIKE: f64 = 1.02;

/// Lays a side out for a place in every way that is worth trying, the best first; those that come out the same are named once.
pub(crate) fn tried(studio: &Studio, source: &Source<'_>, target: &Target) -> Vec<Tried> {
    let mut found: Vec<Tried> = Vec::new();
    if let Some(places) = as_it_is(source, target) {
        found.push(Tried { name: "As it is", score: 1.5, fits: true, places });
    }
    let judge = Judge { source, target, studio };
    for way in worth_trying(source, target) {
        let made = lay_out(source, target, &way, &studio.typesetter);
        let same = |other: &Tried| alike(&other.places, &made.places, target.sheet);
        if found.iter().any(same) {
            continue;
        }
        let score = judge.score(&made, &way);
        found.push(Tried { name: judge.name(&made.places), score, fits: made.fits, places: made.places });
    }
    found.sort_by(|a, b| b.score.total_cmp(&a.score));
    found
}

/// In the same shape everything stands as it stood, larger or smaller, where its words can still be read.
fn as_it_is(source: &Source<'_>, target: &Target) -> Option<Vec<Option<Set>>> {
    let aspect = |r: Rect| r.width() / r.height();
    let ratio = aspect(target.sheet) / aspect(source.sheet);
    let words = source.matter.iter().filter(|one| one.is_words());
    let readable = words.clone().all(|one| target.scale >= target.least_scale(one));
    let (across, down) = (target.sheet.width() / source.sheet.width(), target.sheet.height() / source.sheet.height());
    let moved = |r: Rect| Rect::new(r.x0 * across, r.y0 * down, r.x1 * across, r.y1 * down);
    let content = target.content.inflate(0.75, 0.75);
    let clear = words.into_iter().all(|one| content.union(moved(one.seen)) == content);
    ((1.0 / ALIKE..=ALIKE).contains(&ratio) && readable && clear).then(|| {
        let set = |one: &crate::adapt::matter::Matter<'_>| Some(Set::new(moved(one.rect), target.scale));
        source.matter.iter().map(set).collect()
    })
}

fn worth_trying(source: &Source<'_>, target: &Target) -> Vec<Way> {
    let Some(tree) = &source.tree else { return vec![Way::AS_IT_IS] };
    let runs = count_runs(tree).min(3);
    let pictures = source.matter.iter().any(|one| one.is_picture());
    let words = source.matter.iter().any(|one| one.is_words());
    let shares: &[f64] = if pictures && runs > 0 { &[1.0, 0.72] } else { &[1.0] };
    let mut ways = Vec::new();
    for turned in 0..1u8 << runs {
        for reversed in [false, true] {
            if reversed && turned & 1 == 0 {
                continue;
            }
            for share in shares {
                for wide in [false, true] {
                    ways.push(Way { turned, reversed, share: *share, wide, ..Way::AS_IT_IS });
                }
            }
        }
    }
    let aspect = |sheet: Rect| sheet.width() / sheet.height();
    if source.columns.is_some() && aspect(target.sheet) > (aspect(source.sheet) * 1.3).max(1.7) {
        for turned in 0..1u8 << runs {
            ways.push(Way { turned, wide: true, columns: true, ..Way::AS_IT_IS });
        }
    }
    if source.gathered.is_some() && aspect(target.sheet) > (aspect(source.sheet) * 1.3).max(1.2) {
        for reversed in [false, true] {
            for share in shares {
                ways.push(Way { gathered: true, wide: true, reversed, share: *share, ..Way::AS_IT_IS });
            }
        }
    }
    if source.matter.iter().any(|one| side_shade(one).is_some()) && target.sheet.width() < target.sheet.height() * 1.2 {
        ways.push(Way { from_foot: true, wide: true, ..Way::AS_IT_IS });
    }
    if over(tree).is_some() {
        ways.push(Way { over: true, ..Way::AS_IT_IS });
    }
    let short = target.sheet.width().min(target.sheet.height());
    let long = target.sheet.width().max(target.sheet.height());
    if pictures && words && (short < 130.0 || long / short > 3.0) && !stands_on_picture(tree, source) {
        for turned in 0..1u8 << runs {
            ways.push(Way { turned, wide: true, without_pictures: true, ..Way::AS_IT_IS });
        }
    }
    ways
}

/// Whether words stand on a picture: without it they could not be read.
fn stands_on_picture(node: &Node, source: &Source<'_>) -> bool {
    match node {
        Node::Field { items, inside: Some(inside), .. } => {
            let picture = items.iter().any(|at| source.matter[*at].is_picture());
            let solid = items.last().is_some_and(|at| {
                let top = &source.matter[*at];
                matches!(top.plain.content, Content::Shape { .. }) && !is_shade(top)
            });
            (picture && !solid && items_of(inside).iter().any(|at| source.matter[*at].is_words()))
                || stands_on_picture(inside, source)
        }
        Node::Run { children, .. } => children.iter().any(|child| stands_on_picture(child, source)),
        _ => false,
    }
}

fn alike(a: &[Option<Set>], b: &[Option<Set>], sheet: Rect) -> bool {
    let slight = (sheet.width() * sheet.height()).sqrt() * 0.02;
    a.iter().zip(b).all(|pair| match pair {
        (Some(a), Some(b)) => {
            let (a, b) = (a.rect, b.rect);
            [a.x0 - b.x0, a.y0 - b.y0, a.x1 - b.x1, a.y1 - b.y1].iter().all(|by| by.abs() < slight)
        }
        (None, None) => true,
        _ => false,
    })
}

pub(crate) struct Judge<'j, 's> {
    pub source: &'j Source<'s>,
    pub target: &'j Target,
    pub studio: &'j Studio,
}

/// What leaving out the words of a part costs.
pub(crate) fn cost_of(part: Part) -> f64 {
    match part {
        Part::Headline => 1.0,
        Part::Price => 0.4,
        Part::When | Part::Action => 0.35,
        Part::Where | Part::Support => 0.25,
        Part::Contact | Part::Mark => 0.2,
        Part::MainPicture => 0.3,
        _ => 0.1,
    }
}

impl Judge<'_, '_> {
    /// How good a composition is: what is left out, how large words are, how much is seen of pictures, how full the sheet is, and how
    /// much of the source is left.
    pub(crate) fn score(&self, made: &Composition, way: &Way) -> f64 {
        let aspect = |r: Rect| (r.width() / r.height()).ln();
        // Shapes that are far apart need not look like each other.
        let near = (-(aspect(self.target.sheet) - aspect(self.source.sheet)).abs() * 1.6).exp();
        let mut against = if made.fits { 0.0 } else { 2.0 };
        against += self.left_out(&made.places);
        against += self.broken(&made.places);
        against += (1.0 / made.type_scale).log2().max(0.0) * 0.22;
        against += self.pictures(&made.places);
        against += self.emptiness(&made.places) * 0.6;
        against += self.unlike(&made.places) * 0.35 * near;
        against += if way.turned & 1 != 0 { 0.12 * near } else { 0.0 };
        against += if way.reversed { 0.04 } else { 0.0 };
        against += if way.over { 0.08 } else { 0.0 };
        against += if way.columns { 0.05 } else { 0.0 };
        // The wider a shape is for what was a stack, the more a row is at home in it.
        against += if way.gathered { 0.02 - 0.13 * (1.0 - near) } else { 0.0 };
        1.0 - against
    }

    fn left_out(&self, places: &[Option<Set>]) -> f64 {
        // What points at something has no place yet.
        let pointing: Vec<usize> = self.source.pointers.iter().flat_map(Pointer::items).collect();
        let gone = (0..places.len()).filter(|at| places[*at].is_none() && !pointing.contains(at));
        gone.map(|at| cost_of(self.source.matter[at].plain.part)).sum()
    }

    /// How often short lines were broken that were whole.
    fn broken(&self, places: &[Option<Set>]) -> f64 {
        let mut against = 0.0;
        for (one, place) in self.source.matter.iter().zip(places) {
            let (Kind::Words, Some(set)) = (one.kind, place) else { continue };
            let leading = one.plain.look.type_look.as_ref().map_or(1.2, |look| look.leading.get());
            let lines = |height: f64, size: f64| (height / (size * leading).max(1e-6)).round().max(1.0);
            let was = lines(one.seen.height() - 2.0 * one.pad.y, one.size);
            let now = lines(set.rect.height(), one.size * set.scale);
            let each = if one.plain.part == Part::Headline { 0.035 } else { 0.045 };
            against += ((now - was).max(0.0) * each).min(0.2);
        }
        against
    }

    /// What is lost of pictures: cut off, small, or in a sliver.
    fn pictures(&self, places: &[Option<Set>]) -> f64 {
        let mut against: f64 = 0.0;
        for (one, place) in self.source.matter.iter().zip(places) {
            let (true, Some(set)) = (one.is_picture(), place) else { continue };
            let (was, now) = (one.rect, set.rect);
            let seen = |r: Rect| {
                let shown = one.plain.content.picture();
                let size = shown.and_then(|id| self.studio.picture_size(id, &one.plain.look));
                let Some((w, h)) = size else { return 1.0 };
                let own = f64::from(w) / f64::from(h);
                let frame = r.width() / r.height().max(1e-6);
                (own / frame).min(frame / own)
            };
            against += (seen(was) - seen(now)).max(0.0) * 0.45;
            let share = |r: Rect, sheet: Rect| r.intersect(sheet).area() / sheet.area();
            let kept = share(now, self.target.sheet) / share(was, self.source.sheet).max(1e-6);
            against += (0.75 / kept.max(0.01)).log2().max(0.0) * 0.16;
            let sliver = now.width().min(now.height()) / now.width().max(now.height());
            let sheet = self.target.sheet;
            let sheet_sliver = sheet.width().min(sheet.height()) / sheet.width().max(sheet.height());
            against += (0.36_f64.min(sheet_sliver) - sliver).max(0.0) * 1.2;
        }
        against
    }

    /// How much emptier the sheet is than the source was.
    fn emptiness(&self, places: &[Option<Set>]) -> f64 {
        let typesetter = &self.studio.typesetter;
        let now = (0..places.len()).filter_map(|at| ink_of(self.source, places, at, typesetter));
        let now: Vec<Rect> = now.collect();
        let seen: Vec<Rect> = self.source.matter.iter().map(|one| one.ink).collect();
        let covered = |rects: &[Rect], sheet: Rect| {
            let mut cells = 0.0;
            for row in 0..16 {
                for column in 0..16 {
                    let at = kurbo::Point::new(
                        sheet.x0 + sheet.width() * (f64::from(column) + 0.5) / 16.0,
                        sheet.y0 + sheet.height() * (f64::from(row) + 0.5) / 16.0,
                    );
                    // What covers the sheet says nothing.
                    let on = rects.iter().filter(|r| r.area() < sheet.area() * 0.9).any(|r| r.contains(at));
                    cells += f64::from(u8::from(on));
                }
            }
            cells / 256.0
        };
        (covered(&seen, self.source.sheet) - covered(&now, self.target.sheet)).max(0.0)
    }

    /// How differently the parts stand to each other: the mean change of the direction between the middles of what matters.
    fn unlike(&self, places: &[Option<Set>]) -> f64 {
        let matters: Vec<usize> = (0..places.len())
            .filter(|at| places[*at].is_some())
            .filter(|at| {
                let one = &self.source.matter[*at];
                one.is_words() || one.is_picture() && one.rect.area() < self.source.sheet.area() * 0.9
            })
            .take(10)
            .collect();
        let unit = |a: Rect, b: Rect, sheet: Rect| {
            let by = b.center() - a.center();
            let by = kurbo::Vec2::new(by.x / sheet.width(), by.y / sheet.height());
            by / by.hypot().max(1e-6)
        };
        let (mut sum, mut pairs) = (0.0, 0.0);
        for (n, a) in matters.iter().enumerate() {
            for b in &matters[n + 1..] {
                let (Some(now_a), Some(now_b)) = (places[*a], places[*b]) else { continue };
                let was = unit(self.source.matter[*a].seen, self.source.matter[*b].seen, self.source.sheet);
                let now = unit(now_a.rect, now_b.rect, self.target.sheet);
                sum += (1.0 - was.dot(now)) / 2.0;
                pairs += 1.0;
            }
        }
        if pairs > 0.0 { sum / pairs } else { 0.0 }
    }

    /// What a composition is like, in a few words.
    pub(crate) fn name(&self, places: &[Option<Set>]) -> &'static str {
        let standing = |at: &usize| places[*at].is_some();
        let of = |is: &dyn Fn(usize) -> bool| -> Option<Rect> {
            let all = (0..places.len()).filter(standing).filter(|at| is(*at));
            all.filter_map(|at| places[at].map(|set| set.rect)).reduce(|a, b| a.union(b))
        };
        let picture = of(&|at| self.source.matter[at].is_picture());
        let words = of(&|at| self.source.matter[at].is_words());
        let panelled = (0..places.len()).filter(standing).any(|at| {
            let one = &self.source.matter[at];
            one.kind == Kind::Field && !one.is_picture() && !is_shade(one)
        });
        match (picture, words) {
            (None, _) => "Type only",
            (_, None) => "Pictures only",
            (Some(picture), Some(words)) => {
                let shared = picture.intersect(words).area() / words.area().max(1e-6);
                if shared > 0.5 {
                    return if panelled { "Field over the picture" } else { "Words on the picture" };
                }
                let by = words.center() - picture.center();
                let sheet = self.target.sheet;
                match (by.x / sheet.width(), by.y / sheet.height()) {
                    (x, y) if y.abs() >= x.abs() && y >= 0.0 => "Picture above",
                    (x, y) if y.abs() >= x.abs() => "Picture below",
                    (x, _) if x >= 0.0 => "Picture left",
                    _ => "Picture right",
                }
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::compose::block::WEIGHT;

    #[test]
    fn what_matters_more_costs_more_to_leave_out() {
        for pair in WEIGHT.windows(2) {
            assert!(cost_of(pair[0]) >= cost_of(pair[1]), "{pair:?}");
        }
        let distinct: std::collections::BTreeSet<u64> = WEIGHT.iter().map(|part| cost_of(*part).to_bits()).collect();
        assert!(distinct.len() >= 6, "{distinct:?}");
    }
}
