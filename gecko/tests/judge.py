"""A slow, plain march in time that judges the compiled one: short fixed steps, currents by bisection, nothing shared but the machine's numbers.

And machines and courses drawn by chance, by a generator that knows no rule of this project.
"""

from __future__ import annotations

import math
import random
from collections.abc import Sequence
from dataclasses import dataclass, field
from itertools import pairwise
from typing import Any

import numpy as np

from gecko.physics.electric.bank import BankModel, RowModel, Unit
from gecko.physics.electric.motor import from_nameplate
from gecko.physics.electric.operating_point import ControllerModel
from gecko.physics.heat.motor import thermal_from_plate
from gecko.physics.motion.machine import GuardModel, Machine
from gecko.physics.ride.legs import Leg
from gecko.physics.road.forces import VehicleModel

MOVING_S, RESTING_S = 0.1, 0.5
"""Steps while the speed changes, and while it is held or the machine stands. [s]"""
CURVES = {
    "li-ion": "0 3.00 .05 3.30 .1 3.42 .2 3.54 .3 3.61 .4 3.66 .5 3.72 .6 3.80 .7 3.89 .8 3.98 .9 4.07 .95 4.13 1 4.19",
    "lfp": "0 2.50 .05 3.05 .1 3.18 .2 3.24 .3 3.26 .4 3.28 .5 3.29 .6 3.30 .7 3.32 .8 3.33 .9 3.34 .95 3.36 1 3.45",
    "lead": "0 1.93 .05 1.94 .1 1.96 .2 1.99 .3 2.01 .4 2.03 .5 2.05 .6 2.07 .7 2.085 .8 2.10 .9 2.115 .95 2.125 1 2.13",
    "nickel": "0 1 .05 1.18 .1 1.215 .2 1.245 .3 1.262 .4 1.273 .5 1.282 .6 1.291 .7 1.302 .8 1.316 .9 1.336 .95 1.355 1 1.39",
}
"""Open volts of a cell by charge, as the guide prints them. [1, V]"""


def _read(pairs: Sequence[tuple[float, float]], x: float) -> float:
    """A broken line read at x."""
    for (x0, y0), (x1, y1) in pairwise(pairs):
        if x <= x1:
            return y0 + (y1 - y0) * (max(x, x0) - x0) / (x1 - x0)
    return pairs[-1][1]


_OPEN = {name: [(float(a), float(b)) for a, b in zip(text.split()[::2], text.split()[1::2], strict=True)] for name, text in CURVES.items()}
_LOW = [(0.0, 2.2), (0.1, 1.5), (0.2, 1.15), (0.3, 1.0)]
_TABLES = {name: [_read(pairs, k / 1000.0) for k in range(1001)] for name, pairs in {**_OPEN, "low": _LOW}.items()}


def _at(name: str, s: float) -> float:
    """A table read at a charge, linear between thousandths."""
    place = min(max(s, 0.0), 1.0) * 1000.0
    low = min(int(place), 999)
    table = _TABLES[name]
    return table[low] + (place - low) * (table[low + 1] - table[low])


@dataclass
class Verdict:
    """When each end first came [s], and metres until the first one."""

    ends: dict[str, float] = field(default_factory=dict)
    metres: float = 0.0

    @property
    def first(self) -> tuple[str, float]:
        """What came first, and when. [s]"""
        return min(self.ends.items(), key=lambda entry: entry[1])

    def close(self, share: float = 0.02) -> set[str]:
        """Ends that come within a share of the first. [1]"""
        _, at = self.first
        return {name for name, when in self.ends.items() if when <= at * (1.0 + share)}


class Judge:
    """A machine ridden over legs in time. `looser` moves every threshold of volts, amps and kelvin by that share, outward."""

    def __init__(self, m: Machine, legs: Sequence[Leg], meant: Sequence[float], brake: float, finer: float = 1.0, looser: float = 0.0) -> None:
        self.m, self.legs, self.meant, self.brake, self.finer, self.looser = m, legs, meant, brake, finer, looser
        self.units = [(r, unit) for r, row in enumerate(m.bank.rows) for unit in row.units]
        self.soc = [1.0] * len(self.units)
        self.mean_a = [0.0] * len(self.units)
        self.used_v = [0.0] * len(self.units)
        v = m.vehicle
        self.turn = float(v.gear_ratio / v.wheel_radius_m)
        self.kg = float(v.mass_kg)
        self.heavy = self.kg * (1.0 + v.rotating_share)
        self.w = self.c = 0.0

    # --- the moment ---

    def bank(self) -> tuple[float, float, list[tuple[float, float]]]:
        """Open volts, ohms with the path, and volts and ohms of each row."""
        m, rows = self.m, [[0.0, float(row.lead_ohm)] for row in self.m.bank.rows]
        for u, (r, unit) in enumerate(self.units):
            rows[r][0] += unit.series_count * unit.cells_in_series * _at(unit.chemistry, self.soc[u]) - self.used_v[u]
            rows[r][1] += self.ohm(u) * (1.0 - self.slow(u) * (1.0 - math.exp(-10.0 / unit.grows_s)))
        siemens = sum(row.parallel_count / ohm for row, (_, ohm) in zip(m.bank.rows, rows, strict=True))
        volts = sum(row.parallel_count * v / ohm for row, (v, ohm) in zip(m.bank.rows, rows, strict=True)) / siemens
        return volts, 1.0 / siemens + max(float(m.path_ohm), 1e-6), [(v, ohm) for v, ohm in rows]

    def ohm(self, u: int) -> float:
        """Ohms a pulse of ten seconds meets in a unit group."""
        unit = self.units[u][1]
        cold = math.exp({"lead": 0.010, "nickel": 0.016}.get(unit.chemistry, 0.022) * (25.0 - self.m.pack_c))
        return float(unit.series_count * unit.resistance_ohm) * cold * _at("low", self.soc[u])

    def slow(self, u: int) -> float:
        """The part of them that comes with time: so much that ten seconds of it and the rest are the whole."""
        unit = self.units[u][1]
        return (float(unit.grows) - 1.0) / math.exp(-10.0 / unit.grows_s)

    def motor(self) -> tuple[float, float]:
        """Winding's ohms and k."""
        m = self.m.motor
        hot, fall = min(self.w + self.m.ambient_c, 300.0) - 25.0, 0.0011 if m.magnet == "ndfeb" else 0.0020
        return float(m.resistance_ohm) * (1 + 0.00393 * hot), float(m.k_v_s) * (1 - fall * (min(self.c + self.m.ambient_c, 300.0) - 25.0))

    def drawn(self, inner: float, ohm: float, watts: float) -> float:
        """Bank amps that give so many watts behind the source's ohms; infinite where it cannot."""
        under = inner * inner - 4.0 * ohm * watts
        return (inner - math.sqrt(under)) / (2.0 * ohm) if under >= 0.0 else math.inf

    def wide_open(self, e: float, rs: float, omega: float, duty: float) -> tuple[float, float, bool]:
        """Most motor amps that break no limit, by bisection; bank amps; whether the low cut-off is what holds them."""
        ctl, (ohm, k) = self.m.control, self.motor()
        loop = ohm + float(self.m.motor.lead_ohm)
        if ctl.kind == "none":
            i = (e - k * omega) / (loop + rs)
            return i, i, False
        through = self.rectified(e, rs, omega)
        if through > 0.0:
            return -through, float(ctl.idle_a) - through, False
        inner, cut = e - float(ctl.idle_a) * rs, 0.0 if ctl.undervoltage_v is None else float(ctl.undervoltage_v)
        phase = math.inf if ctl.phase_limit_a is None else float(ctl.phase_limit_a)
        most = math.inf if ctl.battery_limit_a is None else float(ctl.battery_limit_a)
        if inner <= cut:
            return 0.0, float(ctl.idle_a), True

        def breaks(i: float) -> int:
            if i > phase:
                return 1
            bank = self.drawn(inner, rs, i * (k * omega + loop * i) / float(ctl.efficiency))
            if bank > most or bank > inner / (2 * rs) or bank > duty * i:
                return 1
            return 2 if inner - bank * rs < cut else 0

        low, high = 0.0, inner / loop + 1.0
        while high - low > 1e-6 * high:
            middle = (low + high) / 2.0
            low, high = (low, middle) if breaks(middle) else (middle, high)
        bank = self.drawn(inner, rs, low * (k * omega + loop * low) / float(ctl.efficiency))
        return low, bank + float(ctl.idle_a), breaks(high * (1 + 1e-5)) == 2

    def rectified(self, e: float, rs: float, omega: float) -> float:
        """Amps through the stage's diodes, by bisection: the motor's volts less its own loss are the bank's, a converter's loss higher."""
        (ohm, k), eta = self.motor(), float(self.m.control.efficiency)
        loop = ohm + float(self.m.motor.lead_ohm)
        low, high = 0.0, max(k * omega, 0.0) / loop
        for _ in range(60):
            middle = (low + high) / 2.0
            low, high = (middle, high) if k * omega - middle * loop > (e + middle * rs) / eta else (low, middle)
        return low if k * omega > e / eta else 0.0

    def push(self, i: float) -> float:
        """Newtons at the ground."""
        torque = self.motor()[1] * (i - float(self.m.motor.no_load_a)) * self.turn
        eta = float(self.m.vehicle.gear_efficiency)
        return torque * eta if torque > 0 else torque / eta

    def amps_to_push(self, n: float) -> float:
        """Motor amps for newtons."""
        eta = float(self.m.vehicle.gear_efficiency)
        return (n / eta if n > 0 else n * eta) / self.turn / self.motor()[1] + float(self.m.motor.no_load_a)

    def back(self, leg: Leg, v: float) -> float:
        """Newtons of ground, slope and air."""
        body = self.m.vehicle
        return self.kg * 9.81 * (float(leg.rolling) + leg.grade) / math.hypot(1.0, leg.grade) + 0.5 * float(body.air_density_kg_m3) * float(body.drag_area_m2) * v * v

    def grip(self, leg: Leg, held: float) -> float:
        """Newtons the driven axle passes on while it spins: load and acceleration found by repetition."""
        b = self.m.vehicle
        length, ahead, height = float(b.wheelbase_m), float(b.com_ahead_of_rear_m), float(b.com_height_m)
        share, moved = {"rear": ((length - ahead) / length, height / length), "front": (ahead / length, -height / length)}.get(b.driven_axle, (1.0, 0.0))
        cos, mu = 1 / math.hypot(1.0, leg.grade), float(leg.friction)
        if mu * self.kg * moved >= self.heavy:
            return mu * self.kg * 9.81
        a = 0.0
        for _ in range(200):
            load = min(max(self.kg * (share * 9.81 * cos + moved * (9.81 * leg.grade * cos + a)), 0.0), self.kg * 9.81)
            a += 0.5 * ((mu * load - held) / self.heavy - a)
        return mu * load

    def regen(self, e: float, rs: float, omega: float, most: float) -> tuple[float, float]:
        """Motor and bank amps with the throttle let go, by bisection on what reaches the bank."""
        ctl, (ohm, k) = self.m.control, self.motor()
        loop, idle = ohm + float(self.m.motor.lead_ohm), float(ctl.idle_a)
        through = 0.0 if ctl.kind == "none" else self.rectified(e, rs, omega)
        if ctl.kind == "none" or ctl.regen_a is None or float(ctl.regen_a) <= 0.0:
            return -through, idle - through
        best = max(k * omega, 0.0) / (2 * loop)

        def into(i: float) -> float:
            watts = float(ctl.efficiency) * i * (k * omega - loop * i)
            return (math.sqrt(e * e + 4 * rs * watts) - e) / (2 * rs)

        low, high = 0.0, min(best, max(most, 0.0))
        if into(high) > float(ctl.regen_a):
            for _ in range(50):
                middle = (low + high) / 2
                low, high = (middle, high) if into(middle) < float(ctl.regen_a) else (low, middle)
        return (-through, idle - through) if through > high else (-high, idle - into(high))

    # --- the ride ---

    def ride(self, longest_s: float = 90_000.0) -> Verdict:
        """Round and round until two per cent past the first end."""
        m, ctl = self.m, self.m.control
        if any(unit.chemistry == "lead" for _, unit in self.units) and not any(self.mean_a):
            first = Judge(m, self.legs, self.meant, self.brake, self.finer)
            first._follow(longest_s, rounds=1)
            self.mean_a = first.mean_a
        del ctl
        return self._follow(longest_s, rounds=10**9)

    def _follow(self, longest_s: float, rounds: int) -> Verdict:
        m, ctl, out = self.m, self.m.control, Verdict()
        t = v = metres = 0.0
        low_s = fold_s = creep_s = 0.0
        trip_s, moved = [0.0] * len(self.units), [0.0] * len(self.units)
        began, since_open, turned = 0.0, math.inf, False
        out_of = 1.0 + self.looser
        for _ in range(rounds):
            for leg, meant in zip(self.legs, self.meant, strict=True):
                timed = leg.length_m is None
                room = float(leg.time_s if timed else leg.length_m)  # type: ignore[arg-type]
                stands: float | None = None
                stopping = False
                while True:
                    e, rs, rows = self.bank()
                    ohm, k = self.motor()
                    held = self.back(leg, v)
                    i, bank, a, spun, folds, opened = 0.0, float(ctl.idle_a), 0.0, v * self.turn, False, False
                    aim = 1.0 if leg.coasts else math.inf if leg.aimed_m_s is None else float(leg.aimed_m_s)
                    needs = v / self.brake if timed else v * v / (2 * self.brake)
                    dt = MOVING_S / self.finer
                    if stands is not None:
                        dt = min(RESTING_S / self.finer, stands)
                    elif leg.stop_s is not None and v > 0 and (stopping or room <= needs + 1e-9):
                        stopping = True
                        a = -max(self.brake, (held - self.push(0.0)) / self.heavy)
                        i, bank = self.regen(e, rs, v * self.turn, -self.amps_to_push(held + a * self.heavy))
                        dt = min(dt, v / -a)
                    elif leg.coasts and v > 1.0 + 1e-9:
                        i, bank = self.regen(e, rs, v * self.turn, math.inf)
                        a = (self.push(i) - held) / self.heavy
                    elif v > aim * (1 + 1e-6):
                        a = -max(self.brake, (held - self.push(0.0)) / self.heavy)
                        i, bank = self.regen(e, rs, v * self.turn, -self.amps_to_push(held + a * self.heavy))
                        dt = min(dt, (v - aim) / -a)
                    else:
                        duty = float(ctl.duty_max) * leg.throttle
                        most, most_bank, folds = self.wide_open(e, rs, v * self.turn, duty)
                        wanted = self.amps_to_push(held)
                        if v >= aim * (1 - 1e-9) and wanted <= most:
                            folds, dt = False, RESTING_S / self.finer
                            if ctl.kind == "none":
                                raise NotImplementedError("pedalling a switch")
                            if wanted > 0:
                                i = wanted
                                bank = self.drawn(
                                    e - float(ctl.idle_a) * rs, rs, i * (k * v * self.turn + (ohm + float(m.motor.lead_ohm)) * i) / float(ctl.efficiency)
                                ) + float(ctl.idle_a)
                            else:
                                i, bank = self.regen(e, rs, v * self.turn, -wanted)
                        else:
                            opened = True
                            if v <= 0.0 and creep_s + fold_s <= 0.0:
                                since_open = 0.0
                            i, bank = most, most_bank
                            if since_open < ctl.ramp_s and ctl.kind != "none":
                                i *= min((since_open + dt / 2) / ctl.ramp_s, 1.0)
                                bank = self.drawn(
                                    e - float(ctl.idle_a) * rs, rs, i * (k * v * self.turn + (ohm + float(m.motor.lead_ohm)) * i) / float(ctl.efficiency)
                                ) + float(ctl.idle_a)
                            grip = self.grip(leg, held)
                            if self.push(i) > grip:
                                i, bank, spun = self.spins(e, rs, duty * (i / most if most > 0 else 1.0), grip)
                            a = (self.push(i) - held) / self.heavy
                            if v <= 0.0:
                                a = max(a, 0.0)
                            since_open += dt
                    if not opened:
                        since_open = math.inf
                    # No farther than the aim, and no farther than the leg.
                    if a > 0 and v < aim < v + a * dt:
                        dt = (aim - v) / a
                    if a < 0 and leg.coasts and v > 1.0 > v + a * dt:
                        dt = (1.0 - v) / a
                    if a < 0 and v + a * dt < 0:
                        dt = v / -a
                    if stands is None and timed and not stopping:
                        dt = min(dt, max(room, 1e-9))
                    if stands is None and leg.stop_s is not None and not stopping and v > 0.0:
                        # Braking begins where it must, not a step later.
                        still = room - needs if timed else (room - needs) / v
                        dt = min(dt, max(still, 0.02))
                    way = v * dt + a * dt * dt / 2
                    weak = 0.0
                    if float(ctl.extra) > 0.0 and i > 0.0:
                        # Beyond full duty amps that make no torque hold the field down: the rated ones at the whole extra speed.
                        ohm, k = self.motor()
                        beyond = (k * spun + (ohm + float(m.motor.lead_ohm)) * i) / (float(ctl.efficiency) * (e - bank * rs)) - 1.0
                        weak = (float(m.motor.rated_a) * min(max(beyond / float(ctl.extra), 0.0), 1.0)) ** 2
                        bank += weak * ohm / (float(ctl.efficiency) * (e - bank * rs))
                    volts = e - bank * rs
                    inside = e - bank * (rs - max(float(m.path_ohm), 1e-6))
                    own = [bank / rows_of.parallel_count if len(rows) == 1 else (volt - inside) / o for rows_of, (volt, o) in zip(m.bank.rows, rows, strict=True)]
                    # What could end it.
                    ended: list[str] = []
                    if m.guard is not None and volts < (float(m.guard.volts_v) - 0.01) / out_of:
                        low_s += dt
                        ended += ["guard"] if low_s >= m.guard.delay_s else []
                    else:
                        low_s = 0.0
                    fold_s = fold_s + dt if opened and folds and v < meant / 2 else 0.0
                    creep_s = creep_s + dt if opened and not folds and v < min(1.0, meant / 2) else 0.0
                    ended += ["foldback below half the aimed speed"] if fold_s >= 10.0 else []
                    ended += ["does not get up"] if creep_s >= 10.0 else []
                    ended += ["winding 155 C"] if self.w + m.ambient_c >= m.ambient_c + (155.0 - m.ambient_c) * out_of else []
                    for u, (r, unit) in enumerate(self.units):
                        if unit.protection_low_v is not None:
                            fast = self.ohm(u) * (1.0 - self.slow(u) * (1.0 - math.exp(-10.0 / unit.grows_s)))
                            inner = unit.series_count * unit.cells_in_series * _at(unit.chemistry, self.soc[u]) - self.used_v[u] - own[r] * fast
                            ended += ["pack protection low volts"] if inner <= unit.series_count * float(unit.protection_low_v) / out_of else []
                        over = unit.trip_a is not None and own[r] > float(unit.trip_a) * out_of
                        trip_s[u] = trip_s[u] + dt if over else 0.0
                        ended += ["pack protection trip"] if over and trip_s[u] >= (1.0 if unit.trip_delay_s is None else unit.trip_delay_s) else []
                        ah = float(unit.capacity_ah)
                        if unit.chemistry == "lead":
                            least = ah / 20.0
                            ah *= (least / max(self.mean_a[u], least)) ** ((unit.peukert_exponent or 1.15) - 1.0)
                        ah *= max(0.3, 1.0 - 0.006 * max(25.0 - m.pack_c, 0.0))
                        self.soc[u] = min(self.soc[u] - own[r] * dt / 3600.0 / ah, 1.0)
                        moved[u] += own[r] * dt
                        self.used_v[u] += (own[r] * self.slow(u) * self.ohm(u) - self.used_v[u]) * dt / unit.grows_s
                        ended += ["unit empty"] if self.soc[u] <= 0.0 else []
                    for name in ended:
                        out.ends.setdefault(name, t + dt)
                    # Heat.
                    n, th = m.motor_count, m.thermal
                    flow = (self.w - self.c) / float(th.winding_to_case_k_per_w)
                    air = self.c / float(th.case_to_air_k_per_w) * (1 + 0.15 * (v + a * dt / 2) if th.open_airflow else 1.0)
                    self.w, self.c = (
                        self.w + ((i * i + weak) * ohm / n - flow) / float(th.winding_j_per_k) * dt,
                        self.c + (abs(k * spun) * float(m.motor.no_load_a) / n + flow - air) / float(th.case_j_per_k) * dt,
                    )
                    t, v, metres = t + dt, max(v + a * dt, 0.0), metres + way
                    if v < 1e-9:
                        v = 0.0
                    if out.ends:
                        out.metres = out.metres or metres
                        if t > 1.03 * out.first[1]:
                            if not turned:
                                self.mean_a = [amount / t for amount in moved]
                            return out
                    if t > longest_s:
                        out.ends.setdefault("goes on for a day", t)
                        return out
                    if stands is not None:
                        stands -= dt
                        if stands <= 1e-9:
                            break
                        continue
                    room -= dt if timed else way
                    # Where ground and gears alone hold more than the brakes it stands a little early; nobody starts anew for that.
                    braked = stopping and v == 0.0
                    if leg.stop_s is not None and (braked or (room <= 1e-9 and not stopping)):
                        v, stands = 0.0, float(leg.stop_s)
                        if stands <= 1e-9:
                            break
                    elif leg.stop_s is None and room <= 1e-9:
                        break
            turned, self.mean_a = True, [amount / (t - began) for amount in moved]
            moved, began = [0.0] * len(self.units), t
        return out

    def spins(self, e: float, rs: float, duty: float, grip: float) -> tuple[float, float, float]:
        """Motor and bank amps while the wheels spin, and how fast the motor then turns: up to where the grip's amps are all it gets."""
        i, ctl, (ohm, k) = self.amps_to_push(grip), self.m.control, self.motor()
        loop, low, high = ohm + float(self.m.motor.lead_ohm), 0.0, e / k
        for _ in range(60):
            middle = (low + high) / 2
            low, high = (middle, high) if self.wide_open(e, rs, middle, duty)[0] >= i else (low, middle)
        if ctl.kind == "none":
            return i, i, low
        bank = self.drawn(e - float(ctl.idle_a) * rs, rs, i * (k * low + loop * i) / float(ctl.efficiency))
        return i, bank + float(ctl.idle_a), low


def random_machine(chance: random.Random) -> Machine:
    """Any machine: numbers between what a toy and a small motorcycle have, none chosen for another."""
    volts = chance.choice([6, 12, 24, 36, 48, 60, 72])
    chemistry = chance.choice(["li-ion", "li-ion", "lfp", "lead"])
    cells = max(round(volts / {"li-ion": 3.6, "lfp": 3.2, "lead": 2.0}[chemistry]), 1)
    watts = volts * chance.uniform(8, 40)
    rows = []
    for _ in range(chance.choice([1, 1, 1, 2, 3])):
        ah = chance.uniform(1.0, 8.0)
        unit = Unit(
            chemistry=chemistry,
            cells_in_series=cells,
            capacity_ah=ah,
            resistance_ohm=cells * chance.uniform(0.03, 0.12) / ah * (0.3 if chemistry == "lead" else 1.0) + 0.01,
            trip_a=chance.choice([None, None, ah * chance.uniform(4, 15)]),
            trip_delay_s=chance.choice([None, 0.2, 3.0]),
            protection_low_v=chance.choice([None, cells * {"li-ion": 2.7, "lfp": 2.2, "lead": 1.6}[chemistry]]),
            grows=chance.choice([1.0, chance.uniform(1.1, 2.2)]),
            grows_s=chance.uniform(20, 150),
        )
        rows.append(RowModel((unit,), chance.choice([1, 1, 2]), chance.uniform(0.002, 0.02)))
    direct = chance.random() < 0.2
    limit = watts / volts * chance.uniform(0.8, 2.5)
    control = (
        ControllerModel(kind="none", efficiency=1.0, idle_a=0.0)
        if direct
        else ControllerModel(
            duty_max=chance.choice([1.0, 1.0, chance.uniform(0.4, 1.0)]),
            efficiency=chance.uniform(0.9, 0.98),
            phase_limit_a=limit * chance.uniform(1.0, 3.0),
            battery_limit_a=limit,
            undervoltage_v=chance.choice([None, volts * chance.uniform(0.7, 0.9)]),
            idle_a=chance.uniform(0.02, 0.1),
            ramp_s=chance.choice([0.0, 0.0, chance.uniform(0.3, 3.0)]),
            regen_a=chance.choice([None, None, limit * chance.uniform(0.1, 0.5)]),
        )
    )
    motor = from_nameplate(
        volts, watts, chance.uniform(0.55, 0.9), chance.uniform(0.4, 0.6), speed_rpm=chance.uniform(2000, 4500), magnet=chance.choice(["ferrite", "ndfeb"])
    )
    count = chance.choice([1, 1, 2])
    base = chance.uniform(0.7, 1.2)
    radius, top = chance.uniform(0.08, 0.25), chance.uniform(1.2, 12.0)
    vehicle = VehicleModel(
        gear_ratio=float(motor.rated_a and (volts / motor.k_v_s) * radius / top),
        wheel_radius_m=radius,
        gear_efficiency=chance.uniform(0.7, 1.0),
        mass_kg=chance.uniform(25, 150),
        drag_area_m2=chance.uniform(0.3, 0.6),
        rolling_resistance=chance.uniform(0.01, 0.06),
        friction=chance.uniform(0.3, 0.9),
        driven_axle=chance.choice(["rear", "rear", "front", "all"]),
        wheelbase_m=base,
        com_ahead_of_rear_m=base * chance.uniform(0.35, 0.6),
        com_height_m=chance.uniform(0.3, 0.9),
        track_m=None,
        rotating_share=chance.uniform(0.03, 0.12),
    )
    thermal = thermal_from_plate(motor, watts / chance.uniform(120, 500), chance.random() < 0.5)
    guard = None if chance.random() < 0.6 else GuardModel(volts * chance.uniform(0.75, 0.95), chance.uniform(0.5, 6.0))
    return Machine(
        bank=BankModel(tuple(rows)),
        path_ohm=chance.uniform(0.003, 0.03),
        motor=motor,
        motor_count=count,
        motor_wiring="single",
        thermal=thermal,
        control=control,
        vehicle=vehicle,
        guard=guard,
        ambient_c=chance.uniform(0, 35),
        pack_c=chance.uniform(0, 35),
    )


def random_legs(chance: random.Random, machine: Machine) -> list[Leg]:
    """Any course of one to six stretches."""
    pace = float(machine.no_load_speed(machine.source(1.0), machine.motor))
    direct = machine.control.kind == "none"
    found = []
    for _ in range(chance.randint(1, 6)):
        timed = chance.random() < 0.2
        aimed: Any = None if direct or chance.random() < 0.2 else pace * chance.uniform(0.2, 1.0)
        coasts = not direct and chance.random() < 0.12
        found.append(
            Leg(
                length_m=None if timed else chance.uniform(10, 400),
                time_s=chance.uniform(5, 90) if timed else None,
                grade=chance.choice([0.0, 0.0, chance.uniform(-0.08, 0.08)]),
                rolling=float(np.clip(machine.vehicle.rolling_resistance * chance.uniform(0.7, 2.0), 0.01, 0.15)),
                friction=machine.vehicle.friction * chance.uniform(0.6, 1.0),
                aimed_m_s=None if coasts else aimed,
                throttle=1.0 if direct or aimed is not None or coasts else chance.uniform(0.4, 1.0),
                coasts=coasts,
                stop_s=chance.choice([None, None, chance.uniform(0.0, 20.0)]),
            )
        )
    return found
