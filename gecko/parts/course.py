"""Where it is ridden, as a course: stretches one after the other, round and round."""

from __future__ import annotations

from pydantic import Field, model_validator

from gecko.figures import Part
from gecko.parts.rider import Surface


class Segment(Part):
    """One stretch of a course. How fast: a share of the top speed, a speed, a throttle, or coasting."""

    surface: Surface | None = None
    """What the wheels roll on. Empty: the ground of the setup."""
    grade: float = Field(default=0.0, ge=-0.5, le=0.5)
    """Slope: rise over run, 0.05 = 5 % up, negative is down."""
    length_m: float | None = Field(default=None, gt=0, le=50_000)
    """How long it is."""
    time_s: float | None = Field(default=None, gt=0, le=20_000)
    """How long it takes, where that is known instead of its length."""
    share: float | None = Field(default=None, gt=0, le=1)
    """Aimed speed as a share of the level top speed there at half charge."""
    speed_m_s: float | None = Field(default=None, gt=0, le=40)
    """Aimed speed."""
    throttle: float | None = Field(default=None, gt=0, le=1)
    """Throttle held, as a share of full duty."""
    coast: bool = False
    """The throttle is let go."""
    stop_s: float | None = Field(default=None, ge=0, le=3_600)
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
    segments: list[Segment] = Field(min_length=1, max_length=60)
    """Its stretches."""
