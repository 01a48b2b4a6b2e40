"""The demo garage evaluates, tells a story, and loads once."""

from __future__ import annotations

from typing import ClassVar

from django.test import TestCase
from PIL import Image

from gecko.document.rack.slots import keys_of
from gecko.document.setup import load_setup
from gecko.plans.evaluate import evaluate
from server.builds.models import Build
from server.builds.services import builds_of, context_of, parts_to_buy
from server.demo.load import load_demo
from server.garage.models import Garage
from server.garage.part_log import life_of
from server.logbook.services import predictions_for
from server.photos.services import file_of


class Demo(TestCase):
    garage: ClassVar[Garage]

    @classmethod
    def setUpTestData(cls) -> None:
        cls.garage = load_demo()

    def test_four_builds_each_with_a_baseline_and_setups(self) -> None:
        self.assertEqual([b.name for b in builds_of(self.garage)], ["Marmalade", "Thistle", "Bramble", "Pocket Comet"])
        for build in self.garage.builds.all():
            self.assertEqual(build.setups.filter(is_baseline=True).count(), 1)
            self.assertTrue(3 <= build.setups.count() <= 4)
            self.assertTrue(build.trials.exists() and build.journal.exists())

    def test_every_setup_evaluates_and_one_of_each_build_has_something_to_mend(self) -> None:
        for build in Build.objects.all():
            stops = []
            for setup in build.setups.all():
                found = evaluate(load_setup(setup.document), context_of(setup))
                self.assertIsNotNone(found.outcome, setup.name)
                stops.append(any(f.severity == "stop" for f in found.findings))
                if setup.in_use:
                    self.assertFalse([f.key for f in found.findings if f.gate == "plan"], f"{build.name}: {setup.name}")
            self.assertTrue(any(stops), build.name)

    def test_pictures_of_a_label_a_dent_and_a_plug_are_kept(self) -> None:
        photos = list(self.garage.photos.select_related("part", "setup"))
        self.assertEqual([photo.place or (photo.part.label if photo.part else "") for photo in photos][1:], ["plug throttle", "7-cell garden pack, 4 Ah, old"])
        for photo in photos:
            with Image.open(file_of(photo)) as opened:
                self.assertEqual((opened.format, opened.size), ("JPEG", (photo.width, photo.height)))
                self.assertGreater(len(opened.convert("RGB").getcolors(10**6) or []), 100)

    def test_trials_follow_from_the_model_with_scatter(self) -> None:
        for build in Build.objects.all():
            for trial in build.trials.all():
                (predicted,) = predictions_for([trial])
                assert predicted is not None
                self.assertAlmostEqual(trial.speed_m_s / predicted.speed_m_s, 1.0, delta=0.08)
                self.assertGreater(len({p["time_s"] for p in trial.passes}), 1)

    def bought(self, build: str) -> dict[str, float]:
        """What is left to buy for the setup in use, wire in metres, without what the rack has."""
        setup = Build.objects.get(name=build).setups.get(in_use=True)
        return {need.label: round(need.to_buy, 2) for need in parts_to_buy(setup, with_rack=False).needs if need.to_buy > 0.0}

    def test_the_parts_of_three_garden_packs_added_up_by_hand(self) -> None:
        """Three rows with a lead of 0.2 m, a main lead of 0.9 m and a motor lead of 0.5 m, all 12 AWG, there and back and a tenth: 2 · 2.0 · 1.1 = 4.4 m, of which the
        blocks' own lead of 0.9 m and link of 0.1 m are half. Ends: five leads of four, less two leads that were there. Lamps: 0.9 m of 16 AWG is 1.98 m."""
        self.assertEqual(
            self.bought("Marmalade"),
            {
                "7-cell garden pack, 4 Ah": 3,
                "10 A blade fuse, 32 V DC or more, with holder": 3,
                "[[12|awg]] copper wire": 2.2,
                "Crimped ends with sleeve, [[12|awg]]": 12,
                "20 A blade fuse, 32 V DC or more, with holder": 1,
                "Lamps": 1,
                "5 A blade fuse, 32 V DC or more, with holder": 1,
                "[[16|awg]] copper wire": 1.98,
                "Crimped ends with sleeve, [[16|awg]]": 4,
                "Converter to 12 V, 5 A, up to 40 V in": 1,
                "Cut-off (switch), 40 A, 30 V DC": 1,
                "Low-volt guard, set to 21.6 V": 1,
                "brushed controller, 24 V, 22 A": 1,
                "Throttle, hall": 1,
                "7-cell dock, 2 A": 1,
            },
        )

    def test_the_parts_of_an_eight_cell_pack_added_up_by_hand(self) -> None:
        """The main lead becomes 10 AWG: 2 · 0.6 · 1.1 = 1.32 m and four ends; the motor lead of 10 AWG, motor, gearing and controller stay."""
        self.assertEqual(
            self.bought("Thistle"),
            {
                "8-cell LFP pack, 10 Ah": 1,
                "25 A blade fuse, 32 V DC or more, with holder": 1,
                "[[10|awg]] copper wire": 1.32,
                "Crimped ends with sleeve, [[10|awg]]": 4,
                "Cut-off (switch), 40 A, 30 V DC": 1,
                "8-cell LFP charger, 3 A": 1,
            },
        )

    def test_the_parts_of_a_fourteen_cell_pack_added_up_by_hand(self) -> None:
        """A main lead of 1 m of 10 AWG, 2.2 m and four ends; the motor lead of 8 AWG stays."""
        self.assertEqual(
            self.bought("Bramble"),
            {
                "14-cell pack, 20 Ah": 1,
                "30 A blade fuse, 80 V DC or more, with holder": 1,
                "[[10|awg]] copper wire": 2.2,
                "Crimped ends with sleeve, [[10|awg]]": 4,
                "Cut-off (switch), 40 A, 60 V DC": 1,
                "14-cell charger, 3 A": 1,
            },
        )

    def test_the_parts_of_a_second_pack_added_up_by_hand(self) -> None:
        """One pack is there. Two rows with a lead of 0.2 m of 12 AWG: 2 · 0.4 · 1.1 = 0.88 m and eight ends; the 10 AWG leads stay."""
        self.assertEqual(
            self.bought("Pocket Comet"),
            {
                "13-cell pack, 10 Ah": 1,
                "15 A blade fuse, 58 V DC or more, with holder": 2,
                "[[12|awg]] copper wire": 0.88,
                "Crimped ends with sleeve, [[12|awg]]": 8,
                "25 A blade fuse, 58 V DC or more, with holder": 1,
                "Cut-off (switch), 40 A, 60 V DC": 1,
            },
        )

    def test_its_rack_tells_a_story(self) -> None:
        """A pack out of every plan, a pair, a part on its way, a kit, a donor, a motor out of one, and packs with a past."""
        rack = self.garage.rack
        self.assertTrue(rack.filter(about__status="ordered").exists() and rack.filter(about__status="wanted").exists())
        self.assertEqual([part.label for part in rack.filter(kind="kits").order_by("pk")], ["36 V bike kit in its box", "Bent scooter, to take apart"])
        life = life_of(rack.get(kind="packs", letter="A"))
        assert life is not None
        self.assertEqual((life.tone, len(life.capacity.readings)), ("close", 5))
        held = {key for setup in Build.objects.get(name="Marmalade").setups.all() for key in keys_of(setup.document)}
        self.assertEqual(held, set(rack.filter(kind="packs", letter__in="ABCD").values_list("key", flat=True)))

    def test_loading_again_changes_nothing(self) -> None:
        before = Build.objects.count()
        self.assertEqual(load_demo().pk, self.garage.pk)
        self.assertEqual(Build.objects.count(), before)
