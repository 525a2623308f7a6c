"""Salt stock: what is left of a bucket, how long it lasts, and when to buy."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date

from ..basics.dates import later
from ..basics.errors import check_range
from ..basics.measures import kilograms_words
from ..basics.phrasing import day_words
from ..science.mix import SaltMix, salt_mass_g
from ..science.parameters import Parameter
from .entries import Change

LEAD_DAYS = 10
"""Days before it runs out that a new bucket should be ordered (judgement)."""
MONTH_DAYS = 30
LONG_DAYS = 3660
"""Beyond this many days no day to buy is stated."""


@dataclass(frozen=True)
class SaltLeft:
    """Grams left of the bucket in use; days they last at the routine, None where none is planned; the day to buy."""

    left_g: float
    per_week_g: float
    days: float | None
    buy_on: date | None
    words: str

    def short_g(self, needed_g: float) -> float:
        """Grams that the bucket lacks for a batch, 0 where it is enough.

        >>> left = salt_left(10_000.0, 9_500.0, 0.0, date(2026, 11, 24))
        >>> left.short_g(1_480.0), left.short_g(480.0)
        (980.0, 0.0)
        """
        return max(0.0, needed_g - self.left_g)


def salt_left(bucket_g: float, used_g: float, per_week_g: float, today: date) -> SaltLeft:
    """What is left of a bucket (g, up to 1500 kg) after what was weighed out of it, and how long it lasts at a weekly
    use.

    >>> salt_left(10_000.0, 4_000.0, 1_500.0, date(2026, 11, 24)).words
    '6.0 kg left, enough for 28 days: buy by Sat 12 Dec'
    """
    check_range("bucket", bucket_g, "g", 1, 1.5e6)
    check_range("salt used", used_g, "g", 0, 1e7)
    check_range("salt a week", per_week_g, "g", 0, 1e6)
    left = salt_in_bucket_g(bucket_g, used_g)
    if left == 0:
        return SaltLeft(0.0, per_week_g, 0.0, today, "the bucket should be empty: weigh it, or open another")
    words = f"{kilograms_words(left, 1)} left"
    if not per_week_g:
        return SaltLeft(left, 0.0, None, None, words)
    days = left / per_week_g * 7
    if days > LONG_DAYS:
        return SaltLeft(left, per_week_g, days, None, f"{words}, enough for more than ten years")
    buy = later(today, max(0, int(days) - LEAD_DAYS))
    when = "buy now" if buy == today else f"buy by {day_words(buy)}"
    return SaltLeft(left, per_week_g, days, buy, f"{words}, enough for {int(days)} days: {when}")


def salt_in_bucket_g(bucket_g: float, used_g: float) -> float:
    """Grams left of a bucket, 0 where more was weighed out of it than it held."""
    return max(0.0, bucket_g - used_g)


def salt_a_week_g(salt: SaltMix, changes: Iterable[tuple[Change, int]]) -> float:
    """Grams of a salt that routine changes take a week: each change with its days between, mixed from this salt."""
    total = 0.0
    for change, every_days in changes:
        mass = salt_mass_g(change.in_l, change.incoming[Parameter.SALINITY], salt.strength_g_l, salt.basis)
        total += float(mass) * 7 / every_days
    return total


def month_of_changes(salt: SaltMix, change: Change, every_days: int) -> tuple[float, float]:
    """Litres of water and grams of salt that a routine takes in a month of thirty days."""
    per_week_g = salt_a_week_g(salt, [(change, every_days)])
    return change.in_l * MONTH_DAYS / every_days, per_week_g * MONTH_DAYS / 7
