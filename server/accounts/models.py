"""Accounts. A user model of our own from the first migration, so that it can grow."""

import secrets

from django.contrib.auth.models import AbstractUser
from django.db import models


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
