"""Records out and in: a build, a garage, and the jobs that read them in."""

from __future__ import annotations

from datetime import datetime

from django.http import HttpRequest, StreamingHttpResponse
from ninja import Router, Schema

from server.builds.services import build_of
from server.errors import ErrorOut, Problem
from server.exchange import jobs
from server.exchange.models import Import, State
from server.exchange.writing import build_file, file_name, garage_zip
from server.garage.services import garage_of
from server.uploads.services import upload_of

router = Router(tags=["exchange"])


class ImportIn(Schema):
    """The uploaded file to read in."""

    upload: int


class ImportedOut(Schema):
    """A build that came in."""

    id: int
    name: str


class LeftOut(Schema):
    """A build of an archive that could not be read."""

    file: str
    message: str
    problems: list[Problem]


class CameInOut(Schema):
    """What came in: builds, how many riders and parts, whether units and house rules came along, who belonged to that garage, and the builds that
    were left out."""

    builds: list[ImportedOut]
    riders: int
    parts: int
    photos: int = 0
    rules: bool
    members: list[str]
    left_out: list[LeftOut] = []


class ImportOut(Schema):
    """A file being read in, or read in lately: how far it is, 0 to 1; what came in; or what is wrong with it."""

    id: int
    name: str
    state: State
    share: float
    created: datetime
    mine: bool
    """Whoever asks began it."""
    came_in: CameInOut | None
    error: ErrorOut | None


def _import(job: Import, request: HttpRequest) -> ImportOut:
    return ImportOut(
        id=job.pk,
        name=job.name,
        state=job.state,
        share=job.share,
        created=job.created,
        mine=job.user_id == request.user.pk,
        came_in=CameInOut(**job.told) if job.state == "done" and job.told else None,
        error=ErrorOut(**job.told) if job.state == "failed" else None,
    )


@router.get("/builds/{build_id}/export", response={200: bytes, 404: ErrorOut})
def export_build(request: HttpRequest, build_id: int) -> StreamingHttpResponse:
    """The build as one open JSON file."""
    build = build_of(request.user, build_id)
    response = StreamingHttpResponse(build_file(build), content_type="application/json")
    response["Content-Disposition"] = f'attachment; filename="{file_name(build.name)}.gecko.json"'
    return response


@router.get("/garages/{garage_id}/export", response={200: bytes, 404: ErrorOut})
def export_garage(request: HttpRequest, garage_id: int) -> StreamingHttpResponse:
    """The whole garage as one zip of open JSON files."""
    garage = garage_of(request.user, garage_id)
    response = StreamingHttpResponse(garage_zip(garage), content_type="application/zip")
    response["Content-Disposition"] = f'attachment; filename="{file_name(garage.name)}.gecko.zip"'
    return response


@router.post("/garages/{garage_id}/import", response={200: CameInOut, 404: ErrorOut, 409: ErrorOut, 413: ErrorOut, 422: ErrorOut})
def read_now(request: HttpRequest, garage_id: int) -> CameInOut:
    """Read a small build or garage in by one request; larger files are uploaded first. A bad one changes nothing and lists what is wrong."""
    return CameInOut(**jobs.read_now(garage_of(request.user, garage_id), request.user, request.body).told)


@router.post("/garages/{garage_id}/imports", response={200: ImportOut, 404: ErrorOut, 409: ErrorOut})
def start_import(request: HttpRequest, garage_id: int, payload: ImportIn) -> ImportOut:
    """Have an uploaded build or garage read in. A bad file changes nothing and lists what is wrong."""
    return _import(jobs.start(garage_of(request.user, garage_id), request.user, upload_of(request.user, payload.upload)), request)


@router.get("/garages/{garage_id}/imports", response={200: list[ImportOut], 404: ErrorOut})
def list_imports(request: HttpRequest, garage_id: int) -> list[ImportOut]:
    """Files being read in, and those read in lately, the newest first."""
    return [_import(job, request) for job in garage_of(request.user, garage_id).imports.all()[: jobs.MOST_KEPT]]


@router.get("/garages/{garage_id}/imports/{import_id}", response={200: ImportOut, 404: ErrorOut})
def get_import(request: HttpRequest, garage_id: int, import_id: int) -> ImportOut:
    """How far a file is."""
    return _import(jobs.import_of(garage_of(request.user, garage_id), import_id), request)


@router.delete("/garages/{garage_id}/imports/{import_id}", response={204: None, 404: ErrorOut})
def stop_import(request: HttpRequest, garage_id: int, import_id: int) -> tuple[int, None]:
    """Stop a file being read in, nothing of it stays; or forget one that is over."""
    jobs.stop(jobs.import_of(garage_of(request.user, garage_id), import_id))
    return 204, None
