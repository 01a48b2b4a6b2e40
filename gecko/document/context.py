"""What surrounds a setup: the house rules, and the baseline it is compared with."""

from __future__ import annotations

import json
from dataclasses import asdict, dataclass, field
from functools import cached_property
from typing import Annotated, Literal

from pydantic import Field

from gecko.document.rack.about import RackFact
from gecko.document.setup import Setup


@dataclass(frozen=True)
class HouseRules:
    """Which school speaks where practitioners differ. Defaults are the careful ones."""

    wire_table: Literal["vehicle", "building"] = "vehicle"
    wire_school: Literal["careful", "common"] = "careful"
    sole_main_fuse: bool = True
    guard: Literal["module", "voltmeter"] = "module"
    joints: Literal["made fast", "any"] = "made fast"
    brake_cut_off: Literal["keep", "relaxed"] = "keep"
    overvolt_limit: Annotated[float, Field(ge=1, le=3, allow_inf_nan=False)] = 1.5


@dataclass(frozen=True)
class Context:
    """What surrounds a setup: the baseline its gains are measured against, whether it is the baseline, the machine as it was found (what
    brakes and gears were made for), house rules, what the garage's rack knows of the parts in it, and which tries are over.

    Without `stock` the baseline stands in for it. Making a changed setup the baseline must not soften anything, so the two are apart.
    """

    baseline: Setup | None = None
    is_baseline: bool = False
    stock: Setup | None = None
    house: HouseRules = field(default_factory=HouseRules)
    rack: tuple[RackFact, ...] = ()
    tried: tuple[str, ...] = ()
    """Keys of the parts that were tied on for one try, and whose try was ridden."""

    @cached_property
    def baseline_json(self) -> str:
        """The baseline as JSON text, empty without one: what two contexts are told apart by."""
        return "" if self.baseline is None else self.baseline.model_dump_json()

    @cached_property
    def words(self) -> str:
        """All of it as JSON text: what two contexts are told apart by."""
        known = [[fact.key, fact.kind, fact.label, fact.letter, fact.about.model_dump_json()] for fact in self.rack]
        return json.dumps([self.baseline_json, self.is_baseline, self.stock_json, asdict(self.house), known, self.tried], sort_keys=True)

    @cached_property
    def stock_json(self) -> str:
        """The machine as found as JSON text, empty where nobody knows it."""
        if self.stock is not None:
            return self.stock.model_dump_json()
        return "" if self.is_baseline else self.baseline_json
