"""Nothing moves unseen: every figure of some hundred machines is what was recorded."""

from __future__ import annotations

import re
from unittest import TestCase

from gecko.tests.recording import Recorded, groups, recorded

CLOSE = 2e-5
"""The last kept digit may round either way on another processor. [1]"""
_NUMBER = re.compile(r"-?\d+(?:\.\d+)?(?:e[+-]?\d+)?")


def differs(line: str, then: str) -> bool:
    """Whether two lines say something else, figures compared as figures."""
    if line == then:
        return False
    now, before = ([float(found) for found in _NUMBER.findall(one)] for one in (line, then))
    return _NUMBER.sub("#", line) != _NUMBER.sub("#", then) or any(abs(a - b) > CLOSE * max(abs(a), abs(b)) for a, b in zip(now, before, strict=True))


def moved(now: dict[str, Recorded], then: dict[str, Recorded]) -> list[str]:
    """What is not as it was recorded, as "now / then"."""
    found = [f"{machine}: not recorded" for machine in now.keys() - then.keys()] + [f"{machine}: gone" for machine in then.keys() - now.keys()]
    for machine in now.keys() & then.keys():
        for name in now[machine].keys() | then[machine].keys():
            here, there = now[machine].get(name, []), then[machine].get(name, [])
            found += [f"{machine}, {name}: {a}  /  {b}" for a, b in zip(here, there, strict=False) if differs(a, b)]
            found += [f"{machine}, {name}: {len(here)} lines / {len(there)}"] if len(here) != len(there) else []
    return found


class AsRecorded(TestCase):
    """A test for every few machines, so that it is told which ones moved."""

    apart = True


AT_ONCE = 4


def _as_recorded(group: str, machines: list[str]) -> object:
    def test(self: TestCase) -> None:
        kept = recorded(group)
        found = moved({name: groups()[group][name]() for name in machines}, {name: kept[name] for name in machines if name in kept})
        self.assertEqual(found[:5], [], f"{len(found)} lines of '{group}' moved. If that is meant: `make recorded`, and read the difference.")

    return test


for _group, _machines in groups().items():
    _names = list(_machines)
    for _at in range(0, len(_names), AT_ONCE):
        setattr(AsRecorded, f"test_{_group.replace(' ', '_')}_{_at}", _as_recorded(_group, _names[_at : _at + AT_ONCE]))


class Noticing(TestCase):
    def test_a_figure_off_by_a_thousandth_is_noticed_and_rounding_is_not(self) -> None:
        self.assertTrue(differs("/top top_speed_m_s=4.1234", "/top top_speed_m_s=4.1276"))
        self.assertFalse(differs("/top top_speed_m_s=4.12340", "/top top_speed_m_s=4.12341"))
        self.assertTrue(differs("fuse.none stop", "fuse.none caution"))

    def test_what_was_recorded_is_still_made(self) -> None:
        for group, machines in groups().items():
            self.assertEqual(recorded(group).keys(), machines.keys(), group)

    def test_a_line_more_or_less_is_noticed(self) -> None:
        self.assertEqual(len(moved({"m": {"findings": ["a 1", "b 2"]}}, {"m": {"findings": ["a 1"]}})), 1)
        self.assertEqual(len(moved({}, {"m": {}})), 1)
