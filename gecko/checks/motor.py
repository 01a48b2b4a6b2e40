"""Checks of the motor's heat."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from gecko.analysis import Analysis
from gecko.checks.edits import fewer_in_series, figure, put
from gecko.checks.registry import Edit, Trip, rule
from gecko.heat.motor import WINDING_CAUTION_C, WINDING_STOP_C
from gecko.protection.fuse import opening_times_s
from gecko.words import amps, q, seconds


def _cooler(a: Analysis) -> tuple[Edit, ...]:
    edits = []
    control = a.setup.controller
    if control is not None and control.kind != "none" and a.m.control.battery_limit_a is not None:
        for share in (0.75, 0.55):
            lower = float(int(float(a.m.control.battery_limit_a) * share))
            phase = float(int(float(a.m.control.phase_limit_a or lower * 1.5) * share))

            def change(document: dict, lower: float = lower, phase: float = phase) -> None:  # type: ignore[type-arg]
                put("controller/battery_limit_a", figure(lower))(document)
                put("controller/phase_limit_a", figure(phase))(document)

            edits.append(Edit(f"Set the controller to {lower:.0f} A", change))
    bank = a.setup.bank
    if bank is not None and min(len(row.units) for row in bank.rows) > 1:
        edits.append(Edit("One pack less in series", fewer_in_series))
    return tuple(edits)


@rule("motor.heat", station="motors", stage="drive", principle="Winding insulation ends at 155 °C.")
def heat(a: Analysis) -> Iterator[Trip]:
    course = float(np.max(a.course_heat.winding_c))
    three = a.flat_out.at(180.0)
    short = float(three[0]) if three is not None else WINDING_STOP_C
    worst = max(course, short)
    if worst < WINDING_CAUTION_C:
        return
    over = worst >= WINDING_STOP_C
    where = f"over 20 min of the ride it reaches {q(course, 'temp')}" if course >= short else f"three minutes flat out bring it to {q(short, 'temp')}"
    yield Trip(
        "stop" if over else "caution",
        "The winding gets too hot" if over else "The winding gets warm",
        f"The motor's winding: {where}; {q(130, 'temp')} is the caution, {q(155, 'temp')} the end.",
        "Lower the amp limit or the volts, gear it shorter, or rest between runs.",
        "/motor",
        _cooler(a),
    )


@rule("motor.stall", station="motors", stage="drive", principle="A blocked wheel must open the fuse before it burns the winding.")
def stall(a: Analysis) -> Iterator[Trip]:
    fuse = a.setup.main_fuse
    reaches = a.stalled.reaches(WINDING_STOP_C)
    if fuse is None or reaches is None:
        return
    longest = float(opening_times_s(fuse.kind, float(a.stall_point.pack_a) / fuse.rating_a)[1])
    if longest <= reaches:
        return
    opens = f"may take {seconds(longest)}" if np.isfinite(longest) else "never opens"
    yield Trip(
        "caution",
        "A blocked wheel burns the motor first",
        f"Stalled, {amps(float(a.stall_point.pack_a))} flow and the winding reaches {q(155, 'temp')} in {seconds(reaches)}; the {fuse.rating_a:g} A fuse {opens}.",
        "Tell the rider: when it does not move, let go at once.",
        "/main_fuse/rating_a",
    )
