//! Another design for a job: its words and pictures in the look and the arrangements of the new one, with what was added by hand kept.

use std::collections::BTreeMap;

use vatman_document::{
    Command, Content, Follows, IdSource, Item, ItemId, Job, Kin, KinId, Look, Part, Piece, Place, Plain, Release,
    RichText, Side, Swatch, Target, Tint,
};
use vatman_units::{Length, Ratio, Size};

use crate::compose::design::{Design, LayoutPart};
use crate::compose::lay_out::{Placed, Said, Slotted, filled, fresh_shape, place_column, place_layout, role_name};
use crate::compose::panels::{Panel, Role, panels_of};
use crate::compose::place::PlaceEntry;
use crate::refusal::Refusal;
use crate::studio::Studio;

/// The command that gives every piece of a job another design. Words and pictures take the slots of their parts; shapes of the design
/// before go, what was added by hand stays where it is, in front.
///
/// # Errors
/// [`Refusal`] where something cannot be taken away.
pub fn redesign(
    studio: &Studio,
    job: &Job,
    design: &Design,
    entries: &dyn Fn(&Piece) -> PlaceEntry,
    ids: &mut dyn IdSource,
) -> Result<Command, Refusal> {
    let mut commands: Vec<Command> = design
        .palette
        .iter()
        .map(|(id, color)| {
            let name = job.swatches.get(id).map_or_else(|| role_name(id), |swatch| swatch.name.clone());
            Command::SetSwatch { id: id.clone(), swatch: Some(Swatch::new(name, *color)) }
        })
        .collect();
    let mut work = Work { studio, job, design, sizes: BTreeMap::new(), shapes: BTreeMap::new(), ids };
    for piece in &job.pieces {
        let entry = entries(piece);
        // The back of a card keeps its own design; what is folded has one.
        let panels = panels_of(piece);
        if let (true, Some(side)) = (panels.is_empty(), piece.sides.first()) {
            let all: Vec<&Item> = side.items.iter().collect();
            commands.extend(work.side(side, (&all, &entry), None)?);
        }
        for panel in &panels {
            let Some(side) = piece.sides.get(panel.side) else { continue };
            let here: Vec<&Item> = panel.items(piece, side).collect();
            let front = panels.first().map_or(entry.format.size, |front| front.rect.size());
            commands.extend(work.side(side, (&here, &panel.entry(&entry)), Some((panel, &entry, front)))?);
        }
        let rest = piece.follows.designs().iter().skip(1).cloned();
        let designs = std::iter::once(design.id.clone()).chain(rest).collect();
        commands.push(Command::Follow { piece: piece.id.clone(), follows: Follows::Design { designs } });
    }
    Ok(Command::All { commands })
}

struct Work<'w> {
    studio: &'w Studio,
    job: &'w Job,
    design: &'w Design,
    /// The size each kin's type was given; the first piece that shows it says so.
    sizes: BTreeMap<KinId, Length>,
    /// The kins of the shapes of the design, by their slots.
    shapes: BTreeMap<String, (KinId, Look)>,
    ids: &'w mut dyn IdSource,
}

impl Work<'_> {
    /// A side, or a panel of one, with the items on it. A panel comes with the place of the whole piece and the size of its front.
    fn side(
        &mut self,
        side: &Side,
        (items, entry): (&[&Item], &PlaceEntry),
        panel: Option<(&Panel, &PlaceEntry, Size)>,
    ) -> Result<Vec<Command>, Refusal> {
        let (job, design) = (self.job, self.design);
        let plain: Vec<Plain<'_>> = items.iter().filter_map(|item| job.plain(item)).collect();
        let shape = panel.map_or(entry.format.size, |(_, _, front)| front);
        let ground = if entry.clear { None } else { design.layout_for(shape.aspect()).ground.clone() };
        let said = |part: Part| {
            let all = plain.iter().filter(|one| one.part == part && one.content.words().is_some() && !one.item.hidden);
            all.max_by_key(|one| one.content.words().is_some_and(|text| !text.is_blank()))
        };
        let says = |part: Part| -> Option<Said> {
            let one = said(part)?;
            let kind = design.types.get(&part)?;
            let Content::Words { text, prompt } = one.content else { return None };
            let text = if text.is_blank() { RichText::plain(prompt) } else { text.clone() };
            let pad = kind.button.as_ref().map(|button| button.pad);
            Some(Said { text, look: kind.look(Length::pt(12.0)), ratio: kind.ratio, pad })
        };
        let mut pictures: Vec<&Plain<'_>> =
            plain.iter().filter(|one| matches!(one.content, Content::Picture { .. })).collect();
        pictures.sort_by_key(|one| one.part != Part::MainPicture);
        let mut pictures = pictures.into_iter();
        let (mut commands, mut order, mut placed_words): (Vec<Command>, Vec<ItemId>, Vec<&ItemId>) =
            (Vec::new(), Vec::new(), Vec::new());
        let mut all = match panel {
            Some((panel, ..)) if !matches!(panel.role, Role::Front | Role::Again) => {
                let words = plain.iter().filter(|one| one.content.words().is_some() && !one.item.hidden);
                let rows: Vec<(Part, Said)> = words.filter_map(|one| Some((one.part, says(one.part)?))).collect();
                let color = |tint: &Tint| design.color(tint).unwrap_or_else(|| job.color(tint));
                place_column(design, &rows, (panel, entry), (ground.as_ref(), &color), &self.studio.typesetter)
            }
            _ => place_layout(design, entry, &says, &self.studio.typesetter),
        };
        for placed in &mut all {
            placed.place = panel.map_or(placed.place, |(panel, whole, _)| panel.on_side(placed.place, &whole.format));
        }
        for placed in all {
            match &placed.what {
                Slotted::Words(part, size) => {
                    let Some(one) = said(*part) else { continue };
                    commands.extend(self.words(one, *part, *size, &placed)?);
                    placed_words.push(&one.item.id);
                    if placed.stands {
                        order.push(one.item.id.clone());
                    }
                }
                Slotted::Drawn(LayoutPart::Picture { outline, line, .. }) => {
                    let Some(one) = pictures.next() else { continue };
                    let measure = entry.format.size.measure();
                    let Content::Picture { picture, focus, fit, .. } = one.content else { continue };
                    let content = Content::Picture {
                        picture: picture.clone(),
                        focus: *focus,
                        frame: outline.resolve(measure),
                        fit: *fit,
                    };
                    let stroke = line.as_ref().map(|line| line.resolve(measure));
                    let kin = Target::Shared(one.item.kin.clone());
                    commands.push(Command::SetRelease { item: one.item.id.clone(), release: Release::default() });
                    if !self.sizes.contains_key(&one.item.kin) {
                        self.sizes.insert(one.item.kin.clone(), measure);
                        commands.push(Command::SetContent { target: kin.clone(), content });
                        commands.push(Command::SetLook {
                            target: kin,
                            look: Look { fill: None, stroke, ..Look::default() },
                        });
                    }
                    let scale = measure.to_css_px() / self.sizes[&one.item.kin].to_css_px();
                    let place = Place { scale: Ratio::new(scale), ..placed.place };
                    commands.push(Command::SetPlace { item: one.item.id.clone(), place });
                    order.push(one.item.id.clone());
                }
                Slotted::Drawn(_) => {
                    if let Some((command, id)) = self.shape(side, &placed, entry) {
                        commands.push(command);
                        order.push(id);
                    }
                }
            }
        }
        // What only the design before had goes; pictures and words the new one has no place for wait in the tray.
        let mut gone = Vec::new();
        for one in &plain {
            let of_design = job.kins.get(&one.item.kin).is_some_and(|kin| kin.slot.is_some());
            if order.contains(&one.item.id) || placed_words.contains(&&one.item.id) {
                continue;
            }
            match one.content {
                Content::Shape { .. } if of_design => gone.push(Command::RemoveItem { item: one.item.id.clone() }),
                Content::Picture { .. } | Content::Words { .. } if of_design => {
                    commands.push(crate::arrange::remove(job, std::slice::from_ref(&one.item.id))?);
                }
                _ => order.push(one.item.id.clone()),
            }
        }
        commands.extend(gone);
        commands.push(Command::SetGround { side: side.id.clone(), ground });
        commands.extend(order.into_iter().enumerate().map(|(index, item)| Command::MoveItem { item, index }));
        Ok(commands)
    }

    fn words(
        &mut self,
        one: &Plain<'_>,
        part: Part,
        size: Length,
        placed: &Placed<'_>,
    ) -> Result<Vec<Command>, Refusal> {
        let kind = &self.design.types[&part];
        let mut commands = Vec::new();
        if one.item.release.look != placed.own {
            let release = Release { look: placed.own.clone(), ..one.item.release.clone() };
            commands.push(Command::SetRelease { item: one.item.id.clone(), release });
        }
        if !self.sizes.contains_key(&one.item.kin) {
            self.sizes.insert(one.item.kin.clone(), size);
            let look = Look {
                fill: Some(kind.paint()),
                type_look: Some(kind.look(size)),
                backing: kind.button.as_ref().map(|button| button.backing(size)),
                ..Look::default()
            };
            commands.push(Command::SetLook { target: Target::Shared(one.item.kin.clone()), look });
        }
        let scale = size.to_css_px() / self.sizes[&one.item.kin].to_css_px().max(1e-6);
        let place = Place { scale: Ratio::new(scale.clamp(1e-3, 1e3)), ..placed.place };
        commands.push(Command::SetPlace { item: one.item.id.clone(), place });
        if !placed.stands {
            commands.push(crate::arrange::remove(self.job, std::slice::from_ref(&one.item.id))?);
        }
        Ok(commands)
    }

    /// A shape of the design on a side.
    fn shape(&mut self, side: &Side, placed: &Placed<'_>, entry: &PlaceEntry) -> Option<(Command, ItemId)> {
        let made: Kin = fresh_shape(placed, entry)?;
        let known = self.shapes.get(&placed.slot).cloned();
        let id = ItemId::fresh(self.ids);
        let (kin, new, look) = match known {
            Some((kin, look)) => {
                let own = (look.fill != made.look.fill).then(|| filled(made.look.fill.clone()));
                (kin, None, own)
            }
            None => {
                let kin = KinId::fresh(self.ids);
                self.shapes.insert(placed.slot.clone(), (kin.clone(), made.look.clone()));
                (kin, Some(made), None)
            }
        };
        let item = Item { release: Release { look, content: None }, ..Item::new(id.clone(), kin, placed.place) };
        Some((Command::InsertItem { side: side.id.clone(), index: usize::MAX, item, kin: new }, id))
    }
}
