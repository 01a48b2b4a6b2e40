"""Joining two people's changes: by hand-made cases, and by random changes put in one after the other."""

from __future__ import annotations

import random
from copy import deepcopy
from typing import Any
from unittest import TestCase

from gecko.document.merging import Clash, joined
from gecko.document.setup import load_setup
from gecko.tests.machines import named, safe_bike

Change = tuple[str, Any]


def doc(**changes: Any) -> dict[str, Any]:
    return load_setup(safe_bike(**changes)).model_dump(mode="json")


def leaves(value: Any, way: str = "") -> list[str]:
    """Paths of the document's fields, as somebody reads it who knows nothing of joining: figures whole, lists not entered."""
    if isinstance(value, dict) and "basis" not in value:
        return [path for key, inner in value.items() for path in leaves(inner, f"{way}/{key}")]
    return [way]


def put(document: dict[str, Any], path: str, value: Any) -> None:
    *way, last = path.strip("/").split("/")
    place: Any = document
    for step in way:
        place = place[step]
    place[last] = value


class OneAfterTheOther(TestCase):
    def test_changes_of_different_fields_come_out_as_if_one_had_waited(self) -> None:
        base = doc()
        paths = leaves(base)
        pick = random.Random(14)
        for _ in range(200):
            chosen = pick.sample(paths, pick.randint(2, 12))
            cut = pick.randint(1, len(chosen) - 1)
            mine, theirs, both = deepcopy(base), deepcopy(base), deepcopy(base)
            for place, path in enumerate(chosen):
                value = pick.choice([None, 7, "x", {"value": pick.random(), "basis": "measured", "spread": None}])
                put(mine if place < cut else theirs, path, value)
                put(both, path, value)
            found = joined(base, mine, theirs)
            self.assertEqual((found.document, found.asked), (both, ()))

    def test_one_side_alone_is_that_side_and_the_same_change_is_made_once(self) -> None:
        base, mine = doc(), doc(main_fuse__rating_a=25, plugs=[{"kind": "two-pole 90"}, {"kind": "bullet 4"}], cut_off=None)
        for sides in ((base, mine, base), (base, base, mine), (base, mine, mine)):
            self.assertEqual(joined(*sides).document, mine)

    def test_the_same_field_in_two_ways_is_asked_and_an_answer_settles_it(self) -> None:
        """What was seen with its basis is one field: 25 A read off a fuse is not joined with somebody's guess."""
        base = doc()
        mine, theirs = doc(guard__volts_v=named(32), main_fuse__rating_a=25), doc(guard__volts_v={"value": 33, "basis": "assumed"}, main_fuse__rating_a=25)
        found = joined(base, mine, theirs)
        self.assertEqual(found.asked, (Clash("/guard/volts_v", mine["guard"]["volts_v"], theirs["guard"]["volts_v"]),))
        self.assertEqual(found.document["guard"]["volts_v"], mine["guard"]["volts_v"])
        for side, document in (("mine", mine), ("theirs", theirs)):
            settled = joined(base, mine, theirs, {"/guard/volts_v": side})  # type: ignore[dict-item]
            self.assertEqual((settled.asked, settled.document["guard"]["volts_v"]), ((), document["guard"]["volts_v"]))
            self.assertEqual(joined(base, mine, theirs, {"": side}).document, document)  # type: ignore[dict-item]

    def test_a_part_taken_out_on_one_side_and_changed_on_the_other_is_asked(self) -> None:
        base, mine, theirs = doc(), doc(guard=None), doc(guard__volts_v=named(33))
        self.assertEqual([clash.path for clash in joined(base, mine, theirs).asked], ["/guard"])

    def test_two_who_saw_the_same_have_seen_it_once(self) -> None:
        seen = {"answer": "yes", "by": "ada", "when": "2026-01-01T10:00"}
        base, mine, theirs = doc(), {**doc(), "looks": {"held": {**seen, "by": ""}}}, {**doc(), "looks": {"held": seen}}
        self.assertEqual(joined(base, mine, theirs).document["looks"], {"held": seen})
        theirs["looks"] = {"held": {**seen, "answer": "no"}}
        self.assertEqual([clash.path for clash in joined(base, mine, theirs).asked], ["/looks/held"])


class Lists(TestCase):
    def of(self, base: list[Any], mine: list[Any], theirs: list[Any], **answers: Any) -> tuple[list[Any], list[str]]:
        found = joined({"l": base}, {"l": mine}, {"l": theirs}, answers.get("answers"))
        return found.document["l"], [clash.path for clash in found.asked]

    def test_both_insertions_are_kept_and_the_same_one_once(self) -> None:
        a, b, x, y = ({"kind": k} for k in "abxy")
        self.assertEqual(self.of([a, b], [a, x, b], [a, y, b]), ([a, y, x, b], []))
        self.assertEqual(self.of([a, b], [a, b, x], [a, b, x]), ([a, b, x], []))
        self.assertEqual(self.of([], [x], [x, y]), ([x, y], []))
        self.assertEqual(self.of([a, b], [x, b], [a, b, y]), ([x, b, y], []))

    def test_what_one_took_out_stays_out_where_the_other_left_it(self) -> None:
        a, b, c = ({"kind": k} for k in "abc")
        self.assertEqual(self.of([a, b, c], [a, c], [a, b, c]), ([a, c], []))
        self.assertEqual(self.of([a, b, c], [b, c], [a, b]), ([b], []))

    def test_items_are_told_apart_by_their_labels_whatever_their_order(self) -> None:
        one, two = {"label": "lamp", "amps": 1}, {"label": "horn", "amps": 2}
        moved, louder = [two, one], [one, {**two, "amps": 3}]
        self.assertEqual(self.of([one, two], moved, louder), ([one, {**two, "amps": 3}], []))

    def test_two_changes_of_one_item_are_joined_within_it(self) -> None:
        pack: dict[str, Any] = {"label": "A", "charge": 1, "age": None, "capacity": 4}
        mine, theirs = {**pack, "charge": 0.5}, {**pack, "age": "worn"}
        self.assertEqual(self.of([pack], [mine], [theirs]), ([{**pack, "charge": 0.5, "age": "worn"}], []))
        self.assertEqual(self.of([pack], [{**mine, "age": "new"}], [theirs])[1], ["/l/0/age"])

    def test_taken_out_here_and_changed_there_is_asked_and_kept_meanwhile(self) -> None:
        a, b = {"label": "a", "n": 1}, {"label": "b", "n": 1}
        self.assertEqual(self.of([a, b], [a], [a, {**b, "n": 2}]), ([a, {**b, "n": 2}], ["/l/1"]))
        self.assertEqual(self.of([a, b], [a], [a, {**b, "n": 2}], answers={"/l/1": "mine"}), ([a], []))
        self.assertEqual(self.of([a, b], [a], [a, {**b, "n": 2}], answers={"/l/1": "theirs"}), ([a, {**b, "n": 2}], []))

    def test_marks_chosen_on_either_side_are_both_chosen(self) -> None:
        self.assertEqual(self.of(["strap"], ["strap", "tray"], ["bracket", "strap"]), (["bracket", "strap", "tray"], []))
        self.assertEqual(self.of(["strap", "tray"], ["strap"], ["tray"]), ([], []))

    def test_answers_find_their_items_again(self) -> None:
        """The place an item has in the joined list names it, also after one before it was taken out."""
        items = [{"label": name, "n": 0} for name in "abcd"]
        mine = [{**item, "n": 1} for item in items[1:]]
        theirs = [{**item, "n": 2} for item in items]
        document, asked = self.of(items, mine, theirs)
        # a is taken out here and changed there: it is kept while nobody has said.
        self.assertEqual(asked, ["/l/0", "/l/1/n", "/l/2/n", "/l/3/n"])
        self.assertEqual([item["n"] for item in document], [2, 1, 1, 1])
        settled, left = self.of(items, mine, theirs, answers=dict.fromkeys(asked, "theirs"))
        self.assertEqual((settled, left), (theirs, []))
        settled, left = self.of(items, mine, theirs, answers={"/l/0": "mine", "/l/1/n": "theirs", "/l/2/n": "mine", "/l/3/n": "theirs"})
        self.assertEqual(([(item["label"], item["n"]) for item in settled], left), ([("b", 2), ("c", 1), ("d", 2)], []))
