"""Processes of the server: each belongs to the one that started it, and one that ends by itself is started again."""

from __future__ import annotations

import logging
import multiprocessing
import os
import signal
import threading
import time
from collections.abc import Callable
from multiprocessing.connection import wait
from multiprocessing.context import SpawnProcess
from typing import Any

log = logging.getLogger("server.processes")

_spawn = multiprocessing.get_context("spawn")

AGAIN_S = 1.0
"""One that ended by itself is started again after so long, and after twice as long each time it does not last. [s]"""

LASTS_S = 30.0
"""One that lived so long had started well. [s]"""

MOST_TRIES = 5
"""So often in a row one may end soon after its start; then the server ends, and says so."""


class EndsAgain(Exception):
    """A process ends by itself each time it is started."""


def belong_to_parent() -> None:
    """In a new process: end with the one that started it, and leave Ctrl+C, which reaches all, to it."""
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.settings")
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    threading.Thread(target=_follow_the_parent, daemon=True).start()


def _follow_the_parent() -> None:
    parent = multiprocessing.parent_process()
    if parent is not None:
        wait([parent.sentinel])
        os._exit(0)


class Kept:
    """A process that is there for as long as the server: started again where it ends by itself."""

    def __init__(self, target: Callable[..., None], *args: Any) -> None:
        self._target, self._args = target, args
        self._tries = 0
        self._start()

    def _start(self) -> None:
        self.process: SpawnProcess = _spawn.Process(target=self._target, args=self._args)
        self.process.start()
        self._since = time.monotonic()

    def look(self) -> None:
        """Start it again where it ended. Raises EndsAgain where that is of no use."""
        if self.process.exitcode is None:
            return
        lasted = time.monotonic() - self._since >= LASTS_S
        self._tries = 0 if lasted else self._tries + 1
        if self._tries >= MOST_TRIES:
            raise EndsAgain
        log.error("%s ended by %s and is started again", self._target.__module__, self.process.exitcode)
        time.sleep(AGAIN_S * 2 ** max(0, self._tries - 1) if self._tries else 0)
        self._start()

    def end(self) -> None:
        """Have it end, and wait for it."""
        self.process.terminate()
        self.process.join()
