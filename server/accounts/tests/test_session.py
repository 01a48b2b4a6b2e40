"""The first visit, signing in, the code for the local network, the demo."""

from __future__ import annotations

import json
import threading
from typing import Any

from django.contrib.auth import get_user_model
from django.core.cache import cache
from django.db import connection
from django.test import Client, TestCase, TransactionTestCase, override_settings

from server.accounts.models import Instance
from server.accounts.services import MOST_WRONG_CODES
from server.demo.load import load_demo
from server.garage.models import Garage


def post(client: Client, path: str, **body: Any) -> Any:
    return client.post(f"/api/session/{path}", json.dumps(body), content_type="application/json")


class FirstVisit(TestCase):
    def test_makes_account_and_garage_and_only_once(self) -> None:
        self.assertTrue(self.client.get("/api/session").json()["first_visit"])
        answer = post(self.client, "sign-up", username="ada", password="orchard-gate-7", garage="Plum Yard")
        self.assertTrue(answer.json()["signed_in"])
        self.assertEqual(self.client.get("/api/garages").json()[0]["name"], "Plum Yard")
        again = post(Client(), "sign-up", username="eve", password="orchard-gate-7")
        self.assertEqual((again.status_code, again.json()["code"]), (403, "account_exists"))

    def test_a_weak_password_is_refused_with_what_to_do(self) -> None:
        answer = post(self.client, "sign-up", username="ada", password="short")
        self.assertEqual((answer.status_code, answer.json()["field"]), (422, "/password"))
        self.assertEqual(get_user_model().objects.count(), 0)
        self.assertEqual(Garage.objects.count(), 0)

    def test_signing_in_and_out(self) -> None:
        get_user_model().objects.create_user(username="ada", password="orchard-gate-7")
        self.assertEqual(post(self.client, "sign-in", username="ada", password="wrong").status_code, 403)
        self.assertTrue(post(self.client, "sign-in", username="ada", password="orchard-gate-7").json()["signed_in"])
        self.assertFalse(self.client.post("/api/session/sign-out").json()["signed_in"])

    @override_settings(LAN_CODE="246810")
    def test_the_local_network_needs_the_code(self) -> None:
        get_user_model().objects.create_user(username="ada", password="orchard-gate-7")
        without = post(self.client, "sign-in", username="ada", password="orchard-gate-7")
        self.assertEqual((without.status_code, without.json()["code"]), (403, "lan_code"))
        self.assertTrue(post(self.client, "sign-in", username="ada", password="orchard-gate-7", code="246810").json()["signed_in"])

    @override_settings(LAN_CODE="246810")
    def test_who_guesses_the_code_has_to_wait(self) -> None:
        get_user_model().objects.create_user(username="ada", password="orchard-gate-7")
        cache.clear()
        for guess in range(MOST_WRONG_CODES):
            self.assertEqual(post(self.client, "sign-in", username="ada", password="orchard-gate-7", code=str(guess)).status_code, 403)
        late = post(self.client, "sign-in", username="ada", password="orchard-gate-7", code="246810")
        self.assertEqual((late.status_code, late.json()["code"]), (429, "lan_code_wait"))
        elsewhere = Client(REMOTE_ADDR="192.0.2.7")
        self.assertEqual(post(elsewhere, "sign-in", username="ada", password="orchard-gate-7", code="246810").status_code, 200)
        cache.clear()
        self.assertEqual(post(self.client, "sign-in", username="ada", password="orchard-gate-7", code="246810").status_code, 200)

    @override_settings(LAN_CODE="246810")
    def test_a_code_of_other_letters_is_only_wrong(self) -> None:
        cache.clear()
        self.assertEqual(post(self.client, "sign-up", username="ada", password="orchard-gate-7", code="zwölf").status_code, 403)

    def test_a_foreign_page_signs_nobody_in(self) -> None:
        """With its form's kinds of content, without the token, or from another origin, none gets through; the page's own request does."""
        get_user_model().objects.create_user(username="mallory", password="orchard-gate-7")
        strict = Client(enforce_csrf_checks=True)
        body = json.dumps({"username": "mallory", "password": "orchard-gate-7"})
        for path in ("sign-in", "sign-up"):
            for kind in ("text/plain", "application/x-www-form-urlencoded", "application/json"):
                answer = strict.post(f"/api/session/{path}", body, content_type=kind)
                self.assertIn((answer.status_code, answer.json()["code"]), [(403, "foreign"), (415, "request_invalid")], (path, kind))
        token = strict.get("/api/session").cookies["csrftoken"].value
        foreign = strict.post("/api/session/sign-in", body, content_type="application/json", headers={"X-CSRFToken": token, "Origin": "https://example.org"})
        self.assertEqual(foreign.json()["code"], "foreign")
        plain = strict.post("/api/session/sign-in", body, content_type="text/plain", headers={"X-CSRFToken": token})
        self.assertEqual(plain.status_code, 415)
        self.assertFalse(strict.get("/api/session").json()["signed_in"])
        own = strict.post("/api/session/sign-in", body, content_type="application/json", headers={"X-CSRFToken": token, "Origin": "http://testserver"})
        self.assertTrue(own.json()["signed_in"])

    @override_settings(LOOPBACK=False, LAN_CODE="")
    def test_beyond_this_machine_nobody_makes_the_first_account_without_a_code(self) -> None:
        answer = post(self.client, "sign-up", username="eve", password="orchard-gate-7")
        self.assertEqual((answer.status_code, answer.json()["field"]), (403, "/code"))
        self.assertEqual(get_user_model().objects.count(), 0)

    def test_what_a_browser_keeps_belongs_to_this_database_and_this_account(self) -> None:
        self.assertEqual(self.client.get("/api/session").json()["keeper"], "")
        keepers = set()
        for name in ("ada", "bo"):
            get_user_model().objects.create_user(username=name, password="orchard-gate-7")
            client = Client()
            keepers |= {post(client, "sign-in", username=name, password="orchard-gate-7").json()["keeper"], client.get("/api/session").json()["keeper"]}
        self.assertEqual(len(keepers), 2)
        Instance.objects.all().delete()
        self.assertNotIn(client.get("/api/session").json()["keeper"], keepers)

    def test_nothing_without_signing_in(self) -> None:
        for path in ("garages", "garages/1", "builds/1", "builds/1/trials", "builds/1/export", "parts"):
            answer = self.client.get(f"/api/{path}")
            self.assertEqual((answer.status_code, answer.json()["code"]), (401, "signed_out"), path)

    def test_unknown_addresses_answer_in_the_one_form(self) -> None:
        answer = self.client.get("/api/nothing/here")
        self.assertEqual((answer.status_code, answer.json()["code"]), (404, "not_found"))

    def test_writes_need_the_token(self) -> None:
        strict = Client(enforce_csrf_checks=True)
        strict.force_login(get_user_model().objects.create_user(username="ada"))
        self.assertEqual(strict.post("/api/session/sign-out").status_code, 403)


class Demo(TestCase):
    @override_settings(DEMO=True)
    def test_signs_the_demo_user_in_by_itself(self) -> None:
        load_demo()
        self.assertEqual(self.client.get("/api/session").json()["username"], "demo")

    def test_not_outside_of_the_demo(self) -> None:
        load_demo()
        self.assertFalse(self.client.get("/api/session").json()["signed_in"])


class AtOnce(TransactionTestCase):
    def test_of_six_first_accounts_at_once_one_is_made(self) -> None:
        answers: list[int] = []

        def sign(number: int) -> None:
            try:
                answers.append(post(Client(), "sign-up", username=f"ada{number}", password="orchard-gate-7").status_code)
            finally:
                connection.close()

        threads = [threading.Thread(target=sign, args=(number,)) for number in range(6)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        self.assertEqual(sorted(answers), [200, 403, 403, 403, 403, 403])
        self.assertEqual((get_user_model().objects.count(), Garage.objects.count()), (1, 1))
