"""A bank emptied by a steady current, where a hand calculation tells when and at what volts it ends."""

from __future__ import annotations

from dataclasses import replace
from unittest import TestCase

import numpy as np

from gecko.physics.electric.bank import BankModel, RowModel, Unit, open_volts_per_cell, unit_ohm, unit_volts_v
from gecko.physics.electric.discharge import discharge
from gecko.physics.electric.shares import ShareMarch

UNIT = Unit(chemistry="li-ion", cells_in_series=10, capacity_ah=6.0, resistance_ohm=0.1, grows=1.5, grows_s=60.0)


def bank(*units: Unit) -> BankModel:
    """Rows of one unit each."""
    return BankModel(tuple(RowModel((unit,)) for unit in units))


class Alone(TestCase):
    def test_six_amp_hours_at_four_amps_are_an_hour_and_a_half(self) -> None:
        found = discharge(bank(UNIT), 4.0, [1.0], 25.0)
        self.assertEqual((found.ends_by, found.unit), ("empty", 0))
        self.assertAlmostEqual(float(found.time_s[-1]), 5400.0, places=6)
        self.assertAlmostEqual(found.unused_ah[0], 0.0, places=9)

    def test_half_full_it_lasts_half_as_long(self) -> None:
        self.assertAlmostEqual(float(discharge(bank(UNIT), 4.0, [0.5], 25.0).time_s[-1]), 2700.0, places=6)

    def test_its_volts_are_those_of_a_current_that_flows_for_minutes(self) -> None:
        """Full: 41.9 V at rest, less 4 A over one and a half times 0.1 Ω."""
        found = discharge(bank(UNIT), 4.0, [1.0], 25.0)
        self.assertAlmostEqual(float(found.volts_v[0]), 41.9 - 4.0 * 0.15, places=6)

    def test_it_ends_where_its_volts_under_load_meet_its_own_cut_off(self) -> None:
        guarded = replace(UNIT, protection_low_v=33.0)
        found = discharge(bank(guarded), 8.0, [1.0], 25.0)
        self.assertEqual((found.ends_by, found.unit), ("low cut-off", 0))
        left = float(found.soc[0][-1])
        under_load = float(unit_volts_v(guarded, left)) - 8.0 * float(unit_ohm(guarded, left, 25.0, held=True))
        self.assertAlmostEqual(under_load, 33.0, delta=0.01)
        self.assertAlmostEqual(float(found.time_s[-1]), (1.0 - left) * 6.0 / 8.0 * 3600.0, delta=1.0)

    def test_a_guard_sees_the_bank_and_no_single_pack(self) -> None:
        found = discharge(bank(UNIT), 4.0, [1.0], 25.0, stop_v=36.0)
        self.assertEqual((found.ends_by, found.unit), ("guard", None))
        self.assertAlmostEqual(float(found.volts_v[-1]), 36.0, places=6)

    def test_a_guard_above_what_a_full_pack_gives_opens_at_once(self) -> None:
        found = discharge(bank(UNIT), 4.0, [1.0], 25.0, stop_v=41.5)
        self.assertEqual((found.ends_by, float(found.time_s[-1])), ("guard", 0.0))

    def test_nickel_gives_its_amp_hours_whatever_the_amps(self) -> None:
        """Ten cells of 3 Ah at 6 A: half an hour, no Peukert. Half full they show 12.82 V less 6 A over their ohms, held."""
        ten = replace(UNIT, chemistry="nickel", capacity_ah=3.0, resistance_ohm=0.09, grows=1.4)
        found = discharge(bank(ten), 6.0, [1.0], 25.0)
        self.assertAlmostEqual(float(found.time_s[-1]), 1800.0, places=6)
        self.assertAlmostEqual(float(np.interp(900.0, found.time_s, found.volts_v)), 12.82 - 6.0 * 0.09 * 1.4, delta=0.02)


class SideBySide(TestCase):
    def test_unlike_chemistries_share_by_their_volts_and_ohms(self) -> None:
        """Ten lithium cells beside twelve of LFP, about half full: each gives what its volts stand over the joint, over its ohms (held)."""
        other = replace(UNIT, chemistry="lfp", cells_in_series=12, resistance_ohm=0.2)
        volts = [10 * float(open_volts_per_cell("li-ion", 0.503)), 12 * float(open_volts_per_cell("lfp", 0.503))]
        ohms = [0.15, 0.3]
        joint = (volts[0] / ohms[0] + volts[1] / ohms[1] - 10.0) / (1.0 / ohms[0] + 1.0 / ohms[1])
        amps = [(v - joint) / r for v, r in zip(volts, ohms, strict=True)]
        slopes = ShareMarch(bank(UNIT, other), 25.0, ()).slopes(np.array([[0.503], [0.503]]), 10.0)
        for found, flows in zip(slopes[:, 0], amps, strict=True):
            self.assertAlmostEqual(float(found), -flows / 6.0 / 10.0, places=4)

    def test_like_rows_end_together_at_half_the_amps(self) -> None:
        found = discharge(bank(UNIT, UNIT), 8.0, [1.0, 1.0], 25.0)
        self.assertAlmostEqual(float(found.time_s[-1]), 5400.0, places=6)
        np.testing.assert_allclose(found.row_a, 4.0)

    def test_a_step_ahead_counts_the_fall_of_what_a_small_row_has_left(self) -> None:
        """A row of a tenth of the amp-hours loses its volts ten times as fast: ahead of a step it is asked for less than at its start."""
        small = replace(UNIT, capacity_ah=0.6)
        march = ShareMarch(bank(UNIT, small), 25.0, ())
        full = np.array([[0.9], [0.9]])
        now, ahead = march.slopes(full, 10.0), march.slopes(full, 10.0, 0.4)
        self.assertLess(-float(ahead[1, 0]), -0.9 * float(now[1, 0]))
        self.assertGreater(-float(ahead[0, 0]), -float(now[0, 0]))
        # Charge is kept: what both give is what is drawn.
        self.assertAlmostEqual(-float(ahead[0, 0]) * 6.0 - float(ahead[1, 0]) * 0.6, 1.0, places=9)
