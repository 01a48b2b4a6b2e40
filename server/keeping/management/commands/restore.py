"""Puts a backup in place of the database; what is there now is backed up first."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError, CommandParser

from server.errors import Refused
from server.keeping import backups


class Command(BaseCommand):
    """`manage.py restore FILE` shows what is in the file, asks, and restores it."""

    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path)
        parser.add_argument("--yes", action="store_true", help="do not ask")

    def handle(self, *_args: Any, **options: Any) -> None:
        file: Path = options["file"]
        if not file.is_file():
            raise CommandError(f"There is no file {file}.")
        try:
            found = backups.check(file)
        except Refused as error:
            raise CommandError(error.message) from error
        self.stdout.write(
            f"{file.name}: {found.garages} garages, {found.builds} builds, {found.setups} setups, {found.trials} trials, "
            f"{found.accounts} accounts; last changed {found.latest or 'never'}."
        )
        if not options["yes"] and input("Put this in place of what is there now? [yes/no] ").strip().lower() != "yes":
            self.stdout.write("Nothing was changed.")
            return
        before = backups.restore(file)
        call_command("migrate", verbosity=0, interactive=False)
        backups.begin_anew()
        self.stdout.write(f"Restored. What was there before is kept as {before.name}. Everybody signs in anew.")
