"""Guessing passwords is slow and seen: tries count by account and by address, and nobody's guessing locks the owner out."""

from __future__ import annotations

import fcntl
import math
import os
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import timedelta
from pathlib import Path
from typing import Any

from axes.handlers.proxy import AxesProxyHandler
from axes.models import AccessAttempt, AccessBase
from django.conf import settings
from django.contrib.auth import get_user_model
from django.contrib.auth.hashers import Argon2PasswordHasher
from django.db.models import Max, Q
from django.http import HttpRequest
from django.utils import timezone

from server.accounts.models import SecurityEvent
from server.errors import Refused

WITHIN = timedelta(minutes=15)
"""How long to wait after too many wrong tries. An address waits, and so does everybody who tries the account from an address it has not signed in
from."""

KNOWN_FOR = timedelta(days=90)
"""How long an address counts as one an account signs in from: about as long as a sign-in lasts."""

KEEPS = timedelta(days=365)
"""How long the security log keeps an entry."""


def address_of(request: HttpRequest) -> str:
    """Where a request comes from, as the server was told: by the connection, or by the one proxy that is trusted."""
    return str(request.META.get("REMOTE_ADDR", ""))[:45]


def note(request: HttpRequest | None, what: str, *, user: Any = None, name: str = "", text: str = "") -> None:
    """Write into the security log, and drop its entries that are too old."""
    now = timezone.now()
    SecurityEvent.objects.filter(when__lt=now - KEEPS).delete()
    called = (name or (user.get_username() if user is not None else "")).strip()[:60]
    SecurityEvent.objects.create(user=user, name=called, what=what, text=text[:200], address=address_of(request) if request is not None else "")


def locks_for(told: HttpRequest | AccessBase, credentials: dict[str, Any] | None = None) -> list[str | list[str]]:
    """The keys that wrong tries are counted under. A user at an address they signed in from before is not kept out by tries from elsewhere."""
    if isinstance(told, AccessBase):
        name, address = str(told.username or ""), str(told.ip_address or "")
    else:
        name, address = str((credentials or {}).get("username") or ""), address_of(told)
    signed_in = SecurityEvent.objects.filter(what="signed in", name__iexact=name.strip()[:60], address=address)
    known = signed_in.filter(when__gte=timezone.now() - KNOWN_FOR).exists()
    return [["username", "ip_address"]] if known else ["ip_address", "username"]


def hold_back(request: HttpRequest, username: str) -> None:
    """After too many wrong tries, refuse a try before its password is checked. Raises Refused 429 with how long to wait."""
    if AxesProxyHandler.is_allowed(request, {"username": username}):
        return
    tries = AccessAttempt.objects.filter(Q(username=username) | Q(ip_address=address_of(request)))
    last = tries.aggregate(Max("attempt_time"))["attempt_time__max"] or timezone.now()
    minutes = max(1, math.ceil((last + WITHIN - timezone.now()).total_seconds() / 60))
    raise Refused(f"Too many wrong tries. Wait {minutes} minute{'s' if minutes > 1 else ''}, then try again.", code="too_many_tries", status=429)


def wrong_try(request: HttpRequest, username: str) -> None:
    """Count a wrong try once, by name and address."""
    user = get_user_model().objects.filter(username__iexact=username.strip()).first()
    note(request, "failed", user=user, name=username)


@contextmanager
def one_of_two() -> Iterator[None]:
    """A lock that lets at most two hold it at once, across all processes and threads. It is released with the process, however that ends."""
    folder = Path(settings.VAR)
    locks = [os.open(folder / f"hashing-{number}.lock", os.O_CREAT | os.O_RDWR, 0o600) for number in (0, 1)]
    try:
        for lock in locks:
            try:
                fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
            except BlockingIOError:
                continue
            break
        else:
            fcntl.flock(locks[os.getpid() % 2], fcntl.LOCK_EX)
        yield
    finally:
        for lock in locks:
            os.close(lock)


class TwoAtOnceHasher(Argon2PasswordHasher):
    """Argon2, which is slow and takes a lot of memory on purpose. At most two hashes are computed at once, so that guessing cannot stop the
    server."""

    def encode(self, password: str, salt: str) -> str:
        """The hash of a password."""
        with one_of_two():
            return super().encode(password, salt)

    def verify(self, password: str, encoded: str) -> bool:
        """Whether a password is the one."""
        with one_of_two():
            return super().verify(password, encoded)
