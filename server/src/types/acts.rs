//! What a person does to a job, as it comes over the wire.

use serde::Deserialize;
use ts_rs::TS;
use vatman_craft::{
    AlignEdge, AlignTo, Alike, AreaKind, Axis, BackingChange, BoxNumbers, BrushSetting, Clipping, CodeChange,
    CutChange, CutStroke, EffectChange, FindingKind, FinishChange, Gift, Grip, GroupChange, GroupLight, GuideChange,
    InkKind, Layer, LetterStyle, LineChange, MosaicRoom, Order, PutOn, Repair, StackChange, TraceWish, TypeChange,
    UprightChange,
};
use vatman_document::{
    AssetId, Blend, BoxEdge, CodeWords, Color, Combine, Direction, Drawing, Focus, GroupId, Ink, ItemId, Outline,
    Paint, Part, PenPoint, PictureFit, PieceId, Property, SideId, StyleChange, SwatchId, Tie, Tint, Treatment,
};
use vatman_units::{Angle, Length, Point, Ratio, Rect};

const fn once() -> u16 {
    1
}

/// A place a piece is wanted for.
#[derive(Debug, Clone, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct PlaceWish {
    /// An entry of the catalogue, or a size as typed.
    pub place: String,
    /// The number of the way it is arranged in; without one the best.
    #[serde(default)]
    #[ts(optional)]
    pub way: Option<usize>,
}

/// Something a person does to a job.
#[derive(Debug, Clone, Deserialize, TS)]
#[allow(clippy::large_enum_variant, reason = "one at a time")]
#[serde(tag = "act", rename_all = "camelCase", deny_unknown_fields)]
pub enum Act {
    /// Renames the job.
    SetTitle {
        /// 1 to 200 letters.
        title: String,
    },
    /// Says something else, keeping the styles around what changed.
    Say {
        /// The item with words.
        item: ItemId,
        /// The whole text.
        text: String,
    },
    /// Changes the style of some letters.
    StyleLetters {
        /// The item with words.
        item: ItemId,
        /// Where it begins, in UTF-16 units of the typed text.
        from: usize,
        /// Where it ends.
        to: usize,
        /// What changes.
        change: StyleChange,
    },
    /// Turns a style of some letters over.
    ToggleLetters {
        /// The item with words.
        item: ItemId,
        /// Where it begins, in UTF-16 units of the typed text.
        from: usize,
        /// Where it ends.
        to: usize,
        /// Which style.
        style: LetterStyle,
    },
    /// Changes how words are set.
    ChangeType {
        /// Which.
        items: Vec<ItemId>,
        /// What changes.
        change: TypeChange,
    },
    /// Paints items.
    SetFill {
        /// Which.
        items: Vec<ItemId>,
        /// Nothing takes the fill away.
        fill: Option<Paint>,
    },
    /// Sets the opacity of items as a whole.
    SetOpacity {
        /// Which.
        items: Vec<ItemId>,
        /// 0 to 1.
        opacity: Ratio,
    },
    /// Sets how items mix with what lies below.
    SetBlend {
        /// Which.
        items: Vec<ItemId>,
        /// How.
        blend: Blend,
    },
    /// Blurs what lies behind items.
    SetFrost {
        /// Which.
        items: Vec<ItemId>,
        /// As seen in the piece; nothing lets it be seen as it is.
        blur: Option<Length>,
    },
    /// Changes the lines of items, or takes them away.
    ChangeLine {
        /// Which.
        items: Vec<ItemId>,
        /// What changes; nothing takes the lines away.
        change: Option<LineChange>,
    },
    /// Gives items something they do not have.
    Give {
        /// Which.
        items: Vec<ItemId>,
        /// What.
        gift: Gift,
    },
    /// Changes one effect of the first item, and the same one of the others.
    ChangeEffect {
        /// Which.
        items: Vec<ItemId>,
        /// Its place in the list of the first.
        index: usize,
        /// What changes.
        change: EffectChange,
    },
    /// Takes one effect of the first item away, and the same one of the others.
    DropEffect {
        /// Which.
        items: Vec<ItemId>,
        /// Its place in the list of the first.
        index: usize,
    },
    /// Adds a step to what is done to pictures, as it starts.
    AddStep {
        /// Which.
        items: Vec<ItemId>,
        /// The group they are, where it is treated as a whole.
        #[serde(default)]
        #[ts(optional)]
        group: Option<GroupId>,
        /// The kind of step.
        kind: String,
        /// The picture that is laid over, for the kind that does.
        #[serde(default)]
        #[ts(optional)]
        over: Option<AssetId>,
    },
    /// Changes a step of the first item, and the same one of the others.
    SetStep {
        /// Which.
        items: Vec<ItemId>,
        /// The group they are, where it is treated as a whole.
        #[serde(default)]
        #[ts(optional)]
        group: Option<GroupId>,
        /// Its place in the list of the first.
        at: usize,
        /// What it becomes.
        step: Treatment,
    },
    /// Takes out a step of the first item, and the same one of the others.
    DropStep {
        /// Which.
        items: Vec<ItemId>,
        /// The group they are, where it is treated as a whole.
        #[serde(default)]
        #[ts(optional)]
        group: Option<GroupId>,
        /// Its place in the list of the first.
        at: usize,
    },
    /// Moves a step of the first item, and the same one of the others.
    MoveStep {
        /// Which.
        items: Vec<ItemId>,
        /// The group they are, where it is treated as a whole.
        #[serde(default)]
        #[ts(optional)]
        group: Option<GroupId>,
        /// Its place in the list of the first.
        at: usize,
        /// Where it goes.
        to: usize,
    },
    /// Treats pictures in exactly these steps.
    SetSteps {
        /// Which.
        items: Vec<ItemId>,
        /// The group they are, where it is treated as a whole.
        #[serde(default)]
        #[ts(optional)]
        group: Option<GroupId>,
        /// In order.
        steps: Vec<Treatment>,
    },
    /// Treats pictures by a recipe that ships.
    TakeRecipe {
        /// Which.
        items: Vec<ItemId>,
        /// The group they are, where it is treated as a whole.
        #[serde(default)]
        #[ts(optional)]
        group: Option<GroupId>,
        /// Its name.
        name: String,
        /// How much of it.
        strength: Ratio,
    },
    /// Treats the other pictures of the side, or of the whole job, as this one.
    TreatAlike {
        /// Which.
        item: ItemId,
        /// Those of every piece.
        everywhere: bool,
    },
    /// Stretches the tones of a picture over the whole range.
    AutoLevels {
        /// Which.
        item: ItemId,
        /// The group they are, where it is treated as a whole.
        #[serde(default)]
        #[ts(optional)]
        group: Option<GroupId>,
    },
    /// Makes what is seen at a point of a picture grey.
    MakeNeutral {
        /// Which.
        item: ItemId,
        /// The group they are, where it is treated as a whole.
        #[serde(default)]
        #[ts(optional)]
        group: Option<GroupId>,
        /// The point.
        at: Focus,
    },
    /// Adds an area to the mask of a step.
    MaskArea {
        /// Which.
        items: Vec<ItemId>,
        /// The group they are, where it is treated as a whole.
        #[serde(default)]
        #[ts(optional)]
        group: Option<GroupId>,
        /// The place of the step in the list of the first.
        at: usize,
        /// The kind of area.
        kind: AreaKind,
        /// Where the hand went, in fractions of what is treated.
        way: Vec<Focus>,
    },
    /// Adds what was found to be the subject to the mask of a step of a picture.
    MaskSubject {
        /// Which.
        item: ItemId,
        /// The place of the step in its list.
        at: usize,
        /// The mask that was found.
        mask: AssetId,
    },
    /// Paints a stroke into the mask of a step.
    MaskStroke {
        /// Which.
        items: Vec<ItemId>,
        /// The group they are, where it is treated as a whole.
        #[serde(default)]
        #[ts(optional)]
        group: Option<GroupId>,
        /// The place of the step in the list of the first.
        at: usize,
        /// The brush.
        brush: BrushSetting,
        /// Where the hand went, in fractions of what is treated.
        way: Vec<Focus>,
    },
    /// Fills what a stroke covers of a picture from its surroundings.
    PaintSpot {
        /// Which.
        item: ItemId,
        /// The place of the step in its list.
        at: usize,
        /// The brush.
        brush: BrushSetting,
        /// Where the hand went, in fractions of the picture.
        way: Vec<Focus>,
    },
    /// Takes back the spot that was filled last.
    DropSpot {
        /// Which.
        item: ItemId,
        /// The place of the step in its list.
        at: usize,
    },
    /// Changes how a picture is set upright.
    SetUpright {
        /// Which.
        item: ItemId,
        /// What changes.
        change: UprightChange,
    },
    /// Turns a picture so that its long edges lie level and upright.
    LevelPicture {
        /// Which.
        item: ItemId,
    },
    /// Cuts the frame of a picture to proportions.
    CutTo {
        /// Which.
        item: ItemId,
        /// Width; 0 for the proportions of the picture.
        across: u32,
        /// Height.
        down: u32,
    },
    /// Puts what is seen of a picture in its place as outlines.
    Trace {
        /// Which.
        item: ItemId,
        /// How.
        wish: TraceWish,
    },
    /// Puts a cut-out on a ground of its own.
    PutOn {
        /// Which.
        item: ItemId,
        /// On what.
        on: PutOn,
    },
    /// Changes what light does to a group as a whole.
    LightGroup {
        /// Which.
        group: GroupId,
        /// How.
        light: GroupLight,
    },
    /// Shows only what a mask says of the picture of an item.
    CutOut {
        /// Which.
        item: ItemId,
        /// The mask that was found.
        mask: AssetId,
    },
    /// Adds a stroke to the cut-out of a picture.
    CutStroke {
        /// Which.
        item: ItemId,
        /// What it says.
        kind: CutStroke,
        /// The brush.
        brush: BrushSetting,
        /// Where the hand went, in fractions of the picture.
        way: Vec<Focus>,
    },
    /// Changes the edge of the cut-out of a picture.
    ChangeCut {
        /// Which.
        item: ItemId,
        /// What changes.
        change: CutChange,
    },
    /// Shows all of the picture of an item again.
    ShowWhole {
        /// Which.
        item: ItemId,
    },
    /// Puts the subject of a picture in front of everything on its side.
    SubjectInFront {
        /// Which.
        item: ItemId,
        /// The mask that was found.
        mask: AssetId,
    },
    /// Changes how a group looks as a whole.
    ChangeGroupLook {
        /// Which.
        group: GroupId,
        /// What changes.
        change: GroupChange,
    },
    /// Puts something over everything that can treat all that lies below it.
    AddOver {
        /// The side.
        side: SideId,
    },
    /// Changes what lies behind words, or takes it away.
    ChangeBacking {
        /// Which.
        items: Vec<ItemId>,
        /// What changes; nothing takes it away.
        change: Option<BackingChange>,
    },
    /// Gives a shape or a frame another outline.
    SetOutline {
        /// Which.
        item: ItemId,
        /// The outline; its lengths are those at a place scale of one.
        outline: Outline,
    },
    /// Combines the shapes one is made of in another way.
    CombineOtherwise {
        /// Which.
        item: ItemId,
        /// How.
        how: Combine,
    },
    /// Lets an item keep words, picture and look for itself, or share them again.
    Release {
        /// Which.
        item: ItemId,
        /// Whether it is on its own from now on.
        own: bool,
    },
    /// How a picture takes up its frame.
    SetFit {
        /// The frame.
        item: ItemId,
        /// How.
        fit: PictureFit,
    },
    /// Says what matters in a picture: it stays in view whatever shape its frame has.
    SetFocus {
        /// The frame.
        item: ItemId,
        /// A point of the sheet where it is seen.
        at: Point,
    },
    /// Lets a picture cover its frame about its focus again.
    Refit {
        /// The frame.
        item: ItemId,
    },
    /// Turns or mirrors a picture inside its frame.
    TurnPicture {
        /// The frame.
        item: ItemId,
        /// Clockwise.
        #[ts(optional)]
        turn: Option<Angle>,
        /// Mirrored left to right.
        #[ts(optional)]
        flip: Option<bool>,
    },
    /// Moves items.
    Move {
        /// Which; locked ones stay.
        items: Vec<ItemId>,
        /// To the right.
        dx: Length,
        /// Down.
        dy: Length,
    },
    /// Resizes an item by a handle.
    Resize {
        /// Which.
        item: ItemId,
        /// Its new box, before its turn about the middle.
        to: Rect,
        /// The handle.
        grip: Grip,
        /// Whether a cell of an arrangement leaves its neighbours as they are.
        #[serde(default)]
        apart: bool,
    },
    /// Sets position or size by number.
    SetBox {
        /// Which.
        item: ItemId,
        /// What is set.
        numbers: BoxNumbers,
    },
    /// Turns one item to an angle.
    TurnTo {
        /// Which.
        item: ItemId,
        /// Clockwise.
        turn: Angle,
    },
    /// Mirrors items in their places.
    Mirror {
        /// Which.
        items: Vec<ItemId>,
    },
    /// Locks, frees, hides or shows items.
    SetFlags {
        /// Which.
        items: Vec<ItemId>,
        /// Cannot be picked on the stage.
        #[ts(optional)]
        locked: Option<bool>,
        /// Neither shown nor exported.
        #[ts(optional)]
        hidden: Option<bool>,
    },
    /// Names an item, or calls it after its words or part again.
    NameItem {
        /// Which.
        item: ItemId,
        /// 1 to 200 letters.
        name: Option<String>,
    },
    /// Puts an item right below another of its side, or in front of everything.
    PutBelow {
        /// Which.
        item: ItemId,
        /// What it goes below; nothing means in front of everything.
        other: Option<ItemId>,
    },
    /// Lets go of a tie.
    DropTie {
        /// The item.
        item: ItemId,
        /// Its place in the list.
        index: usize,
    },
    /// Sets the distance a tie holds.
    SetTieLength {
        /// The item.
        item: ItemId,
        /// Its place in the list.
        index: usize,
        /// The distance, or how much longer.
        length: Length,
    },
    /// Changes how a stack spaces itself; nothing dissolves it.
    ChangeStack {
        /// The side.
        side: SideId,
        /// The group that is a stack.
        group: GroupId,
        /// What changes; nothing lets its members space freely again.
        change: Option<StackChange>,
    },
    /// Changes margins, columns, rows or grid.
    ChangeGuides {
        /// The piece.
        piece: PieceId,
        /// What changes.
        change: GuideChange,
    },
    /// Adds a line to lay things out by.
    AddGuide {
        /// The piece.
        piece: PieceId,
        /// Upright or level.
        upright: bool,
        /// Where; nothing means in the middle.
        #[ts(optional)]
        at: Option<Length>,
    },
    /// Moves a line, or takes it away.
    MoveGuide {
        /// The piece.
        piece: PieceId,
        /// Its place in the list.
        index: usize,
        /// Where to; nothing, or beside the sheet, takes it away.
        at: Option<Length>,
    },
    /// The same guides in every piece.
    SpreadGuides {
        /// The piece that has them.
        piece: PieceId,
    },
    /// Sets what lies under everything on a side.
    SetGround {
        /// The side.
        side: SideId,
        /// Nothing makes the sheet clear.
        ground: Option<Paint>,
    },
    /// The ground of a side on every side of its piece.
    SpreadGround {
        /// The side that has it.
        side: SideId,
    },
    /// Adds a shared colour.
    AddColour {
        /// Its name.
        name: String,
        /// The colour.
        color: Color,
    },
    /// Gives a shared colour the value of another colour.
    Recolour {
        /// Which.
        id: SwatchId,
        /// The colour it becomes.
        to: Tint,
    },
    /// Says what a shared colour is printed with.
    SetInk {
        /// Which.
        id: SwatchId,
        /// The ink; nothing leaves it to the print shop.
        ink: Option<Ink>,
    },
    /// Changes a code.
    ChangeCode {
        /// Which item.
        item: ItemId,
        /// What becomes of it.
        change: CodeChange,
    },
    /// Gives a shared colour an ink to begin with.
    GiveInk {
        /// Which.
        id: SwatchId,
        /// What kind of ink.
        kind: InkKind,
    },
    /// Changes what is done to a piece beside trimming.
    ChangeFinish {
        /// Which.
        piece: PieceId,
        /// What becomes of it.
        change: FinishChange,
    },
    /// Renames a shared colour.
    RenameColour {
        /// Which.
        id: SwatchId,
        /// 1 to 200 letters.
        name: String,
    },
    /// Takes a side away.
    RemoveSide {
        /// Which.
        side: SideId,
    },
    /// Renames a side.
    RenameSide {
        /// Which.
        side: SideId,
        /// 1 to 200 letters.
        name: String,
    },
    /// Renames a piece.
    RenamePiece {
        /// Which.
        piece: PieceId,
        /// 1 to 200 letters.
        name: String,
    },
    /// Adds pieces for other places, each arranged anew from what the job says and shows.
    AddPieces {
        /// Where they go.
        places: Vec<PlaceWish>,
        /// The piece they are arranged like; without one the nearest in shape.
        #[serde(default)]
        #[ts(optional)]
        from: Option<PieceId>,
    },
    /// Adds a copy of a piece.
    DuplicatePiece {
        /// Which.
        piece: PieceId,
    },
    /// Makes a piece one for another place, and arranges it anew.
    ChangeFormat {
        /// Which.
        piece: PieceId,
        /// An entry of the catalogue, or a size as typed.
        place: String,
    },
    /// Arranges a piece in another of the ways that are offered for it.
    ArrangeOtherwise {
        /// Which.
        piece: PieceId,
        /// The number of the way.
        way: usize,
    },
    /// Arranges pieces like another.
    ArrangeLike {
        /// Which.
        pieces: Vec<PieceId>,
        /// The model.
        like: PieceId,
        /// What was placed by hand is arranged as well.
        #[serde(default)]
        #[ts(optional, as = "Option<bool>")]
        all: bool,
    },
    /// Puts items that were placed by hand where the arrangement of their piece has them.
    FollowAgain {
        /// Which, all of one piece.
        items: Vec<ItemId>,
    },
    /// Puts an item into every other piece that does not have it.
    AddElsewhere {
        /// Which.
        item: ItemId,
    },
    /// Takes items off every piece they stand in, and keeps them in the trays.
    RemoveEverywhere {
        /// Which.
        items: Vec<ItemId>,
    },
    /// Lets an item keep a property of its look for itself from now on, or share it again.
    KeepProperty {
        /// Which item.
        item: ItemId,
        /// Which property.
        property: Property,
        /// Whether it is its own.
        own: bool,
    },
    /// Lets an item keep what it says or shows for itself from now on, or share it again.
    KeepContent {
        /// Which item.
        item: ItemId,
        /// Whether it is its own.
        own: bool,
    },
    /// Gives the whole job another design, with what was added by hand kept.
    Redesign {
        /// Which.
        design: String,
    },
    /// Puts right what was found about an item.
    PutRight {
        /// On which side.
        side: SideId,
        /// With which item; nothing where it is about the side as a whole.
        #[serde(default)]
        #[ts(optional)]
        item: Option<ItemId>,
        /// What was the matter.
        kind: FindingKind,
        /// As it was said.
        says: String,
    },
    /// Repeats the last move in other pieces in which it means the same.
    RepeatMove {
        /// Which.
        pieces: Vec<PieceId>,
    },
    /// Whether words are asked for when the next of a series is made.
    AskNextTime {
        /// An item that says them.
        item: ItemId,
        /// Whether so.
        asked: bool,
    },
    /// Lets a finding be as it is, or (without a reason) be said again.
    SetAside {
        /// Its key.
        finding: String,
        /// Why it may stay.
        reason: Option<String>,
    },
    /// Takes a piece away.
    RemovePiece {
        /// Which.
        piece: PieceId,
    },
    /// Changes the order of the pieces.
    MovePiece {
        /// Which.
        piece: PieceId,
        /// Its new position, from 0.
        index: usize,
    },
    /// Adds a back with what a side says about its maker.
    AddBack {
        /// The side.
        after: SideId,
    },
    /// Changes the order of the sides of a piece.
    MoveSide {
        /// Which.
        side: SideId,
        /// Its new position, from 0.
        index: usize,
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
        /// Where its middle comes to lie; where there is room, if nothing is said.
        #[serde(default)]
        #[ts(optional)]
        at: Option<Point>,
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
        /// Where the middle of it comes to lie; where it was copied from, if nothing is said.
        #[serde(default)]
        #[ts(optional)]
        at: Option<Point>,
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
    /// Gives frames that are arranged already another arrangement, or other gaps, margin and corners.
    Rearrange {
        /// The frames, in their order.
        items: Vec<ItemId>,
        /// Gaps, margin and corners.
        room: MosaicRoom,
        /// The number of the arrangement among those that are offered, from 0; nothing keeps the one it is.
        number: Option<usize>,
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
        /// What it says at once; nothing shows a prompt.
        #[serde(default)]
        #[ts(optional)]
        text: Option<String>,
    },
    /// A panel over the whole sheet.
    Panel,
    /// Lines drawn by hand.
    Hand {
        /// The lines, as the pen made them.
        lines: Vec<Vec<PenPoint>>,
        /// Thickness where it was pressed hardest; nothing suits the sheet.
        #[serde(default)]
        #[ts(optional)]
        thickness: Option<Length>,
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
    /// A graphic of the shelf; one with an opening brings words to stand in it.
    Graphic {
        /// Which.
        graphic: String,
        /// Words an opening is put around, instead of new ones.
        #[serde(default)]
        #[ts(optional)]
        around: Option<ItemId>,
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
    /// A code to scan.
    Code {
        /// What it says.
        says: CodeWords,
    },
    /// A drawing brought by the person.
    Drawing {
        /// As it was read.
        drawing: Drawing,
    },
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

impl Act {
    /// Whether it shows pictures that were not shown there before.
    #[must_use]
    pub const fn brings_pictures(&self) -> bool {
        matches!(
            self,
            Self::Add { .. } | Self::Show { .. } | Self::ArrangePictures { .. } | Self::ReplaceRemoved { .. }
        )
    }

    /// Whether what it places is placed by hand, and stays when its piece is arranged anew.
    #[must_use]
    pub const fn places_by_hand(&self) -> bool {
        matches!(
            self,
            Self::Move { .. }
                | Self::Resize { .. }
                | Self::SetBox { .. }
                | Self::TurnTo { .. }
                | Self::Mirror { .. }
                | Self::Align { .. }
                | Self::Distribute { .. }
                | Self::MatchSize { .. }
                | Self::Tidy { .. }
                | Self::Scale { .. }
                | Self::Turn { .. }
                | Self::MoveEdge { .. }
                | Self::Rearrange { .. }
                | Self::Crop { .. }
                | Self::CutTo { .. }
                | Self::RepeatMove { .. }
        )
    }
}
