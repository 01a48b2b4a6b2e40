"""Export and import: everything comes back, a bad file changes nothing."""

from __future__ import annotations

from copy import deepcopy
from typing import Any

from django.utils import timezone

from server.builds.models import Build, Revision, Setup, Tick
from server.testing import HouseholdCase


class Exchange(HouseholdCase):
    def setUp(self) -> None:
        super().setUp()
        build = self.home.build()
        self.setup_id = build["setups"][1]["id"]
        self.home.prove(self.setup_id, build["id"])
        self.home.ok("POST", f"/api/builds/{build['id']}/trials", {"setup_id": self.setup_id, "passes": [{"distance_m": 30, "time_s": 5}], "knob": 0.8})
        self.home.ok("POST", f"/api/builds/{build['id']}/journal", {"text": "New grips.", "setup_id": self.setup_id})
        self.home.ok("POST", f"/api/builds/{build['id']}/incidents", {"kind": "crash", "note": "Into the hedge.", "done": ["power0"]})
        self.file = self.home.ok("GET", f"/api/builds/{build['id']}/export")

    def test_a_round_trip_loses_nothing(self) -> None:
        copy = self.other.ok("POST", f"/api/garages/{self.other.garage.pk}/import", self.file)
        again = self.other.ok("GET", f"/api/builds/{copy['id']}/export")
        self.assertEqual(again, self.file)

    def test_who_did_it_and_when_comes_along_and_is_nobody_elses(self) -> None:
        """Read in by somebody else, what ada overruled and saved stays ada's, on the day it was; an account that is gone leaves its name."""
        copy = self.other.ok("POST", f"/api/garages/{self.other.garage.pk}/import", self.file)
        self.assertEqual({row["author"] for row in self.other.ok("GET", f"/api/setups/{copy['setups'][1]['id']}/revisions")}, {"ada"})
        for kept in Tick.objects.filter(setup=self.setup_id):
            self.assertEqual(Tick.objects.get(setup=copy["setups"][1]["id"], step=kept.step).created, kept.created)
        self.home.user.delete()
        self.assertEqual({row.by for row in Revision.objects.filter(setup=self.setup_id)}, {"ada"})

    def test_a_file_of_before_is_the_readers(self) -> None:
        file = deepcopy(self.file)
        for setup in file["setups"]:
            for row in (*setup["revisions"], *setup["ticks"], *setup["overrules"]):
                for name in ("author", "by"):
                    row.pop(name, None)
                if "step" in row:
                    row.pop("created")
        copy = self.other.ok("POST", f"/api/garages/{self.other.garage.pk}/import", file)
        self.assertEqual({row["author"] for row in self.other.ok("GET", f"/api/setups/{copy['setups'][1]['id']}/revisions")}, {"bo"})

    def test_more_revisions_than_once_were_read_go_out_and_in(self) -> None:
        document = Setup.objects.get(pk=self.setup_id).document
        Revision.objects.bulk_create(Revision(setup_id=self.setup_id, number=n, document=document, created=timezone.now()) for n in range(2, 2302))
        build = Setup.objects.get(pk=self.setup_id).build_id
        self.assertEqual(len(self.home.ok("GET", f"/api/builds/{build}/export")["setups"][1]["revisions"]), 2301)

    def test_a_bad_file_lists_what_is_wrong_and_changes_nothing(self) -> None:
        before = Build.objects.count()

        def broken(**paths: Any) -> dict[str, Any]:
            file = deepcopy(self.file)
            for path, value in paths.items():
                place: Any = file
                *way, last = path.split("__")
                for step in way:
                    place = place[int(step)] if isinstance(place, list) else place[step]
                place[int(last) if isinstance(place, list) else last] = value
            return file

        cases: list[tuple[Any, str]] = [
            ({"hello": 1}, "/format"),
            (broken(version=9), "/version"),
            (broken(name=""), "/name"),
            (broken(setups=[]), "/setups"),
            (broken(setups__0__document={"motro": 1}), "/setups/0/document/motro"),
            (broken(trials__0__setup="s9"), "/trials/0/setup"),
            (broken(trials__0__revision=44), "/trials/0/revision"),
            (broken(incidents__0__checks__0__gate="whenever"), "/incidents/0/checks/0/gate"),
            (broken(setups__1__ticks__0__revision=44), "/setups/1/ticks/0/revision"),
            (broken(trials__0__passes=[{"distance_m": -1, "time_s": 2}]), "/trials/0/passes/0/distance_m"),
            (broken(journal__0__setup="s9"), "/journal/0/setup"),
            (broken(setups__1__revisions__0__document={"version": 7}), "/setups/1/revisions/0/document/version"),
            (broken(setups__1__is_baseline=True), "/setups"),
        ]
        for file, path in cases:
            with self.subTest(path):
                answer = self.home.send("POST", f"/api/garages/{self.home.garage.pk}/import", file)
                self.assertEqual(answer.status_code, 422, answer.content)
                self.assertTrue(str(answer.json()["field"]).startswith(path), answer.json())  # type: ignore[attr-defined]
        self.assertEqual(Build.objects.count(), before)

    def test_what_is_not_json_is_refused(self) -> None:
        answer = self.home.client.post(f"/api/garages/{self.home.garage.pk}/import", "{oops", content_type="application/json")
        self.assertEqual((answer.status_code, answer.json()["code"]), (400, "request_invalid"))
