"""The failure board as it is shown."""

from salttide.core.basics.measures import litres_words
from salttide.core.basics.number_text import show_number
from salttide.core.basics.phrases import phrase, phrases
from salttide.core.basics.phrasing import capital, date_words
from salttide.core.failure.board import Failure, Help, board, helps, present, worst_of
from salttide.core.failure.file import safeguards
from salttide.core.failure.installation import Installation
from salttide.core.failure.outcome import Effect, hours_words
from salttide.core.failure.power_plan import BatteryLoad, battery_order, power_marks
from salttide.core.failure.usual import Harm
from salttide.core.failure.warmth import heat_facts
from salttide.core.planning.plumbing import doubts, sump_of
from salttide.core.science.parameters import Parameter
from salttide.core.science.units import unit_of
from salttide.core.system.topoff import CUT_OFFS, SENSES
from salttide.core.upkeep.task import tasks

from .models import Choice, Model, WorkingStep, working_shown


class FailureEffect(Model):
    """One size of what happens."""

    key: str
    name: str
    text: str
    working: list[WorkingStep]


class FailureShown(Model):
    """A line of the board. harm: 0 to 3, open: what of it nothing keeps away · missing: what has to be measured first ·
    drill: the task that rehearses it, with when it was last done in words."""

    key: str
    name: str
    subject: str
    about: str
    words: str
    harm: int
    open: int
    harm_name: str
    harm_words: str
    begins: str
    effects: list[FailureEffect]
    stopped: list[str]
    warned: list[str]
    absent: list[str]
    do: str
    drill: str
    drill_name: str
    rehearsed: str
    sheet: str
    missing: list[str]


class HelpShown(Model):
    """What would help, and what it takes."""

    key: str
    name: str
    how: str
    stops: list[str]
    tells: list[str]
    money: str
    minutes: int


class DrawingShown(Model):
    """What the drawing of a system is made of, in cm, and the litres that follow; null where not known. sump_typed:
    whether the sump's measures are entered with the levels, as its set-up has its litres alone."""

    width_cm: float
    depth_cm: float
    sump_length_cm: float | None
    sump_depth_cm: float | None
    return_pump: bool
    sump_typed: bool
    levels: dict[str, float | None]
    litres: dict[str, str]


class PowerMarkShown(Model):
    """Something that happens without power, when, and what to do then."""

    when: str
    what: str
    do: str
    working: list[WorkingStep]


class BatteryLoadShown(Model):
    """What a battery runs, everything before it too. lasts: how long the one that was entered does, if any."""

    name: str
    power: str
    lasts: str
    size: str
    working: list[WorkingStep]


class FailureBoard(Model):
    """The board of a system. worst: its three worst in words · doubts: measures that do not fit together."""

    system_id: int
    name: str
    failures: list[FailureShown]
    worst: list[str]
    helps: list[HelpShown]
    present: list[str]
    doubts: list[str]
    drawing: DrawingShown
    heat: list[FailureEffect]
    power: list[PowerMarkShown]
    battery: list[BatteryLoadShown]
    temperature_unit: str
    senses: list[Choice]
    cut_offs: list[Choice]
    lids: list[Choice]


DRAWN = ("freeboard_cm", "fall_cm", "outlet_cm", "break_cm", "rim_cm", "chamber_cm", "pump_cm")
"""The levels of the drawing."""


def board_shown(at: Installation) -> FailureBoard:
    """The board with everything in words."""
    found, named = board(at), safeguards()
    return FailureBoard(
        system_id=at.system.id,
        name=at.system.name,
        failures=[failure_shown(one) for one in found],
        worst=[failure_name(one) for one in worst_of(found)],
        helps=[_help(one) for one in helps(found)],
        present=[one.name for key, one in named.items() if key in present(at)],
        doubts=doubts(at.system, at.plumbing),
        drawing=_drawing(at),
        heat=[_effect(each) for each in heat_facts(at)],
        power=[
            PowerMarkShown(when=capital(one.when), what=one.what, do=one.do, working=working_shown(one.working))
            for one in power_marks(at)
        ],
        battery=[_battery(one) for one in battery_order(at)],
        senses=[Choice(key=key.value, name=name) for key, name in SENSES.items()],
        cut_offs=[Choice(key=key.value, name=name) for key, name in CUT_OFFS.items()],
        lids=[Choice(key=key, name=name) for key, name in phrases("failure.lid").items()],
        temperature_unit=unit_of(Parameter.TEMPERATURE, at.units).label,
    )


def failure_name(one: Failure) -> str:
    """Its name, and which of several."""
    return f"{one.kind.name}: {one.outcome.subject}" if one.outcome.subject else one.kind.name


def failure_shown(one: Failure) -> FailureShown:
    """A line of the board in words."""
    names = phrases("failure.measure")
    return FailureShown(
        key=one.kind.key,
        name=one.kind.name,
        subject=one.outcome.subject,
        about=one.kind.about,
        words=one.outcome.words,
        harm=int(one.outcome.harm),
        open=int(one.open),
        harm_name=phrases("failure.harm_name")[one.outcome.harm.name.lower()] if one.known else "",
        harm_words=_harm_words(one),
        begins=_begins(one),
        effects=[_effect(each) for each in one.outcome.effects],
        stopped=[each.name for each in one.stopped],
        warned=[each.name for each in one.warned],
        absent=[each.name for each in one.absent] if one.open else [],
        do=one.kind.do if one.open or not one.known else "",
        drill=one.kind.drill,
        drill_name=tasks()[one.kind.drill].name if one.kind.drill else "",
        rehearsed=date_words(one.rehearsed) if one.rehearsed else "",
        sheet=one.kind.sheet,
        missing=[names[name] for name in one.outcome.missing],
    )


def _harm_words(one: Failure) -> str:
    if not one.known:
        return phrase("failure.not_known")
    if one.stopped and one.outcome.harm:
        return capital(phrase("failure.held"))
    return capital(phrases("failure.harm")[one.outcome.harm.name.lower()])


def _begins(one: Failure) -> str:
    """When harm begins; empty where there is none."""
    after = one.outcome.after_h
    if not one.known or one.outcome.harm == Harm.NONE or after is None:
        return ""
    return phrase("failure.after", time=hours_words(after)) if after > 0 else phrase("failure.at_once")


def _effect(one: Effect) -> FailureEffect:
    name = phrases("failure.effect")[one.key]
    return FailureEffect(key=one.key, name=name, text=one.text, working=working_shown(one.working))


def _battery(one: BatteryLoad) -> BatteryLoadShown:
    working = one.size.working if one.lasts is None else (*one.lasts.working, *one.size.working)
    return BatteryLoadShown(
        name=phrases("failure.load")[one.key],
        power=f"{show_number(one.power_w, 0)} W",
        lasts=hours_words(float(one.lasts)) if one.lasts is not None else "",
        size=f"{show_number(float(one.size), 0)} Wh",
        working=working_shown(working),
    )


def _help(one: Help) -> HelpShown:
    return HelpShown(
        key=one.safeguard.key,
        name=one.safeguard.name,
        how=one.safeguard.how,
        stops=list(one.stops),
        tells=list(one.tells),
        money=phrases("failure.money")[str(one.safeguard.money)],
        minutes=one.safeguard.minutes,
    )


def _drawing(at: Installation) -> DrawingShown:
    geometry, sump = at.system.geometry, sump_of(at.system, at.plumbing)
    known = {"back": at.back, "down": at.down, "sump_room": at.sump_room, "room": at.display_room, "pump": at.pumpable}
    names = phrases("failure.litres")
    return DrawingShown(
        width_cm=geometry.length_cm,
        depth_cm=geometry.depth_cm,
        sump_length_cm=sump.length_cm if sump else None,
        sump_depth_cm=sump.depth_cm if sump else None,
        return_pump=at.overflows,
        sump_typed=geometry.sump is None,
        levels={name: getattr(at.plumbing, name) for name in DRAWN},
        litres={names[key]: litres_words(float(value)) for key, value in known.items() if value is not None},
    )
