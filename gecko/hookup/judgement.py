"""What a measured value says about a step of the hookup: whether it fits, and if not what to make safe, the likeliest causes and the next reading."""

from __future__ import annotations

from gecko.answers.evaluation import Out
from gecko.hookup.joined import PLUS_BAR
from gecko.hookup.shape import Reading


class Judgement(Out):
    """What a measured value says about a step."""

    fits: bool
    headline: str
    make_safe: str = ""
    causes: list[str] = []
    next_reading: str = ""


def judge(reading: Reading, measured: float | None) -> Judgement:
    """What a measured value (None: the meter showed OL, open) says, likeliest cause first."""
    if measured is None:
        if reading.kind == "open" or (reading.kind == "ohms" and reading.high is None):
            return Judgement(fits=True, headline="In range: open, as it should be." if reading.kind == "open" else "In range: not a short.")
        return Judgement(
            fits=False,
            headline="Open where it should be joined.",
            make_safe="Fuses out, cut-off off.",
            causes=["A crimp or plug that is not home", "A broken lead", "The meter on the wrong range or a tip that does not touch"],
            next_reading="Measure each lead from end to end: near 0 Ω.",
        )
    low, high = reading.low, reading.high
    if (low is None or measured >= low) and (high is None or measured <= high):
        return Judgement(fits=True, headline="In range.")
    if reading.kind == "volts":
        return _judge_volts(reading, measured)
    if low is not None and measured < low:
        return Judgement(
            fits=False,
            headline="Nearly a short." if measured < 5 else "Lower than it should be.",
            make_safe="Do not fit any fuse. Packs out.",
            causes=[
                "Plus and minus touch somewhere: a pinched lead or a whisker in a plug",
                "A part that is wired across instead of in line",
                "A controller whose output stage has failed",
            ],
            next_reading="Unplug the load and measure again: if it opens now, the load is the short.",
        )
    return Judgement(
        fits=False,
        headline="More ohms than a good joint has.",
        make_safe="Leave the fuses out.",
        causes=["A weak crimp or a corroded plug", "A lead of a thinner gauge than planned", "Tips that do not bite: press harder and measure again"],
        next_reading="Halve the run: measure each part of it alone.",
    )


_SWITCHED_OFF = "A pack's protection has switched off: read its cells first; only if none is below its least volts put it on its charger for a moment"
REVERSED_V = -0.2
"""From here down a reading is one of reversed poles, not of a meter's doubt. [V]"""
_REVERSED = ("The meter's tips are swapped", "Plus and minus of a pack or lead are swapped", "A lead's colour misled: go by the marking")


def _judge_volts(reading: Reading, measured: float) -> Judgement:
    expected = reading.expected or 0.0
    less = reading.low is not None and measured < reading.low
    own = reading.low_means if less else reading.high_means
    if measured < REVERSED_V < -REVERSED_V < expected:
        return Judgement(
            fits=False,
            headline="Reversed.",
            make_safe="Do not go on. Packs out, fuse out.",
            causes=[*(cause for cause in own if "changed over" in cause), *_REVERSED],
            next_reading="Measure the pack's own terminals by their marking.",
        )
    if own:
        return Judgement(
            fits=False,
            headline="Lower than it should be." if less else "Higher than it should be.",
            make_safe="Cut-off off, then look.",
            causes=own,
            next_reading="The same volts one plug nearer to where they come from.",
        )
    if expected < 0.5:
        if reading.black == PLUS_BAR:
            return Judgement(
                fits=False,
                headline=f"They differ by {abs(measured):.2f} V: do not join them yet.",
                make_safe="Keep them apart.",
                causes=["One pack is fuller than the other", "One pack has a different cell count", "Reversed tips with one pack reversed"],
                next_reading="Charge both on their own chargers, rest an hour, measure again.",
            )
        return Judgement(
            fits=False,
            headline=f"{measured:.1f} V where there should be none.",
            make_safe="Cut-off off, packs out, now.",
            causes=["A pack or fuse is still in", "The cut-off is on, or wired around", "Charged capacitors: wait a minute and measure again"],
            next_reading="Measure across the cut-off.",
        )
    if measured < 0.3 * expected:
        return Judgement(
            fits=False,
            headline="Almost no volts.",
            make_safe="Cut-off off.",
            causes=[
                "A fuse, plug or cut-off is open",
                "A pack's protection has switched off: read its cells first, and only if none is below its least volts put it on its charger for a moment",
                "A crimp that lets go",
            ],
            next_reading="Follow the plus lead from the packs: the last point with full volts is before the open one.",
        )
    if reading.low is not None and measured < reading.low:
        return Judgement(
            fits=False,
            headline="Lower than the packs should give.",
            make_safe="Do not ride on it.",
            causes=["The packs are nearly empty: charge them", "One pack less in series than planned", "A dead cell: one pack lower than its twin"],
            next_reading="Measure each pack alone and compare.",
        )
    return Judgement(
        fits=False,
        headline="Higher than the packs should give.",
        make_safe="Do not connect the load.",
        causes=["One pack more in series than planned", "Packs fresh off a charger: let them rest an hour", "The meter's own battery is low: it reads high"],
        next_reading="Measure each pack alone and add up.",
    )
