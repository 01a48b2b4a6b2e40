"""The doors to driving at depth: plan with the garage's riders, changes, comparison, courses as files."""

from __future__ import annotations

import gzip
import math
from typing import Any

from gecko.machine.courses import SHIPPED
from gecko.tests.machines import named, safe_bike
from server.builds.models import Setup
from server.testing import HouseholdCase


class Drive(HouseholdCase):
    def build(self) -> dict[str, Any]:
        self.home.ok("POST", f"/api/garages/{self.home.garage.pk}/riders", {"document": {"name": "Kit", "age_years": 7}})
        made = self.home.build("As found")
        taller = {"name": "Taller", "document": safe_bike(drivetrain__motor_teeth=14)}
        self.home.ok("POST", f"/api/builds/{made['id']}/setups", taller)
        return dict(self.home.ok("GET", f"/api/builds/{made['id']}"))

    def test_the_plan_knows_the_garages_riders(self) -> None:
        build = self.build()
        plan = self.home.ok("POST", "/api/drive", {"setup": safe_bike(), "build_id": build["id"]})
        self.assertEqual([rider["name"] for rider in plan["riders"]], ["Ada", "Kit"])
        self.assertEqual(plan["ride"]["course"], "Standard ride")
        on_grass = safe_bike(course=SHIPPED[0].model_dump(mode="json"))
        self.assertEqual(self.home.ok("POST", "/api/drive", {"setup": on_grass})["ride"]["course"], "Lawn laps")
        self.assertEqual(self.home.ok("POST", "/api/evaluate", {"setup": on_grass})["outcome"]["course"], "Lawn laps")

    def test_changes_come_with_the_document_to_try(self) -> None:
        found = self.home.ok("POST", "/api/drive/changes", {"setup": safe_bike(drivetrain__chain_pitch="25")})
        best = found["tried"]["changes"][0]
        again = self.home.ok("POST", "/api/evaluate", {"setup": best["document"]})
        self.assertAlmostEqual(again["outcome"]["top_speed_m_s"], best["top_speed_m_s"], places=6)
        chooser = self.home.ok("POST", "/api/drive/sprockets", {"setup": safe_bike(drivetrain__chain_pitch="25")})
        self.assertEqual(chooser["sprockets"]["chain"], "25")
        self.assertFalse(self.home.ok("POST", "/api/drive", {"setup": {}})["known"])

    def test_setups_of_one_build_side_by_side(self) -> None:
        build = self.build()
        ids = [setup["id"] for setup in build["setups"]]
        found = self.home.ok("POST", "/api/compare", {"setup_ids": ids})
        self.assertEqual([one["name"] for one in found["setups"]], [setup["name"] for setup in build["setups"]])
        self.assertEqual([row["label"] for row in found["changes"] if row["differs"]], ["Gearing: motor teeth"])
        drafts = {str(ids[1]): safe_bike(drivetrain__motor_teeth=14, wheel__diameter_m=named(0.33))}
        newer = self.home.ok("POST", "/api/compare", {"setup_ids": ids, "drafts": drafts})
        self.assertIn("Wheel: diameter", [row["label"] for row in newer["changes"] if row["differs"]])
        for wrong, status in (({"setup_ids": ids[:1]}, 422), ({"setup_ids": [*ids, 999_999]}, 404), ({"setup_ids": ids * 4}, 422)):
            self.assertEqual(self.home.send("POST", "/api/compare", wrong).status_code, status)

    def test_a_track_of_many_megabytes_comes_by_parts(self) -> None:
        """Sixty thousand lines, 6 MB, in two parts; what lay there for it is gone afterwards, and another account's upload is nobody's."""
        text = "".join(f"{2.0 * n:.1f},{5 * math.sin(n / 100):.4f}{' ' * 80}\n" for n in range(60_000))
        self.assertGreater(len(text), 5_000_000)
        upload = self.home.upload(text.encode(), "track.csv")
        self.assertEqual(self.other.send("POST", "/api/courses/read", {"name": "track", "upload": upload}).status_code, 404)
        found = self.home.ok("POST", "/api/courses/read", {"name": "track", "upload": upload})
        self.assertAlmostEqual(sum(segment["length_m"] for segment in found["course"]["segments"]), 119_998, delta=50)
        self.assertEqual(self.home.send("POST", "/api/courses/read", {"name": "track", "upload": upload}).status_code, 404)

    def test_a_remembered_speed(self) -> None:
        car = self.home.ok("GET", "/api/typical/ride-on%20car")
        found = self.home.ok("POST", "/api/remembered", {"setup": car, "speed_m_s": 1.7})
        again = self.home.ok("POST", "/api/evaluate", {"setup": found["setup"]})
        self.assertAlmostEqual(again["outcome"]["top_speed_half_m_s"], 1.7, delta=0.02)
        self.assertEqual(self.home.send("POST", "/api/remembered", {"setup": car, "speed_m_s": 35}).status_code, 422)
        self.assertEqual(self.home.send("POST", "/api/remembered", {"setup": {}, "speed_m_s": 1}).status_code, 422)

    def test_nobody_compares_what_is_not_his(self) -> None:
        ids = [setup["id"] for setup in self.build()["setups"]]
        self.assertEqual(self.other.send("POST", "/api/compare", {"setup_ids": ids}).status_code, 404)

    def test_a_setup_that_cannot_be_compared_is_named(self) -> None:
        build = self.build()
        ids = [setup["id"] for setup in build["setups"]]
        Setup.objects.filter(pk=ids[1]).update(document={"wheel": {"diameter_m": "round"}})
        answer = self.home.send("POST", "/api/compare", {"setup_ids": ids})
        self.assertEqual(answer.status_code, 422)
        self.assertTrue(answer.json()["message"].startswith(f"{build['setups'][1]['name']} cannot be compared: "), answer.content)
        self.assertEqual(answer.json()["field"][:6], "/wheel")

    def test_courses_out_and_in(self) -> None:
        shipped = self.home.ok("GET", "/api/courses")
        self.assertEqual([course["name"] for course in shipped], ["Lawn laps", "Pavement cruise", "Hill park"])
        table = self.home.send("POST", "/api/courses/csv", {"course": shipped[2]})
        self.assertEqual(table["content-type"].split(";")[0], "text/csv")
        back = self.home.ok("POST", "/api/courses/read", {"name": "Hill park", "text": table.content.decode()})
        self.assertEqual(back, {"course": shipped[2], "said": []})
        for text in ("", "0,0\n5,1\n", '<!DOCTYPE x [<!ENTITY a "b">]><gpx>&a;</gpx>', "x" * 7_000_001):
            answer = self.home.send("POST", "/api/courses/read", {"name": "n", "text": text})
            self.assertEqual(answer.status_code, 422, text[:20])
            self.assertTrue(answer.json()["message"])


class Compressed(HouseholdCase):
    def test_answers_are_compressed_for_who_takes_it(self) -> None:
        body = {"setup": safe_bike()}
        plain = self.home.send("POST", "/api/drive", body)
        small = self.home.send("POST", "/api/drive", body, headers={"Accept-Encoding": "gzip"})
        self.assertEqual((plain.get("Content-Encoding"), small.get("Content-Encoding")), (None, "gzip"))
        self.assertEqual(gzip.decompress(small.content), plain.content)
        self.assertLess(len(small.content), 0.3 * len(plain.content))
        table = self.home.send("POST", "/api/courses/csv", {"course": SHIPPED[0].model_dump(mode="json")}, headers={"Accept-Encoding": "gzip"})
        self.assertIsNone(table.get("Content-Encoding"))
