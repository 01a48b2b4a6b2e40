"""Every rule: a setup that trips it, a near twin that does not, and numbers that follow the input."""

from __future__ import annotations

import subprocess
import sys
from dataclasses import replace
from typing import Any
from unittest import TestCase

from gecko.analysis.whole import Analysis
from gecko.document.context import Context, HouseRules
from gecko.document.rack.about import About, RackFact
from gecko.document.setup import Setup, load_setup
from gecko.plans.standing import GATES, ratio
from gecko.rules.looks import QUESTIONS
from gecko.rules.registry import RULES, every_rule, run_checks
from gecko.tests.hazards import HAZARDS
from gecko.tests.machines import bike, named, ride_on

SMALL = {"label": "s", "cells_in_series": 10, "capacity_ah": named(2), "continuous_a": named(8), "peak_10s_a": named(20), "trip_a": named(25)}
PACK = {"label": "p", "cells_in_series": 10, "capacity_ah": named(6), "age": "new"}
ADAPTER = {"electronics": "none", "polarity_rechecked": True}
LAMPS = {"label": "lamps", "amps_a": named(2), "fuse": {"rating_a": 5, "dc_volts_v": 58}, "lead": {"awg": 18, "length_m": named(1)}}
STEP = {"input_min_v": named(20), "input_max_v": named(60), "output_v": named(12), "output_a": named(5)}


def rows(*units: list[dict[str, Any]], fuse: bool = True) -> list[dict[str, Any]]:
    return [{"units": list(u), "fuse": {"kind": "blade", "rating_a": 20, "dc_volts_v": 58} if fuse else None} for u in units]


def child(**more: Any) -> dict[str, Any]:
    return {"name": "Bo", "age_years": 7, **more}


def bay(length: float) -> dict[str, Any]:
    """A bay of a length [m] for one pack of 120 × 75 × 65 mm, which needs 140 × 95 × 115 mm with padding and connectors."""
    pack = {**PACK, "length_m": named(0.12), "width_m": named(0.075), "height_m": named(0.065)}
    room = {"length_m": named(length), "width_m": named(0.10), "height_m": named(0.12)}
    return {"bank__rows": [{"units": [pack]}], "vehicle": {"family": "small dirt bike", "bay": room}}


def of_rack(key: str, *more: str, **slot: Any) -> Setup:
    """A bike whose pack is a part of the rack, and beside it rows of others."""
    units = [{**PACK, "rack": {"key": one, "label": "Pack", "letter": one[:1].upper(), **slot}} for one in (key, *more)]
    return bike(bank__rows=rows(*[[unit] for unit in units]))


def known(key: str, **about: Any) -> RackFact:
    return RackFact(key=key, kind="packs", label="Pack", letter=key[:1].upper(), about=About.model_validate(about))


RACK = Context(
    rack=(
        known("cleared", happened=[{"what": "dropped", "cleared": True}]),
        known("dropped", happened=[{"what": "dropped"}]),
        known("lent", status="borrowed", whose="a neighbour"),
        known("one", partner="other"),
        known("other", partner="one"),
        known("sent", status="ordered"),
    )
)


# rule id → (setup that trips it, near twin that does not)
def on_nickel(rows: int, per: str = "unit", **more: Any) -> Setup:
    """The safe bike on so many rows of three 10-cell nickel packs, behind a charger."""
    ten = {"label": "n", "chemistry": "nickel", "cells_in_series": 10, "capacity_ah": named(3), "guard_in_tool": False}
    charger = {"label": "c", "chemistry": "nickel", "end_v": named(45 if per == "bank" else 15), "amps_a": named(1), "per": per, "isolated": True}
    return bike(bank={"rows": [{"units": [ten] * 3}] * rows}, chargers=[charger], **more)


PAIRS: dict[str, tuple[Setup, Setup]] = {
    "charge.nickel": (on_nickel(2, "bank"), on_nickel(1, "bank")),
    "pack.reversed": (on_nickel(1, guard=None, controller__undervoltage_v=None), on_nickel(1, guard=None, controller__undervoltage_v=named(31))),
    "rack.out": (of_rack("dropped"), of_rack("cleared")),
    "rack.coming": (of_rack("sent"), of_rack("lent")),
    "rack.borrowed": (of_rack("lent"), of_rack("sent")),
    "rack.temporary": (of_rack("cleared", temporary=True), of_rack("cleared")),
    "rack.pair": (of_rack("one"), of_rack("one", "other")),
    "rack.twice": (of_rack("one", "one"), of_rack("one", "other")),
    "pack.window.controller": (bike(controller__max_v=named(41)), bike(controller__max_v=named(43))),
    "pack.window.low": (bike(controller__undervoltage_v=named(37)), bike(controller__undervoltage_v=named(35))),
    "pack.window.board": (
        bike(vehicle={"family": "ride-on car", "board_in_path": "yes"}, stock={"volts_v": named(24)}),
        bike(vehicle={"family": "ride-on car", "board_in_path": "yes", "board_bypassed": True}, stock={"volts_v": named(24)}),
    ),
    "pack.overvolt": (bike(motor__volts_v=named(30)), bike()),
    "pack.touch": (bike(bank__rows=rows([PACK, PACK]), controller__max_v=named(90)), bike()),
    "pack.current": (bike(bank__rows__0__units__0__peak_10s_a=named(26)), bike(bank__rows__0__units__0__peak_10s_a=named(40))),
    "pack.trip": (bike(bank__rows__0__units__0__trip_a=named(20)), bike(bank__rows__0__units__0__trip_a=named(35))),
    "pack.small": (bike(bank__rows__0__units__0__capacity_ah=named(2.5)), bike()),
    "pack.unrated": (
        bike(bank__rows__0__units__0__continuous_a=None, bank__rows__0__units__0__peak_10s_a=None, bank__rows__0__units__0__capacity_ah=named(3)),
        bike(bank__rows__0__units__0__continuous_a=None, bank__rows__0__units__0__peak_10s_a=None),
    ),
    "pack.mixed.series": (
        bike(bank__rows=rows([{**PACK, "cells_in_series": 5}, {**PACK, "cells_in_series": 5, "capacity_ah": named(3)}])),
        bike(bank__rows=rows([{**PACK, "cells_in_series": 5}, {**PACK, "cells_in_series": 5}])),
    ),
    "pack.mixed.parallel": (bike(bank__rows=rows([PACK], [{**PACK, "cells_in_series": 9}])), bike(bank__rows=rows([PACK], [PACK]))),
    "pack.sag": (bike(bank__rows__0__units__0__resistance_ohm=named(0.25)), bike(bank__rows__0__units__0__resistance_ohm=named(0.09))),
    "motor.moves": (bike(ground__grade=0.4), bike(ground__grade=0.05)),
    "pack.guard": (bike(guard=None), bike()),
    "pack.guard.level": (bike(guard__volts_v=named(27)), bike(guard__volts_v=named(31))),
    "pack.isolate": (bike(cut_off=None), bike()),
    "charge.volts": (
        bike(chargers=[{"label": "c", "end_v": named(29.4), "amps_a": named(2)}]),
        bike(chargers=[{"label": "c", "end_v": named(42), "amps_a": named(2)}]),
    ),
    "charge.amps": (
        bike(chargers=[{"label": "c", "end_v": named(42), "amps_a": named(12)}]),
        bike(chargers=[{"label": "c", "end_v": named(42), "amps_a": named(5)}]),
    ),
    "plug.charge": (
        bike(chargers=[{"label": "c", "end_v": named(42), "amps_a": named(2), "plug": "mains pattern"}]),
        bike(chargers=[{"label": "c", "end_v": named(42), "amps_a": named(2), "plug": "own"}]),
    ),
    "charge.parallel": (
        bike(chargers=[{"label": "c", "end_v": named(42), "amps_a": named(2), "per": "bank"}], cut_off=None),
        bike(chargers=[{"label": "c", "end_v": named(42), "amps_a": named(2), "per": "bank", "isolated": True}], cut_off=None),
    ),
    "pack.bay": (bike(**bay(0.139)), bike(**bay(0.141))),
    "pack.held": (bike(bank__holding={"by": ["tape"]}), bike(bank__holding={"by": ["tape", "strap"]})),
    "pack.slots": (
        bike(bank__rows=rows([{**PACK, "continuous_a": named(8)}], [{**PACK, "continuous_a": named(8)}])),
        bike(bank__rows=rows([{**PACK, "continuous_a": named(20)}], [{**PACK, "continuous_a": named(20)}])),
    ),
    "pack.adapter": (bike(bank__rows=rows([{**PACK, "adapter": {"electronics": "none"}}])), bike(bank__rows=rows([{**PACK, "adapter": ADAPTER}]))),
    "wire.mixed": (bike(controller_lead={"awg": 16, "length_m": named(0.3)}), bike(controller_lead={"awg": 10, "length_m": named(0.3)})),
    "wire.joint": (bike(main_lead__joint="twist cap"), bike(main_lead__joint="soldered")),
    "plug.live": (bike(plugs__0__live_pins=True), bike()),
    "aux.return": (bike(auxiliaries=[{**LAMPS, "returns": "frame"}]), bike(auxiliaries=[LAMPS])),
    "aux.converter": (bike(auxiliaries=[{**LAMPS, "converter": {**STEP, "input_max_v": named(40)}}]), bike(auxiliaries=[{**LAMPS, "converter": STEP}])),
    "aux.drain": (
        bike(auxiliaries=[{"label": "meter", "amps_a": named(0.02), "always_on": True, "taps": "at the packs"}]),
        bike(auxiliaries=[{"label": "meter", "amps_a": named(0.02), "always_on": True}]),
    ),
    "warranty": (bike(), load_setup({})),
    "fuse.none": (bike(main_fuse=None), bike()),
    "fuse.place": (bike(main_fuse__side="negative"), bike(main_fuse__side="positive")),
    "fuse.volts": (bike(main_fuse__dc_volts_v=32), bike(main_fuse__dc_volts_v=58)),
    "fuse.wire": (bike(main_lead__awg=16), bike(main_lead__awg=10)),
    "fuse.nuisance": (bike(main_fuse__rating_a=15), bike()),
    "fuse.parts": (bike(cut_off__rating_a=named(25)), bike(cut_off__rating_a=named(30))),
    "fuse.blow": (
        bike(bank__rows__0__units__0__resistance_ohm=named(0.6), bank__rows__0__units__0__trip_a=None),
        bike(bank__rows__0__units__0__trip_a=None),
    ),
    "fuse.break": (bike(main_fuse__breaking_a=200), bike()),
    "wire.ampacity": (bike(main_lead__awg=18, main_lead__bundle_conductors=7, ground__ambient_c=50), bike()),
    "wire.drop": (bike(main_lead__length_m=named(12), main_lead__awg=16), bike()),
    "plug.rating": (bike(plugs__0__rating_a=named(9)), bike(plugs__0__rating_a=named(60))),
    "plug.browned": (bike(plugs__0__browned=True), bike()),
    "switch.dc": (bike(cut_off__dc_volts_v=named(32)), bike(cut_off__dc_volts_v=named(48))),
    "ctl.kind": (bike(controller__kind="brushless"), bike()),
    "ctl.throttle": (bike(throttle__kind="potentiometer"), bike()),
    "ctl.limit": (
        bike(controller__battery_limit_a=named(70), controller__phase_limit_a=named(110), motor__power_w=named(2000)),
        # The same label; what flows is held by the motor's side.
        bike(controller__battery_limit_a=named(70)),
    ),
    "ctl.backfeed": (bike(ground={"hill_grade": 0.6}), bike()),
    "ctl.matches": (bike(controller__battery_limit_a=named(8)), bike()),
    "ctl.precharge": (bike(controller__precharge=False), bike(controller__precharge=True)),
    "ctl.direct": (ride_on(pedal_switch__rating_a=named(20)), bike()),
    "ctl.reverse": (ride_on(), bike()),
    "motor.heat": (bike(motor__power_w=named(120)), bike(motor__power_w=named(600), motor__mass_kg=named(5))),
    "motor.stall": (bike(), ride_on(main_fuse__rating_a=7.5)),
    "drive.chain": (
        bike(drivetrain={"kind": "chain", "motor_teeth": 12, "wheel_teeth": 88, "chain_pitch": "8 mm", "wheel_sprocket_pitch": "6 mm"}),
        bike(drivetrain={"kind": "chain", "motor_teeth": 12, "wheel_teeth": 88, "chain_pitch": "8 mm", "wheel_sprocket_pitch": "8 mm"}),
    ),
    "drive.gearbox": (
        ride_on(bank__rows__0__units=[{"label": "b", "chemistry": "lead", "cells_in_series": 12, "capacity_ah": named(10), "guard_in_tool": False}]),
        ride_on(),
    ),
    "drive.teeth": (bike(drivetrain__motor_teeth=9), bike(drivetrain__motor_teeth=11)),
    "drive.rpm": (bike(motor__max_rpm=named(2000)), bike(motor__max_rpm=named(9000))),
    "ctl.bay": (bike(controller__mounting="ties only"), bike(controller__mounting="screwed")),
    "ctl.vent": (bike(controller__enclosed=True, controller__battery_limit_a=named(10)), bike(controller__enclosed=True)),
    "seal.water": (bike(openings=[{"kind": "seal"}]), bike(openings=[{"kind": "seal", "closed": True}])),
    "ctl.lost": (bike(stock={"also_did": ["gauge"]}), bike(stock={"also_did": ["gauge"]}, does_now=["gauge"])),
    "ctl.firmware": (
        bike(controller__firmware={"changed": True}),
        bike(controller__firmware={"changed": True, "version_before": "1", "settings_noted": True, "way_back": True}),
    ),
    "drive.fit": (
        bike(drivetrain__shaft="10 mm D", drivetrain__sprocket_bore="12 mm D"),
        bike(drivetrain__shaft="10 mm D", drivetrain__sprocket_bore="10mm d"),
    ),
    "drive.line": (bike(drivetrain__in_line=False), bike(drivetrain__in_line=True, drivetrain__slack_adjustable=True)),
    "drive.side": (bike(drivetrain__other_side=True), bike()),
    "ride.brake.electric": (
        bike(vehicle__fail_safe_brake="released for good"),
        bike(vehicle__fail_safe_brake="released for good", vehicle__parking_brake=True),
    ),
    "ride.cap": (bike(rider=child()), bike(rider={"age_years": 40})),
    "ride.wheelie": (
        bike(vehicle={"family": "small dirt bike", "com_height_m": named(1.4), "com_ahead_of_rear_m": named(0.15)}, drivetrain__wheel_teeth=140, rider=child()),
        bike(rider=child()),
    ),
    "ride.stop": (bike(vehicle={"family": "small dirt bike", "brake": "gearbox drag"}), bike()),
    "ride.tip": (
        bike(vehicle={"family": "quad", "track_m": named(0.4)}, throttle__foot_switch_wired=True),
        bike(vehicle={"family": "quad", "track_m": named(3)}, throttle__foot_switch_wired=True),
    ),
    "ride.weight": (
        bike(vehicle={"family": "small dirt bike", "max_load_kg": named(50)}),
        bike(vehicle={"family": "small dirt bike", "max_load_kg": named(90)}),
    ),
    "ride.road": (bike(), load_setup({})),
    "data.assumed": (
        bike(rider={"age_years": 30, "mass_kg": named(60), "cap_m_s": named(8.2)}, motor__speed_rpm=named(2700, "assumed")),
        bike(rider={"age_years": 30, "mass_kg": named(60), "cap_m_s": named(8.2)}),
    ),
}


def ids(setup: Setup, context: Context | None = None) -> set[str]:
    return {found.finding.id for found in run_checks(Analysis(setup, context))}


class EveryRule(TestCase):
    def test_every_registered_rule_has_a_pair(self) -> None:
        run_checks(Analysis(Setup()))
        self.assertEqual(set(RULES), set(PAIRS) | {hazard.rule for hazard in HAZARDS} | {f"look.{question.key}" for question in QUESTIONS})
        self.assertGreaterEqual(len(RULES), 24)

    def test_findings_stand_in_the_same_order_whatever_was_loaded_first(self) -> None:
        """A process that has asked for the rules of motor and ride before all others tells them as this one does."""
        script = "import gecko.rules.ride, gecko.rules.motor; from gecko.rules.registry import every_rule; print(*(rule.id for rule in every_rule()))"
        told = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, check=True).stdout.split()
        self.assertEqual(told, [rule.id for rule in every_rule()])

    def test_trips_and_near_twin_does_not(self) -> None:
        context = Context(baseline=ride_on())
        slow = Context(baseline=bike())
        for rule_id, (trips, twin) in PAIRS.items():
            with self.subTest(rule_id):
                around = RACK if rule_id.startswith("rack.") else slow if rule_id == "ride.stop" else context if rule_id == "drive.gearbox" else None
                self.assertIn(rule_id, ids(trips, around))
                self.assertNotIn(rule_id, ids(twin, around))

    def test_the_safe_bike_has_no_stop(self) -> None:
        self.assertEqual([f.finding.key for f in run_checks(Analysis(bike())) if f.finding.severity == "stop"], [])

    def test_numbers_follow_the_input(self) -> None:
        for rule_id, one, other in (
            ("pack.window.controller", bike(controller__max_v=named(40)), bike(controller__max_v=named(41))),
            ("fuse.wire", bike(main_lead__awg=16), bike(main_lead__awg=18)),
            ("plug.rating", bike(plugs__0__rating_a=named(9)), bike(plugs__0__rating_a=named(8))),
            ("ride.cap", bike(rider=child()), bike(rider=child(cap_m_s=named(3)))),
            ("pack.trip", bike(bank__rows__0__units__0__trip_a=named(20)), bike(bank__rows__0__units__0__trip_a=named(18))),
        ):
            with self.subTest(rule_id):
                texts = [next(f.finding.because for f in run_checks(Analysis(s)) if f.finding.id == rule_id) for s in (one, other)]
                self.assertNotEqual(texts[0], texts[1])

    def test_severity_grows_with_the_excess(self) -> None:
        def severity(setup: Setup, rule_id: str) -> str:
            return next(f.finding.severity for f in run_checks(Analysis(setup)) if f.finding.id == rule_id)

        self.assertEqual(severity(bike(motor__volts_v=named(30)), "pack.overvolt"), "note")
        self.assertEqual(severity(bike(motor__volts_v=named(25), motor__power_w=named(200)), "pack.overvolt"), "caution")
        self.assertEqual(severity(bike(motor__volts_v=named(18), motor__power_w=named(120)), "pack.overvolt"), "stop")
        self.assertEqual(severity(bike(bank__rows__0__units__0__peak_10s_a=named(30)), "pack.current"), "caution")
        self.assertEqual(severity(bike(bank__rows__0__units__0__peak_10s_a=named(20)), "pack.current"), "stop")

    def test_a_stop_of_the_baseline_is_a_stop_as_found(self) -> None:
        found = run_checks(Analysis(bike(main_fuse=None), Context(is_baseline=True)))
        entry = next(f.finding for f in found if f.finding.id == "fuse.none")
        self.assertEqual((entry.severity, entry.gate, entry.as_found), ("stop", "plan", True))

    def test_a_changed_setup_as_baseline_is_softened_by_nothing(self) -> None:
        """Every stop of every pair that trips, with the same severity and gate."""
        for rule_id, (trips, _) in PAIRS.items():
            with self.subTest(rule_id):
                plain, base = (
                    {(f.finding.key, f.finding.gate) for f in run_checks(Analysis(trips, replace(RACK, is_baseline=is_baseline))) if f.finding.severity == "stop"}
                    for is_baseline in (False, True)
                )
                self.assertLessEqual(plain, base)

    def test_every_stop_says_what_is_asked_and_what_stands(self) -> None:
        for rule_id, (trips, _) in PAIRS.items():
            for found in run_checks(Analysis(trips, RACK)):
                stop = found.finding
                if stop.severity == "stop":
                    self.assertIsNotNone(stop.asked, rule_id)
                    self.assertGreater(ratio(stop.asked, stop.stands), 0.0, stop.key)
                    self.assertIn(stop.gate, GATES)
                else:
                    self.assertIsNone(stop.gate, stop.key)

    def test_house_rules_soften_a_caution_but_never_a_stop(self) -> None:
        relaxed = Context(house=HouseRules(brake_cut_off="relaxed", sole_main_fuse=True))
        found = {f.finding.id: f.finding.severity for f in run_checks(Analysis(bike(throttle__brake_cut_off_wired=False, main_fuse=None), relaxed))}
        self.assertEqual((found["ctl.brake"], found["fuse.none"]), ("note", "stop"))
