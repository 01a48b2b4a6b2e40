"""Which phase and which Hall: the order of the three leads and three signals a brushless motor runs cleanly with, found in few tries.

The controller reads the Halls and feeds the phases by them. Of the 36 ways to join them six match: three turn the wheel one way, three the
other. In the rest the field stands a third of a turn off (it turns, but weakly and with many amps) or runs against the rotor (it jerks).
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache
from itertools import product
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from gecko.answers.evaluation import Out
from gecko.document.parts.hookup import Order, OrderTrial, WheelDid

ORDERS: tuple[Order, ...] = ("ABC", "ACB", "BAC", "BCA", "CAB", "CBA")
MOST_TO_SMOOTH = 6
MOST_TO_FORWARD, MOST_UNPAIRED = 7, 9
"""So many tries at most until it runs smoothly, and until it does so forward: where the controller's own phase and Hall of one colour belong
together, and where they do not. Only "smooth" has to be told from all else for that; who tells rough from jerking as well needs two fewer."""
TELLS = 0.8
PAIRED, EQUAL = 0.9, 0.3
"""How often somebody tells rough from jerking rightly; how often a controller's phase and Hall of one colour belong together, and how often
equal colours of motor and controller match by themselves. [1]
Source: this project's assumptions; they decide what is tried first, never what is possible."""

Moves = Literal["phases", "halls"]
_Places = tuple[int, int, int]
_Pair = tuple[Order, Order]


class Suggestion(Out):
    """What to join next, or what is found."""

    phases: Order
    halls: Order
    """The order to join next; where it is found, the one to leave."""
    found: bool
    """Whether it runs smoothly and forward as it is."""
    chance: float
    """How likely this one runs smoothly. [1]"""
    left: int
    """How many orders may still be the right one, with what is not moved left as it is."""
    tries: int
    most: int
    """Tries so far, and in all at most."""
    swaps: list[str]
    """What to move from the last one tried, in words."""
    why: str


@dataclass(frozen=True)
class _Truth:
    """What nobody sees: the phase each Hall wire of the motor belongs to, the Hall input each phase lead of the controller belongs to, and
    whether orders that go round as A, B, C do run forward."""

    motor: _Places
    controller: _Places
    round_is_forward: bool

    @property
    def prior(self) -> float:
        """How likely it is beforehand. [1]"""
        pairs = PAIRED if self.controller == (0, 1, 2) else (1.0 - PAIRED) / 5.0
        return pairs * (EQUAL if self.motor == (0, 1, 2) else (1.0 - EQUAL) / 5.0)

    def does(self, phases: _Places, halls: _Places) -> WheelDid:
        """What the wheel does with an order."""
        belongs = tuple(self.motor[halls[self.controller[i]]] for i in range(3))
        apart = tuple(phases.index(phase) for phase in belongs)
        if apart == (0, 1, 2):
            return "smooth forward" if goes_round(phases) == self.round_is_forward else "smooth backward"
        return "rough" if goes_round(apart) else "jerks"


_PLACES: tuple[_Places, ...] = ((0, 1, 2), (0, 2, 1), (1, 0, 2), (1, 2, 0), (2, 0, 1), (2, 1, 0))
_TRUTHS = tuple(_Truth(motor, controller, forward) for motor, controller, forward in product(_PLACES, _PLACES, (True, False)))
_DID: tuple[WheelDid, ...] = ("smooth forward", "smooth backward", "rough", "jerks")
_SEEN_AS = np.array([[1.0, 0.0, 0.0, 0.0], [0.0, 1.0, 0.0, 0.0], [0.0, 0.0, TELLS, 1.0 - TELLS], [0.0, 0.0, 1.0 - TELLS, TELLS]])
"""How likely what a wheel does (row) is called so (column). [1]"""
_DOUBT_BITS = np.array([0.0, 0.0, 1.0, 1.0]) * -(TELLS * math.log2(TELLS) + (1.0 - TELLS) * math.log2(1.0 - TELLS))


@cache
def _does(phases: Order, halls: Order) -> NDArray[np.int_]:
    """What an order does under each truth, as a place in `_DID`."""
    return np.array([_DID.index(truth.does(_places(phases), _places(halls))) for truth in _TRUTHS])


def goes_round(order: tuple[int, ...]) -> bool:
    """Whether an order of 0, 1, 2 goes round as they do; the others swap two.

    >>> goes_round((1, 2, 0)), goes_round((1, 0, 2))
    (True, False)
    """
    return order in ((0, 1, 2), (1, 2, 0), (2, 0, 1))


def next_order(trials: Sequence[OrderTrial], moves: Moves = "phases") -> Suggestion:
    """What to join next after these tries, moving the phase leads or the Hall wires alone until it runs smoothly.

    Until then the order that tells most, in bits by the chances [1], is named, never one that is ruled out.
    """
    weights = np.array([truth.prior for truth in _TRUTHS])
    for trial in trials:
        if trial.outcome != "nothing":
            weights = weights * _SEEN_AS[_does(trial.phases, trial.halls), _DID.index(trial.outcome)]
    last: _Pair = (trials[-1].phases, trials[-1].halls) if trials else ("ABC", "ABC")
    if not weights.any():
        return _told(last, last, trials, 0.0, 0, "These observations cannot all be right: no order of the wires does this. Take the doubtful one back and try it again.")
    weights = weights / weights.sum()
    good = next((trial for trial in trials if trial.outcome == "smooth forward"), None)
    if good is not None:
        return _told((good.phases, good.halls), last, trials, 1.0, 1, "It runs smoothly and forward: leave it so, and note the colours.", found=True)
    backward = next((trial for trial in trials if trial.outcome == "smooth backward"), None)
    offered: list[_Pair] = [(order, last[1]) if moves == "phases" else (last[0], order) for order in ORDERS]
    if backward is not None:
        # Two phases changed over, and the two Halls that belong: which two those are shows by the tries.
        offered = [(_swapped(backward.phases), halls) for halls in ORDERS]
    chances = [float(weights[_does(*order) < 2].sum()) for order in offered]
    possible = [(order, chance) for order, chance in zip(offered, chances, strict=True) if chance > 0.0]
    order, chance = max(possible, key=lambda one: (round(_tells_bits(one[0], weights), 9), one[1], -_moved(last, one[0])))
    if backward is not None:
        why = "Smooth, but backward: two phases change over together with the two Halls that belong to them."
    elif len(possible) == 1:
        why = "Only this order is left."
    elif not trials:
        why = "Begin with equal colours joined; it is the likeliest."
    else:
        why = f"It tells most of the {len(possible)} orders that are left."
    return _told(order, last if trials else order, trials, chance, len(possible), why)


def _tells_bits(order: _Pair, weights: NDArray[np.float64]) -> float:
    """How much trying an order tells by the chances of each truth [1], less what somebody may mistake in it. [bit]"""
    does = _does(*order)
    shares = weights @ _SEEN_AS[does]
    return float(-np.sum(shares * np.log2(np.where(shares > 0.0, shares, 1.0))) - weights @ _DOUBT_BITS[does])


def _told(order: _Pair, last: _Pair, trials: Sequence[OrderTrial], chance: float, left: int, why: str, *, found: bool = False) -> Suggestion:
    swaps = [*_words("phase lead", last[0], order[0]), *_words("Hall wire", last[1], order[1])]
    most = MOST_UNPAIRED if any(trial.outcome == "smooth backward" for trial in trials) and len(trials) >= MOST_TO_FORWARD else MOST_TO_FORWARD
    return Suggestion(phases=order[0], halls=order[1], found=found, chance=chance, left=left, tries=len(trials), most=most, swaps=swaps, why=why)


def _words(wire: str, before: Order, after: Order) -> list[str]:
    """What to move, in words."""
    return [f"Controller {wire} {place} to motor {wire} {b} (it was on {a})" for place, a, b in zip("ABC", before, after, strict=True) if a != b]


def _moved(before: _Pair, after: _Pair) -> int:
    return sum(a != b for one, other in zip(before, after, strict=True) for a, b in zip(one, other, strict=True))


def _places(order: Order) -> _Places:
    a, b, c = ("ABC".index(letter) for letter in order)
    return a, b, c


def _swapped(order: Order) -> Order:
    """The first two changed over."""
    turned: dict[Order, Order] = {"ABC": "BAC", "BAC": "ABC", "ACB": "CAB", "CAB": "ACB", "BCA": "CBA", "CBA": "BCA"}
    return turned[order]
