"""What belongs to hooking it up: orders of phases and Halls tried, covers opened."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from gecko.common.figures import Part
from gecko.document.parts.bounds import Within
from gecko.document.parts.held import Contacts

Order = Literal["ABC", "ACB", "BAC", "BCA", "CAB", "CBA"]
WheelDid = Literal["smooth forward", "smooth backward", "rough", "jerks", "nothing"]
OpeningKind = Literal["cover", "seal", "cable entry"]
Side = Literal["left", "right"]
SideJob = Literal["gauge", "rear light", "headlight", "charge indicator", "cruise hold", "horn", "sound"]
"""What a part may do beside what it is named for."""


class OrderTrial(Part):
    """An order of phases and Halls tried with the wheel off the ground, and what the wheel did."""

    phases: Order = "ABC"
    """Which lead of the motor each of the controller's three phase leads, in their order, is joined to."""
    halls: Order = "ABC"
    """The same for the three Hall signal wires."""
    side: Side = "left"
    """Which motor, where there are two."""
    outcome: WheelDid
    """Smooth forward or backward; rough: it turns, but weakly, loudly or with many amps; jerks: it twitches, growls or locks; nothing: it
    stays dead."""


class Opening(Part):
    """A cover, a seal or a cable entry that the work opens."""

    label: str = Field(default="Cover", max_length=60)
    """What it is, such as "battery box" or "controller lid"."""
    kind: OpeningKind = "cover"
    """A cover, a seal against water, or a new hole for a cable."""
    fasteners: int = Field(default=0, ge=0, le=60)
    """How many screws or clips hold it."""
    drive: str = Field(default="", max_length=40)
    """What turns them, such as "cross" or "4 mm hex"."""
    kept: str = Field(default="", max_length=60)
    """Where they are kept meanwhile."""
    unclip: str = Field(default="", max_length=80)
    """Plugs that have to be unclipped for it."""
    photo: str = Field(default="", max_length=80)
    """Where the photo of the wires is, taken before."""
    closed: bool = False
    """It is closed again: gasket back, entry sealed."""


DirectionSwitch = Literal["none", "at the controller", "in the motor leads"]
HarnessPlug = Literal[
    "key",
    "brake, low level",
    "brake, high level",
    "foot switch",
    "speed switch",
    "reverse",
    "forward and reverse",
    "display",
    "learning",
    "cruise hold",
    "anti-theft",
    "speed limit",
    "pedal sensor",
    "indicator lamp",
    "charge",
]


class Controls(Part):
    """Small wires beside throttle and brake lever."""

    key: bool = False
    """A key or lock switches the controller on."""
    reverse: bool = False
    """A switch for reverse at the controller: closed goes backward."""
    direction: DirectionSwitch = "none"
    """A switch for forward, neutral and reverse: three small wires at the controller, or in the two leads of a brushed motor, cross-wired."""
    speed_switch: bool = False
    """A switch for the speed modes."""
    indicator: bool = False
    """A display or charge indicator hangs on the controller."""
    learning_plug: bool = False
    """The controller has a pair of wires that, joined, make it learn the motor's order and direction."""
    charge_socket: bool = False
    """A socket for charging the packs in the machine."""
    harness: list[HarnessPlug] = Field(default=[], max_length=15)
    """Plugs and loose wires the controller's harness has, used or not."""

    @property
    def learns(self) -> bool:
        """Whether there is a pair of wires to learn by, in whichever of the two lists it was entered."""
        return self.learning_plug or "learning" in self.harness


PlugPlace = Literal[
    "throttle", "brake", "key", "foot switch", "speed switch", "reverse switch", "direction switch", "display", "learning", "phases", "Halls", "motor", "other"
]
PlugState = Literal["as they are", "new pair", "moved pins", "remade"]


class SeenWire(Part):
    """A wire of one half of a plug as one sees it."""

    colour: str = Field(default="", max_length=30)
    """Its colour, such as "violet" or "white with red"."""
    function: str = Field(default="", max_length=30)
    """What it is for, where that is known."""


class PlugPair(Part):
    """Two halves of a plug, controller's and part's, with the colours of their wires."""

    place: PlugPlace = "throttle"
    """What is plugged in here."""
    label: str = Field(default="", max_length=60)
    """A name of its own, for keeping it."""
    side: Side = "left"
    """Which motor, where there are two."""
    controller: list[SeenWire] = Field(default=[], max_length=12)
    """Wires of the controller's half."""
    part: list[SeenWire] = Field(default=[], max_length=12)
    """Wires of the part's half."""
    family: str = Field(default="", max_length=40)
    """Family and size of the plug, such as "3-pole, 2.8 mm"; of the controller's half, where they are not alike."""
    generation: str = Field(default="", max_length=20)
    """Its generation, where there are several that look alike."""
    gender: Contacts = ""
    """What the controller's half has."""
    part_family: str = Field(default="", max_length=40)
    """Family and size of the part's half. Empty: as the controller's."""
    part_generation: str = Field(default="", max_length=20)
    """Generation of the part's half. Empty: as the controller's."""
    part_gender: Contacts = ""
    """What the part's half has."""
    mates: bool | None = None
    """The halves go together and lock. Empty: not tried."""
    joined: PlugState = "as they are"
    """What was done where they do not: a new pair, pins moved into another housing, or the joint made again."""
    taped: bool = False
    """A joint of a previous owner, twisted and taped."""


class SignalCable(Part):
    """A cable with several conductors that runs small wires together, through a tube or along a stem."""

    label: str = Field(default="Cable", max_length=60)
    """Where it runs, such as "through the stem"."""
    conductors: int = Field(default=6, ge=1, le=40)
    """How many wires it has."""
    mm2: Annotated[float, Within("cable.mm2")] = 0.22
    """Copper of each of them in mm²."""
    carries: list[PlugPlace] = Field(default=[], max_length=13)
    """Which plugs' wires run in it."""
