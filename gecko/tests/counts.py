"""How many random machines a test tries: a few of them each time, all in `make bench`."""

from __future__ import annotations

import os

WHOLE = os.environ.get("GECKO_WHOLE") == "1"
"""Whether all are to be tried."""


def tried(whole: int, few: int) -> int:
    """So many of the whole count."""
    return whole if WHOLE else few
