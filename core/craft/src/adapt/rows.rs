//! Rows of words below each other, with the small things between them, set anew at a width.

use kurbo::Rect;
use vatman_document::{Align, Content, Part, RichText, TextFit, TypeLook};
use vatman_type::{TextBox, Typesetter};
use vatman_units::Length;

use crate::adapt::flow::{Flow, LARGEST, Set};
use crate::adapt::matter::{Kind, Matter, Source};
use crate::compose::block::{HEADLINE, set_text};

impl Flow<'_, '_> {
    /// Sets rows at a width: whether every word fits, and their height with the gaps between them.
    pub(super) fn rows(&self, rows: &[usize], width: f64) -> (bool, f64) {
        let placed = self.block(rows, Rect::new(0.0, 0.0, width, 1e9));
        (placed.inside, placed.height)
    }

    pub(super) fn block(&self, rows: &[usize], within: Rect) -> Block {
        let matter = &self.source.matter;
        let whole = rows.iter().map(|at| matter[*at].seen).reduce(|a, b| a.union(b)).unwrap_or_default();
        let mut out = Block { rows: Vec::new(), height: 0.0, inside: true };
        let mut above: Option<usize> = None;
        for at in rows.iter().copied().filter(|at| !self.gone[*at]) {
            let one = &matter[at];
            let grown = if one.kind == Kind::Words { self.size_of(at) / one.size.max(1e-6) } else { self.target.scale };
            if let Some(above) = above {
                let gap = (one.seen.y0 - matter[above].seen.y1).max(-one.seen.height() * 0.2);
                let by = (grown * self.grown(above)).sqrt();
                out.height += (gap * by).min(within.height().min(1e6) * 0.25);
            }
            // Rows that stood in a part of the width stay in that part.
            let (from, to) = share_of_width(one.seen, whole, one.align());
            let (x0, x1) = (within.x0 + within.width() * from, within.x0 + within.width() * to);
            let top = within.y0 + out.height;
            let (rect, high) = if one.kind == Kind::Words {
                let size = self.size_of(at);
                let pad = one.pad * grown;
                let wide = (x1 - x0 - 2.0 * pad.x).max(1.0);
                let (inside, high) = self.set_words(at, size, wide);
                out.inside &= inside;
                (Rect::new(x0 + pad.x, top + pad.y, x0 + pad.x + wide, top + pad.y + high), high + 2.0 * pad.y)
            } else {
                let high = one.seen.height() * grown;
                let mut wide = one.seen.width() * grown;
                let lies = one.seen.width() > one.seen.height();
                let spans = one.kind == Kind::Line && lies && one.seen.width() > whole.width() * 0.8;
                if spans || wide > x1 - x0 {
                    wide = x1 - x0;
                }
                let left = match one.align_in(whole) {
                    Align::Centre => f64::midpoint(x0, x1) - wide / 2.0,
                    Align::End => x1 - wide,
                    _ => x0,
                };
                (Rect::new(left, top, left + wide, top + high), high)
            };
            out.height += high;
            out.rows.push((at, rect, grown));
            above = Some(at);
        }
        out
    }

    fn grown(&self, at: usize) -> f64 {
        let one = &self.source.matter[at];
        if one.kind == Kind::Words { self.size_of(at) / one.size.max(1e-6) } else { self.target.scale }
    }

    /// The size of the type of an item: its own at the scale of the sheets and of all words, and never less than can be read.
    fn size_of(&self, at: usize) -> f64 {
        let one = &self.source.matter[at];
        let wanted = one.size * self.target.scale * self.words;
        let low = if one.plain.part == Part::Headline { one.low.max(HEADLINE) } else { one.low };
        let least = self.target.least * low;
        wanted.max(least.min(one.size * self.target.scale * LARGEST * 3.0))
    }

    fn set_words(&self, at: usize, size: f64, width: f64) -> (bool, f64) {
        let one = &self.source.matter[at];
        let Some(text) = one.plain.content.words() else { return (true, 0.0) };
        let look = one.plain.look.type_look.clone().unwrap_or_default();
        let px = Length::css_px;
        let (inside, height) = if text.is_blank() {
            let prompt = match one.plain.content {
                Content::Words { prompt, .. } => prompt.as_str(),
                _ => "",
            };
            set_text(&RichText::plain(prompt), &look, px(size), px(width), self.typesetter)
        } else {
            set_text(text, &look, px(size), px(width), self.typesetter)
        };
        (inside, height.to_css_px())
    }
}

/// The box of the lines of an item as it comes to stand; of what is not words its place.
pub(super) fn ink_of(source: &Source<'_>, places: &[Option<Set>], at: usize, typesetter: &Typesetter) -> Option<Rect> {
    let (one, set) = (&source.matter[at], places[at]?);
    let text = one.plain.content.words().filter(|text| one.kind == Kind::Words && !text.is_blank());
    let (Some(text), Some(look)) = (text, one.plain.look.type_look.as_ref()) else { return Some(set.rect) };
    let free = TypeLook { fit: TextFit::Grow, ..look.clone() };
    let scale = one.size * set.scale / look.size.to_css_px().max(1e-6);
    let lines = typesetter.set_cached(text, &free, TextBox { width: set.rect.width(), height: 0.0, scale }, false);
    let wide = lines.lines.iter().map(|line| line.width).fold(0.0, f64::max).min(set.rect.width());
    let x0 = match look.align {
        Align::Centre => set.rect.center().x - wide / 2.0,
        Align::End => set.rect.x1 - wide,
        Align::Start | Align::Justified => set.rect.x0,
    };
    Some(Rect::new(x0, set.rect.y0, x0 + wide, set.rect.y1))
}

/// Rows as they come to stand.
pub(super) struct Block {
    /// Which, where, and how much larger.
    pub rows: Vec<(usize, Rect, f64)>,
    pub height: f64,
    /// No word is wider than its box.
    pub inside: bool,
}

impl Matter<'_> {
    /// How a small thing stands among the rows around it.
    fn align_in(&self, whole: Rect) -> Align {
        let (before, after) = (self.seen.x0 - whole.x0, whole.x1 - self.seen.x1);
        if (before - after).abs() < whole.width() * 0.06 {
            Align::Centre
        } else if after < before {
            Align::End
        } else {
            Align::Start
        }
    }
}

/// The part of the width in which a row stood: all of it, unless it clearly stood in less.
fn share_of_width(row: Rect, whole: Rect, align: Align) -> (f64, f64) {
    let width = whole.width().max(1.0);
    let (from, to) = ((row.x0 - whole.x0) / width, (row.x1 - whole.x0) / width);
    let near = 0.06;
    let all = match align {
        Align::Start | Align::Justified => from < near,
        Align::End => to > 1.0 - near,
        Align::Centre => (from - (1.0 - to)).abs() < near * 2.0,
    };
    if all { (0.0, 1.0) } else { (from.clamp(0.0, 0.7), to.clamp(0.3, 1.0)) }
}
