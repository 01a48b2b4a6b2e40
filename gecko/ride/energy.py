"""Where the energy of a ride goes: what the cells give, split over all that takes it."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from gecko.electric.bank import Source
from gecko.electric.motor import MotorConstants
from gecko.figures import Number
from gecko.machine import Machine
from gecko.motion.forces import wheel_force_n
from gecko.ride.phase import Phase

PARTS = (
    "cells",
    "packs",
    "wires",
    "controller",
    "winding",
    "motor drag",
    "gears",
    "spinning wheels",
    "rolling",
    "air",
    "climbing",
    "brakes",
    "speed",
)
"""What the cells give, and what it goes into; climbing gives back downhill, speed when it slows. The rest sums to the first."""


def energies_j(machine: Machine, source: Source, motor: MotorConstants, phases: Sequence[Phase]) -> Number:
    """Energy of each of `PARTS` over phases ridden at fixed charge and temperatures. [J] Shape (parts, columns…).

    Every part from its own formula, none as what is left over: motor `I²R`, `k·I0·ω`; gears what the shaft gives less
    `F·v` at the rim; spinning wheels `F·(v_rim − v)`; ground, air and slope by the resistances; speed `½m(v₁² − v₀²)`.
    """
    total: Number = 0.0
    control = machine.control
    eta = control.efficiency
    for phase in phases:
        vehicle, leg, speed = phase.vehicle, phase.leg, phase.speed_m_s
        open_v = source.open_v
        drawn = phase.pack_a - control.idle_a
        volts = open_v - phase.pack_a * machine.source_ohm(source)
        lost = np.where(drawn >= 0.0, (1.0 - eta) * drawn, (1.0 - 1.0 / eta) * drawn) + control.idle_a
        shaft = motor.k_v_s * (phase.motor_a - motor.no_load_a) * phase.omega
        push = wheel_force_n(vehicle, motor, phase.motor_a)
        rim = phase.omega * (vehicle.wheel_radius_m / vehicle.gear_ratio)
        weight = vehicle.mass_kg * vehicle.gravity_m_s2 / np.sqrt(1.0 + leg.grade**2)
        powers = (
            open_v * phase.pack_a,
            phase.pack_a**2 * source.resistance_ohm,
            phase.pack_a**2 * (machine.source_ohm(source) - source.resistance_ohm) + phase.motor_a**2 * motor.lead_ohm,
            volts * lost,
            phase.motor_a**2 * motor.resistance_ohm,
            motor.k_v_s * motor.no_load_a * phase.omega,
            shaft - push * rim,
            push * (rim - speed),
            weight * vehicle.rolling_resistance * speed,
            0.5 * vehicle.air_density_kg_m3 * vehicle.drag_area_m2 * speed**3,
            weight * leg.grade * speed,
            phase.brake_n * speed,
        )
        sums = [phase.integral(np.broadcast_to(power, phase.time_s.shape)) for power in powers]
        gained = 0.5 * vehicle.effective_mass_kg * (speed[-1] ** 2 - speed[0] ** 2)
        total = total + np.stack([*sums, np.broadcast_to(gained, sums[0].shape)])
    return total
