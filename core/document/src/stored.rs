//! The stored form of a job: versioned JSON, and the way up from older versions.
//!
//! A job is stored in parts, so that an edit writes what it changes: one for each piece, one for each kin, and one for what
//! stands above them ([`Heading`]). Put together they are the job file, one JSON object with `format`, `version` and `job`.

use std::collections::{BTreeMap, BTreeSet};
use std::sync::Arc;

use imbl::OrdMap;
use imbl::ordmap::DiffItem;
use serde::{Deserialize, Serialize};
use serde_json::{Value, json};
use thiserror::Error;

use crate::gather::gather;
use crate::{Fault, Job, JobId, Kin, KinId, Piece, PieceId, Swatch, SwatchId};

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
    #[error(
        "This is not a job file: it does not say \u{201c}format\u{201d}: \u{201c}vatman-job\u{201d} and a version."
    )]
    Foreign,
    /// Written by a later program.
    #[error(
        "This job was kept by a later version (form {0}; this program reads up to {CURRENT_VERSION}). Update the program; nothing was changed."
    )]
    Newer(u64),
    /// An older form that does not hold what it should.
    #[error("This job is kept in form {0} and could not be brought up to date: {1}.")]
    Migration(u64, String),
    /// The right form with wrong content.
    #[error("This job file is damaged: {0}.")]
    Damaged(String),
}

/// What stands above the pieces and kins of a job.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Heading {
    /// Identity of the job.
    pub id: JobId,
    /// Title.
    pub title: String,
    /// Shared colours.
    pub swatches: BTreeMap<SwatchId, Swatch>,
    /// The pieces in their order.
    pub pieces: Vec<PieceId>,
    /// Findings that are to stay as they are.
    #[serde(default, skip_serializing_if = "BTreeMap::is_empty")]
    pub set_aside: BTreeMap<String, String>,
}

impl Heading {
    /// Of a job.
    #[must_use]
    pub fn of(job: &Job) -> Self {
        let pieces = job.piece_ids().cloned().collect();
        Self {
            id: job.id.clone(),
            title: job.title.clone(),
            swatches: job.swatches.clone(),
            pieces,
            set_aside: job.set_aside.clone(),
        }
    }
}

/// A part of a job as it is stored: which, and its JSON.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum StoredPart {
    /// What stands above pieces and kins.
    Heading(String),
    /// A piece; nothing means that it is gone.
    Piece(PieceId, Option<String>),
    /// A kin; nothing means that it is gone.
    Kin(KinId, Option<String>),
}

/// The parts of a job that differ from what was stored before; all of them where nothing was.
///
/// # Errors
/// [`StoredError::Damaged`] where something cannot be written as JSON, which sound values always can.
pub fn changed_parts(old: Option<&Job>, new: &Job) -> Result<Vec<StoredPart>, StoredError> {
    fn text(value: &impl Serialize) -> Result<String, StoredError> {
        serde_json::to_string(value).map_err(|error| StoredError::Damaged(error.to_string()))
    }
    let mut parts = Vec::new();
    if !old.is_some_and(|old| same_heading(old, new)) {
        parts.push(StoredPart::Heading(text(&Heading::of(new))?));
    }
    let known: BTreeMap<&PieceId, &Arc<Piece>> =
        old.iter().flat_map(|old| &old.pieces).map(|piece| (&piece.id, piece)).collect();
    for piece in &new.pieces {
        if !known.get(&piece.id).is_some_and(|before| Arc::ptr_eq(before, piece)) {
            parts.push(StoredPart::Piece(piece.id.clone(), Some(text(piece)?)));
        }
    }
    let there: BTreeSet<&PieceId> = new.pieces.iter().map(|piece| &piece.id).collect();
    parts.extend(known.keys().filter(|id| !there.contains(*id)).map(|id| StoredPart::Piece((*id).clone(), None)));
    let nothing = OrdMap::new();
    for change in old.map_or(&nothing, |old| &old.kins).diff(&new.kins) {
        parts.push(match change {
            DiffItem::Add(id, kin) | DiffItem::Update { new: (id, kin), .. } => {
                StoredPart::Kin(id.clone(), Some(text(kin)?))
            }
            DiffItem::Remove(id, _) => StoredPart::Kin(id.clone(), None),
        });
    }
    Ok(parts)
}

fn same_heading(old: &Job, new: &Job) -> bool {
    let same = old.id == new.id && old.title == new.title && old.set_aside == new.set_aside;
    same && old.swatches == new.swatches && old.piece_ids().eq(new.piece_ids())
}

/// Puts the parts of a job stored in form `version` together and checks them.
///
/// # Errors
/// A [`StoredError`] that says why not.
pub fn join_parts(
    version: u64,
    heading: &str,
    pieces: &BTreeMap<String, String>,
    kins: &BTreeMap<String, String>,
) -> Result<Job, StoredError> {
    if version != CURRENT_VERSION {
        return read_job(&join_text(version, heading, pieces, kins)?);
    }
    fn part<T: for<'de> Deserialize<'de>>(text: &str) -> Result<T, StoredError> {
        serde_json::from_str(text).map_err(|error| StoredError::Damaged(error.to_string()))
    }
    let Heading { id, title, swatches, pieces: order, set_aside } = part(heading)?;
    let mut job = Job { swatches, set_aside, ..Job::new(id, title) };
    for id in order {
        let text = pieces.get(id.as_str()).ok_or_else(|| StoredError::Damaged(format!("piece {id} is missing")))?;
        job.pieces.push(Arc::new(part::<Piece>(text)?));
    }
    for (id, text) in kins {
        let id = KinId::new(id.clone()).map_err(|error| StoredError::Damaged(error.to_string()))?;
        job.kins.insert(id, Arc::new(part::<Kin>(text)?));
    }
    mended(job)
}

/// The job file of the parts of a job, read no further than needed to put them together: also of one that is damaged.
///
/// # Errors
/// [`StoredError::Damaged`] where the heading cannot be read.
pub fn join_text(
    version: u64,
    heading: &str,
    pieces: &BTreeMap<String, String>,
    kins: &BTreeMap<String, String>,
) -> Result<String, StoredError> {
    let heading: Value = serde_json::from_str(heading).map_err(|error| StoredError::Damaged(error.to_string()))?;
    let raw = |text: &String| text.clone();
    let order = heading["pieces"].as_array().cloned().unwrap_or_default();
    let listed: Vec<String> = order.iter().filter_map(|id| pieces.get(id.as_str()?)).map(raw).collect();
    let shared: Vec<String> = kins.iter().map(|(id, text)| format!("{}:{text}", json!(id))).collect();
    Ok(format!(
        "{{\"format\":\"{FORMAT}\",\"version\":{version},\"job\":{{\"id\":{},\"title\":{},\"swatches\":{},\"set_aside\":{},\"kins\":{{{}}},\"pieces\":[{}]}}}}",
        heading["id"],
        heading["title"],
        heading["swatches"],
        heading.get("set_aside").unwrap_or(&json!({})),
        shared.join(","),
        listed.join(",")
    ))
}

/// Writes a job in the current form.
#[must_use]
pub fn write_job(job: &Job) -> String {
    #[derive(Serialize)]
    struct File<'a> {
        format: &'static str,
        version: u64,
        job: &'a Job,
    }
    // Maps of a job are keyed by text and numbers are finite, so that writing cannot fail.
    serde_json::to_string(&File { format: FORMAT, version: CURRENT_VERSION, job }).unwrap_or_default()
}

/// Reads a job of this or an earlier form and checks that everything it names is there.
///
/// # Errors
/// A [`StoredError`] that says why not.
pub fn read_job(text: &str) -> Result<Job, StoredError> {
    let stored: Value = serde_json::from_str(text).map_err(StoredError::Syntax)?;
    let body = migrate(stored, &MIGRATIONS)?;
    let job: Job = serde_json::from_value(body).map_err(|error| StoredError::Damaged(error.to_string()))?;
    mended(job)
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
    (version..newest)
        .zip(steps.iter().skip(version as usize - 1))
        .try_fold(body, |body, (from, step)| step(body).map_err(|why| StoredError::Migration(from, why)))
}

/// A job as read, with what earlier programs let slip put right where nothing is lost by it: groups come to lie together, what
/// nothing shares goes, a release of another kind than its kin is given up.
fn mended(mut job: Job) -> Result<Job, StoredError> {
    match job.check() {
        Ok(()) => return Ok(job),
        Err(Fault::Unused(_) | Fault::GroupApart | Fault::KindChanged) => {}
        Err(fault) => return Err(StoredError::Damaged(told(&fault))),
    }
    let nothing = Job::new(job.id.clone(), "");
    let used: BTreeSet<KinId> = job.items().map(|item| item.kin.clone()).collect();
    let all = std::mem::take(&mut job.kins);
    job.kins = all.into_iter().filter(|(id, _)| used.contains(id)).collect();
    for piece in &mut job.pieces {
        for item in Arc::make_mut(piece).sides.iter_mut().flat_map(|side| &mut side.items) {
            let kin = job.kins.get(&item.kin);
            let other = |content: &crate::Content| {
                kin.is_some_and(|kin| std::mem::discriminant(content) != std::mem::discriminant(&kin.content))
            };
            if item.release.content.as_ref().is_some_and(other) {
                item.release.content = None;
            }
        }
    }
    gather(&nothing, &mut job);
    job.check().map_err(|fault| StoredError::Damaged(told(&fault)))?;
    Ok(job)
}

/// A fault within a sentence.
fn told(fault: &Fault) -> String {
    fault.to_string().trim_end_matches('.').to_owned()
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
        let at =
            |version: u64, job: Value| migrate(json!({ "format": FORMAT, "version": version, "job": job }), &steps);
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
        assert!(matches!(
            read_job(r#"{"format":"vatman-job","version":1,"job":{"id":"a b"}}"#),
            Err(StoredError::Damaged(_))
        ));
    }
}
