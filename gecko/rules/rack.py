"""What the rack knows of the parts a setup holds: hurt, retired, not here yet, somebody else's, tied on for one try, parted from its partner."""

from __future__ import annotations

from collections.abc import Iterator

from gecko.analysis.whole import Analysis
from gecko.common.words import pack_place
from gecko.document.parts.held import Held, OnRack
from gecko.document.parts.pack import Pack
from gecko.document.rack.about import RackFact, verdict, whole
from gecko.document.rack.slots import slots
from gecko.document.setup import Setup
from gecko.rules.registry import Trip, rule, setup_rule

_STATIONS = {
    "bank": "packs",
    "chargers": "packs",
    "controller": "controller",
    "throttle": "controller",
    "motor": "motors",
    "drivetrain": "gearing",
    "wheel": "wheels",
    "plugs": "plugs",
    "cut_off": "switch",
    "pedal_switch": "switch",
    "key_switch": "switch",
    "contactor": "switch",
}


def _known(a: Analysis) -> Iterator[tuple[str, Held, OnRack, RackFact]]:
    """Slots whose part the rack still knows."""
    known = {fact.key: fact for fact in a.context.rack}
    if known:
        for path, part, named in slots(a.setup):
            if (fact := known.get(whole(named.key))) is not None:
                yield path, part, named, fact


def _station(path: str) -> str:
    return _STATIONS.get(path.split("/")[1], "leads")


def _place(path: str) -> str:
    """A word for the slot that stays what it is while others come and go."""
    return pack_place(path) if path.startswith("/bank") else path.strip("/").replace("/", "-")


@rule("rack.out", station="packs", stage="survey", principle="A part that was hurt is out of every plan until somebody has looked at it.", needs="document")
def out(a: Analysis) -> Iterator[Trip]:
    for path, part, _named, fact in _known(a):
        found = verdict(fact.kind, fact.about)
        # What its own copy says already is told by the rule on hurt packs.
        if not found.out or (isinstance(part, Pack) and part.damage):
            continue
        back = f" It is back in when this was seen, and noted on the rack: {found.clears}" if found.clears else ""
        yield Trip(
            "stop",
            f"{fact.name} {found.title}",
            f"{found.because} The rack has it as out of every plan.",
            f"{found.do}{back}",
            path,
            station=_station(path),
            place=_place(path),
        )


@rule("rack.coming", station="packs", stage="survey", principle="What is not here yet can be planned with, not joined.", needs="document")
def coming(a: Analysis) -> Iterator[Trip]:
    for path, _part, _named, fact in _known(a):
        about = fact.about
        if about.status not in ("ordered", "wanted"):
            continue
        when = f", expected on {about.expected:%-d %B %Y}" if about.expected is not None else ""
        yield Trip(
            "note",
            f"{fact.name} is not here yet",
            f"It is {'ordered' + when if about.status == 'ordered' else 'only wished for so far'}.",
            "Measure and look at it when it is there: what its label says may differ from what was ordered. Then set it on hand on the rack.",
            path,
            station=_station(path),
            place=_place(path),
        )


@rule("rack.borrowed", station="packs", stage="survey", principle="A borrowed part goes back as it came.", needs="document")
def borrowed(a: Analysis) -> Iterator[Trip]:
    for path, _part, _named, fact in _known(a):
        about = fact.about
        if about.status != "borrowed":
            continue
        whose = f" from {about.whose}" if about.whose else ""
        back = f", until {about.expected:%-d %B %Y}" if about.expected is not None else ""
        yield Trip(
            "note",
            f"{fact.name} is borrowed",
            f"It is borrowed{whose}{back}.",
            "Change nothing on it: no plug cut off, no case opened. Plan what takes its place.",
            path,
            station=_station(path),
            place=_place(path),
        )


@rule("rack.temporary", station="packs", stage="prove", principle="What is tied on for one try comes off after it.", needs="document")
def temporary(a: Analysis) -> Iterator[Trip]:
    for path, _part, named in slots(a.setup):
        if not named.temporary:
            continue
        over = named.key in a.context.tried
        yield Trip(
            "stop" if over else "caution",
            f"{named.name} was tied on for one try, and that is over" if over else f"{named.name} is tied on for one try",
            "What is held for a try by tape, ties or hand shakes loose on the second ride.",
            "Take it off and put another part in its place; or fasten it for good, and untick here that it is tied on."
            if over
            else "Try it with an adult beside it, slowly. Then take it off, or fasten it for good and say so here.",
            path,
            station=_station(path),
            place=_place(path),
            gate="ride",
        )


@setup_rule("rack.twice", station="packs", stage="survey", principle="One thing is in one place.")
def twice(setup: Setup) -> Iterator[Trip]:
    seen: dict[str, str] = {}
    for path, _part, named in slots(setup):
        if named.key in seen:
            yield Trip(
                "caution",
                f"{named.name} stands in two places",
                "The same part of the rack is in two slots of this setup; it can be in one.",
                "Choose another one there, or say that it is another one like it.",
                path,
                station=_station(path),
                place=_place(path),
            )
        seen.setdefault(named.key, path)


@rule("rack.pair", station="packs", stage="power", principle="Packs that were used together age together, and stay together.", needs="document")
def pair(a: Analysis) -> Iterator[Trip]:
    known = {fact.key: fact for fact in a.context.rack}
    here = {named.key for _, _, named in slots(a.setup)} if known else set()
    for path, _part, _named, fact in _known(a):
        partner = known.get(fact.about.partner)
        if partner is None or partner.key in here or not path.startswith("/bank") or verdict(partner.kind, partner.about).out:
            continue
        yield Trip(
            "caution",
            f"{fact.name} is here without its partner",
            f"It is kept together with {partner.name}. Used apart one ages faster, and together they then share unevenly.",
            f"Put {partner.name} in too, or part the two on the rack if they are to go separate ways.",
            path,
            station=_station(path),
            place=_place(path),
        )
