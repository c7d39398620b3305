//! The one walk over a scene that every output shares.

use std::ops::Range;

use vatman_scene::{Behind, Bunch, GlyphNode, Group, ImageNode, Node, PathNode, Scene, SceneItem};

/// What an output does with each kind of node.
pub trait Sink {
    /// What can go wrong.
    type Error;
    /// Before an item and what lies behind it.
    fn enter(&mut self, _item: &SceneItem) {}
    /// After an item; called exactly once for each `enter`.
    fn leave(&mut self, _item: &SceneItem) {}
    /// What lies behind the next item, treated; `below` of the scene's items have been drawn.
    ///
    /// # Errors
    /// Ends the walk.
    fn behind(&mut self, behind: &Behind, scene: &Scene, below: usize) -> Result<(), Self::Error>;
    /// What an item does to the ground below it.
    ///
    /// # Errors
    /// Ends the walk.
    fn below(&mut self, node: &Node) -> Result<(), Self::Error>
    where
        Self: Sized,
    {
        visit(node, self)
    }
    /// A bunch that this output draws by itself, if it does; else its items follow between `begin` and `end`.
    ///
    /// # Errors
    /// Ends the walk.
    fn bunch(&mut self, _scene: &Scene, _bunch: &Bunch, _group: &Group) -> Result<bool, Self::Error> {
        Ok(false)
    }
    /// A group that this output draws by itself, if it does; else its children follow between `begin` and `end`.
    ///
    /// # Errors
    /// Ends the walk.
    fn whole(&mut self, _group: &Group) -> Result<bool, Self::Error> {
        Ok(false)
    }
    /// Before the children of a group.
    ///
    /// # Errors
    /// Ends the walk.
    fn begin(&mut self, group: &Group) -> Result<(), Self::Error>;
    /// After the children of a group; called exactly once for each successful `begin`.
    ///
    /// # Errors
    /// Ends the walk.
    fn end(&mut self, group: &Group) -> Result<(), Self::Error>;
    /// An outline.
    ///
    /// # Errors
    /// Ends the walk.
    fn path(&mut self, node: &PathNode) -> Result<(), Self::Error>;
    /// Letters.
    ///
    /// # Errors
    /// Ends the walk.
    fn glyphs(&mut self, node: &GlyphNode) -> Result<(), Self::Error>;
    /// A picture.
    ///
    /// # Errors
    /// Ends the walk.
    fn image(&mut self, node: &ImageNode) -> Result<(), Self::Error>;
}

/// Sends the items of a scene to a sink, back to front.
///
/// # Errors
/// The first error of the sink.
pub fn walk<S: Sink>(scene: &Scene, sink: &mut S) -> Result<(), S::Error> {
    span(scene, 0..scene.items.len(), &scene.bunches, sink)
}

/// Sends some items of a scene to a sink; of bunches only those that begin among them.
pub(crate) fn walk_some<S: Sink>(scene: &Scene, items: Range<usize>, sink: &mut S) -> Result<(), S::Error> {
    let within: Vec<Bunch> = scene.bunches.iter().filter(|bunch| items.contains(&bunch.first)).cloned().collect();
    span(scene, items, &within, sink)
}

/// Sends one bunch to a sink, and nothing else; `at` is its place among the bunches of the scene.
pub(crate) fn walk_bunch<S: Sink>(scene: &Scene, at: usize, group: &Group, sink: &mut S) -> Result<(), S::Error> {
    let bunch = &scene.bunches[at];
    let inside = inner(bunch, &scene.bunches[at + 1..]);
    held(group, sink, |sink| span(scene, bunch.first..bunch.end(), &scene.bunches[at + 1..][..inside], sink))
}

/// How many of the bunches after one lie within it.
fn inner(bunch: &Bunch, after: &[Bunch]) -> usize {
    after.iter().take_while(|other| other.first < bunch.end()).count()
}

fn span<S: Sink>(scene: &Scene, items: Range<usize>, bunches: &[Bunch], sink: &mut S) -> Result<(), S::Error> {
    // A scene may have been cut off in the middle of a bunch.
    let to = items.end.min(scene.items.len());
    let (mut at, mut bunches) = (items.start, bunches);
    while at < to {
        match bunches.split_first().filter(|(bunch, _)| bunch.first == at) {
            Some((bunch, after)) => {
                let inside = inner(bunch, after);
                let group = scene.bunched(bunch);
                if !sink.bunch(scene, bunch, &group)? {
                    held(&group, sink, |sink| span(scene, at..bunch.end().min(to), &after[..inside], sink))?;
                }
                (at, bunches) = (bunch.end(), &after[inside..]);
            }
            None => {
                item(scene, at, sink)?;
                at += 1;
            }
        }
    }
    Ok(())
}

fn item<S: Sink>(scene: &Scene, at: usize, sink: &mut S) -> Result<(), S::Error> {
    let item = &scene.items[at];
    sink.enter(item);
    let behind = item.behind.as_ref().map_or(Ok(()), |behind| sink.behind(behind, scene, at));
    let below = behind.and_then(|()| item.below.as_ref().map_or(Ok(()), |below| sink.below(below)));
    let outcome = below.and_then(|()| visit(&item.node, sink));
    sink.leave(item);
    outcome
}

/// What is drawn inside a group.
fn held<S: Sink>(
    group: &Group,
    sink: &mut S,
    draw: impl FnOnce(&mut S) -> Result<(), S::Error>,
) -> Result<(), S::Error> {
    sink.begin(group)?;
    let inside = draw(sink);
    // Ended on errors too, so that what a sink has opened is closed.
    sink.end(group).and(inside)
}

pub(crate) fn visit<S: Sink>(node: &Node, sink: &mut S) -> Result<(), S::Error> {
    match node {
        Node::Group(group) if sink.whole(group)? => Ok(()),
        Node::Group(group) => held(group, sink, |sink| group.children.iter().try_for_each(|child| visit(child, sink))),
        Node::Path(path) => sink.path(path),
        Node::Glyphs(glyphs) => sink.glyphs(glyphs),
        Node::Image(image) => sink.image(image),
    }
}
