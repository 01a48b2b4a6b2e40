"""Writes the OpenAPI document the web's types are made from, or checks that it is not stale."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser

from server.api import api
from server.described import described


class Command(BaseCommand):
    """`manage.py openapi` writes server/openapi.json; `--check` only compares."""

    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--check", action="store_true", help="fail when the committed document is stale")

    def handle(self, *_args: Any, **options: Any) -> None:
        file: Path = settings.ROOT / "server" / "openapi.json"
        text = json.dumps(described(api), indent=1, ensure_ascii=False) + "\n"
        if options["check"]:
            if not file.exists() or file.read_text(encoding="utf-8") != text:
                raise CommandError("server/openapi.json is stale: run `make api-types` and commit both files.")
            return
        file.write_text(text, encoding="utf-8")
