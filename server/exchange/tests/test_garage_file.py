"""A whole garage out and in: everything comes along, nothing is seen before it is whole, and nothing of it stays where it fails."""

from __future__ import annotations

import io
import json
import zipfile
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from tempfile import TemporaryDirectory
from typing import Any
from unittest.mock import patch

from django.db import connections
from django.test import TransactionTestCase, override_settings

from server.builds.models import Build, Revision
from server.exchange import jobs, reading, storing
from server.exchange.models import Import
from server.exchange.photos import Stored
from server.exchange.writing import build_file
from server.garage.models import Garage, Membership
from server.testing import Household, HouseholdCase
from server.uploads.models import Upload
from server.uploads.services import folder

FUSE = {"kind": "fuses", "label": "30 A", "document": {"rating_a": 30}, "quantity": 2}


def archive(**files: bytes) -> bytes:
    """A zip of files, their names with - for / and _ for ."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as made:
        for name, content in files.items():
            made.writestr(name.replace("__", "/").replace("_json", ".json"), content)
    return out.getvalue()


def zipped(files: dict[str, Any]) -> bytes:
    """The archive of files by their whole names."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as made:
        for name, content in files.items():
            made.writestr(name, json.dumps(content))
    return out.getvalue()


def files_of(content: bytes) -> dict[str, Any]:
    """What is in an archive, read."""
    with zipfile.ZipFile(io.BytesIO(content)) as opened:
        return {name: json.loads(opened.read(name)) for name in opened.namelist()}


class GarageFile(HouseholdCase):
    def setUp(self) -> None:
        super().setUp()
        self.enterContext(override_settings(UPLOADS=self.enterContext(TemporaryDirectory())))
        at = f"/api/garages/{self.home.garage.pk}"
        self.home.build()
        self.home.build("Only one")
        self.home.ok("POST", f"{at}/rack", FUSE)
        pack = {"kind": "packs", "label": "Garden pack", "document": {"cells_in_series": 7, "capacity_ah": {"value": 4}}, "quantity": 2}
        self.packs = self.home.ok("POST", f"{at}/rack", {**pack, "about": {"price": {"amount": 62, "currency": "EUR"}, "happened": [{"what": "dropped"}]}})
        self.home.ok("POST", f"{at}/rack/{self.packs[0]['id']}/log", {"kind": "capacity", "value": 3.8, "half": 0.1, "when": "2026-03-01T10:00:00Z"})
        self.home.ok("POST", f"{at}/riders", {"document": {"name": "Pip", "age_years": 7}})
        self.home.ok("PATCH", at, {"emergency_number": "112", "units": {"speed": "km/h"}, "house_rules": {"wire_school": "common"}})
        self.file = self.exported(self.home)

    def exported(self, home: Household) -> bytes:
        return home.whole(home.send("GET", f"/api/garages/{home.garage.pk}/export"))

    def test_all_of_it_goes_into_an_empty_garage(self) -> None:
        job = self.other.read_in(self.file, "shed.zip")
        self.assertEqual((job["state"], job["share"]), ("done", 1.0))
        came = job["came_in"]
        self.assertEqual((len(came["builds"]), came["riders"], came["parts"], came["rules"], came["members"]), (2, 1, 3, True, ["ada, owner"]))
        theirs, ours = files_of(self.exported(self.other)), files_of(self.file)
        for files in (theirs, ours):
            for name in ("name", "exported", "members"):
                files["garage.json"].pop(name)
        self.assertEqual(theirs, ours)

    def test_into_another_garage_only_what_is_new_comes_and_its_rules_stay(self) -> None:
        at = f"/api/garages/{self.other.garage.pk}"
        self.other.ok("POST", f"{at}/rack", FUSE)
        self.other.build()
        came = self.other.read_in(self.file)["came_in"]
        # Packs are things: two that are called the same are two others. Fuses are counted, and there already.
        self.assertEqual((len(came["builds"]), came["riders"], came["parts"], came["rules"]), (2, 1, 2, False))
        self.assertEqual(self.other.ok("GET", at)["garage"]["emergency_number"], "")
        self.assertEqual(sorted(self.other.ok("GET", f"{at}/rack")[n]["letter"] for n in (1, 2)), ["A", "B"])
        log = self.other.ok("GET", f"{at}/rack/{self.other.ok('GET', f'{at}/rack')[1]['id']}/log")
        self.assertEqual([(one["kind"], one["value"], one["half"]) for one in log], [("capacity", 3.8, 0.1)])
        again = self.other.read_in(self.file)["came_in"]
        self.assertEqual((again["riders"], again["parts"]), (0, 0))

    def test_a_sticker_that_is_taken_becomes_another(self) -> None:
        at = f"/api/garages/{self.other.garage.pk}/rack"
        self.other.ok("POST", at, {"kind": "packs", "label": "Mine", "document": {"cells_in_series": 5, "capacity_ah": {"value": 5}}})
        self.other.read_in(self.file)
        self.assertEqual(
            sorted((one["label"], one["letter"]) for one in self.other.ok("GET", at) if one["single"]), [("Garden pack", "B"), ("Garden pack", "C"), ("Mine", "A")]
        )

    def test_a_file_of_before_parts_were_things_comes_in_piece_by_piece(self) -> None:
        files = files_of(self.file)
        fuse, pack, _ = files["garage.json"]["rack"]
        files["garage.json"]["rack"] = [{name: one[name] for name in ("kind", "label", "quantity", "document")} | {"quantity": 3} for one in (fuse, pack)]
        self.assertEqual(self.other.read_in(zipped(files))["came_in"]["parts"], 4)
        found = [(one["kind"], one["letter"], one["quantity"]) for one in self.other.ok("GET", f"/api/garages/{self.other.garage.pk}/rack")]
        self.assertEqual(found, [("fuses", "", 3), ("packs", "A", 1), ("packs", "B", 1), ("packs", "C", 1)])

    def test_what_is_wrong_names_the_file_it_is_in_and_changes_nothing(self) -> None:
        files = files_of(self.file)
        builds = sorted(name for name in files if name != "garage.json")

        def spoilt(act: Callable[[dict[str, Any]], Any]) -> bytes:
            copy = json.loads(json.dumps(files))
            act(copy)
            return zipped(copy)

        cases: list[tuple[bytes, str]] = [
            (archive(a=b"1"), ""),
            (spoilt(lambda f: f["garage.json"].update(version=3)), "/version"),
            (spoilt(lambda f: f["garage.json"]["builds"].append("builds/9.json")), "garage.json/builds/2"),
            (spoilt(lambda f: f["garage.json"]["rack"][0].update(quantity=-1)), "garage.json/rack/0/quantity"),
            (spoilt(lambda f: [f[name]["setups"][0]["revisions"][0].update(number=0) for name in builds]), f"{builds[0]}/setups/0/revisions/0/number"),
        ]
        for content, field in cases:
            with self.subTest(field):
                job = self.other.read_in(content)
                self.assertEqual((job["state"], job["error"]["field"]), ("failed", field), job["error"])
        self.assertFalse(self.other.garage.builds.exists() or self.other.garage.rack.exists() or Upload.objects.exists())
        self.assertEqual(list(folder().iterdir()), [])

    def test_one_bad_build_rider_or_part_is_one(self) -> None:
        """The others come in, and what is wrong with it is told."""
        files = files_of(self.file)
        bad = files["garage.json"]["builds"][0]
        files[bad]["setups"][0]["revisions"] = []
        head = files["garage.json"]
        head["rack"] += [{**head["rack"][0], "kind": "unicorns"}, {**head["rack"][0], "document": {"rating_a": -3}}]
        head["riders"].append({"document": {"name": ""}})
        job = self.other.read_in(zipped(files))
        self.assertEqual((job["state"], len(job["came_in"]["builds"]), self.other.garage.builds.count()), ("done", 1, 1))
        self.assertEqual((job["came_in"]["riders"], job["came_in"]["parts"]), (1, 3))
        told = [(left["file"], left["problems"][0]["path"]) for left in job["came_in"]["left_out"]]
        at = "garage.json"
        self.assertEqual(
            told,
            [
                (bad, f"{bad}/setups/0/revisions"),
                (f"{at}/riders/1", f"{at}/riders/1/document/name"),
                (f"{at}/rack/3", f"{at}/rack/3"),
                (f"{at}/rack/4", f"{at}/rack/4/document/rating_a"),
            ],
        )

    def test_limits_are_told(self) -> None:
        with override_settings(MOST_IMPORT_MB=1):
            self.assertEqual(self.other.send("POST", "/api/uploads", {"name": "x", "size": 1_000_001}).status_code, 413)
            bomb = archive(garage_json=b" " * 1_100_000)
            self.assertIn("Unpacked", self.other.read_in(bomb)["error"]["message"])
        with patch.object(reading, "MOST_ROW", 1000):
            self.assertIn("single row", self.other.read_in(json.dumps(files_of(self.file)).encode())["error"]["message"])
        with patch.object(reading, "MOST_ROWS", 0):
            self.assertIn("At most 0", self.other.read_in(self.file)["error"]["problems"][0]["message"])
        with patch.object(reading, "MOST_HEAD", 5):
            self.assertIn("beside its rows", self.other.read_in(self.file)["error"]["message"])

    def test_a_viewer_reads_nothing_in_and_who_became_one_meanwhile_neither(self) -> None:
        upload = self.home.upload(self.file)
        mine = Membership.objects.filter(user=self.home.user)
        switch = jobs._switch

        def demoted(*args: Any) -> None:
            mine.update(role="viewer")
            switch(*args)

        before = Build.objects.count()
        with patch.object(jobs, "_switch", demoted):
            job = self.home.ok("POST", f"/api/garages/{self.home.garage.pk}/imports", {"upload": upload})
        self.assertEqual((job["state"], Build.objects.count()), ("failed", before))
        self.assertEqual(self.home.send("POST", f"/api/garages/{self.home.garage.pk}/imports", {"upload": upload}).status_code, 403)

    def test_stopped_in_the_middle_nothing_stays(self) -> None:
        before, keep = Build.with_bin.count(), storing.store_build

        def stopped(*args: Any) -> Stored:
            Import.objects.update(state="stopped")
            return keep(*args)

        with patch.object(storing, "store_build", stopped):
            job = self.other.read_in(self.file)
        self.assertEqual((job["state"], Build.with_bin.count(), Garage.objects.count(), Upload.objects.count()), ("stopped", before, 2, 0))
        self.other.ok("DELETE", f"/api/garages/{self.other.garage.pk}/imports/{job['id']}")
        self.assertEqual(self.other.ok("GET", f"/api/garages/{self.other.garage.pk}/imports"), [])

    def test_ended_in_the_middle_it_begins_anew_and_comes_in_once(self) -> None:
        """As a kill does it: nothing is caught, nothing cleaned up, and the next start goes on."""
        before, upload = Build.with_bin.count(), self.other.upload(self.file)

        def killed(*_: Any) -> None:
            raise SystemExit

        for place in ("store_build", "store_surroundings"):
            with patch.object(storing, place, killed), patch.object(jobs, "apart", True):
                self.other.ok("POST", f"/api/garages/{self.other.garage.pk}/imports", {"upload": upload})
                with self.assertRaises(SystemExit):
                    jobs.work_off()
            self.assertEqual(self.other.garage.builds.count(), 0, "Nobody sees what is not whole.")
            jobs.begin_again()
        self.assertEqual(jobs.work_off(), 1)
        self.assertEqual((self.other.garage.builds.count(), Build.with_bin.count(), Garage.objects.count()), (2, before + 2, 2))

    def test_what_is_sent_twice_comes_in_once(self) -> None:
        with patch.object(jobs, "apart", True):
            upload = self.other.upload(self.file)
            first, second = (self.other.ok("POST", f"/api/garages/{self.other.garage.pk}/imports", {"upload": upload}) for _ in range(2))
        self.assertEqual(first["id"], second["id"])

    def test_a_restore_stops_and_forgets_what_was_under_way_and_touches_no_real_garage(self) -> None:
        with patch.object(jobs, "apart", True):
            self.other.ok("POST", f"/api/garages/{self.other.garage.pk}/imports", {"upload": self.other.upload(self.file)})
        # As after a restore: the number of the garage out of sight is somebody's.
        Import.objects.update(staging=self.home.garage, state="storing")
        jobs.stop_all()
        jobs.forget_all()
        self.assertEqual((Import.objects.count(), self.home.garage.builds.count()), (0, 2))


class OfOneMoment(TransactionTestCase):
    def test_an_export_is_of_the_moment_it_began(self) -> None:
        """Deleted and saved while it is being read, it is still whole, and writers do not wait for it."""
        home = Household("ada")
        made = home.build()
        document = made["setups"][0]["document"]
        Revision.objects.bulk_create(
            Revision(setup_id=made["setups"][0]["id"], number=n, document=document, created=Revision.objects.first().created)  # type: ignore[union-attr]
            for n in range(2, 300)
        )
        pieces = build_file(Build.objects.get(pk=made["id"]))
        text = next(pieces)

        def delete() -> None:
            Build.objects.all().delete()
            connections.close_all()

        with ThreadPoolExecutor(1) as other:
            other.submit(delete).result(timeout=20)
        text += b"".join(pieces)
        self.assertEqual([len(setup["revisions"]) for setup in json.loads(text)["setups"]], [299, 1])
        self.assertFalse(Build.objects.exists())
