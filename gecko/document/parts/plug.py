"""Plugs and switches: everything that opens and closes the path."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from gecko.common.figures import Figure
from gecko.document.parts.bounds import Within
from gecko.document.parts.held import Held

PlugKind = Literal["spade 6.3", "bullet 4", "bullet 5.5", "two-pole 60", "two-pole 90", "genderless 45", "other"]


class Plug(Held):
    """A plug connection in the main path; every pole counts."""

    kind: PlugKind = "two-pole 60"
    """Kind of contact."""
    poles: int = Field(default=2, ge=1, le=20)
    """How many contacts the current passes, both ways counted."""
    rating_a: Annotated[Figure, Within("plug.rating_a")] | None = None
    """Amps it stands. Empty: from the table of its kind."""
    resistance_ohm: Annotated[Figure, Within("plug.resistance_ohm")] | None = None
    """Resistance of one contact. Empty: from the table of its kind."""
    browned: bool = False
    """It is browned or melted: it ran too hot and will do so again."""
    dc_volts_v: Annotated[Figure, Within("plug.dc_volts_v")] | None = None
    """DC volts it is made for. Empty: not known."""
    live_pins: bool = False
    """The half that stays powered when it is pulled has bare pins."""
    place: Literal["main", "motor"] = "main"
    """In the path from the packs, or in the motor's leads."""


class Switch(Held):
    """A switch in the path: the cut-off that isolates the bank, the pedal switch, or the high/low switch."""

    kind: Literal["switch", "relay", "contactor", "pullable plug", "breaker"] = "switch"
    """What it is. A plug one can pull isolates as well as a switch."""
    rating_a: Annotated[Figure, Within("switch.rating_a")] | None = None
    """DC amps it may break. Empty: not known."""
    dc_volts_v: Annotated[Figure, Within("switch.dc_volts_v")] | None = None
    """DC volts it may break. Empty: not known."""
    resistance_ohm: Annotated[Figure, Within("switch.resistance_ohm")] | None = None
    """Resistance when closed. Empty: 6 mΩ assumed."""
    side: Literal["positive", "negative"] = "positive"
    """Which lead it opens. It belongs in the positive one."""
    reach: Literal["rider", "adult beside it", "out of reach"] | None = None
    """Who reaches it while it rides: the rider, an adult beside it, or nobody. Empty: not looked at."""


class Guard(Held):
    """What saves the cells from being drained: a low-volt guard."""

    kind: Literal["module", "voltmeter"] = "module"
    """A module that switches off, or a voltmeter somebody has to watch."""
    volts_v: Annotated[Figure, Within("guard.volts_v")]
    """Volts at which it switches off (or at which you stop)."""
    reset_v: Annotated[Figure, Within("guard.reset_v")] | None = None
    """Volts at which it switches on again. Empty: by hand, or not known."""
    delay_s: Annotated[Figure, Within("guard.delay_s")] | None = None
    """How long the volts must stay below before it acts. Empty: 2 s."""
    rating_a: Annotated[Figure, Within("guard.rating_a")] | None = None
    """Amps the module stands. Empty: not known."""
    resistance_ohm: Annotated[Figure, Within("guard.resistance_ohm")] | None = None
    """Resistance in the path. Empty: 2 mΩ for a module, none for a voltmeter."""
