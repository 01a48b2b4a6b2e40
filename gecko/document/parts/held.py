"""What every part says that a slot of a setup holds: whether it is one of the garage's own."""

from __future__ import annotations

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


class Held(Part):
    """A part that a slot of a setup holds."""

    rack: OnRack | None = None
    """Which part of the rack it is. Empty: none in particular."""
