"""What one does in a garage."""

from __future__ import annotations

from contextlib import suppress
from typing import Any

from django.db import transaction
from django.db.models import QuerySet
from pydantic import TypeAdapter, ValidationError

from gecko.document.context import HouseRules
from gecko.document.parts.rider import Rider as RiderPart
from server.accounts.models import User
from server.errors import Refused, not_found
from server.garage.models import Garage, Membership, Rider

UNITS: dict[str, tuple[str, ...]] = {
    "speed": ("mph", "km/h"),
    "length": ("ft", "m"),
    "mass": ("lb", "kg"),
    "temp": ("°F", "°C"),
    "wire": ("AWG", "mm²"),
    "small": ("in", "mm"),
    "money": ("USD", "EUR", "GBP", "CHF", "CAD", "AUD", "NZD", "SEK", "NOK", "DKK", "PLN", "CZK", "HUF", "RON", "JPY", "INR", "ZAR", "BRL", "MXN"),
}
IMPERIAL = {name: choices[0] for name, choices in UNITS.items()}


@transaction.atomic
def open_garage(user: User, name: str) -> Garage:
    """Make a garage with its first member."""
    garage = Garage.objects.create(name=name, units=IMPERIAL)
    Membership.objects.create(garage=garage, user=user, role="owner")
    return garage


MOST_GARAGES = 24
"""So many garages one account belongs to."""


def one_more_garage(user: Any, name: str) -> Garage:
    """Make another garage for somebody. Raises Refused without a name, and where there are too many."""
    if not name.strip():
        raise Refused("A garage needs a name.", field="/name")
    if user.memberships.count() >= MOST_GARAGES:
        raise Refused(f"You belong to {MOST_GARAGES} garages. Leave one first.", code="too_many")
    return open_garage(user, name.strip())


def riders_of(garage: Garage) -> list[RiderPart]:
    """Who rides in a garage, by name."""
    found = []
    for rider in garage.riders.order_by("name"):
        # A rider that cannot be read any more is reported where it is edited, and does not stop the others.
        with suppress(ValidationError):
            found.append(RiderPart.model_validate({**rider.document, "name": rider.name}))
    return found


def garages_of(user: Any) -> QuerySet[Garage]:
    """Garages a user belongs to."""
    return Garage.objects.filter(memberships__user=user).order_by("pk")


def garage_of(user: Any, garage_id: int) -> Garage:
    """A garage of the user's. Raises Refused 404 for one that is not there or not his."""
    garage = garages_of(user).filter(pk=garage_id).first()
    if garage is None:
        raise not_found("garage")
    return garage


def currency_of(garage: Garage) -> str:
    """The currency of a garage's sums."""
    return str(garage.units.get("money", IMPERIAL["money"]))


def house_of(garage: Garage) -> HouseRules:
    """The garage's house rules, defaults where it says nothing."""
    return HouseRules(**{key: value for key, value in garage.house_rules.items() if key in HouseRules.__dataclass_fields__})


def update_garage(
    garage: Garage,
    *,
    name: str | None = None,
    units: dict[str, str] | None = None,
    house_rules: dict[str, Any] | None = None,
    emergency_number: str | None = None,
) -> Garage:
    """Change a garage's name, units, house rules or emergency number. Raises Refused naming the field that is wrong."""
    if emergency_number is not None:
        garage.emergency_number = dialled(emergency_number)
    if name is not None:
        if not name.strip():
            raise Refused("A garage needs a name.", field="/name")
        garage.name = name.strip()
    if units is not None:
        for key, value in units.items():
            if value not in UNITS.get(key, ()):
                raise Refused(f"{key} can be {' or '.join(UNITS.get(key, ('nothing',)))}.", field=f"/units/{key}")
        garage.units = {**IMPERIAL, **garage.units, **units}
    if house_rules is not None:
        merged = {**garage.house_rules, **house_rules}
        unknown = set(merged) - set(HouseRules.__dataclass_fields__)
        if unknown:
            raise Refused(f"There is no house rule {sorted(unknown)[0]}.", field="/house_rules")
        TypeAdapter(HouseRules).validate_python(merged)
        garage.house_rules = merged
    garage.save()
    return garage


def dialled(number: str) -> str:
    """A telephone number as it is dialled, empty for none. Raises Refused for what nobody can dial."""
    number = " ".join(number.split())
    if number and (len(number) > 20 or not any(c.isdigit() for c in number) or any(c not in "0123456789+-() " for c in number)):
        raise Refused("Enter the number as it is dialled, such as 112 or 911.", field="/emergency_number")
    return number


def rider_of(garage: Garage, rider_id: int) -> Rider:
    """Somebody who rides in a garage. Raises Refused 404 otherwise."""
    rider = garage.riders.filter(pk=rider_id).first()
    if rider is None:
        raise not_found("rider")
    return rider


def save_rider(garage: Garage, rider_id: int | None, document: dict[str, Any]) -> Rider:
    """Add a rider, or change one. Raises ValidationError for a wrong field."""
    checked = RiderPart.model_validate(document)
    if not checked.name.strip():
        raise Refused("A rider needs a name.", field="/name")
    rider = Rider(garage=garage) if rider_id is None else rider_of(garage, rider_id)
    rider.name, rider.document = checked.name.strip(), checked.model_dump(mode="json")
    rider.save()
    return rider
