//! Pictures in and out, held against another library and against each other.

#![allow(clippy::unwrap_used, reason = "a failed step is a failed test")]

use std::io::Cursor;

use image::{ImageFormat, Rgba, RgbaImage};
use vatman_photo::{
    Limits, PictureError, PictureFormat, PictureInfo, Straight, bare_jpeg, content_id, decode, encode_jpeg, encode_png,
    inspect, leaving, resize,
};

/// Every pixel tells where it is.
fn map(width: u32, height: u32) -> RgbaImage {
    RgbaImage::from_fn(width, height, |x, y| Rgba([(x * 255 / width) as u8, (y * 255 / height) as u8, 77, 255]))
}

fn ours(picture: &RgbaImage) -> Straight {
    Straight::new(picture.width(), picture.height(), picture.as_raw().clone()).unwrap()
}

fn written(picture: &RgbaImage, format: ImageFormat) -> Vec<u8> {
    let mut out = Cursor::new(Vec::new());
    match format {
        ImageFormat::Jpeg => image::DynamicImage::from(picture.clone()).to_rgb8().write_to(&mut out, format).unwrap(),
        _ => picture.write_to(&mut out, format).unwrap(),
    }
    out.into_inner()
}

fn off(a: &[u8], b: &[u8]) -> f64 {
    assert_eq!(a.len(), b.len());
    a.iter().zip(b).map(|(a, b)| f64::from(a.abs_diff(*b))).sum::<f64>() / a.len() as f64
}

#[test]
fn pictures_of_every_format_are_read_as_another_library_wrote_them() {
    let picture = map(61, 37);
    for (format, want, most) in [
        (ImageFormat::Png, PictureFormat::Png, 0.0),
        (ImageFormat::WebP, PictureFormat::Webp, 0.0),
        (ImageFormat::Jpeg, PictureFormat::Jpeg, 3.0),
        (ImageFormat::Gif, PictureFormat::Gif, 6.0),
        (ImageFormat::Tiff, PictureFormat::Tiff, 0.0),
    ] {
        let file = written(&picture, format);
        let info = inspect(&file, Limits::default()).unwrap();
        assert_eq!((info.format, info.width, info.height), (want, 61, 37));
        let read = decode(&file, Limits::default()).unwrap();
        assert!(off(read.data(), picture.as_raw()) <= most, "{want:?} is {} off", off(read.data(), picture.as_raw()));
    }
}

#[test]
fn what_we_write_another_library_reads() {
    let picture = map(48, 64);
    let png = encode_png(&ours(&picture), 300).unwrap();
    assert_eq!(image::load_from_memory(&png).unwrap().to_rgba8(), picture);
    // 300 per inch are 11,811 per metre (PNG, chunk pHYs).
    let at = png.windows(4).position(|window| window == b"pHYs").unwrap() + 4;
    assert_eq!((u32::from_be_bytes(png[at..at + 4].try_into().unwrap()), png[at + 8]), (11_811, 1));
    for quality in [60, 85, 95] {
        let jpeg = encode_jpeg(&ours(&picture).premultiplied(), quality, [255; 3], 150).unwrap();
        let read = image::load_from_memory(&jpeg).unwrap().to_rgba8();
        assert!(off(read.as_raw(), picture.as_raw()) < 4.0, "quality {quality}");
        // JFIF density: 150 dots per inch.
        assert_eq!(&jpeg[13..18], [1, 0, 150, 0, 150]);
    }
}

#[test]
fn clear_pixels_stay_clear_in_png_and_become_the_colour_below_in_jpeg() {
    let mut picture = map(16, 16);
    for pixel in picture.pixels_mut().take(128) {
        *pixel = Rgba([10, 200, 30, 0]);
    }
    let png = encode_png(&ours(&picture), 72).unwrap();
    assert_eq!(image::load_from_memory(&png).unwrap().to_rgba8().get_pixel(3, 3)[3], 0);
    let jpeg = encode_jpeg(&ours(&picture).premultiplied(), 95, [250, 240, 230], 72).unwrap();
    let below = *image::load_from_memory(&jpeg).unwrap().to_rgb8().get_pixel(3, 3);
    assert!(below.0.iter().zip([250u8, 240, 230]).all(|(a, b)| a.abs_diff(b) < 4), "{below:?}");
}

/// An EXIF segment (TIFF 6.0, little-endian) with the orientation as its only entry.
fn exif(orientation: u8) -> Vec<u8> {
    [
        b"\xff\xe1\x00\x22Exif\0\0II*\0\x08\0\0\0\x01\0".as_slice(),
        &[0x12, 0x01, 0x03, 0, 1, 0, 0, 0, orientation, 0, 0, 0, 0, 0, 0, 0],
    ]
    .concat()
}

#[test]
fn all_eight_camera_positions_are_set_upright() {
    let picture = map(80, 40);
    let plain = written(&picture, ImageFormat::Jpeg);
    // Where the top left of the stored picture ends up: left or right, top or bottom; and whether it lies on its side.
    let corners = [
        (1, 0, 0, false),
        (2, 1, 0, false),
        (3, 1, 1, false),
        (4, 0, 1, false),
        (5, 0, 0, true),
        (6, 1, 0, true),
        (7, 1, 1, true),
        (8, 0, 1, true),
    ];
    for (orientation, right, bottom, lying) in corners {
        let mut file = plain.clone();
        file.splice(2..2, exif(orientation));
        let info = inspect(&file, Limits::default()).unwrap();
        let size = if lying { (40, 80) } else { (80, 40) };
        assert_eq!((info.width, info.height), size, "orientation {orientation}");
        let read = decode(&file, Limits::default()).unwrap();
        assert_eq!((read.width(), read.height()), size);
        let (x, y) = (right * (size.0 - 1), bottom * (size.1 - 1));
        let at = ((y * size.0 + x) * 4) as usize;
        let corner = &read.data()[at..at + 2];
        assert!(corner[0] < 16 && corner[1] < 16, "orientation {orientation}: {corner:?}");
    }
}

#[test]
fn limits_are_checked_before_anything_is_unpacked() {
    let file = written(&map(300, 200), ImageFormat::Png);
    let small = Limits { pixels: 50_000, side: 1_000 };
    assert!(matches!(decode(&file, small), Err(PictureError::TooLarge { width: 300, height: 200, .. })));
    let narrow = Limits { pixels: 1_000_000, side: 250 };
    assert!(matches!(inspect(&file, narrow), Err(PictureError::TooLarge { .. })));
    assert!(decode(&file, Limits { pixels: 60_000, side: 300 }).is_ok());
}

#[test]
fn a_picture_made_smaller_keeps_its_colours_in_their_places() {
    let big = ours(&map(400, 300));
    for (w, h) in [(40, 30), (100, 75), (37, 29), (400, 300)] {
        let small = resize(&big, w, h);
        assert_eq!((small.width(), small.height()), (w, h));
        let want = map(w, h);
        // A pixel stands for the middle of its area, half a step further than its corner.
        assert!(off(small.data(), want.as_raw()) < 255.0 / f64::from(w.min(h)) + 1.0, "{w} x {h}");
    }
    let one = resize(&big, 1, 1);
    assert!(one.data()[0].abs_diff(127) < 4 && one.data()[1].abs_diff(127) < 4, "{:?}", one.data());
}

#[test]
fn pictures_are_named_by_their_content() {
    let (a, b) = (written(&map(9, 9), ImageFormat::Png), written(&map(9, 8), ImageFormat::Png));
    assert_eq!(content_id(&a), content_id(&a.clone()));
    assert_ne!(content_id(&a), content_id(&b));
    assert_eq!(content_id(b"").as_str().len(), 40);
    // The first forty digits of SHA-256 of nothing (FIPS 180-4).
    assert!(content_id(b"").as_str().starts_with("e3b0c44298fc1c149afb"));
}

/// Linear light of an encoded channel, and back (IEC 61966-2-1).
fn linear(v: u8) -> f64 {
    let v = f64::from(v) / 255.0;
    if v <= 0.040_45 { v / 12.92 } else { ((v + 0.055) / 1.055).powf(2.4) }
}

fn encoded(v: f64) -> f64 {
    let v = v.clamp(0.0, 1.0);
    255.0 * if v <= 0.003_130_8 { v * 12.92 } else { 1.055 * v.powf(1.0 / 2.4) - 0.055 }
}

/// A colour of the wide-gamut space of CSS Color 4 ("display-p3") in sRGB, by the matrices given there.
fn from_wide([r, g, b]: [u8; 3]) -> [f64; 3] {
    let [r, g, b] = [linear(r), linear(g), linear(b)];
    [
        1.224_940_176_280_6 * r - 0.224_940_176_280_6 * g,
        -0.042_056_954_709_7 * r + 1.042_056_954_709_7 * g,
        -0.019_637_554_590_3 * r - 0.078_636_045_550_6 * g + 1.098_273_600_140_9 * b,
    ]
    .map(encoded)
}

/// A picture file of a format with a profile in it.
fn profiled(picture: &RgbaImage, format: ImageFormat, profile: &[u8]) -> Vec<u8> {
    use image::ImageEncoder as _;
    let (w, h) = picture.dimensions();
    let rgb = image::DynamicImage::from(picture.clone()).to_rgb8();
    let mut out = Vec::new();
    let profile = profile.to_vec();
    match format {
        ImageFormat::Png => {
            let mut encoder = image::codecs::png::PngEncoder::new(&mut out);
            encoder.set_icc_profile(profile).unwrap();
            encoder.write_image(&rgb, w, h, image::ExtendedColorType::Rgb8).unwrap();
        }
        ImageFormat::Jpeg => {
            let mut encoder = image::codecs::jpeg::JpegEncoder::new_with_quality(&mut out, 100);
            encoder.set_icc_profile(profile).unwrap();
            encoder.write_image(&rgb, w, h, image::ExtendedColorType::Rgb8).unwrap();
        }
        ImageFormat::WebP => {
            let mut encoder = image::codecs::webp::WebPEncoder::new_lossless(&mut out);
            encoder.set_icc_profile(profile).unwrap();
            encoder.write_image(&rgb, w, h, image::ExtendedColorType::Rgb8).unwrap();
        }
        _ => unreachable!("no profile is written there"),
    }
    out
}

#[test]
fn colours_of_a_profile_are_brought_to_srgb() {
    let colours = [[200, 100, 50], [120, 160, 110], [60, 70, 140], [128, 128, 128], [250, 240, 230], [30, 25, 20]];
    // Patches large enough for a JPEG to keep them.
    let picture = RgbaImage::from_fn(16 * colours.len() as u32, 16, |x, _| {
        let [r, g, b] = colours[x as usize / 16];
        Rgba([r, g, b, 255])
    });
    let wide = moxcms::ColorProfile::new_display_p3().encode().unwrap();
    let own = moxcms::ColorProfile::new_srgb().encode().unwrap();
    for format in [ImageFormat::Png, ImageFormat::Jpeg, ImageFormat::WebP] {
        let file = profiled(&picture, format, &wide);
        assert!(inspect(&file, Limits::default()).unwrap().profiled, "{format:?}");
        let read = decode(&file, Limits::default()).unwrap();
        for (n, colour) in colours.into_iter().enumerate() {
            let at = (8 * read.width() as usize + n * 16 + 8) * 4;
            for (got, want) in read.data()[at..at + 3].iter().zip(from_wide(colour)) {
                assert!(
                    (f64::from(*got) - want).abs() < 3.0,
                    "{format:?}: {colour:?} became {:?}",
                    &read.data()[at..at + 3]
                );
            }
        }
        // A profile that says nothing new changes nothing.
        let plain = profiled(&picture, format, &own);
        assert!(!inspect(&plain, Limits::default()).unwrap().profiled);
        assert!(off(decode(&plain, Limits::default()).unwrap().data(), picture.as_raw()) < 1.0);
    }
    // A profile that is none is passed over, as browsers do.
    let torn = profiled(&picture, ImageFormat::Png, b"no profile at all");
    assert_eq!(decode(&torn, Limits::default()).unwrap().data(), picture.as_raw().as_slice());
}

/// EXIF data of one entry: how the camera was held (TIFF 6.0, big-endian).
fn held(orientation: u8) -> Vec<u8> {
    [b"MM\0*\0\0\0\x08\0\x01".as_slice(), b"\x01\x12\0\x03\0\0\0\x01\0", &[orientation], b"\0\0\0\0\0\0"].concat()
}

#[test]
fn the_camera_is_turned_upright_in_every_format_with_and_without_the_prefix() {
    use img_parts::{Bytes, ImageEXIF as _};
    let picture = map(48, 32);
    for prefixed in [false, true] {
        let exif = if prefixed { [b"Exif\0\0".as_slice(), &held(6)].concat() } else { held(6) };
        let png = {
            let mut file = img_parts::png::Png::from_bytes(Bytes::from(written(&picture, ImageFormat::Png))).unwrap();
            let chunk = img_parts::png::PngChunk::new(*b"eXIf", Bytes::from(exif.clone()));
            file.chunks_mut().insert(1, chunk);
            file.encoder().bytes().to_vec()
        };
        let webp = {
            let mut file =
                img_parts::webp::WebP::from_bytes(Bytes::from(written(&picture, ImageFormat::WebP))).unwrap();
            file.set_exif(Some(Bytes::from(exif.clone())));
            file.encoder().bytes().to_vec()
        };
        for (name, file) in [("PNG", png), ("WebP", webp)] {
            let info = inspect(&file, Limits::default()).unwrap();
            assert_eq!((info.width, info.height, info.orientation), (32, 48, 6), "{name}, prefix: {prefixed}");
            let read = decode(&file, Limits::default()).unwrap();
            let corner = &read.data()[31 * 4..31 * 4 + 2];
            assert!(
                corner[0] < 20 && corner[1] < 20,
                "{name}: the top left of the file is at the top right: {corner:?}"
            );
        }
    }
}

/// A JPEG that tells a lot about its maker: place, camera, a comment, and another picture behind its end.
fn talkative(orientation: u8) -> Vec<u8> {
    let mut file = encode_jpeg(&ours(&map(64, 48)).premultiplied(), 90, [255; 3], 300).unwrap();
    let segment = |marker: u8, content: &[u8]| {
        let length = (content.len() as u16 + 2).to_be_bytes();
        [&[0xff, marker], length.as_slice(), content].concat()
    };
    let told = [b"Exif\0\0".as_slice(), &held(orientation), b"GPS 51.5 N 0.1 W"].concat();
    let secrets = [segment(0xe1, &told), segment(0xe1, b"a namespace\0<x:xmpmeta/>"), segment(0xfe, b"shot at home")];
    file.splice(2..2, secrets.concat());
    file.extend_from_slice(b"\xff\xd8 another picture, and who took it");
    file
}

/// What telephones hang behind a picture: another picture with all it tells, and a film.
fn followed(orientation: u8) -> Vec<u8> {
    let mut file = talkative(orientation);
    let end = file.windows(2).rposition(|pair| pair == [0xff, 0xd9]).unwrap();
    file.truncate(end + 2);
    file.extend(talkative(1));
    file.extend_from_slice(b"\0\0\0\x18ftypmp42 shot at home \xff\xda\0\x02 who took it \xff\xd9");
    file
}

/// A progressive picture (64 x 48, two scans and more) with a comment and an application segment before each scan.
fn between_scans() -> Vec<u8> {
    let mut file = Vec::new();
    let mut encoder = jpeg_encoder::Encoder::new(&mut file, 90);
    encoder.set_progressive(true);
    let rgb = ours(&map(64, 48)).premultiplied().flattened([255; 3]);
    encoder.encode(&rgb, 64, 48, jpeg_encoder::ColorType::Rgb).unwrap();
    let scans: Vec<usize> = (0..file.len() - 1).filter(|at| file[*at..at + 2] == [0xff, 0xda]).collect();
    assert!(scans.len() > 2);
    for at in scans.into_iter().rev() {
        let long = [b"\xff\xe2\x20\x02".as_slice(), &b"who took it ".repeat(683)[..8_192]].concat();
        file.splice(at..at, [b"\xff\xfe\0\x0eshot at home".as_slice(), &long].concat());
    }
    file
}

#[test]
fn what_follows_a_picture_or_lies_between_its_scans_stays_behind() {
    let limits = Limits::default();
    for (name, file) in [("followed", followed(1)), ("between scans", between_scans())] {
        assert!(tells(&file), "{name}");
        let bare = bare_jpeg(&file).unwrap();
        assert!(!tells(&bare), "{name}");
        assert_eq!(decode(&bare, limits).unwrap(), decode(&file, limits).unwrap(), "{name}: without any loss");
        assert_eq!(bare_jpeg(&bare).unwrap(), bare, "{name}: nothing is left to leave out");
    }
    // A second picture that is cut short does not harm the first.
    let mut cut = followed(1);
    let second = cut.windows(2).rposition(|pair| pair == [0xff, 0xda]).unwrap();
    cut.truncate(second);
    assert_eq!(decode(&cut, limits).unwrap(), decode(&talkative(1), limits).unwrap());
    // One that is cut short itself is not taken for whole because of what follows it.
    let first = talkative(1);
    let mut short = first[..first.len() - 400].to_vec();
    short.extend(followed(1));
    assert!(decode(&short, limits).is_err());
}

fn tells(file: &[u8]) -> bool {
    [b"Exif".as_slice(), b"GPS", b"xmpmeta", b"shot at home", b"who took it"]
        .iter()
        .any(|secret| file.windows(secret.len()).any(|window| window == *secret))
}

#[test]
fn nothing_leaves_but_what_is_seen() {
    let limits = Limits::default();
    let upright = talkative(1);
    let bare = bare_jpeg(&upright).unwrap();
    assert!(tells(&upright) && !tells(&bare) && bare.ends_with(&[0xff, 0xd9]));
    assert_eq!(decode(&bare, limits).unwrap(), decode(&upright, limits).unwrap(), "without any loss");
    let leave = |file: &[u8]| {
        let info: PictureInfo = inspect(file, limits).unwrap();
        let pixels = std::sync::Arc::new(decode(file, limits).unwrap());
        leaving(file, &info, || Some(pixels)).unwrap().unwrap()
    };
    assert_eq!(leave(&upright), (bare, "image/jpeg"));
    // A turned one is written upright.
    let turned = talkative(8);
    let (file, media) = leave(&turned);
    let info = inspect(&file, limits).unwrap();
    assert!(!tells(&file) && media == "image/jpeg");
    assert_eq!((info.width, info.height, info.orientation), (48, 64, 1));
    assert!(off(decode(&file, limits).unwrap().data(), decode(&turned, limits).unwrap().data()) < 2.0);
    // Formats that not every reader knows become ones that every reader does.
    for (format, want) in
        [(ImageFormat::WebP, "image/png"), (ImageFormat::Gif, "image/png"), (ImageFormat::Png, "image/png")]
    {
        assert_eq!(leave(&written(&map(20, 20), format)).1, want, "{format:?}");
    }
}

#[test]
fn written_pictures_say_that_they_are_srgb() {
    let png = encode_png(&ours(&map(8, 8)), 96).unwrap();
    assert!(png.windows(4).any(|window| window == b"sRGB"));
    let jpeg = encode_jpeg(&ours(&map(8, 8)).premultiplied(), 80, [255; 3], 300).unwrap();
    assert!(jpeg.windows(11).any(|window| window == b"ICC_PROFILE"));
    assert!(!inspect(&jpeg, Limits::default()).unwrap().profiled);
    assert_eq!(&jpeg[13..18], [1, 1, 44, 1, 44], "300 dots an inch, in JFIF");
}

#[test]
fn jpegs_with_odd_markers_are_read_as_browsers_read_them() {
    let limits = Limits::default();
    let file = encode_jpeg(&ours(&map(64, 48)).premultiplied(), 90, [255; 3], 300).unwrap();
    let whole = decode(&file, limits).unwrap();
    // A marker of how colours are kept (App14) that is too short to say anything.
    let mut short = file.clone();
    short.splice(2..2, *b"\xff\xee\x00\x07\x41dob\x65");
    assert_eq!(decode(&short, limits).unwrap(), whole);
    // Restart markers, one of which was lost on the way.
    let mut restarting = Vec::new();
    let mut encoder = jpeg_encoder::Encoder::new(&mut restarting, 90);
    encoder.set_restart_interval(2);
    let rgb = ours(&map(64, 48)).premultiplied().flattened([255; 3]);
    encoder.encode(&rgb, 64, 48, jpeg_encoder::ColorType::Rgb).unwrap();
    let sound = decode(&restarting, limits).unwrap();
    let at = restarting.windows(2).rposition(|pair| pair[0] == 0xff && (0xd0..=0xd7).contains(&pair[1])).unwrap();
    restarting.drain(at..at + 2);
    let lossy = decode(&restarting, limits).unwrap();
    assert!(off(lossy.data(), sound.data()) < 30.0, "most of the picture is there");
}
