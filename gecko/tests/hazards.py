"""Hazards put in one at a time through the fields of the forms, each with a near twin that is safe. Knows no rule but the name it must be found by."""

from __future__ import annotations

from copy import deepcopy
from dataclasses import dataclass, field
from typing import Any

from gecko.tests.machines import named, safe_bike, safe_ride_on

Document = dict[str, Any]
Changes = dict[str, Any]
PACK: Document = {"label": "p", "cells_in_series": 10, "capacity_ah": named(6), "continuous_a": named(30), "peak_10s_a": named(60), "age": "new", "charge": named(1)}
SILENT: Document = {key: value for key, value in PACK.items() if key not in ("continuous_a", "peak_10s_a")}
HALF: Document = {**PACK, "cells_in_series": 5}
LAMP: Document = {"label": "lamp", "kind": "lamp", "amps_a": named(2), "fuse": {"rating_a": 5, "dc_volts_v": 58}, "lead": {"awg": 14, "length_m": named(0.6)}}
STEP_DOWN: Document = {"input_min_v": named(20), "input_max_v": named(60), "output_v": named(12), "output_a": named(5)}
CHARGER: Document = {"label": "charger", "end_v": named(42), "amps_a": named(2), "place": "watched, clear of ways out"}
STRAPPED: Document = {"by": ["strap"], "cushioned": True}


@dataclass(frozen=True)
class Hazard:
    """One hazard: what it is, the rule it must be found by, the machine it is put into, what is entered, and what its safe twin enters."""

    name: str
    rule: str
    bad: Changes
    good: Changes = field(default_factory=dict)
    base: Changes = field(default_factory=dict)
    machine: str = "bike"


def document(hazard: Hazard, changes: Changes) -> Document:
    """A safe machine with the hazard's base and these changes by slash-separated path; a missing part on the way is made."""
    made = deepcopy(safe_bike() if hazard.machine == "bike" else safe_ride_on())
    for path, value in {**hazard.base, **changes}.items():
        place: Any = made
        *way, last = path.split("/")
        for step in way:
            place = place[int(step)] if isinstance(place, list) else place.setdefault(step, {})
        place[int(last) if isinstance(place, list) else last] = deepcopy(value)
    return made


def rows(*units: list[Document], lead: bool = True) -> list[Document]:
    """Rows of packs, every row with a fuse and a lead of its own."""
    wire = {"awg": 10, "length_m": named(0.2)}
    return [{"units": row, "fuse": {"rating_a": 30, "dc_volts_v": 58}, "lead": wire if lead else None, "link": wire if lead and len(row) > 1 else None} for row in units]


def fact(name: str, key: str, rule: str, path: str, good: Any, bads: tuple[Any, ...], base: Changes | None = None, machine: str = "bike") -> list[Hazard]:
    """A fact: the unsafe things one may have seen; that nobody has looked; that nobody could tell."""
    untold = {path: None, "looks": {key: {"answer": "cannot tell"}}}
    found = [Hazard(f"{name}: {bad}", rule, {path: bad}, {path: good}, base or {}, machine) for bad in bads]
    missing = UNTOLD.get(key, rule)
    return [
        *found,
        Hazard(f"{name}: not looked at", f"look.{key}", {path: None}, {path: good}, base or {}, machine),
        Hazard(f"{name}: nobody can tell", missing, untold, {path: good}, base or {}, machine),
    ]


UNTOLD = {"parked": "ride.parked", "reach": "switch.reach.open", "limiter_reach": "ride.limiter", "held": "pack.held.open"}
"""Questions whose unsafe answer has a rule of its own, beside that of what nobody can tell."""


QUAD: Changes = {"vehicle/family": "quad", "throttle/foot_switch_wired": True, "vehicle/track_m": named(1.6), "controller/reverse_locked": True}
HUB: Changes = {
    "vehicle/family": "scooter",
    "controller/kind": "brushless",
    "motor": {"kind": "hub", "volts_v": named(36), "power_w": named(350), "speed_rpm": named(600)},
    "drivetrain": {"kind": "hub", "torque_arm": True},
    "wheel/diameter_m": named(0.21),
}
TWO_ROWS: Changes = {"bank/rows": rows([PACK], [PACK]), "bank/occupancy": "all"}
IN_SERIES: Changes = {"bank/rows": rows([HALF, HALF]), "chargers/0/end_v": named(21)}
TOY_MORE: Changes = {
    "bank/rows/0/units": [{"label": "t", "cells_in_series": 5, "capacity_ah": named(5), "charge": named(1), "peak_10s_a": named(80), "continuous_a": named(40)}],
    "bank/rows/0/fuse": None,
    "chargers": [{"label": "dock", "end_v": named(21), "amps_a": named(2), "place": "watched, clear of ways out"}],
    "guard": {"kind": "module", "volts_v": named(15.5), "rating_a": named(90)},
    "vehicle/stock_charger_left": False,
}

HAZARDS: list[Hazard] = [
    # Facts of the survey.
    *fact("plus lead", "plus_lead", "pack.polarity", "vehicle/plus_lead_proven", True, (False,)),
    *fact("foot switch", "foot_switch", "ctl.foot", "throttle/foot_switch_wired", True, (False,), QUAD),
    *fact("brake cut-off", "brake_cut_off", "ctl.brake", "throttle/brake_cut_off_wired", True, (False,)),
    Hazard("a lever without a sensor", "ctl.brake", {"throttle/brake_cut_off_present": False}, {"throttle/brake_cut_off_present": True}),
    Hazard("a controller without a brake input", "ctl.brake", {"controller/brake_cut_off_input": False}, {"controller/brake_cut_off_input": True}),
    *fact("throttle returns", "throttle_returns", "ctl.return", "throttle/returns", True, (False,)),
    *fact("pedal returns", "throttle_returns", "ctl.return", "throttle/returns", True, (False,), machine="ride-on"),
    *fact("chain guard", "chain_guard", "drive.guard", "drivetrain/chain_guard", True, (False,)),
    *fact("cables", "cables", "wire.route", "vehicle/cables_clear", True, (False,)),
    *fact("packs are whole", "sound", "pack.damage.seen", "bank/looked_sound", True, (False,)),
    *fact("torque arm", "torque_arm", "drive.torque", "drivetrain/torque_arm", True, (False,), HUB),
    *fact("cut-off's reach", "reach", "switch.reach", "cut_off/reach", "rider", ("out of reach",)),
    *fact("motor mount", "mount", "drive.mount", "drivetrain/mount_homemade", False, (True,), {"vehicle/family": "kart"}),
    *fact("what holds it parked", "parked", "ride.brake.electric", "vehicle/parking_brake", True, (False,), {"vehicle/family": "transplant"}),
    *fact("stock charger", "stock_charger", "charge.stock", "vehicle/stock_charger_left", False, (True,), TOY_MORE, "ride-on"),
    *fact(
        "limiter's reach",
        "limiter_reach",
        "ride.cap",
        "throttle/limiter_reachable",
        False,
        (True,),
        {"rider": {"name": "Bo", "age_years": 7}, "throttle/limiter_mark": 0.25, "ground/hill_grade": 0.0},
    ),
    *fact(
        "how packs are held",
        "held",
        "pack.held",
        "bank/holding",
        STRAPPED,
        ({"by": []}, {"by": ["glue"], "cushioned": True}, {"by": ["hook-and-loop", "tape"], "cushioned": True}),
    ),
    Hazard("a circuit board nobody looked for", "look.board", {"vehicle/board_in_path": "unknown"}, {"vehicle/board_in_path": "no"}, TOY_MORE, "ride-on"),
    Hazard("a circuit board on more volts", "pack.window.board", {"vehicle/board_in_path": "yes"}, {"vehicle/board_in_path": "no"}, TOY_MORE, "ride-on"),
    Hazard(
        "whether there is a board nobody can tell",
        "pack.window.board.unknown",
        {"vehicle/board_in_path": "unknown", "looks": {"board": {"answer": "cannot tell"}}},
        {"vehicle/board_in_path": "no"},
        TOY_MORE,
        "ride-on",
    ),
    Hazard("a fuse somewhere", "fuse.place", {"main_fuse/side": "unknown"}, {"main_fuse/side": "positive"}),
    Hazard("a fuse in minus", "fuse.place", {"main_fuse/side": "negative"}, {"main_fuse/side": "positive"}),
    Hazard("throttle of unknown kind", "look.throttle_kind", {"throttle/kind": "unknown"}, {"throttle/kind": "hall"}),
    Hazard("controller that reads nobody knows what", "look.throttle_kind", {"controller/throttle": "unknown"}, {"controller/throttle": "hall"}),
    Hazard("nobody knows how full the rows are", "look.parallel", {"bank/rows/1/units/0/charge": None}, {"bank/rows/1/units/0/charge": named(1)}, TWO_ROWS),
    # Wire anywhere.
    Hazard("thin links", "wire.mixed", {"bank/rows/0/link": {"awg": 18, "length_m": named(0.2)}}, {}, IN_SERIES),
    Hazard(
        "thin lead of a single row", "wire.mixed", {"bank/rows/0/lead": {"awg": 18, "length_m": named(0.2)}}, {"bank/rows/0/lead": {"awg": 8, "length_m": named(0.2)}}
    ),
    Hazard("thin controller lead", "wire.mixed", {"controller_lead": {"awg": 18, "length_m": named(0.2)}}, {"controller_lead": {"awg": 10, "length_m": named(0.2)}}),
    Hazard(
        "thin accessory lead behind the main fuse",
        "wire.mixed",
        {"auxiliaries": [{**LAMP, "fuse": None, "lead": {"awg": 18, "length_m": named(0.6)}}]},
        {"auxiliaries": [LAMP]},
    ),
    Hazard(
        "motor lead too thin for the controller",
        "wire.ampacity",
        {"motor_lead/awg": 18, "controller/phase_limit_a": named(60)},
        {"motor_lead/awg": 8, "controller/phase_limit_a": named(60)},
    ),
    Hazard("copper-clad aluminium", "fuse.wire", {"main_lead/awg": 12, "main_lead/material": "copper-clad aluminium"}, {"main_lead/awg": 12}),
    Hazard("a lead by a hot motor", "wire.ampacity", {"main_lead/air_c": 104}, {"main_lead/air_c": 40}),
    Hazard("a lead in a thick bundle", "fuse.wire", {"main_lead/awg": 12, "main_lead/bundle_conductors": 9}, {"main_lead/awg": 12, "main_lead/bundle_conductors": 2}),
    Hazard("a motor lead nobody entered", "wire.unknown", {"motor_lead": None}, {}),
    Hazard("links nobody entered", "wire.unknown", {"bank/rows/0/link": None}, {}, IN_SERIES),
    Hazard("row leads nobody entered", "wire.unknown", {"bank/rows": rows([PACK], [PACK], lead=False)}, {}, TWO_ROWS),
    Hazard("accessory lead nobody entered", "wire.unknown", {"auxiliaries": [{**LAMP, "lead": None}]}, {"auxiliaries": [LAMP]}),
    Hazard("twist caps", "wire.joint", {"main_lead/joint": "twist cap"}, {"main_lead/joint": "crimped"}),
    # Packs.
    Hazard(
        "home-built without a board", "pack.board", {"bank/rows/0/units/0/made": "home-built", "bank/rows/0/units/0/board": False}, {"bank/rows/0/units/0/made": "bought"}
    ),
    Hazard("bare cells", "pack.board", {"bank/rows/0/units/0/made": "bare cells", "bank/rows/0/units/0/trip_a": None}, {"bank/rows/0/units/0/made": "tool pack"}),
    Hazard(
        "home-built with a board", "pack.board", {"bank/rows/0/units/0/made": "home-built", "bank/rows/0/units/0/board": True}, {"bank/rows/0/units/0/made": "bought"}
    ),
    Hazard(
        "a bought pack without a board",
        "pack.board",
        {"bank/rows/0/units/0/guard_in_tool": False, "bank/rows/0/units/0/trip_a": None, "bank/rows/0/units/0/board": False},
        {},
    ),
    Hazard("whether a pack has a board nobody looked", "look.pack_board", {"bank/rows/0/units/0/guard_in_tool": False, "bank/rows/0/units/0/trip_a": None}, {}),
    Hazard(
        "whether a pack has a board nobody can tell",
        "pack.board.none",
        {"bank/rows/0/units/0/guard_in_tool": False, "bank/rows/0/units/0/trip_a": None, "looks": {"pack_board0_0": {"answer": "cannot tell"}}},
        {},
    ),
    Hazard(
        "boards in series beyond what they stand",
        "pack.board.series",
        {"bank/rows": rows([{**HALF, "board": True, "board_max_v": named(30)}] * 2)},
        {"bank/rows": rows([{**HALF, "board": True, "board_max_v": named(60)}] * 2)},
    ),
    Hazard("boards in series, nobody knows what they stand", "pack.board.series", {"bank/rows": rows([{**HALF, "board": True}] * 2)}, {"bank/rows": rows([HALF] * 2)}),
    Hazard(
        "series packs of unlike volts",
        "pack.charge",
        {"bank/rows": rows([{**HALF, "resting_v": named(20.9)}, {**HALF, "resting_v": named(19.8)}])},
        {"bank/rows": rows([{**HALF, "resting_v": named(20.9)}, {**HALF, "resting_v": named(20.8)}])},
    ),
    Hazard(
        "series packs of unlike charge",
        "pack.charge",
        {"bank/rows": rows([HALF, {**HALF, "charge": named(0.6)}])},
        {"bank/rows": rows([HALF, {**HALF, "charge": named(0.95)}])},
    ),
    Hazard(
        "parallel packs of unlike charge", "pack.mixed.parallel", {"bank/rows": rows([PACK], [{**PACK, "charge": named(0.4), "charge_limit_a": named(2)}])}, {}, TWO_ROWS
    ),
    *(
        Hazard(f"a {what} pack", "pack.damage", {"bank/rows/0/units/0/damage": [what]}, {"bank/rows/0/units/0/damage": []})
        for what in ("swollen", "dropped", "wet", "opened")
    ),
    Hazard(
        "a pack at the volts of a dead one",
        "pack.spent",
        {"bank/rows/0/units/0/resting_v": named(24.9)},
        {"bank/rows/0/units/0/resting_v": named(25.1)},
    ),
    Hazard(
        "a pack that reads more than full",
        "pack.spent",
        {"bank/rows/0/units/0/resting_v": named(43.0)},
        {"bank/rows/0/units/0/resting_v": named(42.4)},
    ),
    Hazard("riding below freezing", "pack.cold", {"ground/ambient_c": -5}, {"ground/ambient_c": 4}),
    Hazard("charging below freezing", "pack.cold", {"chargers/0/coldest_c": -4}, {"chargers/0/coldest_c": 5}),
    Hazard("regeneration into frozen packs", "pack.cold", {"ground/pack_c": -3, "controller/regen_a": named(3)}, {"ground/pack_c": 8, "controller/regen_a": named(3)}),
    Hazard("regeneration into full packs", "pack.regen", {"controller/regen_a": named(3)}, {"controller/regen_a": named(3), "bank/rows/0/units/0/charge": named(0.85)}),
    Hazard(
        "regeneration over the charge limit",
        "pack.regen",
        {"controller/regen_a": named(12), "bank/rows/0/units/0/charge": named(0.5)},
        {"controller/regen_a": named(3), "bank/rows/0/units/0/charge": named(0.5)},
    ),
    Hazard(
        "packs against bare metal",
        "pack.held",
        {"bank/holding": {"by": ["strap"], "against": "bare metal"}},
        {"bank/holding": {"by": ["strap"], "against": "bare metal", "cushioned": True}},
    ),
    Hazard("a homemade battery mount", "pack.held", {"bank/holding/homemade": True}, {"bank/holding/homemade": False}),
    Hazard("unlike packs in a row", "pack.mixed.series", {"bank/rows": rows([HALF, {**HALF, "capacity_ah": named(3)}])}, {"bank/rows": rows([HALF, HALF])}),
    Hazard("no low-volt guard", "pack.guard", {"guard": None}, {}),
    # Charging.
    Hazard(
        "tool packs charged as a string",
        "charge.string",
        {"chargers": [{**CHARGER, "per": "bank", "isolated": True}]},
        {"chargers": [{**CHARGER, "end_v": named(21)}]},
        {"bank/rows": rows([HALF, HALF])},
    ),
    Hazard("charged through the output contacts", "charge.string", {"chargers/0/through": "output contacts"}, {"chargers/0/through": "its own port"}),
    Hazard(
        "charged with the cut-off on",
        "charge.parallel",
        {"chargers": [{**CHARGER, "per": "bank", "isolated": False}]},
        {"chargers": [{**CHARGER, "per": "bank", "isolated": True}]},
    ),
    Hazard("charged while joined", "charge.parallel", {"chargers/0/while_joined": True}, {"chargers/0/while_joined": False}, TWO_ROWS),
    Hazard("charged unwatched", "charge.place", {"chargers/0/place": "unwatched"}, {}),
    Hazard("charged on a way out", "charge.place", {"chargers/0/place": "on a way out"}, {}),
    Hazard("where it charges, said once", "charge.place", {"chargers/0/place": None}, {}),
    Hazard("a charger that was opened", "charge.place", {"chargers/0/mains_opened": True}, {}),
    Hazard("no charger at all", "charge.none", {"chargers": []}, {}),
    Hazard("an old charger", "charge.volts", {"chargers/0/end_v": named(29.4)}, {}),
    Hazard("a lead charger on lithium", "charge.volts", {"chargers/0/chemistry": "lead"}, {}),
    Hazard("a charger far too strong", "charge.amps", {"chargers/0/amps_a": named(20)}, {}),
    Hazard("a mains plug on the charger", "plug.charge", {"chargers/0/plug": "mains pattern"}, {}),
    # Switching.
    *(
        Hazard(
            f"{part} without a DC rating",
            "switch.dc",
            {part: {"kind": "contactor"}},
            {part: {"kind": "contactor", "dc_volts_v": named(60), "rating_a": named(60), "reach": "rider"}},
        )
        for part in ("cut_off", "key_switch", "contactor")
    ),
    Hazard("pedal switch without a DC rating", "switch.dc", {"pedal_switch/dc_volts_v": None}, {}, machine="ride-on"),
    *(
        Hazard(f"{part} in minus", "switch.dc", {f"{part}": {"kind": "switch", "dc_volts_v": named(60), "rating_a": named(60), "side": "negative", "reach": "rider"}}, {})
        for part in ("cut_off", "key_switch", "contactor")
    ),
    Hazard("a cut-off under the volts", "switch.dc", {"cut_off/dc_volts_v": named(32)}, {}),
    Hazard("a relay under the amps", "switch.dc", {"contactor": {"kind": "relay", "dc_volts_v": named(60), "rating_a": named(12)}}, {}),
    Hazard("no way to cut off", "pack.isolate", {"cut_off": None, "plugs": [{"kind": "spade 6.3", "poles": 4, "rating_a": named(40)}]}, {}),
    Hazard(
        "accessory at the packs without a fuse",
        "wire.mixed",
        {"auxiliaries": [{**LAMP, "fuse": None, "taps": "at the packs"}]},
        {"auxiliaries": [{**LAMP, "taps": "at the packs"}]},
    ),
    Hazard(
        "accessory without a fuse, its lead not entered",
        "wire.mixed",
        {"auxiliaries": [{**LAMP, "fuse": None, "lead": None, "taps": "at the packs"}]},
        {"auxiliaries": [LAMP]},
    ),
    Hazard(
        "a 12 V lamp on 42 V", "aux.volts", {"auxiliaries": [{**LAMP, "rated_v": named(12)}]}, {"auxiliaries": [{**LAMP, "rated_v": named(12), "converter": STEP_DOWN}]}
    ),
    Hazard(
        "a converter across a switched minus",
        "aux.minus",
        {"key_switch/side": "negative"},
        {"auxiliaries": [LAMP]},
        {"auxiliaries": [{**LAMP, "converter": STEP_DOWN}], "key_switch": {"dc_volts_v": named(60), "rating_a": named(60)}},
    ),
    Hazard("lamps through the frame", "aux.return", {"auxiliaries": [{**LAMP, "returns": "frame"}]}, {"auxiliaries": [LAMP]}),
    Hazard("no main fuse", "fuse.none", {"main_fuse": None}, {}),
    Hazard("rows without fuses", "fuse.none", {"bank/rows/0/fuse": None, "bank/rows/1/fuse": None}, {}, TWO_ROWS),
    Hazard("a 32 V fuse on 42 V", "fuse.volts", {"main_fuse/dc_volts_v": 32}, {}),
    Hazard("a browned plug", "plug.browned", {"plugs/0/browned": True}, {}),
    # Controls.
    Hazard("a throttle of another kind", "ctl.throttle", {"throttle/kind": "potentiometer"}, {}),
    Hazard("reverse at speed on a bike", "ctl.reverse", {"controls": {"reverse": True}}, {"controls": {"reverse": True}, "controller/reverse_locked": True}),
    Hazard(
        "reverse at speed on a brushless quad",
        "ctl.reverse",
        {"controller/reverse_locked": False},
        {},
        {**QUAD, "motor/kind": "brushless mid", "controller/kind": "brushless"},
    ),
    Hazard("a brushed controller on a hub motor", "ctl.kind", {"controller/kind": "brushed"}, {}, HUB),
    Hazard("the throttle's return nobody can tell", "ctl.return", {"throttle/returns": None, "looks": {"throttle_returns": {"answer": "cannot tell"}}}, {}),
    # Riding.
    Hazard("nobody entered", "ride.cap", {"rider": None}, {"rider": {"name": "Ada", "age_years": 30}}),
    Hazard("a rider without an age", "ride.cap", {"rider": {"name": "Bo"}}, {"rider": {"name": "Bo", "age_years": 30}}),
    Hazard(
        "a child on a fast bike",
        "ride.cap",
        {"rider": {"name": "Bo", "age_years": 7}},
        {"rider": {"name": "Bo", "age_years": 7}, "throttle/limiter_mark": 0.2, "throttle/limiter_reachable": False, "ground/hill_grade": 0.0},
    ),
    Hazard("a sister who wants a go", "ride.cap", {"also": [{"name": "Lumi", "age_years": 4}]}, {"also": [{"name": "Mum", "age_years": 40}]}),
    Hazard(
        "a controller nobody read the label of",
        "pack.window.controller",
        {"controller/max_v": None, "controller/nominal_v": None, "controller/undervoltage_v": None, "stock/volts_v": named(24)},
        {"controller/max_v": named(50), "stock/volts_v": named(24)},
    ),
    Hazard(
        "packs nobody knows the amps of",
        "pack.unrated",
        {"bank/rows": rows([{**SILENT, "capacity_ah": named(3.2)}])},
        {"bank/rows": rows([{**SILENT, "capacity_ah": named(3.2), "peak_10s_a": named(50), "continuous_a": named(25)}])},
    ),
    Hazard("a small passenger", "ride.cap", {"passenger": {"name": "Lumi", "age_years": 4}}, {"passenger": {"name": "Mum", "age_years": 40}}, {"vehicle/seats": 2}),
    Hazard(
        "a strong mode that is not locked",
        "ride.cap",
        {"controller/modes_locked": False},
        {"controller/modes_locked": True},
        {"rider": {"name": "Bo", "age_years": 9}, "controller/modes": [{"name": "1", "duty": 0.3}, {"name": "2"}], "controller/mode": "1", "ground/hill_grade": 0.0},
    ),
    Hazard("a cap above the table's", "ride.cap", {"rider": {"name": "Bo", "age_years": 10, "cap_m_s": named(12)}}, {"rider": {"name": "Ida", "age_years": 30}}),
    Hazard("faster than the maker says", "ride.cap", {"vehicle/max_speed_m_s": named(4)}, {"vehicle/max_speed_m_s": named(14)}),
    Hazard(
        "younger than the maker says",
        "ride.maker",
        {"rider": {"name": "Bo", "age_years": 12}},
        {"rider": {"name": "Bo", "age_years": 17}},
        {"vehicle/least_age_years": 14},
    ),
    Hazard("two on one seat", "ride.maker", {"passenger": {"name": "Mum", "age_years": 40}}, {"passenger": None}),
    Hazard("too heavy", "ride.weight", {"vehicle/max_load_kg": named(40)}, {"vehicle/max_load_kg": named(90)}),
    Hazard("too heavy with what was added", "ride.weight", {"vehicle/extra_mass_kg": named(20)}, {"vehicle/extra_mass_kg": named(2)}, {"vehicle/max_load_kg": named(65)}),
    Hazard("load limit of a toy unknown", "ride.weight", {"vehicle/max_load_kg": None}, {}, machine="ride-on"),
    Hazard("gearbox drag as the only brake", "ride.stop", {"vehicle/brake": "gearbox drag"}, {}),
    Hazard("plastic tyres at speed", "ride.stop", {"wheel/tyre": "plastic"}, {"wheel/tyre": "pneumatic"}, {"ground/friction": named(0.8)}),
    Hazard(
        "a chain far too weak",
        "drive.pull",
        {"drivetrain/chain_pitch": "25", "controller/phase_limit_a": named(160), "controller/battery_limit_a": named(120)},
        {"drivetrain/chain_pitch": "420", "controller/phase_limit_a": named(160), "controller/battery_limit_a": named(120)},
    ),
    Hazard(
        "a chain nobody measured, pulled hard",
        "drive.pull",
        {"drivetrain/chain_pitch": None, "controller/phase_limit_a": named(160), "controller/battery_limit_a": named(120)},
        {"drivetrain/chain_pitch": "420", "controller/phase_limit_a": named(160), "controller/battery_limit_a": named(120)},
    ),
    Hazard(
        "wheel sprocket with other holes",
        "drive.fit",
        {"drivetrain/wheel_sprocket_bolts": "4 × 48 mm", "drivetrain/wheel_bolts": "3 × 29 mm"},
        {"drivetrain/wheel_sprocket_bolts": "3 × 29 mm", "drivetrain/wheel_bolts": "3×29mm"},
    ),
    Hazard(
        "a sprocket with another bore",
        "drive.fit",
        {"drivetrain/shaft": "10 mm D", "drivetrain/sprocket_bore": "12 mm"},
        {"drivetrain/shaft": "10 mm D", "drivetrain/sprocket_bore": "10 mm D"},
    ),
    Hazard(
        "another chain",
        "drive.chain",
        {"drivetrain/chain_pitch": "8 mm", "drivetrain/wheel_sprocket_pitch": "25"},
        {"drivetrain/chain_pitch": "25", "drivetrain/wheel_sprocket_pitch": "25"},
    ),
    Hazard("ridden in the rain", "ride.rain", {"ground/rain": True}, {"ground/rain": False}),
    Hazard(
        "the parking brake is gone", "ride.brake.electric", {"vehicle/fail_safe_brake": "removed"}, {"vehicle/fail_safe_brake": "removed", "vehicle/parking_brake": True}
    ),
]
