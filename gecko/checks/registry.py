"""Registers the rules and runs them."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from typing import Any, Literal

from gecko.analysis import Analysis
from gecko.evaluation import Finding, Severity, Stage

Document = dict[str, Any]


@dataclass(frozen=True)
class Edit:
    """A change that may clear a finding: a label, and a function that changes a Setup document in place."""

    label: str
    change: Callable[[Document], None]


@dataclass(frozen=True)
class Trip:
    """A rule that tripped: severity, title, because (with this setup's numbers), what to do, where, and edits to try."""

    severity: Severity
    title: str
    because: str
    instruction: str
    path: str = ""
    edits: tuple[Edit, ...] = ()
    place: str = ""
    station: str = ""
    """The station it is about, where it is not the rule's own."""


@dataclass(frozen=True)
class Rule:
    """A registered rule."""

    id: str
    station: str
    stage: Stage
    principle: str
    needs: Literal["document", "bank", "machine"]
    check: Callable[[Analysis], Iterable[Trip]]


RULES: dict[str, Rule] = {}

_PROTECTION = ("fuse.", "wire.", "plug.", "switch.", "pack.guard", "pack.isolate")
"""On a baseline these speak, but do not block riding the machine as found."""

_RANK = {"stop": 0, "caution": 1, "note": 2}


def rule(
    rule_id: str,
    *,
    station: str,
    stage: Stage,
    principle: str,
    needs: Literal["document", "bank", "machine"] = "machine",
) -> Callable[[Callable[[Analysis], Iterable[Trip]]], Callable[[Analysis], Iterable[Trip]]]:
    """Register a check. `needs` says what must be known before it can speak."""

    def register(check: Callable[[Analysis], Iterable[Trip]]) -> Callable[[Analysis], Iterable[Trip]]:
        RULES[rule_id] = Rule(rule_id, station, stage, principle, needs, check)
        return check

    return register


@dataclass(frozen=True)
class Found:
    """A finding with the edits that may clear it."""

    finding: Finding
    edits: tuple[Edit, ...]


def _applies(rule: Rule, analysis: Analysis) -> bool:
    if rule.needs == "machine":
        return analysis.machine is not None
    return rule.needs == "document" or analysis.setup.bank is not None


def _found(analysis: Analysis) -> Iterator[Found]:
    for entry in RULES.values():
        if not _applies(entry, analysis):
            continue
        for trip in entry.check(analysis):
            severity = trip.severity
            if severity == "stop" and analysis.context.is_baseline and entry.id.startswith(_PROTECTION):
                severity = "caution"
            key = f"{entry.id}@{trip.place}" if trip.place else entry.id
            yield Found(
                Finding(
                    id=entry.id,
                    key=key,
                    severity=severity,
                    station=trip.station or entry.station,
                    stage=entry.stage,
                    title=trip.title,
                    because=trip.because,
                    instruction=trip.instruction,
                    principle=entry.principle,
                    path=trip.path,
                    blocks=severity == "stop",
                ),
                trip.edits,
            )


def run_checks(analysis: Analysis) -> list[Found]:
    """Every finding of a setup, stops first, in the order of the trail within a severity."""
    import gecko.checks.auxiliary
    import gecko.checks.bay
    import gecko.checks.charging
    import gecko.checks.controller
    import gecko.checks.data
    import gecko.checks.drive
    import gecko.checks.fuse
    import gecko.checks.hookup
    import gecko.checks.motor
    import gecko.checks.pack
    import gecko.checks.path
    import gecko.checks.ride  # noqa: F401

    return sorted(_found(analysis), key=lambda found: _RANK[found.finding.severity])
