"""The bin of a garage: what is in it, what comes back, and what goes for good after thirty days."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any

from django.db import transaction
from django.db.models import Q, QuerySet
from django.utils import timezone

from server.builds.models import Build, Setup
from server.builds.services import MOST_SETUPS
from server.cache import forget_when_done
from server.errors import Refused, not_found
from server.garage.binned import Binnable
from server.garage.models import Garage, PartEntry, RackPart, Rider
from server.logbook.models import JournalEntry, Trial
from server.photos.models import Photo
from server.photos.services import forget

KEEPS = timedelta(days=30)
"""How long the bin keeps a thing."""


@dataclass(frozen=True)
class Kind:
    """One kind of thing the bin holds: its model, the way from it to its garage, how it is called, and what it belongs to."""

    model: type[Binnable]
    garage: str
    name: Callable[[Any], str]
    within: Callable[[Any], str] = lambda _: ""


KINDS: dict[str, Kind] = {
    "build": Kind(Build, "garage", lambda row: row.name),
    "setup": Kind(Setup, "build__garage", lambda row: row.name, lambda row: row.build.name),
    "trial": Kind(Trial, "build__garage", lambda row: f"trial of {row.when:%d %b %Y}", lambda row: row.build.name),
    "entry": Kind(JournalEntry, "build__garage", lambda row: row.text[:80], lambda row: row.build.name),
    "part": Kind(RackPart, "garage", lambda row: f"{row.label} {row.letter}".strip()),
    "line": Kind(PartEntry, "part__garage", lambda row: f"{row.kind} of {row.when:%d %b %Y}", lambda row: f"{row.part.label} {row.part.letter}".strip()),
    "photo": Kind(Photo, "garage", lambda row: row.caption or f"photo of {row.when:%d %b %Y}"),
    "rider": Kind(Rider, "garage", lambda row: row.name),
}


@dataclass(frozen=True)
class Binned:
    """A thing in the bin: what it is, since when, by whom, and until when it can come back."""

    kind: str
    id: int
    name: str
    within: str
    binned: datetime
    by: str
    until: datetime


def _rows(kind: Kind, garage: Garage) -> QuerySet[Any]:
    """What of a kind is in a garage's bin by itself; what lies there with its build comes back with it."""
    rows: QuerySet[Any] = kind.model.with_bin.filter(**{kind.garage: garage}, binned__isnull=False)
    return rows.filter(build__binned=None).select_related("build") if kind.garage.startswith("build") else rows


def in_bin(garage: Garage, skip: int = 0, limit: int = 100) -> list[Binned]:
    """A page of the bin, the newest first. What is over its time is gone for good before."""
    empty_old()
    found = [
        Binned(name, row.pk, kind.name(row), kind.within(row), row.binned, row.binned_by.get_username() if row.binned_by else "", row.binned + KEEPS)
        for name, kind in KINDS.items()
        for row in _rows(kind, garage).select_related("binned_by").order_by("-binned")[: skip + limit]
    ]
    return sorted(found, key=lambda one: (one.binned, one.kind, one.id), reverse=True)[skip : skip + limit]


def _one(garage: Garage, kind: str, row_id: int) -> Any:
    if kind not in KINDS:
        raise not_found("thing")
    row = _rows(KINDS[kind], garage).filter(pk=row_id).first()
    if row is None:
        raise Refused("This is not in the bin any more: somebody brought it back, or its thirty days were over.", code="not_found", status=404)
    return row


@transaction.atomic
def bring_back(garage: Garage, kind: str, row_id: int) -> None:
    """Take a thing out of the bin. Raises Refused where what it belongs to is still in there, or there is no room for it."""
    row = _one(garage, kind, row_id)
    if isinstance(row, Trial) and row.setup.binned is not None:
        raise Refused(f"The setup it was ridden with, {row.setup.name}, is in the bin too: bring that back first.", code="in_bin", status=409)
    if isinstance(row, Setup) and row.build.setups.count() >= MOST_SETUPS:
        raise Refused(f"A build keeps up to {MOST_SETUPS} setups. Delete one you no longer need, then bring this one back.", code="too_many", status=409)
    row.binned, row.binned_by = None, None
    row.save(update_fields=["binned", "binned_by"])


def throw_away(garage: Garage, kind: str, row_id: int) -> None:
    """Delete a thing in the bin for good."""
    row = _one(garage, kind, row_id)
    _delete(type(row).with_bin.filter(pk=row.pk))


def empty_old(now: datetime | None = None) -> int:
    """Delete for good what lay in any bin for longer than it keeps. Returns how many."""
    over = (now or timezone.now()) - KEEPS
    return sum(_delete(kind.model.with_bin.filter(binned__lt=over)) for kind in KINDS.values())


def _delete(rows: QuerySet[Any]) -> int:
    found = list(rows.values_list("pk", flat=True))
    if found:
        # The lock is taken only now, because looking into a bin with nothing old in it must not wait for a writer.
        with transaction.atomic():
            # A setup's trials hold its revisions: those that are in the bin go with it.
            if rows.model is Setup:
                Trial.with_bin.filter(Q(setup__in=found), binned__isnull=False).delete()
            shas = _pictures(rows.model, found)
            rows.model.with_bin.filter(pk__in=found).delete()
            transaction.on_commit(lambda: forget(shas))
            forget_when_done()
    return len(found)


def _pictures(model: type[Binnable], found: list[int]) -> set[str]:
    """Pictures that photos show which go with these rows."""
    ways = {Photo: ("pk",), RackPart: ("part",), Setup: ("setup", "trial__setup"), Trial: ("trial",), JournalEntry: ("entry",)}
    ways[Build] = ("setup__build", "trial__build", "entry__build")
    rows = Photo.with_bin.none()
    for way in ways.get(model, ()):
        rows |= Photo.with_bin.filter(**{f"{way}__in": found})
    return set(rows.values_list("sha", flat=True))
