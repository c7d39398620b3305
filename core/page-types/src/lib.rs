//! The types of the pages, written from those of the program: by `ts-rs` with the feature `written`, and not at all without it.
//!
//! Crates name this `ts-rs`, so that what its derive writes finds its way. `cargo test --workspace` has the feature, by way of the server's
//! tests; the program has not.

#[cfg(feature = "written")]
pub use written::*;

#[cfg(not(feature = "written"))]
mod unwritten {
    pub use vatman_page_types_derive::TS;

    /// What has a type on the pages.
    pub trait TS {
        /// Its name; empty, as nobody writes it.
        #[must_use]
        fn name() -> String {
            String::new()
        }

        /// Its declaration; empty, as nobody writes it.
        #[must_use]
        fn decl() -> String {
            String::new()
        }
    }

    impl<T: ?Sized> TS for T {}

    /// Stands for the parameter of a generic type.
    #[derive(Debug, Clone, Copy)]
    pub struct Dummy;
}

#[cfg(not(feature = "written"))]
pub use unwritten::*;
