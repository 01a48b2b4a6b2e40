"""What the model predicts for a trial, under the trial's own conditions."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from pydantic import ValidationError

from gecko.analysis.whole import Analysis
from gecko.answers.evaluation import Out
from gecko.document.setup import Setup, load_setup
from gecko.physics.electric.bank import unit_volts_v
from gecko.physics.motion.machine import Machine
from gecko.physics.motion.top_speed import top_speed


class Conditions(NamedTuple):
    """A setup as it was ridden, and how: knob mark (0…1 of duty), resting volts [V], surface and grade; None where nobody wrote it down."""

    setup: Setup
    knob: float | None = None
    rest_v: float | None = None
    surface: str | None = None
    grade: float | None = None


class Prediction(Out):
    """Predicted speed at the central values and its 5–95 % band. [m/s]"""

    speed_m_s: float
    low_m_s: float
    high_m_s: float


def charge_from_volts(machine: Machine, rest_v: float) -> float:
    """State of charge that gives these resting volts in the first row. [1] Inverse of the open-circuit curve."""
    grid = np.linspace(0.0, 1.0, 401)
    volts = sum(unit_volts_v(unit, grid) for unit in machine.bank.rows[0].units)
    return float(np.interp(rest_v, np.asarray(volts), grid))


def predict_trial(setup: Setup, *, knob: float | None = None, rest_v: float | None = None, surface: str | None = None, grade: float | None = None) -> Prediction | None:
    """Speed a trial should show: at its knob mark (0…1 of duty), resting volts [V], surface and grade.

    Without resting volts half charge is taken; None while the setup cannot be computed, or was ridden under conditions that cannot be. Without a controller the knob has
    no meaning and is left out.
    """
    document = setup.model_dump(mode="json")
    if surface is not None:
        document["ground"] |= {"surface": surface, "rolling_resistance": None, "friction": None}
    if grade is not None:
        document["ground"]["grade"] = grade
    if knob is not None and document.get("controller") and document["controller"]["kind"] != "none":
        document["throttle"] = {**(document.get("throttle") or {}), "limiter_mark": knob}
    try:
        changed = load_setup(document)
    except ValidationError:
        # The conditions may name something no table holds any more, such as a surface: then there is nothing to predict, and the list goes on.
        return None
    central, sampled = Analysis(changed), Analysis(changed, samples=True)
    if central.machine is None or sampled.machine is None:
        return None
    soc = 0.5 if rest_v is None else charge_from_volts(central.machine, rest_v)
    speed = float(top_speed(central.m, central.m.source(soc), central.motor, changed.ground.grade))
    spread = top_speed(sampled.m, sampled.m.source(np.full((1,), soc)), sampled.motor, changed.ground.grade)
    low, high = np.percentile(np.atleast_1d(spread), [5, 95])
    return Prediction(speed_m_s=speed, low_m_s=float(low), high_m_s=float(high))


def predict_trials(ridden: Sequence[Conditions]) -> list[Prediction | None]:
    """What each of several trials should show [m/s]; None where its setup cannot be computed."""
    return [predict_trial(one.setup, knob=one.knob, rest_v=one.rest_v, surface=one.surface, grade=one.grade) for one in ridden]
