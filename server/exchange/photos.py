"""Photos in a garage's archive: each picture once, named by its contents; which thing it shows stands in the head."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any

from server.builds.models import Build, Setup
from server.errors import Refused
from server.exchange.reading import LeftOut
from server.exchange.shapes import GarageHead, PhotoFile
from server.garage.models import Garage, RackPart
from server.logbook.models import JournalEntry, Trial
from server.photos import pictures
from server.photos.models import Photo


@dataclass(frozen=True)
class Stored:
    """What came of a build's file: the build, its setups by key, its runs and entries in the order of the file."""

    build: Build
    setups: dict[str, Setup]
    trials: list[Trial]
    entries: list[JournalEntry]


def name_of(sha: str) -> str:
    """The picture of these contents in an archive."""
    return f"photos/{sha}.jpg"


def photo_files(garage: Garage, builds: list[Build]) -> list[PhotoFile]:
    """The photos of a garage whose files are there, each with what it shows: a part by its key, else a build by its place and a setup, run or entry of it by its own."""
    found = []
    setups, trials, entries = _places(builds)
    for photo in garage.photos.select_related("part"):
        if not pictures.path_of(photo.sha).is_file():
            continue
        told = {"sha": photo.sha, "caption": photo.caption, "when": photo.when, "by": photo.by_name}
        if photo.part is not None:
            found.append(PhotoFile(**told, part=photo.part.key))
        elif photo.setup_id in setups:
            found.append(PhotoFile(**told, build=setups[photo.setup_id][0], setup=setups[photo.setup_id][1], place=photo.place))
        elif photo.trial_id in trials:
            found.append(PhotoFile(**told, build=trials[photo.trial_id][0], trial=trials[photo.trial_id][1]))
        elif photo.entry_id in entries:
            found.append(PhotoFile(**told, build=entries[photo.entry_id][0], entry=entries[photo.entry_id][1]))
    return found


def _places(builds: list[Build]) -> tuple[dict[Any, tuple[int, str]], dict[Any, tuple[int, int]], dict[Any, tuple[int, int]]]:
    """Of setups, runs and entries the place of their build, and their key or place within it, as the files have them."""
    setups = {setup.pk: (n, f"s{i + 1}") for n, build in enumerate(builds) for i, setup in enumerate(build.setups.all())}
    trials = {pk: (n, i) for n, build in enumerate(builds) for i, pk in enumerate(build.trials.values_list("pk", flat=True))}
    entries = {pk: (n, i) for n, build in enumerate(builds) for i, pk in enumerate(build.journal.values_list("pk", flat=True))}
    return setups, trials, entries


def write_pictures(archive: zipfile.ZipFile, files: list[PhotoFile]) -> Iterator[None]:
    """Write each picture once; it is packed already."""
    for sha in dict.fromkeys(file.sha for file in files):
        archive.write(pictures.path_of(sha), name_of(sha), zipfile.ZIP_STORED)
        yield


def store_photos(
    staging: Garage, target: Garage, head: GarageHead, archive: zipfile.ZipFile, stored: dict[int, Stored], user: Any, watched: Callable[[], None]
) -> list[LeftOut]:
    """Store the photos of an archive whose thing came in; tells those that could not be read. watched: called after each, and may stop it all.

    Parts are those that came in or were there before, by their key. A picture that is not just as this program writes it is written anew.
    """
    parts = {part.key: part for rack in (target.rack, staging.rack) for part in rack.all()}
    there = set(target.photos.filter(part__isnull=False).values_list("part__key", "sha"))
    left: list[LeftOut] = []
    for n, file in enumerate(head.photos):
        watched()
        what = _thing(file, parts, stored)
        if what is None or (file.part and (file.part, file.sha) in there):
            continue
        try:
            picture = _picture(archive, file)
        except Refused as refusal:
            left.append(LeftOut(name_of(file.sha), refusal.message, [{"path": f"garage.json/photos/{n}", "message": refusal.message}]))
            continue
        pictures.keep(picture)
        Photo.objects.create(
            garage=staging,
            sha=picture.sha,
            width=picture.width,
            height=picture.height,
            caption=file.caption,
            when=file.when,
            by=user if file.by == user.get_username() else None,
            by_name=file.by,
            **what,
        )
    return left


def _thing(file: PhotoFile, parts: dict[str, RackPart], stored: dict[int, Stored]) -> dict[str, Any] | None:
    """The thing a photo shows, as fields of its row; None where that did not come in."""
    if file.part:
        return {"part": parts[file.part]} if file.part in parts else None
    found = stored.get(file.build) if file.build is not None else None
    if found is None:
        return None
    if file.setup in found.setups:
        return {"setup": found.setups[file.setup], "place": file.place}
    if file.trial is not None and file.trial < len(found.trials):
        return {"trial": found.trials[file.trial]}
    return {"entry": found.entries[file.entry]} if file.entry is not None and file.entry < len(found.entries) else None


def _picture(archive: zipfile.ZipFile, file: PhotoFile) -> pictures.Picture:
    try:
        info = archive.getinfo(name_of(file.sha))
    except KeyError:
        raise Refused("This photo is not in the archive.") from None
    if info.file_size > pictures.MOST_BYTES:
        raise Refused(f"This photo has more than {pictures.MOST_BYTES // 10**6} MB.")
    try:
        with archive.open(info) as opened:
            content = opened.read(pictures.MOST_BYTES + 1)
    except (zipfile.BadZipFile, OSError, EOFError, NotImplementedError, RuntimeError) as error:
        raise Refused("This photo is damaged in the archive.") from error
    return pictures.as_kept(content) or pictures.taken(io.BytesIO(content), len(content))
