"""The door to the core: answers are cached by everything they depend on."""

from __future__ import annotations

import hashlib
from collections.abc import Sequence
from functools import cache as cache_once
from pathlib import Path
from typing import Any

from django.core.cache import cache
from pydantic import TypeAdapter

import gecko
from gecko.common.errors import GeckoError
from gecko.document.context import Context
from gecko.document.parts.rider import Rider
from gecko.document.setup import Setup, load_setup
from gecko.document.tracks import MOST_CHARACTERS
from gecko.plans.hookup import Hookup
from gecko.plans.trials.prediction import Conditions, Prediction
from server.compute.client import answer_to
from server.compute.jobs import Job

KEEP_S = 30 * 24 * 3600
"""How long an answer is kept. It outlives a restart, because what a garage shows of its builds and trials was computed when they were saved. [s]"""


@cache_once
def program() -> str:
    """The identity of this core: its version and a digest of its sources and tables. Answers of another one are not used."""
    root = Path(gecko.__file__).parent
    files = sorted(path for kind in ("*.py", "*.csv", "*.json") for path in root.rglob(kind) if "tests" not in path.parts)
    digest = hashlib.sha256(b"".join(path.read_bytes() for path in files)).hexdigest()
    return f"{gecko.__version__} {digest}"


_HOOKUP: TypeAdapter[Hookup | None] = TypeAdapter(Hookup | None)


def answer_json(job: Job) -> str:
    """The answer to a job as JSON text, computed once for the same words and core."""
    digest = hashlib.sha256("\n".join([program(), job.words]).encode()).hexdigest()
    found = cache.get(digest)
    if found is None:
        found = answer_to(job)
        cache.set(digest, found, KEEP_S)
    return str(found)


def evaluation_json(setup: Setup, context: Context) -> str:
    """Evaluation as JSON text; it goes before everything else."""
    return answer_json(Job("evaluation", setup, context, lane="now"))


def drive_json(setup: Setup, context: Context, riders: Sequence[Rider]) -> str:
    """The plan of driving as JSON text, with these riders beside the setup's own."""
    return answer_json(Job("drive", setup, context, tuple(riders)))


def course_json(text: str, name: str) -> str:
    """A course read from the text of a file, as JSON text. Raises GeckoError with what to do about a file that cannot be read."""
    return answer_json(Job("course", Setup(), Context(), (text, name)))


def text_of(file: Path) -> str:
    """The text of a file, in whichever of the usual two encodings it is. Raises GeckoError for one that is larger than a course may be."""
    if file.stat().st_size > MOST_CHARACTERS:
        raise GeckoError(f"This file is larger than {MOST_CHARACTERS // 1_000_000} MB. Cut the track down to one round.", path="/file")
    content = file.read_bytes()
    try:
        return content.decode("utf-8")
    except UnicodeDecodeError:
        return content.decode("latin-1")


def compare_json(setups: Sequence[tuple[str, Setup, Context]]) -> str:
    """Setups side by side as JSON text."""
    _, first, context = setups[0]
    return answer_json(Job("compare", first, context, tuple(setups)))


def hookup_of(setup: Setup, context: Context) -> Hookup | None:
    """The plan of the hookup; None while there are no packs."""
    return _HOOKUP.validate_json(answer_json(Job("hookup", setup, context, lane="now")))


_PREDICTIONS: TypeAdapter[list[Prediction | None]] = TypeAdapter(list[Prediction | None])


def predictions_of(ridden: Sequence[Conditions]) -> list[Prediction | None]:
    """What trials should show, as they were ridden."""
    if not ridden:
        return []
    return _PREDICTIONS.validate_json(answer_json(Job("predictions", ridden[0].setup, Context(), tuple(ridden), lane="now")))


def read(document: dict[str, Any]) -> Setup:
    """A Setup from a request. Raises ValidationError, which is answered with every wrong field."""
    return load_setup(document)
