"""Cells of tables that a spreadsheet opens: a name is never taken for a formula."""

from __future__ import annotations

_FORMULA = "=+-@\t\r"


def cell(text: str) -> str:
    """A name as a cell.

    >>> cell("=1+1"), cell("violet")
    ("'=1+1", 'violet')
    """
    return f"'{text}" if text[:1] and text[:1] in _FORMULA else text


def uncell(text: str) -> str:
    """The name a cell holds.

    >>> uncell("'=1+1"), uncell("violet")
    ('=1+1', 'violet')
    """
    return text[1:] if text[:1] == "'" and text[1:2] and text[1:2] in _FORMULA else text
