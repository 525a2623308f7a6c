"""What a controller says of a system, read from plain JSON: measured values and contacts, each with its own refusal."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from math import isfinite
from typing import Any

from ..basics.errors import DomainError, SaltTideError
from ..basics.phrasing import either
from ..basics.refused import refused
from ..science.parameters import FACTS, Parameter, spoken
from ..science.units import to_canonical, unit_named
from .follow import Sample
from .signals import Signal, signals

MAX_ROWS = 5000
MAX_NAME = 60
EARLIEST = datetime(2000, 1, 1, tzinfo=UTC)
FUTURE = timedelta(minutes=5)
"""A controller's clock may be wrong by so much."""


@dataclass(frozen=True)
class Heard:
    """What a sensor said: a signal's value at a moment, canonical; a contact's is 0 or 1."""

    signal: str
    sensor: str
    sample: Sample


def heard_of(report: Any, now: datetime) -> tuple[list[Heard], list[SaltTideError]]:
    """What was heard, and what could not be taken, each with its place as its field. report: a table with the lists
    `readings` (sensor, signal, value, unit and at where they are given) and `contacts` (sensor, signal, on, at).

    >>> now = datetime(2026, 11, 24, 12, tzinfo=UTC)
    >>> said = {"readings": [{"sensor": "T1", "signal": "temperature", "value": 77.0, "unit": "°F"}]}
    >>> heard, wrong = heard_of(said, now)
    >>> heard[0].signal, round(heard[0].sample.value, 6), wrong
    ('temperature', 25.0, [])
    """
    heard: list[Heard] = []
    wrong: list[SaltTideError] = []
    if not isinstance(report, Mapping):
        return [], [refused("controller.not_a_table", "", "controller.readings_and_contacts")]
    for place in ("readings", "contacts"):
        rows = report.get(place) or []
        if not isinstance(rows, Sequence) or isinstance(rows, str) or len(rows) > MAX_ROWS:
            wrong.append(refused("controller.not_a_list", place, "controller.up_to_rows"))
            continue
        for number, row in enumerate(rows):
            try:
                heard.append(_heard(row, place == "contacts", now))
            except SaltTideError as error:
                error.field = f"{place}.{number}{'.' if error.field else ''}{error.field}"
                wrong.append(error)
    return heard, wrong


def _heard(row: Any, contact: bool, now: datetime) -> Heard:
    if not isinstance(row, Mapping):
        raise refused("controller.not_a_table", "", "controller.of_a_sensor")
    signal = signals().get(str(row.get("signal")))
    if signal is None or signal.contact != contact:
        known = [key for key, one in signals().items() if one.contact == contact]
        raise refused("controller.no_such_signal", "signal", takes=either(known), signal=row.get("signal"))
    name = row.get("sensor")
    if not isinstance(name, str) or not 1 <= len(name.strip()) <= MAX_NAME:
        raise refused("controller.name_the_sensor", "sensor", "controller.up_to_letters")
    value = _on(row.get("on")) if signal.parameter is None else _measured(row, signal)
    return Heard(signal.key, name.strip(), Sample(_moment(row.get("at"), now), value))


def _moment(said: Any, now: datetime) -> datetime:
    if said is None:
        return now
    try:
        at = said if isinstance(said, datetime) else datetime.fromisoformat(said)
    except (TypeError, ValueError):
        at = None
    if at is None or at.tzinfo is None:
        raise refused("controller.not_a_moment", "at", "controller.with_its_offset")
    if at > now + FUTURE:
        raise refused("probe.this_time_is_in_the_future", "at", "probe.up_to_now")
    if at < EARLIEST:
        raise refused("probe.too_early_for_a_probe", "at", "probe.from_on")
    return at.astimezone(UTC).replace(microsecond=0)


def _on(said: Any) -> float:
    if not isinstance(said, bool):
        raise refused("controller.not_on_or_off", "on", "controller.true_or_false")
    return float(said)


def _measured(row: Mapping[str, Any], signal: Signal) -> float:
    """The value, canonical, in the unit that is named."""
    value, unit = row.get("value"), row.get("unit") or ""
    if isinstance(value, bool) or not isinstance(value, int | float) or not isfinite(value):
        raise refused("controller.not_a_number", "value", "controller.a_number")
    parameter = signal.parameter or Parameter.TEMPERATURE
    if unit:
        try:
            return to_canonical(parameter, float(value), unit_named(parameter, str(unit)))
        except DomainError as error:
            error.field = "value"
            raise
    possible = FACTS[parameter].possible
    if not possible.holds(value):
        raise DomainError(spoken(parameter), value, "", possible.low, possible.high, field="value")
    return float(value)
