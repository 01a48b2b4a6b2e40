"""What stands open between a plan and a ride: stops by what they hold up, what closes them, and which steps they lock.

The one place that says whether a step may be done. The server refuses by it, and every screen and paper reads from it.
"""

from __future__ import annotations

from collections.abc import Collection, Iterable, Sequence
from dataclasses import dataclass
from typing import Literal, Protocol, TypeVar

from gecko.answers.evaluation import Finding, Gate, Out, Stage
from gecko.hookup.shape import Step

GATES: tuple[Gate, ...] = ("plan", "power", "ride")
"""In the order of the work: an open stop holds up its own gate and all that come after it."""

RISE = 1.03
"""What was overruled at certain numbers holds until asked over stands rises by more than this. [1] Source: this project's planning value:
less than a meter's doubt."""


@dataclass(frozen=True)
class Word:
    """What somebody said to a stop: overruled with a reason, or looked at and found in order; and at which numbers, in the stop's unit."""

    finding: str
    kind: Literal["overruled", "observed"]
    asked: float | None
    stands: float | None


class Weighed(Protocol):
    """The parts of a finding that decide whether it stands open."""

    @property
    def key(self) -> str: ...
    @property
    def gate(self) -> Gate | None: ...
    @property
    def observable(self) -> bool: ...
    @property
    def asked(self) -> float | None: ...
    @property
    def stands(self) -> float | None: ...


Stop = TypeVar("Stop", bound=Weighed)


def ratio(asked: float | None, stands: float | None) -> float:
    """How far a stop is over its limit: asked over stands, or asked alone where nothing may be asked at all. [1]

    >>> ratio(30.0, 20.0), ratio(3.0, 0.0)
    (1.5, 3.0)
    """
    if asked is None:
        return 0.0
    return asked / stands if stands is not None and stands > 0.0 else asked


def holds(stop: Weighed, word: Word) -> bool:
    """Whether what was said to a stop still covers it: its numbers have not risen since, and only what may be looked at was observed."""
    if word.kind == "observed" and not stop.observable:
        return False
    if word.asked is None:
        # This was said before stops carried numbers, so it no longer counts and is asked again.
        return False
    return ratio(stop.asked, stop.stands) <= RISE * ratio(word.asked, word.stands) + 1e-12


class OpenStop(Out):
    """A stop that stands open."""

    key: str
    title: str
    gate: Gate
    stage: Stage
    station: str
    path: str
    question: str
    as_found: bool


class Lock(Out):
    """A step that may not be done yet, and why, each reason a sentence."""

    step: str
    reasons: list[str]


class Standing(Out):
    """What stands open, which steps it locks, and what may be done."""

    open: list[OpenStop]
    fallen: list[str]
    """Keys of stops that were overruled or observed at smaller numbers."""
    locked: list[Lock]
    power: bool
    """First power may be given."""
    ride: bool
    """It may be ridden."""

    def of(self, gate: Gate) -> list[OpenStop]:
        """Open stops of one gate."""
        return [stop for stop in self.open if stop.gate == gate]

    def reasons(self, step: str) -> list[str]:
        """Why a step may not be done, empty when it may."""
        return next((lock.reasons for lock in self.locked if lock.step == step), [])


def open_stops(findings: Iterable[Stop], words: Iterable[Word]) -> tuple[list[Stop], list[str]]:
    """Stops neither overruled nor observed at their present numbers, and the keys of those that once were."""
    said = {word.finding: word for word in words}
    stops = [finding for finding in findings if finding.gate is not None]
    fallen = [stop.key for stop in stops if stop.key in said and not holds(stop, said[stop.key])]
    return [stop for stop in stops if stop.key not in said or stop.key in fallen], fallen


def standing(
    findings: Iterable[Finding],
    missing: Iterable[tuple[str, str]],
    words: Iterable[Word],
    steps: Sequence[Step],
    done: Collection[str],
    others: Iterable[OpenStop] = (),
) -> Standing:
    """What stands open of a setup and which of its steps that locks.

    missing: path and sentence of what the setup does not say. steps: all of them in their order, `done` those that hold. others: open
    stops that are not findings, such as what is to be looked at after a crash.
    """
    open_now, fallen = open_stops(findings, words)
    stops = [
        OpenStop(
            key=stop.key,
            title=stop.title,
            gate=stop.gate or "plan",
            stage=stop.stage,
            station=stop.station,
            path=stop.path,
            question=stop.question,
            as_found=stop.as_found,
        )
        for stop in open_now
    ]
    stops += [
        OpenStop(key=f"missing:{path}", title=sentence, gate="plan", stage="survey", station="", path=path, question="", as_found=False) for path, sentence in missing
    ]
    stops += list(others)
    stops.sort(key=lambda stop: GATES.index(stop.gate))
    locked = [Lock(step=step.id, reasons=reasons) for step, reasons in _locks(stops, steps, done) if reasons]
    barred = {lock.step for lock in locked}
    first = next((step for step in steps if step.gate == "power"), None)
    return Standing(
        open=stops,
        fallen=fallen,
        locked=locked,
        power=first is None or (first.id not in barred and not _holding_up(stops, "power")),
        ride=not _holding_up(stops, "ride") and all(step.id in done for step in steps if step.safety),
    )


def _holding_up(stops: Iterable[OpenStop], gate: Gate) -> list[OpenStop]:
    return [stop for stop in stops if GATES.index(stop.gate) <= GATES.index(gate)]


def _locks(stops: Sequence[OpenStop], steps: Sequence[Step], done: Collection[str]) -> Iterable[tuple[Step, list[str]]]:
    unticked: list[str] = []
    for step in steps:
        reasons = [step.barred] if step.barred else []
        if step.gate is not None:
            reasons += [f"Open stop: {stop.title}" for stop in _holding_up(stops, step.gate)]
            reasons += [f"Not done yet: {title}" for title in unticked]
        yield step, reasons
        if step.safety and step.id not in done:
            unticked.append(step.title)
