//! Pictures at hand: decoded and resampled once, kept within a budget.

use std::sync::Arc;

use kurbo::{Affine, BezPath};
use quick_cache::Weighter;
use quick_cache::sync::Cache;
use vatman_document::{AssetId, Focus, PictureSource, Treatment};
use vatman_units::Ratio;

use crate::cutout::cut;
use crate::develop::{Plane, Window, develop, develop_layer};
use crate::leaving::{leaving, written};
use crate::resize::{resize, resize_part};
use crate::saliency::salient_point;
use crate::trace::outline_of;
use crate::upright::set_upright;
use crate::{DecodeBudget, EncodeError, Limits, PictureInfo, Premultiplied, Straight, decode, inspect};

/// Where the bytes of pictures come from.
pub trait PictureBytes: Send + Sync {
    /// The original bytes; nothing where the picture is not there.
    fn bytes(&self, id: &AssetId) -> Option<Arc<[u8]>>;
}

/// A part of a picture at a size.
type Part = (AssetId, [u64; 4], (u32, u32));
/// A picture as it is shown, at a size.
type Print = (Arc<PictureSource>, (u32, u32));

/// Counts the bytes of pixels.
#[derive(Clone)]
struct ByBytes;

impl Weighter<AssetId, Arc<Straight>> for ByBytes {
    fn weight(&self, _: &AssetId, pixels: &Arc<Straight>) -> u64 {
        pixels.data().len() as u64
    }
}

impl Weighter<Print, Arc<Straight>> for ByBytes {
    fn weight(&self, _: &Print, pixels: &Arc<Straight>) -> u64 {
        pixels.data().len() as u64
    }
}

impl Weighter<Part, Arc<Premultiplied>> for ByBytes {
    fn weight(&self, _: &Part, pixels: &Arc<Premultiplied>) -> u64 {
        pixels.data().len() as u64
    }
}

/// Pictures by identity. Decoding and resampling happen once while the result fits the budget, also where several ask at once.
pub struct Pictures {
    source: Box<dyn PictureBytes>,
    decoded: Cache<AssetId, Arc<Straight>, ByBytes>,
    parts: Cache<Part, Arc<Premultiplied>, ByBytes>,
    prints: Cache<Print, Arc<Straight>, ByBytes>,
    infos: Cache<AssetId, PictureInfo>,
    focuses: Cache<AssetId, Option<Focus>>,
    contours: Cache<Arc<PictureSource>, Option<Arc<BezPath>>>,
    unpacking: DecodeBudget,
}

impl Pictures {
    /// Bytes for unpacking pictures at the same time: one of the largest that is taken.
    const UNPACKING: u64 = 720 << 20;

    /// Pictures of a source; `budget` bytes each for decoded and for resampled pixels.
    #[must_use]
    pub fn new(source: Box<dyn PictureBytes>, budget: usize) -> Self {
        Self {
            source,
            decoded: Cache::with_weighter(256, budget as u64, ByBytes),
            parts: Cache::with_weighter(2_048, budget as u64, ByBytes),
            prints: Cache::with_weighter(256, budget as u64, ByBytes),
            infos: Cache::new(8_192),
            focuses: Cache::new(8_192),
            contours: Cache::new(256),
            unpacking: DecodeBudget::new(Self::UNPACKING),
        }
    }

    /// The original bytes.
    #[must_use]
    pub fn bytes(&self, id: &AssetId) -> Option<Arc<[u8]>> {
        self.source.bytes(id)
    }

    /// Size and format, where it can be read.
    #[must_use]
    pub fn info(&self, id: &AssetId) -> Option<PictureInfo> {
        let look = || inspect(&self.source.bytes(id).ok_or(())?, Limits::default()).map_err(|_| ());
        self.infos.get_or_insert_with(id, look).ok()
    }

    /// Upright pixels in sRGB.
    #[must_use]
    pub fn pixels(&self, id: &AssetId) -> Option<Arc<Straight>> {
        let unpack = || {
            let bytes = self.source.bytes(id).ok_or(())?;
            self.unpack(&bytes).map(Arc::new).map_err(|_| ())
        };
        self.decoded.get_or_insert_with(id, unpack).ok()
    }

    /// Unpacks a picture file within the memory everybody shares for that.
    ///
    /// # Errors
    /// [`crate::PictureError`] where it is no picture, too large or damaged.
    pub fn unpack(&self, bytes: &[u8]) -> Result<Straight, crate::PictureError> {
        let info = inspect(bytes, Limits::default())?;
        let _share = self.unpacking.take(info.memory());
        decode(bytes, Limits::default())
    }

    /// A part of a picture (left, top, width and height in its pixels) resampled to `size` pixels.
    #[must_use]
    pub fn part(&self, id: &AssetId, part: [f64; 4], size: (u32, u32)) -> Option<Arc<Premultiplied>> {
        let key = (id.clone(), part.map(f64::to_bits), size);
        let resample = || {
            let whole = self.pixels(id).ok_or(())?;
            Ok::<_, ()>(Arc::new(resize_part(&whole, part, size.0, size.1).premultiplied()))
        };
        self.parts.get_or_insert_with(&key, resample).ok()
    }

    /// The point of a picture that draws the eye; nothing where none does or it is not there.
    #[must_use]
    pub fn focus(&self, id: &AssetId) -> Option<Focus> {
        /// Pixels along the longer side that are looked at.
        const LOOKED: f64 = 96.0;
        let look = || {
            let info = self.info(id).ok_or(())?;
            let (w, h) = (f64::from(info.width), f64::from(info.height));
            let scale = LOOKED / w.max(h);
            let size = (((w * scale).round() as u32).max(1), ((h * scale).round() as u32).max(1));
            let small = self.part(id, [0.0, 0.0, w, h], size).ok_or(())?;
            let found = salient_point(&small);
            Ok::<_, ()>(found.map(|(x, y)| Focus { x: Ratio::new(x), y: Ratio::new(y) }))
        };
        self.focuses.get_or_insert_with(id, look).ok().flatten()
    }

    /// The size in pixels of a picture as it is shown; nothing where it is not there.
    #[must_use]
    pub fn size(&self, source: &PictureSource) -> Option<(u32, u32)> {
        let info = self.info(&source.asset)?;
        Some(source.size((info.width, info.height)))
    }

    /// The outline of what is seen of a picture, in fractions of its width and height; nothing where all of it is, or it is not there.
    #[must_use]
    pub fn contour(&self, source: &Arc<PictureSource>) -> Option<Arc<BezPath>> {
        /// Pixels along the longer side in which it is looked for.
        const LOOKED: f64 = 900.0;
        let info = self.info(&source.asset)?;
        if !info.alpha && !source.may_be_clear() {
            return None;
        }
        let look = || {
            let (w, h) = self.size(source).ok_or(())?;
            let by = (LOOKED / f64::from(w.max(h))).min(1.0);
            let scaled = |side: u32| ((f64::from(side) * by).round() as u32).max(1);
            let print = self.print(source, (scaled(w), scaled(h))).ok_or(())?;
            let seen = print.data().chunks_exact(4).map(|pixel| f32::from(pixel[3]) / 255.0).collect();
            let outline = outline_of(Plane::of(print.width() as usize, print.height() as usize, seen), 0.4);
            let unit = Affine::scale_non_uniform(1.0 / f64::from(print.width()), 1.0 / f64::from(print.height()));
            Ok::<_, ()>(Some(Arc::new(unit * outline)))
        };
        self.contours.get_or_insert_with(source, look).ok().flatten()
    }

    /// A whole picture as it is shown, at a size in pixels: treated at that size, from the original made smaller. Nothing where it is
    /// not there.
    #[must_use]
    pub fn print(&self, source: &Arc<PictureSource>, size: (u32, u32)) -> Option<Arc<Straight>> {
        if source.is_plain() {
            return self.proxy(&source.asset, size);
        }
        let make = || {
            if let Some(upright) = source.upright {
                let original = self.info(&source.asset).map(|info| (info.width, info.height)).ok_or(())?;
                // Treated as it came, at the scale it is seen, and then set upright.
                let (own, scale) = (upright.size(original), |side: u32, own: u32, whole: u32| {
                    ((f64::from(whole) * f64::from(side) / f64::from(own)).round() as u32).max(1)
                });
                let by = if own.0 >= own.1 { (size.0, own.0) } else { (size.1, own.1) };
                let inner = (scale(by.0, by.1, original.0), scale(by.0, by.1, original.1));
                let flat = Arc::new(PictureSource { upright: None, ..source.as_ref().clone() });
                let print = self.print(&flat, inner).ok_or(())?;
                return Ok::<_, ()>(Arc::new(set_upright(&print, &upright, original, size)));
            }
            let mut small = self.proxy(&source.asset, size).ok_or(())?;
            if let Some(cut_out) = &source.cut_out {
                let mask = cut_out.mask.as_ref().and_then(|mask| self.pixels(mask));
                small = Arc::new(cut(&small, mask.as_ref(), cut_out));
            }
            Ok::<_, ()>(Arc::new(develop(&small, &source.treatments, &|id, longer| self.overlaid(id, longer))))
        };
        self.prints.get_or_insert_with(&(Arc::clone(source), size), make).ok()
    }

    /// What has been drawn, treated; places and lengths as `window` says.
    #[must_use]
    pub fn layer(&self, layer: &Straight, window: Window, treatments: &[Treatment]) -> Straight {
        develop_layer(layer, window, treatments, &|id, longer| self.overlaid(id, longer))
    }

    /// A picture that is laid over another, at most so many pixels along its longer side.
    fn overlaid(&self, id: &AssetId, longer: u32) -> Option<Arc<Straight>> {
        let info = self.info(id)?;
        let by = (f64::from(longer) / f64::from(info.width.max(info.height))).min(1.0);
        let scaled = |side: u32| ((f64::from(side) * by).round() as u32).max(1);
        self.proxy(id, (scaled(info.width), scaled(info.height)))
    }

    /// The original at a size, untreated.
    fn proxy(&self, id: &AssetId, size: (u32, u32)) -> Option<Arc<Straight>> {
        let info = self.info(id)?;
        if size == (info.width, info.height) {
            return self.pixels(id);
        }
        let make = || Ok::<_, ()>(Arc::new(resize(self.pixels(id).ok_or(())?.as_ref(), size.0, size.1)));
        self.prints.get_or_insert_with(&(Arc::new(PictureSource::plain(id.clone())), size), make).ok()
    }

    /// A picture as it is shown, at the size of the original.
    #[must_use]
    pub fn developed(&self, source: &Arc<PictureSource>) -> Option<Arc<Straight>> {
        if source.is_plain() {
            return self.pixels(&source.asset);
        }
        self.print(source, self.size(source)?)
    }

    /// A part of a picture as it is shown (left, top, width and height in its pixels, at full size) resampled to `size` pixels. What is
    /// done to it is done at a size not much larger than it is shown.
    #[must_use]
    pub fn shown(&self, source: &Arc<PictureSource>, part: [f64; 4], size: (u32, u32)) -> Option<Arc<Premultiplied>> {
        if source.is_plain() {
            return self.part(&source.asset, part, size);
        }
        let (w, h) = self.size(source)?;
        let (w, h) = (f64::from(w), f64::from(h));
        let needed = (f64::from(size.0) / part[2].max(1e-6)).max(f64::from(size.1) / part[3].max(1e-6));
        let by = print_scale(needed);
        let scaled = |side: f64| ((side * by).round() as u32).max(1);
        let print = self.print(source, (scaled(w), scaled(h)))?;
        let (across, down) = (f64::from(print.width()) / w, f64::from(print.height()) / h);
        let part = [part[0] * across, part[1] * down, part[2] * across, part[3] * down];
        Some(Arc::new(resize_part(&print, part, size.0, size.1).premultiplied()))
    }

    /// The bytes of a picture as it is shown that may leave in a file, and their media type; nothing where the picture is not there.
    ///
    /// # Errors
    /// [`EncodeError`] where it has to be written anew and cannot be.
    pub fn leaving(&self, source: &PictureSource) -> Result<Option<(Vec<u8>, &'static str)>, EncodeError> {
        let (Some(info), Some(bytes)) = (self.info(&source.asset), self.bytes(&source.asset)) else { return Ok(None) };
        if source.is_plain() {
            return leaving(&bytes, &info, || self.pixels(&source.asset));
        }
        let info = PictureInfo { alpha: info.alpha || source.may_be_clear(), ..info };
        written(&info, || self.developed(&Arc::new(source.clone())))
    }
}

/// The scale at which a picture is treated that is shown at `needed` times its pixels: the original, or that made smaller by a whole
/// number of steps of which two halve it, so that few sizes of one picture are ever made.
fn print_scale(needed: f64) -> f64 {
    let steps = (-needed.max(1e-4).log2() * 2.0).floor().max(0.0);
    (-steps / 2.0).exp2()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::{content_id, encode_png};
    use std::sync::atomic::{AtomicUsize, Ordering};

    struct Counting(Vec<u8>, Arc<AtomicUsize>);
    impl PictureBytes for Counting {
        fn bytes(&self, _: &AssetId) -> Option<Arc<[u8]>> {
            self.1.fetch_add(1, Ordering::SeqCst);
            Some(self.0.clone().into())
        }
    }

    #[test]
    fn a_picture_is_decoded_once_while_it_fits_the_budget() {
        let png = encode_png(&Straight::new(40, 40, vec![200; 6_400]).unwrap(), 72).unwrap();
        let id = content_id(&png);
        // Decoded it has 6,400 bytes; its parts have 400, 400, 1,600 and 400.
        for (budget, reads) in [(100_000, 1), (100, 4)] {
            let count = Arc::new(AtomicUsize::new(0));
            let pictures = Pictures::new(Box::new(Counting(png.clone(), Arc::clone(&count))), budget);
            for size in [(10, 10), (10, 10), (20, 20), (10, 10)] {
                assert!(pictures.part(&id, [0.0, 0.0, 40.0, 40.0], size).is_some());
            }
            assert_eq!(count.load(Ordering::SeqCst), reads, "with {budget} bytes");
        }
    }
}
