"""What surrounds a setup: the house rules, and the baseline it is compared with."""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cached_property
from typing import Literal

from gecko.setup import Setup


@dataclass(frozen=True)
class HouseRules:
    """Which school speaks where practitioners differ. Defaults are the careful ones."""

    wire_table: Literal["vehicle", "building"] = "vehicle"
    wire_school: Literal["careful", "common"] = "careful"
    sole_main_fuse: bool = True
    guard: Literal["module", "voltmeter"] = "module"
    joints: Literal["made fast", "any"] = "made fast"
    brake_cut_off: Literal["keep", "relaxed"] = "keep"
    overvolt_limit: float = 1.5


@dataclass(frozen=True)
class Context:
    """What surrounds a setup: the baseline it is compared with, whether it is the baseline, house rules."""

    baseline: Setup | None = None
    is_baseline: bool = False
    house: HouseRules = field(default_factory=HouseRules)

    @cached_property
    def baseline_json(self) -> str:
        """The baseline as JSON text, empty without one: what two contexts are told apart by."""
        return "" if self.baseline is None else self.baseline.model_dump_json()
