"""Pictures as files: read by what is in them, turned upright, shrunk, written anew without where and with what they were taken."""

from __future__ import annotations

import hashlib
import io
import os
import warnings
from dataclasses import dataclass
from pathlib import Path
from typing import IO

from django.conf import settings
from PIL import Image, ImageOps, UnidentifiedImageError

from server.errors import Refused

MOST_BYTES = 25 * 10**6
"""A file larger than this is no photo of a phone."""
MOST_PIXELS = 60 * 10**6
"""More pixels than this are not unpacked: a small file may hold a picture that fills the memory."""
LONG_SIDE = 1800
"""The longer side of what is kept. [pixels]"""
QUALITY = 82
FORMATS = ("JPEG", "PNG", "WEBP", "GIF", "BMP", "TIFF")
"""What is read; told by the file's contents, whatever its name says."""


@dataclass(frozen=True)
class Picture:
    """A picture as it is kept."""

    sha: str
    width: int
    height: int
    jpeg: bytes


def folder() -> Path:
    """Where pictures lie, readable by their owner only."""
    place = Path(settings.PHOTOS)
    place.mkdir(parents=True, exist_ok=True)
    place.chmod(0o700)
    return place


def path_of(sha: str) -> Path:
    """Where the picture of these contents lies."""
    return folder() / f"{sha}.jpg"


def taken(file: IO[bytes], size: int) -> Picture:
    """A picture read and written anew. Raises Refused for what is no picture, too large, or damaged."""
    if size > MOST_BYTES:
        raise Refused(f"This file has {size / 1e6:.0f} MB; a photo may have {MOST_BYTES // 10**6} MB. Take it smaller.", code="too_large", status=413, field="/upload")
    try:
        with warnings.catch_warnings():
            # Pixels are counted here, before anything is unpacked.
            warnings.simplefilter("ignore", Image.DecompressionBombWarning)
            with Image.open(file, formats=FORMATS) as opened:
                if opened.width * opened.height > MOST_PIXELS:
                    raise Refused(
                        f"This picture has {opened.width} by {opened.height} pixels, more than a photo has. Take it smaller.",
                        code="too_large",
                        status=413,
                        field="/upload",
                    )
                upright = ImageOps.exif_transpose(opened).convert("RGB")
    except (UnidentifiedImageError, OSError, SyntaxError, ValueError, Image.DecompressionBombError) as error:
        raise Refused("This is no picture that can be read, or it is damaged. Take a JPEG, PNG or WebP.", code="no_picture", field="/upload") from error
    upright.thumbnail((LONG_SIDE, LONG_SIDE))
    out = io.BytesIO()
    # A new picture holds nothing of the old file but its pixels: no place, no camera, no comment.
    Image.frombytes("RGB", upright.size, upright.tobytes()).save(out, "JPEG", quality=QUALITY, optimize=True)
    jpeg = out.getvalue()
    return Picture(hashlib.sha256(jpeg).hexdigest(), upright.width, upright.height, jpeg)


def keep(picture: Picture) -> None:
    """Write a picture into the folder; one that is there stays as it is."""
    path = path_of(picture.sha)
    if path.is_file():
        return
    half = path.with_suffix(f".{os.getpid()}.half")
    half.write_bytes(picture.jpeg)
    half.chmod(0o600)
    half.replace(path)


_OWN_SEGMENTS = {"APP0"}


def as_kept(content: bytes) -> Picture | None:
    """A picture that is just as this program writes it: as large at most, with no segment but the plain one, and nothing behind its end; None for any other."""
    if len(content) > MOST_BYTES or not content.endswith(b"\xff\xd9"):
        return None
    try:
        with Image.open(io.BytesIO(content), formats=("JPEG",)) as opened:
            segments = {name for name, _ in getattr(opened, "applist", [])}
            if max(opened.size) > LONG_SIDE or not segments <= _OWN_SEGMENTS or "comment" in opened.info:
                return None
            opened.load()
            size = opened.size
    except (UnidentifiedImageError, OSError, SyntaxError, ValueError, Image.DecompressionBombError):
        return None
    return Picture(hashlib.sha256(content).hexdigest(), *size, content)
