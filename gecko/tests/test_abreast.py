"""Machines of one build ridden in one go, against each of them ridden alone."""

from __future__ import annotations

from dataclasses import replace
from typing import Any
from unittest import TestCase

import numpy as np

from gecko.alike import build_of, one_of, together
from gecko.ride.abreast import rides_abreast
from gecko.ride.courses import SHIPPED
from gecko.riding import Riding, ride_abreast
from gecko.tests.machines import bike, named

PACK = {"label": "p", "cells_in_series": 10, "capacity_ah": named(6), "resistance_ohm": named(0.1)}


def riding(course: int, **changes: Any) -> Riding:
    return Riding(bike(course=SHIPPED[course].model_dump(), motor__power_w=named(700), **changes))


class Together(TestCase):
    def test_figures_become_arrays_and_come_back_one_by_one(self) -> None:
        machines = [riding(0, drivetrain__motor_teeth=teeth).m for teeth in (11, 13, 15)]
        self.assertEqual(len({build_of(machine) for machine in machines}), 1)
        several = together(machines)
        self.assertEqual(np.shape(several.vehicle.gear_ratio), (3,))
        self.assertEqual(several.vehicle.mass_kg, machines[0].vehicle.mass_kg, "What they share stays one figure.")
        self.assertEqual([one_of(several, i) for i in range(3)], machines)

    def test_what_is_no_figure_tells_builds_apart(self) -> None:
        one = riding(0).m
        for other in (
            riding(0, bank={"rows": [{"units": [PACK]}, {"units": [PACK]}]}).m,
            riding(0, guard=None).m,
            replace(one, ambient_c=one.ambient_c + 1.0),
        ):
            self.assertNotEqual(build_of(one), build_of(other))


class Abreast(TestCase):
    def test_each_rides_as_it_would_alone(self) -> None:
        """Three gearings, a bank of two rows between them: run time within 1 %, the end the same, the order kept."""
        two_rows = {"rows": [{"units": [PACK], "fuse": {"rating_a": 20, "dc_volts_v": 58}}] * 2}
        for course in (0, 2):
            alone = [riding(course, drivetrain__motor_teeth=11), riding(course, bank=two_rows), riding(course, drivetrain__motor_teeth=13), riding(course)]
            found = rides_abreast([one.m for one in alone], [one.legs for one in alone], [one.brake_m_s2 for one in alone])
            for one, ride in zip(alone, found, strict=True):
                self.assertEqual(ride.ends_by, one.ride.ends_by)
                self.assertAlmostEqual(float(ride.run_time_s / one.ride.run_time_s), 1.0, delta=0.01)

    def test_rides_of_few_rounds_go_leg_by_leg_also_abreast(self) -> None:
        """Small packs and a hill park six times as long: fewer than twelve rounds."""
        course = SHIPPED[2].model_dump()
        for segment in course["segments"]:
            segment["length_m"] *= 6
        small = {"rows": [{"units": [{**PACK, "capacity_ah": named(1.5)}]}]}
        setups = [bike(course=course, bank=small, motor__power_w=named(700), drivetrain__motor_teeth=teeth) for teeth in (11, 12)]
        alone, compared = [Riding(setup) for setup in setups], [Riding(setup, quick=True) for setup in setups]
        ride_abreast(compared)
        for one, other in zip(alone, compared, strict=True):
            self.assertLess(float(one.ride.value_at_end(np.asarray(one.ride.rounds))), 12.0)
            self.assertAlmostEqual(float(other.ride.run_time_s / one.ride.run_time_s), 1.0, delta=0.03)
