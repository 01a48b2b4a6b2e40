"""The demo garage evaluates, tells a story, and loads once."""

from __future__ import annotations

from typing import ClassVar

from django.test import TestCase

from gecko.document.setup import load_setup
from gecko.plans.evaluate import evaluate
from server.builds.models import Build
from server.builds.services import builds_of, context_of
from server.demo.load import load_demo
from server.garage.models import Garage
from server.logbook.services import predictions_for


class Demo(TestCase):
    garage: ClassVar[Garage]

    @classmethod
    def setUpTestData(cls) -> None:
        cls.garage = load_demo()

    def test_four_builds_each_with_a_baseline_and_setups(self) -> None:
        self.assertEqual([b.name for b in builds_of(self.garage)], ["Marmalade", "Thistle", "Bramble", "Pocket Comet"])
        for build in self.garage.builds.all():
            self.assertEqual(build.setups.filter(is_baseline=True).count(), 1)
            self.assertTrue(3 <= build.setups.count() <= 4)
            self.assertTrue(build.trials.exists() and build.journal.exists())

    def test_every_setup_evaluates_and_one_of_each_build_has_something_to_mend(self) -> None:
        for build in Build.objects.all():
            stops = []
            for setup in build.setups.all():
                found = evaluate(load_setup(setup.document), context_of(setup))
                self.assertIsNotNone(found.outcome, setup.name)
                stops.append(any(f.severity == "stop" for f in found.findings))
                if setup.in_use:
                    self.assertFalse([f.key for f in found.findings if f.gate == "plan"], f"{build.name}: {setup.name}")
            self.assertTrue(any(stops), build.name)

    def test_trials_follow_from_the_model_with_scatter(self) -> None:
        for build in Build.objects.all():
            for trial in build.trials.all():
                (predicted,) = predictions_for([trial])
                assert predicted is not None
                self.assertAlmostEqual(trial.speed_m_s / predicted.speed_m_s, 1.0, delta=0.08)
                self.assertGreater(len({p["time_s"] for p in trial.passes}), 1)

    def test_loading_again_changes_nothing(self) -> None:
        before = Build.objects.count()
        self.assertEqual(load_demo().pk, self.garage.pk)
        self.assertEqual(Build.objects.count(), before)
