"""The wiring as a tree of runs, by hand: what flows, what a short draws, what a wire warms to, what the resistor must bear."""

from __future__ import annotations

from math import log, pi
from typing import Any
from unittest import TestCase

import jsonpatch
import numpy as np
from scipy.integrate import solve_ivp

from gecko.analysis.precharge import precharge
from gecko.analysis.runs import branch_a, letters
from gecko.analysis.whole import Analysis
from gecko.answers.evaluation import Finding
from gecko.document.context import Context, HouseRules
from gecko.document.parts.controller import Controller
from gecko.document.parts.wire import Lead, size_of
from gecko.document.setup import Setup, load_setup
from gecko.physics.heat.wire import settled_c
from gecko.physics.protection.ampacity import Size, derated_ampacity_a, sizes_with
from gecko.plans.curves import build_choice
from gecko.plans.evaluate import evaluate
from gecko.plans.fixes import fixes
from gecko.plans.protect import protect_plan
from gecko.rules.registry import run_checks
from gecko.tests.machines import bike, named, ride_on

RHO = 1.724e-8
PACK = {"label": "p", "cells_in_series": 10, "capacity_ah": named(6), "resistance_ohm": named(0.1), "age": "new"}
FUSE = {"kind": "blade", "rating_a": 20, "dc_volts_v": 58}
SHORT = {"awg": 12, "length_m": named(0.2)}
LAMPS = {"label": "lamps", "amps_a": named(2), "fuse": {"kind": "blade", "rating_a": 5, "dc_volts_v": 58}, "lead": {"awg": 18, "length_m": named(1)}}


def area_m2(awg: int) -> float:
    return float(pi / 4 * (0.127e-3 * 92 ** ((36 - awg) / 39)) ** 2)


def pair_ohm(awg: int, length_m: float) -> float:
    """A pair of leads, out and back. [Ω]"""
    return 2 * length_m * RHO / area_m2(awg)


def two_rows(**more: Any) -> Setup:
    row = {"units": [PACK], "fuse": FUSE, "lead": SHORT}
    return bike(bank={"rows": [{**row, **more}, {**row, **more}], "occupancy": "all"})


def found(setup: Setup, rule: str, context: Context | None = None) -> list[Finding]:
    return [f.finding for f in run_checks(Analysis(setup, context)) if f.finding.id == rule]


class Sizes(TestCase):
    def test_square_millimetres_lie_between_the_gauges(self) -> None:
        """4 mm² between 12 AWG (3.309 mm², 45 A) and 10 AWG (5.261 mm², 60 A), log–log: 45·(4/3.309)^(ln(60/45)/ln(5.261/3.309))."""
        power = log(60 / 45) / log(area_m2(10) / area_m2(12))
        self.assertAlmostEqual(Size(12, mm2=4.0).table_a("105"), 45 * (4.0e-6 / area_m2(12)) ** power, places=6)
        self.assertAlmostEqual(Size(18, mm2=area_m2(14) * 1e6).table_a("60"), 20.0, places=6)
        # Beyond the table the last slope goes on: 0.5 mm² under 18 AWG, 50 mm² over 2 AWG.
        self.assertLess(Size(12, mm2=0.5).table_a("105"), 20.0)
        self.assertGreater(Size(12, mm2=50.0).table_a("105"), 210.0)

    def test_two_wires_carry_twice_but_crowd_the_bundle(self) -> None:
        """Two 12 AWG in a pair of leads: four loaded wires, 90 A · 0.6."""
        self.assertAlmostEqual(derated_ampacity_a(Size(12, strands=2), "105", 25.0, 2), 54.0)
        lead = Lead.model_validate({"awg": 12, "length_m": 1, "strands": 2})
        self.assertAlmostEqual(lead.ohm, pair_ohm(12, 1.0) / 2)

    def test_an_own_size_stands_among_the_gauges_by_its_copper(self) -> None:
        own = size_of(Lead.model_validate({"mm2": 4, "length_m": 1}))
        sizes = sizes_with(own)
        self.assertEqual(sizes.index(own), [s.awg for s in sizes].index(10) - 1)
        self.assertEqual(len(sizes_with(Size(10))), 9)

    def test_a_lead_in_mm2_is_judged_like_a_gauge(self) -> None:
        """5.261 mm² is 10 AWG under another name: the same findings, the same volts lost, a column of its own in the table."""
        metric = bike(main_lead={"mm2": area_m2(10) * 1e6, "length_m": named(0.6), "insulation": "105", "bundle_conductors": 2})
        mine, other = evaluate(metric), evaluate(bike())
        self.assertEqual([f.key for f in mine.findings], [f.key for f in other.findings])
        table, gauges = build_choice(Analysis(metric)), build_choice(Analysis(bike()))
        assert table is not None and table.chosen is not None and gauges is not None and gauges.chosen is not None
        self.assertEqual(len(table.sizes), 10)
        for name, value in gauges.chosen.numbers.items():
            self.assertAlmostEqual(table.chosen.numbers[name], value, delta=1e-6 * max(abs(value), 1.0))


class Heat(TestCase):
    def test_at_its_ampacity_a_wire_settles_at_its_rating(self) -> None:
        """By what the table means: 45 A through 12 AWG in 30 °C air end at 105 °C; nothing flowing ends at the air."""
        self.assertAlmostEqual(float(settled_c(area_m2(12), 45.0, 45.0, 105.0, 30.0)), 105.0, places=6)
        self.assertAlmostEqual(float(settled_c(area_m2(12), 0.0, 45.0, 105.0, 21.0)), 21.0)
        self.assertTrue(np.isinf(settled_c(area_m2(12), 200.0, 45.0, 105.0, 30.0)))

    def test_ten_minutes_by_an_ode(self) -> None:
        """The copper's heat balance of docs/model.md marched by an adaptive solver from the air's temperature."""
        run = next(r for r in protect_plan(bike(main_lead__awg=16)).runs if r.id == "main")
        area, amps = area_m2(16), run.asked_a
        hot = RHO / area * (1 + 0.00393 * 85)
        loss = (25 * 0.7) ** 2 * hot / 75.0

        def slope(_t: float, c: Any) -> Any:
            return (amps**2 * RHO / area * (1 + 0.00393 * (c - 20)) - loss * (c - 25)) / (area * 8960 * 385)

        expected = solve_ivp(slope, (0, 600), [25.0], rtol=1e-9).y[0, -1]
        self.assertAlmostEqual(run.ten_minutes_c, expected, places=3)
        assert run.steady_c is not None
        self.assertGreaterEqual(run.steady_c, run.ten_minutes_c)


class Runs(TestCase):
    def test_every_lead_is_a_run_with_its_guard(self) -> None:
        setup = bike(
            bank={"rows": [{"units": [PACK, PACK], "fuse": FUSE, "lead": SHORT, "link": SHORT}], "occupancy": "all"},
            controller__max_v=named(90),
            controller_lead=SHORT,
            motor_lead=SHORT,
            auxiliaries=[LAMPS, {**LAMPS, "label": "horn", "fuse": None}, {**LAMPS, "label": "meter", "fuse": None, "taps": "at the packs"}],
        )
        runs = Analysis(setup).runs
        self.assertEqual(
            [(r.id, r.guard, r.after) for r in runs],
            [
                ("row0", "row0", ""),
                ("link0", "row0", ""),
                ("main", "main", ""),
                ("controller", "main", "main"),
                ("motor", "", "controller"),
                ("accessory0", "accessory0", "main"),
                ("accessory1", "main", "main"),
                ("accessory2", "", ""),
            ],
        )
        self.assertEqual([letters(rows) for rows in ((0,), (0, 1), (0, 2, 3), (0, 1, 2, 3))], ["A", "A and B", "A, C and D", "A to D"])

    def test_shorts_by_hand(self) -> None:
        """Two rows of 41.9 V: each 0.1 Ω, 20 A fuse 3.5 mΩ, 0.2 m of 12 AWG; then the main fuse and 0.6 m of 10 AWG and the rest of the path."""
        setup = two_rows()
        plan = protect_plan(setup)
        row_ohm = 0.1 + 0.07 / 20 + pair_ohm(12, 0.2)
        row = next(r for r in plan.runs if r.id == "row0")
        self.assertAlmostEqual(row.short_a / (41.9 / row_ohm), 1.0, places=5)
        nodes = {n.name: n for n in plan.nodes}
        self.assertAlmostEqual(nodes["The joint of the rows"].short_a / (41.9 / (row_ohm / 2)), 1.0, places=5)
        path = 0.07 / 30 + pair_ohm(10, 0.6) + 4 * 0.0006 + 0.006 + 0.002
        self.assertAlmostEqual(nodes["Right behind the main fuse"].short_a / (41.9 / (row_ohm / 2 + 0.07 / 30)), 1.0, places=5)
        self.assertAlmostEqual(nodes["At the controller"].short_a / (41.9 / (row_ohm / 2 + path)), 1.0, places=5)
        # At 20 % and −10 °C: 35.4 V, resistance 1.15·e^(0.022·35).
        cold = 35.4 / ((0.1 * 1.15 * np.exp(0.77) + row_ohm - 0.1) / 2 + path)
        self.assertAlmostEqual(nodes["At the controller"].cold_a / cold, 1.0, places=5)
        # Over six times its rating a blade opens within 0.1 s · (6/multiple)².
        multiple = nodes["At the controller"].short_a / 30
        self.assertAlmostEqual(nodes["At the controller"].opens_s or 0.0, 0.1 * (6 / multiple) ** 2, places=6)

    def test_what_each_joint_costs(self) -> None:
        """Volts and watts by Ohm: a 30 A fuse has 2.33 mΩ, four poles of 0.6 mΩ, the cut-off 6 mΩ, the guard 2 mΩ."""
        a = Analysis(bike())
        joints = {j.name: j for j in protect_plan(bike()).joints}
        for name, ohm in (("Main fuse", 0.07 / 30), ("two-pole 60 plug", 0.0024), ("Cut-off", 0.006), ("Low-volt guard", 0.002), ("Main lead", pair_ohm(10, 0.6))):
            self.assertAlmostEqual(joints[name].ohm, ohm, places=9)
            self.assertAlmostEqual(joints[name].volts_v, a.rms_a * ohm, places=9)
            self.assertAlmostEqual(joints[name].watts_w, a.rms_a**2 * ohm, places=9)

    def test_the_motor_lead_slows_and_the_row_lead_sags(self) -> None:
        """A switched motor sees its lead as more resistance; top speed falls, and the stall current by E/(R + R_lead)."""
        thin = {"awg": 18, "length_m": named(2)}
        without, with_lead = Analysis(ride_on()), Analysis(ride_on(motor_lead=thin))
        self.assertLess(float(with_lead.top), float(without.top))
        stalls = [float(a.full.open_v) / float(a.stall_point.pack_a) for a in (without, with_lead)]
        self.assertAlmostEqual(stalls[1] - stalls[0], pair_ohm(18, 2.0), places=9)
        self.assertAlmostEqual(float(Analysis(two_rows()).half.resistance_ohm), (0.1 + 0.0035 + pair_ohm(12, 0.2)) / 2, places=9)

    def test_a_converter_asks_less_of_the_bank(self) -> None:
        """2 A at 12 V through 88 % from 37.2 V: 24 W/0.88/37.2 V = 0.733 A."""
        lamps = {**LAMPS, "converter": {"input_min_v": 20, "input_max_v": 60, "output_v": 12, "output_a": 5}}
        branch = bike(auxiliaries=[lamps]).auxiliaries[0]
        self.assertAlmostEqual(branch_a(branch, 37.2), 24 / 0.88 / 37.2)

    def test_thicker_wire_saves_what_ohm_says(self) -> None:
        run = next(r for r in protect_plan(bike()).runs if r.id == "main")
        assert run.thicker is not None
        self.assertEqual(run.thicker.size.awg, 8)
        self.assertAlmostEqual(run.thicker.saved_v, run.asked_a * (pair_ohm(10, 0.6) - pair_ohm(8, 0.6)), places=9)
        self.assertGreater(run.thicker.speed_m_s, 0)

    def test_all_runs_at_once_meet_every_condition(self) -> None:
        bad = bike(
            bank={"rows": [{"units": [PACK], "fuse": {**FUSE, "rating_a": 40}, "lead": {"awg": 18, "length_m": named(0.2)}} for _ in range(2)], "occupancy": "all"},
            main_lead__awg=16,
            controller_lead={"awg": 18, "length_m": named(0.3)},
        )
        plan = protect_plan(bad)
        self.assertTrue(all(run.fails for run in plan.runs if run.id != "motor"))
        assert plan.all_best is not None
        after = load_setup(jsonpatch.apply_patch(bad.model_dump(mode="json"), plan.all_best.patch))
        self.assertEqual([run.fails for run in protect_plan(after).runs], [[], [], [], []])
        self.assertIsNone(protect_plan(after).all_best)

    def test_the_table_of_any_run(self) -> None:
        plan = protect_plan(two_rows(), run_id="row0")
        assert plan.choice is not None and plan.choice.chosen is not None
        self.assertEqual((plan.choice.run, plan.choice.chosen.rating_a), ("row0", 20))
        self.assertEqual(protect_plan(two_rows(), run_id="nothing").choice, None)
        self.assertEqual(protect_plan(load_setup({})).runs, [])

    def test_unfused_stretches(self) -> None:
        bare = protect_plan(bike(bank={"rows": [{"units": [PACK], "lead": {"awg": 12, "length_m": named(0.5)}}]}))
        self.assertEqual([(s.name, s.length_m) for s in bare.stretches], [("Row A, to the joint", 0.5), ("Packs to the main fuse", 0.15)])
        self.assertEqual([s.name for s in protect_plan(two_rows()).stretches], ["Row A, to its fuse", "Row B, to its fuse"])


class Precharging(TestCase):
    def test_resistor_by_hand(self) -> None:
        """1 000 µF at 42 V: ½·C·V² = 0.882 J; 100 Ω start with 0.42 A and 17.64 W, 3.5 W lasting, so 5 W; 99 % after 4.605·0.1 s."""
        found = precharge(Controller.model_validate({"capacitance_f": 0.001}), 20.0, 42.0, 0.1)
        self.assertAlmostEqual(found.energy_j, 0.882)
        self.assertEqual((found.resistor_ohm, found.rated_w, found.assumed), (100.0, 5.0, False))
        self.assertAlmostEqual(found.peak_w, 17.64)
        self.assertAlmostEqual(found.seconds_s, 0.4605, places=6)
        self.assertAlmostEqual(found.spark_a, 420.0)

    def test_unknown_capacitors_follow_the_limit(self) -> None:
        self.assertAlmostEqual(precharge(Controller(), 40.0, 42.0, 0.1).capacitance_f, 0.002)

    def test_the_plan_has_one_only_with_a_controller(self) -> None:
        self.assertIsNotNone(protect_plan(bike()).precharge)
        self.assertIsNone(protect_plan(ride_on()).precharge)


class Edges(TestCase):
    """Rules of rows, accessories and joints at their edges."""

    def one(self, setup: Setup, rule: str, severity: str, context: Context | None = None) -> Finding:
        said = found(setup, rule, context)
        self.assertEqual([f.severity for f in said], [severity], [f.because for f in said])
        return said[0]

    def test_days_until_flat(self) -> None:
        """6 Ah over 4.2 mA are 59.5 days, over 4.1 mA 61."""
        for amps, expected in ((0.0042, 1), (0.0041, 0)):
            meter = {"label": "meter", "amps_a": named(amps), "always_on": True, "taps": "at the packs"}
            self.assertEqual(len(found(bike(auxiliaries=[meter]), "aux.drain")), expected)

    def test_a_converter_at_the_packs_drains_by_its_standby(self) -> None:
        """10 mA assumed: 6 Ah in 25 days. Behind the cut-off it draws nothing."""
        step = {"input_min_v": 20, "input_max_v": 60, "output_v": 12, "output_a": 5}
        said = self.one(bike(auxiliaries=[{**LAMPS, "converter": step, "taps": "at the packs"}]), "aux.drain", "caution")
        self.assertIn("25 days", said.because)
        self.assertEqual(found(bike(auxiliaries=[{**LAMPS, "converter": step}]), "aux.drain"), [])

    def test_a_converter_by_its_window(self) -> None:
        def step(**more: Any) -> Setup:
            return bike(auxiliaries=[{**LAMPS, "converter": {"input_min_v": 20, "input_max_v": 60, "output_v": 12, "output_a": 5, **more}}])

        self.one(step(input_max_v=41.9), "aux.converter", "stop")
        self.one(step(output_a=1.9), "aux.converter", "caution")
        self.one(step(output_a=1.5), "aux.converter", "stop")
        self.one(step(input_min_v=30.5), "aux.converter", "caution")
        self.assertEqual(found(step(input_max_v=42.0, output_a=2.0, input_min_v=30.0), "aux.converter"), [])

    def test_an_accessory_straight_from_the_packs_needs_a_fuse(self) -> None:
        bare = {**LAMPS, "fuse": None, "taps": "at the packs"}
        said = self.one(bike(auxiliaries=[bare]), "wire.mixed", "stop")
        self.assertEqual(said.key, "wire.mixed@accessory0")
        offered = next(f for f in fixes(bike(auxiliaries=[bare])) if f.key == said.key).fixes
        self.assertTrue(offered)

    def test_a_thin_controller_lead_is_not_the_fuses_to_guard(self) -> None:
        said = self.one(bike(controller_lead={"awg": 18, "length_m": named(0.3)}), "wire.mixed", "stop")
        self.assertIn("30 A fuse", said.because)
        labels = [fix.label for f in fixes(bike(controller_lead={"awg": 18, "length_m": named(0.3)})) if f.key == said.key for fix in f.fixes]
        self.assertEqual(labels, ["[[10|awg]]"])

    def test_a_guard_that_comes_back_by_itself(self) -> None:
        """Opened at 31 V under cruise it recovers by the cruise's sag; a return below that restarts the machine."""
        from gecko.analysis.voltmeter import rebound_v

        a = Analysis(bike())
        back = rebound_v(a.m, a.ride, 31.0)
        said = found(bike(guard__reset_v=named(back - 0.05)), "pack.guard.level")
        self.assertEqual([f.key for f in said], ["pack.guard.level@reset"])
        self.assertEqual(found(bike(guard__reset_v=named(back + 0.05)), "pack.guard.level"), [])

    def test_a_helper_pack_is_a_caution_when_it_looks_after_itself(self) -> None:
        """Own low cut-off, own charger, and amps for all that flows; take any of them away and it stops."""
        own = {"protection_low_v": named(30), "own_charger": True, "continuous_a": named(40), "peak_10s_a": named(80)}
        helper = {**PACK, **own, "label": "helper", "cells_in_series": 5, "capacity_ah": named(4), "protection_low_v": named(15)}

        def pair(**less: Any) -> Setup:
            return bike(bank={"rows": [{"units": [{**PACK, **own}, {**helper, **less}]}]}, controller__max_v=named(90), controller__nominal_v=named(48))

        self.one(pair(), "pack.mixed.series", "caution")
        for less in ({"protection_low_v": None}, {"own_charger": False}, {"continuous_a": None}, {"peak_10s_a": named(5)}, {"charge_only_guard": True}):
            self.one(pair(**less), "pack.mixed.series", "stop")

    def test_each_pack_of_an_unlike_row_has_its_own_charger(self) -> None:
        """42 V for the ten cells, 21 V for the helper's five: both fit; 29.4 V fits neither, and is told the nearer one."""
        units = [PACK, {**PACK, "cells_in_series": 5}]

        def charged(*ends: float) -> Setup:
            chargers = [{"label": f"{end} V charger", "end_v": named(end), "amps_a": named(2)} for end in ends]
            return bike(bank={"rows": [{"units": units}]}, controller__max_v=named(90), chargers=chargers)

        self.assertEqual(found(charged(42.0, 21.0), "charge.volts"), [])
        said = self.one(charged(42.0, 29.4), "charge.volts", "stop")
        self.assertEqual(said.because, "29.4 V charger stops at 29.4 V; the pack is full at 21.0 V (li-ion).")

    def test_a_new_lead_block_beside_old_ones(self) -> None:
        block = {"label": "block", "chemistry": "lead", "cells_in_series": 6, "capacity_ah": named(12), "guard_in_tool": False, "age": "used"}
        said = self.one(bike(bank={"rows": [{"units": [block, block, block, {**block, "age": "new"}]}]}), "pack.mixed.series", "caution")
        self.assertIn("charge the whole string with one charger", said.instruction)

    def test_lithium_beside_lead_says_why_not(self) -> None:
        lead = {"label": "l", "chemistry": "lead", "cells_in_series": 18, "capacity_ah": named(6), "guard_in_tool": False}
        said = self.one(bike(bank={"rows": [{"units": [PACK], "fuse": FUSE}, {"units": [lead], "fuse": FUSE}]}), "pack.mixed.parallel", "stop")
        self.assertIn("lithium is never full or lead is boiled", said.because)

    def test_row_fuses_and_leads_are_judged_like_the_main_ones(self) -> None:
        self.assertEqual([f.key for f in found(two_rows(lead={"awg": 18, "length_m": named(0.2), "bundle_conductors": 7}), "fuse.wire")], ["fuse.wire@row0"])
        said = found(two_rows(fuse={**FUSE, "side": "negative"}), "fuse.place")
        self.assertEqual([(f.key, f.station) for f in said], [("fuse.place@row0side", "row_fuses"), ("fuse.place@row1side", "row_fuses")])
        self.assertEqual(found(two_rows(), "fuse.place"), [])

    def test_rows_that_open_before_the_main_fuse(self) -> None:
        """Two rows share alike: a row's fuse over half the main's rating opens after it, one under opens first."""
        small, large = (two_rows(fuse={**FUSE, "rating_a": rating}) for rating in (15, 20))
        self.assertTrue(any("row fuses open before" in f.title for f in found(small, "fuse.nuisance")))
        self.assertFalse(any("row fuses open before" in f.title for f in found(large, "fuse.nuisance")))

    def test_how_packs_are_held(self) -> None:
        for holding, title in (
            ({"by": []}, "The packs can come loose"),
            ({"by": ["elastic", "tape"], "cushioned": True}, "The packs can come loose"),
            ({"by": ["bracket"], "against": "bare metal"}, "A shell rubs on bare metal"),
            ({"by": ["screws"], "against": "plastic wall"}, "A plastic wall tears"),
        ):
            self.assertEqual([f.title for f in found(bike(bank__holding=holding), "pack.held")], [title])
        for holding in ({"by": ["bracket"], "against": "bare metal", "cushioned": True}, {"by": ["screws"], "against": "plastic wall", "spreader_plates": True}):
            self.assertEqual(found(bike(bank__holding=holding), "pack.held"), [])
        heavy = {"rows": [{"units": [{**PACK, "mass_kg": named(2.1)}]}], "holding": {"by": ["tape"]}}
        self.assertEqual([f.severity for f in found(bike(bank=heavy), "pack.held")], ["stop"], "Over 2 kg it is a missile.")
        self.assertEqual([f.gate for f in found(bike(bank__holding=None), "look.held")], ["ride"])

    def test_a_lead_that_stands_nothing_does_not_set_the_controller_to_nothing(self) -> None:
        """In air as hot as its insulation a lead stands 0 A: no fix may ask for a controller of 0 A, and all others are still told."""
        hot = bike(main_lead__air_c=105)
        self.assertTrue(found(hot, "ctl.limit"))
        offered = {f.key: f.fixes for f in fixes(hot)}
        self.assertEqual(offered["ctl.limit"], [])
        self.assertIn("wire.ampacity", offered)

    def test_twist_caps_are_a_matter_of_the_house(self) -> None:
        self.one(bike(main_lead__joint="twist cap"), "wire.joint", "caution")
        self.one(bike(main_lead__joint="twist cap"), "wire.joint", "note", Context(house=HouseRules(joints="any")))

    def test_adapters(self) -> None:
        good = {"polarity_rechecked": True, "electronics": "removed", "rating_a": named(60), "lead": {"awg": 10, "length_m": named(0.1)}}
        setup = bike(bank__rows__0__units__0__adapter=good)
        self.assertEqual(found(setup, "pack.adapter"), [])
        thin = {"awg": 18, "length_m": named(0.1), "bundle_conductors": 7, "insulation": "60"}
        for less in ({"polarity_rechecked": False}, {"electronics": "in place"}, {"electronics": "unknown"}, {"rating_a": named(10)}, {"lead": thin}):
            self.one(bike(bank__rows__0__units__0__adapter={**good, **less}), "pack.adapter", "caution")
        # Two contacts of 1.5 mΩ and its leads are in the row.
        self.assertAlmostEqual(float(Analysis(setup).half.resistance_ohm) - float(Analysis(bike()).half.resistance_ohm), 0.003 + pair_ohm(10, 0.1), places=9)

    def test_a_board_that_guards_charging_only_neither_trips_nor_saves(self) -> None:
        """Its trip amps and its low cut-off are those of charging: full throttle passes, and the cells need a guard."""
        unit = {**PACK, "trip_a": named(10), "trip_delay_s": named(0), "protection_low_v": named(33), "guard_in_tool": False}
        for only, trips in ((False, 1), (True, 0)):
            setup = bike(bank={"rows": [{"units": [{**unit, "charge_only_guard": only}]}]}, guard=None)
            self.assertEqual(len(found(setup, "pack.trip")), trips)
            self.assertEqual(len(found(setup, "pack.guard")), 1 - trips)
            self.assertEqual(evaluate(setup).outcome.ends_by == "unit empty", only)  # type: ignore[union-attr]

    def test_a_home_pack_must_suit(self) -> None:
        self.one(bike(bank__home_pack={**PACK, "cells_in_series": 14}), "pack.slots", "stop")
        self.one(bike(bank__home_pack={**PACK, "cells_in_series": 5}), "pack.slots", "stop")
        self.one(bike(bank__home_pack={**PACK, "trip_a": named(2)}), "pack.slots", "stop")
        self.assertEqual(found(bike(bank__home_pack=PACK), "pack.slots"), [])
