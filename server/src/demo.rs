//! Putting the sample world into an empty data file.

use vatman_craft::Brief;
use vatman_document::JobId;

use crate::clock::now;
use crate::ids::Ids;
use crate::problem::Problem;
use crate::shipped::Shipped;
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
            self.store.insert_job(&job, now() - (jobs.len() - age) as i64)?;
        }
        Ok(jobs.len())
    }
}
