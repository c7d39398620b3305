"""Path-traces the still lifes that ship as demo pictures (development only; nothing at run time needs it).

Usage: DRJIT_LIBLLVM_PATH=... python still_lifes.py OUT_DIR [NAME ...] [--draft]
Needs: mitsuba, pyoidn, numpy, pillow.  Pots are surfaces of revolution; glazes, clay, linen and boards are computed textures.
"""
import pathlib, sys, tempfile
import numpy as np
from PIL import Image, ImageFilter
import mitsuba as mi
import pyoidn

mi.set_variant("llvm_ad_rgb")
T = mi.ScalarTransform4f
RNG = np.random.default_rng(20240611)

def srgb(hexa):
    v = np.array([int(hexa[i:i + 2], 16) / 255 for i in (1, 3, 5)])
    return np.where(v <= 0.04045, v / 12.92, ((v + 0.055) / 1.055) ** 2.4)

KILN, CLAY, SLIP, CELADON, COBALT = map(srgb, ("#23201D", "#8C5A3C", "#EDE6D8", "#9DB8A4", "#2B4A8B"))
OCHRE, ROSE = srgb("#B98A4A"), srgb("#B9826F")

# --- textures -------------------------------------------------------------------------------------------------------

def fractal(h, w, octaves=6, base=4, stretch=(1, 1), seed=0):
    """Value noise in 0..1, tileable enough for pots; `stretch` makes grain run along one axis."""
    rng = np.random.default_rng(seed)
    out, amp, total = np.zeros((h, w)), 1.0, 0.0
    for o in range(octaves):
        ny = max(2, int(base * 2 ** o / stretch[0])); nx = max(2, int(base * 2 ** o / stretch[1]))
        small = Image.fromarray(rng.random((min(ny, h), min(nx, w))).astype(np.float32))
        out += amp * np.asarray(small.resize((w, h), Image.BICUBIC)); total += amp; amp *= 0.55
    out /= total
    return np.clip((out - out.min()) / (np.ptp(out) + 1e-9), 0, 1)

def bitmap(a):
    return {"type": "bitmap", "bitmap": mi.Bitmap(np.ascontiguousarray(a, dtype=np.float32)), "raw": True, "filter_type": "bilinear"}

def glaze(colour, foot=CLAY, speckle=0.5, seed=1, dip=0.16, pool=0.35):
    """Glaze over a bare foot: iron speckle, thin breaking edge at the rim, darker where it pools. v runs foot to rim."""
    h, w = 768, 1536
    n, fine = fractal(h, w, 6, 5, seed=seed), fractal(h, w, 7, 40, seed=seed + 1)
    v = np.linspace(0, 1, h)[:, None]
    col = colour * (0.80 + 0.34 * n[..., None])
    thick = np.clip(1 - pool * np.clip((v - 0.55) / 0.45, -1, 1) * 0.5, 0.5, 1.3)
    col = col ** (thick[..., None])
    dots = np.zeros((h, w)); k = int(2600 * speckle); rng = np.random.default_rng(seed + 9)
    ys, xs = rng.integers(0, h, k), rng.integers(0, w, k); dots[ys, xs] = rng.random(k)
    dots = np.asarray(Image.fromarray((dots * 255).astype(np.uint8)).filter(ImageFilter.GaussianBlur(1.3))) / 255 * 9
    col = col * (1 - np.clip(dots, 0, 0.8)[..., None] * 0.75) + foot * np.clip(dots, 0, 0.8)[..., None] * 0.12
    line = dip + 0.035 * (fractal(8, w, 4, 6, seed=seed + 3)[0] - 0.5)
    bare = 1 / (1 + np.exp((v - line[None, :]) * 260))
    clay = foot * (0.78 + 0.4 * fine[..., None])
    rim = np.clip((v - 0.965) / 0.03, 0, 1) * 0.55
    col = col * (1 - rim[..., None]) + (colour * 0.45 + foot * 0.55) * rim[..., None]
    col = col * (1 - bare[..., None]) + clay * bare[..., None]
    rough = 0.16 + 0.12 * n + bare * 0.55
    return {"type": "principled", "base_color": bitmap(col[::-1]), "roughness": bitmap(np.repeat(rough[::-1, :, None], 1, 2)),
            "specular": 0.55, "clearcoat": 0.25, "clearcoat_gloss": 0.9}

def bare_clay(colour, seed=5, wet=False):
    h, w = 768, 1024
    rings = 0.5 + 0.5 * np.sin(np.linspace(0, 90, h) + 3 * fractal(h, 4, 3, 8, seed=seed)[:, 0])[:, None]
    n = fractal(h, w, 7, 8, stretch=(1, 5), seed=seed)
    col = colour * (0.7 + 0.35 * n[..., None] + 0.12 * rings[..., None])
    return {"type": "principled", "base_color": bitmap(col), "roughness": 0.22 if wet else 0.85, "specular": 0.6 if wet else 0.25}

def board(colour, seed=3, rough=0.55):
    h = w = 2048
    warp = fractal(h, w, 4, 3, seed=seed) * 0.5
    grain = fractal(h, w, 7, 6, stretch=(0.16, 6), seed=seed + 1)
    rings = 0.5 + 0.5 * np.sin((np.linspace(0, 1, h)[:, None] * 9 + warp * 5) * 6.28)
    col = colour * (0.55 + 0.5 * grain[..., None] + 0.16 * rings[..., None])
    planks = (np.abs((np.linspace(0, 1, h) * 5) % 1 - 0.5) > 0.496)[:, None]
    col = col * np.where(planks, 0.25, 1.0)[..., None]
    return {"type": "principled", "base_color": bitmap(col), "roughness": rough, "specular": 0.3}

def cloth(colour, seed=7):
    h = w = 2048
    y, x = np.mgrid[0:h, 0:w]
    p = 6.5
    warp = 0.5 + 0.5 * np.sin(x / p * 6.28 + 1.6 * fractal(h, w, 5, 20, seed=seed))
    weft = 0.5 + 0.5 * np.sin(y / p * 6.28 + 1.6 * fractal(h, w, 5, 20, seed=seed + 1))
    over = ((x // (p) + y // (p)) % 2)
    weave = np.where(over, warp, weft)
    slub = fractal(h, w, 6, 16, stretch=(0.3, 5), seed=seed + 2) + fractal(h, w, 6, 16, stretch=(5, 0.3), seed=seed + 3)
    col = colour * (0.62 + 0.24 * weave + 0.22 * slub)[..., None]
    return {"type": "principled", "base_color": bitmap(col), "roughness": 0.95, "sheen": 0.4, "specular": 0.1}

def plaster(colour, seed=11):
    n = fractal(1024, 1024, 7, 3, seed=seed)
    return {"type": "principled", "base_color": bitmap(colour * (0.86 + 0.2 * n[..., None])), "roughness": 0.95, "specular": 0.1}

# --- shapes ---------------------------------------------------------------------------------------------------------

def smooth(points, n=260):
    """Catmull-Rom through profile points (radius, height)."""
    p = np.array(points, float); p = np.vstack([p[0], p, p[-1]])
    out = []
    per = max(4, n // (len(p) - 3))
    for i in range(1, len(p) - 2):
        t = np.linspace(0, 1, per, endpoint=False)[:, None]
        a, b, c, d = p[i - 1], p[i], p[i + 1], p[i + 2]
        out.append(0.5 * ((2 * b) + (c - a) * t + (2 * a - 5 * b + 4 * c - d) * t ** 2 + (3 * b - a - 3 * c + d) * t ** 3))
    out = np.vstack(out + [p[-2][None]])
    out[:, 0] = np.maximum(out[:, 0], 0)
    return out

def mesh(name, verts, uv, faces, bsdf, at=(0, 0, 0), turn=0, scale=1.0):
    lines = ["ply", "format ascii 1.0", f"element vertex {len(verts)}", "property float x", "property float y", "property float z",
             "property float u", "property float v", f"element face {len(faces)}", "property list uchar int vertex_indices", "end_header"]
    f = tempfile.NamedTemporaryFile("w", suffix=".ply", delete=False)
    f.write("\n".join(lines) + "\n")
    np.savetxt(f, np.hstack([verts, uv]), fmt="%.6f")
    np.savetxt(f, np.hstack([np.full((len(faces), 1), 3), faces]), fmt="%d"); f.close()
    return {"type": "ply", "filename": f.name, "to_world": T().translate(list(at)).rotate([0, 0, 1], turn).scale(scale),
            "bsdf": {"type": "twosided", "inner": bsdf}}

def grid_faces(rows, cols):
    i, j = np.mgrid[0:rows - 1, 0:cols - 1]
    a = (i * cols + j).ravel(); b = a + 1; c = a + cols; d = c + 1
    return np.vstack([np.c_[a, b, d], np.c_[a, d, c]])

def turned(profile, bsdf, at=(0, 0, 0), turn=0, scale=1.0, wobble=0.004, outer=0.5, seed=0):
    """Revolves a closed profile (outside up, then inside down). `outer` is the share of points on the outside."""
    p = smooth(profile); rows, cols = len(p), 181
    th = np.linspace(0, 2 * np.pi, cols)
    wob = 1 + wobble * np.sin(2 * th + seed)[None, :] + 0.0025 * np.sin(p[:, 1] * 70)[:, None]
    x = p[:, :1] * np.cos(th) * wob; y = p[:, :1] * np.sin(th) * wob; z = np.repeat(p[:, 1:2], cols, 1)
    zmax = p[:, 1].max(); v = np.repeat((p[:, 1:2] / zmax), cols, 1)
    top = int(np.argmax(p[:, 1])); v[top:] = np.maximum(v[top:], 0.42)
    uv = np.c_[np.repeat(th[None] / (2 * np.pi), rows, 0).ravel(), 1 - v.ravel()]
    return mesh("pot", np.c_[x.ravel(), y.ravel(), z.ravel()], uv, grid_faces(rows, cols), bsdf, at, turn, scale)

def tube(path, radius, bsdf, at=(0, 0, 0), turn=0, scale=1.0, flat=1.5):
    p = np.array(path, float); n, cols = len(p), 48
    tan = np.gradient(p, axis=0); tan /= np.linalg.norm(tan, axis=1, keepdims=True)
    side = np.array([0, 1.0, 0]); nor = np.cross(tan, side)
    r = np.broadcast_to(radius, (n,))[:, None, None]
    th = np.linspace(0, 2 * np.pi, cols)
    v = p[:, None] + r * (nor[:, None] * np.cos(th)[None, :, None] + flat * side * np.sin(th)[None, :, None])
    uv = np.c_[np.repeat(np.linspace(0, .3, cols)[None], n, 0).ravel(), np.repeat(np.linspace(0.35, .5, n)[:, None], cols, 1).ravel()]
    return mesh("tube", v.reshape(-1, 3), uv, grid_faces(n, cols), bsdf, at, turn, scale)

MUG = [(0, .0), (.34, .0), (.37, .02), (.40, .10), (.43, .35), (.425, .65), (.415, .88), (.42, .945), (.405, .955), (.385, .93), (.38, .6), (.37, .2), (.3, .09), (0, .08)]
TUMBLER = [(0, 0), (.29, 0), (.315, .03), (.34, .3), (.375, .7), (.40, .98), (.39, 1.0), (.37, .97), (.34, .6), (.3, .15), (0, .1)]
BOWL = [(0, 0), (.26, 0), (.28, .05), (.32, .09), (.52, .22), (.70, .42), (.77, .56), (.765, .585), (.74, .57), (.66, .42), (.48, .25), (.25, .14), (0, .12)]
PLATE = [(0, 0), (.5, 0), (.55, .03), (.8, .07), (1.0, .12), (1.02, .135), (.99, .145), (.8, .10), (.5, .06), (0, .05)]
PLANTER = [(0, 0), (.38, 0), (.42, .03), (.47, .25), (.54, .6), (.58, .8), (.60, .84), (.60, .93), (.585, .95), (.55, .93), (.53, .8), (.46, .4), (.4, .12), (0, .1)]
JAR = [(0, 0), (.30, 0), (.33, .02), (.44, .2), (.52, .45), (.50, .68), (.40, .84), (.36, .88), (.36, .93), (.345, .94), (.33, .9), (.42, .7), (.44, .45), (.3, .14), (0, .1)]
LID = [(0, .0), (.35, .0), (.40, .01), (.405, .035), (.34, .08), (.16, .13), (.07, .15), (.055, .18), (.085, .215), (.10, .25), (.07, .285), (0, .295)]
VASE = [(0, 0), (.25, 0), (.28, .03), (.40, .25), (.44, .45), (.36, .7), (.20, .9), (.14, 1.05), (.13, 1.25), (.17, 1.36), (.16, 1.37), (.11, 1.25), (.12, 1.05), (.17, .9), (.3, .7), (.38, .45), (.3, .15), (0, .1)]

def mug(g, at, turn=0, scale=1.0, seed=0):
    t = np.linspace(-1.28, 1.28, 60)
    path = np.c_[.40 + .30 * np.cos(t) ** .8, np.zeros(60), .50 + .285 * np.sin(t)]
    rad = .047 + .016 * np.abs(t / 1.28) ** 3
    return {"body": turned(MUG, g, at, turn, scale, seed=seed), "ear": tube(path, rad, g, at, turn, scale)}

def jar(g, at, scale=1.0, lid=None, seed=0):
    return {"body": turned(JAR, g, at, 0, scale, seed=seed), "lid": turned(LID, lid or g, (at[0], at[1], at[2] + .925 * scale), 0, scale, seed=seed)}

_BALL = []

def ball(to_world, bsdf):
    """A unit ball that may be stretched."""
    if not _BALL:
        rows, cols = 24, 32
        ph, th = np.meshgrid(np.linspace(0, np.pi, rows), np.linspace(0, 2 * np.pi, cols), indexing="ij")
        v = np.c_[(np.sin(ph) * np.cos(th)).ravel(), (np.sin(ph) * np.sin(th)).ravel(), np.cos(ph).ravel()]
        _BALL.append(mesh("ball", v, np.c_[th.ravel(), ph.ravel()], grid_faces(rows, cols), bsdf)["filename"])
    return {"type": "ply", "filename": _BALL[0], "to_world": to_world, "bsdf": {"type": "twosided", "inner": bsdf}}

def rect(bsdf, at, size, normal="z", turn=0, uv=1):
    t = T().translate(list(at))
    if normal == "y": t = t.rotate([1, 0, 0], 90)
    return {"type": "rectangle", "to_world": t.rotate([0, 0, 1], turn).scale([size[0], size[1], 1]), "bsdf": {"type": "twosided", "inner": bsdf}}

def window(origin, target, size, power, tint=(1, .96, .9)):
    return {"type": "rectangle", "to_world": T().look_at(origin=list(origin), target=list(target), up=[0, 0, 1]).scale([size[0], size[1], 1]),
            "emitter": {"type": "area", "radiance": {"type": "rgb", "value": [power * c for c in tint]}}}

def flat(groups):
    out = {}
    def put(prefix, d):
        for k, v in d.items():
            if "type" in v: out[f"{prefix}{k}"] = v
            else: put(f"{prefix}{k}_", v)
    put("", groups)
    return out

def camera(origin, target, fov, size, aperture, focus=None):
    o, t = np.array(origin, float), np.array(target, float)
    return {"type": "thinlens", "fov": fov, "fov_axis": "smaller", "aperture_radius": aperture, "focus_distance": float(focus or np.linalg.norm(t - o)),
            "to_world": T().look_at(origin=list(map(float, o)), target=list(map(float, t)), up=[0, 0, 1] if abs(o[2] - t[2]) < 0.98 * np.linalg.norm(o - t) else [0, 1, 0]),
            "film": {"type": "hdrfilm", "width": size[0], "height": size[1], "rfilter": {"type": "box"}}}

def sky(power, tint=(.82, .9, 1)):
    return {"type": "constant", "radiance": {"type": "rgb", "value": [power * c for c in tint]}}

def spread(n, box, z, rng, power):
    """Out-of-focus lamps far behind the subject."""
    d = {}
    for i in range(n):
        at = [rng.uniform(*box[0]), rng.uniform(*box[1]), rng.uniform(*z)]
        warm = rng.uniform(.45, .75)
        d[f"lamp{i}"] = {"type": "sphere", "center": at, "radius": float(rng.uniform(.03, .08)),
                         "emitter": {"type": "area", "radiance": {"type": "rgb", "value": [power, power * warm, power * warm * .45]}}}
    return d

# --- the pictures ---------------------------------------------------------------------------------------------------

def celadon_mug():
    return {"mug": mug(glaze(CELADON, speckle=.7, seed=2), (0, 0, 0), -38), "cloth": rect(cloth(SLIP * .85), (0, 0, 0), (5, 5), turn=8),
            "back": turned(VASE, glaze(SLIP, seed=6), (-1.5, 2.1, 0), 0, 1.35), "bowl": turned(BOWL, glaze(ROSE, seed=4), (1.6, 1.7, 0)),
            "wall": rect(plaster(srgb("#CDBFA8")), (0, 4.2, 2), (9, 5), "y"), "win": window((-4, -1.2, 3.4), (0, 0, .4), (1.5, 1.8), 13),
            "sky": sky(.28), "sensor": camera((.35, -3.9, 1.55), (.08, 0, .50), 33, (1280, 1280), .055, 3.75)}

def bowls():
    s = {"b1": turned(BOWL, glaze(SLIP, seed=3), (0, 0, 0)), "b2": turned(BOWL, glaze(CELADON, seed=5), (.01, 0, .17), 40, .93),
         "b3": turned(BOWL, glaze(COBALT, seed=8, speckle=.2), (0, .01, .33), 80, .85)}
    return {**s, "side": turned(BOWL, glaze(OCHRE, seed=12), (1.55, .75, 0), 0, .9), "table": rect(board(srgb("#7A5235")), (0, 0, 0), (4, 4), turn=84),
            "wall": rect(plaster(srgb("#8E8B80")), (0, 3.4, 2), (8, 5), "y"), "win": window((3.6, -1.2, 3.2), (0, 0, .3), (1.3, 1.6), 15), "sky": sky(.18),
            "sensor": camera((-.9, -4.0, 1.9), (.35, .1, .38), 30, (1360, 1020), .06)}

def shelf():
    wood = board(srgb("#6B4A33"), 21); s = {}
    items = [(TUMBLER, SLIP), (JAR, COBALT), (BOWL, CELADON), (PLANTER, CLAY), (VASE, SLIP), (TUMBLER, CELADON), (JAR, OCHRE), (PLANTER, SLIP), (BOWL, ROSE), (TUMBLER, COBALT), (VASE, CELADON), (TUMBLER, OCHRE)]
    k = 0
    for row, z in enumerate((0, 1.75, 3.5)):
        s[f"plank{row}"] = {"type": "cube", "to_world": T().translate([0, .1, z - .06]).scale([5, .75, .06]), "bsdf": {"type": "twosided", "inner": wood}}
        for c in range(6):
            prof, col = items[(k * 5 + row) % len(items)]; k += 1
            sc = 1.0 if prof is not VASE else .92
            x = -3.3 + c * 1.32 + RNG.uniform(-.1, .1)
            s[f"p{row}{c}"] = turned(prof, glaze(col, seed=30 + k), (x, RNG.uniform(-.05, .2), z), 40 * k, sc * RNG.uniform(.86, 1.04), seed=k)
            if prof is JAR: s[f"l{row}{c}"] = turned(LID, glaze(col, seed=30 + k), (x, .08, z + .90), 0, .97)
    return {**s, "wall": rect(plaster(srgb("#D8CDB9")), (0, .9, 2), (9, 6), "y"), "win": window((-5, -4, 5), (0, 0, 2), (1.6, 2.4), 20), "sky": sky(.3),
            "sensor": camera((-.9, -7.2, 2.5), (-.15, 0, 2.45), 34, (1280, 1280), .07)}

def cobalt_jar():
    g = glaze(COBALT, seed=15, speckle=.25)
    return {"jar": jar(g, (0, 0, 0), 1.15), "t": turned(TUMBLER, glaze(SLIP, seed=17), (-1.25, .9, 0)), "t2": turned(TUMBLER, glaze(SLIP, seed=18), (-1.95, 1.7, 0), 30),
            "table": rect(plaster(srgb("#B9B2A6")), (0, 0, 0), (5, 5)), "wall": rect(plaster(srgb("#A9AFA8")), (0, 3.6, 2), (8, 5), "y"),
            "win": window((-3.6, -2, 3.6), (0, 0, .4), (1.1, 1.6), 18), "sky": sky(.2), "sensor": camera((.9, -4.3, 1.5), (-.22, 0, .66), 30, (1100, 1360), .06)}

def kiln_glow():
    wallb = bare_clay(srgb("#A8866A"), 40); hot = {"type": "area", "radiance": {"type": "rgb", "value": [10.5, 3.1, .55]}}
    s = {}
    for i, (prof, x, y, sc) in enumerate([(VASE, -.85, .5, .95), (JAR, .15, .1, 1), (BOWL, 1.15, .35, .85), (TUMBLER, -.25, 1.0, .9), (TUMBLER, .85, 1.1, 1.05), (TUMBLER, -1.35, -.1, .8)]):
        s[f"k{i}"] = turned(prof, bare_clay(srgb("#B98A68"), 50 + i), (x, y, 0), 30 * i, sc)
    for i, z in enumerate((.25, .8, 1.35)):
        for sx in (-2.05, 2.05):
            s[f"el{i}_{int(sx > 0)}"] = {"type": "cylinder", "p0": [sx, -.4, z], "p1": [sx, 2.0, z], "radius": .035, "emitter": hot}
        s[f"eb{i}"] = {"type": "cylinder", "p0": [-2, 2.05, z], "p1": [2, 2.05, z], "radius": .035, "emitter": hot}
    return {**s, "floor": rect(wallb, (0, 0, 0), (2.2, 2.2)), "left": {"type": "cube", "to_world": T().translate([-2.25, .6, 1]).scale([.1, 1.7, 1.4]), "bsdf": wallb},
            "right": {"type": "cube", "to_world": T().translate([2.25, .6, 1]).scale([.1, 1.7, 1.4]), "bsdf": wallb}, "back": rect(wallb, (0, 2.2, 1), (2.4, 1.6), "y"),
            "roof": {"type": "cube", "to_world": T().translate([0, .6, 2.15]).scale([2.4, 1.7, .1]), "bsdf": wallb}, "sky": sky(.012),
            "sensor": camera((.1, -4.6, 1.2), (0, .2, .72), 31, (1360, 1088), .05)}

def wheel():
    wet = bare_clay(CLAY * .8, 60, wet=True)
    prof = [(0, 0), (.44, 0), (.46, .03), (.40, .12), (.42, .3), (.52, .55), (.60, .74), (.585, .765), (.555, .74), (.47, .55), (.36, .3), (.3, .12), (0, .1)]
    metal = {"type": "roughconductor", "material": "Al", "alpha": .28}
    s = {"pot": turned(prof, wet, (0, 0, .06), wobble=.010), "head": {"type": "cylinder", "p0": [0, 0, 0], "p1": [0, 0, .06], "radius": 1.15, "bsdf": metal},
         "disc": {"type": "disk", "to_world": T().translate([0, 0, .06]).scale(1.15), "bsdf": {"type": "principled", "base_color": {"type": "rgb", "value": [.33, .31, .29]}, "roughness": .3, "specular": .6}},
         "tray": rect(plaster(srgb("#57514A")), (0, 0, -.25), (4, 4)), "wall": rect(plaster(srgb("#6E6A62")), (0, 5, 2), (9, 5), "y")}
    for i in range(26):
        a, r = RNG.uniform(0, 6.28), RNG.uniform(.55, 1.08)
        s[f"slip{i}"] = ball(T().translate([float(r * np.cos(a)), float(r * np.sin(a)), .06]).rotate([0, 0, 1], float(np.degrees(a))).scale([.015 + .03 * RNG.random(), .03 + .06 * RNG.random(), .012]), wet)
    for i, (p, x) in enumerate([(TUMBLER, -2.0), (PLANTER, -.8), (VASE, 1.1), (JAR, 2.3)]):
        s[f"bg{i}"] = turned(p, bare_clay(CLAY, 70 + i), (x, 3.9, .35), 0, 1.1)
    s["bgs"] = {"type": "cube", "to_world": T().translate([0, 4.1, .3]).scale([4, .6, .05]), "bsdf": board(srgb("#6B4A33"), 22)}
    return {**s, "win": window((3.2, 1.2, 3.2), (0, 0, .3), (1.2, 1.6), 20), "sky": sky(.16), "sensor": camera((-.3, -3.5, 1.75), (0, 0, .40), 34, (1360, 1020), .06)}

def top_table():
    s = {}
    for i, (p, x, y, sc, c) in enumerate([(PLATE, -.9, .75, 1, SLIP), (BOWL, -.9, .75, .72, CELADON), (PLATE, 1.15, -.55, .92, CELADON), (BOWL, 1.0, 1.25, .62, COBALT), (TUMBLER, -1.65, -.95, .95, OCHRE), (BOWL, -.25, -1.15, .6, ROSE)]):
        z = .06 if (i == 1) else 0
        s[f"t{i}"] = turned(p, glaze(c, seed=80 + i, dip=-.2), (x, y, z), 0, sc)
    s["mug"] = mug(glaze(SLIP, seed=90), (2.05, .95, 0), 60, .9)
    return {**s, "cloth": rect(cloth(srgb("#D9CFBE")), (0, 0, 0), (5, 5), turn=3), "win": window((-4.5, 2.5, 3.0), (0, 0, 0), (1.2, 2.2), 17), "sky": sky(.22),
            "sensor": camera((0.01, -.02, 7.2), (0, 0, 0), 33, (1280, 1280), .03)}

def evening_stall():
    s = spread(60, ((-5, 5), (4, 11)), (.8, 3.8), np.random.default_rng(5), 14)
    for i, (p, c, x, y, sc) in enumerate([(JAR, CELADON, -.62, 0, 1.05), (TUMBLER, SLIP, .35, -.12, .95), (TUMBLER, COBALT, .95, .3, 1.0), (BOWL, OCHRE, -1.7, .55, .85), (VASE, SLIP, 1.75, .75, 1.1)]):
        s[f"e{i}"] = turned(p, glaze(c, seed=100 + i), (x, y, 0), 20 * i, sc)
    s["lid"] = turned(LID, glaze(CELADON, seed=100), (-.62, 0, .925 * 1.05), 0, 1.05)
    return {**s, "table": rect(board(srgb("#5B3F2B"), 23, .4), (0, .6, 0), (4, 2)), "win": window((-2.5, -3, 3.4), (0, 0, .4), (.9, .9), 11, (1, .72, .42)),
            "sky": sky(.035, (.5, .6, 1)), "sensor": camera((.1, -4.3, 1.25), (.1, 0, .74), 32, (1360, 1020), .13)}

def dark_mug():
    return {"mug": mug(glaze(KILN * 2.2, foot=CLAY, seed=33, speckle=.9), (.1, 0, 0), -30), "table": rect(board(srgb("#2E2620"), 24, .45), (0, 0, 0), (4, 4), turn=90),
            "wall": rect(plaster(srgb("#2A2A2A")), (0, 3.2, 2), (8, 5), "y"), "rim": window((3.0, 1.9, 2.0), (0, 0, .5), (.5, 1.3), 24), "fill": window((-4, -2, 2.6), (0, 0, .4), (1, 1.4), 3.0),
            "sky": sky(.02), "sensor": camera((-.1, -4.0, 1.2), (.05, 0, .56), 34, (1020, 1360), .05)}

def planters():
    s = {}
    for i, (x, y, c, sc) in enumerate([(-1.25, .2, CLAY, 1.0), (0, -.1, SLIP, 1.15), (1.3, .25, CELADON, .95)]):
        s[f"pl{i}"] = turned(PLANTER, glaze(c, seed=110 + i, dip=.22), (x, y, 0), 0, sc)
        s[f"soil{i}"] = {"type": "disk", "to_world": T().translate([x, y, .8 * sc]).scale(.53 * sc), "bsdf": bare_clay(KILN, 120)}
        for k in range(34):
            a, lean, ln = RNG.uniform(0, 360), RNG.uniform(8, 62), RNG.uniform(.35, .75)
            leaf = {"type": "principled", "base_color": {"type": "rgb", "value": list(map(float, srgb("#5E7A4B") * RNG.uniform(.55, 1.2)))}, "roughness": .42, "specular": .4}
            s[f"leaf{i}{k}"] = ball(T().translate([x, y, .8 * sc]).rotate([0, 0, 1], a).rotate([0, 1, 0], lean).translate([0, 0, ln * .62]).scale([.022, .075, ln * .55]), leaf)
    return {**s, "table": rect(plaster(srgb("#C9BBA5")), (0, 0, 0), (5, 5)), "wall": rect(plaster(srgb("#BFA58C")), (0, 2.2, 2), (8, 5), "y"), "win": window((-3.2, -3.2, 4.2), (0, 0, .5), (.9, 1.2), 26),
            "sky": sky(.24), "sensor": camera((.2, -5.0, 1.5), (0, 0, .78), 32, (1360, 1020), .045)}

def tumblers():
    s = {}
    for i, c in enumerate((SLIP, CELADON, COBALT, OCHRE, ROSE)):
        s[f"tu{i}"] = turned(TUMBLER, glaze(c, seed=130 + i), (-1.9 + i * .95, .42 * i - .7, 0), 50 * i, 1)
    return {**s, "table": rect(cloth(srgb("#B7B09F"), 9), (0, 0, 0), (6, 6), turn=12), "wall": rect(plaster(srgb("#DCD3C2")), (0, 4.6, 2), (9, 5), "y"),
            "win": window((-4, -1, 3.4), (0, 0, .4), (1.2, 1.6), 17), "sky": sky(.3), "sensor": camera((-1.3, -4.2, 1.55), (-.35, 0, .5), 28, (1360, 1020), .09, 4.3)}

def stacked_plates():
    s = {}
    for i, c in enumerate((SLIP, CELADON, SLIP, OCHRE, CELADON, COBALT)):
        s[f"pa{i}"] = turned(PLATE, glaze(c, seed=150 + i, dip=-.2, speckle=.6), (.015 * (i % 3 - 1), .01 * (i % 2), .105 * i), 37 * i, .98 - .008 * i)
    s["cup"] = mug(glaze(SLIP, seed=160, speckle=.8), (-1.55, .35, 0), 150, .95)
    s["vase"] = turned(VASE, glaze(CELADON, seed=161), (1.75, 1.25, 0), 0, 1.3)
    return {**s, "table": rect(board(srgb("#8A6546"), 25, .5), (0, 0, 0), (5, 5), turn=88), "wall": rect(plaster(srgb("#C7C2B4")), (0, 3.6, 2), (9, 5), "y"),
            "win": window((-3.8, -1.6, 3.6), (0, 0, .4), (1.3, 1.7), 15), "sky": sky(.24), "sensor": camera((-.4, -4.4, 1.6), (.02, 0, .42), 33, (1360, 1020), .06)}

SCENES = dict(celadon_mug=celadon_mug, bowls=bowls, shelf=shelf, cobalt_jar=cobalt_jar, kiln_glow=kiln_glow, wheel=wheel, top_table=top_table,
              evening_stall=evening_stall, dark_mug=dark_mug, planters=planters, tumblers=tumblers, stacked_plates=stacked_plates)
EXPOSURE = dict(kiln_glow=1.3, dark_mug=1.5, evening_stall=1.25)

def trace(scene, spp):
    """Linear pixels, cleaned by the denoiser with the help of surface colour and normals."""
    layers = np.nan_to_num(np.array(mi.render(scene, spp=spp), dtype=np.float32), nan=0, posinf=0, neginf=0)
    first = layers.shape[-1] - 6                                       # colour, perhaps alpha, then albedo and normal
    rgb, albedo, normal = (np.ascontiguousarray(layers[..., i:i + 3]) for i in (0, first, first + 3))
    return pyoidn.denoise(rgb, albedo=np.clip(albedo, 0, 1), normal=normal, hdr=True)

def develop(linear, exposure, grain=0.016):
    x = np.maximum(linear * exposure, 0)
    x = (x * (2.51 * x + .03)) / (x * (2.43 * x + .59) + .14)          # filmic shoulder (Narkowicz 2015)
    x = np.clip(x, 0, 1) ** (1 / 2.2)
    x = x.mean(-1, keepdims=True) * .24 + x * .76                      # film holds back the strongest colours
    h, w = x.shape[:2]; y, xx = np.mgrid[0:h, 0:w]
    r = np.hypot((xx / w - .5), (y / h - .5)); x = x * (1 - .30 * np.clip(r - .28, 0, 1))[..., None]
    g = RNG.normal(0, 1, (h, w)); g = (g + np.roll(g, 1, 0) + np.roll(g, 1, 1)) / 1.9
    return np.clip(x + grain * g[..., None] * (1.2 - x), 0, 1)

def main():
    args = [a for a in sys.argv[1:] if not a.startswith("--")]; out = pathlib.Path(args[0]); out.mkdir(parents=True, exist_ok=True)
    draft = "--draft" in sys.argv
    for name in args[1:] or SCENES:
        parts = SCENES[name]()
        sensor = parts["sensor"]
        if draft: sensor["film"]["width"] //= 4; sensor["film"]["height"] //= 4
        scene = mi.load_dict({"type": "scene", "integrator": {"type": "aov", "aovs": "al:albedo,nn:sh_normal", "path": {"type": "path", "max_depth": 7}}, **flat(parts)})
        image = trace(scene, 32 if draft else 40)
        pixels = (develop(image, EXPOSURE.get(name, 1.0)) * 255 + .5).astype(np.uint8)
        Image.fromarray(pixels).save(out / f"{name.replace('_', '-')}.jpg", quality=86, optimize=True)
        print(name, "done", flush=True)

main()
