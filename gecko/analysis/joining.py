"""Which rows may be joined as they rest now, what would flow, and how near their volts must be."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import combinations

from gecko.analysis.state import charges_now, joint_ohm, model_of
from gecko.document.parts.pack import charge_limit_a
from gecko.document.parts.rider import Ground
from gecko.document.setup import Bank
from gecko.physics.electric.bank import unit_ohm, unit_volts_v
from gecko.physics.electric.joining import Joining, join_rows


@dataclass(frozen=True, kw_only=True)
class Pair:
    """Two rows at rest: their numbers, volts [V], first current [A], what the lower one may be charged with [A], ohms in all [Ω]."""

    high: int
    low: int
    high_v: float
    low_v: float
    first_a: float
    allowed_a: float
    ohm: float

    @property
    def within_v(self) -> float:
        """Volts by which they may differ when joined. [V]"""
        return self.allowed_a * self.ohm


@dataclass(frozen=True)
class Rush:
    """What flows into a row at the moment all rows are joined at once, and what it may be charged with. [A]"""

    row: int
    amps_a: float
    allowed_a: float


def _at_rest(bank: Bank | None, ground: Ground) -> list[tuple[int, float, float]]:
    """Every row whose charge is known: its number, volts [V] and ohms at rest [Ω]."""
    if bank is None:
        return []
    temp = ground.ambient_c if ground.pack_c is None else ground.pack_c
    at_rest = []
    for r, row in enumerate(bank.rows):
        charges = charges_now(row)
        if charges is not None:
            units = model_of(row).units
            # Volts that were measured count before volts derived from the charge.
            read = [unit.resting_v.value if unit.resting_v and not unit.charge else None for unit in row.units]
            volts = sum(v if v is not None else float(unit_volts_v(u, s)) for v, u, s in zip(read, units, charges, strict=True))
            at_rest.append((r, volts, sum(float(unit_ohm(u, s, temp)) for u, s in zip(units, charges, strict=True))))
    return at_rest


def rushes(bank: Bank | None, ground: Ground) -> list[Rush]:
    """What flows into each row where more than two are joined at once: each by its own volts and ohms against the bus they share,
    `V = Σ(V_i/R_i)/Σ(1/R_i)`. [A] Source: Kirchhoff's current law."""
    at_rest = _at_rest(bank, ground)
    if bank is None or len(at_rest) < 3:
        return []
    ohms = [ohm + joint_ohm(bank.rows[r], bank.rows[r]) / 2.0 for r, _, ohm in at_rest]
    bus_v = sum(volts / ohm for (_, volts, _), ohm in zip(at_rest, ohms, strict=True)) / sum(1.0 / ohm for ohm in ohms)
    return [
        Rush(r, (bus_v - volts) / ohm, min(charge_limit_a(unit) for unit in bank.rows[r].units))
        for (r, volts, _), ohm in zip(at_rest, ohms, strict=True)
        if bus_v > volts
    ]


def pairs(bank: Bank | None, ground: Ground) -> list[Pair]:
    """Every two rows whose charge is known, the fuller first."""
    found: list[Pair] = []
    if bank is None:
        return found
    for one, other in combinations(_at_rest(bank, ground), 2):
        (high, high_v, high_ohm), (low, low_v, low_ohm) = (one, other) if one[1] >= other[1] else (other, one)
        ohm = high_ohm + low_ohm + joint_ohm(bank.rows[high], bank.rows[low])
        allowed = min(charge_limit_a(unit) for unit in bank.rows[low].units)
        found.append(Pair(high=high, low=low, high_v=high_v, low_v=low_v, first_a=(high_v - low_v) / ohm, allowed_a=allowed, ohm=ohm))
    return found


def worst_joining(bank: Bank | None, ground: Ground) -> Pair | None:
    """The two rows between which most would flow for what the lower one stands, or None."""
    return max(pairs(bank, ground), key=lambda pair: pair.first_a / pair.allowed_a, default=None)


def flow(bank: Bank, ground: Ground, pair: Pair) -> Joining:
    """How the flow between two rows dies away."""
    high, low = bank.rows[pair.high], bank.rows[pair.low]
    charges = charges_now(high), charges_now(low)
    assert charges[0] is not None and charges[1] is not None
    temp = ground.ambient_c if ground.pack_c is None else ground.pack_c
    return join_rows(model_of(high), model_of(low), charges[0], charges[1], joint_ohm(high, low), temp)
