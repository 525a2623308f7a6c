"""The tank side of a plan as shown: mark, buckets, zones, minutes, what drains back; and a change by a pump pair."""

from salttide.core.basics.number_text import show_number
from salttide.core.basics.working import Working
from salttide.core.planning.change import ChangePlan
from salttide.core.planning.plumbing import TankSide
from salttide.core.science.dilution import after_continuous_change
from salttide.core.system.system import System

from .models import Model, Shown, WorkingStep, plain, working_shown


class Figure(Model):
    """One line of what it takes, with its working."""

    key: str
    value: Shown
    words: str
    working: list[WorkingStep]


def figure(key: str, value: Shown, words: str, working: Working = ()) -> Figure:
    """One line."""
    return Figure(key=key, value=value, words=words, working=working_shown(working))


def tank_figures(side: TankSide, siphoned: bool) -> list[Figure]:
    """What the work at the tank comes to; the tube where the sand is siphoned."""
    found = [
        figure("mark", plain(float(side.mark), 1, "cm"), _mark_words(side), side.mark.working),
        figure("buckets", plain(side.buckets, 0, "bucket" if side.buckets == 1 else "buckets"), "out, and as many in"),
    ]
    if siphoned:
        found.append(figure("tube", plain(side.tube_cm, 0, "cm"), "of siphon tube, as deep as the water"))
    found += [figure(name, plain(litres, 1, "L"), f"at the {name}") for name, litres in side.zones]
    if side.minutes is not None:
        found.append(
            figure(
                "drain", plain(float(side.minutes), 1, "min"), "to drain by the hose, an estimate", side.minutes.working
            )
        )
    if side.fill is not None:
        found.append(figure("fill", plain(float(side.fill), 1, "min"), "to fill by the pump", side.fill.working))
    for key, back, words in (
        ("back", side.back, "drain back when the return stops"),
        ("broken", side.broken, "would drain back if the siphon break failed"),
    ):
        if back is not None:
            found.append(figure(key, plain(float(back), 1, "L"), words, back.working))
    if side.room is not None:
        found.append(figure("room", plain(float(side.room), 1, "L"), "of room in the sump", side.room.working))
    return found


def _mark_words(side: TankSide) -> str:
    """Where the tape goes; an estimate where more than the footprint was asked."""
    estimate = " (an estimate: rock spread evenly over the depth)" if side.mark.working[1:] else ""
    return f"below the pumps-off level: put the tape here{estimate}"


def tank_warnings(side: TankSide) -> list[str]:
    """What the sump does not hold."""
    said = []
    if side.holds_back is False and side.back is not None and side.room is not None:
        more = show_number(float(side.back) - float(side.room), 1)
        said.append(f"The sump overflows by {more} L when the return stops.")
    if side.holds_broken is False and side.broken is not None and side.room is not None:
        more = show_number(float(side.broken) - float(side.room), 1)
        said.append(f"If the siphon break fails, {more} L more run down than the sump holds.")
    return said


def slow_figures(system: System, plan: ChangePlan, days: int) -> list[Figure]:
    """The same water exchanged by a pump pair over so many days: its rate, and how much of the old water is left."""
    litres = sum(step.volume_l for step in plan.steps)
    if not litres:
        return []
    left = after_continuous_change(100.0, 0.0, litres, system.volume_l)
    per_day = litres / days
    return [
        figure("slow_rate", plain(per_day, 2, "L a day"), f"in and out alike, {show_number(per_day / 24, 2)} L/h"),
        figure("slow_ml", plain(per_day / 1.44, 1, "mL/min"), "set on both pumps; measure both, or salinity drifts"),
        figure(
            "slow_left",
            plain(float(left), 1, "%"),
            f"of the old water is left, against {show_number(plan.left * 100, 1)} % by changes",
            left.working,
        ),
    ]
