//! The language a document says it is in.

use vatman_document::{Hyphens, Job, Piece};
use vatman_scene::{Reading, Scene};
use whatlang::Lang;

/// The language of a piece as in BCP 47: that its words are divided in, or the one they are written in. English where neither
/// is told by the words, as the rest of the file is.
pub(crate) fn language(job: &Job, piece: &Piece, scenes: &[&Scene]) -> String {
    let divided = piece.sides.iter().flat_map(|side| &side.items).find_map(|item| {
        let plain = job.plain(item)?;
        plain.look.type_look.as_ref()?.hyphens
    });
    if let Some(language) = divided {
        return code_of(language).to_owned();
    }
    let lines = scenes.iter().flat_map(|scene| &scene.items).filter_map(|item| match &item.reading {
        Reading::Words { lines, .. } => Some(lines.join(" ")),
        Reading::Figure(_) | Reading::Silent => None,
    });
    let words = lines.collect::<Vec<_>>().join("\n");
    language_of(&words).unwrap_or("en").to_owned()
}

/// The language a text is written in, as in BCP 47; nothing where it does not tell.
pub(crate) fn language_of(text: &str) -> Option<&'static str> {
    whatlang::detect(&text.to_lowercase()).filter(|found| found.is_reliable()).map(|found| short(found.lang()))
}

const fn code_of(language: Hyphens) -> &'static str {
    match language {
        Hyphens::English => "en",
        Hyphens::German => "de",
        Hyphens::French => "fr",
        Hyphens::Spanish => "es",
        Hyphens::Italian => "it",
        Hyphens::Portuguese => "pt",
        Hyphens::Dutch => "nl",
        Hyphens::Swedish => "sv",
        Hyphens::Finnish => "fi",
        Hyphens::Hungarian => "hu",
        Hyphens::Turkish => "tr",
        Hyphens::Ukrainian => "uk",
        Hyphens::Polish => "pl",
    }
}

/// BCP 47 wants the shortest code there is (ISO 639-1 where a language has one).
fn short(language: Lang) -> &'static str {
    match language {
        Lang::Eng => "en",
        Lang::Deu => "de",
        Lang::Fra => "fr",
        Lang::Spa => "es",
        Lang::Ita => "it",
        Lang::Por => "pt",
        Lang::Nld => "nl",
        Lang::Swe => "sv",
        Lang::Dan => "da",
        Lang::Nob => "nb",
        Lang::Fin => "fi",
        Lang::Pol => "pl",
        Lang::Ces => "cs",
        Lang::Hun => "hu",
        Lang::Ron => "ro",
        Lang::Ell => "el",
        Lang::Tur => "tr",
        Lang::Rus => "ru",
        Lang::Ukr => "uk",
        Lang::Heb => "he",
        Lang::Ara => "ar",
        Lang::Hin => "hi",
        Lang::Cmn => "zh",
        Lang::Jpn => "ja",
        Lang::Kor => "ko",
        other => other.code(),
    }
}
