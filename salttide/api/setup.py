"""What a system can be set up with: presets, shapes, gear, schools, salts for a measured volume."""

from fastapi import APIRouter

from salttide.core.science.mix import sea_salt_share
from salttide.core.science.parameters import FACTS, Parameter
from salttide.core.science.units import difference_shown, unit_of
from salttide.core.system.catalogue import gear_kinds, presets, school_questions
from salttide.core.system.methods import MethodChoice
from salttide.core.system.system import Limits, Panel, SandMethod, SourceWater
from salttide.core.system.volume import MEASURES, Shape

from .context import In
from .models import BandShown, Choice, Model, band_shown

router = APIRouter(prefix="/api", tags=["systems"])


class BandRow(Model):
    """A parameter's band in a preset."""

    parameter: str
    name: str
    unit: str
    decimals: int
    presets: dict[str, BandShown]


class Side(Model):
    """One measure of a shape: its field and its name."""

    field: str
    name: str


class ShapeShown(Model):
    """A shape of display, and what is measured of it beside the depth."""

    key: Shape
    name: str
    measures: list[Side]


class SchoolShown(Model):
    """A choice of a school: what it asks and risks, and what it starts the set-up with."""

    key: str
    name: str
    line: str
    risk: str
    sets: dict[str, float]
    bands: dict[str, BandShown]


class QuestionShown(Model):
    """A question on which keepers differ."""

    key: str
    name: str
    choices: list[SchoolShown]


class SaltShare(Model):
    """A salt on the shelf, and the sea salt in a gram of it."""

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
    schools: list[QuestionShown]
    salts: list[SaltShare]
    units: dict[str, str]
    limits: dict[str, float]


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
SOURCE_REMARKS = {
    SourceWater.PURIFIED: ("purifier with membrane and resin", "Next to nothing in it while the resin lasts: read it."),
    SourceWater.MEMBRANE: ("purifier without resin", "Silicate and some nitrate come through; test it now and then."),
    SourceWater.DISTILLED: (
        "distilled, bought",
        "Clean; costly for changes; copper from a still must be ruled out.",
    ),
    SourceWater.TAP: (
        "tap water",
        "Brings phosphate, silicate, copper and disinfectant, different every month: it is the first suspect of every "
        "trouble.",
    ),
}
SHAPE_NAMES = {
    Shape.BOX: "box",
    Shape.BOW_FRONT: "box with a bowed front",
    Shape.CYLINDER: "cylinder",
    Shape.QUARTER_ROUND: "quarter round, for a corner",
    Shape.HEXAGON: "hexagon",
}


@router.get("/setup")
def setup(ctx: In) -> SetupAnswer:
    """Presets, shapes, gear and schools to choose from."""
    units = ctx.keeper.units
    limits = Limits()
    return SetupAnswer(
        presets=[Choice(key=key, name=preset.name) for key, preset in presets().items()],
        bands=_band_rows(ctx),
        gear=[Choice(key=kind.key, name=kind.name, remark=kind.off_why) for kind in gear_kinds().values()],
        sand=[Choice(key=key, name=name, remark=remark) for key, (name, remark) in SAND_REMARKS.items()],
        shapes=[_shape(shape) for shape in Shape],
        panels=list(Panel),
        source_water=[Choice(key=key, name=name, remark=remark) for key, (name, remark) in SOURCE_REMARKS.items()],
        schools=[
            QuestionShown(key=key, name=one.name, choices=[_choice(ctx, choice) for choice in one.choices.values()])
            for key, one in school_questions().items()
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
    return rows


def _shape(shape: Shape) -> ShapeShown:
    measures = [Side(field=field, name=name) for field, name in MEASURES[shape].items()]
    return ShapeShown(key=shape, name=SHAPE_NAMES[shape], measures=measures)


def _choice(ctx: In, choice: MethodChoice) -> SchoolShown:
    bands = {parameter.value: band_shown(parameter, band, ctx.keeper.units) for parameter, band in choice.bands.items()}
    return SchoolShown(
        key=choice.key, name=choice.name, line=choice.line, risk=choice.risk, sets=dict(choice.sets),
        bands={key: band for key, band in bands.items() if band},
    )  # fmt: skip
