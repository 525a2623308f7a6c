"""A done water change: the water moved and the care task done, one act wherever it is entered."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from datetime import datetime, tzinfo

from ..basics.errors import InputError, check_range
from ..ledger.entries import Care, Change, Ledger
from ..science.mix import SaltMix
from ..science.parameters import Parameter
from ..science.salt_calibration import mixed_water
from ..science.salts import natural_seawater
from ..system.system import System
from ..upkeep.rota import WATER_CHANGE

MIN_L = 0.05


def usual_salt(salts: Sequence[SaltMix], chosen_id: int | None) -> SaltMix | None:
    """The salt used where none is named: the keeper's choice if on the shelf, else the first there.

    >>> from ..science.mix import StrengthBasis
    >>> shelf = [SaltMix(n, f"salt {n}", 37.0, StrengthBasis.FINISHED_WATER, {}) for n in (1, 2)]
    >>> usual_salt(shelf, 2).id, usual_salt(shelf, 9).id, usual_salt([], 2)
    (2, 1, None)
    """
    return next((salt for salt in salts if salt.id == chosen_id), salts[0] if salts else None)


def change_entries(
    at: datetime,
    litres: float,
    incoming: Mapping[Parameter, float],
    minutes: float,
    *,
    source: int = 0,
    timed: bool = False,
    zone: str = "",
    found: Mapping[str, float | str] | None = None,
) -> tuple[Change, Care]:
    """The record of a done water change: as much in as out, and the care task with its minutes."""
    care = Care(at, WATER_CHANGE, minutes, timed=timed, zone=zone, found=found or {})
    return Change(at, litres, litres, incoming, source=source), care


def check_changed(system: System, litres: float, field: str = "litres") -> float:
    """Check the litres changed: above zero and no more than the system holds. Raises DomainError at `field`."""
    return check_range("water changed", litres, "L", MIN_L, round(system.volume_l, 1), field=field)


def without_litres(ledger: Ledger, since: datetime, zone: tzinfo, left: Collection[int] = ()) -> list[Care]:
    """Water changes ticked off without their water: done, with no change recorded on that local day. since: the start
    of the ledger's changes · left: entries the keeper left as they are.
    """
    days = {change.at.astimezone(zone).date() for change in ledger.changes}
    done = [care for care in ledger.care if care.task == WATER_CHANGE and not care.skipped and care.at >= since]
    return [care for care in done if care.id not in left and care.at.astimezone(zone).date() not in days]


def new_water(salt: SaltMix | None, salinity: float, natural: bool = False) -> dict[Parameter, float]:
    """The composition of the new water, canonical: natural seawater of a salinity (5 to 42), or a mix of a salt at it.
    Raises DomainError at `salinity`, InputError at `salt_id` where neither is given.
    """
    check_range("salinity", salinity, "ppt", 5, 42, field="salinity")
    if natural:
        return natural_seawater(salinity)
    if salt is None:
        raise InputError("say what the new water was mixed from", field="salt_id", accepted="a salt on the Shelf")
    return mixed_water(salt, salinity)
