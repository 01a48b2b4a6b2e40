"""What rules say and put in, where one more or less changes it: the remedy that is named, the part that is bought, the rider it is said of."""

from __future__ import annotations

import csv
import io
from typing import Any

from gecko.analysis.measure import capacity_ah
from gecko.analysis.precharge import precharge_of
from gecko.analysis.voltmeter import rebound_v, set_points
from gecko.analysis.whole import Analysis
from gecko.document.parts.pack import Pack
from gecko.document.setup import Setup, load_setup
from gecko.plans.care.charging import charge_hours
from gecko.plans.care.pack_life import _more
from gecko.plans.parts_list import parts_csv, parts_list
from gecko.plans.trials.prediction import Prediction
from gecko.plans.trials.reduction import Reduced
from gecko.plans.trials.verdict import judge_run
from gecko.rules.pack import _other_controller
from gecko.rules.registry import run_checks
from gecko.rules.together import fuse_bare_rows
from gecko.tests.machines import bike, named, safe_bike
from gecko.tests.rule_edges.edges import Edges, cells, rows


class Bought(Edges):
    def test_a_controller_for_these_packs_is_rounded_up_to_whole_volts(self) -> None:
        """Ten cells, 42 V full: 1.2 · 42 = 50.4, so 51; at 36 V nominal it cuts off at 0.85 · 36 = 30.6."""
        document = safe_bike()
        edit = _other_controller(Analysis(bike()))
        assert callable(edit.change)
        edit.change(document)
        self.assertEqual(edit.label, "Controller for 36 V nominal")
        self.assertEqual([document["controller"][name]["value"] for name in ("nominal_v", "max_v", "undervoltage_v")], [36, 51, 30.6])

    def test_a_converter_is_bought_a_quarter_stronger_to_the_next_amp(self) -> None:
        """2 A of one that gives 1.5: 1.25 · 2 = 2.5, so 3. A quarter over is a caution still, more a stop."""
        made = {"output_v": named(12), "output_a": named(1.5), "input_min_v": named(20), "input_max_v": named(60)}
        for asked, severity, label in ((2.0, "stop", "Use one for 3 A"), (1.85, "caution", "Use one for 3 A"), (1.55, "caution", "Use one for 2 A")):
            branch = {"label": "lamps", "amps_a": named(asked), "converter": made, "fuse": {"rating_a": 3}}
            found = self.found_with_edits(bike(auxiliaries=[branch]), "aux.converter")
            self.assertEqual([(severity, label)], found, asked)

    def found_with_edits(self, setup: Setup, rule_id: str) -> list[tuple[str, str]]:
        return [(f.finding.severity, f.edits[0].label) for f in run_checks(Analysis(setup)) if f.finding.id == rule_id and f.finding.key.endswith(".amps")]

    def test_only_one_of_several_rows_needs_a_fuse_of_its_own(self) -> None:
        for bank, fused in ((cells(10), [False]), ([*cells(10), *cells(10)], [True, True])):
            document = {**safe_bike(), "bank": {"rows": bank}}
            fuse_bare_rows(document, Analysis(load_setup(document)))
            self.assertEqual([bool(row.get("fuse")) for row in document["bank"]["rows"]], fused)

    def test_the_spark_of_packs_nobody_knows(self) -> None:
        """Unknown packs and leads count as 0.08 Ω, the controller's capacitors 0.02 Ω: 42 V over 0.1 Ω are 420 A."""
        found = precharge_of(Analysis(bike(motor=None)))
        assert found is not None
        self.assertAlmostEqual(found.spark_a, 420.0)


class Said(Edges):
    def test_a_limiter_within_reach_is_a_stop_for_the_young_only(self) -> None:
        """Turned up it goes far beyond the cap: under 12 years that is a stop, from 12 on a caution."""
        for age, severity in ((11, "stop"), (12, "caution")):
            setup = bike(rider={"age_years": age, "mass_kg": named(45)}, throttle__limiter_mark=0.3, throttle__limiter_reachable=True)
            self.assertEqual([f.severity for f in self.found(setup, "ride.cap") if f.key == "ride.cap@reach"], [severity], age)

    def test_a_pack_longer_than_the_bay_does_not_fit_however_it_is_turned(self) -> None:
        sides: dict[str, Any] = {"length_m": named(0.30), "width_m": named(0.10), "height_m": named(0.10)}
        room = {"length_m": named(0.25), "width_m": named(0.15), "height_m": named(0.15)}
        said = self.one(bike(bank={"rows": cells(10, **sides)}, vehicle__bay=room), "pack.bay", "caution")
        self.assertIn("turn them as you like", said.because)
        self.assertEqual(said.title, "The packs do not fit the bay")

    def test_what_closes_an_opening(self) -> None:
        for kind, word in (("cable entry", "gland"), ("seal", "gasket")):
            said = self.one(bike(openings=[{"label": "Lid", "kind": kind}]), "seal.water", "note")
            self.assertIn(word, said.instruction)

    def test_rows_are_told_by_the_larger_share_of_what_they_stand(self) -> None:
        """A small pack that stands little, far below two large ones: joined pair by pair it takes from one, all at once from both."""
        low, high = {"cells_in_series": 10, "capacity_ah": named(2), "resting_v": named(36)}, {"cells_in_series": 10, "capacity_ah": named(10), "resting_v": named(41)}
        said = self.one(bike(bank={"rows": rows({"label": "a", **low}, {"label": "b", **high}, {"label": "c", **high})}), "pack.mixed.parallel", "stop")
        self.assertIn("Joined all at once", said.because)
        pair = self.one(bike(bank={"rows": rows({"label": "a", **low}, {"label": "b", **high})}), "pack.mixed.parallel", "stop")
        self.assertIn("Joined now", pair.because)

    def test_riders_are_told_the_speed_of_the_strongest_mode(self) -> None:
        """Half duty in use, a high mode one can switch to: everybody's speed is that of the high one, the second rider's by his mass."""
        modes = [{"name": "low", "duty": 0.5, "current": 1}, {"name": "high", "duty": 1.0, "current": 1}]
        setup = bike(controller__modes=modes, controller__mode="low", also=[{"name": "Bo", "age_years": 30, "mass_kg": named(90)}])
        a = Analysis(setup)
        high = float(Analysis(bike(controller__modes=modes, controller__mode="high")).top)
        own, other = a.riders
        self.assertAlmostEqual(own.top_m_s, high, places=6)
        self.assertAlmostEqual(own.factor, high / float(a.top), places=6)
        self.assertAlmostEqual(other.top_m_s, high * other.mass_factor, places=6)
        self.assertLess(other.mass_factor, 1.0)


class Sold(Edges):
    def test_set_points_begin_under_the_emptiest_row(self) -> None:
        """Rows of ten and of twelve cells: 0.92 · 10 · 3.0 V = 27.6 V is the first; told by the cell of the longer row."""
        a = Analysis(
            bike(bank={"rows": rows({"label": "a", "cells_in_series": 10, "capacity_ah": named(6)}, {"label": "b", "cells_in_series": 12, "capacity_ah": named(6)})})
        )
        assert a.setup.bank is not None
        points = set_points(a.m, a.ride, a.peak_a, a.setup.bank, 30.0)
        self.assertEqual(points[0].volts_v, 27.6)
        self.assertAlmostEqual(points[0].cell_v, 27.6 / 12)
        self.assertEqual([one.below_floor for one in points], [one.volts_v < 30.0 for one in points])

    def test_a_speed_asked_for_has_a_duty_unless_nothing_dials_it(self) -> None:
        a = Analysis(bike())
        half = a.duty_for(0.5 * float(a.top))
        assert half is not None
        self.assertTrue(0.3 < half < 0.7)
        self.assertIsNone(a.duty_for(0.0))
        self.assertIsNone(a.duty_for(1.2 * float(a.top)))
        self.assertIsNone(Analysis(bike(controller={"kind": "none"}, throttle=None)).duty_for(2.0))


class PutIn(Edges):
    """What a press on a remedy leaves in the machine."""

    def changed(self, setup: Setup, rule_id: str) -> list[Setup]:
        (found,) = [one for one in run_checks(Analysis(setup)) if one.finding.id == rule_id]
        made = []
        for edit in found.edits:
            assert callable(edit.change)
            document = setup.model_dump(mode="json")
            edit.change(document)
            made.append(load_setup(document))
        return made

    def test_a_controller_that_runs_without_halls(self) -> None:
        machine = {"motor__kind": "brushless mid", "motor__has_halls": False, "controller__kind": "brushless", "controller__needs_halls": True}
        (after,) = self.changed(bike(**machine), "ctl.kind")
        assert after.controller is not None
        self.assertFalse(after.controller.needs_halls)

    def test_packs_are_padded_and_plates_put_behind_plastic(self) -> None:
        for holding, name in (({"against": "bare metal", "cushioned": False}, "cushioned"), ({"against": "plastic wall", "cushioned": True}, "spreader_plates")):
            (after,) = self.changed(bike(bank__holding={"by": ["strap"], **holding}), "pack.held")
            assert after.bank is not None and after.bank.holding is not None
            self.assertTrue(getattr(after.bank.holding, name))

    def test_only_a_motor_without_a_controller_is_offered_a_module(self) -> None:
        (found,) = [one for one in run_checks(Analysis(bike(bank__rows__0__units__0__trip_a=named(20)))) if one.finding.id == "pack.trip"]
        self.assertFalse([edit.label for edit in found.edits if "module" in edit.label.lower()])

    def test_a_guard_comes_back_above_what_the_packs_recover_to(self) -> None:
        """It recovers to some volts more than it switched off at; the return that is offered is 3 % of the set point above these, in half volts."""
        setup = bike(guard__kind="module", guard__volts_v=named(33), guard__reset_v=named(33.5))
        (found,) = [one for one in run_checks(Analysis(setup)) if one.finding.key == "pack.guard.level@reset"]
        recovers = rebound_v(Analysis(setup).m, Analysis(setup).ride, 33.0)
        document = setup.model_dump(mode="json")
        edit = found.edits[0]
        assert callable(edit.change)
        edit.change(document)
        returns = document["guard"]["reset_v"]["value"]
        self.assertTrue(recovers + 0.99 <= returns <= recovers + 0.99 + 0.5, (recovers, returns))
        self.assertEqual(returns % 0.5, 0.0)


class Told(Edges):
    def test_a_nickel_pack_takes_twice_as_long_at_half_the_amps(self) -> None:
        """1.4 · 2 Ah at 0.5 A."""
        self.assertAlmostEqual(charge_hours("nickel", 2.0, 0.5), 5.6)

    def test_what_is_more_than_when_new(self) -> None:
        self.assertEqual([_more(share) for share in (0.09, 0.11, -0.11)], ["as when new", "11 % more than a new one", "11 % less than a new one"])

    def test_a_long_test_needs_no_word_of_doubt(self) -> None:
        """40 % of the charge left is short, 36 % is not; two steps of a hundredth over the share, and never under 2 %."""
        pack = Pack(cells_in_series=5, capacity_ah=named(5.0))
        short, long, whole = (capacity_ah(pack, 2.0, 3600.0, 1.0, end, 25.0) for end in (0.45, 0.38, 0.0))
        self.assertTrue(short.doubt)
        self.assertFalse(long.doubt)
        self.assertAlmostEqual(whole.spread, 0.02)

    def test_a_run_at_a_crawl_has_its_share_too(self) -> None:
        """0.9 measured where 0.8 was predicted: an eighth more, however slow. Where it was to stand still, no share is told."""
        crawl = judge_run(Reduced(0.9, 0.2, 2), Prediction(speed_m_s=0.8, low_m_s=0.5, high_m_s=1.1))
        self.assertAlmostEqual(crawl.off, 0.125)
        self.assertEqual(judge_run(Reduced(0.5, 0.1, 2), Prediction(speed_m_s=0.0, low_m_s=0.0, high_m_s=0.1)).off, 0.0)

    def test_prices_stand_in_the_table_as_far_as_they_are_known(self) -> None:
        """A fuse of 30 A by planning values: 3 + 0.02 · 30 to 10 + 0.12 · 30. In crowns nothing is planned, so its cells are empty."""
        fuse = load_setup({"main_fuse": {"rating_a": 30, "dc_volts_v": 58}})
        for currency, cells_of in (("USD", ["3.60", "13.60"]), ("SEK", ["", ""])):
            head, row = list(csv.reader(io.StringIO(parts_csv(parts_list(fuse, None, [], currency)))))[:2]
            self.assertEqual([row[head.index(name)] for name in ("each from", "each to")], cells_of)
