"""The steepest hill: motor, grip and tipping back, whichever ends it."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from gecko.common.figures import Number
from gecko.physics.electric.bank import Source
from gecko.physics.electric.motor import MotorConstants
from gecko.physics.electric.operating_point import LIMITS, OperatingPoint
from gecko.physics.motion.machine import Machine
from gecko.physics.road.forces import VehicleModel, grip_terms, wheel_force_n

STEEPEST = 10.0
"""Grades are reported up to this; steeper is a wall. [1]"""
_STEEPEST_RAD = math.atan(STEEPEST)


@dataclass(frozen=True)
class Hill:
    """Grades (rise over run) a machine holds at a pace [m/s] and by which of motor, grip or tipping it ends."""

    pace_m_s: Number
    motor_grade: Number
    traction_grade: Number
    tips_back_grade: Number
    grade: Number
    ends_by: str
    point: OperatingPoint


def _grade_of_angle(angle: Number) -> Number:
    return np.minimum(np.tan(np.minimum(np.maximum(angle, 0.0), _STEEPEST_RAD)), STEEPEST)


def motor_grade(vehicle: VehicleModel, push_n: Number, speed_m_s: Number) -> Number:
    """Grade a push [N] holds at a speed [m/s]: `θ = asin(A/√(1+C²)) − atan C`, A = (F − air)/(m g). [1]

    Derived here: A = C·cosθ + sinθ as one sine, √(1 + C²)·sin(θ + atan C).

    1000 N·(0.02 + t)/√(1 + t²) = 120 N:

    >>> from gecko.physics.motion.example import CART
    >>> round(float(motor_grade(CART, 120.0, 0.0)), 4)
    0.1006
    """
    weight = vehicle.mass_kg * vehicle.gravity_m_s2
    air = 0.5 * vehicle.air_density_kg_m3 * vehicle.drag_area_m2 * np.square(speed_m_s)
    share = (push_n - air) / weight / np.sqrt(1.0 + np.square(vehicle.rolling_resistance))
    angle = np.arcsin(np.clip(share, -1.0, 1.0)) - np.arctan(vehicle.rolling_resistance)
    return np.where(share >= 1.0, STEEPEST, _grade_of_angle(angle))


def traction_grade(vehicle: VehicleModel, speed_m_s: Number) -> Number:
    """Grade at which the driven axle just slips at a steady speed [m/s], air drag included. [1]

    `(μp − C)·cosθ − (1 − μq)·sinθ = air/(m g)`, solved as one cosine.

    Derived here: grip of the driven axle with its load transfer against weight, rolling and air.

    0.5·(0.6 + 0.5·t) = t + 0.02:

    >>> from gecko.physics.motion.example import CART
    >>> round(float(traction_grade(CART, 0.0)), 4)
    0.3733
    """
    free = _slips_at(vehicle, speed_m_s, *grip_terms(vehicle))
    # The load on an axle is never more than the whole weight, so it slips no later than with all of it.
    return np.minimum(free, _slips_at(vehicle, speed_m_s, 1.0, 0.0))


def _slips_at(vehicle: VehicleModel, speed_m_s: Number, static: Number, transfer: Number) -> Number:
    p = vehicle.friction * static - vehicle.rolling_resistance
    q = 1.0 - vehicle.friction * transfer
    air = 0.5 * vehicle.air_density_kg_m3 * vehicle.drag_area_m2 * np.square(speed_m_s)
    share = air / (vehicle.mass_kg * vehicle.gravity_m_s2)
    length = np.hypot(p, q)
    angle = np.arccos(np.clip(share / length, -1.0, 1.0)) - np.arctan2(q, p)
    # q ≤ 0: the axle gains more grip than the slope takes; it never slips before tipping back.
    return np.where(q <= 0, STEEPEST, np.where(p <= share, 0.0, _grade_of_angle(angle)))


def hill(machine: Machine, source: Source, motor: MotorConstants, pace_m_s: Number) -> Hill:
    """Steepest grade held at a pace [m/s], and what ends it. At pace 0: the grade at which it cannot start.

    Derived here: the least of the three grades at which motor, grip and balance each end.
    """
    vehicle = machine.vehicle
    point = machine.full(source, motor, pace_m_s)
    standing = bool(np.all(np.asarray(pace_m_s) == 0))
    alone = motor_grade(vehicle, wheel_force_n(vehicle, motor, point.motor_a, standing), pace_m_s)
    slips = traction_grade(vehicle, pace_m_s)
    tips = vehicle.com_ahead_of_rear_m / vehicle.com_height_m + 0.0 * alone
    grades = np.stack(np.broadcast_arrays(alone, slips, tips))
    which = int(np.asarray(np.argmin(grades, axis=0)).reshape(-1)[0])
    limit = LIMITS[int(np.asarray(point.limit).reshape(-1)[0])]
    ends_by = (f"motor:{limit}", "traction", "tips back")[which]
    return Hill(pace_m_s, alone, slips, tips, np.min(grades, axis=0), ends_by, point)
