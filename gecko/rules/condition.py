"""The state packs are in: how full, how cold, hurt or spent."""

from __future__ import annotations

from collections.abc import Iterator

from gecko.analysis.runs import letters
from gecko.analysis.whole import Analysis
from gecko.common.words import pack_place, q, volts
from gecko.document.setup import Setup
from gecko.rules import margins
from gecko.rules.edits import put
from gecko.rules.registry import Edit, Trip, rule, setup_rule


@setup_rule("pack.charge", station="packs", stage="power", principle="Packs of one row start out equally full, or the emptiest is driven below empty.", needs="bank")
def unlike_charge(setup: Setup) -> Iterator[Trip]:
    assert setup.bank is not None
    for r, row in enumerate(setup.bank.rows):
        per_cell = [unit.resting_v.value / unit.cells_in_series for unit in row.units if unit.resting_v is not None]
        charges = [unit.charge.value for unit in row.units if unit.charge is not None]
        volts_apart = max(per_cell) - min(per_cell) if len(per_cell) > 1 else 0.0
        charge_apart = max(charges) - min(charges) if len(charges) > 1 else 0.0
        by_volts, by_charge = margins.unlike_volts(volts_apart), margins.unlike_charge(charge_apart)
        # A spent pack is a finding of its own: charging it full is no remedy.
        if not (by_volts.over or by_charge.over) or any(unit.is_spent for unit in row.units):
            continue
        what = f"{1000 * volts_apart:.0f} mV a cell" if by_volts.over else f"{100 * charge_apart:.0f} % of their charge"
        yield Trip(
            "stop",
            "Packs in series are not equally full",
            f"The packs of row {letters((r,))} differ by {what}. The emptiest ends the ride, and without a guard of its own is driven below empty.",
            "Charge each on its own charger until it is full, measure again, then link them.",
            f"/bank/rows/{r}/units",
            place=f"row{r}",
            gate="power",
            observable=True,
            margin=by_volts if by_volts.over else by_charge,
        )


@rule("pack.damage", station="packs", stage="survey", principle="A hurt pack burns when nobody looks.", needs="bank")
def damage(a: Analysis) -> Iterator[Trip]:
    for path, pack in a.packs:
        if not pack.damage:
            continue
        yield Trip(
            "stop",
            f"A pack that was {' and '.join(pack.damage)}",
            f"{pack.label}: {', '.join(pack.damage)}. What is torn or shorted inside cannot be seen, and may burn hours later.",
            "Do not use or charge it. Outdoors, away from what burns; to a battery collection point, its poles taped.",
            f"{path}/damage",
            place=pack_place(path),
            margin=margins.counted(len(pack.damage)),
        )


_SPENT = {
    "li-ion": "Copper dissolves inside, and charged again it may short and burn.",
    "lfp": "Copper dissolves inside, and charged again it may short and burn.",
    "nickel": "A cell is reversed or shorted; charged on it gets hot and vents.",
    "lead": "A cell is dead or shorted; in a row the charger then overcharges the other packs.",
}


@rule("pack.spent", station="packs", stage="power", principle="What a pack reads at rest tells whether it lives, and whether it is what its label says.", needs="bank")
def spent(a: Analysis) -> Iterator[Trip]:
    for path, pack in a.packs:
        if pack.resting_v is None:
            continue
        read, least = pack.resting_v.value, pack.spent_v
        per_cell = f"{volts(read)}, {read / pack.cells_in_series:.2f} V a cell"
        if pack.is_spent:
            yield Trip(
                "stop",
                "A pack is down too far",
                f"{pack.label} rests at {per_cell}; below {volts(least)} it is spent. {_SPENT[pack.chemistry]}",
                "Measure again at its terminals. If it is so: do not charge it, do not use it; to a battery collection point, its poles taped.",
                f"{path}/resting_v",
                place=pack_place(path),
                margin=margins.spent_volts(read, least),
            )
        elif (over := margins.overcharged_volts(read, pack.full_v)).over:
            yield Trip(
                "stop",
                "A pack reads more than full",
                f"{pack.label} rests at {per_cell}; full it should be at {volts(pack.full_v)}. Either it has more cells than entered, or its charger does not fit it.",
                "Count its cells or read its label, and enter them; if they are right, do not use it, and find out what charged it.",
                f"{path}/cells_in_series",
                place=pack_place(path),
                margin=over,
            )


@rule("pack.cold", station="packs", stage="care", principle="Below freezing lithium gives little and must not be charged.", needs="bank")
def cold(a: Analysis) -> Iterator[Trip]:
    ground, lithium = a.setup.ground, [pack for _, pack in a.packs if pack.lithium]
    if not lithium:
        return
    coldest = min([ground.ambient_c if ground.pack_c is None else ground.pack_c, *(pack.temp_c for pack in lithium if pack.temp_c is not None)])
    if margins.frozen(coldest).over:
        regen = a.setup.controller is not None and a.setup.controller.regen_a is not None
        yield Trip(
            "stop" if regen else "caution",
            "Braking charges frozen packs" if regen else "Riding below freezing",
            f"The packs are at {q(coldest, 'temp')}: "
            + (
                "regeneration then plates metal inside the cells, which shorts them later."
                if regen
                else "they sag deeply and end early, and must warm up before they are charged."
            ),
            "Switch regeneration off in the cold." if regen else "Keep the packs indoors until the ride, and warm them up before charging.",
            "/ground/pack_c",
            (Edit("Switch regeneration off", put("controller/regen_a", None)),) if regen else (),
            place="ride",
            margin=margins.frozen(coldest),
        )
    for i, charger in enumerate(a.setup.chargers):
        if charger.coldest_c is not None and margins.frozen(charger.coldest_c).over:
            yield Trip(
                "stop",
                "Charging below freezing",
                f"{charger.label} charges at {q(charger.coldest_c, 'temp')}: metal plates inside the cells, and shorts them later.",
                "Charge above freezing only, packs warmed up first.",
                f"/chargers/{i}/coldest_c",
                (Edit("Charge where it does not freeze", put(f"chargers/{i}/coldest_c", 10.0)),),
                place=f"charge{i}",
                margin=margins.frozen(charger.coldest_c),
            )
