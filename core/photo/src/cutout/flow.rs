//! The least costly division of a grid of pixels into two: a minimum cut, found as a maximum flow through two search trees
//! (Y. Boykov, V. Kolmogorov, "An Experimental Comparison of Min-Cut/Max-Flow Algorithms for Energy Minimization in Vision", 2004).

use std::collections::VecDeque;

/// The eight neighbours of a pixel; the opposite of one is found at 7 less its place.
pub(super) const AROUND: [(isize, isize); 8] = [(-1, -1), (0, -1), (1, -1), (-1, 0), (1, 0), (-1, 1), (0, 1), (1, 1)];

const FREE: u8 = 255;
const ORPHAN: u8 = 254;
const ROOT: u8 = 253;

/// A grid whose pixels are to be divided.
pub(super) struct Grid {
    width: usize,
    height: usize,
    /// What is left of what each pixel may take from the source (above 0) or give to the sink (below 0).
    open: Vec<i32>,
    /// What is left of what may flow to each of its eight neighbours.
    room: Vec<[i32; 8]>,
    /// The neighbour it was reached from, or how it stands.
    parent: Vec<u8>,
    /// Whether it was reached from the sink.
    from_sink: Vec<bool>,
    /// How far it was from its root when that was last looked at, and when that was.
    far: Vec<(u32, u32)>,
}

impl Grid {
    /// A grid: for each pixel what it costs to lie outside less what it costs to lie inside (whole numbers), and for each of its
    /// neighbours to the right and below what it costs to be divided from it.
    pub(super) fn new(
        (width, height): (usize, usize),
        outside_less_inside: Vec<i32>,
        apart: impl Fn(usize, usize) -> i32,
    ) -> Self {
        let count = width * height;
        let mut grid = Self {
            width,
            height,
            open: outside_less_inside,
            room: vec![[0; 8]; count],
            parent: vec![FREE; count],
            from_sink: vec![false; count],
            far: vec![(0, 0); count],
        };
        for at in 0..count {
            for side in 4..8 {
                if let Some(other) = grid.neighbour(at, side) {
                    let cost = apart(at, other).max(0);
                    grid.room[at][side] = cost;
                    grid.room[other][7 - side] = cost;
                }
            }
        }
        grid
    }

    fn neighbour(&self, at: usize, side: usize) -> Option<usize> {
        let (dx, dy) = AROUND[side];
        let (x, y) = ((at % self.width) as isize + dx, (at / self.width) as isize + dy);
        let inside = x >= 0 && y >= 0 && x < self.width as isize && y < self.height as isize;
        inside.then(|| y as usize * self.width + x as usize)
    }

    /// The neighbour of a pixel by its side, where that is known to be there.
    fn beside(&self, at: usize, side: u8) -> usize {
        let (dx, dy) = AROUND[side as usize];
        (at as isize + dy * self.width as isize + dx) as usize
    }

    /// Divides the grid; true for pixels inside. What belongs to neither lies outside.
    pub(super) fn divided(mut self) -> Vec<bool> {
        let mut active: VecDeque<usize> = VecDeque::new();
        for at in 0..self.open.len() {
            if self.open[at] != 0 {
                self.parent[at] = ROOT;
                self.from_sink[at] = self.open[at] < 0;
                self.far[at] = (1, 0);
                active.push_back(at);
            }
        }
        let mut time = 0;
        let mut orphans: VecDeque<usize> = VecDeque::new();
        while let Some(at) = active.pop_front() {
            // One pixel may open several ways, one after the other.
            while self.parent[at] != FREE {
                let Some((from, side)) = self.grown(at, &mut active) else { break };
                time += 1;
                self.push(from, side, &mut orphans);
                while let Some(orphan) = orphans.pop_front() {
                    self.adopt(orphan, time, &mut orphans, &mut active);
                }
            }
        }
        (0..self.open.len()).map(|at| self.parent[at] != FREE && !self.from_sink[at]).collect()
    }

    /// Takes free neighbours into the tree of a pixel, until one is of the other tree: then the step from the source's tree to it.
    fn grown(&mut self, at: usize, active: &mut VecDeque<usize>) -> Option<(usize, u8)> {
        let sink = self.from_sink[at];
        for side in 0..8u8 {
            let Some(other) = self.neighbour(at, side as usize) else { continue };
            let room = if sink { self.room[other][7 - side as usize] } else { self.room[at][side as usize] };
            if room == 0 {
                continue;
            }
            if self.parent[other] == FREE {
                self.parent[other] = 7 - side;
                self.from_sink[other] = sink;
                self.far[other] = (self.far[at].0 + 1, self.far[at].1);
                active.push_back(other);
            } else if self.from_sink[other] != sink {
                return Some(if sink { (other, 7 - side) } else { (at, side) });
            } else if self.far[other].1 <= self.far[at].1 && self.far[other].0 > self.far[at].0 + 1 {
                // A shorter way to its root.
                self.parent[other] = 7 - side;
                self.far[other] = (self.far[at].0 + 1, self.far[at].1);
            }
        }
        None
    }

    /// Sends as much as there is room for along the way that was found.
    fn push(&mut self, from: usize, side: u8, orphans: &mut VecDeque<usize>) {
        let to = self.beside(from, side);
        let mut most = self.room[from][side as usize];
        let mut at = from;
        while self.parent[at] != ROOT {
            let up = self.parent[at];
            let above = self.beside(at, up);
            most = most.min(self.room[above][7 - up as usize]);
            at = above;
        }
        most = most.min(self.open[at]);
        let mut at = to;
        while self.parent[at] != ROOT {
            let up = self.parent[at];
            most = most.min(self.room[at][up as usize]);
            at = self.beside(at, up);
        }
        most = most.min(-self.open[at]);
        self.room[from][side as usize] -= most;
        self.room[to][7 - side as usize] += most;
        let mut at = from;
        while self.parent[at] != ROOT {
            let up = self.parent[at];
            let above = self.beside(at, up);
            self.room[at][up as usize] += most;
            self.room[above][7 - up as usize] -= most;
            if self.room[above][7 - up as usize] == 0 {
                self.parent[at] = ORPHAN;
                orphans.push_front(at);
            }
            at = above;
        }
        self.open[at] -= most;
        if self.open[at] == 0 {
            self.parent[at] = ORPHAN;
            orphans.push_front(at);
        }
        let mut at = to;
        while self.parent[at] != ROOT {
            let up = self.parent[at];
            let below = self.beside(at, up);
            self.room[at][up as usize] -= most;
            self.room[below][7 - up as usize] += most;
            if self.room[at][up as usize] == 0 {
                self.parent[at] = ORPHAN;
                orphans.push_front(at);
            }
            at = below;
        }
        self.open[at] += most;
        if self.open[at] == 0 {
            self.parent[at] = ORPHAN;
            orphans.push_front(at);
        }
    }

    /// Finds a new parent for a pixel that has lost its own, or lets it go.
    fn adopt(&mut self, at: usize, time: u32, orphans: &mut VecDeque<usize>, active: &mut VecDeque<usize>) {
        let sink = self.from_sink[at];
        let leads = |grid: &Self, other: usize, side: u8| {
            // Room for what flows between the two on the way from the source or to the sink.
            if sink { grid.room[at][side as usize] } else { grid.room[other][7 - side as usize] }
        };
        let mut best: Option<(u8, u32)> = None;
        for side in 0..8u8 {
            let Some(other) = self.neighbour(at, side as usize) else { continue };
            let tied = self.parent[other] != FREE && self.from_sink[other] == sink && leads(self, other, side) > 0;
            if tied
                && let Some(far) = self.root_distance(other, time)
                && best.is_none_or(|(_, least)| far < least)
            {
                best = Some((side, far));
            }
        }
        if let Some((side, far)) = best {
            self.parent[at] = side;
            self.far[at] = (far + 1, time);
            return;
        }
        for side in 0..8u8 {
            let Some(other) = self.neighbour(at, side as usize) else { continue };
            if self.parent[other] == FREE || self.from_sink[other] != sink {
                continue;
            }
            if leads(self, other, side) > 0 {
                active.push_back(other);
            }
            if self.parent[other] == 7 - side {
                self.parent[other] = ORPHAN;
                orphans.push_back(other);
            }
        }
        self.parent[at] = FREE;
    }

    /// How far a pixel is from its root; nothing where its way up ends in an orphan.
    fn root_distance(&mut self, start: usize, time: u32) -> Option<u32> {
        let (mut at, mut far) = (start, 0);
        loop {
            if self.far[at].1 == time && self.parent[at] < ROOT {
                far += self.far[at].0;
                break;
            }
            far += 1;
            match self.parent[at] {
                ROOT => {
                    self.far[at] = (1, time);
                    break;
                }
                ORPHAN | FREE => return None,
                up => at = self.beside(at, up),
            }
        }
        // The way is remembered, so that it is not walked again in this round.
        let (mut at, mut left) = (start, far);
        while self.far[at].1 != time {
            self.far[at] = (left, time);
            left -= 1;
            at = self.beside(at, self.parent[at]);
        }
        Some(far)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    /// What a division costs.
    fn cost(size: (usize, usize), ends: &[i32], apart: &dyn Fn(usize, usize) -> i32, inside: &[bool]) -> i64 {
        let mut sum = 0i64;
        for at in 0..ends.len() {
            // To lie outside costs what is above 0, to lie inside what is below.
            sum += i64::from(if inside[at] { (-ends[at]).max(0) } else { ends[at].max(0) });
            let (x, y) = ((at % size.0) as isize, (at / size.0) as isize);
            for (dx, dy) in &AROUND[4..] {
                let (x, y) = (x + dx, y + dy);
                if x >= 0 && y >= 0 && x < size.0 as isize && y < size.1 as isize {
                    let other = y as usize * size.0 + x as usize;
                    if inside[at] != inside[other] {
                        sum += i64::from(apart(at, other));
                    }
                }
            }
        }
        sum
    }

    proptest! {
        /// Of all divisions of a small grid, none costs less.
        #[test]
        fn no_division_costs_less(ends in prop::collection::vec(-20i32..20, 12), costs in prop::collection::vec(0i32..12, 144)) {
            let size = (4, 3);
            let apart = |a: usize, b: usize| costs[a * 12 + b];
            let found = Grid::new(size, ends.clone(), apart).divided();
            let own = cost(size, &ends, &apart, &found);
            let least = (0..1usize << 12)
                .map(|bits| {
                    let inside: Vec<bool> = (0..12).map(|at| bits >> at & 1 == 1).collect();
                    cost(size, &ends, &apart, &inside)
                })
                .min()
                .unwrap();
            prop_assert_eq!(own, least);
        }
    }
}
