"""Signing up, in and out."""

from __future__ import annotations

import hmac

from django.conf import settings
from django.contrib.auth import authenticate, get_user_model, login
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.db import transaction
from django.http import HttpRequest

from server.accounts.models import User
from server.errors import Refused
from server.garage.services import open_garage

BACKEND = "django.contrib.auth.backends.ModelBackend"


def check_lan_code(code: str) -> None:
    """When the garage is open to the local network, every sign-in brings the code printed at the start."""
    if settings.LAN_CODE and not hmac.compare_digest(settings.LAN_CODE, code.strip()):
        raise Refused("The code is not right. It is printed where the server was started.", code="lan_code", status=403, field="/code")


def sign_up(request: HttpRequest, username: str, password: str, garage: str) -> User:
    """Make the first account and its garage. Later accounts are made by the command `createsuperuser`."""
    model = get_user_model()
    username = username.strip()
    if model.objects.exists():
        raise Refused("There is an account already: sign in with it.", code="account_exists", status=403)
    if not username:
        raise Refused("Choose a name to sign in with.", field="/username")
    try:
        validate_password(password)
    except ValidationError as error:
        raise Refused(" ".join(error.messages), code="weak_password", field="/password") from error
    with transaction.atomic():
        user = model.objects.create_user(username=username, password=password)
        open_garage(user, garage.strip() or "My garage")
    login(request, user, backend=BACKEND)
    return user


def sign_in(request: HttpRequest, username: str, password: str) -> User:
    """Sign in, or refuse in the same words whether name or password is wrong."""
    user = authenticate(request, username=username, password=password)
    if user is None:
        raise Refused("Name or password is not right. After some failed tries, wait a quarter of an hour.", code="sign_in_failed", status=403)
    login(request, user)
    return user  # type: ignore[return-value]
