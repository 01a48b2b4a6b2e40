"""Garages, their members, riders, and the rack of parts on hand."""

from __future__ import annotations

import secrets
from typing import Literal

from django.conf import settings
from django.db import models
from django.utils import timezone

from server.garage.binned import Binnable

Role = Literal["owner", "builder", "viewer"]
"""What somebody may do in a garage: everything, everything but letting others in, look."""


class Garage(models.Model):
    """A household's workshop. Everything in it belongs to its members."""

    name = models.CharField(max_length=60)
    units = models.JSONField(default=dict)
    house_rules = models.JSONField(default=dict)
    emergency_number = models.CharField(max_length=20, blank=True, default="")
    members = models.ManyToManyField(settings.AUTH_USER_MODEL, through="Membership", related_name="garages")
    created = models.DateTimeField(auto_now_add=True)

    def __str__(self) -> str:
        return self.name


class Membership(models.Model):
    """Who belongs to a garage."""

    garage = models.ForeignKey(Garage, on_delete=models.CASCADE, related_name="memberships")
    user = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="memberships")
    role: models.CharField[Role, Role] = models.CharField(max_length=12, choices=[("owner", "owner"), ("builder", "builder"), ("viewer", "viewer")], default="builder")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["garage", "user"], name="one_membership_each")]


class Invitation(models.Model):
    """A link that lets one more account into a garage. What the link holds is kept as a hash only."""

    garage = models.ForeignKey(Garage, on_delete=models.CASCADE, related_name="invitations")
    role: models.CharField[Role, Role] = models.CharField(max_length=12)
    token_hash = models.CharField(max_length=64, unique=True)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    created = models.DateTimeField(auto_now_add=True)
    expires = models.DateTimeField()

    class Meta:
        ordering = ["-created", "-pk"]


class Rider(Binnable):
    """Somebody who rides; copied into a setup, so that the setup stays what it was."""

    garage = models.ForeignKey(Garage, on_delete=models.CASCADE, related_name="riders")
    name = models.CharField(max_length=60)
    document = models.JSONField(default=dict)


def _new_key() -> str:
    return secrets.token_hex(8)


class RackPart(Binnable):
    """A part of one's own: one thing with its sticker where each is a part of its own, else so many alike."""

    garage = models.ForeignKey(Garage, on_delete=models.CASCADE, related_name="rack")
    key = models.CharField(max_length=40, default=_new_key)
    """What setups know it by. It never changes."""
    letter = models.CharField(max_length=4, blank=True, default="")
    """What is written on its sticker, one of a kind in its garage."""
    kind = models.CharField(max_length=20)
    label = models.CharField(max_length=80)
    document = models.JSONField(default=dict)
    about = models.JSONField(default=dict)
    """What is known of it beside its label; empty where that is nothing."""
    quantity = models.PositiveIntegerField(default=1)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["garage", "key"], name="one_part_each_key")]


class PartEntry(Binnable):
    """A line of a part's log: a reading, something that happened, or a note."""

    part = models.ForeignKey(RackPart, on_delete=models.CASCADE, related_name="log")
    when = models.DateTimeField(default=timezone.now)
    kind = models.CharField(max_length=12)
    value = models.FloatField(null=True)
    """The reading: amp-hours, ohms, volts, or amp-hours put back, as its kind says. [Ah, Ω, V, Ah]"""
    half = models.FloatField(null=True)
    """Half the width of its 95 % interval, in the same unit."""
    text = models.CharField(max_length=300, blank=True)
    source = models.CharField(max_length=12, default="by hand")
    by_name = models.CharField(max_length=150, blank=True, default="")
    """Who wrote it down."""

    class Meta:
        ordering = ["-when", "-pk"]
