"""Small changes on a Setup document that fixes are made of. Each changes the document in place."""

from __future__ import annotations

import math
from typing import Any

from gecko.checks.registry import Document, Edit
from gecko.words import q


def figure(value: float, basis: str = "nameplate") -> dict[str, Any]:
    """A figure as it stands in a document."""
    return {"value": value, "basis": basis}


def put(path: str, value: Any) -> Any:
    """A change that sets the value at a slash-separated path, making the parts on the way there."""
    steps = path.strip("/").split("/")

    def change(document: Document) -> None:
        place: Any = document
        for step in steps[:-1]:
            key: Any = int(step) if isinstance(place, list) else step
            if isinstance(place, dict) and not place.get(key):
                place[key] = {}
            place = place[key]
        place[int(steps[-1]) if isinstance(place, list) else steps[-1]] = value

    return change


def both(*changes: Any) -> Any:
    """Several changes as one."""

    def change(document: Document) -> None:
        for one in changes:
            one(document)

    return change


def fuse_and_gauge(kind: str, volts: float, rating: float, awg: int, *, whole: bool = True) -> Edit:
    """Put the main fuse and the main lead's gauge together: they are one decision."""

    def change(document: Document) -> None:
        fuse = document.get("main_fuse") or {}
        document["main_fuse"] = {**fuse, "kind": kind, "rating_a": rating, "dc_volts_v": volts, "breaking_a": None, "holder_a": None}
        if document.get("main_lead"):
            document["main_lead"]["awg"] = awg

    label = f"{rating:g} A {kind}, {volts:g} V × {q(awg, 'awg')}" if whole else f"{rating:g} A {kind}, {volts:g} V"
    return Edit(label, change)


def one_more_row(document: Document) -> None:
    """Another row like the first, side by side."""
    rows = document["bank"]["rows"]
    rows.append({**rows[0], "fuse": rows[0].get("fuse"), "lead": rows[0].get("lead")})


def fewer_in_series(document: Document) -> None:
    """One pack less in series in every row."""
    for row in document["bank"]["rows"]:
        row["units"] = row["units"][:-1]


def without_charger(index: int) -> Any:
    """A change that takes a charger out of the setup."""

    def change(document: Document) -> None:
        document["chargers"].pop(index)

    return change


def round_up(value: float, step: float) -> float:
    """Round up to a step, in the unit of the value.

    >>> round_up(41.2, 5)
    45.0
    """
    return float(math.ceil(value / step - 1e-9) * step)
