"""Export and import: everything comes back, a bad file changes nothing."""

from __future__ import annotations

import io
from copy import deepcopy
from typing import Any

from django.utils import timezone

from server.builds.models import Build, Revision, Setup, Tick
from server.errors import Refused
from server.exchange.reading import PIECE, Bounded, rows_of
from server.exchange.storing import STAGING
from server.garage.models import Garage
from server.testing import HouseholdCase
from server.uploads.models import Upload


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

    def came_in(self, file: dict[str, Any]) -> int:
        """The number of a build in the other garage that was read from a file."""
        job = self.other.read_in(file)
        self.assertEqual((job["state"], job["error"]), ("done", None))
        return int(job["came_in"]["builds"][0]["id"])

    def test_a_round_trip_loses_nothing(self) -> None:
        copy = self.came_in(self.file)
        again = self.other.ok("GET", f"/api/builds/{copy}/export")
        self.assertEqual(again, self.file)

    def test_who_did_it_and_when_comes_along_and_is_nobody_elses(self) -> None:
        """Read in by somebody else, what ada overruled and saved stays ada's, on the day it was; an account that is gone leaves its name."""
        copy = self.other.ok("GET", f"/api/builds/{self.came_in(self.file)}")
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
        copy = self.other.ok("GET", f"/api/builds/{self.came_in(file)}")
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
            return dict(file)

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
                job = self.home.read_in(file)
                self.assertEqual(job["state"], "failed")
                self.assertTrue(str(job["error"]["field"]).startswith(path), job["error"])
        self.assertEqual(Build.objects.count(), before)

    def test_what_is_not_json_is_refused(self) -> None:
        for content in (b"{oops", b"dear garage", b"[" * 100_000, b'{"a": 1e999}', b'{"a": NaN}', b"PK\x03\x04 no zip", b'{"a": "\xff"}'):
            with self.subTest(content[:12]):
                job = self.home.read_in(content)
                self.assertEqual((job["state"], job["error"]["code"]), ("failed", "import_invalid"))
        self.assertFalse(Upload.objects.exists())
        self.assertFalse(Garage.objects.filter(name=STAGING).exists())

    def test_what_is_nested_too_deeply_is_left_at_its_first_piece(self) -> None:
        read: list[int] = []
        with self.assertRaises(Refused):
            list(rows_of(Bounded(io.BytesIO(b"[" * 100_000), read.append)))
        self.assertLessEqual(sum(read), PIECE)

    def test_a_small_file_comes_in_by_one_request(self) -> None:
        at = f"/api/garages/{self.other.garage.pk}/import"
        came = self.other.ok("POST", at, self.file)
        self.assertEqual(self.other.ok("GET", f"/api/builds/{came['builds'][0]['id']}/export"), self.file)
        refused = self.other.send("POST", at, {**self.file, "name": ""})
        self.assertEqual((refused.status_code, refused.json()["field"]), (422, "/name"))
        self.assertEqual((Build.objects.count(), Upload.objects.count()), (2, 0))
        self.assertEqual(self.home.send("POST", at, self.file).status_code, 404)
        self.assertEqual(self.other.send("POST", at, {**self.file, "description": "x" * 2**20}).status_code, 413)

    def test_rows_come_in_whatever_their_order_in_the_file(self) -> None:
        """Another program, or a hand, may write the lists of a file the other way round."""
        turned = dict(reversed(self.file.items()))
        turned["setups"] = [dict(reversed(setup.items())) for setup in self.file["setups"]]
        self.assertEqual(self.other.ok("GET", f"/api/builds/{self.came_in(turned)}/export"), self.file)
