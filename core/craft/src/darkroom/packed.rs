//! What is done to a picture as short text, for addresses.

use std::io::{Read as _, Write as _};

use base64::Engine as _;
use base64::engine::general_purpose::URL_SAFE_NO_PAD as BASE64;
use serde::{Deserialize, Serialize};
use vatman_document::{AssetId, CutOut, PictureSource, Treatment, Upright};

/// Most bytes taken apart: more than any that is kept.
const LONGEST: u64 = 4 << 20;

/// All of a picture as it is shown but the picture.
#[derive(Serialize, Deserialize)]
struct Done {
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    steps: Vec<Treatment>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    cut: Option<CutOut>,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    up: Option<Upright>,
}

/// What is done to a picture as text that an address can hold; the same gives the same text.
#[must_use]
pub fn packed(source: &PictureSource) -> String {
    let done = Done { steps: source.treatments.clone(), cut: source.cut_out.clone(), up: source.upright };
    let written = || -> Option<String> {
        let mut deflated = flate2::write::DeflateEncoder::new(Vec::new(), flate2::Compression::best());
        deflated.write_all(&serde_json::to_vec(&done).ok()?).ok()?;
        Some(BASE64.encode(deflated.finish().ok()?))
    };
    written().unwrap_or_default()
}

/// A picture with what such text says is done to it; nothing where it is none, or a part of it cannot be.
#[must_use]
pub fn unpacked(asset: AssetId, text: &str) -> Option<PictureSource> {
    let deflated = BASE64.decode(text).ok()?;
    let mut json = Vec::new();
    flate2::read::DeflateDecoder::new(deflated.as_slice()).take(LONGEST).read_to_end(&mut json).ok()?;
    let Done { steps, cut, up } = serde_json::from_slice(&json).ok()?;
    let sound = steps.len() <= Treatment::MOST
        && steps.iter().all(|treatment| treatment.fault().is_none())
        && cut.as_ref().is_none_or(|cut| cut.fault().is_none())
        && up.is_none_or(|upright| upright.fault().is_none());
    sound.then_some(PictureSource { asset, treatments: steps, cut_out: cut, upright: up })
}

#[cfg(test)]
mod tests {
    use super::*;
    use vatman_document::Develop;
    use vatman_units::Ratio;

    #[test]
    fn what_is_packed_comes_out_again_and_nothing_else_does() {
        let asset = AssetId::new("a").unwrap();
        let treatments = vec![
            Treatment::new(Develop::Exposure { ev: Ratio::new(0.7) }),
            Treatment { amount: Ratio::HALF, ..Treatment::new(Develop::Posterise { levels: 5 }) },
        ];
        let cut = CutOut { mask: Some(AssetId::new("m").unwrap()), shift: Ratio::new(-0.002), ..CutOut::default() };
        let upright = Some(Upright { turn: vatman_units::Angle::degrees(-2.5), corners: None });
        let all = PictureSource { asset: asset.clone(), treatments, cut_out: Some(cut.clone()), upright };
        let text = packed(&all);
        assert!(text.len() < 360 && text.chars().all(|c| c.is_ascii_alphanumeric() || "-_".contains(c)), "{text}");
        assert_eq!(unpacked(asset.clone(), &text), Some(all.clone()));
        assert_eq!(unpacked(asset.clone(), "nothing"), None);
        let wild = |all: PictureSource| unpacked(asset.clone(), &packed(&all));
        let posterised = vec![Treatment::new(Develop::Posterise { levels: 1 })];
        assert_eq!(wild(PictureSource { treatments: posterised, ..all.clone() }), None, "outside its range");
        let far = CutOut { shift: Ratio::new(0.3), ..cut };
        assert_eq!(wild(PictureSource { cut_out: Some(far), ..all }), None, "outside its range");
        let bent = Some(Upright { turn: vatman_units::Angle::degrees(60.0), corners: None });
        assert_eq!(
            wild(PictureSource { upright: bent, ..PictureSource::plain(asset.clone()) }),
            None,
            "turned too far"
        );
        assert_eq!(unpacked(asset, ""), None);
    }
}
