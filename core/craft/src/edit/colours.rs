//! The shared colours of a job, and the grounds of its sides.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_document::{Color, Command, IdSource, Ink, Job, Paint, SideId, Swatch, SwatchId, Tint};

use vatman_photo::Inks;

use crate::refusal::Refusal;

/// Adds a shared colour.
pub fn add_colour(name: &str, color: Color, ids: &mut dyn IdSource) -> Command {
    Command::SetSwatch { id: SwatchId::fresh(ids), swatch: Some(Swatch::new(name, color)) }
}

fn swatch<'a>(job: &'a Job, id: &SwatchId) -> Result<&'a Swatch, Refusal> {
    job.swatches.get(id).ok_or_else(|| Refusal::Missing("colour", id.to_string()))
}

/// Gives a shared colour the value of another colour.
///
/// # Errors
/// [`Refusal`] where it is not there.
pub fn recolour(job: &Job, id: &SwatchId, to: &Tint) -> Result<Command, Refusal> {
    let (own, color) = (swatch(job, id)?, job.color(to));
    // An ink is that of the colour it was given with.
    let ink = own.ink.clone().filter(|_| own.color == color);
    Ok(Command::SetSwatch { id: id.clone(), swatch: Some(Swatch { color, ink, ..own.clone() }) })
}

/// Renames a shared colour.
///
/// # Errors
/// [`Refusal`] where it is not there.
pub fn rename_colour(job: &Job, id: &SwatchId, name: &str) -> Result<Command, Refusal> {
    let own = swatch(job, id)?;
    Ok(Command::SetSwatch { id: id.clone(), swatch: Some(Swatch { name: name.to_owned(), ..own.clone() }) })
}

/// The kinds of inks a colour can be given.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum InkKind {
    /// So much of each process ink.
    Process,
    /// An ink of its own.
    Spot,
}

/// Gives a shared colour an ink to begin with: what the profile makes of it, or one of its own that is called as it is.
///
/// # Errors
/// [`Refusal`] where it is not there.
pub fn give_ink(job: &Job, id: &SwatchId, kind: InkKind) -> Result<Command, Refusal> {
    let own = swatch(job, id)?;
    let ink = match kind {
        InkKind::Spot => Ink::Spot { name: own.name.chars().take(60).collect() },
        InkKind::Process => {
            let color = own.color;
            let mixture = Inks::coated().map_or([0.0; 4], |inks| inks.separate([color.r, color.g, color.b]));
            let [c, m, y, k] = mixture.map(|share| (share * 100.0).round() as u8);
            Ink::Process { c, m, y, k }
        }
    };
    set_ink(job, id, Some(&ink))
}

/// Says what a shared colour is printed with; nothing lets the print shop's profile decide.
///
/// # Errors
/// [`Refusal`] where it is not there.
pub fn set_ink(job: &Job, id: &SwatchId, ink: Option<&Ink>) -> Result<Command, Refusal> {
    let own = swatch(job, id)?;
    Ok(Command::SetSwatch { id: id.clone(), swatch: Some(Swatch { ink: ink.cloned(), ..own.clone() }) })
}

/// Sets what lies under everything on a side; nothing makes the sheet clear.
pub fn set_ground(side: &SideId, ground: Option<&Paint>) -> Command {
    Command::SetGround { side: side.clone(), ground: ground.cloned() }
}

/// The ground of a side on every side of its piece.
///
/// # Errors
/// [`Refusal`] where the side is not there.
pub fn spread_ground(job: &Job, side: &SideId) -> Result<Command, Refusal> {
    let (piece, from) = job.side(side).ok_or_else(|| Refusal::Missing("side", side.to_string()))?;
    let others = piece.sides.iter().filter(|other| other.id != *side);
    Ok(Command::All { commands: others.map(|other| set_ground(&other.id, from.ground.as_ref())).collect() })
}
