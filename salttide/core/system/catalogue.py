"""The packaged data files: task kinds, runbooks, presets, cautions and gear. One loader, validated when loaded."""

from __future__ import annotations

import tomllib
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import cache
from importlib import resources
from typing import Any

from ..basics.errors import DataError, InputError, check_choice
from ..science.food import FoodKind
from ..science.parameters import Parameter, Span
from ..science.units import DKH_PER_MEQ_L
from .finding import Advice, RuleKind
from .inspection import Amount, EventKind, Sign, SignGroup, SignKind, Where
from .methods import MethodChoice, MethodQuestion


@dataclass(frozen=True)
class GearKind:
    """A kind of gear: its name, and why it is off while water is out (empty: it may run on). order: of switching off ·
    on: order of switching on again, 0 where it runs on.
    """

    key: str
    name: str
    off_why: str
    on_check: str
    order: int
    on: int = 0


@dataclass(frozen=True)
class Caution:
    """A caution: title and the sentence that says what can happen and what to do."""

    key: str
    title: str
    text: str


@dataclass(frozen=True)
class KitItem:
    """Something to have at hand: its name, and what it is for."""

    key: str
    name: str
    why: str


@dataclass(frozen=True)
class Preset:
    """Default target bands for a kind of stock, in canonical units."""

    key: str
    name: str
    bands: Mapping[Parameter, Span]


@cache
def gear_kinds() -> dict[str, GearKind]:
    """All gear kinds by key, in the order in which they are switched off."""
    with reading_data("gear"):
        return {
            key: GearKind(
                key, table["name"], table.get("off_why", ""), table.get("on_check", ""), order, table.get("on", 0)
            )
            for order, (key, table) in enumerate(data_file("gear").items())
        }


def power_on(keys: Iterable[str]) -> list[str]:
    """Gear in the order of switching on again: pumps, then what needs their flow or the level, then what adds to the
    water, the heater last.

    >>> power_on(["heater", "top_off", "skimmer", "return_pump", "dosing_pump"])
    ['return_pump', 'top_off', 'skimmer', 'dosing_pump', 'heater']
    """
    kinds = gear_kinds()
    return sorted((key for key in keys if kinds[key].off_why), key=lambda key: (kinds[key].on, kinds[key].order))


@cache
def cautions() -> dict[str, Caution]:
    """All cautions by key."""
    with reading_data("cautions"):
        return {key: Caution(key, table["title"], table["text"]) for key, table in data_file("cautions").items()}


@cache
def kit_items() -> dict[str, KitItem]:
    """All kit a visit may need, by key."""
    with reading_data("kit"):
        return {key: KitItem(key, table["name"], table["why"]) for key, table in data_file("kit").items()}


@cache
def signs() -> dict[str, SignKind]:
    """All signs of a visual check by key, in order."""
    with reading_data("signs"):
        kinds = [
            SignKind(key, row["name"], SignGroup(row["group"]), frozenset(row["marks"]), row.get("graded", True))
            for key, row in data_file("signs").items()
        ]
    order = list(SignGroup)
    return {kind.key: kind for kind in sorted(kinds, key=lambda kind: order.index(kind.group))}


def sign(key: str, amount: str = "", where: str = "") -> Sign:
    """A sign by the key of its kind. Raises InputError or UnitError that lists what is known.

    >>> sign("hair_algae", "patches", "rock").words
    'green hair algae, patches, on the rock'
    """
    if key not in signs():
        raise InputError(f"“{key}” is not something to be seen", accepted=", ".join(signs()))
    return Sign(
        signs()[key],
        check_choice(Amount, amount, "amount") if amount else None,
        check_choice(Where, where, "place") if where else None,
    )


def event_kind(key: str) -> EventKind:
    """A kind of event by its key. Raises InputError that lists what is known."""
    if key not in event_kinds():
        raise InputError(f"“{key}” is not an event", accepted=", ".join(event_kinds()))
    return event_kinds()[key]


@cache
def event_kinds() -> dict[str, EventKind]:
    """All kinds of events by key."""
    with reading_data("events"):
        return {
            key: EventKind(
                key,
                row["name"],
                {Parameter(name): int(how) for name, how in row["affects"].items()},
                row["confirm_by"],
                tuple(row["aliases"]),
            )
            for key, row in data_file("events").items()
        }


@cache
def rule_kinds() -> dict[str, RuleKind]:
    """All rules of judgement by key, in the order they run."""
    with reading_data("rules"):
        kinds = [
            RuleKind(
                key,
                row["name"],
                row["about"],
                Advice(row["move"]),
                int(row["rank"]),
                tuple(row.get("waits_for", [])),
                frozenset(Parameter(name) for name in row.get("urgent_for", [])),
                tuple(row.get("explains", [])),
            )
            for key, row in data_file("rules").items()
        ]
    return {kind.key: kind for kind in sorted(kinds, key=lambda kind: kind.rank)}


@cache
def presets() -> dict[str, Preset]:
    """All presets of target bands by key. Alkalinity stands in the files in dKH."""
    return {key: _preset(key, table) for key, table in data_folder("presets")}


def _preset(key: str, table: Mapping[str, Any]) -> Preset:
    with reading_data(f"presets/{key}"):
        return Preset(key, table["name"], _bands(table["bands"]))


def _bands(table: Mapping[str, Any]) -> dict[Parameter, Span]:
    bands = {}
    for name, (low, high) in table.items():
        scale = 1 / DKH_PER_MEQ_L if name == "alkalinity_dkh" else 1.0
        bands[Parameter(name.removesuffix("_dkh"))] = Span(low * scale, high * scale)
    return bands


@cache
def food_kinds() -> dict[str, FoodKind]:
    """All kinds of food by key, with their usual content."""
    with reading_data("foods"):
        return {key: FoodKind(key=key, **row) for key, row in data_file("foods").items()}


@cache
def method_questions() -> dict[str, MethodQuestion]:
    """All questions of the methods by key, with their choices."""
    with reading_data("methods"):
        return {
            key: MethodQuestion(key, row["name"], {name: _school(name, one) for name, one in row["choices"].items()})
            for key, row in data_file("methods").items()
        }


def _school(key: str, row: Mapping[str, Any]) -> MethodChoice:
    return MethodChoice(
        key, row["name"], row["line"], row.get("risk", ""), row.get("sets", {}), _bands(row.get("bands", {}))
    )


class reading_data:  # noqa: N801 - reads as a verb at its uses
    """Turn any error in a data file into a DataError that names the file."""

    def __init__(self, name: str) -> None:
        self.name = name

    def __enter__(self) -> None: ...

    def __exit__(self, kind: type[BaseException] | None, error: BaseException | None, trace: object) -> None:
        if isinstance(error, (KeyError, ValueError, TypeError, FileNotFoundError)):
            raise DataError(f"data file {self.name}: {error!r}") from error


def data_folder(name: str) -> list[tuple[str, dict[str, Any]]]:
    """All data files of a folder, by key."""
    folder = resources.files("salttide.core") / "data" / name
    keys = sorted(entry.name.removesuffix(".toml") for entry in folder.iterdir() if entry.name.endswith(".toml"))
    return [(key, data_file(f"{name}/{key}")) for key in keys]


def data_file(name: str) -> dict[str, Any]:
    """The contents of one data file."""
    return tomllib.loads((resources.files("salttide.core") / "data" / f"{name}.toml").read_text("utf-8"))
