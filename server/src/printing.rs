//! Printing: pieces on sheets, from lists too, as pictures to look at and as PDF.

use std::sync::Arc;

use serde::{Deserialize, Serialize};
use vatman_craft::{
    BadRow, Copies, FileParts, Filled, Filling, FittedSize, ListField, OutputFile, PlanCard, PrintPlan, Printed,
    SheetKind, SheetSetup, Studio, Table, fill_rows, fitted_size, guess, list_columns, list_fields, plan_card,
    plan_sheets, sheet_picture, slug, spilling, write_guide, write_sheets, zip_files,
};
use vatman_document::{AssetId, Job, JobId, Piece, PieceId, Record};
use vatman_photo::encode_png;

use crate::asking::find_piece;
use crate::clock::{now, today};
use crate::ids::Ids;
use crate::jobs::Jobs;
use crate::keeping::Keeping;
use crate::problem::Problem;
use crate::shelves::{Shelves, picture_of};
use crate::store::Store;
use crate::types::{KindOffer, ListCard, ListRow, ListWish, ListedFiles, PrintWish};
use crate::work::{Progress, WorkCard, Works};

/// The kind under which lists are kept.
const LIST: &str = "list";
/// Rows that are looked at for words that do not fit while somebody waits.
const LOOKED_AT: usize = 500;

/// Files made by printing.
pub struct PrintedFiles {
    files: Vec<OutputFile>,
    archive: String,
}

impl PrintedFiles {
    /// The one file, or an archive of all.
    ///
    /// # Errors
    /// A problem where the archive cannot be written.
    pub fn file(&self) -> Result<OutputFile, Problem> {
        match self.files.as_slice() {
            [only] => Ok(only.clone()),
            all => Ok(OutputFile::beside(&self.archive, "application/zip", zip_files(all)?)),
        }
    }

    /// Every file.
    #[must_use]
    pub fn all(&self) -> &[OutputFile] {
        &self.files
    }
}

/// A list as it is kept with a piece.
#[derive(Debug, Clone, Serialize, Deserialize)]
struct KeptList {
    name: String,
    text: String,
    fillings: Vec<Filling>,
}

/// What becomes of a table that is not kept.
pub enum Merging {
    /// Sheets.
    Sheets(Box<SheetSetup>),
    /// Files.
    Files(ListedFiles),
}

/// Lays pieces on sheets.
pub struct Printing {
    store: Arc<Store>,
    jobs: Arc<Jobs>,
    studio: Arc<Studio>,
    shelves: Arc<Shelves>,
}

/// What is printed, found.
struct Found {
    job: Arc<Job>,
    copies: Vec<Copies>,
    filled: Option<Filled>,
}

impl Found {
    fn records(&self) -> &[Record] {
        self.filled.as_ref().map_or(&[], |filled| &filled.records)
    }

    fn plan(&self, setup: &SheetSetup) -> Result<PrintPlan, Problem> {
        let records = self.filled.as_ref().map(|filled| filled.records.as_slice());
        if records.is_some_and(<[Record]>::is_empty) {
            return Err(Problem::value("No row of the list can be printed. Look at the reasons beside them."));
        }
        Ok(plan_sheets(&Printed { job: &self.job, copies: &self.copies, records }, setup)?)
    }
}

impl Printing {
    /// Over a data file.
    #[must_use]
    pub fn new(store: Arc<Store>, jobs: Arc<Jobs>, studio: Arc<Studio>, shelves: Arc<Shelves>) -> Self {
        Self { store, jobs, studio, shelves }
    }

    fn keeping(&self) -> &Keeping {
        &self.shelves.keeping
    }

    /// A piece once for each row of a table that is not kept: on sheets where a layout is given, else as one PDF or a file each. With what
    /// was left out.
    ///
    /// # Errors
    /// A problem where it is no list, no row is good, or a file cannot be made.
    pub fn merge(
        &self,
        id: &JobId,
        piece: &PieceId,
        bytes: &[u8],
        how: &Merging,
    ) -> Result<(PrintedFiles, Vec<BadRow>, usize), Problem> {
        let job = self.jobs.load(id)?.job;
        let own = find_piece(&job, piece)?;
        let table = read_table(bytes)?;
        let filled = self.fill(&job, own, &table, &guess(&job, own, &table))?;
        let (bad, good) = (filled.bad.clone(), filled.records.len());
        let copies = vec![Copies { piece: piece.clone(), count: None }];
        let found = Found { job: Arc::clone(&job), copies, filled: Some(filled) };
        let files = match how {
            Merging::Sheets(setup) => self.on_sheets(&found, setup, None)?,
            Merging::Files(wish) => {
                if good == 0 {
                    return Err(Problem::value("No row of the list can be made."));
                }
                self.files_of(&found, wish, None)?
            }
        };
        Ok((files, bad, good))
    }

    fn found(&self, id: &JobId, wish: &PrintWish) -> Result<Found, Problem> {
        let job = self.jobs.load(id)?.job;
        let copies: Vec<Copies> = wish
            .pieces
            .iter()
            .map(|of| Copies { piece: of.piece.clone(), count: of.count.filter(|count| *count > 0) })
            .collect();
        let first = copies.first().ok_or_else(|| Problem::value("Choose at least one piece to print."))?;
        let filled = if wish.list { Some(self.filled(&job, find_piece(&job, &first.piece)?)?) } else { None };
        Ok(Found { job, copies, filled })
    }

    /// How sheets begin for a piece, as its size asks for, and what can be laid of it.
    ///
    /// # Errors
    /// A problem where the piece is not there.
    pub fn setup(&self, id: &JobId, piece: &PieceId) -> Result<(SheetSetup, Vec<KindOffer>), Problem> {
        let job = self.jobs.load(id)?.job;
        let piece = find_piece(&job, piece)?;
        let offer = |(kind, name)| KindOffer { kind, name };
        Ok((SheetSetup::for_piece(piece), SheetKind::offered(piece).into_iter().map(offer).collect()))
    }

    /// What a wish comes to.
    ///
    /// # Errors
    /// A problem where something does not fit, in plain words.
    pub fn card(&self, id: &JobId, wish: &PrintWish) -> Result<PlanCard, Problem> {
        let found = self.found(id, wish)?;
        let plan = found.plan(&wish.setup)?;
        Ok(plan_card(&self.studio, &found.job, &plan, &wish.setup))
    }

    /// The size at which so many of the first piece fit across and down.
    ///
    /// # Errors
    /// A problem where nothing would be left of it.
    pub fn size(&self, id: &JobId, wish: &PrintWish, (across, down): (u32, u32)) -> Result<FittedSize, Problem> {
        let found = self.found(id, wish)?;
        let piece = find_piece(&found.job, &found.copies[0].piece)?;
        Ok(fitted_size(piece, &wish.setup, across.clamp(1, 100), down.clamp(1, 100))?)
    }

    /// Where everything lies, in inches and millimetres.
    ///
    /// # Errors
    /// A problem where something does not fit.
    pub fn positions(&self, id: &JobId, wish: &PrintWish) -> Result<serde_json::Value, Problem> {
        let found = self.found(id, wish)?;
        let plan = found.plan(&wish.setup)?;
        Ok(vatman_craft::sheet_positions(&found.job, &plan))
    }

    /// A face as a picture: PNG.
    ///
    /// # Errors
    /// A problem where there is no such face, or it cannot be drawn.
    pub fn picture(&self, id: &JobId, wish: &PrintWish, face: usize, width: u32) -> Result<Vec<u8>, Problem> {
        let found = self.found(id, wish)?;
        let plan = found.plan(&wish.setup)?;
        let of = (found.job.as_ref(), found.records());
        let drawn = sheet_picture(&self.studio, of, &plan, &wish.setup, (face, width.clamp(64, 2_400)))?;
        let drawn = drawn.ok_or_else(|| Problem::not_found("There is no such sheet."))?;
        Ok(encode_png(&drawn.straight(), 96)?)
    }

    /// Starts writing the sheets as PDF.
    ///
    /// # Errors
    /// A problem where something does not fit.
    pub fn start(self: &Arc<Self>, works: &Works, id: &JobId, wish: PrintWish) -> Result<WorkCard, Problem> {
        self.found(id, &wish)?.plan(&wish.setup)?;
        let (printing, id) = (Arc::clone(self), id.clone());
        works.start(JobId::fresh(&mut Ids).as_str(), move |progress| printing.print(&id, &wish, Some(progress)))
    }

    /// The sheets as one PDF.
    ///
    /// # Errors
    /// A problem where something does not fit, cannot be drawn, or it was given up.
    pub fn print(&self, id: &JobId, wish: &PrintWish, progress: Option<&Progress>) -> Result<PrintedFiles, Problem> {
        self.on_sheets(&self.found(id, wish)?, &wish.setup, progress)
    }

    fn on_sheets(
        &self,
        found: &Found,
        setup: &SheetSetup,
        progress: Option<&Progress>,
    ) -> Result<PrintedFiles, Problem> {
        let plan = found.plan(setup)?;
        if let Some(progress) = progress {
            let backs = if plan.has_backs() { 2 } else { 1 };
            progress.of(plan.sheets.len() * backs);
        }
        let of = (found.job.as_ref(), found.records());
        let step = |at: usize| if at == 0 { Ok(()) } else { progress.map_or(Ok(()), Progress::step) };
        let bytes = write_sheets::<Problem>(&self.studio, of, &plan, setup, step)?;
        let name = self.named(found, "sheets", "pdf");
        Ok(PrintedFiles { files: vec![OutputFile::beside(&name, "application/pdf", bytes)], archive: String::new() })
    }

    fn named(&self, found: &Found, what: &str, extension: &str) -> String {
        let piece = found.copies.first().and_then(|copies| found.job.piece(&copies.piece));
        let piece = piece.map_or("", |piece| piece.name.as_str());
        format!("{}_{}_{what}.{extension}", slug(&found.job.title), slug(piece))
    }

    /// How sheets are printed, with a ruler and a test of both sides: PDF.
    ///
    /// # Errors
    /// A problem where something does not fit.
    pub fn guide(&self, id: &JobId, wish: &PrintWish) -> Result<OutputFile, Problem> {
        let found = self.found(id, wish)?;
        let plan = found.plan(&wish.setup)?;
        let bytes = write_guide(&self.studio, &found.job.title, &plan, &wish.setup)?;
        Ok(OutputFile::beside(&self.named(&found, "how-to-print", "pdf"), "application/pdf", bytes))
    }

    fn list_name(id: &JobId, piece: &PieceId) -> String {
        format!("{id}/{piece}")
    }

    fn kept_list(&self, id: &JobId, piece: &PieceId) -> Result<Option<KeptList>, Problem> {
        let name = Self::list_name(id, piece);
        let row = self.store.kept_by(LIST, &name)?;
        Ok(row.and_then(|document| serde_json::from_str(&document).ok()))
    }

    fn keep_list(&self, id: &JobId, piece: &PieceId, list: &KeptList) -> Result<(), Problem> {
        let document = serde_json::to_string(list).map_err(|error| Problem::internal(&error))?;
        Ok(self.store.put_by(LIST, &Self::list_name(id, piece), &document, now())?)
    }

    /// Takes a list for a piece, in place of the one it had. Columns are matched to parts by name and by what they hold.
    ///
    /// # Errors
    /// A problem where it is no list.
    pub fn take_list(&self, id: &JobId, piece: &PieceId, name: &str, bytes: &[u8]) -> Result<ListCard, Problem> {
        let job = self.jobs.load(id)?.job;
        let own = find_piece(&job, piece)?;
        let text = Table::text(bytes).map_err(|error| Problem::value(error.to_string()))?;
        let table = Table::read(&text).map_err(|error| Problem::value(error.to_string()))?;
        let fillings = guess(&job, own, &table);
        let name: String = name.chars().filter(|c| !c.is_control()).take(120).collect();
        let list = KeptList { name, text, fillings };
        self.keep_list(id, piece, &list)?;
        self.list_card(&job, own, &list)
    }

    /// The list of a piece; nothing where it has none.
    ///
    /// # Errors
    /// A problem where the piece is not there.
    pub fn list(&self, id: &JobId, piece: &PieceId) -> Result<Option<ListCard>, Problem> {
        let job = self.jobs.load(id)?.job;
        let own = find_piece(&job, piece)?;
        self.kept_list(id, piece)?.map(|list| self.list_card(&job, own, &list)).transpose()
    }

    /// Says which column fills which part.
    ///
    /// # Errors
    /// A problem where there is no list.
    pub fn match_list(&self, id: &JobId, piece: &PieceId, wish: &ListWish) -> Result<ListCard, Problem> {
        let job = self.jobs.load(id)?.job;
        let own = find_piece(&job, piece)?;
        let none = || Problem::not_found("This piece has no list any more. Choose the file again.");
        let mut list = self.kept_list(id, piece)?.ok_or_else(none)?;
        let fields = list_fields(&job, own);
        // Of each part once, and none that the piece does not have.
        let filling = |field: &ListField| {
            wish.fillings.iter().find(|filling| field.kin == filling.kin && field.fills == filling.fills).cloned()
        };
        list.fillings = fields.iter().filter_map(filling).collect();
        self.keep_list(id, piece, &list)?;
        self.list_card(&job, own, &list)
    }

    /// Lets go of the list of a piece.
    ///
    /// # Errors
    /// A problem where the file fails.
    pub fn drop_list(&self, id: &JobId, piece: &PieceId) -> Result<(), Problem> {
        self.store.let_go(LIST, &Self::list_name(id, piece))?;
        Ok(())
    }

    fn list_card(&self, job: &Job, piece: &Piece, list: &KeptList) -> Result<ListCard, Problem> {
        let table = Table::read(&list.text).map_err(|error| Problem::value(error.to_string()))?;
        let filled = self.fill(job, piece, &table, &list.fillings)?;
        let looked = &filled.records[..filled.records.len().min(LOOKED_AT)];
        let spills = spilling(&self.studio, job, piece, looked);
        let spills = spills.into_iter().map(|(at, says)| BadRow { line: filled.lines[at], says }).collect();
        let heading = list.fillings.first().map_or(0, |filling| filling.column);
        let rows = table.rows.iter().filter(|row| filled.lines.contains(&row.line)).take(LOOKED_AT);
        let rows = rows.map(|row| ListRow {
            line: row.line,
            says: row
                .cells
                .get(heading)
                .filter(|cell| !cell.is_empty())
                .or(row.cells.first())
                .cloned()
                .unwrap_or_default(),
        });
        Ok(ListCard {
            name: list.name.clone(),
            columns: list_columns(&table),
            fields: list_fields(job, piece),
            fillings: list.fillings.clone(),
            rows: rows.collect(),
            good: filled.records.len(),
            bad: filled.bad,
            spills,
        })
    }

    fn fill(&self, job: &Job, piece: &Piece, table: &Table, fillings: &[Filling]) -> Result<Filled, Problem> {
        let shelf: Vec<(String, AssetId)> = self
            .store
            .pictures()?
            .into_iter()
            .filter_map(|row| Some((plain_name(&row.name), AssetId::new(row.id).ok()?)))
            .collect();
        let picture = |name: &str| {
            let name = plain_name(name);
            shelf.iter().find(|(own, _)| *own == name).map(|(_, id)| id.clone())
        };
        Ok(fill_rows(job, piece, table, fillings, &picture))
    }

    fn filled(&self, job: &Job, piece: &Piece) -> Result<Filled, Problem> {
        let none = || Problem::not_found("This piece has no list any more. Choose the file again.");
        let list = self.kept_list(&job.id, &piece.id)?.ok_or_else(none)?;
        let table = Table::read(&list.text).map_err(|error| Problem::value(error.to_string()))?;
        self.fill(job, piece, &table, &list.fillings)
    }

    /// A side of a piece as a row of its list fills it: PNG.
    ///
    /// # Errors
    /// A problem where there is no such row or side.
    pub fn row_picture(
        &self,
        id: &JobId,
        piece: &PieceId,
        (row, side, width): (usize, usize, u32),
    ) -> Result<Vec<u8>, Problem> {
        let job = self.jobs.load(id)?.job;
        let own = find_piece(&job, piece)?;
        let filled = self.filled(&job, own)?;
        let missing = || Problem::not_found("There is no such row.");
        let record = filled.records.get(row).ok_or_else(missing)?;
        let job = job.filled(record);
        let own = find_piece(&job, piece)?;
        let side = own.sides.get(side).ok_or_else(missing)?;
        let scene = self.studio.scene(&job, own, side, vatman_scene::Audience::Output, None);
        picture_of(&self.studio, &scene, width)
    }

    /// Starts writing a piece once for each row: files of a kind, or one PDF.
    ///
    /// # Errors
    /// A problem where there is no list or no good row.
    pub fn start_listed(
        self: &Arc<Self>,
        works: &Works,
        id: &JobId,
        piece: &PieceId,
        wish: ListedFiles,
    ) -> Result<WorkCard, Problem> {
        let job = self.jobs.load(id)?.job;
        if self.filled(&job, find_piece(&job, piece)?)?.records.is_empty() {
            return Err(Problem::value("No row of the list can be made. Look at the reasons beside them."));
        }
        let (printing, id, piece) = (Arc::clone(self), id.clone(), piece.clone());
        works
            .start(JobId::fresh(&mut Ids).as_str(), move |progress| printing.listed(&id, &piece, &wish, Some(progress)))
    }

    /// A piece once for each row of its list: a file of a kind each, named after what its row says first, or one PDF with all.
    ///
    /// # Errors
    /// A problem where a file cannot be made, or it was given up.
    pub fn listed(
        &self,
        id: &JobId,
        piece: &PieceId,
        wish: &ListedFiles,
        progress: Option<&Progress>,
    ) -> Result<PrintedFiles, Problem> {
        let job = self.jobs.load(id)?.job;
        let filled = Some(self.filled(&job, find_piece(&job, piece)?)?);
        let found = Found { job, copies: vec![Copies { piece: piece.clone(), count: None }], filled };
        self.files_of(&found, wish, progress)
    }

    fn files_of(
        &self,
        found: &Found,
        wish: &ListedFiles,
        progress: Option<&Progress>,
    ) -> Result<PrintedFiles, Problem> {
        let (job, piece, records) = (found.job.as_ref(), &found.copies[0].piece, found.records());
        let own = find_piece(job, piece)?;
        if let Some(progress) = progress {
            progress.of(records.len());
        }
        if wish.together {
            let step = || progress.map_or(Ok(()), Progress::step);
            let bytes = vatman_craft::write_listed::<Problem>(&self.studio, job, own, records, wish.bleed, step)?;
            let name = self.named(found, "list", "pdf");
            return Ok(PrintedFiles {
                files: vec![OutputFile::beside(&name, "application/pdf", bytes)],
                archive: String::new(),
            });
        }
        let names = self.keeping().names()?;
        let mut taken = vatman_craft::Names::default();
        let mut files = Vec::new();
        let how = vatman_craft::HandOver { bleed: wish.bleed, ..vatman_craft::HandOver::of(wish.kind) };
        for (at, record) in records.iter().enumerate() {
            let row = job.filled(record);
            let own = find_piece(&row, piece)?;
            let says = record.contents.values().find_map(|content| content.words().map(|text| text.text()));
            for file in vatman_craft::write_file(&self.studio, &row, own, &[], how)? {
                let about = FileParts {
                    piece: format!("{} {}", file.about.piece, says.as_deref().unwrap_or_default()),
                    ..file.about.clone()
                };
                let name = taken.tell_apart(&names.name(&about, today(), at + 1));
                files.push(OutputFile { name, ..file });
            }
            progress.map_or(Ok(()), Progress::step)?;
        }
        Ok(PrintedFiles { files, archive: format!("{}_{}.zip", slug(&job.title), slug(&own.name)) })
    }
}

fn read_table(bytes: &[u8]) -> Result<Table, Problem> {
    let text = Table::text(bytes).map_err(|error| Problem::value(error.to_string()))?;
    Table::read(&text).map_err(|error| Problem::value(error.to_string()))
}

/// A name of a picture as people write it: without its folder, its ending, and capitals.
fn plain_name(name: &str) -> String {
    let name = name.rsplit(['/', '\\']).next().unwrap_or(name);
    let stem = name.rsplit_once('.').filter(|(_, end)| end.len() <= 4).map_or(name, |(stem, _)| stem);
    stem.trim().to_lowercase()
}
