"""The compute service: two lanes of workers, askers by turns, each job within its budget."""

from __future__ import annotations

import contextlib
import logging
import multiprocessing
import os
import signal
import threading
from collections import OrderedDict, deque
from concurrent.futures import CancelledError, Future
from ctypes import c_bool
from dataclasses import dataclass, field
from multiprocessing.connection import Connection, Listener
from typing import Any

from gecko.common.compiled import forget_older
from server.compute.jobs import Job, Lane
from server.compute.worker import READY, Answer, work

log = logging.getLogger("server.compute")

MOST_WAITING = 24
"""The number of jobs of one asker that may wait in a lane; a page asks for six at once."""

LATER_NICENESS = 10

LOOK_S = 0.02
"""How often a worker's keeper looks whether anybody still waits for its job. [s]"""

_spawn = multiprocessing.get_context("spawn")


@dataclass
class Waiting:
    """A job in a lane, and where its answer goes."""

    job: Job
    answer: Future[Answer] = field(default_factory=Future)
    given_up: threading.Event = field(default_factory=threading.Event)
    """Nobody waits for it any more; whoever is at it may leave it."""

    def give_up(self) -> None:
        """Take it out of its lane, or have its worker leave it in the middle."""
        if not self.answer.cancel():
            self.given_up.set()


class Turns:
    """A queue that serves askers by turns, each one's oldest first."""

    def __init__(self) -> None:
        self._changed = threading.Condition()
        self._askers: OrderedDict[str, deque[Waiting]] = OrderedDict()
        self._closed = False

    def put(self, asker: str, waiting: Waiting) -> bool:
        """Queue a job; False where this asker has too many waiting already."""
        with self._changed:
            line = self._askers.setdefault(asker, deque())
            for gone in [one for one in line if one.answer.cancelled()]:
                line.remove(gone)
            if len(line) >= MOST_WAITING:
                return False
            line.append(waiting)
            self._changed.notify()
            return True

    def take(self) -> Waiting | None:
        """The next job that somebody still waits for; None once the queue is closed."""
        with self._changed:
            while True:
                while not self._askers and not self._closed:
                    self._changed.wait()
                if self._closed:
                    return None
                asker, line = self._askers.popitem(last=False)
                waiting = line.popleft()
                if line:
                    # To the end of the line: the others come first.
                    self._askers[asker] = line
                if waiting.answer.set_running_or_notify_cancel():
                    return waiting

    def close(self) -> None:
        """Nothing more is served."""
        with self._changed:
            self._closed = True
            self._changed.notify_all()


class Hush:
    """While the first lane's job is done, the others hold still: two that compute side by side share one core's caches and pipelines."""

    def __init__(self) -> None:
        self.asked = _spawn.RawValue(c_bool, False)
        self.of: list[Worker] = []

    def __enter__(self) -> None:
        self.asked.value = True
        for worker in self.of:
            worker.tell(signal.SIGUSR2)

    def __exit__(self, *_: object) -> None:
        self.asked.value = False


class Worker:
    """One worker process after another, each serving a lane until a job ends it."""

    def __init__(self, turns: Turns, niceness: int, budget_s: int, hush: Hush, *, first: bool = False) -> None:
        """hush: asked for while the first worker has a job, kept by the others."""
        self._turns, self._niceness, self._budget_s, self._hush, self._first = turns, niceness, budget_s, hush, first
        self._over = False
        self._warm = threading.Event()
        self._start()
        self._thread = threading.Thread(target=self._serve, daemon=True)
        self._thread.start()

    def _start(self) -> None:
        # Said first: until a process can hear a signal, one would end it.
        self._ready = False
        self._pipe, other = _spawn.Pipe()
        self._process = _spawn.Process(target=work, args=(other, self._niceness, self._budget_s, self._hush.asked), daemon=True)
        self._process.start()
        other.close()

    def wait(self) -> None:
        """Wait until the process is ready, or has ended."""
        self._warm.wait()

    def _serve(self) -> None:
        with contextlib.suppress(EOFError, OSError):
            self._ready = self._pipe.recv()[0] == READY
        self._warm.set()
        while (waiting := self._turns.take()) is not None:
            answer = self._do(waiting)
            # The process was killed from outside, for example for want of memory: the next one does the job. A job that ends two processes is given
            # up.
            waiting.answer.set_result(answer or self._do(waiting) or ("failed", "two workers ended at it"))

    def tell(self, number: signal.Signals) -> None:
        """Send its process a signal, if that is there to hear it."""
        if self._ready and self._process.pid is not None:
            with contextlib.suppress(ProcessLookupError):
                os.kill(self._process.pid, number)

    def _do(self, waiting: Waiting) -> Answer | None:
        """The answer of the process; none where somebody ended it."""
        job = waiting.job
        try:
            if not self._ready:
                self._ready = self._pipe.recv()[0] == READY
            self._pipe.send(job)
            with self._hush if self._first else contextlib.nullcontext():
                while not self._pipe.poll(LOOK_S):
                    # A newer question of the same page takes the place of this one: it is not computed to its end.
                    if waiting.given_up.is_set():
                        self.tell(signal.SIGUSR1)
            answer: Answer = self._pipe.recv()
        except (EOFError, OSError):
            self._process.join()
            ended = self._process.exitcode
            if self._over:
                return "failed", "the compute service ended"
            log.warning("worker ended by %s at %s", ended, job.kind)
            self._start()
            return ("too long", self._budget_s * job.shares) if ended == -signal.SIGXCPU else None
        return answer

    def stop(self) -> None:
        """End the process. Its lane must be closed before."""
        self._over = True
        self._process.terminate()
        self._process.join()
        self._pipe.close()


class Service:
    """Both lanes, and the door through which web processes ask."""

    def __init__(self, budget_s: int, later: int = 0) -> None:
        """budget_s: processor time one job may take. later: workers for what may follow; 0, all cores but one."""
        self._lanes: dict[Lane, Turns] = {"now": Turns(), "later": Turns()}
        forget_older()
        self._hush = Hush()
        self._workers = [Worker(self._lanes["now"], 0, budget_s, self._hush, first=True)]
        self._ended = threading.Event()
        self._others = threading.Thread(target=self._start_others, args=(budget_s, later or max(1, (os.cpu_count() or 1) - 1)), daemon=True)
        self._others.start()
        self._listener = Listener(family="AF_UNIX", authkey=bytes(multiprocessing.current_process().authkey))
        threading.Thread(target=self._accept, daemon=True).start()

    def _start_others(self, budget_s: int, later: int) -> None:
        # On a new machine the first worker compiles the code that marches rides, and the others find it compiled.
        self._workers[0].wait()
        if not self._ended.is_set():
            self._workers += [Worker(self._lanes["later"], LATER_NICENESS, budget_s, self._hush) for _ in range(later)]
            self._hush.of = self._workers[1:]

    def wait(self) -> None:
        """Return once the first worker has computed something: what is asked from now on waits for nothing but its turn."""
        self._others.join()

    @property
    def address(self) -> str:
        """Where web processes reach it: a socket in a folder only this user can enter."""
        return str(self._listener.address)

    def submit(self, asker: str, job: Job) -> Waiting:
        """Queue a job."""
        waiting = Waiting(job)
        if not self._lanes[job.lane].put(asker, waiting):
            waiting.answer.set_result(("busy", MOST_WAITING))
        return waiting

    def stop(self) -> None:
        """End all workers and answer nobody any more."""
        self._ended.set()
        for turns in self._lanes.values():
            turns.close()
        self._workers[0].stop()
        self.wait()
        for worker in self._workers[1:]:
            worker.stop()
        self._listener.close()

    def _accept(self) -> None:
        while True:
            try:
                connection = self._listener.accept()
            except OSError:
                return
            threading.Thread(target=self._talk, args=(connection,), daemon=True).start()

    def _talk(self, connection: Connection) -> None:
        """One web process: ("ask", number, asker, job) and ("gone", number) in, (number, answer) out."""
        sending = threading.Lock()
        open_now: dict[int, Waiting] = {}

        def answered(number: int, answer: Future[Answer]) -> None:
            open_now.pop(number, None)
            try:
                found: Any = answer.result()
            except CancelledError:
                return
            try:
                with sending:
                    connection.send((number, found))
            except OSError:
                log.info("a web process left before its answer")

        while True:
            try:
                said = connection.recv()
            except (EOFError, OSError):
                break
            if said[0] == "ask":
                _, number, asker, job = said
                waiting = self.submit(asker, job)
                open_now[number] = waiting
                waiting.answer.add_done_callback(lambda answer, number=number: answered(number, answer))  # type: ignore[misc]
            elif (left := open_now.get(said[1])) is not None:
                left.give_up()
        for waiting in list(open_now.values()):
            waiting.give_up()
