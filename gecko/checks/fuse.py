"""Checks of the fuses: there, in the right place, and one decision with the wire."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from gecko.analysis import Analysis
from gecko.checks.edits import figure, fuse_and_gauge, put
from gecko.checks.registry import Edit, Trip, rule
from gecko.parts.fuse import Fuse
from gecko.protection.fuse import dc_class_v, fuse_for
from gecko.reference.tables import OfferedFuse
from gecko.words import amps, q, seconds, volts


def best_edits(a: Analysis) -> tuple[Edit, ...]:
    """Fuse-and-wire pairs that meet every condition: the best with any gauge, and the best with the gauge that lies there."""
    found = a.choice
    lead = a.setup.main_lead
    if found is None or lead is None:
        return ()
    table, _ = found
    school = a.context.house.wire_school
    edits = []
    feasible = table.feasible(school)
    column = table.awg.index(lead.awg)
    same = [i for i in np.nonzero(feasible[:, column])[0] if table.fuses[i].kind != "cartridge"]
    if same:
        fuse = min((table.fuses[i] for i in same), key=lambda f: (f.kind != "blade", f.rating_a, f.dc_volts_v))
        edits.append(fuse_and_gauge(fuse.kind, fuse.dc_volts_v, fuse.rating_a, lead.awg, whole=False))
    best = table.recommended(school)
    if best is not None and (not same or table.awg[best[1]] != lead.awg):
        fuse = table.fuses[best[0]]
        edits.append(fuse_and_gauge(fuse.kind, fuse.dc_volts_v, fuse.rating_a, table.awg[best[1]]))
    return tuple(edits)


@rule("fuse.none", station="main_fuse", stage="protect", principle="A fuse for every row and one for the bank; none is never accepted.", needs="bank")
def fuse_none(a: Analysis) -> Iterator[Trip]:
    assert a.setup.bank is not None
    rows = a.setup.bank.rows
    if a.setup.main_fuse is None:
        yield Trip(
            "stop",
            "There is no main fuse",
            f"A short in the lead would draw hundreds of amps from {volts(a.full_v or 0)} with nothing to stop it: wire burns in seconds.",
            "Put a fuse into the positive lead, close to the packs.",
            "/main_fuse",
            best_edits(a),
            place="main",
        )
    if len(rows) > 1:
        bare = [r for r, row in enumerate(rows) if row.fuse is None]
        if bare:
            rating = _row_fuse(a)
            fuse = fuse_for(rating, a.full_v or 0.0)

            def add(document: dict, fuse: OfferedFuse | None = fuse) -> None:  # type: ignore[type-arg]
                for row in document["bank"]["rows"]:
                    if fuse and not row.get("fuse"):
                        row["fuse"] = {"kind": fuse.kind, "rating_a": fuse.rating_a, "dc_volts_v": fuse.dc_volts_v}

            yield Trip(
                "stop",
                "Rows side by side without their own fuses",
                f"{len(bare)} of {len(rows)} rows have no fuse. When one pack fails, the others empty themselves into it through {q(14, 'awg')} or whatever lies there.",
                f"Give each row its own fuse, about {rating:g} A, at its positive end.",
                "/bank/rows",
                (Edit(f"{rating:g} A fuse for each row", add),),
                place="rows",
            )
    if a.context.house.sole_main_fuse or len(rows) > 1 or rows[0].fuse is not None:
        return
    yield Trip(
        "stop",
        "The pack has no fuse of its own",
        "The house rules ask for a fuse at the pack and a main fuse.",
        "Add a fuse at the pack.",
        "/bank/rows/0/fuse",
        place="pack",
    )


def _row_fuse(a: Analysis) -> float:
    rows = len(a.setup.bank.rows) if a.setup.bank else 1
    load = a.rms_a if a.machine else 10.0
    main = a.setup.main_fuse.rating_a if a.setup.main_fuse else 1e9
    for rating in (5.0, 7.5, 10.0, 15.0, 20.0, 25.0, 30.0, 40.0):
        if 0.75 * rating * 0.95 >= load / rows * 1.2 and (rating >= 0.6 * main or rating >= float(a.peak_a) / rows / 1.35 if a.machine else True):
            return rating
    return 40.0


@rule("fuse.place", station="main_fuse", stage="protect", principle="A fuse guards only the lead behind it.", needs="document")
def fuse_place(a: Analysis) -> Iterator[Trip]:
    fuse = a.setup.main_fuse
    if fuse is None:
        return
    if fuse.side == "negative":
        yield Trip(
            "stop",
            "The fuse sits in the negative lead",
            f"The {fuse.rating_a:g} A fuse is in the negative lead: a short from plus to the frame passes it by.",
            "Move it into the positive lead, close to the packs.",
            "/main_fuse/side",
            (Edit("Move it to the positive lead", put("main_fuse/side", "positive")),),
            place="side",
        )
    if fuse.distance_m.value > 0.3:
        yield Trip(
            "caution",
            "A long stretch without a fuse",
            f"{q(fuse.distance_m.value, 'length')} of positive lead lie between packs and fuse; nothing guards them.",
            "Move the fuse to within 0.3 m of the packs.",
            "/main_fuse/distance_m",
            (Edit(f"Move it to {q(0.15, 'length')}", put("main_fuse/distance_m", figure(0.15, "measured"))),),
            place="far",
        )


def _swapped(path: str, fuse: Fuse, bought: OfferedFuse) -> Edit:
    """Put another fuse in the same place."""
    other = {**fuse.model_dump(), "kind": bought.kind, "rating_a": bought.rating_a, "dc_volts_v": bought.dc_volts_v, "breaking_a": None}
    return Edit(f"{bought.rating_a:g} A {bought.kind}, {bought.dc_volts_v:g} V", put(path.strip("/"), other))


@rule("fuse.volts", station="main_fuse", stage="protect", principle="A fuse must break its circuit's full DC volts, or it arcs on.", needs="bank")
def fuse_volts(a: Analysis) -> Iterator[Trip]:
    full = a.full_v or 0.0
    fuses = [("main", "/main_fuse", a.setup.main_fuse)]
    assert a.setup.bank is not None
    fuses += [(f"row {r + 1}", f"/bank/rows/{r}/fuse", row.fuse) for r, row in enumerate(a.setup.bank.rows)]
    for name, path, fuse in fuses:
        if fuse is None or fuse.dc_volts_v >= full:
            continue
        bought = fuse_for(fuse.rating_a, full)
        swap = () if bought is None else (_swapped(path, fuse, bought),)
        yield Trip(
            "stop",
            f"The {name} fuse is not made for these volts",
            f"It breaks {fuse.dc_volts_v:g} V DC; fully charged the bank gives {volts(full)}. It would arc instead of opening.",
            f"Use a fuse for {dc_class_v(full):g} V DC or more.",
            path,
            (*(best_edits(a) if name == "main" else ()), *swap),
            place=name.replace(" ", ""),
        )


@rule("fuse.wire", station="leads", stage="protect", principle="Fuse and wire are one decision: the fuse opens before the wire is too hot.")
def fuse_wire(a: Analysis) -> Iterator[Trip]:
    cell = a.own_cell
    fuse, lead = a.setup.main_fuse, a.setup.main_lead
    if cell is None or fuse is None or lead is None:
        return
    table, f, g = cell
    careful, common = bool(table.fails["wire"][f, g]), bool(table.wire_common[f, g])
    withstand = bool(table.fails["withstand"][f, g])
    stands = a.lead_stands_a(lead)
    worst = float(table.numbers["longest_opening_over_wire_time_worst"][f, g])
    if not careful and not withstand:
        return
    stop = withstand or (careful and common)
    if withstand:
        because = (
            f"A short at the far end lets {amps(float(table.numbers['prospective_a'][f, g]))} through the {q(lead.awg, 'awg')} lead before the "
            f"{fuse.rating_a:g} A fuse opens: {100 * float(table.numbers['i2t_over_withstand'][f, g]):.0f} % of what the wire withstands."
        )
    else:
        longest = 600.0 if fuse.kind == "blade" else 1800.0
        because = (
            f"The {fuse.rating_a:g} A fuse lets {amps(1.35 * fuse.rating_a)} through the {q(lead.awg, 'awg')} lead for up to {seconds(longest)}; "
            f"the lead stands {amps(stands)}" + (f" and is too hot {worst:.0f} times sooner." if worst > 1 else ".")
        )
    yield Trip(
        "stop" if stop else "caution",
        "The lead is too hot before the fuse opens",
        because,
        "Use a smaller fuse or a thicker wire.",
        "/main_lead/awg",
        best_edits(a),
    )


@rule("fuse.nuisance", station="main_fuse", stage="protect", principle="A fuse carries the ride and lets a launch pass.")
def fuse_nuisance(a: Analysis) -> Iterator[Trip]:
    cell, fuse = a.own_cell, a.setup.main_fuse
    if cell is None or fuse is None:
        return
    table, f, g = cell
    continuous = float(table.numbers["continuous_over_limit"][f, g])
    launches = float(table.numbers["nuisance_sum"][f, g])
    at_limit = bool(table.fails["limit_110"][f, g])
    if continuous <= 1.0 and launches < 0.5 and not at_limit:
        return
    if continuous > 1.0:
        because = f"The ride asks for {amps(a.rms_a)} on average; a {fuse.rating_a:g} A fuse carries {amps(a.rms_a / continuous)} for good."
    elif at_limit:
        because = f"On a long climb the controller sits at its {amps(a.controller_limit_a or 0)}; a {fuse.rating_a:g} A fuse does not carry that."
    else:
        because = f"Ten launches at up to {amps(float(a.peak_a))} use up {100 * launches:.0f} % of the {fuse.rating_a:g} A fuse's patience."
    yield Trip("caution", "The fuse will open while riding", because, "Use the next larger fuse, and the wire that goes with it.", "/main_fuse/rating_a", best_edits(a))


@rule("fuse.parts", station="main_fuse", stage="protect", principle="A fuse protects the weakest plug, switch and holder behind it.")
def fuse_parts(a: Analysis) -> Iterator[Trip]:
    fuse, least = a.setup.main_fuse, a.least_part_a
    if fuse is None or least is None or fuse.rating_a <= least:
        return
    yield Trip(
        "stop",
        "The fuse is larger than a part behind it",
        f"The {fuse.rating_a:g} A fuse lets more through than the weakest plug, switch or holder stands: {amps(least)}.",
        "Use a smaller fuse, or a stronger part.",
        "/main_fuse/rating_a",
        best_edits(a),
    )


@rule("fuse.blow", station="main_fuse", stage="protect", principle="On a cold day with tired packs a short must still open something.")
def fuse_blow(a: Analysis) -> Iterator[Trip]:
    cell, fuse = a.own_cell, a.setup.main_fuse
    if cell is None or fuse is None:
        return
    table, f, g = cell
    if not table.fails["cold_short"][f, g]:
        return
    flows = float(table.numbers["prospective_20_percent_coldest_a"][f, g])
    yield Trip(
        "caution",
        "A weak short would not open the fuse",
        f"At {q(a.setup.ground.coldest_c, 'temp')} and 20 % charge a short at the far end draws only {amps(flows)}; the {fuse.rating_a:g} A fuse wants twice its rating.",
        "Use a smaller fuse, or a thicker and shorter lead.",
        "/main_fuse/rating_a",
        best_edits(a),
    )


@rule("fuse.break", station="main_fuse", stage="protect", principle="A fuse can break only so much current.")
def fuse_break(a: Analysis) -> Iterator[Trip]:
    cell, fuse = a.own_cell, a.setup.main_fuse
    if cell is None or fuse is None:
        return
    table, f, g = cell
    if not table.fails["breaking"][f, g]:
        return
    yield Trip(
        "stop",
        "A dead short is too much for this fuse",
        f"Right behind it a short draws {amps(float(table.numbers['near_fault_a'][f, g]))}; it breaks {amps(fuse.breaks_a)}.",
        "Use a fuse with a higher breaking capacity, such as a cartridge.",
        "/main_fuse/kind",
        best_edits(a),
    )
