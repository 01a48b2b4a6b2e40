"""Starts the production WSGI server and prints where it answers."""

from __future__ import annotations

import contextlib
import gc
import socket
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.urls import get_resolver
from waitress import create_server

from server.wsgi import application


def lan_addresses() -> list[str]:
    """This machine's own addresses on the local network, found without sending anything."""
    found = {str(info[4][0]) for info in socket.getaddrinfo(socket.gethostname(), None, socket.AF_INET)}
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as probe, contextlib.suppress(OSError):
        # Connecting a datagram socket only picks the route; no packet leaves. The address is a private one nobody needs to have.
        probe.connect(("10.255.255.255", 9))
        found.add(str(probe.getsockname()[0]))
    return sorted(address for address in found if not address.startswith(("127.", "0.")))


def load_for_good() -> None:
    """Load every address now and take what is loaded out of the garbage collector's sight.

    It stays until the end, and looking through it again and again costs a tenth of a second while somebody waits.
    """
    _ = get_resolver().url_patterns
    gc.collect()
    gc.freeze()


class Command(BaseCommand):
    """`manage.py serve` answers on GECKO_HOST and GECKO_PORT."""

    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--port", type=int, default=8000)

    def handle(self, *_args: Any, **options: Any) -> None:
        port = options["port"]
        try:
            server = create_server(application, host=settings.HOST, port=port, threads=6, ident=None)
        except OSError as error:
            raise CommandError(f"Port {port} is taken: stop what runs there, or give another with PORT=8001.") from error
        if settings.LOOPBACK:
            self.stdout.write(f"\n  Plucky Gecko is open at http://{settings.HOST}:{port}/   (Ctrl+C stops it)\n")
        else:
            for address in lan_addresses() or ["this machine's address"]:
                self.stdout.write(f"\n  Plucky Gecko is open to the local network at http://{address}:{port}/\n")
            self.stdout.write(f"  Code for signing in: {settings.LAN_CODE}\n")
        self.stdout.flush()
        load_for_good()
        server.run()
