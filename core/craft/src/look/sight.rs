//! Where an item can be seen: a press where it is nearly clear means what lies below.

use kurbo::Affine;
use serde::Serialize;
use ts_rs::TS;
use vatman_document::{AssetId, ItemId, Job, Piece, Side};
use vatman_output::PixelOptions;
use vatman_photo::Straight;
use vatman_scene::{Audience, Brush, Group, Node, Scene, SceneItem};
use vatman_units::Point;

use crate::studio::Studio;

/// Below this opacity an item is nearly clear.
const CLEAR: f64 = 0.22;
/// Cells along the longer side of the box.
const CELLS: f64 = 24.0;

/// The cells of the upright box around an item in which it is nearly clear.
#[derive(Debug, Clone, PartialEq, Serialize, TS)]
pub struct Sight {
    /// Left, top, width and height of the box in CSS pixels of the sheet.
    pub at: [f64; 4],
    /// Cells across.
    pub columns: u32,
    /// Cells down.
    pub rows: u32,
    /// One letter a cell, row by row: `.` where it is nearly clear, `#` where it is seen.
    pub cells: String,
}

impl Sight {
    /// Whether it is seen at a point of the sheet, in CSS pixels; beside its box it is not.
    #[must_use]
    pub fn is_seen_at(&self, point: kurbo::Point) -> bool {
        let [x, y, w, h] = self.at;
        let cell = |at: f64, from: f64, length: f64, count: u32| {
            let share = (at - from) / length;
            (0.0..1.0).contains(&share).then(|| (share * f64::from(count)) as usize)
        };
        let (column, row) = (cell(point.x, x, w, self.columns), cell(point.y, y, h, self.rows));
        column
            .zip(row)
            .is_some_and(|(column, row)| self.cells.as_bytes().get(row * self.columns as usize + column) == Some(&b'#'))
    }
}

/// What covers more of a side than this is its ground: a press there means the side.
const GROUND: f64 = 0.85;

/// The frontmost item that is seen at a point of a side; nothing where there is only what the side stands on.
#[must_use]
pub fn item_at(studio: &Studio, job: &Job, piece: &Piece, side: &Side, point: Point) -> Option<ItemId> {
    let scene = studio.scene(job, piece, side, Audience::Stage, None);
    let at = kurbo::Point::new(point.x.to_css_px(), point.y.to_css_px());
    let sheet = scene.size.width * scene.size.height;
    let hit = |drawn: &&SceneItem| {
        let area = drawn.frame.upright().to_css_px();
        area.contains(at)
            && area.area() < sheet * GROUND
            && (drawn.behind.is_some() || cells(studio, drawn).is_none_or(|sight| sight.is_seen_at(at)))
    };
    scene.items.iter().rev().find(hit).map(|drawn| drawn.id.clone())
}

/// Where an item as drawn is nearly clear; nothing where whatever it paints is seen.
#[must_use]
pub fn sight(studio: &Studio, item: &SceneItem) -> Option<Sight> {
    // What it does to what lies behind is seen wherever it lies.
    let sheer = |id: &AssetId| studio.pictures.info(id).is_some_and(|info| info.alpha);
    if item.behind.is_some() || !lets_through(&item.node, 1.0, &sheer) {
        return None;
    }
    cells(studio, item)
}

/// What an item paints itself, in the upright box around it, on clear paper.
pub(crate) fn drawn_alone(studio: &Studio, item: &SceneItem, (width, height): (u32, u32)) -> Option<Straight> {
    let at = item.frame.upright().to_css_px();
    let moved = Node::Group(Group::placed(Affine::translate(-at.origin().to_vec2()), vec![item.node.as_ref().clone()]));
    let alone = SceneItem { node: std::sync::Arc::new(moved), behind: None, below: None, ..item.clone() };
    let scene = Scene { size: at.size(), bleed: 0.0, ground: None, items: vec![alone], bunches: Vec::new() };
    Some(studio.pixels(&scene, PixelOptions { width, height, bleed: false, clear: true }).ok()?.straight())
}

/// The cells of an item as drawn, whatever it is made of; nothing where none is nearly clear.
fn cells(studio: &Studio, item: &SceneItem) -> Option<Sight> {
    let at = item.frame.upright().to_css_px();
    if at.width() <= 0.0 || at.height() <= 0.0 {
        return None;
    }
    let unit = CELLS / at.width().max(at.height());
    let (columns, rows) = ((at.width() * unit).ceil().max(1.0), (at.height() * unit).ceil().max(1.0));
    // Two pixels a cell each way, so that a thin shape is not missed.
    let (width, height) = (columns as u32 * 2, rows as u32 * 2);
    let pixels = drawn_alone(studio, item, (width, height))?;
    let alpha = |x: u32, y: u32| pixels.data()[(y as usize * width as usize + x as usize) * 4 + 3];
    let mut cells = String::with_capacity((columns * rows) as usize);
    for y in 0..rows as u32 {
        for x in 0..columns as u32 {
            let most = [(0, 0), (1, 0), (0, 1), (1, 1)].map(|(dx, dy)| alpha(2 * x + dx, 2 * y + dy)).into_iter().max();
            cells.push(if f64::from(most.unwrap_or(0)) < CLEAR * 255.0 { '.' } else { '#' });
        }
    }
    let at = [at.x0, at.y0, at.width(), at.height()];
    cells.contains('.').then_some(Sight { at, columns: columns as u32, rows: rows as u32, cells })
}

/// Where the lowest of what is seen of an item ends, as a share of the height of its box from the top; the whole of it where it is turned or
/// nothing is seen.
pub(crate) fn lowest(studio: &Studio, item: &SceneItem) -> f64 {
    const ROWS: u32 = 240;
    let at = item.frame.upright().to_css_px();
    if item.frame.turn.abs() > 0.01 || at.width() <= 0.0 || at.height() <= 0.0 {
        return 1.0;
    }
    let width = ((at.width() / at.height() * f64::from(ROWS)).round() as u32).clamp(1, 4_000);
    let Some(pixels) = drawn_alone(studio, item, (width, ROWS)) else { return 1.0 };
    let rows = pixels.data().chunks_exact(width as usize * 4);
    let seen = rows.enumerate().rev().find(|(_, row)| row.chunks_exact(4).any(|pixel| pixel[3] > 127));
    seen.map_or(1.0, |(row, _)| (row as f64 + 1.0) / f64::from(ROWS))
}

/// Whether any of what a node paints may be nearly clear.
fn lets_through(node: &Node, opacity: f64, sheer: &dyn Fn(&AssetId) -> bool) -> bool {
    let faint = |brush: &Brush| match brush {
        Brush::Flat(color) => color.a * opacity < CLEAR,
        Brush::Linear { stops, .. } | Brush::Radial { stops, .. } | Brush::Conic { stops, .. } => {
            stops.iter().any(|stop| stop.color.a * opacity < CLEAR)
        }
        Brush::Tile(tile) => tile.ground.is_none(),
        Brush::Image { source, .. } => opacity < CLEAR || source.may_be_clear() || sheer(&source.asset),
    };
    match node {
        Node::Group(group) => {
            let opacity = opacity * group.opacity;
            group.mask.is_some() || group.children.iter().any(|child| lets_through(child, opacity, sheer))
        }
        Node::Path(path) => path.fill.as_ref().is_some_and(faint),
        Node::Glyphs(_) => false,
        Node::Image(image) => opacity < CLEAR || image.source.may_be_clear() || sheer(&image.source.asset),
    }
}
