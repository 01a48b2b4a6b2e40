"""Where the server asks for what is computed: the service where there is one, else here and now."""

from __future__ import annotations

import itertools
import threading
from collections.abc import Callable, Iterator
from concurrent.futures import Future
from concurrent.futures import TimeoutError as NotYet
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass
from multiprocessing.connection import Client

from gecko.common.errors import GeckoError
from server.compute.jobs import Job
from server.compute.worker import Answer, answer
from server.errors import Refused

LOOK_S = 0.1
"""How often a waiting request looks whether its browser is still there. [s]"""


@dataclass(frozen=True)
class Asker:
    """Who asks: the key that turns are taken by, and whether the asker is still there."""

    name: Callable[[], str] = lambda: ""
    gone: Callable[[], bool] = lambda: False


asking: ContextVar[Asker] = ContextVar("asking", default=Asker())  # noqa: B039


class ComputeFailed(Exception):
    """A job went wrong in its worker; the text is the worker's traceback."""


class Door:
    """This process's connection to the compute service, shared by its threads."""

    def __init__(self, address: str, authkey: bytes, most: int) -> None:
        """most: the number of threads that may wait for answers at a time; the others stay free for requests that need none."""
        self._connection = Client(address, family="AF_UNIX", authkey=authkey)
        self._sending = threading.Lock()
        self._numbers = itertools.count()
        self._open: dict[int, Future[Answer]] = {}
        self._room = threading.BoundedSemaphore(most)
        threading.Thread(target=self._listen, daemon=True).start()

    def _listen(self) -> None:
        while True:
            try:
                number, answer = self._connection.recv()
            except (EOFError, OSError):
                for waiting in list(self._open.values()):
                    waiting.set_result(("failed", "the compute service ended"))
                return
            # Taken in one step, because the asker may give up at this very moment.
            asked = self._open.pop(number, None)
            if asked is not None:
                asked.set_result(answer)

    @contextmanager
    def _place(self) -> Iterator[None]:
        if not self._room.acquire(blocking=False):
            raise Refused("Too much is being computed at once. Try again in a moment.", code="busy", status=503)
        try:
            yield
        finally:
            self._room.release()

    def ask(self, job: Job, asker: Asker) -> Answer:
        """Have a job done, and wait for it as long as the asker does."""
        with self._place():
            number, waiting = next(self._numbers), Future[Answer]()
            self._open[number] = waiting
            with self._sending:
                self._connection.send(("ask", number, asker.name(), job))
            while True:
                try:
                    return waiting.result(LOOK_S)
                except NotYet:
                    if asker.gone():
                        self._open.pop(number, None)
                        with self._sending:
                            self._connection.send(("gone", number))
                        return "gone", None


_door: Door | None = None


def use(door: Door | None) -> None:
    """Ask through this door from now on; without one, compute in this process."""
    global _door
    _door = door


def answer_to(job: Job) -> str:
    """The answer to a job as JSON text.

    Raises what the core raises, ComputeFailed where it broke, and Refused where it took too long, too much was asked at once, or nobody
    waits any more.
    """
    state, content = answer(job) if _door is None else _door.ask(job, asking.get())
    if state == "done":
        return str(content)
    if state == "refused" and isinstance(content, GeckoError):
        raise content
    if state == "too long":
        raise Refused(
            f"This takes longer to compute than {content} s. A shorter course, fewer rows of packs or fewer unlike ones compute faster.",
            code="too_long",
            status=422,
        )
    if state == "busy":
        raise Refused("You have asked for more at once than is computed for one. Wait for what is under way.", code="busy", status=429)
    if state == "gone":
        raise Refused("Nobody waits for this answer any more.", code="gone", status=499)
    raise ComputeFailed(str(content))
