"""Heat of the motor in a duty: held at full throttle on a grade, stalled, or averaged over laps."""

from __future__ import annotations

from bisect import bisect_right

import numpy as np

from gecko.common.constants import COPPER_ALPHA_PER_K, REFERENCE_C
from gecko.common.figures import Number
from gecko.physics.electric.bank import Source
from gecko.physics.electric.motor import CLAMP_C
from gecko.physics.electric.operating_point import weakening_a
from gecko.physics.heat.motor import WINDING_STOP_C, HeatRun, heat_run, motor_losses_w
from gecko.physics.motion.machine import Machine
from gecko.physics.motion.top_speed import top_speed

_GRID_C = (0.0, 25.0, 50.0, 80.0, 115.0, 160.0, 300.0)


def stalled(machine: Machine, source: Source, until_s: float = 3600.0) -> HeatRun:
    """Full throttle at standstill with s held, from ambient until 155 °C or `until_s` [s].

    Source: Joule's law at standstill, where nothing else is lost, into the two-node model.
    """
    table_c = np.linspace(machine.ambient_c, 320.0, 40)
    motor = machine.motor.at(table_c, machine.ambient_c)
    amps = machine.amps(source, motor, 0.0)
    copper, _ = motor_losses_w(motor, amps, 0.0, machine.motor_count)
    watts = np.asarray(copper).tolist()
    step = float(table_c[1] - table_c[0])
    air = float(machine.thermal.air_conductance(0.0))

    def losses(winding_c: float, _case_c: float) -> tuple[float, float, float]:
        place = min(max((winding_c - machine.ambient_c) / step, 0.0), 38.999)
        i = int(place)
        return watts[i] + (place - i) * (watts[i + 1] - watts[i]), 0.0, air

    return heat_run(losses, machine.thermal, machine.ambient_c, until_s, WINDING_STOP_C + 3.0)


def _knots_c(ambient_c: float) -> list[float]:
    return sorted({*(c for c in _GRID_C if c >= min(ambient_c, 25.0)), ambient_c})


def flat_out_temperatures(ambient_c: float) -> list[tuple[float, float]]:
    """Winding and case temperatures at which `flat_out` asks for the top speed. [°C]

    The grid is a planning value of this project.
    """
    knots = _knots_c(ambient_c)
    return [(winding, case) for winding in knots for case in knots]


def flat_out(machine: Machine, source: Source, grade: float = 0.0, until_s: float = 3600.0, *, speeds_m_s: Number | None = None) -> HeatRun:
    """Full throttle on a grade with s held, speed following the motor's temperature, from ambient until 155 °C.

    Speed and amps are solved once on a grid of winding and case temperatures and read bilinearly in between.
    speeds_m_s: top speeds at `flat_out_temperatures`, where they are known already.

    Source: as `heat_run`; the grid is this project's choice.
    """
    ambient = machine.ambient_c
    knots = _knots_c(ambient)
    grid = np.array(knots)
    motor = machine.motor.at(grid[:, None], grid[None, :] + 0.0 * grid[:, None])
    speed = top_speed(machine, source, motor, grade) if speeds_m_s is None else np.reshape(speeds_m_s, (len(knots), -1))
    amps = np.abs(machine.amps(source, motor, speed))
    if np.any(machine.control.extra):
        point = machine.full(source, motor, speed)
        amps = np.hypot(amps, weakening_a(motor, machine.control, point.duty))
    _, other = motor_losses_w(motor, amps, machine.vehicle.omega(speed), machine.motor_count)
    air = machine.thermal.air_conductance(speed) + 0.0 * speed
    cold_ohm = float(machine.motor.resistance_ohm / machine.motor_count)
    table: list[list[list[float]]] = np.stack((amps, other, air), axis=-1).tolist()
    last = len(knots) - 2

    def losses(winding_c: float, case_c: float) -> tuple[float, float, float]:
        i = min(max(bisect_right(knots, winding_c) - 1, 0), last)
        j = min(max(bisect_right(knots, case_c) - 1, 0), last)
        x = min(max((winding_c - knots[i]) / (knots[i + 1] - knots[i]), 0.0), 1.0)
        y = min(max((case_c - knots[j]) / (knots[j + 1] - knots[j]), 0.0), 1.0)
        w00, w01, w10, w11 = (1 - x) * (1 - y), (1 - x) * y, x * (1 - y), x * y
        corners = zip(table[i][j], table[i][j + 1], table[i + 1][j], table[i + 1][j + 1], strict=True)
        current, lost, cooled = (w00 * c00 + w01 * c01 + w10 * c10 + w11 * c11 for c00, c01, c10, c11 in corners)
        hot = 1.0 + COPPER_ALPHA_PER_K * (min(winding_c, CLAMP_C) - REFERENCE_C)
        return current * current * cold_ohm * hot, lost, cooled

    return heat_run(losses, machine.thermal, ambient, until_s, WINDING_STOP_C + 3.0)


def winding_after_laps(machine: Machine, mean_square_a: Number, mean_omega: Number, air_w_per_k: Number, after_s: float) -> Number:
    """Winding after so long over laps from their means: motor amps squared [A²], motor speed [rad/s], conductance to air [W/K]. [°C]

    A lap is short against the case, and its ripple is left out. A resistance that rises with the temperature is linear too:
    x' = u − A·x for the rises of winding and case, A = [[g/Cw − α·P/Cw, −g/Cw], [−g/Cc, (g + air)/Cc]], P the loss at 25 °C; hence
    x = (1 − e^(−At))·A⁻¹·u. Told up to the 300 °C at which copper's resistance is taken as clamped.

    Source: two-node model with mean losses (RMS method, as IEC 60034-1 does for intermittent duty).
    """
    thermal, ambient = machine.thermal, machine.ambient_c
    cold = machine.motor.resistance_ohm * mean_square_a / machine.motor_count
    other = np.abs(machine.motor.k_v_s * mean_omega) * machine.motor.no_load_a / machine.motor_count
    g = 1.0 / np.asarray(thermal.winding_to_case_k_per_w)
    a, b = g / thermal.winding_j_per_k, g / thermal.case_j_per_k
    d = b + air_w_per_k / thermal.case_j_per_k
    own = a - COPPER_ALPHA_PER_K * cold / thermal.winding_j_per_k
    heats_w, heats_c = cold * (1.0 + COPPER_ALPHA_PER_K * (ambient - REFERENCE_C)) / thermal.winding_j_per_k, other / thermal.case_j_per_k
    whole = own * d - a * b
    whole = np.where(np.abs(whole) < 1e-12, 1e-12, whole)
    end_w, end_c = (d * heats_w + a * heats_c) / whole, (b * heats_w + own * heats_c) / whole
    half, gap = (own + d) / 2.0, (own - d) / 2.0
    root = np.sqrt(gap * gap + a * b)
    slow, fast = np.exp(np.minimum((root - half) * after_s, 30.0)), np.exp(-(root + half) * after_s)
    spread, mean = (slow - fast) / (2.0 * root), (slow + fast) / 2.0
    rise = end_w - (mean - spread * gap) * end_w - spread * a * end_c
    return np.minimum(ambient + rise, CLAMP_C)
