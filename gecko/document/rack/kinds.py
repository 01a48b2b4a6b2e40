"""Kinds of parts on the rack: what each kind's document is."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from gecko.common.figures import Figure, Part
from gecko.document.parts.auxiliary import Converter
from gecko.document.parts.bounds import Within
from gecko.document.parts.charger import Charger
from gecko.document.parts.controller import Controller, Throttle
from gecko.document.parts.drivetrain import Drivetrain, Wheel
from gecko.document.parts.fuse import Fuse
from gecko.document.parts.hookup import PlugPair
from gecko.document.parts.motor import Motor
from gecko.document.parts.pack import Pack
from gecko.document.parts.plug import Guard, Plug, Switch
from gecko.document.parts.wire import Awg, Insulation, Lead


class WireReel(BaseModel):
    """A reel of wire on the rack: its gauge, insulation and colour, and how many metres are left."""

    model_config = ConfigDict(extra="forbid")

    awg: Awg | None = None
    mm2: Annotated[float, Within("wire.mm2")] | None = None
    insulation: Insulation | None = None
    colour: str = Field(default="", max_length=30)
    metres: float | None = Field(default=None, ge=0, le=10_000)


HardwareKind = Literal["sprocket", "chain", "lever", "brake", "fuse holder", "mount", "display", "key", "accessory", "tool", "other"]


class Hardware(Part):
    """A part that turns, holds or tells: what the machine needs beside its electrics."""

    what: HardwareKind = "other"
    """What it is."""
    teeth: int | None = Field(default=None, ge=5, le=200)
    """Sprocket: its teeth."""
    pitch: str = Field(default="", max_length=20)
    """Sprocket and chain: the chain size, as stamped on it."""
    links: int | None = Field(default=None, ge=10, le=400)
    """Chain: its links."""
    fits: str = Field(default="", max_length=60)
    """Shaft, bore, bolt pattern or thread it fits, in the words of the part it goes onto."""
    rating_a: Annotated[Figure, Within("fuse.holder_a")] | None = None
    """Fuse holder, key, accessory: amps it is made for."""
    dc_volts_v: Annotated[Figure, Within("fuse.holder_v")] | None = None
    """Fuse holder, key, accessory: DC volts it is made for."""
    mass_kg: Annotated[Figure, Within("motor.mass_kg")] | None = None
    """Its mass."""


RACK_KINDS: dict[str, type[BaseModel]] = {
    "packs": Pack,
    "motors": Motor,
    "controllers": Controller,
    "chargers": Charger,
    "throttles": Throttle,
    "gearboxes": Drivetrain,
    "wheels": Wheel,
    "fuses": Fuse,
    "wires": WireReel,
    "plugs": Plug,
    "switches": Switch,
    "guards": Guard,
    "converters": Converter,
    "hardware": Hardware,
    "leads": Lead,
    "plug colours": PlugPair,
}
"""Kinds of parts on the rack with the model their document follows."""

ONE_BY_ONE = ("packs", "motors", "controllers", "chargers")
"""Kinds of which each piece is a part of its own, with its sticker and its history; of the others pieces are counted."""
