"""The road out of plan stops: the first fix of the first one that has one, again and again."""

from __future__ import annotations

from collections.abc import Collection
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


def plan_stops(setup: Setup, context: Context | None = None, also: Collection[str] = ()) -> list[str]:
    """Keys of the findings that hold up the plan, or are among `also`."""
    return [found.finding.key for found in run_checks(Analysis(setup, context)) if found.finding.gate == "plan" or found.finding.key in also]


def packs_of(setup: Setup) -> list[int]:
    """How many packs stand in each row."""
    return [] if setup.bank is None else [len(row.units) for row in setup.bank.rows]


def mended(setup: Setup, context: Context | None = None, *, keep_packs: bool = False, also: Collection[str] = ()) -> Mended:
    """Follow first fixes until no plan stop is left, or none that has a fix.

    keep_packs: of several fixes the first one that leaves the packs as many, and joined, as they are. also: keys of findings that are mended
    before plan stops, whatever stops that brings: the plan is made for what it leads to.
    """
    steps: list[tuple[str, str]] = []
    stops = plan_stops(setup, context, also)
    while stops and len(steps) < MOST_FIXES:
        for stop in sorted(stops, key=lambda key: key not in also):
            offered = next((found.fixes for found in fixes(setup, context, only=stop, first=stop in also)), [])
            if offered:
                break
        else:
            break
        document, now = setup.model_dump(mode="json"), packs_of(setup)
        ways = [(fix, load_setup(jsonpatch.apply_patch(document, fix.patch))) for fix in (offered if keep_packs else offered[:1])]
        fix, setup = next(((fix, then) for fix, then in ways if packs_of(then) == now), ways[0])
        steps.append((stop, fix.label))
        stops = plan_stops(setup, context, also)
    return Mended(setup, tuple(steps), tuple(stops))
