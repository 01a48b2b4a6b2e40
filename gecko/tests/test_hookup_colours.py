"""Colours paired by function: what is joined, what is to be found and how, what is left over; out and in as a table."""

from __future__ import annotations

import random
import re
from typing import Any
from unittest import TestCase

from gecko.common.errors import GeckoError
from gecko.document.parts.hookup import PlugPair
from gecko.hookup.crosswalk import FUNCTIONS, Crosswalk, colours_of, crosswalk, crosswalk_csv, read_crosswalk
from gecko.hookup.netlist import build_wiring
from gecko.tests.machines import bike


def half(**colours: str | None) -> list[dict[str, str]]:
    """Wires by colour, each with what it is for; underscores are blanks."""
    return [{"colour": colour.replace("_", " "), "function": function or ""} for colour, function in colours.items()]


def found(controller: list[dict[str, str]], part: list[dict[str, str]], **more: Any) -> Crosswalk:
    return crosswalk(PlugPair.model_validate({"place": "throttle", "controller": controller, "part": part, **more}))


class Colours(TestCase):
    def test_paired_by_what_they_are_for_not_by_colour(self) -> None:
        """Red is 5 V on one half and ground on the other: by colour it would feed the sensor backward."""
        seen = found(half(red="5 V", black="ground", white="signal"), half(black="5 V", red="ground", green="signal"))
        self.assertEqual([join.sentence for join in seen.joins], ["red to black", "black to red", "white to green"])
        self.assertEqual((seen.to_find, seen.left_over, seen.doubts, seen.halves), ([], [], [], ""))

    def test_what_is_not_known_is_found_with_the_meter(self) -> None:
        seen = found(half(violet="5 V", orange="ground", white=None), half(grey=None, pink=None, green=None))
        self.assertEqual(seen.joins, [])
        self.assertEqual([(one.function, one.half) for one in seen.to_find], [("5 V", "part"), ("ground", "part"), ("signal", "controller"), ("signal", "part")])
        self.assertIn("Only white is left", seen.to_find[2].how)
        self.assertEqual(seen.to_find[3].among, ["grey", "pink", "green"])
        self.assertIn("move with throttle", seen.to_find[3].how)

    def test_wires_nobody_uses(self) -> None:
        three = {"violet": "5 V", "orange": "ground", "white": "signal"}
        seen = found(half(**three, blue="cruise", brown="learning", yellow=None), half(**three))
        self.assertEqual(
            {one.colour: re.split(r"[.:]", one.what)[0] for one in seen.left_over}, {"blue": "Insulate it", "brown": "Leave it", "yellow": "Nothing needs it"}
        )

    def test_two_wires_cannot_be_for_one_thing(self) -> None:
        seen = found(half(violet="5 V", red="5 V"), half(grey="5 V"))
        self.assertEqual(seen.doubts, ["Violet and red of the controller's half are both said to be 5 V: only one is."])

    def test_halves_that_do_not_mate_and_taped_joints(self) -> None:
        wires = half(violet="5 V")
        self.assertIn("release tab", found(wires, wires, mates=False).halves)
        self.assertEqual(found(wires, wires, mates=False, joined="moved pins").halves, "")
        self.assertIn("heat-shrink", found(wires, wires, taped=True).halves)
        self.assertEqual(found(wires, wires, taped=True, joined="remade").halves, "")
        for unlike, words in (
            ({"family": "3-pole", "part_family": "4-pole"}, "(3-pole against 4-pole)"),
            ({"generation": "old", "part_generation": "new", "family": "3-pole", "part_family": "3-POLE"}, "(old against new)"),
            ({"gender": "pins", "part_gender": "pins"}, "(pins on both)"),
        ):
            self.assertIn(words, found(wires, wires, **unlike).halves)
        self.assertEqual(found(wires, wires, gender="pins", part_gender="sockets", family="3-pole").halves, "")

    def test_any_shuffle_of_known_wires_pairs_alike(self) -> None:
        pick = random.Random(3)
        for place, functions in FUNCTIONS.items():
            sides: list[list[dict[str, str]]] = [[{"colour": f"{side}{k}", "function": function} for k, function in enumerate(functions)] for side in "cp"]
            for side in sides:
                pick.shuffle(side)
            seen = crosswalk(PlugPair.model_validate({"place": place, "controller": sides[0], "part": sides[1]}))
            self.assertEqual([(join.controller_colour[1:], join.part_colour[1:]) for join in seen.joins], [(str(k), str(k)) for k in range(len(functions))])

    def test_out_and_in_as_a_table(self) -> None:
        pairs = [
            PlugPair.model_validate({"place": "throttle", "controller": half(red_white="5 V", black="ground"), "part": half(grey="5 V")}),
            PlugPair.model_validate({"place": "Halls", "controller": half(blue="Hall A"), "part": half(blue="Hall B")}),
        ]
        more = {"mates": False, "joined": "moved pins", "taped": True, "family": "5-pole", "part_family": "6-pole", "part_gender": "pins", "label": "hub"}
        pairs += [PlugPair.model_validate({"place": "Halls", "side": "right", "controller": half(green="Hall A"), "part": half(grey="Hall A"), **more})]
        text = crosswalk_csv(pairs)
        head = "place,half,colour,function,family,generation,gender,label,side,mates,joined,taped"
        self.assertEqual(text.splitlines()[:2], [head, "throttle,controller,red white,5 V,,,,,left,,as they are,no"])
        self.assertEqual(read_crosswalk("\ufeff" + text), pairs)
        short = "place,half,colour,function\nkey,part,red,battery plus\n"
        self.assertEqual(read_crosswalk(short), [PlugPair.model_validate({"place": "key", "part": half(red="battery plus")})])

    def test_what_is_no_such_table_is_said(self) -> None:
        head = "place,half,colour,function\n"
        for text, word in (
            ("", "first line"),
            ("a,b\n1,2\n", "first line"),
            (head + "thruster,part,red,5 V\n", "Line 2"),
            (head + "throttle,part,red,5 V\n" * 13, "at most 12"),
            ("place,half,colour,function,mates\nkey,part,red,,perhaps\n", "Line 2: mates"),
        ):
            with self.assertRaisesRegex(GeckoError, word):
                read_crosswalk(text)

    def test_colours_lie_at_terminals_the_wiring_has(self) -> None:
        """Every function of every plug, on a machine that has them all: each colour at a terminal of its own."""
        whole: dict[str, Any] = {"key": True, "reverse": True, "speed_switch": True, "indicator": True, "learning_plug": True}
        hub: dict[str, Any] = {"motor__kind": "hub", "controller__kind": "brushless"}
        machines = (
            {**hub, "controls": whole, "throttle__foot_switch_wired": True},
            {"controls": {"direction": "at the controller"}},
            {**hub, "motor__count": 2, "motor__wiring": "parallel"},
        )
        known = set()
        for machine in machines:
            wiring = build_wiring(bike(**machine))
            assert wiring is not None
            known |= set(wiring.terminals())
        for place, functions in FUNCTIONS.items():
            wires = [{"colour": f"c{k}", "function": function} for k, function in enumerate(functions)]
            pair = {"place": place, "controller": wires, "part": wires}
            seen = colours_of(bike(**machines[0], plug_pairs=[pair]))
            if place in ("phases", "Halls"):
                right = colours_of(bike(**machines[2], plug_pairs=[{**pair, "side": "right"}]))
                self.assertTrue(all(name.startswith(("controller.right ", "motor1.")) for name in right), right)
                self.assertLessEqual(set(right), known)
            if place != "other":
                self.assertEqual(len(seen), 2 * len(functions), place)
            self.assertLessEqual(set(seen), known, place)
