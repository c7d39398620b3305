//! A row of pixels while steps work on it: its channels lie apart, so that the processor works on many pixels side by side.

use pulp::NullaryFnOnce;

use super::film::Rgb;
use crate::wide::side_by_side;

/// What is done to every value.
pub(crate) trait EachValue {
    /// What becomes of a value; to be inlined always.
    fn value(&self, value: f32) -> f32;
}

/// What is done to every pixel.
pub(crate) trait EachPixel {
    /// What becomes of a pixel; to be inlined always.
    fn pixel(&self, pixel: Rgb) -> Rgb;
}

/// What is done to every pixel by values beside it.
pub(crate) trait EachBeside<const K: usize> {
    /// What becomes of a pixel; to be inlined always.
    fn pixel(&self, pixel: Rgb, beside: [f32; K]) -> Rgb;
}

/// [`EachValue`] to many values.
pub(crate) struct Values<'a, S>(pub &'a mut [f32], pub &'a S);

impl<S: EachValue> NullaryFnOnce for Values<'_, S> {
    type Output = ();

    #[inline(always)]
    fn call(self) {
        for value in self.0 {
            *value = self.1.value(*value);
        }
    }
}

struct Pixels<'a, S>([&'a mut [f32]; 3], &'a S);

impl<S: EachPixel> NullaryFnOnce for Pixels<'_, S> {
    type Output = ();

    #[inline(always)]
    fn call(self) {
        let Self([red, green, blue], does) = self;
        for ((red, green), blue) in red.iter_mut().zip(green).zip(blue) {
            [*red, *green, *blue] = does.pixel([*red, *green, *blue]);
        }
    }
}

struct Beside<'a, const K: usize, S>([&'a mut [f32]; 3], [&'a [f32]; K], &'a S);

impl<const K: usize, S: EachBeside<K>> NullaryFnOnce for Beside<'_, K, S> {
    type Output = ();

    #[inline(always)]
    fn call(self) {
        let Self([red, green, blue], beside, does) = self;
        let count = red.len();
        let (green, blue) = (&mut green[..count], &mut blue[..count]);
        // As many as there are pixels, so that no place need be checked.
        assert!(beside.iter().all(|own| own.len() == count), "as many values as pixels");
        for x in 0..count {
            let mut values = [0.0; K];
            for k in 0..K {
                values[k] = beside[k][x];
            }
            [red[x], green[x], blue[x]] = does.pixel([red[x], green[x], blue[x]], values);
        }
    }
}

/// How bytes become values: by themselves, or by what was done to each of their 256 values beforehand.
#[derive(Debug, Default)]
pub(crate) struct Opening(Option<Box<[[f32; 256]; 3]>>);

impl Opening {
    /// Does something to a row of all values, 0 to 1, each as a grey; a spare row comes with it.
    pub(crate) fn change(&mut self, does: impl FnOnce(&mut Row, &mut Row)) {
        let bytes: Vec<u8> = (0..=255).flat_map(|value| [value; 4]).collect();
        let mut row = Row::default();
        row.take_bytes(&bytes);
        does(&mut row, &mut Row::default());
        self.0 = Some(Box::new(row.slices().map(|channel| std::array::from_fn(|value| channel[value]))));
    }

    /// Takes opaque colours of bytes of red, green, blue and alpha.
    pub(crate) fn take(&self, bytes: &[u8], row: &mut Row) {
        let Some(tables) = &self.0 else { return row.take_bytes(bytes) };
        let pixels = bytes.as_chunks::<4>().0;
        row.resize(pixels.len());
        let [red, green, blue] = &mut row.channels;
        let [reds, greens, blues] = &**tables;
        for (((pixel, red), green), blue) in pixels.iter().zip(red).zip(green).zip(blue) {
            let [r, g, b, _] = *pixel;
            (*red, *green, *blue) = (reds[usize::from(r)], greens[usize::from(g)], blues[usize::from(b)]);
        }
    }
}

/// Pixels that are worked on side by side where they are taken in blocks.
pub(crate) const LANES: usize = 16;

/// A row of pixels: encoded red, green and blue, as [`Rgb`].
#[derive(Debug, Clone, Default)]
pub(crate) struct Row {
    /// Each as long as the row and what is needed to fill the last block.
    channels: [Vec<f32>; 3],
    width: usize,
}

impl Row {
    pub(crate) fn len(&self) -> usize {
        self.width
    }

    /// Makes it so many pixels wide; what is in them is not said.
    pub(crate) fn resize(&mut self, width: usize) {
        self.width = width;
        self.channels.iter_mut().for_each(|channel| channel.resize(width.next_multiple_of(LANES), 0.0));
    }

    /// Each channel in blocks; the last may hold more than the row.
    #[inline(always)]
    pub(crate) fn blocks(&mut self) -> [&mut [[f32; LANES]]; 3] {
        let [red, green, blue] = &mut self.channels;
        [red.as_chunks_mut().0, green.as_chunks_mut().0, blue.as_chunks_mut().0]
    }

    /// Takes opaque colours of bytes of red, green, blue and alpha.
    pub(crate) fn take_bytes(&mut self, bytes: &[u8]) {
        let pixels = bytes.as_chunks::<4>().0;
        self.resize(pixels.len());
        let [red, green, blue] = &mut self.channels;
        side_by_side(|| {
            for (((pixel, red), green), blue) in pixels.iter().zip(red).zip(green).zip(blue) {
                let pixel = u32::from_le_bytes(*pixel);
                let value = |shift: u32| ((pixel >> shift) & 0xff) as i32 as f32 * (1.0 / 255.0);
                (*red, *green, *blue) = (value(0), value(8), value(16));
            }
        });
    }

    /// Back to bytes; what lies beyond black and white is cut off. Opaque where there is no alpha.
    pub(crate) fn put_bytes(&self, alpha: Option<&[u8]>, out: &mut [u8]) {
        /// Added to a number, what is left of it is whole, and stands in the lowest bits.
        const WHOLE: f32 = 8_388_608.0;
        let out = out.as_chunks_mut::<4>().0;
        let [red, green, blue] = &self.channels;
        side_by_side(|| {
            let byte = |value: f32| ((value * 255.0).clamp(0.0, 255.0) + WHOLE).to_bits() & 0xff;
            for (((out, red), green), blue) in out.iter_mut().zip(red).zip(green).zip(blue) {
                *out = (byte(*red) | byte(*green) << 8 | byte(*blue) << 16 | 0xff00_0000).to_le_bytes();
            }
        });
        if let Some(alpha) = alpha {
            out.iter_mut().zip(alpha).for_each(|(out, alpha)| out[3] = *alpha);
        }
    }

    pub(crate) fn take(&mut self, pixels: &[Rgb]) {
        self.resize(pixels.len());
        let [red, green, blue] = &mut self.channels;
        side_by_side(|| {
            for (((pixel, red), green), blue) in pixels.iter().zip(red).zip(green).zip(blue) {
                [*red, *green, *blue] = *pixel;
            }
        });
    }

    pub(crate) fn put(&self, pixels: &mut [Rgb]) {
        let [red, green, blue] = &self.channels;
        side_by_side(|| {
            for (((pixel, red), green), blue) in pixels.iter_mut().zip(red).zip(green).zip(blue) {
                *pixel = [*red, *green, *blue];
            }
        });
    }

    /// Each channel.
    pub(crate) fn slices(&mut self) -> [&mut [f32]; 3] {
        let width = self.width;
        self.channels.each_mut().map(|channel| &mut channel[..width])
    }

    /// The same to every pixel, side by side.
    pub(crate) fn each(&mut self, does: &impl EachPixel) {
        side_by_side(Pixels(self.slices(), does));
    }

    /// To every pixel by values beside it; as many as the row has pixels.
    pub(crate) fn beside<const K: usize>(&mut self, values: [&[f32]; K], does: &impl EachBeside<K>) {
        side_by_side(Beside(self.slices(), values, does));
    }

    /// To every pixel by its column, one after the other.
    #[inline(always)]
    pub(crate) fn pixels(&mut self, does: impl Fn(usize, Rgb) -> Rgb) {
        let [red, green, blue] = self.slices();
        for (x, ((red, green), blue)) in red.iter_mut().zip(green).zip(blue).enumerate() {
            [*red, *green, *blue] = does(x, [*red, *green, *blue]);
        }
    }

    /// Each pixel goes on to what it became by a share, by column; by none it stays as it is, by all it is what it became, exactly.
    pub(crate) fn go_on_to(&mut self, after: &Self, share: impl Fn(usize) -> f32) {
        for (before, after) in self.slices().into_iter().zip(&after.channels) {
            for (x, (before, after)) in before.iter_mut().zip(after).enumerate() {
                let share = share(x);
                *before = *before * (1.0 - share) + after * share;
            }
        }
    }
}
