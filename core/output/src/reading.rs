//! What a PDF says: a tree of headings, texts and figures over what is drawn, from top to bottom.

use std::num::NonZeroU16;

use krilla::surface::Surface;
use krilla::tagging::{Artifact, ArtifactType, ContentTag, Identifier, SpanTag, Tag, TagGroup, TagTree};
use vatman_scene::{Node, Reading, SceneItem};
use vatman_type::GlyphRun;

/// The structure of one page while its items are drawn.
#[derive(Default)]
pub(crate) struct PageReading {
    /// What has been read so far, with the place it is read at.
    read: Vec<(f64, f64, TagGroup)>,
    /// Of the item being drawn.
    item: Option<ItemReading>,
    /// Whether something is marked just now; marks never nest.
    open: bool,
}

struct ItemReading {
    /// Whether its lines are marked one by one.
    by_line: bool,
    /// The line being drawn.
    at: Option<usize>,
    parts: Vec<Identifier>,
}

impl PageReading {
    /// What is only seen, until the next mark.
    pub fn unread(&mut self, surface: &mut Surface<'_>, kind: ArtifactType) {
        self.close(surface);
        surface.start_tagged(ContentTag::Artifact(Artifact::with_kind(kind)));
        self.open = true;
    }

    /// Before an item is drawn.
    pub fn enter(&mut self, surface: &mut Surface<'_>, item: &SceneItem) {
        match &item.reading {
            Reading::Words { .. } => {
                // Letters of a layer are drawn apart from the page, where no mark reaches.
                let by_line = !is_one_layer(&item.node);
                let mut own = ItemReading { by_line, at: None, parts: Vec::new() };
                if by_line {
                    self.unread(surface, ArtifactType::Layout);
                } else {
                    own.parts.push(self.mark(surface, ContentTag::Span(SpanTag::empty())));
                }
                self.item = Some(own);
            }
            Reading::Figure(_) => {
                let part = self.mark(surface, ContentTag::Other);
                self.item = Some(ItemReading { by_line: false, at: None, parts: vec![part] });
            }
            Reading::Silent => self.unread(surface, ArtifactType::Layout),
        }
    }

    /// Before letters are drawn.
    pub fn letters(&mut self, surface: &mut Surface<'_>, run: &GlyphRun) {
        let news = |item: &&mut ItemReading| item.by_line && item.at != Some(run.line);
        let Some(item) = self.item.as_mut().filter(news) else { return };
        item.at = Some(run.line);
        let part = self.mark(surface, ContentTag::Span(SpanTag::empty()));
        if let Some(item) = &mut self.item {
            item.parts.push(part);
        }
    }

    /// After an item has been drawn.
    pub fn leave(&mut self, surface: &mut Surface<'_>, item: &SceneItem) {
        self.close(surface);
        let Some(own) = self.item.take().filter(|own| !own.parts.is_empty()) else { return };
        let mut group = match &item.reading {
            Reading::Figure(says) => TagGroup::new(Tag::Figure(Some((*says).to_owned()))),
            Reading::Words { heading: true, lines } => {
                TagGroup::new(Tag::Hn(NonZeroU16::MIN, None).with_actual_text(Some(whole(lines))))
            }
            Reading::Words { lines, .. } => TagGroup::new(Tag::P.with_actual_text(Some(whole(lines)))),
            Reading::Silent => return,
        };
        own.parts.into_iter().for_each(|part| group.push(part));
        self.read.push((item.frame.y, item.frame.x, group));
    }

    /// Before items are drawn apart from the page, where no mark reaches: whatever they say is one text.
    pub fn enter_bunch(&mut self, surface: &mut Surface<'_>, items: &[SceneItem]) {
        if said(items).is_empty() {
            return self.unread(surface, ArtifactType::Layout);
        }
        let part = self.mark(surface, ContentTag::Span(SpanTag::empty()));
        self.item = Some(ItemReading { by_line: false, at: None, parts: vec![part] });
    }

    /// After those items have been drawn.
    pub fn leave_bunch(&mut self, surface: &mut Surface<'_>, items: &[SceneItem]) {
        self.close(surface);
        let (Some(own), Some(first)) = (self.item.take(), items.first()) else { return };
        let mut group = TagGroup::new(Tag::P.with_actual_text(Some(whole(&said(items)))));
        own.parts.into_iter().for_each(|part| group.push(part));
        self.read.push((first.frame.y, first.frame.x, group));
    }

    /// Ends the mark that is open.
    pub fn close(&mut self, surface: &mut Surface<'_>) {
        if std::mem::take(&mut self.open) {
            surface.end_tagged();
        }
    }

    /// Adds the page to the tree, from top to bottom.
    pub fn into_tree(mut self, tree: &mut TagTree) {
        self.read.sort_by(|a, b| a.0.total_cmp(&b.0).then(a.1.total_cmp(&b.1)));
        let mut page = TagGroup::new(Tag::Section);
        self.read.into_iter().for_each(|(_, _, group)| page.push(group));
        tree.push(page);
    }

    fn mark(&mut self, surface: &mut Surface<'_>, tag: ContentTag<'_>) -> Identifier {
        self.close(surface);
        self.open = true;
        surface.start_tagged(tag)
    }
}

/// The lines of the words of items, in their order.
fn said(items: &[SceneItem]) -> Vec<String> {
    let lines = items.iter().filter_map(|item| match &item.reading {
        Reading::Words { lines, .. } => Some(lines.clone()),
        Reading::Figure(_) | Reading::Silent => None,
    });
    lines.flatten().collect()
}

/// Lines as they are read in one go: letters of scripts that run the other way in the order they are said, divided words whole.
fn whole(lines: &[String]) -> String {
    lines.join(" ").replace("\u{ad} ", "")
}

/// Whether an item is mixed with what lies below as a whole.
fn is_one_layer(node: &Node) -> bool {
    matches!(node, Node::Group(group) if group.needs_layer())
}
