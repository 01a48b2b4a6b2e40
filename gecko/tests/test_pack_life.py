"""A pack over its life, beside the same sum done another way: every line there may be, weighed one by one on a fine grid."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from math import exp, sqrt
from unittest import TestCase

from gecko.common.figures import Figure
from gecko.document.parts.pack import Pack, default_resistance_ohm
from gecko.plans.care.pack_life import Read, pack_life

TODAY = datetime(2026, 11, 30, tzinfo=UTC)
PACK = Pack(cells_in_series=7, capacity_ah=Figure(value=4.0, basis="nameplate"))


def ago(days: float) -> datetime:
    return TODAY - timedelta(days=days)


def read(*pairs: tuple[float, float], half: float | None = 0.1) -> list[Read]:
    return [Read(when=ago(days), value=value, half=half) for days, value in pairs]


def on_a_grid(readings: list[Read], born: datetime, at: datetime) -> tuple[float, float]:
    """Mean and standard deviation of the capacity at a moment: the straight lines of a fine grid, each weighed by the prior and by how well it meets the
    readings; no matrix, no closed form. [Ah]"""

    def years(when: datetime) -> float:
        return (when - born) / timedelta(days=365.25)

    sums = [0.0, 0.0, 0.0]
    for i in range(-120, 121):
        start = 4.0 * (1 + 0.08 * i / 20)
        for k in range(-120, 121):
            slope = 4.0 * (-0.04 + 0.06 * k / 20)
            apart = (i / 20) ** 2 + (k / 20) ** 2
            for one in readings:
                variance = ((one.half or 0.0) / 1.959964) ** 2 + (0.02 * 4.0) ** 2
                apart += (one.value - start - slope * years(one.when)) ** 2 / variance
            weight, value = exp(-apart / 2), start + slope * years(at)
            sums = [sums[0] + weight, sums[1] + weight * value, sums[2] + weight * value * value]
    mean = sums[1] / sums[0]
    return mean, sqrt(sums[2] / sums[0] - mean * mean)


class Life(TestCase):
    def test_beside_every_line_there_may_be(self) -> None:
        for readings in ([], read((100, 3.6)), read((600, 3.95), (430, 3.87), (290, 3.74), (170, 3.62), (46, 3.51))):
            born = ago(605)
            found = pack_life(PACK, born, TODAY, readings, []).capacity
            for point in (found.now, found.line[0], found.line[-1]):
                mean, sd = on_a_grid(readings, born, point.when)
                self.assertAlmostEqual(point.value, mean, delta=0.004)
                self.assertAlmostEqual((point.high - point.low) / 2, 1.959964 * sd, delta=0.01)

    def test_more_readings_narrow_what_is_known_and_the_future_is_wider(self) -> None:
        def width(point: object) -> float:
            return float(point.high - point.low)  # type: ignore[attr-defined]  # a point of the line

        few, many = (pack_life(PACK, ago(400), TODAY, readings, []).capacity for readings in (read((300, 3.8)), read((300, 3.8), (200, 3.75), (100, 3.7), (5, 3.66))))
        self.assertLess(width(many.now), width(few.now))
        self.assertGreater(width(many.line[-1]), width(many.now))
        self.assertEqual((many.line[0].when, many.line[-1].when), (ago(400), TODAY + timedelta(days=365)))

    def test_without_the_day_it_was_bought_the_first_reading_is_its_birth(self) -> None:
        self.assertEqual(pack_life(PACK, None, TODAY, read((90, 3.9), (10, 3.9)), []).capacity.line[0].when, ago(90))
        # What was read before it was bought counts: somebody else measured it.
        self.assertEqual(pack_life(PACK, ago(50), TODAY, read((90, 3.9)), []).capacity.line[0].when, ago(90))
        self.assertEqual(pack_life(PACK, TODAY + timedelta(days=3), TODAY, [], []).capacity.line[0].when, TODAY, "A day to come is no birth.")

    def test_a_reading_that_states_no_doubt_has_the_usual_one(self) -> None:
        """5 % of 3.8 Ah; 10 % of 0.12 Ω."""
        found = pack_life(PACK, ago(300), TODAY, read((10, 3.8), half=None), read((10, 0.12), half=None))
        self.assertAlmostEqual(found.capacity.readings[0].high - 3.8, 0.19)
        self.assertAlmostEqual(found.resistance.readings[0].high - 0.12, 0.012)

    def test_a_new_one_is_as_its_label_says_or_as_such_packs_are(self) -> None:
        stated = PACK.model_copy(update={"resistance_ohm": Figure(value=0.08, basis="nameplate")})
        measured = PACK.model_copy(update={"resistance_ohm": Figure(value=0.2, basis="measured")})
        self.assertEqual([pack_life(one, None, TODAY, [], []).resistance.new for one in (stated, measured)], [0.08, default_resistance_ohm(measured)])

    def test_volts_dropped_at_ten_amps(self) -> None:
        found = pack_life(PACK, ago(300), TODAY, [], read((1, 0.12), half=0.002))
        self.assertAlmostEqual(found.sag_10a_v, 10 * found.resistance.now.value)


class Verdicts(TestCase):
    def verdict(self, ah: float | None = None, ohm: float | None = None, half: float = 0.05) -> tuple[str, str]:
        capacity = [] if ah is None else read(*((days, ah) for days in (9, 7, 5, 3, 1)), half=half)
        resistance = [] if ohm is None else read(*((days, ohm) for days in (9, 7, 5, 3, 1)), half=0.001)
        found = pack_life(PACK, ago(10), TODAY, capacity, resistance)
        return found.tone, found.title

    def test_by_what_it_still_holds(self) -> None:
        self.assertEqual(self.verdict(), ("unknown", "Not measured yet."))
        self.assertEqual(self.verdict(3.95), ("fine", "In good shape."))
        self.assertEqual(self.verdict(3.45), ("close", "Shows its age."))
        self.assertEqual(self.verdict(2.4), ("over", "Worn out."))

    def test_what_is_only_likely_is_not_said_as_certain(self) -> None:
        """The same reading with a wide doubt: it may still hold 80 % of its label."""
        self.assertEqual(self.verdict(2.9, half=1.5)[0], "close")

    def test_by_how_much_it_sags(self) -> None:
        new = default_resistance_ohm(PACK)
        self.assertEqual(self.verdict(3.95, new)[0], "fine")
        self.assertEqual(self.verdict(3.95, 1.4 * new), ("close", "Shows its age."))
        self.assertEqual(self.verdict(3.95, 2.2 * new), ("close", "Tired."))

    def test_in_words(self) -> None:
        found = pack_life(PACK, ago(10), TODAY, read((1, 3.15), (2, 3.15), (3, 3.15), (4, 3.15), half=0.01), [])
        self.assertEqual(found.says, f"It gives {found.capacity.now.value:.1f} of 4.0 Ah. Measure it again before a long ride counts on it.")
        self.assertEqual(found.title, "Tired.")
