"""Loads the demo garage, once."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand

from server.demo.load import load_demo


class Command(BaseCommand):
    """`manage.py load_demo` fills the garage "Tideline Shed" and its demo user."""

    help = __doc__

    def handle(self, *_args: Any, **_options: Any) -> None:
        garage = load_demo()
        self.stdout.write(f"Demo garage: {garage.name}, {garage.builds.count()} builds.")
