"""A stop stops: no door of the server leads to first power or a ride past one that stands open."""

from __future__ import annotations

from typing import Any

from gecko.tests.machines import named, safe_bike
from server.builds.models import Incident, Overrule
from server.testing import HouseholdCase, as_it_should_be


class GateCase(HouseholdCase):
    def setUp(self) -> None:
        super().setUp()
        self.build = self.home.build()
        self.base_id, self.setup_id = (setup["id"] for setup in self.build["setups"])
        self.version = 1

    def save(self, **changes: Any) -> Any:
        body = {"document": safe_bike(**changes), "based_on": self.version}
        saved = self.home.ok("PUT", f"/api/setups/{self.setup_id}", body)
        self.version = saved["version"]
        return saved

    def standing(self, setup_id: int | None = None) -> Any:
        return self.home.ok("GET", f"/api/setups/{setup_id or self.setup_id}/standing")

    def tick(self, step: str, **reading: Any) -> Any:
        return self.home.send("PUT", f"/api/setups/{self.setup_id}/ticks/{step}", reading)

    def ride(self, setup_id: int | None = None, **more: Any) -> Any:
        body = {"setup_id": setup_id or self.setup_id, "passes": [{"distance_m": 30, "time_s": 6}], **more}
        return self.home.send("POST", f"/api/builds/{self.build['id']}/trials", body)

    def steps(self, **changes: Any) -> list[dict[str, Any]]:
        plan = self.home.ok("POST", "/api/hookup", {"setup": safe_bike(**changes), "build_id": self.build["id"]})["plan"]
        return [*plan["steps"], *plan["stand"]]

    def tick_before(self, last: str, **changes: Any) -> None:
        """Every step before one, each reading as it should be."""
        for step in self.steps(**changes):
            if step["id"] == last:
                return
            answer = self.tick(step["id"], **as_it_should_be(step["reading"]))
            self.assertEqual(answer.status_code, 200, (step["id"], answer.content))


class Gates(GateCase):
    def test_first_power_waits_for_a_stop_of_the_plan(self) -> None:
        self.save(main_fuse__dc_volts_v=32)
        self.tick_before("limited", main_fuse__dc_volts_v=32)
        refused = self.tick("limited", measured=40.0)
        self.assertEqual((refused.status_code, refused.json()["code"]), (409, "locked"))
        self.assertIn("fuse", refused.json()["problems"][0]["message"])
        self.assertFalse(self.standing()["power"])
        self.save()
        self.assertEqual(self.tick("limited", measured=40.0).status_code, 200)

    def test_without_any_fuse_there_is_no_power_not_even_overruled(self) -> None:
        """The server once accepted first power and first ride with no fuse at all."""
        self.save(main_fuse=None)
        steps = self.steps(main_fuse=None)
        with_fuse = {step["id"] for step in self.steps()}
        self.assertLessEqual({"dead", "limited", "main_fuse"}, {step["id"] for step in steps}, "It gets these checks like any other.")
        self.assertGreaterEqual(len(steps) + 1, len(with_fuse), "Only the holder, which is not there, has no step.")
        for step in ("limited", "main_fuse", "first_power", "stand_first"):
            self.assertEqual(self.tick(step, measured=40.0).json()["code"], "locked", step)
        self.home.ok("PUT", f"/api/setups/{self.setup_id}/overrules", {"finding": "fuse.none@main", "reason": "I want to see it turn."})
        self.tick_before("main_fuse", main_fuse=None)
        for step in ("main_fuse", "first_power", "stand_first"):
            self.assertEqual(self.tick(step, measured=40.0).json()["code"], "locked", step)
        self.assertEqual(self.ride().status_code, 409)

    def test_a_safety_step_left_out_locks_what_comes_after_it(self) -> None:
        self.tick_before("limited")
        self.home.send("DELETE", f"/api/setups/{self.setup_id}/ticks/pack0")
        refused = self.tick("limited", measured=40.0).json()
        self.assertEqual([p["message"] for p in refused["problems"]], ["Not done yet: Measure pack A before it is joined"])
        self.assertEqual(self.tick("pack0", measured=-40.0).json()["judgement"]["fits"], False)
        self.assertEqual(self.tick("limited", measured=40.0).status_code, 409, "A reading that is wrong is no tick.")

    def test_something_to_look_at_before_the_ride_leaves_power_alone(self) -> None:
        loose = {"vehicle": {**safe_bike()["vehicle"]}, "throttle__returns": None}
        self.save(**loose)
        self.tick_before("stand_first", **loose)
        self.assertTrue(self.standing()["power"])
        self.assertEqual(self.tick("stand_first").json()["code"], "locked")
        self.assertEqual(self.ride().json()["code"], "locked")
        asked = next(f for f in self.home.ok("POST", "/api/evaluate", {"setup": safe_bike(**loose)})["findings"] if f["question"])
        self.assertEqual((asked["gate"], [a["answer"] for a in asked["answers"]]), ("ride", ["yes", "no", "cannot tell"]))
        self.save()
        self.assertEqual(self.tick("stand_first").status_code, 200)

    def test_a_ride_needs_everything_closed_and_done(self) -> None:
        self.assertEqual(self.ride().status_code, 409)
        self.home.prove(self.setup_id, self.build["id"])
        self.assertTrue(self.standing()["ride"])
        self.assertEqual(self.ride().status_code, 200)

    def test_the_machine_as_found_asks_once_for_its_baseline_run(self) -> None:
        unfused = {"document": safe_bike(main_fuse=None), "based_on": 1}
        self.home.ok("PUT", f"/api/setups/{self.base_id}", unfused)
        found = self.home.ok("POST", "/api/evaluate", {"setup": safe_bike(main_fuse=None), "build_id": self.build["id"], "is_baseline": True})
        stop = next(f for f in found["findings"] if f["key"] == "fuse.none@main")
        self.assertEqual((stop["severity"], stop["gate"], stop["as_found"]), ("stop", "plan", True))
        asked = self.ride(self.base_id)
        self.assertEqual((asked.status_code, asked.json()["code"]), (409, "confirm"))
        self.assertEqual(self.ride(self.base_id, confirmed=True).status_code, 200)
        refused = self.home.send("PUT", f"/api/setups/{self.base_id}/ticks/first_power", {"measured": 40.0})
        self.assertEqual(refused.json()["code"], "locked", "Our own steps are locked as of any setup.")

    def test_making_a_changed_setup_the_baseline_softens_nothing(self) -> None:
        self.save(main_fuse=None)
        before = {(stop["key"], stop["gate"]) for stop in self.standing()["open"]}
        self.home.ok("PATCH", f"/api/setups/{self.setup_id}", {"is_baseline": True})
        self.assertEqual({(stop["key"], stop["gate"]) for stop in self.standing()["open"]}, before)
        self.assertEqual(self.ride(confirmed=True).json()["code"], "locked", "Only the machine as it was found is ridden for a baseline.")


class Said(GateCase):
    def overrule(self, reason: str, finding: str = "pack.current") -> Any:
        return self.home.send("PUT", f"/api/setups/{self.setup_id}/overrules", {"finding": finding, "reason": reason})

    def weak(self, amps: float) -> dict[str, Any]:
        return {"bank__rows__0__units__0__peak_10s_a": named(amps), "bank__rows__0__units__0__continuous_a": named(0.5 * amps)}

    def test_a_reason_has_three_words_and_is_kept_with_who_and_numbers(self) -> None:
        self.save(**self.weak(20))
        self.assertEqual(self.overrule("because so").status_code, 422)
        said = self.overrule("Only for the bench.").json()
        self.assertEqual((said["by"], said["kind"], said["unit"]), ("ada", "overruled", "A"))
        self.assertGreater(said["asked"], said["stands"])
        text = self.home.ok("GET", f"/api/builds/{self.build['id']}/journal")[0]["text"]
        self.assertIn(f"{said['asked']:.4g} A asked", text)
        self.assertIn("By ada.", text)
        self.home.send("DELETE", f"/api/setups/{self.setup_id}/overrules/pack.current")
        self.assertIn("withdrawn", self.home.ok("GET", f"/api/builds/{self.build['id']}/journal")[0]["text"])

    def test_it_falls_when_asked_over_stands_rises_by_over_three_percent(self) -> None:
        self.save(**self.weak(20))
        self.overrule("Only for the bench.")
        key = "pack.current"
        self.save(**self.weak(20 / 1.029))
        self.assertNotIn(key, {stop["key"] for stop in self.standing()["open"]})
        self.assertIsNone(Overrule.objects.get(finding=key).fallen)
        self.save(**self.weak(20 / 1.031))
        self.assertIn(key, {stop["key"] for stop in self.standing()["open"]})
        self.assertEqual(self.standing()["fallen"], [key])
        self.assertIn("no longer overruled", self.home.ok("GET", f"/api/builds/{self.build['id']}/journal")[0]["text"])
        self.overrule("Still only for the bench.")
        self.assertNotIn(key, {stop["key"] for stop in self.standing()["open"]})

    def test_only_what_may_be_looked_at_is_closed_by_looking(self) -> None:
        rows = [{"units": [{**safe_bike()["bank"]["rows"][0]["units"][0], "resting_v": named(v)}], "fuse": {"rating_a": 30, "dc_volts_v": 58}} for v in (42.0, 37.0)]
        unlike = {"bank": {**safe_bike()["bank"], "rows": rows}, "main_fuse__dc_volts_v": 32, "rider": None}
        self.save(**unlike)

        def look(finding: str, text: str) -> Any:
            return self.home.send("PUT", f"/api/setups/{self.setup_id}/observations", {"finding": finding, "text": text})

        self.assertEqual(look("fuse.volts@main", "It looks quite fine.").json()["code"], "not_observable")
        self.assertIn("ride.cap@speed", {stop["key"] for stop in self.standing()["open"]})
        self.assertEqual(look("ride.cap@speed", "The child rides slowly.").json()["code"], "not_observable")
        self.assertEqual(look("pack.mixed.parallel", "fine now").status_code, 422)
        self.assertEqual(look("pack.mixed.parallel", "Both at 41.9 V now.").status_code, 200)
        self.assertNotIn("pack.mixed.parallel", {stop["key"] for stop in self.standing()["open"]})
        self.assertIn("Both at 41.9 V now.", self.home.ok("GET", f"/api/builds/{self.build['id']}/journal")[0]["text"])

    def test_an_answer_is_signed_by_the_server(self) -> None:
        self.save(throttle__returns=None)
        document = safe_bike(throttle__returns=True)
        document["looks"] = {"throttle_returns": {"answer": "yes", "by": "somebody else", "when": "1999"}}
        saved = self.home.ok("PUT", f"/api/setups/{self.setup_id}", {"document": document, "based_on": self.version})
        look = saved["document"]["looks"]["throttle_returns"]
        self.assertEqual((look["answer"], look["by"]), ("yes", "ada"))
        self.assertNotEqual(look["when"], "1999")
        self.assertIn("snap back", self.home.ok("GET", f"/api/builds/{self.build['id']}/journal")[0]["text"])


class Incidents(GateCase):
    def test_what_went_wrong_holds_up_the_ride_until_each_check_is_done(self) -> None:
        self.home.prove(self.setup_id, self.build["id"])
        path = f"/api/builds/{self.build['id']}/incidents"
        crash = self.home.ok("POST", path, {"kind": "crash", "note": "Into the hedge.", "done": ["ride0"]})
        self.assertEqual(self.ride().json()["code"], "locked")
        self.assertFalse(self.standing()["power"], "A pack that took a blow is looked at before power.")
        open_now = [check for check in crash["checks"] if not check["by"]]
        self.assertNotIn("ride0", {check["key"] for check in open_now})
        for check in open_now:
            self.assertEqual(self.home.send("PUT", f"{path}/{crash['id']}/checks/{check['key']}", {"seen": "ok"}).status_code, 422)
            self.home.ok("PUT", f"{path}/{crash['id']}/checks/{check['key']}", {"seen": "Straight and tight."})
        self.assertEqual(self.ride().status_code, 200)
        self.assertEqual(self.other.send("GET", path).status_code, 404)
        self.assertEqual(self.home.send("POST", path, {"kind": "party"}).status_code, 404)
        self.assertEqual(Incident.objects.count(), 1)

    def test_trouble_names_the_switches_of_this_machine(self) -> None:
        told = {one["id"]: one for one in self.home.ok("GET", f"/api/builds/{self.build['id']}/troubles")}
        self.assertEqual(len(told), 7)
        self.assertIn("Open the cut-off.", [step["title"] for step in told["runaway"]["steps"]])
        self.home.ok("PATCH", f"/api/garages/{self.home.garage.pk}", {"emergency_number": "112"})
        self.assertEqual(self.home.send("PATCH", f"/api/garages/{self.home.garage.pk}", {"emergency_number": "help!"}).status_code, 422)
        self.assertEqual(self.home.ok("GET", "/api/garages")[0]["emergency_number"], "112")
