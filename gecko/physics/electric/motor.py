"""A motor as its DC equivalent: `V = kω + R·I`, `T = k·(I − I0)`."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from gecko.common.constants import COPPER_ALPHA_PER_K, REFERENCE_C
from gecko.common.errors import GeckoError
from gecko.common.figures import Number

EFFICIENCY: dict[str, float] = {"small gear motor": 0.62, "brushed": 0.77, "hub": 0.82, "brushless mid": 0.90}
"""Efficiency at the rated load when the plate is silent [1]. Source: this project's planning values."""

COPPER_SHARE: dict[str, float] = {"small gear motor": 0.6, "brushed": 0.6, "hub": 0.6, "brushless mid": 0.4}
"""Share of the rated loss that is winding heat [1]. Source: this project's planning values."""

MAGNET_PER_K: dict[str, float] = {"ferrite": 0.0020, "ndfeb": 0.0011}
"""Fall of k per kelvin of magnet temperature. [1/K]"""

CLAMP_C = 300.0
"""Temperatures are clamped here in both resistance and magnets. [°C]"""


@dataclass(frozen=True, kw_only=True)
class MotorConstants:
    """R [Ω], k [V·s/rad], I0 [A] of one equivalent motor at 25 °C, and the plate's rated losses of one motor [W]."""

    resistance_ohm: Number
    k_v_s: Number
    no_load_a: Number
    rated_a: Number
    rated_copper_w: Number
    rated_other_w: Number
    magnet: str = "ferrite"
    lead_ohm: Number = 0.0
    """Leads and plugs between controller and motor: in the loop, but not in the winding. [Ω]"""

    @property
    def loop_ohm(self) -> Number:
        """Winding and its leads: what limits the motor's current. [Ω]

        Derived here: two resistances in series add.

        >>> from gecko.physics.motion.example import MOTOR
        >>> MOTOR.loop_ohm
        0.1
        """
        return self.resistance_ohm + self.lead_ohm

    def at(self, winding_c: Number, magnet_c: Number) -> MotorConstants:
        """The motor at other temperatures: R rises 0.393 %/K, k falls by its magnet. Temperatures in °C.

        Source: copper by IEC 60028; magnets by the temperature coefficients of ferrite and NdFeB in makers' data.
        """
        rise = np.minimum(winding_c, CLAMP_C) - REFERENCE_C
        fall = np.minimum(magnet_c, CLAMP_C) - REFERENCE_C
        return MotorConstants(
            resistance_ohm=self.resistance_ohm * (1.0 + COPPER_ALPHA_PER_K * rise),
            k_v_s=self.k_v_s * (1.0 - MAGNET_PER_K[self.magnet] * fall),
            no_load_a=self.no_load_a,
            rated_a=self.rated_a,
            rated_copper_w=self.rated_copper_w,
            rated_other_w=self.rated_other_w,
            magnet=self.magnet,
            lead_ohm=self.lead_ohm,
        )


def from_nameplate(
    volts_v: Number,
    power_w: Number,
    efficiency: Number,
    copper_share: float,
    *,
    speed_rpm: Number | None = None,
    no_load_rpm: Number | None = None,
    kv_rpm_per_v: Number | None = None,
    no_load_v: Number | None = None,
    resistance_ohm: Number | None = None,
    no_load_a: Number | None = None,
    magnet: str = "ferrite",
) -> MotorConstants:
    """Motor constants from a plate: volts [V], shaft power [W], efficiency [1] and one of the speeds [rpm], or Kv [rpm/V].

    no_load_v: volts at which the no-load speed holds, where it was not read at the plate's [V]. A measured winding
    resistance [Ω] or no-load current [A] takes the place of what the plate's losses suggest.

    `I_r = P/(Vη)`, `R = c·loss/I_r²`, `k = (V − I_r R)/ω_r`, `I_0 = (1−c)·loss/(k ω_r)`; from a no-load speed
    `I_0 = (1−c)·loss/(V − I_r R)`, `k = (V − I_0 R)/ω_0`; from Kv `k = 60/(2π Kv)`.

    >>> m = from_nameplate(24, 280, 0.77, 0.6, speed_rpm=2700)
    >>> round(float(m.resistance_ohm), 4), round(float(m.k_v_s), 5)
    (0.2186, 0.07317)

    Source: the DC machine equations; the split of the loss is this project's assumption.
    Raises GeckoError when no speed is given.
    """
    rated = power_w / (volts_v * efficiency)
    loss = volts_v * rated - power_w
    copper, other = copper_share * loss, (1.0 - copper_share) * loss
    resistance = copper / rated**2 if resistance_ohm is None else resistance_ohm
    # A resistance that would eat more than the rated volts is not that of this plate; the speed must stay above zero.
    back = np.maximum(volts_v - rated * resistance, 0.05 * volts_v)
    no_load = other / back if no_load_a is None else no_load_a
    copper, other = rated**2 * resistance, no_load * back
    if speed_rpm is not None:
        k = back / (speed_rpm * 2.0 * np.pi / 60.0)
    elif no_load_rpm is not None:
        at_v = volts_v if no_load_v is None else no_load_v
        k = np.maximum(at_v - no_load * resistance, 0.05 * at_v) / (no_load_rpm * 2.0 * np.pi / 60.0)
    elif kv_rpm_per_v is not None:
        k = 60.0 / (2.0 * np.pi * kv_rpm_per_v)
    else:
        raise GeckoError("Enter a motor speed: rated rpm, no-load rpm, or Kv.", path="/motor/speed_rpm")
    return MotorConstants(resistance_ohm=resistance, k_v_s=k, no_load_a=no_load, rated_a=rated, rated_copper_w=copper, rated_other_w=other, magnet=magnet)


def power_from_resistance(volts_v: Number, resistance_ohm: Number, efficiency: Number, copper_share: float) -> Number:
    """Rated power of a motor whose plate keeps silent about it, from its winding: `c·V(1−η)/I = R` gives I, and P = V·I·η. [W]

    >>> round(float(power_from_resistance(24, 0.2186, 0.77, 0.6)))
    280

    Derived here: a share c of the loss V·I·(1 − η) is I²·R.
    """
    return volts_v * (copper_share * volts_v * (1.0 - efficiency) / resistance_ohm) * efficiency


def combine(motor: MotorConstants, count: int, wiring: str) -> MotorConstants:
    """Two motors as one equivalent, before its leads: parallel `R/n, k, n·I0`; series `n·R, n·k, I0` [Ω, V·s, A].

    Rated losses stay those of one.

    Source: Kirchhoff's laws; in series one current makes both torques, in parallel each takes half.
    """
    if count == 1 or wiring == "single":
        return motor
    r, k, i0 = motor.resistance_ohm, motor.k_v_s, motor.no_load_a
    if wiring == "parallel":
        r, i0 = r / count, i0 * count
    else:
        r, k = r * count, k * count
    return MotorConstants(
        resistance_ohm=r, k_v_s=k, no_load_a=i0, rated_a=motor.rated_a, rated_copper_w=motor.rated_copper_w, rated_other_w=motor.rated_other_w, magnet=motor.magnet
    )


def default_mass_kg(kind: str, power_w: Number) -> Number:
    """Mass of one motor when unknown. [kg] Source: this project's planning values.

    >>> round(default_mass_kg("brushed", 300.0), 3)
    2.0
    """
    if kind == "small gear motor":
        return 0.22
    if kind == "brushed":
        return power_w / 150.0
    return np.where(np.asarray(power_w) <= 1000, power_w / 120.0, 1000 / 120.0 + (power_w - 1000) / 250.0)
