"""Pictures in: what is kept of them, and what hostile ones come to."""

import struct
import tempfile
import unittest
import zlib
from io import BytesIO
from pathlib import Path

from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image

from salttide.core.basics.errors import InputError
from salttide.files.picture import SIDE, THUMB_SIDE, read_picture, write_picture


def picture(kind: str = "JPEG", size=(640, 480), mode: str = "RGB", colour=(200, 40, 40), **more) -> bytes:
    out = BytesIO()
    Image.new(mode, size, colour).save(out, kind, **more)
    return out.getvalue()


def bomb(width: int, height: int) -> bytes:
    """A PNG of a few kilobytes that says it is so many pixels of nothing."""

    def chunk(kind: bytes, data: bytes) -> bytes:
        body = kind + data
        return struct.pack(">I", len(data)) + body + struct.pack(">I", zlib.crc32(body))

    header = struct.pack(">IIBBBBB", width, height, 8, 0, 0, 0, 0)
    return (
        b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", header) + chunk(b"IDAT", zlib.compress(bytes(1000))) + chunk(b"IEND", b"")
    )


class Kept(unittest.TestCase):
    def test_small_enough_upright_and_nothing_but_pixels(self):
        exif = Image.Exif()
        exif[0x0112] = 6  # turn a quarter to the right
        exif[0x010F] = "a camera"
        exif.get_ifd(0x8825)[1] = "N"
        kept = read_picture(picture(size=(4000, 3000), exif=exif))
        self.assertEqual((kept.width, kept.height), (SIDE * 3 // 4, SIDE))
        with Image.open(BytesIO(kept.jpeg)) as image, Image.open(BytesIO(kept.thumb)) as thumb:
            self.assertEqual((image.format, dict(image.getexif())), ("JPEG", {}))
            self.assertEqual(max(thumb.size), THUMB_SIDE)
        self.assertNotIn(b"a camera", kept.jpeg)

    def test_other_kinds_and_see_through_ones(self):
        for kind, mode, colour in (("PNG", "RGBA", (0, 0, 0, 0)), ("WEBP", "RGB", (255, 255, 255)),
                                   ("PNG", "L", 255), ("PNG", "P", 0)):  # fmt: skip
            with self.subTest(kind=kind, mode=mode):
                kept = read_picture(picture(kind, (60, 40), mode, colour))
                self.assertEqual((kept.width, kept.height), (60, 40))
        with Image.open(BytesIO(read_picture(picture("PNG", (9, 9), "RGBA", (0, 0, 0, 0))).jpeg)) as image:
            self.assertGreater(min(image.getpixel((4, 4))), 250)  # white behind, not black
        for transparency, least in (({"transparency": 0}, 250), ({}, 0)):
            told = picture("PNG", (9, 9), "P", 0, **transparency)
            with Image.open(BytesIO(read_picture(told).jpeg)) as image:
                self.assertEqual(min(image.getpixel((4, 4))) > 250, least == 250, "a colour of a palette, seen through")

    def test_files_are_whole_and_the_same_picture_is_one(self):
        with tempfile.TemporaryDirectory() as folder:
            for _ in range(2):
                write_picture(Path(folder), read_picture(picture()))
            names = sorted(path.name for path in Path(folder).iterdir())
        self.assertEqual(len(names), 2)
        self.assertTrue(names[0].endswith((".jpg", ".thumb.jpg")))


class Hostile(unittest.TestCase):
    def test_what_is_no_picture_or_too_much_of_one_is_refused_at_the_file(self):
        whole = picture(size=(800, 600))
        cases = {
            "nothing": b"",
            "text": b"this is not a picture",
            "a page": b"<svg xmlns='http://www.w3.org/2000/svg'><script>alert(1)</script></svg>",
            "cut off": whole[: len(whole) // 3],
            "a bomb": bomb(60_000, 60_000),
            "too many pixels": bomb(9_000, 9_000),
            "a torn header": b"\xff\xd8\xff" + bytes(400),
            "another kind": picture("GIF", (20, 20), "P", 0),
            "too large": bytes(25_000_001),
        }
        for name, data in cases.items():
            with self.subTest(name), self.assertRaises(InputError) as raised:
                read_picture(data)
            self.assertEqual(raised.exception.field, "file")

    WHOLE = picture("JPEG", (120, 90))

    @settings(max_examples=150, deadline=None)
    @given(st.integers(0, 2000), st.binary(max_size=40), st.integers(0, 40))
    def test_a_picture_that_was_tampered_with_is_read_or_refused(self, at, put_in, cut):
        data = self.WHOLE[: at % len(self.WHOLE)] + put_in + self.WHOLE[at % len(self.WHOLE) + cut :]
        try:
            kept = read_picture(data)
        except InputError as error:
            self.assertEqual(error.field, "file")
            return
        self.assertLessEqual(max(kept.width, kept.height), SIDE)

    @settings(max_examples=100, deadline=None)
    @given(st.sampled_from([b"", b"\xff\xd8\xff\xe0", b"\x89PNG\r\n\x1a\n", b"RIFF\x10\x00\x00\x00WEBP"]),
           st.binary(max_size=200))  # fmt: skip
    def test_any_bytes_behind_a_picture_s_first_ones(self, head, rest):
        with self.assertRaises(InputError):
            read_picture(head + rest)
