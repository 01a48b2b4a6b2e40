"""Fills Tideline Shed: builds, riders, rack, trials that follow from the model plus believable scatter, journal."""

from __future__ import annotations

from datetime import datetime, timedelta

import numpy as np
from django.contrib.auth import get_user_model
from django.db import transaction
from django.utils import timezone

from gecko.document.setup import load_setup
from gecko.plans.trials.prediction import predict_trial
from server.accounts.middleware import DEMO_USER
from server.answers.kept import hookup_of
from server.builds import services
from server.builds.models import Build, Setup, Tick
from server.demo import machines
from server.demo.pictures import fill_album
from server.demo.rack import fill_rack, of_the_rack
from server.garage.models import Garage
from server.garage.services import open_garage, save_rider, update_garage
from server.logbook.models import JournalEntry
from server.logbook.services import add_trial

GARAGE = "Tideline Shed"


@transaction.atomic
def load_demo() -> Garage:
    """Make the demo user and the garage, once. A second call changes nothing."""
    model = get_user_model()
    user = model.objects.filter(username=DEMO_USER).first() or model.objects.create_user(username=DEMO_USER)
    found = Garage.objects.filter(name=GARAGE, memberships__user=user).first()
    if found is not None:
        return found
    garage = open_garage(user, GARAGE)
    update_garage(garage, emergency_number="112")
    for rider in machines.RIDERS:
        save_rider(garage, None, rider)
    fill_rack(garage)
    # The list shows what was worked on last first, so the build to begin with is made last.
    for name, family, description, setups, in_use in (
        ("Pocket Comet", "scooter", "Hub scooter, 48 V", machines.comet_setups(), 1),
        ("Bramble", "quad", "Youth quad, 48 V 900 W", machines.bramble_setups(), 1),
        ("Thistle", "small dirt bike", "Chain bike, 24 V 280 W, 12 and 80 teeth", machines.thistle_setups(), 1),
        ("Marmalade", "ride-on car", "Two-seat beach buggy, 24 V", machines.marmalade_setups(), 3),
    ):
        build = services.create_build(garage, user, name, family, description, [(label, of_the_rack(garage, document)) for label, document in setups])
        _ride(build, in_use)
    fill_album(garage)
    return garage


# Per build: setup index, days ago, knob mark, resting volts before, metres, how far the yard is from the model (ratio).
_RUNS: dict[str, list[tuple[int, int, float | None, float, float, float]]] = {
    "Marmalade": [
        (0, 40, None, 25.1, 30, 0.98),
        (1, 31, None, 28.6, 30, 0.97),
        (2, 24, None, 28.5, 30, 0.98),
        (3, 9, 0.5, 28.5, 30, 0.97),
        (3, 9, 0.75, 28.2, 30, 0.98),
        (3, 8, 0.95, 28.0, 30, 0.96),
    ],
    "Thistle": [(0, 52, 1.0, 25.3, 60, 1.01), (1, 20, 0.5, 26.7, 60, 0.99), (1, 20, 1.0, 26.6, 60, 1.0), (2, 12, 0.6, 26.6, 60, 0.98)],
    "Bramble": [(0, 66, 0.85, 50.8, 80, 0.99), (1, 5, 0.5, 57.6, 80, 1.0), (1, 5, 0.75, 57.1, 80, 0.98)],
    "Pocket Comet": [(0, 70, 1.0, 53.4, 100, 1.0), (1, 3, 0.6, 53.8, 100, 1.01), (1, 3, 1.0, 53.3, 100, 0.99)],
}
_JOURNAL: dict[str, list[tuple[int, str, str]]] = {
    "Marmalade": [
        (41, "note", "Bought from a neighbour; both blocks tired but alive. Plus lead measured, not guessed."),
        (30, "change", "First garden pack in, just to see. Quick, warm leads, empty after half an hour."),
        (24, "change", "Second pack beside the first, each with its own fuse."),
        (10, "change", "Third pack and a controller that starts softly. Pip stopped shouting at the wheels."),
    ],
    "Thistle": [
        (53, "repair", "Chain two links shorter, wheel straight again."),
        (21, "change", "Eight-cell LFP in, blocks kept for the pump."),
        (11, "crash", "Odette into the hedge at walking pace. Lever bent, bent back."),
    ],
    "Bramble": [(67, "note", "Foot switch cleaned with a pencil eraser; 0.2 Ω now."), (6, "change", "14-cell pack in. 9 kg lighter at the back.")],
    "Pocket Comet": [(69, "upkeep", "Tyres to 3 bar, brake pads bedded in."), (4, "change", "Second pack under the deck, both at 53.9 V before joining.")],
}
_TICKED: dict[str, str | int] = {"Marmalade": "all", "Thistle": "all", "Bramble": 15, "Pocket Comet": "all"}


def _ride(build: Build, in_use: int) -> None:
    setups = list(build.setups.all())
    now = timezone.now().replace(minute=20, second=0, microsecond=0)
    random = np.random.default_rng(sum(map(ord, build.name)))
    services.use_setup(setups[in_use])
    for index, days, knob, volts, metres, ratio in _RUNS[build.name]:
        _trial(setups[index], now - timedelta(days=days, hours=float(random.integers(1, 5))), knob, volts, metres, ratio, random)
    _tick(setups[in_use], _TICKED[build.name])
    for days, kind, text in _JOURNAL[build.name]:
        JournalEntry.objects.create(build=build, kind=kind, text=text, when=now - timedelta(days=days))


def _trial(setup: Setup, when: datetime, knob: float | None, volts: float, metres: float, ratio: float, random: np.random.Generator) -> None:
    """Four passes, two each way: the model's speed times the yard's ratio, with a wind, a hand on a stopwatch and some luck."""
    document = load_setup(setup.document)
    predicted = predict_trial(document, knob=knob, rest_v=volts)
    assert predicted is not None
    passes = []
    for i in range(4):
        direction = "out" if i % 2 == 0 else "back"
        speed = predicted.speed_m_s * ratio * (1.012 if direction == "out" else 0.988) * (1 + 0.008 * float(random.standard_normal()))
        passes.append({"distance_m": metres, "time_s": round(metres / speed + 0.08 * float(random.standard_normal()), 1), "direction": direction})
    add_trial(
        setup,
        {
            "passes": passes,
            "knob": knob,
            "surface": document.ground.surface,
            "grade": 0.0,
            "volts_before_v": volts,
            "volts_after_v": round(volts - 0.3, 1),
            "motor_c": None,
            "note": "",
            "when": when,
        },
    )


def _tick(setup: Setup, how_many: str | int) -> None:
    plan = hookup_of(load_setup(setup.document), services.context_of(setup))
    assert plan is not None
    steps = plan.steps if how_many == "all" else plan.steps[: int(how_many)]
    revision = services.latest(setup)
    for step in steps:
        reading = step.reading
        is_open = reading is not None and (reading.kind == "open" or (reading.expected is None and reading.high is None))
        value = None if reading is None or is_open else round((reading.expected or 0.0) + (0.1 if reading.kind == "ohms" else 0.0), 2)
        Tick.objects.create(setup=setup, revision=revision, step=step.id, mark=step.mark, measured=value, measured_open=is_open)
    if how_many == "all":
        for stand in plan.stand:
            Tick.objects.create(setup=setup, revision=revision, step=stand.id)
