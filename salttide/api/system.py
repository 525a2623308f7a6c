"""Systems: set-up, with the net volume and its working while typing."""

from __future__ import annotations

from datetime import date

from fastapi import APIRouter
from pydantic import BaseModel, Field

from salttide.core.catalogue import gear_kinds, presets
from salttide.core.errors import DomainError, InputError
from salttide.core.parameters import FACTS, Parameter, Span
from salttide.core.system import (
    Geometry,
    Limits,
    PanelMaterial,
    SandMethod,
    Schools,
    Stage,
    System,
    check_schools,
    net_volume,
)
from salttide.core.units import UnitChoice, to_canonical, unit_of
from salttide.store import system as system_store

from .context import Context, In, Key
from .models import BandShown, Choice, Id, Shown, Strict, WorkingStep, band_shown, plain, shown, working_shown

router = APIRouter(prefix="/api", tags=["systems"])


class GeometryBody(Strict):
    """Inside measures in cm and volumes in L."""

    length_cm: float
    width_cm: float
    depth_cm: float
    displaced_l: float = 0
    sump_l: float = 0

    def read(self) -> Geometry:
        """As the core has it."""
        return Geometry(self.length_cm, self.width_cm, self.depth_cm, self.displaced_l, self.sump_l)


class BandBody(Strict):
    """A target band in the keeper's unit."""

    low: float
    high: float


class SystemBody(Strict):
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
    limit_salinity: float = 1.0
    bands: dict[Parameter, BandBody] = Field(default_factory=dict)
    gear: list[str] = Field(default_factory=list)
    bucket_l: float = 15
    method_note: str = Field(default="", max_length=200)
    started_on: str = ""


class SystemAnswer(SystemBody):
    """A stored system with what follows from it."""

    id: int
    volume: Shown
    working: list[WorkingStep]


class VolumeAnswer(BaseModel):
    """A net volume with its working."""

    volume: Shown
    working: list[WorkingStep]


class BandRow(BaseModel):
    """A parameter's band in a preset."""

    parameter: str
    name: str
    unit: str
    decimals: int
    presets: dict[str, BandShown]


class SetupAnswer(BaseModel):
    """What a system can be set up with."""

    presets: list[Choice]
    bands: list[BandRow]
    gear: list[Choice]
    sand: list[Choice]
    alkalinity_unit: str
    limit_alkalinity: Shown


SAND_REMARKS = {
    SandMethod.BARE: ("bare floor", "Detritus is seen and lifted out; no sand bed helps with nitrate."),
    SandMethod.SIPHONED: ("shallow, siphoned at each change", "Clean and simple; never the whole floor in one go."),
    SandMethod.STIRRED: (
        "shallow, stirred a few times a week",
        "Feeds corals with what comes up; must not be let slide.",
    ),
    SandMethod.DEEP: (
        "deep and left alone",
        "Takes nitrate away by itself; disturbing an old bed can poison the system.",
    ),
}


@router.get("/setup")
def setup(ctx: In) -> SetupAnswer:
    """Presets, gear and schools to choose from."""
    units = ctx.keeper.units
    rows = []
    for parameter in (p for p in Parameter if FACTS[p].routine):
        unit = unit_of(parameter, units)
        bands = {key: band_shown(parameter, preset.bands.get(parameter), units) for key, preset in presets().items()}
        rows.append(
            BandRow(
                parameter=parameter,
                name=FACTS[parameter].name,
                unit=unit.label,
                decimals=unit.decimals,
                presets={key: band for key, band in bands.items() if band},
            )
        )
    return SetupAnswer(
        presets=[Choice(key=key, name=preset.name) for key, preset in presets().items()],
        bands=rows,
        gear=[Choice(key=kind.key, name=kind.name, remark=kind.off_why) for kind in gear_kinds().values()],
        sand=[Choice(key=key, name=name, remark=remark) for key, (name, remark) in SAND_REMARKS.items()],
        alkalinity_unit=unit_of(Parameter.ALKALINITY, units).label,
        limit_alkalinity=shown(Parameter.ALKALINITY, Limits().alkalinity_meq_l, units),
    )


@router.post("/systems/volume")
def preview_volume(body: GeometryBody) -> VolumeAnswer:
    """Net volume of a geometry, without effect."""
    return _volume(body.read())


def _volume(geometry: Geometry) -> VolumeAnswer:
    working = net_volume(geometry)
    return VolumeAnswer(volume=plain(working[-1].value, 1, "L"), working=working_shown(working))


@router.get("/systems/{system_id}")
def get_system(system_id: Id, ctx: In) -> SystemAnswer:
    """One system as it is set up."""
    return _answer(ctx, system_store.system(ctx.connection, system_id))


@router.post("/systems", status_code=201)
def add_system(body: SystemBody, ctx: In, key: Key) -> SystemAnswer:
    """Set up a new system."""
    item = _read(ctx, body, 0)
    system_id = ctx.command(key, lambda connection: system_store.add_system(connection, item))
    return _answer(ctx, system_store.system(ctx.connection, system_id))


@router.put("/systems/{system_id}")
def change_system(system_id: Id, body: SystemBody, ctx: In) -> SystemAnswer:
    """Store an edited system."""
    item = _read(ctx, body, system_id)
    with ctx.database.write() as connection:
        system_store.change_system(connection, item)
    return _answer(ctx, system_store.system(ctx.connection, system_id))


def _read(ctx: Context, body: SystemBody, system_id: int) -> System:
    """The body in canonical units; every number is checked at its field."""
    if not body.name.strip():
        raise InputError("give the system a name", field="name", accepted="1 to 40 characters")
    units = ctx.keeper.units
    geometry = body.geometry.read()
    try:
        net_volume(geometry)
    except DomainError as error:
        error.field = f"geometry.{error.field}"
        raise
    schools = Schools(
        body.sand, body.change_percent / 100, body.change_every_days, body.largest_percent / 100, body.method_note
    )
    check_schools(schools)
    unknown = set(body.gear) - set(gear_kinds())
    if unknown:
        raise InputError(
            f"“{sorted(unknown)[0]}” is not a kind of gear", field="gear", accepted=", ".join(gear_kinds())
        )
    if not 1 <= body.bucket_l <= 200:
        raise DomainError("bucket", body.bucket_l, "L", 1, 200, field="bucket_l")
    return System(
        system_id, body.name.strip(), body.stock, body.stage, body.panel, geometry, schools,
        {parameter: _band(parameter, band, units) for parameter, band in body.bands.items()},
        _limits(ctx, body), tuple(sorted(set(body.gear))), body.bucket_l, _start_day(ctx, body.started_on),
    )  # fmt: skip


def _start_day(ctx: Context, text: str) -> str:
    if not text:
        return ctx.today.isoformat()
    try:
        return date.fromisoformat(text).isoformat()
    except ValueError as error:
        raise InputError("a date such as 2026-11-24 is wanted", field="started_on", accepted="YYYY-MM-DD") from error


def _limits(ctx: Context, body: SystemBody) -> Limits:
    default = Limits()
    unit = unit_of(Parameter.ALKALINITY, ctx.keeper.units)
    alkalinity = default.alkalinity_meq_l if body.limit_alkalinity is None else unit.to_canonical(body.limit_alkalinity)
    low, high = (unit.from_canonical(end) for end in (0.05, 0.72))
    if not 0.05 <= alkalinity <= 0.72:
        shown_limit = unit.from_canonical(alkalinity)
        raise DomainError(
            "daily limit", shown_limit, unit.label, round(low, 2), round(high, 2), field="limit_alkalinity"
        )
    if not 0.1 <= body.limit_salinity <= 2:
        raise DomainError("daily limit", body.limit_salinity, "ppt", 0.1, 2, field="limit_salinity")
    return Limits(body.limit_salinity, alkalinity, default.temperature_c)


def _band(parameter: Parameter, band: BandBody, units: UnitChoice) -> Span:
    unit, ends = unit_of(parameter, units), []
    for end in ("low", "high"):
        try:
            ends.append(to_canonical(parameter, getattr(band, end), unit))
        except DomainError as error:
            error.field = f"bands.{parameter.value}.{end}"
            raise
    if ends[0] >= ends[1]:
        raise InputError(
            "the lower end must be below the upper one",
            field=f"bands.{parameter.value}.low",
            accepted=f"less than {band.high:g} {unit.label}".rstrip(),
        )
    return Span(*ends)


def _answer(ctx: Context, item: System) -> SystemAnswer:
    volume = _volume(item.geometry)
    geometry = item.geometry
    return SystemAnswer(
        id=item.id,
        name=item.name,
        stock=item.stock,
        stage=item.stage,
        panel=item.panel,
        geometry=GeometryBody(
            length_cm=geometry.length_cm,
            width_cm=geometry.width_cm,
            depth_cm=geometry.depth_cm,
            displaced_l=geometry.displaced_l,
            sump_l=geometry.sump_l,
        ),
        sand=item.schools.sand,
        change_percent=round(item.schools.change_fraction * 100, 6),
        change_every_days=item.schools.change_every_days,
        largest_percent=round(item.schools.largest_fraction * 100, 6),
        limit_alkalinity=_rounded(Parameter.ALKALINITY, item.limits.alkalinity_meq_l, ctx, 1),
        limit_salinity=item.limits.salinity,
        bands={
            parameter: BandBody(low=_rounded(parameter, band.low, ctx), high=_rounded(parameter, band.high, ctx))
            for parameter, band in item.bands.items()
        },
        gear=list(item.gear),
        bucket_l=item.bucket_l,
        method_note=item.schools.note,
        started_on=item.started_on,
        volume=volume.volume,
        working=volume.working,
    )


def _rounded(parameter: Parameter, value: float, ctx: Context, more: int = 1) -> float:
    """A value for an input field: one digit more than is shown, without the tail of a conversion."""
    unit = unit_of(parameter, ctx.keeper.units)
    return round(unit.from_canonical(value), unit.decimals + more)
