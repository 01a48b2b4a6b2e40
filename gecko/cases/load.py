"""The `inputs` of a case file as a machine.

The format is explicit: no default of the Setup document enters. Units are in the key names.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from gecko.document.parts.pack import FULL_PER_CELL_V
from gecko.physics.electric.bank import BankModel, RowModel, Unit
from gecko.physics.electric.motor import MotorConstants, combine, from_nameplate
from gecko.physics.electric.operating_point import ControllerModel
from gecko.physics.electric.path import fuse_ohm, wire_ohm_per_m
from gecko.physics.heat.motor import thermal_from_plate
from gecko.physics.motion.machine import GuardModel, Machine
from gecko.physics.road.forces import (
    VehicleModel,
)


@dataclass(frozen=True)
class Case:
    """A case file's inputs as a machine, with the parts of the file the machine does not hold."""

    inputs: Mapping[str, Any]
    machine: Machine
    motor_each: MotorConstants


def load_case(inputs: Mapping[str, Any]) -> Case:
    """Build the machine of a case from its `inputs`."""
    rows = tuple(
        RowModel(
            tuple(
                Unit(
                    unit["chemistry"],
                    unit["cells_in_series"],
                    float(unit["capacity_ah"]),
                    float(unit["resistance_ohm"]),
                    unit.get("series_count", 1),
                    unit.get("peukert_exponent"),
                    unit.get("continuous_a"),
                    unit.get("peak_10s_a"),
                    unit.get("trip_a"),
                    unit.get("trip_delay_s"),
                    unit.get("protection_low_v"),
                )
                for unit in row["units"]
            ),
            row.get("parallel_count", 1),
        )
        for row in inputs["bank"]["rows"]
    )
    motor, plate = inputs["motor"], inputs["motor"]["nameplate"]
    each = from_nameplate(
        plate["volts_v"],
        plate["power_out_w"],
        plate["efficiency"],
        plate["copper_share"],
        speed_rpm=plate.get("speed_rpm"),
        no_load_rpm=plate.get("no_load_rpm"),
        kv_rpm_per_v=plate.get("kv_rpm_per_v"),
        magnet=motor["magnet"],
    )
    given, vehicle = inputs["controller"], inputs["vehicle"]
    control = ControllerModel(
        given["kind"],
        given["duty_max"],
        given["efficiency"],
        given["phase_limit_a"],
        given["battery_limit_a"],
        given["undervoltage_v"],
        given["idle_a"],
        diodes=False,
    )
    guard = inputs.get("guard")
    machine = Machine(
        BankModel(rows),
        path_ohm(inputs["path"]),
        combine(each, motor["count"], motor["wiring"]),
        motor["count"],
        motor["wiring"],
        thermal_from_plate(each, motor["mass_kg_each"], motor["open_airflow"]),
        control,
        VehicleModel(
            vehicle["gear_ratio"],
            vehicle["wheel_radius_m"],
            vehicle["gear_efficiency"],
            vehicle["mass_total_kg"],
            vehicle["drag_area_m2"],
            vehicle["rolling_resistance"],
            vehicle["friction_coefficient"],
            vehicle["driven_axle"],
            vehicle["wheelbase_m"],
            vehicle["com_ahead_of_rear_m"],
            vehicle["com_height_m"],
            vehicle["track_m"],
            vehicle["rotating_mass_share"],
            inputs["air_density_kg_m3"],
            inputs["gravity_m_s2"],
        ),
        GuardModel(guard["volts_v"], guard["delay_s"]) if guard else None,
        inputs["ambient_c"],
        inputs["pack_temp_c"],
    )
    return Case(inputs, machine, each)


def path_ohm(path: Mapping[str, Any], *, without_leads_and_fuse: bool = False) -> float:
    """Resistance of a case's path: leads both ways, contacts per pole, fuse, switch, guard. [Ω]"""
    total = sum(c["poles"] * c["resistance_per_pole_ohm"] for c in path["contacts"])
    total += path["switch_ohm"] + path["guard_ohm"]
    if not without_leads_and_fuse:
        total += sum(float(wire_ohm_per_m(lead["awg"], lead["copper_temp_c"])) * lead["length_both_ways_m"] for lead in path["leads"])
        total += fuse_ohm(path["fuse_rating_a"]) if path["fuse_rating_a"] else 0.0
    return float(total)


def full_charge_v(bank: BankModel) -> float:
    """Charging end volts of the fullest row. [V]"""
    full = {str(chemistry): volts for chemistry, volts in FULL_PER_CELL_V.items()}
    return max(sum(u.series_count * u.cells_in_series * full[u.chemistry] for u in row.units) for row in bank.rows)
