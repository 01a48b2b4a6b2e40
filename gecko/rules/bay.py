"""Checks of how the packs sit: room, holding, slots, adapters."""

from __future__ import annotations

from collections.abc import Iterator

from gecko.analysis.fit import lay_in, sides_m
from gecko.analysis.occupancy import Occupancy, occupancies
from gecko.analysis.runs import letters
from gecko.analysis.whole import Analysis
from gecko.answers.evaluation import Severity
from gecko.common.documents import Document
from gecko.common.words import amps, q, volts
from gecko.document.parts.bay import SURE
from gecko.document.parts.pack import usual_limits_a
from gecko.physics.protection.fuse import continuous_limit_a
from gecko.rules import margins
from gecko.rules.edits import put
from gecko.rules.registry import Edit, Trip, rule


@rule("pack.bay", station="packs", stage="power", principle="A pack that sticks out gets in the way of steering and feet.", needs="bank")
def bay(a: Analysis) -> Iterator[Trip]:
    room = a.setup.vehicle.bay if a.setup.vehicle else None
    if room is None:
        return
    sides = [sides_m(pack, room) for _, pack in a.packs]
    known = [side for side in sides if side is not None]
    if len(known) < len(sides):
        return
    answer = lay_in(room, known).answer
    if answer == "fits":
        return
    inside = f"{q(room.length_m.value, 'length')} × {q(room.width_m.value, 'length')} × {q(room.height_m.value, 'length')}"
    how = "turn them as you like" if answer == "too big" else "in no way this planner found"
    yield Trip(
        "caution",
        "The packs do not fit the bay" if answer == "too big" else "No way found to lay the packs in",
        f"{len(known)} packs with padding and connectors do not go into {inside}, {how}.",
        "Use fewer or flatter packs, or move some to a second place; nothing may reach into steering or foot space.",
        "/vehicle/bay",
    )


@rule("pack.held", station="packs", stage="power", principle="A pack that flies out or chafes through is a short circuit on wheels.", needs="bank")
def held(a: Analysis) -> Iterator[Trip]:
    assert a.setup.bank is not None
    holding = a.setup.bank.holding
    severity: Severity = "caution"
    heaviest = max(unit.weighs_kg for _, unit in a.packs)
    flies = margins.loose_kg(heaviest)
    if holding is None:
        # Nobody has looked yet: the question of the survey asks.
        return
    if not SURE & set(holding.by):
        title, because = (
            "The packs can come loose",
            f"Up to {q(heaviest, 'mass')} each are held by {' and '.join(holding.by)} alone, which lets go with heat, age or a jolt.",
        )
        if not holding.by:
            because = f"Up to {q(heaviest, 'mass')} each lie loose: they fly out in a fall, and their leads tear."
        edit = Edit("Add a strap", put("bank/holding/by", [*holding.by, "strap"]))
        severity = "stop" if flies.over else "caution"
    elif holding.homemade:
        title, because = "A homemade pack mount", f"Nobody but its builder has tried whether it holds {q(heaviest, 'mass')} when it tips over or hits a kerb."
        edit = Edit("Add a strap round it all", put("bank/holding", {**holding.model_dump(), "by": sorted({*holding.by, "strap"}), "homemade": False}))
    elif holding.against == "bare metal" and not holding.cushioned:
        title, because = "A shell rubs on bare metal", f"Held by {' and '.join(holding.by)} against bare metal, the shell wears through and the metal shorts the cells."
        edit = Edit("Pad them", put("bank/holding/cushioned", True))
    elif holding.against == "plastic wall" and not holding.spreader_plates:
        title, because = "A plastic wall tears", f"Held by {' and '.join(holding.by)} to a plastic wall: without plates behind it screws and straps tear out."
        edit = Edit("Put spreader plates behind it", put("bank/holding/spreader_plates", True))
    else:
        return
    yield Trip(
        severity,
        title,
        because,
        "Straps or brackets that bear a fall, padding all round, plates behind plastic.",
        "/bank/holding",
        (edit,),
        margin=flies,
    )


def overloaded(a: Analysis, which: Occupancy) -> list[str]:
    """What the rows that are in cannot bear, in words; empty when they can."""
    bank = a.setup.bank
    assert bank is not None
    words = []
    if not which.enough:
        words.append("they cannot give these watts at all")
    for r in which.rows:
        row, peak, steady = bank.rows[r], which.row_peak_a[r], which.row_rms_a[r]
        name = letters((r,))
        lasting_a, peak_a = (min(limits) for limits in zip(*(usual_limits_a(unit) for unit in row.units), strict=True))
        stated = "" if all(unit.peak_10s_a or unit.continuous_a for unit in row.units) else ", as far as such packs usually go"
        if peak > peak_a:
            words.append(f"cells of row {name}: {amps(peak)} asked, {amps(peak_a)} for ten seconds{stated}")
        elif steady > lasting_a:
            words.append(f"cells of row {name}: {amps(steady)} asked, {amps(lasting_a)} steady{stated}")
        if row.fuse and steady > continuous_limit_a(row.fuse.rating_a, a.setup.ground.ambient_c):
            words.append(
                f"its {row.fuse.rating_a:g} A fuse carries {amps(continuous_limit_a(row.fuse.rating_a, a.setup.ground.ambient_c))} for good, {amps(steady)} flow"
            )
        if row.lead and steady > a.lead_stands_a(row.lead):
            words.append(f"its {row.lead.words} lead stands {amps(a.lead_stands_a(row.lead))}, {amps(steady)} flow")
    return words


@rule("pack.slots", station="packs", stage="power", principle="What two rows bear together, one alone may not.")
def slots(a: Analysis) -> Iterator[Trip]:
    yield from _home(a)
    bank = a.setup.bank
    if bank is None or len(bank.rows) < 2 or bank.occupancy == "all":
        return
    kinds = a.resolved.row_kinds
    never: list[str] = []
    because, permitted = "", False
    for which in occupancies(a, a.all_rows, every=True)[1:]:
        bad = overloaded(a, which)
        if not bad:
            continue
        # Like rows stand in for each other: what holds for one of them alone holds for each.
        alike = [letters((r,)) for r in range(len(kinds)) if len(which.rows) == 1 and kinds[r] == kinds[which.rows[0]]]
        never += alike or [letters(which.rows)]
        because = because or f"With only {'row ' + letters(which.rows) if len(which.rows) == 1 else 'rows ' + letters(which.rows)} in: {bad[0]}."
        permitted = permitted or which.permitted
    if not never:
        return
    yield Trip(
        "stop" if permitted else "caution",
        "Never fill these slots alone: " + ", ".join(dict.fromkeys(never)),
        because,
        "Ride with every slot filled and say so on a label at the bay, or strengthen rows, fuses and leads for riding with fewer.",
        "/bank/occupancy",
        (Edit("Ride only with all slots filled", put("bank/occupancy", "all")),),
    )


def _home(a: Analysis) -> Iterator[Trip]:
    """A small pack that is to bring it home must suit the same machine."""
    bank = a.setup.bank
    if bank is None or bank.home_pack is None:
        return
    own, control = bank.home_pack, a.setup.controller
    window = a.resolved.figures.get("/controller/max_v")
    low = a.resolved.figures.get("/controller/undervoltage_v")
    if control is not None and control.kind != "none" and window and own.full_v > window.value:
        because = f"Full it gives {volts(own.full_v)}; the controller stands {volts(window.value)}."
    elif control is not None and control.kind != "none" and low and own.nominal_v < low.value:
        because = f"Its {volts(own.nominal_v)} are under the controller's low cut-off of {volts(low.value)}: nothing will move."
    elif own.trips_a is not None and a.rms_a > own.trips_a:
        because = f"The usual ride asks for {amps(a.rms_a)}; it switches off at {amps(own.trips_a)}."
    else:
        return

    def without(document: Document) -> None:
        document["bank"]["home_pack"] = None

    yield Trip(
        "stop",
        "The pack for the way home does not suit",
        because,
        "Choose one with the volts of a row.",
        "/bank/home_pack",
        (Edit("Ride without one", without),),
        place="home",
    )


@rule("pack.adapter", station="packs", stage="power", principle="An adapter is a part like any other: its polarity, its electronics and its leads count.", needs="bank")
def adapter(a: Analysis) -> Iterator[Trip]:
    for path, pack in a.packs:
        fitted = pack.adapter
        if fitted is None:
            continue
        r = int(path.split("/")[3])
        edit: tuple[str, object, str] | None
        if not fitted.polarity_rechecked:
            problem, edit = (
                "plus and minus were not measured again after it was mounted; a mirrored one swaps them",
                ("polarity_rechecked", True, "Measured: plus is plus"),
            )
        elif fitted.electronics in ("in place", "unknown"):
            what = "electronics are still inside" if fitted.electronics == "in place" else "nobody knows what electronics are inside"
            problem, edit = f"{what}; made for a tool or charger, they can drain the pack or burn", ("electronics", "isolated", "Its electronics are isolated")
        elif a.machine is not None and fitted.lead is not None and a.row_worst[1][r] > a.lead_stands_a(fitted.lead):
            problem = f"its {fitted.lead.words} leads stand {amps(a.lead_stands_a(fitted.lead))}, the row is asked for {amps(a.row_worst[1][r])}"
            edit = ("lead/awg", 10, f"Use {q(10, 'awg')} leads")
        elif a.machine is not None and fitted.rating_a is not None and a.row_worst[0][r] > fitted.rating_a.value:
            problem, edit = f"it stands {amps(fitted.rating_a.value)}, the row is asked for {amps(a.row_worst[0][r])}", None
        else:
            continue
        yield Trip(
            "caution",
            f"The {fitted.kind} of {pack.label}",
            f"In row {letters((r,))}: {problem}.",
            "Measure plus and minus at its leads with the pack in, take out or cut off what electronics it has, and give it leads for the row's amps.",
            f"{path}/adapter",
            () if edit is None else (Edit(edit[2], put(f"{path}/adapter/{edit[0]}", edit[1])),),
            place=path.removeprefix("/bank/rows/").replace("/units/", "."),
        )
