//! The job and everything in it: what it says, how it looks, where each part sits, and the commands
//! by which it changes. No layout and no drawing happens here.

mod check;
mod code;
mod color;
mod color_reading;
mod combine;
mod command;
mod content;
mod cut_out;
mod delta;
mod drawing;
mod effects;
mod fault;
mod finish;
mod format;
mod gather;
mod group_look;
mod guides;
mod hand;
mod id;
mod item;
mod job;
mod look;
mod mask;
mod oklab;
mod outline;
mod paint;
mod patch;
mod shapes;
mod source;
mod spots;
mod stored;
mod ties;
mod treatment;
mod upright;
mod words;

pub use code::{Code, CodeWords};
pub use color::{Color, ColorError, Ink, Swatch, Tint};
pub use combine::{Combine, common, grown, united};
pub use command::{Command, CommandError, Known, Target};
pub use content::{Content, Focus, Part, PictureFit};
pub use cut_out::CutOut;
pub use delta::{JobDelta, PieceFrame, SideFrame, TrayDelta};
pub use drawing::{Drawing, DrawnGroup, DrawnMask, DrawnPaint, DrawnPart, DrawnShadow, DrawnStroke, Spread};
pub use effects::{Backing, Blend, Cap, Curve, Effect, Join, Reach, Stroke, StrokePlace};
pub use fault::Fault;
pub use finish::{Finish, Folds, Hole};
pub use format::{Format, FormatError};
pub use group_look::GroupLook;
pub use guides::{GuideLine, Guides};
pub use hand::{Hand, HandPoint, PenPoint};
pub use id::{AssetId, GroupId, IdError, IdSource, ItemId, JobId, KinId, PieceId, SideId, SwatchId};
pub use item::{Crop, Item, Kin, Place, Plain, Release, Removed};
pub use job::{FirstShape, Follows, Job, Piece, Record, Side, Standing};
pub use look::{Align, Forms, Hyphens, ListMark, Look, TextFit, TypeLook, VAlign};
pub use mask::{Area, BrushStroke, Joining, Mask, MaskArea};
pub use oklab::Oklab;
pub use outline::{CombinedPart, Outline};
pub use paint::{Motif, Paint, Stop};
pub use patch::{LookPatch, PaintPatch, Property, TypePatch};
pub use source::PictureSource;
pub use spots::{SpotCopy, SpotPatch};
pub use stored::{
    CURRENT_VERSION, Heading, StoredError, StoredPart, changed_parts, join_parts, join_text, read_job, write_job,
};
pub use ties::{Anchor, BoxEdge, Direction, Stack, StackAlign, Tie};
pub use treatment::{CurvePoint, Develop, Texture, ToneStop, Treatment};
pub use upright::{Homography, Upright};
pub use words::{RichText, Run, RunStyle, Script, StyleChange};

/// Every type the front end sees, for generating its declarations in one place.
#[must_use]
pub fn type_declarations() -> Vec<(String, String)> {
    use ts_rs::TS;
    macro_rules! declare { ($($t:ty),* $(,)?) => { vec![$((<$t as TS>::name(), <$t as TS>::decl())),*] } }
    declare![
        vatman_units::Length,
        vatman_units::Ratio,
        vatman_units::Angle,
        vatman_units::Ppi,
        JobId,
        PieceId,
        SideId,
        ItemId,
        KinId,
        AssetId,
        SwatchId,
        GroupId,
        vatman_units::Unit,
        vatman_units::Point,
        vatman_units::Size,
        vatman_units::Rect,
        vatman_units::Placement,
        Color,
        Tint,
        Stop,
        Motif,
        Paint,
        Ink,
        Swatch,
        Hole,
        Folds,
        Finish,
        CodeWords,
        Code,
        Part,
        Focus,
        PictureFit,
        DrawnPaint,
        DrawnStroke,
        Spread,
        DrawnGroup,
        DrawnShadow,
        DrawnMask,
        DrawnPart,
        Drawing,
        Content,
        Combine,
        CombinedPart,
        HandPoint,
        Hand,
        PenPoint,
        Outline,
        Script,
        RunStyle,
        StyleChange,
        Run,
        RichText,
        Align,
        VAlign,
        Blend,
        StrokePlace,
        Join,
        Cap,
        Stroke,
        Effect,
        CurvePoint,
        ToneStop,
        SpotCopy,
        SpotPatch,
        Develop,
        BrushStroke,
        Area,
        Joining,
        MaskArea,
        Mask,
        Treatment,
        Texture,
        Reach,
        Backing,
        Curve,
        ListMark,
        Forms,
        Hyphens,
        TextFit,
        TypeLook,
        Look,
        Crop,
        Place,
        Kin,
        Release,
        Anchor,
        Direction,
        BoxEdge,
        Tie,
        StackAlign,
        GroupLook,
        CutOut,
        Upright,
        Stack,
        Item,
        Removed,
        Format,
        GuideLine,
        Guides,
        Side,
        Piece,
        Follows,
        FirstShape,
        LookPatch,
        PaintPatch,
        TypePatch,
        Property,
        Job,
        Target,
        Command,
        SideFrame,
        PieceFrame,
        TrayDelta,
        JobDelta,
    ]
}
