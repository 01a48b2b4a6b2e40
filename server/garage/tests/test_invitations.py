"""A link lets one account in, as what it says, for its days, and nobody else."""

from __future__ import annotations

import json
from datetime import timedelta
from typing import Any

from django.contrib.auth import get_user_model
from django.db import connection
from django.test import Client
from django.utils import timezone

from server.garage.models import Invitation
from server.keeping.backups import forget_sign_ins
from server.testing import HouseholdCase

PASSWORD = "willow-lane-3"


class Invitations(HouseholdCase):
    def setUp(self) -> None:
        super().setUp()
        self.path = f"/api/garages/{self.home.garage.pk}/invitations"

    def invited(self, role: str = "viewer", days: int = 7) -> Any:
        return self.home.ok("POST", self.path, {"role": role, "days": days})

    def post(self, client: Client, what: str, **body: Any) -> Any:
        return client.post(f"/api/session/{what}", json.dumps(body), content_type="application/json")

    def join(self, token: str, name: str = "cleo", password: str = PASSWORD) -> Any:
        client = Client()
        return client, self.post(client, "join", token=token, username=name, password=password)

    def test_it_is_what_it_says_and_good_once(self) -> None:
        made = self.invited()
        told = self.post(Client(), "invitation", token=made["token"]).json()
        self.assertEqual((told["garage"], told["role"], told["by"]), ("ada's shed", "viewer", "ada"))
        client, answer = self.join(made["token"])
        self.assertEqual(answer.status_code, 204)
        self.assertTrue(client.get("/api/session").json()["signed_in"])
        self.assertEqual([g["name"] for g in client.get("/api/garages").json()], ["ada's shed"])
        renamed = client.patch(f"/api/garages/{self.home.garage.pk}", json.dumps({"name": "Mine"}), content_type="application/json")
        self.assertEqual(renamed.json()["code"], "viewer")
        self.assertEqual(self.join(made["token"], "dora")[1].json()["code"], "invitation_over")
        self.assertEqual(self.home.ok("GET", self.path), [])

    def test_what_went_wrong_does_not_use_it_up(self) -> None:
        token = self.invited()["token"]
        for name, password, field in (("ada", PASSWORD, "/username"), ("", PASSWORD, "/username"), ("cleo", "short", "/password")):
            answer = self.join(token, name, password)[1]
            self.assertEqual((answer.status_code, answer.json()["field"]), (422, field))
        self.assertEqual(self.join(token)[1].status_code, 204)

    def test_over_taken_back_and_made_up_look_the_same(self) -> None:
        over, back = self.invited(), self.invited()
        Invitation.objects.filter(pk=over["id"]).update(expires=timezone.now() - timedelta(seconds=1))
        self.home.ok("DELETE", f"{self.path}/{back['id']}")
        answers = [self.join(token)[1] for token in (over["token"], back["token"], "made-up", "")]
        self.assertEqual({(answer.status_code, answer.content) for answer in answers}, {(404, answers[0].content)})
        self.assertFalse(get_user_model().objects.filter(username="cleo").exists())

    def test_an_account_comes_into_one_more_garage(self) -> None:
        token = self.invited("builder")["token"]
        already = self.home.send("POST", "/api/session/accept", {"token": token})
        self.assertEqual((already.status_code, already.json()["code"]), (409, "member_already"))
        self.assertEqual(self.other.ok("POST", "/api/session/accept", {"token": token})["name"], "ada's shed")
        self.assertEqual([g["name"] for g in self.other.ok("GET", "/api/garages")], ["ada's shed", "bo's shed"])
        self.assertEqual(self.other.send("POST", "/api/session/accept", {"token": token}).status_code, 404)
        self.assertEqual(self.post(Client(), "accept", token=self.invited()["token"]).status_code, 401)

    def test_the_token_is_kept_nowhere(self) -> None:
        made = self.invited()
        self.assertNotIn(made["token"], json.dumps(self.home.ok("GET", self.path)))
        self.assertEqual(Invitation.objects.filter(token_hash__contains=made["token"][:20]).count(), 0)

    def test_only_an_owner_invites_sees_and_takes_back(self) -> None:
        client, _ = self.join(self.invited("builder")["token"])
        left = self.invited()
        for method, path in (("get", self.path), ("post", self.path), ("delete", f"{self.path}/{left['id']}")):
            answer = getattr(client, method)(path, "{}" if method == "post" else None, content_type="application/json")
            self.assertEqual((answer.status_code, answer.json()["code"]), (403, "owner_only"), method)
        self.assertEqual(self.other.send("GET", self.path).status_code, 404)
        self.assertEqual(self.home.send("POST", self.path, {"days": 31}).status_code, 422)

    def test_a_restored_database_lets_nobody_in_by_an_old_link(self) -> None:
        token = self.invited()["token"]
        with connection.cursor() as cursor:
            forget_sign_ins(cursor.execute)
        self.assertEqual(self.join(token)[1].status_code, 404)
