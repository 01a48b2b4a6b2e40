"""What is computed is kept in an SQLite file of its own, which all web processes share. Losing it costs time and nothing else."""

from __future__ import annotations

from contextlib import suppress
from typing import Any

from django.core.cache.backends.base import DEFAULT_TIMEOUT
from django.core.cache.backends.db import DatabaseCache
from django.db import DatabaseError

ALIAS = "cache"


class SharedCache(DatabaseCache):
    """Django's cache in a database; one that cannot be read or written just keeps nothing."""

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


class CacheRouter:
    """The cache's table lives in the cache's file, and nothing else does."""

    def db_for_read(self, model: Any, **_: Any) -> str | None:
        """Where a model is read."""
        return ALIAS if model._meta.app_label == "django_cache" else None

    db_for_write = db_for_read

    def allow_migrate(self, db: str, app_label: str, **_: Any) -> bool | None:
        """Whether a table is made in a database."""
        return app_label == "django_cache" if db == ALIAS else None if app_label != "django_cache" else False
