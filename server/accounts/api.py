"""The session: who is signed in."""

from __future__ import annotations

from datetime import datetime

from django.conf import settings
from django.contrib.auth import get_user_model
from django.http import HttpRequest
from django.middleware.csrf import get_token
from ninja import Field, Router, Schema
from ninja.utils import check_csrf

from server.accounts import devices, services
from server.accounts.models import Instance
from server.errors import ErrorOut, Refused

router = Router(tags=["session"])


class SessionOut(Schema):
    """Who is signed in, and what the server is open for."""

    signed_in: bool
    username: str | None = None
    demo: bool
    first_visit: bool
    needs_code: bool
    keeper: str = ""
    """The owner of what this browser keeps: this database and this account."""
    keeps_server: bool = False
    """This is the first account, which looks after the server's backups."""


class SignInIn(Schema):
    """Name and password."""

    username: str = Field(max_length=60)
    password: str = Field(max_length=200)
    code: str = Field(default="", max_length=40)


def session_out(request: HttpRequest) -> SessionOut:
    """Who is signed in, and what the page has to know before anybody is."""
    get_token(request)
    user = request.user
    return SessionOut(
        signed_in=user.is_authenticated,
        username=user.get_username() or None,
        demo=settings.DEMO,
        first_visit=not user.is_authenticated and not get_user_model().objects.exists(),
        needs_code=bool(settings.LAN_CODE),
        keeps_server=user.is_authenticated and services.keeps_server(user),
        keeper=f"{Instance.current()}.{user.pk}" if user.is_authenticated else "",
    )


def from_here(request: HttpRequest) -> bool:
    """Check by origin and token that a request comes from our own page. Signing in needs this too: a foreign page could otherwise sign a visitor in
    to an account of its own. Raises Refused 403."""
    if check_csrf(request) is not None:
        raise Refused("This did not come from this page. Reload it, then try again.", code="foreign", status=403)
    return True


@router.get("", response=SessionOut, auth=None)
def session(request: HttpRequest) -> SessionOut:
    """Who is signed in."""
    if request.user.is_authenticated:
        devices.seen(request)
    return session_out(request)


@router.post("/sign-in", response={200: SessionOut, 403: ErrorOut, 429: ErrorOut}, auth=from_here)
def sign_in(request: HttpRequest, payload: SignInIn) -> SessionOut:
    """Sign in."""
    services.check_lan_code(request, payload.code)
    services.sign_in(request, payload.username, payload.password)
    return session_out(request)


@router.post("/sign-out", response=SessionOut)
def sign_out(request: HttpRequest) -> SessionOut:
    """Sign out."""
    devices.sign_out(request)
    return session_out(request)


class PasswordIn(Schema):
    """A new password, and the one of now."""

    old: str = Field(max_length=200)
    new: str = Field(max_length=200)


class DeviceOut(Schema):
    """A browser one is signed in with."""

    id: int
    browser: str
    address: str
    created: datetime
    seen: datetime
    here: bool


@router.post("/password", response={204: None, 422: ErrorOut, 429: ErrorOut})
def change_password(request: HttpRequest, payload: PasswordIn) -> tuple[int, None]:
    """Change one's own password; every other browser is signed out."""
    devices.change_password(request, payload.old, payload.new)
    return 204, None


@router.get("/devices", response=list[DeviceOut])
def list_devices(request: HttpRequest) -> list[DeviceOut]:
    """Browsers one is signed in with."""
    here = request.session.session_key
    return [
        DeviceOut(id=one.pk, browser=one.browser, address=one.address, created=one.created, seen=one.seen, here=one.session_key == here)
        for one in devices.devices_of(request.user)
    ]


@router.delete("/devices/{device_id}", response={204: None, 404: ErrorOut})
def sign_device_out(request: HttpRequest, device_id: int) -> tuple[int, None]:
    """Sign one of them out."""
    devices.sign_out_device(request, device_id)
    return 204, None


@router.post("/sign-out-elsewhere", response={204: None})
def sign_out_elsewhere(request: HttpRequest) -> tuple[int, None]:
    """Sign out everywhere else."""
    devices.sign_out_elsewhere(request)
    return 204, None
