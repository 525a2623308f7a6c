"""The pH of day and night in sentences: what spreading the doses gains, and what dosing cannot fix."""

from __future__ import annotations

from ..basics.number_text import show_number
from ..science.air import OUTDOOR_PPM
from .gas_exchange import GasExchange, PhDay

MIN_GAIN_PH = 0.01


def gain_words(now: PhDay, best: PhDay) -> str:
    """How much the flattest spread takes off the swing of pH."""
    less = now.swing - best.swing
    if less < MIN_GAIN_PH:
        return f"The doses are well spread already: moving them would flatten pH by less than {MIN_GAIN_PH}."
    return f"It would take {show_number(less, 2)} off a swing of {show_number(now.swing, 2)}."


def limits_of_dosing(
    gas_exchange: GasExchange, now: PhDay, best: PhDay, outdoors: PhDay, room_ppm: float, measured: bool
) -> list[str]:
    """What dosing cannot fix, and how sure this is. measured: whether the room's carbon dioxide was."""
    lift = outdoors.mean - now.mean
    how = "measured" if measured else "estimated from the water's own mean, so this is the most that fresh air can do"
    sure = (
        "worked out from the probe" if gas_exchange.surely else "the probe says little about it, so the usual is taken"
    )
    exchange = (gas_exchange.exchange, gas_exchange.exchange_low, gas_exchange.exchange_high)
    per_hour, low, high = (show_number(each, 1) for each in exchange)
    return [
        f"{show_number(best.swing, 2)} of the swing stays whatever you dose: lights and animals cause it.",
        f"Dosing hardly moves the mean ({show_number(now.mean, 2)}): the room's air sets it. The room holds about "
        f"{show_number(room_ppm, 0)} ppm of CO₂ ({how}); with outdoor air ({show_number(OUTDOOR_PPM, 0)} ppm) the mean "
        f"would be {show_number(abs(lift), 2)} {'higher' if lift >= 0 else 'lower'}.",
        f"Exchange with the air: {per_hour} an hour ({low} to {high}; {sure}), from {gas_exchange.days} days of pH.",
    ]
