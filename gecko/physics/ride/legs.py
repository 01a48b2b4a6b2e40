"""The stretches of a course as numbers, for one machine."""

from __future__ import annotations

from dataclasses import dataclass

from gecko.common.figures import Number


@dataclass(frozen=True, kw_only=True)
class Leg:
    """A stretch as numbers: length [m] or time [s], grade and rolling resistance and grip [1], aimed speed [m/s] (None: as fast as it
    goes), share of the duty [1], coasting, and seconds stood at its end (None: it rolls on)."""

    length_m: float | None
    time_s: float | None
    grade: float
    rolling: Number
    friction: Number
    aimed_m_s: Number | None
    throttle: float
    coasts: bool
    stop_s: float | None
