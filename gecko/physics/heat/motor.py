"""Heat of the motor: winding and case as two nodes."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from types import ModuleType
from typing import TypeAlias

import numpy as np

from gecko.common.constants import COPPER_ALPHA_PER_K, COPPER_HEAT_J_KGK, REFERENCE_C
from gecko.common.figures import Array, Number
from gecko.common.quadrature import first_above
from gecko.physics.electric.motor import CLAMP_C, MotorConstants

WINDING_CAUTION_C = 130.0
WINDING_STOP_C = 155.0
"""Limits of the winding: caution and stop (insulation classes B and F, IEC 60085). [°C]"""


@dataclass(frozen=True)
class MotorThermal:
    """One motor's heat: winding and case [J/K], winding to case and case to still air [K/W], open to the airflow or not."""

    winding_j_per_k: Number
    case_j_per_k: Number
    winding_to_case_k_per_w: Number
    case_to_air_k_per_w: Number
    open_airflow: bool

    def air_conductance(self, speed_m_s: Number) -> Number:
        """Case to air at a road speed [m/s]: open airflow divides the resistance by `1 + 0.15 v`. [W/K]

        Source: this project's planning value, in the spirit of forced convection.

        >>> from gecko.physics.motion.example import HEAT
        >>> HEAT.air_conductance(3.0)
        0.5
        """
        factor = 1.0 + 0.15 * speed_m_s if self.open_airflow else 1.0
        return factor / self.case_to_air_k_per_w


def thermal_from_plate(motor: MotorConstants, mass_kg: Number, open_airflow: bool) -> MotorThermal:
    """Thermal figures of one motor from its mass [kg] and rated losses.

    Copper 12 % of the mass (385 J/kgK), rest 460 J/kgK; 90 K total rise at the rated load:
    `R_wc = 30/(1.354 P_cu)`, `R_ca = 60/(1.354 P_cu + P_0)` [K/W]. Source: this project's assumption.

    30/(1.354·40) and 60/(1.354·40 + 20):

    >>> from gecko.physics.motion.example import MOTOR
    >>> found = thermal_from_plate(MOTOR, 1.0, False)
    >>> round(found.winding_to_case_k_per_w, 4), round(found.case_to_air_k_per_w, 4)
    (0.5539, 0.8091)
    """
    copper, other = motor.rated_copper_w, motor.rated_other_w
    return MotorThermal(
        0.12 * mass_kg * COPPER_HEAT_J_KGK,
        0.88 * mass_kg * 460.0,
        30.0 / (1.354 * copper),
        60.0 / (1.354 * copper + other),
        open_airflow,
    )


def motor_losses_w(motor: MotorConstants, motor_a: Number, omega: Number, count: int) -> tuple[Number, Number]:
    """Losses of one of `count` motors [W]: winding `I²R` at the equivalent's present R, and the rest `|kω|·I0`.

    Source: Joule's law; the rest as the no-load current's work against the back-EMF.

    10² A²·0.1 Ω, and 10 V·2 A:

    >>> from gecko.physics.motion.example import MOTOR
    >>> [float(one) for one in motor_losses_w(MOTOR, 10.0, 100.0, 1)]
    [10.0, 20.0]
    """
    copper = np.square(motor_a) * motor.resistance_ohm / count
    other = np.abs(motor.k_v_s * omega) * motor.no_load_a / count
    return copper, other


Matrix = tuple[Number, Number, Number, Number]
"""A 2 × 2 matrix, row by row."""


def two_node_matrix(thermal: MotorThermal, air_w_per_k: Number, dt_s: Number) -> Matrix:
    """The 2 × 2 transition matrix of a step of dt_s [s] under constant losses, row by row [1].

    The linear system is solved by its two time constants: exp(−At) = e_slow·(fast − A)/(fast − slow) + e_fast·(A − slow)/(fast − slow),
    A = [[a, −a], [−b, d]]. Works on floats and on arrays.

    Source: Sylvester's formula for the exponential of a matrix with two eigenvalues.

    >>> from gecko.physics.motion.example import HEAT
    >>> two_node_matrix(HEAT, 0.5, 0.0)
    (1.0, 0.0, 0.0, 1.0)
    """
    xp: ModuleType = math if isinstance(dt_s, float) and isinstance(air_w_per_k, float) else np
    g = 1.0 / thermal.winding_to_case_k_per_w
    a, b = g / thermal.winding_j_per_k, g / thermal.case_j_per_k
    d = b + air_w_per_k / thermal.case_j_per_k
    half_sum, half_gap = (a + d) / 2.0, (a - d) / 2.0
    root = xp.sqrt(half_gap * half_gap + a * b)
    e_slow, e_fast = xp.exp((root - half_sum) * dt_s), xp.exp(-(root + half_sum) * dt_s)
    spread = (e_slow - e_fast) / (2.0 * root)
    mean = (e_slow + e_fast) / 2.0
    return mean - spread * half_gap, spread * a, spread * b, mean + spread * half_gap


def two_node_transition(copper_w: Number, other_w: Number, thermal: MotorThermal, air_w_per_k: Number, dt_s: Number) -> tuple[Number, Number, Matrix]:
    """Where the two nodes settle under constant losses, winding and case as rises above the air [K], and `two_node_matrix`
    of a step of dt_s [s] towards it.

    Derived here: with no change in time the case gives off both losses, and the winding's go through it.

    15 W over 0.5 W/K leave the case at 30 K, 10 W over 2 W/K the winding 5 K above it:

    >>> from gecko.physics.motion.example import HEAT
    >>> two_node_transition(10.0, 5.0, HEAT, 0.5, 10.0)[:2]
    (35.0, 30.0)
    """
    case_end = (copper_w + other_w) / air_w_per_k
    return case_end + copper_w * thermal.winding_to_case_k_per_w, case_end, two_node_matrix(thermal, air_w_per_k, dt_s)


def step_two_nodes(
    winding_k: Number, case_k: Number, copper_w: Number, other_w: Number, thermal: MotorThermal, air_w_per_k: Number, dt_s: Number
) -> tuple[Number, Number]:
    """Exact step of the two-node model with constant losses; temperatures as rises above the air. [K]

    Derived here: x' = −A·(x − x_end) over the step.

    After long it is there:

    >>> from gecko.physics.motion.example import HEAT
    >>> step_two_nodes(0.0, 0.0, 10.0, 5.0, HEAT, 0.5, 1e6)
    (35.0, 30.0)
    """
    end_w, end_c, (m11, m12, m21, m22) = two_node_transition(copper_w, other_w, thermal, air_w_per_k, dt_s)
    x, y = winding_k - end_w, case_k - end_c
    return end_w + m11 * x + m12 * y, end_c + m21 * x + m22 * y


def resistance_factor(winding_c: Number) -> Number:
    """Rise of copper resistance above its 25 °C value, clamped at 300 °C. [1]

    Source: α of annealed copper, IEC 60028, from 25 °C.

    >>> round(resistance_factor(125.0), 3)
    1.393
    """
    # A plain float stays one: the heating runs step through thousands of them.
    clamped = min(winding_c, CLAMP_C) if isinstance(winding_c, float) else np.minimum(winding_c, CLAMP_C)
    return 1.0 + COPPER_ALPHA_PER_K * (clamped - REFERENCE_C)


@dataclass(frozen=True)
class HeatRun:
    """A heating run: times [s], winding and case temperatures [°C] (first axis time)."""

    time_s: Array
    winding_c: Array
    case_c: Array

    def at(self, time_s: float) -> tuple[Number, Number] | None:
        """Winding and case at a time [°C], or None when the run ended before (the winding passed its end).

        Derived here: a straight line between the two points around it.
        """
        if time_s > self.time_s[-1] + 1e-9:
            return None
        index = min(int(np.searchsorted(self.time_s, time_s)), len(self.time_s) - 1)
        if index == 0:
            return self.winding_c[0], self.case_c[0]
        span = self.time_s[index] - self.time_s[index - 1]
        share = (time_s - self.time_s[index - 1]) / span
        return (
            self.winding_c[index - 1] + share * (self.winding_c[index] - self.winding_c[index - 1]),
            self.case_c[index - 1] + share * (self.case_c[index] - self.case_c[index - 1]),
        )

    def reaches(self, limit_c: float) -> float | None:
        """First time the winding reaches a temperature [°C], or None when it does not within the run. [s]

        Derived here: a straight line between the last point below it and the first above.
        """
        found = float(first_above(np.asarray(self.winding_c, dtype=float), np.asarray(self.time_s, dtype=float), limit_c))
        return found if math.isfinite(found) else None


Losses: TypeAlias = Callable[[float, float], tuple[float, float, float]]
"""A function of winding and case °C that gives winding loss [W], other loss [W] and conductance to air [W/K]."""


def heat_run(losses: Losses, thermal: MotorThermal, ambient_c: float, until_s: float, stop_c: float = math.inf) -> HeatRun:
    """Heat from ambient [°C] for `until_s` [s] or until the winding passes `stop_c` [°C].

    Midpoint rule over the exact two-node step, so losses may follow the temperatures; steps grow with time and stay under
    about 5 K of winding rise.

    Source: midpoint rule, of second order in the step.
    """
    winding, case, t = 0.0, 0.0, 0.0
    times, windings, cases = [0.0], [winding + ambient_c], [case + ambient_c]
    while t < until_s - 1e-9:
        copper, other, air = losses(winding + ambient_c, case + ambient_c)
        fastest = abs(float((copper - (winding - case) / thermal.winding_to_case_k_per_w) / thermal.winding_j_per_k))
        dt = min(max(2.0, 0.35 * t), max(5.0 / fastest, 0.02) if fastest > 0 else until_s, until_s - t)
        half_way = step_two_nodes(winding, case, copper, other, thermal, air, dt / 2.0)
        copper, other, air = losses(float(half_way[0]) + ambient_c, float(half_way[1]) + ambient_c)
        whole_way = step_two_nodes(winding, case, copper, other, thermal, air, dt)
        winding, case = float(whole_way[0]), float(whole_way[1])
        t += dt
        times.append(t)
        windings.append(winding + ambient_c)
        cases.append(case + ambient_c)
        if winding + ambient_c > stop_c:
            break
    return HeatRun(np.array(times), np.array(windings), np.array(cases))
