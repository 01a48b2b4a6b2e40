"""What stands open of a saved setup: findings of the core, what was said to them, ticks that hold, incidents of the build."""

from __future__ import annotations

from typing import Any

from django.db import transaction
from django.utils import timezone

from gecko.answers.evaluation import Evaluation, Finding
from gecko.document.setup import load_setup
from gecko.hookup.shape import Step
from gecko.hookup.ticks import Done, holding
from gecko.plans.standing import Standing, Word, holds, standing
from server.answers.kept import evaluation_json, hookup_of
from server.builds.incidents import open_checks
from server.builds.models import Overrule, Setup
from server.builds.services import context_of, latest
from server.errors import Refused, not_found

LEAST_WORDS = 3
"""A reason or an observation has at least so many words."""


def evaluation_of(setup: Setup) -> Evaluation:
    """The evaluation of a saved setup among its build."""
    return Evaluation.model_validate_json(evaluation_json(load_setup(setup.document), context_of(setup)))


def steps_of(setup: Setup) -> list[Step]:
    """Every step from the first to the first ride."""
    plan = hookup_of(load_setup(setup.document), context_of(setup))
    return plan.in_order if plan is not None else []


def words_of(setup: Setup) -> list[Word]:
    """What was said to the stops of a setup."""
    return [Word(row.finding, "observed" if row.kind == "observed" else "overruled", row.asked, row.stands) for row in setup.overrules.all()]


def done_of(setup: Setup, steps: list[Step]) -> set[str]:
    """Steps that are done and still hold."""
    ticks = [Done(step=t.step, mark=t.mark, measured=t.measured, measured_open=t.measured_open, excused=t.excused) for t in setup.ticks.all()]
    return set(holding(steps, ticks))


def standing_of(setup: Setup) -> Standing:
    """What stands open of a saved setup, and which of its steps that locks."""
    found, steps = evaluation_of(setup), steps_of(setup)
    missing = [(gap.path, gap.message) for gap in found.gaps if gap.kind == "missing"]
    return standing(found.findings, missing, words_of(setup), steps, done_of(setup, steps), open_checks(setup.build))


def refuse_locked(setup: Setup, step: Step) -> None:
    """Raises Refused 409 with every reason while a step may not be done."""
    if step.gate is None and not step.barred:
        return
    reasons = standing_of(setup).reasons(step.id)
    if reasons:
        raise locked(f"“{step.title}” comes later", reasons)


def locked(what: str, reasons: list[str]) -> Refused:
    """The answer to somebody who wants past an open stop."""
    more = f" And {len(reasons) - 1} more." if len(reasons) > 1 else ""
    return Refused(
        f"{what}: {reasons[0]}.{more}",
        code="locked",
        status=409,
        hint="Close what is open first: mend it, look and enter what you saw, or overrule it with your reason.",
        problems=[{"path": "", "message": reason} for reason in reasons],
    )


def refuse_ride(setup: Setup, *, confirmed: bool) -> None:
    """A ride of a changed setup needs everything closed and every safety step done. The machine as it was found may be ridden once for the
    baseline when somebody confirms it. Raises Refused 409."""
    if setup.is_baseline and setup.as_found:
        stops = [stop.title for stop in standing_of(setup).open]
        if stops and not confirmed:
            raise Refused(
                f"As found, {len(stops)} {'stop is' if len(stops) == 1 else 'stops are'} open: {stops[0]}"
                + (f", and {len(stops) - 1} more" if len(stops) > 1 else "")
                + ". Ride the baseline run all the same?",
                code="confirm",
                status=409,
                hint="Slowly, on open ground, an adult within reach of the machine.",
                problems=[{"path": "", "message": title} for title in stops],
            )
        return
    state = standing_of(setup)
    if not state.ride:
        reasons = [f"Open stop: {stop.title}" for stop in state.open]
        undone = done_of(setup, steps := steps_of(setup))
        reasons += [f"Not done yet: {step.title}" for step in steps if step.safety and step.id not in undone]
        raise locked("This setup may not be ridden yet", reasons)


def _stop(setup: Setup, key: str) -> Finding:
    found = {finding.key: finding for finding in evaluation_of(setup).findings}
    stop = found.get(key)
    if stop is None or stop.gate is None:
        raise not_found("stop")
    return stop


def numbers(stop: Finding) -> str:
    """The numbers of a stop as the journal keeps them."""
    if stop.asked is None:
        return ""
    unit = f" {stop.unit}" if stop.unit else ""
    return f" ({stop.asked:.4g}{unit} asked, {stop.stands or 0:.4g}{unit} stands)"


@transaction.atomic
def say(setup: Setup, user: Any, kind: str, key: str, text: str) -> Overrule:
    """Overrule a stop with a reason, or enter what was seen of one that only has to be looked at. Kept with who, when and its numbers."""
    text = text.strip()
    observed = kind == "observed"
    if len(text.split()) < LEAST_WORDS:
        what = "Write what you saw or measured" if observed else "Write why you accept it"
        raise Refused(f"{what}, in at least three words: it is kept in the journal and printed on the build sheet.", field="/text" if observed else "/reason")
    stop = _stop(setup, key)
    if observed and not stop.observable:
        what = (
            "Answer this one where it stands: seen, not there, or can't tell."
            if stop.question
            else "Looking does not change this one. Mend it, enter what it asks for, or overrule it with your reason."
        )
        raise Refused(what, code="not_observable", field="/finding")
    revision = latest(setup)
    row, _ = Overrule.objects.update_or_create(
        setup=setup,
        finding=key,
        defaults={
            "kind": kind,
            "reason": text[:500],
            "title": stop.title[:120],
            "revision": revision,
            "by": user,
            "by_name": user.get_username(),
            "asked": stop.asked,
            "stands": stop.stands,
            "unit": stop.unit,
            "fallen": None,
        },
    )
    word = "looked at" if observed else "overruled"
    _journal(setup, user, "observed" if observed else "overruled", f"{stop.title}: {word}{numbers(stop)}. {text}")
    return row


@transaction.atomic
def withdraw(setup: Setup, user: Any, key: str) -> None:
    """Take back what was said to a stop; the journal keeps that, too."""
    row = setup.overrules.filter(finding=key).first()
    if row is None:
        return
    row.delete()
    _journal(setup, user, "overruled", f"{row.title}: {'observation' if row.kind == 'observed' else 'overruling'} withdrawn.")


def let_fall(setup: Setup) -> None:
    """Mark what was said at smaller numbers as fallen, with a note in the journal. Called after whatever may raise them."""
    rows = list(setup.overrules.filter(fallen=None))
    if not rows:
        return
    found = {finding.key: finding for finding in evaluation_of(setup).findings}
    words = {word.finding: word for word in words_of(setup)}
    for row in rows:
        stop = found.get(row.finding)
        if stop is None or stop.gate is None or holds(stop, words[row.finding]):
            continue
        row.fallen = timezone.now()
        row.save(update_fields=["fallen"])
        was = f"{row.asked:.4g} {row.unit}".strip() if row.asked is not None else "numbers nobody kept"
        _journal(setup, None, "overruled", f"{stop.title}: no longer {row.kind}, it was so at {was} and now is{numbers(stop) or ' another'}.")


def _journal(setup: Setup, user: Any, kind: str, text: str) -> None:
    who = f" By {user.get_username()}." if user is not None else ""
    setup.build.journal.create(setup=setup, revision=latest(setup), kind=kind, text=(text + who)[:1000])
