//! Work on many values at once.

use pulp::{Arch, NullaryFnOnce};

/// Does something with the widest registers the processor has. Nothing is added up in another order by that, so the results are the
/// same everywhere.
///
/// What is a closure may be too long to be compiled for them; what takes long is a type with a method that is always inlined.
#[inline(always)]
pub(crate) fn side_by_side<R>(does: impl NullaryFnOnce<Output = R>) -> R {
    Arch::new().dispatch(does)
}
