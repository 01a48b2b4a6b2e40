"""What a step and its reading are, and the readings steps ask for."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from gecko.answers.evaluation import Gate, Out
from gecko.hookup.joined import Joined
from gecko.hookup.readings import METER_LEADS_OHM, NOT_A_SHORT_OHM, State, least_ohm, meter_doubt_v
from gecko.hookup.wiring import words


class Reading(Out):
    """What the meter should show, and where its tips go."""

    kind: Literal["volts", "ohms", "open"]
    red: str
    black: str
    """The two terminals the tips stand on."""
    red_on: str
    black_on: str
    """The same in words."""
    low: float | None
    high: float | None
    expected: float | None
    unit: Literal["V", "Ω"]
    note: str = ""
    low_means: list[str] = []
    high_means: list[str] = []
    """Likeliest causes of less and of more in this very step, where they are not the common ones."""


class Step(Out):
    """One step: what to do, which parts it is about, how a joint is made in it, and the reading to expect."""

    id: str
    title: str
    what: str
    blocks: list[str] = []
    """Ids of parts; "row0" stands for all packs of a row."""
    reading: Reading | None = None
    caution: str = ""
    tools: list[str] = []
    joint: str = ""
    """How the joint is made, and what the solder or the crimp asks for."""
    care: str = ""
    """Strain relief and sealing."""
    safety: bool = False
    """What comes after it and is locked may not be done before it holds."""
    gate: Gate | None = None
    """It gives power, or is a ride: it is locked while a stop of this gate or an earlier one is open, or an earlier safety step not done."""
    barred: str = ""
    """Why it cannot be done at all as the machine is; empty when it can."""
    mark: str = ""
    """Changes with what the step joins: a tick made under another mark no longer holds."""


Tips = tuple[str, str]


def _named(net: Joined, tips: Tips, red_on: str, black_on: str) -> dict[str, str]:
    return {"red": tips[0], "black": tips[1], "red_on": red_on or words(net.wiring, tips[0]), "black_on": black_on or words(net.wiring, tips[1])}


def ohms(net: Joined, tips: Tips, state: State | None = None, note: str = "", spread: float = 0.5) -> Reading:
    """Ohms through what joins two terminals, the meter's own leads included, so much more or less than expected [Ω]; open where nothing does."""
    expected = net.resistance(state or State(), *tips)
    if expected is None:
        return opened(net, tips, note)
    high = expected * (1 + spread) + METER_LEADS_OHM
    return Reading(
        kind="ohms", **_named(net, tips, "", ""), low=round(least_ohm(expected) / (1 + spread), 2), high=round(high, 2), expected=round(expected, 3), unit="Ω", note=note
    )


def opened(net: Joined, tips: Tips, note: str = "The meter shows OL: open.") -> Reading:
    """Nothing joins two terminals: more than 10 kΩ."""
    return Reading(kind="open", **_named(net, tips, "", ""), low=10_000.0, high=None, expected=None, unit="Ω", note=note)


def volts(net: Joined, state: State, tips: Tips, note: str = "", spread: float = 0.0, low: Sequence[str] = (), high: Sequence[str] = ()) -> Reading:
    """Volts between two terminals in a state, for packs from nearly empty to full, the meter's doubt and a share of the parts' own
    spread included [V]. low, high: what less and more means here, where it is not the common."""
    least, expected, most = net.volts(state, *tips)
    margin = meter_doubt_v(expected) + spread * abs(expected)
    return Reading(
        kind="volts",
        **_named(net, tips, "", ""),
        low=round(least - margin, 2),
        high=round(most + margin, 2),
        expected=round(expected, 2),
        unit="V",
        note=note,
        low_means=list(low),
        high_means=list(high),
    )


def not_a_short(net: Joined, tips: Tips, note: str = "Not a short. It may climb while capacitors fill.", red_on: str = "", least: float = NOT_A_SHORT_OHM) -> Reading:
    """Ohms into a part whose inside nobody knows: more than so many [Ω]."""
    return Reading(kind="ohms", **_named(net, tips, red_on, ""), low=round(least, 2), high=None, expected=None, unit="Ω", note=note)
