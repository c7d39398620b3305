//! Pictures as pixels: decoding within limits, resizing, encoding.
//!
//! Pixels are 8-bit encoded sRGB. Whether colour has been multiplied by alpha is part of the type.

mod blur;
mod decode;
mod encode;
mod cache;
mod hash;
mod pixels;
mod resize;

pub use blur::blur;
pub use decode::{Limits, PictureError, PictureFormat, PictureInfo, decode, inspect};
pub use encode::{EncodeError, encode_jpeg, encode_png};
pub use cache::{PictureBytes, Pictures};
pub use hash::content_id;
pub use pixels::{Premultiplied, Straight};
pub use resize::resize;
