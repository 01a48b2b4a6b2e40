"""Who belongs to a garage. Only its owner lets others in and takes them out."""

from __future__ import annotations

from typing import Any

from django.contrib.auth import get_user_model
from django.db import transaction
from django.db.models import QuerySet
from django.http import HttpRequest

from server.accounts.devices import confirm_password, sign_out_everywhere
from server.accounts.guard import note
from server.accounts.models import SecurityEvent
from server.accounts.services import enter, first_account, keeps_server, make_account
from server.accounts.who import who
from server.cache import forget_when_done
from server.errors import Refused, not_found
from server.garage.models import Garage, Membership, Role
from server.garage.services import open_garage

MOST_MEMBERS = 12


def sign_up(request: HttpRequest, username: str, password: str, garage: str) -> None:
    """Make the first account and its garage, both or neither, and sign it in."""
    with transaction.atomic():
        user = first_account(username, password)
        open_garage(user, garage.strip() or "My garage")
    enter(request, user)


def members_of(garage: Garage) -> QuerySet[Membership]:
    """Members of a garage, the first one first."""
    return garage.memberships.select_related("user").order_by("pk")


def owner_only(garage: Garage, user: Any) -> None:
    """Raises Refused 403 for anybody else."""
    if not garage.memberships.filter(user=user, role="owner").exists():
        raise Refused("Only an owner of the garage sees to who belongs to it.", code="owner_only", status=403)


@transaction.atomic
def add_member(garage: Garage, request: HttpRequest, username: str, password: str, role: Role = "builder") -> Membership:
    """Make an account for somebody of the household and let it in. Raises Refused for a taken name or a weak password."""
    owner = request.user
    owner_only(garage, owner)
    if garage.memberships.count() >= MOST_MEMBERS:
        raise Refused(f"A garage has up to {MOST_MEMBERS} members. Take out somebody who no longer comes.", code="too_many")
    member = Membership.objects.create(garage=garage, user=make_account(username, password), role=role)
    note(request, "let in", user=member.user, text=f"as {role} by {owner.get_username()}")
    return member


@transaction.atomic
def change_role(garage: Garage, request: HttpRequest, member_id: int, role: Role) -> Membership:
    """Say what a member may do. Raises Refused where nobody would own the garage any more."""
    owner = request.user
    owner_only(garage, owner)
    member = _member(garage, member_id)
    if member.role == "owner" and role != "owner" and garage.memberships.filter(role="owner").count() == 1:
        raise Refused("A garage needs an owner: make somebody else one first.", code="is_owner", status=409)
    member.role = role
    member.save(update_fields=["role"])
    note(request, "role", user=member.user, text=f"{role} by {owner.get_username()}")
    return member


def _member(garage: Garage, member_id: int) -> Membership:
    member = garage.memberships.select_related("user").filter(pk=member_id).first()
    if member is None:
        raise not_found("member")
    return member


@transaction.atomic
def delete_account(request: HttpRequest, password: str) -> None:
    """Delete one's own account, and the garages nobody else belongs to. Raises Refused for a wrong password, and where others would be left
    without an owner."""
    user = get_user_model().objects.get(pk=who(request).pk)
    confirm_password(request, user, password)
    for mine in user.memberships.select_related("garage").filter(role="owner"):
        others = mine.garage.memberships.exclude(pk=mine.pk)
        if others.exists() and not others.filter(role="owner").exists():
            raise Refused(f"{mine.garage.name} would have no owner: make somebody else one first, or take the others out.", code="is_owner", status=409)
    alone = [mine.garage for mine in user.memberships.select_related("garage") if mine.garage.memberships.count() == 1]
    note(request, "deleted", user=None, name=user.get_username(), text="the account, by itself")
    sign_out_everywhere(user)
    for garage in alone:
        garage.delete()
    user.delete()
    forget_when_done()


@transaction.atomic
def leave(request: HttpRequest, garage: Garage, confirm: str) -> None:
    """Leave a garage; who is its last member says its name once more, and it goes with all there is in it. Raises Refused where others would be
    left without an owner."""
    mine = garage.memberships.get(user=who(request))
    others = garage.memberships.exclude(pk=mine.pk)
    note(request, "left", user=request.user, text=garage.name)
    if others.exists():
        if mine.role == "owner" and not others.filter(role="owner").exists():
            raise Refused(f"{garage.name} would have no owner: make somebody else one first, or take the others out.", code="is_owner", status=409)
        mine.delete()
    elif confirm.strip() != garage.name:
        raise Refused("Nobody else belongs to this garage: it goes with all its builds. Write its name to say so.", code="last_one", status=409, field="/confirm")
    else:
        garage.delete()
        forget_when_done()


def security_log(garage: Garage, owner: Any, skip: int, limit: int) -> list[SecurityEvent]:
    """What happened around the accounts of a garage's members, newest first; for its owner."""
    owner_only(garage, owner)
    accounts = garage.memberships.values_list("user_id", flat=True)
    return list(SecurityEvent.objects.filter(user__in=accounts)[skip : skip + limit])


@transaction.atomic
def remove_member(garage: Garage, request: HttpRequest, member_id: int) -> None:
    """Take a member out; an account that belongs to no garage any more goes too, what it saved stays. Not that of whoever keeps the server: with it
    the server would be the next one's."""
    owner = request.user
    owner_only(garage, owner)
    member = _member(garage, member_id)
    if member.role == "owner" and garage.memberships.filter(role="owner").count() == 1:
        raise Refused("The owner stays: without one nobody could let others in.", code="is_owner", status=409)
    user = member.user
    note(request, "taken out", user=user, text=f"by {owner.get_username()}")
    member.delete()
    if not user.memberships.exists() and not user.is_staff and not keeps_server(user):
        user.delete()
