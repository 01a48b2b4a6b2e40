"""Checks of the packs, their window, their current and how they are joined."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from gecko.analysis import Analysis
from gecko.checks.controller import LEAST_LIMIT_A
from gecko.checks.edits import both, fewer_in_series, figure, one_more_row, put, round_up
from gecko.checks.registry import Edit, Trip, rule
from gecko.constants import SHOCK_VOLTS_V
from gecko.evaluation import Severity
from gecko.power.joining import worst_joining
from gecko.power.voltmeter import rebound_v
from gecko.protection.guard import guard_floor_v, guard_level_v
from gecko.protection.runs import letters
from gecko.setup import Row
from gecko.words import amps, q, volts


def _fewer(analysis: Analysis) -> tuple[Edit, ...]:
    bank = analysis.setup.bank
    if bank is None or min(len(row.units) for row in bank.rows) < 2:
        return ()
    return (Edit("One pack less in series", fewer_in_series),)


def part_rating_a(a: Analysis) -> float:
    """Rating of a new part in the main path: the launch with a quarter to spare, and never under the main fuse. [A]"""
    fuse = a.setup.main_fuse.rating_a if a.setup.main_fuse else 0.0
    return round_up(max(float(a.peak_a) * 1.25, fuse), 10)


@rule("pack.window.controller", station="controller", stage="power", principle="Full charge counts, not the number on the label.", needs="bank")
def window_controller(a: Analysis) -> Iterator[Trip]:
    control, full = a.setup.controller, a.full_v
    if control is None or control.kind == "none" or full is None:
        return
    stands = control.max_v.value if control.max_v else (1.25 * control.nominal_v.value if control.nominal_v else None)
    if stands is None or full <= stands:
        return
    how = "printed on it" if control.max_v else "1.25 × its label, assumed"
    nominal = a.nominal_v or full
    other = both(
        put("controller/nominal_v", figure(round(nominal, 1))),
        put("controller/max_v", figure(round_up(full * 1.1, 1))),
        put("controller/undervoltage_v", figure(round(0.85 * nominal, 1))),
    )
    yield Trip(
        "stop",
        "Full packs are too much for the controller",
        f"Fully charged the bank gives {volts(full)}. The controller stands {volts(stands)} ({how}); its capacitors fail above that.",
        "Use fewer packs in series, or a controller made for these volts.",
        "/controller/max_v",
        (*_fewer(a), Edit(f"Controller for {nominal:.0f} V nominal", other)),
    )


@rule("pack.window.low", station="controller", stage="power", principle="A controller holds back below its low cut-off.", needs="bank")
def window_low(a: Analysis) -> Iterator[Trip]:
    control, nominal = a.setup.controller, a.nominal_v
    if control is None or control.kind == "none" or nominal is None:
        return
    low = control.undervoltage_v.value if control.undervoltage_v else (0.85 * control.nominal_v.value if control.nominal_v else None)
    if low is None or nominal >= low:
        return
    yield Trip(
        "stop",
        "The controller will not switch on",
        f"The bank's {volts(nominal)} nominal are under the controller's low cut-off of {volts(low)}.",
        "Put one more pack in series, or use a controller made for these volts.",
        "/controller/undervoltage_v",
        (
            Edit(
                f"Controller for {nominal:.0f} V nominal",
                both(
                    put("controller/nominal_v", figure(round(nominal, 1))),
                    put("controller/undervoltage_v", figure(round(0.85 * nominal, 1))),
                    put("controller/max_v", figure(round_up((a.full_v or nominal) * 1.1, 1))),
                ),
            ),
        ),
    )


@rule("pack.window.board", station="controller", stage="survey", principle="A board built for stock volts dies on more.", needs="bank")
def window_board(a: Analysis) -> Iterator[Trip]:
    vehicle, stock, nominal = a.setup.vehicle, a.setup.stock.volts_v, a.nominal_v
    if vehicle is None or stock is None or nominal is None or a.context.is_baseline:
        return
    if vehicle.board_in_path != "yes" or vehicle.board_bypassed or nominal <= 1.05 * stock.value:
        return
    yield Trip(
        "stop",
        "More volts into the circuit board",
        f"A board sits between pedal and motor. It was built for {volts(stock.value)}; the bank gives {volts(nominal)}.",
        "Bypass the board with the new wiring, or keep the stock volts.",
        "/vehicle/board_in_path",
        (Edit("The new wiring bypasses the board", put("vehicle/board_bypassed", True)), *_fewer(a)),
    )


@rule("pack.overvolt", station="motors", stage="power", principle="A motor may be driven one step up while the winding stays cool; the heat model is the judge.")
def overvolt(a: Analysis) -> Iterator[Trip]:
    plate = a.resolved.figures.get("/motor/volts_v")
    motor = a.setup.motor
    if plate is None or a.nominal_v is None or motor is None:
        return
    share = a.nominal_v / (plate.value * (motor.count if motor.wiring == "series" else 1))
    if share <= 1.01:
        return
    limit = a.context.house.overvolt_limit
    severity: Severity = "note" if share <= 1.25 else "caution" if share <= limit else "stop"
    hot = float(np.max(a.course_heat.winding_c))
    if severity == "stop" and hot < 130.0:
        severity = "caution"
    yield Trip(
        severity,
        f"{a.nominal_v:.0f} V on a {plate.value:.0f} V motor",
        f"That is {share:.2f} × its plate. Over 20 min of the ride the winding reaches {q(hot, 'temp')}; {q(130, 'temp')} is the caution, {q(155, 'temp')} the end.",
        "Run it briefly, feel the motor after each run, and measure its temperature before you trust it.",
        "/motor/volts_v",
        _fewer(a),
    )


@rule("pack.touch", station="packs", stage="power", principle="Above 60 V DC a touch can hurt.", needs="bank")
def touch(a: Analysis) -> Iterator[Trip]:
    full = a.full_v
    if full is None or full <= SHOCK_VOLTS_V:
        return
    rider = a.setup.rider
    child = rider is not None and rider.age_years is not None and rider.age_years < 14
    yield Trip(
        "stop" if child and full > 75 else "caution",
        "These volts can shock",
        f"Fully charged the bank gives {volts(full)}; above 60 V DC bare terminals are dangerous to touch.",
        "Cover every terminal, work with the bank isolated, and use fewer packs in series on a child's machine.",
        "/bank",
        _fewer(a),
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
    over, share = asked > limit, asked / max(float(a.peak_a) if word == "peak" else a.rms_a, 1e-9)
    which = "One row" if len(set(a.resolved.row_kinds)) == 1 else f"Row {letters((r,))}"
    yield Trip(
        "stop" if over else "caution",
        "More than the cells can give" if over else "Close to what the cells can give",
        f"{which} is asked for {amps(asked)} {word}; its packs stand {amps(limit)}.",
        "Add a row side by side, or lower the controller's amp limit.",
        "/bank",
        (Edit("One more row side by side", one_more_row), *_lower_limit(a, limit / share * 0.8 if word == "peak" else None)),
    )


def _lower_limit(a: Analysis, bank_a: float | None) -> tuple[Edit, ...]:
    control = a.setup.controller
    if bank_a is None or control is None or control.kind == "none" or bank_a < LEAST_LIMIT_A:
        return ()
    return (Edit(f"Set the controller to {bank_a:.0f} A", put("controller/battery_limit_a", figure(float(int(bank_a))))),)


@rule("pack.trip", station="packs", stage="power", principle="A pack's protection opens at full throttle when one small pack does the work of two.")
def trip(a: Analysis) -> Iterator[Trip]:
    peak, stall = float(a.peak_a), float(a.stall_point.pack_a)
    # The bank trips where the first row does: unlike rows do not share alike.
    rows = [(load / max(peak, 1e-9), pack) for _, pack, load, _ in a.pack_loads if pack.trips_a is not None]
    if not rows:
        return
    share, pack = max(rows, key=lambda entry: entry[0] / (entry[1].trips_a or 1.0))
    limit, delay = (pack.trips_a or 0.0) / max(share, 1e-9), pack.trip_delay_s.value if pack.trip_delay_s else 1.0
    above = float(a.launch.seconds_above(limit)) if peak > limit else 0.0
    stalls = stall > limit and a.m.control.kind == "none"
    if above <= delay and not stalls:
        return
    yield Trip(
        "stop",
        "The packs switch off at full throttle",
        f"A launch asks for {amps(peak)}"
        + (f" and a blocked wheel for {amps(stall)}" if stalls else f" for {above:.1f} s")
        + f"; the packs' own protection opens at {amps(limit)} after {delay:.1f} s.",
        "Add a row side by side, or lower the controller's amp limit below the trip.",
        "/bank",
        (Edit("One more row side by side", one_more_row), *_lower_limit(a, float(limit) * 0.8)),
    )


@rule("pack.small", station="packs", stage="power", principle="Above ten times its amp-hours a small pack is run too hard.")
def small(a: Analysis) -> Iterator[Trip]:
    lithium = [(peak / pack.capacity_ah.value, peak, pack.capacity_ah.value) for _, pack, peak, _ in a.pack_loads if pack.chemistry != "lead"]
    if not lithium:
        return
    times, peak, smallest = max(lithium)
    if times <= 10.0:
        return
    yield Trip(
        "caution",
        "A small pack, pulled hard",
        f"One row gives {amps(peak)} at launch: {times:.0f} times its {smallest:g} Ah. Above ten times it heats and ages fast.",
        "Add a row side by side, or lower the controller's amp limit.",
        "/bank",
        (Edit("One more row side by side", one_more_row), *_lower_limit(a, 9.5 * smallest * float(a.peak_a) / peak)),
    )


@rule("pack.mixed.series", station="packs", stage="power", principle="In a row the smallest pack is drained first and driven backwards.", needs="bank")
def mixed_series(a: Analysis) -> Iterator[Trip]:
    assert a.setup.bank is not None
    for r, row in enumerate(a.setup.bank.rows):
        first = row.units[0]
        alike = all((u.chemistry, u.cells_in_series, u.capacity_ah.value) == (first.chemistry, first.cells_in_series, first.capacity_ah.value) for u in row.units)
        if not alike:
            smallest = min(u.capacity_ah.value for u in row.units)
            largest = max(u.capacity_ah.value for u in row.units)
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
                (Edit("Make the row alike", put(f"bank/rows/{r}/units", [first.model_dump() for _ in row.units])),),
                place=str(r),
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
        lead = any("lead" in chemistry for _, chemistry in cells) and any(chemistry != "lead" for _, chemistry in cells)
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
    worst = worst_joining(a)
    if worst is None or worst.first_a <= worst.allowed_a:
        return
    yield Trip(
        "stop",
        "Charge the packs to the same volts first",
        f"They rest at {volts(worst.high_v)} and {volts(worst.low_v)}. Joined now, {amps(worst.first_a)} would rush into row {letters((worst.low,))}; it stands {amps(worst.allowed_a)}.",
        f"Charge both until they differ by less than {worst.within_v:.2f} V, then join them.",
        "/bank/rows",
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
                (Edit("One more row side by side", one_more_row),),
                place="foldback",
            )
        return
    yield Trip(
        "caution",
        "The packs sag deeply",
        f"At {amps(float(a.peak_a))} they lose {volts(drop)} inside, {100 * drop / nominal:.0f} % of their {nominal:.0f} V.",
        "Add a row side by side, or accept a softer launch with a lower amp limit.",
        "/bank",
        (Edit("One more row side by side", one_more_row), *_lower_limit(a, 0.145 * nominal / float(np.mean(a.half.resistance_ohm)))),
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
                put("guard", {"kind": "module", "volts_v": figure(level), "rating_a": figure(part_rating_a(a)) if a.machine else None}),
            ),
        ),
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
            (Edit(f"Set the guard to {volts(good)}", put("guard/volts_v", figure(good))),),
            place="low",
        )
    elif a.machine is not None and a.ride.ends_by == "guard":
        left = float(np.mean(np.stack([a.ride.value_at_end(s) for s in a.ride.soc])))
        if left > 0.25:
            yield Trip(
                "caution",
                "The low-volt guard wastes charge",
                f"At {volts(level)} it stops the ride with {100 * left:.0f} % still in the packs.",
                f"Set it to {volts(good)}.",
                "/guard/volts_v",
                (Edit(f"Set the guard to {volts(good)}", put("guard/volts_v", figure(good))),),
                place="high",
            )
    if a.machine is not None and have.kind == "module" and have.reset_v is not None:
        back = rebound_v(a, level)
        if have.reset_v.value <= back:
            good_v = round_up(back + 0.03 * level, 0.5)
            yield Trip(
                "caution",
                "The guard will switch on again by itself",
                f"Unloaded, the packs recover from {volts(level)} to about {volts(back)}; it switches on again at {volts(have.reset_v.value)}, in the middle of a stop.",
                f"Set it to come back at {volts(good_v)} or only by hand.",
                "/guard/reset_v",
                (Edit(f"Set its return to {volts(good_v)}", put("guard/reset_v", figure(good_v))),),
                place="reset",
            )
    if a.machine is not None and have.kind == "module" and have.rating_a is not None and have.rating_a.value < float(a.peak_a):
        good_a = part_rating_a(a)
        yield Trip(
            "caution",
            "The guard is too weak for the launch",
            f"A launch asks for {amps(float(a.peak_a))}; the guard stands {amps(have.rating_a.value)}.",
            f"Use one rated {good_a:.0f} A or more.",
            "/guard/rating_a",
            (Edit(f"Use a guard of {good_a:.0f} A", put("guard/rating_a", figure(good_a))),),
            place="rating",
        )


@rule("pack.isolate", station="cut_off", stage="protect", principle="Keep a way to isolate the pack.", needs="bank")
def isolate(a: Analysis) -> Iterator[Trip]:
    if a.setup.cut_off is not None:
        return
    rating = part_rating_a(a) if a.machine else 60.0
    full = round_up(a.full_v or 60.0, 10)
    yield Trip(
        "caution",
        "No way to isolate the packs",
        f"When the throttle sticks or something smells, nothing separates the {volts(a.full_v or 0)} of the packs by hand.",
        "Fit a cut-off or a plug one can pull, within reach.",
        "/cut_off",
        (Edit(f"Add a {rating:.0f} A cut-off", put("cut_off", {"kind": "switch", "rating_a": figure(rating), "dc_volts_v": figure(full)})),),
    )


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
