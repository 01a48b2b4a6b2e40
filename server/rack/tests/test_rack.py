"""The rack: single parts with stickers, what happens to them, where they are used, and what lands in their logs by itself."""

from __future__ import annotations

from datetime import timedelta
from importlib import import_module
from typing import Any, ClassVar

from django.apps import apps
from django.test import TestCase
from django.utils import timezone

from gecko.tests.machines import named, safe_bike
from server.garage.models import Garage, PartEntry, RackPart
from server.garage.part_log import land
from server.garage.rack import facts_of, lettered
from server.testing import HouseholdCase

PACK: dict[str, Any] = {"label": "p", "cells_in_series": 10, "capacity_ah": named(6)}


class RackCase(HouseholdCase):
    def setUp(self) -> None:
        super().setUp()
        self.at = f"/api/garages/{self.home.garage.pk}/rack"

    def add(self, count: int = 1, kind: str = "packs", document: dict[str, Any] | None = None, **more: Any) -> list[Any]:
        return list(self.home.ok("POST", self.at, {"kind": kind, "label": "Garden pack", "document": document or PACK, "quantity": count, **more}))

    def put(self, part: dict[str, Any], **more: Any) -> Any:
        body = {**{name: part[name] for name in ("kind", "label", "document", "quantity", "about")}, **more}
        return self.home.send("PUT", f"{self.at}/{part['id']}", body)

    def build(self, *names: str, document: dict[str, Any]) -> Any:
        setups = [{"name": name, "document": document} for name in (names or ("As found",))]
        return self.home.ok("POST", f"/api/garages/{self.home.garage.pk}/builds", {"name": "Clover", "family": "small dirt bike", "setups": setups})

    def holding(self, *parts: dict[str, Any]) -> dict[str, Any]:
        """A setup whose packs are these parts, side by side."""
        fuse = {"kind": "blade", "rating_a": 20, "dc_volts_v": 58}
        return safe_bike(bank__rows=[{"units": [part["document"]], "fuse": fuse} for part in parts])


class Parts(RackCase):
    def test_each_piece_of_what_is_a_thing_is_one_with_its_sticker(self) -> None:
        self.assertEqual([one["letter"] for one in self.add(3)], ["A", "B", "C"])
        self.assertEqual([one["letter"] for one in self.add(1, "chargers", {"end_v": named(42), "amps_a": named(2)})], ["A"], "Each kind has its own letters.")
        (fuse,) = self.add(4, "fuses", {"rating_a": 30})
        self.assertEqual((fuse["letter"], fuse["quantity"], fuse["single"]), ("", 4, False))
        self.assertEqual(len(self.home.ok("GET", self.at)), 5)

    def test_a_sticker_is_free_again_only_when_nobody_can_come_back_with_it(self) -> None:
        first, second = self.add(2)
        self.home.ok("DELETE", f"{self.at}/{second['id']}")
        self.assertEqual(self.add()[0]["letter"], "C")
        self.assertEqual(self.put(first, letter="C").json()["message"], "Another one wears the sticker C already.")
        self.assertEqual(self.put(first, letter=" x1 ").json()["letter"], "X1")
        self.assertEqual(self.put(first, letter="a-b").status_code, 422)

    def test_letters_go_on_after_z(self) -> None:
        self.assertEqual([lettered(n) for n in (0, 25, 26, 51, 52, 701, 702)], ["A", "Z", "AA", "AZ", "BA", "ZZ", "AAA"])

    def test_a_part_is_called_what_it_is_called_and_nothing_else(self) -> None:
        (part,) = self.add()
        self.assertEqual((part["document"]["label"], part["document"]["rack"]), ("Garden pack", {"key": part["key"], "label": "Garden pack", "letter": "A"}))
        self.assertEqual(self.put(part, label="Strimmer pack").json()["document"]["label"], "Strimmer pack")
        self.assertNotIn("rack", RackPart.objects.get(pk=part["id"]).document)

    def test_what_is_wrong_is_refused_by_its_field(self) -> None:
        (part,) = self.add()
        for body, field in (
            ({"kind": "unicorns", "document": {}}, "/kind"),
            ({"kind": "packs", "document": {"cells_in_series": -1}}, "/cells_in_series"),
            ({"kind": "packs", "document": PACK, "quantity": 51}, "/quantity"),
            ({"kind": "packs", "document": PACK, "quantity": 0}, "/quantity"),
            ({"kind": "packs", "document": PACK, "about": {"state": "lovely"}}, "/state"),
            ({"kind": "packs", "document": PACK, "about": {"price": {"amount": 3, "currency": "shells"}}}, "/price/currency"),
        ):
            answer = self.home.send("POST", self.at, body)
            self.assertEqual((answer.status_code, answer.json()["field"]), (422, field))
        self.assertEqual(self.put(part, kind="motors").json()["field"], "/kind")
        self.assertEqual(self.put(part, quantity=2).json()["field"], "/quantity")
        self.assertEqual(len(self.home.ok("GET", self.at)), 1)

    def test_a_viewer_looks_and_another_household_does_not(self) -> None:
        (part,) = self.add()
        self.assertEqual(self.other.send("GET", f"{self.at}/{part['id']}").status_code, 404)
        self.assertEqual(self.other.send("GET", self.at).status_code, 404)
        self.assertEqual(self.other.send("POST", f"{self.at}/{part['id']}/log", {"kind": "note", "text": "x"}).status_code, 404)

    def test_two_are_kept_together_or_neither(self) -> None:
        a, b, c = self.add(3)
        self.put(a, about={"partner": b["key"]})
        pairs = {one["letter"]: one["about"].get("partner") for one in self.home.ok("GET", self.at)}
        self.assertEqual(pairs, {"A": b["key"], "B": a["key"], "C": None})
        # Whoever takes another leaves the first alone; notes stay what they are.
        self.put({**b, "about": {"partner": a["key"]}}, about={"partner": c["key"], "notes": "blue"})
        found = {one["letter"]: one["about"] for one in self.home.ok("GET", self.at)}
        self.assertEqual(found, {"A": {}, "B": {"partner": c["key"], "notes": "blue"}, "C": {"partner": b["key"]}})
        self.put(c, about={})
        self.assertEqual([one["about"].get("partner") for one in self.home.ok("GET", self.at)], [None, None, None])
        self.assertEqual(self.put(a, about={"partner": a["key"]}).status_code, 422)

    def test_two_thousand_parts_are_told_in_a_constant_number_of_queries(self) -> None:
        RackPart.objects.bulk_create(
            RackPart(garage=self.home.garage, kind="packs", label="p", letter=lettered(n), document={"cells_in_series": 5, "capacity_ah": {"value": 5}})
            for n in range(2000)
        )
        with self.assertNumQueries(4):
            self.assertEqual(len(self.home.ok("GET", self.at)), 2000)


class InPlans(RackCase):
    def test_a_hurt_pack_stops_every_plan_that_holds_it(self) -> None:
        (part,) = self.add()
        build = self.build(document=self.holding(part))
        draft = {"setup": self.holding(part), "build_id": build["id"]}

        def keys() -> set[str]:
            return {f["id"] for f in self.home.ok("POST", "/api/evaluate", draft)["findings"]}

        self.assertNotIn("rack.out", keys())
        self.assertEqual(self.home.ok("GET", f"/api/garages/{self.home.garage.pk}")["builds"][0]["stops"], 0)
        changed = self.put(part, about={"happened": [{"what": "wet"}]}).json()
        self.assertEqual(changed["out"]["title"], "got wet")
        self.assertIn("rack.out", keys())
        self.assertEqual(self.home.ok("GET", f"/api/garages/{self.home.garage.pk}")["builds"][0]["stops"], 1, "The garage's list hears of it too.")
        self.assertEqual(self.put(part, about={}).json()["out"], None)
        self.assertNotIn("rack.out", keys())

    def test_start_hears_of_it_too(self) -> None:
        part, _ = self.add(2)
        self.put(part, about={"state": "retired"})
        names = [one["document"]["rack"] for one in self.home.ok("GET", self.at)]
        body = {"baseline": safe_bike(), "garage_id": self.home.garage.pk, "shelf": [{"pack": PACK, "count": 2, "names": names}]}
        found = self.home.ok("POST", "/api/offers", body)["offers"]
        self.assertTrue(all("Garden pack A is retired" in one["stops"] for one in found))
        self.assertEqual(self.other.send("POST", "/api/offers", body).status_code, 404, "Whose rack it is, is its members' own.")

    def test_facts_are_only_of_the_parts_that_are_held_and_their_partners(self) -> None:
        a, b, c = self.add(3)
        self.put(a, about={"partner": b["key"]})
        self.put(c, about={"state": "retired"})
        garage = Garage.objects.get(pk=self.home.garage.pk)
        self.assertEqual({one.letter for one in facts_of(garage, self.holding(a))}, {"A", "B"})
        self.assertEqual({one.letter for one in facts_of(garage, self.holding(c))}, {"C"})
        with self.assertNumQueries(0):
            self.assertEqual(facts_of(garage, safe_bike()), ())

    def test_an_edit_follows_where_it_is_asked_for(self) -> None:
        (part,) = self.add()
        first, second = (self.build(document=self.holding(part)) for _ in range(2))
        ids = [build["setups"][0]["id"] for build in (first, second)]
        uses = self.home.ok("GET", f"{self.at}/{part['id']}/uses")
        self.assertEqual([one["setup"] for one in uses], ids)
        document = {**part["document"], "capacity_ah": named(5)}
        self.assertEqual(self.put(part, document=document, label="Old pack", follow=ids[:1]).status_code, 200)

        def unit(build: Any) -> Any:
            return self.home.ok("GET", f"/api/builds/{build['id']}")["setups"][0]["document"]["bank"]["rows"][0]["units"][0]

        followed, stayed = unit(first), unit(second)
        self.assertEqual((followed["capacity_ah"]["value"], followed["label"], followed["rack"]["label"]), (5, "Old pack", "Old pack"))
        self.assertEqual((stayed["capacity_ah"]["value"], stayed["label"]), (6, "Garden pack"))
        revisions = self.home.ok("GET", f"/api/setups/{ids[0]}/revisions")
        self.assertEqual([one["label"] for one in revisions], ["Old pack A as on the rack", "made"])

    def test_the_parts_list_asks_for_an_owned_part_once(self) -> None:
        (part,) = self.add()
        build = self.build("As found", "Changed", document=self.holding(part))
        needs = self.home.ok("GET", f"/api/setups/{build['setups'][0]['id']}/parts")["needs"]
        pack = next(one for one in needs if one["kind"] == "pack")
        self.assertEqual((pack["on_rack"], pack["to_buy"], pack["letters"]), (1, 0, ["A"]))
        table = self.home.whole(self.home.send("GET", f"/api/setups/{build['setups'][0]['id']}/parts.csv")).decode()
        self.assertIn("pack,Garden pack,,1,0,1,0,0,A,", table)


class Tables(RackCase):
    def test_out_and_in_again(self) -> None:
        self.add(2, about={"price": {"amount": 62, "currency": "EUR"}})
        self.add(3, "fuses", {"rating_a": 30})
        text = self.home.whole(self.home.send("GET", f"{self.at}.csv")).decode()
        theirs = f"/api/garages/{self.other.garage.pk}/rack"
        self.other.ok("POST", f"{theirs}/table", {"text": text})

        def plain(parts: Any) -> list[Any]:
            return [(one["kind"], one["label"], one["letter"], one["quantity"], one["about"], {**one["document"], "rack": None}) for one in parts]

        self.assertEqual(plain(self.other.ok("GET", theirs)), plain(self.home.ok("GET", self.at)))

    def test_a_wrong_line_puts_nothing_there(self) -> None:
        for text, words in (
            ("part,label,rating_a\nfuses,30 A,30\nfuses,bad,-3\n", "Line 3, rating_a:"),
            ("part,quantity,cells_in_series,capacity_ah\npacks,51,5,5\n", "Line 2: Each of these gets a sticker"),
            ("nothing\n", "The first line must name the columns"),
        ):
            answer = self.home.send("POST", f"{self.at}/table", {"text": text})
            self.assertEqual(answer.status_code, 422)
            self.assertIn(words, answer.json()["message"])
        self.assertEqual(self.home.ok("GET", self.at), [])


class Costs(RackCase):
    def test_each_setup_beside_a_new_machine(self) -> None:
        """A pack for 62 stands in the second setup and is owned: it counts as nothing, or at its price."""
        (part,) = self.add(about={"price": {"amount": 62, "currency": "USD"}})
        build = self.build("As found", "Changed", document=self.holding(part))
        found, changed = self.home.ok("GET", f"/api/builds/{build['id']}/costs")
        self.assertEqual(changed["whole"]["low"] - changed["to_buy"]["low"], 62)
        self.assertEqual((found["to_buy"]["currency"], found["setup"]), ("USD", build["setups"][0]["id"]))
        at = f"/api/builds/{build['id']}"
        self.assertIsNone(build["new_price"])
        self.assertEqual(self.home.ok("PATCH", at, {"new_price": {"amount": 349, "currency": "USD"}})["new_price"]["amount"], 349)
        self.assertEqual(self.home.ok("PATCH", at, {"name": "Clover"})["new_price"]["amount"], 349, "What is not named stays.")
        self.assertIsNone(self.home.ok("PATCH", at, {"new_price": ""})["new_price"])
        self.assertEqual(self.home.send("PATCH", at, {"new_price": {"amount": -3, "currency": "USD"}}).status_code, 422)
        self.assertEqual(self.other.send("GET", f"{at}/costs").status_code, 404)

    def test_in_the_garages_own_money(self) -> None:
        (part,) = self.add(about={"price": {"amount": 62, "currency": "SEK"}})
        self.home.ok("PATCH", f"/api/garages/{self.home.garage.pk}", {"units": {"money": "SEK"}})
        build = self.build(document=self.holding(part))
        (found,) = self.home.ok("GET", f"/api/builds/{build['id']}/costs")
        self.assertEqual((found["whole"]["currency"], found["whole"]["low"], found["whole"]["high"]), ("SEK", 62, None))
        self.assertEqual(self.home.send("PATCH", f"/api/garages/{self.home.garage.pk}", {"units": {"money": "shells"}}).status_code, 422)


class Kits(RackCase):
    MOTOR: ClassVar[dict[str, Any]] = {"kind": "motors", "label": "500 W motor", "document": {"kind": "brushed", "volts_v": named(36), "power_w": named(500)}}
    FUSES: ClassVar[dict[str, Any]] = {"kind": "fuses", "label": "30 A", "count": 3, "document": {"rating_a": 30}}

    def kit(self, **more: Any) -> Any:
        return self.add(1, "kits", {"contents": [self.MOTOR, self.FUSES], **more})[0]

    def test_a_kit_is_told_in_a_machine_and_changes_nothing(self) -> None:
        kit = self.kit()
        build = self.build("As found", "Changed", document=safe_bike())
        for build_id in (None, build["id"]):
            found = self.home.ok("POST", f"{self.at}/{kit['id']}/fit", {"setup": safe_bike(), "build_id": build_id})
            self.assertEqual((found["brings"], found["setup"]["motor"]["rack"]["key"]), (["500 W motor", "3 × 30 A"], f"{kit['key']}:0"))
        (pack,) = self.add()
        self.assertEqual(self.home.send("POST", f"{self.at}/{pack['id']}/fit", {"setup": safe_bike()}).json()["code"], "no_kit")
        self.assertEqual(self.other.send("POST", f"{self.at}/{kit['id']}/fit", {"setup": safe_bike()}).status_code, 404)

    def test_a_part_taken_out_is_one_by_itself_once(self) -> None:
        kit = self.kit(donor=True)
        (motor,) = self.home.ok("POST", f"{self.at}/{kit['id']}/take-out", {"number": 0})
        self.assertEqual((motor["kind"], motor["letter"], motor["about"]["had"], motor["about"]["notes"]), ("motors", "A", "from a donor", "Out of Garden pack A."))
        (fuses,) = self.home.ok("POST", f"{self.at}/{kit['id']}/take-out", {"number": 1})
        self.assertEqual((fuses["kind"], fuses["quantity"]), ("fuses", 3))
        self.assertEqual(self.home.send("POST", f"{self.at}/{kit['id']}/take-out", {"number": 0}).json()["code"], "taken")
        self.assertEqual(self.home.send("POST", f"{self.at}/{kit['id']}/take-out", {"number": 7}).status_code, 404)
        self.assertEqual([one["taken"] for one in self.home.ok("GET", f"{self.at}/{kit['id']}")["document"]["contents"]], [True, True])

    def test_a_kit_that_got_wet_stops_the_plan_of_its_parts(self) -> None:
        kit = self.kit()
        setup = self.home.ok("POST", f"{self.at}/{kit['id']}/fit", {"setup": safe_bike()})["setup"]
        build = self.build(document=setup)
        self.put(kit, about={"happened": [{"what": "wet"}]})
        found = self.home.ok("POST", "/api/evaluate", {"setup": setup, "build_id": build["id"]})["findings"]
        self.assertIn("Garden pack A got wet", [one["title"] for one in found if one["id"] == "rack.out"])
        self.assertEqual([one["setup"] for one in self.home.ok("GET", f"{self.at}/{kit['id']}/uses")], [build["setups"][0]["id"]])

    def test_a_wrong_part_is_told_by_its_place(self) -> None:
        wrong = {"contents": [{**self.MOTOR, "document": {"power_w": {"value": -5}}}]}
        answer = self.home.send("POST", self.at, {"kind": "kits", "label": "x", "document": wrong})
        self.assertEqual(answer.status_code, 422)
        self.assertIn("/contents/0", answer.json()["field"])


class Logs(RackCase):
    def log(self, part: dict[str, Any]) -> list[Any]:
        return list(self.home.ok("GET", f"{self.at}/{part['id']}/log"))

    def test_a_line_by_hand(self) -> None:
        (part,) = self.add()
        self.home.ok("POST", f"{self.at}/{part['id']}/log", {"kind": "capacity", "value": 5.4, "half": 0.2, "when": "2026-03-01T10:00:00Z"})
        (line,) = self.log(part)
        self.assertEqual([line[name] for name in ("kind", "value", "half", "source", "by_name")], ["capacity", 5.4, 0.2, "by hand", "ada"])
        for body in ({"kind": "capacity"}, {"kind": "capacity", "value": 0}, {"kind": "note"}, {"kind": "dreams", "text": "x"}):
            self.assertEqual(self.home.send("POST", f"{self.at}/{part['id']}/log", body).status_code, 422, body)

    def test_its_life_follows_from_it(self) -> None:
        (part,) = self.add()
        life = f"{self.at}/{part['id']}/life"
        self.assertEqual(self.home.ok("GET", life)["tone"], "unknown")
        for days in (300, 200, 100, 1):
            when = (timezone.now() - timedelta(days=days)).isoformat()
            self.home.ok("POST", f"{self.at}/{part['id']}/log", {"kind": "capacity", "value": 4.0, "half": 0.1, "when": when})
        found = self.home.ok("GET", life)
        self.assertEqual((found["tone"], found["title"]), ("over", "Worn out."))
        (fuse,) = self.add(2, "fuses", {"rating_a": 30})
        self.assertIsNone(self.home.ok("GET", f"{self.at}/{fuse['id']}/life"))

    def test_what_is_measured_in_power_lands_once(self) -> None:
        (part,) = self.add()
        build = self.build(document=self.holding(part))
        setup = build["setups"][0]["id"]
        self.assertEqual(self.log(part), [], "What came in with the pack was measured before.")
        for version, ohm in ((1, 0.1), (2, 0.12)):
            document = self.holding(part)
            document["bank"]["rows"][0]["units"][0]["resistance_ohm"] = {"value": ohm, "basis": "measured", "spread": 0.05}
            self.home.ok("PUT", f"/api/setups/{setup}", {"document": document, "based_on": version})
        (line,) = self.log(part)
        self.assertEqual((line["kind"], line["value"], line["source"]), ("resistance", 0.12, "Power"))
        self.assertAlmostEqual(line["half"], 1.96 * 0.05 * 0.12)

    def test_a_figure_off_the_label_is_no_reading(self) -> None:
        (part,) = self.add()
        build = self.build(document=self.holding(part))
        document = self.holding(part)
        document["bank"]["rows"][0]["units"][0]["resistance_ohm"] = {"value": 0.1, "basis": "nameplate"}
        self.home.ok("PUT", f"/api/setups/{build['setups'][0]['id']}", {"document": document, "based_on": 1})
        self.assertEqual(self.log(part), [])

    def test_volts_before_a_run_land_in_every_pack_that_is_a_row(self) -> None:
        a, b = self.add(2)
        build = self.build("As found", "Changed", document=self.holding(a, b))
        setup = build["setups"][0]["id"]
        passes = [{"distance_m": 30.0, "time_s": 8.0, "direction": way} for way in ("out", "back")]
        body = {"setup_id": setup, "passes": passes, "volts_before_v": 41.2, "confirmed": True, "when": "2026-03-01T10:00:00Z"}
        self.home.ok("POST", f"/api/builds/{build['id']}/trials", body)
        for part in (a, b):
            (line,) = self.log(part)
            self.assertEqual((line["kind"], line["value"], line["source"], line["when"]), ("rested", 41.2, "Prove", "2026-03-01T10:00:00Z"))

    def test_what_the_hookup_measures_on_one_pack_lands_in_its_log(self) -> None:
        (part,) = self.add()
        build = self.build("As found", "Changed", document=self.holding(part))
        setup = build["setups"][1]["id"]
        step = next(one for one in self.home.ok("POST", "/api/hookup", {"setup": self.holding(part)})["plan"]["steps"] if one["id"] == "pack0")
        reading = step["reading"]["expected"]
        self.home.ok("PUT", f"/api/setups/{setup}/ticks/pack0", {"measured": reading})
        lines = [line for line in self.log(part) if line["source"] == "Hookup"]
        self.assertEqual([(line["kind"], line["value"]) for line in lines], [("rested", reading)])

    def test_a_reading_for_a_part_that_is_gone_is_no_failure(self) -> None:
        land(self.home.garage, "nobody", "rested", 20.0, None, "ada", "Prove")
        self.assertFalse(PartEntry.objects.exists())


class Migration(TestCase):
    def test_three_alike_become_three_with_letters(self) -> None:
        """What a garage of before holds, through the migration's own step: rows with counts, and nothing but a key of its own for each."""
        garage = Garage.objects.create(name="Shed")
        rows = [("packs", "p", 3), ("fuses", "30 A", 4), ("packs", "q", 1), ("packs", "gone", 0)]
        for number, (kind, label, count) in enumerate(rows):
            RackPart.objects.create(garage=garage, kind=kind, label=label, document={"cells_in_series": 5}, quantity=count, key=f"same {number}")
        import_module("server.garage.migrations.0006_parts_as_things").one_by_one(apps, None)
        found = [(p.label, p.letter, p.quantity, p.about.get("status", "")) for p in RackPart.objects.order_by("kind", "label", "letter")]
        self.assertEqual(
            found,
            [("30 A", "", 4, ""), ("gone", "E", 1, "wanted"), ("p", "A", 1, ""), ("p", "B", 1, ""), ("p", "C", 1, ""), ("q", "D", 1, "")],
        )
        self.assertEqual(RackPart.objects.values("key").distinct().count(), 6)


class KitsToBeginWith(RackCase):
    def test_every_arrangement_has_the_kit_of_the_rack_in_it(self) -> None:
        motor = {"kind": "brushed", "volts_v": named(36), "power_w": named(500)}
        (kit,) = self.add(kind="kits", document={"contents": [{"kind": "motors", "label": "Spare motor", "document": motor}]}, label="Box")
        (pack,) = self.add()
        asked = {"baseline": safe_bike(), "garage_id": self.home.garage.pk, "shelf": [{"pack": PACK, "count": 1}]}
        found = self.home.ok("POST", "/api/offers", {**asked, "kit": kit["id"]})["offers"]
        self.assertEqual([one["name"] for one in found], ["One pack, Box A"])
        self.assertEqual({one["setup"]["motor"]["rack"]["key"] for one in found}, {f"{kit['key']}:0"})
        self.assertEqual(self.home.send("POST", "/api/offers", {**asked, "kit": pack["id"]}).status_code, 409)
        (single,) = self.add(kind="motors", document=motor, label="Spare")
        (only,) = self.home.ok("POST", "/api/offers", {**asked, "kit": single["id"]})["offers"]
        self.assertEqual((only["name"], only["setup"]["motor"]["rack"]["key"]), ("One pack, Spare A", single["key"]))
        self.assertEqual(self.home.send("POST", "/api/offers", {**asked, "kit": 10**6}).status_code, 404)
        self.assertEqual(self.other.send("POST", "/api/offers", {**asked, "kit": kit["id"]}).status_code, 404)
