"""Sane machines are left in peace, and fixes mend unsafe ones: a twentieth of what the benchmark tries, at fixed seeds."""

from __future__ import annotations

import random
from unittest import TestCase

from gecko.analysis.whole import Analysis
from gecko.document.setup import load_setup
from gecko.rules.registry import run_checks
from gecko.tests.sane import FAMILIES, sane
from gecko.tests.unsafe import follow, unsafe

SANE, UNSAFE = 30, 10
FASTER = 1.02
"""A thicker wire or one more pack loses fewer volts: so much faster a mended machine may be. [1]"""


def weighed(number: int) -> tuple[int, int]:
    """Stops and cautions of one sane machine."""
    document = sane(random.Random(1000 + number), sorted(FAMILIES)[number % len(FAMILIES)])
    severities = [f.finding.severity for f in run_checks(Analysis(load_setup(document)))]
    return severities.count("stop"), severities.count("caution")


class Peace(TestCase):
    def test_sane_machines_get_no_stop_and_hardly_a_caution(self) -> None:
        found = [weighed(number) for number in range(SANE)]
        self.assertLessEqual(sum(stops > 0 for stops, _ in found), 1)
        self.assertLessEqual(sum(cautions > 2 for _, cautions in found), 1)


class Mending(TestCase):
    def test_first_fixes_end_without_stops_of_the_plan(self) -> None:
        left = 0
        for number in range(UNSAFE):
            document, names = unsafe(random.Random(5000 + number))
            with self.subTest(number, names=names):
                road = follow(document)
                left += bool(road.left)
                self.assertEqual(road.gone, (), "No fix takes charger, guard, fuse or rider away.")
                if not road.left:
                    self.assertLessEqual(road.after_m_s, 1.05 * road.cap_m_s)
                if road.before_m_s > 0.1 and not road.had_too_few_volts:
                    self.assertLessEqual(road.after_m_s, FASTER * road.before_m_s, road.labels)
        self.assertLessEqual(left, 1)
