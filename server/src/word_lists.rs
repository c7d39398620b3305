//! Where word lists come from: those that ship, those somebody put into the data folder, and those of the system.

use std::path::{Path, PathBuf};

use vatman_craft::{WordList, WordLists};

use crate::shipped::Shipped;

/// Where systems keep word lists for all their programs.
const SYSTEM: &str = "/usr/share/hunspell";

/// Looks for lists in this order: shipped, in folders.
pub(crate) struct Lists {
    folders: Vec<PathBuf>,
}

impl Lists {
    /// With the lists in the folder `words` of a data folder, and those of the system.
    pub(crate) fn beside(data: Option<&Path>) -> Self {
        Self { folders: data.map(|data| data.join("words")).into_iter().chain([PathBuf::from(SYSTEM)]).collect() }
    }
}

impl WordLists for Lists {
    fn list(&self, language: &str) -> Option<WordList> {
        Shipped.words(language).or_else(|| self.folders.iter().find_map(|folder| in_folder(folder, language)))
    }
}

/// The list of a language in a folder: `de.aff` and `de.dic`, or those of the country it is first spoken in (`de_DE`), or of any.
fn in_folder(folder: &Path, language: &str) -> Option<WordList> {
    let country = format!("{language}_{}", language.to_uppercase());
    let of_any = std::fs::read_dir(folder).ok()?.flatten().filter_map(|entry| {
        let name = entry.file_name().into_string().ok()?;
        let stem = name.strip_suffix(".aff")?;
        stem.starts_with(&format!("{language}_")).then(|| stem.to_owned())
    });
    let mut of_any: Vec<String> = of_any.collect();
    of_any.sort();
    [language.to_owned(), country].into_iter().chain(of_any).find_map(|stem| {
        let read = |end: &str| std::fs::read(folder.join(format!("{stem}.{end}"))).ok();
        WordList::from_files(&read("aff")?, &read("dic")?)
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn lists_are_found_in_the_data_folder_by_language_and_country() {
        let folder = tempfile::tempdir().unwrap();
        let words = folder.path().join("words");
        std::fs::create_dir(&words).unwrap();
        let put = |name: &str, text: &str| std::fs::write(words.join(name), text).unwrap();
        for stem in ["xx_AA", "xx_XX", "yy_BB", "zz"] {
            put(&format!("{stem}.aff"), "SET UTF-8\n");
            put(&format!("{stem}.dic"), &format!("1\n{stem}\n"));
        }
        let lists = Lists::beside(Some(folder.path()));
        let list = |word: &str| WordList::from_files(b"SET UTF-8\n", format!("1\n{word}\n").as_bytes());
        assert_eq!(lists.list("xx"), list("xx_XX"));
        assert_eq!(lists.list("yy"), list("yy_BB"));
        assert_eq!(lists.list("zz"), list("zz"));
        assert_eq!(lists.list("qq"), None);
        assert!(lists.list("fr").is_some(), "what ships comes first");
    }
}
