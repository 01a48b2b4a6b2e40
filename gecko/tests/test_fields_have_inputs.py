"""Every field of a setup can be entered on a screen: what the planner counts with, and what it advises to measure, must have a place to type it."""

from __future__ import annotations

import re
from collections.abc import Iterator
from pathlib import Path
from typing import Any, get_args
from unittest import TestCase

from pydantic import BaseModel

import gecko
from gecko.common.figures import Figure
from gecko.document.setup import Setup
from gecko.machine.resolve import resolve
from gecko.tests.machines import bike, ride_on

PAGE = Path(gecko.__file__).resolve().parents[1] / "web" / "src"

ENTERED_OTHERWISE = {
    "version": "told by the program",
    "rack/letter": "comes with the part that is chosen from the rack",
    "looks/answer": "by the buttons of its question",
    "looks/by": "whoever is signed in",
    "looks/when": "the clock",
    "bank/holding/by": "ticked in the list of what holds the packs",
    "controller/firmware/changed": "ticked in the small wires",
    "course/segments/coast": "chosen as the pace of a stretch",
    "controls/reverse": "ticked in the list of small wires",
    "controls/speed_switch": "ticked in the list of small wires",
    "controls/indicator": "ticked in the list of small wires",
    "controls/charge_socket": "ticked in the list of small wires",
    "plug_pairs/controller/function": "one of the functions of its place",
    "plug_pairs/part/function": "one of the functions of its place",
    "plug_pairs/part_family": "the part's half of a plug, by the same fields as the controller's",
    "plug_pairs/part_generation": "the part's half of a plug, by the same fields as the controller's",
    "plug_pairs/part_gender": "the part's half of a plug, by the same fields as the controller's",
    "order_trials/phases": "kept when an order is tried on the bench",
    "order_trials/halls": "kept when an order is tried on the bench",
    "order_trials/outcome": "kept when an order is tried on the bench",
}


def models(kind: Any) -> Iterator[type[BaseModel]]:
    if isinstance(kind, type) and issubclass(kind, BaseModel) and kind is not Figure:
        yield kind
    for part in get_args(kind):
        yield from models(part)


def leaves(model: type[BaseModel], at: str = "", inside: frozenset[type[BaseModel]] = frozenset()) -> Iterator[str]:
    """Places of all fields that hold no other part, each part once."""
    for name, field in model.model_fields.items():
        parts = [part for part in models(field.annotation) if part not in inside]
        place = f"{at}/{name}" if at else name
        if not list(models(field.annotation)):
            yield place
        for part in parts:
            yield from leaves(part, place, inside | {part})


def entered() -> set[str]:
    """Names of the fields the page's pointers end with, and of those the survey's questions answer."""
    # A field's words and the files a screen is made of say nothing of where it is entered, and tests enter nothing.
    pages = [path for path in PAGE.rglob("*.tsx") if ".test." not in path.name and not {"testing", "texts"} & set(path.parts)]
    text = re.sub(r'from "[^"]*"', "", " ".join(path.read_text(encoding="utf-8") for path in pages))
    found = set(re.findall(r"""["`][^"`\n]*?[/}]([a-z0-9_]+)["`]""", text))
    asked = (Path(gecko.__file__).parent / "rules" / "looks.py").read_text(encoding="utf-8")
    return found | set(re.findall(r"""/([a-z_]+)["`]""", asked))


class Inputs(TestCase):
    def test_every_field_has_its_input(self) -> None:
        known = entered()
        without = {place for place in leaves(Setup) if place.rsplit("/", 1)[-1] not in known}
        short = {place for place in without if not any(place.endswith(listed) for listed in ENTERED_OTHERWISE)}
        self.assertEqual(short, set())
        # What has an input by now leaves the list.
        self.assertEqual([listed for listed in ENTERED_OTHERWISE if not any(place.endswith(listed) for place in without)], [])

    def test_advice_points_at_what_can_be_entered(self) -> None:
        """What may be named as what widens a range, with how to measure it, is a figure of the setup somebody can type."""
        known = entered()
        for setup in (bike(), bike(motor__no_load_rpm=None), ride_on(), bike(controller__kind="knob module")):
            found = resolve(setup, samples=True)
            self.assertEqual([place for place in (*found.figures, *found.drawn) if place.rsplit("/", 1)[-1] not in known], [])
