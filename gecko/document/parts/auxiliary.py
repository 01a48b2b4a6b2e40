"""Accessories beside the drive: lamps, horn, voltmeter, phone socket, and the converter that feeds them."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from gecko.common.figures import Figure, Part
from gecko.document.parts.bounds import Within
from gecko.document.parts.fuse import Fuse
from gecko.document.parts.held import Held
from gecko.document.parts.wire import Lead


class Converter(Held):
    """A step-down converter."""

    input_min_v: Annotated[Figure, Within("converter.input_min_v")]
    """Least volts it works on."""
    input_max_v: Annotated[Figure, Within("converter.input_max_v")]
    """Most volts it stands."""
    output_v: Annotated[Figure, Within("converter.output_v")]
    """Volts it gives."""
    output_a: Annotated[Figure, Within("converter.output_a")]
    """Most amps it gives."""
    standby_a: Annotated[Figure, Within("converter.standby_a")] | None = None
    """Amps it draws from the bank with nothing switched on. Empty: 10 mA assumed."""
    efficiency: Annotated[Figure, Within("converter.efficiency")] | None = None
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
    amps_a: Annotated[Figure, Within("accessory.amps_a")]
    """Amps it draws when on, at its own volts."""
    rated_v: Annotated[Figure, Within("accessory.rated_v")] | None = None
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
