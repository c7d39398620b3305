//! What goes over the wire beside the core's own types, by area.

mod acts;
mod bench;
mod files;
mod jobs;
mod shelves;

pub use acts::{Act, ActRequest, New, PlaceWish};
pub use bench::{
    ActResponse, LockUpCard, MeasureRequest, MosaicOf, MosaicRequest, OpenJob, SeenCard, SinceQuery, StageDelta,
    StageItem, Typed, WayCard, WaysQuery,
};
pub use files::{FileCard, HandOverRequest};
pub use jobs::{JobCard, StartRequest, StateCard};
pub use shelves::{DesignCard, DrawingCard, GraphicsFound, PictureCard};
