"""Small machines for the tests, hand-written so that a reader can check every number."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from gecko.document.setup import Setup, load_setup
from gecko.physics.electric.bank import BankModel, RowModel, Unit
from gecko.physics.electric.motor import MotorConstants
from gecko.physics.electric.operating_point import ControllerModel
from gecko.physics.heat.motor import MotorThermal
from gecko.physics.motion.machine import Machine
from gecko.physics.road.forces import VehicleModel


def named(value: float, basis: str = "nameplate") -> dict[str, Any]:
    """A figure as it stands in a document."""
    return {"value": value, "basis": basis}


def put_in(path: str, value: Callable[[dict[str, Any]], Any]) -> Callable[[dict[str, Any]], None]:
    """A change of a document that sets one value, by double-underscore path; the value may hang on the document."""

    def change(d: dict[str, Any]) -> None:
        *way, last = path.split("__")
        place: Any = d
        for step in way:
            place = place[int(step)] if isinstance(place, list) else place[step]
        place[last] = value(d)

    return change


def safe_bike(**changes: Any) -> dict[str, Any]:
    """A 36 V chain bike without a stop: 10-cell pack, 30 A fuse on 10 AWG, guard, cut-off, adult rider."""
    document: dict[str, Any] = {
        "version": 1,
        "vehicle": {"family": "small dirt bike", "brake": "disc", "braked_axles": "both", "plus_lead_proven": True, "cables_clear": True},
        "stock": {"volts_v": named(36)},
        "bank": {
            "rows": [
                {
                    "units": [
                        {
                            "label": "pack",
                            "cells_in_series": 10,
                            "capacity_ah": named(6),
                            "continuous_a": named(30),
                            "peak_10s_a": named(60),
                            "trip_a": named(75),
                            "age": "new",
                        }
                    ]
                }
            ],
            "holding": {"by": ["strap"], "cushioned": True},
            "looked_sound": True,
        },
        "main_fuse": {"kind": "blade", "rating_a": 30, "dc_volts_v": 58},
        "main_lead": {"awg": 10, "length_m": named(0.6), "insulation": "105", "bundle_conductors": 2},
        "plugs": [{"kind": "two-pole 60", "poles": 4}],
        "motor_lead": {"awg": 10, "length_m": named(0.3), "insulation": "105", "bundle_conductors": 2},
        "cut_off": {"kind": "switch", "rating_a": named(60), "dc_volts_v": named(60), "reach": "rider"},
        "guard": {"kind": "module", "volts_v": named(31), "rating_a": named(60)},
        "controller": {
            "kind": "brushed",
            "nominal_v": named(36),
            "max_v": named(50),
            "undervoltage_v": named(28),
            "battery_limit_a": named(28),
            "phase_limit_a": named(42),
            "throttle": "hall",
            "precharge": True,
        },
        "throttle": {"kind": "hall", "brake_cut_off_present": True, "brake_cut_off_wired": True, "returns": True},
        "motor": {"kind": "brushed", "volts_v": named(36), "power_w": named(350), "speed_rpm": named(2700)},
        "drivetrain": {"kind": "chain", "motor_teeth": 12, "wheel_teeth": 88, "chain_guard": True},
        "wheel": {"diameter_m": named(0.31), "tyre": "pneumatic"},
        "rider": {"name": "Ada", "age_years": 30, "mass_kg": named(60)},
        "ground": {"surface": "paving"},
        "chargers": [{"label": "charger", "end_v": named(42), "amps_a": named(2), "place": "watched, clear of ways out"}],
    }
    for path, value in changes.items():
        place: Any = document
        *way, last = path.split("__")
        for step in way:
            place = place[int(step)] if isinstance(place, list) else place[step]
        place[int(last) if isinstance(place, list) else last] = value
    return document


def bike(**changes: Any) -> Setup:
    """The safe bike as a Setup, with changes by double-underscore path."""
    return load_setup(safe_bike(**changes))


def tripping(amps: float) -> Setup:
    """The bike on packs of 24 Ah whose own protection opens after 3 s over so many amps [A], which a launch asks for nearly as long."""
    pack = {"label": "p", "cells_in_series": 10, "capacity_ah": named(24), "trip_a": named(amps), "trip_delay_s": named(3.0)}
    return bike(bank__rows=[{"units": [pack]}], controller__battery_limit_a=named(30))


def safe_ride_on() -> dict[str, Any]:
    """The ride-on as a document."""
    return ride_on().model_dump(mode="json")


def ride_on(**changes: Any) -> Setup:
    """A 12 V ride-on with two gear motors, one lead block, pedal straight to motor, everything looked at."""
    document: dict[str, Any] = {
        "version": 1,
        "vehicle": {"family": "ride-on car", "board_in_path": "no", "plus_lead_proven": True, "cables_clear": True, "max_load_kg": named(30)},
        "stock": {"volts_v": named(12)},
        "bank": {
            "rows": [{"units": [{"label": "block", "chemistry": "lead", "cells_in_series": 6, "capacity_ah": named(10), "guard_in_tool": False}]}],
            "holding": {"by": ["strap"], "cushioned": True},
            "looked_sound": True,
        },
        "main_fuse": {"kind": "blade", "rating_a": 25, "dc_volts_v": 32},
        "main_lead": {"awg": 10, "length_m": named(0.8), "insulation": "105", "bundle_conductors": 2},
        "plugs": [{"kind": "two-pole 60", "poles": 4}],
        "cut_off": {"kind": "switch", "rating_a": named(60), "dc_volts_v": named(30), "reach": "rider"},
        "pedal_switch": {"kind": "switch", "rating_a": named(60), "dc_volts_v": named(30)},
        "controller": {"kind": "none"},
        "throttle": {"kind": "switch", "returns": True},
        "motor": {"kind": "small gear motor", "count": 2, "wiring": "parallel", "volts_v": named(12), "power_w": named(60), "no_load_rpm": named(14000)},
        "drivetrain": {"kind": "plastic gearbox", "ratio": named(100)},
        "wheel": {"diameter_m": named(0.28), "tyre": "plastic"},
        "rider": {"name": "Bo", "age_years": 7},
        "chargers": [{"label": "charger", "chemistry": "lead", "end_v": named(14.4), "amps_a": named(1), "place": "watched, clear of ways out"}],
    }
    for path, value in changes.items():
        place: Any = document
        *way, last = path.split("__")
        for step in way:
            place = place[int(step)] if isinstance(place, list) else place[step]
        place[int(last) if isinstance(place, list) else last] = value
    return load_setup(document)


def bare_machine(**changes: Any) -> Machine:
    """A machine of round numbers: 40 V behind 0.1 Ω, motor 0.2 Ω, 0.08 V·s, 1 A, ratio 7, wheel 0.15 m, 70 kg."""
    parts: dict[str, Any] = {
        "bank": BankModel((RowModel((Unit(chemistry="li-ion", cells_in_series=10, capacity_ah=10.0, resistance_ohm=0.08),)),)),
        "path_ohm": 0.02,
        "motor": MotorConstants(resistance_ohm=0.2, k_v_s=0.08, no_load_a=1.0, rated_a=12.0, rated_copper_w=40.0, rated_other_w=30.0),
        "motor_count": 1,
        "motor_wiring": "single",
        "thermal": MotorThermal(100.0, 900.0, 0.5, 0.8, True),
        "control": ControllerModel(kind="pwm", duty_max=1.0, efficiency=0.97, phase_limit_a=45.0, battery_limit_a=30.0, undervoltage_v=28.0, idle_a=0.05),
        "vehicle": VehicleModel(
            gear_ratio=7.0,
            wheel_radius_m=0.15,
            gear_efficiency=0.95,
            mass_kg=70.0,
            drag_area_m2=0.4,
            rolling_resistance=0.015,
            friction=0.8,
            driven_axle="rear",
            wheelbase_m=1.0,
            com_ahead_of_rear_m=0.4,
            com_height_m=0.6,
            track_m=None,
            rotating_share=0.05,
        ),
        "guard": None,
        "ambient_c": 25.0,
        "pack_c": 25.0,
    }
    return Machine(**{**parts, **changes})
