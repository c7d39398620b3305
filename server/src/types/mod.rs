//! What goes over the wire beside the core's own types, by area.

mod acts;
mod bench;
mod darkroom;
mod files;
mod jobs;
mod printing;
mod shelves;

pub use acts::{Act, ActRequest, New, PlaceWish};
pub use bench::{
    ActResponse, LockUpCard, MeasureRequest, MosaicOf, MosaicRequest, OpenJob, RepeatCard, SeenCard, SinceQuery,
    StageBunch, StageDelta, StageItem, Typed, WayCard, WaysQuery,
};
pub use darkroom::{
    DarkroomCard, PrintCard, PrintPlace, PrintRequest, RecipeCard, RecipeCodeCard, TextureName, TraceCard,
};
pub use files::{FileCard, HandOverRequest, HandedCard};
pub use jobs::{GridCard, JobCard, NextCard, NextRequest, StartRequest, StateCard, StepCard};
pub use printing::*;
pub use shelves::{DesignCard, DrawingCard, GraphicsFound, Kept, PictureCard, PlaceSet};
