"""Remedies for a pH that is low, high or swings: the air before any buffer, and how alkalinity is given."""

from __future__ import annotations

from datetime import timedelta

from ..basics.errors import InputError
from ..basics.number_text import show_number
from ..judgement.situation import Situation
from ..planning.work_order import planned_test
from ..science.air import OUTDOOR_PPM, pco2_uatm_of_air
from ..science.carbonate import pco2_uatm_from_ph_nbs, ph_nbs_from_pco2
from ..science.parameters import Parameter
from .remedy import Means, Remedy, RemedyKind

PH, ALKALINITY, SALINITY, TEMPERATURE = Parameter.PH, Parameter.ALKALINITY, Parameter.SALINITY, Parameter.TEMPERATURE
AIR_DAYS = 2
"""Water follows another air within two days (judgement): pH is tested again then, at the same hour."""
BUFFER_MEQ_L = 0.5
"""The example of what buffer does: half a meq/L, 1.4 dKH."""


def raising_ph(s: Situation, means: Means) -> list[Remedy]:
    """Every way to raise a pH that the room's air holds down: outdoor air first, never buffer."""
    ph, known = s.value(PH), [s.value(p) for p in (ALKALINITY, SALINITY, TEMPERATURE)]
    if ph is None or None in known:
        return []
    alkalinity, salinity, warm = (float(one or 0.0) for one in known)
    try:
        held = float(pco2_uatm_from_ph_nbs(ph, alkalinity, salinity, warm))
        outdoor = float(pco2_uatm_of_air(OUTDOOR_PPM, salinity, warm))
        reached = float(ph_nbs_from_pco2(outdoor, alkalinity, salinity, warm))
        buffered = float(ph_nbs_from_pco2(held, alkalinity + BUFFER_MEQ_L, salinity, warm))
    except InputError:
        return []
    if reached <= ph:
        return []
    aim = s.system.aim(PH)
    goal = reached if aim is None else aim
    return [_outdoor(s, ph, reached, goal), *_skimmer(s, goal), *_limewater(s, means), _buffer(s, ph, buffered)]


def _aired(s: Situation, key: str, title: str, how: str, why: str, goal: float, risk: str = "") -> Remedy:
    """A way by air, with a test at the same hour once the water has followed."""
    at = s.now.astimezone(s.zone) + timedelta(days=AIR_DAYS)
    test = planned_test(PH, at, f"at the same hour as today; towards {s.show(PH, goal)} if it was the air")
    return Remedy(key, RemedyKind.ACT, title, how, why, True, PH, goal, (test,), risk=risk)


def _outdoor(s: Situation, ph: float, reached: float, goal: float) -> Remedy:
    return _aired(
        s, "window", "Let outdoor air in: a window open by the tank",
        f"A few times a day is not enough: leave it ajar. Test pH at the same hour in {AIR_DAYS} days.",
        f"In outdoor air this water would come to pH {s.show(PH, reached)}, {s.difference(PH, reached - ph)} more, "
        "with nothing added.", goal, "In frost the room and the heater have to keep up.",
    )  # fmt: skip


def _skimmer(s: Situation, goal: float) -> list[Remedy]:
    if "skimmer" not in s.system.gear:
        return []
    return [_aired(
        s, "skimmer_air", "Draw the skimmer's air from outside",
        "A hose from its air inlet through the window; keep the hose wide and short, and the open end away from car "
        "exhaust and sprayed plants. A carbon dioxide absorber on the inlet does the same with the window shut.",
        "The skimmer mixes more air into the water than the surface takes.", goal,
        "A narrow hose chokes the foam. Absorber granules are caustic: dust mask and gloves.",
    )]  # fmt: skip


def _limewater(s: Situation, means: Means) -> list[Remedy]:
    shelved = next((one for one in means.additives if one.formula in ("Ca(OH)2", "NaOH")), None)
    if shelved is None:
        return []
    title = f"Give the daily alkalinity as {shelved.name}"
    why = "It takes up carbon dioxide, but the room's air gives it back: it helps by day and does not cure the cause."
    return [Remedy("lime", RemedyKind.ACT, title, "", why, False, PH)]


def _buffer(s: Situation, ph: float, buffered: float) -> Remedy:
    more = s.difference(ALKALINITY, BUFFER_MEQ_L)
    why = (
        f"In this air {more} more alkalinity would end at pH {s.show(PH, buffered)}, only "
        f"{show_number(buffered - ph, 2)} more: the air takes the rest back."
    )
    return Remedy("buffer", RemedyKind.DOSE, "Raise pH with buffer", "", why, False, PH)


def after_alkalinity(s: Situation) -> list[Remedy]:
    """A low pH that follows a low alkalinity: nothing of its own is done for it."""
    at = s.show(ALKALINITY, s.system.aim(ALKALINITY) or s.present[ALKALINITY].value)
    return [Remedy(
        "follows", RemedyKind.WAIT, f"Leave pH alone until alkalinity is at {at}",
        "Then measure pH again at the same hour.", "With less alkalinity the same air gives a lower pH.", True, PH,
    )]  # fmt: skip


def lowering_ph(s: Situation) -> list[Remedy]:
    """A pH over its band: no acid; what raises it is given more slowly."""
    at = s.now.astimezone(s.zone) + timedelta(days=1)
    dosed = any(one.amounts.get(ALKALINITY, 0.0) > 0 for one in s.plan.daily)
    gentle = (
        "Give alkalinity in more and smaller portions, at night" if dosed else "Give no alkalinity until it is lower"
    )
    slower = Remedy(
        "slower", RemedyKind.WAIT, gentle, "Stir the surface for an hour. Test pH again tomorrow at the same hour.",
        "Carbon dioxide from the air lowers it by itself within hours once nothing drives it up.", True, PH,
        s.system.aim(PH), (planned_test(PH, at, "at the same hour as today"),),
    )  # fmt: skip
    why = "It takes alkalinity with it, and pH jumps back as soon as the air has followed."
    return [slower, Remedy("acid", RemedyKind.DOSE, "Lower pH with acid", "", why, False, PH)]


def calming_ph(s: Situation) -> list[Remedy]:
    """A pH that swings between day and night."""
    gear, ways = {*s.system.gear}, []
    if "refugium" in gear:
        why = "Macroalgae take carbon dioxide up while the display gives it back: the night loses its low."
        ways.append(
            Remedy("refugium", RemedyKind.ACT, "Light the refugium at night, against the display", "", why, True, PH)
        )
    why = "More exchange with the air pulls both ends together."
    ways.append(Remedy("air", RemedyKind.ACT, "Move the surface more, day and night", "", why, True, PH))
    if any(one.amounts.get(ALKALINITY, 0.0) > 0 for one in s.plan.daily):
        why = "Carbonate lifts pH for some hours: at night that fills the low instead of raising the high."
        ways.append(Remedy("night", RemedyKind.ACT, "Give alkalinity at night, in small portions", "", why, True, PH))
    return ways
