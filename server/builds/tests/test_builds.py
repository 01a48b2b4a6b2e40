"""Builds and setups: revisions, undo, locking, ticks, overruled stops, permissions."""

from __future__ import annotations

import time
from datetime import timedelta
from typing import Any
from unittest.mock import patch

from django.utils import timezone

from gecko.tests.machines import named, safe_bike
from server.builds.models import Build, Revision, Setup
from server.testing import HouseholdCase


class Setups(HouseholdCase):
    def setUp(self) -> None:
        super().setUp()
        self.build = self.home.build()
        self.setup_id = self.build["setups"][1]["id"]

    def save(self, based_on: int, label: str = "", **changes: Any) -> Any:
        return self.home.send("PUT", f"/api/setups/{self.setup_id}", {"document": safe_bike(**changes), "based_on": based_on, "label": label})

    def test_another_household_finds_nothing(self) -> None:
        build, setup = self.build["id"], self.setup_id
        for method, path, body in (
            ("GET", f"builds/{build}", None),
            ("DELETE", f"builds/{build}", None),
            ("PATCH", f"builds/{build}", {"name": "x"}),
            ("GET", f"builds/{build}/export", None),
            ("GET", f"builds/{build}/trials", None),
            ("GET", f"builds/{build}/journal", None),
            ("PUT", f"setups/{setup}", {"document": {}, "based_on": 1}),
            ("GET", f"setups/{setup}/revisions", None),
            ("PUT", f"setups/{setup}/ticks/safe", {}),
            ("DELETE", f"setups/{setup}", None),
            ("POST", "evaluate", {"setup": {}, "build_id": build}),
            ("POST", f"builds/{build}/setups", {"name": "x", "document": {}}),
        ):
            answer = self.other.send(method, f"/api/{path}", body)
            self.assertEqual((answer.status_code, answer.json()["code"]), (404, "not_found"), path)
        self.assertTrue(Build.objects.filter(pk=build).exists())

    def test_first_setup_is_the_baseline(self) -> None:
        self.assertEqual([s["is_baseline"] for s in self.build["setups"]], [True, False])

    def test_a_clash_answers_with_both_versions_and_loses_nothing(self) -> None:
        self.assertEqual(self.save(1, main_fuse__rating_a=25).status_code, 200)
        clash = self.save(1, main_fuse__rating_a=20)
        self.assertEqual(clash.status_code, 409)
        body = clash.json()
        self.assertEqual((body["mine"]["main_fuse"]["rating_a"], body["theirs"]["main_fuse"]["rating_a"], body["version"]), (20, 25, 2))
        self.assertEqual(Setup.objects.get(pk=self.setup_id).document["main_fuse"]["rating_a"], 25)

    def test_a_wrong_document_names_every_field_and_changes_nothing(self) -> None:
        answer = self.save(1, main_fuse__rating_a=-1, main_lead__length_m=named(0))
        self.assertEqual(answer.status_code, 422)
        self.assertEqual({p["path"] for p in answer.json()["problems"]}, {"/main_fuse/rating_a", "/main_lead/length_m"})
        self.assertEqual(Setup.objects.get(pk=self.setup_id).version, 1)

    def test_edits_within_five_minutes_join_one_revision(self) -> None:
        Revision.objects.filter(setup=self.setup_id).update(created=timezone.now() - timedelta(minutes=9))
        for version, rating in ((1, 25), (2, 20), (3, 15)):
            self.assertEqual(self.save(version, main_fuse__rating_a=rating).status_code, 200)
        self.assertEqual(Revision.objects.filter(setup=self.setup_id).count(), 2)

    def test_an_open_page_hears_who_saved_and_what(self) -> None:
        Revision.objects.filter(setup=self.setup_id).update(created=timezone.now() - timedelta(minutes=9))
        path = f"/api/setups/{self.setup_id}/latest"
        self.assertEqual(self.home.ok("GET", path)["version"], 1)
        self.save(1, main_fuse__rating_a=25)
        found = self.home.ok("GET", path)
        self.assertEqual((found["version"], found["by"], found["changed"]), (2, "ada", ["main fuse"]))
        self.assertEqual(self.other.send("GET", path).status_code, 404)

    def test_what_another_person_saves_or_a_turned_clock_dates_joins_nothing(self) -> None:
        Revision.objects.filter(setup=self.setup_id).update(created=timezone.now() - timedelta(minutes=9))
        self.save(1, main_fuse__rating_a=25)
        self.save(2, main_fuse__rating_a=20)
        self.assertEqual(Revision.objects.filter(setup=self.setup_id).count(), 2)
        Revision.objects.filter(setup=self.setup_id, number=2).update(author=self.other.user)
        self.save(3, main_fuse__rating_a=15)
        self.assertEqual(Revision.objects.filter(setup=self.setup_id).count(), 3, "Bo's edits stay Bo's.")
        Revision.objects.filter(setup=self.setup_id, number=3).update(created=timezone.now() + timedelta(minutes=2))
        self.save(4, main_fuse__rating_a=10)
        self.assertEqual(Revision.objects.filter(setup=self.setup_id).count(), 4, "From tomorrow: the clock was set back.")
        with patch("server.builds.services.time.time", return_value=time.time() + 60):
            self.save(5, main_fuse__rating_a=7.5)
        self.assertEqual(Revision.objects.filter(setup=self.setup_id).count(), 5, "The clock was set while the server ran.")

    def test_a_revision_something_points_at_is_never_overwritten(self) -> None:
        Revision.objects.filter(setup=self.setup_id).update(created=timezone.now() - timedelta(minutes=9))
        self.save(1, wheel__diameter_m=named(0.3))
        self.home.prove(self.setup_id, self.build["id"])
        self.home.ok("POST", f"/api/builds/{self.build['id']}/trials", {"setup_id": self.setup_id, "passes": [{"distance_m": 30, "time_s": 5}]})
        self.save(2, wheel__diameter_m=named(0.29))
        sizes = [r.document["wheel"]["diameter_m"]["value"] for r in Revision.objects.filter(setup=self.setup_id)]
        self.assertEqual(sizes, [0.29, 0.3, 0.31])

    def test_an_old_revision_comes_back_as_a_new_one(self) -> None:
        Revision.objects.filter(setup=self.setup_id).update(created=timezone.now() - timedelta(minutes=9))
        self.save(1, main_fuse__rating_a=25)
        back = self.home.ok("POST", f"/api/setups/{self.setup_id}/restore", {"number": 1, "based_on": 2})
        self.assertEqual((back["document"]["main_fuse"]["rating_a"], back["version"]), (30, 3))
        self.assertEqual(len(self.home.ok("GET", f"/api/setups/{self.setup_id}/revisions")), 3)
        self.assertEqual(self.home.send("POST", f"/api/setups/{self.setup_id}/restore", {"number": 77, "based_on": 3}).status_code, 404)

    def test_baseline_and_trials_protect_a_setup_from_deletion(self) -> None:
        base = self.build["setups"][0]["id"]
        self.assertEqual(self.home.send("DELETE", f"/api/setups/{base}").json()["code"], "is_baseline")
        self.home.ok("PATCH", f"/api/setups/{self.setup_id}", {"is_baseline": True, "in_use": True, "name": "New base"})
        self.assertEqual([s["is_baseline"] for s in self.home.ok("GET", f"/api/builds/{self.build['id']}")["setups"]], [False, True])
        kept = self.home.send("DELETE", f"/api/setups/{base}")
        self.assertEqual(kept.json()["code"], "is_as_found", "Brakes and gears are compared with the machine as it was found.")

    def test_a_build_goes_with_everything_that_belongs_to_it(self) -> None:
        self.home.prove(self.setup_id, self.build["id"])
        self.home.ok("POST", f"/api/builds/{self.build['id']}/trials", {"setup_id": self.setup_id, "passes": [{"distance_m": 30, "time_s": 5}]})
        self.assertEqual(self.home.send("DELETE", f"/api/builds/{self.build['id']}").status_code, 204)
        self.home.ok("DELETE", f"/api/garages/{self.home.garage.pk}/bin/build/{self.build['id']}")
        self.assertEqual(Revision.objects.count(), 0)

    def test_a_setup_beside_the_others_names_its_wrong_fields(self) -> None:
        wrong: tuple[dict[str, object], ...] = ({"stock": 1e-308}, {"stock": None}, {"vehicle": []})
        for document in wrong:
            answer = self.home.send("POST", f"/api/builds/{self.build['id']}/setups", {"name": "x", "document": document})
            self.assertEqual((answer.status_code, answer.json()["code"]), (422, "setup_invalid"), document)

    def test_names_are_needed_and_setups_are_limited(self) -> None:
        self.assertEqual(self.home.send("PATCH", f"/api/builds/{self.build['id']}", {"name": "  "}).status_code, 422)
        for i in range(22):
            self.home.ok("POST", f"/api/builds/{self.build['id']}/setups", {"name": f"n{i}", "document": {}})
        full = self.home.send("POST", f"/api/builds/{self.build['id']}/setups", {"name": "one too many", "document": {}})
        self.assertEqual(full.json()["code"], "too_many")

    def test_ticks_keep_the_value_and_judge_it(self) -> None:
        good = self.home.ok("PUT", f"/api/setups/{self.setup_id}/ticks/pack0", {"measured": 40.5})
        self.assertTrue(good["judgement"]["fits"])
        plan = self.home.ok("POST", "/api/hookup", {"setup": safe_bike(), "build_id": self.build["id"]})["plan"]
        self.assertEqual(good["tick"]["mark"], next(step["mark"] for step in plan["steps"] if step["id"] == "pack0"), "It is kept under what it joined.")
        bad = self.home.ok("PUT", f"/api/setups/{self.setup_id}/ticks/pack0", {"measured": -40.5})
        self.assertEqual((bad["judgement"]["headline"], bad["tick"]["fits"]), ("Reversed.", False))
        self.assertEqual(self.home.send("PUT", f"/api/setups/{self.setup_id}/ticks/pack0", {}).status_code, 422)
        self.assertEqual(self.home.send("PUT", f"/api/setups/{self.setup_id}/ticks/nonsense", {"measured": 1}).status_code, 404)
        self.assertEqual(self.home.send("DELETE", f"/api/setups/{self.setup_id}/ticks/pack0").status_code, 204)

    def test_only_a_real_stop_is_overruled_and_only_with_a_reason(self) -> None:
        self.save(1, main_fuse__dc_volts_v=32)
        path = f"/api/setups/{self.setup_id}/overrules"
        self.assertEqual(self.home.send("PUT", path, {"finding": "fuse.volts@main", "reason": "ok"}).status_code, 422)
        self.assertEqual(self.home.send("PUT", path, {"finding": "pack.isolate", "reason": "there is none here"}).status_code, 404)
        self.home.ok("PUT", path, {"finding": "fuse.volts@main", "reason": "Only for one bench test with a lamp in series."})
        journal = self.home.ok("GET", f"/api/builds/{self.build['id']}/journal")
        self.assertIn("lamp in series", journal[0]["text"])
        self.assertEqual(self.home.send("DELETE", f"/api/builds/{self.build['id']}/journal/{journal[0]['id']}").status_code, 409)
