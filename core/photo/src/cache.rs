//! Pictures at hand: decoded and resampled once, kept within a budget.

use std::collections::HashMap;
use std::hash::Hash;
use std::sync::{Arc, Mutex, PoisonError};

use vatman_document::AssetId;

use crate::resize::resize_part;
use crate::{Limits, PictureInfo, Premultiplied, Straight, decode, inspect};

/// Where the original bytes of pictures are kept.
pub trait PictureBytes: Send + Sync {
    /// The bytes as they were brought, or nothing.
    fn bytes(&self, id: &AssetId) -> Option<Arc<[u8]>>;
}

/// What a resampled part of a picture depends on; the part in picture pixels by its bits.
type Part = (AssetId, [u64; 4], (u32, u32));

/// Pictures by identity. Decoding and resampling happen once while the result fits the budget.
pub struct Pictures {
    source: Box<dyn PictureBytes>,
    decoded: Mutex<Budget<AssetId, Straight>>,
    parts: Mutex<Budget<Part, Premultiplied>>,
    infos: Mutex<HashMap<AssetId, PictureInfo>>,
}

impl Pictures {
    /// Pictures of a source; `budget` bytes each for decoded and for resampled pixels.
    #[must_use]
    pub fn new(source: Box<dyn PictureBytes>, budget: usize) -> Self {
        Self {
            source,
            decoded: Mutex::new(Budget::new(budget)),
            parts: Mutex::new(Budget::new(budget)),
            infos: Mutex::new(HashMap::new()),
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
        if let Some(info) = self.infos.lock().unwrap_or_else(PoisonError::into_inner).get(id) {
            return Some(*info);
        }
        let info = inspect(&self.source.bytes(id)?, Limits::default()).ok()?;
        self.infos.lock().unwrap_or_else(PoisonError::into_inner).insert(id.clone(), info);
        Some(info)
    }

    /// Upright pixels.
    #[must_use]
    pub fn pixels(&self, id: &AssetId) -> Option<Arc<Straight>> {
        if let Some(found) = self.decoded.lock().unwrap_or_else(PoisonError::into_inner).get(id) {
            return Some(found);
        }
        let pixels = Arc::new(decode(&self.source.bytes(id)?, Limits::default()).ok()?);
        self.decoded.lock().unwrap_or_else(PoisonError::into_inner).put(id.clone(), &pixels, pixels.data().len());
        Some(pixels)
    }

    /// A part of a picture (left, top, width and height in its pixels) resampled to `size` pixels.
    #[must_use]
    pub fn part(&self, id: &AssetId, part: [f64; 4], size: (u32, u32)) -> Option<Arc<Premultiplied>> {
        let key = (id.clone(), part.map(f64::to_bits), size);
        if let Some(found) = self.parts.lock().unwrap_or_else(PoisonError::into_inner).get(&key) {
            return Some(found);
        }
        let whole = self.pixels(id)?;
        let pixels = Arc::new(resize_part(&whole, part, size.0, size.1).premultiplied());
        self.parts.lock().unwrap_or_else(PoisonError::into_inner).put(key, &pixels, pixels.data().len());
        Some(pixels)
    }
}

/// Values up to a number of bytes; the one unused for longest goes first.
struct Budget<K, V> {
    kept: HashMap<K, (Arc<V>, usize, u64)>,
    used: usize,
    limit: usize,
    clock: u64,
}

impl<K: Hash + Eq + Clone, V> Budget<K, V> {
    fn new(limit: usize) -> Self {
        Self { kept: HashMap::new(), used: 0, limit, clock: 0 }
    }

    fn get(&mut self, key: &K) -> Option<Arc<V>> {
        self.clock += 1;
        let (value, _, used_at) = self.kept.get_mut(key)?;
        *used_at = self.clock;
        Some(Arc::clone(value))
    }

    fn put(&mut self, key: K, value: &Arc<V>, bytes: usize) {
        if bytes > self.limit {
            return;
        }
        self.clock += 1;
        if let Some((_, old, _)) = self.kept.insert(key, (Arc::clone(value), bytes, self.clock)) {
            self.used -= old;
        }
        self.used += bytes;
        while self.used > self.limit {
            let Some(oldest) = self.kept.iter().min_by_key(|(_, (_, _, at))| *at).map(|(key, _)| key.clone()) else {
                return;
            };
            if let Some((_, bytes, _)) = self.kept.remove(&oldest) {
                self.used -= bytes;
            }
        }
    }
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
        for (budget, reads) in [(10_000, 1), (1_000, 2), (300, 4)] {
            let count = Arc::new(AtomicUsize::new(0));
            let pictures = Pictures::new(Box::new(Counting(png.clone(), Arc::clone(&count))), budget);
            for size in [(10, 10), (10, 10), (20, 20), (10, 10)] {
                assert!(pictures.part(&id, [0.0, 0.0, 40.0, 40.0], size).is_some());
            }
            assert_eq!(count.load(Ordering::SeqCst), reads, "with {budget} bytes");
        }
    }
}
