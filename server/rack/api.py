"""The rack: parts of one's own."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from django.http import HttpRequest, HttpResponse
from ninja import Field, Query, Router, Schema
from pydantic import TypeAdapter

from gecko.answers.evaluation import Out
from gecko.common.documents import AboutDocument, PartDocument, SetupDocument
from gecko.document.parts.held import OnRack
from gecko.document.rack.about import About, Meaning, meanings, verdict
from gecko.document.rack.kinds import ONE_BY_ONE
from gecko.document.rack.slots import as_slot
from gecko.document.rack.table import MOST_CHARACTERS, write_table
from gecko.plans.care.pack_life import EntryKind, PackLife
from gecko.plans.kits import KitFit
from server.errors import ErrorOut
from server.garage import part_log, rack
from server.garage.models import PartEntry, RackPart
from server.garage.services import garage_of
from server.parsing import Moment
from server.rack import services

router = Router(tags=["rack"])


class OutOfPlans(Out):
    """Why a part is out of every plan, what to do, and what would bring it back (empty: nothing)."""

    title: str
    because: str
    do: str
    clears: str


class RackPartOut(Out):
    """A part on the rack. document: as a slot of a setup takes it in, with which part it is."""

    id: int
    key: str
    letter: str
    kind: str
    single: bool
    """Each piece is a part of its own."""
    label: str
    document: PartDocument
    quantity: int
    about: AboutDocument
    out: OutOfPlans | None


class RackPartIn(Schema):
    """A part as somebody tells it."""

    kind: str = Field(max_length=20)
    label: str = Field(default="", max_length=80)
    document: PartDocument
    quantity: int = Field(default=1, ge=0, le=999)
    about: AboutDocument = {}

    def told(self) -> rack.Told:
        """The same as the rack takes it."""
        return rack.Told(kind=self.kind, label=self.label, document=self.document, quantity=self.quantity, about=self.about)


class RackPartChange(RackPartIn):
    """A part as it is now, and the setups whose copy follows."""

    letter: str | None = Field(default=None, max_length=4)
    follow: list[int] = Field(default=[], max_length=200)


class KitIn(Schema):
    """A draft a kit is to go into, and the build it belongs to."""

    setup: SetupDocument
    build_id: int | None = None
    bare: bool = False
    """The draft's electric parts are yet to come: nothing is left over, and what the kit does not bring is lacking."""


class TakeOutIn(Schema):
    """Which part of a kit, by its place in the list, from 0."""

    number: int = Field(ge=0, le=39)


class TableIn(Schema):
    """A table as text."""

    text: str = Field(max_length=MOST_CHARACTERS + 1)


class UseOut(Schema):
    """A setup that holds a part."""

    setup: int
    setup_name: str
    build: int
    build_name: str
    in_use: bool


class LogLineIn(Schema):
    """A line for a part's log: a reading in the unit of its kind [Ah, Ω, V, Ah put back] with half of its 95 % interval, or words."""

    kind: EntryKind
    value: float | None = Field(default=None, gt=0, le=100_000, allow_inf_nan=False)
    half: float | None = Field(default=None, ge=0, le=100_000, allow_inf_nan=False)
    text: str = Field(default="", max_length=300)
    when: Moment | None = None


class LogLineOut(Schema):
    """A line of a part's log."""

    id: int
    kind: EntryKind
    value: float | None
    half: float | None
    text: str
    when: datetime
    source: part_log.Source
    by_name: str


_PARTS = TypeAdapter(list[RackPartOut])
_NOTHING_KNOWN = About()


def part_out(part: RackPart) -> RackPartOut:
    """A part for the page; what an older program kept and this one cannot read is told as it is, and is out of nothing."""
    about = About.model_validate(part.about) if part.about else _NOTHING_KNOWN
    found = verdict(part.kind, about) if part.about else None
    # Nothing here comes from outside: each was read when it was kept, and a rack has thousands.
    named = OnRack.model_construct(key=part.key, label=part.label, letter=part.letter)
    return RackPartOut.model_construct(
        id=part.pk,
        key=part.key,
        letter=part.letter,
        kind=part.kind,
        single=part.kind in ONE_BY_ONE,
        label=part.label,
        document=as_slot(part.kind, part.document, named, about),
        quantity=part.quantity,
        about=part.about,
        out=OutOfPlans(title=found.title, because=found.because, do=found.do, clears=found.clears) if found is not None and found.out else None,
    )


@router.get("/garages/{garage_id}/rack", response={200: list[RackPartOut], 404: ErrorOut})
def parts(request: HttpRequest, garage_id: int) -> HttpResponse:
    """Every part of the rack, the kinds one after another."""
    found = [part_out(part) for part in garage_of(request.user, garage_id).rack.order_by("kind", "pk")]
    # Sent as it is: validating thousands of parts a second time would cost more than reading them.
    return HttpResponse(_PARTS.dump_json(found), content_type="application/json")


@router.get("/garages/{garage_id}/rack.csv", response={200: str, 404: ErrorOut})
def as_table(request: HttpRequest, garage_id: int) -> HttpResponse:
    """The rack as a table."""
    answer = HttpResponse(write_table(rack.racked(garage_of(request.user, garage_id))), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = 'attachment; filename="rack.csv"'
    return answer


@router.post("/garages/{garage_id}/rack/table", response={200: list[RackPartOut], 404: ErrorOut, 422: ErrorOut})
def read_in(request: HttpRequest, garage_id: int, payload: TableIn) -> list[RackPartOut]:
    """Put the parts of a table on the rack: all of them, or none where a line is wrong."""
    return [part_out(part) for part in services.read_in(garage_of(request.user, garage_id), payload.text)]


@router.post("/garages/{garage_id}/rack", response={200: list[RackPartOut], 404: ErrorOut, 422: ErrorOut})
def add_part(request: HttpRequest, garage_id: int, payload: RackPartIn) -> list[RackPartOut]:
    """Put parts on the rack: of what is a thing of its own as many as said, each with its sticker."""
    return [part_out(part) for part in rack.add_parts(garage_of(request.user, garage_id), payload.told())]


@router.get("/garages/{garage_id}/rack/{part_id}", response={200: RackPartOut, 404: ErrorOut})
def one_part(request: HttpRequest, garage_id: int, part_id: int) -> RackPartOut:
    """A part of the rack."""
    return part_out(rack.part_of(garage_of(request.user, garage_id), part_id))


@router.put("/garages/{garage_id}/rack/{part_id}", response={200: RackPartOut, 404: ErrorOut, 409: ErrorOut, 422: ErrorOut})
def change_part(request: HttpRequest, garage_id: int, part_id: int, payload: RackPartChange) -> RackPartOut:
    """Change a part, and its copies in the setups that are to follow."""
    part = rack.part_of(garage_of(request.user, garage_id), part_id)
    return part_out(services.change(part, request.user, payload.told(), payload.letter, payload.follow))


@router.delete("/garages/{garage_id}/rack/{part_id}", response={204: None, 404: ErrorOut})
def remove_part(request: HttpRequest, garage_id: int, part_id: int) -> tuple[int, None]:
    """Take a part off the rack, into the bin."""
    rack.part_of(garage_of(request.user, garage_id), part_id).to_bin(request.user)
    return 204, None


@router.get("/garages/{garage_id}/rack/{part_id}/uses", response={200: list[UseOut], 404: ErrorOut})
def uses(request: HttpRequest, garage_id: int, part_id: int) -> list[services.Use]:
    """Setups that hold a part."""
    return services.uses_of(rack.part_of(garage_of(request.user, garage_id), part_id))


@router.post("/garages/{garage_id}/rack/{part_id}/fit", response={200: KitFit, 404: ErrorOut, 422: ErrorOut})
def fit(request: HttpRequest, garage_id: int, part_id: int, payload: KitIn) -> HttpResponse:
    """A machine with a kit of the rack in it, and what it lacks, has twice or leaves over. Nothing is changed."""
    part = rack.part_of(garage_of(request.user, garage_id), part_id)
    return HttpResponse(services.fit(part, request.user, payload.setup, payload.build_id, bare=payload.bare), content_type="application/json")


@router.post("/garages/{garage_id}/rack/{part_id}/take-out", response={200: list[RackPartOut], 404: ErrorOut, 409: ErrorOut, 422: ErrorOut})
def take_out(request: HttpRequest, garage_id: int, part_id: int, payload: TakeOutIn) -> list[RackPartOut]:
    """Take a part out of a kit: it is a part of the rack by itself from then on."""
    return [part_out(one) for one in services.take_out(rack.part_of(garage_of(request.user, garage_id), part_id), payload.number)]


@router.get("/garages/{garage_id}/rack/{part_id}/log", response={200: list[LogLineOut], 404: ErrorOut})
def log(
    request: HttpRequest, garage_id: int, part_id: int, skip: Annotated[int, Query(ge=0, le=1_000_000)] = 0, limit: Annotated[int, Query(ge=1, le=200)] = 50
) -> list[PartEntry]:
    """A page of a part's log, the newest line first."""
    return list(rack.part_of(garage_of(request.user, garage_id), part_id).log.all()[skip : skip + limit])


@router.post("/garages/{garage_id}/rack/{part_id}/log", response={200: LogLineOut, 404: ErrorOut, 422: ErrorOut})
def write_line(request: HttpRequest, garage_id: int, part_id: int, payload: LogLineIn) -> PartEntry:
    """Write a line into a part's log."""
    part = rack.part_of(garage_of(request.user, garage_id), part_id)
    told = payload.model_dump()
    return part_log.add_entry(part, told.pop("kind"), **told, by=request.user.get_username())


@router.delete("/garages/{garage_id}/rack/{part_id}/log/{entry_id}", response={204: None, 404: ErrorOut})
def remove_line(request: HttpRequest, garage_id: int, part_id: int, entry_id: int) -> tuple[int, None]:
    """Put a line of a part's log into the bin."""
    part_log.entry_of(rack.part_of(garage_of(request.user, garage_id), part_id), entry_id).to_bin(request.user)
    return 204, None


@router.get("/garages/{garage_id}/rack/{part_id}/life", response={200: PackLife | None, 404: ErrorOut})
def life(request: HttpRequest, garage_id: int, part_id: int) -> PackLife | None:
    """A pack over its life, by its log; none for what is no pack."""
    return part_log.life_of(rack.part_of(garage_of(request.user, garage_id), part_id))


@router.get("/mishaps/{kind}", response=list[Meaning])
def mishaps(request: HttpRequest, kind: str) -> list[Meaning]:  # noqa: ARG001
    """What may happen to a part of a kind, what it means, and what to do."""
    return list(meanings(kind).values())
