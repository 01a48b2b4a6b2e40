"""Hazards are seen: each one put in through a form's field is found by its rule, and its near twin is silent."""

from __future__ import annotations

from unittest import TestCase

from gecko.analysis.whole import Analysis
from gecko.answers.evaluation import Finding
from gecko.document.setup import load_setup
from gecko.rules.edits import copied
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

    def test_each_change_that_is_offered_clears_what_it_is_offered_for(self) -> None:
        """Tried one by one, as somebody would who takes the second or third of them; a stop may become something to look at."""
        tried = 0
        for hazard in HAZARDS:
            setup = load_setup(document(hazard, hazard.bad))
            before = setup.model_dump(mode="json")
            for found in run_checks(Analysis(setup)):
                for edit in found.edits if found.finding.id == hazard.rule else ():
                    with self.subTest(hazard.name, edit=edit.label):
                        changed = copied(before)
                        edit.change(changed)
                        self.assertNotEqual(changed, before, "it changes nothing")
                        tried += 1
                        after = [one.finding for one in run_checks(Analysis(load_setup(changed))) if one.finding.key == found.finding.key]
                        left = [one.severity for one in after if found.finding.severity != "stop" or one.severity == "stop"]
                        self.assertEqual(left, [])
        self.assertGreater(tried, 100)

    def test_a_stop_says_more_asked_than_stands(self) -> None:
        for hazard in HAZARDS:
            for finding in found_by(hazard, hazard.bad):
                if finding.severity == "stop" and finding.asked is not None and finding.stands is not None:
                    with self.subTest(hazard.name):
                        self.assertGreater(finding.asked, finding.stands)
