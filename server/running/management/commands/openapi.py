"""Writes the OpenAPI document the web's types are made from and what it offers to choose from, or checks that neither is stale."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser

from server.api import api
from server.choices import as_typescript
from server.described import described


class Command(BaseCommand):
    """`manage.py openapi` writes server/openapi.json and web/src/api/choices.ts; `--check` only compares."""

    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--check", action="store_true", help="fail when the committed document is stale")

    def handle(self, *_args: Any, **options: Any) -> None:
        made = {
            "server/openapi.json": json.dumps(described(api), indent=1, ensure_ascii=False) + "\n",
            "web/src/api/choices.ts": as_typescript(),
        }
        for name, text in made.items():
            file: Path = settings.ROOT / name
            if not options["check"]:
                file.write_text(text, encoding="utf-8")
            elif not file.exists() or file.read_text(encoding="utf-8") != text:
                raise CommandError(f"{name} is stale: run `make api-types` and commit what it writes.")
