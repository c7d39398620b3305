//! A print shop: what any of them has to be able to do, and a stand-in that ships with the program.
//!
//! The stand-in looks at nothing but the file, as a shop does, quotes from a list, and moves orders on with time.

use lopdf::content::Content;
use lopdf::{Dictionary, Document, Object, ObjectId};
use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_units::{Length, Size};

/// A paper a shop prints on.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, TS)]
pub struct ShopPaper {
    /// Identity.
    pub id: &'static str,
    /// What it is called.
    pub name: &'static str,
    /// What setting up costs, in hundredths.
    pub setup: u32,
    /// What 100 pieces of the size of a card cost on one side, in hundredths.
    pub hundred: u32,
}

/// What is ordered.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct OrderWish {
    /// On which paper.
    pub paper: String,
    /// How many.
    pub count: u32,
}

/// What a file is to be: told to the shop with it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Expected {
    /// Finished size.
    pub size: Size,
    /// Pages: one a side.
    pub sides: usize,
}

/// Where an order is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum OrderState {
    /// It was sent back.
    Rejected,
    /// The file is good and waits for a press.
    Accepted,
    /// It is printed.
    Printing,
    /// It is cut and packed.
    Cutting,
    /// It can be fetched.
    Ready,
}

/// What every print shop can do.
pub trait PrintShop: Send + Sync {
    /// Its name.
    fn name(&self) -> &str;
    /// What it prints on.
    fn papers(&self) -> &[ShopPaper];
    /// Looks at a file as it is; the reasons why it cannot be printed, none where it can.
    fn look_at(&self, pdf: &[u8], expected: Expected) -> Vec<String>;
    /// What so many cost, in hundredths; nothing for what it does not print.
    fn quote(&self, wish: &OrderWish, expected: Expected) -> Option<u64>;
    /// Where an order that was accepted is after so many milliseconds.
    fn state_after(&self, elapsed: i64) -> OrderState;
}

/// The stand-in.
pub struct LowMeadowPress;

const PAPERS: [ShopPaper; 4] = [
    ShopPaper { id: "card-350", name: "Card, 350 g, matt", setup: 900, hundred: 700 },
    ShopPaper { id: "cotton-400", name: "Cotton card, 400 g", setup: 1_200, hundred: 1_900 },
    ShopPaper { id: "sheet-150", name: "Coated paper, 150 g", setup: 800, hundred: 320 },
    ShopPaper { id: "sheet-100", name: "Recycled paper, 100 g", setup: 700, hundred: 260 },
];

/// Bleed it asks for all round: 2 mm and a hair, which three millimetres and an eighth of an inch both are.
const BLEED: f64 = 2.0;
/// How far a size may be off, in points.
const CLOSE: f64 = 0.5;
/// Pixels an inch it asks of pictures.
const LEAST_PPI: f64 = 150.0;

impl PrintShop for LowMeadowPress {
    fn name(&self) -> &str {
        "Low Meadow Press"
    }

    fn papers(&self) -> &[ShopPaper] {
        &PAPERS
    }

    fn look_at(&self, pdf: &[u8], expected: Expected) -> Vec<String> {
        let Ok(file) = Document::load_mem(pdf) else { return vec!["The file cannot be opened as a PDF.".to_owned()] };
        let mut reasons = Vec::new();
        if file.is_encrypted() {
            reasons.push("The file is locked with a password.".to_owned());
        }
        let pages: Vec<ObjectId> = file.get_pages().into_values().collect();
        if pages.len() != expected.sides {
            reasons.push(format!(
                "The order is for {} and the file has {}.",
                sides(expected.sides),
                count(pages.len(), "page")
            ));
        }
        for (at, page) in pages.iter().enumerate() {
            let number = at + 1;
            let Ok(dictionary) = file.get_dictionary(*page) else { continue };
            reasons
                .extend(boxes(&file, dictionary, expected.size).into_iter().map(|why| format!("Page {number}: {why}")));
            reasons.extend(pictures(&file, *page).into_iter().map(|why| format!("Page {number}: {why}")));
        }
        let loose = loose_fonts(&file);
        if !loose.is_empty() {
            reasons.push(format!("These typefaces are not in the file: {}.", loose.join(", ")));
        }
        reasons
    }

    fn quote(&self, wish: &OrderWish, expected: Expected) -> Option<u64> {
        let paper = PAPERS.iter().find(|paper| paper.id == wish.paper)?;
        if !(10..=10_000).contains(&wish.count) {
            return None;
        }
        // By area next to that of a card, less the more there are of them.
        let card = 85.0 * 55.0;
        let area = (expected.size.w.to_mm() * expected.size.h.to_mm() / card).max(0.5);
        let sides = if expected.sides > 1 { 1.5 } else { 1.0 };
        let many = (f64::from(wish.count) / 100.0).powf(0.85);
        Some(u64::from(paper.setup) + (f64::from(paper.hundred) * area * sides * many).round() as u64)
    }

    fn state_after(&self, elapsed: i64) -> OrderState {
        match elapsed / 1_000 {
            ..8 => OrderState::Accepted,
            8..25 => OrderState::Printing,
            25..45 => OrderState::Cutting,
            _ => OrderState::Ready,
        }
    }
}

fn count(number: usize, what: &str) -> String {
    if number == 1 { format!("1 {what}") } else { format!("{number} {what}s") }
}

fn sides(number: usize) -> String {
    count(number, "side")
}

/// A box of a page, in points; nothing where it has none.
fn page_box(file: &Document, page: &Dictionary, name: &[u8]) -> Option<[f64; 4]> {
    let object = page.get(name).ok()?;
    let object = file.dereference(object).ok()?.1;
    let numbers: Vec<f64> =
        object.as_array().ok()?.iter().filter_map(|value| value.as_float().ok()).map(f64::from).collect();
    <[f64; 4]>::try_from(numbers).ok()
}

fn boxes(file: &Document, page: &Dictionary, size: Size) -> Vec<String> {
    let Some(trim) = page_box(file, page, b"TrimBox") else {
        return vec!["it does not say where it is trimmed (TrimBox).".to_owned()];
    };
    let mut reasons = Vec::new();
    let (wide, high) = (trim[2] - trim[0], trim[3] - trim[1]);
    if (wide - size.w.to_pt()).abs() > CLOSE || (high - size.h.to_pt()).abs() > CLOSE {
        let mm = |points: f64| points * 25.4 / 72.0;
        reasons.push(format!(
            "it is {:.1} \u{d7} {:.1} mm after trimming, and {:.1} \u{d7} {:.1} mm were ordered.",
            mm(wide),
            mm(high),
            size.w.to_mm(),
            size.h.to_mm()
        ));
    }
    let bleed = page_box(file, page, b"BleedBox").unwrap_or(trim);
    let least = [trim[0] - bleed[0], trim[1] - bleed[1], bleed[2] - trim[2], bleed[3] - trim[3]];
    let least = least.into_iter().fold(f64::INFINITY, f64::min) * 25.4 / 72.0;
    if least < BLEED {
        reasons.push(format!("it has {:.1} mm of bleed; at least {BLEED} mm are needed all round.", least.max(0.0)));
    }
    reasons
}

/// Pictures with too few pixels for the size they are shown at.
fn pictures(file: &Document, page: ObjectId) -> Vec<String> {
    let mut worst: Option<f64> = None;
    let content = file.get_page_content(page);
    let Ok((resources, more)) = file.get_page_resources(page) else { return Vec::new() };
    let mut all: Vec<&Dictionary> = resources.into_iter().collect();
    all.extend(more.iter().filter_map(|id| file.get_dictionary(*id).ok()));
    walk(file, &content, &all, [1.0, 0.0, 0.0, 1.0, 0.0, 0.0], 0, &mut worst);
    let few = worst.filter(|ppi| *ppi < LEAST_PPI);
    few.map(|ppi| format!("a picture has {ppi:.0} pixels an inch; {LEAST_PPI:.0} are needed.")).into_iter().collect()
}

type Matrix = [f64; 6];

fn times(a: Matrix, b: Matrix) -> Matrix {
    [
        a[0] * b[0] + a[1] * b[2],
        a[0] * b[1] + a[1] * b[3],
        a[2] * b[0] + a[3] * b[2],
        a[2] * b[1] + a[3] * b[3],
        a[4] * b[0] + a[5] * b[2] + b[4],
        a[4] * b[1] + a[5] * b[3] + b[5],
    ]
}

fn numbers(operands: &[Object]) -> Option<Matrix> {
    let all: Vec<f64> = operands.iter().filter_map(|operand| operand.as_float().ok()).map(f64::from).collect();
    Matrix::try_from(all).ok()
}

/// Follows a content stream to the pictures it shows, through forms to a depth.
fn walk(
    file: &Document,
    content: &[u8],
    resources: &[&Dictionary],
    from: Matrix,
    depth: usize,
    worst: &mut Option<f64>,
) {
    let Ok(content) = Content::decode(content) else { return };
    let mut now = from;
    let mut held = Vec::new();
    for operation in content.operations {
        match operation.operator.as_str() {
            "q" => held.push(now),
            "Q" => now = held.pop().unwrap_or(from),
            "cm" => now = numbers(&operation.operands).map_or(now, |matrix| times(matrix, now)),
            "Do" => {
                let Some(name) = operation.operands.first().and_then(|name| name.as_name().ok()) else { continue };
                let Some(stream) = x_object(file, resources, name) else { continue };
                let kind = stream.dict.get(b"Subtype").ok().and_then(|kind| kind.as_name().ok()).unwrap_or_default();
                if kind == b"Image" {
                    let side = |key: &[u8]| stream.dict.get(key).ok().and_then(|side| side.as_i64().ok());
                    let (Some(w), Some(h)) = (side(b"Width"), side(b"Height")) else { continue };
                    let across = (now[0].hypot(now[1]) / 72.0).max(1e-6);
                    let down = (now[2].hypot(now[3]) / 72.0).max(1e-6);
                    // What is tiny on the page, as a shade, is not a picture.
                    if across * down > 0.04 {
                        let ppi = (w as f64 / across).min(h as f64 / down);
                        *worst = Some(worst.map_or(ppi, |worst| worst.min(ppi)));
                    }
                } else if kind == b"Form" && depth < 12 {
                    let own = stream.dict.get(b"Matrix").ok().and_then(|matrix| numbers(matrix.as_array().ok()?));
                    let inner = own.map_or(now, |own| times(own, now));
                    let inside = stream.dict.get(b"Resources").ok().and_then(|object| file.dereference(object).ok());
                    let inside = inside.and_then(|(_, object)| object.as_dict().ok());
                    let Ok(content) = stream.decompressed_content() else { continue };
                    let resources: Vec<&Dictionary> = inside.into_iter().chain(resources.iter().copied()).collect();
                    walk(file, &content, &resources, inner, depth + 1, worst);
                }
            }
            _ => {}
        }
    }
}

fn x_object<'f>(file: &'f Document, resources: &[&'f Dictionary], name: &[u8]) -> Option<&'f lopdf::Stream> {
    resources.iter().find_map(|resources| {
        let all = file.dereference(resources.get(b"XObject").ok()?).ok()?.1.as_dict().ok()?;
        file.dereference(all.get(name).ok()?).ok()?.1.as_stream().ok()
    })
}

/// Typefaces that are named but not in the file.
fn loose_fonts(file: &Document) -> Vec<String> {
    let mut loose = Vec::new();
    for object in file.objects.values() {
        let Ok(dictionary) = object.as_dict() else { continue };
        if dictionary.get(b"Type").ok().and_then(|kind| kind.as_name().ok()) != Some(b"FontDescriptor") {
            continue;
        }
        let held = [&b"FontFile"[..], b"FontFile2", b"FontFile3"].iter().any(|key| dictionary.has(key));
        if !held {
            let name = dictionary.get(b"FontName").ok().and_then(|name| name.as_name().ok()).unwrap_or_default();
            loose.push(String::from_utf8_lossy(name).into_owned());
        }
    }
    loose.sort();
    loose.dedup();
    loose
}

/// The smallest order a shop takes, for starting with.
pub const FIRST_COUNT: u32 = 100;

/// The size in the shop's words.
#[must_use]
pub fn size_label(size: Size) -> String {
    let mm = |length: Length| format!("{:.0}", length.to_mm());
    format!("{} \u{d7} {} mm", mm(size.w), mm(size.h))
}

#[cfg(test)]
mod tests {
    use super::*;

    fn card() -> Expected {
        Expected { size: Size::new(Length::mm(85.0), Length::mm(55.0)), sides: 2 }
    }

    #[test]
    fn what_is_no_pdf_is_sent_back() {
        assert_eq!(LowMeadowPress.look_at(b"hello", card()), ["The file cannot be opened as a PDF."]);
    }

    #[test]
    fn more_cost_more_but_less_each_and_orders_move_on() {
        let quote = |count, paper: &str| LowMeadowPress.quote(&OrderWish { paper: paper.into(), count }, card());
        let (few, many) = (quote(100, "card-350").unwrap(), quote(1_000, "card-350").unwrap());
        assert!(many > few && many < few * 10);
        assert!(quote(100, "cotton-400") > quote(100, "card-350"));
        assert_eq!((quote(5, "card-350"), quote(100, "vellum")), (None, None));
        let states: Vec<OrderState> = [0, 9_000, 30_000, 60_000].map(|at| LowMeadowPress.state_after(at)).into();
        assert_eq!(states, [OrderState::Accepted, OrderState::Printing, OrderState::Cutting, OrderState::Ready]);
    }
}
