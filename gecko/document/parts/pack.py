"""A pack: one battery unit, such as a tool pack or a 12 V lead block."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated, Literal

from pydantic import Field

from gecko.common.documents import Document
from gecko.common.figures import Figure
from gecko.document.parts.adapter import Adapter
from gecko.document.parts.bounds import Within
from gecko.document.parts.held import Held

Chemistry = Literal["li-ion", "lfp", "lead", "nickel"]
CellKind = Literal["power", "energy"]
Damage = Literal["swollen", "dropped", "wet", "opened"]

NOMINAL_PER_CELL_V: dict[Chemistry, float] = {"li-ion": 3.60, "lfp": 3.20, "lead": 2.00, "nickel": 1.20}
FULL_PER_CELL_V: dict[Chemistry, float] = {"li-ion": 4.20, "lfp": 3.65, "lead": 2.40, "nickel": 1.50}
REST_FULL_PER_CELL_V: dict[Chemistry, float] = {"li-ion": 4.20, "lfp": 3.65, "lead": 2.13, "nickel": 1.40}
SPENT_PER_CELL_V: dict[Chemistry, float] = {"li-ion": 2.5, "lfp": 2.0, "lead": 1.75, "nickel": 1.0}
"""A cell that rests below this is spent. [V] Source: the usual discharge limits of cell data sheets; lead: 10.5 V of a 12 V block; nickel: a cell that
rests below 1 V has one beside it that is reversed or shorted. At rest a sound cell stands well above them."""
BOARD_CUT_OFF_V: dict[Chemistry, float] = {"li-ion": 2.8, "lfp": 2.3}
BOARD_CUT_OFF_SPREAD = 0.05
"""Volts of a cell at which a board of unstated level usually opens, and how well that is known, one standard deviation. [V, 1] Source: this project's
planning values."""
EMPTY_PER_CELL_V: dict[Chemistry, float] = {"li-ion": 3.00, "lfp": 2.50, "lead": 1.75, "nickel": 1.00}
"""Window per cell. "Full" is the charging end volts (lead 2.40), "rest full" the volts after charging (lead 2.13). [V] Nickel: 1.0 V is the end of a
rated discharge in IEC 61951-2; 1.5 V is what a cell shows while a charger fills it, this project's planning value."""

GUARD_FLOOR_PER_CELL_V: dict[Chemistry, float] = {"li-ion": 3.00, "lfp": 2.60, "lead": 1.75, "nickel": 1.00}
"""Lowest sensible low-volt guard per cell. [V]"""


WH_PER_KG: dict[Chemistry, float] = {"li-ion": 135.0, "lfp": 90.0, "lead": 34.0, "nickel": 52.0}
"""Energy of whole packs by mass, shell included [Wh/kg]. Source: this project's planning values, from common sizes."""


class Pack(Held):
    """One battery unit with what its label tells."""

    label: str = Field(default="Pack", max_length=60)
    """What you call it, such as "5-cell tool pack, 5 Ah"."""
    chemistry: Chemistry = "li-ion"
    """Li-ion (most tool packs), LFP, lead, or nickel (NiMH or NiCd: old tool packs, toy packs)."""
    cells_in_series: int = Field(ge=1, le=32)
    """Cells in series. A pack sold as 18 V or "20 V max" has 5; 12 V lead has 6, 12 V nickel 10."""
    cell_kind: CellKind = "power"
    """Power cells (tool packs) or energy cells (scooter packs); sets the assumed resistance."""
    capacity_ah: Annotated[Figure, Within("pack.capacity_ah")]
    """Capacity on the label, in amp-hours."""
    resistance_ohm: Annotated[Figure, Within("pack.resistance_ohm")] | None = None
    """Inner resistance of the whole pack at 25 °C and half charge. Empty: assumed from cells and capacity."""
    continuous_a: Annotated[Figure, Within("pack.continuous_a")] | None = None
    """Amps it may give without a break."""
    peak_10s_a: Annotated[Figure, Within("pack.peak_10s_a")] | None = None
    """Amps it may give for ten seconds."""
    trip_a: Annotated[Figure, Within("pack.trip_a")] | None = None
    """Amps at which its own protection switches it off. Empty: none, or not known."""
    trip_delay_s: Annotated[Figure, Within("pack.trip_delay_s")] | None = None
    """How long it bears more than the trip amps before it switches off. Empty: 1 s assumed."""
    protection_low_v: Annotated[Figure, Within("pack.protection_low_v")] | None = None
    """Volts of the whole pack at which its own protection switches it off. Empty: none."""
    guard_in_tool: bool = True
    """The tool, not the pack, stops a deep discharge: true for most tool packs. Then a low-volt guard is needed."""
    charge_limit_a: Annotated[Figure, Within("pack.charge_limit_a")] | None = None
    """Most amps it may be charged with. Empty: capacity × 1 per hour for lithium, × 0.25 for lead, × 0.5 for nickel."""
    resting_v: Annotated[Figure, Within("pack.resting_v")] | None = None
    """Volts measured now, at rest, before joining."""
    peukert_exponent: Annotated[Figure, Within("pack.peukert_exponent")] | None = None
    """Lead only: how much a hard pull shrinks its capacity. Empty: 1.15 for sealed lead."""
    age: Literal["new", "used", "worn", "unknown"] = "unknown"
    """How worn it is, as far as known. Used and worn packs count with less than their label, until measured."""
    charge: Annotated[Figure, Within("pack.charge")] | None = None
    """State of charge now, 0 to 1. Empty: from its resting volts, else full."""
    temp_c: Annotated[float, Within("pack.temp_c")] | None = None
    """Temperature of this pack. Empty: as all packs."""
    charge_only_guard: bool = False
    """Its own board guards the charging only: it does not stop a deep discharge."""
    own_charger: bool = False
    """It has a charger of its own and is charged apart from the others of its row."""
    bypass_link: bool = False
    """A link can bypass it, so that the machine runs without it."""
    adapter: Adapter | None = None
    """The adapter or dock it sits in."""
    made: Literal["tool pack", "bought", "home-built", "bare cells"] | None = None
    """Who made it: a tool's pack, another bought one, welded at home, or bare cells without a case. Empty: as its guard tells."""
    board: bool | None = None
    """It has a protection board of its own. Empty: as its other figures tell."""
    board_max_v: Annotated[Figure, Within("pack.board_max_v")] | None = None
    """Volts its board's switches stand when they open: of the whole string, not of this pack. Empty: not known."""
    short_cut_off_a: Annotated[Figure, Within("pack.short_cut_off_a")] | None = None
    """Amps at which its own board opens a dead short at once, where that is stated. Empty: not stated."""
    damage: list[Damage] = Field(default=[], max_length=4)
    """What happened to it: swollen, dropped, wet, or opened."""
    length_m: Annotated[Figure, Within("pack.length_m")] | None = None
    """Its longest side."""
    width_m: Annotated[Figure, Within("pack.width_m")] | None = None
    """Its second side."""
    height_m: Annotated[Figure, Within("pack.height_m")] | None = None
    """Its third side, with its own terminals."""
    mass_kg: Annotated[Figure, Within("pack.mass_kg")] | None = None
    """Its mass. Empty: from capacity and volts."""

    @property
    def low_cut_off_v(self) -> float | None:
        """Volts at which its own protection ends a discharge; None without one, or when it guards charging only. [V]"""
        return None if self.protection_low_v is None or self.charge_only_guard else float(self.protection_low_v.value)

    @property
    def lithium(self) -> bool:
        """Whether its cells must be saved from being drained, overcharged and charged in the frost, and burn where they are not."""
        return self.chemistry in ("li-ion", "lfp")

    @property
    def usual_cut_off(self) -> Figure | None:
        """Where a board whose low cut-off nobody stated usually ends a discharge; None where it is stated, or no board does. [V]"""
        if not self.lithium or not self.has_board or self.charge_only_guard or self.protection_low_v is not None:
            return None
        return Figure(value=self.cells_in_series * BOARD_CUT_OFF_V[self.chemistry], basis="assumed", spread=BOARD_CUT_OFF_SPREAD)

    @property
    def has_board(self) -> bool:
        """Whether a board of its own can open it: it says so, or has a low cut-off or a trip that is not the tool's."""
        if self.board is not None:
            return self.board
        return self.low_cut_off_v is not None or self.charge_only_guard or (self.trips_a is not None and not self.guard_in_tool)

    @property
    def homemade(self) -> bool:
        """Whether it is welded at home or bare: nobody but its builder vouches for it."""
        return self.made in ("home-built", "bare cells")

    @property
    def unguarded(self) -> bool:
        """A lithium pack that nothing of its own saves from being drained: the tool did, or its board guards charging only."""
        return self.lithium and self.low_cut_off_v is None and (self.guard_in_tool or self.charge_only_guard)

    @property
    def trips_a(self) -> float | None:
        """Amps at which its own protection opens; None without one, or when it guards charging only. [A]"""
        return None if self.trip_a is None or self.charge_only_guard else float(self.trip_a.value)

    @property
    def nominal_v(self) -> float:
        """Nominal volts of the pack. [V]"""
        return self.cells_in_series * NOMINAL_PER_CELL_V[self.chemistry]

    @property
    def weighs_kg(self) -> float:
        """Mass: entered, else from its energy. [kg]"""
        if self.mass_kg is not None:
            return float(self.mass_kg.value)
        return float(self.capacity_ah.value) * self.nominal_v / WH_PER_KG[self.chemistry]

    @property
    def full_v(self) -> float:
        """Volts at the end of charging, which every part must stand. [V]"""
        return self.cells_in_series * FULL_PER_CELL_V[self.chemistry]

    @property
    def spent_v(self) -> float:
        """Resting volts below which it is spent. [V]"""
        return self.cells_in_series * SPENT_PER_CELL_V[self.chemistry]

    @property
    def is_spent(self) -> bool:
        """Whether it reads less than a living pack can."""
        return self.resting_v is not None and self.resting_v.value < self.spent_v

    @property
    def empty_v(self) -> float:
        """Volts under load at which the pack counts as empty. [V]"""
        return self.cells_in_series * EMPTY_PER_CELL_V[self.chemistry]


OF_THE_MOMENT = ("resting_v", "charge", "temp_c")
"""What a pack is like just now; tomorrow, or in another of its kind, it is something else."""

_OF_ONE_ALONE = ("rack", "age", "damage")
"""What is known of one pack and says nothing of the next."""

_NOT_COMPUTED = ("rack", "ends", "holes", "label", "resting_v", "charge", "own_charger", "bypass_link", "length_m", "width_m", "height_m", "mass_kg")
"""What tells packs apart that compute alike in a row: names, places, what they weigh, and the charge each starts from."""


def as_kind(pack: Pack) -> Document:
    """The fields by which a pack computes: packs equal in these are alike."""
    return {name: value for name, value in pack if name not in _NOT_COMPUTED}


def same_cells(packs: Sequence[Pack]) -> bool:
    """Whether packs have equally many cells of one chemistry, and so the same volts at the same charge."""
    return len({(pack.chemistry, pack.cells_in_series) for pack in packs}) <= 1


def match_in_series(packs: Sequence[Pack]) -> bool:
    """Whether packs may share a row: the same cells and amp-hours, so that none is empty while the others push on."""
    return same_cells(packs) and len({pack.capacity_ah.value for pack in packs}) <= 1


def another(pack: Pack) -> Pack:
    """One more of its kind, as it comes off the shelf: what is of the moment, what happened to it and what was measured on it stay its own.

    A capacity that was measured is the best guess of the next one's, and no more than that.

    >>> one = Pack(cells_in_series=5, capacity_ah=Figure(value=4.2, basis="measured"), resting_v=Figure(value=19.1, basis="measured"), age="worn")
    >>> another(one).capacity_ah.basis, another(one).resting_v, another(one).age
    ('assumed', None, 'unknown')
    """
    fresh = {name: field.get_default(call_default_factory=True) for name, field in Pack.model_fields.items() if name in (*OF_THE_MOMENT, *_OF_ONE_ALONE)}
    measured = {name: None for name, value in pack if isinstance(value, Figure) and value.basis == "measured"}
    capacity = {"capacity_ah": Figure(value=pack.capacity_ah.value, basis="assumed")} if "capacity_ah" in measured else {}
    # One bought beside a new one is new, too; of a used one nothing follows.
    return pack.model_copy(update={**measured, **fresh, **capacity, "age": "new" if pack.age == "new" else fresh["age"]})


def default_resistance_ohm(pack: Pack) -> float:
    """Assumed inner resistance of a pack at 25 °C, mid charge. [Ω]

    Source: this project's planning values; a 10 s pulse. What current that flows for minutes meets beside it is `held_factor`.
    """
    n, capacity = pack.cells_in_series, float(pack.capacity_ah.value)
    if pack.chemistry == "lead":
        return (n / 6.0) * (0.20 / capacity + 0.004)
    per_cell = {"power": 0.050, "energy": 0.090}[pack.cell_kind] if pack.chemistry == "li-ion" else 0.060 if pack.chemistry == "lfp" else 0.025
    return n * per_cell / capacity + 0.010


HELD: dict[str, tuple[float, float]] = {"power": (1.6, 50.0), "energy": (1.8, 80.0), "lfp": (1.4, 60.0), "lead": (1.3, 120.0), "nickel": (1.4, 60.0)}
"""Resistance while current flows for minutes over that of a 10 s pulse, and its time constant, by kind of cell [1, s]. Source: power and energy cells after
discharges at 0.5 to 2 C computed with published parameters of such cells (gecko/tests/cells); LFP, lead and nickel are this project's planning values."""


def held_factor(pack: Pack) -> tuple[Figure, float]:
    """By how much of a 10 s pulse's resistance it grows while current flows for minutes [1], and the time constant of that [s]."""
    grows, seconds = HELD[pack.cell_kind if pack.chemistry == "li-ion" else pack.chemistry]
    return Figure(value=grows - 1.0, basis="assumed"), seconds


AGED: dict[str, tuple[float, float]] = {"new": (1.0, 1.0), "unknown": (1.0, 1.0), "used": (0.92, 1.15), "worn": (0.80, 1.60)}
"""What age leaves of the label's capacity, and what it makes of the resistance [1]. Source: 80 % of the rated capacity is the end of
life in battery standards (IEC 61960, IEEE 1188); the rest is this project's planning value. Measured figures are left alone."""


def _aged(figure: Figure, factor: float) -> Figure:
    return figure if figure.basis == "measured" or factor == 1.0 else figure.model_copy(update={"value": figure.value * factor})


def capacity_figure(pack: Pack) -> Figure:
    """Capacity of the pack as a figure: the label's, less what its age took; as measured where it was. [Ah]"""
    return _aged(pack.capacity_ah, AGED[pack.age][0])


def resistance_figure(pack: Pack) -> Figure:
    """Resistance of the pack as a figure: the entered one, or the default with basis assumed; more with age, unless measured. [Ω]"""
    return _aged(pack.resistance_ohm or Figure(value=default_resistance_ohm(pack), basis="assumed"), AGED[pack.age][1])


USUAL_C: dict[str, tuple[float, float]] = {"power": (5.0, 8.0), "energy": (2.0, 3.5), "lfp": (2.0, 4.0), "lead": (3.0, 10.0), "nickel": (4.0, 8.0)}
"""What packs usually give, for good and for ten seconds, over their amp-hours, by kind of cell [1/h]. Source: this project's planning values, the low
side of what labels of such packs state."""


def usual_limits_a(pack: Pack) -> tuple[float, float]:
    """Amps for good and for ten seconds a pack may be trusted with: stated, else by the one that is, else what such cells usually give. [A]

    >>> usual_limits_a(Pack(cells_in_series=10, capacity_ah=Figure(value=2.0, basis="nameplate")))
    (10.0, 16.0)
    """
    steady_c, peak_c = USUAL_C[pack.cell_kind if pack.chemistry == "li-ion" else pack.chemistry]
    steady, peak = pack.continuous_a, pack.peak_10s_a
    if steady is None and peak is None:
        return steady_c * float(pack.capacity_ah.value), peak_c * float(pack.capacity_ah.value)
    lasting = float(steady.value) if steady else float(peak.value) * steady_c / peak_c if peak else 0.0
    return lasting, float(peak.value) if peak else lasting * peak_c / steady_c


CONTACT_OHM = 0.0015
"""One contact of an adapter when nothing is known [Ω]. Source: this project's planning value."""


def adapter_ohm(pack: Pack) -> float:
    """Resistance of the pack's adapter or dock: two contacts and its leads, out and back. [Ω]"""
    if pack.adapter is None:
        return 0.0
    contact = pack.adapter.contact_ohm.value if pack.adapter.contact_ohm else CONTACT_OHM
    return 2.0 * contact + (pack.adapter.lead.ohm if pack.adapter.lead else 0.0)


def charge_limit_a(pack: Pack) -> float:
    """Most amps the pack may be charged with: entered, else 1 C for lithium, 0.25 C for lead and 0.5 C for nickel (assumed). [A]"""
    if pack.charge_limit_a is not None:
        return float(pack.charge_limit_a.value)
    return float(pack.capacity_ah.value) * (1.0 if pack.lithium else 0.25 if pack.chemistry == "lead" else 0.5)
