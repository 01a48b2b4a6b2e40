"""Courses in and out as open formats: a table of stretches or an elevation profile as CSV, a track as GPX."""

from __future__ import annotations

import csv
import heapq
import io
import math
from collections.abc import Sequence
from itertools import pairwise
from typing import Any, NamedTuple

import defusedxml.ElementTree
import gpxpy
import numpy as np
from defusedxml import DefusedXmlException
from numpy.typing import NDArray
from pydantic import ValidationError

from gecko.errors import GeckoError, field_problems
from gecko.parts.course import Course, Segment

MOST_CHARACTERS = 3_000_000
MOST_POINTS = 60_000
MOST_SEGMENTS = 24
"""Limits of a file: its size, its points, and the stretches a profile is drawn into."""
CLOSE_M = 0.3
"""A drawn profile keeps to the smoothed one within this height. [m]"""
SMOOTH_M = 15.0
"""GPS heights jump by metres: they are averaged over this way before and after. [m]"""
STEEPEST = 0.5
_COLUMNS = ("surface", "grade", "length_m", "time_s", "share", "speed_m_s", "throttle", "coast", "stop_s")


class FromFile(NamedTuple):
    """A course out of a file, and what had to be filled in, in sentences."""

    course: Course
    said: tuple[str, ...] = ()


def read_course(text: str, name: str) -> FromFile:
    """A course from the text of a file: GPX by its look, else CSV, ways and heights in metres [m]; name: what it is called where the file
    does not say.

    Raises GeckoError with what to do about it, when the file is too large, not readable, or too short.
    """
    if len(text) > MOST_CHARACTERS:
        raise GeckoError(f"This file is larger than {MOST_CHARACTERS // 1_000_000} MB. Cut the track down to one round.", path="/file")
    clean = text.lstrip("\ufeff \t\r\n")
    return _from_gpx(clean, name) if clean.startswith("<") else FromFile(_from_csv(clean, name))


def write_csv(course: Course) -> str:
    """A course as a table of stretches, which `read_course` reads back; units as the columns' names end [SI]."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(_COLUMNS)
    for segment in course.segments:
        values = segment.model_dump()
        writer.writerow(["yes" if values[name] is True else "" if values[name] in (None, False) else values[name] for name in _COLUMNS])
    return out.getvalue()


def _from_gpx(text: str, name: str) -> FromFile:
    try:
        # First by a reader that refuses entities and external parts; only what passes it is read as a track.
        defusedxml.ElementTree.fromstring(text, forbid_dtd=True)
        track = gpxpy.parse(text)
    except (DefusedXmlException, ValueError, SyntaxError, gpxpy.gpx.GPXException) as failure:
        raise GeckoError("This is no GPX track that can be read. Export it again as plain GPX 1.1, without a document type.", path="/file") from failure
    points: list[Any] = [point for each in track.tracks for segment in each.segments for point in segment.points]
    points = points or [point for route in track.routes for point in route.points]
    if len(points) > MOST_POINTS:
        raise GeckoError(f"This track has more than {MOST_POINTS} points. Cut it down to one round.", path="/file")
    if not all(math.isfinite(point.latitude) and math.isfinite(point.longitude) for point in points):
        raise GeckoError("A point of this track has no place: its latitude or longitude is no number. Export it again.", path="/file")
    ways = np.cumsum([0.0, *(after.distance_2d(before) or 0.0 for before, after in pairwise(points))])[: len(points)]
    heights, said = _filled(ways, [point.elevation for point in points])
    found = next((track_.name for track_ in track.tracks if track_.name), None) or name
    return FromFile(_from_profile(list(zip(ways.tolist(), heights, strict=True)), found), said)


def _filled(ways: NDArray[np.float64], heights: Sequence[float | None]) -> tuple[list[float], tuple[str, ...]]:
    """Heights with those that are missing filled in, straight between the neighbours that have one, and what is said of it. [m]

    >>> _filled(np.array([0.0, 10.0, 20.0]), [1.0, None, 3.0])
    ([1.0, 2.0, 3.0], ('1 of 3 points had no height: filled in between their neighbours.',))
    """
    there = np.array([height is not None and math.isfinite(height) for height in heights], dtype=bool)
    missing = int(len(there) - there.sum())
    if not missing:
        return [float(height) for height in heights if height is not None], ()
    if not there.any():
        return [0.0] * len(there), ("No point of this track has a height: it is taken as level.",)
    known = np.array([height for height, is_there in zip(heights, there, strict=True) if is_there], dtype=float)
    filled = np.interp(ways, ways[there], known).tolist()
    return filled, (f"{missing} of {len(there)} points had no height: filled in between their neighbours.",)


def _from_csv(text: str, name: str) -> Course:
    try:
        dialect: Any = csv.Sniffer().sniff(text[:4000], ",;\t")
    except csv.Error:
        dialect = csv.excel
    try:
        rows = [row for row in csv.reader(io.StringIO(text), dialect) if any(cell.strip() for cell in row)]
    except csv.Error as failure:
        raise GeckoError(f"This table cannot be read: {failure}. Save it again as plain CSV, one line a point.", path="/file") from failure
    if len(rows) > MOST_POINTS:
        raise GeckoError(f"This table has more than {MOST_POINTS} lines. Cut it down to one round.", path="/file")
    if not rows:
        raise GeckoError("This file is empty.", path="/file")
    head = [cell.strip().lower() for cell in rows[0]]
    if any(cell in _COLUMNS for cell in head):
        return _from_table(head, rows[1:], name)
    named = [_is_number(cell) for cell in rows[0][:2]]
    body = rows if all(named) and len(named) == 2 else rows[1:]
    profile = []
    for number, row in enumerate(body, start=1 + len(rows) - len(body)):
        if len(row) < 2 or not (_is_number(row[0]) and _is_number(row[1])):
            raise GeckoError(f"Line {number} is not two numbers. Give the way from the start and the height, both in metres.", path="/file")
        profile.append((_number(row[0]), _number(row[1])))
    if any(after[0] < before[0] for before, after in pairwise(profile)):
        raise GeckoError("The way from the start must not go back. Give it in metres along the course, rising from line to line.", path="/file")
    return _from_profile(profile, name)


def _from_table(head: list[str], rows: list[list[str]], name: str) -> Course:
    segments: list[dict[str, Any]] = []
    for row in rows:
        entry: dict[str, Any] = {}
        for column, cell in zip(head, row, strict=False):
            text = cell.strip()
            if column in _COLUMNS and text:
                entry[column] = text.lower() in ("yes", "true", "1") if column == "coast" else text if column == "surface" else text.replace(",", ".")
        segments.append(entry)
    try:
        return Course.model_validate({"name": name[:60] or "Own course", "segments": segments})
    except ValidationError as failure:
        problem = field_problems(failure)[0]
        raise GeckoError(f"{problem['message']} ({problem['path']})", path="/file") from failure


def _number(text: str) -> float:
    return float(text.strip().replace(",", "."))


def _is_number(text: str) -> bool:
    try:
        return math.isfinite(_number(text))
    except ValueError:
        return False


def _from_profile(profile: Sequence[tuple[float, float]], name: str) -> Course:
    """Stretches of an elevation profile (way and height [m]): smoothed, and drawn with the fewest straight lines that keep to it."""
    if len(profile) < 2 or profile[-1][0] - profile[0][0] < 20.0:
        raise GeckoError("This course is shorter than 20 m. Record or enter a longer one.", path="/file")
    smooth = _smoothed(profile)
    kept = _drawn(smooth)
    segments = []
    for (x0, y0), (x1, y1) in pairwise(kept):
        if x1 - x0 >= 1.0:
            grade = max(-STEEPEST, min(STEEPEST, (y1 - y0) / (x1 - x0)))
            segments.append(Segment(grade=round(grade, 4), length_m=round(x1 - x0, 1)))
    return Course(name=name[:60] or "Own course", segments=segments)


def _smoothed(profile: Sequence[tuple[float, float]]) -> list[tuple[float, float]]:
    """The profile at points at least a metre apart, each height the mean of those within `SMOOTH_M`."""
    thin = [profile[0]]
    for point in profile[1:]:
        if point[0] - thin[-1][0] >= 1.0:
            thin.append(point)
    found, low, high, total = [], 0, 0, 0.0
    for way, _ in thin:
        while high < len(thin) and thin[high][0] <= way + SMOOTH_M:
            total += thin[high][1]
            high += 1
        while thin[low][0] < way - SMOOTH_M:
            total -= thin[low][1]
            low += 1
        found.append((way, total / (high - low)))
    return found


def _drawn(points: Sequence[tuple[float, float]]) -> list[tuple[float, float]]:
    """The points of a line that keeps to the profile: split where it is farthest off, again and again, until it is within
    `CLOSE_M` or has `MOST_SEGMENTS` (after Douglas and Peucker 1973, with heights for distances). [m]"""

    def farthest(first: int, last: int) -> tuple[float, int, int, int]:
        (x0, y0), (x1, y1) = points[first], points[last]
        slope = (y1 - y0) / max(x1 - x0, 1e-9)
        off, at = max(((abs(points[k][1] - y0 - slope * (points[k][0] - x0)), k) for k in range(first + 1, last)), default=(0.0, first))
        return -off, at, first, last

    keep, heap = {0, len(points) - 1}, [farthest(0, len(points) - 1)]
    while heap and -heap[0][0] > CLOSE_M and len(keep) <= MOST_SEGMENTS:
        _, at, first, last = heapq.heappop(heap)
        keep.add(at)
        heapq.heappush(heap, farthest(first, at))
        heapq.heappush(heap, farthest(at, last))
    return [points[k] for k in sorted(keep)]
