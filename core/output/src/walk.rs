//! The one walk over a scene that every output shares.

use vatman_scene::{Frost, GlyphNode, Group, ImageNode, Node, PathNode, Scene, SceneItem};

/// What an output does with each kind of node.
pub trait Sink {
    /// What can go wrong.
    type Error;
    /// Before an item and what lies behind it.
    fn enter(&mut self, _item: &SceneItem) {}
    /// After an item; called exactly once for each `enter`.
    fn leave(&mut self, _item: &SceneItem) {}
    /// What lies behind the next item, blurred; `below` of the scene's items have been drawn.
    ///
    /// # Errors
    /// Ends the walk.
    fn frost(&mut self, frost: &Frost, scene: &Scene, below: usize) -> Result<(), Self::Error>;
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
    scene.items.iter().enumerate().try_for_each(|(below, item)| {
        sink.enter(item);
        let frost = item.frost.as_ref().map_or(Ok(()), |frost| sink.frost(frost, scene, below));
        let outcome = frost.and_then(|()| visit(&item.node, sink));
        sink.leave(item);
        outcome
    })
}

pub(crate) fn visit<S: Sink>(node: &Node, sink: &mut S) -> Result<(), S::Error> {
    match node {
        Node::Group(group) => {
            sink.begin(group)?;
            let inside = group.children.iter().try_for_each(|child| visit(child, sink));
            // Ended on errors too, so that what a sink has opened is closed.
            sink.end(group).and(inside)
        }
        Node::Path(path) => sink.path(path),
        Node::Glyphs(glyphs) => sink.glyphs(glyphs),
        Node::Image(image) => sink.image(image),
    }
}
