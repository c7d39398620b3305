//! Handing over: files are made once, in the background, and the same bytes are measured and fetched.

use std::fmt::Write as _;
use std::sync::Arc;

use quick_cache::Weighter;
use quick_cache::sync::Cache;
use vatman_craft::{
    ContactSheet, FileKind, Finding, HandOver, HandOverError, Names, OutputFile, PlaceEntry, Studio, state_key,
    too_heavy, write_file, write_for_place, zip_files,
};
use vatman_document::{Job, JobId, Piece, PieceId, SideId};

use crate::asking::find_piece;
use crate::clock::{now, today};
use crate::ids::Ids;
use crate::jobs::Jobs;
use crate::problem::Problem;
use crate::shelves::Shelves;
use crate::store::{HandedRow, Store};
use crate::types::{FileCard, HandOverRequest, HandedCard};
use crate::work::{Progress, WorkCard, Works};

/// Bytes of finished files kept in memory.
const FILES: u64 = 256 << 20;

#[derive(Clone)]
struct ByBytes;

impl Weighter<String, Arc<Vec<OutputFile>>> for ByBytes {
    fn weight(&self, _: &String, files: &Arc<Vec<OutputFile>>) -> u64 {
        files.iter().map(|file| file.bytes.len() as u64 + 256).sum()
    }
}

/// The files of a piece, what they are called, and where they go.
struct Made {
    files: Arc<Vec<OutputFile>>,
    names: Vec<String>,
    piece: PieceId,
    looked: String,
    name: String,
    place: PlaceEntry,
}

impl Made {
    fn named(&self) -> impl Iterator<Item = (&String, &OutputFile)> {
        self.names.iter().zip(self.files.iter())
    }
}

/// The files of a hand-over, each once.
pub struct Handed {
    job: JobId,
    archive: String,
    made: Vec<Made>,
    /// A picture of all of them and a list, where they were made for their places.
    beside: Vec<OutputFile>,
}

impl Handed {
    /// Every file, under its name.
    #[must_use]
    pub fn all(&self) -> Vec<OutputFile> {
        let named = self.made.iter().flat_map(Made::named);
        named.map(|(name, file)| OutputFile { name: name.clone(), ..file.clone() }).collect()
    }

    /// What they are called and how large they are.
    #[must_use]
    pub fn cards(&self) -> Vec<FileCard> {
        let card = |made: &Made, name: &String, file: &OutputFile| {
            let over = made.place.most.filter(|most| file.bytes.len() as u64 > *most);
            FileCard { name: name.clone(), bytes: file.bytes.len(), over }
        };
        self.made.iter().flat_map(|made| made.named().map(|(name, file)| card(made, name, file))).collect()
    }

    /// The one file, or an archive of all.
    ///
    /// # Errors
    /// A problem where the archive cannot be written.
    pub fn file(&self) -> Result<OutputFile, Problem> {
        let mut all = self.all();
        if let [_] = all.as_slice() {
            return Ok(all.remove(0));
        }
        all.extend(self.beside.iter().cloned());
        Ok(OutputFile::beside(&self.archive, "application/zip", zip_files(&all)?))
    }

    /// One of the files, by its place in the list of them.
    ///
    /// # Errors
    /// A problem where there is no such file.
    pub fn one(&self, at: usize) -> Result<OutputFile, Problem> {
        let mut all = self.made.iter().flat_map(Made::named);
        let (name, file) = all.nth(at).ok_or_else(|| Problem::not_found("There is no such file."))?;
        Ok(OutputFile { name: name.clone(), ..file.clone() })
    }
}

/// Makes the files that leave.
pub struct Handing {
    store: Arc<Store>,
    jobs: Arc<Jobs>,
    studio: Arc<Studio>,
    shelves: Arc<Shelves>,
    made: Cache<String, Arc<Vec<OutputFile>>, ByBytes>,
}

impl Handing {
    /// Without any files yet.
    #[must_use]
    pub fn new(store: Arc<Store>, jobs: Arc<Jobs>, studio: Arc<Studio>, shelves: Arc<Shelves>) -> Self {
        Self { store, jobs, studio, shelves, made: Cache::with_weighter(512, FILES, ByBytes) }
    }

    /// Starts making the files of a hand-over in the background.
    ///
    /// # Errors
    /// A problem where a piece is not there or the wish makes no sense.
    pub fn start(self: &Arc<Self>, works: &Works, id: &JobId, wish: HandOverRequest) -> Result<WorkCard, Problem> {
        self.check(id, &wish)?;
        let (handing, id) = (Arc::clone(self), id.clone());
        works.start(JobId::fresh(&mut Ids).as_str(), move |progress| handing.make(&id, &wish, Some(progress)))
    }

    fn check(&self, id: &JobId, wish: &HandOverRequest) -> Result<(), Problem> {
        let job = self.jobs.load(id)?.job;
        if wish.pieces.is_empty() {
            return Err(Problem::value("Choose at least one piece to hand over."));
        }
        wish.pieces.iter().try_for_each(|piece| how(find_piece(&job, piece)?, wish).map(|_| ()))
    }

    /// The files of a hand-over. A piece named twice is made once.
    ///
    /// # Errors
    /// A problem where a piece is not there, a file cannot be made, or it was given up.
    pub fn make(&self, id: &JobId, wish: &HandOverRequest, progress: Option<&Progress>) -> Result<Handed, Problem> {
        self.check(id, wish)?;
        let job = self.jobs.load(id)?.job;
        let mut pieces: Vec<&PieceId> = Vec::new();
        for piece in &wish.pieces {
            if !pieces.contains(&piece) {
                pieces.push(piece);
            }
        }
        if let Some(progress) = progress {
            progress.of(pieces.len());
        }
        let names = self.shelves.keeping.names()?;
        let (mut number, mut taken) = (0, Names::default());
        let mut made = Vec::new();
        let mut sheet = ContactSheet::default();
        for piece in pieces {
            let piece = find_piece(&job, piece)?;
            let place = self.shelves.entry_of(piece);
            let how = how(piece, wish)?;
            let sides: Vec<_> =
                piece.sides.iter().map(|side| side.id.clone()).filter(|side| wish.sides.contains(side)).collect();
            let files = self.files_of(&job, piece, &sides, how, &place)?;
            if how.is_none() {
                for side in piece.sides.iter().filter(|side| sides.is_empty() || sides.contains(&side.id)) {
                    sheet.add(ContactSheet::cell(&self.studio, &job, piece, side)?);
                }
            }
            let named = |file: &OutputFile| {
                number += 1;
                taken.tell_apart(&names.name(&file.about, today(), number))
            };
            let names = files.iter().map(named).collect();
            let looked = state_key(&job, piece);
            made.push(Made { files, names, piece: piece.id.clone(), looked, name: piece.name.clone(), place });
            progress.map_or(Ok(()), Progress::step)?;
        }
        let beside = if wish.kind.is_none() && made.len() > 1 { beside(&made, &sheet)? } else { Vec::new() };
        Ok(Handed { job: id.clone(), archive: format!("{}.zip", vatman_craft::slug(&job.title)), made, beside })
    }

    /// The files of a piece, made once for what it looks like.
    fn files_of(
        &self,
        job: &Job,
        piece: &Piece,
        sides: &[SideId],
        how: Option<HandOver>,
        place: &PlaceEntry,
    ) -> Result<Arc<Vec<OutputFile>>, Problem> {
        let library = self.studio.typesetter.library().stamp();
        let limits = (&place.files, place.most, place.clear);
        let key = format!("{}/{}/{library}/{how:?}/{limits:?}/{sides:?}", job.title, state_key(job, piece));
        self.made.get_or_insert_with(&key, || {
            Ok(Arc::new(match how {
                Some(how) => write_file(&self.studio, job, piece, sides, how)?,
                None => write_for_place(&self.studio, job, piece, sides, place)?,
            }))
        })
    }

    /// Remembers that files were fetched: all of a hand-over, or the one at a place in the list of them. The files leave also where that
    /// cannot be written, as on a full disk.
    pub fn fetched(&self, handed: &Handed, at: Option<usize>) {
        if let Err(problem) = self.remember(handed, at) {
            tracing::warn!("it is not remembered that files were fetched: {problem}");
        }
    }

    fn remember(&self, handed: &Handed, at: Option<usize>) -> Result<(), Problem> {
        let mut before = 0;
        let mut rows = Vec::new();
        for made in &handed.made {
            let own = before..before + made.names.len();
            before = own.end;
            if at.is_none_or(|at| own.contains(&at)) {
                let files = serde_json::to_string(&made.names).map_err(|error| Problem::internal(&error))?;
                rows.push(HandedRow { piece: made.piece.to_string(), looked: made.looked.clone(), files, at: now() });
            }
        }
        Ok(self.store.remember_handed(&handed.job, &rows)?)
    }

    /// What was fetched of the pieces of a job last, and whether they still look so.
    ///
    /// # Errors
    /// A problem where the job is not there.
    pub fn handed(&self, id: &JobId) -> Result<Vec<HandedCard>, Problem> {
        let job = self.jobs.load(id)?.job;
        let rows = self.store.handed(id)?;
        let card = |row: HandedRow| {
            let piece = job.pieces.iter().find(|piece| piece.id.as_str() == row.piece)?;
            Some(HandedCard {
                piece: piece.id.clone(),
                at: row.at,
                files: serde_json::from_str(&row.files).unwrap_or_default(),
                same: state_key(&job, piece) == row.looked,
            })
        };
        Ok(rows.into_iter().filter_map(card).collect())
    }

    /// Pieces whose files are larger than their places take, whatever is tried.
    ///
    /// # Errors
    /// A problem where the job is not there or a file cannot be made.
    pub fn too_large(&self, id: &JobId) -> Result<Vec<Finding>, Problem> {
        let job = self.jobs.load(id)?.job;
        let mut found = Vec::new();
        for piece in &job.pieces {
            let place = self.shelves.entry_of(piece);
            if place.most.is_none() {
                continue;
            }
            let files = self.files_of(&job, piece, &[], None, &place)?;
            let heaviest = files.iter().map(|file| file.bytes.len() as u64).max().unwrap_or(0);
            found.extend(too_heavy(piece, &place, heaviest));
        }
        Ok(found)
    }
}

/// What lies beside files made for their places: a picture of all, and a list of what each is for.
fn beside(made: &[Made], sheet: &ContactSheet) -> Result<Vec<OutputFile>, Problem> {
    let mut list = String::from("file\tpiece\tplace\tsize\tkind\tbytes\tlimit\n");
    for made in made {
        let Made { name: piece, place, .. } = made;
        for (name, file) in made.named() {
            let limit = place.most.map_or_else(|| "none".to_owned(), |most| most.to_string());
            let bytes = file.bytes.len();
            let _ = writeln!(
                list,
                "{name}\t{piece}\t{}\t{}\t{}\t{bytes}\t{limit}",
                place.name, place.size, file.media_type
            );
        }
    }
    let picture = sheet.png().map_err(HandOverError::from)?;
    Ok(vec![
        OutputFile::beside("contact-sheet.png", "image/png", picture),
        OutputFile::beside("files.tsv", "text/tab-separated-values", list.into_bytes()),
    ])
}

/// How a piece is to be written; nothing where its place says so.
fn how(piece: &Piece, wish: &HandOverRequest) -> Result<Option<HandOver>, Problem> {
    let Some(kind) = wish.kind else { return Ok(None) };
    let quality = wish.quality.unwrap_or(85);
    if !(1..=100).contains(&quality) {
        return Err(Problem::value("Quality lies between 1 and 100."));
    }
    let own = f64::from(piece.format.pixels_at(piece.format.ppi).0);
    let width = match (kind, wish.width, wish.times) {
        (FileKind::Pdf | FileKind::Svg, ..) | (_, None, None) => None,
        (_, Some(width), _) => Some(width),
        (_, None, Some(times)) if times > 0.0 && times <= 16.0 => Some((own * times).round() as u32),
        _ => return Err(Problem::value("A design can leave at up to 16 times its own pixels.")),
    };
    if width.is_some_and(|width| !(1..=20_000).contains(&width)) {
        return Err(Problem::value("The width of a picture lies between 1 and 20,000 px."));
    }
    // A shop trims to marks what has something to trim.
    let pdf = kind == FileKind::Pdf;
    let marks = wish.marks && pdf && piece.format.bleed.is_positive();
    Ok(Some(HandOver {
        kind,
        width,
        quality,
        clear: wish.clear,
        bleed: wish.bleed || marks,
        marks,
        process: wish.process && pdf,
        lasting: (wish.lasting && pdf).then(today),
    }))
}
