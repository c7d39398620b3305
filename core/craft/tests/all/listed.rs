//! Pieces made from lists.

use std::collections::BTreeMap;

use crate::common::{Counter, WORLD, run, sheet_with, words};
use vatman_craft::{
    Addition, Copies, Fills, Inks, Printed, SheetSetup, Table, add, fill_rows, guess, list_fields, plan_sheets,
    spilling, write_listed, write_sheets,
};
use vatman_document::{AssetId, CodeWords, Content, Job, Part};
use vatman_output::PdfError;

const CLASSES: &str = "Name;When;Photo;Link\n\
    Ines Vardal;Saturday, 10 to 1;celadon-mug.jpg;mossback.example/1\n\
    Tobin Ashgrove;Sunday, 2 to 5;;mossback.example/2\n\
    ;Monday;;\n\
    Zoë Åkesson;Friday\n\
    Maud Penrose;Friday, 6 to 9;nowhere.png;mossback.example/4\n";

fn badge() -> Job {
    let mut job = WORLD.job(&["doorway"], &[("card-85x55", 1)], &words());
    let piece = job.pieces[0].clone();
    let says = CodeWords::Address { address: "mossback.example".into() };
    let (command, _) = add(&job, &piece, &piece.sides[0], Addition::Code(says), &Inks::PLAIN, &mut Counter(500));
    command.apply(&mut job, &*WORLD).unwrap();
    job
}

fn shelf(name: &str) -> Option<AssetId> {
    let stem = name.split('.').next()?;
    (stem != "nowhere").then(|| WORLD.samples.values().next().cloned()).flatten()
}

#[test]
fn columns_find_their_parts_and_bad_rows_are_told_with_line_and_reason() {
    let job = badge();
    let piece = &job.pieces[0];
    let table = Table::read(CLASSES).unwrap();
    let fillings = guess(&job, piece, &table);
    let fields = list_fields(&job, piece);
    let found: BTreeMap<usize, (Fills, Option<Part>)> = fillings
        .iter()
        .map(|filling| (filling.column, (filling.fills, job.kins.get(&filling.kin).map(|kin| kin.part))))
        .collect();
    assert_eq!(found[&0], (Fills::Words, Some(Part::Headline)));
    assert_eq!(found[&1], (Fills::Words, Some(Part::When)));
    assert_eq!(found[&2].0, Fills::Picture, "{fields:?}");
    assert_eq!(found[&3].0, Fills::Code);
    let filled = fill_rows(&job, piece, &table, &fillings, &shelf);
    assert_eq!((filled.records.len(), filled.lines.clone()), (2, vec![2, 3]));
    let bad: Vec<(u64, &str)> = filled.bad.iter().map(|bad| (bad.line, bad.says.as_str())).collect();
    assert_eq!(
        bad,
        [
            (4, "\u{201c}Name\u{201d} is empty."),
            (5, "It has 2 of 4 cells; a separator may be missing."),
            (6, "There is no picture \u{201c}nowhere.png\u{201d} on the shelf."),
        ]
    );
    // The second row shows no picture, though the piece does.
    let second = job.filled(&filled.records[1]);
    let shows = |job: &Job| {
        job.pieces[0].sides[0]
            .items
            .iter()
            .filter_map(|item| job.plain(item))
            .any(|plain| plain.content.picture().is_some())
    };
    assert!(shows(&job) && !shows(&second));
    assert!(
        second
            .kins
            .values()
            .any(|kin| matches!(&kin.content, Content::Code { code } if code.says.said() == "mossback.example/2"))
    );
    assert_eq!(second.kins.len(), job.kins.len());
}

#[test]
fn a_column_headed_by_what_a_part_says_now_is_for_that_part() {
    let job = badge();
    let piece = &job.pieces[0];
    let says = |kin: &vatman_document::KinId| job.kins[kin].content.words().map(vatman_document::RichText::text);
    for field in list_fields(&job, piece).into_iter().filter(|field| field.fills == Fills::Words) {
        let now = says(&field.kin).unwrap();
        let table = Table::read(&format!("\"{now}\";Remarks\nOne;left\nAnother;right\n")).unwrap();
        let found = guess(&job, piece, &table);
        assert!(found.iter().any(|filling| filling.column == 0 && filling.kin == field.kin), "{now}: {found:?}");
    }
}

#[test]
fn words_that_do_not_fit_are_found_row_by_row() {
    let (job, _) = sheet_with(vec![Addition::Words(Part::Headline)]);
    let piece = &job.pieces[0];
    let long = "Made slow, used daily, and told at length. ".repeat(120);
    let table = Table::read(&format!("Name,Note\nInes,x\n\"{long}\",y\nTobin,z\n")).unwrap();
    let filled = fill_rows(&job, piece, &table, &guess(&job, piece, &table), &shelf);
    let spills = spilling(&WORLD.studio, &job, piece, &filled.records);
    assert_eq!(spills.iter().map(|(at, _)| *at).collect::<Vec<_>>(), [1], "{spills:?}");
}

#[test]
fn every_row_is_in_the_pdf_in_its_order() {
    let folder = tempfile::tempdir().unwrap();
    let job = badge();
    let piece = &job.pieces[0];
    let names: Vec<String> = (1..=23).map(|at| format!("Guest {at:02}")).collect();
    let table = Table::read(&format!("Name\n{}\n", names.join("\n"))).unwrap();
    let filled = fill_rows(&job, piece, &table, &guess(&job, piece, &table), &shelf);
    let path = folder.path().join("list.pdf").to_string_lossy().into_owned();
    let mut steps = 0;
    let bytes = write_listed::<PdfError>(&WORLD.studio, &job, piece, &filled.records, false, || {
        steps += 1;
        Ok(())
    });
    std::fs::write(&path, bytes.unwrap()).unwrap();
    assert_eq!(steps, 23);
    run("qpdf", &["--check", &path]);
    let said = |path: &str| -> Vec<String> {
        let text = run("pdftotext", &["-raw", path, "-"]);
        // Readers may break lines of letters that stand on their side.
        let words: Vec<&str> = text.split_whitespace().collect();
        words.windows(2).filter(|two| two[0] == "Guest").map(|two| two.join(" ")).collect()
    };
    assert_eq!(said(&path), names);
    let copies = [Copies { piece: piece.id.clone(), count: None }];
    let setup = SheetSetup::for_piece(piece);
    let plan = plan_sheets(&Printed { job: &job, copies: &copies, records: Some(&filled.records) }, &setup).unwrap();
    assert_eq!((plan.up, plan.sheets.len(), plan.pieces()), (9, 3, 23));
    let bytes = write_sheets::<PdfError>(&WORLD.studio, (&job, &filled.records), &plan, &setup, |_| Ok(())).unwrap();
    std::fs::write(&path, bytes).unwrap();
    run("qpdf", &["--check", &path]);
    assert_eq!(said(&path), names);
    // What gives up half way is heard.
    let mut left = 5;
    let given_up = write_listed::<PdfError>(&WORLD.studio, &job, piece, &filled.records, false, || {
        left -= 1;
        if left > 0 { Ok(()) } else { Err(PdfError::Font) }
    });
    assert_eq!(given_up, Err(PdfError::Font));
}
