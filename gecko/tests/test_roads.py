"""The most usual jobs end in a plan: every plan stop on the way has a fix, and following the first ones leaves none."""

from __future__ import annotations

from unittest import TestCase

from gecko.tests.roads import jobs


class Roads(TestCase):
    def test_first_fixes_end_without_plan_stops(self) -> None:
        """Every fourth of the cars and all others; the whole runs in `make bench`."""
        every = list(jobs())
        cars = [job for job in every if " car, " in job.name]
        for job in [*cars[::4], *(job for job in every if job not in cars)]:
            with self.subTest(job.name):
                road = job.road()
                self.assertEqual(road.left, ())
                self.assertEqual(road.gone, ())
                self.assertLessEqual(road.after_m_s, 1.05 * road.cap_m_s)
                self.assertGreater(road.after_m_s, 0.5)
