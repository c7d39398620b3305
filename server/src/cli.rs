//! The command line.

use std::io::Write as _;
use std::net::SocketAddr;
use std::path::{Path, PathBuf};
use std::process::ExitCode;

use actix_web::web::Data;
use actix_web::{App, HttpServer};
use clap::{Parser, Subcommand, ValueEnum};
use vatman_craft::FileKind;
use vatman_document::{JobId, Piece};

use crate::clock::now;
use crate::store::Store;
use crate::types::HandOverRequest;
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
        #[arg(long = "as", value_enum)]
        kind: Kind,
        /// File to write, or a folder where there are several
        #[arg(long)]
        out: PathBuf,
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
    /// List the jobs, one a line: identity, revision, title
    Jobs {
        /// Folder of the data file
        #[arg(long)]
        data: PathBuf,
    },
}

#[derive(Clone, Copy, ValueEnum)]
enum Kind {
    Png,
    Jpeg,
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
        Task::Export { data, job, piece, kind, out } => export(&data, &job, &piece, kind, &out),
        Task::Tidy { data, days } => tidy(&data, days),
        Task::Jobs { data } => list(&data),
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
            let mut days = tokio::time::interval(std::time::Duration::from_secs(24 * 60 * 60));
            loop {
                days.tick().await;
                let shop = tidied.clone();
                let _ = actix_web::web::block(move || shop.tidy()).await;
            }
        });
        let server = HttpServer::new(move || App::new().app_data(workshop.clone()).configure(crate::api::configure))
            .workers(2)
            .worker_max_blocking_threads(4)
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

fn existing(data: &Path) -> Result<Workshop, Failure> {
    if !data.join("vatman.sqlite").is_file() {
        return Err(misuse(format!("There is no data file in {}.", data.display())));
    }
    Ok(Workshop::open(data)?)
}

fn tidy(data: &Path, days: u32) -> Result<(), Failure> {
    let before = now() - i64::from(days) * 24 * 60 * 60 * 1_000;
    let gone = existing(data)?.store.tidy(before)?;
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

fn export(data: &Path, wanted: &str, piece: &str, kind: Kind, out: &Path) -> Result<(), Failure> {
    let workshop = existing(data)?;
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
    let id = JobId::new(row.id.clone())?;
    let job = workshop.jobs.load(&id)?.job;
    let is_meant = |candidate: &&Piece| {
        piece == "all" || candidate.name.eq_ignore_ascii_case(piece) || candidate.id.as_str() == piece
    };
    let pieces: Vec<_> = job.pieces.iter().map(AsRef::as_ref).filter(is_meant).map(|piece| piece.id.clone()).collect();
    if pieces.is_empty() {
        let names: Vec<_> = job.pieces.iter().map(|piece| piece.name.as_str()).collect();
        return Err(misuse(format!("The job has no piece \u{201c}{piece}\u{201d}. It has: {}.", names.join(", "))));
    }
    let kind = match kind {
        Kind::Png => FileKind::Png,
        Kind::Jpeg => FileKind::Jpeg,
        Kind::Pdf => FileKind::Pdf,
        Kind::Svg => FileKind::Svg,
    };
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
    };
    let handed = workshop.handing.make(&id, &wish, None)?;
    let files: Vec<_> = handed.all().collect();
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
