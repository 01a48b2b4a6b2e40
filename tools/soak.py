"""Long walks: thousands of documents through evaluation and the store, hundreds through every door. Prints what failed; a failure ends it with 1."""

from __future__ import annotations

import logging
import os
import resource
import sys
import tempfile
import time
import traceback
from collections import Counter
from collections.abc import Callable, Iterator
from itertools import islice
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parent.parent
sys.path.insert(0, str(ROOT))
VAR = tempfile.TemporaryDirectory(prefix="gecko-soak-")
os.environ |= {"GECKO_VAR": VAR.name, "DJANGO_SETTINGS_MODULE": "server.settings"}

import django  # noqa: E402

django.setup()

from django.core.management import call_command  # noqa: E402

from gecko.document.context import Context  # noqa: E402
from gecko.document.setup import Setup  # noqa: E402
from gecko.tests.machines import safe_bike  # noqa: E402
from gecko.tests.walks import Walk  # noqa: E402
from server.testing import Household  # noqa: E402
from server.tests.handmade import attempts  # noqa: E402
from server.tests.test_requests import household, requests, sent, tried  # noqa: E402
from server.tests.test_walks import through_every_door  # noqa: E402

EVALUATED = int(os.environ.get("SOAK_EVALUATED", "20000"))
EVERY_DOOR = int(os.environ.get("SOAK_EVERY_DOOR", "600"))
REQUESTS = int(os.environ.get("SOAK_REQUESTS", "10000"))
BY_HAND = int(os.environ.get("SOAK_BY_HAND", "3000"))
BUDGET_S = 10.0
"""Processor time one request may take. [s]"""

TO_ONE_GARAGE = 250
"""So many requests to one garage, then another: by then most of what was in it has been deleted."""


def memory() -> str:
    """What this process holds of memory now, and held at most, in words."""
    pages = int(Path("/proc/self/statm").read_text(encoding="ascii").split()[1])
    return f"memory {pages * resource.getpagesize() / 1e6:.0f} MB, at most {resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1e3:.0f} MB"


def walk(name: str, seed: int, steps: int, step: Callable[[Setup], None]) -> Counter[str]:
    """Take so many steps; count failures by where they arose, and print the slowest step and the memory."""
    failed: Counter[str] = Counter()
    slowest, began = 0.0, time.monotonic()
    for number, setup in enumerate(islice(Walk(seed).documents(), steps), start=1):
        start = time.process_time()
        try:
            step(setup)
        except Exception as error:  # whatever it is, it is counted, and the walk goes on
            where = traceback.extract_tb(error.__traceback__)[-1]
            failed[f"{type(error).__name__} at {Path(where.filename).name}:{where.lineno}"] += 1
        slowest = max(slowest, time.process_time() - start)
        if number % max(1, steps // 10) == 0:
            took = time.monotonic() - began
            print(f"{name}: {number} of {steps}, {took:.0f} s, slowest {slowest:.2f} s, {memory()}, failed {sum(failed.values())}", flush=True)
    return failed


def send_all(name: str, count: int, made: Callable[[Household, int], Iterator[Any]], send: Callable[[Household, Any], int]) -> Counter[str]:
    """Send requests of a kind; count answers by status and failures by request, and print the slowest and the memory."""
    failed: Counter[str] = Counter()
    statuses: Counter[int] = Counter()
    slowest, began = 0.0, time.monotonic()
    for garage in range(count // TO_ONE_GARAGE):
        home = Household(f"{name} {garage}")
        home.client.raise_request_exception = False
        for one in islice(made(home, garage), TO_ONE_GARAGE):
            start = time.process_time()
            status = send(home, one)
            took = time.process_time() - start
            slowest = max(slowest, took)
            statuses[status] += 1
            if status >= 500 or took > BUDGET_S:
                failed[f"{status} after {took:.1f} s at {one}"[:400]] += 1
        if garage % 4 == 3:
            done, took = (garage + 1) * TO_ONE_GARAGE, time.monotonic() - began
            print(f"{name}: {done} of {count}, {took:.0f} s, slowest {slowest:.2f} s, {memory()}, {dict(statuses)}", flush=True)
    return failed


def main() -> int:
    """Both walks, and requests from the schema and by hand."""
    call_command("migrate", verbosity=0)
    home = Household("soak")
    row = home.build()["setups"][1]
    version = row["version"]

    def evaluate_and_store(setup: Setup) -> None:
        nonlocal version
        document = setup.model_dump(mode="json")
        home.ok("POST", "/api/evaluate", {"setup": document})
        version = home.ok("PUT", f"/api/setups/{row['id']}", {"document": document, "based_on": version})["version"]

    before: Setup | None = None

    def every_door(setup: Setup) -> None:
        nonlocal before
        through_every_door(setup, Context(baseline=before, stock=before))
        before = setup

    failed = walk("evaluated and stored", 11, EVALUATED, evaluate_and_store) + walk("every door", 12, EVERY_DOOR, every_door)
    logging.disable(logging.WARNING)
    failed += send_all("from the schema", REQUESTS, lambda home, seed: requests(home, seed).made(), sent)
    failed += send_all("by hand", BY_HAND, lambda home, seed: attempts(household(home), safe_bike(), seed), tried)
    for where, count in failed.most_common():
        print(f"{count} × {where}")
    return 1 if failed else 0


if __name__ == "__main__":
    sys.exit(main())
