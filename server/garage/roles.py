"""What a member of a garage may do: an owner everything, a builder all work on machines, a viewer look."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from django.http import HttpRequest, HttpResponse, JsonResponse

from server.garage.models import Membership
from server.parsing import MOST_DIGITS

ADDRESSES = {"garage_id": "garage", "build_id": "garage__builds", "setup_id": "garage__builds__setups"}
"""What an address may name, and the way from a membership to it."""


class RolesMiddleware:
    """Closes every address that changes a garage, a build or a setup to viewers. It is done here, so that no address can be forgotten."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        return self.get_response(request)

    def process_view(self, request: HttpRequest, _view: Any, _args: Any, named: dict[str, Any]) -> HttpResponse | None:
        """Refuse a change to a viewer. Somebody who is no member gets "not found" from the address itself."""
        way = next((f"{way}__pk" for name, way in ADDRESSES.items() if name in named), None)
        if way is None or request.method in ("GET", "HEAD", "OPTIONS") or not request.user.is_authenticated:
            return None
        key = str(next(named[name] for name in ADDRESSES if name in named))
        if not (key.isascii() and key.isdigit() and len(key) <= MOST_DIGITS):
            # Nothing has such a number; the address itself says so.
            return None
        if not Membership.objects.filter(user=request.user, role="viewer", **{way: int(key)}).exists():
            return None
        return JsonResponse({"code": "viewer", "message": "You may look at this garage, not change it. Its owner can let you build too."}, status=403)
