"""Ship-with parts: generic, of common sizes, no maker named."""

from __future__ import annotations

import json
from functools import cache
from importlib import resources

from gecko.common.documents import Document
from gecko.document.parts.charger import Charger
from gecko.document.parts.controller import Controller
from gecko.document.parts.drivetrain import Drivetrain, Wheel
from gecko.document.parts.motor import Motor
from gecko.document.parts.pack import Pack
from gecko.reference.rows import read_rows
from gecko.reference.tables import contact, offered_fuses

_MODELS: Document = {
    "packs": Pack,
    "motors": Motor,
    "controllers": Controller,
    "chargers": Charger,
    "gearboxes": Drivetrain,
    "wheels": Wheel,
}
_PLAIN = {"chemistry", "cells_in_series", "cell_kind", "guard_in_tool", "kind", "label", "tyre", "count", "wiring", "per", "plug"}
_LABELLED = {"packs", "chargers"}


def _as_part(kind: str, row: Document) -> Document:
    """A row as the part's document: numbers become figures off a nameplate."""
    fields = {key: value for key, value in row.items() if key not in ("id",) and (key != "label" or kind in _LABELLED)}
    document = {key: value if key in _PLAIN else {"value": value, "basis": "nameplate"} for key, value in fields.items()}
    return dict(_MODELS[kind].model_validate(document).model_dump(mode="json"))


@cache
def catalogue() -> dict[str, list[Document]]:
    """Every ship-with part by kind: `id`, `label` and `part` (a document of its model); fuses, plugs and wires from the tables."""
    raw = json.loads(resources.files("gecko.reference").joinpath("parts.json").read_text(encoding="utf-8"))
    found: dict[str, list[Document]] = {kind: [{"id": row["id"], "label": row["label"], "part": _as_part(kind, row)} for row in raw[kind]] for kind in _MODELS}
    found["fuses"] = [
        {
            "id": f"fuse-{f.kind.replace(' ', '-')}-{f.dc_volts_v:g}-{f.rating_a:g}",
            "label": f"{f.rating_a:g} A {f.kind} fuse, {f.dc_volts_v:g} V DC",
            "part": {"kind": f.kind, "rating_a": f.rating_a, "dc_volts_v": f.dc_volts_v},
        }
        for f in offered_fuses()
    ]
    found["plugs"] = [
        {
            "id": f"plug-{row['kind'].replace(' ', '-')}",
            "label": f"{row['kind']} plug, {contact(row['kind'])[1]:g} A",
            "part": {"kind": row["kind"], "poles": 2},
        }
        for row in read_rows("contacts")
    ]
    found["wires"] = [
        {"id": f"wire-{row['awg']}", "label": f"{row['awg']} AWG copper, 105 °C", "part": {"awg": int(row["awg"]), "insulation": "105"}} for row in read_rows("awg")
    ]
    return found


def pack(part_id: str) -> Document:
    """A ship-with pack's document by id. Raises KeyError when there is none."""
    return dict(next(entry["part"] for entry in catalogue()["packs"] if entry["id"] == part_id))
