"""Hazards are seen: each one put in through a form's field is found by its rule, and its near twin is silent."""

from __future__ import annotations

from unittest import TestCase

from gecko.analysis.whole import Analysis
from gecko.answers.evaluation import Finding
from gecko.document.setup import load_setup
from gecko.rules.registry import run_checks
from gecko.tests.hazards import HAZARDS, Hazard, document


def found_by(hazard: Hazard, changes: dict[str, object]) -> list[Finding]:
    """What the hazard's rule says of the machine with these changes."""
    return [f.finding for f in run_checks(Analysis(load_setup(document(hazard, changes)))) if f.finding.id == hazard.rule]


class Hazards(TestCase):
    def test_there_are_enough_of_them(self) -> None:
        self.assertGreaterEqual(len(HAZARDS), 120)
        self.assertEqual(len({hazard.name for hazard in HAZARDS}), len(HAZARDS))

    def test_each_is_found_by_its_rule_and_its_twin_is_silent(self) -> None:
        for hazard in HAZARDS:
            with self.subTest(hazard.name):
                self.assertTrue(found_by(hazard, hazard.bad), f"{hazard.rule} says nothing")
                self.assertEqual([f.because for f in found_by(hazard, hazard.good)], [], "its twin")

    def test_what_nobody_can_tell_counts_as_not_there_and_stays_open(self) -> None:
        for hazard in HAZARDS:
            if "looks" not in hazard.bad:
                continue
            with self.subTest(hazard.name):
                for finding in found_by(hazard, hazard.bad):
                    self.assertEqual([answer.answer for answer in finding.answers], ["yes", "no", "cannot tell"])
                    self.assertIn("counts as not there", finding.because)
