"""Loads the reference tables once and hands them out as immutable values."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from math import inf

import numpy as np
from numpy.typing import NDArray
from pydantic import TypeAdapter

from gecko.common.errors import UnknownPart
from gecko.reference.kinds import Brake, DriveKind, Tyre
from gecko.reference.rows import read_rows

AWG_SIZES: tuple[int, ...] = (18, 16, 14, 12, 10, 8, 6, 4, 2)
"""Gauges the choice looks at, thinnest first."""


@cache
def cell_curve(chemistry: str) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """State of charge [1] and open-circuit volts per cell [V] of a chemistry."""
    rows = read_rows("cells")
    return np.array([float(row["soc"]) for row in rows]), np.array([float(row[chemistry]) for row in rows])


@cache
def ampacity_row(row: str) -> Mapping[int, float]:
    """Ampacity by gauge [A] in free air at 30 °C, of an insulation row or "building"."""
    return {int(line["awg"]): float(line[row]) for line in read_rows("awg")}


@dataclass(frozen=True)
class FuseCurve:
    """Opening band of a fuse kind: multiples of rating [1], shortest and longest time [s] (inf = never)."""

    multiples: tuple[float, ...]
    shortest_s: tuple[float, ...]
    longest_s: tuple[float, ...]


@cache
def fuse_curve(kind: str) -> FuseCurve:
    """Opening band of a fuse kind; bolt-down and cartridge follow the large blade for want of their own."""
    curve = "blade" if kind == "blade" else "large blade"
    rows = [row for row in read_rows("fuse_curves") if row["curve"] == curve]
    return FuseCurve(
        tuple(float(row["multiple"]) for row in rows),
        tuple(float(row["shortest_s"]) for row in rows),
        tuple(inf if row["longest_s"] == "never" else float(row["longest_s"]) for row in rows),
    )


@dataclass(frozen=True)
class OfferedFuse:
    """A fuse one can buy."""

    kind: str
    dc_volts_v: float
    breaking_a: float
    rating_a: float


@cache
def offered_fuses() -> tuple[OfferedFuse, ...]:
    """Every fuse of the table, one entry a rating."""
    return tuple(
        OfferedFuse(row["kind"], float(row["dc_volts_v"]), float(row["breaking_a"]), float(rating))
        for row in read_rows("offered_fuses")
        for rating in row["ratings_a"].split()
    )


@cache
def contact(kind: str) -> tuple[float, float]:
    """Resistance of one pole [Ω] and rating [A] of a plug kind."""
    for row in read_rows("contacts"):
        if row["kind"] == kind:
            return float(row["resistance_ohm"]), float(row["rating_a"])
    raise UnknownPart(f"There is no plug kind {kind!r} in the table.", code="unknown_part")


@cache
def surface(name: str, tyre: str) -> tuple[float, float]:
    """Rolling resistance [1] and grip [1] of a tyre on a surface."""
    for row in read_rows("surfaces"):
        if row["surface"] == name and row["tyre"] == tyre:
            return float(row["rolling"]), float(row["grip"])
    raise UnknownPart(f"There is no {tyre!r} on {name!r} in the table.", code="unknown_part")


@dataclass(frozen=True)
class FamilyDefaults:
    """Typical machine of a family; lengths in m, mass in kg, areas in m²."""

    family: str
    wheelbase_m: float
    com_ahead_of_rear_m: float
    com_height_m: float
    track_m: float | None
    wheel_radius_m: float
    ratio: float
    mass_kg: float
    drag_child_m2: float
    drag_adult_m2: float
    drive: DriveKind
    motor: str
    motors: int
    volts_v: float
    power_w: float
    rpm: float
    rpm_kind: str
    capacity_ah: float
    brake: Brake
    tyre: Tyre
    driven: str
    open_airflow: bool
    controller: str


_TEXT = {"family", "drive", "motor", "rpm_kind", "brake", "tyre", "driven", "controller"}


@cache
def families() -> Mapping[str, FamilyDefaults]:
    """Typical machines by family name."""
    found, reader = {}, TypeAdapter(FamilyDefaults)
    for row in read_rows("families"):
        values: dict[str, object] = {}
        for key, text in row.items():
            if key in _TEXT:
                values[key] = text
            elif key == "open_airflow":
                values[key] = text == "yes"
            elif key == "motors":
                values[key] = int(text)
            else:
                values[key] = float(text) if text else None
        found[row["family"]] = reader.validate_python(values)
    return found


@cache
def typical_mass_kg(age_years: float) -> float:
    """Typical mass with helmet and clothes at an age. [kg]"""
    return next(float(row["mass_kg"]) for row in reversed(read_rows("riders")) if age_years >= float(row["from_age"]))


@dataclass(frozen=True)
class ChainSize:
    """A chain: pitch and inner width [m], minimum tensile strength [N], and the teeth one can buy for motor and wheel."""

    size: str
    pitch_m: float
    inner_width_m: float
    tensile_n: float
    motor_teeth: tuple[int, ...]
    wheel_teeth: tuple[int, ...]


@cache
def chains() -> Mapping[str, ChainSize]:
    """Chains by size."""
    teeth = {row["size"]: row for row in read_rows("sprockets")}
    found = {}
    for row in read_rows("chains"):
        own = teeth[row["size"]]
        motor, wheel = (tuple(int(n) for n in own[side].split()) for side in ("motor", "wheel"))
        found[row["size"]] = ChainSize(
            row["size"], float(row["pitch_mm"]) / 1000.0, float(row["inner_width_mm"]) / 1000.0, float(row["tensile_kn"]) * 1000.0, motor, wheel
        )
    return found


def chain_size(stamped: str | None) -> ChainSize | None:
    """The chain of a stamped size, spelled with or without "#", "H" or spaces; None where it is not in the table.

    >>> chain_size("#25H").size, chain_size("8MM").size, chain_size("T99")
    ('25', '8 mm', None)
    """
    plain = (stamped or "").lower().strip().lstrip("#").rstrip("h").replace(" ", "")
    return next((chain for chain in chains().values() if chain.size.replace(" ", "") == plain), None)


@dataclass(frozen=True)
class Term:
    """A word of the trade: how it may stand in a sentence, and what it means."""

    words: tuple[str, ...]
    says: str


@cache
def terms() -> tuple[Term, ...]:
    """Every word of the trade that sentences use and a newcomer need not know."""
    return tuple(Term(tuple(row["words"].split(";")), row["says"]) for row in read_rows("terms"))
