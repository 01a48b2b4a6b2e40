"""What one does with builds and setups: every save a revision, nothing overwritten."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from django.db import transaction
from django.db.models import F, Max, QuerySet
from django.db.models.functions import Coalesce
from django.utils import timezone

from gecko.analysis import Analysis
from gecko.checks.registry import run_checks
from gecko.context import Context
from gecko.hookup.judgement import Judgement, judge
from gecko.setup import Setup as SetupDocument
from gecko.setup import load_setup
from server.builds.models import Build, Overrule, Revision, Setup, Tick
from server.engine.services import hookup_of
from server.errors import Refused, not_found
from server.garage.models import Garage
from server.garage.services import house_of
from server.logbook.models import JournalEntry

JOIN_WITHIN = timedelta(minutes=5)
"""Edits closer together join one revision, unless something points at it."""

MOST_SETUPS = 24

STAND_STEPS = {
    "stand_direction": "Wheels turn forward",
    "stand_modes": "Each speed mode does what it says",
    "stand_brake": "Brake cut-off beats the throttle",
    "stand_reverse": "Reverse only from standstill",
    "stand_steering": "Steering lock to lock and suspension pressed: nothing pulls, nothing touches",
    "stand_guards": "Guards back on, every bolt tight",
    "stand_first": "First ride by an adult, lowest mode, open ground: calm",
}
"""Checks on the stand before the first ride, in their order."""


def builds_of(garage: Garage) -> QuerySet[Build]:
    """A garage's builds, the one last worked on first."""
    return garage.builds.annotate(worked=Coalesce(Max("setups__updated"), F("created"))).order_by("-worked", "-pk")


def build_of(user: Any, build_id: int) -> Build:
    """A build in one of the user's garages. Raises Refused 404 otherwise."""
    build = Build.objects.select_related("garage").filter(pk=build_id, garage__memberships__user=user).first()
    if build is None:
        raise not_found("build")
    return build


def setup_of(user: Any, setup_id: int) -> Setup:
    """A setup in one of the user's garages. Raises Refused 404 otherwise."""
    setup = Setup.objects.select_related("build__garage").filter(pk=setup_id, build__garage__memberships__user=user).first()
    if setup is None:
        raise not_found("setup")
    return setup


def baseline_of(build: Build) -> SetupDocument | None:
    """The document of a build's baseline setup, if there is one."""
    row = build.setups.filter(is_baseline=True).first()
    return load_setup(row.document) if row is not None else None


def context_of(setup: Setup) -> Context:
    """What surrounds a saved setup."""
    return Context(baseline=baseline_of(setup.build), is_baseline=setup.is_baseline, house=house_of(setup.build.garage))


def checked(document: dict[str, Any]) -> dict[str, Any]:
    """A document as the core reads it. Raises ValidationError with every wrong field."""
    return load_setup(document).model_dump(mode="json")


def check_name(name: str, what: str) -> str:
    """A name with its ends trimmed. Raises Refused for an empty or very long one."""
    name = name.strip()
    if not name:
        raise Refused(f"A {what} needs a name.", field="/name")
    if len(name) > 60:
        raise Refused("Keep the name under 60 characters.", field="/name")
    return name


@transaction.atomic
def create_build(garage: Garage, user: Any, name: str, family: str, description: str, setups: list[tuple[str, dict[str, Any]]]) -> Build:
    """Make a build with its setups; the first one is the baseline. Raises Refused or ValidationError, then nothing is made."""
    build = Build.objects.create(garage=garage, name=check_name(name, "build"), family=family, description=description.strip()[:200])
    for position, (label, document) in enumerate(setups):
        add_setup(build, user, label, document, is_baseline=position == 0)
    return build


def add_setup(build: Build, user: Any, name: str, document: dict[str, Any], *, is_baseline: bool = False) -> Setup:
    """Add a setup to a build with its first revision."""
    count = build.setups.count()
    if count >= MOST_SETUPS:
        raise Refused(f"A build keeps up to {MOST_SETUPS} setups. Delete one you no longer need.", code="too_many")
    clean = checked(document)
    setup = Setup.objects.create(build=build, name=check_name(name, "setup"), position=count, is_baseline=is_baseline, in_use=is_baseline, document=clean)
    Revision.objects.create(setup=setup, number=1, document=clean, author=user, created=timezone.now(), label="made")
    return setup


def latest(setup: Setup) -> Revision:
    """The newest revision of a setup."""
    return setup.revisions.order_by("-number").first()  # type: ignore[return-value]


def _pointed_at(revision: Revision) -> bool:
    return any(getattr(revision, name).exists() for name in ("ticks", "overrules", "trials", "journal"))


@transaction.atomic
def save_setup(setup_id: int, user: Any, document: dict[str, Any], based_on: int, label: str = "") -> Setup:
    """Save a setup's document. Raises Refused 409 with both versions when somebody saved in between."""
    setup = setup_of(user, setup_id)
    setup = Setup.objects.select_for_update().select_related("build__garage").get(pk=setup.pk)
    clean = checked(document)
    if setup.version != based_on:
        raise Refused(
            "This setup was changed somewhere else in the meantime. Nothing is lost: choose which version to keep.",
            code="conflict",
            status=409,
            extra={"mine": clean, "theirs": setup.document, "version": setup.version},
        )
    if clean == setup.document:
        return setup
    now = timezone.now()
    newest = latest(setup)
    if label == "" and newest.label == "" and now - newest.created < JOIN_WITHIN and not _pointed_at(newest):
        newest.document, newest.author = clean, user
        newest.save(update_fields=["document", "author"])
    else:
        Revision.objects.create(setup=setup, number=newest.number + 1, document=clean, author=user, created=now, label=label[:80])
    setup.document = clean
    setup.version += 1
    setup.save()
    Build.objects.filter(pk=setup.build_id).update(updated=now)
    return setup


@transaction.atomic
def restore(setup_id: int, user: Any, number: int, based_on: int) -> Setup:
    """Bring an older revision back, as a new one on top."""
    setup = setup_of(user, setup_id)
    old = setup.revisions.filter(number=number).first()
    if old is None:
        raise not_found("revision")
    return save_setup(setup_id, user, old.document, based_on, label=f"revision {number} again")


@transaction.atomic
def make_baseline(setup: Setup) -> None:
    """Make a setup the one every gain is measured against."""
    setup.build.setups.update(is_baseline=False)
    setup.is_baseline = True
    setup.save(update_fields=["is_baseline"])


@transaction.atomic
def use_setup(setup: Setup) -> None:
    """Say which setup the machine is in now."""
    setup.build.setups.update(in_use=False)
    setup.in_use = True
    setup.save(update_fields=["in_use"])


@transaction.atomic
def delete_setup(setup: Setup) -> None:
    """Delete a setup, unless it is the baseline or trials point at it."""
    if setup.is_baseline:
        raise Refused("The baseline stays: every gain is measured against it. Make another setup the baseline first.", code="is_baseline", status=409)
    if setup.trials.exists():
        raise Refused("Trials were ridden with this setup. Delete them first, or keep the setup.", code="has_trials", status=409)
    setup.delete()


def tick(setup: Setup, step: str, measured: float | None, measured_open: bool) -> tuple[Tick, Judgement]:
    """Tick a step of the hookup or of the stand checks, with the value measured; judged and kept either way."""
    mark = ""
    if step in STAND_STEPS:
        judgement = Judgement(fits=True, headline="Checked.")
    else:
        plan = hookup_of(load_setup(setup.document), context_of(setup))
        found = next((s for s in plan.to_tick if s.id == step), None) if plan else None
        if found is None:
            raise not_found("step")
        mark = found.mark
        if found.reading is None:
            judgement = Judgement(fits=True, headline="Done.")
        elif measured is None and not measured_open:
            raise Refused("Enter what the meter shows, or tick OL for open.", field="/measured")
        else:
            judgement = judge(found.reading, None if measured_open else measured)
    row, _ = Tick.objects.update_or_create(
        setup=setup,
        step=step,
        defaults={"revision": latest(setup), "mark": mark, "measured": measured, "measured_open": measured_open, "fits": judgement.fits},
    )
    return row, judgement


@transaction.atomic
def overrule(setup: Setup, finding: str, reason: str) -> Overrule:
    """Overrule a stop with a written reason, which goes into the journal. Only a stop that is there can be overruled."""
    reason = reason.strip()
    if len(reason) < 8:
        raise Refused("Write why you accept it, in a sentence: it is kept in the journal and printed on the build sheet.", field="/reason")
    found = {f.finding.key: f.finding for f in run_checks(Analysis(load_setup(setup.document), context_of(setup)))}
    stop = found.get(finding)
    if stop is None or stop.severity != "stop":
        raise not_found("stop")
    revision = latest(setup)
    row, _ = Overrule.objects.update_or_create(setup=setup, finding=finding, defaults={"reason": reason[:500], "title": stop.title, "revision": revision})
    JournalEntry.objects.create(build=setup.build, setup=setup, revision=revision, kind="overruled", text=f"{stop.title}: overruled. {reason}"[:1000])
    return row
