"""Phosphate media and carbon dosing: amounts that go up in small steps against tests, with a bound, and down at once.

Started in full, both strip the water faster than animals tolerate; both have killed systems. The steps, waits
and bounds are judgements; a product's own sheet comes before them where it asks for less.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from ..basics.errors import InputError, check_choice, check_range
from ..basics.number_text import show_number
from ..science.dosing import DAILY_LIMITS
from ..science.parameters import Parameter, Span

FIRST_SHARE, STEP_SHARE = 0.25, 0.25
MEDIA_TEST_DAYS, CARBON_TEST_DAYS = 4, 7
FIRST_CARBON, CARBON_STEP, MAX_CARBON = 0.01, 0.01, 0.15
"""mmol of carbon per litre and day: at the start, added each week, and at most."""
MIN_AGE_DAYS = 180


class Turn(StrEnum):
    """What is done with the amount."""

    BEGIN = "begin"
    MORE = "more"
    HOLD = "hold"
    LESS = "less"
    STOP = "stop"


@dataclass(frozen=True)
class NextAmount:
    """The next amount (g of media, or mL a day of the carbon source), how it compares with the last, why, and when the
    test that decides the following one is due."""

    amount: float
    turn: Turn
    why: str
    test_in_days: int


@dataclass(frozen=True)
class Trend:
    """Two tests with the days between: the level before and now (mg/L), and the test's scatter."""

    before: float
    now: float
    days: float
    sd: float

    @property
    def fall_a_day(self) -> float:
        """How fast it falls, mg/L a day; below 0 where it rises."""
        return (self.before - self.now) / self.days

    @property
    def real(self) -> bool:
        """Whether it fell by more than the scatter of both tests."""
        return self.before - self.now > 2 * self.sd * 2**0.5


def check_trend(trend: Trend) -> Trend:
    """Refuse impossible input: levels below 0, no days between."""
    for name, value in (("level before", trend.before), ("level now", trend.now)):
        check_range(name, value, "mg/L", 0, 500)
    check_range("days between the tests", trend.days, "days", 0.5, 90)
    check_range("scatter of the test", trend.sd, "mg/L", 0, 10)
    return trend


def next_media_g(full_g: float, now_g: float, trend: Trend, band: Span) -> NextAmount:
    """The next amount of phosphate media: a quarter of the product's full amount at first, a quarter more each step.

    full_g: what the product's sheet asks for in this system (0.1 to 100 000 g), never exceeded. Phosphate may fall by a
    third or 0.05 mg/L a day, whichever is less, and never below its floor.

    >>> next_media_g(100.0, 0.0, Trend(0.30, 0.30, 7, 0.01), Span(0.02, 0.1)).amount
    25.0
    """
    check_range("amount by the product's sheet", full_g, "g", 0.1, 1e5, field="full_g")
    check_range("amount in use", now_g, "g", 0, full_g, field="now_g")
    check_trend(trend)
    limit = DAILY_LIMITS[Parameter.PHOSPHATE]
    most = min(limit.down, (limit.down_share or 1.0) * trend.before)
    if trend.now < band.low:
        return NextAmount(0.0, Turn.STOP, "phosphate is under its floor: take the media out", MEDIA_TEST_DAYS)
    if trend.fall_a_day > most:
        fell = show_number(trend.fall_a_day, 3)
        why = f"it fell by {fell} mg/L a day, more than the {show_number(most, 3)} that animals tolerate: half of it"
        return NextAmount(now_g / 2, Turn.LESS, why, MEDIA_TEST_DAYS)
    if trend.now <= band.middle:
        return NextAmount(now_g, Turn.HOLD if now_g else Turn.STOP, "phosphate is where it should be", 7)
    if not now_g:
        return NextAmount(full_g * FIRST_SHARE, Turn.BEGIN, "a quarter of the sheet's amount first", MEDIA_TEST_DAYS)
    if trend.real:
        return NextAmount(now_g, Turn.HOLD, "phosphate falls: no more is needed", MEDIA_TEST_DAYS)
    if now_g >= full_g:
        why = "this is all that the sheet allows: it is spent, or the food brings more. Renew it, feed less"
        return NextAmount(full_g, Turn.HOLD, why, MEDIA_TEST_DAYS)
    return NextAmount(
        min(full_g, now_g + full_g * STEP_SHARE), Turn.MORE, "it has not fallen yet: a quarter more", MEDIA_TEST_DAYS
    )


class CarbonSource(StrEnum):
    """The carbon source."""

    ETHANOL = "ethanol"
    ACETIC_ACID = "acetic_acid"


CARBON_MMOL_ML = {
    CarbonSource.ETHANOL: 0.40 * 0.7893 / 46.069 * 2 * 1000,
    CarbonSource.ACETIC_ACID: 50.0 / 60.052 * 2,
}
"""mmol of carbon in 1 mL: ethanol of 40 % by volume (density 0.7893 g/mL at 20 °C), acetic acid of 50 g/L (5 %)."""


def carbon_ml(source: CarbonSource, mmol_l: float, volume_l: float) -> float:
    """mL a day of a source for some carbon (mmol per litre, 0 to 0.15) in a system.

    >>> round(carbon_ml(CarbonSource.ETHANOL, 0.01, 100.0), 3)
    0.073
    """
    check_range("carbon", mmol_l, "mmol/L a day", 0, MAX_CARBON)
    check_range("volume", volume_l, "L", 1e-9, 1e6)
    return mmol_l * volume_l / CARBON_MMOL_ML[check_choice(CarbonSource, source)]


def carbon_gate(age_days: float, skimmer: bool, chosen: bool) -> tuple[str, ...]:
    """What is missing before carbon may be dosed at all; empty where nothing is.

    >>> carbon_gate(400, True, True)
    ()
    """
    missing = []
    if not chosen:
        missing.append("choose carbon dosing in Set-up, which explains its risk")
    if age_days < MIN_AGE_DAYS:
        missing.append(f"wait until the system is half a year old: {round(MIN_AGE_DAYS - age_days)} days to go")
    if not skimmer:
        missing.append("a protein skimmer: it removes the bacteria that grow and replaces the oxygen they use")
    return tuple(missing)


def next_carbon(
    now_mmol_l: float,
    nitrate: Trend,
    nitrate_band: Span,
    phosphate: float,
    phosphate_floor: float,
    cloudy: bool = False,
) -> NextAmount:
    """The next daily amount of carbon, mmol per litre: start small, a step more each week while nitrate does not fall.

    Stops where nitrate or phosphate is at its floor, halves in cloudy water or once nitrate is in its band.

    >>> next_carbon(0.0, Trend(30, 30, 7, 1), Span(2, 15), 0.05, 0.02).amount
    0.01
    """
    check_range("carbon in use", now_mmol_l, "mmol/L a day", 0, MAX_CARBON, field="now")
    check_range("phosphate", phosphate, "mg/L", 0, 20)
    check_trend(nitrate)
    if nitrate.now < nitrate_band.low or phosphate < phosphate_floor:
        which = "phosphate" if phosphate < phosphate_floor else "nitrate"
        why = f"{which} is under its floor: bacteria would take what the corals need"
        return NextAmount(0.0, Turn.STOP, why, CARBON_TEST_DAYS)
    if cloudy:
        return NextAmount(now_mmol_l / 2, Turn.LESS, "cloudy water is bacteria and little oxygen: half, more air", 2)
    if nitrate.now <= nitrate_band.middle:
        turn = Turn.LESS if now_mmol_l else Turn.STOP
        return NextAmount(now_mmol_l / 2, turn, "nitrate is in its band: half holds it", CARBON_TEST_DAYS)
    if not now_mmol_l:
        return NextAmount(FIRST_CARBON, Turn.BEGIN, "begin small: bacteria need days", CARBON_TEST_DAYS)
    if nitrate.real:
        return NextAmount(now_mmol_l, Turn.HOLD, "nitrate falls: stay", CARBON_TEST_DAYS)
    if now_mmol_l >= MAX_CARBON:
        return NextAmount(MAX_CARBON, Turn.HOLD, "this is the bound: look for the source instead", CARBON_TEST_DAYS)
    return NextAmount(
        min(MAX_CARBON, now_mmol_l + CARBON_STEP), Turn.MORE, "nitrate stays: a step more", CARBON_TEST_DAYS
    )


def refuse_zero(value: float, eaten_by: str, name: str) -> None:
    """Never dose a nutrient from a zero that growth in sight explains: raises InputError with what to do instead."""
    check_range(name, value, "mg/L", 0, 500)
    if eaten_by:
        raise InputError(
            f"{name} reads low because {eaten_by} eats it: dosing would feed that",
            field=name,
            accepted="take the growth out first, then test again",
        )
