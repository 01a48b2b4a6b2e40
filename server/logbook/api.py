"""Trials and journal."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from django.http import HttpRequest
from django.utils import timezone
from ninja import Field, Query, Router, Schema

from gecko.document.parts.rider import Surface
from gecko.plans.trials.prediction import Prediction
from gecko.plans.trials.reduction import Reduced
from gecko.plans.trials.verdict import VerdictOut, judge_run
from server.builds.services import build_of, setup_of
from server.builds.standing import refuse_ride
from server.errors import ErrorOut, Refused, not_found
from server.logbook import services
from server.logbook.models import JournalEntry, Trial
from server.parsing import Moment
from server.sending import sent_as

router = Router(tags=["logbook"])


KEPT = ("overruled", "observed", "looked", "trouble", "crash")
"""Kinds of entries nobody deletes."""


class PassIn(Schema):
    """A timed pass."""

    distance_m: float = Field(gt=0, le=100_000)
    time_s: float = Field(gt=0, le=100_000)
    direction: Literal["out", "back"] = "out"


class TrialIn(Schema):
    """A trial to keep."""

    setup_id: int
    passes: list[PassIn] = Field(min_length=1, max_length=40)
    knob: float | None = Field(default=None, gt=0, le=1)
    surface: Surface | Literal[""] = ""
    grade: float | None = Field(default=None, ge=-0.5, le=1)
    volts_before_v: float | None = Field(default=None, gt=0, le=150)
    volts_after_v: float | None = Field(default=None, gt=0, le=150)
    motor_c: float | None = Field(default=None, ge=-40, le=300)
    note: str = Field(default="", max_length=300)
    when: Moment | None = None
    confirmed: bool = False
    """The baseline run of the machine as found is ridden although stops are open."""


class TrialOut(Schema):
    """A trial with its speed, its interval, the prediction under its own conditions, and the gain."""

    id: int
    setup_id: int
    setup_name: str
    revision: int
    when: datetime
    passes: list[PassIn]
    knob: float | None
    surface: str
    grade: float | None
    volts_before_v: float | None
    volts_after_v: float | None
    motor_c: float | None
    note: str
    speed_m_s: float
    half_width_m_s: float
    predicted_m_s: float | None
    predicted_low_m_s: float | None
    predicted_high_m_s: float | None
    verdict: VerdictOut | None
    """Beside the prediction; None where nothing can be predicted."""
    gain: float | None
    gain_half_width: float | None


class EntryIn(Schema):
    """A journal entry to write."""

    kind: Literal["note", "repair", "crash", "change", "charge", "upkeep"] = "note"
    text: str = Field(max_length=1000)
    setup_id: int | None = None
    when: Moment | None = None


class EntryOut(Schema):
    """A journal entry."""

    id: int
    when: datetime
    kind: str
    text: str
    setup_name: str


Skip = Annotated[int, Query(ge=0, le=1_000_000)]
"""So many of the newest are on pages before this one."""


def trials_out(trials: list[Trial], baseline: list[Trial]) -> list[TrialOut]:
    """Trials as they are sent, each with its prediction and its gain."""
    return [_trial(trial, predicted, baseline) for trial, predicted in zip(trials, services.predictions_for(trials), strict=True)]


def _trial(trial: Trial, predicted: Prediction | None, baseline: list[Trial]) -> TrialOut:
    gained = services.gain_over_baseline(trial, baseline)
    return TrialOut(
        id=trial.pk,
        setup_id=trial.setup_id,
        setup_name=trial.setup.name,
        revision=trial.revision.number,
        when=trial.when,
        passes=trial.passes,
        knob=trial.knob,
        surface=trial.surface,
        grade=trial.grade,
        volts_before_v=trial.volts_before_v,
        volts_after_v=trial.volts_after_v,
        motor_c=trial.motor_c,
        note=trial.note,
        speed_m_s=trial.speed_m_s,
        half_width_m_s=trial.half_width_m_s,
        predicted_m_s=predicted.speed_m_s if predicted else None,
        predicted_low_m_s=predicted.low_m_s if predicted else None,
        predicted_high_m_s=predicted.high_m_s if predicted else None,
        verdict=judge_run(Reduced(trial.speed_m_s, trial.half_width_m_s, len(trial.passes)), predicted) if predicted else None,
        gain=gained[0] if gained else None,
        gain_half_width=gained[1] if gained else None,
    )


@router.get("/builds/{build_id}/trials", response={200: list[TrialOut], 404: ErrorOut})
def trials(request: HttpRequest, build_id: int, skip: Skip = 0, limit: Annotated[int, Query(ge=1, le=100)] = 60) -> list[TrialOut]:
    """A page of the build's trials, the newest first page, oldest first within it, each with its prediction. Those of the baseline others are
    compared with are always among the first."""
    build = build_of(request.user, build_id)
    baseline = services.baseline_trials(build)
    page = services.newest_trials(build, skip, limit)
    if skip == 0:
        there = {trial.pk for trial in page}
        page += [trial for trial in baseline if trial.pk not in there]
    return trials_out(page[::-1], baseline)


@router.post("/builds/{build_id}/trials", response={200: TrialOut, 404: ErrorOut, 409: ErrorOut, 422: ErrorOut})
def add_trial(request: HttpRequest, build_id: int, payload: TrialIn) -> TrialOut:
    """Keep a trial; 409 while the setup may not be ridden, or, for the machine as found, until it is confirmed."""
    build = build_of(request.user, build_id)
    setup = setup_of(request.user, payload.setup_id)
    if setup.build_id != build.pk:
        raise not_found("setup")
    refuse_ride(setup, confirmed=payload.confirmed)
    fields = payload.model_dump(exclude={"setup_id", "when", "confirmed"})
    trial = services.add_trial(setup, {**fields, "when": payload.when or timezone.now()}, sent_as(request), request.user.get_username())
    return trials_out([trial], services.baseline_trials(build))[0]


@router.delete("/builds/{build_id}/trials/{trial_id}", response={204: None, 404: ErrorOut})
def delete_trial(request: HttpRequest, build_id: int, trial_id: int) -> tuple[int, None]:
    """Put a trial into the bin."""
    services.trial_of(build_of(request.user, build_id), trial_id).to_bin(request.user)
    return 204, None


def _entry(entry: JournalEntry) -> EntryOut:
    return EntryOut(id=entry.pk, when=entry.when, kind=entry.kind, text=entry.text, setup_name=entry.setup.name if entry.setup else "")


@router.get("/builds/{build_id}/journal", response={200: list[EntryOut], 404: ErrorOut})
def journal(request: HttpRequest, build_id: int, skip: Skip = 0, limit: Annotated[int, Query(ge=1, le=200)] = 100) -> list[EntryOut]:
    """A page of the build's journal, newest first."""
    return [_entry(e) for e in build_of(request.user, build_id).journal.select_related("setup")[skip : skip + limit]]


@router.post("/builds/{build_id}/journal", response={200: EntryOut, 404: ErrorOut, 422: ErrorOut})
def write(request: HttpRequest, build_id: int, payload: EntryIn) -> EntryOut:
    """Write into the journal."""
    build = build_of(request.user, build_id)
    setup = setup_of(request.user, payload.setup_id) if payload.setup_id else None
    if setup is not None and setup.build_id != build.pk:
        raise not_found("setup")
    return _entry(services.write_entry(build, setup, payload.kind, payload.text, sent_as(request), payload.when))


@router.delete("/builds/{build_id}/journal/{entry_id}", response={204: None, 404: ErrorOut, 409: ErrorOut})
def delete_entry(request: HttpRequest, build_id: int, entry_id: int) -> tuple[int, None]:
    """Put a journal entry into the bin; what was said to stops, seen and gone wrong stays."""
    entry = build_of(request.user, build_id).journal.filter(pk=entry_id).first()
    if entry is None:
        raise not_found("entry")
    if entry.kind in KEPT:
        raise Refused("What was overruled, looked at or went wrong stays in the journal.", code="kept", status=409)
    entry.to_bin(request.user)
    return 204, None
