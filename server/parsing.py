"""Reading the JSON of a request: nothing that no document can hold gets in."""

from __future__ import annotations

import json
import math
from datetime import datetime
from typing import Annotated, Any, NoReturn

from django.http import HttpRequest
from django.utils.timezone import is_aware, make_aware
from ninja.parser import Parser
from pydantic import AfterValidator

from server.errors import Refused

DEEPEST = 40
"""The deepest nesting that is read: more than any of our documents has. Storing and comparing walk documents level by level."""

MOST_DIGITS = 15
"""Longer whole numbers neither JSON's readers nor the database hold exactly."""


def _refuse(what: str) -> NoReturn:
    raise Refused(f"This cannot be read: {what}.", code="request_invalid", status=400)


def _number(text: str) -> float:
    number = float(text)
    if not math.isfinite(number):
        _refuse(f"{text[:20]} is too large a number")
    return number


def _whole(text: str) -> int:
    if len(text.lstrip("-")) > MOST_DIGITS:
        _refuse(f"{text[:20]}… is too large a number")
    return int(text)


def _constant(text: str) -> float:
    _refuse(f"{text} is not a number")


def _of_our_time(moment: datetime) -> datetime:
    if not 2000 <= moment.year <= 2100:
        raise ValueError("Enter a date between the years 2000 and 2100.")
    return moment if is_aware(moment) else make_aware(moment)


Moment = Annotated[datetime, AfterValidator(_of_our_time)]
"""When something was: beyond these years converting between time zones leaves the calendar, and nobody measured anything."""


def depth_within(value: Any, most: int) -> bool:
    """Whether a JSON value is nested no deeper than so many levels.

    >>> depth_within({"a": [1]}, 2), depth_within([[[]]], 2)
    (True, False)
    """
    level = [value] if isinstance(value, dict | list) else []
    for _ in range(most):
        level = [inner for one in level for inner in (one.values() if isinstance(one, dict) else one) if isinstance(inner, dict | list)]
    return not level


def read_json(text: str | bytes) -> Any:
    """A JSON value with finite numbers and of sensible depth. Raises Refused 400 with what is wrong."""
    try:
        value = json.loads(text, parse_float=_number, parse_int=_whole, parse_constant=_constant)
    except RecursionError:
        _refuse("it is nested too deeply")
    except (ValueError, UnicodeDecodeError):
        _refuse("it is not JSON")
    if not depth_within(value, DEEPEST):
        _refuse("it is nested too deeply")
    return value


class StrictJson(Parser):
    """Django Ninja's parser over `read_json`."""

    def parse_body(self, request: HttpRequest) -> Any:
        """The JSON of a body, and of nothing else: a form on a foreign page can send every other kind."""
        if request.content_type != "application/json":
            raise Refused("Send JSON, with the content type application/json.", code="request_invalid", status=415)
        return read_json(request.body)
