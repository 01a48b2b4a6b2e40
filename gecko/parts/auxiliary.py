"""Accessories beside the drive: lamps, horn, voltmeter, phone socket, and the converter that feeds them."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from gecko.figures import Part, non_negative, positive
from gecko.parts.fuse import Fuse
from gecko.parts.wire import Lead


class Converter(Part):
    """A step-down converter."""

    input_min_v: positive(200)  # type: ignore[valid-type]
    """Least volts it works on."""
    input_max_v: positive(400)  # type: ignore[valid-type]
    """Most volts it stands."""
    output_v: positive(60)  # type: ignore[valid-type]
    """Volts it gives."""
    output_a: positive(100)  # type: ignore[valid-type]
    """Most amps it gives."""
    standby_a: non_negative(2) | None = None  # type: ignore[valid-type]
    """Amps it draws from the bank with nothing switched on. Empty: 10 mA assumed."""
    efficiency: positive(1) | None = None  # type: ignore[valid-type]
    """Share of power that comes through. Empty: 0.88."""
    isolated: bool | None = None
    """Its output's minus is apart from its input's. Empty: joined inside, as in most."""


class Auxiliary(Part):
    """One branch beside the drive: what it draws, where it taps in, how the current comes back."""

    label: str = Field(default="Accessory", max_length=60)
    """What it is, such as "lamps" or "voltmeter"."""
    kind: Literal["lamp", "horn", "sound", "other"] = "other"
    """What it is for the hookup: a lamp, a horn, a sound box or something else."""
    switch: Literal["none", "switch", "push button"] = "none"
    """What switches it: nothing but the cut-off, a switch, or a push button one holds down."""
    amps_a: positive(60)  # type: ignore[valid-type]
    """Amps it draws when on, at its own volts."""
    rated_v: positive(120) | None = None  # type: ignore[valid-type]
    """Volts it is made for, such as 12. Empty: not known."""
    always_on: bool = False
    """It draws all the time, riding or not."""
    taps: Literal["behind the cut-off", "at the packs", "part of the string"] = "behind the cut-off"
    """Where its plus comes from. Part of the string: between two packs of a row, which drains some packs and not others."""
    returns: Literal["own lead", "frame"] = "own lead"
    """How its current comes back."""
    fuse: Fuse | None = None
    """Its own fuse."""
    lead: Lead | None = None
    """Its lead."""
    converter: Converter | None = None
    """The converter that feeds it, if any."""
