//! Writes the staged subjects of the tests, what of them is subject, and what is found to be, as PNG, for comparing with other programs
//! (`tools/compare_cutouts.py`). Usage: staged_subjects FOLDER

use std::path::PathBuf;

use vatman_photo::{Cover, CutHints, Straight, cut_out, encode_png};

#[path = "../src/cutout/tests/made.rs"]
mod made;

use made::{GroundKind, H, THINGS, W, staged};

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let folder = PathBuf::from(std::env::args().nth(1).ok_or("a folder for the pictures")?);
    std::fs::create_dir_all(&folder)?;
    let write = |name: String, picture: &Straight| -> Result<(), Box<dyn std::error::Error>> {
        Ok(std::fs::write(folder.join(name), encode_png(picture, 72)?)?)
    };
    for kind in [GroundKind::Plain, GroundKind::Gradient, GroundKind::Textured, GroundKind::Busy] {
        for thing in THINGS {
            for seed in [11, 29] {
                let (data, truth) = staged(thing, kind, seed, thing.stands_in_a_shadow());
                let picture = Straight::new(W as u32, H as u32, data).ok_or("four bytes a pixel")?;
                let found = cut_out(&picture, CutHints::default(), &|_| true).ok_or("it was given up")?;
                let data = truth.iter().map(|share| (share * 255.0 + 0.5) as u8).collect();
                let truth = Cover { width: W as u32, height: H as u32, data };
                let name = format!("{kind:?}-{thing:?}-{seed}");
                write(format!("{name}.png"), &picture)?;
                write(format!("{name}-truth.png"), &truth.picture())?;
                write(format!("{name}-found.png"), &found.sized(W as u32, H as u32))?;
            }
        }
    }
    Ok(())
}
