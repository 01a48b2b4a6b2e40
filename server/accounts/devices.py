"""The browsers somebody is signed in with."""

from __future__ import annotations

from contextlib import suppress
from datetime import timedelta
from typing import Any

from django.contrib.auth import authenticate, get_user_model, logout, update_session_auth_hash
from django.contrib.auth.password_validation import validate_password
from django.contrib.sessions.models import Session
from django.core.exceptions import ValidationError
from django.db import OperationalError, transaction
from django.http import HttpRequest
from django.utils import timezone

from server.accounts import guard
from server.accounts.models import Device
from server.accounts.who import who
from server.errors import Refused, not_found

SEEN_EVERY = timedelta(minutes=10)


def signed_in(request: HttpRequest, user: Any) -> None:
    """Remember the browser that has just been signed in."""
    _remember(request, user)
    guard.note(request, "signed in", user=user)


def _remember(request: HttpRequest, user: Any) -> None:
    agent = str(request.META.get("HTTP_USER_AGENT", ""))[:200]
    found = {"user": user, "address": guard.address_of(request), "browser": agent, "seen": timezone.now()}
    Device.objects.update_or_create(session_key=request.session.session_key, defaults=found)


def seen(request: HttpRequest) -> None:
    """Note now and then that a browser is still used, and list one that signed in before browsers were listed. Where the database cannot be written
    nothing is noted, and reading goes on."""
    lately = Device.objects.filter(session_key=request.session.session_key or "", seen__gte=timezone.now() - SEEN_EVERY)
    if request.session.session_key and not lately.exists():
        with suppress(OperationalError):
            _remember(request, request.user)


def devices_of(user: Any) -> list[Device]:
    """Browsers somebody is signed in with, the one last used first. A browser whose session is over is removed from the list."""
    there = set(Session.objects.filter(expire_date__gt=timezone.now()).values_list("session_key", flat=True))
    user.devices.exclude(session_key__in=there).delete()
    return list(user.devices.all())


def sign_out(request: HttpRequest) -> None:
    """Sign this browser out."""
    if request.user.is_authenticated:
        Device.objects.filter(session_key=request.session.session_key or "").delete()
        guard.note(request, "signed out", user=request.user)
    logout(request)


@transaction.atomic
def sign_out_device(request: HttpRequest, device_id: int) -> None:
    """Sign one of one's own other browsers out."""
    device = Device.objects.filter(user=who(request), pk=device_id).first()
    if device is None:
        raise not_found("sign-in")
    _end([device])
    guard.note(request, "signed out", user=request.user, text="another browser")


@transaction.atomic
def sign_out_elsewhere(request: HttpRequest) -> None:
    """Sign every other browser of one's own out."""
    _end(list(Device.objects.filter(user=who(request)).exclude(session_key=request.session.session_key or "")))
    guard.note(request, "signed out", user=request.user, text="everywhere else")


def _end(devices: list[Device]) -> None:
    Session.objects.filter(session_key__in=[device.session_key for device in devices]).delete()
    Device.objects.filter(pk__in=[device.pk for device in devices]).delete()


def confirm_password(request: HttpRequest, user: Any, password: str, field: str = "/password") -> None:
    """Check the password of the user who is signed in. Raises Refused naming the field; wrong tries count as at signing in."""
    guard.hold_back(request, user.get_username())
    if authenticate(request, username=user.get_username(), password=password) is None:
        guard.wrong_try(request, user.get_username())
        raise Refused("This is not your password of now.", code="wrong_password", field=field)


def sign_out_everywhere(user: Any) -> None:
    """End every session of somebody, this one too."""
    _end(list(Device.objects.filter(user=user)))


def change_password(request: HttpRequest, old: str, new: str) -> None:
    """Change one's own password; every other browser is signed out. Raises Refused naming the field that is wrong."""
    user = get_user_model().objects.get(pk=who(request).pk)
    confirm_password(request, user, old, "/old")
    try:
        validate_password(new, user)
    except ValidationError as error:
        raise Refused(" ".join(error.messages), code="weak_password", field="/new") from error
    with transaction.atomic():
        user.set_password(new)
        user.save(update_fields=["password"])
        _end(list(Device.objects.filter(user=user).exclude(session_key=request.session.session_key or "")))
        before = request.session.session_key or ""
        # The new password hash ends every other session; this one goes on under a new key.
        update_session_auth_hash(request, user)
        request.session.save()
        Device.objects.filter(session_key=before).update(session_key=request.session.session_key)
        guard.note(request, "password", user=user, text="changed")
