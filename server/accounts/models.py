"""Accounts. A user model of our own from the first migration, so that it can grow."""

from django.contrib.auth.models import AbstractUser


class User(AbstractUser):
    """Somebody who signs in."""
