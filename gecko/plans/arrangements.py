"""Starting points: a typical baseline of a family, and the arrangements of the packs on the shelf that make sense with it."""

from __future__ import annotations

from collections.abc import Iterator, Sequence, Set
from dataclasses import dataclass

from gecko.analysis.guard import guard_level_v
from gecko.analysis.whole import Analysis
from gecko.answers.evaluation import Out
from gecko.common.documents import Document, SetupDocument
from gecko.document.context import Context
from gecko.document.parts.controller import usual_limit_a
from gecko.document.parts.held import OnRack
from gecko.document.parts.motor import BRUSHLESS
from gecko.document.parts.pack import EMPTY_PER_CELL_V, FULL_PER_CELL_V, NOMINAL_PER_CELL_V, USUAL_C, Chemistry, Pack, default_resistance_ohm
from gecko.document.parts.vehicle import Stock
from gecko.document.rack.about import RackFact
from gecko.document.rack.slots import numbered
from gecko.document.setup import Setup, load_setup
from gecko.machine.carried import note_masses
from gecko.physics.protection.fuse import fuse_rank
from gecko.plans.kits import Brought, put_in
from gecko.plans.mending import mended
from gecko.plans.trail import build_trail
from gecko.reference.tables import families, offered_fuses
from gecko.rules.edits import as_fuse, as_size, figure, merged, round_up
from gecko.rules.registry import run_checks
from gecko.rules.together import row_fuse


def _assumed(value: float) -> Document:
    """A figure with basis assumed, as it stands in a document; in the unit of its field."""
    return figure(value, "assumed")


def stock_battery(chemistry: Chemistry, volts_v: float, capacity_ah: float, asked_a: float = 0.0) -> list[Document]:
    """The packs a stock battery of these volts [V] and this capacity [Ah] most likely is, in series, every number assumed.

    Lead comes in blocks of 12 V, below 10 V in one of 6 V; lithium as one pack with its own protection, of power cells where its controller
    asks for more than energy cells give. asked_a: by that controller [A].
    """

    if chemistry == "lead":
        block, cells = (6, 3) if volts_v < 10.0 else (12, 6)
        one = {"label": f"{block} V lead block", "chemistry": "lead", "cells_in_series": cells, "capacity_ah": _assumed(capacity_ah), "guard_in_tool": False}
        return [one] * min(max(round(volts_v / block), 1), 8)
    per_cell = NOMINAL_PER_CELL_V[chemistry]
    cells = min(max(round(volts_v / per_cell), 1), 28)
    cell_kind, trips = ("energy", 4.5) if asked_a <= ENERGY_C * capacity_ah else ("power", 10.0)
    steady, peak = USUAL_C[cell_kind]
    return [
        {
            "label": f"{cells}-cell pack",
            "chemistry": chemistry,
            "cells_in_series": cells,
            "cell_kind": cell_kind,
            "capacity_ah": _assumed(capacity_ah),
            "continuous_a": _assumed(steady * capacity_ah),
            "peak_10s_a": _assumed(peak * capacity_ah),
            "trip_a": _assumed(trips * capacity_ah),
            "protection_low_v": _assumed(EMPTY_PER_CELL_V[chemistry] * cells),
            "guard_in_tool": False,
        }
    ]


ENERGY_C, POWER_C = 3.0, 6.0
"""What left the factory asks its own pack of energy cells for no more amps than so many times its amp-hours, one of power cells for so many.
[1/h] This project's planning values."""


def usual_capacity_ah(family_ah: float, chemistry: Chemistry, asked_a: float) -> float:
    """Amp-hours of the battery a machine left the factory with: its family's, or as many as its controller needs. [Ah]

    >>> usual_capacity_ah(20.0, "li-ion", 33.0), usual_capacity_ah(9.0, "li-ion", 290.0)
    (20.0, 49.0)
    """
    return max(family_ah, round_up(asked_a / (ENERGY_C if chemistry == "lead" else POWER_C), 1))


def _bought(rating_a: float, full_v: float, short_a: float = 0.0) -> Document:
    """A fuse one can buy, as it stands in a document, that breaks a short of so many amps; where none has the rating, the largest for these volts."""
    fit = [f for f in offered_fuses() if f.dc_volts_v >= full_v and f.breaking_a >= short_a]
    fuse = min((f for f in fit if f.rating_a >= rating_a), key=fuse_rank, default=None) or max(fit, key=lambda f: f.rating_a)
    return {"kind": fuse.kind, "rating_a": fuse.rating_a, "dc_volts_v": fuse.dc_volts_v}


def _stock_switch(rated_a: float, full_v: float) -> Document:
    """The switch a machine left the factory with, for the rated amps of its motors [A] and its full volts [V]."""
    return {"kind": "switch", "rating_a": _assumed(max(40.0, round_up(3.0 * rated_a, 10))), "dc_volts_v": _assumed(max(30.0, round_up(full_v, 10)))}


_STOCK_FUSES = (15.0, 20.0, 25.0, 30.0, 40.0, 60.0, 80.0, 100.0, 125.0, 150.0, 200.0, 250.0, 300.0, 350.0, 400.0)
_STOCK_LEADS = ((15.0, 14, 1), (25.0, 12, 1), (40.0, 10, 1), (60.0, 6, 1), (80.0, 4, 1), (125.0, 2, 1), (250.0, 2, 2), (350.0, 2, 3))
"""Fuses [A], and up to which of them a factory lays which gauge (AWG) how many times, so that the fuse guards it. This project's planning
values."""

_STOCK_PLUGS = ((20.0, "spade 6.3"), (60.0, "two-pole 60"), (90.0, "two-pole 90"))
"""Up to which fuse [A] a factory fits which plug. This project's planning values."""


def _short_a(units: list[Document]) -> float:
    """What packs in series push through a dead short at their terminals. [A]"""
    packs = [Pack.model_validate(unit) for unit in units]
    return sum(pack.full_v for pack in packs) / sum(default_resistance_ohm(pack) for pack in packs)


def typical_setup(family: str, volts_v: float | None = None, power_w: float | None = None) -> Document:
    """The commonest machine of a family as a Setup document, every number assumed; at other stock volts [V] and motor watts [W, each] where known.

    Battery, motor, fuse, lead and switch are then made for those, as they are on a machine that left the factory with them; what is left
    open, as the controller's limits, follows the motor's plate. Raises KeyError for no such family.
    """
    f = families()[family]
    stock = f.volts_v if volts_v is None else volts_v

    chemistry: Chemistry = "lead" if family in ("ride-on car", "small dirt bike", "quad", "transplant") else "li-ion"
    direct = f.controller == "none"
    each_w = f.power_w if power_w is None else power_w
    watts = each_w * f.motors
    limit = usual_limit_a(watts, stock)
    capacity = usual_capacity_ah(f.capacity_ah, chemistry, limit)
    units = stock_battery(chemistry, stock, capacity, limit)
    full = FULL_PER_CELL_V[chemistry] * sum(unit["cells_in_series"] for unit in units)
    fuse = next((r for r in _STOCK_FUSES if r >= limit), _STOCK_FUSES[-1])
    lead, strands = next(((awg, strands) for most, awg, strands in _STOCK_LEADS if fuse <= most), (2, 4))
    motor: Document = {
        "kind": f.motor,
        "count": f.motors,
        "wiring": "parallel" if f.motors > 1 else "single",
        "volts_v": _assumed(stock),
        "power_w": _assumed(each_w),
        "no_load_rpm" if f.rpm_kind == "no_load" else "speed_rpm": _assumed(f.rpm),
    }
    drive: Document = {"kind": f.drive}
    if f.drive == "chain":
        drive |= {"motor_teeth": 11, "wheel_teeth": round(11 * f.ratio)}
    elif f.drive != "hub":
        drive |= {"ratio": _assumed(f.ratio)}
    return {
        "version": 1,
        "vehicle": {"family": family, "driven_axle": f.driven, "brake": f.brake},
        "stock": {"volts_v": _assumed(stock), "capacity_ah": _assumed(capacity), "fuse_a": _assumed(fuse)},
        "bank": {"rows": [{"units": units}]},
        "main_fuse": {**_bought(fuse, full, _short_a(units)), "side": "unknown"},
        "main_lead": {"awg": lead, "strands": strands, "length_m": _assumed(0.8), "insulation": "105", "bundle_conductors": 2},
        # Above what plugs stand a factory bolts its lugs down.
        "plugs": [{"kind": kind, "poles": 4} for most, kind in _STOCK_PLUGS if fuse <= most and (direct or kind != "spade 6.3")][:1],
        "cut_off": None if fuse <= _STOCK_PLUGS[-1][0] else _stock_switch(watts / stock, full),
        "pedal_switch": _stock_switch(watts / stock, full) if direct else None,
        "controller": {"kind": "none"}
        if direct
        else {
            "kind": f.controller,
            "throttle": "hall",
        },
        "throttle": {
            "kind": "switch" if direct else "hall",
        },
        "motor": motor,
        "drivetrain": drive,
        "wheel": {"diameter_m": _assumed(2.0 * f.wheel_radius_m), "tyre": f.tyre},
        "ground": {"surface": "short grass" if family in ("quad", "transplant") else "paving"},
    }


@dataclass(frozen=True)
class Shelf:
    """A kind of pack on the shelf and how many of it there are."""

    pack: Pack
    count: int
    names: tuple[OnRack, ...] = ()
    """Which parts of the rack they are, as far as they are some."""


class Offer(Out):
    """An arrangement offered beside the baseline: a whole Setup document, with what it gives at a glance."""

    name: str
    setup: SetupDocument
    rows: int
    in_series: int
    top_speed_m_s: float | None
    run_time_s: float | None
    stops: list[str]
    """Titles of what stops it."""
    cautions: int
    shares: list[float | None]
    """Share of each station of its trail, for the ribbon."""
    states: list[str]
    lacked: list[str] = []
    """What was put in beside the packs, so that nothing stops the plan."""
    advice: str = ""
    says: str = ""
    """What it is like beside the machine as found, in a sentence."""


_WORDS = {1: "One", 2: "Two", 3: "Three", 4: "Four", 5: "Five", 6: "Six", 7: "Seven", 8: "Eight"}


def _name(rows: int, series: int, which: str = "") -> str:
    """An arrangement in words. which: what tells its packs from the other kinds on the shelf, such as "5-cell "."""
    if rows == 1 and series == 1:
        return f"One {which}pack"
    if series == 1:
        return f"{_WORDS.get(rows, rows)} {which}packs side by side"
    if rows == 1:
        return f"{_WORDS.get(series, series)} {which}packs in a row"
    return f"{_WORDS.get(rows * series, rows * series)} {which}packs, {str(_WORDS.get(rows, rows)).lower()} rows"


def _which(pack: Pack, shelf: list[Shelf]) -> str:
    """What tells a kind of pack from the others on the shelf, in a word or two; empty where there is no other kind."""
    others = [other.pack for other in shelf if other.pack != pack]
    if not others:
        return ""
    chemistry = {"li-ion": "", "lfp": "LFP ", "lead": "lead ", "nickel": "nickel "}[pack.chemistry]
    cells = f"{pack.cells_in_series}-cell {chemistry}"
    if all((other.cells_in_series, other.chemistry) != (pack.cells_in_series, pack.chemistry) for other in others):
        return cells
    return f"{pack.capacity_ah.value:g} Ah {cells}"


def beside_found(document: Document, found: Setup) -> Document:
    """The document of a setup with the mass of the packs and the drive the machine was found with noted, so that what others weigh more or less counts.

    Left alone where that is known already, and where the machine's mass is another than as found: it was weighed anew.
    """
    mass = (document.get("vehicle") or {}).get("mass_kg")
    found_mass = found.vehicle.mass_kg if found.vehicle is not None else None
    if mass != (None if found_mass is None else found_mass.model_dump(mode="json")):
        return document
    noted = dict(document)
    note_masses(noted, found)
    return noted


def arrange(baseline: Setup, pack: Pack, rows: int, series: int) -> Document:
    """The baseline's document with a bank of rows × series alike packs; see `arrange_rows`."""
    return arrange_rows(baseline, [[pack] * series] * rows)


def arrange_rows(baseline: Setup, rows: Sequence[Sequence[Pack]]) -> Document:
    """The baseline's document with a bank of these rows of packs in series, its own row fuses, a guard and a cut-off.

    Fuse and wire are then chosen together for it. Voltage stays what the packs give; motor and gearing stay stock.
    """
    document = baseline.model_dump(mode="json")
    document["bank"] = {"rows": [{"units": [pack.model_dump(mode="json") for pack in row], "fuse": None, "lead": None} for row in rows]}
    # The old charger belongs to the old battery.
    document["chargers"] = []
    document = beside_found(document, baseline)
    setup = load_setup(document)
    assert setup.bank is not None
    analysis = Analysis(setup)
    peak = float(analysis.peak_a) if analysis.machine is not None else 30.0
    full = setup.bank.rows[0].full_v
    rating = round_up(max(peak * 1.3, 40.0), 10)
    if any(pack.unguarded for row in rows for pack in row):
        document["guard"] = {"kind": "module", "volts_v": figure(guard_level_v(setup.bank)), "rating_a": figure(rating)}
    document["cut_off"] = {"kind": "switch", "rating_a": figure(rating), "dc_volts_v": figure(round_up(full, 10))}
    if document.get("main_fuse") and document["main_fuse"]["dc_volts_v"] < full:
        document["main_fuse"] |= _bought(document["main_fuse"]["rating_a"], full)
    _choose_fuse_and_wire(document)
    if document.get("main_fuse"):
        # It is planned anew: into the plus lead.
        document["main_fuse"]["side"] = "positive"
    if len(rows) > 1:
        fuse = row_fuse(Analysis(load_setup(document)))
        for row in document["bank"]["rows"]:
            row["fuse"] = as_fuse(fuse) if fuse else _bought(40.0, full)
            row["lead"] = {"awg": 12, "length_m": figure(0.2, "assumed"), "insulation": "105", "bundle_conductors": 2}
    return load_setup(document).model_dump(mode="json")


def _choose_fuse_and_wire(document: Document) -> None:
    """Put the recommended fuse and gauge in, where there is one."""
    analysis = Analysis(load_setup(document))
    table = analysis.choice
    best = table.recommended("careful") if table else None
    if table and best:
        merged(document, "/main_fuse", as_fuse(table.fuses[best[0]]))
        merged(document, "/main_lead", as_size(table.sizes[best[1]]))


def bare_frame(machine: Setup) -> Setup:
    """The same machine before anything electric is on it: a frame that had an engine, or nothing. No stock electrics are made up for it."""
    document = machine.model_dump(mode="json")
    electric = ("bank", "main_fuse", "main_lead", "controller_lead", "motor_lead", "controller", "throttle", "motor", "drivetrain", "guard")
    document |= dict.fromkeys((*electric, "cut_off", "pedal_switch", "key_switch", "contactor"))
    return load_setup({**document, "plugs": [], "stock": {}})


def offers(baseline: Setup, shelf: list[Shelf], *, bare: bool = False, kit: Brought | None = None, rack: tuple[RackFact, ...] = ()) -> list[Offer]:
    """Arrangements of the packs on the shelf that make sense with a baseline: volts from 0.7 to 2.2 times stock.

    Each is a whole setup, evaluated; the best start is named so. It has no plan stop: what it lacked for that is in it, and told.
    bare: the electric parts of `baseline` are what is to go onto a machine without any. kit: what is in every arrangement; where no pack on the shelf
    suits it, with the packs of the machine or of the kit. rack: what is known of parts on the shelf and of the kit.
    """
    base = Analysis(baseline, Context(is_baseline=True))
    stock = base.nominal_v or (baseline.stock.volts_v.value if baseline.stock.volts_v else 12.0)
    context = Context(baseline=bare_frame(baseline) if bare else baseline, rack=rack)
    owned = [(kind.pack, kind.names) for kind in shelf]
    found: list[Offer] = []
    beside = ""
    machine = baseline.model_copy(update={"stock": Stock(), "bank": None}) if bare else baseline
    if kit is not None:
        made = put_in(machine, kit)
        if bare:
            _to_go_with(made.document, made.filled)
        machine, beside = load_setup(beside_found(made.document, baseline)), f", {kit.name.name}"
        stock = made.made_for_v or stock
    for kind in shelf:
        for series in range(1, min(kind.count, 6) + 1):
            nominal = kind.pack.nominal_v * series
            if not 0.7 * stock <= nominal <= 2.2 * stock or kind.pack.full_v * series > 120:
                continue
            for rows in range(1, min(kind.count // series, 4) + 1):
                document = numbered(arrange(machine, kind.pack, rows, series), owned)
                found.append(_offer(_name(rows, series, _which(kind.pack, shelf)) + beside, document, context, rows, series))
    for unlike in _unlike(shelf, stock):
        words = f"{_WORDS.get(len(unlike), len(unlike))} unlike {unlike[0].cells_in_series}-cell packs side by side"
        found.append(_offer(words + beside, numbered(arrange_rows(machine, [[pack] for pack in unlike]), owned), context, len(unlike), 1))
    if kit is not None and not found:
        found.append(glance(machine, kit.name.name, context))
    limits = [float(base.top)] if base.machine is not None and not bare else []
    if base.resolved.cap_m_s is not None:
        limits.append(AS_FAST * base.resolved.cap_m_s)
    return _advised(found, context, AS_FAST * min(limits, default=0.0))[:12]


def _to_go_with(document: Document, filled: Set[str]) -> None:
    """On a bare frame nobody has the other one yet: a controller of the motor's kind is to be had, or a motor of the controller's."""
    motor, control = document.get("motor"), document.get("controller")
    if motor is None or control is None or ("motor" in filled) is ("controller" in filled):
        return
    if "motor" in filled:
        control["kind"] = "brushless" if motor["kind"] in BRUSHLESS else "brushed"
    elif control["kind"] in ("brushed", "brushless") and (motor["kind"] in BRUSHLESS) is not (control["kind"] == "brushless"):
        motor["kind"] = "brushless mid" if control["kind"] == "brushless" else "brushed"


def _unlike(shelf: list[Shelf], stock_v: float) -> Iterator[list[Pack]]:
    """Packs of several kinds that may stand side by side: of the same chemistry and cells, near the stock volts [V]; all of them."""
    kinds: dict[tuple[str, int], list[Pack]] = {}
    for entry in shelf:
        kinds.setdefault((entry.pack.chemistry, entry.pack.cells_in_series), []).extend([entry.pack] * entry.count)
    for packs in kinds.values():
        if any(pack != packs[0] for pack in packs) and 0.7 * stock_v <= packs[0].nominal_v <= 2.2 * stock_v:
            yield packs[:4]


LEAST_START_M_S = 0.6
"""A start that goes slower is no best one: a child walks faster. [m/s] This project's planning value."""
LEAST_START_S = 600.0
"""A start that rides for less is no best one. [s] This project's planning value."""


def _advised(found: list[Offer], context: Context, least_m_s: float) -> list[Offer]:
    """The offers with the best start named. A best start has no plan stops, gets going, and what it lacked was put in. Of those tried it is the first
    that goes at least this fast [m/s]; without one, of the fastest the one that lacks least, and of these the one that rides longest."""
    order = sorted(range(len(found)), key=lambda i: (len(found[i].stops), found[i].cautions, -(found[i].run_time_s or 0.0)))
    good: list[tuple[int, Offer]] = []
    for i in order[:MOST_TRIED]:
        offer = found[i]
        if offer.stops:
            offer = completed(load_setup(offer.setup), offer.name, context)
        if not offer.stops and (offer.run_time_s or 0.0) >= LEAST_START_S and (offer.top_speed_m_s or 0.0) >= LEAST_START_M_S:
            good.append((i, offer))
            if (offer.top_speed_m_s or 0.0) >= least_m_s:
                break
    if good:
        enough_m_s = min(least_m_s, AS_FAST * max(offer.top_speed_m_s or 0.0 for _, offer in good))
        fast = [(i, offer) for i, offer in good if (offer.top_speed_m_s or 0.0) >= enough_m_s]
        i, best = fast[0] if enough_m_s >= least_m_s else max(fast, key=lambda one: (-len(one[1].lacked), one[1].run_time_s or 0.0))
        found[i] = best.model_copy(update={"advice": "best start"})
    return found


STANDS_BY = ("pack.window.low",)
"""Findings that are a question elsewhere, and stop a start: it is not known that the machine goes at all."""
AS_FAST = 0.9
"""A start is fast enough from this share on of what the machine went, or of its rider's cap where that is less. [1] This project's planning value."""
MOST_TRIED = 4
"""So many arrangements are mended at most to find a best start. [1]"""


def completed(setup: Setup, name: str, context: Context) -> Offer:
    """A setup with what it lacks put in, by fixes that leave its packs as they are where there are such, at a glance. Its stops are those that
    no fix takes away."""
    road = mended(setup, context, keep_packs=True, also=STANDS_BY)
    return glance(road.setup, name, context).model_copy(update={"lacked": list(road.labels)})


def glance(setup: Setup, name: str, context: Context) -> Offer:
    """A setup at a glance: speed, run time, stops, and the trail's shares."""
    rows = len(setup.bank.rows) if setup.bank else 0
    series = len(setup.bank.rows[0].units) if setup.bank else 0
    return _offer(name, setup.model_dump(mode="json"), context, rows, series)


def _offer(name: str, document: Document, context: Context, rows: int, series: int) -> Offer:
    analysis = Analysis(load_setup(document), context)
    findings = [f.finding for f in run_checks(analysis)]
    stations, _ = build_trail(analysis, findings)
    known = analysis.machine is not None
    return Offer(
        name=name,
        setup=document,
        rows=rows,
        in_series=series,
        top_speed_m_s=float(analysis.top) if known else None,
        run_time_s=float(analysis.ride.run_time_s) if known else None,
        stops=[f.title for f in findings if f.gate == "plan" or f.key in STANDS_BY],
        cautions=sum(f.severity == "caution" for f in findings),
        shares=[s.share for s in stations],
        states=[s.state for s in stations],
        says=_says(analysis),
    )


def _times(share: float) -> str:
    """So many times as much, as one says it.

    >>> [_times(share) for share in (0.47, 0.75, 1.02, 1.6)]
    ['half as', '0.8 times as', 'as', '1.6 times as']
    """
    if abs(share - 1.0) <= 0.05:
        return "as"
    return "half as" if abs(share - 0.5) < 0.05 else f"{share:.1f} times as"


def _says(a: Analysis) -> str:
    """Speed and run time beside the machine as found, and for whom it is held back; the machine as found says what it is there for."""
    if a.context.is_baseline:
        return "Ride it once like this: every gain is measured against it." if a.machine is not None else "Nothing electric is on it yet."
    if a.machine is None or a.baseline is None:
        return ""
    faster = float(a.top) / max(float(a.baseline.top), 1e-9)
    longer = float(a.ride.run_time_s) / max(float(a.baseline.ride.run_time_s), 1.0)
    fast, long = (_times(share) for share in (faster, longer))
    sentence = f"{fast} fast as it was, and rides {long} long."
    cap, throttle = a.resolved.cap, a.setup.throttle
    held = cap is not None and cap.basis == "youngest" and throttle is not None and throttle.limiter_mark is not None
    # A slow machine with nobody on it is a riddle unless it is said for whom it was held back.
    whom = f" Its knob is set for a child of {cap.age_years:g}, the youngest likely: say who rides." if cap is not None and held else ""
    return sentence[0].upper() + sentence[1:] + whom
