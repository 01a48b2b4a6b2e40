"""Checks of the fuses: there, in the right place, and one decision with the wire."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import partial

import numpy as np

from gecko.analysis.runs import Run, letters
from gecko.analysis.whole import Analysis
from gecko.common.documents import Document
from gecko.common.words import amps, q, seconds, volts
from gecko.document.parts.fuse import Fuse
from gecko.document.parts.wire import size_of
from gecko.document.setup import Bank, Setup
from gecko.physics.electric.bank import Source
from gecko.physics.protection.ampacity import STANDARD_SIZES, derated_ampacity_a
from gecko.physics.protection.choice import ChoiceTable
from gecko.physics.protection.fuse import dc_class_v, fuse_for
from gecko.reference.tables import OfferedFuse
from gecko.rules import margins
from gecko.rules.edits import answers, as_fuse, fuse_and_size, put, setting, to_buy
from gecko.rules.registry import Edit, Trip, rule, setup_rule
from gecko.rules.together import fit_fuse_and_wire, fuse_bare_rows, part_rating_a, row_fuse


def best_edits(a: Analysis, run: Run | None) -> tuple[Edit, ...]:
    """Fuse-and-wire pairs of a run that meet every condition: the best with any wire, and the best with the wire that lies there.

    A run that another's fuse guards gets a thicker wire: the thinnest with which that fuse protects it.
    """
    if run is None:
        return ()
    if run.guard not in ("", run.id):
        return _thicker(a, run)
    if run.kind in ("link", "controller", "motor"):
        # No fuse stands before this run, and none belongs in it: only the wire is chosen.
        carries = (size for size in STANDARD_SIZES if derated_ampacity_a(size, a.lead_row(run.lead), run.data.lead_air_c, run.lead.bundle_conductors) >= run.amps_a)
        return tuple(fuse_and_size(run, None, size) for size in carries if size != size_of(run.lead))[:1]
    table = a.table(run)
    edits = []
    feasible = table.feasible(a.context.house.wire_school)
    own = size_of(run.lead)
    same = [i for i in np.nonzero(feasible[:, table.sizes.index(own)])[0] if table.fuses[i].kind != "cartridge"]
    if same:
        fuse = min((table.fuses[i] for i in same), key=lambda f: (f.kind != "blade", f.rating_a, f.dc_volts_v))
        edits.append(fuse_and_size(run, fuse, None))
    best = table.recommended(a.context.house.wire_school)
    if best is not None and (not same or table.sizes[best[1]] != own):
        edits.append(fuse_and_size(run, table.fuses[best[0]], table.sizes[best[1]]))
    return tuple(edits)


GUARDED = ("wire", "withstand", "cold_short", "drop")
"""The conditions that judge the wire of a run guarded by another run's fuse. The other conditions are judged where that fuse is."""


def _thicker(a: Analysis, run: Run) -> tuple[Edit, ...]:
    found = a.cell(run)
    if found is None:
        return ()
    table, f, _ = found
    masks = table.failing(a.context.house.wire_school)
    carries = table.numbers["derated_ampacity_a"][f] >= run.amps_a
    good = carries & ~np.logical_or.reduce([masks[name][f] for name in GUARDED])
    return (fuse_and_size(run, None, table.sizes[int(good.argmax())]),) if good.any() else ()


@dataclass(frozen=True)
class Cell:
    """A run with the fuse that guards it, in the table of that fuse."""

    run: Run
    fuse: Fuse
    table: ChoiceTable
    f: int
    g: int

    def fails(self, condition: str) -> bool:
        """Whether it fails a condition in the careful school."""
        return bool(self.table.fails[condition][self.f, self.g])

    def number(self, name: str) -> float:
        """One of the table's numbers."""
        return float(self.table.numbers[name][self.f, self.g])

    @property
    def main(self) -> bool:
        """The main lead with the main fuse."""
        return self.run.kind == "main"

    @property
    def fuse_words(self) -> str:
        """The fuse as a sentence names it."""
        if self.run.fuse is None:
            return f"{self.fuse.rating_a:g} A fuse before it"
        whose = "" if self.main else f" of {self.run.name[0].lower()}{self.run.name[1:]}" if self.run.rows else f" of the {self.run.name}"
        return f"{self.fuse.rating_a:g} A fuse{whose}"

    @property
    def place(self) -> str:
        """Place of a finding, "" for the main run."""
        return "" if self.main else self.run.id

    @property
    def station(self) -> str:
        """Station of a finding about the fuse, "" for the rule's own."""
        return "row_fuses" if self.run.kind == "row" else ""


def own_cells(a: Analysis) -> Iterator[Cell]:
    """Every run that has a fuse of its own."""
    for run in a.runs:
        if run.fuse is not None:
            yield _cell(a, run)


def guarded_cells(a: Analysis) -> Iterator[Cell]:
    """Every run without a fuse of its own that another's guards."""
    for run in a.runs:
        if run.fuse is None and a.guard_fuse(run) is not None:
            yield _cell(a, run)


def _cell(a: Analysis, run: Run) -> Cell:
    found, fuse = a.cell(run), a.guard_fuse(run)
    assert found is not None and fuse is not None
    return Cell(run, fuse, *found)


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
            best_edits(a, a.run("main")),
            place="main",
            margin=margins.drawn_without_protection(_short_a(a.full) if a.machine is not None else 1.0),
        )
    if len(rows) > 1:
        bare = [r for r, row in enumerate(rows) if row.fuse is None]
        if bare:
            fuse = row_fuse(a)

            rating = f"about {fuse.rating_a:g} A, " if fuse else ""
            yield Trip(
                "stop",
                "Rows side by side without their own fuses",
                f"{len(bare)} of {len(rows)} rows have no fuse. When one pack fails, the others empty themselves into it through whatever wire lies there.",
                f"Give each row its own fuse, {rating}at its positive end.",
                "/bank/rows",
                (Edit(f"{fuse.rating_a:g} A fuse for each row", partial(fuse_bare_rows, around=a)),) if fuse else (),
                place="rows",
                station="row_fuses",
                margin=margins.counted(len(bare)),
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


def _short_a(full: Source) -> float:
    """What a dead short at the packs would draw. [A]"""
    return float(full.open_v / full.resistance_ohm)


UNFUSED_M = 0.3
"""Longest positive lead without a fuse [m]. Source: this project's planning value, in the spirit of small-craft practice, which allows less."""


@setup_rule("fuse.place", station="main_fuse", stage="protect", principle="A fuse guards only the lead behind it.")
def fuse_place(setup: Setup) -> Iterator[Trip]:
    rows = setup.bank.rows if setup.bank else []
    fuses = [("", "/main_fuse", "packs", setup.main_fuse)]
    fuses += [(f"row{r}", f"/bank/rows/{r}/fuse", f"row {letters((r,))}", row.fuse) for r, row in enumerate(rows)]
    for which, path, behind, fuse in fuses:
        if fuse is None:
            continue
        station = "row_fuses" if which else ""
        if fuse.side == "negative":
            yield Trip(
                "stop",
                "The fuse sits in the negative lead",
                f"The {fuse.rating_a:g} A fuse of the {behind} is in the negative lead: a short from plus to the frame passes it by.",
                "Move it into the positive lead, close to the packs.",
                f"{path}/side",
                (Edit("Move it to the positive lead", put(f"{path}/side", "positive")),),
                place=f"{which}side",
                station=station,
            )
        elif fuse.side == "unknown":
            yield Trip(
                "stop",
                f"Which lead is the fuse of the {behind} in?",
                f"Nobody has looked whether the {fuse.rating_a:g} A fuse sits in plus or minus; in minus a short from plus to the frame passes it by.",
                "Follow the lead from the packs' plus: the first thing on it must be the fuse.",
                f"{path}/side",
                place=f"{which}side",
                station=station,
                gate="power",
                question=f"fuse_side{which}",
                answers=answers(setup, f"fuse_side{which}", f"{path}/side", yes="positive", no="negative", labels=("In plus", "In minus")),
            )
        bare = fuse.distance_m.value
        # The rows' own fuses guard what lies between them and the main fuse.
        if not which and rows and all(row.fuse is not None for row in rows):
            bare = 0.0
        elif not which and rows:
            bare += max((row.lead.length_m.value for row in rows if row.lead is not None and row.fuse is None), default=0.0)
        if bare > UNFUSED_M:
            yield Trip(
                "caution",
                "A long stretch without a fuse",
                f"{q(bare, 'length')} of positive lead lie between {behind} and fuse; nothing guards them.",
                f"Move the fuse to within {q(UNFUSED_M, 'length')} of the packs.",
                f"{path}/distance_m",
                (Edit(f"Move it to {q(0.15, 'length')}", put(f"{path}/distance_m", setting(0.15))),),
                place=f"{which}far",
                station=station,
            )


def _swapped(path: str, fuse: Fuse, bought: OfferedFuse) -> Edit:
    """Put another fuse in the same place."""
    other = {**fuse.model_dump(), **as_fuse(bought)}
    return Edit(f"{bought.rating_a:g} A {bought.kind}, {bought.dc_volts_v:g} V", put(path.strip("/"), other))


@rule("fuse.volts", station="main_fuse", stage="protect", principle="A fuse must break its circuit's full DC volts, or it arcs on.", needs="bank")
def fuse_volts(a: Analysis) -> Iterator[Trip]:
    full = a.full_v or 0.0
    assert a.setup.bank is not None
    fuses = [("main fuse", "/main_fuse", a.setup.main_fuse, "main")]
    fuses += [(f"fuse of row {letters((r,))}", f"/bank/rows/{r}/fuse", row.fuse, f"row{r + 1}") for r, row in enumerate(a.setup.bank.rows)]
    fuses += [(f"fuse of the {b.label}", f"/auxiliaries/{i}/fuse", b.fuse, f"accessory{i}") for i, b in enumerate(a.setup.auxiliaries) if b.taps != "part of the string"]
    for name, path, fuse, place in fuses:
        if fuse is None:
            continue
        breaks = margins.fuse_volts(full, fuse.dc_volts_v, fuse.holder_v.value if fuse.holder_v is not None else np.inf)
        if not breaks.over:
            continue
        bought = fuse_for(fuse.rating_a, full)
        swap = () if bought is None else (_swapped(path, fuse, bought),)
        what = f"It breaks {fuse.dc_volts_v:g} V DC" if fuse.dc_volts_v < full else f"Its holder is made for {fuse.holder_v.value:g} V DC" if fuse.holder_v else ""
        yield Trip(
            "stop",
            f"The {name} is not made for these volts",
            f"{what}; fully charged the bank gives {volts(full)}. It would arc instead of opening.",
            f"Use a fuse and holder for {dc_class_v(full):g} V DC or more.",
            path,
            (*(best_edits(a, a.run("main")) if place == "main" and a.machine is not None else ()), *swap),
            place=place,
            station="row_fuses" if place.startswith("row") else "",
            margin=breaks,
        )


@rule("fuse.wire", station="leads", stage="protect", principle="Fuse and wire are one decision: the fuse opens before the wire is too hot.")
def fuse_wire(a: Analysis) -> Iterator[Trip]:
    for cell in own_cells(a):
        careful, withstand = cell.fails("wire"), cell.fails("withstand")
        if not careful and not withstand:
            continue
        stop = withstand or bool(cell.table.wire_common[cell.f, cell.g])
        if not stop and not _over_a_size(a.table(cell.run), cell):
            # The schools differ by a size or less: either is practice, and the screen that chooses fuse and wire says so.
            continue
        yield Trip(
            "stop" if stop else "caution",
            "The lead is too hot before the fuse opens",
            too_hot_words(cell, a.lead_stands_a(cell.run.lead)),
            "Use a smaller fuse or a thicker wire.",
            f"{cell.run.path}/awg",
            best_edits(a, cell.run),
            place=cell.place,
            margin=too_hot(cell, a.lead_stands_a(cell.run.lead)),
        )


def _over_a_size(table: ChoiceTable, cell: Cell) -> bool:
    """Whether the careful school asks for a wire more than one size thicker than the one there, behind this fuse."""
    offer = next(
        (f for f, fuse in enumerate(table.fuses) if (fuse.kind, fuse.rating_a, fuse.dc_volts_v) == (cell.fuse.kind, cell.fuse.rating_a, cell.fuse.dc_volts_v)), None
    )
    if offer is None:
        return True
    good = np.nonzero(~table.fails["wire"][offer] & ~table.fails["withstand"][offer])[0]
    return not len(good) or int(good[0]) - table.sizes.index(size_of(cell.run.lead)) > 1


def too_hot(cell: Cell, stands_a: float) -> margins.Margin:
    """How far a wire that stands so many amps [A] is too hot before its fuse opens: in a short, or in a long overload."""
    if cell.fails("withstand"):
        return margins.lead_withstand(cell.number("i2t_over_withstand"))
    return margins.lead_amps(cell.fuse.rating_a, stands_a)


def too_hot_words(cell: Cell, stands_a: float) -> str:
    """Why a wire that stands so many amps [A] is too hot before its fuse opens: in a short, or in a long overload."""
    lead, fuse = cell.run.lead, cell.fuse
    if cell.fails("withstand"):
        return (
            f"A short at the far end lets {amps(cell.number('prospective_a'))} through the {lead.words} lead before the "
            f"{cell.fuse_words} opens: {100 * cell.number('i2t_over_withstand'):.0f} % of what the wire withstands."
        )
    if stands_a <= 0:
        return f"The air around the {lead.words} lead is as hot as its insulation stands: nothing may flow there, and the {cell.fuse_words} lets {amps(fuse.rating_a)} through."
    longest = 600.0 if fuse.kind == "blade" else 1800.0
    worst = cell.number("longest_opening_over_wire_time_worst")
    return f"The {cell.fuse_words} lets {amps(1.35 * fuse.rating_a)} through the {lead.words} lead for up to {seconds(longest)}; the lead stands {amps(stands_a)}" + (
        f" and is too hot {worst:.0f} times sooner." if worst > 1 else "."
    )


@rule("fuse.nuisance", station="main_fuse", stage="protect", principle="A fuse carries the ride and lets a launch pass.")
def fuse_nuisance(a: Analysis) -> Iterator[Trip]:
    for cell in own_cells(a):
        run, rating = cell.run, cell.fuse.rating_a
        continuous, launches = cell.number("continuous_over_limit"), cell.number("nuisance_sum")
        title = "The fuse will open while riding"
        if continuous > 1.0:
            because = f"The ride asks for {amps(run.amps_a)} on average; the {cell.fuse_words} carries {amps(run.amps_a / continuous)} for good."
        elif cell.fails("limit_110"):
            because = f"On a long climb {amps(run.data.reachable_a or 0)} can flow through this fuse; the {cell.fuse_words} does not carry that."
        elif launches >= 0.5:
            because = f"Ten launches at up to {amps(run.peak_a)} use up {100 * launches:.0f} % of the patience of the {cell.fuse_words}."
        elif cell.fails("selectivity"):
            row = max(run.data.row_fuses, key=lambda f: f.share / f.rating_a)
            title = "The row fuses open before the main fuse"
            because = f"At twice the {rating:g} A of the main fuse a row's {row.rating_a:g} A fuse carries {amps(2 * rating * row.share)} and opens first; the rows left are then overloaded."
        else:
            continue
        yield Trip(
            "caution",
            title,
            because,
            "Use the next larger fuse, and the wire that goes with it.",
            f"{run.fuse_path}/rating_a",
            (*best_edits(a, run), *(_larger_row_fuses(a) if cell.main else ())),
            place=cell.place,
            station=cell.station,
        )


def _larger_row_fuses(a: Analysis) -> tuple[Edit, ...]:
    """Row fuses that open after the main one."""
    fuse, bank = row_fuse(a), a.setup.bank
    if fuse is None or bank is None or len(bank.rows) < 2:
        return ()

    def change(document: Document) -> None:
        for row in document["bank"]["rows"]:
            row["fuse"] = {**(row.get("fuse") or {}), **as_fuse(fuse)}

    return (Edit(f"{fuse.rating_a:g} A fuse for each row", change),)


@rule("fuse.parts", station="main_fuse", stage="protect", principle="A fuse protects the weakest plug, switch and holder behind it.")
def fuse_parts(a: Analysis) -> Iterator[Trip]:
    for cell in own_cells(a):
        least = cell.run.data.least_part_a
        if least is None or not (larger := margins.part_amps(cell.fuse.rating_a, least)).over:
            continue
        yield Trip(
            "stop",
            "The fuse is larger than a part behind it",
            f"The {cell.fuse_words} lets more through than the weakest plug, switch or holder stands: {amps(least)}.",
            "Use a smaller fuse, or a stronger part.",
            f"{cell.run.fuse_path}/rating_a",
            (*best_edits(a, cell.run), *_stronger_parts(a, cell)),
            place=cell.place,
            station=cell.station,
            margin=larger,
        )


@rule("fuse.blow", station="main_fuse", stage="protect", principle="On a cold day with tired packs a short must still open something.")
def fuse_blow(a: Analysis) -> Iterator[Trip]:
    for cell in own_cells(a):
        if not cell.fails("cold_short"):
            continue
        yield Trip(
            "caution",
            "A weak short would not open the fuse",
            f"At {q(a.setup.ground.coldest_c, 'temp')} and 20 % charge a short at the far end draws only {amps(cell.number('prospective_20_percent_coldest_a'))}; "
            f"the {cell.fuse_words} wants twice its rating.",
            "Use a smaller fuse, or a thicker and shorter lead.",
            f"{cell.run.fuse_path}/rating_a",
            best_edits(a, cell.run),
            place=cell.place,
            station=cell.station,
        )


@rule("fuse.break", station="main_fuse", stage="protect", principle="A fuse can break only so much current.")
def fuse_break(a: Analysis) -> Iterator[Trip]:
    for cell in own_cells(a):
        if not cell.fails("breaking") or _board_breaks(a.setup.bank, cell):
            continue
        stated = cell.fuse.breaking_a is not None
        near = cell.number("near_fault_a")
        yield Trip(
            "stop",
            "A dead short is too much for this fuse",
            f"Right behind it a short draws {amps(near)}; the {cell.fuse_words} breaks {amps(cell.fuse.breaks_a)} ({'printed on it' if stated else 'usual for its kind'}). "
            "Only the copper up to the fuse and the packs' own resistance are counted.",
            "Use a fuse with a higher breaking capacity, such as a cartridge, or enter what is printed on this one.",
            f"{cell.run.fuse_path}/kind",
            best_edits(a, cell.run),
            place=cell.place,
            station=cell.station,
            margin=margins.breaking_amps(near, cell.fuse.breaks_a),
        )


def _board_breaks(bank: Bank | None, cell: Cell) -> bool:
    """Whether the boards of all packs behind the fuse open a short by themselves, and say at how many amps."""
    packs = [unit for r, row in enumerate(bank.rows if bank else []) if not cell.run.rows or r in cell.run.rows for unit in row.units]
    return bool(packs) and all(unit.short_cut_off_a is not None and unit.short_cut_off_a.value < cell.fuse.breaks_a for unit in packs)


def _stronger_parts(a: Analysis, cell: Cell) -> tuple[Edit, ...]:
    """In the main path: plugs of the 90 A class, a holder for this fuse, switches and guard for its amps; then fuse and wire again."""
    if not cell.main:
        return ()

    def change(document: Document) -> None:
        rating = max(part_rating_a(float(a.peak_a), a.setup.main_fuse), cell.fuse.rating_a)
        for plug in document["plugs"]:
            if plug["place"] == "main":
                plug.update(kind="two-pole 90", rating_a=None)
        document["main_fuse"]["holder_a"] = None
        for name in ("cut_off", "key_switch", "contactor", "pedal_switch", "guard"):
            part = document.get(name)
            if part and part.get("rating_a") and part["rating_a"]["value"] < rating:
                part["rating_a"] = to_buy(rating)
        fit_fuse_and_wire(document, a)

    return (Edit("Stronger plugs, switches and holder", change),)
