//! Colours at hand for a side: those it uses, those of its pictures, and those that go with them.

use std::collections::BTreeMap;

use serde::Serialize;
use ts_rs::TS;
use vatman_document::{
    AssetId, Color, Command, Content, GroupLook, Item, Job, Look, LookPatch, Oklab, Paint, Release, RichText, Run,
    RunStyle, Side, Target, Tint,
};
use vatman_photo::Pictures;

/// A colour in use.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, TS)]
pub struct UsedColour {
    /// As it is written: shared or its own.
    pub tint: Tint,
    /// What it looks like.
    pub color: Color,
    /// In how many places.
    pub uses: usize,
}

/// Colours for a choice, in the order they are offered.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, TS)]
pub struct SideColours {
    /// Used on this side, most used first.
    pub used: Vec<UsedColour>,
    /// Read from the pictures of this side.
    pub pictures: Vec<Color>,
    /// Computed from what is used: neighbours and opposites in hue that read on the ground.
    pub suggested: Vec<Color>,
    /// Darker to lighter steps of the colour that is being changed.
    pub steps: Vec<Color>,
}

/// Gathers the colours of a side; `of` is the colour being changed.
#[must_use]
pub fn side_colours(job: &Job, side: &Side, pictures: &Pictures, of: Option<Color>) -> SideColours {
    let used = used_colours(job, side);
    let mut shown: Vec<AssetId> =
        side.items.iter().filter_map(|item| job.plain(item)?.content.picture().cloned()).collect();
    shown.sort();
    shown.dedup();
    let mut from_pictures = Vec::new();
    for id in shown.iter().take(4) {
        for color in dominant(pictures, id, 5) {
            if from_pictures.iter().all(|other| distance(*other, color) > 0.05) {
                from_pictures.push(color);
            }
        }
    }
    let ground =
        side.ground.as_ref().and_then(|paint| paint.tints().next()).map_or(Color::WHITE, |tint| job.color(tint));
    let suggested = suggested(&used, ground);
    SideColours { used, pictures: from_pictures, suggested, steps: of.map(steps).unwrap_or_default() }
}

fn distance(a: Color, b: Color) -> f64 {
    Oklab::from(a).distance(b.into())
}

fn used_colours(job: &Job, side: &Side) -> Vec<UsedColour> {
    let mut counted: BTreeMap<String, (Tint, usize)> = BTreeMap::new();
    let mut count = |tint: &Tint| counted.entry(String::from(tint.clone())).or_insert_with(|| (tint.clone(), 0)).1 += 1;
    side.ground.iter().flat_map(Paint::tints).for_each(&mut count);
    for plain in side.items.iter().filter_map(|item| job.plain(item)) {
        // A picture shows no fill of its own.
        let shows = |paint: &&Paint| plain.content.picture().is_none() || Some(*paint) != plain.look.fill.as_ref();
        plain.look.paints().filter(shows).flat_map(Paint::tints).for_each(&mut count);
        plain
            .content
            .words()
            .into_iter()
            .flat_map(RichText::runs)
            .filter_map(|run| run.style.tint.as_ref())
            .for_each(&mut count);
    }
    let mut used: Vec<UsedColour> =
        counted.into_values().map(|(tint, uses)| UsedColour { color: job.color(&tint), tint, uses }).collect();
    used.sort_by_key(|used| std::cmp::Reverse(used.uses));
    used
}

/// The main colours of a picture: k-means in OKLab over a small copy, started from the mean and the points farthest from all chosen
/// so far (Gonzalez 1985), so that the same picture always gives the same colours. Strong colours come before greys of equal area.
#[must_use]
pub fn dominant(pictures: &Pictures, id: &AssetId, most: usize) -> Vec<Color> {
    const DETAIL: f64 = 72.0;
    let Some(info) = pictures.info(id) else { return Vec::new() };
    let (w, h) = (f64::from(info.width), f64::from(info.height));
    let shrink = (DETAIL / w.max(h)).min(1.0);
    let size = ((w * shrink).round().max(1.0) as u32, (h * shrink).round().max(1.0) as u32);
    let Some(small) = pictures.part(id, [0.0, 0.0, w, h], size) else { return Vec::new() };
    let straight = small.as_ref().clone().straight();
    let opaque = straight.data().chunks_exact(4).filter(|pixel| pixel[3] > 200);
    clusters(&opaque.map(|pixel| Oklab::from(Color::opaque(pixel[0], pixel[1], pixel[2]))).collect::<Vec<_>>(), most)
}

fn mean(points: impl Iterator<Item = Oklab>) -> Option<Oklab> {
    let (sum, count) = points.fold(((0.0, 0.0, 0.0), 0.0), |((l, a, b), n), p| ((l + p.l, a + p.a, b + p.b), n + 1.0));
    (count > 0.0).then(|| Oklab { l: sum.0 / count, a: sum.1 / count, b: sum.2 / count })
}

fn clusters(points: &[Oklab], most: usize) -> Vec<Color> {
    let Some(start) = mean(points.iter().copied()) else { return Vec::new() };
    // Light and shadow spread one colour over many lightnesses: differences of hue count more.
    let apart = |a: &Oklab, b: &Oklab| ((a.l - b.l) * 0.45).hypot((a.a - b.a).hypot(a.b - b.b) * 2.2);
    let nearest = |centres: &[Oklab], p: &Oklab| {
        centres.iter().enumerate().map(|(i, c)| (i, apart(c, p))).min_by(|a, b| a.1.total_cmp(&b.1)).unwrap_or((0, 0.0))
    };
    let mut centres = vec![start];
    while centres.len() < most.max(1) + 2 {
        let farthest = points.iter().map(|p| (p, nearest(&centres, p).1)).max_by(|a, b| a.1.total_cmp(&b.1));
        match farthest {
            Some((p, far)) if far > 0.04 => centres.push(*p),
            _ => break,
        }
    }
    let mut sizes = vec![0usize; centres.len()];
    for _ in 0..16 {
        let own: Vec<usize> = points.iter().map(|p| nearest(&centres, p).0).collect();
        sizes = (0..centres.len()).map(|i| own.iter().filter(|o| **o == i).count()).collect();
        let moved: Vec<Oklab> = (0..centres.len())
            .map(|i| mean(points.iter().zip(&own).filter(|(_, o)| **o == i).map(|(p, _)| *p)).unwrap_or(centres[i]))
            .collect();
        if moved.iter().zip(&centres).all(|(a, b)| a.distance(*b) < 1e-4) {
            break;
        }
        centres = moved;
    }
    let least = points.len() / 100;
    let mut found: Vec<(Oklab, f64)> = centres
        .into_iter()
        .zip(sizes)
        .filter(|(_, size)| *size > least)
        .map(|(c, size)| (c, size as f64 * (0.08 + c.chroma() * 4.0)))
        .collect();
    found.sort_by(|a, b| b.1.total_cmp(&a.1));
    let mut kept: Vec<Oklab> = Vec::new();
    for (centre, _) in found {
        if kept.iter().all(|other| other.distance(centre) > 0.05) && kept.len() < most {
            kept.push(centre);
        }
    }
    kept.into_iter().map(Oklab::to_color).collect()
}

/// Neighbours (30 degrees either way) and the opposite in hue of the strongest colour in use, at lightnesses that read at 3 on the ground.
fn suggested(used: &[UsedColour], ground: Color) -> Vec<Color> {
    let strongest = used.iter().map(|used| Oklab::from(used.color)).max_by(|a, b| a.chroma().total_cmp(&b.chroma()));
    let Some(main) = strongest.filter(|main| main.chroma() > 0.02) else { return Vec::new() };
    let mut out: Vec<Color> = Vec::new();
    for turn in [30.0, -30.0, 180.0, 150.0, 210.0] {
        let at = |l: f64| Oklab::from_polar(l, main.chroma().max(0.06), main.hue() + turn).to_color();
        let levels = [main.l, 0.42, 0.78, 0.3, 0.88];
        let reads = levels.into_iter().map(at).find(|color| color.contrast(ground) >= 3.0);
        let new = |color: &Color| {
            used.iter().all(|used| distance(used.color, *color) > 0.06)
                && out.iter().all(|other| distance(*other, *color) > 0.06)
        };
        if let Some(color) = reads.filter(new) {
            out.push(color);
        }
    }
    out
}

/// Two darker and two lighter steps of the same hue.
#[must_use]
pub fn steps(color: Color) -> Vec<Color> {
    let own = Oklab::from(color);
    let step = |by: f64| Oklab { l: (own.l + by).clamp(0.04, 0.98), ..own }.to_color();
    let mut out: Vec<Color> = [-0.2, -0.1, 0.1, 0.2].map(step).into_iter().filter(|step| *step != color).collect();
    out.dedup();
    out
}

/// The command that puts one colour in the place of another everywhere in the job.
#[must_use]
pub fn replace_colour(job: &Job, from: &Tint, to: &Tint) -> Command {
    let swap = Swap { from, to };
    let mut commands = Vec::new();
    for (id, kin) in &job.kins {
        let target = || Target::Shared(id.clone());
        commands.extend(swap.look(&kin.look).map(|look| Command::SetLook { target: target(), look }));
        commands.extend(swap.content(&kin.content).map(|content| Command::SetContent { target: target(), content }));
    }
    commands.extend(job.items().filter_map(|item| swap.release(item)));
    for side in job.pieces.iter().flat_map(|piece| &piece.sides) {
        if let Some(ground) = side.ground.as_ref().and_then(|ground| swap.paint(ground)) {
            commands.push(Command::SetGround { side: side.id.clone(), ground: Some(ground) });
        }
        let mut looks = side.group_looks.clone();
        if swap.all(looks.iter_mut().flat_map(GroupLook::tints_mut)) {
            commands.push(Command::SetGroupLooks { side: side.id.clone(), looks });
        }
    }
    Command::All { commands }
}

struct Swap<'a> {
    from: &'a Tint,
    to: &'a Tint,
}

impl Swap<'_> {
    fn tint(&self, tint: &Tint) -> Option<Tint> {
        (tint == self.from).then(|| self.to.clone())
    }

    /// The paint with the colour swapped; nothing where it does not have it.
    fn paint(&self, paint: &Paint) -> Option<Paint> {
        let mut swapped = paint.clone();
        self.all(swapped.tints_mut()).then_some(swapped)
    }

    fn look(&self, look: &Look) -> Option<Look> {
        let mut swapped = look.clone();
        self.all(swapped.tints_mut()).then_some(swapped)
    }

    /// Swaps wherever it is the colour; whether it was anywhere.
    fn all<'t>(&self, tints: impl Iterator<Item = &'t mut Tint>) -> bool {
        tints.filter(|tint| *tint == self.from).map(|tint| *tint = self.to.clone()).count() > 0
    }

    fn content(&self, content: &Content) -> Option<Content> {
        if let Content::Drawing { drawing } = content {
            let mut swapped = drawing.clone();
            let mut found = false;
            swapped.recolour(|tint| {
                if tint == self.from {
                    *tint = self.to.clone();
                    found = true;
                }
            });
            return found.then_some(Content::Drawing { drawing: swapped });
        }
        if let Content::Code { code } = content {
            let mut swapped = code.clone();
            return self.all(swapped.ground.iter_mut()).then_some(Content::Code { code: swapped });
        }
        let Content::Words { text, prompt } = content else { return None };
        if !text.runs().iter().any(|run| run.style.tint.as_ref() == Some(self.from)) {
            return None;
        }
        let run = |run: &Run| {
            let tint = run.style.tint.as_ref().map(|tint| self.tint(tint).unwrap_or_else(|| tint.clone()));
            Run { text: run.text.clone(), style: RunStyle { tint, ..run.style.clone() } }
        };
        Some(Content::Words { text: text.runs().iter().map(run).collect::<Vec<_>>().into(), prompt: prompt.clone() })
    }

    fn release(&self, item: &Item) -> Option<Command> {
        // What is its own may hold the colour, too.
        let look = item.release.look.as_ref().and_then(|own| {
            let bare = own.alone();
            let repainted = self.look(&bare)?;
            Some(own.then(&LookPatch::between(&bare, &repainted)))
        });
        let content = item.release.content.as_ref().and_then(|content| self.content(content));
        if look.is_none() && content.is_none() {
            return None;
        }
        let release = Release {
            look: look.or_else(|| item.release.look.clone()),
            content: content.or_else(|| item.release.content.clone()),
        };
        Some(Command::SetRelease { item: item.id.clone(), release })
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn points(colors: &[(Color, usize)]) -> Vec<Oklab> {
        colors.iter().flat_map(|(color, count)| std::iter::repeat_n(Oklab::from(*color), *count)).collect()
    }

    #[test]
    fn flat_areas_are_found_as_they_are() {
        let (celadon, cobalt, slip) =
            (Color::opaque(0x9d, 0xb8, 0xa4), Color::opaque(0x2b, 0x4a, 0x8b), Color::opaque(0xf4, 0xef, 0xe6));
        let found = clusters(&points(&[(slip, 600), (celadon, 300), (cobalt, 100)]), 5);
        assert_eq!(found.len(), 3);
        for color in [celadon, cobalt, slip] {
            assert!(found.iter().any(|found| distance(*found, color) < 0.005), "{color} is not among {found:?}");
        }
        assert!(clusters(&[], 5).is_empty());
        assert_eq!(clusters(&points(&[(cobalt, 9)]), 5), [cobalt]);
    }

    proptest! {
        /// However many colours there are, those found are few, apart, near to some that are there, and the same every time.
        #[test]
        fn what_is_found_is_there(colors in prop::collection::vec(any::<[u8; 3]>(), 1..60), most in 1usize..7) {
            let all: Vec<Oklab> = colors.iter().map(|[r, g, b]| Oklab::from(Color::opaque(*r, *g, *b))).collect();
            let found = clusters(&all, most);
            prop_assert!(!found.is_empty() && found.len() <= most);
            prop_assert_eq!(&found, &clusters(&all, most));
            for (i, color) in found.iter().enumerate() {
                prop_assert!(found[..i].iter().all(|other| distance(*other, *color) > 0.04));
            }
        }

        #[test]
        fn steps_go_from_dark_to_light_in_one_hue(r: u8, g: u8, b: u8) {
            let color = Color::opaque(r, g, b);
            let all = steps(color);
            prop_assert!(all.len() >= 2 && all.windows(2).all(|pair| Oklab::from(pair[0]).l <= Oklab::from(pair[1]).l + 0.01), "{:?}", all);
            let own = Oklab::from(color);
            for step in all.iter().map(|step| Oklab::from(*step)).filter(|step| step.chroma() > 0.05 && own.chroma() > 0.05) {
                let turn = (step.hue() - own.hue()).rem_euclid(360.0);
                prop_assert!(turn.min(360.0 - turn) < 6.0, "{} to {}", own.hue(), step.hue());
            }
        }
    }
}
