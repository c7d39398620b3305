//! What each act means: the change it leads to.

use vatman_craft::{Addition, ContactKind, ContactLine, Ground, Inks, Step, add, add_contacts, add_layers, add_side, align, apply_palette, arrange_pictures, call_out, combine, connect, crop_by, distribute, duplicate, frame_from, free_place, group, link_colour, map_to_palette, match_size, move_edge, opposite, palettes, paste, paste_look, put_back, remove, reorder, repaint, replace_colour, replace_removed, scale_together, set_type_size, show_picture, stack, swap_colours, swap_drawing, swap_pictures, take_apart, tidy, tie, turn_together, ungroup};
use vatman_document::{Command, Drawing, Hand, ItemId, Job, Outline, Paint};
use vatman_units::{Rect, Size};

use crate::problem::Problem;
use crate::types::{Act, New};
use crate::workshop::{Ids, Workshop, find_item, find_piece, find_side};

impl Workshop {
    /// The change an act leads to, and the items it makes.
    pub(crate) fn command(&self, job: &Job, act: &Act) -> Result<(Command, Vec<ItemId>), Problem> {
        match act {
            Act::Edit { command } => Ok((command.clone(), Vec::new())),
            Act::AddSide { after, copy } => Ok((add_side(job, after, *copy, &mut Ids)?.0, Vec::new())),
            Act::Duplicate { items, after, step, times } => {
                let step = match (after, step) {
                    (_, Some(step)) => Step::By(step.x, step.y),
                    (Some(after), None) => Step::As(after.clone()),
                    (None, None) => Step::Aside,
                };
                Ok(duplicate(job, items, &step, *times, &mut Ids)?)
            }
            Act::Add { side, what: New::Layers { layers, width, height }, .. } => {
                let (piece, side) = find_side(job, side)?;
                Ok(add_layers(job, piece, side, layers, (*width, *height), &self.studio.typesetter, &mut Ids))
            }
            Act::Add { side, what, last } => {
                let (piece, side) = find_side(job, side)?;
                let (command, made) = add(job, piece, side, self.addition(what)?, &Inks { last: last.as_ref(), under: &|rect| self.studio.seen_in(job, piece, side, rect) }, &mut Ids);
                Ok((command, vec![made]))
            }
            Act::ReplaceRemoved { piece, item, what, last } => {
                let piece = find_piece(job, piece)?;
                let (command, made) = replace_removed(job, piece, item, self.addition(what)?, &Inks { last: last.as_ref(), ..Inks::PLAIN }, &mut Ids)?;
                Ok((command, vec![made]))
            }
            Act::Show { item, picture } => Ok((show_picture(job, item, picture)?, Vec::new())),
            Act::Crop { item, dx, dy, factor } => {
                let shown = job.item(item).and_then(|item| job.plain(item)).and_then(|plain| plain.content.picture());
                let info = shown.and_then(|id| self.studio.pictures.info(id)).ok_or_else(|| Problem::value("This frame is empty. Put a picture into it first."))?;
                Ok((crop_by(job, item, (info.width, info.height), (*dx, *dy), *factor)?, Vec::new()))
            }
            Act::ReplaceColour { from, to } => Ok((replace_colour(job, from, to), Vec::new())),
            Act::Mend { item, repair } => {
                let (piece, side, item) = find_item(job, item)?;
                let ground = Ground { job, piece, side, item };
                let before: Vec<_> = side.items.iter().map(|item| item.id.clone()).collect();
                let command = ground.repair(&self.studio, *repair, &mut Ids)?;
                let made = match &command {
                    Command::InsertItem { item, .. } if !before.contains(&item.id) => vec![item.id.clone()],
                    _ => Vec::new(),
                };
                Ok((command, made))
            }
            Act::TypeSize { item, size } => Ok((set_type_size(job, item, *size, &self.studio.typesetter)?, Vec::new())),
            Act::Align { items, edge, to } => {
                let (piece, boxes) = self.boxes(job, items)?;
                Ok((align(job, piece, &boxes, items, *edge, to)?, Vec::new()))
            }
            Act::Distribute { items, axis, gap } => Ok((distribute(job, &self.boxes(job, items)?.1, items, *axis, *gap)?, Vec::new())),
            Act::MatchSize { items, key, alike } => Ok((match_size(job, items, key, *alike)?, Vec::new())),
            Act::Tidy { items } => Ok((tidy(job, &self.boxes(job, items)?.1, items)?, Vec::new())),
            Act::Scale { items, about, factor } => Ok((scale_together(job, items, *about, *factor)?, Vec::new())),
            Act::Turn { items, about, by } => Ok((turn_together(job, items, *about, *by)?, Vec::new())),
            Act::SwapGraphic { item, graphic } => Ok((swap_drawing(job, item, self.graphic(graphic)?)?, Vec::new())),
            Act::Repaint { item, from, to } => Ok((repaint(job, item, from, to)?, Vec::new())),
            Act::MapColours { item } => Ok((map_to_palette(job, item)?, Vec::new())),
            Act::Paste { side, clipping } => Ok(paste(job, side, clipping, &mut Ids)?),
            Act::PasteLook { items, clipping } => Ok((paste_look(job, items, clipping)?, Vec::new())),
            Act::ArrangePictures { side, pictures, room, number } => {
                let mut found = self.mosaics_of(job, side, pictures, *room)?;
                if *number >= found.len() {
                    return Err(Problem::value("There is no such arrangement for these pictures."));
                }
                Ok(arrange_pictures(job, side, pictures, &found.swap_remove(*number), room.radius, &mut Ids)?)
            }
            Act::SwapPictures { a, b } => Ok((swap_pictures(job, a, b)?, Vec::new())),
            Act::Combine { items, how } => {
                let (command, made) = combine(job, items, *how, &self.studio.typesetter, &mut Ids)?;
                Ok((command, vec![made]))
            }
            Act::FrameFrom { frame, from } => Ok((frame_from(job, frame, from, &self.studio.typesetter)?, Vec::new())),
            Act::TakeApart { item } => Ok(take_apart(job, item, &mut Ids)?),
            Act::Group { items } => Ok((group(job, items, &mut Ids)?, Vec::new())),
            Act::Ungroup { items } => Ok((ungroup(job, items)?, Vec::new())),
            Act::Remove { items } => Ok((remove(job, items)?, Vec::new())),
            Act::PutBack { piece, item } => Ok((put_back(job, piece, item)?, vec![item.clone()])),
            Act::Stack { items, direction } => {
                let (_, boxes) = self.boxes(job, items)?;
                Ok((stack(job, &boxes, items, *direction, &mut Ids)?, Vec::new()))
            }
            Act::AddContacts { side, stack, lines, last } => {
                let (piece, found) = find_side(job, side)?;
                let sheet = piece.format.size;
                let room = Size::new(sheet.w.scaled(0.5), sheet.measure().scaled(0.055));
                let at = free_place(job, piece, found, Size::new(room.w, room.h.scaled(1.4 * lines.len().max(1) as f64)));
                let lines = lines.iter().map(|text| Ok(ContactLine { text: text.clone(), sign: self.sign(ContactKind::of(text))? })).collect::<Result<_, Problem>>()?;
                let ink = Paint::flat(Inks { last: last.as_ref(), under: &|rect| self.studio.seen_in(job, piece, found, rect) }.at(job, found, at));
                Ok(add_contacts(job, side, stack.as_ref(), lines, Rect::new(at.x, at.y, room.w, room.h), &ink, &mut Ids)?)
            }
            Act::Connect { from, to, arrow, last } => {
                let (_, side, _) = find_item(job, from)?;
                let ink = Paint::flat(Inks { last: last.as_ref(), ..Inks::PLAIN }.at(job, side, Rect::default()));
                let (command, made) = connect(job, from, to, *arrow, &ink, &mut Ids)?;
                Ok((command, vec![made]))
            }
            Act::CallOut { picture, at, last } => {
                let (piece, side, item) = find_item(job, picture)?;
                let inks = Inks { last: last.as_ref(), under: &|rect| self.studio.seen_in(job, piece, side, rect) };
                let spot = self.studio.spot_at(job, item, *at).ok_or_else(|| Problem::value("A call-out points at a picture. Put one into this frame first."))?;
                Ok(call_out(job, picture, spot, *at, &inks, &mut Ids)?)
            }
            Act::Reorder { items, order } => Ok((reorder(job, items, *order)?, Vec::new())),
            Act::Tie { item, tie: wanted } => {
                let (piece, boxes) = self.boxes(job, std::slice::from_ref(item))?;
                Ok((tie(job, piece, &boxes, item, wanted)?, Vec::new()))
            }
            Act::Opposite { item, across, down, mirrored } => {
                let (command, made) = opposite(job, item, *across, *down, *mirrored, &mut Ids)?;
                Ok((command, vec![made]))
            }
            Act::MoveEdge { item, edge, by } => Ok((move_edge(job, item, *edge, *by)?, Vec::new())),
            Act::LinkColour { items, to } => Ok((link_colour(job, items, to, &mut Ids)?, Vec::new())),
            Act::SwapColours { items } => Ok((swap_colours(job, items)?, Vec::new())),
            Act::ApplyPalette { name } => {
                let palette = palettes().into_iter().find(|palette| palette.name == *name).ok_or_else(|| Problem::not_found("There is no such palette."))?;
                Ok((apply_palette(job, &palette), Vec::new()))
            }
            Act::Undo | Act::Redo => Err(Problem::value("Undoing cannot be rehearsed.")),
        }
    }

    fn addition(&self, what: &New) -> Result<Addition, Problem> {
        Ok(match what {
            New::Words { part } => Addition::Words(*part),
            New::Panel => Addition::Panel,
            New::Layers { .. } => return Err(Problem::value("A drawing with words arrives as a new group. Add it first, then remove the other.")),
            New::Hand { lines, thickness, smoothing, thinning } => {
                let (hand, rect) = Hand::drawn(lines, *thickness, *smoothing, *thinning).ok_or_else(|| Problem::value("Nothing was drawn."))?;
                Addition::Drawn(Outline::Hand { hand }, rect)
            }
            New::Shape { outline } => Addition::Shape(outline.clone()),
            New::Drawing { drawing } => Addition::Drawing(drawing.clone()),
            New::Graphic { graphic } => Addition::Drawing(self.graphic(graphic)?),
            New::Picture { picture: None } => Addition::Picture(None),
            New::Picture { picture: Some(id) } => {
                let info = self.studio.pictures.info(id).ok_or_else(|| Problem::not_found("That picture is not on the shelf any more."))?;
                Addition::Picture(Some((id.clone(), (info.width, info.height))))
            }
        })
    }

    /// The sign of a line of contact.
    fn sign(&self, kind: ContactKind) -> Result<Option<Drawing>, Problem> {
        let found = self.graphics()?.search(kind.sign(), Some("line"), 0, 1);
        found.first().map(|card| self.graphic(&card.id)).transpose()
    }
}
