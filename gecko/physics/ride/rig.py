"""A machine and a course as plain numbers, of one machine or of many at once: what the march in time takes."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from functools import cache
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from gecko.common.compiled import as_tuple, borrowed, compiled
from gecko.common.figures import Number
from gecko.physics.electric.bank import BankModel, Unit, low_charge_factor, open_volts_per_cell, temperature_factor, usable_ah
from gecko.physics.electric.motor import MAGNET_PER_K
from gecko.physics.electric.path import LEAST_PATH_OHM
from gecko.physics.motion.machine import Machine
from gecko.physics.ride.legs import Leg
from gecko.physics.road.forces import grip_terms

Array = NDArray[np.float64]
CHARGES = np.linspace(0.0, 1.0, 101)
"""States of charge at which volts and the factor on the ohms are tabled: every bend of the curves lies on one of them. [1]"""
CHEMISTRIES = ("li-ion", "lfp", "lead", "nickel")
NEVER = math.inf


class Cells(NamedTuple):
    """A bank as numbers: one entry a unit group, or a kind of row; None is infinity, or zero where a least is meant."""

    open_per_cell_v: Array
    """Open volts of a cell by chemistry and charge. [V] Shape (chemistries, charges)."""
    low_factor: Array
    """Factor on a unit's ohms by charge. [1]"""
    chemistry: NDArray[np.int64]
    row_of: NDArray[np.int64]
    in_series: Array
    """Cells in series of a unit group. [1]"""
    unit_ohm: Array
    """Its ohms at its temperature, well charged, that are there at once. [Ω]"""
    slow_share: Array
    """The ohms that come on top when current flows for long, over `unit_ohm`, and the time constant they come with. [1, s]"""
    slow_s: Array
    steepest_v: Array
    """The steepest fall of a cell's open volts, over its whole charge. [V]"""
    capacity_as: Array
    """What it gives at a low current, cold included. [As]"""
    twenty_hour_a: Array
    """Lead: the current above which it gives less, and Peukert's exponent less one (0: not lead). [A, 1]"""
    peukert: Array
    floor_v: Array
    """Volts of the group at which its own protection opens (0: never). [V]"""
    trip_a: Array
    trip_delay_s: Array
    row_count: Array
    row_lead_ohm: Array


class Car(NamedTuple):
    """All of a machine but its bank, as numbers; None is infinity, or zero where a least is meant. Yes and no are 1 and 0, so that all numbers have
    one type and a machine is one row of a table."""

    path_ohm: float
    direct: float
    """No controller: the pedal is a switch."""
    extra: float
    """So much faster than the bank's volts its field weakening turns the motor; it takes `rated_a` then. [1]"""
    rated_a: float
    diodes: float
    """Current comes back through the controller's stage where the motor is turned faster than the bank's volts."""
    duty_max: float
    efficiency: float
    phase_limit_a: float
    battery_limit_a: float
    undervoltage_v: float
    idle_a: float
    ramp_s: float
    regen_a: float
    motor_ohm: float
    """The equivalent motor at 25 °C: winding, leads [Ω], k [V·s], no-load current [A], fall of k by magnet temperature [1/K]."""
    lead_ohm: float
    k_v_s: float
    no_load_a: float
    magnet_per_k: float
    motor_count: float
    winding_j_per_k: float
    """One motor's heat: winding and case [J/K], between them and from the case to still air [W/K]; open to the airflow."""
    case_j_per_k: float
    winding_to_case_w_per_k: float
    case_to_air_w_per_k: float
    open_airflow: float
    ambient_c: float
    turn_per_m: float
    """Motor turns for each metre. [rad/m]"""
    gear_efficiency: float
    mass_kg: float
    rotating_share: float
    drag_n_s2_m2: float
    """Air's push at 1 m/s, `½ρC_dA`. [N·s²/m²]"""
    gravity_m_s2: float
    grip_share: float
    """Load on the driven axle: share at rest, and what an acceleration of g adds [1]."""
    grip_transfer: float
    guard_v: float
    guard_delay_s: float
    brake_m_s2: float
    pace_m_s: float
    """A speed no full throttle passes on the level: the scale of the march's steps. [m/s]"""


class Rig(NamedTuple):
    """A machine as numbers."""

    cells: Cells
    car: Car


class Rigs(NamedTuple):
    """Many machines as numbers: `Cells` whose arrays have the machine in front where machines differ (`rig_at`), and a row of `Car` each."""

    cells: Cells
    cars: Array


class Legs(NamedTuple):
    """A course as numbers, one entry a leg; `Leg` says what they mean. No aim is infinity, and no stop is -1. Of many machines, those arrays in
    which they may differ (`legs_at`) have the machine in front."""

    length_m: Array
    time_s: Array
    grade: Array
    rolling: Array
    friction: Array
    aimed_m_s: Array
    throttle: Array
    coasts: NDArray[np.bool_]
    stop_s: Array
    climb_m_s: Array
    """Below this pace with the throttle open it does not get up. [m/s]"""
    half_m_s: Array
    """Half the speed that is meant here: below it a low cut-off that holds back ends the ride. [m/s]"""


@cache
def _tables() -> tuple[Array, Array]:
    return np.stack([np.asarray(open_volts_per_cell(name, CHARGES), dtype=float) for name in CHEMISTRIES]), np.asarray(low_charge_factor(CHARGES), dtype=float)


def width_of(*values: Number | None) -> int:
    """How many machines the figures of several, samples on the last axis, stand for; 0 for a single one. [1]"""
    sizes = {value.shape[-1] for value in values if isinstance(value, np.ndarray) and value.ndim}
    return max(sizes, default=0)


def _each(value: Number, count: int) -> Array:
    """A figure of each of so many machines, which may be the same for all."""
    return np.broadcast_to(np.asarray(value, dtype=float), (count,))


def rigs(machine: Machine, brake_m_s2: Number) -> Rigs:
    """The machine, or the samples on the last axis of its figures, as numbers. brake_m_s2: what the brakes give [m/s²]."""
    count = max(samples_of(machine), 1)
    pace = machine.no_load_speed(machine.source(1.0), machine.motor)
    return Rigs(_cells(machine.bank, machine.pack_c, count), _cars(machine, brake_m_s2, pace, count))


CAR_FIGURES = len(Car._fields)


@compiled
def rig_at(rigs: Rigs, at: int) -> Rig:
    """One of many machines, by its number; good as long as the many are kept."""
    cells = rigs.cells
    own = Cells(
        borrowed(cells.open_per_cell_v),
        borrowed(cells.low_factor),
        borrowed(cells.chemistry),
        borrowed(cells.row_of),
        borrowed(cells.in_series),
        borrowed(cells.unit_ohm[at]),
        borrowed(cells.slow_share[at]),
        borrowed(cells.slow_s),
        borrowed(cells.steepest_v),
        borrowed(cells.capacity_as[at]),
        borrowed(cells.twenty_hour_a[at]),
        borrowed(cells.peukert),
        borrowed(cells.floor_v[at]),
        borrowed(cells.trip_a[at]),
        borrowed(cells.trip_delay_s),
        borrowed(cells.row_count),
        borrowed(cells.row_lead_ohm[at]),
    )
    return Rig(own, Car(*as_tuple(rigs.cars[at], CAR_FIGURES)))


@compiled
def legs_at(legs: Legs, at: int) -> Legs:
    """The course as one of many machines rides it, by its number; good as long as that of the many is kept."""
    return Legs(
        borrowed(legs.length_m),
        borrowed(legs.time_s),
        borrowed(legs.grade),
        borrowed(legs.rolling[at]),
        borrowed(legs.friction[at]),
        borrowed(legs.aimed_m_s[at]),
        borrowed(legs.throttle),
        borrowed(legs.coasts),
        borrowed(legs.stop_s),
        borrowed(legs.climb_m_s[at]),
        borrowed(legs.half_m_s[at]),
    )


def samples_of(machine: Machine) -> int:
    """How many machines its figures stand for; 0 for a single one. [1]"""
    bank, vehicle, motor, control, thermal = machine.bank, machine.vehicle, machine.motor, machine.control, machine.thermal
    units = [figure for unit in bank.units for figure in (unit.capacity_ah, unit.resistance_ohm, unit.trip_a)]
    moved = (vehicle.mass_kg, vehicle.gear_ratio, vehicle.wheel_radius_m, vehicle.gear_efficiency, vehicle.rolling_resistance, vehicle.drag_area_m2)
    return width_of(*units, *moved, motor.k_v_s, motor.resistance_ohm, machine.path_ohm, control.duty_max, control.battery_limit_a, thermal.case_j_per_k)


def _cars(machine: Machine, brake_m_s2: Number, pace_m_s: Number, count: int) -> Array:
    """A row of `Car` for each machine."""
    control, motor, vehicle, thermal, guard = machine.control, machine.motor, machine.vehicle, machine.thermal, machine.guard

    def each(value: Number | None, missing: float = 0.0) -> Array:
        return _each(missing if value is None else value, count)

    share, transfer = grip_terms(vehicle)
    columns = {
        "path_ohm": each(np.maximum(machine.path_ohm, LEAST_PATH_OHM)),
        "direct": each(control.kind == "none"),
        "extra": each(control.extra),
        "rated_a": each(motor.rated_a),
        "diodes": each(control.kind != "none" and control.diodes),
        "duty_max": each(control.duty_max),
        "efficiency": each(control.efficiency),
        "phase_limit_a": each(control.phase_limit_a, NEVER),
        "battery_limit_a": each(control.battery_limit_a, NEVER),
        "undervoltage_v": each(control.undervoltage_v),
        "idle_a": each(control.idle_a),
        "ramp_s": each(None if control.kind == "none" else control.ramp_s),
        "regen_a": each(control.regen_a),
        "motor_ohm": each(motor.resistance_ohm),
        "lead_ohm": each(motor.lead_ohm),
        "k_v_s": each(motor.k_v_s),
        "no_load_a": each(motor.no_load_a),
        "magnet_per_k": each(MAGNET_PER_K[motor.magnet]),
        "motor_count": each(machine.motor_count),
        "winding_j_per_k": each(thermal.winding_j_per_k),
        "case_j_per_k": each(thermal.case_j_per_k),
        "winding_to_case_w_per_k": each(1.0 / np.asarray(thermal.winding_to_case_k_per_w)),
        "case_to_air_w_per_k": each(1.0 / np.asarray(thermal.case_to_air_k_per_w)),
        "open_airflow": each(thermal.open_airflow),
        "ambient_c": each(machine.ambient_c),
        "turn_per_m": each(np.asarray(vehicle.gear_ratio) / vehicle.wheel_radius_m),
        "gear_efficiency": each(vehicle.gear_efficiency),
        "mass_kg": each(vehicle.mass_kg),
        "rotating_share": each(vehicle.rotating_share),
        "drag_n_s2_m2": each(0.5 * vehicle.air_density_kg_m3 * np.asarray(vehicle.drag_area_m2)),
        "gravity_m_s2": each(vehicle.gravity_m_s2),
        "grip_share": each(share),
        "grip_transfer": each(transfer),
        "guard_v": each(None if guard is None else guard.volts_v),
        "guard_delay_s": each(None if guard is None else guard.delay_s),
        "brake_m_s2": each(brake_m_s2),
        "pace_m_s": each(pace_m_s),
    }
    return np.stack([columns[name] for name in Car._fields], axis=-1)


def _cells(bank: BankModel, pack_c: float, count: int) -> Cells:
    """The banks of so many machines."""
    open_v, low = _tables()

    def by_unit(value: Callable[[Unit], Number]) -> Array:
        """What each unit group has, of shape (machines, groups)."""
        return np.stack([_each(value(unit), count) for unit in bank.units], axis=-1)

    def capped(value: Number | None, missing: float) -> Number:
        return missing if value is None else value

    ohm = by_unit(lambda unit: unit.series_count * unit.resistance_ohm * temperature_factor(unit.chemistry, unit.at_c(pack_c)))
    fast = by_unit(lambda unit: unit.fast_share)
    steps = np.diff(open_v, axis=1).max(axis=1) / (CHARGES[1] - CHARGES[0])
    kinds = np.array([CHEMISTRIES.index(unit.chemistry) for unit in bank.units])
    return Cells(
        open_per_cell_v=open_v,
        low_factor=low,
        chemistry=kinds,
        row_of=np.array([r for r, row in enumerate(bank.rows) for _ in row.units]),
        in_series=np.array([float(unit.series_count * unit.cells_in_series) for unit in bank.units]),
        slow_s=np.array([unit.grows_s for unit in bank.units]),
        steepest_v=steps[kinds],
        peukert=np.array([(unit.peukert_exponent or 1.15) - 1.0 if unit.chemistry == "lead" else 0.0 for unit in bank.units]),
        trip_delay_s=np.array([1.0 if unit.trip_delay_s is None else float(unit.trip_delay_s) for unit in bank.units]),
        row_count=np.array([float(row.parallel_count) for row in bank.rows]),
        unit_ohm=fast * ohm,
        slow_share=by_unit(lambda unit: unit.slow_share) / fast,
        capacity_as=3600.0 * by_unit(lambda unit: usable_ah(unit, 0.0, pack_c)),
        twenty_hour_a=by_unit(lambda unit: unit.capacity_ah) / 20.0,
        floor_v=by_unit(lambda unit: unit.series_count * np.asarray(capped(unit.protection_low_v, 0.0))),
        trip_a=by_unit(lambda unit: capped(unit.trip_a, NEVER)),
        row_lead_ohm=np.stack([_each(row.lead_ohm, count) for row in bank.rows], axis=-1),
    )


HELD_BACK = 0.5
"""Whom the low cut-off holds below this share of the meant speed is held back. [1] Source: this project's planning value."""
WALKING_M_S = 1.0
"""Who coasts to a walk pushes on with the throttle at this pace; and what creeps below it with the throttle open does not get up. [m/s]"""


def legs_as_numbers(legs: Sequence[Leg], meant_m_s: Sequence[Number], count: int = 1) -> Legs:
    """The legs of so many machines. meant_m_s: the speed meant on each leg, also where none is aimed at [m/s].

    The pace of a walk is a planning value of this project.
    """

    def column(values: Sequence[Number | None], missing: float = NEVER) -> Array:
        """What each leg has, of shape (machines, legs)."""
        return np.stack([_each(missing if value is None else value, count) for value in values], axis=-1)

    def same(values: Sequence[float | None], missing: float = NEVER) -> Array:
        return np.array([missing if value is None else value for value in values], dtype=float)

    meant = column(meant_m_s)
    # A toy that never goes faster than a walk is not stuck for that.
    aimed, climb = column([leg.aimed_m_s for leg in legs]), np.minimum(WALKING_M_S, meant / 2.0)
    return Legs(
        length_m=same([leg.length_m for leg in legs]),
        time_s=same([leg.time_s for leg in legs]),
        grade=same([leg.grade for leg in legs]),
        rolling=column([leg.rolling for leg in legs]),
        friction=column([leg.friction for leg in legs]),
        aimed_m_s=aimed,
        throttle=same([leg.throttle for leg in legs]),
        coasts=np.array([leg.coasts for leg in legs]),
        stop_s=same([leg.stop_s for leg in legs], -1.0),
        climb_m_s=climb,
        half_m_s=HELD_BACK * meant,
    )
