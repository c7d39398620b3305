//! How words and colours look: the size of type, the colours a side uses and could use, palettes by role, what is alike, where
//! an item can be seen, and the order words are read in.

pub(crate) mod alike;
pub(crate) mod colours;
pub(crate) mod eyes;
pub(crate) mod palettes;
pub(crate) mod reading;
pub(crate) mod scan;
pub(crate) mod sight;
pub(crate) mod type_size;

pub use alike::{Likeness, alike, link_colour, swap_colours};
pub use colours::{SideColours, UsedColour, dominant, replace_colour, side_colours, steps};
pub use eyes::{Eyes, eyes};
pub use palettes::{Palette, apply_palette, palettes};
pub use reading::{CopyLine, copy_in_order};
pub use sight::{Sight, item_at, sight};
pub use type_size::set_type_size;
