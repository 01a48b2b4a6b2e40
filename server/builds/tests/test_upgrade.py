"""An upgrade of the program that adds steps does not undo "done", and excuses nothing else."""

from __future__ import annotations

from typing import Any
from unittest.mock import patch

from gecko.hookup.shape import Step
from gecko.plans.hookup import Hookup
from gecko.tests.machines import safe_bike
from server.answers.kept import hookup_of
from server.builds import standing, ticks
from server.builds.models import Setup, Tick
from server.testing import HouseholdCase


def newer(setup: Any, context: Any) -> Hookup | None:
    """The plan of a program that has one step more, early, with a reading, and locked like its neighbour."""
    plan = hookup_of(setup, context)
    if plan is None:
        return None
    pattern = next(step for step in plan.steps if step.reading is not None)
    return plan.model_copy(update={"steps": [plan.steps[0], pattern.model_copy(update={"id": "newer", "title": "Look twice"}), *plan.steps[1:]]})


class Upgrade(HouseholdCase):
    def setUp(self) -> None:
        super().setUp()
        self.build = self.home.build()
        self.setup_id = self.build["setups"][1]["id"]

    def steps(self) -> list[Step]:
        plan = self.home.ok("POST", "/api/hookup", {"setup": self.row().document, "build_id": self.build["id"]})["plan"]
        return [Step.model_validate(one) for one in (*plan["steps"], *plan["stand"])]

    def row(self) -> Setup:
        return Setup.objects.get(pk=self.setup_id)

    def upgraded(self) -> int:
        """The newer program comes, and everything is carried over; what it excused."""
        for place in (ticks, standing):
            patcher = patch.object(place, "hookup_of", newer)
            patcher.start()
            self.addCleanup(patcher.stop)
        return ticks.carry_over()

    def done(self) -> bool:
        row = self.row()
        steps = standing.steps_of(row)
        return standing.done_of(row, steps) == {step.id for step in steps}

    def test_what_was_done_stays_done(self) -> None:
        self.home.prove(self.setup_id, self.build["id"])
        completed = self.row().completed
        assert completed is not None
        self.assertEqual(len(completed["steps"]), len(self.steps()))
        self.assertEqual((self.upgraded(), self.done()), (1, True))
        self.assertEqual(ticks.carry_over(), 0, "Once.")
        said = next(t for t in self.home.ok("GET", f"/api/builds/{self.build['id']}")["setups"][1]["ticks"] if t["step"] == "newer")
        self.assertEqual((said["excused"], said["measured"]), (True, None))
        self.assertTrue(standing.standing_of(self.row()).ride)

    def test_of_what_was_done_before_anybody_remembered_it_it_is_remembered_first(self) -> None:
        self.home.prove(self.setup_id, self.build["id"])
        Setup.objects.update(completed=None)
        self.assertEqual(ticks.carry_over(), 0)
        self.assertEqual((self.upgraded(), self.done()), (1, True))

    def test_of_an_old_program_that_left_no_marks_the_first_ride_says_it(self) -> None:
        """As in databases of the first programs: fewer steps, ticks without marks, nothing remembered."""
        self.home.prove(self.setup_id, self.build["id"])
        Setup.objects.update(completed=None)
        Tick.objects.filter(step__in=["dry_fit", "stand_wheels"]).delete()
        self.assertEqual((ticks.carry_over(), self.done()), (0, False), "With marks it was this program, and they were not done.")
        Tick.objects.update(mark="")
        self.assertEqual((ticks.carry_over(), self.done(), ticks.carry_over()), (2, True, 0))
        Tick.objects.filter(step="stand_first").delete()
        Tick.objects.filter(excused=True).delete()
        Setup.objects.update(completed=None)
        self.assertEqual(ticks.carry_over(), 0, "Without a first ride it was not done.")

    def test_what_was_not_done_is_not_excused(self) -> None:
        self.home.prove(self.setup_id, self.build["id"])
        Setup.objects.update(completed=None)
        Tick.objects.filter(step="safe").delete()
        ticks.carry_over()
        self.assertEqual((self.upgraded(), self.done()), (0, False))

    def test_what_a_change_of_the_machine_brought_is_asked(self) -> None:
        """All was done; then a second pack was joined: its steps are asked, the newer program's are not, and one taken back is asked again."""
        self.home.prove(self.setup_id, self.build["id"])
        before = {step.id for step in self.steps()}
        document = safe_bike()
        document["bank"]["rows"] *= 2
        self.home.ok("PUT", f"/api/setups/{self.setup_id}", {"document": document, "based_on": self.row().version})
        brought = {step.id for step in self.steps()} - before
        self.assertIn("join1", brought)
        self.upgraded()
        excused = set(Tick.objects.filter(excused=True).values_list("step", flat=True))
        self.assertEqual(excused, {"newer"})
        Tick.objects.filter(step="safe").delete()
        self.assertEqual(ticks.carry_over(), 0)
        self.assertFalse(self.done())

    def test_it_comes_along_in_a_file(self) -> None:
        self.home.prove(self.setup_id, self.build["id"])
        file = self.home.ok("GET", f"/api/builds/{self.build['id']}/export")
        self.other.read_in(file)
        copy = Setup.objects.latest("pk")
        self.assertEqual(copy.completed, self.row().completed)
