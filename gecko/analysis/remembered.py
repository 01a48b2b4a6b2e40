"""What somebody remembers of a machine as it was bought: its speed says how motor and gears turn together, before anything is measured."""

from __future__ import annotations

from itertools import pairwise
from typing import NamedTuple

import numpy as np
from pydantic import ValidationError
from scipy.optimize import brentq

from gecko.analysis.riding import Riding
from gecko.common.documents import Document
from gecko.common.errors import GeckoError
from gecko.common.figures import Figure
from gecko.document.setup import Setup, load_setup
from gecko.machine.resolve import resolve

SPREAD = 0.10
"""How well a walking or jogging pace is remembered, one standard deviation [1]. This project's planning value."""
KNOWN = 0.02
"""The others that make a speed turn with it: only their product is told. [1]"""
FURTHEST = 3.0
"""No figure is moved by more than so many times. [1]"""
_PLACES = ("/motor/no_load_rpm", "/motor/speed_rpm", "/drivetrain/ratio")


class Remembered(NamedTuple):
    """A setup whose assumed figures go the remembered speed, and what was moved, in a sentence."""

    setup: Setup
    said: str


def remembered(setup: Setup, speed_m_s: float) -> Remembered:
    """The as-found machine with its assumed motor speed, else its assumed gearing, such that it goes so fast at half charge on its ground [m/s].

    Motor and gears are known together then: the figure that is moved keeps the spread of a remembered speed, the other next to none.
    Raises GeckoError where neither is assumed, or no believable figure gives that speed.
    """
    found = resolve(setup)
    if found.machine is None:
        raise GeckoError("Enter battery and motor first: a speed says something about a whole machine only.", path="/stock/top_speed_m_s")
    known = {path: found.figures[path] for path in _PLACES if path in found.figures}
    loose = [path for path, figure in known.items() if figure.basis == "assumed"]
    if not loose:
        raise GeckoError("Motor speed and gearing are both typed. Enter the speed as a run in Prove: there it is weighed against them.", path="/stock/top_speed_m_s")
    path, figure = loose[0], known[loose[0]]

    def with_factor(factor: float) -> Setup:
        document = setup.model_dump(mode="json")
        _put(document, path, Figure(value=figure.value * factor, basis="assumed", spread=SPREAD))
        for other in (*loose[1:], "/wheel/diameter_m", "/motor/volts_v"):
            if other in found.figures and found.figures[other].basis == "assumed":
                _put(document, other, found.figures[other].model_copy(update={"spread": KNOWN}))
        return load_setup(document)

    def off(log_factor: float) -> float:
        try:
            riding = Riding(with_factor(float(np.exp(log_factor))))
        except ValidationError:
            # No such figure can be larger.
            return float("nan")
        return float(riding.speeds.course[1]) - speed_m_s

    # Searched outward from the typical value, because speed does not rise for ever: a motor wound far too fast has no push left and is slow again.
    steps = np.linspace(0.0, float(np.log(FURTHEST)), 8)
    ladders = [[(float(x), off(float(x))) for x in side] for side in (steps, -steps)]
    crossings = [(abs(x1), x0, x1) for ladder in ladders for (x0, y0), (x1, y1) in pairwise(ladder) if y0 * y1 <= 0.0]
    if not crossings:
        raise GeckoError(
            "No believable motor or gearing gives this speed with these volts and watts. Check the speed's unit, and the volts on the labels.",
            path="/stock/top_speed_m_s",
        )
    _, x0, x1 = min(crossings)
    factor = float(np.exp(brentq(off, x0, x1, xtol=1e-3)))
    words = "gearing" if path == "/drivetrain/ratio" else "motor's speed"
    said = f"The {words} is taken as {factor:.2f} times the typical one: so it goes as fast as you remember with half-full packs"
    return Remembered(with_factor(factor), f"{said}, and fresh off the charger a little faster.")


def _put(document: Document, path: str, figure: Figure) -> None:
    *steps, last = path.strip("/").split("/")
    place = document
    for step in steps:
        if place.get(step) is None:
            place[step] = {}
        place = place[step]
    place[last] = figure.model_dump(mode="json")
