"""The bin of a garage."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from django.http import HttpRequest
from ninja import Query, Router, Schema

from server.bin import services
from server.errors import ErrorOut
from server.garage.services import garage_of

router = Router(tags=["bin"])


class BinnedOut(Schema):
    """A thing in the bin."""

    kind: str
    id: int
    name: str
    within: str
    binned: datetime
    by: str
    until: datetime


@router.get("/garages/{garage_id}/bin", response={200: list[BinnedOut], 404: ErrorOut})
def list_bin(
    request: HttpRequest, garage_id: int, skip: Annotated[int, Query(ge=0, le=1_000_000)] = 0, limit: Annotated[int, Query(ge=1, le=200)] = 100
) -> list[services.Binned]:
    """A page of what was deleted in the last thirty days, the newest first."""
    return services.in_bin(garage_of(request.user, garage_id), skip, limit)


@router.post("/garages/{garage_id}/bin/{kind}/{row_id}/back", response={204: None, 404: ErrorOut, 409: ErrorOut})
def bring_back(request: HttpRequest, garage_id: int, kind: str, row_id: int) -> tuple[int, None]:
    """Bring a thing back as it was."""
    services.bring_back(garage_of(request.user, garage_id), kind, row_id)
    return 204, None


@router.delete("/garages/{garage_id}/bin/{kind}/{row_id}", response={204: None, 404: ErrorOut})
def throw_away(request: HttpRequest, garage_id: int, kind: str, row_id: int) -> tuple[int, None]:
    """Delete a thing in the bin for good."""
    services.throw_away(garage_of(request.user, garage_id), kind, row_id)
    return 204, None
