"""Systems: set-up, with the net volume and its working shown while typing."""

from collections.abc import Mapping
from functools import partial
from itertools import pairwise
from typing import Literal

from fastapi import APIRouter
from pydantic import Field

from salttide.core.basics.dates import typed_day
from salttide.core.basics.errors import DomainError, InputError, at_field, check_range
from salttide.core.basics.measures import litres_words
from salttide.core.basics.number_text import fraction, percent, rounded_to, short
from salttide.core.basics.phrases import phrase
from salttide.core.basics.phrasing import date_words
from salttide.core.basics.refused import refused
from salttide.core.science.parameters import Parameter, Span
from salttide.core.science.units import UnitChoice, difference_canonical, difference_shown, to_canonical, unit_of
from salttide.core.system.aim import MAX_REASON, OwnAim, usual_aim
from salttide.core.system.catalogue import gear_kinds, method_questions
from salttide.core.system.methods import check_answers
from salttide.core.system.setup_facts import setup_changes
from salttide.core.system.system import (
    GearPlace,
    Limits,
    Methods,
    Panel,
    PanelMaterial,
    Placed,
    SandMethod,
    SourceWater,
    Stage,
    System,
    check_methods,
)
from salttide.core.system.volume import Geometry, net_volume
from salttide.store import system as system_store
from salttide.store.database import to_text

from .context import Context, In, Key
from .geometry import GeometryBody, geometry_body
from .models import Id, Model, Recorded, RequestModel, Shown, WorkingStep, plain, shown, working_shown

router = APIRouter(prefix="/api", tags=["systems"])


class GearBody(RequestModel):
    """A piece of gear: where it sits, and the cm of water over its top with the pumps off, if known."""

    kind: str
    place: GearPlace = GearPlace.DISPLAY
    cover_cm: float | None = None


class BandBody(RequestModel):
    """A target band in the keeper's unit, and the aim inside it; null: the usual one."""

    low: float
    high: float
    aim: float | None = None
    aim_reason: str = Field(default="", max_length=MAX_REASON)


class SystemBody(RequestModel):
    """A system as the keeper sets it up; percentages and target bands in the keeper's units."""

    name: str = Field(min_length=1, max_length=40)
    stock: str = Field(default="", max_length=200)
    stage: Stage = Stage.RUNNING
    panel: PanelMaterial = PanelMaterial.GLASS
    geometry: GeometryBody
    sand: SandMethod = SandMethod.SIPHONED
    change_percent: float = 10
    change_every_days: int = 7
    largest_percent: float = 25
    limit_alkalinity: float | None = None
    limit_salinity: float | None = None
    limit_temperature: float | None = None
    clean_panels: list[Panel] = Field(default_factory=lambda: [Panel.FRONT])
    source_water: SourceWater = SourceWater.PURIFIED
    methods: dict[str, str] = Field(default_factory=dict)
    bands: dict[Parameter, BandBody] = Field(default_factory=dict)
    gear: list[GearBody] = Field(default_factory=list)
    bucket_l: float = 15
    method_note: str = Field(default="", max_length=200)
    started_on: str = ""


class SystemEdit(SystemBody):
    """An edited system. volume_since: whether a new volume counts from now on, or corrects one that was always
    wrong."""

    volume_since: Literal["now", "always"] = "now"


class SystemAnswer(SystemBody):
    """A stored system with what follows from it."""

    id: int
    archived: bool
    volume: Shown
    working: list[WorkingStep]
    usual_aims: dict[Parameter, str]


class VolumeAnswer(Model):
    """A net volume with its working."""

    volume: Shown
    working: list[WorkingStep]


class VersionShown(Model):
    """One version of the set-up: when, and what it changed."""

    at: str
    day: str
    changes: list[str]


class HistoryAnswer(Model):
    """The versions of a system's set-up, latest first, and its volumes over time."""

    versions: list[VersionShown]
    volumes: list[str]


@router.post("/systems/volume")
def preview_volume(body: GeometryBody, ctx: In) -> VolumeAnswer:
    """Net volume of a geometry, without effect."""
    return _volume(body.read(ctx.keeper.units))


def _volume(geometry: Geometry) -> VolumeAnswer:
    working = net_volume(geometry)
    return VolumeAnswer(volume=plain(working[-1].value, 1, "L"), working=working_shown(working))


@router.get("/systems/{system_id}")
def get_system(system_id: Id, ctx: In) -> SystemAnswer:
    """One system as it is set up."""
    return _answer(ctx, ctx.household.system(system_id))


@router.post("/systems", status_code=201)
def add_system(body: SystemBody, ctx: In, key: Key) -> SystemAnswer:
    """Set up a new system."""
    item = read_system(ctx, body, 0)
    system_id = ctx.command(key, lambda connection: system_store.add_system(connection, item, ctx.now))
    return _answer(ctx, ctx.household.system(system_id))


@router.put("/systems/{system_id}")
def change_system(system_id: Id, body: SystemEdit, ctx: In) -> SystemAnswer:
    """Store an edited system. Earlier versions stay in its history."""
    item = read_system(ctx, body, system_id)
    with ctx.write() as connection:
        system_store.change_system(connection, item, ctx.now, body.volume_since == "always")
    return _answer(ctx, ctx.household.system(system_id))


@router.post("/systems/{system_id}/archive")
def archive_system(system_id: Id, ctx: In, key: Key) -> Recorded:
    """Take a system out of use: its record stays, and it can be restored."""
    return _archive(ctx, system_id, key, True)


@router.post("/systems/{system_id}/restore")
def restore_system(system_id: Id, ctx: In, key: Key) -> Recorded:
    """Take an archived system back into use."""
    return _archive(ctx, system_id, key, False)


def _archive(ctx: Context, system_id: int, key: str, away: bool) -> Recorded:
    name = ctx.household.system(system_id).name
    ctx.command(key, lambda connection: system_store.archive(connection, system_id, ctx.now if away else None))
    words = (
        phrase("system.is_archived_its_record_is_kept", name=name)
        if away
        else phrase("system.is_in_use_again", name=name)
    )
    return Recorded(command=key, words=words)


@router.get("/systems/{system_id}/setup/history")
def history(system_id: Id, ctx: In) -> HistoryAnswer:
    """What each edit changed, and which volume applied until when."""
    zone, units = ctx.keeper.zone, ctx.keeper.units
    system = ctx.household.system(system_id)
    stored = system_store.versions(ctx.connection, system_id)
    edits = [
        VersionShown(
            at=to_text(at), day=date_words(at.astimezone(zone).date()), changes=setup_changes(before, after, units)
        )
        for (_, before), (at, after) in pairwise(stored)
    ]
    volumes = [
        phrase("system.l_until", litres=litres_words(volume), day=date_words(until.astimezone(zone).date()))
        for until, volume in ctx.stored.earlier_volumes[system_id]
    ]
    now = phrase("system.l_now", litres=litres_words(system.volume_l))
    return HistoryAnswer(versions=[edit for edit in reversed(edits) if edit.changes], volumes=[*volumes, now])


def read_system(ctx: Context, body: SystemBody, system_id: int) -> System:
    """The body in canonical units; every number is checked at its field."""
    if not body.name.strip():
        raise refused("system.enter_a_name_for_the_system", "name", "system.to_characters")
    units = ctx.keeper.units
    try:
        geometry = body.geometry.read(units)
        net_volume(geometry)
    except InputError as error:
        error.field = f"geometry.{error.field}"
        raise
    methods = Methods(
        body.sand,
        fraction(body.change_percent),
        body.change_every_days,
        fraction(body.largest_percent),
        body.method_note,
        body.methods,
    )
    check_methods(methods)
    check_answers(method_questions(), body.methods)
    placed = _placed(body.gear)
    if not 1 <= body.bucket_l <= 200:
        raise DomainError("bucket", body.bucket_l, "L", 1, 200, field="bucket_l")
    return System(
        system_id, body.name.strip(), body.stock, body.stage, body.panel, geometry, methods,
        {parameter: _band(parameter, band, units) for parameter, band in body.bands.items()},
        _limits(ctx, body), tuple(sorted(placed)), body.bucket_l, _start_day(ctx, body.started_on),
        tuple(panel for panel in Panel if panel in body.clean_panels), body.source_water, placed,
        own_aims=_own_aims(body.bands, units),
    )  # fmt: skip


def _placed(gear: list[GearBody]) -> dict[str, Placed]:
    """Each piece of gear with its place; errors name its position in the list."""
    for number, one in enumerate(gear):
        if one.kind not in gear_kinds():
            raise refused(
                "system.is_not_a_kind_of_gear", f"gear.{number}.kind", takes=", ".join(gear_kinds()), kind=one.kind
            )
        if one.cover_cm is not None:
            check_range(
                phrase("system.depth_of_water_over_it"), one.cover_cm, "cm", 0, 300, field=f"gear.{one.kind}.cover_cm"
            )
    return {one.kind: Placed(one.place, one.cover_cm) for one in gear}


def _start_day(ctx: Context, text: str) -> str:
    return typed_day(text, "started_on", last=ctx.today).isoformat() if text else ctx.today.isoformat()


LIMIT_RANGES: Mapping[Parameter, tuple[float, float, float]] = {
    Parameter.SALINITY: (Limits().salinity, 0.1, 2.0),
    Parameter.ALKALINITY: (Limits().alkalinity_meq_l, 0.05, 0.72),
    Parameter.TEMPERATURE: (Limits().temperature_c, 0.1, 3.0),
}
"""The default of each daily limit, and its range; canonical."""


def _limits(ctx: Context, body: SystemBody) -> Limits:
    return Limits(*(_limit(ctx, parameter, getattr(body, f"limit_{parameter.value}")) for parameter in LIMIT_RANGES))


def _limit(ctx: Context, parameter: Parameter, typed: float | None) -> float:
    """A daily limit typed in the keeper's unit, canonical."""
    units = ctx.keeper.units
    default, *ends = LIMIT_RANGES[parameter]
    if typed is None:
        return default
    low, high = (rounded_to(difference_shown(parameter, end, units), 3) for end in ends)
    label = unit_of(parameter, units).label
    check_range(phrase("system.daily_limit"), typed, label, low, high, field=f"limit_{parameter.value}")
    return difference_canonical(parameter, typed, units)


def _band(parameter: Parameter, band: BandBody, units: UnitChoice) -> Span:
    unit = unit_of(parameter, units)
    ends = [
        at_field(f"bands.{parameter.value}.{end}", partial(to_canonical, parameter, getattr(band, end), unit))
        for end in ("low", "high")
    ]
    if ends[0] >= ends[1]:
        raise refused(
            "system.the_lower_limit_must_be_below",
            f"bands.{parameter.value}.low",
            takes=phrase("system.less_than", high=short(band.high), unit=unit.label).rstrip(),
        )
    return Span(*ends)


def _own_aims(bands: Mapping[Parameter, BandBody], units: UnitChoice) -> dict[Parameter, OwnAim]:
    """The aims that the keeper chose, canonical. Errors name their field."""
    found = {}
    for parameter, band in bands.items():
        if band.aim is None:
            continue
        field, unit = f"bands.{parameter.value}.aim", unit_of(parameter, units)
        check_range(phrase("system.aim"), band.aim, unit.label, band.low, band.high, field=field)
        level = at_field(field, partial(to_canonical, parameter, band.aim, unit))
        found[parameter] = OwnAim(level, band.aim_reason.strip())
    return found


def _answer(ctx: Context, item: System) -> SystemAnswer:
    volume = _volume(item.geometry)
    return SystemAnswer(
        id=item.id,
        archived=item.archived,
        name=item.name,
        stock=item.stock,
        stage=item.stage,
        panel=item.panel,
        geometry=geometry_body(ctx.keeper.units, item.geometry),
        sand=item.methods.sand,
        change_percent=round(percent(item.methods.change_fraction), 6),
        change_every_days=item.methods.change_every_days,
        largest_percent=round(percent(item.methods.largest_fraction), 6),
        limit_alkalinity=_difference(ctx, Parameter.ALKALINITY, item.own_limits.alkalinity_meq_l),
        limit_salinity=_difference(ctx, Parameter.SALINITY, item.own_limits.salinity),
        limit_temperature=_difference(ctx, Parameter.TEMPERATURE, item.own_limits.temperature_c),
        clean_panels=list(item.clean_panels),
        source_water=item.source_water,
        methods=dict(item.methods.answers),
        bands={
            parameter: _band_body(ctx, parameter, band, item.own_aims.get(parameter))
            for parameter, band in item.bands.items()
        },
        usual_aims={p: shown(p, usual_aim(p, band), ctx.keeper.units).text for p, band in item.bands.items()},
        gear=[GearBody(kind=kind, place=one.where, cover_cm=one.cover_cm) for kind, one in item.placed.items()],
        bucket_l=item.bucket_l,
        method_note=item.methods.note,
        started_on=item.started_on,
        volume=volume.volume,
        working=volume.working,
    )


def _band_body(ctx: Context, parameter: Parameter, band: Span, own: OwnAim | None) -> BandBody:
    """A band for its input fields."""
    low, high = (_rounded(parameter, end, ctx) for end in (band.low, band.high))
    aim = _rounded(parameter, own.level, ctx) if own else None
    return BandBody(low=low, high=high, aim=aim, aim_reason=own.reason if own else "")


def _difference(ctx: Context, parameter: Parameter, canonical: float) -> float:
    """A daily limit for an input field."""
    return rounded_to(difference_shown(parameter, canonical, ctx.keeper.units), 4)


def _rounded(parameter: Parameter, value: float, ctx: Context, more: int = 1) -> float:
    """A value for an input field: one digit more than is shown, without rounding noise."""
    unit = unit_of(parameter, ctx.keeper.units)
    return round(unit.from_canonical(value), unit.decimals + more)
