"""The eight solved machines: an independent solution by root finding and adaptive integration."""

from __future__ import annotations

import json
import re
from pathlib import Path
from typing import Any
from unittest import TestCase

from gecko.cases.solve import solve_case

FOLDER = Path(__file__).parent / "cases"

# Which tolerance of a case file holds for a place in `expected`, first match wins.
RULES: tuple[tuple[str, str, str], ...] = (
    (r"/derived/joining.*/soc", "absolute", "grade_absolute"),
    (r"/derived/joining", "relative", "run_time_relative"),
    (r"/derived/", "relative", "derived_relative"),
    (r"/operating_points/.*/(motor_a|pack_a|duty)", "relative", "operating_point_current_relative"),
    (r"/operating_points/.*volts", "relative", "operating_point_volts_relative"),
    (r"/operating_points/", "relative", "derived_relative"),
    (r"soc_end_by_unit", "absolute", "grade_absolute"),
    (r"(grade|share_at_which|margin|grip_over)", "absolute or relative", "grade_absolute"),
    (r"winding_reaches|time_to_130c", "relative", "time_to_temperature_relative"),
    (r"(_c|/600_s_c|winding_case_at.*)(/\d)?$", "temperature", ""),
    (r"/launch.*(time_s)", "relative", "launch_time_relative"),
    (r"/launch.*(distance)", "relative", "launch_distance_relative"),
    (r"/stop_and_go_lap/.*lap_time", "relative", "launch_time_relative"),
    (r"rms", "relative", "rms_current_relative"),
    (r"/stop/.*distance", "relative", "stop_distance_relative"),
    (r"/cruise/(run_time|distance|pack_ah)", "relative", "run_time_relative"),
    (r"energy|wh_per_km", "relative", "energy_relative"),
    (r"nuisance", "relative", "nuisance_sum_relative"),
    (r"volts", "relative", "volts_relative"),
    (r"(_a|duty|acceleration|force|grip)", "relative", "current_relative"),
    (r"longest_opening_over_wire_time", "relative", "time_to_temperature_relative"),
    (r"", "relative", "speed_relative"),
)


def differences(expected: Any, found: Any, tolerances: dict[str, float], ambient: float, path: str = "") -> list[str]:
    """Places where a solution is outside of its tolerance."""
    if path.endswith("/infeasible_examples"):
        cells = {(c["type"], c["dc_volts_v"], c["rating_a"], c["awg"]): c for c in found}
        return [d for c in expected for d in differences(c, cells[(c["type"], c["dc_volts_v"], c["rating_a"], c["awg"])], tolerances, ambient, path + "/cell")]
    if isinstance(expected, dict):
        return [d for k, v in expected.items() for d in differences(v, found[k], tolerances, ambient, f"{path}/{k}")]
    if isinstance(expected, list) and all(isinstance(e, str) for e in expected):
        return [] if sorted(expected) == sorted(found) else [f"{path}: {expected} but {found}"]
    if isinstance(expected, list):
        if found is None or len(expected) != len(found):
            return [f"{path}: {expected} but {found}"]
        return [d for i, (e, f) in enumerate(zip(expected, found, strict=True)) for d in differences(e, f, tolerances, ambient, f"{path}/{i}")]
    if isinstance(expected, bool | str) or expected is None or found is None:
        return [] if expected == found else [f"{path}: {expected} but {found}"]
    return [] if close(float(expected), float(found), path, tolerances, ambient) else [f"{path}: {expected} but {found}"]


def close(expected: float, found: float, path: str, tolerances: dict[str, float], ambient: float) -> bool:
    """Whether a number is within the tolerance that holds for its place."""
    kind, name = next((kind, name) for pattern, kind, name in RULES if re.search(pattern, path))
    gap = abs(expected - found)
    if gap <= 1e-6:
        return True
    if kind == "temperature":
        rise = max(abs(expected - ambient), 0.0)
        return gap <= max(tolerances["temperature_rise_relative"] * rise, tolerances["temperature_absolute_k"])
    if kind == "absolute":
        return gap <= tolerances[name]
    if kind == "absolute or relative" and gap <= tolerances[name]:
        return True
    return gap <= tolerances.get("current_relative" if kind == "absolute or relative" else name, 0.0) * abs(expected)


class SolvedMachines(TestCase):
    """Everything under `expected`, within the tolerances of each file."""

    maxDiff = None

    def test_every_machine_within_its_tolerances(self) -> None:
        files = sorted(FOLDER.glob("*.json"))
        self.assertEqual(len(files), 8)
        for file in files:
            case = json.loads(file.read_text(encoding="utf-8"))
            with self.subTest(case["id"]):
                found = solve_case(case)
                self.assertEqual(differences(case["expected"], found, case["tolerances"], case["inputs"]["ambient_c"]), [])

    def test_the_comparison_itself_sees_a_change(self) -> None:
        case = json.loads((FOLDER / "scooter-lfp.json").read_text(encoding="utf-8"))
        found = solve_case(case)
        found["top_speed_level"]["s=1"]["speed_m_s"] *= 1.006
        found["hill"]["ends_by"] = "traction"
        wrong = differences(case["expected"], found, case["tolerances"], 25.0)
        self.assertEqual([w.split(":")[0] for w in wrong], ["/top_speed_level/s=1/speed_m_s", "/hill/ends_by"])
