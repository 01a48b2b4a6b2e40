"""The operating point: how much current flows at a motor speed, and which limit says so.

Closed form of an average-value converter between a source with resistance and a DC motor. Everything broadcasts.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from gecko.common.figures import Number
from gecko.physics.electric.motor import MotorConstants

LIMITS: tuple[str, ...] = ("volts", "source", "phase", "battery", "undervoltage", "throttle")
"""Names of the limits by their number in `OperatingPoint.limit`."""
VOLTS, SOURCE, PHASE, BATTERY, UNDERVOLTAGE, THROTTLE = range(6)


@dataclass(frozen=True, kw_only=True)
class ControllerModel:
    """The converter: kind "pwm" or "none", most duty [1], efficiency [1], limits [A], undervoltage [V], idle [A]."""

    kind: str = "pwm"
    duty_max: Number = 1.0
    efficiency: Number = 0.97
    phase_limit_a: Number | None = None
    battery_limit_a: Number | None = None
    undervoltage_v: Number | None = None
    idle_a: Number = 0.05
    ramp_s: float = 0.0
    """Soft start: the motor current rises to what full throttle gives within this time. [s]"""
    regen_a: Number | None = None
    """Amps pushed back into the bank when the throttle is released; None: it rolls freely. [A]"""
    extra: Number = 0.0
    """So much faster than the bank's volts it turns the motor, by field weakening; in `duty_max` already. [1]"""
    diodes: bool = True
    """Its stage lets current back where the motor is turned faster than the bank's volts; solved machines leave that out."""


DIRECT = ControllerModel(kind="none", efficiency=1.0, idle_a=0.0)
"""No controller: pedal straight to motor."""


@dataclass(frozen=True)
class OperatingPoint:
    """Motor amps, pack amps (idle included), volts at the controller, duty, and the number of the limit that holds."""

    motor_a: Number
    pack_a: Number
    controller_v: Number
    duty: Number
    limit: NDArray[np.int_] | int

    def limit_name(self) -> str:
        """Name of the limit, for a single point."""
        return LIMITS[int(np.asarray(self.limit).reshape(-1)[0])]


def _by_volts(inner: Number, source_ohm: Number, motor: MotorConstants, control: ControllerModel, back: Number) -> tuple[Number, Number]:
    """Most duty that helps [1] and the motor current the volts allow with it [A]."""
    given, through = inner * control.efficiency, source_ohm * control.efficiency
    x = back / given
    best = x + np.sqrt(x * x + motor.loop_ohm / through)
    duty = np.minimum(control.duty_max, best)
    return duty, (duty * given - back) / (motor.loop_ohm + duty * duty * through)


def _by_bank(inner: Number, source_ohm: Number, motor: MotorConstants, control: ControllerModel, back: Number) -> tuple[Number, Number] | None:
    """Number of the stricter limit on the bank's side and the motor current it allows [A]; None when there is none.

    More bank amps up to half the short-circuit current mean more motor amps, so the lesser bank current decides.
    """
    bank_a = control.battery_limit_a
    name: Number = BATTERY
    if control.undervoltage_v is not None:
        folded = np.maximum(inner - control.undervoltage_v, 0.0) / source_ohm
        if bank_a is None:
            bank_a, name = folded, UNDERVOLTAGE
        else:
            name = np.where(folded < bank_a, UNDERVOLTAGE, BATTERY)
            bank_a = np.minimum(folded, bank_a)
    if bank_a is None:
        return None
    sag, double = bank_a * source_ohm, 2.0 * motor.loop_ohm
    power = (inner - sag) * bank_a * (2.0 * control.efficiency)
    allowed = (np.sqrt(np.maximum(back * back + power * double, 0.0)) - back) / double
    # Past half the short-circuit current more amps bring less power: such a limit does not hold.
    return name, np.where(2.0 * sag < inner, allowed, np.inf)


def motor_current(open_v: Number, source_ohm: Number, motor: MotorConstants, control: ControllerModel, omega: Number) -> Number:
    """Motor amps with the throttle wide open at motor speed omega [rad/s]; see `full_throttle`. [A]

    Source: as `full_throttle`, without what only a screen asks for.

    40 V less 30 V of the motor's own, over 0.2 Ω:

    >>> from gecko.physics.motion.example import MOTOR
    >>> float(motor_current(40.0, 0.1, MOTOR, DIRECT, 300.0))
    50.0
    """
    if control.kind == "none":
        return (open_v - motor.k_v_s * omega) / (motor.loop_ohm + source_ohm)
    inner, back = open_v - control.idle_a * source_ohm, motor.k_v_s * omega
    _, current = _by_volts(inner, source_ohm, motor, control, back)
    if control.phase_limit_a is not None:
        current = np.minimum(current, control.phase_limit_a)
    by_bank = _by_bank(inner, source_ohm, motor, control, back)
    if by_bank is not None:
        current = np.minimum(current, by_bank[1])
    current = np.maximum(current, 0.0)
    if control.undervoltage_v is not None:
        current = current * (inner > control.undervoltage_v)
    return np.where(current > 0.0, current, -fed_back_a(open_v, source_ohm, motor, control, omega))


def fed_back_a(open_v: Number, source_ohm: Number, motor: MotorConstants, control: ControllerModel, omega: Number) -> Number:
    """Motor amps that come back through the diodes of the controller's stage where the motor is turned faster than the bank's volts,
    whatever the controller says: `I = (e − E/η)/(R + R_s/η)`, with the loss of the stage. None without a controller, whose switch is open. [A]

    Source: the stage's body diodes are a rectifier between motor and bank.

    42 V of the motor's own against 40 V, over 0.2 Ω:

    >>> from gecko.physics.motion.example import MOTOR
    >>> float(fed_back_a(40.0, 0.1, MOTOR, ControllerModel(efficiency=1.0), 420.0))
    10.0
    """
    if control.kind == "none" or not control.diodes:
        return 0.0 * open_v
    return np.maximum(motor.k_v_s * omega - open_v / control.efficiency, 0.0) / (motor.loop_ohm + source_ohm / control.efficiency)


def full_throttle(open_v: Number, source_ohm: Number, motor: MotorConstants, control: ControllerModel, omega: Number) -> OperatingPoint:
    """Operating point with the throttle wide open at motor speed omega [rad/s].

    open_v: bank open-circuit volts [V]; source_ohm: bank plus path [Ω]. The motor current is the least that volts,
    motor-side limit, battery-side limit and undervoltage foldback allow:
    `(D·E'·η − e)/(R + D²·η·R_s)`, `D* = x + √(x² + R/(η R_s))`, `x = e/(E' η)`; on the bank side
    `P = (E' − I R_s) I η`, `I = (−e + √(e² + 4 R P))/(2R)`. With a controller the current is negative only where the motor is turned faster
    than the bank's volts: then it comes back through the stage's diodes.

    Source: average-value converter; derivation in docs/model.md.

    20 A at 38 V are 760 W, of which I·(10 + 0.1·I) is what the motor takes:

    >>> from gecko.physics.motion.example import MOTOR
    >>> point = full_throttle(40.0, 0.1, MOTOR, ControllerModel(efficiency=1.0, idle_a=0.0, battery_limit_a=20.0), 100.0)
    >>> round(float(point.motor_a), 3), float(point.pack_a), float(point.controller_v), point.limit_name()
    (50.499, 20.0, 38.0, 'battery')
    """
    resistance = motor.loop_ohm
    back = motor.k_v_s * omega
    if control.kind == "none":
        current = (open_v - back) / (resistance + source_ohm)
        shape = np.shape(current)
        return OperatingPoint(current, current, open_v - current * source_ohm, np.ones(shape), np.zeros(shape, dtype=int))
    inner = open_v - control.idle_a * source_ohm
    duty, current = _by_volts(inner, source_ohm, motor, control, back)
    limit = np.where(duty < control.duty_max, SOURCE, VOLTS)
    if control.phase_limit_a is not None:
        limit = np.where(control.phase_limit_a < current, PHASE, limit)
        current = np.minimum(current, control.phase_limit_a)
    by_bank = _by_bank(inner, source_ohm, motor, control, back)
    if by_bank is not None:
        limit = np.where(by_bank[1] < current, by_bank[0], limit)
        current = np.minimum(current, by_bank[1])
    limit = np.where(current <= 0.0, VOLTS, limit)
    current = np.maximum(current, 0.0)
    if control.undervoltage_v is not None:
        starved = inner <= control.undervoltage_v
        current = np.where(starved, 0.0, current)
        limit = np.where(starved, UNDERVOLTAGE, limit)
    limited = limit >= PHASE
    from_power = bank_side_a(inner, source_ohm, control.efficiency, current * (back + resistance * current))
    drawn = np.where(limited, from_power, duty * current)
    duty = np.where(limited & (current > 0), drawn / np.where(current > 0, current, 1.0), duty)
    back_a = np.where(current > 0.0, 0.0, fed_back_a(open_v, source_ohm, motor, control, omega))
    current, drawn = current - back_a, drawn - back_a
    pack = drawn + control.idle_a
    return OperatingPoint(current, pack, open_v - pack * source_ohm, duty, limit)


def weakening_a(motor: MotorConstants, control: ControllerModel, duty: Number) -> Number:
    """Motor amps that weaken the field beside those that turn it: none up to full duty, the motor's rated ones at the whole extra speed. [A]

    Source: this project's planning value; such amps make no torque, only heat.

    Half way between the volts' own duty of 1 and 1.2, half of the rated 20 A:

    >>> from gecko.physics.motion.example import MOTOR
    >>> round(float(weakening_a(MOTOR, ControllerModel(extra=0.2), 1.1)), 6)
    10.0
    """
    if not np.any(control.extra):
        return 0.0 * duty
    return motor.rated_a * np.clip((duty - 1.0) / np.maximum(control.extra, 1e-9), 0.0, 1.0)


def bank_side_a(inner: Number, source_ohm: Number, eta: Number, motor_w: Number) -> Number:
    """Bank current that feeds `motor_w` watts through a converter of efficiency eta. [A]

    `I = (E' − √(E'² − 4 R_s P/η))/(2 R_s)`, the smaller root. motor_w beyond what the source can give takes the peak.

    >>> round(float(bank_side_a(40.0, 0.1, 0.9, 80.0)), 4)
    2.2347

    Derived here: R_s·I² − E'·I + P/η = 0; at E'/(2R_s) the source gives its most.
    """
    root = np.maximum(inner * inner - 4.0 * source_ohm * motor_w / eta, 0.0)
    return (inner - np.sqrt(root)) / (2.0 * source_ohm)


def part_throttle(open_v: Number, source_ohm: Number, motor: MotorConstants, control: ControllerModel, omega: Number, motor_a: Number) -> OperatingPoint:
    """Operating point that holds a motor current [A] at motor speed omega [rad/s] with part throttle.

    Valid while `motor_a` is at most what full throttle gives there; the caller checks.

    Derived here: the motor takes I·(k·ω + R·I) watts through the stage, and the bank gives them.

    The motor takes 10 A·11 V = 110 W, and the bank gives I·(40 − 0.1·I) of them:

    >>> from gecko.physics.motion.example import MOTOR
    >>> round(float(part_throttle(40.0, 0.1, MOTOR, ControllerModel(efficiency=1.0, idle_a=0.0), 100.0, 10.0).pack_a), 4)
    2.7692
    """
    inner = open_v - control.idle_a * source_ohm
    watts = motor_a * (motor.k_v_s * omega + motor.loop_ohm * motor_a)
    drawn = bank_side_a(inner, source_ohm, control.efficiency, watts)
    pack = drawn + control.idle_a
    duty = drawn / np.where(motor_a == 0, 1.0, motor_a)
    return OperatingPoint(motor_a, pack, open_v - pack * source_ohm, duty, np.full(np.shape(pack), THROTTLE))


def slipping_pack_a(open_v: Number, source_ohm: Number, control: ControllerModel, motor_a: Number) -> Number:
    """Pack amps while the wheels spin and grip holds the motor current at `motor_a` [A].

    The motor speeds up until the first limit of full throttle is met, so the bank current is the least of
    `D_max·I`, the battery-side limit, the foldback's and the source's peak. Idle included; no controller: I. [A]

    Derived here: each limit at the motor speed that first meets it.
    """
    if control.kind == "none":
        return motor_a
    inner = open_v - control.idle_a * source_ohm
    drawn = np.minimum(control.duty_max * motor_a, inner / (2.0 * source_ohm))
    if control.battery_limit_a is not None:
        drawn = np.minimum(drawn, control.battery_limit_a)
    if control.undervoltage_v is not None:
        drawn = np.minimum(drawn, np.maximum(inner - control.undervoltage_v, 0.0) / source_ohm)
    return drawn + control.idle_a
