"""What the rack and the setups have to do with each other: where a part is used, and what follows when it is changed."""

from __future__ import annotations

from collections.abc import Iterable
from copy import deepcopy
from dataclasses import dataclass
from typing import Any

from django.db import transaction
from django.db.models import QuerySet, TextField
from django.db.models.functions import Cast

from gecko.common.documents import Document
from gecko.document.rack.kinds import RACK_KINDS
from gecko.document.rack.slots import followed
from server.builds.models import Setup
from server.builds.services import save_setup
from server.garage.models import Garage, RackPart
from server.garage.rack import Told, change_part


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
        found |= every.filter(text__contains=f'"{key}"')
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
