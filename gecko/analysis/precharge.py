"""The spark of empty capacitors, and the resistor that spares the plug from it."""

from __future__ import annotations

from gecko.analysis.riding import Riding
from gecko.answers.evaluation import Out
from gecko.document.parts.controller import Controller

FARAD_PER_A = 1e-3 / 20.0
"""Input capacitors when unknown: 1 000 µF for each 20 A of the bank-side limit [F/A]. Source: this project's planning value."""

CAPACITOR_OHM = 0.020
"""A controller's capacitors and their feet [Ω]. Source: this project's planning value."""

UNKNOWN_LOOP_OHM = 0.08
"""Packs and leads together while they are not known. [Ω] Source: this project's planning value."""

START_A = 0.5
"""Amps a pre-charge should begin with, gentle to contacts and fingers. [A] Source: this project's planning value."""

E12 = (10, 12, 15, 18, 22, 27, 33, 39, 47, 56, 68, 82, 100, 120, 150, 180, 220, 270, 330, 390, 470)
"""Resistors one can buy, series E12 of IEC 60063. [Ω]"""

WATTS = (0.5, 1.0, 2.0, 3.0, 5.0, 10.0, 25.0)
"""Power ratings one can buy. [W]"""

OVERLOAD = 5.0
"""A wirewound resistor stands this many times its rating for a few seconds (short-time overload as IEC 60115 tests it). [1]"""


class Precharge(Out):
    """The spark of empty capacitors, and the resistor against it."""

    capacitance_f: float
    assumed: bool
    """The capacitance is a guess from the controller's limit."""
    spark_a: float
    energy_j: float
    resistor_ohm: float
    peak_w: float
    rated_w: float
    seconds_s: float
    """Until they are 99 % full."""


def capacitance_f(control: Controller, limit_a: float) -> float:
    """Input capacitors of a controller: entered, else from its bank-side limit [A]. [F]"""
    return float(control.capacitance_f.value) if control.capacitance_f else FARAD_PER_A * limit_a


def precharge_of(a: Riding) -> Precharge | None:
    """The same of a whole machine; None without a controller. One sum for the finding, the step and the sheet. [Ω, W, s]"""
    control = a.setup.controller
    if control is None or control.kind == "none" or a.full_v is None:
        return None
    loop = float(a.m.source_ohm(a.full)) if a.machine is not None else UNKNOWN_LOOP_OHM
    return precharge(control, a.bank_limit_a, a.full_v, loop + CAPACITOR_OHM)


def resistor_words(found: Precharge) -> str:
    """The resistor as one buys and uses it, with how long: "220 Ω, 2 W resistor for 3 s" [Ω, W, s]."""
    return f"{found.resistor_ohm:g} Ω, {found.rated_w:g} W resistor for {max(2.0 * found.seconds_s, 1.0):.0f} s"


def precharge(control: Controller, limit_a: float, full_v: float, loop_ohm: float) -> Precharge:
    """What plugging in does, bare and through a resistor. full_v [V]; loop_ohm: bank, leads and capacitors [Ω].

    `I = V/R`, `W = ½·C·V²` (as much again heats the resistor), 99 % after `ln(100) ≈ 4.6` time constants `R·C`.
    """
    farad = capacitance_f(control, limit_a)
    ohm = float(next((r for r in E12 if full_v / r <= START_A), E12[-1]))
    peak = full_v * full_v / ohm
    rated = next((w for w in WATTS if w * OVERLOAD >= peak), WATTS[-1])
    return Precharge(
        capacitance_f=farad,
        assumed=control.capacitance_f is None,
        spark_a=full_v / loop_ohm,
        energy_j=0.5 * farad * full_v**2,
        resistor_ohm=ohm,
        peak_w=peak,
        rated_w=rated,
        seconds_s=4.605 * ohm * farad,
    )
