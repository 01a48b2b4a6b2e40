"""Registers the rules and runs them."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from functools import cache
from importlib import import_module
from typing import Literal

from gecko.analysis.whole import Analysis
from gecko.answers.evaluation import Answer, Finding, Gate, Severity, Stage
from gecko.common.documents import Document
from gecko.document.setup import Setup
from gecko.rules.margins import FORBIDDEN, Margin

Change = Callable[[Document], None]
"""Changes a Setup document in place."""


@dataclass(frozen=True)
class Edit:
    """A change that may clear a finding: a label, and a function that changes a Setup document in place."""

    label: str
    change: Change


Later = Callable[[], tuple[Edit, ...]]
"""Edits that take work to find, so they are looked for only where fixes are asked for."""


@dataclass(frozen=True)
class Trip:
    """A rule that tripped: severity, title, because (with this setup's numbers), what to do, where, and edits to try.

    margin: how far a stop is over its limit. gate: what a stop holds up.
    """

    severity: Severity
    title: str
    because: str
    instruction: str
    path: str = ""
    edits: tuple[Edit | Later, ...] = ()
    place: str = ""
    station: str = ""
    """The station it is about, where it is not the rule's own."""
    gate: Gate = "plan"
    observable: bool = False
    """A stop that what somebody saw or measured can close; else it takes a change, an entry or an overrule."""
    margin: Margin = FORBIDDEN
    likely: float | None = None
    """Share of the likely cases in which the limit is passed. [1]"""
    question: str = ""
    answers: tuple[Answer, ...] = ()


Needs = Literal["document", "bank", "machine"]
"""What must be known before a rule can speak."""
Check = Callable[[Analysis], Iterable[Trip]]
SetupCheck = Callable[[Setup], Iterable[Trip]]
"""A check that reads what was entered, and nothing that is computed from it."""


@dataclass(frozen=True)
class Rule:
    """A registered rule."""

    id: str
    station: str
    stage: Stage
    principle: str
    needs: Needs
    check: Check
    module: str
    """Where its check stands."""


RULES: dict[str, Rule] = {}

_RANK = {"stop": 0, "caution": 1, "note": 2}


def rule(rule_id: str, *, station: str, stage: Stage, principle: str, needs: Needs = "machine") -> Callable[[Check], Check]:
    """Register a check. `needs` says what must be known before it can speak."""

    def register(check: Check) -> Check:
        RULES[rule_id] = Rule(rule_id, station, stage, principle, needs, check, check.__module__)
        return check

    return register


def setup_rule(rule_id: str, *, station: str, stage: Stage, principle: str, needs: Needs = "document") -> Callable[[SetupCheck], SetupCheck]:
    """Register a check that needs the setup alone."""

    def register(check: SetupCheck) -> SetupCheck:
        RULES[rule_id] = Rule(rule_id, station, stage, principle, needs, lambda analysis: check(analysis.setup), check.__module__)
        return check

    return register


@dataclass(frozen=True)
class Found:
    """A finding with the edits that may clear it."""

    finding: Finding
    offered: tuple[Edit | Later, ...]

    @property
    def edits(self) -> tuple[Edit, ...]:
        """The edits, in the order they are worth trying."""
        return tuple(edit for one in self.offered for edit in ((one,) if isinstance(one, Edit) else one()))


def _applies(rule: Rule, analysis: Analysis) -> bool:
    if rule.needs == "machine":
        return analysis.machine is not None
    return rule.needs == "document" or analysis.setup.bank is not None


def _found(analysis: Analysis, rules: Iterable[Rule]) -> Iterator[Found]:
    for entry in rules:
        if not _applies(entry, analysis):
            continue
        for trip in entry.check(analysis):
            stop = trip.severity == "stop"
            key = f"{entry.id}@{trip.place}" if trip.place else entry.id
            yield Found(
                Finding(
                    id=entry.id,
                    key=key,
                    severity=trip.severity,
                    station=trip.station or entry.station,
                    stage=entry.stage,
                    title=trip.title,
                    because=trip.because,
                    instruction=trip.instruction,
                    principle=entry.principle,
                    path=trip.path,
                    gate=trip.gate if stop else None,
                    observable=stop and trip.observable,
                    asked=float(trip.margin.asked),
                    stands=float(trip.margin.stands),
                    unit=trip.margin.unit,
                    likely=trip.likely,
                    as_found=stop and analysis.context.is_baseline,
                    question=trip.question,
                    answers=list(trip.answers),
                ),
                trip.edits,
            )


ROOMS = ("looks", "rack", "drive", "fuse", "path", "bay", "auxiliary", "charging", "condition", "controller", "data", "hookup", "motor", "pack", "ride")
"""The modules of rules, in the order their findings are told; within one, as its rules stand there."""


@cache
def every_rule() -> tuple[Rule, ...]:
    """All rules, in the same order whatever was loaded first."""
    modules = [f"{__package__}.{room}" for room in ROOMS]
    for module in modules:
        import_module(module)
    return tuple(sorted(RULES.values(), key=lambda rule: modules.index(rule.module)))


def run_checks(analysis: Analysis) -> list[Found]:
    """Every finding of a setup, stops first, in the order of `ROOMS` within a severity."""
    return sorted(_found(analysis, every_rule()), key=lambda found: _RANK[found.finding.severity])


def still_found(analysis: Analysis, finding: Finding) -> bool:
    """Whether a setup still has a finding another one had; asks its rule alone."""
    return any(found.finding.key == finding.key for found in _found(analysis, [RULES[finding.id]]))
