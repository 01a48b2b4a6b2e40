"""What somebody has to look at: facts nobody may take for granted. Each question is asked only where the hazard can occur.

An open question is a finding that can be answered in one tap where it stands. "Yes" or "no" is written to the fact's own field; the unsafe
answer raises the rule of what is missing, and "can't tell" counts as that, and stays open.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass, field

from gecko.analysis.whole import Analysis
from gecko.answers.evaluation import Answer, Asked, Gate, Severity, Stage
from gecko.common.documents import Document
from gecko.common.words import q, volts
from gecko.document.parts.bay import SURE, Holding
from gecko.document.parts.controller import Controller, Throttle
from gecko.document.parts.pack import Pack
from gecko.document.parts.vehicle import Vehicle
from gecko.document.setup import Bank, Look, Setup
from gecko.rules.edits import answers, at, put
from gecko.rules.registry import Change, Edit, Trip, rule, setup_rule

Places = Iterable[tuple[str, str]]
"""Where a fact stands: what tells several of a kind apart (empty for one), and its path in the document."""


@dataclass(frozen=True)
class Question:
    """One fact to look at: what is asked and why, where it stands, what yes and no write there, which one is safe, and what is said where
    it is not. severity and gate hold for the open question and the unsafe answer alike, unless `missing_gate` says otherwise."""

    key: str
    rule_id: str
    station: str
    stage: Stage
    principle: str
    ask: str
    why: str
    places: Callable[[Analysis], Places]
    title: str
    because: Callable[[Analysis], str]
    instruction: str
    severity: Severity = "stop"
    gate: Gate = "ride"
    missing_gate: Gate | None = None
    yes: object = True
    no: object = False
    labels: tuple[str, str] = ("Seen: yes", "Seen: no")
    safe: tuple[object, ...] = (True,)
    unknown: object = None
    mend: str = ""
    """What a fix does about the unsafe answer; empty: only words help."""
    mended: object = True
    house: Callable[[Analysis], Severity | None] = field(default=lambda _: None)
    """A house rule's say about the severity."""


def _one(path: str, applies: Callable[[Analysis], bool]) -> Callable[[Analysis], Places]:
    return lambda a: [("", path)] if applies(a) else []


def _family(vehicle: Vehicle | None) -> str:
    return vehicle.family if vehicle is not None else ""


def _metered(controller: Controller | None) -> bool:
    return controller is not None and controller.kind != "none"


LEVERS = ("small dirt bike", "quad", "scooter", "mini bike")
"""Machines that usually have brake levers; pedal cars have none."""


def _commanded(controller: Controller | None) -> bool:
    return controller is not None and controller.reads_throttle


def _levers(a: Analysis) -> bool:
    have = a.setup.throttle.levers if a.setup.throttle is not None else None
    return _commanded(a.setup.controller) and (have is True or (have is None and _family(a.setup.vehicle) in LEVERS))


def _more_volts(a: Analysis) -> bool:
    vehicle, stock = a.setup.vehicle, a.setup.stock.volts_v
    if vehicle is None or vehicle.board_bypassed or a.nominal_v is None or vehicle.family != "ride-on car" or vehicle.board_in_path == "yes":
        return False
    if stock is not None:
        return bool(a.nominal_v > 1.05 * stock.value)
    # Nobody knows the stock volts: the machine as found runs on them, any other may not.
    found = a.stock.nominal_v if a.stock is not None else None
    return a.nominal_v > 1.05 * found if found is not None else not a.context.is_baseline


def _other_packs(a: Analysis) -> bool:
    """Whether the packs are others than the machine came with, in chemistry or volts."""
    if a.setup.bank is None or a.setup.vehicle is None:
        return False
    if a.stock is not None and a.stock.setup.bank is not None:
        kinds = [{(unit.chemistry, unit.cells_in_series) for row in bank.rows for unit in row.units} for bank in (a.setup.bank, a.stock.setup.bank)]
        return kinds[0] != kinds[1] or abs((a.full_v or 0.0) - (a.stock.full_v or 0.0)) > 0.5
    stock = a.setup.stock.volts_v
    return stock is not None and a.nominal_v is not None and abs(a.nominal_v - stock.value) > 0.05 * stock.value


def _boards(a: Analysis) -> Places:
    for path, pack in a.packs:
        if pack.lithium and not pack.guard_in_tool and not pack.homemade and not (pack.board is None and pack.has_board):
            yield path.removeprefix("/bank/rows/").replace("/units/", "_"), f"{path}/board"


def _other_motor(a: Analysis) -> bool:
    """Whether the motor is another than the machine came with."""
    if a.setup.motor is None or a.setup.drivetrain is None:
        return False
    if _family(a.setup.vehicle) in ("kart", "transplant"):
        return True
    return a.stock is not None and a.stock.setup.motor is not None and a.stock.setup.motor.kind != a.setup.motor.kind


def _limiter_needed(a: Analysis) -> bool:
    throttle = a.setup.throttle
    if throttle is None or throttle.limiter_mark is None or a.machine is None or not _metered(a.setup.controller):
        return False
    return any(float(a.unlimited.top) * one.mass_factor > one.cap.speed_m_s * 1.005 for one in a.riders)


SLOPE = 0.02
"""Below this slope a machine left standing is seldom carried off by its own weight: about the rolling resistance of a hard tyre. [1]"""


def may_roll_off(setup: Setup) -> bool:
    """Whether a machine may roll off on a slope it is asked to ride, and no electric brake is told of."""
    vehicle = setup.vehicle
    steep = max(setup.ground.grade, setup.ground.hill_grade) > SLOPE
    return vehicle is not None and vehicle.family == "transplant" and vehicle.fail_safe_brake is None and steep


def _relaxed(a: Analysis) -> Severity | None:
    return "note" if a.context.house.brake_cut_off == "relaxed" else None


STRAPPED: Document = {"by": ["strap"], "cushioned": True, "against": "padding", "spreader_plates": False, "homemade": False}
NOTHING: Document = {**STRAPPED, "by": [], "cushioned": False}
"""What "yes" and "no" to how the packs are held write down."""

QUESTIONS: tuple[Question, ...] = (
    Question(
        key="plus_lead",
        rule_id="pack.polarity",
        station="packs",
        stage="survey",
        principle="The colour of a lead is no proof of what it is.",
        ask="Was the plus lead read off the old battery, or measured?",
        why="Packs joined the wrong way round burn controller and wires at once; colours differ from maker to maker.",
        places=_one("/vehicle/plus_lead_proven", lambda a: a.setup.vehicle is not None and a.setup.bank is not None),
        title="Plus is known by colour alone",
        because=lambda a: f"With {volts(a.full_v or 0.0)} the wrong way round controller and wires burn at once.",
        instruction="Read the marking on the old battery, or measure: a minus sign on the meter means the tips are on the wrong leads.",
        gate="power",
    ),
    Question(
        key="board",
        rule_id="pack.window.board.unknown",
        station="controller",
        stage="survey",
        principle="A board built for stock volts dies on more.",
        ask="Is there a circuit board between pedal and motor?",
        why="More than the stock volts kill such a board, sometimes at full throttle. Follow the wires from the pedal.",
        places=_one("/vehicle/board_in_path", _more_volts),
        title="Nobody knows whether a board takes more volts",
        because=lambda a: f"{volts(a.nominal_v or 0.0)} are more than stock; a board in their way dies, and may hold the motor on.",
        instruction="Follow the wires from the pedal to the motor. No box, no board: then it is none.",
        gate="power",
        yes="yes",
        no="no",
        labels=("There is one", "There is none"),
        safe=("no", "yes"),
        unknown="unknown",
    ),
    Question(
        key="foot_switch",
        rule_id="ctl.foot",
        station="controller",
        stage="drive",
        principle="On a quad the foot switch stops the motor when the rider is off.",
        ask="Is the foot switch wired, and does it stop the motor?",
        why="A quad whose rider has fallen off drives on without it.",
        places=_one("/throttle/foot_switch_wired", lambda a: _family(a.setup.vehicle) == "quad"),
        title="The foot switch is not wired",
        because=lambda _: "This quad runs on when the rider falls off: its foot switch is not wired.",
        instruction="Wire the foot switch into the controller's lock or brake line.",
        missing_gate="plan",
        mend="Wire it",
    ),
    Question(
        key="brake_cut_off",
        rule_id="ctl.brake",
        station="controller",
        stage="drive",
        principle="The brake lever stops the motor before it stops the wheel.",
        ask="Does pulling the brake lever stop the motor?",
        why="With a stuck throttle brake and motor fight unless the lever cuts the motor off.",
        places=_one("/throttle/brake_cut_off_wired", _levers),
        title="The brake lever does not stop the motor",
        because=lambda a: _brake_words(a.setup.throttle, a.setup.controller),
        instruction="Fit a lever with a sensor and wire it to the controller's brake input; a controller without one needs the sensor in its lock line.",
        severity="caution",
        mend="Wire a lever with a sensor",
        house=_relaxed,
    ),
    Question(
        key="throttle_returns",
        rule_id="ctl.return",
        station="controller",
        stage="drive",
        principle="Let go, a machine stops pulling.",
        ask="Let go, does throttle or pedal snap back by itself, from every position?",
        why="One that sticks after a fall or a bend of its cable drives on without the rider.",
        places=_one("/throttle/returns", lambda a: a.setup.throttle is not None or a.setup.pedal_switch is not None),
        title="Throttle or pedal does not snap back",
        because=lambda a: f"Stuck, it drives on at {q(float(a.top), 'speed')}." if a.machine is not None else "Stuck, it drives on.",
        instruction="Free its cable, clean it or fit a new one, until it snaps back by itself also with the bars turned.",
        mend="Fit one that snaps back",
    ),
    Question(
        key="held",
        rule_id="pack.held.open",
        station="packs",
        stage="power",
        principle="A pack that flies out or chafes through is a short circuit on wheels.",
        ask="Are the packs held by strap, bracket or tray, and padded?",
        why="Loose packs fly out in a fall, and chafe through on metal.",
        places=_one("/bank/holding", lambda a: a.setup.bank is not None and a.setup.bank.holding is None),
        title="Nobody can tell what holds the packs",
        because=lambda a: f"{len(a.packs)} packs that come loose tear their leads and fly out.",
        instruction="Straps or brackets that bear a fall, padding all round, plates behind plastic.",
        yes=STRAPPED,
        no=NOTHING,
        safe=(STRAPPED,),
    ),
    Question(
        key="sound",
        rule_id="pack.damage.seen",
        station="packs",
        stage="survey",
        principle="A hurt pack burns when nobody looks.",
        ask="Is every pack whole: not swollen, dropped, wet or opened?",
        why="What is torn or shorted inside a hurt pack cannot be seen, and may burn hours later.",
        places=_one("/bank/looked_sound", lambda a: a.setup.bank is not None and not any(pack.damage for _, pack in a.packs)),
        title="A pack is not sound",
        because=lambda _: "One of the packs was swollen, dropped, wet or opened, or nobody can tell.",
        instruction="Mark which one and take it out of the plan. Outdoors, away from what burns; to a battery collection point, its poles taped.",
        gate="power",
    ),
    Question(
        key="pack_board",
        rule_id="pack.board.none",
        station="packs",
        stage="power",
        principle="Lithium cells need a board that stops them full, empty and overloaded.",
        ask="Has this pack a protection board of its own?",
        why="Without one nothing stops a cell from being overcharged, drained or shorted.",
        places=_boards,
        title="Nothing says that this pack has a board",
        because=lambda _: "Without a board nothing stops one cell from being overcharged, drained or shorted.",
        instruction="Look for a board under the wrap, or ask who sold it; else use a pack that has one.",
        gate="power",
        safe=(True,),
    ),
    Question(
        key="reach",
        rule_id="switch.reach.open",
        station="cut_off",
        stage="protect",
        principle="A switch that stops it helps only who can reach it.",
        ask="Does the rider, or an adult walking beside, reach the cut-off?",
        why="When it runs away somebody must reach it at once.",
        places=_one("/cut_off/reach", lambda a: a.setup.cut_off is not None and a.setup.cut_off.reach is None),
        title="Nobody can tell who reaches the cut-off",
        because=lambda _: "When it runs away somebody must reach it at once.",
        instruction="Sit the rider on it, or walk beside it, and try.",
        yes="rider",
        no="out of reach",
        safe=("rider", "adult beside it"),
    ),
    Question(
        key="limiter_reach",
        rule_id="ride.limiter",
        station="rider",
        stage="drive",
        principle="A limiter holds only where the rider cannot turn it.",
        ask="Is the limiter out of the rider's reach?",
        why="Turned up, it goes faster than the cap of whoever rides.",
        places=_one("/throttle/limiter_reachable", lambda a: _limiter_needed(a) and a.setup.throttle is not None and a.setup.throttle.limiter_reachable is not True),
        title="Nobody can tell who reaches the limiter",
        because=lambda a: f"Turned up, it goes {q(float(a.unlimited.top), 'speed')}.",
        instruction="Put the limiter where the rider cannot reach it: under the seat, behind a screwed cover.",
        yes=False,
        no=True,
        safe=(False,),
    ),
    Question(
        key="parked",
        rule_id="ride.parked",
        station="rider",
        stage="drive",
        principle="A geared axle turns backward as easily as forward: on a slope something must hold it.",
        ask="Does something hold it parked on a slope: an electric brake that grips without power, or a lever?",
        why="Left standing on a slope it rolls off, with or without the rider.",
        places=_one("/vehicle/parking_brake", lambda a: may_roll_off(a.setup) and a.setup.vehicle is not None and a.setup.vehicle.parking_brake is None),
        title="Nobody can tell what holds it parked",
        because=lambda _: "Left standing on a slope it rolls off, with or without the rider.",
        instruction="Let go on your slope with a foot in front of the wheel and an adult beside it.",
        severity="caution",
    ),
    Question(
        key="torque_arm",
        rule_id="drive.torque",
        station="gearing",
        stage="drive",
        principle="A hub motor turns its own axle as hard as the wheel.",
        ask="Is the hub motor's axle held by torque arms, its nuts tight?",
        why="An axle that spins in its slots tears its cable off and the wheel out.",
        places=_one("/drivetrain/torque_arm", lambda a: a.setup.motor is not None and a.setup.motor.kind == "hub" and a.setup.drivetrain is not None),
        title="Nothing holds the hub motor's axle",
        because=lambda a: (
            f"Pulling away it turns its axle with {float(a.stall_wheel_nm):.0f} N·m; slots alone widen, the axle spins, the cable tears." if a.machine is not None else ""
        ),
        instruction="Fit a torque arm on each side, and tighten the nuts to the maker's torque.",
        missing_gate="plan",
        mend="Fit torque arms",
    ),
    Question(
        key="chain_guard",
        rule_id="drive.guard",
        station="gearing",
        stage="drive",
        principle="Nothing may get between chain and sprocket.",
        ask="Are chain and sprockets covered?",
        why="A finger, a lace or a trouser leg is drawn in before anybody lets go.",
        places=_one("/drivetrain/chain_guard", lambda a: a.setup.drivetrain is not None and a.setup.drivetrain.kind == "chain"),
        title="The chain is not covered",
        because=lambda _: "A finger, a lace or a trouser leg is drawn in before anybody lets go.",
        instruction="Fit a guard over the upper run and both sprockets.",
        severity="caution",
        mend="Fit a chain guard",
    ),
    Question(
        key="mount",
        rule_id="drive.mount",
        station="gearing",
        stage="drive",
        principle="A homemade mount is tried before it is trusted.",
        ask="Is the motor's mount the maker's, or one made for this frame?",
        why="A homemade plate bends or cracks, and the chain or the motor lets go.",
        places=_one("/drivetrain/mount_homemade", _other_motor),
        title="A homemade motor mount",
        because=lambda _: "Nobody but its builder has tried whether it bears pull and shocks.",
        instruction="Steel of 5 mm or more, four bolts with lock nuts; look for cracks and play after the first five minutes and after every ride.",
        severity="caution",
        yes=False,
        no=True,
        safe=(False,),
    ),
    Question(
        key="cables",
        rule_id="wire.route",
        station="leads",
        stage="hookup",
        principle="A cable that rubs is a short that waits.",
        ask="Do all cables run clear of edges, steering, chain and wheel?",
        why="Over an edge or at the steering the insulation wears through in weeks.",
        places=_one("/vehicle/cables_clear", lambda a: a.setup.vehicle is not None and a.setup.bank is not None),
        title="A cable lies where it rubs",
        because=lambda a: f"Worn through it shorts {volts(a.full_v or 0.0)} to the frame, or pulls at the steering.",
        instruction="Lay it again: sleeve over edges, ties a hand's width from every bend, a free loop at the fork.",
        severity="caution",
        mend="Lay it clear and sleeve it",
    ),
    Question(
        key="stock_charger",
        rule_id="charge.stock",
        station="packs",
        stage="care",
        principle="Never an old charger on other packs.",
        ask="Are the stock charger and its socket gone from the machine?",
        why="Somebody will plug it in: made for other volts or chemistry, it overcharges the new packs.",
        places=_one("/vehicle/stock_charger_left", _other_packs),
        title="The stock charger would go into the new packs",
        because=lambda a: f"The new packs end at {volts(a.full_v or 0.0)}; the stock charger knows nothing of that.",
        instruction="Take the socket out or block it, label the charger, and put it away with the old battery.",
        gate="power",
        yes=False,
        no=True,
        labels=("Gone", "Still there"),
        safe=(False,),
        mend="Take socket and charger away",
        mended=False,
    ),
)


def _brake_words(have: Throttle | None, control: Controller | None) -> str:
    if have is not None and have.brake_cut_off_present is False:
        return "The lever has no sensor: with a stuck throttle brake and motor fight."
    if control is not None and not control.brake_cut_off_input:
        return "The controller has no input for the lever: with a stuck throttle brake and motor fight."
    return "The lever's signal goes nowhere: with a stuck throttle brake and motor fight."


def _fact(setup: Setup, question: Question, path: str) -> object:
    value = at(setup, path)
    if question.key == "brake_cut_off":
        have, control = setup.throttle, setup.controller
        if have is not None and have.brake_cut_off_present is False:
            return False
        if control is not None and not control.brake_cut_off_input and value is not None:
            return False
    if question.key == "held" and isinstance(value, Holding):
        return question.yes if SURE & set(value.by) else question.no
    return None if value == question.unknown else value


def _seen(looks: dict[str, Look], key: str) -> str:
    look = looks.get(key)
    return look.answer if look is not None else ""


def _key(question: Question, suffix: str) -> str:
    return f"{question.key}{suffix}"


def _answers(setup: Setup, question: Question, suffix: str, path: str) -> tuple[Answer, ...]:
    found = answers(setup, _key(question, suffix), path, yes=question.yes, no=question.no, labels=question.labels, unknown=question.unknown)
    if question.key != "brake_cut_off" or setup.throttle is None:
        return found
    # A lever that stops the motor has a sensor.
    yes = found[0].model_copy(update={"patch": [*found[0].patch, {"op": "add", "path": "/throttle/brake_cut_off_present", "value": True}]})
    return (yes, *found[1:])


def _open(question: Question) -> Callable[[Analysis], Iterator[Trip]]:
    """The rule of a question nobody has answered yet."""

    def check(a: Analysis) -> Iterator[Trip]:
        for suffix, path in question.places(a):
            key = _key(question, suffix)
            if _fact(a.setup, question, path) is not None or _seen(a.setup.looks, key) == "cannot tell":
                continue
            yield Trip(
                question.house(a) or question.severity,
                question.ask,
                question.why,
                "Look, and say what you saw.",
                path,
                place=suffix,
                gate=question.gate,
                question=key,
                answers=_answers(a.setup, question, suffix, path),
            )

    return check


def _missing(question: Question) -> Callable[[Analysis], Iterator[Trip]]:
    """The rule of what is missing, or of what nobody can tell."""

    def check(a: Analysis) -> Iterator[Trip]:
        for suffix, path in question.places(a):
            fact, key = _fact(a.setup, question, path), _key(question, suffix)
            told = fact is not None
            if (fact in question.safe) if told else _seen(a.setup.looks, key) != "cannot tell":
                continue
            doubt = "" if told else "Nobody could tell, so it counts as not there. "
            edits = (Edit(question.mend, _mending(question, path)),) if question.mend else ()
            yield Trip(
                question.house(a) or question.severity,
                question.title,
                doubt + question.because(a),
                question.instruction,
                path,
                edits,
                place=suffix,
                gate=question.missing_gate or question.gate if told else question.gate,
                question=key,
                answers=() if told else _answers(a.setup, question, suffix, path),
            )

    return check


def _mending(question: Question, path: str) -> Change:
    if question.key != "brake_cut_off":
        return put(path, question.mended)

    def change(document: Document) -> None:
        for place, value in (("throttle/brake_cut_off_present", True), ("throttle/brake_cut_off_wired", True)):
            put(place, value)(document)
        if document.get("controller"):
            document["controller"]["brake_cut_off_input"] = True

    return change


for _question in QUESTIONS:
    rule(f"look.{_question.key}", station=_question.station, stage=_question.stage, principle=_question.principle, needs="document")(_open(_question))
    rule(_question.rule_id, station=_question.station, stage=_question.stage, principle=_question.principle, needs="document")(_missing(_question))


def _full_already(packs: list[tuple[str, Pack]]) -> list[Document]:
    full = {"value": 1.0, "basis": "measured", "spread": None}
    return [{"op": "add", "path": f"{path}/charge", "value": full} for path, _ in packs]


def _parallel_unknown(bank: Bank | None) -> bool:
    if bank is None or len(bank.rows) < 2 or len({sum(unit.cells_in_series for unit in row.units) for row in bank.rows}) > 1:
        return False
    return any(unit.resting_v is None and unit.charge is None for row in bank.rows for unit in row.units)


@rule("look.parallel", station="packs", stage="power", principle="Rows side by side must agree in volts before they are joined.", needs="bank")
def parallel_unknown(a: Analysis) -> Iterator[Trip]:
    if not _parallel_unknown(a.setup.bank):
        return
    told = tuple(
        one.model_copy(update={"patch": [*_full_already(a.packs), one.patch[-1]] if one.answer == "yes" else one.patch[-1:]})
        for one in answers(a.setup, "parallel", "/bank/occupancy", labels=("All just charged full", "Not yet"))
    )
    yield Trip(
        "stop",
        "Are the packs equally full?",
        f"{len(a.setup.bank.rows) if a.setup.bank else 0} rows are joined side by side; the fuller one pushes current into the emptier one with nothing to hold it but a few milliohms.",
        "Charge all of them full on the same day, or measure each at rest and enter its volts.",
        "/bank/rows",
        gate="power",
        question="parallel",
        answers=told,
    )


@setup_rule("look.throttle_kind", station="controller", stage="drive", principle="A controller reads one kind of throttle.")
def throttle_kind(setup: Setup) -> Iterator[Trip]:
    control, have = setup.controller, setup.throttle
    if control is None or not control.reads_throttle or (have is not None and "unknown" not in (control.throttle, have.kind)):
        return
    known = next((kind for kind in (control.throttle, have.kind if have else "unknown") if kind != "unknown"), "hall")
    throttle = {"op": "add", "path": "/throttle/kind", "value": known} if have is not None else {"op": "add", "path": "/throttle", "value": {"kind": known}}
    both = [{"op": "add", "path": "/controller/throttle", "value": known}, throttle]
    words = {"hall": "three-wire Hall", "potentiometer": "a potentiometer", "switch": "a plain switch"}[known]
    told = tuple(
        one.model_copy(update={"patch": [*both, one.patch[-1]] if one.answer == "yes" else one.patch[-1:]})
        for one in answers(setup, "throttle_kind", "/controller/throttle", labels=(f"Both are {words}", "Not alike"))
    )
    yield Trip(
        "stop",
        "Do throttle and controller fit together?",
        "What kind of throttle the machine has, or the controller reads, is not known. The wrong one starts it at full speed.",
        "Look at the plugs: three wires with 5 V are a Hall throttle; measure ohms for a potentiometer. Then enter both.",
        "/throttle/kind",
        gate="power",
        question="throttle_kind",
        answers=told,
    )


def survey(a: Analysis) -> Iterator[Asked]:
    """Every question this machine raises, answered or not, in the order they are asked."""
    for question in QUESTIONS:
        for suffix, path in _raised(question, a):
            fact, key = _fact(a.setup, question, path), _key(question, suffix)
            look = a.setup.looks.get(key)
            told = None if fact is None else ("yes" if fact in _meaning_yes(question) else "no")
            yield Asked(
                key=key,
                ask=question.ask,
                why=question.why,
                gate=question.gate if question.severity == "stop" else None,
                answer=told or ("cannot tell" if look is not None and look.answer == "cannot tell" else None),
                good=fact is not None and fact in question.safe,
                by=look.by if look is not None else "",
                when=look.when if look is not None else "",
                answers=list(_answers(a.setup, question, suffix, path)),
            )


def _meaning_yes(question: Question) -> tuple[object, ...]:
    return (question.yes,) if question.key == "board" else question.safe


ALWAYS = {"held": "/bank/holding", "reach": "/cut_off/reach", "limiter_reach": "/throttle/limiter_reachable", "parked": "/vehicle/parking_brake"}
"""Questions whose answered fact has a rule of its own, so that they are no longer raised; the survey goes on listing them."""


def _raised(question: Question, a: Analysis) -> Places:
    found = list(question.places(a))
    path = ALWAYS.get(question.key)
    applies = APPLIES.get(question.key)
    if found or path is None or at(a.setup, path) is None or (applies is not None and not applies(a)):
        return found
    return [("", path)]


APPLIES: dict[str, Callable[[Analysis], bool]] = {"limiter_reach": _limiter_needed, "parked": lambda a: may_roll_off(a.setup)}
"""Of these, what is listed only on machines where it matters."""


@dataclass(frozen=True)
class Seen:
    """An answer that was given: its question and what was said."""

    key: str
    ask: str
    answer: str


def stamped(old: Setup | None, new: Setup, by: str, when: str) -> tuple[Setup, list[Seen]]:
    """A setup whose new answers carry who gave them and when, and those answers; whoever sends a document cannot sign for another.

    An answer counts as new where its question's fact or its "can't tell" is another than in the old setup.
    """
    before = {} if old is None else {asked.key: asked.answer for asked in survey(Analysis(old))}
    known = {} if old is None else old.looks
    looks, fresh = {key: look for key, look in new.looks.items() if key in known and look.answer == known[key].answer}, []
    asked_now = {asked.key: (asked.answer, asked.ask) for asked in survey(Analysis(new))}
    for key, (answer, ask) in asked_now.items():
        if answer is not None and answer != before.get(key):
            looks[key] = Look(answer=answer, by=by, when=when)
            fresh.append(Seen(key, ask, answer))
        elif key in known and answer is not None:
            looks[key] = known[key]
    for key, look in new.looks.items():
        # Questions outside the list of facts, such as whether rows are equally full, are known by their answer alone.
        if key not in asked_now and key not in looks:
            looks[key] = look.model_copy(update={"by": by, "when": when})
            fresh.append(Seen(key, key.replace("_", " "), look.answer))
    return new.model_copy(update={"looks": looks}), fresh
