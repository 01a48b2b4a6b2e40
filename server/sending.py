"""Sending twice makes one: a lost answer or a second press brings what the first one made."""

from __future__ import annotations

import re

from django.http import HttpRequest

from server.errors import Refused

HEADER = "Idempotency-Key"
_FORM = re.compile(r"[A-Za-z0-9-]{8,64}")


def sent_as(request: HttpRequest) -> str | None:
    """The key a request is sent under; None without one. Raises Refused 400 for one of another form."""
    key = request.headers.get(HEADER)
    if key is not None and _FORM.fullmatch(key) is None:
        raise Refused(f"{HEADER} is 8 to 64 letters, digits and dashes.", code="request_invalid", status=400)
    return key
