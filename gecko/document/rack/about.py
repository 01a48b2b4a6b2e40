"""What is known of a part of one's own beside what its label says: what happened to it, whose it is, what it cost."""

from __future__ import annotations

from collections.abc import Iterable, Set
from dataclasses import dataclass
from datetime import date
from functools import cache
from typing import Literal

from pydantic import BaseModel, Field

from gecko.common.figures import Part
from gecko.document.rack.kinds import Kit
from gecko.reference.rows import read_rows

Mishap = Literal["dropped", "wet", "swollen", "opened", "warm"]
State = Literal["fine", "worn", "unknown", "retired"]
Status = Literal["on hand", "ordered", "borrowed", "wanted"]
Had = Literal["unknown", "available", "discontinued", "from a donor"]


class Happened(Part):
    """Something that happened to a part."""

    what: Mishap
    """Dropped, got wet, swollen, opened, or warm while it rests."""
    when: date | None = None
    """The day. Empty: not known."""
    cleared: bool = False
    """It was looked at as its sentence says, and nothing was found."""
    seen: str = Field(default="", max_length=200)
    """What was seen when it was looked at."""


class PartPrice(Part):
    """A price: what was paid, or what is asked."""

    amount: float = Field(ge=0, le=1_000_000)
    """So much, in `currency`; for wire, each metre."""
    currency: str = Field(pattern="^[A-Z]{3}$")
    """Three letters of ISO 4217."""
    when: date | None = None
    """The day it was paid or seen."""
    where: str = Field(default="", max_length=60)
    """Where it was bought or seen."""


class About(Part):
    """A part of one's own as a thing: its state, what happened to it, whose it is, what it cost."""

    state: State = "unknown"
    """How it is, by looking at it: fine, worn, not known, or retired for good."""
    happened: list[Happened] = Field(default=[], max_length=10)
    """What happened to it."""
    status: Status = "on hand"
    """On hand, ordered, borrowed, or only wished for: then it has no place in the garage yet."""
    expected: date | None = None
    """Ordered: when it should come. Borrowed: when it goes back."""
    whose: str = Field(default="", max_length=60)
    """Borrowed: from whom."""
    bought: date | None = None
    """When it was bought."""
    price: PartPrice | None = None
    """What was paid for it; for a part only wished for, what is asked."""
    had: Had = "unknown"
    """Whether one like it can still be had."""
    seen: str = Field(default="", max_length=120)
    """Where one like it was seen."""
    partner: str = Field(default="", max_length=40)
    """Key of the part it is kept together with. Empty: none."""
    notes: str = Field(default="", max_length=1000)
    """Anything worth keeping."""

    @property
    def for_plans(self) -> About | None:
        """What of it a plan must hear of; None where there is nothing."""
        heard = About(
            state="retired" if self.state == "retired" else "unknown",
            happened=self.happened,
            status=self.status,
            expected=self.expected,
            whose=self.whose,
            partner=self.partner,
        )
        return None if heard == _NEW else heard


class Meaning(Part):
    """What a mishap means for a part."""

    what: Mishap
    """What happened."""
    was: str
    """As a sentence goes on after the part's name."""
    may: str
    """What it may have done."""
    do: str
    """What to do."""
    clears: str
    """What must be seen before the part is used again. Empty: it never is."""


@cache
def meanings(kind: str) -> dict[Mishap, Meaning]:
    """What each mishap means for a part of this kind (`gecko/reference/mishaps.csv`)."""
    group = "pack" if kind == "packs" else "other"
    found = [Meaning.model_validate({name: text for name, text in row.items() if name != "kind"}) for row in read_rows("mishaps") if row["kind"] == group]
    return {one.what: one for one in found}


@dataclass(frozen=True, kw_only=True)
class Verdict:
    """Whether a part is out of every plan, in a title, with its reason and what to do; and what would bring it back."""

    out: bool
    title: str
    because: str = ""
    do: str = ""
    clears: str = ""
    """What must be seen before it is back in; empty where nothing brings it back, or it is not out."""


_FINE = Verdict(out=False, title="")


def verdict(kind: str, about: About) -> Verdict:
    """Whether a part of this kind may be planned with. What cannot be looked at and cleared counts before what can.

    A pack that was dropped and was warm is out for good: warm alone is enough.

    >>> verdict("packs", About(happened=[Happened(what="dropped")])).out
    True
    >>> verdict("packs", About(happened=[Happened(what="dropped", cleared=True)])).out
    False
    >>> verdict("packs", About(happened=[Happened(what="swollen", cleared=True)])).out
    True
    """
    if about.state == "retired":
        return Verdict(out=True, title="is retired", because="Somebody took it out of use for good.", do="Put another in its place.")
    told = [meaning for one in about.happened if not ((meaning := meanings(kind)[one.what]).clears and one.cleared)]
    if not told:
        return _FINE
    worst = min(told, key=lambda meaning: bool(meaning.clears))
    return Verdict(out=True, title=" and ".join(one.was for one in told), because=worst.may, do=worst.do, clears=worst.clears)


_NEW = About()


@dataclass(frozen=True, kw_only=True)
class Racked:
    """So many of one part on the rack, with what is known of it."""

    kind: str
    part: BaseModel
    quantity: int
    key: str = ""
    letter: str = ""
    label: str = ""
    about: About = _NEW

    @property
    def name(self) -> str:
        """The part as a sentence names it."""
        return f"{self.label} {self.letter}".strip() or "A part"


@dataclass(frozen=True, kw_only=True)
class RackFact:
    """What the rack knows of a part that a setup holds: all that a setup's own copy of it cannot tell."""

    key: str
    kind: str
    label: str
    letter: str
    about: About

    @property
    def name(self) -> str:
        """The part as a sentence names it."""
        return f"{self.label} {self.letter}".strip()


def inside(key: str, number: int) -> str:
    """The name of a part inside a kit: the kit's, and its place there."""
    return f"{key}:{number}"


def whole(key: str) -> str:
    """The key a part of the rack has by itself: a part inside a kit has its kit's.

    >>> whole("k1"), whole(inside("k1", 3))
    ('k1', 'k1')
    """
    return key.partition(":")[0]


def opened(rack: Iterable[Racked]) -> list[Racked]:
    """The rack with every kit as the parts that are still in it; what is known of the kit is known of each, but for its price, which is that of all."""
    found: list[Racked] = []
    for one in rack:
        if not isinstance(one.part, Kit):
            found.append(one)
            continue
        found += [
            Racked(
                kind=part.kind,
                part=part.part,
                quantity=part.count,
                key=inside(one.key, n),
                letter=one.letter,
                label=part.label,
                about=one.about.model_copy(update={"price": None}),
            )
            for n, part in enumerate(one.part.contents)
            if not part.taken
        ]
    return found


def fact(*, key: str, kind: str, label: str, letter: str, about: About) -> RackFact | None:
    """What plans must hear of a part; None where there is nothing."""
    heard = about.for_plans
    return None if heard is None else RackFact(key=key, kind=kind, label=label, letter=letter, about=heard)


def concerning(known: Iterable[RackFact], keys: Set[str]) -> tuple[RackFact, ...]:
    """Of what is known of a rack that which concerns some of its parts: of themselves and of those they are kept together with. In the order of
    their keys, so that equal racks make equal facts."""
    told, wanted = {one.key: one for one in known}, set(map(whole, keys))
    partners = {told[key].about.partner for key in wanted & told.keys()}
    return tuple(told[key] for key in sorted((wanted | partners) & told.keys()))
