//! Subjects whose cover is known, drawn on grounds from plain to busy: for the tests, and for comparing with other programs.

/// A number from 0 to 1 for a place.
fn noise(x: i32, y: i32, seed: u32) -> f32 {
    let mut h =
        (x as u32).wrapping_mul(0x85eb_ca6b) ^ (y as u32).wrapping_mul(0xc2b2_ae35) ^ seed.wrapping_mul(0x27d4_eb2f);
    h = (h ^ (h >> 15)).wrapping_mul(0x2c1b_3c6d);
    h = (h ^ (h >> 12)).wrapping_mul(0x297a_2d39);
    (h ^ (h >> 15)) as f32 / u32::MAX as f32
}

/// The same, smooth over cells of a size.
fn cloud(x: f32, y: f32, cell: f32, seed: u32) -> f32 {
    let (u, v) = (x / cell, y / cell);
    let (i, j) = (u.floor() as i32, v.floor() as i32);
    let (s, t) = (u - i as f32, v - j as f32);
    let (s, t) = (s * s * (3.0 - 2.0 * s), t * t * (3.0 - 2.0 * t));
    let top = noise(i, j, seed) + (noise(i + 1, j, seed) - noise(i, j, seed)) * s;
    let foot = noise(i, j + 1, seed) + (noise(i + 1, j + 1, seed) - noise(i, j + 1, seed)) * s;
    top + (foot - top) * t
}

/// Width in pixels.
pub const W: usize = 480;
/// Height in pixels.
pub const H: usize = 400;

/// What a thing stands on.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum GroundKind {
    /// One colour.
    Plain,
    /// Colours that change evenly.
    Gradient,
    /// A table before a wall, in the light of a lamp.
    Table,
    /// A cloth.
    Textured,
    /// Patches of many colours.
    Busy,
}

impl GroundKind {
    /// All of them.
    #[allow(dead_code, reason = "the comparison with other programs goes through all, a test through some")]
    pub const ALL: [Self; 5] = [Self::Plain, Self::Gradient, Self::Table, Self::Textured, Self::Busy];
}

/// What stands there.
#[derive(Debug, Clone, Copy)]
pub enum Thing {
    /// A mug with a handle: a hole.
    Mug,
    /// Thin bars of a rack.
    Bars,
    /// A round body with hair around it.
    Hair,
    /// White on white, lit from one side.
    Pale,
    /// A body that leaves the picture at the foot.
    Bust,
    /// A leaf with a pattern of its own.
    Leaf,
}

impl Thing {
    /// Whether it is staged with a shadow.
    pub fn stands_in_a_shadow(self) -> bool {
        matches!(self, Self::Mug | Self::Leaf)
    }
}

/// All of them.
pub const THINGS: [Thing; 6] = [Thing::Mug, Thing::Bars, Thing::Hair, Thing::Pale, Thing::Bust, Thing::Leaf];

fn ground(kind: GroundKind, seed: u32, x: f32, y: f32) -> [f32; 3] {
    let (u, v) = (x / W as f32, y / H as f32);
    let grain = (noise(x as i32, y as i32, seed ^ 77) - 0.5) * 0.012;
    let tone = |base: [f32; 3], by: f32| base.map(|value| value + by);
    let own = noise(3, 9, seed);
    let color = match kind {
        GroundKind::Plain => tone([0.92, 0.91, 0.89].map(|value| value - 0.3 * own), 0.0),
        GroundKind::Gradient => tone(
            [0.35 + 0.4 * v, 0.55 + 0.2 * u, 0.72 - 0.2 * v + 0.1 * own],
            -0.15 * ((u - 0.5).powi(2) + (v - 0.5).powi(2)),
        ),
        GroundKind::Table => {
            let lamp = 0.55 + 0.5 * (-2.5 * ((u - 0.2 - 0.3 * own).powi(2) + (v - 0.15).powi(2))).exp();
            let edge = ((v - 0.52) * 60.0 + 0.5).clamp(0.0, 1.0);
            let edge = edge * edge * (3.0 - 2.0 * edge);
            let (wall, table) = ([0.86, 0.85, 0.82], [0.62 - 0.2 * own, 0.47, 0.36]);
            std::array::from_fn(|c| (wall[c] + (table[c] - wall[c]) * edge) * lamp)
        }
        GroundKind::Textured => {
            let weave = 0.05 * ((x * 0.7).sin() * (y * 0.55).sin())
                + 0.12 * (cloud(x, y, 9.0, seed) - 0.5)
                + 0.08 * (cloud(x, y, 40.0, seed) - 0.5);
            tone([0.66, 0.58 - 0.2 * own, 0.46], weave)
        }
        GroundKind::Busy => {
            let part = |seed| cloud(x, y, 55.0, seed);
            let spots = if cloud(x, y, 30.0, seed ^ 5) > 0.68 { 0.22 } else { 0.0 };
            [0.25 + 0.5 * part(seed), 0.3 + 0.4 * part(seed ^ 1), 0.25 + 0.4 * part(seed ^ 2) + spots]
                .map(|value: f32| value.clamp(0.0, 1.0))
        }
    };
    color.map(|value| value + grain)
}

fn near_segment(x: f32, y: f32, a: (f32, f32), b: (f32, f32)) -> f32 {
    let (vx, vy) = (b.0 - a.0, b.1 - a.1);
    let along = (((x - a.0) * vx + (y - a.1) * vy) / (vx * vx + vy * vy)).clamp(0.0, 1.0);
    (x - a.0 - vx * along).hypot(y - a.1 - vy * along)
}

/// How far inside a thing a place lies, in pixels; below 0 outside.
fn inside(thing: Thing, seed: u32, x: f32, y: f32) -> f32 {
    let (cx, cy) = (W as f32 * (0.45 + 0.1 * noise(1, 1, seed)), H as f32 * 0.52);
    let (dx, dy) = (x - cx, y - cy);
    match thing {
        Thing::Mug => {
            let body = (70.0 - dx.abs()).min(90.0 - dy.abs());
            let ring = 14.0 - ((dx - 78.0).hypot(dy) - 44.0).abs();
            body.max(if dx > 40.0 { ring } else { -99.0 })
        }
        Thing::Bars => {
            let upright = (0..5)
                .map(|n| 4.0 - (dx - (n as f32 - 2.0) * 38.0).abs())
                .fold(f32::MIN, f32::max)
                .min(110.0 - dy.abs());
            let across = [-80.0, 0.0, 80.0]
                .map(|at| 5.0 - (dy - at as f32).abs())
                .into_iter()
                .fold(f32::MIN, f32::max)
                .min(95.0 - dx.abs());
            upright.max(across)
        }
        Thing::Hair => {
            let body = 80.0 - dx.hypot(dy * 0.9);
            let hair = (0..48).map(|n| {
                let turn = n as f32 / 48.0 * std::f32::consts::TAU + 0.05 * noise(n, 0, seed);
                let (from, to) = (70.0, 104.0 + 22.0 * noise(n, 1, seed));
                let end = turn + 0.12 * (noise(n, 2, seed) - 0.5);
                1.1 - near_segment(dx, dy, (turn.cos() * from, turn.sin() * from), (end.cos() * to, end.sin() * to))
            });
            hair.fold(body, f32::max)
        }
        Thing::Pale => 85.0 - dx.hypot(dy) + 6.0 * (dy.atan2(dx) * 3.0).sin(),
        Thing::Bust => {
            let head = 58.0 - dx.hypot(dy + 70.0);
            let body = (105.0 - dx.abs()).min(dy - 0.0) + 12.0 * (1.0 - (dx / 105.0).powi(2));
            head.max(body.min(105.0 - dx.abs()))
        }
        Thing::Leaf => {
            let along = dy / 120.0;
            let wide = 62.0 * (1.0 - along * along).max(0.0) * (1.0 + 0.12 * (along * 21.0).sin());
            (wide - dx.abs()).min(120.0 - dy.abs())
        }
    }
}

fn paint(thing: Thing, (seed, busy): (u32, bool), x: f32, y: f32, back: [f32; 3]) -> [f32; 3] {
    let (u, v) = (x / W as f32, y / H as f32);
    let light = 0.8 + 0.3 * (1.0 - u) - 0.15 * v;
    match thing {
        Thing::Mug => [0.62, 0.24, 0.18].map(|value: f32| value * light),
        Thing::Bars => [0.12, 0.13, 0.15].map(|value: f32| value * light),
        Thing::Hair => [0.3, 0.2, 0.12].map(|value: f32| value * (0.7 + 0.6 * noise(x as i32, y as i32 / 3, seed))),
        // Half a tone off what lies behind, with a shaded side.
        Thing::Pale if busy => [0.9, 0.89, 0.86].map(|value: f32| value * (1.06 - 0.25 * u)),
        Thing::Pale => back.map(|value| (value * 0.72 + 0.08) * (1.12 - 0.35 * u)),
        Thing::Bust => {
            let shirt = y > H as f32 * 0.55;
            if shirt {
                [0.18, 0.3, 0.5].map(|value: f32| value * light)
            } else {
                [0.78, 0.58, 0.46].map(|value: f32| value * light)
            }
        }
        Thing::Leaf => {
            let vein = 0.12 * (cloud(x, y, 7.0, seed) - 0.5) + if (x * 0.2 + y * 0.1).sin() > 0.8 { 0.1 } else { 0.0 };
            [0.2 + vein, 0.46 + vein, 0.16]
        }
    }
}

/// A picture of a thing on a ground as straight RGBA, row by row, and its true cover. `shadow` lets it stand in a soft one.
pub fn staged(thing: Thing, kind: GroundKind, seed: u32, shadow: bool) -> (Vec<u8>, Vec<f32>) {
    const FINE: usize = 3;
    let (mut data, mut truth) = (Vec::with_capacity(W * H * 4), Vec::with_capacity(W * H));
    for y in 0..H {
        for x in 0..W {
            let mut cover = 0.0;
            for sub in 0..FINE * FINE {
                let (sx, sy) = ((sub % FINE) as f32 / FINE as f32 + 0.17, (sub / FINE) as f32 / FINE as f32 + 0.17);
                cover += f32::from(inside(thing, seed, x as f32 + sx, y as f32 + sy) > 0.0);
            }
            cover /= (FINE * FINE) as f32;
            let (fx, fy) = (x as f32 + 0.5, y as f32 + 0.5);
            let mut back = ground(kind, seed, fx, fy);
            let plain = back;
            if shadow {
                let (dx, dy) = ((fx - W as f32 * 0.5) / 150.0, (fy - H as f32 * 0.76) / 26.0);
                let dark = 0.35 * (-(dx * dx + dy * dy)).exp();
                back = back.map(|value| value * (1.0 - dark));
            }
            let own = paint(thing, (seed, kind == GroundKind::Busy), fx, fy, plain);
            let grain = (noise(x as i32, y as i32, seed ^ 991) - 0.5) * 0.01;
            data.extend(
                (0..3)
                    .map(|c| ((own[c] * cover + back[c] * (1.0 - cover) + grain).clamp(0.0, 1.0) * 255.0 + 0.5) as u8),
            );
            data.push(255);
            truth.push(cover);
        }
    }
    (data, truth)
}
