"""Do the packs go into the bay? Boxes laid in every orientation, with padding around and room for the connectors."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache
from itertools import permutations
from typing import Literal

from gecko.document.parts.bay import Bay
from gecko.document.parts.pack import Pack

MOST_TRIES = 6000
"""How many places are tried before the search says that it found no way. [1]"""

Answer = Literal["fits", "too big", "no way found"]


@dataclass(frozen=True)
class Box:
    """A pack in the bay: its number, its near corner and its sides along the bay, across it and upward. [m]"""

    index: int
    at: tuple[float, float, float]
    sides: tuple[float, float, float]


@dataclass(frozen=True)
class Layout:
    """Whether the packs fit, and where each that found a place lies."""

    answer: Answer
    boxes: tuple[Box, ...]


def sides_m(pack: Pack, bay: Bay) -> tuple[float, float, float] | None:
    """Sides a pack takes up in the bay, connectors and padding on one side included; None where a side is not known. [m]"""
    if pack.length_m is None or pack.width_m is None or pack.height_m is None:
        return None
    gap = bay.clearance_m
    return pack.length_m.value + gap, pack.width_m.value + gap, pack.height_m.value + bay.connector_m + gap


def lay_in(bay: Bay, sizes: list[tuple[float, float, float]]) -> Layout:
    """Lay boxes of these sides [m], padding included, into the bay; the largest first, each in all its orientations.

    "too big" is proved: one box is larger than the bay, or all together are. "no way found" is a search that gave up.
    """
    gap = bay.clearance_m
    return _lay_in((bay.length_m.value - gap, bay.width_m.value - gap, bay.height_m.value - gap), tuple(sizes))


@lru_cache(maxsize=64)
def _lay_in(room: tuple[float, float, float], sizes: tuple[tuple[float, float, float], ...]) -> Layout:
    """Cached, because a search takes longer than a key press may, and most key presses do not change the boxes."""
    fits_alone = [all(s <= r + 1e-9 for s, r in zip(sorted(size), sorted(room), strict=True)) for size in sizes]
    volume = sum(a * b * c for a, b, c in sizes)
    if not all(fits_alone) or volume > room[0] * room[1] * room[2] + 1e-9:
        return Layout("too big", ())
    order = sorted(range(len(sizes)), key=lambda i: -sizes[i][0] * sizes[i][1] * sizes[i][2])
    turns = [sorted({(s[i], s[j], s[k]) for i, j, k in permutations(range(3))}, key=lambda turned: turned[2]) for s in sizes]
    best: list[Box] = []
    tries = [0]

    def place(done: list[Box]) -> bool:
        nonlocal best
        if len(done) > len(best):
            best = list(done)
        if len(done) == len(order):
            return True
        index = order[len(done)]
        for corner in _corners(done):
            for turned in turns[index]:
                tries[0] += 1
                if tries[0] > MOST_TRIES:
                    return False
                box = Box(index, corner, turned)
                if _inside(box, room) and all(_apart(box, other) for other in done) and place([*done, box]):
                    return True
        return False

    done = place([])
    return Layout("fits" if done else "no way found", tuple(best))


def _corners(done: list[Box]) -> Iterator[tuple[float, float, float]]:
    """Places where the next box may stand: the origin and the three far corners of each box, low and near ones first."""
    points = {(0.0, 0.0, 0.0)}
    for box in done:
        x, y, z = box.at
        points |= {(x + box.sides[0], y, z), (x, y + box.sides[1], z), (x, y, z + box.sides[2])}
    yield from sorted(points, key=lambda p: (p[2], p[1], p[0]))


def _inside(box: Box, room: tuple[float, ...]) -> bool:
    return all(at + side <= most + 1e-9 for at, side, most in zip(box.at, box.sides, room, strict=True))


def _apart(a: Box, b: Box) -> bool:
    return any(a.at[i] + a.sides[i] <= b.at[i] + 1e-9 or b.at[i] + b.sides[i] <= a.at[i] + 1e-9 for i in range(3))


def balance_m(layout: Layout, masses_kg: list[float]) -> tuple[float, float, float] | None:
    """Common centre of mass of the boxes laid in, from the bay's near lower corner [m]; None with no box. Masses in kg."""
    if not layout.boxes:
        return None
    total = sum(masses_kg[box.index] for box in layout.boxes)
    x, y, z = (sum(masses_kg[box.index] * (box.at[i] + box.sides[i] / 2.0) for box in layout.boxes) / total for i in range(3))
    return x, y, z
