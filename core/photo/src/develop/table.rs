//! A function of one value as a table, for what is asked for every pixel.

use super::row::EachValue;

/// Entries from 0 to 1, less one: so few that two tables stay near the processor.
const STEPS: usize = 2_048;
/// Entries in all, of which those beyond 1 are never asked for: a power of two, so that no place need be checked.
const SIZE: usize = 4_096;

/// A function of 0 to 1, from each of its places to both sides a straight line. Beyond it goes on straight.
#[derive(Debug, Clone)]
pub(super) struct Table {
    /// Values, each with how much it grows from one to the next there.
    entries: Box<[[f32; 2]; SIZE]>,
    /// How steep it is below 0.
    below: f32,
    /// How steep it is above 1.
    above: f32,
}

impl Table {
    /// Asks `function` at even distances from 0 to 1, in their order. Beyond it is as steep as the diagonal.
    pub(super) fn of(mut function: impl FnMut(f64) -> f64) -> Self {
        let values: Vec<f64> = (0..=STEPS).map(|at| function(at as f64 / STEPS as f64)).collect();
        let entry = |at: usize| {
            let (before, after) = (at.saturating_sub(1), (at + 1).min(STEPS));
            let value = values[at.min(STEPS)];
            let slope = (values[after] - values[before.min(STEPS - 1)]) / (after - before.min(STEPS - 1)) as f64;
            [value as f32, slope as f32]
        };
        let entries: Vec<[f32; 2]> = (0..SIZE).map(entry).collect();
        let entries = entries.into_boxed_slice().try_into().unwrap_or_else(|_| unreachable!("as many as it has"));
        Self { entries, below: 1.0, above: 1.0 }
    }

    /// As steep as said below 0 and above 1.
    pub(super) fn beyond(self, below: f64, above: f64) -> Self {
        Self { below: below as f32, above: above as f32, ..self }
    }

    #[inline(always)]
    pub(super) fn at(&self, value: f32) -> f32 {
        /// Added to a number, what is left of it is whole, and stands in the lowest bits.
        const WHOLE: f32 = 8_388_608.0;
        let held = value.clamp(0.0, 1.0);
        let at = held * STEPS as f32;
        let whole = at + WHOLE;
        let [own, slope] = self.entries[whole.to_bits() as usize % SIZE];
        let beyond = value - held;
        own + slope * (at - (whole - WHOLE)) + beyond * if beyond < 0.0 { self.below } else { self.above }
    }
}

impl EachValue for Table {
    #[inline(always)]
    fn value(&self, value: f32) -> f32 {
        self.at(value)
    }
}
