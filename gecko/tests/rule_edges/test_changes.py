"""What the changes that rules offer put in, and where rules compare to the last digit: each value by hand."""

from __future__ import annotations

from typing import Any

import numpy as np

from gecko.analysis.whole import Analysis
from gecko.document.setup import Setup, load_setup
from gecko.plans.trials.prediction import charge_from_volts
from gecko.rules.margins import Margin
from gecko.rules.registry import run_checks, still_found
from gecko.rules.together import knob_module, module_limit_a
from gecko.tests.machines import bike, named, ride_on
from gecko.tests.rule_edges.edges import Edges


class Changes(Edges):
    def changed(self, setup: Setup, rule_id: str) -> list[tuple[str, Setup]]:
        """What each change offered for a rule's only finding is called, and the setup it makes."""
        (found,) = [one for one in run_checks(Analysis(setup)) if one.finding.id == rule_id]
        made = []
        for edit in found.edits:
            document = setup.model_dump(mode="json")
            edit.change(document)
            made.append((edit.label, load_setup(document)))
        return made

    def test_a_seal_that_was_looked_at_is_closed(self) -> None:
        ((_, after),) = self.changed(bike(openings=[{"label": "Lid", "kind": "seal"}]), "seal.water")
        self.assertTrue(after.openings[0].closed)

    def test_of_jobs_nobody_does_the_first_two_are_offered(self) -> None:
        stock = {"volts_v": named(36), "also_did": ["gauge", "rear light", "horn"]}
        self.assertEqual([after.does_now for _, after in self.changed(bike(stock=stock), "ctl.lost")], [["gauge"], ["rear light"]])

    def test_a_small_accessory_gets_a_small_fuse(self) -> None:
        """Half as much again, rounded up to what is sold: 1.5 A to the smallest of 5 A, 6 A to 7.5 A, 12 A to 15 A."""
        for amps_a, rating_a in ((1.0, 5.0), (4.0, 7.5), (8.0, 15.0)):
            branch = {"label": "lamp", "amps_a": named(amps_a), "taps": "at the packs"}
            (label, after), *_ = [one for one in self.changed(ride_on(auxiliaries=[branch]), "wire.mixed") if "of its own" in one[0]]
            fuse = after.auxiliaries[0].fuse
            assert fuse is not None
            self.assertEqual((label, fuse.rating_a), (f"A {rating_a:g} A fuse of its own", rating_a))

    def test_an_adapter_gets_leads_of_ten_awg(self) -> None:
        thin = {"kind": "adapter", "polarity_rechecked": True, "electronics": "none", "lead": {"awg": 18, "length_m": named(0.1), "bundle_conductors": 8}}
        (_, after), *_ = self.changed(bike(bank__rows__0__units__0__adapter=thin), "pack.adapter")
        assert after.bank is not None
        fitted = after.bank.rows[0].units[0].adapter
        assert fitted is not None
        assert fitted.lead is not None
        self.assertEqual(fitted.lead.awg, 10)

    def packs(self, cells: int, peak_a: float) -> Analysis:
        unit = {"label": "p", "cells_in_series": cells, "capacity_ah": named(6), "continuous_a": named(20), "peak_10s_a": named(peak_a), "guard_in_tool": True}
        return Analysis(ride_on(bank__rows=[{"units": [unit]}]))

    def test_a_module_asks_packs_for_four_fifths_of_their_ten_seconds(self) -> None:
        """Of 30 A four fifths are 24 A, for which the 20 A module is the largest; of 38 A they are 30.4 A, for the one of 30 A."""
        limits = [module_limit_a(self.packs(5, peak)) for peak in (30.0, 38.0)]
        self.assertEqual(limits, [20.0, 30.0])

    def test_a_module_is_bought_for_the_volts_of_the_packs(self) -> None:
        """Seven cells: 25.2 V nominal, 29.4 V full; a fifth more rounded up to fives are 40 V; six tenths of the nominal ones 15.1 V."""
        a = self.packs(7, 60.0)
        document: dict[str, Any] = a.setup.model_dump(mode="json")
        knob_module(a).change(document)
        put_in = load_setup(document).controller
        assert put_in is not None
        figures = (put_in.nominal_v, put_in.max_v, put_in.undervoltage_v, put_in.ramp_s)
        self.assertEqual([None if one is None else one.value for one in figures], [25.2, 40.0, 15.1, 1.0])
        assert put_in.battery_limit_a is not None
        assert put_in.phase_limit_a is not None
        self.assertAlmostEqual(put_in.phase_limit_a.value, 1.3 * put_in.battery_limit_a.value)


class ToTheLastDigit(Edges):
    def test_a_home_pack_may_trip_at_just_what_the_ride_asks(self) -> None:
        home = {"label": "home", "cells_in_series": 10, "capacity_ah": named(2)}
        asked = Analysis(bike()).rms_a
        for trips, stops in ((asked, 0), (asked * 0.999, 1)):
            found = self.found(bike(bank__home_pack={**home, "trip_a": named(trips), "guard_in_tool": False}), "pack.slots")
            self.assertEqual(len(found), stops, trips)

    def test_an_adapter_may_stand_just_what_its_row_is_asked_for(self) -> None:
        fitted = {"kind": "adapter", "polarity_rechecked": True, "electronics": "none"}
        asked = Analysis(bike(bank__rows__0__units__0__adapter=fitted)).row_worst[0][0]
        for rating, cautions in ((asked, 0), (asked * 0.999, 1)):
            found = self.found(bike(bank__rows__0__units__0__adapter={**fitted, "rating_a": named(rating)}), "pack.adapter")
            self.assertEqual(len(found), cautions, rating)

    def test_beyond_asks_all_samples(self) -> None:
        self.assertFalse(Margin(asked=np.array([1.0, 3.0]), stands=1.0).beyond(2.0))
        self.assertTrue(Margin(asked=np.array([2.5, 3.0]), stands=1.0).beyond(2.0))

    def test_a_finding_that_is_there_is_still_found(self) -> None:
        seal = bike(openings=[{"label": "Lid", "kind": "seal"}])
        said = self.one(seal, "seal.water", "note")
        self.assertIs(still_found(Analysis(seal), said), True)
        self.assertIs(still_found(Analysis(bike()), said), False)

    def test_what_it_starts_on_is_told_however_little_it_is(self) -> None:
        """A knob nearly shut on a steep yard: it moves on a few percent, and the sentence says on how many."""
        held = bike(ground={"surface": "paving", "grade": 0.2}, throttle__limiter_mark=0.12)
        because = self.one(held, "motor.moves", "stop").because
        self.assertRegex(because, r"; it starts on up to \d+ %\.")

    def test_no_volts_are_more_than_full(self) -> None:
        machine = Analysis(bike()).machine
        assert machine is not None
        self.assertEqual(charge_from_volts(machine, 60.0), 1.0)

    def test_modes_of_which_none_is_in_use_are_left_alone(self) -> None:
        modes = [{"name": "low", "duty": 0.5, "current": 0.5}, {"name": "high", "duty": 1.0, "current": 1.0}]
        a = Analysis(bike(controller__modes=modes))
        self.assertEqual((a.strongest[0] is a, a.strongest[1]), (True, ""))
