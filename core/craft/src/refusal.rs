//! Why something cannot be done, and the one sentence each reason is told by.

use thiserror::Error;
use vatman_document::{CommandError, Fault, ItemId};
use vatman_imposition::SheetError;

/// Why an act cannot be carried out; nothing was changed.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
#[non_exhaustive]
pub enum Refusal {
    /// It names something the job does not have: what, and its identity.
    #[error("That {0} is not in this job any more; it may have been removed elsewhere.")]
    Missing(&'static str, String),
    /// The change it leads to is refused.
    #[error(transparent)]
    Command(CommandError),
    /// Nothing is selected.
    #[error("Select something first.")]
    NothingSelected,
    /// A picture or drawing has no one colour.
    #[error("Pictures and drawings have no single colour that could be linked.")]
    NoSingleColour,
    /// Too few or too many pictures for an arrangement.
    #[error("An arrangement holds 2 to 12 pictures.")]
    MosaicCount,
    /// Cells and pictures differ in number.
    #[error("There is not a cell for each picture.")]
    MosaicCells,
    /// No room is left between gaps and margins.
    #[error("These gaps and margins leave no room for pictures. Make them smaller.")]
    MosaicRoom,
    /// A gap below 0.
    #[error("Gaps, margins and radii are at least 0.")]
    NegativeGap,
    /// A cell would have no size left.
    #[error("A cell keeps some width and height.")]
    CellGone,
    /// The item is no cell of an arrangement.
    #[error("Only cells of an arrangement move their edges together.")]
    NoCell,
    /// What is swapped is no frame.
    #[error("Only frames can exchange their pictures.")]
    NoFrames,
    /// The item is no frame.
    #[error("Only a frame can show a picture. Select one, or let the picture arrive as a new item.")]
    NoFrame,
    /// The item shows no picture.
    #[error("This item shows no picture.")]
    NoPicture,
    /// The picture of the item is shown whole.
    #[error("This picture is shown whole. Cut out its subject first.")]
    NotCutOut,
    /// No picture to lay over.
    #[error("Choose the picture that is laid over first.")]
    NoOverlay,
    /// No long edge says how a picture should stand.
    #[error("No long edges in this picture say how it should stand, or it stands so already. Turn it by hand.")]
    Level,
    /// A spot with nothing around it.
    #[error("There is nothing around this spot it could be filled from. Paint over less of the picture.")]
    NoSurroundings,
    /// Nothing of a picture becomes an outline.
    #[error(
        "This picture has no areas of one colour that could be traced, or far too many. Try fewer colours or smoother edges."
    )]
    NotTraceable,
    /// Nothing of what is to be treated is on the sheet.
    #[error("Nothing of this is seen on the sheet. Move it onto the sheet, then treat it.")]
    NotSeen,
    /// A crop by a factor of nothing.
    #[error("A picture is scaled by a factor above 0.")]
    CropFactor,
    /// The item holds no words.
    #[error("This item holds no words.")]
    NoWords,
    /// Type of no size or too large.
    #[error("Type is more than 0 and at most 100 in high.")]
    TypeSize,
    /// Too few or too many lines of contact.
    #[error("Type 1 to 20 lines, such as a mail address or a number.")]
    ContactLines,
    /// Items that cannot be combined.
    #[error("Two or more shapes, frames or texts of one side can be combined. Drawings cannot.")]
    NotCombinable,
    /// Combining them takes too long.
    #[error("These outlines have too many edges that cross to be combined. Combine fewer of them, or simpler ones.")]
    TooCostly,
    /// So many elaborate letters that drawing them takes too long.
    #[error(
        "So many letters of this kind take too long to draw. Use fewer of them, or another typeface; nothing was changed."
    )]
    TooManyCurves,
    /// More than one picture is to be cut at once.
    #[error("Only one picture can be cut at a time. Select one picture and the shapes that cut it.")]
    SeveralPictures,
    /// A shape that is not combined.
    #[error("This shape is not made of others.")]
    NotCombined,
    /// No shared colours to map to.
    #[error("This job has no shared colours to map to. Add some under Look.")]
    NoPalette,
    /// The item is no drawing.
    #[error("This item is no drawing.")]
    NoDrawing,
    /// Items that cannot be stacked.
    #[error("These items cannot be stacked.")]
    NotStackable,
    /// No two colours to exchange.
    #[error("Select words on a panel, or two items with a colour each.")]
    NoTwoColours,
    /// Nothing selected has a colour.
    #[error("Select shapes or words first.")]
    NothingColoured,
    /// What was pointed at has no colour.
    #[error("What you pointed at has no colour. Point at words or a shape.")]
    PointedColourless,
    /// What was pointed at has no outline.
    #[error("Point at a shape, a frame or words.")]
    PointedOutline,
    /// What should take an outline is no frame.
    #[error("Only the frame of a picture can take an outline.")]
    OnlyFramesTakeOutlines,
    /// Nothing selected can be copied.
    #[error("Nothing that could be copied is selected.")]
    NothingToCopy,
    /// Nothing was copied.
    #[error("Copy something first; its look can then be given to others.")]
    NothingCopied,
    /// Nothing selected is in a group.
    #[error("Nothing of this is in a group.")]
    NotGrouped,
    /// Items of several sides.
    #[error("What is grouped stands on one side.")]
    SeveralSides,
    /// Too few items for a group.
    #[error("A group needs at least two items. Select more; nothing was changed.")]
    GroupOfOne,
    /// A scale outside its range.
    #[error("Items are scaled by a thousandth to a thousand times.")]
    ScaleFactor,
    /// Ends that cannot be connected.
    #[error("A line connects two different items of one side.")]
    ConnectEnds,
    /// An item without an outline of its own.
    #[error("Words and drawings have no outline that could be another.")]
    NoOutline,
    /// A tie that holds no distance.
    #[error("This tie holds no distance.")]
    TieWithoutLength,
    /// An arrangement there is not.
    #[error("There is no such arrangement for these pictures.")]
    NoSuchArrangement,
    /// Nothing about the maker that a back could say.
    #[error("This side has no mark, place or contact lines that a back could say. Add a blank side instead.")]
    NoDetails,
    /// So many of a piece that nothing is left of it.
    #[error("So many leave less than 8 mm of each piece. Choose fewer, or larger paper.")]
    NoSizeLeft,
    /// What is asked of a code is asked of something else.
    #[error("Only a code says something to be scanned.")]
    NoCode,
    /// Nothing can be laid on such paper.
    #[error(transparent)]
    Sheet(SheetError),
    /// A card that cannot be folded from one sheet.
    #[error(
        "A sheet folded twice takes a card with one fold and an inside, or four sides: front, inside left, inside right, back."
    )]
    NotFolded,
    /// Too few or too many copies.
    #[error("1 to 200 copies can be made at once.")]
    CopyCount,
}

impl From<SheetError> for Refusal {
    fn from(error: SheetError) -> Self {
        Self::Sheet(error)
    }
}

impl From<CommandError> for Refusal {
    fn from(error: CommandError) -> Self {
        match error {
            CommandError::Missing(what, id) => Self::Missing(what, id),
            other => Self::Command(other),
        }
    }
}

impl From<Fault> for Refusal {
    fn from(fault: Fault) -> Self {
        Self::Command(fault.into())
    }
}

impl Refusal {
    /// An item that is not there.
    pub(crate) fn no_item(id: &ItemId) -> Self {
        Self::Missing("item", id.to_string())
    }
}
