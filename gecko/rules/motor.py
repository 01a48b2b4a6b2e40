"""Checks of the motor's heat."""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np
from numpy.typing import NDArray

from gecko.analysis.chances import LIKELY, Chance, chance
from gecko.analysis.whole import Analysis
from gecko.common.words import amps, likely_words, q, seconds
from gecko.document.parts.drivetrain import Drivetrain
from gecko.physics.heat.motor import WINDING_CAUTION_C, WINDING_STOP_C
from gecko.physics.protection.fuse import opening_times_s
from gecko.rules import margins
from gecko.rules.controller import LEAST_LIMIT_A
from gecko.rules.edits import both, fewer_in_series, put, setting
from gecko.rules.registry import Edit, Later, Trip, rule
from gecko.rules.together import knob_module, limiter_edits


def _cooler(a: Analysis) -> tuple[Edit | Later, ...]:
    edits: list[Edit | Later] = []
    control = a.setup.controller
    if control is not None and control.kind != "none" and a.m.control.battery_limit_a is not None:
        for share in (0.75, 0.55, 0.4):
            lower = float(int(float(a.m.control.battery_limit_a) * share))
            phase = float(int(float(a.m.control.phase_limit_a or lower * 1.5) * share))
            if lower < LEAST_LIMIT_A:
                break
            label = f"Set the controller to {lower:.0f} A"
            edits.append(Edit(label, both(put("controller/battery_limit_a", setting(lower)), put("controller/phase_limit_a", setting(phase)))))
    elif a.motor_is_brushed:
        edits.append(knob_module(a))
    edits.append(limiter_edits(a, 0.8 * float(a.top)))
    bank = a.setup.bank
    if bank is not None and min(len(row.units) for row in bank.rows) > 1:
        edits.append(Edit("One pack less in series", fewer_in_series))
    return tuple(edits)


@rule("motor.heat", station="motors", stage="drive", principle="Winding insulation ends at 155 °C.")
def heat(a: Analysis) -> Iterator[Trip]:
    course, short, hot, warm = winding_chances(a)
    share = hot.share if hot.share >= LIKELY else warm.share
    if hot.share < LIKELY and warm.severity is None:
        return
    over = hot.share >= LIKELY
    where = f"over 20 min of the ride it reaches {q(course, 'temp')}" if course >= short else f"three minutes flat out bring it to {q(short, 'temp')}"
    # Beyond the winding's end no temperature is told, only when the end is reached.
    ended = float(a.ride.stop_s) if course >= short else a.flat_out.reaches(WINDING_STOP_C) or math.inf
    if ended < math.inf:
        where = f"it is at {q(WINDING_STOP_C, 'temp')} after {seconds(ended)} {'of the ride' if course >= short else 'flat out'}"
    yield Trip(
        "stop" if over else "caution",
        "The winding gets too hot" if over else "The winding gets warm",
        f"The motor's winding: {where}; {q(WINDING_CAUTION_C, 'temp')} is the caution, {q(WINDING_STOP_C, 'temp')} the end. {likely_words(share)}",
        "Lower the amp limit or the volts, gear it shorter, or rest between runs.",
        "/motor",
        _cooler(a),
        margin=margins.winding_rise(hot.central, a.setup.ground.ambient_c),
        likely=share,
    )


def winding_chances(a: Analysis) -> tuple[float, float, Chance, Chance]:
    """Winding over the course and after three minutes flat out [°C], and the chances that the hotter of both passes 155 and 130 °C."""
    course = float(np.max(a.course_heat.winding_c))
    three = a.flat_out.at(180.0)
    short = float(three[0]) if three is not None else WINDING_STOP_C
    air = a.setup.ground.ambient_c

    def samples() -> NDArray[np.float64]:
        # A run stops at 155 °C, so the samples cannot say how much hotter it would get; it is over the limit either way.
        # A run that stays far cooler than the other is never the hotter one in a likely case.
        rises = (course - air, "course_rise"), (short - air, "flat_out_rise")
        near = [rise * getattr(a.sampled, name) for rise, name in rises if rise > 0.5 * max(course, short) - 0.5 * air]
        hottest: NDArray[np.float64] = np.maximum.reduce(near)
        return air + hottest

    hottest = max(course, short)
    hot, warm = (chance(hottest - air, limit - air, lambda: samples() - air) for limit in (WINDING_STOP_C, WINDING_CAUTION_C))
    return course, short, Chance(hot.share, hot.central + air), Chance(warm.share, warm.central + air)


STALL_LIKELY = 1.3
"""A stall is likely where the steepest slope ridden comes within this factor of what it can start on. [1] This project's planning value."""


@rule("motor.moves", station="motors", stage="drive", principle="A motor that cannot turn the wheel turns all it gets into heat.")
def moves(a: Analysis) -> Iterator[Trip]:
    ground, starts = a.setup.ground, float(a.starts_on.grade)
    if starts >= ground.grade and float(a.top) > 0.0:
        return
    slope = f" at {100 * ground.grade:.0f} % slope" if ground.grade else ""
    drag = float(np.mean(a.m.vehicle.rolling_resistance))
    climbs = margins.slope(drag, ground.grade, starts)
    yield Trip(
        "stop",
        "It does not get going here",
        f"On {ground.surface}{slope} full throttle does not move {q(float(np.mean(a.m.vehicle.mass_kg)), 'mass')}"
        + (f"; it starts on up to {100 * starts:.0f} %." if starts > 0.0 else ".")
        + " All that flows then heats the motor.",
        "Gear it shorter, turn the limiter up, use more volts or amps where motor and controller stand them, or ride it where it is easier.",
        "/drivetrain",
        _shorter(a.setup.drivetrain, float(climbs.asked / climbs.stands)),
        margin=climbs,
    )


FEWEST_TEETH = 9
"""Smaller motor sprockets bend the chain too sharply. This project's planning value."""


def _shorter(drive: Drivetrain | None, by: float) -> tuple[Edit, ...]:
    """A smaller motor sprocket that pulls so many times as hard and a tenth more, where there is one."""
    if drive is None or drive.kind != "chain" or not drive.motor_teeth:
        return ()
    teeth = math.floor(drive.motor_teeth / (1.1 * by))
    return (Edit(f"Motor sprocket of {teeth} teeth", put("drivetrain/motor_teeth", teeth)),) if teeth >= FEWEST_TEETH else ()


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
    steepest = max([a.setup.ground.grade, a.setup.ground.hill_grade, *(one.grade for one in (a.setup.course.segments if a.setup.course else []))])
    likely = float(a.starts_on.grade) < STALL_LIKELY * steepest
    yield Trip(
        "caution" if likely else "note",
        "A blocked wheel burns the motor first",
        f"Stalled, {amps(float(a.stall_point.pack_a))} flow and the winding reaches {q(155, 'temp')} in {seconds(reaches)}; the {fuse.rating_a:g} A fuse {opens}."
        + (
            f" On your {100 * steepest:.0f} % slope {'it stalls' if float(a.starts_on.grade) < steepest else 'it is close to stalling'}: it starts on up to {100 * float(a.starts_on.grade):.0f} %."
            if likely
            else ""
        ),
        "Tell the rider: when it does not move, let go at once.",
        "/main_fuse/rating_a",
    )
