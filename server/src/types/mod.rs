//! What goes over the wire beside the core's own types, by area.

mod acts;
mod bench;
mod files;
mod jobs;
mod shelves;

pub use acts::{Act, ActRequest, New};
pub use bench::{
    ActResponse, LockUpCard, MeasureRequest, MosaicOf, MosaicRequest, OpenJob, SinceQuery, StageDelta, StageItem, Typed,
};
pub use files::{FileCard, HandOverRequest};
pub use jobs::{JobCard, StartRequest, StateCard};
pub use shelves::{DesignCard, DrawingCard, GraphicsFound, PictureCard};
