"""Settings that go together: how keepers of a country usually read water, lengths, masses, days and hours."""

from __future__ import annotations

from dataclasses import dataclass, field
from enum import StrEnum

from ..basics.locale import ClockHours, DayOrder, FirstDay, Gallon, LengthUnit, MassUnit, VolumeUnit, Writing
from .parameters import Parameter
from .units import UnitChoice


class Preset(StrEnum):
    """Whose habits."""

    METRIC = "metric"
    US = "us"
    UK = "uk"


@dataclass(frozen=True)
class Habit:
    """A preset: how everything is written, and the units of parameters that come with it; others stay as they are."""

    name: str
    writing: Writing
    units: UnitChoice = field(default_factory=dict)


_METRIC = Writing()
HABITS = {
    Preset.METRIC: Habit("Metric", _METRIC, {Parameter.TEMPERATURE: "°C"}),
    Preset.US: Habit(
        "US",
        Writing(
            days=DayOrder.MONTH_FIRST, clock=ClockHours.HALF, gallon=Gallon.US, volume=VolumeUnit.US_GALLON,
            length=LengthUnit.INCH, mass=MassUnit.OUNCE, week=FirstDay.SUNDAY,
        ),
        {Parameter.TEMPERATURE: "°F"},
    ),
    Preset.UK: Habit(
        "UK", Writing(gallon=Gallon.IMPERIAL),
        {Parameter.TEMPERATURE: "°C"},
    ),
}  # fmt: skip
"""Salinity and alkalinity are left alone: the instrument decides them, not the country."""
