"""Driving at depth: labels, modes, the knob, gears, riders, sprockets, single changes, heat, sides by side."""

from __future__ import annotations

import math
from typing import Any
from unittest import TestCase

import numpy as np
from scipy.integrate import solve_ivp

from gecko.analysis.riding import Riding
from gecko.analysis.whole import Analysis
from gecko.common.units import mph
from gecko.document.context import Context
from gecko.document.parts.rider import Rider
from gecko.document.rack.about import Racked
from gecko.document.rack.kinds import Hardware
from gecko.document.setup import Setup, load_setup
from gecko.machine.courses import SHIPPED
from gecko.machine.resolve import resolve
from gecko.physics.heat.controller import controller_losses_w, thermal_of
from gecko.physics.motion.top_speed import top_speed
from gecko.physics.road.chain import centre_for, fit_chain, links_needed
from gecko.plans.drive.compare import compare
from gecko.plans.drive.gears import GearOut, gears
from gecko.plans.drive.goals import GoalOut, reach
from gecko.plans.drive.levers import ladders
from gecko.plans.drive.riders import rider_out
from gecko.plans.drive.sprockets import sprockets
from gecko.plans.drive.ways import drive_changes, drive_plan, drive_sprockets
from gecko.plans.drive.what_if import changed, shared_limit, what_ifs
from gecko.plans.evaluate import evaluate
from gecko.plans.ranges import ranges
from gecko.tests.machines import bike, named, ride_on

MODES = [{"name": "low", "duty": 0.5, "current": 0.6}, {"name": "high"}]


class Labels(TestCase):
    """One motor of 24 V, 280 W, 2700 rpm, η 0.77: R = 0.6·83.6/15.15² = 0.2186 Ω, k = (24 − 15.15·0.2186)/282.7 = 0.07317 V·s,
    I0 = 0.4·83.6/20.69 = 1.617 A. Whatever of it a label tells, the same motor comes out."""

    def constants(self, **motor: Any) -> tuple[float, float, float]:
        setup = bike(motor={"kind": "brushed", "volts_v": named(24), **motor}, motor_lead=None, controller__efficiency=named(0.97))
        each = resolve(setup).motor_each
        assert each is not None
        return float(each.resistance_ohm), float(each.k_v_s), float(each.no_load_a)

    def test_the_same_motor_from_any_label(self) -> None:
        no_load = (24 - 1.617 * 0.2186) / 0.07317 * 30 / math.pi
        labels: list[dict[str, Any]] = [
            {"power_w": named(280), "speed_rpm": named(2700)},
            {"power_w": named(280), "no_load_rpm": named(no_load)},
            {"power_w": named(280), "kv_rpm_per_v": named(30 / math.pi / 0.07317)},
            {"stall_a": named(24 / 0.2186), "speed_rpm": named(2700)},
            {"resistance_ohm": named(0.2186), "speed_rpm": named(2700)},
            {"resistance_ohm": named(0.2186), "no_load_a": named(1.617), "power_w": named(280), "no_load_rpm": named(no_load)},
        ]
        for label in labels:
            with self.subTest(sorted(label)):
                ohm, k, idle = self.constants(**label)
                self.assertAlmostEqual(ohm / 0.2186, 1, delta=0.002)
                self.assertAlmostEqual(k / 0.07317, 1, delta=0.002)
                self.assertAlmostEqual(idle / 1.617, 1, delta=0.004)

    def test_a_tachometer_on_the_stand(self) -> None:
        """The wheel, 88:12 slower than the motor, at 26 V behind a controller of 0.97: k·ω = 0.97·26 − I0·R."""
        wheel_rpm = (0.97 * 26 - 1.617 * 0.2186) / 0.07317 * 30 / math.pi * 12 / 88
        measured = {"stand_wheel_rpm": named(wheel_rpm, "measured"), "stand_v": named(26, "measured")}
        self.assertAlmostEqual(self.constants(power_w=named(280), speed_rpm=named(5000), **measured)[1] / 0.07317, 1, delta=0.002)

    def test_the_better_known_speed_counts(self) -> None:
        plate, reading = named(2700), named(3300, "measured")
        self.assertAlmostEqual(self.constants(power_w=named(280), speed_rpm=plate, no_load_rpm=reading)[1], 0.0684, delta=0.0002)


class ModesAndKnob(TestCase):
    def test_a_mode_caps_duty_and_current(self) -> None:
        control = Riding(bike(controller__modes=MODES, controller__mode="low")).m.control
        self.assertEqual((control.duty_max, control.battery_limit_a, control.phase_limit_a), (0.5, 0.6 * 28, 0.6 * 42))
        self.assertEqual(Riding(bike(controller__modes=MODES)).m.control.duty_max, 1.0)

    def test_marks_are_fitted_to_speeds(self) -> None:
        """A knob whose mark 5 gives what 70 % duty gives, and mark 8 what 90 %: limiter there goes just that fast at half charge."""
        free = Riding(bike())
        speeds = {duty: float(Riding(bike(throttle__limiter_mark=duty)).speeds.level[1]) for duty in (0.7, 0.9)}
        knob = [{"mark": 0.5, "speed_m_s": named(speeds[0.7], "measured")}, {"mark": 0.8, "speed_m_s": named(speeds[0.9], "measured")}]
        set_to = Riding(bike(throttle__knob=knob, throttle__limiter_mark=0.5))
        self.assertAlmostEqual(float(set_to.m.control.duty_max), 0.7, delta=0.005)
        self.assertAlmostEqual(float(set_to.speeds.level[1]), speeds[0.7], delta=0.01)
        between = set_to.resolved.knob
        self.assertAlmostEqual(between.duty(0.65), 0.8, delta=0.005)
        self.assertAlmostEqual(between.mark(0.8), 0.65, delta=0.01)
        self.assertAlmostEqual(float(between.duty(1.0)), 1.0)
        curve = evaluate(bike(throttle__knob=knob)).curves.knob
        assert curve is not None
        self.assertAlmostEqual(curve.y[4], speeds[0.7], delta=0.01)
        self.assertGreater(float(free.speeds.level[1]), speeds[0.9])

    def test_marks_that_contradict_each_other_meet_half_way(self) -> None:
        high, low = (float(Riding(bike(throttle__limiter_mark=duty)).speeds.level[1]) for duty in (0.8, 0.6))
        knob = [{"mark": 0.4, "speed_m_s": named(high)}, {"mark": 0.6, "speed_m_s": named(low)}]
        fitted = Riding(bike(throttle__knob=knob)).resolved.knob
        self.assertAlmostEqual(fitted.duty(0.4), 0.7, delta=0.005)
        self.assertAlmostEqual(fitted.duty(0.6), 0.7, delta=0.005)

    def test_a_soft_start_against_an_ode(self) -> None:
        """Motor amps rising to the phase limit in 2 s: time and way to 90 % of top speed by adaptive integration."""
        a = Riding(bike(controller__ramp_s=named(2.0)))
        m, v = a.m, a.m.vehicle
        target = float(0.9 * a.level_top)

        def slope(t: float, y: Any) -> list[float]:
            amps = min(t / 2.0, 1.0) * float(m.amps(a.full, a.motor, y[0]))
            push = max(float(a.motor.k_v_s) * (amps - float(a.motor.no_load_a)), 0.0) * float(v.gear_ratio / v.wheel_radius_m * v.gear_efficiency)
            held = float(v.mass_kg) * 9.81 * 0.015 + 0.6 * float(v.drag_area_m2) * y[0] ** 2
            return [max(push - held, 0.0) / (float(v.mass_kg) * 1.05), y[0]]

        def there(_t: float, y: Any) -> float:
            return float(y[0] - target)

        there.terminal = True  # type: ignore[attr-defined]
        found = solve_ivp(slope, (0, 60), [0.0, 0.0], events=there, rtol=1e-8, atol=1e-9, max_step=0.02)
        self.assertAlmostEqual(float(a.launch.time_s[-1]) / found.t[-1], 1, delta=0.003)
        self.assertAlmostEqual(float(a.launch.distance_m[-1]) / found.y[1, -1], 1, delta=0.003)
        self.assertLess(float(a.launch.pack_a[1]), 0.2 * float(a.peak_a))


class Gears(TestCase):
    def by_name(self, setup: Setup) -> dict[str, GearOut]:
        return {gear.name.split(":")[0].split(" (")[0]: gear for gear in gears(Riding(setup))}

    def test_high_low_and_one_motor_out(self) -> None:
        found = self.by_name(ride_on())
        self.assertEqual([gear.in_use for gear in found.values()], [True, False, False])
        low = Riding(ride_on(motor__wiring="series"))
        self.assertAlmostEqual(found["Low"].top_speed_m_s, float(low.level_top), places=9)
        self.assertLess(found["Low"].push_n, found["High"].push_n)
        a = Riding(ride_on())
        each = a.resolved.motor_each
        assert each is not None
        # E over bank, path and one winding alone.
        alone = float(a.full.open_v / (a.m.source_ohm(a.full) + each.resistance_ohm))
        self.assertAlmostEqual(found["One motor gives up"].stall_a, alone, delta=0.01)
        self.assertFalse(self.by_name(ride_on(motor__wiring="series"))["One motor gives up"].moves)

    def test_modes_and_reverse(self) -> None:
        found = self.by_name(bike(controller__modes=MODES, controller__mode="high", controller__reverse_duty=0.4))
        self.assertEqual([name for name, gear in found.items() if gear.in_use], ["Mode high"])
        self.assertAlmostEqual(found["Reverse"].top_speed_m_s, float(Riding(bike(throttle__limiter_mark=0.4)).level_top), places=6)
        assert found["Mode low"].wheelie_margin is not None and found["Mode high"].wheelie_margin is not None
        self.assertGreater(found["Mode low"].wheelie_margin, found["Mode high"].wheelie_margin)

    def test_a_wheelie_ends_below_its_share_of_the_amps(self) -> None:
        """Limits set just under the share keep the front down, just over lift it."""
        steep = {"vehicle": {"family": "small dirt bike", "com_height_m": named(1.3)}, "controller__battery_limit_a": named(60)}
        free = Riding(bike(**steep, controller__phase_limit_a=named(120)))
        wild, full_a = free.wheelie, float(free.stall_point.motor_a)
        assert wild is not None and wild.share is not None
        for factor, lifts in ((0.97, False), (1.03, True)):
            tried = Riding(bike(**steep, controller__phase_limit_a=named(full_a * wild.share * factor))).wheelie
            assert tried is not None
            self.assertEqual(tried.margin < 1.0, lifts)

    def test_a_longer_wheelbase_keeps_the_front_down(self) -> None:
        plan = drive_plan(bike())
        assert plan.launch is not None
        # g·(b + Δ)/h over the same push: 0.40 m ahead, 0.20 m longer, half as much again.
        self.assertAlmostEqual(plan.launch.longer[3].wheelie_margin / plan.launch.longer[0].wheelie_margin, 1.5, places=6)


class Riders(TestCase):
    def test_everybody_who_rides_it_has_a_line_once(self) -> None:
        """The setup's own rider, who rides it too, then those of the garage who are neither."""
        runa, kit = Rider(name="Runa", age_years=7), Rider(name="Kit", age_years=11)
        setup = bike(rider={"name": "Lumi", "age_years": 9}, also=[runa.model_dump(), {"age_years": 5}])
        plan = drive_plan(setup, riders=(kit, runa))
        self.assertEqual([(one.name, one.age_years) for one in plan.riders], [("Lumi", 9), ("Runa", 7), ("Rider", 5), ("Kit", 11)])

    def test_the_mark_gives_the_cap(self) -> None:
        a = Riding(bike(controller__modes=MODES))
        for cap in (2.0, 4.0, 6.0):
            line = rider_out(a, Rider.model_validate({"name": "Kit", "age_years": 7, "cap_m_s": cap}))
            assert line.mark is not None
            there = Riding(bike(rider={"age_years": 7}, throttle__limiter_mark=line.mark))
            speed = float(top_speed(there.m, there.full, there.motor))
            self.assertLessEqual(speed, cap * 1.001)
            self.assertGreater(speed, 0.8 * cap, "Three of four likely cases stay under the cap, not many more.")

    def test_caps_by_age_and_modes_under_them(self) -> None:
        a = Riding(bike(controller__modes=MODES, vehicle__max_load_kg=named(50)))
        young, grown = (rider_out(a, Rider.model_validate({"name": "K", "age_years": age})) for age in (11, 40))
        self.assertAlmostEqual(young.cap_m_s or 0, mph(8 + 8 / 3))
        self.assertEqual((young.cap_basis, young.mode, grown.line), ("by age", "low", "no limit needed"))
        self.assertIn("once it is locked", young.line, "The label promises only what the rider cannot undo.")
        locked = rider_out(Riding(bike(controller__modes=MODES, controller__modes_locked=True)), Rider(name="K", age_years=11))
        self.assertTrue(locked.line.startswith("mode low or"), locked.line)
        self.assertEqual((young.over_weight, grown.over_weight), (False, True))
        slow = rider_out(Riding(ride_on()), Rider(name="B", age_years=12))
        self.assertEqual((slow.mark, slow.line), (None, "no limit needed"))
        fast = rider_out(Riding(ride_on(bank__rows=[{"units": [{"cells_in_series": 10, "capacity_ah": named(5)}]}])), Rider(name="B", age_years=3))
        self.assertIn("nothing on this machine limits it", fast.line)


class Goals(TestCase):
    def found(self, kind: str, value: float, **edits: Any) -> GoalOut:
        goal = reach(bike(**edits), kind, value)  # type: ignore[arg-type]
        assert goal is not None
        return goal

    def test_what_is_offered_reaches_it_when_it_is_put_in(self) -> None:
        """Each way's own document, computed apart from the search, is as fast, as long and as steep as it says."""
        for kind, value, read in (("speed", 7.9, "top"), ("time", 5400.0, "run_time_s"), ("hill", 0.28, "grade")):
            for way in self.found(kind, value).ways:
                with self.subTest(kind, way=way.label):
                    other = Analysis(load_setup(way.document))
                    got = {"top": other.top, "run_time_s": other.ride.run_time_s, "grade": other.hill.grade}[read]
                    self.assertGreaterEqual(float(got), value)

    def test_the_smallest_step_that_reaches_it(self) -> None:
        """Twelve teeth do 7.11 m/s; speed goes about with the teeth, so 7.9 m/s ask for 12 · 7.9 / 7.11 = 13.3: two teeth more."""
        ways = self.found("speed", 7.9).ways
        self.assertIn("2 teeth more at the motor", [way.label for way in ways])
        self.assertEqual(ways, sorted(ways, key=lambda way: (len(way.stops), way.share)))

    def test_what_does_not_reach_it_says_how_far_it_goes_and_why(self) -> None:
        """Rows and amps bring no speed where the motor's own volts meet the packs'; each is as fast as it says, short of the goal, and no lever is
        both a way and short."""
        goal = self.found("speed", 7.9)
        short = {one.lever: one for one in goal.short}
        self.assertFalse(set(short) & {lever for way in goal.ways for lever in way.levers if len(way.levers) == 1})
        self.assertTrue({"rows", "controller amps"} <= set(short), set(short))
        self.assertTrue(all(one.value < 7.9 for one in goal.short))
        self.assertIn("volts", short["rows"].why)
        rung = next(rung for ladder in ladders(Analysis(bike())) for rung in ladder if rung.label == short["controller amps"].label)
        other = changed(Analysis(bike()), rung)
        assert other is not None
        self.assertAlmostEqual(float(other.top), short["controller amps"].value, places=9)

    def test_reached_already_and_out_of_reach_are_said(self) -> None:
        self.assertTrue(self.found("speed", 5.0).reached)
        far = self.found("speed", 25.0)
        self.assertEqual(far.ways, [])
        self.assertIn("comes nearest", far.sentence)

    def test_a_hub_has_no_teeth_to_change_and_no_wheel_but_its_own(self) -> None:
        hub = {"drivetrain": {"kind": "hub"}, "motor__kind": "hub", "motor__speed_rpm": named(600.0)}
        for kind, value in (("speed", 9.0), ("hill", 0.4), ("time", 20_000.0)):
            levers = {lever for way in self.found(kind, value, **hub).ways for lever in way.levers}
            self.assertFalse(levers & {"teeth", "wheel"}, levers)
        self.assertFalse({one.lever for one in what_ifs(Analysis(bike(**hub))).changes} & {"teeth", "wheel"})

    def test_more_packs_weigh_more(self) -> None:
        """A row beside is a pack of the same mass more to carry, and a fuse of 0.1 kg in either row."""
        a = Analysis(bike())
        beside = next(one for one in what_ifs(a).changes if one.lever == "rows")
        other = Analysis(load_setup(beside.document))
        assert a.setup.bank is not None
        self.assertAlmostEqual(other.resolved.total_mass_kg - a.resolved.total_mass_kg, a.setup.bank.weighs_kg + 0.2, places=2)

    def test_what_a_way_costs_is_what_is_left_to_buy_for_it(self) -> None:
        """A sprocket of 14 teeth by planning values: 4 + 0.1 · 14 = 5.4 to 12 + 0.6 · 14 = 20.4; nothing where one lies on the rack."""
        owned = Racked(kind="hardware", part=Hardware(what="sprocket", teeth=14, pitch="25"), quantity=1)
        drive = {"drivetrain__chain_pitch": "25", "drivetrain__motor_sprocket_pitch": "25"}
        for rack, cost in (([], (5.4, 20.4)), ([owned], (0.0, 0.0))):
            goal = reach(bike(**drive), "speed", 7.9, rack=rack)
            assert goal is not None
            (way,) = [one for one in goal.ways if one.label == "2 teeth more at the motor"]
            self.assertAlmostEqual(way.cost.low, cost[0])
            self.assertAlmostEqual(way.cost.high or 0.0, cost[1])

    def test_nothing_moves_no_goal(self) -> None:
        self.assertIsNone(reach(load_setup({}), "speed", 5.0))


class ChangesTried(TestCase):
    def test_a_change_is_the_whole_machine_evaluated_again(self) -> None:
        setup = bike()
        base = evaluate(setup).outcome
        found = {one.lever: one for one in what_ifs(Analysis(setup)).changes}
        self.assertEqual(set(found), {"volts", "rows", "controller amps", "motor", "teeth", "wheel", "mass"})
        assert base is not None
        for one in found.values():
            again = evaluate(load_setup(one.document)).outcome
            assert again is not None
            self.assertAlmostEqual(one.top_gain_m_s, again.top_speed_m_s - base.top_speed_m_s, places=6, msg=one.lever)
            self.assertAlmostEqual(one.run_time_gain_s, again.run_time_s - base.run_time_s, delta=1.0, msg=one.lever)
        self.assertIn("limiter", {one.lever for one in what_ifs(Analysis(bike(throttle__limiter_mark=0.5))).changes})

    def test_volts_hold_then_amps_hold(self) -> None:
        """At the motor's own voltage amps bring nothing; geared so tall that the amps hold, they bring most of what fits."""
        found = {one.lever: one for one in what_ifs(Analysis(bike())).changes}
        self.assertLess(abs(found["controller amps"].top_gain_m_s), 0.05)
        self.assertGreater(found["volts"].top_gain_m_s, 1.0)
        tall = what_ifs(Analysis(bike(drivetrain__wheel_teeth=30)))
        by = {one.lever: one for one in tall.changes}
        self.assertEqual(tall.changes[0].lever, max(by, key=lambda lever: by[lever].top_gain_m_s))
        self.assertGreater(by["controller amps"].top_gain_m_s, 0.3)
        self.assertLess(by["teeth"].top_gain_m_s, by["controller amps"].top_gain_m_s)

    def test_the_sentence_has_numbers_and_costs(self) -> None:
        said = what_ifs(Analysis(bike())).held_back.sentence
        self.assertRegex(said, r"\[\[[\d.]+\|speed\]\]")
        self.assertIn("would stand at", said)
        self.assertRegex(said, r"costs|brings no speed")

    def test_a_limiter_somebody_set_is_what_holds_it_on_every_screen(self) -> None:
        """Volts are to blame with the stick open; with the limiter at half it is the limiter, tried or at a glance."""
        throttle = bike().throttle
        assert throttle is not None
        for mark, named_so in ((0.5, "limiter"), (None, "volts")):
            limited = bike(throttle=throttle.model_copy(update={"limiter_mark": mark}))
            glance, tried = evaluate(limited).held_back, what_ifs(Analysis(limited)).held_back
            assert glance is not None
            self.assertEqual((glance.limit, tried.limit), (named_so, named_so))
            if mark is not None:
                self.assertEqual(glance.title, tried.title)
                self.assertTrue(tried.sentence.startswith(glance.sentence), tried.sentence)

    def test_two_that_come_out_alike_share_a_limit(self) -> None:
        tall = {"drivetrain__wheel_teeth": 30}
        amps = shared_limit([("one", bike(**tall)), ("two", bike(**tall, bank__rows__0__units__0__capacity_ah=named(9)))])
        self.assertIn("one and two", amps)
        self.assertIn("not its amp limit", amps)
        self.assertEqual(shared_limit([("one", bike()), ("two", bike(drivetrain__wheel_teeth=60))]), "")


class Sprockets(TestCase):
    def test_each_choice_is_the_machine_with_it(self) -> None:
        setup = bike(drivetrain__chain_pitch="#25", drivetrain__centre_m=named(0.3))
        found = sprockets(Analysis(setup))
        thirteen = next(choice for choice in found.choices if choice.motor_teeth == 13 and choice.side == "motor")
        outcome = evaluate(bike(drivetrain__motor_teeth=13)).outcome
        assert outcome is not None and thirteen.links is not None and thirteen.chain_pull_n is not None
        self.assertAlmostEqual(thirteen.top_speed_m_s, outcome.top_speed_m_s, places=9)
        self.assertAlmostEqual(thirteen.hill_grade, outcome.hill_grade, places=9)
        self.assertEqual({step["path"]: step.get("value") for step in thirteen.patch}, {"/drivetrain/motor_teeth": 13, "/drivetrain/ratio": None})
        # Pull: torque at the wheels over the radius p/(2 sin(π/88)) of its sprocket.
        stall = float(Riding(bike(drivetrain__motor_teeth=13)).stall_wheel_nm)
        self.assertAlmostEqual(thirteen.chain_pull_n, stall * 2 * math.sin(math.pi / 88) / 0.00635, delta=0.5)
        self.assertEqual(thirteen.links % 2, 0)

    def test_taller_is_faster_until_the_push_is_gone(self) -> None:
        choices = sorted((c for c in sprockets(Analysis(bike())).choices if c.side == "motor"), key=lambda c: c.motor_teeth or 0)
        launches = [c.launch_s for c in choices]
        self.assertEqual(launches, sorted(launches))
        hills = [c.hill_grade for c in choices]
        self.assertEqual(hills, sorted(hills, reverse=True))

    def test_where_there_is_nothing_to_choose_it_says_why(self) -> None:
        self.assertIn("plastic gearbox", sprockets(Analysis(ride_on())).why_none)
        self.assertIn("Enter the teeth", sprockets(Analysis(bike(drivetrain={"kind": "chain", "ratio": named(7)}))).why_none)

    def test_links_and_centres_belong_together(self) -> None:
        for motor, wheel, centre in ((9, 90, 0.25), (11, 55, 0.4), (14, 40, 0.6)):
            links = links_needed(motor, wheel, centre, 0.00635)
            fit = fit_chain(motor, wheel, centre, 0.00635)
            assert fit is not None
            self.assertTrue(links <= fit.links < links + 2 and fit.links % 2 == 0)
            self.assertAlmostEqual(links_needed(motor, wheel, fit.centre_m, 0.00635), fit.links, delta=0.05)
            self.assertGreaterEqual(fit.moves_m or 0, -0.001)
        self.assertIsNone(centre_for(11, 90, 52, 0.00635))


class Heat(TestCase):
    def test_a_controller_at_its_limit(self) -> None:
        """60 K above the air at its limit, 90 K closed in; 63 % of that after 900 s."""
        control = Riding(bike()).m.control
        losses = controller_losses_w(control, 28.0, 36.0)
        self.assertAlmostEqual(losses, 0.03 * 36 * (28 - 0.05) + 0.05 * 36)
        for enclosed, rise in ((False, 60.0), (True, 90.0)):
            thermal = thermal_of(control, 28.0, 36.0, enclosed)
            self.assertAlmostEqual(thermal.settles_k(losses), rise)
            self.assertAlmostEqual(thermal.rise_k(losses, 900.0), rise * (1 - math.exp(-1)))
            after = thermal.seconds_to(losses, rise / 2)
            self.assertAlmostEqual(after or 0, 900 * math.log(2))
        self.assertIsNone(thermal_of(control, 28.0, 36.0, False).seconds_to(losses, 61.0))

    def test_cooling_down_against_an_ode(self) -> None:
        heat = drive_plan(bike(course=SHIPPED[0].model_dump())).heat
        assert heat is not None
        cool, th = heat.cool_down, Riding(bike()).m.thermal

        def slope(_t: float, y: Any) -> list[float]:
            flow = (y[0] - y[1]) / float(th.winding_to_case_k_per_w)
            return [-flow / float(th.winding_j_per_k), (flow - (y[1] - 25) / float(th.case_to_air_k_per_w)) / float(th.case_j_per_k)]

        found = solve_ivp(slope, (0, 3600), [cool.start_winding_c, cool.start_case_c], rtol=1e-8, dense_output=True)
        for seconds in (60.0, 600.0, 3000.0):
            for line, index in ((cool.winding, 0), (cool.case, 1)):
                self.assertAlmostEqual(float(np.interp(seconds, line.x, line.y)), float(found.sol(seconds)[index]), delta=0.6)
        self.assertAlmostEqual(float(found.sol(cool.cool_s)[0]) - 25, 0.1 * (cool.start_winding_c - 25), delta=0.3)

    def test_a_hotter_day_ends_sooner(self) -> None:
        heat = drive_plan(bike(course=SHIPPED[0].model_dump())).heat
        assert heat is not None
        self.assertEqual([day.ambient_c for day in heat.days], [10.0, 25.0, 35.0])
        times = [day.run_time_s for day in heat.days if day.ends_by == "winding 155 C"]
        self.assertGreaterEqual(len(times), 2)
        self.assertEqual(times, sorted(times, reverse=True))


class HowSure(TestCase):
    def test_the_loosest_figure_is_named_first(self) -> None:
        """All measured but the motor's rpm, which is a guess: it makes nearly all of the doubt in the top speed."""
        document = bike(motor__speed_rpm=named(2700, "assumed"), motor__volts_v=named(36, "measured"), wheel__diameter_m=named(0.31, "measured"))
        widest = ranges(document).widest["top_speed_m_s"]
        self.assertEqual((widest[0].path, widest[0].basis), ("/motor/speed_rpm", "assumed"))
        self.assertGreater(widest[0].share, 0.8)
        self.assertIn("tachometer", widest[0].how)
        self.assertLessEqual(len(widest), 2)

    def test_every_outcome_with_a_range_keeps_its_central_value_near(self) -> None:
        found, outcome = ranges(bike()).outcomes, evaluate(bike()).outcome
        for name in ("launch_s", "wheelie_margin", "starts_grade", "slide_m_s", "cruise_a", "wh_per_km", "stall_a", "sag_v"):
            with self.subTest(name):
                self.assertLess(found[name].low, getattr(outcome, name))
                self.assertGreater(found[name].high, getattr(outcome, name))


class SideBySide(TestCase):
    def test_outcomes_differences_and_what_was_changed(self) -> None:
        setups = [("as it is", bike(), Context()), ("taller", bike(drivetrain__motor_teeth=14, guard=None), Context())]
        found = compare(setups)
        rows = {row.id: row for row in found.outcomes}
        top = rows["top_speed_m_s"]
        values = [evaluate(setup).outcome.top_speed_m_s for _, setup, _ in setups]  # type: ignore[union-attr]
        self.assertEqual([cell.value for cell in top.cells], values)
        self.assertAlmostEqual(top.cells[1].against_first or 0, values[1] - values[0])
        self.assertTrue(top.differs and all(cell.low < cell.value < cell.high for cell in top.cells))  # type: ignore[operator]
        changed = {row.label: row.values for row in found.changes if row.differs}
        self.assertEqual(changed["Gearing: motor teeth"], ["12", "14"])
        self.assertEqual(changed["Low-volt guard"], ["fitted", "none"])
        self.assertEqual(set(changed), {"Gearing: motor teeth", "Low-volt guard"})
        self.assertGreater(found.alike, 20)
        self.assertIn("pack.guard", {f.id for f in evaluate(setups[1][1]).findings})
        self.assertEqual((found.setups[0].stops, found.setups[1].stops), (0, 1))

    def test_setups_that_lack_something_are_still_compared(self) -> None:
        found = compare([("a", bike(), Context()), ("b", bike(motor=None, bank=None), Context())])
        self.assertTrue(all(row.cells[1].value is None for row in found.outcomes))
        self.assertIn(["fitted", "none"], [row.values for row in found.changes])


class Drafts(TestCase):
    def test_what_cannot_be_computed_is_said_to_be_unknown(self) -> None:
        for setup in (Setup(), bike(motor=None), bike(ground={"surface": "deep sand", "rolling_resistance": named(0.9)})):
            self.assertFalse(drive_plan(setup).known)
            self.assertIsNone(drive_changes(setup).tried)
            self.assertIsNone(drive_sprockets(setup).sprockets)

    def test_a_round_with_what_the_rider_does(self) -> None:
        ride = drive_plan(bike(course=SHIPPED[0].model_dump())).ride
        assert ride is not None
        first = ride.round_lines[0]
        self.assertEqual(len(first.time_s), len(first.doing))
        self.assertEqual([first.doing[0][:13], first.doing[-1]], ["full throttle", "stands"])
        self.assertTrue({"holds its speed", "brakes"} <= set(first.doing))
        self.assertAlmostEqual(first.place_m[-1], 60.0, delta=0.2)
        self.assertAlmostEqual(ride.balance, 1.0, delta=0.001)
