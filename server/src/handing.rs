//! Handing over: files are made once, in the background, and the same bytes are measured and fetched.

use std::sync::Arc;

use quick_cache::Weighter;
use quick_cache::sync::Cache;
use vatman_craft::{FileKind, HandOver, OutputFile, Studio, state_key, write_file, zip_files};
use vatman_document::{JobId, Piece, PieceId};

use crate::asking::find_piece;
use crate::ids::Ids;
use crate::jobs::Jobs;
use crate::problem::Problem;
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

/// The files of a hand-over, each once.
pub struct Handed {
    archive: String,
    files: Vec<Arc<Vec<OutputFile>>>,
}

impl Handed {
    /// Every file.
    pub fn all(&self) -> impl Iterator<Item = &OutputFile> {
        self.files.iter().flat_map(|files| files.iter())
    }

    /// What they are called and how large they are.
    #[must_use]
    pub fn cards(&self) -> Vec<FileCard> {
        self.all().map(|file| FileCard { name: file.name.clone(), bytes: file.bytes.len() }).collect()
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
        Ok(OutputFile { name: self.archive.clone(), media_type: "application/zip", bytes: zip_files(&all)? })
    }
}

/// Makes the files that leave.
pub struct Handing {
    jobs: Arc<Jobs>,
    studio: Arc<Studio>,
    made: Cache<String, Arc<Vec<OutputFile>>, ByBytes>,
}

impl Handing {
    /// Without any files yet.
    #[must_use]
    pub fn new(jobs: Arc<Jobs>, studio: Arc<Studio>) -> Self {
        Self { jobs, studio, made: Cache::with_weighter(512, FILES, ByBytes) }
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
        let mut files = Vec::new();
        for piece in pieces {
            let piece = find_piece(&job, piece)?;
            let how = how(piece, wish)?;
            let sides: Vec<_> =
                piece.sides.iter().map(|side| side.id.clone()).filter(|side| wish.sides.contains(side)).collect();
            let key = format!("{}/{}/{library}/{how:?}/{sides:?}", job.title, state_key(&job, piece));
            files.push(self.made.get_or_insert_with(&key, || {
                Ok::<_, Problem>(Arc::new(write_file(&self.studio, &job, piece, &sides, how)?))
            })?);
            progress.map_or(Ok(()), Progress::step)?;
        }
        Ok(Handed { archive: format!("{}.zip", vatman_craft::slug(&job.title)), files })
    }
}

fn how(piece: &Piece, wish: &HandOverRequest) -> Result<HandOver, Problem> {
    let quality = wish.quality.unwrap_or(85);
    if !(1..=100).contains(&quality) {
        return Err(Problem::value("Quality lies between 1 and 100."));
    }
    let own = f64::from(piece.format.pixels_at(piece.format.ppi).0);
    let width = match (wish.kind, wish.width, wish.times) {
        (FileKind::Pdf | FileKind::Svg, ..) | (_, None, None) => None,
        (_, Some(width), _) => Some(width),
        (_, None, Some(times)) if times > 0.0 && times <= 16.0 => Some((own * times).round() as u32),
        _ => return Err(Problem::value("A design can leave at up to 16 times its own pixels.")),
    };
    if width.is_some_and(|width| !(1..=20_000).contains(&width)) {
        return Err(Problem::value("The width of a picture lies between 1 and 20,000 px."));
    }
    // A shop trims to marks what has something to trim.
    let marks = wish.marks && wish.kind == FileKind::Pdf && piece.format.bleed.is_positive();
    Ok(HandOver { kind: wish.kind, width, quality, clear: wish.clear, bleed: wish.bleed || marks, marks })
}
