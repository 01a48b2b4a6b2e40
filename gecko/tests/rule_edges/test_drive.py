"""Each rule of motor, controller and gearing, at the edge docs/model.md and its principle give it: a hair over trips, a hair under does not."""

from __future__ import annotations

from math import pi
from typing import Any

from gecko.analysis.whole import Analysis
from gecko.document.context import Context
from gecko.document.setup import load_setup
from gecko.plans.evaluate import evaluate
from gecko.plans.fixes import fixes
from gecko.reference.tables import families
from gecko.rules.drive import stock_stall_nm
from gecko.rules.motor import _cooler, _shorter, winding_chances
from gecko.rules.registry import Edit, run_checks
from gecko.rules.together import mark_for
from gecko.tests.machines import bike, named, ride_on
from gecko.tests.rule_edges.edges import Edges, cells


class GetsGoing(Edges):
    def test_a_slope_steeper_than_it_starts_on_is_a_stop_and_a_sprocket_that_pulls_harder_its_fix(self) -> None:
        """A 20-tooth sprocket pulls like one of 11 teeth 20/11 times as weakly; one of 10 teeth twice as hard as that of 20."""
        weak: dict[str, Any] = {
            "drivetrain": {"kind": "chain", "motor_teeth": 20, "wheel_teeth": 60},
            "motor__power_w": named(150),
            "controller__battery_limit_a": named(8),
        }
        starts = self.outcome(bike(**weak)).starts_grade
        self.none(bike(**weak, ground__grade=starts * 0.99), "motor.moves")
        said = self.one(bike(**weak, ground__grade=starts * 1.01), "motor.moves", "stop")
        self.assertGreater((said.asked or 0) / (said.stands or 1), 1.0)
        found = evaluate(bike(**weak, ground__grade=starts * 1.3))
        assert found.outcome is not None
        self.assertEqual(found.outcome.top_speed_m_s, 0.0)
        fix = next(f.fixes for f in fixes(bike(**weak, ground__grade=starts * 1.3)) if f.key == "motor.moves")[0]
        self.assertRegex(fix.label, r"Motor sprocket of (9|1\d) teeth")

    def test_a_machine_that_stood_still_as_found_is_nothing_to_stop_against(self) -> None:
        still = bike(motor__power_w=named(60), controller__battery_limit_a=named(3), ground={"surface": "deep sand"})
        self.assertEqual(self.outcome(still).top_speed_m_s, 0.0)
        self.none(bike(), "ride.stop", Context(baseline=still, stock=still))

    def test_deep_sand_that_holds_it_is_said_on_the_level(self) -> None:
        said = self.one(bike(motor__power_w=named(60), controller__battery_limit_a=named(3), ground={"surface": "deep sand"}), "motor.moves", "stop")
        self.assertIn("On deep sand full throttle does not move", said.because)


class Drive(Edges):
    def test_throttles_of_an_unknown_kind_are_not_judged(self) -> None:
        self.none(bike(throttle__kind="unknown"), "ctl.throttle")
        self.none(bike(controller__throttle="unknown"), "ctl.throttle")
        for kind in ("potentiometer", "switch"):
            self.assertIn(f"has a {kind} one", self.one(bike(throttle__kind=kind), "ctl.throttle", "stop").because)

    def test_every_pairing_of_motor_and_controller(self) -> None:
        hub = {"kind": "hub", "volts_v": named(36), "power_w": named(350), "speed_rpm": named(500)}
        self.none(bike(motor=hub, controller__kind="brushless"), "ctl.kind")
        self.one(bike(motor=hub), "ctl.kind", "stop")
        self.one(bike(motor=hub, controller={"kind": "none"}), "ctl.kind", "stop")
        self.none(bike(controller={"kind": "none"}), "ctl.kind")
        blind = {**hub, "has_halls": False}
        self.none(bike(motor=blind, controller__kind="brushless"), "ctl.kind")
        said = self.one(bike(motor=blind, controller__kind="brushless", controller__needs_halls=True), "ctl.kind", "stop")
        self.assertIn("Hall", said.title)

    def test_a_brake_cut_off_counts_only_where_there_is_one(self) -> None:
        self.one(bike(throttle__brake_cut_off_wired=False), "ctl.brake", "caution")
        self.assertIn("no sensor", self.one(bike(throttle__brake_cut_off_present=False), "ctl.brake", "caution").because)
        self.assertIn("no input", self.one(bike(controller__brake_cut_off_input=False), "ctl.brake", "caution").because)
        self.one(bike(throttle__brake_cut_off_wired=None), "look.brake_cut_off", "caution")
        self.none(ride_on(throttle={"brake_cut_off_present": False, "returns": True}), "ctl.brake")

    def test_a_foot_switch_is_a_quads_matter(self) -> None:
        self.none(bike(throttle__foot_switch_wired=False), "ctl.foot")
        self.none(bike(vehicle={"family": "quad"}), "ctl.foot")
        self.one(bike(vehicle={"family": "quad"}, throttle__foot_switch_wired=False), "ctl.foot", "stop")

    def test_the_controllers_limit_against_packs_and_lead(self) -> None:
        """28 A against packs of 27.9 A, and against 1.35 · 20 · 0.7 = 18.9 A of 18 AWG in a pair."""
        self.assertIn("the packs", self.one(bike(bank__rows__0__units__0__peak_10s_a=named(27.9)), "ctl.limit", "caution").because)
        self.none(bike(bank__rows__0__units__0__peak_10s_a=named(28.1)), "ctl.limit")
        self.assertIn("the lead for some minutes stand 19 A", self.one(bike(main_lead__awg=18), "ctl.limit", "caution").because)

    def test_a_spark_from_thirty_six_volts(self) -> None:
        """8 cells 33.6 V none; 9 cells 37.8 V a note; 12 cells 50.4 V a caution. A pre-charge path ends it."""
        for n, severity in ((8, None), (9, "note"), (11, "note"), (12, "caution")):
            found = self.found(bike(bank__rows=cells(n), controller__precharge=False), "ctl.precharge")
            self.assertEqual([f.severity for f in found], [severity] if severity else [], n)
        self.none(bike(bank__rows=cells(12), controller__precharge=True), "ctl.precharge")

    def test_a_pedal_switch_at_twice_its_rating(self) -> None:
        stall = self.outcome(ride_on()).stall_a
        self.one(ride_on(pedal_switch__rating_a=named(stall / 1.98)), "ctl.direct", "caution")
        self.one(ride_on(pedal_switch__rating_a=named(stall / 2.02)), "ctl.direct", "stop")
        found = self.one(ride_on(pedal_switch__rating_a=named(stall / 2.02)), "ctl.direct", "stop", Context(is_baseline=True))
        self.assertTrue(found.as_found, "As found it is a stop, and is said so.")
        self.none(ride_on(pedal_switch__rating_a=named(1.01 * stall)), "ctl.direct")
        self.none(bike(), "ctl.direct")

    def test_reverse_is_for_what_has_one(self) -> None:
        """Every family and motor that has a reverse: a caution where it goes faster than 2.5 m/s, a note where it does not."""
        self.none(bike(), "ctl.reverse")
        self.one(bike(vehicle={"family": "quad"}), "ctl.reverse", "caution")
        self.one(bike(controls={"reverse": True}), "ctl.reverse", "caution")
        self.one(bike(controls={"direction": "at the controller"}, throttle__limiter_mark=0.3), "ctl.reverse", "note")

    def test_thrown_into_reverse_on_a_switch(self) -> None:
        """(E + kω)/R against E/R of the stall, at walking pace a note; a controller that waits ends it."""
        said = self.one(ride_on(), "ctl.reverse", "note")
        a = Analysis(ride_on())
        back = float(a.motor.k_v_s * a.m.vehicle.omega(a.top))
        self.assertIn(f"{(float(a.full.open_v) + back) / float(a.m.source_ohm(a.full) + a.motor.loop_ohm):.0f} A flow", said.because)
        self.one(ride_on(), "ctl.reverse", "note", Context(is_baseline=True))
        self.none(bike(vehicle={"family": "quad"}, controller__reverse_locked=True), "ctl.reverse")

    def test_a_controllers_place(self) -> None:
        """100 × 60 × 40 mm in any orientation; a millimetre short is too small."""
        sides = {"controller__length_m": named(0.1), "controller__width_m": named(0.06), "controller__height_m": named(0.04)}

        def room(width: float) -> dict[str, Any]:
            return {"family": "small dirt bike", "controller_room": {"length_m": named(0.04), "width_m": named(0.1), "height_m": named(width)}}

        self.none(bike(vehicle=room(0.06), **sides), "ctl.bay")
        self.assertIn("100 × 60 × 40 mm", self.one(bike(vehicle=room(0.059), **sides), "ctl.bay", "caution").because)
        self.one(bike(controller__in_spray=True), "ctl.bay", "caution")

    def test_a_closed_in_controller_from_six_tenths(self) -> None:
        """The ride's amps at 0.6 of the limit, a hair to either side."""
        limit = 14.0
        for _ in range(30):
            limit = Analysis(bike(controller__battery_limit_a=named(limit), controller__enclosed=True)).rms_a / 0.6
        self.one(bike(controller__battery_limit_a=named(0.98 * limit), controller__enclosed=True), "ctl.vent", "note")
        self.none(bike(controller__battery_limit_a=named(1.02 * limit), controller__enclosed=True), "ctl.vent")
        self.none(bike(controller__battery_limit_a=named(0.98 * limit), controller__enclosed=False), "ctl.vent")

    def test_a_chain_as_wide_as_its_sprocket(self) -> None:
        """A 420 sprocket takes 6.35 mm; 6.9 mm still counts as that, 7.0 mm does not. An unknown size is not judged."""
        drive = {"kind": "chain", "motor_teeth": 12, "wheel_teeth": 40, "chain_pitch": "420", "motor_sprocket_pitch": "420"}
        self.none(bike(drivetrain={**drive, "chain_width_m": named(0.0069)}), "drive.chain")
        self.one(bike(drivetrain={**drive, "chain_width_m": named(0.0070)}), "drive.chain", "stop")
        odd = {**drive, "chain_pitch": "own", "motor_sprocket_pitch": "own", "chain_width_m": named(0.02)}
        self.none(bike(drivetrain=odd), "drive.chain")

    def test_an_unknown_rotor_stands_nearly_twice_its_plate(self) -> None:
        """1.8 times the no-load speed of the plate, (V − I0·R)/k."""
        a = Analysis(bike())
        each = a.resolved.motor_each
        assert each is not None
        stands = 1.8 * (36.0 - float(each.no_load_a * each.resistance_ohm)) / float(each.k_v_s) * 60 / (2 * pi)
        rpm = 60 * self.outcome(bike()).top_speed_m_s / (pi * 0.31) * 88 / 12
        self.assertLess(rpm, stands)
        said = self.one(bike(bank__rows=cells(20), controller__max_v=named(90), drivetrain__wheel_teeth=110), "drive.rpm", "caution")
        self.assertIn(f"assumed to stand {stands:.0f}", said.because)

    def test_sprockets_under_eleven_teeth(self) -> None:
        self.none(bike(drivetrain__motor_teeth=11), "drive.teeth")
        self.assertIn("10 teeth", self.one(bike(drivetrain__motor_teeth=10), "drive.teeth", "note").because)

    def test_chain_pitch_ignores_case_and_space(self) -> None:
        drive = {"kind": "chain", "motor_teeth": 12, "wheel_teeth": 88, "chain_pitch": "8 mm"}
        self.none(bike(drivetrain={**drive, "motor_sprocket_pitch": " 8 MM "}), "drive.chain")
        both = {**drive, "motor_sprocket_pitch": "6 mm", "wheel_sprocket_pitch": "6 mm"}
        self.assertEqual([f.key for f in self.found(bike(drivetrain=both), "drive.chain")], ["drive.chain@motor_sprocket_pitch", "drive.chain@wheel_sprocket_pitch"])

    def test_gears_at_half_again_and_two_and_a_half_times(self) -> None:
        """Twice the cells give about twice the stall torque: caution; three times: stop. Only on plastic gears."""
        around = Context(baseline=ride_on())
        for n, severity in ((6, None), (12, "caution"), (18, "stop")):
            lead = [{"label": "b", "chemistry": "lead", "cells_in_series": n, "capacity_ah": named(10), "resistance_ohm": named(0.024), "guard_in_tool": False}]
            found = self.found(ride_on(bank__rows__0__units=lead), "drive.gearbox", around)
            self.assertEqual([f.severity for f in found], [severity] if severity else [], n)
            chain = self.found(ride_on(bank__rows__0__units=lead, drivetrain={"kind": "differential", "ratio": named(100)}), "drive.gearbox", around)
            self.assertEqual(chain, [])

    def test_rotor_speed_from_road_speed(self) -> None:
        """rpm = 60·v/(π·d) times 88/12."""
        rpm = 60 * self.outcome(bike()).top_speed_m_s / (pi * 0.31) * 88 / 12
        self.assertIn(f"turns {rpm:.0f} rpm", self.one(bike(motor__max_rpm=named(0.999 * rpm)), "drive.rpm", "caution").because)
        self.none(bike(motor__max_rpm=named(1.001 * rpm)), "drive.rpm")


class MotorAndController(Edges):
    def test_the_plates_of_two_motors_add_up(self) -> None:
        """Two motors of 160 W at 80 % take 400 W; 85 % of that, 340 W, are 9.44 A at 36 V."""
        two = {"motor__count": 2, "motor__power_w": named(160), "motor__efficiency": named(0.8)}
        self.none(bike(**two, controller__battery_limit_a=named(9.5)), "ctl.matches")
        said = self.one(bike(**two, controller__battery_limit_a=named(9.4)), "ctl.matches", "note")
        self.assertIn("takes 400 W", said.because)

    def test_the_gearbox_of_a_machine_on_its_stock_volts(self) -> None:
        """Within 2 % of its stock volts a toy switched straight on pulls as it did; 10 % over them it pulls more than it did."""
        nominal = Analysis(ride_on()).nominal_v or 0.0
        for times, own in ((1.019, True), (1.021, False), (1.1, False)):
            a = Analysis(ride_on(stock__volts_v=named(nominal / times)))
            stock, now = stock_stall_nm(a), float(a.stall_wheel_nm)
            assert stock is not None
            self.assertEqual(stock == now, own, times)

    def test_what_it_was_found_with_is_its_own_measure(self) -> None:
        """Where nobody knows the stock volts, the machine as found is its own stock; any other has none."""
        bare = ride_on(stock={})
        found = Analysis(bare, Context(is_baseline=True))
        self.assertEqual(stock_stall_nm(found), float(found.stall_wheel_nm))
        self.assertIsNone(stock_stall_nm(Analysis(bare)))

    def test_the_limit_that_spares_the_gears(self) -> None:
        """Amps and torque go together: so many amps as give 1.45 times the stock torque, in whole ones."""
        setup = ride_on(
            stock__volts_v=named(6.0),
            controller={"kind": "brushed", "nominal_v": named(12), "battery_limit_a": named(60), "phase_limit_a": named(80), "throttle": "hall"},
            throttle={"kind": "hall", "returns": True},
        )
        a = Analysis(setup)
        stock = stock_stall_nm(a)
        assert stock is not None
        share = float(a.stall_wheel_nm) / stock
        self.assertGreater(share, 1.5)
        (found,) = [one for one in run_checks(a) if one.finding.id == "drive.gearbox"]
        self.assertEqual([edit.label for edit in found.edits], [f"Set the motor-side limit to {int(80 * 1.45 / share)} A"])

    def test_a_motor_is_cooled_in_steps_down_to_two_amps(self) -> None:
        """Three quarters, a good half and two fifths of 4 A: 3 A, 2 A, and no less."""
        edits = [edit.label for edit in _cooler(Analysis(bike(controller__battery_limit_a=named(4)))) if isinstance(edit, Edit)]
        self.assertEqual([label for label in edits if label.startswith("Set the controller")], ["Set the controller to 3 A", "Set the controller to 2 A"])

    def test_no_mark_without_a_machine(self) -> None:
        self.assertIsNone(mark_for(Analysis(load_setup({"controller": {"kind": "brushed"}})), 3.0))

    def test_the_smallest_sprocket_that_is_offered(self) -> None:
        """A tenth more than 20/9.9 times the pull takes a sprocket of nine teeth; any more would take eight, which bends the chain too sharply."""
        drive = bike(drivetrain__motor_teeth=20).drivetrain
        self.assertEqual([edit.label for edit in _shorter(drive, 20 / 9.9 * 0.999)], ["Motor sprocket of 9 teeth"])
        self.assertEqual(_shorter(drive, 20 / 9.9 * 1.001), ())

    def test_a_stall_is_likely_on_the_steepest_slope_of_all(self) -> None:
        """Ground, hill and course count alike. A fuse that never opens at the stall's amps."""
        base: dict[str, Any] = {"main_fuse__rating_a": 60, "controller__battery_limit_a": named(20)}
        starts = float(Analysis(bike(**base)).starts_on.grade)
        course = {"name": "up", "segments": [{"length_m": 50, "grade": 0.9 * starts}, {"length_m": 50, "grade": -0.9 * starts}]}
        for slope, severity in (
            ({}, "note"),
            ({"ground__hill_grade": 0.9 * starts}, "caution"),
            ({"ground__grade": 0.9 * starts}, "caution"),
            ({"course": course}, "caution"),
        ):
            self.one(bike(**base, **slope), "motor.stall", severity)

    def test_the_hotter_of_course_and_full_throttle_is_told(self) -> None:
        a = Analysis(bike())
        course, short, hot, warm = winding_chances(a)
        self.assertEqual((hot.central, warm.central), (max(course, short), max(course, short)))

    def test_the_gearbox_of_a_machine_whose_controller_came_with_it(self) -> None:
        """Its controller limited it then as it does now, so the stock torque is today's, less by the volts where those are more."""
        family = next(name for name, one in sorted(families().items()) if one.controller != "none")
        for times in (0.8, 1.25):
            a = Analysis(bike(vehicle__family=family, stock__volts_v=named(36.0 / times)))
            nominal = a.nominal_v or 0.0
            stock = stock_stall_nm(a)
            assert stock is not None
            self.assertAlmostEqual(stock, float(a.stall_wheel_nm) * min(36.0 / times / nominal, 1.0))

    def test_what_is_not_noted_is_named(self) -> None:
        noted = {"changed": True, "version_before": "1.2", "settings_noted": True, "way_back": True}
        for less, words in (
            ({"way_back": False}, "and a way back is not noted"),
            ({"way_back": False, "settings_noted": False}, "and the settings before and a way back are not noted"),
            (
                {"changed": True, "version_before": "", "settings_noted": False, "way_back": False},
                "and the version before, the settings before and a way back are not noted",
            ),
        ):
            self.assertIn(words, self.one(bike(controller__firmware={**noted, **less}), "ctl.firmware", "caution").because)
