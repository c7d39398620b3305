//! Filters of SVG files that throw shadows or blur evenly, read as such.

use std::collections::HashMap;

use kurbo::{Affine, Vec2};
use usvg::filter::{
    ColorInterpolation, ColorMatrixKind, CompositeOperator, Filter, Input, Kind, Primitive, TransferFunction,
};
use vatman_document::{Color, DrawnGroup, DrawnShadow};
use vatman_units::Ratio;

/// What a step of a filter gives, as far as shadows go.
#[derive(Debug, Clone, PartialEq)]
enum Value {
    /// The thing itself.
    Thing,
    /// Its outline in one colour, moved and blurred.
    Shade(Shade),
    /// One colour everywhere.
    Flood(Color, f64),
    /// Shades, back to front, with the thing over them or not.
    Pile { shades: Vec<Shade>, thing: bool },
}

#[derive(Debug, Clone, Copy, PartialEq)]
struct Shade {
    by: Vec2,
    /// Variance of the blur: blurs one after the other add up in it.
    variance: f64,
    color: Color,
    opacity: f64,
}

impl Shade {
    const BARE: Self = Self { by: Vec2::ZERO, variance: 0.0, color: Color::BLACK, opacity: 1.0 };
}

/// The shadows a filter throws behind what it is on, back to front, mapped to the drawing. Nothing where it does anything else, or
/// where `to_drawing` stretches more one way than the other.
pub(crate) fn shadows_of(filter: &Filter, to_drawing: Affine) -> Option<Vec<DrawnShadow>> {
    let [a, b, c, d, ..] = to_drawing.as_coeffs();
    let (x, y) = (a.hypot(b), c.hypot(d));
    if (x - y).abs() > 1e-3 * x.max(y) || (a * c + b * d).abs() > 1e-3 * x * y {
        return None;
    }
    let Value::Pile { shades, thing: true } = outcome(filter)? else { return None };
    let shadow = |shade: &Shade| DrawnShadow {
        dx: Ratio::new(a * shade.by.x + c * shade.by.y),
        dy: Ratio::new(b * shade.by.x + d * shade.by.y),
        sigma: Ratio::new(shade.variance.sqrt() * x),
        tint: shade.color.into(),
        opacity: Ratio::new(shade.opacity).clamped(),
    };
    (shades.len() <= DrawnGroup::MOST_SHADOWS).then(|| shades.iter().map(shadow).collect())
}

/// The standard deviation of a filter that blurs what it is on evenly and does nothing else, in units of the drawing. `one_colour`: what
/// it is on has one colour, so that it does not matter in which space colours are mixed.
pub(crate) fn blur_of(filter: &Filter, to_drawing: Affine, one_colour: bool) -> Option<f64> {
    let [a, b, c, d, ..] = to_drawing.as_coeffs();
    let (x, y) = (a.hypot(b), c.hypot(d));
    let [step] = filter.primitives() else { return None };
    let Kind::GaussianBlur(blur) = step.kind() else { return None };
    let even_out = (x - y).abs() <= 1e-3 * x.max(y) && (a * c + b * d).abs() <= 1e-3 * x * y;
    let as_ours = one_colour || step.color_interpolation() == ColorInterpolation::SRGB;
    let whole = even_out && as_ours && *blur.input() == Input::SourceGraphic;
    let variance = even(blur.std_dev_x().get(), blur.std_dev_y().get())?;
    whole.then(|| variance.sqrt() * x)
}

fn outcome(filter: &Filter) -> Option<Value> {
    let mut known: HashMap<&str, Value> = HashMap::new();
    let mut last = None;
    for step in filter.primitives() {
        let value = value(step, |input| match input {
            Input::SourceGraphic => Some(Value::Thing),
            Input::SourceAlpha => Some(Value::Shade(Shade::BARE)),
            Input::Reference(name) => known.get(name.as_str()).cloned(),
        })?;
        known.insert(step.result(), value.clone());
        last = Some(value);
    }
    last
}

fn value(step: &Primitive, of: impl Fn(&Input) -> Option<Value>) -> Option<Value> {
    let shade = |input: &Input| if let Value::Shade(shade) = of(input)? { Some(shade) } else { None };
    Some(match step.kind() {
        Kind::GaussianBlur(blur) => {
            let variance = even(blur.std_dev_x().get(), blur.std_dev_y().get())?;
            let before = shade(blur.input())?;
            Value::Shade(Shade { variance: before.variance + variance, ..before })
        }
        Kind::Offset(offset) => {
            let before = shade(offset.input())?;
            let by = before.by + Vec2::new(f64::from(offset.dx()), f64::from(offset.dy()));
            Value::Shade(Shade { by, ..before })
        }
        Kind::Flood(flood) => Value::Flood(color(flood.color()), f64::from(flood.opacity().get())),
        Kind::ColorMatrix(change) => {
            let ColorMatrixKind::Matrix(m) = change.kind() else { return None };
            let before = shade(change.input())?;
            // What is of one colour stays so where nothing but black and how opaque it is goes into the new one.
            let black = before.color == Color::BLACK;
            let row = |at: usize| (black && m[at * 5 + 3] == 0.0).then(|| m[at * 5 + 4]);
            if m[19] != 0.0 || !black && m[15..18].iter().any(|part| *part != 0.0) {
                return None;
            }
            let [r, g, b] = [row(0)?, row(1)?, row(2)?].map(|part| byte(part, step.color_interpolation()));
            Value::Shade(Shade { color: Color::opaque(r, g, b), opacity: before.opacity * f64::from(m[18]), ..before })
        }
        Kind::ComponentTransfer(change) => {
            let before = shade(change.input())?;
            let same = |of: &TransferFunction| matches!(of, TransferFunction::Identity);
            if !(same(change.func_r()) && same(change.func_g()) && same(change.func_b())) {
                return None;
            }
            match change.func_a() {
                TransferFunction::Identity => Value::Shade(before),
                TransferFunction::Linear { slope, intercept } if *intercept == 0.0 && (0.0..=1.0).contains(slope) => {
                    Value::Shade(Shade { opacity: before.opacity * f64::from(*slope), ..before })
                }
                _ => return None,
            }
        }
        Kind::Composite(mix) => match mix.operator() {
            CompositeOperator::In => {
                let (Value::Flood(color, opacity), Value::Shade(before)) = (of(mix.input1())?, of(mix.input2())?)
                else {
                    return None;
                };
                Value::Shade(Shade { color, opacity: before.opacity * opacity, ..before })
            }
            CompositeOperator::Over => pile([of(mix.input2())?, of(mix.input1())?])?,
            _ => return None,
        },
        Kind::Blend(mix) if mix.mode() == usvg::BlendMode::Normal => pile([of(mix.input2())?, of(mix.input1())?])?,
        Kind::Merge(merge) => pile(merge.inputs().iter().map(of).collect::<Option<Vec<_>>>()?)?,
        Kind::DropShadow(shadow) if *shadow.input() == Input::SourceGraphic => {
            let shade = Shade {
                by: Vec2::new(f64::from(shadow.dx()), f64::from(shadow.dy())),
                variance: even(shadow.std_dev_x().get(), shadow.std_dev_y().get())?,
                color: color(shadow.color()),
                opacity: f64::from(shadow.opacity().get()),
            };
            Value::Pile { shades: vec![shade], thing: true }
        }
        _ => return None,
    })
}

/// What lies over each other, back to front; nothing where something lies over the thing itself.
fn pile(values: impl IntoIterator<Item = Value>) -> Option<Value> {
    let (mut shades, mut thing) = (Vec::new(), false);
    for value in values {
        match value {
            _ if thing => return None,
            Value::Thing => thing = true,
            Value::Shade(shade) => shades.push(shade),
            Value::Pile { shades: more, thing: there } => {
                shades.extend(more);
                thing = there;
            }
            Value::Flood(..) => return None,
        }
    }
    Some(Value::Pile { shades, thing })
}

fn even(x: f32, y: f32) -> Option<f64> {
    ((x - y).abs() <= 1e-3 * x.max(y)).then(|| f64::from(x) * f64::from(y))
}

fn color(color: usvg::Color) -> Color {
    Color::opaque(color.red, color.green, color.blue)
}

/// A part of a colour, 0 to 1 in the space the filter works in, as a byte of sRGB (IEC 61966-2-1).
fn byte(part: f32, space: ColorInterpolation) -> u8 {
    let part = part.clamp(0.0, 1.0);
    let part = match space {
        ColorInterpolation::SRGB => part,
        ColorInterpolation::LinearRGB if part <= 0.003_130_8 => part * 12.92,
        ColorInterpolation::LinearRGB => 1.055 * part.powf(1.0 / 2.4) - 0.055,
    };
    (part * 255.0).round() as u8
}
