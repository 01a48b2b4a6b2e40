"""Integrals along a trace (first axis), shared by launch, lap and ride."""

from __future__ import annotations

import numpy as np
from scipy.integrate import cumulative_trapezoid

from gecko.common.figures import Array, Index, Number


def pick(table: Array, index: Index) -> Array:
    """Entry `index` along the first axis of a table, for every place of the other axes (index broadcasts over them); in the table's unit.

    >>> pick(np.array([[1.0, 2.0], [3.0, 4.0]]), np.array([1, 0])).tolist()
    [3.0, 2.0]
    """
    if table.ndim == 1 or index.size == 1:
        return np.asarray(table[index if table.ndim == 1 else index.item()])
    flat = table.reshape(table.shape[0], -1)
    if index.shape != table.shape[1:]:
        index = np.broadcast_to(index, table.shape[1:])
    return flat[np.ravel(index), np.arange(flat.shape[1])].reshape(table.shape[1:])


def mean_inverse(first: Number, second: Number) -> Array:
    """Mean of 1/y over a step on which y is linear: `ln(y1/y2)/(y1 − y2)`, in the inverse unit of y; infinite where y comes down to zero.

    >>> round(float(mean_inverse(1.0, 2.0)), 6), float(mean_inverse(0.0, 2.0))
    (0.693147, inf)

    Derived here: ∫₀¹ dx/(y1 + (y2 − y1)·x).
    """
    runs = (first > 0) & (second > 0)
    first, second = np.where(runs, first, 1.0), np.where(runs, second, 1.0)
    ratio = np.log(first / second)
    close = np.abs(ratio) < 1e-6
    mean = np.where(close, 2.0 / (first + second), ratio / np.where(close, 1.0, first - second))
    return np.where(runs, mean, np.inf)


def running_sum(steps: Array) -> Array:
    """Sums of steps from the start, with a zero first, in the unit of the steps. Shape (n + 1, …) from (n, …).

    >>> running_sum(np.array([1.0, 2.0])).tolist()
    [0.0, 1.0, 3.0]
    """
    sums = np.zeros((len(steps) + 1, *np.shape(steps)[1:]))
    np.cumsum(steps, axis=0, out=sums[1:])
    return sums


def cumulative(values: Array, time_s: Array) -> Array:
    """Integral of a trace over time from its start to each point (trapezoids), in its unit times seconds.

    >>> cumulative(np.array([0.0, 2.0, 4.0]), np.array([0.0, 1.0, 3.0])).tolist()
    [0.0, 1.0, 7.0]

    Source: trapezoidal rule, as SciPy has it.
    """
    return np.asarray(cumulative_trapezoid(values, time_s, axis=0, initial=0.0))


def _slope(trace: Array, time_s: Array, index: Index) -> Array:
    """Slope of a trace at a point, in its unit per second, by the parabola through it and its neighbours; at the ends by the first or last three points."""
    at = np.clip(index, 1, len(time_s) - 2)
    t0, t1, t2 = (pick(time_s, at + k) for k in (-1, 0, 1))
    y0, y1, y2 = (pick(trace, at + k) for k in (-1, 0, 1))
    before, after = np.maximum(t1 - t0, 1e-9), np.maximum(t2 - t1, 1e-9)
    first, second = (y1 - y0) / before, (y2 - y1) / after
    bend = (second - first) / (before + after)
    return np.asarray(first + bend * (2.0 * pick(time_s, index) - t0 - t1))


def first_above(trace: Array, time_s: Array, level: float) -> Array:
    """Time at which a rising trace first reaches a level, both in the trace's unit, on the cubic through its points and slopes;
    inf when never. [s]

    A winding rises ever more slowly, and by some 10 K from point to point: a straight line would be percents off.

    >>> round(float(first_above(np.array([0.0, 1.0, 4.0, 9.0]), np.array([0.0, 1.0, 2.0, 3.0]), 2.25)), 3)
    1.5

    Source: cubic Hermite interpolation; slopes of at most three times the secant keep it rising (Fritsch and Carlson, 1980).
    """
    above = trace >= level
    reached = above.any(axis=0)
    if not np.any(reached):
        return np.full(above.shape[1:], np.inf)
    index = np.maximum(above.argmax(axis=0), 1)
    t0, t1 = pick(time_s, index - 1), pick(time_s, index)
    y0, y1 = pick(trace, index - 1), pick(trace, index)
    span = t1 - t0
    left, right = _slope(trace, time_s, index - 1) * span, _slope(trace, time_s, index) * span
    rise = np.where(y1 > y0, y1 - y0, 1.0)
    # Slopes of up to three times the straight line's keep the cubic rising.
    left, right = np.clip(left, 0.0, 3.0 * rise), np.clip(right, 0.0, 3.0 * rise)
    low, high = np.zeros_like(rise), np.ones_like(rise)
    for _ in range(20):
        u = (low + high) / 2.0
        v = 1.0 - u
        y = y0 * (1.0 + 2.0 * u) * v * v + left * u * v * v + y1 * u * u * (3.0 - 2.0 * u) - right * u * u * v
        low, high = np.where(y < level, u, low), np.where(y < level, high, u)
    return np.where(above[0], 0.0, np.where(reached, t0 + high * span, np.inf))
