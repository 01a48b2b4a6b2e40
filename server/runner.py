"""The tests' database is a file, as the server's is."""

from __future__ import annotations

from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any

from django.conf import settings as django_settings
from django.db import connection
from django.test.runner import DiscoverRunner


class OnFile(DiscoverRunner):
    """Django's runner over a database file in a folder of its own.

    In memory, the threads of a live server would share one connection: a read of one stands in the way of a write of the other
    ("table is locked"), which no waiting mends and no real server does.
    """

    def setup_databases(self, **kwargs: Any) -> list[tuple[Any, str, bool]]:
        """The file, thrown away afterwards: nothing is synced, and each commit reaches the file that workers copy."""
        self._folder = TemporaryDirectory(prefix="gecko-test-", ignore_cleanup_errors=True)
        # Files on their way in belong to that database.
        django_settings.UPLOADS = Path(self._folder.name) / "uploads"
        settings = connection.settings_dict
        settings["TEST"]["NAME"] = str(Path(self._folder.name) / "gecko.sqlite3")
        settings["OPTIONS"]["init_command"] += "PRAGMA synchronous=OFF; PRAGMA wal_autocheckpoint=1;"
        return super().setup_databases(**kwargs)

    def teardown_databases(self, old_config: list[tuple[Any, str, bool]], **kwargs: Any) -> None:
        """The folder goes with whatever workers left in it."""
        super().teardown_databases(old_config, **kwargs)
        self._folder.cleanup()
