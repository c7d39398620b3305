//! Treatments as short text, for addresses.

use std::io::{Read as _, Write as _};

use base64::Engine as _;
use base64::engine::general_purpose::URL_SAFE_NO_PAD as BASE64;
use vatman_document::Treatment;

/// Most bytes of treatments taken apart: more than any that is kept.
const LONGEST: u64 = 4 << 20;

/// Treatments as text that an address can hold; the same ones give the same text.
#[must_use]
pub fn packed(treatments: &[Treatment]) -> String {
    let written = || -> Option<String> {
        let mut deflated = flate2::write::DeflateEncoder::new(Vec::new(), flate2::Compression::best());
        deflated.write_all(&serde_json::to_vec(treatments).ok()?).ok()?;
        Some(BASE64.encode(deflated.finish().ok()?))
    };
    written().unwrap_or_default()
}

/// Treatments from such text; nothing where it is none, or one of them cannot be.
#[must_use]
pub fn unpacked(text: &str) -> Option<Vec<Treatment>> {
    let deflated = BASE64.decode(text).ok()?;
    let mut json = Vec::new();
    flate2::read::DeflateDecoder::new(deflated.as_slice()).take(LONGEST).read_to_end(&mut json).ok()?;
    let treatments: Vec<Treatment> = serde_json::from_slice(&json).ok()?;
    let sound = treatments.len() <= Treatment::MOST && treatments.iter().all(|treatment| treatment.fault().is_none());
    sound.then_some(treatments)
}

#[cfg(test)]
mod tests {
    use super::*;
    use vatman_document::Develop;
    use vatman_units::Ratio;

    #[test]
    fn what_is_packed_comes_out_again_and_nothing_else_does() {
        let all = vec![
            Treatment::new(Develop::Exposure { ev: Ratio::new(0.7) }),
            Treatment { amount: Ratio::HALF, ..Treatment::new(Develop::Posterise { levels: 5 }) },
        ];
        let text = packed(&all);
        assert!(text.len() < 260 && text.chars().all(|c| c.is_ascii_alphanumeric() || "-_".contains(c)), "{text}");
        assert_eq!(unpacked(&text), Some(all));
        assert_eq!(unpacked("nothing"), None);
        assert_eq!(unpacked(&packed(&[Treatment::new(Develop::Posterise { levels: 1 })])), None, "outside its range");
        assert_eq!(unpacked(""), None);
    }
}
