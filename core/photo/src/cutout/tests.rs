//! Cutting out against subjects whose cover is known: drawn here, on grounds from plain to busy.

use super::*;

mod made;

use made::{GroundKind, H, THINGS, Thing, W};

/// A picture of a thing on a ground, and its true cover.
fn staged(thing: Thing, kind: GroundKind, seed: u32, shadow: bool) -> (Straight, Vec<f32>) {
    let (data, truth) = made::staged(thing, kind, seed, shadow);
    (Straight::new(W as u32, H as u32, data).unwrap(), truth)
}

/// Intersection over union of soft covers.
fn overlap(found: &Cover, truth: &[f32]) -> f32 {
    let (mut both, mut either) = (0.0, 0.0);
    for (found, truth) in found.data.iter().zip(truth) {
        let found = f32::from(*found) / 255.0;
        both += found.min(*truth);
        either += found.max(*truth);
    }
    both / either.max(1e-6)
}

/// Harmonic mean of how much of each edge lies within two pixels of the other.
fn edge_match(found: &Cover, truth: &[f32]) -> f32 {
    let mark = |inside: &dyn Fn(usize) -> bool| -> Vec<bool> {
        (0..W * H)
            .map(|at| {
                let (x, y) = (at % W, at / W);
                inside(at)
                    && (x + 1 < W && !inside(at + 1)
                        || x > 0 && !inside(at - 1)
                        || y + 1 < H && !inside(at + W)
                        || y > 0 && !inside(at - W))
            })
            .collect()
    };
    let (a, b) = (mark(&|at| found.data[at] > 127), mark(&|at| truth[at] > 0.5));
    let near = |to: &[bool], at: usize| {
        let (x, y) = ((at % W) as isize, (at / W) as isize);
        (-2..=2).any(|dy| {
            (-2..=2).any(|dx| {
                let (x, y) = (x + dx, y + dy);
                x >= 0 && y >= 0 && x < W as isize && y < H as isize && to[y as usize * W + x as usize]
            })
        })
    };
    let share = |from: &[bool], to: &[bool]| {
        let all = from.iter().filter(|mark| **mark).count();
        let hit = (0..W * H).filter(|at| from[*at] && near(to, *at)).count();
        hit as f32 / all.max(1) as f32
    };
    let (precision, recall) = (share(&a, &b), share(&b, &a));
    2.0 * precision * recall / (precision + recall).max(1e-6)
}

fn measured(kind: GroundKind) -> (f32, f32) {
    let mut sums = (0.0, 0.0, 0.0);
    for thing in THINGS {
        for seed in [3, 11, 47] {
            let (picture, truth) = staged(thing, kind, seed, thing.stands_in_a_shadow());
            let found = cut_out(&picture, CutHints::default(), &|_| true).unwrap();
            let (own, edge) = (overlap(&found, &truth), edge_match(&found, &truth));
            sums = (sums.0 + own, sums.1 + edge, sums.2 + 1.0);
        }
    }
    (sums.0 / sums.2, sums.1 / sums.2)
}

#[test]
fn subjects_on_plain_and_gradient_grounds_are_cut_out_to_the_pixel() {
    for kind in [GroundKind::Plain, GroundKind::Gradient] {
        let (own, edge) = measured(kind);
        assert!(own >= 0.97 && edge >= 0.9, "{kind:?}: {own:.3} {edge:.3}");
    }
}

#[test]
fn subjects_on_a_table_before_a_wall_are_told_from_both() {
    let (own, edge) = measured(GroundKind::Table);
    assert!(own >= 0.85 && edge >= 0.87, "{own:.3} {edge:.3}");
}

#[test]
fn subjects_on_textured_and_busy_grounds_are_found() {
    for (kind, least, least_edge) in [(GroundKind::Textured, 0.97, 0.95), (GroundKind::Busy, 0.93, 0.9)] {
        let (own, edge) = measured(kind);
        assert!(own >= least && edge >= least_edge, "{kind:?}: {own:.3} {edge:.3}");
    }
}
