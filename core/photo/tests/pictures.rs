//! Pictures in and out, held against another library and against each other.

#![allow(clippy::unwrap_used, reason = "a failed step is a failed test")]

use std::io::Cursor;

use image::{ImageFormat, Rgba, RgbaImage};
use vatman_photo::{
    Limits, PictureError, PictureFormat, Straight, content_id, decode, encode_jpeg, encode_png, inspect, resize,
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
