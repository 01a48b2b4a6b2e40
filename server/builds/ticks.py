"""Ticking the steps of the hookup, of the stand and of the first ride: refused while something open locks them."""

from __future__ import annotations

import logging
from typing import Any

from django.db import transaction
from pydantic import ValidationError

from gecko.common.errors import GeckoError
from gecko.document.setup import load_setup
from gecko.hookup.judgement import Judgement, judge
from gecko.hookup.shape import Step
from server.answers.kept import hookup_of
from server.builds.models import Revision, Setup, Tick
from server.builds.services import context_of, latest
from server.builds.standing import done_of, refuse_locked
from server.compute.client import ComputeFailed
from server.errors import Refused, not_found
from server.garage.part_log import land_at_pack

log = logging.getLogger("server.builds")

FIRST_RIDE = "stand_first"


def tick(setup: Setup, step: str, measured: float | None, measured_open: bool, by: str = "") -> tuple[Tick, Judgement]:
    """Tick a step with the value measured; judged and kept either way. What fits on one pack lands in its log. Raises Refused 409 while it is locked,
    with every reason."""
    plan = hookup_of(load_setup(setup.document), context_of(setup))
    found = next((s for s in plan.to_tick if s.id == step), None) if plan else None
    if found is None:
        raise not_found("step")
    refuse_locked(setup, found)
    if found.reading is None:
        judgement = Judgement(fits=True, headline="Done.")
    elif measured is None and not measured_open:
        raise Refused("Enter what the meter shows, or tick OL for open.", field="/measured")
    else:
        judgement = judge(found.reading, None if measured_open else measured)
    row, _ = Tick.objects.update_or_create(
        setup=setup,
        step=step,
        defaults={
            "revision": latest(setup),
            "mark": found.mark,
            "measured": measured,
            "measured_open": measured_open,
            "fits": judgement.fits,
            "excused": False,
        },
    )
    if found.reading is not None and found.reading.kind == "volts" and measured is not None and judgement.fits:
        land_at_pack(setup.build.garage, setup.document, (found.reading.red, found.reading.black), measured, by)
    if plan is not None:
        _note_completion(setup, plan.in_order, row.revision)
    return row, judgement


def _note_completion(setup: Setup, steps: list[Step], revision: Revision) -> None:
    """Remember that every step there is was done, so that steps a newer program adds do not undo it."""
    if done_of(setup, steps) >= {step.id for step in steps}:
        setup.completed = {"revision": revision.number, "steps": [step.id for step in steps]}
        # Only this field is saved, because the time of the last change is that of the document.
        Setup.objects.filter(pk=setup.pk).update(completed=setup.completed)


def carry_over() -> int:
    """After an upgrade: steps the newer program has for a machine whose steps had all been done are excused, once. Returns how many.

    New are those the program has now for the setup as it was when all was done, and had not then. What a later change of the setup brought
    is asked as ever.
    """
    excused = 0
    for setup in Setup.with_bin.exclude(ticks=None).select_related("build__garage").distinct():
        try:
            with transaction.atomic():
                if setup.completed is None:
                    setup.completed = _without_marks(setup)
                if setup.completed is not None:
                    excused += _carry_over(setup)
                elif (plan := hookup_of(load_setup(setup.document), context_of(setup))) is not None:
                    # It was done before completion was recorded.
                    _note_completion(setup, plan.in_order, latest(setup))
        except (ValidationError, GeckoError, Refused, ComputeFailed) as error:
            log.warning("setup %s: its steps cannot be worked out: %s", setup.pk, error)
    return excused


def _without_marks(setup: Setup) -> dict[str, Any] | None:
    """What was done under a program that asked for fewer steps and left no mark on any: after its first ride all there were."""
    ridden = setup.ticks.filter(step=FIRST_RIDE).select_related("revision").first()
    if ridden is None or setup.ticks.exclude(mark="").exists():
        return None
    return {"revision": ridden.revision.number, "steps": list(setup.ticks.values_list("step", flat=True))}


def _carry_over(setup: Setup) -> int:
    completed: dict[str, Any] = setup.completed or {}
    then = setup.revisions.filter(number=completed["revision"]).first()
    if then is None:
        return 0
    known = set(completed["steps"])
    plan_then, plan_now = (hookup_of(load_setup(document), context_of(setup)) for document in (then.document, setup.document))
    added = {step.id for step in plan_then.in_order} - known if plan_then is not None else set()
    if not added:
        return 0
    ticked = set(setup.ticks.values_list("step", flat=True))
    new = [step for step in (plan_now.in_order if plan_now is not None else []) if step.id in added - ticked]
    Tick.objects.bulk_create(Tick(setup=setup, revision=latest(setup), step=step.id, mark=step.mark, excused=True) for step in new)
    Setup.with_bin.filter(pk=setup.pk).update(completed={**completed, "steps": sorted(known | added)})
    return len(new)
