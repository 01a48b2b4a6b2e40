"""Django's migrate, with a backup before anything is changed."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.core.management.commands import migrate
from django.db import connection
from django.db.migrations.executor import MigrationExecutor

from server.builds.ticks import carry_over
from server.keeping import backups


class Command(migrate.Command):
    """Backs the database up first where there is one and steps are to be taken."""

    def handle(self, *args: Any, **options: Any) -> None:
        if self._is_old():
            made = backups.make()
            self.stdout.write(f"Backed up before upgrading: {made.name}")
        super().handle(*args, **options)
        excused = carry_over()
        if excused:
            self.stdout.write(f"{excused} new steps of machines that were done are excused.")

    def _is_old(self) -> bool:
        name = connection.settings_dict["NAME"]
        if str(name) == ":memory:" or "mode=memory" in str(name) or not Path(name).is_file():
            return False
        executor = MigrationExecutor(connection)
        return bool(executor.loader.applied_migrations) and bool(executor.migration_plan(executor.loader.graph.leaf_nodes()))
