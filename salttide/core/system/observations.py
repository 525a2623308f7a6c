"""Observations made with a task: flow before and after, the colour in the cup, what was broken. One data file."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from functools import cache
from typing import Any

from ..basics.errors import InputError
from ..basics.number_text import DecimalSign, parse_number, show_number
from ..basics.phrasing import listed
from .catalogue import data_file, reading_data

TEXT_MOST = 300


class InputType(StrEnum):
    """How an observation is entered."""

    NUMBER = "number"
    CHOICE = "choice"
    TEXT = "text"


@dataclass(frozen=True)
class ObservationKind:
    """A kind of observation: a number with its unit and range, one of several choices, or words."""

    key: str
    name: str
    input_type: InputType
    unit: str = ""
    low: float = 0.0
    high: float = 1e6
    digits: int = 0
    choices: tuple[str, ...] = ()


@cache
def found_kinds() -> dict[str, ObservationKind]:
    """All kinds of observations by key."""
    with reading_data("found"):
        return {key: _kind(key, row) for key, row in data_file("found").items()}


def _kind(key: str, row: Mapping[str, Any]) -> ObservationKind:
    return ObservationKind(
        **{"key": key, **row, "input_type": InputType(row["input_type"]), "choices": tuple(row.get("choices", ()))}
    )


def read_found(key: str, text: str, sign: DecimalSign = DecimalSign.POINT) -> float | str:
    """An observation as typed: a number, a choice, or words. Raises InputError at `found.<key>` with what is accepted.

    >>> read_found("cup_level", "70")
    70.0
    """
    field = f"found.{key}"
    if key not in found_kinds():
        raise InputError(f"“{key}” is not something that is found", field=field)
    kind, text = found_kinds()[key], text.strip()
    if kind.input_type == InputType.CHOICE and text not in kind.choices:
        choices = listed(list(kind.choices))
        raise InputError(f"choose one: {choices}", field=field, accepted=choices)
    if kind.input_type == InputType.TEXT and not 1 <= len(text) <= TEXT_MOST:
        raise InputError(
            f"say it in up to {TEXT_MOST} characters", field=field, accepted=f"up to {TEXT_MOST} characters"
        )
    if kind.input_type != InputType.NUMBER:
        return text
    accepted = f"{show_number(kind.low, kind.digits)} to {show_number(kind.high, kind.digits)} {kind.unit}".strip()
    try:
        value = parse_number(text.removesuffix(kind.unit).strip(), sign)
    except InputError as error:
        raise InputError(f"“{text}” is not a number: {accepted}", field=field, accepted=accepted) from error
    if not kind.low <= value <= kind.high:
        raise InputError(f"{text} cannot be: {accepted}", field=field, accepted=accepted)
    return value


def number_found(found: Mapping[str, float | str], key: str) -> float | None:
    """An observation as a number; None where it is not one or was not made.

    >>> number_found({"cup_level": 70, "spots": "left"}, "cup_level")
    70.0
    """
    value = found.get(key)
    return None if value is None or isinstance(value, str) else float(value)


def found_text(key: str, value_text: float | str) -> str:
    """An observation as it would be typed: a number with its digits, without its unit.

    >>> found_text("slope", 97.5)
    '97.5'
    """
    return value_text if isinstance(value_text, str) else show_number(value_text, found_kinds()[key].digits)


def found_words(found: Mapping[str, float | str]) -> list[str]:
    """Observations, one line each, with units.

    >>> found_words({"cup_level": 70.0, "cup_colour": "dark and dry"})
    ['Cup filled: 70 %', 'In the cup: dark and dry']
    """
    lines = []
    for key, value in found.items():
        kind = found_kinds().get(key)
        if kind is None:
            continue
        value_text = value if isinstance(value, str) else f"{show_number(value, kind.digits)} {kind.unit}".strip()
        lines.append(f"{kind.name}: {value_text}")
    return lines
