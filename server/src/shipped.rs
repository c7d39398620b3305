//! What ships inside the program: fonts, designs, places, sample pictures and the front end.

use std::borrow::Cow;
use std::sync::LazyLock;

use rust_embed::RustEmbed;
use vatman_craft::{DemoJob, Design, GraphicShelf, PlaceCatalogue, WordList};
use vatman_type::{FontError, FontLibrary, FontSource};

#[derive(RustEmbed)]
#[folder = "../assets"]
struct Assets;

#[derive(RustEmbed)]
#[folder = "../web/dist"]
#[allow_missing = true]
struct Web;

/// Access to what ships.
#[derive(Debug, Clone, Copy, Default)]
pub struct Shipped;

impl FontSource for Shipped {
    fn catalogue(&self) -> Option<Vec<u8>> {
        self.face("catalogue.json")
    }
    fn face(&self, file: &str) -> Option<Vec<u8>> {
        Assets::get(&format!("fonts/{file}")).map(|file| file.data.into_owned())
    }
}

/// The families that ship.
///
/// # Errors
/// Where the catalogue or a face is damaged.
pub fn shipped_library() -> Result<FontLibrary, FontError> {
    FontLibrary::load(&Shipped)
}

fn text(name: &str) -> Result<String, String> {
    let file = Assets::get(name).ok_or_else(|| format!("{name} is missing."))?;
    String::from_utf8(file.data.into_owned()).map_err(|_| format!("{name} is not text."))
}

impl Shipped {
    /// The catalogue of places.
    ///
    /// # Errors
    /// A sentence saying what is wrong with it.
    pub fn places(self) -> Result<PlaceCatalogue, String> {
        PlaceCatalogue::read(&text("places.json")?)
    }

    /// The designs in the order of their files.
    ///
    /// # Errors
    /// A sentence saying what is wrong with one.
    pub fn designs(self) -> Result<Vec<Design>, String> {
        let mut names: Vec<_> = Assets::iter().filter(|name| name.starts_with("designs/")).collect();
        names.sort();
        names.iter().map(|name| Design::read(name, &text(name)?).map_err(|error| error.to_string())).collect()
    }

    /// A text that ships; nothing where there is none by that name.
    #[must_use]
    pub fn text(self, name: &str) -> Option<String> {
        text(name).ok()
    }

    /// The licence of the words of a language.
    #[must_use]
    pub fn words_licence(self, language: &str) -> Option<String> {
        let archive = Assets::get(&format!("words/{language}.zip"))?;
        vatman_craft::archived_text(&archive.data, "licence.txt")
    }

    /// The words of a language (`en`, `en-gb`, `fr`); nothing where no list of it ships.
    #[must_use]
    pub fn words(self, language: &str) -> Option<WordList> {
        WordList::from_archive(&Assets::get(&format!("words/{language}.zip"))?.data)
    }

    /// The jobs of the sample world.
    ///
    /// # Errors
    /// A sentence saying what is wrong with them.
    pub fn demo_jobs(self) -> Result<Vec<DemoJob>, String> {
        DemoJob::read_all(&text("demo.json")?)
    }

    /// The shelf of vector graphics; unpacked when it is first asked for.
    ///
    /// # Errors
    /// A sentence saying what is wrong with it.
    pub fn graphics(self) -> Result<&'static GraphicShelf, String> {
        static SHELF: LazyLock<Result<GraphicShelf, String>> = LazyLock::new(|| {
            let packs: Vec<Vec<u8>> = ["colour", "line", "solid", "ornament"]
                .iter()
                .filter_map(|set| Some(Assets::get(&format!("graphics/{set}.zip"))?.data.into_owned()))
                .collect();
            GraphicShelf::stock(&packs, text("graphics/synonyms.json")?.as_bytes()).map_err(|error| error.to_string())
        });
        SHELF.as_ref().map_err(Clone::clone)
    }

    /// Sample pictures by name, without their ending.
    #[must_use]
    pub fn pictures(self) -> Vec<(String, Cow<'static, [u8]>)> {
        let mut names: Vec<_> = Assets::iter().filter(|name| name.starts_with("pictures/")).collect();
        names.sort();
        let stem = |name: &str| {
            name.trim_start_matches("pictures/").rsplit_once('.').map_or_else(String::new, |(stem, _)| stem.to_owned())
        };
        names.iter().filter_map(|name| Some((stem(name), Assets::get(name)?.data))).collect()
    }

    /// Which pages this program serves.
    #[must_use]
    pub fn version(self) -> String {
        static VERSION: LazyLock<String> = LazyLock::new(|| {
            let page = Web::get("index.html").map(|file| file.data).unwrap_or_default();
            vatman_photo::content_id(&page).as_str().chars().take(16).collect()
        });
        VERSION.clone()
    }

    /// A file of the front end and its media type.
    #[must_use]
    pub fn web(self, path: &str) -> Option<(Cow<'static, [u8]>, String)> {
        let file = Web::get(path)?;
        Some((file.data, file.metadata.mimetype().to_owned()))
    }
}
