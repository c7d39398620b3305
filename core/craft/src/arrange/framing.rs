//! Graphics with an opening that words fit into: put around words, or with new words in them.

use vatman_document::{
    Align, Command, Content, Drawing, GroupId, IdSource, Item, ItemId, Job, Kin, KinId, Look, Paint, Part, Piece,
    Place, RichText, Side, Target, TypeLook, VAlign,
};
use vatman_units::{Length, Placement, Ratio, Rect, Size};

use crate::arrange::add::{Addition, Inks, add, put_at};
use crate::bring::Opening;
use crate::studio::Studio;

/// Room between words and the opening they stand in, as a share of the words.
const ROOM: f64 = 0.06;
/// The largest share of the sheet a frame takes.
const MOST: f64 = 0.94;

fn opening_of(frame: Rect, opening: Opening) -> Rect {
    let [x, y, w, h] = opening.at;
    Rect::new(frame.x + frame.w.scaled(x), frame.y + frame.h.scaled(y), frame.w.scaled(w), frame.h.scaled(h))
}

/// The command that adds a graphic with an opening and new words in it, as one group; and the identity of the words.
#[must_use]
pub fn frame_with_words(
    job: &Job,
    (piece, side): (&Piece, &Side),
    (drawing, opening): (Drawing, Opening),
    at: Option<vatman_units::Point>,
    inks: &Inks<'_>,
    ids: &mut dyn IdSource,
) -> (Command, ItemId) {
    let (command, _) = add(job, piece, side, Addition::Drawing(drawing), inks, ids);
    let mut command = put_at(command, piece, at);
    let group = GroupId::fresh(ids);
    let Command::InsertItem { item, .. } = &mut command else { return (command, ItemId::fresh(ids)) };
    item.groups = vec![group.clone()];
    let rect = opening_of(item.place.at.rect, opening);
    let ink = inks.at(job, side, rect);
    let colour = if opening.painted { job.color(&ink).letters().into() } else { ink };
    let size = rect.h.scaled(0.34).min(rect.w.scaled(0.16));
    let look = TypeLook {
        size,
        weight: 600,
        family: super::add::family_for(job, Part::Detail),
        align: Align::Centre,
        valign: VAlign::Middle,
        fit: vatman_document::TextFit::Shrink { floor: Ratio::new(0.3) },
        ..TypeLook::default()
    };
    let content = Content::Words { text: RichText::default(), prompt: "Your words".into() };
    let look = Look { fill: Some(Paint::flat(colour)), type_look: Some(look), ..Look::default() };
    let mut words = Item::new(ItemId::fresh(ids), KinId::fresh(ids), Place::new(Placement::at(rect)));
    words.groups = vec![group];
    let id = words.id.clone();
    let kin = Some(Kin::new(Part::Detail, content, look));
    (command.then(Command::InsertItem { side: side.id.clone(), index: usize::MAX, item: words, kin }), id)
}

/// The command that puts a graphic with an opening around words, right below them, so that they stand in it; and the identity of the
/// graphic. Where that would be larger than the sheet, both become smaller. Words on what is painted take a colour that reads there.
#[must_use]
pub fn frame_around(
    studio: &Studio,
    job: &Job,
    (piece, side, words): (&Piece, &Side, &Item),
    (drawing, opening): (Drawing, Opening),
    inks: &Inks<'_>,
    ids: &mut dyn IdSource,
) -> (Command, ItemId) {
    let letters = studio.letters(job, words);
    let aspect = f64::from(drawing.width) / f64::from(drawing.height.max(1));
    let [x, y, w, h] = opening.at;
    let (wide, high) = (letters.width() * (1.0 + ROOM), letters.height() * (1.0 + ROOM));
    let width = (wide / w).max(high / h * aspect).max(1.0);
    let size = Size::new(Length::css_px(width), Length::css_px(width / aspect));
    let sheet = piece.format.size;
    let share = |own: Length, room: Length| room.to_css_px() * MOST / own.to_css_px().max(1e-6);
    let smaller = share(size.w, sheet.w).min(share(size.h, sheet.h)).min(1.0);
    let size = Size::new(size.w.scaled(smaller), size.h.scaled(smaller));
    let middle = letters.center();
    // Its opening lies about the middle of the words, and all of it on the sheet.
    let within = |at: f64, own: Length, room: Length| {
        let (own, room) = (own.to_css_px(), room.to_css_px());
        Length::css_px(at.max(room * (1.0 - MOST) / 2.0).min(room - room * (1.0 - MOST) / 2.0 - own))
    };
    let (width, height) = (size.w.to_css_px(), size.h.to_css_px());
    let frame = Rect::new(
        within(middle.x - width * (x + w / 2.0), size.w, sheet.w),
        within(middle.y - height * (y + h / 2.0), size.h, sheet.h),
        size.w,
        size.h,
    );
    let (command, id) = add(job, piece, side, Addition::Drawing(drawing), inks, ids);
    let Command::InsertItem { side: on, mut item, kin, .. } = command else { return (command, id) };
    let group = GroupId::fresh(ids);
    let groups: Vec<GroupId> = words.groups.iter().cloned().chain([group]).collect();
    item.place.at.rect = frame;
    item.groups = groups.clone();
    let index = side.items.iter().position(|other| other.id == words.id).unwrap_or(0);
    let insert = Command::InsertItem { side: on, index, item, kin };
    // The words go where the opening lies now.
    let target = opening_of(frame, opening).to_css_px().center();
    let mut place = words.place;
    let old = place.at.rect.to_css_px();
    let moved = target + (old.center() - middle) * smaller;
    let (new_width, new_height) = (place.at.rect.w.scaled(smaller), place.at.rect.h.scaled(smaller));
    place.at.rect = Rect::new(
        Length::css_px(moved.x) - new_width.half(),
        Length::css_px(moved.y) - new_height.half(),
        new_width,
        new_height,
    );
    place.scale = Ratio::new((place.scale.get() * smaller).clamp(1e-3, 1e3));
    let mut commands = vec![
        insert,
        Command::SetPlace { item: words.id.clone(), place },
        Command::SetGroups { item: words.id.clone(), groups },
    ];
    if opening.painted {
        commands.extend(readable(job, words, &inks.at(job, side, frame)));
    }
    (Command::All { commands }, id)
}

/// The change that lets words read on a colour, where they do not.
fn readable(job: &Job, words: &Item, on: &vatman_document::Tint) -> Option<Command> {
    let plain = job.plain(words)?;
    let ground = job.color(on);
    let own = plain.look.fill.as_ref().and_then(|paint| paint.tints().next().cloned());
    if own.is_some_and(|tint| job.color(&tint).contrast(ground) >= 4.5) {
        return None;
    }
    let look = Look { fill: Some(Paint::flat(ground.letters())), ..plain.look.into_owned() };
    Some(Command::SetLook { target: Target::Only(words.id.clone()), look })
}
