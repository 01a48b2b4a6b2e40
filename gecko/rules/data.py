"""Checks of what the numbers rest on: a result close to a limit should not hang on a guess."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from gecko.analysis.whole import Analysis
from gecko.common.figures import Figure
from gecko.common.words import amps, q, volts
from gecko.document.parts.pack import Pack, usual_limits_a
from gecko.physics.heat.motor import WINDING_CAUTION_C
from gecko.physics.protection.fuse import continuous_limit_a
from gecko.rules.measuring import measuring
from gecko.rules.registry import Trip, rule

CLOSE = 0.85
"""From this share of a limit on, a result is close to it. [1]"""


@dataclass(frozen=True)
class Guess:
    """A figure a result rests on: where it stands, what it is called, how to measure it."""

    path: str
    name: str
    how: str
    figure: Figure | None


@dataclass(frozen=True)
class Result:
    """A result beside its limit, as share of it [1], in words, and the figures it mainly rests on, weightiest first."""

    share: float
    sentence: str
    station: str
    guesses: tuple[Guess, ...]


LOAD = ("/vehicle/mass_kg", "/ground/rolling_resistance", "/motor/power_w")
SPEED = ("/drivetrain/ratio", "/motor/volts_v", "/motor/no_load_rpm", "/motor/speed_rpm", "/wheel/diameter_m")
HEAT = ("/motor/mass_kg", "/motor/efficiency", *LOAD)


def _guess(path: str, figure: Figure | None) -> Guess:
    known = measuring(path)
    return Guess(path, known.name, known.how, figure)


def _limits(pack: Pack, peak: float, rms: float) -> Iterator[tuple[str, float, Figure]]:
    """What a pack is asked for beside its limit [A]; of a lithium pack that states none, beside what such packs usually give."""
    steady_a, peak_a = usual_limits_a(pack)
    for name, asked, limit, usual in (("peak_10s_a", peak, pack.peak_10s_a, peak_a), ("continuous_a", rms, pack.continuous_a, steady_a)):
        if limit is not None or pack.chemistry != "lead":
            yield name, asked, limit or Figure(value=usual, basis="assumed")


def _results(a: Analysis) -> Iterator[Result]:
    def known(paths: tuple[str, ...]) -> tuple[Guess, ...]:
        return tuple(_guess(path, a.resolved.figures.get(path)) for path in paths)

    cap = a.resolved.cap_m_s
    if cap is not None:
        top = float(a.top)
        yield Result(top / cap, f"Top speed {q(top, 'speed')} is close to the cap of {q(cap, 'speed')}", "rider", known(SPEED))
    stands = a.resolved.figures.get("/controller/max_v")
    if a.m.control.kind != "none" and stands is not None and a.full_v is not None:
        label = _guess("/controller/max_v", stands)
        yield Result(a.full_v / stands.value, f"Full packs give {volts(a.full_v)}, close to the {volts(stands.value)} of the controller", "controller", (label,))
    rated = [
        (asked / limit.value, asked, limit, f"{path}/{name}")
        for (path, pack), (_, _, peak, rms) in zip(a.packs, a.pack_loads, strict=True)
        for name, asked, limit in _limits(pack, peak, rms)
    ]
    if rated:
        share, asked, limit, place = max(rated, key=lambda entry: entry[0])
        own = Guess(place, "pack's amps", "read them off its label, or a like pack's", limit)
        yield Result(share, f"A row is asked for {amps(asked)}, close to the {amps(limit.value)} of its packs", "packs", (own,))
    nominal, drop = a.nominal_v or 1.0, float(a.peak_a * a.half.resistance_ohm)
    inner = next(
        ((path, figure) for path, figure in a.resolved.figures.items() if path.endswith("/resistance_ohm") and "/units/" in path and figure.basis == "assumed"), None
    )
    if inner is not None:
        own = _guess(inner[0], inner[1])
        yield Result(drop / (0.15 * nominal), f"The packs sag {volts(drop)} at the launch, close to the 15 % that are too much", "packs", (own,))
    fuse = a.setup.main_fuse
    if fuse is not None:
        carries = float(continuous_limit_a(fuse.rating_a, a.setup.ground.ambient_c))
        yield Result(
            a.rms_a / carries, f"The ride asks for {amps(a.rms_a)}, close to the {amps(carries)} the {fuse.rating_a:g} A fuse carries for good", "main_fuse", known(LOAD)
        )
    for run in a.runs:
        most = a.lead_stands_a(run.lead)
        if most > 0 and run.kind == "main":
            yield Result(run.amps_a / most, f"The ride asks for {amps(run.amps_a)}, close to the {amps(most)} the {run.lead.words} lead stands", "leads", known(LOAD))
    ambient, hot = a.setup.ground.ambient_c, float(np.max(a.course_heat.winding_c))
    yield Result(
        (hot - ambient) / (WINDING_CAUTION_C - ambient),
        f"After 20 min the winding is at {q(hot, 'temp')}, close to the {q(WINDING_CAUTION_C, 'temp')} of the caution",
        "motors",
        known(HEAT),
    )


UNITS = {"v": "V", "a": "A", "ohm": "Ω", "w": "W", "rpm": "rpm"}


def _said(path: str, value: float) -> str:
    """A figure with the unit its field's name ends in."""
    unit = path.rsplit("_", 1)[-1]
    if unit in ("kg", "m"):
        return q(value, "mass" if unit == "kg" else "length")
    return f"{value:.4g} {UNITS[unit]}" if unit in UNITS else f"{value:.4g}"


@rule("data.assumed", station="rider", stage="survey", principle="A result close to a limit should not rest on a guess.")
def assumed(a: Analysis) -> Iterator[Trip]:
    told = set()
    for result in _results(a):
        if not CLOSE <= result.share <= 1.0:
            continue
        guess = next((g for g in result.guesses if g.figure is not None and g.figure.basis == "assumed"), None)
        if guess is None or guess.figure is None or guess.path in told:
            continue
        told.add(guess.path)
        yield Trip(
            "note",
            f"Measure the {guess.name}",
            f"{result.sentence}; that rests on an assumed figure, the {guess.name} ({_said(guess.path, guess.figure.value)}).",
            f"Measure it: {guess.how}.",
            guess.path,
            place=guess.path.strip("/").replace("/", "."),
            station=result.station,
        )
