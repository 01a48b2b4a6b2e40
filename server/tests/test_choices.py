"""What the page offers is what a document may hold."""

from __future__ import annotations

import json
import re
from typing import get_args
from unittest import TestCase

from gecko.document.parts.fuse import Fuse
from gecko.document.setup import load_setup
from gecko.reference.kinds import Brake, Tyre
from gecko.tests.machines import safe_bike
from server.choices import as_typescript


def told(block: str) -> dict[str, list[str] | int]:
    """A block of the written file by its entries."""
    text = as_typescript().split(f"export const {block} = ")[1].split("} as const")[0]
    return {name: json.loads(value) for name, value in re.findall(r'^  "([\w.]+)": (.*),$', text, re.MULTILINE)}


class Choices(TestCase):
    def test_each_value_of_a_field_in_its_order(self) -> None:
        choices = told("CHOICES")
        self.assertEqual(choices["Vehicle.brake"], list(get_args(Brake)))
        self.assertEqual(choices["Wheel.tyre"], list(get_args(Tyre)))
        self.assertNotIn("Vehicle.mass_kg", choices)

    def test_what_is_offered_can_be_entered(self) -> None:
        for kind in told("CHOICES")["Fuse.kind"]:  # type: ignore[union-attr]
            self.assertEqual(Fuse.model_validate({"kind": kind, "rating_a": 30, "dc_volts_v": 58}).kind, kind)

    def test_as_many_rows_as_are_told_and_no_more(self) -> None:
        most = told("MOST")["Bank.rows"]
        assert isinstance(most, int)
        document = safe_bike()
        row = document["bank"]["rows"][0]
        document["bank"]["rows"] = [row] * most
        setup = load_setup(document)
        assert setup.bank is not None
        self.assertEqual(len(setup.bank.rows), most)
        document["bank"]["rows"] = [row] * (most + 1)
        with self.assertRaises(ValueError):
            load_setup(document)
