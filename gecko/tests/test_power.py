"""Power at depth, by hand or by a second solution: unlike rows emptied and joined, slots, the bay, measuring, the guard."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from math import exp, log
from random import Random
from typing import Any
from unittest import TestCase

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from jsonpatch import apply_patch
from scipy.integrate import solve_ivp

from gecko.analysis.fit import balance_m, lay_in, sides_m
from gecko.analysis.joining import rushes, worst_joining
from gecko.analysis.measure import capacity_ah, resistance_ohm
from gecko.analysis.occupancy import occupancies
from gecko.analysis.state import charge_now
from gecko.analysis.voltmeter import rebound_v
from gecko.analysis.whole import Analysis
from gecko.common.errors import GeckoError
from gecko.document.parts.bay import Bay
from gecko.document.parts.pack import Pack
from gecko.document.setup import Setup, load_setup
from gecko.physics.electric.bank import BankModel, RowModel, Unit, usable_ah
from gecko.physics.electric.discharge import discharge
from gecko.physics.electric.joining import join_rows
from gecko.plans.evaluate import evaluate
from gecko.plans.fixes import fixes
from gecko.plans.power import power_plan
from gecko.reference.rows import read_rows
from gecko.tests.machines import bike, named, ride_on

PACK = {"label": "p", "cells_in_series": 10, "capacity_ah": named(6), "resistance_ohm": named(0.1), "age": "new"}


def rows(*packs: dict[str, Any], **bank: Any) -> dict[str, Any]:
    row = [{"units": [pack], "fuse": {"kind": "blade", "rating_a": 30, "dc_volts_v": 58}, "lead": {"awg": 10, "length_m": named(0.2)}} for pack in packs]
    return {"bank": {"rows": row, **bank}}


class Joining(TestCase):
    """Li-ion between 50 and 60 % rises by 0.8 V per cell and whole charge, its resistance is constant: an exponential by hand."""

    def test_two_rows_settle_as_a_capacitor_through_a_resistor(self) -> None:
        """Five cells, 5 and 2 Ah, 0.06 and 0.15 Ω, 0.02 Ω of leads: I0 = 0.4/0.23 A, τ = 0.23 Ω/(4 V·(1/5 + 1/2)/Ah)."""
        a, b = (RowModel((Unit(chemistry="li-ion", cells_in_series=5, capacity_ah=c, resistance_ohm=r),)) for c, r in ((5.0, 0.06), (2.0, 0.15)))
        found = join_rows(a, b, 0.6, 0.5, 0.02, 25.0)
        first, tau_s = 0.4 / 0.23, 0.23 / (4.0 * (1 / 5 + 1 / 2)) * 3600.0
        self.assertAlmostEqual(found.first_current_a / first, 1.0, delta=1e-3)
        self.assertAlmostEqual(found.time_to_2_percent_s / (tau_s * log(50)), 1.0, delta=1e-3)
        moved = first * tau_s / 3600.0 * 0.98
        self.assertAlmostEqual(found.charge_moved_ah / moved, 1.0, delta=1e-3)
        self.assertAlmostEqual(found.soc_a_end, 0.6 - moved / 5.0, places=5)
        self.assertAlmostEqual(found.soc_b_end, 0.5 + moved / 2.0, places=5)
        # Half the first current after ln 2 time constants.
        self.assertAlmostEqual(found.seconds_until(first / 2) / (tau_s * log(2)), 1.0, delta=2e-3)
        self.assertEqual(found.seconds_until(first * 1.1), 0.0)

    def test_the_other_way_round_it_flows_back(self) -> None:
        a, b = (RowModel((Unit(chemistry="li-ion", cells_in_series=5, capacity_ah=c, resistance_ohm=r),)) for c, r in ((5.0, 0.06), (2.0, 0.15)))
        there, back = join_rows(a, b, 0.6, 0.5, 0.02, 25.0), join_rows(b, a, 0.5, 0.6, 0.02, 25.0)
        self.assertAlmostEqual(there.first_current_a, -back.first_current_a)
        self.assertAlmostEqual(there.seconds_until(0.5), back.seconds_until(0.5), places=6)
        self.assertEqual((there.soc_a_end, there.soc_b_end), (back.soc_b_end, back.soc_a_end))

    def test_packs_of_a_row_move_by_their_own_capacity(self) -> None:
        """A row of 5 and 2.5 Ah: what leaves it takes twice the share of the smaller one, which is the one told."""
        row = RowModel(
            (
                Unit(chemistry="li-ion", cells_in_series=5, capacity_ah=5.0, resistance_ohm=0.05),
                Unit(chemistry="li-ion", cells_in_series=5, capacity_ah=2.5, resistance_ohm=0.05),
            )
        )
        found = join_rows(row, RowModel((Unit(chemistry="li-ion", cells_in_series=10, capacity_ah=5.0, resistance_ohm=0.1),)), (0.6, 0.6), 0.5, 0.02, 25.0)
        self.assertAlmostEqual(0.6 - found.soc_a_end, found.charge_moved_ah / 2.5, places=9)

    def test_the_worst_pair_of_three_and_how_near_they_must_be(self) -> None:
        """Charged to 90, 70 and 50 %: 4.07 against 3.72 V a cell is 3.5 V for ten, over 0.2 Ω of packs, two fuses and two leads."""
        a = Analysis(bike(**rows(*({**PACK, "charge": named(s, "measured")} for s in (0.9, 0.7, 0.5)))))
        worst = worst_joining(a.setup.bank, a.setup.ground)
        assert worst is not None
        ohm = 0.2 + 2 * 0.07 / 30 + 2 * 2 * 0.2 * 1.724e-8 / 5.261e-6
        self.assertEqual((worst.high, worst.low), (0, 2))
        self.assertAlmostEqual(worst.first_a / (3.5 / ohm), 1.0, delta=1e-3)
        self.assertAlmostEqual(worst.within_v / (6.0 * ohm), 1.0, delta=1e-3)

    def test_charge_from_what_the_meter_says(self) -> None:
        pack = Pack.model_validate({**PACK, "resting_v": named(37.2)})
        self.assertAlmostEqual(charge_now(pack) or 0.0, 0.5)
        self.assertIsNone(charge_now(Pack.model_validate(PACK)))


class Emptying(TestCase):
    """Two unlike rows against an adaptive ODE solution that knows nothing of the march."""

    @staticmethod
    def by_ode(units: Sequence[tuple[str, float, float, float, float]], amps: float, start: tuple[float, float]) -> Any:
        """(chemistry, cells, Ah, Ω, lead Ω) a row; each on its own; until the first is empty."""
        table = read_rows("cells")
        soc = [float(row["soc"]) for row in table]
        volts = {name: [float(row[name]) for row in table] for name in ("li-ion", "lfp", "lead")}

        def currents(s: Any) -> list[float]:
            e = [n * float(np.interp(x, soc, volts[c])) for (c, n, *_), x in zip(units, s, strict=True)]
            r = [ohm * float(np.interp(x, (0, 0.1, 0.2, 0.3), (2.2, 1.5, 1.15, 1.0))) + lead for (_, _, _, ohm, lead), x in zip(units, s, strict=True)]
            common = (sum(v / o for v, o in zip(e, r, strict=True)) - amps) / sum(1 / o for o in r)
            return [(v - common) / o for v, o in zip(e, r, strict=True)]

        def slope(_t: float, s: Any) -> list[float]:
            return [-i / (u[2] * 3600.0) for i, u in zip(currents(s), units, strict=True)]

        def empty(_t: float, s: Any) -> float:
            return float(min(s))

        empty.terminal = True  # type: ignore[attr-defined]
        found = solve_ivp(slope, (0, 1e5), start, rtol=1e-9, atol=1e-11, max_step=20.0, events=empty)
        return found.t[-1], found.y[:, -1], currents(start), currents(found.y[:, found.y.shape[1] // 2]), found.t[found.y.shape[1] // 2]

    def test_two_unlike_rows(self) -> None:
        """A new 5 Ah pack beside a worn 2 Ah one; then the worn one half empty at the start, which the new one first charges."""
        units = [("li-ion", 5, 5.0, 0.06, 0.01), ("li-ion", 5, 2.0, 0.25, 0.01)]
        bank = BankModel(tuple(RowModel((Unit(chemistry=c, cells_in_series=int(n), capacity_ah=ah, resistance_ohm=ohm),), 1, lead) for c, n, ah, ohm, lead in units))
        for start in ((1.0, 1.0), (1.0, 0.5)):
            with self.subTest(start):
                found = discharge(bank, 6.0, start, 25.0)
                time, soc, first, middle, at = self.by_ode(units, 6.0, start)
                self.assertAlmostEqual(found.time_s[-1] / time, 1.0, delta=1e-3)
                np.testing.assert_allclose(found.soc[:, -1], np.maximum(soc, 0.0), atol=2e-3)
                np.testing.assert_allclose(found.row_a[:, 0], first, rtol=1e-3, atol=1e-3)
                for line, expected in zip(found.row_a, middle, strict=True):
                    self.assertAlmostEqual(float(np.interp(at, found.time_s, line)), expected, delta=0.02)
                self.assertEqual(found.ends_by, "empty")
                self.assertEqual(found.unit, int(np.argmin(soc)))
                other = 1 - int(np.argmin(soc))
                self.assertAlmostEqual(found.unused_ah[other], soc[other] * units[other][2], delta=0.02)

    def test_its_own_cut_off_or_the_guard_ends_it_first(self) -> None:
        """10 A through 0.1 Ω from ten cells: 36.1 V at 30 % open, so a guard at 35.1 V opens with 30 % left."""

        def one(low: float | None) -> BankModel:
            return BankModel((RowModel((Unit(chemistry="li-ion", cells_in_series=10, capacity_ah=6.0, resistance_ohm=0.1, protection_low_v=low),)),))

        for found, name, unit in ((discharge(one(35.1), 10.0, (1.0,), 25.0), "low cut-off", 0), (discharge(one(None), 10.0, (1.0,), 25.0, 35.1), "guard", None)):
            self.assertEqual((found.ends_by, found.unit), (name, unit))
            self.assertAlmostEqual(found.soc[0, -1], 0.3, delta=2e-3)
            self.assertAlmostEqual(found.time_s[-1] / (0.7 * 6.0 / 10.0 * 3600.0), 1.0, delta=3e-3)
            self.assertAlmostEqual(found.unused_ah[0], 1.8, delta=0.02)

    @settings(max_examples=40, deadline=None)
    @given(st.lists(st.tuples(st.floats(1, 12), st.floats(0.02, 0.5)), min_size=1, max_size=5), st.floats(1, 20))
    def test_what_the_bank_gives_its_rows_give(self, packs: list[tuple[float, float]], amps: float) -> None:
        """At every moment the rows' amps add up to the bank's, and what was drawn is missing from the packs."""
        bank = BankModel(tuple(RowModel((Unit(chemistry="li-ion", cells_in_series=5, capacity_ah=c, resistance_ohm=r),)) for c, r in packs))
        found = discharge(bank, amps, (1.0,) * len(packs), 25.0)
        np.testing.assert_allclose(found.row_a.sum(axis=0), amps, rtol=1e-9)
        drawn = sum(c * (1.0 - s) for (c, _), s in zip(packs, found.soc[:, -1], strict=True))
        self.assertAlmostEqual(drawn / (amps * found.time_s[-1] / 3600.0), 1.0, delta=0.02)


class Slots(TestCase):
    def test_the_same_watts_from_one_row(self) -> None:
        """Half charged the bank is 37.2 V; what two rows give at their volts, one gives at lower ones: I·(37.2 − I·R) is the same."""
        a = Analysis(bike(**rows(PACK, PACK, occupancy="any")))
        both, alone = occupancies(a, a.all_rows)
        watts = [o.rms_a * (o.open_v - o.rms_a * o.resistance_ohm) for o in (both, alone)]
        self.assertAlmostEqual(watts[0], watts[1], places=9)
        self.assertAlmostEqual(alone.resistance_ohm, 2 * both.resistance_ohm, places=12)
        self.assertTrue(alone.enough)
        weak = Analysis(bike(**rows(*({**PACK, "resistance_ohm": named(1.2)} for _ in range(2)), occupancy="any")))
        self.assertFalse(occupancies(weak, weak.all_rows)[1].enough)

    def test_what_unlike_rows_carry_over_a_ride_stays_near_what_the_bank_gives(self) -> None:
        """By the resistances at first, by the amp-hours for most of it, and at the end the larger row gives nearly all: no row less than its amp-hours'
        share, none over a fifth more than the bank. A pedal that is let go takes nothing from the bank while the rows go on settling: what they
        carry then is no share of nothing."""
        chance = Random(5)
        for make, cells in ((ride_on, 5), (bike, 10)):
            for _ in range(8):
                sizes, ohms = [chance.uniform(3, 9) for _ in range(2)], [chance.uniform(0.02, 0.09) * cells / 5 for _ in range(2)]
                packs = [{"label": "p", "cells_in_series": cells, "capacity_ah": named(ah), "resistance_ohm": named(ohm)} for ah, ohm in zip(sizes, ohms, strict=True)]
                found = Analysis(make(bank__rows=[{"units": [pack]} for pack in packs])).all_rows
                for carries, ah in zip(found.row_rms_a, sizes, strict=True):
                    share = carries / found.rms_a
                    self.assertTrue(ah / sum(sizes) - 0.06 < share < 1.2, (make.__name__, sizes, ohms, share))

    def test_like_rows_are_looked_at_once(self) -> None:
        three = Analysis(bike(**rows(PACK, PACK, PACK)))
        self.assertEqual([o.rows for o in occupancies(three, three.all_rows, every=True)], [(0, 1, 2), (0, 1), (0,)])
        self.assertEqual([o.rows for o in occupancies(three, three.all_rows)], [(0, 1, 2)])
        for said, allowed in (("one out", [(0, 1, 2), (0, 1)]), ("any", [(0, 1, 2), (0, 1), (0,)])):
            a = Analysis(bike(**rows(PACK, PACK, PACK, occupancy=said)))
            self.assertEqual([o.rows for o in occupancies(a, a.all_rows)], allowed)

    def test_rows_are_sized_for_the_worst_they_may_be_ridden_with(self) -> None:
        """Two like rows give half each; where any may be ridden alone, one gives it all and a little more, for it sags more."""
        both, any_ = (Analysis(bike(**rows(PACK, PACK, occupancy=said))) for said in ("all", "any"))
        self.assertAlmostEqual(both.row_worst[1][0], both.rms_a / 2)
        self.assertGreater(any_.row_worst[1][0], both.rms_a)
        self.assertLess(any_.row_worst[1][0], 1.15 * both.rms_a)
        run = any_.run("row0")
        assert run is not None
        self.assertEqual(run.amps_a, any_.row_worst[1][0])

    def test_an_unlike_row_is_told_by_its_own_share(self) -> None:
        """0.1 Ω beside 0.3 Ω, alike otherwise: at full charge the rows give 0.306 to 0.106 of it, by their ohms with leads and fuse."""
        a = Analysis(bike(**rows(PACK, {**PACK, "resistance_ohm": named(0.3)})))
        extra = 0.07 / 30 + 2 * 0.2 * 1.724e-8 / 5.261e-6
        share = (1 / (0.1 + extra)) / (1 / (0.1 + extra) + 1 / (0.3 + extra))
        self.assertAlmostEqual(a.all_rows.row_peak_a[0] / float(a.peak_a), share, places=4)

    def test_the_plan_of_two_rows(self) -> None:
        """One after the other each gives what it has: about the same time as together, less what the deeper sag costs."""
        plan = power_plan(bike(**rows({**PACK, "charge": named(1)}, {**PACK, "charge": named(0.8)}, occupancy="any", home_pack={**PACK, "capacity_ah": named(2)})))
        self.assertEqual([o.name for o in plan.occupancies], ["All slots", "Only A", "Home on the small pack"])
        whole, alone, home = plan.occupancies
        assert whole.run_time_s and alone.run_time_s and home.run_time_s and plan.swap
        self.assertGreater(whole.run_time_s, 1.9 * alone.run_time_s)
        self.assertLess(home.run_time_s, 0.4 * alone.run_time_s)
        self.assertAlmostEqual(plan.swap.swapped_s, 2 * alone.run_time_s, delta=1.0)
        self.assertAlmostEqual(plan.swap.swapped_sag_v / plan.swap.together_sag_v, 2.0, delta=0.01)
        self.assertEqual([e.start for e in plan.emptying], ["full", "as they rest"])
        self.assertLess(plan.emptying[1].seconds_s, plan.emptying[0].seconds_s)
        self.assertEqual((len(plan.joining), plan.joining[0].high), (1, 0))
        self.assertGreater(plan.cold[-1].capacity_ah, plan.cold[0].capacity_ah)

    def test_a_helper_and_its_link(self) -> None:
        """A 5-cell helper in series with a 10-cell pack, bypassed: volts as without it."""
        helper = {**PACK, "cells_in_series": 5, "bypass_link": True}
        plan = power_plan(bike(bank={"rows": [{"units": [PACK, helper]}]}, controller__max_v=named(90), controller__nominal_v=named(48)))
        bypassed = next(o for o in plan.occupancies if o.name == "Helper bypassed")
        self.assertAlmostEqual(bypassed.volts_v, 37.2)

    def test_a_machine_that_never_moves_empties_nothing(self) -> None:
        """A low cut-off above full charge: no amps at cruise, no emptying, and the rest of the plan stands."""
        plan = power_plan(bike(**rows(PACK, PACK), controller__undervoltage_v=named(43)))
        self.assertEqual((plan.emptying, len(plan.meter)), ([], 10))

    def test_a_draft_without_packs_or_motor_has_what_can_be_told(self) -> None:
        self.assertEqual(power_plan(Setup()).occupancies, [])
        bare = Setup.model_validate({"bank": {"rows": [{"units": [{**PACK, "charge": named(s)}]} for s in (0.9, 0.5)]}})
        plan = power_plan(bare)
        self.assertEqual((len(plan.joining), plan.occupancies), (1, []))


class Meter(TestCase):
    def test_the_guard_opens_under_load_and_the_packs_recover(self) -> None:
        """Cruise amps times bank and path come back, at the charge where the set point is met; by a fine scan."""
        a = Analysis(bike())
        amps = float(a.ride.pack_ah * 3600.0 / a.ride.run_time_s)
        scan = np.linspace(0, 1, 20001)
        source = a.m.source(scan, held=True)
        open_v = np.asarray(source.open_v)[int(np.argmin(np.abs(source.open_v - amps * a.m.source_ohm(source) - 33.0)))]
        self.assertAlmostEqual(rebound_v(a.m, a.ride, 33.0), float(open_v), delta=0.02)

    def test_resistance_from_two_readings(self) -> None:
        """20.0 V at rest, 18.8 V at 12 A: 100 mΩ at 25 °C and 78 % charge. At 5 °C the cold made 1.553 of it."""
        pack = Pack.model_validate({"cells_in_series": 5, "capacity_ah": named(4)})
        self.assertAlmostEqual(resistance_ohm(pack, 20.0, 18.8, 12.0, 25.0).value, 0.1)
        self.assertAlmostEqual(resistance_ohm(pack, 20.0, 18.8, 12.0, 5.0).value, 0.1 / exp(0.022 * 20))
        # 3.42 V a cell are 10 % charge, where resistance counts half as much again.
        self.assertAlmostEqual(resistance_ohm(pack, 17.1, 15.9, 12.0, 25.0).value, 0.1 / 1.5)
        self.assertIn("bigger load", resistance_ohm(pack, 20.0, 19.9, 1.0, 25.0).doubt)

    def test_capacity_from_a_timed_discharge(self) -> None:
        """Lithium: 2 A for an hour from 100 to 50 % is 4 Ah. Lead: what `usable_ah` gives at 5 A leads back to its 12 Ah."""
        lithium = Pack.model_validate({"cells_in_series": 5, "capacity_ah": named(5)})
        self.assertAlmostEqual(capacity_ah(lithium, 2.0, 3600.0, 1.0, 0.5, 25.0).value, 4.0)
        lead = Pack.model_validate({"chemistry": "lead", "cells_in_series": 6, "capacity_ah": named(12), "guard_in_tool": False})
        for temp in (25.0, 5.0):
            given = float(usable_ah(Unit(chemistry="lead", cells_in_series=6, capacity_ah=12.0, resistance_ohm=0.05), 5.0, temp))
            self.assertAlmostEqual(capacity_ah(lead, 5.0, given / 5.0 * 3600.0, 1.0, 0.0, temp).value, 12.0, places=6)

    def test_readings_that_cannot_be_say_what_to_do(self) -> None:
        pack = Pack.model_validate({"cells_in_series": 5, "capacity_ah": named(4)})
        wrong: list[tuple[Callable[[], object], str]] = [
            (lambda: resistance_ohm(pack, 18.0, 18.5, 5.0, 25.0), "swapped"),
            (lambda: resistance_ohm(pack, 18.5, 18.0, 0.0, 25.0), "amps"),
            (lambda: capacity_ah(pack, 2.0, 60.0, 1.0, 0.95, 25.0), "tenth"),
            (lambda: capacity_ah(pack, 0.0, 60.0, 1.0, 0.5, 25.0), "more than zero"),
        ]
        for call, words in wrong:
            with self.assertRaisesRegex(GeckoError, words):
                call()


class Room(TestCase):
    @staticmethod
    def bay(length: float, width: float, height: float, gap: float = 0.0) -> Bay:
        return Bay.model_validate({"length_m": length, "width_m": width, "height_m": height, "clearance_m": gap, "connector_m": 0.02})

    def test_boxes_are_turned_until_they_fit(self) -> None:
        """Six of 10 × 20 × 30 cm fill 60 × 30 × 20 cm exactly; a seventh does not go in, nor one longer than the bay."""
        bay = self.bay(0.6, 0.3, 0.2)
        found = lay_in(bay, [(0.1, 0.2, 0.3)] * 6)
        self.assertEqual(found.answer, "fits")
        self.assertEqual(len({box.at for box in found.boxes}), 6)
        for box in found.boxes:
            self.assertEqual(sorted(round(side, 9) for side in box.sides), [0.1, 0.2, 0.3])
        self.assertEqual(lay_in(bay, [(0.1, 0.2, 0.3)] * 7).answer, "too big")
        self.assertEqual(lay_in(bay, [(0.61, 0.01, 0.01)]).answer, "too big")
        self.assertEqual(lay_in(bay, [(0.61, 0.01, 0.01), (0.01, 0.01, 0.01)]).answer, "too big", "One of them is enough.")

    def test_room_enough_is_not_always_a_way(self) -> None:
        """Two cubes of 12 cm have room by volume in 20 × 20 × 15 cm, but no place beside each other."""
        self.assertEqual(lay_in(self.bay(0.2, 0.2, 0.15), [(0.12, 0.12, 0.12)] * 2).answer, "no way found")

    @settings(max_examples=60, deadline=None)
    @given(st.lists(st.tuples(*[st.floats(0.03, 0.25)] * 3), min_size=1, max_size=6))
    def test_what_fits_lies_inside_and_apart(self, sizes: list[tuple[float, float, float]]) -> None:
        found = lay_in(self.bay(0.5, 0.3, 0.25), sizes)
        for i, one in enumerate(found.boxes):
            self.assertTrue(all(a >= 0 and a + s <= most + 1e-9 for a, s, most in zip(one.at, one.sides, (0.5, 0.3, 0.25), strict=True)))
            for other in found.boxes[i + 1 :]:
                overlap = [min(one.at[k] + one.sides[k], other.at[k] + other.sides[k]) - max(one.at[k], other.at[k]) for k in range(3)]
                self.assertLessEqual(min(overlap), 1e-9)

    def test_padding_and_connectors_count(self) -> None:
        """A pack of 12 × 7.5 × 6.5 cm with 1 cm of padding and 2 cm for its connectors takes 13 × 8.5 × 9.5 cm."""
        pack = Pack.model_validate({**PACK, "length_m": 0.12, "width_m": 0.075, "height_m": 0.065})
        sides = sides_m(pack, self.bay(0.5, 0.5, 0.5, 0.01))
        assert sides is not None
        np.testing.assert_allclose(sides, (0.13, 0.085, 0.095))
        self.assertIsNone(sides_m(Pack.model_validate(PACK), self.bay(1, 1, 1)))

    def test_where_the_weight_sits(self) -> None:
        """Two cubes of 10 cm side by side, 1 and 3 kg: 5 + 10·3/4 = 12.5 cm along, in the middle otherwise."""
        found = lay_in(self.bay(0.2, 0.1, 0.1), [(0.1, 0.1, 0.1)] * 2)
        balance = balance_m(found, [1.0, 3.0] if found.boxes[0].index == 0 else [3.0, 1.0])
        assert balance is not None
        np.testing.assert_allclose(balance, (0.125, 0.05, 0.05))
        self.assertIsNone(balance_m(lay_in(self.bay(0.1, 0.1, 0.1), [(1.0, 1.0, 1.0)]), [1.0]))

    def test_mass_from_energy_unless_weighed(self) -> None:
        """6 Ah at 36 V are 216 Wh, at 135 Wh/kg 1.6 kg."""
        self.assertAlmostEqual(Pack.model_validate(PACK).weighs_kg, 1.6)
        self.assertEqual(Pack.model_validate({**PACK, "mass_kg": 1.9}).weighs_kg, 1.9)

    def test_the_plan_tells_height_and_place(self) -> None:
        packs = {**PACK, "length_m": named(0.1), "width_m": named(0.1), "height_m": named(0.08), "mass_kg": named(2)}
        bay = {"length_m": named(0.3), "width_m": named(0.2), "height_m": named(0.12), "clearance_m": 0, "connector_m": 0.02, "ahead_of_rear_m": 0.4, "floor_m": 0.2}
        plan = power_plan(bike(**rows(packs, packs), vehicle={"family": "quad", "bay": bay}))
        assert plan.bay is not None and plan.bay.height_m is not None and plan.bay.ahead_of_rear_m is not None
        self.assertEqual(plan.bay.answer, "fits")
        self.assertAlmostEqual(plan.bay.height_m, 0.25)
        self.assertEqual(plan.mass_kg, 4.0)


class AllAtOnce(TestCase):
    def test_three_rows_joined_at_once_by_hand(self) -> None:
        """Two rows at 41.0 V and one at 40.0 V, each 0.1 Ω by the same cells: the bus stands at 40.667 V, so 0.667 V over the low row's ohms
        flow into it, a third more than the half volt a single full row would push through both."""
        three = bike(
            bank__rows=[{"units": [{"cells_in_series": 10, "capacity_ah": named(6), "resistance_ohm": named(0.1), "resting_v": named(v)}]} for v in (41.0, 41.0, 40.0)]
        )
        a = Analysis(three)
        (rush,) = rushes(a.setup.bank, a.setup.ground)
        worst = worst_joining(a.setup.bank, a.setup.ground)
        assert worst is not None
        self.assertEqual(rush.row, 2)
        self.assertAlmostEqual(rush.amps_a / worst.first_a, (2.0 / 3.0) / 0.5, delta=0.03)
        # Kirchhoff: what goes in comes out of the others.
        self.assertEqual(rushes(bike().bank, bike().ground), [])


class OneMore(TestCase):
    """What a bank becomes with one pack more. The 7-cell pack at rest at 27.9 V beside a worn 10-cell one is the case that was filled wrongly."""

    SEVEN = {"label": "seven", "cells_in_series": 7, "capacity_ah": named(5), "resting_v": named(27.9, "measured")}
    TEN = {
        "label": "ten",
        "cells_in_series": 10,
        "capacity_ah": named(4.1, "measured"),
        "resistance_ohm": named(0.09, "measured"),
        "age": "worn",
        "temp_c": 4.0,
        "damage": ["dropped"],
        "peak_10s_a": named(30),
    }

    def test_each_is_followed_by_one_of_its_own_kind(self) -> None:
        told = evaluate(bike(**rows(self.SEVEN, self.TEN))).bank
        assert told is not None
        self.assertFalse(told.alike)
        (seven,), (ten,) = told.another
        self.assertEqual((seven.label, seven.cells_in_series, seven.resting_v), ("seven", 7, None))
        self.assertEqual((ten.cells_in_series, ten.resistance_ohm, ten.age, ten.temp_c, ten.damage), (10, None, "unknown", None, []))
        self.assertEqual((ten.capacity_ah.value, ten.capacity_ah.basis), (4.1, "assumed"))
        self.assertEqual(ten.peak_10s_a and ten.peak_10s_a.value, 30)

    def test_one_more_in_series_by_hand(self) -> None:
        """Two packs of five cells are 36 V, full 42 V; with a third 54 V and 63 V, more than a controller made for 60 V stands. Two rows of
        5 Ah hold 10 Ah, three 15 Ah."""
        five = {"cells_in_series": 5, "capacity_ah": named(5)}
        told = evaluate(bike(bank={"rows": [{"units": [five, five]}] * 2}, controller__max_v=named(60))).bank
        assert told is not None and told.one_more_in_series is not None
        self.assertTrue(told.alike)
        more = told.one_more_in_series
        self.assertAlmostEqual(more.nominal_v, 54.0)
        self.assertAlmostEqual(more.full_v, 63.0)
        self.assertEqual((more.controller_v, more.refused), (60.0, True))
        self.assertAlmostEqual(told.one_more_row_ah, 15.0)

    def test_a_full_row_takes_no_more(self) -> None:
        two = {"chemistry": "lead", "cells_in_series": 1, "capacity_ah": named(5)}
        told = evaluate(bike(bank={"rows": [{"units": [two] * 10}]})).bank
        assert told is not None
        self.assertIsNone(told.one_more_in_series)

    def test_made_alike_a_row_keeps_what_matches(self) -> None:
        """The one that does not match is replaced by a pack of the first one's kind, not by a copy of the first with the volts and ohms measured on it."""
        first = {**self.TEN, "cells_in_series": 5, "resting_v": named(19.0, "measured"), "age": "new", "damage": []}
        odd = bike(bank={"rows": [{"units": [first, {**first, "capacity_ah": named(2)}]}]})
        fix = next(fix for found in fixes(odd) if found.key.startswith("pack.mixed.series") for fix in found.fixes)
        units = load_setup(apply_patch(odd.model_dump(mode="json"), fix.patch)).bank.rows[0].units  # type: ignore[union-attr]
        self.assertEqual(units[0], Pack.model_validate(first))
        self.assertEqual((units[1].resting_v, units[1].resistance_ohm, units[1].capacity_ah.value), (None, None, 4.1))
