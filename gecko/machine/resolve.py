"""From a Setup document to a machine as numbers: every gap filled with a typical figure, and said so."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from gecko.common.documents import Document
from gecko.common.figures import SAMPLES, Figure, Number, Sampler
from gecko.common.words import q
from gecko.document.parts.bounds import said, unit_of
from gecko.document.parts.controller import MOTOR_SIDE_RATIO, MOTOR_SIDE_SPREAD, usual_limit_a
from gecko.document.parts.motor import Motor
from gecko.document.parts.pack import Pack, adapter_ohm, as_kind, capacity_figure, held_factor, resistance_figure
from gecko.document.parts.plug import Plug, Switch
from gecko.document.parts.rider import Rider
from gecko.document.parts.vehicle import Vehicle
from gecko.document.parts.wire import Lead
from gecko.document.setup import Row, Setup
from gecko.machine.caps import CHILD_YEARS, Cap, age_to_carry, cap_of
from gecko.machine.carried import exchanged_kg
from gecko.machine.contacts import contact_figure
from gecko.machine.weight import RIDER_OVER_MACHINE_M, SEAT_SHARE, STANDING_M, Centre, Mass, ahead_by_axles, centre_of
from gecko.physics.electric.bank import BankModel, RowModel, Unit
from gecko.physics.electric.motor import COPPER_SHARE, EFFICIENCY, MotorConstants, combine, default_mass_kg, from_nameplate, power_from_resistance
from gecko.physics.electric.operating_point import DIRECT, ControllerModel
from gecko.physics.electric.path import fuse_ohm
from gecko.physics.heat.motor import thermal_from_plate
from gecko.physics.motion.knob import LEAST_DUTY, KnobMap, fit_knob
from gecko.physics.motion.machine import GuardModel, Machine
from gecko.physics.motion.top_speed import KNOBS
from gecko.physics.road.forces import VehicleModel
from gecko.reference.kinds import Brake, DriveKind, Tyre
from gecko.reference.tables import FamilyDefaults, families, surface, typical_mass_kg

GEAR_EFFICIENCY: dict[DriveKind, float] = {
    "hub": 1.0,
    "chain": 0.95,
    "plastic gearbox": 0.75,
    "differential": 0.88,
    "worm transaxle": 0.65,
}
"""Efficiency of the gearing [1]. Source: this project's planning values."""

BRAKE_M_S2: dict[Brake, float] = {"gearbox drag": 1.2, "drum or band": 2.5, "rim": 3.5, "disc": 5.0}
"""Deceleration a brake gives on dry ground [m/s²]. Source: this project's planning values."""

SWITCHES = ("cut_off", "key_switch", "contactor", "pedal_switch")
"""Everything in the main path that a hand, a key or a coil opens, by its field."""

SWITCH_OHM = 0.006
GUARD_OHM = 0.002
"""Resistance of a closed switch and of a guard module when unknown [Ω]."""


@dataclass(frozen=True)
class Gap:
    """Something the setup does not say: `path` (JSON Pointer), a plain sentence, and whether it stops the computation."""

    path: str
    message: str
    kind: Literal["missing", "assumed"]
    value: float | None = None
    """What was assumed, in `unit`."""
    unit: str = ""


@dataclass
class Resolved:
    """A setup as numbers. `machine` is None while something essential is missing."""

    setup: Setup
    machine: Machine | None
    gaps: list[Gap]
    figures: dict[str, Figure] = field(default_factory=dict)
    rider_mass_kg: float = 75.0
    cap: Cap | None = None
    brake_m_s2: float = 2.5
    braked_axles: str = "rear"
    reaction_s: float = 1.0
    family: FamilyDefaults | None = None
    motor: Motor | None = None
    total_mass_kg: float = 0.0
    motor_each: MotorConstants | None = None
    """One motor, before wiring."""
    tyre: Tyre = "pneumatic"
    knob: KnobMap = field(default_factory=KnobMap)
    drawn: dict[str, NDArray[np.float64]] = field(default_factory=dict)
    """Samples of each figure by its place, when samples were asked for."""
    unlimited_duty: float = 1.0
    """Share of full duty the speed mode allows, before any limiter. [1]"""
    row_kinds: tuple[int, ...] = ()
    """Which row of the bank's model each row of the document is: like rows are one."""

    @property
    def cap_m_s(self) -> float | None:
        """The rider's cap. [m/s]"""
        return None if self.cap is None else self.cap.speed_m_s

    @property
    def mark_duties(self) -> Number:
        """Share of full duty at each mark of the knob the speeds are told for, in the mode in use. [1] Samples last."""
        return np.maximum(np.stack([self.knob.duty(mark) for mark in KNOBS.tolist()]) * self.unlimited_duty, LEAST_DUTY)


def assumed(value: float) -> Figure:
    """A figure with basis assumed."""
    return Figure(value=value, basis="assumed")


def rider_kg(rider: Rider | None, family: str | None) -> float:
    """Mass of a rider: entered, else typical of the age, else of the heaviest who is likely on such a machine. [kg]"""
    if rider is not None and rider.mass_kg is not None:
        return float(rider.mass_kg.value)
    return typical_mass_kg(age_to_carry(rider, family))


LEAST_FRAME = 0.4
"""A machine without its packs weighs at least this share of what it weighs with them. [1] Source: this project's planning value."""

LEAST_MACHINE_KG = 3.0
"""No machine weighs less without its rider. [kg]"""
AHEAD_SHARES = (0.02, 0.9)
"""The weight sits between these shares of the wheelbase ahead of the rear axle: what lies beyond falls over at a standstill. [1]"""


def resolve(setup: Setup, *, samples: bool = False, seed: int = 20260101, count: int = SAMPLES) -> Resolved:
    """Resolve a setup at its central values, or as so many samples drawn in a fixed order (same setup, same answer)."""
    return _Resolver(setup, Sampler(count if samples else None, seed)).run()


class _Resolver:
    def __init__(self, setup: Setup, sampler: Sampler) -> None:
        self.setup, self.sampler = setup, sampler
        # Figures without a field have draws of their own, so that they do not shift the draws of the others.
        self.apart = Sampler(sampler.count, seed=20260102)
        self.gaps: list[Gap] = []
        self.figures: dict[str, Figure] = {}
        self.drawn: dict[str, NDArray[np.float64]] = {}

    def missing(self, path: str, message: str) -> None:
        self.gaps.append(Gap(path, message, "missing"))

    def figure(self, path: str, given: Figure | None, typical: float | None, words: str, spread: float | None = None) -> Figure:
        """The figure that was given, else the typical one, which is noted as a gap that was filled. spread: of the typical one, where it differs from
        the usual."""
        if given is None:
            assert typical is not None
            given = Figure(value=typical, basis="assumed", spread=spread)
            self.filled(path, words, typical)
        self.figures[path] = given
        return given

    def filled(self, path: str, words: str, typical: float) -> None:
        """Note that a figure was assumed; told with no more digits than it deserves."""
        field = path.rsplit("/", 1)[1]
        near = float(f"{typical:.3g}")
        self.gaps.append(Gap(path, f"{words} not entered: {said(field, near)} assumed.", "assumed", near, unit_of(field)))

    def draw(self, path: str, given: Figure | None, typical: float | None, words: str) -> Number:
        return self.noted(path, self.sampler.draw(self.figure(path, given, typical, words)))

    def efficiency(self, path: str, given: Figure | None, typical: float, words: str) -> Number:
        return self.noted(path, self.sampler.draw_efficiency(self.figure(path, given, typical, words)))

    def noted(self, path: str, value: Number) -> Number:
        """A drawn value, kept under its path when it is samples."""
        if np.ndim(value) > 0:
            self.drawn[path] = np.asarray(value)
        return value

    def run(self) -> Resolved:
        setup = self.setup
        family = families()[setup.vehicle.family] if setup.vehicle else None
        rider_kg = self.rider()
        tyre = setup.wheel.tyre if setup.wheel else family.tyre if family else "pneumatic"
        cap = cap_of(setup.rider, setup.vehicle, family, tyre)
        result = Resolved(setup, None, self.gaps, self.figures, float(np.mean(rider_kg)), cap, family=family, tyre=tyre, drawn=self.drawn)
        bank, result.row_kinds = self.bank()
        path = self.path()
        motor = self.motor()
        control = self.controller(motor)
        if setup.vehicle is None or family is None:
            self.missing("/vehicle", "Choose the kind of machine to get speed and run time.")
            return result
        vehicle, brake = self.vehicle(family, rider_kg)
        result.motor = motor
        result.brake_m_s2 = BRAKE_M_S2[brake]
        result.braked_axles = setup.vehicle.braked_axles
        result.reaction_s = 1.5 if setup.rider and setup.rider.age_years is not None and setup.rider.age_years < 8 else 1.0
        result.total_mass_kg = float(np.mean(vehicle.mass_kg))
        if bank is None or control is None or motor is None:
            return result
        each = self.motor_constants(motor, family, vehicle.gear_ratio, control.efficiency)
        result.motor_each = each
        mass = self.draw("/motor/mass_kg", motor.mass_kg, float(default_mass_kg(motor.kind, self.figures["/motor/power_w"].value)), "Motor mass")
        guard = setup.guard
        guard_model = None
        if guard is not None and guard.kind == "module":
            delay = guard.delay_s.value if guard.delay_s else 2.0
            guard_model = GuardModel(guard.volts_v.value, delay)
        ground = setup.ground
        result.machine = Machine(
            bank=bank,
            path_ohm=path,
            motor=replace(combine(each, motor.count, motor.wiring), lead_ohm=self.motor_lead()),
            motor_count=motor.count,
            motor_wiring=motor.wiring,
            thermal=thermal_from_plate(each, mass, family.open_airflow),
            control=control,
            vehicle=vehicle,
            guard=guard_model,
            ambient_c=ground.ambient_c,
            pack_c=ground.ambient_c if ground.pack_c is None else ground.pack_c,
        )
        self.knob(result, result.machine)
        return result

    def knob(self, result: Resolved, machine: Machine) -> None:
        """Set the limiter: its mark through the knob's scale, times what the speed mode allows."""
        throttle = self.setup.throttle
        result.unlimited_duty = float(machine.control.duty_max)
        if machine.control.kind == "none" or throttle is None:
            return
        if throttle.knob:
            points = [(point.mark, self.sampler.draw(point.speed_m_s)) for point in throttle.knob]
            result.knob = fit_knob(machine, points)
        if throttle.limiter_mark is not None:
            duty = np.maximum(result.knob.duty(throttle.limiter_mark) * machine.control.duty_max, LEAST_DUTY)
            result.machine = replace(machine, control=replace(machine.control, duty_max=float(duty) if np.ndim(duty) == 0 else duty))

    def rider(self) -> Number:
        """Mass of who rides, and of who rides along. [kg]"""
        rider, passenger = self.setup.rider, self.setup.passenger
        family = self.setup.vehicle.family if self.setup.vehicle else None
        mass = typical_mass_kg(age_to_carry(rider, family))
        if rider is None:
            self.gaps.append(Gap("/rider", f"No rider entered: the heaviest likely one is carried, {q(mass, 'mass')}.", "assumed", mass, "kg"))
        drawn = self.draw("/rider/mass_kg", rider.mass_kg if rider else None, mass, "Rider's mass")
        if passenger is not None:
            drawn = drawn + self.draw("/passenger/mass_kg", passenger.mass_kg, typical_mass_kg(age_to_carry(passenger, family)), "Passenger's mass")
        return drawn

    def bank(self) -> tuple[BankModel | None, tuple[int, ...]]:
        if self.setup.bank is None:
            self.missing("/bank", "Add the packs: nothing electrical can be computed without them.")
            return None, ()
        which = []
        rows: list[tuple[object, RowModel]] = []
        for r, row in enumerate(self.setup.bank.rows):
            kinds = [as_kind(unit) for unit in row.units]
            kind = [*((name, value) for name, value in row if name != "units"), *kinds]
            for i, (seen, model) in enumerate(rows):
                if seen == kind:
                    rows[i] = (seen, RowModel(model.units, model.parallel_count + 1, model.lead_ohm))
                    which.append(i)
                    break
            else:
                which.append(len(rows))
                rows.append((kind, self.row(r, row, kinds)))
        return BankModel(tuple(model for _, model in rows)), tuple(which)

    def row(self, r: int, row: Row, kinds: list[Document]) -> RowModel:
        """A row whose packs are of these kinds: neighbours that are alike are one group."""
        groups: list[tuple[Pack, int, int]] = []
        for u, unit in enumerate(row.units):
            if groups and kinds[groups[-1][1]] == kinds[u]:
                groups[-1] = (groups[-1][0], groups[-1][1], groups[-1][2] + 1)
            else:
                groups.append((unit, u, 1))
        place = f"/bank/rows/{r}"
        ohm: Number = self.lead_ohm(f"{place}/lead", row.lead) + self.lead_ohm(f"{place}/link", row.link)
        ohm = ohm + sum(adapter_ohm(unit) for unit in row.units)
        for i, plug in enumerate(row.plugs):
            ohm = ohm + plug.poles * self.plug_ohm(f"{place}/plugs/{i}", plug)
        if row.fuse is not None:
            ohm = ohm + fuse_ohm(row.fuse.rating_a)
        return RowModel(tuple(self.unit(f"/bank/rows/{r}/units/{u}", pack, n) for pack, u, n in groups), 1, ohm)

    def lead_ohm(self, path: str, lead: Lead | None) -> Number:
        """Resistance of a lead out and back, none without a lead. [Ω]"""
        if lead is None:
            return 0.0
        return 2.0 * self.draw(f"{path}/length_m", lead.length_m, None, "Lead length") * lead.ohm_per_m

    def unit(self, path: str, pack: Pack, count: int) -> Unit:
        capacity = self.draw(f"{path}/capacity_ah", capacity_figure(pack), None, "Capacity")
        resistance = resistance_figure(pack)
        if pack.resistance_ohm is None:
            self.filled(f"{path}/resistance_ohm", "Pack resistance", resistance.value)
        self.figures[f"{path}/resistance_ohm"] = resistance
        more, seconds = held_factor(pack)
        grows = 1.0 + self.apart.draw(more)
        usual = pack.usual_cut_off
        low: Number | None = pack.low_cut_off_v
        if usual is not None:
            self.filled(f"{path}/protection_low_v", "Its board's low cut-off", usual.value)
            self.figures[f"{path}/protection_low_v"] = usual
            low = self.noted(f"{path}/protection_low_v", self.apart.draw(usual))
        return Unit(
            chemistry=pack.chemistry,
            cells_in_series=pack.cells_in_series,
            capacity_ah=capacity,
            resistance_ohm=self.noted(f"{path}/resistance_ohm", self.sampler.draw(resistance)),
            series_count=count,
            peukert_exponent=pack.peukert_exponent.value if pack.peukert_exponent else None,
            continuous_a=pack.continuous_a.value if pack.continuous_a else None,
            peak_10s_a=pack.peak_10s_a.value if pack.peak_10s_a else None,
            trip_a=pack.trips_a,
            trip_delay_s=pack.trip_delay_s.value if pack.trip_delay_s else 1.0,
            protection_low_v=low,
            temp_c=pack.temp_c,
            grows=grows,
            grows_s=seconds,
        )

    def path(self) -> Number:
        setup = self.setup
        total: Number = self.lead_ohm("/main_lead", setup.main_lead)
        if setup.main_lead is None:
            self.missing("/main_lead", "Enter the main lead's gauge and length: its loss and its fuse depend on them.")
        total = total + self.lead_ohm("/controller_lead", setup.controller_lead)
        total = total + self.plugs_ohm("main")
        if setup.main_fuse is not None:
            total = total + fuse_ohm(setup.main_fuse.rating_a)
        for name in SWITCHES:
            switch: Switch | None = getattr(setup, name)
            if switch is not None:
                total = total + self.draw(f"/{name}/resistance_ohm", switch.resistance_ohm, SWITCH_OHM, "Switch resistance")
        if setup.guard is not None and setup.guard.kind == "module":
            total = total + self.draw("/guard/resistance_ohm", setup.guard.resistance_ohm, GUARD_OHM, "Guard resistance")
        return total

    def plugs_ohm(self, place: str) -> Number:
        total: Number = 0.0
        for i, plug in enumerate(self.setup.plugs):
            if plug.place == place:
                total = total + plug.poles * self.plug_ohm(f"/plugs/{i}", plug)
        return total

    def plug_ohm(self, path: str, plug: Plug) -> Number:
        figure = contact_figure(plug)
        self.figures[f"{path}/resistance_ohm"] = figure
        return self.noted(f"{path}/resistance_ohm", self.sampler.draw(figure))

    def motor_lead(self) -> Number:
        """Leads and plugs between controller and motor, out and back. [Ω]"""
        return self.lead_ohm("/motor_lead", self.setup.motor_lead) + self.plugs_ohm("motor")

    def motor(self) -> Motor | None:
        motor = self.setup.motor
        if motor is None:
            self.missing("/motor", "Enter the motor's plate: volts, watts and a speed.")
            return None
        return motor

    def motor_constants(self, motor: Motor, family: FamilyDefaults, ratio: Number, controller_efficiency: Number) -> MotorConstants:
        """From whatever the label gives. Of several speeds the one known best counts; what was measured beats what it suggests."""
        typical = family if family.motor == motor.kind else None
        volts = self.draw("/motor/volts_v", motor.volts_v, family.volts_v, "Motor volts")
        efficiency = self.efficiency("/motor/efficiency", motor.efficiency, EFFICIENCY[motor.kind], "Motor efficiency")
        measured: dict[str, Number] = {}
        if motor.resistance_ohm is not None:
            measured["resistance_ohm"] = self.draw("/motor/resistance_ohm", motor.resistance_ohm, None, "Motor resistance")
        elif motor.stall_a is not None:
            measured["resistance_ohm"] = volts / self.draw("/motor/stall_a", motor.stall_a, None, "Stall amps")
        if motor.no_load_a is not None:
            measured["no_load_a"] = self.draw("/motor/no_load_a", motor.no_load_a, None, "No-load amps")
        if motor.power_w is None and measured.get("resistance_ohm") is not None:
            power = power_from_resistance(volts, measured["resistance_ohm"], efficiency, COPPER_SHARE[motor.kind])
            self.figures["/motor/power_w"] = assumed(float(np.mean(power)))
        else:
            power = self.draw("/motor/power_w", motor.power_w, typical.power_w if typical else 250.0, "Motor watts")
        speeds: dict[str, Number] = {}
        known = {name: getattr(motor, name) for name in ("speed_rpm", "no_load_rpm", "kv_rpm_per_v", "stand_wheel_rpm")}
        given = {name: figure for name, figure in known.items() if figure is not None}
        if given:
            name = min(given, key=lambda name: given[name].sigma)
            read = self.draw(f"/motor/{name}", given[name], None, "Motor speed")
            if name == "stand_wheel_rpm":
                at_v = volts if motor.stand_v is None else self.draw("/motor/stand_v", motor.stand_v, None, "Volts on the stand")
                speeds = {"no_load_rpm": read * ratio, "no_load_v": at_v * controller_efficiency / (motor.count if motor.wiring == "series" else 1)}
            else:
                speeds = {name: read}
        if not speeds:
            scale = self.figures["/motor/volts_v"].value / family.volts_v
            rpm = (family.rpm if typical else {"hub": 600.0, "small gear motor": 14000.0}.get(motor.kind, 2800.0)) * scale
            name = "no_load_rpm" if motor.kind == "small gear motor" else "speed_rpm"
            speeds[name] = self.draw(f"/motor/{name}", None, rpm, "Motor speed")
        magnet = "ndfeb" if motor.brushless else "ferrite"
        return from_nameplate(volts, power, efficiency, COPPER_SHARE[motor.kind], magnet=magnet, **speeds, **measured)

    def controller(self, motor: Motor | None) -> ControllerModel | None:
        control = self.setup.controller
        if control is None:
            self.missing("/controller", "Say which controller drives the motor, or that there is none.")
            return None
        if control.kind == "none":
            return DIRECT
        stock_v = self.setup.stock.volts_v.value if self.setup.stock.volts_v else None
        plate_v = (motor.volts_v.value if motor and motor.volts_v else stock_v) or 36.0
        # A controller whose label nobody read is taken to be made for the lower volts: it may be the stock one.
        nominal = self.figure("/controller/nominal_v", control.nominal_v, min(plate_v, stock_v or plate_v), "Controller volts")
        plate_w = (motor.power_w.value if motor and motor.power_w else 350.0) * (motor.count if motor else 1)
        battery = self.figure("/controller/battery_limit_a", control.battery_limit_a, usual_limit_a(plate_w, plate_v), "Controller amp limit")
        ratio = MOTOR_SIDE_RATIO[control.kind]
        phase = self.figure("/controller/phase_limit_a", control.phase_limit_a, ratio * battery.value, "Motor-side amp limit", MOTOR_SIDE_SPREAD)
        low = self.figure("/controller/undervoltage_v", control.undervoltage_v, 0.85 * nominal.value, "Low cut-off")
        self.figure("/controller/max_v", control.max_v, 1.25 * nominal.value, "Controller's most volts")
        loss = 0.95 if control.kind == "brushless" else 0.97
        mode = next((mode for mode in control.modes if mode.name == control.mode), None)
        duty, current = (1.0, 1.0) if mode is None else (mode.duty, mode.current)
        extra = 0.0 if control.extra_speed is None else float(control.extra_speed.value)
        return ControllerModel(
            kind="pwm",
            duty_max=duty * (1.0 + extra),
            efficiency=self.efficiency("/controller/efficiency", control.efficiency, loss, "Controller efficiency"),
            phase_limit_a=current * self.noted("/controller/phase_limit_a", self.sampler.draw(phase)),
            battery_limit_a=current * self.noted("/controller/battery_limit_a", self.sampler.draw(battery)),
            undervoltage_v=low.value,
            idle_a=control.waits_a,
            ramp_s=control.ramp_s.value if control.ramp_s else 0.0,
            regen_a=self.sampler.draw(control.regen_a) if control.regen_a else None,
            extra=extra,
        )

    def machine_kg(self, machine: Vehicle, family: FamilyDefaults) -> Number:
        """Mass of the machine with its packs and all that was added, without its rider. [kg]"""
        front, rear = machine.front_axle_kg, machine.rear_axle_kg
        if machine.mass_kg is None and front is not None and rear is not None:
            # Weighed as it is, with the rider aboard.
            alone = max(front.value + rear.value - self.figures["/rider/mass_kg"].value, LEAST_MACHINE_KG)
            return self.draw("/vehicle/mass_kg", Figure(value=alone, basis=front.basis), None, "Machine's mass")
        mass = self.draw("/vehicle/mass_kg", machine.mass_kg, family.mass_kg, "Machine's mass")
        # Whatever its old parts are said to weigh, a frame remains.
        whole = np.maximum(mass + self.exchanged(), LEAST_FRAME * mass)
        return whole if machine.extra_mass_kg is None else whole + self.draw("/vehicle/extra_mass_kg", machine.extra_mass_kg, None, "Added mass")

    def exchanged(self) -> Number:
        """What packs and drive weigh more than those the machine was weighed with. [kg]"""
        stock = self.setup.stock
        packs = self.draw("/stock/packs_kg", stock.packs_kg, None, "Packs it came with") if stock.packs_kg is not None else None
        return exchanged_kg(self.setup, packs, None if stock.drive_kg is None else stock.drive_kg.value)

    def centre(self, machine: Vehicle, family: FamilyDefaults, wheelbase: Number) -> Centre:
        """Where the weight sits with the rider aboard: entered, from two axle weights, or put together from frame, packs and rider. [m]"""
        usual = self.usual_centre(machine, family)
        height = self.draw("/vehicle/com_height_m", machine.com_height_m, float(usual.height_m), "Centre of mass height")
        front, rear = machine.front_axle_kg, machine.rear_axle_kg
        if machine.com_ahead_of_rear_m is None and front is not None and rear is not None:
            drawn = (self.draw("/vehicle/front_axle_kg", front, None, "Front axle"), self.draw("/vehicle/rear_axle_kg", rear, None, "Rear axle"))
            return Centre(ahead_by_axles(wheelbase, *drawn), height)
        return Centre(self.draw("/vehicle/com_ahead_of_rear_m", machine.com_ahead_of_rear_m, float(usual.ahead_m), "Centre of mass"), height)

    def usual_centre(self, machine: Vehicle, family: FamilyDefaults) -> Centre:
        """Centre of mass from wheelbase, kind of machine, seat, posture, and the packs where they lie. [m]

        The family's table holds for its typical machine with its typical rider; of the two the rider's own middle is higher.
        """
        setup, rider = self.setup, self.setup.rider
        length = self.figures["/vehicle/wheelbase_m"].value
        usual_rider = typical_mass_kg(age_to_carry(None, family.family))
        ahead = family.com_ahead_of_rear_m / family.wheelbase_m * length
        low = family.com_height_m - RIDER_OVER_MACHINE_M * usual_rider / (family.mass_kg + usual_rider)
        stands = STANDING_M if rider is not None and rider.standing and family.family != "scooter" else 0.0
        rider_mass = sum(self.figures[path].value for path in ("/rider/mass_kg", "/passenger/mass_kg") if path in self.figures)
        seat = SEAT_SHARE.get(machine.seat, ahead / length) * length if machine.seat is not None else ahead
        aboard = Mass(rider_mass, seat, low + RIDER_OVER_MACHINE_M + stands)
        packs = setup.bank.weighs_kg if setup.bank is not None else 0.0
        came_with = setup.stock.packs_kg.value if setup.stock.packs_kg is not None else packs
        added = machine.extra_mass_kg.value if machine.extra_mass_kg is not None else 0.0
        frame = max(self.figures["/vehicle/mass_kg"].value - came_with + added, LEAST_MACHINE_KG)
        # Another motor and controller: in the wheel where it is a hub, else in the frame.
        drive = float(exchanged_kg(setup, None, None if setup.stock.drive_kg is None else setup.stock.drive_kg.value))
        in_wheel = setup.motor is not None and setup.motor.kind == "hub" and machine.driven_axle != "all"
        axle = (length if machine.driven_axle == "front" else 0.0) if in_wheel else ahead
        bay = machine.bay
        place = ahead if bay is None or bay.ahead_of_rear_m is None else bay.ahead_of_rear_m
        level = low if bay is None or bay.floor_m is None else bay.floor_m + bay.height_m.value / 2.0
        return centre_of([Mass(frame, ahead, low), Mass(max(drive, LEAST_MACHINE_KG - frame), axle, low), Mass(packs, place, level), aboard])

    def vehicle(self, family: FamilyDefaults, rider_kg: Number) -> tuple[VehicleModel, Brake]:
        setup = self.setup
        machine = setup.vehicle
        assert machine is not None
        mass = self.machine_kg(machine, family)
        adult = age_to_carry(setup.rider, family.family) >= CHILD_YEARS
        drag = family.drag_adult_m2 if adult else family.drag_child_m2
        if setup.rider is not None and setup.rider.standing:
            drag = max(drag, 0.60)
        area = self.draw("/vehicle/drag_area_m2", machine.drag_area_m2, drag, "Drag area")
        tyre = setup.wheel.tyre if setup.wheel else family.tyre
        rolling, grip = surface(setup.ground.surface, tyre)
        crr = self.draw("/ground/rolling_resistance", setup.ground.rolling_resistance, rolling, "Rolling resistance")
        mu = self.draw("/ground/friction", setup.ground.friction, grip, "Grip")
        if setup.wheel is None:
            self.filled("/wheel/diameter_m", "Wheel", 2.0 * family.wheel_radius_m)
            diameter = assumed(family.wheel_radius_m * 2.0)
        else:
            diameter = setup.wheel.diameter_m
        self.figures["/wheel/diameter_m"] = diameter
        radius = self.sampler.draw(diameter) / 2.0
        drive = setup.drivetrain
        kind: DriveKind = drive.kind if drive else family.drive
        if drive is not None and drive.motor_teeth and drive.wheel_teeth and drive.ratio is None:
            ratio: Number = drive.wheel_teeth / drive.motor_teeth
        elif kind == "hub":
            ratio = 1.0
        else:
            ratio = self.draw("/drivetrain/ratio", drive.ratio if drive else None, family.ratio, "Gear ratio")
        eta = self.efficiency("/drivetrain/efficiency", drive.efficiency if drive else None, GEAR_EFFICIENCY[kind], "Gear efficiency")
        wheelbase = self.draw("/vehicle/wheelbase_m", machine.wheelbase_m, family.wheelbase_m, "Wheelbase")
        ahead, height = self.centre(machine, family, wheelbase)
        track: Number | None = None
        if machine.track_m is not None or family.track_m is not None:
            track = self.draw("/vehicle/track_m", machine.track_m, family.track_m, "Track")
        brake: Brake = machine.brake or family.brake
        model = VehicleModel(
            gear_ratio=ratio,
            wheel_radius_m=radius,
            gear_efficiency=eta,
            mass_kg=mass + rider_kg,
            drag_area_m2=area,
            rolling_resistance=crr,
            friction=mu,
            driven_axle=machine.driven_axle,
            wheelbase_m=wheelbase,
            com_ahead_of_rear_m=np.clip(ahead, AHEAD_SHARES[0] * wheelbase, AHEAD_SHARES[1] * wheelbase),
            com_height_m=height,
            track_m=track,
            rotating_share=0.10 if kind == "plastic gearbox" else 0.05,
        )
        return model, brake
