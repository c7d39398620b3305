//! The types of the front end, written from the types of this program.

use std::fmt::Write as _;

use ts_rs::TS;
use vatman_units::Length;

use crate::about::{AboutCard, MadeCard, MadeKind};
use crate::cutting::FoundSubject;
use crate::events::Event;
use crate::print_shop::{OrderState, OrderWish, ShopPaper};
use crate::problem::Problem;
use crate::store::SheetCard;
use crate::types::{
    Act, ActRequest, ActResponse, DarkroomCard, DesignCard, DrawingCard, FileCard, GraphicsFound, GridCard,
    HandOverRequest, HandedCard, JobCard, Kept, KeptSetup, KindOffer, ListCard, ListRow, ListWish, ListedFiles,
    LockUpCard, MeasureRequest, MosaicOf, MosaicRequest, New, NextCard, NextRequest, OpenJob, OrderCard, PictureCard,
    PlaceSet, PlaceWish, PrintCard, PrintCopies, PrintPlace, PrintRequest, PrintWish, QuoteCard, RecipeCard,
    RecipeCodeCard, RepeatCard, SeenCard, SheetStart, ShopCard, StageBunch, StageDelta, StageItem, StartRequest,
    StateCard, StepCard, TextureName, TraceCard, Typed, WayCard,
};
use crate::work::{WorkCard, WorkState};

/// The whole of `web/src/generated/types.ts`.
#[must_use]
pub fn declarations() -> String {
    macro_rules! declare { ($($t:ty),* $(,)?) => { vec![$((<$t as TS>::name(), <$t as TS>::decl())),*] } }
    let own = declare![
        Problem,
        Event,
        WorkCard,
        WorkState,
        StateCard,
        LockUpCard,
        Act,
        New,
        PlaceWish,
        WayCard,
        SeenCard,
        RepeatCard,
        ActRequest,
        ActResponse,
        StageBunch,
        StageItem,
        StageDelta,
        OpenJob,
        JobCard,
        SheetCard,
        DesignCard,
        PictureCard,
        PlaceSet,
        Kept,
        HandedCard,
        StartRequest,
        NextRequest,
        NextCard,
        StepCard,
        GridCard,
        HandOverRequest,
        FileCard,
        MeasureRequest,
        Typed<ts_rs::Dummy>,
        DrawingCard,
        GraphicsFound,
        MosaicOf,
        MosaicRequest,
        DarkroomCard,
        PrintRequest,
        FoundSubject,
        TextureName,
        PrintPlace,
        PrintCard,
        RecipeCard,
        RecipeCodeCard,
        TraceCard,
        MadeKind,
        MadeCard,
        AboutCard,
        PrintCopies,
        PrintWish,
        KeptSetup,
        KindOffer,
        SheetStart,
        ListRow,
        ListCard,
        ListWish,
        ListedFiles,
        ShopPaper,
        OrderWish,
        OrderState,
        ShopCard,
        QuoteCard,
        OrderCard,
    ];
    let all = [
        vatman_document::type_declarations(),
        vatman_type::type_declarations(),
        vatman_scene::type_declarations(),
        vatman_craft::type_declarations(),
        own,
    ];
    let mut out = String::from("// Written from the Rust types by `make types`; do not edit.\n\n");
    for (_, declaration) in all.into_iter().flatten() {
        let _ = writeln!(out, "export {declaration}\n");
    }
    let _ = writeln!(
        out,
        "/** Fine units of a stored length in one inch. */\nexport const FINE_UNITS_PER_INCH = {}",
        Length::PER_INCH
    );
    out
}
