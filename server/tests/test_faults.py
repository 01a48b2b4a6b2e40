"""A full disk, a database that may not be written, one that is busy: told for what it is, and nothing half."""

from __future__ import annotations

import logging
import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager, suppress
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any
from unittest.mock import patch

from django.db import OperationalError, connection
from django.test import TransactionTestCase, override_settings

from gecko.tests.machines import safe_bike
from server.accounts.models import Instance
from server.builds.models import Build
from server.exchange import storing
from server.exchange.photos import Stored
from server.garage.models import Garage
from server.keeping import backups
from server.testing import Household
from server.tests.test_requests import PASSES
from server.uploads.models import Upload


def everything() -> list[str]:
    """All rows of all tables but who is signed in, as the database itself writes them out."""
    with closing(sqlite3.connect(connection.settings_dict["NAME"])) as database:
        return [line for line in database.iterdump() if not any(table in line for table in ("accounts_device", "django_session", "filler"))]


@contextmanager
def disk_full() -> Iterator[None]:
    """No page more than there is, and what was free is filled."""
    with connection.cursor() as cursor:
        cursor.execute("CREATE TABLE IF NOT EXISTS filler (stuff BLOB)")
        cursor.execute("PRAGMA max_page_count")
        before = cursor.fetchone()[0]
        cursor.execute("PRAGMA wal_checkpoint(TRUNCATE)")
        cursor.execute("PRAGMA page_count")
        cursor.execute(f"PRAGMA max_page_count = {cursor.fetchone()[0]}")
        for size in (3000, 300, 30):
            with suppress(OperationalError):
                while True:
                    cursor.execute("INSERT INTO filler VALUES (zeroblob(%s))", [size])
        try:
            yield
        finally:
            cursor.execute(f"PRAGMA max_page_count = {before}")
            cursor.execute("DROP TABLE filler")


@contextmanager
def may_not_write() -> Iterator[None]:
    """As when the file or its folder is read-only."""
    with connection.cursor() as cursor:
        cursor.execute("PRAGMA query_only = 1")
        try:
            yield
        finally:
            cursor.execute("PRAGMA query_only = 0")


@contextmanager
def busy() -> Iterator[None]:
    """Somebody else writes for longer than one waits."""
    with closing(sqlite3.connect(connection.settings_dict["NAME"], isolation_level=None)) as other, connection.cursor() as cursor:
        cursor.execute("PRAGMA busy_timeout = 50")
        other.execute("BEGIN IMMEDIATE")
        try:
            yield
        finally:
            other.execute("ROLLBACK")
            cursor.execute("PRAGMA busy_timeout = 10000")


class Faults(TransactionTestCase):
    def setUp(self) -> None:
        self.home = Household("ada")
        self.build = self.home.build()
        self.at, self.of = f"/api/garages/{self.home.garage.pk}", f"/api/builds/{self.build['id']}"
        self.setup_id = self.build["setups"][0]["id"]
        # The database's own key is made once, when it is first asked for.
        Instance.current()

    def requests(self) -> list[tuple[str, str, Any]]:
        """One of every kind that writes; each long enough to need a page more than there is."""
        long = "x" * 900
        grown = safe_bike(stock={"volts_v": {"value": 36, "basis": "nameplate"}})
        return [
            ("PUT", f"/api/setups/{self.setup_id}", {"document": grown, "based_on": 1}),
            ("POST", "/api/uploads", {"name": "x" * 200, "size": 5000}),
            ("PUT", f"/api/setups/{self.setup_id}/ticks/safe", {"measured": 0.0}),
            ("POST", f"{self.of}/trials", {"setup_id": self.setup_id, "passes": PASSES * 20, "confirmed": True, "note": "x" * 300}),
            ("POST", f"{self.of}/journal", {"text": long}),
            ("POST", f"{self.of}/incidents", {"kind": "crash", "note": "x" * 400, "done": []}),
            ("POST", f"{self.at}/builds", {"name": "New", "family": "quad", "setups": [{"name": "As found", "document": safe_bike()}]}),
            ("DELETE", f"/api/setups/{self.build['setups'][1]['id']}", None),
        ]

    def under(self, fault: Any, status: int, code: str, least: int) -> None:
        """Each request under a fault: refused for what it is and without a trace, or done whole where it needs nothing the fault takes away."""
        refused = 0
        for method, path, body in self.requests():
            with self.subTest(f"{method} {path}"):
                before = everything()
                with fault(), self.assertNoFailure():
                    answer = self.home.send(method, path, body)
                if answer.status_code < 300:
                    continue
                refused += 1
                self.assertEqual((answer.status_code, answer.json()["code"]), (status, code))
                self.assertEqual(everything(), before, "Nothing half.")
                again = self.home.send(method, path, body)
                self.assertIn(again.status_code, (200, 204), again.content)
        self.assertGreaterEqual(refused, least)

    @contextmanager
    def assertNoFailure(self) -> Iterator[None]:
        """What the log has of it is the sentence, not a trace."""
        with self.assertLogs("server.api", "ERROR") as logged:
            # One line at least, so that a request that gets through does not end the test.
            logging.getLogger("server.api").error("under a fault")
            yield
        self.assertFalse([line for line in logged.output if "Traceback" in line])

    def test_a_full_disk(self) -> None:
        self.under(disk_full, 507, "disk_full", 2)

    def test_a_database_that_may_not_be_written(self) -> None:
        self.under(may_not_write, 503, "read_only", 8)

    def test_what_may_not_be_written_can_still_be_read(self) -> None:
        for fault in (may_not_write, busy):
            with fault():
                for path in ("/api/session", "/api/garages", self.at, self.of, f"{self.of}/export", f"{self.at}/export", f"{self.at}/bin", f"{self.of}/trials"):
                    answer = self.home.send("GET", path)
                    self.assertEqual(answer.status_code, 200, path)
                    self.assertTrue(self.home.whole(answer), path)

    def test_a_file_read_in_while_the_disk_is_full_is_refused_and_leaves_nothing(self) -> None:
        upload = self.home.upload(self.home.whole(self.home.send("GET", f"{self.at}/export")), "shed.zip")
        builds, store = Build.objects.count(), storing.store_build

        def fills(*args: Any) -> Stored:
            """The disk is full while it is stored, and there is room again once it was told."""
            with disk_full():
                return store(*args)

        with patch.object(storing, "store_build", fills), self.assertLogs("server.exchange", "ERROR"):
            job = self.home.ok("POST", f"{self.at}/imports", {"upload": upload})
        self.assertEqual((job["state"], job["error"]["code"]), ("failed", "not_stored"))
        self.assertEqual((Build.with_bin.count(), Garage.objects.count(), Upload.objects.count()), (builds, 1, 0))

    def test_a_busy_database(self) -> None:
        self.under(busy, 503, "locked_database", 8)

    def test_a_backup_for_which_there_is_no_room_leaves_no_half_one(self) -> None:
        connect = sqlite3.connect

        def small(file: Any, *args: Any, **more: Any) -> sqlite3.Connection:
            """A disk with room for a few pages of a new file."""
            opened: sqlite3.Connection = connect(file, *args, **more)
            if str(file).endswith(".half"):
                opened.execute("PRAGMA max_page_count = 3")
            return opened

        with TemporaryDirectory() as place, override_settings(BACKUPS=place):
            with patch.object(sqlite3, "connect", small), self.assertLogs("server.api", "ERROR"):
                answer = self.home.send("POST", "/api/backups")
            self.assertEqual((answer.status_code, answer.json()["code"]), (507, "disk_full"))
            self.assertEqual(list(Path(place).iterdir()), [])
            # With others writing, or the database read-only, a copy can be made all the same.
            for fault in (may_not_write, busy):
                with fault():
                    name = self.home.ok("POST", "/api/backups")["name"]
            # Putting one back waits for writers, and where they never end is refused and changes nothing.
            before = everything()
            with patch.object(backups, "BUSY_S", 0.2), busy(), self.assertLogs("server.api", "ERROR"):
                answer = self.home.send("POST", f"/api/backups/{name}/restore", {"confirm": name})
            self.assertEqual((answer.status_code, answer.json()["code"]), (503, "locked_database"))
            self.assertEqual(everything(), before)
