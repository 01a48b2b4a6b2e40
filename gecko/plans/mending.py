"""The road out of plan stops: the first fix of the first one that has one, again and again."""

from __future__ import annotations

from dataclasses import dataclass

import jsonpatch

from gecko.analysis.whole import Analysis
from gecko.document.context import Context
from gecko.document.setup import Setup, load_setup
from gecko.plans.fixes import fixes
from gecko.rules.registry import run_checks

MOST_FIXES = 12
"""So many fixes are followed at most. [1]"""


@dataclass(frozen=True)
class Mended:
    """A setup after the fixes, what they were for and called, and the keys of the plan stops that are left."""

    setup: Setup
    steps: tuple[tuple[str, str], ...]
    left: tuple[str, ...]

    @property
    def labels(self) -> tuple[str, ...]:
        """What was changed, step by step."""
        return tuple(label for _, label in self.steps)


def plan_stops(setup: Setup, context: Context | None = None) -> list[str]:
    """Keys of the findings that hold up the plan."""
    return [found.finding.key for found in run_checks(Analysis(setup, context)) if found.finding.gate == "plan"]


def packs_of(setup: Setup) -> list[int]:
    """How many packs stand in each row."""
    return [] if setup.bank is None else [len(row.units) for row in setup.bank.rows]


def mended(setup: Setup, context: Context | None = None, *, keep_packs: bool = False) -> Mended:
    """Follow first fixes until no plan stop is left, or none that has a fix.

    keep_packs: of several fixes the first one that leaves the packs as many, and joined, as they are.
    """
    steps: list[tuple[str, str]] = []
    stops = plan_stops(setup, context)
    while stops and len(steps) < MOST_FIXES:
        for stop in stops:
            offered = next((found.fixes for found in fixes(setup, context, only=stop)), [])
            if offered:
                break
        else:
            break
        document, now = setup.model_dump(mode="json"), packs_of(setup)
        ways = [(fix, load_setup(jsonpatch.apply_patch(document, fix.patch))) for fix in (offered if keep_packs else offered[:1])]
        fix, setup = next(((fix, then) for fix, then in ways if packs_of(then) == now), ways[0])
        steps.append((stop, fix.label))
        stops = plan_stops(setup, context)
    return Mended(setup, tuple(steps), tuple(stops))
