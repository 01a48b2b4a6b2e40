"""What an evaluation says: the models every screen and the command line read from."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, ConfigDict, Field

from gecko.common.documents import Patch
from gecko.document.parts.pack import Pack

Severity = Literal["stop", "caution", "note"]
Stage = Literal["survey", "power", "protect", "drive", "hookup", "prove", "care"]
State = Literal["fine", "close", "over", "unknown"]
Gate = Literal["plan", "power", "ride"]
"""What a stop holds up: the plan itself, the first power, or the first ride. In this order: an open stop holds up its own and all later."""


class Out(BaseModel):
    """Base of every output model."""

    model_config = ConfigDict(frozen=True, use_attribute_docstrings=True)


class GapOut(Out):
    """Something the setup does not say."""

    path: str
    message: str
    kind: Literal["missing", "assumed"]
    value: float | None
    """What was assumed, in `unit`; None of what is missing."""
    unit: str


class OneMoreOut(Out):
    """The bank with one pack more in every row."""

    nominal_v: float
    full_v: float
    controller_v: float | None
    """What the controller stands; None where nobody knows."""
    refused: bool
    """It stands less than this bank when that is full."""


class BankOut(Out):
    """The bank: window, capacity, limits."""

    nominal_v: float
    full_v: float
    empty_v: float
    rest_full_v: float
    guard_v: float
    """A good set point for its low-volt guard."""
    capacity_ah: float
    energy_wh: float
    resistance_ohm: float
    peak_10s_a: float | None
    peak_at_most: bool
    """Whether some pack states no peak amps: the bank then gives at most these."""
    continuous_a: float | None
    trip_a: float | None
    rows: int
    units_v: list[list[float]]
    """Nominal volts of each pack, row by row."""
    alike: bool
    """Every pack computes like every other."""
    another: list[list[Pack]]
    """One more of each pack's kind, row by row: what a copy of it is, without what is its own."""
    one_more_in_series: OneMoreOut | None
    """None where a row holds no more packs."""
    one_more_row_ah: float
    """What it holds with one more row like its last."""
    sag_at_peak_v: float | None


class Station(Out):
    """One station of the trail: what is asked of it and what it stands, in one unit."""

    id: str
    name: str
    stage: Stage
    path: str
    asks: float | None
    stands: float | None
    unit: Literal["A", "V", "K", "N·m", "N", "m/s"]
    share: float | None
    """asks / stands; headroom is 1 − share."""
    state: State
    weak: bool
    detail: str
    severity: Severity | None = None
    """Worst finding at this station."""


class Answer(Out):
    """What one can say to a question where it stands, in one tap."""

    answer: Literal["yes", "no", "cannot tell"]
    label: str
    patch: Patch
    """JSON Patch (RFC 6902) on the Setup document."""


class Finding(Out):
    """A check that tripped."""

    id: str
    key: str
    """The id, with the place when one rule trips at several places."""
    severity: Severity
    station: str
    stage: Stage
    title: str
    because: str
    instruction: str
    """What to do, in plain words."""
    principle: str
    path: str = ""
    gate: Gate | None = None
    """What a stop holds up until it is closed or overruled; None for cautions and notes."""
    observable: bool = False
    """A stop that an observation closes: nothing to change, only to see or to measure."""
    asked: float | None = None
    """What is asked of the part, in `unit`; where chances decide, the median. Of a stop always there."""
    stands: float | None = None
    """What it stands, in the same unit; 0 where nothing may be asked at all."""
    unit: str = ""
    """Unit of both; empty: a count."""
    likely: float | None = None
    """Share of the likely cases in which the limit is passed, where chances decide. [1]"""
    as_found: bool = False
    """A stop of the machine as it was found."""
    question: str = ""
    """Key of the question it asks, where nobody has looked yet."""
    answers: list[Answer] = []
    """What can be said to it in one tap."""


class Asked(Out):
    """A question of the survey: what to look at, why, and what was seen."""

    key: str
    ask: str
    why: str
    gate: Gate | None
    """What hangs on it; None where it is only a caution."""
    answer: Literal["yes", "no", "cannot tell"] | None
    good: bool
    """Whether the answer is the safe one."""
    by: str
    when: str
    answers: list[Answer]


class Price(Out):
    """What a change brings or costs against the setup as it is; None where one of both is not known."""

    top_speed_m_s: float | None
    run_time_s: float | None
    nominal_v: float | None


class CheckedFix(Out):
    """A change that was tried: it clears the finding and adds no stop."""

    label: str
    patch: Patch
    """JSON Patch (RFC 6902) on the Setup document."""
    price: Price


class FindingFixes(Out):
    """Checked fixes of one finding."""

    key: str
    fixes: list[CheckedFix]


class Range(Out):
    """5 %, median and 95 % of an outcome, in SI."""

    low: float
    median: float
    high: float


class HeldBack(Out):
    """What holds the machine back."""

    station: str | None
    limit: str | None
    title: str
    sentence: str
    state: State


class Outcome(Out):
    """What the rider gets. SI; None where it cannot be computed."""

    top_speed_m_s: float
    top_speed_half_m_s: float
    top_speed_low_m_s: float
    top_speed_grade_m_s: float
    top_speed_grade_half_m_s: float
    top_speed_grade_low_m_s: float
    hill_grade_asked: float
    limit_at_top: str
    aimed_speed_m_s: float
    run_time_s: float
    distance_m: float
    ends_by: str
    wh_per_km: float
    hill_grade: float
    hill_ends_by: str
    peak_a: float
    cruise_a: float
    rms_a: float
    stall_a: float
    lowest_v: float
    sag_v: float
    motor_20min_c: float
    """Hottest winding within 20 minutes of the ride, never more than the 155 °C at which it is over."""
    winding_stop_s: float | None
    """When on the ride the winding is at 155 °C; None where it never is."""
    full_load_to_stop_s: float | None
    stalled_to_stop_s: float | None
    stop_m: float
    tip_m_s: float | None
    launch_s: float
    launch_rms_a: float
    starts_grade: float
    """Grade it can start on from standing."""
    slide_m_s: float
    """Speed at which it slides in a turn of 3 m."""
    course: str
    """Name of the course, or of the standard ride."""
    wheelie_margin: float | None
    cap_m_s: float | None
    bases: dict[str, Literal["measured", "nameplate", "assumed"]]
    """Weakest basis behind the main outcomes."""


class BaselineOut(Out):
    """The same outcomes of the baseline, for comparison."""

    top_speed_m_s: float
    run_time_s: float
    hill_grade: float
    peak_a: float
    lowest_v: float
    motor_20min_c: float
    stop_m: float


class Curve(Out):
    """A computed line: x and y in SI units named by the curve's key."""

    x: list[float]
    y: list[float]


class Stretch(Out):
    """Road speeds along which one limit holds."""

    from_m_s: float
    to_m_s: float
    limit: str


class Curves(Out):
    """Lines for the plots."""

    sag: dict[str, Curve] = {}
    """Pack volts against amps at s = 1, 0.5, 0.2: keys full, half, low."""
    force: dict[str, Curve] = {}
    """Push of full throttle and resistance against speed: keys push, push_half, level, grade."""
    force_limits: list[Stretch] = []
    """Stretches of the push curve by the limit that holds."""
    ride: dict[str, Curve] = {}
    """Over the ride: volts and charge against time: keys volts, guard, winding."""
    knob: Curve | None = None
    """Predicted level speed at half charge against the knob's mark (0…1)."""


class ChoiceRow(Out):
    """One fuse of the table, with the conditions each gauge fails, in the order of the table's gauges."""

    kind: str
    dc_volts_v: float
    rating_a: float
    fails: list[list[str]]


class SizeOut(Out):
    """A wire: its gauge, or its mm² where it is sold so, and how many side by side."""

    awg: int
    mm2: float | None = None
    strands: int = 1


class ChoicePick(Out):
    """A fuse and a wire with the numbers of every condition."""

    kind: str
    dc_volts_v: float
    rating_a: float
    breaking_a: float
    size: SizeOut
    fails: list[str]
    numbers: dict[str, float]


class ChoiceOut(Out):
    """The fuse-and-wire decision for one lead."""

    run: str
    school: Literal["careful", "common"]
    sizes: list[SizeOut]
    ampacity_a: list[float]
    rows: list[ChoiceRow]
    chosen: ChoicePick | None
    best: ChoicePick | None
    blocking: list[str]
    """When nothing fits: conditions to move, most promising first."""
    continuous_a: float
    launch_peak_a: float
    launch_s: float
    curves: dict[str, dict[str, Curve]] = {}
    """For chosen and best: shortest, longest opening, wire time and withstand of a short [s] against amps."""


class Evaluation(Out):
    """Everything on screen reads from this."""

    gaps: list[GapOut]
    bank: BankOut | None
    outcome: Outcome | None
    baseline: BaselineOut | None
    trail: list[Station]
    weak_link: str | None
    held_back: HeldBack | None
    findings: list[Finding]
    curves: Curves
    ready: bool
    """Nothing is missing, and no stop with gate plan or power is open. Without what was overruled or observed, which the server knows."""
    survey: list[Asked] = []
    """Every question of the survey that this machine raises, answered or not."""
    rider_grown_up: bool = False
    """The rider is known to be grown up: the cap is advice, and who wants the front to lift may say so."""
    openings: dict[Stage, str] = {}
    """What to do at a stage, in one sentence: its first stop's way out, else what to look at, else that there is nothing to do."""


class Widens(Out):
    """A figure that widens a range: its place, its name in a sentence, its share of the spread [1], and how to measure it."""

    path: str
    name: str
    share: float
    basis: Literal["measured", "nameplate", "assumed"]
    how: str


class Ending(Out):
    """One thing that ends the ride: in which share of the likely cases [1], and when, 5 to 95 % of those."""

    ends_by: str
    share: float
    low_s: float
    high_s: float


class Ranges(Out):
    """5–95 % ranges of the outcomes from 200 samples, by outcome name, in SI."""

    outcomes: dict[str, Range]
    endings: list[Ending] = []
    """What ends the ride, the likeliest first: why its time may range so far."""
    widest: dict[str, list[Widens]] = {}
    """For each outcome the figures that widen its range most, at most two."""
    knob_low: Curve | None = None
    knob_high: Curve | None = None
    samples: int = Field(default=200)
