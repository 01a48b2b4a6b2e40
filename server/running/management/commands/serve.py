"""Starts the server: the socket, the compute service, the web processes; prints where it answers."""

from __future__ import annotations

import contextlib
import multiprocessing
import os
import signal
import socket
from types import FrameType
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db import OperationalError, connection

from server.answers.kept import program
from server.cache import begin
from server.compute.service import Service
from server.exchange.worker import read_in
from server.processes import Kept, keep
from server.web import answer

BACKLOG = 128


def lan_addresses() -> list[str]:
    """This machine's own addresses on the local network, found without sending anything."""
    found = {str(info[4][0]) for info in socket.getaddrinfo(socket.gethostname(), None, socket.AF_INET)}
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as probe, contextlib.suppress(OSError):
        # Connecting a datagram socket only picks the route; no packet leaves. The address is a private one nobody needs to have.
        probe.connect(("10.255.255.255", 9))
        found.add(str(probe.getsockname()[0]))
    return sorted(address for address in found if not address.startswith(("127.", "0.")))


def listen(host: str, port: int) -> socket.socket:
    """The socket all web processes answer on. Raises CommandError where the port is taken."""
    family = socket.AF_INET6 if ":" in host else socket.AF_INET
    try:
        return socket.create_server((host, port), family=family, backlog=BACKLOG)
    except OSError as error:
        raise CommandError(f"Port {port} is taken: stop what runs there, or give another with PORT=8001.") from error


def opening_words(port: int) -> str:
    """Where it answers, and beyond this machine the code for signing in."""
    if settings.HOSTS:
        return f"\n  Plucky Gecko is open for its proxy at http://{settings.HOST}:{port}/, as {', '.join(settings.HOSTS)}\n"
    if settings.LOOPBACK:
        return f"\n  Plucky Gecko is open at http://{settings.HOST}:{port}/   (Ctrl+C stops it)\n"
    places = [f"  Plucky Gecko is open to the local network at http://{address}:{port}/" for address in lan_addresses() or ["this machine's address"]]
    return "\n".join(["", *places, f"  Code for signing in: {settings.LAN_CODE}", ""])


class Command(BaseCommand):
    """`manage.py serve` answers on GECKO_HOST and GECKO_PORT."""

    help = __doc__
    # They would load every address into this process, which answers none; `manage.py migrate`, before it, has made them.
    requires_system_checks: list[str] = []

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--port", type=int, default=8000)
        parser.add_argument("--processes", type=int, default=settings.WEB_PROCESSES, help="web processes beside the compute service")

    def handle(self, *_args: Any, **options: Any) -> None:
        listening = listen(settings.HOST, options["port"])
        # Libraries of numbers start a thread a core; here each core has a process already.
        for name in ("OPENBLAS_NUM_THREADS", "OMP_NUM_THREADS", "MKL_NUM_THREADS"):
            os.environ.setdefault(name, "1")
        signal.signal(signal.SIGTERM, self._end)
        self._share_cache()
        service = Service(settings.COMPUTE_BUDGET_S, settings.COMPUTE_WORKERS)
        spawn = multiprocessing.get_context("spawn")
        ready = spawn.Semaphore(0)
        all_of_them: list[Kept] = []
        try:
            all_of_them = [Kept(answer, listening, service.address, ready) for _ in range(options["processes"])]
            for one in all_of_them:
                while not ready.acquire(timeout=0.2):
                    if one.process.exitcode is not None:
                        raise CommandError("A web process ended by itself; its last words are above.")
            service.wait()
            all_of_them.append(Kept(read_in))
            self.stdout.write(opening_words(options["port"]))
            self.stdout.flush()
            keep(all_of_them)
        except (KeyboardInterrupt, SystemExit):
            self.stdout.write("Stopping.")
        finally:
            for one in all_of_them:
                one.end()
            service.stop()
            listening.close()
            with contextlib.suppress(OperationalError), connection.cursor() as cursor:
                # What was saved last moves from the log into the file, as long as nobody else has it open and it may be written.
                cursor.execute("PRAGMA wal_checkpoint(TRUNCATE)")
            connection.close()

    def _share_cache(self) -> None:
        """A file for what all processes keep of what was computed, from one start to the next."""
        try:
            begin(settings.CACHE_FILE, program())
        except OSError as error:
            # A folder that cannot be written: each process keeps what it can for itself.
            self.stderr.write(f"No cache is shared: {error}")
            return
        os.environ["GECKO_SHARED_CACHE"] = "1"

    def _end(self, _number: int, _frame: FrameType | None) -> None:
        raise SystemExit
