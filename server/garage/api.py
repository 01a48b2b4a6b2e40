"""Garages, riders, members."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from django.http import HttpRequest
from ninja import Field, Query, Router, Schema

from gecko.answers.evaluation import Out
from gecko.common.documents import HouseDocument, RiderDocument
from server.accounts.api import SessionOut, from_here, session_out
from server.accounts.models import SecurityEvent
from server.accounts.services import check_lan_code
from server.errors import ErrorOut
from server.garage import invitations, members, services
from server.garage.models import Garage, Invitation, Membership, Rider, Role

router = Router(tags=["garage"])


class SignUpIn(Schema):
    """The first account."""

    username: str = Field(max_length=60)
    password: str = Field(max_length=200)
    garage: str = Field(default="", max_length=60)
    code: str = Field(default="", max_length=40)


class GarageOut(Out):
    """A garage."""

    id: int
    name: str
    units: dict[str, str]
    house_rules: HouseDocument
    emergency_number: str
    """What to call when it burns or somebody is hurt. Empty: not entered."""


class GarageIn(Schema):
    """What may change."""

    name: str | None = Field(default=None, max_length=60)
    units: dict[str, str] | None = None
    house_rules: HouseDocument | None = None
    emergency_number: str | None = Field(default=None, max_length=20)


class NewGarageIn(Schema):
    """A garage to make."""

    name: str = Field(max_length=60)


class LeaveIn(Schema):
    """A garage to leave. confirm: its name, where nobody else belongs to it."""

    garage: int
    confirm: str = Field(default="", max_length=60)


class RiderOut(Out):
    """A rider."""

    id: int
    name: str
    document: RiderDocument


class RiderIn(Schema):
    """A rider's document."""

    document: RiderDocument


class MemberOut(Schema):
    """Somebody who belongs to the garage."""

    id: int
    username: str
    role: Role
    you: bool


class MemberIn(Schema):
    """Somebody to let in: a name to sign in with and a first password."""

    username: str = Field(max_length=60)
    password: str = Field(max_length=200)
    role: Role = "builder"


class RoleIn(Schema):
    """What a member may do."""

    role: Role


class SecurityEventOut(Schema):
    """What happened around an account."""

    id: int
    name: str
    what: str
    text: str
    address: str
    when: datetime


def garage_out(garage: Garage) -> GarageOut:
    return GarageOut(
        id=garage.pk, name=garage.name, units={**services.IMPERIAL, **garage.units}, house_rules=garage.house_rules, emergency_number=garage.emergency_number
    )


@router.post("/session/sign-up", response={200: SessionOut, 403: ErrorOut, 422: ErrorOut, 429: ErrorOut}, auth=from_here)
def sign_up(request: HttpRequest, payload: SignUpIn) -> SessionOut:
    """Make the first account and its garage."""
    check_lan_code(request, payload.code)
    members.sign_up(request, payload.username, payload.password, payload.garage)
    return session_out(request)


@router.get("/garages", response=list[GarageOut])
def list_garages(request: HttpRequest) -> list[GarageOut]:
    """The user's garages."""
    return [garage_out(g) for g in services.garages_of(request.user)]


@router.post("/garages", response={200: GarageOut, 422: ErrorOut})
def make_garage(request: HttpRequest, payload: NewGarageIn) -> GarageOut:
    """Make another garage; whoever makes it owns it."""
    return garage_out(services.one_more_garage(request.user, payload.name))


@router.post("/session/leave-garage", response={204: None, 404: ErrorOut, 409: ErrorOut})
def leave_garage(request: HttpRequest, payload: LeaveIn) -> tuple[int, None]:
    """Leave a garage, whatever one may do in it. Its last member takes it along, and says so by its name."""
    members.leave(request, services.garage_of(request.user, payload.garage), payload.confirm)
    return 204, None


def rider_out(rider: Rider) -> RiderOut:
    return RiderOut(id=rider.pk, name=rider.name, document=rider.document)


@router.post("/garages/{garage_id}/riders", response={200: RiderOut, 404: ErrorOut, 422: ErrorOut})
def add_rider(request: HttpRequest, garage_id: int, payload: RiderIn) -> RiderOut:
    """Add a rider."""
    return rider_out(services.save_rider(services.garage_of(request.user, garage_id), None, payload.document))


@router.put("/garages/{garage_id}/riders/{rider_id}", response={200: RiderOut, 404: ErrorOut, 422: ErrorOut})
def change_rider(request: HttpRequest, garage_id: int, rider_id: int, payload: RiderIn) -> RiderOut:
    """Change a rider."""
    return rider_out(services.save_rider(services.garage_of(request.user, garage_id), rider_id, payload.document))


@router.delete("/garages/{garage_id}/riders/{rider_id}", response={204: None, 404: ErrorOut})
def remove_rider(request: HttpRequest, garage_id: int, rider_id: int) -> tuple[int, None]:
    """Put a rider into the bin; setups keep their copy."""
    services.rider_of(services.garage_of(request.user, garage_id), rider_id).to_bin(request.user)
    return 204, None


def _member(member: Membership, request: HttpRequest) -> MemberOut:
    return MemberOut(id=member.pk, username=member.user.get_username(), role=member.role, you=member.user_id == request.user.pk)


@router.get("/garages/{garage_id}/members", response={200: list[MemberOut], 404: ErrorOut})
def list_members(request: HttpRequest, garage_id: int) -> list[MemberOut]:
    """Who belongs to the garage."""
    return [_member(m, request) for m in members.members_of(services.garage_of(request.user, garage_id))]


@router.post("/garages/{garage_id}/members", response={200: MemberOut, 403: ErrorOut, 404: ErrorOut, 422: ErrorOut})
def add_member(request: HttpRequest, garage_id: int, payload: MemberIn) -> MemberOut:
    """Make an account for somebody of the household and let it in."""
    garage = services.garage_of(request.user, garage_id)
    return _member(members.add_member(garage, request, payload.username, payload.password, payload.role), request)


@router.patch("/garages/{garage_id}/members/{member_id}", response={200: MemberOut, 403: ErrorOut, 404: ErrorOut, 409: ErrorOut})
def change_member(request: HttpRequest, garage_id: int, member_id: int, payload: RoleIn) -> MemberOut:
    """Say what a member may do."""
    return _member(members.change_role(services.garage_of(request.user, garage_id), request, member_id, payload.role), request)


class InviteIn(Schema):
    """Whom to invite, and for how long the link is good."""

    role: Role = "builder"
    days: int = Field(default=7, ge=1, le=30)


class InvitationOut(Schema):
    """An open invitation. token: what its link holds, told once when it is made."""

    id: int
    role: Role
    by: str
    created: datetime
    expires: datetime
    token: str = ""


class TokenIn(Schema):
    """What the link holds."""

    token: str = Field(max_length=100)


class InvitedOut(Schema):
    """What an invitation is for."""

    garage: str
    role: Role
    by: str
    expires: datetime


class JoinIn(TokenIn):
    """The account to make."""

    username: str = Field(max_length=60)
    password: str = Field(max_length=200)
    code: str = Field(default="", max_length=40)


def _invitation(row: Invitation, token: str = "") -> InvitationOut:
    by = row.by.get_username() if row.by is not None else ""
    return InvitationOut(id=row.pk, role=row.role, by=by, created=row.created, expires=row.expires, token=token)


@router.post("/garages/{garage_id}/invitations", response={200: InvitationOut, 403: ErrorOut, 404: ErrorOut, 422: ErrorOut})
def invite(request: HttpRequest, garage_id: int, payload: InviteIn) -> InvitationOut:
    """Make a link that lets one more account in."""
    return _invitation(*invitations.invite(services.garage_of(request.user, garage_id), request, payload.role, payload.days))


@router.get("/garages/{garage_id}/invitations", response={200: list[InvitationOut], 403: ErrorOut, 404: ErrorOut})
def list_invitations(request: HttpRequest, garage_id: int) -> list[InvitationOut]:
    """Invitations that still let somebody in."""
    return [_invitation(row) for row in invitations.open_of(services.garage_of(request.user, garage_id), request.user)]


@router.delete("/garages/{garage_id}/invitations/{invitation_id}", response={204: None, 403: ErrorOut, 404: ErrorOut})
def take_back(request: HttpRequest, garage_id: int, invitation_id: int) -> tuple[int, None]:
    """Take an invitation back."""
    invitations.take_back(services.garage_of(request.user, garage_id), request.user, invitation_id)
    return 204, None


@router.post("/session/invitation", response={200: InvitedOut, 403: ErrorOut, 404: ErrorOut}, auth=from_here)
def look_at_invitation(request: HttpRequest, payload: TokenIn) -> InvitedOut:  # noqa: ARG001
    """What an invitation is for."""
    row = invitations.of_token(payload.token)
    return InvitedOut(garage=row.garage.name, role=row.role, by=row.by.get_username() if row.by is not None else "", expires=row.expires)


@router.post("/session/join", response={204: None, 403: ErrorOut, 404: ErrorOut, 422: ErrorOut, 429: ErrorOut}, auth=from_here)
def join(request: HttpRequest, payload: JoinIn) -> tuple[int, None]:
    """Make the invited account, and sign it in."""
    invitations.join(request, payload.token, payload.username, payload.password, payload.code)
    return 204, None


@router.post("/session/accept", response={200: GarageOut, 403: ErrorOut, 404: ErrorOut, 409: ErrorOut})
def accept(request: HttpRequest, payload: TokenIn) -> GarageOut:
    """Let the account that is signed in into the garage of an invitation."""
    return garage_out(invitations.accept(request, payload.token))


class FarewellIn(Schema):
    """The password, so that nobody else deletes the account."""

    password: str = Field(max_length=200)


@router.post("/session/delete-account", response={204: None, 409: ErrorOut, 422: ErrorOut, 429: ErrorOut})
def delete_account(request: HttpRequest, payload: FarewellIn) -> tuple[int, None]:
    """Delete one's own account, and the garages nobody else belongs to."""
    members.delete_account(request, payload.password)
    return 204, None


@router.get("/garages/{garage_id}/security", response={200: list[SecurityEventOut], 403: ErrorOut, 404: ErrorOut})
def security(
    request: HttpRequest, garage_id: int, skip: Annotated[int, Query(ge=0, le=1_000_000)] = 0, limit: Annotated[int, Query(ge=1, le=200)] = 50
) -> list[SecurityEvent]:
    """A page of what happened around the accounts of this garage, newest first; for its owner."""
    return members.security_log(services.garage_of(request.user, garage_id), request.user, skip, limit)


@router.delete("/garages/{garage_id}/members/{member_id}", response={204: None, 403: ErrorOut, 404: ErrorOut, 409: ErrorOut})
def remove_member(request: HttpRequest, garage_id: int, member_id: int) -> tuple[int, None]:
    """Take a member out."""
    members.remove_member(services.garage_of(request.user, garage_id), request, member_id)
    return 204, None
