"""A second pair of eyes: one build shown to whoever has its link, for some days, without the names of people."""

from __future__ import annotations

from copy import deepcopy
from datetime import timedelta
from typing import Any

from django.http import HttpRequest
from django.utils import timezone

from server.accounts.guard import note
from server.accounts.tokens import hash_of, new_token
from server.accounts.who import who
from server.builds.models import Build, Setup
from server.errors import Refused, not_found
from server.sharing.models import LookLink

MOST_OPEN = 10


def share(request: HttpRequest, build: Build, days: int, what_for: str) -> tuple[LookLink, str]:
    """A link, and its token, which is told this once. Raises Refused where there are too many."""
    now = timezone.now()
    build.look_links.filter(expires__lt=now).delete()
    if build.look_links.count() >= MOST_OPEN:
        raise Refused(f"{MOST_OPEN} links show this build. Take one back first.", code="too_many")
    token = new_token()
    made = LookLink.objects.create(build=build, token_hash=hash_of(token), note=what_for.strip(), by=who(request), expires=now + timedelta(days=days))
    note(request, "shared", user=request.user, text=f"{build.name}, to look at for {days} days")
    return made, token


def open_of(build: Build) -> list[LookLink]:
    """Links that still show a build."""
    return list(build.look_links.filter(expires__gte=timezone.now()).select_related("by"))


def take_back(request: HttpRequest, build: Build, link_id: int) -> None:
    """A link that shows nothing any more."""
    if not build.look_links.filter(pk=link_id).delete()[0]:
        raise not_found("link")
    note(request, "link taken back", user=request.user, text=build.name)


def of_token(token: str) -> LookLink:
    """The link a token stands for. Raises Refused where it is over or taken back: all look the same from outside."""
    rows = LookLink.objects.select_related("build__garage").filter(build__binned=None, expires__gte=timezone.now())
    found = rows.filter(token_hash=hash_of(token)).first()
    if found is None:
        raise Refused("This link shows nothing any more: it was taken back, or its days have passed. Ask for another.", code="link_over", status=404)
    return found


def nameless(document: dict[str, Any]) -> dict[str, Any]:
    """A setup's document without the names of who rides and who looked.

    >>> nameless({"rider": {"name": "Pip", "age_years": 7}, "looks": {"held": {"answer": "yes", "by": "ada"}}})
    {'rider': {'name': '', 'age_years': 7}, 'looks': {'held': {'answer': 'yes', 'by': ''}}}
    """
    copy = deepcopy(document)
    people = [copy.get("rider"), copy.get("passenger"), *(copy.get("also") or [])]
    for person in people:
        if isinstance(person, dict) and "name" in person:
            person["name"] = ""
    for look in (copy.get("looks") or {}).values():
        if isinstance(look, dict) and "by" in look:
            look["by"] = ""
    return copy


def shown_of(build: Build, setup_id: int | None) -> Setup:
    """The setup asked for, else the one in use, else the newest. Raises Refused 404 for another build's."""
    setups = list(build.setups.all())
    if setup_id is not None:
        found = next((one for one in setups if one.pk == setup_id), None)
    else:
        found = next((one for one in setups if one.in_use), setups[-1] if setups else None)
    if found is None:
        raise not_found("setup")
    return found
