//! Files by strangers are read in a process of its own: this very program, started as `vatman worker`, with limits of memory and time that
//! the system keeps. Whatever a file does there, the server goes on; what nobody waits for any more is ended.
//!
//! `task.rs` is what is asked and answered, `inside.rs` the process itself.

mod inside;
mod task;

use std::io::{Read as _, Write as _};
use std::path::PathBuf;
use std::process::{Child, Command, ExitStatus, Stdio};
use std::sync::mpsc::{RecvTimeoutError, channel};
use std::time::{Duration, Instant};

use vatman_craft::{Imported, Recipe};
use vatman_document::AssetId;
use vatman_type::OwnFace;

use crate::lanes::Wanted;
use crate::problem::Problem;

pub(crate) use inside::work;
use task::{Answer, Message, Refused, Task};

/// How often it is looked whether an answer is still wanted.
const LOOK: Duration = Duration::from_millis(20);
/// How much longer than its time of processor work may take by the clock, as others want the processor too.
const PATIENCE: u32 = 10;

/// What a worker may use.
#[derive(Clone, Copy)]
pub(crate) struct Allowance {
    /// Seconds of processor.
    seconds: u32,
    /// Bytes of address space.
    memory: u64,
}

const DRAWING: Allowance = Allowance { seconds: 10, memory: 1_536 << 20 };
const FONT: Allowance = Allowance { seconds: 10, memory: 1_024 << 20 };
/// A picture of 100 million pixels takes 700 MB unpacked, and as much again on the way.
const PICTURE: Allowance = Allowance { seconds: 40, memory: 3_072 << 20 };

/// Starts workers.
pub struct Workers {
    program: PathBuf,
}

impl Default for Workers {
    fn default() -> Self {
        Self { program: program() }
    }
}

/// This program; where something else has been built on it (a test, a bench), the program that was built beside it.
fn program() -> PathBuf {
    let own = std::env::current_exe().unwrap_or_default();
    let name = format!("vatman{}", std::env::consts::EXE_SUFFIX);
    if own.file_name().is_some_and(|file| file == name.as_str()) {
        return own;
    }
    let beside = own.ancestors().skip(1).take(3).map(|folder| folder.join(&name));
    beside.into_iter().find(|path| path.is_file()).unwrap_or(own)
}

impl Workers {
    /// Unpacks a picture once to see that it can be; its width and height as seen.
    ///
    /// # Errors
    /// A problem saying why it is not taken.
    pub(crate) fn picture(&self, bytes: &[u8], wanted: &Wanted) -> Result<(u32, u32), Problem> {
        match self.run(&Message::of(Task::Picture, vec![bytes]), PICTURE, wanted)? {
            (Answer::Picture { width, height }, _) => Ok((width, height)),
            _ => Err(unexpected()),
        }
    }

    /// Reads an SVG file; `fonts` are those people brought: family and file.
    ///
    /// # Errors
    /// A problem saying why it is not taken.
    pub(crate) fn drawing(
        &self,
        svg: &[u8],
        name: &str,
        fonts: &[(String, Vec<u8>)],
        wanted: &Wanted,
    ) -> Result<Imported, Problem> {
        let families = fonts.iter().map(|(family, _)| family.clone()).collect();
        let files = std::iter::once(svg).chain(fonts.iter().map(|(_, file)| file.as_slice())).collect();
        let message = Message::of(Task::Drawing { name: name.to_owned(), families }, files);
        match self.run(&message, DRAWING, wanted)? {
            (Answer::Drawing { drawing, layers, pictures, notes }, files) if pictures.len() == files.len() => {
                let ids = pictures.into_iter().map(AssetId::new).collect::<Result<Vec<_>, _>>()?;
                Ok(Imported { drawing, layers, pictures: ids.into_iter().zip(files).collect(), notes })
            }
            _ => Err(unexpected()),
        }
    }

    /// Reads a font file.
    ///
    /// # Errors
    /// A problem saying why it is not taken.
    pub(crate) fn font(&self, file: &[u8], wanted: &Wanted) -> Result<OwnFace, Problem> {
        match self.run(&Message::of(Task::Font, vec![file]), FONT, wanted)? {
            (Answer::Font { family, weight, italic, embedding, letters }, mut files) if files.len() == 1 => {
                Ok(OwnFace { family, weight, italic, embedding, letters, bytes: files.remove(0) })
            }
            _ => Err(unexpected()),
        }
    }

    /// Reads the code in a picture.
    ///
    /// # Errors
    /// A problem where there is none.
    pub(crate) fn code(&self, picture: &[u8], wanted: &Wanted) -> Result<Recipe, Problem> {
        match self.run(&Message::of(Task::Code, vec![picture]), PICTURE, wanted)? {
            (Answer::Code { recipe }, _) => Ok(*recipe),
            _ => Err(unexpected()),
        }
    }

    fn run(
        &self,
        message: &Message<'_>,
        allowed: Allowance,
        wanted: &Wanted,
    ) -> Result<(Answer, Vec<Vec<u8>>), Problem> {
        let mut child = Command::new(&self.program)
            .arg("worker")
            .args(["--seconds", &allowed.seconds.to_string(), "--memory", &allowed.memory.to_string()])
            .stdin(Stdio::piped())
            .stdout(Stdio::piped())
            .stderr(Stdio::piped())
            .spawn()
            .map_err(|error| Problem::internal(&format!("no worker can be started: {error}")))?;
        let outcome = watched(&mut child, message, allowed, wanted);
        // It has ended, or is ended now; either way nothing of it stays behind.
        let _ = child.kill();
        let status = child.wait().map_err(|error| Problem::internal(&error))?;
        let (out, said) = outcome?;
        match task::read_answer(&out) {
            Some((Ok(answer), files)) => Ok((answer, files)),
            Some((Err(refused), _)) => Err(problem(refused)),
            None => Err(ended(status, &said, allowed)),
        }
    }
}

/// What a worker wrote, and what it said besides, once it has ended. Ended early where its time by the clock is over or nobody waits for it.
fn watched(
    child: &mut Child,
    message: &Message<'_>,
    allowed: Allowance,
    wanted: &Wanted,
) -> Result<(Vec<u8>, String), Problem> {
    let (Some(mut stdin), Some(mut stdout), Some(stderr)) =
        (child.stdin.take(), child.stdout.take(), child.stderr.take())
    else {
        return Err(Problem::internal(&"a worker has no pipes"));
    };
    let deadline = Instant::now() + Duration::from_secs(u64::from(allowed.seconds * PATIENCE));
    std::thread::scope(|scope| {
        // A worker that ends early closes its end; what it says tells why.
        scope.spawn(move || {
            let _ = message.write(&mut stdin);
            let _ = stdin.flush();
        });
        let said = scope.spawn(move || {
            let mut said = String::new();
            let _ = stderr.take(4_096).read_to_string(&mut said);
            said
        });
        let (tell, told) = channel();
        scope.spawn(move || {
            let mut out = Vec::new();
            let _ = stdout.read_to_end(&mut out);
            let _ = tell.send(out);
        });
        let out = loop {
            match told.recv_timeout(LOOK) {
                Ok(out) => break Ok(out),
                Err(RecvTimeoutError::Timeout) if !wanted.is_wanted() => break Err(Problem::cancelled()),
                Err(RecvTimeoutError::Timeout) if Instant::now() > deadline => break Ok(Vec::new()),
                Err(RecvTimeoutError::Timeout) => {}
                Err(RecvTimeoutError::Disconnected) => break Ok(Vec::new()),
            }
        };
        let _ = child.kill();
        let said = said.join().unwrap_or_default();
        out.map(|out| (out, said))
    })
}

fn unexpected() -> Problem {
    Problem::internal(&"a worker answered something else than was asked")
}

fn problem(Refused { picture, unknown, says }: Refused) -> Problem {
    if picture { Problem::picture(unknown, says) } else { Problem::value(says) }
}

/// Why a worker ended without an answer, as far as the system tells.
fn ended(status: ExitStatus, said: &str, allowed: Allowance) -> Problem {
    tracing::info!("a worker ended early ({status}): {}", said.trim());
    let megabytes = allowed.memory >> 20;
    let why = if said.contains("memory allocation") {
        format!("Reading this file takes more than {megabytes} MB of memory.")
    } else if said.contains("overflowed its stack") {
        "What is in this file is nested too deep to be read.".to_owned()
    } else if status.code().is_some() {
        "This file cannot be read; it is damaged, or made to break programs.".to_owned()
    } else {
        format!("Reading this file takes longer than {} seconds.", allowed.seconds)
    };
    Problem::value(format!("{why} Simplify it or bring another; nothing was changed."))
}
