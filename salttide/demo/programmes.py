"""The programmes of the household: what is being fought, since when, with the reviews and pictures so far."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import UTC, date, datetime, time
from pathlib import Path
from zoneinfo import ZoneInfo

from salttide.core.ledger.entries import Care
from salttide.core.ledger.sightings import COVER
from salttide.core.programme.course import Coverage
from salttide.core.programme.file import programmes
from salttide.core.remedy.case import PROGRAMME, Chosen
from salttide.core.remedy.remedy import RemedyKind
from salttide.core.upkeep.task import tasks
from salttide.files.picture import read_picture, write_picture
from salttide.store import ledger as ledger_store
from salttide.store import picture as picture_store
from salttide.store import remedy as remedy_store

from .pictures import Painted, paint


@dataclass(frozen=True)
class Fought:
    """A programme that was begun: how much there was then and at each review, and the single tasks done."""

    key: str
    begun: date
    before: Coverage
    reviews: tuple[tuple[date, Coverage, float], ...] = ()
    done: tuple[tuple[date, str], ...] = ()


FOUGHT: dict[str, Fought] = {
    "Skiff": Fought(
        "cyanobacteria", date(2026, 10, 27), Coverage.MUCH,
        (
            (date(2026, 11, 3), Coverage.MUCH, 0.9),
            (date(2026, 11, 10), Coverage.PATCHES, 0.55),
            (date(2026, 11, 17), Coverage.PATCHES, 0.3),
        ),
        (
            (date(2026, 10, 28), "dead_spots"), (date(2026, 10, 28), "aim_flow"),
            (date(2026, 10, 29), "feed_portions"), (date(2026, 11, 6), "lift_film"), (date(2026, 11, 10), "lift_film"),
            (date(2026, 11, 14), "lift_film"), (date(2026, 11, 18), "lift_film"), (date(2026, 11, 22), "lift_film"),
        ),
    ),
    "Eelgrass": Fought("dinoflagellates_sand", date(2026, 11, 21), Coverage.PATCHES),
}  # fmt: skip
PLACE = "sand corner, left of the anemone"


def fight(connection: sqlite3.Connection, system_id: int, system: str, zone: ZoneInfo, folder: Path) -> None:
    """Write down what was begun against a growth in a system, and how it went."""
    one = FOUGHT.get(system)
    if one is None:
        return
    programme, key = programmes()[one.key], f"demo-{system_id}-programme"
    title = f"Programme against {programme.name.lower()}, {programme.school}"
    chosen = Chosen(one.key, RemedyKind.ACT, title, programme.about, before=one.before.value)
    begun = _evening(one.begun, zone)
    remedy_store.open_case(connection, system_id, PROGRAMME + programme.trouble, None, chosen, begun, key)
    for number, care in enumerate(_done(one, zone)):
        ledger_store.record(connection, system_id, [care], f"{key}-{number:03d}", care.at)
    for day, coverage, growth in one.reviews:
        at = _evening(day, zone)
        care = Care(at, programme.review, 5.0, found={COVER + programme.sign: coverage.value})
        entry = ledger_store.record(connection, system_id, [care], f"{key}-{day.isoformat()}", at)[0]
        shown = read_picture(paint(Painted(system, day, PLACE, "", growth)))
        write_picture(folder, shown)
        item = picture_store.KeptPicture(
            0,
            system_id,
            at,
            f"{programme.name.lower()}, same place",
            "",
            shown.digest,
            shown.width,
            shown.height,
            entry,
        )
        picture_store.add_picture(connection, item, f"demo-{system_id}-pictures")


def _done(one: Fought, zone: ZoneInfo) -> Iterator[Care]:
    for day, task in one.done:
        yield Care(_evening(day, zone), task, tasks()[task].minutes)


def _evening(day: date, zone: ZoneInfo) -> datetime:
    return datetime.combine(day, time(18, 10), zone).astimezone(UTC)
