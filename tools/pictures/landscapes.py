"""Computes the demo pictures that are not still lifes: hills in mist, folded linen (development only).

Usage: python landscapes.py OUT_DIR        Needs: numpy, pillow.
"""
import pathlib, sys
import numpy as np
from PIL import Image

RNG = np.random.default_rng(20240612)


def noise(h, w, base, octaves, fall=0.5, seed=0):
    """Value noise in 0..1 from octaves of smooth random grids."""
    rng = np.random.default_rng(seed)
    out, amp, total = np.zeros((h, w)), 1.0, 0.0
    for octave in range(octaves):
        n = base * 2 ** octave
        grid = Image.fromarray(rng.random((max(2, min(h, int(n * h / w) + 2)), min(w, n + 2))).astype(np.float32))
        out += amp * np.asarray(grid.resize((w, h), Image.BICUBIC))
        total += amp
        amp *= fall
    return out / total


def finish(x, grain):
    h, w = x.shape[:2]
    y, xx = np.mgrid[0:h, 0:w]
    r = np.hypot(xx / w - 0.5, y / h - 0.5)
    x = x * (1 - 0.28 * np.clip(r - 0.3, 0, 1))[..., None]
    g = RNG.normal(0, 1, (h, w))
    g = (g + np.roll(g, 1, 0) + np.roll(g, 1, 1)) / 1.9
    return np.clip(x + grain * g[..., None] * (1.15 - x), 0, 1)


def mist_hills(h=1020, w=1530):
    """Seven ridges of hills, each nearer one darker and less hazed, with mist lying in the valleys and a low sun."""
    y = np.linspace(0, 1, h)[:, None]
    x = np.linspace(0, 1, w)[None, :]
    sky_top, sky_low = np.array([0.60, 0.68, 0.74]), np.array([0.96, 0.87, 0.76])
    t = np.clip(y / 0.62, 0, 1)[..., None]
    image = sky_top * (1 - t) + sky_low * t + np.zeros((h, w, 3))
    sun = np.exp(-(((x - 0.68) * 1.5) ** 2 + (y - 0.40) ** 2) / 0.018)
    image += sun[..., None] * np.array([0.16, 0.11, 0.05])
    cloud = np.clip(noise(h, w, 3, 6, 0.55, 1) - 0.5, 0, 1) * (1 - t[..., 0])
    image += cloud[..., None] * 0.35
    haze, near = np.array([0.90, 0.85, 0.79]), np.array([0.105, 0.135, 0.115])
    for i in range(7):
        depth = i / 6
        line = np.zeros(w)
        rng = np.random.default_rng(40 + i)
        for octave in range(9):
            n = int((2 + i) * 2 ** octave) + 3
            knots = rng.random(min(n, w))
            smooth = np.asarray(Image.fromarray(knots[None].astype(np.float32)).resize((w, 1), Image.BICUBIC))[0]
            line += smooth * (0.5 ** octave) * (1.0 if octave < 5 else 0.6 + depth)
        line = (line - line.mean()) * (0.055 + 0.045 * depth)
        top = 0.43 + 0.075 * i + 0.012 * i * i - line
        # Trees break the nearer edges.
        trees = np.abs(np.interp(np.arange(w), np.arange(0, w, 3), rng.random(len(np.arange(0, w, 3))))) * 0.012 * max(0, depth - 0.3)
        top = top - trees
        edge = 0.0011 + 0.0022 * (1 - depth)
        mask = 1 / (1 + np.exp(np.clip(-(y - top[None, :]) / edge, -60, 60)))
        shade = haze * (1 - depth) ** 0.8 + near * (1 - (1 - depth) ** 0.8)
        surface = noise(h, w, 8 + 4 * i, 6, 0.6, 80 + i)[..., None]
        colour = shade * (0.90 + 0.22 * (surface - 0.5) * (0.3 + depth))
        # Mist gathers below each ridge and hides its foot.
        below = np.clip((y - top[None, :]) / (0.13 + 0.05 * depth), 0, 1)
        patch = np.clip(noise(h, w, 2, 5, 0.5, 120 + i) * 1.5 - 0.25, 0, 1)
        mist = (below * patch * (1 - depth * 0.62))[..., None] * 0.9
        colour = colour * (1 - mist) + (haze * 1.02) * mist
        image = image * (1 - mask[..., None]) + colour * mask[..., None]
    return finish(np.clip(image, 0, 1.02), 0.014)


def linen(h=1200, w=1200):
    """Undyed linen with soft folds under raking light."""
    y, x = np.mgrid[0:h, 0:w].astype(float)
    height = 34 * noise(h, w, 2, 4, 0.5, 7) + 9 * np.sin((x * 0.9 + y * 0.5) / 130 + 5 * noise(h, w, 2, 3, 0.5, 8))
    gy, gx = np.gradient(height * 6)
    light = np.clip(0.80 + 0.20 * (-gx * 0.8 - gy * 0.45), 0.45, 1.18)
    pitch = 5.0
    sway = 1.4 * noise(h, w, 24, 5, 0.6, 9)
    warp = np.sin((x + gx * 4) / pitch * 2 * np.pi + 3 * sway)
    weft = np.sin((y + gy * 4) / pitch * 2 * np.pi + 3 * np.roll(sway, 37, 0))
    slub_x = np.repeat(noise(h, 8, 8, 1, 0.5, 10)[:, :1], w, 1) + noise(h, w, 90, 3, 0.6, 11)
    slub_y = noise(h, w, 60, 4, 0.6, 12)
    thread = 0.5 + 0.11 * warp + 0.11 * weft + 0.10 * (slub_x - 1.0) + 0.16 * (slub_y - 0.5)
    base = np.array([0.98, 0.93, 0.83])
    image = base * (light * (0.78 + 0.48 * thread))[..., None]
    return finish(np.clip(image, 0, 1), 0.012)


def main():
    out = pathlib.Path(sys.argv[1])
    out.mkdir(parents=True, exist_ok=True)
    for name, make in (("mist-hills", mist_hills), ("linen", linen)):
        Image.fromarray((make() * 255 + 0.5).astype(np.uint8)).save(out / f"{name}.jpg", quality=84, optimize=True)


main()
