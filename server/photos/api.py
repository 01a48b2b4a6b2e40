"""Photos of parts, steps, runs and entries."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from django.http import FileResponse, HttpRequest
from ninja import Field, Query, Router, Schema

from server.builds.services import build_of
from server.errors import ErrorOut
from server.garage.services import garage_of
from server.photos import services
from server.photos.models import Photo
from server.uploads.services import upload_of

router = Router(tags=["photos"])


class PhotoIn(Schema):
    """An uploaded picture, and the one thing it shows. place: of a setup, the step or plug."""

    upload: int
    part: int | None = None
    setup: int | None = None
    place: str = Field(default="", max_length=40)
    trial: int | None = None
    entry: int | None = None
    caption: str = Field(default="", max_length=120)


class PhotoOut(Schema):
    """A photo."""

    id: int
    width: int
    height: int
    part_id: int | None
    setup_id: int | None
    place: str
    trial_id: int | None
    entry_id: int | None
    caption: str
    when: datetime
    by_name: str


@router.get("/garages/{garage_id}/photos", response={200: list[PhotoOut], 404: ErrorOut, 422: ErrorOut})
def photos(
    request: HttpRequest,
    garage_id: int,
    part: int | None = None,
    setup: int | None = None,
    place: Annotated[str, Query(max_length=40)] = "",
    trial: int | None = None,
    entry: int | None = None,
) -> list[Photo]:
    """Photos of one thing, the oldest first."""
    garage = garage_of(request.user, garage_id)
    what = services.shows(garage, part=part, setup=setup, place=place, trial=trial, entry=entry)
    return list(garage.photos.filter(**what.fields))


@router.get("/builds/{build_id}/photos", response={200: list[PhotoOut], 404: ErrorOut, 422: ErrorOut})
def photos_of_a_build(request: HttpRequest, build_id: int) -> list[Photo]:
    """Photos of the steps, plugs, runs and entries of a build, the oldest first."""
    return services.photos_of(build_of(request.user, build_id))


@router.post("/garages/{garage_id}/photos", response={200: PhotoOut, 404: ErrorOut, 409: ErrorOut, 413: ErrorOut, 422: ErrorOut})
def take(request: HttpRequest, garage_id: int, payload: PhotoIn) -> Photo:
    """Take a picture in that was uploaded before."""
    garage = garage_of(request.user, garage_id)
    upload = upload_of(request.user, payload.upload)
    what = services.shows(garage, part=payload.part, setup=payload.setup, place=payload.place, trial=payload.trial, entry=payload.entry)
    return services.take(garage, request.user, upload, what, payload.caption)


@router.get("/garages/{garage_id}/photos/{photo_id}/picture", response={200: bytes, 404: ErrorOut})
def picture(request: HttpRequest, garage_id: int, photo_id: int) -> FileResponse:
    """The picture itself, as JPEG."""
    path = services.file_of(services.photo_of(garage_of(request.user, garage_id), photo_id))
    answer = FileResponse(path.open("rb"), content_type="image/jpeg")
    # A picture never changes; it is for whoever is signed in, and for nobody between.
    answer["Cache-Control"] = "private, max-age=31536000, immutable"
    return answer


@router.delete("/garages/{garage_id}/photos/{photo_id}", response={204: None, 404: ErrorOut})
def remove(request: HttpRequest, garage_id: int, photo_id: int) -> tuple[int, None]:
    """Put a photo into the bin."""
    services.photo_of(garage_of(request.user, garage_id), photo_id).to_bin(request.user)
    return 204, None
