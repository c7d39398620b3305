//! The largest type that fits a box.

/// Finds the largest scale in `least..=most` for which `fits` holds, to a ten-thousandth of `most`; `least` where none does.
///
/// `fits` need not be monotone (a smaller size can break lines worse); the search then finds one of the edges.
pub(crate) fn largest(least: f64, most: f64, mut fits: impl FnMut(f64) -> bool) -> (f64, bool) {
    if fits(most) {
        return (most, true);
    }
    if !fits(least) {
        return (least, false);
    }
    let (mut low, mut high) = (least, most);
    while high - low > most * 1e-4 {
        let middle = f64::midpoint(low, high);
        if fits(middle) { low = middle } else { high = middle }
    }
    (low, true)
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn the_edge_is_found(least in 0.01f64..1.0, span in 0.0f64..9.0, edge in 0.0f64..12.0) {
            let most = least + span;
            let (scale, fits) = largest(least, most, |s| s <= edge);
            prop_assert_eq!(fits, least <= edge || most <= edge);
            if fits {
                prop_assert!(scale <= edge && (edge.min(most) - scale) <= most * 1e-4);
            } else {
                prop_assert_eq!(scale, least);
            }
        }
    }
}
