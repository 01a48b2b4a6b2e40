"""The balance of one moment of a ride, of plain numbers: bank, motor and controller, wheels and ground.

The equations are those of `electric.operating_point`, `electric.bank` and `motion.forces`, which take arrays; tests hold the two together.
"""

from __future__ import annotations

import math
from typing import NamedTuple

from gecko.common.compiled import compiled
from gecko.common.constants import COPPER_ALPHA_PER_K, REFERENCE_C
from gecko.physics.electric.motor import CLAMP_C
from gecko.physics.electric.operating_point import BATTERY, PHASE, SOURCE, THROTTLE, UNDERVOLTAGE, VOLTS
from gecko.physics.ride.rig import Array, Car, Cells

_LAST = 100
"""Number of the last charge of `rig.CHARGES`."""


class Supply(NamedTuple):
    """What the motor is fed from now: open volts of the bank [V], ohms of bank and path [Ω]."""

    open_v: float
    ohm: float


class Warm(NamedTuple):
    """The motor as warm as it is: winding and loop [Ω], k [V·s]."""

    winding_ohm: float
    loop_ohm: float
    k_v_s: float


class Ground(NamedTuple):
    """What a leg asks: weight along the slope with rolling, and across it [N]; slope and grip [1]; share of the duty [1]."""

    held_n: float
    grade: float
    friction: float
    duty_max: float


class Drive(NamedTuple):
    """What flows: motor amps, pack amps, motor speed [rad/s], number of the limit."""

    motor_a: float
    pack_a: float
    omega: float
    limit: int


@compiled
def unit_now(cells: Cells, u: int, charge: float) -> tuple[float, float]:
    """Open volts and ohms of a unit group at a charge [1]. [V, Ω]

    Derived here: straight lines between the charges of the table.
    """
    place = min(max(charge, 0.0), 1.0) * _LAST
    low = min(int(place), _LAST - 1)
    share = place - low
    curve = cells.open_per_cell_v[cells.chemistry[u]]
    volts = curve[low] + share * (curve[low + 1] - curve[low])
    return cells.in_series[u] * volts, cells.unit_ohm[u] * (cells.low_factor[low] + share * (cells.low_factor[low + 1] - cells.low_factor[low]))


@compiled
def slow_after(cells: Cells, u: int, charge: float, slow_v: float, own_a: float, dt: float) -> float:
    """Volts used up by current that flows for long, after another dt [s] at a current [A]. [V]

    Source: one resistor and capacitor in parallel, the usual equivalent circuit of a cell (Plett 2015): exact over a step of one current.
    """
    _, ohm = unit_now(cells, u, charge)
    settles = own_a * float(cells.slow_share[u]) * ohm
    return settles + (slow_v - settles) * math.exp(-dt / float(cells.slow_s[u]))


@compiled
def supply(cells: Cells, car: Car, soc: Array, slow_v: Array, row_v: Array, row_ohm: Array) -> Supply:
    """Bank and path as one source; fills open volts [V] and ohms [Ω] of each row.

    soc [1] and slow_v, the volts that long flowing current has used up [V], of each unit group.

    Source: Millman's theorem for rows side by side.
    """
    for r in range(row_v.size):
        row_v[r], row_ohm[r] = 0.0, cells.row_lead_ohm[r]
    for u in range(soc.size):
        volts, ohm = unit_now(cells, u, soc[u])
        row_v[cells.row_of[u]] += volts - slow_v[u]
        row_ohm[cells.row_of[u]] += ohm
    conductance, weighted = 0.0, 0.0
    for r in range(row_v.size):
        conductance += cells.row_count[r] / row_ohm[r]
        weighted += cells.row_count[r] * row_v[r] / row_ohm[r]
    return Supply(weighted / conductance, 1.0 / conductance + car.path_ohm)


@compiled
def warm_motor(car: Car, winding_k: float, case_k: float) -> Warm:
    """The motor at rises of winding and case above the air [K].

    Source: as `MotorConstants.at`.
    """
    rise = min(winding_k + car.ambient_c, CLAMP_C) - REFERENCE_C
    fall = min(case_k + car.ambient_c, CLAMP_C) - REFERENCE_C
    winding = car.motor_ohm * (1.0 + COPPER_ALPHA_PER_K * rise)
    return Warm(winding, winding + car.lead_ohm, car.k_v_s * (1.0 - car.magnet_per_k * fall))


@compiled
def bank_side_a(inner: float, ohm: float, efficiency: float, motor_w: float) -> float:
    """Bank current that feeds `motor_w` through the converter, `(E' − √(E'² − 4 R P/η))/2R`. [A]

    Derived here: the smaller root of the power balance `I·(E' − R·I)·η = P`.
    """
    return (inner - math.sqrt(max(inner * inner - 4.0 * ohm * motor_w / efficiency, 0.0))) / (2.0 * ohm)


@compiled
def fed_back_a(car: Car, at: Supply, motor: Warm, omega: float) -> float:
    """Motor amps that come back through the stage's diodes where the motor is turned faster than the bank's volts; see `operating_point`. [A]

    Source: as `operating_point.fed_back_a`.
    """
    if not car.diodes:
        return 0.0
    return max(motor.k_v_s * omega - at.open_v / car.efficiency, 0.0) / (motor.loop_ohm + at.ohm / car.efficiency)


@compiled
def full_throttle(car: Car, at: Supply, motor: Warm, duty_max: float, omega: float) -> Drive:
    """The most that flows at a motor speed [rad/s]: the least of what volts, limits and low cut-off allow; see `operating_point.full_throttle`.

    Source: as `operating_point.full_throttle`.
    """
    back = motor.k_v_s * omega
    if car.direct:
        current = (at.open_v - back) / (motor.loop_ohm + at.ohm)
        return Drive(current, current, omega, VOLTS)
    inner = at.open_v - car.idle_a * at.ohm
    if inner <= max(car.undervoltage_v, 0.0):
        back_a = fed_back_a(car, at, motor, omega)
        return Drive(-back_a, car.idle_a - back_a, omega, UNDERVOLTAGE)
    given, through = inner * car.efficiency, at.ohm * car.efficiency
    x = back / given
    best = x + math.sqrt(x * x + motor.loop_ohm / through)
    duty = min(duty_max, best)
    current = (duty * given - back) / (motor.loop_ohm + duty * duty * through)
    limit = SOURCE if duty < duty_max else VOLTS
    if car.phase_limit_a < current:
        current, limit = car.phase_limit_a, PHASE
    # More bank amps up to half the short-circuit current mean more motor amps: the lesser bank current decides.
    bank_a, name = car.battery_limit_a, BATTERY
    if car.undervoltage_v > 0.0 and (inner - car.undervoltage_v) / at.ohm < bank_a:
        bank_a, name = (inner - car.undervoltage_v) / at.ohm, UNDERVOLTAGE
    if 2.0 * bank_a * at.ohm < inner:
        power = (inner - bank_a * at.ohm) * bank_a * car.efficiency
        allowed = (math.sqrt(max(back * back + 4.0 * motor.loop_ohm * power, 0.0)) - back) / (2.0 * motor.loop_ohm)
        if allowed < current:
            current, limit = allowed, name
    if current <= 0.0:
        back_a = fed_back_a(car, at, motor, omega)
        return Drive(-back_a, car.idle_a - back_a, omega, VOLTS)
    drawn = duty * current
    if limit != VOLTS and limit != SOURCE:
        drawn = bank_side_a(inner, at.ohm, car.efficiency, current * (back + motor.loop_ohm * current))
    return Drive(current, drawn + car.idle_a, omega, limit)


@compiled
def part_throttle(car: Car, at: Supply, motor: Warm, omega: float, motor_a: float, limit: int) -> Drive:
    """What the bank gives for a motor current [A] that part throttle holds.

    Source: as `operating_point.part_throttle`.
    """
    inner = at.open_v - car.idle_a * at.ohm
    drawn = bank_side_a(inner, at.ohm, car.efficiency, motor_a * (motor.k_v_s * omega + motor.loop_ohm * motor_a))
    return Drive(motor_a, drawn + car.idle_a, omega, limit)


@compiled
def let_go(car: Car, at: Supply, motor: Warm, omega: float, most_a: float) -> Drive:
    """The throttle released: regeneration, where there is any, with at most so many motor amps [A].

    The controller takes what brings `regen_a` to the bank: `η(e·I − R·I²) = regen·V`, `V = E + regen·R_s`, at most the motor's best `I = e/2R`, and
    at most what the wanted braking needs; what comes through its diodes comes whatever is wanted. Source: energy balance of the converter.
    """
    back_a = fed_back_a(car, at, motor, omega)
    if car.direct or car.regen_a <= 0.0:
        return Drive(-back_a, car.idle_a - back_a, omega, THROTTLE)
    back = max(motor.k_v_s * omega, 0.0)
    wanted_w = car.regen_a * (at.open_v + car.regen_a * at.ohm) / car.efficiency
    motor_a = (back - math.sqrt(max(back * back - 4.0 * motor.loop_ohm * wanted_w, 0.0))) / (2.0 * motor.loop_ohm)
    motor_a = min(motor_a, max(most_a, 0.0))
    if back_a > motor_a:
        return Drive(-back_a, car.idle_a - back_a, omega, THROTTLE)
    given = car.efficiency * motor_a * (back - motor.loop_ohm * motor_a)
    into = (math.sqrt(at.open_v * at.open_v + 4.0 * at.ohm * given) - at.open_v) / (2.0 * at.ohm)
    return Drive(-motor_a, car.idle_a - into, omega, THROTTLE)


@compiled
def weakening_a(car: Car, motor: Warm, drive: Drive, volts: float) -> float:
    """Motor amps that weaken the field beside those that turn it; see `operating_point.weakening_a`. [A]

    Source: as `operating_point.weakening_a`.
    """
    if car.extra <= 0.0 or drive.motor_a <= 0.0:
        return 0.0
    duty = (motor.k_v_s * drive.omega + motor.loop_ohm * drive.motor_a) / (max(volts, 1e-3) * car.efficiency)
    return car.rated_a * min(max((duty - 1.0) / car.extra, 0.0), 1.0)


@compiled
def push_n(car: Car, motor: Warm, motor_a: float) -> float:
    """Push at the ground; the gears take away on either side of zero. [N]

    Source: as `forces.wheel_force_n`.
    """
    at_rim = motor.k_v_s * (motor_a - car.no_load_a) * car.turn_per_m
    return at_rim * car.gear_efficiency if at_rim > 0.0 else at_rim / car.gear_efficiency


@compiled
def amps_for(car: Car, motor: Warm, force_n: float) -> float:
    """Motor amps that push with so many newtons. [A]

    Derived here: the inverse of `push_n`.
    """
    through = force_n / car.gear_efficiency if force_n > 0.0 else force_n * car.gear_efficiency
    return through / car.turn_per_m / motor.k_v_s + car.no_load_a


@compiled
def ground_of(car: Car, grade: float, rolling: float, friction: float, throttle: float) -> Ground:
    """A leg as forces.

    Source: as `forces.resistance_n`, its parts that do not hang on the speed.
    """
    weight = car.mass_kg * car.gravity_m_s2 / math.sqrt(1.0 + grade * grade)
    return Ground(weight * (rolling + grade), grade, friction, car.duty_max * throttle)


@compiled
def held_back_n(car: Car, ground: Ground, speed: float) -> float:
    """What ground, slope and air take at a speed [m/s]. [N]

    Source: as `forces.resistance_n`.
    """
    return ground.held_n + car.drag_n_s2_m2 * speed * speed


@compiled
def effective_kg(car: Car) -> float:
    """Mass with the share of what turns. [kg]

    Source: as `VehicleModel.effective_mass_kg`.
    """
    return car.mass_kg * (1.0 + car.rotating_share)


@compiled
def gripped(car: Car, ground: Ground, held_n: float) -> tuple[float, float]:
    """Acceleration when grip caps the push [m/s²], and the push then [N]: `a = (μ·N(a) − F)/m`, N within 0 and the whole weight.

    Source: as `forces.grip_limited_acceleration`.
    """
    slope = effective_kg(car) - ground.friction * car.mass_kg * car.grip_transfer
    standing = (car.grip_share + car.grip_transfer * ground.grade) * (car.gravity_m_s2 / math.sqrt(1.0 + ground.grade * ground.grade))
    load = car.mass_kg * car.gravity_m_s2
    if slope > 0.0:
        free = (ground.friction * car.mass_kg * standing - held_n) / slope
        load = min(max(car.mass_kg * (standing + car.grip_transfer * free), 0.0), load)
    return (ground.friction * load - held_n) / effective_kg(car), ground.friction * load


@compiled
def driven(car: Car, at: Supply, motor: Warm, ground: Ground, speed: float, opened: float) -> tuple[float, Drive]:
    """Acceleration with the throttle wide open [m/s²] and what flows, the wheels spinning where grip ends. opened: what a soft start has let
    through of the motor current so far [1].

    Derived here: Newton's second law with the push of `full_throttle`, capped by `gripped`.
    """
    drive = full_throttle(car, at, motor, ground.duty_max, speed * car.turn_per_m)
    if opened < 1.0:
        drive = part_throttle(car, at, motor, drive.omega, opened * drive.motor_a, drive.limit)
    held = held_back_n(car, ground, speed)
    free = (push_n(car, motor, drive.motor_a) - held) / effective_kg(car)
    capped, grip_n = gripped(car, ground, held)
    if capped >= free:
        # At rest the ground holds it until the push is enough.
        return (max(free, 0.0) if speed <= 0.0 else free), drive
    spun_a = amps_for(car, motor, grip_n)
    pack_a, spun = spun_a, speed * car.turn_per_m
    if car.direct:
        spun = max(at.open_v - (motor.loop_ohm + at.ohm) * spun_a, 0.0) / motor.k_v_s
    else:
        # The motor speeds up until the first limit of full throttle is met.
        inner = at.open_v - car.idle_a * at.ohm
        drawn = min(min(ground.duty_max * spun_a * opened, inner / (2.0 * at.ohm)), car.battery_limit_a)
        if car.undervoltage_v > 0.0:
            drawn = min(drawn, max(inner - car.undervoltage_v, 0.0) / at.ohm)
        pack_a = drawn + car.idle_a
        volts = car.efficiency * (at.open_v - pack_a * at.ohm) * drawn / max(spun_a, 1e-9)
        spun = max(volts - motor.loop_ohm * spun_a, 0.0) / motor.k_v_s
    return (max(capped, 0.0) if speed <= 0.0 else capped), Drive(spun_a, pack_a, max(spun, speed * car.turn_per_m), drive.limit)


@compiled
def two_nodes(car: Car, winding_k: float, case_k: float, copper_w: float, other_w: float, speed: float, dt: float) -> tuple[float, float]:
    """Winding and case above the air after dt [s] of constant losses [W], exactly; see `heat.motor.two_node_matrix`. [K]

    Source: as `heat.motor.step_two_nodes`.
    """
    air = car.case_to_air_w_per_k * (1.0 + 0.15 * speed if car.open_airflow else 1.0)
    g = car.winding_to_case_w_per_k
    end_c = (copper_w + other_w) / air
    end_w = end_c + copper_w / g
    a, b = g / car.winding_j_per_k, g / car.case_j_per_k
    d = b + air / car.case_j_per_k
    half, gap = (a + d) / 2.0, (a - d) / 2.0
    root = math.sqrt(gap * gap + a * b)
    slow, fast = math.exp((root - half) * dt), math.exp(-(root + half) * dt)
    spread, mean = (slow - fast) / (2.0 * root), (slow + fast) / 2.0
    x, y = winding_k - end_w, case_k - end_c
    return end_w + (mean - spread * gap) * x + spread * a * y, end_c + spread * b * x + (mean + spread * gap) * y


@compiled
def row_amps(cells: Cells, car: Car, at: Supply, pack_a: float, row_v: Array, row_ohm: Array, rows_a: Array) -> None:
    """Fill the current of one row of each kind at a bank current, `(E_k − V)/R_k`. [A]

    Source: Kirchhoff's law of voltages, row by row.
    """
    volts = at.open_v - pack_a * (at.ohm - car.path_ohm)
    for r in range(rows_a.size):
        rows_a[r] = pack_a / cells.row_count[r] if rows_a.size == 1 else (row_v[r] - volts) / row_ohm[r]


@compiled
def gives_as(cells: Cells, unit: int, mean_a: float) -> float:
    """What a unit gives at its own mean current [A]: lead less the faster it is emptied (Peukert). [As]

    Source: Peukert 1897, from the twenty-hour rate on.
    """
    if cells.peukert[unit] <= 0.0:
        return float(cells.capacity_as[unit])
    least = cells.twenty_hour_a[unit]
    return float(cells.capacity_as[unit] * (least / max(mean_a, least)) ** cells.peukert[unit])
