"""The fuse-and-wire part of a solved case."""

from __future__ import annotations

import numpy as np

from gecko.cases.load import Case, full_charge_v, path_ohm
from gecko.common.documents import Document
from gecko.physics.electric.bank import bank_limits, source_at
from gecko.physics.motion.launch import Launch
from gecko.physics.protection.choice import ChoiceInput, ChoiceTable, choice_table
from gecko.physics.protection.fuse import KIND_ORDER
from gecko.reference.tables import OfferedFuse


def fuse_and_wire(case: Case, run: Launch) -> Document:
    """The choice of a case under both schools, from its offered fuses and gauges and a launch at full charge."""
    given, machine = case.inputs["fuse_wire"], case.machine
    fuses = tuple(OfferedFuse(offer["type"], offer["dc_volts_v"], offer["breaking_a"], rating) for offer in given["offered"] for rating in offer["ratings_a"])
    bank = machine.bank
    warm = source_at(bank, 1.0, max(25.0, given["ambient_c"]))
    fault = source_at(bank, 1.0, 25.0)
    cold = source_at(bank, 0.2, given["coldest_day_c"])
    control = machine.control
    held = [limit for limit in (control.battery_limit_a, control.phase_limit_a) if limit is not None]
    trip = bank_limits(bank).trip_a
    full_v = full_charge_v(bank)
    table = choice_table(
        ChoiceInput(
            continuous_a=given["continuous_a_for_table"],
            reachable_a=float(min(held)) if held else None,
            launch_a=run.pack_a,
            launch_s=run.time_s,
            row=given["ampacity_row"],
            insulation=given["insulation"],
            conductors=given["bundle_conductors"],
            air_c=given["ambient_c"],
            length_both_ways_m=given["lead_length_both_ways_m"],
            least_part_a=given["least_part_rating_a"],
            full_v=full_v,
            half_charge_v=float(machine.source(0.5).open_v),
            warm_open_v=float(warm.open_v),
            warm_bank_ohm=float(warm.resistance_ohm),
            fault_bank_ohm=float(fault.resistance_ohm),
            cold_open_v=float(cold.open_v),
            cold_bank_ohm=float(cold.resistance_ohm),
            other_path_ohm=path_ohm(case.inputs["path"], without_leads_and_fuse=True),
            trip_a=None if trip is None else float(trip),
        ),
        fuses,
    )
    return {
        "continuous_a": given["continuous_a_for_table"],
        "limit_trip_a": trip,
        "full_volts_v": full_v,
        "careful": _school(table, "careful"),
        "common": _school(table, "common"),
        "choice_is_robust": _is_robust(table),
        "infeasible_examples": _infeasible(table),
    }


def cell_name(fuse: OfferedFuse) -> str:
    """A fuse by kind, volts and rating: "blade 32 V 7.5 A"."""
    return f"{fuse.kind} {fuse.dc_volts_v:g} V {fuse.rating_a:g} A"


def cell_fails(table: ChoiceTable, fuse: int, gauge: int, school: str) -> list[str]:
    """Names of the conditions a cell fails under a school."""
    return sorted(name for name, mask in table.failing(school).items() if mask[fuse, gauge])


def _infeasible(table: ChoiceTable) -> list[Document]:
    """Every cell that fails under a school, with its reasons and numbers."""
    wanted = (
        "continuous_over_limit",
        "nuisance_sum",
        "rating_over_ampacity",
        "rating_over_least_part",
        "prospective_a",
        "i2t_over_withstand",
        "full_volts_over_fuse_volts",
    )
    bad = ~table.feasible("careful") | ~table.feasible("common")
    found = []
    for f, g in np.argwhere(bad):
        fuse = table.fuses[f]
        found.append(
            {
                "type": fuse.kind,
                "dc_volts_v": fuse.dc_volts_v,
                "rating_a": fuse.rating_a,
                "awg": table.awg[g],
                "fails_careful": cell_fails(table, f, g, "careful"),
                "fails_common": cell_fails(table, f, g, "common"),
                "numbers": {name: table.numbers[name][f, g] for name in wanted if name in table.numbers},
            }
        )
    return found


def _is_robust(table: ChoiceTable) -> bool:
    """Whether both recommendations stay for ±1.5 % continuous amps, ±7 % nuisance, ±3 % wire times and short circuits."""
    return all(
        table.nudged(name, factor).recommended(school) == table.recommended(school)
        for name, spread in (("continuous", 0.015), ("nuisance", 0.07), ("wire", 0.03), ("breaking", 0.03), ("withstand", 0.06), ("cold_short", 0.03))
        for factor in (1.0 - spread, 1.0 + spread)
        for school in ("careful", "common")
    )


def _school(table: ChoiceTable, school: str) -> Document:
    feasible = table.feasible(school)
    best = table.recommended(school)
    chosen = None
    numbers = None
    if best is not None:
        fuse = table.fuses[best[0]]
        chosen = {"type": fuse.kind, "dc_volts_v": fuse.dc_volts_v, "rating_a": fuse.rating_a, "awg": table.awg[best[1]]}
        wanted = (
            "continuous_over_limit",
            "nuisance_sum",
            "rating_over_ampacity",
            "derated_ampacity_a",
            "longest_opening_over_wire_time_worst",
            "prospective_a",
            "prospective_20_percent_coldest_a",
            "i2t_over_withstand",
            "drop_share_at_continuous_a",
        )
        numbers = {name: table.numbers[name][best] for name in wanted}
    order = sorted(range(len(table.fuses)), key=lambda i: KIND_ORDER.index(table.fuses[i].kind))
    thinnest = {cell_name(table.fuses[i]): table.awg[int(feasible[i].argmax())] for i in order if feasible[i].any()}
    return {
        "feasible_cells": int(feasible.sum()),
        "recommended": chosen,
        "recommended_simplest_type_first": chosen,
        "thinnest_feasible_awg": thinnest,
        "recommended_numbers": numbers,
    }
