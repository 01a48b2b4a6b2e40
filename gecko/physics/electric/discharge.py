"""A bank of unlike rows emptied by a steady current: who gives how much, who is empty first, what stays in the others."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from gecko.physics.electric.bank import BankModel, rated_ah, source_at, unit_ohm, unit_volts_v, usable_ah
from gecko.physics.electric.shares import ShareMarch

STEPS = 500


@dataclass(frozen=True, kw_only=True)
class Discharge:
    """Traces over time_s [s]: amps of each row, charge of each unit group [1], terminal volts [V]; how it ended and what is left.

    Shapes: row_a (rows, n), soc (units, n), volts_v (n,). `ends_by`: "empty", "low cut-off" or "guard"; `unit`: which unit group
    ended it, None for the guard. unused_ah: what each unit group still holds at its own rate. [Ah]
    """

    time_s: NDArray[np.float64]
    row_a: NDArray[np.float64]
    soc: NDArray[np.float64]
    volts_v: NDArray[np.float64]
    ends_by: str
    unit: int | None
    unused_ah: tuple[float, ...]


def discharge(bank: BankModel, amps_a: float, start: Sequence[float], temp_c: float, stop_v: float | None = None) -> Discharge:
    """Empty a bank with a steady current until the first thing ends it.

    amps_a [A] from the bank, more than zero; start: charge of each unit group [1]; temp_c: packs [°C]; stop_v: volts at the bank at which a guard
    opens [V]. It ends when a unit group is empty or under its own low cut-off, or at the guard.

    Derived here: charge falls by each unit's share of the current over its amp-hours (`ShareMarch`), in so even steps of charge that nothing has to
    be guessed ahead.
    """
    march = ShareMarch(bank, temp_c, ())
    total = float(rated_ah(bank)) * 1.02
    step = total / STEPS
    soc = np.array(start, dtype=float)[:, None]
    path = [soc]
    for _ in range(STEPS):
        soc = np.minimum(soc + march.slopes(soc, amps_a, step) * step, 1.0)
        path.append(soc)
        if float(soc.min()) <= 0.0:
            break
    charge = np.concatenate(path, axis=1)
    time = np.arange(charge.shape[1]) * step / amps_a * 3600.0
    # The last step goes past empty; what a table is asked for is not.
    inside = np.maximum(charge, 0.0)
    source = source_at(bank, tuple(inside), temp_c, held=True)
    volts = np.asarray(source.volts(amps_a), dtype=float)
    rows = np.stack([np.broadcast_to(np.asarray(current, dtype=float), time.shape) for current in source.row_currents(amps_a)])
    ends = _events(bank, rows, charge, volts, temp_c, stop_v)
    (name, unit), place = min(ends.items(), key=lambda entry: entry[1])
    last = min(place, float(len(time) - 1))
    keep = int(np.floor(last))
    at = np.append(np.arange(keep + 1), last) if last > keep else np.arange(keep + 1)

    def cut(trace: NDArray[np.floating]) -> NDArray[np.float64]:
        return np.asarray(np.interp(at, np.arange(len(time)), trace), dtype=float)

    soc_until = np.maximum([cut(line) for line in charge], 0.0)
    currents = np.array([cut(line)[-1] for line in rows])
    each = np.repeat(currents, [len(row.units) for row in bank.rows])
    unused = tuple(float(s * usable_ah(u, i, temp_c)) for u, s, i in zip(bank.units, soc_until[:, -1], each, strict=True))
    return Discharge(
        time_s=cut(time),
        row_a=np.stack([cut(line) for line in rows]),
        soc=soc_until,
        volts_v=cut(volts),
        ends_by=name,
        unit=unit,
        unused_ah=unused,
    )


def _events(
    bank: BankModel, rows: NDArray[np.float64], charge: NDArray[np.float64], volts: NDArray[np.float64], temp_c: float, stop_v: float | None
) -> dict[tuple[str, int | None], float]:
    """Place along the trace, in points and parts of them, at which each thing would end it; only those that happen, or its last point."""
    found: dict[tuple[str, int | None], float] = {("empty", int(charge[:, -1].argmin())): float(charge.shape[1] - 1)}
    index = 0
    for row, own in zip(bank.rows, rows, strict=True):
        for unit in row.units:
            _add(found, ("empty", index), charge[index])
            if unit.protection_low_v is not None:
                inside = np.maximum(charge[index], 0.0)
                terminal = unit_volts_v(unit, inside) - own * unit_ohm(unit, inside, temp_c, held=True)
                _add(found, ("low cut-off", index), terminal - unit.protection_low_v * unit.series_count)
            index += 1
    if stop_v is not None:
        _add(found, ("guard", None), volts - stop_v)
    return found


def _add(found: dict[tuple[str, int | None], float], name: tuple[str, int | None], margin: NDArray[np.float64]) -> None:
    below = np.nonzero(margin <= 0.0)[0]
    if below.size:
        i = int(below[0])
        found[name] = 0.0 if i == 0 else i - 1 + float(margin[i - 1] / (margin[i - 1] - margin[i]))
