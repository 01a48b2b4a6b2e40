"""Ship-with parts: generic, of common sizes, no maker named."""

from __future__ import annotations

from functools import cache

from gecko.common.documents import Document
from gecko.document.parts.auxiliary import Converter
from gecko.document.parts.charger import Charger
from gecko.document.parts.controller import Controller, Throttle
from gecko.document.parts.drivetrain import Drivetrain, Wheel
from gecko.document.parts.motor import Motor
from gecko.document.parts.pack import Pack
from gecko.document.parts.plug import Switch
from gecko.reference.rows import read_rows
from gecko.reference.tables import chains, contact, offered_fuses

_MODELS: Document = {
    "packs": Pack,
    "motors": Motor,
    "controllers": Controller,
    "chargers": Charger,
    "gearboxes": Drivetrain,
    "wheels": Wheel,
    "throttles": Throttle,
    "switches": Switch,
    "converters": Converter,
}
_COUNTS = {"cells_in_series", "ports"}
_WORDS = {"chemistry", "cell_kind", "kind", "label", "tyre"}
_LABELLED = {"packs", "chargers"}


def _value(field: str, text: str) -> object:
    """A cell of a table: a word, a count, yes or no, else a figure off a nameplate."""
    if field in _WORDS:
        return text
    if field in _COUNTS:
        return int(text)
    return text == "yes" if text in ("yes", "no") else {"value": float(text), "basis": "nameplate"}


def _as_part(kind: str, row: dict[str, str]) -> Document:
    """A row as the part's document; what is empty nobody prints."""
    left_out = {"id", "group"} if kind in _LABELLED else {"id", "group", "label"}
    document = {field: _value(field, text) for field, text in row.items() if text and field not in left_out}
    return dict(_MODELS[kind].model_validate(document).model_dump(mode="json"))


def _entry(part_id: str, label: str, group: str, part: Document) -> Document:
    return {"id": part_id, "label": label, "group": group, "part": part}


def _holders() -> list[Document]:
    """Fuse holders, by the kind of fuse they take."""
    return [
        _entry(
            row["id"],
            row["label"],
            row["group"],
            {"what": row["what"], "rating_a": _value("rating_a", row["rating_a"]), "dc_volts_v": _value("dc_volts_v", row["dc_volts_v"]), "fits": f"{row['fits']} fuse"},
        )
        for row in read_rows("holders")
    ]


def _turning() -> list[Document]:
    """Chains by the size stamped on them, with what they stand before they tear, and the sprockets that are sold for each."""
    made = [
        _entry(f"chain-{size.replace(' ', '-')}", f"Chain {size}, tears at {chain.tensile_n / 1000:g} kN or more", "Chains", {"what": "chain", "pitch": size})
        for size, chain in chains().items()
    ]
    for size, chain in chains().items():
        for side, teeth in (("motor", chain.motor_teeth), ("wheel", chain.wheel_teeth)):
            made += [
                _entry(
                    f"sprocket-{size.replace(' ', '-')}-{side}-{n}",
                    f"Sprocket of {n} teeth for chain {size}, {side}",
                    f"Sprockets for chain {size}",
                    {"what": "sprocket", "teeth": n, "pitch": size},
                )
                for n in teeth
            ]
    return made


@cache
def catalogue() -> dict[str, list[Document]]:
    """Every ship-with part by kind: `id`, `label`, the `group` it is listed in and `part` (a document of its model); those of a group follow each other."""
    found = {kind: [_entry(row["id"], row["label"], row["group"], _as_part(kind, row)) for row in read_rows(kind)] for kind in _MODELS}
    found["fuses"] = [
        _entry(
            f"fuse-{f.kind.replace(' ', '-')}-{f.dc_volts_v:g}-{f.rating_a:g}",
            f"{f.rating_a:g} A {f.kind} fuse, {f.dc_volts_v:g} V DC",
            f"{f.kind.capitalize()} fuses, {f.dc_volts_v:g} V DC",
            {"kind": f.kind, "rating_a": f.rating_a, "dc_volts_v": f.dc_volts_v},
        )
        for f in offered_fuses()
    ]
    found["plugs"] = [
        _entry(f"plug-{row['kind'].replace(' ', '-')}", f"{row['kind']} plug, {contact(row['kind'])[1]:g} A", "Plugs", {"kind": row["kind"], "poles": 2})
        for row in read_rows("contacts")
    ]
    found["hardware"] = [*_holders(), *_turning()]
    found["wires"] = [_entry(f"wire-{row['awg']}", f"{row['awg']} AWG copper, 105 °C", "Wire", {"awg": int(row["awg"]), "insulation": "105"}) for row in read_rows("awg")]
    return found


def pack(part_id: str) -> Document:
    """A ship-with pack's document by id. Raises KeyError when there is none."""
    return dict(next(entry["part"] for entry in catalogue()["packs"] if entry["id"] == part_id))
