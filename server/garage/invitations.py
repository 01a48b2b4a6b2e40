"""Letting somebody in by a link: unguessable, kept as a hash only, good for one account and a few days, taken back at any time."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from django.contrib.auth import login
from django.db import transaction
from django.http import HttpRequest
from django.utils import timezone

from server.accounts import devices
from server.accounts.guard import note
from server.accounts.services import BACKEND, check_lan_code, make_account
from server.accounts.tokens import hash_of, new_token
from server.accounts.who import who
from server.errors import Refused, not_found
from server.garage.members import MOST_MEMBERS, owner_only
from server.garage.models import Garage, Invitation, Membership, Role

MOST_OPEN = 20


def invite(garage: Garage, request: HttpRequest, role: Role, days: int) -> tuple[Invitation, str]:
    """An invitation, and its token, which is told this once. Raises Refused where there are too many."""
    owner_only(garage, request.user)
    now = timezone.now()
    garage.invitations.filter(expires__lt=now).delete()
    if garage.invitations.count() >= MOST_OPEN:
        raise Refused(f"{MOST_OPEN} invitations are open. Take one back first.", code="too_many")
    token = new_token()
    made = Invitation.objects.create(garage=garage, role=role, token_hash=hash_of(token), by=who(request), expires=now + timedelta(days=days))
    note(request, "invited", user=request.user, text=f"a {role}, for {days} days")
    return made, token


def open_of(garage: Garage, user: Any) -> list[Invitation]:
    """Invitations that still let somebody in."""
    owner_only(garage, user)
    return list(garage.invitations.filter(expires__gte=timezone.now()).select_related("by"))


def take_back(garage: Garage, user: Any, invitation_id: int) -> None:
    """An invitation that lets nobody in any more."""
    owner_only(garage, user)
    if not garage.invitations.filter(pk=invitation_id).delete()[0]:
        raise not_found("invitation")


def of_token(token: str) -> Invitation:
    """The invitation a link stands for. Raises Refused where it is over, used or taken back: all look the same from outside."""
    found = Invitation.objects.select_related("garage", "by").filter(token_hash=hash_of(token), expires__gte=timezone.now()).first()
    if found is None:
        raise Refused("This invitation is over: it was used, taken back, or its days have passed. Ask for another.", code="invitation_over", status=404)
    return found


def join(request: HttpRequest, token: str, username: str, password: str, code: str) -> None:
    """Make the invited account and sign it in. Raises Refused naming the field that is wrong; the invitation is used only when it worked."""
    check_lan_code(request, code)
    with transaction.atomic():
        invitation = of_token(token)
        user = make_account(username, password)
        _let_in(request, invitation, user)
    login(request, user, backend=BACKEND)
    devices.signed_in(request, user)


@transaction.atomic
def accept(request: HttpRequest, token: str) -> Garage:
    """Let the account that is signed in into one more garage. Raises Refused where it belongs to it already; then the invitation stays good."""
    invitation = of_token(token)
    if invitation.garage.memberships.filter(user=who(request)).exists():
        raise Refused(f"You belong to {invitation.garage.name} already.", code="member_already", status=409)
    _let_in(request, invitation, request.user)
    return invitation.garage


def _let_in(request: HttpRequest, invitation: Invitation, user: Any) -> None:
    if invitation.garage.memberships.count() >= MOST_MEMBERS:
        raise Refused(f"This garage has its {MOST_MEMBERS} members already.", code="too_many")
    Membership.objects.create(garage=invitation.garage, user=user, role=invitation.role)
    invitation.delete()
    note(request, "let in", user=user, text=f"as {invitation.role} by invitation of {invitation.by.get_username() if invitation.by else 'the owner'}")
