"""The API's own description, with every document told as what it is.

Documents are taken as they come and validated where they are read, so that every wrong field is told at once; here they are described by
the models they are validated with.
"""

from __future__ import annotations

from typing import Any

from ninja import NinjaAPI
from pydantic import TypeAdapter

from gecko.document.context import HouseRules
from gecko.document.parts.course import Course
from gecko.document.parts.rider import Rider
from gecko.document.rack.about import About
from gecko.document.rack.kinds import RACK_KINDS
from gecko.document.setup import Setup
from gecko.hookup.anywhere import Situation
from gecko.hookup.shape import Reading

MODELS: dict[str, Any] = {one.__name__: one for one in (Setup, Course, Rider, HouseRules, About, Situation, Reading, *RACK_KINDS.values())}
_WHERE = "#/components/schemas/"


def described(api: NinjaAPI) -> dict[str, Any]:
    """The OpenAPI document of an API. Raises KeyError for a document of a model nobody knows."""
    schema: dict[str, Any] = api.get_openapi_schema(path_prefix="/api/")
    known = schema["components"]["schemas"]
    wanted: set[str] = set()

    def point(node: Any) -> Any:
        if isinstance(node, list):
            return [point(one) for one in node]
        if not isinstance(node, dict):
            return node
        if "x-model" in node:
            names = node["x-model"].split("|")
            wanted.update(names)
            # The field's own description is kept.
            return {"anyOf" if len(names) > 1 else "allOf": [{"$ref": _WHERE + name} for name in names], **{key: node[key] for key in ("description",) if key in node}}
        return {key: point(value) for key, value in node.items()}

    schema = point(schema)
    known = schema["components"]["schemas"]
    for name in sorted(wanted):
        model = TypeAdapter(MODELS[name]).json_schema(ref_template=_WHERE + "{model}")
        for part, told in (*model.pop("$defs", {}).items(), (name, model)):
            # A field with a default is described as optional, whatever its default is.
            known[part] = {**told, "properties": {field: {k: v for k, v in about.items() if k != "default"} for field, about in told.get("properties", {}).items()}}
    return schema
