"""Links by which somebody without an account looks at one build."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from server.builds.models import Build


class LookLink(models.Model):
    """A link that shows one build and nothing else. What the link holds is kept as a hash only."""

    build = models.ForeignKey(Build, on_delete=models.CASCADE, related_name="look_links")
    token_hash = models.CharField(max_length=64, unique=True)
    note = models.CharField(max_length=60, blank=True)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    created = models.DateTimeField(auto_now_add=True)
    expires = models.DateTimeField()

    class Meta:
        ordering = ["-created", "-pk"]
