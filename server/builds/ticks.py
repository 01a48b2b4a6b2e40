"""Ticking the steps of the hookup, of the stand and of the first ride: refused while something open locks them."""

from __future__ import annotations

from gecko.hookup.judgement import Judgement, judge
from gecko.setup import load_setup
from server.builds.models import Setup, Tick
from server.builds.services import context_of, latest
from server.builds.standing import refuse_locked
from server.engine.services import hookup_of
from server.errors import Refused, not_found


def tick(setup: Setup, step: str, measured: float | None, measured_open: bool) -> tuple[Tick, Judgement]:
    """Tick a step with the value measured; judged and kept either way. Raises Refused 409 with every reason while it is locked."""
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
        defaults={"revision": latest(setup), "mark": found.mark, "measured": measured, "measured_open": measured_open, "fits": judgement.fits},
    )
    return row, judgement
