"""What the page offers to choose from, and how many there may be of a list, out of the schemas of the Setup document and of the rack's parts."""

from __future__ import annotations

import json
from typing import Any

from gecko.document.rack.about import About
from gecko.document.rack.kinds import ONE_BY_ONE, Hardware, Kit, WireReel
from gecko.document.setup import json_schema

HEAD = "/** Made from the Setup document and the rack's parts by `make api-types`: what a field may be, and how many there may be of a list. */\n"


def _values(node: Any) -> list[Any]:
    """The values a field names, in its order; none for a field of anything else."""
    found = [*node.get("enum", []), *([node["const"]] if "const" in node else [])]
    for one in (*node.get("anyOf", []), *([node["items"]] if isinstance(node.get("items"), dict) else [])):
        found += [value for value in _values(one) if value not in found]
    return found


def _most(node: Any) -> int | None:
    return next((one["maxItems"] for one in (node, *node.get("anyOf", [])) if "maxItems" in one), None)


def as_typescript() -> str:
    """The choices and limits of every part's fields, by "Part.field"; and which kinds of parts are single things."""
    parts: dict[str, Any] = {}
    for name, schema in (("Setup", json_schema()), *((model.__name__, model.model_json_schema()) for model in (About, Hardware, Kit, WireReel))):
        parts |= {name: schema, **schema.get("$defs", {})}
    fields = {f"{part}.{name}": node for part, told in parts.items() for name, node in told.get("properties", {}).items()}
    choices = {place: values for place, node in fields.items() if (values := _values(node))}
    most = {place: count for place, node in fields.items() if (count := _most(node)) is not None}

    def block(name: str, entries: dict[str, Any]) -> str:
        lines = "".join(f"  {json.dumps(place)}: {json.dumps(value, ensure_ascii=False)},\n" for place, value in sorted(entries.items()))
        return f"export const {name} = {{\n{lines}}} as const;\n"

    single = f"/** Kinds of parts of which each piece is one by itself, with a sticker. */\nexport const SINGLE: readonly string[] = {json.dumps(sorted(ONE_BY_ONE))};\n"
    return f"{HEAD}{block('CHOICES', choices)}{block('MOST', most)}{single}"
