//! Which side lies where on which sheet.

use kurbo::Affine;
use vatman_document::{Job, Piece, PieceId, Record, SideId};
use vatman_imposition::{
    Leaf, Margins, Paper, PaperTurn, Room, SheetError, Spot, Wanted, booklet, fill, fill_mixed, poster,
};
use vatman_units::{Length, Rect, Size};

use crate::paper::setup::{Backs, SheetKind, SheetSetup};
use crate::refusal::Refusal;

/// So many copies of a piece.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Copies {
    /// Which.
    pub piece: PieceId,
    /// How many; nothing fills one sheet.
    pub count: Option<u32>,
}

/// What is printed.
pub struct Printed<'a> {
    /// The job.
    pub job: &'a Job,
    /// Which pieces of it.
    pub copies: &'a [Copies],
    /// One copy for each of these, where they are made from a list; they go on in the order of the list.
    pub records: Option<&'a [Record]>,
}

/// A side, or a part of it, on a face of a sheet.
#[derive(Debug, Clone, PartialEq)]
pub struct PlacedSide {
    /// Which piece.
    pub piece: PieceId,
    /// Which side.
    pub side: SideId,
    /// The row of the list it is filled from.
    pub record: Option<usize>,
    /// From the trim of the side to the sheet, in CSS pixels.
    pub at: Affine,
    /// What of the side is seen, in its own coordinates.
    pub seen: Rect,
    /// Where its trim, or its part, lies on the sheet.
    pub trim: Rect,
    /// By how many quarters it is turned.
    pub quarters: u8,
}

/// A sheet of paper.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct PlannedSheet {
    /// On its front.
    pub front: Vec<PlacedSide>,
    /// On its back; nothing where that stays blank.
    pub back: Option<Vec<PlacedSide>>,
    /// What stands beside what is printed, to tell sheets apart.
    pub label: String,
}

/// All sheets.
#[derive(Debug, Clone, PartialEq)]
pub struct PrintPlan {
    /// The paper, as it lies.
    pub paper: Paper,
    /// Bleed that pieces carry, at the scale they are printed at.
    pub bleed: Length,
    /// In the order they are printed.
    pub sheets: Vec<PlannedSheet>,
    /// Where the paper itself is folded: whether from top to bottom, and where.
    pub folds: Vec<(bool, Length)>,
    /// At how much of its size a piece is printed.
    pub scale: f64,
    /// How many pieces a whole sheet of the first kind holds.
    pub up: usize,
}

/// Lays pieces on sheets.
///
/// # Errors
/// [`Refusal`] where a piece is not there, or does not fit the paper.
pub fn plan_sheets(printed: &Printed<'_>, setup: &SheetSetup) -> Result<PrintPlan, Refusal> {
    let find = |copies: &Copies| {
        let missing = || Refusal::Missing("piece", copies.piece.to_string());
        printed.job.piece(&copies.piece).map(|piece| (piece, copies.count)).ok_or_else(missing)
    };
    let pieces: Vec<(&Piece, Option<u32>)> = printed.copies.iter().map(find).collect::<Result<_, _>>()?;
    let Some((first, _)) = pieces.first().copied() else { return Err(Refusal::NothingSelected) };
    let mut plans = Vec::new();
    let mut refused = None;
    for paper in setup.papers()? {
        let plan = match setup.kind {
            SheetKind::Fill => filled(printed, &pieces, setup, paper),
            SheetKind::Labels { stock } => {
                stock.spots(paper.size, first.format.size).map_err(Refusal::from).and_then(|spots| {
                    let room = Room::new(Rect::of(paper.size), Length::ZERO, Length::ZERO, setup.turning);
                    on_spots(printed, first, &spots, setup, paper, room)
                })
            }
            SheetKind::Booklet { thickness } => pages(first, setup, paper, thickness),
            SheetKind::Poster { overlap } => tiles(first, setup, paper, overlap),
            SheetKind::Quarters => quarters(first, setup, paper),
        };
        match plan {
            Ok(plan) => plans.push(plan),
            Err(error) => refused = refused.or(Some(error)),
        }
    }
    // Fewer sheets, then larger pieces, then more of a piece on one, then fewer turned ones; upright paper first.
    let turned = |plan: &PrintPlan| {
        plan.sheets.first().map_or(0, |sheet| sheet.front.iter().filter(|side| side.quarters % 2 == 1).count())
    };
    let smaller = |plan: &PrintPlan| (-plan.scale * 1e6).round() as i64;
    let best =
        plans.into_iter().min_by_key(|plan| (plan.sheets.len(), smaller(plan), usize::MAX - plan.up, turned(plan)));
    let mut plan = best.ok_or_else(|| refused.unwrap_or(Refusal::NothingSelected))?;
    if let Some(backs) = setup.backs.filter(|backs| backs.off != vatman_units::Point::default()) {
        for side in plan.sheets.iter_mut().filter_map(|sheet| sheet.back.as_mut()).flatten() {
            moved(side, -backs.off.x, -backs.off.y);
        }
    }
    if setup.mirrored {
        let wide = plan.paper.size.w.to_css_px();
        let mirror = Affine::new([-1.0, 0.0, 0.0, 1.0, wide, 0.0]);
        for side in
            plan.sheets.iter_mut().flat_map(|sheet| sheet.front.iter_mut().chain(sheet.back.iter_mut().flatten()))
        {
            side.at = mirror * side.at;
            side.trim.x = plan.paper.size.w - side.trim.right();
        }
    }
    Ok(plan)
}

fn moved(side: &mut PlacedSide, dx: Length, dy: Length) {
    side.trim = side.trim.moved(dx, dy);
    side.at = Affine::translate((dx.to_css_px(), dy.to_css_px())) * side.at;
}

fn scaled(size: Size, by: f64) -> Size {
    Size::new(size.w.scaled(by), size.h.scaled(by))
}

/// What is the same for every piece that is laid.
#[derive(Clone, Copy)]
struct Laying<'a> {
    setup: &'a SheetSetup,
    paper: Paper,
    /// What pieces carry, at the scale they are printed at.
    bleed: Length,
}

impl Laying<'_> {
    /// A whole side at a spot. What is seen is its trim and the bleed it carries.
    fn whole(self, piece: &Piece, side: usize, spot: Spot, record: Option<usize>) -> Option<PlacedSide> {
        let side = piece.sides.get(side)?;
        let by = self.setup.factor();
        let carried = piece.format.bleed.min(self.bleed.scaled(1.0 / by));
        Some(PlacedSide {
            piece: piece.id.clone(),
            side: side.id.clone(),
            record,
            at: spot.place() * Affine::scale(by),
            seen: Rect::of(piece.format.size).outset(carried),
            trim: spot.trim,
            quarters: spot.quarters,
        })
    }

    /// Front and back of a leaf, the back exactly behind the front.
    fn leaf(
        self,
        sheet: &mut PlannedSheet,
        piece: &Piece,
        (front, back): (usize, Option<usize>),
        spot: Spot,
        record: Option<usize>,
    ) {
        sheet.front.extend(self.whole(piece, front, spot, record));
        if let (Some(backs), Some(back)) = (self.setup.backs, back) {
            let behind = spot.back(self.paper.size, backs.turn, backs.stands);
            sheet.back.get_or_insert_default().extend(self.whole(piece, back, behind, record));
        }
    }
}

/// A leaf of a piece: the sides of its front and back. Pieces of more than two sides have several.
fn leaves(piece: &Piece, backs: bool) -> Vec<(usize, Option<usize>)> {
    if backs {
        (0..piece.sides.len()).step_by(2).map(|at| (at, (at + 1 < piece.sides.len()).then_some(at + 1))).collect()
    } else {
        (0..piece.sides.len()).map(|at| (at, None)).collect()
    }
}

/// The spots of a sheet, so that together they stand in the middle of the paper, as far as the printer reaches.
fn centred(spots: &mut [(usize, Spot)], paper: &Paper, bleed: Length) {
    let boxes = spots.iter().map(|(_, spot)| spot.trim.outset(bleed));
    let Some(all) = boxes.reduce(|a, b| {
        let (x, y) = (a.x.min(b.x), a.y.min(b.y));
        Rect::new(x, y, a.right().max(b.right()) - x, a.bottom().max(b.bottom()) - y)
    }) else {
        return;
    };
    let area = paper.printable();
    let within = |want: Length, least: Length, most: Length| want.max(least).min(most.max(least));
    let x = within((paper.size.w - all.w).half(), area.x, area.right() - all.w);
    let y = within((paper.size.h - all.h).half(), area.y, area.bottom() - all.h);
    spots.iter_mut().for_each(|(_, spot)| *spot = spot.moved(x - all.x, y - all.y));
}

fn filled(
    printed: &Printed<'_>,
    pieces: &[(&Piece, Option<u32>)],
    setup: &SheetSetup,
    paper: Paper,
) -> Result<PrintPlan, Refusal> {
    let by = setup.factor();
    let bleed = if setup.bleed {
        pieces.iter().map(|(piece, _)| piece.format.bleed.scaled(by)).max().unwrap_or(Length::ZERO)
    } else {
        Length::ZERO
    };
    let room = Room::new(paper.printable(), setup.gap, bleed, setup.turning);
    if let [(piece, None)] = pieces
        && printed.records.is_none()
        && leaves(piece, setup.backs.is_some()).len() == 1
    {
        let spots = fits(&room, scaled(piece.format.size, by), &paper)?;
        return on_spots(printed, piece, &spots, setup, paper, room);
    }
    // Every leaf of every piece is a kind of its own.
    let mut kinds: Vec<(&Piece, (usize, Option<usize>))> = Vec::new();
    let mut wanted = Vec::new();
    for (piece, count) in pieces {
        for leaf in leaves(piece, setup.backs.is_some()) {
            let count = match (printed.records, count) {
                (Some(records), _) => u32::try_from(records.len()).unwrap_or(u32::MAX),
                (None, Some(count)) => *count,
                (None, None) => 1,
            };
            kinds.push((piece, leaf));
            wanted.push(Wanted { size: scaled(piece.format.size, by), count });
        }
    }
    let up = fits(&room, wanted[0].size, &paper)?.len();
    let laying = Laying { setup, paper, bleed };
    let mut next = vec![0usize; kinds.len()];
    let mut sheets = Vec::new();
    let filled = fill_mixed(&room, &wanted)?;
    // A piece that is alone on every sheet stands in the middle; one left over stays where those before it were cut.
    let alone = filled.iter().all(|spots| spots.len() == 1);
    for mut spots in filled {
        if setup.middle || alone {
            centred(&mut spots, &paper, bleed);
        }
        let mut sheet = PlannedSheet::default();
        for (kind, spot) in spots {
            let record = printed.records.map(|_| next[kind]);
            next[kind] += 1;
            let (piece, leaf) = kinds[kind];
            laying.leaf(&mut sheet, piece, leaf, spot, record);
        }
        sheets.push(sheet);
    }
    Ok(PrintPlan { paper, bleed, sheets, folds: Vec::new(), scale: by, up })
}

fn too_large(size: Size, room: Size) -> Refusal {
    let label = |size: Size| format!("{:.1} \u{d7} {:.1} mm", size.w.to_mm(), size.h.to_mm());
    SheetError::TooLarge(label(size), label(room)).into()
}

fn fits(room: &Room, size: Size, paper: &Paper) -> Result<Vec<Spot>, Refusal> {
    let spots = fill(room, size);
    if spots.is_empty() {
        return Err(too_large(size, paper.printable().size()));
    }
    Ok(spots)
}

/// Copies of one piece on the same spots of sheet after sheet.
fn on_spots(
    printed: &Printed<'_>,
    piece: &Piece,
    spots: &[Spot],
    setup: &SheetSetup,
    paper: Paper,
    room: Room,
) -> Result<PrintPlan, Refusal> {
    let mut spots: Vec<(usize, Spot)> = spots.iter().map(|spot| (0, *spot)).collect();
    if (setup.middle || spots.len() == 1) && setup.kind == SheetKind::Fill {
        centred(&mut spots, &paper, room.bleed);
    }
    let count = match (printed.records, printed.copies.first().and_then(|copies| copies.count)) {
        (Some(records), _) => records.len(),
        (None, Some(count)) => count as usize,
        (None, None) => spots.len(),
    };
    if count > 50_000 {
        return Err(SheetError::TooMany(50_000).into());
    }
    let laying = Laying { setup, paper, bleed: room.bleed };
    let mut sheets = Vec::new();
    for leaf in leaves(piece, setup.backs.is_some()) {
        for first in (0..count).step_by(spots.len().max(1)) {
            let mut sheet = PlannedSheet::default();
            for (at, (_, spot)) in spots.iter().enumerate().take(count - first) {
                let record = printed.records.map(|_| first + at);
                laying.leaf(&mut sheet, piece, leaf, *spot, record);
            }
            sheets.push(sheet);
        }
    }
    Ok(PrintPlan { paper, bleed: room.bleed, sheets, folds: Vec::new(), scale: setup.factor(), up: spots.len() })
}

/// A part of a side at a corner of the sheet, scaled and turned by quarters.
fn part(piece: &Piece, side: usize, seen: Rect, corner: (Length, Length), by: f64, quarters: u8) -> Option<PlacedSide> {
    let id = piece.sides.get(side)?.id.clone();
    let size = scaled(seen.size(), by);
    let size = if quarters % 2 == 1 { size.turned() } else { size };
    let spot = Spot { trim: Rect::new(corner.0, corner.1, size.w, size.h), quarters };
    let from = seen.to_css_px();
    Some(PlacedSide {
        piece: piece.id.clone(),
        side: id,
        record: None,
        at: spot.place() * Affine::scale(by) * Affine::translate((-from.x0, -from.y0)),
        seen,
        trim: spot.trim,
        quarters,
    })
}

/// The pages of a booklet side by side about the fold in the middle of lying paper.
fn pages(piece: &Piece, setup: &SheetSetup, paper: Paper, thickness: Length) -> Result<PrintPlan, Refusal> {
    let size = piece.format.size;
    let half = Size::new(paper.size.w.half(), paper.size.h);
    let room = Size::new(half.w - paper.margins.left.max(paper.margins.right), paper.printable().h);
    let fit = (room.w.raw() as f64 / size.w.raw() as f64).min(room.h.raw() as f64 / size.h.raw() as f64);
    // Whole pages on paper twice as wide need no margin: what the printer cannot reach is lost, as of any page.
    let exact = half.w >= size.w && half.h >= size.h;
    let by = setup.factor() * if exact { 1.0 } else { fit.min(1.0) };
    if by < 0.2 {
        return Err(too_large(size, room));
    }
    let own = scaled(size, by);
    let top = (paper.size.h - own.h).half();
    let fold = paper.size.w.half();
    let mut sheets: Vec<PlannedSheet> = Vec::new();
    for Leaf { sheet, inner, left, right, creep } in booklet(piece.sides.len(), thickness) {
        let mut face = Vec::new();
        // Pushed towards the fold; what would cross it is not seen.
        let lost = Length::from_raw((creep.raw() as f64 / by).round() as i64);
        let whole = Rect::of(size);
        if let Some(left) = left {
            let seen = Rect { w: whole.w - lost, ..whole };
            face.extend(part(piece, left, seen, (fold - own.w + creep, top), by, 0));
        }
        if let Some(right) = right {
            let seen = Rect { x: lost, w: whole.w - lost, ..whole };
            face.extend(part(piece, right, seen, (fold, top), by, 0));
        }
        if inner {
            let turn = setup.backs.map_or(PaperTurn::ShortEdge, |backs| backs.turn);
            // The inner side is made for turning sideways; paper turned the other way has it upside down.
            let sideways = (paper.size.w <= paper.size.h) == (turn == PaperTurn::LongEdge);
            if !sideways {
                face.iter_mut().for_each(|side| half_turned(side, paper.size));
            }
            if let Some(planned) = sheets.get_mut(sheet) {
                planned.back = Some(face);
            }
        } else {
            sheets.push(PlannedSheet { front: face, back: None, label: format!("Sheet {} from outside", sheet + 1) });
        }
    }
    let up = 2;
    Ok(PrintPlan { paper, bleed: Length::ZERO, sheets, folds: vec![(true, fold)], scale: by, up })
}

fn half_turned(side: &mut PlacedSide, paper: Size) {
    let (w, h) = (paper.w.to_css_px(), paper.h.to_css_px());
    side.at = Affine::new([-1.0, 0.0, 0.0, -1.0, w, h]) * side.at;
    side.trim.x = paper.w - side.trim.right();
    side.trim.y = paper.h - side.trim.bottom();
    side.quarters = (side.quarters + 2) % 4;
}

/// A piece over several sheets.
fn tiles(piece: &Piece, setup: &SheetSetup, paper: Paper, overlap: Length) -> Result<PrintPlan, Refusal> {
    let by = setup.factor();
    let area = paper.printable();
    let tiles = poster(&paper, scaled(piece.format.size, by), overlap)?;
    let mut sheets = Vec::new();
    for side in 0..piece.sides.len() {
        for tile in &tiles {
            let back = 1.0 / by;
            let seen = Rect::new(
                tile.part.x.scaled(back),
                tile.part.y.scaled(back),
                tile.part.w.scaled(back),
                tile.part.h.scaled(back),
            );
            let front = part(piece, side, seen, (area.x, area.y), by, 0).into_iter().collect();
            let label = format!("Row {}, column {}", tile.row + 1, tile.column + 1);
            sheets.push(PlannedSheet { front, back: None, label });
        }
    }
    let up = 1;
    Ok(PrintPlan { paper, bleed: Length::ZERO, sheets, folds: Vec::new(), scale: by, up })
}

/// The four panels of a card in the order in which a sheet folded twice shows them: the two of the inside above, upside down.
fn quarters(piece: &Piece, setup: &SheetSetup, paper: Paper) -> Result<PrintPlan, Refusal> {
    let size = piece.format.size;
    let folds = piece.format.finish.folds;
    let panels = |back: bool| folds.panels(size, back);
    // Front, back, inside left and inside right: each a side and what of it is seen.
    let [front, back, left, right] = match (folds.lines().len(), folds.is_level(), piece.sides.len()) {
        (1, false, 2..) => {
            let (outer, inner) = (panels(false), panels(true));
            [(0, outer[1]), (0, outer[0]), (1, inner[0]), (1, inner[1])]
        }
        (0, _, 4..) => {
            let whole = Rect::of(size);
            [(0, whole), (3, whole), (1, whole), (2, whole)]
        }
        _ => return Err(Refusal::NotFolded),
    };
    let panel = front.1.size();
    let quarter = Size::new(paper.size.w.half(), paper.size.h.half());
    let fit = (quarter.w.raw() as f64 / panel.w.raw() as f64).min(quarter.h.raw() as f64 / panel.h.raw() as f64);
    if fit < 0.2 {
        return Err(too_large(panel, quarter));
    }
    let by = (setup.factor() * fit.min(1.0)).min(fit);
    let own = scaled(panel, by);
    let (x, y) = (quarter.w, quarter.h);
    let place = |(side, seen): (usize, Rect), corner, quarters| part(piece, side, seen, corner, by, quarters);
    let front = [
        place(front, (x, y), 0),
        place(back, (x - own.w, y), 0),
        // Behind the front, seen upside down.
        place(left, (x, y - own.h), 2),
        place(right, (x - own.w, y - own.h), 2),
    ];
    let front = front.into_iter().flatten().collect();
    let sheets = vec![PlannedSheet { front, back: None, label: String::new() }];
    Ok(PrintPlan { paper, bleed: Length::ZERO, sheets, folds: vec![(true, x), (false, y)], scale: by, up: 1 })
}

impl PrintPlan {
    /// The share of the paper that is not part of any piece, 0 to 1.
    #[must_use]
    pub fn waste(&self) -> f64 {
        let area = |size: Size| size.w.to_mm() * size.h.to_mm();
        let all = area(self.paper.size) * self.sheets.len() as f64;
        let used: f64 = self.sheets.iter().flat_map(|sheet| &sheet.front).map(|side| area(side.trim.size())).sum();
        if all > 0.0 { (1.0 - used / all).clamp(0.0, 1.0) } else { 0.0 }
    }

    /// How many pieces are printed, parts of them not counted for themselves.
    #[must_use]
    pub fn pieces(&self) -> usize {
        self.sheets.iter().map(|sheet| sheet.front.len()).sum()
    }

    /// Whether any sheet is printed on both sides.
    #[must_use]
    pub fn has_backs(&self) -> bool {
        self.sheets.iter().any(|sheet| sheet.back.is_some())
    }

    /// The margins, as they are seen.
    #[must_use]
    pub const fn margins(&self) -> Margins {
        self.paper.margins
    }
}

impl Backs {
    /// Turned by the printer about an edge.
    #[must_use]
    pub fn turned(turn: PaperTurn) -> Self {
        Self { turn, ..Self::default() }
    }
}
