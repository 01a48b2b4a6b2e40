"""Conversions at the edge. Inside, everything is SI."""

MILE_M = 1609.344
"""International mile. [m]"""


def mph(miles_per_hour: float) -> float:
    """Speed from miles per hour. [m/s]

    >>> round(mph(10), 4)
    4.4704
    """
    return miles_per_hour * MILE_M / 3600.0


def to_mph(speed_m_s: float) -> float:
    """Speed in miles per hour. [mph]

    >>> round(to_mph(4.4704), 6)
    10.0
    """
    return speed_m_s * 3600.0 / MILE_M
