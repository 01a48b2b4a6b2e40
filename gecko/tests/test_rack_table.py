"""Parts of one's own as a table, out and in."""

from __future__ import annotations

import csv
import io
from typing import Any
from unittest import TestCase

from gecko.common.errors import GeckoError
from gecko.document.catalogue import catalogue
from gecko.document.rack.about import About, Racked
from gecko.document.rack.kinds import PART_KINDS, RACK_KINDS
from gecko.document.rack.table import read_table, write_table
from gecko.tests.machines import named

PACK: dict[str, Any] = {"label": "Garden pack", "cells_in_series": 7, "capacity_ah": named(4), "guard_in_tool": True}


def racked(kind: str, document: dict[str, Any], quantity: int = 1, label: str = "Garden pack", **about: Any) -> Racked:
    return Racked(kind=kind, part=RACK_KINDS[kind].model_validate(document), quantity=quantity, label=label, letter="A", about=About.model_validate(about))


class Table(TestCase):
    def test_a_line_by_hand(self) -> None:
        text = write_table([racked("packs", PACK, state="worn", price={"amount": 62, "currency": "EUR", "where": "market"})])
        (row,) = csv.DictReader(io.StringIO(text))
        told = {name: value for name, value in row.items() if value}
        self.assertEqual(
            told,
            {
                "part": "packs",
                "label": "Garden pack",
                "letter": "A",
                "quantity": "1",
                "state": "worn",
                "price": "62",
                "currency": "EUR",
                "where": "market",
                "cells_in_series": "7",
                "capacity_ah": "4",
                "capacity_ah basis": "nameplate",
                "guard_in_tool": "yes",
            },
        )

    def test_every_shipped_part_comes_back_as_it_was(self) -> None:
        """Each kind the catalogue has, out and in: the same part, figure by figure."""
        tried = 0
        for kind, entries in catalogue().items():
            for entry in entries:
                part = PART_KINDS[kind].model_validate(entry["part"])
                (line,) = read_table(write_table([Racked(kind=kind, part=part, quantity=2, label=entry["label"])]))
                back = PART_KINDS[kind].model_validate({**line.document, **({"label": entry["part"]["label"]} if "label" in entry["part"] else {})})
                self.assertEqual((back, line.quantity, line.label), (part, 2, entry["label"]))
                tried += 1
        self.assertGreater(tried, 200)

    def test_what_is_known_of_a_part_comes_back(self) -> None:
        about = About.model_validate(
            {"status": "ordered", "state": "fine", "bought": "2025-04-02", "notes": "blue; heavy", "price": {"amount": 12.5, "currency": "SEK", "where": "x"}}
        )
        (line,) = read_table(write_table([Racked(kind="packs", part=PART_KINDS["packs"].model_validate(PACK), quantity=1, label="p", about=about)]))
        self.assertEqual(About.model_validate(line.about), about)

    def test_a_spreadsheet_of_another_country(self) -> None:
        """Semicolons between, commas in numbers, a mark of its letters at the beginning, empty lines at the end."""
        text = "\ufeffpart;label;capacity_ah;capacity_ah basis;cells_in_series\r\npacks;Mine;4,5;measured;7\r\n;;;;\r\n"
        (line,) = read_table(text)
        self.assertEqual(line.document, {"capacity_ah": {"value": 4.5, "basis": "measured"}, "cells_in_series": 7})

    def test_no_name_is_taken_for_a_formula(self) -> None:
        text = write_table([racked("packs", PACK, label="=1+1", notes="@home")])
        self.assertIn("'=1+1", text)
        (line,) = read_table(text)
        self.assertEqual((line.label, line.about["notes"]), ("=1+1", "@home"))

    def test_what_is_wrong_is_told_by_its_line(self) -> None:
        for text, words in (
            ("a,b\n1,2\n", "one of them must be part"),
            ("", "one of them must be part"),
            ("part,part\npacks,packs\n", "each once"),
            ("part\nunicorns\n", "Line 2: unicorns is no kind of part"),
            ("part,label\n,x\n", "Line 2: an empty cell is no kind"),
            ("part,quantity\npacks,many\n", "Line 2: the quantity must be a whole number, not many."),
            ("part,price\npacks,cheap\n", "Line 2: price must be a number, not cheap."),
            ("part,colour of it\npacks,red\n", "Line 2: packs have no colour of it."),
            ("part,capacity_ah,capacity_ah basis\npacks,much,measured\n", "Line 2: capacity_ah must be a number"),
            ("part\npacks,1,2\n", "Line 2 has more cells"),
            ('part\n"packs\n', "is no line of a table"),
            ("part\n" + "packs\n" * 5001, "more than 5000 lines"),
            ("part\n" + " " * 4_000_001, "larger than 4 MB"),
        ):
            with self.assertRaises(GeckoError) as caught:
                read_table(text)
            self.assertIn(words, caught.exception.message)

    def test_what_is_no_single_line_is_left_out(self) -> None:
        self.assertEqual(read_table(write_table([racked("kits", {}), racked("plug colours", {})])), [])
