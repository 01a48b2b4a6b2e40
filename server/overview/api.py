"""The garage's home: its builds with what is open, the names of all there is in it, and what is changed there.

One address is answered in one place, so its PATCH is here beside its GET.
"""

from __future__ import annotations

from typing import Annotated

from django.db.models import Prefetch
from django.http import HttpRequest, HttpResponse
from ninja import Query, Router

from gecko.answers.evaluation import Out
from server.accounts.models import Instance
from server.builds.models import Setup
from server.builds.services import builds_of
from server.errors import ErrorOut
from server.garage import services
from server.garage.api import GarageIn, GarageOut, RiderOut, garage_out, rider_out
from server.garage.rack import every_fact
from server.logbook.models import Trial
from server.overview.glance import BuildGlance, Known, TrialLine, build_glance

router = Router(tags=["garage"])


class NamedOut(Out):
    """Something with a name to be found by."""

    id: int
    name: str


class FindableBuild(NamedOut):
    """A build with its setups by name."""

    setups: list[NamedOut]


class IndexOut(Out):
    """Names of all there is in a garage, for the finder."""

    builds: list[FindableBuild]
    rack: list[NamedOut]


class OverviewOut(Out):
    """The garage at a glance."""

    garage: GarageOut
    total: int
    builds: list[BuildGlance]
    riders: list[RiderOut]


@router.get("/garages/{garage_id}", response={200: OverviewOut, 404: ErrorOut})
def overview(request: HttpRequest, garage_id: int, limit: Annotated[int, Query(ge=1, le=1000)] = 60) -> HttpResponse:
    """A garage with riders and `limit` builds at a glance, the one last worked on first; a constant number of queries."""
    garage = services.garage_of(request.user, garage_id)
    every = builds_of(garage)
    setups = Setup.objects.defer("document").prefetch_related("ticks", "overrules")
    builds = list(every.prefetch_related(Prefetch("setups", setups), "incidents")[:limit])
    trials: dict[int, list[TrialLine]] = {}
    rows = Trial.objects.filter(build__in=[b.pk for b in builds]).order_by("-when", "-pk").values_list("build_id", "setup_id", "when", "speed_m_s")
    for build_id, setup_id, when, speed in rows:
        trials.setdefault(build_id, []).append(TrialLine(setup_id, when, speed))
    known = Known(house=services.house_of(garage), rack=every_fact(garage), instance=Instance.current())
    found = OverviewOut(
        garage=garage_out(garage),
        total=every.count(),
        builds=[build_glance(b, trials.get(b.pk, []), known) for b in builds],
        riders=[rider_out(r) for r in garage.riders.order_by("pk")],
    )
    # Sent as it is: validating hundreds of builds a second time would cost more than making them.
    return HttpResponse(found.model_dump_json(), content_type="application/json")


@router.get("/garages/{garage_id}/index", response={200: IndexOut, 404: ErrorOut})
def index(request: HttpRequest, garage_id: int) -> HttpResponse:
    """Names of every build, setup and part of a garage: three queries, however many there are."""
    garage = services.garage_of(request.user, garage_id)
    setups: dict[int, list[NamedOut]] = {}
    for build_id, setup_id, name in Setup.objects.filter(build__garage=garage, build__binned=None).values_list("build_id", "pk", "name"):
        setups.setdefault(build_id, []).append(NamedOut(id=setup_id, name=name))
    builds = [FindableBuild(id=pk, name=name, setups=setups.get(pk, [])) for pk, name in builds_of(garage).values_list("pk", "name")]
    rack = [NamedOut(id=pk, name=label) for pk, label in garage.rack.order_by("kind", "pk").values_list("pk", "label")]
    return HttpResponse(IndexOut(builds=builds, rack=rack).model_dump_json(), content_type="application/json")


@router.patch("/garages/{garage_id}", response={200: GarageOut, 404: ErrorOut, 422: ErrorOut})
def change_garage(request: HttpRequest, garage_id: int, payload: GarageIn) -> GarageOut:
    """Change name, units or house rules."""
    garage = services.garage_of(request.user, garage_id)
    return garage_out(services.update_garage(garage, name=payload.name, units=payload.units, house_rules=payload.house_rules, emergency_number=payload.emergency_number))
