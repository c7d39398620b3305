//! The stored form of a job: versioned JSON, and the way up from older versions.

use serde_json::{Value, json};
use thiserror::Error;

use crate::Job;

/// The version written today.
pub const CURRENT_VERSION: u64 = 1;

const FORMAT: &str = "vatman-job";

/// Steps from version n (at index n - 1) to version n + 1.
type Migration = fn(Value) -> Result<Value, String>;
const MIGRATIONS: [Migration; CURRENT_VERSION as usize - 1] = [];

/// Why a stored job cannot be read.
#[derive(Debug, Error)]
pub enum StoredError {
    /// Not JSON.
    #[error("This is not a job file: {0}.")]
    Syntax(serde_json::Error),
    /// JSON, but not ours.
    #[error("This is not a job file: it does not say \u{201c}format\u{201d}: \u{201c}vatman-job\u{201d} and a version.")]
    Foreign,
    /// Written by a later program.
    #[error("This job was kept by a later version (form {0}; this program reads up to {CURRENT_VERSION}). Update the program; nothing was changed.")]
    Newer(u64),
    /// An older form that does not hold what it should.
    #[error("This job is kept in form {0} and could not be brought up to date: {1}.")]
    Migration(u64, String),
    /// The right form with wrong content.
    #[error("This job file is damaged: {0}.")]
    Damaged(String),
}

/// Writes a job in the current form.
#[must_use]
pub fn write_job(job: &Job) -> String {
    json!({ "format": FORMAT, "version": CURRENT_VERSION, "job": job }).to_string()
}

/// Reads a job of this or an earlier form and checks that everything it names is there.
///
/// # Errors
/// A [`StoredError`] that says why not.
pub fn read_job(text: &str) -> Result<Job, StoredError> {
    let stored: Value = serde_json::from_str(text).map_err(StoredError::Syntax)?;
    let body = migrate(stored, &MIGRATIONS)?;
    let job: Job = serde_json::from_value(body).map_err(|error| StoredError::Damaged(error.to_string()))?;
    sound(&job).map_err(StoredError::Damaged)?;
    Ok(job)
}

fn migrate(mut stored: Value, steps: &[Migration]) -> Result<Value, StoredError> {
    let newest = steps.len() as u64 + 1;
    let version = stored.get("version").and_then(Value::as_u64).filter(|v| *v > 0);
    let (Some(FORMAT), Some(version)) = (stored.get("format").and_then(Value::as_str), version) else {
        return Err(StoredError::Foreign);
    };
    if version > newest {
        return Err(StoredError::Newer(version));
    }
    let body = stored.get_mut("job").map(Value::take).ok_or(StoredError::Foreign)?;
    (version..newest).zip(steps.iter().skip(version as usize - 1)).try_fold(body, |body, (from, step)| step(body).map_err(|why| StoredError::Migration(from, why)))
}

fn sound(job: &Job) -> Result<(), String> {
    let mut seen = std::collections::BTreeSet::new();
    for item in job.items() {
        if !seen.insert(&item.id) {
            return Err(format!("two items are called {}", item.id));
        }
        if !job.kins.contains_key(&item.kin) {
            return Err(format!("item {} belongs to the unknown part {}", item.id, item.kin));
        }
        if let Some(problem) = item.place.problem() {
            return Err(problem);
        }
    }
    for piece in &job.pieces {
        piece.format.check().map_err(|error| error.to_string())?;
        if piece.sides.is_empty() {
            return Err(format!("piece {} has no side", piece.id));
        }
    }
    Ok(())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn older_forms_are_brought_up_step_by_step() {
        let rename: Migration = |mut body| {
            let name = body.get_mut("name").map(Value::take).ok_or("no name")?;
            Ok(json!({ "title": name }))
        };
        let shout: Migration = |body| Ok(json!({ "title": body["title"].as_str().map(str::to_uppercase) }));
        let steps = [rename, shout];
        let at = |version: u64, job: Value| migrate(json!({ "format": FORMAT, "version": version, "job": job }), &steps);
        assert_eq!(at(1, json!({ "name": "pots" })).unwrap(), json!({ "title": "POTS" }));
        assert_eq!(at(2, json!({ "title": "pots" })).unwrap(), json!({ "title": "POTS" }));
        assert_eq!(at(3, json!({ "title": "pots" })).unwrap(), json!({ "title": "pots" }));
        assert!(matches!(at(4, json!({})), Err(StoredError::Newer(4))));
        assert!(matches!(at(1, json!({})), Err(StoredError::Migration(1, _))));
    }

    #[test]
    fn foreign_and_damaged_files_are_told_apart() {
        assert!(matches!(read_job("{"), Err(StoredError::Syntax(_))));
        assert!(matches!(read_job("[1]"), Err(StoredError::Foreign)));
        assert!(matches!(read_job(r#"{"format":"vatman-job","version":0,"job":{}}"#), Err(StoredError::Foreign)));
        assert!(matches!(read_job(r#"{"format":"vatman-job","version":99,"job":{}}"#), Err(StoredError::Newer(99))));
        assert!(matches!(read_job(r#"{"format":"vatman-job","version":1,"job":{"id":"a b"}}"#), Err(StoredError::Damaged(_))));
    }
}
