"""Pictures in: read safely, turned upright, made small enough, and rid of all that a camera writes beside them."""

from __future__ import annotations

import hashlib
import os
import warnings
from dataclasses import dataclass
from io import BytesIO
from pathlib import Path
from typing import TYPE_CHECKING

from salttide.core.basics.errors import InputError

if TYPE_CHECKING:
    from PIL import Image

LARGEST_BYTES = 25_000_000
LARGEST_PIXELS = {"JPEG": 60_000_000, "PNG": 24_000_000, "WEBP": 24_000_000}
"""A JPEG is decoded near the size that is kept, the others as a whole."""
SIDE, THUMB_SIDE = 2048, 320
KINDS = ("JPEG", "PNG", "WEBP")
ACCEPTED = "a picture up to 25 MB: JPEG up to 60 megapixels, PNG or WebP up to 24"


@dataclass(frozen=True)
class Picture:
    """A picture as it is kept: JPEG bytes of itself and its thumbnail, its size in pixels, and its digest."""

    jpeg: bytes
    thumb: bytes
    width: int
    height: int

    @property
    def digest(self) -> str:
        """SHA-256 of the picture: its name on the disk."""
        return hashlib.sha256(self.jpeg).hexdigest()


def read_picture(data: bytes) -> Picture:
    """A picture from bytes that may be anything. It is decoded and written again, so nothing but pixels is kept.

    Raises InputError at `file` for what is no picture, is cut off, or unpacks to more than the machine should bear.
    """
    from PIL import Image, ImageOps, UnidentifiedImageError

    if len(data) > LARGEST_BYTES:
        raise InputError("this picture is too large", field="file", accepted=ACCEPTED)
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error")
            with Image.open(BytesIO(data), formats=KINDS) as opened:
                if opened.width * opened.height > LARGEST_PIXELS.get(opened.format or "", 0):
                    raise InputError("the picture has too many pixels", field="file", accepted=ACCEPTED)
                # JPEGs are decoded at a size near the one that is kept: a fraction of the work.
                opened.draft("RGB", (SIDE, SIDE))
                upright = ImageOps.exif_transpose(opened)
                plain = _on_white(upright)
    except InputError:
        raise
    except (UnidentifiedImageError, OSError, SyntaxError, ValueError, Image.DecompressionBombError, Warning) as error:
        raise InputError("this is not a picture that can be read", field="file", accepted=ACCEPTED) from error
    plain.thumbnail((SIDE, SIDE))
    jpeg = _jpeg(plain, 86)
    width, height = plain.size
    plain.thumbnail((THUMB_SIDE, THUMB_SIDE))
    return Picture(jpeg, _jpeg(plain, 80), width, height)


def _on_white(image: Image.Image) -> Image.Image:
    from PIL import Image

    if image.mode in ("RGBA", "LA", "PA") or "transparency" in image.info:
        layer = image.convert("RGBA")
        ground = Image.new("RGBA", layer.size, "white")
        return Image.alpha_composite(ground, layer).convert("RGB")
    return image.convert("RGB")


def _jpeg(image: Image.Image, quality: int) -> bytes:
    out = BytesIO()
    # What came with the pixels, a comment too, stays behind.
    image.info.clear()
    image.save(out, "JPEG", quality=quality, optimize=True)
    return out.getvalue()


def folder_of(database: Path) -> Path:
    """Where the pictures of a database lie: beside it."""
    return database.with_name(f"{database.stem}.pictures")


def write_picture(folder: Path, picture: Picture) -> None:
    """Write both files, each whole or not at all; the same picture twice is one file."""
    folder.mkdir(parents=True, exist_ok=True)
    for name, data in ((f"{picture.digest}.jpg", picture.jpeg), (f"{picture.digest}.thumb.jpg", picture.thumb)):
        path = folder / name
        if path.exists():
            continue
        growing = path.with_name(f"{name}.{os.getpid()}.part")
        with growing.open("wb") as file:
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
        os.replace(growing, path)
