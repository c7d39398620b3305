//! What the trade knows: places and their formats, designs and how they are composed for any shape and
//! any words, reading order, names of files, and handing over.

mod adapt;
mod arrange;
mod bring;
mod check;
mod compose;
mod darkroom;
mod edit;
mod goods;
mod hand_over;
mod list;
mod look;
mod paper;
mod pictures;
mod refusal;
mod studio;
#[cfg(test)]
mod testing;

pub use adapt::*;
pub use arrange::*;
pub use bring::*;
pub use check::*;
pub use compose::*;
pub use darkroom::*;
pub use edit::*;
pub use goods::*;
pub use hand_over::*;
pub use list::*;
pub use look::*;
pub use paper::*;
pub use pictures::*;
pub use refusal::Refusal;
pub use studio::Studio;

/// Every type the front end sees.
#[must_use]
pub fn type_declarations() -> Vec<(String, String)> {
    use ts_rs::TS;
    macro_rules! declare { ($($t:ty),* $(,)?) => { vec![$((<$t as TS>::name(), <$t as TS>::decl())),*] } }
    declare![
        Order,
        Shown,
        FieldCard,
        KindCard,
        Recipe,
        Tones,
        Gift,
        StackChange,
        GroupChange,
        GroupLight,
        UprightChange,
        PutOn,
        TraceWish,
        AreaKind,
        CutStroke,
        CutChange,
        BrushSetting,
        EffectChange,
        BackingChange,
        LineChange,
        GuideChange,
        BoxNumbers,
        Grip,
        Handles,
        FitKind,
        CurveKind,
        TypeChange,
        LetterStyle,
        Finding,
        Checked,
        Eyes,
        ItemFinding,
        Sight,
        FindingKind,
        Likeness,
        Palette,
        FileWords,
        Layer,
        Mosaic,
        crate::pictures::Arrangements,
        MosaicRoom,
        Clipped,
        Clipping,
        GraphicCard,
        GraphicSet,
        Ask,
        PlaceEntry,
        crate::compose::Cover,
        PlaceFound,
        Asked,
        Changing,
        NextOf,
        Pace,
        OwnFormat,
        Grid,
        NamePattern,
        CopyLine,
        FileKind,
        AlignEdge,
        AlignTo,
        Axis,
        Alike,
        SnapReason,
        GuideMark,
        SnapStretch,
        SnapRange,
        SnapStop,
        SnapStops,
        Verdict,
        Repair,
        Reading,
        UsedColour,
        SideColours,
        vatman_imposition::Margins,
        vatman_imposition::Marks,
        vatman_imposition::Turning,
        vatman_imposition::PaperTurn,
        vatman_imposition::BackStands,
        vatman_imposition::LabelStock,
        vatman_imposition::Cuts,
        vatman_imposition::PaperKind,
        CodeChange,
        FinishChange,
        InkKind,
        ProofColour,
        ProofPicture,
        ProofCard,
        Good,
        GoodArea,
        ClothCard,
        ListColumn,
        ListField,
        Filling,
        Fills,
        BadRow,
        SheetKind,
        Backs,
        SheetSetup,
        PositionCard,
        FittedSize,
        PlanStep,
        Tight,
        PlanCard
    ]
}
