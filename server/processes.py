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
from typing import Any, NoReturn

log = logging.getLogger("server.processes")

_spawn = multiprocessing.get_context("spawn")

LONGEST_S = 5.0
"""One that ends again and again is started again after one second, two, four, and so on up to this. [s]"""

LASTS_S = 30.0
"""A process that lived at least this long had started well. [s]"""


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
        self._again: float | None = None
        self._start()

    def _start(self) -> None:
        self.process: SpawnProcess = _spawn.Process(target=self._target, args=self._args)
        self.process.start()
        self._since, self._again = time.monotonic(), None

    def look(self) -> None:
        """Start it again if it has ended: at once, or after a pause if it keeps ending."""
        if self.process.exitcode is None:
            return
        now = time.monotonic()
        if self._again is None:
            self._tries = 0 if now - self._since >= LASTS_S else self._tries + 1
            self._again = now + (min(LONGEST_S, 2.0 ** (self._tries - 2)) if self._tries > 1 else 0.0)
            log.error("%s ended by %s and is started again", self._target.__module__, self.process.exitcode)
        if now >= self._again:
            self._start()

    def end(self) -> None:
        """Have it end, and wait for it."""
        self.process.terminate()
        self.process.join()


def keep(processes: list[Kept]) -> NoReturn:
    """Look after processes until somebody ends this one."""
    while True:
        wait([one.process.sentinel for one in processes if one.process.exitcode is None], timeout=0.5)
        for one in processes:
            one.look()
