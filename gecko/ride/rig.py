"""A machine and a course as plain numbers, one machine at a time: what the march in time takes."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from functools import cache
from typing import Any, NamedTuple

import numpy as np
from numpy.typing import NDArray

from gecko.electric.bank import BankModel, low_charge_factor, open_volts_per_cell, temperature_factor, usable_ah
from gecko.electric.motor import MAGNET_PER_K
from gecko.electric.path import LEAST_PATH_OHM
from gecko.figures import Number
from gecko.machine import Machine
from gecko.motion.forces import grip_terms
from gecko.ride.courses import Leg

Array = NDArray[np.float64]
CHARGES = np.linspace(0.0, 1.0, 101)
"""States of charge at which volts and the factor on the ohms are tabled: every bend of the curves lies on one of them. [1]"""
CHEMISTRIES = ("li-ion", "lfp", "lead")
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
    """All of a machine but its bank, as numbers; None is infinity, or zero where a least is meant."""

    path_ohm: float
    direct: bool
    """No controller: the pedal is a switch."""
    extra: float
    """So much faster than the bank's volts its field weakening turns the motor; it takes `rated_a` then. [1]"""
    rated_a: float
    diodes: bool
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
    open_airflow: bool
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


class Legs(NamedTuple):
    """A course as numbers, one entry a leg; `Leg` says what they mean. No aim is infinity, and no stop is -1."""

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


def width_of(*values: Any) -> int:
    """How many machines the figures of several, samples on the last axis, stand for; 0 for a single one. [1]"""
    sizes = {np.shape(value)[-1] for value in values if np.ndim(value)}
    return max(sizes, default=0)


def _one(value: Number, index: int) -> float:
    return float(value) if np.ndim(value) == 0 else float(np.asarray(value)[..., index])


def rigs(machine: Machine, brake_m_s2: Number) -> Iterator[Rig]:
    """The machine as numbers; of several, samples on the last axis, one after the other. brake_m_s2: what its brakes give [m/s²]."""
    pace = machine.no_load_speed(machine.source(1.0), machine.motor)
    for index in range(max(samples_of(machine), 1)):
        yield _rig(machine, brake_m_s2, pace, index)


def samples_of(machine: Machine) -> int:
    """How many machines its figures stand for; 0 for a single one. [1]"""
    bank, vehicle, motor, control, thermal = machine.bank, machine.vehicle, machine.motor, machine.control, machine.thermal
    units = [figure for unit in bank.units for figure in (unit.capacity_ah, unit.resistance_ohm, unit.trip_a)]
    moved = (vehicle.mass_kg, vehicle.gear_ratio, vehicle.wheel_radius_m, vehicle.gear_efficiency, vehicle.rolling_resistance, vehicle.drag_area_m2)
    return width_of(*units, *moved, motor.k_v_s, motor.resistance_ohm, machine.path_ohm, control.duty_max, control.battery_limit_a, thermal.case_j_per_k)


def _rig(machine: Machine, brake_m_s2: Number, pace_m_s: Number, index: int) -> Rig:
    bank, control, motor, vehicle, thermal = machine.bank, machine.control, machine.motor, machine.vehicle, machine.thermal

    def one(value: Number) -> float:
        return _one(value, index)

    def limit(value: Number | None) -> float:
        return NEVER if value is None else one(value)

    share, transfer = grip_terms(vehicle)
    efficiency, turn = one(control.efficiency), one(vehicle.gear_ratio) / one(vehicle.wheel_radius_m)
    duty, guard = one(control.duty_max), machine.guard
    open_v, low = _tables()
    cells = Cells(
        open_per_cell_v=open_v,
        low_factor=low,
        **_units(bank, machine.pack_c, index),
        row_count=np.array([float(row.parallel_count) for row in bank.rows]),
        row_lead_ohm=np.array([one(row.lead_ohm) for row in bank.rows]),
    )
    car = Car(
        path_ohm=max(one(machine.path_ohm), LEAST_PATH_OHM),
        direct=control.kind == "none",
        extra=one(control.extra),
        rated_a=one(motor.rated_a),
        diodes=control.kind != "none" and control.diodes,
        duty_max=duty,
        efficiency=efficiency,
        phase_limit_a=limit(control.phase_limit_a),
        battery_limit_a=limit(control.battery_limit_a),
        undervoltage_v=0.0 if control.undervoltage_v is None else one(control.undervoltage_v),
        idle_a=one(control.idle_a),
        ramp_s=0.0 if control.kind == "none" else float(control.ramp_s),
        regen_a=0.0 if control.regen_a is None else one(control.regen_a),
        motor_ohm=one(motor.resistance_ohm),
        lead_ohm=one(motor.lead_ohm),
        k_v_s=one(motor.k_v_s),
        no_load_a=one(motor.no_load_a),
        magnet_per_k=MAGNET_PER_K[motor.magnet],
        motor_count=float(machine.motor_count),
        winding_j_per_k=one(thermal.winding_j_per_k),
        case_j_per_k=one(thermal.case_j_per_k),
        winding_to_case_w_per_k=1.0 / one(thermal.winding_to_case_k_per_w),
        case_to_air_w_per_k=1.0 / one(thermal.case_to_air_k_per_w),
        open_airflow=thermal.open_airflow,
        ambient_c=float(machine.ambient_c),
        turn_per_m=turn,
        gear_efficiency=one(vehicle.gear_efficiency),
        mass_kg=one(vehicle.mass_kg),
        rotating_share=float(vehicle.rotating_share),
        drag_n_s2_m2=0.5 * float(vehicle.air_density_kg_m3) * one(vehicle.drag_area_m2),
        gravity_m_s2=float(vehicle.gravity_m_s2),
        grip_share=one(share),
        grip_transfer=one(transfer),
        guard_v=0.0 if guard is None else one(guard.volts_v),
        guard_delay_s=0.0 if guard is None else float(guard.delay_s),
        brake_m_s2=one(brake_m_s2),
        pace_m_s=one(pace_m_s),
    )
    return Rig(cells, car)


def _units(bank: BankModel, pack_c: float, index: int) -> dict[str, Any]:
    """The unit groups of a bank as arrays, in the units of `Rig` [SI]."""
    names = set(Cells._fields) - {"open_per_cell_v", "low_factor", "chemistry", "row_of", "row_count", "row_lead_ohm"}
    found: dict[str, list[float]] = {name: [] for name in names}
    for unit in bank.units:
        lead = unit.chemistry == "lead"
        found["in_series"].append(float(unit.series_count * unit.cells_in_series))
        fast = _one(unit.fast_share, index)
        ohm = unit.series_count * _one(unit.resistance_ohm, index) * temperature_factor(unit.chemistry, unit.at_c(pack_c))
        found["unit_ohm"].append(fast * ohm)
        found["slow_share"].append(_one(unit.slow_share, index) / fast)
        found["slow_s"].append(unit.grows_s)
        found["steepest_v"].append(float(np.max(np.diff(_tables()[0][CHEMISTRIES.index(unit.chemistry)])) / (CHARGES[1] - CHARGES[0])))
        found["capacity_as"].append(3600.0 * _one(usable_ah(unit, 0.0, pack_c), index))
        found["twenty_hour_a"].append(_one(unit.capacity_ah, index) / 20.0)
        found["peukert"].append((unit.peukert_exponent or 1.15) - 1.0 if lead else 0.0)
        found["floor_v"].append(0.0 if unit.protection_low_v is None else _one(unit.protection_low_v, index) * unit.series_count)
        found["trip_a"].append(NEVER if unit.trip_a is None else _one(unit.trip_a, index))
        found["trip_delay_s"].append(1.0 if unit.trip_delay_s is None else float(unit.trip_delay_s))
    return {
        "chemistry": np.array([CHEMISTRIES.index(unit.chemistry) for unit in bank.units]),
        "row_of": np.array([r for r, row in enumerate(bank.rows) for _ in row.units]),
        **{name: np.array(values) for name, values in found.items()},
    }


WALKING_M_S = 1.0
"""Who coasts to a walk pushes on with the throttle at this pace; and what creeps below it with the throttle open does not get up. [m/s]"""


def legs_as_numbers(legs: Sequence[Leg], meant_m_s: Sequence[Number], index: int) -> Legs:
    """The legs of one machine, of several the one at `index`. meant_m_s: the speed meant on each leg, also where none is aimed at [m/s]."""

    def column(values: Sequence[Any], missing: float = NEVER) -> Array:
        return np.array([missing if value is None else _one(value, index) for value in values])

    meant = column(meant_m_s)
    return Legs(
        length_m=column([leg.length_m for leg in legs]),
        time_s=column([leg.time_s for leg in legs]),
        grade=column([leg.grade for leg in legs]),
        rolling=column([leg.rolling for leg in legs]),
        friction=column([leg.friction for leg in legs]),
        aimed_m_s=column([leg.aimed_m_s for leg in legs]),
        throttle=column([leg.throttle for leg in legs]),
        coasts=np.array([leg.coasts for leg in legs]),
        stop_s=column([leg.stop_s for leg in legs], -1.0),
        # A toy that never goes faster than a walk is not stuck for that.
        climb_m_s=np.minimum(WALKING_M_S, meant / 2.0),
        half_m_s=meant / 2.0,
    )
