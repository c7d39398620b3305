//! Acts on whole pieces: added for other places, made another size, arranged anew.

use std::collections::BTreeSet;

use rayon::prelude::*;
use vatman_craft::{
    DESIGNED, Design, Finding, FindingKind, Movable, PlaceEntry, Plan, adapt_piece, change_format, made_legible,
    model_for, plans, rearrange, redesign, repair,
};
use vatman_document::{Command, Follows, IdSource, ItemId, Job, Known, Piece, PieceId, SideId};

use crate::acting::Acting;
use crate::acting::commands::{Meaning, plain};
use crate::asking::find_piece;
use crate::ids::Ids;
use crate::problem::Problem;
use crate::types::PlaceWish;

/// Most pieces added at once: about what is arranged in two seconds where a job is rich.
pub(crate) const MOST: usize = 12;

impl Acting {
    fn designs<'a>(&'a self) -> impl Fn(&str) -> Option<&'a Design> {
        |id| self.shelves.design(id).ok()
    }

    /// The ways in which a piece for a place can be arranged, and the piece they are arranged from.
    pub(crate) fn ways<'j>(
        &self,
        job: &'j Job,
        entry: &PlaceEntry,
        from: Option<&PieceId>,
    ) -> Result<(&'j Piece, Vec<Plan>), Problem> {
        let model = match from {
            Some(from) => find_piece(job, from)?,
            None => model_for(job, entry, None).ok_or_else(|| Problem::value("The job has no piece yet."))?,
        };
        Ok((model, plans(&self.studio, job, model, entry, &self.designs())))
    }

    /// The change that adds one piece, to be looked at only: where there are fewer ways than there were, the last.
    pub(crate) fn added(&self, job: &Job, wish: &PlaceWish, from: Option<&PieceId>) -> Meaning {
        let entry = self.shelves.place(&wish.place)?;
        let (model, found) = self.ways(job, &entry, from)?;
        let way = wish.way.unwrap_or(0).min(found.len().saturating_sub(1));
        let plan = found.get(way).ok_or_else(|| Problem::value("There is nothing to arrange."))?;
        let (command, id) = adapt_piece(job, &model.id, plan, &entry, &mut Ids)?;
        plain(command.clone().then(self.legible(job, &command, &id, &model.id)?))
    }

    /// What makes the words of a piece that is about to be added read as those of its model do.
    fn legible(&self, job: &Job, adding: &Command, piece: &PieceId, from: &PieceId) -> Result<Command, Problem> {
        let mut trial = job.clone();
        adding.apply(&mut trial, self.shelves.as_ref())?;
        let commands = made_legible(&self.studio, &trial, piece, Some(from), self.shelves.as_ref(), &mut Ids);
        Ok(Command::All { commands })
    }

    pub(super) fn add_pieces(&self, job: &Job, places: &[PlaceWish], from: Option<&PieceId>) -> Meaning {
        if places.is_empty() || places.len() > MOST {
            return Err(Problem::value(format!("Add 1 to {MOST} places at a time. Nothing was added.")));
        }
        // Each place is arranged for by itself.
        let made = places.par_iter().map(|wish| {
            let entry = self.shelves.place(&wish.place)?;
            let (model, found) = self.ways(job, &entry, from)?;
            let plan = found
                .get(wish.way.unwrap_or(0))
                .ok_or_else(|| Problem::value("That arrangement is not offered any more. Choose another."))?;
            let (command, id) = adapt_piece(job, &model.id, plan, &entry, &mut Ids)?;
            let repairs = self.legible(job, &command, &id, &model.id)?;
            Ok((command, repairs))
        });
        let made = made.collect::<Result<Vec<_>, Problem>>()?;
        let mut all = Command::All { commands: Vec::new() };
        let mut known: BTreeSet<_> = job.kins.keys().cloned().collect();
        for (command, repairs) in made {
            // What two of the new pieces bring is brought once.
            let command = match command {
                Command::InsertPiece { index, piece, mut kins } => {
                    kins.retain(|kin, _| known.insert(kin.clone()));
                    Command::InsertPiece { index, piece, kins }
                }
                other => other,
            };
            all = all.then(command).then(repairs);
        }
        plain(all)
    }

    pub(super) fn change_format(&self, job: &Job, piece: &PieceId, place: &str) -> Meaning {
        let entry = self.shelves.place(place)?;
        plain(change_format(&self.studio, job, piece, &entry, &self.designs(), &mut Ids)?)
    }

    /// The piece a piece is arranged from: the one it follows while that is there, else itself.
    pub(crate) fn model_of<'j>(job: &'j Job, piece: &'j Piece) -> &'j Piece {
        match &piece.follows {
            Follows::Piece { piece: from, .. } => job.piece(from).unwrap_or(piece),
            _ => piece,
        }
    }

    pub(super) fn arrange_otherwise(&self, job: &Job, piece: &PieceId, way: usize) -> Meaning {
        let own = find_piece(job, piece)?;
        let model = Self::model_of(job, own);
        let (_, found) = self.ways(job, &self.shelves.entry_of(own), Some(&model.id))?;
        let plan = found.get(way).ok_or_else(|| Problem::value("That arrangement is not offered any more."))?;
        plain(rearrange(job, piece, &model.id, plan, Movable::NotByHand, &mut Ids)?)
    }

    pub(super) fn arrange_like(&self, job: &Job, pieces: &[PieceId], like: &PieceId, all: bool) -> Meaning {
        let mut commands = Vec::new();
        for piece in pieces.iter().filter(|piece| *piece != like) {
            let own = find_piece(job, piece)?;
            let (_, found) = self.ways(job, &self.shelves.entry_of(own), Some(like))?;
            // Like that one, not as a design has it.
            let plan = found.iter().find(|plan| plan.way != DESIGNED).or_else(|| found.first());
            let plan = plan.ok_or_else(|| Problem::value("There is nothing to arrange."))?;
            let movable = if all { Movable::All } else { Movable::NotByHand };
            commands.push(rearrange(job, piece, like, plan, movable, &mut Ids)?);
        }
        plain(Command::All { commands })
    }

    /// The change that gives a job another design.
    pub(crate) fn redesign(&self, job: &Job, design: &str) -> Meaning {
        let entry = |piece: &Piece| self.shelves.entry_of(piece);
        plain(redesign(&self.studio, job, self.shelves.design(design)?, &entry, &mut Ids)?)
    }

    /// The change that puts right what was found about an item.
    pub(super) fn put_right(
        &self,
        job: &Job,
        side: &SideId,
        item: Option<&ItemId>,
        (kind, says): (FindingKind, &str),
    ) -> Meaning {
        let missing = || Problem::not_found("That side is not in the job any more.");
        let (piece, side) = job.side(side).ok_or_else(missing)?;
        let finding = Finding {
            kind,
            piece: piece.id.clone(),
            side: side.id.clone(),
            item: item.cloned(),
            says: says.to_owned(),
            word: None,
        };
        let entry = self.shelves.entry_of(piece);
        let known = (self.shelves.as_ref() as &dyn Known, &mut Ids as &mut dyn IdSource);
        let command = repair(&self.studio, job, &finding, &entry, self.shelves.keeping.reader(), known);
        plain(
            command.ok_or_else(|| {
                Problem::value("Nothing would make that better by itself. Move or change it by hand.")
            })?,
        )
    }

    pub(super) fn follow_again(&self, job: &Job, items: &[ItemId]) -> Meaning {
        let first = items.first().ok_or_else(|| Problem::value("Nothing is selected."))?;
        let own = job.find(first)?.piece;
        let model = Self::model_of(job, own);
        let (_, found) = self.ways(job, &self.shelves.entry_of(own), Some(&model.id))?;
        let way = match &own.follows {
            Follows::Piece { way, .. } => found.iter().find(|plan| plan.way == *way),
            _ => None,
        };
        let plan = way.or_else(|| found.first()).ok_or_else(|| Problem::value("There is nothing to arrange."))?;
        plain(rearrange(job, &own.id, &model.id, plan, Movable::Only(items), &mut Ids)?)
    }
}
