"""The core's own errors. The server maps them to HTTP once."""

from __future__ import annotations

from pydantic import ValidationError

from gecko.common.documents import Document


class GeckoError(Exception):
    """A refusal with a message that says what to do. `code` names it for programs, `path` the field it is about."""

    def __init__(self, message: str, *, code: str = "invalid", path: str | None = None, hint: str | None = None) -> None:
        super().__init__(message)
        self.message, self.code, self.path, self.hint = message, code, path, hint


class UnknownPart(GeckoError):
    """Raised when a part or table row is asked for that the reference tables do not hold."""


_PLAIN: dict[str, str] = {
    "greater_than": "must be more than {gt}",
    "greater_than_equal": "must be at least {ge}",
    "less_than": "must be less than {lt}",
    "less_than_equal": "must be at most {le}",
    "missing": "is missing",
    "float_parsing": "must be a number, such as 12.5",
    "float_type": "must be a number, such as 12.5",
    "int_parsing": "must be a whole number",
    "int_type": "must be a whole number",
    "int_from_float": "must be a whole number",
    "finite_number": "must be a number, not infinite",
    "extra_forbidden": "is not a field of this part; remove it or check its spelling",
    "too_long": "has too many entries: at most {max_length}",
    "too_short": "needs at least {min_length}",
    "string_too_long": "is too long: at most {max_length} characters",
    "literal_error": "must be one of {expected}",
}


def field_problems(error: ValidationError) -> list[dict[str, str]]:
    """List what is wrong with a document, one entry a field: `path` (a JSON Pointer) and `message` (a plain sentence)."""
    problems = []
    for item in error.errors(include_url=False):
        pointer = "/" + "/".join(str(step) for step in item["loc"])
        context: Document = item.get("ctx") or {}
        template = _PLAIN.get(item["type"])
        name = str(next((step for step in reversed(item["loc"]) if not str(step).isdigit() and step != "value"), "document"))
        label = name.replace("_", " ")
        if template is not None:
            message = f"{label} {template.format(**context)}."
        elif "error" in context:
            message = str(context["error"])
        else:
            message = f"{label}: {item['msg']}."
        problems.append({"path": pointer, "message": message[:1].upper() + message[1:]})
    return problems
