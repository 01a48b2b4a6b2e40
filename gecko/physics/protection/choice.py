"""Fuse and wire: one decision. Every offered fuse against every gauge, each condition with its number."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from gecko.physics.electric.path import copper_ohm_per_m, fuse_ohm
from gecko.physics.heat.wire import seconds_to_insulation, withstand_a2s
from gecko.physics.protection.ampacity import INSULATION_C, Size, bundle_factor, derated_ampacity_a, sizes_with
from gecko.physics.protection.fuse import KIND_ORDER, continuous_limit_a, longest_opening_s, mean_opening_s, nuisance_sum
from gecko.reference.tables import OfferedFuse

CONDITIONS = (
    "continuous",
    "limit_110",
    "nuisance",
    "wire",
    "parts",
    "breaking",
    "withstand",
    "cold_short",
    "volts",
    "drop",
    "selectivity",
)
"""The conditions a cell must meet, by name."""


IN_ORDER = 1.05
"""A row's fuse opens after the main one when the middle of its band is later by more than this. [1] This project's planning value."""


LIMIT_OVER_FUSE = 1.10
"""A controller's limit may be at most so much over the rating of its fuse: what every fuse carries for hours (ISO 8820-3). [1]"""


@dataclass(frozen=True)
class RowFuse:
    """A row's fuse as the main fuse sees it: kind, rating [A], and the largest share of the bank's current it carries [1]."""

    kind: str
    rating_a: float
    share: float


@dataclass(frozen=True, kw_only=True)
class ChoiceInput:
    """What the choice needs to know. Currents in A, volts in V, ohms in Ω, lengths in m, temperatures in °C."""

    continuous_a: float
    reachable_a: float | None
    launch_a: NDArray[np.float64]
    launch_s: NDArray[np.float64]
    row: str
    insulation: str
    conductors: int
    air_c: float
    length_both_ways_m: float
    least_part_a: float | None
    full_v: float
    half_charge_v: float
    warm_open_v: float
    warm_bank_ohm: float
    fault_bank_ohm: float
    cold_open_v: float
    cold_bank_ohm: float
    other_path_ohm: float
    trip_a: float | None
    row_fuses: tuple[RowFuse, ...] = ()
    wire_air_c: float | None = None
    """Air around the lead, where it is not that of the fuse. [°C]"""
    to_fuse_m: float = 0.0
    """Copper between the packs and the fuse, which a short right behind the fuse still sees. [m]"""

    @property
    def lead_air_c(self) -> float:
        """Air around the lead in force. [°C]

        Planning value of this project where none is told: the air a lead lies in is as warm as the ride's.
        """
        return self.air_c if self.wire_air_c is None else self.wire_air_c


@dataclass(frozen=True, kw_only=True)
class ChoiceTable:
    """The whole table: fuses down, gauges across. `fails` maps a condition to a mask (fuses × gauges), by school; `order`
    numbers the cells from the one to take first."""

    fuses: tuple[OfferedFuse, ...]
    sizes: tuple[Size, ...]
    fails: dict[str, NDArray[np.bool_]]
    wire_common: NDArray[np.bool_]
    numbers: dict[str, NDArray[np.float64]]
    measures: dict[str, tuple[NDArray[np.float64], float]]
    order: NDArray[np.int_]

    @property
    def awg(self) -> tuple[int, ...]:
        """Gauges across. [AWG]

        Derived here: as `awg_of`.
        """
        return tuple(size.awg for size in self.sizes)

    def failing(self, school: str) -> dict[str, NDArray[np.bool_]]:
        """Masks by condition under a school: "careful" or "common".

        Derived here: the schools differ in what they ask of the wire alone.
        """
        return self.fails if school == "careful" else {**self.fails, "wire": self.wire_common}

    def feasible(self, school: str) -> NDArray[np.bool_]:
        """Cells that meet every condition. Shape (fuses, gauges).

        Derived here: none of `failing`.
        """
        good: NDArray[np.bool_] = ~np.logical_or.reduce(list(self.failing(school).values()))
        return good

    def recommended(self, school: str) -> tuple[int, int] | None:
        """Row and column of the cell to take, or None when nothing is feasible.

        Cartridges count only where nothing else is feasible; then thinnest wire, simplest kind, smallest rating, lowest volts.
        """
        feasible = self.feasible(school)
        best = int(np.where(feasible, self.order, self.order.size).argmin())
        cell = divmod(best, len(self.sizes))
        return cell if feasible[cell] else None

    def nudged(self, condition: str, factor: float) -> ChoiceTable:
        """The table with one condition's measure scaled by `factor` [1], to see whether a choice hangs by a thread."""
        measure, threshold = self.measures[condition]
        return replace(self, fails={**self.fails, condition: measure * factor >= threshold})

    def blocking(self, school: str) -> list[tuple[str, int]]:
        """When nothing is feasible: conditions by how many cells would become feasible without them, best first."""
        masks = self.failing(school)
        gains = []
        for name in masks:
            rest = np.zeros((len(self.fuses), len(self.sizes)), dtype=bool)
            for other, mask in masks.items():
                if other != name:
                    rest |= mask
            gains.append((name, int((~rest).sum())))
        return sorted(gains, key=lambda pair: -pair[1])


@dataclass(frozen=True, eq=False, kw_only=True)
class _Offer:
    """The part of the table that depends only on the fuses offered, the kind of wire and the air. Fuses down, gauges across."""

    ratings: NDArray[np.float64]
    volts: NDArray[np.float64]
    breaking: NDArray[np.float64]
    fuse_ohm: NDArray[np.float64]
    continuous_a: NDArray[np.float64]
    derated: NDArray[np.float64]
    ohm_per_m: NDArray[np.float64]
    stands: NDArray[np.float64]
    wire_share: NDArray[np.float64]
    groups: tuple[tuple[str, NDArray[np.intp], NDArray[np.float64], NDArray[np.intp]], ...]
    order: NDArray[np.int_]


@lru_cache(maxsize=64)
def _offer(fuses: tuple[OfferedFuse, ...], sizes: tuple[Size, ...], row: str, insulation: str, conductors: int, air_c: float, wire_air_c: float) -> _Offer:
    """Cached: it stays the same while bank, motor or rider are edited."""
    kinds = np.array([KIND_ORDER.index(fuse.kind) for fuse in fuses])
    ratings = np.array([fuse.rating_a for fuse in fuses])[:, None]
    volts = np.array([fuse.dc_volts_v for fuse in fuses])[:, None]
    areas = np.array([size.area_m2 for size in sizes])[None, :]
    ampacities = np.array([size.table_a(row) * bundle_factor(size.in_bundle(conductors)) for size in sizes])[None, :]
    worst = np.zeros((len(fuses), len(sizes)))
    for multiple in (1.35, 2.0):
        longest = np.array([float(longest_opening_s(kind, multiple)) for kind in KIND_ORDER])[kinds][:, None]
        time = seconds_to_insulation(areas, multiple * ratings, ampacities, INSULATION_C[row], wire_air_c)
        worst = np.maximum(worst, np.where(np.isinf(time), 0.0, longest / np.where(time > 0, time, 1e-12)))
    groups = []
    # Large blade, bolt-down and cartridge share one band, so two groups cover every kind.
    for kind, mask in (("blade", kinds == 0), ("large blade", kinds > 0)):
        members = np.nonzero(mask)[0]
        each, back = np.unique(ratings[members, 0], return_inverse=True)
        groups.append((kind, members, each, back))
    gauge = np.broadcast_to(np.arange(len(sizes)), worst.shape).ravel()
    down = [np.broadcast_to(values, worst.shape).ravel() for values in (volts, ratings, kinds[:, None], kinds[:, None] == KIND_ORDER.index("cartridge"))]
    order = np.empty(worst.size, dtype=int)
    order[np.lexsort((down[0], down[1], down[2], gauge, down[3]))] = np.arange(worst.size)
    return _Offer(
        ratings=ratings,
        volts=volts,
        breaking=np.array([fuse.breaking_a for fuse in fuses])[:, None],
        fuse_ohm=fuse_ohm(ratings),
        continuous_a=continuous_limit_a(ratings, air_c),
        derated=np.array([derated_ampacity_a(size, row, wire_air_c, conductors) for size in sizes])[None, :],
        ohm_per_m=copper_ohm_per_m(areas),
        stands=np.array([withstand_a2s(size.area_m2, insulation) for size in sizes])[None, :],
        wire_share=worst,
        groups=tuple(groups),
        order=order.reshape(worst.shape),
    )


def _out_of_order(data: ChoiceInput, fuses: tuple[OfferedFuse, ...], prospective: NDArray[np.float64]) -> NDArray[np.bool_]:
    """Where a row's fuse opens no later than the main one for what flows behind both, by the middles of their bands.

    Looked at from twice the main rating up to the short at the far end. Shape (fuses, sizes).
    """
    late = np.zeros(prospective.shape, dtype=bool)
    ratings = np.array([fuse.rating_a for fuse in fuses])[:, None]
    for kind, members in (("blade", [f.kind == "blade" for f in fuses]), ("large blade", [f.kind != "blade" for f in fuses])):
        mask = np.array(members)
        if not mask.any():
            continue
        for amps in (np.broadcast_to(2.0 * ratings[mask], prospective[mask].shape), prospective[mask]):
            main = mean_opening_s(kind, amps / ratings[mask])
            for row in data.row_fuses:
                own = mean_opening_s(row.kind, amps * row.share / row.rating_a)
                late[mask] |= np.isfinite(own) & (own <= IN_ORDER * main)
    return late


def choice_table(data: ChoiceInput, fuses: tuple[OfferedFuse, ...], own: Size | None = None) -> ChoiceTable:
    """Test every fuse with every gauge by the conditions of docs/model.md, "Wire and fuse"; numbers are shares [1] or amps [A].

    own: the size of the lead that lies there, to be among the gauges.

    Source: ISO 8820-3 bands, the adiabatic equation (IEC 60364-5-54), the small-craft ampacity tables.
    """
    sizes = sizes_with(own)
    offer = _offer(fuses, sizes, data.row, data.insulation, data.conductors, data.air_c, data.lead_air_c)
    ratings, derated, worst = offer.ratings, offer.derated, offer.wire_share
    wire_ohm, fuse_r = offer.ohm_per_m * data.length_both_ways_m, offer.fuse_ohm
    ones = np.ones((len(fuses), len(sizes)))
    far = data.warm_open_v / (data.fault_bank_ohm + data.other_path_ohm + wire_ohm + fuse_r)
    near = data.warm_open_v / (data.warm_bank_ohm + offer.ohm_per_m * data.to_fuse_m + fuse_r)
    cold = data.cold_open_v / (data.cold_bank_ohm + data.other_path_ohm + wire_ohm + fuse_r)
    i2t = np.empty_like(ones)
    nuisance = np.zeros((len(fuses), 1))
    for kind, group, each, back in offer.groups:
        i2t[group] = np.square(far[group]) * longest_opening_s(kind, far[group] / ratings[group])
        nuisance[group, 0] = nuisance_sum(kind, each, data.launch_a[::2], data.launch_s[::2])[back]
    drop = data.continuous_a * wire_ohm / data.half_charge_v
    continuous = data.continuous_a / offer.continuous_a
    short_ok = (cold >= 2.0 * ratings) | ((cold >= data.trip_a) if data.trip_a is not None else False)
    no = np.zeros_like(ones, dtype=bool)
    fails = {
        "continuous": (continuous > 1.0) | no,
        "limit_110": (data.reachable_a > LIMIT_OVER_FUSE * ratings) | no if data.reachable_a is not None else no,
        "nuisance": (nuisance >= 0.5) | no,
        "wire": worst >= 1.0,
        "parts": (ratings > data.least_part_a) | no if data.least_part_a is not None else no,
        "breaking": (near > offer.breaking) | no,
        "withstand": i2t > offer.stands,
        "cold_short": ~short_ok,
        "volts": (data.full_v > offer.volts) | no,
        "drop": (drop > 0.10) | no,
        "selectivity": _out_of_order(data, fuses, far * ones) if data.row_fuses else no,
    }
    numbers = {
        "continuous_over_limit": continuous * ones,
        "nuisance_sum": nuisance * ones,
        "rating_over_ampacity": ratings / np.where(derated > 0, derated, 1e-9),
        "derated_ampacity_a": derated * ones,
        "longest_opening_over_wire_time_worst": worst,
        "prospective_a": far,
        "near_fault_a": near * ones,
        "prospective_20_percent_coldest_a": cold,
        # A fault too weak to open the fuse lasts for ever; a large number stands for that, because it has to stay finite.
        "i2t_over_withstand": np.minimum(i2t / offer.stands, 1e9),
        "drop_share_at_continuous_a": drop * ones,
        "full_volts_over_fuse_volts": data.full_v / offer.volts * ones,
    }
    if data.least_part_a is not None:
        numbers["rating_over_least_part"] = ratings / data.least_part_a * ones
    weak = np.where(cold > 0, 2.0 * ratings / np.maximum(cold, 1e-9), np.inf)
    if data.trip_a is not None:
        weak = np.minimum(weak, data.trip_a / np.maximum(cold, 1e-9))
    measures: dict[str, tuple[NDArray[np.float64], float]] = {
        "continuous": (continuous * ones, 1.0),
        "nuisance": (nuisance * ones, 0.5),
        "wire": (worst, 1.0),
        "breaking": (near / offer.breaking * ones, 1.0),
        "withstand": (i2t / offer.stands, 1.0),
        "cold_short": (weak, 1.0),
    }
    return ChoiceTable(fuses=fuses, sizes=sizes, fails=fails, wire_common=ratings > derated, numbers=numbers, measures=measures, order=offer.order)
