"""How a profile of amps empties the bank: charge of each unit, and the time it takes."""

from __future__ import annotations

import numpy as np

from gecko.electric.bank import rated_ah, usable_ah
from gecko.electric.shares import ShareMarch
from gecko.figures import Number
from gecko.machine import Machine
from gecko.quadrature import mean_inverse, running_sum

PAST_EMPTY = -0.02
"""A unit this far below empty has surely ended the ride. [1]"""


def soc_path(machine: Machine, amps: Number, grid: Number, shape: tuple[int, ...]) -> tuple[Number, ...]:
    """State of charge of each unit group along the ride for a profile of bank amps.

    One kind of unit: the grid is its charge. Unlike units: the grid is charge drawn from the bank, and the shares are
    marched over it.
    """
    bank = machine.bank
    full_shape = (len(grid), *shape)
    if bank.uniform:
        return (np.broadcast_to(grid.reshape((-1,) + (1,) * len(shape)), full_shape),)
    total = rated_ah(bank)
    march = ShareMarch(bank, machine.pack_c, shape)
    current = np.maximum(amps, 1e-6).reshape(len(grid), -1)
    middle, steps = (current[1:] + current[:-1]) / 2.0, -np.diff(grid)
    soc_now = np.ones((len(bank.units), current.shape[1]))
    path = [soc_now]
    for i, amount in enumerate(steps.tolist()):
        drawn = amount * total
        soc_now = np.minimum(np.maximum(soc_now + march.slopes(soc_now, middle[i], drawn) * drawn, -0.05), 1.0)
        path.append(soc_now)
        if bool((soc_now < PAST_EMPTY).any(axis=0).all()):
            # The ride is over: what an empty unit would do next is nobody's question.
            path.extend([soc_now] * (len(grid) - len(path)))
            break
    return tuple(np.stack(path, axis=1).reshape((len(bank.units), len(grid), *shape)))


def time_path(machine: Machine, amps: Number, grid: Number, shape: tuple[int, ...]) -> Number:
    """Time at each point of the grid for a profile of bank amps: charge over current. [s] Shape (points, …)."""
    bank = machine.bank
    steps = -np.diff(grid).reshape((-1,) + (1,) * len(shape)) * 3600.0
    safe = np.maximum(np.broadcast_to(amps, (len(grid), *shape)), 1e-6)
    if not bank.uniform:
        return running_sum(steps * rated_ah(bank) * mean_inverse(safe[:-1], safe[1:]))
    own = safe / bank.rows[0].parallel_count
    rate = own / usable_ah(bank.units[0], own, machine.pack_c)
    return running_sum(steps * mean_inverse(rate[:-1], rate[1:]))
