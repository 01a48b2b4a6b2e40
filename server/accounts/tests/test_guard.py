"""Passwords, browsers one is signed in with, guessing, and what of it is written down."""

from __future__ import annotations

import json
import subprocess
import sys
import threading
import time
from datetime import timedelta
from typing import Any

from axes.models import AccessAttempt
from django.conf import settings
from django.contrib.auth import get_user_model
from django.test import Client, TestCase
from django.utils import timezone

from server.accounts.guard import KEEPS, one_of_two
from server.accounts.models import Device, SecurityEvent

RIGHT = "orchard-gate-7"


def post(client: Client, path: str, **body: Any) -> Any:
    return client.post(f"/api/session/{path}", json.dumps(body), content_type="application/json")


class Guard(TestCase):
    def setUp(self) -> None:
        self.ada = get_user_model().objects.create_user(username="ada", password=RIGHT)

    def at(self, address: str) -> Client:
        return Client(REMOTE_ADDR=address)

    def try_in(self, client: Client, password: str, name: str = "ada") -> int:
        return int(post(client, "sign-in", username=name, password=password).status_code)

    def test_guessing_from_many_addresses_has_to_wait_and_the_owner_at_home_does_not(self) -> None:
        home = self.at("192.0.2.1")
        self.assertEqual(self.try_in(home, RIGHT), 200)
        for place in range(10):
            self.assertEqual(self.try_in(self.at(f"198.51.100.{place}"), "guess"), 403)
        late = post(self.at("198.51.100.77"), "sign-in", username="ada", password=RIGHT)
        self.assertEqual((late.status_code, late.json()["code"]), (429, "too_many_tries"))
        self.assertIn("Wait 15 minutes", late.json()["message"])
        self.assertEqual(self.try_in(self.at("192.0.2.1"), RIGHT), 200, "From where she always signs in she is not kept out.")

    def test_guessing_many_names_from_one_address_has_to_wait(self) -> None:
        guesser = self.at("198.51.100.1")
        for number in range(10):
            self.assertEqual(self.try_in(guesser, "guess", f"name{number}"), 403)
        self.assertEqual(self.try_in(guesser, RIGHT), 429)
        self.assertEqual(self.try_in(self.at("192.0.2.1"), RIGHT), 200)

    def test_even_the_own_address_has_to_wait_after_many_of_its_own_tries_and_not_for_long(self) -> None:
        home = self.at("192.0.2.1")
        self.assertEqual(self.try_in(home, RIGHT), 200)
        for _ in range(10):
            self.try_in(home, "forgotten")
        self.assertEqual(self.try_in(home, RIGHT), 429)
        self.assertEqual(self.try_in(home, RIGHT), 429, "Trying on does not make the wait longer.")
        AccessAttempt.objects.update(attempt_time=timezone.now() - timedelta(minutes=16))
        self.assertEqual(self.try_in(home, RIGHT), 200)

    def test_a_wrong_try_counts_once(self) -> None:
        self.try_in(self.at("192.0.2.1"), "guess")
        self.assertEqual(sum(AccessAttempt.objects.values_list("failures_since_start", flat=True)), 1)
        self.assertEqual(SecurityEvent.objects.filter(what="failed").count(), 1)

    def test_a_new_password_signs_every_other_browser_out(self) -> None:
        here, phone = self.at("192.0.2.1"), self.at("192.0.2.2")
        for client in (here, phone):
            self.try_in(client, RIGHT)
        wrong = post(here, "password", old="no", new="summer-wind-12")
        self.assertEqual((wrong.status_code, wrong.json()["field"]), (422, "/old"))
        weak = post(here, "password", old=RIGHT, new="short")
        self.assertEqual((weak.status_code, weak.json()["field"]), (422, "/new"))
        self.assertTrue(phone.get("/api/session").json()["signed_in"])
        self.assertEqual(post(here, "password", old=RIGHT, new="summer-wind-12").status_code, 204)
        self.assertEqual([client.get("/api/session").json()["signed_in"] for client in (here, phone)], [True, False])
        self.assertEqual([self.try_in(self.at("192.0.2.1"), password) for password in (RIGHT, "summer-wind-12")], [403, 200])

    def test_browsers_are_listed_and_can_be_signed_out(self) -> None:
        here, phone, old = (self.at(f"192.0.2.{n}") for n in (1, 2, 3))
        for client in (here, phone, old):
            self.try_in(client, RIGHT)
        listed = here.get("/api/session/devices").json()
        self.assertEqual([(one["address"], one["here"]) for one in listed], [("192.0.2.3", False), ("192.0.2.2", False), ("192.0.2.1", True)])
        self.assertEqual(here.delete(f"/api/session/devices/{listed[0]['id']}").status_code, 204)
        self.assertFalse(old.get("/api/session").json()["signed_in"])
        self.assertEqual(post(here, "sign-out-elsewhere").status_code, 204)
        self.assertEqual([client.get("/api/session").json()["signed_in"] for client in (here, phone)], [True, False])
        post(here, "sign-out")
        self.assertEqual(Device.objects.count(), 0)

    def test_a_browser_signed_in_before_any_were_remembered_is_listed_too(self) -> None:
        here = self.at("192.0.2.1")
        self.try_in(here, RIGHT)
        Device.objects.all().delete()
        here.get("/api/session")
        self.assertEqual([one["here"] for one in here.get("/api/session/devices").json()], [True])

    def test_nobody_signs_out_the_browser_of_somebody_else(self) -> None:
        get_user_model().objects.create_user(username="bo", password=RIGHT)
        mine, theirs = self.at("192.0.2.1"), self.at("192.0.2.2")
        self.try_in(mine, RIGHT)
        self.try_in(theirs, RIGHT, "bo")
        self.assertEqual(theirs.delete(f"/api/session/devices/{Device.objects.get(user=self.ada).pk}").status_code, 404)
        self.assertTrue(mine.get("/api/session").json()["signed_in"])

    def test_the_log_forgets_after_a_year(self) -> None:
        SecurityEvent.objects.create(what="signed in", name="ada", when=timezone.now() - KEEPS - timedelta(days=1))
        self.try_in(self.at("192.0.2.1"), RIGHT)
        self.assertEqual(SecurityEvent.objects.count(), 1)


class TwoAtOnce(TestCase):
    def test_never_more_than_two_also_across_processes(self) -> None:
        """Two processes of three threads each hold the lock for a while: the sum of overlapping holds is never over two."""
        script = (
            "import django, threading, time, sys; django.setup()\n"
            "from server.accounts.guard import one_of_two\n"
            "def hold():\n"
            "    with one_of_two():\n"
            "        t = time.monotonic(); time.sleep(0.15); print(t, time.monotonic(), flush=True)\n"
            "threads = [threading.Thread(target=hold) for _ in range(3)]\n"
            "[t.start() for t in threads]; [t.join() for t in threads]\n"
        )
        environment = {"DJANGO_SETTINGS_MODULE": "server.settings", "GECKO_VAR": str(settings.VAR), "PATH": "/usr/bin:/bin"}
        running = [subprocess.Popen([sys.executable, "-c", script], env=environment, cwd=settings.ROOT, stdout=subprocess.PIPE, text=True) for _ in range(2)]
        spans = [tuple(map(float, line.split())) for process in running for line in process.communicate(timeout=60)[0].splitlines()]
        self.assertEqual(len(spans), 6)
        for start, _ in spans:
            self.assertLessEqual(sum(one <= start < other for one, other in spans), 2)

    def test_who_dies_holding_it_lets_go(self) -> None:
        with one_of_two(), one_of_two():
            got = []

            def third() -> None:
                with one_of_two():
                    got.append(time.monotonic())

            thread = threading.Thread(target=third)
            thread.start()
            thread.join(0.2)
            self.assertEqual(got, [])
        thread.join(5)
        self.assertEqual(len(got), 1)
