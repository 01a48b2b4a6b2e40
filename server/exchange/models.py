"""Files being read in."""

from __future__ import annotations

from typing import Literal

from django.conf import settings
from django.db import models

from server.garage.models import Garage
from server.uploads.models import Upload

State = Literal["waiting", "checking", "storing", "done", "failed", "stopped"]


class Import(models.Model):
    """A file that is read into a garage: how far it is, what came of it, or what is wrong with it.

    What was stored so far belongs to a garage nobody is a member of, so nobody sees it; at the end it changes over in one step.
    """

    garage = models.ForeignKey(Garage, null=True, on_delete=models.SET_NULL, related_name="imports")
    user = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    upload = models.OneToOneField(Upload, null=True, on_delete=models.SET_NULL, related_name="+")
    staging = models.ForeignKey(Garage, null=True, default=None, on_delete=models.SET_NULL, related_name="+")
    name = models.CharField(max_length=200)
    state: models.CharField[State, State] = models.CharField(max_length=12, default="waiting")
    """waiting, checking, storing, done, failed or stopped."""
    here = models.BooleanField(default=False)
    """Done by the process that took the request, while it waits."""
    share = models.FloatField(default=0.0)
    """How much of it is done, 0 to 1."""
    told = models.JSONField(default=dict)
    """Once done what came in, once failed the error in its usual shape."""
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-pk"]
