"""Painted pictures of the household's systems: a corner as it changes over weeks. Drawn, not photographed."""

from __future__ import annotations

import math
from dataclasses import dataclass
from datetime import date
from io import BytesIO
from random import Random
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from PIL import ImageDraw

SIZE = (1280, 960)


@dataclass(frozen=True)
class Painted:
    """One picture: of which system, when, what it shows, and how far its growth has come (0 to 1)."""

    system: str
    day: date
    subject: str
    note: str
    growth: float


PICTURES = (
    Painted("Eelgrass", date(2026, 10, 3), "grass, front left", "clear", 0.0),
    Painted("Eelgrass", date(2026, 11, 7), "grass, front left", "first strands", 0.4),
    Painted("Eelgrass", date(2026, 11, 21), "grass, front left", "strands with bubbles", 1.0),
    Painted("Beacon", date(2026, 6, 6), "torch ledge", "", 0.2),
    Painted("Beacon", date(2026, 11, 14), "torch ledge", "wider by a head", 0.8),
    Painted(
        "Beacon", date(2025, 12, 9), "parts: UV steriliser sleeve and seals", "from the left, as they come out", 0.0
    ),
)


def paint(one: Painted) -> bytes:
    """The picture as a JPEG. The same on every day: drawn from its own words."""
    from PIL import Image, ImageDraw, ImageFilter

    image = Image.new("RGB", SIZE)
    draw = ImageDraw.Draw(image)
    for y in range(SIZE[1]):
        depth = y / SIZE[1]
        draw.line((0, y, SIZE[0], y), fill=(int(70 - 45 * depth), int(150 - 70 * depth), int(190 - 60 * depth)))
    draw.rectangle((0, 820, *SIZE), fill=(214, 196, 150))
    place = Random(f"{one.system} {one.subject}")
    if one.subject.startswith("parts"):
        _parts(draw)
    elif one.system == "Eelgrass":
        _grass(draw, place, one.growth)
    elif one.system == "Skiff":
        _corner(draw, place, one.growth)
    else:
        _ledge(draw, place, one.growth)
    soft = image.filter(ImageFilter.GaussianBlur(1.6))
    out = BytesIO()
    soft.save(out, "JPEG", quality=85)
    return out.getvalue()


def _parts(draw: ImageDraw.ImageDraw) -> None:
    """Nut, two seals, sleeve and lamp in their order on a towel."""
    draw.rectangle((0, 0, *SIZE), fill=(226, 220, 204))
    for y in range(0, SIZE[1], 24):
        draw.line((0, y, SIZE[0], y), fill=(216, 209, 190), width=6)
    draw.rounded_rectangle((70, 380, 200, 580), 24, fill=(60, 66, 72))
    for x in (290, 420):
        draw.ellipse((x, 400, x + 60, 560), outline=(30, 32, 36), width=18)
    draw.rounded_rectangle((560, 420, 1010, 540), 60, outline=(120, 150, 165), width=12, fill=(232, 240, 242))
    draw.rounded_rectangle((640, 640, 1180, 700), 30, fill=(244, 244, 250), outline=(150, 150, 165), width=6)
    draw.rectangle((1130, 630, 1210, 710), fill=(196, 190, 176))


def _grass(draw: ImageDraw.ImageDraw, place: Random, growth: float) -> None:
    """Blades that lean with the flow, and brown strands over them."""
    for _ in range(90):
        root, length, lean = place.uniform(0, 1280), place.uniform(260, 620), place.uniform(-70, 110)
        green = (place.randint(40, 80), place.randint(120, 165), place.randint(60, 90))
        blade = [(root + lean * (t / 9) ** 2, 850 - length * t / 9) for t in range(10)]
        draw.line(blade, fill=green, width=place.randint(7, 13), joint="curve")
    for _ in range(int(260 * growth)):
        x, y = place.uniform(0, 1280), place.uniform(250, 860)
        strand = [(x + 14 * math.sin(t + x), y + 16 * t) for t in range(6)]
        draw.line(strand, fill=(122, 82, 44), width=4)
    for _ in range(int(120 * max(0.0, growth - 0.5))):
        x, y = place.uniform(0, 1280), place.uniform(250, 860)
        draw.ellipse((x, y, x + 9, y + 9), outline=(235, 240, 240), width=2)


def _corner(draw: ImageDraw.ImageDraw, place: Random, growth: float) -> None:
    """A corner with a stone and an anemone, and red film that creeps over it."""
    for _ in range(26):
        x, y, r = place.uniform(40, 620), place.uniform(560, 860), place.uniform(60, 120)
        shade = place.randint(84, 128)
        draw.ellipse((x - r, y - r * 0.6, x + r, y + r * 0.6), fill=(shade, shade - 14, shade - 30))
    for arm in range(46):
        angle = arm * 0.07 - math.pi
        tip = 900 + 230 * math.cos(angle), 640 + 210 * math.sin(angle)
        draw.line((900, 720, *tip), fill=(168, 128, 86), width=18)
        draw.ellipse((tip[0] - 13, tip[1] - 13, tip[0] + 13, tip[1] + 13), fill=(222, 186, 190))
    for spot in range(90):
        x, y, r = place.uniform(20, 700), place.uniform(610, 930), place.uniform(24, 74)
        if spot < 90 * growth:
            draw.ellipse((x - r, y - r * 0.45, x + r, y + r * 0.45), fill=(128, 34, 44))


def _ledge(draw: ImageDraw.ImageDraw, place: Random, growth: float) -> None:
    """A ledge of rock with a coral whose heads grow wider."""
    for _ in range(60):
        x, y, r = place.uniform(100, 1180), place.uniform(620, 880), place.uniform(50, 130)
        shade = place.randint(70, 120)
        draw.ellipse((x - r, y - r * 0.7, x + r, y + r * 0.7), fill=(shade, shade - 12, shade - 24))
    for head in range(3 + round(2 * growth)):
        centre = 400 + head * 130, 560 - 30 * (head % 2)
        for arm in range(60):
            angle, reach = arm * 0.105 - math.pi, 60 + 70 * growth + place.uniform(-12, 12)
            tip = centre[0] + reach * math.cos(angle), centre[1] + reach * math.sin(angle) * 0.8
            draw.line((*centre, *tip), fill=(120, 150, 70), width=7)
            draw.ellipse((tip[0] - 8, tip[1] - 8, tip[0] + 8, tip[1] + 8), fill=(225, 205, 120))
