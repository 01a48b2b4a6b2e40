"""Hookup steps and readings, trial reduction, charging, command line, documentation."""

from __future__ import annotations

import doctest
import importlib
import inspect
import io
import json
import pkgutil
import re
import subprocess
import sys
import tempfile
from contextlib import redirect_stderr, redirect_stdout
from pathlib import Path
from random import Random
from unittest import TestCase

import numpy as np

import gecko
from gecko.__main__ import main
from gecko.common.errors import GeckoError
from gecko.common.words import plain, q, seconds
from gecko.document.setup import load_setup
from gecko.hookup.joined import Joined
from gecko.hookup.judgement import judge
from gecko.hookup.readings import State
from gecko.plans.care.charging import charge_hours, charge_plans
from gecko.plans.hookup import build_hookup
from gecko.plans.trials.prediction import Prediction, charge_from_volts, predict_trial
from gecko.plans.trials.reduction import Pass, Reduced, gain, reduce_passes
from gecko.plans.trials.verdict import judge_run
from gecko.tests.machines import bike, named, ride_on, safe_bike

PACK = {"label": "p", "cells_in_series": 10, "capacity_ah": named(6)}


class HookupSteps(TestCase):
    def steps(self, **changes: object) -> list[str]:
        plan = build_hookup(bike(**changes))
        assert plan is not None
        return [s.id for s in plan.steps]

    def test_main_fuse_is_the_last_part_to_go_in(self) -> None:
        for ids in (self.steps(), self.steps(bank__rows=[{"units": [PACK], "fuse": {"rating_a": 20, "dc_volts_v": 58}}] * 2)):
            self.assertEqual(ids[-2:], ["main_fuse", "first_power"])
            order = [ids.index(name) for name in ("safe", "dry_fit", "throttle", "motor", "minus", "holder", "whole", "pack0", "dead", "limited", "main_fuse")]
            self.assertEqual(order, sorted(order))

    def test_each_row_is_measured_and_compared_before_it_is_joined(self) -> None:
        ids = self.steps(bank__rows=[{"units": [PACK], "fuse": {"rating_a": 20, "dc_volts_v": 58}}] * 3)
        for r in (1, 2):
            self.assertLess(ids.index(f"pack{r}"), ids.index(f"match{r}"))
            self.assertLess(ids.index(f"match{r}"), ids.index(f"join{r}"))

    def test_readings_follow_the_measured_packs(self) -> None:
        """Two packs resting at 40.0 V and 39.6 V, alike inside: the bar shows their mean, 39.8 V, by hand."""
        plan = build_hookup(bike(bank__rows=[{"units": [{**PACK, "resting_v": named(v)}], "fuse": {"rating_a": 20, "dc_volts_v": 58}} for v in (40.0, 39.6)]))
        assert plan is not None
        last = next(s for s in plan.steps if s.id == "join1").reading
        assert last is not None
        self.assertAlmostEqual(last.expected or 0, 39.8, places=2)

    def test_dead_until_the_cut_off_is_on(self) -> None:
        net = Joined.of(bike())
        assert net is not None
        off = State(frozenset({0}), frozenset({0}), True, False)
        on = State(frozenset({0}), frozenset({0}), True, True)
        self.assertAlmostEqual(net.volts(off, net.load_plus, net.load_minus)[1], 0.0, delta=0.05)
        self.assertAlmostEqual(net.volts(on, net.load_plus, net.load_minus)[1], 41.0, delta=0.1)

    def test_what_cannot_be_derived_asks_only_for_no_short(self) -> None:
        plan = build_hookup(bike())
        assert plan is not None
        reading = next(s for s in plan.steps if s.id == "plus").reading
        assert reading is not None
        self.assertEqual((reading.low, reading.high, reading.expected), (100.0, None, None))
        self.assertTrue(judge(reading, 4700.0).fits)
        self.assertTrue(judge(reading, None).fits)
        self.assertFalse(judge(reading, 2.0).fits)

    def test_motor_ohms_are_those_of_its_plate(self) -> None:
        """The two in parallel, 0.3392 Ω each; seen from the left one the right one stands behind two leads of some milliohms."""
        plan = build_hookup(ride_on())
        assert plan is not None
        reading = next(s for s in plan.steps if s.id == "motor").reading
        assert reading is not None
        self.assertAlmostEqual(reading.expected or 0, 0.1696, delta=0.003)

    def test_a_wrong_reading_makes_safe_first_and_ranks_causes(self) -> None:
        plan = build_hookup(bike())
        assert plan is not None
        reading = next(s for s in plan.steps if s.id == "pack0").reading
        assert reading is not None
        for value, words in ((-41.0, "Reversed"), (0.0, "Almost no"), (20.0, "Lower"), (63.0, "Higher")):
            found = judge(reading, value)
            self.assertFalse(found.fits)
            self.assertIn(words, found.headline)
            self.assertTrue(found.make_safe and found.causes and found.next_reading)
        self.assertTrue(judge(reading, 40.5).fits)
        self.assertFalse(judge(next(s for s in plan.steps if s.id == "minus").reading, None).fits)  # type: ignore[arg-type]

    def test_no_packs_no_plan(self) -> None:
        self.assertIsNone(build_hookup(load_setup({})))


class Trials(TestCase):
    def test_both_ways_by_hand(self) -> None:
        """30 m in 6.0, 6.2 out and 5.0, 5.2 back. Means 4.9194 and 5.8846, so 5.4020 m/s.

        Pooled s: out 5.0000, 4.8387; back 6.0000, 5.7692: squares 0.013007 + 0.026627 over 2 = 0.019817, s = 0.14077.
        t(2) = 4.3027: 4.3027·0.14077/2 = 0.30285. The timing error is within the scatter.
        """
        found = reduce_passes([Pass(30, 6.0), Pass(30, 6.2), Pass(30, 5.0, "back"), Pass(30, 5.2, "back")])
        self.assertAlmostEqual(found.speed_m_s, 5.40199, places=4)
        self.assertAlmostEqual(found.half_width_m_s, 0.30285, places=4)

    def test_one_pass_takes_three_percent(self) -> None:
        """One pass of 30 m in 6 s: 5 m/s; scatter 1.96·0.15 = 0.294, timing 1.96·0.2·5/6 = 0.32667; together 0.43949."""
        self.assertAlmostEqual(reduce_passes([Pass(30, 6.0)]).half_width_m_s, 0.43949, places=4)

    def test_intervals_hold_what_they_promise(self) -> None:
        """4 000 rides each, true speed 5 m/s over 30 m, 3 % of the ride's own scatter and 0.2 s of the hand: 95 % of the intervals hold it.

        Judged by drawing, not by the formula. A share of 0.95 of 4 000 is known to 0.0034; three of those are allowed.
        """
        random = np.random.default_rng(7)
        for counts in ((1, 0), (1, 1), (2, 2), (3, 2), (5, 5)):
            held = 0
            for _ in range(4000):
                passes = [
                    Pass(30.0, float(30.0 / (5.0 * (1.0 + 0.03 * random.standard_normal())) + 0.2 * random.standard_normal()), way)
                    for way, count in zip(("out", "back"), counts, strict=True)
                    for _ in range(count)
                ]
                found = reduce_passes(passes)
                held += abs(found.speed_m_s - 5.0) <= found.half_width_m_s
            with self.subTest(counts):
                self.assertAlmostEqual(held / 4000, 0.95, delta=0.0105)

    def test_passes_that_read_alike_are_not_known_exactly(self) -> None:
        self.assertGreater(reduce_passes([Pass(30, 6.0), Pass(30, 6.0)]).half_width_m_s, 0.1)

    def test_gain_with_its_interval(self) -> None:
        """6 ± 0.3 over 4 ± 0.2: 1.5, relative √(0.05² + 0.05²) = 7.07 %."""
        ratio, half = gain(Reduced(6.0, 0.3, 2), Reduced(4.0, 0.2, 2))
        self.assertAlmostEqual(ratio, 1.5, places=9)
        self.assertAlmostEqual(half, 1.5 * 0.0707107, places=6)

    def test_bad_passes_are_refused(self) -> None:
        for passes in ([], [Pass(0.0, 5.0)], [Pass(30.0, -1.0)]):
            with self.assertRaises(GeckoError):
                reduce_passes(passes)

    def test_prediction_follows_knob_volts_and_ground(self) -> None:
        full = predict_trial(bike(), knob=1.0, rest_v=41.9)
        half_knob, tired, grass = (
            predict_trial(bike(), knob=0.5, rest_v=41.9),
            predict_trial(bike(), knob=1.0, rest_v=36.0),
            predict_trial(bike(), knob=1.0, rest_v=41.9, surface="long grass"),
        )
        assert full and half_knob and tired and grass
        self.assertTrue(full.low_m_s < full.speed_m_s < full.high_m_s)
        for slower in (half_knob, tired, grass):
            self.assertLess(slower.speed_m_s, full.speed_m_s)
        self.assertIsNone(predict_trial(load_setup({})))

    def test_charge_from_volts_inverts_the_curve(self) -> None:
        from gecko.tests.machines import bare_machine

        self.assertAlmostEqual(charge_from_volts(bare_machine(), 37.2), 0.5, places=3)


class Verdicts(TestCase):
    """A run beside its prediction: 4.0 m/s predicted, likely 3.5 to 4.6."""

    def judged(self, speed: float, half: float) -> tuple[bool, float, bool]:
        found = judge_run(Reduced(speed, half, 2), Prediction(speed_m_s=4.0, low_m_s=3.5, high_m_s=4.6))
        return found.likely, round(found.off, 6), found.fits

    def test_by_hand(self) -> None:
        self.assertEqual(self.judged(4.1, 0.1), (True, 0.025, True))
        # Within the band, yet 12.5 % off: likely, and said how far.
        self.assertEqual(self.judged(4.5, 0.1), (True, 0.125, False))
        # The ends of interval and band meet, and then no longer do.
        self.assertEqual(self.judged(4.8, 0.2)[0], True)
        self.assertEqual(self.judged(4.81, 0.2)[0], False)
        self.assertEqual(self.judged(3.3, 0.2)[0], True)
        self.assertEqual(self.judged(3.29, 0.2)[0], False)

    def test_what_should_stand_still(self) -> None:
        still = Prediction(speed_m_s=0.0, low_m_s=0.0, high_m_s=0.0)
        self.assertFalse(judge_run(Reduced(1.0, 0.1, 2), still).fits)


class Care(TestCase):
    def test_hours_by_hand(self) -> None:
        """Lithium 4 Ah at 2 A: 3.6/2 + 0.2 ln(2/0.2) = 2.26052 h; lead 10 Ah at 1 A: 10.2/1 + 1.3 ln(1/0.2) = 12.29227 h; 0.3 Ah out of
        4 Ah: the taper at once from 1.5 A, 0.2 ln(1.5/0.2) = 0.40298 h; 0.1 A into 4 Ah is under the end current of 0.2 A: 3.98/0.1 h."""
        self.assertAlmostEqual(charge_hours("li-ion", 4, 2), 2.260517, places=5)
        self.assertAlmostEqual(charge_hours("lead", 10, 1), 12.292269, places=5)
        self.assertAlmostEqual(charge_hours("li-ion", 0.3, 2, 4), 0.402981, places=5)
        self.assertAlmostEqual(charge_hours("li-ion", 4, 0.1), 39.8, places=9)
        self.assertEqual(charge_hours("li-ion", 0.01, 2, 4), 0.0)

    def test_hours_against_a_march_in_time(self) -> None:
        """Steps of a second: the charger's amps, or what the missing charge lets in, until the end current is reached. Knows no formula."""
        random = Random(7)
        worst = 0.0
        for _ in range(200):
            chemistry, tau, end, more = random.choice([("li-ion", 0.2, 20, 1.0), ("lfp", 0.05, 20, 1.0), ("lead", 1.3, 50, 1.15)])
            capacity = random.uniform(2, 40)
            used = capacity * random.uniform(0.2, 1.0)
            amps = capacity * random.uniform(0.08, 0.9)
            missing, hours = more * used, 0.0
            while True:
                now = min(amps, missing / tau)
                if now <= capacity / end:
                    break
                missing -= now / 3600
                hours += 1 / 3600
            worst = max(worst, abs(charge_hours(chemistry, used, amps, capacity) - hours) / max(hours, 0.1))
        self.assertLess(worst, 0.005)

    def test_a_charger_must_fit_its_pack(self) -> None:
        setup = bike(chargers=[{"label": "right", "end_v": named(42), "amps_a": named(2)}, {"label": "short", "end_v": named(29.4), "amps_a": named(2)}])
        right, short = charge_plans(setup, list(setup.chargers))
        self.assertTrue(right.fits)
        self.assertFalse(short.fits)
        self.assertIn("42.0 V is right", short.why)


class CommandLine(TestCase):
    def run_main(self, *arguments: str) -> tuple[int, str, str]:
        out, err = io.StringIO(), io.StringIO()
        with redirect_stdout(out), redirect_stderr(err):
            code = main(list(arguments))
        return code, out.getvalue(), err.getvalue()

    def test_evaluate_case_schema_parts(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "setup.json"
            file.write_text(json.dumps(safe_bike()), encoding="utf-8")
            code, text, _ = self.run_main("evaluate", str(file))
            self.assertEqual(code, 0)
            self.assertIn("top speed", text)
            code, text, _ = self.run_main("evaluate", str(file), "--json")
            self.assertIn("top_speed_m_s", json.loads(text)["evaluation"]["outcome"])
            file.write_text(json.dumps({"motor": {"volts_v": -3}}), encoding="utf-8")
            code, _, problems = self.run_main("evaluate", str(file))
            self.assertEqual(code, 2)
            self.assertIn("/motor/volts_v", problems)
            file.write_text("{", encoding="utf-8")
            self.assertEqual(self.run_main("evaluate", str(file))[0], 2)
        case = Path(__file__).parent / "cases" / "scooter-lfp.json"
        expected = json.loads(case.read_text(encoding="utf-8"))["expected"]
        self.assertEqual(set(json.loads(self.run_main("case", str(case))[1])), set(expected))
        self.assertIn("properties", json.loads(self.run_main("schema")[1]))
        self.assertIn("packs", json.loads(self.run_main("parts")[1]))

    def test_the_core_loads_without_django(self) -> None:
        code = "import sys; sys.modules['django'] = None; import gecko.__main__; print(any(m.startswith(('django.', 'ninja', 'server')) for m in sys.modules))"
        done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True, cwd=Path(gecko.__file__).parents[1])
        self.assertEqual(done.stdout.strip(), "False")


class Documentation(TestCase):
    """Every public function of the core says what it gives, is typed, and its examples hold."""

    def modules(self) -> list[str]:
        return [m.name for m in pkgutil.walk_packages(gecko.__path__, "gecko.") if ".tests" not in m.name and not m.name.endswith("__main__")]

    def test_public_functions_are_documented_and_typed(self) -> None:
        missing = []
        for name in self.modules():
            module = importlib.import_module(name)
            for label, thing in inspect.getmembers(module, inspect.isfunction):
                if label.startswith("_") or thing.__module__ != name:
                    continue
                # A check's words are its rule's principle, title and because.
                if not (thing.__doc__ or "").strip() and not name.startswith("gecko.rules."):
                    missing.append(f"{name}.{label} has no docstring")
                signature = inspect.signature(thing)
                untyped = [p for p in signature.parameters.values() if p.annotation is inspect.Parameter.empty]
                if untyped or signature.return_annotation is inspect.Signature.empty:
                    missing.append(f"{name}.{label} is not typed")
        self.assertEqual(missing, [])

    def test_numeric_functions_state_their_units(self) -> None:
        """Rooms that compute: what a public function gives as a number has its unit in brackets, [1] for a share or a count."""
        missing, seen = [], 0
        for name in self.modules():
            if not name.startswith(("gecko.physics.", "gecko.common.quadrature")):
                continue
            module = importlib.import_module(name)
            for label, thing in inspect.getmembers(module, inspect.isfunction):
                if label.startswith("_") or thing.__module__ != name or not re.search(r"float|Number|Array|\bN\b", str(thing.__annotations__.get("return"))):
                    continue
                seen += 1
                # A word that names the unit serves where it follows the argument: "in the unit of its field".
                if not re.search(r"\[[^\]\s][^\]]*\]|\bunit\b", thing.__doc__ or ""):
                    missing.append(f"{name}.{label}")
        self.assertEqual(missing, [])
        self.assertGreater(seen, 50)

    def test_examples_hold(self) -> None:
        tried = 0
        for name in self.modules():
            found = doctest.testmod(importlib.import_module(name))
            self.assertEqual(found.failed, 0, name)
            tried += found.attempted
        self.assertGreater(tried, 15)

    def test_sentences_carry_their_quantities(self) -> None:
        self.assertEqual(
            plain(f"At {q(4.4704, 'speed')}, {q(12, 'awg')}, {q(37, 'temp')}, {q(2.5, 'length')} and {q(1.5, 'length')}."),
            "At 10.0 mph, 12 AWG, 37 °C, 2.5 m and 150 cm.",
        )
        self.assertEqual([seconds(s) for s in (4.2, 45, 600, 7000)], ["4.2 s", "45 s", "10 min", "1 h 57 min"])
