"""Files on their way in."""

from __future__ import annotations

import secrets

from django.conf import settings
from django.db import models


def _new_key() -> str:
    return secrets.token_hex(16)


class Upload(models.Model):
    """A file that comes in part by part, so that a large one needs no large request and goes on after a broken connection."""

    user = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="uploads")
    key = models.CharField(max_length=32, default=_new_key, unique=True)
    """What it is called in the folder of uploads."""
    name = models.CharField(max_length=200)
    size = models.PositiveBigIntegerField()
    received = models.PositiveBigIntegerField(default=0)
    used = models.BooleanField(default=False)
    """Something works from it: it stays until that is over."""
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["pk"]
