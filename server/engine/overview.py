"""A build at a glance: what the garage home shows of it, from cached evaluations."""

from __future__ import annotations

import json
from typing import Any, Literal

from ninja import Schema

from gecko.analysis import Context, HouseRules
from gecko.hookup.steps import build_hookup
from gecko.setup import load_setup
from server.builds.models import Build, Setup
from server.engine.services import cached_json, evaluation_json

Mark = Literal["done", "caution", "stop", "now", "open"]
STAGES = ("survey", "power", "protect", "drive", "hookup", "prove", "care")


class StationGlance(Schema):
    """A station of the sideways ribbon."""

    id: str
    name: str
    share: float | None
    state: str
    weak: bool
    asks: float | None
    stands: float | None
    unit: str


class LastTrial(Schema):
    """The newest trial."""

    speed_m_s: float
    when: str
    setup: str


class BuildGlance(Schema):
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
    cautions: int
    stations: list[StationGlance]
    stages: dict[str, Mark]
    next_stage: str
    next_step: str
    last_trial: LastTrial | None


def _glance_json(setup: Any, context: Context) -> str:
    full = json.loads(evaluation_json(setup, context))
    hookup = build_hookup(setup)
    small = {key: full[key] for key in ("trail", "outcome", "findings", "gaps", "ready")}
    small["steps"] = [step.id for step in hookup.steps] if hookup else []
    return json.dumps(small)


def build_glance(build: Build, house: HouseRules, stand_steps: set[str]) -> BuildGlance:
    """The build's setup in use (else its newest) at a glance. `build` comes with setups, ticks and trials fetched."""
    setups = list(build.setups.all())
    trials = list(build.trials.all())
    last = None
    if trials:
        names = {s.pk: s.name for s in setups}
        last = LastTrial(speed_m_s=trials[0].speed_m_s, when=trials[0].when.isoformat(), setup=names.get(trials[0].setup_id, ""))
    shown = next((s for s in setups if s.in_use), setups[-1] if setups else None)
    if shown is None:
        return BuildGlance(
            id=build.pk,
            name=build.name,
            family=build.family,
            description=build.description,
            setup_id=None,
            setup_name="",
            setups=0,
            top_speed_m_s=None,
            run_time_s=None,
            stops=0,
            cautions=0,
            stations=[],
            stages=dict.fromkeys(STAGES, "open"),
            next_stage="survey",
            next_step="Add a setup",
            last_trial=last,
        )
    base = next((s for s in setups if s.is_baseline), None)
    document = load_setup(shown.document)
    context = Context(baseline=load_setup(base.document) if base else None, is_baseline=shown.is_baseline, house=house)
    found = json.loads(cached_json("glance", document, context, lambda: _glance_json(document, context)))
    stages, next_stage, next_step = _progress(shown, found, bool([t for t in trials if t.setup_id == shown.pk]), stand_steps)
    outcome = found["outcome"]
    severities = [f["severity"] for f in found["findings"]]
    return BuildGlance(
        id=build.pk,
        name=build.name,
        family=build.family,
        description=build.description,
        setup_id=shown.pk,
        setup_name=shown.name,
        setups=len(setups),
        top_speed_m_s=outcome["top_speed_m_s"] if outcome else None,
        run_time_s=outcome["run_time_s"] if outcome else None,
        stops=severities.count("stop"),
        cautions=severities.count("caution"),
        stations=[StationGlance(**{k: s[k] for k in ("id", "name", "share", "state", "weak", "asks", "stands", "unit")}) for s in found["trail"]],
        stages=stages,
        next_stage=next_stage,
        next_step=next_step,
        last_trial=last,
    )


def _progress(setup: Setup, found: dict[str, Any], tried: bool, stand_steps: set[str]) -> tuple[dict[str, Mark], str, str]:
    """Marks of the seven stages, the stage to go on with, and the next step in words."""
    missing = [g for g in found["gaps"] if g["kind"] == "missing"]
    ticked = {t.step for t in setup.ticks.all()}
    steps = found["steps"]
    marks: dict[str, Mark] = {}
    for stage in ("survey", "power", "protect", "drive"):
        worst = [f["severity"] for f in found["findings"] if f["stage"] == stage]
        marks[stage] = "stop" if "stop" in worst else "caution" if "caution" in worst else "done"
    if missing:
        marks["survey"] = "now"
    done = len(ticked & set(steps))
    marks["hookup"] = "done" if steps and done == len(steps) else "now" if done else "open"
    marks["prove"] = "done" if tried and stand_steps <= ticked else "now" if tried or ticked & stand_steps else "open"
    care = [f["severity"] for f in found["findings"] if f["stage"] == "care"]
    marks["care"] = "stop" if "stop" in care else "open" if marks["prove"] != "done" else "done"
    stop = next((f for f in found["findings"] if f["severity"] == "stop"), None)
    if missing:
        return marks, "survey", missing[0]["message"]
    if stop is not None:
        return marks, str(stop["stage"]), str(stop["title"])
    if marks["hookup"] != "done" and not setup.is_baseline:
        return marks, "hookup", f"Step {done + 1} of {len(steps)}"
    if not tried:
        return marks, "prove", "Ride a timed distance"
    return marks, "care", "Look after it"
