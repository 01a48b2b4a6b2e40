"""Says who asks, for whatever a request has computed."""

from __future__ import annotations

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

from server.compute.client import Asker, asking


class AskerMiddleware:
    """Turns are taken by account, before signing in by address; the server tells whether the browser is still there."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        def name() -> str:
            return f"account {request.user.pk}" if request.user.is_authenticated else f"address {request.META.get('REMOTE_ADDR', '')}"

        token = asking.set(Asker(name, request.META.get("waitress.client_disconnected", Asker.gone)))
        try:
            return self.get_response(request)
        finally:
            asking.reset(token)
