//! The data file: what is kept, by whom, and in which form.

#![allow(clippy::unwrap_used, reason = "a failed step is a failed test")]

use diesel::prelude::*;
use diesel::sql_query;
use serde_json::json;
use tempfile::TempDir;
use vatman_document::{Command, JobId};
use vatman_server::types::{Act, ActRequest};
use vatman_server::{Store, Workshop};

fn shop(folder: &TempDir) -> Workshop {
    Workshop::new(Store::open(folder.path()).unwrap()).unwrap()
}

fn start(shop: &Workshop) -> JobId {
    shop.start(&serde_json::from_value(json!({ "design": "doorway", "places": ["card"], "words": { "headline": "Made slow." } })).unwrap()).unwrap()
}

fn rename(shop: &Workshop, id: &JobId, base: i64, title: &str, gesture: Option<&str>) -> Result<i64, Option<i64>> {
    let act = Act::Edit { command: Command::SetTitle { title: title.into() } };
    let request = ActRequest { base, act, gesture: gesture.map(str::to_owned), watch: None, carets: None };
    shop.act(id, &request).map(|answer| answer.revision).map_err(|problem| problem.revision)
}

fn raw(folder: &TempDir) -> SqliteConnection {
    SqliteConnection::establish(&folder.path().join("vatman.sqlite").to_string_lossy()).unwrap()
}

#[test]
fn two_programs_on_one_file_do_not_overwrite_each_other() {
    let folder = tempfile::tempdir().unwrap();
    let (one, two) = (shop(&folder), shop(&folder));
    let id = start(&one);
    assert_eq!(two.job(&id).unwrap().title, "Made slow.");
    assert_eq!(rename(&one, &id, 1, "By the first", None), Ok(2));
    // The second still holds revision 1 in memory; the file knows better.
    assert_eq!(rename(&two, &id, 1, "By the second", None), Err(Some(2)));
    assert_eq!(two.job(&id).unwrap().title, "By the first");
    assert_eq!(rename(&two, &id, 2, "By the second", None), Ok(3));
}

#[test]
fn opening_again_changes_nothing_and_keeps_everything() {
    let folder = tempfile::tempdir().unwrap();
    let id = {
        let shop = shop(&folder);
        let id = start(&shop);
        rename(&shop, &id, 1, "Kept", None).unwrap();
        id
    };
    for _ in 0..3 {
        let shop = shop(&folder);
        let open = shop.open(&id).unwrap();
        assert_eq!((open.job.title.as_str(), open.revision, open.can_undo), ("Kept", 2, true));
        assert_eq!(shop.board().unwrap().len(), 1);
    }
}

#[test]
fn the_file_is_kept_as_safely_as_sqlite_can() {
    let folder = tempfile::tempdir().unwrap();
    let _shop = shop(&folder);
    #[derive(QueryableByName)]
    struct Mode {
        #[diesel(sql_type = diesel::sql_types::Text)]
        journal_mode: String,
    }
    let mode: Mode = sql_query("PRAGMA journal_mode").get_result(&mut raw(&folder)).unwrap();
    assert_eq!(mode.journal_mode, "wal");
}

#[test]
fn a_gesture_is_one_step_and_another_one_a_second() {
    let folder = tempfile::tempdir().unwrap();
    let shop = shop(&folder);
    let id = start(&shop);
    for (base, title, gesture) in [(1, "a", "first"), (2, "ab", "first"), (3, "abc", "second"), (4, "abcd", "second")] {
        rename(&shop, &id, base, title, Some(gesture)).unwrap();
    }
    let undo = |base| shop.act(&id, &ActRequest { base, act: Act::Undo, gesture: None, watch: None, carets: None }).unwrap().delta.title;
    assert_eq!(undo(5).as_deref(), Some("ab"));
    assert_eq!(undo(6).as_deref(), Some("Made slow."));
}

#[test]
fn a_job_written_by_a_later_program_is_left_alone_and_told() {
    let folder = tempfile::tempdir().unwrap();
    let id = start(&shop(&folder));
    sql_query("UPDATE jobs SET document = replace(document, '\"version\":1', '\"version\":99')").execute(&mut raw(&folder)).unwrap();
    let shop = shop(&folder);
    let told = shop.open(&id).unwrap_err();
    assert!(told.detail.contains("later version") && told.detail.contains("nothing was changed"), "{}", told.detail);
}

#[test]
fn a_damaged_job_is_told_and_the_others_go_on() {
    let folder = tempfile::tempdir().unwrap();
    let (broken, whole) = {
        let shop = shop(&folder);
        (start(&shop), start(&shop))
    };
    sql_query(format!("UPDATE jobs SET document = '{{\"format\":\"vatman-job\",\"version\":1,\"job\":{{}}}}' WHERE id = '{broken}'")).execute(&mut raw(&folder)).unwrap();
    let shop = shop(&folder);
    assert!(shop.open(&broken).unwrap_err().detail.contains("damaged"));
    assert_eq!(shop.open(&whole).unwrap().job.title, "Made slow.");
}

#[test]
fn the_demo_fills_an_empty_file_once() {
    let folder = tempfile::tempdir().unwrap();
    let shop = shop(&folder);
    let made = shop.fill_with_demo().unwrap();
    assert!(made >= 8);
    assert_eq!(shop.fill_with_demo().unwrap(), 0, "what is there is not filled up");
    let board = shop.board().unwrap();
    assert_eq!((board.len(), board[0].title.as_str()), (made, "Saturday wheel class"));
    let pictures = shop.store.pictures().unwrap();
    assert!(pictures.len() >= 12 && pictures.iter().all(|picture| picture.sample && picture.width >= 1_000));
}
