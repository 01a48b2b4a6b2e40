"""Random walks over the document through every door: an answer or a sentence, never a failure. `make bench` takes three
hundred steps, `make soak` many more."""

from __future__ import annotations

from itertools import islice

from gecko.common.errors import GeckoError
from gecko.document.context import Context
from gecko.document.parts.held import OnRack
from gecko.document.rack.kinds import Kit
from gecko.document.setup import Setup
from gecko.plans.kits import Brought
from gecko.plans.substitutes import Candidate
from gecko.plans.trials.prediction import Conditions
from gecko.tests.counts import tried
from gecko.tests.walks import Walk
from server.compute.jobs import KINDS, Job, compute
from server.testing import HouseholdCase


def through_every_door(setup: Setup, around: Context) -> None:
    """Compute everything there is of a setup. Raises what the core has no sentence for."""
    ridden = (Conditions(setup), Conditions(setup, knob=0.4, rest_v=20.0, surface="long grass", grade=0.1))
    motor = {"kind": "motors", "label": "Motor", "document": {"kind": "hub", "power_w": 500}}
    kit, name = Kit.model_validate({"contents": [motor], "claims": {"speed_m_s": 9}}), OnRack(key="k")
    extras: dict[str, object] = {
        "protect": "main",
        "drive": (),
        "offers": ([], False, Brought(kit=kit, name=name)),
        "completed": "Mended",
        "goal": ("speed", 6.0, [], "USD"),
        "kit": (kit, name, True, []),
        "instead": ("controller", (Candidate.of("controller", "Another", {"kind": "brushed", "nominal_v": 36, "battery_limit_a": 30}),)),
        "compare": (("a", setup, around), ("b", setup, around)),
        "predictions": ridden,
        "remembered": 1.8,
    }
    extras["course"] = ("0,0\n60,1", "yard")
    for kind in KINDS:
        try:
            compute(Job(kind, setup, around, extras.get(kind)))
        except GeckoError:
            continue


class Walks(HouseholdCase):
    def test_each_step_is_evaluated_and_stored(self) -> None:
        row = self.home.build()["setups"][1]
        version = row["version"]
        for number, setup in enumerate(islice(Walk(1).documents(), tried(300, 20))):
            with self.subTest(number):
                document = setup.model_dump(mode="json")
                self.home.ok("POST", "/api/evaluate", {"setup": document})
                version = self.home.ok("PUT", f"/api/setups/{row['id']}", {"document": document, "based_on": version})["version"]

    def test_each_step_goes_through_every_door_beside_the_one_before(self) -> None:
        before = None
        for number, setup in enumerate(islice(Walk(2).documents(), tried(300, 6))):
            with self.subTest(number):
                through_every_door(setup, Context(baseline=before, stock=before))
            before = setup
