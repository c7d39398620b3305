//! What does not flow: things that ride on others, and things held to the edges they are near.

use kurbo::{Point, Rect, Size};

use crate::adapt::flow::Flow;
use crate::adapt::matter::{Axis, Rider};
use crate::adapt::rows::ink_of;

/// Places across and down at which room is looked for.
const STEPS: usize = 8;
/// Sizes tried, the largest first, until one keeps off words.
const SMALLER: [f64; 4] = [1.0, 0.8, 0.62, 0.45];

impl Flow<'_, '_> {
    /// What rides keeps its place on its host, what is pinned its distance to the edges.
    pub(super) fn riders(&mut self) {
        let scale = self.target.scale;
        for rider in &self.source.riders {
            match rider {
                Rider::On { item, host, at } => {
                    let Some(on) = self.places[*host] else { continue };
                    let one = &self.source.matter[*item];
                    let least = self.target.least_scale(one);
                    // It grows with its host, but no more than the sheet does.
                    let host_scale = (on.rect.area() / self.source.matter[*host].rect.area().max(1.0)).sqrt();
                    let unit = host_scale.min(scale * 1.1).max(scale * 0.6).max(least);
                    let centre = Point::new(on.rect.x0 + on.rect.width() * at.x, on.rect.y0 + on.rect.height() * at.y);
                    let own = one.rect.size() * unit;
                    let drawn_off = (one.rect.center() - one.seen.center()) * unit;
                    let mut rect = Rect::from_center_size(centre + drawn_off, own);
                    if one.is_words() {
                        rect = held_in(rect, self.target.content);
                    }
                    if let Some((rect, unit)) = self.clear_of_words(*item, rect, unit) {
                        self.set(*item, rect, unit);
                    }
                }
                Rider::Everywhere { item } => self.set(*item, self.to_bleed(self.target.sheet), scale),
                Rider::Pinned { item, edge } => {
                    let one = &self.source.matter[*item];
                    let (from, to) = (self.source.sheet, self.target.sheet);
                    let short = to.width().min(to.height());
                    let full = scale.min(short * 0.5 / one.rect.width().max(one.rect.height()).max(1.0));
                    let at_edge = |unit: f64| {
                        let size: Size = one.rect.size() * unit;
                        let place = |edge: i8, low: f64, high: f64, start: f64, end: f64, own: f64, to: (f64, f64)| {
                            match edge {
                                -1 => to.0 + (start - low) * unit,
                                1 => to.1 - (high - end) * unit - own,
                                _ => {
                                    to.0 + (to.1 - to.0) * (f64::midpoint(start, end) - low) / (high - low).max(1.0)
                                        - own / 2.0
                                }
                            }
                        };
                        let r = one.rect;
                        let x = place(edge.0, from.x0, from.x1, r.x0, r.x1, size.width, (to.x0, to.x1));
                        let y = place(edge.1, from.y0, from.y1, r.y0, r.y1, size.height, (to.y0, to.y1));
                        (Rect::from_origin_size((x, y), size), unit)
                    };
                    // What reaches beyond the sheet is cut by it, and may lie behind words.
                    let cut = from.union(one.seen).area() > from.area() * 1.001;
                    let words = if cut { Vec::new() } else { self.words_beside(*item) };
                    let found =
                        SMALLER.map(|share| at_edge(full * share)).into_iter().find(|(rect, _)| free(*rect, &words));
                    if let Some((rect, unit)) = found {
                        self.set(*item, rect, unit);
                    }
                }
            }
        }
    }
}

impl Flow<'_, '_> {
    /// Where the letters stand that an item did not touch in the source.
    fn words_beside(&self, item: usize) -> Vec<Rect> {
        let seen = self.source.matter[item].seen;
        let apart = |at: &usize| {
            let other = &self.source.matter[*at];
            *at != item && other.is_words() && other.ink.intersect(seen).area() <= 0.0
        };
        let all = (0..self.places.len()).filter(apart);
        all.filter_map(|at| ink_of(self.source, &self.places, at, self.typesetter)).collect()
    }

    /// A graphic keeps off words it did not touch: it moves the least it has to, smaller if need be; nothing where there is no room.
    fn clear_of_words(&self, item: usize, rect: Rect, unit: f64) -> Option<(Rect, f64)> {
        let one = &self.source.matter[item];
        if one.is_words() {
            return Some((rect, unit));
        }
        let words = self.words_beside(item);
        if free(rect, &words) {
            return Some((rect, unit));
        }
        let held = self.target.content;
        SMALLER.into_iter().find_map(|share| {
            let size = rect.size() * share;
            let gap = size.height * 0.12;
            let at = move |(column, row): (usize, usize)| {
                let (wide, high) = ((held.width() - size.width).max(0.0), (held.height() - size.height).max(0.0));
                let (x, y) = (column as f64 / STEPS as f64, row as f64 / STEPS as f64);
                Rect::from_origin_size((held.x0 + wide * x, held.y0 + high * y), size)
            };
            let all = (0..=STEPS).flat_map(|row| (0..=STEPS).map(move |column| (column, row))).map(at);
            let far = |rect: &Rect, to: &Rect| rect.center().distance(to.center());
            let clear = all.filter(|place| free(place.inflate(gap, gap), &words));
            clear.min_by(|a, b| far(a, &rect).total_cmp(&far(b, &rect))).map(|place| (place, unit * share))
        })
    }
}

fn free(rect: Rect, words: &[Rect]) -> bool {
    words.iter().all(|words| words.intersect(rect).area() <= 0.0)
}

/// Where something of an extent begins in a region: near the edge it was near, at that distance, else in the same proportion.
pub(crate) fn anchored(axis: Axis, own: Rect, frame: Rect, region: Rect, extent: f64, scale: f64) -> f64 {
    let (before, after) = ((axis.start(own) - axis.start(frame)).max(0.0), (axis.end(frame) - axis.end(own)).max(0.0));
    let spare = (axis.extent(region) - extent).max(0.0);
    let near = axis.extent(frame) * 0.01;
    let start = axis.start(region);
    if (before - after).abs() <= near {
        start + spare / 2.0
    } else if before < after * 0.55 {
        start + (before * scale).min(spare * 0.5).min(spare * before / (before + after).max(1e-9) * 1.5)
    } else if after < before * 0.55 {
        start + spare - (after * scale).min(spare * 0.5).min(spare * after / (before + after).max(1e-9) * 1.5)
    } else {
        start + spare * before / (before + after).max(1e-9)
    }
}

/// A box moved so that it lies in another, as far as it fits.
pub(crate) fn held_in(rect: Rect, outer: Rect) -> Rect {
    let x = rect.x0.min(outer.x1 - rect.width()).max(outer.x0);
    let y = rect.y0.min(outer.y1 - rect.height()).max(outer.y0);
    Rect::from_origin_size((x, y), rect.size())
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn rect(x0: f64, x1: f64) -> Rect {
        Rect::new(x0, 0.0, x1, 10.0)
    }

    #[test]
    fn what_is_near_an_edge_keeps_its_distance_and_the_rest_its_share() {
        let (frame, region) = (rect(0.0, 1_000.0), rect(100.0, 2_100.0));
        let at = |x0: f64, x1: f64| anchored(Axis::Across, rect(x0, x1), frame, region, x1 - x0, 1.5);
        assert!(
            (at(50.0, 250.0) - (100.0 + 75.0)).abs() < 1e-9,
            "near the start, at one and a half times the distance"
        );
        assert!((at(750.0, 950.0) - (2_100.0 - 75.0 - 200.0)).abs() < 1e-9, "near the end");
        assert!((at(400.0, 600.0) - (1_100.0 - 100.0)).abs() < 1e-9, "in the middle");
        // Between, at the same share of what is spare.
        let spare = 1_800.0;
        assert!((at(300.0, 500.0) - (100.0 + spare * 300.0 / 800.0)).abs() < 1e-9);
        // Where there is no room beside it, it begins where the region does.
        assert!((anchored(Axis::Across, rect(50.0, 250.0), frame, rect(0.0, 150.0), 200.0, 1.0)).abs() < 1e-9);
    }

    proptest! {
        #[test]
        fn it_stays_in_its_region_and_mirrors(
            (from, length) in (0.0f64..800.0, 10.0f64..200.0),
            (start, wide, extent, scale) in (-200.0f64..200.0, 250.0f64..2_000.0, 10.0f64..240.0, 0.3f64..3.0),
        ) {
            let (frame, region) = (rect(0.0, 1_000.0), rect(start, start + wide));
            let own = rect(from, from + length);
            let at = anchored(Axis::Across, own, frame, region, extent, scale);
            prop_assert!(at >= start - 1e-6 && at + extent <= start + wide + 1e-6);
            let mirrored = rect(1_000.0 - from - length, 1_000.0 - from);
            let back = anchored(Axis::Across, mirrored, frame, region, extent, scale);
            prop_assert!((back - (2.0 * start + wide - at - extent)).abs() < 1e-6, "{at} {back}");
        }

        #[test]
        fn a_box_is_held_in_another_as_far_as_it_fits(x in -500.0f64..500.0, y in -500.0f64..500.0, w in 1.0f64..90.0) {
            let outer = Rect::new(-100.0, -50.0, 100.0, 50.0);
            let held = held_in(Rect::new(x, y, x + w, y + w), outer);
            prop_assert!(outer.union(held).area() <= outer.area() + 1e-6);
            prop_assert!((held.width() - w).abs() < 1e-9);
            // What is inside already stays.
            prop_assert_eq!(held_in(held, outer), held);
        }
    }
}
