//! Whole palettes, applied by the role each colour plays, so that what could be read before can be read after.

use serde::Serialize;
use ts_rs::TS;
use vatman_document::{Color, Command, Content, Job, Oklab, Paint, Side, Swatch, SwatchId, Target, Tint};

/// The roles of a palette: what lies under everything, what is written, what is set off, and three helpers.
const ROLES: [&str; 6] = ["ground", "ink", "accent", "soft", "deep", "light"];

/// A palette of the shelf.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, TS)]
pub struct Palette {
    /// Its name.
    pub name: String,
    /// Ground, ink, accent, soft, deep, light.
    pub colours: [Color; 6],
}

/// The palettes that ship. Ink and accent read on the ground (WCAG ratio of at least 4.5), and so does ground on deep; tested.
#[must_use]
pub fn palettes() -> Vec<Palette> {
    let all: [(&str, [u32; 6]); 14] = [
        ("Bisque", [0xf4efe6, 0x23201d, 0x8c5a3c, 0x9db8a4, 0x2b4a8b, 0xfbf8f2]),
        ("Kiln night", [0x1c1a22, 0xf3ece2, 0xf0a56b, 0x4a4558, 0xe8dccb, 0x2a2732]),
        ("Meadow", [0xf3f6ea, 0x1e2a1c, 0x3f6b2c, 0xc7d9a9, 0x24473a, 0xfbfcf6]),
        ("Harbour", [0xeaf1f4, 0x14252e, 0x1f6480, 0xb4d0d9, 0x123f5b, 0xf8fbfc]),
        ("Market day", [0xfff6e0, 0x2a1d10, 0xb3371f, 0xf3cf7a, 0x5a2a14, 0xfffcf3]),
        ("Plum jam", [0xf8eef2, 0x2c1424, 0x8a2a5b, 0xe3b9cb, 0x4c1a3c, 0xfdf8fa]),
        ("Slate", [0xeef0f1, 0x1d2226, 0x45566a, 0xc3cbd1, 0x2a3644, 0xf9fafa]),
        ("Lagoon", [0x0f3037, 0xeef7f3, 0x8fe0c4, 0x24525a, 0xd9efe6, 0x16414a]),
        ("Citrus", [0xfdfbe6, 0x25260f, 0x6d6a00, 0xf2e66b, 0x3f4a12, 0xfffef5]),
        ("Brick", [0x7a2e20, 0xfff3e8, 0xffd39a, 0x99473a, 0xffe9d6, 0x8c3a2b]),
        ("Lilac hour", [0xf1eef9, 0x211a3a, 0x5b42a8, 0xcfc3ee, 0x33246b, 0xfaf9fe]),
        ("Moss", [0x26301f, 0xf2f4e6, 0xd6cf7d, 0x46553a, 0xe6ead1, 0x303c28]),
        ("Rose clay", [0xfaeee8, 0x321f1a, 0x9c4634, 0xeec6b6, 0x5d2b22, 0xfdf8f5]),
        ("Paper and ink", [0xffffff, 0x111111, 0x3a3a3a, 0xd9d9d9, 0x222222, 0xf5f5f5]),
    ];
    let color = |hex: u32| Color::opaque((hex >> 16) as u8, (hex >> 8) as u8, hex as u8);
    all.into_iter().map(|(name, colours)| Palette { name: name.to_owned(), colours: colours.map(color) }).collect()
}

/// Puts a palette in the place of the colours of a job, role by role.
///
/// Shared colours named by role are set. Any other colour of a fill, a line or a ground takes the role it plays: what lies under
/// everything becomes ground; words become ink, or accent where they were colourful; other areas become the helper nearest in lightness
/// to the ground they had. Colours inside pictures, drawings and light stay.
#[must_use]
pub fn apply_palette(job: &Job, palette: &Palette) -> Command {
    let mut commands = Vec::new();
    let id = |role: usize| SwatchId::new(ROLES[role]).ok();
    for (role, color) in palette.colours.iter().enumerate() {
        let Some(id) = id(role) else { continue };
        let name = job.swatches.get(&id).map_or_else(|| capital(ROLES[role]), |swatch| swatch.name.clone());
        commands.push(Command::SetSwatch { id, swatch: Some(Swatch::new(name, *color)) });
    }
    let tint = |role: usize| id(role).map_or(Tint::Own(palette.colours[role]), Tint::Swatch);
    let by_role = |tint: &Tint| matches!(tint, Tint::Swatch(id) if ROLES.contains(&id.as_str()));
    let grounds: Vec<Color> = job
        .pieces
        .iter()
        .flat_map(|piece| &piece.sides)
        .filter_map(|side| side.ground.as_ref()?.tints().next().map(|tint| job.color(tint)))
        .collect();
    let ground = grounds.first().copied().unwrap_or(Color::WHITE);
    let role_of = |color: Color, is_words: bool| -> usize {
        let lab = Oklab::from(color);
        if is_words {
            return if Oklab::from(color).distance(Oklab::from(ground)) < 0.04 {
                0
            } else if lab.chroma() > 0.06 {
                2
            } else {
                1
            };
        }
        if color == ground {
            return 0;
        }
        let away = lab.distance(Oklab::from(ground));
        match away {
            a if a < 0.08 => 5,
            a if a < 0.32 => 3,
            _ if lab.chroma() > 0.06 => 2,
            _ => 4,
        }
    };
    let repaint = |tints: Vec<&mut Tint>, is_words: bool| {
        let mut changed = false;
        for own in tints {
            if !by_role(own) {
                *own = tint(role_of(job.color(own), is_words));
                changed = true;
            }
        }
        changed
    };
    let change = |content: &Content, look: &vatman_document::Look, target: Target, commands: &mut Vec<Command>| {
        let is_words = content.words().is_some();
        let mut look = look.clone();
        let fills = look.fill.iter_mut().flat_map(Paint::tints_mut).collect();
        let mut changed = repaint(fills, is_words);
        let lines = look.stroke.iter_mut().flat_map(|stroke| stroke.paint.tints_mut()).collect();
        changed |= repaint(lines, false);
        if let Some(backing) = &mut look.backing {
            changed |= repaint(backing.fill.iter_mut().flat_map(Paint::tints_mut).collect(), false);
        }
        if changed {
            commands.push(Command::SetLook { target, look });
        }
    };
    for (id, kin) in &job.kins {
        change(&kin.content, &kin.look, Target::Shared(id.clone()), &mut commands);
    }
    for item in job.items() {
        if let (Some(look), Some(plain)) = (&item.release.look, job.plain(item)) {
            change(plain.content, &look.over(&job.kins[&item.kin].look), Target::Only(item.id.clone()), &mut commands);
        }
    }
    for side in job.pieces.iter().flat_map(|piece| &piece.sides) {
        commands.extend(repainted_ground(side, &by_role, &tint(0)));
    }
    Command::All { commands }
}

fn repainted_ground(side: &Side, by_role: &dyn Fn(&Tint) -> bool, ground: &Tint) -> Option<Command> {
    let mut paint = side.ground.clone()?;
    let mut changed = false;
    for own in paint.tints_mut() {
        if !by_role(own) {
            own.clone_from(ground);
            changed = true;
        }
    }
    changed.then(|| Command::SetGround { side: side.id.clone(), ground: Some(paint) })
}

fn capital(word: &str) -> String {
    let mut letters = word.chars();
    letters.next().map_or_else(String::new, |first| first.to_uppercase().chain(letters).collect())
}

#[cfg(test)]
mod tests {
    use std::sync::Arc;

    use super::*;
    use crate::testing::{Everything, job_with};

    #[test]
    fn every_palette_keeps_words_readable() {
        for palette in palettes() {
            let [ground, ink, accent, _, deep, light] = palette.colours;
            for (what, a, b) in [
                ("ink on ground", ink, ground),
                ("accent on ground", accent, ground),
                ("deep on ground", deep, ground),
                ("ink on light", ink, light),
            ] {
                assert!(a.contrast(b) >= 4.5, "{}: {what} has only {:.2}", palette.name, a.contrast(b));
            }
        }
    }

    #[test]
    fn colours_take_the_role_they_played_and_all_is_undone() {
        let mut job = job_with(2);
        Arc::make_mut(&mut job.pieces[0]).sides[0].ground = Some(Paint::flat(Color::WHITE));
        let first = job.items().next().unwrap().clone();
        let kin = Arc::make_mut(job.kins.get_mut(&first.kin).unwrap());
        kin.content = Content::Words { text: vatman_document::RichText::plain("Open studio"), prompt: String::new() };
        kin.look.fill = Some(Paint::flat(Color::opaque(20, 20, 20)));
        let before = job.clone();
        for palette in palettes() {
            let undo = apply_palette(&job, &palette).apply(&mut job, &Everything).unwrap();
            let text = job.color(
                job.plain(job.item(&first.id).unwrap()).unwrap().look.fill.as_ref().unwrap().tints().next().unwrap(),
            );
            let ground = job.color(job.pieces[0].sides[0].ground.as_ref().unwrap().tints().next().unwrap());
            assert_eq!((text, ground), (palette.colours[1], palette.colours[0]), "{}", palette.name);
            undo.apply(&mut job, &Everything).unwrap();
            assert_eq!(job, before);
        }
    }
}
