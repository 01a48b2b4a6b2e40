"""The shared cache keeps what fits; one that is broken keeps nothing and stops nobody."""

from __future__ import annotations

import sqlite3
import stat
import tempfile
from contextlib import closing
from pathlib import Path

from django.core.cache import cache
from django.core.management import call_command
from django.test import SimpleTestCase, TestCase

from server.cache import CacheRouter, SharedCache, begin, forget_when_done
from server.garage.models import Garage


class Shared(TestCase):
    def test_it_keeps_and_lets_go(self) -> None:
        with self.settings(CACHES={"default": {"BACKEND": "server.cache.SharedCache", "LOCATION": "kept"}}):
            call_command("createcachetable", verbosity=0)
        kept = SharedCache("kept", {"OPTIONS": {"MAX_ENTRIES": 20}})
        for n in range(60):
            kept.set(f"k{n}", "x" * n)
        self.assertEqual(kept.get("k59"), "x" * 59)
        self.assertLess(sum(kept.get(f"k{n}") is not None for n in range(60)), 40)
        self.assertTrue(kept.add("wrong-codes", 0))
        self.assertEqual(kept.incr("wrong-codes"), 1)
        kept.delete("k59")
        self.assertIsNone(kept.get("k59"))

    def test_without_a_file_nothing_is_kept_and_nobody_is_stopped(self) -> None:
        broken = SharedCache("not_there", {})
        broken.set("a", 1)
        broken.delete("a")
        self.assertIsNone(broken.get("a"))
        self.assertEqual(broken.get("a", 5), 5)


class FromStartToStart(TestCase):
    def test_answers_of_the_same_program_are_kept_and_no_others(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "cache.sqlite3"
            begin(file, "1 abc")
            self.assertEqual(stat.S_IMODE(file.stat().st_mode), 0o600)
            with closing(sqlite3.connect(file)) as kept:
                kept.execute("CREATE TABLE kept (a)")
            begin(file, "1 abc")
            self.assertEqual(self.tables(file), [("kept",)])
            begin(file, "1 def")
            self.assertEqual(self.tables(file), [])
            begin(file, "1 def")
            file.write_bytes(b"SQLite format 3 no more" * 100)
            begin(file, "1 def")
            self.assertEqual(self.tables(file), [])

    def tables(self, file: Path) -> list[tuple[str]]:
        with closing(sqlite3.connect(file)) as kept:
            return kept.execute("SELECT name FROM sqlite_master").fetchall()

    def test_what_was_computed_goes_with_what_is_deleted_once_that_holds(self) -> None:
        cache.set("answer", 1)
        with self.captureOnCommitCallbacks(execute=True):
            forget_when_done()
            self.assertEqual(cache.get("answer"), 1)
        self.assertIsNone(cache.get("answer"))


class Routes(SimpleTestCase):
    def test_the_caches_table_and_nothing_else_lives_in_its_file(self) -> None:
        router = CacheRouter()
        self.assertIsNone(router.db_for_read(Garage))
        self.assertEqual([router.allow_migrate(db, app) for db in ("cache", "default") for app in ("django_cache", "garage")], [True, False, False, None])
