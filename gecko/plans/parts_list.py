"""What of a setup is on the machine or on the rack already, what is on its way, what is left to buy, and what that costs.

A part on the rack serves a need when everything that is asked of it is known of it and reached; a part nobody knows enough of serves none. What stands in a slot by
name is counted for that slot and for no other, and no piece is counted twice.
"""

from __future__ import annotations

import csv
import io
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Literal

from gecko.answers.evaluation import Out
from gecko.common.cells import cell
from gecko.common.words import plain
from gecko.document.rack.about import Racked, opened, verdict, whole
from gecko.document.rack.kinds import Kit
from gecko.document.rack.slots import still
from gecko.document.setup import Setup
from gecko.plans.needs import Need, NeedKind, needs_of
from gecko.plans.prices import CostOut, EachOut, each, paid, together


class NeedOut(Out):
    """A part a setup needs: pieces, or metres of wire [m], and where they come from."""

    kind: NeedKind
    label: str
    unit: Literal["", "m"]
    needed: float
    on_machine: float
    on_rack: float
    ordered: float
    """On their way to the rack."""
    to_buy: float
    note: str = ""
    """What is to be done with the one from the rack before it serves, or why it does not."""
    letters: list[str] = []
    """Stickers of the parts that stand in its slots."""
    each: EachOut
    """What one costs."""


class PartsOut(Out):
    """The parts of a setup, what is left to buy of them costs, and what the parts of the rack in it are worth by their prices."""

    needs: list[NeedOut]
    to_buy: CostOut
    owned: CostOut
    whole: CostOut
    """What is left to buy, and what comes from the rack at its price."""


@dataclass
class _Left:
    """What is left of the rack while needs are served one after another: pieces of each part, or metres."""

    rack: Sequence[Racked]
    amounts: list[float] = field(init=False)

    def __post_init__(self) -> None:
        self.amounts = [float(one.quantity) for one in self.rack]

    def take(self, at: int, need: Need, wanted: float, at_least: float = 0.0) -> float:
        """Take what a part serves of what is wanted [1, m]; returns how much that is. at_least: what one piece serves, whatever its label says. [1]"""
        serves = max(need.serves(self.rack[at].part), at_least)
        if serves <= 0.0 or wanted <= 0.0:
            return 0.0
        taken = min(self.amounts[at] * serves, wanted)
        self.amounts[at] -= taken / serves
        return taken


@dataclass
class _Served:
    """How far a need is served so far, and what is to be said of it."""

    on_machine: float = 0.0
    on_rack: float = 0.0
    ordered: float = 0.0
    notes: list[str] = field(default_factory=list)
    letters: list[str] = field(default_factory=list)
    boxed: dict[str, float] = field(default_factory=dict)
    """How many of those that are there or on their way come out of each kit, by the kits' keys."""
    wished: dict[str, float] = field(default_factory=dict)
    """How many will come out of kits one only wishes for."""

    @property
    def sum(self) -> float:
        """All that is there or on its way."""
        return self.on_machine + self.on_rack + self.ordered


def parts_list(setup: Setup, baseline: Setup | None, rack: Sequence[Racked], currency: str = "USD") -> PartsOut:
    """Every part of a setup, alike ones together; wire in metres [m] both ways with a tenth to spare. baseline: what the machine has on it. currency: of the
    prices, by the three letters of ISO 4217."""
    boxes = {one.key: price for one in rack if isinstance(one.part, Kit) and (price := paid(one, currency)) is not None}
    needs, rack = needs_of(setup), opened(rack)
    stock = {(need.kind, need.label): need.count for need in needs_of(baseline)} if baseline is not None else {}
    left, served = _Left(rack), [_Served() for _ in needs]
    for need, so_far in zip(needs, served, strict=True):
        _by_name(need, so_far, left)
    for need, so_far in zip(needs, served, strict=True):
        so_far.on_machine = min(stock.get((need.kind, need.label), 0.0), need.count - so_far.sum)
    for need, so_far in zip(needs, served, strict=True):
        _by_kind(need, so_far, left)
    found = [_told(need, so_far, each(need, rack, currency)) for need, so_far in zip(needs, served, strict=True)]
    # What comes out of a kit costs what the kit costs, once.
    there = [(one.on_rack + one.ordered - _of(so_far.boxed, boxes), one.each) for one, so_far in zip(found, served, strict=True)]
    missing = [(one.to_buy - _of(so_far.wished, boxes), one.each) for one, so_far in zip(found, served, strict=True)]
    there += [(1.0, boxes[key]) for key in boxes if any(key in so_far.boxed for so_far in served)]
    missing += [(1.0, boxes[key]) for key in boxes if any(key in so_far.wished and one.to_buy > 0.0 for one, so_far in zip(found, served, strict=True))]
    return PartsOut(needs=found, to_buy=together(missing, currency), owned=together(there, currency), whole=together([*missing, *there], currency))


def _of(taken: dict[str, float], boxes: Mapping[str, EachOut]) -> float:
    """How many come out of kits that have a price."""
    return sum(count for key, count in taken.items() if key in boxes)


def _by_name(need: Need, so_far: _Served, left: _Left) -> None:
    """Serve slots by the very parts that stand in them."""
    at = {one.key: i for i, one in enumerate(left.rack) if one.key}
    for named, slot in need.named:
        if named.temporary:
            so_far.notes.append(f"{named.name} is tied on for one try.")
        if (place := at.get(named.key)) is None:
            continue
        racked = left.rack[place]
        so_far.letters += [racked.letter] if racked.letter else []
        out = verdict(racked.kind, racked.about)
        if out.out:
            so_far.notes.append(f"{racked.name} {out.title}: it is out of every plan.")
            continue
        # The very thing serves its slot, however little is known of it.
        taken = left.take(place, need, 1.0, at_least=need.told_in * float(still(slot, racked.part)))
        if taken <= 0.0:
            so_far.notes.append(f"{racked.name} on the rack is no longer what stands here.")
        _count(racked, taken, so_far)


def _by_kind(need: Need, so_far: _Served, left: _Left) -> None:
    """Serve what is still wanted by other parts that would do; what is at hand before what is ordered."""
    for on_its_way in (False, True):
        for i, racked in enumerate(left.rack):
            if (racked.about.status == "ordered") is not on_its_way or verdict(racked.kind, racked.about).out or racked.about.status == "wanted":
                continue
            taken = left.take(i, need, need.count - so_far.sum)
            if taken > 0.0:
                _count(racked, taken, so_far)
                so_far.notes += [words] if (words := need.note(racked.part)) else []


def _count(racked: Racked, taken: float, so_far: _Served) -> None:
    if taken <= 0.0:
        return
    about, kit = racked.about, whole(racked.key)
    if kit != racked.key:
        out_of = so_far.wished if about.status == "wanted" else so_far.boxed
        out_of[kit] = out_of.get(kit, 0.0) + taken
    if about.status == "ordered":
        so_far.ordered += taken
        so_far.notes.append(f"{racked.name} is ordered" + (f", expected on {about.expected:%-d %B %Y}." if about.expected else "."))
    elif about.status in ("on hand", "borrowed"):
        so_far.on_rack += taken
        if about.status == "borrowed":
            so_far.notes.append(f"{racked.name} is borrowed" + (f" from {about.whose}." if about.whose else "."))


def _told(need: Need, so_far: _Served, price: EachOut) -> NeedOut:
    return NeedOut(
        kind=need.kind,
        label=need.label,
        unit=need.unit,
        needed=need.count,
        on_machine=so_far.on_machine,
        on_rack=so_far.on_rack,
        ordered=so_far.ordered,
        to_buy=max(need.count - so_far.sum, 0.0),
        note=" ".join(_once(so_far.notes)),
        letters=so_far.letters,
        each=price,
    )


_HEAD = ("kind", "part", "unit", "needed", "on the machine", "on the rack", "ordered", "to buy", "stickers", "each from", "each to", "currency", "price", "note")


def parts_csv(parts: PartsOut) -> str:
    """The parts as a table: a head, then a line for each; amounts in pieces or metres [1, m], prices in the sum's currency."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(_HEAD)
    for one in parts.needs:
        amounts = [f"{value:.2f}".rstrip("0").rstrip(".") for value in (one.needed, one.on_machine, one.on_rack, one.ordered, one.to_buy)]
        prices = ["" if price is None else f"{price:.2f}" for price in (one.each.low, one.each.high)]
        words = [cell(plain(text)) for text in (one.label, one.note)]
        writer.writerow([one.kind, words[0], one.unit, *amounts, " ".join(one.letters), *prices, parts.to_buy.currency, one.each.basis, words[1]])
    return out.getvalue()


def _once(words: Sequence[str]) -> Iterator[str]:
    yield from dict.fromkeys(words)
