"""Whatever is sent, the answer is one of the server's own: never a failure. `make soak` sends many more."""

from __future__ import annotations

from itertools import islice
from typing import Any

from gecko.tests.machines import safe_bike, safe_ride_on
from server.api import api
from server.bin.services import KINDS
from server.demo.load import load_demo
from server.testing import Household, HouseholdCase
from server.tests.handmade import Attempt, attempts, working
from server.tests.requests import Made, Requests

PASSES = [{"distance_m": 30.0, "time_s": 8.0, "direction": way} for way in ("out", "back")]
LEFT_OUT = ("/api/session/sign-out", "/api/session/password", "/api/session/delete-account", "/api/backups")
"""What ends the sign-in, or copies the whole database each time; both have tests of their own."""


def household(home: Household) -> dict[str, list[Any]]:
    """A garage with one of everything, and the ids of it."""
    load_demo()
    build = home.build()
    setups = [row["id"] for row in build["setups"]]
    at, of = f"/api/garages/{home.garage.pk}", f"/api/builds/{build['id']}"
    part = home.ok("POST", f"{at}/rack", {"kind": "fuses", "label": "30 A", "document": {"rating_a": 30}, "quantity": 2})[0]["id"]
    line = home.ok("POST", f"{at}/rack/{part}/log", {"kind": "note", "text": "From the drawer."})["id"]
    rider = home.ok("POST", f"{at}/riders", {"document": {"name": "Bo", "age_years": 7}})["id"]
    trial = home.ok("POST", f"{of}/trials", {"setup_id": setups[0], "passes": PASSES, "confirmed": True})["id"]
    entry = home.ok("POST", f"{of}/journal", {"kind": "note", "text": "New tyres."})["id"]
    incident = home.ok("POST", f"{of}/incidents", {"kind": "crash", "note": "", "done": []})
    return {
        "garage_id": [home.garage.pk],
        "build_id": [build["id"]],
        "setup_id": setups,
        "part_id": [part],
        "rider_id": [rider],
        "trial_id": [trial],
        "entry_id": [entry, line],
        "incident_id": [incident["id"]],
        "key": [check["key"] for check in incident["checks"]],
        "member_id": [one["id"] for one in home.ok("GET", f"{at}/members")],
        "step": ["safe", "first_power", "main_fuse"],
        "finding": ["ride.cap@speed", "look.held", "x"],
        "kind": [*KINDS, "packs"],
        "photo_id": [999],
        "row_id": [part, rider, trial, entry],
        "upload_id": [home.upload(b"{}")],
        "import_id": [home.read_in(b"{}")["id"]],
        "offset": [0, 2],
    }


def sent(home: Household, one: Made) -> int:
    """Send it; the status of the answer."""
    answer = home.client.generic(one.method, one.path, data=one.body or "", content_type="application/json")
    return int(answer.status_code)


def requests(home: Household, seed: int) -> Requests:
    """Requests for a household's server."""
    made = Requests(api.get_openapi_schema(), household(home), [safe_bike(), safe_ride_on()], seed)
    made.doors = [door for door in made.doors if not door[1].startswith(LEFT_OUT)]
    return made


def tried(home: Household, one: Attempt) -> int:
    """Send an attempt; the status of the answer."""
    answer = home.client.generic(one.method, one.path, data=one.body, content_type=one.kind, headers=dict(one.headers))
    return int(answer.status_code)


class MadeByHand(HouseholdCase):
    def test_what_works_works_and_none_of_three_hundred_attempts_is_a_failure(self) -> None:
        ids = household(self.home)
        for one in working(ids, safe_bike()):
            with self.subTest(f"{one.method} {one.path}"):
                status = tried(self.home, one)
                # What is asked of the state of the household, such as a sign-in that is wrong on purpose, is refused in so many words.
                self.assertIn(status, (200, 204, 403, 404, 409, 422))
        statuses = []
        for one in islice(attempts(ids, safe_bike(), 7), 300):
            with self.subTest(f"{one.rule}: {one.method} {one.path} {one.body[:300]!r}"):
                statuses.append(tried(self.home, one))
                self.assertLess(statuses[-1], 500)
        self.assertGreater(sum(status == 200 for status in statuses), 40, "Many must get through, or nothing was tried.")


class MadeFromTheSchema(HouseholdCase):
    def test_no_request_of_three_hundred_is_a_failure(self) -> None:
        statuses = []
        for one in islice(requests(self.home, 5).made(), 300):
            with self.subTest(f"{one.method} {one.path} {(one.body or '')[:300]}"):
                statuses.append(sent(self.home, one))
                self.assertLess(statuses[-1], 500)
        self.assertGreater(sum(status == 200 for status in statuses), 40, "Many must get through, or nothing was tried.")
