"""One part instead of another: what fits, what is lost, what changes, and what the checks say of the machine with it."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Literal

from pydantic import BaseModel

from gecko.analysis.riding import Rides
from gecko.analysis.whole import Analysis
from gecko.answers.evaluation import Out
from gecko.common.documents import Document, SetupDocument
from gecko.common.figures import Figure
from gecko.document.context import Context
from gecko.document.parts.controller import Controller, Throttle
from gecko.document.parts.drivetrain import Drivetrain, Wheel
from gecko.document.parts.held import End
from gecko.document.parts.motor import Motor
from gecko.document.setup import Setup, load_setup
from gecko.rules.registry import run_checks

Slot = Literal["controller", "motor", "throttle", "drivetrain", "wheel"]
_MODELS: dict[Slot, type[BaseModel]] = {"controller": Controller, "motor": Motor, "throttle": Throttle, "drivetrain": Drivetrain, "wheel": Wheel}

_SLOTS_OWN = {
    "rack",
    "does",
    "modes",
    "mode",
    "modes_locked",
    "mounting",
    "enclosed",
    "in_spray",
    "firmware",
    "levers",
    "brake_cut_off_wired",
    "foot_switch_wired",
    "limiter_mark",
    "limiter_reachable",
    "knob",
    "returns",
    "torque_arm",
    "mount_homemade",
    "chain_guard",
    "in_line",
    "stand_wheel_rpm",
    "stand_v",
}
"""What a slot says of how a part is built in or set, which says nothing of the part."""


@dataclass(frozen=True)
class Candidate:
    """A part that may take the place of another: how it is called, and what it is."""

    name: str
    part: BaseModel

    @classmethod
    def of(cls, slot: Slot, name: str, document: Document) -> Candidate:
        """A part for a slot, from its document. Raises ValidationError for one that cannot be read."""
        return cls(name, _MODELS[slot].model_validate(document))


class PartChange(Out):
    """A figure or fact of a part that is another one: its help text's first sentence, and both as they stand in the document."""

    field: str
    what: str
    before: float | str | None
    after: float | str | None
    unit: str


class SubstituteOut(Out):
    """A part in another's place."""

    name: str
    setup: SetupDocument
    lost: list[str]
    """What the old one did and this one does not."""
    gained: list[str]
    changes: list[PartChange]
    stops: list[str]
    """Plan stops the machine has with it and had not before."""
    cleared: list[str]
    """Plan stops that go."""
    fits: bool
    """It adds no plan stop."""
    top_speed_m_s: float | None
    run_time_s: float | None


class InsteadOut(Out):
    """The machine as it is, and with each candidate."""

    top_speed_m_s: float | None
    run_time_s: float | None
    candidates: list[SubstituteOut]


def instead(setup: Setup, slot: Slot, candidates: Sequence[Candidate], context: Context) -> InsteadOut:
    """What each candidate would be instead of the part in a slot. How a part is built in or set stays as it was."""
    rides: Rides = {}
    now = Analysis(setup, context, rides=rides)
    stops = _stops(now)
    old = getattr(setup, slot)
    found = []
    for candidate in candidates:
        new = candidate.part
        after = load_setup({**setup.model_dump(mode="json"), slot: _built_in(old, new)})
        a = Analysis(after, context, rides=rides)
        with_it = _stops(a)
        did, does = set(_functions(old)), set(_functions(new))
        speed, seconds = _outcome(a)
        found.append(
            SubstituteOut(
                name=candidate.name,
                setup=after.model_dump(mode="json"),
                lost=sorted(did - does),
                gained=sorted(does - did),
                changes=list(_changes(old, new)),
                stops=[title for key, title in with_it.items() if key not in stops],
                cleared=[title for key, title in stops.items() if key not in with_it],
                fits=not with_it.keys() - stops.keys(),
                top_speed_m_s=speed,
                run_time_s=seconds,
            )
        )
    speed, seconds = _outcome(now)
    return InsteadOut(top_speed_m_s=speed, run_time_s=seconds, candidates=found)


def _built_in(old: BaseModel | None, new: BaseModel) -> Document:
    """The new part as the slot holds it: with what the slot itself says of how it is built in, where both have a word for it."""
    document: Document = new.model_dump(mode="json")
    if old is None:
        return document
    kept = old.model_dump(mode="json")
    stays = _SLOTS_OWN - {"rack", "does", "modes", "mode", "modes_locked", "firmware"}
    return {**document, **{name: kept[name] for name in stays if name in kept and name in document}}


def _stops(a: Analysis) -> dict[str, str]:
    return {found.finding.key: found.finding.title for found in run_checks(a) if found.finding.gate == "plan"}


def _outcome(a: Analysis) -> tuple[float | None, float | None]:
    return (float(a.top), float(a.ride.run_time_s)) if a.machine is not None else (None, None)


def _functions(part: BaseModel | None) -> Iterator[str]:
    """What a part does, in words: beside its own job, and of its own job what others of its kind do not."""
    yield from getattr(part, "does", [])
    if isinstance(part, Controller):
        told = {
            "speed modes": len(part.modes) > 1,
            "soft start": part.ramp_s is not None,
            "braking on release": part.regen_a is not None,
            "an input for the brake lever": part.brake_cut_off_input,
            "running without Hall sensors": part.kind == "brushless" and not part.needs_halls,
            "a pre-charge path": part.precharge,
            "extra speed": part.extra_speed is not None,
        }
        yield from (name for name, there in told.items() if there)
    elif isinstance(part, Throttle) and part.brake_cut_off_present:
        yield "a switch in the brake lever"
    elif isinstance(part, Motor) and part.brushless and part.has_halls:
        yield "Hall sensors"


def _changes(old: BaseModel | None, new: BaseModel) -> Iterator[PartChange]:
    """Facts and figures that differ, in the order of the part's fields; what neither says is no change."""
    for name, field in type(new).model_fields.items():
        if name in _SLOTS_OWN:
            continue
        if name == "ends":
            yield from _ends(getattr(old, name, []), getattr(new, name))
            continue
        before, after = _plain(getattr(old, name, None)), _plain(getattr(new, name))
        if before != after:
            what = (field.description or name).split(". ")[0].rstrip(".")
            yield PartChange(field=name, what=what, before=before, after=after, unit=_UNITS.get(name.rsplit("_", 1)[-1], ""))


def _ends(old: Sequence[End], new: Sequence[End]) -> Iterator[PartChange]:
    """Plugs and terminals that are others, by what they are for. A part of which none is told says nothing of them."""
    if not old or not new:
        return
    for what in dict.fromkeys(end.joins for end in (*old, *new)):
        before, after = ("; ".join(end.words or "there" for end in ends if end.joins == what) for ends in (old, new))
        if before != after:
            yield PartChange(field=f"ends/{what}", what=f"Plug or terminal: {what}", before=before or None, after=after or None, unit="")


_UNITS = {"v": "V", "a": "A", "w": "W", "rpm": "rpm", "ohm": "Ω", "s": "s", "nm": "N·m", "m": "m", "kg": "kg", "f": "F"}


def _plain(value: object) -> float | str | None:
    if isinstance(value, Figure):
        return float(value.value)
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, int | float):
        return float(value)
    return (value or None) if isinstance(value, str) else None
