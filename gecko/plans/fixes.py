"""Changes that were tried on a finding and hold."""

from __future__ import annotations

from typing import Literal

from pydantic import ValidationError

from gecko.analysis.riding import Rides
from gecko.analysis.whole import Analysis
from gecko.answers.evaluation import (
    CheckedFix,
    FindingFixes,
)
from gecko.common.documents import Document
from gecko.document.context import Context
from gecko.document.setup import Setup, load_setup
from gecko.rules.edits import copied
from gecko.rules.registry import Change, Found, run_checks, still_found
from gecko.rules.tried import checked_fix

Basis = Literal["measured", "nameplate", "assumed"]


def fixes(setup: Setup, context: Context | None = None, *, only: str | None = None, first: bool = False) -> list[FindingFixes]:
    """For each finding the changes that were tried and hold: they clear it and add no stop, at most a question to look at. only: one finding's
    key. first: other stops may come with them, to be mended after."""
    rides: Rides = {}
    now = Analysis(setup, context, rides=rides)
    found = run_checks(now)
    stops = {f.finding.key for f in found if f.finding.severity == "stop"}
    document = setup.model_dump(mode="json")
    tried: dict[str, Tried] = {}
    result = []
    for entry in found:
        if only is not None and entry.finding.key != only:
            continue
        kept: list[CheckedFix] = []
        for edit in entry.edits:
            if len(kept) == MOST_FIXES:
                break
            candidate = _try(document, edit.change, context, entry, None if first else stops, tried, rides)
            if candidate is None or (_rides(now) and not _rides(candidate)):
                continue
            fix = checked_fix(edit.label, now, candidate)
            if all(fix.patch != other.patch for other in kept):
                kept.append(fix)
        result.append(FindingFixes(key=entry.finding.key, fixes=kept))
    return result


MOST_FIXES = 3
"""So many fixes are offered for a finding: the best first, and few enough to choose from. [1]"""

Tried = tuple[Analysis, frozenset[str], frozenset[str]]
"""A setup that was tried, the keys of its findings and those of its stops that no look closes."""


LEAST_RIDE_S = 60.0
"""A setup that rides its course for less does not ride it: it stands on the first slope. [s] This project's planning value."""


def _rides(a: Analysis) -> bool:
    """Whether it gets round its course at all. A change that ends this mends nothing."""
    return a.machine is not None and float(a.ride.run_time_s) >= LEAST_RIDE_S


def _try(
    document: Document,
    change: Change,
    context: Context | None,
    entry: Found,
    stops: set[str] | None,
    tried: dict[str, Tried],
    rides: Rides,
) -> Analysis | None:
    """The setup with a change if that clears the finding and, where its stops are told, adds none but one a look closes, else None."""
    changed = copied(document)
    change(changed)
    try:
        candidate = load_setup(changed)
    except ValidationError:
        # An edit that leads out of what a setup may be is no fix.
        return None
    key = candidate.model_dump_json()
    if key not in tried:
        analysis = Analysis(candidate, context, rides=rides)
        if still_found(analysis, entry.finding):
            return None
        after = run_checks(analysis)
        # A part that is put in may raise a question of its own, to be looked at once it is there; that does no harm.
        harm = frozenset(f.finding.key for f in after if f.finding.severity == "stop" and not f.finding.question)
        tried[key] = (analysis, frozenset(f.finding.key for f in after), harm)
    analysis, keys, new_stops = tried[key]
    if entry.finding.key in keys or (stops is not None and not new_stops <= stops):
        return None
    return analysis
