//! What goes over the wire beside the core's own types.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_craft::{AlignEdge, AlignTo, Alike, Axis, Clipping, FileKind, GraphicCard, GraphicSet, GuideMark, Layer, MosaicRoom, Order, Repair};
use vatman_document::{AssetId, BoxEdge, Combine, Command, Direction, Drawing, GroupId, ItemId, Job, JobDelta, Outline, Paint, Part, PenPoint, PieceId, SideId, Tie, Tint};
use vatman_scene::Frame;
use vatman_type::Caret;
use vatman_units::{Angle, Length, Point, Ppi, Unit};

const fn once() -> u16 {
    1
}

/// Something a person does to a job.
#[derive(Debug, Clone, Deserialize, TS)]
#[allow(clippy::large_enum_variant, reason = "one at a time")]
#[serde(tag = "act", rename_all = "camelCase", deny_unknown_fields)]
pub enum Act {
    /// A change.
    Edit {
        /// Which.
        command: Command,
    },
    /// A new item.
    Add {
        /// Where.
        side: SideId,
        /// What.
        what: New,
        /// The colour last chosen.
        #[serde(default)]
        #[ts(optional)]
        last: Option<Tint>,
    },
    /// Something new in the place of what was taken away.
    ReplaceRemoved {
        /// Whose tray.
        piece: PieceId,
        /// What was taken away.
        item: ItemId,
        /// What comes instead.
        what: New,
        /// The colour last chosen.
        #[serde(default)]
        #[ts(optional)]
        last: Option<Tint>,
    },
    /// A side after another, blank or a copy of it.
    AddSide {
        /// After which.
        after: SideId,
        /// Whether everything on it is copied.
        copy: bool,
    },
    /// Copies of items.
    Duplicate {
        /// Which.
        items: Vec<ItemId>,
        /// What the first of them was copied from: the copies go on in the step between the two.
        #[serde(default)]
        #[ts(optional)]
        after: Option<ItemId>,
        /// Exactly this step, to the right and down.
        #[serde(default)]
        #[ts(optional)]
        step: Option<Point>,
        /// How many.
        #[serde(default = "once")]
        #[ts(as = "Option<u16>", optional)]
        times: u16,
    },
    /// Another picture in a frame, which it fills.
    Show {
        /// The frame.
        item: ItemId,
        /// The picture.
        picture: AssetId,
    },
    /// Moves and scales a picture inside its frame.
    Crop {
        /// The frame.
        item: ItemId,
        /// To the right along the frame.
        dx: Length,
        /// Down along the frame.
        dy: Length,
        /// About the middle of the frame.
        factor: f64,
    },
    /// Puts one colour in the place of another everywhere.
    ReplaceColour {
        /// The colour to be replaced.
        from: Tint,
        /// What comes in its place.
        to: Tint,
    },
    /// Makes words readable on what lies behind them.
    Mend {
        /// The item with words.
        item: ItemId,
        /// How.
        repair: Repair,
    },
    /// Sets the size of type in this piece.
    TypeSize {
        /// The item.
        item: ItemId,
        /// Size.
        size: Length,
    },
    /// Lines items up.
    Align {
        /// Which.
        items: Vec<ItemId>,
        /// By which edge or middle.
        edge: AlignEdge,
        /// To what.
        to: AlignTo,
    },
    /// Makes the gaps between items equal.
    Distribute {
        /// Which.
        items: Vec<ItemId>,
        /// In which direction.
        axis: Axis,
        /// Exactly this gap; without one the room there is is shared out.
        gap: Option<Length>,
    },
    /// Gives items the size of one of them.
    MatchSize {
        /// Which.
        items: Vec<ItemId>,
        /// The one that stays.
        key: ItemId,
        /// Widths, heights or both.
        alike: Alike,
    },
    /// Sets items out in rows and columns.
    Tidy {
        /// Which.
        items: Vec<ItemId>,
    },
    /// Scales items together.
    Scale {
        /// Which.
        items: Vec<ItemId>,
        /// The point of the sheet that stays.
        about: Point,
        /// Times.
        factor: f64,
    },
    /// Turns items together.
    Turn {
        /// Which.
        items: Vec<ItemId>,
        /// The point of the sheet that stays.
        about: Point,
        /// Clockwise.
        by: Angle,
    },
    /// Puts another graphic of the shelf in the place of one.
    SwapGraphic {
        /// The drawing.
        item: ItemId,
        /// The graphic that comes in its place.
        graphic: String,
    },
    /// Paints the parts of a drawing that have one colour.
    Repaint {
        /// The drawing.
        item: ItemId,
        /// Their colour.
        from: Tint,
        /// What they get.
        to: Paint,
    },
    /// Maps the colours of a drawing to the shared ones of the job.
    MapColours {
        /// The drawing.
        item: ItemId,
    },
    /// Puts copies of items down on a side.
    Paste {
        /// Where.
        side: SideId,
        /// What.
        clipping: Clipping,
    },
    /// Gives items the look of what was copied.
    PasteLook {
        /// Which.
        items: Vec<ItemId>,
        /// What was copied.
        clipping: Clipping,
    },
    /// Puts pictures on a side in an arrangement.
    ArrangePictures {
        /// Where.
        side: SideId,
        /// Which, in their order.
        pictures: Vec<AssetId>,
        /// Gaps, margin and corners.
        room: MosaicRoom,
        /// The number of the arrangement among those that are offered, from 0.
        number: usize,
    },
    /// Exchanges the pictures of two frames.
    SwapPictures {
        /// One frame.
        a: ItemId,
        /// The other.
        b: ItemId,
    },
    /// Combines shapes, frames and words into one shape.
    Combine {
        /// Which, of one side.
        items: Vec<ItemId>,
        /// How.
        how: Combine,
    },
    /// Gives the frame of a picture the outline of another item.
    FrameFrom {
        /// The frame.
        frame: ItemId,
        /// Whose outline.
        from: ItemId,
    },
    /// Takes a combined shape apart.
    TakeApart {
        /// Which.
        item: ItemId,
    },
    /// Makes items one group.
    Group {
        /// Which, of one side.
        items: Vec<ItemId>,
    },
    /// Dissolves the groups items are in.
    Ungroup {
        /// Which.
        items: Vec<ItemId>,
    },
    /// Takes items away; they stay in the tray of their piece.
    Remove {
        /// Which.
        items: Vec<ItemId>,
    },
    /// Puts something from the tray back in its place.
    PutBack {
        /// Whose tray.
        piece: PieceId,
        /// What.
        item: ItemId,
    },
    /// Makes items a row or a column that spaces itself.
    Stack {
        /// Which, of one side.
        items: Vec<ItemId>,
        /// How they follow each other.
        direction: Direction,
    },
    /// Adds lines of contact, each with a fitting sign.
    AddContacts {
        /// Where.
        side: SideId,
        /// The stack they go under; nothing makes a new one.
        #[serde(default)]
        #[ts(optional)]
        stack: Option<GroupId>,
        /// As typed.
        lines: Vec<String>,
        /// The colour last chosen.
        #[serde(default)]
        #[ts(optional)]
        last: Option<Tint>,
    },
    /// Joins two items by a line that goes with both.
    Connect {
        /// Where it begins.
        from: ItemId,
        /// Where it ends.
        to: ItemId,
        /// Whether it ends in an arrow.
        arrow: bool,
        /// The colour last chosen.
        #[serde(default)]
        #[ts(optional)]
        last: Option<Tint>,
    },
    /// Puts a dot on a spot of a picture, with a line and a label.
    CallOut {
        /// The picture.
        picture: ItemId,
        /// Where the spot lies on the sheet.
        at: Point,
        /// The colour last chosen.
        #[serde(default)]
        #[ts(optional)]
        last: Option<Tint>,
    },
    /// Brings items forward or back.
    Reorder {
        /// Which.
        items: Vec<ItemId>,
        /// Where to.
        order: Order,
    },
    /// Ties an item; a distance begins as it is now.
    Tie {
        /// Which.
        item: ItemId,
        /// To what, and how.
        tie: Tie,
    },
    /// Repeats an item in the opposite place of its sheet, linked with it.
    Opposite {
        /// The item.
        item: ItemId,
        /// Left and right change places.
        across: bool,
        /// Top and bottom change places.
        down: bool,
        /// It is mirrored as well.
        mirrored: bool,
    },
    /// Moves an edge of a cell of a picture arrangement and its neighbours with it.
    MoveEdge {
        /// The cell.
        item: ItemId,
        /// Which edge.
        edge: BoxEdge,
        /// To the right or down.
        by: Length,
    },
    /// Gives items the colour of another and keeps them the same.
    LinkColour {
        /// Which.
        items: Vec<ItemId>,
        /// The one that has it.
        to: ItemId,
    },
    /// Exchanges the colours of two items, or of words and what they stand on.
    SwapColours {
        /// One or two.
        items: Vec<ItemId>,
    },
    /// Puts a whole palette in the place of the colours of the job.
    ApplyPalette {
        /// Its name.
        name: String,
    },
    /// Takes the last step back.
    Undo,
    /// Does the last undone step again.
    Redo,
}

/// A new item.
#[derive(Debug, Clone, Deserialize, TS)]
#[serde(tag = "kind", rename_all = "camelCase", deny_unknown_fields)]
pub enum New {
    /// A text box.
    Words {
        /// The part of the message it is for.
        part: Part,
    },
    /// A panel over the whole sheet.
    Panel,
    /// Lines drawn by hand.
    Hand {
        /// The lines, as the pen made them.
        lines: Vec<Vec<PenPoint>>,
        /// Thickness where it was pressed hardest.
        thickness: Length,
        /// How far unevenness is smoothed away, 0 to 10.
        smoothing: u8,
        /// How far light pressure thins the line, in percent.
        thinning: u8,
    },
    /// A frame, empty or with a picture.
    Picture {
        /// Which.
        picture: Option<AssetId>,
    },
    /// A shape.
    Shape {
        /// Its outline.
        outline: Outline,
    },
    /// A graphic of the shelf.
    Graphic {
        /// Which.
        graphic: String,
    },
    /// A drawing brought by the person, in layers where it has words.
    Layers {
        /// From the back to the front.
        layers: Vec<Layer>,
        /// Width of the drawing in its own units.
        width: u32,
        /// Height of the drawing in its own units.
        height: u32,
    },
    /// A drawing brought by the person.
    Drawing {
        /// As it was read.
        drawing: Drawing,
    },
}

/// A wish for arrangements of pictures.
#[derive(Debug, Clone, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct MosaicRequest {
    /// Which, in their order.
    pub pictures: Vec<AssetId>,
    /// Gaps, margin and corners.
    pub room: MosaicRoom,
}

/// An SVG file as read.
#[derive(Debug, Clone, Serialize, TS)]
pub struct DrawingCard {
    /// The drawing.
    pub drawing: Drawing,
    /// The same in layers, where it has words that stay words; else empty.
    pub layers: Vec<Layer>,
    /// What was left out or changed, in plain sentences.
    pub notes: Vec<String>,
}

/// Graphics found on the shelf.
#[derive(Debug, Clone, Serialize, TS)]
pub struct GraphicsFound {
    /// The sets there are.
    pub sets: Vec<GraphicSet>,
    /// What was found, best first.
    pub graphics: Vec<GraphicCard>,
}

/// An act on a job at a revision.
#[derive(Debug, Clone, Deserialize, TS)]
#[serde(rename_all = "camelCase")]
pub struct ActRequest {
    /// The revision the person was looking at.
    #[ts(type = "number")]
    pub base: i64,
    /// What is done.
    pub act: Act,
    /// Acts of one gesture are undone as one.
    #[serde(default)]
    #[ts(optional)]
    pub gesture: Option<String>,
    /// The side on the stage, whose changed nodes are wanted.
    #[serde(default)]
    #[ts(optional)]
    pub watch: Option<SideId>,
    /// The item being typed in, whose places of the caret are wanted.
    #[serde(default)]
    #[ts(optional)]
    pub carets: Option<ItemId>,
}

/// An item on the stage.
#[derive(Debug, Clone, PartialEq, Serialize, TS)]
#[serde(rename_all = "camelCase")]
pub struct StageItem {
    /// Which.
    pub id: ItemId,
    /// What is drawn, as an SVG fragment.
    pub svg: String,
    /// Its box.
    pub frame: Frame,
    /// Whether its text is larger than its box.
    pub spills: bool,
    /// Families it asks for that are not at hand.
    pub missing: Vec<String>,
    /// Letters no family at hand has.
    pub blanks: usize,
    /// Size of its type as set, in CSS pixels; 0 without words.
    pub type_size: f64,
    /// Places of the caret, where asked for.
    pub carets: Vec<Caret>,
}

/// What changed on the stage.
#[derive(Debug, Clone, Serialize, TS)]
#[serde(rename_all = "camelCase")]
pub struct StageDelta {
    /// The side.
    pub side: SideId,
    /// Finished width in CSS pixels.
    pub width: f64,
    /// Finished height in CSS pixels.
    pub height: f64,
    /// Bleed in CSS pixels.
    pub bleed: f64,
    /// The ground as an SVG fragment, where it changed; empty for a clear sheet.
    #[ts(optional)]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub ground: Option<String>,
    /// New and changed items.
    pub items: Vec<StageItem>,
    /// All items shown, back to front, where that changed.
    #[ts(optional)]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub order: Option<Vec<ItemId>>,
    /// Items with words, in reading order, where that changed.
    #[ts(optional)]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub reading: Option<Vec<ItemId>>,
    /// The lines to lay things out by, where they changed.
    #[ts(optional)]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub guides: Option<Vec<GuideMark>>,
}

/// The state after an act.
#[derive(Debug, Clone, Serialize, TS)]
#[serde(rename_all = "camelCase")]
pub struct ActResponse {
    /// The new revision.
    #[ts(type = "number")]
    pub revision: i64,
    /// When it was kept, in milliseconds since 1970 UTC.
    #[ts(type = "number")]
    pub kept_at: i64,
    /// What changed in the job.
    pub delta: JobDelta,
    /// What changed on the stage.
    #[ts(optional)]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub stage: Option<StageDelta>,
    /// Items that were made.
    pub made: Vec<ItemId>,
    /// Whether something can be undone.
    pub can_undo: bool,
    /// Whether something can be redone.
    pub can_redo: bool,
}

/// A job as opened.
#[derive(Debug, Clone, Serialize, TS)]
#[serde(rename_all = "camelCase")]
pub struct OpenJob {
    /// The job.
    pub job: Job,
    /// Its revision.
    #[ts(type = "number")]
    pub revision: i64,
    /// When it was last kept.
    #[ts(type = "number")]
    pub kept_at: i64,
    /// Whether something can be undone.
    pub can_undo: bool,
    /// Whether something can be redone.
    pub can_redo: bool,
}

/// A job on the board.
#[derive(Debug, Clone, Serialize, TS)]
#[serde(rename_all = "camelCase")]
pub struct JobCard {
    /// Identity.
    pub id: String,
    /// Title.
    pub title: String,
    /// Revision, which changes with every picture of it.
    #[ts(type = "number")]
    pub revision: i64,
    /// When it last changed.
    #[ts(type = "number")]
    pub changed_at: i64,
    /// Its sides in order.
    pub sheets: Vec<SheetCard>,
}

/// A side on the board.
#[derive(Debug, Clone, Serialize, TS)]
#[serde(rename_all = "camelCase")]
pub struct SheetCard {
    /// The piece.
    pub piece: PieceId,
    /// The side.
    pub side: SideId,
    /// Name of the piece.
    pub name: String,
    /// Width by height.
    pub aspect: f64,
}

/// A design in lists.
#[derive(Debug, Clone, Serialize, TS)]
pub struct DesignCard {
    /// Identity.
    pub id: String,
    /// Name.
    pub name: String,
    /// What it is good for.
    pub about: String,
    /// Words it is found by.
    pub keywords: String,
}

/// A picture on the shelf.
#[derive(Debug, Clone, Serialize, TS)]
pub struct PictureCard {
    /// Identity.
    pub id: String,
    /// Name.
    pub name: String,
    /// Width in pixels.
    pub width: i32,
    /// Height in pixels.
    pub height: i32,
    /// Whether it shipped with the program.
    pub sample: bool,
}

/// A wish for a new job.
#[derive(Debug, Clone, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct StartRequest {
    /// The design; nothing means a blank sheet.
    pub design: Option<String>,
    /// Catalogue entries or sizes as typed.
    pub places: Vec<String>,
    /// Words by part.
    #[ts(type = "Partial<Record<Part, string>>")]
    pub words: vatman_craft::Words,
}

/// How pieces are handed over.
#[derive(Debug, Clone, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct HandOverRequest {
    /// Which, in any order.
    pub pieces: Vec<PieceId>,
    /// Kind of file.
    pub kind: FileKind,
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
}

/// A file that would be handed over.
#[derive(Debug, Clone, Serialize, TS)]
pub struct FileCard {
    /// Name.
    pub name: String,
    /// Size in bytes.
    pub bytes: usize,
}

/// A number field as typed.
#[derive(Debug, Clone, Deserialize, TS)]
pub struct MeasureRequest {
    /// What was typed.
    pub text: String,
    /// Unit of bare numbers.
    pub unit: Unit,
    /// What a pixel is.
    pub ppi: Ppi,
    /// What 100 % is.
    #[ts(optional)]
    pub whole: Option<Length>,
}
