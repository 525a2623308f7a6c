"""What the core tests share: the household's systems and small builders."""

from __future__ import annotations

from datetime import UTC, date, datetime, timedelta
from zoneinfo import ZoneInfo

from salttide.core.ledger.entries import Change, Dose, Entry, Ledger, Reading, ledger_of
from salttide.core.planning.change_request import ChangeRequest
from salttide.core.science.additives import AlkalinitySource
from salttide.core.science.parameters import FACTS, Parameter
from salttide.core.science.units import DKH_PER_MEQ_L
from salttide.demo.shelf import SALTS
from salttide.demo.systems import BEACON, EELGRASS, SKIFF, SLIPWAY

ZONE = ZoneInfo("Europe/Copenhagen")
NOW = datetime(2026, 11, 24, 17, 40, tzinfo=UTC)
TODAY = date(2026, 11, 24)
KITTIWAKE, GANNET, PLAINMARK = SALTS
__all__ = ["BEACON", "EELGRASS", "SKIFF", "SLIPWAY"]

WATER = {
    Parameter.TEMPERATURE: 25.4,
    Parameter.SALINITY: 34.8,
    Parameter.ALKALINITY: 8.5 / DKH_PER_MEQ_L,
    Parameter.CALCIUM: 410.0,
    Parameter.MAGNESIUM: 1300.0,
    Parameter.NITRATE: 20.0,
    Parameter.PHOSPHATE: 0.08,
    Parameter.PH: 8.1,
}


def dkh(value: float) -> float:
    """dKH to meq/L."""
    return value / DKH_PER_MEQ_L


def reading(
    parameter: Parameter, value: float, days_ago: float = 0, instrument: str = "kit", entry: int = 0
) -> Reading:
    """A reading so many days before NOW."""
    return Reading(NOW - timedelta(days=days_ago), parameter, value, FACTS[parameter].sd, instrument, entry)


def ledger(*events: Entry, volume_l: float = 100.0) -> Ledger:
    """A ledger of events in any order."""
    return ledger_of(volume_l, events)


def change(days_ago: float, litres: float, entry: int = 0, **incoming: float) -> Change:
    """A change of as much in as out, so many days before NOW."""
    held = {Parameter(name): value for name, value in incoming.items()}
    return Change(NOW - timedelta(days=days_ago), litres, litres, held, entry)


def dose(days_ago: float, meq: float, entry: int = 0) -> Dose:
    """Soda ash, so many days before NOW."""
    return Dose(NOW - timedelta(days=days_ago), "soda ash", 1.0, {Parameter.ALKALINITY: meq}, id=entry)


def request(**changes: object) -> ChangeRequest:
    """A request: 12 % with Kittiwake Standard and soda ash, today, every 2 days."""
    base: dict[str, object] = {
        "fraction": 0.12, "salt": KITTIWAKE, "source": AlkalinitySource.SODA_ASH, "start": TODAY, "every_days": 2,
    }  # fmt: skip
    return ChangeRequest(**{**base, **changes})  # type: ignore[arg-type]
