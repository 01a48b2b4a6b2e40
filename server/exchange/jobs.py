"""Reading a file in, as a job: started, watched, stopped, and begun again where the server was ended in the middle of it."""

from __future__ import annotations

import io
import logging
import secrets
import time
import zipfile
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import timedelta
from functools import partial
from pathlib import Path
from typing import IO, Any

from django.conf import settings
from django.db import OperationalError, transaction
from django.utils import timezone

from gecko.common.errors import GeckoError
from server.errors import Refused, not_found
from server.exchange import photos, reading, storing
from server.exchange.models import Import
from server.exchange.reading import Bounded, Checked, LeftOut
from server.exchange.shapes import GarageHead
from server.garage.models import Garage
from server.garage.services import update_garage
from server.uploads import services as uploads
from server.uploads.models import Upload

log = logging.getLogger("server.exchange")

TELL_S = 0.5
"""How often a job reports its progress and checks whether it was stopped. [s]"""

UNDER_WAY = ("waiting", "checking", "storing")

MOST_KEPT = 10
"""The number of imports of a garage that are listed; older ones are forgotten."""

MOST_NOW = 2**20
"""Bytes read in by one request: a second's work, which others hardly notice."""

LONGEST_HERE = timedelta(minutes=10)
"""An import read in by a request itself that is not finished by then has ended with its process."""

PASSES = 2
"""A file is read through so often: checked and stored. One whose rows are in another order than ours is read once more."""

apart = False
"""Whether a process of its own does the jobs. Without one they are done where they are started."""


class Stopped(Exception):
    """Somebody stopped the job."""


def start(garage: Garage, user: Any, upload: Upload) -> Import:
    """Have an uploaded file read into a garage. Raises Refused while it is not whole."""
    uploads.whole(upload)
    with transaction.atomic():
        upload.used = True
        upload.save(update_fields=["used"])
        job, _ = Import.objects.get_or_create(upload=upload, defaults={"garage": garage, "user": user, "name": upload.name})
        for old in garage.imports.exclude(state__in=UNDER_WAY)[MOST_KEPT:]:
            old.delete()
    if not apart:
        work_off()
        job.refresh_from_db()
    return job


def read_now(garage: Garage, user: Any, content: bytes) -> Import:
    """Read a small file in here and now, by the same steps. Raises Refused with everything that is wrong with it."""
    if len(content) > MOST_NOW:
        raise Refused(f"By one request up to {MOST_NOW // 2**20} MB are read in. Upload a larger file first, then have it read in.", code="too_large", status=413)
    upload = uploads.keep(user, content)
    # Marked as under way in this process from the start, so that no other process takes it on.
    job = Import.objects.create(garage=garage, user=user, upload=upload, name=upload.name, state="checking", here=True)
    _do(job)
    job.refresh_from_db()
    if job.state != "done":
        told = {**job.told}
        job.delete()
        raise Refused(
            told.get("message", "Nothing was imported."),
            code=told.get("code", "import_invalid"),
            field=told.get("field"),
            hint=told.get("hint"),
            problems=told.get("problems"),
        )
    return job


def import_of(garage: Garage, job_id: int) -> Import:
    """An import of a garage. Raises Refused 404 otherwise."""
    found = garage.imports.filter(pk=job_id).first()
    if found is None:
        raise not_found("import")
    return found


def stop(job: Import) -> None:
    """Stop an import under way, nothing of it stays; or forget one that is over."""
    if Import.objects.filter(pk=job.pk, state__in=UNDER_WAY).update(state="stopped"):
        if not apart:
            _clean_up(job)
        return
    _clean_up(job)
    job.delete()


def work_off() -> int:
    """Do the jobs that wait, the oldest first. Returns how many."""
    done = 0
    while (job := Import.objects.filter(state="waiting").order_by("pk").select_related("garage", "user", "upload").first()) is not None:
        _do(job)
        done += 1
    _clear_over()
    return done


def _clear_over() -> None:
    """Clean up imports that are over: stopped before they began, or cut off with the server before they were cleaned up."""
    for job in Import.objects.exclude(state__in=UNDER_WAY).exclude(upload=None, staging=None).select_related("staging"):
        _clean_up(job)


def begin_again() -> None:
    """After a start, begin every import again that was under way when the server ended, and delete what it had stored."""
    over = timezone.now() - LONGEST_HERE
    Import.objects.filter(here=True, state__in=UNDER_WAY, created__lt=over).update(state="stopped")
    for job in Import.objects.filter(here=False, state__in=("checking", "storing")).select_related("staging"):
        _wipe(job)
        Import.objects.filter(pk=job.pk).update(state="waiting", share=0.0)
    _clear_over()


def stop_all(wait_s: float = 15.0) -> None:
    """Stop all that is under way, and wait until whoever does it has heard."""
    Import.objects.filter(state__in=UNDER_WAY).update(state="stopped")
    over = time.monotonic() + (wait_s if apart else 0.0)
    while Import.objects.exclude(staging=None).exists() and time.monotonic() < over:
        time.sleep(TELL_S)


def forget_all() -> None:
    """Forget every import and upload: after a restore they are those of another time, and their files are not here."""
    for job in Import.objects.select_related("staging"):
        _wipe(job)
    Import.objects.all().delete()
    Upload.objects.all().delete()


def _do(job: Import) -> None:
    try:
        _read_in(job)
    except Stopped:
        _clean_up(job)
        return
    except Refused as refusal:
        told = refusal.body()
    except GeckoError as error:
        told = Refused(error.message, code=error.code, field=error.path, hint=error.hint).body()
    except (zipfile.BadZipFile, NotImplementedError, EOFError, OSError) as error:
        log.warning("import %s: %s", job.pk, error)
        told = Refused("This archive is damaged, or of a kind that is not read here. Save it anew where it came from.", code="import_invalid").body()
    except MemoryError:
        told = Refused("This file needs more memory than the server gives to one.", code="import_invalid").body()
    except OperationalError as error:
        log.error("import %s: %s", job.pk, error)
        told = Refused("The server could not store it: its disk is full, or its database busy for long. Nothing was imported.", code="not_stored").body()
    except Exception as error:
        reference = secrets.token_hex(4)
        log.error("reference %s: import %s", reference, job.pk, exc_info=error)
        told = Refused(f"Something went wrong on the server; nothing was imported. Pass on this reference: {reference}.", code="failed").body()
    else:
        _clean_up(job)
        return
    _patiently(lambda: Import.objects.filter(pk=job.pk).exclude(state="stopped").update(state="failed", told=told))
    _clean_up(job)


def _patiently(act: Callable[[], object]) -> None:
    """Write something important although the disk is full or the database busy: it is tried for a minute."""
    for _ in range(60):
        try:
            act()
        except OperationalError:
            time.sleep(1)
        else:
            return


def _clean_up(job: Import) -> None:
    """Delete what a job stored out of sight, and its file. Only its report stays."""
    _patiently(lambda: _wipe(job))
    upload = Upload.objects.filter(pk=job.upload_id).first() if job.upload_id is not None else None
    if upload is not None:
        _patiently(lambda: uploads.be_rid_of(upload))


def _wipe(job: Import) -> None:
    if job.staging is not None:
        storing.clear(job.staging)
        job.staging = None


class Watch:
    """How far a job is, told now and then; hears whether it was stopped."""

    def __init__(self, job: Import, total: int) -> None:
        self._job, self._total = job, max(total, 1)
        self._read, self._told = 0, time.monotonic()
        self._most = settings.MOST_IMPORT_MB * 10**6

    def __call__(self, count: int) -> None:
        """So many bytes more were read. Raises Stopped, and Refused where there are more than this server takes."""
        self._read += count
        if self._read > (PASSES + 1) * self._most:
            raise Refused(f"Unpacked this is larger than the {uploads.megabytes(self._most)} this server takes.", code="too_large", status=413)
        if time.monotonic() - self._told >= TELL_S:
            self._told = time.monotonic()
            self.tell()

    def tell(self) -> None:
        """Say how far it is."""
        if not Import.objects.filter(pk=self._job.pk, state__in=UNDER_WAY).update(share=min(self._read / self._total, 0.999)):
            raise Stopped


def _enter(job: Import, state: str) -> None:
    if not Import.objects.filter(pk=job.pk, state__in=UNDER_WAY).update(state=state):
        raise Stopped


def _read_in(job: Import) -> None:
    """The whole of a job."""
    _enter(job, "checking")
    if job.upload is None or not (path := uploads.path_of(job.upload)).is_file():
        raise Refused("The file is not on the server any more. Send it again.", code="import_invalid")
    if job.garage is None:
        raise Refused("The garage is not there any more.", code="not_found")
    job.staging = staging = Garage.objects.create(name=storing.STAGING)
    job.save(update_fields=["staging"])
    with _files_of(path) as (archive, sizes):
        total = sum(sizes.values())
        if total > settings.MOST_IMPORT_MB * 10**6:
            most = uploads.megabytes(settings.MOST_IMPORT_MB * 10**6)
            raise Refused(f"Unpacked this has {uploads.megabytes(total)}; this server takes up to {most}.", code="too_large", status=413)
        watch = Watch(job, PASSES * total)

        def opened(name: str) -> Bounded:
            return Bounded(_open(path, archive, name), watch)

        head, left_out = reading.check_garage(archive) if archive is not None else (None, [])
        names = [""] if head is None else head.builds
        checked, bad = _check_all(names, opened)
        _enter(job, "storing")
        # The first in the file is the one last worked on: it is made last.
        stored = {}
        for name, found in reversed(checked):
            stored[names.index(name)] = storing.store_build(staging, job.user, found, partial(opened, name))
        if head is not None and archive is not None:
            storing.store_surroundings(staging, job.garage, head)
            left_out += photos.store_photos(staging, job.garage, head, archive, stored, job.user, watch.tell)
    _switch(job, job.garage, staging, head, [*bad, *left_out])


def _check_all(names: list[str], opened: Callable[[str], Bounded]) -> tuple[list[tuple[str, Checked]], list[LeftOut]]:
    """The builds of a file that can be read, and of those that cannot what is wrong with them: one bad build is one bad build. Raises Refused where
    there is no good one."""
    good, bad, first = [], [], None
    for name in names:
        try:
            good.append((name, _checked(name, opened)))
        except Refused as refusal:
            if refusal.code != "import_invalid" or len(names) == 1:
                raise
            bad.append(LeftOut(name, refusal.message, refusal.problems[: reading.MOST_TOLD]))
            first = first or refusal
    if first is not None and not good:
        raise first
    return good, bad


def _checked(name: str, opened: Callable[[str], Bounded]) -> Checked:
    """A build's file, checked; what is wrong names the file it is in."""
    try:
        return reading.check_build(opened(name))
    except Refused as refusal:
        if name:
            refusal.field = f"{name}{refusal.field or ''}"
            refusal.problems = [{**one, "path": f"{name}{one['path']}"} for one in refusal.problems]
            refusal.message = f"{name}: {refusal.message}"
        raise


@contextmanager
def _files_of(path: Path) -> Iterator[tuple[zipfile.ZipFile | None, dict[str, int]]]:
    """The files of an upload with their sizes: those of an archive, or the one by itself."""
    if not reading.is_archive(path):
        yield None, {"": path.stat().st_size}
        return
    with zipfile.ZipFile(path) as archive:
        yield archive, {one.filename: one.file_size for one in archive.infolist()}


def _open(path: Path, archive: zipfile.ZipFile | None, name: str) -> IO[bytes]:
    if archive is None:
        return path.open("rb")
    within = archive.open(name)
    assert isinstance(within, io.BufferedIOBase)
    return io.BufferedReader(within)


@transaction.atomic
def _switch(job: Import, target: Garage, staging: Garage, head: GarageHead | None, left_out: list[LeftOut]) -> None:
    """Show what was stored out of sight, in one step. Raises Stopped, and Refused if the person who began the import may not change the garage any
    more."""
    if not Import.objects.filter(pk=job.pk, state="storing").update(state="done", share=1.0):
        raise Stopped
    if not target.memberships.filter(user=job.user).exclude(role="viewer").exists():
        raise Refused("You may not change this garage any more; nothing was imported.", code="viewer")
    empty = not (target.builds.exists() or target.riders.exists() or target.rack.exists())
    told: dict[str, Any] = {
        "builds": [{"id": build.pk, "name": build.name} for build in staging.builds.order_by("-pk")],
        "riders": staging.riders.update(garage=target),
        "parts": staging.rack.update(garage=target),
        "photos": staging.photos.update(garage=target),
        "members": [f"{one.name}, {one.role}" for one in head.members] if head is not None else [],
        "rules": False,
        "left_out": [one._asdict() for one in left_out],
    }
    staging.builds.update(garage=target)
    if head is not None and empty:
        told["rules"] = _take_rules(target, head)
    Import.objects.filter(pk=job.pk).update(told=told)


def _take_rules(target: Garage, head: GarageHead) -> bool:
    """Units, house rules and emergency number come along into an empty garage, where this program still knows them."""
    try:
        update_garage(target, units=head.units, house_rules=head.house_rules, emergency_number=head.emergency_number)
    except (Refused, ValueError):
        return False
    return True
