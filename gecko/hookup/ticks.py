"""Which steps that were done still hold, now that the setup may have changed."""

from __future__ import annotations

from collections.abc import Iterable

from pydantic import Field

from gecko.common.figures import Part
from gecko.hookup.judgement import judge
from gecko.hookup.shape import Step


class Done(Part):
    """A step done: under which mark, and what the meter showed [V or Ω, as the step's reading]."""

    step: str = Field(max_length=40)
    mark: str = Field(default="", max_length=12)
    """Empty: done before steps had marks."""
    measured: float | None = None
    measured_open: bool = False
    excused: bool = False
    """Not done: the step came with a newer program, when all that were there had been done."""


def holding(steps: Iterable[Step], done: Iterable[Done]) -> list[str]:
    """Ids of the steps that hold: what they join is what it was, and what was measured is in today's range."""
    known = {one.step: one for one in done}
    return [step.id for step in steps if step.id in known and _holds(step, known[step.id])]


def _holds(step: Step, done: Done) -> bool:
    if done.mark not in ("", step.mark):
        return False
    if done.excused or step.reading is None:
        return True
    if done.measured is None and not done.measured_open:
        # It had no reading when it was done.
        return False
    return judge(step.reading, None if done.measured_open else done.measured).fits
