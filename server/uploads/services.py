"""What one does with a file on its way in: announce it, send its parts, use it, and be rid of it."""

from __future__ import annotations

import os
import shutil
from datetime import timedelta
from pathlib import Path
from typing import Any

from django.conf import settings
from django.db import transaction
from django.utils import timezone

from server.errors import Refused, not_found
from server.uploads.models import Upload

MOST_PART = 4 * 2**20
"""Bytes of one part."""

MOST_AT_ONCE = 4

KEPT = timedelta(hours=24)
"""How long a file waits to be finished and used."""

SPARE = 200 * 2**20
"""Bytes of the disk that stay free, because saving goes before reading in."""


def folder() -> Path:
    """Where files on their way in lie, readable by their owner only."""
    place = Path(settings.UPLOADS)
    place.mkdir(parents=True, exist_ok=True)
    place.chmod(0o700)
    return place


def path_of(upload: Upload) -> Path:
    """Where an upload lies."""
    return folder() / str(upload.key)


def megabytes(size: int) -> str:
    """A size in words.

    >>> megabytes(3_400_000)
    '3.4 MB'
    """
    return f"{size / 1e6:.1f} MB"


def announce(user: Any, name: str, size: int) -> Upload:
    """Begin to take a file in. Raises Refused where it is larger than this server takes, or there is no room for it."""
    clear_old()
    most = settings.MOST_IMPORT_MB * 10**6
    if size > most:
        raise Refused(
            f"This file has {megabytes(size)}; this server takes up to {megabytes(most)}.",
            code="too_large",
            status=413,
            field="/size",
            hint="Whoever keeps the server can raise GECKO_MOST_IMPORT_MB.",
        )
    if shutil.disk_usage(folder()).free < size + SPARE:
        raise Refused("The server's disk has no room for this file.", code="disk_full", status=507, field="/size")
    with transaction.atomic():
        if user.uploads.count() >= MOST_AT_ONCE:
            raise Refused(f"{MOST_AT_ONCE} files of yours are on their way already. Wait for one, or stop it.", code="too_many", status=409)
        upload = Upload.objects.create(user=user, name=name.strip()[-200:] or "file", size=size)
    path_of(upload).touch(0o600)
    return upload


def keep(user: Any, content: bytes) -> Upload:
    """A file that came in one piece."""
    upload = announce(user, "file", len(content))
    path_of(upload).write_bytes(content)
    upload.received, upload.used = upload.size, True
    upload.save(update_fields=["received", "used"])
    return upload


def upload_of(user: Any, upload_id: int) -> Upload:
    """A file of the user's own on its way. Raises Refused 404 otherwise."""
    found = Upload.objects.filter(pk=upload_id, user=user).first()
    if found is None:
        raise not_found("upload")
    return found


def take_part(upload: Upload, offset: int, part: bytes) -> Upload:
    """Keep a part that goes on where the file ends so far. A part sent again is taken once. Raises Refused 409 with where to go on."""
    if offset + len(part) <= upload.received:
        return upload
    if offset != upload.received or offset + len(part) > upload.size or len(part) > MOST_PART:
        raise Refused(
            f"Go on at byte {upload.received} of {upload.size}, with parts of up to {MOST_PART} bytes.",
            code="wrong_part",
            status=409,
            extra={"received": upload.received},
        )
    # Written at its place before it is counted, so that what a killed process left is overwritten, and no lock is held while the disk works.
    with path_of(upload).open("r+b") as file:
        file.seek(offset)
        file.write(part)
        file.flush()
        os.fsync(file.fileno())
    Upload.objects.filter(pk=upload.pk, received=offset).update(received=offset + len(part))
    upload.refresh_from_db()
    return upload


def whole(upload: Upload) -> Path:
    """The file once all of it is there. Raises Refused 409 before."""
    if upload.received != upload.size:
        raise Refused(f"Only {upload.received} of {upload.size} bytes are here yet.", code="incomplete", status=409, extra={"received": upload.received})
    return path_of(upload)


def be_rid_of(upload: Upload) -> None:
    """Forget an upload and its file."""
    path_of(upload).unlink(missing_ok=True)
    upload.delete()


def clear_old() -> None:
    """Be rid of what nobody finished, and of files nobody knows: after a restore the rows are another database's."""
    over = timezone.now() - KEPT
    for upload in Upload.objects.filter(created__lt=over, used=False):
        be_rid_of(upload)
    known = set(Upload.objects.values_list("key", flat=True))
    for file in folder().iterdir():
        if file.name not in known and file.stat().st_mtime < over.timestamp():
            file.unlink(missing_ok=True)
