//! Rows and columns that space themselves, and lines of contact with a fitting sign.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_document::{
    Command, Content, Direction, Drawing, GroupId, IdSource, Item, ItemId, Job, Kin, KinId, Look, Paint, Part, Place,
    RichText, Side, SideId, Stack, StackAlign, TextFit, TypeLook,
};
use vatman_units::{Length, Placement, Rect};

use crate::arrange::align::Boxes;
use crate::arrange::group::group;
use crate::pictures::draw::inked;
use crate::refusal::Refusal;

/// The group a selection is exactly, if it is one: the innermost that has all of the items and nothing else.
fn whole_group<'a>(side: &'a Side, items: &[ItemId]) -> Option<&'a GroupId> {
    let first = side.items.iter().find(|item| items.contains(&item.id))?;
    first.groups.iter().rev().find(|group| {
        let members = side.items.iter().filter(|item| item.groups.contains(group));
        members.clone().count() == items.len() && members.into_iter().all(|item| items.contains(&item.id))
    })
}

/// Makes items a stack: a group whose members follow each other with equal gaps. The gap is the mean of what it was, never less than
/// nothing, and the alignment the one they come nearest to.
///
/// # Errors
/// [`Refusal`] for fewer than two items, or items of several sides.
pub fn stack(
    job: &Job,
    boxes: &Boxes,
    items: &[ItemId],
    direction: Direction,
    ids: &mut dyn IdSource,
) -> Result<Command, Refusal> {
    let side = job.find(items.first().ok_or(Refusal::NothingSelected)?)?.side;
    let (mut commands, id) = match whole_group(side, items) {
        Some(group) => (Vec::new(), group.clone()),
        None => {
            let command = group(job, items, ids)?;
            let Command::All { commands } = &command else { return Ok(command) };
            let shared: Vec<&GroupId> = side.items.iter().flat_map(|item| &item.groups).collect();
            // The group all of them gained.
            let fresh = commands.iter().find_map(|command| {
                if let Command::SetGroups { groups, .. } = command {
                    groups.iter().find(|group| !shared.contains(group))
                } else {
                    None
                }
            });
            let fresh = fresh.cloned().ok_or(Refusal::NotStackable)?;
            (commands.clone(), fresh)
        }
    };
    let mut rects: Vec<Rect> = items.iter().filter_map(|id| boxes.get(id).copied()).collect();
    let edges: [fn(&Rect) -> Length; 4] = match direction {
        Direction::Down => [|r| r.y, |r| r.bottom(), |r| r.x, |r| r.right()],
        Direction::Across => [|r| r.x, |r| r.right(), |r| r.y, |r| r.bottom()],
    };
    let [start, end, first, last] = edges;
    rects.sort_by_key(start);
    let gaps: Vec<Length> = rects.windows(2).map(|pair| start(&pair[1]) - end(&pair[0])).collect();
    let gap =
        Length::from_raw(gaps.iter().map(|gap| gap.raw()).sum::<i64>() / gaps.len().max(1) as i64).max(Length::ZERO);
    let spread = |of: &dyn Fn(&Rect) -> i64| {
        let values: Vec<i64> = rects.iter().map(of).collect();
        values.iter().max().unwrap_or(&0) - values.iter().min().unwrap_or(&0)
    };
    let candidates = [
        (StackAlign::First, spread(&|r| first(r).raw())),
        (StackAlign::Middle, spread(&|r| (first(r) + last(r)).half().raw())),
        (StackAlign::Last, spread(&|r| last(r).raw())),
    ];
    let align = candidates.into_iter().min_by_key(|(_, spread)| *spread).map_or(StackAlign::First, |(align, _)| align);
    // A new stack may lie around others, which are spaced first.
    let mut stacks: Vec<Stack> = side.stacks.iter().filter(|other| other.group != id).cloned().collect();
    stacks.push(Stack { group: id, direction, gap, align });
    commands.push(Command::SetStacks { side: side.id.clone(), stacks });
    Ok(Command::All { commands })
}

/// What a line of contact is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum ContactKind {
    /// An address for mail.
    Mail,
    /// A number to call.
    Phone,
    /// A page.
    Web,
    /// A name on some network.
    Handle,
    /// Hours or a day.
    Hours,
    /// A street or town.
    Place,
}

impl ContactKind {
    /// Recognises a line by how it is written; what has no other mark is a place.
    #[must_use]
    pub fn of(line: &str) -> Self {
        let line = line.trim().to_lowercase();
        let dotted = |text: &str| {
            text.split('.').count() > 1
                && text.split('.').all(|part| !part.is_empty() && part.chars().all(|c| c.is_alphanumeric() || c == '-'))
        };
        let digits = line.chars().filter(char::is_ascii_digit).count();
        let words = || line.split(|c: char| !c.is_alphabetic()).filter(|word| !word.is_empty());
        const DAYS: [&str; 9] = ["mon", "tue", "wed", "thu", "fri", "sat", "sun", "daily", "open"];
        if let Some((name, host)) = line.split_once('@') {
            return if !name.is_empty() && dotted(host) { Self::Mail } else { Self::Handle };
        }
        let host =
            line.trim_start_matches("https://").trim_start_matches("http://").split('/').next().unwrap_or_default();
        if line.starts_with("http")
            || line.starts_with("www.")
            || (!line.contains(' ')
                && dotted(host)
                && host.chars().any(char::is_alphabetic)
                && host.rsplit('.').next().is_some_and(|end| end.len() > 1))
        {
            return Self::Web;
        }
        let hours = line.contains(':') && digits >= 2
            || words().any(|word| DAYS.iter().any(|day| word.starts_with(day) && word.len() <= day.len() + 6));
        if hours && digits < 9 {
            return Self::Hours;
        }
        if digits >= 5
            && line.chars().all(|c| c.is_ascii_digit() || " +-()./".contains(c) || c.is_alphabetic())
            && words().map(str::len).sum::<usize>() <= 5
        {
            return Self::Phone;
        }
        Self::Place
    }

    /// What to look for on the shelf of graphics.
    #[must_use]
    pub const fn sign(self) -> &'static str {
        match self {
            Self::Mail => "mail",
            Self::Phone => "phone",
            Self::Web => "world",
            Self::Handle => "at",
            Self::Hours => "clock",
            Self::Place => "map pin",
        }
    }
}

/// Lines of contact with their signs, ready to be put down.
#[derive(Debug, Clone)]
pub struct ContactLine {
    /// As typed.
    pub text: String,
    /// Its sign, where the shelf has one.
    pub sign: Option<Drawing>,
}

/// What changes about a stack; what is absent stays.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, TS)]
#[serde(default, deny_unknown_fields)]
#[ts(optional_fields)]
pub struct StackChange {
    /// How its rows follow each other.
    pub direction: Option<Direction>,
    /// The gap between them.
    pub gap: Option<Length>,
    /// Where they stand across the direction.
    pub align: Option<StackAlign>,
}

/// Changes how a stack spaces itself, or lets its members space freely again.
///
/// # Errors
/// [`Refusal`] where side or stack are not there.
pub fn change_stack(
    job: &Job,
    side: &SideId,
    group: &GroupId,
    change: Option<StackChange>,
) -> Result<Command, Refusal> {
    let (_, found) = job.side(side).ok_or_else(|| Refusal::Missing("side", side.to_string()))?;
    let mut stacks = found.stacks.clone();
    let at = stacks.iter().position(|stack| stack.group == *group);
    let at = at.ok_or_else(|| Refusal::Missing("stack", group.to_string()))?;
    match change {
        Some(change) => {
            let stack = &mut stacks[at];
            stack.direction = change.direction.unwrap_or(stack.direction);
            stack.gap = change.gap.unwrap_or(stack.gap);
            stack.align = change.align.unwrap_or(stack.align);
        }
        None => drop(stacks.remove(at)),
    }
    Ok(Command::SetStacks { side: side.clone(), stacks })
}

/// Lines of contact to be added.
#[derive(Debug, Clone)]
pub struct NewLines {
    /// In their order.
    pub lines: Vec<ContactLine>,
    /// The box of the first row, where they stand on their own.
    pub at: Rect,
    /// What they are painted with, where there is no row to take it from.
    pub ink: Paint,
}

/// Puts lines of contact on a side as a stack of rows, each a sign and words: under the last row of a stack where one is named, else as
/// a new one in free space.
///
/// # Errors
/// [`Refusal`] without lines, or where side or stack are not there.
pub fn add_contacts(
    job: &Job,
    side: &SideId,
    under: Option<&GroupId>,
    lines: NewLines,
    ids: &mut dyn IdSource,
) -> Result<(Command, Vec<ItemId>), Refusal> {
    let (_, found) = job.side(side).ok_or_else(|| Refusal::Missing("side", side.to_string()))?;
    let NewLines { lines, at, ink } = lines;
    let lines: Vec<ContactLine> = lines.into_iter().filter(|line| !line.text.trim().is_empty()).collect();
    if lines.is_empty() || lines.len() > 20 {
        return Err(Refusal::ContactLines);
    }
    let members = |group: &GroupId| found.items.iter().filter(|item| item.groups.contains(group)).collect::<Vec<_>>();
    let existing = match under {
        Some(id) => {
            let stack = found
                .stacks
                .iter()
                .find(|stack| stack.group == *id)
                .ok_or_else(|| Refusal::Missing("stack", id.to_string()))?;
            Some((stack, members(id)))
        }
        None => None,
    };
    // A new row looks like the rows there are.
    let model = existing.as_ref().and_then(|(_, items)| {
        items.iter().find_map(|item| {
            job.plain(item).filter(|plain| plain.content.words().is_some()).map(|plain| (*item, plain.look.clone()))
        })
    });
    let size = at.h.scaled(0.55);
    let kind = TypeLook { size, fit: TextFit::AsTyped, leading: vatman_units::Ratio::new(1.2), ..TypeLook::default() };
    let look = model.as_ref().map_or_else(
        || Look { fill: Some(ink.clone()), type_look: Some(kind), ..Look::default() },
        |(_, look)| look.as_ref().clone(),
    );
    let scale = model.as_ref().map_or(vatman_units::Ratio::ONE, |(item, _)| item.place.scale);
    let high = look.type_look.as_ref().map_or(size, |kind| kind.size.scaled(1.2 * scale.get()));
    let tint = look.fill.as_ref().and_then(|paint| paint.tints().next().cloned());
    let mut outer: Vec<GroupId> = existing
        .as_ref()
        .and_then(|(stack, items)| {
            items.first().map(|item| item.groups.iter().take_while(|group| **group != stack.group).cloned().collect())
        })
        .unwrap_or_default();
    let group = under.cloned().unwrap_or_else(|| GroupId::fresh(ids));
    outer.push(group.clone());
    let last = existing.iter().flat_map(|(_, items)| items).map(|item| item.place.at.rect.bottom()).max();
    let left = existing.iter().flat_map(|(_, items)| items).map(|item| item.place.at.rect.x).min().unwrap_or(at.x);
    let mut top = last.map_or(at.y, |bottom| bottom + high.scaled(0.5));
    let top_index = found.items.iter().rposition(|item| item.groups.contains(&group)).map_or(usize::MAX, |at| at + 1);
    let (mut commands, mut made, mut stacks) = (Vec::new(), Vec::new(), found.stacks.clone());
    let mut insert =
        |part: Part, content: Content, look: Look, groups: Vec<GroupId>, rect: Rect, scale, ids: &mut dyn IdSource| {
            let place = Place { scale, ..Place::new(Placement::at(rect)) };
            let item = Item { groups, ..Item::new(ItemId::fresh(ids), KinId::fresh(ids), place) };
            made.push(item.id.clone());
            let index = top_index.saturating_add(commands.len());
            commands.push(Command::InsertItem {
                side: side.clone(),
                index,
                item,
                kin: Some(Kin::new(part, content, look)),
            });
        };
    for line in lines {
        let row = GroupId::fresh(ids);
        let groups: Vec<GroupId> = outer.iter().cloned().chain([row.clone()]).collect();
        let mut x = left;
        if let Some(sign) = line.sign {
            let drawing = match &tint {
                Some(tint) => inked(sign, tint),
                None => sign,
            };
            insert(
                Part::Ornament,
                Content::Drawing { drawing },
                Look { fill: None, ..Look::default() },
                groups.clone(),
                Rect::new(x, top, high, high),
                vatman_units::Ratio::ONE,
                ids,
            );
            x += high.scaled(1.4);
        }
        let content = Content::Words { text: RichText::plain(line.text.trim()), prompt: "Contact".into() };
        insert(Part::Contact, content, look.clone(), groups, Rect::new(x, top, at.w - (x - left), high), scale, ids);
        stacks.insert(
            0,
            Stack { group: row, direction: Direction::Across, gap: high.scaled(0.4), align: StackAlign::Middle },
        );
        top += high.scaled(1.5);
    }
    if existing.is_none() {
        stacks.push(Stack { group, direction: Direction::Down, gap: high.scaled(0.45), align: StackAlign::First });
    }
    commands.push(Command::SetStacks { side: side.clone(), stacks });
    Ok((Command::All { commands }, made))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::testing::{Everything, Numbered, job_with};

    #[test]
    fn lines_of_contact_are_recognised() {
        for (line, kind) in [
            ("hello@mossbackkiln.example", ContactKind::Mail),
            ("@mossback.kiln", ContactKind::Handle),
            ("www.mossbackkiln.example", ContactKind::Web),
            ("mossbackkiln.example/workshops", ContactKind::Web),
            ("https://mossbackkiln.example", ContactKind::Web),
            ("+44 20 7946 0018", ContactKind::Phone),
            ("(020) 7946-0018", ContactKind::Phone),
            ("tel 555 0142", ContactKind::Phone),
            ("Sat 10:00 to 16:00", ContactKind::Hours),
            ("Open Tuesday to Friday", ContactKind::Hours),
            ("12 Mill Lane, Harrowmere", ContactKind::Place),
            ("The old brickworks", ContactKind::Place),
        ] {
            assert_eq!(ContactKind::of(line), kind, "{line}");
        }
    }

    #[test]
    fn a_stack_takes_the_gap_and_the_alignment_there_is() {
        let mut job = job_with(3);
        let items: Vec<ItemId> = job.items().map(|item| item.id.clone()).collect();
        let px = Length::css_px;
        let boxes: Boxes = items
            .iter()
            .enumerate()
            .map(|(i, id)| {
                (
                    id.clone(),
                    Rect::new(px(300.0 - 50.0 * i as f64), px(130.0 * i as f64), px(50.0 * i as f64 + 10.0), px(100.0)),
                )
            })
            .collect();
        stack(&job, &boxes, &items, Direction::Down, &mut Numbered::default())
            .unwrap()
            .apply(&mut job, &Everything)
            .unwrap();
        let made = &job.pieces[0].sides[0].stacks[0];
        assert_eq!((made.gap, made.align), (px(30.0), StackAlign::Last));
        assert!(job.items().all(|item| item.groups == [made.group.clone()]));
        // Made once more it stays one stack of one group.
        stack(&job, &boxes, &items, Direction::Across, &mut Numbered(50))
            .unwrap()
            .apply(&mut job, &Everything)
            .unwrap();
        let stacks = &job.pieces[0].sides[0].stacks;
        assert_eq!((stacks.len(), stacks[0].direction), (1, Direction::Across));
        assert!(job.items().all(|item| item.groups.len() == 1));
    }
}
