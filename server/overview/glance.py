"""A build at a glance: what the garage home shows of it, from cached evaluations."""

from __future__ import annotations

import hashlib
import json
import logging
import secrets
from dataclasses import dataclass, fields
from datetime import datetime
from typing import Any, Literal, get_args

from django.core.cache import cache
from pydantic import ValidationError

from gecko.answers.evaluation import Gate, Out, Stage
from gecko.common.errors import GeckoError, field_problems
from gecko.document.context import Context, HouseRules
from gecko.document.rack.about import RackFact, concerning
from gecko.document.rack.slots import keys_of
from gecko.document.setup import load_setup
from gecko.plans.standing import open_stops
from server.answers.kept import KEEP_S, answer_json, hookup_of, program
from server.builds.models import Build, Setup
from server.builds.services import readable, tried_of
from server.builds.standing import words_of
from server.compute.client import ComputeFailed
from server.compute.jobs import Job
from server.errors import Refused

log = logging.getLogger("server.engine")

Mark = Literal["done", "caution", "stop", "now", "open"]
STAGES: tuple[Stage, ...] = get_args(Stage)


class StationGlance(Out):
    """A station of the sideways ribbon."""

    id: str
    name: str
    share: float | None
    state: str
    weak: bool
    asks: float | None
    stands: float | None
    unit: str


class LastTrial(Out):
    """The newest trial."""

    speed_m_s: float
    when: str
    setup: str


class BuildGlance(Out):
    """A build in the garage's list."""

    id: int
    name: str
    family: str
    description: str
    setup_id: int | None
    setup_name: str
    setups: int
    top_speed_m_s: float | None
    run_time_s: float | None
    stops: int
    """Open stops of the plan."""
    looks: int
    """What is open to be looked at before power or ride."""
    cautions: int
    worked_on: str
    """Name of the setup last worked on, where it is another than the one shown; and what is open of it."""
    worked_on_stops: int
    worked_on_looks: int
    stations: list[StationGlance]
    stages: dict[str, Mark]
    next_stage: str
    next_step: str
    last_trial: LastTrial | None
    trouble: str = ""
    """Why it cannot be computed; it can be opened, exported and deleted all the same."""


@dataclass(frozen=True)
class Brief:
    """What the list needs of a finding."""

    key: str
    stage: str
    severity: str
    title: str
    gate: Gate | None = None
    observable: bool = False
    asked: float | None = None
    stands: float | None = None


@dataclass(frozen=True, kw_only=True)
class Known:
    """What glances at all builds of a garage share: its house rules, what is known of its parts, and the database it is in."""

    house: HouseRules
    rack: tuple[RackFact, ...]
    instance: str


def _station(row: dict[str, Any]) -> dict[str, Any]:
    return {k: row[k] for k in ("id", "name", "share", "state", "weak", "asks", "stands", "unit")}


def _compute(shown: Setup, base: Setup | None, found_as: Setup | None, garage: Known) -> dict[str, Any]:
    """What the list shows of a setup, from its whole evaluation."""
    document = load_setup(shown.document)
    stock = readable(found_as.document) if found_as is not None and not shown.as_found else None
    context = Context(
        baseline=readable(base.document) if base is not None else None,
        is_baseline=shown.is_baseline,
        stock=stock,
        house=garage.house,
        rack=concerning(garage.rack, keys_of(shown.document)),
        tried=tried_of(shown.build, shown.document),
    )
    full = json.loads(answer_json(Job("evaluation", document, context)))
    hookup = hookup_of(document, context)
    outcome = full["outcome"] or {}
    return {
        **NOTHING,
        "stations": [_station(row) for row in full["trail"]],
        "findings": [Brief(**{field.name: f[field.name] for field in fields(Brief)}) for f in full["findings"]],
        "missing": [g["message"] for g in full["gaps"] if g["kind"] == "missing"],
        "top_speed_m_s": outcome.get("top_speed_m_s"),
        "run_time_s": outcome.get("run_time_s"),
        "steps": {step.id: step.mark for step in hookup.steps} if hookup else {},
        "stand": [step.id for step in hookup.stand] if hookup else [],
    }


NOTHING: dict[str, Any] = {
    "stations": [],
    "findings": [],
    "missing": [],
    "top_speed_m_s": None,
    "run_time_s": None,
    "steps": {},
    "stand": [],
    "trouble": "",
}
"""What is known of a setup that cannot be computed."""


def _glance(shown: Setup, base: Setup | None, found_as: Setup | None, garage: Known, ridden: str) -> dict[str, Any]:
    """The same, kept by the versions it follows from: a garage of hundreds of builds is listed without reading documents. ridden: when its machine was
    ridden last; a try of a part that is tied on ends with it."""
    versions = [f"{one.pk}.{one.version}" if one else "none" for one in (shown, base, found_as)]
    # The key does not use Python's hash of the house rules, which differs between processes.
    follows = "\n".join([program(), garage.instance, *versions, str(shown.is_baseline), ridden, repr(garage.house), repr(garage.rack)])
    key = f"glance:{hashlib.sha256(follows.encode()).hexdigest()}"
    found: dict[str, Any] | None = cache.get(key)
    if found is None:
        found = _guarded(shown, base, found_as, garage)
        cache.set(key, found, KEEP_S)
    return found


def _guarded(shown: Setup, base: Setup | None, found_as: Setup | None, garage: Known) -> dict[str, Any]:
    """The same, with the reason instead where it cannot be computed, so that one bad build does not stop the list."""
    try:
        return _compute(shown, base, found_as, garage)
    except ValidationError as error:
        first = field_problems(error)[0]
        reason = f"{first['message']} ({first['path']})"
    except (GeckoError, Refused) as error:
        reason = error.message
    except ComputeFailed as error:
        reference = secrets.token_hex(4)
        log.error("reference %s: setup %s cannot be computed: %s", reference, shown.pk, error)
        reason = f"It cannot be computed. Pass on this reference: {reference}."
    return {**NOTHING, "trouble": reason}


@dataclass(frozen=True)
class TrialLine:
    """What the list needs of a trial; plain, because a garage may have thousands."""

    setup_id: int
    when: datetime
    speed_m_s: float


def build_glance(build: Build, trials: list[TrialLine], garage: Known) -> BuildGlance:
    """The build's setup in use (else its newest) at a glance. `build` comes with setups and ticks fetched; trials newest first; garage: what
    is the same for all its builds."""
    setups = list(build.setups.all())
    last = None
    if trials:
        names = {s.pk: s.name for s in setups}
        last = LastTrial(speed_m_s=trials[0].speed_m_s, when=trials[0].when.isoformat(), setup=names.get(trials[0].setup_id, ""))
    own = {"id": build.pk, "name": build.name, "family": build.family, "description": build.description, "setups": len(setups), "last_trial": last}
    shown = next((s for s in setups if s.in_use), setups[-1] if setups else None)
    if shown is None:
        nothing: dict[str, Mark] = dict.fromkeys(STAGES, "open")
        return BuildGlance(
            **own,
            setup_id=None,
            setup_name="",
            top_speed_m_s=None,
            run_time_s=None,
            stops=0,
            looks=0,
            cautions=0,
            worked_on="",
            worked_on_stops=0,
            worked_on_looks=0,
            stations=[],
            stages=nothing,
            next_stage="survey",
            next_step="Add a setup",
        )
    base, found_as = next((s for s in setups if s.is_baseline), None), next((s for s in setups if s.as_found), None)
    ridden = trials[0].when.isoformat() if trials else ""
    found = _glance(shown, base, found_as, garage, ridden)
    incidents = [check["gate"] for incident in build.incidents.all() for check in incident.checks if not check["by"]]
    stops, looks = _open(shown, found, incidents)
    stages, next_stage, next_step = _progress(shown, found, stops, looks, tried=any(t.setup_id == shown.pk for t in trials))
    severities = [f.severity for f in found["findings"]]
    worked = max(setups, key=lambda s: s.updated)
    other = _open(worked, _glance(worked, base, found_as, garage, ridden), incidents) if worked.pk != shown.pk else ([], [])
    return BuildGlance(
        **own,
        setup_id=shown.pk,
        setup_name=shown.name,
        top_speed_m_s=found["top_speed_m_s"],
        run_time_s=found["run_time_s"],
        stops=len(stops),
        looks=len(looks),
        cautions=severities.count("caution"),
        trouble=found["trouble"],
        worked_on=worked.name if worked.pk != shown.pk else "",
        worked_on_stops=len(other[0]),
        worked_on_looks=len(other[1]),
        stations=[StationGlance(**row) for row in found["stations"]],
        stages=stages,
        next_stage=next_stage,
        next_step=next_step,
    )


def _open(setup: Setup, found: dict[str, Any], incidents: list[Gate]) -> tuple[list[Brief], list[Brief]]:
    """Open stops of a setup's plan, and what is open to be looked at; incidents of the build belong to the latter."""
    stops, _ = open_stops(found["findings"], words_of(setup))
    after = [Brief("incident", "care", "stop", "After an incident: look at it first", gate) for gate in incidents]
    return [f for f in stops if f.gate == "plan"], [*(f for f in stops if f.gate != "plan"), *after]


def _progress(setup: Setup, found: dict[str, Any], stops: list[Brief], looks: list[Brief], *, tried: bool) -> tuple[dict[str, Mark], str, str]:
    """Marks of the seven stages, the stage to go on with, and the next step in words."""
    missing = found["missing"]
    ticks = list(setup.ticks.all())
    ticked, stand_steps = {t.step for t in ticks}, set(found["stand"])
    steps: dict[str, str] = found["steps"]
    marks: dict[str, Mark] = {}
    for stage in ("survey", "power", "protect", "drive"):
        open_here = any(f.stage == stage for f in looks) or any(f.stage == stage and f.severity == "caution" for f in found["findings"])
        marks[stage] = "stop" if any(f.stage == stage for f in stops) else "caution" if open_here else "done"
    # Survey is done when everything it asks was looked at, whichever stage that is of.
    if missing or looks:
        marks["survey"] = "now"
    # A step whose parts have changed since is to be done again.
    done = sum(t.fits and t.step in steps and t.mark in ("", steps[t.step]) for t in ticks)
    marks["hookup"] = "done" if steps and done == len(steps) else "now" if done else "open"
    marks["prove"] = "done" if tried and stand_steps and stand_steps <= ticked else "now" if tried or ticked & stand_steps else "open"
    marks["care"] = "stop" if any(f.stage == "care" for f in stops) else "open" if marks["prove"] != "done" else "done"
    if found["trouble"]:
        return marks, "survey", "Mend what cannot be computed"
    if missing:
        return marks, "survey", missing[0]
    if stops:
        return marks, stops[0].stage, stops[0].title
    if looks:
        return marks, "survey", f"To look at: {looks[0].title}"
    if marks["hookup"] != "done" and not setup.is_baseline:
        return marks, "hookup", f"Step {done + 1} of {len(steps)}"
    if not tried:
        return marks, "prove", "Ride a timed distance"
    return marks, "care", "Look after it"
