"""The `inputs` of a case file as a machine.

The format is explicit: no default of the Setup document enters. Units are in the key names.
"""

from __future__ import annotations

from dataclasses import dataclass

from gecko.common.documents import Document
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

    inputs: Document
    machine: Machine
    motor_each: MotorConstants


def load_case(inputs: Document) -> Case:
    """Build the machine of a case from its `inputs`."""
    rows = tuple(
        RowModel(
            tuple(
                Unit(
                    chemistry=unit["chemistry"],
                    cells_in_series=unit["cells_in_series"],
                    capacity_ah=float(unit["capacity_ah"]),
                    resistance_ohm=float(unit["resistance_ohm"]),
                    series_count=unit.get("series_count", 1),
                    peukert_exponent=unit.get("peukert_exponent"),
                    continuous_a=unit.get("continuous_a"),
                    peak_10s_a=unit.get("peak_10s_a"),
                    trip_a=unit.get("trip_a"),
                    trip_delay_s=unit.get("trip_delay_s"),
                    protection_low_v=unit.get("protection_low_v"),
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
        kind=given["kind"],
        duty_max=given["duty_max"],
        efficiency=given["efficiency"],
        phase_limit_a=given["phase_limit_a"],
        battery_limit_a=given["battery_limit_a"],
        undervoltage_v=given["undervoltage_v"],
        idle_a=given["idle_a"],
        diodes=False,
    )
    guard = inputs.get("guard")
    machine = Machine(
        bank=BankModel(rows),
        path_ohm=path_ohm(inputs["path"]),
        motor=combine(each, motor["count"], motor["wiring"]),
        motor_count=motor["count"],
        motor_wiring=motor["wiring"],
        thermal=thermal_from_plate(each, motor["mass_kg_each"], motor["open_airflow"]),
        control=control,
        vehicle=VehicleModel(
            gear_ratio=vehicle["gear_ratio"],
            wheel_radius_m=vehicle["wheel_radius_m"],
            gear_efficiency=vehicle["gear_efficiency"],
            mass_kg=vehicle["mass_total_kg"],
            drag_area_m2=vehicle["drag_area_m2"],
            rolling_resistance=vehicle["rolling_resistance"],
            friction=vehicle["friction_coefficient"],
            driven_axle=vehicle["driven_axle"],
            wheelbase_m=vehicle["wheelbase_m"],
            com_ahead_of_rear_m=vehicle["com_ahead_of_rear_m"],
            com_height_m=vehicle["com_height_m"],
            track_m=vehicle["track_m"],
            rotating_share=vehicle["rotating_mass_share"],
            air_density_kg_m3=inputs["air_density_kg_m3"],
            gravity_m_s2=inputs["gravity_m_s2"],
        ),
        guard=GuardModel(guard["volts_v"], guard["delay_s"]) if guard else None,
        ambient_c=inputs["ambient_c"],
        pack_c=inputs["pack_temp_c"],
    )
    return Case(inputs, machine, each)


def path_ohm(path: Document, *, without_leads_and_fuse: bool = False) -> float:
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
