"""Direction switch, lamps, learning plug, two brushless motors, accessories' switches; logic, plugs nobody uses, the way back; what a tick hangs on."""

from __future__ import annotations

import random
from typing import Any
from unittest import TestCase

from gecko.document.parts.hookup import PlugPair
from gecko.document.setup import Setup
from gecko.hookup.back import way_back
from gecko.hookup.colours import letters
from gecko.hookup.crosswalk import colours_of, crosswalk
from gecko.hookup.erc import check
from gecko.hookup.joined import Joined
from gecko.hookup.logic import acting, unused
from gecko.hookup.netlist import build_wiring
from gecko.hookup.readings import Direction, State, ohms, volts
from gecko.hookup.shape import Step
from gecko.hookup.wiring import Wiring
from gecko.plans.hookup import Hookup, build_hookup
from gecko.tests.counts import tried
from gecko.tests.machines import bike, named, ride_on
from gecko.tests.test_hookup_wiring import machine

HUBS: dict[str, Any] = {"motor__kind": "hub", "motor__count": 2, "motor__wiring": "parallel", "controller__kind": "brushless"}
ON = State(packs=frozenset({0}), row_fuses=frozenset({0}), main_fuse=True, cut_off=True, key=True, foot=True)


def plan_of(setup: Setup, baseline: Setup | None = None) -> Hookup:
    plan = build_hookup(setup, baseline)
    assert plan is not None
    return plan


def wiring_of(setup: Setup) -> Wiring:
    wiring = build_wiring(setup)
    assert wiring is not None
    return wiring


def by_id(plan: Hookup) -> dict[str, Step]:
    return {step.id: step for step in plan.steps}


class DirectionSwitch(TestCase):
    def test_reverse_changes_the_motors_volts_over_and_neutral_takes_them(self) -> None:
        """A pedal switch, a battery of 12.72 V open, two motors of 0.3392 Ω beside each other: the same volts with the other sign, but for one more short wire."""
        wiring = wiring_of(ride_on(controls={"direction": "in the motor leads"}))
        found: dict[Direction, float] = {}
        ways: tuple[Direction, ...] = ("forward", "neutral", "reverse")
        for way in ways:
            state = State(packs=frozenset({0}), row_fuses=frozenset({0}), main_fuse=True, cut_off=True, pedal=True, direction=way)
            found[way] = volts(wiring, state, "motor0.+", "motor0.−")[1]
        self.assertGreater(found["forward"], 8.0)
        self.assertAlmostEqual(found["reverse"], -found["forward"], delta=0.02)
        self.assertAlmostEqual(found["neutral"], 0.0, places=3)

    def test_through_it_the_meter_sees_the_motor_in_gear_and_nothing_in_neutral(self) -> None:
        wiring = wiring_of(bike(controls={"direction": "in the motor leads"}))
        motor = ohms(wiring, State(), "motor0.+", "motor0.−")
        assert motor is not None
        for way in ("forward", "reverse"):
            through = ohms(wiring, State(direction=way), "direction.in 1", "direction.in 2")
            # Two contacts of 6 mΩ on the way there and back, and leads.
            self.assertAlmostEqual(through or 0.0, motor + 0.012, delta=0.005)
        self.assertIsNone(ohms(wiring, State(direction="neutral"), "direction.in 1", "direction.in 2"))

    def test_at_the_controller_one_wire_goes_to_ground(self) -> None:
        """A pull-up of 4.7 kΩ to 5 V: 5 V in every other position, near nothing in its own."""
        wiring = wiring_of(bike(controls={"direction": "at the controller"}))
        ways: tuple[Direction, ...] = ("forward", "neutral", "reverse")
        for way in ways:
            state = State(ON.packs, ON.row_fuses, True, True, key=True, direction=way)
            for name in ("forward", "reverse"):
                expected = 0.0 if name == way else 5.0
                self.assertAlmostEqual(volts(wiring, state, f"controller.{name}", "controller.battery −")[1], expected, delta=0.01)

    def test_a_brushless_motor_has_none_in_its_leads(self) -> None:
        wiring = wiring_of(bike(motor__kind="hub", controller__kind="brushless", controls={"direction": "in the motor leads"}))
        self.assertFalse(wiring.has("direction"))


class Lamps(TestCase):
    def test_one_lamp_for_each_fourteen_and_a_half_volts(self) -> None:
        """Full: 13.4 V of lead, 33.6 V of eight and 42 V of ten lithium cells."""
        eight = {"label": "p", "cells_in_series": 8, "capacity_ah": named(6)}
        for setup, count in ((ride_on(), 1), (bike(bank__rows=[{"units": [eight]}]), 3), (bike(), 3)):
            tools = by_id(plan_of(setup))["limited"].tools[0]
            self.assertTrue(tools.startswith("12 V" if count == 1 else f"{count} ×"), tools)

    def test_a_short_behind_them_takes_all_the_volts(self) -> None:
        """Ten cells at 41 V into a dead short, three cold lamps of 0.7 Ω on the way: the load sees nearly nothing, not 41 V."""
        net = Joined.of(bike())
        assert net is not None
        limited = State(packs=ON.packs, row_fuses=ON.row_fuses, cut_off=True, key=True, lamps=3)
        self.assertGreater(volts(net.wiring, limited, net.load_plus, net.load_minus)[1], 40.5)
        bridge = net.wiring.wires[0].__class__("x", net.load_plus, net.load_minus)
        shorted = volts(net.wiring.with_wires([*net.wiring.wires, bridge]), limited, net.load_plus, net.load_minus)[1]
        self.assertLess(shorted, 2.0)


class ThreeSpeeds(TestCase):
    def test_one_wire_to_ground_none_or_the_other(self) -> None:
        """Pull-ups to 5 V: by hand near 0 V on the wire that is joined, 5 V on the other; two modes have one wire."""
        modes = [{"name": name} for name in "123"]
        wiring = wiring_of(bike(controller__modes=modes, controls={"speed_switch": True}))
        self.assertEqual(check(wiring), [])
        for speed, (first, second) in enumerate(((5.0, 5.0), (0.0, 5.0), (5.0, 0.0))):
            state = State(ON.packs, ON.row_fuses, True, True, key=True, speed=speed)
            for name, expected in (("speed", first), ("speed 2", second)):
                self.assertAlmostEqual(volts(wiring, state, f"controller.{name}", "controller.battery −")[1], expected, delta=0.01)
        self.assertNotIn("speed_switch.3", wiring_of(bike(controller__modes=modes[:2], controls={"speed_switch": True})).terminals())

    def test_its_third_colour_is_paired_as_well(self) -> None:
        wires = [{"colour": "brown", "function": name} for name in ("signal", "ground", "second signal")]
        setup = bike(controller__modes=[{"name": name} for name in "123"], controls={"speed_switch": True})
        pair = {"place": "speed switch", "controller": wires, "part": wires}
        found = colours_of(setup.model_copy(update={"plug_pairs": [PlugPair.model_validate(pair)]}))
        self.assertLessEqual(set(found), set(wiring_of(setup).terminals()))
        self.assertEqual(len(found), 6)
        self.assertEqual(len(crosswalk(PlugPair.model_validate(pair)).joins), 3)


class LearningAndAccessories(TestCase):
    def test_the_learning_plug_is_apart_until_it_is_joined(self) -> None:
        wiring = wiring_of(bike(**{**HUBS, "motor__count": 1, "motor__wiring": "single"}, controls={"learning_plug": True}))
        self.assertIsNone(ohms(wiring, State(), "learning_plug.1", "learning_plug.2"))
        self.assertAlmostEqual(volts(wiring, ON, "learning_plug.1", "learning_plug.2")[1], 5.0, delta=0.05)
        joined = State(ON.packs, ON.row_fuses, True, True, key=True, learning=True)
        self.assertAlmostEqual(volts(wiring, joined, "learning_plug.1", "learning_plug.2")[1], 0.0, delta=0.01)

    def test_a_horn_sounds_through_its_button(self) -> None:
        """4 A at 41 V are 10.25 Ω; the button open, nothing."""
        horn = {"label": "Horn", "kind": "horn", "switch": "push button", "amps_a": named(4), "fuse": {"rating_a": 5, "dc_volts_v": 58}}
        setup = bike(auxiliaries=[horn])
        wiring = wiring_of(setup)
        self.assertEqual(check(wiring), [])
        self.assertIsNone(ohms(wiring, State(), "aux_fuse0.out", "accessory0.−"))
        self.assertAlmostEqual(ohms(wiring, State(accessories=True), "aux_fuse0.out", "accessory0.−") or 0.0, 10.25, delta=0.05)
        step = by_id(plan_of(setup))["aux0"]
        self.assertIn("button", step.what)
        assert step.reading is not None
        self.assertAlmostEqual(step.reading.low or 0.0, 0.3 * 10.25, delta=0.1)

    def test_a_converter_gives_its_volts_before_anything_hangs_on_it(self) -> None:
        lamps = {"label": "Lamps", "kind": "lamp", "amps_a": named(1.5), "fuse": {"rating_a": 5, "dc_volts_v": 58}}
        lamps["converter"] = {"input_min_v": named(15), "input_max_v": named(60), "output_v": named(12), "output_a": named(5)}
        reading = by_id(plan_of(bike(auxiliaries=[lamps])))["converter0"].reading
        assert reading is not None
        self.assertAlmostEqual(reading.expected or 0.0, 12.0, delta=0.1)
        self.assertLess(reading.low or 0.0, 11.5)


class TwoHubs(TestCase):
    def test_each_has_its_own_phases_halls_and_finder(self) -> None:
        trial = {"phases": "ABC", "halls": "ABC", "outcome": "smooth forward", "side": "right"}
        setup = bike(**HUBS, order_trials=[trial])
        wiring = wiring_of(setup)
        self.assertEqual(check(wiring), [])
        for side, part in (("left", "motor0"), ("right", "motor1")):
            for name in ("phase A", "Hall C", "Hall 5 V"):
                self.assertTrue(any((wire.a, wire.b) == (f"controller.{side} {name}", f"{part}.{name}") for wire in wiring.wires))
        found = {one.side: one.next.found for one in plan_of(setup).matching}
        self.assertEqual(found, {"left": False, "right": True})
        self.assertIn("motor1", by_id(plan_of(setup)))

    def test_each_ones_colours_stand_at_its_own_step(self) -> None:
        def pair(side: str, colour: str) -> dict[str, Any]:
            wires = [{"colour": colour, "function": "phase A"}]
            return {"place": "phases", "side": side, "controller": wires, "part": wires}

        steps = by_id(plan_of(bike(**HUBS, plug_pairs=[pair("left", "yellow"), pair("right", "brown")])))
        self.assertIn("Yellow to yellow", steps["motor"].what)
        self.assertIn("Brown to brown", steps["motor1"].what)
        self.assertNotIn("Yellow", steps["motor1"].what)


class Steps(TestCase):
    def test_what_is_said_to_be_open_is_open(self) -> None:
        """Every step that asks for OL, against the nodes: nothing joins its two terminals with every switch at rest."""
        pick = random.Random(8)
        rest = State(direction="neutral")
        asked = 0
        machines = tried(60, 12)
        for _ in range(machines):
            setup = machine(pick)
            net = Joined.of(setup)
            assert net is not None
            for step in plan_of(setup).steps:
                if step.reading is not None and step.reading.kind == "open":
                    self.assertIsNone(net.resistance(rest, step.reading.red, step.reading.black), step.id)
                    asked += 1
        self.assertGreater(asked, 2.5 * machines)

    def test_every_plan_keeps_the_safe_order(self) -> None:
        pick = random.Random(9)
        controls = {"throttle", "brake", "key", "foot_switch", "speed_switch", "display", "learning_plug"}
        for _ in range(tried(100, 20)):
            setup = machine(pick)
            ids = [step.id for step in plan_of(setup).steps]
            self.assertEqual(len(set(ids)), len(ids))
            at = {name: i for i, name in enumerate(ids)}
            for name in controls & set(ids):
                self.assertLess(at["dry_fit"], at[name])
                self.assertLess(at[name], at["motor"])
            for earlier, later in (("motor", "plus"), ("plus", "whole"), ("whole", "pack0"), ("dead", "limited"), ("limited", "main_fuse"), ("main_fuse", "first_power")):
                self.assertLess(at[earlier], at[later])
            for name in ids:
                if name.startswith("aux"):
                    self.assertLess(at[name], at["whole"])
                if name.startswith(("converter", "throttle_live")):
                    self.assertLess(at["limited"], at[name])

    def test_a_joint_is_spoken_of_as_the_lead_is_joined(self) -> None:
        for joint, word, tool in (("crimped", "right die", "crimp tool"), ("soldered", "Soldered", "soldering iron"), ("twist cap", "shakes loose", "crimp tool")):
            step = by_id(plan_of(bike(main_lead__joint=joint)))["minus"]
            self.assertIn(word, step.joint)
            self.assertTrue(any(tool in one for one in step.tools), step.tools)
        self.assertTrue(any("hexagon" in one for one in by_id(plan_of(bike(main_lead__awg=6)))["minus"].tools))

    def test_a_mark_changes_with_what_the_step_joins_and_with_nothing_else(self) -> None:
        """A thicker main lead: its own steps, not the throttle's. Another rider: none."""
        marks = {step.id: step.mark for step in plan_of(bike()).steps}
        thicker = {step.id: step.mark for step in plan_of(bike(main_lead__awg=6)).steps}
        self.assertEqual({name for name in marks if marks[name] != thicker[name]} & {"throttle", "brake", "holder", "pack0"}, set())
        self.assertLessEqual({"minus", "plus"}, {name for name in marks if marks[name] != thicker[name]})
        self.assertEqual(marks, {step.id: step.mark for step in plan_of(bike(rider__mass_kg=named(60))).steps})

    def test_packs_in_series_are_linked_before_the_row_is_measured(self) -> None:
        """Two 5-cell packs: the first alone at 20.5 V, the row at 41."""
        half = {"label": "p", "cells_in_series": 5, "capacity_ah": named(6)}
        steps = by_id(plan_of(bike(bank__rows=[{"units": [half, half]}])))
        ids = list(steps)
        self.assertEqual(ids[ids.index("link0") + 1], "pack0")
        for name, expected in (("link0", 20.5), ("pack0", 41.0)):
            reading = steps[name].reading
            assert reading is not None
            self.assertAlmostEqual(reading.expected or 0.0, expected, places=2)
        self.assertNotIn("link0", by_id(plan_of(bike())))

    def test_the_spark_is_spared_at_the_contact_that_makes_it(self) -> None:
        """42 V into empty capacitors: at the cut-off, or, where there is none, when the fuse goes in, and not after that."""
        bare = {"controller__precharge": False}
        with_it, without = by_id(plan_of(bike(**bare))), by_id(plan_of(bike(**bare, cut_off=None)))
        self.assertIn("across the open cut-off", with_it["first_power"].what)
        self.assertNotIn("100 Ω", with_it["main_fuse"].what)
        self.assertIn("across the open holder", without["main_fuse"].what)
        self.assertNotIn("100 Ω", without["first_power"].what)
        for name in ("limited", "main_fuse", "first_power"):
            self.assertNotIn("ut-off", without[name].what.split("short")[0], name)

    def test_another_cover_in_the_place_of_one_is_another_step(self) -> None:
        one, other = (by_id(plan_of(bike(openings=[{"label": label}])))["open0"].mark for label in ("Seat pan", "Lid"))
        self.assertNotEqual(one, other)

    def test_old_leads_come_off_one_at_a_time_where_there_are_old_ones(self) -> None:
        self.assertIn("one at a time", by_id(plan_of(bike(), ride_on()))["old"].title)
        self.assertNotIn("old", by_id(plan_of(bike(), bike())))
        self.assertNotIn("old", by_id(plan_of(bike())))


class Logic(TestCase):
    def test_brushed_and_brushless_are_told_apart(self) -> None:
        brushed = {one.control: one.does for one in acting(bike())}
        hub = {one.control: one.does for one in acting(bike(**HUBS))}
        self.assertIn("two motor leads", brushed["Direction of the motor"])
        self.assertIn("two Halls", hub["Direction of the motor"])
        self.assertEqual([one.control for one in acting(ride_on())], ["Pedal switch"])

    def test_every_control_of_a_setup_is_spoken_of(self) -> None:
        whole = {"key": True, "reverse": True, "speed_switch": True, "indicator": True}
        said = [one.control for one in acting(bike(controls=whole, throttle__foot_switch_wired=True))]
        self.assertLessEqual({"Throttle", "Brake lever", "Key", "Foot switch", "Speed switch", "Display", "Reverse switch"}, set(said))
        for where in ("at the controller", "in the motor leads"):
            said = [one.control for one in acting(bike(controls={"direction": where, "reverse": True}))]
            self.assertIn("Forward, neutral, reverse", said)
            self.assertNotIn("Reverse switch", said)

    def test_plugs_nobody_uses_are_insulated_joined_or_left(self) -> None:
        harness = ["key", "cruise hold", "learning", "display", "speed limit"]
        found = {one.plug: one.do for one in unused(bike(controls={"harness": harness, "indicator": True}))}
        self.assertEqual(found, {"key": "join", "cruise hold": "insulate", "learning": "leave", "speed limit": "leave"})
        self.assertEqual(unused(bike(controls={"harness": harness, "key": True, "indicator": True}))[0].plug, "cruise hold")
        self.assertEqual(unused(ride_on(controls={"harness": harness})), [])
        self.assertIn("Halls", [one.plug for one in unused(bike(**{**HUBS, "motor__has_halls": False}))])


class Faults(TestCase):
    def test_the_plan_says_what_is_wrong_or_open(self) -> None:
        self.assertEqual(plan_of(bike()).faults, [])
        lamp = {"label": "lamp", "amps_a": named(1), "returns": "frame", "fuse": {"rating_a": 5, "dc_volts_v": 58}}
        self.assertEqual({fault.kind for fault in plan_of(bike(auxiliaries=[lamp])).faults}, {"dead", "wrong function"})
        self.assertEqual({fault.kind for fault in plan_of(bike(motor=None)).faults}, {"open"})

    def test_what_charges_through_no_fuse_is_told(self) -> None:
        """A socket on the bar of a row without a fuse of its own: the main fuse sits behind it."""
        row = {"units": [{"label": "p", "cells_in_series": 10, "capacity_ah": named(6)}]}
        bare = plan_of(bike(bank__rows=[row], controls={"charge_socket": True})).faults
        self.assertEqual([fault.sentence for fault in bare if fault.kind == "unfused"], ["Charge socket, + hangs on the packs without a fuse between."])
        fused = {**row, "fuse": {"rating_a": 20, "dc_volts_v": 58}}
        self.assertEqual(plan_of(bike(bank__rows=[fused], controls={"charge_socket": True})).faults, [])


class WayBack(TestCase):
    def test_only_what_differs_packs_first_off_and_last_on(self) -> None:
        found = way_back(bike(), ride_on())
        ids = [step.id for step in found.steps]
        self.assertEqual((ids[0], ids[-1]), ("back.safe", "back.packs"))
        self.assertLessEqual({"back.path", "back.controller", "back.motor"}, set(ids))
        # Six lead cells, 11.58 V nearly empty to 13.2 V full, the meter's 1 % and 50 mV included.
        self.assertIn("should read 11.4 to 13.4 V", found.steps[-1].what)
        self.assertEqual(way_back(bike(), bike()).steps, [])

    def test_what_cannot_be_undone_is_said(self) -> None:
        changed = bike(
            openings=[{"label": "Stem", "kind": "cable entry"}, {"label": "Lid", "kind": "seal"}],
            plug_pairs=[{"place": "throttle", "joined": "remade"}, {"place": "brake", "joined": "moved pins"}],
            controller__firmware={"changed": True, "way_back": False},
            vehicle__fail_safe_brake="removed",
        )
        found = way_back(changed, bike(vehicle__fail_safe_brake="held by power"))
        text = " ".join(found.stays)
        for words in ("Stem: the hole stays", "Lid: a gasket", "Throttle: the joint", "Controller settings", "only a new one"):
            self.assertIn(words, text)
        self.assertLessEqual({"back.plugs", "back.brake"}, {step.id for step in found.steps})
        kept = way_back(bike(controller__firmware={"changed": True, "way_back": True}), bike())
        self.assertIn("back.firmware", {step.id for step in kept.steps})


class Letters(TestCase):
    def test_two_letters_a_colour_and_no_guess(self) -> None:
        for words, found in (("Violet", ("VT",)), ("green and yellow", ("GN", "YE")), ("dark blue/white", ("BU", "WH")), ("striped", ()), ("", ())):
            self.assertEqual(letters(words), found)
