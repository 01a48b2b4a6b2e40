"""Signing up, in and out."""

from __future__ import annotations

import hmac

from django.conf import settings
from django.contrib.auth import authenticate, get_user_model, login
from django.contrib.auth.password_validation import validate_password
from django.core.cache import cache
from django.core.exceptions import ValidationError
from django.http import HttpRequest

from server.accounts import devices, guard
from server.accounts.models import User
from server.errors import Refused

BACKEND = "django.contrib.auth.backends.ModelBackend"


MOST_WRONG_CODES = 10
WAIT_S = 15 * 60
"""After this many wrong codes from one address, no code from it is read for this long."""


def check_lan_code(request: HttpRequest, code: str) -> None:
    """When the garage is open to the local network, every sign-in brings the code printed at the start.

    Six digits can be guessed by a patient machine, so an address that guesses has to wait.
    """
    if not settings.LAN_CODE:
        return
    key = f"wrong-codes-{guard.address_of(request)}"
    if cache.get(key, 0) >= MOST_WRONG_CODES:
        raise Refused("Too many wrong codes from here. Wait a quarter of an hour, then read the code again.", code="lan_code_wait", status=429, field="/code")
    if not hmac.compare_digest(settings.LAN_CODE.encode(), code.strip().encode()):
        cache.add(key, 0, WAIT_S)
        cache.incr(key)
        raise Refused("The code is not right. It is printed where the server was started.", code="lan_code", status=403, field="/code")


def keeps_server(user: object) -> bool:
    """Whether somebody looks after this server, which the first account does. Owners of garages can export their builds instead."""
    first = get_user_model().objects.order_by("pk").first()
    return first is not None and first == user


def make_account(username: str, password: str) -> User:
    """An account with a checked name and password. Raises Refused naming the field that is wrong."""
    model = get_user_model()
    username = username.strip()
    if not username:
        raise Refused("Choose a name to sign in with.", field="/username")
    if model.objects.filter(username__iexact=username).exists():
        raise Refused("Somebody signs in with this name already. Choose another.", code="name_taken", field="/username")
    try:
        validate_password(password)
    except ValidationError as error:
        raise Refused(" ".join(error.messages), code="weak_password", field="/password") from error
    return model.objects.create_user(username=username, password=password)


def first_account(username: str, password: str) -> User:
    """Make the first account, inside a transaction. Later ones are made by a garage's owner, or by the command `createsuperuser`."""
    if not settings.LOOPBACK and not settings.LAN_CODE:
        raise Refused(
            "Beyond this machine the first account is made with a code. Start with `make run LAN=1`, or set GECKO_LAN_CODE; it is asked for here.",
            code="lan_code",
            status=403,
            field="/code",
        )
    # Checked while the database is locked for writing, so that of several at once only one becomes the first.
    if get_user_model().objects.exists():
        raise Refused("There is an account already: sign in with it.", code="account_exists", status=403)
    return make_account(username, password)


def enter(request: HttpRequest, user: User) -> None:
    """Sign a user in whose account was just made."""
    login(request, user, backend=BACKEND)
    devices.signed_in(request, user)


def sign_in(request: HttpRequest, username: str, password: str) -> User:
    """Sign in, or refuse in the same words whether name or password is wrong. Who guesses has to wait, and is told how long."""
    guard.hold_back(request, username)
    user = authenticate(request, username=username, password=password)
    if not isinstance(user, User):
        guard.wrong_try(request, username)
        raise Refused("Name or password is not right.", code="sign_in_failed", status=403)
    login(request, user)
    devices.signed_in(request, user)
    return user
