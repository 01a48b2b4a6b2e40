"""Who belongs to a garage. Only its owner lets others in and takes them out."""

from __future__ import annotations

from typing import Any

from django.db import transaction
from django.db.models import QuerySet

from server.accounts.services import make_account
from server.errors import Refused, not_found
from server.garage.models import Garage, Membership

MOST_MEMBERS = 12


def members_of(garage: Garage) -> QuerySet[Membership]:
    """Members of a garage, the first one first."""
    return garage.memberships.select_related("user").order_by("pk")


def _owner_only(garage: Garage, user: Any) -> None:
    if not garage.memberships.filter(user=user, role="owner").exists():
        raise Refused("Only the owner of the garage lets others in or takes them out.", code="owner_only", status=403)


@transaction.atomic
def add_member(garage: Garage, owner: Any, username: str, password: str) -> Membership:
    """Make an account for somebody of the household and let it in. Raises Refused for a taken name or a weak password."""
    _owner_only(garage, owner)
    if garage.memberships.count() >= MOST_MEMBERS:
        raise Refused(f"A garage has up to {MOST_MEMBERS} members. Take out somebody who no longer comes.", code="too_many")
    return Membership.objects.create(garage=garage, user=make_account(username, password), role="member")


@transaction.atomic
def remove_member(garage: Garage, owner: Any, member_id: int) -> None:
    """Take a member out; an account that belongs to no garage any more goes too, what it saved stays."""
    _owner_only(garage, owner)
    member = garage.memberships.select_related("user").filter(pk=member_id).first()
    if member is None:
        raise not_found("member")
    if member.role == "owner":
        raise Refused("The owner stays: without one nobody could let others in.", code="is_owner", status=409)
    user = member.user
    member.delete()
    if not user.memberships.exists() and not user.is_staff:
        user.delete()
