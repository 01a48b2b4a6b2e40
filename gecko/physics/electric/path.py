"""Resistance of the path from the bank to the controller."""

from __future__ import annotations

import numpy as np

from gecko.common.constants import COPPER_ALPHA_PER_K, COPPER_RHO20_OHM_M
from gecko.common.figures import N

LEAST_PATH_OHM = 1e-6
"""A path is never better than this. [Ω]"""

FUSE_DROP_V = 0.07
"""Cold volts across a fuse at its rating: `R = 0.07 V / rating`. Source: this project's planning value. [V]"""


def awg_diameter_m(awg: int) -> float:
    """Diameter of a solid conductor, `0.127 mm · 92^((36−n)/39)` (ASTM B258; stranded within ±2 %). [m]

    >>> round(awg_diameter_m(10) * 1000, 3)
    2.588

    Source: ASTM B258.
    """
    return float(0.127e-3 * 92.0 ** ((36 - awg) / 39.0))


def awg_area_m2(awg: int) -> float:
    """Copper area of a gauge. [m²]

    >>> round(awg_area_m2(12) * 1e6, 3)
    3.309

    Source: ASTM B258, the circle of `awg_diameter_m`.
    """
    return float(np.pi / 4.0 * awg_diameter_m(awg) ** 2)


def wire_ohm_per_m(awg: int, copper_c: float = 20.0) -> float:
    """Resistance of one metre of copper wire at `copper_c` °C. [Ω/m]

    >>> round(float(wire_ohm_per_m(12)) * 1000, 3)
    5.21

    Source: ρ20 and α of annealed copper, IEC 60028; area by ASTM B258.
    """
    return copper_ohm_per_m(awg_area_m2(awg), copper_c)


def copper_ohm_per_m(area_m2: N, copper_c: float = 20.0) -> N:
    """Resistance of one metre of copper of a cross-section [m²] at `copper_c` °C. [Ω/m]

    >>> round(float(copper_ohm_per_m(4e-6)) * 1000, 2)
    4.31

    Source: ρ20 and α of annealed copper, IEC 60028.
    """
    return COPPER_RHO20_OHM_M / area_m2 * (1.0 + COPPER_ALPHA_PER_K * (copper_c - 20.0))


def fuse_ohm(rating_a: N) -> N:
    """Cold resistance of a fuse, `0.07 V / rating`. [Ω]

    >>> round(fuse_ohm(30.0) * 1000, 2)
    2.33

    Source: this project's planning value, the cold volts drop of blade fuses at their rating.
    """
    return FUSE_DROP_V / rating_a
