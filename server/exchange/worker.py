"""The process that reads files in, beside those that answer: a large file takes nothing from anybody but spare time."""

from __future__ import annotations

import logging
import os
import resource
import time

from server.processes import belong_to_parent

LOOK_S = 0.5
"""So often it looks for a file. [s]"""

NICENESS = 15

MOST_MEMORY = 3 * 2**30
"""Address space it may take: a file made to fill memory fails by itself, and takes nothing else along."""


def read_in() -> None:
    """Read in what comes, one file after another, until the parent goes."""
    belong_to_parent()
    os.nice(NICENESS)
    resource.setrlimit(resource.RLIMIT_AS, (MOST_MEMORY, MOST_MEMORY))
    import django

    django.setup()
    from django.db import DatabaseError, connection

    from server.exchange import jobs

    begun = False
    while True:
        try:
            if not begun:
                jobs.begin_again()
                begun = True
            jobs.work_off()
        except DatabaseError as error:
            # The database is busy, full or read-only. The page says what the job waits for; here it is tried again.
            logging.getLogger("server.exchange").error("reading in: %s", error)
            connection.close()
            time.sleep(10 * LOOK_S)
        time.sleep(LOOK_S)
