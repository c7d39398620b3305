//! Pictures as pixels: decoding within limits, resizing, encoding.
//!
//! Pixels are 8-bit encoded sRGB. Whether colour has been multiplied by alpha is part of the type.

mod blank;
mod blur;
mod budget;
mod cache;
mod cutout;
mod decode;
mod develop;
mod difference;
mod encode;
mod hash;
mod inks;
mod leaving;
mod pixels;
mod profile;
mod resize;
mod saliency;
mod trace;
mod upright;
mod wide;

pub use blank::{clear_ground, even_ground};
pub use blur::blur;
pub use budget::{DecodeBudget, Share};
pub use cache::{PictureBytes, Pictures};
pub use cutout::{Cover, CutHints, cut_out};
pub use decode::{Limits, PictureError, PictureFormat, PictureInfo, decode, inspect};
pub use develop::{Overlays, Window, develop, develop_layer, find_spot, neutral_at};
pub use difference::delta_e2000;
pub use encode::{
    EncodeError, encode_gif, encode_jpeg, encode_opaque_jpeg, encode_png, encode_tiff, encode_webp, encode_webp_lossy,
};
pub use hash::content_id;
pub use inks::{Inks, Mixture};
pub use leaving::{bare_jpeg, leaving};
pub use pixels::{Premultiplied, Straight};
pub use resize::resize;
pub use saliency::salient_point;
pub use trace::{Traced, TracedLayer, trace};
pub use upright::level;
