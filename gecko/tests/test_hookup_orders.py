"""Phase and Hall orders: the 36 ways against a motor and a six-step controller simulated turn by turn, and the finder over all starts."""

from __future__ import annotations

import random
from itertools import permutations, product
from unittest import TestCase

import numpy as np

from gecko.document.parts.hookup import Order, OrderTrial, WheelDid
from gecko.hookup.orders import MOST_TO_FORWARD, MOST_TO_SMOOTH, MOST_UNPAIRED, ORDERS, Moves, next_order

Places = tuple[int, ...]


def torque(phases: Places, halls: Places, motor: Places = (0, 1, 2), controller: Places = (0, 1, 2)) -> np.ndarray:
    """Torque over one electrical turn of a motor with sinusoidal back-EMF and Halls 120° apart under six-step commutation.

    phases, halls: motor lead or wire on each of the controller's. motor: the phase each Hall wire belongs to, whose flux it sees, a quarter
    turn before its volts. controller: the Hall input that belongs to each output: it is fed by the other two, plus where the one is high
    and minus where the other is. Source: six-step commutation as in any textbook of brushless drives.
    """
    angle = np.linspace(0.0, 2.0 * np.pi, 720, endpoint=False) + 0.001
    high = [np.sin(angle - 2.0 * np.pi * motor[wire] / 3.0) > 0.0 for wire in range(3)]
    seen = [high[halls[controller[i]]].astype(int) for i in range(3)]
    total = np.zeros_like(angle)
    for i in range(3):
        amps = seen[(i + 1) % 3] - seen[(i + 2) % 3]
        total += amps * np.sin(angle - 2.0 * np.pi * phases[i] / 3.0 - np.pi / 2.0)
    return total


def places(order: Order) -> Places:
    return tuple("ABC".index(letter) for letter in order)


class Wheel:
    """A wheel on a stand with a motor and controller of unknown pairs: it does what the simulated torque makes of it."""

    def __init__(self, motor: Places, controller: Places, forward: bool) -> None:
        self.motor, self.controller, self.forward = motor, controller, forward
        self.seen: dict[tuple[Order, Order], WheelDid] = {}

    def does(self, phases: Order, halls: Order) -> WheelDid:
        if (phases, halls) not in self.seen:
            self.seen[phases, halls] = self.tried(phases, halls)
        return self.seen[phases, halls]

    def tried(self, phases: Order, halls: Order) -> WheelDid:
        found = torque(places(phases), places(halls), self.motor, self.controller)
        best = torque((0, 1, 2), (0, 1, 2))
        if abs(found.mean()) < 0.2 * abs(best.mean()):
            return "jerks"
        if abs(found).min() > 0.9 * abs(best).min():
            return "smooth forward" if (found.mean() > 0.0) == self.forward else "smooth backward"
        return "rough"


def tries(wheel: Wheel, start: tuple[Order, Order], moves: Moves, blunt: random.Random | None) -> tuple[int, int]:
    """How many tries until it ran smoothly, and until it did so forward; blunt: who cannot tell rough from jerking says either."""
    trials: list[OrderTrial] = []
    order, smooth = start, 0
    for count in range(1, 12):
        outcome = wheel.does(*order)
        if blunt is not None and outcome in ("rough", "jerks"):
            outcome = blunt.choice(["rough", "jerks"])
        trials.append(OrderTrial(phases=order[0], halls=order[1], outcome=outcome))
        smooth = smooth or (count if outcome.startswith("smooth") else 0)
        if outcome == "smooth forward":
            return smooth, count
        found = next_order(trials, moves)
        order = found.phases, found.halls
    raise AssertionError(trials)


class TheThirtySix(TestCase):
    """Three run one way, three the other, six smoothly in all."""

    def test_three_one_way_three_the_other(self) -> None:
        did = [Wheel((0, 1, 2), (0, 1, 2), True).does(p, h) for p, h in product(ORDERS, ORDERS)]
        self.assertEqual({one: did.count(one) for one in set(did)}, {"smooth forward": 3, "smooth backward": 3, "rough": 12, "jerks": 18})

    def test_matching_orders_are_those_joined_alike(self) -> None:
        wheel = Wheel((0, 1, 2), (0, 1, 2), True)
        for p, h in product(ORDERS, ORDERS):
            self.assertEqual(wheel.does(p, h).startswith("smooth"), p == h, (p, h))


class Finder(TestCase):
    """Every start, told bluntly or well, moving either side."""

    def test_every_start_within_the_bound(self) -> None:
        blunt = random.Random(5)
        sides: tuple[Moves, ...] = ("phases", "halls")
        for motor, forward, moves in product(permutations(range(3)), (True, False), sides):
            wheel = Wheel(motor, (0, 1, 2), forward)
            for start in product(ORDERS, ORDERS):
                well = tries(wheel, start, moves, None)
                self.assertLessEqual(well[0], MOST_TO_SMOOTH - 2)
                self.assertLessEqual(well[1], MOST_TO_FORWARD - 2)
                for _ in range(2):
                    told = tries(wheel, start, moves, blunt)
                    self.assertLessEqual(told[0], MOST_TO_SMOOTH)
                    self.assertLessEqual(told[1], MOST_TO_FORWARD)

    def test_controllers_whose_colours_do_not_pair_take_two_more(self) -> None:
        blunt = random.Random(6)
        for motor, controller, forward in product(permutations(range(3)), permutations(range(3)), (True, False)):
            for start in (("ABC", "ABC"), ("CBA", "BCA")):
                told = tries(Wheel(motor, controller, forward), start, "phases", blunt)
                self.assertLessEqual(told[0], MOST_TO_SMOOTH)
                self.assertLessEqual(told[1], MOST_UNPAIRED)

    def test_begins_with_equal_colours_and_names_what_to_move(self) -> None:
        first = next_order([])
        self.assertEqual((first.phases, first.halls, first.found, first.left), ("ABC", "ABC", False, 6))
        then = next_order([OrderTrial(outcome="rough")])
        self.assertTrue(then.swaps and all(text.startswith("Controller phase lead") for text in then.swaps))
        self.assertEqual(len(then.swaps), 3, "A third of a turn off: the other two that go round are the likeliest.")
        self.assertEqual(then.halls, "ABC")
        self.assertTrue(all("Hall wire" in text for text in next_order([OrderTrial(outcome="jerks")], "halls").swaps))

    def test_dead_says_nothing_and_a_contradiction_is_named(self) -> None:
        self.assertEqual(next_order([OrderTrial(outcome="nothing")]).left, 6)
        odd = next_order([OrderTrial(outcome="smooth forward"), OrderTrial(outcome="rough")])
        self.assertEqual(odd.left, 0)
        self.assertIn("cannot all be right", odd.why)

    def test_backward_moves_two_phases_and_two_halls(self) -> None:
        found = next_order([OrderTrial(outcome="smooth backward")])
        self.assertEqual((found.phases, found.halls), ("BAC", "BAC"))
        self.assertEqual(len(found.swaps), 4)
        self.assertTrue(next_order([OrderTrial(outcome="smooth backward"), OrderTrial(phases="BAC", halls="BAC", outcome="smooth forward")]).found)
