//! The jobs of the sample world, as data.

use serde::Deserialize;

use crate::compose::design::Words;

/// A piece of a demo job.
#[derive(Debug, Clone, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct DemoPiece {
    /// Catalogue entry.
    pub place: String,
    /// Designs of its sides, where it has others than the job.
    #[serde(default)]
    pub sides: Option<usize>,
}

/// A demo job.
#[derive(Debug, Clone, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct DemoJob {
    /// Title.
    pub title: String,
    /// Designs: the first for the front, the second for the back.
    pub designs: Vec<String>,
    /// Words by part.
    pub words: Words,
    /// Sample pictures to show in place of the designs' own, by the designs' names for them.
    #[serde(default)]
    pub pictures: std::collections::BTreeMap<String, String>,
    /// Pieces.
    pub pieces: Vec<DemoPiece>,
    /// What is done by hand after it is composed: acts, in which `@side` stands for the first side, `@made` for what the act before
    /// made, `@found` for the mask of the subject of the main picture, and `@` with the name of a part for the item of that part.
    #[serde(default)]
    pub finish: Vec<serde_json::Value>,
}

impl DemoJob {
    /// Reads the demo jobs that ship.
    ///
    /// # Errors
    /// A sentence saying what is wrong.
    pub fn read_all(json: &str) -> Result<Vec<Self>, String> {
        serde_json::from_str(json).map_err(|error| format!("The demo jobs cannot be read: {error}."))
    }
}
