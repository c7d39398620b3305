//! The data file: what is kept, by whom, and in which form.

#![allow(clippy::unwrap_used, reason = "a failed step is a failed test")]

use diesel::prelude::*;
use diesel::sql_query;
use serde_json::json;
use tempfile::TempDir;
use vatman_document::JobId;
use vatman_server::types::{Act, ActRequest};
use vatman_server::{Store, Wanted, Workshop};

fn shop(folder: &TempDir) -> Workshop {
    Workshop::new(Store::open(folder.path()).unwrap()).unwrap()
}

fn start(shop: &Workshop) -> JobId {
    shop.start(
        &serde_json::from_value(
            json!({ "design": "doorway", "places": ["card"], "words": { "headline": "Made slow." } }),
        )
        .unwrap(),
    )
    .unwrap()
}

fn rename(shop: &Workshop, id: &JobId, base: i64, title: &str, gesture: Option<&str>) -> Result<i64, Option<i64>> {
    let act = Act::SetTitle { title: title.into() };
    let request = ActRequest { base, act, gesture: gesture.map(str::to_owned), watch: None, carets: None };
    shop.acting.act(id, &request).map(|answer| answer.revision).map_err(|problem| problem.revision)
}

fn raw(folder: &TempDir) -> SqliteConnection {
    SqliteConnection::establish(&folder.path().join("vatman.sqlite").to_string_lossy()).unwrap()
}

#[test]
fn two_programs_on_one_file_do_not_overwrite_each_other() {
    let folder = tempfile::tempdir().unwrap();
    let (one, two) = (shop(&folder), shop(&folder));
    let id = start(&one);
    assert_eq!(two.jobs.load(&id).unwrap().job.title, "Made slow.");
    assert_eq!(rename(&one, &id, 1, "By the first", None), Ok(2));
    // The second still holds revision 1 in memory; the file knows better.
    assert_eq!(rename(&two, &id, 1, "By the second", None), Err(Some(2)));
    assert_eq!(two.jobs.load(&id).unwrap().job.title, "By the first");
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
        let open = shop.open_job(&id).unwrap();
        assert_eq!((open.job.title.as_str(), open.revision, open.can_undo), ("Kept", 2, true));
        assert_eq!(shop.jobs.board().unwrap().len(), 1);
    }
}

#[test]
fn the_file_is_kept_as_safely_as_sqlite_can() {
    let folder = tempfile::tempdir().unwrap();
    let shop = shop(&folder);
    #[derive(QueryableByName)]
    struct Mode {
        #[diesel(sql_type = diesel::sql_types::Text)]
        journal_mode: String,
    }
    let mode: Mode = sql_query("PRAGMA journal_mode").get_result(&mut raw(&folder)).unwrap();
    assert_eq!(mode.journal_mode, "wal");
    // 2 is FULL: what has been acknowledged is on the disk.
    assert_eq!((shop.store.setting("synchronous").unwrap(), shop.store.setting("foreign_keys").unwrap()), (2, 1));
}

#[test]
fn a_gesture_is_one_step_and_another_one_a_second() {
    let folder = tempfile::tempdir().unwrap();
    let shop = shop(&folder);
    let id = start(&shop);
    for (base, title, gesture) in [(1, "a", "first"), (2, "ab", "first"), (3, "abc", "second"), (4, "abcd", "second")] {
        rename(&shop, &id, base, title, Some(gesture)).unwrap();
    }
    let undo = |base| {
        shop.acting
            .act(&id, &ActRequest { base, act: Act::Undo, gesture: None, watch: None, carets: None })
            .unwrap()
            .delta
            .title
    };
    assert_eq!(undo(5).as_deref(), Some("ab"));
    assert_eq!(undo(6).as_deref(), Some("Made slow."));
}

#[test]
fn a_job_written_by_a_later_program_is_left_alone_and_told() {
    let folder = tempfile::tempdir().unwrap();
    let id = start(&shop(&folder));
    sql_query("UPDATE jobs SET form = 99").execute(&mut raw(&folder)).unwrap();
    let shop = shop(&folder);
    let told = shop.open_job(&id).unwrap_err();
    assert!(told.detail.contains("later version") && told.detail.contains("nothing was changed"), "{}", told.detail);
}

#[test]
fn a_damaged_job_harms_only_itself_and_comes_back_from_an_earlier_state() {
    let folder = tempfile::tempdir().unwrap();
    let (broken, whole) = {
        let shop = shop(&folder);
        let (broken, whole) = (start(&shop), start(&shop));
        // Every so many steps a whole state is kept.
        for base in 1..=260 {
            rename(&shop, &broken, base, &format!("At {base}"), None).unwrap();
        }
        (broken, whole)
    };
    sql_query(format!("UPDATE parts SET document = '{{\"half\": ' WHERE job_id = '{broken}' AND kind = 'piece'"))
        .execute(&mut raw(&folder))
        .unwrap();
    let shop = shop(&folder);
    assert_eq!(shop.jobs.board().unwrap().len(), 2, "the board does not read documents");
    assert!(shop.open_job(&broken).unwrap_err().detail.contains("damaged"));
    assert_eq!(shop.open_job(&whole).unwrap().job.title, "Made slow.");
    shop.shelves.drop_family("Nothing").unwrap_err();
    let card = shop.jobs.board().unwrap().into_iter().find(|card| card.id == broken.as_str()).unwrap();
    assert!(card.damaged.unwrap().contains("damaged"), "it is shown as such");
    // What is there can be taken away and looked at.
    assert!(shop.jobs.document(&broken).unwrap().contains("{\"half\": "));
    let states = shop.jobs.states(&broken).unwrap();
    assert_eq!(states.len(), 5, "from its first minute, a few early ones, and every so many steps");
    shop.jobs.put_back(&whole, states[0].revision).unwrap_err();
    shop.jobs.put_back(&broken, states[0].revision).unwrap();
    let open = shop.open_job(&broken).unwrap();
    assert_eq!((open.job.title.as_str(), open.can_undo), ("At 250", false));
    assert!(shop.jobs.board().unwrap().iter().all(|card| card.damaged.is_none()));
    rename(&shop, &broken, open.revision, "Goes on", None).unwrap();
}

#[test]
fn a_row_that_is_no_text_harms_its_job_alone_and_is_marked_before_it_is_opened() {
    let folder = tempfile::tempdir().unwrap();
    let (part, title, whole) = {
        let shop = shop(&folder);
        (start(&shop), start(&shop), start(&shop))
    };
    for (set, id) in [
        ("parts SET document = CAST(x'7bff22fe' AS TEXT) WHERE job_id", &part),
        ("jobs SET title = CAST(x'4dff' AS TEXT) WHERE id", &title),
    ] {
        sql_query(format!("UPDATE {set} = '{id}'")).execute(&mut raw(&folder)).unwrap();
    }
    let shop = shop(&folder);
    shop.jobs.look_through().unwrap();
    let board = shop.jobs.board().unwrap();
    let marked = |id: &JobId| board.iter().find(|card| card.id == id.as_str()).unwrap().damaged.clone();
    assert!(marked(&part).unwrap().contains("no text"), "{:?}", marked(&part));
    assert!(marked(&title).is_some() && marked(&whole).is_none());
    assert!(shop.open_job(&part).unwrap_err().detail.contains("damaged"));
    assert!(shop.jobs.document(&part).is_ok(), "what is there can be looked at");
    shop.open_job(&title).unwrap();
    // There is something to go back to, although nothing was ever changed.
    let states = shop.jobs.states(&part).unwrap();
    assert_eq!(states.len(), 1);
    shop.jobs.put_back(&part, states[0].revision).unwrap();
    assert_eq!(shop.open_job(&part).unwrap().job.title, "Made slow.");
}

#[test]
fn a_picture_whose_file_was_damaged_is_missing_until_it_is_brought_again() {
    let folder = tempfile::tempdir().unwrap();
    let pixels = image::RgbImage::from_fn(60, 40, |x, y| image::Rgb([x as u8 * 4, y as u8 * 6, 60]));
    let mut bytes = std::io::Cursor::new(Vec::new());
    pixels.write_to(&mut bytes, image::ImageFormat::Jpeg).unwrap();
    let bytes = bytes.into_inner();
    let id = shop(&folder).shelves.take_picture("pot", &bytes, &Wanted::default()).unwrap().0;
    for damage in ["substr(bytes, 1, length(bytes) / 2)", "zeroblob(length(bytes))", "x''"] {
        sql_query(format!("UPDATE pictures SET bytes = {damage} WHERE id = '{id}'"))
            .execute(&mut raw(&folder))
            .unwrap();
        let shop = shop(&folder);
        assert!(shop.studio.pictures.info(&id).is_none(), "{damage}: it is said to be missing, not to be small");
        assert_eq!(shop.shelves.take_picture("pot", &bytes, &Wanted::default()).unwrap().0, id);
        assert_eq!(shop.studio.pictures.info(&id).unwrap().width, 60, "{damage}");
        assert_eq!(shop.studio.pictures.bytes(&id).unwrap().as_ref(), bytes);
    }
}

#[test]
fn history_is_bounded_and_the_newest_steps_are_kept() {
    let folder = tempfile::tempdir().unwrap();
    let shop = shop(&folder);
    let id = start(&shop);
    for base in 1..=1_030 {
        rename(&shop, &id, base, &format!("At {base}"), None).unwrap();
    }
    #[derive(QueryableByName)]
    struct Count {
        #[diesel(sql_type = diesel::sql_types::BigInt)]
        n: i64,
        #[diesel(sql_type = diesel::sql_types::BigInt)]
        first: i64,
    }
    let steps: Count =
        sql_query("SELECT count(*) AS n, min(number) AS first FROM steps").get_result(&mut raw(&folder)).unwrap();
    assert_eq!((steps.n, steps.first), (1_000, 31));
    assert_eq!(shop.jobs.states(&id).unwrap().len(), 8);
    let undo = ActRequest { base: 1_031, act: Act::Undo, gesture: None, watch: None, carets: None };
    assert_eq!(shop.acting.act(&id, &undo).unwrap().delta.title.as_deref(), Some("At 1029"));
}

#[test]
fn a_gesture_without_end_can_still_be_undone() {
    let folder = tempfile::tempdir().unwrap();
    let shop = shop(&folder);
    let id = start(&shop);
    let side = shop.open_job(&id).unwrap().job.pieces[0].sides[0].id.clone();
    let add = |base: i64| ActRequest {
        base,
        act: Act::Add {
            side: side.clone(),
            what: serde_json::from_value(json!({ "kind": "shape", "outline": { "kind": "ellipse" } })).unwrap(),
            last: None,
            at: None,
        },
        gesture: Some("pen".into()),
        watch: None,
        carets: None,
    };
    for base in 1..=40 {
        shop.acting.act(&id, &add(base)).unwrap();
    }
    let undo = ActRequest { base: 41, act: Act::Undo, gesture: None, watch: None, carets: None };
    let before = shop.open_job(&id).unwrap().job;
    assert!(!shop.acting.act(&id, &undo).unwrap().can_undo, "all of it was one step");
    let redo = ActRequest { base: 42, act: Act::Redo, ..undo };
    shop.acting.act(&id, &redo).unwrap();
    assert_eq!(shop.open_job(&id).unwrap().job, before, "and is done again as one");
}

/// The data file as the program of the 26th of November kept it: one document a job, whole commands in its history.
fn older_file(folder: &TempDir) {
    use diesel::connection::SimpleConnection as _;
    let job = json!({ "format": "vatman-job", "version": 1, "job": {
        "id": "older", "title": "Glaze day", "swatches": { "ink": { "name": "Ink", "color": "#23201d" } },
        "kins": { "k": { "part": "panel", "content": { "kind": "shape", "outline": { "kind": "ellipse" } }, "look": serde_json::to_value(vatman_document::Look::default()).unwrap() } },
        "pieces": [{ "id": "p", "name": "Square post", "place": "square-post", "format": serde_json::to_value(vatman_document::Format::screen(1_080, 540)).unwrap(), "sides": [{ "id": "s", "name": "Front", "ground": null, "items": [{ "id": "i", "kin": "k", "place": { "at": { "rect": { "x": 0, "y": 0, "w": 900, "h": 900 }, "turn": 0, "flip": false }, "scale": 1_000_000_000, "crop": null } }] }] }]
    } });
    let mut file = raw(folder);
    let migrations = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("migrations");
    file.batch_execute("CREATE TABLE __diesel_schema_migrations (version VARCHAR(50) PRIMARY KEY NOT NULL, run_on TIMESTAMP NOT NULL DEFAULT CURRENT_TIMESTAMP)").unwrap();
    for (name, version) in
        [("2026-11-23-000000_first", "20261123000000"), ("2026-11-26-000000_fonts", "20261126000000")]
    {
        file.batch_execute(&std::fs::read_to_string(migrations.join(name).join("up.sql")).unwrap()).unwrap();
        sql_query(format!("INSERT INTO __diesel_schema_migrations (version) VALUES ('{version}')"))
            .execute(&mut file)
            .unwrap();
    }
    let text = |value: &serde_json::Value| value.to_string().replace('\'', "''");
    sql_query(format!("INSERT INTO jobs VALUES ('older', 'Glaze day', 3, '{}', 1, 2, NULL)", text(&job)))
        .execute(&mut file)
        .unwrap();
    sql_query("INSERT INTO jobs VALUES ('torn', 'Torn', 1, '{\"format\": \"vatman-jo', 1, 1, NULL)")
        .execute(&mut file)
        .unwrap();
    let step = |title: &str| text(&json!({ "do": "setTitle", "title": title }));
    for (number, back, undone) in [(1, "First", 0), (2, "Second", 1)] {
        sql_query(format!(
            "INSERT INTO steps VALUES ('older', {number}, NULL, '{}', '{}', {undone}, 1)",
            step("Again"),
            step(back)
        ))
        .execute(&mut file)
        .unwrap();
    }
}

#[test]
fn an_older_file_is_copied_and_brought_up_with_its_history() {
    let folder = tempfile::tempdir().unwrap();
    older_file(&folder);
    let shop = shop(&folder);
    assert!(folder.path().join("vatman.before-20261126000000.sqlite").is_file(), "a copy as it was stands beside it");
    let id = JobId::new("older").unwrap();
    let open = shop.open_job(&id).unwrap();
    assert_eq!((open.job.title.as_str(), open.revision, open.can_undo, open.can_redo), ("Glaze day", 3, true, true));
    assert_eq!((open.job.items().count(), open.job.kins.len(), open.job.swatches.len()), (1, 1, 1));
    let card = shop.jobs.board().unwrap().into_iter().find(|card| card.id == "older").unwrap();
    assert_eq!((card.sheets.len(), card.sheets[0].name.as_str(), card.sheets[0].aspect), (1, "Square post", 2.0));
    let act = |base: i64, act: Act| {
        shop.acting.act(&id, &ActRequest { base, act, gesture: None, watch: None, carets: None }).unwrap().delta.title
    };
    assert_eq!(act(3, Act::Redo).as_deref(), Some("Again"));
    assert_eq!(
        act(4, Act::Undo).as_deref(),
        Some("Glaze day"),
        "back to what it was, not to what the older program noted"
    );
    assert_eq!(act(5, Act::Undo).as_deref(), Some("First"));
    // What could not be read before cannot now, and is still all there.
    let torn = JobId::new("torn").unwrap();
    assert!(shop.open_job(&torn).unwrap_err().detail.contains("damaged"));
    assert_eq!(shop.jobs.document(&torn).unwrap(), "{\"format\": \"vatman-jo");
    // The copy is the file of before, and is not written over.
    drop(shop);
    let copy = folder.path().join("vatman.before-20261126000000.sqlite");
    let mut copied = SqliteConnection::establish(&copy.to_string_lossy()).unwrap();
    sql_query("SELECT document FROM jobs").execute(&mut copied).unwrap();
}

#[test]
fn a_file_of_a_newer_program_is_refused_and_left_as_it_is() {
    let folder = tempfile::tempdir().unwrap();
    drop(shop(&folder));
    sql_query("INSERT INTO __diesel_schema_migrations (version) VALUES ('20991231000000')")
        .execute(&mut raw(&folder))
        .unwrap();
    let refused = Store::open(folder.path()).map(|_| ()).unwrap_err().to_string();
    assert!(refused.contains("later version") && refused.contains("vatman.sqlite"), "{refused}");
}

#[test]
fn what_was_removed_long_ago_and_is_shown_nowhere_is_let_go_of() {
    let folder = tempfile::tempdir().unwrap();
    let shop = shop(&folder);
    let (kept, gone) = (start(&shop), start(&shop));
    let picture = |shade: u8| {
        let pixels = image::RgbImage::from_pixel(8, 8, image::Rgb([shade, 90, 60]));
        let mut bytes = std::io::Cursor::new(Vec::new());
        pixels.write_to(&mut bytes, image::ImageFormat::Png).unwrap();
        shop.shelves.take_picture("pot", bytes.get_ref(), &Wanted::default()).unwrap().0
    };
    let (shown, undone, spare) = (picture(1), picture(2), picture(3));
    let side = shop.open_job(&kept).unwrap().job.pieces[0].sides[0].id.clone();
    let mut base = 1;
    let mut act = |act: Act| {
        let request = ActRequest { base, act, gesture: None, watch: None, carets: None };
        base = shop.acting.act(&kept, &request).unwrap().revision;
    };
    let add = |picture: &vatman_document::AssetId| Act::Add {
        side: side.clone(),
        what: serde_json::from_value(json!({ "kind": "picture", "picture": picture })).unwrap(),
        last: None,
        at: None,
    };
    act(add(&shown));
    act(add(&undone));
    act(Act::Undo);
    shop.jobs.set_removed(&gone, true).unwrap();
    let later = i64::MAX / 2;
    assert_eq!(shop.store.tidy(0).unwrap(), vatman_server::Tidied::default(), "nothing is old enough");
    assert_eq!(shop.store.tidy(later).unwrap(), vatman_server::Tidied { jobs: 1, pictures: 1 });
    assert!(shop.store.has_picture(&shown) && shop.store.has_picture(&undone) && !shop.store.has_picture(&spare));
    assert!(shop.jobs.set_removed(&gone, false).is_err());
    act(Act::Redo);
    assert!(shop.store.pictures().unwrap().iter().filter(|picture| picture.sample).count() >= 12);
}

#[test]
fn the_demo_fills_an_empty_file_once() {
    let folder = tempfile::tempdir().unwrap();
    let shop = shop(&folder);
    let made = shop.fill_with_demo().unwrap();
    assert!(made >= 8);
    assert_eq!(shop.fill_with_demo().unwrap(), 0, "what is there is not filled up");
    let board = shop.jobs.board().unwrap();
    assert_eq!((board.len(), board[0].title.as_str()), (made, "Saturday wheel class"));
    let pictures = shop.store.pictures().unwrap();
    assert!(pictures.len() >= 12 && pictures.iter().all(|picture| picture.sample && picture.width >= 1_000));
}
