"""How full each pack is now, before rows are joined or a ride begins."""

from __future__ import annotations

from gecko.document.parts.pack import Pack, adapter_ohm, capacity_figure, resistance_figure
from gecko.document.setup import Row
from gecko.machine.contacts import plug_ohm
from gecko.physics.electric.bank import RowModel, Unit, charge_at_volts
from gecko.physics.electric.path import fuse_ohm

LEAST_JOINT_OHM = 0.005
"""Leads and contacts between two rows where nothing is entered [Ω]. Source: this project's planning value."""


def charge_now(pack: Pack) -> float | None:
    """State of charge: entered, else from its resting volts; None where neither is known. [1]"""
    if pack.charge is not None:
        return float(pack.charge.value)
    if pack.resting_v is not None:
        return float(charge_at_volts(pack.chemistry, pack.resting_v.value / pack.cells_in_series))
    return None


def charges_now(row: Row) -> list[float] | None:
    """State of charge of each pack of a row, None unless all are known. [1]"""
    found = [charge_now(unit) for unit in row.units]
    return None if any(charge is None for charge in found) else [charge for charge in found if charge is not None]


def model_of(row: Row) -> RowModel:
    """A row at its central values, each pack on its own, without leads and fuse."""
    return RowModel(tuple(unit_of(pack) for pack in row.units))


def unit_of(pack: Pack) -> Unit:
    """A pack at its central values."""
    return Unit(
        chemistry=pack.chemistry,
        cells_in_series=pack.cells_in_series,
        capacity_ah=float(capacity_figure(pack).value),
        resistance_ohm=float(resistance_figure(pack).value),
        series_count=1,
        peukert_exponent=pack.peukert_exponent.value if pack.peukert_exponent else None,
        temp_c=pack.temp_c,
        protection_low_v=pack.low_cut_off_v,
    )


def row_path_ohm(row: Row) -> float:
    """Leads, links, plugs, adapters and fuse of a row. [Ω]"""
    ohm = sum(lead.ohm for lead in (row.lead, row.link) if lead is not None)
    ohm += sum(plug_ohm(plug) for plug in row.plugs) + sum(adapter_ohm(unit) for unit in row.units)
    return ohm + (fuse_ohm(row.fuse.rating_a) if row.fuse else 0.0)


def joint_ohm(a: Row, b: Row) -> float:
    """What lies between the packs of two rows when they are joined; never less than a bare joint. [Ω]"""
    return max(row_path_ohm(a) + row_path_ohm(b), LEAST_JOINT_OHM)
