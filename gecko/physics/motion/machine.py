"""The machine as numbers: everything the computation needs, resolved once from a setup (or a solved case)."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from gecko.common.figures import Number
from gecko.physics.electric.bank import BankModel, Source, source_at
from gecko.physics.electric.motor import MotorConstants
from gecko.physics.electric.operating_point import ControllerModel, OperatingPoint, full_throttle, motor_current
from gecko.physics.electric.path import LEAST_PATH_OHM
from gecko.physics.heat.motor import MotorThermal
from gecko.physics.road.forces import VehicleModel, wheel_force_n


@dataclass(frozen=True)
class GuardModel:
    """Low-volt guard: volts at the controller [V], how long below [s]."""

    volts_v: Number
    delay_s: float = 2.0


@dataclass(frozen=True, kw_only=True)
class Machine:
    """A machine ready to compute with. Numbers are scalars, or samples on the last axis."""

    bank: BankModel
    path_ohm: Number
    motor: MotorConstants
    motor_count: int
    motor_wiring: str
    thermal: MotorThermal
    control: ControllerModel
    vehicle: VehicleModel
    guard: GuardModel | None
    ambient_c: float
    pack_c: float

    @property
    def motor_cool(self) -> MotorConstants:
        """The equivalent motor with winding and magnets at ambient.

        Derived here: `MotorConstants.at` with both at the air's temperature.
        """
        return self.motor.at(self.ambient_c, self.ambient_c)

    def source(self, soc: Number | tuple[Number, ...], held: bool = False) -> Source:
        """The bank at a state of charge; held: its current flows for minutes.

        Derived here: `source_at` at the packs' temperature.
        """
        return source_at(self.bank, soc, self.pack_c, held)

    def source_ohm(self, source: Source) -> Number:
        """Bank plus path. [Ω]

        Derived here: bank and path in series add.

        >>> from gecko.physics.motion.example import MACHINE
        >>> round(float(MACHINE.source_ohm(MACHINE.source(1.0))), 9)
        0.06
        """
        return source.resistance_ohm + np.maximum(self.path_ohm, LEAST_PATH_OHM)

    def full(self, source: Source, motor: MotorConstants, speed_m_s: Number) -> OperatingPoint:
        """Full throttle at a road speed [m/s].

        Derived here: `full_throttle` at the motor speed that belongs to the road speed.
        """
        omega = self.vehicle.omega(speed_m_s)
        return full_throttle(source.open_v, self.source_ohm(source), motor, self.control, omega)

    def amps(self, source: Source, motor: MotorConstants, speed_m_s: Number) -> Number:
        """Motor amps with full throttle at a road speed [m/s]. [A]

        Derived here: `motor_current` at the motor speed that belongs to the road speed.

        Standing still, its motor-side limit:

        >>> from gecko.physics.motion.example import MACHINE, MOTOR
        >>> float(MACHINE.amps(MACHINE.source(1.0), MOTOR, 0.0))
        50.0
        """
        return motor_current(source.open_v, self.source_ohm(source), motor, self.control, self.vehicle.omega(speed_m_s))

    def push(self, source: Source, motor: MotorConstants, speed_m_s: Number, standing: bool = False) -> Number:
        """Push at the ground with full throttle at a road speed [m/s]. [N]

        Derived here: `wheel_force_n` of `amps`.

        48 A that turn, times 0.1·20·0.8:

        >>> from gecko.physics.motion.example import MACHINE, MOTOR
        >>> round(float(MACHINE.push(MACHINE.source(1.0), MOTOR, 0.0)), 6)
        76.8
        """
        return wheel_force_n(self.vehicle, motor, self.amps(source, motor, speed_m_s), standing)

    def no_load_speed(self, source: Source, motor: MotorConstants) -> Number:
        """Road speed no full throttle can pass on the level: `E·η/k`. [m/s]

        Derived here: without a current the motor's own volts `k·ω` are those the converter gives.

        41.9 V over 0.1 V·s, over 20 rad/m:

        >>> from gecko.physics.motion.example import MACHINE, MOTOR
        >>> round(float(MACHINE.no_load_speed(MACHINE.source(1.0), MOTOR)), 3)
        20.95
        """
        omega = source.open_v * self.control.duty_max * self.control.efficiency / motor.k_v_s
        return omega * self.vehicle.wheel_radius_m / self.vehicle.gear_ratio
