"""Figures as they were recorded: nobody says that they are right, only that they do not move unseen.

The other tests hold figures against hand calculations and judges of their own. Those of here notice a change anywhere on the way to an answer.
A change that is meant is recorded anew (`make recorded`), and the difference is read before it is kept.
"""

from __future__ import annotations

import json
import math
import random
import re
import string
import zlib
from collections.abc import Callable, Iterator
from functools import cache, partial
from itertools import islice
from pathlib import Path
from typing import Any

import jsonpatch
from pydantic import BaseModel, ValidationError

from gecko.analysis.whole import Analysis
from gecko.common.documents import Document
from gecko.common.errors import GeckoError
from gecko.document.context import Context
from gecko.document.rack.about import Racked
from gecko.document.setup import load_setup
from gecko.plans.care.charging import charge_plans
from gecko.plans.drive.compare import compare
from gecko.plans.drive.goals import reach
from gecko.plans.drive.ways import drive_changes, drive_plan, drive_sprockets
from gecko.plans.evaluate import evaluate
from gecko.plans.fixes import fixes
from gecko.plans.hookup import build_hookup
from gecko.plans.parts_list import parts_list
from gecko.plans.power import power_plan
from gecko.plans.protect import protect_plan
from gecko.plans.trials.prediction import predict_trial
from gecko.rules.edits import copied
from gecko.rules.looks import survey
from gecko.rules.registry import run_checks
from gecko.tests.hazards import HAZARDS
from gecko.tests.hazards import document as entered
from gecko.tests.machines import safe_bike, safe_ride_on
from gecko.tests.sane import FAMILIES, sane
from gecko.tests.unsafe import unsafe
from gecko.tests.walks import Walk

FOLDER = Path(__file__).with_name("recorded")
DIGITS = 6
"""Figures are kept with so many digits; a rounding elsewhere in the last ones of a double is no change."""

Recorded = dict[str, list[str]]
"""What was recorded of one machine: by name of the answer, its figures as short lines."""


def short(value: float | None) -> str:
    """A figure as it is kept: `DIGITS` digits, and what is nothing but rounding as nothing."""
    if value is None:
        return "-"
    return "0" if abs(value) < 1e-9 else f"{value:.{DIGITS}g}" if math.isfinite(value) else str(value)


_NUMBERS = re.compile(r"\d+(?:\.\d+)?")
_SIGNED = re.compile(r"-?\d+(?:\.\d+)?(?:e[+-]?\d+)?")


def told(sentence: str) -> str:
    """The figures a sentence tells, and five letters that stand for its words, so that another word is noticed too."""
    numbers, left = _NUMBERS.findall(sentence), zlib.crc32(_NUMBERS.sub("", sentence).encode())
    letters = ""
    while left and len(letters) < 5:
        left, place = divmod(left, 26)
        letters += string.ascii_lowercase[place]
    return " ".join([*numbers, letters] if letters else numbers)


def _figure(value: object) -> str | None:
    """One value as it is kept: a figure, the figures a text tells, a long list of figures as its count, its sum and its sum weighted by place;
    None for what is looked into."""
    if value is None:
        return "-"
    if isinstance(value, int | float):
        return short(value)
    if isinstance(value, str):
        return told(value)
    if isinstance(value, list | tuple) and len(value) > 3 and all(isinstance(one, int | float) for one in value):
        return f"{len(value)}:{short(math.fsum(value))}:{short(math.fsum(n * one for n, one in enumerate(value, 1)))}"
    return None


def lines(answer: object, at: str = "") -> Iterator[str]:
    """The figures of an answer, one line for what stands side by side."""
    if isinstance(answer, BaseModel):
        answer = answer.model_dump(mode="json")
    if not isinstance(answer, dict | list | tuple):
        yield f"{at} {_figure(answer)}"
        return
    named = answer.items() if isinstance(answer, dict) else enumerate(answer)
    kept = [(name, _figure(value), value) for name, value in named]
    beside = [f"{name}={figure}" for name, figure, _ in kept if figure]
    if beside:
        yield f"{at} {' '.join(beside)}"
    for name, figure, value in kept:
        if figure is None:
            yield from lines(value, f"{at}/{name}")


def findings(changes: Document, found: Document | None = None) -> Iterator[str]:
    """What the checks say of a machine beside the one it was found as, and what each change that is offered does to it."""
    setup = load_setup(changes)
    before = setup.model_dump(mode="json")
    around = None if found is None else Context(baseline=load_setup(found))
    for found_one in run_checks(Analysis(setup, around)):
        one = found_one.finding
        likely = "" if one.likely is None else f" likely {short(one.likely)}"
        gate = f" {one.gate}" if one.gate is not None else ""
        yield f"{one.key} {one.severity}{gate} {one.path} {short(one.asked)} > {short(one.stands)}{likely}: {one.title}. {told(one.because)}; {told(one.instruction)}"
        for edit in found_one.edits:
            after = copied(before)
            edit.change(after)
            try:
                patch = jsonpatch.make_patch(before, load_setup(after).model_dump(mode="json")).patch
            except ValidationError:
                # Never offered: what is offered is read first.
                yield f"  {told(edit.label)}: refused"
                continue
            yield f"  {told(edit.label)}: " + " ".join(f"{step['path']}={_value(step.get('value'))}" for step in sorted(patch, key=lambda step: str(step["path"])))


def _value(value: object) -> str:
    return short(value) if isinstance(value, int | float) else " ".join(lines(value)) if isinstance(value, dict | list) else str(value)


# ---- the machines


def _sane(number: int) -> Document:
    return sane(random.Random(1000 + number), sorted(FAMILIES)[number % len(FAMILIES)])


def _unsafe(number: int) -> Document:
    return unsafe(random.Random(5000 + number))[0]


def _unlike() -> Document:
    """Three rows of unlike packs: age, temperature, cells and measured ohms differ."""
    bike = safe_bike()
    first = bike["bank"]["rows"][0]["units"][0]
    old = {**first, "age": "worn", "capacity_ah": {"value": 5, "basis": "measured"}, "resistance_ohm": {"value": 0.2, "basis": "measured"}, "temp_c": 5.0}
    cold = {**first, "capacity_ah": {"value": 4, "basis": "nameplate"}, "resting_v": {"value": 38.5, "basis": "measured"}, "board": False}
    row = {**bike["bank"]["rows"][0], "fuse": {"rating_a": 30, "dc_volts_v": 58}, "lead": {"awg": 10, "length_m": {"value": 0.2, "basis": "measured"}}}
    bike["bank"]["rows"] = [{**row, "units": [one]} for one in (first, old, cold)]
    return bike


def _uneven() -> Document:
    """Rows of one and of two packs in bays that may be left empty: tape holds them, one charger fills them as a string, one pack says nothing of its amps."""
    bike = safe_bike()
    first = bike["bank"]["rows"][0]["units"][0]
    half = {**first, "cells_in_series": 5, "capacity_ah": {"value": 3, "basis": "nameplate"}}
    silent = {key: value for key, value in half.items() if key not in ("continuous_a", "peak_10s_a")} | {"board": False, "mass_kg": {"value": 0.4, "basis": "measured"}}
    row = {"fuse": {"rating_a": 30, "dc_volts_v": 58}, "lead": {"awg": 10, "length_m": {"value": 0.2, "basis": "measured"}}}
    bike["bank"] = {
        "rows": [{**row, "units": [{**first, "mass_kg": {"value": 3.1, "basis": "measured"}}]}, {**row, "units": [half, silent], "link": row["lead"]}],
        "occupancy": "any",
        "holding": {"by": ["tape"], "cushioned": True},
    }
    bike["chargers"] = [{"label": "one for all", "end_v": {"value": 42, "basis": "nameplate"}, "amps_a": {"value": 2, "basis": "nameplate"}, "per": "bank"}]
    return bike


def _plans(document: Document, stock: Document) -> Recorded:
    setup, found = load_setup(document), load_setup(stock)
    around = Context(baseline=found)
    packs = [row.units[0] for row in setup.bank.rows] if setup.bank else []
    rack = [Racked(kind="packs", part=one, quantity=2) for one in packs] + [
        Racked(kind="packs", part=one.model_copy(update={"damage": ["wet"]}), quantity=1) for one in packs[:1]
    ]
    ways: dict[str, Callable[[], Any]] = {
        "evaluation": lambda: evaluate(setup, around),
        "power": lambda: power_plan(setup, around),
        "protect": lambda: protect_plan(setup, around),
        "drive": lambda: drive_plan(setup, around),
        "changes": lambda: drive_changes(setup, around),
        "sprockets": lambda: drive_sprockets(setup, around),
        "goal": lambda: reach(setup, "speed", 5.0, around),
        "hookup": lambda: build_hookup(setup, found),
        "parts": lambda: parts_list(setup, found, rack),
        "charging": lambda: charge_plans(setup, setup.chargers),
        "trial": lambda: predict_trial(
            setup, knob=0.5, rest_v=0.95 * sum(unit.full_v for unit in setup.bank.rows[0].units) if setup.bank else None, surface="short grass", grade=0.02
        ),
        "fixes": lambda: fixes(setup, around),
        "compare": lambda: compare([("found", found, Context()), ("new", setup, around)]),
    }
    return {name: list(lines(way())) for name, way in ways.items()}


def folded(answer: dict[str, object]) -> Iterator[str]:
    """The figures of each part of an answer as their count, their sum and their sum weighted by place; its words as five letters."""
    for name, part in answer.items():
        text = "\n".join(line.partition(" ")[2] for line in lines(part))
        found = [float(one) for one in _SIGNED.findall(text)]
        yield f"{name} {_figure([*found, 0.0, 0.0, 0.0, 0.0])} {told(_SIGNED.sub('', text))}"


def _whole(document: Document, *, fold: bool = True) -> Recorded:
    answer = evaluate(load_setup(document)).model_dump(mode="json")
    return {"evaluation": list((folded if fold else lines)(answer)), "findings": list(findings(document))}


def _paths(value: object, way: tuple[str | int, ...] = ()) -> Iterator[tuple[str | int, ...]]:
    """Every place of a document, a figure counting as one."""
    for name, part in value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ():
        yield (*way, name)
        if not (isinstance(part, dict) and {"value", "basis"} <= part.keys()):
            yield from _paths(part, (*way, name))


def _odd(number: int) -> Document:
    """A sane machine of which a dozen figures are not known, or others than they were."""
    pick = random.Random(70000 + number)
    document = load_setup(_sane(number)).model_dump(mode="json")
    for *way, last in pick.sample(list(_paths(document)), 12):
        tried = copied(document)
        try:
            place: Any = tried
            for step in way:
                place = place[step]
            figure = place[last]
            if isinstance(figure, dict) and "basis" in figure and pick.random() < 0.6:
                figure["value"] *= pick.choice([0.3, 3.0, 1.3, 0.8])
            elif isinstance(figure, bool):
                place[last] = not figure
            else:
                place[last] = None
            document = load_setup(tried).model_dump(mode="json")
        except (ValidationError, GeckoError, LookupError, TypeError):
            # A figure nobody could enter, or one within a part that is gone: another one then.
            continue
    return document


def _pairs(most: int) -> dict[str, Document]:
    """Machines with two hazards at once."""
    pick, found = random.Random(16), dict[str, Document]()
    while len(found) < most:
        one, other = pick.sample(HAZARDS, 2)
        if one.machine != other.machine:
            continue
        try:
            document = entered(one, {**one.bad, **other.base, **other.bad})
            load_setup(document)
        except (ValidationError, LookupError, TypeError, AttributeError):
            continue
        found[f"{one.name} + {other.name}"] = document
    return found


def _mixed(number: int) -> Document:
    """A machine with many things at once that hazards or their safe twins put in: accessories, chargers, adapters, modes, regeneration, unlike rows."""
    pick = random.Random(160 + number)
    machine = pick.choice(("bike", "bike", "ride-on"))
    fitting = [one for one in HAZARDS if (one.machine == "bike") == (machine == "bike")]
    changes: Document = {}
    for one in pick.sample(fitting, min(14, len(fitting))):
        tried = {**changes, **one.base, **(one.bad if pick.random() < 0.5 else one.good)}
        try:
            load_setup(entered(one, tried))
        except (ValidationError, LookupError, TypeError, AttributeError):
            # Two that belong to other machines.
            continue
        changes = tried
    return entered(next(one for one in fitting if not one.base), changes)


@cache
def _walked() -> tuple[tuple[Document, Document], ...]:
    """Machines a random walk over the form comes by, each with the one the walk was at before."""
    steps = [one.model_dump(mode="json") for one in islice(Walk(16).documents(), 3000)]
    places = [n for n in range(40, 3000, 40) if Analysis(load_setup(steps[n])).machine is not None]
    return tuple((steps[n], steps[n - 40]) for n in places)


def _asked(document: Document) -> Iterator[str]:
    """The questions of the survey, with what was answered."""
    for one in survey(Analysis(load_setup(document))):
        yield f"{one.key} {one.gate} {one.answer} {one.good}"


def _at_walk(n: int) -> Recorded:
    document, before = _walked()[n]
    return {**_whole(document), "beside": list(findings(document, before)), "survey": list(_asked(document))}


Machines = dict[str, Callable[[], Recorded]]


@cache
def groups() -> dict[str, Machines]:
    """What is recorded, by the name of its file: how the answers of each machine are made."""
    made: dict[str, Machines] = {}
    for hazard in HAZARDS:
        both = partial(lambda one: {"bad": list(findings(entered(one, one.bad))), "good": list(findings(entered(one, one.good)))}, hazard)
        made.setdefault(f"hazards of {hazard.rule.split('.')[0]}", {})[hazard.name] = both
    made["pairs of hazards"] = {name: partial(lambda one: {"findings": list(findings(one))}, document) for name, document in _pairs(30).items()}
    made["mixed machines"] = {
        str(n): partial(lambda n: {**_whole(_mixed(n)), "beside": list(findings(_mixed(n), safe_bike() if n % 2 else safe_ride_on()))}, n) for n in range(60)
    }
    made["sane machines"] = {str(n): partial(lambda n: _whole(_sane(n)), n) for n in range(24)}
    made["unsafe machines"] = {str(n): partial(lambda n: _whole(_unsafe(n)), n) for n in range(40)}
    made["odd machines"] = {str(n): partial(lambda n: _whole(_odd(n)), n) for n in range(40)}
    made["walked machines"] = {str(n): partial(_at_walk, n) for n in range(len(_walked()))}
    made["line by line"] = {
        "bike": lambda: _whole(safe_bike(), fold=False),
        "ride-on": lambda: _whole(safe_ride_on(), fold=False),
        "unlike rows": lambda: _whole(_unlike(), fold=False),
        "uneven rows": lambda: _whole(_uneven(), fold=False),
        "unsafe": lambda: _whole(_unsafe(2), fold=False),
    }
    made["plans"] = {
        "bike": lambda: _plans(safe_bike(), safe_bike()),
        "ride-on": lambda: _plans(safe_ride_on(), safe_ride_on()),
        "unlike rows": lambda: _plans(_unlike(), safe_bike()),
        "unsafe": lambda: _plans(_unsafe(2), _sane(2)),
    }
    return made


def recorded(name: str) -> dict[str, Recorded]:
    """What was recorded under a name."""
    kept: dict[str, Recorded] = json.loads((FOLDER / f"{name}.json").read_text(encoding="utf-8"))
    return kept


def main() -> None:
    """Record everything anew."""
    FOLDER.mkdir(exist_ok=True)
    for old in set(FOLDER.glob("*.json")) - {FOLDER / f"{name}.json" for name in groups()}:
        old.unlink()
    for name, machines in groups().items():
        (FOLDER / f"{name}.json").write_text(json.dumps({machine: work() for machine, work in machines.items()}, indent=0) + "\n", encoding="utf-8")


if __name__ == "__main__":
    main()
