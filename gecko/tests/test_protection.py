"""Fuse bands, ampacity and the fuse-and-wire choice."""

from __future__ import annotations

from dataclasses import replace
from unittest import TestCase

import numpy as np

from gecko.analysis.demands import Demand, demands
from gecko.analysis.whole import Analysis
from gecko.document.setup import Setup
from gecko.physics.electric.path import awg_area_m2
from gecko.physics.heat.wire import withstand_a2s
from gecko.physics.protection.ampacity import Size, ambient_factor, bundle_factor, decision_row, derated_ampacity_a
from gecko.physics.protection.choice import ChoiceInput, RowFuse, choice_table
from gecko.physics.protection.fuse import continuous_limit_a, nuisance_sum, opening_times_s
from gecko.reference.tables import offered_fuses
from gecko.tests.machines import bike, named, ride_on

BASE = ChoiceInput(
    continuous_a=12.0,
    reachable_a=28.0,
    launch_a=np.full(11, 28.0),
    launch_s=np.linspace(0, 5, 11),
    row="105",
    insulation="105",
    conductors=1,
    air_c=35.0,
    length_both_ways_m=1.2,
    least_part_a=60.0,
    full_v=42.0,
    half_charge_v=37.2,
    warm_open_v=41.9,
    warm_bank_ohm=0.075,
    fault_bank_ohm=0.093,
    cold_open_v=35.4,
    cold_bank_ohm=0.2,
    other_path_ohm=0.0064,
    trip_a=75.0,
)


class FuseBands(TestCase):
    def test_points_of_the_published_bands(self) -> None:
        """ISO 8820-3 type C: 1.35 → 0.75…600 s, 2.0 → 0.15…5 s, 6.0 → 0.02…0.1 s."""
        for multiple, short, long in ((1.35, 0.75, 600), (2.0, 0.15, 5), (6.0, 0.02, 0.1)):
            found = opening_times_s("blade", multiple)
            self.assertAlmostEqual(float(found[0]), short, places=9)
            self.assertAlmostEqual(float(found[1]), long, places=7)

    def test_between_points_is_log_log(self) -> None:
        """Halfway in the logarithm between 2.0 and 3.5 (√7 = 2.6458) the longest is √(5·0.5)."""
        self.assertAlmostEqual(float(opening_times_s("blade", 7.0**0.5)[1]), 2.5**0.5, places=9)

    def test_below_the_band_never(self) -> None:
        self.assertTrue(np.isinf(opening_times_s("blade", 1.3)[1]))
        self.assertTrue(np.isinf(opening_times_s("blade", 0.5)[0]))

    def test_above_six_times_constant_energy(self) -> None:
        """I²t stays: at 12 times the longest is 0.1/4."""
        self.assertAlmostEqual(float(opening_times_s("blade", 12.0)[1]), 0.025, places=9)

    def test_cartridge_follows_the_large_blade(self) -> None:
        self.assertAlmostEqual(float(opening_times_s("cartridge", 2.0)[1]), 60.0, places=9)

    def test_nuisance_by_hand(self) -> None:
        """56 A for 1 s through a 28 A blade: t = √(0.15·5) = 0.866 s, so ten launches spend 11.547."""
        spent = nuisance_sum("blade", 28.0, np.array([56.0, 56.0]), np.array([0.0, 1.0]))
        self.assertAlmostEqual(float(spent), 10 / 0.75**0.5, places=6)

    def test_continuous_limit_falls_in_the_heat(self) -> None:
        """30 A at 45 °C: 0.75·30·(1 − 0.03) = 21.825 A."""
        self.assertAlmostEqual(continuous_limit_a(30.0, 45.0), 21.825, places=9)


class Ampacity(TestCase):
    def test_derating_by_hand(self) -> None:
        """10 AWG 105 °C, three in a bundle, 45 °C air: 60·0.7·√(60/75) = 37.566 A."""
        self.assertAlmostEqual(derated_ampacity_a(Size(10), "105", 45.0, 3), 37.5660, places=3)

    def test_factors_at_their_ends(self) -> None:
        self.assertEqual([bundle_factor(n) for n in (1, 2, 3, 4, 6, 7)], [1.0, 0.7, 0.7, 0.6, 0.6, 0.5])
        self.assertEqual((ambient_factor(60, 20), ambient_factor(60, 60)), (1.0, 0.0))

    def test_silicone_counts_as_105_unless_lugged(self) -> None:
        self.assertEqual((decision_row("silicone"), decision_row("silicone", True), decision_row("75")), ("105", "silicone", "75"))

    def test_withstand_by_the_adiabatic_equation(self) -> None:
        """(k·S)² for 10 AWG, 105 °C: (88·5.261)² = 214 342 A²s within the rounding of the area."""
        self.assertAlmostEqual(withstand_a2s(awg_area_m2(10), "105") / 214_342.0, 1.0, delta=1e-3)


class Choice(TestCase):
    def pick(self, school: str = "careful", **changes: object) -> tuple[str, float, float, int] | None:
        table = choice_table(replace(BASE, **changes), offered_fuses())  # type: ignore[arg-type]
        best = table.recommended(school)
        if best is None:
            return None
        fuse = table.fuses[best[0]]
        return fuse.kind, fuse.dc_volts_v, fuse.rating_a, table.awg[best[1]]

    def test_recommendation_of_the_ten_cell_bike(self) -> None:
        """The solved machine bike-24v-ten-cell-pack: 30 A blade, 58 V, 12 AWG; the common school takes 14 AWG."""
        self.assertEqual(self.pick(), ("blade", 58.0, 30.0, 12))
        self.assertEqual(self.pick("common"), ("blade", 58.0, 30.0, 14))

    def test_each_condition_moves_the_choice(self) -> None:
        for change in (
            {"continuous_a": 26.0},
            {"reachable_a": 38.0},
            {"launch_a": np.full(11, 90.0)},
            {"air_c": 60.0},
            {"least_part_a": 25.0},
            {"warm_bank_ohm": 0.03},
            {"full_v": 60.0},
            {"length_both_ways_m": 60.0},
            {"row_fuses": (RowFuse("blade", 15.0, 0.5),)},
            {"conductors": 7},
        ):
            with self.subTest(change):
                self.assertNotEqual(self.pick(**change), ("blade", 58.0, 30.0, 12))

    def test_when_nothing_fits_it_names_the_limit_to_move(self) -> None:
        table = choice_table(replace(BASE, least_part_a=10.0), offered_fuses())
        self.assertIsNone(table.recommended("careful"))
        self.assertEqual(table.blocking("careful")[0][0], "parts")

    def test_cartridges_only_where_nothing_else_fits(self) -> None:
        kind = self.pick(warm_bank_ohm=0.02)
        assert kind is not None
        self.assertEqual(kind[0], "cartridge")


class WhatFlows(TestCase):
    """One table of amps and how long they last."""

    def rows(self, setup: Setup) -> dict[str, Demand]:
        return {one.name.split(",")[0]: one for one in demands(Analysis(setup))}

    def test_a_blocked_wheel_ends_by_what_comes_first(self) -> None:
        """The bike's 42 A warm the winding to 155 °C in some 20 s while its fuse never opens at 18 A; the pedal car's fuse is quicker than its winding."""
        found = self.rows(bike())["A wheel that is blocked"]
        a = Analysis(bike())
        self.assertAlmostEqual(found.lasts_s or 0.0, a.stalled.reaches(155.0) or 0.0, places=6)
        self.assertEqual((found.motor_a, found.ends_by), (42.0, "the winding is at its end"))
        self.assertIn("fuse opens", self.rows(ride_on())["A wheel that is blocked"].ends_by)

    def test_packs_that_trip_end_it_after_their_delay(self) -> None:
        tripping = bike(bank__rows__0__units__0__trip_a=named(15), bank__rows__0__units__0__trip_delay_s=named(0.5))
        found = self.rows(tripping)["A wheel that is blocked"]
        self.assertEqual((found.lasts_s, found.ends_by), (0.5, "the packs switch off"))

    def test_what_the_rider_can_turn_up_counts(self) -> None:
        """Speed mode and mark hold only where they are known to be out of reach."""
        half = {"controller__modes": [{"name": "low", "current": 0.5}, {"name": "high"}], "controller__mode": "low"}
        free, locked = (self.rows(bike(**half, controller__modes_locked=lock)) for lock in (None, True))
        self.assertAlmostEqual(free["A wheel that is blocked"].motor_a, 42.0)
        self.assertAlmostEqual(locked["A wheel that is blocked"].motor_a, 21.0)

    def test_a_hill_it_does_not_get_up_is_a_blocked_wheel(self) -> None:
        found = self.rows(bike(ground={"hill_grade": 0.5}))
        steep = found["A climb of 50 %"]
        self.assertIn("does not get up", steep.name)
        self.assertEqual(steep.motor_a, found["A wheel that is blocked"].motor_a)

    def test_the_ride_is_the_one_of_every_other_figure(self) -> None:
        a = Analysis(bike())
        ride = list(demands(a))[-1]
        self.assertEqual((ride.pack_a, ride.lasts_s, ride.ends_by), (a.rms_a, float(a.ride.run_time_s), a.ride.ends_by))


class WhatARunIsAskedFor(TestCase):
    def test_an_accessory_takes_its_own_amps_all_the_time(self) -> None:
        run = Analysis(
            bike(auxiliaries=[{"label": "lamp", "amps_a": named(2), "lead": {"awg": 16, "length_m": named(0.5)}, "fuse": {"rating_a": 5, "dc_volts_v": 58}}])
        ).run("accessory0")
        assert run is not None
        np.testing.assert_array_equal(run.data.launch_a, [2.0, 2.0])

    def test_a_row_is_seen_by_its_largest_share(self) -> None:
        """Ten lithium cells beside twelve of LFP: which gives more in a short, by its ohms, gives another share of a launch, by its volts."""
        units = ({"label": "a", "cells_in_series": 10, "capacity_ah": named(6)}, {"label": "b", "chemistry": "lfp", "cells_in_series": 12, "capacity_ah": named(6)})
        a = Analysis(bike(bank__rows=[{"units": [unit], "fuse": {"rating_a": 20, "dc_volts_v": 58}} for unit in units]))
        run = a.run("main")
        assert run is not None
        short = float(a.full.open_v / a.full.resistance_ohm)
        for at_short, at_peak, seen in zip(a.full.row_currents(short), a.full.row_currents(float(a.peak_a)), run.data.row_fuses, strict=True):
            shares = [float(at_short) / short, float(at_peak) / float(a.peak_a)]
            self.assertGreater(abs(shares[0] - shares[1]), 0.01)
            self.assertAlmostEqual(seen.share, max(shares), places=9)
