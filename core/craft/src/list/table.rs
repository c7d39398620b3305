//! Tables as people keep them: any usual separator, any usual encoding, quotes, and line breaks inside them.

use csv::{ByteRecord, ReaderBuilder, Trim};
use thiserror::Error;

/// Why a file is no table.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
pub enum TableError {
    /// No rows.
    #[error("There is nothing in this list. It needs a row of headings and at least one row below.")]
    Empty,
    /// Too much.
    #[error("A list holds up to 20,000 rows of up to 100 columns, 20 MB in all.")]
    TooLarge,
    /// A quotation without an end.
    #[error(
        "A quotation mark on line {0} opens a cell that is never closed. Close it there, or take it out; nothing was taken."
    )]
    OpenQuote(u64),
    /// Not text.
    #[error("This is not a list. Save it as CSV from your spreadsheet, or copy the cells and paste them here.")]
    NotText,
}

/// A row of a table.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Row {
    /// The line of the file it begins on, counted from 1.
    pub line: u64,
    /// Its cells, without blanks around them; as many as the file has there.
    pub cells: Vec<String>,
}

/// A table.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Table {
    /// What its columns are called.
    pub columns: Vec<String>,
    /// Its rows without empty ones.
    pub rows: Vec<Row>,
}

impl Table {
    /// Most rows.
    pub const MOST_ROWS: usize = 20_000;
    const MOST_COLUMNS: usize = 100;
    const MOST_BYTES: usize = 20 << 20;

    /// The text of a file: UTF-8 or UTF-16 where it says so or is that, else in the code page its letters speak for.
    ///
    /// # Errors
    /// [`TableError`] where it is no text, or too much.
    pub fn text(bytes: &[u8]) -> Result<String, TableError> {
        if bytes.len() > Self::MOST_BYTES {
            return Err(TableError::TooLarge);
        }
        if let Some(text) = utf32(bytes) {
            return text.ok_or(TableError::NotText);
        }
        let marked = encoding_rs::Encoding::for_bom(bytes);
        if marked.is_none() && bytes.contains(&0) {
            return Err(TableError::NotText);
        }
        let encoding = match (marked, std::str::from_utf8(bytes)) {
            (Some((encoding, _)), _) => encoding,
            (None, Ok(_)) => encoding_rs::UTF_8,
            (None, Err(_)) => {
                let mut detector = chardetng::EncodingDetector::new(chardetng::Iso2022JpDetection::Deny);
                detector.feed(bytes, true);
                detector.guess(None, chardetng::Utf8Detection::Deny)
            }
        };
        let (text, _, _) = encoding.decode(bytes);
        Ok(text.into_owned())
    }

    /// Reads a table. Its separator is that by which most of its first rows have as many cells; its first row are headings where no cell
    /// of it is empty, said twice or a number.
    ///
    /// # Errors
    /// [`TableError`] where there is nothing, or too much.
    pub fn read(text: &str) -> Result<Self, TableError> {
        if text.len() > Self::MOST_BYTES {
            return Err(TableError::TooLarge);
        }
        let text = text.trim_start_matches('\u{feff}');
        let (separator, skipped) = match said(text) {
            Some((separator, table)) => (separator, text.len() - table.len()),
            None => (separator(text), 0),
        };
        let (table, text) = (&text[skipped..], text);
        if let Some(line) = open_quote(table, separator) {
            let before = text[..skipped].matches('\n').count() as u64;
            return Err(TableError::OpenQuote(before + line));
        }
        let mut rows = Vec::new();
        let mut lines = Lines { text, at: 0, line: 1 };
        for record in records(table, separator).take(Self::MOST_ROWS + 2) {
            let Ok(record) = record else { return Err(TableError::NotText) };
            let line = lines.of(skipped as u64 + record.position().map_or(0, csv::Position::byte));
            let cells: Vec<String> =
                record.iter().map(|cell| String::from_utf8_lossy(cell).trim().to_owned()).collect();
            if cells.len() > Self::MOST_COLUMNS {
                return Err(TableError::TooLarge);
            }
            if cells.iter().any(|cell| !cell.is_empty()) {
                rows.push(Row { line, cells });
            }
        }
        if rows.len() > Self::MOST_ROWS + 1 {
            return Err(TableError::TooLarge);
        }
        let Some(first) = rows.first() else { return Err(TableError::Empty) };
        let headed = is_heading(&first.cells) && rows.len() > 1;
        let columns = if headed {
            rows.remove(0).cells
        } else {
            (1..=first.cells.len()).map(|at| format!("Column {at}")).collect()
        };
        if rows.is_empty() { Err(TableError::Empty) } else { Ok(Self { columns, rows }) }
    }
}

/// Lines of a text, counted as it is read.
struct Lines<'t> {
    text: &'t str,
    at: usize,
    line: u64,
}

impl Lines<'_> {
    /// The line on which what begins at a byte, or after the ends of lines there, begins.
    fn of(&mut self, byte: u64) -> u64 {
        let bytes = self.text.as_bytes();
        let mut to = usize::try_from(byte).unwrap_or(usize::MAX).clamp(self.at, bytes.len());
        while to < bytes.len() && matches!(bytes[to], b'\r' | b'\n') {
            to += 1;
        }
        self.line += bytes[self.at..to].iter().filter(|byte| **byte == b'\n').count() as u64;
        self.at = to;
        self.line
    }
}

fn records(text: &str, separator: u8) -> impl Iterator<Item = csv::Result<ByteRecord>> {
    let reader = ReaderBuilder::new()
        .delimiter(separator)
        .has_headers(false)
        .flexible(true)
        .trim(Trim::None)
        .from_reader(text.as_bytes());
    reader.into_byte_records()
}

/// The separator a table says itself in a line of its own before it, and the table; nothing where it does not, or names what parts nothing.
fn said(text: &str) -> Option<(u8, &str)> {
    let (line, table) = text.strip_prefix("sep=")?.split_once('\n')?;
    match line.trim_end_matches('\r').as_bytes() {
        [own @ (b',' | b';' | b'\t' | b'|' | b':')] => Some((*own, table)),
        _ => None,
    }
}

/// Text in UTF-32 that says it is that, which would else be taken for UTF-16; inner nothing where it is none after all.
fn utf32(bytes: &[u8]) -> Option<Option<String>> {
    let (read, rest): (fn([u8; 4]) -> u32, _) = match bytes {
        [0xff, 0xfe, 0, 0, rest @ ..] => (u32::from_le_bytes, rest),
        [0, 0, 0xfe, 0xff, rest @ ..] => (u32::from_be_bytes, rest),
        _ => return None,
    };
    let (letters, over) = rest.as_chunks::<4>();
    let text = letters.iter().map(|four| char::from_u32(read(*four))).collect();
    Some(if over.is_empty() { text } else { None })
}

/// The line on which a quotation begins that never ends, counted from 1: all after it would be one cell.
fn open_quote(text: &str, separator: u8) -> Option<u64> {
    #[derive(PartialEq)]
    enum At {
        Start,
        Plain,
        Quoted,
        /// After a quote in a quotation: it ends there, unless another follows.
        Quote,
    }
    let (mut at, mut line, mut opened) = (At::Start, 1, 0);
    for byte in text.bytes() {
        at = match (at, byte) {
            (At::Start, b'"') => {
                opened = line;
                At::Quoted
            }
            (At::Quoted, b'"') => At::Quote,
            (At::Quote, b'"') | (At::Quoted, _) => At::Quoted,
            (_, b'\n' | b'\r') => At::Start,
            (_, byte) if byte == separator => At::Start,
            _ => At::Plain,
        };
        line += u64::from(byte == b'\n');
    }
    (at == At::Quoted).then_some(opened)
}

/// The separator by which most of the first rows have as many cells, and the most of them.
fn separator(text: &str) -> u8 {
    let agreement = |separator: u8| {
        let widths: Vec<usize> =
            records(text, separator).take(50).filter_map(Result::ok).map(|row| row.len()).collect();
        let most =
            widths.iter().copied().max_by_key(|width| (widths.iter().filter(|own| *own == width).count(), *width));
        let width = most.unwrap_or(1);
        let share = widths.iter().filter(|own| **own == width).count() as f64 / widths.len().max(1) as f64;
        if width < 2 { 0.0 } else { share + (width.min(20) as f64) / 100.0 }
    };
    let mut best = (b',', 0.0);
    for separator in [b',', b';', b'\t', b'|'] {
        let own = agreement(separator);
        if own > best.1 {
            best = (separator, own);
        }
    }
    best.0
}

fn is_heading(cells: &[String]) -> bool {
    let said_once = |at: usize| cells[..at].iter().all(|other| !other.eq_ignore_ascii_case(&cells[at]));
    let word = |cell: &str| {
        cell.chars().any(char::is_alphabetic)
            && !cell.contains('@')
            && !cell.contains("://")
            && cell.chars().count() <= 60
    };
    (0..cells.len()).all(|at| word(&cells[at]) && said_once(at))
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn read(text: &str) -> Table {
        Table::read(text).unwrap()
    }

    #[test]
    fn separators_quotes_and_line_breaks_are_read_as_they_were_meant() {
        let want = [vec!["Ines Vardal", "Wheel, twice"], vec!["Tobin \"Toby\" Ashgrove", "Glaze\nand fire"]];
        for separator in [',', ';', '\t', '|'] {
            let text = format!(
                "Name{separator}Class\r\nInes Vardal{separator}\"Wheel, twice\"\r\n\r\n\"Tobin \"\"Toby\"\" Ashgrove\"{separator}\"Glaze\nand fire\"\r\n"
            );
            let table = read(&text);
            assert_eq!(table.columns, ["Name", "Class"], "{separator:?}");
            assert_eq!(table.rows.iter().map(|row| row.cells.clone()).collect::<Vec<_>>(), want);
            assert_eq!(table.rows.iter().map(|row| row.line).collect::<Vec<_>>(), [2, 4]);
        }
    }

    #[test]
    fn what_parts_every_row_alike_parts_a_table_more_than_what_parts_some_into_more() {
        let table = read("Name;Glazes\nInes;ash,tin,iron,salt,slip\nTobin;celadon,shino,oribe,raku,clear\n");
        assert_eq!(table.columns, ["Name", "Glazes"]);
        assert_eq!(table.rows[1].cells, ["Tobin", "celadon,shino,oribe,raku,clear"]);
    }

    #[test]
    fn a_table_without_headings_has_numbered_columns_and_rows_keep_their_width() {
        let table = read("Mug,12\nBowl,18,seconds\nJar\n");
        assert_eq!((table.columns.len(), table.rows.len()), (2, 3));
        assert_eq!(table.columns[1], "Column 2");
        assert_eq!(table.rows.iter().map(|row| row.cells.len()).collect::<Vec<_>>(), [2, 3, 1]);
        assert_eq!(read("Name\nInes\nTobin\n").rows.len(), 2);
        assert_eq!(Table::read(" \n\n"), Err(TableError::Empty));
        assert_eq!(read("Name,Price\n").columns, ["Column 1", "Column 2"], "headings alone are a row");
    }

    #[test]
    fn files_of_several_encodings_say_the_same() {
        let text = "Name;Gruß\nZoë Åkesson;Grüße für „alle“ – 5 €\nJürgen;schöne Töpfe, große Öfen\n";
        let utf16: Vec<u8> = [0xff, 0xfe].into_iter().chain(text.encode_utf16().flat_map(u16::to_le_bytes)).collect();
        let western = encoding_rs::WINDOWS_1252.encode(text).0.into_owned();
        let marked: Vec<u8> = [0xef, 0xbb, 0xbf].into_iter().chain(text.bytes()).collect();
        for bytes in [text.as_bytes(), &marked, &utf16, &western] {
            assert_eq!(Table::text(bytes).unwrap(), text);
        }
        let polish = "Imię;Miasto\nŁukasz Żółć;Kraków\nŚwiętosława Dąbrowska;Łódź i Gdańsk\n";
        assert_eq!(Table::text(&encoding_rs::WINDOWS_1250.encode(polish).0).unwrap(), polish);
        let russian = "Имя;Город\nИнес Вардал;Харроумир\nТобин Эшгров;Северный берег реки\n";
        assert_eq!(Table::text(&encoding_rs::WINDOWS_1251.encode(russian).0).unwrap(), russian);
        assert_eq!(Table::text(b"PK\x03\x04\0\0"), Err(TableError::NotText));
    }

    #[test]
    fn a_table_that_says_its_separator_begins_after_that_line() {
        let table = read("\u{feff}sep=;\r\nName;Price\r\nMug;12,50\r\n");
        assert_eq!((table.columns, table.rows[0].line), (vec!["Name".to_owned(), "Price".into()], 3));
        assert_eq!(table.rows[0].cells, ["Mug", "12,50"]);
        assert_eq!(read("sep=x,b\n1,2\n").columns, ["sep=x", "b"], "that is a heading");
    }

    #[test]
    fn a_quotation_without_an_end_is_told_with_its_line() {
        assert_eq!(Table::read("Name,Class\nInes,\"Wheel\nTobin,Glaze\n"), Err(TableError::OpenQuote(2)));
        assert_eq!(Table::read("sep=,\nName,Class\nInes,\"Wheel\nTobin,Glaze\n"), Err(TableError::OpenQuote(3)));
        assert_eq!(read("Name,Size\nPlate,9\" wide\nJar,\"6\"\" high\"\n").rows[1].cells, ["Jar", "6\" high"]);
    }

    #[test]
    fn text_of_four_bytes_a_letter_is_read() {
        let text = "Name;Preis\nTöpfe;12\n";
        let little: Vec<u8> =
            [0xff, 0xfe, 0, 0].into_iter().chain(text.chars().flat_map(|c| (c as u32).to_le_bytes())).collect();
        let big: Vec<u8> =
            [0, 0, 0xfe, 0xff].into_iter().chain(text.chars().flat_map(|c| (c as u32).to_be_bytes())).collect();
        assert_eq!(Table::text(&little).unwrap(), text);
        assert_eq!(Table::text(&big).unwrap(), text);
        assert_eq!(Table::text(&little[..little.len() - 1]), Err(TableError::NotText));
    }

    #[test]
    fn too_much_is_refused() {
        let rows = "a,b\n".repeat(Table::MOST_ROWS + 2);
        assert_eq!(Table::read(&rows), Err(TableError::TooLarge));
        assert_eq!(Table::read(&format!("{}\n1\n", "a,".repeat(120))), Err(TableError::TooLarge));
    }

    proptest! {
        /// Whatever is written by the rules of quoting is read as it was.
        #[test]
        fn what_is_quoted_comes_back(cells in prop::collection::vec(prop::collection::vec("[ -~äß€\n\"]{0,12}", 3), 1..8), separator in prop::sample::select(vec![',', ';', '\t'])) {
            let quoted = |cell: &String| format!("\"{}\"", cell.replace('"', "\"\""));
            let line = |row: &Vec<String>| row.iter().map(quoted).collect::<Vec<_>>().join(&separator.to_string());
            let text = format!("One{separator}Two{separator}Three\n{}\n", cells.iter().map(line).collect::<Vec<_>>().join("\n"));
            let kept: Vec<Vec<String>> = cells.iter().map(|row| row.iter().map(|cell| cell.trim().to_owned()).collect::<Vec<_>>()).filter(|row| row.iter().any(|cell| !cell.is_empty())).collect();
            match Table::read(&text) {
                Ok(table) => prop_assert_eq!(table.rows.into_iter().map(|row| row.cells).collect::<Vec<_>>(), if kept.is_empty() { vec![vec!["One".to_owned(), "Two".into(), "Three".into()]] } else { kept }),
                Err(error) => prop_assert!(false, "{error}"),
            }
        }

        #[test]
        fn nothing_makes_it_fall_over(bytes in prop::collection::vec(any::<u8>(), 0..400)) {
            let _ = Table::text(&bytes).map(|text| Table::read(&text));
        }
    }
}
