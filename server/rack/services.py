"""What the rack and the setups have to do with each other: where a part is used, and what follows when it is changed."""

from __future__ import annotations

from collections.abc import Iterable
from copy import deepcopy
from dataclasses import dataclass
from typing import Any

from django.db import transaction
from django.db.models import Q, QuerySet, TextField
from django.db.models.functions import Cast
from pydantic import ValidationError

from gecko.common.documents import Document
from gecko.common.errors import field_problems
from gecko.document.context import Context
from gecko.document.rack.kinds import RACK_KINDS
from gecko.document.rack.slots import followed
from gecko.document.rack.table import read_table
from server.answers.kept import answer_json
from server.answers.kept import read as read_setup
from server.builds.models import Setup
from server.builds.services import baseline_of, build_of, save_setup, stock_of
from server.compute.jobs import Job
from server.errors import Refused, not_found
from server.garage.models import Garage, RackPart
from server.garage.rack import Told, add_parts, change_part, facts_of, kit_of, racked
from server.garage.services import house_of


@dataclass(frozen=True, kw_only=True)
class Use:
    """A setup that holds a part."""

    setup: int
    setup_name: str
    build: int
    build_name: str
    in_use: bool


def _holding(garage: Garage, keys: Iterable[str]) -> QuerySet[Setup]:
    """Setups in whose document one of these keys stands."""
    every = Setup.objects.filter(build__garage=garage, build__binned=None).annotate(text=Cast("document", TextField()))
    found = every.none()
    for key in keys:
        # A part inside a kit is named by the kit's key and its place there.
        found |= every.filter(Q(text__contains=f'"{key}"') | Q(text__contains=f'"{key}:'))
    return found.select_related("build").order_by("build__pk", "position", "pk")


def uses_of(part: RackPart) -> list[Use]:
    """Setups that hold a part."""
    rows = _holding(part.garage, [part.key]).values_list("pk", "name", "build_id", "build__name", "in_use")
    return [Use(setup=pk, setup_name=name, build=build, build_name=build_name, in_use=in_use) for pk, name, build, build_name, in_use in rows]


@transaction.atomic
def change(part: RackPart, user: Any, told: Told, letter: str | None, follow: list[int]) -> RackPart:
    """Change a part, and with it its copies in the setups that are to follow: what was changed on the rack changes there, unless the setup had it otherwise.

    Each of these gets a revision; older ones keep the part as it was. Raises Refused or ValidationError, then nothing is changed.
    """
    before = _whole(part)
    part = change_part(part, told, letter)
    after = _whole(part)
    for setup in _holding(part.garage, [part.key]).filter(pk__in=follow):
        document = deepcopy(setup.document)
        for slot in _slots(document, part.key):
            new = followed(slot, before, after)
            slot.clear()
            slot.update({**new, "rack": {**new["rack"], "label": part.label, "letter": part.letter}})
        save_setup(setup.pk, user, document, setup.version, label=f"{part.label} {part.letter} as on the rack".replace("  ", " ")[:80])
    return part


def _whole(part: RackPart) -> Document:
    """A part's document with everything nobody entered, as slots keep it."""
    return dict(RACK_KINDS[part.kind].model_validate(part.document).model_dump(mode="json"))


def _slots(node: Any, key: str) -> Iterable[Document]:
    """Slots of a document that hold a part."""
    if isinstance(node, list):
        for one in node:
            yield from _slots(one, key)
    elif isinstance(node, dict):
        if (node.get("rack") or {}).get("key") == key:
            yield node
        else:
            for one in node.values():
                yield from _slots(one, key)


def fit(part: RackPart, user: Any, document: Document, build_id: int | None, *, bare: bool) -> str:
    """A draft with a kit in it, as JSON text of a `KitFit`. bare: the draft's electric parts are yet to come. Raises Refused for what is no kit."""
    kit, named = kit_of(part)
    if build_id is None:
        context = Context(rack=facts_of(part.garage, document))
    else:
        build = build_of(user, build_id)
        context = Context(baseline=baseline_of(build), stock=stock_of(build), house=house_of(build.garage), rack=facts_of(build.garage, document))
    return answer_json(Job("kit", read_setup(document), context, (kit, named, bare, racked(part.garage)), lane="now"))


@transaction.atomic
def take_out(part: RackPart, number: int) -> list[RackPart]:
    """Take a part out of a kit and put it on the rack by itself. Raises Refused where it is out already, or there is no such part."""
    kit, _ = kit_of(part)
    if number >= len(kit.contents):
        raise not_found("part of the kit")
    content = kit.contents[number]
    if content.taken:
        raise Refused("This part was taken out already: it is on the rack by itself.", code="taken", status=409)
    source = "from a donor" if kit.donor else "unknown"
    about = {"had": source, "notes": f"Out of {part.label} {part.letter}.".replace("  ", " ")}
    made = add_parts(part.garage, Told(kind=content.kind, label=content.label, document=content.document, quantity=content.count, about=about))
    part.document = {**part.document, "contents": [{**one, "taken": True} if n == number else one for n, one in enumerate(part.document["contents"])]}
    part.save(update_fields=["document"])
    return made


@transaction.atomic
def read_in(garage: Garage, text: str) -> list[RackPart]:
    """Put the parts of a table on the rack. Raises GeckoError or Refused naming the line that is wrong, then nothing is put there."""
    made: list[RackPart] = []
    for line in read_table(text):
        try:
            made += add_parts(garage, Told(kind=line.kind, label=line.label, document=line.document, quantity=line.quantity, about=line.about))
        except ValidationError as error:
            first = field_problems(error)[0]
            raise Refused(f"Line {line.number}, {first['path'].strip('/') or line.kind}: {first['message']}", field="/text") from error
        except Refused as error:
            raise Refused(f"Line {line.number}: {error.message}", code=error.code, field="/text") from error
    return made
