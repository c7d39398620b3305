"""Builds the typefaces that stand in for other scripts, from packages of web fonts: typefaces.py NODE_MODULES.

Needs fonttools and brotli. Subsets of one face are merged; the catalogue gets an entry for each family with the scripts it stands in for.
"""

import json
import pathlib
import shutil
import sys
import tempfile

from fontTools.merge import Merger
from fontTools.ttLib import TTFont

FONTS = pathlib.Path(__file__).resolve().parent.parent / "assets" / "fonts"
WEIGHTS = {400: "400Regular", 700: "700Bold"}
BOTH = [400, 700]

# Package, words people look for it by, subsets, weights, scripts (ISO 15924).
SETS = [
    ("noto-sans", ["sans", "plain", "many languages", "greek", "cyrillic"], ["latin", "latin-ext", "greek", "greek-ext", "cyrillic", "cyrillic-ext", "vietnamese"], BOTH, ["Latn", "Grek", "Cyrl"]),
    ("noto-sans-arabic", ["sans", "arabic", "right to left"], ["arabic"], BOTH, ["Arab"]),
    ("noto-sans-hebrew", ["sans", "hebrew", "right to left"], ["hebrew"], BOTH, ["Hebr"]),
    ("noto-sans-devanagari", ["sans", "devanagari", "hindi"], ["devanagari"], BOTH, ["Deva"]),
    ("noto-sans-bengali", ["sans", "bengali"], ["bengali"], BOTH, ["Beng"]),
    ("noto-sans-tamil", ["sans", "tamil"], ["tamil"], BOTH, ["Taml"]),
    ("noto-sans-thai", ["sans", "thai"], ["thai"], BOTH, ["Thai"]),
    ("noto-sans-georgian", ["sans", "georgian"], ["georgian"], BOTH, ["Geor"]),
    ("noto-sans-armenian", ["sans", "armenian"], ["armenian"], BOTH, ["Armn"]),
    ("noto-sans-ethiopic", ["sans", "ethiopic"], ["ethiopic"], [400], ["Ethi"]),
    ("noto-sans-jp", ["sans", "japanese"], ["japanese"], [400], ["Hani", "Hira", "Kana"]),
    ("noto-sans-kr", ["sans", "korean"], ["korean"], [400], ["Hang"]),
    ("noto-sans-sc", ["sans", "chinese"], ["chinese-simplified"], [400], ["Hani"]),
]


def family_of(package):
    return " ".join(part.upper() if len(part) == 2 else part.capitalize() for part in package.split("-"))


def face(source, package, subsets, weight, target, scratch):
    parts = []
    for subset in subsets:
        font = TTFont(source / "files" / f"{package}-{subset}-{weight}-normal.woff2")
        font.flavor = None
        parts.append(str(scratch / f"{package}-{subset}-{weight}.ttf"))
        font.save(parts[-1])
    if len(parts) == 1:
        shutil.copy(parts[0], target)
    else:
        Merger().merge(parts).save(target)


def main(modules):
    catalogue = json.loads((FONTS / "catalogue.json").read_text())
    kept = [entry for entry in catalogue if entry["family"] not in {family_of(package) for package, *_ in SETS}]
    with tempfile.TemporaryDirectory() as scratch:
        for package, moods, subsets, weights, scripts in SETS:
            source, family = modules / "@fontsource" / package, family_of(package)
            folder = FONTS / package
            folder.mkdir(exist_ok=True)
            faces = []
            for weight in weights:
                name = f"{family.replace(' ', '')}_{WEIGHTS[weight]}.ttf"
                face(source, package, subsets, weight, folder / name, pathlib.Path(scratch))
                faces.append({"file": f"{package}/{name}", "weight": weight, "italic": False})
            shutil.copy(source / "LICENSE", folder / "LICENSE")
            kept.append({"family": family, "moods": moods, "licence": "OFL-1.1", "scripts": scripts, "faces": faces})
    (FONTS / "catalogue.json").write_text(json.dumps(kept, indent=1, ensure_ascii=False) + "\n")


if __name__ == "__main__":
    main(pathlib.Path(sys.argv[1]))
