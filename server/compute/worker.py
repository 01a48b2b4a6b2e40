"""A process that does one job after another and knows neither Django nor the database."""

from __future__ import annotations

import gc
import math
import os
import resource
import signal
import traceback
from multiprocessing.connection import Connection

from gecko.arrangements import typical_setup
from gecko.context import Context
from gecko.errors import GeckoError
from gecko.setup import load_setup
from server.compute.jobs import Job, compute

Answer = tuple[str, object]
"""What became of a job: ("done", JSON text), ("refused", the core's own error), or ("failed", a traceback as text)."""

READY = "ready"


def work(pipe: Connection, niceness: int, budget_s: int) -> None:
    """Do the jobs that come through a pipe until it closes. A job that takes more processor time than its budget ends the process."""
    # Ctrl+C reaches the whole group; the parent says when it is over.
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    os.nice(niceness)
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    # Tables and first-time work of the libraries are paid for before the first job.
    compute(Job("evaluation", load_setup(typical_setup("ride-on car")), Context()))
    gc.collect()
    gc.freeze()
    pipe.send((READY, None))
    while True:
        try:
            job: Job = pipe.recv()
        except (EOFError, ConnectionResetError):
            return
        allow(budget_s)
        pipe.send(answer(job))


def allow(budget_s: int) -> None:
    """So many seconds of processor time from here on; then the operating system ends this process."""
    used = resource.getrusage(resource.RUSAGE_SELF)
    resource.setrlimit(resource.RLIMIT_CPU, (math.ceil(used.ru_utime + used.ru_stime) + budget_s, resource.RLIM_INFINITY))


def answer(job: Job) -> Answer:
    """Do a job and tell what became of it."""
    try:
        return "done", compute(job)
    except GeckoError as error:
        return "refused", error
    except Exception:
        # The edge of the process: whatever went wrong is told to the asker, and the next job is another one.
        return "failed", traceback.format_exc()
