//! The steps there are, by what people wish for, with the ranges of their values and where they start.

use serde::Serialize;
use ts_rs::TS;
use vatman_document::{AssetId, Blend, Color, CurvePoint, Develop, Focus, Texture, Tint, ToneStop};
use vatman_units::{Angle, Ratio};

/// How a value is set and shown.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, TS)]
#[serde(rename_all = "camelCase")]
pub enum Shown {
    /// Hundredths of the whole.
    Percent,
    /// Thousandths of the longer side of the picture.
    Thousandths,
    /// Stops of light.
    Stops,
    /// As it is, with two digits.
    Plain,
    /// Kelvin.
    Kelvin,
    /// Degrees.
    Degrees,
    /// A whole number.
    Count,
    /// A colour.
    Colour,
    /// How colours mix.
    Blend,
    /// A surface.
    Texture,
    /// Another picture.
    Picture,
    /// A point of the picture.
    Point,
    /// Curves.
    Curves,
    /// Colours along tones.
    Gradient,
    /// Eight values, one for each range of hue.
    Hues,
}

/// A value of a step.
#[derive(Debug, Clone, PartialEq, Serialize, TS)]
pub struct FieldCard {
    /// Its name in the step.
    pub key: &'static str,
    /// Plain name.
    pub name: &'static str,
    /// How it is set.
    pub shown: Shown,
    /// Least, in what is shown.
    pub low: f64,
    /// Most.
    pub high: f64,
}

/// A kind of step.
#[derive(Debug, Clone, PartialEq, Serialize, TS)]
pub struct KindCard {
    /// Its name in the step.
    pub kind: &'static str,
    /// Plain name.
    pub name: &'static str,
    /// What people want who look for it.
    pub wish: &'static str,
    /// Other words they look for.
    pub words: &'static str,
    /// Its values, the most used first.
    pub fields: Vec<FieldCard>,
    /// Where it starts.
    pub start: Develop,
    /// Whether only pictures can be treated so.
    pub pictures_only: bool,
}

const fn field(key: &'static str, name: &'static str, shown: Shown, low: f64, high: f64) -> FieldCard {
    FieldCard { key, name, shown, low, high }
}

const fn side(key: &'static str, name: &'static str) -> FieldCard {
    field(key, name, Shown::Percent, -100.0, 100.0)
}

const fn part(key: &'static str, name: &'static str) -> FieldCard {
    field(key, name, Shown::Percent, 0.0, 100.0)
}

const fn long(key: &'static str, name: &'static str, high: f64) -> FieldCard {
    field(key, name, Shown::Thousandths, 0.0, high)
}

const fn turned(name: &'static str) -> FieldCard {
    field("turn", name, Shown::Degrees, -180.0, 180.0)
}

const fn colour(key: &'static str, name: &'static str) -> FieldCard {
    field(key, name, Shown::Colour, 0.0, 0.0)
}

const fn centre() -> FieldCard {
    field("centre", "Middle", Shown::Point, 0.0, 100.0)
}

fn r(value: f64) -> Ratio {
    Ratio::new(value)
}

fn own(red: u8, green: u8, blue: u8) -> Tint {
    Tint::Own(Color::opaque(red, green, blue))
}

/// What surfaces are called.
#[must_use]
pub const fn texture_name(texture: Texture) -> &'static str {
    match texture {
        Texture::FinePaper => "Smooth paper",
        Texture::LaidPaper => "Laid paper",
        Texture::Watercolour => "Rough paper",
        Texture::Cardboard => "Board",
        Texture::Recycled => "Paper with fibres",
        Texture::Crumpled => "Crumpled paper",
        Texture::Folded => "Folded sheet",
        Texture::Tissue => "Thin paper",
        Texture::Linen => "Fine cloth",
        Texture::Canvas => "Coarse cloth",
        Texture::Felt => "Felt",
        Texture::Plaster => "Plaster",
        Texture::Concrete => "Concrete",
        Texture::Stone => "Stone",
        Texture::Wood => "Wood",
        Texture::BrushedMetal => "Brushed metal",
        Texture::Dust => "Dust",
        Texture::Scratches => "Scratches",
        Texture::Specks => "Specks",
        Texture::Stains => "Stains",
        Texture::TideMarks => "Tide marks",
        Texture::Crackle => "Crackle",
        Texture::WornEdges => "Worn edges",
        Texture::Rubbed => "Rubbed",
        Texture::InkWash => "Ink wash",
        Texture::Grit => "Grit",
    }
}

/// What stands for a picture that is chosen when the step is added.
fn unchosen() -> AssetId {
    AssetId::new("unchosen").unwrap_or_else(|_| unreachable!("it is an identity"))
}

/// Every kind of step, in the order they are offered: by wish, the most used first.
#[must_use]
#[allow(clippy::too_many_lines, reason = "one entry for each kind of step")]
pub fn kinds() -> Vec<KindCard> {
    let kind = |kind, name, wish, words, fields: Vec<FieldCard>, start: Develop| {
        let pictures_only = matches!(start, Develop::Spots { .. });
        KindCard { kind, name, wish, words, fields, start, pictures_only }
    };
    let middle = Focus::CENTRE;
    let straight = || vec![CurvePoint { x: r(0.0), y: r(0.0) }, CurvePoint { x: r(1.0), y: r(1.0) }];
    let zero = Ratio::ZERO;
    vec![
        kind(
            "exposure",
            "Exposure",
            "Lighter or darker",
            "light brighten underexposed ev stops",
            vec![field("ev", "Stops", Shown::Stops, -5.0, 5.0)],
            Develop::Exposure { ev: r(0.5) },
        ),
        kind(
            "tone",
            "Brightness and contrast",
            "Lighter or darker",
            "contrast punch flat",
            vec![side("brightness", "Brightness"), side("contrast", "Contrast")],
            Develop::Tone { brightness: zero, contrast: r(0.2) },
        ),
        kind(
            "ranges",
            "Light by range",
            "Lighter or darker",
            "highlights shadows whites blacks recover",
            vec![
                side("highlights", "Highlights"),
                side("shadows", "Shadows"),
                side("whites", "Whites"),
                side("blacks", "Blacks"),
            ],
            Develop::Ranges { highlights: r(-0.3), shadows: r(0.3), whites: zero, blacks: zero },
        ),
        kind(
            "curves",
            "Curves",
            "Lighter or darker",
            "curve gradation channels",
            vec![field("all", "Curves", Shown::Curves, 0.0, 1.0)],
            Develop::Curves { all: straight(), red: straight(), green: straight(), blue: straight() },
        ),
        kind(
            "levels",
            "Levels",
            "Lighter or darker",
            "histogram black point white point gamma auto",
            vec![
                part("black", "Black at"),
                part("white", "White at"),
                field("gamma", "Middle", Shown::Plain, 0.1, 4.0),
                part("outBlack", "Darkest"),
                part("outWhite", "Lightest"),
            ],
            Develop::Levels {
                black: zero,
                white: Ratio::ONE,
                gamma: Ratio::ONE,
                out_black: zero,
                out_white: Ratio::ONE,
            },
        ),
        kind(
            "haze",
            "Haze",
            "Lighter or darker",
            "fog mist clear",
            vec![side("strength", "Taken out")],
            Develop::Haze { strength: r(0.4) },
        ),
        kind(
            "whiteBalance",
            "White balance",
            "Warmer or cooler",
            "temperature tint kelvin colour cast neutral",
            vec![field("kelvin", "Light was", Shown::Kelvin, 2_000.0, 14_000.0), side("tint", "Green to magenta")],
            Develop::WhiteBalance { kelvin: 7_200, tint: zero },
        ),
        kind(
            "colour",
            "Colour",
            "More or less colour",
            "saturation vibrance hue vivid",
            vec![
                side("vibrance", "Quiet colours"),
                side("saturation", "All colours"),
                field("hue", "Hue turned", Shown::Degrees, -180.0, 180.0),
            ],
            Develop::Colour { saturation: zero, vibrance: r(0.3), hue: Angle::ZERO },
        ),
        kind(
            "mixer",
            "Colours one by one",
            "More or less colour",
            "mixer selective hue red green blue skin sky",
            vec![
                field("hue", "Hue", Shown::Hues, -100.0, 100.0),
                field("saturation", "Colour", Shown::Hues, -100.0, 100.0),
                field("lightness", "Light", Shown::Hues, -100.0, 100.0),
            ],
            Develop::Mixer { hue: [zero; 8], saturation: [zero; 8], lightness: [zero; 8] },
        ),
        kind(
            "mono",
            "Grey",
            "More or less colour",
            "black and white monochrome",
            vec![
                field("red", "Red", Shown::Percent, -200.0, 300.0),
                field("green", "Green", Shown::Percent, -200.0, 300.0),
                field("blue", "Blue", Shown::Percent, -200.0, 300.0),
            ],
            Develop::Mono { red: r(0.2126), green: r(0.7152), blue: r(0.0722) },
        ),
        kind(
            "splitTone",
            "Two tints",
            "Tinted",
            "split toning shadows highlights teal orange",
            vec![colour("shadows", "Dark parts"), colour("lights", "Light parts"), side("balance", "Balance")],
            Develop::SplitTone { shadows: own(38, 74, 92), lights: own(232, 178, 110), balance: zero },
        ),
        kind(
            "toneMap",
            "Two colours",
            "Tinted",
            "duotone gradient map palette",
            vec![field("stops", "Colours", Shown::Gradient, 0.0, 1.0)],
            Develop::ToneMap {
                stops: vec![
                    ToneStop { at: zero, tint: own(35, 32, 29) },
                    ToneStop { at: Ratio::ONE, tint: own(251, 248, 242) },
                ],
            },
        ),
        kind(
            "wash",
            "Colour wash",
            "Tinted",
            "overlay colour blend",
            vec![colour("tint", "Colour"), field("blend", "Mixed by", Shown::Blend, 0.0, 0.0)],
            Develop::Wash { tint: own(140, 79, 50), blend: Blend::SoftLight },
        ),
        kind(
            "fade",
            "Faded",
            "Older",
            "matte washed print",
            vec![part("strength", "How far")],
            Develop::Fade { strength: r(0.5) },
        ),
        kind(
            "grain",
            "Grain",
            "Older",
            "film noise texture",
            vec![
                part("strength", "Strength"),
                long("size", "Size", 20.0),
                part("roughness", "Uneven"),
                field("number", "Which", Shown::Count, 1.0, 999.0),
            ],
            Develop::Grain { size: r(0.0022), strength: r(0.4), roughness: r(0.4), number: 1 },
        ),
        kind(
            "vignette",
            "Corners",
            "Older",
            "vignette darken edges",
            vec![side("strength", "Light"), part("reach", "Begins at"), part("softness", "Softness")],
            Develop::Vignette { strength: r(-0.4), reach: r(0.45), softness: r(0.9) },
        ),
        kind(
            "leak",
            "Light leak",
            "Older",
            "flare warm edge",
            vec![colour("tint", "Colour"), turned("From"), part("reach", "Reach")],
            Develop::Leak { tint: own(255, 122, 50), turn: Angle::ZERO, reach: r(0.55) },
        ),
        kind(
            "texture",
            "Surface",
            "Older",
            "texture paper cloth wall worn scratched stained crumpled folded grunge",
            vec![
                field("texture", "Which", Shown::Texture, 0.0, 0.0),
                part("strength", "Strength"),
                field("size", "Size", Shown::Percent, 10.0, 400.0),
                colour("tint", "In its hollows"),
                field("number", "Number", Shown::Count, 1.0, 999.0),
            ],
            Develop::Texture {
                texture: Texture::Watercolour,
                size: Ratio::ONE,
                strength: r(0.5),
                tint: own(74, 58, 44),
                number: 1,
            },
        ),
        kind(
            "halftone",
            "Dots",
            "Older",
            "halftone print newspaper raster",
            vec![long("size", "Size", 60.0), turned("Turned"), colour("ink", "Ink"), colour("paper", "Paper")],
            Develop::Halftone {
                size: r(0.012),
                turn: Angle::degrees(45.0),
                ink: own(35, 32, 29),
                paper: own(251, 248, 242),
            },
        ),
        kind(
            "posterise",
            "Few tones",
            "Older",
            "posterise screen print",
            vec![field("levels", "Tones", Shown::Count, 2.0, 16.0)],
            Develop::Posterise { levels: 5 },
        ),
        kind(
            "sharpen",
            "Sharpen",
            "Sharper",
            "sharpness unsharp crisp",
            vec![
                field("strength", "Strength", Shown::Percent, 0.0, 300.0),
                field("radius", "Radius", Shown::Thousandths, 0.0, 10.0),
                field("threshold", "From", Shown::Percent, 0.0, 20.0),
            ],
            Develop::Sharpen { radius: r(0.0012), strength: r(0.8), threshold: r(0.01) },
        ),
        kind(
            "localContrast",
            "Local contrast",
            "Sharper",
            "clarity structure texture detail",
            vec![side("fine", "Of small things"), side("broad", "Of large things")],
            Develop::LocalContrast { fine: r(0.25), broad: r(0.25) },
        ),
        kind(
            "toneContrast",
            "Contrast by tone",
            "Sharper",
            "tonal local contrast shadows middles lights",
            vec![
                side("shadows", "Dark tones"),
                side("middles", "Middle tones"),
                side("lights", "Light tones"),
                part("protectShadows", "Keep the darkest"),
                part("protectLights", "Keep the lightest"),
            ],
            Develop::ToneContrast {
                shadows: r(0.2),
                middles: r(0.3),
                lights: r(0.2),
                protect_shadows: r(0.5),
                protect_lights: r(0.5),
            },
        ),
        kind(
            "denoise",
            "Noise out",
            "Softer",
            "noise reduction smooth skin",
            vec![part("light", "Of light"), part("colour", "Of colour")],
            Develop::Denoise { light: r(0.3), colour: r(0.5) },
        ),
        kind(
            "blur",
            "Blur",
            "Softer",
            "gaussian soft background",
            vec![long("radius", "Softness", 100.0)],
            Develop::Blur { radius: r(0.01) },
        ),
        kind(
            "lensBlur",
            "Out of focus",
            "Softer",
            "lens bokeh discs",
            vec![long("radius", "Discs", 60.0), part("shine", "Lights shine")],
            Develop::LensBlur { radius: r(0.012), shine: r(0.5) },
        ),
        kind(
            "focusSpot",
            "Sharp spot",
            "Softer",
            "selective focus depth ellipse",
            vec![
                long("radius", "Softness around", 100.0),
                centre(),
                field("across", "Half its width", Shown::Percent, 1.0, 100.0),
                field("down", "Half its height", Shown::Percent, 1.0, 100.0),
                turned("Turned"),
                part("softness", "Transition"),
            ],
            Develop::FocusSpot {
                centre: middle,
                across: r(0.3),
                down: r(0.3),
                turn: Angle::ZERO,
                softness: r(0.5),
                radius: r(0.012),
            },
        ),
        kind(
            "focusBand",
            "Sharp band",
            "Softer",
            "tilt shift miniature depth",
            vec![
                long("radius", "Softness beside", 100.0),
                centre(),
                field("reach", "Half its width", Shown::Percent, 1.0, 100.0),
                turned("Turned"),
                part("softness", "Transition"),
            ],
            Develop::FocusBand {
                centre: middle,
                reach: r(0.22),
                turn: Angle::ZERO,
                softness: r(0.5),
                radius: r(0.012),
            },
        ),
        kind(
            "glow",
            "Glow",
            "Softer",
            "bloom dreamy lights",
            vec![part("strength", "Strength"), long("radius", "Reach", 100.0), part("threshold", "From")],
            Develop::Glow { radius: r(0.02), strength: r(0.4), threshold: r(0.5) },
        ),
        kind(
            "motion",
            "Motion",
            "Softer",
            "speed directional pan",
            vec![long("length", "Length", 300.0), turned("Direction")],
            Develop::Motion { length: r(0.03), turn: Angle::ZERO },
        ),
        kind(
            "zoom",
            "Zoom",
            "Softer",
            "radial burst",
            vec![field("length", "Length", Shown::Percent, 0.0, 80.0), centre()],
            Develop::Zoom { centre: middle, length: r(0.1) },
        ),
        kind(
            "pixelate",
            "Squares",
            "Softer",
            "pixelate mosaic hide face",
            vec![long("size", "Size", 150.0)],
            Develop::Pixelate { size: r(0.03) },
        ),
        kind(
            "spots",
            "Spots patched",
            "Cleaner",
            "patch heal retouch remove dust blemish clone fill scratch",
            Vec::new(),
            Develop::Spots { spots: Vec::new() },
        ),
        kind(
            "overlay",
            "Another picture over it",
            "Mixed with another",
            "overlay double exposure blend layer photo",
            vec![
                field("picture", "Picture", Shown::Picture, 0.0, 0.0),
                field("blend", "Mixes by", Shown::Blend, 0.0, 0.0),
                field("scale", "Size", Shown::Percent, 1.0, 400.0),
                centre(),
                turned("Turned"),
            ],
            Develop::Overlay {
                picture: unchosen(),
                blend: Blend::Screen,
                centre: middle,
                scale: Ratio::ONE,
                turn: Angle::ZERO,
            },
        ),
        kind(
            "clear",
            "Faded out",
            "Mixed with what lies below",
            "clear transparent hide gradient mask erase",
            Vec::new(),
            Develop::Clear {},
        ),
    ]
}

#[cfg(test)]
mod tests {
    use super::*;
    use serde_json::Value;
    use vatman_document::Treatment;

    #[test]
    fn every_kind_starts_sound_and_its_fields_are_its_own_within_their_ranges() {
        for card in kinds() {
            let treatment = Treatment::new(card.start.clone());
            assert_eq!(treatment.fault(), None, "{}", card.name);
            let json = serde_json::to_value(&card.start).unwrap();
            assert_eq!(json["kind"], card.kind);
            let own = json.as_object().unwrap();
            for field in &card.fields {
                let value = own.get(field.key).unwrap_or_else(|| panic!("{} has no {}", card.name, field.key));
                // Both ends of what can be set are allowed, and what it starts with lies between.
                let whole = match field.shown {
                    Shown::Percent => 1e7,
                    Shown::Thousandths => 1e6,
                    Shown::Stops | Shown::Plain => 1e9,
                    Shown::Kelvin | Shown::Count => 1.0,
                    _ => continue,
                };
                let start = value.as_f64().unwrap() / whole;
                assert!((field.low..=field.high).contains(&start), "{} {}: {start}", card.name, field.key);
                for end in [field.low, field.high] {
                    let mut changed = json.clone();
                    changed[field.key] = Value::from((end * whole).round() as i64);
                    let develop: Develop = serde_json::from_value(changed).unwrap();
                    // A white at or below black is the one pair that cannot be.
                    let crossed = matches!(&develop, Develop::Levels { black, white, .. } if black >= white);
                    assert!(crossed || Treatment::new(develop).fault().is_none(), "{} {} {end}", card.name, field.key);
                }
            }
            // Nothing but curves and spots, which are drawn, has more than its fields.
            assert!(matches!(card.kind, "curves" | "spots") || own.len() == card.fields.len() + 1, "{}", card.name);
        }
    }
}
