"""The tank side of a plan as shown: mark, buckets, zones, minutes, what drains back; and a change by a pump pair."""

from salttide.core.basics.number_text import percent, show_number
from salttide.core.basics.phrases import phrase, phrases
from salttide.core.basics.working import Working
from salttide.core.planning.change import ChangePlan
from salttide.core.planning.change_order import slow_exchange
from salttide.core.planning.change_words import mark_words
from salttide.core.planning.plumbing import TankSide
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
    words = phrases("change_tank.figure")
    buckets = plain(side.buckets, 0, "bucket" if side.buckets == 1 else "buckets")
    found = [
        figure("mark", plain(float(side.mark), 1, "cm"), mark_words(side), side.mark.working),
        figure("buckets", buckets, words["buckets"]),
    ]
    if siphoned:
        found.append(figure("tube", plain(side.tube_cm, 0, "cm"), words["tube"]))
    found += [
        figure(name, plain(litres, 1, "L"), phrase("change_tank.at_the", name=name)) for name, litres in side.zones
    ]
    estimated = (
        ("drain", side.minutes, "min"),
        ("fill", side.fill, "min"),
        ("back", side.back, "L"),
        ("broken", side.broken, "L"),
        ("room", side.room, "L"),
    )
    return found + [
        figure(key, plain(float(result), 1, unit), words[key], result.working)
        for key, result, unit in estimated
        if result is not None
    ]


def slow_figures(system: System, plan: ChangePlan, days: int) -> list[Figure]:
    """The same water exchanged by a pump pair over several days: its rate, and how much of the old water is left."""
    slow = slow_exchange(system, plan, days)
    if slow is None:
        return []
    by_changes = show_number(percent(plan.left), 1)
    return [
        figure(
            "slow_rate",
            plain(slow.l_day, 2, phrase("common.l_a_day")),
            phrase("change_tank.in_and_out_l_h", l_h=show_number(slow.l_h, 2)),
        ),
        figure("slow_ml", plain(slow.ml_min, 1, "mL/min"), phrase("change_tank.set_on_both_pumps_measure_both")),
        figure(
            "slow_left",
            plain(float(slow.left), 1, "%"),
            phrase("change_tank.of_the_old_water_is_left", by_changes=by_changes),
            slow.left.working,
        ),
    ]
