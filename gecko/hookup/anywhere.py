"""What the meter should show between any two terminals of a setup, in the state one says it is in."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from gecko.answers.evaluation import Out
from gecko.common.documents import Document
from gecko.common.errors import GeckoError
from gecko.common.figures import Part
from gecko.document.setup import Setup
from gecko.hookup.netlist import build_wiring
from gecko.hookup.readings import METER_LEADS_OHM, NOT_A_SHORT_OHM, Direction, State, derivable, least_ohm, meter_doubt_v, ohms, runs, volts
from gecko.hookup.wiring import Wiring, words

CONTINUES_OHM = 30.0
"""Below this a meter beeps. [Ω] Source: common hand meters."""


class Situation(Part):
    """What is fitted, switched and held."""

    packs: bool = False
    """The packs are in."""
    rows_out: list[int] = Field(default=[], max_length=8)
    """Rows whose packs are out all the same, counted from 0."""
    row_fuses: bool = True
    """The fuses of the rows are in."""
    main_fuse: bool = False
    """The main fuse is in."""
    aux_fuses: bool = True
    """The fuses of accessories are in."""
    cut_off: bool = False
    """The cut-off is on."""
    key: bool = False
    """The key is on."""
    throttle: float = Field(default=0.0, ge=0, le=1)
    """How far the throttle is open."""
    brake: bool = False
    """The brake lever is pulled."""
    foot: bool = False
    """The foot switch is stood on."""
    pedal: bool = False
    """The pedal is pressed, where it switches the motor itself."""
    accessories: bool = False
    """Accessories are switched on."""
    direction: Direction = "forward"
    """Where the switch for the direction stands."""
    speed: int = Field(default=0, ge=0, le=2)
    """Which wire of the speed switch goes to ground: none, the first, the second."""
    learning: bool = False
    """The learning plug is joined."""
    turn: int = Field(default=0, ge=0, le=5)
    """Where the wheel stands in the electrical turn of the motor, in sixths."""


class Shown(Out):
    """What the meter shows with the red tip on one terminal and the black one on another."""

    red_on: str
    black_on: str
    kind: Literal["volts", "ohms", "open", "unknown"]
    """Volts with the packs in; else ohms, open, or ohms nobody can derive: only no short."""
    low: float | None
    expected: float | None
    high: float | None
    """In volts or ohms; the meter's own doubt included."""
    beeps: bool
    """Whether a continuity tester beeps."""
    note: str


def shown(setup: Setup, situation: Situation, red: str, black: str) -> Shown:
    """The reading, in volts [V] or ohms [Ω]. Raises GeckoError for a terminal there is not."""
    wiring = build_wiring(setup)
    if wiring is None:
        raise GeckoError("Choose the packs first: the terminals come from the setup.", code="hookup")
    for path, name in (("/red", red), ("/black", black)):
        if name not in wiring.terminals():
            raise GeckoError("This setup has no such terminal any more. Choose another one.", path=path, code="terminal")
    every = frozenset(part.row for part in wiring.parts if part.kind == "pack" and part.row is not None)
    rows = every - set(situation.rows_out) if situation.packs else frozenset()
    fuses = every if situation.row_fuses else frozenset()
    switches = situation.model_dump(exclude={"packs", "rows_out", "row_fuses"})
    ends = {"red_on": words(wiring, red), "black_on": words(wiring, black)}
    if rows:
        fed = State(packs=rows, row_fuses=fuses, **switches)
        turning = _turning(wiring, fed, red, black)
        if turning is not None:
            return Shown(**ends, **turning)
        low, expected, high = volts(wiring, fed, red, black)
        doubt = meter_doubt_v(expected)
        note = "A minus sign means the tips are changed over." if expected < -meter_doubt_v(0.0) else ""
        if low < -UNKNOWN_V and high > UNKNOWN_V:
            note = "How full each pack is, is not known: they may differ so much either way. Measure each alone, and enter its resting volts."
        return Shown(**ends, kind="volts", low=low - doubt, expected=expected, high=high + doubt, beeps=False, note=note)
    state = State(row_fuses=fuses, **switches)
    found = ohms(wiring, state, red, black)
    if not derivable(wiring, state, red, black):
        return Shown(
            **ends, kind="unknown", low=NOT_A_SHORT_OHM, expected=None, high=None, beeps=False, note="Through the inside of a part: only no short. It may climb."
        )
    if found is None:
        return Shown(**ends, kind="open", low=None, expected=None, high=None, beeps=False, note="Nothing joins them: the meter shows OL.")
    return Shown(
        **ends,
        kind="ohms",
        low=least_ohm(found),
        expected=found,
        high=1.5 * found + METER_LEADS_OHM,
        beeps=found < CONTINUES_OHM,
        note="The meter's own leads add up to 0.3 Ω.",
    )


UNKNOWN_V = 0.3
"""Packs that may differ by more than this either way are not known to agree. [V]"""
LEAST_SHARE = 0.1
"""A motor that turns has at least this share of what the throttle asks of the bank's volts. [1] Source: this project's planning value."""


def _turning(wiring: Wiring, state: State, red: str, black: str) -> Document | None:
    """What the meter shows at the terminals of a motor that turns; None elsewhere, and while it stands."""
    functions = [_function(wiring, terminal) for terminal in (red, black)]
    if red == black or functions not in (["motor", "motor"], ["phase", "phase"]) or not runs(wiring, state):
        return None
    if functions[0] == "phase":
        note = "The motor turns: these volts alternate. A meter on DC shows next to nothing, or dances; on AC the more, the faster it turns."
        return {"kind": "unknown", "low": None, "expected": None, "high": None, "beeps": False, "note": note}
    _, bank, most = volts(wiring, state, "controller.battery +", "controller.battery −")
    asked = state.throttle * bank
    note = "The motor turns: it follows the throttle, and never stays at 0 V. The sign says which way."
    return {"kind": "volts", "low": LEAST_SHARE * asked, "expected": asked, "high": most + meter_doubt_v(most), "beeps": False, "note": note}


def _function(wiring: Wiring, terminal: str) -> str:
    part = wiring.part(terminal)
    return next((one.function for one in part.terminals if part.at(one.name) == terminal), "")
