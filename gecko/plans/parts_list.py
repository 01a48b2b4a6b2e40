"""What a setup is made of, what of it is on the machine or on the rack already, and what is left to buy.

A part on the rack serves a need when everything that is asked of it is known of it and reached; a part nobody knows enough of serves none.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from typing import Literal

from pydantic import BaseModel

from gecko.answers.evaluation import Out
from gecko.common.figures import Figure
from gecko.common.words import gauge
from gecko.document.parts.charger import Charger
from gecko.document.parts.controller import Controller
from gecko.document.parts.fuse import Fuse
from gecko.document.parts.motor import Motor
from gecko.document.parts.pack import Pack, match_in_series, usual_limits_a
from gecko.document.parts.plug import Guard, Plug, Switch
from gecko.document.parts.wire import Insulation, Lead
from gecko.document.rack import Racked, WireReel
from gecko.document.setup import Setup

SPARE = 1.1
"""Wire is bought with a tenth to spare. [1]"""

_STANDS_C: dict[Insulation, int] = {"60": 60, "75": 75, "105": 105, "silicone": 180}
"""What an insulation stands, to tell which may take another's place. [°C]"""

NeedKind = Literal["pack", "fuse", "wire", "plug", "cut-off", "guard", "controller", "motor", "charger", "converter"]


class NeedOut(Out):
    """A part a setup needs: pieces, or metres of wire [m], and where they come from."""

    kind: NeedKind
    label: str
    unit: Literal["", "m"]
    needed: float
    on_machine: float
    on_rack: float
    to_buy: float
    note: str = ""
    """What is to be done with the one from the rack before it serves."""


@dataclass(frozen=True, kw_only=True)
class _Need:
    kind: NeedKind
    label: str
    count: float
    serves: Callable[[BaseModel], float]
    """How much of the need one such part serves: pieces, or metres. [1, m]"""
    unit: Literal["", "m"] = ""
    note: Callable[[BaseModel], str] = lambda _part: ""


def parts_list(setup: Setup, baseline: Setup | None, rack: Sequence[Racked]) -> list[NeedOut]:
    """Every part of a setup, alike ones together; wire in metres [m] both ways with a tenth to spare. baseline: what the machine has on it."""
    stock = {(need.kind, need.label): need.count for need in _together(baseline)} if baseline is not None else {}
    found = []
    for need in _together(setup):
        there = min(stock.get((need.kind, need.label), 0.0), need.count)
        wanted = need.count - there
        serving = [(racked, each) for racked in rack if (each := need.serves(racked.part)) > 0.0]
        on_rack = min(sum(racked.quantity * each for racked, each in serving), wanted)
        notes = [words for racked, _ in serving if on_rack > 0.0 and (words := need.note(racked.part))]
        found.append(
            NeedOut(
                kind=need.kind,
                label=need.label,
                unit=need.unit,
                needed=need.count,
                on_machine=there,
                on_rack=on_rack,
                to_buy=wanted - on_rack,
                note=notes[0] if notes else "",
            )
        )
    return found


def _together(setup: Setup) -> list[_Need]:
    found: dict[tuple[str, str], _Need] = {}
    for need in _needs(setup):
        old = found.get((need.kind, need.label))
        # What serves the first of several alike serves all of them.
        found[need.kind, need.label] = need if old is None else _Need(**{**vars(old), "count": old.count + need.count})
    return list(found.values())


def _needs(setup: Setup) -> Iterator[_Need]:
    for row in setup.bank.rows if setup.bank is not None else ():
        for pack in row.units:
            yield _pack(pack)
        yield from _run(row.fuse, row.lead, row.link)
        yield from map(_plug, row.plugs)
    yield from _run(setup.main_fuse, setup.main_lead, setup.controller_lead, setup.motor_lead)
    yield from map(_plug, setup.plugs)
    for branch in setup.auxiliaries:
        yield from _run(branch.fuse, branch.lead)
        if (made := branch.converter) is not None:
            label = f"Converter to {_value(made.output_v)} V, {_value(made.output_a)} A, up to {_value(made.input_max_v)} V in"
            yield _Need(kind="converter", label=label, count=1, serves=lambda _part: 0.0)
    if setup.cut_off is not None:
        yield _switch(setup.cut_off)
    if setup.guard is not None and setup.guard.kind == "module":
        yield _guard(setup.guard)
    if setup.controller is not None and setup.controller.kind != "none":
        yield _controller(setup.controller, max((row.full_v for row in setup.bank.rows), default=0.0) if setup.bank is not None else 0.0)
    if setup.motor is not None:
        yield _motor(setup.motor)
    yield from map(_charger, setup.chargers)


def _value(figure: Figure | None) -> str:
    return "?" if figure is None else f"{figure.value:g}"


def _reaches(has: Figure | None, asked: Figure | None) -> bool:
    """Whether a part is known to stand what is asked; where nothing is asked, any part does."""
    return asked is None or (has is not None and has.value >= asked.value)


def _pack(pack: Pack) -> _Need:
    def serves(part: BaseModel) -> float:
        # A pack that was hurt serves nobody.
        if not isinstance(part, Pack) or part.damage or not match_in_series([part, pack]):
            return 0.0
        # One that states no amps is trusted with what such cells usually give.
        asked = (pack.continuous_a, pack.peak_10s_a)
        return float(all(one is None or gives >= one.value for gives, one in zip(usual_limits_a(part), asked, strict=True)))

    return _Need(kind="pack", label=pack.label, count=1, serves=serves)


def _run(fuse: Fuse | None, *leads: Lead | None) -> Iterator[_Need]:
    if fuse is not None:
        yield _fuse(fuse)
    for lead in leads:
        if lead is not None:
            yield _wire(lead)


def _fuse(fuse: Fuse) -> _Need:
    def serves(part: BaseModel) -> float:
        return float(isinstance(part, Fuse) and (part.kind, part.rating_a) == (fuse.kind, fuse.rating_a) and part.dc_volts_v >= fuse.dc_volts_v)

    return _Need(kind="fuse", label=f"{fuse.rating_a:g} A {fuse.kind} fuse, {fuse.dc_volts_v:g} V DC or more, with holder", count=1, serves=serves)


def _wire(lead: Lead) -> _Need:
    def serves(part: BaseModel) -> float:
        if not isinstance(part, WireReel) or part.metres is None or lead.material != "copper":
            return 0.0
        same = part.mm2 == lead.mm2 if lead.mm2 is not None else part.mm2 is None and part.awg == lead.awg
        # A reel nobody read the print of may be of the weakest kind.
        as_hot = _STANDS_C[part.insulation or "60"] >= _STANDS_C[lead.insulation]
        return part.metres if same and as_hot else 0.0

    label = f"{gauge(lead.awg, lead.mm2)} {lead.material} wire"
    return _Need(kind="wire", label=label, count=2.0 * lead.length_m.value * lead.strands * SPARE, serves=serves, unit="m")


def _plug(plug: Plug) -> _Need:
    def serves(part: BaseModel) -> float:
        return float(isinstance(part, Plug) and part.kind == plug.kind and not part.browned)

    return _Need(kind="plug", label=f"{plug.kind} plug, pair", count=max(round(plug.poles / 2), 1), serves=serves)


def _switch(switch: Switch) -> _Need:
    def serves(part: BaseModel) -> float:
        return float(isinstance(part, Switch) and _reaches(part.rating_a, switch.rating_a) and _reaches(part.dc_volts_v, switch.dc_volts_v))

    stated = [f"{figure.value:g} {unit}" for figure, unit in ((switch.rating_a, "A"), (switch.dc_volts_v, "V DC")) if figure is not None]
    return _Need(kind="cut-off", label=", ".join([f"Cut-off ({switch.kind})", *stated]), count=1, serves=serves)


def _guard(guard: Guard) -> _Need:
    def serves(part: BaseModel) -> float:
        return float(isinstance(part, Guard) and part.kind == guard.kind and _reaches(part.rating_a, guard.rating_a))

    def note(part: BaseModel) -> str:
        return f"Set it to {guard.volts_v.value:g} V." if isinstance(part, Guard) and part.volts_v.value != guard.volts_v.value else ""

    return _Need(kind="guard", label=f"Low-volt guard, set to {guard.volts_v.value:g} V", count=1, serves=serves, note=note)


def _controller(control: Controller, full_v: float) -> _Need:
    def serves(part: BaseModel) -> float:
        if not isinstance(part, Controller) or part.kind != control.kind or not _reaches(part.battery_limit_a, control.battery_limit_a):
            return 0.0
        # One made for these volts by its label, or by what it stands at most.
        stands = part.max_v.value if part.max_v is not None else 0.0
        same_label = part.nominal_v is not None and control.nominal_v is not None and part.nominal_v.value == control.nominal_v.value
        return float((stands >= full_v > 0.0) if part.max_v is not None else same_label)

    def note(part: BaseModel) -> str:
        limit, asked = (one.battery_limit_a if isinstance(one, Controller) else None for one in (part, control))
        more = limit is not None and asked is not None and limit.value > asked.value
        return f"It gives up to {_value(limit)} A, the plan counts with {_value(asked)} A: set its limit first." if more else ""

    name = "Knob module" if control.kind == "knob module" else f"{control.kind} controller"
    label = f"{name}, {_value(control.nominal_v)} V, {_value(control.battery_limit_a)} A"
    return _Need(kind="controller", label=label, count=1, serves=serves, note=note)


def _motor(motor: Motor) -> _Need:
    def serves(part: BaseModel) -> float:
        if not isinstance(part, Motor) or part.kind != motor.kind:
            return 0.0
        figures = [(getattr(part, name), getattr(motor, name)) for name in ("volts_v", "power_w")]
        return float(part.count) if all(has is not None and asked is not None and has.value == asked.value for has, asked in figures) else 0.0

    label = f"Motor, {motor.kind}, {_value(motor.volts_v)} V, {_value(motor.power_w)} W"
    return _Need(kind="motor", label=label, count=motor.count, serves=serves)


def _charger(charger: Charger) -> _Need:
    def serves(part: BaseModel) -> float:
        return float(
            isinstance(part, Charger) and (part.chemistry, part.end_v.value) == (charger.chemistry, charger.end_v.value) and part.amps_a.value <= charger.amps_a.value
        )

    return _Need(kind="charger", label=charger.label, count=1, serves=serves)
