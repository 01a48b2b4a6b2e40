"""Setups that are safe because of how they are built, with hazards put in and taken away.

The builder knows no rule of the core: every part is chosen several times stronger than what it must bear, by plain arithmetic that
stands beside it. A hazard breaks exactly one of these choices. With two hazards in, both stops appear; take one away, and its stop
goes while the other stays.
"""

from __future__ import annotations

import random
from collections import Counter
from collections.abc import Callable
from copy import deepcopy
from typing import Any
from unittest import TestCase

from gecko.analysis.whole import Analysis
from gecko.document.setup import load_setup
from gecko.rules.registry import run_checks
from gecko.tests.counts import tried
from gecko.tests.machines import named, put_in

SETUPS = tried(300, 80)
CELL_V = {"li-ion": (3.6, 4.2, 3.1), "lfp": (3.2, 3.65, 2.7), "lead": (2.0, 2.4, 1.8)}
"""Nominal, full and guard volts of a cell."""
AMPACITY = {14: 35, 12: 45, 10: 60, 8: 80, 6: 120, 4: 160}
"""105 °C wire in free air. [A]"""
Document = dict[str, Any]


def gauge_for(fuse_a: float) -> int:
    """A wire that settles below 105 °C at 1.35 times the fuse, two in the bundle: table · 0.7 over 1.5 times the rating."""
    return next(awg for awg, amps in AMPACITY.items() if amps * 0.7 > 1.5 * fuse_a)


def fuse_for(amps: float, full_v: float) -> Document:
    """A fuse that carries these amps for good at 75 % of its rating, made for the volts."""
    rating = next(r for r in (10, 15, 20, 25, 30, 40, 50, 60, 70) if r >= amps / 0.7)
    blade = rating <= (40 if full_v <= 58 else 30)
    kind, volts = ("blade" if blade else "large blade" if full_v <= 58 else "bolt-down"), (58 if full_v <= 58 else 80)
    return {"kind": kind, "rating_a": rating if kind != "bolt-down" else max(rating, 30), "dc_volts_v": volts}


def safe(pick: random.Random) -> Document:
    """A random machine every part of which bears several times what it is asked for."""
    chemistry = pick.choice(["li-ion", "li-ion", "lfp", "lead"])
    blocks = {"li-ion": [5, 10, 7], "lfp": [4, 8], "lead": [6]}[chemistry]
    nominal, full, guard = CELL_V[chemistry]
    cells = pick.choice(blocks)
    series = pick.randint(1, max(1, min(3, int(18 // cells))))
    rows = pick.randint(1, 4)
    total = cells * series
    volts, full_v = nominal * total, full * total
    limit = pick.choice([10.0, 14.0, 18.0, 22.0])
    # Even one row alone bears the limit; a dead short stays under 1 000 A, which blades break, also warm.
    ohm = max(0.008 * cells, rows * full_v / (700.0 * series))
    unit = {
        "label": f"{cells}-cell pack",
        "chemistry": chemistry,
        "cells_in_series": cells,
        "capacity_ah": named(pick.choice([8, 12, 20])),
        "charge": named(1.0),
        "board_max_v": named(4.0 * full_v),
        "resistance_ohm": named(ohm),
        "continuous_a": named(2.0 * limit),
        "peak_10s_a": named(4.0 * limit),
        "trip_a": named(6.0 * limit),
        "guard_in_tool": chemistry != "lead",
        "age": "new",
    }
    main, row = fuse_for(limit, full_v), fuse_for(limit, full_v)
    motor_w = round(0.85 * volts * limit / 50 + 1) * 50.0
    brushless = pick.random() < 0.4
    return {
        "version": 1,
        "vehicle": {
            "family": pick.choice(["kart", "mini bike", "small dirt bike"]),
            "brake": "disc",
            "braked_axles": "both",
            "plus_lead_proven": True,
            "cables_clear": True,
            "stock_charger_left": False,
            "board_in_path": "no",
        },
        "bank": {
            "rows": [
                {
                    "units": [deepcopy(unit) for _ in range(series)],
                    "fuse": {**row, "distance_m": named(0.1)},
                    "lead": {"awg": gauge_for(row["rating_a"]), "length_m": named(0.2)},
                    "link": {"awg": gauge_for(row["rating_a"]), "length_m": named(0.1)},
                    "plugs": [{"kind": "two-pole 90", "poles": 2}],
                }
                for _ in range(rows)
            ],
            "holding": {"by": ["strap"], "cushioned": True},
            "looked_sound": True,
        },
        "main_fuse": {**main, "distance_m": named(0.1)},
        "main_lead": {"awg": gauge_for(main["rating_a"]), "length_m": named(pick.uniform(0.3, 0.9))},
        "plugs": [{"kind": "two-pole 90", "poles": 2, "dc_volts_v": named(120)}],
        "motor_lead": {"awg": 6, "length_m": named(0.3)},
        "cut_off": {"kind": "switch", "rating_a": named(100), "dc_volts_v": named(120), "reach": "rider"},
        "guard": {"kind": "module", "volts_v": named(round(guard * total, 1)), "rating_a": named(100)},
        "controller": {
            "kind": "brushless" if brushless else "brushed",
            "nominal_v": named(volts),
            "max_v": named(1.1 * full_v),
            "undervoltage_v": named(0.8 * volts),
            "battery_limit_a": named(limit),
            "phase_limit_a": named(1.5 * limit),
            "throttle": "hall",
            "precharge": True,
        },
        "throttle": {"kind": "hall", "brake_cut_off_present": True, "brake_cut_off_wired": True, "returns": True},
        "motor": {
            "kind": "brushless mid" if brushless else "brushed",
            "volts_v": named(volts),
            "power_w": named(motor_w),
            "speed_rpm": named(2800),
            "mass_kg": named(motor_w / 60.0),
        },
        "drivetrain": {"kind": "chain", "motor_teeth": 12, "wheel_teeth": 80 if volts > 15 else 120, "chain_guard": True, "mount_homemade": False},
        "wheel": {"diameter_m": named(0.3), "tyre": "pneumatic"},
        "rider": {"name": "Ida", "age_years": 35, "mass_kg": named(62)},
        "ground": {"surface": "paving", "ambient_c": pick.choice([15, 25, 32])},
        "chargers": [{"label": "charger", "chemistry": chemistry, "end_v": named(full * cells), "amps_a": named(1.5), "place": "watched, clear of ways out"}],
        "auxiliaries": [
            {
                "label": "lamps",
                "amps_a": named(2),
                "fuse": {"kind": "blade", "rating_a": 10, "dc_volts_v": 58 if full_v <= 58 else 80},
                "lead": {"awg": 14, "length_m": named(0.5)},
                "converter": {"input_min_v": named(0.6 * volts), "input_max_v": named(1.3 * full_v), "output_v": named(12), "output_a": named(5)},
            }
        ],
    }


def full_of(d: Document) -> float:
    return float(sum(CELL_V[u["chemistry"]][1] * u["cells_in_series"] for u in d["bank"]["rows"][0]["units"]))


def limit_of(d: Document) -> float:
    return float(d["controller"]["battery_limit_a"]["value"])


def units(d: Document, **values: Any) -> None:
    for row in d["bank"]["rows"]:
        for unit in row["units"]:
            unit.update(values)


def many(d: Document) -> bool:
    return len(d["bank"]["rows"]) > 1


def long(d: Document) -> bool:
    return len(d["bank"]["rows"][0]["units"]) > 1


def lithium(d: Document) -> bool:
    return str(d["bank"]["rows"][0]["units"][0]["chemistry"]) != "lead"


def share(d: Document) -> float:
    """Peak amps of one row, rows alike: the bank's limit over their number."""
    return limit_of(d) / len(d["bank"]["rows"])


def always(_: Document) -> bool:
    return True


def rest(d: Document) -> None:
    """One row nearly full, the others half empty, behind little resistance."""
    full = full_of(d)
    units(d, resistance_ohm=named(0.005))
    for r, row in enumerate(d["bank"]["rows"]):
        for unit in row["units"]:
            unit["resting_v"] = named((0.99 if r == 0 else 0.90) * full / len(row["units"]), "measured")
            unit |= {"charge_limit_a": named(2), "charge": None}


def board(d: Document) -> None:
    """A board in the path, built for less than half the volts."""
    d["vehicle"]["board_in_path"] = "yes"
    d["stock"] = {"volts_v": named(0.4 * full_of(d))}


def half_empty_slots(d: Document) -> None:
    """Rows that together bear the limit, one alone not, and leave to ride with any of them."""
    d["bank"]["occupancy"] = "any"
    units(d, peak_10s_a=named(0.75 * limit_of(d)), continuous_a=None)


def first_unit(d: Document) -> Document:
    unit: Document = d["bank"]["rows"][0]["units"][0]
    return unit


HAZARDS: dict[str, tuple[str, Callable[[Document], bool], Callable[[Document], None]]] = {
    "controller too weak for full packs": ("pack.window.controller", always, put_in("controller__max_v", lambda d: named(full_of(d) - 0.5))),
    "controller never switches on": ("pack.window.low", always, put_in("controller__undervoltage_v", lambda d: named(full_of(d) * 0.99))),
    "board in the way of more volts": (
        "pack.window.board",
        always,
        board,
    ),
    "a third of the motor's volts": ("pack.overvolt", always, lambda d: d["motor"].update(volts_v=named(full_of(d) / 3), power_w=named(40), mass_kg=named(0.2))),
    "cells too weak": ("pack.current", always, lambda d: units(d, peak_10s_a=named(0.5 * share(d)))),
    "packs trip at once": ("pack.trip", always, lambda d: units(d, trip_a=named(0.5 * share(d)), trip_delay_s=named(0))),
    "unlike packs in a row": ("pack.mixed.series", long, lambda d: first_unit(d).update(capacity_ah=named(4))),
    "one cell more in a row": ("pack.mixed.parallel", many, lambda d: first_unit(d).update(cells_in_series=first_unit(d)["cells_in_series"] - 1)),
    "joined at unlike charge": ("pack.mixed.parallel", many, rest),
    "no guard": ("pack.guard", lithium, put_in("guard", lambda _: None)),
    "one row alone is overloaded": (
        "pack.slots",
        many,
        half_empty_slots,
    ),
    "a home pack with too many volts": ("pack.slots", always, lambda d: d["bank"].update(home_pack={"label": "home", "cells_in_series": 28, "capacity_ah": named(3)})),
    "no main fuse": ("fuse.none", always, put_in("main_fuse", lambda _: None)),
    "a row without its fuse": ("fuse.none", many, put_in("bank__rows__0__fuse", lambda _: None)),
    "main fuse in the minus lead": ("fuse.place", always, put_in("main_fuse__side", lambda _: "negative")),
    "row fuse in the minus lead": ("fuse.place", always, put_in("bank__rows__0__fuse__side", lambda _: "negative")),
    "main fuse under the volts": ("fuse.volts", always, put_in("main_fuse__dc_volts_v", lambda d: full_of(d) - 0.5)),
    "row fuse under the volts": ("fuse.volts", always, put_in("bank__rows__0__fuse__dc_volts_v", lambda d: full_of(d) - 0.5)),
    "holder under the volts": ("fuse.volts", always, put_in("main_fuse__holder_v", lambda d: named(full_of(d) - 0.5))),
    "main lead far too thin for its fuse": ("fuse.wire", always, put_in("main_lead", lambda _: {"awg": 18, "length_m": named(0.5), "bundle_conductors": 8})),
    "row lead far too thin for its fuse": ("fuse.wire", always, put_in("bank__rows__0__lead", lambda _: {"awg": 18, "length_m": named(0.2), "bundle_conductors": 8})),
    "fuse larger than the cut-off": ("fuse.parts", always, put_in("cut_off__rating_a", lambda d: named(d["main_fuse"]["rating_a"] - 1))),
    "row fuse larger than its plug": (
        "fuse.parts",
        always,
        lambda d: d["bank"]["rows"][0]["plugs"][0].update(rating_a=named(d["bank"]["rows"][0]["fuse"]["rating_a"] - 1)),
    ),
    "fuse cannot break a dead short": ("fuse.break", always, put_in("main_fuse__breaking_a", lambda _: 20)),
    "main lead in hot air": ("wire.ampacity", always, put_in("main_lead__air_c", lambda _: 105)),
    "accessory lead in hot air": ("wire.ampacity", always, put_in("auxiliaries__0__lead__air_c", lambda _: 105)),
    "a toy plug": ("plug.rating", always, lambda d: d["plugs"][0].update(rating_a=named(0.3))),
    "a browned plug": ("plug.browned", always, lambda d: d["plugs"][0].update(browned=True)),
    "a browned plug in a row": ("plug.browned", always, lambda d: d["bank"]["rows"][0]["plugs"][0].update(browned=True)),
    "cut-off under the volts": ("switch.dc", always, put_in("cut_off__dc_volts_v", lambda d: named(full_of(d) - 0.5))),
    "a plug under the volts": ("switch.dc", always, lambda d: d["plugs"][0].update(dc_volts_v=named(full_of(d) - 0.5))),
    "lamps through the frame": ("aux.return", always, put_in("auxiliaries__0__returns", lambda _: "frame")),
    "lamps from part of the string": ("aux.return", always, put_in("auxiliaries__0__taps", lambda _: "part of the string")),
    "converter under the volts": ("aux.converter", always, put_in("auxiliaries__0__converter__input_max_v", lambda d: named(full_of(d) - 0.5))),
    "converter for half the amps": ("aux.converter", always, put_in("auxiliaries__0__converter__output_a", lambda _: named(1))),
    "old charger": ("charge.volts", always, put_in("chargers__0__end_v", lambda d: named(0.8 * full_of(d) / len(d["bank"]["rows"][0]["units"])))),
    "charger for another chemistry": ("charge.volts", always, put_in("chargers__0__chemistry", lambda d: "lead" if lithium(d) else "li-ion")),
    "charger far too strong": ("charge.amps", always, put_in("chargers__0__amps_a", lambda _: named(60))),
    "mains plug on the charger": ("plug.charge", always, put_in("chargers__0__plug", lambda _: "mains pattern")),
}


CLASHES = [
    ("pack.window.low", ("pack.", "fuse.", "wire.", "plug.rating")),
    ("fuse.none", ("fuse.", "wire.")),
    ("wire.ampacity", ("fuse.wire",)),
    ("charge.volts", ("pack.mixed",)),
    ("pack.mixed.series", ("pack.slots",)),
]
"""Hazards that hide or bring each other for good reason: where nothing drives, no amps are asked; without a fuse there is none to judge;
a lead too thin for its amps is so for its fuse; unlike packs want unlike chargers."""


def clash(one: str, other: str) -> bool:
    """Whether two rules are one and the same, or cannot be told apart when both are hurt."""
    return one == other or any(a == rule and b.startswith(prefixes) for a, b in ((one, other), (other, one)) for rule, prefixes in CLASHES)


def stops(document: Document) -> set[str]:
    found = run_checks(Analysis(load_setup(document)))
    return {f"{f.finding.id}: {f.finding.because}" for f in found if f.finding.severity == "stop"}


def named_in(rule: str, found: set[str]) -> bool:
    return any(entry.startswith(f"{rule}: ") for entry in found)


class SafeByConstruction(TestCase):
    def test_no_hazard_is_missed_and_no_safe_setup_is_stopped(self) -> None:
        """Two hazards of different rules in each; over 300 setups every hazard at least five times."""
        pick = random.Random(20261125)
        times: Counter[str] = Counter()
        for number in range(SETUPS):
            document = safe(pick)
            with self.subTest(number):
                self.assertEqual(stops(document), set())
            fitting = [name for name, (_, applies, _) in HAZARDS.items() if applies(document)]
            # The rarest so far first, so that each gets its turn.
            pick.shuffle(fitting)
            one = min(fitting, key=lambda name: times[name])
            other = min((name for name in fitting if not clash(HAZARDS[name][0], HAZARDS[one][0])), key=lambda name: times[name])
            with self.subTest(number, hazards=(one, other)):
                both, rest_of = deepcopy(document), deepcopy(document)
                HAZARDS[other][2](rest_of)
                HAZARDS[one][2](both)
                HAZARDS[other][2](both)
                found, left = stops(both), stops(rest_of)
                self.assertTrue(named_in(HAZARDS[one][0], found) and named_in(HAZARDS[other][0], found), found)
                self.assertTrue(named_in(HAZARDS[other][0], left), left)
                self.assertFalse(named_in(HAZARDS[one][0], left), left)
            times.update((one, other))
        self.assertEqual([name for name in HAZARDS if times[name] < SETUPS // 60], [])
