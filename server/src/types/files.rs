//! Handing over.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_craft::FileKind;
use vatman_document::{PieceId, SideId};

/// How pieces are handed over.
#[derive(Debug, Clone, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct HandOverRequest {
    /// Which, in any order.
    pub pieces: Vec<PieceId>,
    /// Only these of their sides; of a piece none of whose sides is named, all.
    #[serde(default)]
    #[ts(as = "Option<Vec<SideId>>", optional)]
    pub sides: Vec<SideId>,
    /// Kind of file; without one each piece as the place it goes to takes it.
    #[serde(default)]
    #[ts(optional)]
    pub kind: Option<FileKind>,
    /// Width in pixels, PNG and JPEG.
    #[ts(optional)]
    pub width: Option<u32>,
    /// Times the format's own pixels, PNG and JPEG; used where no width is given.
    #[ts(optional)]
    pub times: Option<f64>,
    /// 1 to 100, JPEG.
    #[ts(optional)]
    pub quality: Option<u8>,
    /// Leaves the ground out.
    #[serde(default)]
    pub clear: bool,
    /// Adds the bleed.
    #[serde(default)]
    pub bleed: bool,
    /// Adds crop marks and a slug around the bleed, PDF.
    #[serde(default)]
    pub marks: bool,
    /// Colours in the four process inks, PDF.
    #[serde(default)]
    #[ts(as = "Option<bool>", optional)]
    pub process: bool,
    /// For archives, PDF.
    #[serde(default)]
    #[ts(as = "Option<bool>", optional)]
    pub lasting: bool,
}

/// A file that would be handed over.
#[derive(Debug, Clone, Serialize, TS)]
pub struct FileCard {
    /// Name.
    pub name: String,
    /// Size in bytes.
    pub bytes: usize,
    /// The most its place takes, in bytes, where it is more than that.
    #[ts(optional, type = "number")]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub over: Option<u64>,
}

/// What was fetched of a piece last.
#[derive(Debug, Clone, Serialize, TS)]
pub struct HandedCard {
    /// Which piece.
    pub piece: PieceId,
    /// When, in milliseconds since 1970 UTC.
    #[ts(type = "number")]
    pub at: i64,
    /// The names of its files.
    pub files: Vec<String>,
    /// Whether it still looks as it did.
    pub same: bool,
}
