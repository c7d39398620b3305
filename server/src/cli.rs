//! The command line.

use std::io::Write as _;
use std::net::SocketAddr;
use std::path::{Path, PathBuf};
use std::process::ExitCode;

use actix_web::web::Data;
use actix_web::{App, HttpServer};
use clap::{Parser, Subcommand, ValueEnum};
use vatman_craft::{Backs, BadRow, FileKind, SheetKind, SheetSetup};
use vatman_document::{Job, JobId, Piece};
use vatman_imposition::{Margins, Marks, PaperTurn};
use vatman_units::{Length, Measure, parse_length};

use crate::clock::now;
use crate::picture_tasks;
use crate::printing::Merging;
use crate::store::{FolderLock, Store, StoreError};
use crate::types::{Act, ActRequest, HandOverRequest, ListedFiles, PlaceWish, PrintCopies, PrintWish};
use crate::workshop::Workshop;

#[derive(Parser)]
#[command(
    name = "vatman",
    version,
    about = "Designs posts, flyers, cards and artwork, and hands them over in every size"
)]
struct Arguments {
    #[command(subcommand)]
    task: Task,
}

#[derive(Subcommand)]
enum Task {
    /// Serve the application on this machine
    Serve {
        /// Fill an empty data folder with the sample jobs
        #[arg(long)]
        demo: bool,
        /// Folder of the data file
        #[arg(long, default_value = "vatman-data")]
        data: PathBuf,
        /// Address to listen on; only this machine's own are allowed
        #[arg(long, default_value = "127.0.0.1:7420")]
        bind: SocketAddr,
    },
    /// Write pieces of a job as files
    Export {
        /// Folder of the data file
        #[arg(long)]
        data: PathBuf,
        /// Title or identity of the job
        #[arg(long)]
        job: String,
        /// Name or identity of a piece, or "all"
        #[arg(long, default_value = "all")]
        piece: String,
        /// Kind of file
        #[arg(long = "as", value_enum, required_unless_present = "for_place")]
        kind: Option<Kind>,
        /// Each piece as the place it goes to takes it: in its kind of file, and within its limit
        #[arg(long)]
        for_place: bool,
        /// Colours of a PDF in the four process inks
        #[arg(long)]
        process: bool,
        /// A PDF for archives (PDF/A-2b)
        #[arg(long)]
        lasting: bool,
        /// File to write, or a folder where there are several
        #[arg(long)]
        out: PathBuf,
    },
    /// Lay a piece on sheets of paper and write them as PDF
    Impose {
        /// Folder of the data file
        #[arg(long)]
        data: PathBuf,
        /// Title or identity of the job
        #[arg(long)]
        job: String,
        /// Name or identity of a piece; may be given again
        #[arg(long, required = true)]
        piece: Vec<String>,
        #[command(flatten)]
        sheet: SheetArguments,
        /// How many of each piece; without it one sheet is filled. For several pieces one number each
        #[arg(long, value_delimiter = ',')]
        count: Vec<u32>,
        /// PDF to write
        #[arg(long)]
        out: PathBuf,
        /// Print where everything lies, in inches and millimetres
        #[arg(long)]
        json: bool,
    },
    /// Make a piece once for each row of a table
    Merge {
        /// Folder of the data file
        #[arg(long)]
        data: PathBuf,
        /// Title or identity of the job
        #[arg(long)]
        job: String,
        /// Name or identity of the piece
        #[arg(long)]
        piece: String,
        /// The table
        #[arg(long)]
        csv: PathBuf,
        /// PDF to write, or a folder for a file each
        #[arg(long)]
        out: PathBuf,
        /// Lay them on sheets of this paper
        #[arg(long, value_name = "PAPER")]
        impose: Option<String>,
        /// Kind of the files in a folder
        #[arg(long = "as", value_enum, default_value_t = Kind::Png)]
        kind: Kind,
    },
    /// Let go for good of jobs removed, and pictures no job shows, some days ago or longer
    Tidy {
        /// Folder of the data file
        #[arg(long)]
        data: PathBuf,
        /// How many days
        #[arg(long, default_value_t = 30)]
        days: u32,
    },
    /// Add pieces of a job for other places, arranged anew
    Adapt {
        /// Folder of the data file
        #[arg(long)]
        data: PathBuf,
        /// Title or identity of the job
        #[arg(long)]
        job: String,
        /// Places of the catalogue or sizes, or "all"
        #[arg(long, value_delimiter = ',', required = true)]
        to: Vec<String>,
    },
    /// List what should be looked at in a job, the worst first; ends with 1 where there is anything
    Check {
        /// Folder of the data file
        #[arg(long)]
        data: PathBuf,
        /// Title or identity of the job
        #[arg(long)]
        job: String,
        /// As JSON
        #[arg(long)]
        json: bool,
    },
    /// Adapt every shipped design and every sample job to every place and count what is the matter
    Survey {
        /// Only sources whose name has this in it
        #[arg(long)]
        only: Option<String>,
        /// Take designs as if they had been made by hand
        #[arg(long)]
        by_hand: bool,
        /// Folder for contact sheets
        #[arg(long)]
        out: Option<PathBuf>,
    },
    /// Develop a picture by a recipe
    Develop {
        /// The picture
        picture: PathBuf,
        /// File of the recipe, or the name of one that ships
        #[arg(long)]
        recipe: String,
        /// File to write; its ending says the kind
        #[arg(long)]
        out: PathBuf,
        /// Of JPEG and WebP, 1 to 100
        #[arg(long, default_value_t = 92, value_parser = clap::value_parser!(u8).range(1..=100))]
        quality: u8,
    },
    /// Cut out the subject of a picture
    Cutout {
        /// The picture
        picture: PathBuf,
        /// PNG to write, clear where nothing of the subject is
        #[arg(long)]
        out: PathBuf,
        /// PNG of the mask to write: white where the subject is
        #[arg(long)]
        mask_out: Option<PathBuf>,
        /// A place that belongs to the subject, in pixels from the left and the top; may be given again
        #[arg(long, value_name = "X,Y")]
        keep: Vec<String>,
    },
    /// Turn a recipe into a code that can be scanned, or back
    Recipe {
        /// File of the recipe, or the name of one that ships
        #[arg(long, required_unless_present = "from_code", conflicts_with = "from_code")]
        to_code: Option<String>,
        /// Picture of a code
        #[arg(long)]
        from_code: Option<PathBuf>,
        /// File to write: a PNG of the code, or the recipe
        #[arg(long)]
        out: PathBuf,
    },
    /// Say the main colours of a picture, one a line
    Palette {
        /// The picture
        picture: PathBuf,
        /// How many
        #[arg(short = 'n', default_value_t = 6, value_parser = clap::value_parser!(u16).range(1..=32))]
        number: u16,
    },
    /// Read one file by a stranger, from the input to the output; the server starts this
    #[command(hide = true)]
    Worker {
        /// Most seconds of processor
        #[arg(long)]
        seconds: u32,
        /// Most bytes of memory
        #[arg(long)]
        memory: u64,
    },
    /// List the jobs, one a line: identity, revision, title
    Jobs {
        /// Folder of the data file
        #[arg(long)]
        data: PathBuf,
    },
}

/// How pieces are laid on sheets.
#[derive(clap::Args)]
struct SheetArguments {
    /// letter, a4, legal, a3, 12x18 and the like, or a size
    #[arg(long)]
    paper: String,
    /// What the printer cannot reach: all round, or at the sides and at top and bottom, as 0.25in,0.55in
    #[arg(long, value_delimiter = ',')]
    margin: Vec<String>,
    /// Between pieces
    #[arg(long)]
    gap: Option<String>,
    /// Backs, and about which edge the paper is turned for them
    #[arg(long, value_enum)]
    turn: Option<Turn>,
    /// With crop marks
    #[arg(long)]
    marks: bool,
    /// With their bleed
    #[arg(long)]
    bleed: bool,
    /// In the middle of the paper
    #[arg(long)]
    middle: bool,
    /// Whether the paper lies or stands; without it whichever holds more
    #[arg(long, value_enum)]
    lies: Option<Lies>,
    /// What is laid how
    #[arg(long, value_enum, default_value_t = Laid::Fill)]
    kind: Laid,
    /// How far sheets of a poster lie over each other
    #[arg(long, default_value = "10mm")]
    overlap: String,
}

#[derive(Clone, Copy, ValueEnum)]
enum Turn {
    Long,
    Short,
}

#[derive(Clone, Copy, ValueEnum)]
enum Lies {
    Upright,
    Lying,
}

#[derive(Clone, Copy, ValueEnum)]
enum Laid {
    /// As many as there is room for
    Fill,
    /// Sides as pages of a booklet
    Booklet,
    /// Over several sheets
    Poster,
    /// A card folded twice from one sheet
    Quarters,
}

#[derive(Clone, Copy, ValueEnum)]
enum Kind {
    Png,
    Jpeg,
    Webp,
    Gif,
    Tiff,
    Pdf,
    Svg,
}

/// Runs the program. 0 is success, 1 a failure, 2 a mistake in the call.
#[must_use]
pub fn run() -> ExitCode {
    let filter = tracing_subscriber::EnvFilter::try_from_default_env().unwrap_or_else(|_| "warn".into());
    tracing_subscriber::fmt().with_env_filter(filter).with_writer(std::io::stderr).init();
    let outcome = match Arguments::parse().task {
        Task::Serve { demo, data, bind } => serve(demo, &data, bind),
        Task::Export { data, job, piece, kind, for_place, process, lasting, out } => {
            export(&data, (&job, &piece), kind.filter(|_| !for_place), (process, lasting), &out)
        }
        Task::Adapt { data, job, to } => adapt(&data, &job, &to),
        Task::Impose { data, job, piece, sheet, count, out, json } => {
            impose(&data, &job, (&piece, &count), &sheet, &out, json)
        }
        Task::Merge { data, job, piece, csv, out, impose, kind } => {
            merge(&data, (&job, &piece), &csv, &out, impose.as_deref(), kind)
        }
        Task::Check { data, job, json } => return check(&data, &job, json),
        Task::Tidy { data, days } => tidy(&data, days),
        Task::Jobs { data } => list(&data),
        Task::Worker { seconds, memory } => crate::worker::work(seconds, memory).map_err(Failure::from),
        Task::Develop { picture, recipe, out, quality } => {
            picture_tasks::develop(&picture, &recipe, &out, quality).map_err(Failure::from)
        }
        Task::Cutout { picture, out, mask_out, keep } => {
            picture_tasks::cutout(&picture, &out, mask_out.as_deref(), &keep).map_err(Failure::from)
        }
        Task::Recipe { to_code, from_code, out } => recipe(to_code.as_deref(), from_code.as_deref(), &out),
        Task::Palette { picture, number } => palette(&picture, usize::from(number)),
        Task::Survey { only, by_hand, out } => survey(only.as_deref(), by_hand, out.as_deref()),
    };
    match outcome {
        Ok(()) => ExitCode::SUCCESS,
        Err(Failure { code, text }) => {
            let _ = writeln!(std::io::stderr(), "vatman: {text}");
            ExitCode::from(code)
        }
    }
}

struct Failure {
    code: u8,
    text: String,
}

impl<T: std::fmt::Display> From<T> for Failure {
    fn from(text: T) -> Self {
        Self { code: 1, text: text.to_string() }
    }
}

fn recipe(to_code: Option<&str>, from_code: Option<&Path>, out: &Path) -> Result<(), Failure> {
    match (to_code, from_code) {
        (Some(recipe), _) => writeln!(std::io::stdout(), "{}", picture_tasks::recipe_to_code(recipe, out)?)?,
        (None, Some(picture)) => picture_tasks::recipe_from_code(picture, out)?,
        (None, None) => return Err(misuse("Say --to-code or --from-code.")),
    }
    Ok(())
}

fn palette(picture: &Path, number: usize) -> Result<(), Failure> {
    let mut out = std::io::stdout().lock();
    for color in picture_tasks::palette(picture, number)? {
        writeln!(out, "{color}")?;
    }
    Ok(())
}

fn misuse(text: impl Into<String>) -> Failure {
    Failure { code: 2, text: text.into() }
}

fn serve(demo: bool, data: &Path, bind: SocketAddr) -> Result<(), Failure> {
    if !bind.ip().is_loopback() {
        return Err(misuse(format!(
            "{bind} can be reached from other machines, and there are no accounts yet to keep strangers out. Use a loopback address such as 127.0.0.1:7420."
        )));
    }
    let _lock = Store::lock(data)?;
    let workshop = Workshop::open(data)?;
    if demo {
        workshop.fill_with_demo()?;
    }
    let workshop = Data::new(workshop);
    let tidied = workshop.clone();
    let work = async move {
        // Every day, as long as the program runs.
        actix_web::rt::spawn(async move {
            let shop = tidied.clone();
            let _ = actix_web::web::block(move || shop.jobs.look_through()).await;
            let mut days = tokio::time::interval(std::time::Duration::from_secs(24 * 60 * 60));
            loop {
                days.tick().await;
                let shop = tidied.clone();
                let _ = actix_web::web::block(move || shop.tidy()).await;
            }
        });
        let server = HttpServer::new(move || App::new().app_data(workshop.clone()).configure(crate::api::configure))
            .workers(2)
            // Windows listen for events without end; they do not hold the program up.
            .shutdown_timeout(2)
            .bind(bind)?;
        for address in server.addrs() {
            let mut out = std::io::stdout();
            writeln!(out, "Vatman is at http://{address}/")?;
            out.flush()?;
        }
        server.run().await
    };
    Ok(actix_web::rt::System::new()
        .block_on(work)
        .map_err(|error: std::io::Error| format!("The address {bind} cannot be used: {error}."))?)
}

/// A workshop on a data file there is, to read from; beside a server that runs on it, where one does.
fn existing(data: &Path) -> Result<Workshop, Failure> {
    is_there(data)?;
    match Store::lock(data) {
        Ok(_lock) => Ok(Workshop::open(data)?),
        Err(StoreError::Taken(_)) => Ok(Workshop::new(Store::open_beside(data)?)?),
        Err(error) => Err(error.into()),
    }
}

/// A workshop on a data file there is, to change it: nobody else has it meanwhile.
fn held(data: &Path) -> Result<(FolderLock, Workshop), Failure> {
    is_there(data)?;
    let lock = Store::lock(data)?;
    Ok((lock, Workshop::open(data)?))
}

fn is_there(data: &Path) -> Result<(), Failure> {
    let there = data.join("vatman.sqlite").is_file();
    if there { Ok(()) } else { Err(misuse(format!("There is no data file in {}.", data.display()))) }
}

/// A fresh folder with the sample jobs, which is gone afterwards.
fn survey(only: Option<&str>, by_hand: bool, out: Option<&Path>) -> Result<(), Failure> {
    let folder = std::env::temp_dir().join(format!("vatman-survey-{}", std::process::id()));
    let outcome = (|| -> Result<(), Failure> {
        let workshop = Workshop::open(&folder)?;
        workshop.fill_with_demo()?;
        let began = std::time::Instant::now();
        let mut lines = std::io::stdout().lock();
        let totals = workshop.survey(only, by_hand, out, &mut lines)?;
        let share = 100.0 * totals.clean as f64 / totals.all.max(1) as f64;
        writeln!(
            lines,
            "{} of {} clean ({share:.1} %), {:.1} s",
            totals.clean,
            totals.all,
            began.elapsed().as_secs_f64()
        )?;
        Ok(())
    })();
    let _ = std::fs::remove_dir_all(&folder);
    outcome
}

fn tidy(data: &Path, days: u32) -> Result<(), Failure> {
    let before = now() - i64::from(days) * 24 * 60 * 60 * 1_000;
    let (_lock, workshop) = held(data)?;
    let gone = workshop.store.tidy(before)?;
    writeln!(std::io::stdout(), "Let go of {} removed jobs and {} unused pictures.", gone.jobs, gone.pictures)?;
    Ok(())
}

fn list(data: &Path) -> Result<(), Failure> {
    let mut out = std::io::stdout().lock();
    for row in existing(data)?.store.jobs()? {
        writeln!(out, "{}\t{}\t{}", row.id, row.revision, row.title)?;
    }
    Ok(())
}

/// The job of a title or an identity.
fn named(workshop: &Workshop, wanted: &str) -> Result<JobId, Failure> {
    let rows = workshop.store.jobs()?;
    let mut found = rows.iter().filter(|row| row.id == wanted || row.title.eq_ignore_ascii_case(wanted));
    let row = found.next().ok_or_else(|| {
        misuse(format!("There is no job \u{201c}{wanted}\u{201d}. \u{201c}vatman jobs\u{201d} lists them."))
    })?;
    if found.next().is_some() {
        return Err(misuse(format!(
            "Several jobs are called \u{201c}{wanted}\u{201d}. Name one by its identity; \u{201c}vatman jobs\u{201d} lists them."
        )));
    }
    Ok(JobId::new(row.id.clone())?)
}

fn act(workshop: &Workshop, id: &JobId, act: Act) -> Result<(), Failure> {
    let base = workshop.jobs.load(id)?.revision;
    workshop.acting.act(id, &ActRequest { base, act, gesture: None, watch: None, carets: None })?;
    Ok(())
}

fn adapt(data: &Path, wanted: &str, to: &[String]) -> Result<(), Failure> {
    let (_lock, workshop) = held(data)?;
    let id = named(&workshop, wanted)?;
    let all = to.iter().any(|place| place == "all");
    let places: Vec<String> =
        if all { workshop.shelves.places().iter().map(|place| place.id.clone()).collect() } else { to.to_vec() };
    let places: Vec<PlaceWish> = places.into_iter().map(|place| PlaceWish { place, way: None }).collect();
    let before = workshop.jobs.load(&id)?.job.pieces.len();
    for some in places.chunks(crate::acting::MOST_PLACES) {
        act(&workshop, &id, Act::AddPieces { places: some.to_vec(), from: None })?;
    }
    let job = workshop.jobs.load(&id)?.job;
    let mut out = std::io::stdout().lock();
    for piece in &job.pieces[before..] {
        writeln!(out, "{}\t{}\t{}", piece.id, piece.name, piece.format.label())?;
    }
    Ok(())
}

fn check(data: &Path, wanted: &str, json: bool) -> ExitCode {
    let outcome = (|| -> Result<bool, Failure> {
        let workshop = existing(data)?;
        let id = named(&workshop, wanted)?;
        let found = workshop.asking.check(&id)?;
        let open: Vec<_> = found.iter().filter(|one| one.set_aside.is_none()).collect();
        let mut out = std::io::stdout().lock();
        if json {
            writeln!(out, "{}", serde_json::to_string_pretty(&open)?)?;
        } else {
            let job = workshop.jobs.load(&id)?.job;
            for one in &open {
                let piece = job.piece(&one.finding.piece).map_or("", |piece| piece.name.as_str());
                writeln!(out, "{}\t{piece}\t{}", one.weight, one.finding.says)?;
            }
        }
        Ok(open.is_empty())
    })();
    match outcome {
        Ok(true) => ExitCode::SUCCESS,
        Ok(false) => ExitCode::from(1),
        Err(Failure { code, text }) => {
            let _ = writeln!(std::io::stderr(), "vatman: {text}");
            ExitCode::from(code)
        }
    }
}

fn export(
    data: &Path,
    (wanted, piece): (&str, &str),
    kind: Option<Kind>,
    (process, lasting): (bool, bool),
    out: &Path,
) -> Result<(), Failure> {
    let workshop = existing(data)?;
    let id = named(&workshop, wanted)?;
    let job = workshop.jobs.load(&id)?.job;
    let is_meant = |candidate: &&Piece| {
        piece == "all" || candidate.name.eq_ignore_ascii_case(piece) || candidate.id.as_str() == piece
    };
    let pieces: Vec<_> = job.pieces.iter().map(AsRef::as_ref).filter(is_meant).map(|piece| piece.id.clone()).collect();
    if pieces.is_empty() {
        let names: Vec<_> = job.pieces.iter().map(|piece| piece.name.as_str()).collect();
        return Err(misuse(format!("The job has no piece \u{201c}{piece}\u{201d}. It has: {}.", names.join(", "))));
    }
    let kind = kind.map(FileKind::from);
    let noted: Vec<String> = workshop
        .asking
        .findings(&id)?
        .into_iter()
        .filter(|finding| pieces.contains(&finding.piece))
        .map(|finding| finding.says)
        .collect();
    let wish = HandOverRequest {
        sides: Vec::new(),
        pieces,
        kind,
        width: None,
        times: None,
        quality: None,
        clear: false,
        bleed: false,
        marks: false,
        process,
        lasting,
    };
    let handed = workshop.handing.make(&id, &wish, None)?;
    let files: Vec<_> = handed.all();
    let write = |path: &Path, bytes: &[u8]| {
        std::fs::write(path, bytes).map_err(|error| format!("{} cannot be written: {error}.", path.display()))
    };
    match files.as_slice() {
        [file] if !out.is_dir() => write(out, &file.bytes)?,
        files => {
            std::fs::create_dir_all(out)
                .map_err(|error| format!("The folder {} cannot be made: {error}.", out.display()))?;
            for file in files {
                write(&out.join(&file.name), &file.bytes)?;
            }
        }
    }
    for says in noted {
        eprintln!("Note: {says}");
    }
    Ok(())
}

/// The piece of a name or an identity.
fn piece_named<'j>(job: &'j Job, wanted: &str) -> Result<&'j Piece, Failure> {
    let is = |piece: &&Piece| piece.name.eq_ignore_ascii_case(wanted) || piece.id.as_str() == wanted;
    job.pieces.iter().map(AsRef::as_ref).find(is).ok_or_else(|| {
        let names: Vec<_> = job.pieces.iter().map(|piece| piece.name.as_str()).collect();
        misuse(format!("The job has no piece \u{201c}{wanted}\u{201d}. It has: {}.", names.join(", ")))
    })
}

/// A layout from what was typed; lengths without a unit are in that of the piece.
fn layout(piece: &Piece, sheet: &SheetArguments) -> Result<SheetSetup, Failure> {
    let measure = Measure { unit: piece.format.unit, ppi: piece.format.ppi, whole: None };
    let length = |text: &str| parse_length(text, measure).map_err(|error| misuse(error.to_string()));
    let usual = SheetSetup::for_piece(piece);
    let margins = match sheet.margin.as_slice() {
        [] => usual.margins,
        [all] => Margins::all(length(all)?),
        [sides, ends] => Margins::sides_and_ends(length(sides)?, length(ends)?),
        _ => return Err(misuse("Say one margin, or that of the sides and that of top and bottom.")),
    };
    let turn = sheet.turn.map(|turn| match turn {
        Turn::Long => PaperTurn::LongEdge,
        Turn::Short => PaperTurn::ShortEdge,
    });
    Ok(SheetSetup {
        paper: sheet.paper.clone(),
        lying: sheet.lies.map(|lies| matches!(lies, Lies::Lying)),
        margins,
        gap: sheet.gap.as_deref().map(length).transpose()?.unwrap_or_default(),
        bleed: sheet.bleed,
        marks: if sheet.marks { Marks::Crop } else { Marks::None },
        middle: sheet.middle,
        backs: turn.map(Backs::turned),
        kind: match sheet.kind {
            Laid::Fill => SheetKind::Fill,
            Laid::Booklet => SheetKind::Booklet { thickness: Length::ZERO },
            Laid::Poster => SheetKind::Poster { overlap: length(&sheet.overlap)? },
            Laid::Quarters => SheetKind::Quarters,
        },
        ..usual
    })
}

fn write_out(path: &Path, bytes: &[u8]) -> Result<(), Failure> {
    Ok(std::fs::write(path, bytes).map_err(|error| format!("{} cannot be written: {error}.", path.display()))?)
}

fn impose(
    data: &Path,
    wanted: &str,
    (pieces, counts): (&[String], &[u32]),
    sheet: &SheetArguments,
    out: &Path,
    json: bool,
) -> Result<(), Failure> {
    let workshop = existing(data)?;
    let id = named(&workshop, wanted)?;
    let job = workshop.jobs.load(&id)?.job;
    let found: Vec<&Piece> = pieces.iter().map(|piece| piece_named(&job, piece)).collect::<Result<_, _>>()?;
    if counts.len() > 1 && counts.len() != found.len() {
        return Err(misuse("Say one number for each piece, or one for all."));
    }
    let copies = found.iter().enumerate().map(|(at, piece)| {
        let count = counts.get(at).or(counts.first()).copied();
        PrintCopies { piece: piece.id.clone(), count }
    });
    let wish = PrintWish { pieces: copies.collect(), setup: layout(found[0], sheet)?, list: false };
    let files = workshop.printing.print(&id, &wish, None)?;
    write_out(out, &files.file()?.bytes)?;
    let mut lines = std::io::stdout().lock();
    if json {
        let positions = workshop.printing.positions(&id, &wish)?;
        writeln!(lines, "{}", serde_json::to_string_pretty(&positions)?)?;
    } else {
        let card = workshop.printing.card(&id, &wish)?;
        writeln!(lines, "{}", card.says)?;
        for says in card.notes.iter().chain(&card.instructions).chain(card.steps.iter().map(|step| &step.says)) {
            writeln!(lines, "{says}")?;
        }
    }
    Ok(())
}

fn merge(
    data: &Path,
    (wanted, piece): (&str, &str),
    csv: &Path,
    out: &Path,
    paper: Option<&str>,
    kind: Kind,
) -> Result<(), Failure> {
    let workshop = existing(data)?;
    let id = named(&workshop, wanted)?;
    let job = workshop.jobs.load(&id)?.job;
    let piece = piece_named(&job, piece)?;
    let bytes = std::fs::read(csv).map_err(|error| format!("{} cannot be read: {error}.", csv.display()))?;
    let together = out.extension().is_some_and(|end| end.eq_ignore_ascii_case("pdf"));
    let how = match paper {
        Some(paper) => {
            Merging::Sheets(Box::new(SheetSetup { paper: paper.to_owned(), ..SheetSetup::for_piece(piece) }))
        }
        None => Merging::Files(ListedFiles { together, kind: kind.into(), bleed: false }),
    };
    let (files, bad, good) = workshop.printing.merge(&id, &piece.id, &bytes, &how)?;
    match files.all() {
        [only] if together || paper.is_some() => write_out(out, &only.bytes)?,
        all => {
            std::fs::create_dir_all(out)
                .map_err(|error| format!("The folder {} cannot be made: {error}.", out.display()))?;
            all.iter().try_for_each(|file| write_out(&out.join(&file.name), &file.bytes))?;
        }
    }
    writeln!(std::io::stdout(), "{good} rows, {} left out", bad.len())?;
    for BadRow { line, says } in bad {
        eprintln!("Line {line}: {says}");
    }
    Ok(())
}

impl From<Kind> for FileKind {
    fn from(kind: Kind) -> Self {
        match kind {
            Kind::Png => Self::Png,
            Kind::Jpeg => Self::Jpeg,
            Kind::Webp => Self::Webp,
            Kind::Gif => Self::Gif,
            Kind::Tiff => Self::Tiff,
            Kind::Pdf => Self::Pdf,
            Kind::Svg => Self::Svg,
        }
    }
}
