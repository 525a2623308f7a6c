"""Inspection: what a visual check finds beside the numbers, and what happens to a system and explains later changes."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum

from ..basics.errors import InputError
from ..science.parameters import Parameter


class Amount(StrEnum):
    """How much of a sign is seen."""

    TRACE = "trace"
    PATCHES = "patches"
    MUCH = "much"


class Where(StrEnum):
    """Where a sign is seen."""

    SAND = "sand"
    ROCK = "rock"
    PANELS = "panels"
    GEAR = "gear"
    ANIMALS = "animals"
    EVERYWHERE = "everywhere"


class SignGroup(StrEnum):
    """Groups of signs, in the order of a visual check."""

    ANIMALS = "animals"
    GROWTH = "growth"
    WATER = "water"
    GEAR = "gear"


@dataclass(frozen=True)
class SignKind:
    """A kind of sign. `marks`: what rules look for; `graded`: with amount and place."""

    key: str
    name: str
    group: SignGroup
    marks: frozenset[str]
    graded: bool


@dataclass(frozen=True)
class EventKind:
    """A kind of event. `affects`: how strongly it affects a parameter (1 sometimes, 3 often the cause). `aliases`: its
    words in the jot line.
    """

    key: str
    name: str
    affects: Mapping[Parameter, int]
    confirm_by: str
    aliases: tuple[str, ...] = ()


@dataclass(frozen=True)
class Sign:
    """A sign seen; with amount and place where its kind is graded."""

    kind: SignKind
    amount: Amount | None = None
    where: Where | None = None

    @property
    def words(self) -> str:
        """In words: "green hair algae, patches, on the rock"."""
        place = {Where.EVERYWHERE: "everywhere", None: ""}.get(self.where, f"on the {self.where}")
        return ", ".join(part for part in (self.kind.name, self.amount or "", place) if part)


@dataclass(frozen=True)
class VisualCheck:
    """A visual check: all signs found. What it does not name was not there."""

    at: datetime
    signs: tuple[Sign, ...]
    note: str = ""
    id: int = 0


NOTE = "note"
"""The kind of event that is a note and nothing else."""


@dataclass(frozen=True)
class Event:
    """An event in the life of a system."""

    at: datetime
    kind: EventKind
    note: str = ""
    id: int = 0

    @property
    def words(self) -> str:
        """The event in words, with the keeper's note."""
        if self.kind.key == NOTE:
            return f"note: {self.note}"
        return f"{self.kind.name} ({self.note})" if self.note else self.kind.name


def check_signs(signs: Sequence[Sign]) -> tuple[Sign, ...]:
    """Check the signs of one visual check: each kind once, and graded where its kind is. Raises InputError at the
    kind."""
    for number, sign in enumerate(signs):
        field = f"signs.{number}"
        if any(sign.kind == other.kind for other in signs[:number]):
            raise InputError(f"{sign.kind.name} is there twice", field=field, accepted="each sign once")
        if sign.kind.graded and sign.amount is None:
            accepted = ", ".join(Amount)
            raise InputError(f"say how much {sign.kind.name} there is", field=field, accepted=accepted)
    well = [sign for sign in signs if "well" in sign.kind.marks]
    ill = [sign for sign in signs if "stress" in sign.kind.marks]
    if well and ill:
        raise InputError(
            f"“{well[0].kind.name}” and “{ill[0].kind.name}” cannot both be so",
            field=f"signs.{list(signs).index(ill[0])}",
            accepted="one of the two",
        )
    return tuple(signs)
