"""Setups side by side: what the rider gets from each with its range, what differs in the machine, and the limit they share."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from gecko.analysis.whole import Analysis
from gecko.answers.evaluation import Evaluation, Out, Ranges
from gecko.common.errors import GeckoError
from gecko.common.words import Kind, q
from gecko.document.context import Context
from gecko.document.setup import Setup
from gecko.plans.drive.what_if import shared_limit
from gecko.plans.evaluate import evaluate
from gecko.plans.ranges import ranges

RowKind = Literal["speed", "time", "grade", "amps", "volts", "temp", "length", "plain", "wh_per_km"]

ROWS: tuple[tuple[str, str, RowKind], ...] = (
    ("top_speed_m_s", "Top speed", "speed"),
    ("top_speed_low_m_s", "Top speed at 20 %", "speed"),
    ("top_speed_grade_m_s", "Speed up the slope", "speed"),
    ("launch_s", "Launch to 90 %", "time"),
    ("run_time_s", "Run time", "time"),
    ("distance_m", "Distance", "length"),
    ("wh_per_km", "Energy", "wh_per_km"),
    ("hill_grade", "Steepest hill", "grade"),
    ("starts_grade", "Starts on", "grade"),
    ("peak_a", "Peak amps", "amps"),
    ("cruise_a", "Mean amps", "amps"),
    ("lowest_v", "Lowest pack volts", "volts"),
    ("sag_v", "Sag", "volts"),
    ("motor_20min_c", "Winding at 20 min", "temp"),
    ("stop_m", "Stops in", "length"),
    ("tip_m_s", "Tips in a 3 m turn at", "speed"),
    ("wheelie_margin", "Front lifts at … times the launch", "plain"),
)
ALIKE = 0.005
"""Outcomes that differ by less than this share of the largest count as the same. [1]"""


class OutcomeCell(Out):
    """An outcome of one setup, its 5–95 % range, and the difference to the first; None where it does not apply."""

    value: float | None
    low: float | None
    high: float | None
    against_first: float | None


class OutcomeRow(Out):
    """One outcome of every setup."""

    id: str
    label: str
    kind: RowKind
    differs: bool
    cells: list[OutcomeCell]


class ChangeRow(Out):
    """One thing of the machine in every setup, in words; quantities in them as in sentences."""

    path: str
    label: str
    differs: bool
    values: list[str]


class SetupHead(Out):
    """A setup's column: its name, stops and cautions, and what holds it back."""

    name: str
    stops: int
    cautions: int
    titles: list[str]
    """Titles of its stops."""
    weak_link: str | None
    shares: dict[str, float]
    """asks / stands of each station of its trail."""
    held_back: str


class CompareOut(Out):
    """Setups side by side; all others are compared with the first."""

    setups: list[SetupHead]
    outcomes: list[OutcomeRow]
    changes: list[ChangeRow]
    alike: int
    """How many outcomes and things are the same in all."""
    shared_limit: str
    stations: dict[str, str]
    """Names of the stations by their ids, in the order of the trail."""


def compare(setups: Sequence[tuple[str, Setup, Context]]) -> CompareOut:
    """Compare named setups, each in its own surroundings. Raises GeckoError naming the one that has no numbers."""
    seen = [_seen(*one) for one in setups]
    outcomes = [row for row in (_row(name, label, kind, seen) for name, label, kind in ROWS) if any(cell.value is not None for cell in row.cells)]
    changes = _changes([setup for _, setup, _ in setups])
    stations: dict[str, str] = {}
    for evaluation, _ in seen:
        stations.update({station.id: station.name for station in evaluation.trail})
    return CompareOut(
        setups=[_head(name, evaluation) for (name, _, _), (evaluation, _) in zip(setups, seen, strict=True)],
        outcomes=outcomes,
        changes=changes,
        alike=sum(not row.differs for row in outcomes) + sum(not row.differs for row in changes),
        shared_limit=shared_limit([(name, setup) for name, setup, _ in setups]),
        stations=stations,
    )


def _seen(name: str, setup: Setup, context: Context) -> tuple[Evaluation, Ranges]:
    try:
        return evaluate(setup, context), ranges(setup, context)
    except GeckoError as error:
        raise GeckoError(f"{name} cannot be compared: {error.message}", code=error.code, path=error.path) from error


def _head(name: str, evaluation: Evaluation) -> SetupHead:
    stops = [finding.title for finding in evaluation.findings if finding.gate == "plan"]
    return SetupHead(
        name=name,
        stops=len(stops),
        cautions=sum(finding.severity == "caution" for finding in evaluation.findings),
        titles=stops,
        weak_link=evaluation.weak_link,
        shares={station.id: station.share for station in evaluation.trail if station.share is not None},
        held_back=evaluation.held_back.sentence if evaluation.held_back is not None else "",
    )


def _row(name: str, label: str, kind: RowKind, seen: Sequence[tuple[Evaluation, Ranges]]) -> OutcomeRow:
    values = [getattr(evaluation.outcome, name, None) if evaluation.outcome is not None else None for evaluation, _ in seen]
    cells = []
    for value, (_, spread) in zip(values, seen, strict=True):
        span = spread.outcomes.get(name)
        first = values[0]
        cells.append(
            OutcomeCell(
                value=value,
                low=span.low if span is not None and value is not None else None,
                high=span.high if span is not None and value is not None else None,
                against_first=None if value is None or first is None else value - first,
            )
        )
    known = [value for value in values if value is not None]
    differs = len(known) < len(values) and bool(known)
    if known:
        differs = differs or max(known) - min(known) > ALIKE * max(abs(value) for value in known)
    return OutcomeRow(id=name, label=label, kind=kind, differs=differs, cells=cells)


_PARTS = {
    "stock": "As found",
    "vehicle": "Machine",
    "controller": "Controller",
    "throttle": "Throttle",
    "motor": "Motor",
    "drivetrain": "Gearing",
    "wheel": "Wheel",
    "rider": "Rider",
    "ground": "Ground",
    "guard": "Low-volt guard",
    "cut_off": "Cut-off",
    "pedal_switch": "Pedal switch",
    "main_fuse": "Main fuse",
    "main_lead": "Main lead",
    "controller_lead": "Controller lead",
    "motor_lead": "Motor lead",
    "course": "Course",
}
_ENDINGS = {"_v": " V", "_a": " A", "_w": " W", "_ah": " Ah", "_ohm": " Ω", "_rpm": " rpm", "_s": " s", "_nm": " N·m", "_f": " F", "_m2": " m²"}
_KINDS: dict[str, Kind] = {"_m": "length", "_kg": "mass", "_c": "temp", "_m_s": "speed"}
# What the old packs and drive weigh is the same machine told more fully, not another one.
_SILENT = {"version", "label", "plus_lead_note", "notes", "name", "packs_kg", "drive_kg"}


def _ending(name: str) -> str:
    return next((end for end in ("_m_s", "_rpm_per_v", "_ohm", "_rpm", "_ah", "_nm", "_kg", "_m2", "_v", "_a", "_w", "_s", "_f", "_c", "_m") if name.endswith(end)), "")


def _words(name: str, value: object) -> str:
    """A field's value in words, its unit by the ending of its name."""
    if isinstance(value, dict) and "value" in value:
        value = value["value"]
    if value is None:
        return "not entered"
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, (int, float)):
        end = _ending(name)
        if end in _KINDS:
            return q(float(value), _KINDS[end])
        return f"{value:.4g}{_ENDINGS.get(end, '')}"
    if isinstance(value, list):
        return ", ".join(str(part.get("name") or part.get("label") or part.get("kind") or "one") if isinstance(part, dict) else str(part) for part in value) or "none"
    return str(value)


def _label(part: str, name: str) -> str:
    end = _ending(name)
    plain = name[: len(name) - len(end)] if end else name
    return f"{_PARTS.get(part, part)}: {plain.replace('_', ' ')}"


def _things(setup: Setup) -> dict[str, tuple[str, str]]:
    """Everything a setup says, by its place: label and words. Packs, rows and lists are told as wholes."""
    document = setup.model_dump(mode="json")
    found: dict[str, tuple[str, str]] = {}
    analysis = Analysis(setup)
    bank = setup.bank
    if bank is None:
        found["/bank"] = ("Packs", "none")
    else:
        first = bank.rows[0]
        each = " + ".join(dict.fromkeys(unit.label or f"{unit.cells_in_series} cells {unit.chemistry}" for row in bank.rows for unit in row.units))
        found["/bank"] = ("Packs", each)
        joined = f"{len(first.units)} in series" + (f", {len(bank.rows)} rows" if len(bank.rows) > 1 else "")
        found["/bank/rows"] = ("How they are joined", f"{analysis.nominal_v or 0:.3g} V, {joined}")
        fuses = [f"{row.fuse.rating_a:g} A" for row in bank.rows if row.fuse is not None]
        found["/bank/fuses"] = ("Row fuses", ", ".join(dict.fromkeys(fuses)) or "none")
        if bank.holding is not None:
            found["/bank/holding"] = ("Packs held by", ", ".join(bank.holding.by))
    for part, content in document.items():
        if part in ("bank", "version"):
            continue
        if isinstance(content, list):
            found[f"/{part}"] = (part.replace("_", " ").capitalize(), _words(part, content))
        elif isinstance(content, dict):
            if part == "course":
                found["/course"] = ("Course", content["name"])
                continue
            for name, value in content.items():
                if name not in _SILENT:
                    found[f"/{part}/{name}"] = (_label(part, name), _words(name, value))
        elif part in _PARTS:
            found[f"/{part}"] = (_PARTS[part], "none" if content is None else str(content))
    return found


def _changes(setups: Sequence[Setup]) -> list[ChangeRow]:
    """What is unlike in the setups, place by place; what is the same in all is kept, marked so, while it is entered in any."""
    each = [_things(setup) for setup in setups]
    # A part one setup lacks is told once, not field by field.
    lacking = {part for things in each for part in _PARTS if f"/{part}" in things}
    rows = []
    for path in dict.fromkeys(path for things in each for path in things):
        part = path.split("/")[1]
        if part in lacking and path != f"/{part}":
            continue
        label = next(things[path][0] for things in each if path in things)
        values = [things[path][1] if path in things else "fitted" if part in lacking else "not entered" for things in each]
        if set(values) == {"not entered"}:
            continue
        rows.append(ChangeRow(path=path, label=label, differs=len(set(values)) > 1, values=values))
    return sorted(rows, key=lambda row: not row.differs)
