"""The log of a part: readings, what happened, notes; and those that come by themselves from what is measured elsewhere."""

from __future__ import annotations

import re
from collections.abc import Iterator
from datetime import datetime, timedelta
from typing import Literal, get_args

from django.utils import timezone

from gecko.common.documents import Document
from gecko.plans.care.pack_life import EntryKind, PackLife, Read, pack_life
from server.errors import Refused, not_found
from server.garage.models import Garage, PartEntry, RackPart
from server.garage.rack import read

Source = Literal["by hand", "Power", "Hookup", "Prove", "Care"]
"""Where a reading came from."""

STILL_TYPING = timedelta(minutes=5)
"""A reading of the same part, kind and source within this time of the last one takes its place: somebody is still typing."""

MOST_ENTRIES = 2000
"""So many lines one part's log holds."""

_READINGS = ("capacity", "resistance", "rested", "charged")


def add_entry(
    part: RackPart, kind: str, *, value: float | None = None, half: float | None = None, text: str = "", when: datetime | None = None, by: str = ""
) -> PartEntry:
    """Write a line into a part's log, by hand. Raises Refused for a reading without a number, and a note without words."""
    if kind not in get_args(EntryKind):
        raise Refused(f"A log has no place for {kind}: use {', '.join(get_args(EntryKind))}.", field="/kind")
    if kind in _READINGS and (value is None or not value > 0.0):
        raise Refused("Enter the reading: a number above nothing.", field="/value")
    if kind not in _READINGS and not text.strip():
        raise Refused("Write what it is about.", field="/text")
    if part.log.count() >= MOST_ENTRIES:
        raise Refused(f"A log holds {MOST_ENTRIES} lines. Delete some that say nothing new.", code="too_many")
    number = value if kind in _READINGS else None
    return PartEntry.objects.create(part=part, kind=kind, value=number, half=half, text=text.strip()[:300], when=when or timezone.now(), by_name=by)


def entry_of(part: RackPart, entry_id: int) -> PartEntry:
    """A line of a part's log. Raises Refused 404 otherwise."""
    entry = part.log.filter(pk=entry_id).first()
    if entry is None:
        raise not_found("line")
    return entry


def life_of(part: RackPart) -> PackLife | None:
    """A pack over its life, from its log; None for what is no pack, or cannot be read any more."""
    found = read(part)
    if found is None or part.kind != "packs":
        return None
    readings: dict[str, list[Read]] = {"capacity": [], "resistance": []}
    for entry in part.log.filter(kind__in=readings).order_by("when"):
        readings[entry.kind].append(Read(when=entry.when, value=float(entry.value or 0.0), half=entry.half))
    today = timezone.now()
    bought = found.about.bought
    born = datetime(bought.year, bought.month, bought.day, tzinfo=today.tzinfo) if bought is not None else None
    return pack_life(found.part, born, today, readings["capacity"], readings["resistance"])  # type: ignore[arg-type]  # the kind says it is a pack


_FROM_FIELDS = {"capacity_ah": "capacity", "resistance_ohm": "resistance", "resting_v": "rested"}
_Z95 = 1.96


def note_measured(garage: Garage, before: Document | None, after: Document, by: str) -> None:
    """Write into the logs of the rack's packs what somebody measured on them in a setup: figures that are measured now, and were not or were others before."""
    was = dict(_packs(before or {}))
    for key, unit in _packs(after):
        old = was.get(key)
        # What comes in with the pack was measured before it came.
        if old is None:
            continue
        for field, kind in _FROM_FIELDS.items():
            figure = unit.get(field)
            if figure and figure.get("basis") == "measured" and figure != old.get(field):
                spread = figure.get("spread")
                land(garage, key, kind, float(figure["value"]), None if spread is None else _Z95 * spread * figure["value"], by, "Power")


def _packs(document: Document) -> Iterator[tuple[str, Document]]:
    for row in (document.get("bank") or {}).get("rows") or []:
        for unit in row.get("units") or []:
            if key := (unit.get("rack") or {}).get("key"):
                yield key, unit


def land(garage: Garage, key: str, kind: str, value: float, half: float | None, by: str, source: Source, when: datetime | None = None) -> None:
    """Write a reading into the log of a part of the rack; one still being typed takes the place of itself."""
    part = garage.rack.filter(key=key).first()
    if part is None or part.log.count() >= MOST_ENTRIES:
        return
    last = None if when is not None else part.log.filter(kind=kind, source=source, by_name=by, when__gte=timezone.now() - STILL_TYPING).first()
    if last is not None:
        last.value, last.half, last.when = value, half, timezone.now()
        last.save(update_fields=["value", "half", "when"])
    else:
        PartEntry.objects.create(part=part, kind=kind, value=value, half=half, by_name=by, source=source, when=when or timezone.now())


_PACK_TIP = re.compile(r"pack(\d+)_(\d+)\.")


def land_at_pack(garage: Garage, document: Document, tips: tuple[str, str], volts: float, by: str) -> None:
    """Write volts a step of the hookup measured across one pack, nothing joined, into its log. tips: the terminals, by the wiring's names."""
    at = {found.groups() for tip in tips if (found := _PACK_TIP.match(tip)) is not None}
    if len(at) != 1:
        return
    ((row, unit),) = at
    key = (document["bank"]["rows"][int(row)]["units"][int(unit)].get("rack") or {}).get("key")
    if key:
        land(garage, key, "rested", volts, None, by, "Hookup")


def land_before_a_run(garage: Garage, document: Document, volts: float, by: str, when: datetime | None) -> None:
    """Write volts measured at rest before a run at the bank into the logs of its packs, where each row is one pack: then each rests at the bank's volts."""
    rows = (document.get("bank") or {}).get("rows") or []
    if all(len(row.get("units") or []) == 1 for row in rows):
        for key, _unit in _packs(document):
            land(garage, key, "rested", volts, None, by, "Prove", when)
