"""What is measured at the bench and reckoned from it, at its edges, each value by hand."""

from __future__ import annotations

from unittest import TestCase

from gecko.analysis.chances import chance
from gecko.analysis.fit import sides_m
from gecko.analysis.measure import LEAST_SPREAD, capacity_ah, resistance_ohm
from gecko.analysis.precharge import precharge
from gecko.analysis.voltmeter import set_points
from gecko.analysis.whole import Analysis
from gecko.common.errors import GeckoError
from gecko.common.figures import Figure
from gecko.document.parts.bay import Bay
from gecko.document.parts.controller import Controller
from gecko.document.parts.pack import Pack
from gecko.plans.trials.prediction import Conditions, Prediction, predict_trial, predict_trials
from gecko.plans.trials.reduction import Reduced
from gecko.plans.trials.verdict import judge_run
from gecko.rules.measuring import measuring
from gecko.tests.machines import bike, named


def _pack(cells: int) -> Pack:
    return Pack.model_validate({"label": "p", "cells_in_series": cells, "capacity_ah": named(6)})


class Measuring(TestCase):
    PACK = _pack(10)

    def test_a_resistance_needs_volts_that_fall_and_amps(self) -> None:
        """At half charge and 25 °C nothing is to be freed: 1 V at 10 A are 0.1 Ω."""
        found = resistance_ohm(self.PACK, 37.0, 36.0, 10.0, 25.0)
        self.assertAlmostEqual(found.value, 0.1, delta=0.002)
        self.assertEqual(found.doubt, "")
        for load_v, amps_a in ((37.0, 10.0), (38.0, 10.0), (36.0, 0.0)):
            with self.assertRaises(GeckoError):
                resistance_ohm(self.PACK, 37.0, load_v, amps_a, 25.0)

    def test_a_large_or_a_tiny_fall_is_doubted(self) -> None:
        self.assertIn("a third", resistance_ohm(self.PACK, 40.0, 27.9, 10.0, 25.0).doubt)
        self.assertEqual(resistance_ohm(self.PACK, 40.0, 28.1, 10.0, 25.0).doubt, "")
        self.assertIn("few digits", resistance_ohm(self.PACK, 40.0, 39.95, 10.0, 25.0).doubt)
        # Three tenths of 20 V are 6 V to the last digit.
        self.assertEqual(resistance_ohm(_pack(5), 20.0, 14.0, 10.0, 25.0).doubt, "")

    def test_two_last_digits_that_may_be_off(self) -> None:
        """Either reading may be off by a hundredth of a volt: √2 hundredths over a fall of 0.4 V are 3.5 %."""
        self.assertAlmostEqual(resistance_ohm(self.PACK, 40.0, 39.6, 10.0, 25.0).spread, 2.0**0.5 * 0.01 / 0.4)

    def test_no_reading_counts_for_better_than_a_measured_figure(self) -> None:
        """Ten volts of fall on a meter that tells hundredths are known far better than any figure is believed."""
        sharp = resistance_ohm(Pack(cells_in_series=20, capacity_ah=Figure(value=5.0)), 78.0, 68.0, 20.0, 25.0)
        blunt = resistance_ohm(Pack(cells_in_series=20, capacity_ah=Figure(value=5.0)), 78.0, 77.9, 2.0, 25.0)
        self.assertEqual(sharp.spread, LEAST_SPREAD)
        self.assertGreater(blunt.spread, LEAST_SPREAD)

    def test_a_capacity_from_amps_and_hours(self) -> None:
        """2 A for two hours from full to a fifth are 4 Ah of 5."""
        found = capacity_ah(self.PACK, 2.0, 7200.0, 1.0, 0.2, 25.0)
        self.assertAlmostEqual(found.value, 5.0)
        self.assertAlmostEqual(found.spread, 0.025)
        self.assertEqual(found.doubt, "")
        self.assertAlmostEqual(capacity_ah(self.PACK, 2.0, 990.0, 1.0, 0.89, 25.0).value, 5.0)
        self.assertIn("59 %", capacity_ah(self.PACK, 2.0, 7200.0, 0.99, 0.4, 25.0).doubt)
        for amps_a, seconds_s, end in ((0.0, 60.0, 0.0), (1.0, 0.0, 0.0), (1.0, 60.0, 0.91)):
            with self.assertRaises(GeckoError):
                capacity_ah(self.PACK, amps_a, seconds_s, 1.0, end, 25.0)

    def test_a_small_load_says_little_from_a_twentieth_on(self) -> None:
        """Two readings of a meter good to a hundredth of a volt: over a fall of 0.25 V that is 5.7 %, over one of 0.3 V 4.7 %."""
        self.assertIn("bigger load", resistance_ohm(self.PACK, 40.0, 39.75, 5.0, 25.0).doubt)
        self.assertEqual(resistance_ohm(self.PACK, 40.0, 39.7, 5.0, 25.0).doubt, "")

    def test_less_than_an_amp_and_less_than_a_second_are_readings_too(self) -> None:
        self.assertAlmostEqual(capacity_ah(self.PACK, 0.5, 36_000.0, 1.0, 0.0, 25.0).value, 5.0, places=6)
        self.assertAlmostEqual(capacity_ah(self.PACK, 36_000.0, 0.5, 1.0, 0.0, 25.0).value, 5.0, places=6)

    def test_as_many_samples_as_stand_at_a_limit_are_not_over_it(self) -> None:
        self.assertEqual(chance(9.0, 10.0, lambda: [10.0, 10.0, 10.0, 11.0]).share, 0.25)


class ThreeSides(TestCase):
    def test_a_pack_needs_all_three_sides(self) -> None:
        bay = Bay.model_validate({side: named(0.3) for side in ("length_m", "width_m", "height_m")})
        sides = {"length_m": named(0.1), "width_m": named(0.08), "height_m": named(0.06)}
        self.assertIsNotNone(sides_m(Pack.model_validate({"cells_in_series": 5, "capacity_ah": named(5), **sides}), bay))
        for missing in sides:
            known = {side: figure for side, figure in sides.items() if side != missing}
            self.assertIsNone(sides_m(Pack.model_validate({"cells_in_series": 5, "capacity_ah": named(5), **known}), bay), missing)


class HowItIsMeasured(TestCase):
    def test_ohms_of_a_pack_and_of_what_lies_on_the_way(self) -> None:
        for path, name in (
            ("/bank/rows/1/units/0/resistance_ohm", "packs' resistance"),
            ("/plugs/0/resistance_ohm", "resistance of plugs and switches"),
            ("/controller_lead/length_m", "lead's length"),
            ("/auxiliaries/0/amps_a", "amps a"),
        ):
            self.assertEqual(measuring(path).name, name)


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

    def test_a_knob_that_was_measured_stays_measured(self) -> None:
        """Two speeds measured at marks say what a mark means: at mark 5 it goes as measured, not half as fast as with the knob full up."""
        knob = [{"mark": 0.5, "speed_m_s": named(5.0, "measured")}, {"mark": 0.8, "speed_m_s": named(6.0, "measured")}]
        measured, plain = (predict_trial(bike(throttle__knob=marks), knob=0.5) for marks in (knob, []))
        assert measured is not None and plain is not None
        self.assertGreater(measured.speed_m_s, 1.1 * plain.speed_m_s)

    def test_many_are_predicted_as_one_is(self) -> None:
        asked = Conditions(setup=bike(), knob=0.5, rest_v=38.0, surface="short grass", grade=0.02)
        alone = predict_trial(asked.setup, knob=0.5, rest_v=38.0, surface="short grass", grade=0.02)
        self.assertEqual(predict_trials([asked, asked]), [alone, alone])


class GuardMarks(TestCase):
    def test_packs_that_sag_below_empty_have_marks_around_it(self) -> None:
        """Ten cells are empty at 30 V; behind 1.2 Ω they ride at less than that with a third left: marks from 8 % under to 2 % over it."""
        a = Analysis(bike(bank__rows__0__units__0__resistance_ohm=named(1.2)))
        assert a.setup.bank is not None
        marks = [point.volts_v for point in set_points(a.m, a.ride, a.peak_a, a.setup.bank, 30.0)]
        self.assertEqual((marks[0], marks[-1]), (27.6, 30.6))

    def test_volts_a_cell_are_those_of_the_longest_row(self) -> None:
        """Ten cells and nine side by side: no cell of the ten is above what the mark divided by ten says."""
        rows = [{"units": [{"label": "p", "cells_in_series": n, "capacity_ah": named(6), "age": "new"}], "fuse": {"rating_a": 20, "dc_volts_v": 58}} for n in (10, 9)]
        a = Analysis(bike(bank__rows=rows))
        assert a.setup.bank is not None
        for point in set_points(a.m, a.ride, a.peak_a, a.setup.bank, 30.0):
            self.assertAlmostEqual(point.cell_v, point.volts_v / 10, places=9)
