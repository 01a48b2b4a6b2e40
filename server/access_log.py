"""One line for each request: who, what, how it ended, how long it took. Never what was typed, and no address' query."""

from __future__ import annotations

import logging
import time
from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

log = logging.getLogger("server.access")


class AccessLogMiddleware:
    """Writes to the logger `server.access`, which is silent unless GECKO_ACCESS_LOG is 1."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        began = time.monotonic()
        response = self.get_response(request)
        if log.isEnabledFor(logging.INFO):
            who = request.user.pk if hasattr(request, "user") and request.user.is_authenticated else "-"
            took = 1000 * (time.monotonic() - began)
            log.info("%s %s %s %s %d %.0f ms", request.META.get("REMOTE_ADDR", "-"), who, request.method, request.path, response.status_code, took)
        return response


class OneLine(logging.Formatter):
    """Logs everything in one line, tracebacks too, because tools count, search and keep lines."""

    def format(self, record: logging.LogRecord) -> str:
        """The line."""
        return super().format(record).replace("\r", " ").replace("\n", " | ")
