"""A change that was tried, as it is offered: its patch and what it costs."""

from __future__ import annotations

import jsonpatch

from gecko.analysis.whole import Analysis
from gecko.answers.evaluation import CheckedFix, Price


def checked_fix(label: str, now: Analysis, then: Analysis) -> CheckedFix:
    """The change from one setup to another with its JSON Patch and its price. Whether it holds is asked before."""
    before, after = now.setup.model_dump(mode="json"), then.setup.model_dump(mode="json")
    # Only the parts that differ are compared field by field: most of a document is the same.
    for key in [key for key in before if key in after and before[key] == after[key]]:
        del before[key], after[key]
    patch = jsonpatch.make_patch(before, after).patch
    return CheckedFix(label=label, patch=list(patch), price=price(now, then))


def price(now: Analysis, then: Analysis) -> Price:
    """What a change brings or costs: differences of top speed, run time and the bank's nominal volts."""
    volts = then.nominal_v - now.nominal_v if then.nominal_v is not None and now.nominal_v is not None else None
    if now.machine is None or then.machine is None:
        return Price(top_speed_m_s=None, run_time_s=None, nominal_v=volts)
    return Price(
        top_speed_m_s=float(then.top) - float(now.top),
        run_time_s=float(then.ride.run_time_s) - float(now.ride.run_time_s),
        nominal_v=volts,
    )
