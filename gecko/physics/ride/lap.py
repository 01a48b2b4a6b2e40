"""A stop-and-go lap at a fixed charge: launch, hold, brake, stand."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from gecko.common.figures import Array, Index, Number
from gecko.common.quadrature import cumulative, pick
from gecko.physics.electric.bank import Source
from gecko.physics.electric.operating_point import part_throttle
from gecko.physics.motion.launch import launch
from gecko.physics.motion.machine import Machine
from gecko.physics.motion.top_speed import top_speed
from gecko.physics.road.forces import motor_a_for_force, resistance_n

_CLUSTERED = 1.0 - (1.0 - np.linspace(0.0, 1.0, 91)) ** 2
_COARSE = _CLUSTERED[::2]


@dataclass(frozen=True, kw_only=True)
class Lap:
    """A lap's time [s], pack amps (mean and RMS) [A], motor amps squared (mean) [A²], mean motor speed [rad/s] and
    mean conductance of the motor to air [W/K], and the highest speed reached [m/s]."""

    time_s: Number
    mean_pack_a: Number
    rms_pack_a: Number
    mean_square_motor_a2: Number
    mean_omega: Number
    air_w_per_k: Number
    highest_speed_m_s: Number


def _read(table: Array, index: Index, share: Array) -> Array:
    low, high = pick(table, index), pick(table, index + 1)
    return low + share * (high - low)


def stop_and_go_lap(
    machine: Machine, source: Source, length_m: float, aimed_m_s: Number | None, brake_m_s2: float, stand_s: float, *, top_m_s: Number | None = None, coarse: bool = False
) -> Lap:
    """One lap on the level: full throttle to the aimed speed [m/s] (None: full throttle all along), hold, brake, stand.

    length_m [m]; brake_m_s2 [m/s²]; stand_s [s]. The motor stays at ambient. While braking and standing only the idle
    current flows. top_m_s: level top speed, where it is known already. coarse:
    fewer points, for samples. Where the length ends before the aimed speed is reached, braking begins where it must.

    Derived here: pieces of a launch, of an even speed and of an even braking, `v²/2b`, joined where their ways add up to the length.
    """
    motor = machine.motor_cool
    vehicle = machine.vehicle
    top = np.asarray(top_speed(machine, source, motor) if top_m_s is None else top_m_s)
    limit = 0.9995 * top if aimed_m_s is None else np.minimum(aimed_m_s, 0.9995 * top)
    limit = np.maximum(limit, 1e-3)
    run = launch(machine, source, motor, limit, _COARSE if coarse else _CLUSTERED)
    shape = run.time_s.shape[1:]
    limit = np.broadcast_to(limit, shape)
    braked = run.distance_m + np.square(run.speed_m_s) / (2.0 * brake_m_s2)
    room = braked[-1] <= length_m
    over = braked > length_m
    index = np.where(room, len(run.time_s) - 2, np.maximum(over.argmax(axis=0) - 1, 0))
    low, high = pick(braked, index), pick(braked, index + 1)
    share = np.where(room, 1.0, np.clip((length_m - low) / np.where(high > low, high - low, 1.0), 0.0, 1.0))
    peak = np.broadcast_to(_read(run.speed_m_s, index, share), shape)
    hold_m = np.where(room, np.maximum(length_m - braked[-1], 0.0), 0.0)
    hold_s = hold_m / peak
    full = machine.full(source, motor, peak)
    if aimed_m_s is None:
        held_motor, held_pack = full.motor_a, full.pack_a
    else:
        wanted = motor_a_for_force(vehicle, motor, resistance_n(vehicle, peak))
        part = part_throttle(source.open_v, machine.source_ohm(source), motor, machine.control, vehicle.omega(peak), wanted)
        reaches = wanted <= full.motor_a
        held_motor = np.where(reaches, part.motor_a, full.motor_a)
        held_pack = np.where(reaches, part.pack_a, full.pack_a)
    launch_s = _read(run.time_s, index, share)
    coast_s = peak / brake_m_s2
    idle = machine.control.idle_a
    rest_s = coast_s + stand_s
    total = launch_s + hold_s + rest_s

    omega = vehicle.omega(run.speed_m_s)
    gone_m = length_m + 0.0 * total
    motor_a, pack_a = run.motor_a, run.pack_a
    if machine.control.kind == "none":
        # Nothing meters a switched motor. Its launch is counted as if the wheels gripped: on better ground they do, and
        # that is the pull fuse, wire and winding must stand.
        motor_a = pack_a = np.broadcast_to(machine.full(source, motor, run.speed_m_s).motor_a, run.time_s.shape)
    # Four means in one array: what runs through the launch, what is held, what coasting and standing add.
    running = _read(cumulative(np.stack((pack_a, pack_a * pack_a, motor_a * motor_a, omega), axis=1), run.time_s[:, None]), index, share)
    spun = vehicle.omega(peak)
    held = np.stack(np.broadcast_arrays(held_pack, held_pack * held_pack, held_motor * held_motor, spun))
    resting = np.stack(np.broadcast_arrays(idle * rest_s, idle * idle * rest_s, 0.0 * rest_s, spun / 2.0 * coast_s))
    mean_pack, square_pack, square_motor, mean_omega = (running + held * hold_s + resting) / total
    return Lap(
        time_s=total,
        mean_pack_a=mean_pack,
        rms_pack_a=np.sqrt(square_pack),
        mean_square_motor_a2=square_motor,
        mean_omega=mean_omega,
        air_w_per_k=machine.thermal.air_conductance(gone_m / total) + 0.0 * total,
        highest_speed_m_s=peak,
    )
