"""Parts that lie on the rack, by kind: what each kind's document is."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from gecko.document.parts.bounds import Within
from gecko.document.parts.charger import Charger
from gecko.document.parts.controller import Controller
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


RACK_KINDS: dict[str, type[BaseModel]] = {
    "packs": Pack,
    "fuses": Fuse,
    "wires": WireReel,
    "plugs": Plug,
    "switches": Switch,
    "guards": Guard,
    "controllers": Controller,
    "motors": Motor,
    "gearboxes": Drivetrain,
    "wheels": Wheel,
    "chargers": Charger,
    "leads": Lead,
    "plug colours": PlugPair,
}
"""Kinds of parts on the rack with the model their document follows."""


@dataclass(frozen=True, kw_only=True)
class Racked:
    """So many of one part on the rack."""

    part: BaseModel
    quantity: int
