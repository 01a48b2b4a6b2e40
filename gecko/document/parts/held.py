"""What every part says that a slot of a setup holds: whether it is one of the garage's own, what it ends in, and how it is held."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from gecko.common.figures import Part


class OnRack(Part):
    """Which part of the garage's rack stands in a slot. The slot keeps what the part was like when it was put in."""

    key: str = Field(min_length=1, max_length=40)
    """What the rack knows it by. It stays the same whatever is changed about the part."""
    label: str = Field(default="", max_length=80)
    """What it is called there."""
    letter: str = Field(default="", max_length=4)
    """What is written on its sticker."""
    temporary: bool = False
    """Tied on for one try: it comes off again when the try is over."""

    @property
    def name(self) -> str:
        """The part as a sentence names it."""
        return f"{self.label} {self.letter}".strip() or "A part"


EndFor = Literal["battery", "charge", "motor", "phases", "Halls", "throttle", "brake", "key", "display", "lamp", "other"]
Contacts = Literal["", "pins", "sockets"]


class End(Part):
    """A plug, terminal or bare end of a part, as one sees it."""

    joins: EndFor = "other"
    """What it is for."""
    label: str = Field(default="", max_length=40)
    """What is printed on it or beside it."""
    family: str = Field(default="", max_length=40)
    """Family and size, such as "3-pole, 2.8 mm", "ring, 6 mm" or "bare wire"."""
    gender: Contacts = ""
    """What it has inside."""
    contacts: int | None = Field(default=None, ge=1, le=40)
    """How many contacts or wires it has. Empty: not counted."""
    colours: str = Field(default="", max_length=120)
    """Colours of its wires in the order of its contacts."""

    @property
    def words(self) -> str:
        """How it looks, in a few words; empty where nobody said."""
        poles = f"{self.contacts} contacts" if self.contacts is not None else ""
        return ", ".join(word for word in (self.family, poles, self.gender) if word)


class Held(Part):
    """A part that a slot of a setup holds."""

    rack: OnRack | None = None
    """Which part of the rack it is. Empty: none in particular."""
    ends: list[End] = Field(default=[], max_length=16)
    """Its plugs, terminals and bare ends."""
    holes: str = Field(default="", max_length=60)
    """What it is held by: its holes and their distances, its shaft, its clamp."""
