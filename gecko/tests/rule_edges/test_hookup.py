"""Each rule of the hookup, at the edge docs/model.md and its principle give it: a hair over trips, a hair under does not."""

from __future__ import annotations

from gecko.document.context import Context
from gecko.tests.machines import bike, named
from gecko.tests.rule_edges.edges import Edges


class HookupEdges(Edges):
    def test_an_opened_seal_is_a_note_until_it_is_closed(self) -> None:
        for kind, severity in (("seal", "note"), ("cable entry", "note"), ("cover", None)):
            setup = bike(openings=[{"label": "Lid", "kind": kind}])
            if severity is None:
                self.none(setup, "seal.water")
            else:
                self.one(setup, "seal.water", severity)
            self.none(bike(openings=[{"label": "Lid", "kind": kind, "closed": True}]), "seal.water")

    def test_what_the_old_part_also_did(self) -> None:
        stock = {"volts_v": named(36), "also_did": ["gauge", "rear light"]}
        found = self.one(bike(stock=stock, does_now=["gauge"]), "ctl.lost", "note")
        self.assertIn("rear light", found.title)
        self.assertNotIn("gauge", found.title)
        self.none(bike(stock=stock, does_now=["gauge", "rear light"]), "ctl.lost")
        self.none(bike(stock=stock), "ctl.lost", Context(is_baseline=True))

    def test_firmware_needs_version_settings_and_a_way_back(self) -> None:
        whole = {"changed": True, "version_before": "1.2", "settings_noted": True, "way_back": True}
        self.none(bike(controller__firmware=whole), "ctl.firmware")
        self.none(bike(controller__firmware={"changed": False}), "ctl.firmware")
        for gone, word in (("version_before", "version"), ("settings_noted", "settings"), ("way_back", "way back")):
            found = self.one(bike(controller__firmware={**whole, gone: "" if gone == "version_before" else False}), "ctl.firmware", "caution")
            self.assertIn(word, found.because)
