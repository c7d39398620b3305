//! Names of pictures by their content.

use sha2::{Digest, Sha256};
use vatman_document::AssetId;

/// The identity of a picture: the first 160 bits of the SHA-256 of its bytes, in hexadecimal.
#[must_use]
pub fn content_id(bytes: &[u8]) -> AssetId {
    let hex: String = Sha256::digest(bytes).iter().take(20).map(|byte| format!("{byte:02x}")).collect();
    match AssetId::new(hex) {
        Ok(id) => id,
        Err(_) => unreachable!("forty hexadecimal digits are an identity"),
    }
}
