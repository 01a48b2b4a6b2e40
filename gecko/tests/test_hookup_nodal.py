"""Readings against hand-solved circuits, and the nodal solver against a dense one that solves for source currents too."""

from __future__ import annotations

import random
from itertools import pairwise
from unittest import TestCase

import numpy as np

from gecko.document.setup import Setup
from gecko.hookup.netlist import build_wiring
from gecko.hookup.readings import State, derivable, everything_on, ohms, volts
from gecko.hookup.wiring import Wiring
from gecko.physics.electric.nodal import CurrentSource, Resistor, Straight, VoltSource, solve
from gecko.tests.machines import bike, named


def dense(elements: list[Straight], nodes: list[str]) -> dict[str, float]:
    """Modified nodal analysis: ideal sources behind nodes of their own, their currents as unknowns, by least squares.

    Source: Ho, Ruehli, Brennan 1975.
    """
    inner = [f"inside{k}" for k, e in enumerate(elements) if isinstance(e, VoltSource)]
    every = [*nodes, *inner]
    size, sources = len(every), len(inner)
    a, z = np.zeros((size + sources + 1, size + sources)), np.zeros(size + sources + 1)
    at = {name: k for k, name in enumerate(every)}

    def resistor(one: str, other: str, ohm: float) -> None:
        for p, q in ((one, other), (other, one)):
            a[at[p], at[p]] += 1.0 / ohm
            a[at[p], at[q]] -= 1.0 / ohm

    number = 0
    for k, e in enumerate(elements):
        if isinstance(e, Resistor):
            resistor(e.a, e.b, e.ohm)
        elif isinstance(e, CurrentSource):
            z[at[e.a]] -= e.amps_a
            z[at[e.b]] += e.amps_a
        else:
            own, row = f"inside{k}", size + number
            resistor(e.plus, own, e.ohm)
            a[at[own], row] -= 1.0
            a[at[e.minus], row] += 1.0
            a[row, at[own]], a[row, at[e.minus]], z[row] = 1.0, -1.0, e.volts_v
            number += 1
    a[-1, at[nodes[0]]] = 1.0
    found = np.linalg.lstsq(a, z, rcond=None)[0]
    return {name: float(found[at[name]]) for name in nodes}


class Solver(TestCase):
    def test_random_circuits_against_the_dense_solver(self) -> None:
        pick = random.Random(7)
        for _ in range(200):
            nodes = [f"n{k}" for k in range(pick.randint(2, 9))]
            elements: list[Straight] = [Resistor(one, other, 10 ** pick.uniform(-2, 3)) for one, other in pairwise(nodes)]
            for _ in range(pick.randint(1, 8)):
                one, other = pick.sample(nodes, 2)
                made: tuple[Straight, ...] = (
                    Resistor(one, other, 10 ** pick.uniform(-2, 3)),
                    VoltSource(one, other, pick.uniform(-60, 60), 10 ** pick.uniform(-2, 1)),
                    CurrentSource(one, other, pick.uniform(-5, 5)),
                )
                elements.append(pick.choice(made))
            ours, theirs = solve(elements, nodes[0]), dense(elements, nodes)
            scale = max(1.0, *(abs(v) for v in theirs.values()))
            for name in nodes:
                self.assertAlmostEqual(ours.between(name, nodes[0]) / scale, (theirs[name] - theirs[nodes[0]]) / scale, places=4)


def wired(setup: Setup) -> Wiring:
    wiring = build_wiring(setup)
    assert wiring is not None
    return wiring


class SmallWires(TestCase):
    """Throttle, lever, key, Halls by hand: a 5 V supply behind 10 Ω, inputs pulled up to it by 4.7 kΩ."""

    def test_hall_throttle(self) -> None:
        """700 Ω of sensor on 5 V behind 10 Ω: 5·700/710 = 4.930 V; its signal 0.85 V at rest, 4.2 V open, through 100 Ω into 100 kΩ: 0.1 % less."""
        wiring = wired(bike())
        for throttle, signal in ((0.0, 0.85), (1.0, 4.2), (0.5, 2.525)):
            state = State(frozenset({0}), frozenset({0}), True, True, throttle=throttle)
            self.assertAlmostEqual(volts(wiring, state, "throttle.5 V", "throttle.ground")[1], 4.930, places=2)
            self.assertAlmostEqual(volts(wiring, state, "throttle.signal", "throttle.ground")[1], signal * 100 / 100.1, places=3)

    def test_potentiometer(self) -> None:
        """5 kΩ end to end, at rest at 17 %: 850 Ω to ground with the packs out, 5·5000/5010·0.17 V fed (an input of 100 kΩ beside: 0.7 % less)."""
        wiring = wired(bike(throttle__kind="potentiometer"))
        self.assertAlmostEqual(ohms(wiring, State(), "throttle.signal", "throttle.ground") or 0.0, 850.0, delta=0.1)
        fed = volts(wiring, everything_on(1), "throttle.signal", "throttle.ground")[1]
        self.assertAlmostEqual(fed, 0.842, places=2)

    def test_brake_lever(self) -> None:
        """Released its input floats at 5 V; pulled 0.05 Ω against 4.7 kΩ: nothing. Across the lever: open, then 0.05 Ω."""
        wiring = wired(bike())
        on = everything_on(1)
        self.assertAlmostEqual(volts(wiring, on, "brake.1", "brake.2")[1], 5.0, places=2)
        pulled = State(frozenset({0}), frozenset({0}), True, True, brake=True)
        self.assertAlmostEqual(volts(wiring, pulled, "brake.1", "brake.2")[1], 0.0, places=3)
        self.assertIsNone(ohms(wiring, State(), "brake.1", "brake.2"))
        self.assertAlmostEqual(ohms(wiring, State(brake=True), "brake.1", "brake.2") or 9.0, 0.05, places=3)

    def test_key(self) -> None:
        """Off: full volts across the key's two wires, none at the throttle. On: none across it, 5 V at the throttle."""
        wiring = wired(bike(controls={"key": True}, bank__rows__0__units__0__resting_v=named(40)))
        off = State(frozenset({0}), frozenset({0}), True, True)
        on = State(frozenset({0}), frozenset({0}), True, True, key=True)
        # The meter's 10 MΩ behind the input's 0.1 MΩ: a hundredth less.
        self.assertAlmostEqual(volts(wiring, off, "key.2", "key.1")[1], 40.0 / 1.01, delta=0.1)
        self.assertAlmostEqual(volts(wiring, off, "throttle.5 V", "throttle.ground")[1], 0.0, places=2)
        self.assertAlmostEqual(volts(wiring, on, "key.2", "key.1")[1], 0.0, places=2)
        self.assertAlmostEqual(volts(wiring, on, "throttle.5 V", "throttle.ground")[1], 4.93, places=2)

    def test_halls_change_six_times_a_turn(self) -> None:
        """Pulled down 50 Ω against 4.7 kΩ: 53 mV; let go 5 V. Never all three alike, one changes at a time."""
        wiring = wired(bike(motor__kind="brushless mid", controller__kind="brushless"))
        codes = []
        for turn in range(6):
            state = State(frozenset({0}), frozenset({0}), True, True, turn=turn)
            seen = [volts(wiring, state, f"motor0.Hall {x}", "motor0.Hall ground")[1] for x in "ABC"]
            self.assertTrue(all(abs(v - 5.0) < 0.05 or abs(v - 0.053) < 0.02 for v in seen), seen)
            codes.append(tuple(v > 2.5 for v in seen))
        self.assertEqual(len(set(codes)), 6)
        for one, other in zip(codes, [*codes[1:], codes[0]], strict=True):
            self.assertEqual(sum(a != b for a, b in zip(one, other, strict=True)), 1)

    def test_phases_are_a_star(self) -> None:
        wiring = wired(bike(motor__kind="brushless mid", controller__kind="brushless"))
        found = [ohms(wiring, State(), f"motor0.phase {a}", f"motor0.phase {b}") for a, b in ("AB", "BC", "CA")]
        self.assertEqual(len({round(one or 0.0, 6) for one in found}), 1)

    def test_what_lies_behind_an_unknown_inside_is_not_derived(self) -> None:
        wiring = wired(bike())
        state = State(main_fuse=True, cut_off=True)
        self.assertFalse(derivable(wiring, state, "controller.battery +", "controller.battery −"))
        self.assertTrue(derivable(wiring, state, "controller.battery +", "plus_bar."))
        self.assertTrue(derivable(wiring, State(), "brake.1", "plus_bar."), "Nothing joins them: open for sure.")

    def test_converter_and_lamp(self) -> None:
        """12 V behind 50 mΩ into 6 Ω and two joints: 12·6/6.05 = 11.90 V; its fuse out: dead."""
        lamp = {
            "label": "lamp",
            "amps_a": named(2),
            "fuse": {"rating_a": 5, "dc_volts_v": 58},
            "converter": {"input_min_v": named(24), "input_max_v": named(60), "output_v": named(12), "output_a": named(5)},
        }
        wiring = wired(bike(auxiliaries=[lamp]))
        self.assertAlmostEqual(volts(wiring, everything_on(1), "accessory0.+", "accessory0.−")[1], 11.90, places=2)
        dark = State(frozenset({0}), frozenset({0}), True, True)
        self.assertAlmostEqual(volts(wiring, dark, "accessory0.+", "accessory0.−")[1], 12.0, places=2)
