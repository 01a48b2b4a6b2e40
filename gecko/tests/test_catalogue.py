"""The parts that ship: what a table says is possible, in order, and makes a machine of its class ride as such machines do."""

from __future__ import annotations

import math
from itertools import groupby, pairwise
from typing import Any
from unittest import TestCase

from gecko.common.documents import Document
from gecko.document.catalogue import catalogue, pack
from gecko.document.rack.kinds import PART_KINDS
from gecko.document.setup import load_setup
from gecko.plans.arrangements import typical_setup
from gecko.plans.evaluate import evaluate
from gecko.reference.rows import source_of
from gecko.reference.tables import chains, offered_fuses

CELL_V = {"li-ion": 3.6, "lfp": 3.2, "lead": 2.0, "nickel": 1.2}
FAMILY = {"small gear motor": "ride-on car", "brushed": "small dirt bike", "hub": "scooter", "brushless mid": "mini bike"}
"""The class of machine a kind of motor is put into."""
CLASSES = (
    (20.0, "ride-on car", 12.0),
    (32.0, "small dirt bike", 24.0),
    (42.0, "scooter", 36.0),
    (58.0, "quad", 48.0),
    (68.0, "mini bike", 60.0),
    (99.0, "mini bike", 72.0),
)
"""Packs under so many volts are for this machine of so many. [V]"""
LEAST_M_S, MOST_M_S = 0.5, {"small gear motor": 4.0, "brushed": 16.0, "hub": 17.0, "brushless mid": 28.0}
"""What the slowest and the fastest machine of such a motor does. [m/s]"""


def parts(kind: str) -> list[Document]:
    return [{**entry["part"], "id": entry["id"], "group": entry["group"]} for entry in catalogue()[kind]]


def value(part: Document, field: str) -> float | None:
    return None if part.get(field) is None else float(part[field]["value"])


def cells_for(volts: float) -> int:
    """Lithium cells in series for such nominal volts."""
    return max(round(volts / CELL_V["li-ion"]), 3)


def machine(family: str, volts: float, packs: list[Document] | None = None, **more: Any) -> dict[str, Any]:
    """A typical machine of a family, on packs of these volts or on those given, behind a controller for them."""
    document = typical_setup(family, volts)
    strong = {"label": "p", "cells_in_series": cells_for(volts), "capacity_ah": {"value": 40, "basis": "nameplate"}}
    document["bank"] = {"rows": [{"units": packs or [strong]}]}
    document["rider"] = {"age_years": 30}
    return {**document, **more}


class Tables(TestCase):
    def test_each_says_where_its_numbers_come_from(self) -> None:
        for kind in ("packs", "motors", "controllers", "chargers", "gearboxes", "wheels", "throttles", "switches", "converters", "holders"):
            self.assertIn("Planning values of this project", source_of(kind))
            self.assertIn("no maker meant", source_of(kind))

    def test_parts_of_a_group_follow_each_other(self) -> None:
        for kind, entries in catalogue().items():
            groups = [group for group, _ in groupby(entries, key=lambda entry: entry["group"])]
            self.assertEqual(len(groups), len(set(groups)), kind)

    def test_what_is_larger_gives_more(self) -> None:
        """For good less than for ten seconds, that less than what opens its protection; motors and controllers stand in order of their volts, then of what they give."""
        for one in parts("packs"):
            limits = [value(one, name) for name in ("continuous_a", "peak_10s_a", "trip_a")]
            known = [limit for limit in limits if limit is not None]
            self.assertEqual(known, sorted(known), one["id"])
            self.assertEqual(len(known), {"lead": 0, "nickel": 2}.get(one["chemistry"], 3), one["id"])
            low = value(one, "protection_low_v")
            self.assertTrue(low is None or 0.6 < low / (CELL_V[one["chemistry"]] * one["cells_in_series"]) < 0.9, one["id"])
        for one in parts("controllers"):
            under, nominal, most = (value(one, name) for name in ("undervoltage_v", "nominal_v", "max_v"))
            assert under is not None and nominal is not None and most is not None
            self.assertTrue(under < nominal < most, one["id"])
        for kind, by, gives in (("motors", "volts_v", "power_w"), ("controllers", "nominal_v", "battery_limit_a")):
            for group, members in groupby(parts(kind), key=lambda one: one["group"]):
                if group == "Knob modules":
                    continue
                for one, other in pairwise(members):
                    self.assertLessEqual((value(one, by), value(one, gives)), (value(other, by), value(other, gives)), (one["id"], other["id"]))

    def test_what_opens_a_circuit(self) -> None:
        """Within a group those of more volts break no fewer amps with no more ohms; a holder stands the volts its fuse is made for."""
        for _, members in groupby(parts("switches"), key=lambda one: (one["group"], one["dc_volts_v"]["value"])):
            for one, other in pairwise(members):
                self.assertTrue((value(one, "rating_a") or 0) < (value(other, "rating_a") or 0), (one["id"], other["id"]))
                self.assertTrue((value(one, "resistance_ohm") or 0) >= (value(other, "resistance_ohm") or 0), (one["id"], other["id"]))
        made = {(fuse.kind, fuse.dc_volts_v) for fuse in offered_fuses()}
        for holder in (one for one in parts("hardware") if one["what"] == "fuse holder"):
            self.assertIn((holder["fits"].removesuffix(" fuse"), value(holder, "dc_volts_v")), made, holder["id"])

    def test_every_part_of_the_list_is_one(self) -> None:
        for kind, entries in catalogue().items():
            for entry in entries:
                PART_KINDS[kind].model_validate(entry["part"])

    def test_chargers_end_where_their_cells_are_full(self) -> None:
        full = {"li-ion": 4.2, "lfp": 3.65, "lead": 2.4, "nickel": 1.5}
        for one in parts("chargers"):
            end = value(one, "end_v")
            assert end is not None
            self.assertAlmostEqual(end / full[one["chemistry"]], round(end / full[one["chemistry"]]), places=6, msg=one["id"])

    def test_the_shelf_is_covered(self) -> None:
        """Tool packs from 1.5 to 12 Ah, scooter to kart packs from 36 to 84 V, LFP from four to 24 cells, lead of 6 and 12 V from 4 to 35 Ah, nickel
        from six to twenty, chargers from three to 24 cells, brushless motors to 15 kW, controllers from 12 to 96 V."""
        groups = {group: list(members) for group, members in groupby(parts("packs"), key=lambda one: one["group"])}

        def span(group: str, field: str) -> tuple[float, float]:
            found = [float(one[field]["value"] if isinstance(one[field], dict) else one[field]) for one in groups[group]]
            return min(found), max(found)

        self.assertEqual(span("5-cell tool packs", "capacity_ah"), (1.5, 12.0))
        self.assertEqual(span("Scooter, bike and kart packs", "cells_in_series"), (10, 23))
        self.assertEqual(span("LFP packs, 4 to 24 cells", "cells_in_series"), (4, 24))
        self.assertEqual(span("Lead blocks", "capacity_ah"), (4.0, 35.0))
        self.assertEqual(span("Nickel packs, 6 to 20 cells", "cells_in_series"), (6, 20))
        breakers = [(value(one, "rating_a"), value(one, "dc_volts_v")) for one in parts("switches") if one["kind"] == "breaker"]
        self.assertEqual((min(breakers), max(breakers)), ((20, 58), (250, 125)))
        self.assertEqual({one["kind"] for one in parts("switches")}, {"switch", "breaker", "relay", "contactor", "pullable plug"})
        self.assertIn((400, 125), [(value(one, "rating_a"), value(one, "dc_volts_v")) for one in parts("switches") if one["kind"] == "contactor"])
        self.assertEqual({one["pitch"] for one in parts("hardware") if one["what"] == "chain"}, set(chains()))
        ends = [value(one, "end_v") or 0.0 for one in parts("chargers") if one["chemistry"] == "li-ion"]
        self.assertEqual((min(ends), max(ends)), (12.6, 100.8))
        self.assertEqual(max(value(one, "power_w") or 0.0 for one in parts("motors") if one["kind"] == "brushless mid"), 15_000)
        volts = [value(one, "nominal_v") or 0.0 for one in parts("controllers") if one["kind"] != "knob module"]
        self.assertEqual((min(volts), max(volts)), (12, 96))


class OnAMachine(TestCase):
    """Each in a typical machine of its class: finite numbers, and a speed such machines have."""

    def rides(self, document: Document, least: float, most: float, part: str) -> None:
        outcome = evaluate(load_setup(document)).outcome
        assert outcome is not None, part
        self.assertTrue(all(math.isfinite(x) for x in (outcome.run_time_s, outcome.rms_a, outcome.peak_a, outcome.stop_m)), part)
        self.assertTrue(least <= outcome.top_speed_m_s <= most, (part, outcome.top_speed_m_s))

    def test_every_motor(self) -> None:
        for motor in parts("motors"):
            volts = value(motor, "volts_v")
            assert volts is not None
            family = FAMILY[motor["kind"]]
            own = {name: field for name, field in motor.items() if name not in ("id", "group")}
            two = {"count": 2, "wiring": "parallel"} if motor["kind"] == "small gear motor" else {}
            document = machine(family, volts)
            self.rides({**document, "motor": {**own, **two}}, LEAST_M_S, MOST_M_S[motor["kind"]], motor["id"])

    def test_every_controller(self) -> None:
        for control in parts("controllers"):
            volts = value(control, "nominal_v")
            assert volts is not None
            family = {"brushed": "small dirt bike", "knob module": "ride-on car", "brushless": "mini bike"}[control["kind"]]
            own = {name: field for name, field in control.items() if name not in ("id", "group")}
            self.rides(machine(family, volts, controller=own), LEAST_M_S, 28.0, control["id"])

    def test_every_pack(self) -> None:
        """As many in series as come nearest to what the machine ran on."""
        for one in catalogue()["packs"]:
            part = pack(one["id"])
            volts = CELL_V[part["chemistry"]] * part["cells_in_series"]
            family, stock = next((family, stock) for most, family, stock in CLASSES if volts < most)
            units = [part] * max(round(stock / volts), 1)
            self.rides(machine(family, stock, units), LEAST_M_S, 24.0, one["id"])
