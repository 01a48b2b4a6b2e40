"""The open files of a build and of a garage, as shapes (docs/formats.md). Lists that grow for years are read and written row by row."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from gecko.answers.evaluation import Gate
from gecko.document.rack.about import PartPrice
from gecko.plans.care.pack_life import EntryKind
from server.builds.services import MOST_SETUPS
from server.garage.models import Role
from server.garage.part_log import MOST_ENTRIES, Source
from server.parsing import Moment

BUILD_FORMAT, GARAGE_FORMAT = "plucky gecko build", "plucky gecko garage"
VERSION = 1
GARAGE_FILE = "garage.json"
"""The head of a garage's archive."""

MOST_ROWS = 50_000
"""More revisions of a setup, trials or entries than anybody makes in a life of building: what is exported can always be read in again."""

Elsewhere = Annotated[list[Any], Field(default=[], max_length=0)]
"""A list whose rows are read one by one, beside the head."""


class _Closed(BaseModel):
    model_config = ConfigDict(extra="forbid")


class RevisionFile(_Closed):
    """A revision in the file."""

    number: int = Field(ge=1, le=10**9)
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
    excused: bool = False
    created: Moment | None = None


class CompletedFile(_Closed):
    """When every step of a setup was done last."""

    revision: int
    steps: list[Annotated[str, Field(max_length=40)]] = Field(max_length=200)


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


class SetupHead(_Closed):
    """A setup in the file; its revisions follow row by row."""

    key: str = Field(max_length=20)
    name: str = Field(min_length=1, max_length=60)
    is_baseline: bool = False
    in_use: bool = False
    as_found: bool | None = None
    completed: CompletedFile | None = None
    document: dict[str, Any]
    ticks: list[TickFile] = Field(default=[], max_length=200)
    overrules: list[OverruleFile] = Field(default=[], max_length=1000)
    revisions: Elsewhere


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
    by: str = Field(default="", max_length=150)
    created: Moment
    checks: list[IncidentCheckFile] = Field(default=[], max_length=20)


class BuildHead(_Closed):
    """The file of a build without what follows row by row."""

    format: Literal["plucky gecko build"]
    version: Literal[1]
    name: str = Field(min_length=1, max_length=60)
    family: str = Field(max_length=20)
    description: str = Field(default="", max_length=200)
    new_price: PartPrice | None = None
    setups: list[SetupHead] = Field(min_length=1, max_length=MOST_SETUPS)
    trials: Elsewhere
    journal: Elsewhere
    incidents: Elsewhere


class MemberFile(_Closed):
    """Who belonged to a garage: a name, which opens no account."""

    name: str = Field(max_length=150)
    role: Role


class RiderFile(_Closed):
    """Somebody who rides."""

    document: dict[str, Any]


class EntryFile(_Closed):
    """A line of a part's log."""

    when: Moment
    kind: EntryKind
    value: float | None = None
    half: float | None = None
    text: str = Field(default="", max_length=300)
    source: Source = "by hand"
    by: str = Field(default="", max_length=150)


class RackPartFile(_Closed):
    """A part on the rack."""

    kind: str = Field(max_length=20)
    label: str = Field(max_length=80)
    quantity: int = Field(ge=0, le=999)
    document: dict[str, Any]
    key: str = Field(default="", max_length=40)
    """What setups know it by; older files know none."""
    letter: str = Field(default="", max_length=4)
    about: dict[str, Any] = {}
    log: list[EntryFile] = Field(default=[], max_length=MOST_ENTRIES)


class PhotoFile(_Closed):
    """A photo in the archive: its picture by its contents, and the one thing it shows. Builds, runs and entries are named by their place in the files, from 0."""

    sha: str = Field(pattern="^[0-9a-f]{64}$")
    part: str = Field(default="", max_length=40)
    build: int | None = Field(default=None, ge=0, le=10_000)
    setup: str = Field(default="", max_length=20)
    place: str = Field(default="", max_length=40)
    trial: int | None = Field(default=None, ge=0, le=10**6)
    entry: int | None = Field(default=None, ge=0, le=10**6)
    caption: str = Field(default="", max_length=120)
    when: Moment
    by: str = Field(default="", max_length=150)


class GarageHead(_Closed):
    """`garage.json` in the archive of a garage: all but its builds, which lie beside it as files of their own."""

    format: Literal["plucky gecko garage"]
    version: Literal[1]
    name: str = Field(min_length=1, max_length=60)
    exported: Moment
    units: dict[str, str] = {}
    house_rules: dict[str, Any] = {}
    emergency_number: str = Field(default="", max_length=20)
    members: list[MemberFile] = Field(default=[], max_length=1000)
    riders: list[RiderFile] = Field(default=[], max_length=MOST_ROWS)
    rack: list[RackPartFile] = Field(default=[], max_length=MOST_ROWS)
    photos: list[PhotoFile] = Field(default=[], max_length=MOST_ROWS)
    builds: list[str] = Field(default=[], max_length=10_000)
    """Names of the builds' files in the archive, in their order."""
