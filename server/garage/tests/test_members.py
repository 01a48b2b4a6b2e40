"""Who belongs to a garage, and who may say so."""

from __future__ import annotations

import re
from typing import Any

from django.contrib.auth import get_user_model
from django.test import Client

from gecko.tests.machines import named, safe_bike
from server.api import api
from server.builds.models import Revision
from server.garage.members import MOST_MEMBERS
from server.garage.models import Garage
from server.testing import HouseholdCase


class Members(HouseholdCase):
    def setUp(self) -> None:
        super().setUp()
        self.path = f"/api/garages/{self.home.garage.pk}/members"

    def let_in(self, name: str = "cleo", password: str = "willow-lane-3") -> Any:
        return self.home.send("POST", self.path, {"username": name, "password": password})

    def signed_in(self, name: str = "cleo", password: str = "willow-lane-3") -> Client:
        client = Client()
        answer = client.post("/api/session/sign-in", {"username": name, "password": password}, content_type="application/json")
        self.assertEqual(answer.status_code, 200, answer.content)
        return client

    def test_the_owner_is_the_first_member(self) -> None:
        found = self.home.ok("GET", self.path)
        self.assertEqual([(m["username"], m["role"], m["you"]) for m in found], [("ada", "owner", True)])

    def test_who_is_let_in_signs_in_and_works_on_the_same_builds(self) -> None:
        build = self.home.build()
        self.assertEqual(self.let_in().json()["role"], "builder")
        client = self.signed_in()
        self.assertEqual([g["id"] for g in client.get("/api/garages").json()], [self.home.garage.pk])
        row = build["setups"][1]
        body = {"document": safe_bike(wheel__diameter_m=named(0.4)), "based_on": row["version"], "label": "bigger wheel"}
        self.assertEqual(client.put(f"/api/setups/{row['id']}", body, content_type="application/json").status_code, 200)
        self.assertEqual(self.home.ok("GET", f"/api/setups/{row['id']}/revisions")[0]["author"], "cleo")

    def test_a_viewer_sees_everything_and_changes_nothing_at_any_address(self) -> None:
        """Every address of the server's own list that changes something and names a garage, a build or a setup refuses a viewer."""
        build = self.home.build()
        member = self.let_in().json()["id"]
        self.home.ok("PATCH", f"{self.path}/{member}", {"role": "viewer"})
        client = self.signed_in()
        ids = {"garage_id": self.home.garage.pk, "build_id": build["id"], "setup_id": build["setups"][1]["id"], "member_id": member}
        before = self.home.ok("GET", f"/api/builds/{build['id']}")
        refused = 0
        for path, methods in api.get_openapi_schema()["paths"].items():
            named = [name for name in ("garage_id", "build_id", "setup_id") if f"{{{name}}}" in path]
            address = re.sub(r"\{(\w+)\}", lambda match: str(ids.get(match[1], 1)), path)
            for method in methods if named else ():
                answer = client.generic(method.upper(), address, data="{}", content_type="application/json")
                if method == "get":
                    # What only an owner reads is closed to builders as well.
                    self.assertEqual(answer.status_code == 403, address.endswith(("/security", "/invitations")), address)
                    continue
                refused += 1
                self.assertEqual((answer.status_code, answer.json()["code"]), (403, "viewer"), (method, address))
        self.assertGreater(refused, 20)
        self.assertEqual(self.home.ok("GET", f"/api/builds/{build['id']}"), before)
        looked = client.post("/api/evaluate", {"setup": safe_bike(), "build_id": build["id"]}, content_type="application/json")
        self.assertEqual(looked.status_code, 200, "Looking computes, and computing changes nothing.")
        self.home.ok("PATCH", f"{self.path}/{member}", {"role": "builder"})
        self.assertEqual(client.patch(f"/api/builds/{build['id']}", {"name": "Clover 2"}, content_type="application/json").status_code, 200)

    def farewell(self, client: Client, password: str) -> Any:
        return client.post("/api/session/delete-account", {"password": password}, content_type="application/json")

    def test_who_deletes_the_account_is_gone_and_what_was_saved_in_the_garage_stays(self) -> None:
        build = self.home.build()
        self.let_in()
        client = self.signed_in()
        client.patch(f"/api/builds/{build['id']}", {"name": "Clover 2"}, content_type="application/json")
        self.assertEqual(self.farewell(client, "guess").json()["field"], "/password")
        self.assertEqual(self.farewell(client, "willow-lane-3").status_code, 204)
        self.assertFalse(client.get("/api/session").json()["signed_in"])
        self.assertFalse(get_user_model().objects.filter(username="cleo").exists())
        self.assertEqual(self.home.ok("GET", f"/api/builds/{build['id']}")["name"], "Clover 2")

    def test_the_last_owner_first_makes_another_and_who_is_alone_takes_the_garage_along(self) -> None:
        self.home.build()
        member = self.let_in().json()["id"]
        owner = Client()
        owner.force_login(self.home.user)
        self.home.user.set_password("orchard-gate-8")
        self.home.user.save()
        owner.force_login(self.home.user)
        self.assertEqual(self.farewell(owner, "orchard-gate-8").json()["code"], "is_owner")
        self.assertEqual(owner.delete(f"{self.path}/{member}").status_code, 204)
        self.assertEqual(self.farewell(owner, "orchard-gate-8").status_code, 204)
        self.assertEqual((Garage.objects.filter(pk=self.home.garage.pk).count(), Revision.objects.count()), (0, 0))

    def test_there_is_always_an_owner(self) -> None:
        first, second = self.home.ok("GET", self.path)[0]["id"], self.let_in().json()["id"]
        self.assertEqual(self.home.send("PATCH", f"{self.path}/{first}", {"role": "viewer"}).status_code, 409)
        self.home.ok("PATCH", f"{self.path}/{second}", {"role": "owner"})
        self.home.ok("PATCH", f"{self.path}/{first}", {"role": "viewer"})
        self.assertEqual(self.home.send("PATCH", f"{self.path}/{second}", {"role": "builder"}).status_code, 403)

    def test_the_owner_reads_what_happened_around_the_accounts_of_the_garage(self) -> None:
        self.let_in()
        client = self.signed_in()
        Client().post("/api/session/sign-in", {"username": "cleo", "password": "guess"}, content_type="application/json")
        Client().post("/api/session/sign-in", {"username": "bo", "password": "guess"}, content_type="application/json")
        log = self.home.ok("GET", f"/api/garages/{self.home.garage.pk}/security")
        self.assertEqual([(one["name"], one["what"]) for one in log], [("cleo", "failed"), ("cleo", "signed in"), ("cleo", "let in")])
        self.assertEqual(client.get(f"/api/garages/{self.home.garage.pk}/security").status_code, 403)
        self.assertEqual(self.other.send("GET", f"/api/garages/{self.home.garage.pk}/security").status_code, 404)

    def test_only_the_owner_lets_in_and_takes_out(self) -> None:
        member = self.let_in().json()["id"]
        client = self.signed_in()
        more = client.post(self.path, {"username": "dora", "password": "willow-lane-3"}, content_type="application/json")
        self.assertEqual((more.status_code, more.json()["code"]), (403, "owner_only"))
        self.assertEqual(client.delete(f"{self.path}/{member}").status_code, 403)
        self.assertEqual(len(client.get(self.path).json()), 2)

    def test_another_household_sees_and_changes_nothing(self) -> None:
        member = self.let_in().json()["id"]
        for method, path in (("GET", self.path), ("POST", self.path), ("DELETE", f"{self.path}/{member}")):
            answer = self.other.send(method, path, {"username": "eve", "password": "willow-lane-3"} if method == "POST" else None)
            self.assertEqual(answer.status_code, 404, method)
        stranger = self.other.ok("GET", f"/api/garages/{self.other.garage.pk}/members")[0]["id"]
        self.assertEqual(self.home.send("DELETE", f"{self.path}/{stranger}").status_code, 404)

    def test_who_is_taken_out_is_out_at_once_and_what_was_saved_stays(self) -> None:
        build = self.home.build()
        row = build["setups"][1]
        member = self.let_in().json()["id"]
        client = self.signed_in()
        body = {"document": safe_bike(wheel__diameter_m=named(0.4)), "based_on": row["version"], "label": "bigger wheel"}
        client.put(f"/api/setups/{row['id']}", body, content_type="application/json")
        self.assertEqual(self.home.send("DELETE", f"{self.path}/{member}").status_code, 204)
        self.assertEqual(client.get(f"/api/builds/{build['id']}").status_code, 401)
        self.assertFalse(get_user_model().objects.filter(username="cleo").exists())
        self.assertEqual(Revision.objects.filter(setup_id=row["id"], label="bigger wheel").count(), 1)
        self.assertEqual(self.home.ok("GET", f"/api/setups/{row['id']}/revisions")[0]["author"], "cleo", "The name stays when the account goes.")

    def test_the_owner_stays(self) -> None:
        mine = self.home.ok("GET", self.path)[0]["id"]
        answer = self.home.send("DELETE", f"{self.path}/{mine}")
        self.assertEqual((answer.status_code, answer.json()["code"]), (409, "is_owner"))

    def test_bad_names_and_passwords_are_told_at_their_field(self) -> None:
        for name, password, field, words in (
            ("bo", "willow-lane-3", "/username", "Choose another"),
            ("BO", "willow-lane-3", "/username", "Choose another"),
            ("  ", "willow-lane-3", "/username", "Choose a name"),
            ("cleo", "short", "/password", "too short"),
            ("cleo", "12345678", "/password", ""),
        ):
            answer = self.let_in(name, password)
            self.assertEqual((answer.status_code, answer.json()["field"]), (422, field), name)
            self.assertIn(words, answer.json()["message"])
        self.assertEqual(len(self.home.ok("GET", self.path)), 1)

    def test_a_garage_does_not_grow_for_ever(self) -> None:
        for i in range(MOST_MEMBERS - 1):
            self.assertEqual(self.let_in(f"friend{i}").status_code, 200)
        self.assertEqual(self.let_in("one too many").json()["code"], "too_many")
