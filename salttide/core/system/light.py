"""Light: hours, ramp and spectrum from a day on, and PAR measured at named points."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, time

from ..basics.errors import InputError, check_range
from ..basics.number_text import show_number
from ..basics.phrasing import capital, clock_words

MAX_PAR = 2500.0
"""The most PAR accepted, µmol/m²/s: full sun at the surface of the sea is about 2000."""


@dataclass(frozen=True)
class Light:
    """A setting of the lamps from a day on: local times, minutes of the ramp at each end, the spectrum in words."""

    since: date
    on: time
    off: time
    ramp_minutes: float = 0.0
    spectrum: str = ""
    id: int = 0

    @property
    def hours_lit(self) -> tuple[float, float]:
        """First and last hour of light, as hours after midnight.

        >>> Light(date(2026, 11, 1), time(12, 30), time(22)).hours_lit
        (12.5, 22.0)
        """
        begin = self.on.hour + self.on.minute / 60
        return begin, (begin + self.hours) % 24

    @property
    def hours(self) -> float:
        """Hours from on to off, over midnight where off comes first.

        >>> Light(date(2026, 11, 1), time(12), time(22, 30)).hours
        10.5
        """
        minutes = (self.off.hour - self.on.hour) * 60 + self.off.minute - self.on.minute
        return (minutes % (24 * 60)) / 60

    @property
    def words(self) -> str:
        """In one line.

        >>> Light(date(2026, 11, 1), time(12), time(22), 30, "more blue").words
        '10.0 h, 12:00 to 22:00, ramp 30 min, more blue'
        """
        ramp = f"ramp {show_number(self.ramp_minutes, 0)} min" if self.ramp_minutes else ""
        times = f"{clock_words(self.on)} to {clock_words(self.off)}"
        parts = [f"{show_number(self.hours, 1)} h", times, ramp, self.spectrum]
        return ", ".join(part for part in parts if part)


@dataclass(frozen=True)
class Par:
    """Photosynthetically active radiation measured at a named point, µmol/m²/s."""

    day: date
    point: str
    umol: float
    id: int = 0


def check_light(light: Light) -> Light:
    """Refuse a day without light, and ramps (0 to 360 min each) that do not fit into the hours."""
    if light.on == light.off:
        raise InputError("on and off are the same time", field="off", accepted="a later time than on")
    most = min(360.0, light.hours * 30)
    check_range("ramp", light.ramp_minutes, "min", 0, most, field="ramp_minutes")
    return light


def check_par(par: Par) -> Par:
    """Refuse a reading without a point, or outside 0 to 2500 µmol/m²/s."""
    if not par.point.strip():
        raise InputError("name the point", field="point", accepted="such as “sand, front left”")
    check_range("PAR", par.umol, "µmol/m²/s", 0, MAX_PAR, field="umol")
    return par


def light_turned(before: Light | None, after: Light) -> str:
    """What a new setting changes, in words, for the record.

    >>> light_turned(Light(date(2026, 9, 1), time(12), time(22)), Light(date(2026, 11, 1), time(12), time(21)))
    '10.0 h before, now 9.0 h, 12:00 to 21:00'
    """
    if before is None:
        return capital(after.words)
    return f"{show_number(before.hours, 1)} h before, now {after.words}"
