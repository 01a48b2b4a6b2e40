"""The fuse-and-wire table a second time: one cell at a time, in plain arithmetic, written from docs/model.md alone."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise
from math import exp, inf, log, pi, prod, sqrt
from unittest import TestCase

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import solve_ivp

from gecko.physics.protection.choice import CONDITIONS, ChoiceInput, RowFuse, choice_table
from gecko.reference.tables import AWG_SIZES, OfferedFuse, offered_fuses

RHO20, ALPHA = 1.724e-8, 0.00393
AMPACITY = {
    "60": (10, 15, 20, 25, 40, 55, 80, 105, 140),
    "105": (20, 25, 35, 45, 60, 80, 120, 160, 210),
    "building": (7, 10, 15, 20, 30, 40, 55, 70, 95),
}
"""Single conductors in free air at 30 °C, by gauge 18 to 2. [A]"""
RATED_C = {"60": 60.0, "105": 105.0, "building": 60.0}
WITHSTAND = {"60": 115.0, "105": 88.0, "silicone": 123.0}

BLADE = ((1.10, 360_000.0, inf), (1.35, 0.75, 600.0), (1.60, 0.25, 50.0), (2.0, 0.15, 5.0), (3.5, 0.04, 0.5), (6.0, 0.02, 0.1))
LARGE = ((1.10, 14_400.0, inf), (1.35, 60.0, 1800.0), (2.0, 2.0, 60.0), (3.5, 0.20, 7.0), (6.0, 0.04, 1.0))


def area_mm2(awg: int) -> float:
    return float(pi / 4 * (0.127 * 92 ** ((36 - awg) / 39)) ** 2)


def ohm_per_m(awg: int) -> float:
    return RHO20 / (area_mm2(awg) * 1e-6)


def times(kind: str, multiple: float) -> tuple[float, float]:
    """Shortest and longest opening, straight lines between the points of the band on log–log paper. [s]"""
    band = BLADE if kind == "blade" else LARGE
    if multiple >= band[-1][0]:
        tail = (band[-1][0] / multiple) ** 2
        return band[-1][1] * tail, band[-1][2] * tail

    def line(column: int, points: tuple[tuple[float, float, float], ...]) -> float:
        for (m0, *low), (m1, *high) in pairwise(points):
            if multiple <= m1 or m1 == points[-1][0]:
                share = log(multiple / m0) / log(m1 / m0)
                return exp(log(low[column]) + share * (log(high[column]) - log(low[column])))
        raise AssertionError

    shortest = line(0, band)
    return shortest, (inf if multiple < 1.35 - 1e-12 else line(1, band[1:]))


def bundle(conductors: int) -> float:
    return 1.0 if conductors == 1 else 0.7 if conductors < 4 else 0.6 if conductors < 7 else 0.5


def warms_in_s(awg: int, amps: float, stands: float, rated_c: float, air_c: float) -> float:
    """Seconds until the copper of one metre is at its insulation's rating, by an integrator; inf when it never is."""
    r20 = ohm_per_m(awg)
    heat = area_mm2(awg) * 1e-6 * 8960 * 385
    loss = stands**2 * r20 * (1 + ALPHA * (rated_c - 20)) / (rated_c - 30)

    def rise(_t: float, c: list[float]) -> list[float]:
        return [(amps**2 * r20 * (1 + ALPHA * (c[0] - 20)) - loss * (c[0] - air_c)) / heat]

    def arrives(_t: float, c: list[float]) -> float:
        return c[0] - rated_c

    arrives.terminal = True  # type: ignore[attr-defined]
    if rise(0, [rated_c])[0] <= 0:
        return inf
    found = solve_ivp(rise, (0, 1e7), [air_c], events=arrives, rtol=1e-8, atol=1e-8)
    return float(found.t[-1])


def cell(data: ChoiceInput, fuse: OfferedFuse, awg: int) -> tuple[set[str], dict[str, float]]:
    """The conditions a fuse on a wire fails, one after the other, and the numbers behind them."""
    failed = set()
    worst = 0.0
    column = AWG_SIZES.index(awg)
    table, rated_c = AMPACITY[data.row][column], RATED_C[data.row]
    if data.continuous_a > 0.75 * fuse.rating_a * (1 - 0.0015 * max(0.0, data.air_c - 25)):
        failed.add("continuous")
    if data.reachable_a is not None and data.reachable_a > 1.10 * fuse.rating_a:
        failed.add("limit_110")
    spent = 0.0
    amps, seconds = data.launch_a[::2], data.launch_s[::2]
    rate = [
        0.0 if times(fuse.kind, i / fuse.rating_a)[1] == inf else 1 / sqrt(times(fuse.kind, i / fuse.rating_a)[0] * times(fuse.kind, i / fuse.rating_a)[1]) for i in amps
    ]
    for k in range(len(rate) - 1):
        spent += (rate[k] + rate[k + 1]) / 2 * (seconds[k + 1] - seconds[k])
    if 10 * spent >= 0.5:
        failed.add("nuisance")
    for multiple in (1.35, 2.0):
        warms = 0.0 if data.air_c >= rated_c else warms_in_s(awg, multiple * fuse.rating_a, table * bundle(data.conductors), rated_c, data.air_c)
        worst = max(worst, 0.0 if warms == inf else times(fuse.kind, multiple)[1] / max(warms, 1e-12))
    if worst >= 1:
        failed.add("wire")
    if data.least_part_a is not None and fuse.rating_a > data.least_part_a:
        failed.add("parts")
    wire, own = ohm_per_m(awg) * data.length_both_ways_m, 0.07 / fuse.rating_a
    far = data.warm_open_v / (data.fault_bank_ohm + data.other_path_ohm + wire + own)
    near = data.warm_open_v / (data.warm_bank_ohm + own)
    cold = data.cold_open_v / (data.cold_bank_ohm + data.other_path_ohm + wire + own)
    if near > fuse.breaking_a:
        failed.add("breaking")
    if far**2 * times(fuse.kind, far / fuse.rating_a)[1] > (WITHSTAND[data.insulation] * area_mm2(awg)) ** 2:
        failed.add("withstand")
    if cold < 2 * fuse.rating_a and (data.trip_a is None or cold < data.trip_a):
        failed.add("cold_short")
    if data.full_v > fuse.dc_volts_v:
        failed.add("volts")
    if data.continuous_a * wire / data.half_charge_v > 0.10:
        failed.add("drop")
    for row in data.row_fuses:
        for flows in (2.0 * fuse.rating_a, far):
            first = sqrt(prod(times(row.kind, flows * row.share / row.rating_a)))
            if first < inf and first <= 1.05 * sqrt(prod(times(fuse.kind, flows / fuse.rating_a))):
                failed.add("selectivity")
    numbers = {
        "nuisance_sum": 10 * spent,
        "longest_opening_over_wire_time_worst": worst,
        "prospective_a": far,
        "near_fault_a": near,
        "prospective_20_percent_coldest_a": cold,
        "i2t_over_withstand": min(far**2 * times(fuse.kind, far / fuse.rating_a)[1] / (WITHSTAND[data.insulation] * area_mm2(awg)) ** 2, 1e9),
        "drop_share_at_continuous_a": data.continuous_a * wire / data.half_charge_v,
    }
    return failed, numbers


inputs = st.builds(
    lambda rms, limit, launch, row, conductors, air, length, part, cells, ohm, cold, other, trip, fuse: ChoiceInput(
        continuous_a=rms,
        reachable_a=limit,
        launch_a=launch * np.linspace(1.0, 0.5, 11),
        launch_s=np.linspace(0.0, 4.0, 11),
        row=row,
        insulation=row if row in WITHSTAND else "60",
        conductors=conductors,
        air_c=air,
        length_both_ways_m=length,
        least_part_a=part,
        full_v=4.2 * cells,
        half_charge_v=3.72 * cells,
        warm_open_v=4.19 * cells,
        warm_bank_ohm=ohm * 0.9,
        fault_bank_ohm=ohm,
        cold_open_v=3.54 * cells,
        cold_bank_ohm=ohm * cold,
        other_path_ohm=other,
        trip_a=trip,
        row_fuses=() if fuse is None else (RowFuse("blade" if cells % 2 else "large blade", fuse, 0.5),),
    ),
    st.floats(2, 60),
    st.none() | st.floats(5, 120),
    st.floats(5, 200),
    st.sampled_from(sorted(AMPACITY)),
    st.integers(1, 9),
    st.floats(-10, 59),
    st.floats(0.2, 12),
    st.none() | st.floats(10, 200),
    st.integers(3, 28),
    st.floats(0.01, 0.4),
    st.floats(1.2, 3),
    st.floats(0, 0.05),
    st.none() | st.floats(20, 300),
    st.none() | st.sampled_from([10.0, 20.0, 30.0]),
)


class SecondTable(TestCase):
    @settings(max_examples=25, deadline=None)
    @given(inputs, st.randoms(use_true_random=False))
    def test_cells_fail_the_same_conditions(self, data: ChoiceInput, random: object) -> None:
        """Thirty cells of a random table, each against the second solution: which conditions fail, and every number to 1e-5."""
        fuses = offered_fuses()
        table = choice_table(data, fuses)
        for _ in range(30):
            f, g = random.randrange(len(fuses)), random.randrange(len(AWG_SIZES))  # type: ignore[attr-defined]
            first = {name for name in CONDITIONS if table.fails[name][f, g]}
            failed, numbers = cell(data, fuses[f], AWG_SIZES[g])
            self.assertEqual(first, failed, (fuses[f], AWG_SIZES[g], numbers))
            for name, number in numbers.items():
                np.testing.assert_allclose(table.numbers[name][f, g], number, rtol=1e-5, atol=1e-12, err_msg=name)

    @settings(max_examples=25, deadline=None)
    @given(inputs)
    def test_what_is_told_of_a_condition_passes_its_limit_where_the_condition_fails(self, data: ChoiceInput) -> None:
        table = choice_table(data, offered_fuses())
        for name, (measured, limit) in table.measures.items():
            with self.subTest(name):
                apart = np.abs(measured - limit) > 1e-9
                np.testing.assert_array_equal((measured > limit)[apart], table.fails[name][apart])

    @settings(max_examples=25, deadline=None)
    @given(inputs)
    def test_the_recommendation_is_the_first_in_its_order(self, data: ChoiceInput) -> None:
        """Among the feasible cells: no cartridge before another kind, then the thinnest wire, simplest kind, smallest rating, lowest volts."""
        kinds = ["blade", "large blade", "bolt-down", "cartridge"]
        fuses = offered_fuses()
        table = choice_table(data, fuses)
        for school in ("careful", "common"):
            good = [(int(f), int(g)) for f, g in zip(*np.nonzero(table.feasible(school)), strict=True)]
            ranked = sorted(good, key=lambda c: (fuses[c[0]].kind == "cartridge", c[1], kinds.index(fuses[c[0]].kind), fuses[c[0]].rating_a, fuses[c[0]].dc_volts_v))
            best = table.recommended(school)
            if not ranked:
                self.assertIsNone(best)
                continue
            assert best is not None
            self.assertEqual((fuses[best[0]], best[1]), (fuses[ranked[0][0]], ranked[0][1]))

    @settings(max_examples=25, deadline=None)
    @given(inputs)
    def test_blocking_counts_what_would_open_up(self, data: ChoiceInput) -> None:
        table = choice_table(data, offered_fuses())
        for school in ("careful", "common"):
            masks = table.failing(school)
            for name, gains in table.blocking(school):
                without = [mask for other, mask in masks.items() if other != name]
                self.assertEqual(gains, int((~np.logical_or.reduce(without)).sum()))

    def test_a_rated_current_to_the_edge_of_each_condition(self) -> None:
        """30 A blade on 10 AWG, 25 °C air: carries 22.5 A for good, 33 A at the controller; breaks 1000 A; wants 60 A of a cold short."""
        base = ChoiceInput(
            continuous_a=22.4,
            reachable_a=32.9,
            launch_a=np.full(3, 30.0),
            launch_s=np.linspace(0, 4, 3),
            row="105",
            insulation="105",
            conductors=1,
            air_c=25.0,
            length_both_ways_m=1.0,
            least_part_a=30.0,
            full_v=42.0,
            half_charge_v=37.2,
            warm_open_v=41.9,
            warm_bank_ohm=0.0400,
            fault_bank_ohm=0.05,
            cold_open_v=35.4,
            cold_bank_ohm=0.5,
            other_path_ohm=0.0,
            trip_a=None,
            row_fuses=(RowFuse("blade", 15.5, 0.5),),
        )
        fuse = OfferedFuse("blade", 58.0, 1000.0, 30.0)
        for change, condition in (
            ({"continuous_a": 22.6}, "continuous"),
            ({"reachable_a": 33.1}, "limit_110"),
            ({"least_part_a": 29.9}, "parts"),
            ({"full_v": 58.1}, "volts"),
            # Half the current each: past six times I²t is constant, so the times go as (15.5/15)² = 1.068 and (15.3/15)² = 1.040 against 1.05.
            ({"row_fuses": (RowFuse("blade", 15.3, 0.5),)}, "selectivity"),
            # 41.9 V over 1000 A are 41.9 mΩ; the fuse has 2.333 mΩ of it.
            ({"warm_bank_ohm": 0.0395}, "breaking"),
            # 35.4 V over 60 A are 0.59 Ω.
            ({"cold_bank_ohm": 0.60}, "cold_short"),
        ):
            with self.subTest(condition):
                g = AWG_SIZES.index(10)
                self.assertFalse(choice_table(base, (fuse,)).fails[condition][0, g])
                self.assertTrue(choice_table(replace(base, **change), (fuse,)).fails[condition][0, g])
