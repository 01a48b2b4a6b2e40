"""Who asks."""

from __future__ import annotations

from django.http import HttpRequest

from server.accounts.models import User


def who(request: HttpRequest) -> User:
    """The one who is signed in: no door that asks lets anybody else in."""
    user = request.user
    assert isinstance(user, User)
    return user
