"""Checks of the chargers and of how charging is done."""

from __future__ import annotations

from collections.abc import Iterator

from gecko.analysis import Analysis
from gecko.checks.edits import figure, put, without_charger
from gecko.checks.registry import Edit, Trip, rule
from gecko.parts.charger import Charger
from gecko.parts.pack import Pack, charge_limit_a
from gecko.words import amps, volts


@rule("charge.volts", station="packs", stage="care", principle="A charger ends at the volts of its pack, or it under- or overcharges.", needs="bank")
def charge_volts(a: Analysis) -> Iterator[Trip]:
    for i, charger in enumerate(a.setup.chargers):
        chemistries = {u.chemistry for _, u in a.packs}
        wrong = charger.chemistry not in chemistries
        full = _nearest_full_v(a, charger)
        slack = 0.03 if charger.chemistry == "lead" else 0.01
        if not wrong and abs(full - charger.end_v.value) <= slack * full:
            continue
        what = f"is made for {charger.chemistry}" if wrong else f"stops at {volts(charger.end_v.value)}"
        yield Trip(
            "stop",
            "The charger does not fit these packs",
            f"{charger.label} {what}; the {'pack' if charger.per == 'unit' else 'bank'} is full at {volts(full)} ({', '.join(sorted(chemistries))}).",
            "Use a charger with the right chemistry and end volts. Never an old charger on a longer string.",
            f"/chargers/{i}/end_v",
            (Edit("Take this charger out of the setup", without_charger(i)),),
            place=str(i),
        )


def _used_on(a: Analysis, charger: Charger) -> list[Pack]:
    """The packs a charger is used on: those of its chemistry nearest its end volts; all of them for one that charges the bank."""
    packs = [u for _, u in a.packs]
    if charger.per == "bank":
        return packs
    own = [u for u in packs if u.chemistry == charger.chemistry] or packs
    nearest = min(abs(u.full_v - charger.end_v.value) for u in own)
    return [u for u in own if abs(u.full_v - charger.end_v.value) == nearest]


def _nearest_full_v(a: Analysis, charger: Charger) -> float:
    """Full-charge volts of what a charger is used on. [V]"""
    return (a.full_v or 0.0) if charger.per == "bank" else _used_on(a, charger)[0].full_v


@rule("charge.amps", station="packs", stage="care", principle="Charging faster than the cells stand heats them.", needs="bank")
def charge_amps(a: Analysis) -> Iterator[Trip]:
    assert a.setup.bank is not None
    for i, charger in enumerate(a.setup.chargers):
        rows = len(a.setup.bank.rows) if charger.per == "bank" else 1
        each = charger.amps_a.value / rows
        allowed = min(charge_limit_a(u) for u in _used_on(a, charger))
        if each <= allowed:
            continue
        yield Trip(
            "stop" if each > 1.5 * allowed else "caution",
            "The charger is too strong",
            f"{charger.label} pushes {amps(each)} into a pack that stands {amps(allowed)}.",
            "Use a gentler charger, or set it lower.",
            f"/chargers/{i}/amps_a",
            (Edit(f"Charge with {allowed:.1f} A", put(f"chargers/{i}/amps_a", figure(round(allowed * rows, 2)))),),
            place=str(i),
        )


@rule("plug.charge", station="packs", stage="care", principle="Nobody may confuse a charging plug with a mains plug or with other volts.", needs="bank")
def charge_plug(a: Analysis) -> Iterator[Trip]:
    for i, charger in enumerate(a.setup.chargers):
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


@rule("charge.parallel", station="packs", stage="care", principle="Packs are charged apart from each other and from the machine.", needs="bank")
def charge_parallel(a: Analysis) -> Iterator[Trip]:
    assert a.setup.bank is not None
    rows = len(a.setup.bank.rows)
    for i, charger in enumerate(a.setup.chargers):
        if charger.per == "unit" and charger.while_joined and rows > 1:
            yield Trip(
                "caution",
                "Charging while joined side by side",
                f"{charger.label} sees one pack; joined, its {amps(charger.amps_a.value)} spread over {rows} rows, and a full row pushes into an emptier one past the charger.",
                "Unplug the packs from each other before charging.",
                f"/chargers/{i}/while_joined",
                (Edit("Charge them apart", put(f"chargers/{i}/while_joined", False)),),
                place=f"{i}.joined",
            )
        if charger.per == "bank" and charger.isolated is not True and a.setup.cut_off is None and not a.context.is_baseline:
            yield Trip(
                "caution",
                "Charging in place with the machine connected",
                f"{charger.label} puts {volts(charger.end_v.value)} on controller and switch too, and one bump on the throttle drives off with the cable in.",
                "Fit a cut-off and switch it off while charging, or unplug the bank.",
                f"/chargers/{i}/isolated",
                (Edit("The bank is cut off while charging", put(f"chargers/{i}/isolated", True)),),
                place=f"{i}.place",
            )
