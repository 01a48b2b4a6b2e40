"""The one shape of every error, and the exceptions that carry it."""

from __future__ import annotations

from typing import Any

from ninja import Schema


class Problem(Schema):
    """One thing that is wrong, and where (a JSON Pointer)."""

    path: str
    message: str


class ErrorOut(Schema):
    """The shape of every error."""

    code: str
    message: str
    field: str | None = None
    hint: str | None = None
    problems: list[Problem] = []


class Refused(Exception):
    """A request that cannot be done, with what to do about it."""

    def __init__(
        self,
        message: str,
        *,
        code: str = "invalid",
        status: int = 422,
        field: str | None = None,
        hint: str | None = None,
        problems: list[dict[str, str]] | None = None,
        extra: dict[str, Any] | None = None,
    ) -> None:
        super().__init__(message)
        self.message, self.code, self.status, self.field, self.hint = message, code, status, field, hint
        self.problems, self.extra = problems or [], extra or {}

    def body(self) -> dict[str, Any]:
        """The error as it is sent."""
        return {"code": self.code, "message": self.message, "field": self.field, "hint": self.hint, "problems": self.problems, **self.extra}


def not_found(what: str) -> Refused:
    """Not there, or not yours: both look the same from outside."""
    return Refused(f"There is no such {what} in your garages.", code="not_found", status=404)
