"""What a system can be set up with: presets, shapes, gear, methods, and salts to measure the volume by."""

from fastapi import APIRouter

from salttide.core.basics.phrases import phrase
from salttide.core.science.mix import sea_salt_share
from salttide.core.science.parameters import FACTS, Parameter
from salttide.core.science.units import difference_shown, unit_of
from salttide.core.system.catalogue import gear_kinds, method_questions, presets
from salttide.core.system.methods import MethodChoice
from salttide.core.system.system import Limits, Panel
from salttide.core.system.volume import MEASURES, Shape

from .context import In
from .models import BandShown, Choice, Model, band_shown, named

router = APIRouter(prefix="/api", tags=["systems"])


class BandRow(Model):
    """A parameter's band in a preset. more: not tested at home in a running system, so shown when it is asked for."""

    parameter: str
    name: str
    unit: str
    decimals: int
    more: bool
    presets: dict[str, BandShown]


class Side(Model):
    """One measure of a shape: its field, its name and its unit."""

    field: str
    name: str
    unit: str


class ShapeShown(Model):
    """A shape of display, and its measures besides the depth. deep: whether its depth is measured."""

    key: Shape
    deep: bool
    name: str
    measures: list[Side]


class MethodShown(Model):
    """One choice in a question of method: what it demands and risks, and the set-up it starts with."""

    key: str
    name: str
    line: str
    risk: str
    sets: dict[str, float]
    bands: dict[str, BandShown]


class QuestionShown(Model):
    """A question of method on which keepers differ."""

    key: str
    name: str
    choices: list[MethodShown]


class SaltShare(Model):
    """A salt on the shelf, and the grams of sea salt in a gram of it."""

    name: str
    share: float


class SetupAnswer(Model):
    """What a system can be set up with."""

    presets: list[Choice]
    bands: list[BandRow]
    gear: list[Choice]
    sand: list[Choice]
    shapes: list[ShapeShown]
    panels: list[str]
    source_water: list[Choice]
    methods: list[QuestionShown]
    salts: list[SaltShare]
    units: dict[str, str]
    limits: dict[str, float]


@router.get("/setup")
def setup(ctx: In) -> SetupAnswer:
    """Presets, shapes, gear and methods to choose from."""
    units = ctx.keeper.units
    limits = Limits()
    return SetupAnswer(
        presets=[Choice(key=key, name=preset.name) for key, preset in presets().items()],
        bands=_band_rows(ctx),
        gear=[Choice(key=kind.key, name=kind.name, remark=kind.off_why) for kind in gear_kinds().values()],
        sand=named("setup.sand", remarks=True),
        shapes=[_shape(shape) for shape in Shape],
        panels=list(Panel),
        source_water=named("setup.source", remarks=True),
        methods=[
            QuestionShown(key=key, name=one.name, choices=[_choice(ctx, choice) for choice in one.choices.values()])
            for key, one in method_questions().items()
        ],
        salts=[
            SaltShare(name=salt.name, share=float(sea_salt_share(salt.strength_g_l, salt.basis)))
            for salt in ctx.stored.salts
        ],
        units={parameter.value: unit_of(parameter, units).label for parameter in Parameter},
        limits={
            "salinity": difference_shown(Parameter.SALINITY, limits.salinity, units),
            "alkalinity": difference_shown(Parameter.ALKALINITY, limits.alkalinity_meq_l, units),
            "temperature": difference_shown(Parameter.TEMPERATURE, limits.temperature_c, units),
        },
    )


def _band_rows(ctx: In) -> list[BandRow]:
    units = ctx.keeper.units
    rows = []
    for parameter in (p for p in Parameter if p != Parameter.TDS):
        unit = unit_of(parameter, units)
        bands = {key: band_shown(parameter, preset.bands.get(parameter), units) for key, preset in presets().items()}
        rows.append(
            BandRow(
                parameter=parameter,
                name=FACTS[parameter].name,
                unit=unit.label,
                decimals=unit.decimals,
                more=not FACTS[parameter].routine,
                presets={key: band for key, band in bands.items() if band},
            )
        )
    return rows


def _shape(shape: Shape) -> ShapeShown:
    litres = shape == Shape.LITRES
    unit = "L" if litres else "cm"
    measures = [Side(field=field, name=name, unit=unit) for field, name in MEASURES[shape].items()]
    return ShapeShown(key=shape, deep=not litres, name=phrase(f"setup.shape.{shape}"), measures=measures)


def _choice(ctx: In, choice: MethodChoice) -> MethodShown:
    bands = {parameter.value: band_shown(parameter, band, ctx.keeper.units) for parameter, band in choice.bands.items()}
    return MethodShown(
        key=choice.key, name=choice.name, line=choice.line, risk=choice.risk, sets=dict(choice.sets),
        bands={key: band for key, band in bands.items() if band},
    )  # fmt: skip
