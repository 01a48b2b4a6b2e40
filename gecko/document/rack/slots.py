"""The slots of a setup that hold parts of the rack."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from functools import cache
from typing import get_args

from pydantic import BaseModel

from gecko.common.documents import Document
from gecko.document.parts.held import Held, OnRack
from gecko.document.parts.pack import OF_THE_MOMENT, Pack
from gecko.document.rack.about import About
from gecko.document.rack.kinds import RACK_KINDS


def slots(setup: BaseModel, at: str = "") -> Iterator[tuple[str, Held, OnRack]]:
    """Every slot that holds a part of the rack: its JSON Pointer, the part as the slot keeps it, and which part it is."""
    for name in _ways(type(setup)):
        value = getattr(setup, name)
        many = isinstance(value, list)
        for i, one in enumerate(value if many else [value]):
            if isinstance(one, BaseModel):
                here = f"{at}/{name}/{i}" if many else f"{at}/{name}"
                if isinstance(one, Held) and one.rack is not None:
                    yield here, one, one.rack
                yield from slots(one, here)


@cache
def _ways(kind: type[BaseModel]) -> tuple[str, ...]:
    """Fields of a document that are parts, or on the way to some: most of a setup are figures, and no part is among them."""
    return tuple(name for name, field in kind.model_fields.items() if _leads(field.annotation))


def _leads(annotation: object) -> bool:
    if isinstance(annotation, type) and issubclass(annotation, BaseModel):
        return issubclass(annotation, Held) or bool(_ways(annotation))
    return any(_leads(one) for one in get_args(annotation))


def as_slot(kind: str, document: Document, named: OnRack, about: About) -> Document:
    """A part of the rack as a slot keeps it: what it is, and which one. document: of the part's kind, as it is stored."""
    if not issubclass(RACK_KINDS[kind], Held):
        return document
    worn = {"age": "worn"} if kind == "packs" and about.state == "worn" and document.get("age", "unknown") == "unknown" else {}
    return {**document, **worn, "rack": {"key": named.key, "label": named.label, "letter": named.letter}}


_THE_SLOTS_OWN = ("rack", *OF_THE_MOMENT)


def still(slot: Held, part: BaseModel) -> bool:
    """Whether a slot still holds a part of the rack as the rack describes it. What the machine adds, such as what was looked at there, does not count."""
    told = [name for name, value in part if value not in (None, [], "", False) and name not in _THE_SLOTS_OWN]
    return isinstance(slot, type(part)) and all(getattr(slot, name) == getattr(part, name) for name in told)


def followed(slot: Document, before: Document, after: Document) -> Document:
    """A slot's copy of a part that was changed on the rack: what was changed there changes here too, unless this setup had it otherwise already.

    >>> followed({"a": 1, "b": 5}, {"a": 1, "b": 2}, {"a": 3, "b": 4})
    {'a': 3, 'b': 5}
    """
    changed = {name for name in after if name not in _THE_SLOTS_OWN and after[name] != before.get(name)}
    return {name: after[name] if name in changed and value == before.get(name) else value for name, value in slot.items()}


def numbered(document: Document, owned: Sequence[tuple[Pack, Sequence[OnRack]]]) -> Document:
    """A setup's document whose packs are parts of the rack, as far as there are such: each kind of pack with those at hand, in their order."""
    left = [(pack.model_dump(mode="json", exclude={"rack"}), list(names)) for pack, names in owned]
    for row in (document.get("bank") or {}).get("rows") or []:
        for unit in row["units"]:
            plain = {name: value for name, value in unit.items() if name != "rack"}
            names = next((names for pack, names in left if names and pack == plain), None)
            if names is not None:
                unit["rack"] = names.pop(0).model_dump(mode="json")
    return document


def keys_of(document: object) -> frozenset[str]:
    """Keys of all parts of the rack a stored document holds, whether or not it can still be read.

    >>> sorted(keys_of({"bank": {"rows": [{"units": [{"rack": {"key": "k1"}}]}]}, "motor": {"rack": {"key": "k2"}}}))
    ['k1', 'k2']
    """
    return frozenset(named["key"] for named in _stored(document))


def tied_on(document: object) -> frozenset[str]:
    """Keys of the parts a stored document has tied on for one try.

    >>> sorted(tied_on({"motor": {"rack": {"key": "k2", "temporary": True}}, "wheel": {"rack": {"key": "k3", "temporary": False}}}))
    ['k2']
    """
    return frozenset(named["key"] for named in _stored(document) if named.get("temporary") is True)


def _stored(node: object) -> Iterator[Document]:
    """Which parts of the rack a stored document names, as it names them."""
    if isinstance(node, list):
        for one in node:
            yield from _stored(one)
    elif isinstance(node, dict):
        if isinstance(named := node.get("rack"), dict) and isinstance(named.get("key"), str):
            yield named
        for one in node.values():
            yield from _stored(one)
