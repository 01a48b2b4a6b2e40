"""Checks of the chargers and of how charging is done."""

from __future__ import annotations

from collections.abc import Iterator

from gecko.analysis.whole import Analysis
from gecko.common.words import amps, volts
from gecko.document.parts.charger import Charger
from gecko.document.parts.pack import Pack, charge_limit_a
from gecko.document.setup import Setup
from gecko.rules import margins
from gecko.rules.edits import put, round_up, setting, to_buy
from gecko.rules.registry import Edit, Trip, rule, setup_rule


@rule("charge.volts", station="packs", stage="care", principle="A charger ends at the volts of its pack, or it under- or overcharges.", needs="bank")
def charge_volts(a: Analysis) -> Iterator[Trip]:
    for i, charger in enumerate(a.setup.chargers):
        chemistries = {u.chemistry for _, u in a.packs}
        wrong = charger.chemistry not in chemistries
        full = _nearest_full_v(a.full_v, a.packs, charger)
        off = margins.charger_volts(charger.end_v.value, full, margins.SLACK[charger.chemistry])
        if not wrong and not off.over:
            continue
        what = f"is made for {charger.chemistry}" if wrong else f"stops at {volts(charger.end_v.value)}"
        yield Trip(
            "stop",
            "The charger does not fit these packs",
            f"{charger.label} {what}; the {'pack' if charger.per == 'unit' else 'bank'} is full at {volts(full)} ({', '.join(sorted(chemistries))}).",
            "Use a charger with the right chemistry and end volts. Never an old charger on a longer string.",
            f"/chargers/{i}/end_v",
            (_right_charger(a, i, charger, full),),
            # Wrong chemistries are findings of their own; volts too low are as wrong as volts too high.
            place=f"{i}.{charger.chemistry}" if wrong else str(i),
            # A charger for the wrong chemistry may not be used, whatever its volts.
            margin=margins.FORBIDDEN if wrong else off,
        )


def _right_charger(a: Analysis, i: int, charger: Charger, full: float) -> Edit:
    """A charger made for these packs in its place."""
    pack = _used_on(a.packs, charger)[0]
    new = {**charger.model_dump(), "label": f"{pack.chemistry} charger, {full:.1f} V", "chemistry": pack.chemistry, "end_v": to_buy(round(full, 2))}
    return Edit(f"Use a {pack.chemistry} charger that ends at {volts(full)}", put(f"chargers/{i}", new))


def _used_on(packs: list[tuple[str, Pack]], charger: Charger) -> list[Pack]:
    """The packs a charger is used on: those of its chemistry nearest its end volts; all of them for one that charges the bank."""
    every = [u for _, u in packs]
    if charger.per == "bank":
        return every
    own = [u for u in every if u.chemistry == charger.chemistry] or every
    nearest = min(abs(u.full_v - charger.end_v.value) for u in own)
    return [u for u in own if abs(u.full_v - charger.end_v.value) == nearest]


def _nearest_full_v(full_v: float | None, packs: list[tuple[str, Pack]], charger: Charger) -> float:
    """Full-charge volts of what a charger is used on. [V]"""
    return (full_v or 0.0) if charger.per == "bank" else _used_on(packs, charger)[0].full_v


@rule("charge.amps", station="packs", stage="care", principle="Charging faster than the cells stand heats them.", needs="bank")
def charge_amps(a: Analysis) -> Iterator[Trip]:
    assert a.setup.bank is not None
    for i, charger in enumerate(a.setup.chargers):
        rows = len(a.setup.bank.rows) if charger.per == "bank" else 1
        each = charger.amps_a.value / rows
        allowed = min(charge_limit_a(u) for u in _used_on(a.packs, charger))
        pushed = margins.charging_amps(each, allowed)
        if not pushed.over:
            continue
        yield Trip(
            "stop" if pushed.beyond(1.5) else "caution",
            "The charger is too strong",
            f"{charger.label} pushes {amps(each)} into a pack that stands {amps(allowed)}.",
            "Use a gentler charger, or set it lower.",
            f"/chargers/{i}/amps_a",
            (Edit(f"Charge with {allowed:.1f} A", put(f"chargers/{i}/amps_a", setting(round(allowed * rows, 2)))),),
            place=str(i),
            margin=pushed,
        )


@setup_rule("plug.charge", station="packs", stage="care", principle="Nobody may confuse a charging plug with a mains plug or with other volts.", needs="bank")
def charge_plug(setup: Setup) -> Iterator[Trip]:
    for i, charger in enumerate(setup.chargers):
        if charger.plug == "own":
            continue
        why = "is of a mains pattern: somebody will push it into a wall socket" if charger.plug == "mains pattern" else "also fits another voltage in the garage"
        yield Trip(
            "stop",
            "The charging plug can be confused",
            f"The plug of {charger.label} ({volts(charger.end_v.value)}) {why}.",
            "Give it a plug of its own pattern.",
            f"/chargers/{i}/plug",
            (Edit("Use a plug of its own", put(f"chargers/{i}/plug", "own")),),
            place=str(i),
        )


@setup_rule("charge.parallel", station="packs", stage="care", principle="Packs are charged apart from each other and from the machine.", needs="bank")
def charge_parallel(setup: Setup) -> Iterator[Trip]:
    assert setup.bank is not None
    rows = len(setup.bank.rows)
    for i, charger in enumerate(setup.chargers):
        if charger.per == "unit" and charger.while_joined and rows > 1:
            yield Trip(
                "caution",
                "Charging while joined side by side",
                f"{charger.label} sees one pack; joined, its {amps(charger.amps_a.value)} spread over {rows} rows, and a full row pushes into an emptier one past the charger.",
                "Unplug the packs from each other before charging.",
                f"/chargers/{i}/while_joined",
                (Edit("Unplug them and charge them apart", put(f"chargers/{i}/while_joined", False)),),
                place=f"{i}.joined",
            )
        if charger.per == "bank" and (charger.isolated is False or (charger.isolated is None and setup.cut_off is None)):
            yield Trip(
                "caution",
                "Charging in place with the machine connected",
                f"{charger.label} puts {volts(charger.end_v.value)} on controller and switch too, and one bump on the throttle drives off with the cable in.",
                "Switch the cut-off off while charging, or unplug the bank.",
                f"/chargers/{i}/isolated",
                (Edit("Cut the bank off while charging", put(f"chargers/{i}/isolated", True)),),
                place=f"{i}.place",
            )


@setup_rule(
    "charge.nickel", station="packs", stage="care", principle="The volts of a full nickel cell fall: charged side by side, the fullest takes ever more.", needs="bank"
)
def charge_nickel(setup: Setup) -> Iterator[Trip]:
    assert setup.bank is not None
    rows = len(setup.bank.rows)
    if rows == 1 or all(unit.chemistry != "nickel" for row in setup.bank.rows for unit in row.units):
        return
    for i, charger in enumerate(setup.chargers):
        if charger.per == "bank" or charger.while_joined:
            yield Trip(
                "stop",
                "Nickel packs charged side by side",
                f"{charger.label} feeds {rows} rows at once. Once a row is full its volts fall, so it takes what the others leave, and the charger does not see its bend: it gets hot.",
                "Charge each pack alone, on a charger that ends by itself.",
                f"/chargers/{i}/per",
                (_one_by_one([unit for row in setup.bank.rows for unit in row.units if unit.chemistry == "nickel"], i, charger),),
                place=str(i),
                margin=margins.rows_at_once(rows),
            )


@rule("charge.string", station="packs", stage="care", principle="A string charged through its two ends fills some packs before others.", needs="bank")
def charge_string(a: Analysis) -> Iterator[Trip]:
    assert a.setup.bank is not None
    longest = max(len(row.units) for row in a.setup.bank.rows)
    lithium = [unit for _, unit in a.packs if unit.lithium]
    for i, charger in enumerate(a.setup.chargers):
        if charger.per == "bank" and longest > 1 and any(not unit.has_board for unit in lithium):
            yield Trip(
                "stop",
                "Tool packs charged as a string",
                f"{charger.label} charges {longest} packs in series through their outputs: nothing watches each pack, and the fullest is driven over its volts.",
                "Charge each pack by itself on the charger made for it.",
                f"/chargers/{i}/per",
                (_one_by_one(lithium, i, charger),),
                place=f"{i}.string",
                margin=margins.packs_in_string(longest),
            )
        elif charger.per == "unit" and charger.through == "output contacts" and any(not unit.has_board for unit in lithium):
            yield Trip(
                "stop",
                "Charged past its balancing",
                f"{charger.label} charges through the contacts the machine draws from: nothing balances the cells there, and the fullest is driven over its volts.",
                "Charge through the port or in the dock made for it.",
                f"/chargers/{i}/through",
                (Edit("Charge in the dock made for it", put(f"chargers/{i}/through", "its own port")),),
                place=f"{i}.through",
            )


def _one_by_one(packs: list[Pack], i: int, charger: Charger) -> Edit:
    pack = packs[0]
    gentle = min(charger.amps_a.value, charge_limit_a(pack))
    new = {
        **charger.model_dump(),
        "label": "The packs' own charger",
        "per": "unit",
        "chemistry": pack.chemistry,
        "end_v": to_buy(round(pack.full_v, 2)),
        "amps_a": to_buy(gentle),
        "through": "its own port",
        "while_joined": False,
    }
    return Edit("Charge each on its own charger", put(f"chargers/{i}", new))


@rule("charge.none", station="packs", stage="care", principle="A pack nobody knows how to charge is charged wrongly one day.", needs="bank")
def charge_none(a: Analysis) -> Iterator[Trip]:
    if a.setup.chargers or all(unit.own_charger for _, unit in a.packs):
        return
    pack = a.packs[0][1]
    amps_a = min(0.5 * charge_limit_a(pack), round_up(charge_limit_a(pack) * 0.4, 0.5))
    new = {
        "label": f"{pack.chemistry} charger, {pack.full_v:.1f} V",
        "chemistry": pack.chemistry,
        "end_v": to_buy(round(pack.full_v, 2)),
        "amps_a": to_buy(max(amps_a, 0.3)),
        "per": "unit",
        "through": "its own port",
    }
    yield Trip(
        "caution",
        "How are these packs charged?",
        f"No charger is entered. {pack.label} is full at {volts(pack.full_v)} ({pack.chemistry}) and takes {amps(charge_limit_a(pack))} at most.",
        "Enter the charger you use, or plan the one made for these packs.",
        "/chargers",
        (Edit("Plan the charger made for these packs", put("chargers", [new])),),
    )


@rule("charge.place", station="packs", stage="care", principle="A pack that burns while charging burns where it stands.", needs="bank")
def charge_place(a: Analysis) -> Iterator[Trip]:
    for i, charger in enumerate(a.setup.chargers):
        if charger.mains_opened:
            yield Trip(
                "stop",
                "A charger that was opened",
                f"Case or mains lead of {charger.label} was opened, mended or exchanged. Mains on its case kills.",
                "Do not use it. Mains wiring is for a licensed electrician; a new charger costs less.",
                f"/chargers/{i}/mains_opened",
                place=f"{i}.mains",
            )
        if charger.place in ("unwatched", "on a way out"):
            where = "with nobody near" if charger.place == "unwatched" else "on a way out of the house"
            yield Trip(
                "caution",
                "Charging where nobody sees it" if charger.place == "unwatched" else "Charging on a way out",
                f"{charger.label} charges {where}: smoke is then seen too late, or stands in the only way out.",
                "Charge where somebody is awake and near, on stone, clear of ways out, a smoke alarm above.",
                f"/chargers/{i}/place",
                (Edit("Charge it watched, clear of ways out", put(f"chargers/{i}/place", "watched, clear of ways out")),),
                place=f"{i}.place",
            )
    if a.setup.chargers and all(charger.place is None for charger in a.setup.chargers) and any(unit.lithium for _, unit in a.packs):
        yield Trip(
            "note",
            "Charge awake, on stone, clear of ways out",
            "A lithium pack that goes wrong while charging goes wrong fast.",
            "Somebody awake and near, nothing that burns beside it, never on the way out; a smoke alarm above.",
            "/chargers/0/place",
        )
