"""Builds, setups, revisions, ticks, overrules, exchange."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal

from django.http import HttpRequest
from ninja import Field, Query, Router, Schema

from gecko.answers.evaluation import Gate
from gecko.common.documents import SetupDocument
from gecko.document.merging import Side
from gecko.document.rack.about import PartPrice
from gecko.hookup.judgement import Judgement
from gecko.plans.standing import Standing
from gecko.plans.trouble import Trouble
from server.builds import incidents, services, standing, ticks
from server.builds.models import Build, Incident, Overrule, Setup, Tick
from server.errors import ErrorOut
from server.garage.services import garage_of
from server.sending import sent_as

router = Router(tags=["builds"])


class NewSetupIn(Schema):
    """A setup to add."""

    name: str = Field(max_length=60)
    document: SetupDocument


class NewBuildIn(Schema):
    """A build to make; the first setup is the baseline."""

    name: str = Field(max_length=60)
    family: str = Field(max_length=20)
    description: str = Field(default="", max_length=200)
    setups: list[NewSetupIn] = Field(min_length=1, max_length=12)


class TickOut(Schema):
    """A done step."""

    step: str
    mark: str
    measured: float | None
    measured_open: bool
    fits: bool
    excused: bool
    """Not done: it came with a newer program, when all that were there had been done."""
    revision: int


class OverruleOut(Schema):
    """What was said to a stop: overruled, or looked at; by whom, at which numbers, and whether it has fallen since."""

    finding: str
    title: str
    reason: str
    kind: Literal["overruled", "observed"]
    by: str
    asked: float | None
    stands: float | None
    unit: str
    fallen: bool
    created: datetime


class SetupOut(Schema):
    """A setup with its document."""

    id: int
    name: str
    is_baseline: bool
    in_use: bool
    as_found: bool
    version: int
    updated: datetime
    document: SetupDocument
    ticks: list[TickOut]
    overrules: list[OverruleOut]


class SavedOut(SetupOut):
    """A setup just saved. joined: it holds what others saved since, besides what was sent."""

    joined: bool


class LatestOut(Schema):
    """The newest save of a setup: its version, by whom, when, and what it changed."""

    version: int
    by: str
    when: datetime
    changed: list[str]


class BuildOut(Schema):
    """A build with its setups."""

    id: int
    garage_id: int
    name: str
    family: str
    description: str
    new_price: PartPrice | None
    """What a new machine of its kind costs."""
    setups: list[SetupOut]


class BuildIn(Schema):
    """What may change of a build."""

    name: str | None = Field(default=None, max_length=60)
    description: str | None = Field(default=None, max_length=200)
    new_price: PartPrice | Literal[""] | None = None
    """What a new machine of its kind costs; an empty text takes it out."""


class SaveIn(Schema):
    """A document, and the version it is based on."""

    document: SetupDocument
    based_on: int
    label: str = Field(default="", max_length=80)
    base: SetupDocument | None = None
    """The document the version was, so that what others saved since is joined field by field."""
    answers: dict[str, Side] = Field(default={}, max_length=500)
    """What was chosen where both changed a field, by its path; "" for the whole."""
    answers_to: int | None = None
    """The version the answers were given to; to another one they say nothing."""


class SetupIn(Schema):
    """What may change of a setup beside its document."""

    name: str | None = Field(default=None, max_length=60)
    is_baseline: bool | None = None
    in_use: bool | None = None


class ClashOut(Schema):
    """A field both changed: its path in the joined document, and what either has there; null: taken out."""

    path: str
    mine: Any = None
    theirs: Any = None


class ConflictOut(ErrorOut):
    """A clash: both versions, and what both changed."""

    mine: SetupDocument = {}
    theirs: SetupDocument = {}
    version: int = 0
    asked: list[ClashOut] = []


class RevisionOut(Schema):
    """A revision in the list."""

    number: int
    created: datetime
    label: str
    author: str


class RestoreIn(Schema):
    """Which revision to bring back."""

    number: int
    based_on: int


class TickIn(Schema):
    """A measured value, or OL."""

    measured: float | None = None
    measured_open: bool = False


class TickedOut(Schema):
    """The tick and what the value says."""

    tick: TickOut
    judgement: Judgement


class OverruleIn(Schema):
    """Why a stop is accepted."""

    finding: str = Field(max_length=60)
    reason: str = Field(max_length=500)


class ObservationIn(Schema):
    """What was seen or measured of a stop that only has to be looked at."""

    finding: str = Field(max_length=60)
    text: str = Field(max_length=500)


class IncidentIn(Schema):
    """Something went wrong: what, in one's own words, and which checks were done at once."""

    kind: str = Field(max_length=20)
    note: str = Field(default="", max_length=500)
    done: list[str] = Field(default=[], max_length=20)


class CheckIn(Schema):
    """What was seen of one check."""

    seen: str = Field(max_length=300)


class IncidentCheckOut(Schema):
    """A check of an incident."""

    key: str
    text: str
    gate: Gate
    by: str
    when: str
    seen: str = ""


class IncidentOut(Schema):
    """An incident with its checks."""

    id: int
    kind: str
    note: str
    by: str
    created: datetime
    checks: list[IncidentCheckOut]


def _tick(tick: Tick) -> TickOut:
    return TickOut(
        step=tick.step, mark=tick.mark, measured=tick.measured, measured_open=tick.measured_open, fits=tick.fits, excused=tick.excused, revision=tick.revision.number
    )


def _overrule(row: Overrule) -> OverruleOut:
    return OverruleOut(
        finding=row.finding,
        title=row.title,
        reason=row.reason,
        kind="observed" if row.kind == "observed" else "overruled",
        by=row.whose,
        asked=row.asked,
        stands=row.stands,
        unit=row.unit,
        fallen=row.fallen is not None,
        created=row.created,
    )


def _incident(row: Incident) -> IncidentOut:
    return IncidentOut(id=row.pk, kind=row.kind, note=row.note, by=row.whose, created=row.created, checks=row.checks)


def _setup(setup: Setup) -> SetupOut:
    return SetupOut(
        id=setup.pk,
        name=setup.name,
        is_baseline=setup.is_baseline,
        in_use=setup.in_use,
        version=setup.version,
        updated=setup.updated,
        document=setup.document,
        ticks=[_tick(t) for t in setup.ticks.select_related("revision")],
        as_found=setup.as_found,
        overrules=[_overrule(o) for o in setup.overrules.select_related("by")],
    )


def build_out(build: Build, setups: list[Setup] | None = None) -> BuildOut:
    """A build as it is sent, with its own setups or others in their place."""
    return BuildOut(
        id=build.pk,
        garage_id=build.garage_id,
        name=build.name,
        family=build.family,
        description=build.description,
        new_price=build.new_price,
        setups=[_setup(s) for s in (build.setups.all() if setups is None else setups)],
    )


@router.post("/garages/{garage_id}/builds", response={200: BuildOut, 404: ErrorOut, 422: ErrorOut})
def make_build(request: HttpRequest, garage_id: int, payload: NewBuildIn) -> BuildOut:
    """Make a build."""
    garage = garage_of(request.user, garage_id)
    setups = [(s.name, s.document) for s in payload.setups]
    return build_out(services.create_build(garage, request.user, payload.name, payload.family, payload.description, setups, sent_as(request)))


@router.get("/builds/{build_id}", response={200: BuildOut, 404: ErrorOut})
def get_build(request: HttpRequest, build_id: int) -> BuildOut:
    """A build with its setups."""
    return build_out(services.build_of(request.user, build_id))


@router.patch("/builds/{build_id}", response={200: BuildOut, 404: ErrorOut, 422: ErrorOut})
def change_build(request: HttpRequest, build_id: int, payload: BuildIn) -> BuildOut:
    """Rename or describe a build."""
    build = services.build_of(request.user, build_id)
    if payload.name is not None:
        build.name = services.check_name(payload.name, "build")
    if payload.description is not None:
        build.description = payload.description.strip()
    if payload.new_price is not None:
        build.new_price = payload.new_price.model_dump(mode="json") if payload.new_price else None
    build.save()
    return build_out(build)


@router.delete("/builds/{build_id}", response={204: None, 404: ErrorOut})
def delete_build(request: HttpRequest, build_id: int) -> tuple[int, None]:
    """Put a build into the bin, with everything that belongs to it."""
    services.build_of(request.user, build_id).to_bin(request.user)
    return 204, None


class MoveIn(Schema):
    """The garage to move a build to."""

    garage: int


@router.post("/builds/{build_id}/move", response={200: BuildOut, 403: ErrorOut, 404: ErrorOut})
def move_build(request: HttpRequest, build_id: int, payload: MoveIn) -> BuildOut:
    """Move a build into another garage one may change."""
    return build_out(services.move_build(services.build_of(request.user, build_id), request.user, payload.garage))


@router.post("/builds/{build_id}/setups", response={200: SetupOut, 404: ErrorOut, 422: ErrorOut})
def add_setup(request: HttpRequest, build_id: int, payload: NewSetupIn) -> SetupOut:
    """Add a setup beside the others."""
    return _setup(services.add_beside(services.build_of(request.user, build_id), request.user, payload.name, payload.document))


@router.put("/setups/{setup_id}", response={200: SavedOut, 404: ErrorOut, 409: ConflictOut, 422: ErrorOut})
def save_setup(request: HttpRequest, setup_id: int, payload: SaveIn) -> SavedOut:
    """Save a setup's document. What was saved in between is joined with it; 409 with what both changed and nobody has decided yet."""
    before = services.Before(payload.base, payload.answers, payload.answers_to)
    setup, joined = services.save_setup(setup_id, request.user, payload.document, payload.based_on, payload.label, before)
    standing.let_fall(setup)
    return SavedOut(**_setup(setup).dict(), joined=joined)


@router.patch("/setups/{setup_id}", response={200: SetupOut, 404: ErrorOut, 422: ErrorOut})
def change_setup(request: HttpRequest, setup_id: int, payload: SetupIn) -> SetupOut:
    """Rename a setup, make it the baseline, or say that the machine is in it now."""
    setup = services.setup_of(request.user, setup_id)
    if payload.name is not None:
        setup.name = services.check_name(payload.name, "setup")
        setup.save(update_fields=["name"])
    if payload.is_baseline:
        services.make_baseline(setup)
    if payload.in_use:
        services.use_setup(setup)
    return _setup(setup)


@router.delete("/setups/{setup_id}", response={204: None, 404: ErrorOut, 409: ErrorOut})
def delete_setup(request: HttpRequest, setup_id: int) -> tuple[int, None]:
    """Put a setup nothing points at into the bin."""
    services.delete_setup(services.setup_of(request.user, setup_id), request.user)
    return 204, None


@router.get("/setups/{setup_id}/revisions", response={200: list[RevisionOut], 404: ErrorOut})
def revisions(
    request: HttpRequest, setup_id: int, skip: Annotated[int, Query(ge=0, le=1_000_000)] = 0, limit: Annotated[int, Query(ge=1, le=200)] = 100
) -> list[RevisionOut]:
    """A page of a setup's revisions, newest first."""
    setup = services.setup_of(request.user, setup_id)
    return [
        RevisionOut(number=r.number, created=r.created, label=r.label, author=r.by)
        for r in setup.revisions.select_related("author").defer("document")[skip : skip + limit]
    ]


@router.post("/setups/{setup_id}/restore", response={200: SetupOut, 404: ErrorOut, 409: ConflictOut})
def restore(request: HttpRequest, setup_id: int, payload: RestoreIn) -> SetupOut:
    """Bring an older revision back as a new one."""
    setup = services.restore(setup_id, request.user, payload.number, payload.based_on)
    standing.let_fall(setup)
    return _setup(setup)


@router.get("/setups/{setup_id}/latest", response={200: LatestOut, 404: ErrorOut})
def get_latest(request: HttpRequest, setup_id: int) -> LatestOut:
    """What an open page asks again and again: whether somebody saved elsewhere, who and what."""
    setup = services.setup_of(request.user, setup_id)
    newest, before = services.newest_two(setup)
    return LatestOut(version=setup.version, by=newest.by, when=setup.updated, changed=services.changed_parts(before, newest))


@router.get("/setups/{setup_id}/standing", response={200: Standing, 404: ErrorOut})
def get_standing(request: HttpRequest, setup_id: int) -> Standing:
    """What stands open of a saved setup, and which steps that locks."""
    return standing.standing_of(services.setup_of(request.user, setup_id))


@router.put("/setups/{setup_id}/ticks/{step}", response={200: TickedOut, 404: ErrorOut, 409: ErrorOut, 422: ErrorOut})
def tick(request: HttpRequest, setup_id: int, step: str, payload: TickIn) -> TickedOut:
    """Tick a step with the value measured; 409 with every reason while it is locked."""
    row, judgement = ticks.tick(services.setup_of(request.user, setup_id), step, payload.measured, payload.measured_open, request.user.get_username())
    return TickedOut(tick=_tick(row), judgement=judgement)


@router.delete("/setups/{setup_id}/ticks/{step}", response={204: None, 404: ErrorOut})
def untick(request: HttpRequest, setup_id: int, step: str) -> tuple[int, None]:
    """Take a tick back."""
    services.setup_of(request.user, setup_id).ticks.filter(step=step).delete()
    return 204, None


@router.put("/setups/{setup_id}/overrules", response={200: OverruleOut, 404: ErrorOut, 422: ErrorOut})
def overrule(request: HttpRequest, setup_id: int, payload: OverruleIn) -> OverruleOut:
    """Overrule a stop with a reason, at its present numbers."""
    return _overrule(standing.say(services.setup_of(request.user, setup_id), request.user, "overruled", payload.finding, payload.reason))


@router.put("/setups/{setup_id}/observations", response={200: OverruleOut, 404: ErrorOut, 422: ErrorOut})
def observe(request: HttpRequest, setup_id: int, payload: ObservationIn) -> OverruleOut:
    """Close a stop that only has to be looked at with what was seen."""
    return _overrule(standing.say(services.setup_of(request.user, setup_id), request.user, "observed", payload.finding, payload.text))


@router.delete("/setups/{setup_id}/overrules/{finding}", response={204: None, 404: ErrorOut})
def take_back_overrule(request: HttpRequest, setup_id: int, finding: str) -> tuple[int, None]:
    """Take back what was said to a stop."""
    standing.withdraw(services.setup_of(request.user, setup_id), request.user, finding)
    return 204, None


@router.get("/builds/{build_id}/troubles", response={200: list[Trouble], 404: ErrorOut})
def troubles(request: HttpRequest, build_id: int) -> list[Trouble]:
    """What to do when it goes wrong, with the switches of this machine."""
    return incidents.troubles(services.build_of(request.user, build_id))


@router.get("/troubles", response=list[Trouble])
def general_troubles(request: HttpRequest) -> list[Trouble]:  # noqa: ARG001
    """What to do when it goes wrong, in general words."""
    return incidents.troubles(None)


@router.get("/builds/{build_id}/incidents", response={200: list[IncidentOut], 404: ErrorOut})
def list_incidents(request: HttpRequest, build_id: int) -> list[IncidentOut]:
    """What went wrong with a build, newest first, up to 50."""
    return [_incident(row) for row in services.build_of(request.user, build_id).incidents.select_related("by")[:50]]


@router.post("/builds/{build_id}/incidents", response={200: IncidentOut, 404: ErrorOut, 422: ErrorOut})
def write_incident(request: HttpRequest, build_id: int, payload: IncidentIn) -> IncidentOut:
    """Write down that something went wrong; its checks hold the machine up until they are done."""
    return _incident(incidents.open_incident(services.build_of(request.user, build_id), request.user, payload.kind, payload.note, payload.done, sent_as(request)))


@router.put("/builds/{build_id}/incidents/{incident_id}/checks/{key}", response={200: IncidentOut, 404: ErrorOut, 422: ErrorOut})
def check_incident(request: HttpRequest, build_id: int, incident_id: int, key: str, payload: CheckIn) -> IncidentOut:
    """Say of one check what was seen."""
    return _incident(incidents.close_check(services.build_of(request.user, build_id), request.user, incident_id, key, payload.seen))
