"""A kit or a donor in a machine: what it brings, what the machine still lacks, has twice or leaves over, and its claims beside what is computed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Literal

from gecko.analysis.whole import Analysis
from gecko.answers.evaluation import Out
from gecko.common.documents import Document, SetupDocument
from gecko.document.context import Context
from gecko.document.parts.held import Held, OnRack
from gecko.document.rack.about import Racked, inside
from gecko.document.rack.kinds import Content, Hardware, Kit
from gecko.document.setup import MOST_ROWS, Setup, load_setup
from gecko.hookup.logic import unused
from gecko.plans.needs import needs_of
from gecko.plans.parts_list import parts_list
from gecko.rules.registry import run_checks


class LeadOut(Out):
    """A plug or loose wire of the kit nothing hangs on, and what becomes of it."""

    lead: str
    do: str


class ClaimOut(Out):
    """What is printed on the box beside what is computed for this machine and rider, in SI."""

    what: Literal["speed", "distance", "power"]
    printed: float
    computed: float | None


class KitFit(Out):
    """A machine with a kit in it, and what follows."""

    setup: SetupDocument
    brings: list[str]
    """Its parts that found their place."""
    over: list[str]
    """Parts of the machine whose place they took."""
    twice: list[str]
    """Its parts of which one alone is needed."""
    idle: list[str]
    """Its parts this machine has no place for."""
    lacks: list[str]
    """What is still to be had for this machine."""
    leads: list[LeadOut]
    claims: list[ClaimOut]
    stops: list[str]
    """Plan stops of the machine with the kit in it."""


PLACES = {
    "motors": "motor",
    "controllers": "controller",
    "throttles": "throttle",
    "gearboxes": "drivetrain",
    "wheels": "wheel",
    "fuses": "main_fuse",
    "switches": "cut_off",
    "guards": "guard",
}
"""Where a part of a kind goes, of which a machine has one."""


@dataclass(frozen=True, kw_only=True)
class Brought:
    """What somebody begins with: a kit of the rack, or a single part, which is a kit of one that keeps its own name."""

    kit: Kit
    name: OnRack
    single: bool = False

    def named(self, number: int, content: Content) -> OnRack:
        """Which part of the rack one of its parts is."""
        return self.name if self.single else OnRack(key=inside(self.name.key, number), label=content.label, letter=self.name.letter)


@dataclass
class _Put:
    """A setup's document while a kit's parts are put into it, one after another."""

    document: Document
    brings: list[str] = field(default_factory=list)
    twice: list[str] = field(default_factory=list)
    idle: list[str] = field(default_factory=list)
    filled: set[str] = field(default_factory=set)

    @property
    def made_for_v(self) -> float | None:
        """Volts of the controller, else of the motor it brings; None where it brings neither or no label says it. [V]"""
        labels = [self.document[place].get(name) for place, name in (("controller", "nominal_v"), ("motor", "volts_v")) if place in self.filled]
        return next((float(label["value"]) for label in labels if label is not None), None)

    def put(self, content: Content, name: OnRack) -> None:
        """Put a part where it belongs."""
        part = content.part
        document: Document = part.model_dump(mode="json")
        if isinstance(part, Held):
            document["rack"] = name.model_dump(mode="json")
        words = content.label if content.count == 1 else f"{content.count} × {content.label}"
        if (place := PLACES.get(content.kind)) is not None:
            self._once(place, document, words)
        elif content.kind == "packs":
            # Packs of a kit stand side by side: in series they would be more volts than it is made for.
            bank = self.document.get("bank") or {}
            count = min(content.count, MOST_ROWS)
            rows = [{**_wiring(bank), "units": [document if n == 0 else {**document, "rack": None}]} for n in range(count)]
            self._once("bank", {**bank, "rows": rows, "home_pack": None}, words)
        elif content.kind in ("chargers", "plugs"):
            there = [] if content.kind not in self.filled else self.document[content.kind]
            self.filled.add(content.kind)
            self.document[content.kind] = [*there, document]
            self.brings.append(words)
        elif isinstance(part, Hardware) and self._hardware(part):
            self.brings.append(words)
        else:
            self.idle.append(words)

    def _once(self, place: str, value: Document, words: str) -> None:
        if place in self.filled:
            self.twice.append(words)
            return
        self.filled.add(place)
        self.document[place] = value
        self.brings.append(words)

    def _hardware(self, part: Hardware) -> bool:
        """Note what a part that turns, holds or tells changes in the setup; whether the setup has a word for it."""
        if part.what in ("sprocket", "chain"):
            return self._turns(part)
        if part.what == "key":
            self.document["controls"] = {**(self.document.get("controls") or {}), "key": True}
        elif part.what == "display":
            self.document["controls"] = {**(self.document.get("controls") or {}), "indicator": True}
        elif part.what == "lever":
            self.document["throttle"] = {**(self.document.get("throttle") or {}), "levers": True, "brake_cut_off_present": True}
        else:
            return part.what == "mount"
        return True

    def _turns(self, part: Hardware) -> bool:
        """Put a sprocket or a chain onto a chain drive; an open axle becomes one. A closed gearbox has no place for them."""
        drive = self.document.get("drivetrain")
        if drive is None or drive["kind"] == "differential":
            drive = self.document["drivetrain"] = {"kind": "chain"}
        if drive["kind"] != "chain":
            return False
        if part.what == "chain":
            drive |= {"chain_pitch": part.pitch or drive.get("chain_pitch"), "links": part.links or drive.get("links")}
        elif (part.teeth or 0) >= WHEEL_TEETH_FROM:
            drive |= {"wheel_teeth": part.teeth, "wheel_sprocket_pitch": part.pitch or None, "ratio": None}
        else:
            drive |= {"motor_teeth": part.teeth, "motor_sprocket_pitch": part.pitch or None, "shaft": drive.get("shaft") or (part.fits[:30] or None)}
        return True


WHEEL_TEETH_FROM = 24
"""A sprocket of so many teeth or more sits at the wheel. [1] Source: of the chains in `chains.csv` none has a motor's sprocket over 20 teeth or a wheel's under 28."""


def _wiring(bank: Document) -> Document:
    rows = bank.get("rows") or [{}]
    return {name: value for name, value in rows[0].items() if name != "units"}


def put_in(setup: Setup, brought: Brought) -> _Put:
    """A setup with the parts that are still in a kit, each in its place and named by the kit's key."""
    made, kit = _Put(setup.model_dump(mode="json")), brought.kit
    # What others hang on goes in first: a sprocket onto the gearing, a lever beside the throttle.
    late = ("hardware",)
    for n, content in sorted(enumerate(kit.contents), key=lambda one: one[1].kind in late):
        if not content.taken:
            made.put(content, brought.named(n, content))
    if "motor" in made.filled and "drivetrain" not in made.filled:
        _drive_by(made.document)
    controls = made.document.get("controls") or {}
    leads = list(dict.fromkeys([*(controls.get("harness") or []), *kit.leads])) if "controller" not in made.filled else list(kit.leads)
    made.document["controls"] = {**controls, "harness": leads, "direction": kit.direction if kit.direction != "none" else controls.get("direction", "none")}
    made.document["does_now"] = list(dict.fromkeys([*(made.document.get("does_now") or []), *kit.does]))
    if kit.pairs:
        made.document["plug_pairs"] = [pair.model_dump(mode="json") for pair in kit.pairs]
    if "controller" in made.filled and made.document["controller"]["kind"] != "none":
        # A pedal that switched the motors' current switches a small signal now.
        made.document["pedal_switch"] = None
    return made


def _drive_by(document: Document) -> None:
    """A motor in the wheel turns it by itself; one that is not needs another gearing than that, which nobody knows yet."""
    direct = document["motor"]["kind"] == "hub"
    drive = document.get("drivetrain")
    if direct is not (drive is not None and drive["kind"] == "hub"):
        document["drivetrain"] = {"kind": "hub"} if direct else None


def fit_kit(setup: Setup, kit: Kit, name: OnRack, context: Context, found: Setup | None = None, owned: Sequence[Racked] = ()) -> KitFit:
    """A machine with a kit in it. What it lacks is told beside the machine as it is now: what stays on it need not be had. found: the machine as it is,
    where `setup` has parts already that are still to come. owned: what else lies on the rack, which need not be had either."""
    made, there = put_in(setup, Brought(kit=kit, name=name)), found or setup
    after = load_setup(made.document)
    rack = [Racked(kind="kits", part=kit, quantity=1, key=name.key, label=name.label), *(one for one in owned if one.key != name.key)]
    to_buy = [need for need in parts_list(after, there, rack).needs if need.to_buy > 0.01 and need.kind not in ("wire", "ends")]
    analysis = Analysis(after, context)
    findings = [found.finding for found in run_checks(analysis)]
    kept = {(need.kind, need.label) for need in needs_of(after)}
    return KitFit(
        setup=after.model_dump(mode="json"),
        brings=made.brings,
        over=[need.label for need in needs_of(there) if (need.kind, need.label) not in kept and need.kind not in ("wire", "ends", "mount")],
        twice=made.twice,
        idle=made.idle,
        lacks=[*_not_there(after), *([_OTHER_PACKS] if _WINDOW & {one.id for one in findings} else []), *(need.label for need in to_buy)],
        leads=[LeadOut(lead=one.plug, do=one.said) for one in unused(after)],
        claims=_claims(kit, analysis),
        stops=[one.title for one in findings if one.gate == "plan"],
    )


_WINDOW = {"pack.window.low", "pack.window.controller"}
_OTHER_PACKS = "Packs of the volts its controller is made for"


def _not_there(setup: Setup) -> list[str]:
    """What no slot of a setup names, and a machine of its kind needs."""
    lacks = []
    if setup.main_fuse is None:
        lacks.append("A main fuse with its holder, close to the packs")
    if setup.cut_off is None:
        lacks.append("A cut-off within reach")
    if setup.bank is not None and setup.guard is None and any(pack.unguarded for row in setup.bank.rows for pack in row.units):
        lacks.append("A low-volt guard for these packs")
    if not setup.chargers:
        lacks.append("A charger for these packs")
    if setup.drivetrain is not None and setup.drivetrain.kind == "chain" and not setup.drivetrain.chain_guard:
        lacks.append("A guard over chain and sprockets")
    return lacks


LEAST_M_S = 0.2
"""Slower than this a machine does not get going. [m/s] This project's planning value."""


def _claims(kit: Kit, a: Analysis) -> list[ClaimOut]:
    if kit.claims is None:
        return []
    # A machine that stands where it is goes nowhere, however far its packs would last.
    rides, stands = a.machine is not None, a.machine is not None and float(a.top) < LEAST_M_S
    computed: dict[Literal["speed", "distance", "power"], tuple[float | None, float | None]] = {
        "speed": (kit.claims.speed_m_s, float(a.top) if rides else None),
        "distance": (kit.claims.distance_m, float(a.ride.distance_m) if rides else None),
        "power": (kit.claims.power_w, float(a.peak_a * a.lowest_v) if rides else None),
    }
    return [ClaimOut(what=what, printed=printed, computed=0.0 if stands else value) for what, (printed, value) in computed.items() if printed is not None]
