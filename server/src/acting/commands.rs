//! What each act means: the change it leads to.

use vatman_craft::{
    Addition, ContactKind, ContactLine, Ground, Inks, NewLines, Refusal, Step, Subject, add, add_area, add_back,
    add_colour, add_contacts, add_elsewhere, add_guide, add_layers, add_side, add_step, add_subject, align,
    apply_palette, arrange_pictures, arranged, auto_step, call_out, change_backing, change_code, change_cut,
    change_effect, change_finish, change_group_look, change_guides, change_line, change_stack, change_type, combine,
    combine_otherwise, connect, crop_by, cut_out_by, cut_stroke, cut_to, distribute, drop_effect, drop_spot, drop_step,
    drop_tie, duplicate, duplicate_piece, everywhere, frame_around, frame_from, frame_with_words, free_place, give,
    give_ink, group, keep_content, keep_property, lay_over, level_picture, light_group, link_colour, map_to_palette,
    match_size, mirror, move_by, move_edge, move_guide, move_step, neutral_step, opposite, over_everything, paint_mask,
    paint_spot, palettes, paste, paste_look, pen_thickness, put_at, put_back, put_below, put_on, recolour, refit,
    release, remove, rename_colour, reorder, repaint, replace_colour, replace_removed, resize, say, scale_together,
    set_blend, set_box, set_fill, set_fit, set_flags, set_focus, set_frost, set_ground, set_ink, set_opacity,
    set_outline, set_step, set_steps, set_tie_length, set_type_size, set_upright, show_picture, show_whole,
    spread_ground, spread_guides, stack, style_letters, subject_in_front, swap_colours, swap_drawing, swap_pictures,
    take_apart, tidy, tie, toggle_letters, trace_picture, treat_alike, turn_picture, turn_to, turn_together, ungroup,
};
use vatman_document::{Command, Hand, ItemId, Job, Outline, Paint, Piece, Standing, Target};
use vatman_units::{Rect, Size};

use crate::acting::Acting;
use crate::asking::{boxes, find_piece, find_side, mosaics_of, shown_in};
use crate::ids::Ids;
use crate::problem::Problem;
use crate::types::{Act, New};

/// The change an act leads to, and the items it makes.
pub(super) type Meaning = Result<(Command, Vec<ItemId>), Problem>;

pub(super) fn plain(command: Command) -> Meaning {
    Ok((command, Vec::new()))
}

fn done(command: Result<Command, Refusal>) -> Meaning {
    plain(command?)
}

/// The change that makes something new, with what it says at once.
fn saying(command: Command, what: &New) -> Command {
    let New::Words { text: Some(text), .. } = what else { return command };
    let Command::InsertItem { item, .. } = &command else { return command };
    let target = Target::Shared(item.kin.clone());
    let text = text.clone();
    command.then(Command::SetWords { target, text })
}

impl Acting {
    /// The change an act leads to, and the items it makes.
    pub(crate) fn command(&self, job: &Job, act: &Act) -> Meaning {
        match act {
            Act::SetTitle { title } => plain(Command::SetTitle { title: title.clone() }),
            Act::Say { item, text } => done(say(job, item, text, &self.studio)),
            Act::StyleLetters { item, from, to, change } => {
                done(style_letters(job, item, (*from, *to), change, &self.studio.typesetter.library()))
            }
            Act::ToggleLetters { item, from, to, style } => done(toggle_letters(job, item, (*from, *to), *style)),
            Act::ChangeType { items, change } => {
                done(change_type(job, items, change, &self.studio.typesetter.library()))
            }
            Act::SetFill { items, fill } => done(set_fill(job, items, fill.as_ref())),
            Act::SetOpacity { items, opacity } => done(set_opacity(job, items, *opacity)),
            Act::SetBlend { items, blend } => done(set_blend(job, items, *blend)),
            Act::SetFrost { items, blur } => done(set_frost(job, items, *blur)),
            Act::ChangeLine { items, change } => done(change_line(job, items, change.as_ref())),
            Act::Give { items, gift } => done(give(job, items, *gift, &self.studio)),
            Act::ChangeEffect { items, index, change } => done(change_effect(job, items, *index, change)),
            Act::DropEffect { items, index } => done(drop_effect(job, items, *index)),
            Act::AddStep { items, group, kind, over } => {
                let subject = Subject::of(items, group.as_ref());
                match over {
                    Some(picture) => done(lay_over(job, subject, picture)),
                    None => done(add_step(job, subject, kind)),
                }
            }
            Act::PaintSpot { item, at, brush, way } => done(paint_spot(job, item, *at, (*brush, way), &self.studio)),
            Act::DropSpot { item, at } => done(drop_spot(job, item, *at)),
            Act::SetUpright { item, change } => done(set_upright(job, item, *change)),
            Act::CutTo { item, across, down } => done(cut_to(job, item, (*across, *down), &self.studio)),
            Act::LevelPicture { item } => done(level_picture(job, item, &self.studio)),
            Act::LightGroup { group, light } => done(light_group(job, group, light)),
            Act::SetStep { items, group, at, step } => {
                done(set_step(job, Subject::of(items, group.as_ref()), *at, step))
            }
            Act::DropStep { items, group, at } => done(drop_step(job, Subject::of(items, group.as_ref()), *at)),
            Act::MoveStep { items, group, at, to } => {
                done(move_step(job, Subject::of(items, group.as_ref()), *at, *to))
            }
            Act::SetSteps { items, group, steps } => done(set_steps(job, Subject::of(items, group.as_ref()), steps)),
            Act::TakeRecipe { items, group, name, strength } => {
                let recipe = self.shelves.keeping.recipe(name)?;
                done(set_steps(job, Subject::of(items, group.as_ref()), &recipe.at_strength(*strength)))
            }
            Act::TreatAlike { item, everywhere } => done(treat_alike(job, item, *everywhere)),
            Act::AutoLevels { item, group } => {
                done(auto_step(job, Subject::of(std::slice::from_ref(item), group.as_ref()), &self.studio))
            }
            Act::MakeNeutral { item, group, at } => {
                done(neutral_step(job, Subject::of(std::slice::from_ref(item), group.as_ref()), *at, &self.studio))
            }
            Act::MaskArea { items, group, at, kind, way } => {
                done(add_area(job, Subject::of(items, group.as_ref()), *at, (*kind, way), &self.studio))
            }
            Act::MaskSubject { item, at, mask } => done(add_subject(job, item, *at, mask)),
            Act::MaskStroke { items, group, at, brush, way } => {
                done(paint_mask(job, Subject::of(items, group.as_ref()), *at, way, *brush))
            }
            Act::CutOut { item, mask } => done(cut_out_by(job, item, mask)),
            Act::CutStroke { item, kind, brush, way } => done(cut_stroke(job, item, *kind, *brush, way)),
            Act::ChangeCut { item, change } => done(change_cut(job, item, *change)),
            Act::ShowWhole { item } => done(show_whole(job, item)),
            Act::ChangeGroupLook { group, change } => done(change_group_look(job, group, *change)),
            Act::ChangeBacking { items, change } => done(change_backing(job, items, change.as_ref())),
            Act::SetOutline { item, outline } => done(set_outline(job, item, outline)),
            Act::CombineOtherwise { item, how } => done(combine_otherwise(job, item, *how)),
            Act::Release { item, own } => done(release(job, item, *own)),
            Act::SetFit { item, fit } => done(set_fit(job, item, *fit)),
            Act::SetFocus { item, at } => {
                let found = job.find(item)?;
                let spot = self
                    .studio
                    .spot_at(job, found.item, *at)
                    .ok_or_else(|| Problem::value("Point at a place in the picture itself. Nothing was changed."))?;
                done(set_focus(job, item, spot))
            }
            Act::Refit { item } => done(refit(job, item)),
            Act::TurnPicture { item, turn, flip } => done(turn_picture(job, item, *turn, *flip)),
            Act::Move { items, dx, dy } => done(move_by(job, items, *dx, *dy, &self.studio)),
            Act::Resize { item, to, grip, apart } => done(resize(job, item, *to, (*grip, *apart), &self.studio)),
            Act::SetBox { item, numbers } => done(set_box(job, item, numbers, &self.studio)),
            Act::TurnTo { item, turn } => done(turn_to(job, item, *turn)),
            Act::Mirror { items } => done(mirror(job, items)),
            Act::SetFlags { items, locked, hidden } => done(set_flags(job, items, *locked, *hidden)),
            Act::NameItem { item, name } => plain(Command::NameItem { item: item.clone(), name: name.clone() }),
            Act::PutBelow { item, other } => done(put_below(job, item, other.as_ref())),
            Act::DropTie { item, index } => done(drop_tie(job, item, *index)),
            Act::SetTieLength { item, index, length } => done(set_tie_length(job, item, *index, *length)),
            Act::ChangeStack { side, group, change } => done(change_stack(job, side, group, *change)),
            Act::ChangeGuides { piece, change } => done(change_guides(job, piece, change)),
            Act::AddGuide { piece, upright, at } => done(add_guide(job, piece, *upright, *at)),
            Act::MoveGuide { piece, index, at } => done(move_guide(job, piece, *index, *at)),
            Act::SpreadGuides { piece } => done(spread_guides(job, piece)),
            Act::SetGround { side, ground } => plain(set_ground(side, ground.as_ref())),
            Act::SpreadGround { side } => done(spread_ground(job, side)),
            Act::AddColour { name, color } => plain(add_colour(name, *color, &mut Ids)),
            Act::Recolour { id, to } => done(recolour(job, id, to)),
            Act::SetInk { id, ink } => done(set_ink(job, id, ink.as_ref())),
            Act::ChangeCode { item, change } => done(change_code(job, item, change)),
            Act::GiveInk { id, kind } => done(give_ink(job, id, *kind)),
            Act::ChangeFinish { piece, change } => done(change_finish(job, piece, *change)),
            Act::RenameColour { id, name } => done(rename_colour(job, id, name)),
            Act::RemoveSide { side } => plain(Command::RemoveSide { side: side.clone() }),
            Act::RenameSide { side, name } => plain(Command::RenameSide { side: side.clone(), name: name.clone() }),
            Act::RenamePiece { piece, name } => {
                plain(Command::RenamePiece { piece: piece.clone(), name: name.clone() })
            }
            Act::AddPieces { places, from } => self.add_pieces(job, places, from.as_ref()),
            Act::DuplicatePiece { piece } => plain(duplicate_piece(job, piece, &mut Ids)?.0),
            Act::ChangeFormat { piece, place } => self.change_format(job, piece, place),
            Act::ArrangeOtherwise { piece, way } => self.arrange_otherwise(job, piece, *way),
            Act::ArrangeLike { pieces, like, all } => self.arrange_like(job, pieces, like, *all),
            Act::FollowAgain { items } => self.follow_again(job, items),
            Act::AddElsewhere { item } => {
                let entry = |piece: &Piece| self.shelves.entry_of(piece);
                done(add_elsewhere(&self.studio, job, item, &entry, &mut Ids))
            }
            Act::RemoveEverywhere { items } => done(remove(job, &everywhere(job, items)?)),
            Act::KeepProperty { item, property, own } => done(keep_property(job, item, *property, *own)),
            Act::KeepContent { item, own } => done(keep_content(job, item, *own)),
            Act::Redesign { design } => self.redesign(job, design),
            Act::PutRight { side, item, kind, says } => self.put_right(job, side, item.as_ref(), (*kind, says)),
            Act::AskNextTime { item, asked } => {
                plain(Command::SetAsked { kin: job.find(item)?.item.kin.clone(), asked: *asked })
            }
            Act::SetAside { finding, reason } => {
                plain(Command::SetAside { finding: finding.clone(), reason: reason.clone() })
            }
            Act::RemovePiece { piece } => plain(Command::RemovePiece { piece: piece.clone() }),
            Act::MovePiece { piece, index } => plain(Command::MovePiece { piece: piece.clone(), index: *index }),
            Act::MoveSide { side, index } => plain(Command::MoveSide { side: side.clone(), index: *index }),
            Act::AddBack { after } => Ok((add_back(job, after, &mut Ids)?.0, Vec::new())),
            Act::AddSide { after, copy } => Ok((add_side(job, after, *copy, &mut Ids)?.0, Vec::new())),
            Act::Duplicate { items, after, step, times } => {
                let step = match (after, step) {
                    (_, Some(step)) => Step::By(step.x, step.y),
                    (Some(after), None) => Step::As(after.clone()),
                    (None, None) => Step::Aside,
                };
                Ok(duplicate(job, items, &step, *times, &mut Ids)?)
            }
            Act::Add { side, what: New::Layers { layers, width, height }, at, .. } => {
                let (piece, side) = find_side(job, side)?;
                let (command, made) = add_layers(job, piece, side, (layers, (*width, *height)), &self.studio, &mut Ids);
                Ok((put_at(command, piece, *at), made))
            }
            Act::Add { side, what, last, at } => {
                let (piece, side) = find_side(job, side)?;
                let inks = Inks {
                    last: last.as_ref(),
                    under: &|rect| self.studio.seen_in(job, piece, side, rect),
                    drawn: &|item| self.studio.drawn(job, item),
                };
                if let New::Graphic { graphic, around } = what
                    && let Some(opening) = self.shelves.graphics()?.opening(graphic)
                {
                    let frame = (self.shelves.graphic(graphic)?, opening);
                    let words = around.as_ref().and_then(|id| side.items.iter().find(|item| item.id == *id));
                    let (command, made) = match words {
                        Some(words) => frame_around(&self.studio, job, (piece, side, words), frame, &inks, &mut Ids),
                        None => frame_with_words(job, (piece, side), frame, *at, &inks, &mut Ids),
                    };
                    return Ok((command, vec![made]));
                }
                let (command, made) = add(job, piece, side, self.addition(what, piece)?, &inks, &mut Ids);
                Ok((saying(put_at(command, piece, *at), what), vec![made]))
            }
            Act::ReplaceRemoved { piece, item, what, last } => {
                let piece = find_piece(job, piece)?;
                let (command, made) = replace_removed(
                    job,
                    piece,
                    item,
                    self.addition(what, piece)?,
                    &Inks { last: last.as_ref(), ..Inks::PLAIN },
                    &mut Ids,
                )?;
                Ok((saying(command, what), vec![made]))
            }
            Act::Show { item, picture } => Ok((show_picture(job, item, picture)?, Vec::new())),
            Act::Crop { item, dx, dy, factor } => {
                let shown = job.item(item).and_then(|item| job.plain(item)).and_then(|plain| plain.content.picture());
                let info = shown
                    .and_then(|id| self.studio.pictures.info(id))
                    .ok_or_else(|| Problem::value("This frame is empty. Put a picture into it first."))?;
                Ok((crop_by(job, item, (info.width, info.height), (*dx, *dy), *factor)?, Vec::new()))
            }
            Act::ReplaceColour { from, to } => Ok((replace_colour(job, from, to), Vec::new())),
            Act::Mend { item, repair } => {
                let Standing { piece, side, item, .. } = job.find(item)?;
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
                let (piece, boxes) = boxes(&self.studio, job, items)?;
                Ok((align(job, piece, &boxes, items, *edge, to)?, Vec::new()))
            }
            Act::Distribute { items, axis, gap } => {
                Ok((distribute(job, &boxes(&self.studio, job, items)?.1, items, *axis, *gap)?, Vec::new()))
            }
            Act::MatchSize { items, key, alike } => Ok((match_size(job, items, key, *alike)?, Vec::new())),
            Act::Tidy { items } => Ok((tidy(job, &boxes(&self.studio, job, items)?.1, items)?, Vec::new())),
            Act::Scale { items, about, factor } => Ok((scale_together(job, items, *about, *factor)?, Vec::new())),
            Act::Turn { items, about, by } => Ok((turn_together(job, items, *about, *by)?, Vec::new())),
            Act::SwapGraphic { item, graphic } => {
                Ok((swap_drawing(job, item, self.shelves.graphic(graphic)?)?, Vec::new()))
            }
            Act::Repaint { item, from, to } => Ok((repaint(job, item, from, to)?, Vec::new())),
            Act::MapColours { item } => Ok((map_to_palette(job, item)?, Vec::new())),
            Act::Paste { side, clipping, at } => {
                let piece = find_side(job, side)?.0;
                let (command, made) = paste(job, side, clipping, &mut Ids)?;
                Ok((put_at(command, piece, *at), made))
            }
            Act::PasteLook { items, clipping } => Ok((paste_look(job, items, clipping)?, Vec::new())),
            Act::ArrangePictures { side, pictures, room, number } => {
                let sheet = find_side(job, side)?.0.format.size;
                let mut found = mosaics_of(&self.studio, Rect::of(sheet), pictures, *room)?;
                if *number >= found.len() {
                    return Err(vatman_craft::Refusal::NoSuchArrangement.into());
                }
                Ok(arrange_pictures(job, side, pictures, &found.swap_remove(*number), room.radius, &mut Ids)?)
            }
            Act::Rearrange { items, room, number } => {
                let now = arranged(job, items)?;
                let Some(number) = number else { return done(now.rearrange(job, None, *room)) };
                let forms = mosaics_of(&self.studio, now.area, &shown_in(job, items)?, *room)?;
                let form = forms.get(*number).ok_or(vatman_craft::Refusal::NoSuchArrangement)?;
                done(now.rearrange(job, Some(form), *room))
            }
            Act::SwapPictures { a, b } => Ok((swap_pictures(job, a, b)?, Vec::new())),
            Act::Combine { items, how } => {
                let (command, made) = combine(job, items, *how, &self.studio, &mut Ids)?;
                Ok((command, vec![made]))
            }
            Act::FrameFrom { frame, from } => Ok((frame_from(job, frame, from, &self.studio.typesetter)?, Vec::new())),
            Act::TakeApart { item } => Ok(take_apart(job, item, &mut Ids)?),
            Act::SubjectInFront { item, mask } => {
                let (command, made) = subject_in_front(job, item, mask, &mut Ids)?;
                Ok((command, vec![made]))
            }
            Act::Trace { item, wish } => {
                let (command, made) = trace_picture(job, item, *wish, &self.studio, &mut Ids)?;
                Ok((command, vec![made]))
            }
            Act::PutOn { item, on } => {
                let (command, _) = put_on(job, item, on, &self.studio, &mut Ids)?;
                Ok((command, Vec::new()))
            }
            Act::AddOver { side } => {
                let (command, item) = over_everything(job, side, &mut Ids)?;
                Ok((command, vec![item]))
            }
            Act::Group { items } => Ok((group(job, items, &mut Ids)?, Vec::new())),
            Act::Ungroup { items } => Ok((ungroup(job, items)?, Vec::new())),
            Act::Remove { items } => Ok((remove(job, items)?, Vec::new())),
            Act::PutBack { piece, item } => Ok((put_back(job, piece, item)?, vec![item.clone()])),
            Act::Stack { items, direction } => {
                let (_, boxes) = boxes(&self.studio, job, items)?;
                Ok((stack(job, &boxes, items, *direction, &mut Ids)?, Vec::new()))
            }
            Act::AddContacts { side, stack, lines, last } => {
                let (piece, found) = find_side(job, side)?;
                let sheet = piece.format.size;
                let room = Size::new(sheet.w.scaled(0.5), sheet.measure().scaled(0.055));
                let at = free_place(
                    job,
                    (piece, found),
                    Size::new(room.w, room.h.scaled(1.4 * lines.len().max(1) as f64)),
                    &|item| self.studio.drawn(job, item),
                );
                let lines = lines
                    .iter()
                    .map(|text| Ok(ContactLine { text: text.clone(), sign: self.shelves.sign(ContactKind::of(text))? }))
                    .collect::<Result<_, Problem>>()?;
                let ink = Paint::flat(
                    Inks {
                        last: last.as_ref(),
                        under: &|rect| self.studio.seen_in(job, piece, found, rect),
                        ..Inks::PLAIN
                    }
                    .at(job, found, at),
                );
                let lines = NewLines { lines, at: Rect::new(at.x, at.y, room.w, room.h), ink };
                Ok(add_contacts(job, side, stack.as_ref(), lines, &mut Ids)?)
            }
            Act::Connect { from, to, arrow, last } => {
                let side = job.find(from)?.side;
                let ink = Paint::flat(Inks { last: last.as_ref(), ..Inks::PLAIN }.at(job, side, Rect::default()));
                let (command, made) = connect(job, from, to, *arrow, &ink, &mut Ids)?;
                Ok((command, vec![made]))
            }
            Act::CallOut { picture, at, last } => {
                let Standing { piece, side, item, .. } = job.find(picture)?;
                let inks = Inks {
                    last: last.as_ref(),
                    under: &|rect| self.studio.seen_in(job, piece, side, rect),
                    ..Inks::PLAIN
                };
                let spot = self
                    .studio
                    .spot_at(job, item, *at)
                    .ok_or_else(|| Problem::value("A call-out points at a picture. Put one into this frame first."))?;
                Ok(call_out(job, picture, spot, *at, &inks, &mut Ids)?)
            }
            Act::Reorder { items, order } => Ok((reorder(job, items, *order)?, Vec::new())),
            Act::Tie { item, tie: wanted } => {
                let (piece, boxes) = boxes(&self.studio, job, std::slice::from_ref(item))?;
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
                let palette = palettes()
                    .into_iter()
                    .find(|palette| palette.name == *name)
                    .ok_or_else(|| Problem::not_found("There is no such palette."))?;
                Ok((apply_palette(job, &palette), Vec::new()))
            }
            Act::Undo | Act::Redo | Act::RepeatMove { .. } => Err(Problem::value("That cannot be rehearsed.")),
        }
    }

    fn addition(&self, what: &New, piece: &Piece) -> Result<Addition, Problem> {
        Ok(match what {
            New::Words { part, .. } => Addition::Words(*part),
            New::Panel => Addition::Panel,
            New::Layers { .. } => {
                return Err(Problem::value(
                    "A drawing with words arrives as a new group. Add it first, then remove the other.",
                ));
            }
            New::Hand { lines, thickness, smoothing, thinning } => {
                let thickness = thickness.unwrap_or_else(|| pen_thickness(piece.format.size));
                let (hand, rect) = Hand::drawn(lines, thickness, *smoothing, *thinning)
                    .ok_or_else(|| Problem::value("Nothing was drawn."))?;
                Addition::Drawn(Outline::Hand { hand }, rect)
            }
            New::Shape { outline } => Addition::Shape(outline.clone()),
            New::Code { says } => Addition::Code(says.clone()),
            New::Drawing { drawing } => Addition::Brought(drawing.clone()),
            New::Graphic { graphic, .. } => Addition::Drawing(self.shelves.graphic(graphic)?),
            New::Picture { picture: None } => Addition::Picture(None),
            New::Picture { picture: Some(id) } => {
                let info = self
                    .studio
                    .pictures
                    .info(id)
                    .ok_or_else(|| Problem::not_found("That picture is not on the shelf any more."))?;
                Addition::Picture(Some((id.clone(), (info.width, info.height))))
            }
        })
    }
}
