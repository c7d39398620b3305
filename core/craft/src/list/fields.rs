//! Which column of a list fills which part of a piece.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_document::{Color, Content, Job, KinId, Part, Piece};

use crate::list::table::Table;

/// How a cell fills a part.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum Fills {
    /// It is what the words say.
    Words,
    /// It names the picture.
    Picture,
    /// It is what the code says.
    Code,
    /// It is the colour of the fill.
    Colour,
}

/// A part of a piece that a column can fill.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, TS)]
pub struct ListField {
    /// Which, as all that share it.
    pub kin: KinId,
    /// How a cell fills it.
    pub fills: Fills,
    /// What it is called.
    pub name: String,
    /// What it says now.
    pub now: String,
}

/// What a column fills.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct Filling {
    /// Index of the column.
    pub column: usize,
    /// Which part.
    pub kin: KinId,
    /// How.
    pub fills: Fills,
}

/// A column of a list.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, TS)]
pub struct ListColumn {
    /// What it is called.
    pub name: String,
    /// What stands in its first rows.
    pub says: Vec<String>,
}

/// The parts of a piece that columns can fill, in the order they stand on it.
#[must_use]
pub fn list_fields(job: &Job, piece: &Piece) -> Vec<ListField> {
    let mut out: Vec<ListField> = Vec::new();
    let mut fills_after = Vec::new();
    for item in piece.sides.iter().flat_map(|side| &side.items).filter(|item| !item.hidden) {
        let Some(plain) = job.plain(item) else { continue };
        if out.iter().chain(&fills_after).any(|field| field.kin == item.kin) {
            continue;
        }
        let field = |fills: Fills, name: String, now: String| ListField { kin: item.kin.clone(), fills, name, now };
        match plain.content {
            Content::Words { text, prompt } => {
                let name = if plain.part == Part::Detail && !prompt.is_empty() {
                    prompt.clone()
                } else {
                    plain.part.name().to_owned()
                };
                out.push(field(Fills::Words, name, text.text()));
            }
            Content::Picture { .. } => out.push(field(Fills::Picture, plain.name(), String::new())),
            Content::Code { code } => out.push(field(Fills::Code, "Code".into(), code.says.said().to_owned())),
            Content::Shape { .. } if plain.look.fill.is_some() => {
                fills_after.push(field(Fills::Colour, format!("Colour of {}", plain.name()), String::new()));
            }
            Content::Shape { .. } | Content::Drawing { .. } => {}
        }
    }
    out.extend(fills_after);
    out
}

/// The columns of a table with what stands in their first rows.
#[must_use]
pub fn list_columns(table: &Table) -> Vec<ListColumn> {
    let says = |at: usize| {
        table.rows.iter().filter_map(move |row| row.cells.get(at)).filter(|cell| !cell.is_empty()).take(3).cloned()
    };
    table
        .columns
        .iter()
        .enumerate()
        .map(|(at, name)| ListColumn { name: name.clone(), says: says(at).collect() })
        .collect()
}

/// What kind of thing stands in a column.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Holds {
    Picture,
    Address,
    Mail,
    Colour,
    Price,
    Date,
    Words,
}

fn holds(cells: &[&str]) -> Holds {
    let share = |is: &dyn Fn(&str) -> bool| {
        cells.iter().filter(|cell| is(cell)).count() * 10 >= cells.len() * 7 && !cells.is_empty()
    };
    let ending = |cell: &str| {
        let lower = cell.to_lowercase();
        [".png", ".jpg", ".jpeg", ".webp", ".gif", ".tif", ".tiff"].iter().any(|end| lower.ends_with(end))
    };
    let address = |cell: &str| cell.contains("://") || cell.starts_with("www.");
    let mail = |cell: &str| {
        cell.split_once('@').is_some_and(|(name, host)| !name.is_empty() && host.contains('.') && !cell.contains(' '))
    };
    let price = |cell: &str| {
        let rest = cell.trim_matches(|c: char| "$\u{20ac}\u{a3}\u{a5} ".contains(c));
        rest != cell && rest.chars().next().is_some_and(|c| c.is_ascii_digit())
            || rest.split_once(['.', ',']).is_some_and(|(whole, part)| {
                part.len() == 2 && (whole.to_owned() + part).chars().all(|c| c.is_ascii_digit())
            })
    };
    let date = |cell: &str| {
        let digits = cell.chars().filter(char::is_ascii_digit).count();
        (digits >= 6 && cell.chars().all(|c| c.is_ascii_digit() || "./- ".contains(c)))
            || (cell.contains(':') && digits >= 3)
    };
    let colour = |cell: &str| cell.starts_with('#') && cell.parse::<Color>().is_ok();
    if share(&ending) {
        Holds::Picture
    } else if share(&mail) {
        Holds::Mail
    } else if share(&address) {
        Holds::Address
    } else if share(&colour) {
        Holds::Colour
    } else if share(&price) {
        Holds::Price
    } else if share(&date) {
        Holds::Date
    } else {
        Holds::Words
    }
}

/// Words by which people head columns, by the part they mean.
const WORDS: [(&[&str], Meant); 11] = [
    (&["name", "title", "who", "guest", "person", "item", "product", "headline", "what"], Meant::Part(Part::Headline)),
    (
        &["role", "subtitle", "second", "firm", "company", "studio", "kind", "class", "support", "team"],
        Meant::Part(Part::Support),
    ),
    (&["date", "day", "when", "time", "hour"], Meant::Part(Part::When)),
    (&["place", "where", "room", "venue", "table", "seat", "city"], Meant::Part(Part::Where)),
    (&["price", "cost", "amount", "fee", "total"], Meant::Part(Part::Price)),
    (&["mail", "email", "phone", "telephone", "web", "site", "handle", "contact"], Meant::Part(Part::Contact)),
    (&["note", "detail", "description", "text", "about", "size", "glaze"], Meant::Part(Part::Detail)),
    (&["terms", "small"], Meant::Part(Part::SmallPrint)),
    (&["photo", "picture", "image", "file", "portrait"], Meant::Fills(Fills::Picture)),
    (&["code", "link", "url", "qr", "scan", "address"], Meant::Fills(Fills::Code)),
    (&["colour", "color", "tint"], Meant::Fills(Fills::Colour)),
];

enum Meant {
    Part(Part),
    Fills(Fills),
}

/// Which column most likely fills which part: by what it is called and by what stands in it. Each part is filled by one column, and each
/// column fills one part, or several that say the same.
#[must_use]
pub fn guess(job: &Job, piece: &Piece, table: &Table) -> Vec<Filling> {
    let fields = list_fields(job, piece);
    let part = |field: &ListField| job.kins.get(&field.kin).map(|kin| kin.part);
    let mut scored: Vec<(u32, usize, usize)> = Vec::new();
    for (column, name) in table.columns.iter().enumerate() {
        let cells: Vec<&str> = table
            .rows
            .iter()
            .take(40)
            .filter_map(|row| row.cells.get(column))
            .map(String::as_str)
            .filter(|cell| !cell.is_empty())
            .collect();
        let held = holds(&cells);
        let head = name.to_lowercase();
        let words: Vec<&str> = head.split(|c: char| !c.is_alphanumeric()).filter(|word| !word.is_empty()).collect();
        for (at, field) in fields.iter().enumerate() {
            let fits = match field.fills {
                Fills::Picture => held == Holds::Picture,
                Fills::Colour => held == Holds::Colour,
                Fills::Code => held == Holds::Address,
                Fills::Words => !matches!(held, Holds::Picture | Holds::Colour),
            };
            // What stands in a column may rule a part out, whatever its heading.
            if !fits && (field.fills == Fills::Picture || field.fills == Fills::Colour || held == Holds::Picture) {
                continue;
            }
            let mut score = 0;
            if head == field.name.to_lowercase() || head == field.now.to_lowercase() {
                score += 100;
            }
            for (known, meant) in &WORDS {
                let said = words.iter().any(|word| known.contains(word) || known.contains(&word.trim_end_matches('s')));
                let is = match meant {
                    Meant::Part(own) => field.fills == Fills::Words && part(field) == Some(*own),
                    Meant::Fills(own) => field.fills == *own,
                };
                if said && is {
                    score += 60;
                }
            }
            score += match (held, field.fills, part(field)) {
                (Holds::Picture, Fills::Picture, _) | (Holds::Colour, Fills::Colour, _) => 50,
                (Holds::Address, Fills::Code, _) => 40,
                (Holds::Price, Fills::Words, Some(Part::Price)) | (Holds::Date, Fills::Words, Some(Part::When)) => 40,
                (Holds::Mail | Holds::Address, Fills::Words, Some(Part::Contact)) => 30,
                _ => 0,
            };
            if score > 0 {
                scored.push((score, column, at));
            }
        }
    }
    scored.sort_by_key(|(score, column, at)| (std::cmp::Reverse(*score), *column, *at));
    let mut out: Vec<Filling> = Vec::new();
    let mut taken = vec![false; fields.len()];
    let mut give = |column: usize, at: usize, out: &mut Vec<Filling>| {
        if taken[at] || out.iter().any(|filling| filling.column == column) {
            return;
        }
        // What says the same elsewhere, as on the back, says the same from then on.
        let same =
            |field: &ListField| field.fills == fields[at].fills && !field.now.is_empty() && field.now == fields[at].now;
        for other in (0..fields.len()).filter(|other| *other == at || same(&fields[*other])) {
            if !taken[other] {
                taken[other] = true;
                out.push(Filling { column, kin: fields[other].kin.clone(), fills: fields[other].fills });
            }
        }
    };
    for (_, column, at) in scored {
        give(column, at, &mut out);
    }
    // The first column of words is for what matters most, where nothing else was found for it.
    if !out.iter().any(|filling| filling.fills == Fills::Words)
        && let Some(at) = fields
            .iter()
            .position(|field| field.fills == Fills::Words && part(field) == Some(Part::Headline))
            .or_else(|| fields.iter().position(|field| field.fills == Fills::Words))
    {
        give(0, at, &mut out);
    }
    out.sort_by_key(|filling| filling.column);
    out
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_a_column_holds_is_told_by_most_of_its_cells() {
        let all: [(&[&str], Holds); 15] = [
            (&["mug.png", "Bowl.JPG", "plate.webp"], Holds::Picture),
            (&["png", "a.png.txt", "jpeg"], Holds::Words),
            (&["ines@mossback.example", "tobin@mossback.example", "", "maud@kiln.example"], Holds::Mail),
            (&["@mossback", "ines@home", "see ines@mossback.example"], Holds::Words),
            (&["https://mossback.example", "www.mossback.example"], Holds::Address),
            (&["#8c4f32", "#fff"], Holds::Colour),
            (&["#1", "#second", "8c4f32"], Holds::Words),
            (&["$12", "12 \u{20ac}", "\u{a3} 9.50"], Holds::Price),
            (&["12.50", "9,00", "1200.00"], Holds::Price),
            (&["12", "9", "30"], Holds::Words),
            (&["$", "\u{20ac} later", "12.500", "a.50"], Holds::Words),
            (&["12.12.2026", "2026-12-13", "1/2/2027 "], Holds::Date),
            (&["10:30", "18:00"], Holds::Date),
            (&["a:b", "12345", "ratio 1:2"], Holds::Words),
            (&[], Holds::Words),
        ];
        for (cells, wanted) in all {
            assert_eq!(holds(cells), wanted, "{cells:?}");
        }
        // Seven of ten say what it is, six do not.
        let mixed = |mails: usize| -> Vec<&str> {
            (0..10).map(|at| if at < mails { "ines@mossback.example" } else { "none" }).collect()
        };
        assert_eq!((holds(&mixed(7)), holds(&mixed(6))), (Holds::Mail, Holds::Words));
    }
}
