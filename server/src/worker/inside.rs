//! The process in which a file by a stranger is read.

use std::io::Write as _;

use rustix::process::{Resource, Rlimit, setrlimit};
use vatman_craft::{RecipeCode, import_svg};
use vatman_photo::{Limits, PictureError, decode};
use vatman_type::OwnFace;

use crate::lanes::stand_behind;
use crate::shipped::shipped_library;
use crate::worker::task::{Answer, Refused, Task, read_task, write_answer};

/// Room on the stack for what is nested: as deep as the limits of files allow, with room to spare.
const STACK: usize = 64 << 20;

/// Does the one task on the input, within so many seconds of processor and bytes of memory, and answers on the output.
///
/// # Errors
/// A sentence where there is no task or the answer cannot be written.
pub(crate) fn work(seconds: u32, memory: u64) -> Result<(), String> {
    limit(Resource::Cpu, u64::from(seconds));
    limit(Resource::As, memory);
    limit(Resource::Core, 0);
    // It writes to nothing but its output.
    limit(Resource::Fsize, 0);
    stand_behind();
    let (task, files) = read_task(&mut std::io::stdin().lock()).ok_or("There is no task.")?;
    let worker = std::thread::Builder::new().stack_size(STACK).spawn(move || done(task, &files));
    let worker = worker.map_err(|error| error.to_string())?;
    let (answer, files) = worker.join().map_err(|_| "The task ended in a fault.")?;
    let mut out = std::io::stdout().lock();
    let files: Vec<&[u8]> = files.iter().map(Vec::as_slice).collect();
    write_answer(&mut out, &answer, &files).and_then(|()| out.flush()).map_err(|error| error.to_string())
}

fn limit(resource: Resource, to: u64) {
    // Where the system keeps no such limit, those of the core still hold.
    let _ = setrlimit(resource, Rlimit { current: Some(to), maximum: Some(to) });
}

fn done(task: Task, files: &[Vec<u8>]) -> (Result<Answer, Refused>, Vec<Vec<u8>>) {
    match answered(task, files) {
        Ok((answer, files)) => (Ok(answer), files),
        Err(refused) => (Err(refused), Vec::new()),
    }
}

fn answered(task: Task, files: &[Vec<u8>]) -> Result<(Answer, Vec<Vec<u8>>), Refused> {
    let Some(file) = files.first() else { return Err(refused("There is no file.")) };
    match task {
        Task::Picture => {
            let pixels = decode(file, Limits::default()).map_err(|error| no_picture(&error))?;
            Ok((Answer::Picture { width: pixels.width(), height: pixels.height() }, Vec::new()))
        }
        Task::Drawing { name, families } => {
            let own = families.into_iter().zip(&files[1..]).enumerate().filter_map(|(at, (family, file))| {
                let font = OwnFace::read(file).ok()?;
                Some((format!("own/{at}"), OwnFace { family, ..font }))
            });
            let library = shipped_library().map_err(|error| refused(&error))?.with_own(own.collect());
            let read = import_svg(file, &name, &library).map_err(|error| refused(&error))?;
            let (pictures, files) = read.pictures.into_iter().map(|(id, png)| (id.to_string(), png)).unzip();
            Ok((Answer::Drawing { drawing: read.drawing, layers: read.layers, pictures, notes: read.notes }, files))
        }
        Task::Font => {
            let OwnFace { family, weight, italic, embedding, letters, bytes } =
                OwnFace::read(file).map_err(|error| refused(&error))?;
            Ok((Answer::Font { family, weight, italic, embedding, letters }, vec![bytes]))
        }
        Task::Code => {
            let pixels = decode(file, Limits::default()).map_err(|error| no_picture(&error))?;
            let recipe = RecipeCode::read(&pixels).map_err(|error| refused(&error))?;
            Ok((Answer::Code { recipe: Box::new(recipe) }, Vec::new()))
        }
    }
}

fn refused(why: &(impl std::fmt::Display + ?Sized)) -> Refused {
    Refused { picture: false, unknown: false, says: why.to_string() }
}

fn no_picture(why: &PictureError) -> Refused {
    Refused { picture: true, unknown: matches!(why, PictureError::Unknown), says: why.to_string() }
}
