//! Lines between items, and labels that point at a spot of a picture.

use vatman_document::{
    Command, Content, Focus, IdSource, Item, ItemId, Job, Kin, KinId, Look, Outline, Paint, Part, Place, RichText,
    Standing, Tie, TypeLook,
};
use vatman_units::{Length, Placement, Point, Ratio, Rect};

use crate::arrange::add::{Inks, line_look};
use crate::refusal::Refusal;

fn line(ids: &mut dyn IdSource, from: &ItemId, to: &ItemId, thick: Length, arrow: bool, ink: &Paint) -> (Item, Kin) {
    // The head of an arrow takes its height; its shaft is as thick as the plain line.
    let filled = Look { fill: Some(ink.clone()), ..Look::default() };
    let arrow_head = Outline::Arrow { head: Ratio::new(1.1), shaft: Ratio::new(0.2) };
    let (outline, high, look) = if arrow {
        (arrow_head, thick.scaled(5.0), filled)
    } else {
        (Outline::Line, thick.scaled(4.0), line_look(ink, thick))
    };
    let rect = Rect::new(Length::ZERO, Length::ZERO, high, high);
    let ties = vec![Tie::Between { from: from.clone(), to: to.clone() }];
    let name = Some(if arrow { "Arrow" } else { "Line" }.to_owned());
    let item = Item { ties, name, ..Item::new(ItemId::fresh(ids), KinId::fresh(ids), Place::new(Placement::at(rect))) };
    (item, Kin::new(Part::Ornament, Content::Shape { outline }, look))
}

/// A line or an arrow from one item to another that goes with both.
///
/// # Errors
/// [`Refusal`] unless the two stand on one side.
pub fn connect(
    job: &Job,
    from: &ItemId,
    to: &ItemId,
    arrow: bool,
    ink: &Paint,
    ids: &mut dyn IdSource,
) -> Result<(Command, ItemId), Refusal> {
    let Standing { piece, side, .. } = job.find(from)?;
    if from == to || !side.items.iter().any(|item| item.id == *to) {
        return Err(Refusal::ConnectEnds);
    }
    let (item, kin) = line(ids, from, to, piece.format.size.measure().scaled(0.004), arrow, ink);
    let id = item.id.clone();
    Ok((Command::InsertItem { side: side.id.clone(), index: usize::MAX, item, kin: Some(kin) }, id))
}

/// A dot on a spot of a picture, a label beside it, and a line that joins them: the dot goes with the picture, the line with both.
/// `spot` is where the spot lies on the sheet now.
///
/// # Errors
/// [`Refusal`] where the picture is not there.
pub fn call_out(
    job: &Job,
    picture: &ItemId,
    at: Focus,
    spot: Point,
    inks: &Inks<'_>,
    ids: &mut dyn IdSource,
) -> Result<(Command, Vec<ItemId>), Refusal> {
    let Standing { piece, side, .. } = job.find(picture)?;
    let sheet = piece.format.size;
    let measure = sheet.measure();
    let (radius, size) = (measure.scaled(0.009), measure.scaled(0.032));
    // The label stands on the side with more room, above or below.
    let (wide, high) = (measure.scaled(0.26), size.scaled(1.2));
    let away = measure.scaled(0.1);
    let held = |value: Length, length: Length, whole: Length| {
        value.min(whole - length - piece.format.safe).max(piece.format.safe)
    };
    let x = if spot.x > sheet.w.half() { spot.x - away - wide } else { spot.x + away };
    let y = if spot.y > sheet.h.half() { spot.y - away - high } else { spot.y + away };
    let label_rect = Rect::new(held(x, wide, sheet.w), held(y, high, sheet.h), wide, high);
    let ink = &Paint::flat(inks.at(job, side, label_rect));
    let mut commands = Vec::new();
    let mut put = |item: Item, kin: Kin| {
        commands.push(Command::InsertItem { side: side.id.clone(), index: usize::MAX, item, kin: Some(kin) })
    };

    let dot = ItemId::fresh(ids);
    let rect = Rect::new(spot.x - radius, spot.y - radius, radius + radius, radius + radius);
    let look = Look { fill: Some(ink.clone()), ..Look::default() };
    let kin = Kin::new(Part::Ornament, Content::Shape { outline: Outline::Ellipse }, look);
    put(
        Item {
            name: Some("Dot".into()),
            ties: vec![Tie::Spot { of: picture.clone(), at }],
            ..Item::new(dot.clone(), KinId::fresh(ids), Place::new(Placement::at(rect)))
        },
        kin,
    );

    let label = ItemId::fresh(ids);
    let kind = TypeLook { size, fit: vatman_document::TextFit::AsTyped, ..TypeLook::default() };
    let content = Content::Words { text: RichText::default(), prompt: "What this is".into() };
    let look = Look { fill: Some(ink.clone()), type_look: Some(kind), ..Look::default() };
    let kin = Kin::new(Part::Detail, content, look);
    put(Item::new(label.clone(), KinId::fresh(ids), Place::new(Placement::at(label_rect))), kin);

    let (leader, kin) = line(ids, &dot, &label, measure.scaled(0.003), false, ink);
    let leader_id = leader.id.clone();
    put(leader, kin);
    Ok((Command::All { commands }, vec![label, dot, leader_id]))
}

/// The same item once more in the opposite place of its sheet: words, picture and look are shared, and place, size and turn follow.
///
/// # Errors
/// [`Refusal`] where the item is not there, or neither direction is given.
pub fn opposite(
    job: &Job,
    item: &ItemId,
    across: bool,
    down: bool,
    mirrored: bool,
    ids: &mut dyn IdSource,
) -> Result<(Command, ItemId), Refusal> {
    let side = job.find(item)?.side;
    let index = side.items.iter().position(|other| other.id == *item).unwrap_or(0);
    let own = &side.items[index];
    let tie = Tie::Opposite { of: item.clone(), across, down, mirrored };
    let copy = Item {
        release: own.release.clone(),
        ties: vec![tie],
        ..Item::new(ItemId::fresh(ids), own.kin.clone(), own.place)
    };
    let id = copy.id.clone();
    Ok((Command::InsertItem { side: side.id.clone(), index: index + 1, item: copy, kin: None }, id))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::testing::{Everything, Numbered, job_with};
    use vatman_document::Color;

    #[test]
    fn a_line_knows_both_its_ends_and_needs_two() {
        let mut job = job_with(2);
        let ids: Vec<ItemId> = job.items().map(|item| item.id.clone()).collect();
        let ink = Paint::flat(Color::BLACK);
        let (command, made) = connect(&job, &ids[0], &ids[1], true, &ink, &mut Numbered::default()).unwrap();
        command.apply(&mut job, &Everything).unwrap();
        assert_eq!(job.item(&made).unwrap().ties, [Tie::Between { from: ids[0].clone(), to: ids[1].clone() }]);
        assert!(connect(&job, &ids[0], &ids[0], false, &ink, &mut Numbered(9)).is_err());
    }
}
