"""Kinds of parts on the rack: what each kind's document is."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, model_validator

from gecko.common.documents import Document
from gecko.common.figures import Figure, Part
from gecko.document.parts.auxiliary import Converter
from gecko.document.parts.bounds import Within
from gecko.document.parts.charger import Charger
from gecko.document.parts.controller import Controller, Throttle
from gecko.document.parts.drivetrain import Drivetrain, Wheel
from gecko.document.parts.fuse import Fuse
from gecko.document.parts.hookup import DirectionSwitch, HarnessPlug, PlugPair, SideJob
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


PART_KINDS: dict[str, type[BaseModel]] = {
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
"""Kinds of single parts on the rack with the model their document follows."""


class Content(Part):
    """A part in a kit or of a donor."""

    kind: str = Field(max_length=20)
    """Kind of part, as the rack names it."""
    label: str = Field(min_length=1, max_length=80)
    """What it is called."""
    document: Document = {}
    """What its label says, by its kind."""
    count: int = Field(default=1, ge=1, le=40)
    """So many of it."""
    taken: bool = False
    """It was taken out, and is a part of the rack by itself."""

    @model_validator(mode="after")
    def _of_its_kind(self) -> Content:
        if self.kind not in PART_KINDS:
            raise ValueError(f"A kit holds no {self.kind}: use {', '.join(PART_KINDS)}.")
        self.part  # noqa: B018  # a wrong field is told when the kit is entered
        return self

    @property
    def part(self) -> BaseModel:
        """The part itself."""
        return PART_KINDS[self.kind].model_validate(self.document)


class Claims(Part):
    """What is printed on the box."""

    speed_m_s: float | None = Field(default=None, gt=0, le=60)
    """Speed. [m/s]"""
    distance_m: float | None = Field(default=None, gt=0, le=500_000)
    """How far it goes on a charge. [m]"""
    power_w: float | None = Field(default=None, gt=0, le=50_000)
    """Watts."""


class Kit(Part):
    """Several parts that came together: a kit in a box, or a machine that gives its parts."""

    donor: bool = False
    """A machine that is taken apart, not a kit in a box."""
    contents: list[Content] = Field(default=[], max_length=40)
    """Its parts."""
    leads: list[HarnessPlug] = Field(default=[], max_length=15)
    """Plugs and loose wires its controller has, used or not."""
    direction: DirectionSwitch = "none"
    """Its switch for forward, neutral and reverse."""
    does: list[SideJob] = Field(default=[], max_length=7)
    """What its display and switches do beside the drive."""
    pairs: list[PlugPair] = Field(default=[], max_length=16)
    """Plugs that are mated already, with the colours of their wires."""
    claims: Claims | None = None
    """What is printed on the box."""


RACK_KINDS: dict[str, type[BaseModel]] = {**PART_KINDS, "kits": Kit}
"""Kinds of all that lies on the rack with the model its document follows."""

ONE_BY_ONE = ("packs", "motors", "controllers", "chargers", "kits")
"""Kinds of which each piece is a part of its own, with its sticker and its history; of the others pieces are counted."""
