"""Two devices on one setup: what both saved is joined, and only what both changed is asked about."""

from __future__ import annotations

from typing import Any

from gecko.tests.machines import named, safe_bike
from server.builds.models import Revision, Setup
from server.testing import HouseholdCase


class Joining(HouseholdCase):
    def setUp(self) -> None:
        super().setUp()
        self.setup_id = self.home.build()["setups"][1]["id"]
        self.base = Setup.objects.get(pk=self.setup_id).document

    def save(self, *, base: bool = True, based_on: int = 1, answers: dict[str, str] | None = None, answers_to: int | None = None, **changes: Any) -> Any:
        body: dict[str, Any] = {"document": safe_bike(**changes), "based_on": based_on, "base": self.base if base else None}
        return self.home.send("PUT", f"/api/setups/{self.setup_id}", {**body, "answers": answers or {}, "answers_to": answers_to})

    def stored(self) -> Any:
        return Setup.objects.get(pk=self.setup_id).document

    def test_different_fields_are_joined_without_a_question(self) -> None:
        self.assertIs(self.save(main_fuse__rating_a=25).json()["joined"], False)
        answer = self.save(ground={"surface": "short grass"}, chargers=[])
        self.assertEqual(answer.status_code, 200)
        body = answer.json()
        self.assertEqual((body["version"], body["joined"], body["document"]), (3, True, self.stored()))
        self.assertEqual((self.stored()["main_fuse"]["rating_a"], self.stored()["ground"]["surface"], self.stored()["chargers"]), (25, "short grass", []))

    def test_the_joined_revision_says_whose_changes_it_holds(self) -> None:
        self.save(main_fuse__rating_a=25)
        Revision.objects.filter(setup=self.setup_id).update(author=None)
        self.assertEqual(self.save(ground={"surface": "short grass"}).status_code, 200)
        self.assertEqual(Revision.objects.filter(setup=self.setup_id).first().label, "")  # type: ignore[union-attr]
        Revision.objects.filter(setup=self.setup_id).update(author=self.other_user())
        self.assertEqual(self.save(base=True, cut_off=None).status_code, 200)
        self.assertEqual(Revision.objects.filter(setup=self.setup_id).first().label, "joined with bea's changes")  # type: ignore[union-attr]

    def other_user(self) -> Any:
        from django.contrib.auth import get_user_model

        return get_user_model().objects.create_user("bea")

    def test_a_field_both_changed_is_asked_and_the_answer_holds_for_that_version_only(self) -> None:
        self.save(main_fuse__rating_a=25, guard__volts_v=named(32))
        clash = self.save(main_fuse__rating_a=20, cut_off=None)
        self.assertEqual((clash.status_code, clash.json()["version"]), (409, 2))
        self.assertEqual(clash.json()["asked"], [{"path": "/main_fuse/rating_a", "mine": 20.0, "theirs": 25.0}])
        self.assertEqual(self.stored()["main_fuse"]["rating_a"], 25, "Nothing is saved before somebody has chosen.")
        late = self.save(main_fuse__rating_a=20, cut_off=None, answers={"/main_fuse/rating_a": "mine"}, answers_to=1)
        self.assertEqual(late.status_code, 409)
        settled = self.save(main_fuse__rating_a=20, cut_off=None, answers={"/main_fuse/rating_a": "mine"}, answers_to=2)
        self.assertEqual(settled.status_code, 200)
        self.assertEqual((self.stored()["main_fuse"]["rating_a"], self.stored()["guard"]["volts_v"]["value"], self.stored()["cut_off"]), (20, 32, None))

    def test_sent_again_after_a_lost_answer_it_is_one_change(self) -> None:
        """Inserted once, sent twice: one plug more, and no revision more."""
        plugs = [{"kind": "two-pole 60", "poles": 4}, {"kind": "bullet 4"}]
        self.assertEqual([self.save(plugs=plugs).status_code for _ in range(3)], [200, 200, 200])
        self.assertEqual(len(self.stored()["plugs"]), 2)
        self.assertEqual(Revision.objects.filter(setup=self.setup_id).count(), 2, "Made, and changed once.")

    def test_what_does_not_fit_together_is_one_question(self) -> None:
        """Eight plugs more on each side are more than a setup holds: neither is dropped silently."""
        first = [{"kind": "two-pole 60", "poles": 4}, *({"kind": "bullet 4", "rating_a": named(20 + i)} for i in range(8))]
        second = [{"kind": "two-pole 60", "poles": 4}, *({"kind": "bullet 4", "rating_a": named(40 + i)} for i in range(8))]
        self.assertEqual(self.save(plugs=first).status_code, 200)
        clash = self.save(plugs=second)
        self.assertEqual((clash.status_code, [one["path"] for one in clash.json()["asked"]]), (409, [""]))
        self.assertIn("at most 12", clash.json()["message"])
        self.assertEqual(self.save(plugs=second, answers={"": "mine"}, answers_to=2).status_code, 200)
        self.assertEqual(len(self.stored()["plugs"]), 9)

    def test_without_what_it_was_made_from_the_whole_is_asked(self) -> None:
        self.save(main_fuse__rating_a=25)
        clash = self.save(base=False, cut_off=None)
        self.assertEqual([one["path"] for one in clash.json()["asked"]], [""])
        theirs = self.save(base=False, cut_off=None, answers={"": "theirs"}, answers_to=2)
        self.assertEqual((theirs.status_code, theirs.json()["document"]["main_fuse"]["rating_a"], theirs.json()["version"]), (200, 25, 2))

    def test_an_answer_that_is_neither_is_refused(self) -> None:
        self.assertEqual(self.save(answers={"/main_fuse": "both"}).status_code, 422)
