"""A goal: how fast, how long or how steep it shall be, and what reaches it, with amps, heat and what breaks first."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from itertools import combinations
from typing import Literal

from gecko.analysis.whole import Analysis
from gecko.answers.evaluation import Out
from gecko.common.documents import SetupDocument
from gecko.common.words import q, seconds
from gecko.document.context import Context
from gecko.document.rack.about import Racked
from gecko.document.setup import Setup
from gecko.plans.drive.levers import Lever, Rung, ladders, limited, shorter
from gecko.plans.drive.what_if import changed, headroom
from gecko.plans.parts_list import parts_list
from gecko.plans.prices import CostOut
from gecko.rules.registry import run_checks

GoalKind = Literal["speed", "time", "hill"]

MOST_PAIRS = 12
"""So many pairs of changes are tried at most where no single one reaches a goal. [1]"""


class Way(Out):
    """A change, or two together, that reach the goal, and the machine then; SI."""

    levers: list[Lever]
    label: str
    detail: str
    top_speed_m_s: float
    run_time_s: float
    hill_grade: float
    peak_a: float
    warm_c: float
    """Winding at its hottest within twenty minutes of the ride. [°C]"""
    winding_stop_s: float | None
    """When it is at its end, where it comes to that. [s]"""
    breaks_first: str
    """The station with the least headroom then."""
    share: float
    """What is asked of it over what it stands. [1]"""
    stops: list[str]
    """Titles of what would stop the plan then and does not now."""
    cost: CostOut
    """What is left to buy for it, with this plan as it is now on the machine."""
    document: SetupDocument


class Short(Out):
    """A change that does not reach the goal alone, taken as far as it goes: how far that is, and what holds it there."""

    lever: Lever
    label: str
    value: float
    """What it reaches, in the goal's unit. [m/s], [s] or [1]"""
    why: str


class GoalOut(Out):
    """How far a machine is from a goal, in a sentence, what reaches it (what adds no stop first, then by headroom), and what does not alone."""

    now: float
    reached: bool
    sentence: str
    ways: list[Way]
    short: list[Short]


def reach(setup: Setup, kind: GoalKind, value: float, context: Context | None = None, rack: Sequence[Racked] = (), currency: str = "USD") -> GoalOut | None:
    """What brings a setup to a goal: a speed [m/s], a time of riding [s] or a grade (rise over run) [1]; None while it does not move.

    Of each lever the smallest step that reaches it; two levers together where no single one does. rack: what need not be bought. currency: of the prices,
    by the three letters of ISO 4217.
    """
    a = Analysis(setup, context)
    if a.machine is None or float(a.level_top) < 0.05:
        return None
    measure = _MEASURES[kind]
    now = measure(a)
    if now >= value:
        return GoalOut(now=now, reached=True, sentence=f"It does that already: {_words(kind, now)}.", ways=[], short=[])
    before = _stops(a)

    def way(other: Analysis, *rungs: Rung) -> Way:
        return _way(other, rungs, before, parts_list(other.setup, setup, rack, currency).to_buy)

    every = [ladder for ladder in ladders(a) if ladder]
    if kind in ("hill", "time"):
        lower_marks = limited(a.m.control, a.setup.throttle) if kind == "time" else []
        every += [ladder for ladder in (shorter(a.setup.drivetrain, a.resolved.family, a.m.vehicle), lower_marks) if ladder]
    ways: list[Way] = []
    best: list[tuple[float, Rung]] = []
    short: list[Short] = []
    for ladder in every:
        tried: list[tuple[float, Rung, Analysis]] = []
        enough = False
        for rung in ladder:
            other = changed(a, rung)
            if other is None:
                break
            reached = measure(other)
            if reached >= value:
                ways.append(way(other, rung))
                enough = True
                break
            tried.append((reached, rung, other))
        if tried:
            reached, rung, other = max(tried, key=lambda one: one[0])
            if reached > now * 1.01:
                best.append((reached, rung))
            if not enough:
                short.append(Short(lever=rung.lever, label=rung.label, value=reached, why=_why(kind, other)))
    if all(one.stops for one in ways):
        # Nothing alone is to be ridden so: two smaller changes may be.
        ways += _pairs(a, measure, value, best, way)
    ways.sort(key=lambda one: (len(one.stops), one.share))
    return GoalOut(now=now, reached=False, sentence=_sentence(kind, now, ways, best), ways=ways, short=sorted(short, key=lambda one: -one.value))


def _pairs(a: Analysis, measure: Callable[[Analysis], float], value: float, best: list[tuple[float, Rung]], way: Callable[..., Way]) -> list[Way]:
    """Two levers together, each as far as it goes; the most promising first."""
    order = sorted(best, key=lambda one: -one[0])
    found = []
    for (_, one), (_, two) in list(combinations(order, 2))[:MOST_PAIRS]:
        if one.lever == two.lever:
            continue
        other = changed(a, one, two)
        if other is not None and measure(other) >= value:
            found.append(way(other, one, two))
    return found


def _way(other: Analysis, rungs: tuple[Rung, ...], before: set[str], cost: CostOut) -> Way:
    room = headroom(other)
    worst = max(room.values(), key=lambda one: one[1], default=("", 0.0))
    stop_s = float(other.ride.stop_s)
    return Way(
        levers=[rung.lever for rung in rungs],
        label=" and ".join([rungs[0].label, *(rung.label[0].lower() + rung.label[1:] for rung in rungs[1:])]),
        detail="; ".join(rung.detail for rung in rungs),
        top_speed_m_s=float(other.top),
        run_time_s=float(other.ride.run_time_s),
        hill_grade=float(other.hill.grade),
        peak_a=float(other.peak_a),
        warm_c=float(other.warm_c),
        winding_stop_s=stop_s if stop_s <= float(other.ride.run_time_s) else None,
        breaks_first=worst[0],
        share=worst[1],
        stops=sorted(_stops(other) - before),
        cost=cost,
        document=other.setup.model_dump(mode="json"),
    )


def _stops(a: Analysis) -> set[str]:
    return {found.finding.title for found in run_checks(a) if found.finding.gate == "plan"}


_MEASURES: dict[GoalKind, Callable[[Analysis], float]] = {
    "speed": lambda a: float(a.top),
    "time": lambda a: float(a.ride.run_time_s),
    "hill": lambda a: float(a.hill.grade),
}


_HELD_BY = {
    "volts": "the packs' volts hold it there",
    "source": "the packs' sag holds it there",
    "phase": "the controller's motor-side amps hold it there",
    "battery": "the controller's bank-side amps hold it there",
    "undervoltage": "the controller's low cut-off holds it there",
    "traction": "the wheels slip",
    "tips back": "it tips back",
}


def _why(kind: GoalKind, other: Analysis) -> str:
    """What holds a machine where it then is; empty for a ride, whose end the Heat and Power pages tell."""
    if kind == "time":
        return ""
    ends = other.top_point.limit_name() if kind == "speed" else other.hill.ends_by.removeprefix("motor:")
    return _HELD_BY.get(ends, "")


def _words(kind: GoalKind, value: float) -> str:
    if kind == "speed":
        return q(value, "speed")
    return seconds(value) if kind == "time" else f"{100.0 * value:.0f} %"


def _sentence(kind: GoalKind, now: float, ways: list[Way], best: list[tuple[float, Rung]]) -> str:
    here = f"Now {_words(kind, now)}"
    if not ways:
        nearest = max(best, key=lambda one: one[0], default=None)
        so_far = f" {nearest[1].label} comes nearest, with {_words(kind, nearest[0])}." if nearest is not None else ""
        return f"{here}. Neither one change nor two reach it.{so_far}"
    first = ways[0]
    price = f"{first.breaks_first.lower()} is then at {100.0 * first.share:.0f} % of what it stands" if first.breaks_first else "every part stands it"
    alone = "the gentlest way" if len(ways) > 1 else "the only way found"
    if first.stops:
        return f"{here}. {first.label} reaches it, but is not to be ridden so: {first.stops[0][0].lower()}{first.stops[0][1:]}."
    return f"{here}. {first.label} is {alone}: {price}."
