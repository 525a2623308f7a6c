"""The demo household: the boathouse at Slipway Lane. Fourteen months, generated from a seed by the fish room.

The keeper's habits and the tanks are simulated day by day; what is stored is only what the keeper would have written
down. The clock of the demo is pinned.
"""

from __future__ import annotations

import os
import sqlite3
from collections.abc import Iterator
from dataclasses import replace
from datetime import UTC, date, datetime, time, timedelta
from pathlib import Path
from random import Random
from zoneinfo import ZoneInfo

from salttide.core.ledger.bench_row import Instrument
from salttide.core.planning.batch import BatchEvent, BatchKind
from salttide.core.planning.batch_plan import Portion, plan_batch, share_batch
from salttide.core.science.additives import AlkalinitySource
from salttide.core.science.mix import SaltMix
from salttide.core.science.parameters import Parameter
from salttide.core.system.system import System
from salttide.files.picture import folder_of, read_picture, write_picture
from salttide.fishroom.probes import Probe
from salttide.household.memo import Memo
from salttide.store import alarm as alarm_store
from salttide.store import batch as batch_store
from salttide.store import container as container_store
from salttide.store import fresh_water as fresh_water_store
from salttide.store import gear as gear_store
from salttide.store import instrument as instrument_store
from salttide.store import ledger as ledger_store
from salttide.store import light as light_store
from salttide.store import livestock as livestock_store
from salttide.store import picture as picture_store
from salttide.store import probe as probe_store
from salttide.store import rota as rota_store
from salttide.store import shelf
from salttide.store import system as system_store
from salttide.store.database import Database
from salttide.store.picture import KeptPicture

from .alarms import SETUP, watch
from .containers import beacon_containers
from .keepers import Diary, beacon, eelgrass, skiff, slipway
from .livestock import ANIMALS, LIGHTS, PARS
from .pictures import PICTURES, paint
from .probes import PROBE_NAME, PROBED
from .programmes import fight
from .shelf import ADDITIVES, BATCHES, BUCKETS, FOODS, LABELS, REAGENTS
from .systems import RO_UNIT, SYSTEMS
from .upkeep import CHOICES, PARTS, upkeep

ZONE = ZoneInfo("Europe/Copenhagen")
NOW = datetime(2026, 11, 24, 18, 40, tzinfo=ZONE)
FIRST_DAY = date(2025, 9, 24)
SEED = 20261124

PROBES = (
    Probe("thermometer W1", "temperature", 0.05, 0.1),
    Probe("refractometer R1", "salinity", 0.25, 0.1),
    Probe("swing-arm hydrometer H1", "salinity", 0.45, 0.1, offset=-1.3),
    Probe("conductivity pen C1", "salinity", 0.12, 0.1),
    Probe("titration kit T1", "alkalinity", 0.045, 0.0357),
    Probe("titration kit T2", "calcium", 7.0, 5.0),
    Probe("titration kit T3", "magnesium", 16.0, 15.0),
    Probe("photometer F1", "nitrate", 0.5, 0.1),
    Probe("photometer F1", "phosphate", 0.006, 0.001),
    Probe("photometer F1", "ammonia", 0.05, 0.01),
    Probe("photometer F1", "nitrite", 0.04, 0.01),
    Probe("pH meter N1", "ph", 0.02, 0.01),
)
CHECKS = (
    ("swing-arm hydrometer H1", "2026-10-18", 35.0, 33.7),
    ("conductivity pen C1", "2026-10-18", 35.0, 35.1),
)
"""Checks against a 35 ppt standard: instrument, day, standard, what it showed."""
KEEPERS = {"Beacon": beacon, "Eelgrass": eelgrass, "Skiff": skiff, "Slipway": slipway}


CALENDAR_HOME = "b0a7b0a7b0a7b0a7"


def make_household(path: Path, fresh: bool = False) -> bool:
    """Make the demo database at `path` unless it is there. Returns whether it was made.

    It is built beside and moved into place whole, so that a killed run leaves nothing half made.
    """
    if path.exists() and not fresh:
        return False
    for old in (path, path.with_name(path.name + "-wal"), path.with_name(path.name + "-shm")):
        old.unlink(missing_ok=True)
    path.parent.mkdir(parents=True, exist_ok=True)
    growing = path.with_name(f"{path.name}.growing")
    growing.unlink(missing_ok=True)
    database = Database(growing)
    with database.write() as connection:
        # The one thing that every other household draws by lot.
        connection.execute("UPDATE calendar SET home = ?", (CALENDAR_HOME,))
    fill(database, folder_of(path))
    database.connection.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    database.close()
    os.replace(growing, path)
    return True


def fill(database: Database, pictures: Path) -> None:
    """Write the household into an empty database, in one transaction, and its pictures into their folder."""
    with database.write() as connection:
        salt_ids = _shelf(connection)
        _instruments(connection)
        shelf.save_keeper(connection, shelf.Keeper(ZONE, {}, salt_ids[0], AlkalinitySource.SODA_ASH))
        rota_store.save_week_minutes(connection, [40.0] * 5 + [200.0, 200.0])
        for number, system in enumerate(SYSTEMS, 1):
            system_id = system_store.add_system(connection, system, _set_up(system))
            _stock(connection, system_id, system)
            _pictures(connection, system_id, system, pictures)
            first = max(FIRST_DAY, date.fromisoformat(system.started_on))
            diary = Diary(system.volume_l, {(p.name, p.parameter): p for p in PROBES}, Random(SEED + number))
            for evening in evenings(first):
                KEEPERS[system.name](diary, evening)
            for index, (at, events) in enumerate(diary.sessions()):
                key = f"demo-{system_id}-{index:05d}"
                ledger_store.record(connection, system_id, events, key, at)
            for index, done in enumerate(upkeep(system.name, first, SEED + number, ZONE)):
                key = f"demo-{system_id}-upkeep-{index:05d}"
                ledger_store.record(connection, system_id, [done], key, done.at)
            for task, choice in CHOICES.get(system.name, {}).items():
                rota_store.choose_care(connection, system_id, task, choice)
            fight(connection, system_id, system.name, ZONE, pictures)
            for part, kept in PARTS.get(system.name, {}).items():
                gear_store.save_part(connection, system_id, part, kept)
            if system.name == "Beacon":
                _containers(connection, system_id)
            for parameter, rows in PROBED.get(system.name, {}).items():
                written = rows(Random(SEED), diary.alkalinity)
                probe_store.add_probe_rows(connection, system_id, parameter, PROBE_NAME, written)
            watch(connection, system_id, system.name)
        alarm_store.save_setup(connection, SETUP)
        _batches(connection, shelf.salt(connection, salt_ids[0]))
        Memo(database).anew(NOW).replan(connection, from_scratch=True)


def _instruments(connection: sqlite3.Connection) -> None:
    """The instruments, their checks against a standard, and their reagents."""
    for probe in PROBES:
        instrument_store.add_instrument(
            connection, Instrument(probe.name, Parameter(probe.parameter), stated_sd(probe))
        )
    for name, day, standard, shown in CHECKS:
        item = Instrument(name, Parameter.SALINITY, 0.3)
        at = datetime.combine(date.fromisoformat(day), time(17, 20), ZONE)
        instrument_store.add_check(connection, item, at, standard, shown)
    for name, parameter, opened, until, lot in REAGENTS:
        item = Instrument(name, parameter, 1.0)
        instrument_store.add_reagent(connection, item, instrument_store.Reagent(opened, until, lot), "demo-shelf")


def _containers(connection: sqlite3.Connection, system_id: int) -> None:
    """The two-part set and its pumps."""
    fresh_water_store.save_ro_unit(connection, RO_UNIT)
    for item in beacon_containers(shelf.additives(connection), SEED):
        number = container_store.add_container(connection, system_id, item, "demo-containers")
        container_store.add_container_events(connection, number, item.events, "demo-containers")


def _batches(connection: sqlite3.Connection, salt: SaltMix) -> None:
    """A batch that stands ready since Sunday, mixed for Beacon and Skiff."""
    salinity, portions = share_batch([Portion(1, "Beacon", 40.1, 34.8, 0.12), Portion(3, "Skiff", 14.2, 34.8, 0.2)])
    job, _ = plan_batch(salt, 54.3, 60.0, salinity, {Parameter.ALKALINITY: 2.9}, temperature_c=25.4)
    at = datetime(2026, 11, 22, 15, 10, tzinfo=ZONE)
    batch_id = batch_store.add_batch(connection, replace(job, heater_w=200.0), portions, at, "demo-batches")
    measured = {Parameter.SALINITY: 34.9, Parameter.TEMPERATURE: 25.1}
    happened = [
        BatchEvent(at, BatchKind.SALTED, job.mass_g),
        BatchEvent(at + timedelta(minutes=25), BatchKind.RESTING),
        BatchEvent(at + timedelta(minutes=170), BatchKind.MEASURED, values=measured),
        BatchEvent(at + timedelta(minutes=175), BatchKind.MATCHED),
    ]
    batch_store.add_events(connection, batch_id, happened, "demo-batches")


def _shelf(connection: sqlite3.Connection) -> list[int]:
    """Salts with their buckets and batches, additives and foods. Returns the numbers of the salts."""
    salt_ids = [shelf.add_label(connection, label) for label in LABELS]
    for index, day, mass_kg, lot in BUCKETS:
        shelf.open_bucket(connection, salt_ids[index], date.fromisoformat(day), mass_kg * 1000, lot, "demo-shelf")
    for index, day, batch in BATCHES:
        shelf.add_batch(connection, salt_ids[index], date.fromisoformat(day), batch, "demo-shelf")
    for item in (*ADDITIVES, *FOODS):
        shelf.save_item(connection, item)
    return salt_ids


def _stock(connection: sqlite3.Connection, system_id: int, system: System) -> None:
    """The animals and the light of a system."""
    key = f"demo-{system_id}-stock"
    for animal in ANIMALS.get(system.name, ()):
        livestock_store.add_animal(connection, system_id, animal, date.fromisoformat(system.started_on), key)
    for light in LIGHTS.get(system.name, ()):
        light_store.add_light(connection, system_id, light, key)
    for par in PARS.get(system.name, ()):
        light_store.add_par(connection, system_id, par, key)


def _pictures(connection: sqlite3.Connection, system_id: int, system: System, folder: Path) -> None:
    """What the keeper took pictures of."""
    for one in (each for each in PICTURES if each.system == system.name):
        picture = read_picture(paint(one))
        write_picture(folder, picture)
        at = datetime.combine(one.day, time(17, 45), ZONE)
        item = KeptPicture(0, system_id, at, one.subject, one.note, picture.digest, picture.width, picture.height)
        picture_store.add_picture(connection, item, f"demo-{system_id}-pictures")


def _set_up(system: System) -> datetime:
    return datetime.combine(date.fromisoformat(system.started_on), time(12), ZONE)


def stated_sd(probe: Probe) -> float:
    """The scatter a keeper would state: the instrument's own, and its reading step."""
    return float(round((probe.sd**2 + probe.step**2 / 12) ** 0.5, 4))


def evenings(first: date) -> Iterator[datetime]:
    """One moment of work each day, 17:30 local, from the first day to the day of the pinned clock."""
    day = first
    while day <= NOW.date():
        yield datetime.combine(day, time(17, 30), ZONE).astimezone(UTC)
        day += timedelta(days=1)
