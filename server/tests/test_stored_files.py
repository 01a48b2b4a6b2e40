"""What an older program kept comes over unchanged: its database, and a garage it saved as a file.

Both are the demo garage as the program wrote it before parts became things with stickers (`stored/`).
"""

from __future__ import annotations

import gzip
import json
import os
import sqlite3
import subprocess
import sys
import zipfile
from collections import Counter
from contextlib import closing
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any
from unittest import TestCase

from django.conf import settings
from django.test import override_settings

from gecko.document.rack.kinds import RACK_KINDS
from gecko.document.setup import load_setup
from server.testing import HouseholdCase

STORED = Path(__file__).parent / "stored"
_SAME = ("builds_build", "builds_setup", "builds_revision", "builds_tick", "logbook_trial", "logbook_journalentry", "garage_rider")
"""Tables of which no row may change, but for what a newer program excuses."""


def lost(old: object, new: object, at: str = "") -> list[str]:
    """Where a value of an older file is another one now, or gone. What a newer program adds does not count."""
    if isinstance(old, dict) and isinstance(new, dict):
        return [found for name, value in old.items() for found in (lost(value, new[name], f"{at}/{name}") if name in new else [f"{at}/{name}"])]
    if isinstance(old, list) and isinstance(new, list) and len(old) == len(new):
        return [found for i, (a, b) in enumerate(zip(old, new, strict=True)) for found in lost(a, b, f"{at}/{i}")]
    return [] if old == new else [at]


def pieces(parts: list[tuple[str, str, Any, int]]) -> Counter[str]:
    """How many there are of each part on a rack, whether they lie in one heap or each with a sticker."""
    found: Counter[str] = Counter()
    for kind, label, document, quantity in parts:
        part = RACK_KINDS[kind].model_validate(document).model_dump(mode="json")
        assert not lost(document, part), label
        found[json.dumps([kind, label, part], sort_keys=True)] += quantity
    return found


class Database(TestCase):
    def setUp(self) -> None:
        self.folder = Path(self.enterContext(TemporaryDirectory()))
        (self.folder / "gecko.sqlite3").write_bytes(gzip.decompress((STORED / "database-before-the-rack.sqlite3.gz").read_bytes()))
        self.before = {name: self.rows(name) for name in (*_SAME, "garage_rackpart")}
        command = [sys.executable, "manage.py", "migrate", "-v", "0", "--skip-checks"]
        subprocess.run(command, cwd=settings.ROOT, env={**os.environ, "GECKO_VAR": str(self.folder)}, check=True, capture_output=True)

    def rows(self, table: str) -> dict[int, dict[str, Any]]:
        with closing(sqlite3.connect(self.folder / "gecko.sqlite3")) as opened:
            opened.row_factory = sqlite3.Row
            return {row["id"]: dict(row) for row in opened.execute(f'select * from "{table}"')}

    def test_no_row_changes_and_every_setup_can_be_read(self) -> None:
        for name in _SAME:
            after = self.rows(name)
            new = {key: after.pop(key) for key in after.keys() - self.before[name].keys()}
            # A step that came with a newer program is ticked as not done where all were done.
            self.assertTrue(all(row.get("excused") for row in new.values()), name)
            for key, row in self.before[name].items():
                done, still = (set(json.loads(one or "{}").get("steps", [])) for one in (row.pop("completed", None), after[key].get("completed")))
                self.assertLessEqual(done, still)
            self.assertEqual((after.keys(), lost(self.before[name], after)), (self.before[name].keys(), []), name)
        for row in self.rows("builds_revision").values():
            document = json.loads(row["document"])
            self.assertEqual(lost(document, load_setup(document).model_dump(mode="json")), [])

    def test_a_heap_of_packs_becomes_packs_with_stickers_and_none_is_lost(self) -> None:
        def counted(rows: dict[int, dict[str, Any]]) -> Counter[str]:
            return pieces([(row["kind"], row["label"], json.loads(row["document"]), row["quantity"]) for row in rows.values()])

        after = self.rows("garage_rackpart")
        self.assertEqual(counted(after), counted(self.before["garage_rackpart"]))
        self.assertTrue(all(row["letter"] and row["quantity"] == 1 for row in after.values() if row["kind"] == "packs"))
        self.assertEqual(len({row["key"] for row in after.values()}), len(after))


class SavedGarage(HouseholdCase):
    def test_it_is_read_in_whole_and_written_again_with_all_that_was_in_it(self) -> None:
        self.enterContext(override_settings(UPLOADS=self.enterContext(TemporaryDirectory())))
        content = (STORED / "garage-before-the-rack.zip").read_bytes()
        job = self.other.read_in(content, "shed.zip")
        self.assertEqual((job["state"], job["came_in"]["left_out"]), ("done", []))
        again = self.other.whole(self.other.send("GET", f"/api/garages/{self.other.garage.pk}/export"))
        (self.folder / "again.zip").write_bytes(again)
        old, new = (self.files(path) for path in (STORED / "garage-before-the-rack.zip", self.folder / "again.zip"))
        heads = old.pop("garage.json"), new.pop("garage.json")
        self.assertEqual(sorted(one["name"] for one in old.values()), sorted(one["name"] for one in new.values()))
        for one in old.values():
            came = next(other for other in new.values() if other["name"] == one["name"])
            self.assertEqual(lost(self.of_the_machine(one), self.of_the_machine(came)), [])
        racks = [pieces([(one["kind"], one["label"], one["document"], one["quantity"]) for one in head["rack"]]) for head in heads]
        self.assertEqual(racks[0], racks[1])
        self.assertEqual(lost(heads[0]["riders"], heads[1]["riders"]), [])

    def setUp(self) -> None:
        super().setUp()
        self.folder = Path(self.enterContext(TemporaryDirectory()))

    @staticmethod
    def files(path: Path) -> dict[str, Any]:
        with zipfile.ZipFile(path) as opened:
            return {name: json.loads(opened.read(name)) for name in opened.namelist()}

    @staticmethod
    def of_the_machine(file: dict[str, Any]) -> dict[str, Any]:
        """A build's file without when it was written."""
        return {name: value for name, value in file.items() if name != "exported"}
