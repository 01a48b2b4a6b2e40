"""Evaluate, ranges, fixes, hookup, arrangements: thin doors to the core."""

from __future__ import annotations

from contextlib import suppress
from typing import Annotated, Any, Literal

from django.http import HttpRequest, HttpResponse
from ninja import Field, Query, Router, Schema
from pydantic import TypeAdapter, ValidationError

from gecko.analysis.measure import capacity_ah, resistance_ohm
from gecko.answers.evaluation import Evaluation, FindingFixes, Ranges
from gecko.common.documents import CourseDocument, PackDocument, PartDocument, ReadingDocument, SituationDocument
from gecko.common.documents import SetupDocument as SetupJson
from gecko.common.errors import field_problems
from gecko.document.catalogue import catalogue
from gecko.document.context import Context
from gecko.document.parts.course import Course
from gecko.document.parts.held import OnRack
from gecko.document.parts.hookup import PlugPair
from gecko.document.parts.pack import Pack
from gecko.document.rack.about import RackFact
from gecko.document.setup import Setup as SetupDocument
from gecko.document.setup import json_schema
from gecko.document.tracks import MOST_CHARACTERS, write_csv
from gecko.hookup.anywhere import Shown, Situation, shown
from gecko.hookup.crosswalk import EXTRA, FUNCTIONS, crosswalk_csv, read_crosswalk
from gecko.hookup.judgement import Judgement, judge
from gecko.hookup.shape import Reading
from gecko.hookup.ticks import Done, holding
from gecko.hookup.wire_list import wire_list_csv
from gecko.machine.courses import SHIPPED
from gecko.plans.arrangements import Offer, Shelf, typical_setup
from gecko.plans.care.charging import ChargePlan
from gecko.plans.drive.compare import CompareOut
from gecko.plans.drive.goals import GoalKind, GoalOut
from gecko.plans.drive.ways import ChangesOut, ChooserOut, DrivePlan
from gecko.plans.hookup import Hookup
from gecko.plans.parts_list import PartsOut, parts_csv
from gecko.plans.power import PowerPlan
from gecko.plans.prices import CostOut
from gecko.plans.protect import ProtectPlan
from gecko.plans.substitutes import Candidate, InsteadOut, Slot
from gecko.reference.tables import families, terms
from server.answers import kept
from server.builds.services import baseline_of, build_of, context_of, parts_to_buy, setup_of, stock_of, tried_of
from server.compute.jobs import CourseFileOut, Job, RememberedOut
from server.errors import ErrorOut, Refused
from server.garage.rack import brought, facts_of, part_of, racked
from server.garage.services import currency_of, garage_of, house_of, riders_of
from server.uploads import services as uploads

router = Router(tags=["engine"])
_OFFERS = TypeAdapter(list[Offer])


class DraftIn(Schema):
    """A draft to evaluate, with the build it belongs to (for baseline and house rules) or a baseline of its own."""

    setup: SetupJson
    build_id: int | None = None
    baseline: SetupJson | None = None
    is_baseline: bool = False


class MeterIn(Schema):
    """A draft, two of its terminals, and what is fitted and switched."""

    setup: SetupJson
    red: str
    black: str
    situation: SituationDocument = {}


class GoalIn(DraftIn):
    """A draft, and what it shall reach: a speed [m/s], a time of riding [s], or a grade (rise over run) [1]."""

    kind: GoalKind
    value: float = Field(gt=0, le=360_000, allow_inf_nan=False)


class CandidateIn(Schema):
    """A part that may take the place of another."""

    name: str = Field(max_length=100)
    part: PartDocument


class InsteadIn(DraftIn):
    """A draft, one of its slots, and the parts that may take its place."""

    slot: Slot
    candidates: list[CandidateIn] = Field(min_length=1, max_length=6)


class TableIn(Schema):
    """A table as text."""

    text: str = Field(max_length=100_000)


class WiresIn(Schema):
    """A draft."""

    setup: SetupJson


class ShelfIn(Schema):
    """A kind of pack on the shelf."""

    pack: PackDocument
    count: int = Field(ge=1, le=12)
    names: list[OnRack] = Field(default=[], max_length=12)
    """Which parts of the rack they are, as far as they are some."""


class RememberedIn(Schema):
    """A machine as found, and how fast it went as bought. [m/s]"""

    setup: SetupJson
    speed_m_s: float = Field(gt=0, le=40, allow_inf_nan=False)


class OffersIn(Schema):
    """A baseline and the packs on the shelf."""

    baseline: SetupJson
    shelf: list[ShelfIn] = Field(max_length=6)
    bare: bool = False
    """Nothing electric is on the machine yet: its parts here are what is to go onto it."""
    garage_id: int | None = None
    """Whose rack its parts are on."""
    kit: int | None = None
    """A kit or a part of that rack which goes in, whatever the packs."""


class CompletedIn(Schema):
    """An arrangement with stops, and the machine it is for."""

    setup: SetupJson
    name: str = Field(default="", max_length=200)
    baseline: SetupJson
    garage_id: int | None = None


class OffersOut(Schema):
    """The baseline at a glance, and the arrangements beside it."""

    baseline: Offer
    offers: list[Offer]


class JudgeIn(Schema):
    """A reading and what the meter shows (null: OL)."""

    reading: ReadingDocument
    measured: float | None = None


class ProtectIn(DraftIn):
    """A draft, and the run whose table of fuse and wire is asked for."""

    run: str = Field(default="main", max_length=40)


class CompareIn(Schema):
    """Setups of one build to be held side by side; drafts, where the page has newer ones than the server."""

    setup_ids: list[int] = Field(min_length=2, max_length=6)
    drafts: dict[int, SetupJson] = {}


class CourseFileIn(Schema):
    """A GPX or CSV file, its text or the number of an upload, and what to call the course."""

    name: str = Field(default="Own course", max_length=60)
    text: str = Field(default="", max_length=MOST_CHARACTERS + 1)
    upload: int | None = None


class CourseIn(Schema):
    """A course."""

    course: CourseDocument


class MeasureIn(Schema):
    """Readings on a pack: volts at rest and under a known load, or a timed discharge between two states of charge."""

    pack: PackDocument
    what: Literal["resistance", "capacity"]
    amps_a: float = Field(ge=0, le=2000, allow_inf_nan=False)
    temp_c: float = Field(default=25.0, ge=-30, le=60)
    rest_v: float | None = Field(default=None, gt=0, le=200)
    load_v: float | None = Field(default=None, ge=0, le=200)
    seconds_s: float | None = Field(default=None, ge=0, le=400_000)
    start_charge: float = Field(default=1.0, ge=0, le=1)
    end_charge: float = Field(default=0.0, ge=0, le=1)


class MeasuredOut(Schema):
    """The figure that was won: resistance [Ω] or capacity [Ah], its relative spread, and a word of doubt."""

    value: float
    spread: float
    doubt: str


class HookupIn(DraftIn):
    """A draft with the steps done so far."""

    done: list[Done] = Field(default=[], max_length=200)


class HookupOut(Schema):
    """The plan, or none while there are no packs; and which of the steps done still hold."""

    plan: Hookup | None
    holding: list[str]


class TermOut(Schema):
    """A word of the trade: how it may stand in a sentence, and what it means."""

    words: list[str]
    says: str


class PartOut(Schema):
    """A ship-with part."""

    id: str
    label: str
    group: str
    """What it is listed under; parts of a group follow each other."""
    part: PartDocument


def _context(request: HttpRequest, draft: DraftIn) -> Context:
    baseline = kept.read(draft.baseline) if draft.baseline is not None else None
    if draft.build_id is None:
        return Context(baseline=baseline, is_baseline=draft.is_baseline)
    build = build_of(request.user, draft.build_id)
    # The machine as found is compared with nothing; a changed setup that was made the baseline still is.
    own = draft.is_baseline and build.setups.filter(is_baseline=True, as_found=True).exists()
    return Context(
        baseline=baseline or baseline_of(build),
        is_baseline=draft.is_baseline,
        stock=None if own else stock_of(build),
        house=house_of(build.garage),
        rack=facts_of(build.garage, draft.setup),
        tried=tried_of(build, draft.setup),
    )


def _rack(request: HttpRequest, garage_id: int | None, *documents: dict[str, Any]) -> tuple[RackFact, ...]:
    """What the rack of a garage knows of the parts in documents."""
    return () if garage_id is None else facts_of(garage_of(request.user, garage_id), *documents)


def _answer(kind: str, request: HttpRequest, payload: DraftIn, extra: Any = None) -> str:
    return kept.answer_json(Job(kind, kept.read(payload.setup), _context(request, payload), extra))


def _raw(text: str) -> HttpResponse:
    # The core's own JSON goes out as it is: validating it a second time would cost more than computing it.
    return HttpResponse(text, content_type="application/json")


@router.post("/evaluate", response={200: Evaluation, 422: ErrorOut})
def evaluate_draft(request: HttpRequest, payload: DraftIn) -> HttpResponse:
    """Evaluate a draft at its central values."""
    return _raw(kept.evaluation_json(kept.read(payload.setup), _context(request, payload)))


@router.post("/ranges", response={200: Ranges, 422: ErrorOut})
def ranges_of_draft(request: HttpRequest, payload: DraftIn) -> HttpResponse:
    """5–95 % ranges of a draft."""
    return _raw(_answer("ranges", request, payload))


@router.post("/fixes", response={200: list[FindingFixes], 422: ErrorOut})
def fixes_of_draft(request: HttpRequest, payload: DraftIn) -> HttpResponse:
    """Checked fixes of a draft's findings."""
    return _raw(_answer("fixes", request, payload))


@router.post("/power", response={200: PowerPlan, 422: ErrorOut})
def power_of_draft(request: HttpRequest, payload: DraftIn) -> HttpResponse:
    """The packs at depth: emptying, joining, slots, swap, cold, guard, bay."""
    return _raw(_answer("power", request, payload))


@router.post("/protect", response={200: ProtectPlan, 422: ErrorOut})
def protect_of_draft(request: HttpRequest, payload: ProtectIn) -> HttpResponse:
    """The wiring at depth: runs, joints, shorts, unfused stretches, pre-charge, and one run's table of fuse and wire."""
    return _raw(_answer("protect", request, payload, payload.run))


@router.post("/drive", response={200: DrivePlan, 422: ErrorOut})
def drive_of_draft(request: HttpRequest, payload: DraftIn) -> HttpResponse:
    """Driving at depth: launch, ride, heat, gears, hill, stop, turn, and every rider of the garage."""
    riders = riders_of(build_of(request.user, payload.build_id).garage) if payload.build_id is not None else []
    return _raw(kept.drive_json(kept.read(payload.setup), _context(request, payload), riders))


@router.post("/instead", response={200: InsteadOut, 422: ErrorOut})
def instead_of_a_part(request: HttpRequest, payload: InsteadIn) -> HttpResponse:
    """What each of several parts would be instead of the one in a slot: what is lost, what changes, what the checks say."""
    return _raw(_answer("instead", request, payload, (payload.slot, tuple(Candidate.of(payload.slot, one.name, one.part) for one in payload.candidates))))


@router.post("/drive/goal", response={200: GoalOut | None, 422: ErrorOut})
def goal_of_draft(request: HttpRequest, payload: GoalIn) -> HttpResponse:
    """What brings a draft to a speed, a time of riding or a hill, and what is to be bought for it; null while it does not move."""
    garage = build_of(request.user, payload.build_id).garage if payload.build_id is not None else None
    owned, currency = (racked(garage), currency_of(garage)) if garage is not None else ([], "USD")
    return _raw(_answer("goal", request, payload, (payload.kind, payload.value, owned, currency)))


@router.post("/drive/changes", response={200: ChangesOut, 422: ErrorOut})
def changes_of_draft(request: HttpRequest, payload: DraftIn) -> HttpResponse:
    """What holds a draft back, by trying every single change."""
    return _raw(_answer("changes", request, payload))


@router.post("/drive/sprockets", response={200: ChooserOut, 422: ErrorOut})
def sprockets_of_draft(request: HttpRequest, payload: DraftIn) -> HttpResponse:
    """Every sprocket one can buy for a draft, and other wheels."""
    return _raw(_answer("sprockets", request, payload))


def _of(name: str, document: dict[str, Any]) -> SetupDocument:
    """One of several setups. Raises Refused naming the one that cannot be read."""
    try:
        return kept.read(document)
    except ValidationError as error:
        problem = field_problems(error)[0]
        raise Refused(f"{name} cannot be compared: {problem['message']}", code="setup_invalid", field=problem["path"]) from error


@router.post("/compare", response={200: CompareOut, 404: ErrorOut, 422: ErrorOut})
def compare_setups(request: HttpRequest, payload: CompareIn) -> HttpResponse:
    """Setups side by side, the first one that the others are held against."""
    setups = [setup_of(request.user, setup_id) for setup_id in payload.setup_ids]
    if len({setup.build_id for setup in setups}) > 1:
        raise Refused("Compare setups of one build: the numbers of two machines say nothing about a change.", field="/setup_ids")
    documents = [_of(setup.name, payload.drafts.get(setup.pk, setup.document)) for setup in setups]
    return _raw(kept.compare_json([(setup.name, document, context_of(setup)) for setup, document in zip(setups, documents, strict=True)]))


@router.get("/courses", response=list[CourseDocument])
def shipped_courses(request: HttpRequest) -> list[CourseDocument]:  # noqa: ARG001
    """The courses that ship with the planner."""
    return [course.model_dump(mode="json") for course in SHIPPED]


@router.post("/courses/read", response={200: CourseFileOut, 404: ErrorOut, 409: ErrorOut, 422: ErrorOut})
def read_course_file(request: HttpRequest, payload: CourseFileIn) -> HttpResponse:
    """A course from a GPX track, an elevation profile or a table of stretches, and what had to be filled in."""
    text = payload.text
    if payload.upload is not None:
        upload = uploads.upload_of(request.user, payload.upload)
        text = kept.text_of(uploads.whole(upload))
        uploads.be_rid_of(upload)
    return _raw(kept.course_json(text, payload.name))


@router.post("/courses/csv", response={200: str, 422: ErrorOut})
def course_as_csv(request: HttpRequest, payload: CourseIn) -> HttpResponse:  # noqa: ARG001
    """A course as a table of stretches."""
    return HttpResponse(write_csv(Course.model_validate(payload.course)), content_type="text/csv; charset=utf-8")


@router.post("/measure", response={200: MeasuredOut, 422: ErrorOut})
def measure_pack(request: HttpRequest, payload: MeasureIn) -> MeasuredOut:  # noqa: ARG001
    """Resistance or capacity of a pack from what a meter and a clock showed."""
    pack = Pack.model_validate(payload.pack)
    if payload.what == "resistance":
        if payload.rest_v is None or payload.load_v is None:
            raise Refused("Enter both readings: volts at rest and volts under the load.", field="/rest_v")
        found = resistance_ohm(pack, payload.rest_v, payload.load_v, payload.amps_a, payload.temp_c)
    else:
        found = capacity_ah(pack, payload.amps_a, payload.seconds_s or 0.0, payload.start_charge, payload.end_charge, payload.temp_c)
    return MeasuredOut(value=found.value, spread=found.spread, doubt=found.doubt)


@router.post("/hookup", response={200: HookupOut, 404: ErrorOut, 422: ErrorOut})
def hookup_of_draft(request: HttpRequest, payload: HookupIn) -> HookupOut:
    """Steps, readings and drawing of the hookup, and which of the steps done still hold."""
    plan = kept.hookup_of(kept.read(payload.setup), _context(request, payload))
    return HookupOut(plan=plan, holding=holding(plan.to_tick if plan else [], payload.done))


@router.post("/hookup/meter", response={200: Shown, 422: ErrorOut})
def meter_on_draft(request: HttpRequest, payload: MeterIn) -> Shown:  # noqa: ARG001
    """What the meter should show between two terminals, in the state one says the machine is in."""
    return shown(kept.read(payload.setup), Situation.model_validate(payload.situation), payload.red, payload.black)


@router.post("/hookup/wires", response={200: str, 422: ErrorOut})
def wires_as_csv(request: HttpRequest, payload: WiresIn) -> HttpResponse:  # noqa: ARG001
    """The wires as a list to cut and join them by."""
    return HttpResponse(wire_list_csv(kept.read(payload.setup)), content_type="text/csv; charset=utf-8")


@router.get("/hookup/functions", response=dict[str, list[str]])
def plug_functions(request: HttpRequest) -> dict[str, list[str]]:  # noqa: ARG001
    """What the wires of a plug are for, by what is plugged in; under "" what else a half may carry."""
    return {**{place: list(functions) for place, functions in FUNCTIONS.items()}, "": list(EXTRA)}


@router.post("/hookup/colours", response={200: str, 422: ErrorOut})
def colours_as_csv(request: HttpRequest, payload: WiresIn) -> HttpResponse:  # noqa: ARG001
    """The plugs of a draft with their colours, as a table."""
    return HttpResponse(crosswalk_csv(kept.read(payload.setup).plug_pairs), content_type="text/csv; charset=utf-8")


@router.post("/hookup/colours/read", response={200: list[PlugPair], 422: ErrorOut})
def read_colours(request: HttpRequest, payload: TableIn) -> list[PlugPair]:  # noqa: ARG001
    """Plugs from such a table."""
    return list(read_crosswalk(payload.text))


@router.post("/judge", response={200: Judgement, 422: ErrorOut})
def judge_reading(request: HttpRequest, payload: JudgeIn) -> Judgement:  # noqa: ARG001
    """What a measured value says."""
    return judge(Reading.model_validate(payload.reading), payload.measured)


@router.post("/charging", response={200: list[ChargePlan], 422: ErrorOut})
def charging_of_draft(request: HttpRequest, payload: DraftIn) -> HttpResponse:  # noqa: ARG001
    """Each charger of a draft against its packs."""
    return _raw(kept.answer_json(Job("charging", kept.read(payload.setup), Context(), lane="now")))


@router.post("/offers", response={200: OffersOut, 404: ErrorOut, 409: ErrorOut, 422: ErrorOut})
def offers_for(request: HttpRequest, payload: OffersIn) -> OffersOut:
    """Arrangements of the packs on the shelf beside a baseline, with a kit or a part of the rack in them where one is named."""
    baseline = kept.read(payload.baseline)
    shelf = [Shelf(Pack.model_validate({**entry.pack, "rack": None}), entry.count, tuple(entry.names)) for entry in payload.shelf]
    kit = brought(part_of(garage_of(request.user, payload.garage_id), payload.kit)) if payload.garage_id is not None and payload.kit is not None else None
    named = {"parts": [{"rack": name.model_dump()} for name in (*(name for entry in shelf for name in entry.names), *([kit.name] if kit else []))]}
    context = Context(is_baseline=True, rack=_rack(request, payload.garage_id, payload.baseline, named))
    found, *others = _OFFERS.validate_json(kept.answer_json(Job("offers", baseline, context, (shelf, payload.bare, kit))))
    return OffersOut(baseline=found, offers=others)


@router.post("/completed", response={200: Offer, 422: ErrorOut})
def completed_arrangement(request: HttpRequest, payload: CompletedIn) -> HttpResponse:
    """An arrangement with what it lacks put in, at a glance; its stops are those that nothing on offer takes away."""
    context = Context(baseline=kept.read(payload.baseline), rack=_rack(request, payload.garage_id, payload.setup))
    return _raw(kept.answer_json(Job("completed", kept.read(payload.setup), context, payload.name)))


@router.post("/remembered", response={200: RememberedOut, 422: ErrorOut})
def remembered_speed(request: HttpRequest, payload: RememberedIn) -> HttpResponse:  # noqa: ARG001
    """A machine as found whose assumed figures go the speed somebody remembers."""
    return _raw(kept.answer_json(Job("remembered", kept.read(payload.setup), Context(), payload.speed_m_s, lane="now")))


@router.get("/typical/{family}", response={200: SetupJson, 404: ErrorOut, 422: ErrorOut})
def typical(
    request: HttpRequest,  # noqa: ARG001
    family: str,
    volts: Annotated[float | None, Query(gt=0, le=100, allow_inf_nan=False)] = None,
    watts: Annotated[float | None, Query(gt=0, le=20000, allow_inf_nan=False)] = None,
) -> dict[str, Any]:
    """The commonest machine of a family, every number assumed; as it leaves the factory with other stock volts or watts a motor, where given."""
    if family not in families():
        raise Refused(f"There is no family {family}: use {', '.join(families())}.", code="not_found", status=404)
    return kept.read(typical_setup(family, volts, watts)).model_dump(mode="json")


@router.get("/terms", response=list[TermOut])
def words_of_the_trade(request: HttpRequest) -> list[TermOut]:  # noqa: ARG001
    """The words of the trade that sentences use, each with what it means."""
    return [TermOut(words=list(term.words), says=term.says) for term in terms()]


@router.get("/parts", response=dict[str, list[PartOut]])
def parts(request: HttpRequest) -> dict[str, list[dict[str, Any]]]:  # noqa: ARG001
    """Ship-with parts by kind."""
    return catalogue()


@router.get("/setup-schema", response=dict[str, Any])
def setup_schema(request: HttpRequest) -> dict[str, Any]:  # noqa: ARG001
    """JSON Schema of the Setup document; its descriptions are the help texts of the fields."""
    return json_schema()


@router.get("/setups/{setup_id}/parts", response={200: PartsOut, 404: ErrorOut})
def parts_of(request: HttpRequest, setup_id: int) -> PartsOut:
    """What a saved setup is made of, what of it is there already, and what is left to buy."""
    return parts_to_buy(setup_of(request.user, setup_id), with_rack=True)


@router.get("/setups/{setup_id}/parts.csv", response={200: str, 404: ErrorOut})
def parts_table(request: HttpRequest, setup_id: int) -> HttpResponse:
    """The same as a table, to go shopping with."""
    setup = setup_of(request.user, setup_id)
    answer = HttpResponse(parts_csv(parts_to_buy(setup, with_rack=True)), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="parts-{setup.pk}.csv"'
    return answer


class CostsOut(Schema):
    """What a setup costs: what is left to buy, and the same with what comes from the rack at its price."""

    setup: int
    to_buy: CostOut
    whole: CostOut


@router.get("/builds/{build_id}/costs", response={200: list[CostsOut], 404: ErrorOut})
def costs_of(request: HttpRequest, build_id: int) -> list[CostsOut]:
    """What each setup of a build costs. A setup that cannot be read any more is left out."""
    found = []
    for setup in build_of(request.user, build_id).setups.select_related("build__garage"):
        with suppress(ValidationError):
            parts = parts_to_buy(setup, with_rack=True)
            found.append(CostsOut(setup=setup.pk, to_buy=parts.to_buy, whole=parts.whole))
    return found
