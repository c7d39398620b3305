"""Packs openly licensed vector graphics from npm packages into assets/graphics: one ZIP a set, with a catalogue and its licence.

Usage: graphics.py NODE_MODULES [NAMES_TO_LEAVE_OUT]
NODE_MODULES holds @tabler/icons, @mdi/svg, @iconify-json/fluent-emoji-flat and emojilib. Marks of companies are left out by the
packages' own tags and by the list of names, one a line.
"""

import json
import pathlib
import re
import sys
import zipfile

OUT = pathlib.Path(__file__).resolve().parent.parent / "assets" / "graphics"
MARKS = {"Brand / Logo", "Developer / Languages", "Brand", "Social Media"}


def plain(name):
    return re.sub(r"[-_]+", " ", name).strip()


def words(values, name):
    seen = set(plain(name).lower().split())
    out = []
    for value in values:
        for word in re.findall(r"[a-z0-9]{2,}", str(value).lower()):
            if word not in seen:
                seen.add(word)
                out.append(word)
    return " ".join(out[:24])


def element(tag, attributes):
    return f"<{tag} " + " ".join(f'{key}="{value}"' for key, value in attributes.items()) + "/>"


def line(modules):
    about = json.loads((modules / "@tabler/icons/icons.json").read_text())
    nodes = json.loads((modules / "@tabler/icons/tabler-nodes-outline.json").read_text())
    root = 'viewBox="0 0 24 24" fill="none" stroke="#000" stroke-width="1.75" stroke-linecap="round" stroke-linejoin="round"'
    graphics = []
    for name, parts in nodes.items():
        entry = about.get(name, {})
        if entry.get("category") in MARKS or name.startswith("brand-"):
            continue
        graphics.append({"n": plain(name), "k": words([entry.get("category", ""), *entry.get("tags", [])], name), "b": "".join(element(tag, attributes) for tag, attributes in parts)})
    return "line", "Line", "MIT", root, graphics, modules / "@tabler/icons/LICENSE"


def solid(modules):
    root = 'viewBox="0 0 24 24"'
    graphics = []
    for entry in json.loads((modules / "@mdi/svg/meta.json").read_text()):
        name = entry["name"]
        if MARKS & set(entry["tags"]) or entry.get("deprecated"):
            continue
        data = re.search(r' d="([^"]+)"', (modules / f"@mdi/svg/svg/{name}.svg").read_text())
        graphics.append({"n": plain(name), "k": words([*entry["tags"], *entry["aliases"]], name), "b": f'<path d="{data.group(1)}"/>'})
    return "solid", "Solid", "Apache-2.0", root, graphics, modules / "@mdi/svg/LICENSE"


def colour(modules):
    keywords = {values[0]: values for values in json.loads((modules / "emojilib/dist/emoji-en-US.json").read_text()).values() if values}
    icons = json.loads((modules / "@iconify-json/fluent-emoji-flat/icons.json").read_text())["icons"]
    skin = re.compile(r"(light|dark|medium)$|^flag|-skin|medium-(light|dark)")
    graphics = []
    for name, icon in icons.items():
        if skin.search(name) or len(icon["body"]) > 12_000:
            continue
        graphics.append({"n": plain(name), "k": words(keywords.get(name.replace("-", "_"), []), name), "b": icon["body"]})
    return "colour", "Colour", "MIT", 'viewBox="0 0 32 32"', graphics, None


MIT = """MIT License

Copyright (c) Microsoft Corporation.

Permission is hereby granted, free of charge, to any person obtaining a copy
of this software and associated documentation files (the "Software"), to deal
in the Software without restriction, including without limitation the rights
to use, copy, modify, merge, publish, distribute, sublicense, and/or sell
copies of the Software, and to permit persons to whom the Software is
furnished to do so, subject to the following conditions:

The above copyright notice and this permission notice shall be included in all
copies or substantial portions of the Software.

THE SOFTWARE IS PROVIDED "AS IS", WITHOUT WARRANTY OF ANY KIND, EXPRESS OR
IMPLIED, INCLUDING BUT NOT LIMITED TO THE WARRANTIES OF MERCHANTABILITY,
FITNESS FOR A PARTICULAR PURPOSE AND NONINFRINGEMENT. IN NO EVENT SHALL THE
AUTHORS OR COPYRIGHT HOLDERS BE LIABLE FOR ANY CLAIM, DAMAGES OR OTHER
LIABILITY, WHETHER IN AN ACTION OF CONTRACT, TORT OR OTHERWISE, ARISING FROM,
OUT OF OR IN CONNECTION WITH THE SOFTWARE OR THE USE OR OTHER DEALINGS IN THE
SOFTWARE
"""


def main():
    modules = pathlib.Path(sys.argv[1])
    without = set(pathlib.Path(sys.argv[2]).read_text().splitlines()) if len(sys.argv) > 2 else set()
    OUT.mkdir(parents=True, exist_ok=True)
    for identity, title, licence, root, graphics, text in [line(modules), solid(modules), colour(modules)]:
        kept = sorted((g for g in graphics if g["n"] not in without), key=lambda g: g["n"])
        for graphic in kept:
            graphic["k"] = " ".join(word for word in graphic["k"].split() if word not in without)
        catalogue = {"id": identity, "name": title, "licence": licence, "root": root, "graphics": kept}
        with zipfile.ZipFile(OUT / f"{identity}.zip", "w", zipfile.ZIP_DEFLATED, compresslevel=9) as archive:
            for name, data in [("set.json", json.dumps(catalogue, ensure_ascii=False, separators=(",", ":"))), ("LICENSE", text.read_text() if text else MIT)]:
                archive.writestr(zipfile.ZipInfo(name, (2026, 1, 1, 0, 0, 0)), data, zipfile.ZIP_DEFLATED)
        print(f"{identity}: {len(kept)} graphics, {(OUT / f'{identity}.zip').stat().st_size // 1024} KB")


if __name__ == "__main__":
    main()
