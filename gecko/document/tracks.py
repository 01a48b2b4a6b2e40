"""Courses in and out as open formats: a table of stretches or an elevation profile as CSV, a track as GPX."""

from __future__ import annotations

import csv
import heapq
import io
import math
from collections.abc import Sequence
from itertools import pairwise
from typing import NamedTuple

import defusedxml.ElementTree
import numpy as np
from defusedxml import DefusedXmlException
from numpy.typing import NDArray
from pydantic import ValidationError

from gecko.common.documents import Document
from gecko.common.errors import GeckoError, field_problems
from gecko.document.parts.course import MOST_STRETCHES, Course, Segment

MOST_CHARACTERS = 20_000_000
MOST_POINTS = 300_000
"""Limits of a file: its size, and its points."""
ENERGY_SHARE = SPEED_SHARE = 0.01
"""A profile is drawn with as few stretches as keep within this of the energy it asks and of the fastest it lets roll. [1]"""
FIRST_STRETCHES, MORE = 12, 1.4
"""So many stretches are tried first, and then so many times more. [1]"""
EARTH_M = 6_371_000.0
"""Mean radius of the earth (IUGG). [m]"""
SMOOTH_M = 15.0
"""GPS heights jump by metres: they are averaged over this way before and after. [m]"""
STEEPEST = 0.5
LONGEST_M = 20_000.0
"""A stretch is not longer than this: a longer one becomes several. [m]"""
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
    track = _Track()
    try:
        track.read(text)
    except (DefusedXmlException, ValueError, SyntaxError) as failure:
        raise GeckoError("This is no GPX track that can be read. Export it again as plain GPX 1.1, without a document type.", path="/file") from failure
    points = track.points or track.route
    if len(points) > MOST_POINTS:
        raise GeckoError(f"This track has more than {MOST_POINTS} points. Cut it down to one round.", path="/file")
    places = np.array([(latitude, longitude) for latitude, longitude, _ in points], dtype=float).reshape(-1, 2)
    if not np.isfinite(places).all():
        raise GeckoError("A point of this track has no place: its latitude or longitude is no number. Export it again.", path="/file")
    ways = _ways(places)
    heights, said = _filled(ways, [height for _, _, height in points])
    return FromFile(_from_profile(list(zip(ways.tolist(), heights, strict=True)), track.name or name), said)


class _Track:
    """A GPX file read as it comes, each point forgotten as soon as its numbers are taken: latitude, longitude, height or None."""

    def __init__(self) -> None:
        self.points: list[tuple[float, float, float | None]] = []
        self.route: list[tuple[float, float, float | None]] = []
        self.name = ""

    def read(self, text: str) -> None:
        """Take the points. Raises what the XML reader raises, ValueError for no numbers and for no GPX."""
        inside: list[str] = []
        for event, element in defusedxml.ElementTree.iterparse(io.BytesIO(text.encode()), events=("start", "end"), forbid_dtd=True):
            kind = element.tag.rsplit("}", 1)[-1]
            if event == "start":
                inside.append(kind)
                if inside[0] != "gpx":
                    raise ValueError("no GPX")
                continue
            inside.pop()
            if kind in ("trkpt", "rtept"):
                height = next((child.text for child in element if child.tag.rsplit("}", 1)[-1] == "ele"), None)
                found = float(element.get("lat", "nan")), float(element.get("lon", "nan")), float(height) if height and height.strip() else None
                (self.points if kind == "trkpt" else self.route).append(found)
                if len(self.points) > MOST_POINTS:
                    return
            elif kind == "name" and inside[-1:] == ["trk"] and not self.name:
                self.name = (element.text or "").strip()
            if kind not in ("ele", "name"):
                element.clear()


def _ways(places: NDArray[np.float64]) -> NDArray[np.float64]:
    """Way from the first of places (latitude and longitude [°]) to each, along great circles (haversine). [m]

    >>> round(float(_ways(np.array([[0.0, 0.0], [0.0, 1.0]]))[1]))
    111195
    """
    if len(places) < 2:
        return np.zeros(len(places))
    lat, lon = np.radians(places).T
    half = np.sin(np.diff(lat) / 2.0) ** 2 + np.cos(lat[1:]) * np.cos(lat[:-1]) * np.sin(np.diff(lon) / 2.0) ** 2
    return np.concatenate([[0.0], np.cumsum(2.0 * EARTH_M * np.arcsin(np.sqrt(np.minimum(half, 1.0))))])


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
        dialect: type[csv.Dialect] = csv.Sniffer().sniff(text[:4000], ",;\t")
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
    segments: list[Document] = []
    for row in rows:
        entry: Document = {}
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
            pieces = math.ceil((x1 - x0) / LONGEST_M)
            segments.extend([Segment(grade=round(grade, 4), length_m=round((x1 - x0) / pieces, 1))] * pieces)
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
    """The points of a line that keeps to the profile: split where it is farthest off, again and again (after Douglas and Peucker 1973, with
    heights for distances), until what it asks for and how fast it lets roll are those of the profile. [m]"""
    line = np.array(points)
    ways, heights = line[:, 0], line[:, 1]

    def farthest(first: int, last: int) -> tuple[float, int, int, int]:
        slope = (heights[last] - heights[first]) / max(ways[last] - ways[first], 1e-9)
        off = np.abs(heights[first : last + 1] - heights[first] - slope * (ways[first : last + 1] - ways[first]))
        at = int(off.argmax())
        return -float(off[at]), first + at, first, last

    asked = _asks(ways, heights)
    keep, heap = {0, len(points) - 1}, [farthest(0, len(points) - 1)]
    wanted = FIRST_STRETCHES
    while heap and -heap[0][0] > 1e-6 and len(keep) < MOST_STRETCHES:
        _, at, first, last = heapq.heappop(heap)
        keep.add(at)
        heapq.heappush(heap, farthest(first, at))
        heapq.heappush(heap, farthest(at, last))
        if len(keep) > wanted:
            kept = sorted(keep)
            if _near(_asks(ways[kept], heights[kept]), asked):
                break
            wanted = max(int(len(keep) * MORE), len(keep) + 1)
    return [points[k] for k in sorted(keep)]


_ROLLING = (0.015, 0.04)
"""Rolling resistances by which a profile is weighed: paving, and between dirt and grass. [1]"""
_LOSES_ALL = 0.15
"""The slope on which a motor turns as much into heat as into work: losses go with the square of the push. [1]"""
_BACK_PER_M = 0.004
"""What the air takes of the square of the speed on each metre, `ρC_dA/m` of a child on a small bike. [1/m]"""


def _asks(ways: NDArray[np.float64], heights: NDArray[np.float64]) -> NDArray[np.float64]:
    """What a profile asks of whoever rides it: for each of `_ROLLING` the height a steady ride has to be lifted by where it must be pushed, with what
    the motor loses, and the fastest it rolls, from 3 m/s, where it is never pushed but never falls below that. [m, m/s]"""
    steps = np.diff(ways)
    grades = np.diff(heights) / np.maximum(steps, 1e-9)
    found = []
    for rolling in _ROLLING:
        pushed = np.maximum(grades + rolling, 0.0)
        found.append(float(np.sum(pushed * (1.0 + pushed / _LOSES_ALL) * steps)))
        square = fastest = 9.0
        # On each stretch v² goes to its balance on an exponential: exact however long the stretch is.
        for pulls, fading in zip((-2.0 * 9.81 * (grades + rolling) / _BACK_PER_M).tolist(), np.exp(-_BACK_PER_M * steps).tolist(), strict=True):
            square = max(pulls + (square - pulls) * fading, 9.0)
            fastest = max(fastest, square)
        found.append(math.sqrt(fastest))
    return np.array(found)


def _near(drawn: NDArray[np.float64], whole: NDArray[np.float64]) -> bool:
    """Whether a drawn profile asks what the whole one does."""
    off = np.abs(drawn - whole) / np.maximum(whole, 1e-9)
    return bool(np.all(off[::2] <= ENERGY_SHARE) and np.all(off[1::2] <= SPEED_SHARE))
