"""A web process: answers requests on the parent's socket until the parent goes."""

from __future__ import annotations

import contextlib
import gc
import multiprocessing
import socket
import time
from multiprocessing.synchronize import Semaphore

from django.conf import settings
from django.urls import get_resolver
from waitress.channel import HTTPChannel

from server.processes import belong_to_parent

FREE = 8
"""The number of threads that never wait for a computation: they stay free for signing in, saving and files."""


LIMITS: dict[str, int] = {
    # The size of a request is bounded by the application, so nobody can fill the disk before the application is asked.
    "max_request_body_size": 12 * 2**20,
    # An export is buffered as fast as it is written, on disk where memory does not hold it: a slow connection then keeps neither a thread nor the
    # database's snapshot.
    "outbuf_high_watermark": 2**34,
}


class Punctual(HTTPChannel):  # type: ignore[misc]
    """A connection whose request heads must come in time. The server's own timeout starts anew at each byte."""

    _head_since: float | None = None

    def received(self, data: bytes) -> bool:
        """Note when an unfinished head began."""
        going = super().received(data)
        unfinished = self.request is not None and not self.request.headers_finished
        self._head_since = (self._head_since or time.monotonic()) if unfinished else None
        return bool(going)

    def readable(self) -> bool:
        """The server's loop asks this every time round, so the clock is checked here."""
        if self._head_since is not None and time.monotonic() - self._head_since > settings.REQUEST_HEAD_S:
            self.will_close = True
        return bool(super().readable())


def behind_proxy() -> dict[str, object]:
    """What the server believes of a proxy: the address, scheme and host it names, when it is the one we trust, and nobody else's word."""
    if not settings.TRUSTED_PROXY:
        return {}
    return {
        "trusted_proxy": settings.TRUSTED_PROXY,
        "trusted_proxy_count": 1,
        "trusted_proxy_headers": {"x-forwarded-for", "x-forwarded-proto", "x-forwarded-host"},
        "clear_untrusted_proxy_headers": True,
    }


def load_for_good() -> None:
    """Load every address now and exempt what is loaded from garbage collection. It stays until the end, and scanning it again and again would cost a
    tenth of a second while somebody waits.
    """
    _ = get_resolver().url_patterns
    gc.collect()
    gc.freeze()


def _files_are_read_apart() -> None:
    # Loaded once the application is: it has models.
    from server.exchange import jobs

    jobs.apart = True


def answer(listening: socket.socket, compute: str, ready: Semaphore) -> None:
    """Serve the application. compute: where the compute service is reached. ready: told once it answers."""
    belong_to_parent()

    # What needs Django's settings is loaded only now, in this process.
    from waitress import create_server

    from server.cache import make_table
    from server.compute.client import Door, use
    from server.wsgi import application

    make_table()
    use(Door(compute, bytes(multiprocessing.current_process().authkey), max(1, settings.WEB_THREADS - FREE)))
    server = create_server(application, sockets=[listening], threads=settings.WEB_THREADS, ident=None, channel_request_lookahead=1, **LIMITS, **behind_proxy())
    server.channel_class = Punctual
    load_for_good()
    _files_are_read_apart()
    ready.release()
    with contextlib.suppress(SystemExit):
        server.run()
