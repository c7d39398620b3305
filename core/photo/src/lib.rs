//! Pictures as pixels: decoding within limits, resizing, encoding.
//!
//! Pixels are 8-bit encoded sRGB. Whether colour has been multiplied by alpha is part of the type.

mod blur;
mod cache;
mod decode;
mod encode;
mod hash;
mod pixels;
mod resize;

pub use blur::blur;
pub use cache::{PictureBytes, Pictures};
pub use decode::{Limits, PictureError, PictureFormat, PictureInfo, decode, inspect};
pub use encode::{EncodeError, encode_jpeg, encode_png};
pub use hash::content_id;
pub use pixels::{Premultiplied, Straight};
pub use resize::resize;
