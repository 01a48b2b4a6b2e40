"""The doors to the hookup: the plan with terminals and the order to try, the meter anywhere, the wires as a list."""

from __future__ import annotations

import csv
import io

from gecko.tests.machines import safe_bike
from server.testing import HouseholdCase

HUB = {"motor__kind": "hub", "controller__kind": "brushless"}


class HookupDoors(HouseholdCase):
    def test_plan_names_terminals_and_the_order_to_try(self) -> None:
        plan = self.home.ok("POST", "/api/hookup", {"setup": safe_bike(**HUB)})["plan"]
        self.assertIn({"id": "motor0.Hall A", "part": "Motor", "name": "Hall A", "function": "Hall signal"}, plan["terminals"])
        self.assertEqual(tuple(plan["matching"]["next"][key] for key in ("phases", "halls", "left")), ("ABC", "ABC", 6))
        self.assertAlmostEqual(plan["matching"]["stop_a"], 3 * plan["matching"]["smooth_a"])
        tried = self.home.ok("POST", "/api/hookup", {"setup": safe_bike(**HUB, order_trials=[{"outcome": "jerks"}])})["plan"]["matching"]["next"]
        self.assertEqual((tried["tries"], tried["left"]), (1, 5))
        self.assertIsNone(self.home.ok("POST", "/api/hookup", {"setup": safe_bike()})["plan"]["matching"])

    def test_meter_between_any_two_terminals(self) -> None:
        ask = {"setup": safe_bike(), "red": "controller.battery +", "black": "controller.battery −"}
        on = self.home.ok("POST", "/api/hookup/meter", {**ask, "situation": {"packs": True, "main_fuse": True, "cut_off": True}})
        self.assertEqual((on["kind"], on["red_on"]), ("volts", "Controller, battery +"))
        self.assertAlmostEqual(on["expected"], 41.0, delta=0.1)
        off = self.home.ok("POST", "/api/hookup/meter", {**ask, "situation": {"packs": True}})
        self.assertAlmostEqual(off["expected"], 0.0, delta=0.05)
        self.assertEqual(self.home.ok("POST", "/api/hookup/meter", {**ask, "situation": {}})["kind"], "unknown")
        across = self.home.ok("POST", "/api/hookup/meter", {**ask, "red": "cut_off.in", "black": "cut_off.out", "situation": {"cut_off": True}})
        self.assertEqual((across["kind"], across["beeps"]), ("ohms", True))
        self.assertEqual(self.home.ok("POST", "/api/hookup/meter", {**ask, "red": "cut_off.in", "black": "cut_off.out"})["kind"], "open")
        for wrong in ({"red": "nothing.there"}, {"situation": {"throttle": 2}}, {"setup": {}}):
            answer = self.home.send("POST", "/api/hookup/meter", {**ask, **wrong})
            self.assertEqual(answer.status_code, 422, wrong)
            self.assertTrue(answer.json()["message"])

    def test_wires_as_a_list(self) -> None:
        answer = self.home.send("POST", "/api/hookup/wires", {"setup": safe_bike()})
        self.assertEqual(answer["content-type"].split(";")[0], "text/csv")
        lines = list(csv.DictReader(io.StringIO(answer.content.decode())))
        self.assertEqual(list(lines[0]), ["wire", "from", "to", "function", "colour_from", "colour_to", "gauge", "length_m", "joint"])
        main = next(line for line in lines if line["to"] == "Controller, battery +")
        self.assertEqual((main["from"], main["function"], main["gauge"], main["length_m"]), ("Low-volt guard, out", "plus", "10 AWG", "0.6"))
        pair = {"place": "throttle", "controller": [{"colour": "violet", "function": "5 V"}], "part": [{"colour": "grey", "function": "5 V"}]}
        coloured = self.home.send("POST", "/api/hookup/wires", {"setup": safe_bike(plug_pairs=[pair])}).content.decode()
        wire = next(line for line in csv.DictReader(io.StringIO(coloured)) if line["to"] == "Throttle, 5 V")
        self.assertEqual((wire["colour_from"], wire["colour_to"]), ("violet", "grey"))
        self.assertEqual((main["colour_from"], main["colour_to"]), ("red", "red"))

    def test_colours_out_and_in(self) -> None:
        pair = {"place": "key", "controller": [{"colour": "red", "function": "battery plus"}], "part": [{"colour": "blue", "function": "battery plus"}]}
        text = self.home.send("POST", "/api/hookup/colours", {"setup": safe_bike(plug_pairs=[pair])}).content.decode()
        back = self.home.ok("POST", "/api/hookup/colours/read", {"text": text})
        self.assertEqual([wire["colour"] for wire in (*back[0]["controller"], *back[0]["part"])], ["red", "blue"])
        self.assertEqual(self.home.send("POST", "/api/hookup/colours/read", {"text": "x"}).status_code, 422)
        self.assertIn("ground", self.home.ok("GET", "/api/hookup/functions")["throttle"])
