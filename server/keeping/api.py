"""Backups, for whoever keeps this server: the first account."""

from __future__ import annotations

from datetime import datetime

from django.core.management import call_command
from django.http import FileResponse, HttpRequest
from ninja import Field, Router, Schema

from server.accounts.services import keeps_server
from server.errors import ErrorOut, Refused
from server.keeping import backups
from server.uploads.services import be_rid_of, upload_of, whole

router = Router(tags=["keeping"])


class BackupOut(Schema):
    """A backup: its name, when it was made, its size in bytes."""

    name: str
    made: datetime
    size: int


class ContentsOut(Schema):
    """What is in a backup."""

    garages: int
    builds: int
    setups: int
    trials: int
    accounts: int
    latest: str


class PutBackIn(Schema):
    """The name of the backup once more, so that nobody restores by a slip."""

    confirm: str = Field(max_length=60)


class PutBackOut(Schema):
    """The backup of what was there before."""

    before: str


def _keeper_only(request: HttpRequest) -> None:
    if not keeps_server(request.user):
        raise Refused("Only the first account of this server keeps its backups.", code="keeper_only", status=403)


@router.get("/backups", response={200: list[BackupOut], 403: ErrorOut})
def list_backups(request: HttpRequest) -> list[backups.Backup]:
    """The backups there are, newest first."""
    _keeper_only(request)
    return backups.listed()


@router.post("/backups", response={200: BackupOut, 403: ErrorOut})
def make_backup(request: HttpRequest) -> backups.Backup:
    """Make a backup now."""
    _keeper_only(request)
    return backups.make()


class UploadedIn(Schema):
    """The uploaded file."""

    upload: int


@router.post("/backups/uploaded", response={200: BackupOut, 403: ErrorOut, 404: ErrorOut, 409: ErrorOut, 422: ErrorOut})
def take_in(request: HttpRequest, payload: UploadedIn) -> backups.Backup:
    """Take an uploaded file in as a backup, once it was read through. It is not put back by that."""
    _keeper_only(request)
    upload = upload_of(request.user, payload.upload)
    try:
        return backups.take_in(whole(upload))
    finally:
        be_rid_of(upload)


@router.get("/backups/{name}", response={200: ContentsOut, 403: ErrorOut, 404: ErrorOut, 422: ErrorOut})
def contents(request: HttpRequest, name: str) -> backups.Contents:
    """What is in a backup, which is read through for it."""
    _keeper_only(request)
    return backups.check(backups.path_of(name))


@router.get("/backups/{name}/file", response={200: bytes, 403: ErrorOut, 404: ErrorOut})
def download(request: HttpRequest, name: str) -> FileResponse:
    """A backup as a file, to keep it elsewhere."""
    _keeper_only(request)
    return FileResponse(backups.path_of(name).open("rb"), as_attachment=True, filename=name)


@router.post("/backups/{name}/restore", response={200: PutBackOut, 403: ErrorOut, 404: ErrorOut, 422: ErrorOut})
def restore(request: HttpRequest, name: str, payload: PutBackIn) -> PutBackOut:
    """Put a backup in place of what is there; that is backed up first. Everybody signs in anew."""
    _keeper_only(request)
    file = backups.path_of(name)
    if payload.confirm != name:
        raise Refused("Say which backup by its name once more.", field="/confirm")
    before = backups.restore(file)
    call_command("migrate", verbosity=0, interactive=False)
    backups.begin_anew()
    # Last: whom a restore is refused stays signed in.
    request.session.flush()
    return PutBackOut(before=before.name)
