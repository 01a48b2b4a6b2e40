"""How unlike rows share the bank's current while they empty: all units of a bank in one array."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from gecko.common.figures import Number
from gecko.physics.electric.bank import BankModel, low_charge_factor, open_volts_per_cell, temperature_factor, usable_ah

_POINTS = 2000
_GRID = np.linspace(0.0, 1.0, _POINTS + 1)
_FACTOR = low_charge_factor(_GRID)


class ShareMarch:
    """The units of a bank stacked on the first axis, samples on the last; tables make a step a handful of array calls.

    Its current flows for minutes: resistances are the held ones. `soc` has shape (units, samples); currents are in A, charges per Ah drawn from the bank [1/Ah].
    """

    def __init__(self, bank: BankModel, temp_c: float, shape: tuple[int, ...]) -> None:
        units = bank.units
        wide = shape or (1,)

        def stack(values: list[Number]) -> NDArray[np.float64]:
            return np.stack([np.broadcast_to(np.asarray(v, dtype=float), wide) for v in values])

        self.units, self.temp_c, self.wide = units, temp_c, wide
        chemistries = sorted({u.chemistry for u in units})
        tables = np.stack([np.stack((open_volts_per_cell(c, _GRID), _FACTOR), axis=-1) for c in chemistries])
        # Values at each point of the grid and the rises to the next, volts and resistance side by side, in one row of entries.
        self._at = tables.reshape(-1, 2)
        self._rise = np.diff(tables, axis=1, append=tables[:, -1:]).reshape(-1, 2)
        self._offset = np.array([chemistries.index(u.chemistry) * (_POINTS + 1) for u in units])[:, None]
        cells = np.broadcast_to(np.array([u.series_count * u.cells_in_series for u in units], dtype=float)[:, None], (len(units), *wide))
        ohm = stack([u.series_count * u.resistance_ohm * u.grows * temperature_factor(u.chemistry, u.at_c(temp_c)) for u in units])
        self._scale = np.stack((cells, ohm), axis=-1)
        self._lead = any(u.chemistry == "lead" for u in units)
        usable = stack([usable_ah(u, 0.0, temp_c) for u in units])
        # Fall of charge per Ah, and rise of volts and ohms per Ah of a unit's own, for entries of the tables.
        self._less, self._steeper = -1.0 / usable, self._scale * (_POINTS / usable)[..., None]
        lengths = [len(row.units) for row in bank.rows]
        self._starts = np.concatenate([[0], np.cumsum(lengths)[:-1]])
        self._row_of = np.repeat(np.arange(len(lengths)), lengths)
        self._counts = np.array([row.parallel_count for row in bank.rows], dtype=float)[:, None]
        lead_ohm = stack([row.lead_ohm for row in bank.rows])
        self._leads = np.stack((np.zeros_like(lead_ohm), lead_ohm), axis=-1)

    def slopes(self, soc: NDArray[np.float64], bank_a: Number, ahead_ah: Number | None = None) -> NDArray[np.float64]:
        """Fall of each unit's charge per Ah drawn from the bank, `−(I_k/I)/C_k`, in the middle of `ahead_ah` drawn from here on. [1/Ah]

        Where the volts of a small unit fall steeply, its share falls with them within the step: the volts a row will have lost half
        way count as resistance, `R + β·Δt/2` with β the fall of its volts per Ah (linearly implicit, second order, stable however
        steep). Shape as `soc`.

        Source: the linearly implicit midpoint rule (Rosenbrock 1963, one stage).
        """
        place = np.minimum(np.maximum(soc, 0.0), 1.0) * _POINTS
        low = place.astype(np.intp)
        entry = low + self._offset
        rise = self._rise[entry]
        rows = np.add.reduceat((self._at[entry] + (place - low)[..., None] * rise) * self._scale, self._starts, axis=0) + self._leads
        row_v, row_ohm = rows[..., 0], rows[..., 1]
        each = self._share(row_v, row_ohm, bank_a)[self._row_of]
        less, steeper = self._less, self._steeper
        if self._lead:
            usable = np.stack([np.broadcast_to(usable_ah(u, i, self.temp_c), self.wide) for u, i in zip(self.units, each, strict=True)])
            less, steeper = -1.0 / usable, self._scale * (_POINTS / usable)[..., None]
        if ahead_ah is not None:
            steep = rise * steeper
            fall = np.add.reduceat(steep[..., 0] - each * steep[..., 1], self._starts, axis=0)
            lost = np.maximum(fall, 0.0) * (ahead_ah / bank_a)
            # Half way for most steps; where a tiny row's volts fall by far more than its ohms take up, nearly to the step's end, or it would
            # swing from step to step and be filled over its brim.
            part = np.maximum(0.5, 1.0 - row_ohm / np.maximum(lost, 1e-12))
            each = self._share(row_v, row_ohm + lost * part, bank_a)[self._row_of]
        slopes: NDArray[np.float64] = each * less / bank_a
        return slopes

    def _share(self, row_v: NDArray[np.float64], row_ohm: NDArray[np.float64], bank_a: Number) -> NDArray[np.float64]:
        """Current of one row of each kind. [A]"""
        weight = self._counts / row_ohm
        terminal = ((weight * row_v).sum(axis=0) - bank_a) / weight.sum(axis=0)
        own: NDArray[np.float64] = (row_v - terminal) / row_ohm
        return own
