"""Trials and journal."""

from __future__ import annotations

import threading
from datetime import timedelta
from typing import Any
from unittest.mock import patch

from django.db import connection
from django.test import TransactionTestCase
from django.utils import timezone

from gecko.tests.machines import safe_bike
from server.builds import services
from server.builds.models import Build, Incident, Setup
from server.builds.standing import evaluation_of
from server.logbook.models import JournalEntry, Trial
from server.testing import Household, HouseholdCase


class Trials(HouseholdCase):
    def setUp(self) -> None:
        super().setUp()
        self.build = self.home.build()
        self.base, self.changed = (s["id"] for s in self.build["setups"])
        self.path = f"/api/builds/{self.build['id']}/trials"

    def ride(self, setup: int, seconds: float, **more: Any) -> Any:
        passes = [{"distance_m": 60, "time_s": seconds, "direction": d} for d in ("out", "back", "out", "back")]
        return self.home.send("POST", self.path, {"setup_id": setup, "passes": passes, "surface": "paving", **more})

    def test_speed_interval_prediction_and_gain(self) -> None:
        self.assertEqual(self.ride(self.base, 10.0, knob=1.0).status_code, 200)
        self.home.prove(self.changed, self.build["id"])
        trial = self.ride(self.changed, 8.0, knob=1.0, volts_before_v=41.0).json()
        self.assertAlmostEqual(trial["speed_m_s"], 7.5)
        self.assertAlmostEqual(trial["gain"], 1.25)
        self.assertAlmostEqual(trial["verdict"]["off"], trial["speed_m_s"] / trial["predicted_m_s"] - 1.0)
        self.assertGreater(trial["gain_half_width"], 0.01)
        self.assertTrue(trial["predicted_low_m_s"] < trial["predicted_m_s"] < trial["predicted_high_m_s"])
        self.assertEqual(len(self.home.ok("GET", self.path)), 2)

    def row(self) -> dict[str, Any]:
        """The first setup as it is kept."""
        return next(dict(one) for one in self.home.ok("GET", f"/api/builds/{self.build['id']}")["setups"] if one["id"] == self.base)

    def test_what_was_tied_on_for_one_try_holds_up_the_next_ride(self) -> None:
        def saved(motor: dict[str, Any]) -> None:
            row = self.row()
            document = {**row["document"], "motor": {**row["document"]["motor"], "rack": motor}}
            self.home.ok("PUT", f"/api/setups/{self.base}", {"document": document, "based_on": row["version"]})

        def held() -> tuple[list[str], list[str], int]:
            """Severity of what is said of it by the draft's door, the saved setup's, and the stops of the garage's list."""
            row = self.row()
            answers = [
                self.home.ok("POST", "/api/evaluate", {"setup": row["document"], "build_id": self.build["id"], "is_baseline": True}),
                evaluation_of(Setup.objects.get(pk=self.base)).model_dump(mode="json"),
            ]
            (listed,) = self.home.ok("GET", f"/api/garages/{self.home.garage.pk}")["builds"]
            draft, standing = ([f["severity"] for f in answer["findings"] if f["id"] == "rack.temporary"] for answer in answers)
            return draft, standing, listed["looks"]

        looks = held()[2]
        tied = {"key": "k", "label": "Spare motor", "temporary": True}
        saved(tied)
        self.assertEqual(held(), (["caution"], ["caution"], looks))
        self.ride(self.base, 10.0, knob=1.0)
        self.assertEqual(held(), (["stop"], ["stop"], looks + 1))
        saved({**tied, "temporary": False})
        self.assertEqual(held(), ([], [], looks))
        saved(tied)
        self.assertEqual(held()[0], ["stop"], "Within minutes that is no second try.")
        with patch.object(services, "JOIN_WITHIN", timedelta(0)):
            saved({**tied, "temporary": False})
            saved(tied)
        self.assertEqual(held(), (["caution"], ["caution"], looks))

    def test_no_gain_across_unlike_ground_or_a_turned_down_knob(self) -> None:
        self.ride(self.base, 10.0, knob=1.0)
        self.home.prove(self.changed, self.build["id"])
        self.assertIsNone(self.ride(self.changed, 8.0, knob=0.5).json()["gain"])
        self.assertIsNone(self.ride(self.changed, 8.0, knob=1.0, surface="long grass").json()["gain"])

    def test_impossible_runs_are_refused_in_plain_words(self) -> None:
        for body in (
            {"setup_id": self.base, "passes": []},
            {"setup_id": self.base, "passes": [{"distance_m": 0, "time_s": 5}]},
            {"setup_id": self.base, "passes": [{"distance_m": 900, "time_s": 1}]},
            {"setup_id": self.base, "passes": [{"distance_m": 9, "time_s": "x"}]},
        ):
            answer = self.home.send("POST", self.path, body)
            self.assertEqual(answer.status_code, 422)
            self.assertTrue(answer.json()["message"])
        elsewhere = self.other.build()["setups"][0]["id"]
        self.assertEqual(self.ride(elsewhere, 8.0).status_code, 404)

    def test_a_long_record_comes_in_pages_and_the_baseline_never_drops_out(self) -> None:
        self.assertEqual(self.ride(self.base, 10.0, knob=1.0).status_code, 200)
        first = Trial.objects.get()
        self.home.prove(self.changed, self.build["id"])
        ridden = self.ride(self.changed, 8.0, knob=1.0).json()
        run = {field: getattr(Trial.objects.get(pk=ridden["id"]), field) for field in ("passes", "knob", "surface", "speed_m_s", "half_width_m_s", "revision")}
        setup = Setup.objects.get(pk=self.changed)
        Trial.objects.bulk_create(Trial(build=setup.build, setup=setup, when=timezone.now() + timedelta(minutes=n), **run) for n in range(1, 131))
        page = self.home.ok("GET", f"{self.path}?limit=50")
        self.assertEqual((len(page), page[0]["id"]), (51, first.pk), "Fifty of the newest, and the baseline's before them.")
        self.assertAlmostEqual(page[-1]["gain"], 1.25)
        ids = {trial["id"] for skip in (0, 50, 100) for trial in self.home.ok("GET", f"{self.path}?limit=50&skip={skip}")}
        self.assertEqual(len(ids), 132)
        self.assertEqual(self.home.send("GET", f"{self.path}?limit=5000").status_code, 422)
        notes = f"/api/builds/{self.build['id']}/journal"
        for number in range(12):
            self.home.ok("POST", notes, {"kind": "note", "text": f"Note {number}."})
        pages = [self.home.ok("GET", f"{notes}?limit=5&skip={skip}") for skip in (0, 5, 10)]
        texts = [entry["text"] for page in pages for entry in page if entry["kind"] == "note"]
        self.assertEqual(texts, [f"Note {number}." for number in range(11, -1, -1)])

    def test_deleting_a_trial(self) -> None:
        trial = self.ride(self.base, 10.0).json()["id"]
        self.assertEqual(self.other.send("DELETE", f"{self.path}/{trial}").status_code, 404)
        self.assertEqual(self.home.send("DELETE", f"{self.path}/{trial}").status_code, 204)

    def test_journal(self) -> None:
        path = f"/api/builds/{self.build['id']}/journal"
        entry = self.home.ok("POST", path, {"kind": "repair", "text": " Chain oiled. "})
        self.assertEqual(entry["text"], "Chain oiled.")
        self.assertEqual(self.home.send("POST", path, {"text": "  "}).status_code, 422)
        self.assertEqual(self.home.send("POST", path, {"text": "x", "kind": "party"}).status_code, 422)
        self.assertEqual(self.home.send("DELETE", f"{path}/{entry['id']}").status_code, 204)


class Moments(HouseholdCase):
    def test_an_entry_that_comes_late_is_of_the_moment_it_was_written(self) -> None:
        path = f"/api/builds/{self.home.build()['id']}/journal"
        entry = self.home.ok("POST", path, {"text": "Belt torn.", "when": "2026-03-01T10:00:00Z"})
        self.assertEqual(entry["when"], "2026-03-01T10:00:00Z")

    def test_a_date_at_the_edge_of_time_gets_a_sentence(self) -> None:
        build = self.home.build()
        run = {"setup_id": build["setups"][0]["id"], "passes": [{"distance_m": 60, "time_s": 10}], "confirmed": True}
        for when in ("0001-01-01T00:00:00Z", "9999-12-31T23:59:59-12:00", "1999-12-31T23:59:59Z", "2101-01-01T00:00:00"):
            for path, body in (("trials", run), ("journal", {"text": "x"})):
                answer = self.home.send("POST", f"/api/builds/{build['id']}/{path}", {**body, "when": when})
                self.assertEqual(answer.status_code, 422, when)
                self.assertIn("between the years 2000 and 2100", answer.content.decode())


class SentTwice(TransactionTestCase):
    """A lost answer or a second press makes one, also at the same moment; another key makes another."""

    def setUp(self) -> None:
        self.home = Household("ada")
        self.build = self.home.build()

    def at_once(self, path: str, body: Any, times: int, key: str) -> set[int]:
        """Ids of what so many equal requests at once were answered with."""
        found: list[int] = []

        def send() -> None:
            try:
                found.append(self.home.send("POST", path, body, {"Idempotency-Key": key}).json()["id"])
            finally:
                connection.close()

        threads = [threading.Thread(target=send) for _ in range(times)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        self.assertEqual(len(found), times)
        return set(found)

    def test_makes_one_of_each(self) -> None:
        run = {"setup_id": self.build["setups"][0]["id"], "passes": [{"distance_m": 60, "time_s": 10, "direction": "out"}], "confirmed": True}
        new = {"name": "Twice", "family": "quad", "setups": [{"name": "As found", "document": safe_bike()}]}
        for path, body in (
            (f"/api/builds/{self.build['id']}/trials", run),
            (f"/api/builds/{self.build['id']}/journal", {"kind": "note", "text": "Once."}),
            (f"/api/garages/{self.home.garage.pk}/builds", new),
            (f"/api/builds/{self.build['id']}/incidents", {"kind": "crash", "note": "Into the hedge.", "done": []}),
        ):
            with self.subTest(path):
                first = self.at_once(path, body, 4, "0123456789abcdef")
                self.assertEqual(len(first), 1)
                self.assertEqual(self.at_once(path, body, 1, "0123456789abcdef"), first)
                self.assertFalse(self.at_once(path, body, 1, "fedcba9876543210") & first)
                self.assertEqual(self.home.send("POST", path, body, {"Idempotency-Key": "; drop"}).status_code, 400)
        self.assertEqual(Incident.objects.count(), 2)
        self.assertEqual((Trial.objects.count(), JournalEntry.objects.filter(text="Once.").count(), Build.objects.filter(name="Twice").count()), (2, 2, 2))
