//! What can be wrong with a job: every rule of the model, and the one sentence each is told by.

use thiserror::Error;

use crate::FormatError;

/// A rule of the model that is not kept.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
#[non_exhaustive]
pub enum Fault {
    /// More than a code can hold.
    #[error("A code holds up to 1,200 letters. Say less, or put it on a page and say its address.")]
    CodeLength,
    /// An ink nothing can be printed with.
    #[error("Each process ink prints at 0 to 100 %, and an ink of its own has a name of up to 60 letters.")]
    Ink,
    /// A radius below 0.
    #[error("A corner radius cannot be negative.")]
    NegativeRadius,
    /// A star outside what can be drawn.
    #[error("A star has 3 to 120 points and notches of 0 to 100 %.")]
    Star,
    /// A polygon outside what can be drawn.
    #[error("A polygon has 3 to 60 corners.")]
    Polygon,
    /// A slice of nothing or all.
    #[error("A slice goes on for more than 0 and less than 360 degrees.")]
    Slice,
    /// A share of a shape outside it.
    #[error("The depth of a shape lies between 0 and 100 %.")]
    ShapeDepth,
    /// An arrow outside what can be drawn.
    #[error("The head of an arrow is up to 4 times its height long, and its shaft at most as high.")]
    ArrowHead,
    /// Too few or too many outlines combined.
    #[error("A combined shape is made of 2 to 100 others.")]
    CombinedCount,
    /// Outlines combined too deep.
    #[error("Combined shapes lie at most six deep in each other.")]
    CombinedDepth,
    /// A drawn outline without a box.
    #[error("A drawn outline needs a box with a width and a height.")]
    DrawnBox,
    /// Too much path data in an outline.
    #[error("The drawn outline is too long.")]
    DrawnLength,
    /// An outline that is no path data.
    #[error("The drawn outline cannot be read as path data.")]
    DrawnData,
    /// A line too wide.
    #[error("A line is 0 to 100 in wide.")]
    LineWidth,
    /// Dashes outside what can be drawn.
    #[error("Dashes and gaps come in up to 4 pairs of 0 to 100 times the width of the line.")]
    Dashes,
    /// A shadow too far or too soft.
    #[error("A shadow falls up to 20 in away and is up to 20 in soft.")]
    ShadowReach,
    /// A relief below 0.
    #[error("The depth of a relief is at least 0.")]
    ReliefDepth,
    /// An effect beyond full strength.
    #[error("The strength of an effect lies between 0 and 100 %.")]
    EffectStrength,
    /// A step of a treatment outside its ranges.
    #[error("A step of the treatment has a value outside its range.")]
    Treatment,
    /// Too many steps.
    #[error("A picture is treated in at most 24 steps.")]
    TreatmentCount,
    /// A backing outside what can be drawn.
    #[error("The space around words lies between -1 and 20 times the size of the type.")]
    BackingRoom,
    /// Margins without room between them.
    #[error("Margins are at least 0 and leave room between them.")]
    Margins,
    /// Too many columns or rows.
    #[error("There are up to 48 columns and rows, with gutters of at least 0.")]
    Columns,
    /// Gutters without room for columns.
    #[error("The gutters take up all the room between the margins.")]
    Gutters,
    /// Too many single lines.
    #[error("A piece has at most 100 single lines.")]
    GuideLines,
    /// A grid too fine.
    #[error("The squares of a grid are at least a five-hundredth of the sheet.")]
    Grid,
    /// A drawing by hand without points, or with too many.
    #[error("A drawing by hand has 1 to 20,000 points.")]
    HandPoints,
    /// A line by hand outside what can be drawn.
    #[error("A hand-drawn line is more than 0 and at most 50 in thick, smoothed by 0 to 10 and thinned by 0 to 100 %.")]
    HandLine,
    /// A point by hand outside its box.
    #[error("A hand-drawn line lies inside its box.")]
    HandBox,
    /// An opacity outside 0 to 1.
    #[error("Opacity lies between 0 and 100 %.")]
    Opacity,
    /// Too many effects.
    #[error("An item carries at most 12 effects.")]
    EffectCount,
    /// A blur of what lies behind outside its range.
    #[error("What lies behind is blurred by 0 to 10 in.")]
    Frost,
    /// A weight outside 1 to 1,000.
    #[error("A weight lies between 1 and 1,000.")]
    Weight,
    /// Type of no size or too large.
    #[error("Type is more than 0 and at most 100 in high.")]
    TypeSize,
    /// Leading, spacing or gaps outside their range.
    #[error(
        "Leading lies between 30 and 500 %, letter spacing between -50 and 500 %, the gap of paragraphs between 0 and 1,000 % of the size."
    )]
    TypeSpacing,
    /// A floor of fitting outside its range.
    #[error("Type may shrink to between 1 and 100 % of its size.")]
    TypeFloor,
    /// A family without a name.
    #[error("A family has a name of up to 100 letters.")]
    FamilyName,
    /// A curve or an arrangement there is not.
    #[error("A line bends by at most 330 degrees, and arrangements are numbered from 1.")]
    Bend,
    /// A gradient without two stops in order.
    #[error("A gradient needs 2 to 32 stops in rising order, with opacities between 0 and 100 %.")]
    Gradient,
    /// A pattern too fine or too coarse.
    #[error("The figures of a pattern lie between half a pixel and 100 in apart.")]
    Pattern,
    /// A picture that would not fill.
    #[error("A picture that fills is at least as large as what it fills, and its focus lies inside it.")]
    PictureFill,
    /// A tie from an item to itself.
    #[error("An item cannot be tied to itself.")]
    TiedToItself,
    /// A distance too long.
    #[error("That is more than 1,000 in.")]
    TieLength,
    /// Opposite in no direction.
    #[error("The opposite place is across, down, or both.")]
    TieOpposite,
    /// A spot outside the picture.
    #[error("The spot lies inside the picture.")]
    TieSpot,
    /// A line from an item to itself.
    #[error("A line needs two different ends.")]
    TieEnds,
    /// A gap too wide.
    #[error("The gap of a stack is at most 1,000 in.")]
    StackGap,
    /// A box below nothing.
    #[error("Width and height are at least 0.")]
    NegativeSize,
    /// A place out of reach.
    #[error("That lies more than 1,000 in away.")]
    FarAway,
    /// A scale outside its range.
    #[error("A part can be scaled to between a ten-thousandth and ten thousand times.")]
    PlaceScale,
    /// A crop outside its range.
    #[error("A picture can be scaled to between 1 and 10,000 % in its frame.")]
    CropZoom,
    /// A crop beside the frame.
    #[error("That moves the picture out of its frame.")]
    CropCentre,
    /// Too many letters.
    #[error("One item holds at most 20,000 letters.")]
    TextLength,
    /// A range of text outside what can be set.
    #[error("A range of text has a weight or size outside what can be set.")]
    RangeStyle,
    /// A focus beside the picture.
    #[error("The focus of a picture lies inside it.")]
    PictureFocus,
    /// A drawing without a box.
    #[error("A drawing has a width and a height.")]
    DrawingBox,
    /// A part of a drawing that is no path data.
    #[error("A part of the drawing cannot be read as path data.")]
    DrawingData,
    /// A drawing with too much in it.
    #[error("A drawing holds at most 20,000 parts and two million letters of path data.")]
    DrawingSize,
    /// A drawing nested too deep to be kept.
    #[error("The groups of a drawing lie at most 24 deep in each other.")]
    DrawingDepth,
    /// Groups nested too deep, or in themselves.
    #[error("Groups lie at most eight deep in each other, and none in itself.")]
    GroupDepth,
    /// Members of a group with something between them.
    #[error("The items of a group lie next to each other.")]
    GroupApart,
    /// Too many ties.
    #[error("An item has at most 8 ties.")]
    TieCount,
    /// Too many stacks, or two of one group.
    #[error("A side has at most 500 stacks, each of another group.")]
    StackCount,
    /// A cut-out with values outside their ranges, or strokes with too many points.
    #[error(
        "A cut-out's edge is softened by at most 2 % and moved by at most 1 % of the picture, and its strokes have at most 12,000 points."
    )]
    CutOut,
    /// A picture set upright in a way that has no sense.
    #[error("A picture is turned by at most 45 degrees, and its four corners go around it clockwise without a dent.")]
    Upright,
    /// A shadow or image on the ground outside its range.
    #[error(
        "The ground lies within a height of the item, and what it throws is at most four times as long as it is high."
    )]
    Ground,
    /// Too many groups with a look, or two looks of one group.
    #[error("At most 500 groups of a side look their own way, each in one.")]
    GroupLookCount,
    /// Too many items.
    #[error("A side holds at most 2,000 items.")]
    ItemCount,
    /// A piece without sides, or with too many.
    #[error("A piece has 1 to 100 sides.")]
    SideCount,
    /// Too many pieces.
    #[error("A job has up to 200 pieces.")]
    PieceCount,
    /// Too much kept aside.
    #[error("A piece keeps at most 500 items aside.")]
    TrayCount,
    /// A release of another kind than what it is released from.
    #[error("Words stay words, pictures stay pictures and shapes stay shapes; replace the item instead.")]
    KindChanged,
    /// Words wanted of an item without any.
    #[error("This item holds no words.")]
    NoWords,
    /// More changes at once than can be kept.
    #[error("That is too many changes at once.")]
    TooManyCommands,
    /// Too many findings set aside, or one without a reason.
    #[error("A job keeps up to 1,000 findings as they are, each with a reason of 1 to 500 letters.")]
    SetAside,
    /// A name of nothing or too long; of what.
    #[error("{0} needs a name of 1 to 200 letters.")]
    Name(&'static str),
    /// A size nothing can be made in.
    #[error(transparent)]
    Format(#[from] FormatError),
    /// Something named that is not there: what, and its identity.
    #[error("That {0} is not in this job any more; it may have been removed elsewhere.")]
    Missing(&'static str, String),
    /// Two of the same identity.
    #[error("That {0} is already in this job.")]
    Twice(&'static str, String),
    /// Something shared that nothing shares any more.
    #[error("A part is used nowhere.")]
    Unused(String),
    /// A typeface that is not at hand.
    #[error("The family \u{201c}{0}\u{201d} is not at hand. Choose one from the list.")]
    UnknownFamily(String),
    /// A picture that is not at hand.
    #[error("A picture of this is not at hand. Bring it to the shelf first.")]
    UnknownPicture(String),
}
