//! What a worker is asked and answers: a line of JSON with the sizes of the files that follow it.

use std::io::{self, Read, Write};

use serde::{Deserialize, Serialize, de::DeserializeOwned};
use vatman_craft::{Layer, Recipe};
use vatman_document::Drawing;
use vatman_type::Embedding;

/// What is to be done with the files that come with it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "camelCase", tag = "do")]
pub(super) enum Task {
    /// The one file is a picture.
    Picture,
    /// The first file is an SVG, the others are fonts of these families.
    Drawing {
        /// What the file is called.
        name: String,
        /// Families people brought.
        families: Vec<String>,
    },
    /// The one file is a font.
    Font,
    /// The one file is a picture of a code.
    Code,
}

/// What came of it; files follow where it says so.
#[derive(Debug, Serialize, Deserialize)]
#[serde(rename_all = "camelCase", tag = "is")]
pub(super) enum Answer {
    /// It can be unpacked.
    Picture {
        /// Width as seen.
        width: u32,
        /// Height as seen.
        height: u32,
    },
    /// What was read of an SVG; its pictures follow.
    Drawing {
        /// All of it.
        drawing: Drawing,
        /// In layers, where it has words.
        layers: Vec<Layer>,
        /// Identities of the pictures.
        pictures: Vec<String>,
        /// For the person who brought it.
        notes: Vec<String>,
    },
    /// What was read of a font; it follows, unpacked.
    Font {
        /// Its family.
        family: String,
        /// Its weight.
        weight: u16,
        /// Whether it is italic.
        italic: bool,
        /// What its maker allows.
        embedding: Embedding,
        /// How many letters it has.
        letters: usize,
    },
    /// What a code says.
    Code {
        /// That.
        recipe: Box<Recipe>,
    },
}

/// Why a file is not taken.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub(super) struct Refused {
    /// Whether it was to be a picture.
    pub(super) picture: bool,
    /// Whether it is something else altogether.
    pub(super) unknown: bool,
    /// A plain sentence.
    pub(super) says: String,
}

#[derive(Serialize, Deserialize)]
struct Head<T> {
    of: T,
    files: Vec<usize>,
}

/// A task with its files.
pub(super) struct Message<'a> {
    task: Task,
    files: Vec<&'a [u8]>,
}

impl<'a> Message<'a> {
    pub(super) fn of(task: Task, files: Vec<&'a [u8]>) -> Self {
        Self { task, files }
    }

    pub(super) fn write(&self, out: &mut impl Write) -> io::Result<()> {
        write(out, &self.task, &self.files)
    }
}

fn write<T: Serialize>(out: &mut impl Write, of: &T, files: &[&[u8]]) -> io::Result<()> {
    let head = Head { of, files: files.iter().map(|file| file.len()).collect() };
    serde_json::to_writer(&mut *out, &head)?;
    out.write_all(b"\n")?;
    files.iter().try_for_each(|file| out.write_all(file))
}

/// The head and the files of a message; nothing where it is not whole.
fn read<T: DeserializeOwned>(bytes: &[u8]) -> Option<(T, Vec<Vec<u8>>)> {
    let end = bytes.iter().position(|byte| *byte == b'\n')?;
    let head: Head<T> = serde_json::from_slice(&bytes[..end]).ok()?;
    let mut rest = &bytes[end + 1..];
    let mut files = Vec::new();
    for length in head.files {
        let (file, after) = rest.split_at_checked(length)?;
        files.push(file.to_vec());
        rest = after;
    }
    rest.is_empty().then_some((head.of, files))
}

/// The task on a worker's input.
pub(super) fn read_task(input: &mut impl Read) -> Option<(Task, Vec<Vec<u8>>)> {
    let mut bytes = Vec::new();
    input.read_to_end(&mut bytes).ok()?;
    read(&bytes)
}

/// What came of a task, or why nothing did.
pub(super) type Outcome = Result<Answer, Refused>;

/// What a worker answers.
pub(super) fn write_answer(out: &mut impl Write, answer: &Outcome, files: &[&[u8]]) -> io::Result<()> {
    write(out, answer, files)
}

/// What a worker answered; nothing where it ended before that.
pub(super) fn read_answer(bytes: &[u8]) -> Option<(Outcome, Vec<Vec<u8>>)> {
    read(bytes)
}
