"""A web process: answers requests on the parent's socket until the parent goes."""

from __future__ import annotations

import contextlib
import gc
import multiprocessing
import os
import signal
import socket
import threading
import time
from multiprocessing.connection import wait
from multiprocessing.synchronize import Semaphore

from django.conf import settings
from django.urls import get_resolver
from waitress.channel import HTTPChannel

THREADS = 16

FOR_COMPUTE = 12
"""So many of them may wait for something to be computed; the others stay free for signing in, saving and files."""


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
        """Asked each time round the server's loop: the place to look at the clock."""
        if self._head_since is not None and time.monotonic() - self._head_since > settings.REQUEST_HEAD_S:
            self.will_close = True
        return bool(super().readable())


def _follow_the_parent() -> None:
    parent = multiprocessing.parent_process()
    if parent is not None:
        wait([parent.sentinel])
        os._exit(0)


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
    """Load every address now and take what is loaded out of the garbage collector's sight.

    It stays until the end, and looking through it again and again costs a tenth of a second while somebody waits.
    """
    _ = get_resolver().url_patterns
    gc.collect()
    gc.freeze()


def answer(listening: socket.socket, compute: str, ready: Semaphore) -> None:
    """Serve the application. compute: where the compute service is reached. ready: told once it answers."""
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.settings")
    # Ctrl+C reaches the whole group; the parent says when it is over.
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    threading.Thread(target=_follow_the_parent, daemon=True).start()

    # What needs Django's settings is loaded only now, in this process.
    from waitress import create_server

    from server.compute.client import Door, use
    from server.wsgi import application

    use(Door(compute, bytes(multiprocessing.current_process().authkey), FOR_COMPUTE))
    server = create_server(application, sockets=[listening], threads=THREADS, ident=None, channel_request_lookahead=1, **behind_proxy())
    server.channel_class = Punctual
    load_for_good()
    ready.release()
    with contextlib.suppress(SystemExit):
        server.run()
