"""Remedies for salinity: the instrument first where it is in doubt, then what is missing, fresh water in small swaps,
salt water in the top-off, or the water change that is due."""

from __future__ import annotations

from datetime import UTC, date, datetime, time, timedelta
from itertools import pairwise
from math import ceil

from ..basics.measures import litres_words, weight_words
from ..basics.phrasing import capital, counted, day_words
from ..estimate.confidence import CHECK_DAYS
from ..judgement.situation import Situation
from ..ledger.entries import UNNAMED
from ..planning.change_step import PLUME_SALINITY
from ..planning.correction_work import TEST_HOUR
from ..planning.work_order import WATER, PlannedWork, WaterWorkOrder, planned_test
from ..science.dilution import salinity_steps_l
from ..science.parameters import FACTS, FRESH_WATER, Parameter
from ..science.salt_calibration import mixed_water
from ..science.units import show
from .by_change import changes_to
from .remedy import InstrumentCheck, Means, Remedy, RemedyKind, Supply

SALINITY = Parameter.SALINITY
MAX_MISSING_SHARE = 0.25
"""More than this share of the water missing is a leak or a mistake, not evaporation to be topped off (judgement)."""
SWAP_MINUTES = 10.0
"""Of taking out some water and pouring in other (judgement)."""
SALTY = 35.0
"""Salt water for the top-off is mixed to this salinity."""
MAX_TOP_OFF_DAYS = 14
"""A salinity that would take longer than this to come up by topping off is raised by a change (judgement)."""


def moving_salinity(s: Situation, means: Means) -> list[Remedy]:
    """Every way to bring salinity to its aim, the mildest sufficient first."""
    goal, value = s.system.aim(SALINITY), s.value(SALINITY)
    if goal is None or value is None:
        return []
    down = value > goal
    if down:
        ways = [_missing(s, value, goal), _fresh(s, value, goal)]
    else:
        ways = [_salt_water(s, means, value, goal), *changes_to(s, means, SALINITY, goal)]
    found = [_instrument(s, means), *ways, _due_change(s, means, value, goal), _left(s, down)]
    known = [one for one in found if one]
    return sorted(known, key=lambda one: not one.fits)


def _instrument(s: Situation, means: Means) -> Remedy | None:
    """Doubt of the instrument: it was not checked for long. First only where another one, which a check showed to be
    right, reads inside the band."""
    last, band = s.ledger.last(SALINITY), s.band(SALINITY)
    if last is None or band is None or _fresh_check(s, means, last.instrument):
        return None
    known = means.checked.get(last.instrument)
    why = f"It was last checked on {day_words(known.day)}." if known else "No check of it is recorded."
    other = next((r for r in reversed(s.ledger.of(SALINITY)) if r.instrument != last.instrument), None)
    doubted = False
    if other is not None and s.days_ago(other.at) <= CHECK_DAYS:
        check = _fresh_check(s, means, other.instrument)
        right = check is not None and abs(check.off) <= FACTS[SALINITY].sd
        doubted = right and band.holds(other.value)
        why += f" {capital(other.instrument)} read {s.show(SALINITY, other.value)} on {s.when(other.at)}"
        off = s.difference(SALINITY, check.off) if check else ""
        low = "low" if check and check.off < 0 else "high"
        why += ", and its check was right." if right else f", but its check showed it {off} {low}." if check else "."
    which = "instrument" if last.instrument == UNNAMED else last.instrument
    return Remedy(
        "instrument", RemedyKind.ACT, f"Check the {which} against a 35 ppt standard first",
        "Enter the check under Shelf, Instruments: later readings are corrected by it.", why, doubted, SALINITY,
    )  # fmt: skip


def _fresh_check(s: Situation, means: Means, instrument: str) -> InstrumentCheck | None:
    """The last check of an instrument, where it still holds."""
    check = means.checked.get(instrument)
    today = s.now.astimezone(s.zone).date()
    return check if check and (today - check.day).days <= CHECK_DAYS else None


def _missing(s: Situation, value: float, goal: float) -> Remedy | None:
    """Fresh water for what has evaporated and was not topped off."""
    litres = s.ledger.missing_at(s.now)
    if litres < 0.1:
        return None
    after = value * (1 - litres / s.system.volume_l)
    band = s.band(SALINITY)
    enough = band is not None and band.holds(after) and litres < MAX_MISSING_SHARE * s.system.volume_l
    limit = s.limit(SALINITY).down
    days = max(1, ceil((value - after) / limit - 1e-9))
    title = f"Top off the {litres_words(litres)} that are missing" + (
        f" over {counted(days, 'day')}" if days > 1 else ""
    )
    words = f"brings it to {s.show(SALINITY, after)}"
    why = f"The level is down, and filling it up {words}" + ("." if enough else ": not enough by itself.")
    return Remedy(
        "missing", RemedyKind.TOP_OFF, title, "With fresh water, a little at a time.", why, enough, SALINITY, goal
    )


def _fresh(s: Situation, value: float, goal: float) -> Remedy:
    """Tank water out, as much fresh water in, in daily steps."""
    steps = salinity_steps_l(s.system.volume_l, min(value, SALTY + 10), goal, 0.0, s.system.limits.salinity)
    today, made = s.now.astimezone(s.zone).date(), s.now
    work = [
        _poured(today + timedelta(days=n), step.litres, step.litres, "fresh water", {}, made, step.before, step.after)
        for n, step in enumerate(steps)
    ]
    litres = sum(step.litres for step in steps)
    each = f"{litres_words(litres / len(steps))} a day for {counted(len(steps), 'day')}"
    over = f" ({each})" if steps[1:] else ""
    return Remedy(
        "fresh", RemedyKind.FRESH,
        f"Lower salinity to {s.show(SALINITY, goal)}: swap {litres_words(litres)} for fresh water{over}",
        f"Take the tank water out first, then pour the RO/DI water slowly into strong flow or the sump. "
        f"At most {s.difference(SALINITY, s.system.limits.salinity)} a day. {_rising(s)}",
        "Fresh water dilutes everything by the same share, which is just what is needed, and takes no salt.",
        True, SALINITY, goal, (*work, _test(s, work[-1].day, goal)), None,
        (Supply("RO/DI water", litres_words(litres)),),
        "Poured in all at once, it shocks whatever sits there.",
    )  # fmt: skip


def _salt_for(means: Means, mass_g: float) -> tuple[Supply, ...]:
    salt = means.salt
    return (Supply(salt.name, weight_words(mass_g), mass_g=mass_g, salt_id=salt.id),) if salt else ()


def _rising(s: Situation) -> str:
    """What keeps it from coming back."""
    if not s.moves(SALINITY) or s.net(SALINITY) <= 0:
        return "Then find the cause: missed top-offs."
    rise = s.difference(SALINITY, s.net(SALINITY))
    return f"It rises by {rise} a day through missed top-offs: top off every day what evaporates, or it comes back."


def _salt_water(s: Situation, means: Means, value: float, goal: float) -> Remedy:
    """Salt water in place of fresh in the top-off, as fast as water evaporates and the daily limit allows."""
    volume, today = s.system.volume_l, s.now.astimezone(s.zone).date()
    litres = volume * (goal - value) / SALTY
    a_day = min(max(means.evaporation_l, 1e-6), volume * s.system.limits.salinity / SALTY)
    days = max(1, ceil(litres / a_day - 1e-9))
    holds = mixed_water(means.salt, SALTY) if means.salt else {SALINITY: SALTY}
    water, step = f"salt water at {s.show(SALINITY, SALTY)}", (goal - value) / days
    strength = means.salt.strength_g_l if means.salt else 0.0
    salt = (means.salt.name, strength * litres / days) if means.salt else ("", 0.0)
    fits = days <= MAX_TOP_OFF_DAYS
    each_l, levels = litres / days, [value + n * step for n in range(days + 1 if fits else 0)]
    work = [
        _poured(today + timedelta(days=n), 0.0, each_l, water, holds, s.now, before, after, salt)
        for n, (before, after) in enumerate(pairwise(levels))
    ]
    each = f", {litres_words(litres / days)} a day for {counted(days, 'day')}" if days > 1 else ""
    why = "It replaces what evaporates anyway, so the level stays and no water has to go."
    if not fits:
        evaporates = litres_words(means.evaporation_l)
        why = f"Only {evaporates} evaporates a day, so it would take {counted(days, 'day')}."
    return Remedy(
        "top_off", RemedyKind.TOP_OFF,
        f"Raise salinity to {s.show(SALINITY, goal)}: top off with {litres_words(litres)} of {water}{each}",
        f"In place of fresh water; switch an automatic top-off off meanwhile. At most "
        f"{s.difference(SALINITY, s.system.limits.salinity)} a day. Then look for salt that leaves: wet skimmer, "
        "leaks, creep, too much top-off.",
        why, fits, SALINITY, goal, (*work, _test(s, work[-1].day, goal)) if fits else (), None,
        _salt_for(means, strength * litres),
        "An automatic top-off left on adds fresh water on top of it.",
    )  # fmt: skip


def _poured(
    day: date, out_l: float, in_l: float, water: str, holds: dict[Parameter, float], made: datetime, before: float,
    after: float, salt: tuple[str, float] = ("", 0.0),
) -> PlannedWork:  # fmt: skip
    name = f"Swap {litres_words(in_l)} for {water}" if out_l else f"Top off with {litres_words(in_l)} of {water}"
    order = WaterWorkOrder(
        out_l, in_l, holds or FRESH_WATER, water, salt[0], salt[1], {SALINITY: before},
        made.astimezone(UTC).isoformat(timespec="seconds"), abs(after - before),
    )  # fmt: skip
    return PlannedWork(day, WATER, name, SWAP_MINUTES, order)


def _test(s: Situation, day: date, goal: float) -> PlannedWork:
    why = f"{show(SALINITY, goal, s.units)} is expected; if not, stop and think again"
    return planned_test(SALINITY, datetime.combine(day, time(TEST_HOUR), s.zone), why)


def _due_change(s: Situation, means: Means, value: float, goal: float) -> Remedy | None:
    """The routine change that is due, with weaker or saltier water."""
    fraction, due = s.system.routine.fraction, means.change_day
    if not fraction or means.salt is None:
        return None
    new = value + (goal - value) / fraction
    held = max(value - PLUME_SALINITY, min(value + PLUME_SALINITY, new))
    after = value + fraction * (held - value)
    enough = abs(after - goal) <= FACTS[SALINITY].sd
    size = litres_words(s.system.litres_of(fraction))
    when = f"on {day_words(due)}" if due else "of the usual size"
    why = f"It comes to {s.show(SALINITY, after)} with the water change {when}"
    why += ", which costs no further work." if enough else ": not enough, and more would shock what meets it."
    if enough and (due is None or (due - s.now.astimezone(s.zone).date()).days > 2):
        why = f"It would do it, but the change is not due until {day_words(due)}." if due else "No change is due."
        enough = False
    return Remedy(
        "mix", RemedyKind.CHANGE, f"Mix the {size} of the next change to {s.show(SALINITY, held)}", "", why, enough,
        SALINITY, goal,
    )  # fmt: skip


def _left(s: Situation, down: bool) -> Remedy:
    why = (
        "It does not come down by itself: only water leaves by evaporation." if down else "It does not rise by itself."
    )
    return Remedy("leave", RemedyKind.WAIT, "Leave it and test again", "", why, False, SALINITY)
