"""What stands open between a plan and a ride, how likely a limit is passed, and trouble told for a machine."""

from __future__ import annotations

from random import Random
from typing import Any, Literal
from unittest import TestCase

import numpy as np

from gecko.analysis.chances import Sampled, chance
from gecko.analysis.riding import Riding
from gecko.analysis.whole import Analysis
from gecko.answers.evaluation import Finding, Gate
from gecko.document.setup import load_setup
from gecko.hookup.shape import Step
from gecko.machine.carried import note_masses
from gecko.plans.evaluate import evaluate
from gecko.plans.fixes import fixes
from gecko.plans.standing import GATES, Standing, Word, holds, standing
from gecko.plans.trouble import trouble_of
from gecko.rules.ride import added_kg
from gecko.tests.machines import bike, named, ride_on, safe_bike


def stop(key: str, gate: Gate, asked: float = 1.0, stands: float = 0.0, *, observable: bool = False) -> Finding:
    return Finding(
        id=key,
        key=key,
        severity="stop",
        station="packs",
        stage="power",
        title=key,
        because="",
        instruction="",
        principle="",
        path="",
        gate=gate,
        observable=observable,
        asked=asked,
        stands=stands,
        unit="A",
        likely=None,
        as_found=False,
        question="",
        answers=[],
    )


STEPS = (
    Step(id="lay", title="Lay out", what=""),
    Step(id="dead", title="Dead check", what="", safety=True),
    Step(id="lamp", title="First power", what="", safety=True, gate="power"),
    Step(id="stand", title="Wheels up", what="", safety=True, gate="power"),
    Step(id="yard", title="First ride", what="", gate="ride"),
)


def locked(found: Standing) -> set[str]:
    return {lock.step for lock in found.locked}


class Gates(TestCase):
    def test_each_gate_locks_its_own_steps_and_all_after_it(self) -> None:
        done = {"dead", "lamp", "stand"}
        for gate, barred in (("plan", {"lamp", "stand", "yard"}), ("power", {"lamp", "stand", "yard"}), ("ride", {"yard"})):
            found = standing([stop("x", gate)], [], [], STEPS, done)  # type: ignore[arg-type]
            self.assertEqual(locked(found), barred, gate)
            self.assertEqual((found.power, found.ride), (gate == "ride", False))
        free = standing([], [], [], STEPS, done)
        self.assertEqual((locked(free), free.power, free.ride), (set(), True, True))

    def test_what_is_missing_holds_up_everything(self) -> None:
        found = standing([], [("/motor", "Enter the motor.")], [], STEPS, {"dead", "lamp", "stand"})
        self.assertEqual(locked(found), {"lamp", "stand", "yard"})
        self.assertEqual(found.reasons("yard"), ["Open stop: Enter the motor."])

    def test_an_unticked_safety_step_locks_what_comes_after_it(self) -> None:
        self.assertEqual(locked(standing([], [], [], STEPS, {"lay"})), {"lamp", "stand", "yard"})
        self.assertEqual(locked(standing([], [], [], STEPS, {"dead"})), {"stand", "yard"})
        self.assertEqual(standing([], [], [], STEPS, {"dead", "lamp"}).reasons("yard"), ["Not done yet: Wheels up"])

    def test_by_random_lists_nothing_open_ever_lets_a_ride_through(self) -> None:
        """300 random lists of stops, words and ticks against the sentence of the rule itself, written out plainly."""
        random = Random(3)
        for _ in range(300):
            stops, words, still = [], [], set()
            for i in range(random.randrange(4)):
                key, gate, stands, risen = f"s{i}", random.choice(GATES), random.uniform(1, 3), random.uniform(0.9, 1.1)
                asked = stands * random.uniform(1, 2)
                observable = random.random() < 0.5
                stops.append(stop(key, gate, asked * risen, stands, observable=observable))
                kind: Literal["overruled", "observed"] = random.choice(("overruled", "observed"))
                said = random.random() < 0.6
                if said:
                    words.append(Word(key, kind, asked, stands))
                if not said or risen > 1.03 or (kind == "observed" and not observable):
                    still.add((key, gate))
            ticks = {step.id for step in STEPS if random.random() < 0.7}
            found = standing(stops, [], words, STEPS, ticks)
            self.assertEqual({(one.key, one.gate) for one in found.open}, still)
            self.assertEqual(found.ride, not still and {"dead", "lamp", "stand"} <= ticks)
            self.assertEqual("lamp" in locked(found), any(gate != "ride" for _, gate in still) or "dead" not in ticks)


class Words(TestCase):
    def test_an_overrule_falls_over_three_percent_and_not_under(self) -> None:
        """30 A on 20 A is 1.5; 3 % more is 1.545, so 30.89 A hold and 30.91 A do not. A smaller limit counts as more asked."""
        word = Word("x", "overruled", 30.0, 20.0)
        self.assertTrue(holds(stop("x", "plan", 30.89, 20.0), word))
        self.assertFalse(holds(stop("x", "plan", 30.91, 20.0), word))
        self.assertFalse(holds(stop("x", "plan", 30.0, 19.0), word))
        self.assertTrue(holds(stop("x", "plan", 10.0, 20.0), word))

    def test_looking_closes_only_what_there_is_to_see(self) -> None:
        seen = Word("x", "observed", 1.0, 0.0)
        self.assertFalse(holds(stop("x", "power"), seen))
        self.assertTrue(holds(stop("x", "power", observable=True), seen))

    def test_a_speed_is_not_looked_away(self) -> None:
        """Of an unknown rider the age is to be entered: no look at the machine makes it slower."""
        found = next(f for f in evaluate(load_setup(bike(rider=None))).findings if f.id == "ride.cap")
        self.assertEqual((found.gate, found.observable), ("ride", False))
        self.assertFalse(holds(found, Word(found.key, "observed", found.asked, found.stands)))
        self.assertTrue(holds(found, Word(found.key, "overruled", found.asked, found.stands)))

    def test_words_without_numbers_are_asked_again(self) -> None:
        self.assertFalse(holds(stop("x", "ride"), Word("x", "overruled", None, None)))


class Chances(TestCase):
    def test_far_from_a_limit_no_sample_is_drawn(self) -> None:
        def never() -> list[float]:
            raise AssertionError("drawn")

        self.assertEqual((chance(6.0, 10.0, never).share, chance(19.0, 10.0, never).share), (0.0, 1.0))

    def test_half_and_a_quarter_decide(self) -> None:
        for over, severity in ((50, "stop"), (49, "caution"), (25, "caution"), (24, None)):
            samples = [11.0] * over + [9.0] * (100 - over)
            self.assertEqual(chance(9.9, 10.0, lambda samples=samples: samples).severity, severity)  # type: ignore[misc]

    def test_two_hundred_samples_speak_as_two_thousand(self) -> None:
        """Shares of the top speed over the middle one, counted over the layers used and over ten times as many: within 0.05."""
        for setup in (bike(), ride_on(), bike(motor__power_w={"value": 500, "basis": "nameplate"}), ride_on(ground={"surface": "long grass"})):
            few = Sampled(Analysis(setup)).top_m_s
            many = np.asarray(Riding(setup, samples=True, count=2000).top)
            for limit in np.quantile(many, [0.25, 0.5, 0.75]):
                self.assertAlmostEqual(float(np.mean(few > limit)), float(np.mean(many > limit)), delta=0.05)


class Prices(TestCase):
    def test_a_fix_says_what_it_costs(self) -> None:
        """The price is the difference of two evaluations, made here again from its patch."""
        import jsonpatch

        setup = bike(rider={"age_years": 7, "mass_kg": named(25)})
        before = evaluate(setup).outcome
        assert before is not None
        cap = next(entry for entry in fixes(setup) if entry.key == "ride.cap@speed")
        self.assertTrue(cap.fixes)
        for fix in cap.fixes:
            after = evaluate(load_setup(jsonpatch.apply_patch(setup.model_dump(mode="json"), fix.patch))).outcome
            assert after is not None and fix.price.top_speed_m_s is not None and fix.price.run_time_s is not None
            self.assertLess(fix.price.top_speed_m_s, 0.0)
            self.assertAlmostEqual(fix.price.top_speed_m_s, after.top_speed_m_s - before.top_speed_m_s, places=6)
            self.assertAlmostEqual(fix.price.run_time_s, after.run_time_s - before.run_time_s, places=3)

    def test_no_fix_ends_the_ride(self) -> None:
        """A limit so low that it no longer gets up the slope it rides would cool the winding, and mend nothing."""
        steep = bike(motor__power_w=named(300), ground={"surface": "packed dirt", "grade": 0.05}, rider={"age_years": 15, "mass_kg": named(60)})
        before = evaluate(steep).outcome
        assert before is not None and before.run_time_s > 60.0
        found = fixes(steep)
        self.assertIn("motor.heat", [entry.key for entry in found])
        for fix in (fix for entry in found for fix in entry.fixes):
            assert fix.price.run_time_s is not None
            self.assertGreater(before.run_time_s + fix.price.run_time_s, 60.0, fix.label)


class TroubleTold(TestCase):
    def ways_off(self, **changes: object) -> list[str]:
        return [step.title for step in trouble_of(bike(**changes))[0].steps]

    def test_the_switches_of_this_machine(self) -> None:
        self.assertIn("Open the cut-off.", self.ways_off())
        self.assertIn("Pull the plug.", self.ways_off(cut_off={**safe_bike()["cut_off"], "kind": "pullable plug"}))
        self.assertIn("Key off.", self.ways_off(controls={"key": True}))
        self.assertIn("Pull the battery plug.", self.ways_off(cut_off=None, controls={"key": False}))

    def test_a_car_without_levers_is_not_told_to_squeeze_them(self) -> None:
        self.assertNotIn("levers", trouble_of(ride_on())[0].steps[0].what)
        self.assertIn("both levers", trouble_of(bike())[0].steps[0].what)

    def test_every_kind_says_what_to_look_at_and_what_it_holds_up(self) -> None:
        for told in (*trouble_of(None), *trouble_of(bike())):
            self.assertTrue(told.steps and told.dont and told.checks, told.id)
            self.assertEqual(len({check.key for check in told.checks}), len(told.checks))
        gates = {told.id: {check.gate for check in told.checks} for told in trouble_of(bike())}
        self.assertEqual((gates["runaway"], gates["smoke"], gates["crash"]), ({"ride"}, {"power"}, {"power", "ride"}))


class Weights(TestCase):
    def test_what_other_packs_weigh_counts_in_every_mass(self) -> None:
        """10 cells of 6 Ah li-ion: 216 Wh at 135 Wh/kg are 1.6 kg; in a machine that was weighed with packs of 6.6 kg it is 5 kg lighter, with
        packs of 0.6 kg 1 kg heavier, and rolling, climbing and stopping follow."""
        bare = Analysis(bike(vehicle__mass_kg=named(40)))
        for came_with, total in ((6.6, 35.0), (0.6, 41.0)):
            other = Analysis(bike(vehicle__mass_kg=named(40), stock={"volts_v": named(36), "packs_kg": named(came_with)}))
            self.assertAlmostEqual(other.resolved.total_mass_kg - bare.resolved.total_mass_kg, total - 40.0, places=6)
            self.assertEqual(other.hill.grade > bare.hill.grade, total < 40.0)
        frame = Analysis(bike(vehicle__mass_kg=named(40), stock={"packs_kg": named(80)}))
        self.assertAlmostEqual(frame.resolved.total_mass_kg - bare.resolved.total_mass_kg, -24.0, places=6)

    def test_another_motor_and_controller_weigh_what_they_weigh(self) -> None:
        """A brushed motor of 350 W weighs 350/150 = 2.333 kg, one of 750 W 5 kg; a controller of 20 A 0.55 kg, one of 45 A 1.05 kg: 3.167 kg more,
        in the machine's mass and on its load; 10 kg of stated motor are 7.667 kg more."""
        small = {"motor__power_w": named(350), "controller__battery_limit_a": named(20)}
        large = {"motor__power_w": named(750), "controller__battery_limit_a": named(45)}
        found = bike(**small)
        noted: dict[str, Any] = {}
        note_masses(noted, found)
        bare = Analysis(found).resolved.total_mass_kg
        for changes, more in ((small, 0.0), (large, 5.0 - 350 / 150 + 0.5), ({**small, "motor__mass_kg": named(10)}, 10 - 350 / 150)):
            other = Analysis(bike(**changes, stock={**found.stock.model_dump(mode="json"), **noted["stock"]}))
            self.assertAlmostEqual(other.resolved.total_mass_kg - bare, more, places=3)
            self.assertAlmostEqual(added_kg(other.setup, other.stock.setup if other.stock is not None else None), more, places=3)

    def test_a_heavier_hub_sits_in_its_wheel(self) -> None:
        """A hub of 8 kg more at the rear axle: the centre of mass of M kg moves back by 8·b/(M + 8), where b is how far ahead the whole sits."""
        hub: dict[str, Any] = {"drivetrain": {"kind": "hub"}, "motor__kind": "hub", "motor__speed_rpm": named(600.0), "motor__mass_kg": named(4)}
        found = bike(**hub)
        noted: dict[str, Any] = {}
        note_masses(noted, found)
        light = Analysis(found).m.vehicle
        heavy = Analysis(bike(**{**hub, "motor__mass_kg": named(12)}, stock={**found.stock.model_dump(mode="json"), **noted["stock"]})).m.vehicle
        self.assertAlmostEqual(float(heavy.mass_kg - light.mass_kg), 8.0, places=3)
        self.assertAlmostEqual(float(light.com_ahead_of_rear_m - heavy.com_ahead_of_rear_m), float(8.0 * light.com_ahead_of_rear_m / heavy.mass_kg), places=4)

    def test_an_arrangement_knows_what_the_old_packs_weighed(self) -> None:
        """12 V 7 Ah lead: 84 Wh at 34 Wh/kg are 2.471 kg; two tool packs of 18 V 5 Ah 90/135 = 0.667 kg each: 1.137 kg less. Two row fuses, a guard
        and a cut-off of 0.1 kg come on top, and two row leads of 12 AWG (3.309 mm²), 0.4 m of it each: 1.4 · 8.96 · 3.309e-3 · 0.4 = 0.0166 kg each."""
        from gecko.document.parts.pack import Pack
        from gecko.plans.arrangements import arrange, beside_found, typical_setup

        found = load_setup(typical_setup("ride-on car", 12.0))
        assert found.bank is not None and found.stock is not None
        pack = Pack.model_validate({"cells_in_series": 5, "capacity_ah": named(5)})
        made = load_setup(arrange(found, pack, 2, 1))
        came_with = found.bank.weighs_kg
        assert made.stock is not None and made.stock.packs_kg is not None and found.stock.packs_kg is None
        self.assertAlmostEqual(made.stock.packs_kg.value, came_with, places=3)
        self.assertAlmostEqual(Analysis(made).resolved.total_mass_kg - Analysis(found).resolved.total_mass_kg, 2 * 90 / 135 - came_with + 0.4 + 2 * 0.0166, places=2)
        weighed = {**found.model_dump(mode="json"), "vehicle": {"family": "ride-on car", "mass_kg": named(21)}}
        self.assertIs(beside_found(weighed, found), weighed)
