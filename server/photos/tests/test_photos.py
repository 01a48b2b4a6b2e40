"""Photos: read by what is in them, without where they were taken; of one thing each; out and in with the garage, back with a backup."""

from __future__ import annotations

import io
import json
import sqlite3
import struct
import zipfile
import zlib
from contextlib import closing
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any

from django.test import SimpleTestCase, override_settings
from PIL import Image

from server.bin.services import empty_old
from server.errors import Refused
from server.exchange.photos import name_of
from server.keeping import backups
from server.photos import pictures
from server.photos.models import Photo
from server.photos.services import forget
from server.testing import HouseholdCase


def picture(width: int = 60, height: int = 40, kind: str = "JPEG", **more: Any) -> bytes:
    """A picture with a red left half and a blue right half."""
    made = Image.new("RGB", (width, height), (200, 30, 20))
    made.paste((20, 30, 200), (width // 2, 0, width, height))
    out = io.BytesIO()
    made.save(out, kind, **more)
    return out.getvalue()


def placed() -> bytes:
    """A photo that lies on its side and tells where it was taken."""
    exif = Image.Exif()
    exif[0x0112] = 6
    exif[0x010F] = "A camera"
    exif.get_ifd(0x8825)[2] = (50.0, 4.0, 0.0)
    return picture(exif=exif)


def bomb() -> bytes:
    """A small PNG that says it has 300 million pixels."""

    def chunk(name: bytes, content: bytes) -> bytes:
        return struct.pack(">I", len(content)) + name + content + struct.pack(">I", zlib.crc32(name + content))

    head = struct.pack(">IIBBBBB", 20_000, 15_000, 8, 2, 0, 0, 0)
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", zlib.compress(b"\0" * 1000)) + chunk(b"IEND", b"")


class Pictures(SimpleTestCase):
    def taken(self, content: bytes) -> pictures.Picture:
        return pictures.taken(io.BytesIO(content), len(content))

    def test_it_is_turned_upright_and_tells_nothing_but_its_pixels(self) -> None:
        content = placed()
        self.assertIn(b"A camera", content)
        found = self.taken(content)
        self.assertEqual((found.width, found.height), (40, 60), "It lay on its side.")
        with Image.open(io.BytesIO(found.jpeg)) as opened:
            self.assertEqual((dict(opened.getexif()), opened.info.get("comment")), ({}, None))
            red, blue = opened.getpixel((20, 5)), opened.getpixel((20, 55))
        assert isinstance(red, tuple) and isinstance(blue, tuple)
        self.assertTrue(red[0] > 150 > red[2] and blue[2] > 150 > blue[0])

    def test_it_is_shrunk_and_never_enlarged(self) -> None:
        large, small = self.taken(picture(4000, 3000)), self.taken(picture(60, 40))
        self.assertEqual([(one.width, one.height) for one in (large, small)], [(1800, 1350), (60, 40)])

    def test_formats_by_their_contents(self) -> None:
        for kind in ("JPEG", "PNG", "WEBP", "GIF", "BMP", "TIFF"):
            self.assertEqual(self.taken(picture(kind=kind)).width, 60, kind)
        see_through = io.BytesIO()
        Image.new("RGBA", (10, 10), (0, 0, 0, 0)).save(see_through, "PNG")
        self.assertEqual(self.taken(see_through.getvalue()).height, 10)

    def test_what_is_no_picture_is_refused_with_what_to_do(self) -> None:
        half = picture(600, 400)
        for content in (b"", b"not a picture", b"%PDF-1.4", b"<svg/>", half[: len(half) // 2], b"\xff\xd8\xff\xe0" + b"\0" * 50, bomb()):
            with self.assertRaises(Refused) as caught:
                self.taken(content)
            self.assertTrue(caught.exception.message.endswith((".", "WebP.")), content[:12])
        with self.assertRaises(Refused):
            pictures.taken(io.BytesIO(picture()), pictures.MOST_BYTES + 1)

    def test_its_own_are_known_again_and_others_are_not(self) -> None:
        """So that out and in is equal: JPEG written anew would be another picture each time."""
        own = self.taken(picture(4000, 3000))
        self.assertEqual(pictures.as_kept(own.jpeg), own)
        for other in (placed(), picture(kind="PNG"), picture(4000, 3000), own.jpeg + b"more", own.jpeg[:-40], b"", picture(comment=b"hello")):
            self.assertIsNone(pictures.as_kept(other))


class PhotoCase(HouseholdCase):
    def setUp(self) -> None:
        super().setUp()
        place = Path(self.enterContext(TemporaryDirectory()))
        self.enterContext(override_settings(PHOTOS=place / "photos", UPLOADS=place / "uploads", BACKUPS=place / "backups"))
        self.at = f"/api/garages/{self.home.garage.pk}"
        pack = {"kind": "packs", "label": "Garden pack", "document": {"cells_in_series": 7, "capacity_ah": {"value": 4}}}
        self.part = self.home.ok("POST", f"{self.at}/rack", pack)[0]["id"]

    def send(self, content: bytes, **what: Any) -> Any:
        upload = self.home.upload(content, "photo.exe")
        answer = self.home.send("POST", f"{self.at}/photos", {"upload": upload, **what})
        # Where it was not even looked at, the file waits for another try; here nobody makes one.
        self.home.user.uploads.filter(pk=upload).delete()
        return answer

    def files(self) -> set[str]:
        return {one.stem for one in pictures.folder().iterdir()}


class Photos(PhotoCase):
    def test_taken_listed_and_shown(self) -> None:
        made = self.send(placed(), part=self.part, caption=" its label ").json()
        self.assertEqual((made["width"], made["height"], made["caption"], made["by_name"]), (40, 60, "its label", "ada"))
        self.assertEqual([one["id"] for one in self.home.ok("GET", f"{self.at}/photos?part={self.part}")], [made["id"]])
        shown = self.home.send("GET", f"{self.at}/photos/{made['id']}/picture")
        self.assertEqual((shown.headers["Content-Type"], shown.headers["Cache-Control"]), ("image/jpeg", "private, max-age=31536000, immutable"))
        with Image.open(io.BytesIO(self.home.whole(shown))) as opened:
            self.assertEqual(opened.format, "JPEG")

    def test_of_a_step_a_run_and_an_entry(self) -> None:
        build = self.home.build()
        setup, of = build["setups"][0]["id"], f"/api/builds/{build['id']}"
        passes = [{"distance_m": 30.0, "time_s": 8.0, "direction": way} for way in ("out", "back")]
        trial = self.home.ok("POST", f"{of}/trials", {"setup_id": setup, "passes": passes, "confirmed": True})["id"]
        entry = self.home.ok("POST", f"{of}/journal", {"kind": "note", "text": "New tyres."})["id"]
        for what in ({"setup": setup, "place": "step pack0"}, {"setup": setup, "place": "plug throttle"}, {"trial": trial}, {"entry": entry}):
            self.assertEqual(self.send(picture(), **what).status_code, 200, what)
            asked = "&".join(f"{name}={value}" for name, value in what.items())
            self.assertEqual(len(self.home.ok("GET", f"{self.at}/photos?{asked}")), 1, what)
        told = self.home.ok("GET", f"{of}/photos")
        self.assertEqual(
            [(one["setup_id"], one["place"], one["trial_id"], one["entry_id"]) for one in told][1:],
            [(setup, "plug throttle", None, None), (None, "", trial, None), (None, "", None, entry)],
        )
        self.assertEqual(self.other.send("GET", f"{of}/photos").status_code, 404)
        self.home.ok("DELETE", f"{of}/trials/{trial}")
        self.assertEqual(len(self.home.ok("GET", f"{of}/photos")), 3, "A run in the bin shows none.")
        # One picture, four photos: the file is there once.
        self.assertEqual((Photo.objects.count(), len(self.files())), (4, 1))

    def test_of_one_thing_and_of_ones_own(self) -> None:
        for what, status in (({}, 422), ({"part": self.part, "entry": 1}, 422), ({"part": 999_999}, 404), ({"trial": 999_999}, 404)):
            self.assertEqual(self.send(picture(), **what).status_code, status, what)
        made = self.send(picture(), part=self.part).json()
        for path in (f"{self.at}/photos?part={self.part}", f"{self.at}/photos/{made['id']}/picture"):
            self.assertEqual(self.other.send("GET", path).status_code, 404)
        theirs = f"/api/garages/{self.other.garage.pk}"
        self.assertEqual(self.other.send("GET", f"{theirs}/photos?part={self.part}").status_code, 404)
        self.assertEqual(self.other.send("POST", f"{theirs}/photos", {"upload": self.home.upload(picture()), "part": self.part}).status_code, 404)

    def test_a_bad_file_is_refused_with_a_sentence_and_leaves_nothing(self) -> None:
        answer = self.send(b"no picture at all", part=self.part)
        self.assertEqual((answer.status_code, answer.json()["code"]), (422, "no_picture"))
        self.assertEqual((Photo.objects.count(), self.files()), (0, set()))

    def test_the_bin_and_the_file_after_it(self) -> None:
        made = self.send(picture(), part=self.part).json()
        self.home.ok("DELETE", f"{self.at}/photos/{made['id']}")
        self.assertEqual((self.home.ok("GET", f"{self.at}/photos?part={self.part}"), len(self.files())), ([], 1))
        self.home.ok("POST", f"{self.at}/bin/photo/{made['id']}/back")
        self.assertEqual(len(self.home.ok("GET", f"{self.at}/photos?part={self.part}")), 1)
        self.home.ok("DELETE", f"{self.at}/photos/{made['id']}")
        with self.captureOnCommitCallbacks(execute=True):
            self.home.ok("DELETE", f"{self.at}/bin/photo/{made['id']}")
        self.assertEqual(self.files(), set())

    def test_with_a_part_its_photos_go_and_a_picture_that_is_shown_elsewhere_stays(self) -> None:
        entry = self.home.ok("POST", f"/api/builds/{self.home.build()['id']}/journal", {"kind": "note", "text": "x"})["id"]
        self.send(picture(), part=self.part)
        self.send(picture(), entry=entry)
        self.send(picture(90, 30), part=self.part)
        self.home.ok("DELETE", f"{self.at}/rack/{self.part}")
        with self.captureOnCommitCallbacks(execute=True):
            self.home.ok("DELETE", f"{self.at}/bin/part/{self.part}")
        self.assertEqual((Photo.objects.count(), len(self.files()), empty_old()), (1, 1, 0))


class Backups(PhotoCase):
    def database(self, name: str, *shas: str) -> Path:
        """A database file whose photos show these pictures."""
        file = backups.folder() / name
        with closing(sqlite3.connect(file)) as made:
            made.execute("CREATE TABLE photos_photo (sha TEXT)")
            made.executemany("INSERT INTO photos_photo VALUES (?)", [(sha,) for sha in shas])
            made.commit()
        return file

    def test_pictures_are_kept_with_each_backup_and_come_back(self) -> None:
        """Each picture lies beside the backups once, goes when none shows it any more, and is put back where it is missing."""
        self.send(picture(), part=self.part)
        (sha,) = self.files()
        first = self.database("gecko-20260301-100000-000.sqlite3", sha, sha)
        backups._keep_pictures(first)
        kept = backups.folder() / "photos"
        self.assertEqual({one.stem for one in kept.iterdir()}, {sha})
        Photo.with_bin.all().delete()
        forget([sha])
        self.assertEqual(self.files(), set())
        backups._bring_pictures_back(first)
        self.assertEqual(self.files(), {sha})
        backups._rotate_pictures()
        self.assertEqual(len(list(kept.iterdir())), 1)
        first.unlink()
        backups._rotate_pictures()
        self.assertEqual(list(kept.iterdir()), [])

    def test_a_backup_of_before_there_were_photos_shows_none(self) -> None:
        file = backups.folder() / "gecko-20260301-100000-001.sqlite3"
        with closing(sqlite3.connect(file)) as made:
            made.execute("CREATE TABLE builds_build (id INTEGER)")
        backups._keep_pictures(file)
        backups._bring_pictures_back(file)
        self.assertFalse((backups.folder() / "photos").exists())


class OutAndIn(PhotoCase):
    def exported(self, home: Any) -> bytes:
        return bytes(home.whole(home.send("GET", f"/api/garages/{home.garage.pk}/export")))

    def setUp(self) -> None:
        super().setUp()
        self.build = self.home.build()
        setup, of = self.build["setups"][1]["id"], f"/api/builds/{self.build['id']}"
        passes = [{"distance_m": 30.0, "time_s": 8.0, "direction": way} for way in ("out", "back")]
        trial = self.home.ok("POST", f"{of}/trials", {"setup_id": self.build["setups"][0]["id"], "passes": passes, "confirmed": True})["id"]
        entry = self.home.ok("POST", f"{of}/journal", {"kind": "note", "text": "New tyres."})["id"]
        things = ({"part": self.part}, {"setup": setup, "place": "step pack0"}, {"trial": trial}, {"entry": entry})
        for n, what in enumerate(things):
            self.send(picture(60 + n, 40), caption=f"photo {n}", **what)

    def test_zip_out_and_in_is_equal(self) -> None:
        content = self.exported(self.home)
        job = self.other.read_in(content, "shed.zip")
        self.assertEqual((job["state"], job["came_in"]["photos"], job["came_in"]["left_out"]), ("done", 4, []))

        def told(one: bytes) -> tuple[Any, dict[str, bytes]]:
            with zipfile.ZipFile(io.BytesIO(one)) as opened:
                head = json.loads(opened.read("garage.json"))
                return head["photos"], {name: opened.read(name) for name in opened.namelist() if name.startswith("photos/")}

        self.assertEqual(told(self.exported(self.other)), told(content))
        again = self.other.read_in(content)["came_in"]
        self.assertEqual(again["photos"], 3, "The part and its photo are there already; the build comes once more.")

    def spoilt(self, change: Any) -> bytes:
        out = io.BytesIO()
        with zipfile.ZipFile(io.BytesIO(self.exported(self.home))) as opened, zipfile.ZipFile(out, "w") as made:
            files = {name: opened.read(name) for name in opened.namelist()}
            change(files)
            for name, content in files.items():
                made.writestr(name, content)
        return out.getvalue()

    def test_a_photo_that_is_none_is_left_out_and_told(self) -> None:
        def change(files: dict[str, bytes]) -> None:
            first, second, third = [name for name in files if name.startswith("photos/")][:3]
            files[first], files[third] = b"no picture", bomb()
            del files[second]

        came = self.other.read_in(self.spoilt(change))["came_in"]
        self.assertEqual((came["photos"], len(came["left_out"])), (1, 3))
        self.assertTrue(all(one["file"].startswith("photos/") for one in came["left_out"]))

    def test_a_picture_with_a_place_in_it_comes_in_without(self) -> None:
        def change(files: dict[str, bytes]) -> None:
            name = next(name for name in files if name.startswith("photos/"))
            files[name] = placed()

        self.other.read_in(self.spoilt(change))
        for one in pictures.folder().iterdir():
            self.assertNotIn(b"A camera", one.read_bytes())

    def test_paths_out_of_the_archive_lead_nowhere(self) -> None:
        """Only names made of a hash are opened; what else lies in the archive is not looked at."""
        before = self.files()

        def change(files: dict[str, bytes]) -> None:
            files["../../evil.jpg"] = picture()
            files["photos/../../evil.jpg"] = picture()
            head = json.loads(files["garage.json"])
            head["photos"][0]["sha"] = "../../../etc/passwd"
            files["garage.json"] = json.dumps(head).encode()

        job = self.other.read_in(self.spoilt(change))
        self.assertEqual((job["state"], job["error"]["field"]), ("failed", "garage.json/photos/0/sha"))
        self.assertEqual(self.files(), before)

    def test_a_thing_that_did_not_come_in_brings_no_photo(self) -> None:
        def change(files: dict[str, bytes]) -> None:
            head = json.loads(files["garage.json"])
            head["photos"][1]["setup"], head["photos"][2]["trial"], head["photos"][3]["build"] = "s9", 7, 8
            files["garage.json"] = json.dumps(head).encode()

        self.assertEqual(self.other.read_in(self.spoilt(change))["came_in"]["photos"], 1)
        self.assertEqual(name_of("0" * 64), f"photos/{'0' * 64}.jpg")
