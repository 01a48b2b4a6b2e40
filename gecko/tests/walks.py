"""Random walks over documents: the steps a person takes, slips of the unit among them, from one readable document to the next."""

from __future__ import annotations

import copy
from collections.abc import Iterator
from random import Random
from typing import Any

from pydantic import ValidationError

from gecko.common.errors import GeckoError
from gecko.document.setup import Setup, json_schema, load_setup
from gecko.plans.arrangements import typical_setup
from gecko.reference.tables import families
from gecko.tests.machines import safe_bike

Document = dict[str, Any]
Schema = dict[str, Any]
Path = tuple[str | int, ...]

SLIPS = (10.0, 1000.0, 0.1, 0.001, 0.0, -1.0, 1e6, 1e-6, 1.3, 0.7)
"""What a typed number may be off by: decimal places, milli for whole, nothing, a sign, an honest change."""

LIMITS = ((("minimum", "exclusiveMinimum"), -1e3), (("maximum", "exclusiveMaximum"), 1e3))
"""Where a schema says how small and how large, and what is drawn between where it does not."""

ANEW = 0.04
"""Share of the steps after which the walk begins anew at another machine. [1]"""

WILD = 0.1
"""Share of the documents drawn from the schema alone, as no person would write them. [1]"""


class Walk:
    """One walk. Two of the same seed take the same way."""

    def __init__(self, seed: int) -> None:
        self._random = Random(seed)
        self._schema = json_schema()
        self._defs: dict[str, Schema] = self._schema["$defs"]
        machines = [typical_setup(family, volts) for family in families() for volts in (None, 24.0)]
        self._starts = [load_setup(one).model_dump(mode="json") for one in [*machines, safe_bike()]]

    def documents(self) -> Iterator[Setup]:
        """Readable documents, one step after the other, without end."""
        now: Document | None = None
        while True:
            if now is None or self._random.random() < ANEW:
                now = copy.deepcopy(self._random.choice(self._starts))
            following = self._drawn(self._schema) | {"version": 1} if self._random.random() < WILD else self._step(now)
            try:
                setup = load_setup(following)
            except (ValidationError, GeckoError):
                # Refused with a sentence at its field: the person types something else.
                continue
            now = following
            yield setup

    def _branches(self, schema: Schema) -> list[Schema]:
        if "$ref" in schema:
            schema = self._defs[schema["$ref"].rsplit("/", 1)[-1]]
        return [branch for one in schema["anyOf"] for branch in self._branches(one)] if "anyOf" in schema else [schema]

    def _drawn(self, schema: Schema, depth: int = 0) -> Any:
        """A value the schema lets through."""
        pick, schema = self._random, self._random.choice(self._branches(schema))
        if "const" in schema:
            return schema["const"]
        if "enum" in schema:
            return pick.choice(schema["enum"])
        kind = schema.get("type")
        if kind in ("number", "integer"):
            low, high = (next((float(schema[key]) for key in keys if key in schema), other) for keys, other in LIMITS)
            value: float = pick.choice([low, high, pick.uniform(low, high), low + (high - low) * 10 ** pick.uniform(-6, 0)])
            return int(value) if kind == "integer" else value
        if kind == "array":
            least, most = schema.get("minItems", 0), schema.get("maxItems", 4)
            return [self._drawn(schema.get("items", {}), depth + 1) for _ in range(least if depth > 6 else min(most, max(least, pick.randint(0, 3))))]
        if kind == "object":
            wanted = schema.get("required", [])
            return {key: self._drawn(inner, depth + 1) for key, inner in schema.get("properties", {}).items() if key in wanted or (depth < 6 and pick.random() < 0.3)}
        return {"boolean": pick.random() < 0.5, "string": pick.choice(["", "x", "two words"])}.get(str(kind))

    def _places(self, value: Any, at: Path = ()) -> Iterator[Path]:
        inner = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
        for key, one in inner:
            yield (*at, key)
            yield from self._places(one, (*at, key))

    def _schema_at(self, path: Path) -> Schema:
        found = [self._schema]
        for key in path:
            branches = [branch for one in found for branch in self._branches(one)]
            found = [
                branch["items"] if isinstance(key, int) else branch["properties"][key] for branch in branches if "items" in branch or key in branch.get("properties", {})
            ]
        return found[0] if found else {}

    def _step(self, document: Document) -> Document:
        """One thing changed: a field filled in, slipped, emptied or chosen anew, an entry of a list doubled or taken out."""
        pick, changed = self._random, copy.deepcopy(document)
        *inside, last = path = pick.choice(list(self._places(changed)))
        holder: Any = changed
        for key in inside:
            holder = holder[key]
        value = holder[last]
        if isinstance(value, dict) and pick.random() < 0.5:
            fields: dict[str, Schema] = next((branch["properties"] for branch in self._branches(self._schema_at(path)) if branch.get("properties")), {})
            if fields:
                field = pick.choice(sorted(fields))
                value[field] = self._drawn(fields[field], len(path))
        elif isinstance(value, bool) or value is None or isinstance(value, str):
            holder[last] = self._drawn(self._schema_at(path), len(path))
        elif isinstance(value, int | float):
            holder[last] = type(value)(value * pick.choice(SLIPS)) if pick.random() < 0.8 else self._drawn(self._schema_at(path), len(path))
        elif isinstance(value, list) and value and pick.random() < 0.5:
            value.append(copy.deepcopy(pick.choice(value)))
        elif isinstance(value, list) and value:
            value.pop(pick.randrange(len(value)))
        else:
            holder[last] = None
        return changed
