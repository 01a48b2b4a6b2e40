"""What gets in, and that one bad build is one bad build."""

from __future__ import annotations

import json
import logging
import re
import sys
from typing import Any
from unittest.mock import patch

from django.db import OperationalError
from django.test import SimpleTestCase

from gecko.tests.machines import safe_bike
from server.access_log import OneLine
from server.builds.models import Setup
from server.compute.jobs import KINDS
from server.errors import Refused
from server.logbook.models import Trial
from server.parsing import DEEPEST, depth_within, read_json
from server.testing import HouseholdCase


class Reading(SimpleTestCase):
    def test_what_no_document_can_hold_is_refused_with_a_sentence(self) -> None:
        for text, words in (
            ("NaN", "NaN is not a number"),
            ('{"a": -Infinity}', "-Infinity is not a number"),
            ('{"a": 1e400}', "1e400 is too large a number"),
            ('{"a": 1' + "0" * 5000 + "}", "too large a number"),
            ("[" * 100_000 + "]" * 100_000, "nested too deeply"),
            ("[" * (DEEPEST + 1) + "]" * (DEEPEST + 1), "nested too deeply"),
            ("{", "not JSON"),
            (b"\xff\xfe{", "not JSON"),
        ):
            with self.subTest(words), self.assertRaises(Refused) as refused:
                read_json(text)
            self.assertEqual(refused.exception.status, 400)
            self.assertIn(words, refused.exception.message)

    def test_what_a_document_holds_is_read(self) -> None:
        self.assertEqual(read_json('{"a": [1, -2.5, true, null, "ü"]}'), {"a": [1, -2.5, True, None, "ü"]})
        self.assertEqual(read_json("[" * DEEPEST + "]" * DEEPEST), json.loads("[" * DEEPEST + "]" * DEEPEST))
        self.assertTrue(depth_within(7, 0))


class OneBadBuild(HouseholdCase):
    def setUp(self) -> None:
        super().setUp()
        self.good, self.bad = self.home.build(), self.home.build()
        self.place = f"/api/garages/{self.home.garage.pk}"

    def spoil(self, build: dict[str, Any], **changes: Any) -> None:
        """Write into the database what an older program let in."""
        for row in Setup.objects.filter(build_id=build["id"]):
            row.document = {**row.document, **changes}
            row.version += 1
            row.save()

    def glances(self) -> dict[int, dict[str, Any]]:
        return {row["id"]: row for row in self.home.ok("GET", self.place)["builds"]}

    def test_a_document_that_cannot_be_read_is_listed_with_its_reason_and_can_be_opened_exported_mended_and_deleted(self) -> None:
        self.spoil(self.bad, wheel={"diameter_m": {"value": 90, "basis": "assumed"}, "tyre": "pneumatic"})
        found = self.glances()
        self.assertIn("most this planner takes", found[self.bad["id"]]["trouble"])
        self.assertEqual(found[self.good["id"]]["trouble"], "")
        self.assertIsNotNone(found[self.good["id"]]["top_speed_m_s"])
        self.home.ok("GET", f"{self.place}/index")
        opened = self.home.ok("GET", f"/api/builds/{self.bad['id']}")
        refused = self.home.send("POST", "/api/evaluate", {"setup": opened["setups"][0]["document"], "build_id": self.bad["id"]})
        self.assertEqual((refused.status_code, refused.json()["problems"][0]["path"]), (422, "/wheel/diameter_m"))
        self.assertEqual(self.home.send("GET", f"/api/builds/{self.bad['id']}/export").status_code, 200)
        row = next(one for one in opened["setups"] if not one["is_baseline"])
        self.home.ok("PUT", f"/api/setups/{row['id']}", {"document": safe_bike(), "based_on": row["version"]})
        # Its baseline is as bad as before, and stops it no more.
        self.home.ok("POST", "/api/evaluate", {"setup": safe_bike(), "build_id": self.bad["id"]})
        self.home.ok("DELETE", f"/api/builds/{self.bad['id']}")
        self.assertNotIn(self.bad["id"], self.glances())

    def test_a_trial_on_a_surface_nobody_knows_stops_no_list(self) -> None:
        """It was kept once, of any name; now it is refused, and one that is there has no prediction."""
        at, setup = f"/api/builds/{self.good['id']}", self.good["setups"][0]["id"]
        trial = {"setup_id": setup, "passes": [{"distance_m": 30, "time_s": 8}], "surface": "short grass"}
        self.home.ok("POST", f"{at}/trials", trial)
        self.assertEqual(self.home.send("POST", f"{at}/trials", {**trial, "surface": "lawn"}).status_code, 422)
        Trial.objects.create(
            build_id=self.good["id"],
            setup_id=setup,
            revision=Trial.objects.get().revision,
            passes=trial["passes"],
            surface="lawn",
            grade=7,
            speed_m_s=4,
            half_width_m_s=0.1,
        )
        found = self.home.ok("GET", f"{at}/trials")
        self.assertEqual([one["predicted_m_s"] is not None for one in found], [True, False])
        self.spoil(self.good, wheel={"diameter_m": {"value": 90, "basis": "assumed"}, "tyre": "pneumatic"})
        Trial.objects.all()[0].revision.setup.revisions.update(document={"motro": 1})
        self.assertEqual([one["predicted_m_s"] for one in self.home.ok("GET", f"{at}/trials")], [None, None])

    def test_one_that_breaks_the_program_is_listed_with_a_reference_that_stands_in_the_log(self) -> None:
        self.spoil(self.bad, wheel={"diameter_m": {"value": 0.5, "basis": "assumed"}, "tyre": "pneumatic"})
        evaluate = KINDS["evaluation"]

        def breaks(setup: Any, context: Any, extra: Any) -> Any:
            if setup.wheel.diameter_m.value == 0.5:
                raise ZeroDivisionError("by wheel")
            return evaluate(setup, context, extra)

        with patch.dict(KINDS, evaluation=breaks), self.assertLogs("server.engine", "ERROR") as logged:
            found = self.glances()
        reference = re.search(r"reference: (\w{8})", found[self.bad["id"]]["trouble"])
        assert reference is not None
        self.assertIn(reference.group(1), logged.output[0])
        self.assertIn("by wheel", logged.output[0])
        self.assertEqual(found[self.good["id"]]["trouble"], "")

    def test_what_nobody_foresaw_is_json_with_a_reference_that_stands_in_the_log(self) -> None:
        with patch.dict(KINDS, evaluation=lambda *_: 1 // 0), self.assertLogs("server.api", "ERROR") as logged:
            answer = self.home.send("POST", "/api/evaluate", {"setup": safe_bike(wheel__diameter_m=0.6)})
        self.assertEqual(answer.status_code, 500)
        self.assertEqual(answer.json()["code"], "failed")
        self.assertIn(answer.json()["reference"], logged.output[0])
        self.assertIn("ZeroDivisionError", logged.output[0])


class CannotStore(HouseholdCase):
    def test_each_reason_is_told_for_what_it_is(self) -> None:
        build = self.home.build()
        row = build["setups"][1]
        for words, code, status in (
            ("database is locked", "locked_database", 503),
            ("database or disk is full", "disk_full", 507),
            ("attempt to write a readonly database", "read_only", 503),
            ("no such table: builds_setup", "failed", 500),
        ):
            with self.subTest(words), patch("server.builds.services.save_setup", side_effect=OperationalError(words)), self.assertLogs("server.api", "ERROR"):
                answer = self.home.send("PUT", f"/api/setups/{row['id']}", {"document": safe_bike(), "based_on": row["version"]})
            self.assertEqual((answer.status_code, answer.json()["code"]), (status, code))


class Stored(HouseholdCase):
    def test_nothing_is_stored_that_is_not_its_kind(self) -> None:
        place = f"/api/garages/{self.home.garage.pk}"
        build = self.home.build()
        setup = build["setups"][1]["id"]
        run = {"setup_id": setup, "passes": [{"distance_m": 30, "time_s": 9, "direction": "out"}]}
        for method, path, body in (
            ("POST", f"{place}/rack", {"kind": "wires", "document": {"awg": 12, "made_of": "gold"}}),
            ("POST", f"{place}/rack", {"kind": "wires", "document": {"metres": -1}}),
            ("POST", f"{place}/rack", {"kind": "motors", "document": {"power_w": {"value": 0.0001}}}),
            ("PATCH", place, {"house_rules": {"overvolt_limit": -3}}),
            ("POST", f"/api/builds/{build['id']}/trials", {**run, "when": "9999-12-31T23:59:59-14:00"}),
            ("POST", f"/api/builds/{build['id']}/trials", {**run, "when": "0001-01-01T00:00:00+14:00"}),
            ("POST", f"/api/builds/{build['id']}/trials", {**run, "passes": [{"distance_m": 30, "time_s": 1e-300, "direction": "out"}]}),
            ("PUT", f"/api/setups/{setup}/ticks/lay_out", {"measured": 1e300}),
            ("GET", "/api/builds/99999999999999999999999", None),
        ):
            with self.subTest(path=path, body=body):
                answer = self.home.send(method, path, body)
                self.assertIn(answer.status_code, (404, 409, 422), answer.content)
                self.assertTrue(answer.json()["message"])


class OneLineEach(SimpleTestCase):
    def test_a_traceback_stands_in_one_line(self) -> None:
        try:
            raise ZeroDivisionError("by\nwheel")
        except ZeroDivisionError:
            record = logging.LogRecord("server", logging.ERROR, "", 0, "it broke", (), sys.exc_info())
        line = OneLine("%(name)s %(message)s").format(record)
        self.assertTrue(line.startswith("server it broke | Traceback"))
        self.assertTrue(line.endswith("ZeroDivisionError: by | wheel"))
        self.assertNotIn("\n", line)
