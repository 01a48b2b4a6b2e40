"""Forces on the machine: what the wheel pushes and what holds it back."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from gecko.common.constants import AIR_DENSITY_KG_M3, GRAVITY_M_S2
from gecko.common.figures import Number
from gecko.physics.electric.motor import MotorConstants


@dataclass(frozen=True, kw_only=True)
class VehicleModel:
    """Masses, geometry and resistances of the machine with its rider; SI."""

    gear_ratio: Number
    wheel_radius_m: Number
    gear_efficiency: Number
    mass_kg: Number
    drag_area_m2: Number
    rolling_resistance: Number
    friction: Number
    driven_axle: str
    wheelbase_m: Number
    com_ahead_of_rear_m: Number
    com_height_m: Number
    track_m: Number | None
    rotating_share: float
    air_density_kg_m3: float = AIR_DENSITY_KG_M3
    gravity_m_s2: float = GRAVITY_M_S2

    def omega(self, speed_m_s: Number) -> Number:
        """Motor speed at a road speed. [rad/s]

        Source: rolling without slip, through the gear ratio.

        >>> from gecko.physics.motion.example import CART
        >>> CART.omega(3.0)
        60.0
        """
        return speed_m_s * (self.gear_ratio / self.wheel_radius_m)

    @property
    def effective_mass_kg(self) -> Number:
        """Mass with the share of rotating parts. [kg]

        Source: kinetic energy of the rotating parts told as mass.

        >>> from gecko.physics.motion.example import CART
        >>> CART.effective_mass_kg
        105.0
        """
        return self.mass_kg * (1.0 + self.rotating_share)


def resistance_n(vehicle: VehicleModel, speed_m_s: Number, grade: Number = 0.0) -> Number:
    """Force that holds the machine back: `m g (C cosθ + sinθ) + ½ ρ C_dA v²`, grade = tanθ. [N]

    Source: road load (rolling, grade, air), any textbook of vehicle dynamics; cosθ = 1/√(1 + grade²).

    At 5 m/s 20 N of rolling and 0.6·25 = 15 N of air:

    >>> from gecko.physics.motion.example import CART
    >>> float(resistance_n(CART, 5.0))
    35.0
    """
    weight = vehicle.mass_kg * vehicle.gravity_m_s2
    air = (0.5 * vehicle.air_density_kg_m3 * vehicle.drag_area_m2) * (speed_m_s * speed_m_s)
    return weight * (vehicle.rolling_resistance + grade) / np.sqrt(1.0 + grade * grade) + air


def wheel_force_n(vehicle: VehicleModel, motor: MotorConstants, motor_a: Number, standing: bool = False) -> Number:
    """Push at the ground from motor amps: `F = T·G·η/r`, losses added when the torque is negative. [N]

    standing: at rest the torque is not below 0 (friction only holds).

    Source: torque k·(I − I0) through a gear of efficiency η, turned round where the wheel drives the motor.

    50 A that turn make 5 N·m; times 20 rad/m and the gears' 0.8:

    >>> from gecko.physics.motion.example import CART, MOTOR
    >>> float(wheel_force_n(CART, MOTOR, 52.0))
    80.0
    """
    torque = motor.k_v_s * (motor_a - motor.no_load_a)
    if standing:
        torque = np.maximum(torque, 0.0)
    at_rim = torque * (vehicle.gear_ratio / vehicle.wheel_radius_m)
    # Of the two the smaller is right on either side of zero: the gears only ever take away.
    return np.minimum(at_rim * vehicle.gear_efficiency, at_rim / vehicle.gear_efficiency)


def motor_a_for_force(vehicle: VehicleModel, motor: MotorConstants, force_n: Number) -> Number:
    """Motor amps that make a push of `force_n` at the ground. [A]

    Derived here: the inverse of `wheel_force_n`.

    >>> from gecko.physics.motion.example import CART, MOTOR
    >>> float(motor_a_for_force(CART, MOTOR, 80.0))
    52.0
    """
    through_gears = np.maximum(force_n / vehicle.gear_efficiency, force_n * vehicle.gear_efficiency)
    return through_gears * (vehicle.wheel_radius_m / vehicle.gear_ratio) / motor.k_v_s + motor.no_load_a


def grip_terms(vehicle: VehicleModel) -> tuple[Number, Number]:
    """Load on the driven axle as `m·(p·g cosθ + q·(g sinθ + a))`: the static share p [1] and the transfer q [1].

    Source: moments about the tyre contacts (load transfer), textbooks of vehicle dynamics.

    >>> from gecko.physics.motion.example import CART
    >>> grip_terms(CART)
    (0.6, 0.5)
    """
    length = vehicle.wheelbase_m
    ahead, height = vehicle.com_ahead_of_rear_m, vehicle.com_height_m
    if vehicle.driven_axle == "rear":
        return (length - ahead) / length, height / length
    if vehicle.driven_axle == "front":
        return ahead / length, -height / length
    return 1.0, 0.0


def static_grip_n(vehicle: VehicleModel) -> Number:
    """Push the driven axle can pass on at rest on the level, without weight transfer. [N]

    Source: Coulomb friction.

    Half of the 600 N on the rear axle:

    >>> from gecko.physics.motion.example import CART
    >>> float(static_grip_n(CART))
    300.0
    """
    p, _ = grip_terms(vehicle)
    return vehicle.friction * vehicle.mass_kg * vehicle.gravity_m_s2 * np.clip(p, 0.0, 1.0)


def grip_limited_acceleration(vehicle: VehicleModel, held_back_n: Number, grade: float = 0.0) -> tuple[Number, Number]:
    """Acceleration [m/s²] when grip caps the push on a grade [1], weight transfer included, and the load on the axle [N].

    Solves `a = (μ·N(a) − F_res)/m_eff`, `N = m(p g cosθ + q(g sinθ + a))`, N kept within 0 and the whole weight.

    Derived here: Newton's second law with Coulomb friction on an axle whose load hangs on the acceleration.

    At 3.5 m/s² the axle bears 600 + 0.5·350 = 775 N, half of which is 100·3.5 + 20 and what turns, 105 kg:

    >>> from gecko.physics.motion.example import CART
    >>> [float(one) for one in grip_limited_acceleration(CART, 20.0)]
    [3.5, 775.0]
    """
    p, q = grip_terms(vehicle)
    mass, gravity, mu = vehicle.mass_kg, vehicle.gravity_m_s2, vehicle.friction
    effective = vehicle.effective_mass_kg
    slope = effective - mu * mass * q
    standing = (p + q * grade) * (gravity / math.sqrt(1.0 + grade * grade))
    load = mass * gravity
    if np.ndim(slope) > 0 or slope > 0:
        free = (mu * mass * standing - held_back_n) / np.where(slope > 0, slope, np.inf)
        shifted = np.minimum(np.maximum(mass * (standing + q * free), 0.0), load)
        load = np.where(slope > 0, shifted, load) if np.ndim(slope) > 0 else shifted
    return (mu * load - held_back_n) / effective, load


def wheelie_acceleration(vehicle: VehicleModel) -> Number | None:
    """Acceleration on the level at which the front lifts, `g·b/h`; rear drive only, else None. [m/s²]

    Source: moments about the rear contact: m·a·h = m·g·b.

    g·a/h = 10·0.4/0.5:

    >>> from gecko.physics.motion.example import CART
    >>> wheelie_acceleration(CART)
    8.0
    """
    if vehicle.driven_axle != "rear":
        return None
    return vehicle.gravity_m_s2 * vehicle.com_ahead_of_rear_m / vehicle.com_height_m


@dataclass(frozen=True)
class Stop:
    """Deceleration [m/s²], what caps it, and the stopping distance [m]."""

    deceleration_m_s2: Number
    distance_m: Number


def stop(vehicle: VehicleModel, speed_m_s: Number, brake_m_s2: float, reaction_s: float, axles: str) -> Stop:
    """Stopping distance `v·t + v²/(2a)`, a capped by grip of the braked axles and by pitching over. [m]

    axles: "both" μg; "rear" `μg(L−b)/(L+μh)`; "front" `μg b/(L−μh)`; pitching over `g(L−b)/h`.
    brake_m_s2: what the brake gives [m/s²]; reaction_s [s].

    Source: uniformly slowed motion after a reaction time; grip by moments about the contacts.
    """
    length, ahead, height = vehicle.wheelbase_m, vehicle.com_ahead_of_rear_m, vehicle.com_height_m
    mu, g = vehicle.friction, vehicle.gravity_m_s2
    if axles == "both":
        grip = mu * g
    elif axles == "rear":
        grip = mu * g * (length - ahead) / (length + mu * height)
    else:
        denominator = length - mu * height
        grip = np.where(denominator > 0, mu * g * ahead / np.where(denominator > 0, denominator, 1.0), np.inf)
    a = np.minimum(np.minimum(brake_m_s2, grip), pitch_over(vehicle))
    return Stop(a, speed_m_s * reaction_s + np.square(speed_m_s) / (2.0 * a))


def pitch_over(vehicle: VehicleModel) -> Number:
    """Deceleration at which the rear lifts, `g(L−b)/h`. [m/s²]

    Source: moments about the front contact.

    10·0.6/0.5:

    >>> from gecko.physics.motion.example import CART
    >>> pitch_over(CART)
    12.0
    """
    return vehicle.gravity_m_s2 * (vehicle.wheelbase_m - vehicle.com_ahead_of_rear_m) / vehicle.com_height_m


def turn_speeds(vehicle: VehicleModel, radius_m: float = 3.0) -> tuple[Number | None, Number]:
    """Speeds in a turn [m/s]: tip-over `√(g r t/(2h))` (None on two wheels) and slide `√(μ g r)`.

    Source: moments about the outer wheels, m·v²/r·h = m·g·t/2; Coulomb friction, m·v²/r = μ·m·g.

    √(10·3·0.8/(2·0.5)) = √24 and √(0.5·10·3) = √15:

    >>> from gecko.physics.motion.example import CART
    >>> [round(float(one), 3) for one in turn_speeds(CART)]
    [4.899, 3.873]
    """
    g = vehicle.gravity_m_s2
    slide = np.sqrt(vehicle.friction * g * radius_m)
    tip = None if vehicle.track_m is None else np.sqrt(g * radius_m * vehicle.track_m / (2.0 * vehicle.com_height_m))
    return tip, slide
