"""Several garages of one account: made, left, and builds moved from one to another."""

from __future__ import annotations

from typing import Any

from server.builds.models import Build
from server.garage.models import Garage, Membership, Role
from server.garage.services import MOST_GARAGES
from server.logbook.models import JournalEntry
from server.testing import HouseholdCase


class SeveralGarages(HouseholdCase):
    def setUp(self) -> None:
        super().setUp()
        self.club = self.home.ok("POST", "/api/garages", {"name": " The club "})

    def leave(self, who: Any, garage: int, confirm: str = "") -> Any:
        return who.send("POST", "/api/session/leave-garage", {"garage": garage, "confirm": confirm})

    def let_in(self, role: Role) -> None:
        Membership.objects.create(garage_id=self.club["id"], user=self.other.user, role=role)

    def test_one_more_is_made_and_owned(self) -> None:
        self.assertEqual([g["name"] for g in self.home.ok("GET", "/api/garages")], ["ada's shed", "The club"])
        self.assertEqual(self.home.ok("GET", f"/api/garages/{self.club['id']}/members")[0]["role"], "owner")
        self.assertEqual(self.home.send("POST", "/api/garages", {"name": "  "}).json()["field"], "/name")
        Membership.objects.bulk_create(Membership(garage=Garage.objects.create(name="x"), user=self.home.user) for _ in range(MOST_GARAGES - 2))
        self.assertEqual(self.home.send("POST", "/api/garages", {"name": "One more"}).json()["code"], "too_many")

    def test_a_build_moves_with_all_that_belongs_to_it(self) -> None:
        build = self.home.build()
        self.home.ok("POST", f"/api/builds/{build['id']}/trials", {"setup_id": build["setups"][0]["id"], "passes": [{"distance_m": 30, "time_s": 8}]})
        moved = self.home.ok("POST", f"/api/builds/{build['id']}/move", {"garage": self.club["id"]})
        self.assertEqual((moved["garage_id"], moved["setups"][0]["id"]), (self.club["id"], build["setups"][0]["id"]))
        self.assertEqual(len(self.home.ok("GET", f"/api/builds/{build['id']}/trials")), 1)
        self.assertEqual(self.home.ok("GET", f"/api/garages/{self.home.garage.pk}")["total"], 0)
        self.assertIn("Moved from ada's shed to The club", JournalEntry.objects.latest("pk").text)
        # Sent again where it was made, it is another one, and nothing stands in the way of it.
        self.home.ok("POST", f"/api/builds/{build['id']}/move", {"garage": self.club["id"]})
        self.assertEqual(JournalEntry.objects.filter(text__startswith="Moved").count(), 1)

    def test_nobody_moves_into_or_out_of_what_he_may_not_change(self) -> None:
        mine, theirs = self.other.build(), self.home.build()
        self.assertEqual(self.other.send("POST", f"/api/builds/{mine['id']}/move", {"garage": self.club["id"]}).status_code, 404)
        self.let_in("viewer")
        self.home.ok("POST", f"/api/builds/{theirs['id']}/move", {"garage": self.club["id"]})
        for build, garage in ((mine["id"], self.club["id"]), (theirs["id"], self.other.garage.pk)):
            answer = self.other.send("POST", f"/api/builds/{build}/move", {"garage": garage})
            self.assertEqual((answer.status_code, answer.json()["code"]), (403, "viewer"))
        self.assertEqual(Build.objects.get(pk=mine["id"]).garage, self.other.garage)

    def test_a_viewer_leaves_and_the_only_owner_does_not(self) -> None:
        self.let_in("viewer")
        self.assertEqual(self.leave(self.home, self.club["id"], "The club").json()["code"], "is_owner")
        self.assertEqual(self.leave(self.other, self.club["id"]).status_code, 204)
        self.assertEqual(self.leave(self.other, self.club["id"]).status_code, 404)

    def test_whoever_keeps_the_server_keeps_it_when_taken_out_of_the_last_garage(self) -> None:
        """As a guest of another's garage, its own left: the other may take it out, and does not come by the server that way."""
        guest = Membership.objects.create(garage=self.other.garage, user=self.home.user, role="builder")
        for garage in self.home.ok("GET", "/api/garages"):
            if garage["id"] != self.other.garage.pk:
                self.assertEqual(self.leave(self.home, garage["id"], garage["name"]).status_code, 204)
        self.other.ok("DELETE", f"/api/garages/{self.other.garage.pk}/members/{guest.pk}")
        self.assertEqual(self.home.ok("GET", "/api/garages"), [])
        self.assertTrue(self.home.ok("GET", "/api/session")["keeps_server"])
        self.assertFalse(self.other.ok("GET", "/api/session")["keeps_server"])

    def test_the_last_one_takes_it_along_and_says_so(self) -> None:
        build = self.home.build()
        self.home.ok("POST", f"/api/builds/{build['id']}/trials", {"setup_id": build["setups"][0]["id"], "passes": [{"distance_m": 30, "time_s": 8}]})
        self.home.ok("POST", f"/api/builds/{build['id']}/move", {"garage": self.club["id"]})
        for wrong in ("", "the club"):
            self.assertEqual(self.leave(self.home, self.club["id"], wrong).json()["code"], "last_one")
        self.assertEqual(self.leave(self.home, self.club["id"], "The club").status_code, 204)
        self.assertFalse(Garage.objects.filter(pk=self.club["id"]).exists() or Build.with_bin.exists())
        self.assertEqual(self.leave(self.home, self.home.garage.pk, "ada's shed").status_code, 204)
        self.assertEqual(self.home.ok("GET", "/api/garages"), [])
        self.home.ok("POST", "/api/garages", {"name": "Anew"})
