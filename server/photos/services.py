"""Photos: taken in, listed, shown."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from django.db import transaction
from django.db.models import Q, QuerySet

from server.builds.models import Build, Setup
from server.errors import Refused, not_found
from server.garage.models import Garage, RackPart
from server.logbook.models import JournalEntry, Trial
from server.photos import pictures
from server.photos.models import Photo
from server.uploads import services as uploads
from server.uploads.models import Upload

MOST_OF_ONE = 40
"""So many photos of one thing."""
MOST_OF_ALL = 5000
"""So many photos in a garage."""


@dataclass(frozen=True, kw_only=True)
class Shows:
    """What a photo shows: one thing of a garage."""

    part: RackPart | None = None
    setup: Setup | None = None
    place: str = ""
    trial: Trial | None = None
    entry: JournalEntry | None = None

    @property
    def fields(self) -> dict[str, Any]:
        """The same as the fields of a row."""
        return {"part": self.part, "setup": self.setup, "place": self.place if self.setup is not None else "", "trial": self.trial, "entry": self.entry}


def shows(garage: Garage, *, part: int | None = None, setup: int | None = None, place: str = "", trial: int | None = None, entry: int | None = None) -> Shows:
    """The thing of a garage a photo shows. Raises Refused where it is none, or several."""
    asked: dict[str, tuple[int | None, QuerySet[Any]]] = {
        "part": (part, garage.rack.all()),
        "setup": (setup, Setup.objects.filter(build__garage=garage, build__binned=None)),
        "trial": (trial, Trial.objects.filter(build__garage=garage, build__binned=None)),
        "entry": (entry, JournalEntry.objects.filter(build__garage=garage, build__binned=None)),
    }
    named = {name: (key, rows) for name, (key, rows) in asked.items() if key is not None}
    if len(named) != 1:
        raise Refused("Say of which one thing this photo is: a part, a setup's step, a run, or an entry.", field="/part")
    ((name, (key, rows)),) = named.items()
    found = rows.filter(pk=key).first()
    if found is None:
        raise not_found(name)
    return Shows(**{name: found}, place=place)


def photos_of(build: Build) -> list[Photo]:
    """Photos of all that belongs to a build."""
    its = Q(setup__build=build) | Q(trial__build=build, trial__binned=None) | Q(entry__build=build, entry__binned=None)
    return list(build.garage.photos.filter(its))


def take(garage: Garage, user: Any, upload: Upload, what: Shows, caption: str = "") -> Photo:
    """Take an uploaded picture in: read by its contents, written anew. Raises Refused; the upload is gone either way."""
    path = uploads.whole(upload)
    try:
        if garage.photos.filter(**what.fields).count() >= MOST_OF_ONE:
            raise Refused(f"Of one thing up to {MOST_OF_ONE} photos are kept. Delete one first.", code="too_many", status=409)
        if garage.photos.count() >= MOST_OF_ALL:
            raise Refused(f"A garage keeps up to {MOST_OF_ALL} photos. Delete some first.", code="too_many", status=409)
        with path.open("rb") as file:
            picture = pictures.taken(file, path.stat().st_size)
        pictures.keep(picture)
        with transaction.atomic():
            return Photo.objects.create(
                garage=garage,
                sha=picture.sha,
                width=picture.width,
                height=picture.height,
                caption=caption.strip()[:120],
                by=user,
                by_name=user.get_username(),
                **what.fields,
            )
    finally:
        uploads.be_rid_of(upload)


def photo_of(garage: Garage, photo_id: int) -> Photo:
    """A photo of a garage. Raises Refused 404 otherwise."""
    photo = garage.photos.filter(pk=photo_id).first()
    if photo is None:
        raise not_found("photo")
    return photo


def file_of(photo: Photo) -> Path:
    """The file of a photo. Raises Refused 404 where it is gone."""
    path = pictures.path_of(photo.sha)
    if not path.is_file():
        raise Refused("The file of this photo is not on the server any more.", code="not_found", status=404)
    return path


def forget(shas: Iterable[str]) -> None:
    """Delete the files of pictures no photo shows any more, not even one in the bin."""
    for sha in set(shas):
        if not Photo.with_bin.filter(sha=sha).exists():
            pictures.path_of(sha).unlink(missing_ok=True)
