"""Requests made from the server's own list of addresses: every method and path with bodies its schema lets through, and with spoilt ones."""

from __future__ import annotations

import json
import random
import re
from collections.abc import Iterator
from copy import deepcopy
from dataclasses import dataclass
from typing import Any

ODD: tuple[Any, ...] = (
    None,
    True,
    0,
    -1,
    1e308,
    -1e308,
    1e-308,
    2**53,
    "",
    " ",
    "x" * 5000,
    "é\u0000",
    "<b>",
    [],
    {},
    [[]],
    {"a": {"b": []}},
    "9999-12-31T23:59:59Z",
    "NaN",
)
"""What is put where something else belongs."""

ODD_IDS = ("0", "-1", "999999", "9" * 30, "x", "%00", "..", "")


@dataclass(frozen=True)
class Made:
    """A request: method, address with query, and body; None for no body."""

    method: str
    path: str
    body: str | None


class Requests:
    """Requests at random for an OpenAPI document. known: ids that are there, by the name of the path's parameter; documents: whole setups, used
    where a body holds any object."""

    def __init__(self, schema: dict[str, Any], known: dict[str, list[Any]], documents: list[dict[str, Any]], seed: int) -> None:
        self.pick = random.Random(seed)
        self.schema, self.known, self.documents = schema, known, documents
        self.doors = [(method, path, told) for path, methods in schema["paths"].items() for method, told in methods.items()]

    def made(self) -> Iterator[Made]:
        """Requests without end."""
        while True:
            method, path, told = self.pick.choice(self.doors)
            query = "&".join(
                f"{one['name']}={self.pick.choice((self.value(one['schema']), self.odd()))}"
                for one in told.get("parameters", ())
                if one["in"] == "query" and self.pick.random() < 0.5
            )
            body = told.get("requestBody", {}).get("content", {}).get("application/json", {}).get("schema")
            sent = None if body is None else json.dumps(self.spoilt(self.value(body)))
            yield Made(method.upper(), re.sub(r"\{(\w+)\}", lambda match: self.id(match[1]), path) + (f"?{query}" if query else ""), sent)

    def id(self, name: str) -> str:
        """An id that is there, mostly."""
        there = self.known.get(name)
        return str(self.pick.choice(there)) if there and self.pick.random() < 0.85 else self.pick.choice(ODD_IDS)

    def odd(self) -> Any:
        """Something that does not belong."""
        return deepcopy(self.pick.choice(ODD))

    def value(self, schema: dict[str, Any], depth: int = 0) -> Any:
        """A value the schema lets through, or nearly."""
        if "$ref" in schema:
            return self.value(self.schema["components"]["schemas"][schema["$ref"].rsplit("/", 1)[1]], depth)
        for key in ("anyOf", "oneOf", "allOf"):
            if key in schema:
                return self.value(self.pick.choice(schema[key]), depth)
        if "const" in schema:
            return schema["const"]
        if "enum" in schema:
            return self.pick.choice(schema["enum"])
        kind = schema.get("type")
        if kind == "object":
            return self.object(schema, depth)
        if kind == "array":
            most = min(3, schema.get("maxItems", 3)) if depth < 6 else 0
            return [self.value(schema.get("items", {}), depth + 1) for _ in range(self.pick.randint(min(schema.get("minItems", 0), most), most))]
        if kind in ("number", "integer"):
            low = schema.get("minimum", schema.get("exclusiveMinimum", -10))
            high = schema.get("maximum", schema.get("exclusiveMaximum", 1000))
            found = self.pick.choice((low, high, self.pick.uniform(low, high), self.pick.uniform(0, 10)))
            return int(found) if kind == "integer" else found
        if kind == "boolean":
            return self.pick.random() < 0.5
        if kind == "string":
            return self.pick.choice(("abc", "Clover", "2026-03-01T10:00:00Z", "x" * schema.get("maxLength", 20), ""))
        return None if kind == "null" else self.odd()

    def object(self, schema: dict[str, Any], depth: int) -> Any:
        """An object; where its fields are not told, a whole setup or something like it."""
        if "properties" not in schema:
            inner = schema.get("additionalProperties")
            if isinstance(inner, dict) and inner and self.pick.random() < 0.3:
                return {self.pick.choice(("", "/main_fuse/rating_a", "1")): self.value(inner, depth + 1)}
            return self.spoilt(json.loads(json.dumps(self.pick.choice(self.documents))))
        needed = schema.get("required", ())
        return {name: self.value(inner, depth + 1) for name, inner in schema["properties"].items() if name in needed or self.pick.random() < (0.6 if depth < 4 else 0.2)}

    def spoilt(self, value: Any) -> Any:
        """The value, one time in three with something odd in one place of it."""
        if self.pick.random() < 0.67:
            return value
        place, way = value, []
        while isinstance(place, dict | list) and place:
            key = self.pick.choice(list(place)) if isinstance(place, dict) else self.pick.randrange(len(place))
            way.append((place, key))
            place = place[key]
            if self.pick.random() < 0.3:
                break
        if not way:
            return self.odd()
        holder, key = way[-1]
        holder[key] = self.odd()
        return value
