"""Which colour is which: the wires of two plug halves paired by what they are for, and how to find out what is not known."""

from __future__ import annotations

import csv
import io
from typing import Literal

from pydantic import ValidationError

from gecko.errors import GeckoError
from gecko.evaluation import Out
from gecko.parts.hookup import PlugPair, PlugPlace, SeenWire

FUNCTIONS: dict[PlugPlace, tuple[str, ...]] = {
    "throttle": ("5 V", "ground", "signal"),
    "brake": ("signal", "ground"),
    "key": ("battery plus", "switched plus"),
    "foot switch": ("signal", "ground"),
    "speed switch": ("signal", "ground"),
    "reverse switch": ("signal", "ground"),
    "display": ("plus", "ground", "signal"),
    "phases": ("phase A", "phase B", "phase C"),
    "Halls": ("5 V", "ground", "Hall A", "Hall B", "Hall C"),
    "motor": ("motor +", "motor −"),
    "other": (),
}
"""What the wires of a plug are for, by what is plugged in."""
EXTRA = ("indicator", "lock", "meter", "learning", "speed limit", "cruise", "anti-theft", "brake high level", "charge")
"""What else a half may carry that the other has no use for."""
LEFT_OVER = {
    "learning": "Leave it apart: joined, the wheel starts by itself.",
    "speed limit": "Leave it as you found it; joined or parted it changes the top speed. Try it with the wheel off the ground.",
    "cruise": "Insulate it: cruise hold is nothing for a child.",
    "anti-theft": "Insulate each wire by itself and tie them back.",
    "lock": "It must get battery plus through the key, or the controller stays off.",
    "brake high level": "Insulate it: it wants battery plus, not ground.",
    "charge": "Insulate each wire by itself: it is live whenever a pack is in.",
    "indicator": "Insulate it, or give it to a lamp it is made for.",
    "meter": "Insulate it, or give it to a display it is made for.",
}
"""What to do with a wire nobody uses."""
SPARE = "Nothing needs it: insulate it by itself and tie it back."
FIND: dict[str, tuple[str, str]] = {
    "5 V": (
        "Controller on: the one that shows about 5 V against ground, and does not move with the throttle.",
        "The one whose ohms to the others stay as the throttle turns.",
    ),
    "ground": ("Packs out: near 0 Ω to battery minus.", "With 5 V found, the other end of the same sensor; on a potentiometer the end the ohms start from."),
    "signal": (
        "The one that is neither 5 V nor near 0 Ω to battery minus.",
        "The one whose ohms, or volts when fed, move with throttle or lever.",
    ),
    "battery plus": ("Packs in, key out: full volts against battery minus.", "A plain switch: either wire will do."),
    "switched plus": ("Packs in, key out: no volts; joined to battery plus the controller wakes.", "A plain switch: either wire will do."),
    "plus": ("Controller on: full volts, or 5 V, against ground.", "By its marking; ask the maker before you try."),
    "Hall": ("Controller on, plug apart: about 5 V through its pull-up.", "5 V and ground on: it steps between 0 and 5 V as the wheel is turned by hand."),
    "phase": ("One of the three thick leads; the order is found by trying.", "One of the three thick leads, under 1 Ω to both others."),
    "motor": ("One of the two thick leads of the motor's side.", "Swapped they only turn it backward."),
}
"""How to find a wire with the meter, on the controller's half and on the part's."""


class Join(Out):
    """One wire to another."""

    function: str
    controller_colour: str
    part_colour: str
    sentence: str


class ToFind(Out):
    """A wire whose place is not known yet, and how to find it."""

    function: str
    half: Literal["controller", "part"]
    among: list[str]
    """Colours it may have."""
    how: str


class LeftOver(Out):
    """A wire the other half has no use for."""

    half: Literal["controller", "part"]
    colour: str
    function: str
    what: str


class Crosswalk(Out):
    """How two halves go together."""

    joins: list[Join]
    to_find: list[ToFind]
    left_over: list[LeftOver]
    doubts: list[str]
    halves: str
    """What to do with the halves themselves; empty where they mate."""


def crosswalk(pair: PlugPair) -> Crosswalk:
    """Pair the wires of two halves by what they are for; without unit [1]."""
    wanted = FUNCTIONS[pair.place] or tuple(dict.fromkeys(wire.function for wire in (*pair.controller, *pair.part) if wire.function))
    sides: dict[Literal["controller", "part"], list[SeenWire]] = {"controller": pair.controller, "part": pair.part}
    joins, to_find, left_over, doubts = [], [], [], []
    known = {half: {wire.function: wire.colour for wire in wires if wire.function} for half, wires in sides.items()}
    for half, wires in sides.items():
        seen: dict[str, str] = {}
        for wire in wires:
            if wire.function and wire.function in seen:
                both = f"{seen[wire.function]} and {wire.colour}"
                doubts.append(f"{both[:1].upper()}{both[1:]} of the {half}'s half are both said to be {wire.function}: only one is.")
            seen.setdefault(wire.function, wire.colour)
            if wire.function and wire.function not in wanted:
                what = LEFT_OVER.get(wire.function, SPARE)
                left_over.append(LeftOver(half=half, colour=wire.colour, function=wire.function, what=what))
    for function in wanted:
        there, here = known["controller"].get(function), known["part"].get(function)
        if there and here:
            joins.append(Join(function=function, controller_colour=there, part_colour=here, sentence=f"{there} to {here}"))
            continue
        for half, wires in sides.items():
            if not known[half].get(function) and wires:
                among = [wire.colour for wire in wires if not wire.function]
                only = f"Only {among[0]} is left; make sure. " if len(among) == 1 else ""
                to_find.append(ToFind(function=function, half=half, among=among, how=only + _how(function, half)))
    if not to_find:
        spare = [(half, wire.colour) for half, wires in sides.items() for wire in wires if wire.colour and not wire.function]
        left_over.extend(LeftOver(half=half, colour=colour, function="", what=SPARE) for half, colour in spare)
    return Crosswalk(joins=joins, to_find=to_find, left_over=left_over, doubts=doubts, halves=_halves(pair))


def _how(function: str, half: Literal["controller", "part"]) -> str:
    key = next((name for name in FIND if function.startswith(name)), None)
    words = FIND[key] if key is not None else ("By the label at the plug, or the maker's list.", "By the label at the plug, or the maker's list.")
    return words[0] if half == "controller" else words[1]


def _halves(pair: PlugPair) -> str:
    if pair.taped and pair.joined != "remade":
        return "Make the taped joint again: cut it back to bright copper, crimp or solder, heat-shrink over each wire by itself, tug."
    if pair.mates is not False or pair.joined != "as they are":
        return ""
    return (
        "The halves do not go together: fit a new pair of one family and generation on both sides, or move the pins into the other housing "
        "(lift the release tab, pull, bend the tab out again, push in until it clicks, tug)."
    )


_TWO_WIRE: tuple[tuple[PlugPlace, str], ...] = (
    ("brake", "brake"),
    ("foot switch", "foot_switch"),
    ("speed switch", "speed_switch"),
    ("reverse switch", "reverse_switch"),
)
_CONTROLLER_END = {"foot switch": ("foot switch", "foot ground"), "speed switch": ("speed", "speed ground"), "reverse switch": ("reverse", "reverse ground")}


def _ends(place: PlugPlace, function: str) -> tuple[str, str] | None:
    """The controller's and the part's terminal of a wire of a plug; None where the wiring has none."""
    if place == "throttle":
        return f"controller.throttle {function}", f"throttle.{function}"
    if place in ("phases", "Halls"):
        name = function if function.startswith(("phase", "Hall")) else f"Hall {function}"
        return f"controller.{name}", f"motor0.{name}"
    if place == "key":
        name, wire = {"battery plus": ("key out", "2"), "switched plus": ("key in", "1")}.get(function, ("", ""))
        return (f"controller.{name}", f"key.{wire}") if name else None
    if place == "motor":
        return f"controller.{function}", f"motor0.{function.removeprefix('motor ')}"
    part = next((part for known, part in _TWO_WIRE if known == place), None)
    if part is None or function not in ("signal", "ground"):
        return None
    signal, ground = _CONTROLLER_END.get(place, (f"{place} signal", f"{place} ground"))
    return (f"controller.{signal}", f"{part}.1") if function == "signal" else (f"controller.{ground}", f"{part}.2")


def colours_of(pairs: list[PlugPair]) -> dict[str, str]:
    """Colour of the wire at each terminal whose plug is entered, by the terminal's full name; without unit [1]."""
    found: dict[str, str] = {}
    for pair in pairs:
        for number, wires in enumerate((pair.controller, pair.part)):
            for wire in wires:
                ends = _ends(pair.place, wire.function) if wire.function and wire.colour else None
                if ends is not None:
                    found[ends[number]] = wire.colour
    return found


COLUMNS = ("place", "half", "colour", "function")


def crosswalk_csv(pairs: list[PlugPair]) -> str:
    """Plugs as a table, one line a wire; without unit [1]."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(COLUMNS)
    for pair in pairs:
        for half, wires in (("controller", pair.controller), ("part", pair.part)):
            writer.writerows((pair.place, half, wire.colour, wire.function) for wire in wires)
    return out.getvalue()


def read_crosswalk(text: str) -> list[PlugPair]:
    """Plugs from such a table; without unit [1]. Raises GeckoError naming the line that does not fit."""
    lines = list(csv.DictReader(io.StringIO(text.lstrip("\ufeff"))))
    if not lines or not set(COLUMNS) <= set(lines[0]):
        raise GeckoError(f"This is no table of plug colours: its first line should name {', '.join(COLUMNS)}.", code="file")
    found: dict[str, dict[str, list[dict[str, str]]]] = {}
    for number, line in enumerate(lines, start=2):
        place, half = (line["place"] or "").strip(), (line["half"] or "").strip()
        if place not in FUNCTIONS or half not in ("controller", "part"):
            raise GeckoError(f"Line {number}: place should be one of {', '.join(FUNCTIONS)}, half controller or part.", code="file")
        halves = found.setdefault(place, {"controller": [], "part": []})
        halves[half].append({"colour": (line["colour"] or "").strip(), "function": (line["function"] or "").strip()})
    try:
        return [PlugPair.model_validate({"place": place, **halves}) for place, halves in found.items()]
    except ValidationError as error:
        raise GeckoError("A plug has more wires than twelve, or a name that is too long.", code="file") from error
