//! How much a pixel stands out from the border: the least that colour has to rise and fall on any way to it (the minimum barrier
//! distance; J. Zhang et al., "Minimum Barrier Salient Object Detection at 80 FPS", 2015, by raster scans).

use super::work::Work;

/// How far each pixel stands out, on all axes of OKLab together, in its units.
pub(super) fn barriers(work: &Work, seed: impl Fn(usize) -> bool) -> Vec<f32> {
    let seeds: Vec<bool> = (0..work.count()).map(seed).collect();
    let mut all = vec![0.0f32; work.count()];
    for axis in 0..3 {
        let values: Vec<f32> = work.lab.iter().map(|lab| lab[axis]).collect();
        let own = barrier(&values, (work.width, work.height), &seeds);
        all.iter_mut().zip(&own).for_each(|(all, own)| *all += own);
    }
    all
}

/// Scans over a plane, to and fro.
const SCANS: usize = 4;

fn barrier(values: &[f32], (width, height): (usize, usize), seeds: &[bool]) -> Vec<f32> {
    // The highest and lowest value on the best way found so far, and the difference.
    let mut ways: Vec<(f32, f32)> = values.iter().map(|value| (*value, *value)).collect();
    let mut out: Vec<f32> = seeds.iter().map(|seed| if *seed { 0.0 } else { f32::MAX }).collect();
    for scan in 0..SCANS {
        let forward = scan % 2 == 0;
        for step in 0..values.len() {
            let at = if forward { step } else { values.len() - 1 - step };
            let (x, y) = (at % width, at / width);
            let beside = if forward { (x > 0).then(|| at - 1) } else { (x + 1 < width).then_some(at + 1) };
            let above = if forward { (y > 0).then(|| at - width) } else { (y + 1 < height).then_some(at + width) };
            for from in [beside, above].into_iter().flatten() {
                if out[from] == f32::MAX {
                    continue;
                }
                let (high, low) = (ways[from].0.max(values[at]), ways[from].1.min(values[at]));
                if high - low < out[at] {
                    (out[at], ways[at]) = (high - low, (high, low));
                }
            }
        }
    }
    out.iter_mut().for_each(|value| *value = if *value == f32::MAX { 0.0 } else { *value });
    out
}
