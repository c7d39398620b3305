//! What others made that ships with the program, each with its licence.

use serde::Serialize;
use ts_rs::TS;

use crate::problem::Problem;
use crate::shipped::Shipped;

/// What something that ships is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum MadeKind {
    /// The program itself, and the libraries in it.
    Program,
    /// A typeface.
    Typeface,
    /// A list of the words of a language.
    Words,
    /// Graphics.
    Graphics,
    /// A profile of inks.
    Profile,
}

/// Something that ships, and its licence.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, TS)]
pub struct MadeCard {
    /// What it is.
    pub kind: MadeKind,
    /// What it is called.
    pub name: String,
    /// Its licence in a few words.
    pub licence: String,
    /// By what its whole text is asked for; nothing where the name of the licence says all.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub text: Option<String>,
}

/// The program, and what ships with it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, TS)]
pub struct AboutCard {
    /// Version of the program.
    pub version: &'static str,
    /// What ships.
    pub made: Vec<MadeCard>,
}

const MIT: &str = include_str!("../../LICENSE-MIT");
const APACHE: &str = include_str!("../../LICENSE-APACHE");
const OTHERS: &str = include_str!("../../THIRD-PARTY.md");

/// Word lists by language, what it is called, and the licence of the list.
const LISTS: [(&str, &str, &str); 10] = [
    ("en", "English (American)", "SCOWL, as public domain as can be"),
    ("en-gb", "English (British)", "SCOWL, as public domain as can be"),
    ("es", "Spanish", "LGPL-3.0 or MPL-1.1"),
    ("fr", "French", "MPL-2.0"),
    ("hu", "Hungarian", "LGPL or MPL"),
    ("nl", "Dutch", "BSD or CC-BY-3.0"),
    ("pl", "Polish", "LGPL, MPL or CC-SA"),
    ("pt", "Portuguese", "LGPL-3.0 or MPL"),
    ("sv", "Swedish", "LGPL-3.0"),
    ("tr", "Turkish", "MIT"),
];

/// What the program is made of.
///
/// # Errors
/// A problem where what ships is damaged.
pub fn about(families: &[vatman_type::Family]) -> Result<AboutCard, Problem> {
    let card = |kind, name: &str, licence: &str, text: Option<String>| MadeCard {
        kind,
        name: name.to_owned(),
        licence: licence.to_owned(),
        text,
    };
    let mut made = vec![
        card(MadeKind::Program, "Vatman", "MIT", Some("mit".into())),
        card(MadeKind::Program, "Vatman", "Apache-2.0", Some("apache".into())),
        card(MadeKind::Program, "Libraries in the program and its pages", "each its own", Some("libraries".into())),
    ];
    for family in families.iter().filter(|family| family.own.is_none()) {
        let folder = family.faces.first().and_then(|face| face.file.split_once('/')).map(|(folder, _)| folder);
        let text = folder.map(|folder| format!("typeface-{folder}"));
        made.push(card(MadeKind::Typeface, &family.family, &family.licence, text));
    }
    for (language, name, licence) in LISTS {
        made.push(card(MadeKind::Words, name, licence, Some(format!("words-{language}"))));
    }
    let shelf = Shipped.graphics().map_err(|why| Problem::internal(&why))?;
    made.extend(shelf.sets().into_iter().map(|set| card(MadeKind::Graphics, &set.name, &set.licence, None)));
    made.push(card(MadeKind::Profile, "Coated paper, offset", "CC0-1.0", Some("profile".into())));
    Ok(AboutCard { version: env!("CARGO_PKG_VERSION"), made })
}

/// The whole text of a licence.
///
/// # Errors
/// A problem where there is none by that name.
pub fn licence_text(of: &str) -> Result<String, Problem> {
    let text = match of.split_once('-') {
        None => match of {
            "mit" => Some(MIT.to_owned()),
            "apache" => Some(APACHE.to_owned()),
            "libraries" => Some(OTHERS.to_owned()),
            "profile" => Shipped.text("profiles/LICENSE-CC0.txt"),
            _ => None,
        },
        Some(("typeface", folder)) => Shipped.text(&format!("fonts/{folder}/LICENSE")),
        Some(("words", language)) => Shipped.words_licence(language),
        Some(_) => None,
    };
    text.ok_or_else(|| Problem::not_found("There is no licence by that name."))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::shipped::shipped_library;
    use std::collections::BTreeSet;

    #[test]
    fn everything_that_ships_has_a_licence_that_can_be_read() {
        let card = about(shipped_library().unwrap().families()).unwrap();
        for made in &card.made {
            assert!(!made.licence.is_empty(), "{}", made.name);
            if let Some(text) = &made.text {
                assert!(licence_text(text).unwrap().len() > 100, "{text}");
            }
        }
        assert!(licence_text("typeface-../../secret").is_err() && licence_text("x").is_err());
    }

    #[test]
    fn no_word_list_is_under_the_gpl_alone() {
        let shipped: BTreeSet<String> = std::fs::read_dir(concat!(env!("CARGO_MANIFEST_DIR"), "/../assets/words"))
            .unwrap()
            .map(|entry| entry.unwrap().file_name().to_string_lossy().trim_end_matches(".zip").to_owned())
            .collect();
        assert_eq!(shipped, LISTS.iter().map(|(language, ..)| (*language).to_owned()).collect());
        for (_, name, licence) in LISTS {
            assert!(["MIT", "MPL", "LGPL", "BSD", "public domain"].iter().any(|free| licence.contains(free)), "{name}");
        }
    }

    /// Every library of the lock files that is told about is told about in its version, and none that is not there any more.
    #[test]
    fn what_others_made_is_told_as_it_is() {
        let lock = include_str!("../../Cargo.lock");
        let locked: BTreeSet<(String, String)> = lock
            .split("[[package]]")
            .filter(|package| package.contains("source = "))
            .filter_map(|package| {
                let value = |name: &str| {
                    let line = package.lines().find_map(|line| line.strip_prefix(&format!("{name} = ")))?;
                    Some(line.trim_matches('"').to_owned())
                };
                Some((value("name")?, value("version")?))
            })
            .collect();
        let program = OTHERS.split("## In its pages").next().unwrap();
        let told: BTreeSet<(String, String)> = program
            .lines()
            .filter_map(|line| {
                let cells: Vec<&str> = line.split('|').map(str::trim).collect();
                (cells.len() == 5 && cells[1] != "library" && !cells[1].starts_with('-'))
                    .then(|| (cells[1].to_owned(), cells[2].to_owned()))
            })
            .collect();
        assert!(told.len() > 200);
        let gone: Vec<_> = told.difference(&locked).collect();
        assert!(gone.is_empty(), "run tools/third_party.py: {gone:?}");
        // What the program names itself is told.
        for manifest in [include_str!("../Cargo.toml"), include_str!("../../Cargo.toml")] {
            let named =
                manifest.split("[dev-dependencies]").next().unwrap().lines().filter_map(|line| line.split_once(" = "));
            for (name, version) in named {
                let used = version.starts_with('{') || version.starts_with('"');
                let tests = ["proptest", "criterion", "tempfile"].contains(&name);
                if used && !tests && locked.iter().any(|(own, _)| own == name) {
                    assert!(told.iter().any(|(own, _)| own == name), "run tools/third_party.py: {name}");
                }
            }
        }
    }
}
