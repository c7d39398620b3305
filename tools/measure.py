#!/usr/bin/env python3
"""Measures a release program from outside and prints every figure beside the one that was kept last.

Usage: measure.py PROGRAM [--beside OTHER] [--only WORD] [--keep] [--inside]

PROGRAM is measured by its command line and over HTTP, on the sample jobs. `--beside` measures another program in turn with it, on the same
machine at the same time, and gives the ratio to that. `--keep` writes the figures to docs/performance.json. `--inside` also runs the
benches of the crates. librsvg, libvips and Pillow are measured beside it where they are installed. Standard library alone."""

import argparse
import json
import os
import pathlib
import shutil
import statistics
import subprocess
import sys
import tempfile
import time
import urllib.request

HERE = pathlib.Path(__file__).resolve().parent.parent
KEPT = HERE / "docs/performance.json"


class Served:
    """A running program on a folder of its own."""

    def __init__(self, program, folder):
        self.process = subprocess.Popen(
            [program, "serve", "--demo", "--bind", "127.0.0.1:0", "--data", folder], stdout=subprocess.PIPE, text=True)
        self.address = self.process.stdout.readline().split()[-1].rstrip("/")

    def ask(self, path, body=None, method=None):
        data = None if body is None else body if isinstance(body, bytes) else json.dumps(body).encode()
        request = urllib.request.Request(self.address + path, data=data, method=method)
        request.add_header("x-vatman", "measure")
        request.add_header("content-type", "application/json")
        with urllib.request.urlopen(request) as answer:
            return answer.read()

    def json(self, path, body=None):
        return json.loads(self.ask(path, body))

    def end(self):
        self.process.terminate()
        self.process.wait()


def timed(work):
    began = time.perf_counter()
    work()
    return time.perf_counter() - began


def quiet(*command):
    """Runs a program that has to succeed; `check` ends with 1 where there is something to look at."""
    done = subprocess.run(command, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
    if done.returncode != 0 and not (done.returncode == 1 and "check" in command):
        raise RuntimeError(" ".join(map(str, command)))


class Figures:
    """Times by name, of as many programs as are measured; taken in turn, so that all meet the same neighbours."""

    def __init__(self, only):
        self.only, self.found = only, {}

    def take(self, name, works, runs=7):
        if self.only and self.only not in name:
            return
        times = {who: [] for who in works}
        for who, work in works.items():
            work()  # warm
        for _ in range(runs):
            for who, work in works.items():
                times[who].append(timed(work))
        self.found[name] = {who: statistics.median(own) for who, own in times.items()}
        print(f"  {name} ...", file=sys.stderr)


def command_line(figures, programs, folders, out):
    def export(job, piece, kind, *more):
        def of(program, folder):
            target = out / f"{job}-{piece}-{kind}".replace(" ", "-")
            return lambda: quiet(program, "export", "--data", folder, "--job", job, "--piece", piece, "--as", kind, *more, "--out", target)
        return {who: of(program, folders[who]) for who, program in programs.items()}

    def task(*arguments):
        return {who: (lambda program=program, folder=folders[who]: quiet(program, *[a.replace("DATA", folder) for a in arguments]))
                for who, program in programs.items()}

    figures.take("square post to PNG, whole process", export("Saturday wheel class", "Square post", "png"))
    figures.take("square post to SVG, whole process", export("Saturday wheel class", "Square post", "svg"))
    figures.take("A5 flyer to PDF, whole process", export("Saturday wheel class", "A5 flyer", "pdf"))
    figures.take("A5 flyer to PDF in process inks", export("Saturday wheel class", "A5 flyer", "pdf", "--process"))
    poster = export("Winter market stall", "A3 poster", "png")
    svg = out / "poster.svg"
    first = next(iter(programs))
    quiet(programs[first], "export", "--data", folders[first], "--job", "Winter market stall", "--piece", "A3 poster", "--as", "svg", "--out", svg)
    if shutil.which("rsvg-convert") and svg.exists():
        poster["librsvg"] = lambda: quiet("rsvg-convert", "--unlimited", "-w", "3508", "-o", out / "by-librsvg.png", svg)
    figures.take("A3 poster to PNG, whole process", poster, runs=5)
    figures.take("a job checked, whole process", task("check", "--data", "DATA", "--job", "Saturday wheel class"))
    figures.take("jobs listed, whole process", task("jobs", "--data", "DATA"))
    mug = str(HERE / "assets/pictures/celadon-mug.jpg")
    figures.take("a subject cut out", task("cutout", mug, "--out", str(out / "cut.png")), runs=3)
    recipe = json.loads((HERE / "assets/recipes.json").read_text())
    name = (recipe if isinstance(recipe, list) else recipe["recipes"])[0]["name"]
    develop = task("develop", mug, "--recipe", name, "--out", str(out / "developed.jpg"))
    figures.take("a picture developed by the first recipe", develop, runs=5)


def over_everything(figures, programs, folders, out):
    """The A3 poster with paper over everything, once and four times over each other."""
    def lay(program, folder, times):
        one = Served(program, folder)
        try:
            job = [own for own in one.json("/api/jobs") if own["title"] == "Winter market stall"][0]["id"]
            opened = one.json(f"/api/jobs/{job}")
            side = [piece for piece in opened["job"]["pieces"] if piece["name"] == "A3 poster"][0]["sides"][0]["id"]
            base = opened["revision"]
            for _ in range(times):
                over = one.json(f"/api/jobs/{job}/acts", {"base": base, "act": {"act": "addOver", "side": side}})
                step = {"act": "addStep", "items": over["made"], "kind": "texture"}
                base = one.json(f"/api/jobs/{job}/acts", {"base": over["revision"], "act": step})["revision"]
        finally:
            one.end()

    def export(kind):
        def of(program, folder):
            target = out / f"over-{kind}"
            return lambda: quiet(program, "export", "--data", folder, "--job", "Winter market stall", "--piece", "A3 poster", "--as", kind, "--out", target)
        return {who: of(program, folders[who]) for who, program in programs.items()}

    if figures.only and figures.only not in "paper over everything at A3":
        return
    for who, program in programs.items():
        lay(program, folders[who], 1)
    figures.take("paper over everything at A3 to PNG", export("png"), runs=3)
    figures.take("paper over everything at A3 to PDF", export("pdf"), runs=3)
    for who, program in programs.items():
        lay(program, folders[who], 3)
    figures.take("four papers over everything at A3 to PNG", export("png"), runs=3)
    figures.take("four papers over everything at A3 to SVG", export("svg"), runs=3)


def over_http(figures, programs, folders):
    served = {who: Served(program, folders[who]) for who, program in programs.items()}
    try:
        edits, since = {}, {}
        for who, one in served.items():
            job = [own for own in one.json("/api/jobs") if own["title"] == "Saturday wheel class"][0]["id"]
            opened = one.json(f"/api/jobs/{job}")
            side = opened["job"]["pieces"][0]["sides"][0]
            state = {"base": opened["revision"]}

            def edit(one=one, job=job, side=side, state=state):
                act = {"act": "move", "items": [side["items"][-1]["id"]], "dx": 9525, "dy": 0}
                for _ in range(20):
                    state["base"] = one.json(f"/api/jobs/{job}/acts", {"base": state["base"], "watch": side["id"], "act": act})["revision"]

            edits[who] = edit
            since[who] = lambda one=one, job=job: one.ask(f"/api/jobs/{job}/check")
        figures.take("twenty moves over HTTP, one after the other", edits)
        figures.take("a job checked over HTTP, repairs tried", since, runs=5)
        picture = (HERE / "assets/pictures/celadon-mug.jpg").read_bytes()
        figures.take("a picture brought over HTTP", {who: (lambda one=one: one.ask("/api/pictures?name=mug.jpg", picture)) for who, one in served.items()})
        drawing = b"<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 9 9'><path d='M0 0h9v9z'/></svg>"
        figures.take("a small SVG brought over HTTP", {who: (lambda one=one: one.ask("/api/drawings?name=a.svg", drawing)) for who, one in served.items()})
    finally:
        for one in served.values():
            one.end()


def inside(figures):
    """The benches of the crates, by their own harness."""
    subprocess.run(["cargo", "bench", "--workspace"], cwd=HERE, stdout=sys.stderr)
    target = pathlib.Path(os.environ.get("CARGO_TARGET_DIR", HERE / "target"))
    for path in sorted(target.glob("criterion/**/new/estimates.json")):
        name = "/".join(path.relative_to(target / "criterion").parts[:-2])
        figures.found[f"bench: {name}"] = {"now": json.loads(path.read_text())["median"]["point_estimate"] / 1e9}


def main():
    parser = argparse.ArgumentParser()
    parser.add_argument("program")
    parser.add_argument("--beside")
    parser.add_argument("--only", default="")
    parser.add_argument("--keep", action="store_true")
    parser.add_argument("--inside", action="store_true")
    wish = parser.parse_args()
    programs = {"now": os.path.abspath(wish.program)}
    if wish.beside:
        programs["beside"] = os.path.abspath(wish.beside)
    kept = json.loads(KEPT.read_text()) if KEPT.exists() else {}
    figures = Figures(wish.only)
    with tempfile.TemporaryDirectory() as folder:
        folders = {}
        for who, program in programs.items():
            folders[who] = f"{folder}/{who}"
            Served(program, folders[who]).end()
        command_line(figures, programs, folders, pathlib.Path(folder))
        over_http(figures, programs, folders)
        over_everything(figures, programs, folders, pathlib.Path(folder))
    if wish.inside:
        inside(figures)
    print(f"{'what':<52}{'now':>10}{'kept':>10}{'ratio':>7}{'beside':>10}{'ratio':>7}  others")
    for name, times in figures.found.items():
        show = lambda value: f"{value * 1e3:8.1f}ms" if value is not None else "-"
        ratio = lambda other: f"{times['now'] / other:.2f}" if other else "-"
        others = ", ".join(f"{who} {times['now'] / own:.2f} of {own * 1e3:.0f} ms" for who, own in times.items() if who not in ("now", "beside"))
        print(f"{name:<52}{show(times['now']):>10}{show(kept.get(name)):>10}{ratio(kept.get(name)):>7}{show(times.get('beside')):>10}{ratio(times.get('beside')):>7}  {others}")
    if wish.keep:
        kept.update({name: round(times["now"], 5) for name, times in figures.found.items()})
        KEPT.write_text(json.dumps(kept, indent=1, sort_keys=True) + "\n")


if __name__ == "__main__":
    main()
