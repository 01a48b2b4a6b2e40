"""A link shows one build to whoever has it, for its days, without names; and nothing else."""

from __future__ import annotations

import io
import json
import logging
from datetime import timedelta
from typing import Any

from django.db import connection
from django.test import Client
from django.utils import timezone

from gecko.tests.machines import safe_bike
from server.keeping.backups import forget_sign_ins
from server.sharing.models import LookLink
from server.testing import HouseholdCase


class Looking(HouseholdCase):
    def setUp(self) -> None:
        super().setUp()
        self.build = self.home.build(rider={**safe_bike()["rider"], "name": "Pip"})
        self.path = f"/api/builds/{self.build['id']}/look-links"
        self.setup_id = self.build["setups"][1]["id"]
        self.home.prove(self.setup_id, self.build["id"])
        self.home.ok("POST", f"/api/builds/{self.build['id']}/trials", {"setup_id": self.setup_id, "passes": [{"distance_m": 30, "time_s": 8}]})
        self.made = self.home.ok("POST", self.path, {"days": 7, "note": "For uncle"})

    def look(self, token: str, **more: Any) -> Any:
        return Client().post("/api/look", json.dumps({"token": token, **more}), content_type="application/json")

    def test_it_shows_the_build_as_its_own_people_see_it_without_names(self) -> None:
        answer = self.look(self.made["token"], setup_id=self.setup_id)
        self.assertEqual(answer.status_code, 200, answer.content)
        found = answer.json()
        own = self.home.ok("POST", "/api/evaluate", {"setup": self.build["setups"][1]["document"], "build_id": self.build["id"]})
        self.assertEqual(found["evaluation"]["outcome"], own["outcome"])
        self.assertEqual([f["key"] for f in found["evaluation"]["findings"]], [f["key"] for f in own["findings"]])
        standing = self.home.ok("GET", f"/api/setups/{self.setup_id}/standing")
        self.assertEqual([one["key"] for one in found["standing"]["open"]], [one["key"] for one in standing["open"]])
        self.assertEqual(set(found["holding"]), {t["step"] for t in self.home.ok("GET", f"/api/builds/{self.build['id']}")["setups"][1]["ticks"]})
        self.assertEqual((len(found["trials"]), found["setup_id"], found["build"]["name"]), (1, self.setup_id, "Clover"))
        for name in ("Pip", '"ada"'):
            self.assertNotIn(name, answer.content.decode())

    def test_without_a_setup_it_shows_the_one_in_use_and_never_another_builds(self) -> None:
        self.assertEqual(self.look(self.made["token"]).json()["setup_id"], self.build["setups"][0]["id"])
        other = self.home.build()
        self.assertEqual(self.look(self.made["token"], setup_id=other["setups"][0]["id"]).status_code, 404)

    def test_over_taken_back_binned_restored_and_made_up_look_the_same(self) -> None:
        tokens = ["made-up", "", self.made["token"][:-1]]
        over = self.home.ok("POST", self.path, {})
        LookLink.objects.filter(pk=over["id"]).update(expires=timezone.now() - timedelta(seconds=1))
        back = self.home.ok("POST", self.path, {})
        self.home.ok("DELETE", f"{self.path}/{back['id']}")
        tokens += [over["token"], back["token"]]
        binned = self.home.build()
        in_bin = self.home.ok("POST", f"/api/builds/{binned['id']}/look-links", {})
        self.home.ok("DELETE", f"/api/builds/{binned['id']}")
        tokens.append(in_bin["token"])
        self.assertEqual({(a.status_code, a.content) for a in map(self.look, tokens)}, {(404, self.look("").content)})
        self.assertEqual(self.look(self.made["token"]).status_code, 200)
        with connection.cursor() as cursor:
            forget_sign_ins(cursor.execute)
        self.assertEqual(self.look(self.made["token"]).status_code, 404)

    def test_who_has_it_gets_nowhere_else(self) -> None:
        client = Client()
        client.post("/api/look", json.dumps({"token": self.made["token"]}), content_type="application/json")
        for path in (f"/api/builds/{self.build['id']}", "/api/garages", f"/api/setups/{self.setup_id}/standing"):
            self.assertEqual(client.get(path, headers={"Authorization": f"Bearer {self.made['token']}"}).status_code, 401)

    def test_what_it_holds_is_kept_and_logged_nowhere(self) -> None:
        self.assertNotIn(self.made["token"], json.dumps(self.home.ok("GET", self.path)))
        self.assertFalse(LookLink.objects.filter(token_hash__contains=self.made["token"][:20]).exists())
        log = io.StringIO()
        handler = logging.StreamHandler(log)
        root = logging.getLogger()
        root.addHandler(handler)
        access = logging.getLogger("server.access")
        level = access.level
        access.setLevel("INFO")
        try:
            self.look(self.made["token"])
            self.look(self.made["token"] + "x")
        finally:
            root.removeHandler(handler)
            access.setLevel(level)
        self.assertIn("/api/look", log.getvalue())
        self.assertNotIn(self.made["token"], log.getvalue())

    def test_members_alone_make_and_see_them_and_a_move_ends_them(self) -> None:
        for method in ("GET", "POST"):
            self.assertEqual(self.other.send(method, self.path, {}).status_code, 404)
        self.assertEqual(self.home.send("POST", self.path, {"days": 91}).status_code, 422)
        club = self.home.ok("POST", "/api/garages", {"name": "The club"})
        self.home.ok("POST", f"/api/builds/{self.build['id']}/move", {"garage": club["id"]})
        self.assertEqual((self.home.ok("GET", self.path), self.look(self.made["token"]).status_code), ([], 404))

    def test_so_many_at_once(self) -> None:
        for _ in range(9):
            self.home.ok("POST", self.path, {})
        self.assertEqual(self.home.send("POST", self.path, {}).json()["code"], "too_many")
