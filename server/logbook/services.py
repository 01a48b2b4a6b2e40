"""What one does in the logbook."""

from __future__ import annotations

import logging
from datetime import datetime
from typing import Any

from django.db import transaction
from django.utils import timezone

from gecko.common.errors import GeckoError
from gecko.plans.trials.prediction import Conditions, Prediction
from gecko.plans.trials.reduction import Pass, Reduced, gain, reduce_passes
from server.answers.kept import predictions_of
from server.builds.models import Build, Setup
from server.builds.services import latest, readable
from server.compute.client import ComputeFailed
from server.errors import Refused, not_found
from server.garage.part_log import land_before_a_run
from server.logbook.models import JournalEntry, Trial

log = logging.getLogger("server.logbook")


def reduced(passes: list[dict[str, Any]]) -> Reduced:
    """Speed and interval of stored passes. Raises GeckoError for passes that cannot be."""
    return reduce_passes([Pass(float(p["distance_m"]), float(p["time_s"]), p.get("direction", "out")) for p in passes])


@transaction.atomic
def add_trial(setup: Setup, fields: dict[str, Any], sent_as: str | None = None, by: str = "") -> Trial:
    """Keep a trial with the revision it was ridden with; volts before it land in its packs' logs. Sent under a key that made one already, that one comes back."""
    if sent_as is not None and (made := setup.build.trials(manager="with_bin").filter(sent_as=sent_as).first()) is not None:
        return made
    found = reduced(fields["passes"])
    if found.speed_m_s > 60:
        raise Refused("That would be over 130 mph. Check length and time.", field="/passes/0/time_s")
    made = Trial.objects.create(
        build=setup.build, setup=setup, revision=latest(setup), speed_m_s=found.speed_m_s, half_width_m_s=found.half_width_m_s, sent_as=sent_as, **fields
    )
    if made.volts_before_v is not None:
        land_before_a_run(setup.build.garage, made.revision.document, made.volts_before_v, by, made.when)
    return made


def _conditions(trial: Trial) -> Conditions | None:
    """A trial as it was ridden; None where its setup cannot be read any more."""
    setup = readable(trial.revision.document)
    return Conditions(setup, trial.knob, trial.volts_before_v, trial.surface or None, trial.grade) if setup is not None else None


def predictions_for(trials: list[Trial]) -> list[Prediction | None]:
    """What the model says for each trial's own conditions, with the setup as it was ridden; None where it says nothing."""
    ridden = [_conditions(trial) for trial in trials]
    try:
        found = iter(predictions_of([one for one in ridden if one is not None]))
    except (ComputeFailed, GeckoError, Refused) as error:
        # The list is shown without predictions; the measurements are there all the same.
        log.warning("trials of build %s cannot be predicted: %s", trials[0].build_id, error)
        return [None] * len(trials)
    return [next(found) if one is not None else None for one in ridden]


MOST_BASELINE = 40
"""So many of the newest trials of the baseline are compared with."""


def baseline_trials(build: Build) -> list[Trial]:
    """Trials of the baseline that gains are measured against, newest first."""
    return list(build.trials.filter(setup__is_baseline=True).select_related("setup", "revision").order_by("-when", "-pk")[:MOST_BASELINE])


def newest_trials(build: Build, skip: int, limit: int) -> list[Trial]:
    """A page of a build's trials, the newest first."""
    return list(build.trials.select_related("setup", "revision").order_by("-when", "-pk")[skip : skip + limit])


def gain_over_baseline(trial: Trial, trials: list[Trial]) -> tuple[float, float] | None:
    """Gain over the fastest-knob trials of the baseline on the same surface: ratio and half-width. None without such a run."""
    if trial.setup.is_baseline:
        return None
    base = [t for t in trials if t.setup.is_baseline and t.surface == trial.surface and (t.knob is None or t.knob >= 0.999)]
    if not base or (trial.knob is not None and trial.knob < 0.999):
        return None
    passes = [p for t in base for p in t.passes]
    return gain(Reduced(trial.speed_m_s, trial.half_width_m_s, len(trial.passes)), reduced(passes))


def trial_of(build: Build, trial_id: int) -> Trial:
    """A trial of a build. Raises Refused 404 otherwise."""
    trial = build.trials.filter(pk=trial_id).first()
    if trial is None:
        raise not_found("trial")
    return trial


@transaction.atomic
def write_entry(build: Build, setup: Setup | None, kind: str, text: str, sent_as: str | None = None, when: datetime | None = None) -> JournalEntry:
    """Write into the journal what happened now, or when it is said. Sent under a key that made an entry already, that one comes back."""
    if sent_as is not None and (made := build.journal(manager="with_bin").filter(sent_as=sent_as).first()) is not None:
        return made
    text = text.strip()
    if not text:
        raise Refused("Write what happened.", field="/text")
    revision = latest(setup) if setup is not None else None
    return JournalEntry.objects.create(build=build, setup=setup, revision=revision, kind=kind, text=text[:1000], sent_as=sent_as, when=when or timezone.now())
