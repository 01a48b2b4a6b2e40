"""Lines for the plots, all computed here: the screens only draw them."""

from __future__ import annotations

import math
from functools import cache, lru_cache

import numpy as np
from numpy.typing import ArrayLike

from gecko.analysis.whole import Analysis, offered
from gecko.answers.evaluation import ChoiceOut, ChoicePick, ChoiceRow, Curve, Curves, SizeOut, Stretch
from gecko.common.figures import Array, Index, Mask
from gecko.document.parts.wire import size_of
from gecko.physics.electric.operating_point import LIMITS
from gecko.physics.heat.wire import WITHSTAND_S, seconds_to_insulation, withstand_a2s
from gecko.physics.motion.top_speed import KNOBS
from gecko.physics.protection.ampacity import INSULATION_C, Size, bundle_factor, derated_ampacity_a
from gecko.physics.protection.choice import CONDITIONS, ChoiceInput, ChoiceTable
from gecko.physics.protection.fuse import opening_times_s
from gecko.physics.road.forces import grip_limited_acceleration, resistance_n, wheel_force_n
from gecko.reference.tables import OfferedFuse


def curve(x: ArrayLike, y: ArrayLike) -> Curve:
    """A line from arrays, rounded to seven digits of the largest value."""
    # Built without validation: these are two lists of floats made right here, and a key press makes thirty such lines.
    return Curve.model_construct(x=_rounded(x), y=_rounded(y))


def log_curve(x: Array, y: Array) -> Curve:
    """A line for logarithmic axes, each value rounded to six digits of its own."""
    return Curve(x=_six_digits(x), y=_six_digits(y))


def _six_digits(values: Array) -> list[float]:
    scale = 10.0 ** (5.0 - np.floor(np.log10(np.maximum(np.abs(values), 1e-9))))
    return list((np.round(values * scale) / scale).tolist())


def _rounded(values: ArrayLike) -> list[float]:
    array = np.asarray(values, dtype=float)
    plain: list[float] = array.tolist()
    largest = max(max(plain), -min(plain), 1e-9) if plain else 1.0
    places = 6 - math.floor(math.log10(largest))
    if places < 0:
        return list(array.round(places).tolist())
    # The same as `round`, but faster: a key press rounds thirty lines.
    scale = 10.0**places
    return list((np.rint(array * scale) / scale).tolist())


def build_curves(a: Analysis) -> Curves:
    """Sag, force–speed, ride and knob lines of a setup."""
    if a.machine is None:
        return Curves()
    top_a = max(float(a.peak_a) * 1.25, 5.0)
    amps = np.linspace(0.0, top_a, 2)
    sag = {name: curve(amps, source.volts(amps)) for name, source in (("full", a.full), ("half", a.half), ("low", a.m.source(0.2)))}
    high = float(np.maximum(a.top, a.speeds.hill[0])) * 1.25 + 0.2
    v = np.linspace(0.0, high, 61)
    vehicle, grade = a.m.vehicle, a.setup.ground.hill_grade
    point = a.m.full(a.full, a.motor, v)
    push = np.maximum(wheel_force_n(vehicle, a.motor, point.motor_a), 0.0)
    level = resistance_n(vehicle, v, a.setup.ground.grade)
    grip = vehicle.friction * grip_limited_acceleration(vehicle, resistance_n(vehicle, v))[1]
    force = {
        "push": curve(v, np.minimum(push, grip)),
        "push_ungripped": curve(v, push),
        "push_half": curve(v, np.maximum(a.m.push(a.half, a.motor, v), 0.0)),
        "level": curve(v, level),
        "grade": curve(v, resistance_n(vehicle, v, grade)),
    }
    line = a.ride.line
    shown = np.unique(np.append(np.arange(0, len(line.time_s), 2), len(line.time_s) - 1))
    ride_curves = {
        "volts": curve(line.time_s[shown], line.controller_v[shown]),
        "charge": curve(line.time_s[shown], np.mean(np.stack(line.soc), axis=0)[shown]),
    }
    knob = curve(KNOBS, a.speeds.knob) if a.speeds.knob is not None else None
    return Curves(sag=sag, force=force, force_limits=_stretches(v, point.limit, push > grip), ride=ride_curves, knob=knob)


def _stretches(v: Array, limit: Index | int, slips: Mask) -> list[Stretch]:
    """Stretches of the speeds `v` along which one limit holds, the wheels' grip before all others."""
    which = np.where(slips, len(LIMITS), limit)
    starts = [0, *(np.flatnonzero(which[1:] != which[:-1]) + 1).tolist()]
    ends = [*(start - 1 for start in starts[1:]), len(which) - 1]
    names = (*LIMITS, "grip")
    return [Stretch(from_m_s=float(v[i]), to_m_s=float(v[k]), limit=names[int(which[i])]) for i, k in zip(starts, ends, strict=True)]


@cache
def _names(bits: int) -> tuple[str, ...]:
    """Names of the conditions whose bits are set."""
    return tuple(name for n, name in enumerate(CONDITIONS) if bits >> n & 1)


SHOWN_KINDS = {"blade": 0, "large blade": 1, "bolt-down": 2, "cartridge": 3}


def size_out(size: Size) -> SizeOut:
    """A wire size as it goes out."""
    return SizeOut(awg=size.awg, mm2=size.mm2, strands=size.strands)


def build_choice(a: Analysis, run_id: str = "main") -> ChoiceOut | None:
    """The fuse × wire table for a lead, the chosen cell and the best one, with their time–current lines."""
    run = a.run(run_id)
    if run is None:
        return None
    table, data, own = a.table(run), run.data, a.guard_fuse(run)
    school = a.context.house.wire_school
    best = table.recommended(school)
    chosen = None
    if own is not None:
        mine = offered(own)
        chosen = (table.fuses.index(mine), table.sizes.index(size_of(run.lead)))
    masks = table.failing(school)
    bits = np.bitwise_or.reduce([masks[name].astype(int) << n for n, name in enumerate(CONDITIONS)]).tolist()
    rows = [
        ChoiceRow(
            kind=table.fuses[i].kind,
            dc_volts_v=table.fuses[i].dc_volts_v,
            rating_a=table.fuses[i].rating_a,
            fails=[list(_names(cell)) for cell in bits[i]],
        )
        for i in _shown(table, best, chosen, data)
    ]
    air = data.lead_air_c
    return ChoiceOut(
        run=run_id,
        school=school,
        sizes=[size_out(size) for size in table.sizes],
        ampacity_a=[derated_ampacity_a(size, data.row, air, data.conductors) for size in table.sizes],
        rows=rows,
        chosen=_pick(table, chosen, school),
        best=_pick(table, best, school),
        blocking=[] if best is not None else [name for name, gain in table.blocking(school) if gain > 0],
        continuous_a=data.continuous_a,
        launch_peak_a=float(np.max(data.launch_a)),
        launch_s=float(data.launch_s[-1]),
        curves={
            name: _time_current(table.fuses[cell[0]], table.sizes[cell[1]], data.row, data.insulation, data.conductors, air)
            for name, cell in (("chosen", chosen), ("best", best))
            if cell is not None
        },
    )


def _shown(table: ChoiceTable, best: tuple[int, int] | None, chosen: tuple[int, int] | None, data: ChoiceInput) -> list[int]:
    """Fuses worth showing: one DC class per kind (the lowest that covers the bank), within reach of the load."""
    keep: dict[tuple[str, float], int] = {}
    for i, fuse in enumerate(table.fuses):
        if fuse.kind not in ("blade", "large blade") and not (best and table.fuses[best[0]].kind == fuse.kind):
            continue
        if fuse.dc_volts_v < data.full_v:
            continue
        if not 0.6 * data.continuous_a <= fuse.rating_a <= max(4.0 * data.continuous_a, 40.0):
            continue
        key = (fuse.kind, fuse.rating_a)
        now = keep.get(key)
        if now is None or fuse.dc_volts_v < table.fuses[now].dc_volts_v:
            keep[key] = i
    must = [cell[0] for cell in (best, chosen) if cell is not None]
    shown = sorted(set(keep.values()) | set(must), key=lambda i: (SHOWN_KINDS[table.fuses[i].kind], table.fuses[i].rating_a))
    return shown


def _pick(table: ChoiceTable, cell: tuple[int, int] | None, school: str) -> ChoicePick | None:
    if cell is None:
        return None
    fuse = table.fuses[cell[0]]
    masks = table.failing(school)
    return ChoicePick(
        kind=fuse.kind,
        dc_volts_v=fuse.dc_volts_v,
        rating_a=fuse.rating_a,
        breaking_a=fuse.breaking_a,
        size=size_out(table.sizes[cell[1]]),
        fails=[name for name in CONDITIONS if masks[name][cell]],
        numbers={name: float(values[cell]) for name, values in table.numbers.items()},
    )


@lru_cache(maxsize=64)
def _time_current(fuse: OfferedFuse, size: Size, row: str, insulation: str, conductors: int, air_c: float) -> dict[str, Curve]:
    """Shortest and longest opening of the fuse, the wire's patience and its withstand, amps to seconds; kept, for they change seldom."""
    load = np.exp(np.linspace(np.log(max(fuse.rating_a, 1.0)), np.log(max(20.0 * fuse.rating_a, 800.0)), 60))
    shortest, longest = opening_times_s(fuse.kind, load / fuse.rating_a)
    bundled = size.table_a(row) * bundle_factor(size.in_bundle(conductors))
    wire = seconds_to_insulation(size.area_m2, load, bundled, INSULATION_C[row], air_c)
    withstand = withstand_a2s(size.area_m2, insulation) / np.square(load)
    lines = {}
    found = (("shortest", shortest), ("longest", longest), ("wire", wire), ("withstand", np.where(withstand <= WITHSTAND_S, withstand, np.inf)))
    for name, opens in found:
        times = np.asarray(opens)
        drawn = np.isfinite(times) & (times < 1e5)
        lines[name] = log_curve(load[drawn], times[drawn])
    return lines
