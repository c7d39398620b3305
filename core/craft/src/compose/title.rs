//! What a job is called before somebody names it.

use vatman_document::Job;

/// Most letters of a title that was made.
const LONGEST: usize = 80;

/// What a job of a place is called while nothing is said yet.
#[must_use]
pub fn untitled(place: &str) -> String {
    format!("New {}", place.to_lowercase())
}

/// A title from what is said; nothing from blanks.
#[must_use]
pub fn title_of(text: &str) -> Option<String> {
    let line = text.split_whitespace().collect::<Vec<_>>().join(" ");
    (!line.is_empty()).then(|| line.chars().take(LONGEST).collect())
}

/// The title a job gets when words in it go from one text to another; nothing where it keeps its own. A job without a name is
/// named by the first words said in it, and its name grows with them while they are being typed.
pub(crate) fn renamed(job: &Job, old: &str, new: &str) -> Option<String> {
    let nameless = job.pieces.first().is_some_and(|piece| job.title == untitled(&piece.name));
    let going_on = new.starts_with(old) && title_of(old).is_some_and(|title| title == job.title);
    title_of(new).filter(|title| (nameless || going_on) && *title != job.title)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::testing::job_with;

    #[test]
    fn a_nameless_job_is_named_by_what_is_said_first_and_one_with_a_name_keeps_it() {
        let mut job = job_with(1);
        assert_eq!(renamed(&job, "", "Made slow."), None, "{} has a name", job.title);
        job.title = untitled(&job.pieces[0].name.clone());
        assert_eq!(renamed(&job, "", "  Made \n slow. "), Some("Made slow.".into()));
        assert_eq!(renamed(&job, "", " \n"), None);
        job.title = "Made".into();
        assert_eq!(renamed(&job, "Made", "Made slow"), Some("Made slow".into()));
        assert_eq!(renamed(&job, "Made", "Made "), None);
        assert_eq!(renamed(&job, "Made slow", "Made fast"), None, "changed later, the job keeps its name");
        assert_eq!(title_of(&"x".repeat(200)).map(|title| title.len()), Some(LONGEST));
    }
}
