//! The shipped fonts, pictures, designs and places, read from the source tree; and readers of our files that are not ours.

use std::collections::BTreeMap;
use std::path::{Path, PathBuf};
use std::process::Command;
use std::sync::{Arc, LazyLock, Mutex};

use vatman_craft::{
    Addition, Brief, Design, GraphicShelf, Inks, PlaceCatalogue, PlaceEntry, Plan, Speller, Studio, Supplies, WordList,
    WordLists, Words, adapt_piece, add, compose_job, made_legible, plans,
};
use vatman_document::{AssetId, Format, IdSource, ItemId, Job, JobId, Known, Part, Piece, PieceId, Side, SideId};
use vatman_photo::{PictureBytes, Pictures, content_id};
use vatman_type::{FontLibrary, FontSource, Typesetter};

pub fn assets() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../../assets")
}

struct Folder(PathBuf);
impl FontSource for Folder {
    fn catalogue(&self) -> Option<Vec<u8>> {
        self.face("catalogue.json")
    }
    fn face(&self, file: &str) -> Option<Vec<u8>> {
        std::fs::read(self.0.join(file)).ok()
    }
}

/// Pictures at hand; tests may add some.
#[derive(Clone)]
pub struct Shelf(pub Arc<Mutex<BTreeMap<AssetId, Arc<[u8]>>>>);
impl Shelf {
    pub fn of(pictures: BTreeMap<AssetId, Arc<[u8]>>) -> Self {
        Self(Arc::new(Mutex::new(pictures)))
    }
}
impl PictureBytes for Shelf {
    fn bytes(&self, id: &AssetId) -> Option<Arc<[u8]>> {
        self.0.lock().unwrap().get(id).cloned()
    }
}

pub struct World {
    pub studio: Studio,
    pub places: PlaceCatalogue,
    pub designs: Vec<Design>,
    pub samples: BTreeMap<String, AssetId>,
    pub shelf: Shelf,
}

impl Known for World {
    fn has_family(&self, name: &str) -> bool {
        self.studio.typesetter.library().has(name)
    }
    fn has_picture(&self, id: &AssetId) -> bool {
        self.shelf.bytes(id).is_some()
    }
}

pub struct Counter(pub u32);
impl IdSource for Counter {
    fn fresh(&mut self) -> String {
        self.0 += 1;
        format!("n{}", self.0)
    }
}

struct Lists;
impl WordLists for Lists {
    fn list(&self, language: &str) -> Option<WordList> {
        WordList::from_archive(&std::fs::read(assets().join(format!("words/{language}.zip"))).ok()?)
    }
}

/// What knows the words of the sample world: those of the lists, and its names.
pub static SPELLER: LazyLock<Speller> = LazyLock::new(|| {
    let speller = Speller::new(Box::new(Lists));
    speller.set_own(["Mossback", "Harrowmere", "mossbackkiln"].map(str::to_owned));
    speller
});

pub static WORLD: LazyLock<World> = LazyLock::new(|| {
    let library = FontLibrary::load(&Folder(assets().join("fonts"))).unwrap();
    let (mut shelf, mut samples) = (BTreeMap::new(), BTreeMap::new());
    for entry in std::fs::read_dir(assets().join("pictures")).unwrap() {
        let path = entry.unwrap().path();
        let bytes = std::fs::read(&path).unwrap();
        let id = content_id(&bytes);
        samples.insert(path.file_stem().unwrap().to_string_lossy().into_owned(), id.clone());
        shelf.insert(id, bytes.into());
    }
    let mut names: Vec<_> =
        std::fs::read_dir(assets().join("designs")).unwrap().map(|entry| entry.unwrap().path()).collect();
    names.sort();
    let shelf = Shelf::of(shelf);
    World {
        studio: Studio::new(
            Arc::new(Typesetter::new(Arc::new(library))),
            Arc::new(Pictures::new(Box::new(shelf.clone()), 256 << 20)),
        ),
        places: PlaceCatalogue::read(&std::fs::read_to_string(assets().join("places.json")).unwrap()).unwrap(),
        designs: names
            .iter()
            .map(|path| Design::read(&path.to_string_lossy(), &std::fs::read_to_string(path).unwrap()).unwrap())
            .collect(),
        samples,
        shelf,
    }
});

impl World {
    /// Keeps a picture, so that jobs can show it.
    pub fn keep(&self, bytes: Vec<u8>) -> AssetId {
        let id = content_id(&bytes);
        self.shelf.0.lock().unwrap().insert(id.clone(), bytes.into());
        id
    }

    pub fn design(&self, id: &str) -> &Design {
        self.designs.iter().find(|design| design.id == id).unwrap()
    }

    pub fn place(&self, id: &str) -> PlaceEntry {
        self.places.get(id).cloned().unwrap_or_else(|| PlaceCatalogue::own_size(id).unwrap())
    }

    pub fn job(&self, designs: &[&str], places: &[(&str, usize)], words: &Words) -> Job {
        let designs: Vec<_> = designs.iter().map(|id| self.design(id)).collect();
        let places: Vec<_> = places.iter().map(|(id, sides)| (self.place(id), *sides)).collect();
        let pictures = |name: &str| self.samples.get(name).cloned();
        let brief = Brief { title: "Saturday wheel class", designs: &designs, places: &places, words };
        let mut ids = Counter(0);
        let mut supplies =
            Supplies { ids: &mut ids, typesetter: &self.studio.typesetter, pictures: &pictures, known: self };
        compose_job(JobId::new("job").unwrap(), &brief, &mut supplies).unwrap()
    }
}

pub fn of_designs(id: &str) -> Option<&'static Design> {
    WORLD.designs.iter().find(|design| design.id == id)
}

pub fn ways(job: &Job, piece: &Piece, entry: &PlaceEntry) -> Vec<Plan> {
    plans(&WORLD.studio, job, piece, entry, &of_designs)
}

/// A job with a piece of so many pixels, arranged in each way, the best first.
pub fn arranged_in_each_way(job: &Job, (w, h): (u32, u32)) -> Vec<(String, Job)> {
    let entry = PlaceEntry::of_size("Own", vatman_document::Format::screen(w, h));
    let from = &job.pieces[0];
    let found = ways(job, from, &entry);
    assert!(!found.is_empty());
    let each = found.iter().map(|plan| {
        let (command, _) = adapt_piece(job, &from.id, plan, &entry, &mut Counter(9_000)).unwrap();
        let mut out = job.clone();
        command.apply(&mut out, &*WORLD).unwrap();
        (plan.way.clone(), out)
    });
    each.collect()
}

/// The job with a piece for a place, arranged in the best way from its first piece, and made to read.
pub fn adapted(job: &Job, place: &str) -> Job {
    let entry = WORLD.place(place);
    let from = job.pieces[0].id.clone();
    let found = ways(job, &job.pieces[0], &entry);
    let (command, id) = adapt_piece(job, &from, &found[0], &entry, &mut Counter(9_000)).unwrap();
    let mut out = job.clone();
    command.apply(&mut out, &*WORLD).unwrap();
    for repair in made_legible(&WORLD.studio, &out, &id, Some(&from), &*WORLD, &mut Counter(19_000)) {
        repair.apply(&mut out, &*WORLD).unwrap();
    }
    out
}

/// As if somebody had made it by hand: no design has a say.
pub fn by_somebody(mut job: Job) -> Job {
    let piece = job.pieces[0].id.clone();
    vatman_document::Command::Follow { piece, follows: vatman_document::Follows::Hand }
        .apply(&mut job, &*WORLD)
        .unwrap();
    job
}

/// The graphics that ship.
pub static GRAPHICS: LazyLock<GraphicShelf> = LazyLock::new(|| {
    let folder = assets().join("graphics");
    let packs: Vec<Vec<u8>> = ["colour", "line", "solid", "ornament"]
        .iter()
        .map(|set| std::fs::read(folder.join(format!("{set}.zip"))).unwrap())
        .collect();
    GraphicShelf::stock(&packs, &std::fs::read(folder.join("synonyms.json")).unwrap()).unwrap()
});

/// A blank square sheet with things added in their order.
pub fn sheet_with(what: Vec<Addition>) -> (Job, Vec<ItemId>) {
    let mut job = Job::new(JobId::new("j").unwrap(), "Hang tag");
    let side = Side {
        id: SideId::new("s").unwrap(),
        name: "Front".into(),
        ground: None,
        items: Vec::new(),
        stacks: Vec::new(),
        group_looks: Vec::new(),
    };
    job.pieces.push(Piece::new(PieceId::new("p").unwrap(), "Square post", Format::screen(800, 800), vec![side]).into());
    let mut made = Vec::new();
    let mut ids = Counter(0);
    for one in what {
        let (command, id) = add(&job, &job.pieces[0], &job.pieces[0].sides[0], one, &Inks::PLAIN, &mut ids);
        command.apply(&mut job, &*WORLD).unwrap();
        made.push(id);
    }
    (job, made)
}

pub fn words() -> Words {
    [
        (Part::Headline, "Hands in clay by ten."),
        (Part::Support, "A first morning at the wheel"),
        (Part::When, "Saturday, 10 to 1"),
        (Part::Where, "Mossback Kiln, Harrowmere"),
        (Part::Action, "Book a wheel"),
    ]
    .map(|(part, text)| (part, text.to_owned()))
    .into()
}

/// Runs another program and returns what it printed; panics with its complaints where it fails.
pub fn run(program: &str, arguments: &[&str]) -> String {
    let out =
        Command::new(program).args(arguments).output().unwrap_or_else(|error| panic!("{program} is needed: {error}"));
    assert!(out.status.success(), "{program} {arguments:?}: {}", String::from_utf8_lossy(&out.stderr));
    String::from_utf8_lossy(&out.stdout).into_owned()
}

/// Mean absolute difference of two pictures of one size, per channel, 0 to 255, laid over white.
pub fn difference(a: &image::RgbaImage, b: &image::RgbaImage) -> f64 {
    assert_eq!(a.dimensions(), b.dimensions());
    let over_white = |p: &image::Rgba<u8>| {
        [0, 1, 2].map(|i| (f64::from(p[i]) * f64::from(p[3]) + 255.0 * f64::from(255 - p[3])) / 255.0)
    };
    let sum: f64 = a
        .pixels()
        .zip(b.pixels())
        .map(|(a, b)| over_white(a).iter().zip(over_white(b)).map(|(a, b)| (a - b).abs()).sum::<f64>())
        .sum();
    sum / f64::from(a.width() * a.height() * 3)
}
