"""Reading a file that may be larger than memory: row by row, checked whole before anything is written."""

from __future__ import annotations

import zipfile
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from pathlib import Path
from typing import IO, Any, NamedTuple, TypeVar

import ijson
from pydantic import BaseModel, ValidationError

from gecko.common.errors import GeckoError, field_problems
from gecko.document.parts.rider import Rider
from gecko.document.setup import load_setup
from server.errors import Refused
from server.exchange.shapes import (
    BUILD_FORMAT,
    GARAGE_FILE,
    GARAGE_FORMAT,
    MOST_ROWS,
    VERSION,
    BuildHead,
    GarageHead,
    IncidentFile,
    JournalFile,
    RackPartFile,
    RevisionFile,
    TrialFile,
)
from server.garage.rack import check_about, check_part
from server.logbook.services import reduced
from server.parsing import DEEPEST, read_json

MOST_ROW = 8 * 2**20
"""Bytes of one row, and of what stands between rows."""

MOST_HEAD = 800_000
"""Fields of a file beside its rows: far more than the fullest build has."""

MOST_TOLD = 10
"""So many mistakes are told of each thing that is left out of an archive."""

TOLD = 100
"""So many mistakes are told; the rest is counted."""

REVISIONS = "setups.item.revisions.item"
TRIALS, JOURNAL, INCIDENTS = "trials.item", "journal.item", "incidents.item"
ROWS: dict[str, type[BaseModel]] = {REVISIONS: RevisionFile, TRIALS: TrialFile, JOURNAL: JournalFile, INCIDENTS: IncidentFile}
"""Where rows stand in a file, and their shapes."""

Shape = TypeVar("Shape", bound=BaseModel)


class Mistakes:
    """What is wrong with a file, and where; the first hundred are told."""

    def __init__(self) -> None:
        self.count = 0
        self.told: list[dict[str, str]] = []

    def add(self, path: str, message: str) -> None:
        """One more."""
        self.count += 1
        if len(self.told) < TOLD:
            self.told.append({"path": path, "message": message})

    def checked(self, path: str, shape: type[Shape], value: Any) -> Shape | None:
        """A value validated by a shape; None where it does not fit, with what is wrong noted."""
        try:
            return shape.model_validate(value)
        except ValidationError as error:
            self._of(path, error)
            return None

    def setup(self, path: str, document: Any) -> None:
        """Note what is wrong with a setup's document."""
        try:
            load_setup(document)
        except ValidationError as error:
            self._of(path, error)

    def part(self, path: str, file: RackPartFile) -> None:
        """Note what is wrong with a part of the rack."""
        try:
            check_part(file.kind, file.document)
        except Refused as refusal:
            self.add(path, refusal.message)
        except ValidationError as error:
            self._of(f"{path}/document", error)
        try:
            check_about(file.about)
        except ValidationError as error:
            self._of(f"{path}/about", error)

    def _of(self, path: str, error: ValidationError) -> None:
        for problem in field_problems(error):
            self.add(path + problem["path"], problem["message"])

    def refuse(self) -> None:
        """Raise Refused with all of it, where there is any."""
        if self.count:
            words = "1 mistake" if self.count == 1 else f"{self.count} mistakes"
            raise Refused(f"The file has {words}.", code="import_invalid", field=self.told[0]["path"], problems=self.told)


class Row(NamedTuple):
    """A row of a file: where rows of its kind stand, in which setup, which one, and its value."""

    place: str
    setup: int
    number: int
    value: Any

    @property
    def path(self) -> str:
        """Where it stands, as a JSON Pointer."""
        return "/" + self.place.replace("item", str(self.setup), self.place.count("item") - 1).replace("item", str(self.number)).replace(".", "/")


class Bounded:
    """A file that is read in order, with an eye on how much one row takes and on how far one is."""

    def __init__(self, file: IO[bytes], watch: Callable[[int], None]) -> None:
        self._file, self._watch = file, watch
        self._since_row = 0

    def read(self, size: int = -1) -> bytes:
        """The next bytes. Raises Refused where one row goes on for too long."""
        found = self._file.read(size)
        self._since_row += len(found)
        if self._since_row > MOST_ROW:
            raise Refused(f"A single row of this file has more than {MOST_ROW // 2**20} MB.", code="import_invalid", field="")
        self._watch(len(found))
        return found

    def row_ended(self) -> None:
        """A row is whole."""
        self._since_row = 0


PIECE = 4096
"""So much of a file is taken apart at once. [B] Each level of nesting lengthens the place that is told with each value: 64 kB of brackets would fill
ten gigabytes before the first of them could be counted."""


def _sane(events: Iterator[tuple[str, str, Any]]) -> Iterator[tuple[str, str, Any]]:
    """The same events. Raises Refused for what is nested too deeply or is not JSON."""
    depth = 0
    try:
        for prefix, event, value in events:
            depth += event in ("start_map", "start_array")
            if depth > DEEPEST:
                raise Refused("This cannot be read: it is nested too deeply.", code="import_invalid", field="")
            yield prefix, event, value
            depth -= event in ("end_map", "end_array")
    except (ijson.JSONError, UnicodeDecodeError) as error:
        raise Refused("This is not JSON, or a number in it is too large: choose a file exported from here.", code="import_invalid", field="") from error


def rows_of(file: Bounded, wanted: frozenset[str] = frozenset(ROWS)) -> Iterator[Row]:
    """The wanted rows of a file in their order, and at the end the head: a row of no place with all the rest.

    Where only some kinds are wanted, the head is left out.
    """
    head, item, inside = ijson.ObjectBuilder(), None, ""
    counts: dict[tuple[str, int], int] = {}
    setup, fields = -1, 0
    for prefix, event, value in _sane(ijson.parse(file, use_float=True, buf_size=PIECE)):
        if prefix == "setups.item" and event == "start_map":
            setup += 1
        if not inside and prefix in ROWS and event not in ("end_map", "end_array"):
            inside, item = prefix, ijson.ObjectBuilder() if prefix in wanted else None
        if not inside:
            if len(wanted) == len(ROWS):
                fields += 1
                if fields > MOST_HEAD:
                    raise Refused("This file has more beside its rows than any build.", code="import_invalid", field="")
                head.event(event, value)
            continue
        if item is not None:
            item.event(event, value)
        if prefix == inside and event not in ("start_map", "start_array", "map_key"):
            file.row_ended()
            of = (inside, setup if inside == REVISIONS else 0)
            index = counts[of] = counts.get(of, -1) + 1
            if item is not None:
                yield Row(inside, of[1], index, item.value)
            inside, item = "", None
    if len(wanted) == len(ROWS):
        yield Row("", 0, 0, head.value)


@dataclass
class Checked:
    """A build's file that holds: its head, and whether revisions come before all that points at them."""

    head: BuildHead
    in_order: bool


@dataclass
class _Numbers:
    """What rows point at: revision numbers of each setup, and what pointed where."""

    revisions: dict[int, set[int]] = field(default_factory=dict)
    trials: list[tuple[str, int]] = field(default_factory=list)
    entries: list[tuple[int, str]] = field(default_factory=list)


def check_build(file: Bounded) -> Checked:
    """Read a build's file through. Raises Refused with everything that is wrong and where."""
    wrong, numbers, head = Mistakes(), _Numbers(), None
    in_order, last = True, REVISIONS
    for row in rows_of(file):
        if row.place:
            in_order &= row.place != REVISIONS or last == REVISIONS
            last = row.place
            _check_row(row, wrong, numbers)
        else:
            head = _check_head(row.value, wrong)
    if head is not None:
        _check_references(head, numbers, wrong)
    wrong.refuse()
    assert head is not None
    return Checked(head, in_order)


def _check_row(row: Row, wrong: Mistakes, numbers: _Numbers) -> None:
    if row.number == MOST_ROWS:
        wrong.add(row.path.rsplit("/", 1)[0], f"At most {MOST_ROWS} of these are read in.")
    if row.number >= MOST_ROWS:
        return
    found = wrong.checked(row.path, ROWS[row.place], row.value)
    if isinstance(found, RevisionFile):
        known = numbers.revisions.setdefault(row.setup, set())
        if found.number in known:
            wrong.add(f"{row.path}/number", f"The revision number {found.number} is used twice.")
        known.add(found.number)
        wrong.setup(f"{row.path}/document", found.document)
    elif isinstance(found, TrialFile):
        numbers.trials.append((found.setup, found.revision))
        try:
            reduced([one.model_dump() for one in found.passes])
        except GeckoError as error:
            wrong.add(f"{row.path}/passes", error.message)
    elif isinstance(found, JournalFile) and found.setup is not None:
        numbers.entries.append((row.number, found.setup))


def _known_form(value: Any, form: str, what: str) -> None:
    if not isinstance(value, dict) or value.get("format") != form:
        raise Refused(f"This is not a {what} file: it does not say it is one.", code="import_invalid", field="/format", hint="Export one to see the form of the file.")
    if value.get("version") != VERSION:
        raise Refused(f"This file is of version {value.get('version')}; this server reads version {VERSION}.", code="import_invalid", field="/version")


def _check_head(value: Any, wrong: Mistakes) -> BuildHead | None:
    _known_form(value, BUILD_FORMAT, "build")
    return wrong.checked("", BuildHead, value)


def _check_references(head: BuildHead, numbers: _Numbers, wrong: Mistakes) -> None:
    """What the shape alone does not show: documents, references, doubles."""
    keys: dict[str, set[int]] = {}
    for i, setup in enumerate(head.setups):
        if setup.key in keys:
            wrong.add(f"/setups/{i}/key", f"The key {setup.key} is used twice.")
        keys[setup.key] = known = numbers.revisions.get(i, set())
        if not known:
            wrong.add(f"/setups/{i}/revisions", "A setup has at least one revision.")
        wrong.setup(f"/setups/{i}/document", setup.document)
        said = {"ticks": [(one.step, one.revision) for one in setup.ticks], "overrules": [(one.finding, one.revision) for one in setup.overrules]}
        for name, items in said.items():
            for k, (called, revision) in enumerate(items):
                if revision not in known:
                    wrong.add(f"/setups/{i}/{name}/{k}/revision", f"There is no revision {revision} of this setup.")
                if any(called == other for other, _ in items[:k]):
                    wrong.add(f"/setups/{i}/{name}/{k}", f"{called} stands here twice.")
    if sum(setup.is_baseline for setup in head.setups) > 1:
        wrong.add("/setups", "Only one setup can be the baseline.")
    for k, (key, number) in enumerate(numbers.trials):
        if key not in keys:
            wrong.add(f"/trials/{k}/setup", f"There is no setup {key} in this file.")
        elif number not in keys[key]:
            wrong.add(f"/trials/{k}/revision", f"There is no revision {number} of setup {key}.")
    for k, key in numbers.entries:
        if key not in keys:
            wrong.add(f"/journal/{k}/setup", f"There is no setup {key} in this file.")


class LeftOut(NamedTuple):
    """The parts of an archive that cannot be read, and why. The rest comes in."""

    file: str
    message: str
    problems: list[dict[str, str]]

    @classmethod
    def of(cls, file: str, what: str, wrong: Mistakes) -> LeftOut:
        """With the first of its mistakes."""
        return cls(file, f"{what} cannot be read.", wrong.told[:MOST_TOLD])


def check_garage(archive: zipfile.ZipFile) -> tuple[GarageHead, list[LeftOut]]:
    """The head of a garage's archive with the riders and parts that can be read, and those that cannot. Raises Refused with what is wrong with the
    head itself and where."""
    names = set(archive.namelist())
    if GARAGE_FILE not in names:
        raise Refused(f"This is not the archive of a garage: it has no {GARAGE_FILE}.", code="import_invalid", field="")
    if archive.getinfo(GARAGE_FILE).file_size > 2 * MOST_ROW:
        raise Refused(f"{GARAGE_FILE} has more than {2 * MOST_ROW // 2**20} MB.", code="import_invalid", field=GARAGE_FILE)
    with archive.open(GARAGE_FILE) as file:
        value = read_json(file.read(2 * MOST_ROW))
    _known_form(value, GARAGE_FORMAT, "garage")
    wrong = Mistakes()
    head = wrong.checked(GARAGE_FILE, GarageHead, value)
    if head is not None:
        left = names - {GARAGE_FILE}
        for k, name in enumerate(head.builds):
            if name not in left:
                wrong.add(f"{GARAGE_FILE}/builds/{k}", f"There is no file {name} in this archive, or it stands here twice.")
            left.discard(name)
    wrong.refuse()
    assert head is not None
    return _readable(head)


def _readable(head: GarageHead) -> tuple[GarageHead, list[LeftOut]]:
    """A head without the riders and parts that cannot be read, and these."""
    riders, rack, left_out = [], [], []
    for k, rider in enumerate(head.riders):
        wrong, at = Mistakes(), f"{GARAGE_FILE}/riders/{k}"
        found = wrong.checked(f"{at}/document", Rider, rider.document)
        if found is not None and not found.name.strip():
            wrong.add(f"{at}/document/name", "A rider needs a name.")
        if wrong.count:
            left_out.append(LeftOut.of(at, f"The rider {str(rider.document.get('name', ''))[:60] or k + 1}", wrong))
        else:
            riders.append(rider)
    for k, part in enumerate(head.rack):
        wrong, at = Mistakes(), f"{GARAGE_FILE}/rack/{k}"
        wrong.part(at, part)
        if wrong.count:
            left_out.append(LeftOut.of(at, f"The part {part.label or k + 1}", wrong))
        else:
            rack.append(part)
    return head.model_copy(update={"riders": riders, "rack": rack}), left_out


def is_archive(path: Path) -> bool:
    """Whether a file is a zip rather than JSON."""
    with path.open("rb") as file:
        return file.read(4) in (b"PK\x03\x04", b"PK\x05\x06")
