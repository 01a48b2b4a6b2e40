"""Sane machines of every family, made by design margins and plain arithmetic, surveyed whole. Knows none of the core's rules.

A careful engineer's choices: the motor geared so that full throttle stays a third under what the rider may do; packs for twice the amps;
fuse, wire, plugs and switches a class above; brakes for twice the energy; every fact looked at.
"""

from __future__ import annotations

import math
import random
from copy import deepcopy
from itertools import pairwise
from typing import Any

Document = dict[str, Any]

MPH = 0.44704
CELL_V = {"li-ion": (3.6, 4.2, 3.1), "lfp": (3.2, 3.65, 2.7), "lead": (2.0, 2.4, 1.85)}
AMPACITY = ((16, 25), (14, 35), (12, 45), (10, 60), (8, 80), (6, 120), (4, 160), (2, 210))
"""105 °C wire in free air. [A]"""

FAMILIES: dict[str, dict[str, Any]] = {
    "ride-on car": {"volts": (12, 24), "watts": (80, 180), "mass": (18, 35), "ages": (5, 9), "wheel": (0.24, 0.32), "load": (30, 60), "brake": "gearbox drag"},
    "small dirt bike": {"volts": (24, 36, 48), "watts": (250, 700), "mass": (22, 38), "ages": (9, 16), "wheel": (0.28, 0.36), "load": (65, 90), "brake": "disc"},
    "quad": {"volts": (36, 48), "watts": (400, 900), "mass": (45, 80), "ages": (9, 16), "wheel": (0.3, 0.4), "load": (70, 100), "brake": "disc"},
    "scooter": {"volts": (36, 48), "watts": (250, 500), "mass": (12, 20), "ages": (14, 45), "wheel": (0.2, 0.26), "load": (100, 120), "brake": "disc"},
    "kart": {"volts": (36, 48), "watts": (500, 1200), "mass": (50, 90), "ages": (12, 40), "wheel": (0.25, 0.3), "load": (90, 120), "brake": "disc"},
    "mini bike": {"volts": (36, 48), "watts": (500, 1200), "mass": (30, 50), "ages": (12, 40), "wheel": (0.32, 0.42), "load": (90, 120), "brake": "disc"},
    "transplant": {"volts": (24, 36), "watts": (250, 500), "mass": (35, 60), "ages": (10, 40), "wheel": (0.24, 0.3), "load": (90, 150), "brake": "disc"},
}
CAPS_MPH = ((4, 3.0), (6, 5.0), (9, 8.0), (12, 12.0), (16, 18.0), (18, 25.0))


def measured(value: float) -> Document:
    return {"value": value, "basis": "measured"}


def plate(value: float) -> Document:
    return {"value": value, "basis": "nameplate"}


def cap_m_s(age: float) -> float:
    """What the printed table lets an age ride, straight lines between its rows. [m/s]"""
    for (a, low), (b, high) in pairwise(CAPS_MPH):
        if age <= b:
            return MPH * (low + (high - low) * max(age - a, 0.0) / (b - a))
    return MPH * CAPS_MPH[-1][1]


def child_kg(age: float) -> float:
    """About what a child weighs dressed, by eye. [kg]"""
    return 14.0 + 2.6 * max(age - 3.0, 0.0) if age < 16 else 72.0


def wire(amps: float, length_m: float) -> Document:
    """A pair of 105 °C wires that carry two and a half times the amps, two in the bundle."""
    awg = next((size for size, stands in AMPACITY if 0.7 * stands >= 2.5 * amps), 2)
    return {"awg": awg, "length_m": measured(length_m), "insulation": "105", "bundle_conductors": 2, "joint": "crimped"}


def fuse(amps: float, full_v: float) -> Document:
    """Half as much again as flows at most, of a class above the volts, at the packs."""
    rating = next(r for r in (10, 15, 20, 25, 30, 40, 50, 60, 80, 100, 125, 150) if r >= 1.45 * amps)
    volts = 32 if full_v < 30 else 58 if full_v < 55 else 80
    kind = "blade" if rating <= (40 if volts < 80 else 30) else "large blade" if volts < 80 else "bolt-down"
    return {"kind": kind, "rating_a": rating, "dc_volts_v": volts, "side": "positive", "distance_m": measured(0.05)}


def sane(pick: random.Random, family: str | None = None) -> Document:
    """One sane machine."""
    name = family or pick.choice(sorted(FAMILIES))
    f = FAMILIES[name]
    stock_v = pick.choice(f["volts"])
    toy, hub = name == "ride-on car", name == "scooter"
    chemistry = pick.choice(["li-ion", "li-ion", "lfp", "lead"] if not hub else ["li-ion"])
    nominal_cell, full_cell, guard_cell = CELL_V[chemistry]
    cells = max(round(stock_v / nominal_cell), 1)
    if chemistry == "lead":
        cells = 6 * max(round(stock_v / 12), 1)
    blocks = cells // 6 if chemistry == "lead" else 1
    nominal, full = nominal_cell * cells, full_cell * cells
    age = pick.randint(*f["ages"])
    rider_kg = child_kg(age)
    # Geared so that the motor's no-load speed is a quarter under the rider's cap: what it then does on the ground stays well under it.
    lowered = 0.8 if toy else 1.0
    cap = max(cap_m_s(age) * lowered, min(cap_m_s(age), 5.0 * MPH))
    top = min(0.72 * cap, {"ride-on car": 1.9, "transplant": 3.2, "kart": 5.0, "quad": 4.5, "scooter": 6.5}.get(name, 5.5))
    wheel = pick.uniform(*f["wheel"])
    surface = "paving" if name in ("scooter", "kart", "mini bike") else pick.choice(["paving", "packed dirt", "short grass"])
    machine_kg = pick.uniform(*f["mass"])
    # Twice what rolling and air ask for at that speed, so that the motor works at half its plate.
    push_n = 9.81 * (machine_kg + rider_kg) * (0.03 if surface == "paving" else 0.08) + 0.35 * top * top
    watts = max(pick.uniform(*f["watts"]), 2.2 * push_n * top)
    no_load_rpm = 1.1 * 60.0 * top / (math.pi * wheel)
    limit = math.ceil(1.1 * watts / (0.8 * nominal))
    rows = pick.choice([1, 1, 2])
    amp_hours = max(8.0, round(0.5 * limit)) * (2 if chemistry == "lead" else 1)
    own_board = chemistry != "lead"
    unit: Document = {
        "label": f"{cells // blocks}-cell pack",
        "chemistry": chemistry,
        "cells_in_series": cells // blocks,
        "capacity_ah": plate(amp_hours),
        # A dead short stays under what a blade fuse breaks.
        "resistance_ohm": measured(max(0.04 * nominal / limit, rows * full / 850.0) / blocks),
        "continuous_a": plate(2.0 * limit),
        "peak_10s_a": plate(3.0 * limit),
        "age": "new",
        "charge": measured(1.0),
        "guard_in_tool": False,
        "mass_kg": measured(1.5),
    }
    if own_board:
        unit |= {
            "board": True,
            "protection_low_v": plate(guard_cell * cells * 0.95),
            "trip_a": plate(4.0 * limit),
            "trip_delay_s": plate(0.5),
            "short_cut_off_a": plate(400),
        }
    row_fuse = fuse(limit, full)
    row = {"units": [deepcopy(unit) for _ in range(blocks)], "fuse": row_fuse if rows > 1 else None, "lead": wire(row_fuse["rating_a"], 0.2)}
    if blocks > 1:
        row["link"] = wire(row_fuse["rating_a"], 0.1)
    main = fuse(limit, full)
    brushless = hub or (name in ("mini bike", "kart") and pick.random() < 0.5)
    motor: Document = {
        "kind": "hub" if hub else "brushless mid" if brushless else "small gear motor" if toy else "brushed",
        "volts_v": plate(round(nominal)),
        "power_w": plate(watts / 2 if toy else watts),
        "mass_kg": measured(watts / (250.0 if not toy else 400.0)),
    }
    if toy:
        motor |= {"count": 2, "wiring": "parallel", "no_load_rpm": plate(14000.0)}
    elif not hub:
        motor |= {"no_load_rpm": plate(3200.0)}
    else:
        motor |= {"no_load_rpm": plate(no_load_rpm)}
    ratio = motor["no_load_rpm"]["value"] / no_load_rpm
    kind = "hub" if hub else "plastic gearbox" if toy else "worm transaxle" if name == "transplant" else "chain"
    drive: Document = {"kind": kind, "torque_arm": True if hub else None, "chain_guard": True if kind == "chain" else None, "mount_homemade": False}
    if kind != "hub":
        drive["ratio"] = measured(ratio)
    controls: Document = {}
    if name in ("quad", "transplant", "ride-on car"):
        controls = {"reverse": True}
    charger = {
        "label": "its own charger",
        "chemistry": chemistry,
        "end_v": plate(full),
        "amps_a": plate(0.2 * amp_hours),
        "per": "bank",
        "isolated": True,
        "through": "its own port",
        "place": "watched, clear of ways out",
    }
    return {
        "version": 1,
        "vehicle": {
            "family": name,
            "mass_kg": measured(machine_kg),
            "max_load_kg": plate(max(pick.uniform(*f["load"]), 1.3 * rider_kg)),
            "max_speed_m_s": None,
            "track_m": measured(1.0) if name in ("quad", "transplant", "kart", "ride-on car") else None,
            "com_height_m": measured(0.35 if name in ("quad", "transplant", "kart", "ride-on car") else 0.55),
            "com_ahead_of_rear_m": measured(0.45),
            "wheelbase_m": measured(1.0),
            "driven_axle": "rear",
            "brake": f["brake"],
            "braked_axles": "both",
            "board_in_path": "no",
            "plus_lead_proven": True,
            "cables_clear": True,
            "stock_charger_left": False,
            "suspension": True,
        },
        "stock": {"volts_v": plate(round(nominal))},
        "bank": {
            "rows": [deepcopy(row) for _ in range(rows)],
            "occupancy": "all",
            "holding": {"by": ["strap", "bracket"], "cushioned": True, "against": "padding"},
            "looked_sound": True,
        },
        "main_fuse": main,
        "main_lead": wire(main["rating_a"], pick.uniform(0.3, 0.8)),
        "motor_lead": wire(1.5 * limit, 0.3),
        "plugs": [{"kind": "two-pole 90", "poles": 2, "dc_volts_v": plate(120)}],
        "cut_off": {"kind": "switch", "rating_a": plate(150), "dc_volts_v": plate(120), "reach": "rider"},
        "guard": {"kind": "module", "volts_v": measured(round(guard_cell * cells, 1)), "rating_a": plate(150)},
        "controller": {
            "kind": "brushless" if brushless else "brushed",
            "nominal_v": plate(round(nominal)),
            "max_v": plate(1.3 * full),
            "undervoltage_v": plate(0.75 * nominal),
            "battery_limit_a": plate(limit),
            "phase_limit_a": plate(1.5 * limit),
            "throttle": "switch" if toy else "hall",
            "ramp_s": plate(1.0),
            "precharge": True,
            "reverse_locked": True,
            "brake_cut_off_input": True,
            "mounting": "screwed",
            "in_spray": False,
            "enclosed": False,
        },
        "throttle": {
            "kind": "switch" if toy else "hall",
            "levers": not toy,
            "brake_cut_off_present": None if toy else True,
            "brake_cut_off_wired": None if toy else True,
            "foot_switch_wired": True if name == "quad" else None,
            "returns": True,
        },
        "controls": controls,
        "motor": motor,
        "drivetrain": drive,
        "wheel": {"diameter_m": measured(wheel), "tyre": "banded plastic" if toy else "pneumatic"},
        "rider": {"name": "Ida", "age_years": age, "mass_kg": measured(rider_kg), "standing": False},
        "ground": {"surface": surface, "hill_grade": 0.0, "ambient_c": pick.choice([12, 20, 28])},
        "chargers": [charger],
    }
