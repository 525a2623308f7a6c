"""Programme files: the phases of a programme and what each asks for, validated when loaded."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from functools import cache
from typing import Any

from ..basics.errors import DataError
from ..ledger.sightings import COVER
from ..system.catalogue import cautions, data_folder, reading_data, rule_kinds, signs
from ..trouble.table import troubles
from ..upkeep.task import tasks


class PhaseKind(StrEnum):
    """What ends a phase. FIND: its single tasks are done · FIGHT: so many clean looks in a row · STRONGER: as FIGHT,
    entered only by the keeper's choice · EASE: its weeks are over and it is still clean, the routine goes back step by
    step · WATCH: its weeks are over and it is still clean."""

    FIND = "find"
    FIGHT = "fight"
    STRONGER = "stronger"
    EASE = "ease"
    WATCH = "watch"


@dataclass(frozen=True)
class Ask:
    """A task that a phase asks for: every so many days, or once where that is None, and why. export: it takes nutrients
    out, so it rests while one is at its floor · gear: only where the system has one of these · wish: only where the
    keeper wants it."""

    task: str
    why: str
    every_days: int | None = None
    export: bool = False
    gear: tuple[str, ...] = ()
    wish: bool = False


@dataclass(frozen=True)
class ChangePace:
    """Water changes in a phase: so many times the routine's size, every so many days."""

    times: float
    every_days: int
    why: str


@dataclass(frozen=True)
class LightCut:
    """Fewer hours of light: in all, and how fast (hours, every so many days)."""

    hours: float
    step_hours: float = 0.5
    step_days: int = 3


@dataclass(frozen=True)
class Phase:
    """A phase: its name, what it is about, what it asks for, and which tasks it holds back, with the reason. weeks: how
    long easing and watching last · caution: by key · avoid: words in an animal's name for which it is not done."""

    key: str
    name: str
    kind: PhaseKind
    words: str
    asks: tuple[Ask, ...] = ()
    change: ChangePace | None = None
    light: LightCut | None = None
    food: str = ""
    holds: tuple[str, ...] = ()
    hold_why: str = ""
    weeks: int = 0
    caution: str = ""
    avoid: tuple[str, ...] = ()


@dataclass(frozen=True)
class Lasting:
    """The one lasting change of routine that a programme leaves: a task every so many days, and why."""

    task: str
    every_days: int
    why: str


@dataclass(frozen=True)
class Programme:
    """A programme against a trouble, by one school. sign: the sign of a visual check whose coverage is reviewed, by the
    task `review` · rules: of judgement, whose findings it answers · weeks: in which most tanks are under a twentieth
    (judgement) · clean: weekly looks in a row without it that end the fight."""

    key: str
    name: str
    trouble: str
    school: str
    about: str
    sign: str
    review: str
    weeks: int
    phases: tuple[Phase, ...]
    lasting: Lasting
    after: str
    clean: int = 3
    rules: tuple[str, ...] = ()
    last_resort: str = ""
    caution: str = ""
    buy: tuple[str, ...] = ()

    def phase(self, key: str) -> Phase:
        """One of its phases. Raises KeyError."""
        return next(one for one in self.phases if one.key == key)

    def after_phase(self, phase: Phase) -> Phase | None:
        """The next phase that comes by itself; None after the last. A stronger one comes only where it is chosen."""
        later = self.phases[self.phases.index(phase) + 1 :]
        return next((one for one in later if one.kind != PhaseKind.STRONGER), None)

    @property
    def fight(self) -> Phase:
        """The phase that the trouble is fought in, and gone back to after a setback."""
        return next(one for one in self.phases if one.kind == PhaseKind.FIGHT)

    @property
    def stronger(self) -> list[Phase]:
        """The stronger phases, the mildest first."""
        return [one for one in self.phases if one.kind == PhaseKind.STRONGER]


@cache
def programmes() -> dict[str, Programme]:
    """All programmes by key. Raises DataError that names the file."""
    return {key: read_programme(key, table) for key, table in data_folder("programmes")}


def against(trouble: str) -> list[Programme]:
    """The programmes against a trouble, one for each school."""
    return [one for one in programmes().values() if one.trouble == trouble]


def read_programme(key: str, table: Mapping[str, Any]) -> Programme:
    """A programme from its table. Raises DataError for what is unknown, missing or out of order."""
    with reading_data(f"programmes/{key}"):
        rest = {name: value for name, value in table.items() if name not in ("phase", "lasting")}
        for name in ("rules", "buy"):
            rest[name] = tuple(rest.get(name, ()))
        phases = tuple(_phase(one) for one in table["phase"])
        found = Programme(key=key, phases=phases, lasting=Lasting(**table["lasting"]), **rest)
    _check(found)
    return found


def _phase(table: Mapping[str, Any]) -> Phase:
    plain = {name: value for name, value in table.items() if name not in ("asks", "change", "light")}
    for name in ("holds", "avoid"):
        plain[name] = tuple(plain.get(name, ()))
    plain["kind"] = PhaseKind(plain["kind"])
    asks = tuple(Ask(**{**one, "gear": tuple(one.get("gear", ()))}) for one in table.get("asks", ()))
    return Phase(
        **plain,
        asks=asks,
        change=ChangePace(**table["change"]) if "change" in table else None,
        light=LightCut(**table["light"]) if "light" in table else None,
    )


def _check(one: Programme) -> None:
    """Refuse what a programme names and nothing knows, and phases out of order."""
    where = f"programmes/{one.key}.toml"
    named = {ask.task for phase in one.phases for ask in phase.asks} | {one.review, one.lasting.task}
    held = {task for phase in one.phases for task in phase.holds}
    warned = {one.caution, *(phase.caution for phase in one.phases)} - {""}
    unknown = [
        *(f"a task “{task}”" for task in sorted(named | held) if task not in tasks()),
        *(f"a caution “{key}”" for key in sorted(warned) if key not in cautions()),
        *(f"a rule “{key}”" for key in one.rules if key not in rule_kinds()),
        *([] if one.trouble in troubles() else [f"a trouble “{one.trouble}”"]),
        *([] if one.sign in signs() else [f"a sign “{one.sign}”"]),
    ]  # fmt: skip
    if unknown:
        raise DataError(f"{where}: there is no such thing as {unknown[0]}")
    kinds = [phase.kind for phase in one.phases]
    if kinds != sorted(kinds, key=list(PhaseKind).index) or not {PhaseKind.FIGHT, PhaseKind.EASE, PhaseKind.WATCH} <= {
        *kinds
    }:
        raise DataError(f"{where}: phases find, then fight, then stronger ones, then ease, then watch")
    if any(bool(phase.weeks) != (phase.kind in (PhaseKind.EASE, PhaseKind.WATCH)) for phase in one.phases):
        raise DataError(f"{where}: easing and watching last so many weeks, and nothing else does")
    if COVER + one.sign not in tasks()[one.review].records:
        raise DataError(f"{where}: the review does not record how much of it there is")
    if any(phase.holds and not phase.hold_why for phase in one.phases):
        raise DataError(f"{where}: say why something is held back")
