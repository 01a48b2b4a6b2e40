"""Backups: whole copies of the database made through SQLite's own backup, checked, rotated, and put back.

A plain copy of the file is not enough: what was saved last stands in the write-ahead log beside it (docs/keeping.md).
"""

from __future__ import annotations

import os
import re
import shutil
import sqlite3
from collections.abc import Callable, Iterable
from contextlib import closing
from dataclasses import dataclass
from datetime import datetime, timedelta
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any

from django.conf import settings
from django.db import connection, transaction
from django.utils import timezone

from server.accounts.models import Instance
from server.errors import Refused, not_found
from server.exchange.jobs import forget_all, stop_all
from server.photos import pictures

NAME = re.compile(r"gecko-(\d{8}-\d{6}-\d{3})\.sqlite3")
STAMP = "%Y%m%d-%H%M%S"

DAYS, WEEKS, MONTHS = 7, 4, 12
"""The newest backup is kept of each of this many days, weeks and months; the others are deleted."""

FRESH = timedelta(days=1)
"""All backups of the last day are kept, because somebody may have made them for a reason."""

BUSY_S = 30.0
"""So long a restore waits for writers to finish. [s]"""


@dataclass(frozen=True)
class Contents:
    """What is in a database file."""

    garages: int
    builds: int
    setups: int
    trials: int
    accounts: int
    latest: str
    """When a setup in it was last changed, as it stands there; empty when there is none."""


@dataclass(frozen=True)
class Backup:
    """A backup in the folder."""

    name: str
    made: datetime
    size: int


def folder() -> Path:
    """Where backups lie, readable by their owner only."""
    place = Path(settings.BACKUPS)
    place.mkdir(parents=True, exist_ok=True)
    place.chmod(0o700)
    return place


def made_of(name: str) -> datetime:
    """When a backup was made, from its name. Raises Refused 404 for another name."""
    found = NAME.fullmatch(name)
    if found is None:
        raise not_found("backup")
    return datetime.strptime(found.group(1)[:-4], STAMP).replace(tzinfo=timezone.get_default_timezone())


def listed() -> list[Backup]:
    """The backups there are, newest first."""
    files = [file for file in folder().iterdir() if NAME.fullmatch(file.name)]
    return [Backup(file.name, made_of(file.name), file.stat().st_size) for file in sorted(files, reverse=True)]


def path_of(name: str) -> Path:
    """A backup's file. Raises Refused 404 where there is none."""
    file = folder() / name
    if not NAME.fullmatch(name) or not file.is_file():
        raise not_found("backup")
    return file


def check(file: Path) -> Contents:
    """Read a database file through and tell what is in it. Raises Refused where it is damaged or another program's."""
    try:
        with closing(sqlite3.connect(f"file:{file}?mode=ro", uri=True)) as database:
            if database.execute("PRAGMA integrity_check").fetchone() != ("ok",):
                raise Refused("This backup is damaged: it does not pass the database's own check. Take an older one.", code="backup_damaged")
            tables = {name for (name,) in database.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
            if not {"garage_garage", "builds_build", "builds_setup", "logbook_trial", "accounts_user", "django_migrations"} <= tables:
                raise Refused("This is no backup of this program.", code="backup_foreign")

            def count(table: str) -> int:
                return int(database.execute(f"SELECT count(*) FROM {table}").fetchone()[0])

            latest = database.execute("SELECT max(updated) FROM builds_setup").fetchone()[0]
            return Contents(
                garages=count("garage_garage"),
                builds=count("builds_build"),
                setups=count("builds_setup"),
                trials=count("logbook_trial"),
                accounts=count("accounts_user"),
                latest=str(latest or ""),
            )
    except sqlite3.DatabaseError as error:
        raise Refused("This is no database, or a damaged one. Take another backup.", code="backup_damaged") from error


def _place(now: datetime) -> Path:
    """Where a backup of now goes."""
    return folder() / f"gecko-{now.strftime(STAMP)}-{now.microsecond // 1000:03d}.sqlite3"


def _sweep(now: datetime) -> None:
    """Delete half-made backups that a server left when it was ended."""
    for left in (*folder().glob("*.half"), *folder().glob("restore-*")):
        if left.stat().st_mtime < (now - FRESH).timestamp():
            shutil.rmtree(left) if left.is_dir() else left.unlink(missing_ok=True)


def take_in(file: Path) -> Backup:
    """Take a database file from elsewhere in among the backups. Raises Refused where it is damaged or another program's."""
    check(file)
    target = _place(timezone.now())
    # Copied under another name first, because the folder may lie on another disk and the copy may be cut off.
    half = target.with_suffix(".half")
    try:
        shutil.copyfile(file, half)
        half.chmod(0o600)
        half.rename(target)
    finally:
        half.unlink(missing_ok=True)
    return Backup(target.name, made_of(target.name), target.stat().st_size)


def make(spare: Path | None = None) -> Backup:
    """Copy the database as it is now, while others go on working; check the copy; let old ones go, but not the one to spare."""
    now = timezone.now()
    _sweep(now)
    target = _place(now)
    half = target.with_suffix(".half")
    descriptor = os.open(half, os.O_CREAT | os.O_EXCL | os.O_RDWR, 0o600)
    os.close(descriptor)
    try:
        connection.ensure_connection()
        with closing(sqlite3.connect(half)) as copy:
            connection.connection.backup(copy)
            # A file by itself: without a log beside it.
            copy.execute("PRAGMA journal_mode=DELETE")
        check(half)
        _keep_pictures(half)
        half.rename(target)
    finally:
        half.unlink(missing_ok=True)
    rotate(now, spare)
    return Backup(target.name, made_of(target.name), target.stat().st_size)


def kept(times: Iterable[datetime], now: datetime) -> set[datetime]:
    """Of the times of backups those that stay: all of the last day, the newest of each of the last days, weeks and months, and the newest of all."""
    newest_first = sorted(times, reverse=True)
    stay = {time for time in newest_first if now - time <= FRESH} | set(newest_first[:1])
    periods = (
        (DAYS, timedelta(days=DAYS), lambda t: t.date()),
        (WEEKS, timedelta(weeks=WEEKS), lambda t: t.isocalendar()[:2]),
        (MONTHS, timedelta(days=31 * MONTHS), lambda t: (t.year, t.month)),
    )
    for _, reach, period in periods:
        seen = set()
        for time in newest_first:
            if now - time <= reach and period(time) not in seen:
                seen.add(period(time))
                stay.add(time)
    return stay


def rotate(now: datetime, spare: Path | None = None) -> None:
    """Remove backups nobody keeps any more, but not the one to spare."""
    there = listed()
    stay = kept((one.made for one in there), now)
    for one in there:
        if one.made not in stay and (spare is None or one.name != spare.name):
            (folder() / one.name).unlink(missing_ok=True)
    _rotate_pictures()


def _shown(file: Path) -> set[str]:
    """Pictures the photos of a database show; none of one from before there were photos."""
    with closing(sqlite3.connect(f"file:{file}?mode=ro", uri=True)) as database:
        there = database.execute("SELECT count(*) FROM sqlite_master WHERE name = 'photos_photo'").fetchone()[0]
        return {sha for (sha,) in database.execute("SELECT DISTINCT sha FROM photos_photo")} if there else set()


def _pictures() -> Path:
    """Where the pictures of all backups lie, each once: one never changes, so a link to it is a copy."""
    return folder() / "photos"


def _keep_pictures(file: Path) -> None:
    """Keep the pictures a backup shows beside it."""
    for sha in _shown(file):
        _pictures().mkdir(mode=0o700, exist_ok=True)
        source, kept_at = pictures.path_of(sha), _pictures() / f"{sha}.jpg"
        if source.is_file() and not kept_at.exists():
            _linked(source, kept_at)


def _linked(source: Path, target: Path) -> None:
    """The same file in another place: a link where both are on one disk, else a copy."""
    try:
        os.link(source, target)
    except OSError:
        half = target.with_suffix(".half")
        shutil.copyfile(source, half)
        half.replace(target)


def _rotate_pictures() -> None:
    """Delete kept pictures that no backup shows any more."""
    shown = set[str]().union(*(_shown(folder() / one.name) for one in listed()))
    for one in _pictures().glob("*.jpg"):
        if one.stem not in shown:
            one.unlink(missing_ok=True)


def _bring_pictures_back(file: Path) -> None:
    """Put the pictures a backup shows back where they are missing."""
    for sha in _shown(file):
        kept_at = _pictures() / f"{sha}.jpg"
        if kept_at.is_file() and not pictures.path_of(sha).exists():
            _linked(kept_at, pictures.path_of(sha))


def restore(file: Path) -> Backup:
    """Put a backup in place of the database, through SQLite's own backup with writers held; the present state is backed up first and told.

    What comes back is a new instance: drafts of browsers become files, and nobody stays signed in; all of it in one step, so that whenever the
    machine is ended it is the one state or the other. Raises Refused for a damaged or foreign file.
    """
    check(file)
    stop_all()
    before = make(spare=file)
    _bring_pictures_back(file)
    connection.close()
    with TemporaryDirectory(prefix="restore-", dir=folder()) as place, closing(sqlite3.connect(Path(place) / "copy.sqlite3")) as copy:
        with closing(sqlite3.connect(f"file:{file}?mode=ro", uri=True)) as source:
            source.backup(copy)
        forget_sign_ins(lambda sql: copy.execute(sql))
        copy.commit()
        with closing(sqlite3.connect(connection.settings_dict["NAME"], timeout=BUSY_S)) as target:
            copy.backup(target)
            target.execute("PRAGMA journal_mode=WAL")
    connection.close()
    return before


SIGN_INS = ("accounts_instance", "accounts_device", "django_session", "garage_invitation", "sharing_looklink", "axes_accessattempt")
"""Tables of what lets somebody in, and of which instance it is."""


def forget_sign_ins(execute: Callable[[str], Iterable[Any]]) -> None:
    """No sign-in, invitation or link of a database is good any more, and it is another instance. One of an older program may lack some tables."""
    there = {row[0] for row in execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
    for table in SIGN_INS:
        if table in there:
            execute(f"DELETE FROM {table}")


@transaction.atomic
def begin_anew() -> None:
    """After a restore, once the tables are those of this program: what was under way then is over, and what it left goes."""
    forget_all()
    Instance.current()
