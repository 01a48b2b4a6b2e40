"""Backs up the database while the server runs."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand

from server.keeping import backups


class Command(BaseCommand):
    """`manage.py backup` makes a checked copy and lets old ones go."""

    help = __doc__

    def handle(self, *_args: Any, **_options: Any) -> None:
        made = backups.make()
        self.stdout.write(f"Backed up to {backups.folder() / made.name}, {made.size / 1e6:.1f} MB, checked.")
