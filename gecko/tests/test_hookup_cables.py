"""Cables shared by small wires: conductors counted by hand, gauge, and what must not run among signals."""

from __future__ import annotations

from unittest import TestCase

from gecko.hookup.cables import CableOut, cables
from gecko.tests.machines import bike


def cable(conductors: int, *carries: str, mm2: float = 0.22) -> CableOut:
    return cables(bike(cables=[{"label": "stem", "conductors": conductors, "mm2": mm2, "carries": list(carries)}]))[0]


class Cables(TestCase):
    def test_conductors_by_hand(self) -> None:
        """Throttle 3, brake 2, speed switch 2: seven; one ground for all three saves two."""
        for conductors, state in ((8, "fits"), (7, "fits"), (6, "with one ground"), (5, "with one ground"), (4, "too few")):
            found = cable(conductors, "throttle", "brake", "speed switch")
            self.assertEqual((found.needs, found.least, found.state), (7, 5, state))

    def test_power_never_among_signals(self) -> None:
        found = cable(12, "throttle", "phases")
        self.assertEqual(found.state, "wrong")
        self.assertIn("No phases in it", found.said[0])
        self.assertEqual(cable(12, "throttle", "Halls").state, "fits")

    def test_the_lock_wire_wants_more_copper_and_a_fuse(self) -> None:
        for mm2, state in ((0.49, "wrong"), (0.5, "fits")):
            found = cable(8, "throttle", "key", mm2=mm2)
            self.assertEqual(found.state, state)
            self.assertTrue(any("fuse it" in said for said in found.said))
        self.assertEqual(cable(8, "throttle", mm2=0.13).state, "wrong")
        self.assertEqual(cable(8, "throttle", mm2=0.14).state, "fits")
