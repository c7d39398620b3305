//! Writes the staged subjects of the tests, what of them is subject, and what is found to be without a word and with a box around it, as
//! PNG, for comparing with other programs (`tools/compare_cutouts.py`). Usage: staged_subjects FOLDER

use std::path::PathBuf;

use vatman_document::{BrushStroke, Focus};
use vatman_photo::{Cover, CutHints, Straight, cut_out, encode_png};
use vatman_units::Ratio;

#[path = "../src/cutout/tests/made.rs"]
mod made;

use made::{GroundKind, H, THINGS, W, staged};

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let folder = PathBuf::from(std::env::args().nth(1).ok_or("a folder for the pictures")?);
    std::fs::create_dir_all(&folder)?;
    let write = |name: String, picture: &Straight| -> Result<(), Box<dyn std::error::Error>> {
        Ok(std::fs::write(folder.join(name), encode_png(picture, 72)?)?)
    };
    for kind in GroundKind::ALL {
        for thing in THINGS {
            for seed in [11, 29] {
                let (data, truth) = staged(thing, kind, seed, thing.stands_in_a_shadow());
                let picture = Straight::new(W as u32, H as u32, data).ok_or("four bytes a pixel")?;
                let found = cut_out(&picture, CutHints::default(), &|_| true).ok_or("it was given up")?;
                let around = around(&truth);
                let hints = CutHints { keep: &[], remove: &around };
                let boxed = cut_out(&picture, hints, &|_| true).ok_or("it was given up")?;
                let data = truth.iter().map(|share| (share * 255.0 + 0.5) as u8).collect();
                let truth = Cover { width: W as u32, height: H as u32, data };
                let name = format!("{kind:?}-{thing:?}-{seed}");
                write(format!("{name}.png"), &picture)?;
                write(format!("{name}-truth.png"), &truth.picture())?;
                write(format!("{name}-found.png"), &found.sized(W as u32, H as u32))?;
                write(format!("{name}-boxed.png"), &boxed.sized(W as u32, H as u32))?;
            }
        }
    }
    Ok(())
}

/// Strokes over all that lies beyond the true box around a subject, four pixels wider.
fn around(truth: &[f32]) -> Vec<BrushStroke> {
    let inside = |at: &usize| truth[*at] > 0.5;
    let (mut left, mut top, mut right, mut foot) = (W, H, 0, 0);
    for at in (0..W * H).filter(inside) {
        let (x, y) = (at % W, at / W);
        (left, top, right, foot) = (left.min(x), top.min(y), right.max(x + 1), foot.max(y + 1));
    }
    let longer = W.max(H) as f64;
    let radius = 0.01 * longer;
    (0..60)
        .map(|ring| {
            let out = 4.0 + radius * (1.0 + 1.5 * f64::from(ring));
            let (left, right) = (left as f64 - out, right as f64 + out);
            let (top, foot) = (top as f64 - out, foot as f64 + out);
            let points = [(left, top), (right, top), (right, foot), (left, foot), (left, top)];
            let point = |(x, y): (f64, f64)| Focus { x: Ratio::new(x / W as f64), y: Ratio::new(y / H as f64) };
            BrushStroke {
                points: points.map(point).to_vec(),
                radius: Ratio::new(radius / longer),
                hardness: Ratio::ONE,
                strength: Ratio::ONE,
                erases: false,
            }
        })
        .collect()
}
