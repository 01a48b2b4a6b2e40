"""Draws the rooms of the core from its imports: docs/rooms.svg. With --check it only says whether the picture is current.

Floors are those of the linter's contract in pyproject.toml, the lowest at the bottom. A line is as thick as many imports run along it; all
run downward.
"""

from __future__ import annotations

import ast
import sys
import tomllib
from collections import Counter
from pathlib import Path
from xml.sax.saxutils import escape

ROOT = Path(__file__).resolve().parent.parent
PICTURE = ROOT / "docs" / "rooms.svg"
WIDTH, HEIGHT, GAP, BOX = 760, 48, 30, 330

SAYS = {
    "common": "units, figures, words, quadrature",
    "reference": "published tables with their sources",
    "physics": "volts, forces, heat, fuses, the ride; no documents",
    "document": "parts, the setup, upgrades, the shipped catalogue",
    "answers": "the shapes of what is answered",
    "machine": "a setup as numbers: resolve, caps, masses, courses",
    "analysis": "how a setup rides, what its rows and leads carry",
    "rules": "one module per station, one function per rule",
    "hookup": "wiring, steps, readings, colours, orders",
    "plans": "evaluate, ranges, fixes, trail, the plan of each stage",
    "cases": "machines solved for an independent reference",
}


def floors() -> list[list[str]]:
    """Rooms by floor, the highest first."""
    told = tomllib.loads((ROOT / "pyproject.toml").read_text(encoding="utf-8"))["tool"]["importlinter"]["contracts"]
    layers = next(one["layers"] for one in told if one.get("containers") == ["gecko"])
    return [[room.strip() for room in floor.split("|")] for floor in layers]


def imports() -> tuple[Counter[tuple[str, str]], dict[str, tuple[int, int]]]:
    """How many imports run from room to room, and modules and lines of each room."""
    runs: Counter[tuple[str, str]] = Counter()
    sizes: dict[str, tuple[int, int]] = {}
    for file in sorted((ROOT / "gecko").rglob("*.py")):
        room = file.relative_to(ROOT / "gecko").parts[0]
        if room == "tests" or room.endswith(".py"):
            continue
        text = file.read_text(encoding="utf-8")
        modules, lines = sizes.get(room, (0, 0))
        sizes[room] = (modules + (file.name != "__init__.py"), lines + len(text.splitlines()))
        for node in ast.walk(ast.parse(text)):
            if isinstance(node, ast.ImportFrom) and node.module and node.module.startswith("gecko."):
                other = node.module.split(".")[1]
                if other != room:
                    runs[room, other] += 1
    return runs, sizes


def drawn() -> str:
    """The picture as SVG."""
    runs, sizes = imports()
    where: dict[str, tuple[float, float]] = {}
    boxes = []
    for n, floor in enumerate(floors()):
        y = 14 + n * (HEIGHT + GAP)
        for k, room in enumerate(sorted(floor)):
            # Floors stand a little apart from one another, so that lines past a floor can be seen.
            x = WIDTH / 2 - BOX / 2 + (k - (len(floor) - 1) / 2) * (BOX + 30) + (-60, 0, 60, 0)[n % 4] * (len(floor) == 1)
            where[room] = (x, y)
            modules, lines = sizes[room]
            boxes.append(
                f'<g><rect x="{x:g}" y="{y}" width="{BOX}" height="{HEIGHT}" rx="7" fill="#fffdf7" stroke="#2b2a26" stroke-width="1.5"/>'
                f'<text x="{x + 12:g}" y="{y + 22}" font-size="16" font-weight="700">{room}</text>'
                f'<text x="{x + BOX - 12:g}" y="{y + 22}" font-size="11" text-anchor="end" fill="#5d5a52">{modules} modules, {lines} lines</text>'
                f'<text x="{x + 12:g}" y="{y + 40}" font-size="10" fill="#5d5a52">{escape(SAYS[room])}</text></g>'
            )
    lines_drawn = []
    for (one, other), count in sorted(runs.items()):
        (x1, y1), (x2, y2) = where[one], where[other]
        colour, thick = "#7a9a76" if y2 > y1 else "#c0392b", 0.6 + count / 18
        lines_drawn.append(
            f'<path d="M{x1 + BOX / 2:g} {y1 + HEIGHT / 2:g} L{x2 + BOX / 2:g} {y2 + HEIGHT / 2:g}" stroke="{colour}" stroke-width="{thick:.1f}" opacity="0.55"/>'
        )
    tall = 14 + len(floors()) * (HEIGHT + GAP)
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {WIDTH} {tall}" font-family="sans-serif" role="img">'
        f"<title>The rooms of the core, each depending on those below it</title>"
        f'<rect width="{WIDTH}" height="{tall}" fill="#f4efe4"/>{"".join(lines_drawn)}{"".join(boxes)}</svg>\n'
    )


def main() -> int:
    """Write the picture, or with --check compare it."""
    text = drawn()
    if "--check" in sys.argv:
        if not PICTURE.exists() or PICTURE.read_text(encoding="utf-8") != text:
            print("docs/rooms.svg is not current: run python tools/rooms.py.")
            return 1
        return 0
    PICTURE.write_text(text, encoding="utf-8")
    return 0


if __name__ == "__main__":
    sys.exit(main())
