"""Plugs and switches: everything that opens and closes the path."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from gecko.figures import Part, positive

PlugKind = Literal["spade 6.3", "bullet 4", "bullet 5.5", "two-pole 60", "two-pole 90", "genderless 45", "other"]


class Plug(Part):
    """A plug connection in the main path; every pole counts."""

    kind: PlugKind = "two-pole 60"
    """Kind of contact."""
    poles: int = Field(default=2, ge=1, le=20)
    """How many contacts the current passes, both ways counted."""
    rating_a: positive(1000) | None = None  # type: ignore[valid-type]
    """Amps it stands. Empty: from the table of its kind."""
    resistance_ohm: positive(1) | None = None  # type: ignore[valid-type]
    """Resistance of one contact. Empty: from the table of its kind."""
    browned: bool = False
    """It is browned or melted: it ran too hot and will do so again."""
    dc_volts_v: positive(1000) | None = None  # type: ignore[valid-type]
    """DC volts it is made for. Empty: not known."""
    live_pins: bool = False
    """The half that stays powered when it is pulled has bare pins."""
    place: Literal["main", "motor"] = "main"
    """In the path from the packs, or in the motor's leads."""


class Switch(Part):
    """A switch in the path: the cut-off that isolates the bank, the pedal switch, or the high/low switch."""

    kind: Literal["switch", "relay", "contactor", "pullable plug", "breaker"] = "switch"
    """What it is. A plug one can pull isolates as well as a switch."""
    rating_a: positive(1000) | None = None  # type: ignore[valid-type]
    """DC amps it may break. Empty: not known."""
    dc_volts_v: positive(1000) | None = None  # type: ignore[valid-type]
    """DC volts it may break. Empty: not known."""
    resistance_ohm: positive(1) | None = None  # type: ignore[valid-type]
    """Resistance when closed. Empty: 6 mΩ assumed."""
    side: Literal["positive", "negative"] = "positive"
    """Which lead it opens. It belongs in the positive one."""
    reach: Literal["rider", "adult beside it", "out of reach"] | None = None
    """Who reaches it while it rides: the rider, an adult beside it, or nobody. Empty: not looked at."""


class Guard(Part):
    """What saves the cells from being drained: a low-volt guard."""

    kind: Literal["module", "voltmeter"] = "module"
    """A module that switches off, or a voltmeter somebody has to watch."""
    volts_v: positive(120)  # type: ignore[valid-type]
    """Volts at which it switches off (or at which you stop)."""
    reset_v: positive(120) | None = None  # type: ignore[valid-type]
    """Volts at which it switches on again. Empty: by hand, or not known."""
    delay_s: positive(60) | None = None  # type: ignore[valid-type]
    """How long the volts must stay below before it acts. Empty: 2 s."""
    rating_a: positive(1000) | None = None  # type: ignore[valid-type]
    """Amps the module stands. Empty: not known."""
    resistance_ohm: positive(1) | None = None  # type: ignore[valid-type]
    """Resistance in the path. Empty: 2 mΩ for a module, none for a voltmeter."""
