"""What two meter readings and a timed discharge tell of a pack."""

from __future__ import annotations

from dataclasses import dataclass

from gecko.common.errors import GeckoError
from gecko.document.parts.pack import Pack
from gecko.physics.electric.bank import charge_at_volts, cold_share, low_charge_factor, temperature_factor

METER_V = 0.01
"""Last digit of a hobby meter on its 200 V range; each of two readings may be off by one. [V]"""

LEAST_SPREAD = 0.02
"""A measured figure is never counted better than this. [1]"""


@dataclass(frozen=True)
class Measured:
    """A figure found by measuring, its relative spread [1], and a sentence about its doubt where there is one."""

    value: float
    spread: float
    doubt: str = ""


def resistance_ohm(pack: Pack, rest_v: float, load_v: float, amps_a: float, temp_c: float) -> Measured:
    """Resistance at 25 °C and half charge from volts at rest and under a known load. [Ω]

    `R = (V_rest − V_load)/I`, freed of what the pack's charge and temperature made of it. Take the reading under load after about ten
    seconds. temp_c [°C]. Raises GeckoError where the readings cannot be.
    """
    if amps_a <= 0:
        raise GeckoError("Enter the amps of the load, more than zero.", path="/amps_a")
    if load_v >= rest_v:
        raise GeckoError("Under load the volts must be lower than at rest: were the two readings swapped?", path="/load_v")
    drop = rest_v - load_v
    charge = float(charge_at_volts(pack.chemistry, rest_v / pack.cells_in_series))
    factor = temperature_factor(pack.chemistry, temp_c) * float(low_charge_factor(charge))
    doubt = ""
    spread = (2.0**0.5) * METER_V / drop
    if spread > 0.05:
        doubt = f"The volts fell by only {drop:.2f} V, a few digits of the meter: use a bigger load for a better figure."
    elif drop > 0.3 * rest_v:
        doubt = "The volts fell by more than a third: the pack is nearly empty, very cold or worn out, or a contact is bad. Measure again charged and warm."
    return Measured(drop / amps_a / factor, max(spread, LEAST_SPREAD), doubt)


def capacity_ah(pack: Pack, amps_a: float, seconds_s: float, start_charge: float, end_charge: float, temp_c: float) -> Measured:
    """Rated capacity from a timed discharge with steady amps between two states of charge. [Ah]

    Lithium: `I·t/(s0 − s1)`. Lead by Peukert, turned round: what was given at these amps belongs to a larger rated capacity,
    `C = (Q·(20·I)^(k−1))^(1/k)`. Cold gives less, so the figure is freed of it. Raises GeckoError where the test cannot be.
    """
    if amps_a <= 0 or seconds_s <= 0:
        raise GeckoError("Enter amps and time of the discharge, both more than zero.", path="/amps_a")
    if start_charge - end_charge < 0.1:
        raise GeckoError("Discharge at least a tenth of the charge: less tells nothing.", path="/end_charge")
    given = amps_a * seconds_s / 3600.0 / (start_charge - end_charge)
    given /= cold_share(temp_c)
    if pack.chemistry == "lead":
        k = pack.peukert_exponent.value if pack.peukert_exponent else 1.15
        given = max(given, (given * (20.0 * amps_a) ** (k - 1.0)) ** (1.0 / k))
    share = start_charge - end_charge
    doubt = "" if share >= 0.6 else f"Only {100 * share:.0f} % of the charge was used: the longer the test, the better the figure."
    return Measured(given, max(LEAST_SPREAD, 0.02 / share), doubt)
