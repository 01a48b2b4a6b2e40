"""Trials and the journal."""

from __future__ import annotations

from django.db import models
from django.utils import timezone

from server.builds.models import Build, Revision, Setup
from server.garage.binned import Binnable


class Trial(Binnable):
    """A measured run: timed passes under stated conditions, pointing at the revision that was ridden."""

    build = models.ForeignKey(Build, on_delete=models.CASCADE, related_name="trials")
    setup = models.ForeignKey(Setup, on_delete=models.CASCADE, related_name="trials")
    revision = models.ForeignKey(Revision, on_delete=models.RESTRICT, related_name="trials")
    when = models.DateTimeField(default=timezone.now)
    passes = models.JSONField(default=list)
    knob = models.FloatField(null=True)
    surface = models.CharField(max_length=20, blank=True)
    grade = models.FloatField(null=True)
    volts_before_v = models.FloatField(null=True)
    volts_after_v = models.FloatField(null=True)
    motor_c = models.FloatField(null=True)
    note = models.CharField(max_length=300, blank=True)
    speed_m_s = models.FloatField()
    half_width_m_s = models.FloatField()
    sent_as = models.CharField(max_length=64, null=True, default=None)
    """The key it was sent under, so that sending twice makes one; none for what was not sent."""

    class Meta:
        ordering = ["when", "pk"]
        constraints = [models.UniqueConstraint(fields=["build", "sent_as"], name="one_trial_each_sending")]


class JournalEntry(Binnable):
    """What happened: a repair, a change, a crash, an overruled stop."""

    build = models.ForeignKey(Build, on_delete=models.CASCADE, related_name="journal")
    setup = models.ForeignKey(Setup, null=True, on_delete=models.SET_NULL, related_name="journal")
    revision = models.ForeignKey(Revision, null=True, on_delete=models.SET_NULL, related_name="journal")
    when = models.DateTimeField(default=timezone.now)
    kind = models.CharField(max_length=20, default="note")
    text = models.CharField(max_length=1000)
    sent_as = models.CharField(max_length=64, null=True, default=None)
    """The key it was sent under, so that sending twice makes one; none for what was not sent."""

    class Meta:
        ordering = ["-when", "-pk"]
        constraints = [models.UniqueConstraint(fields=["build", "sent_as"], name="one_entry_each_sending")]
