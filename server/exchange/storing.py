"""Storing what was read, in batches that let others save in between, out of sight until one switch shows it."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass, field
from itertools import count, islice
from typing import Any, TypeVar

from django.db import transaction
from django.db.models import Model, QuerySet
from pydantic import BaseModel

from gecko.document.parts.rider import Rider as RiderPart
from gecko.document.rack.kinds import ONE_BY_ONE
from gecko.document.setup import load_setup
from server.builds.models import Build, Incident, Overrule, Revision, Setup, Tick
from server.exchange.photos import Stored
from server.exchange.reading import REVISIONS, ROWS, Bounded, Checked, rows_of
from server.exchange.shapes import EntryFile, GarageHead, IncidentFile, JournalFile, RackPartFile, RevisionFile, SetupHead, TrialFile
from server.garage.models import Garage, PartEntry, RackPart, Rider
from server.garage.rack import check_about, check_part, lettered
from server.logbook.models import JournalEntry, Trial
from server.logbook.services import reduced

HOLD_S = 0.06
"""How long a batch should hold the database's lock for writing; its size is adjusted to that. Slow disks take three times as long. [s]"""

STAGING = "being read in"
"""What garages are called that hold what is not to be seen yet."""

FIRST, MOST = 4, 500
"""Rows of the first batch, and of the largest."""

Item = TypeVar("Item")


def batches(items: Iterable[Item], store: Callable[[list[Item]], object]) -> None:
    """Store items a batch at a time, and leave as much time to others as each took."""
    left, size = iter(items), FIRST
    while chunk := list(islice(left, size)):
        begun = time.monotonic()
        with transaction.atomic():
            store(chunk)
        took = time.monotonic() - begun
        size = max(1, min(MOST, int(size * min(2.0, HOLD_S / max(took, 1e-4)))))
        time.sleep(min(took, HOLD_S))


def clear(staging: Garage) -> None:
    """Delete a garage nobody sees with all that was stored in it, a batch at a time. Any other garage is left alone: after a restore the number may
    be somebody's."""
    if not Garage.objects.filter(pk=staging.pk, name=STAGING, memberships=None).exists():
        return
    for build in Build.with_bin.filter(garage=staging):
        # What points at revisions goes before them.
        for rows in (Trial.with_bin, JournalEntry.with_bin):
            _delete(rows.filter(build=build))
        for of_setup in (Tick, Overrule, Revision):
            _delete(of_setup.objects.filter(setup__build=build))
        batches([build], lambda one: one[0].delete())
    batches([staging], lambda one: one[0].delete())


def _delete(rows: QuerySet[Any]) -> None:
    model: type[Model] = rows.model
    every = model.with_bin if hasattr(model, "with_bin") else model._default_manager
    batches(list(rows.values_list("pk", flat=True)), lambda keys: every.filter(pk__in=keys).delete())


def _signed(field: str, name: str, user: Any) -> dict[str, Any]:
    """Who did it, as the file says. It is linked to an account only where that is the reader's own. Older files do not say, and count as the
    reader's."""
    own = not name or name == user.get_username()
    return {field: user if own else None, f"{field}_name": name or user.get_username()}


def store_build(staging: Garage, user: Any, found: Checked, opened: Callable[[], Bounded]) -> Stored:
    """Store a checked build. opened: its file from the beginning, each time anew."""
    with transaction.atomic():
        head = found.head
        price = head.new_price.model_dump(mode="json") if head.new_price is not None else None
        build = Build.objects.create(garage=staging, name=head.name, family=head.family, description=head.description, new_price=price)
        setups = [_setup(build, entry, position) for position, entry in enumerate(found.head.setups)]
    keeper = _Keeper(build, setups, {entry.key: setup for entry, setup in zip(found.head.setups, setups, strict=True)}, user)
    # What points at revisions comes after them, in most files by itself.
    for wanted in (frozenset(ROWS),) if found.in_order else (frozenset((REVISIONS,)), frozenset(ROWS) - {REVISIONS}):
        batches(_shaped(opened(), wanted), keeper.keep)
    for setup, entry in zip(setups, found.head.setups, strict=True):
        with transaction.atomic():
            _said(setup, entry, user, keeper.numbers)
            top = max(number for of, number in keeper.numbers if of == setup.pk)
            Setup.objects.filter(pk=setup.pk).update(version=top)
    return Stored(build, keeper.by_key, keeper.trials, keeper.entries)


def _shaped(file: Bounded, wanted: frozenset[str]) -> Iterator[tuple[int, BaseModel]]:
    """Rows of a file with the number of the setup they stand in."""
    for row in rows_of(file, wanted):
        if row.place:
            yield row.setup, ROWS[row.place].model_validate(row.value)


@dataclass
class _Keeper:
    """Stores rows of a build, and knows which revision is which."""

    build: Build
    setups: list[Setup]
    by_key: dict[str, Setup]
    user: Any
    numbers: dict[tuple[int, int], int] = field(default_factory=dict)
    """Of a setup and a revision's number its row."""
    trials: list[Trial] = field(default_factory=list)
    entries: list[JournalEntry] = field(default_factory=list)
    """Runs and entries in the order of the file."""

    def keep(self, rows: list[tuple[int, BaseModel]]) -> None:
        """Store rows of any kind, the revisions first."""
        revisions = [self._revision(place, row) for place, row in rows if isinstance(row, RevisionFile)]
        for made in Revision.objects.bulk_create(revisions):
            self.numbers[made.setup_id, made.number] = made.pk
        self.trials += Trial.objects.bulk_create([self._trial(row) for _, row in rows if isinstance(row, TrialFile)])
        self.entries += JournalEntry.objects.bulk_create([self._entry(row) for _, row in rows if isinstance(row, JournalFile)])
        for _, row in rows:
            if isinstance(row, IncidentFile):
                self._incident(row)

    def _revision(self, place: int, r: RevisionFile) -> Revision:
        signed = _signed("author", r.author, self.user)
        return Revision(setup=self.setups[place], number=r.number, document=r.document, label=r.label, created=r.created, **signed)

    def _entry(self, j: JournalFile) -> JournalEntry:
        return JournalEntry(build=self.build, setup=self.by_key.get(j.setup) if j.setup else None, when=j.when, kind=j.kind, text=j.text)

    def _incident(self, i: IncidentFile) -> None:
        checks = [check.model_dump() for check in i.checks]
        made = Incident.objects.create(build=self.build, kind=i.kind, note=i.note, checks=checks, **_signed("by", i.by, self.user))
        # The moment it happened, not that of reading the file.
        Incident.objects.filter(pk=made.pk).update(created=i.created)

    def _trial(self, t: TrialFile) -> Trial:
        passes = [p.model_dump() for p in t.passes]
        found = reduced(passes)
        setup = self.by_key[t.setup]
        return Trial(
            build=self.build,
            setup=setup,
            revision_id=self.numbers[setup.pk, t.revision],
            when=t.when,
            passes=passes,
            knob=t.knob,
            surface=t.surface,
            grade=t.grade,
            volts_before_v=t.volts_before_v,
            volts_after_v=t.volts_after_v,
            motor_c=t.motor_c,
            note=t.note,
            speed_m_s=found.speed_m_s,
            half_width_m_s=found.half_width_m_s,
        )


def _setup(build: Build, entry: SetupHead, position: int) -> Setup:
    return Setup.objects.create(
        build=build,
        name=entry.name,
        position=position,
        is_baseline=entry.is_baseline,
        in_use=entry.in_use,
        # In a file from before the machine as found was kept apart, the baseline is the machine as found.
        as_found=entry.is_baseline if entry.as_found is None else entry.as_found,
        completed=entry.completed.model_dump() if entry.completed is not None else None,
        document=load_setup(entry.document).model_dump(mode="json"),
    )


def _said(setup: Setup, entry: SetupHead, user: Any, numbers: dict[tuple[int, int], int]) -> None:
    """Ticks and overrules of a setup, of the moment they were done, not that of reading the file."""
    Tick.objects.bulk_create(
        Tick(
            setup=setup,
            revision_id=numbers[setup.pk, t.revision],
            step=t.step,
            mark=t.mark,
            measured=t.measured,
            measured_open=t.measured_open,
            fits=t.fits,
            excused=t.excused,
        )
        for t in entry.ticks
    )
    Overrule.objects.bulk_create(
        Overrule(
            setup=setup,
            revision_id=numbers[setup.pk, o.revision],
            finding=o.finding,
            title=o.title,
            reason=o.reason,
            kind=o.kind,
            asked=o.asked,
            stands=o.stands,
            unit=o.unit,
            fallen=o.fallen,
            **_signed("by", o.by, user),
        )
        for o in entry.overrules
    )
    for t in entry.ticks:
        if t.created is not None:
            setup.ticks.filter(step=t.step).update(created=t.created)
    for o in entry.overrules:
        if o.created is not None:
            setup.overrules.filter(finding=o.finding).update(created=o.created)


def store_surroundings(staging: Garage, target: Garage, head: GarageHead) -> None:
    """Store the riders and parts of an archive, except those the garage already has."""
    riders = [RiderPart.model_validate(one.document).model_dump(mode="json") for one in head.riders]
    known = list(target.riders.values_list("document", flat=True))
    batches(
        [Rider(garage=staging, name=one["name"], document=one) for one in riders if one not in known],
        Rider.objects.bulk_create,
    )
    logs: dict[str, list[EntryFile]] = {}
    batches(list(_parts(staging, target, head.rack, logs)), RackPart.objects.bulk_create)
    made = {part.key: part for part in staging.rack.all()} if logs else {}
    lines = [_line(made[key], entry) for key, log in logs.items() for entry in log]
    batches(lines, PartEntry.objects.bulk_create)


def _line(part: RackPart, e: EntryFile) -> PartEntry:
    return PartEntry(part=part, when=e.when, kind=e.kind, value=e.value, half=e.half, text=e.text, source=e.source, by_name=e.by)


def _parts(staging: Garage, target: Garage, files: list[RackPartFile], logs: dict[str, list[EntryFile]]) -> Iterator[RackPart]:
    """Parts of an archive as rows, except those the garage already has: by their key; what is counted, and what an older file knows no key of, by its label.

    Of what is a thing of its own each piece is a row with a sticker, another one where its own is taken. Their logs go into `logs`, by key.
    """
    labels = set(target.rack.values_list("kind", "label"))
    keys, binned = (set(target.rack(manager=manager).values_list("key", flat=True)) for manager in ("objects", "with_bin"))
    worn: dict[str, set[str]] = {}
    for file in files:
        single = file.kind in ONE_BY_ONE
        if file.key in keys or ((file.kind, file.label) in labels and not (single and file.key)):
            continue
        document, about = check_part(file.kind, file.document), check_about(file.about)
        for piece in range(max(file.quantity, 1) if single else 1):
            # What lies in the bin may come back under its key.
            key = {"key": file.key} if file.key and file.key not in binned and piece == 0 else {}
            row = RackPart(garage=staging, kind=file.kind, label=file.label, document=document, about=about, quantity=1 if single else file.quantity, **key)
            if single:
                if file.kind not in worn:
                    worn[file.kind] = set(target.rack(manager="with_bin").filter(kind=file.kind).values_list("letter", flat=True))
                letters = (lettered(number) for number in count())
                row.letter = file.letter if file.letter and file.letter not in worn[file.kind] else next(one for one in letters if one not in worn[file.kind])
                worn[file.kind].add(row.letter)
            keys.add(row.key)
            if file.log and piece == 0:
                logs[row.key] = file.log
            yield row
