"""What can be computed apart: each kind of answer, from a setup and what surrounds it to JSON text."""

from __future__ import annotations

import json
import math
from collections.abc import Callable, Sequence
from dataclasses import asdict, dataclass, is_dataclass
from typing import Any, Literal

from gecko.analysis.remembered import remembered
from gecko.answers.evaluation import Out
from gecko.common.documents import SetupDocument
from gecko.document.context import Context
from gecko.document.parts.course import Course
from gecko.document.parts.held import OnRack
from gecko.document.rack.about import Racked
from gecko.document.rack.kinds import Kit
from gecko.document.setup import Setup
from gecko.document.tracks import read_course
from gecko.plans.arrangements import Offer, Shelf, bare_frame, completed, glance, offers
from gecko.plans.care.charging import charge_plans
from gecko.plans.drive.compare import compare
from gecko.plans.drive.goals import reach
from gecko.plans.drive.ways import drive_changes, drive_plan, drive_sprockets
from gecko.plans.evaluate import evaluate
from gecko.plans.fixes import fixes
from gecko.plans.hookup import build_hookup
from gecko.plans.kits import Brought, KitFit, fit_kit
from gecko.plans.power import power_plan
from gecko.plans.protect import protect_plan
from gecko.plans.ranges import ranges
from gecko.plans.substitutes import instead
from gecko.plans.trials.prediction import predict_trials

MOST_SHARES = 8
"""The most processor time any answer may take, as a multiple of the time for one. [1]"""

Lane = Literal["now", "later"]
"""What somebody waits for with a finger on the key, and what follows a moment after."""


@dataclass(frozen=True)
class Job:
    """One thing to compute, told by values."""

    kind: str
    setup: Setup
    context: Context
    extra: Any = None
    """What else the kind needs: the run of a wiring plan, the riders of a plan of driving, all the setups side by side, trials as they were ridden."""
    lane: Lane = "later"

    @property
    def shares(self) -> int:
        """How many times the processor time of one answer it may take: of several setups one each, of many trials one for each ten, of a file
        one for each four million characters. [1]"""
        if self.kind == "compare":
            asked = len(self.extra)
        elif self.kind == "predictions":
            asked = math.ceil(len(self.extra) / 10)
        else:
            asked = math.ceil(len(self.extra[0]) / 4_000_000) if self.kind == "course" else 1
        return min(max(asked, 1), MOST_SHARES)

    @property
    def words(self) -> str:
        """All the answer depends on, as text; two jobs of the same words have the same answer."""
        return json.dumps([self.kind, self.setup.model_dump_json(), self.context.words, self.extra], sort_keys=True, default=_plain)


def _plain(value: Any) -> Any:
    if isinstance(value, Context):
        return value.words
    return asdict(value) if is_dataclass(value) and not isinstance(value, type) else value.model_dump_json()


def _json(answer: Out | Sequence[Out | None] | None) -> str:
    if answer is None:
        return "null"
    return answer.model_dump_json() if isinstance(answer, Out) else "[" + ",".join(map(_json, answer)) + "]"


class CourseFileOut(Out):
    """A course read from a file, and what had to be filled in."""

    course: Course
    said: list[str]


def _course(text: str, name: str) -> CourseFileOut:
    found = read_course(text, name)
    return CourseFileOut(course=found.course, said=list(found.said))


class RememberedOut(Out):
    """A setup whose assumed figures go a remembered speed, and what was moved."""

    setup: SetupDocument
    said: str


def _remembered(setup: Setup, speed_m_s: float) -> RememberedOut:
    found = remembered(setup, speed_m_s)
    return RememberedOut(setup=found.setup.model_dump(mode="json"), said=found.said)


def _offers(setup: Setup, context: Context, asked: tuple[list[Shelf], bool, Brought | None]) -> list[Offer]:
    """The machine as found, and the arrangements of the packs on the shelf; whether its electric parts are yet to come, and which kit goes in."""
    shelf, bare, kit = asked
    return [glance(bare_frame(setup) if bare else setup, "As found", context), *offers(setup, shelf, bare=bare, kit=kit, rack=context.rack)]


def _kit(setup: Setup, context: Context, asked: tuple[Kit, OnRack, bool, list[Racked]]) -> KitFit:
    """What a kit makes of a machine; whether the machine's electric parts are yet to come, and what lies on the rack."""
    kit, name, bare, owned = asked
    return fit_kit(setup, kit, name, context, bare_frame(setup) if bare else None, owned)


KINDS: dict[str, Callable[[Setup, Context, Any], Out | Sequence[Out | None] | None]] = {
    "evaluation": lambda setup, context, _: evaluate(setup, context),
    "ranges": lambda setup, context, _: ranges(setup, context),
    "fixes": lambda setup, context, _: fixes(setup, context),
    "power": lambda setup, context, _: power_plan(setup, context),
    "protect": protect_plan,
    "drive": drive_plan,
    "changes": lambda setup, context, _: drive_changes(setup, context),
    "goal": lambda setup, context, asked: reach(setup, asked[0], asked[1], context, asked[2], asked[3]),
    "sprockets": lambda setup, context, _: drive_sprockets(setup, context),
    "hookup": lambda setup, context, _: build_hookup(setup, None if context.is_baseline else context.baseline),
    "offers": _offers,
    "completed": lambda setup, context, name: completed(setup, name, context),
    "instead": lambda setup, context, asked: instead(setup, asked[0], asked[1], context),
    "kit": _kit,
    "charging": lambda setup, _context, _: charge_plans(setup, list(setup.chargers)),
    "predictions": lambda _setup, _context, ridden: predict_trials(ridden),
    "compare": lambda _setup, _context, all_of_them: compare(all_of_them),
    "remembered": lambda setup, _context, speed_m_s: _remembered(setup, speed_m_s),
    "course": lambda _setup, _context, file: _course(*file),
}


def compute(job: Job) -> str:
    """Do a job here and now: the answer as JSON text. Raises what the core raises."""
    return _json(KINDS[job.kind](job.setup, job.context, job.extra))
