"""The trail, station by station, and the lines of the plots, against values computed here by hand."""

from __future__ import annotations

import itertools
from unittest import TestCase

import numpy as np

from gecko.analysis.whole import Analysis
from gecko.answers.evaluation import Evaluation, Station
from gecko.document.context import Context
from gecko.document.setup import Setup, load_setup
from gecko.plans.curves import build_choice
from gecko.plans.evaluate import evaluate
from gecko.tests.machines import bike, named, ride_on

PACK = {"label": "p", "cells_in_series": 10, "capacity_ah": named(6), "continuous_a": named(30), "peak_10s_a": named(60)}
FUSED = {"units": [PACK], "fuse": {"kind": "blade", "rating_a": 20, "dc_volts_v": 58}}


def station(found: Evaluation, name: str) -> Station:
    return next(s for s in found.trail if s.id == name)


class Stations(TestCase):
    def setUp(self) -> None:
        self.setup = bike(bank__rows=[FUSED, FUSED])
        self.found = evaluate(self.setup)
        self.analysis = Analysis(self.setup)
        assert self.found.outcome is not None
        self.outcome = self.found.outcome

    def test_order_is_the_way_of_the_current(self) -> None:
        order = ["packs", "row_fuses", "main_fuse", "cut_off", "plugs", "leads", "controller", "motors", "gearing", "wheels", "rider"]
        self.assertEqual([s.id for s in self.found.trail], order)

    def test_packs_take_half_each_of_the_peak(self) -> None:
        """Two alike rows: half of the launch peak of 28.05 A against 60 A for ten seconds, or half the RMS against 30 A."""
        packs = station(self.found, "packs")
        shares = (self.outcome.peak_a / 2 / 60, self.outcome.rms_a / 2 / 30)
        self.assertAlmostEqual(packs.share or 0, max(shares), places=6)

    def test_fuses_carry_the_ride(self) -> None:
        """0.75 · rating at 25 °C: rows 15 A for half the RMS, main 22.5 A for all of it."""
        self.assertAlmostEqual(station(self.found, "row_fuses").stands or 0, 15.0, places=9)
        self.assertAlmostEqual(station(self.found, "row_fuses").asks or 0, self.outcome.rms_a / 2, places=6)
        self.assertAlmostEqual(station(self.found, "main_fuse").stands or 0, 22.5, places=9)

    def test_leads_by_the_derated_table(self) -> None:
        """10 AWG, 105 °C, two in a bundle at 25 °C: 60 · 0.7 = 42 A."""
        self.assertAlmostEqual(station(self.found, "leads").stands or 0, 42.0, places=9)

    def test_controller_compares_volts_with_volts(self) -> None:
        controller = station(self.found, "controller")
        self.assertEqual((controller.asks, controller.stands, controller.unit), (42.0, 50.0, "V"))

    def test_motor_compares_its_rise_with_what_is_left_to_155(self) -> None:
        motor = station(self.found, "motors")
        self.assertAlmostEqual(motor.stands or 0, 130.0, places=9)
        self.assertAlmostEqual(motor.asks or 0, self.outcome.motor_20min_c - 25.0, places=6)

    def test_cut_off_and_guard_show_the_worse(self) -> None:
        weak = evaluate(bike(guard__rating_a=named(30)))
        self.assertAlmostEqual(station(weak, "cut_off").stands or 0, 30.0)
        self.assertEqual(station(weak, "cut_off").name, "Cut-off & guard")

    def test_unknown_is_dashed_and_never_the_weak_link(self) -> None:
        gearing = station(self.found, "gearing")
        self.assertEqual((gearing.share, gearing.state), (None, "unknown"))
        self.assertNotEqual(self.found.weak_link, "gearing")

    def test_a_plastic_gearbox_stands_two_and_a_half_times_its_stock_torque(self) -> None:
        found = evaluate(ride_on(), Context(baseline=ride_on()))
        gearing = station(found, "gearing")
        self.assertAlmostEqual(gearing.share or 0, 1 / 2.5, places=6)

    def test_pedal_switch_is_asked_for_the_stall(self) -> None:
        """Stall by hand: 12.78 V over motors, bank and path in series."""
        setup = ride_on()
        a = Analysis(setup)
        ohms = float(a.motor.resistance_ohm + a.m.source_ohm(a.full))
        self.assertAlmostEqual(station(evaluate(setup), "switch").asks or 0, 6 * 2.13 / ohms, places=6)

    def test_rider_compares_top_speed_with_the_cap(self) -> None:
        found = evaluate(bike(rider={"age_years": 7}))
        rider = station(found, "rider")
        assert found.outcome is not None
        self.assertAlmostEqual(rider.stands or 0, 6 * 0.44704, places=6)
        self.assertAlmostEqual(rider.asks or 0, found.outcome.top_speed_m_s, places=9)
        self.assertEqual((rider.state, found.held_back.station if found.held_back else ""), ("over", "rider"))

    def test_a_stop_colours_its_station_even_with_room_to_spare(self) -> None:
        found = evaluate(bike(plugs__0__browned=True))
        self.assertEqual((station(found, "plugs").state, station(found, "plugs").severity), ("over", "stop"))

    def test_unlike_rows_tell_the_amp_hours_every_screen_tells(self) -> None:
        """A pack of 8 Ah beside one of 6 Ah are 14 Ah, not twice the first one; in a row the smaller counts."""
        packs = [{"label": "p", "cells_in_series": 5, "capacity_ah": named(ah)} for ah in (8, 6)]
        for rows, ah in (([{"units": [pack, pack]} for pack in packs], 14.0), ([{"units": packs}], 6.0)):
            found = evaluate(bike(bank__rows=rows))
            assert found.bank is not None
            self.assertEqual(found.bank.capacity_ah, ah)
            self.assertIn(f" · {ah:g} Ah", next(one.detail for one in found.trail if one.id == "packs"))


class Lines(TestCase):
    def setUp(self) -> None:
        self.setup: Setup = bike()
        self.found = evaluate(self.setup)
        self.curves = self.found.curves

    def test_sag_falls_by_the_banks_resistance(self) -> None:
        """37.2 V at half charge behind 10·0.05/6 + 0.01 = 93.3 mΩ."""
        half = self.curves.sag["half"]
        self.assertAlmostEqual(half.y[0], 37.2, places=3)
        self.assertAlmostEqual((half.y[0] - half.y[-1]) / half.x[-1], 0.093333, places=4)

    def test_push_and_resistance_cross_at_top_speed(self) -> None:
        push, level = self.curves.force["push"], self.curves.force["level"]
        assert self.found.outcome is not None
        top = self.found.outcome.top_speed_m_s
        gap = np.interp(top, push.x, push.y) - np.interp(top, level.x, level.y)
        self.assertAlmostEqual(float(gap), 0.0, delta=0.6)

    def test_limits_along_the_push_follow_each_other(self) -> None:
        stretches = self.curves.force_limits
        self.assertEqual(next(s.limit for s in stretches), "phase")
        self.assertIn("volts", {s.limit for s in stretches})
        for a, b in itertools.pairwise(stretches):
            self.assertLessEqual(a.to_m_s, b.from_m_s)

    def test_the_ride_ends_where_the_guard_stands(self) -> None:
        assert self.found.outcome is not None
        self.assertEqual(self.found.outcome.ends_by, "guard")
        self.assertAlmostEqual(self.curves.ride["volts"].y[-1], 31.0, delta=0.4)
        charge = self.curves.ride["charge"].y
        self.assertTrue(all(b <= a for a, b in itertools.pairwise(charge)))

    def test_knob_marks_give_more_speed_each(self) -> None:
        assert self.curves.knob is not None
        self.assertTrue(all(b > a for a, b in zip(self.curves.knob.y[1:], self.curves.knob.y[2:], strict=False)))
        assert self.found.outcome is not None
        self.assertAlmostEqual(self.curves.knob.y[-1], self.found.outcome.top_speed_half_m_s, delta=0.01)
        self.assertIsNone(evaluate(ride_on()).curves.knob)

    def test_the_fuse_table_shows_chosen_and_best_with_their_lines(self) -> None:
        choice = build_choice(Analysis(bike(main_lead__awg=16)))
        assert choice is not None and choice.chosen is not None and choice.best is not None
        self.assertEqual((choice.chosen.size.awg, choice.best.fails), (16, []))
        self.assertIn("wire", choice.chosen.fails)
        self.assertEqual({len(row.fails) for row in choice.rows}, {len(choice.sizes)})
        self.assertEqual(set(choice.curves), {"chosen", "best"})
        self.assertEqual(set(choice.curves["best"]), {"shortest", "longest", "wire", "withstand"})

    def test_a_fuse_that_is_not_sold_still_has_its_cell(self) -> None:
        choice = build_choice(Analysis(bike(main_fuse__rating_a=33)))
        assert choice is not None and choice.chosen is not None
        self.assertEqual(choice.chosen.rating_a, 33)

    def test_bases_name_the_weakest_figure_behind_an_outcome(self) -> None:
        def basis(setup: Setup) -> str:
            outcome = evaluate(setup).outcome
            assert outcome is not None
            return outcome.bases["top_speed_m_s"]

        measured = {"motor__volts_v": named(36, "measured"), "motor__speed_rpm": named(2700, "measured"), "wheel__diameter_m": named(0.31, "measured")}
        self.assertEqual(basis(bike(**measured)), "measured")
        self.assertEqual(basis(bike(**{**measured, "motor__volts_v": named(36)})), "nameplate")
        self.assertEqual(basis(bike(**{**measured, "wheel__diameter_m": named(0.31, "assumed")})), "assumed")

    def test_nothing_is_drawn_of_what_is_not_known(self) -> None:
        empty = evaluate(load_setup({})).curves
        self.assertEqual((empty.sag, empty.force, empty.ride, empty.knob), ({}, {}, {}, None))
