"""The rack: parts of one's own, how they are kept, and what plans hear of them."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import suppress
from dataclasses import dataclass, field
from typing import Any

from django.db import transaction
from django.db.models import QuerySet
from pydantic import ValidationError

from gecko.document.parts.held import OnRack
from gecko.document.rack.about import About, Racked, RackFact, concerning, fact, whole
from gecko.document.rack.kinds import ONE_BY_ONE, RACK_KINDS, Kit
from gecko.document.rack.slots import keys_of
from gecko.plans.kits import PLACES, Brought
from server.errors import Refused, not_found
from server.garage.models import Garage, RackPart

MOST_PARTS = 5000
"""So many rows one rack holds."""
MOST_AT_ONCE = 50
"""So many single parts are put on the rack in one go."""


@dataclass(frozen=True, kw_only=True)
class Told:
    """A part as somebody tells it: its kind, what it is called, its document, how many, and what is known of it."""

    kind: str
    label: str
    document: dict[str, Any]
    quantity: int = 1
    about: dict[str, Any] = field(default_factory=dict)


def check_part(kind: str, document: dict[str, Any]) -> dict[str, Any]:
    """A rack part's document, validated by its kind's model, without what nobody entered. Raises Refused or ValidationError."""
    if kind not in RACK_KINDS:
        raise Refused(f"The rack has no place for {kind}: use {', '.join(RACK_KINDS)}.", field="/kind")
    return dict(RACK_KINDS[kind].model_validate({**document, "rack": None} if "rack" in document else document).model_dump(mode="json", exclude_none=True))


def _named(kind: str, document: dict[str, Any], label: str) -> dict[str, Any]:
    """The document with what the part is called on the rack as its own name, where its kind carries one."""
    model = RACK_KINDS.get(kind)
    field = model.model_fields.get("label") if model is not None else None
    most = next((one.max_length for one in field.metadata if hasattr(one, "max_length")), 0) if field is not None else 0
    return {**document, "label": label[:most]} if most and kind in ONE_BY_ONE else document


def check_about(about: dict[str, Any]) -> dict[str, Any]:
    """What is known of a part, without what nobody entered. Raises ValidationError."""
    return About.model_validate(about).model_dump(mode="json", exclude_defaults=True)


def read(row: RackPart) -> Racked | None:
    """A row as the core counts it. None for a part an older program kept and this one cannot read: it counts for nothing."""
    with suppress(ValidationError):
        return Racked(
            kind=row.kind,
            part=RACK_KINDS[row.kind].model_validate(row.document),
            quantity=row.quantity,
            key=row.key,
            letter=row.letter,
            label=row.label,
            about=About.model_validate(row.about),
        )
    return None


def racked(garage: Garage) -> list[Racked]:
    """What lies on the rack."""
    return [found for row in garage.rack.order_by("pk") if (found := read(row)) is not None]


def facts_of(garage: Garage, *documents: dict[str, Any]) -> tuple[RackFact, ...]:
    """What plans must hear of the parts these setups hold, and of their partners."""
    keys = {whole(key) for document in documents for key in keys_of(document)}
    if not keys:
        return ()
    mine = list(_facts(garage.rack.filter(key__in=keys)))
    partners = {one.about.partner for one in mine if one.about.partner} - keys
    return concerning([*mine, *(_facts(garage.rack.filter(key__in=partners)) if partners else ())], keys)


def every_fact(garage: Garage) -> tuple[RackFact, ...]:
    """What plans must hear of any part of a garage."""
    return tuple(_facts(garage.rack.all()))


def _facts(rows: QuerySet[RackPart]) -> Iterator[RackFact]:
    for key, kind, label, letter, about in rows.exclude(about={}).order_by("key").values_list("key", "kind", "label", "letter", "about"):
        # What an older program kept and this one cannot read says nothing.
        with suppress(ValidationError):
            if (found := fact(key=key, kind=kind, label=label, letter=letter, about=About.model_validate(about))) is not None:
                yield found


def part_of(garage: Garage, part_id: int) -> RackPart:
    """A part on the rack. Raises Refused 404 otherwise."""
    part = garage.rack.filter(pk=part_id).first()
    if part is None:
        raise not_found("part")
    return part


def kit_of(part: RackPart) -> tuple[Kit, OnRack]:
    """A kit or donor, and which one of the rack it is. Raises Refused for a single part."""
    if part.kind != "kits":
        raise Refused("This is no kit: it is a single part.", code="no_kit", status=409)
    return Kit.model_validate(part.document), OnRack(key=part.key, label=part.label, letter=part.letter)


def brought(part: RackPart) -> Brought:
    """What somebody begins with: a kit, or a single part as a kit of one. Raises Refused for packs, which lie on the shelf, and for what goes into no slot."""
    if part.kind == "kits":
        kit, name = kit_of(part)
        return Brought(kit=kit, name=name)
    if part.kind not in PLACES:
        raise Refused(f"Nothing begins with one of the {part.kind}: choose a kit, a motor, a controller, or a pack.", code="no_kit", status=409)
    content = {"kind": part.kind, "label": part.label, "document": part.document}
    return Brought(kit=Kit.model_validate({"contents": [content]}), name=OnRack(key=part.key, label=part.label, letter=part.letter), single=True)


def lettered(number: int) -> str:
    """The sticker of the part of this number, from 0.

    >>> lettered(0), lettered(25), lettered(26), lettered(27)
    ('A', 'Z', 'AA', 'AB')
    """
    text = ""
    while number >= 0:
        number, place = divmod(number, 26)
        text = chr(ord("A") + place) + text
        number -= 1
    return text


def free_letters(garage: Garage, kind: str, count: int) -> list[str]:
    """The next stickers nobody of this kind wears; those in the bin may come back and keep theirs."""
    worn = set(RackPart.with_bin.filter(garage=garage, kind=kind).values_list("letter", flat=True))
    found: list[str] = []
    number = 0
    while len(found) < count:
        if (letter := lettered(number)) not in worn:
            found.append(letter)
        number += 1
    return found


@transaction.atomic
def add_parts(garage: Garage, told: Told) -> list[RackPart]:
    """Put parts on the rack: of what is a thing of its own as many as there are, each with its sticker; else one row that counts them. Raises Refused
    or ValidationError."""
    label = told.label.strip() or told.kind
    document, about = check_part(told.kind, _named(told.kind, told.document, label)), check_about(told.about)
    single = told.kind in ONE_BY_ONE
    count = told.quantity if single else 1
    if count < 1:
        raise Refused("Put at least one on the rack.", field="/quantity")
    if count > MOST_AT_ONCE:
        raise Refused(f"Each of these gets a sticker of its own: put up to {MOST_AT_ONCE} on the rack at a time.", field="/quantity")
    if garage.rack.count() + count > MOST_PARTS:
        raise Refused(f"A rack holds {MOST_PARTS} parts. Take off what you no longer have.", code="too_many")
    letters = free_letters(garage, told.kind, count) if single else [""]
    rows = [
        RackPart(garage=garage, kind=told.kind, label=label, document=document, about=about, quantity=1 if single else told.quantity, letter=letter) for letter in letters
    ]
    # A partner is told of a single part, not of several at once.
    for row in rows:
        row.about = {name: value for name, value in about.items() if name != "partner"}
    made = RackPart.objects.bulk_create(rows)
    if len(made) == 1 and about.get("partner"):
        pair(made[0], about["partner"])
    return made


@transaction.atomic
def change_part(part: RackPart, told: Told, letter: str | None = None) -> RackPart:
    """Change a part on the rack. Its kind stays. Raises Refused or ValidationError."""
    if told.kind != part.kind:
        raise Refused(f"This is one of the {part.kind}. Take it off and add it anew as another kind.", field="/kind")
    single = part.kind in ONE_BY_ONE
    if single and told.quantity != 1:
        raise Refused("Each of these is a part of its own: add another one beside it.", field="/quantity")
    if letter is not None and letter != part.letter:
        part.letter = _free(part, letter)
    about = check_about(told.about)
    partner = about.pop("partner", "")
    part.label, part.quantity = told.label.strip() or part.kind, told.quantity
    part.document = check_part(part.kind, _named(part.kind, told.document, part.label))
    part.about = about | ({"partner": old} if (old := part.about.get("partner")) else {})
    part.save()
    if partner != (old or ""):
        pair(part, partner)
    return part


def _free(part: RackPart, letter: str) -> str:
    letter = letter.strip().upper()
    if not letter.isalnum() or len(letter) > 4:
        raise Refused("A sticker has up to four letters or digits.", field="/letter")
    if RackPart.with_bin.filter(garage_id=part.garage_id, kind=part.kind, letter=letter).exclude(pk=part.pk).exists():
        raise Refused(f"Another one wears the sticker {letter} already.", field="/letter")
    return letter


def pair(part: RackPart, partner: str) -> None:
    """Keep a part together with another of its kind, or with none; whom either was with before is alone then. Raises Refused without such a part."""
    other = part.garage.rack.filter(key=partner, kind=part.kind).exclude(pk=part.pk).first() if partner else None
    if partner and other is None:
        raise Refused("There is no such part to keep it together with.", field="/about/partner")
    both = [one for one in (part, other) if one is not None]
    for alone in part.garage.rack.filter(key__in=[old for one in both if (old := one.about.get("partner"))]):
        alone.about = {name: value for name, value in alone.about.items() if name != "partner"}
        alone.save(update_fields=["about"])
    for one, beside in ((part, other), (other, part)):
        if one is not None:
            one.about = {name: value for name, value in one.about.items() if name != "partner"} | ({"partner": beside.key} if beside is not None else {})
            one.save(update_fields=["about"])
