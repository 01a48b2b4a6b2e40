"""Each rider's cap, and where knob or mode must stand for it with full packs: one line of a label."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

import numpy as np

from gecko.analysis.chances import Sampled
from gecko.analysis.riding import Riding
from gecko.answers.evaluation import Out
from gecko.document.context import Context
from gecko.document.parts.rider import Rider
from gecko.physics.motion.top_speed import top_speed

CAP_NOTE = "A starting point by age. Local rules and the maker's limit come first, then the rider."


class RiderMark(Out):
    """One rider's line. Speeds in m/s, shares 0…1."""

    name: str
    age_years: float | None
    mass_kg: float
    cap_m_s: float | None
    cap_basis: Literal["entered", "by age", "maker", "youngest"]
    top_speed_m_s: float
    """With no limiter and no mode."""
    duty: float | None
    """Share of full duty that keeps three of four likely cases under the cap; None where nothing meters it, or nothing needs to."""
    mark: float | None
    """The knob's mark for it, 0…1."""
    marks_measured: int
    """How many measured points the knob's scale rests on."""
    mode: str | None
    """The fastest mode under the cap."""
    mode_speed_m_s: float | None
    lifts_front: bool
    """Full throttle at that setting lifts the front."""
    over_weight: bool
    line: str
    """The line of the label."""


def rider_out(a: Riding, rider: Rider) -> RiderMark:
    """Where knob or mode must stand for a rider at full charge on the level, found by the speeds at every duty."""
    throttle, control = a.setup.throttle, a.setup.controller
    free = a.setup.model_copy(
        update={
            "rider": rider,
            "throttle": None if throttle is None else throttle.model_copy(update={"limiter_mark": None}),
            "controller": None if control is None else control.model_copy(update={"mode": None}),
        }
    )
    own = Riding(free, Context(house=a.context.house))
    limit = own.resolved.cap
    assert limit is not None
    cap = limit.speed_m_s
    metered = own.m.control.kind != "none"
    level = Riding(free.model_copy(update={"ground": free.ground.model_copy(update={"grade": 0.0})}), own.context)
    top = float(level.level_top)
    aimed = cap * top / max(Sampled(level).top_quantile(0.78), 1e-6)
    duty = mark = None
    if metered and top > aimed:
        # A little under, never over: read off the rising line, rounded down to a tenth of a mark, as it is printed.
        duty = level.duty_for(aimed)
        mark = None if duty is None else float(np.floor(own.resolved.knob.mark(duty) * 100.0) / 100.0)
    mode, mode_speed = _fastest_mode(own, aimed) if metered and control is not None and control.modes else (None, None)
    lifts = _lifts(own, duty)
    load = a.setup.vehicle.max_load_kg if a.setup.vehicle is not None else None
    over = load is not None and own.resolved.rider_mass_kg > load.value
    return RiderMark(
        name=rider.name or "Rider",
        age_years=rider.age_years,
        mass_kg=own.resolved.rider_mass_kg,
        cap_m_s=cap,
        cap_basis=limit.basis,
        top_speed_m_s=top,
        duty=duty,
        mark=mark,
        marks_measured=own.resolved.knob.measured,
        mode=mode,
        mode_speed_m_s=mode_speed,
        lifts_front=lifts,
        over_weight=over,
        line=_line(metered, top <= aimed, mark, mode, _promises(a)),
    )


def _promises(a: Riding) -> tuple[bool, bool]:
    """Whether the limiter and the modes are where the rider cannot change them."""
    throttle, control = a.setup.throttle, a.setup.controller
    return throttle is not None and throttle.limiter_reachable is False, control is not None and control.modes_locked is True


def _fastest_mode(own: Riding, cap: float) -> tuple[str | None, float | None]:
    control = own.setup.controller
    assert control is not None
    found: tuple[str | None, float | None] = (None, None)
    for mode in control.modes:
        there = Riding(own.setup.model_copy(update={"controller": control.model_copy(update={"mode": mode.name})}), own.context)
        speed = float(top_speed(there.m, there.full, there.motor))
        if speed <= cap * 1.005 and (found[1] is None or speed > found[1]):
            found = (mode.name, speed)
    return found


def _lifts(own: Riding, duty: float | None) -> bool:
    limited = Riding(own.setup, own.context)
    if duty is not None:
        limited.machine = replace(own.m, control=replace(own.m.control, duty_max=duty))
    wheelie = limited.wheelie
    return wheelie is not None and wheelie.margin is not None and wheelie.margin <= 1.0


def _line(metered: bool, slow: bool, mark: float | None, mode: str | None, locked: tuple[bool, bool]) -> str:
    """The label's line. It promises only what the rider cannot undo."""
    if slow:
        return "no limit needed"
    if not metered:
        return "nothing on this machine limits it: not for this rider as it is"
    if mark is not None and mark < 0.1:
        return f"mode {mode}{'' if locked[1] else ', once it is locked'}" if mode else "too fast for this rider at any mark"
    words = [] if mode is None else [f"mode {mode}{'' if locked[1] else ', once it is locked'}"]
    if mark is not None:
        words.append(f"knob at {10.0 * mark:.1f}{'' if locked[0] else ', once it is out of reach'}")
    return " or ".join(words)
