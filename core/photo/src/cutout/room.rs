//! How much room there is around a pixel in which the picture is even: the radius of the largest disc without a steep step that it lies in
//! (its size in a granulometry by openings; G. Matheron, "Random sets and integral geometry", 1975). A busy ground is even in small parts
//! only; a face or a coat in front of it in large ones.

use super::subject::pieces;
use super::work::Work;

/// Each radius is so much larger than the one before.
const BY: f32 = 1.35;
/// Steps of OKLab a pixel that are steep nowhere.
const EVEN: f32 = 0.004;

/// The room around each pixel in pixels, where half of what lies along the border is steep.
pub(super) fn rooms(work: &Work, steep: &[f32], ring: &[usize]) -> Vec<f32> {
    let mut along: Vec<f32> = ring.iter().map(|at| steep[*at]).collect();
    along.sort_by(f32::total_cmp);
    let limit = along.get(along.len() / 2).copied().unwrap_or(0.0).max(EVEN);
    let to_steep = distances(work, |at| steep[at] > limit);
    let mut room: Vec<f32> = to_steep.iter().map(|far| far.min(1.0)).collect();
    let mut radius = 2.0;
    while radius < work.longer() as f32 / 2.0 {
        let to_middle = distances(work, |at| to_steep[at] >= radius);
        for (room, far) in room.iter_mut().zip(&to_middle) {
            if *far < radius {
                *room = radius;
            }
        }
        radius *= BY;
    }
    room
}

/// How much more room there is around each pixel than along most of the border, from 0, no more, to 1, twice as much. What is open to the
/// border is ground, however even it is.
pub(super) fn roomier(work: &Work, rooms: &[f32], border: &[bool]) -> Vec<f32> {
    let mut along: Vec<f32> = (0..work.count()).filter(|at| border[*at]).map(|at| rooms[at]).collect();
    along.sort_by(f32::total_cmp);
    let Some(most) = along.get(along.len() * 19 / 20) else { return vec![0.0; work.count()] };
    let mut out: Vec<f32> = rooms.iter().map(|room| (room / most.max(2.0)).log2().clamp(0.0, 1.0)).collect();
    let wide: Vec<bool> = out.iter().map(|room| *room > 0.0).collect();
    for piece in pieces(work, &wide, true) {
        if piece.iter().any(|at| border[*at]) {
            piece.iter().for_each(|at| out[*at] = 0.0);
        }
    }
    out
}

/// How far each pixel lies from the nearest that `is`, in pixels, by steps of 1 and of the root of two (a chamfer; G. Borgefors, "Distance
/// transformations in digital images", 1986).
fn distances(work: &Work, is: impl Fn(usize) -> bool) -> Vec<f32> {
    const BEFORE: [(isize, isize, f32); 4] =
        [(-1, 0, 1.0), (0, -1, 1.0), (-1, -1, std::f32::consts::SQRT_2), (1, -1, std::f32::consts::SQRT_2)];
    let (width, height) = (work.width as isize, work.height as isize);
    let mut out: Vec<f32> = (0..work.count()).map(|at| if is(at) { 0.0 } else { 1e9 }).collect();
    let mut look = |x: isize, y: isize, turn: isize| {
        let mut own = out[(y * width + x) as usize];
        for (dx, dy, far) in BEFORE {
            let (x, y) = (x + dx * turn, y + dy * turn);
            if (0..width).contains(&x) && (0..height).contains(&y) {
                own = own.min(out[(y * width + x) as usize] + far);
            }
        }
        out[(y * width + x) as usize] = own;
    };
    (0..height).for_each(|y| (0..width).for_each(|x| look(x, y, 1)));
    (0..height).rev().for_each(|y| (0..width).rev().for_each(|x| look(x, y, -1)));
    out
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::Straight;

    const W: usize = 120;
    const H: usize = 90;

    fn grey() -> Work {
        Work::of(&Straight::new(W as u32, H as u32, vec![128; W * H * 4]).unwrap(), 380)
    }

    /// Steep all over, but for a disc, a thin bar, and an area at the left edge.
    fn steep() -> Vec<f32> {
        let even = |x: usize, y: usize| {
            (x as f32 - 80.0).hypot(y as f32 - 40.0) < 20.5
                || (76..80).contains(&y) && x > 30
                || x < 26 && (10..80).contains(&y)
        };
        (0..W * H).map(|at| if even(at % W, at / W) { 0.0 } else { [0.04, 0.06][(at % W + at / W) % 2] }).collect()
    }

    fn ring() -> Vec<usize> {
        (0..W * H).filter(|at| at % W < 3 || at % W >= W - 3 || at / W < 3 || at / W >= H - 3).collect()
    }

    #[test]
    fn the_room_is_that_of_the_largest_disc_a_pixel_lies_in() {
        let rooms = rooms(&grey(), &steep(), &ring());
        let at = |x: usize, y: usize| rooms[y * W + x];
        // Radii go up by steps.
        assert!((20.0 / BY..=21.5).contains(&at(80, 40)), "{}", at(80, 40));
        assert_eq!(at(80, 40), at(80, 26), "near the rim as in the middle");
        assert!(at(60, 78) <= 2.0 && at(60, 70) <= 1.0, "{}", at(60, 78));
    }

    #[test]
    fn what_is_open_to_the_border_is_ground_however_even() {
        let border: Vec<bool> = {
            let ring = ring();
            (0..W * H).map(|at| ring.binary_search(&at).is_ok() && at % W >= 3 || at % W == 0 && at / W == 40).collect()
        };
        let roomy = roomier(&grey(), &rooms(&grey(), &steep(), &ring()), &border);
        assert!(roomy[40 * W + 80] > 0.9 && roomy[40 * W + 15] == 0.0 && roomy[5 * W + 60] == 0.0);
        assert!(roomier(&grey(), &vec![9.0; W * H], &vec![false; W * H]).iter().all(|own| *own == 0.0));
    }

    #[test]
    fn distances_go_around_nothing() {
        let far = distances(&grey(), |at| at == 40 * W + 60);
        assert_eq!([far[40 * W + 70], far[10 * W + 60], far[40 * W + 60]], [10.0, 30.0, 0.0]);
        assert!((far[50 * W + 50] - 10.0 * std::f32::consts::SQRT_2).abs() < 1e-3);
    }
}
