#!/usr/bin/env python3
"""Packs openly licensed word lists for the spelling check into assets/words.

Usage: word_lists.py FOLDER, with the npm packages dictionary-LANGUAGE in it as archives (`npm pack dictionary-en`). Each list goes into
one archive with its rules and its licence. Flags are counted from one, as readers of such lists do not all take a nought."""

import glob
import os
import re
import sys
import tarfile
import zipfile

HERE = os.path.dirname(os.path.abspath(__file__))
OUT = os.path.join(HERE, "..", "assets", "words")


def counted_from_one(rules, words):
    """Numbered flags, each one more than it was."""
    if not re.search(r"^FLAG num$", rules, re.M):
        return rules, words
    more = lambda flags: ",".join(str(int(flag) + 1) for flag in flags.split(","))
    out = []
    for line in rules.split("\n"):
        parts = line.split(" ")
        if parts[0] in ("SFX", "PFX") and len(parts) > 3:
            parts[1] = more(parts[1])
            if "/" in parts[3]:
                add, flags = parts[3].split("/")
                parts[3] = f"{add}/{more(flags)}"
        out.append(" ".join(parts))
    entry = lambda line: re.sub(r"/([0-9,]+)$", lambda found: "/" + more(found.group(1)), line)
    return "\n".join(out), "\n".join(entry(line) for line in words.split("\n"))


def main(folder):
    os.makedirs(OUT, exist_ok=True)
    for path in sorted(glob.glob(os.path.join(folder, "dictionary-*.tgz"))):
        language = re.match(r"dictionary-([a-z-]+?)-\d", os.path.basename(path)).group(1)
        with tarfile.open(path) as archive:
            read = lambda name: archive.extractfile("package/" + name).read().decode("utf-8")
            rules, words, licence = read("index.aff"), read("index.dic"), read("license")
        rules, words = counted_from_one(rules, words)
        with zipfile.ZipFile(os.path.join(OUT, f"{language}.zip"), "w") as out:
            for name, text in (("list.aff", rules), ("list.dic", words), ("licence.txt", licence)):
                info = zipfile.ZipInfo(name, (2026, 1, 1, 0, 0, 0))
                info.compress_type = zipfile.ZIP_DEFLATED
                out.writestr(info, text, compresslevel=9)


if __name__ == "__main__":
    main(sys.argv[1])
