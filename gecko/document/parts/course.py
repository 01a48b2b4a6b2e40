"""Where it is ridden, as a course: stretches one after the other, round and round."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, model_validator

from gecko.common.figures import Part
from gecko.document.parts.bounds import Within
from gecko.document.parts.rider import Surface

MOST_STRETCHES = 1000
"""A course has at most so many. [1]"""


class Segment(Part):
    """One stretch of a course. How fast: a share of the top speed, a speed, a throttle, or coasting."""

    surface: Surface | None = None
    """What the wheels roll on. Empty: the ground of the setup."""
    grade: Annotated[float, Within("leg.grade")] = 0.0
    """Slope: rise over run, 0.05 = 5 % up, negative is down."""
    length_m: Annotated[float, Within("leg.length_m")] | None = None
    """How long it is."""
    time_s: Annotated[float, Within("leg.time_s")] | None = None
    """How long it takes, where that is known instead of its length."""
    share: Annotated[float, Within("leg.share")] | None = None
    """Aimed speed as a share of the level top speed there at half charge."""
    speed_m_s: Annotated[float, Within("leg.speed_m_s")] | None = None
    """Aimed speed."""
    throttle: Annotated[float, Within("leg.throttle")] | None = None
    """Throttle held, as a share of full duty."""
    coast: bool = False
    """The throttle is let go."""
    stop_s: Annotated[float, Within("leg.stop_s")] | None = None
    """It ends in a stop of so many seconds. Empty: it rolls on."""

    @model_validator(mode="after")
    def _one_of_each(self) -> Segment:
        if (self.length_m is None) == (self.time_s is None):
            raise ValueError("Give a stretch its length or its time, one of the two.")
        if sum(value is not None for value in (self.share, self.speed_m_s, self.throttle)) + self.coast > 1:
            raise ValueError("A stretch has one pace: a share of the top speed, a speed, a throttle, or coasting.")
        return self


class Course(Part):
    """Stretches ridden one after the other and round again, until something ends the ride."""

    name: str = Field(default="Own course", min_length=1, max_length=60)
    """What it is called."""
    segments: list[Segment] = Field(min_length=1, max_length=MOST_STRETCHES)
    """Its stretches."""
