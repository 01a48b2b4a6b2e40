"""How a setup rides: speeds, launch, laps, ride, heat, limits; each thing computed once and only when asked for."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property, lru_cache

import numpy as np

from gecko.common.figures import SAMPLES, Number
from gecko.document.context import Context
from gecko.document.parts.course import Course, Segment
from gecko.document.parts.pack import Pack
from gecko.document.parts.wire import Lead, size_of
from gecko.document.setup import Bank, Setup
from gecko.machine.contacts import plug_stands_a
from gecko.machine.courses import legs_of
from gecko.machine.resolve import Resolved, resolve
from gecko.physics.electric.bank import BankLimits, Source, bank_limits
from gecko.physics.electric.motor import MotorConstants
from gecko.physics.electric.operating_point import UNDERVOLTAGE, OperatingPoint
from gecko.physics.heat.motor import HeatRun
from gecko.physics.motion.duty import flat_out, flat_out_temperatures, stalled
from gecko.physics.motion.hill import Hill, hill
from gecko.physics.motion.launch import Launch, launch
from gecko.physics.motion.machine import Machine
from gecko.physics.motion.top_speed import SpeedSet, speed_set, top_speed
from gecko.physics.protection.ampacity import decision_row, derated_ampacity_a
from gecko.physics.ride.lap import Lap, stop_and_go_lap
from gecko.physics.ride.legs import Leg
from gecko.physics.ride.moves import COARSE, FINE, Fineness
from gecko.physics.ride.record import WARM_S, Ride
from gecko.physics.ride.rides import ride, steady_ride
from gecko.physics.road.forces import Stop, motor_a_for_force, resistance_n, stop, turn_speeds, wheel_force_n, wheelie_acceleration
from gecko.reference.kinds import Brake

_DUTIES = np.linspace(0.05, 1.0, 39)

LAP_M = 60.0
STAND_S = 8.0
AIMED_SHARE = 0.8
STANDARD = "Standard ride"
"""The ride of a setup without a course: round and round on its own ground and slope, 60 m at 80 % of the half-charge top speed, braking to a
stop and standing for 8 s. Every figure that hangs on a ride is that of this one, on every screen. Source: this project's choice, for stop
and go is what children do, and what asks most of fuse, wire and winding."""


@lru_cache(maxsize=128)
def _ridden(machine: Machine, legs: tuple[Leg, ...], brake_m_s2: float) -> Ride:
    """The ride of one machine, cached by everything it depends on: the evaluation and the plans of one page ask for the same ride. brake_m_s2
    [m/s²]"""
    return ride(machine, legs, brake_m_s2, FINE)


def forget_rides() -> None:
    """Empty the cache of rides, so that a benchmark measures a ride and not a lookup. [1]"""
    _ridden.cache_clear()


Rides = dict[tuple[Machine, tuple[Leg, ...], float, Fineness], Ride]
"""Rides by what they depend on: machine, legs, brakes [m/s²] and the fineness of the steps."""


def ride_every_way(setup: Setup) -> None:
    """Ride a setup in every way there is (alone, as samples, steadily), so that all code a ride needs is compiled before somebody waits for it.
    [1]"""
    alone, drawn = Riding(setup), Riding(setup, samples=True)
    for one in (alone, drawn):
        ride(one.m, one.legs, one.brake_m_s2)
    steady_ride(alone.m, None, 0.0)


@dataclass(frozen=True)
class Wheelie:
    """How near a launch comes to lifting the front wheel: the acceleration that lifts it [m/s²], its ratio to the largest acceleration of the launch
    [1], and the share of the full motor current below which the wheel stays down [1]; None where it always stays down."""

    lifts_m_s2: float
    margin: float
    share: float | None


class Riding:
    """A setup and how it rides. Properties are computed on first use; SI units, as their names say."""

    def __init__(
        self,
        setup: Setup,
        context: Context | None = None,
        *,
        samples: bool = False,
        rides: Rides | None = None,
        count: int = SAMPLES,
    ) -> None:
        """samples: compute `count` samples instead of the central values. rides: rides known already, to which new ones are added."""
        self._rides = rides
        self.setup = setup
        self.context = context or Context()
        self.samples = samples
        self.resolved: Resolved = resolve(setup, samples=samples, count=count)
        self.machine: Machine | None = self.resolved.machine

    @property
    def m(self) -> Machine:
        """The machine; only for use where `machine` is not None."""
        assert self.machine is not None
        return self.machine

    @cached_property
    def motor(self) -> MotorConstants:
        """Motor at ambient."""
        return self.m.motor_cool

    @cached_property
    def full(self) -> Source:
        """Bank at full charge."""
        return self.m.source(1.0)

    @cached_property
    def half(self) -> Source:
        """Bank at half charge."""
        return self.m.source(0.5)

    @cached_property
    def speeds(self) -> SpeedSet:
        """Top speeds on the course's grade, up and down the hill, on the level, and by knob mark."""
        warm_c = () if self.samples else flat_out_temperatures(self.m.ambient_c)
        return speed_set(self.m, self.setup.ground.grade, self.setup.ground.hill_grade, warm_c, self.resolved.mark_duties)

    @cached_property
    def top(self) -> Number:
        """Top speed on the course's grade at full charge. [m/s]"""
        return self._alone(self.setup.ground.grade) if self._asks_for_few else self.speeds.course[0]

    @cached_property
    def level_top(self) -> Number:
        """Top speed on the level at full charge. [m/s]"""
        if self.setup.ground.grade == 0.0:
            return self.top
        return self._alone(0.0) if self._asks_for_few else self.speeds.level[0]

    @property
    def _asks_for_few(self) -> bool:
        """Whether only one or two of the speeds will be asked for, as rules do of samples; those are then solved alone."""
        return self.samples and "speeds" not in self.__dict__

    def _alone(self, grade: float) -> Number:
        return top_speed(self.m, self.full, self.motor, grade)

    @cached_property
    def top_point(self) -> OperatingPoint:
        """Operating point at top speed."""
        return self.m.full(self.full, self.motor, self.top)

    @cached_property
    def launch(self) -> Launch:
        """Launch from rest to 90 % of the level top speed at full charge."""
        return launch(self.m, self.full, self.motor, np.maximum(0.9 * self.level_top, 0.05))

    @cached_property
    def wheelie(self) -> Wheelie | None:
        """How near a launch comes to lifting the front; None unless the rear axle drives. For a single machine."""
        vehicle = self.m.vehicle
        lifts = wheelie_acceleration(vehicle)
        largest = float(np.max(self.launch.acceleration_m_s2))
        if lifts is None or largest <= 0.0:
            return None
        needed = motor_a_for_force(vehicle, self.motor, vehicle.effective_mass_kg * lifts + resistance_n(vehicle, 0.0))
        share = float(needed) / max(float(self.stall_point.motor_a), 1e-9)
        return Wheelie(float(lifts), float(lifts) / largest, share if share < 1.0 and float(lifts) < largest else None)

    @cached_property
    def starts_on(self) -> Hill:
        """The grade at which it cannot start."""
        return hill(self.m, self.full, self.motor, 0.0)

    @cached_property
    def hill(self) -> Hill:
        """Steepest hill at full charge."""
        return hill(self.m, self.full, self.motor, np.minimum(1.2, self.level_top / 2.0))

    @cached_property
    def stall_point(self) -> OperatingPoint:
        """Full throttle at standstill, full charge."""
        return self.m.full(self.full, self.motor, 0.0)

    @cached_property
    def stall_wheel_nm(self) -> Number:
        """Torque of all driven wheels together at full throttle and standstill. [N·m]"""
        push = wheel_force_n(self.m.vehicle, self.motor, self.stall_point.motor_a, standing=True)
        return push * self.m.vehicle.wheel_radius_m

    @cached_property
    def stop(self) -> Stop:
        """Stop from top speed."""
        known = self.resolved
        return stop(self.m.vehicle, self.top, known.brake_m_s2, known.reaction_s, known.braked_axles)

    @property
    def brake_kind(self) -> Brake:
        """The kind of brake in force."""
        vehicle, family = self.setup.vehicle, self.resolved.family
        assert vehicle is not None and family is not None
        return vehicle.brake or family.brake

    @cached_property
    def tip_m_s(self) -> Number | None:
        """Speed at which it tips over in a 3 m turn [m/s]; None on two wheels."""
        return self.turn[0]

    @property
    def brake_m_s2(self) -> float:
        """What its brakes give, grip and pitching over included. [m/s²]"""
        return float(np.mean(self.stop.deceleration_m_s2))

    @property
    def course(self) -> Course:
        """The course it is ridden on: its own, or the standard ride on its ground."""
        # A ground may be steeper than what is taken as a stretch of a course.
        segment = Segment.model_construct(length_m=LAP_M, grade=self.setup.ground.grade, share=AIMED_SHARE, stop_s=STAND_S)
        return self.setup.course or Course.model_construct(name=STANDARD, segments=[segment])

    @cached_property
    def legs(self) -> tuple[Leg, ...]:
        """The legs of its course."""
        return legs_of(self.m, self.course, self.setup.ground, self.resolved.tyre)

    @cached_property
    def lap(self) -> Lap:
        """A lawn lap at half charge."""
        ground = self.setup.ground
        level = top_speed(self.m, self.half, self.motor) if self.samples else self.speeds.level[1]
        steep = self.speeds.course[1] if not self.samples else top_speed(self.m, self.half, self.motor, ground.grade) if ground.grade else level
        aimed = None if self.m.control.kind == "none" else AIMED_SHARE * steep
        return stop_and_go_lap(self.m, self.half, LAP_M, aimed, self.brake_m_s2, STAND_S, top_m_s=level, coarse=self.samples)

    @cached_property
    def ride(self) -> Ride:
        """The course, or the standard ride, until something ends it."""
        fine = COARSE if self.samples else FINE
        if self._rides is None:
            return ride(self.m, self.legs, self.brake_m_s2, fine) if self.samples else _ridden(self.m, self.legs, self.brake_m_s2)
        key = self.m, self.legs, self.brake_m_s2, fine
        if key not in self._rides:
            self._rides[key] = ride(self.m, self.legs, self.brake_m_s2, fine)
        return self._rides[key]

    @property
    def rms_a(self) -> float:
        """RMS pack amps over the hottest ten minutes of the ride. [A]"""
        return float(self.ride.rms_pack_a)

    @cached_property
    def peak_a(self) -> Number:
        """Largest pack amps of a launch. [A]"""
        return np.asarray(self.launch.pack_a.max(axis=0))

    @cached_property
    def folds_back(self) -> bool:
        """Whether the controller's low cut-off limits somewhere on a launch from half charge."""
        if self.m.control.undervoltage_v is None:
            return False
        return bool(np.any(self.m.full(self.half, self.motor, self.launch.speed_m_s).limit == UNDERVOLTAGE))

    @cached_property
    def lowest_v(self) -> Number:
        """Volts at the bank's terminals at the launch's peak, at half charge. [V]"""
        return self.half.volts(self.peak_a)

    @cached_property
    def limits(self) -> BankLimits:
        """Current limits of the bank."""
        return bank_limits(self.m.bank)

    @cached_property
    def course_heat(self) -> HeatRun:
        """Winding, at its hottest from round to round, and case over 20 min of the ride."""
        line = self.ride.line
        until = min(WARM_S, float(self.ride.run_time_s))
        times = np.append(line.time_s[line.time_s < until], until)
        winding, case = (np.interp(times, line.time_s, trace) for trace in (line.winding_c, line.case_c))
        return HeatRun(times, winding, case)

    @property
    def warm_c(self) -> Number:
        """Hottest winding within twenty minutes of the ride, or until it ends where that is sooner. [°C]"""
        return self.ride.warm_c

    @cached_property
    def flat_out(self) -> HeatRun:
        """Winding and case at full throttle on the course's grade, s = 1 held."""
        return flat_out(self.m, self.full, self.setup.ground.grade, WARM_S, speeds_m_s=self.speeds.warm)

    @cached_property
    def stalled(self) -> HeatRun:
        """Winding and case at full throttle, wheels blocked."""
        return stalled(self.m, self.full, 600.0)

    def duty_for(self, speed_m_s: float) -> float | None:
        """Share of full duty at which the top speed is `speed_m_s` [m/s], a little under rather than over; None without a controller,
        and where it does not go so fast. [1]"""
        if self.m.control.kind == "none" or speed_m_s <= 0.0:
            return None
        dialled = replace(self.m, control=replace(self.m.control, duty_max=_DUTIES * (1.0 + self.m.control.extra)))
        speeds = np.maximum.accumulate(np.atleast_1d(top_speed(dialled, self.full, self.motor, self.setup.ground.grade)))
        return float(np.interp(speed_m_s, speeds, _DUTIES)) if speed_m_s < speeds[-1] else None

    @cached_property
    def turn(self) -> tuple[Number | None, Number]:
        """Speeds at which it tips over and slides in a 3 m turn [m/s]; the first None on two wheels."""
        return turn_speeds(self.m.vehicle)

    @property
    def motor_is_brushed(self) -> bool:
        """Whether plain DC turns the motor."""
        return self.setup.motor is not None and not self.setup.motor.brushless

    @property
    def packs(self) -> list[tuple[str, Pack]]:
        """Every pack with its path in the document."""
        bank = self.setup.bank
        if bank is None:
            return []
        return [(f"/bank/rows/{r}/units/{u}", unit) for r, row in enumerate(bank.rows) for u, unit in enumerate(row.units)]

    @property
    def full_v(self) -> float | None:
        """Full-charge volts of the bank. [V]"""
        return bank_full_v(self.setup.bank)

    @property
    def nominal_v(self) -> float | None:
        """Nominal volts of the bank. [V]"""
        bank = self.setup.bank
        return None if bank is None else max(sum(u.nominal_v for u in row.units) for row in bank.rows)

    def lead_row(self, lead: Lead) -> str:
        """Ampacity row in force for a lead: its insulation, or the building-wire school's."""
        return "building" if self.context.house.wire_table == "building" else decision_row(lead.insulation, lead.lugged_ends)

    def lead_stands_a(self, lead: Lead) -> float:
        """Derated ampacity of a lead. [A]"""
        air = self.setup.ground.ambient_c if lead.air_c is None else lead.air_c
        return derated_ampacity_a(size_of(lead), self.lead_row(lead), air, lead.bundle_conductors)

    @property
    def least_part_a(self) -> float | None:
        """Least rating of plugs, cut-off and fuse holder behind the main fuse; None when none is known. [A]"""
        ratings = [plug_stands_a(plug) for plug in self.setup.plugs if plug.place == "main"]
        for switch in (self.setup.cut_off, self.setup.pedal_switch, self.setup.key_switch, self.setup.contactor):
            if switch is not None and switch.rating_a is not None:
                ratings.append(switch.rating_a.value)
        fuse = self.setup.main_fuse
        if fuse is not None and fuse.holder_a is not None:
            ratings.append(fuse.holder_a.value)
        guard = self.setup.guard
        if guard is not None and guard.kind == "module" and guard.rating_a is not None:
            ratings.append(guard.rating_a.value)
        return min(ratings) if ratings else None

    @property
    def bank_limit_a(self) -> float:
        """The controller's bank-side limit; 20 A where nothing is known yet. [A]"""
        limit = self.m.control.battery_limit_a if self.machine is not None else None
        return 20.0 if limit is None else float(np.mean(limit))

    @cached_property
    def strongest(self) -> tuple[Riding, str]:
        """The setup in the strongest mode the rider can choose, and words for it where that is another than the one in use."""
        control = self.setup.controller
        if control is None or not control.modes or control.modes_locked:
            return self, ""
        best = max(control.modes, key=lambda mode: (mode.current, mode.duty))
        used = next((mode for mode in control.modes if mode.name == control.mode), None)
        if used is None or (used.current, used.duty) >= (best.current, best.duty):
            return self, ""
        other = Riding(self.setup.model_copy(update={"controller": control.model_copy(update={"mode": best.name})}), self.context)
        return other, f" in mode {best.name}, which the rider can choose,"

    @cached_property
    def unlimited(self) -> Riding:
        """The setup with the limiter turned right up, in the strongest mode the rider can choose."""
        strongest = self.strongest[0]
        throttle = strongest.setup.throttle
        if throttle is None or throttle.limiter_mark is None:
            return strongest
        return Riding(strongest.setup.model_copy(update={"throttle": throttle.model_copy(update={"limiter_mark": None})}), self.context)

    @cached_property
    def hardest(self) -> Riding:
        """The setup as hard as its rider can drive it: the strongest mode he can choose, and no limiter unless it is known to be out of reach."""
        throttle = self.setup.throttle
        return self.strongest[0] if throttle is not None and throttle.limiter_reachable is False else self.unlimited

    @cached_property
    def reachable_a(self) -> float | None:
        """Amps the bank can be asked for as long as somebody climbs with the throttle open; None without a controller. [A]

        The label's limits, or less where motor and packs cannot draw so much at any speed, in whatever mode and mark the rider can choose.
        """
        own = self.hardest
        control = own.m.control
        if control.kind == "none":
            return None
        drawn = own.m.full(own.full, own.motor, np.linspace(0.0, max(float(own.level_top), 0.05), 40)).pack_a
        held = [limit for limit in (control.battery_limit_a, control.phase_limit_a) if limit is not None]
        return min([float(np.max(drawn)), *(float(np.mean(limit)) for limit in held)])

    @cached_property
    def reachable_motor_a(self) -> float | None:
        """The same of the motor's amps: those of a wheel that is held. None without a controller. [A]"""
        return None if self.m.control.kind == "none" else float(self.hardest.stall_point.motor_a)

    @cached_property
    def motor_rms_a(self) -> float:
        """RMS amps of all motors together over the hottest ten minutes of the ride. [A]"""
        return float(self.ride.rms_motor_a)


def bank_full_v(bank: Bank | None) -> float | None:
    """Full-charge volts of a bank: its fullest row. [V]"""
    return None if bank is None else max(row.full_v for row in bank.rows)
