"""Garages, their members, riders, and the rack of parts on hand."""

from __future__ import annotations

from typing import Literal

from django.conf import settings
from django.db import models

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


class RackPart(Binnable):
    """A part on hand, with how many."""

    garage = models.ForeignKey(Garage, on_delete=models.CASCADE, related_name="rack")
    kind = models.CharField(max_length=20)
    label = models.CharField(max_length=80)
    document = models.JSONField(default=dict)
    quantity = models.PositiveIntegerField(default=1)
