"""Reading the reference tables: CSV files with their source in comment lines."""

from __future__ import annotations

import csv
from importlib import resources


def _text(name: str) -> str:
    return resources.files("gecko.reference").joinpath(f"{name}.csv").read_text(encoding="utf-8")


def read_rows(name: str) -> list[dict[str, str]]:
    """Rows of a reference table, comment lines left out."""
    return list(csv.DictReader(line for line in _text(name).splitlines() if not line.startswith("#")))


def source_of(name: str) -> str:
    """The comment lines of a reference table: where its numbers come from."""
    return " ".join(line.lstrip("# ") for line in _text(name).splitlines() if line.startswith("#"))
