"""Which colour is which: the wires of two plug halves paired by what they are for, and how to find out what is not known."""

from __future__ import annotations

import csv
import io
from typing import Literal

from pydantic import ValidationError

from gecko.answers.evaluation import Out
from gecko.common.cells import cell, uncell
from gecko.common.documents import Document
from gecko.common.errors import GeckoError, field_problems
from gecko.document.parts.hookup import HarnessPlug, PlugPair, PlugPlace, SeenWire
from gecko.document.setup import Setup
from gecko.hookup.logic import what_to_do

FUNCTIONS: dict[PlugPlace, tuple[str, ...]] = {
    "throttle": ("5 V", "ground", "signal"),
    "brake": ("signal", "ground"),
    "key": ("battery plus", "switched plus"),
    "foot switch": ("signal", "ground"),
    "speed switch": ("signal", "ground"),
    "reverse switch": ("signal", "ground"),
    "direction switch": ("forward", "reverse", "ground"),
    "display": ("plus", "ground", "signal"),
    "learning": ("signal", "ground"),
    "phases": ("phase A", "phase B", "phase C"),
    "Halls": ("5 V", "ground", "Hall A", "Hall B", "Hall C"),
    "motor": ("motor +", "motor −"),
    "other": (),
}
"""What the wires of a plug are for, by what is plugged in."""
SOMETIMES: dict[PlugPlace, tuple[str, ...]] = {"speed switch": ("second signal",)}
"""What else it may have: a switch for three speeds."""
EXTRA = ("second signal", "indicator", "lock", "meter", "learning", "speed limit", "cruise", "anti-theft", "brake high level", "charge")
"""What else a half may carry that the other has no use for."""
LEFT_OVER: dict[str, HarnessPlug] = {
    "learning": "learning",
    "speed limit": "speed limit",
    "cruise": "cruise hold",
    "anti-theft": "anti-theft",
    "lock": "key",
    "brake high level": "brake, high level",
    "charge": "charge",
    "indicator": "indicator lamp",
    "meter": "display",
}
"""Wires nobody uses, as plugs of the harness."""
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
    "second": ("As the first: about 5 V through its pull-up, controller on.", "Near 0 Ω to ground in one position, open in the others."),
    "battery plus": ("Packs in, key out: full volts against battery minus.", "A plain switch: either wire will do."),
    "switched plus": ("Packs in, key out: no volts; joined to battery plus the controller wakes.", "A plain switch: either wire will do."),
    "plus": ("Controller on: full volts, or 5 V, against ground.", "By its marking; ask the maker before you try."),
    "Hall": ("Controller on, plug apart: about 5 V through its pull-up.", "5 V and ground on: it steps between 0 and 5 V as the wheel is turned by hand."),
    "forward": ("About 5 V through its pull-up; joined to ground the wheel may turn forward.", "Ohms to ground near 0 with the lever at forward, open else."),
    "reverse": ("About 5 V through its pull-up; joined to ground the wheel may turn backward.", "Ohms to ground near 0 with the lever at reverse, open else."),
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
    """Pair the wires of two halves by what they are for."""
    wanted = FUNCTIONS[pair.place] or tuple(dict.fromkeys(wire.function for wire in (*pair.controller, *pair.part) if wire.function))
    seen_ones = {wire.function for wire in (*pair.controller, *pair.part)}
    wanted += tuple(function for function in SOMETIMES.get(pair.place, ()) if function in seen_ones)
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
                what = what_to_do(LEFT_OVER[wire.function]) if wire.function in LEFT_OVER else SPARE
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
    why = _unlike(pair)
    if (pair.mates is not False and not why) or pair.joined != "as they are":
        return ""
    return (
        f"The halves do not go together{f' ({why})' if why else ''}: fit a new pair of one family and generation on both sides, or move the pins into the other housing "
        "(lift the release tab, pull, bend the tab out again, push in until it clicks, tug)."
    )


def _unlike(pair: PlugPair) -> str:
    """What keeps two halves from mating, by what is entered of them; empty where nothing does."""
    found = [
        f"{ours} against {theirs}"
        for ours, theirs in ((pair.family, pair.part_family), (pair.generation, pair.part_generation))
        if ours and theirs and ours.strip().lower() != theirs.strip().lower()
    ]
    if pair.gender and pair.gender == pair.part_gender:
        found.append(f"{pair.gender} on both")
    return ", ".join(found)


_TWO_WIRE: tuple[tuple[PlugPlace, str], ...] = (
    ("brake", "brake"),
    ("foot switch", "foot_switch"),
    ("speed switch", "speed_switch"),
    ("reverse switch", "reverse_switch"),
    ("learning", "learning_plug"),
)
_CONTROLLER_END = {
    "learning": ("learning", "learning ground"),
    "foot switch": ("foot switch", "foot ground"),
    "speed switch": ("speed", "speed ground"),
    "reverse switch": ("reverse", "reverse ground"),
}


def _ends(setup: Setup, pair: PlugPair, function: str) -> tuple[str, str] | None:
    """The controller's and the part's terminal of a wire of a plug; None where the wiring has none."""
    place, motor = pair.place, setup.motor
    two = motor is not None and motor.count == 2
    at = f"motor{1 if two and pair.side == 'right' else 0}"
    side = f"{pair.side} " if two and motor is not None and motor.brushless else ""
    if place == "throttle":
        return f"controller.throttle {function}", f"throttle.{function}"
    if place in ("phases", "Halls"):
        name = function if function.startswith(("phase", "Hall")) else f"Hall {function}"
        return f"controller.{side}{name}", f"{at}.{name}"
    if place == "key":
        name, wire = {"battery plus": ("key out", "2"), "switched plus": ("key in", "1")}.get(function, ("", ""))
        return (f"controller.{name}", f"key.{wire}") if name else None
    if place == "motor":
        return f"controller.{function}", f"{at}.{function.removeprefix('motor ')}"
    if place == "display":
        return f"controller.display {function}", f"display.{function}"
    if place == "direction switch":
        return f"controller.{'direction ground' if function == 'ground' else function}", f"direction.{function}"
    if place == "speed switch" and function == "second signal":
        return "controller.speed 2", "speed_switch.3"
    part = next((part for known, part in _TWO_WIRE if known == place), None)
    if part is None or function not in ("signal", "ground"):
        return None
    signal, ground = _CONTROLLER_END.get(place, (f"{place} signal", f"{place} ground"))
    return (f"controller.{signal}", f"{part}.1") if function == "signal" else (f"controller.{ground}", f"{part}.2")


def colours_of(setup: Setup) -> dict[str, str]:
    """Colour of the wire at each terminal whose plug is entered, by the terminal's full name."""
    found: dict[str, str] = {}
    for pair in setup.plug_pairs:
        for number, wires in enumerate((pair.controller, pair.part)):
            for wire in wires:
                ends = _ends(setup, pair, wire.function) if wire.function and wire.colour else None
                if ends is not None:
                    found[ends[number]] = wire.colour
    return found


COLUMNS = ("place", "half", "colour", "function")
OF_THE_HALF = (("family", "part_family"), ("generation", "part_generation"), ("gender", "part_gender"))
OF_THE_PAIR = ("label", "side", "mates", "joined", "taped")
"""Columns a table has to have; what it may say of a half, controller's and part's; and of the whole plug, on every line of it."""
_YES = {"yes": True, "no": False, "": None}


def crosswalk_csv(pairs: list[PlugPair]) -> str:
    """Plugs as a table, one line a wire."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow((*COLUMNS, *(ours for ours, _ in OF_THE_HALF), *OF_THE_PAIR))
    for pair in pairs:
        told = [next(word for word, value in _YES.items() if value is getattr(pair, name)) if name in ("mates", "taped") else getattr(pair, name) for name in OF_THE_PAIR]
        for number, (half, wires) in enumerate((("controller", pair.controller), ("part", pair.part))):
            of_half = [getattr(pair, names[number]) for names in OF_THE_HALF]
            writer.writerows([cell(str(one)) for one in (pair.place, half, wire.colour, wire.function, *of_half, *told)] for wire in wires)
    return out.getvalue()


def read_crosswalk(text: str) -> list[PlugPair]:
    """Plugs from such a table. Raises GeckoError naming the line that does not fit."""
    try:
        lines = list(csv.DictReader(io.StringIO(text.lstrip("\ufeff"))))
    except csv.Error as failure:
        raise GeckoError(f"This table cannot be read: {failure}. Save it again as plain CSV.", code="file") from failure
    if not lines or not set(COLUMNS) <= set(lines[0]):
        raise GeckoError(f"This is no table of plug colours: its first line should name {', '.join(COLUMNS)}.", code="file")
    found: dict[tuple[str, str, str], Document] = {}
    for number, line in enumerate(lines, start=2):
        told = {name: uncell((line.get(name) or "").strip()) for name in (*COLUMNS, *(ours for ours, _ in OF_THE_HALF), *OF_THE_PAIR)}
        place, half = told["place"], told["half"]
        if place not in FUNCTIONS or half not in ("controller", "part"):
            raise GeckoError(f"Line {number}: place should be one of {', '.join(FUNCTIONS)}, half controller or part.", code="file")
        for name in ("mates", "taped"):
            if told[name] not in _YES:
                raise GeckoError(f"Line {number}: {name} should be yes, no or empty.", code="file")
        plug = found.setdefault((place, told["side"], told["label"]), {"place": place, "controller": [], "part": []})
        plug[half].append({"colour": told["colour"], "function": told["function"]})
        plug |= {names[half == "part"]: told[names[0]] for names in OF_THE_HALF if told[names[0]]}
        plug |= {name: told[name] for name in ("label", "side", "joined") if told[name]}
        plug |= {"mates": _YES[told["mates"]], "taped": bool(_YES[told["taped"]])}
    try:
        return [PlugPair.model_validate(plug) for plug in found.values()]
    except ValidationError as error:
        raise GeckoError(f"A plug of the table does not fit: {field_problems(error)[0]['message']}", code="file") from error
