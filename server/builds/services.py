"""What one does with builds and setups: every save a revision, nothing overwritten."""

from __future__ import annotations

import time
from dataclasses import asdict, dataclass, field
from datetime import datetime, timedelta
from typing import Any, NamedTuple

from django.db import transaction
from django.db.models import F, Max, QuerySet
from django.db.models.functions import Coalesce
from django.utils import timezone
from pydantic import ValidationError

from gecko.common.errors import field_problems
from gecko.document.context import Context
from gecko.document.merging import WHOLE, Clash, Side, joined
from gecko.document.rack.slots import tied_on
from gecko.document.setup import Setup as SetupDocument
from gecko.document.setup import load_setup
from gecko.plans.arrangements import beside_found
from gecko.plans.parts_list import PartsOut, parts_list
from gecko.rules.looks import stamped
from server.builds.models import Build, Revision, Setup
from server.errors import Refused, not_found
from server.garage.models import Garage
from server.garage.part_log import note_measured
from server.garage.rack import facts_of, racked
from server.garage.services import currency_of, garage_of, house_of

JOIN_WITHIN = timedelta(minutes=5)
"""One person's edits within this time of a revision's first edit go into the same revision, unless something points at it."""

CLOCK_AGREES_S = 10.0
"""If the wall clock and the monotonic clock have drifted apart by more than this, no edits are joined, because nobody knows how long ago they were.
[s]"""

_clock_offset_s = time.time() - time.monotonic()

MOST_SETUPS = 24


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
    setup = Setup.objects.select_related("build__garage").filter(pk=setup_id, build__garage__memberships__user=user, build__binned=None).first()
    if setup is None:
        raise not_found("setup")
    return setup


def baseline_of(build: Build) -> SetupDocument | None:
    """The document of a build's baseline setup, if there is one."""
    return readable(_document(build, is_baseline=True))


def stock_of(build: Build) -> SetupDocument | None:
    """The document of the setup the machine was found in, if it is known."""
    return readable(_document(build, as_found=True))


def _document(build: Build, **which: bool) -> dict[str, Any] | None:
    return build.setups.filter(**which).values_list("document", flat=True).first()


def readable(document: dict[str, Any] | None) -> SetupDocument | None:
    """A stored document that others are compared with; None if it cannot be read any more. The setup itself reports that when it is opened; other
    setups go on."""
    try:
        return load_setup(document) if document is not None else None
    except ValidationError:
        return None


def context_of(setup: Setup) -> Context:
    """What surrounds a saved setup."""
    build = setup.build
    stock = None if setup.as_found else stock_of(build)
    return Context(
        baseline=baseline_of(build),
        is_baseline=setup.is_baseline,
        stock=stock,
        house=house_of(build.garage),
        rack=facts_of(build.garage, setup.document),
        tried=tried_of(build, setup.document),
    )


def tried_of(build: Build, document: dict[str, Any]) -> tuple[str, ...]:
    """Keys of the parts a document has tied on for one try of which a run was ridden since they were tied on. What was fastened or off in between and is
    tied on again has its try before it."""
    found, keys = [], tied_on(document)
    for key in sorted(keys):
        for trial in build.trials.select_related("revision").order_by("-pk"):
            ridden = trial.revision
            if key not in tied_on(ridden.document):
                continue
            later = Revision.objects.filter(setup=ridden.setup_id, number__gt=ridden.number).values_list("document", flat=True)
            if all(key in tied_on(one) for one in later):
                found.append(key)
            break
    return tuple(found)


def _name(user: Any) -> str:
    return str(user.get_username()) if user is not None else ""


def checked(document: dict[str, Any]) -> dict[str, Any]:
    """A document as the core reads it. Raises ValidationError with every wrong field."""
    return load_setup(document).model_dump(mode="json")


def signed(old: dict[str, Any] | None, document: dict[str, Any], user: Any, build: Build) -> dict[str, Any]:
    """A document as the core reads it, its new answers signed with who gave them and when, and each kept in the journal."""
    before = readable(old)
    setup, seen = stamped(before, load_setup(document), _name(user), timezone.now().isoformat(timespec="minutes"))
    # What comes with a new setup was mostly answered in another; the journal tells what is answered here.
    if old is not None:
        for one in seen:
            build.journal.create(kind="looked", text=f"{one.ask} {one.answer[0].upper()}{one.answer[1:]}. By {user.get_username()}."[:1000])
    return setup.model_dump(mode="json")


def check_name(name: str, what: str) -> str:
    """A name with its ends trimmed. Raises Refused for an empty or very long one."""
    name = name.strip()
    if not name:
        raise Refused(f"A {what} needs a name.", field="/name")
    if len(name) > 60:
        raise Refused("Keep the name under 60 characters.", field="/name")
    return name


@transaction.atomic
def create_build(garage: Garage, user: Any, name: str, family: str, description: str, setups: list[tuple[str, dict[str, Any]]], sent_as: str | None = None) -> Build:
    """Make a build with its setups; the first one is the baseline. Sent under a key that made one already, that one comes back. Raises Refused or
    ValidationError, then nothing is made."""
    if sent_as is not None and (made := garage.builds(manager="with_bin").filter(sent_as=sent_as).first()) is not None:
        return made
    build = Build.objects.create(garage=garage, name=check_name(name, "build"), family=family, description=description.strip()[:200], sent_as=sent_as)
    for position, (label, document) in enumerate(setups):
        add_setup(build, user, label, document, is_baseline=position == 0)
    return build


@transaction.atomic
def move_build(build: Build, user: Any, garage_id: int) -> Build:
    """Move a build with all that belongs to it into another garage of the user's. Raises Refused where he may not change that one."""
    target = garage_of(user, garage_id)
    if target.memberships.filter(user=user, role="viewer").exists():
        raise Refused(f"You may look at {target.name}, not change it. Its owner can let you build too.", code="viewer", status=403)
    if target != build.garage:
        build.journal.create(kind="note", text=f"Moved from {build.garage.name} to {target.name}. By {user.get_username()}.")
        # Keys of sending are a garage's own.
        build.garage, build.sent_as = target, None
        build.save(update_fields=["garage", "sent_as"])
        # Links to look at it were made by the other garage, so they end.
        build.look_links.all().delete()
    return build


def add_setup(build: Build, user: Any, name: str, document: dict[str, Any], *, is_baseline: bool = False) -> Setup:
    """Add a setup to a build with its first revision. The one that is the baseline from the start is the machine as it was found."""
    count = build.setups.count()
    if count >= MOST_SETUPS:
        raise Refused(f"A build keeps up to {MOST_SETUPS} setups. Delete one you no longer need.", code="too_many")
    clean = signed(None, document, user, build)
    setup = Setup.objects.create(
        build=build, name=check_name(name, "setup"), position=count, is_baseline=is_baseline, as_found=is_baseline, in_use=is_baseline, document=clean
    )
    Revision.objects.create(setup=setup, number=1, document=clean, author=user, author_name=_name(user), created=timezone.now(), label="made")
    return setup


def add_beside(build: Build, user: Any, name: str, document: dict[str, Any]) -> Setup:
    """Add a setup beside the machine as it was found: the mass of the packs that came with it is noted from there."""
    document, found = checked(document), stock_of(build)
    return add_setup(build, user, name, document if found is None else beside_found(document, found))


def latest(setup: Setup) -> Revision:
    """The newest revision of a setup."""
    return setup.revisions.order_by("-number")[0]


def _pointed_at(revision: Revision) -> bool:
    # A thing in the bin may come back, and would then point at it.
    binnable = any(getattr(revision, name)(manager="with_bin").exists() for name in ("trials", "journal"))
    return binnable or any(getattr(revision, name).exists() for name in ("ticks", "overrules"))


def newest_two(setup: Setup) -> tuple[Revision, Revision | None]:
    """The newest revision of a setup and the one before."""
    newest, *before = setup.revisions.select_related("author").order_by("-number")[:2]
    return newest, before[0] if before else None


def changed_parts(before: Revision | None, after: Revision) -> list[str]:
    """Parts of the document that differ between two revisions, as words."""
    old = before.document if before is not None else {}
    return [key.replace("_", " ") for key in after.document if key != "looks" and after.document[key] != old.get(key)] if before is not None else []


def _joins(newest: Revision, user: Any, now: datetime) -> bool:
    """Whether an edit belongs to the newest revision."""
    clock_agrees = abs(time.time() - time.monotonic() - _clock_offset_s) <= CLOCK_AGREES_S
    lately = timedelta(0) <= now - newest.created < JOIN_WITHIN
    return clock_agrees and lately and newest.label == "" and newest.author_id == user.pk and not _pointed_at(newest)


@dataclass(frozen=True)
class Before:
    """The document that the sender started from, where the sender still has it, and the answers to the clashes with a version."""

    document: dict[str, Any] | None = None
    answers: dict[str, Side] = field(default_factory=dict)
    answers_to: int | None = None


class Saved(NamedTuple):
    """A saved setup, and whether it holds what others saved since."""

    setup: Setup
    joined: bool


def _joined(setup: Setup, document: dict[str, Any], before: Before) -> dict[str, Any]:
    """A document joined with what was saved since it was begun. Raises Refused 409 with what is still to be decided."""
    answers = before.answers if before.answers_to == setup.version else {}
    known = readable(before.document)
    # Read by today's core, because defaults it fills in would otherwise look like somebody's change.
    base = known.model_dump(mode="json") if known is not None else before.document or {}
    found = joined(base, document, setup.document, answers)
    asked, why = found.asked, ""
    if before.document is None and WHOLE not in answers:
        asked = (Clash(WHOLE, document, setup.document),)
    elif not asked:
        try:
            return checked(found.document)
        except ValidationError as problem:
            # Each version alone was valid, and both together are not: one of them has to be chosen.
            if WHOLE in answers:
                raise
            asked, why = (Clash(WHOLE, document, setup.document),), f" Together they do not fit: {field_problems(problem)[0]['message']}"
    raise Refused(
        f"This setup was changed somewhere else in the meantime. Nothing is lost: choose what to keep.{why}",
        code="conflict",
        status=409,
        extra={"mine": document, "theirs": setup.document, "version": setup.version, "asked": [asdict(one) for one in asked]},
    )


@transaction.atomic
def save_setup(setup_id: int, user: Any, document: dict[str, Any], based_on: int, label: str = "", before: Before | None = None) -> Saved:
    """Save a setup's document. What somebody saved in between is joined with it field by field; raises Refused 409 with what both changed."""
    setup = setup_of(user, setup_id)
    setup = Setup.objects.select_for_update().select_related("build__garage").get(pk=setup.pk)
    document = checked(document)
    behind = setup.version != based_on
    if behind:
        document = _joined(setup, document, before or Before())
        label = label or _joined_label(setup, user)
    clean = signed(setup.document, document, user, setup.build)
    if clean == setup.document:
        return Saved(setup, behind)
    now = timezone.now()
    newest = latest(setup)
    if label == "" and _joins(newest, user, now):
        newest.document, newest.author, newest.author_name = clean, user, _name(user)
        newest.save(update_fields=["document", "author", "author_name"])
    else:
        Revision.objects.create(setup=setup, number=newest.number + 1, document=clean, author=user, author_name=_name(user), created=now, label=label[:80])
    note_measured(setup.build.garage, setup.document, clean, _name(user))
    setup.document = clean
    setup.version += 1
    setup.save()
    Build.objects.filter(pk=setup.build_id).update(updated=now)
    return Saved(setup, behind)


def _joined_label(setup: Setup, user: Any) -> str:
    """The label of a revision that joins two people's changes. Changes of the same person from another window are not named."""
    by = latest(setup).by
    return f"joined with {by}'s changes" if by and by != _name(user) else ""


@transaction.atomic
def restore(setup_id: int, user: Any, number: int, based_on: int) -> Setup:
    """Bring an older revision back, as a new one on top."""
    setup = setup_of(user, setup_id)
    old = setup.revisions.filter(number=number).first()
    if old is None:
        raise not_found("revision")
    return save_setup(setup_id, user, old.document, based_on, label=f"revision {number} again").setup


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
def delete_setup(setup: Setup, user: Any) -> None:
    """Put a setup into the bin, unless it is the baseline or trials point at it."""
    if setup.is_baseline:
        raise Refused("The baseline stays: every gain is measured against it. Make another setup the baseline first.", code="is_baseline", status=409)
    if setup.as_found:
        raise Refused("The machine as it was found stays: brakes and gears are compared with it.", code="is_as_found", status=409)
    if setup.trials.exists():
        raise Refused("Trials were ridden with this setup. Delete them first, or keep the setup.", code="has_trials", status=409)
    setup.to_bin(user)


def parts_to_buy(setup: Setup, *, with_rack: bool) -> PartsOut:
    """The parts of a setup and what they cost; with_rack: what the garage's rack has of them is not bought."""
    baseline = None if setup.is_baseline else baseline_of(setup.build)
    return parts_list(load_setup(setup.document), baseline, racked(setup.build.garage) if with_rack else [], currency_of(setup.build.garage))
