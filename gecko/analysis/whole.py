"""Everything an evaluation computes about a setup: how it rides, what its rows carry, and its wiring run by run."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np
from numpy.typing import NDArray

from gecko.analysis.chances import Sampled
from gecko.analysis.occupancy import Occupancy, all_in, row_worst
from gecko.analysis.riding import Rides, Riding
from gecko.analysis.runs import Run, build_runs
from gecko.document.context import Context
from gecko.document.parts.fuse import Fuse
from gecko.document.parts.pack import Pack
from gecko.document.parts.rider import Rider
from gecko.document.parts.wire import size_of
from gecko.document.setup import Setup
from gecko.machine.caps import Cap, cap_of
from gecko.machine.resolve import rider_kg
from gecko.physics.protection.choice import ChoiceTable, choice_table
from gecko.reference.tables import OfferedFuse, offered_fuses


@dataclass(frozen=True, kw_only=True)
class Aboard:
    """Somebody who rides the machine: the rider (None: nobody is entered), the rider's place in the document, the cap, the top speed with this rider
    in the strongest mode the rider can choose [m/s], its ratio to the setup's own top speed [1], the part of that ratio that comes from mass [1], and
    words for the mode."""

    rider: Rider | None
    path: str
    cap: Cap
    top_m_s: float
    factor: float
    mass_factor: float
    mode_words: str

    def tops(self, sampled: Sampled) -> NDArray[np.float64]:
        """Samples of the top speed with this rider. [m/s]"""
        return sampled.top_m_s * self.factor


class Analysis(Riding):
    """A setup and all that follows from it. Properties are computed on first use; SI units, as their names say."""

    def __init__(self, setup: Setup, context: Context | None = None, *, samples: bool = False, rides: Rides | None = None) -> None:
        super().__init__(setup, context, samples=samples, rides=rides)
        self._tables: dict[str, ChoiceTable] = {}
        self._cells: dict[str, ChoiceTable] = {}

    @cached_property
    def pack_loads(self) -> list[tuple[int, Pack, float, float]]:
        """Every pack with its row and what that row is asked for with all rows in: peak and steady amps. [A]"""
        bank, loads = self.setup.bank, self.all_rows
        assert bank is not None
        return [(r, unit, loads.row_peak_a[r], loads.row_rms_a[r]) for r, row in enumerate(bank.rows) for unit in row.units]

    @cached_property
    def all_rows(self) -> Occupancy:
        """What bank and rows are asked for with every row in."""
        return all_in(self)

    @cached_property
    def row_worst(self) -> tuple[tuple[float, ...], tuple[float, ...]]:
        """Peak and steady amps of each row in the worst occupancy that is permitted. [A]"""
        return row_worst(self, self.all_rows)

    @cached_property
    def runs(self) -> list[Run]:
        """Every lead with what flows in it and the fuse that guards it."""
        return [] if self.machine is None or self.setup.bank is None else build_runs(self, self.row_worst)

    def run(self, run_id: str) -> Run | None:
        """A run by its id, or None."""
        return next((run for run in self.runs if run.id == run_id), None)

    def guard_fuse(self, run: Run) -> Fuse | None:
        """The fuse that guards a run: its own, or that of the run it is guarded by."""
        if run.fuse is not None or not run.guard:
            return run.fuse
        if run.guard == "main":
            return self.setup.main_fuse
        bank = self.setup.bank
        return bank.rows[run.rows[0]].fuse if bank and run.rows else None

    def table(self, run: Run) -> ChoiceTable:
        """Every fuse one can buy with every gauge for a run, its own fuse and size among them."""
        if run.id not in self._tables:
            self._tables[run.id] = choice_table(run.data, candidates(self.guard_fuse(run)), size_of(run.lead))
        return self._tables[run.id]

    def cell(self, run: Run) -> tuple[ChoiceTable, int, int] | None:
        """The table of a run's guarding fuse alone with the row and column of what is in the setup; None without a fuse."""
        fuse = self.guard_fuse(run)
        if fuse is None:
            return None
        if run.id not in self._cells:
            self._cells[run.id] = choice_table(run.data, (offered(fuse),), size_of(run.lead))
        table = self._cells[run.id]
        return table, 0, table.sizes.index(size_of(run.lead))

    @property
    def choice(self) -> ChoiceTable | None:
        """Fuse and wire for the main lead, or None while it is not known."""
        run = self.run("main")
        return None if run is None else self.table(run)

    @cached_property
    def sampled(self) -> Sampled:
        """Samples of what can hurt someone."""
        return Sampled(self)

    @cached_property
    def riders(self) -> tuple[Aboard, ...]:
        """Everybody who rides this machine or rides along, first the rider the setup is computed for. Empty while caps are not known."""
        if self.machine is None or self.resolved.cap is None:
            return ()
        strongest, words = self.strongest
        by_mode = float(strongest.top) / max(float(self.top), 1e-9)
        found = [
            Aboard(
                rider=self.setup.rider,
                path="/rider" if self.setup.rider is not None else "",
                cap=self.resolved.cap,
                top_m_s=float(self.top) * by_mode,
                factor=by_mode,
                mass_factor=1.0,
                mode_words=words,
            )
        ]
        others = [(f"/also/{i}", one) for i, one in enumerate(self.setup.also)]
        for path, rider in [*others, *([("/passenger", self.setup.passenger)] if self.setup.passenger is not None else [])]:
            factor = self._mass_factor(rider) if path != "/passenger" else 1.0
            cap = cap_of(rider, self.setup.vehicle, self.resolved.family, self.resolved.tyre)
            assert cap is not None
            found.append(
                Aboard(rider=rider, path=path, cap=cap, top_m_s=float(self.top) * by_mode * factor, factor=by_mode * factor, mass_factor=factor, mode_words=words)
            )
        return tuple(found)

    def _mass_factor(self, rider: Rider) -> float:
        """Top speed with another rider over that with the setup's own. [1]"""
        own = Riding(self.setup.model_copy(update={"rider": rider}), self.context)
        return float(own.top) / max(float(self.top), 1e-9) if own.resolved.rider_mass_kg != self.resolved.rider_mass_kg else 1.0

    @property
    def heaviest_kg(self) -> float:
        """Mass of the heaviest who rides, with who rides along. [kg]"""
        alone = self.resolved.rider_mass_kg
        family = self.setup.vehicle.family if self.setup.vehicle else None
        along = alone - rider_kg(self.setup.rider, family) if self.setup.passenger is not None else 0.0
        return max([alone, *(rider_kg(one, family) + along for one in self.setup.also)])

    @cached_property
    def stock(self) -> Analysis | None:
        """The machine as found; None where nobody knows it, or this is it."""
        text = self.context.stock_json
        if not text or text == self.setup.model_dump_json():
            return None
        found = baseline_analysis(text)
        return found if found.machine is not None else None

    @cached_property
    def baseline(self) -> Analysis | None:
        """The baseline's analysis, or None when there is none or this is it."""
        if self.context.baseline is None or self.context.is_baseline:
            return None
        found = baseline_analysis(self.context.baseline_json)
        return found if found.machine is not None else None


def offered(fuse: Fuse) -> OfferedFuse:
    """A fuse as one of those that can be bought."""
    return OfferedFuse(fuse.kind, fuse.dc_volts_v, fuse.breaks_a, fuse.rating_a)


def candidates(own: Fuse | None) -> tuple[OfferedFuse, ...]:
    """Fuses one can buy, and the one in the setup if it is none of them."""
    fuses = offered_fuses()
    if own is None or offered(own) in fuses:
        return fuses
    return (*fuses, offered(own))


@lru_cache(maxsize=16)
def baseline_analysis(document: str) -> Analysis:
    """Analysis of a baseline by its JSON text, kept for the last few baselines: it is asked for with every key press."""
    return Analysis(Setup.model_validate_json(document), Context(is_baseline=True))
