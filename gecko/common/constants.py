"""Physical constants and the few numbers the whole core shares. Sources are given beside each."""

GRAVITY_M_S2 = 9.81
"""Standard planning value of gravity. [m/s²]"""

AIR_DENSITY_KG_M3 = 1.2
"""Air at 20 °C and sea level, rounded. [kg/m³]"""

COPPER_ALPHA_PER_K = 0.00393
"""Temperature coefficient of annealed copper at 20 °C (IEC 60028). [1/K]"""

COPPER_RHO20_OHM_M = 1.724e-8
"""Resistivity of annealed copper at 20 °C (IEC 60028). [Ω·m]"""

COPPER_DENSITY_KG_M3 = 8960.0
"""Density of copper. [kg/m³]"""

COPPER_HEAT_J_KGK = 385.0
"""Specific heat of copper. [J/(kg·K)]"""

REFERENCE_C = 25.0
"""Temperature at which part resistances and motor constants are given. [°C]"""

SHOCK_VOLTS_V = 60.0
"""Above this a bank is a shock hazard when touched (extra-low-voltage limit for dry conditions). [V]"""

REFUSED_VOLTS_V = 120.0
"""Banks fuller than this are outside of what this product plans. [V]"""
