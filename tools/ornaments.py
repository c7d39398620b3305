#!/usr/bin/env python3
"""Draws the ornaments that ship: dividers, corners, borders, wreaths, frames with an opening for words, bursts.

Usage: ornaments.py. Writes assets/graphics/ornament.zip: a catalogue with one entry an ornament (name, words it is found by, its own view
box, its drawing in one colour, and of a frame the opening as fractions of the box: left, top, width, height, and whether it is painted
there), and the licence."""

import json
import math
import pathlib
import zipfile

OUT = pathlib.Path(__file__).resolve().parent.parent / "assets" / "graphics"
LICENCE = "The ornaments were drawn for this program and are under its own licences, MIT or Apache-2.0.\n"
TAU = math.tau

graphics = []


def number(value):
    text = f"{value:.2f}".rstrip("0").rstrip(".")
    return "0" if text == "-0" else text


def points(list_of_points):
    return " ".join(f"{number(x)},{number(y)}" for x, y in list_of_points)


def path(d, stroke=None, fill="#000", cap="round"):
    if stroke:
        return f'<path d="{d}" fill="none" stroke="#000" stroke-width="{number(stroke)}" stroke-linecap="{cap}" stroke-linejoin="round"/>'
    return f'<path d="{d}" fill="{fill}"/>'


def line(list_of_points, stroke, closed=False, cap="round"):
    head, *rest = [f"{number(x)} {number(y)}" for x, y in list_of_points]
    return path(f"M{head}L" + " ".join(rest) + ("Z" if closed else ""), stroke, cap=cap)


def area(*rings):
    d = "".join("M" + "L".join(f"{number(x)} {number(y)}" for x, y in ring) + "Z" for ring in rings)
    return f'<path d="{d}" fill-rule="evenodd"/>'


def dot(x, y, r):
    return f'<circle cx="{number(x)}" cy="{number(y)}" r="{number(r)}"/>'


def ring(x, y, r, stroke):
    return f'<circle cx="{number(x)}" cy="{number(y)}" r="{number(r)}" fill="none" stroke="#000" stroke-width="{number(stroke)}"/>'


def polygon(x, y, r, count, turn=0.0, inner=None):
    out = []
    for i in range(count * (2 if inner else 1)):
        angle = turn + TAU * i / (count * (2 if inner else 1)) - TAU / 4
        length = inner * r if inner and i % 2 else r
        out.append((x + math.cos(angle) * length, y + math.sin(angle) * length))
    return out


def leaf(x, y, angle, length, width, form="almond"):
    """A leaf from a point outward; its form is almond, round, needle, or heart."""
    c, s = math.cos(angle), math.sin(angle)
    at = lambda along, aside: f"{number(x + c * along - s * aside)} {number(y + s * along + c * aside)}"
    if form == "needle":
        return line([(x, y), (x + c * length, y + s * length)], width)
    if form == "round":
        return f"<path d=\"M{at(0, 0)}C{at(length * .1, width)} {at(length, width)} {at(length, 0)}C{at(length, -width)} {at(length * .1, -width)} {at(0, 0)}Z\"/>"
    if form == "heart":
        return f"<path d=\"M{at(length, 0)}C{at(length * .4, width * 1.5)} {at(-length * .2, width)} {at(length * .15, 0)}C{at(-length * .2, -width)} {at(length * .4, -width * 1.5)} {at(length, 0)}Z\"/>"
    return f"<path d=\"M{at(0, 0)}Q{at(length * .5, width)} {at(length, 0)}Q{at(length * .5, -width)} {at(0, 0)}Z\"/>"


def add(name, words, box, body, opening=None, filled=False):
    entry = {"n": name, "k": words + " ornament decoration", "b": "".join(body) if isinstance(body, list) else body, "r": f'viewBox="0 0 {number(box[0])} {number(box[1])}"'}
    if opening:
        entry["o"] = [round(part, 4) for part in opening]
        entry["f"] = filled
    graphics.append(entry)


# Dividers: a line across with something in its middle, or a pattern all along.

def motifs(x, y, r):
    return {
        "diamond": area(polygon(x, y, r, 4)),
        "ring": ring(x, y, r * .8, r * .28),
        "dot": dot(x, y, r * .7),
        "star": area(polygon(x, y, r * 1.15, 5, inner=.42)),
        "three dots": dot(x - r * 1.5, y, r * .42) + dot(x, y, r * .42) + dot(x + r * 1.5, y, r * .42),
        "two leaves": leaf(x, y, 0, r * 1.7, r * .75) + leaf(x, y, TAU / 2, r * 1.7, r * .75),
        "flower": "".join(leaf(x, y, TAU * i / 6, r * 1.1, r * .42, "round") for i in range(6)),
        "sprig": "".join(leaf(x, y + r * .6, -TAU / 4 + d, r * 1.6, r * .42) for d in (-.8, 0, .8)),
        "pot": path(f"M{number(x - r * .8)} {number(y - r)}H{number(x + r * .8)}L{number(x + r * .55)} {number(y - r * .6)}Q{number(x + r * 1.2)} {number(y + r * .3)} {number(x + r * .5)} {number(y + r)}H{number(x - r * .5)}Q{number(x - r * 1.2)} {number(y + r * .3)} {number(x - r * .55)} {number(y - r * .6)}Z"),
        "eye": area(polygon(x, y, r, 4)).replace("/>", "/>") + ring(x, y, r * 1.5, r * .2),
    }


def dividers():
    w, h, y = 600, 60, 30
    for name, motif in motifs(300, y, 15).items():
        gap = 42 if name in ("three dots", "two leaves") else 30
        add(f"divider with {name}", "line rule separator break between paragraphs middle", (w, h),
            [line([(10, y), (300 - gap, y)], 2.4), motif, line([(300 + gap, y), (590, y)], 2.4)])
        taper = lambda a, b: area([(a, y - .4), (b, y - 2.6), (b, y + 2.6), (a, y + .4)])
        if name in ("diamond", "ring", "star", "flower", "two leaves", "sprig"):
            add(f"tapered divider with {name}", "line rule separator break thin swelled", (w, h), [taper(10, 300 - gap), motif, taper(590, 300 + gap)])
    wave = lambda amp, turns, phase=0.0: [(10 + 580 * i / 160, y + amp * math.sin(phase + TAU * turns * i / 160)) for i in range(161)]
    add("wave divider", "line rule separator water sea curve", (w, h), line(wave(9, 9), 3))
    add("double wave divider", "line rule separator water sea curve", (w, h), line(wave(8, 7), 2.4) + line([(x, q + 11) for x, q in wave(8, 7)], 2.4))
    add("braid divider", "line rule separator rope twist plait woven", (w, h), line(wave(10, 8), 3) + line(wave(10, 8, TAU / 2), 3))
    add("braid of three divider", "line rule separator rope twist plait woven", (w, h), "".join(line(wave(11, 6, TAU * i / 3), 2.6) for i in range(3)))
    add("zigzag divider", "line rule separator sharp pinking", (w, h), line([(10 + 580 * i / 40, y + (9 if i % 2 else -9)) for i in range(41)], 3))
    add("scallop divider", "line rule separator shells arcs lace", (w, h), path("M10 24" + "".join("a14.5 16 0 0 0 29 0" for _ in range(20)), 2.6))
    add("bead divider", "line rule separator pearls dots", (w, h), "".join(dot(16 + 23.67 * i, y, 6.5 if i % 2 else 3.2) for i in range(25)))
    add("dotted divider", "line rule separator dots points", (w, h), "".join(dot(16 + 18.93 * i, y, 3.2) for i in range(31)))
    add("dashed divider", "line rule separator stitches", (w, h), "".join(line([(14 + 29 * i, y), (32 + 29 * i, y)], 3.4) for i in range(20)))
    add("stitch divider", "line rule separator thread sewing cross", (w, h), "".join(line([(16 + 24 * i, y - 7), (30 + 24 * i, y + 7)], 2.6) + line([(30 + 24 * i, y - 7), (16 + 24 * i, y + 7)], 2.6) for i in range(24)))
    add("chain divider", "line rule separator links", (w, h), "".join(ring(20 + 28 * i, y, 10, 2.8) if i % 2 else dot(20 + 28 * i, y, 4) for i in range(21)))
    add("lozenge divider", "line rule separator diamonds row", (w, h), "".join(area(polygon(22 + 30.9 * i, y, 12 if i % 2 == 0 else 6, 4)) for i in range(19)))
    add("meander divider", "line rule separator key greek maze", (w, h), line([(10, 44)] + [(10 + 36 * i + dx, q) for i in range(16) for dx, q in ((0, 44), (0, 14), (26, 14), (26, 34), (12, 34), (12, 25), (12, 44), (36, 44))], 2.6, cap="butt"))
    add("vine divider", "line rule separator leaves garden plant", (w, h), [line(wave(6, 5), 2.4)] + [leaf(10 + 580 * i / 40, y + 6 * math.sin(TAU * 5 * i / 40), (-.9 if i % 2 else .9), 17, 6) for i in range(1, 40)])
    add("laurel divider", "line rule separator leaves garland middle", (w, h), [leaf(300 + side * (8 + 21 * i), y, (0 if side > 0 else TAU / 2) + q * .5, 22, 7) for side in (-1, 1) for i in range(13) for q in (-1, 1)])
    add("arrow divider", "line rule separator pointing fletched", (w, h), [line([(20, y), (580, y)], 2.6), line([(566, y - 10), (582, y), (566, y + 10)], 2.6)] + [line([(24 + 10 * i, y), (14 + 10 * i, y + q * 10)], 2.4) for i in range(4) for q in (-1, 1)])
    add("double rule", "divider line separator thick thin", (w, h), line([(10, 24), (590, 24)], 5, cap="butt") + line([(10, 35), (590, 35)], 1.6, cap="butt"))
    add("triple rule", "divider line separator", (w, h), "".join(line([(10, q), (590, q)], s, cap="butt") for q, s in ((20, 1.6), (30, 5), (40, 1.6))))
    add("swelled rule", "divider line separator thin brush", (w, h), path("M10 30Q300 20 590 30Q300 40 10 30Z"))
    add("brush rule", "divider line separator stroke painted rough", (w, h), area([(12 + 576 * i / 48, 24 + 3 * math.sin(i * 1.7) + 2 * math.sin(i * .6)) for i in range(49)] + [(588 - 576 * i / 48, 38 + 3 * math.sin(i * 2.3) + 2 * math.cos(i * .8)) for i in range(49)]))
    add("fading dots divider", "line rule separator vanishing", (w, h), "".join(dot(300 + side * 22 * i, y, 8 - i * .55) for i in range(13) for side in ((-1, 1) if i else (1,))))
    add("rays divider", "line rule separator sunrise half sun", (w, h), [line([(10, 52), (590, 52)], 2.4)] + [line([(300 + 16 * math.cos(a), 50 + 16 * math.sin(a)), (300 + 40 * math.cos(a), 50 + 40 * math.sin(a))], 2.6) for a in [TAU / 2 + TAU / 2 * i / 10 for i in range(11)]])
    add("hills divider", "line rule separator mountains land", (w, h), path("M10 48" + "".join(f"Q{number(10 + 58 * i + 29)} {number(48 - (44 if i % 3 == 1 else 26))} {number(10 + 58 * (i + 1))} 48" for i in range(10)), 2.6))
    add("curl divider", "line rule separator flourish scroll spiral", (w, h), "".join(line(spiral(300 + side * 34, y, 16, 2.2, side), 2.6) + line([(300 + side * 50, y), (300 + side * 285, y)], 2.6) for side in (-1, 1)) + dot(300, y, 4))


def spiral(x, y, r, turns, side):
    """Inward from the outer end, which points away from the middle."""
    steps = int(turns * 28)
    out = []
    for i in range(steps + 1):
        t = i / steps
        length = r * (1 - t * .88)
        angle = TAU * turns * t
        out.append((x + side * length * math.cos(angle), y - length * math.sin(angle)))
    return out


# Corners: for the upper left; mirrored by whoever uses them.

def corners():
    box = (200, 200)
    add("line corner", "edge bracket", box, line([(10, 190), (10, 10), (190, 10)], 4, cap="square"))
    add("double line corner", "edge bracket", box, line([(10, 190), (10, 10), (190, 10)], 4, cap="butt") + line([(24, 190), (24, 24), (190, 24)], 2, cap="butt"))
    add("stepped corner", "edge deco stairs", box, "".join(line([(10 + 14 * i, 190 - 36 * i), (10 + 14 * i, 10 + 14 * i), (190 - 36 * i, 10 + 14 * i)], 3, cap="butt") for i in range(4)))
    add("arc corner", "edge quarter circle rounds", box, "".join(path(f"M10 {number(10 + r)}A{r} {r} 0 0 0 {number(10 + r)} 10", 3.4) for r in (40, 70, 100, 130, 160)))
    add("notched corner", "edge ticket concave", box, path("M10 190V70A60 60 0 0 0 70 10H190", 4))
    add("double notched corner", "edge ticket concave plaque", box, path("M10 190V70A60 60 0 0 0 70 10H190", 4) + path("M24 190V80A70 70 0 0 0 80 24H190", 2))
    add("dotted corner", "edge fan points", box, "".join(dot(14 + i * 22, 14 + j * 22, 5.5 - (i + j) * .5) for i in range(8) for j in range(8 - i)))
    add("ray corner", "edge sun rays burst", box, "".join(line([(10 + 50 * math.cos(a), 10 + 50 * math.sin(a)), (10 + (170 if i % 2 else 120) * math.cos(a), 10 + (170 if i % 2 else 120) * math.sin(a))], 3) for i, a in enumerate([TAU / 4 * k / 10 for k in range(11)])))
    add("leaf corner", "edge spray garden plant branch", box, [path("M26 180Q34 34 180 26", 3)] + [leaf(*on_bend(t), direction, 30, 10) for t, direction in [(i / 9, -TAU / 8 + (TAU / 5 if i % 2 else -TAU / 3.2)) for i in range(1, 9)]])
    add("round leaf corner", "edge spray eucalyptus plant branch", box, [path("M26 180Q34 34 180 26", 2.6)] + [leaf(*on_bend(i / 8), -TAU / 8 + (TAU / 4.6 if i % 2 else -TAU / 3.4), 34, 15, "round") for i in range(1, 8)])
    add("fern corner", "edge spray plant needles", box, [path("M26 180Q34 34 180 26", 2.6)] + [leaf(*on_bend(i / 22), -TAU / 8 + q, 22, 2.4, "needle") for i in range(1, 22) for q in (-TAU / 6, TAU / 6)])
    add("curl corner", "edge flourish scroll spiral", box, [path("M34 190Q34 34 190 34", 3), line(spiral(52, 190 - 30, 22, 1.6, -1), 3), line([(160 - (q[1] - 160), 52 - (q[0] - 52)) for q in [(x, y) for x, y in spiral(52, 160, 22, 1.6, -1)]], 3), dot(22, 22, 7)])
    add("meander corner", "edge key greek maze", box, line([(190, 10), (10, 10), (10, 190)], 3, cap="butt") + line([(190, 70), (70, 70), (70, 30), (110, 30), (110, 50), (90, 50)], 3, cap="butt") + line([(70, 190), (70, 110), (30, 110), (30, 70), (50, 70), (50, 90)], 3, cap="butt"))
    add("bracket corner", "edge crop frame thick", box, line([(14, 110), (14, 14), (110, 14)], 14, cap="butt"))
    add("photo corner", "edge album mount triangle", box, area([(10, 10), (170, 10), (10, 170)], [(44, 44), (112, 44), (44, 112)]))
    add("triangle corner", "edge bunting tiles", box, "".join(area([(10 + 34 * i, 10), (44 + 34 * i, 10), (27 + 34 * i, 42)]) for i in range(5)) + "".join(area([(10, 10 + 34 * i), (10, 44 + 34 * i), (42, 27 + 34 * i)]) for i in range(5)))
    add("flower corner", "edge blossom petals bouquet", box, ["".join(leaf(x, y, TAU * i / n, r, r * .36, "round") for i in range(n)) for x, y, r, n in ((60, 60, 46, 7), (136, 40, 28, 6), (40, 136, 28, 6), (178, 24, 15, 5), (24, 178, 15, 5))])
    add("berry corner", "edge branch winter twig", box, [path("M26 180Q34 34 180 26", 2.6)] + [line([on_bend(i / 10), (on_bend(i / 10)[0] + 14 * math.cos(q), on_bend(i / 10)[1] + 14 * math.sin(q))], 2) + dot(on_bend(i / 10)[0] + 17 * math.cos(q), on_bend(i / 10)[1] + 17 * math.sin(q), 6) for i in range(2, 10) for q in ((TAU / 12,) if i % 2 else (TAU * .56,))])
    add("wave corner", "edge water lines", box, "".join(line([(10 + r * math.cos(a) + 4 * math.cos(a) * math.sin(a * 24), 10 + r * math.sin(a) + 4 * math.sin(a) * math.sin(a * 24)) for a in [TAU / 4 * k / 80 for k in range(81)]], 2.8) for r in (60, 90, 120, 150)))
    add("grid corner", "edge squares check weave", box, "".join(area([(10 + 22 * i, 10 + 22 * j), (26 + 22 * i, 10 + 22 * j), (26 + 22 * i, 26 + 22 * j), (10 + 22 * i, 26 + 22 * j)]) for i in range(8) for j in range(8 - i) if (i + j) % 2 == 0))
    add("ribbon corner", "edge band diagonal sash", box, area([(10, 110), (110, 10), (170, 10), (10, 170)]))
    add("tick corner", "edge crop marks print", box, line([(50, 10), (50, 40)], 3, cap="butt") + line([(10, 50), (40, 50)], 3, cap="butt") + line([(70, 50), (120, 50)], 3, cap="butt") + line([(50, 70), (50, 120)], 3, cap="butt"))


def on_bend(t):
    """A point of the bend from lower left over the corner to upper right."""
    a, b, c = (26, 180), (34, 34), (180, 26)
    return tuple((1 - t) ** 2 * a[i] + 2 * t * (1 - t) * b[i] + t * t * c[i] for i in (0, 1))


# Borders: something repeated around a rectangle, with the opening it leaves.

def along(w, h, inset, count_w, count_h):
    """Places around a rectangle: position and the direction outward."""
    for i in range(count_w):
        x = inset + (w - 2 * inset) * (i + .5) / count_w
        yield x, inset, -TAU / 4
        yield x, h - inset, TAU / 4
    for i in range(count_h):
        y = inset + (h - 2 * inset) * (i + .5) / count_h
        yield inset, y, TAU / 2
        yield w - inset, y, 0.0


def border(name, words, thick, draw, shapes=(("square", 400, 400), ("wide", 600, 400))):
    for shape, w, h in shapes:
        body = draw(w, h)
        room = thick + 10
        title = f"{name} border" if shape == "square" else f"{shape} {name} border"
        add(title, f"{words} frame edge around {shape}", (w, h), body, (room / w, room / h, 1 - 2 * room / w, 1 - 2 * room / h))


def rectangle(w, h, inset, stroke, radius=0):
    return f'<rect x="{number(inset)}" y="{number(inset)}" width="{number(w - 2 * inset)}" height="{number(h - 2 * inset)}" rx="{radius}" fill="none" stroke="#000" stroke-width="{number(stroke)}"/>'


def borders():
    border("line", "rule thin", 8, lambda w, h: rectangle(w, h, 6, 4))
    border("double line", "rule thick thin", 22, lambda w, h: rectangle(w, h, 7, 6) + rectangle(w, h, 19, 2))
    border("rounded", "rule soft", 10, lambda w, h: rectangle(w, h, 7, 5, 34))
    border("dotted", "points beads", 16, lambda w, h: "".join(dot(x, y, 4) for x, y, _ in along(w, h, 10, w // 20, h // 20)))
    border("stitched", "dashes sewing thread", 14, lambda w, h: "".join(line([(x - 7 * abs(math.sin(a)), y - 7 * abs(math.cos(a))), (x + 7 * abs(math.sin(a)), y + 7 * abs(math.cos(a)))], 4) for x, y, a in along(w, h, 9, w // 25, h // 25)))
    border("scalloped", "lace shells arcs soft", 24, lambda w, h: scallops(w, h, 12))
    border("zigzag", "pinked sharp saw", 24, lambda w, h: "".join(area([(x - 10 * abs(math.sin(a)) - 0 * math.cos(a), y - 10 * abs(math.cos(a))), (x + 10 * abs(math.sin(a)), y + 10 * abs(math.cos(a))), (x - 14 * math.cos(a), y - 14 * math.sin(a))]) for x, y, a in along(w, h, 8, w // 20, h // 20)))
    border("leafy", "leaves garden plant", 30, lambda w, h: rectangle(w, h, 16, 2) + "".join(leaf(x, y, a + TAU / 9 * (1 if i % 2 else -1) + (TAU / 2 if i % 4 > 1 else 0), 16, 6) for i, (x, y, a) in enumerate(along(w, h, 16, w // 22, h // 22))))
    border("checked", "squares chess tiles", 28, lambda w, h: "".join(area([(x - 6, y - 6), (x + 6, y - 6), (x + 6, y + 6), (x - 6, y + 6)]) for k, inset in enumerate((8, 20)) for i, (x, y, _) in enumerate(along(w, h, inset, (w - 2 * inset) // 12, (h - 2 * inset) // 12)) if (i // 2 + k) % 2 == 0))
    border("notched", "plaque concave ticket", 40, lambda w, h: notched(w, h, 7, 34, 5))
    border("double notched", "plaque concave ticket", 46, lambda w, h: notched(w, h, 7, 34, 4) + notched(w, h, 18, 34, 2))
    border("bracketed", "corners open", 20, lambda w, h: "".join(line([(x, y + sy * 70), (x, y), (x + sx * 70, y)], 6, cap="butt") for x, sx in ((10, 1), (w - 10, -1)) for y, sy in ((10, 1), (h - 10, -1))))
    border("rope", "twisted cord", 18, lambda w, h: "".join(line([(x - 9, y + 5), (x + 9, y - 5)] if abs(math.sin(a)) > .5 else [(x + 5, y - 9), (x - 5, y + 9)], 3) for x, y, a in along(w, h, 11, w // 10, h // 10)))
    border("crossed", "corners overlap bamboo log", 34, lambda w, h: "".join(line([(0, y), (w, y)], 4, cap="butt") for y in (26, h - 26)) + "".join(line([(x, 0), (x, h)], 4, cap="butt") for x in (26, w - 26)))


def scallops(w, h, r):
    across, down = round((w - 4 * r) / (2 * r)), round((h - 4 * r) / (2 * r))
    rx, ry = (w - 4 * r) / (2 * across), (h - 4 * r) / (2 * down)
    d = f"M{2 * r} {2 * r}" + f"a{number(rx)} {r} 0 0 1 {number(2 * rx)} 0" * across + f"a{r} {number(ry)} 0 0 1 0 {number(2 * ry)}" * down
    d += f"a{number(rx)} {r} 0 0 1 {number(-2 * rx)} 0" * across + f"a{r} {number(ry)} 0 0 1 0 {number(-2 * ry)}" * down + "Z"
    return path(d, 4)


def notched(w, h, inset, r, stroke):
    a, b, c, d = inset, inset, w - inset, h - inset
    return path(f"M{a + r} {b}H{c - r}A{r} {r} 0 0 0 {c} {b + r}V{d - r}A{r} {r} 0 0 0 {c - r} {d}H{a + r}A{r} {r} 0 0 0 {a} {d - r}V{b + r}A{r} {r} 0 0 0 {a + r} {b}Z", stroke)


# Wreaths: something repeated around a circle, open in the middle.

def wreaths():
    c, r = 200, 150
    around = lambda count, start=0.0, span=TAU: [(start + span * (i + .5) / count, i) for i in range(count)]
    at = lambda a, length=r: (c + length * math.cos(a), c + length * math.sin(a))
    def wreath(name, words, body, inner):
        half = (inner - 6) / 400 * math.sqrt(.5) * 1.02
        add(f"{name} wreath", words + " round circle garland ring around frame", (400, 400), body, (.5 - half, .5 - half, 2 * half, 2 * half))
    for form, width in (("almond", 12), ("round", 16), ("needle", 3), ("heart", 12)):
        names = {"almond": "leaf", "round": "round leaf", "needle": "fir", "heart": "heart leaf"}[form]
        words = {"almond": "laurel olive", "round": "eucalyptus", "needle": "winter pine needles", "heart": "love wedding ivy"}[form]
        body = [ring(c, c, r, 2.4)] + [leaf(*at(a), a + TAU / 4 + (.6 if i % 2 else -.6), 40, width, form) for a, i in around(40 if form != "needle" else 84)]
        wreath(names, words + " leaves branch", body, r - 28)
        spray = lambda side: [path(f"M{c} {c + r}A{r} {r} 0 0 {1 if side < 0 else 0} {number(at(-TAU / 4 + side * .42)[0])} {number(at(-TAU / 4 + side * .42)[1])}", 2.4)] + [leaf(*at(TAU / 4 - side * t), TAU / 4 - side * t - side * TAU / 4 + q * side, 40, width, form) for t in [.16 + 2.56 * k / 14 for k in range(14)] for q in (-.55, .55)]
        wreath(f"two sprays of {names}", words + " laurel leaves open award branch", spray(1) + spray(-1), r - 30)
        half = [path(f"M{number(at(.2)[0])} {number(at(.2)[1])}A{r} {r} 0 0 1 {number(at(TAU / 2 - .2)[0])} {number(at(TAU / 2 - .2)[1])}", 2.4)] + [leaf(*at(t), t + side * .9 + (0 if t > TAU / 4 else TAU / 2), 38, width, form) for t in [.25 + (TAU / 2 - .5) * k / 15 for k in range(16)] for side in (-.65, .65)]
        wreath(f"half {names}", words + " leaves cradle below branch", half, r - 30)
    wreath("dotted", "points beads pearls", [dot(*at(a), 7 if i % 2 else 4) for a, i in around(48)], r - 8)
    wreath("berry", "winter twig autumn", [ring(c, c, r, 2.2)] + [line([at(a), at(a + .06, r + (26 if i % 2 else -26))], 2) + dot(*at(a + .06, r + (30 if i % 2 else -30)), 7) for a, i in around(36)], r - 40)
    wreath("braided", "rope plait woven", ["".join(line([at(TAU * k / 360, r + 12 * math.sin(TAU * 18 * k / 360 + q)) for k in range(361)], 4) for q in (0, TAU / 2))], r - 14)
    wreath("wavy", "scallop cloud soft", [line([at(TAU * k / 360, r + 8 * math.sin(TAU * 24 * k / 360)) for k in range(361)], 4)], r - 12)
    wreath("rays", "sun burst shine", [line([at(a, r - 18), at(a, r + (40 if i % 2 else 18))], 4) for a, i in around(60)], r - 22)
    wreath("blossom", "flowers petals spring", ["".join(leaf(*at(a), TAU * k / 6 + a, 17 if i % 2 else 25, 8, "round") for k in range(6)) for a, i in around(18)], r - 28)
    wreath("twig", "bare branch circle brush", [line([at(TAU * k / 240, r + q + 5 * math.sin(TAU * 5 * k / 240 + q)) for k in range(241)], 2) for q in (-9, -3, 3, 9)], r - 18)
    wreath("double ring", "line seal stamp", [ring(c, c, r + 30, 6), ring(c, c, r + 16, 2.4)], r + 14)
    wreath("rope ring", "twisted cord stamp", [line([at(a - .05, r + 9), at(a + .05, r - 9)], 3.4) for a, i in around(90)], r - 12)
    wreath("star", "stars award night", [area(polygon(*at(a), 13 if i % 2 else 8, 5, inner=.42, turn=a)) for a, i in around(26)], r - 14)


# Frames: plates, badges, ribbons, tags, with the opening words fit into.

def frames():
    def frame(name, words, box, body, opening):
        empty = any(word in name for word in ("outline", "open", "oval ring", "brackets", "above"))
        add(name, words + " frame label plate", box, body, opening, filled=not empty and name != "scalloped seal")
    c = 200
    star = lambda count, inner, r=190: polygon(c, c, r, count, inner=inner)
    for count, inner, name, words in ((24, .86, "burst badge", "starburst sale price seal sticker"), (36, .92, "fine burst badge", "starburst seal sticker medal"), (12, .8, "star badge", "starburst sale price sticker"), (16, .7, "spiky badge", "starburst boom sale price sticker")):
        frame(name, words, (400, 400), area(star(count, inner)), (.22, .3, .56, .4))
        frame(f"open {name}", words + " outline", (400, 400), area(star(count, inner), polygon(c, c, 190 * inner - 16, 72)), (.24, .31, .52, .38))
    scallop = [(c + (180 + 9 * math.cos(TAU * 20 * k / 720)) * math.cos(TAU * k / 720), c + (180 + 9 * math.cos(TAU * 20 * k / 720)) * math.sin(TAU * k / 720)) for k in range(720)]
    frame("scalloped badge", "cookie seal sticker round soft", (400, 400), area(scallop), (.2, .27, .6, .46))
    frame("scalloped seal", "cookie badge sticker round ring", (400, 400), area(scallop, polygon(c, c, 160, 90), polygon(c, c, 150, 90), polygon(c, c, 146, 90)), (.24, .3, .52, .4))
    frame("round plate", "circle disc badge", (400, 400), dot(c, c, 190), (.19, .27, .62, .46))
    frame("round plate with ring", "circle disc badge seal", (400, 400), area(polygon(c, c, 190, 120), polygon(c, c, 172, 120), polygon(c, c, 166, 120)), (.21, .29, .58, .42))
    frame("oval plate", "ellipse cameo", (500, 360), f'<ellipse cx="250" cy="180" rx="240" ry="170"/>', (.18, .27, .64, .46))
    frame("oval ring", "ellipse cameo outline", (500, 360), f'<ellipse cx="250" cy="180" rx="236" ry="166" fill="none" stroke="#000" stroke-width="6"/><ellipse cx="250" cy="180" rx="222" ry="152" fill="none" stroke="#000" stroke-width="2"/>', (.19, .28, .62, .44))
    frame("arch plate", "doorway window", (320, 440), path("M10 430V160A150 150 0 0 1 310 160V430Z"), (.14, .34, .72, .56))
    frame("arch outline", "doorway window", (320, 440), path("M12 428V160A148 148 0 0 1 308 160V428Z", 6) + path("M26 414V160A134 134 0 0 1 294 160V414Z", 2), (.16, .34, .68, .54))
    frame("hexagon plate", "six sides honey tile", (400, 360), area([(100, 10), (300, 10), (392, 180), (300, 350), (100, 350), (8, 180)]), (.2, .26, .6, .48))
    frame("hexagon outline", "six sides honey tile", (400, 360), line([(100, 10), (300, 10), (392, 180), (300, 350), (100, 350), (8, 180)], 6, closed=True), (.2, .24, .6, .52))
    frame("shield plate", "crest badge arms", (360, 430), path("M180 10C240 40 300 46 350 40V200C350 310 270 390 180 420C90 390 10 310 10 200V40C60 46 120 40 180 10Z"), (.16, .2, .68, .44))
    frame("shield outline", "crest badge arms", (360, 430), path("M180 12C240 42 300 48 348 42V200C348 308 268 388 180 416C92 388 12 308 12 200V42C60 48 120 42 180 12Z", 6), (.16, .2, .68, .44))
    frame("plaque", "concave corners sign", (520, 300), path("M50 10H470A40 40 0 0 0 510 50V250A40 40 0 0 0 470 290H50A40 40 0 0 0 10 250V50A40 40 0 0 0 50 10Z"), (.12, .18, .76, .64))
    frame("plaque outline", "concave corners sign", (520, 300), notched(520, 300, 8, 40, 6) + notched(520, 300, 22, 40, 2), (.14, .22, .72, .56))
    frame("ticket", "coupon admission voucher holes", (520, 260), path("M10 10H510V90A40 40 0 0 0 510 170V250H10V170A40 40 0 0 0 10 90Z"), (.14, .16, .72, .68))
    frame("perforated ticket", "coupon admission voucher holes", (520, 260), "<path fill-rule=\"evenodd\" d=\"M10 10H510V250H10Z" + "".join(f"M{x - 8} {y}a8 8 0 1 0 16 0a8 8 0 1 0 -16 0Z" for x in (10, 510) for y in range(28, 250, 34)) + "\"/>", (.08, .14, .84, .72))
    frame("swing tag", "price label hang hole", (300, 480), '<path fill-rule="evenodd" d="M80 10H220L290 90V470H10V90ZM150 60a20 20 0 1 0 .1 0Z"/>', (.12, .3, .76, .58))
    frame("swing tag outline", "price label hang hole", (300, 480), path("M80 12H220L288 90V468H12V90Z", 6) + ring(150, 80, 20, 5), (.14, .3, .72, .56))
    frame("wide tag", "price label gift hole", (520, 240), '<path fill-rule="evenodd" d="M90 10H510V230H90L10 120ZM80 98a22 22 0 1 0 .1 0Z"/>', (.26, .16, .66, .68))
    frame("ribbon banner", "scroll announcement flag", (640, 200), area([(90, 40), (550, 40), (550, 150), (90, 150)]) + area([(78, 62), (78, 172), (10, 172), (44, 117), (10, 62)]) + area([(562, 62), (562, 172), (630, 172), (596, 117), (630, 62)]), (.17, .24, .66, .46))
    frame("curved ribbon banner", "scroll announcement flag arc", (640, 240), path("M100 70Q320 10 540 70V180Q320 120 100 180Z") + path("M88 96V206L14 224L46 164L14 112Z") + path("M552 96V206L626 224L594 164L626 112Z"), (.2, .3, .6, .3))
    frame("swallowtail flag", "banner pennant ribbon", (560, 200), area([(10, 20), (550, 20), (500, 100), (550, 180), (10, 180)]), (.06, .2, .76, .6))
    frame("pointed banner", "arrow signpost direction", (560, 200), area([(10, 20), (480, 20), (550, 100), (480, 180), (10, 180)]), (.06, .2, .74, .6))
    frame("hanging banner", "pennant flag vertical", (300, 460), area([(20, 10), (280, 10), (280, 450), (150, 370), (20, 450)]), (.16, .1, .68, .6))
    frame("paper strip", "torn tape note rough", (560, 180), area([(16 + 528 * i / 40, 14 + 5 * math.sin(i * 2.1)) for i in range(41)] + [(546 + 8 * (i % 2), 20 + 140 * i / 9) for i in range(10)] + [(544 - 528 * i / 40, 164 + 5 * math.sin(i * 1.6)) for i in range(41)] + [(16 - 8 * (i % 2), 160 - 140 * i / 9) for i in range(10)]), (.07, .2, .86, .6))
    frame("brush patch", "painted stroke rough highlight", (560, 200), area([(20 + 520 * i / 60, 34 + 12 * math.sin(i * 1.3) + 6 * math.sin(i * 3.1)) for i in range(61)] + [(540 - 520 * i / 60, 168 + 10 * math.sin(i * 1.7) + 6 * math.cos(i * 2.7)) for i in range(61)]), (.1, .28, .8, .44))
    frame("cloud plate", "speech thought soft puffy", (520, 340), path("M110 300A80 80 0 0 1 80 148A90 90 0 0 1 200 70A110 110 0 0 1 390 100A80 80 0 0 1 450 240A70 70 0 0 1 390 300Z"), (.2, .34, .6, .42))
    frame("speech plate", "bubble talk quote says", (520, 380), path("M50 10H470A40 40 0 0 1 510 50V250A40 40 0 0 1 470 290H200L130 370L140 290H50A40 40 0 0 1 10 250V50A40 40 0 0 1 50 10Z"), (.1, .1, .8, .56))
    frame("speech outline", "bubble talk quote says", (520, 380), path("M50 12H470A38 38 0 0 1 508 50V250A38 38 0 0 1 470 288H200L134 364L142 288H50A38 38 0 0 1 12 250V50A38 38 0 0 1 50 12Z", 6), (.1, .1, .8, .56))
    frame("quote brackets", "marks saying open", (560, 300), line([(90, 20), (20, 20), (20, 280), (90, 280)], 8, cap="butt") + line([(470, 20), (540, 20), (540, 280), (470, 280)], 8, cap="butt"), (.1, .14, .8, .72))
    frame("rules above and below", "lines title between", (560, 220), "".join(line([(20, y), (540, y)], s, cap="butt") for y, s in ((20, 6), (34, 2), (186, 2), (200, 6))), (.04, .22, .92, .56))
    frame("leaves above and below", "garland title between", (560, 260), [leaf(280 + side * (8 + 26 * i), y, (0 if side > 0 else TAU / 2) + q * .5, 24, 7) for y in (30, 230) for side in (-1, 1) for i in range(9) for q in (-1, 1)], (.06, .24, .88, .52))
    frame("pot plate", "jar vase vessel ceramic", (360, 440), path("M90 10H270L250 60Q350 140 350 260Q350 430 240 430H120Q10 430 10 260Q10 140 110 60Z"), (.16, .4, .68, .4))
    frame("pot outline", "jar vase vessel ceramic", (360, 440), path("M90 12H268L248 62Q348 142 348 260Q348 428 240 428H120Q12 428 12 260Q12 142 112 62Z", 6), (.16, .38, .68, .42))


def bursts():
    c = 200
    for count in (12, 24, 48):
        add(f"sunburst of {count}", "rays sun shine light radiating", (400, 400), "".join(area([(c, c), (c + 195 * math.cos(a), c + 195 * math.sin(a)), (c + 195 * math.cos(a + TAU / count / 2), c + 195 * math.sin(a + TAU / count / 2))]) for a in [TAU * i / count for i in range(count)]))
        add(f"lines of {count}", "rays spark shine pop attention", (400, 400), "".join(line([(c + 110 * math.cos(a), c + 110 * math.sin(a)), (c + (190 if i % 2 else 160) * math.cos(a), c + (190 if i % 2 else 160) * math.sin(a))], 6) for i, a in enumerate([TAU * k / count for k in range(count)])))
    for count in (5, 6, 8, 12):
        add(f"blossom of {count}", "flower petals rosette", (400, 400), "".join(leaf(c, c, TAU * i / count, 186, 300 / count + 20, "round") for i in range(count)))
        add(f"rosette of {count}", "flower geometric star circles", (400, 400), "".join(ring(c + 88 * math.cos(TAU * i / count), c + 88 * math.sin(TAU * i / count), 96, 4) for i in range(count)))
    add("half sun", "sunrise rays morning", (400, 210), [path("M110 200A90 90 0 0 1 290 200Z")] + [line([(c + 108 * math.cos(a), 200 + 108 * math.sin(a)), (c + 180 * math.cos(a), 200 + 180 * math.sin(a))], 8) for a in [TAU / 2 + TAU / 2 * i / 12 for i in range(1, 12)]])
    add("dot grid", "points pattern square halftone", (400, 400), "".join(dot(25 + 50 * i, 25 + 50 * j, 9) for i in range(8) for j in range(8)))
    add("fading dot grid", "points pattern halftone vanishing", (400, 400), "".join(dot(25 + 50 * i, 25 + 50 * j, 20 - 2.3 * i) for i in range(8) for j in range(8)))
    add("glaze drip", "dripping paint edge ceramic", (600, 200), path("M0 0H600V60C590 90 560 90 552 60C546 120 500 130 492 70C480 190 430 190 424 80C410 110 380 110 372 70C366 150 316 150 308 74C300 100 270 100 262 66C252 180 204 180 196 78C186 110 152 110 146 70C136 140 90 140 84 66C70 100 30 100 20 60L0 50Z"))
    add("wheel rings", "turned throwing concentric circles target", (400, 400), "".join(ring(c, c, r, 5) for r in range(20, 195, 24)))
    add("hand drawn circle", "marker loop around highlight sketch", (500, 300), line([(250 + (225 + 6 * math.sin(t * 1.7)) * math.cos(t), 150 + (125 + 8 * math.sin(t * 1.3)) * math.sin(t)) for t in [-2.2 + 7.2 * i / 160 for i in range(161)]], 7))
    add("hand drawn underline", "marker stroke beneath sketch", (600, 80), path("M16 44C150 22 420 18 584 30C430 30 240 40 120 62", 7))
    add("hand drawn arrow", "pointing sketch curved look", (400, 260), path("M20 40C90 180 210 230 356 190", 8) + path("M296 140L360 190L300 244", 8))


def main():
    for draw in (dividers, corners, borders, wreaths, frames, bursts):
        draw()
    names = [graphic["n"] for graphic in graphics]
    assert len(set(names)) == len(names), sorted(name for name in names if names.count(name) > 1)
    catalogue = {"id": "ornament", "name": "Ornament", "licence": "MIT OR Apache-2.0", "root": "", "ahead": 40, "large": True, "graphics": sorted(graphics, key=lambda graphic: graphic["n"])}
    OUT.mkdir(parents=True, exist_ok=True)
    with zipfile.ZipFile(OUT / "ornament.zip", "w", zipfile.ZIP_DEFLATED, compresslevel=9) as archive:
        for name, data in (("set.json", json.dumps(catalogue, ensure_ascii=False, separators=(",", ":"))), ("LICENSE", LICENCE)):
            archive.writestr(zipfile.ZipInfo(name, (2026, 1, 1, 0, 0, 0)), data, zipfile.ZIP_DEFLATED)
    print(f"{len(graphics)} ornaments, {(OUT / 'ornament.zip').stat().st_size // 1024} KB")


if __name__ == "__main__":
    main()
