"""What a setup is made of: each part with what may take its place, and the size its price goes by."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from typing import Literal

from pydantic import BaseModel

from gecko.common.figures import Figure
from gecko.common.words import gauge, q
from gecko.document.parts.auxiliary import Auxiliary, Converter
from gecko.document.parts.charger import Charger
from gecko.document.parts.controller import Controller, Throttle
from gecko.document.parts.drivetrain import Drivetrain, Wheel
from gecko.document.parts.fuse import Fuse
from gecko.document.parts.held import Held, OnRack
from gecko.document.parts.motor import Motor
from gecko.document.parts.pack import Pack, match_in_series, usual_limits_a
from gecko.document.parts.plug import Guard, Plug, Switch
from gecko.document.parts.wire import Insulation, Lead
from gecko.document.rack.kinds import Hardware, HardwareKind, WireReel
from gecko.document.setup import Setup
from gecko.reference.tables import contact

SPARE = 1.1
"""Wire is bought with a tenth to spare. [1]"""

_STANDS_C: dict[Insulation, int] = {"60": 60, "75": 75, "105": 105, "silicone": 180}
"""What an insulation stands, to tell which may take another's place. [°C]"""

NeedKind = Literal[
    "pack",
    "fuse",
    "wire",
    "ends",
    "plug",
    "cut-off",
    "guard",
    "controller",
    "throttle",
    "brake lever",
    "motor",
    "mount",
    "sprocket",
    "chain",
    "gearbox",
    "wheel",
    "charger",
    "converter",
    "accessory",
]


@dataclass(frozen=True, kw_only=True)
class Need:
    """So many alike parts a setup needs."""

    kind: NeedKind
    label: str
    count: float
    """Pieces, or metres of wire. [1, m]"""
    serves: Callable[[BaseModel], float]
    """How much of the need one such part serves: pieces, or metres. [1, m]"""
    unit: Literal["", "m"] = ""
    note: Callable[[BaseModel], str] = lambda _part: ""
    size: float | None = None
    """What its price goes by, in the unit that `gecko/reference/prices.csv` names for it; None where that is not known."""
    priced_as: str = ""
    """The row of that table, where it is not the kind's own."""
    named: tuple[tuple[OnRack, Held], ...] = ()
    """Which parts of the rack stand in its slots, as far as they are some, and what the slots say of them."""
    told_in: int = 1
    """In how many needs the part that stands in a slot is told: a chain drive is two sprockets and a chain."""


def needs_of(setup: Setup) -> list[Need]:
    """Every part of a setup, alike ones together; wire in metres both ways with a tenth to spare."""
    found: dict[tuple[str, str], Need] = {}
    for need in _needs(setup):
        old = found.get((need.kind, need.label))
        # What serves the first of several alike serves all of them.
        found[need.kind, need.label] = need if old is None else replace(old, count=old.count + need.count, named=(*old.named, *need.named))
    return list(found.values())


def _needs(setup: Setup) -> Iterator[Need]:
    for row in setup.bank.rows if setup.bank is not None else ():
        for pack in row.units:
            yield _pack(pack)
        yield from _run(row.fuse, row.lead, row.link)
        yield from map(_plug, row.plugs)
    yield from _run(setup.main_fuse, setup.main_lead, setup.controller_lead, setup.motor_lead)
    yield from map(_plug, setup.plugs)
    for branch in setup.auxiliaries:
        yield from _branch(branch)
    if setup.cut_off is not None:
        yield _switch(setup.cut_off)
    if setup.guard is not None and setup.guard.kind == "module":
        yield _guard(setup.guard)
    if setup.controller is not None and setup.controller.kind != "none":
        yield _controller(setup.controller, max((row.full_v for row in setup.bank.rows), default=0.0) if setup.bank is not None else 0.0)
        if setup.throttle is not None and setup.controller.reads_throttle:
            yield from _throttle(setup.throttle)
    if setup.motor is not None:
        yield _motor(setup.motor)
        if setup.drivetrain is None or setup.drivetrain.kind != "hub":
            yield replace(_hardware("mount", f"Mount for the {_motor_words(setup.motor)}", "mount"), count=setup.motor.count)
    if setup.drivetrain is not None:
        yield from _gearing(setup.drivetrain)
    if setup.wheel is not None:
        yield _wheel(setup.wheel)
    yield from map(_charger, setup.chargers)


def _value(figure: Figure | None) -> str:
    return "?" if figure is None else f"{figure.value:g}"


def _number(figure: Figure | None) -> float | None:
    return None if figure is None else figure.value


def _reaches(has: Figure | None, asked: Figure | None) -> bool:
    """Whether a part is known to stand what is asked; where nothing is asked, any part does."""
    return asked is None or (has is not None and has.value >= asked.value)


def _names(part: Held) -> tuple[tuple[OnRack, Held], ...]:
    return () if part.rack is None else ((part.rack, part),)


def _pack(pack: Pack) -> Need:
    def serves(part: BaseModel) -> float:
        # A pack that was hurt serves nobody.
        if not isinstance(part, Pack) or part.damage or not match_in_series([part, pack]):
            return 0.0
        # One that states no amps is trusted with what such cells usually give.
        asked = (pack.continuous_a, pack.peak_10s_a)
        return float(all(one is None or gives >= one.value for gives, one in zip(usual_limits_a(part), asked, strict=True)))

    return Need(kind="pack", label=pack.label, count=1, serves=serves, size=pack.nominal_v * float(pack.capacity_ah.value), named=_names(pack))


def _run(fuse: Fuse | None, *leads: Lead | None) -> Iterator[Need]:
    if fuse is not None:
        yield _fuse(fuse)
    for lead in leads:
        if lead is not None:
            yield _wire(lead)
            # Out and back, both ends of each.
            label = f"Crimped ends with sleeve, {gauge(lead.awg, lead.mm2)}"
            yield Need(kind="ends", label=label, count=4 * lead.strands, serves=lambda _part: 0.0)


def _fuse(fuse: Fuse) -> Need:
    def serves(part: BaseModel) -> float:
        return float(isinstance(part, Fuse) and (part.kind, part.rating_a) == (fuse.kind, fuse.rating_a) and part.dc_volts_v >= fuse.dc_volts_v)

    label = f"{fuse.rating_a:g} A {fuse.kind} fuse, {fuse.dc_volts_v:g} V DC or more, with holder"
    return Need(kind="fuse", label=label, count=1, serves=serves, size=fuse.rating_a, named=_names(fuse))


def _wire(lead: Lead) -> Need:
    def serves(part: BaseModel) -> float:
        if not isinstance(part, WireReel) or part.metres is None or lead.material != "copper":
            return 0.0
        same = part.mm2 == lead.mm2 if lead.mm2 is not None else part.mm2 is None and part.awg == lead.awg
        # A reel nobody read the print of may be of the weakest kind.
        as_hot = _STANDS_C[part.insulation or "60"] >= _STANDS_C[lead.insulation]
        return part.metres if same and as_hot else 0.0

    label = f"{gauge(lead.awg, lead.mm2)} {lead.material} wire"
    return Need(kind="wire", label=label, count=2.0 * lead.length_m.value * lead.strands * SPARE, serves=serves, unit="m", size=lead.wire_m2 * 1e6)


def _plug(plug: Plug) -> Need:
    def serves(part: BaseModel) -> float:
        return float(isinstance(part, Plug) and part.kind == plug.kind and not part.browned)

    rating_a = float(plug.rating_a.value) if plug.rating_a is not None else contact(plug.kind)[1]
    return Need(kind="plug", label=f"{plug.kind} plug, pair", count=max(round(plug.poles / 2), 1), serves=serves, size=rating_a, named=_names(plug))


def _branch(branch: Auxiliary) -> Iterator[Need]:
    # Two lamps of one name need not be alike: an accessory of the rack is put into its slot by hand.
    yield Need(kind="accessory", label=branch.label, count=1, serves=lambda _part: 0.0)
    yield from _run(branch.fuse, branch.lead)
    if branch.converter is not None:
        yield _converter(branch.converter)


def _converter(made: Converter) -> Need:
    def serves(part: BaseModel) -> float:
        if not isinstance(part, Converter) or part.output_v.value != made.output_v.value:
            return 0.0
        return float(_reaches(part.output_a, made.output_a) and _reaches(part.input_max_v, made.input_max_v) and _reaches(made.input_min_v, part.input_min_v))

    label = f"Converter to {_value(made.output_v)} V, {_value(made.output_a)} A, up to {_value(made.input_max_v)} V in"
    return Need(kind="converter", label=label, count=1, serves=serves, size=float(made.output_a.value), named=_names(made))


def _switch(switch: Switch) -> Need:
    def serves(part: BaseModel) -> float:
        return float(isinstance(part, Switch) and _reaches(part.rating_a, switch.rating_a) and _reaches(part.dc_volts_v, switch.dc_volts_v))

    stated = [f"{figure.value:g} {unit}" for figure, unit in ((switch.rating_a, "A"), (switch.dc_volts_v, "V DC")) if figure is not None]
    label = ", ".join([f"Cut-off ({switch.kind})", *stated])
    return Need(kind="cut-off", label=label, count=1, serves=serves, size=_number(switch.rating_a), named=_names(switch))


def _guard(guard: Guard) -> Need:
    def serves(part: BaseModel) -> float:
        return float(isinstance(part, Guard) and part.kind == guard.kind and _reaches(part.rating_a, guard.rating_a))

    def note(part: BaseModel) -> str:
        return f"Set it to {guard.volts_v.value:g} V." if isinstance(part, Guard) and part.volts_v.value != guard.volts_v.value else ""

    label = f"Low-volt guard, set to {guard.volts_v.value:g} V"
    return Need(kind="guard", label=label, count=1, serves=serves, note=note, size=_number(guard.rating_a), named=_names(guard))


def _controller(control: Controller, full_v: float) -> Need:
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
    priced_as = "knob module" if control.kind == "knob module" else ""
    size = _number(control.battery_limit_a)
    return Need(kind="controller", label=label, count=1, serves=serves, note=note, size=size, priced_as=priced_as, named=_names(control))


def _throttle(throttle: Throttle) -> Iterator[Need]:
    def serves(part: BaseModel) -> float:
        return float(isinstance(part, Throttle) and part.kind == throttle.kind != "unknown")

    yield Need(kind="throttle", label=f"Throttle, {throttle.kind}", count=1, serves=serves, named=_names(throttle))
    if throttle.brake_cut_off_present:
        yield replace(_hardware("brake lever", "Brake lever with its switch", "lever"), count=1)


def _motor_words(motor: Motor) -> str:
    return f"{motor.kind}, {_value(motor.volts_v)} V, {_value(motor.power_w)} W"


def _motor(motor: Motor) -> Need:
    def serves(part: BaseModel) -> float:
        if not isinstance(part, Motor) or part.kind != motor.kind:
            return 0.0
        figures = [(getattr(part, name), getattr(motor, name)) for name in ("volts_v", "power_w")]
        return float(part.count) if all(has is not None and asked is not None and has.value == asked.value for has, asked in figures) else 0.0

    return Need(kind="motor", label=f"Motor, {_motor_words(motor)}", count=motor.count, serves=serves, size=_number(motor.power_w), named=_names(motor))


def _hardware(kind: NeedKind, label: str, what: HardwareKind, *, teeth: int | None = None, pitch: str = "", fits: str = "") -> Need:
    """One part that turns or holds. One of the rack serves where all that is asked of it is known of it and the same."""

    def serves(part: BaseModel) -> float:
        if not isinstance(part, Hardware) or part.what != what:
            return 0.0
        asked = [(part.teeth, teeth), (part.pitch, pitch), (part.fits, fits)]
        # A part nothing is asked of but its name may be any of its kind: nobody knows whether it fits.
        return float(any(want for _, want in asked) and all(not want or has == want for has, want in asked))

    return Need(kind=kind, label=label, count=1, serves=serves, size=None if teeth is None else float(teeth))


def _gearing(drive: Drivetrain) -> Iterator[Need]:
    if drive.kind in ("plastic gearbox", "worm transaxle", "differential"):
        ratio = "" if drive.ratio is None else f", {drive.ratio.value:g} : 1"

        def same(part: BaseModel) -> float:
            return float(isinstance(part, Drivetrain) and part.kind == drive.kind and _number(part.ratio) == _number(drive.ratio))

        yield Need(kind="gearbox", label=f"{drive.kind.capitalize()}{ratio}", count=1, serves=same, named=_names(drive))
    if drive.kind != "chain":
        return
    size = drive.chain_pitch or ""
    for whose, teeth, pitch, fits in (
        ("motor", drive.motor_teeth, drive.motor_sprocket_pitch, drive.shaft),
        ("wheel", drive.wheel_teeth, drive.wheel_sprocket_pitch, drive.wheel_bolts),
    ):
        stamped = pitch or size
        label = ", ".join([f"Sprocket at the {whose}", *([f"{teeth} teeth"] if teeth else []), *([f"chain {stamped}"] if stamped else [])])
        yield replace(_hardware("sprocket", label, "sprocket", teeth=teeth, pitch=stamped, fits=fits or ""), named=_names(drive), told_in=3)
    label = ", ".join(["Chain", *([size] if size else []), *([f"{drive.links} links"] if drive.links else [])])
    yield replace(_hardware("chain", label, "chain", pitch=size), named=_names(drive), told_in=3)


def _wheel(wheel: Wheel) -> Need:
    def serves(part: BaseModel) -> float:
        return float(isinstance(part, Wheel) and part.tyre == wheel.tyre and abs(part.diameter_m.value - wheel.diameter_m.value) < 0.005)

    return Need(kind="wheel", label=f"Driven wheel, {q(wheel.diameter_m.value, 'length')} across, {wheel.tyre}", count=1, serves=serves, named=_names(wheel))


def _charger(charger: Charger) -> Need:
    def serves(part: BaseModel) -> float:
        return float(
            isinstance(part, Charger) and (part.chemistry, part.end_v.value) == (charger.chemistry, charger.end_v.value) and part.amps_a.value <= charger.amps_a.value
        )

    watts = float(charger.end_v.value * charger.amps_a.value) * charger.ports
    return Need(kind="charger", label=charger.label, count=1, serves=serves, size=watts, named=_names(charger))
