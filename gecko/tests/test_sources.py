"""Every formula of the physics says where it comes from."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from pathlib import Path
from typing import TypeGuard
from unittest import TestCase

ROOM = Path(__file__).resolve().parents[1] / "physics"
GIVES_A_NUMBER = re.compile(r"float|Number|Array|Source|OperatingPoint|Matrix|Drive|Supply|Warm|Ground|Move|Step|Waits|Heat\b|Lap|Launch|Hill|SpeedSet")
SAYS = re.compile(r"(Source: [^.]{8,}|Derived here: [^.]{12,}|planning values?\b)", re.IGNORECASE)
COUNTS = {"space_for", "width_of", "samples_of", "halved", "points", "recommended", "fuse_for"}
"""They give a number of places, or which of several; nobody derives that."""


def _is_formula(one: ast.stmt) -> TypeGuard[ast.FunctionDef]:
    if not isinstance(one, ast.FunctionDef) or one.name.startswith("_") or one.name in COUNTS or one.returns is None:
        return False
    return GIVES_A_NUMBER.search(ast.unparse(one.returns)) is not None


def formulas() -> Iterator[tuple[str, ast.FunctionDef]]:
    """Public functions and methods that give numbers, with the place each stands at."""
    for file in sorted(ROOM.rglob("*.py")):
        tree = ast.parse(file.read_text(encoding="utf-8"))
        bodies = [tree.body, *(one.body for one in tree.body if isinstance(one, ast.ClassDef))]
        yield from ((f"{file.relative_to(ROOM)}:{one.lineno} {one.name}", one) for body in bodies for one in body if _is_formula(one))


class Sources(TestCase):
    def test_every_formula_names_its_source_or_is_derived_or_a_planning_value(self) -> None:
        silent = [place for place, one in formulas() if not SAYS.search(ast.get_docstring(one) or "")]
        self.assertEqual(silent, [], "Say `Source:`, `Derived here:` with the line that derives it, or that it is a planning value.")

    def test_the_check_sees_them(self) -> None:
        self.assertGreater(sum(1 for _ in formulas()), 130)
        self.assertFalse(SAYS.search("Volts of a thing. [V]"))
        self.assertFalse(SAYS.search("Source: [V]"))
        self.assertTrue(SAYS.search("Source: Ohm's law of resistances."))

    def test_most_outside_of_the_compiled_ride_have_an_example(self) -> None:
        """What is compiled cannot be tried from its docstring; `test_balance.py` holds it against the same formulas in plain Python."""
        tried = [">>>" in (ast.get_docstring(one) or "") for place, one in formulas() if not place.startswith("ride/")]
        self.assertGreaterEqual(sum(tried) / len(tried), 0.6)
