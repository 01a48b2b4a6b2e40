"""Accounts. A user model of our own from the first migration, so that it can grow."""

import secrets

from django.conf import settings
from django.contrib.auth.models import AbstractUser
from django.db import models
from django.utils import timezone


class User(AbstractUser):
    """Somebody who signs in."""


def _new_key() -> str:
    return secrets.token_hex(8)


class Instance(models.Model):
    """This database as one of its kind: what browsers keep is bound to it. Restoring a backup makes another."""

    key = models.CharField(max_length=32, default=_new_key)

    @classmethod
    def current(cls) -> str:
        """The key of this database."""
        return cls.objects.get_or_create(pk=1)[0].key


class Device(models.Model):
    """A browser somebody is signed in with: which of one's own sessions it is, since when, from where."""

    user = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="devices")
    session_key = models.CharField(max_length=40, unique=True)
    address = models.CharField(max_length=45, blank=True)
    browser = models.CharField(max_length=200, blank=True)
    created = models.DateTimeField(auto_now_add=True)
    seen = models.DateTimeField(default=timezone.now)

    class Meta:
        ordering = ["-seen", "-pk"]


class SecurityEvent(models.Model):
    """What happened around an account: signed in, tried in vain, password changed. Kept when the account is gone, by its name."""

    user = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    name = models.CharField(max_length=60, blank=True, db_index=True)
    what = models.CharField(max_length=20)
    text = models.CharField(max_length=200, blank=True)
    address = models.CharField(max_length=45, blank=True, db_index=True)
    when = models.DateTimeField(default=timezone.now, db_index=True)

    class Meta:
        ordering = ["-when", "-pk"]
