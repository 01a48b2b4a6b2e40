"""Figures: a number with the reason to believe it.

Every number of a part is a figure: a value and its basis. The basis gives a default relative spread (one standard
deviation of a log-normal), which the 5–95 % ranges are sampled from. Source of the spreads: this project's assumption.
"""

from __future__ import annotations

from functools import lru_cache
from threading import Lock
from typing import Literal, TypeAlias, TypeVar

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel, ConfigDict, Field, model_validator
from scipy.special import ndtri

Basis = Literal["measured", "nameplate", "assumed"]
Number: TypeAlias = float | NDArray[np.float64]
"""A float, or a NumPy array of samples, candidates or points that broadcasts."""
Array: TypeAlias = NDArray[np.float64]
"""Points along the first axis, or candidates; samples always last."""
N = TypeVar("N", float, NDArray[np.float64])
"""A float or an array: a formula written for it gives a float for a float, and an array for an array."""
Mask: TypeAlias = NDArray[np.bool_]
Index: TypeAlias = NDArray[np.intp]

SPREAD: dict[Basis, float] = {"measured": 0.02, "nameplate": 0.08, "assumed": 0.20}
"""Relative spread (1 σ of a log-normal) by basis."""

SAMPLES = 200
"""How many samples an evaluation's ranges are drawn from."""


class Part(BaseModel):
    """Base of every part: immutable, closed to unknown fields, with finite numbers only."""

    model_config = ConfigDict(extra="forbid", frozen=True, allow_inf_nan=False, use_attribute_docstrings=True)


class Figure(Part):
    """A number of a part with its basis: measured, nameplate or assumed."""

    value: float
    """The number itself, in the unit the field's name ends with."""
    basis: Basis = "assumed"
    """Where the number comes from: measured, read off a nameplate, or assumed."""
    spread: float | None = Field(default=None, ge=0, le=1)
    """Relative spread (one standard deviation), when better known than the basis tells."""

    @model_validator(mode="before")
    @classmethod
    def _from_plain(cls, value: object) -> object:
        """Accept a bare number as an assumed figure, and a decimal comma in text."""
        if isinstance(value, bool):
            return value
        if isinstance(value, int | float):
            return {"value": value, "basis": "assumed"}
        if isinstance(value, str):
            return {"value": value.strip().replace(",", "."), "basis": "assumed"}
        if isinstance(value, dict) and isinstance(value.get("value"), str):
            return {**value, "value": value["value"].strip().replace(",", ".")}
        return value

    @property
    def sigma(self) -> float:
        """Relative spread in force. [1]"""
        return SPREAD[self.basis] if self.spread is None else self.spread


class _Normals:
    """A sequence of standard normal draws, each cached: every sampler of the same seed and count gets the same draws."""

    def __init__(self, seed: int, count: int) -> None:
        self._random, self._count = np.random.default_rng(seed), count
        self._kept: list[NDArray[np.float64]] = []
        self._one_at_a_time = Lock()

    def __getitem__(self, number: int) -> NDArray[np.float64]:
        """One draw in each of `count` equally likely layers, in random order.

        Layers (Latin hypercube sampling, McKay, Beckman, Conover 1979) make the ends of a range of 200 samples as steady as those of some
        thousand plain ones, where an outcome is about a sum of what its figures do.
        """
        with self._one_at_a_time:
            while number >= len(self._kept):
                layers = (self._random.permutation(self._count) + self._random.random(self._count)) / self._count
                drawn = np.asarray(ndtri(layers))
                # All samplers share it.
                drawn.setflags(write=False)
                self._kept.append(drawn)
            return self._kept[number]


_normals = lru_cache(maxsize=8)(_Normals)


class Sampler:
    """Draws figures: the central value, or N log-normal samples, always the same for the same seed and order.

    >>> Sampler(None).draw(Figure(value=12.0, basis="nameplate"))
    12.0
    """

    def __init__(self, count: int | None, seed: int = 20260101) -> None:
        self.count = count
        self._normals, self._drawn = _normals(seed, count) if count is not None else None, 0

    def draw(self, figure: Figure) -> Number:
        """Value of a figure: its central value, or samples of shape (N,), in the figure's unit."""
        if self.count is None:
            return figure.value
        return figure.value * np.exp(figure.sigma * self._normal())

    def draw_efficiency(self, figure: Figure) -> Number:
        """Efficiency sampled by its loss, kept within 0.3…0.99; exactly 1 stays 1. [1]"""
        if figure.value >= 1.0:
            return 1.0
        if self.count is None:
            return figure.value
        loss = (1.0 - figure.value) * np.exp(figure.sigma * self._normal())
        return np.clip(1.0 - loss, 0.3, 0.99)

    def _normal(self) -> NDArray[np.float64]:
        assert self._normals is not None
        self._drawn += 1
        return self._normals[self._drawn - 1]

    def draw_share(self, figure: Figure) -> Number:
        """Share kept within 0…1. [1]"""
        return np.clip(self.draw(figure), 0.0, 1.0) if self.count is not None else figure.value
