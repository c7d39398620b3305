// Written from the Rust types by `make types`; do not edit.

export type Length = number;

export type Ratio = number;

export type Angle = number;

export type Ppi = number;

export type JobId = string;

export type PieceId = string;

export type SideId = string;

export type ItemId = string;

export type KinId = string;

export type AssetId = string;

export type SwatchId = string;

export type GroupId = string;

export type Unit = "px" | "pt" | "mm" | "cm" | "in";

export type Point = { 
/**
 * From the left edge of the finished sheet.
 */
x: Length, 
/**
 * From the top edge of the finished sheet.
 */
y: Length, };

export type Size = { 
/**
 * Width.
 */
w: Length, 
/**
 * Height.
 */
h: Length, };

export type Rect = { 
/**
 * Left edge.
 */
x: Length, 
/**
 * Top edge.
 */
y: Length, 
/**
 * Width.
 */
w: Length, 
/**
 * Height.
 */
h: Length, };

export type Placement = { 
/**
 * The rectangle before turning.
 */
rect: Rect, 
/**
 * Clockwise turn about the centre of the rectangle.
 */
turn: Angle, 
/**
 * Mirrored left to right before turning.
 */
flip: boolean, };

export type Color = string;

export type Tint = string;

export type Stop = { 
/**
 * 0 at the start to 1 at the end.
 */
at: Ratio, 
/**
 * The colour there.
 */
tint: Tint, 
/**
 * 0 is clear, 1 is as opaque as the colour itself.
 */
opacity: Ratio, };

export type Motif = "dots" | "stripes" | "checks" | "lattice" | "zigzag" | "scales" | "crosses";

export type Paint = { "kind": "flat", 
/**
 * The colour.
 */
tint: Tint, 
/**
 * 0 is clear, 1 is as opaque as the colour itself.
 */
opacity: Ratio, } | { "kind": "linear", 
/**
 * Direction the colours run: 0 upward, 90 degrees to the right.
 */
angle: Angle, 
/**
 * Two or more stops in rising order.
 */
stops: Array<Stop>, } | { "kind": "radial", 
/**
 * Two or more stops in rising order.
 */
stops: Array<Stop>, } | { "kind": "conic", 
/**
 * Where the first stop lies, clockwise from the top.
 */
angle: Angle, 
/**
 * Two or more stops in rising order.
 */
stops: Array<Stop>, } | { "kind": "pattern", 
/**
 * Which.
 */
motif: Motif, 
/**
 * Colour of the figure.
 */
ink: Tint, 
/**
 * Colour behind it; nothing is clear.
 */
ground: Tint | null, 
/**
 * Distance of the figures at a place scale of one.
 */
size: Length, 
/**
 * Turn of the whole, clockwise.
 */
angle: Angle, } | { "kind": "picture", 
/**
 * Which.
 */
picture: AssetId, 
/**
 * The point that stays in view.
 */
focus: Focus, 
/**
 * Size relative to just covering the box.
 */
zoom: Ratio, };

export type Ink = { "kind": "process", 
/**
 * Cyan.
 */
c: number, 
/**
 * Magenta.
 */
m: number, 
/**
 * Yellow.
 */
y: number, 
/**
 * Black.
 */
k: number, } | { "kind": "spot", 
/**
 * How the print shop knows it.
 */
name: string, };

export type Swatch = { 
/**
 * What people call it.
 */
name: string, 
/**
 * The colour.
 */
color: Color, 
/**
 * What it is printed with, where somebody says so.
 */
ink?: Ink, };

export type Hole = { 
/**
 * Its middle, on the front.
 */
at: Point, 
/**
 * Its width.
 */
across: Length, 
/**
 * Width of the ring pressed around it; nothing without one.
 */
eyelet?: Length, };

export type Folds = { level: boolean, at: number[] };

export type Finish = { 
/**
 * Radius of its corners.
 */
corners?: Length, 
/**
 * A hole.
 */
hole?: Hole, 
/**
 * Folds.
 */
folds?: Folds, };

export type CodeWords = { "kind": "address", 
/**
 * As it was typed; without a scheme `https` is meant.
 */
address: string, } | { "kind": "contact", 
/**
 * Name.
 */
name: string, 
/**
 * What they work for.
 */
firm: string, 
/**
 * Telephone.
 */
phone: string, 
/**
 * Mail.
 */
mail: string, 
/**
 * Web.
 */
web: string, } | { "kind": "network", 
/**
 * Its name.
 */
name: string, 
/**
 * Its password; without one it is open.
 */
password: string, } | { "kind": "plain", 
/**
 * The words.
 */
text: string, };

export type Code = { 
/**
 * What it says.
 */
says: CodeWords, 
/**
 * What lies under it and around it; nothing lets through what lies below. Its own colour is the fill of its look.
 */
ground: Tint | null, 
/**
 * A picture in its middle.
 */
mark?: AssetId, };

export type Part = "headline" | "support" | "when" | "where" | "detail" | "price" | "action" | "contact" | "smallPrint" | "mark" | "mainPicture" | "picture" | "panel" | "ornament";

export type Focus = { 
/**
 * 0 is the left edge.
 */
x: Ratio, 
/**
 * 0 is the top edge.
 */
y: Ratio, };

export type PictureFit = "fill" | "fit" | "tile";

export type DrawnPaint = { "kind": "fitted", 
/**
 * The fill.
 */
paint: Paint, } | { "kind": "linear", 
/**
 * Where the first stop lies: x and y.
 */
from: [Ratio, Ratio], 
/**
 * Where the last stop lies.
 */
to: [Ratio, Ratio], 
/**
 * Two or more, rising.
 */
stops: Array<Stop>, 
/**
 * Beyond its ends.
 */
spread?: Spread, } | { "kind": "radial", 
/**
 * Where the first stop lies.
 */
centre: [Ratio, Ratio], 
/**
 * How far out the last one lies.
 */
radius: Ratio, 
/**
 * From the circle of radius and centre to the drawing: a, b, c, d, e, f of an SVG matrix.
 */
matrix: [Ratio, Ratio, Ratio, Ratio, Ratio, Ratio], 
/**
 * Two or more, rising.
 */
stops: Array<Stop>, 
/**
 * Beyond the circle.
 */
spread?: Spread, };

export type DrawnStroke = { 
/**
 * Paint.
 */
paint: DrawnPaint, 
/**
 * Width, in units of the drawing.
 */
width: Ratio, 
/**
 * Corners.
 */
join: Join, 
/**
 * Ends.
 */
cap: Cap, 
/**
 * Dashes and gaps in turn, in units of the drawing.
 */
dash: Array<Ratio>, };

export type Spread = "hold" | "repeat" | "mirror";

export type DrawnGroup = { 
/**
 * Of the whole.
 */
opacity: Ratio, 
/**
 * Mixing with what lies below in the drawing.
 */
blend: Blend, 
/**
 * Outline it is seen through.
 */
clip: string | null, 
/**
 * What it is seen through, where that is more than an outline.
 */
mask: DrawnMask | null, 
/**
 * Thrown behind by all of it together.
 */
shadows?: Array<DrawnShadow>, 
/**
 * Standard deviation by which all of it together is blurred, in units of the drawing.
 */
blur?: Ratio, 
/**
 * Back to front.
 */
parts: Array<DrawnPart>, };

export type DrawnShadow = { 
/**
 * To the right.
 */
dx: Ratio, 
/**
 * Down.
 */
dy: Ratio, 
/**
 * Standard deviation of the blur.
 */
sigma: Ratio, 
/**
 * Colour.
 */
tint: Tint, 
/**
 * 0 to 1.
 */
opacity: Ratio, };

export type DrawnMask = { 
/**
 * By how light they are, instead of by how opaque.
 */
luminance: boolean, 
/**
 * Back to front.
 */
parts: Array<DrawnPart>, };

export type DrawnPart = { "kind": "path", 
/**
 * SVG path data.
 */
data: string, 
/**
 * Whether it is filled by the even-odd rule instead of the non-zero one.
 */
even_odd?: boolean, 
/**
 * Fill.
 */
fill: DrawnPaint | null, 
/**
 * Line above the fill.
 */
stroke: DrawnStroke | null, } | { "kind": "picture", 
/**
 * The picture.
 */
picture: AssetId, 
/**
 * Left, top, width and height of its box.
 */
at: [Ratio, Ratio, Ratio, Ratio], } | { "kind": "group" } & DrawnGroup;

export type Drawing = { 
/**
 * What people call it.
 */
name: string, 
/**
 * Width of its box, in its own units.
 */
width: number, 
/**
 * Height of its box.
 */
height: number, 
/**
 * Back to front.
 */
parts: Array<DrawnPart>, };

export type Content = { "kind": "words", 
/**
 * The text; while it is blank the prompt is shown on the stage and nothing is exported.
 */
text: RichText, 
/**
 * What belongs here, in plain words.
 */
prompt: string, } | { "kind": "picture", 
/**
 * The picture; an empty frame is shown on the stage and not exported.
 */
picture: AssetId | null, 
/**
 * The point that stays in view.
 */
focus: Focus, 
/**
 * The outline of the frame.
 */
frame: Outline, 
/**
 * How the picture takes it up.
 */
fit: PictureFit, } | { "kind": "shape", 
/**
 * Its outline.
 */
outline: Outline, } | { "kind": "drawing", 
/**
 * The graphic.
 */
drawing: Drawing, } | { "kind": "code", 
/**
 * What it says and how.
 */
code: Code, };

export type Combine = "unite" | "subtract" | "intersect" | "exclude";

export type CombinedPart = { 
/**
 * Its outline.
 */
outline: Outline, 
/**
 * Left, top, width and height of its box as fractions of the whole.
 */
at: [Ratio, Ratio, Ratio, Ratio], 
/**
 * Clockwise turn about its middle.
 */
turn: Angle, 
/**
 * Mirrored left to right.
 */
flip: boolean, };

export type HandPoint = { 
/**
 * In ten-thousandths of the width of the item's box.
 */
x: number, 
/**
 * In ten-thousandths of its height.
 */
y: number, 
/**
 * How hard it was pressed, 0 to 255.
 */
press: number, };

export type Hand = { 
/**
 * The lines, each from its beginning to its end.
 */
lines: Array<Array<HandPoint>>, 
/**
 * Thickness where it was pressed hardest.
 */
thickness: Length, 
/**
 * How far unevenness is smoothed away, 0 to 10.
 */
smoothing: number, 
/**
 * How far light pressure thins the line, 0 to 100 %.
 */
thinning: number, };

export type PenPoint = { 
/**
 * Where on the sheet.
 */
at: Point, 
/**
 * How hard it was pressed, 0 to 255.
 */
press: number, };

export type Outline = { "kind": "rect", 
/**
 * Corner radius.
 */
radius: Length, } | { "kind": "corners", 
/**
 * Upper left, upper right, lower right, lower left.
 */
radii: [Length, Length, Length, Length], } | { "kind": "ellipse" } | { "kind": "arch" } | { "kind": "star", 
/**
 * 3 to 120 points.
 */
points: number, 
/**
 * Depth of the notches as a fraction of the radius.
 */
depth: Ratio, } | { "kind": "polygon", 
/**
 * 3 to 60 corners.
 */
points: number, } | { "kind": "ring", 
/**
 * Width of the band as a fraction of the radius.
 */
thickness: Ratio, } | { "kind": "sector", 
/**
 * Where it begins, clockwise from the top.
 */
start: Angle, 
/**
 * How far it goes on, more than 0 and less than 360 degrees.
 */
sweep: Angle, 
/**
 * Width of the band as a fraction of the radius.
 */
thickness: Ratio, } | { "kind": "arrow", 
/**
 * Length of the head as a fraction of the height, held to the width.
 */
head: Ratio, 
/**
 * Height of the shaft as a fraction of the height.
 */
shaft: Ratio, } | { "kind": "speech", 
/**
 * Height of the tail as a fraction of the height.
 */
tail: Ratio, } | { "kind": "ribbon", 
/**
 * Depth of the notches as a fraction of the height.
 */
notch: Ratio, } | { "kind": "ticket", 
/**
 * Radius of the bites as a fraction of the height.
 */
bite: Ratio, } | { "kind": "blob", 
/**
 * Which.
 */
seed: number, } | { "kind": "torn", 
/**
 * Which tear.
 */
seed: number, 
/**
 * Depth of the tear as a fraction of the height.
 */
depth: Ratio, } | { "kind": "combined", 
/**
 * How.
 */
how: Combine, 
/**
 * 2 to 100 of them, back to front.
 */
parts: Array<CombinedPart>, } | { "kind": "line" } | { "kind": "hand", 
/**
 * The lines.
 */
hand: Hand, } | { "kind": "path", 
/**
 * SVG path data.
 */
data: string, 
/**
 * Width of the box the data was drawn in.
 */
width: number, 
/**
 * Height of the box the data was drawn in.
 */
height: number, };

export type Script = "superscript" | "subscript";

export type RunStyle = { 
/**
 * Family.
 */
family?: string, 
/**
 * Weight, 1 to 1,000.
 */
weight?: number, 
/**
 * Italic.
 */
italic?: boolean, 
/**
 * Size as a ratio of the size of the whole.
 */
size?: Ratio, 
/**
 * Colour.
 */
tint?: Tint, 
/**
 * Underline.
 */
underline?: boolean, 
/**
 * Struck through.
 */
strike?: boolean, 
/**
 * Extra distance between letters as a ratio of the size.
 */
tracking?: Ratio, 
/**
 * Shown in capitals.
 */
caps?: boolean, 
/**
 * Raised or lowered.
 */
script?: Script, };

export type StyleChange = { 
/**
 * What is set; the rest stays.
 */
set: RunStyle, 
/**
 * First takes away everything the range has different from the whole.
 */
clear: boolean, 
/**
 * Puts the range back on the line.
 */
level: boolean, };

export type Run = { 
/**
 * The letters; a line feed ends a paragraph.
 */
text: string, 
/**
 * What differs from the whole.
 */
style: RunStyle, };

export type RichText = Array<Run>;

export type Align = "start" | "centre" | "end" | "justified";

export type VAlign = "top" | "middle" | "bottom";

export type Blend = "normal" | "multiply" | "screen" | "overlay" | "darken" | "lighten" | "colorDodge" | "colorBurn" | "hardLight" | "softLight" | "difference" | "exclusion" | "hue" | "saturation" | "color" | "luminosity";

export type StrokePlace = "centre" | "inside" | "outside";

export type Join = "mitre" | "round" | "bevel";

export type Cap = "flat" | "round" | "square";

export type Stroke = { 
/**
 * What it is drawn with.
 */
paint: Paint, 
/**
 * Width at a place scale of one.
 */
width: Length, 
/**
 * Side of the outline.
 */
place: StrokePlace, 
/**
 * Corners.
 */
join: Join, 
/**
 * Ends.
 */
cap: Cap, 
/**
 * Lengths of dashes and gaps in turn, in widths of the line; empty for an unbroken line.
 */
dash: Array<Ratio>, };

export type Effect = { "kind": "shadow", 
/**
 * To the right.
 */
dx: Length, 
/**
 * Down.
 */
dy: Length, 
/**
 * Softness.
 */
blur: Length, 
/**
 * Colour.
 */
tint: Tint, 
/**
 * 0 to 1.
 */
opacity: Ratio, } | { "kind": "innerShadow", 
/**
 * To the right.
 */
dx: Length, 
/**
 * Down.
 */
dy: Length, 
/**
 * Softness.
 */
blur: Length, 
/**
 * Colour.
 */
tint: Tint, 
/**
 * 0 to 1.
 */
opacity: Ratio, } | { "kind": "relief", 
/**
 * Where the light comes from, clockwise from above.
 */
light: Angle, 
/**
 * Width of the lit rim.
 */
depth: Length, 
/**
 * Softness of the rim.
 */
blur: Length, 
/**
 * 0 to 1.
 */
strength: Ratio, 
/**
 * Pressed in instead of raised.
 */
pressed: boolean, } | { "kind": "cast", 
/**
 * Where it falls, clockwise from away from who looks.
 */
turn: Angle, 
/**
 * How long it is, as a ratio of the height, 0.02 to 4.
 */
length: Ratio, 
/**
 * Softness.
 */
blur: Length, 
/**
 * Colour.
 */
tint: Tint, 
/**
 * 0 to 1.
 */
opacity: Ratio, 
/**
 * Where the ground is, as a share of the height from the top, -1 to 2.
 */
ground: Ratio, } | { "kind": "contact", 
/**
 * Softness.
 */
blur: Length, 
/**
 * Colour.
 */
tint: Tint, 
/**
 * 0 to 1.
 */
opacity: Ratio, 
/**
 * Where the ground is, as a share of the height from the top.
 */
ground: Ratio, } | { "kind": "reflection", 
/**
 * Between it and its image.
 */
gap: Length, 
/**
 * How much of the height is seen until it has faded out, 0 to 1.
 */
reach: Ratio, 
/**
 * Softness.
 */
blur: Length, 
/**
 * Where it is strongest, 0 to 1.
 */
opacity: Ratio, 
/**
 * Where the ground is, as a share of the height from the top.
 */
ground: Ratio, } | { "kind": "rim", 
/**
 * How wide it is.
 */
width: Length, 
/**
 * Colour.
 */
tint: Tint, 
/**
 * 0 to 1.
 */
opacity: Ratio, 
/**
 * Whether its outer edge leaves as a cutting line where files can say one.
 */
cut: boolean, };

export type CurvePoint = { 
/**
 * Encoded value that comes in.
 */
x: Ratio, 
/**
 * Encoded value that goes out.
 */
y: Ratio, };

export type ToneStop = { 
/**
 * 0 is black, 1 white.
 */
at: Ratio, 
/**
 * What such tones become.
 */
tint: Tint, };

export type SpotCopy = { 
/**
 * The middle of where it goes.
 */
to: Focus, 
/**
 * The middle of where it comes from.
 */
from: Focus, };

export type SpotPatch = { 
/**
 * What is filled: where a hard brush went.
 */
stroke: BrushStroke, 
/**
 * Half the side of the squares, a fraction of the longer side, up to 0.1.
 */
reach: Ratio, 
/**
 * Squares that together cover it.
 */
copies: Array<SpotCopy>, };

export type Develop = { "kind": "exposure", 
/**
 * Stops, -5 to 5.
 */
ev: Ratio, } | { "kind": "tone", 
/**
 * Lighter.
 */
brightness: Ratio, 
/**
 * Light and dark further apart.
 */
contrast: Ratio, } | { "kind": "ranges", 
/**
 * The light parts.
 */
highlights: Ratio, 
/**
 * The dark parts.
 */
shadows: Ratio, 
/**
 * Where white begins.
 */
whites: Ratio, 
/**
 * Where black begins.
 */
blacks: Ratio, } | { "kind": "curves", 
/**
 * All channels.
 */
all: Array<CurvePoint>, 
/**
 * Red, after that of all.
 */
red: Array<CurvePoint>, 
/**
 * Green.
 */
green: Array<CurvePoint>, 
/**
 * Blue.
 */
blue: Array<CurvePoint>, } | { "kind": "levels", 
/**
 * Becomes the darkest, 0 to 1.
 */
black: Ratio, 
/**
 * Becomes the lightest, 0 to 1.
 */
white: Ratio, 
/**
 * Exponent of the middle, 0.1 to 10; more than 1 is lighter.
 */
gamma: Ratio, 
/**
 * The darkest there is, 0 to 1.
 */
outBlack: Ratio, 
/**
 * The lightest there is, 0 to 1.
 */
outWhite: Ratio, } | { "kind": "whiteBalance", 
/**
 * Colour temperature of the light in kelvin, 2,000 to 20,000; 6,504 changes nothing.
 */
kelvin: number, 
/**
 * Across it, green to magenta.
 */
tint: Ratio, } | { "kind": "colour", 
/**
 * Of all colours.
 */
saturation: Ratio, 
/**
 * Of quiet colours more than of loud ones.
 */
vibrance: Ratio, 
/**
 * All hues turned.
 */
hue: Angle, } | { "kind": "mixer", 
/**
 * Turned, 1 being 30 degrees.
 */
hue: [Ratio, Ratio, Ratio, Ratio, Ratio, Ratio, Ratio, Ratio], 
/**
 * Saturation.
 */
saturation: [Ratio, Ratio, Ratio, Ratio, Ratio, Ratio, Ratio, Ratio], 
/**
 * Lightness.
 */
lightness: [Ratio, Ratio, Ratio, Ratio, Ratio, Ratio, Ratio, Ratio], } | { "kind": "splitTone", 
/**
 * Of the dark parts.
 */
shadows: Tint, 
/**
 * Of the light parts.
 */
lights: Tint, 
/**
 * Where the two meet, towards the light.
 */
balance: Ratio, } | { "kind": "mono", 
/**
 * Weight of red, -2 to 3.
 */
red: Ratio, 
/**
 * Weight of green.
 */
green: Ratio, 
/**
 * Weight of blue.
 */
blue: Ratio, } | { "kind": "toneMap", 
/**
 * 2 to 12, rising.
 */
stops: Array<ToneStop>, } | { "kind": "wash", 
/**
 * Which.
 */
tint: Tint, 
/**
 * How it mixes.
 */
blend: Blend, } | { "kind": "sharpen", 
/**
 * Standard deviation, a fraction of the longer side, up to 0.02.
 */
radius: Ratio, 
/**
 * How much, 0 to 3.
 */
strength: Ratio, 
/**
 * Differences below this are left alone, 0 to 0.5.
 */
threshold: Ratio, } | { "kind": "localContrast", 
/**
 * Of small things.
 */
fine: Ratio, 
/**
 * Of large ones.
 */
broad: Ratio, } | { "kind": "toneContrast", 
/**
 * Of dark tones.
 */
shadows: Ratio, 
/**
 * Of middle tones.
 */
middles: Ratio, 
/**
 * Of light tones.
 */
lights: Ratio, 
/**
 * How far the darkest keep what they have, 0 to 1.
 */
protectShadows: Ratio, 
/**
 * How far the lightest keep what they have, 0 to 1.
 */
protectLights: Ratio, } | { "kind": "denoise", 
/**
 * Of lightness, 0 to 1.
 */
light: Ratio, 
/**
 * Of colour, 0 to 1.
 */
colour: Ratio, } | { "kind": "haze", 
/**
 * How much.
 */
strength: Ratio, } | { "kind": "blur", 
/**
 * Standard deviation, a fraction of the longer side, up to 0.2.
 */
radius: Ratio, } | { "kind": "lensBlur", 
/**
 * Radius of the disc, a fraction of the longer side, up to 0.1.
 */
radius: Ratio, 
/**
 * How much lights outshine the rest, 0 to 1.
 */
shine: Ratio, } | { "kind": "focusSpot", 
/**
 * Its middle.
 */
centre: Focus, 
/**
 * Half its width, a fraction of the longer side, up to 2.
 */
across: Ratio, 
/**
 * Half its height, a fraction of the longer side.
 */
down: Ratio, 
/**
 * Clockwise.
 */
turn: Angle, 
/**
 * How much of it lies between sharp and blurred, 0 to 1.
 */
softness: Ratio, 
/**
 * Standard deviation, a fraction of the longer side, up to 0.2.
 */
radius: Ratio, } | { "kind": "focusBand", 
/**
 * A point in its middle.
 */
centre: Focus, 
/**
 * Half its width, a fraction of the longer side, up to 2.
 */
reach: Ratio, 
/**
 * Of the band, clockwise from level.
 */
turn: Angle, 
/**
 * How much of it lies between sharp and blurred, 0 to 1.
 */
softness: Ratio, 
/**
 * Standard deviation, a fraction of the longer side, up to 0.2.
 */
radius: Ratio, } | { "kind": "motion", 
/**
 * Length, a fraction of the longer side, up to 0.5.
 */
length: Ratio, 
/**
 * Clockwise from level.
 */
turn: Angle, } | { "kind": "zoom", 
/**
 * The point.
 */
centre: Focus, 
/**
 * Length at the far edge, a fraction of the way to it, up to 0.8.
 */
length: Ratio, } | { "kind": "pixelate", 
/**
 * Side of a square, a fraction of the longer side, up to 0.25.
 */
size: Ratio, } | { "kind": "grain", 
/**
 * Size of a grain, a fraction of the longer side, up to 0.02.
 */
size: Ratio, 
/**
 * How strong, 0 to 1.
 */
strength: Ratio, 
/**
 * Uneven grains, 0 to 1.
 */
roughness: Ratio, 
/**
 * Which grain.
 */
number: number, } | { "kind": "vignette", 
/**
 * Below 0 darker, above 0 lighter.
 */
strength: Ratio, 
/**
 * Where it begins, a fraction of the way to the corners, 0 to 1.
 */
reach: Ratio, 
/**
 * How soft it begins, 0 to 1.
 */
softness: Ratio, } | { "kind": "leak", 
/**
 * Its colour.
 */
tint: Tint, 
/**
 * From where, clockwise from the right.
 */
turn: Angle, 
/**
 * How far it reaches, 0 to 1.
 */
reach: Ratio, } | { "kind": "fade", 
/**
 * How much, 0 to 1.
 */
strength: Ratio, } | { "kind": "glow", 
/**
 * Standard deviation, a fraction of the longer side, up to 0.1.
 */
radius: Ratio, 
/**
 * How strong, 0 to 1.
 */
strength: Ratio, 
/**
 * What is light enough, 0 to 1.
 */
threshold: Ratio, } | { "kind": "halftone", 
/**
 * Distance of dots, a fraction of the longer side, up to 0.1.
 */
size: Ratio, 
/**
 * Of the rows, clockwise.
 */
turn: Angle, 
/**
 * Ink.
 */
ink: Tint, 
/**
 * Paper.
 */
paper: Tint, } | { "kind": "posterise", 
/**
 * How many of each channel, 2 to 32.
 */
levels: number, } | { "kind": "texture", 
/**
 * Which.
 */
texture: Texture, 
/**
 * How large, 1 being as large as the longer side, 0.1 to 4.
 */
size: Ratio, 
/**
 * How strong, 0 to 1.
 */
strength: Ratio, 
/**
 * The colour of its hollows.
 */
tint: Tint, 
/**
 * Which of its kind.
 */
number: number, } | { "kind": "overlay", 
/**
 * Which.
 */
picture: AssetId, 
/**
 * How it mixes.
 */
blend: Blend, 
/**
 * Where its middle lies.
 */
centre: Focus, 
/**
 * Its longer side as a fraction of that of the picture below, 0.01 to 10.
 */
scale: Ratio, 
/**
 * Clockwise.
 */
turn: Angle, } | { "kind": "spots", 
/**
 * In order.
 */
spots: Array<SpotPatch>, } | { "kind": "clear", };

export type BrushStroke = { 
/**
 * Where it went.
 */
points: Array<Focus>, 
/**
 * Radius, a fraction of the longer side, up to 0.5.
 */
radius: Ratio, 
/**
 * How much of the radius is full, 0 to 1.
 */
hardness: Ratio, 
/**
 * 0 to 1.
 */
strength: Ratio, 
/**
 * Takes away instead of adding.
 */
erases: boolean, };

export type Area = { "kind": "linear", 
/**
 * Nothing here and before.
 */
from: Focus, 
/**
 * All from here on.
 */
to: Focus, } | { "kind": "radial", 
/**
 * Its middle.
 */
centre: Focus, 
/**
 * Half its width, a fraction of the longer side, up to 4.
 */
across: Ratio, 
/**
 * Half its height, a fraction of the longer side.
 */
down: Ratio, 
/**
 * Clockwise.
 */
turn: Angle, 
/**
 * How much of it fades out, 0 to 1.
 */
softness: Ratio, } | { "kind": "light", 
/**
 * From, 0 to 1.
 */
from: Ratio, 
/**
 * To, 0 to 1.
 */
to: Ratio, 
/**
 * How far it fades out on both sides, 0 to 1.
 */
softness: Ratio, } | { "kind": "colour", 
/**
 * Which.
 */
tint: Tint, 
/**
 * How far from it in OKLab, 0 to 1.
 */
reach: Ratio, 
/**
 * How far it fades out beyond, 0 to 1.
 */
softness: Ratio, } | { "kind": "subject", 
/**
 * How much of each pixel is, as a grey picture of any size.
 */
mask: AssetId, } | { "kind": "brush", 
/**
 * In order.
 */
strokes: Array<BrushStroke>, };

export type Joining = "add" | "take" | "both";

export type MaskArea = { 
/**
 * Which.
 */
area: Area, 
/**
 * To those before it.
 */
joins: Joining, };

export type Mask = { 
/**
 * In order, from nothing.
 */
areas: Array<MaskArea>, 
/**
 * Everywhere else instead.
 */
inverted: boolean, 
/**
 * How strong it is where it is whole, 0 to 1.
 */
density: Ratio, 
/**
 * Standard deviation of its softness, a fraction of the longer side, up to 0.2.
 */
feather: Ratio, };

export type Treatment = { 
/**
 * What it does.
 */
develop: Develop, 
/**
 * How much of it, 0 to 1.
 */
amount: Ratio, 
/**
 * Whether it is switched on.
 */
on: boolean, 
/**
 * Where; everywhere without one.
 */
mask?: Mask, };

export type Texture = "finePaper" | "laidPaper" | "watercolour" | "cardboard" | "recycled" | "crumpled" | "folded" | "tissue" | "linen" | "canvas" | "felt" | "plaster" | "concrete" | "stone" | "wood" | "brushedMetal" | "dust" | "scratches" | "specks" | "stains" | "tideMarks" | "crackle" | "wornEdges" | "rubbed" | "inkWash" | "grit";

export type Reach = "lines" | "words" | "box";

export type Backing = { 
/**
 * What it reaches around.
 */
reach: Reach, 
/**
 * Its shape.
 */
outline: Outline, 
/**
 * Its fill.
 */
fill: Paint | null, 
/**
 * Its line.
 */
stroke: Stroke | null, 
/**
 * Clear space left and right of the words, in sizes of the type.
 */
padX: Ratio, 
/**
 * Clear space above and below the words, in sizes of the type.
 */
padY: Ratio, };

export type Curve = { "kind": "circle", 
/**
 * The middle of the words, clockwise from the top.
 */
at: Angle, 
/**
 * Read from the middle of the circle: the words stand inside it, running the other way.
 */
inward: boolean, } | { "kind": "arc", 
/**
 * -330 to 330 degrees.
 */
bend: Angle, };

export type ListMark = "none" | "bullet" | "number";

export type Forms = { 
/**
 * Small capitals for small letters (`smcp`).
 */
smallCaps: boolean, 
/**
 * Figures of one width (`tnum`).
 */
tabular: boolean, 
/**
 * Figures with ascenders and descenders (`onum`).
 */
oldFigures: boolean, 
/**
 * Letters stay apart (`liga` and `clig` off).
 */
noLigatures: boolean, };

export type Hyphens = "english" | "german" | "french" | "spanish" | "italian" | "portuguese" | "dutch" | "polish" | "swedish" | "finnish" | "hungarian" | "turkish" | "ukrainian";

export type TextFit = { "kind": "grow" } | { "kind": "asTyped" } | { "kind": "widen", 
/**
 * Least share of the set size.
 */
floor: Ratio, } | { "kind": "shrink", 
/**
 * Least share of the set size.
 */
floor: Ratio, } | { "kind": "fill", 
/**
 * Least share of the set size.
 */
floor: Ratio, };

export type TypeLook = { 
/**
 * Family.
 */
family: string, 
/**
 * Weight, 1 to 1,000.
 */
weight: number, 
/**
 * Italic.
 */
italic: boolean, 
/**
 * Size at a place scale of one.
 */
size: Length, 
/**
 * Distance of baselines as a ratio of the size.
 */
leading: Ratio, 
/**
 * Extra distance between letters as a ratio of the size.
 */
tracking: Ratio, 
/**
 * Lines in the box.
 */
align: Align, 
/**
 * Block in the box.
 */
valign: VAlign, 
/**
 * Shown in capitals; the typed text is kept.
 */
caps: boolean, 
/**
 * Underlined throughout.
 */
underline: boolean, 
/**
 * Text and box.
 */
fit: TextFit, 
/**
 * Lines of like length instead of lines as full as they go.
 */
even: boolean, 
/**
 * Struck through throughout.
 */
strike: boolean, 
/**
 * Extra distance between paragraphs as a ratio of the size.
 */
paragraphGap: Ratio, 
/**
 * Mark before each paragraph.
 */
list: ListMark, 
/**
 * Forms of letters and figures.
 */
forms: Forms, 
/**
 * The line the words run along, where it is not straight.
 */
curve: Curve | null, 
/**
 * The number of the arrangement in which a short phrase becomes one block, if it does: its lines are broken and scaled to
 * the width of the box.
 */
lockUp: number | null, 
/**
 * The language whose words may be divided at the end of a line, if any may.
 */
hyphens?: Hyphens, };

export type Look = { 
/**
 * Fill of shapes and letters.
 */
fill: Paint | null, 
/**
 * Line along the outline.
 */
stroke: Stroke | null, 
/**
 * Of the whole item; 1 is opaque.
 */
opacity: Ratio, 
/**
 * Mixing with what lies below.
 */
blend: Blend, 
/**
 * How its words are set.
 */
type: TypeLook | null, 
/**
 * What light does to it, in order.
 */
effects?: Array<Effect>, 
/**
 * A shape behind its words.
 */
backing?: Backing, 
/**
 * Blurs what lies behind it, seen through its own paint; twice the standard deviation, at a place scale of one.
 */
frost?: Length, 
/**
 * How the picture it shows is treated, in order.
 */
treatments?: Array<Treatment>, 
/**
 * What of the picture it shows is seen.
 */
cut_out?: CutOut, 
/**
 * How the picture it shows is set upright.
 */
upright?: Upright, };

export type Crop = { 
/**
 * The point of the picture at the centre of the frame.
 */
centre: Focus, 
/**
 * Size of the picture relative to just covering the frame (or, fitted, to just lying inside it).
 */
zoom: Ratio, 
/**
 * Clockwise turn of the picture inside its frame.
 */
turn: Angle, 
/**
 * Whether the picture is mirrored left to right inside its frame.
 */
flip: boolean, };

export type Place = { 
/**
 * Box, turn and mirroring.
 */
at: Placement, 
/**
 * Every length of the shared look (type size, line width, radius) times this.
 */
scale: Ratio, 
/**
 * Framing of a picture; without one the focus is kept in view and the frame covered.
 */
crop: Crop | null, 
/**
 * Put there by hand since the piece was composed: arranging it anew leaves it alone unless asked.
 */
byHand?: boolean, };

export type Kin = { 
/**
 * The part it plays.
 */
part: Part, 
/**
 * What it says or shows.
 */
content: Content, 
/**
 * How it looks.
 */
look: Look, 
/**
 * What it is called in every arrangement of the design it came with.
 */
slot?: string, 
/**
 * Whether its words are asked for when the next of a series is made.
 */
asked?: boolean, };

export type Release = { 
/**
 * Words or picture of its own.
 */
content: Content | null, 
/**
 * What of its look is its own.
 */
look: LookPatch | null, };

export type Anchor = "sheet" | { "item": ItemId };

export type Direction = "across" | "down";

export type BoxEdge = "left" | "top" | "right" | "bottom";

export type Tie = { "tie": "centre", 
/**
 * In which direction.
 */
direction: Direction, 
/**
 * Of what.
 */
of: Anchor, } | { "tie": "gap", 
/**
 * Which of its own edges.
 */
edge: BoxEdge, 
/**
 * To what.
 */
of: Anchor, 
/**
 * Positive inside the sheet, or away from the other item.
 */
gap: Length, } | { "tie": "opposite", 
/**
 * The other.
 */
of: ItemId, 
/**
 * Left and right change places.
 */
across: boolean, 
/**
 * Top and bottom change places.
 */
down: boolean, 
/**
 * It is mirrored as well, not only moved.
 */
mirrored: boolean, } | { "tie": "asLong", 
/**
 * In which direction.
 */
direction: Direction, 
/**
 * The other.
 */
of: ItemId, 
/**
 * More than the other, shared out between both ends.
 */
extra: Length, } | { "tie": "spot", 
/**
 * The picture.
 */
of: ItemId, 
/**
 * The spot, in fractions of the picture.
 */
at: Focus, } | { "tie": "between", 
/**
 * Where it begins.
 */
from: ItemId, 
/**
 * Where it ends.
 */
to: ItemId, } | { "tie": "over", 
/**
 * The other.
 */
of: ItemId, };

export type StackAlign = "first" | "middle" | "last";

export type GroupLook = { 
/**
 * The group.
 */
group: GroupId, 
/**
 * Of all of it together; 1 is opaque.
 */
opacity: Ratio, 
/**
 * Mixing of all of it together with what lies below.
 */
blend: Blend, 
/**
 * What light does to all of it together, in order.
 */
effects?: Array<Effect>, 
/**
 * How all of it together is treated, in order.
 */
treatments?: Array<Treatment>, };

export type CutOut = { 
/**
 * How much of each pixel was found to be subject, as a grey picture of any size; without one all is shown but what a hand hides.
 */
mask?: AssetId, 
/**
 * Strokes over what belongs to the subject, for finding it.
 */
keep?: Array<BrushStroke>, 
/**
 * Strokes over what does not, for finding it.
 */
remove?: Array<BrushStroke>, 
/**
 * Strokes that hide, or bring back where they erase, in order.
 */
painted?: Array<BrushStroke>, 
/**
 * Standard deviation by which the edge is softened, up to 0.02.
 */
softness: Ratio, 
/**
 * How far the edge is moved outward, -0.01 to 0.01.
 */
shift: Ratio, };

export type Upright = { 
/**
 * Turned clockwise by, -45 to 45 degrees; what would be empty then is cut off, at the proportions there were.
 */
turn: Angle, 
/**
 * The places of the original that become the corners, from the top left on clockwise; its own corners without them.
 */
corners?: [Focus, Focus, Focus, Focus], };

export type Stack = { 
/**
 * The group.
 */
group: GroupId, 
/**
 * The direction its members follow each other in.
 */
direction: Direction, 
/**
 * Room between them.
 */
gap: Length, 
/**
 * Where they stand across that direction.
 */
align: StackAlign, };

export type Item = { 
/**
 * Its identity within the job.
 */
id: ItemId, 
/**
 * What it shares with the same item elsewhere.
 */
kin: KinId, 
/**
 * Where it sits here.
 */
place: Place, 
/**
 * What it has released from sharing.
 */
release: Release, 
/**
 * Cannot be picked or moved on the stage.
 */
locked: boolean, 
/**
 * Neither shown nor exported.
 */
hidden: boolean, 
/**
 * The groups it is in, outermost first. Items of a group lie next to each other.
 */
groups?: Array<GroupId>, 
/**
 * What its maker calls it; without one it is called after its words or its part.
 */
name?: string, 
/**
 * What keeps holding between it and others.
 */
ties?: Array<Tie>, };

export type Removed = { 
/**
 * The item as it was.
 */
item: Item, 
/**
 * What it shared at the time.
 */
kin: Kin, 
/**
 * Where it lay.
 */
side: SideId, 
/**
 * Its place from the back.
 */
index: number, };

export type Format = { 
/**
 * Finished (trimmed) size.
 */
size: Size, 
/**
 * The unit people think of it in.
 */
unit: Unit, 
/**
 * Resolution of pixel output, and what a pixel is.
 */
ppi: Ppi, 
/**
 * Extra all round that the knife takes away.
 */
bleed: Length, 
/**
 * Distance from the edge within which nothing important may stand.
 */
safe: Length, 
/**
 * What is done to it beside trimming.
 */
finish?: Finish, };

export type GuideLine = { 
/**
 * Stands upright instead of lying.
 */
upright: boolean, 
/**
 * Distance from the left or the top edge.
 */
at: Length, };

export type Guides = { 
/**
 * Left, top, right, bottom.
 */
margins: [Length, Length, Length, Length], 
/**
 * Columns between the margins; 0 and 1 show none.
 */
columns: number, 
/**
 * Room between columns.
 */
columnGutter: Length, 
/**
 * Rows between the margins; 0 and 1 show none.
 */
rows: number, 
/**
 * Room between rows.
 */
rowGutter: Length, 
/**
 * Single lines.
 */
lines: Array<GuideLine>, 
/**
 * Width of the squares of a grid over the whole sheet; nothing is none.
 */
grid: Length | null, };

export type Side = { 
/**
 * Its identity.
 */
id: SideId, 
/**
 * "Front", "Back"...
 */
name: string, 
/**
 * What lies under everything; nothing means a transparent sheet.
 */
ground: Paint | null, 
/**
 * Back to front.
 */
items: Array<Item>, 
/**
 * Groups that space themselves, inner ones before those around them.
 */
stacks?: Array<Stack>, 
/**
 * Groups that look their own way as a whole.
 */
group_looks?: Array<GroupLook>, };

export type Piece = { 
/**
 * Its identity.
 */
id: PieceId, 
/**
 * What it is, in plain words.
 */
name: string, 
/**
 * The catalogue entry it was made from, if any.
 */
place: string | null, 
/**
 * Size, resolution, bleed and safe area.
 */
format: Format, 
/**
 * One or more.
 */
sides: Array<Side>, 
/**
 * Lines to lay things out by.
 */
guides: Guides, 
/**
 * Items taken away in the life of the piece, oldest first.
 */
tray: Array<Removed>, 
/**
 * What its arrangement came from.
 */
follows?: Follows, 
/**
 * How it was arranged before its format was changed, if it was.
 */
first?: FirstShape, };

export type Follows = { "from": "hand" } | { "from": "design", 
/**
 * Which, by their identities.
 */
designs: Array<string>, } | { "from": "piece", 
/**
 * Which.
 */
piece: PieceId, 
/**
 * What the arrangement is called.
 */
way: string, 
/**
 * The designs that piece came from, one for each side; none where somebody made it.
 */
designs?: Array<string>, };

export type FirstShape = { 
/**
 * Its size, resolution, bleed and safe area.
 */
format: Format, 
/**
 * The catalogue entry it was for, if any.
 */
place: string | null, 
/**
 * Where its items stood.
 */
places: { [key in ItemId]?: Place }, };

export type LookPatch = { 
/**
 * How its words are set.
 */
type?: TypePatch, 
/**
 * Fill of shapes and letters.
 */
fill?: Paint | null, 
/**
 * Line along the outline.
 */
stroke?: Stroke | null, 
/**
 * Opacity.
 */
opacity?: Ratio, 
/**
 * Mixing with what lies below.
 */
blend?: Blend, 
/**
 * What light does to it.
 */
effects?: Array<Effect>, 
/**
 * A shape behind its words.
 */
backing?: Backing | null, 
/**
 * Blur of what lies behind it.
 */
frost?: Length | null, 
/**
 * How its picture is treated.
 */
treatments?: Array<Treatment>, 
/**
 * What of its picture is seen.
 */
cutOut?: CutOut | null, 
/**
 * How its picture is set upright.
 */
upright?: Upright | null, };

export type PaintPatch = { 
/**
 * Fill of shapes and letters.
 */
fill?: Paint | null, 
/**
 * Line along the outline.
 */
stroke?: Stroke | null, 
/**
 * Opacity.
 */
opacity?: Ratio, 
/**
 * Mixing with what lies below.
 */
blend?: Blend, 
/**
 * What light does to it.
 */
effects?: Array<Effect>, 
/**
 * A shape behind its words.
 */
backing?: Backing | null, 
/**
 * Blur of what lies behind it.
 */
frost?: Length | null, 
/**
 * How its picture is treated.
 */
treatments?: Array<Treatment>, 
/**
 * What of its picture is seen.
 */
cutOut?: CutOut | null, 
/**
 * How its picture is set upright.
 */
upright?: Upright | null, };

export type TypePatch = { 
/**
 * Family.
 */
family?: string, 
/**
 * Weight.
 */
weight?: number, 
/**
 * Italic.
 */
italic?: boolean, 
/**
 * Size at a place scale of one.
 */
size?: Length, 
/**
 * Distance of baselines.
 */
leading?: Ratio, 
/**
 * Distance between letters.
 */
tracking?: Ratio, 
/**
 * Lines in the box.
 */
align?: Align, 
/**
 * Block in the box.
 */
valign?: VAlign, 
/**
 * Shown in capitals.
 */
caps?: boolean, 
/**
 * Underlined.
 */
underline?: boolean, 
/**
 * Text and box.
 */
fit?: TextFit, 
/**
 * Lines of like length.
 */
even?: boolean, 
/**
 * Struck through.
 */
strike?: boolean, 
/**
 * Distance between paragraphs.
 */
paragraphGap?: Ratio, 
/**
 * Mark before each paragraph.
 */
list?: ListMark, 
/**
 * Forms of letters and figures.
 */
forms?: Forms, 
/**
 * The line the words run along.
 */
curve?: Curve | null, 
/**
 * The number of the arrangement.
 */
lockUp?: number | null, 
/**
 * The language of divided words.
 */
hyphens?: Hyphens | null, };

export type Property = "colour" | "line" | "face" | "size" | "setting" | "light" | "treatment";

export type Job = { 
/**
 * Its identity.
 */
id: JobId, 
/**
 * Name in lists and file names.
 */
title: string, 
/**
 * Shared colours.
 */
swatches: { [key in SwatchId]?: Swatch }, 
/**
 * What items share across pieces. States of a job have what they have in common only once, so that a copy costs nothing and
 * a comparison what differs.
 */
kins: { [key in KinId]?: Kin }, 
/**
 * The pieces, in the order they are shown.
 */
pieces: Array<Piece>, 
/**
 * Findings that were looked at and are to stay as they are, by what names them and their cause, each with the reason given.
 */
set_aside?: { [key in string]?: string }, };

export type Target = { "shared": KinId } | { "only": ItemId };

export type Command = { "do": "setTitle", 
/**
 * 1 to 200 letters.
 */
title: string, } | { "do": "setWords", 
/**
 * Shared or alone.
 */
target: Target, 
/**
 * The whole text.
 */
text: string, } | { "do": "styleWords", 
/**
 * Shared or alone.
 */
target: Target, 
/**
 * Where it begins, in UTF-16 units of the typed text.
 */
from: number, 
/**
 * Where it ends.
 */
to: number, 
/**
 * What changes.
 */
change: StyleChange, } | { "do": "setContent", 
/**
 * Shared or alone.
 */
target: Target, 
/**
 * The new content, of the same kind as the old.
 */
content: Content, } | { "do": "setLook", 
/**
 * Shared or alone.
 */
target: Target, 
/**
 * The new look.
 */
look: Look, } | { "do": "setAsked", 
/**
 * What shares them.
 */
kin: KinId, 
/**
 * Whether so.
 */
asked: boolean, } | { "do": "setRelease", 
/**
 * The item.
 */
item: ItemId, 
/**
 * What is its own.
 */
release: Release, } | { "do": "setPlace", 
/**
 * The item.
 */
item: ItemId, 
/**
 * Where it sits from now on.
 */
place: Place, } | { "do": "setFlags", 
/**
 * The item.
 */
item: ItemId, 
/**
 * Cannot be picked on the stage.
 */
locked: boolean, 
/**
 * Neither shown nor exported.
 */
hidden: boolean, } | { "do": "setGroups", 
/**
 * The item.
 */
item: ItemId, 
/**
 * Outermost first.
 */
groups: Array<GroupId>, } | { "do": "nameItem", 
/**
 * The item.
 */
item: ItemId, 
/**
 * 1 to 200 letters.
 */
name: string | null, } | { "do": "setTies", 
/**
 * The item.
 */
item: ItemId, 
/**
 * In the order they are seen to.
 */
ties: Array<Tie>, } | { "do": "setStacks", 
/**
 * The side.
 */
side: SideId, 
/**
 * Inner ones before those around them.
 */
stacks: Array<Stack>, } | { "do": "setGroupLooks", 
/**
 * The side.
 */
side: SideId, 
/**
 * In any order, each of another group.
 */
looks: Array<GroupLook>, } | { "do": "setGuides", 
/**
 * The piece.
 */
piece: PieceId, 
/**
 * All of them.
 */
guides: Guides, } | { "do": "setFormat", 
/**
 * The piece.
 */
piece: PieceId, 
/**
 * Its size, resolution, bleed and safe area from now on.
 */
format: Format, 
/**
 * The catalogue entry of that place, if any.
 */
place: string | null, 
/**
 * How it was arranged before its format was changed for the first time, if that is to be remembered.
 */
first: FirstShape | null, } | { "do": "follow", 
/**
 * The piece.
 */
piece: PieceId, 
/**
 * From what.
 */
follows: Follows, } | { "do": "putAside", 
/**
 * The piece.
 */
piece: PieceId, 
/**
 * Its place in the tray; 0 is the oldest, beyond the end means the newest.
 */
index: number, 
/**
 * What is kept.
 */
removed: Removed, } | { "do": "takeAside", 
/**
 * The piece.
 */
piece: PieceId, 
/**
 * Its place in the tray.
 */
index: number, } | { "do": "setTray", 
/**
 * The piece.
 */
piece: PieceId, 
/**
 * All of it, oldest first; beyond 500 the oldest go.
 */
tray: Array<Removed>, } | { "do": "insertItem", 
/**
 * The side.
 */
side: SideId, 
/**
 * 0 is the very back; beyond the end means the very front.
 */
index: number, 
/**
 * The item.
 */
item: Item, 
/**
 * Its kin, where the job does not have it yet.
 */
kin: Kin | null, } | { "do": "removeItem", 
/**
 * The item.
 */
item: ItemId, } | { "do": "moveItem", 
/**
 * The item.
 */
item: ItemId, 
/**
 * Its new place from the back.
 */
index: number, } | { "do": "setGround", 
/**
 * The side.
 */
side: SideId, 
/**
 * Nothing makes the sheet transparent.
 */
ground: Paint | null, } | { "do": "setSwatch", 
/**
 * Which.
 */
id: SwatchId, 
/**
 * Name and colour.
 */
swatch: Swatch | null, } | { "do": "insertSide", 
/**
 * The piece.
 */
piece: PieceId, 
/**
 * Position among its sides.
 */
index: number, 
/**
 * The side.
 */
side: Side, 
/**
 * Kins the job does not have yet.
 */
kins: { [key in KinId]?: Kin }, } | { "do": "removeSide", 
/**
 * Which.
 */
side: SideId, } | { "do": "moveSide", 
/**
 * Which.
 */
side: SideId, 
/**
 * Its new position.
 */
index: number, } | { "do": "renameSide", 
/**
 * Which.
 */
side: SideId, 
/**
 * 1 to 200 letters.
 */
name: string, } | { "do": "insertPiece", 
/**
 * Position among the pieces.
 */
index: number, 
/**
 * The piece.
 */
piece: Piece, 
/**
 * Kins the job does not have yet.
 */
kins: { [key in KinId]?: Kin }, } | { "do": "removePiece", 
/**
 * Which.
 */
piece: PieceId, } | { "do": "movePiece", 
/**
 * Which.
 */
piece: PieceId, 
/**
 * Its new position.
 */
index: number, } | { "do": "renamePiece", 
/**
 * Which.
 */
piece: PieceId, 
/**
 * 1 to 200 letters.
 */
name: string, } | { "do": "setAside", 
/**
 * What names the finding and its cause.
 */
finding: string, 
/**
 * Why it may stay: 1 to 500 letters.
 */
reason: string | null, } | { "do": "all", 
/**
 * In order.
 */
commands: Array<Command>, };

export type SideFrame = { 
/**
 * Its identity.
 */
id: SideId, 
/**
 * "Front", "Back"...
 */
name: string, 
/**
 * What lies under everything.
 */
ground: Paint | null, 
/**
 * Groups that space themselves.
 */
stacks: Array<Stack>, 
/**
 * Groups that look their own way.
 */
group_looks: Array<GroupLook>, };

export type PieceFrame = { 
/**
 * Its identity.
 */
id: PieceId, 
/**
 * What it is, in plain words.
 */
name: string, 
/**
 * The catalogue entry it was made from, if any.
 */
place: string | null, 
/**
 * Size, resolution, bleed and safe area.
 */
format: Format, 
/**
 * Lines to lay things out by.
 */
guides: Guides, 
/**
 * What its arrangement came from.
 */
follows: Follows, 
/**
 * How it was arranged before its format was changed.
 */
first: FirstShape | null, 
/**
 * Its sides in their order.
 */
sides: Array<SideFrame>, };

export type TrayDelta = { 
/**
 * Where the change begins.
 */
at: number, 
/**
 * How many of what was there are gone.
 */
taken: number, 
/**
 * What is there instead.
 */
put: Array<Removed>, };

export type JobDelta = { 
/**
 * New title.
 */
title?: string, 
/**
 * All findings that are set aside, where these changed.
 */
setAside?: { [key in string]?: string }, 
/**
 * Changed kins; nothing means removed.
 */
kins: { [key in KinId]?: Kin | null }, 
/**
 * Changed swatches; nothing means removed.
 */
swatches: { [key in SwatchId]?: Swatch | null }, 
/**
 * The pieces in their order, where pieces came, went or moved.
 */
pieces?: Array<PieceId>, 
/**
 * New pieces, and those that changed in anything but their items and their tray.
 */
frames: Array<PieceFrame>, 
/**
 * What changed in the trays.
 */
trays: { [key in PieceId]?: TrayDelta }, 
/**
 * The identities on each changed side, back to front.
 */
order: { [key in SideId]?: Array<ItemId> }, 
/**
 * New and changed items.
 */
items: Array<Item>, 
/**
 * Pieces that may look different.
 */
touched: Array<PieceId>, };

export type Embedding = "free" | "editable" | "printOnly" | "restricted";

export type Family = { 
/**
 * Name.
 */
family: string, 
/**
 * Words people look for it by; the first is its kind.
 */
moods: Array<string>, 
/**
 * SPDX identifier of its licence.
 */
licence: string, 
/**
 * Families it goes well with.
 */
pairs?: Array<string>, 
/**
 * What its maker allows, where somebody brought it.
 */
own?: Embedding, 
/**
 * Faces.
 */
faces: Array<{ 
/**
 * File, relative to the catalogue.
 */
file: string, 
/**
 * Weight, 1 to 1,000.
 */
weight: number, 
/**
 * Italic.
 */
italic: boolean, }>, };

export type Caret = { 
/**
 * Offset in the typed text, in UTF-16 units.
 */
at: number, 
/**
 * From the left of the item's box, CSS pixels.
 */
x: number, 
/**
 * Top.
 */
top: number, 
/**
 * Bottom.
 */
bottom: number, 
/**
 * Turn about its middle, degrees clockwise.
 */
turn: number, };

export type Frame = { 
/**
 * Left edge before turning, CSS pixels.
 */
x: number, 
/**
 * Top edge before turning.
 */
y: number, 
/**
 * Width.
 */
w: number, 
/**
 * Height; that of the lines for text that grows.
 */
h: number, 
/**
 * Clockwise turn about the centre, degrees.
 */
turn: number, };

export type Order = "front" | "forward" | "back" | "bottom" | "behind";

export type Shown = "percent" | "thousandths" | "stops" | "plain" | "kelvin" | "degrees" | "count" | "colour" | "blend" | "texture" | "picture" | "point" | "curves" | "gradient" | "hues";

export type FieldCard = { 
/**
 * Its name in the step.
 */
key: string, 
/**
 * Plain name.
 */
name: string, 
/**
 * How it is set.
 */
shown: Shown, 
/**
 * Least, in what is shown.
 */
low: number, 
/**
 * Most.
 */
high: number, };

export type KindCard = { 
/**
 * Its name in the step.
 */
kind: string, 
/**
 * Plain name.
 */
name: string, 
/**
 * What people want who look for it.
 */
wish: string, 
/**
 * Other words they look for.
 */
words: string, 
/**
 * Its values, the most used first.
 */
fields: Array<FieldCard>, 
/**
 * Where it starts.
 */
start: Develop, 
/**
 * Whether only pictures can be treated so.
 */
pictures_only: boolean, };

export type Recipe = { 
/**
 * Version of the format: 1.
 */
recipe: number, 
/**
 * Plain name.
 */
name: string, 
/**
 * In order.
 */
steps: Array<Treatment>, };

export type Tones = { 
/**
 * Luma.
 */
light: Array<number>, 
/**
 * Red.
 */
red: Array<number>, 
/**
 * Green.
 */
green: Array<number>, 
/**
 * Blue.
 */
blue: Array<number>, 
/**
 * Percent of the pixels with a channel at black.
 */
black: number, 
/**
 * Percent of the pixels with a channel at white.
 */
white: number, };

export type Gift = "line" | "shadow" | "innerShadow" | "relief" | "cast" | "contact" | "reflection" | "rim" | "highlight" | "button" | "frost";

export type StackChange = { 
/**
 * How its rows follow each other.
 */
direction?: Direction, 
/**
 * The gap between them.
 */
gap?: Length, 
/**
 * Where they stand across the direction.
 */
align?: StackAlign, };

export type GroupChange = { 
/**
 * Of all of it together; 1 is opaque.
 */
opacity?: Ratio, 
/**
 * Mixing of all of it together with what lies below.
 */
blend?: Blend, };

export type GroupLight = { "what": "give" } | { "what": "change", 
/**
 * Its place in the list.
 */
index: number, 
/**
 * How.
 */
change: EffectChange, } | { "what": "drop", 
/**
 * Its place in the list.
 */
index: number, };

export type UprightChange = { 
/**
 * Turned clockwise by.
 */
turn?: Angle, 
/**
 * The places of the original that become the corners, from the top left on clockwise; nothing for its own corners.
 */
corners?: [Focus, Focus, Focus, Focus] | null, };

export type PutOn = { "kind": "white" } | { "kind": "colour", 
/**
 * Which.
 */
tint: Tint, } | { "kind": "gradient", 
/**
 * Which.
 */
tint: Tint, } | { "kind": "picture", 
/**
 * Which.
 */
picture: AssetId, };

export type TraceWish = { 
/**
 * Most colours, 1 to 12.
 */
colours: number, 
/**
 * How much of small corners and specks is given up, 0 to 1.
 */
smooth: Ratio, };

export type AreaKind = "linear" | "radial" | "light" | "colour";

export type CutStroke = "keep" | "remove" | "hide" | "show";

export type CutChange = { 
/**
 * Standard deviation by which the edge is softened.
 */
softness?: Ratio, 
/**
 * How far the edge is moved outward.
 */
shift?: Ratio, };

export type BrushSetting = { 
/**
 * Radius, a fraction of the longer side.
 */
radius: Ratio, 
/**
 * How much of the radius is full, 0 to 1.
 */
hardness: Ratio, 
/**
 * 0 to 1.
 */
strength: Ratio, 
/**
 * Takes away instead of adding.
 */
erases: boolean, };

export type EffectChange = { 
/**
 * To the right, as seen in the piece.
 */
dx?: Length, 
/**
 * Down, as seen in the piece.
 */
dy?: Length, 
/**
 * Softness, as seen in the piece.
 */
blur?: Length, 
/**
 * Colour.
 */
tint?: Tint, 
/**
 * 0 to 1.
 */
strength?: Ratio, 
/**
 * Where the light comes from, clockwise from above.
 */
light?: Angle, 
/**
 * Width of the rim, as seen in the piece.
 */
depth?: Length, 
/**
 * Whether the edge of a rim leaves as a cutting line.
 */
cut?: boolean, 
/**
 * Pressed in instead of raised.
 */
pressed?: boolean, 
/**
 * Where a shadow falls, clockwise from away from who looks.
 */
turn?: Angle, 
/**
 * How long a shadow is, or how much of an image is seen, as a ratio of the height.
 */
length?: Ratio, 
/**
 * Where the ground is, as a share of the height from the top.
 */
ground?: Ratio, };

export type BackingChange = { 
/**
 * What it reaches around.
 */
reach?: Reach, 
/**
 * Its shape.
 */
outline?: Outline, 
/**
 * Radius of its corners, where it is a rectangle, as seen in the piece.
 */
radius?: Length, 
/**
 * Its fill.
 */
fill?: Paint | null, 
/**
 * Clear space left and right of the words, in sizes of the type.
 */
padX?: Ratio, 
/**
 * Clear space above and below the words, in sizes of the type.
 */
padY?: Ratio, };

export type LineChange = { 
/**
 * Paint.
 */
paint?: Paint, 
/**
 * Width as seen in the piece.
 */
width?: Length, 
/**
 * Side of the outline.
 */
place?: StrokePlace, 
/**
 * Corners.
 */
join?: Join, 
/**
 * Ends.
 */
cap?: Cap, 
/**
 * Dashes and gaps in turn, in widths of the line.
 */
dash?: Array<Ratio>, };

export type GuideChange = { 
/**
 * One margin: 0 left, 1 top, 2 right, 3 bottom.
 */
margin?: [number, Length], 
/**
 * How many columns.
 */
columns?: number, 
/**
 * Gutter between columns.
 */
columnGutter?: Length, 
/**
 * How many rows.
 */
rows?: number, 
/**
 * Gutter between rows.
 */
rowGutter?: Length, 
/**
 * Squares of a grid; 0 for none.
 */
grid?: Length, };

export type BoxNumbers = { 
/**
 * The point that is measured, in halves across and down: 0, 1 or 2.
 */
point: [number, number], 
/**
 * From the left edge of the sheet.
 */
x?: Length, 
/**
 * From the top edge.
 */
y?: Length, 
/**
 * Width.
 */
w?: Length, 
/**
 * Height.
 */
h?: Length, 
/**
 * Width and height of a picture or a graphic each by itself, instead of in proportion.
 */
free: boolean, };

export type Grip = { 
/**
 * Across.
 */
h: -1 | 0 | 1, 
/**
 * Down.
 */
v: -1 | 0 | 1, };

export type Handles = "all" | "sides" | "corners";

export type FitKind = "grow" | "asTyped" | "widen" | "shrink" | "fill";

export type CurveKind = "none" | "arc" | "circle";

export type TypeChange = { 
/**
 * Family; weight and slope go to the nearest it has.
 */
family?: string, 
/**
 * Weight, 1 to 1,000.
 */
weight?: number, 
/**
 * Italic.
 */
italic?: boolean, 
/**
 * Distance of baselines as a ratio of the size.
 */
leading?: Ratio, 
/**
 * Extra distance between letters as a ratio of the size.
 */
tracking?: Ratio, 
/**
 * Lines in the box.
 */
align?: Align, 
/**
 * Block in the box.
 */
valign?: VAlign, 
/**
 * Shown in capitals.
 */
caps?: boolean, 
/**
 * Underlined.
 */
underline?: boolean, 
/**
 * Struck through.
 */
strike?: boolean, 
/**
 * Text and box.
 */
fit?: FitKind, 
/**
 * Extra distance between paragraphs as a ratio of the size.
 */
paragraphGap?: Ratio, 
/**
 * Mark before each paragraph.
 */
list?: ListMark, 
/**
 * Forms of letters and figures.
 */
forms?: Forms, 
/**
 * Another kind of line the words run along, as it begins.
 */
curve?: CurveKind, 
/**
 * How far a bent line bends.
 */
bend?: Angle, 
/**
 * Where the middle of words on a circle lies.
 */
at?: Angle, 
/**
 * Whether words on a circle stand inside it, running the other way; they go to the opposite end then.
 */
inward?: boolean, 
/**
 * The number of the arrangement in which the words become one block; nothing sets them plainly.
 */
lockUp?: number | null, 
/**
 * The language whose words may be divided; nothing keeps words whole.
 */
hyphens?: Hyphens | null, };

export type LetterStyle = "bold" | "italic" | "underline";

export type Finding = { 
/**
 * What is the matter.
 */
kind: FindingKind, 
/**
 * In which piece.
 */
piece: PieceId, 
/**
 * On which side.
 */
side: SideId, 
/**
 * With which item; nothing where it is about the side as a whole.
 */
item?: ItemId, 
/**
 * A plain sentence: what it is, and what will happen.
 */
says: string, 
/**
 * The word it is about, where it is about one that could be right after all.
 */
word?: string, };

export type Checked = { 
/**
 * What is the matter.
 */
finding: Finding, 
/**
 * How bad it is, 1 to 100.
 */
weight: number, 
/**
 * Names the finding and its cause: another cause, another name.
 */
key: string, 
/**
 * Why it may stay, where somebody said so.
 */
setAside: string | null, 
/**
 * What would put it right, in a few words.
 */
repair: string | null, };

export type Eyes = { 
/**
 * What it is called.
 */
name: string, 
/**
 * Three rows for red, green and blue, each of what it takes of red, green and blue.
 */
matrix: [[number, number, number], [number, number, number], [number, number, number]], };

export type ItemFinding = { 
/**
 * What is the matter.
 */
kind: FindingKind, 
/**
 * A plain sentence: what it is, and what will happen.
 */
says: string, };

export type Sight = { 
/**
 * Left, top, width and height of the box in CSS pixels of the sheet.
 */
at: [number, number, number, number], 
/**
 * Cells across.
 */
columns: number, 
/**
 * Cells down.
 */
rows: number, 
/**
 * One letter a cell, row by row: `.` where it is nearly clear, `#` where it is seen.
 */
cells: string, };

export type FindingKind = "spill" | "beyondTrim" | "outsideSafe" | "stopsAtTrim" | "emptyFrame" | "noWords" | "missingFamily" | "missingLetters" | "missingPicture" | "restricted" | "wordsOnWords" | "covered" | "tooSmall" | "contrast" | "doubledWord" | "doubledSpace" | "wrongDate" | "pastDate" | "fewPixels" | "misspelt" | "leftOver" | "quietHeadline" | "unevenGaps" | "nearlyInLine" | "fileTooLarge" | "thinLine" | "onFold" | "inHole" | "smallInInks" | "tooMuchInk" | "duller" | "codeUnread" | "emptySide" | "softPicture" | "whiteLost" | "spotMixed";

export type Likeness = "kind" | "colour" | "words" | "family";

export type Palette = { 
/**
 * Its name.
 */
name: string, 
/**
 * Ground, ink, accent, soft, deep, light.
 */
colours: [Color, Color, Color, Color, Color, Color], };

export type FileWords = { 
/**
 * What they say, with what single ranges have of their own.
 */
text: RichText, 
/**
 * How they are set; its size is a placeholder.
 */
look: TypeLook, 
/**
 * Their colour.
 */
tint: Tint, 
/**
 * Size of type.
 */
size: Ratio, 
/**
 * Where the line begins, has its middle or ends, by its alignment: across.
 */
x: Ratio, 
/**
 * Its baseline.
 */
y: Ratio, 
/**
 * Clockwise turn about that point.
 */
turn: Angle, };

export type Layer = { "kind": "drawing", 
/**
 * The shapes.
 */
drawing: Drawing, } | { "kind": "words", 
/**
 * The words.
 */
words: FileWords, };

export type Mosaic = { 
/**
 * One for each picture, in their order.
 */
cells: Array<Rect>, 
/**
 * The share of the pictures that is seen, 0 to 1, on the mean.
 */
shown: number, };

export type Arrangements = { 
/**
 * Gaps, margin and corners: as asked for, as they are, or to begin with.
 */
room: MosaicRoom, 
/**
 * The arrangements, the best first.
 */
forms: Array<Mosaic>, 
/**
 * The number of the one the pictures stand in, where it is one of these.
 */
form: number | null, };

export type MosaicRoom = { 
/**
 * Between cells.
 */
gap: Length, 
/**
 * Around all of them.
 */
margin: Length, 
/**
 * Corner radius.
 */
radius: Length, };

export type Clipped = { 
/**
 * Part, content and look.
 */
kin: Kin, 
/**
 * Where it stood.
 */
place: Place, 
/**
 * Groups it was in.
 */
groups: Array<GroupId>, 
/**
 * Which item it was.
 */
was: ItemId, 
/**
 * What its maker called it.
 */
name: string | null, 
/**
 * What it was tied to.
 */
ties: Array<Tie>, };

export type Clipping = { 
/**
 * Back to front.
 */
items: Array<Clipped>, 
/**
 * Groups of them that space themselves.
 */
stacks: Array<Stack>, 
/**
 * Groups of them that look their own way.
 */
group_looks: Array<GroupLook>, };

export type GraphicCard = { 
/**
 * Identity: its set and name.
 */
id: string, 
/**
 * Name.
 */
name: string, 
/**
 * Set.
 */
set: string, 
/**
 * Whether words fit into it.
 */
framing: boolean, };

export type GraphicSet = { 
/**
 * Identity.
 */
id: string, 
/**
 * Name.
 */
name: string, 
/**
 * Licence, by its SPDX name.
 */
licence: string, 
/**
 * How many graphics it holds.
 */
count: number, 
/**
 * Whether they are shown larger in lists: fine or wide.
 */
large: boolean, };

export type Ask = { 
/**
 * Which part.
 */
part: Part, 
/**
 * The question, in plain words.
 */
label: string, 
/**
 * An answer for example.
 */
hint: string, };

export type PlaceEntry = { 
/**
 * Identity in the catalogue.
 */
id: string, 
/**
 * Plain name.
 */
name: string, 
/**
 * The kind of place.
 */
group: string, 
/**
 * Size, resolution, bleed and safe area.
 */
format: Format, 
/**
 * Size with its unit, for reading.
 */
size: string, 
/**
 * Whether it is made without a ground.
 */
clear: boolean, 
/**
 * What is asked for it before it is composed.
 */
asks: Array<Ask>, 
/**
 * How wide it appears where people meet it, where that is known.
 */
seen: Length | null, 
/**
 * What the place itself lays over it: nothing important stands there.
 */
covers: Array<Cover>, 
/**
 * Whether only the circle in its middle is shown.
 */
round: boolean, 
/**
 * The kinds of files it takes, the usual one first; without any all.
 */
files: Array<FileKind>, 
/**
 * The largest file it takes, in bytes.
 */
most: number | null, 
/**
 * How many parts of a message it has room for.
 */
copy: number, 
/**
 * What its sides are called, where it has more than a front.
 */
sides: Array<string>, };

export type Cover = { 
/**
 * Left, top, width and height as fractions of the sheet.
 */
at: [number, number, number, number], 
/**
 * What lies there.
 */
by: string, };

export type PlaceFound = { 
/**
 * Matching places, best first.
 */
places: Array<PlaceEntry>, 
/**
 * The size typed, where what was typed is one.
 */
own: PlaceEntry | null, 
/**
 * Why what looks like a size is none, where so.
 */
problem: string | null, };

export type Asked = "date" | "time" | "price" | "marked";

export type Changing = { 
/**
 * What shares them.
 */
kin: KinId, 
/**
 * The part they play.
 */
part: Part, 
/**
 * Why they are asked for.
 */
why: Asked, 
/**
 * As they are.
 */
now: string, 
/**
 * As they are likely to be.
 */
next: string, };

export type NextOf = { 
/**
 * Its title as it is likely to be.
 */
title: string, 
/**
 * The words that change, in reading order.
 */
words: Array<Changing>, };

export type Pace = "week" | "fortnight" | "month" | "year";

export type OwnFormat = { 
/**
 * Width and height with their unit.
 */
size: string, 
/**
 * Bleed; without one as for any size of that unit.
 */
bleed?: string, 
/**
 * How far words keep from the edge; without it as for any size.
 */
safe?: string, 
/**
 * Pixels an inch; without it as for any size.
 */
ppi?: Ppi, };

export type Grid = "margins" | "thirds" | "columns" | "fields";

export type NamePattern = string;

export type CopyLine = { 
/**
 * The item that holds it on this side.
 */
item: ItemId, 
/**
 * What it shares with other pieces.
 */
kin: KinId, 
/**
 * The part it plays.
 */
part: Part, 
/**
 * Name of the part.
 */
name: string, 
/**
 * The letters.
 */
text: string, 
/**
 * Whether it is this item's own and not shared.
 */
own: boolean, };

export type FileKind = "png" | "jpeg" | "webp" | "gif" | "tiff" | "pdf" | "svg";

export type AlignEdge = "left" | "centre" | "right" | "top" | "middle" | "bottom";

export type AlignTo = { "kind": "selection" } | { "kind": "sheet" } | { "kind": "safe" } | { "kind": "margins" } | { "kind": "item", 
/**
 * Which.
 */
item: ItemId, };

export type Axis = "across" | "down";

export type Alike = "width" | "height" | "both";

export type SnapReason = "sheetCentre" | "sheetEdge" | "safe" | "margin" | "column" | "guide" | "grid" | "itemCentre" | "itemEdge" | "baseline" | "equalGap" | "equalSize";

export type GuideMark = { 
/**
 * Stands upright instead of lying.
 */
upright: boolean, 
/**
 * Distance from the left or the top edge.
 */
at: Length, 
/**
 * What it is.
 */
reason: SnapReason, 
/**
 * Which of the single lines, if it is one.
 */
line?: number, };

export type SnapStretch = { 
/**
 * Where it begins.
 */
from: Length, 
/**
 * Where it ends.
 */
to: Length, 
/**
 * Where it lies on the other axis.
 */
across: Length, };

export type SnapRange = { 
/**
 * Start.
 */
from: Length, 
/**
 * End.
 */
to: Length, };

export type SnapStop = { 
/**
 * Where the moving edge lies when in place.
 */
at: Length, 
/**
 * Why.
 */
reason: SnapReason, 
/**
 * The line it lies on: its position, and how far its cause reaches on the other axis.
 */
line?: SnapStretch, 
/**
 * Equal gaps, along the axis.
 */
gaps: Array<SnapStretch>, 
/**
 * Counts only while the moving box overlaps this range of the other axis.
 */
within?: SnapRange, };

export type SnapStops = { 
/**
 * For the left edge of a box moved as a whole.
 */
left: Array<SnapStop>, 
/**
 * For the top edge of a box moved as a whole.
 */
top: Array<SnapStop>, 
/**
 * For a left or right edge that is dragged.
 */
upright: Array<SnapStop>, 
/**
 * For a top or bottom edge that is dragged.
 */
level: Array<SnapStop>, 
/**
 * Widths others have.
 */
widths: Array<Length>, 
/**
 * Heights others have.
 */
heights: Array<Length>, };

export type Verdict = "good" | "weak" | "poor";

export type Repair = "recolour" | "panel" | "shade";

export type Reading = { 
/**
 * Contrast ratio, 1 to 21, that the worst twentieth of the area stays under.
 */
ratio: number, 
/**
 * The least ratio for type of this size: 4.5, or 3 for large type.
 */
wanted: number, 
/**
 * The verdict.
 */
verdict: Verdict, 
/**
 * What would mend it; empty where nothing is wrong.
 */
repairs: Array<Repair>, };

export type UsedColour = { 
/**
 * As it is written: shared or its own.
 */
tint: Tint, 
/**
 * What it looks like.
 */
color: Color, 
/**
 * In how many places.
 */
uses: number, };

export type SideColours = { 
/**
 * Used on this side, most used first.
 */
used: Array<UsedColour>, 
/**
 * Read from the pictures of this side.
 */
pictures: Array<Color>, 
/**
 * Computed from what is used: neighbours and opposites in hue that read on the ground.
 */
suggested: Array<Color>, 
/**
 * Darker to lighter steps of the colour that is being changed.
 */
steps: Array<Color>, };

export type Margins = { 
/**
 * From the top.
 */
top: Length, 
/**
 * From the right.
 */
right: Length, 
/**
 * From the bottom.
 */
bottom: Length, 
/**
 * From the left.
 */
left: Length, };

export type Marks = "none" | "crop" | "lines";

export type Turning = "either" | "upright";

export type PaperTurn = "longEdge" | "shortEdge";

export type BackStands = "headToHead" | "headToFoot";

export type LabelStock = { 
/**
 * Labels side by side.
 */
columns: number, 
/**
 * Labels below each other.
 */
rows: number, 
/**
 * Width and height of a label.
 */
label: Size, 
/**
 * From the left edge of the paper to the first label.
 */
left: Length, 
/**
 * From its top edge.
 */
top: Length, 
/**
 * From the left edge of one label to that of the next.
 */
across: Length, 
/**
 * From the top edge of one label to that of the next.
 */
down: Length, };

export type Cuts = { 
/**
 * Whether the knife goes from top to bottom of the sheet as it was printed, instead of from left to right.
 */
upright: boolean, 
/**
 * Where on the sheet the alike parts lay that are cut so; they can be laid on each other.
 */
parts: Array<Point>, 
/**
 * Width and height of each.
 */
size: Size, 
/**
 * Where, from the left or the top of the part.
 */
at: Array<Length>, };

export type PaperKind = { 
/**
 * How it is named in files and calls.
 */
id: string, 
/**
 * How people call it.
 */
name: string, 
/**
 * Upright.
 */
size: Size, };

export type CodeChange = { 
/**
 * What it says.
 */
says?: CodeWords, 
/**
 * What lies under it; nothing lets through what lies below.
 */
ground?: Tint | null, 
/**
 * The picture in its middle; nothing takes it away.
 */
mark?: AssetId | null, };

export type FinishChange = { "change": "corners", 
/**
 * Radius.
 */
radius: Length, } | { "change": "punch" } | { "change": "hole", 
/**
 * As it becomes.
 */
hole: Hole | null, } | { "change": "folds", 
/**
 * How many folds.
 */
count: number, 
/**
 * Whether they run from left to right.
 */
level: boolean, } | { "change": "fold", 
/**
 * Which, from the left or the top of the front.
 */
index: number, 
/**
 * Where it becomes.
 */
at: Length, };

export type InkKind = "process" | "spot";

export type ProofColour = { 
/**
 * What it is called, where it is shared.
 */
name: string | null, 
/**
 * As it is seen.
 */
seen: Color, 
/**
 * As it is printed.
 */
printed: Color, 
/**
 * How far apart they look, by CIEDE2000.
 */
off: number, 
/**
 * Whether that is much duller than it is seen.
 */
dull: boolean, 
/**
 * Cyan, magenta, yellow and black, in per cent.
 */
inks: [number, number, number, number], };

export type ProofPicture = { 
/**
 * What it is called.
 */
name: string, 
/**
 * Pixels an inch where it is shown.
 */
ppi: number, 
/**
 * The width up to which it has 300 of them, and up to which it has 200, in millimetres.
 */
holds: [number, number], };

export type ProofCard = { 
/**
 * Its flat colours, those that change most first.
 */
colours: Array<ProofColour>, 
/**
 * Its pictures, the softest first.
 */
pictures: Array<ProofPicture>, 
/**
 * What is seen through, in plain words; nothing where everything covers.
 */
through?: string, 
/**
 * Share of the side that prints much duller than it is seen, 0 to 1.
 */
dull: number, 
/**
 * The most ink anywhere on it, in per cent.
 */
most_ink: number, 
/**
 * What the paper takes, in per cent.
 */
limit: number, 
/**
 * What is proofed, in plain words.
 */
says: string, };

export type Good = { 
/**
 * Identity.
 */
id: string, 
/**
 * What it is called.
 */
name: string, 
/**
 * Width and height of its picture.
 */
view: [number, number], 
/**
 * Its outline, as path data.
 */
outline: string, 
/**
 * Seams and folds, as path data.
 */
seams: string, 
/**
 * Where it can be printed.
 */
areas: Array<GoodArea>, 
/**
 * The colours it comes in.
 */
colours: Array<Color>, };

export type GoodArea = { 
/**
 * What it is called.
 */
name: string, 
/**
 * Width and height that can be printed, in millimetres.
 */
size: [number, number], 
/**
 * Left, top and width of it on the picture of the thing, in units of that.
 */
at: [number, number, number], 
/**
 * What is not to be crossed in it, from its left, as shares of its width: the seam or the handle.
 */
clear?: Array<[number, number]>, };

export type ClothCard = { 
/**
 * Width and height at which it is printed, in millimetres.
 */
size: [number, number], 
/**
 * Share of the artwork that is seen on this colour, 0 to 1.
 */
seen: number, 
/**
 * Share of it that is neither ink nor cloth, 0 to 1.
 */
soft: number, 
/**
 * The thinnest line at that size, in millimetres; nothing where there is none.
 */
thinnest: number | null, 
/**
 * The fewest pixels an inch of its pictures at that size; nothing without any.
 */
ppi: number | null, 
/**
 * What should be looked at, in plain words.
 */
says: Array<string>, 
/**
 * What is fine, in one line.
 */
fine: string, };

export type ListColumn = { 
/**
 * What it is called.
 */
name: string, 
/**
 * What stands in its first rows.
 */
says: Array<string>, };

export type ListField = { 
/**
 * Which, as all that share it.
 */
kin: KinId, 
/**
 * How a cell fills it.
 */
fills: Fills, 
/**
 * What it is called.
 */
name: string, 
/**
 * What it says now.
 */
now: string, };

export type Filling = { 
/**
 * Index of the column.
 */
column: number, 
/**
 * Which part.
 */
kin: KinId, 
/**
 * How.
 */
fills: Fills, };

export type Fills = "words" | "picture" | "code" | "colour";

export type BadRow = { 
/**
 * Its line in the file, counted from 1.
 */
line: number, 
/**
 * Why, in plain words.
 */
says: string, };

export type SheetKind = { "kind": "fill" } | { "kind": "labels", 
/**
 * Where they lie.
 */
stock: LabelStock, } | { "kind": "booklet", 
/**
 * Of a sheet of its paper.
 */
thickness: Length, } | { "kind": "poster", 
/**
 * How far sheets lie over each other.
 */
overlap: Length, } | { "kind": "quarters" };

export type Backs = { 
/**
 * How the paper is turned.
 */
turn: PaperTurn, 
/**
 * Whether somebody turns it and puts it in again, instead of the printer.
 */
by_hand: boolean, 
/**
 * How the backs stand to their fronts.
 */
stands: BackStands, 
/**
 * By how much the printer misses on backs, as read off the test sheet: what it prints too far right and down is moved back.
 */
off: Point, };

export type SheetSetup = { 
/**
 * A paper by its name, or its size as typed.
 */
paper: string, 
/**
 * Whether it lies; without a say whichever way holds more.
 */
lying: boolean | null, 
/**
 * What the printer cannot reach, as seen.
 */
margins: Margins, 
/**
 * Between pieces.
 */
gap: Length, 
/**
 * Whether pieces carry their bleed.
 */
bleed: boolean, 
/**
 * How cuts are marked.
 */
marks: Marks, 
/**
 * Whether registration marks stand in the margins.
 */
registration: boolean, 
/**
 * Whether the pieces stand in the middle of the paper, instead of in its upper left.
 */
middle: boolean, 
/**
 * Which way pieces may lie.
 */
turning: Turning, 
/**
 * Mirrored, as for transfers that are ironed on.
 */
mirrored: boolean, 
/**
 * The backs; nothing prints fronts alone.
 */
backs: Backs | null, 
/**
 * What is laid how.
 */
kind: SheetKind, 
/**
 * Colours in the four process inks.
 */
process: boolean, 
/**
 * Hundredths of what a sheet costs; 0 where that is not known.
 */
price: number, 
/**
 * Pieces are printed at so much of their size, in thousandths; 1,000 is as they are.
 */
scale: number, };

export type PositionCard = { 
/**
 * Its trim.
 */
trim: Rect, 
/**
 * What it is: the piece, its side, and the row it is filled from.
 */
says: string, };

export type FittedSize = { 
/**
 * The size.
 */
size: Size, 
/**
 * As it is typed.
 */
typed: string, 
/**
 * In plain words.
 */
says: string, };

export type PlanStep = { 
/**
 * What to do, in plain words.
 */
says: string, 
/**
 * Where it is done on the sheet, where all of it lies on one.
 */
cuts: Cuts, };

export type Tight = { 
/**
 * At how much of its size, in thousandths.
 */
scale: number, 
/**
 * What that means, in plain words.
 */
says: string, };

export type PlanCard = { 
/**
 * The paper as it lies.
 */
paper: Size, 
/**
 * What of it can be printed on.
 */
printable: Rect, 
/**
 * How many sheets.
 */
sheets: number, 
/**
 * How many faces, blank ones among sheets with backs counted.
 */
faces: number, 
/**
 * How many pieces a whole sheet holds.
 */
up: number, 
/**
 * How many pieces there are in all.
 */
pieces: number, 
/**
 * Whether there are backs.
 */
backs: boolean, 
/**
 * Share of the paper that is cut away, 0 to 1.
 */
waste: number, 
/**
 * What the paper costs in hundredths, where a price is known.
 */
cost?: number, 
/**
 * In one line: what there is on how many sheets of what.
 */
says: string, 
/**
 * What is worth knowing about it: what bleed and gaps cost, at what size it is printed, and the like.
 */
notes: Array<string>, 
/**
 * How it is printed.
 */
instructions: Array<string>, 
/**
 * How the first sheet is cut, in order.
 */
steps: Array<PlanStep>, 
/**
 * Sizes at which one more stands across or down.
 */
tight: Array<Tight>, 
/**
 * What lies on the first face.
 */
positions: Array<PositionCard>, };

export type Problem = { 
/**
 * A stable short name.
 */
type: string, 
/**
 * HTTP status.
 */
status: number, 
/**
 * What kind of thing happened.
 */
title: string, 
/**
 * What happened, what was kept, what to do.
 */
detail: string, 
/**
 * The current revision, where a stale one was given.
 */
revision?: number, };

export type Event = { "event": "hello", 
/**
 * The pages this program serves; a page of another version reloads.
 */
version: string, } | { "event": "missed" } | { "event": "job", 
/**
 * Which.
 */
job: JobId, 
/**
 * The revision.
 */
revision: number, } | { "event": "board" } | { "event": "kept" } | { "event": "shelf" } | { "event": "families" } | { "event": "work", 
/**
 * How far it is.
 */
work: WorkCard, };

export type WorkCard = { 
/**
 * Its identity.
 */
id: string, 
/**
 * How far it is.
 */
state: WorkState, 
/**
 * Parts done.
 */
done: number, 
/**
 * Parts in all.
 */
of: number, };

export type WorkState = { "is": "waiting" } | { "is": "running" } | { "is": "done" } | { "is": "cancelled" } | { "is": "failed", 
/**
 * Why.
 */
says: string, };

export type StateCard = { 
/**
 * The revision it had.
 */
revision: number, 
/**
 * When it was kept, in milliseconds since 1970 UTC.
 */
keptAt: number, };

export type LockUpCard = { 
/**
 * Its number.
 */
number: number, 
/**
 * Whether there is nothing in it but letters.
 */
plain: boolean, 
/**
 * What is drawn, as an SVG fragment with identities of its own.
 */
svg: string, 
/**
 * Its box.
 */
frame: Frame, 
/**
 * The colour it stands on.
 */
ground: Color, };

export type Act = { "act": "setTitle", 
/**
 * 1 to 200 letters.
 */
title: string, } | { "act": "say", 
/**
 * The item with words.
 */
item: ItemId, 
/**
 * The whole text.
 */
text: string, } | { "act": "styleLetters", 
/**
 * The item with words.
 */
item: ItemId, 
/**
 * Where it begins, in UTF-16 units of the typed text.
 */
from: number, 
/**
 * Where it ends.
 */
to: number, 
/**
 * What changes.
 */
change: StyleChange, } | { "act": "toggleLetters", 
/**
 * The item with words.
 */
item: ItemId, 
/**
 * Where it begins, in UTF-16 units of the typed text.
 */
from: number, 
/**
 * Where it ends.
 */
to: number, 
/**
 * Which style.
 */
style: LetterStyle, } | { "act": "changeType", 
/**
 * Which.
 */
items: Array<ItemId>, 
/**
 * What changes.
 */
change: TypeChange, } | { "act": "setFill", 
/**
 * Which.
 */
items: Array<ItemId>, 
/**
 * Nothing takes the fill away.
 */
fill: Paint | null, } | { "act": "setOpacity", 
/**
 * Which.
 */
items: Array<ItemId>, 
/**
 * 0 to 1.
 */
opacity: Ratio, } | { "act": "setBlend", 
/**
 * Which.
 */
items: Array<ItemId>, 
/**
 * How.
 */
blend: Blend, } | { "act": "setFrost", 
/**
 * Which.
 */
items: Array<ItemId>, 
/**
 * As seen in the piece; nothing lets it be seen as it is.
 */
blur: Length | null, } | { "act": "changeLine", 
/**
 * Which.
 */
items: Array<ItemId>, 
/**
 * What changes; nothing takes the lines away.
 */
change: LineChange | null, } | { "act": "give", 
/**
 * Which.
 */
items: Array<ItemId>, 
/**
 * What.
 */
gift: Gift, } | { "act": "changeEffect", 
/**
 * Which.
 */
items: Array<ItemId>, 
/**
 * Its place in the list of the first.
 */
index: number, 
/**
 * What changes.
 */
change: EffectChange, } | { "act": "dropEffect", 
/**
 * Which.
 */
items: Array<ItemId>, 
/**
 * Its place in the list of the first.
 */
index: number, } | { "act": "addStep", 
/**
 * Which.
 */
items: Array<ItemId>, 
/**
 * The group they are, where it is treated as a whole.
 */
group?: GroupId, 
/**
 * The kind of step.
 */
kind: string, 
/**
 * The picture that is laid over, for the kind that does.
 */
over?: AssetId, } | { "act": "setStep", 
/**
 * Which.
 */
items: Array<ItemId>, 
/**
 * The group they are, where it is treated as a whole.
 */
group?: GroupId, 
/**
 * Its place in the list of the first.
 */
at: number, 
/**
 * What it becomes.
 */
step: Treatment, } | { "act": "dropStep", 
/**
 * Which.
 */
items: Array<ItemId>, 
/**
 * The group they are, where it is treated as a whole.
 */
group?: GroupId, 
/**
 * Its place in the list of the first.
 */
at: number, } | { "act": "moveStep", 
/**
 * Which.
 */
items: Array<ItemId>, 
/**
 * The group they are, where it is treated as a whole.
 */
group?: GroupId, 
/**
 * Its place in the list of the first.
 */
at: number, 
/**
 * Where it goes.
 */
to: number, } | { "act": "setSteps", 
/**
 * Which.
 */
items: Array<ItemId>, 
/**
 * The group they are, where it is treated as a whole.
 */
group?: GroupId, 
/**
 * In order.
 */
steps: Array<Treatment>, } | { "act": "takeRecipe", 
/**
 * Which.
 */
items: Array<ItemId>, 
/**
 * The group they are, where it is treated as a whole.
 */
group?: GroupId, 
/**
 * Its name.
 */
name: string, 
/**
 * How much of it.
 */
strength: Ratio, } | { "act": "treatAlike", 
/**
 * Which.
 */
item: ItemId, 
/**
 * Those of every piece.
 */
everywhere: boolean, } | { "act": "autoLevels", 
/**
 * Which.
 */
item: ItemId, 
/**
 * The group they are, where it is treated as a whole.
 */
group?: GroupId, } | { "act": "makeNeutral", 
/**
 * Which.
 */
item: ItemId, 
/**
 * The group they are, where it is treated as a whole.
 */
group?: GroupId, 
/**
 * The point.
 */
at: Focus, } | { "act": "maskArea", 
/**
 * Which.
 */
items: Array<ItemId>, 
/**
 * The group they are, where it is treated as a whole.
 */
group?: GroupId, 
/**
 * The place of the step in the list of the first.
 */
at: number, 
/**
 * The kind of area.
 */
kind: AreaKind, 
/**
 * Where the hand went, in fractions of what is treated.
 */
way: Array<Focus>, } | { "act": "maskSubject", 
/**
 * Which.
 */
item: ItemId, 
/**
 * The place of the step in its list.
 */
at: number, 
/**
 * The mask that was found.
 */
mask: AssetId, } | { "act": "maskStroke", 
/**
 * Which.
 */
items: Array<ItemId>, 
/**
 * The group they are, where it is treated as a whole.
 */
group?: GroupId, 
/**
 * The place of the step in the list of the first.
 */
at: number, 
/**
 * The brush.
 */
brush: BrushSetting, 
/**
 * Where the hand went, in fractions of what is treated.
 */
way: Array<Focus>, } | { "act": "paintSpot", 
/**
 * Which.
 */
item: ItemId, 
/**
 * The place of the step in its list.
 */
at: number, 
/**
 * The brush.
 */
brush: BrushSetting, 
/**
 * Where the hand went, in fractions of the picture.
 */
way: Array<Focus>, } | { "act": "dropSpot", 
/**
 * Which.
 */
item: ItemId, 
/**
 * The place of the step in its list.
 */
at: number, } | { "act": "setUpright", 
/**
 * Which.
 */
item: ItemId, 
/**
 * What changes.
 */
change: UprightChange, } | { "act": "levelPicture", 
/**
 * Which.
 */
item: ItemId, } | { "act": "cutTo", 
/**
 * Which.
 */
item: ItemId, 
/**
 * Width; 0 for the proportions of the picture.
 */
across: number, 
/**
 * Height.
 */
down: number, } | { "act": "trace", 
/**
 * Which.
 */
item: ItemId, 
/**
 * How.
 */
wish: TraceWish, } | { "act": "putOn", 
/**
 * Which.
 */
item: ItemId, 
/**
 * On what.
 */
on: PutOn, } | { "act": "lightGroup", 
/**
 * Which.
 */
group: GroupId, 
/**
 * How.
 */
light: GroupLight, } | { "act": "cutOut", 
/**
 * Which.
 */
item: ItemId, 
/**
 * The mask that was found.
 */
mask: AssetId, } | { "act": "cutStroke", 
/**
 * Which.
 */
item: ItemId, 
/**
 * What it says.
 */
kind: CutStroke, 
/**
 * The brush.
 */
brush: BrushSetting, 
/**
 * Where the hand went, in fractions of the picture.
 */
way: Array<Focus>, } | { "act": "changeCut", 
/**
 * Which.
 */
item: ItemId, 
/**
 * What changes.
 */
change: CutChange, } | { "act": "showWhole", 
/**
 * Which.
 */
item: ItemId, } | { "act": "subjectInFront", 
/**
 * Which.
 */
item: ItemId, 
/**
 * The mask that was found.
 */
mask: AssetId, } | { "act": "changeGroupLook", 
/**
 * Which.
 */
group: GroupId, 
/**
 * What changes.
 */
change: GroupChange, } | { "act": "addOver", 
/**
 * The side.
 */
side: SideId, } | { "act": "changeBacking", 
/**
 * Which.
 */
items: Array<ItemId>, 
/**
 * What changes; nothing takes it away.
 */
change: BackingChange | null, } | { "act": "setOutline", 
/**
 * Which.
 */
item: ItemId, 
/**
 * The outline; its lengths are those at a place scale of one.
 */
outline: Outline, } | { "act": "combineOtherwise", 
/**
 * Which.
 */
item: ItemId, 
/**
 * How.
 */
how: Combine, } | { "act": "release", 
/**
 * Which.
 */
item: ItemId, 
/**
 * Whether it is on its own from now on.
 */
own: boolean, } | { "act": "setFit", 
/**
 * The frame.
 */
item: ItemId, 
/**
 * How.
 */
fit: PictureFit, } | { "act": "setFocus", 
/**
 * The frame.
 */
item: ItemId, 
/**
 * A point of the sheet where it is seen.
 */
at: Point, } | { "act": "refit", 
/**
 * The frame.
 */
item: ItemId, } | { "act": "turnPicture", 
/**
 * The frame.
 */
item: ItemId, 
/**
 * Clockwise.
 */
turn?: Angle, 
/**
 * Mirrored left to right.
 */
flip?: boolean, } | { "act": "move", 
/**
 * Which; locked ones stay.
 */
items: Array<ItemId>, 
/**
 * To the right.
 */
dx: Length, 
/**
 * Down.
 */
dy: Length, } | { "act": "resize", 
/**
 * Which.
 */
item: ItemId, 
/**
 * Its new box, before its turn about the middle.
 */
to: Rect, 
/**
 * The handle.
 */
grip: Grip, 
/**
 * Whether a cell of an arrangement leaves its neighbours as they are.
 */
apart: boolean, } | { "act": "setBox", 
/**
 * Which.
 */
item: ItemId, 
/**
 * What is set.
 */
numbers: BoxNumbers, } | { "act": "turnTo", 
/**
 * Which.
 */
item: ItemId, 
/**
 * Clockwise.
 */
turn: Angle, } | { "act": "mirror", 
/**
 * Which.
 */
items: Array<ItemId>, } | { "act": "setFlags", 
/**
 * Which.
 */
items: Array<ItemId>, 
/**
 * Cannot be picked on the stage.
 */
locked?: boolean, 
/**
 * Neither shown nor exported.
 */
hidden?: boolean, } | { "act": "nameItem", 
/**
 * Which.
 */
item: ItemId, 
/**
 * 1 to 200 letters.
 */
name: string | null, } | { "act": "putBelow", 
/**
 * Which.
 */
item: ItemId, 
/**
 * What it goes below; nothing means in front of everything.
 */
other: ItemId | null, } | { "act": "dropTie", 
/**
 * The item.
 */
item: ItemId, 
/**
 * Its place in the list.
 */
index: number, } | { "act": "setTieLength", 
/**
 * The item.
 */
item: ItemId, 
/**
 * Its place in the list.
 */
index: number, 
/**
 * The distance, or how much longer.
 */
length: Length, } | { "act": "changeStack", 
/**
 * The side.
 */
side: SideId, 
/**
 * The group that is a stack.
 */
group: GroupId, 
/**
 * What changes; nothing lets its members space freely again.
 */
change: StackChange | null, } | { "act": "changeGuides", 
/**
 * The piece.
 */
piece: PieceId, 
/**
 * What changes.
 */
change: GuideChange, } | { "act": "addGuide", 
/**
 * The piece.
 */
piece: PieceId, 
/**
 * Upright or level.
 */
upright: boolean, 
/**
 * Where; nothing means in the middle.
 */
at?: Length, } | { "act": "moveGuide", 
/**
 * The piece.
 */
piece: PieceId, 
/**
 * Its place in the list.
 */
index: number, 
/**
 * Where to; nothing, or beside the sheet, takes it away.
 */
at: Length | null, } | { "act": "spreadGuides", 
/**
 * The piece that has them.
 */
piece: PieceId, } | { "act": "setGround", 
/**
 * The side.
 */
side: SideId, 
/**
 * Nothing makes the sheet clear.
 */
ground: Paint | null, } | { "act": "spreadGround", 
/**
 * The side that has it.
 */
side: SideId, } | { "act": "addColour", 
/**
 * Its name.
 */
name: string, 
/**
 * The colour.
 */
color: Color, } | { "act": "recolour", 
/**
 * Which.
 */
id: SwatchId, 
/**
 * The colour it becomes.
 */
to: Tint, } | { "act": "setInk", 
/**
 * Which.
 */
id: SwatchId, 
/**
 * The ink; nothing leaves it to the print shop.
 */
ink: Ink | null, } | { "act": "changeCode", 
/**
 * Which item.
 */
item: ItemId, 
/**
 * What becomes of it.
 */
change: CodeChange, } | { "act": "giveInk", 
/**
 * Which.
 */
id: SwatchId, 
/**
 * What kind of ink.
 */
kind: InkKind, } | { "act": "changeFinish", 
/**
 * Which.
 */
piece: PieceId, 
/**
 * What becomes of it.
 */
change: FinishChange, } | { "act": "renameColour", 
/**
 * Which.
 */
id: SwatchId, 
/**
 * 1 to 200 letters.
 */
name: string, } | { "act": "removeSide", 
/**
 * Which.
 */
side: SideId, } | { "act": "renameSide", 
/**
 * Which.
 */
side: SideId, 
/**
 * 1 to 200 letters.
 */
name: string, } | { "act": "renamePiece", 
/**
 * Which.
 */
piece: PieceId, 
/**
 * 1 to 200 letters.
 */
name: string, } | { "act": "addPieces", 
/**
 * Where they go.
 */
places: Array<PlaceWish>, 
/**
 * The piece they are arranged like; without one the nearest in shape.
 */
from?: PieceId, } | { "act": "duplicatePiece", 
/**
 * Which.
 */
piece: PieceId, } | { "act": "changeFormat", 
/**
 * Which.
 */
piece: PieceId, 
/**
 * An entry of the catalogue, or a size as typed.
 */
place: string, } | { "act": "arrangeOtherwise", 
/**
 * Which.
 */
piece: PieceId, 
/**
 * The number of the way.
 */
way: number, } | { "act": "arrangeLike", 
/**
 * Which.
 */
pieces: Array<PieceId>, 
/**
 * The model.
 */
like: PieceId, 
/**
 * What was placed by hand is arranged as well.
 */
all?: boolean, } | { "act": "followAgain", 
/**
 * Which, all of one piece.
 */
items: Array<ItemId>, } | { "act": "addElsewhere", 
/**
 * Which.
 */
item: ItemId, } | { "act": "removeEverywhere", 
/**
 * Which.
 */
items: Array<ItemId>, } | { "act": "keepProperty", 
/**
 * Which item.
 */
item: ItemId, 
/**
 * Which property.
 */
property: Property, 
/**
 * Whether it is its own.
 */
own: boolean, } | { "act": "keepContent", 
/**
 * Which item.
 */
item: ItemId, 
/**
 * Whether it is its own.
 */
own: boolean, } | { "act": "redesign", 
/**
 * Which.
 */
design: string, } | { "act": "putRight", 
/**
 * On which side.
 */
side: SideId, 
/**
 * With which item; nothing where it is about the side as a whole.
 */
item?: ItemId, 
/**
 * What was the matter.
 */
kind: FindingKind, 
/**
 * As it was said.
 */
says: string, } | { "act": "repeatMove", 
/**
 * Which.
 */
pieces: Array<PieceId>, } | { "act": "askNextTime", 
/**
 * An item that says them.
 */
item: ItemId, 
/**
 * Whether so.
 */
asked: boolean, } | { "act": "setAside", 
/**
 * Its key.
 */
finding: string, 
/**
 * Why it may stay.
 */
reason: string | null, } | { "act": "removePiece", 
/**
 * Which.
 */
piece: PieceId, } | { "act": "movePiece", 
/**
 * Which.
 */
piece: PieceId, 
/**
 * Its new position, from 0.
 */
index: number, } | { "act": "addBack", 
/**
 * The side.
 */
after: SideId, } | { "act": "moveSide", 
/**
 * Which.
 */
side: SideId, 
/**
 * Its new position, from 0.
 */
index: number, } | { "act": "add", 
/**
 * Where.
 */
side: SideId, 
/**
 * What.
 */
what: New, 
/**
 * The colour last chosen.
 */
last?: Tint, 
/**
 * Where its middle comes to lie; where there is room, if nothing is said.
 */
at?: Point, } | { "act": "replaceRemoved", 
/**
 * Whose tray.
 */
piece: PieceId, 
/**
 * What was taken away.
 */
item: ItemId, 
/**
 * What comes instead.
 */
what: New, 
/**
 * The colour last chosen.
 */
last?: Tint, } | { "act": "addSide", 
/**
 * After which.
 */
after: SideId, 
/**
 * Whether everything on it is copied.
 */
copy: boolean, } | { "act": "duplicate", 
/**
 * Which.
 */
items: Array<ItemId>, 
/**
 * What the first of them was copied from: the copies go on in the step between the two.
 */
after?: ItemId, 
/**
 * Exactly this step, to the right and down.
 */
step?: Point, 
/**
 * How many.
 */
times?: number, } | { "act": "show", 
/**
 * The frame.
 */
item: ItemId, 
/**
 * The picture.
 */
picture: AssetId, } | { "act": "crop", 
/**
 * The frame.
 */
item: ItemId, 
/**
 * To the right along the frame.
 */
dx: Length, 
/**
 * Down along the frame.
 */
dy: Length, 
/**
 * About the middle of the frame.
 */
factor: number, } | { "act": "replaceColour", 
/**
 * The colour to be replaced.
 */
from: Tint, 
/**
 * What comes in its place.
 */
to: Tint, } | { "act": "mend", 
/**
 * The item with words.
 */
item: ItemId, 
/**
 * How.
 */
repair: Repair, } | { "act": "typeSize", 
/**
 * The item.
 */
item: ItemId, 
/**
 * Size.
 */
size: Length, } | { "act": "align", 
/**
 * Which.
 */
items: Array<ItemId>, 
/**
 * By which edge or middle.
 */
edge: AlignEdge, 
/**
 * To what.
 */
to: AlignTo, } | { "act": "distribute", 
/**
 * Which.
 */
items: Array<ItemId>, 
/**
 * In which direction.
 */
axis: Axis, 
/**
 * Exactly this gap; without one the room there is is shared out.
 */
gap: Length | null, } | { "act": "matchSize", 
/**
 * Which.
 */
items: Array<ItemId>, 
/**
 * The one that stays.
 */
key: ItemId, 
/**
 * Widths, heights or both.
 */
alike: Alike, } | { "act": "tidy", 
/**
 * Which.
 */
items: Array<ItemId>, } | { "act": "scale", 
/**
 * Which.
 */
items: Array<ItemId>, 
/**
 * The point of the sheet that stays.
 */
about: Point, 
/**
 * Times.
 */
factor: number, } | { "act": "turn", 
/**
 * Which.
 */
items: Array<ItemId>, 
/**
 * The point of the sheet that stays.
 */
about: Point, 
/**
 * Clockwise.
 */
by: Angle, } | { "act": "swapGraphic", 
/**
 * The drawing.
 */
item: ItemId, 
/**
 * The graphic that comes in its place.
 */
graphic: string, } | { "act": "repaint", 
/**
 * The drawing.
 */
item: ItemId, 
/**
 * Their colour.
 */
from: Tint, 
/**
 * What they get.
 */
to: Paint, } | { "act": "mapColours", 
/**
 * The drawing.
 */
item: ItemId, } | { "act": "paste", 
/**
 * Where.
 */
side: SideId, 
/**
 * What.
 */
clipping: Clipping, 
/**
 * Where the middle of it comes to lie; where it was copied from, if nothing is said.
 */
at?: Point, } | { "act": "pasteLook", 
/**
 * Which.
 */
items: Array<ItemId>, 
/**
 * What was copied.
 */
clipping: Clipping, } | { "act": "arrangePictures", 
/**
 * Where.
 */
side: SideId, 
/**
 * Which, in their order.
 */
pictures: Array<AssetId>, 
/**
 * Gaps, margin and corners.
 */
room: MosaicRoom, 
/**
 * The number of the arrangement among those that are offered, from 0.
 */
number: number, } | { "act": "rearrange", 
/**
 * The frames, in their order.
 */
items: Array<ItemId>, 
/**
 * Gaps, margin and corners.
 */
room: MosaicRoom, 
/**
 * The number of the arrangement among those that are offered, from 0; nothing keeps the one it is.
 */
number: number | null, } | { "act": "swapPictures", 
/**
 * One frame.
 */
a: ItemId, 
/**
 * The other.
 */
b: ItemId, } | { "act": "combine", 
/**
 * Which, of one side.
 */
items: Array<ItemId>, 
/**
 * How.
 */
how: Combine, } | { "act": "frameFrom", 
/**
 * The frame.
 */
frame: ItemId, 
/**
 * Whose outline.
 */
from: ItemId, } | { "act": "takeApart", 
/**
 * Which.
 */
item: ItemId, } | { "act": "group", 
/**
 * Which, of one side.
 */
items: Array<ItemId>, } | { "act": "ungroup", 
/**
 * Which.
 */
items: Array<ItemId>, } | { "act": "remove", 
/**
 * Which.
 */
items: Array<ItemId>, } | { "act": "putBack", 
/**
 * Whose tray.
 */
piece: PieceId, 
/**
 * What.
 */
item: ItemId, } | { "act": "stack", 
/**
 * Which, of one side.
 */
items: Array<ItemId>, 
/**
 * How they follow each other.
 */
direction: Direction, } | { "act": "addContacts", 
/**
 * Where.
 */
side: SideId, 
/**
 * The stack they go under; nothing makes a new one.
 */
stack?: GroupId, 
/**
 * As typed.
 */
lines: Array<string>, 
/**
 * The colour last chosen.
 */
last?: Tint, } | { "act": "connect", 
/**
 * Where it begins.
 */
from: ItemId, 
/**
 * Where it ends.
 */
to: ItemId, 
/**
 * Whether it ends in an arrow.
 */
arrow: boolean, 
/**
 * The colour last chosen.
 */
last?: Tint, } | { "act": "callOut", 
/**
 * The picture.
 */
picture: ItemId, 
/**
 * Where the spot lies on the sheet.
 */
at: Point, 
/**
 * The colour last chosen.
 */
last?: Tint, } | { "act": "reorder", 
/**
 * Which.
 */
items: Array<ItemId>, 
/**
 * Where to.
 */
order: Order, } | { "act": "tie", 
/**
 * Which.
 */
item: ItemId, 
/**
 * To what, and how.
 */
tie: Tie, } | { "act": "opposite", 
/**
 * The item.
 */
item: ItemId, 
/**
 * Left and right change places.
 */
across: boolean, 
/**
 * Top and bottom change places.
 */
down: boolean, 
/**
 * It is mirrored as well.
 */
mirrored: boolean, } | { "act": "moveEdge", 
/**
 * The cell.
 */
item: ItemId, 
/**
 * Which edge.
 */
edge: BoxEdge, 
/**
 * To the right or down.
 */
by: Length, } | { "act": "linkColour", 
/**
 * Which.
 */
items: Array<ItemId>, 
/**
 * The one that has it.
 */
to: ItemId, } | { "act": "swapColours", 
/**
 * One or two.
 */
items: Array<ItemId>, } | { "act": "applyPalette", 
/**
 * Its name.
 */
name: string, } | { "act": "undo" } | { "act": "redo" };

export type New = { "kind": "words", 
/**
 * The part of the message it is for.
 */
part: Part, 
/**
 * What it says at once; nothing shows a prompt.
 */
text?: string, } | { "kind": "panel" } | { "kind": "hand", 
/**
 * The lines, as the pen made them.
 */
lines: Array<Array<PenPoint>>, 
/**
 * Thickness where it was pressed hardest; nothing suits the sheet.
 */
thickness?: Length, 
/**
 * How far unevenness is smoothed away, 0 to 10.
 */
smoothing: number, 
/**
 * How far light pressure thins the line, in percent.
 */
thinning: number, } | { "kind": "picture", 
/**
 * Which.
 */
picture: AssetId | null, } | { "kind": "shape", 
/**
 * Its outline.
 */
outline: Outline, } | { "kind": "graphic", 
/**
 * Which.
 */
graphic: string, 
/**
 * Words an opening is put around, instead of new ones.
 */
around?: ItemId, } | { "kind": "layers", 
/**
 * From the back to the front.
 */
layers: Array<Layer>, 
/**
 * Width of the drawing in its own units.
 */
width: number, 
/**
 * Height of the drawing in its own units.
 */
height: number, } | { "kind": "code", 
/**
 * What it says.
 */
says: CodeWords, } | { "kind": "drawing", 
/**
 * As it was read.
 */
drawing: Drawing, };

export type PlaceWish = { 
/**
 * An entry of the catalogue, or a size as typed.
 */
place: string, 
/**
 * The number of the way it is arranged in; without one the best.
 */
way?: number, };

export type WayCard = { 
/**
 * Its number, for asking for it.
 */
number: number, 
/**
 * What it is like, in a few words.
 */
name: string, 
/**
 * Every word can be read and stands in its field.
 */
fits: boolean, 
/**
 * What there is no room for.
 */
left: Array<string>, };

export type SeenCard = { 
/**
 * Which.
 */
piece: PieceId, 
/**
 * Its width there.
 */
width: Length, };

export type RepeatCard = { 
/**
 * Which.
 */
piece: PieceId, 
/**
 * Whether something of it was placed by hand there.
 */
byHand: boolean, };

export type ActRequest = { 
/**
 * The revision the person was looking at.
 */
base: number, 
/**
 * What is done.
 */
act: Act, 
/**
 * Acts of one gesture are undone as one.
 */
gesture?: string, 
/**
 * The side on the stage, whose changed nodes are wanted.
 */
watch?: SideId, 
/**
 * The item being typed in, whose places of the caret are wanted.
 */
carets?: ItemId, };

export type ActResponse = { 
/**
 * The new revision.
 */
revision: number, 
/**
 * When it was kept, in milliseconds since 1970 UTC.
 */
keptAt: number, 
/**
 * What changed in the job.
 */
delta: JobDelta, 
/**
 * What changed on the stage.
 */
stage?: StageDelta, 
/**
 * Items that were made.
 */
made: Array<ItemId>, 
/**
 * Whether something can be undone.
 */
canUndo: boolean, 
/**
 * Whether something can be redone.
 */
canRedo: boolean, };

export type StageBunch = { 
/**
 * The group.
 */
group: GroupId, 
/**
 * Its first item, counted in the order of the stage.
 */
first: number, 
/**
 * How many items it has there.
 */
count: number, 
/**
 * What its look refers to, as an SVG fragment.
 */
defs: string, 
/**
 * Its look, as properties of style.
 */
style: string, 
/**
 * A picture in the place of its items, as an SVG fragment, where it is treated in a way that only pixels show.
 */
picture?: string, 
/**
 * Where the pictures are found that have to be there before it is shown.
 */
parts?: Array<string>, };

export type StageItem = { 
/**
 * Which.
 */
id: ItemId, 
/**
 * What of its look is its own here.
 */
own: Array<Property>, 
/**
 * What is drawn, as an SVG fragment.
 */
svg: string, 
/**
 * Where the pictures are found that have to be there before it is shown.
 */
parts?: Array<string>, 
/**
 * Its box.
 */
frame: Frame, 
/**
 * The box around its very letters: left, top, width and height; nothing for what has none.
 */
ink: [number, number, number, number] | null, 
/**
 * What should be looked at, shown on the sheet at once.
 */
findings: Array<ItemFinding>, 
/**
 * Where it is nearly clear, so that a press means what lies below.
 */
sight: Sight | null, 
/**
 * Size of its type as set, in CSS pixels; 0 without words.
 */
typeSize: number, 
/**
 * The handles it has.
 */
handles: Handles, 
/**
 * Whether it looks wrong when only its width or its height changes.
 */
bound: boolean, 
/**
 * What it may still be given.
 */
gifts: Array<Gift>, 
/**
 * Of a drawing: its colours in the order they are first drawn, each of which can become another.
 */
colours: Array<Tint>, 
/**
 * Places of the caret, where asked for.
 */
carets: Array<Caret>, };

export type StageDelta = { 
/**
 * The side.
 */
side: SideId, 
/**
 * The revision of the job it is of.
 */
revision: number, 
/**
 * Finished width in CSS pixels.
 */
width: number, 
/**
 * Finished height in CSS pixels.
 */
height: number, 
/**
 * Bleed in CSS pixels.
 */
bleed: number, 
/**
 * How thick a line drawn by hand begins.
 */
pen: Length, 
/**
 * The ground as an SVG fragment, where it changed; empty for a clear sheet.
 */
ground?: string, 
/**
 * New and changed items.
 */
items: Array<StageItem>, 
/**
 * All items shown, back to front, where that changed.
 */
order?: Array<ItemId>, 
/**
 * The groups that are drawn by themselves, by their first item, those around others before them, where any of that changed.
 */
bunches?: Array<StageBunch>, 
/**
 * What the items of the side and of the tray of its piece are called, where that changed; nothing for one that is gone.
 */
names: { [key in ItemId]?: string | null }, 
/**
 * Items with words, in reading order, where that changed.
 */
reading?: Array<ItemId>, 
/**
 * The lines to lay things out by, where they changed.
 */
guides?: Array<GuideMark>, 
/**
 * The arrangements of pictures, each as its frames, where they changed.
 */
arrangements?: Array<Array<ItemId>>, };

export type OpenJob = { 
/**
 * The job.
 */
job: Job, 
/**
 * Its revision.
 */
revision: number, 
/**
 * When it was last kept.
 */
keptAt: number, 
/**
 * Whether something can be undone.
 */
canUndo: boolean, 
/**
 * Whether something can be redone.
 */
canRedo: boolean, };

export type JobCard = { 
/**
 * Identity.
 */
id: string, 
/**
 * Title.
 */
title: string, 
/**
 * Revision, which changes with every picture of it.
 */
revision: number, 
/**
 * When it last changed.
 */
changedAt: number, 
/**
 * Why it cannot be read, where it was found that it cannot.
 */
damaged?: string, 
/**
 * Its sides in order.
 */
sheets: Array<SheetCard>, };

export type SheetCard = { 
/**
 * The piece.
 */
piece: PieceId, 
/**
 * The side.
 */
side: SideId, 
/**
 * Name of the piece.
 */
name: string, 
/**
 * Width by height.
 */
aspect: number, };

export type DesignCard = { 
/**
 * Identity.
 */
id: string, 
/**
 * Name.
 */
name: string, 
/**
 * What it is good for.
 */
about: string, 
/**
 * Words it is found by.
 */
keywords: string, };

export type PictureCard = { 
/**
 * Identity.
 */
id: string, 
/**
 * Name.
 */
name: string, 
/**
 * Width in pixels.
 */
width: number, 
/**
 * Height in pixels.
 */
height: number, 
/**
 * Whether it shipped with the program.
 */
sample: boolean, };

export type PlaceSet = { 
/**
 * Its name.
 */
name: string, 
/**
 * Those of them there still are.
 */
places: Array<PlaceEntry>, };

export type Kept = { 
/**
 * Sets of places.
 */
sets: Array<PlaceSet>, 
/**
 * Formats of one's own.
 */
formats: Array<PlaceEntry>, 
/**
 * Words that are right.
 */
words: Array<string>, 
/**
 * How files are named.
 */
names: NamePattern, 
/**
 * How many places are added in one act at most.
 */
at_once: number, };

export type HandedCard = { 
/**
 * Which piece.
 */
piece: PieceId, 
/**
 * When, in milliseconds since 1970 UTC.
 */
at: number, 
/**
 * The names of its files.
 */
files: Array<string>, 
/**
 * Whether it still looks as it did.
 */
same: boolean, };

export type StartRequest = { 
/**
 * With a back, where a place is on paper and has one side.
 */
backs?: boolean, 
/**
 * The design; nothing means a blank sheet.
 */
design: string | null, 
/**
 * Catalogue entries or sizes as typed.
 */
places: Array<string>, 
/**
 * The lines a blank sheet begins with.
 */
grid?: Grid, 
/**
 * Words by part.
 */
words: Partial<Record<Part, string>>, };

export type NextRequest = { 
/**
 * Its title; without one it is a copy, and is called so.
 */
title?: string, 
/**
 * What is said anew, by what shares it.
 */
words: Record<string, string>, };

export type NextCard = { 
/**
 * The steps there are.
 */
steps: Array<StepCard>, 
/**
 * Title and words.
 */
next: NextOf, };

export type StepCard = { 
/**
 * Which.
 */
step: Pace, 
/**
 * What it is called.
 */
name: string, };

export type GridCard = { 
/**
 * Which.
 */
grid: Grid, 
/**
 * What it is called.
 */
name: string, 
/**
 * The size of the sheet that was asked for.
 */
size: Size, 
/**
 * Its lines on that sheet.
 */
marks: Array<GuideMark>, };

export type HandOverRequest = { 
/**
 * Which, in any order.
 */
pieces: Array<PieceId>, 
/**
 * Only these of their sides; of a piece none of whose sides is named, all.
 */
sides?: Array<SideId>, 
/**
 * Kind of file; without one each piece as the place it goes to takes it.
 */
kind?: FileKind, 
/**
 * Width in pixels, PNG and JPEG.
 */
width?: number, 
/**
 * Times the format's own pixels, PNG and JPEG; used where no width is given.
 */
times?: number, 
/**
 * 1 to 100, JPEG.
 */
quality?: number, 
/**
 * Leaves the ground out.
 */
clear: boolean, 
/**
 * Adds the bleed.
 */
bleed: boolean, 
/**
 * Adds crop marks and a slug around the bleed, PDF.
 */
marks: boolean, 
/**
 * Colours in the four process inks, PDF.
 */
process?: boolean, 
/**
 * For archives, PDF.
 */
lasting?: boolean, };

export type FileCard = { 
/**
 * Name.
 */
name: string, 
/**
 * Size in bytes.
 */
bytes: number, 
/**
 * The most its place takes, in bytes, where it is more than that.
 */
over?: number, };

export type MeasureRequest = { 
/**
 * What was typed.
 */
text: string, 
/**
 * Unit of bare numbers.
 */
unit: Unit, 
/**
 * What a pixel is.
 */
ppi: Ppi, 
/**
 * What 100 % is.
 */
whole?: Length, };

export type Typed<T> = { 
/**
 * The value.
 */
value: T, } | { 
/**
 * In a sentence.
 */
says: string, };

export type DrawingCard = { 
/**
 * The drawing.
 */
drawing: Drawing, 
/**
 * The same in layers, where it has words that stay words; else empty.
 */
layers: Array<Layer>, 
/**
 * What was left out or changed, in plain sentences.
 */
notes: Array<string>, };

export type GraphicsFound = { 
/**
 * The sets there are.
 */
sets: Array<GraphicSet>, 
/**
 * What was found, best first.
 */
graphics: Array<GraphicCard>, };

export type MosaicOf = { "pictures": Array<AssetId> } | { "items": Array<ItemId> };

export type MosaicRequest = { 
/**
 * Which.
 */
of: MosaicOf, 
/**
 * Gaps, margin and corners; nothing means as they are, or those to begin with.
 */
room?: MosaicRoom, };

export type DarkroomCard = { 
/**
 * Kinds of steps, by wish.
 */
kinds: Array<KindCard>, 
/**
 * Most steps of a picture.
 */
most: number, 
/**
 * How colours can mix.
 */
blends: Array<Blend>, 
/**
 * Surfaces, and what they are called.
 */
textures: Array<TextureName>, 
/**
 * How the brush that paints masks starts.
 */
brush: BrushSetting, 
/**
 * How the brush that patches spots starts.
 */
spot: BrushSetting, 
/**
 * How tracing starts.
 */
trace: TraceWish, 
/**
 * Most colours in which a picture is traced.
 */
most_colours: number, };

export type PrintRequest = { 
/**
 * In order.
 */
steps: Array<Treatment>, 
/**
 * How wide it is shown, in pixels.
 */
width: number, };

export type FoundSubject = { 
/**
 * How much of each pixel is subject, as a grey picture.
 */
mask: AssetId, 
/**
 * Percent of the picture that is.
 */
share: number, };

export type TextureName = { 
/**
 * Which.
 */
value: Texture, 
/**
 * What it is called.
 */
name: string, };

export type PrintPlace = { 
/**
 * Left, top, width and height of what the print covers.
 */
area: [number, number, number, number], 
/**
 * The same of what places in the steps are fractions of.
 */
field: [number, number, number, number], 
/**
 * The outline it is seen through, as SVG path data; empty where it is seen whole.
 */
outline: string, };

export type PrintCard = { 
/**
 * Where it is found.
 */
address: string, 
/**
 * Width of what places in the steps are fractions of.
 */
width: number, 
/**
 * Its height.
 */
height: number, 
/**
 * What lengths in the steps are fractions of, in the same units.
 */
longer: number, 
/**
 * Where it lies on the sheet, where it is no picture of an item.
 */
on_sheet?: PrintPlace, 
/**
 * How its tones lie.
 */
tones: Tones, };

export type RecipeCard = { 
/**
 * What it is called.
 */
name: string, 
/**
 * Where it is seen.
 */
address: string, 
/**
 * Whether it was kept by hand, and can be let go.
 */
kept: boolean, };

export type RecipeCodeCard = { 
/**
 * Where it is seen.
 */
address: string, 
/**
 * What of the recipe is in it.
 */
says: string, 
/**
 * Name for a file, without its ending.
 */
file: string, };

export type TraceCard = { 
/**
 * Where it is seen.
 */
address: string, 
/**
 * Its colours.
 */
colours: number, 
/**
 * Points of all its outlines.
 */
points: number, };

export type MadeKind = "program" | "typeface" | "words" | "graphics" | "profile";

export type MadeCard = { 
/**
 * What it is.
 */
kind: MadeKind, 
/**
 * What it is called.
 */
name: string, 
/**
 * Its licence in a few words.
 */
licence: string, 
/**
 * By what its whole text is asked for; nothing where the name of the licence says all.
 */
text?: string, };

export type AboutCard = { 
/**
 * Version of the program.
 */
version: string, 
/**
 * What ships.
 */
made: Array<MadeCard>, };

export type PrintCopies = { 
/**
 * Which.
 */
piece: PieceId, 
/**
 * How many; without a number one sheet is filled.
 */
count?: number, };

export type PrintWish = { 
/**
 * Which pieces.
 */
pieces: Array<PrintCopies>, 
/**
 * How they are laid on sheets.
 */
setup: SheetSetup, 
/**
 * Once for each row of the list of the first.
 */
list?: boolean, };

export type KeptSetup = { 
/**
 * Its name.
 */
name: string, 
/**
 * The layout.
 */
setup: SheetSetup, };

export type KindOffer = { 
/**
 * As it begins.
 */
kind: SheetKind, 
/**
 * Its name.
 */
name: string, };

export type SheetStart = { 
/**
 * For this piece.
 */
setup: SheetSetup, 
/**
 * What can be laid of it.
 */
kinds: Array<KindOffer>, 
/**
 * Papers people know by name.
 */
papers: Array<PaperKind>, 
/**
 * Layouts kept.
 */
kept: Array<KeptSetup>, };

export type ListRow = { 
/**
 * Its line in the file.
 */
line: number, 
/**
 * What it says first.
 */
says: string, };

export type ListCard = { 
/**
 * Name of the file.
 */
name: string, 
/**
 * Its columns.
 */
columns: Array<ListColumn>, 
/**
 * What columns can fill.
 */
fields: Array<ListField>, 
/**
 * Which fills which.
 */
fillings: Array<Filling>, 
/**
 * The first of the good rows.
 */
rows: Array<ListRow>, 
/**
 * How many good rows there are.
 */
good: number, 
/**
 * Rows from which nothing is made.
 */
bad: Array<BadRow>, 
/**
 * Rows whose words do not fit.
 */
spills: Array<BadRow>, };

export type ListWish = { 
/**
 * Each with its column.
 */
fillings: Array<Filling>, };

export type ListedFiles = { 
/**
 * One PDF with a page for each row, instead of a file for each.
 */
together: boolean, 
/**
 * Kind of the files.
 */
kind: FileKind, 
/**
 * With the bleed.
 */
bleed?: boolean, };

export type ShopPaper = { 
/**
 * Identity.
 */
id: string, 
/**
 * What it is called.
 */
name: string, 
/**
 * What setting up costs, in hundredths.
 */
setup: number, 
/**
 * What 100 pieces of the size of a card cost on one side, in hundredths.
 */
hundred: number, };

export type OrderWish = { 
/**
 * On which paper.
 */
paper: string, 
/**
 * How many.
 */
count: number, };

export type OrderState = "rejected" | "accepted" | "printing" | "cutting" | "ready";

export type ShopCard = { 
/**
 * Its name.
 */
name: string, 
/**
 * What it prints on.
 */
papers: Array<ShopPaper>, 
/**
 * How many an order begins with.
 */
count: number, };

export type QuoteCard = { 
/**
 * In hundredths.
 */
price: number, 
/**
 * What it is for.
 */
says: string, };

export type OrderCard = { 
/**
 * Identity.
 */
id: string, 
/**
 * Name of the piece.
 */
piece: string, 
/**
 * The revision of the job that was printed.
 */
revision: number, 
/**
 * When it was placed, in milliseconds since 1970 UTC.
 */
at: number, 
/**
 * On which paper.
 */
paper: string, 
/**
 * How many.
 */
count: number, 
/**
 * What it costs, in hundredths.
 */
price: number, 
/**
 * Where it is.
 */
state: OrderState, 
/**
 * Why it was sent back, where it was.
 */
reasons: Array<string>, };

/** Fine units of a stored length in one inch. */
export const FINE_UNITS_PER_INCH = 914400
