"""Unsafe machines: sane ones with one to three things made wrong, all looked at; and the road of first fixes out of them."""

from __future__ import annotations

import math
import random
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from gecko.analysis.whole import Analysis
from gecko.document.context import Context
from gecko.document.setup import Setup, load_setup
from gecko.plans.mending import mended
from gecko.rules.registry import run_checks
from gecko.tests.machines import put_in
from gecko.tests.sane import Document, plate, sane


def _limit(d: Document) -> float:
    return float(d["controller"]["battery_limit_a"]["value"])


def _full(d: Document) -> float:
    return float(d["controller"]["max_v"]["value"]) / 1.3


def _units(d: Document, **values: Any) -> None:
    for row in d["bank"]["rows"]:
        for unit in row["units"]:
            unit.update(values)


def _within_reach(d: Document) -> None:
    """A child of seven who can turn the limiter."""
    d["throttle"].update(limiter_mark=0.5, limiter_reachable=True)
    d["rider"].update(age_years=7)


def _glued(d: Document) -> None:
    """Packs of 4 kg held by glue alone."""
    d["bank"].update(holding={"by": ["glue"], "cushioned": True})
    _units(d, mass_kg=plate(4))


SPOILS: dict[str, Callable[[Document], None]] = {
    "fuse far too large": put_in("main_fuse__rating_a", lambda d: d["main_fuse"]["rating_a"] * 4),
    "fuse under the volts": put_in("main_fuse__dc_volts_v", lambda d: _full(d) - 2),
    "no main fuse": put_in("main_fuse", lambda _: None),
    "fuse in minus": put_in("main_fuse__side", lambda _: "negative"),
    "thin main lead": put_in("main_lead__awg", lambda _: 18),
    "thin motor lead": put_in("motor_lead__awg", lambda _: 18),
    "no cut-off": lambda d: d.update(cut_off=None, plugs=[{"kind": "spade 6.3", "poles": 4, "rating_a": plate(60)}]),
    "cut-off under the volts": put_in("cut_off__dc_volts_v", lambda d: plate(_full(d) - 2)),
    "cut-off in minus": put_in("cut_off__side", lambda _: "negative"),
    "a toy plug": lambda d: d["plugs"].append({"kind": "spade 6.3", "poles": 2, "rating_a": plate(3)}),
    "a browned plug": lambda d: d["plugs"][0].update(browned=True),
    "controller under the volts": put_in("controller__max_v", lambda d: plate(_full(d) - 1)),
    "controller too strong for the packs": lambda d: _units(d, peak_10s_a=plate(0.5 * _limit(d)), trip_a=None),
    "longer gears": lambda d: d["drivetrain"].update(ratio=plate(0.4 * d["drivetrain"]["ratio"]["value"])) if "ratio" in d["drivetrain"] else None,
    "charger of other volts": put_in("chargers__0__end_v", lambda d: plate(0.7 * _full(d))),
    "charger far too strong": put_in("chargers__0__amps_a", lambda _: plate(90.0)),
    "mains plug on the charger": put_in("chargers__0__plug", lambda _: "mains pattern"),
    "lamps through the frame": lambda d: d.update(
        auxiliaries=[{"label": "lamps", "amps_a": plate(2), "returns": "frame", "fuse": {"rating_a": 5, "dc_volts_v": 80}, "lead": {"awg": 14, "length_m": plate(0.5)}}]
    ),
    "lamps for fewer volts": lambda d: d.update(
        auxiliaries=[{"label": "lamps", "amps_a": plate(2), "rated_v": plate(6), "fuse": {"rating_a": 5, "dc_volts_v": 80}, "lead": {"awg": 14, "length_m": plate(0.5)}}]
    ),
    "regeneration far too strong": put_in("controller__regen_a", lambda _: plate(200)),
    "charging below freezing": put_in("chargers__0__coldest_c", lambda _: -5.0),
    "glued packs": _glued,
    "limiter within reach": _within_reach,
}


def unsafe(pick: random.Random) -> tuple[Document, list[str]]:
    """A sane machine with one to three things made wrong, and which."""
    document = sane(pick)
    chosen = pick.sample(sorted(SPOILS), pick.randint(1, 3))
    for name in chosen:
        if (name == "fuse in minus" and document["main_fuse"] is None) or (name.startswith("cut-off") and document["cut_off"] is None):
            continue
        if name in ("fuse far too large", "fuse under the volts") and document["main_fuse"] is None:
            continue
        SPOILS[name](document)
    return document, chosen


@dataclass(frozen=True)
class Road:
    """Where following first fixes led: plan stops left, speeds before and after [m/s], the lowest cap [m/s], what is gone, and the labels."""

    left: tuple[str, ...]
    before_m_s: float
    after_m_s: float
    cap_m_s: float
    gone: tuple[str, ...]
    labels: tuple[str, ...]
    had_too_few_volts: bool


def follow(document: Document, context: Context | None = None) -> Road:
    """Take the first fix of the first plan stop that has one, again and again."""
    before = load_setup(document)
    start, road = Analysis(before, context), mended(before, context)
    end = Analysis(road.setup, context)
    return Road(
        road.left,
        float(start.top) if start.machine is not None else 0.0,
        float(end.top) if end.machine is not None else 0.0,
        # A grown-up's cap is advice, and said as a caution.
        min((one.cap.speed_m_s for one in end.riders if not one.cap.advice), default=math.inf),
        _gone(before, road.setup),
        tuple(f"{key}: {label}" for key, label in road.steps),
        any(f.finding.id == "pack.window.low" for f in run_checks(start)),
    )


def _gone(before: Setup, after: Setup) -> tuple[str, ...]:
    found = [name for name in ("chargers", "guard", "main_fuse", "rider") if getattr(before, name) and not getattr(after, name)]
    if after.main_fuse is None:
        found.append("no main fuse")
    return tuple(found)
