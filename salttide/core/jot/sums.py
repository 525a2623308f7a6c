"""The calculator: a sum in the keeper's plain words, read and answered.

The grammar is read left to right, a word at a time; whatever is not understood is pointed at with what would be.
"""

from __future__ import annotations

from collections.abc import Callable

from .answer import Answer, JotContext
from .arithmetic import arithmetic, is_arithmetic
from .dose_sums import dose, raise_level
from .reader import JotError, Reader
from .tank_sums import box, change, drain, lower, mark, share
from .water_sums import ammonia, carbon_dioxide, conversion, salt, weaken

Sum = Callable[[Reader, JotContext], Answer]

EXAMPLES = (
    "= 1.024 sg 25/25 at 21 C in ppt",
    "= salt for 60 l to 35",
    "= raise alk 7 to 8 in beacon",
    "= soda for +0.8 dkh in beacon",
    "= change to bring no3 from 30 to 10",
    "= weaken 45 l from 36.2 to 35",
    "= ammonia 0.5 at ph 8.2",
    "= co2 at ph 8.0 alk 7.5 dkh",
    "= mark for 40 l in beacon",
    "= 12 % of beacon",
    "= 48 x 24 x 20 in in gal",
    "= 40 * 0.12",
)
"""One example of each kind, as the app shows them."""

_SUMS: dict[str, Sum] = {
    "salt for": salt,
    "weaken": weaken,
    "change to": change,
    "raise": raise_level,
    "increase": raise_level,
    "lower": lower,
    "reduce": lower,
    "mark for": mark,
    "drain": drain,
    "ammonia": ammonia,
    "nh3": ammonia,
    "co2 at": carbon_dioxide,
    "pco2 at": carbon_dioxide,
}


def answer(text: str, context: JotContext | None = None) -> Answer:
    """The answer to a sum such as "= salt for 60 l to 35": number, unit, how it was understood, working, cautions.

    `context` brings the keeper's systems, salts and way of writing. The "=" may be left out. Raises JotError, which
    points at the word it fails on.

    >>> answer("= 8 dkh in meq/l").text
    '2.853 meq/L'
    """
    chosen = context or JotContext()
    reader = Reader(text, chosen.habits)
    reader.may("=")
    if reader.done:
        raise JotError("Enter a sum", len(text), len(text), "a sum, such as " + EXAMPLES[0])
    if is_arithmetic(text):
        return arithmetic(text, chosen)
    found = _sum(reader)(reader, chosen)
    reader.end()
    return found


def _sum(reader: Reader) -> Sum:
    """Which sum it is, by its first words; a number begins a conversion, a share of a system or a box."""
    chosen = reader.choose(_SUMS, "salt for, raise, lower, weaken, change to, mark for, drain, ammonia, co2 at")
    if chosen:
        return chosen
    start = reader.at
    if reader.number("a number with a unit") is not None:
        follows = next((word for word in ("%", "x", "×") if reader.take(word)), "")
        reader.at = start
        return {"%": share, "x": box, "×": box}.get(follows, conversion)
    return dose
