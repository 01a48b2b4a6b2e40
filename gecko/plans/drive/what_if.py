"""What holds the machine back, found by trying: one change at a time, evaluated again, with what each brings and costs."""

from __future__ import annotations

import numpy as np
from pydantic import ValidationError

from gecko.analysis.whole import Analysis
from gecko.answers.evaluation import HeldBack, Out, State
from gecko.common.documents import SetupDocument
from gecko.common.words import q, seconds
from gecko.document.setup import Setup, load_setup
from gecko.plans.drive.levers import Lever, Rung, ladders
from gecko.plans.trail import as_set, build_trail

NOTHING = 0.015
"""A change of less than this share counts as none. [1]"""


class Tried(Out):
    """One change and what it does. Gains are new less old, SI; shares are of the old value."""

    lever: Lever
    label: str
    detail: str
    top_speed_m_s: float
    top_gain_m_s: float
    launch_gain_s: float
    hill_gain: float
    run_time_gain_s: float
    winding_gain_k: float
    """In twenty minutes of the course, or until the ride ends."""
    stop_gain_m: float
    limit_at_top: str
    worst_station: str
    worst_share: float
    """The station with the least headroom afterwards, and its asks over stands."""
    worst_before: float
    """The same share of that station as it is now."""
    document: SetupDocument
    """The whole setup with the change, to be looked at and taken over."""


class TriedOut(Out):
    """The changes tried, the most useful first, and the sentence."""

    changes: list[Tried]
    held_back: HeldBack


def what_ifs(a: Analysis) -> TriedOut:
    """Try every single change and say what holds the machine back."""
    a = Analysis(a.setup, a.context)
    others = [(ladder[0], changed(a, *ladder[:1])) for ladder in ladders(a) if ladder]
    now = headroom(a)
    tried = [_compared(a, other, rung, now) for rung, other in others if other is not None]
    tried.sort(key=lambda one: -one.top_gain_m_s)
    return TriedOut(changes=tried, held_back=_sentence(a, tried))


def changed(a: Analysis, *rungs: Rung) -> Analysis | None:
    """The machine after these changes; None where they lead out of what a setup may be, or it does not move any more."""
    document = a.setup.model_dump(mode="json")
    try:
        for rung in rungs:
            rung.change(document)
        setup = load_setup(document)
    except ValidationError:
        return None
    other = Analysis(setup, a.context)
    return other if other.machine is not None else None


def headroom(a: Analysis) -> dict[str, tuple[str, float]]:
    """Name and share (asks over stands) of every station but grip and rider, by its id. [1]"""
    stations, _ = build_trail(a, [])
    return {s.id: (s.name, s.share) for s in stations if s.share is not None and s.id not in ("wheels", "rider")}


def _compared(a: Analysis, other: Analysis, rung: Rung, now: dict[str, tuple[str, float]]) -> Tried:
    then = headroom(other)
    worst = max(then, key=lambda key: then[key][1]) if then else ""
    return Tried(
        lever=rung.lever,
        label=rung.label,
        detail=rung.detail,
        top_speed_m_s=float(other.top),
        top_gain_m_s=float(other.top - a.top),
        launch_gain_s=float(other.launch.time_s[-1] - a.launch.time_s[-1]),
        hill_gain=float(other.hill.grade - a.hill.grade),
        run_time_gain_s=float(other.ride.run_time_s - a.ride.run_time_s),
        winding_gain_k=float(np.asarray(other.warm_c) - np.asarray(a.warm_c)),
        stop_gain_m=float(other.stop.distance_m - a.stop.distance_m),
        limit_at_top=other.top_point.limit_name(),
        worst_station=then[worst][0] if worst else "",
        worst_share=then[worst][1] if worst else 0.0,
        worst_before=now.get(worst, ("", 0.0))[1],
        document=other.setup.model_dump(mode="json"),
    )


_LEVER_TITLES: dict[Lever, str] = {
    "volts": "Volts",
    "rows": "The packs",
    "controller amps": "Controller amps",
    "motor": "The motor",
    "teeth": "Gearing",
    "wheel": "Wheel size",
    "mass": "Weight",
    "limiter": "Limiter",
}


def _sentence(a: Analysis, tried: list[Tried]) -> HeldBack:
    """One or two sentences with numbers: the change that gains most without overloading a part, and its cost; a change that would gain more but
    overloads one; what gains nothing; and what gains run time."""
    top, limit = float(a.top), a.top_point.limit_name()
    useful = [one for one in tried if one.top_gain_m_s > NOTHING * top]
    fitting = [one for one in useful if one.worst_share <= max(1.0, one.worst_before + 0.001)]
    words: list[str] = []
    title = "Nothing alone"
    state: State = "fine"
    if fitting:
        best = fitting[0]
        title = _LEVER_TITLES[best.lever]
        words.append(f"{_inside(best.label)} brings {q(best.top_gain_m_s, 'speed')}{_cost(best)}")
    else:
        words.append(f"no single change that every part stands lifts the top speed of {q(top, 'speed')} by more than {100 * NOTHING:.1f} %")
    beyond = next((one for one in useful if one not in fitting), None)
    if beyond is not None and (not fitting or beyond.top_gain_m_s > 1.5 * fitting[0].top_gain_m_s):
        title, state = _LEVER_TITLES[beyond.lever], "close"
        words.insert(
            0,
            f"{beyond.label} would bring {q(beyond.top_gain_m_s, 'speed')}, but {beyond.worst_station.lower()} would stand at {100 * beyond.worst_share:.0f} %",
        )
    idle = [one for one in tried if abs(one.top_gain_m_s) <= NOTHING * top and one.lever in ("volts", "controller amps", "motor", "rows")]
    if idle and useful:
        words.append(f"{_inside(idle[-1].label)} brings no speed")
    longest = max(tried, key=lambda one: one.run_time_gain_s, default=None)
    if longest is not None and longest.run_time_gain_s > 0.1 * float(a.ride.run_time_s):
        words.append(f"for run time: {_inside(longest.label)}, {seconds(longest.run_time_gain_s)} more")
    sentence = "; ".join(words)
    sentence = f"{sentence[0].upper()}{sentence[1:]}."
    chosen = as_set(a)
    if chosen is not None:
        return chosen.model_copy(update={"sentence": f"{chosen.sentence} {sentence}"})
    return HeldBack(station=None, limit=limit, title=title, sentence=sentence, state=state)


def _inside(label: str) -> str:
    """A label as it stands inside a sentence."""
    return label[0].lower() + label[1:]


def _cost(best: Tried) -> str:
    cost = []
    if best.winding_gain_k >= 1.0:
        cost.append(f"{q(best.winding_gain_k, 'rise')} more in the winding")
    if best.worst_station and best.worst_share - best.worst_before > 0.01:
        cost.append(f"{best.worst_station.lower()} at {100 * best.worst_share:.0f} % instead of {100 * best.worst_before:.0f} %")
    if best.run_time_gain_s < -60.0:
        cost.append(f"{seconds(-best.run_time_gain_s)} of run time")
    return f" and costs {' and '.join(cost)}" if cost else " and costs nothing"


def shared_limit(setups: list[tuple[str, Setup]]) -> str:
    """Where two setups come out alike, the limit they share; empty where none do. Each with its name."""
    known = [(name, Analysis(setup)) for name, setup in setups]
    known = [(name, a) for name, a in known if a.machine is not None]
    for i, (first, a) in enumerate(known):
        for second, b in known[i + 1 :]:
            if abs(float(a.top) - float(b.top)) > 0.02 * float(a.top):
                continue
            limits = a.top_point.limit_name(), b.top_point.limit_name()
            if limits[0] == limits[1]:
                return f"{first} and {second} reach the same top speed, for they share a limit: {_LIMITS[limits[0]]}"
    return ""


_LIMITS = {
    "volts": "the motor's own voltage meets the bank's. Different volts or gearing would tell them apart, not amps or watts.",
    "source": "the bank sags so deeply that more throttle brings less.",
    "phase": "the controller's motor-side amps. The watts on its label are not its amp limit.",
    "battery": "the controller's bank-side amps. The watts on its label are not its amp limit.",
    "undervoltage": "the controller folds back at its low cut-off.",
    "throttle": "the throttle.",
}
