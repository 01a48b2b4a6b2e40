"""The rider and the ground."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from gecko.common.figures import Figure, Part
from gecko.document.parts.bounds import Within

Surface = Literal["paving", "packed dirt", "short grass", "long grass", "deep sand"]


class Rider(Part):
    """Who rides."""

    name: str = Field(default="", max_length=60)
    """A first name or nickname."""
    age_years: Annotated[float, Within("rider.age_years")] | None = None
    """Age in years."""
    mass_kg: Annotated[Figure, Within("rider.mass_kg")] | None = None
    """Mass with helmet and clothes. Empty: typical for the age."""
    cap_m_s: Annotated[Figure, Within("rider.cap_m_s")] | None = None
    """Speed this rider should not pass. Empty: the starting point for the age; local rules and the maker's limit come first."""
    standing: bool = False
    """Rides standing."""
    wheelie_wanted: str = Field(default="", max_length=200)
    """An adult who wants the front to lift says why; for everybody else the limit stays."""


class Ground(Part):
    """Where it is ridden."""

    surface: Surface = "paving"
    """What the wheels roll on."""
    grade: Annotated[float, Within("ground.grade")] = 0.0
    """Slope of the usual course: rise over run, 0.05 = 5 %."""
    hill_grade: Annotated[float, Within("ground.hill_grade")] = 0.05
    """Slope of the steepest part you ride, for the speed on a grade."""
    ambient_c: Annotated[float, Within("ground.ambient_c")] = 25.0
    """Air temperature on a warm riding day."""
    coldest_c: Annotated[float, Within("ground.coldest_c")] = -10.0
    """Coldest day it is ridden on."""
    rain: bool = False
    """It is ridden in rain or through puddles."""
    pack_c: Annotated[float, Within("ground.pack_c")] | None = None
    """Temperature of the packs. Empty: as the air."""
    rolling_resistance: Annotated[Figure, Within("ground.rolling_resistance")] | None = None
    """Rolling resistance, if you know it better than the table."""
    friction: Annotated[Figure, Within("ground.friction")] | None = None
    """Grip of tyre on ground, if you know it better than the table."""


ADULT_KG = Figure(value=75.0, basis="assumed")
"""Mass of an adult rider when nothing is entered. [kg]"""
