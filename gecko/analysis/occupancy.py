"""Which slots are filled, and what the rows that are in must then carry.

With rows left out the ride asks for the same watts from fewer packs. Peak and steady amps of an occupancy follow from that, the
peak capped by the controller's bank-side limit; they are what rules, row fuses and row leads are sized by.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from gecko.analysis.riding import Riding
from gecko.common.figures import Number
from gecko.physics.electric.bank import BankModel, source_at
from gecko.physics.electric.operating_point import bank_side_a
from gecko.physics.ride.trace import HOTTEST_S


@dataclass(frozen=True, kw_only=True)
class Occupancy:
    """Rows of the document that are in, amps asked of the bank and of each row [A], and whether it is a permitted way to ride.

    `row_peak_a` and `row_rms_a` count every row of the document, 0 for those left out. `enough` is False where the rows left
    cannot give the watts at all.
    """

    rows: tuple[int, ...]
    permitted: bool
    peak_a: float
    rms_a: float
    row_peak_a: tuple[float, ...]
    row_rms_a: tuple[float, ...]
    open_v: float
    resistance_ohm: float
    enough: bool


def subset(bank: BankModel, kinds: tuple[int, ...], rows: tuple[int, ...]) -> BankModel:
    """The bank with these rows of the document in and the others out. kinds: which row of the model each row is."""
    counts = {k: sum(kinds[r] == k for r in rows) for k in sorted({kinds[r] for r in rows})}
    return BankModel(tuple(replace(bank.rows[k], parallel_count=n) for k, n in counts.items()))


def _of(a: Riding, rows: tuple[int, ...], permitted: bool) -> Occupancy:
    bank, kinds = a.m.bank, a.resolved.row_kinds
    part = subset(bank, kinds, rows)
    full, half = source_at(part, 1.0, a.m.pack_c), source_at(part, 0.5, a.m.pack_c)
    amps, enough = [], True
    for asked, whole, left in ((float(a.peak_a), a.full, full), (a.rms_a, a.half, half)):
        watts, open_v, ohm = asked * float(whole.volts(asked)), float(left.open_v), float(left.resistance_ohm)
        enough = enough and open_v * open_v >= 4.0 * ohm * watts
        amps.append(float(bank_side_a(open_v, ohm, 1.0, watts)))
    limit = a.m.control.battery_limit_a
    peak = amps[0] if limit is None else min(amps[0], float(limit) + float(a.m.control.idle_a))
    if a.m.control.kind == "none":
        # Nothing meters a switched motor: it takes what resistance lets through, less with fewer rows.
        loop = float(a.m.path_ohm + a.motor.loop_ohm)
        scale = (float(a.full.resistance_ohm) + loop) / (float(full.resistance_ohm) + loop) * float(full.open_v / a.full.open_v)
        peak, enough = float(a.peak_a) * scale, True
    order = sorted({kinds[r] for r in rows})

    def by_row(currents: tuple[Number, ...]) -> tuple[float, ...]:
        return tuple(float(currents[order.index(kinds[r])]) if r in rows else 0.0 for r in range(len(kinds)))

    return Occupancy(
        rows=rows,
        permitted=permitted,
        peak_a=peak,
        rms_a=amps[1],
        row_peak_a=by_row(full.row_currents(peak)),
        row_rms_a=by_row(half.row_currents(amps[1])),
        open_v=float(half.open_v),
        resistance_ohm=float(half.resistance_ohm),
        enough=enough,
    )


def all_in(a: Riding) -> Occupancy:
    """Every row in: shares at the launch's peak at full charge, and the largest share of the heat each row has over ten minutes of the ride."""
    kinds = a.resolved.row_kinds
    rows = tuple(range(len(kinds)))
    peak, rms = float(a.peak_a), a.rms_a
    shares = ride_shares(a)
    currents = [float(np.asarray(c)) for c in a.full.row_currents(peak)]
    return Occupancy(
        rows=rows,
        permitted=True,
        peak_a=peak,
        rms_a=rms,
        row_peak_a=tuple(currents[k] for k in kinds),
        row_rms_a=tuple(rms * shares[k] for k in kinds),
        open_v=float(a.half.open_v),
        resistance_ohm=float(a.half.resistance_ohm),
        enough=True,
    )


def ride_shares(a: Riding) -> list[float]:
    """RMS amps of one row of each kind in its own hottest ten minutes of the ride, over those of the bank in its hottest. [1]

    Not the largest ratio of a moment, or of ten minutes in which the machine hardly moves: nothing may leave the bank then while its rows go on
    settling among each other.
    """
    bank = a.m.bank
    alike = [1.0 / sum(row.parallel_count for row in bank.rows)] * len(bank.rows)
    if len(bank.rows) == 1:
        return alike
    line = a.ride.line
    source = a.m.source(tuple(np.clip(charge[1:], 0.0, 1.0) for charge in line.soc))
    long, ends_s = np.diff(line.time_s), float(line.time_s[-1])
    # Every window of ten minutes that lies within the ride; a shorter ride is one window.
    begins = np.flatnonzero(line.time_s[:-1] <= max(ends_s - HOTTEST_S, 0.0))
    until = np.minimum(np.searchsorted(line.time_s, line.time_s[begins] + HOTTEST_S), len(long))

    def hottest(current: Number) -> float:
        """What a current heats by within the ten minutes in which that is the most. [A²s]"""
        sums = np.concatenate([[0.0], np.cumsum(np.square(current) * long)])
        return float(np.max(sums[until] - sums[begins], initial=0.0))

    whole = hottest(line.pack_a[1:])
    return [float(np.sqrt(hottest(current) / whole)) for current in source.row_currents(line.pack_a[1:])] if whole > 0.0 else alike


def occupancies(a: Riding, first: Occupancy, *, every: bool = False) -> list[Occupancy]:
    """`first`, with all rows in, then those with rows left out, each distinct one once.

    every: also those the setup does not permit, marked so, to see which slots must never be filled alone.
    """
    bank, kinds = a.setup.bank, a.resolved.row_kinds
    if bank is None or len(kinds) < 2:
        return [first]
    rows = range(len(kinds))
    stated = bank.occupancy
    found, seen = [first], {tuple(sorted(kinds))}
    wanted = [(tuple(q for q in rows if q != r), stated in ("one out", "any")) for r in reversed(rows)] + [((r,), stated == "any") for r in rows]
    for part, permitted in wanted:
        key = tuple(sorted(kinds[r] for r in part))
        if key in seen or not (permitted or every):
            continue
        seen.add(key)
        found.append(_of(a, part, permitted))
    return found


def row_worst(a: Riding, first: Occupancy) -> tuple[tuple[float, ...], tuple[float, ...]]:
    """Peak and steady amps of each row of the document in the worst occupancy that is permitted. [A]"""
    allowed = occupancies(a, first)
    count = len(a.resolved.row_kinds)
    kinds = a.resolved.row_kinds

    def most(name: str) -> tuple[float, ...]:
        # Like rows stand in for each other, so an occupancy that was looked at for one of them holds for all.
        each = [max(getattr(o, name)[r] for o in allowed) for r in range(count)]
        return tuple(max(each[q] for q in range(count) if kinds[q] == kinds[r]) for r in range(count))

    return most("row_peak_a"), most("row_rms_a")
