"""The wiring made from a setup and the electrical rule check: 500 random machines pass, each with one wire wrong is told where."""

from __future__ import annotations

import random
from collections import Counter
from dataclasses import replace
from typing import Any
from unittest import TestCase

from gecko.document.setup import Setup, load_setup
from gecko.hookup.drawing import drawing_of
from gecko.hookup.erc import check
from gecko.hookup.netlist import build_wiring
from gecko.hookup.wire_list import wire_list_csv
from gecko.hookup.wiring import Conductor, Wiring
from gecko.plans.hookup import build_hookup
from gecko.tests.counts import tried
from gecko.tests.machines import bike, named, ride_on
from gecko.tests.test_safe_by_construction import safe

SETUPS = tried(500, 60)


def machine(pick: random.Random) -> Setup:
    """A random machine with random small wires; one in four without a controller."""
    document: dict[str, Any] = safe(pick)
    document["controls"] = {name: pick.random() < 0.5 for name in ("key", "reverse", "speed_switch", "indicator", "charge_socket", "learning_plug")}
    document["controls"]["direction"] = pick.choice(["none", "at the controller", "in the motor leads"])
    document["motor"]["count"] = pick.choice([1, 1, 2])
    document["motor"]["wiring"] = pick.choice(["parallel", "series"]) if document["motor"]["count"] == 2 else "single"
    fuse = {"rating_a": 5, "dc_volts_v": 58}
    document["auxiliaries"] = [
        {"label": f"{kind}{k}", "kind": kind, "switch": pick.choice(["none", "switch", "push button"]), "amps_a": named(1), "fuse": fuse}
        | ({"converter": {"input_min_v": named(8), "input_max_v": named(90), "output_v": named(5), "output_a": named(3)}} if pick.random() < 0.3 else {})
        for k, kind in enumerate(pick.sample(["lamp", "horn", "sound", "other"], pick.randint(0, 3)))
    ]
    throttle = document["throttle"]
    throttle["kind"] = pick.choice(["hall", "potentiometer", "switch"])
    throttle["foot_switch_wired"] = pick.choice([None, True])
    document["motor"]["has_halls"] = pick.random() < 0.8
    if pick.random() < 0.3:
        document["guard"] = {"kind": "voltmeter", "volts_v": named(20)}
    if pick.random() < 0.25:
        document["controller"], document["pedal_switch"] = {"kind": "none"}, {"kind": "switch"}
        document["motor"].update(kind="small gear motor", count=2, wiring=pick.choice(["parallel", "series"]))
    return load_setup(document)


def wired(pick: random.Random) -> Wiring:
    """The wiring of such a machine."""
    wiring = build_wiring(machine(pick))
    assert wiring is not None
    return wiring


def miswired(wiring: Wiring, pick: random.Random) -> tuple[str, Wiring, set[str]]:
    """One wire wrong: how, the wiring then, and the terminals it is about."""
    wires = list(wiring.wires)
    at = pick.randrange(len(wires))
    wire = wires[at]
    how = pick.choice(["left out", "elsewhere", "changed over", "across"])
    if wiring.has("direction") and "direction.in 1" in wiring.terminals() and pick.random() < 0.5:
        # Straight instead of crossed: forward 1 to reverse 1. Or both of one throw together.
        to = pick.choice(["reverse 1", "forward 2"])
        cross = next(k for k, one in enumerate(wires) if one.a == "direction.forward 1" and one.b == "direction.reverse 2")
        wires[cross] = replace(wires[cross], b=f"direction.{to}")
        return "crossed wrongly", wiring.with_wires(wires), {f"direction.{name}" for name in ("forward 1", "reverse 2", to)}
    if how == "left out":
        return how, wiring.with_wires(wires[:at] + wires[at + 1 :]), {wire.a, wire.b}
    if how == "elsewhere":
        function = wiring.terminal(wire.b).function
        other = [name for name in wiring.terminals() if wiring.terminal(name).function != function and name not in (wire.a, wire.b) and not name.startswith("frame")]
        end = pick.choice([name for name in other if {wiring.terminal(name).function, wiring.terminal(wire.a).function} != {"link plus", "link minus"}])
        wires[at] = replace(wire, b=end)
        return how, wiring.with_wires(wires), {wire.a, wire.b, end}
    if how == "changed over":
        polar = [
            part
            for part in wiring.parts
            if {"battery +", "battery −"} <= {one.name for one in part.terminals}
            or part.kind in ("accessory", "voltmeter")
            or (part.kind == "pack" and part.row is not None)
        ]
        part = pick.choice(polar)
        plus, minus = ("battery +", "battery −") if part.kind == "controller" else ("+", "−")
        change = {part.at(plus): part.at(minus), part.at(minus): part.at(plus)}
        turned = [replace(one, a=change.get(one.a, one.a), b=change.get(one.b, one.b)) for one in wires]
        return how, wiring.with_wires(turned), set(change)
    plus = pick.choice([name for name in wiring.terminals() if wiring.terminal(name).function == "plus"])
    bridge = Conductor("x", plus, "minus_bar.")
    return how, wiring.with_wires([*wires, bridge]), {plus, "minus_bar."}


class RuleCheck(TestCase):
    """Against what was put in, not against what the check thinks."""

    def test_machines_pass_and_one_wrong_wire_is_named(self) -> None:
        pick = random.Random(20261125)
        seen: Counter[str] = Counter()
        for _ in range(SETUPS):
            wiring = wired(pick)
            self.assertEqual(check(wiring), [])
            how, wrong, about = miswired(wiring, pick)
            faults = check(wrong)
            named_ones = {name for fault in faults for name in fault.terminals}
            parts = {name.split(".")[0] for name in about}
            self.assertTrue({name.split(".")[0] for name in named_ones} & parts, (how, about, faults))
            if how != "changed over":
                self.assertTrue(named_ones & about, (how, about, faults))
            seen[how] += 1
        self.assertGreater(min(seen.values()), SETUPS // 15, seen)
        self.assertEqual(len(seen), 5)

    def test_every_line_goes_down_from_part_to_part_and_every_wire_is_in_one(self) -> None:
        pick = random.Random(11)
        for _ in range(tried(200, 30)):
            wiring = wired(pick)
            drawn = drawing_of(wiring, {})
            sides = {port.id: (part.id, port.side) for part in drawn.parts for port in part.ports}
            for line in drawn.lines:
                (start, below), (end, side) = sides[line.start], sides[line.end]
                self.assertEqual((below, side), ("below", "below" if start == end else "above"), line)
            self.assertEqual(sum(len(line.strands) for line in drawn.lines), len(wiring.wires))
            met = {name for part in drawn.parts for port in part.ports for name in port.terminals}
            self.assertEqual(met, {end for wire in wiring.wires for end in (wire.a, wire.b)})

    def test_drafts_with_anything_missing_or_unlike_have_a_plan(self) -> None:
        """Parts left out at random, motors and controllers that do not belong together: a plan, and its wires as a list, all the same."""
        pick = random.Random(4)
        for _ in range(tried(300, 40)):
            document: dict[str, Any] = safe(pick)
            for part in [name for name in document if name not in ("version", "bank") and pick.random() < 0.15]:
                del document[part]
            if "motor" in document:
                document["motor"].update(
                    kind=pick.choice(["hub", "brushed", "small gear motor"]), count=pick.choice([1, 2]), wiring=pick.choice(["single", "parallel", "series"])
                )
            if "controller" in document and pick.random() < 0.4:
                document["controller"] = {"kind": pick.choice(["none", "brushed", "brushless"])}
            setup = load_setup(document)
            plan = build_hookup(setup)
            assert plan is not None
            self.assertEqual(plan.steps[0].id, "safe")
            self.assertGreater(len(wire_list_csv(setup).splitlines()), 2)

    def test_a_bridged_fuse_leaves_the_load_unfused(self) -> None:
        wiring = build_wiring(bike())
        assert wiring is not None
        faults = check(wiring.with_wires([*wiring.wires, Conductor("x", "main_fuse.in", "main_fuse.out")]))
        self.assertIn("unfused", {fault.kind for fault in faults})
        self.assertIn("Controller, battery + hangs on the packs without a fuse between.", [fault.sentence for fault in faults])

    def test_two_phases_on_one_and_two_signals_on_one(self) -> None:
        document = bike(motor__kind="brushless mid", controller__kind="brushless")
        wiring = build_wiring(document)
        assert wiring is not None
        for what in ("phase", "Hall"):
            moved = [replace(wire, b=f"motor0.{what} A") if wire.b == f"motor0.{what} B" else wire for wire in wiring.wires]
            kinds = {fault.kind for fault in check(wiring.with_wires(moved))}
            self.assertLessEqual({"two drivers", "open"}, kinds)
            turned = {f"motor0.{what} A": f"motor0.{what} B", f"motor0.{what} B": f"motor0.{what} A"}
            self.assertEqual(
                check(wiring.with_wires(replace(wire, b=turned.get(wire.b, wire.b)) for wire in wiring.wires)), [], "An order, not a fault: the finder's work."
            )

    def test_a_return_through_the_frame_is_missing(self) -> None:
        lamp = {"label": "lamp", "amps_a": named(1), "returns": "frame", "fuse": {"rating_a": 5, "dc_volts_v": 58}}
        wiring = build_wiring(bike(auxiliaries=[lamp]))
        assert wiring is not None
        self.assertEqual({fault.kind for fault in check(wiring)}, {"dead", "wrong function"})

    def test_motors_in_series_and_beside(self) -> None:
        for how in ("series", "parallel"):
            wiring = build_wiring(ride_on(motor__wiring=how))
            assert wiring is not None
            self.assertEqual(check(wiring), [])
            self.assertEqual(any({wire.a, wire.b} == {"motor0.−", "motor1.+"} for wire in wiring.wires), how == "series")
