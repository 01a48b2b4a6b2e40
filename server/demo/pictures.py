"""Pictures of the made-up garage, drawn here: a label, a dent, a plug before it is parted. They stand in for photos."""

from __future__ import annotations

import io
from datetime import timedelta

from django.utils import timezone
from PIL import Image, ImageDraw, ImageFont

from server.builds.models import Build
from server.garage.models import Garage
from server.photos import pictures
from server.photos.models import Photo
from server.photos.services import Shows

_SIZE = (1200, 800)
_BENCH, _GRAIN = (196, 168, 128), (182, 153, 112)
_CASE, _RIM, _PAPER, _INK = (46, 58, 62), (30, 38, 41), (240, 236, 222), (34, 34, 34)


def _bench() -> tuple[Image.Image, ImageDraw.ImageDraw]:
    """An empty bench top."""
    image = Image.new("RGB", _SIZE, _BENCH)
    draw = ImageDraw.Draw(image)
    for n, y in enumerate(range(40, _SIZE[1], 58)):
        draw.line([(0, y + (n * 37) % 19), (_SIZE[0], y + (n * 53) % 23)], fill=_GRAIN, width=3)
    return image, draw


def _case(draw: ImageDraw.ImageDraw) -> None:
    draw.rounded_rectangle((190, 130, 1010, 670), 60, fill=_CASE, outline=_RIM, width=10)
    for x in range(250, 960, 46):
        draw.line([(x, 600), (x + 20, 650)], fill=_RIM, width=8)


def label(*lines: str) -> Image.Image:
    """A pack with what its label says."""
    image, draw = _bench()
    _case(draw)
    draw.rectangle((280, 210, 920, 540), fill=_PAPER)
    for n, line in enumerate(lines):
        draw.text((310, 235 + 72 * n), line, fill=_INK, font=ImageFont.load_default(52 if n == 0 else 40))
    return image


def dent() -> Image.Image:
    """A pack that was dropped: a corner is pushed in."""
    image, draw = _bench()
    _case(draw)
    draw.polygon([(840, 120), (1030, 120), (1030, 330), (940, 250)], fill=_BENCH)
    draw.line([(836, 128), (930, 246), (1012, 332)], fill=_RIM, width=12)
    for end in ((760, 300), (880, 390), (980, 430)):
        draw.line([(930, 246), end], fill=(210, 214, 208), width=4)
    return image


def plug() -> Image.Image:
    """Both halves of a plug of three wires, in its colours."""
    image, draw = _bench()
    for x, colours in ((330, ("violet", "orange", "white")), (630, ("grey", "pink", "green"))):
        for n, colour in enumerate(colours):
            y = 320 + 70 * n
            draw.line([(0, y + 40), (x, y)] if x < 600 else [(x + 240, y), (1200, y - 30)], fill=colour, width=26)
        draw.rounded_rectangle((x, 270, x + 240, 510), 24, fill=_PAPER, outline=_RIM, width=8)
    return image


def _add(garage: Garage, image: Image.Image, what: Shows, caption: str, days: float) -> None:
    out = io.BytesIO()
    image.save(out, "PNG")
    size = out.tell()
    out.seek(0)
    kept = pictures.taken(out, size)
    pictures.keep(kept)
    when = timezone.now() - timedelta(days=days)
    Photo.objects.create(garage=garage, sha=kept.sha, width=kept.width, height=kept.height, caption=caption, when=when, by_name="demo", **what.fields)


def fill_album(garage: Garage) -> None:
    """Photos of two packs of the rack and of a plug of a machine."""
    garden = garage.rack.filter(kind="packs", label="7-cell garden pack, 4 Ah").order_by("pk").first()
    old = garage.rack.filter(kind="packs", label__endswith=", old").get()
    _add(garage, label("Garden pack", "25.9 V  4.0 Ah", "7 cells, Li-ion", "Charge to 29.4 V only"), Shows(part=garden), "Its label, before the sun takes it", 600)
    _add(garage, dent(), Shows(part=old), "The corner it fell on", 3)
    buggy = Build.objects.get(garage=garage, name="Marmalade").setups.get(in_use=True)
    _add(garage, plug(), Shows(setup=buggy, place="plug throttle"), "Before we parted it", 11)
