//! What treats things already drawn: a group as a whole, or what lies behind an item.

use std::fmt::Write as _;
use std::hash::Hasher as _;
use std::sync::Arc;

use kurbo::{BezPath, Rect, Shape as _};
use vatman_document::{Blend, Develop, GroupId, ItemId, Treatment};
use vatman_units::Ratio;

use crate::node::{Brush, Group, Scene, SceneItem, Shadow};

/// Steps that treat what has been drawn.
#[derive(Debug, Clone, PartialEq)]
pub struct Filter {
    /// In order, colours resolved, without those that do nothing; at least one.
    pub treatments: Arc<Vec<Treatment>>,
    /// What places in the steps are fractions of, in the coordinates around what is treated.
    pub field: Rect,
    /// What lengths in the steps are fractions of.
    pub longer: f64,
}

impl Filter {
    /// An even blur of a standard deviation.
    #[must_use]
    pub fn blurring(sigma: f64) -> Self {
        let step = Treatment::new(Develop::Blur { radius: Ratio::ONE });
        Self { treatments: Arc::new(vec![step]), field: Rect::ZERO, longer: sigma }
    }

    /// The standard deviation, where it is an even blur and nothing else: such can be said in SVG, and needs no picture.
    #[must_use]
    pub fn even_blur(&self) -> Option<f64> {
        let square = |step: &Treatment| match &step.develop {
            Develop::Blur { radius } if step.amount == Ratio::ONE && step.mask.is_none() => Some(radius.get().powi(2)),
            _ => None,
        };
        let squares: Option<f64> = self.treatments.iter().map(square).sum();
        squares.map(|all| all.sqrt() * self.longer)
    }

    /// How far what is treated depends on what lies beside it; nothing where it depends on all there is, or on where it lies.
    #[must_use]
    pub fn reach(&self) -> Option<f64> {
        if let Some(sigma) = self.even_blur() {
            return Some(sigma * 3.0);
        }
        let own = |step: &Treatment| step.mask.is_none().then(|| step.develop.reach()).flatten();
        self.treatments.iter().map(own).sum::<Option<f64>>().map(|reach| reach * self.longer)
    }

    /// How far it carries what is seen beyond where it was.
    #[must_use]
    pub fn spread(&self) -> f64 {
        let own = |step: &Treatment| match &step.develop {
            Develop::Motion { length, .. } => length.get() / 2.0,
            Develop::Zoom { length, .. } => length.get() / 2.0,
            Develop::Pixelate { size } => size.get(),
            Develop::FocusSpot { radius, .. } | Develop::FocusBand { radius, .. } => radius.get() * 3.0,
            other if other.spreads() => other.reach().unwrap_or(0.0),
            _ => 0.0,
        };
        self.even_blur().map_or_else(|| self.treatments.iter().map(own).sum::<f64>() * self.longer, |sigma| sigma * 3.0)
    }
}

/// The bunch of one item that is treated as it is drawn.
#[must_use]
pub fn bunch_of(item: &ItemId) -> Option<GroupId> {
    GroupId::new(item.as_str()).ok()
}

/// What lies behind an item, treated and seen through an outline.
#[derive(Debug, Clone, PartialEq)]
pub struct Behind {
    /// The outline, on the sheet.
    pub outline: BezPath,
    /// 0 to 1.
    pub opacity: f64,
    /// How it is treated.
    pub filter: Filter,
    /// The items behind it, back to front: all below it, or all below it in the group it is in, where that is drawn by itself.
    pub items: Vec<ItemId>,
    /// The first of them, counted in the scene.
    pub first: usize,
    /// Whether the ground lies behind it, too.
    pub ground: bool,
    /// Another number where anything behind it looks otherwise; 0 where nobody has to know.
    pub stamp: u64,
    /// Whether something over everything hides it: that treats what this shows, and nothing else of it is seen.
    pub hidden: bool,
}

impl Behind {
    /// Whether nothing of what lies below a sheet's rim is seen but treated by this.
    fn covers(&self, sheet: Rect) -> bool {
        let around = self.outline.bounding_box();
        let whole = self.outline.area().abs() >= around.area() * (1.0 - 1e-6);
        // An even blur is said of what lies below, which has to be there for it.
        let kept = self.filter.even_blur().is_none()
            && self.filter.treatments.iter().all(|step| !matches!(step.develop, Develop::Clear { .. }));
        let over = around.inflate(0.01, 0.01).union(sheet) == around.inflate(0.01, 0.01);
        self.opacity >= 1.0 && self.first == 0 && self.ground && whole && kept && over
    }
}

/// Items next to each other that are drawn by themselves and then put down together.
#[derive(Debug, Clone, PartialEq)]
pub struct Bunch {
    /// The group they are.
    pub id: GroupId,
    /// The first of them, counted in the scene.
    pub first: usize,
    /// How many.
    pub count: usize,
    /// 0 to 1, of all together.
    pub opacity: f64,
    /// Mixing of all together with what lies below.
    pub blend: Blend,
    /// Thrown by all together.
    pub shadows: Vec<Shadow>,
    /// How all together are treated, before they throw shadows.
    pub filter: Option<Filter>,
    /// Another number where anything in it looks otherwise; 0 where nobody has to know.
    pub stamp: u64,
}

impl Bunch {
    /// The one after its last item.
    #[must_use]
    pub const fn end(&self) -> usize {
        self.first + self.count
    }
}

impl Scene {
    /// The last item that treats everything below it, sheet and bleed: what lies below is seen treated and not else. Nothing where there is
    /// none, or the sheet lets through.
    #[must_use]
    pub fn covered_by(&self) -> Option<usize> {
        let opaque = self.ground.as_ref().is_some_and(Brush::is_opaque);
        let sheet = self.size.to_rect().inflate(self.bleed, self.bleed);
        let covers = |item: &SceneItem| item.behind.as_ref().is_some_and(|behind| behind.covers(sheet));
        let at = self.items.iter().rposition(covers).filter(|_| opaque)?;
        // What is drawn by itself is put down together, whatever lies in it.
        self.bunches.iter().all(|bunch| !(bunch.first..bunch.end()).contains(&at)).then_some(at)
    }

    /// Says of each item that treats what lies behind it whether that is hidden.
    pub(crate) fn hide_covered(&mut self) {
        let covered = self.covered_by().unwrap_or(0);
        for (at, item) in self.items.iter_mut().enumerate() {
            if let Some(behind) = &mut item.behind {
                behind.hidden = at < covered;
            }
        }
    }

    /// A bunch as a group of the nodes of its items.
    #[must_use]
    pub fn bunched(&self, bunch: &Bunch) -> Group {
        let to = bunch.end().min(self.items.len());
        let drawn = |item: &SceneItem| {
            item.below.iter().chain([&item.node]).map(|node| node.as_ref().clone()).collect::<Vec<_>>()
        };
        let children = self.items[bunch.first.min(to)..to].iter().flat_map(drawn).collect();
        Group {
            opacity: bunch.opacity,
            blend: bunch.blend,
            shadows: bunch.shadows.clone(),
            filter: bunch.filter.clone(),
            ..Group::placed(kurbo::Affine::IDENTITY, children)
        }
    }

    /// A number that is another where any of some items, or the ground, looks otherwise.
    pub(crate) fn stamp(&self, items: std::ops::Range<usize>, ground: bool) -> u64 {
        let mut out = Numbered(std::hash::DefaultHasher::new());
        let bunches = self.bunches.iter().filter(|bunch| items.contains(&bunch.first));
        let written = self.items[items.clone()]
            .iter()
            .try_for_each(|item| write!(out, "{:?}{:?}{:?}", item.below, item.node, item.behind))
            .and_then(|()| bunches.clone().try_for_each(|bunch| write!(out, "{bunch:?}")))
            .and_then(|()| if ground { write!(out, "{:?}", self.ground) } else { Ok(()) });
        debug_assert!(written.is_ok(), "a hash takes any text");
        out.0.finish().max(1)
    }
}

struct Numbered(std::hash::DefaultHasher);

impl std::fmt::Write for Numbered {
    fn write_str(&mut self, text: &str) -> std::fmt::Result {
        self.0.write(text.as_bytes());
        Ok(())
    }
}
