"""Media and carbon in one system: the amount in use, the next by its last two tests, and what is missing for it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from enum import StrEnum

from ..basics.errors import GateError
from ..basics.measures import grams_words
from ..basics.number_text import show_number
from ..basics.phrases import phrase
from ..basics.refused import refused
from ..ledger.entries import Ledger, Reading
from ..science.parameters import Parameter, spoken
from ..system.system import Stage, System
from .ramp import MAX_CARBON, CarbonSource, NextAmount, Trend, carbon_gate, carbon_ml, next_carbon, next_media_g

USUAL_FLOOR_MG_L = 0.02
"""The floor of phosphate where a system has no band for it (judgement)."""
TESTS_APART, LONGEST_DAYS = timedelta(hours=12), 90.0
"""Two tests are compared from half a day apart on; more than 90 days count as 90."""


class RampKind(StrEnum):
    """What goes up in small steps."""

    MEDIA = "media"
    CARBON = "carbon"

    @property
    def lowers(self) -> Parameter:
        """The parameter whose tests decide."""
        return Parameter.PHOSPHATE if self == RampKind.MEDIA else Parameter.NITRATE

    @property
    def label(self) -> str:
        """Its name."""
        return phrase("stock.phosphate_media" if self == RampKind.MEDIA else "stock.carbon_dosing")


@dataclass(frozen=True)
class RampEntry:
    """An amount begun with: of media (g, with the full amount of its sheet) or carbon (mmol/L a day, its source)."""

    at: datetime
    kind: str
    amount: float
    full_g: float | None = None
    source: str = ""


@dataclass(frozen=True)
class RampRequest:
    """The next amount asked for. full_g: of media, the full amount by its product sheet · cloudy: the water is."""

    kind: RampKind
    full_g: float | None = None
    source: CarbonSource = CarbonSource.ETHANOL
    cloudy: bool = False

    def amount_text(self, amount: float, volume_l: float) -> str:
        """An amount as it is measured out."""
        if not amount:
            return "none"
        if self.kind == RampKind.MEDIA:
            return grams_words(amount)
        ml = carbon_ml(self.source, min(amount, MAX_CARBON), volume_l)
        name = phrase("stock.ethanol" if self.source == CarbonSource.ETHANOL else "stock.acetic_acid")
        return phrase("stock.ml_a_day", ml=show_number(ml, 2), name=name)


@dataclass(frozen=True)
class RampState:
    """The amount in use, and the next; None where something is missing first."""

    request: RampRequest
    last: RampEntry | None
    missing: tuple[str, ...]
    next: NextAmount | None

    @property
    def amount(self) -> float:
        """The amount in use; 0 for none."""
        return self.last.amount if self.last else 0.0

    def begun(self, at: datetime) -> RampEntry:
        """The next amount as it is recorded. Raises GateError where something is missing."""
        kind = self.request.kind
        if self.next is None:
            said = phrase("stock.something_is_still_missing", name=kind.label)
            raise GateError(said, self.missing, field="kind")
        full_g = self.request.full_g if kind == RampKind.MEDIA else None
        return RampEntry(at, kind, self.next.amount, full_g, self.request.source)


def first_request(kind: RampKind, last: RampEntry | None) -> RampRequest:
    """What is asked for where the keeper has not said: as last time."""
    if last is None:
        return RampRequest(kind)
    return RampRequest(kind, last.full_g, CarbonSource(last.source) if last.source else CarbonSource.ETHANOL)


def ramp_state(
    system: System, ledger: Ledger, phosphate: float | None, last: RampEntry | None, request: RampRequest, today: date
) -> RampState:
    """Where a ramp stands. phosphate: mg/L, None where it was never tested. Raises InputError for carbon without it."""
    missing = _missing(system, ledger, request, today)
    trend = latest_trend(ledger.of(request.kind.lowers))
    if missing or trend is None:
        return RampState(request, last, missing, None)
    return RampState(request, last, (), _next(system, request, last.amount if last else 0.0, trend, phosphate))


def _missing(system: System, ledger: Ledger, request: RampRequest, today: date) -> tuple[str, ...]:
    parameter, missing = request.kind.lowers, []
    if system.stage == Stage.BREAKING_IN:
        missing.append(phrase("stock.a_system_that_has_finished"))
    if system.bands.get(parameter) is None:
        missing.append(phrase("stock.a_target_band_for", name=spoken(parameter)))
    if len(ledger.of(parameter)) < 2:
        missing.append(phrase("stock.two_tests_of", name=spoken(parameter)))
    if request.kind == RampKind.CARBON:
        age, chosen = today - date.fromisoformat(system.started_on), system.methods.answers.get("nitrate_high")
        skimmer = any("skimmer" in gear for gear in system.gear)
        return (*missing, *carbon_gate(age.days, skimmer, chosen == "carbon"))
    if request.full_g is None:
        missing.append(phrase("stock.the_amount_the_product_instructions"))
    return tuple(missing)


def latest_trend(readings: Sequence[Reading]) -> Trend | None:
    """The last test and the one before it, half a day or more apart; None where there are no two such."""
    if not readings:
        return None
    last = readings[-1]
    before = next((r for r in reversed(readings) if last.at - r.at >= TESTS_APART), None)
    if before is None:
        return None
    days = min(LONGEST_DAYS, (last.at - before.at) / timedelta(days=1))
    return Trend(before.value, last.value, days, last.sd)


def _next(system: System, request: RampRequest, now: float, trend: Trend, phosphate: float | None) -> NextAmount:
    band = system.bands.get(Parameter.PHOSPHATE)
    if request.full_g is not None and band and request.kind == RampKind.MEDIA:
        return next_media_g(request.full_g, min(now, request.full_g), trend, band)
    if phosphate is None:
        raise refused("stock.test_phosphate_first_carbon_dosing", "kind", "stock.a_test_of_phosphate")
    floor = band.low if band else USUAL_FLOOR_MG_L
    return next_carbon(now, trend, system.bands[Parameter.NITRATE], phosphate, floor, request.cloudy)
