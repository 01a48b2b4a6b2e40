"""What is computed is kept in an SQLite file of its own, which all web processes share. Losing it costs time and nothing else."""

from __future__ import annotations

import sqlite3
from contextlib import closing, suppress
from pathlib import Path
from typing import Any
from urllib.parse import quote

from django.core.cache import cache
from django.core.cache.backends.base import DEFAULT_TIMEOUT
from django.core.cache.backends.db import DatabaseCache
from django.core.management import CommandError, call_command
from django.db import DatabaseError, connections, transaction

ALIAS = "cache"


def begin(file: Path, program: str) -> None:
    """A file to keep answers in: the present one if the same program made it, else a new one, because another program computes other answers. Raises
    OSError where nothing may be written."""
    marker = file.with_suffix(".program")
    with suppress(OSError, UnicodeDecodeError):
        if marker.read_text(encoding="utf-8") == program and whole(file):
            return
    for name in ("", "-wal", "-shm"):
        file.with_name(file.name + name).unlink(missing_ok=True)
    file.touch(0o600)
    marker.touch(0o600)
    marker.write_text(program, encoding="utf-8")


def make_table() -> None:
    """The table in that file, by whichever process that answers comes first. Where none can be made, nothing is kept."""
    if ALIAS in connections:
        with suppress(CommandError, DatabaseError):
            call_command("createcachetable", database=ALIAS, verbosity=0)


def whole(file: Path) -> bool:
    """Whether an SQLite file can be read through."""
    with suppress(sqlite3.Error), closing(sqlite3.connect(f"file:{quote(str(file))}?mode=ro", uri=True)) as connection:
        return bool(connection.execute("PRAGMA quick_check").fetchone() == ("ok",))
    return False


class SharedCache(DatabaseCache):
    """Django's cache in a database. If the file cannot be read or written, it simply keeps nothing."""

    def get_many(self, keys: Any, version: int | None = None) -> dict[str, Any]:
        """What of the keys is kept."""
        with suppress(DatabaseError):
            return dict(super().get_many(keys, version))
        return {}

    def set(self, key: str, value: Any, timeout: Any = DEFAULT_TIMEOUT, version: int | None = None) -> None:
        """Keep a value, where that can be."""
        with suppress(DatabaseError):
            super().set(key, value, timeout, version)

    def add(self, key: str, value: Any, timeout: Any = DEFAULT_TIMEOUT, version: int | None = None) -> bool:
        """Keep a value where none is kept yet."""
        with suppress(DatabaseError):
            return bool(super().add(key, value, timeout, version))
        return False

    def delete(self, key: str, version: int | None = None) -> bool:
        """Keep it no longer."""
        with suppress(DatabaseError):
            return bool(super().delete(key, version))
        return False

    def delete_many(self, keys: Any, version: int | None = None) -> None:
        """Keep these no longer."""
        with suppress(DatabaseError):
            super().delete_many(keys, version)

    def clear(self) -> None:
        """Keep nothing any longer."""
        with suppress(DatabaseError):
            super().clear()


def forget_when_done() -> None:
    """After a deletion is committed, clear all kept answers, so that nothing computed from what was deleted stays. Answers are computed anew when
    they are asked for."""
    transaction.on_commit(cache.clear)


class CacheRouter:
    """The cache's table lives in the cache's file, and nothing else does."""

    def db_for_read(self, model: Any, **_: Any) -> str | None:
        """Where a model is read."""
        return ALIAS if model._meta.app_label == "django_cache" else None

    db_for_write = db_for_read

    def allow_migrate(self, db: str, app_label: str, **_: Any) -> bool | None:
        """Whether a table is made in a database."""
        return app_label == "django_cache" if db == ALIAS else None if app_label != "django_cache" else False
