"""The doors to the core, and bad input everywhere."""

from __future__ import annotations

from typing import Any
from unittest.mock import patch

from django.core.cache import cache
from django.core.management import call_command

from gecko.tests.machines import named, safe_bike
from server.compute.client import answer_to
from server.testing import HouseholdCase


class Engine(HouseholdCase):
    def setUp(self) -> None:
        super().setUp()
        cache.clear()

    def evaluate(self, setup: Any, **more: Any) -> Any:
        return self.home.send("POST", "/api/evaluate", {"setup": setup, **more})

    def test_evaluate_ranges_fixes_hookup_charging(self) -> None:
        draft = {"setup": safe_bike(main_fuse__dc_volts_v=32)}
        found = self.home.ok("POST", "/api/evaluate", draft)
        self.assertIn("fuse.volts@main", {f["key"] for f in found["findings"]})
        self.assertLess(self.home.ok("POST", "/api/ranges", draft)["outcomes"]["top_speed_m_s"]["low"], found["outcome"]["top_speed_m_s"])
        fix = next(f for f in self.home.ok("POST", "/api/fixes", draft) if f["key"] == "fuse.volts@main")["fixes"][0]
        self.assertTrue(fix["patch"])
        self.assertEqual(self.home.ok("POST", "/api/hookup", draft)["plan"]["steps"][-1]["id"], "first_power")
        self.assertEqual([plan["fits"] for plan in self.home.ok("POST", "/api/charging", draft)], [True])

    def test_the_parts_of_a_setup_beside_what_is_on_machine_and_rack(self) -> None:
        build = self.home.build("As found", "Changed")
        found, changed = (setup["id"] for setup in build["setups"])
        control = safe_bike()["controller"]
        weak = {**control, "battery_limit_a": named(1)}
        self.home.ok("POST", f"/api/garages/{self.home.garage.pk}/rack", {"kind": "controllers", "document": weak})

        def controller(setup: int) -> Any:
            return next(need for need in self.home.ok("GET", f"/api/setups/{setup}/parts")["needs"] if need["kind"] == "controller")

        self.assertEqual([controller(found)[name] for name in ("on_machine", "on_rack", "to_buy")], [0, 0, 1])
        self.assertEqual([controller(changed)[name] for name in ("on_machine", "to_buy")], [1, 0])
        self.home.ok("POST", f"/api/garages/{self.home.garage.pk}/rack", {"kind": "controllers", "document": control})
        self.assertEqual([controller(found)[name] for name in ("on_rack", "to_buy")], [1, 0])

    def test_the_plans_of_packs_and_wiring(self) -> None:
        pack = safe_bike()["bank"]["rows"][0]["units"][0]
        rows = [{"units": [{**pack, "charge": named(s)}], "fuse": {"rating_a": 30, "dc_volts_v": 58}, "lead": {"awg": 10, "length_m": named(0.2)}} for s in (1.0, 0.6)]
        draft = {"setup": safe_bike(bank={"rows": rows})}
        power = self.home.ok("POST", "/api/power", draft)
        self.assertEqual([e["start"] for e in power["emptying"]], ["full", "as they rest"])
        self.assertGreater(power["joining"][0]["first_a"], 0)
        protect = self.home.ok("POST", "/api/protect", {**draft, "run": "row0"})
        self.assertEqual([r["id"] for r in protect["runs"]], ["row0", "main", "motor"])
        self.assertEqual(protect["choice"]["run"], "row0")
        main = self.home.ok("POST", "/api/protect", draft)["choice"]
        self.assertEqual((main["run"], main["sizes"][4]["awg"]), ("main", 10))

    def test_measuring_a_pack(self) -> None:
        """18.8 V at 12 A after 20.0 V at rest: 100 mΩ. Readings that cannot be are told what to do, in the one shape of errors."""
        asked: dict[str, Any] = {"pack": {"cells_in_series": 5, "capacity_ah": named(4)}, "what": "resistance", "amps_a": 12, "rest_v": 20.0, "load_v": 18.8}
        self.assertAlmostEqual(self.home.ok("POST", "/api/measure", asked)["value"], 0.1)
        discharge = {**asked, "what": "capacity", "amps_a": 2, "seconds_s": 3600, "end_charge": 0.5}
        self.assertAlmostEqual(self.home.ok("POST", "/api/measure", discharge)["value"], 4.0)
        for wrong, words in (({"load_v": 20.5}, "swapped"), ({"load_v": None}, "both readings"), ({"amps_a": 0}, "more than zero")):
            answer = self.home.send("POST", "/api/measure", {**asked, **wrong})
            self.assertEqual(answer.status_code, 422)
            self.assertIn(words, answer.json()["message"])

    def test_the_same_content_is_computed_once(self) -> None:
        with patch("server.answers.kept.answer_to", wraps=answer_to) as spy:
            for _ in range(3):
                self.evaluate(safe_bike())
            self.evaluate(safe_bike(main_fuse__rating_a=25))
        self.assertEqual(spy.call_count, 2)

    def test_a_build_brings_its_baseline_and_house_rules(self) -> None:
        build = self.home.build()
        found = self.evaluate(safe_bike(), build_id=build["id"]).json()
        self.assertAlmostEqual(found["baseline"]["top_speed_m_s"], found["outcome"]["top_speed_m_s"], places=6)
        self.home.ok("PATCH", f"/api/garages/{self.home.garage.pk}", {"house_rules": {"wire_school": "common"}})
        table = self.home.ok("POST", "/api/protect", {"setup": safe_bike(), "build_id": build["id"], "run": "main"})["choice"]
        self.assertEqual(table["school"], "common")

    def test_bad_input_is_a_clear_sentence_never_a_crash(self) -> None:
        bad: list[tuple[Any, str]] = [
            (safe_bike(main_fuse__rating_a=-1), "/main_fuse/rating_a"),
            (safe_bike(main_fuse__rating_a=0), "/main_fuse/rating_a"),
            (safe_bike(main_lead__length_m=named(1e12)), "/main_lead/length_m"),
            (safe_bike(wheel__diameter_m=""), "/wheel/diameter_m"),
            (safe_bike(bank__rows__0__units__0__cells_in_series=200), "/bank/rows/0/units/0/cells_in_series"),
            (safe_bike(bank={"rows": []}), "/bank/rows"),
            (safe_bike(bank={"rows": [{"units": [{"cells_in_series": 30, "capacity_ah": 5}]}]}), "/bank"),
            (safe_bike(version=3), "/version"),
            (safe_bike(motor={"kind": "warp drive"}), "/motor/kind"),
        ]
        for setup, field in bad:
            with self.subTest(field):
                answer = self.evaluate(setup)
                self.assertEqual(answer.status_code, 422)
                self.assertTrue(answer.json()["field"].startswith(field), answer.json())
                self.assertGreater(len(answer.json()["message"]), 10)
        for setup in ("text", 5, None, ["x"]):
            self.assertEqual(self.evaluate(setup).status_code, 422)
        comma = self.evaluate(safe_bike(wheel__diameter_m={"value": "0,31", "basis": "measured"}))
        self.assertEqual(comma.status_code, 200)
        self.assertIn("/motor", {g["path"] for g in self.evaluate(safe_bike(motor=None)).json()["gaps"]})

    def test_offers_for_the_packs_on_the_shelf(self) -> None:
        parts = self.home.ok("GET", "/api/parts")
        pack = next(p["part"] for p in parts["packs"] if p["id"] == "pack-5s-5")
        baseline = self.home.ok("GET", "/api/typical/ride-on%20car")
        found = self.home.ok("POST", "/api/offers", {"baseline": baseline, "shelf": [{"pack": pack, "count": 2}]})
        self.assertEqual([o["name"] for o in found["offers"]], ["One pack", "Two packs side by side"])
        self.assertEqual(self.home.send("GET", "/api/typical/spaceship").status_code, 404)

    def test_a_stock_machine_at_other_volts(self) -> None:
        """Battery, motor and fuse are made for them: a 36 V bike has three lead blocks, 43.2 V full, and a 58 V fuse; the controller's limits
        nobody read follow the plate: 1.6·500/24 = 33.3 A behind 40 A."""
        strong = self.home.ok("GET", "/api/typical/small%20dirt%20bike?volts=24&watts=500")
        self.assertEqual((strong["motor"]["power_w"]["value"], strong["controller"]["battery_limit_a"], strong["main_fuse"]["rating_a"]), (500, None, 40))
        found = self.home.ok("GET", "/api/typical/small%20dirt%20bike?volts=36")
        self.assertEqual([u["cells_in_series"] for u in found["bank"]["rows"][0]["units"]], [6, 6, 6])
        for part, name in (("motor", "volts_v"), ("stock", "volts_v")):
            self.assertEqual(found[part][name], {"value": 36.0, "basis": "assumed", "spread": None})
        self.assertEqual(found["main_fuse"]["dc_volts_v"], 58.0)
        filled = {gap["path"]: gap["message"] for gap in self.evaluate(found).json()["gaps"]}
        self.assertIn("30.6 V assumed", filled["/controller/undervoltage_v"])
        evaluation = self.home.ok("POST", "/api/evaluate", {"setup": found, "is_baseline": True})
        self.assertEqual([f["key"] for f in evaluation["findings"] if f["gate"] == "plan"], [])
        for volts in ("0", "nan", "500", "many"):
            self.assertEqual(self.home.send("GET", f"/api/typical/quad?volts={volts}").status_code, 422, volts)

    def test_judging_a_reading(self) -> None:
        plan = self.home.ok("POST", "/api/hookup", {"setup": safe_bike()})["plan"]
        reading = next(s for s in plan["steps"] if s["id"] == "pack0")["reading"]
        self.assertEqual(self.home.ok("POST", "/api/judge", {"reading": reading, "measured": -40})["headline"], "Reversed.")

    def test_the_committed_api_document_is_fresh(self) -> None:
        call_command("openapi", check=True)

    def test_help_texts_come_from_the_schema(self) -> None:
        self.assertIn("properties", self.home.ok("GET", "/api/setup-schema"))
