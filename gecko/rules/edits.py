"""Small changes on a Setup document that fixes are made of. Each changes the document in place."""

from __future__ import annotations

import math
from typing import Literal

from gecko.analysis.runs import Run
from gecko.answers.evaluation import Answer
from gecko.common.documents import Document
from gecko.common.figures import SPREAD
from gecko.document.parts.pack import Pack, another
from gecko.document.setup import Setup
from gecko.physics.protection.ampacity import Size
from gecko.reference.tables import OfferedFuse
from gecko.rules.registry import Change, Edit


def copied(document: Document) -> Document:
    """A copy of a document; `copy.deepcopy` takes ten times as long."""
    return {key: _copied(part) for key, part in document.items()}


def _copied(value: object) -> object:
    if isinstance(value, dict):
        return copied(value)
    return [_copied(part) for part in value] if isinstance(value, list) else value


def figure(value: float, basis: str = "assumed") -> Document:
    """A figure as it stands in a document."""
    return {"value": value, "basis": basis}


def setting(value: float) -> Document:
    """A figure somebody sets by hand as planned: no nameplate says it, but it is met as closely as one. In the unit of its field."""
    return {"value": value, "basis": "assumed", "spread": SPREAD["nameplate"]}


def to_buy(value: float) -> Document:
    """A figure of a part that is still to be had, in the unit of its field: whoever buys it enters what is printed."""
    return figure(value, "assumed")


def put(path: str, value: object) -> Change:
    """A change that sets the value at a slash-separated path, making the parts on the way there."""
    *way, last = path.strip("/").split("/")

    def change(document: Document) -> None:
        place = _down(document, way)
        if isinstance(place, list):
            place[int(last)] = value
        else:
            place[last] = value

    return change


def _down(document: Document, way: list[str]) -> Document | list[object]:
    """The part or list at the end of a way through a document; a missing part on the way is made."""
    place: Document | list[object] = document
    for step in way:
        if isinstance(place, dict) and not place.get(step):
            place[step] = {}
        found = place[int(step)] if isinstance(place, list) else place[step]
        assert isinstance(found, dict | list)
        place = found
    return place


def both(*changes: Change) -> Change:
    """Several changes as one."""

    def change(document: Document) -> None:
        for one in changes:
            one(document)

    return change


def as_fuse(offer: OfferedFuse) -> Document:
    """A fuse one can buy, as it stands in a document."""
    return {"kind": offer.kind, "rating_a": offer.rating_a, "dc_volts_v": offer.dc_volts_v, "breaking_a": None, "holder_a": None, "holder_v": None}


def as_size(size: Size) -> Document:
    """A wire size, as it stands in a lead's document."""
    return {"awg": size.awg, "mm2": size.mm2, "strands": size.strands, "material": "copper"}


def places_of(run: Run) -> list[tuple[str, str]]:
    """Paths of lead and own fuse in the document, for every row the run stands for."""
    if not run.rows:
        return [(run.path, run.fuse_path)]
    name = run.path.rpartition("/")[2]
    return [(f"/bank/rows/{r}/{name}", f"/bank/rows/{r}/fuse") for r in run.rows]


def merged(document: Document, path: str, values: Document) -> None:
    """Set some fields of the part at a path, leaving its others."""
    *way, last = path.strip("/").split("/")
    place = _down(document, way)
    assert isinstance(place, dict)
    place[last] = {**(place.get(last) or {}), **values}


def fuse_and_size(run: Run, offer: OfferedFuse | None, size: Size | None) -> Edit:
    """Put fuse and wire of a run together: they are one decision. None leaves the one or the other as it is."""

    def change(document: Document) -> None:
        for lead, fuse in places_of(run):
            if offer is not None:
                merged(document, fuse, as_fuse(offer))
            if size is not None:
                merged(document, lead, as_size(size))

    fuse_words = "" if offer is None else f"{offer.rating_a:g} A {offer.kind}, {offer.dc_volts_v:g} V"
    return Edit(" × ".join(word for word in (fuse_words, "" if size is None else size.words) if word), change)


def one_more(pack: Document) -> Document:
    """One more pack of a kind: what was read or measured on that one is not known of it."""
    return another(Pack.model_validate(pack)).model_dump(mode="json")


def one_more_row(document: Document) -> None:
    """Another row like the first, side by side; its packs are new ones."""
    rows = document["bank"]["rows"]
    rows.append({**copied(rows[0]), "units": [one_more(unit) for unit in rows[0]["units"]]})


def fewer_in_series(document: Document) -> None:
    """One pack less in series in every row."""
    for row in document["bank"]["rows"]:
        row["units"] = row["units"][:-1]


def round_up(value: float, step: float) -> float:
    """Round up to a step, in the unit of the value.

    >>> round_up(41.2, 5)
    45.0
    """
    return float(math.ceil(value / step - 1e-9) * step)


def at(setup: Setup, path: str) -> object:
    """What stands at a slash-separated path of a setup; None also where a part on the way is missing."""
    place: object = setup
    for step in path.strip("/").split("/"):
        if place is None:
            return None
        place = place[int(step)] if isinstance(place, list | tuple) else getattr(place, step)
    return place


def answers(
    setup: Setup, key: str, path: str, *, yes: object = True, no: object = False, labels: tuple[str, str] = ("Yes", "No"), unknown: object = None
) -> tuple[Answer, ...]:
    """The three answers to a question whose fact stands at a path: what "yes" and "no" write there, and "can't tell", which leaves it open.

    Every answer is also kept under the question's key, so that who saw it and when can be told.
    """
    told: list[tuple[Literal["yes", "no", "cannot tell"], str, object]] = [("yes", labels[0], yes), ("no", labels[1], no), ("cannot tell", "Can't tell", unknown)]
    return tuple(Answer(answer=answer, label=label, patch=[*_set_at(setup, path, value), *_look(setup, key, answer)]) for answer, label, value in told)


def _look(setup: Setup, key: str, answer: str) -> list[Document]:
    seen = {"answer": answer, "by": "", "when": ""}
    # A document from before there were looks has no place for them yet.
    return [{"op": "add", "path": f"/looks/{key}", "value": seen} if setup.looks else {"op": "add", "path": "/looks", "value": {key: seen}}]


def _set_at(setup: Setup, path: str, value: object) -> list[Document]:
    """JSON Patch that sets a value, making the one part on the way there that may be missing."""
    steps = path.strip("/").split("/")
    for i in range(1, len(steps)):
        if at(setup, "/".join(steps[:i])) is None:
            for rest in reversed(steps[i:]):
                value = {rest: value}
            return [{"op": "add", "path": "/" + "/".join(steps[:i]), "value": value}]
    return [{"op": "add", "path": path, "value": value}]
