"""One part instead of another, by hand."""

from __future__ import annotations

from typing import Any
from unittest import TestCase

from gecko.document.context import Context
from gecko.document.setup import Setup, load_setup
from gecko.plans.evaluate import evaluate
from gecko.plans.substitutes import Candidate, SubstituteOut, instead
from gecko.tests.machines import bike, named

CONTROL: dict[str, Any] = {"kind": "brushed", "nominal_v": named(36), "max_v": named(45), "battery_limit_a": named(30), "throttle": "hall"}


def tried(part: dict[str, Any], setup: Setup, slot: Any = "controller") -> SubstituteOut:
    return instead(setup, slot, [Candidate.of(slot, "Another", part)], Context()).candidates[0]


class Instead(TestCase):
    def test_what_the_old_one_did_and_the_new_one_does_not(self) -> None:
        """Gauge, cruise, reverse braking and soft start are lost; a rear light and the pre-charge path are won."""
        old = bike(controller__does=["gauge", "cruise hold"], controller__ramp_s=named(0.5), controller__regen_a=named(5))
        found = tried({**CONTROL, "does": ["rear light"], "precharge": True}, old)
        self.assertEqual(found.lost, ["braking on release", "cruise hold", "gauge", "soft start"])
        self.assertEqual(found.gained, [one for one in ("a pre-charge path", "rear light") if one in found.gained])
        self.assertIn("rear light", found.gained)

    def test_modes_brake_input_and_halls(self) -> None:
        modes = [{"name": "slow", "duty": 0.4}, {"name": "fast"}]
        self.assertIn("speed modes", tried(CONTROL, bike(controller__modes=modes)).lost)
        self.assertIn("an input for the brake lever", tried({**CONTROL, "brake_cut_off_input": False}, bike()).lost)
        hub = load_setup({"motor": {"kind": "hub", "volts_v": named(36), "power_w": named(350)}})
        self.assertEqual(tried({"kind": "hub", "has_halls": False}, hub, "motor").lost, ["Hall sensors"])
        lever = load_setup({"throttle": {"kind": "hall", "brake_cut_off_present": True}})
        self.assertEqual(tried({"kind": "hall"}, lever, "throttle").lost, ["a switch in the brake lever"])

    def test_each_figure_that_differs_in_its_own_words(self) -> None:
        found = tried({**CONTROL, "battery_limit_a": named(20)}, bike(controller=CONTROL))
        (change,) = found.changes
        self.assertEqual((change.field, change.before, change.after, change.unit), ("battery_limit_a", 30, 20, "A"))
        self.assertEqual(change.what, "Most amps it draws from the bank")

    def test_plugs_and_holes_that_are_others(self) -> None:
        """What only one of the two tells is no change of its own, but what one has and the other has not is."""
        told = [{"joins": "battery", "family": "ring, 6 mm", "contacts": 2}, {"joins": "throttle", "family": "3-pole, 2.8 mm", "gender": "pins"}]
        other = [{"joins": "battery", "family": "ring, 6 mm", "contacts": 2}, {"joins": "brake", "family": "2-pole, 2.8 mm"}]
        with_ends = bike(controller__ends=told, controller__holes="four, 90 by 60 mm")

        def changes(setup: Setup, **more: Any) -> dict[str, tuple[object, object]]:
            document = {"kind": "brushless", **more}
            found = instead(setup, "controller", [Candidate.of("controller", "Box", document)], Context()).candidates[0].changes
            return {one.field: (one.before, one.after) for one in found if one.field.split("/")[0] in ("ends", "holes")}

        self.assertEqual(
            changes(with_ends, ends=other, holes="two, 100 mm"),
            {"ends/throttle": ("3-pole, 2.8 mm, pins", None), "ends/brake": (None, "2-pole, 2.8 mm"), "holes": ("four, 90 by 60 mm", "two, 100 mm")},
        )
        self.assertEqual(changes(with_ends), {"holes": ("four, 90 by 60 mm", None)})
        self.assertEqual(changes(bike(), ends=other), {})

    def test_how_it_is_built_in_stays(self) -> None:
        setup = tried(CONTROL, bike(controller__mounting="screwed", controller__in_spray=False)).setup["controller"]
        self.assertEqual((setup["mounting"], setup["in_spray"], setup["battery_limit_a"]["value"]), ("screwed", False, 30))

    def test_which_part_of_the_rack_it_is_goes_with_it(self) -> None:
        name = {"key": "k", "label": "Box", "letter": "B"}
        setup = tried({**CONTROL, "rack": name}, bike(controller__rack={"key": "old"})).setup["controller"]
        self.assertEqual(setup["rack"]["key"], "k")

    def test_what_the_checks_say(self) -> None:
        """A 24 V controller on ten cells is refused; and a weak one that is exchanged for a fitting one clears its stop."""
        low = {**CONTROL, "nominal_v": named(24), "max_v": named(30)}
        found = tried(low, bike())
        self.assertEqual((found.fits, bool(found.stops)), (False, True))
        back = tried(bike().model_dump(mode="json")["controller"], bike(controller=low))
        self.assertEqual((back.fits, set(back.cleared) >= set(found.stops)), (True, True))

    def test_speed_and_run_time_are_those_of_the_evaluation(self) -> None:
        found = instead(bike(), "motor", [Candidate.of("motor", "Strong", {"kind": "brushed", "volts_v": named(36), "power_w": named(900)})], Context())
        now, then = evaluate(bike()).outcome, evaluate(load_setup(found.candidates[0].setup)).outcome
        assert now is not None and then is not None
        self.assertAlmostEqual(found.top_speed_m_s or 0.0, now.top_speed_m_s)
        self.assertAlmostEqual(found.candidates[0].run_time_s or 0.0, then.run_time_s)

    def test_into_an_empty_slot(self) -> None:
        found = tried({"kind": "hall"}, load_setup({}), "throttle")
        self.assertEqual((found.setup["throttle"]["kind"], found.lost, found.top_speed_m_s), ("hall", [], None))
