"""What the edges of rules share: parts in few words, and what a rule finds on a machine."""

from __future__ import annotations

from typing import Any
from unittest import TestCase

from gecko.analysis.whole import Analysis
from gecko.answers.evaluation import Finding, Outcome
from gecko.document.context import Context
from gecko.document.setup import Setup
from gecko.plans.evaluate import evaluate
from gecko.rules.registry import run_checks
from gecko.tests.machines import named

CELLS_10 = {"label": "p", "cells_in_series": 10, "capacity_ah": named(6), "age": "new"}
CHARGER = {"label": "bench charger", "end_v": named(42), "amps_a": named(2)}


def cells(n: int, chemistry: str = "li-ion", **more: Any) -> list[dict[str, Any]]:
    """One row of one pack with `n` cells in series, 6 Ah."""
    return [{"units": [{"label": "p", "chemistry": chemistry, "cells_in_series": n, "capacity_ah": named(6), **more}]}]


def rows(*units: dict[str, Any], fuse_v: float = 58) -> list[dict[str, Any]]:
    """Rows of one pack each, every row behind its own 20 A fuse."""
    return [{"units": [unit], "fuse": {"rating_a": 20, "dc_volts_v": fuse_v}} for unit in units]


class Edges(TestCase):
    def found(self, setup: Setup, rule_id: str, context: Context | None = None) -> list[Finding]:
        return [f.finding for f in run_checks(Analysis(setup, context)) if f.finding.id == rule_id]

    def one(self, setup: Setup, rule_id: str, severity: str, context: Context | None = None) -> Finding:
        """The only finding of a rule, whose severity is as expected."""
        found = self.found(setup, rule_id, context)
        self.assertEqual([f.severity for f in found], [severity], f"{rule_id}: {[f.because for f in found]}")
        return found[0]

    def none(self, setup: Setup, rule_id: str, context: Context | None = None) -> None:
        self.assertEqual([f.because for f in self.found(setup, rule_id, context)], [])

    def outcome(self, setup: Setup) -> Outcome:
        outcome = evaluate(setup).outcome
        assert outcome is not None
        return outcome
