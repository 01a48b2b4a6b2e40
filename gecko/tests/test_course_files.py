"""Courses in and out as files: tracks, profiles, tables; and what is refused, with what to do about it."""

from __future__ import annotations

import math
from itertools import pairwise
from unittest import TestCase

from gecko.analysis.riding import Riding
from gecko.common.errors import GeckoError
from gecko.document.parts.course import Course, Segment
from gecko.document.tracks import _smoothed, read_course, write_csv
from gecko.machine.courses import SHIPPED
from gecko.tests.machines import bike

METRES_PER_DEGREE = 111_195.0
"""One degree of a great circle of the earth's mean radius, 6 371 km."""


def gpx(points: list[tuple[float, float]]) -> str:
    """A track northward: way and height in metres."""
    lines = "".join(f'<trkpt lat="{way / METRES_PER_DEGREE:.8f}" lon="0"><ele>{height}</ele></trkpt>' for way, height in points)
    return f'<?xml version="1.0"?><gpx version="1.1" creator="t" xmlns="http://www.topografix.com/GPX/1/1"><trk><name>Yard</name><trkseg>{lines}</trkseg></trk></gpx>'


def hill() -> list[tuple[float, float]]:
    """200 m level, 200 m up at 6 %, 200 m down at 6 %, a point every 2 m."""
    return [(float(way), 0.06 * (max(0, min(way, 400) - 200) - max(0, way - 400))) for way in range(0, 601, 2)]


class In(TestCase):
    def test_a_track_becomes_its_slopes(self) -> None:
        course = read_course(gpx(hill()), "x").course
        self.assertEqual(course.name, "Yard")
        self.assertAlmostEqual(sum(segment.length_m or 0 for segment in course.segments), 600, delta=6)
        climbed = sum(max(segment.grade, 0) * (segment.length_m or 0) for segment in course.segments)
        self.assertAlmostEqual(climbed, 12.0, delta=1.2)
        self.assertAlmostEqual(max(segment.grade for segment in course.segments), 0.06, delta=0.004)

    def test_a_profile_of_two_columns_in_any_dress(self) -> None:
        plain = read_course("\n".join(f"{way},{height}" for way, height in hill()), "p").course
        dressed = read_course("way;height\n" + "\n".join(f"{way:.1f};{height:.4f}".replace(".", ",") for way, height in hill()), "p").course
        self.assertEqual([s.grade for s in plain.segments], [s.grade for s in dressed.segments])

    def test_a_track_is_drawn_with_as_many_lines_as_its_ride_asks(self) -> None:
        """Two thousand points of hills within hills: the drawn course asks a machine for what every point of it would, in energy and top speed;
        a plain one takes few."""
        wild = [(3.0 * k, 8 * math.sin(k / 37) + 3 * math.sin(k / 11) + 0.6 * math.sin(k / 4)) for k in range(2000)]
        course = read_course("\n".join(f"{way},{height}" for way, height in wild), "p").course
        smooth = _smoothed(wild)
        every = Course(name="every point", segments=[Segment(grade=(y1 - y0) / (x1 - x0), length_m=x1 - x0) for (x0, y0), (x1, y1) in pairwise(smooth)][:1000])
        half = sum(segment.length_m or 0 for segment in every.segments)
        drawn, count = [], 0.0
        for segment in course.segments:
            if count < half:
                drawn.append(segment)
                count += segment.length_m or 0.0
        rides = []
        for segments in (every.segments, drawn):
            riding = Riding(bike(course={"name": "p", "segments": [segment.model_dump() for segment in segments]}))
            rides.append(riding.ride)
        self.assertAlmostEqual(float(rides[1].wh_per_km) / float(rides[0].wh_per_km), 1.0, delta=0.025)
        self.assertAlmostEqual(float(rides[1].fastest_m_s) / float(rides[0].fastest_m_s), 1.0, delta=0.025)
        self.assertTrue(20 < len(course.segments) < 600, len(course.segments))
        self.assertLess(len(read_course(gpx(hill()), "x").course.segments), 16)

    def test_a_way_too_long_for_one_stretch_is_several(self) -> None:
        course = read_course("0,0\n98000,49", "p").course
        self.assertEqual(([s.length_m for s in course.segments], {s.grade for s in course.segments}), ([19_600.0] * 5, {0.0005}))

    def test_a_table_comes_back_as_it_went(self) -> None:
        for course in SHIPPED:
            self.assertEqual(read_course(write_csv(course), course.name).course, course)


class Gaps(TestCase):
    """Heights are filled straight between their neighbours, so that a hole in a slope changes nothing; and it is said."""

    def track(self, points: list[tuple[float, str]]) -> str:
        """A track eastward along the equator, where a degree is 111 195 m on a sphere of 6371 km; heights as text, empty for none."""
        inner = "".join(f'<trkpt lat="0" lon="{way / 111_195:.9f}">{f"<ele>{height}</ele>" if height else ""}</trkpt>' for way, height in points)
        return f'<gpx version="1.1" creator="t"><trk><name>Yard</name><trkseg>{inner}</trkseg></trk></gpx>'

    def slopes(self, points: list[tuple[float, str]]) -> tuple[list[float], tuple[str, ...]]:
        found = read_course(self.track(points), "x")
        return [round(segment.grade, 3) for segment in found.course.segments], found.said

    def test_points_without_a_height_are_no_cliffs(self) -> None:
        whole = [(float(way), f"{100 + 0.05 * way:.4f}") for way in range(0, 601, 2)]
        straight, said = self.slopes(whole)
        self.assertEqual((max(straight), said), (0.05, ()))
        for gap in (range(40, 60), range(30), range(280, 301)):
            holed = [(way, "" if place in gap else height) for place, (way, height) in enumerate(whole)]
            found, said = self.slopes(holed)
            self.assertEqual(said, (f"{len(gap)} of 301 points had no height: filled in between their neighbours.",))
            self.assertLessEqual(max(found), 0.0501)
            self.assertGreaterEqual(min(found), 0.0)
        nan = [(way, "NaN" if place == 50 else height) for place, (way, height) in enumerate(whole)]
        self.assertEqual(self.slopes(nan)[0], straight)

    def test_a_track_without_any_height_is_level_and_says_so(self) -> None:
        found, said = self.slopes([(float(way), "") for way in range(0, 601, 2)])
        self.assertEqual((found, said), ([0.0], ("No point of this track has a height: it is taken as level.",)))


class Refused(TestCase):
    def says(self, text: str, words: str) -> None:
        with self.assertRaises(GeckoError) as caught:
            read_course(text, "x")
        self.assertIn(words, str(caught.exception))

    def test_a_place_that_is_no_number(self) -> None:
        self.says('<gpx version="1.1" creator="t"><trk><trkseg><trkpt lat="nan" lon="0"/><trkpt lat="0" lon="1"/></trkseg></trk></gpx>', "no place")

    def test_a_field_longer_than_a_reader_takes(self) -> None:
        self.says("0,0\n" + "9" * 200_000 + ",1\n", "cannot be read")

    def test_what_cannot_be_read(self) -> None:
        bomb = '<?xml version="1.0"?><!DOCTYPE x [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]><gpx version="1.1"><trk/></gpx>'
        outside = '<?xml version="1.0"?><!DOCTYPE x [<!ENTITY a SYSTEM "file:///etc/passwd">]><gpx>&a;</gpx>'
        for text in (bomb, outside, "<gpx", "<html></html>x"):
            self.says(text, "plain GPX")
        self.says(gpx([(0, 0), (5, 0)]), "shorter than 20 m")
        self.says("", "empty")
        self.says("0,0\n10,nothing\n", "Line 2")
        self.says("0,0\n50,1\n20,1\n", "must not go back")
        self.says("length_m,grade\n50,3\n", "rade")
        self.says("length_m,time_s\n50,3\n", "one of the two")
        self.says("x" * 20_000_001, "larger than 20 MB")
        self.says("\n".join(f"{n},0" for n in range(300_001)), "300000")
