#!/usr/bin/env python3
"""Writes THIRD-PARTY.md: every library the program and its pages are built with, its version and its licence.

Usage: third_party.py, from anywhere; reads `cargo metadata` and web/package-lock.json. A test says when it is stale."""

import json
import pathlib
import subprocess

HERE = pathlib.Path(__file__).resolve().parent.parent


def crates():
    told = subprocess.run(
        ["cargo", "metadata", "--format-version", "1", "--locked", "--filter-platform", "x86_64-unknown-linux-gnu"],
        cwd=HERE, check=True, capture_output=True, text=True,
    )
    found = json.loads(told.stdout)
    packages = {package["id"]: package for package in found["packages"]}
    nodes = {node["id"]: node for node in found["resolve"]["nodes"]}
    # What is only built for tests and benches does not leave with the program.
    wanted, seen = list(found["workspace_members"]), set()
    while wanted:
        own = wanted.pop()
        if own in seen:
            continue
        seen.add(own)
        for other in nodes[own]["deps"]:
            if any(kind["kind"] != "dev" for kind in other["dep_kinds"]):
                wanted.append(other["pkg"])
    out = [packages[own] for own in seen if packages[own]["source"]]
    return sorted((p["name"], p["version"], p["license"] or "see its repository") for p in out)


def pages():
    lock = json.loads((HERE / "web/package-lock.json").read_text())
    out = []
    for path, package in lock["packages"].items():
        if path.startswith("node_modules/") and not package.get("dev") and not package.get("optional"):
            out.append((path.rsplit("node_modules/", 1)[1], package["version"], package.get("license", "see its repository")))
    return sorted(set(out))


def table(rows):
    lines = ["| library | version | licence |", "| --- | --- | --- |"]
    return "\n".join(lines + [f"| {name} | {version} | {licence} |" for name, version, licence in rows])


TEXT = """# What others made

Vatman is offered under MIT or Apache-2.0. It is built with these libraries. Typefaces, word lists, graphics and the profile of inks lie with
their licences in `assets/`. Written by `tools/third_party.py`; do not edit.

## In the program

{crates}

## In its pages

{pages}
"""

if __name__ == "__main__":
    (HERE / "THIRD-PARTY.md").write_text(TEXT.format(crates=table(crates()), pages=table(pages())))
