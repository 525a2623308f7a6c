"""The failure board: what can fail, what happens then in this system, what protects, and what would help most."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date

from ..basics.errors import SaltTideError
from ..science.parameters import Parameter
from ..science.topoff import largest_safe_lime_reservoir_l, largest_safe_reservoir_l
from ..system.topoff import independent
from .dosers import doser_stuck
from .file import FailureKind, Safeguard, failure_kinds, safeguards
from .installation import Installation
from .outcome import Outcome
from .usual import Harm
from .warmth import heater_off, heater_on, heatwave, lamp_timer, power
from .water import (
    hose_off,
    line_open,
    overflow_blocked,
    panel_leaks,
    reservoir_empty,
    return_stops,
    runs_dry,
    siphon_holds,
    skimmer_overflows,
    top_off_open,
)

Worked = Callable[[Installation], "Outcome | Sequence[Outcome] | None"]
WORKED: Mapping[str, Worked] = {
    "return_stops": return_stops,
    "siphon_holds": siphon_holds,
    "overflow_blocked": overflow_blocked,
    "top_off_open": top_off_open,
    "line_open": line_open,
    "runs_dry": runs_dry,
    "reservoir_empty": reservoir_empty,
    "heater_on": heater_on,
    "heater_off": heater_off,
    "lamp_timer": lamp_timer,
    "skimmer_overflows": skimmer_overflows,
    "doser_stuck": doser_stuck,
    "hose_off": hose_off,
    "panel_leaks": panel_leaks,
    "power": power,
    "heatwave": heatwave,
}


@dataclass(frozen=True)
class Failure:
    """One line of the board. stopped: what keeps it from doing harm, warned: what says so in time · absent: what would
    help and is not there · rehearsed: when last, None for never."""

    kind: FailureKind
    outcome: Outcome
    stopped: tuple[Safeguard, ...]
    warned: tuple[Safeguard, ...]
    absent: tuple[Safeguard, ...]
    rehearsed: date | None

    @property
    def open(self) -> Harm:
        """The harm that nothing keeps away."""
        return Harm.NONE if self.stopped else self.outcome.harm

    @property
    def known(self) -> bool:
        """Whether it could be worked out."""
        return not self.outcome.missing


@dataclass(frozen=True)
class Help:
    """A safeguard that is not there: the failures it would stop or tell of, and how much harm for how much effort."""

    safeguard: Safeguard
    stops: tuple[str, ...]
    tells: tuple[str, ...]
    worth: float


def board(at: Installation) -> list[Failure]:
    """Everything that can fail in a system, the worst and likeliest that nothing keeps away first; what
    cannot be worked out last."""
    here = present(at)
    found = [_line(kind, outcome, here, at) for kind in failure_kinds().values() for outcome in _outcomes(kind, at)]
    return sorted(found, key=_order)


def _order(one: Failure) -> tuple[bool, float, int, float]:
    after = one.outcome.after_h
    return (not one.known, -_weight(one), -one.outcome.harm, after if after is not None else 0.0)


def _outcomes(kind: FailureKind, at: Installation) -> Sequence[Outcome]:
    try:
        found = WORKED[kind.works](at)
    except SaltTideError as error:
        return [Outcome(f"Cannot be worked out: {error}.", harm=Harm.NONE)]
    if found is None:
        return ()
    return [found] if isinstance(found, Outcome) else found


def _line(kind: FailureKind, outcome: Outcome, here: frozenset[str], at: Installation) -> Failure:
    named = safeguards()
    stopped, warned = (tuple(named[key] for key in keys if key in here) for keys in (kind.stops, kind.warns))
    absent = tuple(named[key] for key in (*kind.stops, *kind.warns) if key not in here)
    return Failure(kind, outcome, stopped, warned, absent, at.tested.get(kind.drill))


def present(at: Installation) -> frozenset[str]:
    """The safeguards that a system has, by what was entered and what was worked out."""
    heating, setup = at.heating, at.top_off
    held = {
        "siphon_break": at.plumbing.break_cm is not None and "flood_drill" in at.tested,
        "second_drain": at.plumbing.second_drain,
        "independent_stops": independent(setup.stops) >= 2,
        "small_reservoir": 0 < setup.reservoir_l <= safe_reservoir_l(at),
        "heater_cutoff": heating.cutoff,
        "leak_alarm": at.has("leak_alarm"),
        "power_alarm": bool(heating.battery_wh and heating.battery_w),
        "ph_alarm": at.has("ph_probe"),
    }
    return frozenset(key for key, holds in held.items() if holds) | at.watched


def safe_reservoir_l(at: Installation) -> float:
    """The largest reservoir (L) that does no harm when it empties at once; with limewater by its alkalinity."""
    volume, most = at.system.volume_l, float(largest_safe_reservoir_l(at.now(Parameter.SALINITY), at.system.volume_l))
    if not at.top_off.limewater:
        return most
    rise, temperature = at.system.limit(Parameter.ALKALINITY).up, at.now(Parameter.TEMPERATURE)
    lime = largest_safe_lime_reservoir_l(volume, min(rise, 3.0), temperature, at.now(Parameter.ALKALINITY))
    return min(most, float(lime))


def worst_of(failures: Sequence[Failure], count: int = 3) -> list[Failure]:
    """The worst that nothing keeps away, for the system's card."""
    return [one for one in failures if one.known and one.open > Harm.NONE][:count]


def helps(failures: Sequence[Failure]) -> list[Help]:
    """What would help, the most harm prevented for the least money and work first. What stops a failure prevents all of
    its harm, what warns of it a third (judgement)."""
    stops: dict[str, list[Failure]] = {}
    tells: dict[str, list[Failure]] = {}
    for one in failures:
        if one.known and one.open:
            for each in one.absent:
                (stops if each.key in one.kind.stops else tells).setdefault(each.key, []).append(one)
    found = []
    for key in {*stops, *tells}:
        harm = sum(_weight(one) for one in stops.get(key, ())) + sum(_weight(one) for one in tells.get(key, ())) / 3
        each = safeguards()[key]
        found.append(Help(each, _names(stops.get(key, ())), _names(tells.get(key, ())), harm / each.effort))
    return sorted(found, key=lambda one: (-one.worth, one.safeguard.key))


def _names(failures: Sequence[Failure]) -> tuple[str, ...]:
    return tuple(dict.fromkeys(one.kind.name for one in failures))


def _weight(one: Failure) -> float:
    """Harm that nothing keeps away, by how likely it is: grave counts nine times a nuisance (judgement)."""
    return float(3 ** (one.open - 1) * one.kind.likely) if one.open else 0.0
