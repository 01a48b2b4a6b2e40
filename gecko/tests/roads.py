"""The most usual jobs: machines as they are bought, other packs put in, first fixes followed."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from gecko.document.context import Context
from gecko.document.parts.pack import Pack
from gecko.document.setup import Setup, load_setup
from gecko.plans.arrangements import arrange, typical_setup
from gecko.tests.machines import named
from gecko.tests.unsafe import Road, follow

MOST_TIMES_STOCK = 2.2
"""Packs of more volts than so many times stock are not offered; these roads do not lead there either. [1]"""


@dataclass(frozen=True)
class Job:
    """A machine as found and packs for it, in so many rows of so many in series."""

    name: str
    found: Setup
    pack: Pack
    rows: int
    series: int

    def road(self) -> Road:
        """Where the first fixes lead."""
        return follow(arrange(self.found, self.pack, self.rows, self.series), Context(baseline=self.found))


def _found(family: str, volts: float, watts: float | None, age: int) -> Setup:
    return load_setup({**typical_setup(family, volts, watts), "rider": {"age_years": age}})


def _tool(cells: int) -> Pack:
    return Pack(label=f"{cells}-cell tool pack, 5 Ah", cells_in_series=cells, capacity_ah=named(5.0))


def _own(chemistry: str, cells: int, ah: float, low: float | None = None) -> Pack:
    more: dict[str, Any] = {} if low is None else {"protection_low_v": named(low)}
    return Pack.model_validate({"chemistry": chemistry, "cells_in_series": cells, "capacity_ah": named(ah), "guard_in_tool": False, "cell_kind": "energy", **more})


def jobs() -> Iterator[Job]:
    """Ride-on cars of 6, 12 and 24 V on one to three tool packs of five and seven cells, every arrangement of them; and the other usual jobs."""
    for volts in (6, 12, 24):
        found = _found("ride-on car", volts, None, 5)
        for cells in (5, 7):
            pack = _tool(cells)
            for count in (1, 2, 3):
                for series in range(1, count + 1):
                    if count % series == 0 and (count == series == 1 or pack.nominal_v * series <= MOST_TIMES_STOCK * volts):
                        yield Job(f"{volts} V car, {count} of {cells} cells, {series} in series", found, pack, count // series, series)
    bike = _found("small dirt bike", 24, 280, 9)
    yield Job("24 V bike, two packs in series", bike, _tool(5), 1, 2)
    yield Job("24 V bike, LFP", bike, _own("lfp", 8, 10, 20), 1, 1)
    quad = _found("quad", 48, 900, 12)
    yield Job("quad, one more block", quad, _own("lead", 6, 12), 1, 5)
    yield Job("quad, lithium", quad, _own("li-ion", 13, 20, 39), 1, 1)
    yield Job("scooter, second pack", _found("scooter", 36, 350, 14), _own("li-ion", 10, 8, 27), 2, 1)
    yield Job("60 V 2 kW kart", _found("kart", 60, 2000, 30), _own("li-ion", 17, 24, 47), 1, 1)
    yield Job("84 V bike", _found("small dirt bike", 84, 6000, 30), _own("li-ion", 20, 35, 56), 1, 1)
    yield Job("yard cart", _found("transplant", 24, 600, 40), _own("lfp", 8, 50, 20), 1, 1)
