"""What a figure can plausibly be: one table for every number a document holds."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

from pydantic import GetCoreSchemaHandler, GetJsonSchemaHandler
from pydantic.json_schema import JsonSchemaValue
from pydantic_core import CoreSchema
from pydantic_core.core_schema import no_info_after_validator_function

from gecko.common.documents import Document
from gecko.common.figures import Figure
from gecko.common.words import Kind, q
from gecko.reference.rows import read_rows

_TOLD: dict[str, Kind] = {"_m_s": "speed", "_m": "length", "_kg": "mass", "_c": "temp"}
_UNITS = {
    "_per_v": " rpm/V",
    "_rpm": " rpm",
    "_ohm": " Ω",
    "_ah": " Ah",
    "_nm": " N·m",
    "_m2": " m²",
    "mm2": " mm²",
    "_years": " years",
    "_v": " V",
    "_a": " A",
    "_w": " W",
    "_s": " s",
    "_f": " F",
    "": "",
}
_ENDINGS = (*_TOLD, *_UNITS)
"""How a field's name ends, the longer ones first where one is the end of another."""


_SI: dict[Kind, str] = {"speed": "m/s", "length": "m", "mass": "kg", "temp": "°C"}


def _ending(field: str) -> str:
    return next(known for known in _ENDINGS if field.endswith(known))


def unit_of(field: str) -> str:
    """The unit a figure is kept in, which its field's name ends with; empty for a share or a count.

    >>> unit_of("no_load_rpm"), unit_of("wheelbase_m"), unit_of("efficiency")
    ('rpm', 'm', '')
    """
    ending = _ending(field)
    return _SI[_TOLD[ending]] if ending in _TOLD else _UNITS[ending].strip()


def said(field: str, value: float) -> str:
    """A figure in words with its unit, small resistances in mΩ. In the unit the field's name ends with.

    >>> said("no_load_rpm", 2800.0), said("resistance_ohm", 0.08)
    ('2800 rpm', '80 mΩ')
    """
    ending = _ending(field)
    if ending in _TOLD:
        return q(value, _TOLD[ending])
    if ending == "_ohm" and abs(value) < 1.0:
        return f"{1e3 * value:.6g} mΩ"
    return f"{value:.6g}{_UNITS[ending]}"


@dataclass(frozen=True)
class Bounds:
    """Lowest and highest value that is taken, and the range that is usual, in the unit the field's name ends with."""

    figure: str
    low: float
    high: float
    usual_low: float
    usual_high: float

    def say(self, value: float) -> str:
        """A value in words with its unit."""
        return said(self.figure.split(".")[1], value)

    @property
    def usual(self) -> str:
        """The usual range in words."""
        return f"{self.say(self.usual_low)} to {self.say(self.usual_high)}"

    def problem(self, value: float) -> str | None:
        """Why a value is not taken, in a sentence; None where it is."""
        if self.low <= value <= self.high:
            return None
        if value < 0.0 <= self.low:
            why = "This cannot be negative."
        elif value == 0.0:
            why = "This must be more than zero."
        elif value < self.low:
            why = f"The least this planner takes is {self.say(self.low)}; this is {self.say(value)}."
        else:
            why = f"The most this planner takes is {self.say(self.high)}; this is {self.say(value)}."
        return f"{why} Usual is {self.usual}. Check the unit, or leave it empty if you do not know it."

    @property
    def schema(self) -> Document:
        """The bounds as the field's JSON schema states them."""
        return {"bounds": self.figure, "minimum": self.low, "maximum": self.high, "usual": [self.usual_low, self.usual_high]}


@cache
def table() -> dict[str, Bounds]:
    """Every row of the table, by part and field."""
    return {row["figure"]: Bounds(row["figure"], *(float(row[key]) for key in ("low", "high", "usual_low", "usual_high"))) for row in read_rows("bounds")}


class Within:
    """Metadata of a field, for `Annotated`: a figure, or a plain number, must lie within its row of the table. Raises KeyError for no such row."""

    def __init__(self, figure: str) -> None:
        self._row = table()[figure]

    def _check(self, given: Figure | float) -> Figure | float:
        problem = self._row.problem(given.value if isinstance(given, Figure) else given)
        if problem is not None:
            raise ValueError(problem)
        return given

    def __get_pydantic_core_schema__(self, source: object, handler: GetCoreSchemaHandler) -> CoreSchema:
        return no_info_after_validator_function(self._check, handler(source))

    def __get_pydantic_json_schema__(self, schema: CoreSchema, handler: GetJsonSchemaHandler) -> JsonSchemaValue:
        return {**handler(schema), **self._row.schema}
