//! How much an SVG file by a stranger may hold: told before it is read, as a small file can unfold into a huge one.
//!
//! Entities are unfolded by name, `use`, clips, masks, patterns and markers by reference; both are counted without being carried out. What
//! a filter costs to draw is estimated from its steps and the pixels it is drawn on.

use std::borrow::Cow;
use std::collections::HashMap;
use std::io::Read as _;
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, AtomicU64, Ordering};

use usvg::filter::Kind;
use usvg::roxmltree::{Document, Error, Node, NodeId, ParsingOptions};
use usvg::{ImageHrefResolver, Options};
use vatman_photo::{Limits, PictureError, inspect};

use crate::bring::svg_import::{SVG_BYTES, SvgError};

/// What an SVG file has too much of.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum SvgLimit {
    /// Text, once its entities stand for what they mean.
    Unfolded,
    /// Elements, once each that is used again stands where it is used.
    Elements,
    /// Elements one within another.
    Depth,
    /// Letters.
    Letters,
    /// Pixels of the pictures inside.
    Pictures,
    /// Work of its filters.
    Filters,
}

impl std::fmt::Display for SvgLimit {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        match self {
            Self::Unfolded => write!(f, "Its abbreviations (entities) may unfold to {} MB", UNFOLDED >> 20),
            Self::Elements => write!(f, "It may hold {ELEMENTS} elements, those used again counted each time"),
            Self::Depth => write!(f, "Its elements may lie {DEPTH} deep in one another"),
            Self::Letters => write!(f, "It may hold {LETTERS} letters"),
            Self::Pictures => write!(f, "The pictures inside may have {} million pixels together", PIXELS / 1_000_000),
            Self::Filters => write!(f, "Its filters take longer to draw than a drawing may"),
        }
    }
}

/// Most bytes of text with its entities unfolded.
const UNFOLDED: u64 = 16 << 20;
/// Most elements with what is used again counted each time.
const ELEMENTS: u64 = 100_000;
/// Most elements in one another.
const DEPTH: u32 = 200;
/// Most letters.
const LETTERS: u64 = 50_000;
/// Most pixels of all pictures inside.
const PIXELS: u64 = 40_000_000;
/// Most steps of work on single pixels for one picture that filters are drawn into: about a second.
pub(crate) const FILTER_WORK: f64 = 1.5e9;

/// The bytes of a file, unpacked where it is a packed SVG (gzip).
///
/// # Errors
/// [`SvgError`] where it is damaged or too large.
pub(crate) fn unpacked(bytes: &[u8]) -> Result<Cow<'_, [u8]>, SvgError> {
    if bytes.len() > SVG_BYTES {
        return Err(SvgError::TooLarge);
    }
    if !bytes.starts_with(&[0x1f, 0x8b]) {
        return Ok(Cow::Borrowed(bytes));
    }
    let mut out = Vec::new();
    let reader = flate2::read::GzDecoder::new(bytes);
    reader
        .take(SVG_BYTES as u64 + 1)
        .read_to_end(&mut out)
        .map_err(|_| SvgError::Unreadable("it is packed, and damaged".into()))?;
    if out.len() > SVG_BYTES { Err(SvgError::TooLarge) } else { Ok(Cow::Owned(out)) }
}

/// Parses a file whose text keeps within the limits.
///
/// # Errors
/// [`SvgError`] with the limit it goes beyond, or why it cannot be read.
pub(crate) fn parsed(text: &str) -> Result<Document<'_>, SvgError> {
    let beyond = |limit| Err(SvgError::Beyond(limit));
    if unfolded(text) > UNFOLDED {
        return beyond(SvgLimit::Unfolded);
    }
    let nodes_limit = u32::try_from(ELEMENTS * 4).unwrap_or(u32::MAX);
    let options = ParsingOptions { allow_dtd: true, nodes_limit, ..ParsingOptions::default() };
    let document = Document::parse_with_options(text, options).map_err(|error| match error {
        Error::NodesLimitReached => SvgError::Beyond(SvgLimit::Elements),
        Error::EntityReferenceLoop(_) => SvgError::Beyond(SvgLimit::Unfolded),
        error => SvgError::Unreadable(error.to_string()),
    })?;
    let mut counting = Counting::of(&document);
    let whole = counting.of_node(document.root_element(), 0).ok_or(SvgError::Beyond(SvgLimit::Depth))?;
    if whole.height > DEPTH {
        return beyond(SvgLimit::Depth);
    }
    if whole.elements > ELEMENTS {
        return beyond(SvgLimit::Elements);
    }
    if whole.letters > LETTERS {
        return beyond(SvgLimit::Letters);
    }
    Ok(document)
}

/// Bytes of a text with its entities unfolded; more than it will be where some stand within others that nobody uses.
fn unfolded(text: &str) -> u64 {
    if !text.contains("<!ENTITY") {
        return text.len() as u64;
    }
    let mut meant: HashMap<&str, &str> = HashMap::new();
    for told in text.split("<!ENTITY").skip(1) {
        let told = told.trim_start();
        let Some((name, rest)) = told.split_once(char::is_whitespace) else { continue };
        let rest = rest.trim_start();
        let Some(quote) = rest.chars().next().filter(|c| matches!(c, '"' | '\'')) else { continue };
        if let Some((value, _)) = rest[1..].split_once(quote) {
            // The first of several holds (XML 1.0, 4.2).
            meant.entry(name).or_insert(value);
        }
    }
    let mut known = HashMap::new();
    length_of(text, &meant, &mut known, 0)
}

fn length_of<'t>(
    text: &'t str,
    meant: &HashMap<&'t str, &'t str>,
    known: &mut HashMap<&'t str, u64>,
    depth: u32,
) -> u64 {
    let mut length = text.len() as u64;
    for (at, _) in text.match_indices('&') {
        let rest = &text[at + 1..];
        let Some(end) = rest.as_bytes().iter().take(256).position(|byte| *byte == b';') else { continue };
        let name = &rest[..end];
        let Some(value) = meant.get(name) else { continue };
        let own = match known.get(name) {
            Some(own) => *own,
            // The reader goes ten deep and refuses loops.
            None if depth > 12 => u64::MAX / 4,
            None => {
                let own = length_of(value, meant, known, depth + 1);
                known.insert(name, own);
                own
            }
        };
        length = length.saturating_add(own);
    }
    length
}

/// What an element comes to with all it holds and refers to.
#[derive(Debug, Clone, Copy, Default)]
struct Weight {
    elements: u64,
    letters: u64,
    height: u32,
}

struct Counting<'a, 'input> {
    named: HashMap<&'a str, Node<'a, 'input>>,
    known: HashMap<NodeId, Weight>,
    within: Vec<NodeId>,
}

impl<'a, 'input> Counting<'a, 'input> {
    fn of(document: &'a Document<'input>) -> Self {
        let named = document.descendants().filter_map(|node| Some((node.attribute("id")?, node))).collect();
        Self { named, known: HashMap::new(), within: Vec::new() }
    }

    /// Nothing where it goes deeper than is allowed.
    fn of_node(&mut self, node: Node<'a, 'input>, depth: u32) -> Option<Weight> {
        if depth > DEPTH {
            return None;
        }
        if let Some(known) = self.known.get(&node.id()) {
            return Some(*known);
        }
        if self.within.contains(&node.id()) {
            // What refers to itself is not drawn.
            return Some(Weight::default());
        }
        self.within.push(node.id());
        let mut whole = Weight { elements: 1, letters: 0, height: 0 };
        let text = matches!(node.tag_name().name(), "text" | "tspan" | "textPath");
        let mut held: Vec<Node<'a, 'input>> = node.children().filter(Node::is_element).collect();
        for attribute in node.attributes() {
            held.extend(references(attribute.name(), attribute.value()).filter_map(|id| self.named.get(id)));
        }
        for inner in held {
            let Weight { elements, letters, height } = self.of_node(inner, depth + 1)?;
            whole.elements = whole.elements.saturating_add(elements);
            whole.letters = whole.letters.saturating_add(letters);
            whole.height = whole.height.max(height + 1);
        }
        if text {
            let own = node.children().filter(Node::is_text).filter_map(|node| node.text());
            whole.letters = whole.letters.saturating_add(own.map(|text| text.len() as u64).sum());
        }
        self.within.pop();
        self.known.insert(node.id(), whole);
        Some(whole)
    }
}

/// The identities an attribute refers to.
fn references<'a>(name: &str, value: &'a str) -> impl Iterator<Item = &'a str> {
    let whole = (name == "href").then(|| value.trim().strip_prefix('#')).flatten();
    let inside = value.split("url(").skip(1).filter_map(|rest| {
        let id = rest.trim_start().trim_start_matches(['"', '\'']).strip_prefix('#')?;
        id.split([')', '"', '\'']).next()
    });
    whole.into_iter().chain(inside)
}

/// The pictures inside a file, counted as they are read.
#[derive(Default)]
pub(crate) struct PicturesInside {
    pixels: AtomicU64,
    beyond: AtomicBool,
}

impl PicturesInside {
    /// Reads pictures inside the file, within the limits; neither files nor addresses are ever followed.
    pub(crate) fn resolver(&self) -> ImageHrefResolver<'_> {
        let usual = ImageHrefResolver::default_data_resolver();
        let within = move |kind: &str, data: Arc<Vec<u8>>, options: &Options<'_>| {
            let within = if image_format(&data) { self.takes(&data) } else { self.takes_drawing(&data) };
            if within { usual(kind, data, options) } else { None }
        };
        ImageHrefResolver { resolve_data: Box::new(within), resolve_string: Box::new(|_, _| None) }
    }

    /// Whether there were too many pixels; pictures beyond that were not read.
    pub(crate) fn is_beyond(&self) -> bool {
        self.beyond.load(Ordering::Relaxed)
    }

    fn takes(&self, data: &[u8]) -> bool {
        let pixels = match inspect(data, Limits { pixels: PIXELS, ..Limits::default() }) {
            Ok(info) => u64::from(info.width) * u64::from(info.height),
            Err(PictureError::TooLarge { .. }) => PIXELS + 1,
            Err(_) => return false,
        };
        let within = self.pixels.fetch_add(pixels, Ordering::Relaxed).saturating_add(pixels) <= PIXELS;
        self.beyond.fetch_or(!within, Ordering::Relaxed);
        within
    }

    /// A drawing inside the drawing keeps within the same limits.
    fn takes_drawing(&self, data: &[u8]) -> bool {
        let Ok(text) = std::str::from_utf8(data) else { return false };
        let within = parsed(text);
        self.beyond.fetch_or(matches!(within, Err(SvgError::Beyond(_))), Ordering::Relaxed);
        within.is_ok()
    }
}

/// Whether a file begins as pictures of pixels do.
fn image_format(data: &[u8]) -> bool {
    !matches!(inspect(data, Limits::default()), Err(PictureError::Unknown))
}

/// Steps of work on single pixels that drawing a group takes, on so many pixels, each so many to a unit of the file.
pub(crate) fn filter_work(group: &usvg::Group, pixels: f64, scale: f64) -> f64 {
    let own: f64 =
        group.filters().iter().flat_map(|filter| filter.primitives()).map(|step| per_pixel(step.kind(), scale)).sum();
    let inside = group.children().iter().map(|node| match node {
        usvg::Node::Group(inner) => filter_work(inner, pixels, scale),
        usvg::Node::Path(_) | usvg::Node::Image(_) | usvg::Node::Text(_) => 0.0,
    });
    own * pixels + inside.sum::<f64>()
}

/// Steps of work a filter primitive takes for a pixel.
fn per_pixel(kind: &Kind, scale: f64) -> f64 {
    match kind {
        // Every pixel looks at all within its reach.
        Kind::Morphology(step) => {
            let reach = |radius: f32| 2.0 * f64::from(radius) * scale + 1.0;
            reach(step.radius_x().get()) * reach(step.radius_y().get())
        }
        Kind::ConvolveMatrix(step) => 4.0 * f64::from(step.matrix().columns()) * f64::from(step.matrix().rows()),
        Kind::Turbulence(step) => 120.0 * f64::from(step.num_octaves().max(1)),
        Kind::DiffuseLighting(_) | Kind::SpecularLighting(_) | Kind::GaussianBlur(_) | Kind::DropShadow(_) => 60.0,
        _ => 15.0,
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn svg(inside: &str) -> String {
        format!("<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 100 100'>{inside}</svg>")
    }

    fn limit(text: &str) -> Option<SvgLimit> {
        match parsed(text) {
            Ok(_) => None,
            Err(SvgError::Beyond(limit)) => Some(limit),
            Err(other) => panic!("{other}"),
        }
    }

    #[test]
    fn entities_are_counted_before_they_unfold() {
        let long = "A".repeat(50_000);
        let quadratic = format!(
            "<!DOCTYPE svg [<!ENTITY a '{long}'>]><svg xmlns='http://www.w3.org/2000/svg'><desc>{}</desc></svg>",
            "&a;".repeat(20_000)
        );
        assert_eq!(limit(&quadratic), Some(SvgLimit::Unfolded));
        let mut levels = String::from("<!DOCTYPE svg [<!ENTITY e0 '<g/>'>");
        for level in 1..9 {
            levels += &format!("<!ENTITY e{level} '{}'>", format!("&e{};", level - 1).repeat(12));
        }
        levels += "]><svg xmlns='http://www.w3.org/2000/svg'>&e8;</svg>";
        assert_eq!(limit(&levels), Some(SvgLimit::Unfolded));
        let looped =
            "<!DOCTYPE svg [<!ENTITY a '&b;'><!ENTITY b '&a;'>]><svg xmlns='http://www.w3.org/2000/svg'>&a;</svg>";
        assert_eq!(limit(looped), Some(SvgLimit::Unfolded));
        let usual = "<!DOCTYPE svg [<!ENTITY ink '#23201d'>]><svg xmlns='http://www.w3.org/2000/svg'><rect fill='&ink;'/></svg>";
        assert_eq!(limit(usual), None);
        assert_eq!(unfolded(usual), usual.len() as u64 + "#23201d".len() as u64);
    }

    #[test]
    fn what_is_used_again_counts_each_time() {
        let mut doubled = String::from("<g id='u0'><rect/></g>");
        for level in 1..20 {
            doubled += &format!("<g id='u{level}'><use href='#u{0}'/><use href='#u{0}'/></g>", level - 1);
        }
        assert_eq!(limit(&svg(&doubled)), Some(SvgLimit::Elements));
        let masks: String =
            (0..400).map(|at| format!("<clipPath id='c{at}' clip-path='url(#c{})'/>", at + 1)).collect();
        assert_eq!(limit(&svg(&format!("{masks}<g clip-path=\"url('#c0')\"/>"))), Some(SvgLimit::Depth));
        let deep = format!("{}{}", "<g>".repeat(5_000), "</g>".repeat(5_000));
        assert_eq!(limit(&svg(&deep)), Some(SvgLimit::Depth));
        assert_eq!(limit(&svg("<g id='a'><use href='#a'/></g>")), None, "what refers to itself is not drawn");
        let many = "<use href='#leaf'/>".repeat(20_000);
        assert_eq!(limit(&svg(&format!("<path id='leaf' d='M0 0h1'/>{many}"))), None);
    }

    #[test]
    fn letters_are_counted() {
        let line = format!("<text>{}</text>", "clay ".repeat(1_000));
        assert_eq!(limit(&svg(&line.repeat(9))), None);
        assert_eq!(limit(&svg(&line.repeat(11))), Some(SvgLimit::Letters));
    }
}
