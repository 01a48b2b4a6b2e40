"""Two rows joined at rest: what flows until they agree."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from gecko.common.figures import Array
from gecko.common.quadrature import mean_inverse, running_sum
from gecko.physics.electric.bank import RowModel, unit_ohm, unit_volts_v

SETTLED = 0.02
"""The flow counts as over at this share of the first current. [1]"""


@dataclass(frozen=True, kw_only=True)
class Joining:
    """Two rows joined at rest: first current [A], charge moved [Ah], time until 2 % of it [s], charges at the end [1].

    The end charges are those of each row's smallest pack. `time_s` and `current_a` trace the flow.
    """

    first_current_a: float
    charge_moved_ah: float
    time_to_2_percent_s: float
    soc_a_end: float
    soc_b_end: float
    time_s: NDArray[np.float64]
    current_a: NDArray[np.float64]

    def seconds_until(self, limit_a: float) -> float:
        """Time until the flow has fallen to `limit_a` [A]; its end where it has not. [s]

        Derived here: the current falls all the way, so that each value is met once.
        """
        size = np.abs(self.current_a)
        if size[0] <= limit_a:
            return 0.0
        return float(np.interp(-limit_a, -size, self.time_s))


def join_rows(a: RowModel, b: RowModel, soc_a: float | Sequence[float], soc_b: float | Sequence[float], extra_ohm: float, temp_c: float) -> Joining:
    """Equalising current of two rows joined at rest, integrated over the charge moved until 2 % of the first current.

    `I = (E_a − E_b)/(R_a + R_b + extra_ohm)`; dq is divided by the current at its middle, so dt = dq/I is a quadrature
    over charge. soc: of all packs of a row, or of each unit group; extra_ohm: leads plus fuses [Ω]; temp_c: packs [°C].

    Derived here: Kirchhoff's law of voltages around the two rows, and the charge that passed.
    """
    charge_a, charge_b = _each(a, soc_a), _each(b, soc_b)
    ah_a, ah_b = _ah(a), _ah(b)

    def current(moved: Array) -> Array:
        emptier = [(u, s - moved / c) for u, s, c in zip(a.units, charge_a, ah_a, strict=True)]
        fuller = [(u, s + moved / c) for u, s, c in zip(b.units, charge_b, ah_b, strict=True)]
        volts = sum(unit_volts_v(u, s) for u, s in emptier) - sum(unit_volts_v(u, s) for u, s in fuller)
        ohms = sum(unit_ohm(u, s, temp_c) for u, s in emptier) / a.parallel_count + sum(unit_ohm(u, s, temp_c) for u, s in fuller) / b.parallel_count
        return np.asarray(volts / (ohms + extra_ohm))

    first = float(current(np.zeros(())))
    if first < 0:
        swapped = join_rows(b, a, soc_b, soc_a, extra_ohm, temp_c)
        return replace(
            swapped,
            first_current_a=-swapped.first_current_a,
            charge_moved_ah=-swapped.charge_moved_ah,
            soc_a_end=swapped.soc_b_end,
            soc_b_end=swapped.soc_a_end,
            current_a=-swapped.current_a,
        )
    least_a, least_b = int(np.argmin(ah_a)), int(np.argmin(ah_b))
    most = min([s * c for s, c in zip(charge_a, ah_a, strict=True)] + [(1.0 - s) * c for s, c in zip(charge_b, ah_b, strict=True)])
    if first == 0 or most <= 0:
        return Joining(
            first_current_a=first,
            charge_moved_ah=0.0,
            time_to_2_percent_s=0.0,
            soc_a_end=charge_a[least_a],
            soc_b_end=charge_b[least_b],
            time_s=np.array([0.0]),
            current_a=np.array([first]),
        )
    grid = np.linspace(0.0, most, 4001)
    amps = current(grid)
    below = np.nonzero(amps <= SETTLED * first)[0]
    if below.size:
        end = int(below[0])
        share = (amps[end - 1] - SETTLED * first) / (amps[end - 1] - amps[end])
        grid = np.append(grid[:end], grid[end - 1] + share * (grid[end] - grid[end - 1]))
        amps = np.append(amps[:end], SETTLED * first)
    amps = np.maximum(amps, 1e-9)
    # The current falls nearly exponentially with time, so it is nearly linear in the charge moved.
    time = running_sum(np.diff(grid) * mean_inverse(amps[:-1], amps[1:]) * 3600.0)
    moved = float(grid[-1])
    return Joining(
        first_current_a=first,
        charge_moved_ah=moved,
        time_to_2_percent_s=float(time[-1]),
        soc_a_end=charge_a[least_a] - moved / ah_a[least_a],
        soc_b_end=charge_b[least_b] + moved / ah_b[least_b],
        time_s=time,
        current_a=amps,
    )


def _each(row: RowModel, soc: float | Sequence[float]) -> list[float]:
    return [float(soc)] * len(row.units) if isinstance(soc, int | float) else [float(s) for s in soc]


def _ah(row: RowModel) -> list[float]:
    """Capacity of each unit group of all the rows together. [Ah]"""
    return [float(np.min(u.capacity_ah)) * row.parallel_count for u in row.units]
