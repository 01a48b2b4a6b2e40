"""Garage, units, house rules and riders, and that they stay private."""

from __future__ import annotations

from gecko.tests.machines import named, safe_bike
from server.testing import HouseholdCase


class Garages(HouseholdCase):
    def test_another_households_garage_is_not_found(self) -> None:
        for method, path in (
            ("GET", ""),
            ("PATCH", ""),
            ("POST", "/rack"),
            ("POST", "/riders"),
            ("POST", "/builds"),
            ("POST", "/imports"),
        ):
            body = {"kind": "packs", "document": {}, "name": "x", "family": "quad", "setups": [{"name": "a", "document": {}}], "upload": 1}
            self.assertEqual(self.home.send(method, f"/api/garages/{self.other.garage.pk}{path}", body).status_code, 404, path)

    def test_units_and_house_rules(self) -> None:
        path = f"/api/garages/{self.home.garage.pk}"
        changed = self.home.ok("PATCH", path, {"units": {"speed": "km/h"}, "house_rules": {"wire_school": "common"}})
        self.assertEqual((changed["units"]["speed"], changed["units"]["length"], changed["house_rules"]["wire_school"]), ("km/h", "ft", "common"))
        for body, field in (({"units": {"speed": "knots"}}, "/units/speed"), ({"house_rules": {"luck": "yes"}}, "/house_rules"), ({"name": " "}, "/name")):
            answer = self.home.send("PATCH", path, body)
            self.assertEqual((answer.status_code, answer.json()["field"]), (422, field))

    def test_riders(self) -> None:
        path = f"/api/garages/{self.home.garage.pk}/riders"
        rider = self.home.ok("POST", path, {"document": {"name": "Pim", "age_years": 6}})
        self.assertEqual(self.home.ok("PUT", f"{path}/{rider['id']}", {"document": {"name": "Pim", "age_years": 7}})["document"]["age_years"], 7)
        self.assertEqual(self.home.send("POST", path, {"document": {"name": "", "age_years": 6}}).status_code, 422)
        self.assertEqual(self.home.send("POST", path, {"document": {"name": "Pim", "age_years": -6}}).status_code, 422)
        self.assertEqual(self.home.send("DELETE", f"{path}/{rider['id']}").status_code, 204)

    def test_overview_needs_a_constant_number_of_queries(self) -> None:
        path = f"/api/garages/{self.home.garage.pk}"
        self.home.build()
        self.home.ok("GET", path)
        with self.assertNumQueries(13):
            self.home.ok("GET", path)
        for _ in range(3):
            self.home.build()
        # The first look at a build computes and keeps what the list shows of it.
        self.home.ok("GET", path)
        with self.assertNumQueries(13):
            self.assertEqual(len(self.home.ok("GET", path)["builds"]), 4)

    def test_a_long_list_comes_in_parts(self) -> None:
        path = f"/api/garages/{self.home.garage.pk}"
        for _ in range(3):
            self.home.build("As found")
        part = self.home.ok("GET", f"{path}?limit=2")
        self.assertEqual((len(part["builds"]), part["total"]), (2, 3))
        self.assertEqual(self.home.send("GET", f"{path}?limit=0").status_code, 422)

    def test_the_build_last_worked_on_comes_first(self) -> None:
        path = f"/api/garages/{self.home.garage.pk}"
        first, second = self.home.build("As found"), self.home.build("As found")
        self.assertEqual([b["id"] for b in self.home.ok("GET", path)["builds"]], [second["id"], first["id"]])
        row = first["setups"][0]
        edited = safe_bike(wheel__diameter_m=named(0.4))
        self.home.ok("PUT", f"/api/setups/{row['id']}", {"document": edited, "based_on": row["version"], "label": ""})
        self.assertEqual([b["id"] for b in self.home.ok("GET", path)["builds"]], [first["id"], second["id"]])

    def test_index_names_all_there_is(self) -> None:
        path = f"/api/garages/{self.home.garage.pk}"
        build = self.home.build("As found", "Two side by side")
        self.home.ok("POST", f"{path}/rack", {"kind": "wires", "label": "12 AWG, red", "document": {"awg": 12}, "quantity": 1})
        index = self.home.ok("GET", f"{path}/index")
        self.assertEqual([(b["id"], [s["name"] for s in b["setups"]]) for b in index["builds"]], [(build["id"], ["As found", "Two side by side"])])
        self.assertEqual([part["name"] for part in index["rack"]], ["12 AWG, red"])
        for _ in range(3):
            self.home.build()
        # Session, user and garage, then one each for setups, builds and rack.
        with self.assertNumQueries(6):
            self.assertEqual(len(self.home.ok("GET", f"{path}/index")["builds"]), 4)
        self.assertEqual(self.other.send("GET", f"{path}/index").status_code, 404)

    def test_overview_says_where_a_build_stands(self) -> None:
        self.home.build("As found")
        glance = self.home.ok("GET", f"/api/garages/{self.home.garage.pk}")["builds"][0]
        self.assertEqual((glance["stops"], glance["next_stage"]), (0, "prove"))
        self.assertGreater(glance["top_speed_m_s"], 3)
