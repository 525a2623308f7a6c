"""How a system is installed, as a body: levels in cm, litres, watts, temperatures in the keeper's unit."""

from dataclasses import asdict, replace

from pydantic import Field

from salttide.core.basics.errors import InputError
from salttide.core.planning.plumbing import check_levels
from salttide.core.science.parameters import Parameter
from salttide.core.system.heating import Heating, Lid, check_heating
from salttide.core.system.system import System
from salttide.core.system.topoff import CutOff, Senses, TopOffSetup, TopOffStop, check_top_off

from .context import Context
from .models import RequestModel


class LevelsBody(RequestModel):
    """Levels and pumps of display and sump; null where not measured."""

    fall_cm: float | None = None
    outlet_cm: float | None = None
    break_cm: float | None = None
    freeboard_cm: float | None = None
    sump_length_cm: float | None = None
    sump_width_cm: float | None = None
    sump_depth_cm: float | None = None
    rim_cm: float | None = None
    chamber_cm: float | None = None
    pump_cm: float | None = None
    return_l_h: float | None = None
    second_drain: bool = False
    cup_l: float = 0


class TopOffStopBody(RequestModel):
    """A chain that stops the top-off."""

    senses: Senses
    cut_off: CutOff


class TopOffBody(RequestModel):
    """The top-off as it is built; a reservoir of 0: by hand."""

    reservoir_l: float = 0
    pump_l_h: float = 0
    refill_l: float = 0
    limit_min: float = 0
    line_l_h: float = 0
    limewater: bool = False
    stops: list[TopOffStopBody] = Field(default_factory=list, max_length=12)


class HeatingBody(RequestModel):
    """What decides the temperature; temperatures in the keeper's unit, null where not known."""

    room: float | None = None
    cold: float | None = None
    hot: float | None = None
    lid: Lid = Lid.OPEN
    heaters_w: list[float] = Field(default_factory=list, max_length=12)
    cutoff: bool = False
    pumps_w: float = 0
    lamps_w: float = 0
    lamp_h: float = 0
    fan_l_day: float = 0
    chiller_w: float = 0
    battery_wh: float = 0
    battery_w: float = 0
    fish_g: float | None = None
    duty_percent: float | None = None
    cooled_from: float | None = None
    cooled_to: float | None = None
    cooled_h: float | None = None
    cooled_room: float | None = None
    kwh_price: float = 0


class InstallationBody(RequestModel):
    """The whole of it."""

    levels: LevelsBody = Field(default_factory=LevelsBody)
    top_off: TopOffBody = Field(default_factory=TopOffBody)
    heating: HeatingBody = Field(default_factory=HeatingBody)


_TEMPERATURES = {
    "room_c": "room", "cold_c": "cold", "hot_c": "hot", "cooled_from_c": "cooled_from", "cooled_to_c": "cooled_to",
    "cooled_room_c": "cooled_room",
}  # fmt: skip


def body_of(ctx: Context, system: System) -> InstallationBody:
    """How a system is installed, in the keeper's units."""
    levels = {name: getattr(system.plumbing, name) for name in LevelsBody.model_fields}
    row = asdict(system.heating)
    for canonical, name in _TEMPERATURES.items():
        value = row.pop(canonical)
        row[name] = None if value is None else ctx.shown(Parameter.TEMPERATURE, value, finer=True)
    del row["evaporates_l_day"]
    duty = row.pop("duty")
    row["duty_percent"] = None if duty is None else round(duty * 100, 6)
    return InstallationBody(
        levels=LevelsBody(**levels), top_off=TopOffBody(**asdict(system.top_off)), heating=HeatingBody(**row)
    )


def installed(ctx: Context, system: System, body: InstallationBody) -> System:
    """The system with the body's installation; every number is checked at its field."""
    plumbing = replace(system.plumbing, **body.levels.model_dump())
    with _within("levels"):
        check_levels(system, plumbing)
    with _within("top_off"):
        top_off = check_top_off(_top_off(body.top_off))
    with _within("heating"):
        heating = check_heating(_heating(ctx, body.heating, system.heating.evaporates_l_day))
    return replace(system, plumbing=plumbing, top_off=top_off, heating=heating)


def _top_off(body: TopOffBody) -> TopOffSetup:
    stops = tuple(TopOffStop(one.senses, one.cut_off) for one in body.stops)
    return TopOffSetup(**{**body.model_dump(exclude={"stops"}), "stops": stops})


def _heating(ctx: Context, body: HeatingBody, evaporates_l_day: float | None) -> Heating:
    usual, row = Heating(), body.model_dump()
    for canonical, name in _TEMPERATURES.items():
        typed = row.pop(name)
        read = None if typed is None else ctx.canonical(Parameter.TEMPERATURE, typed, name)
        row[canonical] = getattr(usual, canonical) if read is None else read
    duty = row.pop("duty_percent")
    row |= {"duty": None if duty is None else duty / 100, "heaters_w": tuple(row["heaters_w"])}
    return Heating(**row, evaporates_l_day=evaporates_l_day)


class _within:  # noqa: N801 - reads as a phrase at its uses
    """Puts the part's name before the field of an error."""

    def __init__(self, part: str) -> None:
        self.part = part

    def __enter__(self) -> None: ...

    def __exit__(self, kind: type[BaseException] | None, error: BaseException | None, trace: object) -> None:
        if isinstance(error, InputError):
            renamed = {**_TEMPERATURES, "duty": "duty_percent"}
            error.field = f"{self.part}.{renamed.get(error.field, error.field)}"
