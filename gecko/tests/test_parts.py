"""Parts and figures: what a document may say, what is refused and in which words, and what an empty field means."""

from __future__ import annotations

from pathlib import Path
from typing import Any
from unittest import TestCase

import numpy as np
from pydantic import ValidationError

import gecko
from gecko.analysis.whole import Analysis
from gecko.common.errors import GeckoError, UnknownPart, field_problems
from gecko.common.figures import SPREAD, Figure, Sampler
from gecko.common.units import mph
from gecko.common.words import amps, plain, q, seconds, volts
from gecko.document.catalogue import catalogue, pack
from gecko.document.parts.bounds import table
from gecko.document.parts.charger import Charger
from gecko.document.parts.fuse import Fuse
from gecko.document.parts.motor import Motor
from gecko.document.parts.pack import Pack, charge_limit_a, default_resistance_ohm, resistance_figure
from gecko.document.parts.rider import Rider
from gecko.document.parts.vehicle import Vehicle
from gecko.document.setup import json_schema, load_setup
from gecko.machine.caps import Cap, cap_by_age, cap_of
from gecko.physics.protection.ampacity import Size
from gecko.reference.rows import read_rows, source_of
from gecko.reference.tables import OfferedFuse, ampacity_row, contact, families, fuse_curve, offered_fuses, surface, terms, typical_mass_kg
from gecko.rules.edits import both, figure, fuse_and_size, put, round_up
from gecko.tests.machines import bike, named, safe_bike


def problem(document: Any) -> dict[str, str]:
    """What the first wrong field of a document is told."""
    try:
        load_setup(document)
    except ValidationError as error:
        return field_problems(error)[0]
    raise AssertionError("The document was accepted.")


class Figures(TestCase):
    def test_a_bare_number_is_an_assumption(self) -> None:
        pack_ = Pack.model_validate({"cells_in_series": 5, "capacity_ah": 4})
        self.assertEqual((pack_.capacity_ah.value, pack_.capacity_ah.basis), (4.0, "assumed"))

    def test_text_is_read_with_point_or_comma(self) -> None:
        for text in ("4.5", "4,5", " 4.5 "):
            self.assertEqual(Pack.model_validate({"cells_in_series": 5, "capacity_ah": text}).capacity_ah.value, 4.5)
            both_ways = {"cells_in_series": 5, "capacity_ah": {"value": text, "basis": "measured"}}
            self.assertEqual(Pack.model_validate(both_ways).capacity_ah.basis, "measured")

    def test_true_is_no_number(self) -> None:
        with self.assertRaises(ValidationError):
            Pack.model_validate({"cells_in_series": 5, "capacity_ah": True})

    def test_spread_by_basis_unless_it_is_better_known(self) -> None:
        for basis, spread in SPREAD.items():
            self.assertEqual(Figure(value=1, basis=basis).sigma, spread)
        self.assertEqual(Figure(value=1, basis="assumed", spread=0.01).sigma, 0.01)
        self.assertTrue(SPREAD["measured"] < SPREAD["nameplate"] < SPREAD["assumed"])

    def test_samples_are_log_normal_about_the_value(self) -> None:
        """ln(x/value) has mean 0 and standard deviation σ: for 20 000 draws within 5/√n of it."""
        drawn = Sampler(20_000).draw(Figure(value=12, basis="assumed"))
        logarithm = np.log(drawn / 12.0)
        self.assertAlmostEqual(float(logarithm.mean()), 0.0, delta=0.2 * 5 / 20_000**0.5)
        self.assertAlmostEqual(float(logarithm.std()), 0.2, delta=0.2 * 5 / 40_000**0.5)

    def test_an_efficiency_is_spread_by_its_loss_and_stays_one(self) -> None:
        sampler = Sampler(500)
        self.assertEqual(sampler.draw_efficiency(Figure(value=1.0)), 1.0)
        drawn = sampler.draw_efficiency(Figure(value=0.97, basis="assumed"))
        self.assertTrue(np.min(drawn) > 0.9 and np.max(drawn) <= 0.99)
        self.assertEqual(Sampler(None).draw_efficiency(Figure(value=0.8)), 0.8)

    def test_a_share_stays_a_share(self) -> None:
        drawn = Sampler(500).draw_share(Figure(value=0.9, basis="assumed"))
        self.assertTrue(np.min(drawn) >= 0 and np.max(drawn) <= 1.0)
        self.assertEqual(Sampler(None).draw_share(Figure(value=0.9)), 0.9)

    def test_same_seed_same_draws_other_seed_other_draws(self) -> None:
        wide = Figure(value=5)
        self.assertTrue(np.array_equal(Sampler(50, 1).draw(wide), Sampler(50, 1).draw(wide)))
        self.assertFalse(np.array_equal(Sampler(50, 1).draw(wide), Sampler(50, 2).draw(wide)))


class InBounds(TestCase):
    """One table says what every number may be."""

    def test_every_number_of_a_document_stands_in_the_table_or_says_its_own_limits(self) -> None:
        loose, seen = [], set()
        for name, part in json_schema()["$defs"].items():
            for field, schema in part.get("properties", {}).items():
                for kind in schema.get("anyOf", [schema]):
                    if kind.get("$ref", "").endswith("/Figure") or (kind.get("type") in ("number", "integer") and "enum" not in kind and name != "Figure"):
                        seen.add(kind.get("bounds"))
                        if not {"minimum", "exclusiveMinimum"} & set(kind) or "maximum" not in kind:
                            loose.append(f"{name}.{field}")
        self.assertEqual(loose, [])
        self.assertEqual(seen - {None}, set(table()), "Every row is used.")

    def test_each_row_takes_its_limits_and_nothing_beyond(self) -> None:
        for row in table().values():
            with self.subTest(row.figure):
                self.assertTrue(row.low <= row.usual_low < row.usual_high <= row.high)
                self.assertEqual([row.problem(value) for value in (row.low, row.high, row.usual_low, row.usual_high)], [None] * 4)
                for beyond in (row.low - 1e-3 * max(abs(row.low), 1e-3), row.high * (1.001 if row.high > 0 else 0.999)):
                    self.assertRegex(row.problem(beyond) or "", r"^[A-Z].* Usual is .* to .*\. Check the unit")

    def test_said_in_the_units_of_the_field(self) -> None:
        said = {name: table()[name].say(0.25) for name in ("wheel.diameter_m", "motor.kv_rpm_per_v", "pack.charge", "wire.mm2", "leg.speed_m_s", "vehicle.drag_area_m2")}
        self.assertEqual(
            said,
            {
                "wheel.diameter_m": "[[0.25|length]]",
                "motor.kv_rpm_per_v": "0.25 rpm/V",
                "pack.charge": "0.25",
                "wire.mm2": "0.25 mm²",
                "leg.speed_m_s": "[[0.25|speed]]",
                "vehicle.drag_area_m2": "0.25 m²",
            },
        )


class Refusals(TestCase):
    """A refusal names the field by a JSON Pointer and says in plain words what would be right."""

    def test_words_for_each_kind_of_mistake(self) -> None:
        unit = "bank__rows__0__units__0__"
        cases: list[tuple[dict[str, Any], str, str]] = [
            ({unit + "cells_in_series": 0}, "cells_in_series", "at least 1"),
            ({unit + "cells_in_series": 33}, "cells_in_series", "at most 32"),
            ({unit + "cells_in_series": 5.5}, "cells_in_series", "whole number"),
            ({unit + "cells_in_series": "five"}, "cells_in_series", "whole number"),
            ({unit + "chemistry": "zinc"}, "chemistry", "must be one of"),
            ({unit + "capacity_ah": named(0)}, "capacity_ah", "must be more than zero. Usual is 1.5 Ah to 40 Ah."),
            ({unit + "capacity_ah": named(-4)}, "capacity_ah", "cannot be negative"),
            ({unit + "capacity_ah": named(1001)}, "capacity_ah", "The most this planner takes is 1000 Ah; this is 1001 Ah. Usual is 1.5 Ah to 40 Ah. Check the unit"),
            ({unit + "capacity_ah": "four"}, "capacity_ah", "number, such as 12.5"),
            ({unit + "capacity_ah": {"value": float("inf"), "basis": "measured"}}, "capacity_ah", "not infinite"),
            ({unit + "capacity_ah": {"value": float("nan"), "basis": "measured"}}, "capacity_ah", "not infinite"),
            ({unit + "label": "x" * 61}, "label", "too long: at most 60"),
            ({unit + "colour": "red"}, "colour", "not a field of this part"),
            ({unit + "trip_delay_s": named(-1)}, "trip_delay_s", "cannot be negative"),
            ({"bank__rows": []}, "rows", "at least 1"),
            ({"bank__rows__0__units": []}, "units", "at least 1"),
            ({"main_fuse__rating_a": 0}, "rating_a", "more than zero"),
            ({"main_lead__awg": 11}, "awg", "must be one of"),
            ({"plugs": [{"kind": "spade 6.3"}] * 13}, "plugs", "at most 12"),
            ({"throttle__limiter_mark": 1.2}, "limiter_mark", "most this planner takes is 1; this is 1.2"),
            ({"ground": {"ambient_c": 80}}, "ambient_c", "most this planner takes is [[55|temp]]; this is [[80|temp]]"),
            ({"rider": {"age_years": 0}}, "age_years", "more than zero"),
            ({"drivetrain__motor_teeth": 4}, "motor_teeth", "at least 5"),
            ({"version": 2}, "version", "must be one of"),
        ]
        for changes, field, words in cases:
            with self.subTest(field=field, changes=changes):
                found = problem(safe_bike(**changes))
                self.assertIn(field, found["path"].split("/"))
                self.assertIn(words, found["message"])
                self.assertRegex(found["message"], r"^[A-Z0-9].*\.$")

    def test_something_other_than_a_document(self) -> None:
        for nonsense in (None, 3, "bike", [1, 2]):
            self.assertTrue(problem(nonsense)["message"])

    def test_a_missing_number_of_a_part(self) -> None:
        found = problem({"bank": {"rows": [{"units": [{"cells_in_series": 5}]}]}})
        self.assertEqual(found, {"path": "/bank/rows/0/units/0/capacity_ah", "message": "Capacity ah is missing."})

    def test_every_wrong_field_is_listed_at_once(self) -> None:
        try:
            load_setup(safe_bike(main_fuse__rating_a=-1, main_lead__awg=3, wheel__diameter_m=named(-1)))
        except ValidationError as error:
            self.assertEqual({p["path"] for p in field_problems(error)}, {"/main_fuse/rating_a", "/main_lead/awg", "/wheel/diameter_m"})

    def test_a_bank_over_120_volts_is_refused_and_one_just_under_is_not(self) -> None:
        """28 cells of 4.20 V are 117.6 V; 29 are 121.8 V. Lead counts at 2.40 V a cell: 51 cells would be 122.4 V."""

        def bank(*cells: int, chemistry: str = "li-ion") -> dict[str, Any]:
            units = [{"chemistry": chemistry, "cells_in_series": n, "capacity_ah": 5} for n in cells]
            return {"bank": {"rows": [{"units": units}]}}

        self.assertIsNotNone(load_setup(bank(14, 14)).bank)
        self.assertIn("122 V", problem(bank(14, 15))["message"])
        self.assertIn("122 V", problem(bank(17, 17, 17, chemistry="lead"))["message"])

    def test_errors_carry_code_and_field(self) -> None:
        error = GeckoError("No.", code="x", path="/a", hint="h")
        self.assertEqual((str(error), error.message, error.code, error.path, error.hint), ("No.", "No.", "x", "/a", "h"))


class Packs(TestCase):
    def pack(self, **fields: Any) -> Pack:
        return Pack.model_validate({"cells_in_series": 10, "capacity_ah": 5, **fields})

    def test_window_by_chemistry(self) -> None:
        """Per cell nominal, full, empty: lithium 3.60, 4.20, 3.00; LFP 3.20, 3.65, 2.50; lead 2.00, 2.40, 1.75 V."""
        for chemistry, nominal, full, empty in (("li-ion", 36.0, 42.0, 30.0), ("lfp", 32.0, 36.5, 25.0), ("lead", 20.0, 24.0, 17.5)):
            one = self.pack(chemistry=chemistry)
            for got, wanted in zip((one.nominal_v, one.full_v, one.empty_v), (nominal, full, empty), strict=True):
                self.assertAlmostEqual(got, wanted, places=9)

    def test_assumed_resistance_by_hand(self) -> None:
        """Power cells 10·0.050/5 + 0.010 = 0.110; energy 10·0.090/5 + 0.010 = 0.190; LFP 0.130; lead (10/6)(0.20/5 + 0.004) = 0.0733 Ω."""
        for fields, ohm in (({}, 0.110), ({"cell_kind": "energy"}, 0.190), ({"chemistry": "lfp"}, 0.130), ({"chemistry": "lead"}, 0.0733333)):
            self.assertAlmostEqual(default_resistance_ohm(self.pack(**fields)), ohm, places=6)

    def test_an_entered_resistance_keeps_its_basis(self) -> None:
        self.assertEqual(resistance_figure(self.pack(resistance_ohm=named(0.2, "measured"))).basis, "measured")
        self.assertEqual(resistance_figure(self.pack()).basis, "assumed")

    def test_charge_limit(self) -> None:
        self.assertEqual(charge_limit_a(self.pack()), 5.0)
        self.assertEqual(charge_limit_a(self.pack(chemistry="lead")), 1.25)
        self.assertEqual(charge_limit_a(self.pack(charge_limit_a=2)), 2.0)


class OtherParts(TestCase):
    def test_a_fuse_breaks_what_its_kind_does_unless_printed(self) -> None:
        self.assertEqual(Fuse(rating_a=30).breaks_a, 1_000.0)
        self.assertEqual(Fuse(rating_a=30, kind="cartridge").breaks_a, 20_000.0)
        self.assertEqual(Fuse(rating_a=30, kind="cartridge", breaking_a=500).breaks_a, 500.0)

    def test_which_motors_are_brushless(self) -> None:
        self.assertEqual([Motor.model_validate({"kind": k}).brushless for k in ("small gear motor", "brushed", "hub", "brushless mid")], [False, False, True, True])

    def test_parts_are_not_changed_in_place(self) -> None:
        charger = Charger.model_validate({"end_v": 42, "amps_a": 2})
        with self.assertRaises(ValidationError):
            charger.label = "other"  # type: ignore[misc]


class Tables(TestCase):
    def test_every_table_names_its_source(self) -> None:
        for name in ("awg", "cells", "contacts", "families", "fuse_curves", "offered_fuses", "riders", "surfaces"):
            self.assertGreater(len(source_of(name)), 20, name)
            self.assertTrue(read_rows(name), name)

    def test_thicker_wire_and_better_insulation_stand_more(self) -> None:
        for row in ("60", "75", "105", "silicone", "building"):
            stands = [ampacity_row(row)[awg] for awg in (18, 16, 14, 12, 10, 8, 6, 4, 2)]
            self.assertEqual(stands, sorted(stands))
        for awg in (18, 10, 2):
            self.assertTrue(ampacity_row("building")[awg] < ampacity_row("60")[awg] <= ampacity_row("75")[awg] < ampacity_row("105")[awg] < ampacity_row("silicone")[awg])

    def test_fuse_bands_fall_and_keep_their_order(self) -> None:
        for kind in ("blade", "large blade", "bolt-down", "cartridge"):
            curve = fuse_curve(kind)
            self.assertEqual(list(curve.multiples), sorted(curve.multiples))
            self.assertEqual(list(curve.shortest_s), sorted(curve.shortest_s, reverse=True))
            self.assertTrue(all(short < long for short, long in zip(curve.shortest_s, curve.longest_s, strict=True)))

    def test_offered_fuses_are_unlike_each_other(self) -> None:
        self.assertEqual(len(set(offered_fuses())), len(offered_fuses()))

    def test_what_is_not_in_a_table_is_refused_by_name(self) -> None:
        with self.assertRaisesRegex(UnknownPart, "banana"):
            contact("banana")
        with self.assertRaisesRegex(UnknownPart, "moon"):
            surface("moon", "plastic")

    def test_riders_grow_and_so_do_their_caps(self) -> None:
        """19 kg from four, 30 kg at eight; 3 mph up to four, then straight lines through 5 at six, 8 at nine, 12 at twelve, 18 at sixteen, 25 at 18."""
        self.assertEqual([typical_mass_kg(age) for age in (0, 16, 3.9, 4, 8.5, 15.9)], [15, 75.0, 15, 19, 30, 46])
        for age, cap in ((2, 3), (4, 3), (5, 4), (6, 5), (7.5, 6.5), (9, 8), (12, 12), (14, 15), (16, 18), (17, 21.5), (18, 25), (70, 25)):
            self.assertAlmostEqual(cap_by_age(age), mph(cap), places=9)

    def test_stance_brake_and_springs_lower_a_cap(self) -> None:
        """A ten-year-old's 9.33 mph: standing × 0.8, gearbox alone × 0.8, no suspension × 0.9; never under 5 mph, and the maker's comes first."""
        family = families()["scooter"]
        free = mph(8 + 4 / 3)

        def cap(rider: Rider | None, **vehicle: Any) -> Cap:
            found = cap_of(rider, Vehicle.model_validate({"family": "scooter", **vehicle}), family, "pneumatic")
            assert found is not None
            return found

        ten, four = Rider(age_years=10), Rider(age_years=4)
        self.assertAlmostEqual(cap(ten).speed_m_s, free, places=9)
        self.assertAlmostEqual(cap(Rider(age_years=10, standing=True)).speed_m_s, 0.8 * free, places=9)
        self.assertEqual(cap(Rider(age_years=10, standing=True)).why, "standing")
        self.assertAlmostEqual(cap(ten, brake="gearbox drag", suspension=False).speed_m_s, 0.72 * free, places=9)
        self.assertAlmostEqual(cap(Rider(age_years=7, standing=True), brake="gearbox drag").speed_m_s, mph(5), places=9)
        self.assertAlmostEqual(cap(four, brake="gearbox drag").speed_m_s, mph(3), places=9)
        self.assertEqual((cap(ten, max_speed_m_s=2.0).speed_m_s, cap(ten, max_speed_m_s=2.0).basis), (2.0, "maker"))
        self.assertEqual((cap(None).age_years, cap(None).age_known, cap(Rider(name="Bo")).basis), (8.0, False, "youngest"))
        self.assertEqual((cap(Rider(age_years=18)).advice, cap(Rider(age_years=17)).advice), (True, False))

    def test_a_tyre_grips_paving_best(self) -> None:
        for tyre in ("plastic", "banded plastic", "solid", "pneumatic"):
            rolling = [surface(s, tyre)[0] for s in ("paving", "packed dirt", "short grass", "long grass", "deep sand")]
            self.assertEqual(rolling, sorted(rolling))
            self.assertTrue(all(surface(s, tyre)[1] <= surface("paving", tyre)[1] for s in ("packed dirt", "deep sand")))

    def test_typical_machines_are_whole(self) -> None:
        for family in families().values():
            self.assertLess(family.com_ahead_of_rear_m, family.wheelbase_m)
            self.assertTrue(family.drag_child_m2 < family.drag_adult_m2)
            self.assertEqual(family.controller == "none", family.family == "ride-on car")

    def test_ids_of_the_catalogue_are_unique_and_its_labels_plain(self) -> None:
        ids = [entry["id"] for kind in catalogue().values() for entry in kind]
        self.assertEqual(len(ids), len(set(ids)))
        self.assertEqual(pack("pack-5s-5")["cells_in_series"], 5)
        with self.assertRaises(StopIteration):
            pack("no-such-pack")


class Edits(TestCase):
    def test_put_makes_the_parts_on_its_way(self) -> None:
        document: dict[str, Any] = {"controller": None, "plugs": [{"kind": "other"}]}
        put("controller/max_v", figure(50))(document)
        put("plugs/0/kind", "two-pole 90")(document)
        self.assertEqual(document, {"controller": {"max_v": {"value": 50, "basis": "assumed"}}, "plugs": [{"kind": "two-pole 90"}]})

    def test_put_replaces_an_entry_of_a_list(self) -> None:
        document: dict[str, Any] = {"plugs": [1, 2]}
        put("plugs/1", 3)(document)
        self.assertEqual(document["plugs"], [1, 3])

    def test_both_are_one(self) -> None:
        document: dict[str, Any] = {}
        both(put("a/b", 1), put("a/c", 2))(document)
        self.assertEqual(document, {"a": {"b": 1, "c": 2}})

    def test_fuse_and_wire_go_together_and_forget_the_old_ratings(self) -> None:
        setup = bike(main_fuse__breaking_a=100, main_fuse__holder_a=named(20), main_fuse__side="negative", main_lead__mm2=2.5)
        run = Analysis(setup).run("main")
        assert run is not None
        edit = fuse_and_size(run, OfferedFuse("blade", 58.0, 1000.0, 30.0), Size(10))
        document = setup.model_dump(mode="json")
        edit.change(document)
        self.assertEqual(plain(edit.label), "30 A blade, 58 V × 10 AWG")
        self.assertEqual((document["main_lead"]["awg"], document["main_lead"]["mm2"]), (10, None))
        fuse = document["main_fuse"]
        self.assertEqual((fuse["rating_a"], fuse["breaking_a"], fuse["holder_a"], fuse["side"]), (30, None, None, "negative"))

    def test_a_run_of_like_rows_is_changed_in_each(self) -> None:
        row = {"units": [safe_bike()["bank"]["rows"][0]["units"][0]], "fuse": {"rating_a": 20, "dc_volts_v": 58}, "lead": {"awg": 14, "length_m": named(0.2)}}
        setup = bike(bank__rows=[row, row])
        run = Analysis(setup).run("row0")
        assert run is not None
        document = setup.model_dump(mode="json")
        fuse_and_size(run, None, Size(12)).change(document)
        self.assertEqual([r["lead"]["awg"] for r in document["bank"]["rows"]], [12, 12])

    def test_rounding_up_bears_the_last_bit(self) -> None:
        self.assertEqual([round_up(v, 10) for v in (0.1, 10.0, 10.0000000001, 10.1)], [10, 10, 10, 20])


class Words(TestCase):
    def test_digits_follow_the_size(self) -> None:
        self.assertEqual([amps(v) for v in (0.04, 7.44, 9.96, 38.4)], ["0.0 A", "7.4 A", "10.0 A", "38 A"])
        self.assertEqual(volts(25.25), "25.2 V")
        self.assertEqual([seconds(v) for v in (0.5, 9.9, 119, 120, 3600, 6030)], ["0.5 s", "9.9 s", "119 s", "2 min", "60 min", "1 h 40 min"])

    def test_a_quantity_in_a_sentence_keeps_six_digits(self) -> None:
        self.assertEqual(q(1.23456789, "length"), "[[1.23457|length]]")
        self.assertEqual(plain("from [[-10|temp]] to [[2.5e+01|temp]], [[30.04|mass]]"), "from -10 °C to 25 °C, 30 kg")

    def test_text_without_quantities_stays(self) -> None:
        self.assertEqual(plain("Nothing [here] to |convert|."), "Nothing [here] to |convert|.")


class WordsOfTheTrade(TestCase):
    def test_each_is_said_somewhere_and_explained_once(self) -> None:
        """A word that no sentence of the core or the page uses explains nothing; one that stands twice would be explained by chance."""
        root = Path(gecko.__file__).resolve().parent
        files = [path for path in root.rglob("*.py") if "tests" not in path.parts] + list((root.parent / "web" / "src").rglob("*.tsx"))
        text = " ".join(path.read_text(encoding="utf-8") for path in files)
        for term in terms():
            with self.subTest(term.words[0]):
                self.assertTrue(any(word in text for word in term.words))
                self.assertRegex(term.says, r"^[A-Z].{30,}\.$")
        words = [word.lower() for term in terms() for word in term.words]
        self.assertEqual(len(words), len(set(words)))
