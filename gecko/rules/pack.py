"""Checks of the packs, their window, their current and how they are joined."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from gecko.analysis.chances import FAR, Chance, chance
from gecko.analysis.guard import guard_floor_v, guard_level_v
from gecko.analysis.joining import rushes, worst_joining
from gecko.analysis.runs import letters
from gecko.analysis.voltmeter import rebound_v
from gecko.analysis.whole import Analysis
from gecko.answers.evaluation import Severity
from gecko.common.constants import SHOCK_VOLTS_V
from gecko.common.documents import Document
from gecko.common.figures import Figure
from gecko.common.words import amps, likely_words, pack_place, q, volts
from gecko.document.parts.controller import Controller
from gecko.document.parts.pack import another, charge_limit_a, match_in_series, usual_limits_a
from gecko.document.setup import Bank, Row, Setup
from gecko.machine.caps import CHILD_YEARS
from gecko.rules import margins
from gecko.rules.controller import LEAST_LIMIT_A
from gecko.rules.edits import fewer_in_series, put, round_up, setting, to_buy
from gecko.rules.motor import winding_chances
from gecko.rules.registry import Edit, Trip, rule, setup_rule
from gecko.rules.together import add_guard, fit_fuse_and_wire, knob_module, part_rating_a, row_beside


def _fewer(bank: Bank | None) -> tuple[Edit, ...]:
    if bank is None or min(len(row.units) for row in bank.rows) < 2:
        return ()
    return (Edit("One pack less in series", fewer_in_series),)


def _other_controller(a: Analysis) -> Edit:
    """A controller made for these packs, with the guard and the fuse that go with it."""
    nominal, full = a.nominal_v or 12.0, a.full_v or 15.0

    def change(document: Document) -> None:
        put("controller/nominal_v", to_buy(round(nominal, 1)))(document)
        put("controller/max_v", to_buy(round_up(1.2 * full, 1)))(document)
        put("controller/undervoltage_v", to_buy(round(0.85 * nominal, 1)))(document)
        add_guard(document)
        fit_fuse_and_wire(document, a)

    return Edit(f"Controller for {nominal:.0f} V nominal", change)


def _made_for(figures: dict[str, Figure]) -> str:
    """The volts a controller nobody read the label of is taken to be made for."""
    return f"{figures['/controller/nominal_v'].value:.0f} V"


@rule("pack.window.controller", station="controller", stage="power", principle="Full charge counts, not the number on the label.", needs="bank")
def window_controller(a: Analysis) -> Iterator[Trip]:
    control, full, known = a.setup.controller, a.full_v, a.resolved.figures.get("/controller/max_v")
    if control is None or control.kind == "none" or full is None or known is None or not (margin := margins.controller_volts(full, known.value)).over:
        return
    stands, unread = known.value, control.max_v is None and control.nominal_v is None
    how = (
        "printed on it"
        if control.max_v
        else "1.25 × its label, assumed"
        if control.nominal_v
        else f"nobody read its label: one made for {_made_for(a.resolved.figures)} would"
    )
    yield Trip(
        "stop",
        "Full packs may be too much for the controller" if unread else "Full packs are too much for the controller",
        f"Fully charged the bank gives {volts(full)}. The controller stands {volts(stands)} ({how}); its capacitors fail above that.",
        ("Read its label, or the volts printed on its largest capacitors, and enter what it stands. Else use" if unread else "Use")
        + " fewer packs in series, or a controller made for these volts.",
        "/controller/max_v",
        (*_fewer(a.setup.bank), _other_controller(a)),
        margin=margin,
    )


@rule("pack.window.low", station="controller", stage="power", principle="A controller holds back below its low cut-off.", needs="bank")
def window_low(a: Analysis) -> Iterator[Trip]:
    control, nominal, known = a.setup.controller, a.nominal_v, a.resolved.figures.get("/controller/undervoltage_v")
    if control is None or control.kind == "none" or nominal is None or known is None or not (margin := margins.low_cut_off(nominal, known.value)).over:
        return
    low, unread = known.value, control.undervoltage_v is None and control.nominal_v is None
    yield Trip(
        "caution" if unread else "stop",
        "The controller may not switch on" if unread else "The controller will not switch on",
        f"The bank's {volts(nominal)} nominal are under the controller's low cut-off of {volts(low)}"
        + (f": nobody read its label, and one made for {_made_for(a.resolved.figures)} holds back there." if unread else "."),
        "Put one more pack in series, or use a controller made for these volts.",
        "/controller/undervoltage_v",
        (_other_controller(a),),
        margin=margin,
    )


@rule("pack.window.board", station="controller", stage="survey", principle="A board built for stock volts dies on more.", needs="bank")
def window_board(a: Analysis) -> Iterator[Trip]:
    vehicle, stock, nominal = a.setup.vehicle, a.setup.stock.volts_v, a.nominal_v
    if vehicle is None or stock is None or nominal is None:
        return
    if vehicle.board_in_path != "yes" or vehicle.board_bypassed or not (margin := margins.board_volts(nominal, stock.value)).over:
        return
    yield Trip(
        "stop",
        "More volts into the circuit board",
        f"A board sits between pedal and motor. It was built for {volts(stock.value)}; the bank gives {volts(nominal)}.",
        "Bypass the board with the new wiring, or keep the stock volts.",
        "/vehicle/board_in_path",
        (*_fewer(a.setup.bank), Edit("Wire past the board", put("vehicle/board_bypassed", True))),
        margin=margin,
    )


@rule("pack.overvolt", station="motors", stage="power", principle="A motor may be driven one step up while the winding stays cool; the heat model is the judge.")
def overvolt(a: Analysis) -> Iterator[Trip]:
    plate = a.resolved.figures.get("/motor/volts_v")
    motor = a.setup.motor
    if plate is None or a.nominal_v is None or motor is None:
        return
    in_series = motor.count if motor.wiring == "series" else 1
    share = a.nominal_v / (plate.value * in_series)
    if share <= 1.01:
        return
    limit = a.context.house.overvolt_limit
    hot, _, _, warm = winding_chances(a)
    # Heat decides: a motor that stays cool may run one step up, and a hot one is a finding of the rule about heat.
    severity: Severity = "note" if share <= 1.25 else "caution" if share <= limit else "stop"
    if warm.severity is None:
        severity = "note" if share <= limit else "caution"
    yield Trip(
        severity,
        f"{a.nominal_v:.0f} V on a {plate.value:.0f} V motor",
        f"That is {share:.2f} × its plate. Over 20 min of the ride the winding reaches {q(hot, 'temp')}; {q(130, 'temp')} is the caution, {q(155, 'temp')} the end.",
        "Run it briefly, feel the motor after each run, and measure its temperature before you trust it.",
        "/motor/volts_v",
        _fewer(a.setup.bank),
        margin=margins.motor_volts(a.nominal_v, plate.value, limit, in_series),
    )


@rule("pack.touch", station="packs", stage="power", principle="Above 60 V DC a touch can hurt.", needs="bank")
def touch(a: Analysis) -> Iterator[Trip]:
    full = a.full_v
    if full is None or full <= SHOCK_VOLTS_V:
        return
    cap = a.resolved.cap
    child = cap is not None and cap.age_years < CHILD_YEARS
    margin = margins.touched_volts(full, child)
    yield Trip(
        "stop" if child and margin.over else "caution",
        "These volts can shock",
        f"Fully charged the bank gives {volts(full)}; above 60 V DC bare terminals are dangerous to touch.",
        "Cover every terminal, work with the bank isolated, and use fewer packs in series on a child's machine.",
        "/bank",
        _fewer(a.setup.bank),
        margin=margin,
    )


@rule("pack.current", station="packs", stage="power", principle="Cells give only so many amps; each row's own share counts.")
def current(a: Analysis) -> Iterator[Trip]:
    rated = [
        (word, asked, limit.value, r)
        for r, pack, peak, rms in a.pack_loads
        for word, asked, limit in (("peak", peak, pack.peak_10s_a), ("steady", rms, pack.continuous_a))
        if limit is not None
    ]
    if not rated:
        return
    word, asked, limit, r = max(rated, key=lambda entry: entry[1] / entry[2])
    if asked <= 0.8 * limit:
        return
    margin = margins.pack_amps(asked, limit)
    over, share = margin.over, asked / max(float(a.peak_a) if word == "peak" else a.rms_a, 1e-9)
    yield Trip(
        "stop" if over else "caution",
        "More than the cells can give" if over else "Close to what the cells can give",
        f"{_which_row(a.resolved.row_kinds, r)} is asked for {amps(asked)} {word}; its packs stand {amps(limit)}.",
        "Add a row side by side, or lower the controller's amp limit.",
        "/bank",
        (row_beside(a), *(edit for bank_a in _limits_for(a, word, limit, share) for edit in _lower_limit(a.setup.controller, bank_a))),
        margin=margin,
    )


def _limits_for(a: Analysis, word: str, limit_a: float, share: float) -> tuple[float, ...]:
    """Limits of the controller at which a row with this share of the bank's amps stays within its peak or steady limit, the gentlest first. [A]

    What flows on and on falls at least as the limit does, up to the limit itself, which nothing then passes.
    """
    bank_a = limit_a / share
    if word == "peak":
        return (0.78 * bank_a,)
    return 0.78 * bank_a / max(a.rms_a, 1e-9) * float(a.peak_a), 0.78 * bank_a


def _which_row(row_kinds: tuple[int, ...], r: int) -> str:
    return "One row" if len(set(row_kinds)) == 1 else f"Row {letters((r,))}"


def _lower_limit(control: Controller | None, bank_a: float | None) -> tuple[Edit, ...]:
    if bank_a is None or control is None or control.kind == "none" or bank_a < LEAST_LIMIT_A:
        return ()
    return (Edit(f"Set the controller to {bank_a:.0f} A", put("controller/battery_limit_a", setting(float(int(bank_a))))),)


@rule("pack.trip", station="packs", stage="power", principle="A pack's protection opens at full throttle when one small pack does the work of two.")
def trip(a: Analysis) -> Iterator[Trip]:
    peak, stall = float(a.peak_a), float(a.stall_point.pack_a)
    # The bank trips when its first row trips, because unlike rows do not share alike.
    rows = [(load / max(peak, 1e-9), pack.trips_a, pack) for _, pack, load, _ in a.pack_loads if pack.trips_a is not None]
    if not rows:
        return
    share, trips_a, pack = max(rows, key=lambda entry: entry[0] / entry[1])
    limit = float(margins.trip_amps(peak, share, trips_a).stands)
    delay = pack.trip_delay_s.value if pack.trip_delay_s else 1.0
    above = float(a.launch.seconds_above(limit)) if peak > limit else 0.0
    # What counts is how long the peak lasts: a spike shorter than the delay passes.
    too_long = np.mean(a.sampled.seconds_above(limit) > delay) if FAR[0] * limit < peak < FAR[1] * limit else above > delay
    launches = Chance(float(too_long), peak)
    blocked = chance(stall, limit, lambda: a.sampled.stall_a) if a.m.control.kind == "none" else Chance(0.0, 0.0)
    stalls = blocked.severity is not None
    found = max((launches, blocked), key=lambda one: one.share)
    if found.severity is None:
        return
    yield Trip(
        found.severity,
        "The packs switch off at full throttle",
        f"A launch asks for {amps(peak)}"
        + (f" and a blocked wheel for {amps(stall)}" if stalls else f" for {above:.1f} s")
        + f"; the packs' own protection opens at {amps(limit)} after {delay:.1f} s. {likely_words(found.share)}",
        "Add a row side by side, or lower the controller's amp limit below the trip.",
        "/bank",
        (
            row_beside(a),
            *_lower_limit(a.setup.controller, float(limit) * 0.8),
            *((knob_module(a),) if a.m.control.kind == "none" and a.motor_is_brushed else ()),
        ),
        margin=margins.trip_amps(found.central, share, trips_a),
        likely=found.share,
    )


HARD_C = 10.0
"""Amps at the launch over a lithium pack's amp-hours above which it is run too hard, whatever its label states. [1/h] Source: this project's planning value."""


@rule("pack.small", station="packs", stage="power", principle="Above ten times its amp-hours a small pack is run too hard.")
def small(a: Analysis) -> Iterator[Trip]:
    lithium = [(peak / pack.capacity_ah.value, peak, pack.capacity_ah.value) for _, pack, peak, _ in a.pack_loads if pack.lithium]
    if not lithium:
        return
    times, peak, smallest = max(lithium)
    if times <= HARD_C:
        return
    yield Trip(
        "caution",
        "A small pack, pulled hard",
        f"One row gives {amps(peak)} at launch: {times:.0f} times its {smallest:g} Ah. Above ten times it heats and ages fast.",
        "Add a row side by side, or lower the controller's amp limit.",
        "/bank",
        (row_beside(a), *_lower_limit(a.setup.controller, 9.5 * smallest * float(a.peak_a) / peak)),
    )


@rule("pack.unrated", station="packs", stage="power", principle="Packs whose amps nobody stated are not known to stand what is asked.")
def unrated(a: Analysis) -> Iterator[Trip]:
    found = []
    for r, pack, peak, rms in a.pack_loads:
        steady_a, peak_a = usual_limits_a(pack)
        if pack.lithium and peak <= HARD_C * pack.capacity_ah.value:
            found += [(peak / peak_a, "peak", peak, peak_a, r, pack)] if pack.peak_10s_a is None else []
            found += [(rms / steady_a, "steady", rms, steady_a, r, pack)] if pack.continuous_a is None else []
    if not found:
        return
    share, word, asked, usual, r, pack = max(found, key=lambda entry: entry[0])
    if share <= 1.0:
        return
    ah = pack.capacity_ah.value
    yield Trip(
        "caution",
        "Nobody said what these packs can give",
        f"{_which_row(a.resolved.row_kinds, r)} is asked for {amps(asked)} {word}, {asked / ah:.1f} times its {ah:g} Ah. Such packs usually give about {amps(usual)}"
        + (" for ten seconds" if word == "peak" else " for long")
        + "; what these give is not stated.",
        "Read their amps off the label, or a like pack's, and type them in. Until then add a row side by side, or lower the controller's amp limit.",
        "/bank",
        (row_beside(a), *_lower_limit(a.setup.controller, 0.95 * usual * float(a.peak_a) / asked if word == "peak" else None)),
        margin=margins.pack_amps(asked, usual),
    )


@rule("pack.mixed.series", station="packs", stage="power", principle="In a row the smallest pack is drained first and driven backwards.", needs="bank")
def mixed_series(a: Analysis) -> Iterator[Trip]:
    assert a.setup.bank is not None
    for r, row in enumerate(a.setup.bank.rows):
        first = row.units[0]
        if not match_in_series(row.units):
            others = another(first)
            alike = [unit if match_in_series([first, unit]) else others for unit in row.units]
            apart = margins.unlike_capacity(np.array([u.capacity_ah.value for u in row.units]))
            smallest, largest = apart.stands, apart.asked
            unsafe = _unsafe_in_series(a, r, row)
            what = f"Row {letters((r,))} joins {smallest:g} Ah with {largest:g} Ah, or unlike chemistry or cell count."
            yield Trip(
                "stop" if unsafe else "caution",
                "Unlike packs in series",
                f"{what} "
                + (
                    f"The smaller one ends the ride and is driven below empty: {unsafe}."
                    if unsafe
                    else f"Each stops itself; the smaller one ends the ride after {smallest:g} Ah."
                ),
                "Use alike packs in a row. A helper pack needs its own low cut-off, its own charger, and must carry the full current.",
                f"/bank/rows/{r}/units",
                (Edit("Make the row alike", put(f"bank/rows/{r}/units", [unit.model_dump() for unit in alike])),),
                place=str(r),
                margin=apart,
            )
        elif len({u.age for u in row.units}) > 1:
            why = " A new lead block beside old ones is overcharged while they still fill." if first.chemistry == "lead" else ""
            yield Trip(
                "caution",
                "Packs of unlike age in series",
                f"Row {letters((r,))} joins packs that are {' and '.join(sorted({u.age for u in row.units}))}. The weaker one empties first.{why}",
                "Match kind, age and capacity, and charge the whole string with one charger for its volts."
                if first.chemistry == "lead"
                else "Match them, or charge and check each pack on its own.",
                f"/bank/rows/{r}/units",
                place=str(r),
            )


def _unsafe_in_series(a: Analysis, r: int, row: Row) -> str:
    """Why unlike packs may not stay in series; empty when each part guards itself and the weakest carries the full current."""
    for unit in row.units:
        if unit.low_cut_off_v is None:
            return f"{unit.label} has no low cut-off of its own"
        charger = any(c.per == "unit" and c.chemistry == unit.chemistry and abs(c.end_v.value - unit.full_v) <= 0.03 * unit.full_v for c in a.setup.chargers)
        if not unit.own_charger and not charger:
            return f"{unit.label} has no charger of its own"
    if a.machine is None:
        return "what the ride asks is not known yet"
    peak, rms = a.all_rows.row_peak_a[r], a.all_rows.row_rms_a[r]
    for unit in row.units:
        if unit.continuous_a is None or unit.continuous_a.value < rms or (unit.peak_10s_a or unit.continuous_a).value < peak:
            return f"{unit.label} must carry {amps(rms)} steady and {amps(peak)} at launch, and is not known to"
    return ""


@rule("pack.mixed.parallel", station="packs", stage="power", principle="Rows side by side must agree in volts before they are joined.", needs="bank")
def mixed_parallel(a: Analysis) -> Iterator[Trip]:
    assert a.setup.bank is not None
    rows = a.setup.bank.rows
    cells = {(sum(u.cells_in_series for u in row.units), " and ".join(sorted({u.chemistry for u in row.units}))) for row in rows}
    if len(cells) > 1:
        full = sorted(row.full_v for row in rows)
        units = [unit for row in rows for unit in row.units]
        lead = any(unit.chemistry == "lead" for unit in units) and any(unit.lithium for unit in units)
        why = (
            " Lead rests and charges at other volts than lithium: beside it, lithium is never full or lead is boiled, and the one drains into the other day and night."
            if lead
            else " The fuller one pushes current into the other without end."
        )
        yield Trip(
            "stop",
            "Rows that do not belong side by side",
            "The rows differ in cells or chemistry: "
            + ", ".join(f"{n} {c} cells" for n, c in sorted(cells))
            + f"; full they stand at {volts(full[0])} and {volts(full[-1])}."
            + why,
            "Join only rows with the same number of cells of the same chemistry.",
            "/bank/rows",
            (Edit("Make every row like the first", lambda d: d["bank"].update(rows=[d["bank"]["rows"][0] for _ in d["bank"]["rows"]])),),
        )
        return
    worst = worst_joining(a.setup.bank, a.setup.ground)
    # A spent pack is a finding of its own: charging it is no remedy.
    if worst is None or any(pack.is_spent for _, pack in a.packs):
        return
    asked, stands = worst.first_a, worst.allowed_a
    because = (
        f"They rest at {volts(worst.high_v)} and {volts(worst.low_v)}. Joined now, {amps(asked)} would rush into row {letters((worst.low,))}; it stands {amps(stands)}."
    )
    what = f"Charge both until they differ by less than {worst.within_v:.2f} V, then join them."
    rush = max(rushes(a.setup.bank, a.setup.ground), key=lambda one: one.amps_a / one.allowed_a, default=None)
    if rush is not None and rush.amps_a / rush.allowed_a > asked / stands:
        asked, stands = rush.amps_a, rush.allowed_a
        because = f"Joined all at once, {amps(asked)} would rush into row {letters((rush.row,))} from the others; it stands {amps(stands)}."
        what = "Charge them all to the same volts, then join one row after the other."
    margin = margins.rush_amps(asked, stands)
    if not margin.over:
        return
    yield Trip(
        "stop",
        "Charge the packs to the same volts first",
        because,
        what,
        "/bank/rows",
        gate="power",
        observable=True,
        margin=margin,
    )


@rule("pack.sag", station="packs", stage="power", principle="Deep sag costs speed and heats the packs.")
def sag(a: Analysis) -> Iterator[Trip]:
    nominal = a.nominal_v or 1.0
    drop = float(a.peak_a * a.half.resistance_ohm)
    if drop <= 0.15 * nominal:
        if a.folds_back:
            yield Trip(
                "caution",
                "The packs sag to the controller's low cut-off",
                f"Half charged, a launch pulls the bank's {volts(float(a.half.open_v))} down to the controller's low cut-off of "
                f"{volts(float(a.m.control.undervoltage_v or 0.0))}: it holds back, and the packs, not its amp limit, end the pull.",
                "Add a row side by side, one more pack in series, or a lower amp limit.",
                "/bank",
                (row_beside(a),),
                place="foldback",
            )
        return
    yield Trip(
        "caution",
        "The packs sag deeply",
        f"At {amps(float(a.peak_a))} they lose {volts(drop)} inside, {100 * drop / nominal:.0f} % of their {nominal:.0f} V.",
        "Add a row side by side, or accept a softer launch with a lower amp limit.",
        "/bank",
        (row_beside(a), *_lower_limit(a.setup.controller, 0.145 * nominal / float(np.mean(a.half.resistance_ohm)))),
    )


@rule("pack.guard", station="packs", stage="protect", principle="A tool pack leaves its guard behind in the tool.", needs="bank")
def guard(a: Analysis) -> Iterator[Trip]:
    bare = [p for _, p in a.packs if p.unguarded]
    have = a.setup.guard
    accepted = have is not None and (have.kind == "module" or a.context.house.guard == "voltmeter")
    if not bare or accepted:
        return
    assert a.setup.bank is not None
    floor, level = guard_floor_v(a.setup.bank), guard_level_v(a.setup.bank)
    yield Trip(
        "stop",
        "Nothing saves the cells from being drained",
        f"The tool used to stop these packs. Without a low-volt guard they run below {volts(floor)}, which ruins cells and makes them dangerous to charge.",
        f"Fit a low-volt guard set to {volts(level)}.",
        "/guard",
        (
            Edit(
                f"Add a low-volt guard at {volts(level)}",
                put("guard", {"kind": "module", "volts_v": setting(level), "rating_a": to_buy(part_rating_a(float(a.peak_a), a.setup.main_fuse)) if a.machine else None}),
            ),
        ),
        margin=margins.unguarded_volts(floor),
    )


REVERSED_FROM = 8
"""So many nickel cells in a row are pushed on by the others when one is empty: it reverses. [1] This project's planning value."""


@setup_rule(
    "pack.reversed", station="packs", stage="protect", principle="In a long row of nickel cells the first empty one is driven backwards by the rest.", needs="bank"
)
def reversed_cells(setup: Setup) -> Iterator[Trip]:
    bank = setup.bank
    assert bank is not None
    longest = max(sum(unit.cells_in_series for unit in row.units if unit.chemistry == "nickel" and unit.low_cut_off_v is None) for row in bank.rows)
    floor, control = guard_floor_v(bank), setup.controller
    cut_off = control.undervoltage_v if control is not None and control.kind != "none" else None
    if longest < REVERSED_FROM or setup.guard is not None or (cut_off is not None and cut_off.value >= floor):
        return
    level = guard_level_v(bank)
    yield Trip(
        "caution",
        "Nickel cells may be driven backwards",
        f"{longest} nickel cells in a row, and nothing known stops them at {volts(floor)}: the first to be empty is reversed by the others, and swells or vents.",
        f"Fit a low-volt guard at {volts(level)}, or enter the controller's low cut-off. Else stop as soon as it slows.",
        "/guard",
        (Edit(f"Add a low-volt guard at {volts(level)}", put("guard", {"kind": "module", "volts_v": setting(level), "rating_a": None})),),
        margin=margins.nickel_in_a_row(longest, REVERSED_FROM),
    )


@rule("pack.guard.level", station="packs", stage="protect", principle="A guard too low spoils cells; too high wastes the charge.", needs="bank")
def guard_level(a: Analysis) -> Iterator[Trip]:
    have, bank = a.setup.guard, a.setup.bank
    if have is None or bank is None:
        return
    floor, good = guard_floor_v(bank), guard_level_v(bank)
    level = have.volts_v.value
    if level < floor - 0.01:
        yield Trip(
            "caution",
            "The low-volt guard is set too low",
            f"It waits for {volts(level)}; these packs should not go under {volts(floor)}.",
            f"Set it to {volts(good)}.",
            "/guard/volts_v",
            (Edit(f"Set the guard to {volts(good)}", put("guard/volts_v", setting(good))),),
            place="low",
        )
    elif a.machine is not None and a.ride.ends_by == "guard":
        left = float(np.mean([charge[-1] for charge in a.ride.line.soc]))
        if left > 0.25:
            yield Trip(
                "caution",
                "The low-volt guard wastes charge",
                f"At {volts(level)} it stops the ride with {100 * left:.0f} % still in the packs.",
                f"Set it to {volts(good)}.",
                "/guard/volts_v",
                (Edit(f"Set the guard to {volts(good)}", put("guard/volts_v", setting(good))),),
                place="high",
            )
    if a.machine is not None and have.kind == "module" and have.reset_v is not None:
        back = rebound_v(a.m, a.ride, level)
        if have.reset_v.value <= back:
            good_v = round_up(back + 0.03 * level, 0.5)
            yield Trip(
                "caution",
                "The guard will switch on again by itself",
                f"Unloaded, the packs recover from {volts(level)} to about {volts(back)}; it switches on again at {volts(have.reset_v.value)}, in the middle of a stop.",
                f"Set it to come back at {volts(good_v)} or only by hand.",
                "/guard/reset_v",
                (Edit(f"Set its return to {volts(good_v)}", put("guard/reset_v", setting(good_v))),),
                place="reset",
            )
    if a.machine is not None and have.kind == "module" and have.rating_a is not None and have.rating_a.value < float(a.peak_a):
        good_a = part_rating_a(float(a.peak_a), a.setup.main_fuse)
        yield Trip(
            "caution",
            "The guard is too weak for the launch",
            f"A launch asks for {amps(float(a.peak_a))}; the guard stands {amps(have.rating_a.value)}.",
            f"Use one rated {good_a:.0f} A or more.",
            "/guard/rating_a",
            (Edit(f"Use a guard of {good_a:.0f} A", put("guard/rating_a", to_buy(good_a))),),
            place="rating",
        )


PULLED_BY_HAND = ("two-pole 60", "two-pole 90", "genderless 45")
"""Plugs a hand can pull apart under way."""


@rule("pack.isolate", station="cut_off", stage="protect", principle="Keep a way to isolate the pack.", needs="bank")
def isolate(a: Analysis) -> Iterator[Trip]:
    setup = a.setup
    if setup.cut_off is not None:
        return
    rating = part_rating_a(float(a.peak_a), a.setup.main_fuse) if a.machine else 60.0
    full = round_up(a.full_v or 60.0, 10)
    new = {"kind": "switch", "rating_a": to_buy(rating), "dc_volts_v": to_buy(full)}
    plugs = [*setup.plugs, *(plug for row in (setup.bank.rows if setup.bank else []) for plug in row.plugs)]
    other = "a key" if setup.key_switch is not None else "a plug one can pull" if any(plug.kind in PULLED_BY_HAND for plug in plugs) else ""
    yield Trip(
        "caution" if other else "stop",
        "No cut-off within reach" if other else "No way to isolate the packs",
        f"When the throttle sticks or something smells, only {other} separates the {volts(a.full_v or 0)} of the packs."
        if other
        else f"When the throttle sticks or something smells, nothing separates the {volts(a.full_v or 0)} of the packs by hand.",
        "Fit a cut-off or a plug one can pull, within reach.",
        "/cut_off",
        (Edit(f"Add a {rating:.0f} A cut-off", put("cut_off", new)),),
    )


@rule("pack.board", station="packs", stage="power", principle="Lithium cells need a board that stops them full, empty and overloaded.", needs="bank")
def board(a: Analysis) -> Iterator[Trip]:
    for path, pack in a.packs:
        if pack.lithium and pack.homemade and pack.has_board:
            yield Trip(
                "caution",
                "A home-built pack",
                f"{pack.label} is {'welded at home' if pack.made == 'home-built' else 'bare cells'}: welds, insulation and board are only as good as whoever made it.",
                "Have it looked at by someone trained for it; a hard case, paper between the rows of cells, charged outdoors.",
                f"{path}/made",
                place=pack_place(path),
            )
        if not pack.lithium or pack.has_board:
            continue
        if not pack.homemade and (pack.board is not False or pack.guard_in_tool):
            continue
        what = {"home-built": "welded at home", "bare cells": "bare cells"}.get(pack.made or "", "without one")
        yield Trip(
            "stop",
            "A pack without a protection board",
            f"{pack.label} is {what} and has no board: nothing stops one cell from being overcharged, drained or shorted.",
            "Give it a board for its cells and amps, fitted by someone trained for it, or use a bought pack.",
            f"{path}/board",
            place=pack_place(path),
        )


@setup_rule(
    "pack.board.series", station="packs", stage="power", principle="When one board of a string opens, its switches stand the volts of the whole string.", needs="bank"
)
def board_in_series(setup: Setup) -> Iterator[Trip]:
    assert setup.bank is not None
    for r, row in enumerate(setup.bank.rows):
        boards = [unit for unit in row.units if unit.lithium and unit.has_board]
        if len(row.units) < 2 or not boards:
            continue
        weak = [unit for unit in boards if unit.board_max_v is None or margins.boards_in_series(row.full_v, unit.board_max_v.value).over]
        if not weak:
            continue
        known = weak[0].board_max_v
        yield Trip(
            "stop",
            "Boards in series",
            f"When the board of {weak[0].label} opens, its switches see the {volts(row.full_v)} of row {letters((r,))}; "
            + (f"they stand {volts(known.value)}. Then they burn through and stay closed." if known is not None else "what they stand is not known."),
            "Use one pack made for these volts, or packs whose boards are made for a string."
            if known is not None
            else "Read what volts its board stands off its data sheet, and enter it; else use one pack made for these volts.",
            f"/bank/rows/{r}/units",
            _fewer(setup.bank) if known is not None else (),
            place=str(r),
            gate="plan" if known is not None else "power",
            margin=margins.boards_in_series(row.full_v, known.value if known is not None else 0.0),
        )


@setup_rule("pack.regen", station="packs", stage="drive", principle="Braking that charges must find room in the packs, and no more amps than they take.", needs="bank")
def regen(setup: Setup) -> Iterator[Trip]:
    control, bank = setup.controller, setup.bank
    if control is None or control.kind == "none" or control.regen_a is None or bank is None:
        return
    takes = sum(min(charge_limit_a(unit) for unit in row.units) for row in bank.rows)
    back = control.regen_a.value
    margin = margins.regenerated_amps(back, takes)
    if margin.over:
        yield Trip(
            "stop",
            "Braking pushes back more than the packs take",
            f"Regeneration pushes {amps(back)} into packs that may be charged with {amps(takes)}; a board opens then, and the brake is gone.",
            "Set regeneration lower.",
            "/controller/regen_a",
            (
                Edit(f"Set it to {0.8 * takes:.1f} A", put("controller/regen_a", setting(round(0.8 * takes, 1)))),
                Edit("Switch regeneration off", put("controller/regen_a", None)),
            ),
            place="amps",
            margin=margin,
        )
    elif max((unit.charge.value if unit.charge is not None else 1.0) for row in bank.rows for unit in row.units) > FULL_CHARGE:
        yield Trip(
            "caution",
            "Braking into full packs",
            f"Just charged, the packs have no room for {amps(back)}: a board opens and the motor's brake is gone where it is wanted most.",
            "Start with the packs a tenth below full, or ride the first minutes on the level; never rely on it as the only brake.",
            "/controller/regen_a",
            (Edit("Switch regeneration off", put("controller/regen_a", None)),),
            place="full",
        )


FULL_CHARGE = 0.92
"""Fuller than this a pack has no room for braking. [1] Source: this project's planning value."""


@rule("warranty", station="packs", stage="survey", principle="A changed machine is yours.", needs="bank")
def warranty(a: Analysis) -> Iterator[Trip]:
    if a.context.is_baseline:
        return
    yield Trip(
        "note",
        "The maker's warranty ends here",
        "Other packs or other wiring end the maker's warranty and liability.",
        "Keep the stock parts and plugs, so that there is a way back.",
    )
