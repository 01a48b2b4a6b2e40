"""Checks of rider and ground: speed, launch, stop, turn, weight."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

import numpy as np

from gecko.analysis.chances import LIKELY, Chance, chance
from gecko.analysis.whole import Aboard, Analysis
from gecko.common.figures import Figure
from gecko.common.words import likely_words, q, volts
from gecko.document.parts.rider import Rider
from gecko.document.parts.vehicle import Vehicle
from gecko.document.setup import Setup
from gecko.machine.caps import YOUNG_YEARS, grown_up
from gecko.machine.carried import drive_kg, exchanged_kg
from gecko.reference.kinds import Brake, Tyre
from gecko.rules import margins
from gecko.rules.edits import figure, put
from gecko.rules.looks import may_roll_off
from gecko.rules.registry import Edit, Trip, rule, setup_rule
from gecko.rules.together import knob_module, limiter_edits


def _named(rider: Rider | None) -> str:
    return rider.name if rider is not None and rider.name else "this rider" if rider is not None else "an unknown child"


@rule(
    "ride.cap",
    station="rider",
    stage="drive",
    principle="The rider's cap is for the rider, the machine and the place; local rules and the maker's limit come first.",
)
def cap(a: Analysis) -> Iterator[Trip]:
    for index, aboard in enumerate(a.riders):
        limit = aboard.cap
        strongest = aboard.top_m_s
        found = chance(strongest, limit.speed_m_s * margins.CAP_SHARE, partial(aboard.tops, a.sampled))
        place = "speed" if index == 0 else f"speed{index}"
        if found.severity is not None:
            yield _too_fast(a, index, found, place)
    yield from _own_cap(a.riders)
    yield from _reach(a)
    yield from _rolling(a)


def _too_fast(a: Analysis, index: int, found: Chance, place: str) -> Trip:
    aboard = a.riders[index]
    limit, who, throttle = aboard.cap, _named(aboard.rider), a.setup.throttle
    limited = throttle is not None and throttle.limiter_mark is not None
    how = " with the limiter where it is" if limited else "" if a.m.control.kind == "none" else ", and no limiter is set"
    what = {"maker": "the maker's limit", "entered": f"{who}'s cap"}.get(limit.basis, "the cap")
    why = f", lowered for {limit.why}" if limit.why and limit.basis != "maker" else ""
    youngest = f"Nobody's age is entered, so the youngest likely rider counts, {limit.age_years:g} years. " if not limit.age_known and limit.basis != "maker" else ""
    hard = limit.basis == "maker" or not limit.advice
    return Trip(
        "stop" if found.share >= LIKELY and hard else "caution",
        f"Faster than {who} should go",
        f"{youngest}It reaches {q(found.central, 'speed')}{aboard.mode_words}; {what} is {q(limit.speed_m_s, 'speed')}{why}{how}. {likely_words(found.share)}",
        "Enter who rides. Then set a limiter out of the rider's reach, or use fewer volts."
        if not limit.age_known
        else "Set a limiter out of the rider's reach, or use fewer volts.",
        "/throttle/limiter_mark" if limit.age_known else "/rider",
        (*_lock(aboard.mode_words), limiter_edits(a, limit.speed_m_s / aboard.factor), *_module(a)),
        place=place,
        gate="plan" if limit.age_known or limit.basis == "maker" else "ride",
        margin=margins.top_speed(found.central, limit.speed_m_s),
        likely=found.share,
    )


def _module(a: Analysis) -> tuple[Edit, ...]:
    """Where nothing meters the motor: a knob module, its mark set for the slowest rider."""
    return (knob_module(a),) if a.m.control.kind == "none" and a.motor_is_brushed else ()


def _lock(mode_words: str) -> tuple[Edit, ...]:
    return (Edit("Lock the mode in use", put("controller/modes_locked", True)),) if mode_words else ()


def _own_cap(riders: tuple[Aboard, ...]) -> Iterator[Trip]:
    """A cap of one's own above the table's is a decision, and is written down as one."""
    for index, aboard in enumerate(riders):
        limit = aboard.cap
        if not limit.over_table or limit.own_m_s is None:
            continue
        who = _named(aboard.rider)
        yield Trip(
            "caution" if limit.advice else "stop",
            f"{who[0].upper()}{who[1:]}'s cap is above the table's",
            f"It is set to {q(limit.own_m_s, 'speed')}; at {limit.age_years:g} years {q(limit.suggested_m_s, 'speed')} is what this planner starts from"
            + (f", lowered for {limit.why}." if limit.why else "."),
            "Take the table's cap, or overrule this with your reason.",
            "/rider/cap_m_s" if index == 0 else "/also",
            (Edit(f"Cap {who} at {q(limit.suggested_m_s, 'speed')}", put(_cap_path(riders, index), None)),) if _cap_path(riders, index) else (),
            place="own" if index == 0 else f"own{index}",
            gate="ride",
            margin=margins.own_cap(limit.own_m_s, limit.suggested_m_s),
        )


def _cap_path(riders: tuple[Aboard, ...], index: int) -> str:
    """Where the cap of somebody aboard stands in the document."""
    place = riders[index].path
    return f"{place}/cap_m_s" if place else ""


def _reach(a: Analysis) -> Iterator[Trip]:
    """A limiter that is needed must be where the rider cannot turn it."""
    throttle = a.setup.throttle
    if throttle is None or throttle.limiter_mark is None or throttle.limiter_reachable is not True:
        return
    open_top = float(a.unlimited.top)
    needed = [one for one in a.riders if margins.top_speed(open_top * one.mass_factor, one.cap.speed_m_s).over]
    if not needed:
        return
    lowest = min(needed, key=lambda one: one.cap.speed_m_s)
    young = any(one.cap.age_years < YOUNG_YEARS for one in needed)
    yield Trip(
        "stop" if young else "caution",
        "The rider can reach the limiter",
        f"Turned up, it goes {q(open_top, 'speed')}; {_named(lowest.rider)}'s cap is {q(lowest.cap.speed_m_s, 'speed')}.",
        "Put the limiter where the rider cannot reach it: under the seat, behind a screwed cover.",
        "/throttle/limiter_reachable",
        (Edit("Move it under a screwed cover", put("throttle/limiter_reachable", False)),),
        place="reach",
        margin=margins.top_speed(open_top, lowest.cap.speed_m_s),
    )


def _rolling(a: Analysis) -> Iterator[Trip]:
    found = _rolls(a)
    limit = a.resolved.cap_m_s
    if found is None or limit is None:
        return
    rolled, where = found
    # On the level it is already too fast: that is said once.
    if limit >= float(a.top) and rolled > limit * 1.15:
        yield Trip(
            "caution",
            "Downhill it rolls faster",
            f"{where} it rolls to {q(rolled, 'speed')}; a limiter does nothing there, the brake does.",
            "Keep to the flat with this rider, or walk the slope.",
            "/ground/hill_grade",
            place="downhill",
            margin=margins.top_speed(rolled, limit),
        )


def _rolls(a: Analysis) -> tuple[float, str] | None:
    """The speed rolled downhill [m/s] and where: on the course where it has a slope down, else on the ground's hill."""
    course = a.setup.course
    if course is not None:
        down = [segment.grade for segment in course.segments if segment.grade < 0.0]
        if not down:
            return None
        return float(a.ride.fastest_m_s), f"On {course.name}, {-100 * min(down):.0f} % down,"
    hill = a.setup.ground.hill_grade
    return (float(a.speeds.downhill[0]), f"Down the {100 * hill:.0f} % slope") if hill > 0 else None


@setup_rule("ride.maker", station="rider", stage="survey", principle="The maker's limits come first.")
def maker(setup: Setup) -> Iterator[Trip]:
    vehicle = setup.vehicle
    if vehicle is None:
        return
    least = vehicle.least_age_years
    for rider in (setup.rider, *setup.also, setup.passenger):
        if least is not None and rider is not None and rider.age_years is not None and (young := margins.least_age(rider.age_years, least)).over:
            yield Trip(
                "stop",
                "Younger than the maker allows",
                f"{_named(rider)} is {rider.age_years:g}; the maker's least age is {least:g} years.",
                "Only an older rider.",
                "/vehicle/least_age_years",
                place=f"age.{rider.name}",
                margin=young,
            )
    seats = vehicle.seats or 1
    aboard = 1 + (setup.passenger is not None)
    if margins.seats(aboard, seats).over:
        yield Trip(
            "stop",
            "More riders than seats",
            f"{aboard} ride on {seats} {'seat' if seats == 1 else 'seats'}.",
            "One rider for each seat.",
            "/passenger",
            place="seats",
            margin=margins.seats(aboard, seats),
        )


def weigh_words(figures: dict[str, Figure]) -> str:
    """What to weigh where a guess of the weight's place decides; empty where it was weighed."""
    figure = figures.get("/vehicle/com_ahead_of_rear_m")
    if figure is None or figure.basis != "assumed":
        return ""
    return " Where the weight sits is a guess: weigh what either axle carries with the rider aboard, and the height of the middle."


@rule("ride.wheelie", station="wheels", stage="drive", principle="A launch must not lift the front.")
def wheelie(a: Analysis) -> Iterator[Trip]:
    strongest, mode = a.strongest
    found = strongest.wheelie
    if found is None or (_wants_it(a.setup.rider) and all(_wants_it(one) for one in a.setup.also)):
        return
    central = 1.0 / found.margin
    own = a.wheelie
    scale = central * (own.margin if own is not None else found.margin)
    lifts = chance(central, 1.0, lambda: scale * a.sampled.lift_share)
    if lifts.severity is None:
        return
    edits: list[Edit] = []
    if a.m.control.phase_limit_a is not None:
        spare = float(np.quantile(scale * a.sampled.lift_share, 0.78))
        central_share = found.share or found.margin
        # The last edits help also where another limit shapes the launch, so that lowering this one does less than its share.
        for share in (central_share, 1.0 / max(spare, 1e-6), 0.85 / max(spare, 1e-6), 0.8 * central_share, 0.65 * central_share):
            lower = float(int(float(strongest.stall_point.motor_a) * min(share, 1.0) * 0.97))
            if lower >= 2.0:
                edits.append(Edit(f"Set the motor-side limit to {lower:.0f} A", put("controller/phase_limit_a", figure(lower))))
        edits.append(Edit("Soft start over 2 s", put("controller/ramp_s", figure(2.0))))
    if mode:
        edits.append(Edit("Lock the mode in use", put("controller/modes_locked", True)))
    largest = found.lifts_m_s2 / found.margin
    share_words = f" Below {100 * found.share:.0f} % of the motor amps it stays down." if found.share is not None else ""
    yield Trip(
        lifts.severity,
        "A launch lifts the front wheel",
        f"Full throttle{mode} gives {largest:.1f} m/s²; above {found.lifts_m_s2:.1f} m/s² the front comes up.{share_words} {likely_words(lifts.share)}{weigh_words(a.resolved.figures)}",
        "Soften the start, limit the motor's amps, or gear it longer. A grown-up who wants it says so with name and reason.",
        "/controller/phase_limit_a",
        tuple(edits),
        margin=margins.launch(lifts.central, found.lifts_m_s2),
        likely=lifts.share,
    )


def _wants_it(rider: Rider | None) -> bool:
    """A grown-up who says with name and reason that the front may lift."""
    return rider is not None and grown_up(rider) and bool(rider.name) and len(rider.wheelie_wanted.split()) >= 3


@rule("ride.stop", station="rider", stage="drive", principle="New speed needs new brakes.")
def stop_distance(a: Analysis) -> Iterator[Trip]:
    yield from _brake_energy(a)
    yield from _tyre(a)
    base = a.stock
    if base is None or float(base.top) <= 0.0:
        # A machine that stood still as found says nothing of how long it took to stop.
        return
    stock_m = float(base.stop.distance_m)
    found = chance(float(a.stop.distance_m), margins.STOP_SHARE * stock_m, lambda: a.sampled.stop_m)
    if found.severity is None:
        return
    share = float(a.stop.distance_m) / stock_m
    yield Trip(
        found.severity,
        "It needs much more room to stop",
        f"From {q(float(a.top), 'speed')} it takes {q(found.central, 'length')} to stand; as found it took {q(stock_m, 'length')}. {likely_words(found.share)}",
        "Fit brakes that match the speed, or limit the speed.",
        "/vehicle/brake",
        (
            *_disc_brakes(a.setup.vehicle),
            limiter_edits(a, float(a.top) / np.sqrt(share) * 1.1),
            limiter_edits(a, float(base.top) * 1.15),
            *_module(a),
        ),
        margin=margins.stopping_distance(found.central, stock_m),
        likely=found.share,
    )


def _disc_brakes(vehicle: Vehicle | None) -> tuple[Edit, ...]:
    """A plastic car has no axles to put a disc on."""
    toy = vehicle is not None and vehicle.family == "ride-on car"
    return () if toy else (Edit("Fit disc brakes on both axles", lambda d: d["vehicle"].update(brake="disc", braked_axles="both")),)


BRAKE_J: dict[Brake, float] = {"gearbox drag": 500.0, "drum or band": 5_000.0, "rim": 5_000.0, "disc": 15_000.0}
"""Energy of one stop a kind of brake takes up on one axle without fading; planning values of this project for small machines. [J]"""


def _brake_energy(a: Analysis) -> Iterator[Trip]:
    """A brake takes up the energy of the speed, and fades when it is too much, whatever its name."""
    kind = a.brake_kind
    axles = 2 if a.resolved.braked_axles == "both" else 1
    most = BRAKE_J[kind] * (1 if kind == "gearbox drag" else axles)
    mass = float(a.m.vehicle.effective_mass_kg)
    asked = chance(float(margins.brake_energy(mass, float(a.top), most).asked), most, lambda: margins.brake_energy(mass, a.sampled.top_m_s, most).asked)
    if asked.severity != "stop":
        return
    stronger = [
        (name, axle) for name in BRAKE_J for axle in ("rear", "both") if name != "gearbox drag" and BRAKE_J[name] * (2 if axle == "both" else 1) > 1.3 * asked.central
    ]
    words = "Its gearbox drag" if kind == "gearbox drag" else f"Its {kind} brake on {'both axles' if axles == 2 else 'one axle'}"
    speed = float(np.sqrt(2.0 * most / mass))
    edits = []
    if stronger:
        name, axle = stronger[0]
        label = f"Fit a {name} brake on {'both axles' if axle == 'both' else 'the rear axle'}"
        edits.append(Edit(label, lambda d: d["vehicle"].update(brake=name, braked_axles=axle)))
    yield Trip(
        "stop",
        "The brake is made for less",
        f"{words} takes up about {most / 1000:.2g} kJ a stop, which is {q(speed, 'speed')} at this mass; from {q(float(a.top), 'speed')} a stop is {asked.central / 1000:.2g} kJ.",
        "Fit a stronger brake, or limit the speed.",
        "/vehicle/brake",
        (*edits, limiter_edits(a, speed), *_module(a)),
        place="kind",
        margin=margins.brake_energy(mass, float(a.top), most),
    )


TYRE_M_S: dict[Tyre, float] = {"plastic": 4.0, "banded plastic": 5.0, "solid": 11.0, "pneumatic": 25.0}
"""Up to which speed a kind of tyre steers and brakes as it should; planning values of this project. [m/s]"""


def _tyre(a: Analysis) -> Iterator[Trip]:
    tyre = a.resolved.tyre
    most = TYRE_M_S[tyre]
    found = chance(float(a.top), most, lambda: a.sampled.top_m_s)
    if found.severity != "stop":
        return
    yield Trip(
        "stop",
        "The tyres are made for less",
        f"{tyre[0].upper()}{tyre[1:]} tyres neither steer nor brake well above about {q(most, 'speed')}; it goes {q(found.central, 'speed')}.",
        "Fit tyres with rubber and air, or limit the speed.",
        "/wheel/tyre",
        (limiter_edits(a, most), *_module(a)),
        place="tyre",
        margin=margins.tyre_speed(found.central, most),
        likely=found.share,
    )


@rule(
    "ride.brake.electric",
    station="rider",
    stage="drive",
    principle="A brake that grips without current is a parking brake: without it another must hold.",
    needs="document",
)
def brake_electric(a: Analysis) -> Iterator[Trip]:
    vehicle = a.setup.vehicle
    if vehicle is None or (vehicle.fail_safe_brake is None and not (vehicle.parking_brake is False and may_roll_off(a.setup))):
        return
    if vehicle.fail_safe_brake != "held by power":
        if vehicle.parking_brake:
            return
        yield Trip(
            "stop",
            "Nothing holds it parked",
            (f"The electric brake is {vehicle.fail_safe_brake}; on" if vehicle.fail_safe_brake else "On") + " a slope it rolls off, with or without the rider.",
            "Fit another parking brake, or let the electric one work again.",
            "/vehicle/parking_brake",
            (
                Edit("Fit another parking brake", put("vehicle/parking_brake", True)),
                Edit("Let the electric brake work again", put("vehicle/fail_safe_brake", "held by power")),
            ),
            place="parked",
        )
        return
    coil, bank_v = vehicle.fail_safe_brake_v, a.nominal_v
    if coil is None or bank_v is None:
        return
    fed = [bank_v, *(aux.converter.output_v.value for aux in a.setup.auxiliaries if aux.converter is not None)]
    if not all(margins.coil_volts(volts_v, coil.value).over for volts_v in fed):
        return
    yield Trip(
        "stop",
        "The electric brake is not fed",
        f"Its coil needs {volts(coil.value)} to let go; the bank has {volts(bank_v)} and no converter gives that. It drags or burns.",
        f"Feed it {volts(coil.value)} from a converter behind the cut-off.",
        "/vehicle/fail_safe_brake_v",
        place="coil",
        margin=margins.coil_volts(bank_v, coil.value),
    )


@rule("ride.tip", station="rider", stage="drive", principle="On three or four wheels a fast turn tips.")
def tip(a: Analysis) -> Iterator[Trip]:
    tips, slides = a.turn
    if tips is None or float(tips) >= float(slides):
        # It slides before it tips: frightening, but it stays on its wheels.
        return
    found = chance(float(a.top) / float(tips), 1.0, lambda: a.sampled.tip_share)
    if found.severity is None:
        return
    yield Trip(
        found.severity,
        "A fast turn can tip it over",
        f"In a turn of {q(3.0, 'length')} radius it tips at {q(float(tips), 'speed')}, before it slides; it goes {q(float(a.top), 'speed')}. {likely_words(found.share)}",
        "Limit the speed, set the wheels wider, or carry the weight lower.",
        "/throttle/limiter_mark",
        (limiter_edits(a, float(tips)), limiter_edits(a, 0.8 * float(tips)), *_module(a)),
        margin=margins.turn_speed(found.central, float(tips)),
        likely=found.share,
    )


@rule("ride.weight", station="rider", stage="survey", principle="Frame, wheels and brakes are made for so much weight.", needs="document")
def weight(a: Analysis) -> Iterator[Trip]:
    vehicle = a.setup.vehicle
    if vehicle is None:
        return
    if vehicle.max_load_kg is None:
        if vehicle.family == "ride-on car":
            yield Trip(
                "caution",
                "How much may it carry?",
                f"The maker's load limit is not entered; riders weigh {q(a.resolved.rider_mass_kg, 'mass')}. A toy's axles and gears are made for little.",
                "Read the limit off the label or the manual, and enter it.",
                "/vehicle/max_load_kg",
                place="unknown",
            )
        return
    added = added_kg(a.setup, a.stock.setup if a.stock is not None else None)
    limit = vehicle.max_load_kg.value
    loaded = margins.load(a.heaviest_kg + added, limit)
    if not loaded.over:
        return
    more = f", and {q(added, 'mass')} were added to the machine" if added >= 0.5 else ""
    yield Trip(
        "stop" if loaded.beyond(margins.LOAD_SHARE) else "caution",
        "Heavier than the maker allows",
        f"Riders weigh {q(a.heaviest_kg, 'mass')}{more}; the maker's limit is {q(limit, 'mass')}.",
        "Only a lighter rider.",
        "/rider/mass_kg",
        margin=loaded,
    )


def added_kg(setup: Setup, found: Setup | None) -> float:
    """What packs and parts weigh more than the machine came with. [kg]"""
    vehicle, noted = setup.vehicle, setup.stock
    extra = vehicle.extra_mass_kg.value if vehicle is not None and vehicle.extra_mass_kg is not None else 0.0
    packs = noted.packs_kg.value if noted.packs_kg is not None else found.bank.weighs_kg if found is not None and found.bank is not None else None
    drive = noted.drive_kg.value if noted.drive_kg is not None else drive_kg(found) if found is not None and found.motor is not None else None
    return float(extra + max(exchanged_kg(setup, packs, drive), 0.0))


@setup_rule("ride.rain", station="controller", stage="survey", principle="Water and electrics do not mix.")
def rain(setup: Setup) -> Iterator[Trip]:
    if not setup.ground.rain:
        return
    control = setup.controller
    open_now = [one.label for one in setup.openings if not one.closed and one.kind != "cover"]
    bad = "the controller sits in the spray" if control is not None and control.in_spray else f"{open_now[0]} is still open" if open_now else ""
    yield Trip(
        "caution",
        "Ridden in the wet",
        "Rain and puddles reach plugs, packs and switches, and a wet brake stops later." + (f" Here {bad}." if bad else ""),
        "Ride dry. Where it gets wet: packs out, dry everything, look at every plug before it is powered again.",
        "/ground/rain",
        (Edit("Ride only in the dry", put("ground/rain", False)),),
    )


@rule("ride.road", station="rider", stage="survey", principle="Where it may be ridden depends on local rules.", needs="document")
def road(a: Analysis) -> Iterator[Trip]:
    if a.setup.vehicle is None or a.context.is_baseline:
        return
    yield Trip(
        "note",
        "Private ground, helmet on",
        "Where such machines may be ridden depends on local rules; the maker's limits come first.",
        "Ride off the road, with a helmet, and with an adult near.",
    )
