"""The 90 % ranges against truths drawn one by one: every figure off by its own spread, the whole machine evaluated at what came out."""

from __future__ import annotations

import math
import random
from typing import Any
from unittest import TestCase

from gecko.analysis.riding import Riding
from gecko.document.setup import Setup, load_setup
from gecko.machine.resolve import resolve
from gecko.plans.arrangements import typical_setup
from gecko.plans.ranges import ranges
from gecko.reference.tables import families
from gecko.tests.counts import tried
from gecko.tests.machines import named, safe_bike

TRUTHS = tried(1000, 150)
SCATTER = 0.0 if TRUTHS == 1000 else 3.0 * math.sqrt(0.9 * 0.1 / TRUTHS)
"""Three standard deviations of a share counted over fewer truths. [1]"""
SPREADS = {"measured": 0.02, "nameplate": 0.08, "assumed": 0.20}


def told(setup: Setup) -> dict[str, Any]:
    """A setup's document with every figure that was filled in for it written out, so that each can be off."""
    document = setup.model_dump(mode="json")
    for path, figure in resolve(setup).figures.items():
        place: Any = document
        steps = path.strip("/").split("/")
        for step in steps[:-1]:
            key: Any = int(step) if isinstance(place, list) else step
            if isinstance(place, dict) and place.get(key) is None:
                place[key] = {"kind": "chain"} if key == "drivetrain" else {}
            place = place[key]
        if isinstance(place, dict) and not isinstance(place.get(steps[-1]), dict):
            place[steps[-1]] = {"value": figure.value, "basis": figure.basis, "spread": figure.spread}
    return _alike(setup.model_dump(mode="json"), document)


def _alike(before: dict[str, Any], after: dict[str, Any]) -> dict[str, Any]:
    """Packs and rows that were alike stay alike: what was written into the first of them goes into all."""
    for was, row in zip(before["bank"]["rows"], after["bank"]["rows"], strict=True):
        for u, unit in enumerate(was["units"]):
            row["units"][u] = row["units"][was["units"].index(unit)]
    for r, was in enumerate(before["bank"]["rows"]):
        after["bank"]["rows"][r] = after["bank"]["rows"][before["bank"]["rows"].index(was)]
    return after


def truth(document: dict[str, Any], chance: random.Random) -> Setup:
    """One machine as it might truly be: each figure that is sampled times a log-normal, a drive's or motor's efficiency by its loss."""
    exact = {"max_v", "nominal_v", "undervoltage_v", "cap_m_s", "trip_a", "trip_delay_s", "peak_10s_a", "continuous_a", "protection_low_v", "rating_a"}
    exact |= {"dc_volts_v", "delay_s", "holder_a", "idle_a", "max_load_kg", "max_rpm", "load_limit_nm", "peukert_exponent"}

    def off(node: Any, name: str, path: str) -> Any:
        if isinstance(node, list):
            if name == "rows":
                # Packs of one kind are off together, as rows that are alike are one row.
                first = off(node[0], "0", f"{path}/0")
                return [first if row == node[0] else off(row, "0", path) for row in node]
            if name == "units":
                first = off(node[0], "0", f"{path}/0")
                return [first if unit == node[0] else off(unit, "0", path) for unit in node]
            return [off(part, name, path) for part in node]
        if not isinstance(node, dict):
            return node
        if "value" in node and "basis" in node:
            if name in exact or path.startswith(("/guard/volts_v", "/stock")):
                return node
            factor = math.exp((SPREADS[node["basis"]] if node.get("spread") is None else node["spread"]) * chance.gauss(0, 1))
            if name == "efficiency" and node["value"] < 1:
                return {**node, "value": min(max(1 - (1 - node["value"]) * factor, 0.3), 0.99)}
            return node if name == "efficiency" else {**node, "value": node["value"] * factor}
        return {key: off(part, key, f"{path}/{key}") for key, part in node.items()}

    return load_setup(off(document, "", ""))


def outcomes(setup: Setup) -> dict[str, float]:
    a = Riding(setup)
    return {
        "top_speed_m_s": float(a.top),
        "run_time_s": float(a.ride.run_time_s),
        "distance_m": float(a.ride.distance_m),
        "hill_grade": float(a.hill.grade),
        "peak_a": float(a.peak_a),
    }


def setups() -> dict[str, Setup]:
    """Eight machines: the typical one of each family, and a bike whose figures are mostly off a plate."""
    found = {family: load_setup(typical_setup(family)) for family in sorted(families())}
    return {**found, "bike": load_setup(safe_bike(vehicle__mass_kg=named(28, "measured")))}


class Coverage(TestCase):
    """Each range holds between 85 and 95 % of a thousand truths."""

    apart = True

    def holds(self, names: list[str]) -> None:
        chance = random.Random(3)
        for name in names:
            setup = setups()[name]
            said, document = ranges(setup).outcomes, told(setup)
            inside = dict.fromkeys(outcomes(setup), 0.0)
            for _ in range(TRUTHS):
                for outcome, value in outcomes(truth(document, chance)).items():
                    low, high = said[outcome].low, said[outcome].high
                    # Many truths may lie on one value, such as a hill no motor of them holds: on the edge it counts half.
                    inside[outcome] += 0.5 if value == low else float(low < value <= high)
            for outcome, count in inside.items():
                with self.subTest(name, outcome=outcome):
                    self.assertGreaterEqual(count / TRUTHS, 0.85 - SCATTER)
                    self.assertLessEqual(count / TRUTHS, min(0.95 + SCATTER, 1.0))

    def test_first_four(self) -> None:
        self.holds(sorted(setups())[:4])

    def test_the_other_four(self) -> None:
        self.holds(sorted(setups())[4:])
