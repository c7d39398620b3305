//! Paper: pieces laid on sheets as they are printed, cut and folded.

pub(crate) mod guide;
pub(crate) mod lay;
pub(crate) mod pages;
pub(crate) mod plan;
pub(crate) mod setup;

pub use guide::{guide_pages, write_guide};
pub use lay::{Copies, PlacedSide, PlannedSheet, PrintPlan, Printed, plan_sheets};
pub use pages::{sheet_picture, sheet_positions, write_listed, write_sheets};
pub use plan::{FittedSize, PlanCard, PlanStep, PositionCard, Tight, fitted_size, plan_card};
pub use setup::{Backs, SheetKind, SheetSetup};
