"""Backups: a copy that is whole, kept long enough, and comes back without reviving what was revoked."""

from __future__ import annotations

import io
import os
import shutil
import sqlite3
import stat
import tempfile
import threading
from contextlib import closing
from datetime import UTC, datetime, timedelta
from pathlib import Path
from unittest import TestCase
from unittest.mock import patch

from django.contrib.sessions.models import Session
from django.core.cache import cache
from django.core.management import CommandError, call_command
from django.db import connection, transaction
from django.test import TransactionTestCase, override_settings
from django.utils import timezone

from server.accounts.models import Instance
from server.builds.models import Build, Setup
from server.errors import Refused
from server.keeping import backups
from server.logbook.models import JournalEntry
from server.testing import Household


class Rotation(TestCase):
    def test_seven_days_four_weeks_and_twelve_months_are_kept(self) -> None:
        """One a day for two years: seven days, what is newest of four weeks and of twelve months; two days' worth of hours: one each."""
        now = datetime(2026, 11, 29, 12, tzinfo=UTC)
        daily = [now - timedelta(days=n) for n in range(730)]
        stay = backups.kept(daily, now)
        self.assertLessEqual({now - timedelta(days=n) for n in range(7)}, stay)
        weeks = {t.isocalendar()[:2] for t in stay if now - t <= timedelta(weeks=4)}
        self.assertGreaterEqual(len(weeks), 4)
        self.assertGreaterEqual(len({(t.year, t.month) for t in stay}), 12)
        self.assertLess(len(stay), 7 + 5 + 14)
        hourly = [now - timedelta(hours=n) for n in range(72)]
        self.assertEqual(len(backups.kept(hourly, now)), 25 + 2, "All of the last day, then one of each day.")
        old = [now - timedelta(days=3000)]
        self.assertEqual(backups.kept(old, now), set(old), "The newest of all stays, however old.")


class Copies(TransactionTestCase):
    def setUp(self) -> None:
        cache.clear()
        self.place = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.enterContext(override_settings(BACKUPS=self.place))
        self.home = Household("ada")
        self.build = self.home.build("As found", "Changed")

    def test_a_backup_is_a_whole_database_readable_by_its_owner_only(self) -> None:
        made = self.home.ok("POST", "/api/backups")
        file = self.place / made["name"]
        self.assertEqual(stat.S_IMODE(file.stat().st_mode), 0o600)
        self.assertEqual(stat.S_IMODE(self.place.stat().st_mode), 0o700)
        self.assertEqual([path.name for path in self.place.iterdir()], [made["name"]])
        found = self.home.ok("GET", f"/api/backups/{made['name']}")
        self.assertEqual((found["garages"], found["builds"], found["setups"], found["accounts"]), (1, 1, 2, 1))
        self.assertEqual([one["name"] for one in self.home.ok("GET", "/api/backups")], [made["name"]])
        sent = self.home.send("GET", f"/api/backups/{made['name']}/file")
        self.assertEqual(b"".join(sent.streaming_content), file.read_bytes())  # type: ignore[attr-defined]

    def test_what_is_restored_is_what_was_backed_up_and_what_was_there_is_kept(self) -> None:
        made = self.home.ok("POST", "/api/backups")
        first, key = self.build["setups"][1], Instance.current()
        self.home.ok("DELETE", f"/api/setups/{first['id']}")
        Build.objects.update(name="Spoilt")
        refused = self.home.send("POST", f"/api/backups/{made['name']}/restore", {"confirm": "yes"})
        self.assertEqual((refused.status_code, Build.objects.get().name), (422, "Spoilt"))
        before = self.home.ok("POST", f"/api/backups/{made['name']}/restore", {"confirm": made["name"]})["before"]
        self.assertEqual((Build.objects.get().name, Setup.objects.count()), ("Clover", 2))
        self.assertEqual((Session.objects.count(), self.home.send("GET", "/api/garages").status_code), (0, 401))
        self.assertNotEqual(Instance.current(), key, "What browsers keep belongs to the database of before.")
        with closing(sqlite3.connect(self.place / before)) as kept:
            self.assertEqual(kept.execute("SELECT name FROM builds_build").fetchall(), [("Spoilt",)])

    def test_the_backup_that_is_put_back_is_not_the_one_that_has_to_go(self) -> None:
        """An old one of a month that has newer ones: making the backup of the present state would rotate it away."""
        now = timezone.now()
        made = backups.make()
        old = self.place / f"gecko-{(now - timedelta(days=40)).strftime(backups.STAMP)}-000.sqlite3"
        newer = self.place / f"gecko-{(now - timedelta(days=40, seconds=-5)).strftime(backups.STAMP)}-000.sqlite3"
        for copy in (old, newer):
            shutil.copy(self.place / made.name, copy)
        Build.objects.update(name="Spoilt")
        self.home.ok("POST", f"/api/backups/{old.name}/restore", {"confirm": old.name})
        self.assertEqual(Build.objects.get().name, "Clover")
        self.assertTrue(old.exists())
        backups.rotate(now)
        self.assertFalse(old.exists())
        self.assertTrue(newer.exists())

    def test_what_was_left_half_made_goes_after_a_day(self) -> None:
        old = (timezone.now() - timedelta(hours=25)).timestamp()
        half, fresh, place = self.place / "gecko-1.half", self.place / "gecko-2.half", self.place / "restore-x"
        place.mkdir()
        for left in (half, fresh, place / "copy.sqlite3"):
            left.write_bytes(b"half")
        for left in (half, place):
            os.utime(left, (old, old))
        backups.make()
        self.assertEqual([left.exists() for left in (half, fresh, place)], [False, True, False])

    def test_while_others_write_nothing_is_half(self) -> None:
        """Two writers enter notes in pairs: each backup holds whole pairs."""
        over, build = threading.Event(), Build.objects.get()

        def write() -> None:
            try:
                while not over.is_set():
                    with transaction.atomic():
                        for number in (1, 2):
                            JournalEntry.objects.create(build=build, kind="note", text=f"Note {number}.")
            finally:
                connection.close()

        writers = [threading.Thread(target=write) for _ in range(2)]
        for writer in writers:
            writer.start()
        # Rotation would leave one of a day.
        with patch.object(backups, "rotate"):
            names = [backups.make().name for _ in range(8)]
        over.set()
        for writer in writers:
            writer.join()
        counts = []
        for name in names:
            with closing(sqlite3.connect(self.place / name)) as copy:
                counts.append(copy.execute("SELECT count(*) FROM logbook_journalentry").fetchone()[0])
        self.assertEqual([count % 2 for count in counts], [0] * 8)
        self.assertGreater(counts[-1], 0)

    def test_damaged_or_foreign_files_are_refused_and_nothing_is_changed(self) -> None:
        made = backups.make()
        good, bad, foreign, text = (self.place / name for name in (made.name, "bad.sqlite3", "foreign.sqlite3", "text.sqlite3"))
        content = bytearray(good.read_bytes())
        content[20_000:60_000] = b"\xff" * 40_000
        bad.write_bytes(content)
        text.write_text("no database", encoding="utf-8")
        with closing(sqlite3.connect(foreign)) as other:
            other.execute("CREATE TABLE t (a)")
            other.commit()
        for file in (bad, foreign, text):
            with self.subTest(file.name), self.assertRaises(Refused):
                backups.restore(file)
        with self.assertRaises(CommandError):
            call_command("restore", str(text), "--yes")
        self.assertEqual(Build.objects.count(), 1)
        for name in ("..%2f..%2fetc%2fpasswd", "bad.sqlite3", "gecko-20260101-000000-000.sqlite3"):
            self.assertEqual(self.home.send("GET", f"/api/backups/{name}").status_code, 404)

    def test_one_kept_elsewhere_comes_back_through_the_page(self) -> None:
        name = self.home.ok("POST", "/api/backups")["name"]
        kept = (self.place / name).read_bytes()
        (self.place / name).unlink()
        Build.objects.update(name="Spoilt")
        made = self.home.ok("POST", "/api/backups/uploaded", {"upload": self.home.upload(kept)})
        self.assertEqual((Build.objects.get().name, stat.S_IMODE((self.place / made["name"]).stat().st_mode)), ("Spoilt", 0o600))
        foreign = self.home.send("POST", "/api/backups/uploaded", {"upload": self.home.upload(b"no database")})
        self.assertEqual((foreign.status_code, foreign.json()["code"]), (422, "backup_damaged"))
        self.assertEqual([path.name for path in self.place.iterdir()], [made["name"]])
        self.home.ok("POST", f"/api/backups/{made['name']}/restore", {"confirm": made["name"]})
        self.assertEqual(Build.objects.get().name, "Clover")
        other = Household("bo")
        self.assertEqual(other.send("POST", "/api/backups/uploaded", {"upload": other.upload(kept)}).status_code, 403)

    def test_only_the_first_account_keeps_the_server(self) -> None:
        other = Household("bo")
        for method, path in (("GET", "/api/backups"), ("POST", "/api/backups")):
            self.assertEqual(other.send(method, path).status_code, 403)

    def test_by_command_it_shows_what_is_in_it_and_asks(self) -> None:
        made, out = backups.make(), io.StringIO()
        elsewhere = self.place / "kept elsewhere.sqlite3"
        shutil.copy(self.place / made.name, elsewhere)
        Build.objects.update(name="Spoilt")
        with patch("builtins.input", return_value="no"):
            call_command("restore", str(elsewhere), stdout=out)
        self.assertEqual(Build.objects.get().name, "Spoilt")
        self.assertIn("1 builds, 2 setups", out.getvalue())
        with patch("builtins.input", return_value="yes"):
            call_command("restore", str(elsewhere), stdout=out)
        self.assertEqual(Build.objects.get().name, "Clover")

    def test_before_an_upgrade_there_is_a_backup_by_itself_and_else_none(self) -> None:
        call_command("migrate", verbosity=0, stdout=io.StringIO())
        self.assertEqual(backups.listed(), [])
        out = io.StringIO()
        with connection.cursor() as cursor:
            # As a program had it that did not know the newest tables yet.
            cursor.execute("DELETE FROM django_migrations WHERE app = 'accounts' AND name > '0002'")
            for table in ("device", "securityevent", "instance"):
                cursor.execute(f"DROP TABLE accounts_{table}")
        call_command("migrate", verbosity=0, stdout=out)
        self.assertEqual(len(backups.listed()), 1)
        self.assertIn("Backed up before upgrading", out.getvalue())
