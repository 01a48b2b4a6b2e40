"""Parts of one's own as a table (CSV), out and in: a line for each part, a column for each thing that is known of any (docs/formats.md)."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable
from dataclasses import dataclass
from typing import get_args

from pydantic import BaseModel

from gecko.common.cells import cell, uncell
from gecko.common.documents import Document
from gecko.common.errors import GeckoError
from gecko.common.figures import Figure
from gecko.document.rack.about import Racked
from gecko.document.rack.kinds import PART_KINDS

HEAD = ("part", "label", "letter", "quantity", "status", "state", "bought", "price", "currency", "where", "notes")
"""Columns every table has; those of the parts' own fields follow, each figure with a column for its basis."""
_ABOUT = ("status", "state", "bought", "notes")
_BASIS = " basis"
MOST_LINES = 5000
MOST_CHARACTERS = 4_000_000


@dataclass(frozen=True, kw_only=True)
class Line:
    """A part as a line of a table tells it."""

    number: int
    kind: str
    label: str
    quantity: int
    document: Document
    about: Document


def _fields(part: BaseModel) -> dict[str, str]:
    """The plain fields of a part that somebody entered, and the basis of each figure. Lists and parts within parts have no cell."""
    found: dict[str, str] = {}
    for name in part.model_fields_set:
        value = getattr(part, name)
        if isinstance(value, Figure):
            found[name], found[name + _BASIS] = f"{value.value:.10g}", value.basis
        elif isinstance(value, bool):
            found[name] = "yes" if value else "no"
        elif isinstance(value, int | float):
            found[name] = f"{value:.10g}"
        elif isinstance(value, str):
            found[name] = cell(value)
    return found


def write_table(rack: Iterable[Racked]) -> str:
    """Parts as CSV; kits and plugs' colours, which are no single line, are left out: the garage's own file holds them."""
    rows: list[dict[str, str]] = []
    for one in rack:
        if one.kind not in PART_KINDS or one.kind == "plug colours":
            continue
        about = one.about.model_dump(mode="json", exclude_defaults=True)
        price = about.get("price") or {}
        told = {name: cell(str(about[name])) for name in _ABOUT if about.get(name)}
        told |= {"price": f"{price['amount']:.10g}", "currency": price["currency"], "where": cell(price.get("where", ""))} if price else {}
        fields = {name: text for name, text in _fields(one.part).items() if name not in ("label", "rack")}
        rows.append({"part": one.kind, "label": cell(one.label), "letter": one.letter, "quantity": str(one.quantity), **told, **fields})
    own = sorted({name for row in rows for name in row} - set(HEAD))
    out = io.StringIO()
    writer = csv.DictWriter(out, [*HEAD, *own], restval="", lineterminator="\r\n")
    writer.writeheader()
    writer.writerows(rows)
    return out.getvalue()


def read_table(text: str) -> list[Line]:
    """Parts of a CSV table. Raises GeckoError naming the line where it is no such table, a kind is unknown, or a number is none.

    What its kind's model makes of a line's fields is found out where it is put on the rack.
    """
    if len(text) > MOST_CHARACTERS:
        raise GeckoError(f"This table is larger than {MOST_CHARACTERS // 1_000_000} MB. Cut it into several.", path="/text")
    sample = text.lstrip("\ufeff")
    first = sample.split("\n", 1)[0]
    reader = csv.DictReader(io.StringIO(sample), delimiter=";" if first.count(";") > first.count(",") else ",", strict=True)
    try:
        names = [name.strip() for name in reader.fieldnames or []]
        if "part" not in names or len(set(names)) != len(names):
            raise GeckoError("The first line must name the columns, each once, and one of them must be part. Take a table this page wrote as a pattern.", path="/text")
        reader.fieldnames = names
        rows = [(reader.line_num, row) for row in reader if any((text or "").strip() for text in row.values() if isinstance(text, str))]
    except csv.Error as error:
        raise GeckoError(f"Line {reader.line_num} is no line of a table: {error}.", path="/text") from error
    if len(rows) > MOST_LINES:
        raise GeckoError(f"This table has more than {MOST_LINES} lines. Cut it into several.", path="/text")
    return [_line(number, row) for number, row in rows]


def _line(number: int, row: dict[str | None, str | None]) -> Line:
    if None in row:
        raise GeckoError(f"Line {number} has more cells than the first line names.", path="/text")
    told = {str(name): uncell((text or "").strip()) for name, text in row.items()}
    kind = told.pop("part", "")
    if kind not in PART_KINDS:
        raise GeckoError(f"Line {number}: {kind or 'an empty cell'} is no kind of part: use {', '.join(PART_KINDS)}.", path="/text")
    quantity = told.pop("quantity", "") or "1"
    if not (quantity.isascii() and quantity.isdigit()):
        raise GeckoError(f"Line {number}: the quantity must be a whole number, not {quantity}.", path="/text")
    about: Document = {name: value for name in _ABOUT if (value := told.pop(name, ""))}
    price, currency, where = (told.pop(name, "") for name in ("price", "currency", "where"))
    if price:
        about["price"] = {"amount": _number(number, "price", price), "currency": currency.upper() or "USD", "where": where}
    label = told.pop("label", "")
    told.pop("letter", None)
    return Line(number=number, kind=kind, label=label, quantity=int(quantity), document=_document(number, kind, told), about=about)


def _document(number: int, kind: str, cells: dict[str, str]) -> Document:
    fields = PART_KINDS[kind].model_fields
    document: Document = {}
    for name, text in cells.items():
        if not text or name.endswith(_BASIS):
            continue
        if name not in fields:
            raise GeckoError(f"Line {number}: {kind} have no {name}. Leave that cell empty.", path="/text")
        basis = cells.get(name + _BASIS, "")
        if basis:
            document[name] = {"value": _number(number, name, text), "basis": basis}
        else:
            document[name] = text if _is_word(fields[name].annotation, text) else text == "yes" if text in ("yes", "no") else _number(number, name, text)
    return document


def _is_word(annotation: object, text: str) -> bool:
    """Whether a field holds words: any text, or this one among others; "105" is a word where it names an insulation."""
    inner = get_args(annotation)
    return annotation is str or text in inner or any(_is_word(one, text) for one in inner if not isinstance(one, str))


def _number(line: int, name: str, text: str) -> float:
    """A number as a spreadsheet writes it, with point or comma."""
    try:
        value = float(text.replace(",", "."))
    except ValueError as error:
        raise GeckoError(f"Line {line}: {name} must be a number, not {text}.", path="/text") from error
    return int(value) if value.is_integer() and abs(value) < 1e9 and "." not in text and "," not in text else value
