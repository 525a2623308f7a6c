"""A situation from plain numbers and words: for callers without a database, and for tests."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from typing import Any

from ..basics.errors import InputError, check_choice, check_range
from ..ledger.entries import Change, Dose, Ledger, Reading
from ..science.parameters import FACTS, Parameter, Span
from ..science.units import parse_measurement
from ..system.catalogue import event_kind, presets, sign
from ..system.inspection import Event, VisualCheck, check_signs
from ..system.livestock import Animal, check_animal
from ..system.system import Limits, Methods, PanelMaterial, SandMethod, Stage, System
from ..system.volume import Geometry
from .situation import Situation

NOON = datetime(2026, 11, 24, 12, tzinfo=UTC)
FLOOR_CM = 100.0, 50.0


def situation_described(
    readings: Sequence[tuple[Any, ...]],
    looks: Mapping[float, Sequence[str]] | None = None,
    happenings: Sequence[tuple[Any, ...]] = (),
    changes: Sequence[tuple[float, float, Mapping[str, float]]] = (),
    doses: Sequence[tuple[float, Mapping[str, float]]] = (),
    bands: str = "large_polyp",
    volume_l: float = 200.0,
    sand: str = "siphoned",
    stage: str = "running",
    largest_fraction: float = 0.25,
    age_days: float = 690.0,
    animals: Mapping[str, Mapping[str, tuple[float, float]]] | None = None,
    expired: Mapping[str, float] | None = None,
) -> Situation:
    """A system of `volume_l` (2 to 5000 L) with a preset's bands, judged at noon; times are in days before that.

    readings: (parameter, value, days ago[, instrument[, scatter]]); value canonical, or text with its unit ("7.9 dKH").
    looks: {days ago: ["hair_algae patches rock", …]}, an empty list for a look that found nothing.
    happenings: (kind of event, days ago[, note]) · changes: (days ago, fraction 0..1, {parameter: value of the new
    water}). doses: (days ago, {parameter: what it raised the whole volume by}). animals: {name: {parameter: (from, to)
    it tolerates}} · expired: {parameter: days since "kit"'s reagent was good}. Raises InputError for what is not known
    by that name, DomainError outside the ranges.

    >>> s = situation_described([("nitrate", 0.0, 1), ("alkalinity", "8.2 dKH", 1)], {1: ["hair_algae patches rock"]})
    >>> s.look.signs[0].words, round(s.value(Parameter.ALKALINITY), 3)
    ('green hair algae, patches, on the rock', 2.925)
    """
    alive = tuple(_animal(*pair) for pair in (animals or {}).items())
    system = replace(_system(bands, volume_l, sand, stage, largest_fraction, age_days), animals=alive)
    ledger = Ledger(
        volume_l,
        _in_order([_reading(number, *_row("readings", row, 3, 5)) for number, row in enumerate(readings, 1)]),
        _in_order([_change(volume_l, *_row("changes", row, 3, 3)) for row in changes]),
        _in_order([_dose(volume_l, *_row("doses", row, 2, 2)) for row in doses]),
        looks=_in_order([_look(*pair) for pair in (looks or {}).items()]),
        happenings=_in_order([_happening(*_row("happenings", row, 2, 3)) for row in happenings]),
    )
    past = {("kit", check_choice(Parameter, name)): _ago(days).date() for name, days in (expired or {}).items()}
    return Situation(system, ledger, NOON, UTC, expired=past)


def _system(bands: str, volume_l: float, sand: str, stage: str, largest_fraction: float, age_days: float) -> System:
    check_range("net volume", volume_l, "L", 2, 5000)
    if bands not in presets():
        raise InputError(f"“{bands}” is not a preset", field="bands", accepted=", ".join(presets()))
    length, width = FLOOR_CM
    return System(
        0, "Described", "", check_choice(Stage, stage), PanelMaterial.GLASS,
        Geometry(length, width, volume_l * 1000 / length / width),
        Methods(check_choice(SandMethod, sand), min(0.1, largest_fraction), 7, largest_fraction),
        presets()[bands].bands, Limits(), (), 15, _ago(age_days).date().isoformat(),
    )  # fmt: skip


def _animal(name: str, bears: Mapping[str, tuple[float, float]]) -> Animal:
    tolerances = {check_choice(Parameter, key): Span(*ends) for key, ends in bears.items()}
    animal = Animal(1, name, tolerances=tolerances)
    check_animal(animal)
    return animal


def _row(name: str, row: Any, least: int, most: int) -> tuple[Any, ...]:
    if not isinstance(row, tuple | list) or not least <= len(row) <= most:
        wanted = f"{least} parts" if least == most else f"{least} to {most} parts"
        raise InputError(f"each of {name} has {wanted}, not {row!r}", field=name, accepted=wanted)
    return tuple(row)


def _in_order(entries: list[Any]) -> tuple[Any, ...]:
    return tuple(sorted(entries, key=lambda entry: entry.at))


def _ago(days: float) -> datetime:
    return NOON - timedelta(days=check_range("days ago", days, "days", 0, 3660))


def _reading(
    number: int, parameter: str, value: float | str, days_ago: float, instrument: str = "kit", sd: float = 0.0
) -> Reading:
    known = check_choice(Parameter, parameter, "parameter")
    facts = FACTS[known]
    if isinstance(value, str):
        value = parse_measurement(known, value, "")
    check_range(f"reading {number} ({known.value})", value, "", facts.possible.low, facts.possible.high)
    return Reading(_ago(days_ago), known, float(value), sd or facts.sd, instrument, number)


def _change(volume_l: float, days_ago: float, fraction: float, incoming: Mapping[str, float]) -> Change:
    litres = check_range("fraction changed", fraction, "(0 to 1 of the volume)", 0, 1) * volume_l
    return Change(
        _ago(days_ago), litres, litres, {check_choice(Parameter, name): float(held) for name, held in incoming.items()}
    )


def _dose(volume_l: float, days_ago: float, rises: Mapping[str, float]) -> Dose:
    amounts = {check_choice(Parameter, name): float(rise) * volume_l for name, rise in rises.items()}
    return Dose(_ago(days_ago), "dose", 1.0, amounts)


def _look(days_ago: float, words: Sequence[str]) -> VisualCheck:
    return VisualCheck(_ago(days_ago), check_signs([sign(*_row("looks", text.split(), 1, 3)) for text in words]))


def _happening(key: str, days_ago: float, note: str = "") -> Event:
    return Event(_ago(days_ago), event_kind(key), note)
