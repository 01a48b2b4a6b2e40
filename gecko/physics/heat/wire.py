"""Heat of a wire under a pulse: copper only, closed form."""

from __future__ import annotations

import numpy as np

from gecko.common.constants import COPPER_ALPHA_PER_K, COPPER_DENSITY_KG_M3, COPPER_HEAT_J_KGK, COPPER_RHO20_OHM_M
from gecko.common.figures import Number
from gecko.common.quadrature import mean_inverse

TABLE_AIR_C = 30.0
"""Air temperature of the ampacity tables. [°C]"""


def seconds_to_insulation(area_m2: Number, current_a: Number, bundled_ampacity_a: Number, insulation_c: float, air_c: float) -> Number:
    """Time until a copper wire carrying `current_a` reaches its insulation rating; inf when it settles below. [s]

    Per metre, copper only. The loss is linear in the rise, such that `bundled_ampacity_a` (table × bundle factor) settles
    at the rating in 30 °C air; resistance follows the copper, so dT/dt = p + q·T with a closed form.
    area_m2 [m²]; starts at `air_c` [°C]. Source: heat balance, this project's assumption for the loss.

    Five times its ampacity:

    >>> round(float(seconds_to_insulation(3.3e-6, 100.0, 20.0, 105.0, 30.0)), 1)
    14.1
    """
    if air_c >= insulation_c:
        return np.zeros(np.broadcast_shapes(np.shape(area_m2), np.shape(current_a)))
    p, q = _balance(area_m2, current_a, bundled_ampacity_a, insulation_c, air_c)
    start, end = p + q * air_c, p + q * insulation_c
    settles = end <= 0
    # dT/dt is linear in T, so the time is the mean of its inverse over the rise.
    return np.where(settles, np.inf, (insulation_c - air_c) * mean_inverse(start, np.where(settles, start, end)))


def _balance(area_m2: Number, current_a: Number, bundled_ampacity_a: Number, insulation_c: float, air_c: float) -> tuple[Number, Number]:
    """`dT/dt = p + q·T` of a wire: p [K/s] and q [1/s]."""
    square = np.square(current_a)
    capacity = area_m2 * COPPER_DENSITY_KG_M3 * COPPER_HEAT_J_KGK
    r20 = COPPER_RHO20_OHM_M / area_m2
    hot = r20 * (1.0 + COPPER_ALPHA_PER_K * (insulation_c - 20.0))
    loss = np.square(bundled_ampacity_a) * hot / (insulation_c - TABLE_AIR_C)
    p = (square * r20 * (1.0 - 20.0 * COPPER_ALPHA_PER_K) + loss * air_c) / capacity
    q = (square * r20 * COPPER_ALPHA_PER_K - loss) / capacity
    return p, q


HOTTEST_C = 1000.0
"""Where a wire runs away the number stands for "far too hot" and stays believable to draw. [°C]"""


def warmed_c(area_m2: float, current_a: float, bundled_ampacity_a: float, insulation_c: float, air_c: float, seconds_s: float) -> float:
    """Copper after a time under a steady current, from air temperature; the balance of `seconds_to_insulation`. [°C]

    Derived here: the linear balance over time, T = T_a + (p + q·T_a)·(e^(q·t) − 1)/q.

    With its ampacity it settles at what its insulation stands:

    >>> round(warmed_c(3.3e-6, 20.0, 20.0, 105.0, 30.0, 1e6), 3)
    105.0
    """
    p, q = (float(part) for part in _balance(area_m2, current_a, bundled_ampacity_a, insulation_c, air_c))
    # (e^(q·t) − 1)/q, which is t where q is nothing.
    grown = seconds_s if abs(q) * seconds_s < 1e-9 else float(np.expm1(min(q * seconds_s, 50.0))) / q
    return float(min(air_c + (p + q * air_c) * grown, HOTTEST_C))


WITHSTAND_S = 5.0
"""The adiabatic withstand holds for shorts up to this long; longer ones give heat off meanwhile (IEC 60364-5-54). [s]"""

WITHSTAND_K = {"pvc": 115.0, "60": 115.0, "75": 115.0, "105": 88.0, "silicone": 123.0}
"""Adiabatic constant k by insulation [A·√s/mm²]. Source: adiabatic equation of IEC 60364-5-54 / 60949."""


def withstand_a2s(area_m2: float, insulation: str) -> float:
    """Energy a wire of a cross-section [m²] withstands in a short circuit, `(k·S)²`, S in mm². [A²s]

    >>> from gecko.physics.electric.path import awg_area_m2
    >>> round(withstand_a2s(awg_area_m2(12), "105"))
    84781

    Source: IEC 60364-5-54, k of copper by insulation.
    """
    return float((WITHSTAND_K[insulation] * area_m2 * 1e6) ** 2)


def settled_c(area_m2: Number, current_a: Number, bundled_ampacity_a: Number, insulation_c: float, air_c: float) -> Number:
    """Temperature a wire settles at under a steady current, inf where it never does. [°C]

    Where `dT/dt = p + q·T` of `seconds_to_insulation` is nothing: −p/q, for q below zero.

    Derived here: the balance at rest.

    With half of its ampacity a quarter of the heat, and less for cooler copper:

    >>> round(float(settled_c(3.3e-6, 10.0, 20.0, 105.0, 30.0)), 1)
    45.5
    """
    p, q = _balance(area_m2, current_a, bundled_ampacity_a, insulation_c, air_c)
    return np.where(q < 0, -p / np.where(q < 0, q, -1.0), np.inf)
