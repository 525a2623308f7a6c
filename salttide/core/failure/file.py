"""What can fail and what protects: two data files, validated when they are loaded."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache

from ..system.catalogue import data_file, reading_data
from ..upkeep.task import tasks


@dataclass(frozen=True)
class Safeguard:
    """What protects. money: 0 (nothing) to 4 (much) · minutes: of work."""

    key: str
    name: str
    how: str
    money: int
    minutes: int

    @property
    def effort(self) -> float:
        """Work and money as one number, to rank by (judgement): half an hour of work, or a step of money."""
        return 1 + 2 * self.money + self.minutes / 30


@dataclass(frozen=True)
class FailureKind:
    """Something that can fail. works: what works it out · likely: 1 to 3 ·
    stops, warns: keys of safeguards · drill: the task that
    rehearses it · sheet: the emergency to open when it happens."""

    key: str
    name: str
    about: str
    works: str
    short: str
    likely: int
    stops: tuple[str, ...]
    warns: tuple[str, ...]
    drill: str
    sheet: str
    do: str


@cache
def safeguards() -> Mapping[str, Safeguard]:
    """All kinds of safeguards by key."""
    with reading_data("safeguards"):
        found = {key: Safeguard(key, **row) for key, row in data_file("safeguards").items()}
        for one in found.values():
            if not 0 <= one.money <= 4:
                raise ValueError(f"{one.key}: money is 0 to 4")
        return found


@cache
def failure_kinds() -> Mapping[str, FailureKind]:
    """All that can fail, by key, in their order."""
    with reading_data("failures"):
        found = {}
        for key, row in data_file("failures").items():
            one = FailureKind(key, **{**row, "stops": tuple(row["stops"]), "warns": tuple(row["warns"])})
            for name in (*one.stops, *one.warns):
                if name not in safeguards():
                    raise ValueError(f"{key}: “{name}” is not a safeguard")
            if one.drill and one.drill not in tasks():
                raise ValueError(f"{key}: “{one.drill}” is not a task")
            if one.likely not in (1, 2, 3):
                raise ValueError(f"{key}: likely is 1, 2 or 3")
            found[key] = one
        return found
