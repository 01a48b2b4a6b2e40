"""Parts of one's own by hand: what a mishap means, which slots hold which part, what follows when it is changed, and what plans hear of it."""

from __future__ import annotations

from datetime import date
from typing import Any, get_args
from unittest import TestCase

from gecko.analysis.whole import Analysis
from gecko.answers.evaluation import Finding
from gecko.document.context import Context
from gecko.document.parts.held import OnRack
from gecko.document.parts.pack import Pack, another, as_kind
from gecko.document.rack.about import About, Happened, Mishap, RackFact, concerning, fact, meanings, verdict
from gecko.document.rack.kinds import ONE_BY_ONE, RACK_KINDS
from gecko.document.rack.slots import as_slot, followed, keys_of, numbered, slots
from gecko.document.setup import load_setup
from gecko.plans.arrangements import Shelf, offers, typical_setup
from gecko.plans.evaluate import evaluate
from gecko.rules.registry import run_checks
from gecko.tests.machines import bike, named

PACK: dict[str, Any] = {"label": "Garden pack", "cells_in_series": 7, "capacity_ah": named(4.0)}


def about(*what: str, **more: Any) -> About:
    return About(happened=[Happened.model_validate({"what": one}) for one in what], **more)


def told(key: str, letter: str = "A", kind: str = "packs", **more: Any) -> RackFact:
    return RackFact(key=key, kind=kind, label="Garden pack", letter=letter, about=About.model_validate(more))


def on_rack(key: str, letter: str = "A", **more: Any) -> dict[str, Any]:
    return {"key": key, "label": "Garden pack", "letter": letter, **more}


class Verdicts(TestCase):
    def test_every_mishap_means_something_for_a_pack_and_for_the_rest(self) -> None:
        for kind in ("packs", "motors"):
            self.assertEqual(set(meanings(kind)), set(get_args(Mishap)))

    def test_what_brings_a_pack_back_and_what_never_does(self) -> None:
        """Only a drop and an opening can be looked at and cleared; water, swelling and warmth end a pack."""
        back = {what for what in get_args(Mishap) if not verdict("packs", About(happened=[Happened(what=what, cleared=True)])).out}
        self.assertEqual(back, {"dropped", "opened"})
        self.assertTrue(all(verdict("packs", about(what)).out for what in get_args(Mishap)))
        self.assertTrue(all(verdict("motors", about(what)).out for what in get_args(Mishap)))
        self.assertFalse(any(verdict("motors", About(happened=[Happened(what=what, cleared=True)])).out for what in get_args(Mishap)))

    def test_dropped_and_warm_is_out_for_good(self) -> None:
        both = About(happened=[Happened(what="dropped", cleared=True), Happened(what="warm", cleared=True)])
        self.assertEqual((verdict("packs", both).out, verdict("packs", both).clears), (True, ""))

    def test_the_worst_is_told_first(self) -> None:
        found = verdict("packs", about("dropped", "swollen"))
        self.assertEqual((found.title, found.because, found.clears), ("was dropped and is swollen", meanings("packs")["swollen"].may, ""))

    def test_retired_and_sound(self) -> None:
        self.assertTrue(verdict("chargers", About(state="retired")).out)
        for state in ("fine", "worn", "unknown"):
            self.assertFalse(verdict("packs", About.model_validate({"state": state})).out)


class Facts(TestCase):
    def test_a_plan_hears_nothing_of_prices_and_notes(self) -> None:
        plain = About.model_validate(
            {"state": "worn", "price": {"amount": 62, "currency": "EUR"}, "bought": "2025-04-02", "notes": "blue", "had": "discontinued", "seen": "market"}
        )
        self.assertIsNone(plain.for_plans)
        self.assertIsNone(fact(key="k", kind="packs", label="p", letter="A", about=plain))

    def test_a_plan_hears_of_the_rest(self) -> None:
        for more in ({"state": "retired"}, {"happened": [{"what": "wet"}]}, {"status": "ordered"}, {"expected": "2026-12-03"}, {"whose": "Mum"}, {"partner": "k2"}):
            self.assertIsNotNone(About.model_validate(more).for_plans, more)

    def test_only_what_concerns_some_parts_and_their_partners(self) -> None:
        known = [told("c", status="ordered"), told("a", partner="b"), told("b", partner="a"), told("d", state="retired")]
        self.assertEqual([one.key for one in concerning(known, frozenset({"a"}))], ["a", "b"])
        self.assertEqual([one.key for one in concerning(known, frozenset({"d", "c", "x"}))], ["c", "d"])
        self.assertEqual(concerning(known, frozenset()), ())

    def test_two_racks_are_two_contexts(self) -> None:
        self.assertNotEqual(Context(rack=(told("a", status="ordered"),)).words, Context().words)
        self.assertNotEqual(Context(rack=(told("a", status="ordered"),)).words, Context(rack=(told("a", status="borrowed"),)).words)


class Slots(TestCase):
    def test_every_slot_that_holds_a_part(self) -> None:
        setup = bike(
            bank__rows=[{"units": [{**PACK, "rack": on_rack("p1")}, PACK]}],
            motor__rack=on_rack("m"),
            controller__rack=on_rack("c"),
            main_fuse__rack=on_rack("f"),
            wheel__rack=on_rack("w"),
        )
        self.assertEqual(
            {path: one.key for path, _, one in slots(setup)},
            {"/bank/rows/0/units/0": "p1", "/motor": "m", "/controller": "c", "/main_fuse": "f", "/wheel": "w"},
        )
        self.assertEqual(keys_of(setup.model_dump(mode="json")), {"p1", "m", "c", "f", "w"})
        self.assertEqual(keys_of({"vehicle": {"rack": "a roof rack"}, "x": [{"rack": {"key": 3}}]}), frozenset())

    def test_a_part_as_a_slot_keeps_it(self) -> None:
        named_by = OnRack(key="k", label="Garden pack", letter="D")
        self.assertEqual(as_slot("packs", PACK, named_by, About(state="worn")), {**PACK, "age": "worn", "rack": on_rack("k", "D")})
        self.assertEqual(as_slot("packs", {**PACK, "age": "used"}, named_by, About(state="worn"))["age"], "used")
        self.assertNotIn("age", as_slot("packs", PACK, named_by, About(state="fine")))
        reel = {"awg": 12, "metres": 4.0}
        self.assertEqual(as_slot("wires", reel, named_by, About()), reel)

    def test_another_one_is_another_one(self) -> None:
        """One more of its kind off the shelf is not the pack with that sticker; and which pack it is changes no figure."""
        mine = Pack.model_validate({**PACK, "rack": on_rack("k")})
        self.assertIsNone(another(mine).rack)
        self.assertEqual(as_kind(mine), as_kind(Pack.model_validate(PACK)))
        here, there = (bike(bank__rows=[{"units": [{"cells_in_series": 10, "label": "p", "capacity_ah": named(6.0), **more}]}]) for more in ({}, {"rack": on_rack("k")}))
        self.assertEqual(evaluate(here).outcome, evaluate(there).outcome)

    def test_what_was_changed_on_the_rack_follows_and_what_is_the_slots_own_stays(self) -> None:
        before, after = (
            {"capacity_ah": 4.0, "continuous_a": 13, "resting_v": None, "rack": None},
            {"capacity_ah": 3.2, "continuous_a": 13, "resting_v": 28.0, "rack": None},
        )
        slot = {"capacity_ah": 4.0, "continuous_a": 10, "resting_v": 27.1, "rack": on_rack("k")}
        self.assertEqual(followed(slot, before, after), {**slot, "capacity_ah": 3.2})
        # This setup had it otherwise already: that was somebody's decision.
        self.assertEqual(followed({**slot, "capacity_ah": 3.5}, before, after)["capacity_ah"], 3.5)

    def test_packs_of_an_arrangement_get_their_names_in_order(self) -> None:
        pack = Pack.model_validate(PACK)
        dump = pack.model_dump(mode="json")
        document = {"bank": {"rows": [{"units": [dict(dump), dict(dump)]}, {"units": [dict(dump)]}]}}
        names = [OnRack(key="k1", letter="A"), OnRack(key="k2", letter="B")]
        found = numbered(document, [(pack, names)])
        self.assertEqual([(u["rack"] or {}).get("key") for row in found["bank"]["rows"] for u in row["units"]], ["k1", "k2", None])

    def test_every_kind_on_the_rack_is_one_by_one_or_counted(self) -> None:
        self.assertLessEqual(set(ONE_BY_ONE), set(RACK_KINDS))


class InPlans(TestCase):
    def findings(self, *known: RackFact, **slot: Any) -> list[Finding]:
        setup = bike(bank__rows__0__units__0__rack=on_rack("k", "D", **slot))
        return [found.finding for found in run_checks(Analysis(setup, Context(rack=known))) if found.finding.id.startswith("rack.")]

    def test_a_wet_pack_stops_the_plan_with_why_and_what_to_do(self) -> None:
        (one,) = self.findings(told("k", "D", happened=[{"what": "wet"}]))
        self.assertEqual((one.severity, one.gate, one.title, one.station), ("stop", "plan", "Garden pack D got wet", "packs"))
        self.assertIn("battery collection point", one.instruction)
        self.assertNotIn("back in", one.instruction)

    def test_what_brings_it_back_is_said_where_something_does(self) -> None:
        (one,) = self.findings(told("k", "D", happened=[{"what": "dropped"}]))
        self.assertIn("It is back in when this was seen, and noted on the rack: It stayed cold for a day", one.instruction)

    def test_what_its_own_copy_says_is_told_once(self) -> None:
        setup = bike(bank__rows__0__units__0__rack=on_rack("k"), bank__rows__0__units__0__damage=["wet"])
        found = [f.finding.id for f in run_checks(Analysis(setup, Context(rack=(told("k", happened=[{"what": "wet"}]),))))]
        self.assertIn("pack.damage", found)
        self.assertNotIn("rack.out", found)

    def test_a_part_that_is_on_no_rack_any_more_says_nothing(self) -> None:
        self.assertEqual(self.findings(), [])
        self.assertEqual(self.findings(told("other", happened=[{"what": "wet"}])), [])

    def test_ordered_borrowed_and_tied_on(self) -> None:
        (ordered,) = self.findings(told("k", status="ordered", expected="2026-12-03"))
        self.assertEqual((ordered.severity, ordered.because), ("note", "It is ordered, expected on 3 December 2026."))
        (wanted,) = self.findings(told("k", status="wanted"))
        self.assertEqual(wanted.because, "It is only wished for so far.")
        (lent,) = self.findings(told("k", status="borrowed", whose="a neighbour", expected=date(2026, 12, 24)))
        self.assertEqual(lent.because, "It is borrowed from a neighbour, until 24 December 2026.")
        (tied,) = self.findings(temporary=True)
        self.assertEqual((tied.severity, tied.title), ("caution", "Garden pack D is tied on for one try"))

    def test_a_try_that_was_ridden_is_over(self) -> None:
        setup = bike(motor__rack=on_rack("k", temporary=True), controller__rack=on_rack("c", temporary=True))
        found = {one.finding.path: one.finding for one in run_checks(Analysis(setup, Context(tried=("k",)))) if one.finding.id == "rack.temporary"}
        self.assertEqual({path: (one.severity, one.gate) for path, one in found.items()}, {"/motor": ("stop", "ride"), "/controller": ("caution", None)})
        self.assertNotEqual(Context(tried=("k",)).words, Context().words)

    def test_a_hurt_partner_is_not_asked_for(self) -> None:
        alone = told("k", "D", partner="c")
        self.assertEqual([one.id for one in self.findings(alone, told("c", "C", partner="k"))], ["rack.pair"])
        self.assertEqual(self.findings(alone, told("c", "C", partner="k", happened=[{"what": "swollen"}])), [])

    def test_each_slot_belongs_to_its_station(self) -> None:
        for slot, station in (("motor", "motors"), ("controller", "controller"), ("main_fuse", "leads"), ("wheel", "wheels"), ("drivetrain", "gearing")):
            setup = bike(**{f"{slot}__rack": on_rack("k")})
            known = Context(rack=(told("k", kind="motors", state="retired"),))
            (one,) = [f.finding for f in run_checks(Analysis(setup, known)) if f.finding.id == "rack.out"]
            self.assertEqual((one.station, one.path, one.key), (station, f"/{slot}", f"rack.out@{slot}"))

    def test_offers_take_the_packs_of_the_rack_and_hear_what_happened_to_them(self) -> None:
        pack = Pack.model_validate({**PACK, "continuous_a": named(20), "peak_10s_a": named(40)})
        names = (OnRack(key="k1", label="Garden pack", letter="A"), OnRack(key="k2", label="Garden pack", letter="B"))
        car = load_setup(typical_setup("ride-on car", 24.0))
        for known, stopped in (((), False), ((told("k2", "B", happened=[{"what": "swollen"}]),), True)):
            found = next(o for o in offers(car, [Shelf(pack, 2, names)], rack=known) if o.rows == 2)
            self.assertEqual([u["rack"]["key"] for row in found.setup["bank"]["rows"] for u in row["units"]], ["k1", "k2"])
            self.assertEqual("Garden pack B is swollen" in found.stops, stopped)
