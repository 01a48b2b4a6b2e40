"""A kit in a machine, by hand: what it brings, what is lacking, twice or left over, and its claims."""

from __future__ import annotations

from typing import Any
from unittest import TestCase

from pydantic import ValidationError

from gecko.analysis.whole import Analysis
from gecko.document.context import Context
from gecko.document.parts.held import OnRack
from gecko.document.parts.pack import Pack
from gecko.document.rack.about import About, Racked, RackFact, opened, whole
from gecko.document.rack.kinds import Kit
from gecko.document.setup import Setup, load_setup
from gecko.plans.arrangements import Shelf, bare_frame, offers, typical_setup
from gecko.plans.kits import Brought, KitFit, fit_kit, put_in
from gecko.plans.parts_list import parts_list
from gecko.rules.registry import run_checks
from gecko.tests.machines import bike, named

NAME = OnRack(key="k", label="Bike kit", letter="A")
MOTOR = {"kind": "motors", "label": "500 W motor", "document": {"kind": "brushed", "volts_v": named(36), "power_w": named(500), "speed_rpm": named(2600)}}
CONTROL = {"kind": "controllers", "label": "36 V, 30 A", "document": {"kind": "brushed", "nominal_v": named(36), "battery_limit_a": named(30), "throttle": "hall"}}
THROTTLE = {"kind": "throttles", "label": "Thumb throttle", "document": {"kind": "hall"}}
SPROCKET = {"kind": "hardware", "label": "Sprocket, 9 teeth", "document": {"what": "sprocket", "teeth": 9, "pitch": "35"}}
KEY = {"kind": "hardware", "label": "Key", "document": {"what": "key"}}
DISPLAY = {"kind": "hardware", "label": "Display", "document": {"what": "display"}}


def kit(*contents: dict[str, Any], **more: Any) -> Kit:
    return Kit.model_validate({"contents": list(contents), **more})


def fitted(*contents: dict[str, Any], into: Setup | None = None, **more: Any) -> KitFit:
    return fit_kit(into or bike(), kit(*contents, **more), NAME, Context())


class PutIn(TestCase):
    def test_each_part_goes_where_it_belongs(self) -> None:
        found = fitted(MOTOR, CONTROL, THROTTLE, SPROCKET, KEY, DISPLAY, leads=["learning", "cruise hold"], direction="at the controller", does=["gauge"])
        setup = found.setup
        self.assertEqual((setup["motor"]["power_w"]["value"], setup["controller"]["nominal_v"]["value"], setup["throttle"]["kind"]), (500, 36, "hall"))
        self.assertEqual((setup["drivetrain"]["motor_teeth"], setup["drivetrain"]["motor_sprocket_pitch"]), (9, "35"))
        controls = setup["controls"]
        self.assertEqual(
            (controls["key"], controls["indicator"], controls["harness"], controls["direction"]), (True, True, ["learning", "cruise hold"], "at the controller")
        )
        self.assertEqual(setup["does_now"], ["gauge"])
        self.assertEqual(found.brings, ["500 W motor", "36 V, 30 A", "Thumb throttle", "Sprocket, 9 teeth", "Key", "Display"])
        self.assertEqual([setup[slot]["rack"]["key"] for slot in ("motor", "controller", "throttle")], ["k:0", "k:1", "k:2"])

    def test_what_others_hang_on_goes_in_first(self) -> None:
        """The sprocket is named before the gearing it sits on: it is put onto the new one."""
        chain = {"kind": "gearboxes", "label": "Chain drive", "document": {"kind": "chain", "wheel_teeth": 60}}
        drive = fitted(SPROCKET, chain).setup["drivetrain"]
        self.assertEqual((drive["wheel_teeth"], drive["motor_teeth"]), (60, 9))

    def test_a_sprocket_sits_at_the_motor_or_at_the_wheel_by_its_teeth(self) -> None:
        """12 and 54 teeth on an open axle make a chain drive; a closed gearbox has no place for either."""
        wheel = {"kind": "hardware", "label": "Sprocket, 75 teeth", "document": {"what": "sprocket", "teeth": 75, "pitch": "219"}}
        chain = {"kind": "hardware", "label": "Chain 219", "document": {"what": "chain", "pitch": "219", "links": 96}}
        axle = load_setup(typical_setup("kart"))
        drive = fitted(wheel, SPROCKET, chain, into=axle).setup["drivetrain"]
        self.assertEqual([drive[name] for name in ("kind", "motor_teeth", "wheel_teeth", "chain_pitch", "links")], ["chain", 9, 75, "219", 96])
        closed = fitted(wheel, SPROCKET, into=load_setup(typical_setup("ride-on car")))
        self.assertEqual((closed.setup["drivetrain"]["kind"], closed.idle), ("plastic gearbox", ["Sprocket, 75 teeth", "Sprocket, 9 teeth"]))

    def test_the_place_that_is_taken_already_is_told(self) -> None:
        found = fitted(THROTTLE, {**THROTTLE, "label": "Twist throttle"})
        self.assertEqual((found.brings, found.twice), (["Thumb throttle"], ["Twist throttle"]))

    def test_what_this_machine_has_no_place_for_lies_idle(self) -> None:
        reel = {"kind": "wires", "label": "Some wire", "document": {"awg": 12, "metres": 2}}
        brake = {"kind": "hardware", "label": "Brake pads", "document": {"what": "brake"}}
        mount = {"kind": "hardware", "label": "Mount", "document": {"what": "mount"}}
        found = fitted(reel, brake, mount)
        self.assertEqual((found.idle, found.brings), (["Some wire", "Brake pads"], ["Mount"]))

    def test_packs_stand_side_by_side_and_bring_their_chargers(self) -> None:
        pack = {"kind": "packs", "label": "Kit pack", "count": 2, "document": {"cells_in_series": 10, "capacity_ah": named(6)}}
        charger = {"kind": "chargers", "label": "Kit charger", "document": {"end_v": named(42), "amps_a": named(2)}}
        setup = fitted(pack, charger, into=bike(chargers=[{"end_v": named(29.4), "amps_a": named(2)}])).setup
        self.assertEqual([len(row["units"]) for row in setup["bank"]["rows"]], [1, 1])
        self.assertEqual([(row["units"][0]["rack"] or {}).get("key") for row in setup["bank"]["rows"]], ["k:0", None])
        self.assertEqual([one["end_v"]["value"] for one in setup["chargers"]], [42])

    def test_the_pedal_no_longer_switches_the_motors_current(self) -> None:
        car = load_setup({**typical_setup("ride-on car"), "pedal_switch": {"rating_a": named(40)}})
        self.assertIsNone(fitted(CONTROL, into=car).setup["pedal_switch"])
        self.assertIsNotNone(fitted(MOTOR, into=car).setup["pedal_switch"])

    def test_a_part_that_was_taken_out_is_not_in_it(self) -> None:
        found = fitted({**MOTOR, "taken": True}, CONTROL)
        self.assertEqual((found.brings, found.setup["motor"]["rack"]), (["36 V, 30 A"], None))
        self.assertEqual(found.setup["controller"]["rack"]["key"], "k:1", "Places stay what they are.")

    def test_an_empty_kit_changes_nothing(self) -> None:
        self.assertEqual(load_setup(fitted().setup), bike())

    def test_a_wrong_part_is_refused_when_it_is_entered(self) -> None:
        for wrong in ({"kind": "kits", "label": "x"}, {"kind": "motors", "label": "x", "document": {"power_w": {"value": -3}}}, {"kind": "unicorns", "label": "x"}):
            with self.assertRaises(ValidationError):
                kit(wrong)


class Lacks(TestCase):
    def test_what_the_machine_still_needs(self) -> None:
        bare = bike(main_fuse=None, cut_off=None, guard=None, chargers=[], drivetrain__chain_guard=None)
        found = fitted(MOTOR, SPROCKET, into=bare)
        for words in ("main fuse", "cut-off", "charger", "A guard over chain", "Mount for the brushed, 36 V, 500 W"):
            self.assertTrue(any(words in one for one in found.lacks), (words, found.lacks))

    def test_what_stays_on_the_machine_is_not_lacking(self) -> None:
        found = fitted(THROTTLE, into=bike(chargers=[{"end_v": named(42), "amps_a": named(2)}], drivetrain__chain_guard=True))
        self.assertEqual([one for one in found.lacks if "fuse" in one or "Motor" in one or "charger" in one], [])

    def test_what_the_kit_brings_is_not_lacking_and_what_it_replaces_is_left_over(self) -> None:
        found = fitted(MOTOR, CONTROL)
        self.assertFalse([one for one in found.lacks if one.startswith(("Motor", "brushed controller"))])
        self.assertTrue(any(one.startswith("Motor, brushed") for one in found.over))

    def test_each_unused_lead_says_what_becomes_of_it(self) -> None:
        found = fitted(CONTROL, leads=["charge", "key"])
        told = {one.lead: one.do for one in found.leads}
        self.assertIn("each pole by itself", told["charge"])
        self.assertEqual(set(told) - {"brake, low level"}, {"charge", "key"})
        self.assertNotIn("key", {one.lead for one in fitted(CONTROL, KEY, leads=["charge", "key"]).leads})

    def test_claims_stand_beside_what_is_computed(self) -> None:
        found = fitted(MOTOR, CONTROL, claims={"speed_m_s": 12.0, "power_w": 500})
        speed, power = found.claims
        self.assertEqual((speed.what, speed.printed, power.what, power.printed), ("speed", 12.0, "power", 500))
        setup = load_setup(found.setup)
        a = Analysis(setup)
        self.assertEqual((speed.computed, power.computed), (float(a.top), float(a.peak_a * a.lowest_v)))
        nothing = fit_kit(load_setup({}), kit(claims={"distance_m": 20000}), NAME, Context())
        self.assertEqual([(one.what, one.computed) for one in nothing.claims], [("distance", None)])

    def test_its_stops_are_those_of_the_machine_with_it(self) -> None:
        found = fitted(THROTTLE, into=bike(main_fuse=None))
        self.assertEqual(found.stops, [one.finding.title for one in run_checks(Analysis(load_setup(found.setup))) if one.finding.gate == "plan"])
        self.assertTrue(found.stops)


class OnTheRack(TestCase):
    def racked(self, *contents: dict[str, Any], **about: Any) -> Racked:
        return Racked(kind="kits", part=kit(*contents), quantity=1, key="k", letter="A", label="Bike kit", about=About.model_validate(about))

    def test_a_kit_on_the_rack_is_its_parts(self) -> None:
        found = opened([self.racked(MOTOR, {**CONTROL, "taken": True}, {**KEY, "count": 2})])
        self.assertEqual([(one.kind, one.key, one.label, one.quantity) for one in found], [("motors", "k:0", "500 W motor", 1), ("hardware", "k:2", "Key", 2)])
        self.assertEqual([whole(one.key) for one in found], ["k", "k"])

    def test_the_parts_list_takes_from_it(self) -> None:
        setup = load_setup({"motor": MOTOR["document"]})
        motor = next(one for one in parts_list(setup, None, [self.racked(MOTOR)]).needs if one.kind == "motor")
        self.assertEqual((motor.on_rack, motor.to_buy), (1, 0))

    def test_what_happened_to_the_kit_happened_to_each_part_in_a_plan(self) -> None:
        after = load_setup(fitted(CONTROL).setup)
        wet = RackFact(key="k", kind="kits", label="Bike kit", letter="A", about=About.model_validate({"happened": [{"what": "wet"}]}))
        titles = [found.finding.title for found in run_checks(Analysis(after, Context(rack=(wet,)))) if found.finding.id == "rack.out"]
        self.assertEqual(titles, ["Bike kit A got wet"])


class WithPacks(TestCase):
    """A kit to begin with: it is in every arrangement of the packs there are."""

    KART = kit(
        {"kind": "motors", "label": "2 kW motor", "document": {"kind": "brushless mid", "volts_v": named(60), "power_w": named(2000)}},
        {"kind": "controllers", "label": "60 V controller", "document": {"kind": "brushless", "nominal_v": named(60), "phase_limit_a": named(130)}},
        {"kind": "throttles", "label": "Pedal", "document": {"kind": "hall"}},
    )
    PACK = Pack(label="17-cell pack", cells_in_series=17, capacity_ah=named(24.0), cell_kind="energy", guard_in_tool=False, protection_low_v=named(47.0))

    def test_a_frame_gets_the_kit_and_ones_own_pack(self) -> None:
        """Not the kit with some pack, nor the pack with some motor: both, in one machine that nothing stops."""
        frame = load_setup({**typical_setup("kart", 60, 1800), "rider": {"name": "Nia", "age_years": 15, "mass_kg": named(55)}})
        found = offers(frame, [Shelf(self.PACK, 1)], bare=True, kit=Brought(kit=self.KART, name=NAME))
        self.assertEqual([one.name for one in found], ["One pack, Bike kit A"])
        made = load_setup(found[0].setup)
        assert made.motor is not None and made.controller is not None and made.bank is not None
        self.assertEqual((made.motor.kind, made.controller.kind, made.bank.rows[0].units[0].capacity_ah.value), ("brushless mid", "brushless", 24))
        self.assertEqual((found[0].advice, found[0].stops), ("best start", []))
        self.assertIsNone(made.stock.volts_v)

    def test_without_packs_it_goes_in_with_those_the_machine_has_or_none(self) -> None:
        stock = load_setup(typical_setup("kart", 60, 1800))
        for bare, rows in ((False, 1), (True, 0)):
            (only,) = offers(stock, [], bare=bare, kit=Brought(kit=self.KART, name=NAME))
            self.assertEqual((only.name, only.rows, only.top_speed_m_s is None), ("Bike kit A", rows, bare))

    def test_a_single_part_is_a_kit_of_one_that_keeps_its_name(self) -> None:
        """A 48 V hub motor in the hand: it turns the wheel by itself, whatever gearing the machine has; another motor than a hub leaves that open."""
        hub = kit({"kind": "motors", "label": "Hub", "document": {"kind": "hub", "volts_v": named(48), "power_w": named(1000)}})
        brought = Brought(kit=hub, name=OnRack(key="m", label="Hub", letter="C"), single=True)
        made = load_setup(put_in(load_setup(typical_setup("quad", 48)), brought).document)
        assert made.motor is not None and made.motor.rack is not None and made.drivetrain is not None
        self.assertEqual((made.motor.rack.key, made.motor.rack.letter, made.drivetrain.kind), ("m", "C", "hub"))
        brushed = Brought(kit=kit(MOTOR), name=NAME)
        self.assertIsNone(put_in(load_setup(typical_setup("scooter", 36)), brushed).document["drivetrain"])
        chain = load_setup(typical_setup("small dirt bike"))
        assert chain.drivetrain is not None
        self.assertEqual(put_in(chain, brushed).document["drivetrain"]["kind"], chain.drivetrain.kind)

    def test_on_a_frame_what_is_still_to_be_had_is_of_the_kind_of_what_is_there(self) -> None:
        motor = kit({"kind": "motors", "label": "m", "document": {"kind": "brushless mid", "volts_v": named(48), "power_w": named(1000)}})
        control = kit({"kind": "controllers", "label": "c", "document": {"kind": "brushless", "nominal_v": named(48), "battery_limit_a": named(30)}})
        kart = load_setup(typical_setup("kart", 48))
        for brought in (motor, control):
            (only,) = offers(kart, [], bare=True, kit=Brought(kit=brought, name=NAME))
            made = load_setup(only.setup)
            assert made.motor is not None and made.controller is not None
            self.assertEqual((made.motor.brushless, made.controller.kind, only.stops), (True, "brushless", []))

    def test_what_only_creeps_is_no_best_start(self) -> None:
        """A gearbox of 150 : 1 on a yard cart goes under a walk, however long it lasts."""
        slow = kit({"kind": "gearboxes", "label": "150:1", "document": {"kind": "plastic gearbox", "ratio": named(150)}})
        cart = load_setup({**typical_setup("transplant", 60), "rider": {"age_years": 4}})
        found = offers(cart, [], kit=Brought(kit=slow, name=NAME))
        self.assertEqual([one.advice for one in found], [""])

    def test_packs_are_tried_by_the_volts_of_the_kit(self) -> None:
        """A machine of 24 V: packs of 61 V are no packs for it, but they are for a kit of 60 V."""
        small = load_setup(typical_setup("small dirt bike", 24))
        self.assertEqual(offers(small, [Shelf(self.PACK, 1)]), [])
        self.assertIn("One pack, Bike kit A", [one.name for one in offers(small, [Shelf(self.PACK, 1)], kit=Brought(kit=self.KART, name=NAME))])

    def test_a_frame_has_nothing_left_over_and_lacks_what_no_kit_brings(self) -> None:
        stock = load_setup(typical_setup("kart", 60, 1800))
        bare = fit_kit(stock, self.KART, NAME, Context(), bare_frame(stock))
        self.assertEqual(bare.over, [])
        self.assertIn("Motor, brushed, 60 V, 1800 W", fit_kit(stock, self.KART, NAME, Context()).over)
        self.assertTrue(any("fuse" in one for one in bare.lacks), bare.lacks)
        with_pack = load_setup({**stock.model_dump(mode="json"), "bank": {"rows": [{"units": [self.PACK.model_dump(mode="json")]}]}})
        for owned, lacks in (([], True), ([Racked(kind="packs", part=self.PACK, quantity=1)], False)):
            told = fit_kit(with_pack, self.KART, NAME, Context(), bare_frame(with_pack), owned).lacks
            self.assertEqual(self.PACK.label in told, lacks, "What lies on the rack need not be had.")
