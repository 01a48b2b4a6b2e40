"""Integrals along a trace (first axis), shared by launch, lap and ride."""

from __future__ import annotations

import numpy as np

from gecko.figures import Number


def pick(table: Number, index: Number) -> Number:
    """Entry `index` along the first axis of a table, for every place of the other axes (index broadcasts over them); in the table's unit.

    >>> pick(np.array([[1.0, 2.0], [3.0, 4.0]]), np.array([1, 0])).tolist()
    [3.0, 2.0]
    """
    if table.ndim == 1:
        return table[index]
    if index.size == 1:
        return table[index.item()]
    flat = table.reshape(table.shape[0], -1)
    if index.shape != table.shape[1:]:
        index = np.broadcast_to(index, table.shape[1:])
    return flat[np.ravel(index), np.arange(flat.shape[1])].reshape(table.shape[1:])


def mean_inverse(first: Number, second: Number) -> Number:
    """Mean of 1/y over a step on which positive y is linear: `ln(y1/y2)/(y1 − y2)`, in the inverse unit of y.

    >>> round(float(mean_inverse(1.0, 2.0)), 6)
    0.693147
    """
    ratio = np.log(first / second)
    gap = first - second
    close = np.abs(ratio) < 1e-6
    return np.where(close, 2.0 / (first + second), ratio / np.where(close | (gap == 0), 1.0, gap))


def running_sum(steps: Number) -> Number:
    """Sums of steps from the start, with a zero first, in the unit of the steps. Shape (n + 1, …) from (n, …)."""
    return np.concatenate([np.zeros((1, *np.shape(steps)[1:])), np.cumsum(steps, axis=0)])


def cumulative(values: Number, time_s: Number) -> Number:
    """Integral of a trace over time from its start to each point (trapezoids), in its unit times seconds."""
    return running_sum((values[1:] + values[:-1]) / 2.0 * np.diff(time_s, axis=0))


def read_at(trace: Number, time_s: Number, at_s: Number) -> Number:
    """A trace at a time [s], linear between its points, in its own unit."""
    index = np.clip((time_s < at_s).sum(axis=0), 1, time_s.shape[0] - 1)
    t0, t1 = pick(time_s, index - 1), pick(time_s, index)
    y0, y1 = pick(trace, index - 1), pick(trace, index)
    share = np.maximum((at_s - t0) / np.where(t1 > t0, t1 - t0, 1.0), 0.0)
    return y0 + share * (y1 - y0)
