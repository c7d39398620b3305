//! A survey: every shipped design and every demo job adapted to every place of the catalogue, with what is the matter counted.

use std::collections::BTreeMap;
use std::io::Write;
use std::path::Path;
use std::sync::Mutex;

use vatman_craft::{
    Brief, ContactSheet, Design, FindingKind, PlaceEntry, adapt_piece, findings, made_legible, plans, settle,
};
use vatman_document::{Command, Follows, Job, JobId};

use crate::ids::Ids;
use crate::problem::Problem;
use crate::workshop::Workshop;

/// What is counted, in the order it is said.
const COUNTED: [(FindingKind, &str); 6] = [
    (FindingKind::Spill, "spill"),
    (FindingKind::WordsOnWords, "on words"),
    (FindingKind::OutsideSafe, "unsafe"),
    (FindingKind::Covered, "covered"),
    (FindingKind::TooSmall, "small"),
    (FindingKind::Contrast, "contrast"),
];

/// What was found in all.
#[derive(Debug, Default)]
pub struct Totals {
    /// How many combinations.
    pub all: usize,
    /// Those with nothing the matter that was not the matter with their source.
    pub clean: usize,
}

/// One source and what it is called.
struct Source {
    name: String,
    job: Job,
}

impl Workshop {
    /// Adapts everything to everything, writes one line each to `to`, and with `out` contact sheets into that folder. `by_hand` takes
    /// designs as if somebody had made them by hand.
    ///
    /// # Errors
    /// A problem where a source cannot be made, or a folder or file not be written.
    pub fn survey(
        &self,
        only: Option<&str>,
        by_hand: bool,
        out: Option<&Path>,
        to: &mut dyn Write,
    ) -> Result<Totals, Problem> {
        let mut sources = Vec::new();
        for design in self.shelves.designs() {
            let place = self.shelves.place(first_place(design))?;
            let brief = Brief { title: &design.name, designs: &[design], places: &[(place, 1)], words: &design.sample };
            let job = self.shelves.compose_to_read(JobId::fresh(&mut Ids), &brief)?;
            sources.push(Source { name: design.id.clone(), job });
        }
        for row in self.store.jobs()? {
            let Ok(id) = JobId::new(row.id) else { continue };
            sources.push(Source { name: row.title, job: (*self.jobs.load(&id)?.job).clone() });
        }
        sources.retain(|source| only.is_none_or(|only| source.name.contains(only)));
        if by_hand {
            for source in &mut sources {
                let piece = source.job.pieces[0].id.clone();
                let hand = Command::Follow { piece, follows: Follows::Hand };
                hand.apply(&mut source.job, self.shelves.as_ref())?;
            }
        }
        let places: Vec<PlaceEntry> = self.shelves.places();
        let mut totals = Totals::default();
        for source in &sources {
            let piece = &source.job.pieces[0];
            let own = piece.place.as_deref().and_then(|place| self.shelves.place(place).ok());
            let before = self.counts(&source.job, 0, own.as_ref());
            let next = Mutex::new(places.iter().enumerate());
            let done = Mutex::new(Vec::new());
            std::thread::scope(|scope| {
                for _ in 0..2 {
                    scope.spawn(|| {
                        // The lock is let go of before the work begins.
                        let take = || next.lock().ok().and_then(|mut next| next.next());
                        while let Some((at, entry)) = take() {
                            let made = self.adapted(&source.job, entry, out.is_some());
                            if let Ok(mut done) = done.lock() {
                                done.push((at, made));
                            }
                        }
                    });
                }
            });
            let mut done = done.into_inner().unwrap_or_default();
            done.sort_by_key(|(at, _)| *at);
            let mut sheet = ContactSheet::default();
            for (at, made) in done {
                let (way, counts, picture) = made?;
                totals.all += 1;
                let clean = COUNTED.iter().all(|(kind, _)| {
                    let now = counts.get(kind).copied().unwrap_or(0);
                    let was = if *kind == FindingKind::Contrast { before.get(kind).copied().unwrap_or(0) } else { 0 };
                    now <= was
                });
                totals.clean += usize::from(clean);
                let said: Vec<String> = COUNTED
                    .iter()
                    .filter_map(|(kind, name)| counts.get(kind).map(|count| format!("{count} {name}")))
                    .collect();
                let said = if said.is_empty() { "clean".to_owned() } else { said.join(", ") };
                writeln!(to, "{}\t{}\t{way}\t{said}", source.name, places[at].id)
                    .map_err(|error| Problem::internal(&error))?;
                if let Some(picture) = picture {
                    sheet.add(picture);
                }
            }
            if let Some(out) = out {
                std::fs::create_dir_all(out).map_err(|error| Problem::internal(&error))?;
                let name: String = source.name.chars().map(|c| if c.is_alphanumeric() { c } else { '-' }).collect();
                std::fs::write(
                    out.join(format!("{name}.png")),
                    sheet.png().map_err(|error| Problem::internal(&error))?,
                )
                .map_err(|error| Problem::internal(&error))?;
            }
        }
        Ok(totals)
    }

    fn counts(&self, job: &Job, at: usize, entry: Option<&PlaceEntry>) -> BTreeMap<FindingKind, usize> {
        let mut counts = BTreeMap::new();
        for finding in findings(&self.studio, job, &job.pieces[at], entry) {
            if COUNTED.iter().any(|(kind, _)| *kind == finding.kind) {
                *counts.entry(finding.kind).or_default() += 1;
            }
        }
        counts
    }

    #[allow(clippy::type_complexity, reason = "the three things one line needs")]
    fn adapted(
        &self,
        job: &Job,
        entry: &PlaceEntry,
        drawn: bool,
    ) -> Result<(String, BTreeMap<FindingKind, usize>, Option<vatman_photo::Straight>), Problem> {
        let mut job = job.clone();
        let from = job.pieces[0].id.clone();
        let known = |id: &str| self.shelves.design(id).ok();
        let found = plans(&self.studio, &job, &job.pieces[0], entry, &known);
        let plan = found.first().ok_or_else(|| Problem::value("There is nothing to arrange."))?;
        let (command, _) = adapt_piece(&job, &from, plan, entry, &mut Ids)?;
        let before = job.clone();
        command.apply(&mut job, self.shelves.as_ref())?;
        for settled in settle(&before, &job, &self.studio) {
            settled.apply(&mut job, self.shelves.as_ref())?;
        }
        let at = job.pieces.len() - 1;
        let own = job.pieces[at].id.clone();
        for repair in made_legible(&self.studio, &job, &own, Some(&from), self.shelves.as_ref(), &mut Ids) {
            repair.apply(&mut job, self.shelves.as_ref())?;
        }
        let counts = self.counts(&job, at, Some(entry));
        let picture = if drawn {
            let piece = &job.pieces[at];
            Some(
                ContactSheet::cell(&self.studio, &job, piece, &piece.sides[0])
                    .map_err(|error| Problem::internal(&error))?,
            )
        } else {
            None
        };
        Ok((plan.way.clone(), counts, picture))
    }
}

/// A usual place in the shape a design was drawn for first.
fn first_place(design: &Design) -> &'static str {
    const USUAL: [(&str, f64); 4] =
        [("square-post", 1.0), ("flyer-a5", 0.705), ("card", 1.6), ("video-thumbnail", 1.78)];
    let aspect = design.layouts.first().map_or(1.0, |layout| layout.aspect);
    let distance = |own: f64| (own / aspect).ln().abs();
    USUAL.iter().min_by(|a, b| distance(a.1).total_cmp(&distance(b.1))).map_or("square-post", |(id, _)| id)
}
