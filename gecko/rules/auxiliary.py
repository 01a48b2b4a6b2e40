"""Checks of what hangs on the bank beside the drive."""

from __future__ import annotations

from collections.abc import Iterator

from gecko.analysis.runs import STANDBY_A, branch_a
from gecko.analysis.whole import Analysis
from gecko.common.words import amps, volts
from gecko.document.setup import Setup
from gecko.rules import margins
from gecko.rules.edits import put, round_up, to_buy
from gecko.rules.registry import Edit, Trip, rule, setup_rule

FLAT_DAYS = 60.0
"""An always-on load that empties the bank sooner than this is worth a word. [d] This project's planning value."""


@setup_rule("aux.return", station="packs", stage="protect", principle="Every accessory has its own way back, from the whole string.")
def returns(setup: Setup) -> Iterator[Trip]:
    for i, branch in enumerate(setup.auxiliaries):
        place = f"auxiliaries/{i}"
        if branch.returns == "frame":
            yield Trip(
                "stop",
                f"{branch.label}: the frame carries its current",
                f"{amps(branch.amps_a.value)} come back through the frame: one chafed plus lead anywhere is then a short, and no fuse is near.",
                "Give it a return lead of its own.",
                f"/{place}/returns",
                (Edit("Give it its own return lead", put(f"{place}/returns", "own lead")),),
                place=f"{i}.frame",
            )
        if branch.taps == "part of the string":
            yield Trip(
                "stop",
                f"{branch.label}: taken from part of the string",
                f"{amps(branch.amps_a.value)} drain only some packs of the row; the others are then fuller, and charging drives them too high.",
                "Take it from the whole bank through a step-down converter.",
                f"/{place}/taps",
                (Edit("Take it behind the cut-off", put(f"{place}/taps", "behind the cut-off")),),
                place=f"{i}.tap",
            )


@rule("aux.converter", station="packs", stage="protect", principle="A converter works in its window and gives its amps, no more.", needs="bank")
def converter(a: Analysis) -> Iterator[Trip]:
    full, bank = a.full_v or 0.0, a.setup.bank
    assert bank is not None
    empty = max(sum(unit.empty_v for unit in row.units) for row in bank.rows)
    for i, branch in enumerate(a.setup.auxiliaries):
        own = branch.converter
        if own is None:
            continue
        place = f"auxiliaries/{i}/converter"
        most_v = margins.converter_volts(full, own.input_max_v.value)
        if most_v.over:
            yield Trip(
                "stop",
                f"{branch.label}: too many volts for its converter",
                f"It stands {volts(own.input_max_v.value)}; full packs give {volts(full)}.",
                "Use a converter for the full-charge volts.",
                f"/{place}/input_max_v",
                (Edit(f"Use one for {round_up(full * 1.1, 5):.0f} V", put(f"{place}/input_max_v", to_buy(round_up(full * 1.1, 5)))),),
                place=f"{i}.volts",
                margin=most_v,
            )
        most_a = margins.converter_amps(branch.amps_a.value, own.output_a.value)
        if most_a.over:
            yield Trip(
                "stop" if most_a.beyond(1.25) else "caution",
                f"{branch.label}: more amps than its converter gives",
                f"It gives {amps(own.output_a.value)}; {amps(branch.amps_a.value)} are asked.",
                "Use a stronger converter, or fewer accessories on it.",
                f"/{place}/output_a",
                (Edit(f"Use one for {round_up(branch.amps_a.value * 1.25, 1):.0f} A", put(f"{place}/output_a", to_buy(round_up(branch.amps_a.value * 1.25, 1)))),),
                place=f"{i}.amps",
                margin=most_a,
            )
        if empty < own.input_min_v.value:
            yield Trip(
                "caution",
                f"{branch.label}: its converter drops out early",
                f"It needs {volts(own.input_min_v.value)}; nearly empty packs give {volts(empty)}: lamps go out before the ride ends.",
                "Use a converter that works down to the empty packs.",
                f"/{place}/input_min_v",
                (Edit(f"Use one from {empty * 0.9:.0f} V", put(f"{place}/input_min_v", to_buy(round(empty * 0.9, 1)))),),
                place=f"{i}.low",
            )


@rule("aux.volts", station="packs", stage="protect", principle="A lamp takes the volts printed on it, no more.", needs="bank")
def rated(a: Analysis) -> Iterator[Trip]:
    full = a.full_v or 0.0
    for i, branch in enumerate(a.setup.auxiliaries):
        if branch.rated_v is None or branch.taps == "part of the string":
            continue
        gets = branch.converter.output_v.value if branch.converter is not None else full
        # A 12 V lamp lives with a lead block's 14.4 V while it charges; a quarter more is too much.
        burns = margins.accessory_volts(gets, branch.rated_v.value)
        if not burns.over:
            continue
        new = {
            "input_min_v": to_buy(round(0.5 * full, 1)),
            "input_max_v": to_buy(round_up(1.2 * full, 5)),
            "output_v": to_buy(branch.rated_v.value),
            "output_a": to_buy(round_up(1.5 * branch.amps_a.value, 1)),
        }
        yield Trip(
            "stop",
            f"{branch.label}: made for fewer volts",
            f"It is made for {volts(branch.rated_v.value)} and gets {volts(gets)}: it burns out, or burns.",
            f"Feed it {volts(branch.rated_v.value)} from a step-down converter.",
            f"/auxiliaries/{i}/converter",
            (Edit(f"A converter to {volts(branch.rated_v.value)}", put(f"auxiliaries/{i}/converter", new)),),
            place=str(i),
            margin=burns,
        )


@setup_rule("aux.minus", station="packs", stage="protect", principle="Where minus is switched, nothing else may hold on to it.")
def switched_minus(setup: Setup) -> Iterator[Trip]:
    switched = [
        words for name, words in (("cut_off", "cut-off"), ("key_switch", "key"), ("contactor", "contactor")) if (part := getattr(setup, name)) and part.side == "negative"
    ]
    if not switched:
        return
    for i, branch in enumerate(setup.auxiliaries):
        if branch.converter is not None and branch.converter.isolated is not True:
            yield Trip(
                "stop",
                f"{branch.label}: its converter bridges a switched minus",
                f"The {switched[0]} opens minus, and the converter joins minus of its input and output: the machine's current finds its way back through the accessory's thin wires.",
                "Switch plus instead, or use a converter whose two minus are apart.",
                f"/auxiliaries/{i}/converter/isolated",
                (Edit("Use a converter whose two minus are apart", put(f"auxiliaries/{i}/converter/isolated", True)),),
                place=str(i),
            )


@rule("aux.drain", station="packs", stage="protect", principle="What is always on empties the packs in storage.", needs="bank")
def drain(a: Analysis) -> Iterator[Trip]:
    bank = a.setup.bank
    assert bank is not None
    capacity = bank.holds_ah
    nominal = a.nominal_v or 1.0
    for i, branch in enumerate(a.setup.auxiliaries):
        always = branch_a(branch, nominal) if branch.always_on else 0.0
        standby = branch.converter is not None and branch.taps != "behind the cut-off"
        if standby and branch.converter is not None and not branch.always_on:
            always = branch.converter.standby_a.value if branch.converter.standby_a else STANDBY_A
        isolated = branch.taps == "behind the cut-off" and a.setup.cut_off is not None
        if always <= 0 or isolated:
            continue
        days = capacity / always / 24.0
        if days > FLAT_DAYS:
            continue
        yield Trip(
            "caution",
            f"{branch.label} drains the packs in storage",
            f"{1000 * always:.0f} mA day and night empty {capacity:g} Ah in {days:.0f} days; lithium packs are then spoiled.",
            "Take it behind the cut-off, and switch that off after the ride.",
            f"/auxiliaries/{i}/taps",
            (Edit("Take it behind the cut-off", put(f"auxiliaries/{i}/taps", "behind the cut-off")),),
            place=str(i),
        )
