//! The time.

use std::time::{SystemTime, UNIX_EPOCH};

/// Milliseconds since 1970 UTC.
pub(crate) fn now() -> i64 {
    SystemTime::now().duration_since(UNIX_EPOCH).map_or(0, |since| since.as_millis() as i64)
}

/// The day it is, in coordinated time.
pub(crate) fn today() -> vatman_craft::Day {
    vatman_craft::Day::from_days(now().div_euclid(86_400_000))
}
