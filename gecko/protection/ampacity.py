"""How many amps a wire stands: table, ambient, bundle."""

from __future__ import annotations

from math import sqrt

from gecko.reference.tables import ampacity_row

INSULATION_C: dict[str, float] = {"60": 60.0, "75": 75.0, "105": 105.0, "silicone": 200.0, "building": 60.0}
"""Rating of each insulation row. [°C]"""


def bundle_factor(conductors: int) -> float:
    """Factor for wires lying tight together: 2–3 ×0.7, 4–6 ×0.6, 7+ ×0.5. [1]

    >>> bundle_factor(3)
    0.7

    Source: common derating practice, this project's planning value.
    """
    if conductors <= 1:
        return 1.0
    return 0.7 if conductors <= 3 else 0.6 if conductors <= 6 else 0.5


def ambient_factor(insulation_c: float, air_c: float) -> float:
    """Factor for warm air, `√((T_ins − T_a)/(T_ins − 30))`, 1 below 30 °C, 0 at and above the rating. [1]

    >>> round(ambient_factor(105, 40), 4)
    0.9309
    """
    if air_c <= 30.0:
        return 1.0
    return 0.0 if air_c >= insulation_c else sqrt((insulation_c - air_c) / (insulation_c - 30.0))


def decision_row(insulation: str, lugged_ends: bool = False) -> str:
    """Ampacity row that counts in the decision: silicone counts as 105 [°C] unless both ends are lugs."""
    return "105" if insulation == "silicone" and not lugged_ends else insulation


def derated_ampacity_a(awg: int, row: str, air_c: float, conductors: int) -> float:
    """Ampacity of a gauge after ambient and bundle. [A]

    >>> round(derated_ampacity_a(12, "105", 35, 1), 2)
    43.47
    """
    return ampacity_row(row)[awg] * bundle_factor(conductors) * ambient_factor(INSULATION_C[row], air_c)
