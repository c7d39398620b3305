//! A contact sheet: small pictures of many pieces side by side on grey.

use vatman_document::{Job, Piece, Side};
use vatman_output::PixelOptions;
use vatman_photo::{EncodeError, Straight, encode_png};
use vatman_scene::Audience;

use crate::hand_over::files::HandOverError;
use crate::studio::Studio;

/// Room for one picture, in pixels.
const CELL: u32 = 220;
const GAP: u32 = 10;
const COLUMNS: usize = 10;
const GREY: [u8; 4] = [0x8c, 0x8c, 0x8c, 0xff];

/// Small pictures, in the order they were added.
#[derive(Debug, Default)]
pub struct ContactSheet {
    cells: Vec<Straight>,
}

impl ContactSheet {
    /// A side as it fits on a contact sheet, as it leaves.
    ///
    /// # Errors
    /// [`HandOverError`] where it cannot be drawn.
    pub fn cell(studio: &Studio, job: &Job, piece: &Piece, side: &Side) -> Result<Straight, HandOverError> {
        let scene = studio.scene(job, piece, side, Audience::Output, None);
        let (w, h) = (scene.size.width, scene.size.height);
        let scale = (f64::from(CELL) / w.max(h)).min(1.0);
        let side = |length: f64| ((length * scale).round() as u32).max(1);
        let options = PixelOptions { width: side(w), height: side(h), bleed: false, clear: false };
        Ok(studio.pixels(&scene, options)?.straight())
    }

    /// Adds one more.
    pub fn add(&mut self, cell: Straight) {
        self.cells.push(cell);
    }

    /// The whole sheet as PNG.
    ///
    /// # Errors
    /// [`EncodeError`] where there is nothing on it.
    pub fn png(&self) -> Result<Vec<u8>, EncodeError> {
        let columns = self.cells.len().clamp(1, COLUMNS);
        let rows = self.cells.len().div_ceil(columns).max(1);
        let side = |count: usize| u32::try_from(count).unwrap_or(u32::MAX).saturating_mul(CELL + GAP) + GAP;
        let (w, h) = (side(columns), side(rows));
        let mut data = GREY.repeat(w as usize * h as usize);
        for (at, cell) in self.cells.iter().enumerate() {
            let start = |place: usize| GAP + u32::try_from(place).unwrap_or(0) * (CELL + GAP);
            lay(&mut data, w, cell, (start(at % columns), start(at / columns)));
        }
        let sheet = Straight::new(w, h, data).ok_or_else(EncodeError::of_nothing)?;
        encode_png(&sheet, 96)
    }
}

/// Lays a picture over a larger one `w` pixels wide.
fn lay(data: &mut [u8], w: u32, cell: &Straight, (left, top): (u32, u32)) {
    for y in 0..cell.height().min(CELL) {
        for x in 0..cell.width().min(CELL) {
            let from = ((y * cell.width() + x) * 4) as usize;
            let to = (((top + y) * w + left + x) * 4) as usize;
            let alpha = u32::from(cell.data()[from + 3]);
            for channel in 0..3 {
                let (over, under) = (u32::from(cell.data()[from + channel]), u32::from(data[to + channel]));
                data[to + channel] = ((over * alpha + under * (255 - alpha)) / 255) as u8;
            }
        }
    }
}
