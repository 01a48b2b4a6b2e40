"""What a ride adds up to and leaves behind: its sums, its trace in spans, and every step where that is asked for."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from gecko.common.compiled import borrowed, compiled
from gecko.physics.ride.moves import Move
from gecko.physics.ride.rig import Array

SPANS = 256
"""A ride's trace has at most so many points: where it would have more, pairs of them become one. [1]"""
FIRST_SPAN_S = 2.0
HOTTEST_S = 600.0
"""RMS amps are those of the hottest time so long. [s]"""


class Trace(NamedTuple):
    """A ride in at most `SPANS` spans, whole rounds where they are short: until when [s], metres [m], mean pack amps and the squares' sum [A, A²s],
    motor amps squared [A²s], lowest volts at controller and bank [V], winding at its hottest and at the end, case at the end [K above the air],
    rounds [1]; charge of each unit group [1] of shape (spans, groups)."""

    time_s: Array
    distance_m: Array
    pack_as: Array
    pack_a2s: Array
    motor_a2s: Array
    controller_v: Array
    bank_v: Array
    hottest_k: Array
    winding_k: Array
    case_k: Array
    rounds: Array
    soc: Array


class Sums(NamedTuple):
    """What adds up over a ride: seconds, metres, metres climbed, charge at the bank [As], squares of its amps and of the motor's [A²s], and
    energy at the controller [J]."""

    time_s: float
    distance_m: float
    climb_m: float
    pack_as: float
    pack_a2s: float
    motor_a2s: float
    controller_j: float


class Span(NamedTuple):
    """A span of the trace that is not over yet: the sums as it began, lowest volts at controller and bank [V], the winding at its hottest
    [K above the air]."""

    began: Sums
    controller_v: float
    bank_v: float
    hottest_k: float


class Points(NamedTuple):
    """Every step of a ride, where that is asked for: seconds, metres, speed [m/s], pack and motor amps [A], controller volts [V], height
    climbed [m], what the rider does and which limit holds, and the leg."""

    time_s: Array
    place_m: Array
    speed_m_s: Array
    pack_a: Array
    motor_a: Array
    volts_v: Array
    climb_m: Array
    doing: Array
    limit: Array
    leg: Array


def points(most: int) -> Points:
    """Room for so many steps [1]; none: they are not kept."""
    return Points(*(np.zeros(most) for _ in Points._fields))


@compiled
def taken(sums: Sums, began: Sums) -> Sums:
    """What was added since.

    Derived here: differences.
    """
    return Sums(
        sums.time_s - began.time_s,
        sums.distance_m - began.distance_m,
        sums.climb_m - began.climb_m,
        sums.pack_as - began.pack_as,
        sums.pack_a2s - began.pack_a2s,
        sums.motor_a2s - began.motor_a2s,
        sums.controller_j - began.controller_j,
    )


@compiled
def added(sums: Sums, took: Sums, before: Sums, times: float, further: float) -> Sums:
    """The sums after so many more times what was taken last, `further` on the line from what was taken before that. [SI, 1]

    Derived here: the sum of an arithmetic series.
    """
    now, then = times * (1.0 + further), times * further
    return Sums(
        sums.time_s + now * took.time_s - then * before.time_s,
        sums.distance_m + now * took.distance_m - then * before.distance_m,
        sums.climb_m + now * took.climb_m - then * before.climb_m,
        sums.pack_as + now * took.pack_as - then * before.pack_as,
        sums.pack_a2s + now * took.pack_a2s - then * before.pack_a2s,
        sums.motor_a2s + now * took.motor_a2s - then * before.motor_a2s,
        sums.controller_j + now * took.controller_j - then * before.controller_j,
    )


@compiled
def room_for_trace(groups: int) -> Trace:
    """Room for the trace of a ride."""
    n = SPANS
    flat = np.zeros((11, n))
    return Trace(flat[0], flat[1], flat[2], flat[3], flat[4], flat[5], flat[6], flat[7], flat[8], flat[9], flat[10], np.zeros((n, groups)))


@compiled
def borrowed_trace(trace: Trace) -> Trace:
    """The same trace, good as long as it is kept."""
    return Trace(
        borrowed(trace.time_s),
        borrowed(trace.distance_m),
        borrowed(trace.pack_as),
        borrowed(trace.pack_a2s),
        borrowed(trace.motor_a2s),
        borrowed(trace.controller_v),
        borrowed(trace.bank_v),
        borrowed(trace.hottest_k),
        borrowed(trace.winding_k),
        borrowed(trace.case_k),
        borrowed(trace.rounds),
        borrowed(trace.soc),
    )


@compiled
def write_span(trace: Trace, to: int, sums: Sums, span: Span, winding: float, case: float, rounds: float, soc: Array) -> None:
    """A span of the trace that is over."""
    trace.time_s[to], trace.distance_m[to], trace.rounds[to] = sums.time_s, sums.distance_m, rounds
    trace.pack_as[to], trace.pack_a2s[to] = sums.pack_as - span.began.pack_as, sums.pack_a2s - span.began.pack_a2s
    trace.motor_a2s[to] = sums.motor_a2s - span.began.motor_a2s
    trace.controller_v[to], trace.bank_v[to] = span.controller_v, span.bank_v
    trace.hottest_k[to], trace.winding_k[to], trace.case_k[to] = span.hottest_k, winding, case
    for u in range(soc.size):
        trace.soc[to, u] = soc[u]


@compiled
def _copied(trace: Trace, to: int, first: int, last: int) -> None:
    """A span of the trace from the spans first to last."""
    trace.time_s[to], trace.distance_m[to], trace.rounds[to] = trace.time_s[last], trace.distance_m[last], trace.rounds[last]
    for sums in (trace.pack_as, trace.pack_a2s, trace.motor_a2s):
        sums[to] = sums[first : last + 1].sum()
    trace.controller_v[to] = trace.controller_v[first : last + 1].min()
    trace.bank_v[to] = trace.bank_v[first : last + 1].min()
    trace.hottest_k[to] = trace.hottest_k[first : last + 1].max()
    trace.winding_k[to], trace.case_k[to] = trace.winding_k[last], trace.case_k[last]
    for u in range(trace.soc.shape[1]):
        trace.soc[to, u] = trace.soc[last, u]


@compiled
def hottest_mean(trace: Trace, values: Array, filled: int) -> float:
    """Largest mean over `HOTTEST_S` of what the spans added, in its unit a second; over the whole ride when that is shorter.

    Derived here: a mean over a sliding window is largest where the window begins or ends with a span.
    """
    window = min(HOTTEST_S, trace.time_s[filled - 1]) if filled > 0 else 0.0
    if window <= 0.0:
        return 0.0
    times, total = np.zeros(filled + 1), np.zeros(filled + 1)
    times[1:], total[1:] = trace.time_s[:filled], values[:filled].cumsum()
    # The largest window begins or ends where a span does.
    ends = np.minimum(np.maximum(np.concatenate((times, times + window)), window), times[-1])
    return float(np.max(np.interp(ends, times, total) - np.interp(ends - window, times, total)) / window)


@compiled
def hottest_k(trace: Trace, filled: int, first_k: float, until_s: float) -> float:
    """Hottest winding until a time [s], from its first rise on, each span's in force at its end. [K above the air]

    Derived here: the largest of the points before.
    """
    times, rises = np.zeros(filled + 1), np.full(filled + 1, first_k)
    times[1:], rises[1:] = trace.time_s[:filled], trace.hottest_k[:filled]
    hottest = np.interp(until_s, times, rises)
    for k in range(filled + 1):
        if times[k] < until_s:
            hottest = max(hottest, rises[k])
    return float(hottest)


@compiled
def halved(trace: Trace, filled: int) -> int:
    """Pairs of spans as one; how many there are then. [1]"""
    half = (filled + 1) // 2
    for k in range(half):
        _copied(trace, k, 2 * k, min(2 * k + 1, filled - 1))
    return half


@compiled
def keep_point(kept: Points, n: int, sums: Sums, speed: float, pack: float, volts: float, move: Move, leg: int) -> None:
    """A step, as it begins."""
    kept.time_s[n], kept.place_m[n], kept.climb_m[n], kept.speed_m_s[n] = sums.time_s, sums.distance_m, sums.climb_m, speed
    kept.pack_a[n], kept.motor_a[n], kept.volts_v[n] = pack, move.drive.motor_a, volts
    kept.doing[n], kept.limit[n], kept.leg[n] = move.doing, move.drive.limit, leg
