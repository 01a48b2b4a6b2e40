"""What the phases of a leg or a round come to: time, charge, heat, and how low a trace stays for how long."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from gecko.constants import COPPER_ALPHA_PER_K
from gecko.electric.bank import Source
from gecko.electric.motor import CLAMP_C, MAGNET_PER_K, MotorConstants
from gecko.electric.operating_point import PHASE, SOURCE, VOLTS
from gecko.figures import Number
from gecko.heat.motor import Affine, resistance_factor, then, two_node_feedback
from gecko.machine import Machine
from gecko.quadrature import pick
from gecko.ride.energy import energies_j
from gecko.ride.phase import Phase
from gecko.ride.round import Rider


@dataclass(frozen=True)
class Sums:
    """What a leg or a round comes to, one entry a column: time [s], distance [m], charge [As], charge's squares [A²s], energy at the
    controller [J], motor amps squared [A²s], and the step of winding and case above the air."""

    time_s: Number
    distance_m: Number
    pack_as: Number
    pack_a2s: Number
    controller_j: Number
    motor_a2s: Number
    heat: Affine
    energy_j: Number | None
    """Energy of each of `ride.energy.PARTS` on the first axis, where it was asked for. [J]"""
    on_the_way: tuple[tuple[Number, Affine, Number], ...]
    """At places along it: time from the start [s], the step of the nodes until then, and the motor amps squared since the last [A²s]."""

    @property
    def mean_a(self) -> Number:
        """Mean pack amps. [A]"""
        return self.pack_as / self.time_s


def still(shape: tuple[int, ...]) -> Affine:
    """The step of no time at all [1, K]."""
    one, none = np.ones(shape), np.zeros(shape)
    return one, none, none, one, none, none


def leg_sums(machine: Machine, source: Source, motor: MotorConstants, phases: Sequence[Phase], at_k: tuple[Number, Number], rider: Rider) -> Sums:
    """Sums of a leg's phases; at_k: winding and case above the air at which they were ridden [K]."""
    shape = np.shape(phases[0].speed_m_s[0])
    ohm = machine.source_ohm(source)
    winding = at_k[0] + machine.ambient_c
    by_resistance = np.where(winding < CLAMP_C, COPPER_ALPHA_PER_K / resistance_factor(winding), 0.0)
    by_case = np.where(at_k[1] + machine.ambient_c < CLAMP_C, 2.0 * MAGNET_PER_K[machine.motor.magnet], 0.0)
    speed, omega, motor_a, pack_a, steps = _end_to_end(phases)
    volts, square = source.open_v - pack_a * ohm, motor_a * motor_a
    follows = np.concatenate([_follows(machine, motor, phase, ohm) for phase in phases])
    rates = np.stack((np.ones_like(volts), speed, pack_a, pack_a * pack_a, pack_a * volts, square, np.abs(omega), square * follows))
    parts = (rates[:, 1:] + rates[:, :-1]) * (steps / 2.0)
    stacked = np.add.reduceat(parts, _pieces(phases, rider), axis=1)
    seconds = np.maximum(stacked[0], 1e-12)
    copper = stacked[5] / seconds * motor.resistance_ohm / machine.motor_count
    other = stacked[6] / seconds * np.abs(motor.k_v_s) * motor.no_load_a / machine.motor_count
    air = machine.thermal.air_conductance(stacked[1] / seconds)
    by_winding = by_resistance * stacked[7] / np.maximum(stacked[5], 1e-12)
    # All steps of the nodes in one call; only their joining goes one after the other.
    steps = two_node_feedback(machine.thermal, air, stacked[0], copper, other, by_winding, by_case, at_k)
    elapsed = np.cumsum(stacked[0], axis=0)
    heat, places = still(shape), []
    for k in range(stacked.shape[1]):
        heat = then(heat, tuple(part[k] for part in steps))
        places.append((elapsed[k], heat, stacked[5, k]))
    totals = stacked[:6].sum(axis=1)
    time, distance, pack_as, pack_a2s, controller_j, motor_a2s = totals
    return Sums(time, distance, pack_as, pack_a2s, controller_j, motor_a2s, heat, energies_j(machine, source, motor, phases) if rider.splits else None, tuple(places))


def _end_to_end(phases: Sequence[Phase]) -> tuple[Number, Number, Number, Number, Number]:
    """Speed [m/s], motor speed [rad/s], motor and pack amps [A] of phases one after the other, and the seconds between their points, none at a seam [s]."""
    traces = [(phase.speed_m_s, phase.omega, phase.motor_a, phase.pack_a, phase.time_s) for phase in phases]
    speed, omega, motor_a, pack_a, time = (np.concatenate(parts) for parts in zip(*traces, strict=True))
    steps = np.diff(time, axis=0)
    steps[np.cumsum([len(phase.time_s) for phase in phases[:-1]], dtype=int) - 1] = 0.0
    return speed, omega, motor_a, pack_a, steps


def _pieces(phases: Sequence[Phase], rider: Rider) -> list[int]:
    """The points at which the pieces begin in which heat is taken, of phases one after the other [1]."""
    begins, at = [], 0
    for number, phase in enumerate(phases):
        size = len(phase.time_s)
        # A pedal that goes down and up warms as its mean does, not first the one and then the other.
        goes_on = number > 0 and phase.kind == "hold" and phases[number - 1].kind == "hold"
        count = rider.parts if size > 4 * rider.parts else 1
        begins += [] if goes_on else [at + k * (size - 1) // count for k in range(count)]
        at += size
    return begins


def _follows(machine: Machine, motor: MotorConstants, phase: Phase, source_ohm: Number) -> Number:
    """How the copper loss follows the winding's resistance, d ln(I²R)/d ln R: 1 at a current that is held; less where the volts
    give it, `1 − 2R/(R + D²·η·R_s)`, or the watts, `1 − 2RI/(kω + 2RI)`. [1]"""
    control, ohm = machine.control, motor.resistance_ohm
    if phase.kind not in ("throttle", "hold") or (phase.kind == "hold" and control.kind != "none"):
        return np.ones_like(phase.motor_a)
    loop = motor.loop_ohm
    if control.kind == "none":
        return np.ones_like(phase.motor_a) - 2.0 * ohm / (loop + source_ohm)
    by_volts = 1.0 - 2.0 * ohm / (loop + control.duty_max**2 * control.efficiency * source_ohm)
    dropped = ohm * phase.motor_a
    by_watts = 1.0 - 2.0 * dropped / np.maximum(motor.k_v_s * phase.omega + 2.0 * loop * phase.motor_a, 1e-9)
    volts_hold = (phase.limit == VOLTS) | (phase.limit == SOURCE)
    return np.where(volts_hold, by_volts, np.where(phase.limit == PHASE, 1.0, by_watts))


def joined(legs: Sequence[Sums], places: bool = True) -> Sums:
    """The sums of legs one after the other, in the units of `Sums`; with the places on the way, or without."""
    total = legs[0]
    for leg in legs[1:]:
        later = tuple((total.time_s + time, then(total.heat, step), weight) for time, step, weight in leg.on_the_way) if places else ()
        total = Sums(
            total.time_s + leg.time_s,
            total.distance_m + leg.distance_m,
            total.pack_as + leg.pack_as,
            total.pack_a2s + leg.pack_a2s,
            total.controller_j + leg.controller_j,
            total.motor_a2s + leg.motor_a2s,
            then(total.heat, leg.heat),
            None if total.energy_j is None else total.energy_j + leg.energy_j,
            total.on_the_way + later,
        )
    return total


def level_for(values: Number, phases: Sequence[Phase], seconds: float) -> Number:
    """The level below which a trace lies for so many seconds [s] of the phases together, in its own unit; out of reach where they are shorter.

    values: the trace at the phases' points, one after the other on the first axis.
    """
    weights = []
    for phase in phases:
        steps = np.diff(phase.time_s, axis=0) / 2.0
        none = np.zeros((1, *steps.shape[1:]))
        weights.append(np.concatenate([none, steps]) + np.concatenate([steps, none]))
    if seconds <= 0.0:
        return np.min(values, axis=0)
    order = np.argsort(values, axis=0)
    ranked = np.take_along_axis(values, order, 0)
    below = np.cumsum(np.take_along_axis(np.concatenate(weights), order, 0), axis=0)
    index = np.clip((below < seconds).sum(axis=0), 1, len(ranked) - 1)
    low, high = pick(below, index - 1), pick(below, index)
    share = np.clip((seconds - low) / np.where(high > low, high - low, 1.0), 0.0, 1.0)
    first, second = pick(ranked, index - 1), pick(ranked, index)
    return np.where(below[-1] < seconds, OUT_OF_REACH, first + share * (second - first))


OUT_OF_REACH = 1e6
"""Level of a trace that is nowhere long enough. [its unit]"""
