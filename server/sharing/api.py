"""Links to look at one build, and what they show."""

from __future__ import annotations

from datetime import datetime

from django.http import HttpRequest, HttpResponse
from ninja import Field, Router, Schema

from gecko.answers.evaluation import Evaluation, Ranges
from gecko.document.setup import load_setup
from gecko.plans.hookup import Hookup
from gecko.plans.parts_list import NeedOut
from gecko.plans.standing import Standing
from gecko.plans.trouble import Trouble, trouble_of
from server.accounts.api import from_here
from server.answers.kept import answer_json, evaluation_json, hookup_of
from server.builds.api import BuildOut, build_out
from server.builds.services import build_of, context_of, parts_to_buy
from server.builds.standing import done_of, standing_of, steps_of
from server.compute.jobs import Job
from server.errors import ErrorOut
from server.garage.services import IMPERIAL
from server.logbook.api import TrialOut, trials_out
from server.logbook.services import baseline_trials, newest_trials
from server.sharing import services
from server.sharing.models import LookLink

router = Router(tags=["sharing"])

TRIALS = 30


class ShareIn(Schema):
    """For how long, and for whom, in one's own words."""

    days: int = Field(default=7, ge=1, le=90)
    note: str = Field(default="", max_length=60)


class LookLinkOut(Schema):
    """A link that shows a build. token: what it holds, told once when it is made."""

    id: int
    note: str
    by: str
    created: datetime
    expires: datetime
    token: str = ""


class LookIn(Schema):
    """What the link holds, and which of the setups to see; empty, the one the machine is in."""

    token: str = Field(max_length=100)
    setup_id: int | None = None


class _Rest(Schema):
    """What is shown beside the core's own answers."""

    build: BuildOut
    setup_id: int
    units: dict[str, str]
    expires: datetime
    holding: list[str]
    trials: list[TrialOut]
    parts: list[NeedOut]


class LookOut(_Rest):
    """A build to look at, without the names of people: all of one setup, and the documents of the others."""

    evaluation: Evaluation
    ranges: Ranges
    hookup: Hookup | None
    standing: Standing
    troubles: list[Trouble]


def _link(row: LookLink, token: str = "") -> LookLinkOut:
    by = row.by.get_username() if row.by is not None else ""
    return LookLinkOut(id=row.pk, note=row.note, by=by, created=row.created, expires=row.expires, token=token)


@router.post("/builds/{build_id}/look-links", response={200: LookLinkOut, 404: ErrorOut, 422: ErrorOut})
def share(request: HttpRequest, build_id: int, payload: ShareIn) -> LookLinkOut:
    """Make a link by which somebody without an account looks at this build and at nothing else."""
    return _link(*services.share(request, build_of(request.user, build_id), payload.days, payload.note))


@router.get("/builds/{build_id}/look-links", response={200: list[LookLinkOut], 404: ErrorOut})
def list_links(request: HttpRequest, build_id: int) -> list[LookLinkOut]:
    """Links that show this build."""
    return [_link(row) for row in services.open_of(build_of(request.user, build_id))]


@router.delete("/builds/{build_id}/look-links/{link_id}", response={204: None, 404: ErrorOut})
def take_back(request: HttpRequest, build_id: int, link_id: int) -> tuple[int, None]:
    """Take a link back: it shows nothing any more."""
    services.take_back(request, build_of(request.user, build_id), link_id)
    return 204, None


@router.post("/look", response={200: LookOut, 403: ErrorOut, 404: ErrorOut, 422: ErrorOut}, auth=from_here)
def look(request: HttpRequest, payload: LookIn) -> HttpResponse:  # noqa: ARG001
    """What a link shows."""
    link = services.of_token(payload.token)
    build = link.build
    shown = services.shown_of(build, payload.setup_id)
    rows = list(build.setups.all())
    for row in (shown, *rows):
        row.document = services.nameless(row.document)
    document, context = load_setup(shown.document), context_of(shown)
    # The core's own JSON goes in as it is: reading and writing it again would cost more than computing it.
    raw = {
        "evaluation": evaluation_json(document, context),
        "ranges": answer_json(Job("ranges", document, context)),
        "hookup": plan.model_dump_json() if (plan := hookup_of(document, context)) is not None else "null",
        "standing": standing_of(shown).model_dump_json(),
        "troubles": "[" + ",".join(one.model_dump_json() for one in trouble_of(document)) + "]",
    }
    baseline = baseline_trials(build)
    rest = _Rest(
        build=_nobody(build_out(build, rows)),
        setup_id=shown.pk,
        units={**IMPERIAL, **build.garage.units},
        expires=link.expires,
        holding=sorted(done_of(shown, steps_of(shown))),
        parts=parts_to_buy(shown, with_rack=False).needs,
        trials=[trial.model_copy(update={"note": ""}) for trial in trials_out(newest_trials(build, 0, TRIALS), baseline)],
    )
    text = rest.model_dump_json()[:-1] + "".join(f',"{name}":{value}' for name, value in raw.items()) + "}"
    return HttpResponse(text, content_type="application/json")


def _nobody(build: BuildOut) -> BuildOut:
    """A build without who said what."""
    for setup in build.setups:
        for word in setup.overrules:
            word.by = ""
    return build
