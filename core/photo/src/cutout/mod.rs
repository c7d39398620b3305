//! Cutting out: which part of a picture is its subject, found without being told, and refined by strokes that say what to keep and what
//! to remove. The result is a mask; no pixel of the picture is changed.
//!
//! The subject is found in a small copy (`subject.rs`): a plain ground and how it is uneven (`spread.rs`) are fitted to the border
//! (`ground.rs`), in front of any other a subject is what is fenced in by steep steps (`passes.rs`), is even where the ground is busy
//! (`room.rs`) and is no shadow (`shade.rs`), then pixels are divided at the least cost (`flow.rs`) by mixtures of what they look like
//! (`mixture.rs`). Near its edge they are divided once more in a larger one (`edge.rs`), in which the edge is worked out (`matting.rs`).

mod border;
mod edge;
mod flow;
mod ground;
mod matting;
mod mixture;
mod passes;
mod room;
mod shade;
mod shown;
mod spread;
mod subject;
#[cfg(test)]
mod tests;
mod work;

use vatman_document::{Area, BrushStroke, Joining, Mask, MaskArea};
use vatman_units::Ratio;

use crate::Straight;
use crate::develop::strokes_over;
pub(crate) use shown::cut;
use subject::{Hint, Subject, find};
use work::Work;

/// Pixels along the longer side of the copy the subject is found in.
const FOUND_IN: u32 = 380;
/// Pixels along the longer side of the copy its edge is found in.
const EDGED_IN: u32 = 480;
/// Pixels along the longer side of the largest mask.
const LARGEST: u32 = 1_400;

/// What a hand has said about a picture, in its own coordinates.
#[derive(Debug, Clone, Copy, Default)]
pub struct CutHints<'a> {
    /// Strokes over what belongs to the subject.
    pub keep: &'a [BrushStroke],
    /// Strokes over what does not.
    pub remove: &'a [BrushStroke],
}

/// How much of each pixel of a picture, made smaller, is subject.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Cover {
    /// Width in pixels.
    pub width: u32,
    /// Height in pixels.
    pub height: u32,
    /// 0 outside to 255 inside, row by row.
    pub data: Vec<u8>,
}

impl Cover {
    /// How much of the picture is inside, 0 to 1.
    #[must_use]
    pub fn share(&self) -> f64 {
        let all = self.data.iter().map(|value| f64::from(*value)).sum::<f64>();
        all / 255.0 / self.data.len().max(1) as f64
    }

    /// Whether any pixel is more inside than outside.
    #[must_use]
    pub fn is_seen(&self) -> bool {
        self.data.iter().any(|value| *value > 127)
    }

    /// As a grey picture.
    #[must_use]
    pub fn picture(&self) -> Straight {
        let data = self.data.iter().flat_map(|value| [*value, *value, *value, 255]).collect();
        Straight { width: self.width, height: self.height, data }
    }

    /// As a grey picture of another size.
    #[must_use]
    pub fn sized(&self, width: u32, height: u32) -> Straight {
        crate::resize::resize(&self.picture(), width, height)
    }

    /// What is left of a picture: a new one, with clear parts.
    #[must_use]
    pub fn cut(&self, picture: &Straight) -> Straight {
        cut(picture, Some(&std::sync::Arc::new(self.picture())), &vatman_document::CutOut::default())
    }
}

/// Finds the subject of a picture. `watch` is told how far that is, from 0 to 1, and says whether to go on; nothing where it said no. A
/// picture that came with clear parts is cut out already: what is seen of it is the subject.
#[must_use]
pub fn cut_out(picture: &Straight, hints: CutHints<'_>, watch: &dyn Fn(f32) -> bool) -> Option<Cover> {
    let fine = Work::of(picture, LARGEST);
    let clear = fine.opaque.iter().filter(|opaque| **opaque < 0.5).count();
    let shares = if clear * 50 > fine.count() && hints.keep.is_empty() && hints.remove.is_empty() {
        fine.opaque.clone()
    } else {
        let coarse = Work::of(picture, FOUND_IN);
        let said = |strokes: &[BrushStroke], work: &Work| painted(strokes, work);
        let (keep, remove) = (said(hints.keep, &coarse), said(hints.remove, &coarse));
        let hint = |(keep, remove): (&f32, &f32)| match (*keep > 0.5, *remove > 0.5) {
            (_, true) => Hint::Remove,
            (true, false) => Hint::Keep,
            (false, false) => Hint::Unknown,
        };
        let known: Vec<Hint> = keep.iter().zip(&remove).map(hint).collect();
        if !watch(0.05) {
            return None;
        }
        let subject = find(&coarse, &known, watch)?;
        let closer = Work::of(picture, EDGED_IN);
        let subject = Subject { inside: edge::sharpened(&closer, &coarse, &subject), ..subject };
        if !watch(0.85) {
            return None;
        }
        let mut shares = matting::matte(&fine, &closer, &subject);
        let (keep, remove) = (said(hints.keep, &fine), said(hints.remove, &fine));
        for (share, (keep, remove)) in shares.iter_mut().zip(keep.iter().zip(&remove)) {
            // What was said holds at the fine size, too.
            *share = (*share).max(*keep) * (1.0 - remove);
        }
        shares
    };
    if !watch(1.0) {
        return None;
    }
    let data = shares.iter().zip(&fine.opaque).map(|(share, opaque)| (share * opaque * 255.0 + 0.5) as u8).collect();
    Some(Cover { width: fine.width as u32, height: fine.height as u32, data })
}

fn painted(strokes: &[BrushStroke], work: &Work) -> Vec<f32> {
    if strokes.is_empty() {
        vec![0.0; work.count()]
    } else {
        painted_over(strokes, (work.width as u32, work.height as u32))
    }
}

/// How far strokes cover each pixel of a picture of a size.
fn painted_over(strokes: &[BrushStroke], size: (u32, u32)) -> Vec<f32> {
    let area = MaskArea { area: Area::Brush { strokes: strokes.to_vec() }, joins: Joining::Add };
    let mask = Mask { areas: vec![area], inverted: false, density: Ratio::ONE, feather: Ratio::ZERO };
    strokes_over(&mask, size)
}
