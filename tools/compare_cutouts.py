"""Compares what the program cuts out with GrabCut (C. Rother, V. Kolmogorov, A. Blake, 2004) as OpenCV has it, started from a box.

Development only: pip install opencv-python-headless numpy, then
    cargo run --release -p vatman-photo --example staged_subjects FOLDER
    python3 tools/compare_cutouts.py FOLDER
GrabCut needs a box. Where nothing is said it gets all of the picture but four pixels at its edges; else either is told the true box around each
subject, four pixels wider.
"""

import collections
import glob
import sys

import cv2
import numpy as np


def overlap(found, truth):
    return np.minimum(found, truth).sum() / max(np.maximum(found, truth).sum(), 1e-6)


def edge_match(found, truth):
    def marks(inside):
        inner = cv2.erode(inside.astype(np.uint8), np.array([[0, 1, 0], [1, 1, 1], [0, 1, 0]], np.uint8), borderValue=1)
        return inside & (inner == 0)

    a, b = marks(found > 0.5), marks(truth > 0.5)
    near = lambda mark: cv2.dilate(mark.astype(np.uint8), np.ones((5, 5), np.uint8)) > 0
    precision = (a & near(b)).sum() / max(a.sum(), 1)
    recall = (b & near(a)).sum() / max(b.sum(), 1)
    return 2 * precision * recall / max(precision + recall, 1e-6)


def true_box(truth):
    rows, columns = np.where(truth > 0.5)
    height, width = truth.shape
    left, top = max(columns.min() - 4, 1), max(rows.min() - 4, 1)
    return left, top, min(columns.max() + 5, width - 1), min(rows.max() + 5, height - 1)


def whole_box(truth):
    height, width = truth.shape
    return 4, 4, width - 4, height - 4


def grabcut(picture, truth, box):
    left, top, right, foot = box(truth)
    mask = np.zeros(truth.shape, np.uint8)
    box = (int(left), int(top), int(right - left), int(foot - top))
    cv2.setRNGSeed(1)
    cv2.grabCut(picture, mask, box, np.zeros((1, 65)), np.zeros((1, 65)), 5, cv2.GC_INIT_WITH_RECT)
    return ((mask == cv2.GC_FGD) | (mask == cv2.GC_PR_FGD)).astype(float)


def main(folder):
    sums = collections.defaultdict(lambda: np.zeros(9))
    for path in sorted(glob.glob(folder + "/*-truth.png")):
        name = path[: -len("-truth.png")]
        grey = lambda part: cv2.imread(f"{name}-{part}.png", cv2.IMREAD_GRAYSCALE) / 255.0
        truth, ours, boxed = grey("truth"), grey("found"), grey("boxed")
        picture = cv2.imread(name + ".png")
        all_found = [ours, grabcut(picture, truth, whole_box), boxed, grabcut(picture, truth, true_box)]
        figures = [figure(found, truth) for found in all_found for figure in (overlap, edge_match)] + [1]
        sums[name.split("/")[-1].split("-")[0]] += figures
    print("overlap and edges   nothing said:   GrabCut         with a box:     GrabCut")
    for kind, all_of in sums.items():
        own = all_of[:8] / all_of[8]
        print(f"{kind:18} " + "    ".join(f"{own[at]:.3f}  {own[at + 1]:.3f}" for at in (0, 2, 4, 6)))


main(sys.argv[1])
