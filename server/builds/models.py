"""Builds, their setups with every revision, ticks of the hookup, overruled stops."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from server.garage.binned import Binnable
from server.garage.models import Garage


class Build(Binnable):
    """A machine."""

    garage = models.ForeignKey(Garage, on_delete=models.CASCADE, related_name="builds")
    name = models.CharField(max_length=60)
    family = models.CharField(max_length=20)
    description = models.CharField(max_length=200, blank=True)
    new_price = models.JSONField(null=True, default=None)
    """What a new machine of its kind costs, as a `PartPrice` of the core; none while nobody entered it."""
    created = models.DateTimeField(auto_now_add=True)
    updated = models.DateTimeField(auto_now=True)
    sent_as = models.CharField(max_length=64, null=True, default=None)
    """The key it was sent under, so that sending twice makes one; none for what was not sent."""

    class Meta:
        ordering = ["pk"]
        constraints = [models.UniqueConstraint(fields=["garage", "sent_as"], name="one_build_each_sending")]

    def __str__(self) -> str:
        return self.name


class Setup(Binnable):
    """One electrical and mechanical arrangement of a build; its document is kept whole."""

    build = models.ForeignKey(Build, on_delete=models.CASCADE, related_name="setups")
    name = models.CharField(max_length=60)
    position = models.PositiveIntegerField(default=0)
    is_baseline = models.BooleanField(default=False)
    in_use = models.BooleanField(default=False)
    as_found = models.BooleanField(default=False)
    document = models.JSONField(default=dict)
    version = models.PositiveIntegerField(default=1)
    completed = models.JSONField(null=True, default=None)
    """When every step was done last: {"revision": its number, "steps": their ids}. None while they never were."""
    updated = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["position", "pk"]
        constraints = [
            models.UniqueConstraint(fields=["build"], condition=models.Q(is_baseline=True), name="one_baseline_each"),
        ]


class Revision(models.Model):
    """A setup as it was. Never overwritten once something points at it or five minutes have passed."""

    setup = models.ForeignKey(Setup, on_delete=models.CASCADE, related_name="revisions")
    number = models.PositiveIntegerField()
    document = models.JSONField()
    label = models.CharField(max_length=80, blank=True)
    author = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    author_name = models.CharField(max_length=150, blank=True, default="")
    """Who saved it, for when there is no such account here (any more)."""
    created = models.DateTimeField()

    class Meta:
        ordering = ["-number"]
        constraints = [models.UniqueConstraint(fields=["setup", "number"], name="one_number_each")]

    @property
    def by(self) -> str:
        """Who saved it, by name."""
        return self.author.get_username() if self.author is not None else self.author_name


class Tick(models.Model):
    """A step done: of the hookup, or of the stand checks before the first ride."""

    setup = models.ForeignKey(Setup, on_delete=models.CASCADE, related_name="ticks")
    revision = models.ForeignKey(Revision, on_delete=models.RESTRICT, related_name="ticks")
    step = models.CharField(max_length=40)
    mark = models.CharField(max_length=12, default="", blank=True)
    measured = models.FloatField(null=True)
    measured_open = models.BooleanField(default=False)
    fits = models.BooleanField(default=True)
    excused = models.BooleanField(default=False)
    """Not done: the step came with a newer program, when all that were there had been done."""
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["setup", "step"], name="one_tick_each")]


class Overrule(models.Model):
    """What somebody said to a stop: overruled knowingly, or looked at and found in order; with whom, why, and at which numbers.

    It covers the stop at these numbers only. Where they rise it falls, and stays here as fallen until it is said again or withdrawn.
    """

    setup = models.ForeignKey(Setup, on_delete=models.CASCADE, related_name="overrules")
    revision = models.ForeignKey(Revision, on_delete=models.RESTRICT, related_name="overrules")
    finding = models.CharField(max_length=60)
    title = models.CharField(max_length=120)
    reason = models.CharField(max_length=500)
    kind = models.CharField(max_length=12, default="overruled")
    asked = models.FloatField(null=True)
    stands = models.FloatField(null=True)
    unit = models.CharField(max_length=12, blank=True, default="")
    by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    by_name = models.CharField(max_length=150, blank=True, default="")
    """Who said so, for when there is no such account here (any more)."""
    fallen = models.DateTimeField(null=True)
    created = models.DateTimeField(auto_now=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["setup", "finding"], name="one_overrule_each")]

    @property
    def whose(self) -> str:
        """Who said so, by name."""
        return self.by.get_username() if self.by is not None else self.by_name


class Incident(models.Model):
    """Something went wrong with a machine; until each of its checks is done, it holds up power or the ride of every setup."""

    build = models.ForeignKey(Build, on_delete=models.CASCADE, related_name="incidents")
    kind = models.CharField(max_length=20)
    note = models.CharField(max_length=500, blank=True)
    checks = models.JSONField(default=list)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    by_name = models.CharField(max_length=150, blank=True, default="")
    """Who wrote it down, for when there is no such account here (any more)."""
    created = models.DateTimeField(auto_now_add=True)
    sent_as = models.CharField(max_length=64, null=True, default=None)
    """The key it was sent under, so that sending twice makes one; none for what was not sent."""

    class Meta:
        ordering = ["-created", "-pk"]
        constraints = [models.UniqueConstraint(fields=["build", "sent_as"], name="one_incident_each_sending")]

    @property
    def whose(self) -> str:
        """Who wrote it down, by name."""
        return self.by.get_username() if self.by is not None else self.by_name
