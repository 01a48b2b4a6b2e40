"""Whether a measured run agrees with what was predicted for it."""

from __future__ import annotations

from gecko.answers.evaluation import Out
from gecko.plans.trials.prediction import Prediction
from gecko.plans.trials.reduction import Reduced

CLOSE = 0.05
"""A run no further off than this fits, where its interval reaches the likely band; further off it is said how far. [1] This project's choice."""


class VerdictOut(Out):
    """How a run stands to its prediction."""

    likely: bool
    """Its 95 % interval reaches the band of 5 to 95 % of the likely cases."""
    off: float
    """Measured over predicted, less one. [1]"""
    fits: bool


def judge_run(measured: Reduced, predicted: Prediction) -> VerdictOut:
    """A run beside its prediction [m/s both]; a prediction that it stands still is fitted only by standing still.

    >>> judge_run(Reduced(4.0, 0.2, 2), Prediction(speed_m_s=4.1, low_m_s=3.5, high_m_s=4.6)).fits
    True
    """
    low, high = measured.speed_m_s - measured.half_width_m_s, measured.speed_m_s + measured.half_width_m_s
    likely = high >= predicted.low_m_s and low <= predicted.high_m_s
    off = measured.speed_m_s / predicted.speed_m_s - 1.0 if predicted.speed_m_s > 0.0 else 0.0
    return VerdictOut(likely=likely, off=off, fits=likely and abs(off) < CLOSE)
