"""The tests' database is a file, as the server's is; and what takes longest is begun first."""

from __future__ import annotations

import json
import time
from collections.abc import Iterable, Sequence
from contextlib import suppress
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any
from unittest import TestCase, TestSuite

from django.conf import settings as django_settings
from django.db import connection
from django.test.runner import DiscoverRunner, ParallelTestSuite

TIMES = Path(django_settings.VAR) / "test-times.json"
"""How long each group of tests took the last time, by its name. [s]"""


def name_of(group: TestSuite) -> str:
    """What a group is known by: its package where it is one of several classes, else its class, or its only test."""
    tests = [test.id() for test in group if isinstance(test, TestCase)]
    classes = {name.rpartition(".")[0] for name in tests}
    return tests[0].partition(".")[0] if len(classes) > 1 else tests[0] if len(tests) == 1 else classes.pop() if classes else ""


def taken_apart(groups: Iterable[TestSuite]) -> list[TestSuite]:
    """The groups as they are given to workers.

    A class that says `apart` is taken apart into its tests: they share nothing, and a long class would be waited for at the end. What needs a
    browser is one group: two browsers at a time, each with a server of its own, leave no processor for the rest, and then wait in vain.
    """
    found: list[TestSuite] = []
    in_browser: list[TestCase] = []
    for group in groups:
        tests = [test for test in group if isinstance(test, TestCase)]
        if tests and tests[0].id().startswith("e2e."):
            in_browser += tests
        else:
            found += [type(group)([test]) for test in tests] if tests and getattr(tests[0], "apart", False) else [group]
    return [TestSuite(in_browser), *found] if in_browser else found


def longest_first(groups: Iterable[TestSuite], took: dict[str, float]) -> list[TestSuite]:
    """The groups in the order of how long they took [s], the longest first: two workers then end together. Unknown ones go before all others,
    in the order they come."""
    return sorted(groups, key=lambda group: -took.get(name_of(group), float("inf")))


def _timed(args: tuple[Any, ...]) -> tuple[int, list[Any]]:
    """Run a group in a worker, with how long it took among its events. [s]"""
    began = time.perf_counter()
    index, events = ParallelTestSuite.run_subsuite(args)
    return index, [*events, ("took", -1, time.perf_counter() - began)]


class LongestFirst(ParallelTestSuite):
    """Django's parallel suite, its groups in the order of how long they take."""

    run_subsuite = _timed

    def __init__(self, subsuites: list[TestSuite], *args: Any, **kwargs: Any) -> None:
        self.took: dict[str, float] = {}
        self.before: dict[str, float] = {}
        # A run that was ended while it wrote them tells nothing; the order is then the one they come in.
        with suppress(OSError, ValueError):
            self.before = json.loads(TIMES.read_text(encoding="utf-8"))
        super().__init__(longest_first(taken_apart(subsuites), self.before), *args, **kwargs)

    def handle_event(self, result: Any, tests: list[Any], event: Sequence[Any]) -> None:
        """Pass on what happened; keep how long the group took."""
        if event[0] == "took":
            self.took[name_of(TestSuite(tests))] = round(event[2], 2)
        else:
            super().handle_event(result, tests, event)

    def keep(self) -> None:
        """Keep how long each group took, for the next time."""
        TIMES.parent.mkdir(exist_ok=True)
        TIMES.write_text(json.dumps({**self.before, **self.took}, indent=0, sort_keys=True), encoding="utf-8")


class OnFile(DiscoverRunner):
    """Django's runner over a database file in a folder of its own.

    In memory, the threads of a live server would share one connection: a read of one stands in the way of a write of the other
    ("table is locked"), which no waiting mends and no real server does.
    """

    parallel_test_suite = LongestFirst

    def setup_databases(self, **kwargs: Any) -> list[tuple[Any, str, bool]]:
        """The file, thrown away afterwards: nothing is synced, and each commit reaches the file that workers copy."""
        self._folder = TemporaryDirectory(prefix="gecko-test-", ignore_cleanup_errors=True)
        # Files on their way in, and pictures, belong to that database.
        django_settings.UPLOADS = Path(self._folder.name) / "uploads"
        django_settings.PHOTOS = Path(self._folder.name) / "photos"
        settings = connection.settings_dict
        settings["TEST"]["NAME"] = str(Path(self._folder.name) / "gecko.sqlite3")
        settings["OPTIONS"]["init_command"] += "PRAGMA synchronous=OFF; PRAGMA wal_autocheckpoint=1;"
        return super().setup_databases(**kwargs)

    def run_suite(self, suite: TestSuite, **kwargs: Any) -> Any:
        """Run all tests, and keep how long they took."""
        result = super().run_suite(suite, **kwargs)
        if isinstance(suite, LongestFirst):
            suite.keep()
        return result

    def teardown_databases(self, old_config: list[tuple[Any, str, bool]], **kwargs: Any) -> None:
        """The folder goes with whatever workers left in it."""
        super().teardown_databases(old_config, **kwargs)
        self._folder.cleanup()
