//! Putting the sample world into an empty data file.

use serde_json::Value;
use vatman_craft::{Brief, settle};
use vatman_document::{ItemId, Job, JobId};
use vatman_photo::{CutHints, cut_out};

use crate::clock::now;
use crate::ids::Ids;
use crate::problem::Problem;
use crate::shipped::Shipped;
use crate::types::Act;
use crate::workshop::Workshop;

impl Workshop {
    /// Makes the demo jobs where there are no jobs yet. How many were made.
    ///
    /// # Errors
    /// A problem where they cannot be made or kept.
    pub fn fill_with_demo(&self) -> Result<usize, Problem> {
        if !self.store.jobs()?.is_empty() {
            return Ok(0);
        }
        let jobs = Shipped.demo_jobs().map_err(|why| Problem::internal(&why))?;
        // The first of the list is the last made, so that it stands first on the board.
        for (age, demo) in jobs.iter().rev().enumerate() {
            let designs = demo.designs.iter().map(|id| self.shelves.design(id)).collect::<Result<Vec<_>, _>>()?;
            let places = demo
                .pieces
                .iter()
                .map(|piece| Ok((self.shelves.place(&piece.place)?, piece.sides.unwrap_or(1))))
                .collect::<Result<Vec<_>, Problem>>()?;
            let brief = Brief { title: &demo.title, designs: &designs, places: &places, words: &demo.words };
            let job = self.shelves.compose(JobId::fresh(&mut Ids), &brief, &demo.pictures)?;
            let job = self.finished(job, &demo.finish)?;
            self.store.insert_job(&job, now() - (jobs.len() - age) as i64)?;
        }
        // A name no word list has: somebody has said that it is one.
        self.shelves.keeping.keep_word("Vardal")?;
        Ok(jobs.len())
    }

    /// A job after acts that name what they act on by what it is.
    fn finished(&self, mut job: Job, acts: &[Value]) -> Result<Job, Problem> {
        let mut made = Vec::new();
        for act in acts {
            let mut act = act.clone();
            self.name(&mut act, &job, &made)?;
            let act: Act = serde_json::from_value(act).map_err(|error| Problem::internal(&error))?;
            let before = job.clone();
            let (command, new) = self.acting.command(&job, &act)?;
            command.apply(&mut job, self.studio.as_ref())?;
            for settled in settle(&before, &job.clone(), &self.studio) {
                settled.apply(&mut job, self.studio.as_ref())?;
            }
            made = if new.is_empty() { made } else { new };
        }
        Ok(job)
    }

    /// Puts identities in the places of what stands for them.
    fn name(&self, value: &mut Value, job: &Job, made: &[ItemId]) -> Result<(), Problem> {
        match value {
            Value::Array(all) => all.iter_mut().try_for_each(|one| self.name(one, job, made)),
            Value::Object(all) => all.values_mut().try_for_each(|one| self.name(one, job, made)),
            Value::String(text) => {
                let Some(name) = text.strip_prefix('@') else { return Ok(()) };
                let side = job.pieces.first().and_then(|piece| piece.sides.first());
                let side = side.ok_or_else(|| Problem::internal(&"a demo job has no side"))?;
                let part = |name: &str| {
                    side.items.iter().find(|item| {
                        let plays = job.plain(item).and_then(|plain| serde_json::to_value(plain.part).ok());
                        plays.is_some_and(|part| part == name)
                    })
                };
                let found = match name {
                    "side" => Some(side.id.to_string()),
                    "made" => made.first().map(ToString::to_string),
                    "found" => {
                        let picture = part("mainPicture").and_then(|item| job.plain(item)?.content.picture().cloned());
                        let pixels = picture.and_then(|picture| self.studio.pictures.pixels(&picture));
                        let mask = pixels.and_then(|pixels| cut_out(&pixels, CutHints::default(), &|_| true));
                        mask.map(|mask| self.shelves.take_mask(&mask)).transpose()?.map(|id| id.to_string())
                    }
                    name => part(name).map(|item| item.id.to_string()),
                };
                // A colour of the job has a name of the same form, and stays.
                if let Some(found) = found {
                    *text = found;
                }
                Ok(())
            }
            _ => Ok(()),
        }
    }
}
