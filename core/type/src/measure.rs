//! How large text becomes at a width, without a glyph of it being placed: what arranging asks thousands of times.

use std::sync::{Arc, Mutex, PoisonError};

use parley::Layout;
use vatman_document::{RichText, TextFit, TypeLook, VAlign};
use vatman_units::Length;

use crate::setting::{Style, Typesetter, widest};
use crate::shown::Shown;

/// Lines of text at a width, in sizes of its type.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct LinesTaken {
    /// The longest line, what stands before it and room for hyphens included.
    pub width: f64,
    /// All lines together.
    pub height: f64,
    /// No word is wider than the width.
    pub inside: bool,
}

/// Text shaped once; only its lines are broken again.
pub(crate) struct Shaped {
    layout: Layout<Style>,
    /// Room beside the lines, for marks of lists and for hyphens.
    beside: f64,
    /// Room between paragraphs.
    gaps: f64,
}

/// What shaping depends on; the size is left out.
pub(crate) type ShapedKey = (RichText, TypeLook);

/// Shaped texts that are kept.
pub(crate) const SHAPED: usize = 400;

/// The size text is measured at, in CSS pixels.
const AT: f64 = 16.0;

impl Typesetter {
    /// How text is broken at a width given in sizes of its type; every size of it breaks alike. It is what [`Self::set`] makes of a look that
    /// shrinks to no less than its size, without curve or arrangement, in a box of that width and any height.
    #[must_use]
    pub fn measured(&self, text: &RichText, look: &TypeLook, width: f64) -> LinesTaken {
        let key = (text.clone(), plain(look));
        let shaped = self.shaped(key);
        let mut shaped = shaped.lock().unwrap_or_else(PoisonError::into_inner);
        let room = (width.max(0.0) * AT - shaped.beside).max(0.0);
        shaped.layout.break_all_lines(Some(room as f32));
        let widest = widest(&shaped.layout);
        LinesTaken {
            width: (widest + shaped.beside) / AT,
            height: (f64::from(shaped.layout.height()) + shaped.gaps) / AT,
            // Single precision sums differ in the last digits.
            inside: widest <= room + 0.01,
        }
    }

    fn shaped(&self, key: ShapedKey) -> Arc<Mutex<Shaped>> {
        if let Some(found) = self.shapes.get(&key) {
            return found;
        }
        let library = self.library();
        let (text, look) = &key;
        let shown = Shown::new(text, look);
        let mut layout = self.shape(&shown, look, AT);
        let marks = self.marks(&shown, look, AT);
        let indent = marks.iter().map(|(_, width)| *width).fold(0.0, f64::max);
        let beside = indent + self.hang(&mut layout, &shown);
        let gaps = shown.paragraphs.len().saturating_sub(1) as f64 * look.paragraph_gap.get() * AT;
        let shaped = Arc::new(Mutex::new(Shaped { layout, beside, gaps }));
        // What was shaped in families that have changed meanwhile is not kept.
        if Arc::ptr_eq(&library, &self.library()) {
            self.shapes.insert(key, Arc::clone(&shaped));
        }
        shaped
    }
}

/// A look without what says nothing about where lines break.
fn plain(look: &TypeLook) -> TypeLook {
    TypeLook {
        size: Length::css_px(AT),
        fit: TextFit::Grow,
        valign: VAlign::Top,
        even: false,
        lock_up: None,
        curve: None,
        ..look.clone()
    }
}
