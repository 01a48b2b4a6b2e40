"""Who asks."""

from __future__ import annotations

from django.http import HttpRequest

from server.accounts.models import User


def who(request: HttpRequest) -> User:
    """The user who is signed in. Only addresses that need a sign-in ask for this."""
    user = request.user
    assert isinstance(user, User)
    return user
