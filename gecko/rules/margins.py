"""How far each limit is passed: what is asked against what stands, in one unit, larger asked always being worse.

Plain sums over floats or arrays that broadcast, apart from the words of a finding and from its fixes: a thousand candidates are judged by the
same line as the one machine that is looked at. Each names the quantity its rule weighs; the rule says when it speaks.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from gecko.common.constants import SHOCK_VOLTS_V
from gecko.common.figures import Array, Mask, Number
from gecko.physics.heat.motor import WINDING_STOP_C
from gecko.physics.road.chain import ALLOWABLE_SHARE


@dataclass(frozen=True, kw_only=True)
class Margin:
    """What is asked and what stands [unit]; so many times what stands is let pass."""

    asked: Number
    stands: Number
    unit: str = ""
    passes: Number = 1.0

    @property
    def over(self) -> Mask:
        """Whether more is asked than passes."""
        return np.asarray(self.asked > np.multiply(self.passes, self.stands))

    def beyond(self, factor: float) -> bool:
        """Whether one machine is asked for more than so many times what stands. [1]"""
        return bool(np.all(self.asked > factor * np.asarray(self.stands)))


FORBIDDEN = Margin(asked=1.0, stands=0.0)
"""Where there is nothing to measure: one is there where none may be."""


def counted(there: Number) -> Margin:
    """So many of what may not be there at all. [1]"""
    return Margin(asked=there, stands=0.0)


def drawn_without_protection(short_a: Number) -> Margin:
    """Amps a dead short would draw [A] where no fuse stands before it: none may flow."""
    return Margin(asked=short_a, stands=0.0, unit="A")


# ---- volts

CHILD_SHOCK_V = 75.0
"""From this on volts on a child's machine are a stop. [V] Source: from 75 V DC on the European directive on low voltage, 2014/35/EU, applies."""
BOARD_V_SHARE = 1.05
"""A board bears so many times the volts it was built for. [1] Source: this project's planning value: a full charge above the label."""
OVER_FULL = 1.02
"""Resting volts over full charge by more than a good meter is off. [1] Source: this project's planning value. Lead rests below its charging volts anyhow."""
ABOVE_RATED = 1.25
"""An accessory stands so many times its rated volts. [1] Source: vehicle lamps of 12 V run on 13 to 15 V; this project's planning value."""
COIL_SHARE = 0.15
"""A brake's coil lets go on volts up to this far from its own. [1] Source: this project's planning value."""
SLACK = {"lead": 0.03, "li-ion": 0.01, "lfp": 0.01, "nickel": 0.08}
"""A charger may end so far from its pack's full volts. [1] Source: this project's planning value: a lithium cell is hurt from 4.24 V on, one
part in a hundred over its 4.20 V; lead blocks are charged to 14.2 to 14.8 V; a nickel charger ends by the bend in the
volts, somewhere between 1.40 and 1.55 V a cell, by amps and warmth."""


def controller_volts(full_v: Number, stands_v: Number) -> Margin:
    """Volts of the fully charged bank against those a controller stands. [V]"""
    return Margin(asked=full_v, stands=stands_v, unit="V")


def low_cut_off(nominal_v: Number, cut_off_v: Number) -> Margin:
    """Volts a controller wants before it works against the bank's nominal ones. [V]"""
    return Margin(asked=cut_off_v, stands=nominal_v, unit="V")


def board_volts(nominal_v: Number, stock_v: Number) -> Margin:
    """The bank's nominal volts against those a stock circuit board was built for. [V]"""
    return Margin(asked=nominal_v, stands=stock_v, unit="V", passes=BOARD_V_SHARE)


def motor_volts(nominal_v: Number, plate_v: Number, limit: Number, in_series: int = 1) -> Margin:
    """The bank's nominal volts against so many times (limit [1]) the plate's of motors in series. [V]"""
    return Margin(asked=nominal_v, stands=limit * plate_v * in_series, unit="V")


def touched_volts(full_v: Number, child: bool) -> Margin:
    """Volts of the fully charged bank against those a touch bears. [V]"""
    return Margin(asked=full_v, stands=CHILD_SHOCK_V if child else SHOCK_VOLTS_V, unit="V")


def boards_in_series(row_full_v: Number, board_v: Number) -> Margin:
    """Volts of a full row against those the switches of one of its boards stand when it opens. [V]"""
    return Margin(asked=row_full_v, stands=board_v, unit="V")


def unguarded_volts(floor_v: Number) -> Margin:
    """Volts below which cells are spoiled [V] against nothing that would stop there."""
    return Margin(asked=floor_v, stands=0.0, unit="V")


def spent_volts(resting_v: Number, least_v: Number) -> Margin:
    """Least volts of a pack that lives against those it rests at. [V]"""
    return Margin(asked=least_v, stands=resting_v, unit="V")


def overcharged_volts(resting_v: Number, full_v: Number) -> Margin:
    """Volts a pack rests at against those of full charge. [V]"""
    return Margin(asked=resting_v, stands=full_v, unit="V", passes=OVER_FULL)


def fuse_volts(full_v: Number, fuse_v: Number, holder_v: Number = np.inf) -> Margin:
    """Volts of the fully charged bank against the DC volts of a fuse, or of its holder where that is the weak one. [V]"""
    return Margin(asked=full_v, stands=_as_number(np.where(np.less(fuse_v, full_v), fuse_v, holder_v)), unit="V")


def switch_volts(full_v: Number, switch_v: Number) -> Margin:
    """Volts of the fully charged bank against the DC volts a switch breaks. [V]"""
    return Margin(asked=full_v, stands=switch_v, unit="V")


def charger_volts(end_v: Number, full_v: Number, slack: Number) -> Margin:
    """Volts a charger ends at against its pack's full ones, the higher of both as asked: too little is as far off as too much. slack [1]"""
    return Margin(
        asked=_as_number(np.maximum(end_v, full_v)),
        stands=_as_number(np.minimum(end_v, full_v)),
        unit="V",
        passes=_as_number(np.where(np.greater(end_v, full_v), 1.0 + slack, 1.0 / (1.0 - slack))),
    )


def coil_volts(fed_v: Number, coil_v: Number) -> Margin:
    """Volts a brake's coil is fed with against those it is made for, the higher of both as asked. [V]"""
    passes = np.where(np.greater(fed_v, coil_v), 1.0 + COIL_SHARE, 1.0 / (1.0 - COIL_SHARE))
    return Margin(asked=_as_number(np.maximum(fed_v, coil_v)), stands=_as_number(np.minimum(fed_v, coil_v)), unit="V", passes=_as_number(passes))


def converter_volts(full_v: Number, input_max_v: Number) -> Margin:
    """Volts of the fully charged bank against those a converter takes. [V]"""
    return Margin(asked=full_v, stands=input_max_v, unit="V")


def accessory_volts(gets_v: Number, rated_v: Number) -> Margin:
    """Volts an accessory gets against those printed on it. [V]"""
    return Margin(asked=gets_v, stands=rated_v, unit="V", passes=ABOVE_RATED)


# ---- amps

PEDAL_SWITCH_SHARE = 2.0
"""A pedal switch survives so many times its rating in a stall. [1] Source: this project's planning value: it carries that for seconds and
does not break it."""


def pack_amps(asked_a: Number, stated_a: Number) -> Margin:
    """Amps a row is asked for against those its packs state, for the peak of a launch or for long. [A]"""
    return Margin(asked=asked_a, stands=stated_a, unit="A")


def trip_amps(bank_a: Number, row_share: Number, trips_a: Number) -> Margin:
    """Amps of the whole bank against those at which its first row trips: that row's trip over its share [1] of the bank. [A]"""
    return Margin(asked=bank_a, stands=trips_a / _as_number(np.maximum(row_share, 1e-9)), unit="A")


def rush_amps(rush_a: Number, allowed_a: Number) -> Margin:
    """Amps that rush into a row as it is joined against those it may be charged with. [A]"""
    return Margin(asked=rush_a, stands=allowed_a, unit="A")


def regenerated_amps(back_a: Number, takes_a: Number) -> Margin:
    """Amps that braking pushes back against those the packs may be charged with. [A]"""
    return Margin(asked=back_a, stands=takes_a, unit="A")


def charging_amps(each_a: Number, allowed_a: Number) -> Margin:
    """Amps a charger pushes into one pack against those it stands. [A]"""
    return Margin(asked=each_a, stands=allowed_a, unit="A")


def stalled_switch_amps(stall_a: Number, rated_a: Number) -> Margin:
    """Amps of a blocked wheel against those a pedal switch survives. [A]"""
    return Margin(asked=stall_a, stands=PEDAL_SWITCH_SHARE * rated_a, unit="A")


def part_amps(fuse_a: Number, weakest_a: Number) -> Margin:
    """A fuse's rating against that of the weakest plug, switch or holder behind it. [A]"""
    return Margin(asked=fuse_a, stands=weakest_a, unit="A")


def breaking_amps(short_a: Number, breaks_a: Number) -> Margin:
    """Amps of a dead short right behind a fuse against those it breaks. [A]"""
    return Margin(asked=short_a, stands=breaks_a, unit="A")


def lead_amps(asked_a: Number, ampacity_a: Number) -> Margin:
    """Amps that flow, or that a fuse or controller lets flow, against those a lead stands in its bundle and air. [A]"""
    return Margin(asked=asked_a, stands=ampacity_a, unit="A")


def lead_withstand(i2t_share: Number) -> Margin:
    """Energy a fuse lets through in a short as share of what the lead withstands. [1]"""
    return Margin(asked=i2t_share, stands=1.0)


def plug_amps(asked_a: Number, rated_a: Number) -> Margin:
    """Amps through a plug against those it stands. [A]"""
    return Margin(asked=asked_a, stands=rated_a, unit="A")


def switch_amps(asked_a: Number, rated_a: Number) -> Margin:
    """Amps a switch must break against those it is made for. [A]"""
    return Margin(asked=asked_a, stands=rated_a, unit="A")


def converter_amps(asked_a: Number, gives_a: Number) -> Margin:
    """Amps accessories ask of a converter against those it gives. [A]"""
    return Margin(asked=asked_a, stands=gives_a, unit="A")


# ---- packs beside each other, cold and loose

UNLIKE_V_PER_CELL = 0.05
"""Resting volts of packs in one row may differ by so much a cell; about a tenth of their charge. [V] Source: this project's planning value."""
UNLIKE_CHARGE = 0.15
"""The same as a share of the charge. [1]"""
HELD_KG = 2.0
"""Up to this a pack that comes loose is a nuisance; heavier, it is a missile. [kg] Source: this project's planning value."""


def unlike_capacity(packs_ah: Array) -> Margin:
    """The largest pack of a row against its smallest, over the first axis. [Ah]"""
    return Margin(asked=_as_number(np.max(packs_ah, axis=0)), stands=_as_number(np.min(packs_ah, axis=0)), unit="Ah")


def unlike_volts(apart_v: Number) -> Margin:
    """Resting volts a cell by which packs of one row differ. [V]"""
    return Margin(asked=apart_v, stands=UNLIKE_V_PER_CELL, unit="V")


def unlike_charge(apart: Number) -> Margin:
    """Share of their charge by which packs of one row differ. [1]"""
    return Margin(asked=apart, stands=UNLIKE_CHARGE)


def frozen(temp_c: Number) -> Margin:
    """Degrees below freezing [K] at which lithium packs would be charged, from their temperature. [°C]"""
    return Margin(asked=-temp_c, stands=0.0, unit="K")


def loose_kg(heaviest_kg: Number) -> Margin:
    """The heaviest pack that nothing sure holds. [kg]"""
    return Margin(asked=heaviest_kg, stands=HELD_KG, unit="kg")


def packs_in_string(longest: Number) -> Margin:
    """Packs in series that are charged through their two ends against one. [1]"""
    return Margin(asked=longest, stands=1.0)


def nickel_in_a_row(cells: Number, stands: Number) -> Margin:
    """Nickel cells in a row without a low cut-off against so many (stands). [1]"""
    return Margin(asked=cells, stands=stands)


def rows_at_once(rows: Number) -> Margin:
    """Rows a charger feeds at once against one. [1]"""
    return Margin(asked=rows, stands=1.0)


# ---- motor and gearing

GEAR_SHARE = 2.5
"""Plastic gears stand so many times their stock stall torque. [1] Source: this project's planning value."""


def winding_rise(winding_c: Number, air_c: Number) -> Margin:
    """Rise of the winding over the air [K] against that at which its insulation ends; both temperatures in °C."""
    return Margin(asked=winding_c - air_c, stands=WINDING_STOP_C - air_c, unit="K")


def slope(drag: Number, grade: Number, starts_on: Number) -> Margin:
    """Rolling resistance and slope to be climbed against what the machine starts on, as shares of its weight. [1]"""
    return Margin(asked=drag + _as_number(np.maximum(grade, 0.0)), stands=_as_number(np.maximum(drag + starts_on, 1e-3)))


def gear_torque(stall_nm: Number, stock_nm: Number) -> Margin:
    """Torque at the wheels at standstill against what plastic gears stand. [N·m]"""
    return Margin(asked=stall_nm, stands=GEAR_SHARE * stock_nm, unit="N·m")


def chain_pull(stall_nm: Number, sprocket_radius_m: Number, tensile_n: Number) -> Margin:
    """Pull on a chain as the machine pulls away, from the torque at the wheel [N·m] and its sprocket's radius [m], against what it takes in use. [N]"""
    return Margin(asked=stall_nm / sprocket_radius_m, stands=ALLOWABLE_SHARE * tensile_n, unit="N")


# ---- rider and ground

CAP_SHARE = 1.005
"""A speed is over its cap from half a percent on: a marking on a knob is no finer. [1]"""
STOP_SHARE = 2.5
"""So many times the stock stopping distance is too much. [1] Source: this project's planning value."""
LOAD_SHARE = 1.15
"""So far over the maker's load limit is a stop. [1] Source: this project's planning value: a winter coat and a bag are less."""


def top_speed(top_m_s: Number, cap_m_s: Number) -> Margin:
    """Top speed against a rider's cap. [m/s]"""
    return Margin(asked=top_m_s, stands=cap_m_s, unit="m/s", passes=CAP_SHARE)


def own_cap(own_m_s: Number, table_m_s: Number) -> Margin:
    """A cap of one's own against the table's. [m/s]"""
    return Margin(asked=own_m_s, stands=table_m_s, unit="m/s")


def least_age(age_years: Number, least_years: Number) -> Margin:
    """The maker's least age against the rider's. [years]"""
    return Margin(asked=least_years, stands=age_years, unit="years")


def seats(aboard: Number, seats: Number) -> Margin:
    """Riders against seats. [1]"""
    return Margin(asked=aboard, stands=seats)


def launch(share: Number, lifts_m_s2: Number) -> Margin:
    """Acceleration of a launch, given as share [1] of the one that lifts the front, against that one. [m/s²]"""
    return Margin(asked=share * lifts_m_s2, stands=lifts_m_s2, unit="m/s²")


def stopping_distance(distance_m: Number, stock_m: Number) -> Margin:
    """Distance to stand from top speed against what is borne of the stock one. [m]"""
    return Margin(asked=distance_m, stands=STOP_SHARE * stock_m, unit="m")


def brake_energy(mass_kg: Number, speed_m_s: Number, takes_j: Number) -> Margin:
    """Energy of motion, m·v²/2 (any mechanics textbook), against what a brake takes up in one stop. [J]"""
    return Margin(asked=0.5 * mass_kg * _as_number(np.square(speed_m_s)), stands=takes_j, unit="J")


def tyre_speed(top_m_s: Number, tyre_m_s: Number) -> Margin:
    """Top speed against that to which tyres of a kind steer and brake. [m/s]"""
    return Margin(asked=top_m_s, stands=tyre_m_s, unit="m/s")


def turn_speed(share: Number, tips_m_s: Number) -> Margin:
    """Top speed, given as share [1] of the one at which a turn tips it, against that one. [m/s]"""
    return Margin(asked=share * tips_m_s, stands=tips_m_s, unit="m/s")


def load(load_kg: Number, limit_kg: Number) -> Margin:
    """Riders and what was added against the maker's load limit. [kg]"""
    return Margin(asked=load_kg, stands=limit_kg, unit="kg")


def _as_number(values: Array) -> Number:
    """A plain float where only one machine is looked at."""
    return values if np.ndim(values) else float(values)
