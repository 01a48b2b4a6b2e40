"""Margins of the rules that can stop: by hand for one machine, and over arrays as over each machine alone."""

from __future__ import annotations

import inspect
from unittest import TestCase

import numpy as np

from gecko.rules import margins
from gecko.rules.margins import Margin

MARGINS = {
    name: one
    for name, one in vars(margins).items()
    if inspect.isfunction(one) and not name.startswith("_") and inspect.signature(one, eval_str=True).return_annotation is Margin
}
ONE_MACHINE = {"in_series", "child", "packs_ah"}
"""What is the same for all candidates, or an array by itself."""


class ByHand(TestCase):
    """Asked, stands and whether it is over, from the rule's own words and not from its code."""

    def test_just_under_and_just_over(self) -> None:
        held = set()
        for name, under, over in (
            # A controller made for 50 V; 13 cells of 4.2 V are 54.6 V, 11 are 46.2 V.
            ("controller_volts", (46.2, 50.0), (54.6, 50.0)),
            # A 36 V controller holds back below 31 V: 7 cells of 3.6 V are 25.2 V.
            ("low_cut_off", (36.0, 31.0), (25.2, 31.0)),
            # A board of 12 V bears 12.6 V.
            ("board_volts", (12.6, 12.0), (12.61, 12.0)),
            # 1.5 times 24 V is 36 V; two such motors in series bear 72 V.
            ("motor_volts", (36.0, 24.0, 1.5), (36.1, 24.0, 1.5)),
            ("motor_volts", (72.0, 24.0, 1.5, 2), (72.1, 24.0, 1.5, 2)),
            ("touched_volts", (75.0, True), (75.1, True)),
            ("touched_volts", (60.0, False), (60.1, False)),
            ("boards_in_series", (42.0, 42.0), (42.1, 42.0)),
            # Six cells of 2 V: spent below.
            ("spent_volts", (12.0, 12.0), (11.9, 12.0)),
            # Two per cent over 42 V are 42.84 V.
            ("overcharged_volts", (42.84, 42.0), (42.85, 42.0)),
            ("fuse_volts", (42.0, 58.0), (42.0, 32.0)),
            ("fuse_volts", (42.0, 58.0, 42.0), (42.0, 58.0, 32.0)),
            ("switch_volts", (42.0, 42.0), (42.0, 24.0)),
            # A lithium charger within one per cent of 42 V: 41.58 to 42.42 V.
            ("charger_volts", (41.59, 42.0, 0.01), (41.57, 42.0, 0.01)),
            ("charger_volts", (42.41, 42.0, 0.01), (42.43, 42.0, 0.01)),
            # A coil of 24 V lets go from 20.4 to 27.6 V.
            ("coil_volts", (20.41, 24.0), (20.39, 24.0)),
            ("coil_volts", (27.59, 24.0), (27.61, 24.0)),
            ("converter_volts", (60.0, 60.0), (60.1, 60.0)),
            # A 12 V lamp bears 15 V.
            ("accessory_volts", (15.0, 12.0), (15.1, 12.0)),
            ("pack_amps", (30.0, 30.0), (30.1, 30.0)),
            # A row that gives half of the bank and trips at 40 A trips it at 80 A.
            ("trip_amps", (80.0, 0.5, 40.0), (80.1, 0.5, 40.0)),
            ("rush_amps", (6.0, 6.0), (6.1, 6.0)),
            ("regenerated_amps", (6.0, 6.0), (6.1, 6.0)),
            ("charging_amps", (2.0, 2.0), (2.1, 2.0)),
            # A switch of 15 A survives a stall of 30 A.
            ("stalled_switch_amps", (30.0, 15.0), (30.1, 15.0)),
            ("part_amps", (30.0, 30.0), (40.0, 30.0)),
            ("breaking_amps", (1000.0, 1000.0), (1001.0, 1000.0)),
            ("lead_amps", (30.0, 30.0), (30.1, 30.0)),
            ("lead_withstand", (1.0,), (1.01,)),
            ("plug_amps", (45.0, 45.0), (45.1, 45.0)),
            ("switch_amps", (50.0, 50.0), (50.1, 50.0)),
            ("converter_amps", (5.0, 5.0), (5.1, 5.0)),
            ("unlike_volts", (0.05,), (0.051,)),
            ("unlike_charge", (0.15,), (0.151,)),
            ("frozen", (0.0,), (-0.1,)),
            ("loose_kg", (2.0,), (2.1,)),
            ("packs_in_string", (1.0,), (2.0,)),
            ("rows_at_once", (1.0,), (2.0,)),
            ("nickel_in_a_row", (8.0, 8.0), (9.0, 8.0)),
            # In 25 °C the winding may rise by 130 K.
            ("winding_rise", (155.0, 25.0), (155.1, 25.0)),
            # It starts on 10 %: that slope, whatever the ground drags.
            ("slope", (0.05, 0.1, 0.1), (0.05, 0.11, 0.1)),
            ("slope", (0.05, -0.2, 0.0), (0.05, 0.01, 0.0)),
            ("gear_torque", (25.0, 10.0), (25.1, 10.0)),
            # 50 N·m at a sprocket of 50 mm pull with 1000 N; a chain of 5.6 kN takes that.
            ("chain_pull", (50.0, 0.05, 5600.0), (50.1, 0.05, 5600.0)),
            ("top_speed", (2.009, 2.0), (2.011, 2.0)),
            ("own_cap", (3.0, 3.0), (3.1, 3.0)),
            ("least_age", (6.0, 6.0), (5.5, 6.0)),
            ("seats", (1.0, 1.0), (2.0, 1.0)),
            ("launch", (1.0, 5.0), (1.01, 5.0)),
            ("stopping_distance", (5.0, 2.0), (5.1, 2.0)),
            # 100 kg at 10 m/s carry 5 kJ.
            ("brake_energy", (100.0, 10.0, 5000.0), (100.0, 10.1, 5000.0)),
            ("tyre_speed", (4.0, 4.0), (4.1, 4.0)),
            ("turn_speed", (1.0, 6.0), (1.01, 6.0)),
            ("load", (30.0, 30.0), (30.1, 30.0)),
            ("unguarded_volts", (0.0,), (25.0,)),
            ("drawn_without_protection", (0.0,), (300.0,)),
            ("counted", (0.0,), (1.0,)),
        ):
            with self.subTest(name, under=under, over=over):
                held.add(name)
                self.assertFalse(MARGINS[name](*under).over)
                self.assertTrue(MARGINS[name](*over).over)
                self.assertIsInstance(MARGINS[name](*over).asked, float)
        self.assertEqual(MARGINS.keys() - held, {"unlike_capacity"}, "That one is held below.")

    def test_what_is_asked_and_stands(self) -> None:
        energy = margins.brake_energy(100.0, 10.0, 15000.0)
        self.assertEqual((energy.asked, energy.stands, energy.unit), (5000.0, 15000.0, "J"))
        self.assertEqual(margins.trip_amps(100.0, 0.25, 40.0).stands, 160.0)
        self.assertEqual(margins.winding_rise(100.0, 25.0).stands, 130.0)
        self.assertEqual(margins.frozen(-5.0).asked, 5.0)
        chain = margins.chain_pull(50.0, 0.05, 5600.0)
        self.assertAlmostEqual(float(chain.asked), 1000.0)
        self.assertAlmostEqual(float(chain.stands), 1000.0)
        row = margins.unlike_capacity(np.array([[5.0, 4.0], [5.0, 6.0]]))
        self.assertEqual((list(np.asarray(row.asked)), list(np.asarray(row.stands))), ([5.0, 6.0], [5.0, 4.0]))

    def test_the_weak_one_of_fuse_and_holder_is_told(self) -> None:
        self.assertEqual(margins.fuse_volts(42.0, 32.0, 58.0).stands, 32.0)
        self.assertEqual(margins.fuse_volts(42.0, 58.0, 32.0).stands, 32.0)

    def test_beyond_a_factor(self) -> None:
        self.assertTrue(margins.load(35.0, 30.0).beyond(1.15))
        self.assertFalse(margins.load(34.0, 30.0).beyond(1.15))


class OverArrays(TestCase):
    def test_a_thousand_candidates_are_judged_as_each_alone(self) -> None:
        draw = np.random.default_rng(16)
        for name, margin in MARGINS.items():
            numbers = [one for one in inspect.signature(margin).parameters if one not in ONE_MACHINE]
            if "packs_ah" in inspect.signature(margin).parameters:
                continue
            drawn = {one: draw.uniform(0.05, 60.0, 1000) if one != "slack" else draw.uniform(0.005, 0.05, 1000) for one in numbers}
            fixed = {one: value for one, value in {"in_series": 2, "child": True}.items() if one in inspect.signature(margin).parameters}
            together = margin(**drawn, **fixed)
            with self.subTest(name):
                self.assertEqual(np.shape(together.over), (1000,))
                alone = [margin(**{one: float(values[n]) for one, values in drawn.items()}, **fixed) for n in range(1000)]
                np.testing.assert_array_equal(together.over, [bool(one.over) for one in alone])
                np.testing.assert_allclose(np.broadcast_to(together.asked, (1000,)), [one.asked for one in alone], rtol=1e-12)
                np.testing.assert_allclose(np.broadcast_to(together.stands, (1000,)), [one.stands for one in alone], rtol=1e-12)
