"""A build as one open JSON file, a garage as one zip: written row by row, so that years of records need no memory."""

from __future__ import annotations

import io
import json
import re
import zipfile
from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from typing import Any

from django.db import connection
from django.db.models import TextField
from django.db.models.functions import Cast
from django.utils import timezone

from server.builds.models import Build, Incident, Overrule, Setup, Tick
from server.builds.services import builds_of
from server.exchange.photos import photo_files, write_pictures
from server.exchange.shapes import (
    BUILD_FORMAT,
    GARAGE_FILE,
    GARAGE_FORMAT,
    VERSION,
    EntryFile,
    GarageHead,
    IncidentCheckFile,
    IncidentFile,
    JournalFile,
    MemberFile,
    OverruleFile,
    PhotoFile,
    RackPartFile,
    RevisionFile,
    RiderFile,
    TickFile,
    TrialFile,
)
from server.garage.models import Garage, RackPart
from server.logbook.models import JournalEntry, Trial

CHUNK = 50
"""So many rows are in memory at a time."""


@contextmanager
def snapshot() -> Iterator[None]:
    """The database as it is now, for as long as one reads, whoever saves meanwhile. It holds no lock of writing."""
    if connection.in_atomic_block:
        yield
        return
    connection.ensure_connection()
    connection.connection.execute("BEGIN DEFERRED")
    try:
        yield
    finally:
        connection.connection.rollback()


def file_name(name: str) -> str:
    """A name as part of a file's name.

    >>> file_name("Pip's 24 V kart"), file_name("…")
    ('pip-s-24-v-kart', 'build')
    """
    return re.sub(r"[^\w]+", "-", name.lower()).strip("-_") or "build"


def _text(value: Any) -> str:
    return json.dumps(value, ensure_ascii=False)


def _rows(rows: Iterable[str]) -> Iterator[str]:
    """A JSON list, a row a line."""
    between = "[\n"
    for row in rows:
        yield between + row
        between = ",\n"
    yield "[]" if between == "[\n" else "\n]"


def _tick(t: Tick) -> dict[str, Any]:
    return TickFile(
        step=t.step, revision=t.revision.number, mark=t.mark, measured=t.measured, measured_open=t.measured_open, fits=t.fits, excused=t.excused, created=t.created
    ).model_dump(mode="json")


def _overrule(o: Overrule) -> dict[str, Any]:
    return OverruleFile(
        finding=o.finding,
        title=o.title,
        reason=o.reason,
        revision=o.revision.number,
        kind="observed" if o.kind == "observed" else "overruled",
        asked=o.asked,
        stands=o.stands,
        unit=o.unit,
        by=o.whose,
        created=o.created,
        fallen=o.fallen,
    ).model_dump(mode="json")


def _revisions(setup: Setup) -> Iterator[str]:
    # The document goes out as it is stored, without being read.
    rows = setup.revisions.order_by("number").select_related("author").defer("document").annotate(stored=Cast("document", TextField()))
    for r in rows.iterator(CHUNK):
        head = RevisionFile(number=r.number, created=r.created, label=r.label, author=r.by, document={}).model_dump(mode="json", exclude={"document"})
        yield f'{_text(head)[:-1]}, "document": {r.stored}}}'


def _trial(t: Trial, keys: dict[int, str]) -> str:
    return TrialFile(
        setup=keys[t.setup_id],
        revision=t.revision.number,
        when=t.when,
        passes=t.passes,
        knob=t.knob,
        surface=t.surface,
        grade=t.grade,
        volts_before_v=t.volts_before_v,
        volts_after_v=t.volts_after_v,
        motor_c=t.motor_c,
        note=t.note,
    ).model_dump_json()


def _entry(j: JournalEntry, keys: dict[int, str]) -> str:
    return JournalFile(when=j.when, kind=j.kind, text=j.text, setup=keys.get(j.setup_id) if j.setup_id else None).model_dump_json()


def _incident(i: Incident) -> str:
    return IncidentFile(kind=i.kind, note=i.note, by=i.whose, created=i.created, checks=[IncidentCheckFile(**check) for check in i.checks]).model_dump_json()


def _setup(setup: Setup, key: str) -> str:
    head = {
        "key": key,
        "name": setup.name,
        "is_baseline": setup.is_baseline,
        "in_use": setup.in_use,
        "as_found": setup.as_found,
        "completed": setup.completed,
        "document": setup.document,
    }
    head["ticks"] = [_tick(t) for t in setup.ticks.select_related("revision")]
    head["overrules"] = [_overrule(o) for o in setup.overrules.select_related("revision", "by")]
    return _text(head)


def _setups(setups: list[Setup], keys: dict[int, str]) -> Iterator[str]:
    """The list of setups, each with its revisions row by row."""
    between = "[\n"
    for setup in setups:
        yield f'{between}{_setup(setup, keys[setup.pk])[:-1]},\n"revisions": '
        yield from _rows(_revisions(setup))
        yield "}"
        between = ",\n"
    yield "[]" if between == "[\n" else "\n]"


def build_text(build: Build) -> Iterator[str]:
    """The build as a document of the open format, piece by piece. Read it within one `snapshot`."""
    setups = list(build.setups.all())
    keys = {setup.pk: f"s{i + 1}" for i, setup in enumerate(setups)}
    head = {"format": BUILD_FORMAT, "version": VERSION, "name": build.name, "family": build.family, "description": build.description, "new_price": build.new_price}
    yield _text(head)[:-1] + ',\n"setups": '
    yield from _setups(setups, keys)
    lists = {
        "trials": (_trial(t, keys) for t in build.trials.select_related("revision").defer("revision__document").iterator(CHUNK)),
        "journal": (_entry(j, keys) for j in build.journal.all().iterator(CHUNK)),
        "incidents": (_incident(i) for i in build.incidents.select_related("by").iterator(CHUNK)),
    }
    for name, rows in lists.items():
        yield f',\n"{name}": '
        yield from _rows(rows)
    yield "}\n"


def build_file(build: Build) -> Iterator[bytes]:
    """The same as bytes to be sent, of one moment."""
    with snapshot():
        for piece in build_text(build):
            yield piece.encode()


class _Outlet(io.RawIOBase):
    """A file that is written once and taken away piece by piece."""

    def __init__(self) -> None:
        self._pieces: list[bytes] = []

    def writable(self) -> bool:
        """It is."""
        return True

    def write(self, piece: Any) -> int:
        """Keep a piece until it is taken."""
        self._pieces.append(bytes(piece))
        return len(piece)

    def taken(self) -> bytes:
        """What was written since."""
        taken, self._pieces = b"".join(self._pieces), []
        return taken


def _part(p: RackPart) -> RackPartFile:
    log = [EntryFile(when=e.when, kind=e.kind, value=e.value, half=e.half, text=e.text, source=e.source, by=e.by_name) for e in p.log.all()]
    return RackPartFile(kind=p.kind, label=p.label, quantity=p.quantity, document=p.document, key=p.key, letter=p.letter, about=p.about, log=log)


def _garage_head(garage: Garage, names: list[str], photos: list[PhotoFile]) -> str:
    return GarageHead(
        format=GARAGE_FORMAT,
        version=VERSION,
        name=garage.name,
        exported=timezone.now(),
        units=garage.units,
        house_rules=garage.house_rules,
        emergency_number=garage.emergency_number,
        members=[MemberFile(name=m.user.get_username(), role=m.role) for m in garage.memberships.select_related("user").order_by("pk")],
        riders=[RiderFile(document={**rider.document, "name": rider.name}) for rider in garage.riders.order_by("pk")],
        rack=[_part(p) for p in garage.rack.order_by("pk").prefetch_related("log")],
        photos=photos,
        builds=names,
    ).model_dump_json(indent=1)


def garage_zip(garage: Garage) -> Iterator[bytes]:
    """The whole garage as a zip, piece by piece, of one moment: `garage.json`, a file of each build under `builds/`, and the pictures under `photos/`."""
    outlet = _Outlet()
    with snapshot(), zipfile.ZipFile(outlet, "w", zipfile.ZIP_DEFLATED, compresslevel=3) as archive:
        # The one last worked on comes first, and is made last when it is read in.
        builds = list(builds_of(garage))
        names = [f"builds/{i + 1}-{file_name(build.name)}.json" for i, build in enumerate(builds)]
        photos = photo_files(garage, builds)
        archive.writestr(GARAGE_FILE, _garage_head(garage, names, photos))
        for name, build in zip(names, builds, strict=True):
            with archive.open(name, "w", force_zip64=True) as entry:
                for piece in build_text(build):
                    entry.write(piece.encode())
                    yield outlet.taken()
        for _ in write_pictures(archive, photos):
            yield outlet.taken()
    yield outlet.taken()
