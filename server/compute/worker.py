"""A process that does one job after another and knows neither Django nor the database."""

from __future__ import annotations

import gc
import math
import os
import resource
import signal
import time
import traceback
from ctypes import c_bool
from multiprocessing.connection import Connection

from gecko.analysis.riding import ride_every_way
from gecko.common.errors import GeckoError
from gecko.document.context import Context
from gecko.document.setup import load_setup
from gecko.plans.arrangements import typical_setup
from server.compute.jobs import Job, compute

Answer = tuple[str, object]
"""What became of a job: ("done", JSON text), ("refused", the core's own error), ("gone", nothing: nobody waits any more), or ("failed", a traceback
as text)."""

READY = "ready"


class Abandoned(BaseException):
    """Nobody waits for the present job any more. A `BaseException`, so that no part of the core handles it as an error of its own."""


_at_work = False
"""Whether a job is being done at this moment: only then may it be left."""


def _leave(_signal: int, _frame: object) -> None:
    global _at_work
    if _at_work:
        # Raised once only: leaving the job must not itself be interrupted.
        _at_work = False
        raise Abandoned


LONGEST_STILL_S = 1.0
"""So long a worker holds still at most, whatever becomes of the one that asked for it. [s]"""


def work(pipe: Connection, niceness: int, budget_s: int, hush: c_bool) -> None:
    """Do the jobs that come through a pipe until it closes. A job that takes more processor time than its shares of the budget [s] ends the process.
    hush: whether it is to hold still, looked at on SIGUSR2."""

    def hold_still(_signal: int, _frame: object) -> None:
        ends = time.monotonic() + LONGEST_STILL_S
        while hush.value and time.monotonic() < ends:
            time.sleep(0.001)

    # Ctrl+C reaches the whole group; the parent says when it is over.
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    signal.signal(signal.SIGUSR1, _leave)
    signal.signal(signal.SIGUSR2, hold_still)
    os.nice(niceness)
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    # Tables and first-time work of the libraries are paid for before the first job.
    usual = load_setup(typical_setup("ride-on car"))
    ride_every_way(usual)
    compute(Job("evaluation", usual, Context()))
    gc.collect()
    gc.freeze()
    pipe.send((READY, None))
    while True:
        try:
            job: Job = pipe.recv()
        except (EOFError, ConnectionResetError):
            return
        allow(budget_s * job.shares)
        pipe.send(answer(job))


def allow(budget_s: int) -> None:
    """Allow this many more seconds of processor time, after which the operating system ends this process."""
    used = resource.getrusage(resource.RUSAGE_SELF)
    resource.setrlimit(resource.RLIMIT_CPU, (math.ceil(used.ru_utime + used.ru_stime) + budget_s, resource.RLIM_INFINITY))


def answer(job: Job) -> Answer:
    """Do a job and tell what became of it; left in the middle where the parent says so."""
    global _at_work
    try:
        _at_work = True
        return "done", compute(job)
    except Abandoned:
        return "gone", None
    except GeckoError as error:
        return "refused", error
    except Exception:
        # This is the edge of the process: any error is sent to the asker, and the worker goes on with the next job.
        return "failed", traceback.format_exc()
    finally:
        _at_work = False
