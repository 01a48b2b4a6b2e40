"""What rules say and put in, where one more or less changes it: the remedy that is named, the part that is bought, the rider it is said of."""

from __future__ import annotations

from typing import Any

from gecko.analysis.precharge import precharge_of
from gecko.analysis.voltmeter import set_points
from gecko.analysis.whole import Analysis
from gecko.document.setup import Setup, load_setup
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
