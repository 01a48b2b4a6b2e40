"""Several machines of one build as one whose figures are arrays, so that what takes one figure takes them all."""

from __future__ import annotations

from collections.abc import Hashable, Sequence
from dataclasses import fields, is_dataclass, replace
from typing import Any, TypeVar, cast

import numpy as np

T = TypeVar("T")


def build_of(value: Any, figure: bool = False) -> Hashable:
    """What two machines, or two legs, have to share for being computed together: all but their figures.

    A figure is what is annotated as a `Number`; everything else (kinds, counts, delays, what is not known) is the build.
    """
    if is_dataclass(value):
        return (type(value), *(build_of(getattr(value, field.name), str(field.type).startswith("Number")) for field in fields(value)))
    if isinstance(value, tuple):
        return tuple(build_of(part, figure) for part in value)
    return "figure" if figure and value is not None else cast(Hashable, value)


def together(alike: Sequence[T]) -> T:
    """One value for several of one build: a figure in which they differ is an array [its unit] of shape (how many,), on the last axis."""
    return cast(T, _together(list(alike)))


def _together(alike: list[Any]) -> Any:
    first = alike[0]
    if is_dataclass(first) and not isinstance(first, type):
        return replace(first, **{field.name: _together([getattr(one, field.name) for one in alike]) for field in fields(first)})
    if isinstance(first, tuple):
        return tuple(_together(list(parts)) for parts in zip(*alike, strict=True))
    return first if all(one == first for one in alike) else np.array([float(one) for one in alike])


def one_of(several: T, index: int) -> T:
    """One of several computed together: every array at that place of its last axis, in its unit."""
    return cast(T, _one_of(several, index))


def _one_of(value: Any, index: int) -> Any:
    if is_dataclass(value) and not isinstance(value, type):
        return replace(value, **{field.name: _one_of(getattr(value, field.name), index) for field in fields(value)})
    if isinstance(value, tuple | list):
        return type(value)(_one_of(part, index) for part in value)
    if isinstance(value, dict):
        return {key: _one_of(part, index) for key, part in value.items()}
    return value[..., index] if np.ndim(value) > 0 else value
