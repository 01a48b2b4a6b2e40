"""The four machines of Tideline Shed: a made-up garage with made-up people."""

from __future__ import annotations

from copy import deepcopy
from typing import Any

from gecko.document.catalogue import pack
from gecko.document.parts.pack import Pack
from gecko.document.setup import load_setup
from gecko.machine.courses import SHIPPED
from gecko.plans.arrangements import arrange

Document = dict[str, Any]


def plate(value: float) -> Document:
    """A number off a nameplate."""
    return {"value": value, "basis": "nameplate"}


def measured(value: float) -> Document:
    """A measured number."""
    return {"value": value, "basis": "measured"}


def guess(value: float) -> Document:
    """An assumed number."""
    return {"value": value, "basis": "assumed"}


RIDERS: list[Document] = [
    {"name": "Pip", "age_years": 6, "mass_kg": measured(22)},
    {"name": "Odette", "age_years": 10, "mass_kg": measured(34)},
    {"name": "Rafe", "age_years": 14, "mass_kg": measured(52)},
    {"name": "Mum", "age_years": 39, "mass_kg": measured(68)},
]


def lead(label: str, ah: float) -> Document:
    """A 12 V lead block."""
    return {"label": label, "chemistry": "lead", "cells_in_series": 6, "capacity_ah": plate(ah), "guard_in_tool": False, "age": "used"}


STRAPPED: Document = {"by": ["strap", "bracket"], "cushioned": True, "against": "padding", "spreader_plates": False}
GARDEN_SIZE: Document = {"length_m": measured(0.15), "width_m": measured(0.09), "height_m": measured(0.075), "mass_kg": measured(0.95)}
LAMPS: Document = {
    "label": "Lamps",
    "kind": "lamp",
    "switch": "switch",
    "amps_a": measured(1.5),
    "fuse": {"kind": "blade", "rating_a": 5, "dc_volts_v": 32},
    "lead": {"awg": 16, "length_m": measured(0.9)},
    "converter": {"input_min_v": plate(15), "input_max_v": plate(40), "output_v": plate(12), "output_a": plate(5)},
}


def surveyed(document: Document, *, charger_gone: bool = True) -> Document:
    """The same after somebody has looked: what the survey asks for, seen and in order."""
    vehicle, throttle, drive = document["vehicle"], document.get("throttle"), document.get("drivetrain")
    vehicle |= {"plus_lead_proven": True, "cables_clear": True}
    if charger_gone:
        vehicle["stock_charger_left"] = False
    document["bank"] |= {"looked_sound": True, "holding": document["bank"].get("holding") or deepcopy(STRAPPED)}
    if throttle:
        throttle |= {"returns": True}
        if throttle.get("limiter_mark") is not None:
            throttle["limiter_reachable"] = False
    if document.get("cut_off"):
        document["cut_off"] |= {"reach": "rider"}
    if drive and drive["kind"] == "chain":
        drive |= {"chain_guard": True}
    if drive and drive["kind"] == "hub":
        drive |= {"torque_arm": True}
    for charger in document.get("chargers") or []:
        charger |= {"place": "watched, clear of ways out"}
    if document["controller"]["kind"] != "none" and not document.get("motor_lead"):
        document["motor_lead"] = {"awg": 8 if vehicle["family"] == "quad" else 10, "length_m": measured(0.3), "insulation": "105", "bundle_conductors": 2}
    for row in document["bank"]["rows"]:
        if len(row["units"]) > 1 and not row.get("link"):
            row["link"] = {"awg": document["main_lead"]["awg"], "length_m": measured(0.1), "insulation": "105", "bundle_conductors": 2}
    return document


def wires(**colours: str) -> list[Document]:
    """A half of a plug: what each wire is for, by its colour; underscores are blanks."""
    return [{"colour": colour.replace("_", " "), "function": function} for colour, function in colours.items()]


THROTTLE_PLUG: Document = {
    "place": "throttle",
    "label": "Thumb throttle, violet",
    "family": "3-pole, 2.8 mm",
    "mates": True,
    "controller": wires(violet="5 V", orange="ground", white="signal"),
    "part": wires(grey="5 V", pink="ground", green="signal"),
}
HALLS_PLUG: Document = {
    "place": "Halls",
    "family": "5-pole, 2.8 mm",
    "mates": True,
    "controller": wires(red="5 V", black="ground", yellow="Hall A", green="Hall B", blue="Hall C"),
    "part": wires(red="5 V", black="ground", yellow="Hall A", green="Hall B", blue="Hall C"),
}
PHASES_PLUG: Document = {
    "place": "phases",
    "controller": wires(yellow="phase A", green="phase B", blue="phase C"),
    "part": wires(yellow="phase A", green="phase B", blue="phase C"),
}


def marmalade() -> Document:
    """A 24 V two-seat ride-on buggy on two lead blocks, pedal straight to two gear motors."""
    return {
        "version": 1,
        "vehicle": {
            "family": "ride-on car",
            "mass_kg": measured(34),
            "max_load_kg": plate(60),
            "wheelbase_m": measured(0.82),
            "track_m": measured(0.62),
            "board_in_path": "no",
            "plus_lead_proven": True,
            "plus_lead_note": "Measured on the blocks: the striped lead is plus.",
        },
        "stock": {"volts_v": plate(24), "capacity_ah": plate(12), "fuse_a": plate(30)},
        "bank": {"rows": [{"units": [lead("12 V lead block, 12 Ah", 12), lead("12 V lead block, 12 Ah", 12)]}]},
        "main_fuse": {"kind": "blade", "rating_a": 30, "dc_volts_v": 32, "distance_m": measured(0.2)},
        "main_lead": {"awg": 12, "length_m": measured(0.9), "insulation": "105", "bundle_conductors": 2},
        "plugs": [{"kind": "two-pole 60", "poles": 4}],
        "pedal_switch": {"kind": "switch", "rating_a": plate(40), "dc_volts_v": plate(32)},
        "controls": {"direction": "in the motor leads"},
        "controller": {"kind": "none"},
        "throttle": {"kind": "switch"},
        "motor": {"kind": "small gear motor", "count": 2, "wiring": "parallel", "volts_v": plate(24), "power_w": plate(90), "no_load_rpm": plate(15500)},
        "drivetrain": {"kind": "plastic gearbox", "ratio": guess(98)},
        "wheel": {"diameter_m": measured(0.30), "tyre": "banded plastic"},
        "rider": RIDERS[0],
        "ground": {"surface": "short grass", "hill_grade": 0.06, "ambient_c": 24},
        "chargers": [{"label": "24 V lead charger, 1.6 A", "chemistry": "lead", "end_v": plate(28.8), "amps_a": plate(1.6), "per": "bank"}],
    }


def course(name: str) -> Document:
    """One of the shipped courses."""
    return next(one for one in SHIPPED if one.name == name).model_dump(mode="json")


def marmalade_setups() -> list[tuple[str, Document]]:
    """One, two and three seven-cell garden packs side by side, with a controller that starts softly in the last."""
    base = load_setup(marmalade())
    garden = Pack.model_validate({**pack("pack-7s-4"), "label": "7-cell garden pack, 4 Ah"})
    dock = {"label": "7-cell dock, 2 A", "chemistry": "li-ion", "end_v": plate(29.4), "amps_a": plate(2), "per": "unit"}
    made = []
    for rows, name in ((1, "One garden pack"), (2, "Two side by side"), (3, "Three side by side")):
        document = {**arrange(base, garden, rows, 1), "chargers": [deepcopy(dock)]}
        if rows > 1:
            for row, volts in zip(document["bank"]["rows"], (28.6, 28.5, 28.4), strict=False):
                row["units"][0]["resting_v"] = measured(volts)
            document["bank"] |= {"holding": deepcopy(STRAPPED), "occupancy": "all"}
        if rows == 2:
            # The second pack is an old one from the shed's strimmer, not quite charged.
            document["bank"]["rows"][1]["units"][0] |= {"label": "7-cell garden pack, 4 Ah, old", "age": "worn", "resting_v": measured(27.9)}
        if rows == 3:
            document["controller"] = {
                "kind": "brushed",
                "nominal_v": plate(24),
                "max_v": plate(32),
                "undervoltage_v": plate(20),
                "battery_limit_a": plate(22),
                "phase_limit_a": plate(34),
                "throttle": "hall",
            }
            document["controller"]["ramp_s"] = plate(0.6)
            document["throttle"] = {"kind": "hall", "limiter_mark": 0.72, "limiter_reachable": False}
            document["course"] = course("Lawn laps")
            document["pedal_switch"] = None
            document = {**arrange(load_setup({**document}), garden, 3, 1), "chargers": [deepcopy(dock)]}
            for row, volts in zip(document["bank"]["rows"], (28.6, 28.5, 28.4), strict=False):
                row["units"][0] |= {"resting_v": measured(volts), **GARDEN_SIZE}
            document["bank"] |= {"holding": deepcopy(STRAPPED), "occupancy": "all"}
            document["vehicle"]["bay"] = {
                "length_m": measured(0.34),
                "width_m": measured(0.24),
                "height_m": measured(0.16),
                "ahead_of_rear_m": 0.42,
                "floor_m": 0.18,
            }
            document["motor_lead"] = {"awg": 12, "length_m": measured(0.5), "insulation": "105", "bundle_conductors": 2, "joint": "crimped"}
            document["motor_lead"] |= {"colour": "yellow", "colour_back": "blue"}
            document["auxiliaries"] = [deepcopy(LAMPS)]
            document["plug_pairs"] = [deepcopy(THROTTLE_PLUG)]
            document["openings"] = [{"label": "Seat pan", "kind": "cover", "fasteners": 6, "drive": "cross", "kept": "the jam jar"}]
        if rows == 1:
            # The first evening's idea: pack straight to the stock leads, the biggest fuse in the drawer, nothing else.
            document |= {"guard": None, "cut_off": None, "main_fuse": {"kind": "blade", "rating_a": 40, "dc_volts_v": 32, "distance_m": guess(0.4)}}
            document["main_lead"]["awg"] = 14
        made.append((name, document))
    return [("As found", surveyed(marmalade())), *((name, surveyed(document)) for name, document in made)]


def thistle() -> Document:
    """A 24 V 280 W chain bike with 12 and 80 teeth on two small lead blocks."""
    return {
        "version": 1,
        "vehicle": {
            "family": "small dirt bike",
            "mass_kg": measured(29),
            "max_load_kg": plate(65),
            "brake": "drum or band",
            "braked_axles": "rear",
            "board_in_path": "no",
            "plus_lead_proven": True,
        },
        "stock": {"volts_v": plate(24), "capacity_ah": plate(9), "fuse_a": plate(30)},
        "bank": {"rows": [{"units": [lead("12 V lead block, 9 Ah", 9), lead("12 V lead block, 9 Ah", 9)]}]},
        "main_fuse": {"kind": "blade", "rating_a": 30, "dc_volts_v": 32, "distance_m": measured(0.15)},
        "main_lead": {"awg": 12, "length_m": measured(0.6), "insulation": "105", "bundle_conductors": 2},
        "plugs": [{"kind": "two-pole 60", "poles": 4}],
        "cut_off": {"kind": "switch", "rating_a": plate(40), "dc_volts_v": plate(48)},
        "controller": {
            "kind": "brushed",
            "nominal_v": plate(24),
            "max_v": plate(32),
            "undervoltage_v": plate(20),
            "battery_limit_a": plate(22),
            "phase_limit_a": plate(33),
            "throttle": "hall",
        },
        "throttle": {"kind": "hall", "brake_cut_off_present": True, "brake_cut_off_wired": True},
        "motor": {"kind": "brushed", "volts_v": plate(24), "power_w": plate(280), "speed_rpm": plate(2700), "mass_kg": measured(2.3)},
        "drivetrain": {
            "kind": "chain",
            "motor_teeth": 12,
            "wheel_teeth": 80,
            "chain_pitch": "25",
            "motor_sprocket_pitch": "25",
            "wheel_sprocket_pitch": "25",
        },
        "wheel": {"diameter_m": measured(0.305), "tyre": "pneumatic"},
        "rider": RIDERS[2],
        "ground": {"surface": "packed dirt", "hill_grade": 0.05, "ambient_c": 22},
        "chargers": [{"label": "24 V lead charger, 1.6 A", "chemistry": "lead", "end_v": plate(28.8), "amps_a": plate(1.6), "per": "bank"}],
    }


def thistle_setups() -> list[tuple[str, Document]]:
    """An eight-cell LFP pack, which the stock controller takes, and a twelve-cell one, which it does not."""
    base = load_setup(thistle())
    eight = arrange(base, Pack.model_validate(pack("pack-8s-lfp-10")), 1, 1)
    twelve = arrange(base, Pack.model_validate(pack("pack-12s-lfp-10")), 1, 1)
    eight["bank"]["holding"] = deepcopy(STRAPPED)
    eight["chargers"] = [{"label": "8-cell LFP charger, 3 A", "chemistry": "lfp", "end_v": plate(29.2), "amps_a": plate(3)}]
    for document in (eight, twelve):
        document["drivetrain"] |= {"centre_m": measured(0.31)}
    eight["course"] = {
        "name": "Down to the boathouse and back",
        "segments": [
            {"surface": "packed dirt", "length_m": 120, "grade": -0.02, "share": 0.8},
            {"surface": "short grass", "length_m": 60, "share": 0.7, "stop_s": 10},
            {"surface": "packed dirt", "length_m": 120, "grade": 0.02, "share": 0.7},
        ],
    }
    twelve["course"] = course("Lawn laps")
    eight["throttle"]["knob"] = [{"mark": 0.5, "speed_m_s": measured(3.1)}, {"mark": 0.7, "speed_m_s": measured(4.9)}]
    # Right up it would be a hair over the cap in about half of the likely cases.
    eight["throttle"]["limiter_mark"] = 0.95
    gentle = deepcopy(eight)
    gentle["throttle"]["limiter_mark"] = 0.52
    gentle["rider"] = RIDERS[1]
    return [
        ("As found", surveyed(thistle())),
        ("Eight-cell LFP", surveyed(eight)),
        ("Gentle, for Odette", surveyed(gentle)),
        ("Twelve-cell LFP", surveyed(twelve)),
    ]


def bramble() -> Document:
    """A 48 V 900 W lead quad."""
    return {
        "version": 1,
        "vehicle": {
            "family": "quad",
            "mass_kg": measured(71),
            "max_load_kg": plate(75),
            "brake": "disc",
            "braked_axles": "both",
            "track_m": measured(0.72),
            "com_height_m": guess(0.46),
            "board_in_path": "no",
            "plus_lead_proven": True,
        },
        "stock": {"volts_v": plate(48), "capacity_ah": plate(12), "fuse_a": plate(40)},
        "bank": {"rows": [{"units": [lead("12 V lead block, 12 Ah", 12)] * 4}]},
        "main_fuse": {"kind": "blade", "rating_a": 40, "dc_volts_v": 58, "distance_m": measured(0.2)},
        "main_lead": {"awg": 8, "length_m": measured(1.0), "insulation": "105", "bundle_conductors": 2},
        "plugs": [{"kind": "two-pole 60", "poles": 4}],
        "cut_off": {"kind": "pullable plug", "rating_a": plate(60), "dc_volts_v": plate(72)},
        "controller": {
            "kind": "brushed",
            "nominal_v": plate(48),
            "max_v": plate(63),
            "undervoltage_v": plate(41),
            "battery_limit_a": plate(32),
            "phase_limit_a": plate(48),
            "throttle": "hall",
            "precharge": True,
        },
        "throttle": {"kind": "hall", "brake_cut_off_present": True, "brake_cut_off_wired": True, "foot_switch_wired": True, "limiter_mark": 0.6},
        "controls": {
            "key": True,
            "speed_switch": True,
            "direction": "at the controller",
            "harness": ["key", "brake, low level", "brake, high level", "speed switch", "forward and reverse", "cruise hold", "charge"],
        },
        "motor": {"kind": "brushed", "volts_v": plate(48), "power_w": plate(900), "speed_rpm": plate(2950)},
        "drivetrain": {"kind": "chain", "motor_teeth": 11, "wheel_teeth": 66},
        "wheel": {"diameter_m": measured(0.34), "tyre": "pneumatic"},
        "rider": RIDERS[2],
        "ground": {"surface": "packed dirt", "hill_grade": 0.0, "ambient_c": 22},
        "chargers": [{"label": "48 V lead charger, 2 A", "chemistry": "lead", "end_v": plate(57.6), "amps_a": plate(2), "per": "bank"}],
    }


def bramble_setups() -> list[tuple[str, Document]]:
    """The lead string, and one 14-cell pack, once as bought and once with its old charger still in the plan."""
    base = load_setup(bramble())
    lithium = arrange(base, Pack.model_validate(pack("pack-14s-20")), 1, 1)
    lithium["throttle"]["limiter_mark"] = 0.55
    lithium["bank"]["holding"] = deepcopy(STRAPPED)
    lithium["chargers"] = [{"label": "14-cell charger, 3 A", "chemistry": "li-ion", "end_v": plate(58.8), "amps_a": plate(3)}]
    lithium["controller"] |= {"modes": [{"name": "1", "duty": 0.4, "current": 0.6}, {"name": "2", "duty": 0.7}, {"name": "3"}], "mode": "3", "reverse_duty": 0.4}
    lithium["course"] = {
        "name": "Orchard round",
        "segments": [
            {"surface": "short grass", "length_m": 70, "share": 0.8},
            {"surface": "short grass", "length_m": 45, "grade": 0.06, "share": 0.7},
            {"surface": "packed dirt", "length_m": 90, "share": 0.8, "stop_s": 6},
            {"surface": "packed dirt", "length_m": 45, "grade": -0.06, "share": 0.6},
        ],
    }
    hasty = deepcopy(lithium)
    hasty["course"] = None
    hasty["throttle"]["limiter_mark"] = None
    hasty["chargers"] = deepcopy(bramble()["chargers"])
    hasty["main_fuse"] = {"kind": "blade", "rating_a": 60, "dc_volts_v": 32, "distance_m": guess(0.5)}
    hasty["main_lead"]["awg"] = 12
    # Where the old charger went, nobody has said yet.
    return [
        ("As found", surveyed(bramble())),
        ("14-cell pack", surveyed(lithium, charger_gone=False)),
        ("14-cell, first idea", surveyed(hasty, charger_gone=False)),
    ]


def comet() -> Document:
    """A 48 V hub scooter on one thirteen-cell pack."""
    return {
        "version": 1,
        "vehicle": {
            "family": "scooter",
            "mass_kg": measured(19),
            "max_load_kg": plate(110),
            "driven_axle": "rear",
            "brake": "disc",
            "braked_axles": "both",
            "board_in_path": "no",
            "plus_lead_proven": True,
        },
        "stock": {"volts_v": plate(48), "capacity_ah": plate(10), "fuse_a": plate(30)},
        "bank": {"rows": [{"units": [{**pack("pack-13s-10"), "label": "13-cell pack, 10 Ah"}], "fuse": None}]},
        "main_fuse": {"kind": "blade", "rating_a": 30, "dc_volts_v": 58, "distance_m": measured(0.1)},
        "main_lead": {"awg": 10, "length_m": measured(0.6), "insulation": "silicone", "bundle_conductors": 2},
        "plugs": [{"kind": "two-pole 60", "poles": 4}],
        "cut_off": {"kind": "pullable plug", "rating_a": plate(60), "dc_volts_v": plate(60)},
        "controller": {
            "kind": "brushless",
            "nominal_v": plate(48),
            "max_v": plate(63),
            "undervoltage_v": plate(40),
            "battery_limit_a": plate(24),
            "phase_limit_a": plate(46),
            "throttle": "hall",
            "precharge": True,
        },
        "throttle": {"kind": "hall", "brake_cut_off_present": True, "brake_cut_off_wired": True},
        "controls": {"key": True, "learning_plug": True, "harness": ["key", "brake, low level", "learning", "cruise hold", "speed limit"]},
        "plug_pairs": [deepcopy(PHASES_PLUG), deepcopy(HALLS_PLUG), deepcopy(THROTTLE_PLUG)],
        "cables": [{"label": "Through the stem", "conductors": 8, "mm2": 0.5, "carries": ["throttle", "brake", "key"]}],
        "motor": {"kind": "hub", "volts_v": plate(48), "power_w": plate(500), "speed_rpm": plate(830)},
        "drivetrain": {"kind": "hub"},
        "wheel": {"diameter_m": measured(0.215), "tyre": "pneumatic"},
        "rider": {**RIDERS[3], "standing": True},
        "ground": {"surface": "paving", "hill_grade": 0.05, "ambient_c": 22},
        "chargers": [{"label": "13-cell charger, 2 A", "chemistry": "li-ion", "end_v": plate(54.6), "amps_a": plate(2)}],
    }


def comet_setups() -> list[tuple[str, Document]]:
    """A second thirteen-cell pack beside the first, and the same at two unlike charges, which must not be joined yet."""
    base = load_setup(comet())
    one = Pack.model_validate({**pack("pack-13s-10"), "label": "13-cell pack, 10 Ah"})
    two = {**arrange(base, one, 2, 1), "chargers": deepcopy(comet()["chargers"])}
    for row in two["bank"]["rows"]:
        row["units"][0]["resting_v"] = measured(53.9)
    two["bank"] |= {"holding": deepcopy(STRAPPED), "occupancy": "all"}
    unlike = deepcopy(two)
    unlike["bank"]["rows"][1]["units"][0]["resting_v"] = measured(48.2)
    return [("As found", surveyed(comet())), ("Two packs", surveyed(two)), ("Two packs, not matched", surveyed(unlike))]
