"""Photos: what each shows, and where its file lies."""

from __future__ import annotations

from django.conf import settings
from django.db import models
from django.utils import timezone

from server.builds.models import Setup
from server.garage.binned import Binnable
from server.garage.models import Garage, RackPart
from server.logbook.models import JournalEntry, Trial


class Photo(Binnable):
    """A photo of a part, a step or plug of a setup, a run, or a journal entry. Its picture is a file named by its own contents, which never changes."""

    garage = models.ForeignKey(Garage, on_delete=models.CASCADE, related_name="photos")
    sha = models.CharField(max_length=64, db_index=True)
    """SHA-256 of the file, in hexadecimal: its name in the folder of photos."""
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()
    part = models.ForeignKey(RackPart, null=True, default=None, on_delete=models.CASCADE, related_name="photos")
    setup = models.ForeignKey(Setup, null=True, default=None, on_delete=models.CASCADE, related_name="photos")
    place = models.CharField(max_length=40, blank=True, default="")
    """Of a setup: which step or plug it shows."""
    trial = models.ForeignKey(Trial, null=True, default=None, on_delete=models.CASCADE, related_name="photos")
    entry = models.ForeignKey(JournalEntry, null=True, default=None, on_delete=models.CASCADE, related_name="photos")
    caption = models.CharField(max_length=120, blank=True, default="")
    when = models.DateTimeField(default=timezone.now)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    by_name = models.CharField(max_length=150, blank=True, default="")
    """Who took it in."""

    class Meta:
        ordering = ["when", "pk"]
