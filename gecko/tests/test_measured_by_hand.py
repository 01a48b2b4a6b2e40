"""What is measured at the bench and reckoned from it, at its edges, each value by hand."""

from __future__ import annotations

from unittest import TestCase

from gecko.analysis.chances import chance
from gecko.analysis.measure import capacity_ah, resistance_ohm
from gecko.analysis.precharge import precharge
from gecko.analysis.voltmeter import set_points
from gecko.analysis.whole import Analysis
from gecko.document.parts.controller import Controller
from gecko.document.parts.pack import Pack
from gecko.plans.trials.prediction import Conditions, Prediction, predict_trial, predict_trials
from gecko.plans.trials.reduction import Reduced
from gecko.plans.trials.verdict import judge_run
from gecko.tests.machines import bike, named

PACK = Pack.model_validate({"label": "p", "cells_in_series": 10, "capacity_ah": named(6), "age": "new"})


class Readings(TestCase):
    def test_a_small_load_says_little_from_a_twentieth_on(self) -> None:
        """Two readings of a meter good to a hundredth of a volt: over a fall of 0.25 V that is 5.7 %, over one of 0.3 V 4.7 %."""
        self.assertIn("bigger load", resistance_ohm(PACK, 40.0, 39.75, 5.0, 25.0).doubt)
        self.assertEqual(resistance_ohm(PACK, 40.0, 39.7, 5.0, 25.0).doubt, "")

    def test_less_than_an_amp_and_less_than_a_second_are_readings_too(self) -> None:
        self.assertAlmostEqual(capacity_ah(PACK, 0.5, 36_000.0, 1.0, 0.0, 25.0).value, 5.0, places=6)
        self.assertAlmostEqual(capacity_ah(PACK, 36_000.0, 0.5, 1.0, 0.0, 25.0).value, 5.0, places=6)

    def test_as_many_samples_as_stand_at_a_limit_are_not_over_it(self) -> None:
        self.assertEqual(chance(9.0, 10.0, lambda: [10.0, 10.0, 10.0, 11.0]).share, 0.25)


class Resistor(TestCase):
    """Half an amp at most flows in, and for moments a resistor takes five times its watts."""

    def test_one_at_which_just_half_an_amp_flows_is_large_enough(self) -> None:
        control = Controller.model_validate({"kind": "brushed", "capacitance_f": named(0.001)})
        self.assertEqual(precharge(control, 30.0, 41.0, 0.1).resistor_ohm, 82.0)
        self.assertEqual(precharge(control, 30.0, 41.1, 0.1).resistor_ohm, 100.0)

    def test_one_that_takes_just_these_watts_is_strong_enough(self) -> None:
        """50 V over 100 Ω are 25 W for a moment: five times 5 W; 60 V over 120 Ω are 30 W."""
        control = Controller.model_validate({"kind": "brushed", "capacitance_f": named(0.001)})
        self.assertEqual(precharge(control, 30.0, 50.0, 0.1).rated_w, 5.0)
        self.assertEqual(precharge(control, 30.0, 60.0, 0.1).rated_w, 10.0)


class BesideAPrediction(TestCase):
    def test_a_crawl_is_compared_too(self) -> None:
        """0.9 m/s where 0.8 were predicted is an eighth too fast."""
        found = judge_run(Reduced(0.9, 0.05, 2), Prediction(speed_m_s=0.8, low_m_s=0.7, high_m_s=0.95))
        self.assertAlmostEqual(found.off, 0.125, places=9)
        self.assertFalse(found.fits)

    def test_many_are_predicted_as_one_is(self) -> None:
        asked = Conditions(setup=bike(), knob=0.5, rest_v=38.0, surface="short grass", grade=0.02)
        alone = predict_trial(asked.setup, knob=0.5, rest_v=38.0, surface="short grass", grade=0.02)
        self.assertEqual(predict_trials([asked, asked]), [alone, alone])


class GuardMarks(TestCase):
    def test_volts_a_cell_are_those_of_the_longest_row(self) -> None:
        """Ten cells and nine side by side: no cell of the ten is above what the mark divided by ten says."""
        rows = [{"units": [{"label": "p", "cells_in_series": n, "capacity_ah": named(6), "age": "new"}], "fuse": {"rating_a": 20, "dc_volts_v": 58}} for n in (10, 9)]
        a = Analysis(bike(bank__rows=rows))
        assert a.setup.bank is not None
        for point in set_points(a.m, a.ride, a.peak_a, a.setup.bank, 30.0):
            self.assertAlmostEqual(point.cell_v, point.volts_v / 10, places=9)
