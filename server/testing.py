"""What the server's tests share: two households, a signed-in client that speaks JSON."""

from __future__ import annotations

import json
from typing import TYPE_CHECKING, Any, TypeAlias

from django.contrib.auth import get_user_model
from django.core.cache import cache
from django.test import Client, TestCase

from gecko.tests.machines import safe_bike
from server.builds.models import Revision, Tick
from server.garage.models import Garage
from server.garage.services import open_garage

if TYPE_CHECKING:
    from django.test.client import _MonkeyPatchedWSGIResponse

Reply: TypeAlias = "_MonkeyPatchedWSGIResponse"
"""What the test client gives back: an answer that knows its own JSON."""


class Household:
    """A user with a garage and a client that is signed in."""

    def __init__(self, name: str) -> None:
        self.user = get_user_model().objects.create_user(username=name, password="orchard-gate-7")
        self.garage: Garage = open_garage(self.user, f"{name}'s shed")
        self.client = Client()
        self.client.force_login(self.user)

    def send(self, method: str, path: str, body: Any = None, headers: dict[str, str] | None = None) -> Reply:
        """A request with a JSON body."""
        return self.client.generic(method, path, data="" if body is None else json.dumps(body), content_type="application/json", headers=headers)

    def ok(self, method: str, path: str, body: Any = None) -> Any:
        """The JSON of an answer that must have worked."""
        answer = self.send(method, path, body)
        assert answer.status_code in (200, 204), (answer.status_code, Household.whole(answer))
        content = self.whole(answer)
        return json.loads(content) if content else None

    @staticmethod
    def whole(answer: Reply) -> bytes:
        """All of an answer, also of one that is sent piece by piece."""
        return b"".join(answer) if answer.streaming else answer.content

    def upload(self, content: bytes, name: str = "file.json") -> int:
        """A file sent part by part."""
        made = self.ok("POST", "/api/uploads", {"name": name, "size": len(content)})
        for offset in range(0, len(content), made["most_part"]):
            part = content[offset : offset + made["most_part"]]
            answer = self.client.generic("PUT", f"/api/uploads/{made['id']}/parts/{offset}", data=part, content_type="application/octet-stream")
            assert answer.status_code == 200, (answer.status_code, answer.content)
        return int(made["id"])

    def read_in(self, content: bytes | dict[str, Any], name: str = "file.json") -> dict[str, Any]:
        """The import of a file, once it is over."""
        body = content if isinstance(content, bytes) else json.dumps(content).encode()
        return dict(self.ok("POST", f"/api/garages/{self.garage.pk}/imports", {"upload": self.upload(body, name)}))

    def build(self, *names: str, **changes: Any) -> dict[str, Any]:
        """A build whose setups are the safe bike."""
        setups = [{"name": name, "document": safe_bike(**changes)} for name in (names or ("As found", "Changed"))]
        return dict(self.ok("POST", f"/api/garages/{self.garage.pk}/builds", {"name": "Clover", "family": "small dirt bike", "setups": setups}))

    def prove(self, setup_id: int, build_id: int) -> None:
        """Every step of a setup done in its order, each reading as it should be, up to the first ride."""
        setups = self.ok("GET", f"/api/builds/{build_id}")["setups"]
        row = next(one for one in setups if one["id"] == setup_id)
        plan = self.ok("POST", "/api/hookup", {"setup": row["document"], "build_id": build_id, "is_baseline": row["is_baseline"]})["plan"]
        steps: list[dict[str, Any]] = [*plan["steps"], *plan["stand"]]
        last = steps.pop()
        revision = Revision.objects.filter(setup=setup_id).latest("number")
        # All but the last at once: that one is done through its door, which then finds all of them done.
        Tick.objects.bulk_create(
            Tick(setup_id=setup_id, revision=revision, step=step["id"], mark=step["mark"], fits=True, **as_it_should_be(step["reading"])) for step in steps
        )
        self.ok("PUT", f"/api/setups/{setup_id}/ticks/{last['id']}", as_it_should_be(last["reading"]))


def as_it_should_be(reading: dict[str, Any] | None) -> dict[str, Any]:
    """What one enters when the meter shows what it should."""
    if reading is None:
        return {}
    if reading["kind"] == "open" or (reading["expected"] is None and reading["high"] is None):
        return {"measured_open": True}
    return {"measured": reading["expected"] if reading["expected"] is not None else (reading["low"] + reading["high"]) / 2}


class HouseholdCase(TestCase):
    """Two households: nobody sees the other's garage."""

    def setUp(self) -> None:
        # Each test starts at the same numbers of an empty database: what was kept by them belongs to another.
        cache.clear()
        self.home, self.other = Household("ada"), Household("bo")
