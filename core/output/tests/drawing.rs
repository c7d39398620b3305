//! Scenes made by hand, drawn and looked at pixel by pixel.

#![allow(clippy::unwrap_used, reason = "a failed step is a failed test")]

use std::sync::Arc;

use kurbo::{Affine, BezPath, Point, Rect, Shape as _, Size};
use proptest::prelude::*;
use vatman_document::{AssetId, Blend, Cap, Color, Develop, GroupId, ItemId, Join, PictureSource, Spread, Treatment};
use vatman_output::{
    PictureLinks, PixelError, PixelOptions, ScenePart, Sink, SvgOptions, bunch_fragments, item_fragment, part_area,
    render_part, render_pixels, walk, write_svg,
};
use vatman_photo::{PictureBytes, Pictures, Straight, content_id, encode_png};
use vatman_scene::{
    Behind, Brush, Bunch, Filter, Frame, GlyphNode, GradientStop, Group, ImageNode, Line, MaskNodes, Node, PathNode,
    Reading, Rgba, Scene, SceneItem, Shadow, Tile,
};
use vatman_type::{FaceId, GlyphOutlines};
use vatman_units::Ratio;

struct NoLetters;
impl GlyphOutlines for NoLetters {
    fn glyph(&self, _: FaceId, _: u32) -> Arc<BezPath> {
        Arc::new(BezPath::new())
    }
}

struct Links;
impl PictureLinks for Links {
    fn link(&self, source: &PictureSource, width: f64) -> String {
        format!("/media/{}?w={width:.0}", source.asset)
    }
    fn part(&self, scene: &Scene, part: ScenePart<'_>, stamp: u64) -> Option<(String, Rect)> {
        Some((format!("/part/{part:?}/{stamp}").replace('"', ""), part_area(scene, part, 2.0)?))
    }
}

/// One picture of 8 by 4 pixels whose every pixel has a colour of its own.
struct One(Vec<u8>);
impl One {
    fn pixel(x: u32, y: u32) -> [u8; 3] {
        [(x * 30) as u8, (y * 60) as u8, 200]
    }
    fn new() -> Self {
        let data = (0..32).flat_map(|i| [Self::pixel(i % 8, i / 8).as_slice(), &[255]].concat()).collect();
        Self(encode_png(&Straight::new(8, 4, data).unwrap(), 96).unwrap())
    }
    fn id(&self) -> AssetId {
        content_id(&self.0)
    }
}
impl PictureBytes for One {
    fn bytes(&self, id: &AssetId) -> Option<Arc<[u8]>> {
        (*id == self.id()).then(|| self.0.clone().into())
    }
}

fn flat(r: u8, g: u8, b: u8, a: f64) -> Brush {
    Brush::Flat(Rgba::new(Color::opaque(r, g, b), a))
}

fn filled(rect: Rect, brush: Brush) -> Node {
    Node::Path(PathNode::new(rect.to_path(0.01), Some(brush), None))
}

fn item(node: Node) -> SceneItem {
    SceneItem {
        id: ItemId::new("i").unwrap(),
        frame: Frame { x: 0.0, y: 0.0, w: 1.0, h: 1.0, turn: 0.0 },
        node: Arc::new(node),
        behind: None,
        below: None,
        cut: None,
        reading: Reading::default(),
        spills: false,
        missing: Vec::new(),
        blanks: 0,
        type_size: 0.0,
        carets: Vec::new(),
    }
}

fn scene(ground: Option<Brush>, nodes: Vec<Node>) -> Scene {
    Scene {
        size: Size::new(40.0, 20.0),
        bleed: 4.0,
        ground,
        items: nodes.into_iter().map(item).collect(),
        bunches: Vec::new(),
    }
}

/// All that lies behind an item, treated.
fn behind(outline: Rect, opacity: f64, filter: Filter) -> Behind {
    let outline = outline.to_path(0.01);
    Behind { outline, opacity, filter, items: Vec::new(), first: 0, ground: true, stamp: 0, hidden: false }
}

/// Draws at one pixel a CSS pixel; returns a reader of straight colours.
fn drawn(scene: &Scene) -> impl Fn(u32, u32) -> [u8; 4] + use<> {
    drawn_as(scene, PixelOptions { width: 40, height: 20, bleed: false, clear: false })
}

fn drawn_as(scene: &Scene, options: PixelOptions) -> impl Fn(u32, u32) -> [u8; 4] + use<> {
    let pictures = Pictures::new(Box::new(One::new()), 1 << 20);
    let pixels = render_pixels(scene, options, &NoLetters, &pictures).unwrap().straight();
    move |x, y| {
        let at = ((y * pixels.width() + x) * 4) as usize;
        pixels.data()[at..at + 4].try_into().unwrap()
    }
}

fn near(a: [u8; 4], b: [u8; 4], by: u8) -> bool {
    a.iter().zip(b).all(|(a, b)| a.abs_diff(b) <= by)
}

fn whole() -> Rect {
    Rect::new(0.0, 0.0, 40.0, 20.0)
}

/// One channel of the separable blend functions of W3C Compositing and Blending Level 1, on 0 to 1.
fn channel(blend: Blend, below: f64, above: f64) -> f64 {
    let screen = |a: f64, b: f64| a + b - a * b;
    let hard =
        |below: f64, above: f64| if above <= 0.5 { below * 2.0 * above } else { screen(below, 2.0 * above - 1.0) };
    match blend {
        Blend::Multiply => below * above,
        Blend::Screen => screen(below, above),
        Blend::Overlay => hard(above, below),
        Blend::Darken => below.min(above),
        Blend::Lighten => below.max(above),
        Blend::ColorDodge if below == 0.0 => 0.0,
        Blend::ColorDodge if above >= 1.0 => 1.0,
        Blend::ColorDodge => (below / (1.0 - above)).min(1.0),
        Blend::ColorBurn if below >= 1.0 => 1.0,
        Blend::ColorBurn if above == 0.0 => 0.0,
        Blend::ColorBurn => 1.0 - ((1.0 - below) / above).min(1.0),
        Blend::HardLight => hard(below, above),
        Blend::SoftLight if above <= 0.5 => below - (1.0 - 2.0 * above) * below * (1.0 - below),
        Blend::SoftLight => {
            let d = if below <= 0.25 { ((16.0 * below - 12.0) * below + 4.0) * below } else { below.sqrt() };
            below + (2.0 * above - 1.0) * (d - below)
        }
        Blend::Difference => (below - above).abs(),
        Blend::Exclusion => below + above - 2.0 * below * above,
        Blend::Normal | Blend::Hue | Blend::Saturation | Blend::Color | Blend::Luminosity => above,
    }
}

fn luminosity(c: [f64; 3]) -> f64 {
    0.3 * c[0] + 0.59 * c[1] + 0.11 * c[2]
}

fn saturation(c: [f64; 3]) -> f64 {
    c.iter().copied().fold(0.0, f64::max) - c.iter().copied().fold(1.0, f64::min)
}

/// The colour with another luminosity, clipped towards it into the gamut.
fn with_luminosity(c: [f64; 3], l: f64) -> [f64; 3] {
    let moved = c.map(|v| v + l - luminosity(c));
    let (low, high, l) =
        (moved.iter().copied().fold(9.0, f64::min), moved.iter().copied().fold(-9.0, f64::max), luminosity(moved));
    let up = moved.map(|v| if low < 0.0 { l + (v - l) * l / (l - low) } else { v });
    up.map(|v| if high > 1.0 { l + (v - l) * (1.0 - l) / (high - l) } else { v })
}

fn with_saturation(c: [f64; 3], s: f64) -> [f64; 3] {
    let low = c.iter().copied().fold(1.0, f64::min);
    let own = saturation(c);
    c.map(|v| if own > 0.0 { (v - low) * s / own } else { 0.0 })
}

/// The blend functions of W3C Compositing and Blending Level 1.
fn blended(blend: Blend, below: [f64; 3], above: [f64; 3]) -> [f64; 3] {
    match blend {
        Blend::Hue => with_luminosity(with_saturation(above, saturation(below)), luminosity(below)),
        Blend::Saturation => with_luminosity(with_saturation(below, saturation(above)), luminosity(below)),
        Blend::Color => with_luminosity(above, luminosity(below)),
        Blend::Luminosity => with_luminosity(below, luminosity(above)),
        _ => std::array::from_fn(|i| channel(blend, below[i], above[i])),
    }
}

const BLENDS: [Blend; 16] = [
    Blend::Normal,
    Blend::Multiply,
    Blend::Screen,
    Blend::Overlay,
    Blend::Darken,
    Blend::Lighten,
    Blend::ColorDodge,
    Blend::ColorBurn,
    Blend::HardLight,
    Blend::SoftLight,
    Blend::Difference,
    Blend::Exclusion,
    Blend::Hue,
    Blend::Saturation,
    Blend::Color,
    Blend::Luminosity,
];

proptest! {
    #![proptest_config(ProptestConfig::with_cases(64))]

    #[test]
    fn mixing_follows_the_standard(below: [u8; 3], above: [u8; 3], opacity in 0.1f64..1.0) {
        for blend in BLENDS {
            let group = Group { blend, opacity, ..Group::placed(Affine::IDENTITY, vec![filled(whole(), flat(above[0], above[1], above[2], 1.0))]) };
            let at = drawn(&scene(Some(flat(below[0], below[1], below[2], 1.0)), vec![Node::Group(group)]));
            let (b, a) = (below.map(|v| f64::from(v) / 255.0), above.map(|v| f64::from(v) / 255.0));
            let mixed = blended(blend, b, a);
            let want: [u8; 3] = std::array::from_fn(|i| ((b[i] * (1.0 - opacity) + mixed[i] * opacity) * 255.0).round() as u8);
            let found = at(20, 10);
            prop_assert!(near(found, [want[0], want[1], want[2], 255], 4), "{:?}: {:?} for {:?}", blend, found, want);
        }
    }

    #[test]
    fn a_turned_rectangle_covers_its_area(turn in 0f64..360.0, w in 4f64..16.0, h in 4f64..16.0) {
        let transform = Affine::translate((20.0, 10.0)) * Affine::rotate(turn.to_radians()) * Affine::scale(0.5);
        let node = Node::Group(Group::placed(transform, vec![filled(Rect::new(-w, -h, w, h), flat(0, 0, 0, 1.0))]));
        let pictures = Pictures::new(Box::new(One::new()), 1 << 20);
        let options = PixelOptions { width: 160, height: 80, bleed: false, clear: true };
        let pixels = render_pixels(&scene(None, vec![node]), options, &NoLetters, &pictures).unwrap();
        let covered: f64 = pixels.data().chunks_exact(4).map(|pixel| f64::from(pixel[3]) / 255.0).sum();
        // Four pixels a CSS pixel each way; what lies outside the sheet is not counted, and nothing of it does here.
        let reach = (w.hypot(h)) / 2.0;
        prop_assume!(reach < 10.0);
        prop_assert!((covered - w * h * 16.0).abs() < 0.02 * w * h * 16.0 + 8.0, "{} for {}", covered, w * h * 16.0);
    }
}

#[test]
fn a_faded_group_is_faded_as_one() {
    let two = vec![
        filled(Rect::new(0.0, 0.0, 20.0, 20.0), flat(255, 0, 0, 1.0)),
        filled(Rect::new(10.0, 0.0, 30.0, 20.0), flat(0, 0, 255, 1.0)),
    ];
    let together = Node::Group(Group { opacity: 0.5, ..Group::placed(Affine::IDENTITY, two) });
    let at = drawn(&scene(Some(flat(255, 255, 255, 1.0)), vec![together]));
    assert!(near(at(5, 10), [255, 128, 128, 255], 1));
    assert!(near(at(15, 10), [128, 128, 255, 255], 1), "the red does not show through the blue: {:?}", at(15, 10));
    assert_eq!(at(35, 10), [255, 255, 255, 255]);
}

#[test]
fn clips_of_groups_intersect() {
    let clip = |x0: f64, x1: f64| Some(Rect::new(x0, 0.0, x1, 20.0).to_path(0.01));
    let inner =
        Group { clip: clip(15.0, 40.0), ..Group::placed(Affine::IDENTITY, vec![filled(whole(), flat(9, 9, 9, 1.0))]) };
    let outer =
        Group { clip: clip(0.0, 25.0), opacity: 0.999, ..Group::placed(Affine::IDENTITY, vec![Node::Group(inner)]) };
    let at = drawn(&scene(None, vec![Node::Group(outer)]));
    assert_eq!([at(10, 5)[3], at(30, 5)[3]], [0, 0]);
    assert!(at(20, 5)[3] >= 254);
}

#[test]
fn gradients_run_from_their_first_to_their_last_colour() {
    let stops = vec![
        GradientStop { at: 0.0, color: Rgba::new(Color::BLACK, 1.0) },
        GradientStop { at: 1.0, color: Rgba::new(Color::WHITE, 1.0) },
    ];
    let linear = Brush::Linear {
        from: Point::new(4.0, 0.0),
        to: Point::new(36.0, 0.0),
        stops: stops.clone(),
        spread: Spread::Hold,
    };
    let at = drawn(&scene(None, vec![filled(whole(), linear)]));
    assert_eq!((at(1, 9), at(38, 9)), ([0, 0, 0, 255], [255, 255, 255, 255]), "beyond its ends the end colours go on");
    assert!((0..39).all(|x| at(x, 3)[0] <= at(x + 1, 3)[0]) && near(at(20, 3), [131, 131, 131, 255], 6));
    let radial = Brush::Radial {
        centre: Point::new(20.0, 10.0),
        radius: 10.0,
        matrix: Affine::IDENTITY,
        stops,
        spread: Spread::Hold,
    };
    let at = drawn(&scene(None, vec![filled(whole(), radial)]));
    assert!(at(20, 10)[0] < 20 && at(29, 10)[0] > 220 && at(12, 10)[0].abs_diff(at(27, 10)[0]) < 14);
}

fn picture(dest: Rect, frame: &BezPath) -> Node {
    Node::Image(ImageNode {
        source: PictureSource::plain(One::new().id()).into(),
        pixels: (8, 4),
        dest,
        frame: frame.clone(),
    })
}

#[test]
fn a_picture_at_its_own_size_is_itself_and_only_inside_its_frame() {
    let dest = Rect::new(10.0, 6.0, 18.0, 10.0);
    let at = drawn(&scene(None, vec![picture(dest, &dest.to_path(0.01))]));
    for (x, y) in [(0, 0), (7, 0), (3, 2), (7, 3)] {
        let [r, g, b] = One::pixel(x, y);
        assert_eq!(at(10 + x, 6 + y), [r, g, b, 255]);
    }
    assert_eq!(at(9, 6)[3], 0);
    let half = Rect::new(10.0, 6.0, 14.0, 10.0);
    let at = drawn(&scene(None, vec![picture(dest, &half.to_path(0.01))]));
    assert_eq!((at(13, 7)[3], at(14, 7)[3]), (255, 0));
}

#[test]
fn a_picture_turned_by_a_quarter_is_itself_turned() {
    let dest = Rect::new(0.0, 0.0, 8.0, 4.0);
    let quarter = Affine::translate((20.0, 4.0)) * Affine::rotate(std::f64::consts::FRAC_PI_2);
    let at = drawn(&scene(None, vec![Node::Group(Group::placed(quarter, vec![picture(dest, &dest.to_path(0.01))]))]));
    for (x, y) in [(1, 1), (5, 2), (6, 1)] {
        let [r, g, b] = One::pixel(x, y);
        assert!(near(at(19 - y, 4 + x), [r, g, b, 255], 3), "{:?} at {x}, {y}", at(19 - y, 4 + x));
    }
}

#[test]
fn a_missing_picture_is_named() {
    let gone = AssetId::new("gone").unwrap();
    let node = Node::Image(ImageNode {
        source: PictureSource::plain(gone).into(),
        pixels: (8, 4),
        dest: whole(),
        frame: whole().to_path(0.01),
    });
    let pictures = Pictures::new(Box::new(One::new()), 1 << 20);
    let options = PixelOptions { width: 40, height: 20, bleed: false, clear: false };
    assert_eq!(
        render_pixels(&scene(None, vec![node]), options, &NoLetters, &pictures).unwrap_err(),
        PixelError::Picture("gone".into())
    );
}

#[test]
fn the_bleed_is_added_around_the_sheet_and_a_clear_sheet_has_no_ground() {
    let corner = filled(Rect::new(-4.0, -4.0, 0.0, 0.0), flat(255, 0, 0, 1.0));
    let with_ground = scene(Some(flat(0, 80, 0, 1.0)), vec![corner]);
    let at = drawn_as(&with_ground, PixelOptions { width: 40, height: 20, bleed: true, clear: false });
    assert_eq!((at(1, 1), at(47, 27)), ([255, 0, 0, 255], [0, 80, 0, 255]));
    let at = drawn_as(&with_ground, PixelOptions { width: 80, height: 40, bleed: true, clear: true });
    assert_eq!((at(3, 3), at(90, 50)), ([255, 0, 0, 255], [0, 0, 0, 0]));
}

#[test]
fn a_line_lies_on_its_outline() {
    let line = Line::solid(flat(0, 0, 0, 1.0), 4.0);
    let node = Node::Path(PathNode::new(Rect::new(10.0, 5.0, 30.0, 15.0).to_path(0.01), None, Some(line)));
    let at = drawn(&scene(None, vec![node]));
    assert_eq!([at(8, 10)[3], at(11, 10)[3], at(12, 10)[3], at(7, 10)[3]], [255, 255, 0, 0]);
    assert_eq!(at(8, 3)[3], 255, "corners are mitred");
}

#[test]
fn svg_is_sound_xml_whatever_the_title_says() {
    let nasty = "</title><script>\u{1}\"'&";
    let svg = write_svg(
        &scene(Some(flat(1, 2, 3, 0.5)), vec![picture(whole(), &whole().to_path(0.01))]),
        nasty,
        SvgOptions { bleed: true, clear: false },
        &NoLetters,
        &Links,
    );
    assert!(!svg.contains("<script>") && svg.contains("&lt;script&gt;"));
    assert!(
        svg.contains("viewBox=\"-4 -4 48 28\"")
            && svg.contains("fill=\"#010203\"")
            && svg.contains("fill-opacity=\"0.5\"")
    );
    assert!(
        !write_svg(
            &scene(Some(flat(1, 2, 3, 1.0)), Vec::new()),
            "t",
            SvgOptions { clear: true, bleed: false },
            &NoLetters,
            &Links
        )
        .contains("#010203")
    );
    let folder = std::env::temp_dir().join(format!("vatman-svg-{}", std::process::id()));
    std::fs::create_dir_all(&folder).unwrap();
    let path = folder.join("nasty.svg");
    std::fs::write(&path, &svg).unwrap();
    let read =
        std::process::Command::new("rsvg-convert").arg(&path).arg("-o").arg(folder.join("nasty.png")).output().unwrap();
    assert!(read.status.success(), "{}", String::from_utf8_lossy(&read.stderr));
}

#[test]
fn a_fragment_asks_for_pictures_as_wide_as_they_are_shown_and_names_what_it_defines() {
    let small =
        Group::placed(Affine::scale(0.25), vec![picture(Rect::new(0.0, 0.0, 800.0, 400.0), &whole().to_path(0.01))]);
    let mut small = item(Node::Group(small));
    small.id = ItemId::new("x7").unwrap();
    let svg = item_fragment(&scene(None, Vec::new()), &small, &NoLetters, &Links);
    assert!(svg.contains("?w=200\""), "{svg}");
    assert!(svg.match_indices("id=\"").all(|(i, _)| svg[i..].starts_with("id=\"x7-")), "{svg}");
}

/// A sink that fails at the first outline and counts what it opened and closed.
#[derive(Default)]
struct Failing(usize, usize);
impl Sink for Failing {
    type Error = &'static str;
    fn behind(&mut self, _: &Behind, _: &Scene, _: usize) -> Result<(), &'static str> {
        Ok(())
    }
    fn begin(&mut self, _: &Group) -> Result<(), &'static str> {
        self.0 += 1;
        Ok(())
    }
    fn end(&mut self, _: &Group) -> Result<(), &'static str> {
        self.1 += 1;
        Ok(())
    }
    fn path(&mut self, _: &PathNode) -> Result<(), &'static str> {
        Err("no paths today")
    }
    fn glyphs(&mut self, _: &GlyphNode) -> Result<(), &'static str> {
        Ok(())
    }
    fn image(&mut self, _: &ImageNode) -> Result<(), &'static str> {
        Ok(())
    }
}

#[test]
fn what_a_sink_opened_is_closed_even_after_an_error() {
    let inner = Group::placed(Affine::IDENTITY, vec![filled(whole(), flat(0, 0, 0, 1.0))]);
    let nested = Group::placed(Affine::IDENTITY, vec![Node::Group(inner), filled(whole(), flat(0, 0, 0, 1.0))]);
    let mut sink = Failing::default();
    assert_eq!(walk(&scene(None, vec![Node::Group(nested)]), &mut sink), Err("no paths today"));
    assert_eq!((sink.0, sink.1), (2, 2));
}

fn shadow(inner: bool, dx: f64, dy: f64, sigma: f64) -> Shadow {
    Shadow { inner, dx, dy, sigma, color: Rgba::new(Color::BLACK, 1.0) }
}

#[test]
fn a_shadow_falls_behind_and_does_not_turn_with_what_throws_it() {
    let square = filled(Rect::new(-4.0, -4.0, 4.0, 4.0), flat(255, 255, 255, 1.0));
    let turned = Affine::translate((12.0, 10.0)) * Affine::rotate(std::f64::consts::PI);
    let group = Group { shadows: vec![shadow(false, 10.0, 0.0, 0.0)], ..Group::placed(turned, vec![square]) };
    let at = drawn(&scene(None, vec![Node::Group(group)]));
    assert_eq!((at(12, 10), at(20, 10), at(27, 10)[3], at(4, 10)[3]), ([255, 255, 255, 255], [0, 0, 0, 255], 0, 0));
}

#[test]
fn a_shadow_from_beyond_the_edge_is_seen() {
    let square = filled(Rect::new(-12.0, 5.0, -2.0, 15.0), flat(255, 255, 255, 1.0));
    let group = Group { shadows: vec![shadow(false, 14.0, 0.0, 0.0)], ..Group::placed(Affine::IDENTITY, vec![square]) };
    let at = drawn(&scene(None, vec![Node::Group(group)]));
    assert_eq!((at(6, 10)[3], at(13, 10)[3]), (255, 0));
}

#[test]
fn frost_blurs_what_lies_behind_and_only_inside_its_outline() {
    let stripes: Vec<Node> = (0..10)
        .map(|i| filled(Rect::new(f64::from(i) * 4.0, 0.0, f64::from(i) * 4.0 + 2.0, 20.0), flat(0, 0, 0, 1.0)))
        .collect();
    let mut with_panel = scene(Some(flat(255, 255, 255, 1.0)), stripes);
    let mut panel = item(Node::Group(Group::placed(Affine::IDENTITY, Vec::new())));
    panel.behind = Some(behind(Rect::new(10.0, 0.0, 30.0, 20.0), 1.0, Filter::blurring(4.0)));
    with_panel.items.push(panel);
    for bleed in [false, true] {
        let at = drawn_as(&with_panel, PixelOptions { width: 40, height: 20, bleed, clear: false });
        let by = if bleed { 4 } else { 0 };
        let row: Vec<u8> = (0..40).map(|x| at(x + by, 10 + by)[0]).collect();
        assert!((14..26).all(|x| row[x].abs_diff(128) < 12), "even grey behind the panel: {row:?}");
        assert!(row[1] == 0 && row[3] == 255 && row[33] == 0 && row[35] == 255, "stripes beside it: {row:?}");
    }
}

#[test]
fn a_pattern_is_laid_over_what_it_fills() {
    let figure = Rect::new(0.0, 0.0, 0.5, 1.0).to_path(0.01);
    let tile = Tile {
        cell: Size::new(1.0, 1.0),
        transform: Affine::scale(8.0),
        figure,
        ink: Rgba::new(Color::BLACK, 1.0),
        ground: Some(Rgba::new(Color::WHITE, 1.0)),
    };
    let node = filled(Rect::new(4.0, 0.0, 36.0, 20.0), Brush::Tile(Box::new(tile)));
    let at = drawn(&scene(None, vec![node]));
    for x in 4..36 {
        assert_eq!(at(x, 9), if x % 8 < 4 { [0, 0, 0, 255] } else { [255, 255, 255, 255] }, "at {x}");
    }
    assert_eq!((at(3, 9)[3], at(36, 9)[3]), (0, 0));
}

#[test]
fn a_conic_gradient_goes_round_clockwise_from_the_top() {
    let stops = vec![
        GradientStop { at: 0.0, color: Rgba::new(Color::BLACK, 1.0) },
        GradientStop { at: 1.0, color: Rgba::new(Color::WHITE, 1.0) },
    ];
    let brush = Brush::Conic { centre: Point::new(20.0, 10.0), start: 0.0, stops, field: whole() };
    let at = drawn(&scene(None, vec![filled(whole(), brush)]));
    let quarters = [at(30, 10)[0], at(20, 17)[0], at(10, 10)[0]];
    assert!(quarters.iter().zip([64, 128, 191]).all(|(found, want)| found.abs_diff(want) < 10), "{quarters:?}");
}

#[test]
fn lines_have_the_corners_ends_and_dashes_they_are_given() {
    let mut corner = BezPath::new();
    corner.move_to((10.0, 15.0));
    corner.line_to((10.0, 5.0));
    corner.line_to((30.0, 5.0));
    let with = |line: Line| drawn(&scene(None, vec![Node::Path(PathNode::new(corner.clone(), None, Some(line)))]));
    let base = Line::solid(flat(0, 0, 0, 1.0), 6.0);
    assert_eq!([with(base.clone())(7, 2)[3], with(Line { join: Join::Bevel, ..base.clone() })(7, 2)[3]], [255, 0]);
    assert_eq!([with(base.clone())(31, 5)[3], with(Line { cap: Cap::Square, ..base.clone() })(31, 5)[3]], [0, 255]);
    let dashed = with(Line { dash: vec![5.0, 5.0], ..base });
    assert_eq!([dashed(10, 13)[3], dashed(10, 8)[3]], [255, 0]);
}

#[test]
fn a_line_below_is_hidden_by_the_fill() {
    let node = |below| {
        Node::Path(PathNode::new(
            Rect::new(10.0, 5.0, 30.0, 15.0).to_path(0.01),
            Some(flat(255, 0, 0, 1.0)),
            Some(Line { below, ..Line::solid(flat(0, 0, 0, 1.0), 4.0) }),
        ))
    };
    let inside = |below| drawn(&scene(None, vec![node(below)]))(11, 10);
    assert_eq!([inside(true), inside(false)], [[255, 0, 0, 255], [0, 0, 0, 255]]);
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(32))]

    /// The value at a point is the distance from the centre, in radii, of where the matrix comes from; beyond the circle it stays,
    /// begins again or runs back.
    #[test]
    fn a_skewed_radial_gradient_is_what_its_matrix_says(b in -0.4f64..0.4, c in -0.4f64..0.4, d in 0.5f64..1.4, radius in 6.0f64..16.0, kind in 0usize..3) {
        let matrix = Affine::new([1.0, b, c, d, 3.0, -1.0]);
        let stops = vec![GradientStop { at: 0.0, color: Rgba::new(Color::BLACK, 1.0) }, GradientStop { at: 1.0, color: Rgba::new(Color::WHITE, 1.0) }];
        let centre = Point::new(18.0, 9.0);
        let spread = [Spread::Hold, Spread::Repeat, Spread::Mirror][kind];
        let at = drawn(&scene(None, vec![filled(whole(), Brush::Radial { centre, radius, matrix, stops, spread })]));
        for (x, y) in [(3, 3), (12, 8), (20, 10), (28, 15), (36, 4)] {
            let from = matrix.inverse() * Point::new(f64::from(x) + 0.5, f64::from(y) + 0.5);
            let far = (from - centre).hypot() / radius;
            let want = match spread {
                Spread::Hold => far.min(1.0),
                Spread::Repeat if (far - far.round()).abs() < 0.12 => continue,
                Spread::Repeat => far.fract(),
                Spread::Mirror => 1.0 - ((far % 2.0) - 1.0).abs(),
            } * 255.0;
            prop_assert!((f64::from(at(x, y)[0]) - want).abs() < 10.0, "{} for {want} at {x}, {y}", at(x, y)[0]);
        }
    }
}

#[test]
fn a_mask_lets_through_by_light_or_by_alpha() {
    let half = |brush| {
        Group::placed(
            Affine::IDENTITY,
            vec![
                filled(Rect::new(0.0, 0.0, 20.0, 20.0), flat(255, 255, 255, 1.0)),
                filled(Rect::new(20.0, 0.0, 40.0, 20.0), brush),
            ],
        )
    };
    let seen = |luminance, brush| {
        let mask = MaskNodes { luminance, children: vec![Node::Group(half(brush))] };
        let group = Group {
            mask: Some(Box::new(mask)),
            ..Group::placed(Affine::IDENTITY, vec![filled(whole(), flat(200, 0, 0, 1.0))])
        };
        let at = drawn(&scene(None, vec![Node::Group(group)]));
        [at(10, 10)[3], at(30, 10)[3]]
    };
    assert_eq!(seen(true, flat(0, 0, 0, 1.0)), [255, 0], "black lets nothing through");
    assert_eq!(seen(false, flat(0, 0, 0, 1.0)), [255, 255], "but it is opaque");
    let [_, faint] = seen(false, flat(0, 0, 0, 0.5));
    assert!(faint.abs_diff(128) <= 1);
}

#[test]
fn overlaps_are_holes_only_by_the_even_odd_rule() {
    let mut path = Rect::new(5.0, 0.0, 35.0, 20.0).to_path(0.01);
    path.extend(Rect::new(15.0, 5.0, 25.0, 15.0).to_path(0.01));
    let middle = |even_odd| {
        drawn(&scene(
            None,
            vec![Node::Path(PathNode { even_odd, ..PathNode::new(path.clone(), Some(flat(0, 0, 0, 1.0)), None) })],
        ))(20, 10)[3]
    };
    assert_eq!([middle(true), middle(false)], [0, 255]);
    let svg = write_svg(
        &scene(
            None,
            vec![Node::Path(PathNode {
                even_odd: true,
                ..PathNode::new(path.clone(), Some(flat(0, 0, 0, 1.0)), None)
            })],
        ),
        "t",
        SvgOptions::default(),
        &NoLetters,
        &Links,
    );
    assert!(svg.contains("fill-rule=\"evenodd\""));
}

#[test]
fn a_picture_fills_and_repeats() {
    let dest = Rect::new(0.0, 0.0, 8.0, 4.0);
    let brush = Brush::Image { source: PictureSource::plain(One::new().id()).into(), pixels: (8, 4), dest };
    let at = drawn(&scene(None, vec![filled(whole(), brush)]));
    for (x, y) in [(3, 1), (11, 1), (3, 5), (27, 13)] {
        let [r, g, b] = One::pixel(x % 8, y % 4);
        assert!(near(at(x, y), [r, g, b, 255], 20), "{:?} at {x}, {y}", at(x, y));
    }
}

#[test]
fn what_is_blurred_refers_to_what_lies_behind_by_name() {
    let mut with_panel = scene(Some(flat(255, 255, 255, 1.0)), vec![filled(whole(), flat(0, 0, 0, 1.0))]);
    with_panel.items[0].id = ItemId::new("below").unwrap();
    let mut panel = item(Node::Group(Group::placed(Affine::IDENTITY, Vec::new())));
    panel.id = ItemId::new("panel").unwrap();
    panel.behind = Some(behind(whole(), 0.5, Filter::blurring(4.0)));
    with_panel.items.push(panel);
    let svg = write_svg(&with_panel, "t", SvgOptions::default(), &NoLetters, &Links);
    for part in [
        "<g id=\"item-below\">",
        "<use href=\"#item-below\"",
        "<use href=\"#sheet-ground\"",
        "feGaussianBlur stdDeviation=\"4\"",
        "opacity=\"0.5\"",
    ] {
        assert!(svg.contains(part), "{part} is not in {svg}");
    }
}

/// Items of a scene as one bunch.
fn bunched(first: usize, count: usize) -> Bunch {
    let id = GroupId::new(format!("g{first}-{count}")).unwrap();
    Bunch { id, first, count, opacity: 1.0, blend: Blend::Normal, shadows: Vec::new(), filter: None, stamp: 0 }
}

/// Grey by the luma of encoded colours, everywhere.
fn greyed(field: Rect) -> Filter {
    let [red, green, blue] = [0.2126, 0.7152, 0.0722].map(Ratio::new);
    let treatments = Arc::new(vec![Treatment::new(Develop::Mono { red, green, blue })]);
    Filter { treatments, field, longer: 40.0 }
}

/// A red box, and a blue one over its right half.
fn two_boxes() -> Vec<Node> {
    vec![
        filled(Rect::new(4.0, 4.0, 24.0, 16.0), flat(220, 30, 30, 1.0)),
        filled(Rect::new(14.0, 4.0, 34.0, 16.0), flat(30, 30, 220, 1.0)),
    ]
}

#[test]
fn items_of_a_bunch_are_faded_as_one() {
    let mut apart = scene(Some(flat(255, 255, 255, 1.0)), two_boxes());
    apart.bunches = vec![Bunch { opacity: 0.5, ..bunched(0, 2) }];
    let at = drawn(&apart);
    assert!(near(at(8, 10), [238, 143, 143, 255], 1) && near(at(30, 10), [143, 143, 238, 255], 1));
    assert_eq!(at(18, 10), at(30, 10), "the red one is not seen through the blue one");
    // The same as a group around both.
    let both = Group { opacity: 0.5, ..Group::placed(Affine::IDENTITY, two_boxes()) };
    let grouped = drawn(&scene(Some(flat(255, 255, 255, 1.0)), vec![Node::Group(both)]));
    for (x, y) in [(2, 2), (8, 10), (18, 10), (30, 10), (24, 16)] {
        assert_eq!(at(x, y), grouped(x, y), "at {x}, {y}");
    }
}

#[test]
fn bunches_lie_in_bunches_and_a_scene_cut_off_in_one_is_drawn_to_its_end() {
    let mut nested = scene(Some(flat(255, 255, 255, 1.0)), two_boxes());
    nested.bunches = vec![Bunch { opacity: 0.5, ..bunched(0, 2) }, Bunch { opacity: 0.5, ..bunched(0, 1) }];
    let at = drawn(&nested);
    assert!(near(at(8, 10), [246, 199, 199, 255], 1), "twice faded: {:?}", at(8, 10));
    assert!(near(at(30, 10), [143, 143, 238, 255], 1), "once: {:?}", at(30, 10));
    nested.items.truncate(1);
    let cut = drawn(&nested);
    assert_eq!((cut(8, 10), cut(30, 10)), (at(8, 10), [255, 255, 255, 255]));
}

#[test]
fn a_filter_treats_what_is_in_a_bunch_and_nothing_else() {
    let mut treated = scene(Some(flat(240, 200, 160, 1.0)), two_boxes());
    treated.bunches = vec![Bunch { filter: Some(greyed(whole())), ..bunched(1, 1) }];
    let at = drawn(&treated);
    let [r, g, b, _] = at(30, 10);
    assert!(r == g && g == b && r.abs_diff(44) <= 1, "grey: {:?}", at(30, 10));
    assert_eq!((at(8, 10), at(2, 2)), ([220, 30, 30, 255], [240, 200, 160, 255]));
}

#[test]
fn a_blurred_bunch_is_soft_at_its_edges_and_throws_a_soft_shadow() {
    let mut soft =
        scene(Some(flat(255, 255, 255, 1.0)), vec![filled(Rect::new(12.0, -40.0, 28.0, 60.0), flat(0, 0, 0, 1.0))]);
    soft.bunches = vec![Bunch { filter: Some(Filter::blurring(2.0)), ..bunched(0, 1) }];
    let at = drawn(&soft);
    let row: Vec<u8> = (0..40).map(|x| at(x, 10)[0]).collect();
    assert!(row[12].abs_diff(row[27]) <= 1 && row[11].abs_diff(153) < 12 && row[12].abs_diff(102) < 12, "{row:?}");
    assert!(row[3] == 255 && row[20] < 3, "{row:?}");
    // The same by hand, as steps that only pixels show: a blur, and one that changes nothing.
    let steps =
        [Develop::Blur { radius: Ratio::new(0.05) }, Develop::Tone { brightness: Ratio::ZERO, contrast: Ratio::ZERO }];
    let treatments = Arc::new(steps.map(Treatment::new).to_vec());
    soft.bunches[0].filter = Some(Filter { treatments, field: whole(), longer: 40.0 });
    assert_eq!(soft.bunches[0].filter.as_ref().unwrap().even_blur(), None);
    let at = drawn(&soft);
    for x in 0..40 {
        assert!(at(x, 10)[0].abs_diff(row[x as usize]) <= 3, "at {x}: {} and {}", at(x, 10)[0], row[x as usize]);
    }
}

#[test]
fn what_lies_behind_is_treated_inside_the_outline_and_only_as_far_as_it_is_behind() {
    let mut under = scene(Some(flat(240, 200, 160, 1.0)), two_boxes());
    let mut lens = item(Node::Group(Group::placed(Affine::IDENTITY, Vec::new())));
    lens.behind = Some(behind(Rect::new(0.0, 0.0, 20.0, 20.0), 1.0, greyed(whole())));
    under.items.insert(1, lens);
    let at = drawn(&under);
    let grey = |[r, g, b, _]: [u8; 4]| r == g && g == b;
    assert!(grey(at(8, 10)) && grey(at(2, 2)), "{:?} {:?}", at(8, 10), at(2, 2));
    assert_eq!((at(22, 2), at(18, 10)), ([240, 200, 160, 255], [30, 30, 220, 255]), "beside it, and over it");
    // In a bunch, only what is in the bunch lies behind.
    under.bunches = vec![bunched(1, 2)];
    under.bunches[0].opacity = 0.999;
    let at = drawn(&under);
    assert!(near(at(8, 10), [220, 30, 30, 255], 1) && near(at(2, 2), [240, 200, 160, 255], 1), "{:?}", at(8, 10));
}

#[test]
fn what_only_pixels_show_is_a_picture_in_svg_and_the_same_picture_when_asked_for() {
    let mut treated = scene(Some(flat(240, 200, 160, 1.0)), two_boxes());
    (treated.items[0].id, treated.items[1].id) = (ItemId::new("a").unwrap(), ItemId::new("b").unwrap());
    treated.bunches = vec![Bunch { filter: Some(greyed(whole())), opacity: 0.5, stamp: 7, ..bunched(0, 2) }];
    let svg = write_svg(&treated, "t", SvgOptions::default(), &NoLetters, &Links);
    assert!(svg.contains("<g id=\"bunch-g0-2\" opacity=\"0.5\"") && !svg.contains("item-a"), "{svg}");
    assert!(svg.contains("/part/Bunch(GroupId(g0-2))/7"), "{svg}");
    let on_stage = bunch_fragments(&treated, &treated.bunches[0], &NoLetters, &Links);
    assert!(on_stage.picture.is_some_and(|picture| picture.contains("/part/")) && on_stage.style == "opacity:0.5;");
    // Asked for by itself it is what is seen of it, at any size.
    let pictures = Pictures::new(Box::new(One::new()), 1 << 20);
    let id = treated.bunches[0].id.clone();
    let (pixels, area) = render_part(&treated, ScenePart::Bunch(&id), 2.0, &NoLetters, &pictures).unwrap().unwrap();
    assert_eq!(Some(area), part_area(&treated, ScenePart::Bunch(&id), 2.0));
    assert!((area.x0 - 4.0).abs() <= 1.0 && (area.x1 - 34.0).abs() <= 1.0, "{area:?}");
    let pixels = pixels.straight();
    let at = |x: f64, y: f64| {
        let (x, y) = (((x - area.x0) * 2.0) as usize, ((y - area.y0) * 2.0) as usize);
        let pixel = &pixels.data()[(y * pixels.width() as usize + x) * 4..][..4];
        [pixel[0], pixel[1], pixel[2], pixel[3]]
    };
    assert!(
        near(at(8.0, 10.0), [70, 70, 70, 255], 1) && near(at(30.0, 10.0), [44, 44, 44, 255], 1),
        "{:?}",
        at(8.0, 10.0)
    );
    // An even blur can be said, and needs no picture.
    treated.bunches[0].filter = Some(Filter::blurring(2.0));
    let svg = write_svg(&treated, "t", SvgOptions::default(), &NoLetters, &Links);
    assert!(svg.contains("item-a") && svg.contains("stdDeviation=\"2\"") && !svg.contains("/part/"), "{svg}");
    let on_stage = bunch_fragments(&treated, &treated.bunches[0], &NoLetters, &Links);
    assert!(on_stage.picture.is_none() && on_stage.style.contains("filter:url(#bunch-g0-2-1)"), "{}", on_stage.style);
}
