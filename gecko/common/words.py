"""Sentences with quantities. A quantity stands in a sentence as `[[value|kind]]`, so that readers see it in their own units.

Kinds: speed (m/s), length (m), mass (kg), temp (°C), rise (K) and awg. What needs no conversion is written out with its unit,
a point before its decimals: A, V, Ω, W, s. The page puts the reader's decimal mark there, so a point between digits stands in
no other word of a sentence.
"""

from __future__ import annotations

import re
from typing import Literal

from gecko.common.units import to_mph

Kind = Literal["speed", "length", "mass", "temp", "rise", "awg"]

_TOKEN = re.compile(r"\[\[(-?[\d.e+-]+)\|(\w+)\]\]")


def q(value: float, kind: Kind) -> str:
    """A quantity inside a sentence, in SI (speed m/s, length m, mass kg, temp °C) or a gauge.

    >>> q(2.5, "speed")
    '[[2.5|speed]]'
    """
    return f"[[{float(value):.6g}|{kind}]]"


def gauge(awg: int, mm2: float | None = None, strands: int = 1) -> str:
    """A wire inside a sentence: its gauge, or its mm² where it is sold so, and how many side by side.

    >>> gauge(12), gauge(12, 4.0, 2)
    ('[[12|awg]]', '2 × 4 mm²')
    """
    one = q(awg, "awg") if mm2 is None else f"{mm2:g} mm²"
    return one if strands == 1 else f"{strands} × {one}"


def plain(sentence: str) -> str:
    """A sentence with its quantities written out in mph, m, kg, °C and AWG, for the command line.

    >>> plain("Goes " + q(4.4704, "speed") + ".")
    'Goes 10.0 mph.'
    """

    def write(match: re.Match[str]) -> str:
        value, kind = float(match.group(1)), match.group(2)
        if kind == "speed":
            return f"{to_mph(value):.1f} mph"
        if kind == "length" and abs(value) < 2.0:
            return f"{100.0 * value:.0f} cm"
        unit = {"length": "m", "mass": "kg", "temp": "°C", "rise": "K", "awg": "AWG"}[kind]
        digits = 1 if kind == "length" and value < 20 else 0
        return f"{value:.{digits}f} {unit}"

    return _TOKEN.sub(write, sentence)


def amps(value: float) -> str:
    """Amps with sensible digits: "7.4 A", "38 A"."""
    return f"{value:.1f} A" if abs(value) < 10 else f"{value:.0f} A"


def volts(value: float) -> str:
    """Volts with one decimal: "25.2 V"."""
    return f"{value:.1f} V"


def likely_words(share: float) -> str:
    """How likely a limit is passed, as a parent reads it; empty where it is as good as certain.

    >>> likely_words(0.62), likely_words(0.99)
    ('That is so in about 6 of 10 likely cases.', '')
    """
    return "" if share > 0.95 else f"That is so in about {round(10 * share):.0f} of 10 likely cases."


def seconds(value: float) -> str:
    """A time in words a parent reads: "4 s", "12 min", "1 h 40 min"."""
    if value < 10:
        return f"{value:.1f} s"
    if value < 120:
        return f"{value:.0f} s"
    minutes = round(value / 60.0)
    return f"{minutes} min" if minutes < 100 else f"{minutes // 60} h {minutes % 60} min"


def pack_place(path: str) -> str:
    """A pack's place as findings' keys name it: row and number.

    >>> pack_place("/bank/rows/0/units/1")
    '0.1'
    """
    return path.removeprefix("/bank/rows/").replace("/units/", ".")
