"""A speed somebody remembers moves what was assumed, and narrows what follows from it."""

from __future__ import annotations

from typing import Any
from unittest import TestCase

from gecko.analysis.remembered import remembered
from gecko.analysis.riding import Riding
from gecko.common.errors import GeckoError
from gecko.document.setup import load_setup
from gecko.plans.arrangements import typical_setup
from gecko.plans.ranges import ranges
from gecko.reference.tables import families
from gecko.tests.machines import bike, named

MPH = 0.44704


class ASpeed(TestCase):
    def test_every_family_goes_as_fast_as_remembered(self) -> None:
        for family in sorted(families()):
            setup = load_setup(typical_setup(family))
            speed = 0.8 * float(Riding(setup).speeds.course[1])
            found = remembered(setup, speed)
            self.assertAlmostEqual(float(Riding(found.setup).speeds.course[1]) / speed, 1.0, delta=0.01, msg=family)
            self.assertIn("times the typical one", found.said)

    def test_of_two_motors_that_go_so_fast_the_likelier_one_is_taken(self) -> None:
        """A quad's motor wound twice as fast has no push left and is as slow again as one wound a fifth slower."""
        quad = load_setup(typical_setup("quad"))
        found = remembered(quad, 0.8 * float(Riding(quad).speeds.course[1]))
        self.assertRegex(found.said, r"taken as 0\.[78]\d times")

    def test_the_range_narrows(self) -> None:
        """Motor and gears of a toy, both guessed, against 4 mph give or take a tenth, and what else is not known."""
        car = load_setup({**typical_setup("ride-on car", 12.0), "rider": {"age_years": 4}, "ground": {"surface": "short grass"}})
        before, after = ranges(car).outcomes["top_speed_half_m_s"], ranges(remembered(car, 4 * MPH).setup).outcomes["top_speed_half_m_s"]
        self.assertLess((after.high - after.low) / after.median, 0.65 * (before.high - before.low) / before.median)
        self.assertTrue(after.low < 4 * MPH < after.high)

    def test_what_is_typed_stays(self) -> None:
        document: dict[str, Any] = typical_setup("small dirt bike")
        document["motor"]["speed_rpm"] = named(2700)
        with self.assertRaisesRegex(GeckoError, "run in Prove"):
            remembered(load_setup(document), 5.0)
        document = typical_setup("ride-on car")
        document["motor"]["no_load_rpm"] = named(15_000)
        found = remembered(load_setup(document), 1.5)
        assert found.setup.motor is not None and found.setup.motor.no_load_rpm is not None
        self.assertEqual((found.setup.motor.no_load_rpm.value, found.setup.motor.no_load_rpm.basis), (15_000, "nameplate"))
        self.assertIn("gearing", found.said)

    def test_a_speed_no_such_machine_goes_is_refused(self) -> None:
        with self.assertRaisesRegex(GeckoError, "Check the speed's unit"):
            remembered(load_setup(typical_setup("ride-on car")), 25.0)
        with self.assertRaisesRegex(GeckoError, "battery and motor first"):
            remembered(bike(motor=None), 3.0)

    def test_how_far_a_figure_is_moved(self) -> None:
        """A figure is believed to be up to three times off: a toy that is said to go 2.7 times as slowly as usual is found, one 3.5 times as slowly is
        refused. The speed it has anyhow moves nothing."""
        setup = load_setup(typical_setup("ride-on car"))
        usual = float(Riding(setup).speeds.course[1])
        self.assertAlmostEqual(float(Riding(remembered(setup, usual).setup).speeds.course[1]), usual, delta=1e-3)
        self.assertAlmostEqual(float(Riding(remembered(setup, usual / 2.7).setup).speeds.course[1]), usual / 2.7, delta=0.01)
        with self.assertRaises(GeckoError):
            remembered(setup, usual / 3.5)
