"""JSON as it comes and goes."""

from __future__ import annotations

from typing import Annotated, Any, Literal, NotRequired, TypeAlias

from pydantic import WithJsonSchema
from typing_extensions import TypedDict

Document: TypeAlias = dict[str, Any]
"""A JSON object whose fields nobody has checked yet: a setup before it is validated, or one that edits change in place. Any, because what
stands where is what validating finds out."""


def _of(model: str) -> WithJsonSchema:
    """The type of a field that the API describes as one model, or as one of several, but that is validated only where it is read: then every wrong
    field is reported at once."""
    return WithJsonSchema({"type": "object", "x-model": model})


SetupDocument: TypeAlias = Annotated[Document, _of("Setup")]
PackDocument: TypeAlias = Annotated[Document, _of("Pack")]
CourseDocument: TypeAlias = Annotated[Document, _of("Course")]
RiderDocument: TypeAlias = Annotated[Document, _of("Rider")]
HouseDocument: TypeAlias = Annotated[Document, _of("HouseRules")]
AboutDocument: TypeAlias = Annotated[Document, _of("About")]
ReadingDocument: TypeAlias = Annotated[Document, _of("Reading")]
SituationDocument: TypeAlias = Annotated[Document, _of("Situation")]

KINDS_OF_PARTS = "Pack|Fuse|WireReel|Plug|Switch|Guard|Controller|Throttle|Motor|Drivetrain|Wheel|Charger|Converter|Hardware|Lead|PlugPair|Kit"
PartDocument: TypeAlias = Annotated[Document, _of(KINDS_OF_PARTS)]
"""A part of any kind; which one, is said beside it."""

Operation = TypedDict(
    "Operation",
    {"op": Literal["add", "replace", "remove", "move", "copy", "test"], "path": str, "from": NotRequired[str], "value": NotRequired[object]},
)
"""One step of a JSON Patch (RFC 6902). value: whatever belongs at its path."""
Patch: TypeAlias = list[Operation]
