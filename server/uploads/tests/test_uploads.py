"""Files part by part: whatever is lost or sent again, what is kept is what was sent."""

from __future__ import annotations

import os
from datetime import timedelta
from tempfile import TemporaryDirectory

from django.test import override_settings
from django.utils import timezone

from server.testing import HouseholdCase, Reply
from server.uploads import services
from server.uploads.models import Upload


class Uploads(HouseholdCase):
    def setUp(self) -> None:
        super().setUp()
        self.enterContext(override_settings(UPLOADS=self.enterContext(TemporaryDirectory())))

    def put(self, upload: int, offset: int, part: bytes, kind: str = "application/octet-stream") -> Reply:
        return self.home.client.generic("PUT", f"/api/uploads/{upload}/parts/{offset}", data=part, content_type=kind)

    def announced(self, size: int) -> int:
        return int(self.home.ok("POST", "/api/uploads", {"name": "shed.zip", "size": size})["id"])

    def test_parts_make_the_file_also_when_some_come_twice(self) -> None:
        one = self.announced(10)
        for offset, part in ((0, b"abcd"), (0, b"abcd"), (4, b"efg"), (0, b"abcd"), (7, b"hij"), (4, b"efg")):
            self.assertEqual(self.put(one, offset, part).status_code, 200)
        upload = Upload.objects.get(pk=one)
        self.assertEqual(services.whole(upload).read_bytes(), b"abcdefghij")
        self.assertEqual(os.stat(services.path_of(upload)).st_mode & 0o077, 0)

    def test_what_does_not_go_on_is_told_where_to(self) -> None:
        one = self.announced(10)
        self.put(one, 0, b"abc")
        for offset, part in ((5, b"x"), (2, b"xyz"), (3, b"x" * 8)):
            answer = self.put(one, offset, part)
            self.assertEqual((answer.status_code, answer.json()["received"]), (409, 3))
        answer = self.home.send("POST", f"/api/garages/{self.home.garage.pk}/imports", {"upload": one})
        self.assertEqual((answer.status_code, answer.json()["code"]), (409, "incomplete"))
        self.assertEqual(self.put(one, 3, b"x", "application/json").status_code, 415)

    def test_nobody_touches_anothers(self) -> None:
        one = self.announced(3)
        for method, path in (("PUT", f"/api/uploads/{one}/parts/0"), ("DELETE", f"/api/uploads/{one}")):
            self.assertEqual(self.other.client.generic(method, path, data=b"abc", content_type="application/octet-stream").status_code, 404)
        self.assertEqual(self.other.send("POST", f"/api/garages/{self.other.garage.pk}/imports", {"upload": one}).status_code, 404)

    def test_so_many_at_once_and_old_ones_go(self) -> None:
        for _ in range(services.MOST_AT_ONCE):
            first = self.announced(3)
        self.assertEqual(self.home.send("POST", "/api/uploads", {"name": "x", "size": 3}).status_code, 409)
        self.home.ok("DELETE", f"/api/uploads/{first}")
        Upload.objects.update(created=timezone.now() - timedelta(hours=25))
        self.announced(3)
        self.assertEqual((Upload.objects.count(), len(list(services.folder().iterdir()))), (1, 1))
