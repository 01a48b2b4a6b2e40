"""The rider and the ground."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from gecko.figures import Figure, Part, positive

Surface = Literal["paving", "packed dirt", "short grass", "long grass", "deep sand"]


class Rider(Part):
    """Who rides."""

    name: str = Field(default="", max_length=60)
    """A first name or nickname."""
    age_years: float | None = Field(default=None, ge=1, le=110)
    """Age in years."""
    mass_kg: positive(250) | None = None  # type: ignore[valid-type]
    """Mass with helmet and clothes. Empty: typical for the age."""
    cap_m_s: positive(40) | None = None  # type: ignore[valid-type]
    """Speed this rider should not pass. Empty: the starting point for the age; local rules and the maker's limit come first."""
    standing: bool = False
    """Rides standing."""
    wheelie_wanted: str = Field(default="", max_length=200)
    """An adult who wants the front to lift says why; for everybody else the limit stays."""


class Ground(Part):
    """Where it is ridden."""

    surface: Surface = "paving"
    """What the wheels roll on."""
    grade: float = Field(default=0.0, ge=-0.5, le=1.0)
    """Slope of the usual course: rise over run, 0.05 = 5 %."""
    hill_grade: float = Field(default=0.05, ge=0.0, le=1.0)
    """Slope of the steepest part you ride, for the speed on a grade."""
    ambient_c: float = Field(default=25.0, ge=-30, le=55)
    """Air temperature on a warm riding day."""
    coldest_c: float = Field(default=-10.0, ge=-40, le=40)
    """Coldest day it is ridden on."""
    rain: bool = False
    """It is ridden in rain or through puddles."""
    pack_c: float | None = Field(default=None, ge=-30, le=60)
    """Temperature of the packs. Empty: as the air."""
    rolling_resistance: positive(1) | None = None  # type: ignore[valid-type]
    """Rolling resistance, if you know it better than the table."""
    friction: positive(2) | None = None  # type: ignore[valid-type]
    """Grip of tyre on ground, if you know it better than the table."""


ADULT_KG = Figure(value=75.0, basis="assumed")
"""Mass of an adult rider when nothing is entered. [kg]"""
