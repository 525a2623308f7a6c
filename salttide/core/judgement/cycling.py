"""Cycling: the phase of a new system, what to test next, when it is finished, and how to stock it afterwards."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum

from ..basics.errors import InputError, check_range
from ..basics.measures import litres_words
from ..basics.number_text import short, show_number
from ..basics.phrasing import counted
from ..ledger.entries import Dose, Reading
from ..ledger.verdict import REAL_SDS, joint_sd
from ..science.additives import molar_mass_g_mol
from ..science.ammonia import EMERGENCY_MG_L, unionised_ammonia_mg_l
from ..science.dilution import fraction_to_reach
from ..science.parameters import Parameter
from ..science.sizing import FIRST_NITRATE_MG_L, LARGEST_FIRST_CHANGE
from ..system.system import System
from .situation import Situation

AMMONIA, NITRITE, NITRATE, ALKALINITY = Parameter.AMMONIA, Parameter.NITRITE, Parameter.NITRATE, Parameter.ALKALINITY
DETECTED_SDS = 2.0
"""A result within this many standard deviations of zero counts as below detection."""
MIN_DOSE_MG_L = 0.5
PROOF_HOURS = 16.0, 36.0
"""A test proves a dose of ammonia when it is made about a day later."""
PROOFS_WANTED, CLEAN_TESTS_WANTED, CLEAN_DAYS = 2, 3, 7.0
NEAR_PEAK = 0.75
"""From this share of the highest result, a result counts as near its peak."""
STOCK_STAGES = (
    ("clean-up animals: a few snails, one shrimp", 0),
    ("the first hardy fish, small, fed once a day", 14),
    ("further fish one or two at a time, soft corals", 28),
    ("more demanding animals, once nitrate and alkalinity hold for a month", 60),
)
"""What to add when, in days after the first change (judgement)."""
WATCH_DAYS = (1, 3, 7)
"""Days after each stage on which ammonia is tested."""


class Phase(StrEnum):
    """The phases in their order."""

    START = "start"
    AMMONIA = "ammonia"
    NITRITE = "nitrite"
    PROVING = "proving"
    FINISHED = "finished"


@dataclass(frozen=True)
class Proof:
    """The proof so far: doses of ammonia gone within a day, or clean tests where none was dosed."""

    by_dose: bool
    done: int
    wanted: int
    words: str

    @property
    def complete(self) -> bool:
        """Whether it is enough."""
        return self.done >= self.wanted


@dataclass(frozen=True)
class StockStage:
    """One stage of stocking: what, from which day on, and the days of its ammonia watch."""

    what: str
    from_day: date
    watch: tuple[date, ...]


@dataclass(frozen=True)
class BreakingIn:
    """How far a new system has come. `change_fraction`: the first change once it is finished, 0 before."""

    phase: Phase
    day: int
    words: str
    reason: str
    tests: tuple[Parameter, ...]
    test_on: date
    why_no_change: str
    proof: Proof
    toxic_mg_l: float | None
    alkalinity_words: str
    change_fraction: float
    stages: tuple[StockStage, ...]


def breaking_in(s: Situation, first_nitrate_mg_l: float = FIRST_NITRATE_MG_L) -> BreakingIn:
    """The phase by the tests, without regard to the calendar.

    `first_nitrate_mg_l` (0 to 100 mg/L) is the level the first change aims at. Test again in two days, daily while
    proving. The strong proof is a measured dose of ammonia (0.5 mg/L or more) that is below detection a day later, with
    nitrite, twice, and nitrate that is there; the weaker one, where none was dosed, three clean tests over a week.

    >>> from salttide.core.judgement.scenario import situation_described
    >>> breaking_in(situation_described([("ammonia", 2.0, 1), ("nitrite", 0.0, 1)], stage="breaking_in")).words
    'Ammonia rises'
    """
    phase, proof = _phase(s), _proof(s)
    if proof.complete and _level(s, NITRATE) == "there":
        phase = Phase.FINISHED
    elif phase == Phase.FINISHED:
        phase = Phase.PROVING
    today = s.now.astimezone(s.zone).date()
    last = max((r.at for r in s.ledger.readings if r.parameter in (AMMONIA, NITRITE)), default=None)
    every = 1 if phase == Phase.PROVING else 2
    test_on = max(today, last.astimezone(s.zone).date() + timedelta(days=every)) if last else today
    started = date.fromisoformat(s.system.started_on)
    words, reason = _words(s, phase, proof)
    finished = phase == Phase.FINISHED
    return BreakingIn(
        phase,
        (today - started).days,
        words,
        reason,
        _tests(phase),
        test_on,
        "Every change takes ammonia and nitrite away from the bacteria that are to live on them. Only where animals "
        f"are inside and in danger: toxic ammonia above {short(EMERGENCY_MG_L)} mg/L, heat or circulation failed, or "
        "something poisonous in the water.",
        proof,
        _toxic(s),
        _alkalinity(s),
        _first_change(s, first_nitrate_mg_l) if finished else 0.0,
        _stages(today) if finished else (),
    )


def _level(s: Situation, parameter: Parameter) -> str:
    """The last result in a word: unknown, gone (below detection) or there."""
    reading = s.ledger.last(parameter)
    if reading is None:
        return "unknown"
    return "gone" if _gone(reading) else "there"


def _gone(reading: Reading) -> bool:
    return reading.value <= DETECTED_SDS * reading.sd


def _past_peak(s: Situation, parameter: Parameter) -> bool:
    """Whether the last result is really below the highest before it."""
    found = s.ledger.of(parameter)
    top = max(found, key=lambda reading: reading.value, default=None)
    return top is not None and top.value - found[-1].value > REAL_SDS * joint_sd(top, found[-1])


def _near_peak(s: Situation, parameter: Parameter) -> bool:
    """Whether the last result is still most of the highest."""
    found = s.ledger.of(parameter)
    return found[-1].value >= NEAR_PEAK * max(reading.value for reading in found)


def _phase(s: Situation) -> Phase:
    ammonia, nitrite = _level(s, AMMONIA), _level(s, NITRITE)
    ever = any(not _gone(reading) for reading in s.ledger.of(AMMONIA)) or bool(_doses(s))
    if ammonia == "unknown" or (not ever and nitrite != "there"):
        return Phase.PROVING if ammonia == "gone" and nitrite == "gone" else Phase.START
    if ammonia == "there" and not _past_peak(s, AMMONIA):
        return Phase.AMMONIA
    if nitrite == "there" or ammonia == "there":
        return Phase.NITRITE
    return Phase.PROVING


def _doses(s: Situation) -> list[Dose]:
    """Measured doses of ammonia, oldest first."""
    least = MIN_DOSE_MG_L * s.ledger.volume_l
    return [dose for dose in s.ledger.doses if dose.amounts.get(AMMONIA, 0.0) >= least]


def _proof(s: Situation) -> Proof:
    doses = _doses(s)
    if doses:
        proved = sum(_proved(s, dose) for dose in doses)
        words = f"{proved} of {PROOFS_WANTED} measured doses of ammonia were gone a day later, and so was nitrite"
        return Proof(True, min(proved, PROOFS_WANTED), PROOFS_WANTED, words)
    clean = _clean_tests(s)
    days = (clean[-1].at - clean[0].at) / timedelta(days=1) if clean else 0.0
    done = len(clean) if len(clean) < CLEAN_TESTS_WANTED or days >= CLEAN_DAYS else CLEAN_TESTS_WANTED - 1
    words = (
        f"{counted(len(clean), 'clean test')} over {counted(round(days), 'day')} of {CLEAN_TESTS_WANTED} over "
        f"{show_number(CLEAN_DAYS, 0)} days. No ammonia was dosed, so this is the weaker proof"
    )
    return Proof(False, min(done, CLEAN_TESTS_WANTED), CLEAN_TESTS_WANTED, words)


def _proved(s: Situation, dose: Dose) -> bool:
    """Whether ammonia and nitrite were both tested about a day after a dose, and both gone."""
    low, high = (timedelta(hours=hours) for hours in PROOF_HOURS)
    for parameter in (AMMONIA, NITRITE):
        tests = [r for r in s.ledger.of(parameter) if low <= r.at - dose.at <= high]
        if not tests or not _gone(tests[-1]):
            return False
    return True


def _clean_tests(s: Situation) -> list[Reading]:
    """The latest unbroken row of days on which ammonia and nitrite were both tested and gone."""
    nitrite = {reading.at.astimezone(s.zone).date(): reading for reading in s.ledger.of(NITRITE)}
    row: list[Reading] = []
    for reading in s.ledger.of(AMMONIA):
        other = nitrite.get(reading.at.astimezone(s.zone).date())
        if other is None:
            continue
        row = [*row, reading] if _gone(reading) and _gone(other) else []
    return row


def _tests(phase: Phase) -> tuple[Parameter, ...]:
    return {
        Phase.START: (AMMONIA, Parameter.SALINITY, ALKALINITY),
        Phase.AMMONIA: (AMMONIA, NITRITE),
        Phase.NITRITE: (AMMONIA, NITRITE, ALKALINITY),
        Phase.PROVING: (AMMONIA, NITRITE, NITRATE),
        Phase.FINISHED: (NITRATE, ALKALINITY, Parameter.SALINITY),
    }[phase]


def _value_words(s: Situation, parameter: Parameter) -> str:
    reading = s.ledger.last(parameter)
    return f"{parameter.value} {s.show(parameter, reading.value)}" if reading else f"{parameter.value} not tested"


def _words(s: Situation, phase: Phase, proof: Proof) -> tuple[str, str]:
    values = f"{_value_words(s, AMMONIA)}, {_value_words(s, NITRITE)}".capitalize().replace("/l", "/L")
    if phase == Phase.START:
        return (
            "It has not begun: give a source of ammonia",
            "Nothing for the bacteria to live on was found. A measured dose of ammonium chloride to about 2 mg/L, a "
            "pinch of food each day, or mature rock: write down which.",
        )
    if phase == Phase.AMMONIA:
        return "Ammonia rises", f"{values}. The first bacteria are growing; nitrite follows. Wait and test."
    if phase == Phase.NITRITE:
        if _level(s, AMMONIA) == "there":
            near = "near its peak" if _near_peak(s, NITRITE) else "past its peak too"
            return (
                f"Ammonia is past its peak, nitrite {near}",
                f"{values}. Half of the work is done. Nitrite makes nitrate tests read too high: nitrate says little "
                "yet.",
            )
        way = "is near its peak" if _near_peak(s, NITRITE) else "falls"
        return (
            f"Ammonia is gone, nitrite {way}",
            f"{values}. The second bacteria take longer, often two or three weeks. Nitrate tests read too high "
            "meanwhile.",
        )
    if phase == Phase.PROVING:
        what = (
            "Give a measured dose of ammonia (1 to 2 mg/L) and test ammonia and nitrite a day later."
            if proof.by_dose
            else "Keep testing, or prove it sooner: dose ammonia to 1 to 2 mg/L and test a day later, twice."
        )
        none = _level(s, NITRATE) != "there"
        missing = " Nitrate has to be found too: where it went says that they work." if none else ""
        return "Both are gone: now prove it", f"{values}. {proof.words}. {what}{missing}"
    return (
        "Finished: the bacteria carry the load",
        f"{values}, {_value_words(s, NITRATE)}. {proof.words}.",
    )


def _toxic(s: Situation) -> float | None:
    """Un-ionised ammonia in mg/L, None where something for it was not measured."""
    values = [s.value(p) for p in (AMMONIA, Parameter.PH, Parameter.SALINITY, Parameter.TEMPERATURE)]
    if any(value is None for value in values):
        return None
    try:
        return float(unionised_ammonia_mg_l(*[float(value or 0.0) for value in values]))
    except InputError:
        return None


def alkalinity_used_meq_l(ammonia_mg_l: float) -> float:
    """Alkalinity (meq/L) that nitrification takes for so much ammonia (mg/L as NH3, 0 to 100): two equivalents a mole.

    NH4+ + 2 O2 → NO3- + H2O + 2 H+.

    >>> round(alkalinity_used_meq_l(1.703), 2)
    0.2
    """
    return 2 * check_range("ammonia", ammonia_mg_l, "mg/L", 0, 100) / molar_mass_g_mol("NH3")


def _alkalinity(s: Situation) -> str:
    """What alkalinity does meanwhile, in words."""
    used = sum(dose.amounts[AMMONIA] for dose in _doses(s)) / s.ledger.volume_l
    text = "Nitrification uses alkalinity"
    if used:
        text += f": {s.show(ALKALINITY, alkalinity_used_meq_l(used))} for the {s.show(AMMONIA, used)} dosed so far"
    if s.low(ALKALINITY):
        text += (
            f". It is at {s.show(ALKALINITY, s.present[ALKALINITY].value)}: raise it with baking soda, which "
            "leaves pH alone; more pH would make more of the ammonia toxic"
        )
    return text + "."


def _first_change(s: Situation, target: float) -> float:
    """The fraction that brings nitrate to the target; nothing lives in it yet, so it may be large."""
    nitrate = s.value(NITRATE)
    if nitrate is None or nitrate <= target:
        return 0.0
    return min(LARGEST_FIRST_CHANGE, float(fraction_to_reach(nitrate, target, 0.0)))


def _stages(today: date) -> tuple[StockStage, ...]:
    return tuple(
        StockStage(
            what,
            first := today + timedelta(days=1 + after),
            tuple(first + timedelta(days=days) for days in WATCH_DAYS),
        )
        for what, after in STOCK_STAGES
    )


def first_change_words(system: System, state: BreakingIn) -> str:
    """What the first change is, once a system is finished; empty before."""
    if state.phase != Phase.FINISHED:
        return ""
    if not state.change_fraction:
        return "Nitrate is low enough: no first change is needed."
    litres, share = state.change_fraction * system.volume_l, show_number(state.change_fraction * 100, 0)
    return f"First change {litres_words(litres, 0)} ({share} % of the water), before anything moves in."


def missing_for_the_end(state: BreakingIn) -> str:
    """What is still missing before cycling can be ended, in words; empty when nothing is."""
    return "" if state.phase == Phase.FINISHED else f"{state.words}. {state.proof.words}."
