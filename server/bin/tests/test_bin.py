"""What is deleted comes back as it was for thirty days, and is in no list meanwhile."""

from __future__ import annotations

from datetime import timedelta
from tempfile import TemporaryDirectory
from typing import Any

from django.test import override_settings
from django.utils import timezone

from gecko.tests.machines import safe_bike
from server.bin.services import KEEPS, KINDS, empty_old
from server.builds.models import Revision, Setup
from server.logbook.models import JournalEntry, Trial
from server.photos.tests.test_photos import picture
from server.testing import HouseholdCase

PASSES = [{"distance_m": 30.0, "time_s": 8.0, "direction": way} for way in ("out", "back")]


class Bin(HouseholdCase):
    def setUp(self) -> None:
        super().setUp()
        place = self.enterContext(TemporaryDirectory())
        self.enterContext(override_settings(PHOTOS=f"{place}/photos", UPLOADS=f"{place}/uploads"))
        self.build = self.home.build()
        self.at = f"/api/garages/{self.home.garage.pk}"
        self.found, self.changed = (row["id"] for row in self.build["setups"])
        self.home.prove(self.changed, self.build["id"])
        self.trial = self.ok("POST", f"/api/builds/{self.build['id']}/trials", {"setup_id": self.changed, "passes": PASSES})["id"]
        self.entry = self.ok("POST", f"/api/builds/{self.build['id']}/journal", {"kind": "note", "text": "New tyres."})["id"]
        self.part = self.ok("POST", f"{self.at}/rack", {"kind": "fuses", "label": "30 A", "document": {"rating_a": 30}, "quantity": 2})[0]["id"]
        pack = {"kind": "packs", "label": "Pack", "document": {"cells_in_series": 5, "capacity_ah": {"value": 5}}}
        self.pack = self.ok("POST", f"{self.at}/rack", pack)[0]["id"]
        self.line = self.ok("POST", f"{self.at}/rack/{self.pack}/log", {"kind": "rested", "value": 19.8})["id"]
        upload = self.home.upload(picture())
        self.photo = self.ok("POST", f"{self.at}/photos", {"upload": upload, "part": self.pack})["id"]
        self.rider = self.ok("POST", f"{self.at}/riders", {"document": {"name": "Bo", "age_years": 7}})["id"]

    def ok(self, method: str, path: str, body: Any = None) -> Any:
        return self.home.ok(method, path, body)

    def bin(self) -> list[Any]:
        return list(self.ok("GET", f"{self.at}/bin"))

    def back(self, kind: str, row_id: int) -> Any:
        return self.home.send("POST", f"{self.at}/bin/{kind}/{row_id}/back")

    def things(self) -> dict[str, tuple[str, int]]:
        build = f"/api/builds/{self.build['id']}"
        return {
            "trial": (f"{build}/trials/{self.trial}", self.trial),
            "entry": (f"{build}/journal/{self.entry}", self.entry),
            "part": (f"{self.at}/rack/{self.part}", self.part),
            "line": (f"{self.at}/rack/{self.pack}/log/{self.line}", self.line),
            "photo": (f"{self.at}/photos/{self.photo}", self.photo),
            "rider": (f"{self.at}/riders/{self.rider}", self.rider),
            "setup": (f"/api/setups/{self.changed}", self.changed),
            "build": (build, self.build["id"]),
        }

    def seen(self) -> Any:
        """Everything a page shows of this garage, without what only says when it was asked."""
        build = f"/api/builds/{self.build['id']}"
        shown = [
            self.ok("GET", f"{self.at}/index"),
            self.ok("GET", f"{self.at}/rack"),
            self.ok("GET", f"{self.at}/rack/{self.pack}/log"),
            self.ok("GET", f"{self.at}/photos?part={self.pack}"),
            self.ok("GET", self.at)["riders"],
        ]
        if self.home.send("GET", build).status_code == 200:
            shown += [self.ok("GET", build)["setups"], self.ok("GET", f"{build}/trials"), self.ok("GET", f"{build}/journal")]
        return shown

    def test_every_kind_goes_out_of_sight_and_comes_back_as_it_was(self) -> None:
        self.assertEqual(set(self.things()), set(KINDS))
        before = self.seen()
        for kind, (path, row_id) in self.things().items():
            with self.subTest(kind):
                if kind == "setup":
                    self.ok("DELETE", self.things()["trial"][0])
                self.ok("DELETE", path)
                self.assertNotEqual(self.seen(), before)
                mine = next(one for one in self.bin() if one["kind"] == kind)
                self.assertEqual((mine["id"], mine["by"]), (row_id, "ada"))
                self.assertEqual(self.home.send("DELETE", path).status_code, 404)
                self.assertEqual(self.back(kind, row_id).status_code, 204)
                if kind == "setup":
                    self.assertEqual(self.back("trial", self.trial).status_code, 204)
                self.assertEqual(self.seen(), before)
                self.assertEqual(self.bin(), [])

    def test_what_belongs_to_a_build_in_the_bin_lies_there_with_it(self) -> None:
        self.ok("DELETE", self.things()["entry"][0])
        self.ok("DELETE", self.things()["build"][0])
        self.assertEqual([one["kind"] for one in self.bin()], ["build"])
        for method, path in (("GET", f"/api/setups/{self.changed}/standing"), ("GET", f"/api/setups/{self.changed}/revisions")):
            self.assertEqual(self.home.send(method, path).status_code, 404, path)
        self.back("build", self.build["id"])
        self.assertEqual([one["kind"] for one in self.bin()], ["entry"])

    def test_a_trial_waits_for_its_setup(self) -> None:
        self.ok("DELETE", self.things()["trial"][0])
        self.ok("DELETE", self.things()["setup"][0])
        answer = self.back("trial", self.trial)
        self.assertEqual((answer.status_code, answer.json()["code"]), (409, "in_bin"))

    def test_after_thirty_days_it_is_gone_with_what_belongs_to_it(self) -> None:
        self.ok("DELETE", self.things()["trial"][0])
        self.ok("DELETE", self.things()["setup"][0])
        self.assertEqual(empty_old(timezone.now() + KEEPS - timedelta(minutes=1)), 0)
        self.assertEqual(empty_old(timezone.now() + KEEPS + timedelta(minutes=1)), 1, "The setup, its trial with it.")
        self.assertFalse(Setup.with_bin.filter(pk=self.changed).exists() or Trial.with_bin.exists() or Revision.objects.filter(setup=self.changed).exists())
        self.assertEqual(self.back("setup", self.changed).status_code, 404)
        self.assertTrue(JournalEntry.objects.filter(pk=self.entry).exists())

    def test_a_build_goes_for_good_when_it_is_thrown_away(self) -> None:
        self.ok("DELETE", self.things()["build"][0])
        self.ok("DELETE", f"{self.at}/bin/build/{self.build['id']}")
        self.assertEqual((self.bin(), Setup.with_bin.count(), Trial.with_bin.count()), ([], 0, 0))

    def test_a_revision_that_something_in_the_bin_points_at_is_not_written_over(self) -> None:
        self.ok("PUT", f"/api/setups/{self.changed}", {"document": safe_bike(main_fuse__rating_a=25), "based_on": 1})
        newest = Revision.objects.filter(setup=self.changed).order_by("-number").first()
        assert newest is not None
        Trial.objects.filter(pk=self.trial).update(revision=newest)
        Setup.objects.get(pk=self.changed).ticks.all().delete()
        self.ok("DELETE", self.things()["trial"][0])
        self.ok("PUT", f"/api/setups/{self.changed}", {"document": safe_bike(main_fuse__rating_a=20), "based_on": 2})
        newest.refresh_from_db()
        self.assertEqual(newest.document["main_fuse"]["rating_a"], 25)

    def test_another_household_neither_sees_nor_brings_back(self) -> None:
        self.ok("DELETE", self.things()["rider"][0])
        theirs = f"/api/garages/{self.other.garage.pk}/bin"
        self.assertEqual(self.other.ok("GET", theirs), [])
        for method, path in (("GET", f"{self.at}/bin"), ("POST", f"{self.at}/bin/rider/{self.rider}/back"), ("POST", f"{theirs}/rider/{self.rider}/back")):
            self.assertEqual(self.other.send(method, path).status_code, 404, path)
        self.assertEqual(self.home.send("POST", f"{self.at}/bin/garage/1/back").status_code, 404)
