//! Handing over: files are made once, in the background, and the same bytes are measured and fetched.

use std::fmt::Write as _;
use std::sync::Arc;

use quick_cache::Weighter;
use quick_cache::sync::Cache;
use vatman_craft::{
    ContactSheet, FileKind, HandOver, HandOverError, OutputFile, PlaceEntry, Studio, state_key, write_file,
    write_for_place, zip_files,
};
use vatman_document::{JobId, Piece, PieceId};

use crate::asking::find_piece;
use crate::ids::Ids;
use crate::jobs::Jobs;
use crate::problem::Problem;
use crate::shelves::Shelves;
use crate::types::{FileCard, HandOverRequest};
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

/// The files of a piece, and where they go.
struct Made {
    files: Arc<Vec<OutputFile>>,
    piece: String,
    place: PlaceEntry,
}

/// The files of a hand-over, each once.
pub struct Handed {
    archive: String,
    made: Vec<Made>,
    /// A picture of all of them and a list, where they were made for their places.
    beside: Vec<OutputFile>,
}

impl Handed {
    /// Every file.
    pub fn all(&self) -> impl Iterator<Item = &OutputFile> {
        self.made.iter().flat_map(|made| made.files.iter())
    }

    /// What they are called and how large they are.
    #[must_use]
    pub fn cards(&self) -> Vec<FileCard> {
        let card = |made: &Made, file: &OutputFile| {
            let over = made.place.most.filter(|most| file.bytes.len() as u64 > *most);
            FileCard { name: file.name.clone(), bytes: file.bytes.len(), over }
        };
        self.made.iter().flat_map(|made| made.files.iter().map(|file| card(made, file))).collect()
    }

    /// The one file, or an archive of all.
    ///
    /// # Errors
    /// A problem where the archive cannot be written.
    pub fn file(&self) -> Result<OutputFile, Problem> {
        let all: Vec<OutputFile> = self.all().cloned().collect();
        if let [only] = all.as_slice() {
            return Ok(only.clone());
        }
        let all: Vec<OutputFile> = all.into_iter().chain(self.beside.iter().cloned()).collect();
        Ok(OutputFile { name: self.archive.clone(), media_type: "application/zip", bytes: zip_files(&all)? })
    }
}

/// Makes the files that leave.
pub struct Handing {
    jobs: Arc<Jobs>,
    studio: Arc<Studio>,
    shelves: Arc<Shelves>,
    made: Cache<String, Arc<Vec<OutputFile>>, ByBytes>,
}

impl Handing {
    /// Without any files yet.
    #[must_use]
    pub fn new(jobs: Arc<Jobs>, studio: Arc<Studio>, shelves: Arc<Shelves>) -> Self {
        Self { jobs, studio, shelves, made: Cache::with_weighter(512, FILES, ByBytes) }
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
        let library = self.studio.typesetter.library().stamp();
        let mut made = Vec::new();
        let mut sheet = ContactSheet::default();
        for piece in pieces {
            let piece = find_piece(&job, piece)?;
            let place = self.shelves.entry_of(piece);
            let how = how(piece, wish)?;
            let sides: Vec<_> =
                piece.sides.iter().map(|side| side.id.clone()).filter(|side| wish.sides.contains(side)).collect();
            let limits = (&place.files, place.most, place.clear);
            let key = format!("{}/{}/{library}/{how:?}/{limits:?}/{sides:?}", job.title, state_key(&job, piece));
            let files = self.made.get_or_insert_with(&key, || {
                let files = match how {
                    Some(how) => write_file(&self.studio, &job, piece, &sides, how)?,
                    None => write_for_place(&self.studio, &job, piece, &sides, &place)?,
                };
                Ok::<_, Problem>(Arc::new(files))
            })?;
            if how.is_none() {
                for side in piece.sides.iter().filter(|side| sides.is_empty() || sides.contains(&side.id)) {
                    sheet.add(ContactSheet::cell(&self.studio, &job, piece, side)?);
                }
            }
            made.push(Made { files, piece: piece.name.clone(), place });
            progress.map_or(Ok(()), Progress::step)?;
        }
        let beside = if wish.kind.is_none() && made.len() > 1 { beside(&made, &sheet)? } else { Vec::new() };
        Ok(Handed { archive: format!("{}.zip", vatman_craft::slug(&job.title)), made, beside })
    }
}

/// What lies beside files made for their places: a picture of all, and a list of what each is for.
fn beside(made: &[Made], sheet: &ContactSheet) -> Result<Vec<OutputFile>, Problem> {
    let mut list = String::from("file\tpiece\tplace\tsize\tkind\tbytes\tlimit\n");
    for Made { files, piece, place } in made {
        for file in files.iter() {
            let limit = place.most.map_or_else(|| "none".to_owned(), |most| most.to_string());
            let (name, bytes) = (&file.name, file.bytes.len());
            let _ = writeln!(
                list,
                "{name}\t{piece}\t{}\t{}\t{}\t{bytes}\t{limit}",
                place.name, place.size, file.media_type
            );
        }
    }
    let picture = sheet.png().map_err(HandOverError::from)?;
    Ok(vec![
        OutputFile { name: "contact-sheet.png".into(), media_type: "image/png", bytes: picture },
        OutputFile { name: "files.tsv".into(), media_type: "text/tab-separated-values", bytes: list.into_bytes() },
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
    let marks = wish.marks && kind == FileKind::Pdf && piece.format.bleed.is_positive();
    Ok(Some(HandOver { kind, width, quality, clear: wish.clear, bleed: wish.bleed || marks, marks }))
}
