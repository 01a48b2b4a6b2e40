"""A build as one open JSON file: out, and in again, validated whole before anything is written."""

from __future__ import annotations

from typing import Any, Literal

from django.db import transaction
from pydantic import BaseModel, ConfigDict, Field, ValidationError

from gecko.errors import field_problems
from gecko.evaluation import Gate
from gecko.setup import load_setup
from server.builds.models import Build, Incident, Overrule, Revision, Setup, Tick
from server.builds.services import MOST_SETUPS
from server.errors import Refused
from server.garage.models import Garage
from server.logbook.models import JournalEntry, Trial
from server.logbook.services import reduced
from server.parsing import Moment

FORMAT = "plucky gecko build"
VERSION = 1

MOST_ROWS = 50_000
"""More revisions, trials or entries than anybody makes in a life of building: what is exported can always be read in again."""


class _Closed(BaseModel):
    model_config = ConfigDict(extra="forbid")


class RevisionFile(_Closed):
    """A revision in the file."""

    number: int = Field(ge=1)
    created: Moment
    label: str = Field(default="", max_length=80)
    author: str = Field(default="", max_length=150)
    document: dict[str, Any]


class TickFile(_Closed):
    """A done step in the file."""

    step: str = Field(max_length=40)
    revision: int
    mark: str = Field(default="", max_length=12)
    measured: float | None = None
    measured_open: bool = False
    fits: bool = True
    created: Moment | None = None


class OverruleFile(_Closed):
    """An overruled stop in the file."""

    finding: str = Field(max_length=60)
    title: str = Field(max_length=120)
    reason: str = Field(max_length=500)
    revision: int
    kind: Literal["overruled", "observed"] = "overruled"
    asked: float | None = None
    stands: float | None = None
    unit: str = Field(default="", max_length=12)
    by: str = Field(default="", max_length=150)
    created: Moment | None = None
    fallen: Moment | None = None


class SetupFile(_Closed):
    """A setup in the file, with all its history."""

    key: str = Field(max_length=20)
    name: str = Field(min_length=1, max_length=60)
    is_baseline: bool = False
    in_use: bool = False
    as_found: bool | None = None
    document: dict[str, Any]
    revisions: list[RevisionFile] = Field(min_length=1, max_length=MOST_ROWS)
    ticks: list[TickFile] = Field(default=[], max_length=200)
    overrules: list[OverruleFile] = Field(default=[], max_length=1000)


class PassFile(_Closed):
    """A timed pass in the file."""

    distance_m: float = Field(gt=0, le=100_000)
    time_s: float = Field(gt=0, le=100_000)
    direction: Literal["out", "back"] = "out"


class TrialFile(_Closed):
    """A trial in the file."""

    setup: str
    revision: int
    when: Moment
    passes: list[PassFile] = Field(min_length=1, max_length=100)
    knob: float | None = Field(default=None, gt=0, le=1)
    surface: str = Field(default="", max_length=20)
    grade: float | None = None
    volts_before_v: float | None = None
    volts_after_v: float | None = None
    motor_c: float | None = None
    note: str = Field(default="", max_length=300)


class JournalFile(_Closed):
    """A journal entry in the file."""

    when: Moment
    kind: str = Field(max_length=20)
    text: str = Field(min_length=1, max_length=1000)
    setup: str | None = None


class IncidentCheckFile(_Closed):
    """A check of an incident in the file."""

    key: str = Field(max_length=20)
    text: str = Field(max_length=200)
    gate: Gate
    by: str = Field(default="", max_length=150)
    when: str = Field(default="", max_length=40)
    seen: str = Field(default="", max_length=300)


class IncidentFile(_Closed):
    """Something that went wrong, in the file."""

    kind: str = Field(max_length=20)
    note: str = Field(default="", max_length=500)
    created: Moment
    checks: list[IncidentCheckFile] = Field(default=[], max_length=20)


class BuildFile(_Closed):
    """The whole file."""

    format: Literal["plucky gecko build"]
    version: Literal[1]
    name: str = Field(min_length=1, max_length=60)
    family: str = Field(max_length=20)
    description: str = Field(default="", max_length=200)
    setups: list[SetupFile] = Field(min_length=1, max_length=MOST_SETUPS)
    trials: list[TrialFile] = Field(default=[], max_length=MOST_ROWS)
    journal: list[JournalFile] = Field(default=[], max_length=MOST_ROWS)
    incidents: list[IncidentFile] = Field(default=[], max_length=5000)


def export_build(build: Build) -> dict[str, Any]:
    """The build as a document of the open format (docs/formats.md)."""
    setups = list(build.setups.prefetch_related("revisions__author", "ticks__revision", "overrules__revision", "overrules__by"))
    keys = {setup.pk: f"s{i + 1}" for i, setup in enumerate(setups)}
    file = BuildFile(
        format=FORMAT,
        version=VERSION,
        name=build.name,
        family=build.family,
        description=build.description,
        setups=[_setup_file(setup, keys[setup.pk]) for setup in setups],
        trials=[
            TrialFile(
                setup=keys[t.setup_id],
                revision=t.revision.number,
                when=t.when,
                passes=t.passes,
                knob=t.knob,
                surface=t.surface,
                grade=t.grade,
                volts_before_v=t.volts_before_v,
                volts_after_v=t.volts_after_v,
                motor_c=t.motor_c,
                note=t.note,
            )
            for t in build.trials.select_related("revision")
        ],
        journal=[JournalFile(when=j.when, kind=j.kind, text=j.text, setup=keys.get(j.setup_id) if j.setup_id else None) for j in build.journal.all()],
        incidents=[IncidentFile(kind=i.kind, note=i.note, created=i.created, checks=[IncidentCheckFile(**check) for check in i.checks]) for i in build.incidents.all()],
    )
    return file.model_dump(mode="json")


def _setup_file(setup: Setup, key: str) -> SetupFile:
    return SetupFile(
        key=key,
        name=setup.name,
        is_baseline=setup.is_baseline,
        in_use=setup.in_use,
        as_found=setup.as_found,
        document=setup.document,
        revisions=[
            RevisionFile(number=r.number, created=r.created, label=r.label, author=r.by, document=r.document)
            for r in sorted(setup.revisions.all(), key=lambda r: r.number)
        ],
        ticks=[
            TickFile(step=t.step, revision=t.revision.number, mark=t.mark, measured=t.measured, measured_open=t.measured_open, fits=t.fits, created=t.created)
            for t in setup.ticks.all()
        ],
        overrules=[
            OverruleFile(
                finding=o.finding,
                title=o.title,
                reason=o.reason,
                revision=o.revision.number,
                kind="observed" if o.kind == "observed" else "overruled",
                asked=o.asked,
                stands=o.stands,
                unit=o.unit,
                by=o.whose,
                created=o.created,
                fallen=o.fallen,
            )
            for o in setup.overrules.all()
        ],
    )


def _problems(file: BuildFile) -> list[dict[str, str]]:
    """What the shape alone does not show: documents, references, doubles."""
    found: list[dict[str, str]] = []
    numbers: dict[str, set[int]] = {}
    for i, setup in enumerate(file.setups):
        if setup.key in numbers:
            found.append({"path": f"/setups/{i}/key", "message": f"The key {setup.key} is used twice."})
        numbers[setup.key] = {r.number for r in setup.revisions}
        if len(numbers[setup.key]) != len(setup.revisions):
            found.append({"path": f"/setups/{i}/revisions", "message": "A revision number is used twice."})
        for place, document in [
            (f"/setups/{i}/document", setup.document),
            *((f"/setups/{i}/revisions/{k}/document", r.document) for k, r in enumerate(setup.revisions)),
        ]:
            try:
                load_setup(document)
            except ValidationError as error:
                found += [{"path": place + p["path"], "message": p["message"]} for p in field_problems(error)]
        for name in ("ticks", "overrules"):
            for k, item in enumerate(getattr(setup, name)):
                if item.revision not in numbers[setup.key]:
                    found.append({"path": f"/setups/{i}/{name}/{k}/revision", "message": f"There is no revision {item.revision} of this setup."})
    if sum(setup.is_baseline for setup in file.setups) > 1:
        found.append({"path": "/setups", "message": "Only one setup can be the baseline."})
    for i, trial in enumerate(file.trials):
        if trial.setup not in numbers:
            found.append({"path": f"/trials/{i}/setup", "message": f"There is no setup {trial.setup} in this file."})
        elif trial.revision not in numbers[trial.setup]:
            found.append({"path": f"/trials/{i}/revision", "message": f"There is no revision {trial.revision} of setup {trial.setup}."})
    found += [
        {"path": f"/journal/{i}/setup", "message": f"There is no setup {entry.setup} in this file."}
        for i, entry in enumerate(file.journal)
        if entry.setup is not None and entry.setup not in numbers
    ]
    return found


def read_build_file(document: Any) -> BuildFile:
    """Validate a file whole. Raises Refused with the list of what is wrong and where; nothing is written here."""
    if not isinstance(document, dict) or document.get("format") != FORMAT:
        raise Refused("This is not a build file: it does not say it is one.", code="import_invalid", field="/format", hint="Export a build to see the form of the file.")
    if document.get("version") != VERSION:
        raise Refused(f"This file is of version {document.get('version')}; this server reads version {VERSION}.", code="import_invalid", field="/version")
    try:
        file = BuildFile.model_validate(document)
    except ValidationError as error:
        problems = field_problems(error)
    else:
        problems = _problems(file)
        if not problems:
            return file
    raise Refused(
        f"The file has {len(problems)} {'mistake' if len(problems) == 1 else 'mistakes'}; nothing was imported.",
        code="import_invalid",
        field=problems[0]["path"],
        problems=problems[:100],
    )


def _signed(field: str, name: str, user: Any) -> dict[str, Any]:
    """Who did it, as the file says: an account here only where it is the reader's own; files of before said nothing, and are the reader's."""
    own = not name or name == user.get_username()
    return {field: user if own else None, f"{field}_name": name or user.get_username()}


@transaction.atomic
def import_build(garage: Garage, user: Any, document: Any) -> Build:
    """Read a build file into a garage. Raises Refused with everything that is wrong, and then nothing has changed."""
    file = read_build_file(document)
    build = Build.objects.create(garage=garage, name=file.name, family=file.family, description=file.description)
    revisions: dict[tuple[str, int], Revision] = {}
    setups: dict[str, Setup] = {}
    for position, entry in enumerate(file.setups):
        setup = Setup.objects.create(
            build=build,
            name=entry.name,
            position=position,
            is_baseline=entry.is_baseline,
            in_use=entry.in_use,
            # A file from before the machine as found was kept apart: its baseline was it.
            as_found=entry.is_baseline if entry.as_found is None else entry.as_found,
            document=load_setup(entry.document).model_dump(mode="json"),
            version=max(r.number for r in entry.revisions),
        )
        setups[entry.key] = setup
        for r in entry.revisions:
            revisions[entry.key, r.number] = Revision.objects.create(
                setup=setup, number=r.number, document=r.document, label=r.label, created=r.created, **_signed("author", r.author, user)
            )
        Tick.objects.bulk_create(
            Tick(setup=setup, revision=revisions[entry.key, t.revision], step=t.step, mark=t.mark, measured=t.measured, measured_open=t.measured_open, fits=t.fits)
            for t in entry.ticks
        )
        Overrule.objects.bulk_create(
            Overrule(
                setup=setup,
                revision=revisions[entry.key, o.revision],
                finding=o.finding,
                title=o.title,
                reason=o.reason,
                kind=o.kind,
                asked=o.asked,
                stands=o.stands,
                unit=o.unit,
                fallen=o.fallen,
                **_signed("by", o.by, user),
            )
            for o in entry.overrules
        )
        # Of the moment it was done, not that of reading the file.
        for t in entry.ticks:
            if t.created is not None:
                setup.ticks.filter(step=t.step).update(created=t.created)
        for o in entry.overrules:
            if o.created is not None:
                setup.overrules.filter(finding=o.finding).update(created=o.created)
    for t in file.trials:
        passes = [p.model_dump() for p in t.passes]
        found = reduced(passes)
        Trial.objects.create(
            build=build,
            setup=setups[t.setup],
            revision=revisions[t.setup, t.revision],
            when=t.when,
            passes=passes,
            knob=t.knob,
            surface=t.surface,
            grade=t.grade,
            volts_before_v=t.volts_before_v,
            volts_after_v=t.volts_after_v,
            motor_c=t.motor_c,
            note=t.note,
            speed_m_s=found.speed_m_s,
            half_width_m_s=found.half_width_m_s,
        )
    for i in file.incidents:
        row = Incident.objects.create(build=build, kind=i.kind, note=i.note, by=user, checks=[check.model_dump() for check in i.checks])
        # The moment it happened, not that of reading the file.
        Incident.objects.filter(pk=row.pk).update(created=i.created)
    JournalEntry.objects.bulk_create(
        JournalEntry(build=build, setup=setups.get(j.setup) if j.setup else None, when=j.when, kind=j.kind, text=j.text) for j in file.journal
    )
    return build
