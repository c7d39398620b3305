"""Writes journeys/gallery/job.json: one job whose sheets use everything an item can be given, to hold the outputs against each other."""

import hashlib
import json
import math
import pathlib

ROOT = pathlib.Path(__file__).resolve().parent.parent
FINE, WHOLE, DEGREE = 9525, 1_000_000_000, 1_000_000


def px(v):
    return round(v * FINE)


def ratio(v):
    return round(v * WHOLE)


def deg(v):
    return round(v * DEGREE)


def picture(name):
    return hashlib.sha256((ROOT / "assets" / "pictures" / f"{name}.jpg").read_bytes()).hexdigest()[:40]


def flat(tint, opacity=1):
    return {"kind": "flat", "tint": tint, "opacity": ratio(opacity)}


def stops(*pairs):
    return [{"at": ratio(at), "tint": tint, "opacity": ratio(rest[0] if rest else 1)} for at, tint, *rest in pairs]


def pattern(motif, ink, ground, size, angle=0):
    return {"kind": "pattern", "motif": motif, "ink": ink, "ground": ground, "size": px(size), "angle": deg(angle)}


def filled(name, zoom=1, x=0.5, y=0.5):
    return {"kind": "picture", "picture": picture(name), "focus": {"x": ratio(x), "y": ratio(y)}, "zoom": ratio(zoom)}


def stroke(tint, width, place="centre", join="mitre", cap="flat", dash=()):
    return {"paint": tint if isinstance(tint, dict) else flat(tint), "width": px(width), "place": place, "join": join, "cap": cap, "dash": [ratio(d) for d in dash]}


def shadow(dx, dy, blur, tint="#000000", opacity=0.5, inner=False):
    return {"kind": "innerShadow" if inner else "shadow", "dx": px(dx), "dy": px(dy), "blur": px(blur), "tint": tint, "opacity": ratio(opacity)}


def relief(light, depth, blur, strength=0.8, pressed=False):
    return {"kind": "relief", "light": deg(light), "depth": px(depth), "blur": px(blur), "strength": ratio(strength), "pressed": pressed}


def look(fill=None, line=None, opacity=1, blend="normal", kind=None, effects=(), backing=None, frost=None):
    out = {"fill": fill, "stroke": line, "opacity": ratio(opacity), "blend": blend, "type": kind}
    if effects:
        out["effects"] = list(effects)
    if backing:
        out["backing"] = backing
    if frost:
        out["frost"] = px(frost)
    return out


def setting(size, family="Work Sans", weight=600, **more):
    out = {
        "family": family, "weight": weight, "italic": False, "size": px(size), "leading": ratio(1.2), "tracking": 0, "align": "start", "valign": "top", "caps": False,
        "underline": False, "fit": {"kind": "grow"}, "even": False, "strike": False, "paragraphGap": 0, "list": "none",
        "forms": {"smallCaps": False, "tabular": False, "oldFigures": False, "noLigatures": False}, "curve": None, "lockUp": None,
    }
    out.update(more)
    return out


def backing(reach, outline, fill, pad_x, pad_y, line=None):
    return {"reach": reach, "outline": outline, "fill": fill, "stroke": line, "padX": ratio(pad_x), "padY": ratio(pad_y)}


RECT = {"kind": "rect", "radius": 0}


def rounded(radius):
    return {"kind": "rect", "radius": px(radius)}


class Sheet:
    def __init__(self, name, size, ground, bleed=0, ppi=96):
        self.name, self.size, self.ground, self.bleed, self.ppi = name, size, ground, bleed, ppi
        self.items = []
        self.stacks = []

    def put(self, box, content, appearance, part="ornament", turn=0, flip=False, scale=1, crop=None, groups=(), ties=()):
        self.items.append((box, content, appearance, part, turn, flip, scale, crop, groups, ties))

    def shape(self, box, outline, appearance, **more):
        self.put(box, {"kind": "shape", "outline": outline}, appearance, **more)

    def words(self, box, text, appearance, **more):
        runs = text if isinstance(text, list) else [{"text": text, "style": {}}]
        self.put(box, {"kind": "words", "text": runs, "prompt": "Words"}, appearance, **{"part": "detail", **more})

    def frame(self, box, name, outline=RECT, fit="fill", appearance=None, **more):
        content = {"kind": "picture", "picture": picture(name), "focus": {"x": ratio(0.5), "y": ratio(0.5)}, "frame": outline, "fit": fit}
        self.put(box, content, appearance or look(), part="picture", **more)


def crop(zoom=1, turn=0, flip=False, x=0.5, y=0.5):
    return {"centre": {"x": ratio(x), "y": ratio(y)}, "zoom": ratio(zoom), "turn": deg(turn), "flip": flip}


BLACK, CLAY, SLIP, CELADON, COBALT = "@black", "@clay", "@slip", "@celadon", "@cobalt"


def light():
    s = Sheet("Light", (1080, 1080), flat(SLIP))
    s.frame((0, 0, 1080, 420), "kiln-glow")
    s.shape((60, 60, 260, 160), rounded(24), look(flat(SLIP, 0.3), line=stroke(SLIP, 2), frost=30))
    s.shape((380, 60, 200, 200), {"kind": "ellipse"}, look(flat(COBALT, 0.25), frost=16))
    s.words((640, 110, 380, 60), "Behind the kiln door", look(flat(BLACK), kind=setting(30), backing=backing("words", rounded(30), flat(SLIP, 0.4), 0.6, 0.4), frost=24))
    s.shape((200, 300, 300, 90), {"kind": "ribbon", "notch": ratio(0.35)}, look(flat(CLAY, 0.6), frost=20), turn=-8)
    s.shape((60, 480, 200, 160), rounded(20), look(flat(CELADON), effects=[shadow(0, 12, 24)]))
    s.shape((320, 480, 200, 160), rounded(20), look(flat(CELADON), effects=[shadow(14, 14, 0, CLAY, 1), shadow(-6, -6, 12, COBALT, 0.8)]), turn=12)
    s.shape((580, 480, 200, 160), rounded(20), look(flat(CELADON), effects=[shadow(-7, -8, 3, "#000000", 1, inner=True)]))
    s.shape((820, 480, 200, 160), {"kind": "star", "points": 12, "depth": ratio(0.2)}, look(flat(CLAY), effects=[relief(-45, 6, 6)]))
    s.words((60, 690, 460, 90), "Raised", look(flat(CLAY), kind=setting(84, "Archivo Black", 400), effects=[relief(-45, 3, 3)]))
    s.words((560, 690, 460, 90), "Pressed", look(flat(CELADON), kind=setting(84, "Archivo Black", 400), effects=[relief(-45, 3, 3, 1, True)]))
    s.words((60, 820, 460, 90), "Cut in", look(flat(COBALT), kind=setting(84, "Anton", 400), effects=[shadow(4, 5, 6, "#000000", 0.9, inner=True)]))
    s.words((560, 820, 460, 90), "Lifted", look(flat(BLACK), kind=setting(84, "Pacifico", 400), effects=[shadow(5, 7, 10, CLAY, 0.9)]), turn=-4)
    s.frame((60, 940, 180, 110), "celadon-mug", rounded(14), appearance=look(effects=[shadow(0, 6, 18)], line=stroke(SLIP, 6)))
    s.shape((300, 950, 160, 90), {"kind": "ellipse"}, look(flat(COBALT), opacity=0.5, effects=[shadow(10, 10, 8, "#000000", 0.8)]))
    s.shape((520, 950, 200, 90), RECT, look(None, line=stroke(CLAY, 10, join="round"), effects=[shadow(8, 8, 6)]))
    return s


def fills():
    s = Sheet("Fills", (1200, 900), {"kind": "linear", "angle": deg(160), "stops": stops((0, SLIP), (1, "#dfe7df"))})
    s.shape((40, 40, 200, 200), RECT, look({"kind": "linear", "angle": deg(35), "stops": stops((0, COBALT), (0.5, CELADON), (1, SLIP))}))
    s.shape((270, 40, 200, 200), {"kind": "ellipse"}, look({"kind": "radial", "stops": stops((0, SLIP), (1, CLAY))}))
    s.shape((500, 40, 200, 200), {"kind": "ellipse"}, look({"kind": "conic", "angle": deg(30), "stops": stops((0, COBALT), (0.33, CELADON), (0.66, CLAY), (1, COBALT))}))
    s.shape((730, 40, 200, 200), {"kind": "ring", "thickness": ratio(0.3)}, look({"kind": "conic", "angle": 0, "stops": stops((0, CLAY, 0.1), (1, CLAY))}))
    s.shape((960, 40, 200, 200), {"kind": "blob", "seed": 4}, look(filled("mist-hills")))
    for i, motif in enumerate(["dots", "stripes", "checks", "lattice", "zigzag", "scales", "crosses"]):
        s.shape((40 + i * 163, 280, 145, 145), rounded(18), look(pattern(motif, COBALT if i % 2 else CLAY, SLIP if i % 3 else None, 24 + i * 2, i * 15)))
    s.words((40, 470, 1120, 150), "Stoneware", look({"kind": "linear", "angle": deg(90), "stops": stops((0, COBALT), (1, CLAY))}, kind=setting(150, "Abril Fatface", 400)))
    s.words((40, 640, 560, 130), "KILN", look(filled("kiln-glow"), kind=setting(150, "Anton", 400)))
    s.words((460, 640, 700, 130), "Scales", look(pattern("scales", COBALT, CELADON, 16), kind=setting(140, "Archivo Black", 400)))
    s.shape((40, 820, 520, 50), RECT, look(pattern("stripes", BLACK, CELADON, 18, 45), line=stroke({"kind": "linear", "angle": deg(90), "stops": stops((0, CLAY), (1, COBALT))}, 8)))
    s.shape((600, 820, 560, 50), {"kind": "torn", "seed": 3, "depth": ratio(0.3)}, look(filled("linen", 1.4)))
    return s


def lines():
    s = Sheet("Lines", (1080, 720), flat("#ffffff"))
    for i, place in enumerate(["inside", "centre", "outside"]):
        x = 50 + i * 170
        s.shape((x, 50, 120, 120), RECT, look(flat(CELADON), line=stroke(COBALT, 14, place)))
        s.shape((x, 220, 120, 120), {"kind": "ellipse"}, look(flat(CELADON, 0.5), line=stroke(COBALT, 14, place)))
        s.shape((x, 390, 120, 120), {"kind": "ring", "thickness": ratio(0.4)}, look(None, line=stroke(CLAY, 8, place)))
        s.words((x - 10, 550, 160, 100), "Pot", look(flat(SLIP), kind=setting(76, "Archivo Black", 400), line=stroke(BLACK, 6, place, "round")))
    for i, join in enumerate(["mitre", "round", "bevel"]):
        s.shape((600 + i * 150, 50, 110, 110), {"kind": "star", "points": 5, "depth": ratio(0.5)}, look(None, line=stroke(BLACK, 12, "centre", join)))
    for i, (cap, dash) in enumerate([("flat", (3, 2)), ("round", (0.1, 2)), ("square", (2, 3)), ("flat", (5, 2, 1, 2))]):
        s.shape((600, 210 + i * 70, 430, 44), rounded(22), look(None, line=stroke(CLAY, 6, "centre", "mitre", cap, dash)))
    s.words((600, 510, 430, 150), "Clear", look(None, kind=setting(120, "Anton", 400), line=stroke(COBALT, 4, "outside", "round")))
    s.frame((880, 540, 150, 130), "tumblers", {"kind": "arch"}, appearance=look(line=stroke(CLAY, 10, "inside")))
    return s


def words():
    s = Sheet("Words", (1000, 1400), flat(SLIP))
    rich = [
        {"text": "Made ", "style": {}}, {"text": "slow.", "style": {"weight": 700, "tint": CLAY}}, {"text": " Used ", "style": {"italic": True}}, {"text": "daily", "style": {"underline": True, "tint": COBALT}},
        {"text": "\n1280 °C", "style": {"size": ratio(0.7)}}, {"text": "2", "style": {"script": "superscript"}}, {"text": " H", "style": {}}, {"text": "2", "style": {"script": "subscript"}}, {"text": "O ", "style": {}},
        {"text": "38", "style": {"strike": True}}, {"text": " wide", "style": {"tracking": ratio(0.3), "caps": True}}, {"text": " hand", "style": {"family": "Caveat", "size": ratio(1.2)}},
    ]
    s.words((50, 40, 900, 200), rich, look(flat(BLACK), kind=setting(54, "Lora", 400)))
    s.words((50, 230, 420, 200), "Bring an apron\nWear shoes that can get wet and trousers you do not love\nCome by ten", look(flat(BLACK), kind=setting(24, "Work Sans", 400, list="bullet", paragraphGap=ratio(0.4))))
    s.words((530, 230, 420, 200), "Wedge\nCentre\nOpen\nPull\nTrim", look(flat(CLAY), kind=setting(26, "Bitter", 400, list="number")))
    s.words((50, 450, 420, 120), "A first morning at the wheel for beginners, with all the clay you can ruin", look(flat(SLIP), kind=setting(28, align="centre"), backing=backing("lines", RECT, flat(COBALT), 0.3, 0.02)))
    s.words((530, 460, 420, 90), "Book a wheel", look(flat(SLIP), kind=setting(30, align="centre"), backing=backing("words", rounded(18), flat(CLAY), 0.8, 0.4, stroke(BLACK, 2, "inside"))))
    s.words((50, 600, 260, 260), "MOSSBACK KILN · HARROWMERE · ", look(flat(COBALT), kind=setting(30, "Barlow Condensed", 600, curve={"kind": "circle", "at": 0, "inward": False}, fit={"kind": "fill", "floor": ratio(0.2)})))
    s.words((120, 670, 120, 120), "thrown by hand", look(flat(CLAY), kind=setting(20, curve={"kind": "circle", "at": deg(180), "inward": True})))
    s.words((360, 620, 590, 100), "Hands in clay by ten", look(flat(BLACK), kind=setting(50, "Fraunces", 600, curve={"kind": "arc", "bend": deg(70)})))
    s.words((360, 790, 590, 100), "every Saturday", look(flat(CLAY), kind=setting(40, "Lora", 400, underline=True, curve={"kind": "arc", "bend": deg(-50)}), effects=[shadow(2, 3, 3)]))
    s.words((50, 920, 420, 90), "Largest that fits", look(flat(BLACK), kind=setting(20, "League Gothic", 400, fit={"kind": "fill", "floor": ratio(0.2)}, align="centre", valign="middle")))
    s.words((530, 920, 420, 90), "These words shrink until all of them have room in their box", look(flat(BLACK), kind=setting(48, fit={"kind": "shrink", "floor": ratio(0.2)}, valign="bottom")))
    s.words((500, 1040, 100, 60), "as typed,\nfrom its middle", look(flat(COBALT), kind=setting(34, "Nunito", 600, fit={"kind": "asTyped"}, align="centre")))
    s.words((50, 1160, 900, 80), "Both edges of these lines are even, because somebody asked for it and the words do not mind being moved a little apart from each other", look(flat(BLACK), kind=setting(26, "Spectral", 400, align="justified")))
    s.words((50, 1290, 420, 60), "fi fl 0123456789", look(flat(BLACK), kind=setting(34, "Lora", 400, forms={"smallCaps": False, "tabular": True, "oldFigures": True, "noLigatures": True})))
    s.words((530, 1290, 420, 60), "capitals shown", look(flat(CLAY), kind=setting(34, "Oswald", 400, caps=True, tracking=ratio(0.12))), flip=True)
    return s


def frames():
    s = Sheet("Frames", (1080, 1080), flat("#e9e4da"))
    for i, outline in enumerate([RECT, rounded(40), {"kind": "ellipse"}, {"kind": "arch"}, {"kind": "polygon", "points": 6}, {"kind": "star", "points": 24, "depth": ratio(0.12)}, {"kind": "speech", "tail": ratio(0.2)}, {"kind": "torn", "seed": 5, "depth": ratio(0.15)}]):
        s.frame((40 + i % 4 * 255, 40 + i // 4 * 225, 235, 200), ["bowls", "celadon-mug", "cobalt-jar", "shelf", "planters", "dark-mug", "wheel", "tumblers"][i], outline)
    s.frame((40, 510, 235, 200), "bowls", RECT, crop=crop(1.6, 25))
    s.frame((295, 510, 235, 200), "wheel", rounded(20), crop=crop(1.2, 0, True, 0.4, 0.5))
    s.frame((550, 510, 235, 200), "cobalt-jar", RECT, fit="fit", appearance=look(line=stroke(BLACK, 2)))
    s.frame((805, 510, 235, 200), "tumblers", {"kind": "ellipse"}, fit="tile")
    s.frame((60, 770, 300, 240), "shelf", rounded(16), turn=-7, appearance=look(effects=[shadow(0, 10, 20)], line=stroke("#ffffff", 10)))
    s.frame((400, 770, 280, 240), "stacked-plates", RECT, turn=5, fit="tile", crop=crop(1.5, 30))
    s.frame((720, 770, 300, 240), "evening-stall", {"kind": "ticket", "bite": ratio(0.18)}, flip=True, appearance=look(opacity=0.7))
    return s


def mixing():
    s = Sheet("Mixing", (1000, 1000), flat(SLIP))
    modes = ["normal", "multiply", "screen", "overlay", "darken", "lighten", "colorDodge", "colorBurn", "hardLight", "softLight", "difference", "exclusion", "hue", "saturation", "color", "luminosity"]
    s.frame((0, 0, 1000, 1000), "planters")
    for i, mode in enumerate(modes):
        x, y = 20 + i % 4 * 245, 20 + i // 4 * 245
        s.shape((x, y, 150, 150), {"kind": "ellipse"}, look(flat(CLAY), blend=mode, opacity=0.9))
        s.shape((x + 70, y + 70, 140, 140), rounded(20), look(flat(COBALT), blend=mode))
    return s


def print_sheet():
    s = Sheet("On paper", (560, 397), flat(CELADON), bleed=11, ppi=300)
    s.frame((-11, -11, 290, 419), "top-table")
    s.shape((150, 60, 220, 130), rounded(12), look(flat(SLIP, 0.35), line=stroke(SLIP, 1.5), frost=14))
    s.words((165, 80, 190, 60), "Winter market", look(flat(BLACK), kind=setting(30, "Fraunces", 600)))
    s.words((310, 220, 230, 60), "Made slow.", look({"kind": "linear", "angle": deg(90), "stops": stops((0, COBALT), (1, CLAY))}, kind=setting(40, "DM Serif Display", 400), effects=[shadow(1, 2, 3)]))
    s.shape((320, 300, 180, 60), {"kind": "ribbon", "notch": ratio(0.35)}, look(flat(CLAY), effects=[relief(-45, 2, 2)]))
    s.shape((460, -20, 140, 140), {"kind": "ellipse"}, look(pattern("dots", COBALT, None, 12), blend="multiply"))
    return s


def part(outline, at, turn=0):
    return {"outline": outline, "at": [ratio(v) for v in at], "turn": deg(turn), "flip": False}


def drawn(data, fill=None, stroke=None, even_odd=False):
    out = {"kind": "path", "data": data, "fill": fill, "stroke": stroke}
    if even_odd:
        out["even_odd"] = True
    return out


def fitted(paint):
    return {"kind": "fitted", "paint": paint}


def blocks():
    s = Sheet("Blocks", (1200, 1000), flat(SLIP))
    for i, number in enumerate([3, 5, 7, 10, 12, 14]):
        s.words((40 + i % 3 * 390, 40 + i // 3 * 250, 340, 200), "Hands in clay by ten", look(flat(COBALT if i % 2 else BLACK), kind=setting(40, "Fraunces", 600, lockUp=number, fit={"kind": "shrink", "floor": ratio(0.2)}, align="centre", valign="middle")))
    ellipse, star = {"kind": "ellipse"}, {"kind": "star", "points": 7, "depth": ratio(0.4)}
    for i, how in enumerate(["unite", "subtract", "intersect", "exclude"]):
        parts = [part(ellipse, (0, 0, 0.7, 0.8)), part(star, (0.3, 0.2, 0.7, 0.8), 20)]
        s.shape((40 + i * 200, 560, 170, 150), {"kind": "combined", "how": how, "parts": parts}, look(flat(CLAY), line=stroke(BLACK, 3, "outside", "round"), effects=[shadow(3, 4, 6)]))
    jar = [
        drawn("M20 30H80L72 95H28Z", {"kind": "linear", "from": [ratio(20), 0], "to": [ratio(80), ratio(30)], "stops": stops((0, COBALT), (1, CELADON))}),
        {"kind": "group", "opacity": ratio(0.8), "blend": "multiply", "clip": "M20 30H80L72 95H28Z", "mask": {"luminance": True, "parts": [drawn("M0 0H100V100H0Z", {"kind": "linear", "from": [0, 0], "to": [0, ratio(100)], "stops": stops((0, "#ffffff"), (1, "#000000"))})]}, "parts": [drawn("M0 40H100V60H0Z", fitted(flat(CLAY)))]},
        drawn("M15 20H85V32H15ZM30 23H70V29H30Z", fitted(flat(BLACK)), None, True),
        drawn("M35 12Q50 0 65 12", None, {"paint": fitted(flat(CLAY)), "width": ratio(4), "join": "round", "cap": "round", "dash": []}),
        drawn("M40 60A10 10 0 1 0 60 60A10 10 0 1 0 40 60", {"kind": "radial", "centre": [ratio(50), ratio(60)], "radius": ratio(10), "matrix": [WHOLE, 0, 0, WHOLE, 0, 0], "stops": stops((0, SLIP), (1, CLAY))}),
    ]
    for i, (turn, flip) in enumerate([(0, False), (15, False), (-10, True)]):
        s.put((850 + i % 2 * 170, 560 + i // 2 * 200, 150, 180), {"kind": "drawing", "drawing": {"name": "Jar", "width": 100, "height": 100, "parts": jar}}, look(effects=[shadow(4, 6, 8)] if i else []), turn=turn, flip=flip)
    s.words((40, 760, 760, 200), "Made slow used daily", look({"kind": "linear", "angle": deg(90), "stops": stops((0, CLAY), (1, COBALT))}, kind=setting(40, "Lora", 700, lockUp=8), effects=[shadow(2, 3, 4)]))
    return s


def hand(points, thickness, smoothing=3, thinning=60):
    lines = [[{"x": x, "y": y, "press": press} for x, y, press in line] for line in points]
    return {"kind": "hand", "hand": {"lines": lines, "thickness": px(thickness), "smoothing": smoothing, "thinning": thinning}}


def by_hand():
    s = Sheet("By hand", (1000, 800), flat(SLIP))
    wave = [[(i * 250, 5000 + round(4000 * math.sin(i / 4)), 60 + (i * 37) % 196) for i in range(41)]]
    loops = [[(5000 + round(4900 * math.cos(i / 5)), 5000 + round(4900 * math.sin(i / 7)), 255 - i * 2) for i in range(90)], [(0, 10000, 255), (10000, 0, 40)]]
    s.shape((60, 40, 520, 90), hand(wave, 22), look(flat(CLAY)))
    s.shape((60, 170, 320, 180), hand(loops, 12, 0, 100), look({"kind": "linear", "angle": deg(90), "stops": stops((0, CLAY), (1, COBALT))}, effects=[shadow(3, 4, 5)]))
    s.shape((420, 180, 160, 160), {"kind": "corners", "radii": [px(60), 0, px(20), px(90)]}, look(flat(CELADON), line=stroke(BLACK, 4, "inside")))
    s.frame((640, 40, 300, 300), "tumblers", {"kind": "corners", "radii": [px(150), px(12), px(150), px(12)]}, appearance=look(line=stroke(CLAY, 6)))
    # A picture with a call-out: the dot on its spot, the line from it to the label.
    s.frame((60, 400, 420, 340), "shelf")
    s.shape((261, 521, 18, 18), {"kind": "ellipse"}, look(flat(SLIP)), ties=[{"tie": "spot", "of": "by-hand-4", "at": {"x": ratio(0.5), "y": ratio(0.4)}}])
    s.words((520, 470, 200, 30), "Celadon", look(flat(BLACK), kind=setting(24, fit={"kind": "asTyped"})), part="detail")
    s.shape((278, 500, 242, 3), {"kind": "rect", "radius": 0}, look(flat(CLAY)), turn=-10, ties=[{"tie": "between", "from": "by-hand-5", "to": "by-hand-6"}])
    # A stack of three rows, and its mirror image.
    for i, text in enumerate(["hello@mossback.example", "2 Kiln Yard, Harrowmere", "Sat 10:00 to 16:00"]):
        s.words((560, 560 + i * 40, 380, 28), text, look(flat(BLACK), kind=setting(20, weight=500, fit={"kind": "asTyped"})), part="contact", groups=["rows"])
    s.stacks.append({"group": "rows", "direction": "down", "gap": px(14), "align": "first"})
    s.shape((880, 700, 80, 60), {"kind": "arrow", "head": ratio(1), "shaft": ratio(0.4)}, look(flat(COBALT)), turn=20)
    s.shape((40, 40, 80, 60), {"kind": "arrow", "head": ratio(1), "shaft": ratio(0.4)}, look(flat(COBALT)), turn=-160, ties=[{"tie": "opposite", "of": "by-hand-11", "across": True, "down": True, "mirrored": True}])
    return s


def scripts():
    s = Sheet("Scripts", (1000, 800), flat("#ffffff"))
    said = [
        "خزف يدوي الصنع", "כלים בעבודת יד", "हाथ से बने बर्तन", "হাতে তৈরি মাটির পাত্র", "கையால் செய்த பானைகள்", "เครื่องปั้นดินเผาทำมือ",
        "ხელნაკეთი თიხა", "Ձեռագործ կավ", "በእጅ የተሠራ ሸክላ", "手仕事の器とカップ", "손으로 빚은 그릇", "手工陶器", "Χειροποίητα κεραμικά", "Посуда ручной работы",
    ]
    for i, text in enumerate(said):
        s.words((40 + i % 2 * 320, 30 + i // 2 * 58, 300, 50), text, look(flat(CLAY if i % 3 else COBALT), kind=setting(26, "Lora", 400)), part="detail")
    long = "An extraordinarily uncomplicated introduction to earthenware, stoneware and porcelain for everybody who has never touched a potter's wheel."
    for i, align in enumerate(["start", "justified", "end"]):
        s.words((690, 30 + i * 250, 270, 200), long, look(flat(BLACK), kind=setting(22, "Lora", 400, hyphens="english", align=align)), part="detail")
    s.words((40, 470, 600, 90), "Die Ofenöffnungsfeierlichkeiten beginnen Samstagvormittag im Töpfereihof.", look(flat(BLACK), kind=setting(28, "Work Sans", 500, hyphens="german", tracking=ratio(0.06))), part="detail")
    s.words((40, 610, 600, 120), "חנות הסדנה פתוחה: 10:00 עד 16:00, Kiln Yard 2", look(flat(BLACK), kind=setting(30, "Noto Sans Hebrew", 700, underline=True)), part="detail")
    return s


def main():
    job = {
        "id": "gallery", "title": "Gallery",
        "swatches": {k: {"name": n, "color": c} for k, n, c in [("black", "Kiln black", "#23201d"), ("clay", "Wet clay", "#8c5a3c"), ("slip", "Slip white", "#f4efe6"), ("celadon", "Celadon", "#9db8a4"), ("cobalt", "Cobalt", "#2b4a8b")]},
        "kins": {}, "pieces": [],
    }
    for sheet in [light(), fills(), lines(), words(), frames(), mixing(), blocks(), by_hand(), scripts(), print_sheet()]:
        slug = sheet.name.lower().replace(" ", "-")
        items = []
        for i, (box, content, appearance, part, turn, flip, scale, framing, groups, ties) in enumerate(sheet.items):
            name = f"{slug}-{i}"
            job["kins"][name] = {"part": part, "content": content, "look": appearance}
            x, y, w, h = box
            place = {"at": {"rect": {"x": px(x), "y": px(y), "w": px(w), "h": px(h)}, "turn": deg(turn), "flip": flip}, "scale": ratio(scale), "crop": framing}
            item = {"id": name, "kin": name, "place": place}
            if groups:
                item["groups"] = list(groups)
            if ties:
                item["ties"] = list(ties)
            items.append(item)
        w, h = sheet.size
        unit = "px" if sheet.ppi == 96 else "mm"
        form = {"size": {"w": px(w), "h": px(h)}, "unit": unit, "ppi": sheet.ppi, "bleed": px(sheet.bleed), "safe": px(min(w, h) * 0.04)}
        side = {"id": f"{slug}-front", "name": "Front", "ground": sheet.ground, "items": items}
        if sheet.stacks:
            side["stacks"] = sheet.stacks
        job["pieces"].append({"id": slug, "name": sheet.name, "format": form, "sides": [side]})
    out = ROOT / "journeys" / "gallery" / "job.json"
    out.write_text(json.dumps({"format": "vatman-job", "version": 1, "job": job}, separators=(",", ":"), ensure_ascii=False) + "\n")


if __name__ == "__main__":
    main()
