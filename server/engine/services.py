"""The door to the core: evaluations cached by content."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Callable, Sequence
from dataclasses import asdict
from typing import Any

from django.core.cache import cache

import gecko
from gecko.context import Context
from gecko.drive.compare import compare
from gecko.drive.plan import drive_changes, drive_plan, drive_sprockets
from gecko.evaluate import evaluate, fixes, ranges
from gecko.hookup.plan import Hookup, build_hookup
from gecko.parts.rider import Rider
from gecko.power.plan import power_plan
from gecko.protection.plan import protect_plan
from gecko.setup import Setup, load_setup

KEEP_S = 24 * 3600


def context_key(context: Context) -> str:
    """What of the context an answer depends on, as text."""
    return json.dumps([context.baseline_json, context.is_baseline, context.stock_json, asdict(context.house)], sort_keys=True)


def cached_json(kind: str, setup: Setup, context: Context, compute: Callable[[], str]) -> str:
    """An answer as JSON text, computed once for the same setup, context and core."""
    digest = hashlib.sha256("\n".join([gecko.__version__, kind, setup.model_dump_json(), context_key(context)]).encode()).hexdigest()
    found = cache.get(digest)
    if found is None:
        found = compute()
        cache.set(digest, found, KEEP_S)
    return str(found)


def evaluation_json(setup: Setup, context: Context) -> str:
    """Evaluation as JSON text."""
    return cached_json("evaluation", setup, context, lambda: evaluate(setup, context).model_dump_json())


def ranges_json(setup: Setup, context: Context) -> str:
    """Ranges as JSON text."""
    return cached_json("ranges", setup, context, lambda: ranges(setup, context).model_dump_json())


def fixes_json(setup: Setup, context: Context) -> str:
    """Checked fixes as JSON text."""
    return cached_json("fixes", setup, context, lambda: "[" + ",".join(f.model_dump_json() for f in fixes(setup, context)) + "]")


def power_json(setup: Setup, context: Context) -> str:
    """The plan of the packs as JSON text."""
    return cached_json("power", setup, context, lambda: power_plan(setup, context).model_dump_json())


def protect_json(setup: Setup, context: Context, run_id: str) -> str:
    """The plan of the wiring as JSON text, with the fuse-and-wire table of one run."""
    return cached_json(f"protect {run_id}", setup, context, lambda: protect_plan(setup, context, run_id).model_dump_json())


def drive_json(setup: Setup, context: Context, riders: Sequence[Rider]) -> str:
    """The plan of driving as JSON text, with these riders beside the setup's own."""
    kind = "drive " + json.dumps([rider.model_dump(mode="json") for rider in riders])
    return cached_json(kind, setup, context, lambda: drive_plan(setup, context, riders).model_dump_json())


def changes_json(setup: Setup, context: Context) -> str:
    """The single changes as JSON text."""
    return cached_json("changes", setup, context, lambda: drive_changes(setup, context).model_dump_json())


def sprockets_json(setup: Setup, context: Context) -> str:
    """The sprockets as JSON text."""
    return cached_json("sprockets", setup, context, lambda: drive_sprockets(setup, context).model_dump_json())


def compare_json(setups: Sequence[tuple[str, Setup, Context]]) -> str:
    """Setups side by side as JSON text."""
    _, first, context = setups[0]
    kind = "compare " + json.dumps([[name, setup.model_dump_json(), context_key(around)] for name, setup, around in setups])
    return cached_json(kind, first, context, lambda: compare(setups).model_dump_json())


def hookup_of(setup: Setup, context: Context) -> Hookup | None:
    """The plan of the hookup; None while there are no packs."""
    return build_hookup(setup, None if context.is_baseline else context.baseline)


def read(document: dict[str, Any]) -> Setup:
    """A Setup from a request. Raises ValidationError, which is answered with every wrong field."""
    return load_setup(document)
