"""The wiring as a tree of runs: every lead with what flows in it, the fuse that guards it, and what a short at its end draws."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from gecko.analysis.riding import Riding
from gecko.document.parts.auxiliary import Auxiliary
from gecko.document.parts.fuse import Fuse
from gecko.document.parts.wire import Lead
from gecko.machine.contacts import plug_stands_a
from gecko.physics.electric.bank import BankModel, RowModel, source_at
from gecko.physics.electric.path import fuse_ohm
from gecko.physics.protection.choice import ChoiceInput, RowFuse

RunKind = Literal["row", "link", "main", "controller", "motor", "accessory"]

CONVERTER_EFFICIENCY = 0.88
STANDBY_A = 0.010
"""A step-down converter nothing is known of [1, A]. Source: this project's planning values."""


@dataclass(frozen=True, kw_only=True)
class Run:
    """One lead of the tree. `path` is its place in the document; amps in A.

    fuse: its own, at `fuse_path`; guard: id of the run whose fuse guards it, "" for none; after: the run it hangs on.
    """

    id: str
    kind: RunKind
    name: str
    path: str
    lead: Lead
    fuse: Fuse | None
    fuse_path: str
    guard: str
    after: str
    peak_a: float
    data: ChoiceInput
    rows: tuple[int, ...] = ()

    @property
    def amps_a(self) -> float:
        """RMS amps over the hottest ten minutes. [A]"""
        return self.data.continuous_a


def letters(rows: tuple[int, ...]) -> str:
    """Rows by their letters: "A", "A and B", "A to D"."""
    names = [chr(ord("A") + r) for r in rows]
    if len(names) > 2 and rows == tuple(range(rows[0], rows[-1] + 1)):
        return f"{names[0]} to {names[-1]}"
    return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"


def branch_a(branch: Auxiliary, bank_v: float) -> float:
    """Amps a branch takes from the bank when on: its own, or through its converter. [A]"""
    converter = branch.converter
    if converter is None:
        return float(branch.amps_a.value)
    eta = converter.efficiency.value if converter.efficiency else CONVERTER_EFFICIENCY
    return float(branch.amps_a.value * converter.output_v.value / (eta * bank_v))


@dataclass(frozen=True)
class _Fault:
    """What a short sees of the packs: open volts and ohms warm, at 25 °C, and at 20 % charge on the coldest day. [V, Ω]"""

    warm_v: float
    warm_ohm: float
    fault_ohm: float
    cold_v: float
    cold_ohm: float
    trip_a: float | None


def _fault(a: Riding, bank: BankModel, trip_a: float | None) -> _Fault:
    ground = a.setup.ground
    warm, at_25, cold = source_at(bank, 1.0, max(25.0, ground.ambient_c)), source_at(bank, 1.0, 25.0), source_at(bank, 0.2, ground.coldest_c)
    return _Fault(float(warm.open_v), float(warm.resistance_ohm), float(at_25.resistance_ohm), float(cold.open_v), float(cold.resistance_ohm), trip_a)


class _Builder:
    def __init__(self, a: Riding, row_amps: tuple[tuple[float, ...], tuple[float, ...]]) -> None:
        self.a, self.setup, self.row_amps = a, a.setup, row_amps
        trip = a.limits.trip_a
        self.whole = _fault(a, a.m.bank, None if trip is None else float(trip))
        self.one = np.array([1.0, 1.0])

    def data(
        self,
        lead: Lead,
        fault: _Fault,
        other_ohm: float,
        continuous_a: float,
        limit_a: float | None,
        launch_a: NDArray[np.float64],
        launch_s: NDArray[np.float64],
        least_part_a: float | None,
        row_fuses: tuple[RowFuse, ...] = (),
        fuse: Fuse | None = None,
    ) -> ChoiceInput:
        a, air = self.a, self.setup.ground.ambient_c
        return ChoiceInput(
            continuous_a=continuous_a,
            reachable_a=limit_a,
            launch_a=launch_a,
            launch_s=launch_s,
            row=a.lead_row(lead),
            insulation=lead.insulation,
            conductors=lead.bundle_conductors,
            air_c=air,
            length_both_ways_m=2.0 * lead.length_m.value,
            least_part_a=least_part_a,
            full_v=a.full_v or 0.0,
            half_charge_v=float(a.half.open_v),
            warm_open_v=fault.warm_v,
            warm_bank_ohm=fault.warm_ohm,
            fault_bank_ohm=fault.fault_ohm,
            cold_open_v=fault.cold_v,
            cold_bank_ohm=fault.cold_ohm,
            other_path_ohm=max(other_ohm, 0.0),
            trip_a=fault.trip_a,
            row_fuses=row_fuses,
            wire_air_c=lead.air_c,
            to_fuse_m=float(fuse.distance_m.value) if fuse is not None else 0.0,
        )

    def rows(self) -> Iterator[Run]:
        a, bank = self.a, self.setup.bank
        assert bank is not None
        kinds = a.resolved.row_kinds
        peaks, steady = self.row_amps
        bank_peak = max(float(a.peak_a), 1e-6)
        for kind in range(len(a.m.bank.rows)):
            members = tuple(r for r, k in enumerate(kinds) if k == kind)
            first = members[0]
            row, model = bank.rows[first], a.m.bank.rows[kind]
            # The first of a string to open opens it all.
            trip = min((float(unit.trip_a) for unit in model.units if unit.trip_a is not None), default=None)
            fault = _fault(a, BankModel((RowModel(model.units),)), trip)
            share = peaks[first] / bank_peak
            parts = [plug_stands_a(plug) for plug in row.plugs]
            parts += [unit.adapter.rating_a.value for unit in row.units if unit.adapter and unit.adapter.rating_a]
            if row.fuse and row.fuse.holder_a:
                parts.append(row.fuse.holder_a.value)
            limit = a.reachable_a
            for name, lead, own in (("lead", row.lead, row.fuse), ("link", row.link, None)):
                if lead is None or (name == "link" and len(row.units) < 2):
                    continue
                other = float(model.lead_ohm) - lead.ohm - (fuse_ohm(row.fuse.rating_a) if row.fuse else 0.0)
                data = self.data(
                    lead,
                    fault,
                    other,
                    steady[first],
                    None if limit is None else limit * min(share, 1.0),
                    a.launch.pack_a * share,
                    a.launch.time_s,
                    min(parts) if parts else None,
                    fuse=own,
                )
                word = "Row" if len(members) == 1 else "Rows"
                title = f"{word} {letters(members)}" if name == "lead" else f"Links in {word.lower()} {letters(members)}"
                yield Run(
                    id=f"{'row' if name == 'lead' else 'link'}{first}",
                    kind="row" if name == "lead" else "link",
                    name=title,
                    path=f"/bank/rows/{first}/{name}",
                    lead=lead,
                    fuse=own,
                    fuse_path=f"/bank/rows/{first}/fuse",
                    # Alone, its amps are the main fuse's as well; only a short before that one nothing guards, which is a question of its place.
                    guard=f"row{first}" if row.fuse else "main" if len(bank.rows) == 1 and self.setup.main_fuse is not None else "",
                    after="",
                    peak_a=peaks[first],
                    data=data,
                    rows=members,
                )

    def row_fuses(self) -> tuple[RowFuse, ...]:
        """The rows' fuses as the main fuse sees them: by their share of a dead short, or of the launch, whichever is more."""
        a, bank = self.a, self.setup.bank
        assert bank is not None
        if len(bank.rows) < 2:
            return ()
        short = float(a.full.open_v / a.full.resistance_ohm)
        at_short, at_peak = a.full.row_currents(short), a.full.row_currents(float(a.peak_a))
        kinds = a.resolved.row_kinds
        found = {}
        for r, row in enumerate(bank.rows):
            if row.fuse is not None:
                share = max(float(at_short[kinds[r]]) / short, float(at_peak[kinds[r]]) / max(float(a.peak_a), 1e-6))
                found[kinds[r]] = RowFuse(row.fuse.kind, row.fuse.rating_a, share)
        return tuple(found.values())

    def main(self) -> Iterator[Run]:
        a, setup = self.a, self.setup
        fuse, path = setup.main_fuse, float(a.m.path_ohm)
        fuse_r = fuse_ohm(fuse.rating_a) if fuse else 0.0
        peak, guard = float(a.peak_a), "main" if fuse else ""
        launch = (a.rms_a, a.reachable_a, a.launch.pack_a, a.launch.time_s, a.least_part_a)
        leads: list[tuple[str, Literal["main", "controller"], Lead | None]] = [
            ("Main lead", "main", setup.main_lead),
            ("Controller lead", "controller", setup.controller_lead),
        ]
        for name, kind, lead in leads:
            if lead is None:
                continue
            own = fuse if kind == "main" else None
            data = self.data(lead, self.whole, path - lead.ohm - fuse_r, *launch, self.row_fuses() if kind == "main" else (), own)
            yield Run(
                id=kind,
                kind=kind,
                name=name,
                path=f"/{kind}_lead",
                lead=lead,
                fuse=own,
                fuse_path="/main_fuse",
                guard=guard,
                after="" if kind == "main" else "main",
                peak_a=peak,
                data=data,
            )
        lead = setup.motor_lead
        if lead is not None:
            direct = a.m.control.kind == "none"
            amps = a.rms_a if direct else a.motor_rms_a
            most = peak if direct else float(np.max(a.launch.motor_a))
            data = self.data(lead, self.whole, path - fuse_r, amps, a.reachable_motor_a, a.launch.pack_a if direct else a.launch.motor_a, a.launch.time_s, None)
            after = "controller" if setup.controller_lead else "main"
            yield Run(
                id="motor",
                kind="motor",
                name="Motor lead",
                path="/motor_lead",
                lead=lead,
                fuse=None,
                fuse_path="/main_fuse",
                guard=guard if direct else "",
                after=after,
                peak_a=most,
                data=data,
            )

    def accessories(self) -> Iterator[Run]:
        a, setup = self.a, self.setup
        fuse_r = fuse_ohm(setup.main_fuse.rating_a) if setup.main_fuse else 0.0
        for i, branch in enumerate(setup.auxiliaries):
            if branch.lead is None:
                continue
            amps = branch_a(branch, float(a.half.open_v))
            behind = branch.taps == "behind the cut-off"
            guard = f"accessory{i}" if branch.fuse else "main" if behind and setup.main_fuse else ""
            other = (float(a.m.path_ohm) - (0.0 if branch.fuse else fuse_r)) if behind else 0.0
            parts = branch.fuse.holder_a.value if branch.fuse and branch.fuse.holder_a else None
            data = self.data(branch.lead, self.whole, other, amps, None, amps * self.one, np.array([0.0, 1.0]), parts, fuse=branch.fuse)
            place = f"/auxiliaries/{i}"
            yield Run(
                id=f"accessory{i}",
                kind="accessory",
                name=branch.label,
                path=f"{place}/lead",
                lead=branch.lead,
                fuse=branch.fuse,
                fuse_path=f"{place}/fuse",
                guard=guard,
                after="main" if behind else "",
                peak_a=amps,
                data=data,
            )


def build_runs(a: Riding, row_amps: tuple[tuple[float, ...], tuple[float, ...]]) -> list[Run]:
    """Every lead of the setup with its amps [A], from the packs outward. Leads that are not entered have no run.

    row_amps: peak and steady amps each row is sized by. [A]
    """
    builder = _Builder(a, row_amps)
    return [*builder.rows(), *builder.main(), *builder.accessories()]
