"""Two people's changes to one setup, joined field by field; only what both changed is asked about."""

from __future__ import annotations

import json
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from difflib import SequenceMatcher
from typing import Literal, TypeGuard

from gecko.common.documents import Document

Side = Literal["mine", "theirs"]

WHOLE = ""
"""The path of the whole document."""

NAMES = ("id", "label", "name", "place", "mark")
"""What tells one item of a list from the next, the surest first."""

_GONE = object()
"""Stands for an item that is not in a list."""


@dataclass(frozen=True)
class Clash:
    """A field both changed, each in another way: its JSON Pointer in the joined document, and what either has there; None: taken out."""

    path: str
    mine: object
    theirs: object


@dataclass(frozen=True)
class Joined:
    """A joined document, and what is still to be decided in it. Undecided fields hold mine, or theirs where mine took the item out."""

    document: Document
    asked: tuple[Clash, ...]


def joined(base: Document, mine: Document, theirs: Document, answers: Mapping[str, Side] | None = None) -> Joined:
    """Join two documents that were both made from `base`. answers: by path which side is taken; "" answers for everything.

    A figure with its basis is one field, and so is what was looked at. Items of a list are told apart by id, label, name or place where these are unique, else by their
    order among those nobody changed; what either put in is kept, and the same item put in by both is kept once.

    >>> joined({"a": 1, "b": 1}, {"a": 2, "b": 1}, {"a": 1, "b": 3})
    Joined(document={'a': 2, 'b': 3}, asked=())
    >>> joined({"a": 1}, {"a": 2}, {"a": 3}).asked
    (Clash(path='/a', mine=2, theirs=3),)
    """
    answers = answers or {}
    if (whole := answers.get(WHOLE)) is not None:
        return Joined(mine if whole == "mine" else theirs, ())
    work = _Work(answers)
    document = work.values(WHOLE, base, mine, theirs)
    assert isinstance(document, dict)
    return Joined(document, tuple(work.asked))


@dataclass
class _Work:
    answers: Mapping[str, Side]
    asked: list[Clash] = field(default_factory=list)

    def values(self, path: str, base: object, mine: object, theirs: object) -> object:
        """What stands at a path after both changes; _GONE for an item taken out."""
        if mine == theirs or theirs == base:
            return mine
        if mine == base:
            return theirs
        if isinstance(mine, dict) and isinstance(theirs, dict) and not (_is_one(mine) or _is_one(theirs)):
            known = base if isinstance(base, dict) else {}
            found = {}
            for key in dict.fromkeys([*mine, *theirs]):
                value = self.values(f"{path}/{key}", *(side.get(key, _GONE) for side in (known, mine, theirs)))
                if value is not _GONE:
                    found[key] = value
            return found
        if isinstance(mine, list) and isinstance(theirs, list):
            return self.lists(path, base if isinstance(base, list) else [], mine, theirs)
        return self.ask(path, mine, theirs)

    def ask(self, path: str, mine: object, theirs: object) -> object:
        if _is_look(mine) and _is_look(theirs) and mine["answer"] == theirs["answer"]:
            # Both looked and saw the same: the earlier answer stays.
            return theirs
        answer = self.answers.get(path)
        if answer is not None:
            return mine if answer == "mine" else theirs
        self.asked.append(Clash(path, *(None if side is _GONE else side for side in (mine, theirs))))
        return theirs if mine is _GONE else mine

    def lists(self, path: str, base: list[object], mine: list[object], theirs: list[object]) -> list[object]:
        """In base's order; what one side put in comes after the item it followed there, theirs first, for they saved first."""
        from_mine, from_theirs = _Sided(base, mine), _Sided(base, theirs)
        result: list[object] = []
        answered_out = 0
        for at in range(-1, len(base)):
            if at >= 0:
                # An item is named by its place before any answer removes one, so that every answer still finds its item.
                called = f"{path}/{len(result) + answered_out}"
                value = self.values(called, base[at], from_mine.kept.get(at, _GONE), from_theirs.kept.get(at, _GONE))
                if value is not _GONE:
                    result.append(value)
                elif called in self.answers:
                    answered_out += 1
            new = from_theirs.put_in.get(at, [])
            result += new
            result += [item for item in from_mine.put_in.get(at, []) if item not in new]
        return result


class _Sided:
    """One side's list seen from the base: items kept, by their place there, and items put in, by the place they follow (-1: at the start)."""

    def __init__(self, base: list[object], side: list[object]) -> None:
        self.kept: dict[int, object] = {}
        self.put_in: dict[int, list[object]] = {}
        partner = dict(_partners(base, side))
        last = -1
        for place, item in enumerate(side):
            if place in partner:
                last = partner[place]
                self.kept[last] = item
            else:
                self.put_in.setdefault(last, []).append(item)


def _partners(base: list[object], side: list[object]) -> Iterator[tuple[int, int]]:
    """Which item of a side is which of the base: pairs of places, side's first."""
    name = next((name for name in NAMES if _tells_apart(name, base) and _tells_apart(name, side)), None)
    if name is not None:
        places = {_called(item, name): place for place, item in enumerate(base)}
        yield from ((place, places[called]) for place, item in enumerate(side) if (called := _called(item, name)) in places)
        return
    matcher = SequenceMatcher(None, [_text(item) for item in base], [_text(item) for item in side], autojunk=False)
    for kind, b0, b1, s0, s1 in matcher.get_opcodes():
        # As many items after as before: they were changed in place. Otherwise nobody can say which became which.
        if kind == "equal" or (kind == "replace" and b1 - b0 == s1 - s0 and all(isinstance(item, dict) for item in side[s0:s1])):
            yield from zip(range(s0, s1), range(b0, b1), strict=True)


def _called(item: object, name: str) -> object:
    return item.get(name) if isinstance(item, dict) else None


def _tells_apart(name: str, items: list[object]) -> bool:
    values = [_called(item, name) for item in items]
    return all(isinstance(value, str) and value for value in values) and len(set(values)) == len(values)


def _is_one(value: Document) -> bool:
    """Whether an object is one field: a figure with its basis, or what was seen with who saw it."""
    return ("value" in value and "basis" in value) or _is_look(value)


def _is_look(value: object) -> TypeGuard[Document]:
    return isinstance(value, dict) and "answer" in value


def _text(item: object) -> str:
    return json.dumps(item, sort_keys=True)
